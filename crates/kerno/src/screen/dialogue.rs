//! Dialogue on a screen.

use super::element::{Content, Element, Length};
use super::node::Body;
use super::{Screen, ScreenDescription, ScreenError};
use crate::base::{Size, hint};
use crate::dialogue::{ScenePlayer, SpeechPlayer, Stop};
use crate::markup::{Value, ValueDeclaration};
use crate::text::TextError;

/// Values of a dialogue element that are true or false.
const FLAGS: [&str; 4] = ["open", "waiting", "more", "choosing"];

/// Values of a dialogue element that are texts.
const TEXTS: [&str; 2] = ["speaker", "portrait"];

/// The answers that a screen shows, one after another.
const CHOICES: [&str; 6] = [
    "choice-1", "choice-2", "choice-3", "choice-4", "choice-5", "choice-6",
];

/// The names of the values of a dialogue element: `line.open`, and so on.
pub(super) fn own_values(element: &Element) -> impl Iterator<Item = String> {
    let names = FLAGS.iter().chain(&TEXTS).chain(&CHOICES);
    names.map(|value| format!("{}.{value}", element.name))
}

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
            for (at, name) in own_values(element).enumerate() {
                if self.values.iter().any(|known| known.name == name) {
                    continue;
                }
                let start = match at < FLAGS.len() {
                    true => Value::Flag(false),
                    false => Value::Text(String::new()),
                };
                let mut declared = ValueDeclaration::new(&name, start);
                declared.is_own = true;
                self.values.push(declared);
            }
        }
        self
    }
}

impl Screen {
    /// The room that a dialogue element has for its lines, in design pixels: hand it to the
    /// [`ScenePlayer`]. As it was arranged last; where it is as large as its text, the most
    /// that it may be; while it is hidden, that which it has when it is shown.
    pub fn dialogue_room(&self, name: &str) -> Option<Size> {
        let node = &self.nodes[*self.names.get(name)?];
        let element = &node.element;
        let arranged = match &node.body {
            Body::Dialogue(body) => body.hidden_size,
            _ => return None,
        };
        let arranged = arranged.unwrap_or(Size::new(node.rect.width, node.rect.height));
        let padding = element.padding;
        let side = |own: Length, most: Length, arranged: f32, around: f32| match (own, most) {
            (Length::Auto, Length::Px(most)) => most - around,
            (Length::Auto, _) => f32::INFINITY,
            (Length::Px(own), _) => own - around,
            _ => arranged - around,
        };
        let (across, down) = (padding.left + padding.right, padding.top + padding.bottom);
        let size = Size::new(
            side(element.width, element.max_width, arranged.width, across),
            side(element.height, element.max_height, arranged.height, down),
        );
        Some(size)
    }

    /// Finds the sizes that dialogue elements will have which are hidden now, where these follow
    /// from the boxes around them.
    pub(super) fn measure_hidden_dialogues(&mut self) -> Result<(), TextError> {
        let mut is_other = false;
        for index in 0..self.nodes.len() {
            let Body::Dialogue(body) = &mut self.nodes[index].body else {
                continue;
            };
            body.hidden_size = None;
            let element = &self.nodes[index].element;
            let is_own = |length: Length| matches!(length, Length::Px(_) | Length::Auto);
            let chain = std::iter::successors(Some(index), |at| self.nodes[*at].parent);
            let hidden: Vec<usize> = chain.filter(|at| !self.nodes[*at].is_there).collect();
            if hidden.is_empty() || is_own(element.width) && is_own(element.height) {
                continue;
            }
            self.show_all(&hidden, true)?;
            let rect = self.nodes[index].rect;
            if let Body::Dialogue(body) = &mut self.nodes[index].body {
                body.hidden_size = Some(Size::new(rect.width, rect.height));
            }
            self.show_all(&hidden, false)?;
            is_other = true;
        }
        match is_other {
            true => self.arrange_boxes(),
            false => Ok(()),
        }
    }

    /// Shows some elements or hides them, and finds the boxes where they are shown.
    fn show_all(&mut self, indices: &[usize], is_there: bool) -> Result<(), TextError> {
        for index in indices {
            self.nodes[*index].is_there = is_there;
            self.flow.show(*index, &self.nodes);
        }
        match is_there {
            true => self.arrange_boxes(),
            false => Ok(()),
        }
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
        let (Some(index), Some(Body::Dialogue(dialogue))) = (index, body) else {
            let near = hint(name, self.names.keys().map(String::as_str));
            let problem = format!("there is no dialogue element “{name}”{near}");
            return Err(ScreenError::Value(problem));
        };
        let is_other = match (&mut dialogue.player, scene.speech()) {
            (Some(player), Some(speech)) => {
                let before = page_lines(player);
                self.is_changed |= player.become_like(speech);
                page_lines(player) != before
            }
            (None, None) => false,
            (player, speech) => {
                *player = speech.cloned();
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
        let texts = [scene.speaker_name(), scene.portrait()];
        let texts = texts.map(Option::unwrap_or_default).into_iter();
        let choices = scene.choice_texts().chain(std::iter::repeat(""));
        let texts = texts.chain(choices).map(Shown::Text);
        let shown = flags.into_iter().map(Shown::Flag).chain(texts);
        let count = FLAGS.len() + TEXTS.len() + CHOICES.len();
        for (at, to) in shown.take(count).enumerate() {
            self.set_own(index, at, to)?;
        }
        Ok(())
    }

    /// Sets a value of a dialogue element, where it is another one.
    fn set_own(&mut self, node: usize, at: usize, to: Shown<'_>) -> Result<(), ScreenError> {
        let Body::Dialogue(dialogue) = &self.nodes[node].body else {
            return Ok(());
        };
        let index = dialogue.values[at];
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

/// The text of a dialogue element, and the lines of it that are shown: its size goes by them.
fn page_lines(player: &SpeechPlayer) -> (usize, std::ops::Range<usize>) {
    let lines = player.page().map_or(0..0, |page| page.lines.clone());
    (std::ptr::from_ref(player.speech()).addr(), lines)
}
