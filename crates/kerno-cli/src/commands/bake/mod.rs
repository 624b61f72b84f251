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
use crate::files::Files;
use crate::options::{PngParser, parse_path};
use crate::output::{OutputLock, folder_of};

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
    let manifest = Manifest::from_file_through(&args.manifest, &out.files().of(&args.manifest)?)?;
    let report_file = manifest.output().with_extension("report.txt");
    if args.report {
        out.files().check_marked(&report_file, report::MARK)?;
    }
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
        let bytes = pool.install(|| write(&manifest, &bake, out.files()))?;
        let seconds = start.elapsed().as_secs_f64();
        out.field("bytes", bytes);
        out.wrote(
            manifest.output(),
            &format!("{bytes} bytes, baked in {seconds:.2} s"),
        )?;
    }
    let costs = bake.report();
    out.fields(report::json(&costs));
    if args.report {
        let text = report::told(&costs);
        let told = format!("{}{text}", report::MARK);
        out.files().write(&report_file, told.as_bytes())?;
        out.asked();
        writeln!(out, "\n{told}")?;
        out.wrote(&report_file, "the same table")?;
    } else {
        report::summary(&costs, out)?;
    }
    if let Some(path) = &args.sheet {
        out.write_png(path, &sheet::draw(&bake)?)?;
    }
    Ok(())
}

/// The pages of a manifest as a picture, without writing anything.
#[cfg(feature = "view")]
pub(crate) fn sheet_of(manifest: &Path, files: &Files) -> Result<kerno::base::Image, CliError> {
    let manifest = Manifest::from_file_through(manifest, &files.of(manifest)?)?;
    sheet::draw(&manifest.bake(&|_, _| {})?)
}

/// Returns whether the output is whole and made of the same inputs.
fn is_baked(manifest: &Manifest) -> bool {
    match manifest.form() {
        OutputForm::Pack => Pack::from_file(manifest.output())
            .is_ok_and(|pack| pack.fingerprint() == manifest.fingerprint()),
        OutputForm::Json => {
            let output = manifest.output();
            let Some((inputs, pictures)) = names_in(output) else {
                return false;
            };
            let is_whole = |name: &String| {
                let stem = stem(output);
                JsonFiles::is_named(&stem, name)
                    && std::fs::read(output.with_file_name(name))
                        .is_ok_and(|png| JsonFiles::is_own(&stem, name, &png))
            };
            manifest.fingerprint().to_string() == inputs && pictures.iter().all(is_whole)
        }
    }
}

/// The inputs of a JSON file and the names of the pictures beside it.
fn names_in(path: &Path) -> Option<(String, Vec<String>)> {
    let text = std::fs::read_to_string(path).ok()?;
    JsonFiles::read_names(&text)
}

/// The beginning of the names of a JSON file's pictures.
fn stem(output: &Path) -> String {
    let stem = output.file_stem().unwrap_or_default();
    stem.to_string_lossy().into_owned()
}

/// Writes the output; returns how many bytes it is. What names the others comes
/// last, so that an earlier output stays whole until the new one is.
fn write(manifest: &Manifest, bake: &Bake<'_>, files: &Files) -> Result<u64, CliError> {
    let path = manifest.output();
    if manifest.form() == OutputForm::Pack {
        let bytes = bake.to_pack()?;
        files.write(path, &bytes)?;
        return Ok(bytes.len() as u64);
    }
    files.check_output(path)?;
    let stem = stem(path);
    let made = bake.to_json(&stem)?;
    let _lock = OutputLock::of(path)?;
    for (name, png) in &made.pictures {
        files.write(&path.with_file_name(name), png)?;
    }
    files.write(path, made.json.as_bytes())?;
    remove_stale(path, &stem, &made);
    let pngs: usize = made.pictures.iter().map(|(_, png)| png.len()).sum();
    Ok((pngs + made.json.len()) as u64)
}

/// Removes the pictures of earlier bakes of an output, finished or killed: their names tell
/// whose they are and a digest of what is in them, and no other file beside it is touched.
fn remove_stale(output: &Path, stem: &str, made: &JsonFiles) {
    let Ok(entries) = folder_of(output).read_dir() else {
        return;
    };
    for entry in entries.flatten() {
        let Ok(name) = entry.file_name().into_string() else {
            continue;
        };
        let is_new = made.pictures.iter().any(|(new, _)| *new == name);
        if is_new || !JsonFiles::is_named(stem, &name) {
            continue;
        }
        let png = std::fs::read(entry.path());
        if png.is_ok_and(|png| JsonFiles::is_own(stem, &name, &png)) {
            // One that is gone already does no harm, nor one that stays.
            let _ = std::fs::remove_file(entry.path());
        }
    }
}
