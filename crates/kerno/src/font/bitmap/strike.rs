//! A bitmap font in memory.

/// A bitmap font at its one size.
pub(in crate::font) struct Strike {
    pub(in crate::font) family: String,
    pub(in crate::font) is_bold: bool,
    /// True if nobody knows what its codes stand for.
    pub(in crate::font) is_private: bool,
    /// Pixels in the em.
    pub(in crate::font) pixels: u16,
    /// Pixels above and below the baseline, both usually positive.
    pub(in crate::font) ascent: i16,
    pub(in crate::font) descent: i16,
    /// Pixels between lines besides.
    pub(in crate::font) line_gap: u16,
    pub(in crate::font) glyphs: Vec<StrikeGlyph>,
    pub(in crate::font) missing: Missing,
}

/// The stand-in for characters that a strike lacks.
#[derive(Clone, Copy, PartialEq)]
pub(in crate::font) enum Missing {
    /// A box, made up: the font names no glyph.
    Box,
    /// The same as this glyph.
    Same(usize),
    /// The first glyph, which stands for nothing else, as in OpenType fonts.
    First,
}

/// One glyph of a strike.
pub(in crate::font) struct StrikeGlyph {
    pub(in crate::font) characters: Vec<char>,
    /// Pixels to the next glyph.
    pub(in crate::font) advance: u16,
    /// From the pen to the lower left corner of the bitmap, rightwards and up.
    pub(in crate::font) left: i16,
    pub(in crate::font) bottom: i16,
    pub(in crate::font) width: u16,
    pub(in crate::font) height: u16,
    /// Rows from the top, each of whole bytes, the leftmost pixel in the highest
    /// bit.
    pub(in crate::font) bits: Vec<u8>,
    /// The ink of each pixel, a byte each, where it is not all or nothing;
    /// empty where it is.
    pub(in crate::font) levels: Vec<u8>,
}

impl StrikeGlyph {
    /// A glyph without ink or a character of its own.
    pub(in crate::font) fn blank(advance: u16) -> Self {
        Self {
            characters: Vec::new(),
            advance,
            left: 0,
            bottom: 0,
            width: 0,
            height: 0,
            bits: Vec::new(),
            levels: Vec::new(),
        }
    }

    pub(in crate::font) fn row_bytes(width: u16) -> usize {
        usize::from(width).div_ceil(8)
    }

    /// Adds ink to a pixel, where it lies in the bitmap.
    pub(in crate::font) fn add(&mut self, x: i32, y: i32, level: u8) {
        if level > 0 {
            self.set(x, y);
        }
        let (Ok(x), Ok(y)) = (usize::try_from(x), usize::try_from(y)) else {
            return;
        };
        let at = y * usize::from(self.width) + x;
        if x < usize::from(self.width)
            && let Some(own) = self.levels.get_mut(at)
        {
            *own = level.max(*own);
        }
    }

    /// The ink of a pixel.
    pub(in crate::font) fn level(&self, x: u16, y: u16) -> u8 {
        let at = usize::from(y) * usize::from(self.width) + usize::from(x);
        match self.levels.get(at) {
            Some(level) => *level,
            None => 255 * u8::from(self.is_set(x, y)),
        }
    }

    /// Sets a pixel, where it lies in the bitmap.
    pub(in crate::font) fn set(&mut self, x: i32, y: i32) {
        let (Ok(x), Ok(y)) = (u16::try_from(x), u16::try_from(y)) else {
            return;
        };
        if x < self.width && y < self.height {
            let at = usize::from(y) * Self::row_bytes(self.width) + usize::from(x / 8);
            self.bits[at] |= 0x80 >> (x % 8);
        }
    }

    pub(in crate::font) fn is_set(&self, x: u16, y: u16) -> bool {
        let at = usize::from(y) * Self::row_bytes(self.width) + usize::from(x / 8);
        self.bits
            .get(at)
            .is_some_and(|byte| byte & (0x80 >> (x % 8)) != 0)
    }

    /// The set pixels as rectangles (left, top, right, bottom; rows from the
    /// top): level runs, joined while the same run goes on below.
    pub(in crate::font) fn rectangles(&self) -> Vec<[u16; 4]> {
        let mut done = Vec::new();
        let mut open: Vec<[u16; 4]> = Vec::new();
        for y in 0..self.height {
            let runs = self.runs(y);
            let (going_on, ended): (Vec<_>, Vec<_>) = open
                .drain(..)
                .partition(|run| runs.contains(&(run[0], run[2])));
            done.extend(ended);
            open.extend(runs.into_iter().map(|(left, right)| {
                let above = going_on
                    .iter()
                    .find(|run| (run[0], run[2]) == (left, right));
                [left, above.map_or(y, |run| run[1]), right, y + 1]
            }));
        }
        done.extend(open);
        done
    }

    /// The runs of set pixels in a row: first, and one past the last.
    fn runs(&self, y: u16) -> Vec<(u16, u16)> {
        let mut runs = Vec::new();
        let mut start = None;
        for x in 0..=self.width {
            match (x < self.width && self.is_set(x, y), start) {
                (true, None) => start = Some(x),
                (false, Some(from)) => {
                    runs.push((from, x));
                    start = None;
                }
                _ => {}
            }
        }
        runs
    }
}
