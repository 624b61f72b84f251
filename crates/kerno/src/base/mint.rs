//! Conversions by `mint`, which crates for mathematics share.
//!
//! With the feature `mint`, points, offsets, sizes and transforms come from and go to the types
//! of most of them.
//!
//! ```
//! use kerno::base::Affine;
//! use kerno::{Offset, Point};
//! let place: Point = mint::Point2 { x: 12.0, y: 40.0 }.into();
//! assert_eq!(place, Point::new(12.0, 40.0));
//! let away = mint::ColumnMatrix2x3::from(Affine::translation(Offset::new(3.0, 4.0)));
//! assert_eq!(away.z, mint::Vector2 { x: 3.0, y: 4.0 });
//! ```

use ::mint::{ColumnMatrix2x3, Point2, RowMatrix2x3, Vector2};

use super::{Affine, DevicePoint, DeviceSize, Offset, Point, Size};

/// Conversions both ways between two structs of two numbers.
macro_rules! pairs {
    ($($own:ident { $a:ident, $b:ident } = $theirs:ident<$number:ty>;)*) => { $(
        impl From<$theirs<$number>> for $own {
            fn from(from: $theirs<$number>) -> Self {
                Self::new(from.x, from.y)
            }
        }

        impl From<$own> for $theirs<$number> {
            fn from(from: $own) -> Self {
                Self {
                    x: from.$a,
                    y: from.$b,
                }
            }
        }

        impl ::mint::IntoMint for $own {
            type MintType = $theirs<$number>;
        }
    )* };
}

pairs! {
    Point { x, y } = Point2<f32>;
    Offset { x, y } = Vector2<f32>;
    Size { width, height } = Vector2<f32>;
    DevicePoint { x, y } = Point2<f32>;
    DeviceSize { width, height } = Vector2<u32>;
}

impl From<ColumnMatrix2x3<f32>> for Affine {
    fn from(from: ColumnMatrix2x3<f32>) -> Self {
        let ColumnMatrix2x3 { x, y, z } = from;
        Self::new([x.x, x.y, y.x, y.y, z.x, z.y])
    }
}

impl From<Affine> for ColumnMatrix2x3<f32> {
    fn from(from: Affine) -> Self {
        let [a, b, c, d, e, f] = from.coefficients();
        [[a, b], [c, d], [e, f]].into()
    }
}

impl From<RowMatrix2x3<f32>> for Affine {
    fn from(from: RowMatrix2x3<f32>) -> Self {
        ColumnMatrix2x3::from(from).into()
    }
}

impl From<Affine> for RowMatrix2x3<f32> {
    fn from(from: Affine) -> Self {
        ColumnMatrix2x3::from(from).into()
    }
}
