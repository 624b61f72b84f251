//! Manifest files, with those that they include.

use std::ops::Range;
use std::path::{Path, PathBuf};

use super::entries::ManifestEntry;
use crate::bake::error::BakeError;
use crate::bake::inputs::Inputs;
use crate::base::{FileError, Spanned, line_of, parse};

/// One manifest file.
#[derive(Debug)]
pub(super) struct Source {
    path: PathBuf,
    /// The folder that its paths are relative to.
    pub(super) folder: PathBuf,
    text: String,
    pub(super) entry: ManifestEntry,
}

impl Source {
    /// Something wrong in a part of the file.
    pub(super) fn error(&self, at: Range<usize>, problem: String) -> BakeError {
        FileError::line(&self.path, line_of(&self.text, &at), problem).into()
    }

    /// Something wrong in a file that a part of this one names.
    pub(super) fn error_in(
        &self,
        at: Range<usize>,
        problem: String,
        source: impl std::error::Error + Send + Sync + 'static,
    ) -> BakeError {
        let error = FileError::Line {
            path: self.path.clone(),
            line: line_of(&self.text, &at),
            problem,
            source: Some(Box::new(source)),
        };
        error.into()
    }

    /// Refuses a name that an included file has given already.
    pub(super) fn check_new<'a>(
        &self,
        what: &str,
        name: &Spanned<String>,
        mut known: impl Iterator<Item = &'a str>,
    ) -> Result<(), BakeError> {
        if known.any(|known| known == name.get_ref()) {
            let problem = format!(
                "there is a {what} “{}” already, in an included file; give this one another name",
                name.get_ref()
            );
            return Err(self.error(name.span(), problem));
        }
        Ok(())
    }
}

/// Reads a manifest and all that it includes: included ones come first.
pub(super) fn open_sources(path: &Path, inputs: &mut Inputs) -> Result<Vec<Source>, BakeError> {
    let mut sources = Vec::new();
    let source = open(path, inputs).map_err(|error| match error {
        Failed::ToRead(source) => {
            let path = path.to_owned();
            FileError::Io { path, source }.into()
        }
        Failed::ToParse(error) => error,
    })?;
    include(source, &mut Vec::new(), &mut sources, inputs)?;
    Ok(sources)
}

enum Failed {
    ToRead(std::io::Error),
    ToParse(BakeError),
}

fn open(path: &Path, inputs: &mut Inputs) -> Result<Source, Failed> {
    let bytes = inputs.read(path).map_err(Failed::ToRead)?;
    let bad = |line, problem| Failed::ToParse(FileError::line(path, line, problem).into());
    let text = String::from_utf8(bytes).map_err(|error| {
        let start = error.utf8_error().valid_up_to();
        let line = 1 + error.as_bytes()[..start]
            .iter()
            .filter(|b| **b == b'\n')
            .count();
        bad(
            line,
            "this is not UTF-8; save the manifest as UTF-8".to_owned(),
        )
    })?;
    let entry = parse(&text).map_err(|fault| bad(fault.line, fault.problem))?;
    Ok(Source {
        path: path.to_owned(),
        folder: path.parent().unwrap_or(Path::new("")).to_owned(),
        text,
        entry,
    })
}

/// The most manifests that may include one another in a row.
const DEEPEST: usize = 32;

/// Adds a file after those that it includes; `open_files` are those on the way to
/// it.
fn include(
    source: Source,
    open_files: &mut Vec<PathBuf>,
    sources: &mut Vec<Source>,
    inputs: &mut Inputs,
) -> Result<(), BakeError> {
    let real = |path: &Path| path.canonicalize().unwrap_or_else(|_| path.to_owned());
    open_files.push(real(&source.path));
    for name in &source.entry.include {
        let path = source.folder.join(name.get_ref());
        if open_files.len() >= DEEPEST {
            let problem =
                format!("manifests include each other {DEEPEST} deep, and no deeper is read");
            return Err(source.error(name.span(), problem));
        }
        if open_files.contains(&real(&path)) {
            let problem = format!(
                "“{}” includes itself, on the way from this file; take one of the includes out",
                name.get_ref()
            );
            return Err(source.error(name.span(), problem));
        }
        if sources.iter().any(|known| real(&known.path) == real(&path)) {
            continue;
        }
        let included = open(&path, inputs).map_err(|error| match error {
            Failed::ToRead(error) => {
                let problem = format!("cannot read the manifest “{}”", name.get_ref());
                source.error_in(name.span(), problem, error)
            }
            Failed::ToParse(error) => error,
        })?;
        include(included, open_files, sources, inputs)?;
    }
    open_files.pop();
    sources.push(source);
    Ok(())
}
