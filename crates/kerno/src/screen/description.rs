//! A screen as it is described: elements and values.

use std::path::{Path, PathBuf};

use super::element::{Content, Element};
use super::{Fit, ScreenError};
use crate::base::{FileError, Size, hint};
use crate::markup::{TextSource, ValueDeclaration};

/// A finding of the check that is wanted so.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct AllowedFinding {
    /// Code of the finding.
    pub finding: String,
    /// The element that it is of; default: all.
    pub element: Option<String>,
    /// Why it is wanted.
    pub reason: String,
}

impl AllowedFinding {
    /// A finding that is wanted everywhere.
    pub fn new(finding: &str, reason: &str) -> Self {
        Self {
            finding: finding.to_owned(),
            element: None,
            reason: reason.to_owned(),
        }
    }
}

/// A screen as it is described, in code or by a file (`docs/screen.md`): the same tree.
///
/// ```
/// use kerno::Size;
/// use kerno::screen::{Content, Element, ScreenDescription, TextContent};
/// use kerno::markup::{ValueDeclaration};
/// let hud = ScreenDescription::new(Size::new(640.0, 360.0))
///     .value(ValueDeclaration::new("fares", 0.0).range(0.0, 99999.0))
///     .element(Element::new("score", Content::Text(TextContent::markup("@value(fares)"))));
/// let again = ScreenDescription::from_toml(&hud.to_toml()?)?;
/// assert_eq!(again, hud);
/// # Ok::<(), kerno::screen::ScreenError>(())
/// ```
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct ScreenDescription {
    /// The size that the screen was drawn for, in design pixels.
    pub design: Size,
    /// Fit in windows of another shape.
    pub fit: Fit,
    /// The style file, from the folder of this file.
    pub styles: Option<String>,
    /// The file of its sprites, from there.
    pub sprites: Option<String>,
    /// The folder of its string tables, from there.
    pub strings: Option<String>,
    /// Tag of the language that it begins with; default: that of the first table.
    pub language: Option<String>,
    /// The values that the game hands in.
    pub values: Vec<ValueDeclaration>,
    /// Findings of the check that are wanted so.
    pub allowed: Vec<AllowedFinding>,
    /// The elements; of siblings the later ones are painted later.
    pub elements: Vec<Element>,
    /// The file that it is from; empty where it is from none.
    pub(super) path: PathBuf,
}

impl PartialEq for ScreenDescription {
    /// Whatever file and lines they are from.
    fn eq(&self, other: &Self) -> bool {
        let plain = |element: &Element| Element {
            line: 0,
            ..element.clone()
        };
        (self.design, self.fit) == (other.design, other.fit)
            && self.styles == other.styles
            && self.sprites == other.sprites
            && (&self.strings, &self.language) == (&other.strings, &other.language)
            && self.values == other.values
            && self.allowed == other.allowed
            && self.elements.len() == other.elements.len()
            && self
                .elements
                .iter()
                .zip(&other.elements)
                .all(|(a, b)| plain(a) == plain(b))
    }
}

impl ScreenDescription {
    /// The most elements of a screen.
    pub const MOST_ELEMENTS: usize = 100_000;

    /// A screen without elements, drawn for a size in design pixels.
    pub fn new(design: Size) -> Self {
        Self {
            design,
            fit: Fit::Contain,
            styles: None,
            sprites: None,
            strings: None,
            language: None,
            values: Vec::new(),
            allowed: Vec::new(),
            elements: Vec::new(),
            path: PathBuf::new(),
        }
    }

    /// The manifest or the folder of pictures that its sprites come from, as a path.
    pub fn sprite_source(&self) -> Option<PathBuf> {
        let folder = self.path.parent().unwrap_or(Path::new(""));
        Some(folder.join(self.sprites.as_ref()?))
    }

    /// Adds an element.
    #[must_use]
    pub fn element(mut self, element: Element) -> Self {
        self.elements.push(element);
        self
    }

    /// Adds a value.
    #[must_use]
    pub fn value(mut self, value: ValueDeclaration) -> Self {
        self.values.push(value);
        self
    }

    /// Sets how it fits windows of another shape.
    #[must_use]
    pub fn fit(mut self, fit: Fit) -> Self {
        self.fit = fit;
        self
    }

    /// Returns an error about an element.
    pub(super) fn fault(&self, element: &Element, problem: impl Into<String>) -> ScreenError {
        let problem = format!("“{}”: {}", element.name, problem.into());
        FileError::line(&self.path, element.line, problem).into()
    }

    /// Finds a value that an element names.
    pub(super) fn value_index(&self, element: &Element, name: &str) -> Result<usize, ScreenError> {
        let found = self.values.iter().position(|value| value.name == name);
        found.ok_or_else(|| {
            let names = self.values.iter().map(|value| value.name.as_str());
            self.fault(
                element,
                format!("there is no value “{name}”{}", hint(name, names)),
            )
        })
    }

    /// The texts of all elements that are written in it.
    pub fn texts(&self) -> impl Iterator<Item = &str> {
        self.elements
            .iter()
            .filter_map(|element| match &element.content {
                Content::Text(text) => match &text.source {
                    TextSource::Markup(text) => Some(text.as_str()),
                    TextSource::Key(_) => None,
                },
                _ => None,
            })
    }
}
