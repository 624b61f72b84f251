//! `kerno demo`.

use std::path::PathBuf;
use std::time::Instant;

use clap::Args;
use kerno::{Canvas, Color, Pack};
use serde_json::json;

use crate::console::Console;
use crate::demo::World;
use crate::error::CliError;
use crate::options::{PngParser, WindowSize, parse_seconds};
use crate::report::Section;

#[derive(Debug, Args)]
pub(crate) struct DemoArgs {
    /// Draw from a pack that `kerno bake demo/ferry/ferry.toml` has made
    #[arg(long, value_name = "FILE")]
    pub(crate) pack: Option<PathBuf>,
    /// Size of the window in device pixels
    #[arg(long, value_name = "WIDTHxHEIGHT", default_value = "1280x800")]
    pub(crate) window: WindowSize,
    /// Seconds since the dialogue line began; by default it is all there
    #[arg(long, value_name = "SECONDS", value_parser = parse_seconds, allow_hyphen_values = true)]
    pub(crate) time: Option<f64>,
    /// Language of the texts: en, de or he, or en-XA for one with accents and longer words
    #[arg(long, value_name = "TAG", default_value = "en")]
    pub(crate) language: String,
    /// The PNG to write
    #[arg(short, long, value_name = "FILE", default_value = "demo.png", value_parser = PngParser)]
    pub(crate) output: PathBuf,
}

/// Draws the demo HUD and says what it took.
pub(crate) fn demo(args: &DemoArgs, out: &mut Console) -> Result<(), CliError> {
    let window = args.window.0;
    let start = Instant::now();
    let mut world = match &args.pack {
        Some(path) => World::of_pack(window, &Pack::from_file(path)?)
            .map_err(|error| CliError::OtherPack(path.clone(), Box::new(error)))?,
        None => World::open(window)?,
    };
    world.speak(&args.language)?;
    let opened = start.elapsed();

    // A game draws frame after frame: the second one is what it pays each time.
    let start = Instant::now();
    world.gather(args.time)?;
    let first = start.elapsed();
    let start = Instant::now();
    let missing = world.gather(args.time)?;
    let again = start.elapsed();

    let (frame, atlas) = world.frame();
    let mut canvas = Canvas::new(window);
    // Once for the memory, and again for what it costs each time.
    canvas.draw(frame, atlas);
    let start = Instant::now();
    canvas.clear(Color::BLACK);
    canvas.draw(frame, atlas);
    let drawn = start.elapsed();
    let (quads, batches) = (frame.quad_count(), frame.batches.len());
    out.write_png(&args.output, &canvas.to_image())?;

    let usage = atlas.usage();
    let mut section = Section::new("", "");
    section.row("glyphs", usage.glyphs);
    section.row("missing", missing);
    section.row("sprites", usage.sprites);
    section.row("mask pages", usage.mask_pages);
    section.row("colour pages", usage.color_pages);
    section.row("texture bytes", usage.texture_bytes);
    section.row("quads", quads);
    section.row("batches", batches);
    let ms = |time: std::time::Duration| time.as_secs_f64() * 1e3;
    for (label, time) in [
        ("opening files", opened),
        ("first frame", first),
        ("next frame", again),
        ("drawing, CPU", drawn),
    ] {
        section.row_as(label, json!(ms(time)), format!("{:.3} ms", ms(time)));
    }
    section.print(out)
}
