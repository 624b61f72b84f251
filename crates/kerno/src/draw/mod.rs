//! Laid-out texts and sprites → quads, and quads → pixels.
//!
//! In: layouts, sprites and shapes with places, said in nested scopes. Out:
//! a [`Frame`], plain vertices and indices in painter's order that one draw call
//! shows; [`Canvas`] draws it on the CPU.
//!
//! A drawing call lays quads out in pixels of its own (`space`), upright; they are cut
//! there, turned, cut by the scope (`clip`) and gathered (`gathered`).

mod arrange;
mod blend;
mod builder;
mod canvas;
mod clip;
mod draw_text;
mod frame;
mod gathered;
mod group;
mod paint;
mod panel;
mod polygon;
mod quad;
mod recall;
#[cfg(feature = "screens")]
mod replace;
mod request;
mod ring;
mod scope;
mod shadow;
mod shapes;
mod space;
mod sprite;
mod state;
mod text;
mod text_record;
mod vertex;

pub use blend::Blending;
pub use builder::FrameBuilder;
pub use canvas::Canvas;
pub use draw_text::DrawText;
pub use frame::{Batch, Frame, Pass};
#[cfg(feature = "screens")]
pub(crate) use replace::TextPlace;
pub use request::PlacedRequest;
pub use scope::Scope;
pub use shadow::BoxShadow;
pub use shapes::RectStyle;
pub use sprite::DrawSprite;

pub use vertex::{Shade, ShadeKind, TEXEL_UNITS, VEIL_UNITS, Vertex, WEIGHT_UNITS};
