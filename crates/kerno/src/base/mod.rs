//! The values every room speaks in: points and rectangles, colours, caps.
//!
//! Nothing here knows of fonts, pages or screens. Design pixels and device
//! pixels have types of their own, and only a [`Mapping`] leads from one to
//! the other.

mod affine;
mod bytes;
mod color;
mod corners;
mod device;
mod edges;
#[cfg(feature = "files")]
mod file_error;
mod file_reader;
mod files;
mod geometry;
mod image;
mod limits;
mod message;
#[cfg(feature = "mint")]
mod mint;
mod named_colors;
mod nearest;
#[cfg(feature = "png")]
mod png_file;
mod printable;
#[cfg(feature = "files")]
mod records;
pub(crate) mod rows;
mod setters;
#[cfg(feature = "files")]
mod spanned;
mod spans;
mod stamp;
#[cfg(feature = "files")]
mod toml_text;
mod treatment;

pub use affine::Affine;
pub use bytes::SharedBytes;
pub use color::Color;
#[cfg(feature = "css-colors")]
pub use color::ColorError;
pub(crate) use color::straight;
pub use corners::Corners;
pub use device::{DevicePoint, DeviceRect, DeviceSize, Mapping};
pub use edges::Edges;
#[cfg(feature = "files")]
pub use file_error::FileError;
pub use file_reader::FileReader;
use files::{read_file, read_text};
pub use geometry::{Anchor, Insets, Offset, Point, Rect, Size};
pub use image::{Image, ImageError};
pub use limits::Limits;
pub(crate) use message::debug_in_full;
pub use message::full_message;
#[cfg(feature = "screens")]
pub(crate) use nearest::hint;
pub(crate) use nearest::nearest;
pub use printable::{printable, printable_lines};
#[cfg(feature = "files")]
pub(crate) use records::{BandSideRecord, EdgesRecord, JoinRecord};
pub(crate) use setters::setters;
#[cfg(feature = "files")]
pub(crate) use spanned::Spanned;
pub(crate) use spans::{OpenSpan, span};
pub(crate) use stamp::Stamp;
#[cfg(feature = "screens")]
pub(crate) use toml_text::LineIndex;
#[cfg(feature = "files")]
pub(crate) use toml_text::{TomlFault, line_of, parse};
pub use treatment::{Band, BandSide, Join, Treatment};
