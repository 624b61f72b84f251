//! The words of the line at hand.

use super::SceneError;
use super::description::{Choice, SceneLine};
use super::player::ScenePlayer;
use super::texts::{Sources, Texts, speaker};
use crate::dialogue::{PageSize, Speech, SpeechPlayer};
use crate::markup::TextSource;
use crate::text::{LayoutOptions, Style};

impl ScenePlayer {
    /// Reads all texts of the scene's language once, in all their forms; and those of the other
    /// languages that have them.
    pub(super) fn read_all(&self) -> Result<(), SceneError> {
        self.read_language(&self.texts, false)?;
        let others = self.strings.languages();
        for other in others.filter(|other| *other != self.texts.language()) {
            self.read_language(&Texts::new(&self.styles, other), true)?;
        }
        Ok(())
    }

    /// Reads all texts of a language once; `may_lack` says whether it need not have all.
    pub(super) fn read_language(&self, texts: &Texts, may_lack: bool) -> Result<(), SceneError> {
        let from = self.sources();
        let read = |line: usize, source: &TextSource, style: &Style| -> Result<(), SceneError> {
            if may_lack && !texts.has(from, source) {
                return Ok(());
            }
            for text in texts.read_forms(from, line, source, style) {
                text?;
            }
            Ok(())
        };
        let mut first = None;
        for line in self.scene.lines.iter().filter(|line| !line.is_silent()) {
            let style = texts.style(from, line)?;
            let choices = line.choices.iter().map(|choice| &choice.text);
            for source in line.text.iter().chain(choices) {
                read(line.line, source, &style)?;
            }
            first.get_or_insert(style);
        }
        if let Some(style) = first {
            for (_, speaker) in self.scene.speakers() {
                read(speaker.line, &speaker.name, &style)?;
            }
        }
        Ok(())
    }

    pub(super) fn sources(&self) -> Sources<'_> {
        Sources {
            scene: &self.scene,
            styles: &self.styles,
            strings: &self.strings,
            values: &self.values,
        }
    }

    /// Finds the name of who speaks in a line.
    pub(super) fn name_speaker(&mut self, line: &SceneLine) -> Result<(), SceneError> {
        let speaker = speaker(&self.scene, line);
        let name = speaker.map(|speaker| {
            let style = self.texts.style(self.sources(), line)?;
            self.plain(speaker.line, &speaker.name, &style)
        });
        self.speaker_name = name.transpose()?;
        Ok(())
    }

    /// Prepares the speech of a line.
    pub(super) fn spoken(&mut self, line: &SceneLine) -> Result<Option<SpeechPlayer>, SceneError> {
        let Some(source) = &line.text else {
            return Ok(None);
        };
        let style = self.texts.style(self.sources(), line)?;
        let text = self.texts.read(self.sources(), line.line, source, &style)?;
        let options = LayoutOptions {
            direction: self.texts.options(&self.strings).direction,
            ..self.options
        };
        // A box as wide as its text has no width of its own.
        let width = Some(self.room.width).filter(|width| width.is_finite());
        let options = options.width(width);
        let layout = text.lay_out(&options, &mut self.context)?;
        let factor = speaker(&self.scene, line).map_or(1.0, |speaker| speaker.pace);
        let pace = self.pace.times(factor);
        let size = PageSize::Height(self.room.height);
        let speech = Speech::new(layout, &pace, size)?;
        Ok(Some(SpeechPlayer::new(match self.scrolls {
            true => speech.scrolling(size),
            false => speech,
        })))
    }

    /// The words of something in a style.
    fn plain(&self, line: usize, source: &TextSource, style: &Style) -> Result<String, SceneError> {
        let read = self.texts.read(self.sources(), line, source, style)?;
        Ok(without_sprites(read.text()))
    }

    /// The choices of a line that are offered now.
    pub(super) fn offer(&self, line: &SceneLine) -> Result<Vec<(usize, String)>, SceneError> {
        let holds = |choice: &Choice| self.holds(choice.condition.as_ref());
        let offered = line.choices.iter().enumerate();
        let offered: Vec<_> = offered.filter(|(_, choice)| holds(choice)).collect();
        if offered.is_empty() {
            return Ok(Vec::new());
        }
        let style = self.texts.style(self.sources(), line)?;
        let words = |(index, choice): (usize, &Choice)| {
            Ok((index, self.plain(line.line, &choice.text, &style)?))
        };
        offered.into_iter().map(words).collect()
    }
}

/// A text without the signs that stand for sprites, and the space after them.
pub(super) fn without_sprites(text: &str) -> String {
    text.replace("\u{fffc} ", "").replace('\u{fffc}', "")
}
