//! Kerno puts text and interface pictures on a game's screen: it reads fonts,
//! packs glyphs and sprites onto atlas pages, measures and aligns text, and
//! hands back quads that any renderer draws in one call, at any resolution.
//!
//! The way of the data, and the rooms it passes:
//!
//! ```text
//!  font bytes ─► font ─► raster ─┐
//!                Face    pictures├─► atlas ──────────┐
//!  sprite PNG ───────────────────┘   pages, slots    ▼
//!  string ─────► text ──► screen ─────────────► draw: Frame ─► Canvas
//!  + style    TextLayout  Viewport
//!                └──────► dialogue: what of it is visible at time t
//! ```
//!
//! Lengths are design pixels, y down; only [`Mapping`] leads to device pixels.
//! Nothing is current and nothing is global: styles, viewports and atlases are
//! values that the caller holds and passes.
//!
//! A score that stays in the top right corner and grows to the left:
//!
//! ```no_run
//! use kerno::{Anchor, Atlas, Canvas, DeviceSize, DrawText, Face, Fit, FrameBuilder, Offset,
//!     Size, Style, TextLayout, Viewport};
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

#![forbid(unsafe_code)]

mod atlas;
mod bake;
mod base;
mod dialogue;
mod draw;
mod font;
mod raster;
mod screen;
mod text;

pub use atlas::{
    Animation, Atlas, AtlasError, AtlasOptions, AtlasStatistics, Packed, Packing, PackingOptions,
    Page, PageKind, Sampling, Skyline, SliceFill, Slot, SpriteId, SpriteOptions, TexelRect,
};
pub use bake::{
    Bake, BakeError, CharsetUse, Fingerprint, FontUse, JsonFiles, Manifest, NamedSlot, OutputForm,
    Pack, PackError, PageUse, PictureUse, Report,
};
pub use base::{
    Affine, Anchor, Color, ColorError, DevicePoint, DeviceRect, DeviceSize, Edges, Image,
    ImageError, Insets, Limits, Mapping, Offset, Point, Rect, SharedBytes, Size, Treatment,
    full_message,
};
pub use dialogue::{Pace, PaceError, Reveal};
pub use draw::{
    Batch, Canvas, DrawSprite, DrawText, Frame, FrameBuilder, PlacedRequest, RectStyle, Scope,
    Shade, ShadeKind, TEXEL_UNITS, Vertex,
};
pub use font::{
    Axis, Decoration, Face, FaceId, FaceNote, FaceQuery, FontBounds, FontError, GlyphId,
    GlyphPicture, InstalledFace, InstalledFonts, LookupError, Metrics, NameId, NamedInstance,
    Outline, OutlinePoint, Segment, Slant, Synthesis, TableFault, TableRecord, Tag,
};
pub use raster::{Coverage, GlyphRequest, Placement, RasterError, Rasterizer, Strike, Subpixel};
pub use screen::{Fit, Viewport, ViewportError};
pub use text::{
    Caret, Cluster, DecorationLine, Direction, Effect, EffectLayer, Fill, InlineSprite,
    LayoutContext, LayoutOptions, LetterOutline, Line, LineBreak, LineHeight, Mark, Markup,
    MarkupError, NumberError, NumberFormat, NumberOptions, NumberSign, Overflow, OverflowWrap,
    PlacedGlyph, Plate, Resized, Span, SpriteAlign, Style, StyleChange, StyleFile, StyleFileError,
    StyledText, TextAlign, TextError, TextLayout, VerticalAlign, WhiteSpace, WordBreak, Wrap,
};

/// The examples of the README, which have to compile.
#[cfg(doctest)]
#[doc = include_str!("../../../README.md")]
struct Readme;
