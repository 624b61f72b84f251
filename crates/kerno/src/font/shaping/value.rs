//! Movements of glyphs, and the additions of the axes of a font to them.

use super::row::RowGlyph;
use crate::font::table::word;
use crate::font::tables::ItemVariations;

/// Bytes in a `ValueRecord` of a format.
pub(super) fn value_size(format: u16) -> usize {
    (format & 0x00ff).count_ones() as usize * 2
}

/// The source of the axes' additions to a number: the font with its variations.
pub(super) type Varied<'a> = (&'a [u8], Option<&'a ItemVariations>);

/// A `ValueRecord`, in font units: how far a glyph moves and how much more room it
/// takes.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Value {
    pub(super) x: i32,
    pub(super) y: i32,
    pub(super) advance: i32,
}

impl Value {
    /// Reads a record (OpenType `GPOS`, “Value Record”) whose tables for devices count
    /// from `base`. What is for upright text is passed over, and corrections for single
    /// sizes in pixels are: text is laid out for all sizes alike.
    pub(super) fn read(
        table: &[u8],
        base: usize,
        mut at: usize,
        format: u16,
        varied: Varied<'_>,
    ) -> Option<Self> {
        let mut numbers = [0; 4];
        for bit in 0..8 {
            if format & 1 << bit == 0 {
                continue;
            }
            let word = word(table, at)?;
            match numbers.get_mut(bit) {
                Some(number) => *number = i32::from(word as i16),
                None => numbers[bit - 4] += grown(table, base, word, varied),
            }
            at += 2;
        }
        let [x, y, advance, _] = numbers;
        Some(Self { x, y, advance })
    }

    pub(super) fn add_to(self, glyph: &mut RowGlyph) {
        glyph.x += self.x;
        glyph.y += self.y;
        glyph.advance += self.advance;
    }
}

/// The addition of the axes to a number (OpenType, “`VariationIndex` Table”), by the offset of
/// its table from `base`; 0 where that is none or for single sizes.
pub(super) fn grown(table: &[u8], base: usize, offset: u16, (font, variation): Varied<'_>) -> i32 {
    let find = || {
        let variation = variation.filter(|_| offset != 0)?;
        let at = base + usize::from(offset);
        let (outer, inner) = (word(table, at)?, word(table, at + 2)?);
        let is_variation = word(table, at + 4)? == 0x8000;
        is_variation.then(|| variation.item(font, outer, inner).round() as i32)
    };
    find().unwrap_or(0)
}
