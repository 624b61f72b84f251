//! `head`, `hhea`, `OS/2` and `post`: the fixed-size headers.

use super::Directory;
use crate::font::table::Table;
use crate::font::{Decoration, FontBounds, FontError, Metrics};

/// `OS/2` fsSelection bit 7: the typographic metrics are the ones to use.
const USE_TYPO_METRICS: u16 = 1 << 7;

/// The fields of `head` that later readers need.
pub(in crate::font) struct Head {
    pub(in crate::font) units_per_em: u16,
    bounds: FontBounds,
    /// `loca` holds 32-bit offsets (indexToLocFormat 1).
    pub(in crate::font) wide_locations: bool,
}

pub(in crate::font) fn read_head(directory: &Directory, bytes: &[u8]) -> Result<Head, FontError> {
    let head = directory.required(bytes, b"head")?;
    let units_per_em = head.u16(18)?;
    if !(16..=16384).contains(&units_per_em) {
        return Err(head.bad(
            18,
            "unitsPerEm",
            units_per_em.into(),
            "it must be 16 to 16384",
        ));
    }
    let format = head.i16(50)?;
    if !(0..=1).contains(&format) {
        return Err(head.bad(50, "indexToLocFormat", format.into(), "it must be 0 or 1"));
    }
    Ok(Head {
        units_per_em,
        bounds: read_bounds(&head, 36)?,
        wide_locations: format == 1,
    })
}

/// Four 16-bit numbers xMin, yMin, xMax, yMax.
pub(super) fn read_bounds(table: &Table<'_>, at: usize) -> Result<FontBounds, FontError> {
    Ok(FontBounds {
        x_min: table.i16(at)?,
        y_min: table.i16(at + 2)?,
        x_max: table.i16(at + 4)?,
        y_max: table.i16(at + 6)?,
    })
}

/// Ascender, descender, line gap.
type LineMetrics = (i16, i16, i16);

pub(in crate::font) fn read_metrics(
    directory: &Directory,
    bytes: &[u8],
    head: &Head,
) -> Result<Metrics, FontError> {
    let hhea = directory.required(bytes, b"hhea")?;
    let hhea_lines = (hhea.i16(4)?, hhea.i16(6)?, hhea.i16(8)?);
    let os2 = directory.table(bytes, b"OS/2");
    let post = directory.table(bytes, b"post");
    let (ascender, descender, line_gap) = choose_lines(hhea_lines, os2.as_ref());

    let os2_i16 = |at| os2.as_ref().and_then(|os2| os2.i16(at).ok());
    let has_heights = os2
        .as_ref()
        .is_some_and(|os2| os2.u16(0).is_ok_and(|v| v >= 2));
    let height = |at| os2_i16(at).filter(|value| has_heights && *value > 0);
    let decoration = |position: Option<i16>, thickness: Option<i16>| {
        let thickness = thickness.filter(|thickness| *thickness > 0)?;
        Some(Decoration {
            position: position?,
            thickness,
        })
    };
    let post_i16 = |at| post.as_ref().and_then(|post| post.i16(at).ok());
    let angle = post.as_ref().and_then(|post| post.u32(4).ok());
    Ok(Metrics {
        units_per_em: head.units_per_em,
        ascender,
        descender,
        line_gap,
        x_height: height(86),
        cap_height: height(88),
        underline: decoration(post_i16(8), post_i16(10)),
        strikeout: decoration(os2_i16(28), os2_i16(26)),
        weight: os2_i16(4).filter(|w| (1..=1000).contains(w)).unwrap_or(400) as u16,
        width: os2_i16(6).filter(|w| (1..=9).contains(w)).unwrap_or(5) as u16,
        // Fixed 16.16.
        italic_angle: angle.map_or(0.0, |angle| angle as i32 as f32 / 65536.0),
        is_fixed_pitch: post
            .as_ref()
            .is_some_and(|post| post.u32(12).is_ok_and(|v| v != 0)),
        bounds: head.bounds,
    })
}

/// Chooses one of a font's three sets of line metrics: `OS/2` typographic
/// where fsSelection says so, else `hhea`, and where that is all zero
/// (some old files) the typographic or at last the Windows ones.
fn choose_lines(hhea: LineMetrics, os2: Option<&Table<'_>>) -> LineMetrics {
    let typographic = os2.and_then(|os2| {
        let lines = (os2.i16(68).ok()?, os2.i16(70).ok()?, os2.i16(72).ok()?);
        Some((os2.u16(62).ok()? & USE_TYPO_METRICS != 0, lines))
    });
    if let Some((true, lines)) = typographic {
        return lines;
    }
    let is_set = |(ascender, descender, _): LineMetrics| ascender != 0 || descender != 0;
    if is_set(hhea) {
        return hhea;
    }
    if let Some((_, lines)) = typographic.filter(|(_, lines)| is_set(*lines)) {
        return lines;
    }
    let windows = os2.and_then(|os2| Some((os2.i16(74).ok()?, os2.i16(76).ok()?)));
    windows.map_or(hhea, |(ascent, descent)| {
        (ascent, descent.saturating_neg(), 0)
    })
}
