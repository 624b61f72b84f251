//! Questions about a screen that was arranged.

use super::node::Body;
use super::{Screen, ScreenError, Viewport};
use crate::atlas::Atlas;
use crate::base::{Point, Rect, hint};
use crate::draw::Frame;
use crate::markup::{StringTables, StyleFile, Value};
use crate::text::TextLayout;

impl Screen {
    /// The box of an element in design pixels, as it was arranged last; none where there is
    /// no such element, or it is not there.
    pub fn element_rect(&self, name: &str) -> Option<Rect> {
        let index = *self.names.get(name)?;
        self.is_seen(index).then(|| self.nodes[index].rect)
    }

    /// The layout of a text element, for typewriter text and for questions about it.
    pub fn text(&self, name: &str) -> Option<&TextLayout> {
        match &self.nodes[*self.names.get(name)?].body {
            Body::Text(text) => Some(&text.layout),
            _ => None,
        }
    }

    /// Shows the first clusters of a text element alone; `usize::MAX` for all. Nothing moves.
    ///
    /// # Errors
    /// [`ScreenError::Value`] where there is no text element of that name.
    pub fn reveal(&mut self, name: &str, clusters: usize) -> Result<(), ScreenError> {
        let index = self.names.get(name).copied();
        match index.map(|index| &mut self.nodes[index].body) {
            Some(Body::Text(text)) => {
                self.is_changed |= text.visible != clusters;
                text.visible = clusters;
                Ok(())
            }
            _ => {
                let near = hint(name, self.names.keys().map(String::as_str));
                Err(ScreenError::Value(format!(
                    "there is no text element “{name}”{near}"
                )))
            }
        }
    }

    /// The uppermost element at a place in design pixels, of those that show something.
    pub fn element_at(&self, at: Point) -> Option<&str> {
        let mut found = None;
        let mut open: Vec<usize> = self.roots.iter().rev().copied().collect();
        while let Some(index) = open.pop() {
            let node = &self.nodes[index];
            if !node.is_there {
                continue;
            }
            let is_empty = matches!(node.body, Body::None);
            if !is_empty && node.rect.contains(at) {
                found = Some(node.element.name.as_str());
            }
            open.extend(node.children.iter().rev());
        }
        found
    }

    /// Names and boxes of the elements that are there, parents before their children.
    pub fn elements(&self) -> impl Iterator<Item = (&str, Rect)> {
        let seen = (0..self.nodes.len()).filter(|index| self.is_seen(*index));
        seen.map(|index| {
            (
                self.nodes[index].element.name.as_str(),
                self.nodes[index].rect,
            )
        })
    }

    /// Letters of its texts that no face has.
    pub fn missing(&self) -> usize {
        let texts = self.nodes.iter().map(|node| match &node.body {
            Body::Text(text) => text.missing(),
            _ => 0,
        });
        texts.sum()
    }

    /// Returns whether an element and all around it are there.
    pub(super) fn is_seen(&self, index: usize) -> bool {
        let mut next = Some(index);
        while let Some(index) = next {
            let node = &self.nodes[index];
            if !node.is_there {
                return false;
            }
            next = node.parent;
        }
        true
    }

    /// A frame of the screen alone, gathered anew.
    pub(super) fn fresh_frame(
        &mut self,
        atlas: &mut Atlas,
        view: &Viewport,
    ) -> Result<Frame<'_>, ScreenError> {
        self.shown = None;
        self.frame(atlas, view)?;
        // It may be of a screen that is shown otherwise.
        self.shown = None;
        Ok(self.builder.finish())
    }

    pub(super) fn styles(&self) -> &StyleFile {
        &self.styles
    }

    pub(super) fn strings(&self) -> &StringTables {
        &self.strings
    }

    /// Returns whether some element shows a value, or is shown by it.
    pub(super) fn is_used(&self, value: usize) -> bool {
        self.users.get(value).is_some_and(|users| !users.is_empty())
    }

    /// All texts with their markup, of all languages.
    pub(super) fn all_texts(&self) -> Vec<&str> {
        self.description
            .texts()
            .chain(self.strings.texts())
            .collect()
    }

    pub(super) fn values(&self) -> &[Value] {
        &self.values
    }
}
