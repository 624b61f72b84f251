//! Contents of elements.

use super::Gauge;
use crate::draw::RectStyle;
use crate::markup::{StyleChange, TextSource};
use crate::text::{Overflow, TextAlign, VerticalAlign, Wrap};

/// Content of an element.
#[derive(Clone, Debug, Default, PartialEq)]
#[non_exhaustive]
pub enum Content {
    /// Nothing: it holds its children.
    #[default]
    None,
    /// A text.
    Text(TextContent),
    /// A sprite in its own size, or in that of the element.
    Sprite(SpriteContent),
    /// A nine-slice sprite over all of the element.
    Panel(String),
    /// A sprite that is repeated over all of the element.
    Tiles(String),
    /// A rectangle: filled, outlined, rounded.
    Rect(RectStyle),
    /// A bar that shows a value from 0 to 1.
    Gauge(Gauge),
    /// A value as repeated sprites.
    Icons(IconRow),
    /// The line that is spoken in a scene:
    /// [`Screen::show_dialogue`](crate::screen::Screen::show_dialogue).
    Dialogue,
}

/// A text of a screen.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct TextContent {
    /// The text.
    pub source: TextSource,
    /// Name of its style; default: that of texts in the style file.
    pub style: Option<String>,
    /// Changes of that style for this text alone.
    pub style_changes: StyleChange,
    /// Alignment of its lines.
    pub align: TextAlign,
    /// Wrapping of its lines where the element is too narrow. Default: none.
    pub wrap: Wrap,
    /// Vertical alignment in an element that is higher than its lines.
    pub vertical_align: VerticalAlign,
    /// Treatment of text that does not fit.
    pub overflow: Overflow,
    /// The most lines; default: as many as it takes.
    pub max_lines: Option<usize>,
    /// Share of its size, from 0 to 1, that it may be made smaller to, to fit.
    pub shrink_to: Option<f32>,
    /// True if room is kept for the widest values of their ranges, so that nothing moves
    /// while they change.
    pub keep_room: bool,
}

impl TextContent {
    /// A text with markup.
    pub fn markup(text: &str) -> Self {
        Self::of(TextSource::Markup(text.to_owned()))
    }

    /// A text of the string tables, by its key.
    pub fn key(key: &str) -> Self {
        Self::of(TextSource::Key(key.to_owned()))
    }

    fn of(source: TextSource) -> Self {
        Self {
            source,
            style: None,
            style_changes: StyleChange::default(),
            align: TextAlign::Start,
            wrap: Wrap::None,
            vertical_align: VerticalAlign::Top,
            overflow: Overflow::Visible,
            max_lines: None,
            shrink_to: None,
            keep_room: false,
        }
    }
}

crate::base::setters! {
    TextContent {
        style_changes: StyleChange,
        align: TextAlign,
        wrap: Wrap,
        vertical_align: VerticalAlign,
        overflow: Overflow,
        keep_room: bool,
    }
    optional {
        style: String,
        max_lines: usize,
        shrink_to: f32,
    }
}

/// A sprite of a screen.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct SpriteContent {
    /// Name of the sprite; of one that moves the name before the numbers of its frames.
    pub name: String,
    /// Seconds of each frame, where it moves.
    pub frame_seconds: Option<f32>,
    /// The value whose text names the sprite instead, where there is one.
    pub value: Option<String>,
}

impl SpriteContent {
    /// A sprite that stands still.
    pub fn new(name: &str) -> Self {
        Self {
            name: name.to_owned(),
            frame_seconds: None,
            value: None,
        }
    }
}

crate::base::setters! {
    SpriteContent {
    }
    optional {
        frame_seconds: f32,
        value: String,
    }
}

/// A value as a row of sprites: three lanterns and a half.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct IconRow {
    /// The value, in icons.
    pub value: String,
    /// Sprite of a whole one.
    pub full: String,
    /// Sprite of a half one; default: the value is rounded to whole ones.
    pub half: Option<String>,
    /// Sprite of one that is not there; default: nothing is shown.
    pub empty: Option<String>,
    /// The number of icons.
    pub count: u16,
    /// Space between two of them, in design pixels.
    pub gap: f32,
}

impl IconRow {
    /// The most icons in a row.
    pub const MOST: u16 = 100;

    /// A row of a number of icons.
    pub fn new(value: &str, full: &str, count: u16) -> Self {
        Self {
            value: value.to_owned(),
            full: full.to_owned(),
            half: None,
            empty: None,
            count,
            gap: 0.0,
        }
    }
}

crate::base::setters! {
    IconRow {
        gap: f32,
    }
    optional {
        half: String,
        empty: String,
    }
}
