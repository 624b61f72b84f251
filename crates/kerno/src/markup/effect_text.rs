//! Effects in a line of text.

use std::str::FromStr;

use thiserror::Error;

use super::EffectRecord;
use crate::base::{Color, parse};
use crate::text::Effect;

/// A line that is no effect, and why.
#[derive(Clone, Debug, Error, PartialEq, Eq)]
#[error("{problem}")]
#[non_exhaustive]
pub struct EffectTextError {
    problem: String,
}

impl EffectTextError {
    /// A stable name for programs.
    pub fn code(&self) -> &'static str {
        "effect-text"
    }
}

/// Reads a kind and its numbers, by the names that they have in a style file: commas
/// between the parts of an offset, no quotation marks.
///
/// ```
/// use kerno::{Color, Offset};
/// use kerno::text::Effect;
/// let effect: Effect = "shadow offset=1,2 blur=3 color=#000a".parse()?;
/// let same = Effect::shadow(Offset::new(1.0, 2.0), 3.0, Color::BLACK.with_alpha(170));
/// assert_eq!(effect, same);
/// # Ok::<(), kerno::markup::EffectTextError>(())
/// ```
impl FromStr for Effect {
    type Err = EffectTextError;

    fn from_str(text: &str) -> Result<Self, EffectTextError> {
        let wrong = |problem: String| EffectTextError { problem };
        let mut words = words(text).into_iter();
        let kind = words.next().filter(|kind| is_name(kind));
        let kind = kind.ok_or_else(|| wrong(KINDS.to_owned()))?;
        let mut fields = Vec::new();
        for word in words {
            let Some((name, value)) = word.split_once('=').filter(|(name, _)| is_name(name)) else {
                let problem = format!("“{word}” must be a name and a value, such as blur=3");
                return Err(wrong(problem));
            };
            fields.push(format!("{name} = {}", value_of(value)));
        }
        let toml = format!("{kind} = {{ {} }}", fields.join(", "));
        let record: EffectRecord = parse(&toml).map_err(|fault| {
            let unknown = format!("unknown variant `{kind}`");
            let is_kind = fault.problem.starts_with(&unknown);
            wrong(if is_kind {
                KINDS.to_owned()
            } else {
                fault.problem
            })
        })?;
        record.effect(
            |color| {
                let color = color.get_ref().parse::<Color>();
                color.map_err(|error| wrong(error.to_string()))
            },
            wrong,
        )
    }
}

const KINDS: &str = "an effect begins with fill, outline, shadow or glow";

fn is_name(text: &str) -> bool {
    let is_letter = |byte: u8| byte.is_ascii_lowercase() || byte == b'-';
    !text.is_empty() && text.bytes().all(is_letter)
}

/// The words of a line; spaces within parentheses part none.
fn words(text: &str) -> Vec<&str> {
    let mut depth = 0_u32;
    let parts = text.split(move |letter: char| {
        match letter {
            '(' => depth += 1,
            ')' => depth = depth.saturating_sub(1),
            _ => {}
        }
        letter.is_whitespace() && depth == 0
    });
    parts.filter(|word| !word.is_empty()).collect()
}

/// A value as TOML: a number, numbers with commas between them, or a text.
fn value_of(value: &str) -> String {
    let is_number = |text: &str| text.parse::<f32>().is_ok_and(f32::is_finite);
    // Numbers in TOML have a digit on both sides of the point.
    let number = |text: &str| format!("{:?}", text.parse::<f64>().unwrap_or_default());
    let parts: Vec<&str> = value.split(',').collect();
    match parts[..] {
        [one] if is_number(one) => number(one),
        [_, _, ..] if parts.iter().all(|part| is_number(part)) => {
            let numbers: Vec<String> = parts.iter().map(|part| number(part)).collect();
            format!("[{}]", numbers.join(", "))
        }
        _ => toml::Value::String(value.to_owned()).to_string(),
    }
}
