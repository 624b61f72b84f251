//! Values that a game hands in.

use crate::base::Point;

/// A value that a game hands in.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum Value {
    /// A number.
    Number(f64),
    /// Plain text: nothing in it is markup.
    Text(String),
    /// True or false.
    Flag(bool),
    /// A place of the game's world, for elements that follow it.
    Point(Point),
}

impl Value {
    /// Returns whether something that is shown while it is true is there.
    pub fn is_true(&self) -> bool {
        match self {
            Self::Number(number) => *number != 0.0 && !number.is_nan(),
            Self::Text(text) => !text.is_empty(),
            Self::Flag(flag) => *flag,
            Self::Point(_) => true,
        }
    }

    /// The number that gauges and icons show: 1 and 0 for true and false, 0 for the rest.
    pub fn number(&self) -> f64 {
        match self {
            Self::Number(number) if number.is_nan() => 0.0,
            Self::Number(number) => *number,
            Self::Text(_) | Self::Point(_) => 0.0,
            Self::Flag(flag) => f64::from(u8::from(*flag)),
        }
    }

    /// The word for its kind, for messages.
    pub(super) fn kind(&self) -> &'static str {
        match self {
            Self::Number(_) => "a number",
            Self::Text(_) => "a text",
            Self::Flag(_) => "true or false",
            Self::Point(_) => "a point",
        }
    }

    pub(super) fn is_like(&self, other: &Self) -> bool {
        std::mem::discriminant(self) == std::mem::discriminant(other)
    }
}

impl From<f64> for Value {
    fn from(number: f64) -> Self {
        Self::Number(number)
    }
}

impl From<f32> for Value {
    fn from(number: f32) -> Self {
        Self::Number(number.into())
    }
}

impl From<i32> for Value {
    fn from(number: i32) -> Self {
        Self::Number(number.into())
    }
}

impl From<u32> for Value {
    fn from(number: u32) -> Self {
        Self::Number(number.into())
    }
}

impl From<Point> for Value {
    fn from(point: Point) -> Self {
        Self::Point(point)
    }
}

impl From<bool> for Value {
    fn from(flag: bool) -> Self {
        Self::Flag(flag)
    }
}

impl From<&str> for Value {
    fn from(text: &str) -> Self {
        Self::Text(text.to_owned())
    }
}

impl From<String> for Value {
    fn from(text: String) -> Self {
        Self::Text(text)
    }
}
