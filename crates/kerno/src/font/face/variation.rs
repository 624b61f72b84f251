//! Axes of variable fonts, and faces at other settings of them.

use super::{Face, Outlines};
use crate::font::tables::{
    AxisRecord, GlyphVariations, InstanceRecord, ItemVariations, NameId, normalize, read_axes,
    read_instances,
};
use crate::font::{FontError, GlyphId, Metrics, Tag};

/// An axis of a variable font.
#[derive(Clone, Debug, PartialEq)]
pub struct Axis {
    /// Its tag, such as `wght`.
    pub tag: Tag,
    /// Its name for people, where the font has one.
    pub name: Option<String>,
    /// The lowest setting.
    pub min: f32,
    /// The setting of the face as it is opened.
    pub default: f32,
    /// The highest setting.
    pub max: f32,
}

/// A setting of all axes that the font has a name for.
#[derive(Clone, Debug, PartialEq)]
pub struct NamedInstance {
    /// Such as “Condensed Bold”.
    pub name: String,
    /// The axes in the order of [`Face::axes`], ready for [`Face::instance`].
    pub settings: Vec<(Tag, f32)>,
}

/// The differences of a face from the default of its variable font.
pub(super) struct Variation {
    pub(super) glyphs: Option<GlyphVariations>,
    pub(super) advances: Option<ItemVariations>,
    pub(super) heights: Option<ItemVariations>,
}

impl Face {
    /// The axes of a variable font; none in any other.
    ///
    /// # Errors
    /// [`FontError::Table`] where `fvar` is damaged.
    pub fn axes(&self) -> Result<Vec<Axis>, FontError> {
        let axis = |record: AxisRecord| Axis {
            tag: record.tag,
            name: self.name(NameId(record.name)),
            min: record.min,
            default: record.default,
            max: record.max,
        };
        Ok(self.axis_records()?.into_iter().map(axis).collect())
    }

    fn axis_records(&self) -> Result<Vec<AxisRecord>, FontError> {
        read_axes(&self.0.directory, &self.0.bytes)
    }

    /// The settings of the axes that the font has names for.
    ///
    /// # Errors
    /// [`FontError::Table`] where `fvar` is damaged.
    pub fn named_instances(&self) -> Result<Vec<NamedInstance>, FontError> {
        let axes = self.axis_records()?;
        let records = read_instances(&self.0.directory, &self.0.bytes)?;
        let instance = |record: InstanceRecord| NamedInstance {
            name: self.name(NameId(record.name)).unwrap_or_default(),
            settings: axes
                .iter()
                .map(|axis| axis.tag)
                .zip(record.values)
                .collect(),
        };
        Ok(records.into_iter().map(instance).collect())
    }

    /// The face at another setting of its axes: a face of its own, over the same
    /// bytes. Axes that are not named stay at their defaults; a setting beyond
    /// an axis's end counts as that end.
    ///
    /// ```no_run
    /// # use kerno::Face;
    /// # use kerno::font::Tag;
    /// # let face = Face::from_file("a-variable-font.ttf").unwrap();
    /// let bold = face.instance(&[(Tag::new(b"wght"), 700.0)])?;
    /// # Ok::<(), kerno::font::FontError>(())
    /// ```
    ///
    /// # Errors
    /// [`FontError::NoSuchAxis`], with the axes that there are; or
    /// [`FontError::Table`] where a variation table is damaged.
    pub fn instance(&self, settings: &[(Tag, f32)]) -> Result<Self, FontError> {
        let data = &**self.0;
        let axes = self.axis_records()?;
        let mut values: Vec<f32> = axes.iter().map(|axis| axis.default).collect();
        for (tag, value) in settings {
            let Some(index) = axes.iter().position(|axis| axis.tag == *tag) else {
                return Err(FontError::NoSuchAxis {
                    axis: *tag,
                    known: axes.iter().map(|axis| axis.tag).collect(),
                });
            };
            values[index] = *value;
        }
        let places = normalize(&data.directory, &data.bytes, &axes, &values)?;
        self.reopened(Some(places), data.synthesis)
    }

    /// The difference of the advance from that of the default, by `HVAR` or, in
    /// a font without, by the phantom points.
    pub(super) fn advance_growth(
        &self,
        variation: &Variation,
        glyph: GlyphId,
    ) -> Result<f32, FontError> {
        let data = &**self.0;
        match (&variation.advances, &variation.glyphs, &data.outlines) {
            (Some(advances), ..) => Ok(advances.advance(&data.bytes, glyph)),
            (None, Some(glyphs), Outlines::TrueType(locations)) => locations
                .phantom_deltas(&data.bytes, glyph, &data.limits, glyphs)
                .map(|deltas| deltas.advance),
            _ => Ok(0.0),
        }
    }

    /// Growth of the upright advance over that of the default, by `VVAR` or, in a
    /// font without, by the phantom points.
    pub(super) fn height_growth(&self, variation: &Variation, glyph: GlyphId) -> f32 {
        let data = &**self.0;
        match (&variation.heights, &variation.glyphs, &data.outlines) {
            (Some(heights), ..) => heights.advance(&data.bytes, glyph),
            (None, Some(glyphs), Outlines::TrueType(locations)) => locations
                .phantom_deltas(&data.bytes, glyph, &data.limits, glyphs)
                .map_or(0.0, |deltas| deltas.height),
            _ => 0.0,
        }
    }

    pub(super) fn varied_glyphs(&self) -> Option<&GlyphVariations> {
        self.0.variation.as_ref()?.glyphs.as_ref()
    }
}

/// Adds what `MVAR` says to the measures of a face (OpenType `MVAR`, “Value tags”).
pub(super) fn vary_metrics(
    metrics: &mut Metrics,
    mvar: &ItemVariations,
    bytes: &[u8],
) -> Result<(), FontError> {
    let vary = |measure: &mut i16, tag: &[u8; 4]| -> Result<(), FontError> {
        *measure = (f32::from(*measure) + mvar.measure(bytes, tag)?).round() as i16;
        Ok(())
    };
    vary(&mut metrics.ascender, b"hasc")?;
    vary(&mut metrics.descender, b"hdsc")?;
    vary(&mut metrics.line_gap, b"hlgp")?;
    for (height, tag) in [
        (&mut metrics.cap_height, b"cpht"),
        (&mut metrics.x_height, b"xhgt"),
    ] {
        height.as_mut().map_or(Ok(()), |height| vary(height, tag))?;
    }
    for (line, [position, thickness]) in [
        (&mut metrics.underline, [b"undo", b"unds"]),
        (&mut metrics.strikeout, [b"stro", b"strs"]),
    ] {
        if let Some(line) = line {
            vary(&mut line.position, position)?;
            vary(&mut line.thickness, thickness)?;
        }
    }
    Ok(())
}
