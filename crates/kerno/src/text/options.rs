//! Options for the box of a text.

use super::Plate;
use icu_segmenter::options::{LineBreakStrictness, LineBreakWordOption};

/// Options for how a text fills its box, as CSS Text and CSS Overflow have it.
///
/// ```no_run
/// use kerno::text::{LayoutOptions, Overflow, Span, TextAlign, Wrap};
/// use kerno::{Face, Style, TextLayout};
/// let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let style = Style::new(&face, 16.0);
/// let options = LayoutOptions::default()
///     .width(240.0)
///     .wrap(Wrap::Balanced)
///     .align(TextAlign::Center)
///     .max_lines(3)
///     .overflow(Overflow::Ellipsis);
/// let spans = [Span::new("Fog bank ahead, ring two bells", &style)];
/// let message = TextLayout::with_options(&spans, &options)?;
/// # let _ = message;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct LayoutOptions {
    /// Horizontal alignment of lines that are shorter than the block.
    pub align: TextAlign,
    /// The block's width in design pixels, 0 or more; by default that of its
    /// longest line. Lines wrap at it as [`LayoutOptions::wrap`] says.
    pub width: Option<f32>,
    /// The block's height in design pixels, 0 or more; by default that of its lines.
    pub height: Option<f32>,
    /// Vertical alignment of the lines in a block that is higher than they are.
    pub vertical_align: VerticalAlign,
    /// Line wrapping, where a line is longer than the block is wide.
    pub wrap: Wrap,
    /// Treatment of text that does not fit the block.
    pub overflow: Overflow,
    /// Sets text that does not fit smaller until it does, down to this many times its
    /// size; above 0, at most 1. Words are not broken for that. What does not fit at the
    /// least size is broken and treated as the other options say.
    pub shrink_to: Option<f32>,
    /// The most lines there may be; what is more does not fit. None: any number.
    pub max_lines: Option<usize>,
    /// Direction of the text as a whole; by default that of its first letter.
    pub direction: Direction,
    /// True if white space is kept as it is.
    pub white_space: WhiteSpace,
    /// Strictness of line breaks in Chinese and Japanese.
    pub line_break: LineBreak,
    /// True if words may be broken.
    pub word_break: WordBreak,
    /// True if a word that is longer than a line is broken anywhere.
    pub overflow_wrap: OverflowWrap,
    /// The distance the first line of each paragraph is moved in, in design pixels.
    pub indent: f32,
    /// Space between paragraphs, in design pixels.
    pub paragraph_spacing: f32,
    /// From one tab stop to the next, in widths of a space; 0 or more. A tab is never
    /// narrower than half of a zero.
    pub tab_size: f32,
    /// The ground behind the whole block.
    pub plate: Option<Plate>,
}

crate::base::setters! {
    LayoutOptions {
        align: TextAlign,
        vertical_align: VerticalAlign,
        wrap: Wrap,
        overflow: Overflow,
        direction: Direction,
        white_space: WhiteSpace,
        line_break: LineBreak,
        word_break: WordBreak,
        overflow_wrap: OverflowWrap,
        indent: f32,
        paragraph_spacing: f32,
        tab_size: f32,
    }
    optional {
        width: f32,
        height: f32,
        shrink_to: f32,
        max_lines: usize,
        plate: Plate,
    }
}

impl LayoutOptions {
    pub(super) fn shrinks(&self) -> bool {
        self.shrink_to.is_some()
    }
}

impl Default for LayoutOptions {
    fn default() -> Self {
        Self {
            align: TextAlign::Start,
            width: None,
            height: None,
            vertical_align: VerticalAlign::Top,
            wrap: Wrap::Greedy,
            overflow: Overflow::Visible,
            shrink_to: None,
            max_lines: None,
            direction: Direction::Auto,
            white_space: WhiteSpace::Keep,
            line_break: LineBreak::Normal,
            word_break: WordBreak::Normal,
            overflow_wrap: OverflowWrap::BreakWord,
            indent: 0.0,
            paragraph_spacing: 0.0,
            tab_size: 8.0,
            plate: None,
        }
    }
}

/// Horizontal alignment of lines that are shorter than the block (CSS `text-align`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum TextAlign {
    /// To the side where reading starts.
    #[default]
    Start,
    /// To the middle.
    Center,
    /// To the side where reading ends.
    End,
    /// From side to side: spaces grow, but in the last line of a paragraph.
    Justify,
}

impl TextAlign {
    /// The share of a line's free space that goes to the left of it.
    pub(super) fn share(self, is_rtl: bool) -> f32 {
        let share = match self {
            Self::Start | Self::Justify => 0.0,
            Self::Center => 0.5,
            Self::End => 1.0,
        };
        if is_rtl { 1.0 - share } else { share }
    }
}

/// Vertical alignment of lines in a block that is higher than they are.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
pub enum VerticalAlign {
    /// To the top.
    #[default]
    Top,
    /// To the middle, by the metrics of the faces: text that changes stays where it
    /// is.
    Middle,
    /// To the bottom.
    Bottom,
    /// To the middle by the ink: a digit in a badge is centred to the eye.
    MiddleOfInk,
    /// To the middle by the capitals: half-way between the top of those in the first line
    /// and the last baseline, so that “Play” and “PLAY” sit alike on buttons.
    MiddleOfCapitals,
    /// Wherever the first baseline is that many design pixels below the block's top:
    /// texts in several sizes stand on one line when they are given the same.
    FirstBaseline(f32),
}

/// Line wrapping (CSS `text-wrap`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum Wrap {
    /// Nowhere but at line breaks.
    None,
    /// Each line takes as much as it can.
    #[default]
    Greedy,
    /// As many lines as with `Greedy`, all about as long: for titles and messages.
    Balanced,
    /// The lines that together are the evenest: for justified text.
    Optimal,
}

/// Treatment of text that does not fit its block (CSS `overflow` and
/// `text-overflow`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum Overflow {
    /// It is there and reaches out.
    #[default]
    Visible,
    /// It is cut off at the block's border.
    Clip,
    /// The last line that fits ends with an ellipsis; lines that do not fit are
    /// left out.
    Ellipsis,
    /// The text begins with an ellipsis: of several lines the last ones stay, with the
    /// end of the text.
    EllipsisAtStart,
    /// The ellipsis stands in the middle: both ends stay.
    EllipsisInMiddle,
}

/// Direction of a text as a whole (UAX #9, the paragraph level).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum Direction {
    /// As its first letter that has a direction (rules P2 and P3).
    #[default]
    Auto,
    /// From left to right.
    LeftToRight,
    /// From right to left.
    RightToLeft,
}

/// True if white space is kept (CSS `white-space-collapse`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum WhiteSpace {
    /// As it is.
    #[default]
    Keep,
    /// Spaces, tabs and line breaks in a row are one space; none at the ends.
    Collapse,
}

/// Strictness of line breaks (CSS `line-break`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum LineBreak {
    /// The fewest rules: for short lines.
    Loose,
    /// The usual ones.
    #[default]
    Normal,
    /// No line begins with a small kana.
    Strict,
    /// Between any two clusters.
    Anywhere,
}

impl LineBreak {
    pub(super) fn strictness(self) -> LineBreakStrictness {
        match self {
            Self::Loose => LineBreakStrictness::Loose,
            Self::Normal => LineBreakStrictness::Normal,
            Self::Strict => LineBreakStrictness::Strict,
            Self::Anywhere => LineBreakStrictness::Anywhere,
        }
    }
}

/// True if words may be broken (CSS `word-break`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum WordBreak {
    /// As each script does.
    #[default]
    Normal,
    /// Letters of all scripts break like Han.
    BreakAll,
    /// Han and Kana do not break either.
    KeepAll,
}

impl WordBreak {
    pub(super) fn option(self) -> LineBreakWordOption {
        match self {
            Self::Normal => LineBreakWordOption::Normal,
            Self::BreakAll => LineBreakWordOption::BreakAll,
            Self::KeepAll => LineBreakWordOption::KeepAll,
        }
    }
}

/// True if a word that is longer than a line is broken (CSS `overflow-wrap`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum OverflowWrap {
    /// It reaches out.
    Normal,
    /// It is broken between two clusters, where there is no better place.
    #[default]
    BreakWord,
}
