//! `name`: what the font calls itself.

use super::Directory;
use crate::font::table::Table;

/// Which text of the `name` table (OpenType `name`, “Name IDs”).
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
    /// How it may be used.
    pub const LICENSE: Self = Self(13);
    /// Where the licence is.
    pub const LICENSE_URL: Self = Self(14);
    /// Family with all its weights and widths.
    pub const TYPOGRAPHIC_FAMILY: Self = Self(16);
    /// Style within [`NameId::TYPOGRAPHIC_FAMILY`].
    pub const TYPOGRAPHIC_SUBFAMILY: Self = Self(17);
}

/// The upper half of the Mac OS Roman character set, from 0x80.
pub(super) const MAC_ROMAN: &str = "ÄÅÇÉÑÖÜáàâäãåçéèêëíìîïñóòôöõúùûü†°¢£§•¶ß®©™´¨≠ÆØ∞±≤≥¥µ∂∑∏π∫ªºΩæø¿¡¬√ƒ≈∆«»…\u{a0}ÀÃÕŒœ–—“”‘’÷◊ÿŸ⁄€‹›ﬁﬂ‡·‚„‰ÂÊÁËÈÍÎÏÌÓÔ\u{f8ff}ÒÚÛÙıˆ˜¯˘˙˚¸˝˛ˇ";

enum Encoding {
    Utf16,
    MacRoman,
}

/// The text for `id`: English first, then any other language. A damaged table
/// has no names; that is no reason to refuse the font.
pub(in crate::font) fn read_name(
    directory: &Directory,
    bytes: &[u8],
    id: NameId,
) -> Option<String> {
    let name = directory.table(bytes, b"name")?;
    let strings = usize::from(name.u16(4).ok()?);
    let mut best: Option<(u8, Encoding, &[u8])> = None;
    for record in 0..usize::from(name.u16(2).ok()?) {
        let Some((rank, encoding, text)) = read_record(&name, 6 + record * 12, strings, id) else {
            continue;
        };
        if best.as_ref().is_none_or(|(other, ..)| *other < rank) {
            best = Some((rank, encoding, text));
        }
    }
    let (_, encoding, text) = best?;
    Some(match encoding {
        Encoding::Utf16 => decode_utf16(text),
        Encoding::MacRoman => decode_mac_roman(text),
    })
}

/// One record, if it is for `id` and of a platform we can decode: how much it
/// is wanted, and its text.
fn read_record<'a>(
    name: &Table<'a>,
    at: usize,
    strings: usize,
    id: NameId,
) -> Option<(u8, Encoding, &'a [u8])> {
    if name.u16(at + 6).ok()? != id.0 {
        return None;
    }
    let language = name.u16(at + 4).ok()?;
    // Windows language ids: the low ten bits are the language, 9 is English.
    let (rank, encoding) = match (name.u16(at).ok()?, name.u16(at + 2).ok()?) {
        (3, 0 | 1 | 10) if language == 0x0409 => (5, Encoding::Utf16),
        (3, 0 | 1 | 10) if language & 0x3ff == 9 => (4, Encoding::Utf16),
        (0, _) => (3, Encoding::Utf16),
        (1, 0) if language == 0 => (2, Encoding::MacRoman),
        (3, 0 | 1 | 10) => (1, Encoding::Utf16),
        _ => return None,
    };
    let length = usize::from(name.u16(at + 8).ok()?);
    let offset = usize::from(name.u16(at + 10).ok()?);
    let text = name.slice(strings + offset, length).ok()?;
    Some((rank, encoding, text))
}

fn decode_utf16(text: &[u8]) -> String {
    let (pairs, _) = text.as_chunks::<2>();
    char::decode_utf16(pairs.iter().map(|pair| u16::from_be_bytes(*pair)))
        .map(|unit| unit.unwrap_or(char::REPLACEMENT_CHARACTER))
        .collect()
}

fn decode_mac_roman(text: &[u8]) -> String {
    text.iter()
        .map(|&byte| match byte {
            0..0x80 => char::from(byte),
            _ => MAC_ROMAN
                .chars()
                .nth(usize::from(byte - 0x80))
                .unwrap_or(char::REPLACEMENT_CHARACTER),
        })
        .collect()
}
