//! Look of a run of text.

use super::{Effect, Plate};
use crate::base::{Color, Edges};
use crate::font::{Face, Tag};

/// The look of a run of text: a value to keep, copy, change and pass.
///
/// ```no_run
/// use kerno::{Color, Face, Style};
/// let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let body = Style::new(&face, 16.0);
/// let alarm = body.clone().color(Color::rgb(255, 90, 60));
/// assert_eq!(body.color, Color::WHITE); // `alarm` changed nothing
/// # Ok::<(), kerno::font::FontError>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Style {
    /// The face.
    pub face: Face,
    /// Design pixels in the side of the em square; above 0, at most
    /// [`Style::LARGEST`].
    pub size: f32,
    /// The colour of the letters.
    pub color: Color,
    /// Smooth, or hard for pixel faces.
    pub edges: Edges,
    /// Layers of the letters' look, painted from the first to the last. Where none of them
    /// is a fill, the letters themselves are painted last, in [`Style::color`]. They take no
    /// room. Default: none, which is the letters alone.
    pub effects: Vec<Effect>,
    /// A line beneath the letters (CSS `text-decoration-line: underline`).
    pub underline: bool,
    /// A line through the letters (`line-through`).
    pub line_through: bool,
    /// The ground behind the letters.
    pub plate: Option<Plate>,
    /// Space between neighbouring clusters, in design pixels; may be negative.
    /// None is added at the end of a line, so that centred text stays centred.
    pub letter_spacing: f32,
    /// Space added to every space, in design pixels; may be negative.
    pub word_spacing: f32,
    /// The distance the letters are raised above the baseline, in design pixels.
    pub baseline_shift: f32,
    /// From one baseline to the next.
    pub line_height: LineHeight,
    /// Faces for what `face` lacks, the first to be tried first (CSS
    /// `font-family`).
    pub fallback: Vec<Face>,
    /// OpenType features with their values, 0 to turn one off (CSS
    /// `font-feature-settings`).
    pub features: Vec<(Tag, u16)>,
    /// Digits all of one width, so that a number that changes moves nothing else
    /// (CSS `font-variant-numeric: tabular-nums`): those of the face where it has
    /// them, else its own with room on both sides.
    pub tabular: bool,
    /// The OpenType language system tag, such as `TRK ` or `URD `, for letters that
    /// differ by language.
    pub language: Option<Tag>,
}

crate::base::setters! {
    Style {
        face: Face,
        size: f32,
        color: Color,
        edges: Edges,
        effects: Vec<Effect>,
        underline: bool,
        line_through: bool,
        letter_spacing: f32,
        word_spacing: f32,
        baseline_shift: f32,
        line_height: LineHeight,
        fallback: Vec<Face>,
        features: Vec<(Tag, u16)>,
        tabular: bool,
    }
    optional {
        plate: Plate,
        language: Tag,
    }
}

impl Style {
    /// The largest size, in design pixels: far beyond any screen, and small
    /// enough that no sum of advances overflows.
    pub const LARGEST: f32 = 100_000.0;

    /// The most effects that a style may have.
    pub const MOST_EFFECTS: usize = 32;

    /// White smooth text in a face at a size (design pixels per em).
    pub fn new(face: &Face, size: f32) -> Self {
        Self {
            face: face.clone(),
            size,
            color: Color::WHITE,
            edges: Edges::Smooth,
            effects: Vec::new(),
            underline: false,
            line_through: false,
            plate: None,
            letter_spacing: 0.0,
            word_spacing: 0.0,
            baseline_shift: 0.0,
            line_height: LineHeight::Normal,
            fallback: Vec::new(),
            features: Vec::new(),
            tabular: false,
            language: None,
        }
    }

    /// Adds an outline that reaches `width` design pixels beyond the letters, beneath them:
    /// short for an [`Effect::outline`] more.
    #[must_use]
    pub fn outline(mut self, width: f32, color: Color) -> Self {
        self.effects.push(Effect::outline(width, color));
        self
    }

    /// The style's face (0), or one of its fallbacks, counted from 1; the face where
    /// there are not as many.
    pub fn face_at(&self, index: u16) -> &Face {
        let index = usize::from(index).checked_sub(1);
        let fallback = index.and_then(|index| self.fallback.get(index));
        fallback.unwrap_or(&self.face)
    }

    /// Design pixels in one font unit of one of the faces.
    pub(super) fn unit_at(&self, index: u16) -> f64 {
        f64::from(self.size) / f64::from(self.face_at(index).metrics().units_per_em)
    }

    /// The height of capital letters in design pixels; where the face does not say it,
    /// 0.7 em.
    pub(super) fn capital_height(&self) -> f32 {
        let stated = self.face.metrics().cap_height;
        stated.map_or(0.7 * self.size, |height| f32::from(height) * self.unit())
    }

    /// Returns the style with all lengths multiplied: size, spacing, effects, plate. For a
    /// reader's own scale of text, say.
    ///
    /// ```no_run
    /// # use kerno::{Face, Style};
    /// # let face = Face::from_file("fonts/Lato-Medium.ttf")?;
    /// let message = Style::new(&face, 16.0).scaled(1.5);
    /// assert_eq!(message.size, 24.0);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn scaled(&self, factor: f32) -> Self {
        Self {
            size: self.size * factor,
            letter_spacing: self.letter_spacing * factor,
            word_spacing: self.word_spacing * factor,
            baseline_shift: self.baseline_shift * factor,
            effects: {
                let effects = self.effects.iter();
                effects.map(|effect| effect.kind().scaled(factor)).collect()
            },
            plate: self.plate.map(|plate| plate.scaled(factor)),
            line_height: match self.line_height {
                LineHeight::Length(length) => LineHeight::Length(length * factor),
                other => other,
            },
            ..self.clone()
        }
    }

    /// Design pixels in one font unit.
    fn unit(&self) -> f32 {
        self.size / f32::from(self.face.metrics().units_per_em)
    }

    /// From the baseline up to the ascender and down to the descender, where its
    /// letters stand.
    pub(crate) fn content_extent(&self) -> (f32, f32) {
        let metrics = self.face.metrics();
        let unit = self.unit();
        (
            f32::from(metrics.ascender) * unit + self.baseline_shift,
            -f32::from(metrics.descender) * unit - self.baseline_shift,
        )
    }

    /// From the baseline up and down to the edges of the line, in design
    /// pixels: the ascender and descender with half of the leading on either
    /// side (CSS Inline Layout, “half-leading”). Letters of a face to fall back on
    /// make it higher where each face has its own line height.
    pub(super) fn line_extent(&self, face: u16) -> (f32, f32) {
        let (above, below) = self.extent_in(&self.face);
        if face == 0 || self.line_height != LineHeight::Normal {
            return (above, below);
        }
        let other = self.extent_in(self.face_at(face));
        (above.max(other.0), below.max(other.1))
    }

    fn extent_in(&self, face: &Face) -> (f32, f32) {
        let metrics = face.metrics();
        let unit = self.size / f32::from(metrics.units_per_em);
        let above = f32::from(metrics.ascender) * unit;
        let below = -f32::from(metrics.descender) * unit;
        let height = match self.line_height {
            LineHeight::Normal => above + below + f32::from(metrics.line_gap) * unit,
            LineHeight::Multiple(factor) => factor * self.size,
            LineHeight::Length(length) => length,
        };
        let half_leading = (height - above - below) * 0.5;
        (above + half_leading, below + half_leading)
    }
}

/// From one baseline to the next (CSS `line-height`).
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
pub enum LineHeight {
    /// The height that the face asks for: ascender, descender and line gap.
    #[default]
    Normal,
    /// This many times the size of the text.
    Multiple(f32),
    /// This many design pixels.
    Length(f32),
}
