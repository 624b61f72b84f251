//! Dialogue on a screen.

use super::element::{Content, Length};
use super::node::Body;
use super::{Screen, ScreenDescription, ScreenError};
use crate::base::{Size, hint};
use crate::dialogue::{ScenePlayer, SpeechPlayer, Stop};
use crate::markup::{Value, ValueDeclaration};

/// Values of a dialogue element that are true or false.
const FLAGS: [&str; 4] = ["open", "waiting", "more", "choosing"];

/// Values of a dialogue element that are texts.
const TEXTS: [&str; 2] = ["speaker", "portrait"];

/// The answers that a screen shows, one after another.
const CHOICES: [&str; 6] = [
    "choice-1", "choice-2", "choice-3", "choice-4", "choice-5", "choice-6",
];

/// A value of a dialogue.
#[derive(Clone, Copy)]
enum Shown<'a> {
    Flag(bool),
    Text(&'a str),
}

impl ScreenDescription {
    /// Adds the values that dialogue elements have, as far as they are not there.
    pub(super) fn with_dialogue_values(mut self) -> Self {
        let elements = self.elements.iter();
        let own = elements.filter(|element| element.content == Content::Dialogue);
        for element in own {
            let flags = FLAGS.iter().map(|name| (name, Value::Flag(false)));
            let texts = TEXTS.iter().chain(&CHOICES);
            let texts = texts.map(|name| (name, Value::Text(String::new())));
            for (value, start) in flags.chain(texts) {
                let name = format!("{}.{value}", element.name);
                if !self.values.iter().any(|known| known.name == name) {
                    let mut declared = ValueDeclaration::new(&name, start);
                    declared.is_own = true;
                    self.values.push(declared);
                }
            }
        }
        self
    }
}

impl Screen {
    /// The room that a dialogue element has for its lines, in design pixels: hand it to the
    /// [`ScenePlayer`]. As it was arranged last; where it is as large as its text, the most
    /// that it may be.
    pub fn dialogue_room(&self, name: &str) -> Option<Size> {
        let node = &self.nodes[*self.names.get(name)?];
        let element = &node.element;
        let padding = element.padding;
        let side = |own: Length, most: Length, arranged: f32, around: f32| match (own, most) {
            (Length::Auto, Length::Px(most)) => most - around,
            (Length::Auto, _) => f32::INFINITY,
            (Length::Px(own), _) => own - around,
            _ => arranged - around,
        };
        let (across, down) = (padding.left + padding.right, padding.top + padding.bottom);
        let size = Size::new(
            side(element.width, element.max_width, node.rect.width, across),
            side(element.height, element.max_height, node.rect.height, down),
        );
        matches!(node.body, Body::Dialogue(_)).then_some(size)
    }

    /// Shows the line at hand of a scene in a dialogue element. The element has values for
    /// what is around it, named after it: `line.open` (somebody speaks), `line.speaker`,
    /// `line.portrait`, `line.waiting` (for a press), `line.more` (pages), `line.choosing`, and `line.choice-1` to
    /// `line.choice-6`. Call it in every frame; where nothing changed it takes no memory.
    ///
    /// # Errors
    /// [`ScreenError::Value`] where there is no dialogue element of that name;
    /// [`ScreenError::Text`] where a text can't be laid out.
    pub fn show_dialogue(&mut self, name: &str, scene: &ScenePlayer) -> Result<(), ScreenError> {
        let index = self.names.get(name).copied();
        let body = index.map(|index| &mut self.nodes[index].body);
        let (Some(index), Some(Body::Dialogue(player))) = (index, body) else {
            let near = hint(name, self.names.keys().map(String::as_str));
            let problem = format!("there is no dialogue element “{name}”{near}");
            return Err(ScreenError::Value(problem));
        };
        let is_other = match (player.as_deref_mut(), scene.speech()) {
            (Some(player), Some(speech)) => {
                let before = page_lines(player);
                self.is_changed |= player.become_like(speech);
                page_lines(player) != before
            }
            (None, None) => false,
            (None, Some(speech)) => {
                *player = Some(Box::new(speech.clone()));
                true
            }
            (Some(_), None) => {
                *player = None;
                true
            }
        };
        if is_other {
            self.flow.mark(index);
            self.is_loose = true;
        }
        let flags = [
            scene.line().is_some(),
            scene.is_waiting(),
            scene.stop() == Some(Stop::PageFull),
            scene.choice_texts().next().is_some(),
        ];
        for (value, flag) in FLAGS.into_iter().zip(flags) {
            self.set_own(name, value, Shown::Flag(flag))?;
        }
        for (value, text) in TEXTS
            .into_iter()
            .zip([scene.speaker_name(), scene.portrait()])
        {
            self.set_own(name, value, Shown::Text(text.unwrap_or_default()))?;
        }
        let mut choices = scene.choice_texts();
        for value in CHOICES {
            let text = choices.next().unwrap_or_default();
            self.set_own(name, value, Shown::Text(text))?;
        }
        Ok(())
    }

    /// Sets a value of a dialogue element, where it is another one.
    fn set_own(&mut self, element: &str, value: &str, to: Shown<'_>) -> Result<(), ScreenError> {
        let found = self.description.values.iter().position(|known| {
            let rest = known.name.strip_prefix(element);
            rest.and_then(|rest| rest.strip_prefix('.')) == Some(value)
        });
        let Some(index) = found else {
            return Ok(());
        };
        let to = match (&self.handed[index], to) {
            (Value::Flag(known), Shown::Flag(flag)) if *known != flag => Value::Flag(flag),
            (Value::Text(known), Shown::Text(text)) if known != text => {
                Value::Text(text.to_owned())
            }
            _ => return Ok(()),
        };
        self.handed[index] = to;
        self.show(index)
    }
}

/// What the size of a dialogue element goes by: the text, and the lines of it that are shown.
fn page_lines(player: &SpeechPlayer) -> (usize, std::ops::Range<usize>) {
    let lines = player.page().map_or(0..0, |page| page.lines.clone());
    (std::ptr::from_ref(player.speech()).addr(), lines)
}
