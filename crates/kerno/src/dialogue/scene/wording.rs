//! The words of the line at hand.

use super::SceneError;
use super::description::{Choice, SceneLine};
use super::player::ScenePlayer;
use super::texts::{Sources, speaker};
use crate::dialogue::{PageSize, Speech, SpeechPlayer};
use crate::markup::TextSource;
use crate::text::{LayoutOptions, Style};

impl ScenePlayer {
    /// Reads all texts once.
    pub(super) fn read_all(&self) -> Result<(), SceneError> {
        let from = self.sources();
        for (index, line) in self.scene.lines.iter().enumerate() {
            if line.is_silent() {
                continue;
            }
            let style = self.texts.style(from, line)?;
            let choices = line.choices.iter().map(|choice| &choice.text);
            for source in line.text.iter().chain(choices) {
                let text = self.texts.read(from, line.line, source, &style)?;
                // Marks that mean nothing are told before they are played.
                crate::dialogue::timetable::check_marks(text.marks())
                    .map_err(|problem| self.scene.fault(self.scene.lines[index].line, problem))?;
            }
        }
        for (_, speaker) in self.scene.speakers() {
            let style = self
                .scene
                .lines
                .first()
                .map(|line| self.texts.style(from, line));
            if let Some(style) = style {
                self.texts
                    .read(from, speaker.line, &speaker.name, &style?)?;
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
