//! A part of a text as it was asked for.

use super::{InlineSprite, Span, Style};

/// A part of a text as it was asked for.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct OwnedSpan {
    /// The number of bytes of the text it is.
    pub(crate) length: usize,
    /// Its style, before it is fitted to the sizes that a bitmap strike has.
    pub(crate) style: Style,
    /// The sprite that it is, where it is no text.
    pub(crate) sprite: Option<InlineSprite>,
}

impl OwnedSpan {
    pub(crate) fn of(span: &Span<'_>) -> Self {
        Self {
            length: span.text().len(),
            style: span.style.clone(),
            sprite: span.own_sprite().cloned(),
        }
    }

    /// Parts that one after the other make up a text, as spans of it.
    pub(crate) fn spans<'a>(parts: &'a [Self], text: &'a str) -> Vec<Span<'a>> {
        let mut start = 0;
        let span = |part: &'a Self| {
            let own = &text[start..];
            start += part.length;
            part.span(own)
        };
        parts.iter().map(span).collect()
    }

    /// The part as a span of the text that it is of, which is `text` from its start on.
    pub(crate) fn span<'a>(&'a self, text: &'a str) -> Span<'a> {
        match &self.sprite {
            Some(sprite) => Span::sprite(sprite, &self.style),
            None => Span::new(&text[..self.length], &self.style),
        }
    }
}
