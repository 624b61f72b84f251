//! The part of a font that some glyphs need.

use super::super::tables::{
    CffOutlines, Directory, GlyphLocations, GlyphMetrics, Used, assemble, face_offset, read_head,
};
use super::super::{FontError, GlyphId, Tag};
use super::{layout, tables, variations};
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
pub(super) const DROPPED: [&[u8; 4]; 21] = [
    b"BDF ", b"CBDT", b"CBLC", b"DSIG", b"EBDT", b"EBLC", b"EBSC", b"FFTM", b"LTSH", b"MATH",
    b"SVG ", b"STAT", b"VDMX", b"VORG", b"cvar", b"cvt ", b"fpgm", b"gasp", b"hdmx", b"prep",
    b"sbix",
];

/// Tables of variable fonts.
pub(super) const VARIATIONS: [&[u8; 4]; 6] = [b"HVAR", b"MVAR", b"VVAR", b"avar", b"fvar", b"gvar"];

/// The part of a face of a font file that is wanted; none of one without outlines, which is carried
/// whole. Where axes are off their defaults the tables of variations are kept for the glyphs that
/// stay: outlines and measures are the same to the bit.
///
/// # Errors
/// [`FontError`] where what is to be kept is damaged.
pub(crate) fn subset(
    bytes: &[u8],
    face: u32,
    wanted: &Wanted<'_>,
) -> Result<Option<Vec<u8>>, FontError> {
    let directory = Directory::read(bytes, face_offset(bytes, face)?)?;
    let metrics = GlyphMetrics::read(&directory, bytes)?;
    let Some(outlines) = Outlines::read(&directory, bytes, metrics.count())? else {
        return Ok(None);
    };
    let mut used = Used::default();
    let kept = kept_glyphs(wanted, metrics.count(), |glyph| {
        outlines.parts(bytes, glyph, &mut used)
    })?;
    let vertical = GlyphMetrics::read_vertical(&directory, bytes)?;
    let mut tables: Vec<(Tag, Vec<u8>)> = Vec::new();
    for record in directory.records(bytes) {
        let tag = record.tag.0;
        // The charstrings of `CFF2` count on the axes wherever they stand.
        let may_vary = wanted.varies || directory.range(bytes, b"CFF2").is_some();
        let is_fixed = VARIATIONS.contains(&&tag) && !may_vary;
        let is_dropped = DROPPED.contains(&&tag) || is_fixed;
        let Some(table) = directory.table(bytes, &tag).filter(|_| !is_dropped) else {
            continue;
        };
        let table = table.bytes();
        let made = match &tag {
            b"glyf" | b"loca" | b"CFF " | b"CFF2" => continue,
            b"gvar" => match variations::cut(table, &kept) {
                Some(cut) => cut,
                None => return Ok(None),
            },
            b"cmap" => tables::characters(wanted.characters),
            b"head" => tables::head(table),
            b"maxp" => tables::counted(table, 4, kept.count),
            b"hhea" => tables::counted(table, 34, tables::long_metrics(&metrics, bytes, &kept)),
            b"vhea" => match &vertical {
                Some(metrics) => {
                    tables::counted(table, 34, tables::long_metrics(metrics, bytes, &kept))
                }
                None => continue,
            },
            b"hmtx" => tables::metrics(&metrics, bytes, &kept),
            b"vmtx" => match &vertical {
                Some(metrics) => tables::metrics(metrics, bytes, &kept),
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
    let version = match &outlines {
        Outlines::TrueType(locations) => {
            let (outlines, places) = tables::outlines(locations, bytes, &kept)?;
            tables.push((Tag::new(b"glyf"), outlines));
            tables.push((Tag::new(b"loca"), places));
            [0, 1, 0, 0]
        }
        Outlines::PostScript(tag, cff) => {
            tables.push((*tag, cff.cut(bytes, &kept.glyphs, kept.count, &used)?));
            *b"OTTO"
        }
    };
    tables.sort_by_key(|(tag, _)| *tag);
    Ok(Some(assemble(version, &tables)))
}

/// The outlines of a font.
enum Outlines {
    TrueType(GlyphLocations),
    /// `CFF ` or `CFF2`.
    PostScript(Tag, Box<CffOutlines>),
}

impl Outlines {
    /// Finds the outlines; none in a font without.
    fn read(directory: &Directory, bytes: &[u8], count: u16) -> Result<Option<Self>, FontError> {
        // Where axes stand makes no difference to which parts there are.
        let axes = directory.table(bytes, b"fvar");
        let axes = axes.map_or(Ok(0), |fvar| fvar.u16(8))?;
        let places = vec![0.0; axes.into()];
        if let Some(cff) = CffOutlines::read(directory, bytes, &places)? {
            let is_second = directory.range(bytes, b"CFF2").is_some();
            let tag = if is_second { b"CFF2" } else { b"CFF " };
            return Ok(Some(Self::PostScript(Tag::new(tag), Box::new(cff))));
        }
        if directory.range(bytes, b"glyf").is_none() {
            return Ok(None);
        }
        let head = read_head(directory, bytes)?;
        let locations = GlyphLocations::read(directory, bytes, head.wide_locations, count)?;
        Ok(Some(Self::TrueType(locations)))
    }

    /// The glyphs that a glyph is put together from; what else it uses is noted.
    fn parts(
        &self,
        bytes: &[u8],
        glyph: GlyphId,
        used: &mut Used,
    ) -> Result<Vec<GlyphId>, FontError> {
        match self {
            Self::TrueType(locations) => locations.components(bytes, glyph),
            Self::PostScript(_, cff) => {
                cff.find_used(bytes, glyph, used)?;
                Ok(std::mem::take(&mut used.parts).into_iter().collect())
            }
        }
    }
}

/// The glyphs that stay: those that are wanted, and what they are composed of.
fn kept_glyphs(
    wanted: &Wanted<'_>,
    count: u16,
    mut components: impl FnMut(GlyphId) -> Result<Vec<GlyphId>, FontError>,
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
