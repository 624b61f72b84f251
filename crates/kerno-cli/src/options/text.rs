//! A text, its look and its box.

use std::ffi::OsString;
use std::path::PathBuf;

use clap::Args;
use kerno::base::Edges;
use kerno::font::Tag;
use kerno::markup::{NumberFormat, NumberOptions, StyleFile};
use kerno::text::{
    Effect, LayoutOptions, LineHeight, Overflow, OverflowWrap, Plate, Span, VerticalAlign,
};
use kerno::{Color, Style, TextLayout};

use super::font::{FontArgs, open_font};
use super::parsers::{
    parse_feature, parse_length, parse_number, parse_part, parse_size, parse_tag,
};
use super::values::{
    AlignArg, DirectionArg, EdgesArg, LineBreakArg, OverflowArg, SignArg, VerticalArg,
    WhiteSpaceArg, WordBreakArg, WrapArg,
};
use crate::error::{CliError, in_font};
use crate::files::Files;
use crate::output::read_input_text;

/// Options of `measure` and of `render` alike: a text and its layout.
#[derive(Debug, Args)]
pub(crate) struct TextArgs {
    #[command(flatten)]
    pub(crate) font: FontArgs,
    /// The text; a line break in it starts a new line; - for standard input. Put -- before
    /// one that starts with a hyphen
    #[arg(value_name = "TEXT")]
    text: OsString,
    /// Design pixels per em, above 0 and at most 100000
    #[arg(long, value_name = "N", value_parser = parse_size, allow_hyphen_values = true)]
    pub(crate) size: f32,
    /// Alignment of lines that are shorter than the block
    #[arg(long, value_enum, default_value = "start")]
    align: AlignArg,
    /// Width of the block in design pixels; by default that of the longest line
    #[arg(long, value_name = "N", value_parser = parse_length, allow_hyphen_values = true)]
    width: Option<f32>,
    /// Space between clusters in design pixels; may be negative
    #[arg(long, value_name = "N", value_parser = parse_number, allow_hyphen_values = true,
        default_value = "0")]
    letter_spacing: f32,
    /// From baseline to baseline, as a multiple of the size; by default what
    /// the face asks for
    #[arg(long, value_name = "N", value_parser = parse_length, allow_hyphen_values = true)]
    line_height: Option<f32>,
    /// Smooth, or hard for pixel faces
    #[arg(long, value_enum, default_value = "smooth")]
    edges: EdgesArg,
    /// A font, by its file or its family, for what FONT lacks; may be given again
    #[arg(long, value_name = "FONT")]
    fallback: Vec<PathBuf>,
    /// An OpenType feature, such as tnum or liga=0; may be given again
    #[arg(long, value_name = "TAG[=VALUE]", value_parser = parse_feature)]
    feature: Vec<(Tag, u16)>,
    /// Digits all of one width
    #[arg(long)]
    tabular: bool,
    /// TEXT is a number, to be written as in this language: en, de-CH, ar-EG
    #[arg(long, value_name = "LANGUAGE")]
    number: Option<String>,
    /// Fewest digits before the point
    #[arg(long, value_name = "N", default_value_t = 1, requires = "number",
        value_parser = clap::value_parser!(u8).range(0..=NumberOptions::MOST_DIGITS as i64))]
    digits: u8,
    /// Digits after the point
    #[arg(long, value_name = "N", default_value_t = 0, requires = "number",
        value_parser = clap::value_parser!(u8).range(0..=NumberOptions::MOST_DIGITS as i64))]
    decimals: u8,
    /// Numbers that have a sign
    #[arg(long, value_enum, default_value = "negative", requires = "number")]
    sign: SignArg,
    /// Named styles and sprites, a .toml file: TEXT has markup then, such as
    /// @gold{Lamp oil} @icon(lantern); @@ is an at sign
    #[arg(long, value_name = "FILE", conflicts_with = "number")]
    styles: Option<PathBuf>,
    /// A line beneath the letters
    #[arg(long)]
    underline: bool,
    /// A line through the letters
    #[arg(long)]
    line_through: bool,
    /// The OpenType tag of the text's language, such as TRK
    #[arg(long, value_name = "TAG", value_parser = parse_tag)]
    language: Option<Tag>,
    /// Space added to every space in design pixels; may be negative
    #[arg(long, value_name = "N", value_parser = parse_number, allow_hyphen_values = true,
        default_value = "0")]
    word_spacing: f32,
    #[command(flatten)]
    block: BlockArgs,
}

/// The look of a text, as far as its measures do not depend on it.
#[derive(Debug)]
pub(crate) struct Look {
    pub(crate) color: Color,
    pub(crate) effects: Vec<Effect>,
    pub(crate) plate: Option<Plate>,
}

impl Look {
    /// For text that is measured and not seen.
    pub(crate) const PLAIN: Self = Self {
        color: Color::WHITE,
        effects: Vec::new(),
        plate: None,
    };
}

/// The box that a text fills.
#[derive(Debug, Args)]
struct BlockArgs {
    /// Height of the block in design pixels; by default that of its lines
    #[arg(long, value_name = "N", value_parser = parse_length, allow_hyphen_values = true)]
    height: Option<f32>,
    /// Alignment of the lines in a block that is higher
    #[arg(long, value_enum, default_value = "top")]
    vertical_align: VerticalArg,
    /// Place of the first baseline instead, in design pixels below the block's top
    #[arg(long, value_name = "N", value_parser = parse_number, allow_hyphen_values = true,
        conflicts_with = "vertical_align")]
    first_baseline: Option<f32>,
    /// Wrapping of lines that are longer than --width
    #[arg(long, value_enum, default_value = "greedy")]
    wrap: WrapArg,
    /// Treatment of text that does not fit
    #[arg(long, value_enum, default_value = "visible")]
    overflow: OverflowArg,
    /// Set text that does not fit smaller, down to this part of --size (above 0, at most 1)
    #[arg(long, value_name = "N", value_parser = parse_part)]
    shrink_to: Option<f32>,
    /// The most lines there may be
    #[arg(long, value_name = "N")]
    max_lines: Option<usize>,
    /// Direction of the text as a whole
    #[arg(long, value_enum, default_value = "auto")]
    direction: DirectionArg,
    /// Treatment of white space
    #[arg(long, value_enum, default_value = "keep")]
    white_space: WhiteSpaceArg,
    /// Strictness of the rules for line breaks
    #[arg(long, value_enum, default_value = "normal")]
    line_break: LineBreakArg,
    /// Line breaks within words
    #[arg(long, value_enum, default_value = "normal")]
    word_break: WordBreakArg,
    /// Let words that are longer than a line reach out
    #[arg(long)]
    keep_long_words: bool,
    /// Indent of the first line of a paragraph, in design pixels
    #[arg(long, value_name = "N", value_parser = parse_number, allow_hyphen_values = true,
        default_value = "0")]
    indent: f32,
    /// Space between paragraphs in design pixels
    #[arg(long, value_name = "N", value_parser = parse_length, default_value = "0")]
    paragraph_spacing: f32,
    /// From one tab stop to the next, in widths of a space
    #[arg(long, value_name = "N", value_parser = parse_length, default_value = "8")]
    tab_size: f32,
}

impl BlockArgs {
    fn options(&self, align: AlignArg, width: Option<f32>) -> LayoutOptions {
        LayoutOptions::default()
            .align(align.into())
            .width(width)
            .height(self.height)
            .vertical_align(
                self.first_baseline
                    .map_or(self.vertical_align.into(), VerticalAlign::FirstBaseline),
            )
            .wrap(self.wrap.into())
            .overflow(match self.overflow {
                OverflowArg::Visible => Overflow::Visible,
                OverflowArg::Clip => Overflow::Clip,
                OverflowArg::Ellipsis => Overflow::Ellipsis,
                OverflowArg::EllipsisAtStart => Overflow::EllipsisAtStart,
                OverflowArg::EllipsisInMiddle => Overflow::EllipsisInMiddle,
            })
            .shrink_to(self.shrink_to)
            .max_lines(self.max_lines)
            .direction(self.direction.into())
            .white_space(self.white_space.into())
            .line_break(self.line_break.into())
            .word_break(self.word_break.into())
            .overflow_wrap(if self.keep_long_words {
                OverflowWrap::Normal
            } else {
                OverflowWrap::BreakWord
            })
            .indent(self.indent)
            .paragraph_spacing(self.paragraph_spacing)
            .tab_size(self.tab_size)
    }
}

/// A text that is ready to be drawn.
pub(crate) struct LaidOut {
    pub(crate) layout: TextLayout,
    /// The style of what no named style changes.
    pub(crate) style: Style,
    /// The named styles.
    pub(crate) styles: StyleFile,
}

impl TextArgs {
    /// Opens the face and lays the text out.
    pub(crate) fn layout(&self, look: &Look, files: &Files) -> Result<LaidOut, CliError> {
        let typed = self.text.to_str().ok_or(CliError::NotUtf8("TEXT"))?;
        let input = match typed {
            "-" => Some(read_input_text()?),
            _ => None,
        };
        let text = input
            .as_deref()
            .map_or(typed, |input| input.trim_end_matches('\n'));
        let number = self
            .number
            .as_ref()
            .map(|language| self.written(text, language));
        let number = number.transpose()?;
        let text = number.as_deref().unwrap_or(text);
        let face = self.font.open(files)?;
        let (face, size) = face.for_size(self.size).map_err(in_font(&self.font.path))?;
        let open = |path: &PathBuf| open_font(path, 0, files);
        let fallback = self.fallback.iter().map(open).collect::<Result<_, _>>()?;
        let style = Style::new(&face, size)
            .color(look.color)
            .effects(look.effects.clone())
            .underline(self.underline)
            .line_through(self.line_through)
            .edges(match self.edges {
                EdgesArg::Smooth => Edges::Smooth,
                EdgesArg::Hard => Edges::Hard,
                EdgesArg::GridFitted => Edges::GridFitted,
                EdgesArg::DistanceField => Edges::DistanceField,
                EdgesArg::MultiChannelField => Edges::MultiChannelField,
            })
            .letter_spacing(self.letter_spacing)
            .word_spacing(self.word_spacing)
            .fallback(fallback)
            .features(self.feature.clone())
            .tabular(self.tabular)
            .language(self.language)
            .line_height(
                self.line_height
                    .map_or(LineHeight::Normal, LineHeight::Multiple),
            );
        let options = self.block.options(self.align, self.width).plate(look.plate);
        let styles = match &self.styles {
            Some(path) => StyleFile::from_file_through(path, |_| None, &files.of(path)?)?,
            None => StyleFile::default(),
        };
        let layout = if self.styles.is_some() {
            let read = styles.markup().read(text, &style)?;
            TextLayout::with_options(&read.spans(), &options)
        } else {
            TextLayout::with_options(&[Span::new(text, &style)], &options)
        };
        Ok(LaidOut {
            layout: layout.map_err(in_font(&self.font.path))?,
            style,
            styles,
        })
    }
}

impl TextArgs {
    /// A number as a language writes it.
    fn written(&self, text: &str, language: &str) -> Result<String, CliError> {
        let value: f64 = text
            .trim()
            .parse()
            .map_err(|_| CliError::NotANumber(text.to_owned()))?;
        let options = NumberOptions::default()
            .digits(self.digits)
            .decimals(self.decimals)
            .sign(self.sign.into());
        Ok(NumberFormat::new(language, options)?.format(value))
    }
}
