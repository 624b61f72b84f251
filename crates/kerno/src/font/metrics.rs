//! Measures of a whole face, in font units.

/// Measures of a whole face, in font units, y up.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Metrics {
    /// Font units in the side of the em square, 16 to 16384 (`head`).
    pub units_per_em: u16,
    /// From the baseline up to the line's top; usually positive.
    pub ascender: i16,
    /// From the baseline down to the line's bottom; usually negative.
    pub descender: i16,
    /// Extra space that the designer asks for between two lines; 0 or more.
    pub line_gap: i16,
    /// Height of flat capitals, where the face states it (`OS/2` version 2).
    pub cap_height: Option<i16>,
    /// Height of flat small letters, where the face states it.
    pub x_height: Option<i16>,
    /// Position and thickness of an underline (`post`).
    pub underline: Option<Decoration>,
    /// Position and thickness of a line-through (`OS/2`).
    pub strikeout: Option<Decoration>,
    /// Weight class, 1 to 1000; 400 is regular, 700 bold (`OS/2`).
    pub weight: u16,
    /// Width class, 1 to 9; 5 is normal (`OS/2`).
    pub width: u16,
    /// Slant in degrees, counter-clockwise from upright; negative leans right.
    pub italic_angle: f32,
    /// Every advance is the same (`post`).
    pub is_fixed_pitch: bool,
    /// The smallest box around every glyph (`head`).
    pub bounds: FontBounds,
}

/// A line drawn along a text, in font units.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Decoration {
    /// The line's top edge, above the baseline where positive.
    pub position: i16,
    /// Thickness.
    pub thickness: i16,
}

/// A box in font units, y up.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct FontBounds {
    /// Left edge.
    pub x_min: i16,
    /// Bottom edge.
    pub y_min: i16,
    /// Right edge.
    pub x_max: i16,
    /// Top edge.
    pub y_max: i16,
}
