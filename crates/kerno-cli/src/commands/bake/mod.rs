//! `kerno bake`.

mod report;
mod sheet;

use std::io::Write;
use std::path::{Path, PathBuf};
use std::time::Instant;

use clap::Args;
use kerno::Pack;
use kerno::bake::{Bake, JsonFiles, Manifest, OutputForm};

use crate::console::Console;
use crate::error::CliError;
use crate::options::{PngParser, parse_path};
use crate::output::write_file;

#[derive(Debug, Args)]
pub(crate) struct BakeArgs {
    /// The manifest: a .toml that names faces, sizes, characters and sprites
    #[arg(value_name = "MANIFEST", value_parser = parse_path)]
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
    /// Number of threads; by default as many as there are
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=256))]
    pub(crate) threads: Option<u16>,
}

/// Bakes what a manifest asks for, unless it has been baked already.
pub(crate) fn bake(args: &BakeArgs, out: &mut Console) -> Result<(), CliError> {
    let start = Instant::now();
    let manifest = Manifest::from_file(&args.manifest)?;
    let is_there = !args.again && is_baked(&manifest);
    if is_there && !args.report && args.sheet.is_none() {
        let output = manifest.output().display();
        writeln!(out, "{output}: nothing has changed since it was baked")?;
        return Ok(());
    }
    let pool = rayon::ThreadPoolBuilder::new()
        .num_threads(args.threads.map_or(0, usize::from))
        .build()?;
    let progress = out.progress("glyphs and sprites");
    let watch = |done: usize, total: usize| progress.set(done, total);
    let bake = pool.install(|| manifest.bake(&watch));
    drop(progress);
    let bake = bake?;
    if is_there {
        let output = manifest.output().display();
        writeln!(out, "{output}: nothing has changed since it was baked")?;
    } else {
        let bytes = pool.install(|| write(&manifest, &bake))?;
        let seconds = start.elapsed().as_secs_f64();
        out.field("bytes", bytes);
        out.wrote(
            manifest.output(),
            &format!("{bytes} bytes, baked in {seconds:.2} s"),
        )?;
    }
    out.fields(report::json(&bake.report()));
    if args.report {
        let text = report::told(&bake.report());
        let path = manifest.output().with_extension("report.txt");
        write_file(&path, text.as_bytes())?;
        out.asked();
        writeln!(out, "\n{text}")?;
        out.wrote(&path, "the same table")?;
    } else {
        report::summary(&bake.report(), out)?;
    }
    if let Some(path) = &args.sheet {
        out.write_png(path, &sheet::draw(&bake)?)?;
    }
    Ok(())
}

/// The pages of a manifest as a picture, without writing anything.
#[cfg(feature = "view")]
pub(crate) fn sheet_of(manifest: &Path) -> Result<kerno::base::Image, CliError> {
    let manifest = Manifest::from_file(manifest)?;
    sheet::draw(&manifest.bake(&|_, _| {})?)
}

/// Returns whether the output is whole and made of the same inputs.
fn is_baked(manifest: &Manifest) -> bool {
    match manifest.form() {
        OutputForm::Pack => Pack::from_file(manifest.output())
            .is_ok_and(|pack| pack.fingerprint() == manifest.fingerprint()),
        OutputForm::Json => {
            let Some((inputs, pictures)) = names_in(manifest.output()) else {
                return false;
            };
            let is_whole = |name: &PathBuf| {
                let told = name.file_name().unwrap_or_default().to_string_lossy();
                std::fs::read(name).is_ok_and(|png| JsonFiles::is_whole(&told, &png))
            };
            manifest.fingerprint().to_string() == inputs && pictures.iter().all(is_whole)
        }
    }
}

/// The inputs of a JSON file and the pictures beside it.
fn names_in(path: &Path) -> Option<(String, Vec<PathBuf>)> {
    let text = std::fs::read_to_string(path).ok()?;
    let (inputs, pictures) = JsonFiles::read_names(&text)?;
    // A name with a folder in it was not written by us.
    let is_plain = |name: &String| Path::new(name).file_name() == Some(name.as_ref());
    let beside = pictures
        .into_iter()
        .filter(is_plain)
        .map(|name| path.with_file_name(name));
    Some((inputs, beside.collect()))
}

/// Writes the output; returns how many bytes it is. What names the others comes
/// last, so that an earlier output stays whole until the new one is.
fn write(manifest: &Manifest, bake: &Bake<'_>) -> Result<u64, CliError> {
    let path = manifest.output();
    if manifest.form() == OutputForm::Pack {
        let bytes = bake.to_pack()?;
        write_file(path, &bytes)?;
        return Ok(bytes.len() as u64);
    }
    let stem = path.file_stem().unwrap_or_default().to_string_lossy();
    let earlier = names_in(path).map_or_else(Vec::new, |(_, pictures)| pictures);
    let files = bake.to_json(&stem)?;
    let pictures: Vec<PathBuf> = files
        .pictures
        .iter()
        .map(|(name, _)| path.with_file_name(name))
        .collect();
    for (picture, (_, png)) in pictures.iter().zip(&files.pictures) {
        write_file(picture, png)?;
    }
    write_file(path, files.json.as_bytes())?;
    for stale in earlier.iter().filter(|name| !pictures.contains(name)) {
        // One that is gone already does no harm, nor one that stays.
        let _ = std::fs::remove_file(stale);
    }
    let pngs: usize = files.pictures.iter().map(|(_, png)| png.len()).sum();
    Ok((pngs + files.json.len()) as u64)
}
