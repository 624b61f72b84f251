//! Pictures of glyphs at the sizes that a font has: `CBDT` with `CBLC`, and `sbix`.

use crate::font::bitmap::{ColorBitmaps, PlacedPng};
use crate::font::table::Table;
use crate::font::tables::Directory;
use crate::font::{FontError, GlyphId};

/// The places of the pictures of a font.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(in crate::font) enum ColorStrikes {
    /// `CBDT`, and `CBLC` that says where in it.
    Bitmaps,
    /// `sbix`.
    Graphics,
}

/// The picture of a glyph, as it is in the font.
#[derive(Clone, Copy, Debug)]
pub(crate) struct StrikePicture<'a> {
    /// Pixels per em that it is made for.
    pub(crate) size: u16,
    /// From the pen to its left edge, in its pixels.
    pub(crate) left: i16,
    /// From the baseline up to its upper edge, or to its lower one.
    pub(crate) up: i16,
    /// True if that is the upper one.
    pub(crate) is_top: bool,
    pub(crate) png: &'a [u8],
}

/// The most glyphs that may stand for each other (`dupe`).
const MOST_STEPS: usize = 8;

impl ColorStrikes {
    pub(in crate::font) fn find(directory: &Directory, bytes: &[u8]) -> Option<Self> {
        let has = |tag| {
            directory
                .range(bytes, tag)
                .is_some_and(|range| !range.is_empty())
        };
        if has(b"sbix") {
            return Some(Self::Graphics);
        }
        (has(b"CBDT") && has(b"CBLC")).then_some(Self::Bitmaps)
    }

    /// Pixels per em of the strikes, in the order of the font.
    pub(in crate::font) fn sizes(
        self,
        directory: &Directory,
        bytes: &[u8],
    ) -> Result<Vec<u16>, FontError> {
        match self {
            Self::Bitmaps => match ColorBitmaps::find(directory, bytes)? {
                Some(bitmaps) => bitmaps.sizes(),
                None => Ok(Vec::new()),
            },
            Self::Graphics => {
                let Some(table) = directory.table(bytes, b"sbix") else {
                    return Ok(Vec::new());
                };
                let strikes = strikes(&table)?;
                strikes.iter().map(|strike| strike.u16(0)).collect()
            }
        }
    }

    /// The picture of a glyph at the smallest size that is as large as one, else at the
    /// largest.
    pub(in crate::font) fn picture<'a>(
        self,
        directory: &Directory,
        bytes: &'a [u8],
        glyph: GlyphId,
        size: f32,
    ) -> Result<Option<StrikePicture<'a>>, FontError> {
        let sizes = self.sizes(directory, bytes)?;
        let mut order: Vec<usize> = (0..sizes.len()).collect();
        // Those that are large enough first, from the smallest one on.
        order.sort_by_key(|strike| match f32::from(sizes[*strike]) >= size {
            true => (0, i32::from(sizes[*strike])),
            false => (1, -i32::from(sizes[*strike])),
        });
        for strike in order {
            let found = match self {
                Self::Bitmaps => match ColorBitmaps::find(directory, bytes)? {
                    Some(bitmaps) => bitmaps.png(strike, glyph)?,
                    None => None,
                },
                Self::Graphics => match directory.table(bytes, b"sbix") {
                    Some(table) => graphic(&strikes(&table)?[strike], glyph)?,
                    None => None,
                },
            };
            if let Some((left, up, png)) = found {
                return Ok(Some(StrikePicture {
                    size: sizes[strike].max(1),
                    left,
                    up,
                    is_top: self == Self::Bitmaps,
                    png,
                }));
            }
        }
        Ok(None)
    }
}

/// The strikes of `sbix`.
fn strikes<'a>(sbix: &Table<'a>) -> Result<Vec<Table<'a>>, FontError> {
    let count = sbix.u32(4)? as usize;
    sbix.slice(8, count.saturating_mul(4))?;
    (0..count)
        .map(|strike| sbix.from(sbix.u32(8 + strike * 4)? as usize))
        .collect()
}

/// The PNG of a glyph in a strike of `sbix`, with the place of its lower left corner.
fn graphic<'a>(strike: &Table<'a>, glyph: GlyphId) -> Result<Option<PlacedPng<'a>>, FontError> {
    let mut glyph = usize::from(glyph.0);
    for _ in 0..MOST_STEPS {
        let at = 4 + glyph * 4;
        let (Ok(start), Ok(end)) = (strike.u32(at), strike.u32(at + 4)) else {
            return Ok(None);
        };
        if end <= start {
            return Ok(None);
        }
        let start = start as usize;
        let data = strike.slice(start, end as usize - start)?;
        let place = (strike.i16(start)?, strike.i16(start + 2)?);
        match data.get(4..8) {
            Some(b"png ") => return Ok(Some((place.0, place.1, &data[8..]))),
            Some(b"dupe") => glyph = strike.u16(start + 8)?.into(),
            _ => return Ok(None),
        }
    }
    Ok(None)
}
