//! Texts with values in them.

use std::cell::RefCell;
use std::sync::Arc;

use super::{Markup, NumberFormat, NumberOptions, NumberSign, StyledText, Value, ValueDeclaration};
use crate::base::hint;
use crate::text::{InlineSprite, Mark, Span, Style};

/// A text whose values are parts of their own, each a span of its layout.
#[derive(Debug)]
pub(crate) struct Template {
    pub(crate) parts: Vec<Part>,
}

/// A part of a text in one style.
#[derive(Debug)]
pub(crate) struct Part {
    pub(crate) content: PartContent,
    pub(crate) style: Style,
    /// Its present text.
    pub(crate) text: String,
}

#[derive(Debug)]
pub(crate) enum PartContent {
    Fixed,
    Sprite(InlineSprite),
    Value(BoundValue),
}

/// A value as it is written in a text.
#[derive(Debug)]
pub(crate) struct BoundValue {
    /// Its number among the values of the screen.
    pub(crate) value: usize,
    format: Arc<NumberFormat>,
    /// Factor of a number before it is written: 100 for percent.
    times: f64,
}

/// The ways in which a screen writes numbers, each made once.
#[derive(Debug)]
pub(crate) struct Formats {
    language: String,
    made: RefCell<Vec<(NumberOptions, Arc<NumberFormat>)>>,
}

impl Formats {
    pub(crate) fn new(language: &str) -> Self {
        Self {
            language: language.to_owned(),
            made: RefCell::new(Vec::new()),
        }
    }

    fn get(&self, options: NumberOptions) -> Result<Arc<NumberFormat>, String> {
        let mut made = self.made.borrow_mut();
        if let Some((_, format)) = made.iter().find(|(known, _)| *known == options) {
            return Ok(format.clone());
        }
        let format = NumberFormat::new(&self.language, options);
        let format = Arc::new(format.map_err(|error| error.to_string())?);
        made.push((options, format.clone()));
        Ok(format)
    }
}

/// The mark that a value stands for: `@value(fares, digits=5)`.
pub(crate) const VALUE: &str = "value";

impl BoundValue {
    /// Writes a value.
    pub(crate) fn write(&self, value: &Value, into: &mut String) {
        into.clear();
        match value {
            Value::Number(number) => self.format.write(number * self.times, into),
            Value::Text(text) => into.push_str(text),
            Value::Flag(flag) => into.push_str(if *flag { "yes" } else { "no" }),
            // Refused where the text is read.
            Value::Point(_) => {}
        }
    }
}

impl Part {
    fn span(&self) -> Span<'_> {
        match &self.content {
            PartContent::Sprite(sprite) => Span::sprite(sprite, &self.style),
            _ => Span::new(&self.text, &self.style),
        }
    }
}

impl Template {
    /// Reads a text with markup whose values are those of a screen, in a language.
    ///
    /// # Errors
    /// The problem, in a sentence.
    pub(crate) fn read(
        source: &str,
        (markup, base): (&Markup, &Style),
        values: &[ValueDeclaration],
        formats: &Formats,
    ) -> Result<Self, String> {
        let read = markup
            .read(source, base)
            .map_err(|error| error.to_string())?;
        let mut template = Self { parts: Vec::new() };
        let mut marks = read
            .marks()
            .iter()
            .filter(|mark| mark.name == VALUE)
            .peekable();
        let mut start = 0;
        for part in read.parts() {
            let end = start + part.length;
            if let Some(sprite) = &part.sprite {
                while let Some(mark) = marks.next_if(|mark| mark.bytes.start <= start) {
                    template.add_value(mark, &part.style, values, formats)?;
                }
                template.add(PartContent::Sprite(sprite.clone()), &part.style, "");
                start = end;
                continue;
            }
            let mut from = start;
            while let Some(mark) =
                marks.next_if(|mark| mark.bytes.start < end || mark.bytes.start == from)
            {
                template.add_text(&read, from..mark.bytes.start, &part.style);
                from = mark.bytes.start;
                template.add_value(mark, &part.style, values, formats)?;
            }
            template.add_text(&read, from..end, &part.style);
            start = end;
        }
        let style = template
            .parts
            .last()
            .map_or_else(|| base.clone(), |part| part.style.clone());
        for mark in marks {
            template.add_value(mark, &style, values, formats)?;
        }
        if template.parts.is_empty() {
            template.add(PartContent::Fixed, base, "");
        }
        Ok(template)
    }

    fn add(&mut self, content: PartContent, style: &Style, text: &str) {
        self.parts.push(Part {
            content,
            style: style.clone(),
            text: text.to_owned(),
        });
    }

    fn add_text(&mut self, read: &StyledText, part: std::ops::Range<usize>, style: &Style) {
        if !part.is_empty() {
            self.add(PartContent::Fixed, style, &read.text()[part]);
        }
    }

    fn add_value(
        &mut self,
        mark: &Mark,
        style: &Style,
        values: &[ValueDeclaration],
        formats: &Formats,
    ) -> Result<(), String> {
        let bound = bound(mark, values, formats)?;
        let mut text = String::new();
        bound.write(&values[bound.value].start, &mut text);
        self.add(PartContent::Value(bound), style, &text);
        Ok(())
    }

    /// The values in it, by their numbers.
    pub(crate) fn values(&self) -> impl Iterator<Item = usize> {
        self.parts.iter().filter_map(|part| match &part.content {
            PartContent::Value(bound) => Some(bound.value),
            _ => None,
        })
    }

    /// Its parts as they are laid out.
    pub(crate) fn spans(&self) -> Vec<Span<'_>> {
        self.parts.iter().map(Part::span).collect()
    }
}

/// A value with its format: `@value(fares, digits=5, grouping=no)`.
fn bound(
    mark: &Mark,
    values: &[ValueDeclaration],
    formats: &Formats,
) -> Result<BoundValue, String> {
    let [(None, name), options @ ..] = mark.arguments.as_slice() else {
        return Err("`@value(…)` begins with the name of a value: @value(fares)".to_owned());
    };
    let value = values.iter().position(|value| value.name == *name);
    let value = value.ok_or_else(|| {
        let names = values.iter().map(|value| value.name.as_str());
        format!("there is no value “{name}”{}", hint(name, names))
    })?;
    if let Value::Point(_) = values[value].start {
        return Err(format!(
            "the value “{name}” is a point, and no text shows it"
        ));
    }
    let mut format = NumberOptions::default();
    let mut times = 1.0;
    for (key, text) in options {
        let wrong = |wanted: &str| format!("`{text}` is no {wanted}, as `@value({name})` takes it");
        let count = || text.parse::<u8>().map_err(|_| wrong("number of digits"));
        match key.as_deref() {
            Some("digits") => format.digits = count()?,
            Some("decimals") => format.decimals = count()?,
            Some("times") => times = text.parse().map_err(|_| wrong("number"))?,
            Some("grouping") => {
                format.grouping = match text.as_str() {
                    "yes" => true,
                    "no" => false,
                    _ => return Err(wrong("“yes” or “no”")),
                }
            }
            Some("sign") => {
                format.sign = match text.as_str() {
                    "negative" => NumberSign::Negative,
                    "always" => NumberSign::Always,
                    "except-zero" => NumberSign::ExceptZero,
                    "never" => NumberSign::Never,
                    _ => return Err(wrong("“negative”, “always”, “except-zero” or “never”")),
                }
            }
            _ => {
                let key = key.as_deref().unwrap_or(text);
                return Err(format!(
                    "`@value({name})` has no option “{key}”; there are digits, decimals, grouping, sign, times"
                ));
            }
        }
    }
    let format = formats.get(format)?;
    Ok(BoundValue {
        value,
        format,
        times,
    })
}

/// The text of a value that a mark asks for.
///
/// # Errors
/// The problem, in a sentence.
pub(crate) fn value_text(
    mark: &Mark,
    (declared, values): (&[ValueDeclaration], &[Value]),
    formats: &Formats,
) -> Result<String, String> {
    let bound = bound(mark, declared, formats)?;
    let mut text = String::new();
    bound.write(&values[bound.value], &mut text);
    Ok(text)
}
