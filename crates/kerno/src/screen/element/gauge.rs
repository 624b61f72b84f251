//! Bars that show a value.

use crate::base::{Color, Insets};

/// A bar that shows a value from 0 to 1.
///
/// ```
/// use kerno::Color;
/// use kerno::screen::{Gauge, GaugeFill};
/// let oil = Gauge::new("oil", GaugeFill::Color(Color::rgb(255, 207, 112)))
///     .follow_seconds(0.2)
///     .thresholds(vec![(0.25, Color::rgb(230, 70, 50))]);
/// # let _ = oil;
/// ```
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Gauge {
    /// The value, from 0 to 1; what is outside is clamped.
    pub value: String,
    /// Its filling.
    pub fill: GaugeFill,
    /// The side that it grows from.
    pub from: GaugeSide,
    /// Nine-slice sprite behind it.
    pub back: Option<String>,
    /// Sprite over it, repeated: marks.
    pub marks: Option<String>,
    /// Space between the edge of the element and what fills it.
    pub inset: Insets,
    /// Seconds in which it comes to a new value; 0 for at once.
    pub follow_seconds: f32,
    /// Colour of lost value that is shown a while longer.
    pub ghost: Option<Color>,
    /// Seconds that lost value is shown.
    pub ghost_seconds: f32,
    /// Colours below shares of its range, from the lowest up: the first whose share the value
    /// does not reach is taken, as the fill's colour or its tint.
    pub thresholds: Vec<(f32, Color)>,
}

/// Filling of a gauge.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum GaugeFill {
    /// A colour.
    Color(Color),
    /// A nine-slice sprite, as long as the value.
    Stretched(String),
    /// A sprite as large as the whole gauge, cut off at the value.
    Clipped(String),
}

/// The side that a gauge grows from.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum GaugeSide {
    /// From the left.
    #[default]
    Left,
    /// From the right.
    Right,
    /// From the top.
    Top,
    /// From the bottom.
    Bottom,
}

impl Gauge {
    /// A gauge of a value, that grows from the left.
    pub fn new(value: &str, fill: GaugeFill) -> Self {
        Self {
            value: value.to_owned(),
            fill,
            from: GaugeSide::Left,
            back: None,
            marks: None,
            inset: Insets::default(),
            follow_seconds: 0.0,
            ghost: None,
            ghost_seconds: 0.8,
            thresholds: Vec::new(),
        }
    }
}

crate::base::setters! {
    Gauge {
        from: GaugeSide,
        inset: Insets,
        follow_seconds: f32,
        ghost_seconds: f32,
        thresholds: Vec<(f32, Color)>,
    }
    optional {
        back: String,
        marks: String,
        ghost: Color,
    }
}
