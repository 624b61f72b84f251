//! Values as bytes, one after the other (`docs/pack.md`): numbers little-endian, texts
//! and lists after their length.

use crate::atlas::{PageKind, Sampling, SliceFill};
use crate::base::{Band, BandSide, Edges, Join, Treatment};
use crate::font::FaceId;

/// A value that a pack holds as bytes.
pub(crate) trait Binary: Sized {
    /// Appends the bytes of the value.
    fn write(&self, into: &mut Vec<u8>);

    /// Reads the value at the front and leaves what follows; `None` where the bytes end
    /// early or are no such value.
    fn read(from: &mut &[u8]) -> Option<Self>;
}

/// A record: its fields in the order in which they are named here.
macro_rules! binary_record {
    ($record:ident { $($field:ident),* $(,)? }) => {
        impl crate::pack::binary::Binary for $record {
            fn write(&self, into: &mut Vec<u8>) {
                $(self.$field.write(into);)*
            }

            fn read(from: &mut &[u8]) -> Option<Self> {
                $(let $field = crate::pack::binary::Binary::read(from)?;)*
                Some(Self { $($field),* })
            }
        }
    };
}
pub(crate) use binary_record;

macro_rules! binary_numbers {
    ($($number:ident),*) => {
        $(impl Binary for $number {
            fn write(&self, into: &mut Vec<u8>) {
                into.extend(self.to_le_bytes());
            }

            fn read(from: &mut &[u8]) -> Option<Self> {
                let (bytes, rest) = from.split_first_chunk()?;
                *from = rest;
                Some(Self::from_le_bytes(*bytes))
            }
        })*
    };
}
binary_numbers!(u8, u16, u32, u64, u128, i32);

/// Values of which each has a number of one byte.
macro_rules! binary_choice {
    ($choice:ident { $($variant:ident = $number:literal),* $(,)? }) => {
        impl Binary for $choice {
            fn write(&self, into: &mut Vec<u8>) {
                into.push(match self {
                    $(Self::$variant => $number),*
                });
            }

            fn read(from: &mut &[u8]) -> Option<Self> {
                match u8::read(from)? {
                    $($number => Some(Self::$variant),)*
                    _ => None,
                }
            }
        }
    };
}
binary_choice!(PageKind { Mask = 0, Color = 1 });
binary_choice!(Edges { Smooth = 0, Hard = 1, GridFitted = 2, DistanceField = 3, MultiChannelField = 4 });
binary_choice!(BandSide {
    Outside = 0,
    Centered = 1,
    Inside = 2
});
binary_choice!(Join {
    Miter = 0,
    Round = 1,
    Bevel = 2
});
binary_choice!(Sampling { Smooth = 0, Nearest = 1 });
binary_choice!(SliceFill { Stretch = 0, Tile = 1 });

impl Binary for bool {
    fn write(&self, into: &mut Vec<u8>) {
        u8::from(*self).write(into);
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        let byte = u8::read(from)?;
        (byte <= 1).then_some(byte == 1)
    }
}

impl Binary for f32 {
    fn write(&self, into: &mut Vec<u8>) {
        self.to_bits().write(into);
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        Some(Self::from_bits(u32::read(from)?)).filter(|number| number.is_finite())
    }
}

impl Binary for usize {
    fn write(&self, into: &mut Vec<u8>) {
        (*self as u64).write(into);
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        Self::try_from(u64::read(from)?).ok()
    }
}

impl Binary for String {
    fn write(&self, into: &mut Vec<u8>) {
        self.len().write(into);
        into.extend(self.as_bytes());
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        let length = usize::read(from)?;
        let (text, rest) = from.split_at_checked(length)?;
        *from = rest;
        Some(str::from_utf8(text).ok()?.to_owned())
    }
}

impl<T: Binary> Binary for Vec<T> {
    fn write(&self, into: &mut Vec<u8>) {
        self.len().write(into);
        for item in self {
            item.write(into);
        }
    }

    /// Every item has a byte at least, so a length that is a lie ends with the bytes.
    fn read(from: &mut &[u8]) -> Option<Self> {
        let length = usize::read(from)?;
        (0..length).map(|_| T::read(from)).collect()
    }
}

impl<T: Binary> Binary for Option<T> {
    fn write(&self, into: &mut Vec<u8>) {
        self.is_some().write(into);
        if let Some(value) = self {
            value.write(into);
        }
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        if bool::read(from)? {
            T::read(from).map(Some)
        } else {
            Some(None)
        }
    }
}

impl<T: Binary + Copy + Default, const N: usize> Binary for [T; N] {
    fn write(&self, into: &mut Vec<u8>) {
        for item in self {
            item.write(into);
        }
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        let mut items = [T::default(); N];
        for item in &mut items {
            *item = T::read(from)?;
        }
        Some(items)
    }
}

impl Binary for FaceId {
    fn write(&self, into: &mut Vec<u8>) {
        self.0.write(into);
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        u128::read(from).map(Self)
    }
}

binary_record!(Band { width, side });

impl Binary for Treatment {
    fn write(&self, into: &mut Vec<u8>) {
        self.edges.write(into);
        self.in_color.write(into);
        if self.edges.is_field() {
            self.range.write(into);
        }
        self.outset.write(into);
        self.band.write(into);
        self.join.write(into);
        self.blur.write(into);
    }

    fn read(from: &mut &[u8]) -> Option<Self> {
        let edges = Edges::read(from)?;
        let mut treatment = Self::from(edges);
        treatment.in_color = bool::read(from)?;
        if edges.is_field() {
            treatment = treatment.with_range(u8::read(from)?);
        }
        treatment.outset = i32::read(from)?;
        treatment.band = Option::read(from)?;
        treatment.join = Join::read(from)?;
        treatment.blur = u32::read(from)?;
        treatment.key().map(|_| treatment)
    }
}
