//! The variations of the glyphs that stay.

use super::Kept;
use crate::font::table::{long, word};

/// Bytes of the header of `gvar`.
const HEADER: usize = 20;

/// `gvar` with the variations of the glyphs that stay, in long offsets; none where it is damaged.
pub(super) fn cut(gvar: &[u8], kept: &Kept) -> Option<Vec<u8>> {
    let (axes, shared_count) = (word(gvar, 4)?, word(gvar, 6)?);
    let shared_at = long(gvar, 8)? as usize;
    let count = word(gvar, 12)?;
    let is_long = word(gvar, 14)? & 1 == 1;
    let data_at = long(gvar, 16)? as usize;
    let offset = |glyph: usize| match is_long {
        true => long(gvar, HEADER + glyph * 4).map(|offset| offset as usize),
        false => word(gvar, HEADER + glyph * 2).map(|offset| usize::from(offset) * 2),
    };
    let shared_length = usize::from(axes) * usize::from(shared_count) * 2;
    let shared = gvar.get(shared_at..shared_at.checked_add(shared_length)?)?;
    let own_count = kept.count.min(count);
    let start = HEADER + (usize::from(own_count) + 1) * 4;
    let mut made = gvar.get(..HEADER)?.to_vec();
    let mut put = |at: usize, bytes: &[u8]| made[at..at + bytes.len()].copy_from_slice(bytes);
    put(8, &(start as u32).to_be_bytes());
    put(12, &own_count.to_be_bytes());
    put(14, &1_u16.to_be_bytes());
    put(16, &((start + shared.len()) as u32).to_be_bytes());
    let mut data: Vec<u8> = Vec::new();
    for glyph in 0..own_count {
        made.extend((data.len() as u32).to_be_bytes());
        if kept.has(glyph) {
            let glyph = usize::from(glyph);
            let range =
                data_at.checked_add(offset(glyph)?)?..data_at.checked_add(offset(glyph + 1)?)?;
            data.extend_from_slice(gvar.get(range)?);
            data.resize(data.len().next_multiple_of(2), 0);
        }
    }
    made.extend((data.len() as u32).to_be_bytes());
    made.extend_from_slice(shared);
    made.extend(data);
    Some(made)
}
