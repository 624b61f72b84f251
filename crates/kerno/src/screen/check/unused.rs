//! Styles, texts, values and sprites that nothing uses.

use std::collections::BTreeSet;

use super::finding::FindingKind;
use super::findings::Findings;
use crate::atlas::{Atlas, numbered};
use crate::markup::TextSource;
use crate::screen::Screen;
use crate::screen::element::{Content, Element, GaugeFill, TextContent};

impl Screen {
    /// Adds a finding for each style, text, value and sprite that nothing uses.
    pub(super) fn unused(&self, atlas: &Atlas, found: &mut Findings) {
        self.unused_styles(found);
        let keys = self.text_contents().map(|text| &text.source);
        let keys: BTreeSet<&str> = keys
            .filter_map(|source| match source {
                TextSource::Key(key) => Some(key.as_str()),
                TextSource::Markup(_) => None,
            })
            .collect();
        for key in self.strings().keys().filter(|key| !keys.contains(key)) {
            let problem = "no element shows this text".to_owned();
            found.add_named(key, FindingKind::UnusedText, problem);
        }
        for (index, value) in self.description().values.iter().enumerate() {
            if !self.is_used(index) && !value.is_own {
                let problem = "no element shows this value".to_owned();
                found.add_named(&value.name, FindingKind::UnusedValue, problem);
            }
        }
        // Of a screen that names none, the atlas may hold those of all the game.
        if self.description().sprites.is_some() {
            self.unused_sprites(atlas, found);
        }
    }

    fn text_contents(&self) -> impl Iterator<Item = &TextContent> {
        let elements = self.description().elements.iter();
        elements.filter_map(|element| match &element.content {
            Content::Text(text) => Some(text),
            _ => None,
        })
    }

    fn unused_styles(&self, found: &mut Findings) {
        let named: BTreeSet<&str> = self
            .text_contents()
            .filter_map(|text| text.style.as_deref())
            .collect();
        let said = self.all_texts();
        let styles = self.styles();
        for style in styles.style_names() {
            let mark = format!("@{style}{{");
            let is_used = named.contains(style)
                || styles.is_default(style)
                || styles.is_base(style)
                || said.iter().any(|text| text.contains(&mark));
            if !is_used {
                let problem = "no text has this style".to_owned();
                found.add_named(style, FindingKind::UnusedStyle, problem);
            }
        }
    }

    fn unused_sprites(&self, atlas: &Atlas, found: &mut Findings) {
        let elements = &self.description().elements;
        let names: BTreeSet<&str> = elements.iter().flat_map(sprites).collect();
        let frames: BTreeSet<_> = moving(elements)
            .flat_map(|name| numbered(name, atlas.sprite_names()))
            .collect();
        // Any sprite may be one that a value names.
        let is_open = elements.iter().any(
            |element| matches!(&element.content, Content::Sprite(sprite) if sprite.value.is_some()),
        );
        let said = self.all_texts();
        for (name, id) in atlas.sprite_names().filter(|_| !is_open) {
            let mark = format!("({name})");
            let is_used = names.contains(name)
                || frames.contains(&id)
                || said.iter().any(|text| text.contains(&mark));
            if !is_used {
                let problem = "no element and no text shows this sprite".to_owned();
                found.add_named(name, FindingKind::UnusedSprite, problem);
            }
        }
    }
}

/// The names of sprites that move.
fn moving(elements: &[Element]) -> impl Iterator<Item = &str> {
    elements
        .iter()
        .filter_map(|element| match &element.content {
            Content::Sprite(sprite) if sprite.frame_seconds.is_some() => Some(sprite.name.as_str()),
            _ => None,
        })
}

/// The sprites that an element names.
fn sprites(element: &Element) -> Vec<&str> {
    let mut names: Vec<&String> = Vec::new();
    match &element.content {
        Content::None | Content::Text(_) | Content::Rect(_) | Content::Dialogue => {}
        Content::Sprite(sprite) => names.push(&sprite.name),
        Content::Panel(name) | Content::Tiles(name) => names.push(name),
        Content::Gauge(gauge) => {
            if let GaugeFill::Stretched(name) | GaugeFill::Clipped(name) = &gauge.fill {
                names.push(name);
            }
            names.extend(gauge.back.iter().chain(&gauge.marks));
        }
        Content::Icons(row) => {
            names.push(&row.full);
            names.extend(row.half.iter().chain(&row.empty));
        }
    }
    let world = element.world.iter();
    names.extend(world.flat_map(|world| world.pointer.iter().chain(&world.tail)));
    names.into_iter().map(String::as_str).collect()
}
