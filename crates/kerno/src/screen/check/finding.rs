//! Findings of the check.

use std::fmt;

use crate::base::DeviceSize;

/// Kind of a finding.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum FindingKind {
    /// A text is cut off, shortened, or reaches out of its box.
    TextDoesNotFit,
    /// A text was made smaller than is legible to fit, or is that small to begin with.
    Illegible,
    /// Two siblings lie over each other.
    Overlap,
    /// An element reaches out of the window, or of its safe area.
    OutOfWindow,
    /// Letters that no face has.
    MissingGlyphs,
    /// Letters of a script that are not reordered, stacked or joined as they ought to be.
    UnshapedScript,
    /// A pixel face at a size that is off its grid.
    OffPixelGrid,
    /// A text that stands out from what is behind it by less than WCAG asks for.
    LowContrast,
    /// A style that no text uses.
    UnusedStyle,
    /// A text of the string tables that no element shows.
    UnusedText,
    /// A value that no element shows.
    UnusedValue,
    /// A sprite that no element and no text shows.
    UnusedSprite,
}

impl FindingKind {
    /// All kinds.
    pub const ALL: [Self; 12] = [
        Self::TextDoesNotFit,
        Self::Illegible,
        Self::Overlap,
        Self::OutOfWindow,
        Self::MissingGlyphs,
        Self::UnshapedScript,
        Self::OffPixelGrid,
        Self::LowContrast,
        Self::UnusedStyle,
        Self::UnusedText,
        Self::UnusedValue,
        Self::UnusedSprite,
    ];

    /// Its name in files and reports.
    pub fn name(self) -> &'static str {
        match self {
            Self::TextDoesNotFit => "text-does-not-fit",
            Self::Illegible => "illegible",
            Self::Overlap => "overlap",
            Self::OutOfWindow => "out-of-window",
            Self::MissingGlyphs => "missing-glyphs",
            Self::UnshapedScript => "unshaped-script",
            Self::OffPixelGrid => "off-pixel-grid",
            Self::LowContrast => "low-contrast",
            Self::UnusedStyle => "unused-style",
            Self::UnusedText => "unused-text",
            Self::UnusedValue => "unused-value",
            Self::UnusedSprite => "unused-sprite",
        }
    }
}

impl fmt::Display for FindingKind {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

/// Something that a player would see, in its worst case.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Finding {
    /// Its kind.
    pub kind: FindingKind,
    /// The element, style, text, value or sprite that it is of.
    pub name: String,
    /// The line of the screen file, counted from 1; 0 where it is of none.
    pub line: usize,
    /// The problem, in a sentence.
    pub problem: String,
    /// The worst case: the language, the window, and the values that are not as they start.
    /// None for what does not depend on them.
    pub case: Option<FindingCase>,
    /// The number of cases in which it was found.
    pub count: usize,
    /// By how much, to tell the worst case: larger is worse.
    pub(super) measure: f32,
}

/// A case in which something was found.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FindingCase {
    /// Language tag.
    pub language: String,
    /// The window.
    pub window: DeviceSize,
    /// Values that are at an end of their range, by their names.
    pub values: Vec<(String, f64)>,
}

impl fmt::Display for FindingCase {
    /// As “de, 640 × 360, fares = 99999”.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let DeviceSize { width, height } = self.window;
        write!(f, "{}, {width} × {height}", self.language)?;
        for (name, value) in &self.values {
            write!(f, ", {name} = {value}")?;
        }
        Ok(())
    }
}

/// Options of a check.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct CheckOptions {
    /// The windows.
    pub windows: Vec<DeviceSize>,
    /// Languages; empty for all that there are.
    pub languages: Vec<String>,
    /// The smallest legible size, in device pixels per em.
    pub legible: f32,
    /// The least contrast of text against what is behind it (WCAG 2.2, 1.4.3); large text,
    /// of 24 px or more, may have two thirds of it.
    pub contrast: f32,
}

crate::base::setters! {
    CheckOptions {
        windows: Vec<DeviceSize>,
        languages: Vec<String>,
        legible: f32,
        contrast: f32,
    }
}

impl Default for CheckOptions {
    /// Windows from 640 × 360 to 4K and from 4:3 to 32:9, 8 px, 4.5 to 1.
    fn default() -> Self {
        let sizes = [
            (640, 360),
            (800, 600),
            (1024, 768),
            (1280, 720),
            (1280, 800),
            (1366, 768),
            (1600, 900),
            (1920, 1080),
            (1920, 1200),
            (2560, 1080),
            (2560, 1440),
            (3440, 1440),
            (3840, 1080),
            (3840, 2160),
        ];
        Self {
            windows: sizes
                .map(|(width, height)| DeviceSize::new(width, height))
                .to_vec(),
            languages: Vec::new(),
            legible: 8.0,
            contrast: 4.5,
        }
    }
}
