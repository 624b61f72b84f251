//! The arrangement of elements, by CSS: from measures to boxes.

use taffy::prelude::{AvailableSpace, NodeId, TaffyTree, auto, fr, length, line, percent};
use taffy::style::{
    AlignContent, AlignItems, Dimension, Display, FlexDirection, FlexWrap, LengthPercentageAuto,
    Position, Style,
};

use super::element::{Align, Arrangement, Element, Justify, Length};
use super::node::{Body, Node, WorldBody};
use super::{Camera, Follow};
use crate::base::{Affine, Anchor, Insets, Mapping, Offset, Point, Rect, Size};
use crate::text::{LayoutContext, TextError};

/// The elements of a screen as boxes of CSS.
pub(super) struct Flow {
    tree: TaffyTree<usize>,
    root: NodeId,
    ids: Vec<NodeId>,
}

impl std::fmt::Debug for Flow {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Flow")
            .field("boxes", &self.ids.len())
            .finish()
    }
}

/// The window that a screen is arranged in.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Room {
    /// The part of the window that is sure to be seen, in design pixels.
    pub(super) rect: Rect,
    /// The whole window, in design pixels.
    pub(super) window: Rect,
    /// From there to the window's pixels, and back where there is a way.
    pub(super) mapping: Mapping,
    pub(super) back: Option<Affine>,
    /// True if it is mirrored, for languages from right to left.
    pub(super) is_mirrored: bool,
}

impl Flow {
    /// Boxes for elements, parents before their children.
    pub(super) fn new(nodes: &[Node]) -> Self {
        let mut tree = TaffyTree::with_capacity(nodes.len() + 1);
        tree.disable_rounding();
        let leaf = |tree: &mut TaffyTree<usize>, style: Style, index: usize| {
            // Only nodes that are not there are refused, and this one is new.
            #[expect(clippy::expect_used, reason = "a new box is never refused")]
            tree.new_leaf_with_context(style, index).expect("a new box")
        };
        let root = leaf(&mut tree, overlay(Style::default()), usize::MAX);
        let ids: Vec<NodeId> = nodes
            .iter()
            .enumerate()
            .map(|(index, node)| {
                let around = node.parent.map(|parent| nodes[parent].element.arrangement);
                leaf(&mut tree, style(node, around.unwrap_or_default()), index)
            })
            .collect();
        for (node, id) in nodes.iter().zip(&ids) {
            let parent = node.parent.map_or(root, |parent| ids[parent]);
            let _ = tree.add_child(parent, *id);
        }
        Self { tree, root, ids }
    }

    /// Says that an element asks for another size.
    pub(super) fn mark(&mut self, index: usize) {
        let _ = self.tree.mark_dirty(self.ids[index]);
    }

    /// Takes in that an element is there, or not any more.
    pub(super) fn show(&mut self, index: usize, nodes: &[Node]) {
        let node = &nodes[index];
        let around = node.parent.map(|parent| nodes[parent].element.arrangement);
        let style = style(node, around.unwrap_or_default());
        let _ = self.tree.set_style(self.ids[index], style);
    }

    /// Finds the boxes of all elements in a room.
    pub(super) fn arrange(
        &mut self,
        nodes: &mut [Node],
        (room, camera): (Room, &Camera),
        context: &mut LayoutContext,
    ) -> Result<(), TextError> {
        let space = Rect::new(
            0.0,
            0.0,
            room.rect.width.max(0.0),
            room.rect.height.max(0.0),
        );
        let mut root = overlay(Style::default());
        root.size = taffy::geometry::Size {
            width: length(space.width),
            height: length(space.height),
        };
        if self.tree.style(self.root).is_ok_and(|old| *old != root) {
            let _ = self.tree.set_style(self.root, root);
        }
        let available = taffy::geometry::Size {
            width: AvailableSpace::Definite(space.width),
            height: AvailableSpace::Definite(space.height),
        };
        let mut fault = None;
        let _ = self.tree.compute_layout_with_measure(
            self.root,
            available,
            |input, _, index, style| {
                let mut node = index.and_then(|index| nodes.get_mut(*index));
                let mut baseline = None;
                let mut output = taffy::compute_leaf_layout(
                    input,
                    style,
                    |_, _| 0.0,
                    |known, available| {
                        let Some(node) = &mut node else {
                            return known.unwrap_or(taffy::geometry::Size::ZERO);
                        };
                        let size =
                            measured(node, (known.width, known.height), available.width, context);
                        let size = size.unwrap_or_else(|error| {
                            fault = Some(error);
                            Size::default()
                        });
                        if let Body::Text(text) = &node.body {
                            baseline =
                                Some(text.layout.first_baseline() + node.element.padding.top);
                        }
                        taffy::geometry::Size {
                            width: size.width,
                            height: size.height,
                        }
                    },
                );
                output.baselines.first = baseline;
                output
            },
        );
        match fault {
            Some(error) => Err(error),
            None => self.place(nodes, (room, camera), context),
        }
    }

    /// Puts all boxes in their places: those of anchors by their anchors.
    fn place(
        &self,
        nodes: &mut [Node],
        (room, camera): (Room, &Camera),
        context: &mut LayoutContext,
    ) -> Result<(), TextError> {
        for index in 0..nodes.len() {
            let Ok(layout) = self.tree.layout(self.ids[index]) else {
                continue;
            };
            let size = Size::new(layout.size.width, layout.size.height);
            let (around, padding, arrangement) = match nodes[index].parent {
                Some(parent) => {
                    let parent = &nodes[parent];
                    let element = &parent.element;
                    (
                        parent.rect,
                        mirrored(element.padding, room),
                        element.arrangement,
                    )
                }
                None => (room.rect, Insets::default(), Arrangement::Overlay),
            };
            let node = &mut nodes[index];
            let held = anchor(&node.element, arrangement);
            node.rect = match (&mut node.world, held) {
                (Some(world), _) => followed(&node.element, world, (size, room), camera),
                (None, Some(at)) => {
                    anchored(&node.element, at, around.inset(padding), (size, room))
                }
                (None, None) => {
                    let x = match room.is_mirrored {
                        true => around.width - layout.location.x - size.width,
                        false => layout.location.x,
                    };
                    let at = Point::new(around.x + x, around.y + layout.location.y);
                    let by = turned(node.element.offset, room);
                    Rect::anchored(at + by, Anchor::TOP_LEFT, size)
                }
            };
            if let Body::Text(text) = &mut node.body {
                let inner = node.rect.inset(mirrored(node.element.padding, room));
                text.place(Size::new(inner.width, inner.height), context)?;
            }
        }
        Ok(())
    }
}

/// The anchor that an element hangs from; none where it stands in a row.
fn anchor(element: &Element, around: Arrangement) -> Option<Anchor> {
    match around {
        Arrangement::Overlay => Some(element.anchor.unwrap_or(Anchor::TOP_LEFT)),
        _ => element.anchor,
    }
}

/// Puts elements over places of the world, and all that is in them, where nothing but the
/// camera or the places changed.
pub(super) fn follow(nodes: &mut [Node], room: Room, camera: &Camera) {
    let mut by = Offset::ZERO;
    for node in nodes {
        let before = node.rect;
        match (&mut node.world, node.parent) {
            (Some(world), _) => {
                let size = Size::new(before.width, before.height);
                node.rect = followed(&node.element, world, (size, room), camera);
                by = Offset::new(node.rect.x - before.x, node.rect.y - before.y);
            }
            // Elements come after those that they are in.
            (None, None) => by = Offset::ZERO,
            (None, Some(_)) => node.rect = before.moved(by),
        }
    }
}

/// The box of an element over a place of the world, before it grows about its origin. It
/// stands on whole pixels of the window, so that its letters keep their shape on the way.
fn followed(
    element: &Element,
    world: &mut WorldBody,
    (size, room): (Size, Room),
    camera: &Camera,
) -> Rect {
    let anchor = element.origin.unwrap_or(Anchor::BOTTOM);
    let follow = Follow {
        anchor,
        offset: element.offset,
        scales: world.place.scales,
        kept_inside: world.place.kept_inside,
        ..Follow::new(world.at)
    };
    world.label = follow.place_in(camera, size, (room.window, room.rect));
    let rect = Rect::anchored(world.label.rect.point(anchor), anchor, size);
    world.target = camera.design_point(world.at, room.window);
    let corner = Point::new(rect.x, rect.y);
    let device = room.mapping.point(corner);
    let whole = Point::new(device.x.round(), device.y.round());
    let corner = room.back.map_or(corner, |back| back.point(whole));
    Rect::anchored(corner, Anchor::TOP_LEFT, size)
}

fn anchored(element: &Element, at: Anchor, inside: Rect, (size, room): (Size, Room)) -> Rect {
    let flipped = |anchor: Anchor| match room.is_mirrored {
        true => Anchor::new(1.0 - anchor.x, anchor.y),
        false => anchor,
    };
    let margin = mirrored(element.margin, room);
    let held = inside.inset(margin).point(flipped(at));
    let origin = flipped(element.origin.unwrap_or(at));
    Rect::anchored(held + turned(element.offset, room), origin, size)
}

fn turned(offset: Offset, room: Room) -> Offset {
    match room.is_mirrored {
        true => Offset::new(-offset.x, offset.y),
        false => offset,
    }
}

/// Sides as they are in a room: left is right in a mirrored one.
pub(super) fn mirrored(sides: Insets, room: Room) -> Insets {
    match room.is_mirrored {
        true => Insets {
            left: sides.right,
            right: sides.left,
            ..sides
        },
        false => sides,
    }
}

/// The size that an element asks for.
fn measured(
    node: &mut Node,
    (width, height): (Option<f32>, Option<f32>),
    available: AvailableSpace,
    context: &mut LayoutContext,
) -> Result<Size, TextError> {
    let size = match &mut node.body {
        Body::Text(text) => match (width, available) {
            (Some(width), _) | (None, AvailableSpace::Definite(width)) => {
                text.measured(Some(width), context)?
            }
            (None, AvailableSpace::MaxContent) => text.measured(None, context)?,
            (None, AvailableSpace::MinContent) => {
                let least = text.min_content_width();
                text.measured(Some(least), context)?
            }
        },
        body => body.intrinsic_size().unwrap_or_default(),
    };
    Ok(Size::new(
        width.unwrap_or(size.width),
        height.unwrap_or(size.height),
    ))
}

/// An element whose children lie over one another: all in one cell of a grid, which is as
/// large as the largest of them.
fn overlay(style: Style) -> Style {
    Style {
        display: Display::Grid,
        grid_template_columns: vec![fr(1.0)],
        grid_template_rows: vec![fr(1.0)],
        ..style
    }
}

/// The style of an element in the words of CSS.
fn style(node: &Node, around: Arrangement) -> Style {
    let element = &node.element;
    let mut style = arranged(element, boxed(node));
    match around {
        Arrangement::Overlay => {
            style.grid_column = line(1);
            style.grid_row = line(1);
            style.justify_self = Some(AlignItems::START);
            style.align_self = Some(AlignItems::START);
        }
        _ if element.anchor.is_some() => style.position = Position::Absolute,
        _ => {}
    }
    if !node.is_there {
        style.display = Display::None;
    }
    style
}

/// The measures of an element, its space around and its alignment.
fn boxed(node: &Node) -> Style {
    let element = &node.element;
    Style {
        size: taffy::geometry::Size {
            width: dimension(element.width),
            height: dimension(element.height),
        },
        min_size: taffy::geometry::Size {
            width: limit(element.min_width),
            height: limit(element.min_height),
        },
        max_size: taffy::geometry::Size {
            width: limit(element.max_width),
            height: limit(element.max_height),
        },
        aspect_ratio: element.aspect_ratio,
        padding: sides(element.padding),
        margin: taffy::geometry::Rect {
            left: length(element.margin.left),
            right: length(element.margin.right),
            top: length(element.margin.top),
            bottom: length(element.margin.bottom),
        },
        gap: taffy::geometry::Size {
            width: length(element.gap),
            height: length(element.gap),
        },
        position: Position::Relative,
        flex_grow: element.grow,
        flex_shrink: if can_shrink(node) { 1.0 } else { 0.0 },
        align_items: alignment(element.align),
        justify_content: distribution(element.justify),
        ..Style::default()
    }
}

/// A style with the arrangement of an element's children.
fn arranged(element: &Element, style: Style) -> Style {
    match element.arrangement {
        Arrangement::Overlay => overlay(style),
        Arrangement::Row | Arrangement::Column | Arrangement::Wrap => Style {
            display: Display::Flex,
            flex_direction: match element.arrangement {
                Arrangement::Column => FlexDirection::Column,
                _ => FlexDirection::Row,
            },
            flex_wrap: match element.arrangement {
                Arrangement::Wrap => FlexWrap::Wrap,
                _ => FlexWrap::NoWrap,
            },
            align_content: AlignContent::FLEX_START,
            ..style
        },
        Arrangement::Grid(columns) => Style {
            display: Display::Grid,
            grid_template_columns: vec![fr(1.0); usize::from(columns.clamp(1, 1000))],
            ..style
        },
    }
}

/// Returns whether an element gives way where its row is too narrow.
fn can_shrink(node: &Node) -> bool {
    match &node.element.content {
        super::Content::Text(text) => {
            text.wrap != crate::text::Wrap::None
                || text.overflow != crate::text::Overflow::Visible
                || text.shrink_to.is_some()
        }
        _ => false,
    }
}

fn dimension(of: Length) -> Dimension {
    match of {
        Length::Auto => auto(),
        Length::Px(pixels) => length(pixels),
        Length::Percent(share) => percent(share / 100.0),
    }
}

fn limit(of: Length) -> LengthPercentageAuto {
    match of {
        Length::Auto => auto(),
        Length::Px(pixels) => length(pixels),
        Length::Percent(share) => percent(share / 100.0),
    }
}

fn sides(insets: Insets) -> taffy::geometry::Rect<taffy::style::LengthPercentage> {
    taffy::geometry::Rect {
        left: length(insets.left),
        right: length(insets.right),
        top: length(insets.top),
        bottom: length(insets.bottom),
    }
}

fn alignment(align: Align) -> AlignItems {
    match align {
        Align::Start => AlignItems::START,
        Align::Center => AlignItems::CENTER,
        Align::End => AlignItems::END,
        Align::Stretch => AlignItems::STRETCH,
        Align::Baseline => AlignItems::BASELINE,
    }
}

fn distribution(justify: Justify) -> AlignContent {
    match justify {
        Justify::Start => AlignContent::START,
        Justify::Center => AlignContent::CENTER,
        Justify::End => AlignContent::END,
        Justify::SpaceBetween => AlignContent::SPACE_BETWEEN,
    }
}
