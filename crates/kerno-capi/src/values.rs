//! Small values.

use kerno::{Anchor, Color, Offset, Point, Rect, Size};

/// A place or an offset, in design pixels, y down.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoPoint {
    /// Rightwards.
    pub x: f32,
    /// Downwards.
    pub y: f32,
}

/// A size in design pixels.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoSize {
    /// Across.
    pub width: f32,
    /// Down.
    pub height: f32,
}

/// A rectangle in design pixels, half-open.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoRect {
    /// Left edge.
    pub x: f32,
    /// Top edge.
    pub y: f32,
    /// Across.
    pub width: f32,
    /// Down.
    pub height: f32,
}

/// A colour: 8-bit sRGB, straight alpha.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct KernoColor {
    /// Red.
    pub red: u8,
    /// Green.
    pub green: u8,
    /// Blue.
    pub blue: u8,
    /// Alpha: 0 is clear, 255 opaque.
    pub alpha: u8,
}

/// Conversions to values of the library by a constructor, and from them field by field.
macro_rules! conversions {
    ($($own:ident { $($field:ident),* } = $theirs:ident::$make:ident;)*) => { $(
        impl From<$own> for $theirs {
            fn from(from: $own) -> Self {
                Self::$make($(from.$field),*)
            }
        }

        impl From<$theirs> for $own {
            fn from(from: $theirs) -> Self {
                Self { $($field: from.$field),* }
            }
        }
    )* };
}

conversions! {
    KernoPoint { x, y } = Point::new;
    KernoPoint { x, y } = Offset::new;
    // A point of a box: 0, 0 its top left corner, 1, 1 its bottom right one.
    KernoPoint { x, y } = Anchor::new;
    KernoSize { width, height } = Size::new;
    KernoRect { x, y, width, height } = Rect::new;
    KernoColor { red, green, blue, alpha } = Color::rgba;
}
