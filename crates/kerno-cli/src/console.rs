//! The command's way of speaking: text for people, JSON for programs, progress.

use std::io::{self, IsTerminal, Write};
use std::path::Path;
use std::time::{Duration, Instant};

use anstream::AutoStream;
use anstyle::Style;
use clap::Args;
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use kerno::Atlas;
use kerno::base::{Image, printable, printable_lines};
use serde_json::{Map, Value};

use crate::error::CliError;
use crate::files::Files;

/// Options that every command has.
#[derive(Clone, Copy, Debug, Default, Args)]
pub(crate) struct Manners {
    /// Print nothing but what was asked for, and errors
    #[arg(
        short,
        long,
        global = true,
        conflicts_with = "verbose",
        help_heading = "Output"
    )]
    quiet: bool,
    /// Print on standard error what is done, and the time it takes
    #[arg(short, long, global = true, help_heading = "Output")]
    verbose: bool,
    /// Print the report as JSON
    #[arg(long, global = true, help_heading = "Output")]
    json: bool,
}

impl Manners {
    /// Starts to tell what the library does, where that is wanted.
    pub(crate) fn start(self) {
        if !self.verbose {
            return;
        }
        tracing_subscriber::fmt()
            .with_writer(io::stderr)
            .with_ansi(has_colors())
            .with_max_level(tracing_subscriber::filter::LevelFilter::TRACE)
            .with_span_events(tracing_subscriber::fmt::format::FmtSpan::CLOSE)
            .with_target(false)
            .with_timer(tracing_subscriber::fmt::time::uptime())
            .init();
    }
}

/// Returns whether standard error takes colours: a terminal, and no `NO_COLOR`.
fn has_colors() -> bool {
    !matches!(
        AutoStream::choice(&io::stderr()),
        anstream::ColorChoice::Never
    )
}

/// The place where a command prints.
///
/// Text that is written to it is for people. It is printed at the end, on standard output, or on
/// standard error where a file went to standard output; with `--quiet` only if it was asked for,
/// with `--json` never.
pub(crate) struct Console {
    manners: Manners,
    files: Files,
    text: Vec<u8>,
    /// The report as JSON.
    fields: Map<String, Value>,
    /// True if the text is what was asked for.
    is_asked: bool,
    /// True if a file was written to standard output.
    is_piped: bool,
    start: Instant,
}

impl Console {
    pub(crate) fn new(manners: Manners, files: Files) -> Self {
        Self {
            manners,
            files,
            text: Vec::new(),
            fields: Map::new(),
            is_asked: false,
            is_piped: false,
            start: Instant::now(),
        }
    }

    /// The way to files.
    pub(crate) fn files(&self) -> &Files {
        &self.files
    }

    /// The text is what the command is for.
    pub(crate) fn asked(&mut self) {
        self.is_asked = true;
    }

    /// Returns whether a report as JSON is wanted.
    pub(crate) fn is_json(&self) -> bool {
        self.manners.json
    }

    /// Adds a field to the report as JSON.
    pub(crate) fn field(&mut self, name: &str, value: impl Into<Value>) {
        self.fields.insert(name.to_owned(), value.into());
    }

    /// Adds all fields of a value to the report as JSON.
    pub(crate) fn fields(&mut self, value: Value) {
        if let Value::Object(fields) = value {
            self.fields.extend(fields);
        }
    }

    /// Writes a text in a style, for terminals.
    pub(crate) fn styled(&mut self, style: Style, text: &str) {
        let text = printable(text);
        self.text
            .extend(format!("{style}{text}{style:#}").as_bytes());
    }

    /// Tells of a file: its name, and text after it.
    pub(crate) fn wrote(&mut self, path: &Path, told: &str) -> Result<(), CliError> {
        writeln!(self, "{}: {told}", printable(&path.display().to_string()))?;
        let entry = self
            .fields
            .entry("files")
            .or_insert_with(|| Value::Array(Vec::new()));
        if let Value::Array(files) = entry {
            files.push(path.to_string_lossy().into_owned().into());
        }
        Ok(())
    }

    /// Writes a file, to standard output where its name is `-`.
    pub(crate) fn write_file(&mut self, path: &Path, bytes: &[u8]) -> Result<(), CliError> {
        if !is_standard_output(path) {
            return self.files.write(path, bytes);
        }
        self.is_piped = true;
        let mut out = io::stdout().lock();
        out.write_all(bytes)?;
        Ok(out.flush()?)
    }

    /// Writes a picture as a PNG and tells its size.
    pub(crate) fn write_png(&mut self, path: &Path, image: &Image) -> Result<(), CliError> {
        self.write_file(path, &image.to_png()?)?;
        let (width, height) = (image.width(), image.height());
        self.field("width", width);
        self.field("height", height);
        self.wrote(path, &format!("{width} × {height} pixels"))
    }

    /// Tells of glyphs that are drawn coarser than they would be.
    pub(crate) fn coarse(&mut self, atlas: &Atlas) -> io::Result<()> {
        let count = atlas.usage().coarse;
        if count > 0 {
            self.field("coarse", count);
            writeln!(
                self,
                "{count} pictures of glyphs are coarser than asked for: their outlines take more work than one may."
            )?;
        }
        Ok(())
    }

    /// A bar for work of a number of steps. It is seen on terminals, after half a second.
    pub(crate) fn progress(&self, things: &str) -> Progress {
        let is_seen = io::stderr().is_terminal() && !self.manners.quiet && !self.manners.json;
        Progress::new(things, is_seen)
    }

    /// Prints what has not been printed.
    pub(crate) fn finish(&mut self) -> Result<(), CliError> {
        if self.manners.json && !self.fields.is_empty() {
            let mut out: Box<dyn Write> = match self.is_piped {
                true => Box::new(io::stderr().lock()),
                false => Box::new(io::stdout().lock()),
            };
            let whole = Value::Object(std::mem::take(&mut self.fields));
            writeln!(out, "{}", ascii_controls(&format!("{whole:#}")))?;
        }
        self.flush()?;
        if self.manners.verbose {
            let seconds = self.start.elapsed().as_secs_f64();
            writeln!(io::stderr(), "kerno: done in {seconds:.3} s")?;
        }
        Ok(())
    }
}

impl Write for Console {
    /// What is written may come from a file: it is printable afterwards.
    fn write(&mut self, bytes: &[u8]) -> io::Result<usize> {
        let text = String::from_utf8_lossy(bytes);
        self.text.extend(printable_lines(&text).as_bytes());
        Ok(bytes.len())
    }

    fn flush(&mut self) -> io::Result<()> {
        let text = std::mem::take(&mut self.text);
        if text.is_empty() || self.manners.json || self.manners.quiet && !self.is_asked {
            return Ok(());
        }
        if self.is_piped {
            return anstream::stderr().lock().write_all(&text);
        }
        let mut out = anstream::stdout().lock();
        out.write_all(&text)?;
        out.flush()
    }
}

/// JSON with the characters escaped that it allows and that act on terminals: those that are no
/// ASCII stand in its strings alone.
fn ascii_controls(json: &str) -> String {
    let mut out = String::with_capacity(json.len());
    for part in json.split_inclusive(|c: char| !c.is_ascii() || c == '\u{7f}') {
        let last = part.char_indices().next_back();
        match last {
            Some((at, c)) if printable_lines(&part[at..]) != part[at..] => {
                out.push_str(&part[..at]);
                out.push_str(&format!("\\u{:04x}", u32::from(c)));
            }
            _ => out.push_str(part),
        }
    }
    out
}

/// The names of standard output, where a file is to be written to it.
const STANDARD_OUTPUT: [&str; 4] = ["-", "/dev/stdout", "/dev/fd/1", "/proc/self/fd/1"];

fn is_standard_output(path: &Path) -> bool {
    STANDARD_OUTPUT.iter().any(|name| path.as_os_str() == *name)
}

/// A bar for the progress of long work.
pub(crate) struct Progress {
    bar: ProgressBar,
    start: Instant,
    is_seen: bool,
}

/// Work that takes no longer shows no bar.
const PATIENCE: Duration = Duration::from_millis(500);

impl Progress {
    fn new(things: &str, is_seen: bool) -> Self {
        let template = format!("  {{bar:40}} {{pos}} of {{len}} {things}");
        let style = ProgressStyle::with_template(&template)
            .unwrap_or_else(|_| ProgressStyle::default_bar());
        Self {
            bar: ProgressBar::hidden().with_style(style),
            start: Instant::now(),
            is_seen,
        }
    }

    /// Shows the number of steps that are done.
    pub(crate) fn set(&self, done: usize, total: usize) {
        if self.is_seen && self.bar.is_hidden() && self.start.elapsed() > PATIENCE {
            self.bar.set_draw_target(ProgressDrawTarget::stderr());
        }
        self.bar.set_length(total as u64);
        self.bar.set_position(done as u64);
    }
}

impl Drop for Progress {
    fn drop(&mut self) {
        self.bar.finish_and_clear();
    }
}
