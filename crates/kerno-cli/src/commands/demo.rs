//! `kerno demo`.

use std::io::Write;
use std::path::PathBuf;
use std::time::Instant;

use clap::Args;
use kerno::{Canvas, Color, Pack};

use crate::demo::World;
use crate::error::CliError;
use crate::options::{PngParser, WindowSize, parse_seconds};
use crate::output::write_png;

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
    /// Language of the texts: en, de or he, or en-XA for one with accents and longer words
    #[arg(long, value_name = "TAG", default_value = "en")]
    pub(crate) language: String,
    /// The PNG to write
    #[arg(short, long, value_name = "FILE", default_value = "demo.png", value_parser = PngParser)]
    pub(crate) output: PathBuf,
}

/// Draws the demo HUD and says what it took.
pub(crate) fn demo(args: &DemoArgs, out: &mut dyn Write) -> Result<(), CliError> {
    let window = args.size.0;
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
    write_png(&args.output, &canvas.to_image())?;

    let usage = atlas.usage();
    writeln!(
        out,
        "{}: {} × {} pixels",
        args.output.display(),
        window.width,
        window.height
    )?;
    let mut row = |label: &str, value: String| writeln!(out, "  {label:<9} {value}");
    row("glyphs", usage.glyphs.to_string())?;
    row("missing", missing.to_string())?;
    row("sprites", usage.sprites.to_string())?;
    row(
        "pages",
        format!("{} mask, {} colour", usage.mask_pages, usage.color_pages),
    )?;
    row("texture", format!("{} bytes", usage.texture_bytes))?;
    row("quads", quads.to_string())?;
    row("batches", batches.to_string())?;
    let ms = |time: std::time::Duration| time.as_secs_f64() * 1e3;
    row(
        "time",
        format!(
            "{:.1} ms to open the files, {:.1} ms for the first frame, {:.3} ms for the next, {:.1} ms to draw it on the CPU",
            ms(opened),
            ms(first),
            ms(again),
            ms(drawn)
        ),
    )?;
    Ok(())
}
