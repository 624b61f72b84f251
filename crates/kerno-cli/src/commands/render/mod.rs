//! `kerno render`.

mod boxes;
mod screen;

use std::io::Write;
use std::path::PathBuf;

use clap::Args;
use kerno::atlas::{AtlasOptions, SpriteOptions};
use kerno::base::{Affine, Mapping};
use kerno::text::{Effect, Plate};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, FrameBuilder, Point, Rect, Size, Style,
    TextLayout,
};

#[cfg(feature = "view")]
pub(crate) use self::screen::set;
pub(crate) use self::screen::{
    Captions, RenderScreenArgs, file_values, is_screen, open_screen, outline, parse_setting,
    render_screen, sheet, typed_value,
};
use crate::console::Console;
use crate::error::{CliError, in_font};
use crate::options::{
    LaidOut, Look, PngParser, TextArgs, parse_effect, parse_length, parse_number, parse_size,
};

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
    /// Paint a layer of the letters' look, the first one lowest: a kind and its numbers, as
    /// `shadow offset=1,2 blur=3 color=#000a`, `glow radius=4`, `outline width=2 join=round`,
    /// `fill color=#fff bottom=#fa4`; the letters are filled last where no `fill` is among
    /// them; may be said several times
    #[arg(long = "effect", value_name = "LAYER", value_parser = parse_effect)]
    effects: Vec<Effect>,
    /// Draw a plate of this colour behind the text
    #[arg(long, value_name = "COLOR")]
    plate: Option<Color>,
    /// Outset of the plate beyond the text, in design pixels
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
    /// Turn the text about its centre, clockwise
    #[arg(long, value_name = "DEGREES", value_parser = parse_number, allow_hyphen_values = true,
        default_value = "0")]
    rotate: f32,
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
                outline.into_iter().chain(self.effects.clone()).collect()
            },
            plate: self
                .plate
                .map(|color| Plate::new(color, self.plate_padding)),
        }
    }
}

/// The longest side of a rendered picture, in pixels.
const LARGEST: f32 = 8192.0;

/// Renders a text to a PNG that is as large as its block and the padding.
pub(crate) fn render(args: &RenderArgs, out: &mut Console) -> Result<(), CliError> {
    let LaidOut {
        layout,
        style,
        styles,
    } = args.text.layout(&args.look(), out.files())?;
    let size = picture_size(&layout, args)?;
    let mut atlas = Atlas::new(AtlasOptions::default().page_side(4096))?;
    for (name, picture) in styles.pictures() {
        atlas.add_sprite(name, picture, SpriteOptions::default())?;
    }
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::uniform(args.scale));
    // Turned, the block needs a larger box: both have one centre.
    let center = Point::new(
        size.width as f32 * 0.5 / args.scale,
        size.height as f32 * 0.5 / args.scale,
    );
    let corner = match args.rotate == 0.0 {
        true => Point::new(args.padding, args.padding),
        false => Rect::anchored(center, Anchor::CENTER, layout.size()).point(Anchor::TOP_LEFT),
    };
    let mut frame = frame
        .scope()
        .transform(Affine::rotation(args.rotate.to_radians()).about(center));
    frame
        .text(&layout, DrawText::at(corner, Anchor::TOP_LEFT))
        .map_err(in_font(&args.text.font.path))?;
    if args.boxes {
        boxes::draw(&mut frame, &layout, corner, 1.0 / args.scale)?;
    }
    let mut canvas = Canvas::new(size);
    canvas.clear(args.background);
    let frame = builder.finish();
    let quads = frame.quad_count();
    canvas.draw(frame, &atlas);
    out.write_png(&args.output, &canvas.to_image())?;
    if !args.effects.is_empty() || style.edges.is_field() {
        let usage = atlas.usage();
        let (pictures, bytes) = (usage.glyphs, usage.glyph_bytes);
        out.field("quads", quads);
        out.field("pictures", pictures);
        out.field("bytes", bytes);
        writeln!(
            out,
            "  {quads} quads, {pictures} pictures of glyphs, {bytes} bytes"
        )?;
    }
    out.coarse(&atlas)?;
    remarks(args, &layout, &style, out)
}

/// Tells of a size that was not to be had, of uneven pixels, and of missing letters.
fn remarks(
    args: &RenderArgs,
    layout: &TextLayout,
    style: &Style,
    out: &mut Console,
) -> Result<(), CliError> {
    if style.size != args.text.size {
        let (wanted, given) = (args.text.size, style.size);
        writeln!(
            out,
            "A bitmap font: set in {given} px, the size nearest to {wanted} px that it has."
        )?;
    }
    if let Some(hint) = off_grid(args, style) {
        writeln!(out, "{hint}")?;
    }
    for script in layout.unshaped_scripts() {
        writeln!(
            out,
            "Letters of {script} are not reordered, stacked or joined."
        )?;
    }
    if !layout.missing().is_empty() {
        let count = layout.missing().len();
        out.field("missing", count);
        writeln!(
            out,
            "{count} characters are not in the face; .notdef is shown for each."
        )?;
    }
    Ok(())
}

/// The block with its padding, in whole device pixels.
fn picture_size(layout: &TextLayout, args: &RenderArgs) -> Result<DeviceSize, CliError> {
    let side = |length: f32| ((length + args.padding * 2.0) * args.scale).ceil().max(1.0);
    let (sin, cos) = args.rotate.to_radians().sin_cos();
    let (sin, cos) = (sin.abs(), cos.abs());
    let Size { width, height } = layout.size();
    let (width, height) = match args.rotate == 0.0 {
        true => (width, height),
        false => (width * cos + height * sin, width * sin + height * cos),
    };
    let (width, height) = (side(width), side(height));
    if width > LARGEST || height > LARGEST {
        return Err(CliError::PictureTooLarge(width, height));
    }
    Ok(DeviceSize::new(width as u32, height as u32))
}

/// Says so when a pixel face is drawn at a size that ruins it.
fn off_grid(args: &RenderArgs, style: &Style) -> Option<String> {
    let size = style.size * style.edges.drawn_scale(args.scale);
    let crisp = style.face.crisp_size(size).filter(|crisp| *crisp != size)?;
    Some(format!(
        "{size} px is off the pixel grid of this face, so its pixels come out uneven; {crisp} px is the nearest crisp size."
    ))
}
