//! The elements of a screen, as they are described.
//!
//! In: names, measures and content, from code or from a [`ScreenFile`]. Out:
//! plain values, from which a [`Screen`](super::Screen) is made.
//!
//! [`ScreenFile`]: super::ScreenFile

mod content;
mod gauge;
mod measures;
mod world;

pub use content::{Content, IconRow, SpriteContent, TextContent};
pub use gauge::{Gauge, GaugeFill, GaugeSide};
pub use measures::{Align, Arrangement, Justify, Length, Visibility};
pub use world::WorldPlace;

use crate::base::{Anchor, Insets, Offset};

/// One element of a screen: what it shows, where it is, and what is in it.
///
/// ```
/// use kerno::{Anchor, Offset};
/// use kerno::screen::{Content, Element, TextContent};
/// // A score that stays in the top right corner of the window.
/// let score = Element::new("score", Content::Text(TextContent::markup("Fares @value(fares)")))
///     .anchor(Anchor::TOP_RIGHT)
///     .offset(Offset::new(-10.0, 10.0));
/// # let _ = score;
/// ```
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Element {
    /// Name, of which a screen has no other.
    pub name: String,
    /// Name of the element that it is in; default: the window.
    pub parent: Option<String>,
    /// Its own content, beneath its children.
    pub content: Content,
    /// Arrangement of its children.
    pub arrangement: Arrangement,
    /// Space between its children, in design pixels.
    pub gap: f32,
    /// Alignment of its children across a row or column.
    pub align: Align,
    /// Distribution of its children along a row or column.
    pub justify: Justify,
    /// Place on its parent that it hangs from. Default: none, it goes in the row, column or
    /// grid of its parent; in the window, and in an overlay, the top left corner.
    pub anchor: Option<Anchor>,
    /// The point of its own box that is put there. Default: the same as the anchor.
    pub origin: Option<Anchor>,
    /// Way from there, in design pixels.
    pub offset: Offset,
    /// Width.
    pub width: Length,
    /// Height.
    pub height: Length,
    /// Least width.
    pub min_width: Length,
    /// Least height.
    pub min_height: Length,
    /// Largest width.
    pub max_width: Length,
    /// Largest height.
    pub max_height: Length,
    /// Width over height, where one of them is [`Length::Auto`].
    pub aspect_ratio: Option<f32>,
    /// Share of the room that is left in the row or column of its parent (CSS `flex-grow`).
    pub grow: f32,
    /// Space between its edges and its children.
    pub padding: Insets,
    /// Space around it.
    pub margin: Insets,
    /// When it is there. What is not there takes no room.
    pub visible: Visibility,
    /// Opacity from 0 to 1, of its children too.
    pub opacity: f32,
    /// True if it fades as one thing with its children, at the cost of a pass of its own
    /// ([`Scope::group`](crate::draw::Scope::group)).
    pub group: bool,
    /// Order among its siblings: what is higher is painted later. Equals are painted in the
    /// order in which they come.
    pub z: i32,
    /// True if its children are cut off at its edges.
    pub clip: bool,
    /// Turn about its origin, in degrees clockwise.
    pub rotation: f32,
    /// Scale about its origin.
    pub scale: f32,
    /// The place of the game's world that it follows, in place of an anchor: for elements of
    /// the window. Its origin is put there, by default the middle of its bottom edge.
    pub world: Option<WorldPlace>,
    /// Line of the file that it is from, counted from 1; 0 where it is from none.
    pub(in crate::screen) line: usize,
}

impl Element {
    /// An element with a name and a content; everything else by default.
    pub fn new(name: &str, content: Content) -> Self {
        Self {
            name: name.to_owned(),
            parent: None,
            content,
            arrangement: Arrangement::Overlay,
            gap: 0.0,
            align: Align::Start,
            justify: Justify::Start,
            anchor: None,
            origin: None,
            offset: Offset::ZERO,
            width: Length::Auto,
            height: Length::Auto,
            min_width: Length::Auto,
            min_height: Length::Auto,
            max_width: Length::Auto,
            max_height: Length::Auto,
            aspect_ratio: None,
            grow: 0.0,
            padding: Insets::default(),
            margin: Insets::default(),
            visible: Visibility::Always,
            opacity: 1.0,
            group: false,
            z: 0,
            clip: false,
            rotation: 0.0,
            scale: 1.0,
            world: None,
            line: 0,
        }
    }

    /// An element that shows nothing itself, for the children in it.
    pub fn group(name: &str) -> Self {
        Self::new(name, Content::None)
    }

    /// Puts it in another element.
    #[must_use]
    pub fn parent(mut self, name: &str) -> Self {
        self.parent = Some(name.to_owned());
        self
    }

    /// Sets both width and height, in design pixels.
    #[must_use]
    pub fn size(self, width: f32, height: f32) -> Self {
        self.width(Length::Px(width)).height(Length::Px(height))
    }
}

crate::base::setters! {
    Element {
        content: Content,
        arrangement: Arrangement,
        gap: f32,
        align: Align,
        justify: Justify,
        offset: Offset,
        width: Length,
        height: Length,
        min_width: Length,
        min_height: Length,
        max_width: Length,
        max_height: Length,
        grow: f32,
        padding: Insets,
        margin: Insets,
        visible: Visibility,
        opacity: f32,
        z: i32,
        clip: bool,
        rotation: f32,
        scale: f32,
    }
    optional {
        anchor: Anchor,
        origin: Anchor,
        aspect_ratio: f32,
        world: WorldPlace,
    }
}
