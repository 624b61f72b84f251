//! The picture of a shape in one colour.

/// Coverage of each pixel by a shape, 0 to 255, and the place of the picture
/// about the pen: row by row, no padding.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Coverage {
    /// From the pen to the picture's left edge, in device pixels, rightwards.
    pub left: i32,
    /// From the baseline to the picture's top edge, in device pixels,
    /// **downwards**: negative for a letter that stands on the baseline.
    pub top: i32,
    /// Width in pixels; 0 for a glyph without ink.
    pub width: u32,
    /// Height in pixels; 0 for a glyph without ink.
    pub height: u32,
    /// Bytes of a pixel: 1, or 4 of a multi-channel distance field: red, green, blue, of which
    /// the middle one is the distance with corners, and the distance itself.
    pub channels: u8,
    /// The pixels, `width * height * channels` bytes.
    pub texels: Vec<u8>,
    /// Device pixels that each of them is wide and high: 1, or more where the picture is so
    /// soft that fewer do; the other lengths are in pixels of the picture.
    pub reduction: u32,
    /// True if the outline asks for more work than any letter of its size: it is damaged, or was
    /// made to take long, and the picture is coarser than it would be.
    pub is_coarse: bool,
}

impl Coverage {
    /// The coverage of a pixel, counted from the pen; 0 beyond the picture.
    pub(super) fn at(&self, x: i32, y: i32) -> u8 {
        let (x, y) = (x - self.left, y - self.top);
        let is_inside = x >= 0 && y >= 0 && x < self.width as i32 && y < self.height as i32;
        match is_inside {
            true => self.texels[y as usize * self.width as usize + x as usize],
            false => 0,
        }
    }

    /// Makes this the empty picture, keeping its memory.
    pub(super) fn clear(&mut self) {
        self.left = 0;
        self.top = 0;
        self.width = 0;
        self.height = 0;
        self.texels.clear();
        self.channels = 1;
        self.reduction = 1;
        self.is_coarse = false;
    }

    /// Returns whether there is nothing to draw.
    pub fn is_empty(&self) -> bool {
        self.texels.is_empty()
    }
}
