//! From the size that a HUD was designed for to the window it is shown in.
//!
//! What goes in: a design size, a window size, and how the one fits the other; elements, the
//! game's values and the texts of a language. What comes out: a [`Viewport`], which places
//! things by anchors and hands `draw` the [`Mapping`](crate::base::Mapping) to device pixels,
//! and a screen that draws itself into a frame.

#[cfg(feature = "screens")]
mod building;
#[cfg(feature = "screens")]
mod check;
#[cfg(feature = "screens")]
mod description;
#[cfg(feature = "screens")]
mod element;
#[cfg(feature = "screens")]
mod error;
#[cfg(feature = "screens")]
mod file;
#[cfg(feature = "screens")]
mod flow;
#[cfg(feature = "screens")]
mod node;
#[cfg(feature = "screens")]
mod paint;
#[cfg(feature = "screens")]
#[expect(
    clippy::module_inception,
    reason = "the room is named after its main type"
)]
mod screen;
#[cfg(feature = "screens")]
mod strings;
#[cfg(feature = "screens")]
mod template;
#[cfg(feature = "screens")]
mod text_body;
#[cfg(feature = "screens")]
mod value;
mod viewport;

#[cfg(feature = "screens")]
pub use check::{CheckOptions, Finding, FindingCase, FindingKind};
#[cfg(feature = "screens")]
pub use description::{AllowedFinding, ScreenDescription, ValueDeclaration};
#[cfg(feature = "screens")]
pub use element::{
    Align, Arrangement, Content, Element, Gauge, GaugeFill, GaugeSide, IconRow, Justify, Length,
    SpriteContent, TextContent, TextSource, Visibility,
};
#[cfg(feature = "screens")]
pub use error::ScreenError;
#[cfg(feature = "screens")]
pub use screen::Screen;
#[cfg(feature = "screens")]
pub use strings::StringTables;
#[cfg(feature = "screens")]
pub use value::Value;
pub use viewport::{Fit, Viewport, ViewportError};
