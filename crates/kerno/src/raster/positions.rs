//! The number of subpixel positions that glyphs are kept in.

/// The number of positions between two pixels that smooth glyphs are kept in: all of them
/// at text sizes, fewer for larger letters, which stand evenly all the same.
///
/// ```
/// use kerno::raster::SubpixelPositions;
/// let usual = SubpixelPositions::default();
/// assert_eq!([14.0, 24.0, 68.0].map(|size| usual.at(size)), [4, 2, 1]);
/// assert_eq!(SubpixelPositions::always(4).at(68.0), 4);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct SubpixelPositions {
    /// The number at text sizes, 1 to 16.
    pub count: u8,
    /// The size, in device pixels per em, that text sizes end at: from there on half as many
    /// positions are kept, from 1.6 times it on one. With four positions and 20 px a letter
    /// is at most 1/8 pixel off its place below 20 px, and at most 1/64 em above.
    pub text_sizes: f32,
}

impl SubpixelPositions {
    /// A number of positions, 1 to 16, at text sizes.
    pub const fn new(count: u8) -> Self {
        Self {
            count,
            text_sizes: 20.0,
        }
    }

    /// As many positions at every size.
    pub const fn always(count: u8) -> Self {
        Self {
            count,
            text_sizes: f32::MAX,
        }
    }

    /// The number at a size in device pixels per em.
    pub fn at(&self, size: f32) -> u8 {
        let count = if size < self.text_sizes {
            self.count
        } else if size < self.text_sizes * 1.6 {
            self.count / 2
        } else {
            1
        };
        count.max(1)
    }

    /// Returns whether its numbers are in range.
    pub(crate) fn is_sound(&self) -> bool {
        (1..=16).contains(&self.count) && self.text_sizes >= 0.0
    }
}

impl Default for SubpixelPositions {
    /// Four up to 20 px.
    fn default() -> Self {
        Self::new(4)
    }
}

impl From<u8> for SubpixelPositions {
    fn from(count: u8) -> Self {
        Self::new(count)
    }
}
