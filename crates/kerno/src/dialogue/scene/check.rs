//! Checks that see the lines of a scene before the player does.

use super::SceneError;
use super::description::{Scene, SceneLine};
use super::texts::{Sources, Texts, speaker};
use crate::base::Size;
use crate::dialogue::{Pace, PageSize, Speech, pages};
use crate::markup::{StringTables, StyleFile, Value};
use crate::text::{LayoutContext, LayoutOptions, TextLayout, Wrap};

/// A check of a scene: the box that its lines are shown in, and limits.
///
/// ```no_run
/// use kerno::Size;
/// use kerno::dialogue::{Scene, SceneCheck};
/// use kerno::markup::{StringTables, StyleFile};
/// let scene = Scene::from_file("ferry/crossing.toml")?;
/// let styles = StyleFile::from_file("ferry/hud_styles.toml").expect("styles");
/// let strings = StringTables::from_folder("ferry/strings")?;
/// for finding in SceneCheck::new(Size::new(416.0, 64.0)).run(&scene, &styles, &strings)? {
///     println!("line {}: {}", finding.line, finding.problem);
/// }
/// # Ok::<(), kerno::dialogue::SceneError>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct SceneCheck {
    /// The box of the lines, in design pixels.
    pub room: Size,
    /// The width that answers have. Default: that of the box.
    pub choice_width: f32,
    /// The most pages of a line. Default: 3.
    pub most_pages: usize,
    /// The most clusters a second that a reader reads: above that the text is gone before it
    /// is read, where lines go on by themselves. Default: 40.
    pub reading_speed: f64,
    /// Languages; empty for all.
    pub languages: Vec<String>,
}

crate::base::setters! {
    SceneCheck {
        choice_width: f32,
        most_pages: usize,
        reading_speed: f64,
        languages: Vec<String>,
    }
}

/// Kind of a finding in a scene.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum SceneFindingKind {
    /// A line takes more pages than it may.
    TooManyPages,
    /// A word is wider than the box.
    WordTooWide,
    /// An answer does not fit on its line.
    ChoiceTooWide,
    /// A line is typed faster than it is read.
    TooFast,
    /// Letters that no face has.
    MissingGlyphs,
}

impl SceneFindingKind {
    /// All kinds.
    pub const ALL: [Self; 5] = [
        Self::TooManyPages,
        Self::WordTooWide,
        Self::ChoiceTooWide,
        Self::TooFast,
        Self::MissingGlyphs,
    ];

    /// Its name in reports.
    pub fn name(self) -> &'static str {
        match self {
            Self::TooManyPages => "too-many-pages",
            Self::WordTooWide => "word-too-wide",
            Self::ChoiceTooWide => "choice-too-wide",
            Self::TooFast => "too-fast",
            Self::MissingGlyphs => "missing-glyphs",
        }
    }
}

/// Something that a player would see in a scene.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct SceneFinding {
    /// Its kind.
    pub kind: SceneFindingKind,
    /// Line of the scene file, counted from 1.
    pub line: usize,
    /// Tag of the language.
    pub language: String,
    /// The problem, in a sentence.
    pub problem: String,
}

impl SceneCheck {
    /// A check of lines in a box.
    pub fn new(room: Size) -> Self {
        Self {
            room,
            choice_width: room.width,
            most_pages: 3,
            reading_speed: 40.0,
            languages: Vec::new(),
        }
    }

    /// Lays all lines out in all languages, and tells what a player would see.
    ///
    /// # Errors
    /// [`SceneError`] where a text can't be read or laid out at all.
    pub fn run(
        &self,
        scene: &Scene,
        styles: &StyleFile,
        strings: &StringTables,
    ) -> Result<Vec<SceneFinding>, SceneError> {
        self.run_with(scene, (styles, strings), &mut |_, _| {})
    }

    /// As [`run`](Self::run), with the number of lines that are done and of all told after each,
    /// a line counted in every language.
    ///
    /// # Errors
    /// [`SceneError`] where a text can't be read or laid out at all.
    pub fn run_with(
        &self,
        scene: &Scene,
        (styles, strings): (&StyleFile, &StringTables),
        progress: &mut dyn FnMut(usize, usize),
    ) -> Result<Vec<SceneFinding>, SceneError> {
        let mut languages = self.languages.clone();
        if languages.is_empty() {
            languages = strings.languages().map(str::to_owned).collect();
        }
        if languages.is_empty() {
            languages.push(scene.language.clone().unwrap_or_else(|| "en".to_owned()));
        }
        // Numbers at the upper end of their range: mostly the widest.
        let values = scene.values.iter().map(|value| match value.range {
            Some([_, most]) => Value::Number(most),
            None => value.start.clone(),
        });
        let values: Vec<Value> = values.collect();
        let from = Sources {
            scene,
            styles,
            strings,
            values: &values,
        };
        let mut found = Vec::new();
        let mut context = LayoutContext::new();
        let (mut done, all) = (0, languages.len() * scene.lines.len());
        for language in &languages {
            let texts = Texts::new(styles, language);
            for line in &scene.lines {
                self.line(line, (from, &texts), &mut context, &mut found)?;
                done += 1;
                progress(done, all);
            }
        }
        Ok(found)
    }

    fn line(
        &self,
        line: &SceneLine,
        (from, texts): (Sources<'_>, &Texts),
        context: &mut LayoutContext,
        found: &mut Vec<SceneFinding>,
    ) -> Result<(), SceneError> {
        if line.is_silent() {
            return Ok(());
        }
        let mut tell = |kind, problem: String| {
            found.push(SceneFinding {
                kind,
                line: line.line,
                language: texts.language().to_owned(),
                problem,
            });
        };
        let style = texts.style(from, line)?;
        let options = texts.options(from.strings).wrap(Wrap::Greedy);
        if let Some(source) = &line.text {
            let text = texts.read(from, line.line, source, &style)?;
            let layout = text.lay_out(&options.width(self.room.width), context)?;
            letters(&layout, &mut tell);
            let widest = layout.lines().iter().map(|line| line.width);
            let widest = widest.fold(0.0, f32::max).max(layout.min_content_width());
            if widest > self.room.width + 0.05 {
                let (over, width) = (widest - self.room.width, self.room.width);
                let problem = format!("a word is {over:.1} px wider than the box of {width} px");
                tell(SceneFindingKind::WordTooWide, problem);
            }
            let size = PageSize::Height(self.room.height);
            let count = pages(&layout, size).len();
            if count > self.most_pages {
                let most = self.most_pages;
                let problem = format!("it takes {count} pages, and may take {most}");
                tell(SceneFindingKind::TooManyPages, problem);
            }
            let clusters = layout.clusters().len();
            let factor = speaker(from.scene, line).map_or(1.0, |speaker| speaker.pace);
            let speech = Speech::new(layout, &Pace::default().times(factor), size)?;
            let seconds = speech.timetable().duration();
            let speed = clusters as f64 / seconds;
            if seconds > 0.0 && speed > self.reading_speed {
                let most = self.reading_speed;
                let problem = format!("{speed:.0} letters a second, and {most:.0} are read");
                tell(SceneFindingKind::TooFast, problem);
            }
        }
        for choice in &line.choices {
            let text = texts.read(from, line.line, &choice.text, &style)?;
            let options = LayoutOptions::default().direction(options.direction);
            let layout = text.lay_out(&options, context)?;
            letters(&layout, &mut tell);
            let width = layout.size().width;
            if width > self.choice_width + 0.05 {
                let (over, said) = (width - self.choice_width, text.text());
                let problem = format!("the answer “{said}” is {over:.1} px too wide");
                tell(SceneFindingKind::ChoiceTooWide, problem);
            }
        }
        Ok(())
    }
}

/// Tells of letters that no face has.
fn letters(layout: &TextLayout, tell: &mut impl FnMut(SceneFindingKind, String)) {
    if layout.missing().is_empty() {
        return;
    }
    let lost = layout.missing().iter();
    let lost = lost.filter_map(|cluster| layout.clusters().get(*cluster as usize));
    let lost: String = lost
        .take(8)
        .map(|cluster| &layout.text()[cluster.start as usize..cluster.end as usize])
        .collect();
    let count = layout.missing().len();
    let problem = format!("{count} letters are in none of its faces: “{lost}”");
    tell(SceneFindingKind::MissingGlyphs, problem);
}
