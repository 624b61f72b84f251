//! Kerno puts text and interface pictures on a game's screen: it reads fonts,
//! packs glyphs and sprites onto atlas pages, measures and aligns text, and
//! hands back quads that any renderer draws in one call, at any resolution.
//!
//! A score that stays in the top right corner and grows to the left:
//!
//! ```no_run
//! use kerno::{Anchor, Atlas, Canvas, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset};
//! use kerno::{Size, Style, TextLayout, Viewport};
//! # fn main() -> Result<(), Box<dyn std::error::Error>> {
//! let face = Face::from_file("fonts/Lato-Medium.ttf")?;
//! let window = DeviceSize::new(1280, 720);
//! let view = Viewport::new(Size::new(640.0, 360.0), window, Fit::Contain)?;
//! let score = TextLayout::new("Fares 1,250", &Style::new(&face, 20.0))?;
//! let mut atlas = Atlas::default();
//! let mut builder = FrameBuilder::new();
//! let mut frame = builder.begin(&mut atlas, view.mapping());
//! let corner = view.place(Anchor::TOP_RIGHT, Offset::new(-12.0, 12.0));
//! frame.text(&score, DrawText::at(corner, Anchor::TOP_RIGHT))?;
//! let mut canvas = Canvas::new(window);
//! canvas.draw(builder.finish(), &atlas);
//! canvas.to_image().write_png_file("score.png")?;
//! # Ok(())
//! # }
//! ```
//!
//! # The types of that program, in the order in which one meets them
//!
//! 1. [`Face`]: a font in one style; a handle, cheap to clone.
//! 2. [`Viewport`]: a design size in a window; [`Anchor`]s and [`Offset`]s lead to its corners.
//! 3. [`Style`]: the look of a text, a value that is passed. Nothing is current.
//! 4. [`TextLayout`]: a text with the place of every glyph and every measure of it, before
//!    anything is drawn.
//! 5. [`Atlas`]: pictures of glyphs and sprites on texture pages, made when first asked for.
//! 6. [`FrameBuilder`]: gathers a frame in nested [scopes](draw::Scope); a warm one allocates
//!    nothing.
//! 7. [`Canvas`]: draws frames in memory. An engine draws the [frame](draw::Frame) itself.
//! 8. [`Pack`]: fonts and an atlas that were baked ahead of time.
//!
//! The guide in `docs/guide` goes the whole way, from a font to a shipped HUD, in programs that
//! run.
//!
//! # By task
//!
//! - Measure, wrap and align text: [`TextLayout`], [`text::LayoutOptions`], [`text::Span`].
//! - Change it without taking memory: [`text::LayoutContext`].
//! - Names for styles and sprites in a string: [`markup::Markup`], [`markup::StyleFile`];
//!   numbers as a language writes them: [`markup::NumberFormat`].
//! - Outlines and other layers of a letter's look: [`text::Effect`].
//! - Sprites, panels, shapes, turned and fading groups: [`draw::Scope`].
//! - A HUD from a file, bound to values, in any window and language: `screen::Screen` (feature
//!   `screens`).
//! - Typewriter dialogue: [`dialogue::Timetable`]; whole conversations: `dialogue::ScenePlayer`
//!   (feature `screens`).
//! - Bake fonts and sprites ahead of time: [`bake::Manifest`].
//! - A renderer of one's own: [`draw::Vertex`], [`atlas::Page`], [`raster::GlyphRequest`].
//! - Mathematics of one's own engine: the feature `mint`; a profile of what takes time: the
//!   feature `tracing`.
//! - Fonts of the system: [`installed::InstalledFonts`]; a pixel font to touch up by hand:
//!   [`convert::Strike`].
//!
//! # The way of the data
//!
//! Each room is a module; it uses the rooms upstream of it and none downstream.
//!
//! ```text
//!  font bytes ─► font ─► outline ─► raster ─┐
//!                Face               pictures├─► atlas ──────┐
//!  sprite PNG ──────────────────────────────┘   pages, slots▼
//!  string ─► markup ─► text ──► screen ───────────────► draw: Frame ─► Canvas
//!  + style   spans     TextLayout  Viewport
//!                       └─────► dialogue: what of it is visible at time t
//! ```
//!
//! Lengths are design pixels, y down; only a [`Mapping`](base::Mapping) leads to device
//! pixels. Nothing is current and nothing is global: styles, viewports and atlases are
//! values that the caller holds and passes.

#![forbid(unsafe_code)]
// Some helpers serve the bake and the readers of files alone.
#![cfg_attr(
    not(feature = "bake"),
    allow(dead_code, unused_imports, reason = "what only the bake uses")
)]

pub mod atlas;
#[cfg(feature = "bake")]
pub mod bake;
pub mod base;
#[cfg(feature = "bake")]
pub mod convert;
pub mod dialogue;
pub mod draw;
pub mod font;
#[cfg(feature = "installed-fonts")]
pub mod installed;
pub mod markup;
pub mod outline;
pub mod pack;
pub mod raster;
#[cfg(feature = "schemas")]
pub mod schemas;
pub mod screen;
pub mod text;

/// Vertices and indices as bytes, for a buffer of a GPU: `bytemuck::cast_slice(frame.vertices)`.
pub use bytemuck;

pub use atlas::Atlas;
pub use base::{Anchor, Color, DeviceSize, Offset, Point, Rect, Size};
pub use draw::{Canvas, DrawText, FrameBuilder};
pub use font::Face;
pub use pack::Pack;
pub use screen::{Fit, Viewport};
pub use text::{Style, TextLayout};

/// The examples of the README, which have to compile.
#[cfg(doctest)]
#[doc = include_str!("../README.md")]
struct Readme;

/// The programs of the guide, which have to run.
#[cfg(all(doctest, feature = "bake", feature = "screens"))]
mod guide {
    macro_rules! pages {
        ($($name:ident: $page:literal),* $(,)?) => {
            $(#[doc = include_str!(concat!("../docs/guide/", $page))] struct $name;)*
        };
    }
    pages! {
        Start: "start.md",
        Fonts: "fonts.md",
        AtlasPages: "atlas.md",
        Text: "text.md",
        Draw: "draw.md",
        Hud: "hud.md",
        Dialogue: "dialogue.md",
        Ship: "ship.md",
        Embed: "embed.md",
        Recipes: "recipes.md",
    }
}
