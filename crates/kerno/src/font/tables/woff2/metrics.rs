//! `hmtx`, whose side bearings are left out where they are the left edges of the glyphs
//! (section 5.4).

use super::stream::Stream;
use crate::font::FontError;
use crate::font::table::Table;

/// The bits of the flags: side bearings that are not there.
const NO_LONG: u8 = 1;
const NO_SHORT: u8 = 2;

/// Puts the table together: of `long` glyphs advances and side bearings, of the rest of `all`
/// side bearings alone. `edges` are the left edges of the glyphs.
pub(super) fn rebuild_metrics(
    packed: Table<'_>,
    (long, all): (u16, u16),
    edges: &[i16],
) -> Result<Vec<u8>, FontError> {
    let mut stream = Stream::new(packed);
    let flags = stream.u8()?;
    if flags & (NO_LONG | NO_SHORT) == 0 || flags > (NO_LONG | NO_SHORT) {
        let expected = "it must leave something out";
        return Err(stream.bad("flags", flags.into(), expected));
    }
    let mut advances = stream.part(usize::from(long) * 2)?;
    let mut bearing = |glyph: u16, is_left_out: bool| match is_left_out {
        true => Ok(edges.get(usize::from(glyph)).copied().unwrap_or(0)),
        false => stream.u16().map(|value| value as i16),
    };
    let mut table = Vec::new();
    for glyph in 0..long {
        table.extend(advances.u16()?.to_be_bytes());
        table.extend(bearing(glyph, flags & NO_LONG != 0)?.to_be_bytes());
    }
    for glyph in long..all {
        table.extend(bearing(glyph, flags & NO_SHORT != 0)?.to_be_bytes());
    }
    Ok(table)
}
