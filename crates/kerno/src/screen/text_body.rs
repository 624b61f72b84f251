//! A text of a screen: its forms, its layout, and the size that it asks for.

use icu_plurals::PluralRules;

use super::element::TextContent;
use crate::base::Size;
use crate::markup::{PartContent, Template, Value, ValueDeclaration, chosen};
use crate::text::{Direction, LayoutContext, LayoutOptions, TextError, TextLayout, Wrap};

/// A text of a screen.
#[derive(Debug)]
pub(super) struct TextBody {
    /// Templates with the names of their forms; one without a name where there is but one.
    forms: Vec<Template>,
    names: Vec<String>,
    /// The value that chooses a form.
    by: Option<usize>,
    shown: usize,
    options: LayoutOptions,
    pub(super) layout: TextLayout,
    /// The number of its clusters that are shown, from the first on.
    pub(super) visible: usize,
    /// The size that it asks for on one line, or on those that it has.
    pub(super) wanted: Size,
    /// Room that is kept for the widest values.
    kept: Size,
    keeps_room: bool,
    /// Scale of what a reader asks for.
    text_scale: f32,
}

/// Parts of a text.
pub(super) struct TextParts<'a> {
    pub(super) content: &'a TextContent,
    pub(super) forms: Vec<Template>,
    pub(super) names: Vec<String>,
    pub(super) by: Option<usize>,
    pub(super) is_rtl: bool,
}

impl TextBody {
    pub(super) fn new(
        parts: TextParts<'_>,
        values: &[Value],
        rules: Option<&PluralRules>,
        context: &mut LayoutContext,
    ) -> Result<Self, TextError> {
        let TextParts {
            content,
            forms,
            names,
            by,
            is_rtl,
        } = parts;
        let direction = match is_rtl {
            true => Direction::RightToLeft,
            false => Direction::Auto,
        };
        let options = LayoutOptions {
            align: content.align,
            wrap: content.wrap,
            vertical_align: content.vertical_align,
            overflow: content.overflow,
            max_lines: content.max_lines,
            shrink_to: content.shrink_to,
            direction,
            ..LayoutOptions::default()
        };
        let mut body = Self {
            forms,
            names,
            by,
            shown: 0,
            options,
            layout: TextLayout::with_options(&[], &LayoutOptions::default())?,
            visible: usize::MAX,
            wanted: Size::default(),
            kept: Size::default(),
            keeps_room: content.keep_room,
            text_scale: 1.0,
        };
        body.lay_out(values, rules, context)?;
        Ok(body)
    }

    /// The values in any of its forms, by their numbers.
    pub(super) fn values(&self) -> impl Iterator<Item = usize> {
        let inside = self.forms.iter().flat_map(Template::values);
        inside.chain(self.by)
    }

    /// Returns whether some letters of some form come from no face.
    pub(super) fn missing(&self) -> usize {
        self.layout.missing().len()
    }

    /// Sets the reader's scale of text; returns whether it changed.
    pub(super) fn set_text_scale(&mut self, scale: f32) -> bool {
        if self.text_scale == scale {
            return false;
        }
        let by = scale / self.text_scale;
        for part in self.forms.iter_mut().flat_map(|form| &mut form.parts) {
            part.style = part.style.scaled(by);
            if let PartContent::Sprite(sprite) = &mut part.content {
                sprite.height *= by;
            }
        }
        self.text_scale = scale;
        true
    }

    /// Lays the text out anew, in its form for the values at hand.
    pub(super) fn lay_out(
        &mut self,
        values: &[Value],
        rules: Option<&PluralRules>,
        context: &mut LayoutContext,
    ) -> Result<(), TextError> {
        self.shown = self.form(values, rules);
        for part in &mut self.forms[self.shown].parts {
            if let PartContent::Value(bound) = &part.content {
                bound.write(&values[bound.value], &mut part.text);
            }
        }
        let spans = self.forms[self.shown].spans();
        self.layout = context.lay_out(&spans, &self.free())?;
        self.wanted = self.layout.size();
        Ok(())
    }

    /// Takes a new value in; returns whether the size that it asks for changed.
    pub(super) fn change(
        &mut self,
        value: usize,
        values: &[Value],
        rules: Option<&PluralRules>,
        context: &mut LayoutContext,
    ) -> Result<bool, TextError> {
        let before = self.wanted;
        if self.by == Some(value) && self.form(values, rules) != self.shown {
            self.lay_out(values, rules, context)?;
            return Ok(true);
        }
        let mut changed = false;
        for (span, part) in self.forms[self.shown].parts.iter_mut().enumerate() {
            let PartContent::Value(bound) = &part.content else {
                continue;
            };
            if bound.value != value {
                continue;
            }
            bound.write(&values[value], &mut part.text);
            context.set_text(&mut self.layout, span as u32, &part.text)?;
            changed = true;
        }
        if !changed {
            return Ok(false);
        }
        if self.options.wrap != Wrap::None {
            return Ok(true);
        }
        let lines = self.layout.lines().iter().map(|line| line.width);
        let is_whole = self.layout.truncated_at().is_none() && self.options.shrink_to.is_none();
        self.wanted.width = match is_whole {
            true => lines.fold(0.0, f32::max),
            // Shortened lines say nothing of what they would be.
            false => self.layout.max_content_width(),
        };
        Ok(before != self.wanted)
    }

    /// Keeps room for the widest of some values.
    pub(super) fn keep_room(
        &mut self,
        values: &[ValueDeclaration],
        rules: Option<&PluralRules>,
        context: &mut LayoutContext,
    ) -> Result<(), TextError> {
        if !self.keeps_room {
            return Ok(());
        }
        let start: Vec<Value> = values.iter().map(|value| value.start.clone()).collect();
        self.kept = Size::default();
        let own: Vec<usize> = self.values().collect();
        for value in own {
            let Some(range) = values[value].range else {
                continue;
            };
            let mut trial = start.clone();
            for number in widest(range) {
                trial[value] = Value::Number(number);
                self.lay_out(&trial, rules, context)?;
                self.kept.width = self.kept.width.max(self.wanted.width);
                self.kept.height = self.kept.height.max(self.wanted.height);
            }
        }
        self.lay_out(&start, rules, context)
    }

    /// The size that it asks for in a width, or as it likes.
    pub(super) fn measured(
        &mut self,
        width: Option<f32>,
        context: &mut LayoutContext,
    ) -> Result<Size, TextError> {
        let mut size = self.wanted;
        if let Some(width) = width.filter(|_| self.options.wrap != Wrap::None) {
            let options = self.free().width(width.max(0.0));
            context.relayout(&mut self.layout, &options)?;
            // As wide as its longest line.
            size = self.layout.size();
            size.width = size.width.min(self.wanted.width);
        }
        Ok(Size::new(
            size.width.max(self.kept.width),
            size.height.max(self.kept.height),
        ))
    }

    pub(super) fn min_content_width(&self) -> f32 {
        match self.options.wrap {
            Wrap::None => self.wanted.width.max(self.kept.width),
            _ => self.layout.min_content_width(),
        }
    }

    /// Puts the text in its box.
    pub(super) fn place(
        &mut self,
        size: Size,
        context: &mut LayoutContext,
    ) -> Result<(), TextError> {
        // Rounding is no reason to break a line.
        let fits = self.wanted.width <= size.width + 0.01;
        let width = if fits {
            size.width.max(self.wanted.width)
        } else {
            size.width
        };
        let options = self.options.width(width).height(size.height);
        context.relayout(&mut self.layout, &options)
    }

    fn free(&self) -> LayoutOptions {
        self.options.width(None).height(None)
    }

    fn form(&self, values: &[Value], rules: Option<&PluralRules>) -> usize {
        let by = self.by.map(|by| &values[by]);
        let form = by.and_then(|value| chosen(&self.names, value, rules));
        form.unwrap_or(0)
    }
}

/// Numbers of a range among which the widest are: its ends, and of as many digits nines,
/// eights and zeros.
pub(super) fn widest([least, most]: [f64; 2]) -> Vec<f64> {
    let mut numbers = vec![least, most];
    for end in [least, most] {
        let digits = end.abs().max(1.0).log10().floor();
        for digit in [8.0, 9.0] {
            let repeated = digit * (10f64.powf(digits + 1.0) - 1.0) / 9.0;
            for number in [repeated, (repeated / 10.0).floor()] {
                let number = number.copysign(end);
                if number >= least && number <= most {
                    numbers.push(number);
                }
            }
        }
    }
    numbers
}
