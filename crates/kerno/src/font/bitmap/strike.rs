//! A bitmap font in memory.

/// A bitmap font at its one size.
pub(super) struct Strike {
    pub(super) family: String,
    pub(super) is_bold: bool,
    /// Pixels in the em.
    pub(super) pixels: u16,
    /// Pixels above and below the baseline, both usually positive.
    pub(super) ascent: i16,
    pub(super) descent: i16,
    pub(super) glyphs: Vec<StrikeGlyph>,
    /// The glyph that stands for missing ones.
    pub(super) default: Option<usize>,
}

/// One glyph of a strike.
pub(super) struct StrikeGlyph {
    pub(super) characters: Vec<char>,
    /// Pixels to the next glyph.
    pub(super) advance: u16,
    /// From the pen to the lower left corner of the bitmap, rightwards and up.
    pub(super) left: i16,
    pub(super) bottom: i16,
    pub(super) width: u16,
    pub(super) height: u16,
    /// Rows from the top, each of whole bytes, the leftmost pixel in the highest
    /// bit.
    pub(super) bits: Vec<u8>,
}

impl StrikeGlyph {
    pub(super) fn row_bytes(width: u16) -> usize {
        usize::from(width).div_ceil(8)
    }

    fn is_set(&self, x: u16, y: u16) -> bool {
        let at = usize::from(y) * Self::row_bytes(self.width) + usize::from(x / 8);
        self.bits
            .get(at)
            .is_some_and(|byte| byte & (0x80 >> (x % 8)) != 0)
    }

    /// The set pixels as rectangles (left, top, right, bottom; rows from the
    /// top): level runs, joined while the same run goes on below.
    pub(super) fn rectangles(&self) -> Vec<[u16; 4]> {
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
