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
    pub(crate) fn kind(&self) -> &'static str {
        match self {
            Self::Number(_) => "a number",
            Self::Text(_) => "a text",
            Self::Flag(_) => "true or false",
            Self::Point(_) => "a point",
        }
    }

    pub(crate) fn is_like(&self, other: &Self) -> bool {
        std::mem::discriminant(self) == std::mem::discriminant(other)
    }
}

/// A value that the game hands in, as a file declares it.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct ValueDeclaration {
    /// Its name.
    pub name: String,
    /// The value until the game hands in another one. It tells the kind as well.
    pub start: Value,
    /// The least and the largest number, for room that is kept and for checks; numbers
    /// outside are clamped.
    pub range: Option<[f64; 2]>,
    /// Seconds in which the number that is shown rolls to a new one; 0 for at once.
    pub roll_seconds: f32,
    /// True for a value that a screen gives itself: those of a dialogue.
    pub(crate) is_own: bool,
}

impl ValueDeclaration {
    /// A value without a range.
    pub fn new(name: &str, start: impl Into<Value>) -> Self {
        Self {
            name: name.to_owned(),
            start: start.into(),
            range: None,
            roll_seconds: 0.0,
            is_own: false,
        }
    }

    /// Sets the seconds in which the number that is shown rolls to a new one.
    #[must_use]
    pub fn roll_seconds(mut self, seconds: f32) -> Self {
        self.roll_seconds = seconds;
        self
    }

    /// A value that is handed in, as it is taken: within its range.
    ///
    /// # Errors
    /// The problem, in a sentence: a value of another kind, or a point that is no place.
    pub(crate) fn clamped(&self, value: Value) -> Result<Value, String> {
        let name = &self.name;
        if !value.is_like(&self.start) {
            let (wanted, got) = (self.start.kind(), value.kind());
            return Err(format!("the value “{name}” is {wanted}, and not {got}"));
        }
        match value {
            Value::Number(number) => {
                let [least, most] = self.range.unwrap_or([f64::NEG_INFINITY, f64::INFINITY]);
                let number = match number.is_nan() {
                    true if least.is_finite() => least,
                    true => 0.0,
                    false => number,
                };
                Ok(Value::Number(number.clamp(least, most)))
            }
            Value::Point(point) if !(point.x.is_finite() && point.y.is_finite()) => Err(format!(
                "the point “{name}” is no place: {}, {}",
                point.x, point.y
            )),
            value => Ok(value),
        }
    }

    /// Sets the least and the largest number.
    #[must_use]
    pub fn range(mut self, least: f64, most: f64) -> Self {
        self.range = Some([least, most]);
        self
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
