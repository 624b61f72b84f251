//! `name`: what the font calls itself.

use super::Directory;
use super::text_encoding::TextEncoding;
use crate::font::table::Table;

/// Identifier of a text of the `name` table (OpenType `name`, “Name IDs”).
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct NameId(pub u16);

impl NameId {
    /// Copyright notice.
    pub const COPYRIGHT: Self = Self(0);
    /// Family, at most four styles to a family.
    pub const FAMILY: Self = Self(1);
    /// Style within [`NameId::FAMILY`].
    pub const SUBFAMILY: Self = Self(2);
    /// Family and style in one.
    pub const FULL: Self = Self(4);
    /// Version.
    pub const VERSION: Self = Self(5);
    /// Name without spaces, for documents.
    pub const POSTSCRIPT: Self = Self(6);
    /// Who drew it.
    pub const DESIGNER: Self = Self(9);
    /// Terms of use.
    pub const LICENSE: Self = Self(13);
    /// Address of the licence.
    pub const LICENSE_URL: Self = Self(14);
    /// Family with all its weights and widths.
    pub const TYPOGRAPHIC_FAMILY: Self = Self(16);
    /// Style within [`NameId::TYPOGRAPHIC_FAMILY`].
    pub const TYPOGRAPHIC_SUBFAMILY: Self = Self(17);
}

/// The text for `id`: English first, then any other language. A damaged table
/// has no names; that is no reason to refuse the font.
pub(crate) fn read_name(directory: &Directory, bytes: &[u8], id: NameId) -> Option<String> {
    let name = directory.table(bytes, b"name")?;
    let strings = usize::from(name.u16(4).ok()?);
    let mut best: Option<(u8, TextEncoding, &[u8])> = None;
    for record in 0..usize::from(name.u16(2).ok()?) {
        let Some((rank, encoding, text)) = read_record(&name, 6 + record * 12, strings, id) else {
            continue;
        };
        if best.is_none_or(|(other, ..)| other < rank) {
            best = Some((rank, encoding, text));
        }
    }
    let (_, encoding, text) = best?;
    Some(encoding.decode(text))
}

/// One record, if it is for `id` and in an encoding that is known: how much it is
/// wanted, and its text.
fn read_record<'a>(
    name: &Table<'a>,
    at: usize,
    strings: usize,
    id: NameId,
) -> Option<(u8, TextEncoding, &'a [u8])> {
    if name.u16(at + 6).ok()? != id.0 {
        return None;
    }
    let (platform, own) = (name.u16(at).ok()?, name.u16(at + 2).ok()?);
    let language = name.u16(at + 4).ok()?;
    let encoding = TextEncoding::of(platform, own, language)?;
    let rank = match (platform, own) {
        // Windows language ids: the low ten bits are the language, 9 is English.
        (3, _) if language == 0x0409 => 5,
        (3, _) if language & 0x3ff == 9 => 4,
        (0, _) => 3,
        (1, 0) if language == 0 => 2,
        (3, 0 | 1 | 10) => 1,
        _ => 0,
    };
    let length = usize::from(name.u16(at + 8).ok()?);
    let offset = usize::from(name.u16(at + 10).ok()?);
    let text = name.slice(strings + offset, length).ok()?;
    Some((rank, encoding, text))
}
