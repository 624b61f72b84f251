//! Elements that follow places of the game's world.

use crate::base::Insets;

/// The place of the game's world that an element follows under the
/// [camera](crate::screen::Screen::set_camera).
///
/// ```
/// use kerno::base::Insets;
/// use kerno::screen::{Content, Element, TextContent, WorldPlace};
/// // A name over a boat, that stays in sight and points to the boat where that is not.
/// let name = Element::new("name", Content::Text(TextContent::markup("Heron")))
///     .world(WorldPlace::new("boat").kept_inside(Insets::all(8.0)).pointer("arrow".to_owned()));
/// # let _ = name;
/// ```
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct WorldPlace {
    /// The value that holds the place: a [point](crate::markup::Value::Point).
    pub value: String,
    /// True if the element grows with the camera's zoom. Default: it keeps its size.
    pub scales: bool,
    /// Space to the edges of the safe area that it keeps when its place is out of sight;
    /// default: none, it goes out of sight as well.
    pub kept_inside: Option<Insets>,
    /// Sprite that points to the right, turned toward the place while the element is kept
    /// inside.
    pub pointer: Option<String>,
    /// Sprite that points to the right, always turned toward the place: the tail of a speech
    /// bubble.
    pub tail: Option<String>,
}

impl WorldPlace {
    /// The place that a value holds.
    pub fn new(value: &str) -> Self {
        Self {
            value: value.to_owned(),
            scales: false,
            kept_inside: None,
            pointer: None,
            tail: None,
        }
    }
}

crate::base::setters! {
    WorldPlace {
        scales: bool,
    }
    optional {
        kept_inside: Insets,
        pointer: String,
        tail: String,
    }
}
