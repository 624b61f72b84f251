//! Text with markup: `@name(arguments){content}` → spans with styles, and marks.

use std::borrow::Cow;
use std::collections::BTreeSet;

use crate::base::{Color, Edges, nearest};
use crate::font::Face;
use crate::text::{
    Effect, InlineSprite, LayoutContext, LayoutOptions, LineHeight, Mark, OwnedSpan, Plate, SIGN,
    Span, Style, TextError, TextLayout,
};

/// Changes that a named style makes to the style around it; the rest stays.
#[derive(Clone, Debug, Default, PartialEq)]
#[non_exhaustive]
pub struct StyleChange {
    /// Another face.
    pub face: Option<Face>,
    /// Faces for characters that it lacks, in their order.
    pub fallback: Option<Vec<Face>>,
    /// Another size, in design pixels per em.
    pub size: Option<f32>,
    /// A factor of the size.
    pub scale: Option<f32>,
    /// Another kind of edges.
    pub edges: Option<Edges>,
    /// Another colour.
    pub color: Option<Color>,
    /// Other effects in place of those around: an empty list takes them away.
    pub effects: Option<Vec<Effect>>,
    /// With a line beneath the letters, or without.
    pub underline: Option<bool>,
    /// With a line through the letters, or without.
    pub line_through: Option<bool>,
    /// The ground behind the letters, or none: `Some(None)` takes it away.
    pub plate: Option<Option<Plate>>,
    /// Other space between clusters, in design pixels.
    pub letter_spacing: Option<f32>,
    /// Other space at word breaks, in design pixels.
    pub word_spacing: Option<f32>,
    /// Another height of lines.
    pub line_height: Option<LineHeight>,
    /// With figures of one width, or without.
    pub tabular: Option<bool>,
    /// The distance the letters are raised, in design pixels.
    pub baseline_shift: Option<f32>,
}

crate::base::setters! {
    StyleChange {
    }
    changed {
        face: Face,
        fallback: Vec<Face>,
        size: f32,
        scale: f32,
        edges: Edges,
        color: Color,
        effects: Vec<Effect>,
        underline: bool,
        line_through: bool,
        plate: Option<Plate>,
        letter_spacing: f32,
        word_spacing: f32,
        line_height: LineHeight,
        tabular: bool,
        baseline_shift: f32,
    }
}

impl StyleChange {
    /// Returns this change on top of another one: what this one does not change is as there.
    #[must_use]
    pub fn over(&self, base: &Self) -> Self {
        let size = self.size.or(base.size);
        // A size of one's own is no part of what is scaled below.
        let scale = match (self.size, self.scale, base.scale) {
            (None, Some(own), Some(below)) => Some(own * below),
            (None, own, below) => own.or(below),
            (Some(_), own, _) => own,
        };
        Self {
            face: self.face.clone().or_else(|| base.face.clone()),
            fallback: self.fallback.clone().or_else(|| base.fallback.clone()),
            size,
            scale,
            edges: self.edges.or(base.edges),
            color: self.color.or(base.color),
            effects: self.effects.clone().or_else(|| base.effects.clone()),
            underline: self.underline.or(base.underline),
            line_through: self.line_through.or(base.line_through),
            plate: self.plate.or(base.plate),
            letter_spacing: self.letter_spacing.or(base.letter_spacing),
            word_spacing: self.word_spacing.or(base.word_spacing),
            line_height: self.line_height.or(base.line_height),
            tabular: self.tabular.or(base.tabular),
            baseline_shift: self.baseline_shift.or(base.baseline_shift),
        }
    }

    /// Returns the style that a text begins with: none where the change names no face.
    pub fn style(&self) -> Option<Style> {
        let face = self.face.as_ref()?;
        Some(self.apply(&Style::new(face, self.size.unwrap_or(Self::USUAL_SIZE))))
    }

    /// The size of a style that states none, in design pixels per em.
    pub const USUAL_SIZE: f32 = 16.0;

    fn apply(&self, around: &Style) -> Style {
        let mut style = around.clone();
        if let Some(face) = &self.face {
            style.face = face.clone();
        }
        if let Some(fallback) = &self.fallback {
            style.fallback.clone_from(fallback);
        }
        style.size = self.size.unwrap_or(style.size) * self.scale.unwrap_or(1.0);
        style.edges = self.edges.unwrap_or(style.edges);
        style.word_spacing = self.word_spacing.unwrap_or(style.word_spacing);
        style.line_height = self.line_height.unwrap_or(style.line_height);
        style.tabular = self.tabular.unwrap_or(style.tabular);
        style.color = self.color.unwrap_or(style.color);
        if let Some(effects) = &self.effects {
            style.effects.clone_from(effects);
        }
        style.underline = self.underline.unwrap_or(style.underline);
        style.line_through = self.line_through.unwrap_or(style.line_through);
        style.plate = self.plate.unwrap_or(style.plate);
        style.letter_spacing = self.letter_spacing.unwrap_or(style.letter_spacing);
        style.baseline_shift = self.baseline_shift.unwrap_or(style.baseline_shift);
        style
    }
}

/// The names that may stand in a text with markup.
///
/// ```
/// use kerno::{Color, Size};
/// use kerno::markup::{Markup, StyleChange};
/// use kerno::text::InlineSprite;
/// let gold = StyleChange::default().color(Color::rgb(255, 207, 112));
/// let lantern = InlineSprite::new("lantern", Size::new(32.0, 48.0), 18.0);
/// let markup = Markup::new().style("gold", gold).mark("pause").sprite("icon", lantern);
/// // “@icon(lantern) @gold{Lamp oil} is low@pause(0.4)…”
/// # let _ = markup;
/// ```
#[derive(Clone, Debug, Default)]
pub struct Markup {
    styles: Vec<(String, StyleChange)>,
    marks: Vec<String>,
    /// Names of marks along a part of the text.
    ranges: Vec<String>,
    /// Each with the name of the mark that it is an argument of.
    sprites: Vec<(String, InlineSprite)>,
}

/// A text whose markup has been read.
#[derive(Clone, Debug, PartialEq)]
pub struct StyledText {
    text: String,
    parts: Vec<OwnedSpan>,
    marks: Vec<Mark>,
}

/// An error in a text with markup, and its place.
#[derive(Clone, PartialEq, Eq, thiserror::Error)]
#[error("line {line}, column {column}: {problem}")]
pub struct MarkupError {
    /// Counted from 1.
    pub line: usize,
    /// In characters, counted from 1.
    pub column: usize,
    /// The problem, in a sentence.
    pub problem: String,
}

crate::base::debug_in_full!(MarkupError);

impl MarkupError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        "markup-syntax"
    }
}

/// The deepest nesting of styles.
const DEEPEST: usize = 64;

impl Markup {
    /// No names at all: only `@@` may stand in a text.
    pub fn new() -> Self {
        Self::default()
    }

    /// Adds a style: `@name{content}`.
    #[must_use]
    pub fn style(mut self, name: &str, change: StyleChange) -> Self {
        self.styles.push((name.to_owned(), change));
        self
    }

    /// Adds a mark: `@name(arguments)`.
    #[must_use]
    pub fn mark(mut self, name: &str) -> Self {
        self.marks.push(name.to_owned());
        self
    }

    /// Adds a mark along a part of the text: `@name(arguments){content}`.
    #[must_use]
    pub fn range(mut self, name: &str) -> Self {
        self.ranges.push(name.to_owned());
        self
    }

    /// Adds a sprite to those that a name stands for: `@name(sprite)`.
    #[must_use]
    pub fn sprite(mut self, name: &str, sprite: InlineSprite) -> Self {
        self.sprites.push((name.to_owned(), sprite));
        self
    }

    /// Reads a text whose plain parts are in the style `base`.
    ///
    /// # Errors
    /// [`MarkupError`] with line and column of an unknown name, an unclosed brace or
    /// bracket, a style without content, a mark with one.
    pub fn read(&self, source: &str, base: &Style) -> Result<StyledText, MarkupError> {
        self.read_with(source, base, &|_| None)
    }

    /// As [`Markup::read`]; `say` may put a text in the place of a mark: that of a value, say,
    /// or an error about it.
    ///
    /// # Errors
    /// As there.
    pub fn read_with(
        &self,
        source: &str,
        base: &Style,
        say: &dyn Fn(&Mark) -> Option<Result<String, String>>,
    ) -> Result<StyledText, MarkupError> {
        let mut reader = Reader {
            markup: self,
            say,
            source,
            at: 0,
            read: StyledText {
                text: String::new(),
                parts: Vec::new(),
                marks: Vec::new(),
            },
        };
        let mut open = vec![Open {
            style: base.clone(),
            start: 0,
            mark: None,
        }];
        while let Some(character) = reader.rest().chars().next() {
            let start = reader.at;
            match character {
                '@' if reader.rest().starts_with("@@") => {
                    reader.at += 2;
                    reader.push("@", &open);
                }
                '@' => reader.name(&mut open)?,
                '}' if open.len() > 1 => {
                    reader.at += 1;
                    reader.close(&mut open);
                }
                _ => {
                    let rest = reader.rest();
                    let is_end = |c: char| c == '@' || (c == '}' && open.len() > 1);
                    let length = rest.find(is_end).unwrap_or(rest.len());
                    reader.at = start + length;
                    let part = &source[start..start + length];
                    reader.push(part, &open);
                }
            }
        }
        match open.last() {
            Some(last) if open.len() > 1 => {
                Err(reader.error(last.start, "this brace is not closed; end it with “}”"))
            }
            _ => Ok(reader.read),
        }
    }

    /// The letters of a text without its markup, whatever names are in it: what a face has to
    /// have for it. Signs for sprites and values are left out.
    pub fn strip(source: &str) -> String {
        let mut plain = String::with_capacity(source.len());
        let mut depth = 0_usize;
        let mut rest = source;
        while let Some(character) = rest.chars().next() {
            rest = &rest[character.len_utf8()..];
            match character {
                '@' if rest.starts_with(['@', '}']) => {
                    plain.extend(rest.chars().next());
                    rest = &rest[1..];
                }
                '@' => {
                    rest = rest.trim_start_matches(is_name);
                    if rest.starts_with('(') {
                        rest = rest.split_once(')').map_or("", |(_, rest)| rest);
                    }
                    if let Some(content) = rest.strip_prefix('{') {
                        depth += 1;
                        rest = content;
                    }
                }
                '}' if depth > 0 => depth -= 1,
                other => plain.push(other),
            }
        }
        plain
    }

    /// Text from a player: every at sign and brace in it is only itself.
    pub fn escape(text: &str) -> Cow<'_, str> {
        // A brace alone ends a style around it, so it goes as a name of its own.
        if text.contains(['@', '}']) {
            Cow::Owned(text.replace('@', "@@").replace('}', "@}"))
        } else {
            Cow::Borrowed(text)
        }
    }
}

impl StyledText {
    /// The text without its markup.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// Its parts with their styles, for [`TextLayout`](crate::TextLayout).
    pub fn spans(&self) -> Vec<Span<'_>> {
        OwnedSpan::spans(&self.parts, &self.text)
    }

    /// Its parts in their order, for who puts something between them.
    #[cfg(feature = "screens")]
    pub(crate) fn parts(&self) -> &[OwnedSpan] {
        &self.parts
    }

    /// The marks between its clusters, and along parts of it.
    pub fn marks(&self) -> &[Mark] {
        &self.marks
    }

    /// Lays the text out, with its marks in their places.
    ///
    /// # Errors
    /// As [`TextLayout::with_options`].
    pub fn lay_out(
        &self,
        options: &LayoutOptions,
        context: &mut LayoutContext,
    ) -> Result<TextLayout, TextError> {
        let mut layout = match self.parted() {
            Some(parts) => context.lay_out(&OwnedSpan::spans(&parts, &self.text), options)?,
            None => context.lay_out(&self.spans(), options)?,
        };
        layout.set_marks(self.marks.clone());
        Ok(layout)
    }

    /// The parts, cut in two where a mark stands between two letters: no ligature spans it, so
    /// that what comes before it can be seen alone. None where no mark does.
    fn parted(&self) -> Option<Vec<OwnedSpan>> {
        let is_between = |at: usize| {
            let (before, after) = self.text.split_at(at);
            let ends = [before.chars().next_back(), after.chars().next()];
            let is_letter = |end: &Option<char>| end.is_some_and(char::is_alphanumeric);
            ends.iter().all(is_letter)
        };
        let points = self.marks.iter().filter(|mark| mark.bytes.is_empty());
        let points = points.map(|mark| mark.bytes.start);
        let cuts: BTreeSet<usize> = points.filter(|at| is_between(*at)).collect();
        if cuts.is_empty() {
            return None;
        }
        let mut parts = Vec::new();
        let mut start = 0;
        for part in &self.parts {
            let end = start + part.length;
            // A plate goes around all of its part.
            let is_whole = part.sprite.is_some() || part.style.plate.is_some();
            for cut in cuts.range(start + 1..end.max(start + 1)) {
                if !is_whole {
                    let length = cut - start;
                    parts.push(OwnedSpan {
                        length,
                        ..part.clone()
                    });
                    start = *cut;
                }
            }
            parts.push(OwnedSpan {
                length: end - start,
                ..part.clone()
            });
            start = end;
        }
        Some(parts)
    }
}

/// A part in braces that is open.
struct Open {
    style: Style,
    /// The brace, in bytes of the source.
    start: usize,
    /// The mark that it is the content of.
    mark: Option<usize>,
}

/// Returns whether a name may have a character.
fn is_name(character: char) -> bool {
    character.is_alphanumeric() || matches!(character, '-' | '_')
}

struct Reader<'a> {
    markup: &'a Markup,
    /// The text in the place of a mark.
    say: &'a dyn Fn(&Mark) -> Option<Result<String, String>>,
    source: &'a str,
    at: usize,
    read: StyledText,
}

impl<'a> Reader<'a> {
    fn rest(&self) -> &'a str {
        &self.source[self.at..]
    }

    fn error(&self, at: usize, problem: impl Into<String>) -> MarkupError {
        let before = &self.source[..at];
        let line_start = before.rfind('\n').map_or(0, |end| end + 1);
        MarkupError {
            line: 1 + before.matches('\n').count(),
            column: 1 + before[line_start..].chars().count(),
            problem: problem.into(),
        }
    }

    /// Adds text in the innermost style.
    fn push(&mut self, part: &str, open: &[Open]) {
        let Some(Open { style, .. }) = open.last() else {
            return;
        };
        self.read.text.push_str(part);
        match self.read.parts.last_mut() {
            Some(last) if last.style == *style && last.sprite.is_none() => {
                last.length += part.len();
            }
            _ => self.read.parts.push(OwnedSpan {
                length: part.len(),
                style: style.clone(),
                sprite: None,
            }),
        }
    }

    /// Ends the innermost part in braces.
    fn close(&mut self, open: &mut Vec<Open>) {
        if let Some(mark) = open.pop().and_then(|part| part.mark) {
            self.read.marks[mark].bytes.end = self.read.text.len();
        }
    }

    /// Reads what begins with an at sign.
    fn name(&mut self, open: &mut Vec<Open>) -> Result<(), MarkupError> {
        let start = self.at;
        self.at += 1;
        if self.rest().starts_with('}') {
            self.at += 1;
            self.push("}", open);
            return Ok(());
        }
        let rest = self.rest();
        let length = rest.find(|c| !is_name(c)).unwrap_or(rest.len());
        let name = &rest[..length];
        if name.is_empty() {
            return Err(self.error(
                start,
                "a name must follow the at sign; write “@@” for the sign itself",
            ));
        }
        self.at += length;
        let arguments = if self.rest().starts_with('(') {
            self.arguments()?
        } else {
            Vec::new()
        };
        let has_content = self.rest().starts_with('{');
        let is_style = self.markup.styles.iter().any(|(known, _)| known == name);
        if is_style || self.markup.ranges.iter().any(|known| known == name) {
            return match has_content {
                true => self.open(start, name, arguments, open),
                false => {
                    let problem = format!("“{name}” needs content: @{name}{{…}}");
                    Err(self.error(start, problem))
                }
            };
        }
        let sprites = self.markup.sprites.iter();
        let is_sprite = sprites.clone().any(|(known, _)| known == name);
        if !is_sprite && !self.markup.marks.iter().any(|known| known == name) {
            return Err(self.unknown(start, name));
        }
        if has_content {
            let problem = format!("“{name}” takes no content; leave the braces out");
            return Err(self.error(self.at, problem));
        }
        if is_sprite {
            return self.sprite(start, name, &arguments, open);
        }
        self.mark(name, arguments);
        let said = self.read.marks.last().and_then(self.say);
        match said {
            None => Ok(()),
            Some(Err(problem)) => Err(self.error(start, problem)),
            Some(Ok(text)) => {
                self.read.marks.pop();
                self.push(&text, open);
                Ok(())
            }
        }
    }

    /// Begins the content of a style or of a range.
    fn open(
        &mut self,
        start: usize,
        name: &str,
        arguments: Vec<(Option<String>, String)>,
        open: &mut Vec<Open>,
    ) -> Result<(), MarkupError> {
        if open.len() > DEEPEST {
            return Err(self.error(start, format!("styles nest deeper than {DEEPEST}")));
        }
        let style = self.markup.styles.iter().find(|(known, _)| known == name);
        let around = open.last().map(|part| match style {
            Some((_, change)) => change.apply(&part.style),
            None => part.style.clone(),
        });
        let mark = style.is_none().then(|| {
            self.mark(name, arguments);
            self.read.marks.len() - 1
        });
        // A part of the text is replaced by nothing, but may be refused.
        let own = mark.and_then(|mark| self.read.marks.get(mark));
        if let Some(Err(problem)) = own.and_then(self.say) {
            return Err(self.error(start, problem));
        }
        let start = self.at;
        open.extend(around.map(|style| Open { style, start, mark }));
        self.at += 1;
        Ok(())
    }

    /// The error about a name that is not there.
    fn unknown(&self, start: usize, name: &str) -> MarkupError {
        let markup = self.markup;
        let known = markup.styles.iter().map(|(name, _)| name.as_str());
        let marks = markup.marks.iter().chain(&markup.ranges);
        let sprites = markup.sprites.iter().map(|(name, _)| name.as_str());
        let known = known.chain(marks.map(String::as_str)).chain(sprites);
        let hint = nearest(name, known)
            .map_or_else(String::new, |near| format!("; did you mean “{near}”?"));
        self.error(start, format!("there is no “{name}”{hint}"))
    }

    /// Adds a mark at the end of the text so far.
    fn mark(&mut self, name: &str, arguments: Vec<(Option<String>, String)>) {
        let at = self.read.text.len();
        let mut mark = Mark::new(name, at..at);
        mark.arguments = arguments;
        self.read.marks.push(mark);
    }

    /// Puts a sprite in the text, in the innermost style.
    fn sprite(
        &mut self,
        start: usize,
        name: &str,
        arguments: &[(Option<String>, String)],
        open: &[Open],
    ) -> Result<(), MarkupError> {
        let [(None, wanted)] = arguments else {
            let problem = format!("“{name}” takes the name of one sprite: @{name}(…)");
            return Err(self.error(start, problem));
        };
        let own = self
            .markup
            .sprites
            .iter()
            .filter(|(known, _)| known == name);
        let Some((_, sprite)) = own.clone().find(|(_, sprite)| sprite.name == *wanted) else {
            let hint = nearest(wanted, own.map(|(_, sprite)| sprite.name.as_str()))
                .map_or_else(String::new, |near| format!("; did you mean “{near}”?"));
            let problem = format!("“{name}” knows no sprite “{wanted}”{hint}");
            return Err(self.error(start, problem));
        };
        self.read.text.push_str(SIGN);
        let style = open.last().map(|part| part.style.clone());
        self.read.parts.extend(style.map(|style| OwnedSpan {
            length: SIGN.len(),
            style,
            sprite: Some(sprite.clone()),
        }));
        Ok(())
    }

    /// Reads arguments in brackets: values, or keys with values, by commas.
    fn arguments(&mut self) -> Result<Vec<(Option<String>, String)>, MarkupError> {
        let start = self.at;
        let Some(length) = self.rest().find(')') else {
            return Err(self.error(start, "this bracket is not closed; end it with “)”"));
        };
        let inside = &self.rest()[1..length];
        self.at += length + 1;
        let argument = |part: &str| match part.split_once('=') {
            Some((key, value)) => (Some(key.trim().to_owned()), value.trim().to_owned()),
            None => (None, part.trim().to_owned()),
        };
        let parts = inside.split(',').filter(|part| !part.trim().is_empty());
        Ok(parts.map(argument).collect())
    }
}
