//! From the size that a HUD was designed for to the window it is shown in.
//!
//! In: a design size, a window size, and how the one fits the other; elements, the
//! game's values and the texts of a language. Out: a [`Viewport`], which places
//! things by anchors and hands `draw` the [`Mapping`](crate::base::Mapping) to device pixels,
//! and a screen that draws itself into a frame.

#[cfg(feature = "screens")]
mod binding;
#[cfg(feature = "screens")]
mod building;
mod camera;
#[cfg(feature = "screens")]
mod check;
#[cfg(feature = "screens")]
mod description;
#[cfg(feature = "screens")]
mod dialogue;
mod easing;
#[cfg(feature = "screens")]
mod element;
#[cfg(feature = "screens")]
mod error;
#[cfg(feature = "screens")]
mod file;
#[cfg(feature = "screens")]
mod flow;
mod focus;
mod frame_rate;
mod frame_times;
mod motion;
#[cfg(feature = "screens")]
mod node;
#[cfg(feature = "screens")]
mod paint;
#[cfg(feature = "screens")]
mod query;
#[cfg(feature = "screens")]
mod rolling;
#[cfg(feature = "screens")]
#[expect(
    clippy::module_inception,
    reason = "the room is named after its main type"
)]
mod screen;
#[cfg(feature = "screens")]
mod text_body;
mod viewport;

pub use camera::{Camera, Follow, LabelPlace};
#[cfg(feature = "screens")]
pub use check::{CheckOptions, Finding, FindingCase, FindingKind};
#[cfg(feature = "screens")]
pub use description::{AllowedFinding, ScreenDescription};
pub use easing::Easing;
#[cfg(feature = "screens")]
pub use element::{
    Align, Arrangement, Content, Element, Gauge, GaugeFill, GaugeSide, IconRow, Justify, Length,
    SpriteContent, TextContent, Visibility, WorldPlace,
};
#[cfg(feature = "screens")]
pub use error::ScreenError;
#[cfg(feature = "schemas")]
pub(crate) use file::file_schema;
pub use focus::{FocusDirection, next_focus};
pub use frame_rate::FrameRate;
pub use frame_times::FrameTimes;
pub use motion::{Motion, MotionKind, Pose};
#[cfg(feature = "screens")]
pub use screen::Screen;
pub use viewport::{Fit, Viewport, ViewportError};
