//! `GSUB` and `GPOS`: where they are. What is in them is read when text asks for it
//! (`shaping`).

use std::ops::Range;

use super::Directory;
use crate::font::table::Table;
use crate::font::{FontError, Tag};

/// Finds a table of lookups and checks what all of it hangs on: its version and the
/// lists of scripts, features and lookups (OpenType, “GSUB Header”, “GPOS Header”).
/// `None` where the font has no such table.
pub(in crate::font) fn find_lookups(
    directory: &Directory,
    bytes: &[u8],
    tag: &[u8; 4],
) -> Result<Option<Range<usize>>, FontError> {
    let Some(range) = directory.range(bytes, tag) else {
        return Ok(None);
    };
    let table = Table::new(Tag::new(tag), &bytes[range.clone()]);
    let version = table.u16(0)?;
    if version != 1 {
        return Err(table.bad(0, "majorVersion", version.into(), "1"));
    }
    // Each list begins with a count; records of that size in bytes follow.
    for (offset, record) in [(4, 6), (6, 6), (8, 2)] {
        let list = table.from(usize::from(table.u16(offset)?))?;
        list.slice(2, usize::from(list.u16(0)?) * record)?;
    }
    Ok(Some(range))
}
