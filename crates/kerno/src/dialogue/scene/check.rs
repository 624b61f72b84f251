//! Checks that see the lines of a scene before the player does.

use super::SceneError;
use super::description::{Scene, SceneLine};
use super::settings::check_language;
use super::texts::{Sources, Texts, speaker};
use crate::base::{Size, hint};
use crate::dialogue::{Pace, PageSize, Speech, pages};
use crate::markup::{StringTables, StyleFile, TextSource, Value};
use crate::text::unshaped;
use crate::text::{LayoutContext, LayoutOptions, Style, TextLayout, Wrap};

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
    /// The most answers that are shown at once. Default: 6, as a screen's dialogue element has
    /// values for.
    pub most_choices: usize,
    /// The names of the sprites that portraits may be of; none where they are not looked for.
    pub sprites: Option<Vec<String>>,
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
        most_choices: usize,
        sprites: Option<Vec<String>>,
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
    /// Letters of a script that are not reordered, stacked or joined as they ought to be.
    UnshapedScript,
    /// A text that can't be read: a name or a mark that means nothing, a brace that is open.
    UnreadableText,
    /// A text that a language lacks.
    MissingText,
    /// A portrait that is no sprite.
    UnknownPortrait,
    /// A line of text is higher than the box.
    LineTooHigh,
    /// More answers than are shown at once.
    TooManyChoices,
}

impl SceneFindingKind {
    /// All kinds.
    pub const ALL: [Self; 11] = [
        Self::TooManyPages,
        Self::WordTooWide,
        Self::ChoiceTooWide,
        Self::TooFast,
        Self::MissingGlyphs,
        Self::UnshapedScript,
        Self::UnreadableText,
        Self::MissingText,
        Self::UnknownPortrait,
        Self::LineTooHigh,
        Self::TooManyChoices,
    ];

    /// Its name in reports.
    pub fn name(self) -> &'static str {
        match self {
            Self::TooManyPages => "too-many-pages",
            Self::WordTooWide => "word-too-wide",
            Self::ChoiceTooWide => "choice-too-wide",
            Self::TooFast => "too-fast",
            Self::MissingGlyphs => "missing-glyphs",
            Self::UnshapedScript => "unshaped-script",
            Self::UnreadableText => "unreadable-text",
            Self::MissingText => "missing-text",
            Self::UnknownPortrait => "unknown-portrait",
            Self::LineTooHigh => "line-too-high",
            Self::TooManyChoices => "too-many-choices",
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
            most_choices: 6,
            sprites: None,
            most_pages: 3,
            reading_speed: 40.0,
            languages: Vec::new(),
        }
    }

    /// Lays all lines out in all languages, in all their forms, and tells what a player would
    /// see; what can't be read is told as well, and hides nothing else.
    ///
    /// # Errors
    /// [`SceneError::Value`] for a language that there is not.
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
    /// As there.
    pub fn run_with(
        &self,
        scene: &Scene,
        (styles, strings): (&StyleFile, &StringTables),
        progress: &mut dyn FnMut(usize, usize),
    ) -> Result<Vec<SceneFinding>, SceneError> {
        let mut languages = self.languages.clone();
        for language in &languages {
            check_language(strings, language)?;
        }
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
            let mut walk = Walk {
                check: self,
                from,
                texts: &texts,
                context: &mut context,
                found: &mut found,
            };
            walk.speakers();
            for line in &scene.lines {
                walk.line(line);
                done += 1;
                progress(done, all);
            }
        }
        self.portraits(scene, &languages, &mut found);
        Ok(found)
    }

    /// Tells of portraits that are no sprites, once for all languages.
    fn portraits(&self, scene: &Scene, languages: &[String], found: &mut Vec<SceneFinding>) {
        let Some(known) = &self.sprites else {
            return;
        };
        let speakers = scene.speakers();
        let of_speakers = speakers.map(|(_, speaker)| (speaker.line, &speaker.portrait));
        let of_lines = scene.lines.iter().map(|line| (line.line, &line.portrait));
        for (line, portrait) in of_speakers.chain(of_lines) {
            let Some(name) = portrait.as_ref().filter(|name| !known.contains(name)) else {
                continue;
            };
            let near = hint(name, known.iter().map(String::as_str));
            found.push(SceneFinding {
                kind: SceneFindingKind::UnknownPortrait,
                line,
                language: languages.first().cloned().unwrap_or_default(),
                problem: format!("the portrait “{name}” is no sprite{near}"),
            });
        }
    }
}

/// A walk through the lines of a scene in a language.
struct Walk<'a> {
    check: &'a SceneCheck,
    from: Sources<'a>,
    texts: &'a Texts,
    context: &'a mut LayoutContext,
    found: &'a mut Vec<SceneFinding>,
}

impl Walk<'_> {
    fn tell(&mut self, line: usize, kind: SceneFindingKind, problem: String) {
        self.found.push(SceneFinding {
            kind,
            line,
            language: self.texts.language().to_owned(),
            problem,
        });
    }

    /// Every form of a text that can be laid out; of the others it is told why not.
    fn layouts(
        &mut self,
        line: usize,
        source: &TextSource,
        style: &Style,
        options: &LayoutOptions,
    ) -> Vec<TextLayout> {
        if !self.texts.has(self.from, source) {
            let problem = match self.texts.read(self.from, line, source, style) {
                Err(error) => crate::base::full_message(&error),
                Ok(_) => return Vec::new(),
            };
            self.tell(line, SceneFindingKind::MissingText, problem);
            return Vec::new();
        }
        let mut layouts = Vec::new();
        for text in self.texts.read_forms(self.from, line, source, style) {
            let laid = text.map_err(SceneError::from).and_then(|text| {
                let layout = text.lay_out(options, self.context)?;
                Ok(layout)
            });
            match laid {
                Ok(layout) => {
                    self.letters(line, &layout);
                    layouts.push(layout);
                }
                Err(error) => {
                    let problem = crate::base::full_message(&error);
                    self.tell(line, SceneFindingKind::UnreadableText, problem);
                }
            }
        }
        layouts
    }

    /// Checks the names of speakers.
    fn speakers(&mut self) {
        let from = self.from;
        let line = from.scene.lines.iter().find(|line| !line.is_silent());
        let Some(Ok(style)) = line.map(|line| self.texts.style(from, line)) else {
            return;
        };
        let options = self.texts.options(from.strings);
        for (_, speaker) in from.scene.speakers() {
            self.layouts(speaker.line, &speaker.name, &style, &options);
        }
    }

    /// Checks what is said in a line, and its answers.
    fn line(&mut self, line: &SceneLine) {
        if line.is_silent() {
            return;
        }
        let style = match self.texts.style(self.from, line) {
            Ok(style) => style,
            Err(error) => {
                let problem = crate::base::full_message(&error);
                return self.tell(line.line, SceneFindingKind::UnreadableText, problem);
            }
        };
        let options = self.texts.options(self.from.strings);
        if let Some(source) = &line.text {
            let boxed = options.wrap(Wrap::Greedy).width(self.check.room.width);
            for layout in self.layouts(line.line, source, &style, &boxed) {
                self.said(line, layout);
            }
        }
        for choice in &line.choices {
            for layout in self.layouts(line.line, &choice.text, &style, &options) {
                let (width, room) = (layout.size().width, self.check.choice_width);
                if width > room + 0.05 {
                    let (over, said) = (width - room, layout.text());
                    let problem = format!("the answer “{said}” is {over:.1} px too wide");
                    self.tell(line.line, SceneFindingKind::ChoiceTooWide, problem);
                }
            }
        }
        let (count, most) = (line.choices.len(), self.check.most_choices);
        if count > most {
            let problem = format!("{count} answers may be offered, and {most} are shown");
            self.tell(line.line, SceneFindingKind::TooManyChoices, problem);
        }
    }

    /// Checks a form of a line in its box.
    fn said(&mut self, line: &SceneLine, layout: TextLayout) {
        let Size { width, height } = self.check.room;
        let widest = layout.lines().iter().map(|line| line.width);
        let widest = widest.fold(0.0, f32::max).max(layout.min_content_width());
        if widest > width + 0.05 {
            let over = widest - width;
            let problem = format!("a word is {over:.1} px wider than the box of {width} px");
            self.tell(line.line, SceneFindingKind::WordTooWide, problem);
        }
        let highest = layout.lines().iter().map(|line| line.height);
        let highest = highest.fold(0.0, f32::max);
        if highest > height + 0.05 {
            let over = highest - height;
            let problem =
                format!("a line of it is {over:.1} px higher than the box of {height} px");
            self.tell(line.line, SceneFindingKind::LineTooHigh, problem);
        }
        let size = PageSize::Height(height);
        let (count, most) = (pages(&layout, size).len(), self.check.most_pages);
        if count > most {
            let problem = format!("it takes {count} pages, and may take {most}");
            self.tell(line.line, SceneFindingKind::TooManyPages, problem);
        }
        let clusters = layout.clusters().len();
        let factor = speaker(self.from.scene, line).map_or(1.0, |speaker| speaker.pace);
        let speech = match Speech::new(layout, &Pace::default().times(factor), size) {
            Ok(speech) => speech,
            Err(error) => {
                let problem = error.to_string();
                return self.tell(line.line, SceneFindingKind::UnreadableText, problem);
            }
        };
        let seconds = speech.timetable().duration();
        let (speed, most) = (clusters as f64 / seconds, self.check.reading_speed);
        if seconds > 0.0 && speed > most {
            let problem = format!("{speed:.0} letters a second, and {most:.0} are read");
            self.tell(line.line, SceneFindingKind::TooFast, problem);
        }
    }

    /// Tells of letters that no face has, and of those that are not shaped.
    fn letters(&mut self, line: usize, layout: &TextLayout) {
        for script in layout.unshaped_scripts() {
            let problem = unshaped(script);
            self.tell(line, SceneFindingKind::UnshapedScript, problem);
        }
        if layout.missing().is_empty() {
            return;
        }
        let lost = layout.missing_letters();
        let count = layout.missing().len();
        let problem = format!("{count} letters are in none of its faces: “{lost}”");
        self.tell(line, SceneFindingKind::MissingGlyphs, problem);
    }
}
