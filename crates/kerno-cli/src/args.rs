//! The command line.

use std::ffi::{OsStr, OsString};
use std::io::Read;
use std::path::{Path, PathBuf};
use std::str::FromStr;

use clap::builder::TypedValueParser;
use clap::error::ErrorKind;
use clap::{Args, Parser, Subcommand, ValueEnum};
use kerno::base::{Edges, Limits};
use kerno::font::{FontError, Synthesis, Tag};
use kerno::installed::{FaceQuery, InstalledFonts};
use kerno::markup::{NumberFormat, NumberOptions, NumberSign, StyleFile};
use kerno::text::{
    Direction, Effect, LayoutOptions, LineBreak, LineHeight, Overflow, OverflowWrap, Plate, Span,
    TextAlign, VerticalAlign, WhiteSpace, WordBreak, Wrap,
};
use kerno::{Color, DeviceSize, Face, Style, TextLayout};

use crate::error::{CliError, in_font};

/// Text and interface pictures for a game's screen: look into fonts, measure and
/// render text, bake glyphs and sprites, draw a whole HUD
#[derive(Debug, Parser)]
#[command(name = "kerno", version, max_term_width = 100)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Tell what is in a font: names, metrics, tables, characters
    Inspect(InspectArgs),
    /// List the fonts installed on this system
    Fonts(FontsArgs),
    /// Measure a text: where every glyph stands, before anything is drawn
    Measure(MeasureArgs),
    /// Render a text to a PNG
    Render(RenderArgs),
    /// Draw a proof of one or several fonts to a PNG, to judge and choose by
    Proof(ProofArgs),
    /// Write a font at one size as BDF or as a picture sheet, to touch it up
    Convert(ConvertArgs),
    /// Draw the glyphs and sprites that a manifest names onto texture pages
    Bake(BakeArgs),
    /// Draw the demo HUD, the Lamplight Ferry, to a PNG
    Demo(DemoArgs),
}

#[derive(Debug, Args)]
pub(crate) struct InspectArgs {
    #[command(flatten)]
    pub(crate) font: FontArgs,
}

#[derive(Debug, Args)]
pub(crate) struct FontsArgs {
    /// List only families whose name holds this; upper and lower case are the same
    #[arg(value_name = "PATTERN")]
    pub(crate) pattern: Option<String>,
    /// Look through this folder instead of the system's; may be given again
    #[arg(long, value_name = "FOLDER")]
    pub(crate) folder: Vec<PathBuf>,
}

/// Which face.
#[derive(Debug, Args)]
pub(crate) struct FontArgs {
    /// A font file: TrueType, OpenType, a collection of them, WOFF, BDF, PCF, PSF,
    /// or the .toml of a picture sheet; - for standard input
    #[arg(value_name = "FONT")]
    pub(crate) path: PathBuf,
    /// Which face of a collection, counted from 0
    #[arg(long, value_name = "N", default_value = "0")]
    face: u32,
    /// Set an axis of a variable font, such as wght=700; may be given again
    #[arg(long, value_name = "AXIS=VALUE", value_parser = parse_axis)]
    axis: Vec<(Tag, f32)>,
    /// Make the face bold from its outlines; a drawn bold is better
    #[arg(long)]
    bold: bool,
    /// Slant the face from its outlines; a drawn italic is better
    #[arg(long)]
    slant: bool,
}

impl FontArgs {
    pub(crate) fn open(&self) -> Result<Face, CliError> {
        let mut face = if self.path.as_os_str() == "-" {
            self.open_input()?
        } else {
            Face::from_file_with(&self.path, self.face, Limits::default())
                .map_err(|error| with_families(&self.path, error))?
        };
        if !self.axis.is_empty() {
            face = face.instance(&self.axis).map_err(in_font(&self.path))?;
        }
        if self.bold || self.slant {
            let pick = |wanted: bool, made: f32| if wanted { made } else { 0.0 };
            let synthesis = Synthesis {
                embolden: pick(self.bold, Synthesis::BOLD.embolden),
                slant: pick(self.slant, Synthesis::OBLIQUE.slant),
            };
            face = face.synthesized(synthesis).map_err(in_font(&self.path))?;
        }
        Ok(face)
    }
}

impl FontArgs {
    /// Reads a font from standard input.
    fn open_input(&self) -> Result<Face, CliError> {
        let limits = Limits::default();
        let mut bytes = Vec::new();
        let mut input = std::io::stdin().lock().take(limits.file_bytes + 1);
        input.read_to_end(&mut bytes).map_err(CliError::Input)?;
        if bytes.len() as u64 > limits.file_bytes {
            return Err(CliError::LongInput(limits.file_bytes));
        }
        let face = Face::from_bytes_with(bytes, self.face, limits);
        face.map_err(in_font(&self.path))
    }
}

/// Says which installed family a path may have meant that is no file.
fn with_families(path: &Path, error: FontError) -> CliError {
    let is_gone = matches!(&error, FontError::Io { source, .. }
        if source.kind() == std::io::ErrorKind::NotFound);
    let name = path.to_string_lossy();
    if !is_gone || name.contains(['/', '.']) {
        return error.into();
    }
    let fonts = InstalledFonts::from_system_folders();
    match fonts.find(&FaceQuery::new(&name)) {
        Ok(face) => {
            CliError::FamilyForFile(name.into_owned(), face.family.clone(), face.path.clone())
        }
        Err(_) => error.into(),
    }
}

/// What `measure` and `render` share: a text and how it is laid out.
#[derive(Debug, Args)]
pub(crate) struct TextArgs {
    #[command(flatten)]
    pub(crate) font: FontArgs,
    /// The text; a line break in it starts a new line. Put -- before one that
    /// starts with a hyphen
    #[arg(value_name = "TEXT")]
    text: OsString,
    /// Design pixels per em, above 0 and at most 100000
    #[arg(long, value_name = "N", value_parser = parse_size, allow_hyphen_values = true)]
    pub(crate) size: f32,
    /// Where lines shorter than the block go
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
    /// A font for what FONT lacks; may be given again
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
    /// At least so many digits before the point
    #[arg(long, value_name = "N", default_value_t = 1, requires = "number",
        value_parser = clap::value_parser!(u8).range(0..=NumberOptions::MOST_DIGITS as i64))]
    digits: u8,
    /// So many digits behind the point
    #[arg(long, value_name = "N", default_value_t = 0, requires = "number",
        value_parser = clap::value_parser!(u8).range(0..=NumberOptions::MOST_DIGITS as i64))]
    decimals: u8,
    /// Which numbers have a sign
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

/// What of a text's look has no say in its measures.
#[derive(Debug)]
pub(crate) struct Look {
    color: Color,
    effects: Vec<Effect>,
    plate: Option<Plate>,
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
    /// Where the lines go in a block that is higher
    #[arg(long, value_enum, default_value = "top")]
    vertical_align: VerticalArg,
    /// Where the first baseline goes instead, in design pixels below the block's top
    #[arg(long, value_name = "N", value_parser = parse_number, allow_hyphen_values = true,
        conflicts_with = "vertical_align")]
    first_baseline: Option<f32>,
    /// Where lines wrap that are longer than --width
    #[arg(long, value_enum, default_value = "greedy")]
    wrap: WrapArg,
    /// What becomes of text that does not fit
    #[arg(long, value_enum, default_value = "visible")]
    overflow: OverflowArg,
    /// Set text that does not fit smaller, down to this part of --size (above 0, at most 1)
    #[arg(long, value_name = "N", value_parser = parse_part)]
    shrink_to: Option<f32>,
    /// The most lines there may be
    #[arg(long, value_name = "N")]
    max_lines: Option<usize>,
    /// Which way the text runs as a whole
    #[arg(long, value_enum, default_value = "auto")]
    direction: DirectionArg,
    /// Whether white space is kept as it is
    #[arg(long, value_enum, default_value = "keep")]
    white_space: WhiteSpaceArg,
    /// How strict the rules for breaks are
    #[arg(long, value_enum, default_value = "normal")]
    line_break: LineBreakArg,
    /// Whether words may be broken
    #[arg(long, value_enum, default_value = "normal")]
    word_break: WordBreakArg,
    /// Let words that are longer than a line reach out
    #[arg(long)]
    keep_long_words: bool,
    /// How far the first line of a paragraph is moved in, in design pixels
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
    pub(crate) fn layout(&self, look: &Look) -> Result<LaidOut, CliError> {
        let text = self.text.to_str().ok_or(CliError::NotUtf8("TEXT"))?;
        let number = self
            .number
            .as_ref()
            .map(|language| self.written(text, language));
        let number = number.transpose()?;
        let text = number.as_deref().unwrap_or(text);
        let face = self.font.open()?;
        let (face, size) = face.for_size(self.size).map_err(in_font(&self.font.path))?;
        let open = |path: &PathBuf| Face::from_file(path);
        let fallback = self.fallback.iter().map(open).collect::<Result<_, _>>()?;
        let style = Style::new(&face, size)
            .color(look.color)
            .effects(look.effects.clone())
            .underline(self.underline)
            .line_through(self.line_through)
            .edges(match self.edges {
                EdgesArg::Smooth => Edges::Smooth,
                EdgesArg::Hard => Edges::Hard,
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
            Some(path) => StyleFile::from_file(path)?,
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

#[derive(Debug, Args)]
pub(crate) struct MeasureArgs {
    #[command(flatten)]
    pub(crate) text: TextArgs,
    /// Print JSON for programs instead of a table
    #[arg(long)]
    pub(crate) json: bool,
}

#[derive(Debug, Args)]
pub(crate) struct RenderArgs {
    #[command(flatten)]
    pub(crate) text: TextArgs,
    /// The PNG to write
    #[arg(short, long, value_name = "FILE", value_parser = PngParser)]
    pub(crate) output: PathBuf,
    /// Colour of the letters, as in CSS
    #[arg(long, value_name = "COLOR", default_value = "#ffffff")]
    color: Color,
    /// Draw an outline that reaches so far beyond the letters, in design pixels
    #[arg(long, value_name = "N", value_parser = parse_size, allow_hyphen_values = true)]
    outline: Option<f32>,
    /// Colour of the outline, as in CSS
    #[arg(long, value_name = "COLOR", default_value = "#06090d")]
    outline_color: Color,
    /// Draw a plate of this colour behind the text
    #[arg(long, value_name = "COLOR")]
    plate: Option<Color>,
    /// How far the plate reaches beyond the text, in design pixels
    #[arg(long, value_name = "N", value_parser = parse_number, allow_hyphen_values = true,
        default_value = "4", requires = "plate")]
    plate_padding: f32,
    /// Colour behind the text, as in CSS; `transparent` for none
    #[arg(long, value_name = "COLOR", default_value = "#16222e")]
    pub(crate) background: Color,
    /// Device pixels per design pixel
    #[arg(long, value_name = "N", value_parser = parse_size, allow_hyphen_values = true,
        default_value = "1")]
    pub(crate) scale: f32,
    /// Draw baselines, boxes, carets and line breaks over the picture
    #[arg(long)]
    pub(crate) boxes: bool,
    /// Room around the text, in design pixels
    #[arg(long, value_name = "N", value_parser = parse_length, allow_hyphen_values = true,
        default_value = "8")]
    pub(crate) padding: f32,
}

impl RenderArgs {
    pub(crate) fn look(&self) -> Look {
        Look {
            color: self.color,
            effects: {
                let outline = self
                    .outline
                    .map(|width| Effect::outline(width, self.outline_color));
                outline.into_iter().collect()
            },
            plate: self
                .plate
                .map(|color| Plate::new(color, self.plate_padding)),
        }
    }
}

#[derive(Debug, Args)]
pub(crate) struct ProofArgs {
    /// Font files, side by side; at most six
    #[arg(value_name = "FONT", required = true)]
    pub(crate) fonts: Vec<PathBuf>,
    /// The try-out text
    #[arg(
        long,
        value_name = "TEXT",
        default_value = "The lamplight ferry leaves Heron Steps at 7:45, fog or no fog."
    )]
    pub(crate) text: String,
    /// The PNG to write
    #[arg(short, long, value_name = "FILE", default_value = "proof.png", value_parser = PngParser)]
    pub(crate) output: PathBuf,
}

#[derive(Debug, Args)]
pub(crate) struct ConvertArgs {
    #[command(flatten)]
    pub(crate) font: FontArgs,
    /// Pixels per em, 1 to 255; by default the size of a bitmap font
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=255))]
    pub(crate) size: Option<u16>,
    /// Only these characters; by default all that the font has
    #[arg(long, value_name = "TEXT")]
    pub(crate) characters: Option<String>,
    /// The file to write: .bdf, or .toml for a picture sheet with a .png beside it
    #[arg(short, long, value_name = "FILE")]
    pub(crate) output: PathBuf,
}

#[derive(Debug, Args)]
pub(crate) struct BakeArgs {
    /// The manifest: a .toml that names faces, sizes, characters and sprites
    #[arg(value_name = "MANIFEST")]
    pub(crate) manifest: PathBuf,
    /// Tell what everything costs, here and in a file beside the output
    #[arg(long)]
    pub(crate) report: bool,
    /// Draw the pages to a PNG, every slot outlined and named
    #[arg(long, value_name = "FILE", value_parser = PngParser)]
    pub(crate) sheet: Option<PathBuf>,
    /// Bake even if nothing has changed
    #[arg(long)]
    pub(crate) again: bool,
    /// How many threads to use; by default as many as there are
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=256))]
    pub(crate) threads: Option<u16>,
}

#[derive(Debug, Args)]
pub(crate) struct DemoArgs {
    /// Draw from a pack that `kerno bake demo/ferry/ferry.toml` has made
    #[arg(long, value_name = "FILE")]
    pub(crate) pack: Option<PathBuf>,
    /// Size of the window in device pixels
    #[arg(long, value_name = "WIDTHxHEIGHT", default_value = "1280x800")]
    pub(crate) size: WindowSize,
    /// Seconds since the dialogue line began; by default it is all there
    #[arg(long, value_name = "SECONDS", value_parser = parse_seconds, allow_hyphen_values = true)]
    pub(crate) time: Option<f64>,
    /// The PNG to write
    #[arg(short, long, value_name = "FILE", default_value = "demo.png", value_parser = PngParser)]
    pub(crate) output: PathBuf,
}

/// Values of an option, each with the one of the library that it stands for.
macro_rules! values {
    ($name:ident: $of:ident { $($(#[$help:meta])* $value:ident,)* }) => {
        #[derive(Clone, Copy, Debug, ValueEnum)]
        enum $name {
            $($(#[$help])* $value,)*
        }

        impl From<$name> for $of {
            fn from(value: $name) -> Self {
                match value {
                    $($name::$value => Self::$value,)*
                }
            }
        }
    };
}

values! { AlignArg: TextAlign {
    /// To the side where reading starts
    Start,
    /// To the middle
    Center,
    /// To the side where reading ends
    End,
    /// From side to side
    Justify,
} }

values! { SignArg: NumberSign {
    /// Those below zero
    Negative,
    /// All but zero
    ExceptZero,
    /// All
    Always,
    /// None
    Never,
} }

values! { VerticalArg: VerticalAlign {
    /// To the top
    Top,
    /// To the middle, by the font's metrics
    Middle,
    /// To the bottom
    Bottom,
    /// To the middle, by what is drawn
    MiddleOfInk,
    /// To the middle, by capital letters
    MiddleOfCapitals,
} }

values! { WrapArg: Wrap {
    /// Nowhere but at line breaks
    None,
    /// Each line takes as much as it can
    Greedy,
    /// As many lines, all about as long
    Balanced,
    /// The evenest lines together
    Optimal,
} }

values! { DirectionArg: Direction {
    /// As the first letter does
    Auto,
    /// From left to right
    LeftToRight,
    /// From right to left
    RightToLeft,
} }

values! { WhiteSpaceArg: WhiteSpace {
    /// As it is
    Keep,
    /// Several in a row are one space
    Collapse,
} }

values! { LineBreakArg: LineBreak {
    /// The fewest rules
    Loose,
    /// The usual ones
    Normal,
    /// No line begins with a small kana
    Strict,
    /// Between any two clusters
    Anywhere,
} }

values! { WordBreakArg: WordBreak {
    /// As each script does
    Normal,
    /// All scripts break like Han
    BreakAll,
    /// Han and Kana do not break either
    KeepAll,
} }

#[derive(Clone, Copy, Debug, ValueEnum)]
enum OverflowArg {
    /// It reaches out of the block
    Visible,
    /// It is cut off at the block's border
    Clip,
    /// The last line that fits ends with an ellipsis
    Ellipsis,
    /// The text begins with an ellipsis, and keeps its end
    EllipsisAtStart,
    /// An ellipsis in the middle of the line
    EllipsisInMiddle,
}

#[derive(Clone, Copy, Debug, ValueEnum)]
enum EdgesArg {
    /// Anti-aliased
    Smooth,
    /// On or off, for pixel faces
    Hard,
}

/// A window size as `WIDTHxHEIGHT`.
#[derive(Clone, Copy, Debug)]
pub(crate) struct WindowSize(pub(crate) DeviceSize);

impl FromStr for WindowSize {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        let refuse = || "write WIDTHxHEIGHT in pixels, each 1 to 8192, such as 1280x800".to_owned();
        let side = |text: &str| text.parse().ok().filter(|side| (1..=8192).contains(side));
        let (width, height) = text.split_once('x').ok_or_else(refuse)?;
        match (side(width), side(height)) {
            (Some(width), Some(height)) => Ok(Self(DeviceSize::new(width, height))),
            _ => Err(refuse()),
        }
    }
}

fn parse_number(text: &str) -> Result<f32, String> {
    let number: f32 = text
        .parse()
        .map_err(|_| "write a number, such as 1.5".to_owned())?;
    if number.is_finite() {
        Ok(number)
    } else {
        Err("it must be finite".to_owned())
    }
}

/// An axis of a variable font and its value; tags shorter than four letters are
/// filled with spaces.
fn parse_axis(text: &str) -> Result<(Tag, f32), String> {
    let refuse = || "write an axis tag and a number, such as wght=700".to_owned();
    let (tag, value) = text.split_once('=').ok_or_else(refuse)?;
    let tag = Tag::from_name(tag).ok_or_else(refuse)?;
    Ok((tag, parse_number(value)?))
}

fn parse_tag(text: &str) -> Result<Tag, String> {
    Tag::from_name(text).ok_or_else(|| "write a tag of one to four letters".to_owned())
}

fn parse_feature(text: &str) -> Result<(Tag, u16), String> {
    let (tag, value) = text.split_once('=').unwrap_or((text, "1"));
    let refuse = || "write a feature tag, or a tag and a number such as salt=2".to_owned();
    let tag = Tag::from_name(tag).ok_or_else(refuse)?;
    Ok((tag, value.parse().map_err(|_| refuse())?))
}

fn parse_size(text: &str) -> Result<f32, String> {
    match parse_number(text)? {
        size if size > 0.0 && size <= Style::LARGEST => Ok(size),
        _ => Err("it must be above 0 and at most 100000".to_owned()),
    }
}

fn parse_part(text: &str) -> Result<f32, String> {
    match parse_number(text)? {
        part if part > 0.0 && part <= 1.0 => Ok(part),
        _ => Err("it must be above 0 and at most 1".to_owned()),
    }
}

/// The path of a PNG to write: no other form is.
#[derive(Clone)]
struct PngParser;

impl TypedValueParser for PngParser {
    type Value = PathBuf;

    fn parse_ref(
        &self,
        command: &clap::Command,
        _: Option<&clap::Arg>,
        value: &OsStr,
    ) -> Result<PathBuf, clap::Error> {
        let path = PathBuf::from(value);
        match path.extension() {
            Some(ending) if !ending.eq_ignore_ascii_case("png") => {
                let name = path.display();
                let text = format!(
                    "“{name}” is not written: end its name in .png, the one form there is\n"
                );
                Err(clap::Error::raw(ErrorKind::ValueValidation, text).with_cmd(command))
            }
            _ => Ok(path),
        }
    }
}

/// Fonts of a proof, which has room for six side by side.
const MOST_FONTS: usize = 6;

impl ProofArgs {
    /// # Errors
    /// [`CliError::TooManyFonts`].
    pub(crate) fn check(&self) -> Result<(), CliError> {
        match self.fonts.len() {
            count if count > MOST_FONTS => Err(CliError::TooManyFonts(count)),
            _ => Ok(()),
        }
    }
}

fn parse_length(text: &str) -> Result<f32, String> {
    match parse_number(text)? {
        length if (0.0..=1e6).contains(&length) => Ok(length),
        _ => Err("it must be 0 to 1000000".to_owned()),
    }
}

fn parse_seconds(text: &str) -> Result<f64, String> {
    match text.parse::<f64>() {
        Ok(seconds) if seconds >= 0.0 && seconds.is_finite() => Ok(seconds),
        _ => Err("write seconds, 0 or more, such as 1.5".to_owned()),
    }
}
