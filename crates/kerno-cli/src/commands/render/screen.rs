//! `kerno render SCREEN.toml`.

use std::error::Error;
use std::fs;
use std::io::Write;
use std::path::{Path, PathBuf};

use clap::Args;
use kerno::bake::add_sprites_through;
use kerno::base::{FileReader, Mapping};
use kerno::markup::Value;
use kerno::screen::Screen;
use kerno::text::{Direction, LayoutOptions, Span};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Point, Rect, Style,
    TextLayout, Viewport,
};

use crate::console::Console;
use crate::demo::caption_face;
use crate::error::CliError;
use crate::files::Files;
use crate::options::{PngParser, WindowSize, parse_seconds};
use crate::output::read_input_text;

/// Draw a screen to a PNG: several windows and languages side by side
#[derive(Debug, Args)]
pub(crate) struct RenderScreenArgs {
    /// The screen file (docs/screen.md)
    #[arg(value_name = "SCREEN")]
    screen: PathBuf,
    /// A value of the screen; may be said several times
    #[arg(long = "set", value_name = "NAME=VALUE", value_parser = parse_setting)]
    settings: Vec<(String, String)>,
    /// A JSON or TOML file of values; - for standard input
    #[arg(long, value_name = "FILE")]
    values: Option<PathBuf>,
    /// Size of the window in device pixels; may be said several times
    #[arg(
        long = "window",
        value_name = "WIDTHxHEIGHT",
        default_value = "1280x720"
    )]
    windows: Vec<WindowSize>,
    /// Language of the texts; may be said several times. `all` for each that there is, `en-XA`
    /// for one with accents and longer words
    #[arg(long = "language", value_name = "TAG")]
    languages: Vec<String>,
    /// Seconds that have gone by
    #[arg(long, value_name = "SECONDS", value_parser = parse_seconds, default_value = "0")]
    time: f64,
    /// Scale of the texts that a reader asks for, 0.5 to 3
    #[arg(long, value_name = "N", default_value = "1")]
    text_scale: f32,
    /// Draw the elements' boxes and names over the picture
    #[arg(long)]
    boxes: bool,
    /// Colour behind the screen, as in CSS
    #[arg(long, value_name = "COLOR", default_value = "#16222e")]
    background: Color,
    /// The PNG to write
    #[arg(short, long, value_name = "FILE", value_parser = PngParser)]
    output: PathBuf,
}

pub(crate) fn parse_setting(text: &str) -> Result<(String, String), String> {
    let refuse = || "write a name and a value, such as fares=1284".to_owned();
    let (name, value) = text.split_once('=').ok_or_else(refuse)?;
    Ok((name.trim().to_owned(), value.to_owned()))
}

/// Returns whether a file is a screen: TOML that says a design size.
pub(crate) fn is_screen(path: &Path) -> bool {
    let is_toml = path.extension().is_some_and(|ending| ending == "toml");
    let text = if is_toml {
        fs::read_to_string(path).unwrap_or_default()
    } else {
        String::new()
    };
    text.lines().any(|line| {
        let rest = line.trim_start().strip_prefix("design");
        rest.is_some_and(|rest| rest.trim_start().starts_with('='))
    })
}

/// Opens a screen with its sprites.
pub(crate) fn open_screen(path: &Path, files: &FileReader) -> Result<(Screen, Atlas), CliError> {
    let mut atlas = Atlas::default();
    let description = kerno::screen::ScreenDescription::from_file_through(path, files)?;
    if let Some(sprites) = description.sprite_source() {
        add_sprites_through(sprites, &mut atlas, files)?;
    }
    let screen = Screen::from_file_through(path, &mut atlas, files)?;
    Ok((screen, atlas))
}

/// Space around the pictures of a sheet, and room for a heading.
const GAP: u32 = 24;

pub(crate) fn render_screen(args: &RenderScreenArgs, out: &mut Console) -> Result<(), CliError> {
    let (mut screen, mut atlas) = open_screen(&args.screen, &out.files().of(&args.screen)?)?;
    let languages: Vec<String> = match args.languages.as_slice() {
        [] => vec![screen.language().to_owned()],
        [all] if all == "all" => screen.languages().map(str::to_owned).collect(),
        named => named.to_vec(),
    };
    let mut pictures = Vec::new();
    for language in &languages {
        screen.set_language(language, &mut atlas)?;
        for (name, value) in file_values(args.values.as_deref(), out.files())?
            .into_iter()
            .chain(args.settings.clone())
        {
            set(&mut screen, &name, &value)?;
        }
        screen.settle();
        screen.advance(args.time);
        for size in &args.windows {
            let picture = draw(&mut screen, &mut atlas, size.0, args)?;
            let heading = format!("{language}, {} × {}", size.0.width, size.0.height);
            pictures.push((heading, picture));
        }
        if screen.missing() > 0 {
            let missing = screen.missing();
            out.field("missing", missing);
            writeln!(
                out,
                "{language}: {missing} characters are in none of the faces"
            )?;
        }
    }
    let canvas = match pictures.len() {
        1 => pictures.remove(0).1,
        _ => sheet(&pictures, Captions::Above, &[])?,
    };
    out.write_png(&args.output, &canvas.to_image())?;
    out.coarse(&atlas)?;
    Ok(())
}

/// Values of a file, as they would be typed.
pub(crate) fn file_values(
    path: Option<&Path>,
    files: &Files,
) -> Result<Vec<(String, String)>, CliError> {
    let Some(path) = path else {
        return Ok(Vec::new());
    };
    let text = match path.as_os_str() == "-" {
        true => read_input_text()?,
        false => {
            let read = files.of(path)?.read_text(path);
            read.map_err(|error| CliError::Read(path.to_owned(), error))?
        }
    };
    // Standard input is either: JSON begins with a brace, and TOML does not.
    let is_json = path.extension().is_some_and(|ending| ending == "json")
        || path.as_os_str() == "-" && text.trim_start().starts_with('{');
    let wrong = |error: Box<dyn Error + Send + Sync>| CliError::Values(path.to_owned(), error);
    let table: toml::Table = match is_json {
        true => serde_json::from_str(&text).map_err(|error| wrong(error.into()))?,
        false => toml::from_str(&text).map_err(|error| wrong(error.into()))?,
    };
    let plain = |value: toml::Value| match value {
        toml::Value::String(text) => text,
        other => other.to_string(),
    };
    Ok(table
        .into_iter()
        .map(|(name, value)| (name, plain(value)))
        .collect())
}

/// Sets a value by what was typed, as the kind that the screen declares.
pub(crate) fn set(screen: &mut Screen, name: &str, text: &str) -> Result<(), CliError> {
    let value = typed_value(screen.value(name), name, text)?;
    Ok(screen.set(name, value)?)
}

/// A value as it was typed, of the kind of one that is known.
pub(crate) fn typed_value(
    known: Option<&Value>,
    name: &str,
    text: &str,
) -> Result<Value, CliError> {
    let number = |text: &str| text.trim_matches([' ', '[', ']']).parse::<f32>().ok();
    Ok(match known {
        Some(Value::Number(_)) => match text.trim().parse::<f64>() {
            Ok(number) => Value::Number(number),
            Err(_) => return Err(CliError::NoNumber(name.to_owned(), text.to_owned())),
        },
        Some(Value::Flag(_)) => match text.trim() {
            "true" | "yes" => Value::Flag(true),
            "false" | "no" => Value::Flag(false),
            _ => return Err(CliError::NoFlag(name.to_owned(), text.to_owned())),
        },
        Some(Value::Point(_)) => match text.split_once(',').map(|(x, y)| (number(x), number(y))) {
            Some((Some(x), Some(y))) => Value::Point(Point::new(x, y)),
            _ => return Err(CliError::NoPoint(name.to_owned(), text.to_owned())),
        },
        _ => Value::Text(text.to_owned()),
    })
}

fn draw(
    screen: &mut Screen,
    atlas: &mut Atlas,
    window: DeviceSize,
    args: &RenderScreenArgs,
) -> Result<Canvas, CliError> {
    let view = screen.viewport(window)?.with_text_scale(args.text_scale);
    let mut canvas = Canvas::try_new(window)?;
    canvas.clear(args.background);
    let frame = screen.frame(atlas, &view)?;
    canvas.draw(frame, atlas);
    if args.boxes {
        let style = Style::new(&caption_face()?, 5.5).color(Color::rgb(0xff, 0xe0, 0x60));
        let mut builder = FrameBuilder::new();
        let mut own = Atlas::default();
        let mut frame = builder.begin(&mut own, view.mapping());
        for (name, rect) in screen.elements() {
            draw_outline(&mut frame, rect);
            if let Some(text) = screen.text(name) {
                for line in text.lines() {
                    let at = Point::new(rect.x + line.x, rect.y + line.top + line.baseline);
                    let end = Point::new(at.x + line.width, at.y);
                    frame.line(at, end, 0.5, Color::rgba(0x60, 0xff, 0xc0, 0xb0));
                }
            }
            let layout = TextLayout::new(name, &style)?;
            let at = rect.point(Anchor::TOP_LEFT);
            frame.text(&layout, DrawText::at(at, Anchor::TOP_LEFT))?;
        }
        canvas.draw(builder.finish(), &own);
    }
    Ok(canvas)
}

/// Draws a line around a box of a screen over its picture.
pub(crate) fn outline(canvas: &mut Canvas, view: &Viewport, rect: Rect) {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    draw_outline(&mut builder.begin(&mut atlas, view.mapping()), rect);
    canvas.draw(builder.finish(), &atlas);
}

fn draw_outline(frame: &mut kerno::draw::Scope<'_>, rect: Rect) {
    let line = Color::rgba(0xff, 0x60, 0xa0, 0xb0);
    let corners = [
        (Anchor::TOP_LEFT, Anchor::TOP_RIGHT),
        (Anchor::TOP_RIGHT, Anchor::BOTTOM_RIGHT),
        (Anchor::BOTTOM_LEFT, Anchor::BOTTOM_RIGHT),
        (Anchor::TOP_LEFT, Anchor::BOTTOM_LEFT),
    ];
    for (from, to) in corners {
        frame.line(rect.point(from), rect.point(to), 0.5, line);
    }
}

/// The side of pictures that their captions are on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Captions {
    Above,
    Beneath,
}

/// Puts pictures on one sheet, each with its caption, in rows of about one length. Letters
/// that the face of the captions lacks come from other faces.
pub(crate) fn sheet(
    pictures: &[(String, Canvas)],
    captions: Captions,
    faces: &[Face],
) -> Result<Canvas, CliError> {
    let widest = pictures
        .iter()
        .map(|(_, picture)| picture.size().width)
        .max()
        .unwrap_or(1);
    let row = (pictures.len() as f32).sqrt().ceil() as u32 * (widest + GAP);
    let (mut x, mut y, mut height, mut width) = (GAP, GAP, 0, 0);
    let mut places = Vec::new();
    for (_, picture) in pictures {
        let size = picture.size();
        if x > GAP && x + size.width > row + GAP {
            (x, y, height) = (GAP, y + height + GAP, 0);
        }
        places.push((x, y));
        x += size.width + GAP;
        width = width.max(x);
        height = height.max(size.height + GAP);
    }
    let mut canvas = Canvas::try_new(DeviceSize::new(width, y + height + GAP))?;
    canvas.clear(Color::rgb(0x0c, 0x12, 0x18));
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let mut style = Style::new(&caption_face()?, 14.0).color(Color::rgb(0x8f, 0xac, 0xb3));
    style.fallback = faces.to_vec();
    let options = LayoutOptions::default().direction(Direction::LeftToRight);
    for ((heading, picture), (x, y)) in pictures.iter().zip(&places) {
        let y = match captions {
            Captions::Above => *y,
            Captions::Beneath => y + picture.size().height,
        };
        let layout = TextLayout::with_options(&[Span::new(heading, &style)], &options)?;
        let at = Point::new(*x as f32, y as f32 + 18.0 - 4.0);
        frame.text(&layout, DrawText::at(at, layout.baseline_anchor(0.0)))?;
    }
    canvas.draw(builder.finish(), &atlas);
    for ((_, picture), (x, y)) in pictures.iter().zip(&places) {
        let down = if captions == Captions::Above { GAP } else { 0 };
        canvas.draw_enlarged(picture, *x as i32, (y + down) as i32, 1);
    }
    Ok(canvas)
}
