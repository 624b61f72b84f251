//! The part of a font that some glyphs need.

use super::super::tables::{
    Directory, GlyphLocations, GlyphMetrics, assemble, face_offset, read_head,
};
use super::super::{FontError, GlyphId, Tag};
use super::{layout, tables};
use std::collections::BTreeSet;

/// The part of a font that is wanted.
pub(crate) struct Wanted<'a> {
    /// With all that lookups make of them.
    pub(crate) glyphs: &'a BTreeSet<GlyphId>,
    /// Characters with their glyphs, in order.
    pub(crate) characters: &'a [(char, GlyphId)],
    /// True if its axes are anywhere but at their defaults.
    pub(crate) varies: bool,
}

/// The glyphs that stay.
pub(super) struct Kept {
    /// With the components of composite ones.
    pub(super) glyphs: BTreeSet<GlyphId>,
    /// One past the last of them.
    pub(super) count: u16,
}

impl Kept {
    pub(super) fn has(&self, glyph: u16) -> bool {
        self.glyphs.contains(&GlyphId(glyph))
    }
}

/// Tables that say nothing once glyphs are few, or that nothing here reads.
pub(super) const DROPPED: [&[u8; 4]; 18] = [
    b"BDF ", b"CBDT", b"CBLC", b"DSIG", b"EBDT", b"EBLC", b"EBSC", b"FFTM", b"LTSH", b"MATH",
    b"SVG ", b"VDMX", b"cvt ", b"fpgm", b"gasp", b"hdmx", b"prep", b"sbix",
];

/// Tables of variable fonts.
pub(super) const VARIATIONS: [&[u8; 4]; 8] = [
    b"HVAR", b"MVAR", b"STAT", b"VVAR", b"avar", b"cvar", b"fvar", b"gvar",
];

/// The part of a face of a font file that is wanted; none where its outlines are of a kind
/// that is carried whole.
///
/// # Errors
/// [`FontError`] where what is to be kept is damaged.
pub(crate) fn subset(
    bytes: &[u8],
    face: u32,
    wanted: &Wanted<'_>,
) -> Result<Option<Vec<u8>>, FontError> {
    let directory = Directory::read(bytes, face_offset(bytes, face)?)?;
    let (Some(_), false) = (directory.range(bytes, b"glyf"), wanted.varies) else {
        return Ok(None);
    };
    let head = read_head(&directory, bytes)?;
    let metrics = GlyphMetrics::read(&directory, bytes)?;
    let locations = GlyphLocations::read(&directory, bytes, head.wide_locations, metrics.count())?;
    let kept = kept_glyphs(wanted, metrics.count(), |glyph| {
        locations.components(bytes, glyph)
    })?;
    let mut tables: Vec<(Tag, Vec<u8>)> = Vec::new();
    for record in directory.records(bytes) {
        let tag = record.tag.0;
        let is_dropped = DROPPED.contains(&&tag) || VARIATIONS.contains(&&tag);
        let Some(table) = directory.table(bytes, &tag).filter(|_| !is_dropped) else {
            continue;
        };
        let table = table.bytes();
        let made = match &tag {
            b"glyf" | b"loca" => continue,
            b"cmap" => tables::characters(wanted.characters),
            b"head" => tables::head(table),
            b"maxp" => tables::counted(table, 4, kept.count),
            b"hhea" | b"vhea" => tables::counted(table, 34, kept.count),
            b"hmtx" => tables::metrics(&metrics, bytes, kept.count),
            b"vmtx" => match GlyphMetrics::read_vertical(&directory, bytes)? {
                Some(vertical) => tables::metrics(&vertical, bytes, kept.count),
                None => continue,
            },
            b"post" => tables::post(table),
            b"kern"
                if directory
                    .range(bytes, b"GPOS")
                    .is_some_and(|r| layout::kerns(&bytes[r])) =>
            {
                continue;
            }
            b"kern" => tables::kern(table, &kept).unwrap_or_else(|| table.to_vec()),
            b"GSUB" => layout::substitutions(table, &kept).unwrap_or_else(|| table.to_vec()),
            b"GPOS" => layout::positions(table, &kept).unwrap_or_else(|| table.to_vec()),
            _ => table.to_vec(),
        };
        tables.push((record.tag, made));
    }
    let (outlines, places) = tables::outlines(&locations, bytes, &kept)?;
    tables.push((Tag::new(b"glyf"), outlines));
    tables.push((Tag::new(b"loca"), places));
    tables.sort_by_key(|(tag, _)| *tag);
    Ok(Some(assemble([0, 1, 0, 0], &tables)))
}

/// The glyphs that stay: those that are wanted, and what they are composed of.
fn kept_glyphs(
    wanted: &Wanted<'_>,
    count: u16,
    components: impl Fn(GlyphId) -> Result<Vec<GlyphId>, FontError>,
) -> Result<Kept, FontError> {
    let mut glyphs: BTreeSet<GlyphId> = wanted.glyphs.iter().copied().collect();
    glyphs.insert(GlyphId::NOTDEF);
    glyphs.extend(wanted.characters.iter().map(|(_, glyph)| *glyph));
    glyphs.retain(|glyph| glyph.0 < count);
    let mut left: Vec<GlyphId> = glyphs.iter().copied().collect();
    while let Some(glyph) = left.pop() {
        for component in components(glyph)? {
            if component.0 < count && glyphs.insert(component) {
                left.push(component);
            }
        }
    }
    let last = glyphs.last().map_or(0, |glyph| glyph.0);
    Ok(Kept {
        count: last + 1,
        glyphs,
    })
}
