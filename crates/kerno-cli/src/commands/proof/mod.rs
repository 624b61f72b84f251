//! `kerno proof`.

mod column;
mod compare;
mod enlarged;
mod fitting;
mod plate;

use std::path::PathBuf;

use clap::Args;
use kerno::base::Mapping;
use kerno::draw::Scope;
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Offset, Point, Rect,
    Style, TextLayout,
};

use self::column::draw_column;
use self::compare::draw_comparison;
use self::enlarged::draw_enlarged;
use crate::console::Console;
use crate::demo::caption_face;
use crate::error::{CliError, in_font};
use crate::files::Files;
use crate::options::{PngParser, open_font};

#[derive(Debug, Args)]
pub(crate) struct ProofArgs {
    /// Font files or installed families, side by side; at most six
    #[arg(value_name = "FONT", required = true)]
    pub(crate) fonts: Vec<PathBuf>,
    /// The try-out text
    #[arg(
        long,
        value_name = "TEXT",
        default_value = TRY_OUT
    )]
    pub(crate) text: String,
    /// Show smooth, grid-fitted and hard edges, an outline and a shadow side by side, magnified,
    /// with their costs; takes one font
    #[arg(long)]
    pub(crate) compare: bool,
    /// Show coverage and distance fields side by side, enlarged and with effects, with their
    /// costs; takes one font
    #[arg(long, conflicts_with = "compare")]
    pub(crate) enlarged: bool,
    /// The PNG to write
    #[arg(short, long, value_name = "FILE", default_value = "proof.png", value_parser = PngParser)]
    pub(crate) output: PathBuf,
}

const TRY_OUT: &str = "The lamplight ferry leaves Heron Steps at 7:45, fog or no fog.";

/// Fonts of a proof, which has room for six side by side.
const MOST_FONTS: usize = 6;

impl ProofArgs {
    /// # Errors
    /// [`CliError::TooManyFonts`], [`CliError::CompareOne`].
    pub(crate) fn check(&self) -> Result<(), CliError> {
        match self.fonts.len() {
            count if count > MOST_FONTS => Err(CliError::TooManyFonts(count)),
            count if (self.compare || self.enlarged) && count > 1 => {
                Err(CliError::CompareOne(count))
            }
            _ => Ok(()),
        }
    }
}

const GROUND: Color = Color::rgb(0x0f, 0x1b, 0x26);
const PLATE: Color = Color::rgb(0x17, 0x29, 0x37);
const RULE: Color = Color::rgb(0x2c, 0x46, 0x55);
const INK: Color = Color::rgb(0xf6, 0xea, 0xd0);
const LAMP: Color = Color::rgb(0xff, 0xcf, 0x70);
const MIST: Color = Color::rgb(0x8f, 0xac, 0xb3);

const HEIGHT: f32 = 800.0;
const MARGIN: f32 = 28.0;
/// Draws a picture to judge fonts by, a column for each.
pub(crate) fn proof(args: &ProofArgs, out: &mut Console) -> Result<(), CliError> {
    args.check()?;
    let canvas = draw_proof(args, out.files())?;
    out.write_png(&args.output, &canvas.to_image())
}

/// A proof of one font, as it is by default.
#[cfg(feature = "view")]
pub(crate) fn proof_of(
    font: &std::path::Path,
    files: &Files,
) -> Result<kerno::base::Image, CliError> {
    let args = ProofArgs {
        fonts: vec![font.to_owned()],
        text: TRY_OUT.to_owned(),
        compare: false,
        enlarged: false,
        output: PathBuf::new(),
    };
    Ok(draw_proof(&args, files)?.to_image())
}

fn draw_proof(args: &ProofArgs, files: &Files) -> Result<Canvas, CliError> {
    let count = args.fonts.len() as f32;
    let column = (1280.0 / count).max(480.0).floor();
    let window = DeviceSize::new((column * count) as u32, HEIGHT as u32);
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut sheet = Sheet {
        frame: builder.begin(&mut atlas, Mapping::IDENTITY),
        caption: caption_face()?,
    };
    for (index, path) in args.fonts.iter().enumerate() {
        let face = open_font(path, 0, files)?;
        let left = column * index as f32;
        let room = Rect::new(left + MARGIN, 0.0, column - 2.0 * MARGIN, HEIGHT);
        if index > 0 {
            sheet
                .frame
                .rect(Rect::new(left, MARGIN, 1.0, HEIGHT - 2.0 * MARGIN), RULE);
        }
        match (args.compare, args.enlarged) {
            (true, _) => draw_comparison(&mut sheet, &face, path, room),
            (_, true) => draw_enlarged(&mut sheet, &face, path, room),
            _ => draw_column(&mut sheet, &face, path, &args.text, room),
        }
        .map_err(in_font(path))?;
    }
    let mut canvas = Canvas::new(window);
    canvas.clear(GROUND);
    canvas.draw(builder.finish(), &atlas);
    Ok(canvas)
}

fn colored(face: &Face, size: f32, color: Color) -> Style {
    Style::new(face, size).color(color)
}

/// The frame and the face that the proof is drawn with.
struct Sheet<'a> {
    frame: Scope<'a>,
    caption: Face,
}

impl Sheet<'_> {
    fn text(&mut self, layout: &TextLayout, at: Point, anchor: Anchor) -> Result<(), CliError> {
        Ok(self.frame.text(layout, DrawText::at(at, anchor))?)
    }

    /// A small heading; returns the place below it.
    fn heading(&mut self, text: &str, at: Point) -> Result<Point, CliError> {
        let style = Style::new(&self.caption, 10.0)
            .color(MIST)
            .letter_spacing(1.2);
        let layout = TextLayout::new(text, &style)?;
        self.text(&layout, at, Anchor::TOP_LEFT)?;
        Ok(at + Offset::new(0.0, layout.size().height + 4.0))
    }

    fn note(&mut self, text: &str, at: Point, anchor: Anchor) -> Result<(), CliError> {
        let style = colored(&self.caption, 11.0, MIST);
        self.text(&TextLayout::new(text, &style)?, at, anchor)
    }
}
