//! Elements with all that they need to be arranged and drawn.

use super::dialogue::own_values;
use super::element::{Content, Element, Gauge, GaugeFill, IconRow, SpriteContent, WorldPlace};
use super::text_body::TextBody;
use super::{LabelPlace, Motion, Pose, ScreenDescription, ScreenError};
use crate::atlas::{Animation, Atlas, SpriteId, numbered};
use crate::base::{Color, Offset, Point, Rect, Size};
use crate::dialogue::SpeechPlayer;
use crate::draw::RectStyle;
use crate::markup::Value;

/// An element with all that it needs to be arranged and drawn.
#[derive(Debug)]
pub(super) struct Node {
    pub(super) element: Element,
    pub(super) parent: Option<usize>,
    /// In the order in which they are painted.
    pub(super) children: Vec<usize>,
    pub(super) body: Body,
    /// Its box, in design pixels.
    pub(super) rect: Rect,
    /// True if it is there itself, whatever is around it.
    pub(super) is_there: bool,
    /// The value that decides that.
    pub(super) shown_by: Option<usize>,
    /// Its motions, each with the time at which it was started.
    pub(super) motions: Vec<(f64, Motion)>,
    /// Its place in the world.
    pub(super) world: Option<Box<WorldBody>>,
}

/// A place of the world that an element follows, looked up.
#[derive(Debug)]
pub(super) struct WorldBody {
    pub(super) place: WorldPlace,
    /// The value that holds the place.
    pub(super) value: usize,
    pub(super) pointer: Option<SpriteId>,
    pub(super) tail: Option<SpriteId>,
    /// Its place in design pixels, as it was found last.
    pub(super) target: Point,
    pub(super) at: Point,
    /// Its place as it was found last.
    pub(super) label: LabelPlace,
}

impl Node {
    /// The values that change what it shows, by their numbers.
    pub(super) fn values(&self) -> Vec<usize> {
        let mut values = self.body.values();
        values.extend(self.shown_by);
        values.extend(self.world.as_ref().map(|world| world.value));
        values
    }

    /// Its state in motion at a time.
    pub(super) fn pose(&self, time: f64) -> Pose {
        let poses = self
            .motions
            .iter()
            .map(|(start, motion)| motion.pose((time - start) as f32));
        poses.fold(Pose::STILL, |all, pose| Pose {
            opacity: all.opacity * pose.opacity.clamp(0.0, 1.0),
            offset: Offset::new(all.offset.x + pose.offset.x, all.offset.y + pose.offset.y),
            scale: all.scale * pose.scale,
        })
    }

    /// Goes on where the same element was, before its texts changed.
    pub(super) fn go_on(&mut self, before: Self) {
        self.motions = before.motions;
        match (&mut self.body, before.body) {
            (Body::Gauge(gauge), Body::Gauge(before)) => *gauge = before,
            (Body::Dialogue(dialogue), Body::Dialogue(before)) => *dialogue = before,
            _ => {}
        }
    }

    /// Returns whether some motion of it runs between two times.
    pub(super) fn moves(&self, from: f64, to: f64) -> bool {
        self.motions
            .iter()
            .any(|(start, motion)| *start <= to && from <= start + f64::from(motion.end()))
    }
}

/// Content of an element, looked up.
#[derive(Debug)]
pub(super) enum Body {
    None,
    Text(Box<TextBody>),
    Sprite(SpriteBody),
    Panel(SpriteId),
    Tiles(SpriteId, Size),
    Rect(RectStyle),
    Gauge(Box<GaugeBody>),
    Icons(IconsBody),
    Dialogue(Box<DialogueBody>),
}

/// A place for the line of a scene.
#[derive(Debug)]
pub(super) struct DialogueBody {
    /// The line that is spoken, once there is one.
    pub(super) player: Option<SpeechPlayer>,
    /// Its own values, by their numbers, in the order of their names.
    pub(super) values: Vec<usize>,
    /// Its size when it is shown, while it is hidden.
    pub(super) hidden_size: Option<Size>,
}

#[derive(Debug)]
pub(super) struct SpriteBody {
    pub(super) sprite: SpriteId,
    pub(super) size: Size,
    pub(super) animation: Option<Animation>,
    /// The value whose text names the sprite.
    pub(super) value: Option<usize>,
}

#[derive(Debug)]
pub(super) struct GaugeBody {
    pub(super) gauge: Gauge,
    pub(super) value: usize,
    pub(super) fill: FillBody,
    pub(super) back: Option<SpriteId>,
    pub(super) marks: Option<SpriteId>,
    /// The share that it comes to, and the one that it shows.
    pub(super) target: f32,
    pub(super) shown: f32,
    /// Lost value that is still shown, and for how many seconds more.
    pub(super) ghost: f32,
    pub(super) ghost_left: f32,
}

#[derive(Clone, Copy, Debug)]
pub(super) enum FillBody {
    Color(Color),
    Stretched(SpriteId),
    Clipped(SpriteId),
}

#[derive(Debug)]
pub(super) struct IconsBody {
    pub(super) row: IconRow,
    pub(super) value: usize,
    pub(super) full: SpriteId,
    pub(super) half: Option<SpriteId>,
    pub(super) empty: Option<SpriteId>,
    /// The size of an icon.
    pub(super) size: Size,
}

impl GaugeBody {
    /// The share of its value, from 0 to 1.
    pub(super) fn share(value: &Value) -> f32 {
        (value.number() as f32).clamp(0.0, 1.0)
    }

    /// Takes a new value in.
    pub(super) fn change(&mut self, value: &Value) {
        let target = Self::share(value);
        if self.gauge.ghost.is_some() && target < self.target {
            self.ghost = self.ghost.max(self.shown);
            self.ghost_left = self.gauge.ghost_seconds;
        }
        self.target = target;
        if self.gauge.follow_seconds <= 0.0 {
            self.shown = target;
        }
    }

    /// Comes to its value at once.
    pub(super) fn settle(&mut self) {
        (self.shown, self.ghost) = (self.target, 0.0);
    }

    /// Moves on by some seconds; returns whether it looks otherwise. Any split of the time
    /// comes to the same.
    pub(super) fn advance(&mut self, seconds: f32) -> bool {
        let before = (self.shown, self.ghost);
        if self.shown != self.target {
            // Within that time it comes to a twentieth of the way.
            let rest = (-3.0 * seconds / self.gauge.follow_seconds.max(1e-6)).exp();
            self.shown = self.target + (self.shown - self.target) * rest;
            if (self.shown - self.target).abs() < 1e-4 {
                self.shown = self.target;
            }
        }
        self.ghost_left = (self.ghost_left - seconds).max(0.0);
        if self.ghost_left == 0.0 {
            self.ghost = 0.0;
        }
        before != (self.shown, self.ghost)
    }

    /// The colour of what fills it, at the share that it shows.
    pub(super) fn threshold(&self) -> Option<Color> {
        let below = self
            .gauge
            .thresholds
            .iter()
            .find(|(below, _)| self.target < *below);
        below.map(|(_, color)| *color)
    }
}

/// Finds what elements name.
pub(super) struct Finder<'a> {
    pub(super) description: &'a ScreenDescription,
    pub(super) atlas: &'a Atlas,
}

impl Finder<'_> {
    pub(super) fn sprite(&self, element: &Element, name: &str) -> Result<SpriteId, ScreenError> {
        let found = self.atlas.sprite(name);
        found.map_err(|error| self.description.fault(element, error.to_string()))
    }

    fn optional(
        &self,
        element: &Element,
        name: Option<&String>,
    ) -> Result<Option<SpriteId>, ScreenError> {
        name.map(|name| self.sprite(element, name)).transpose()
    }

    /// The place of the world that an element follows.
    pub(super) fn world(
        &self,
        element: &Element,
        values: &[Value],
    ) -> Result<Option<Box<WorldBody>>, ScreenError> {
        let Some(place) = &element.world else {
            return Ok(None);
        };
        let fault = |problem: String| Err(self.description.fault(element, problem));
        if element.parent.is_some() {
            return fault("what follows a place of the world is in no other element".to_owned());
        }
        let value = self.description.value_index(element, &place.value)?;
        let Value::Point(at) = values[value] else {
            let (name, kind) = (&place.value, values[value].kind());
            return fault(format!(
                "it follows the value “{name}”, which is {kind} and no point, such as [12, 4]"
            ));
        };
        Ok(Some(Box::new(WorldBody {
            value,
            pointer: self.optional(element, place.pointer.as_ref())?,
            tail: self.optional(element, place.tail.as_ref())?,
            target: Point::ORIGIN,
            at,
            label: LabelPlace {
                rect: Rect::default(),
                scale: 1.0,
                pointer: None,
                is_seen: false,
            },
            place: place.clone(),
        })))
    }

    /// The body of an element that is no text.
    pub(super) fn body(&self, element: &Element, values: &[Value]) -> Result<Body, ScreenError> {
        Ok(match &element.content {
            Content::None | Content::Text(_) => Body::None,
            Content::Dialogue => {
                let own = own_values(element);
                let own = own.map(|name| self.description.value_index(element, &name));
                Body::Dialogue(Box::new(DialogueBody {
                    player: None,
                    values: own.collect::<Result<_, _>>()?,
                    hidden_size: None,
                }))
            }
            Content::Panel(name) => Body::Panel(self.sprite(element, name)?),
            Content::Tiles(name) => {
                let sprite = self.sprite(element, name)?;
                Body::Tiles(sprite, self.atlas.sprite_size(sprite))
            }
            Content::Rect(style) => Body::Rect(*style),
            Content::Sprite(content) => Body::Sprite(self.sprite_body(element, content)?),
            Content::Gauge(gauge) => {
                Body::Gauge(Box::new(self.gauge_body(element, gauge, values)?))
            }
            Content::Icons(row) => Body::Icons(self.icons_body(element, row)?),
        })
    }

    fn sprite_body(
        &self,
        element: &Element,
        content: &SpriteContent,
    ) -> Result<SpriteBody, ScreenError> {
        let value = content.value.as_ref();
        let value = value.map(|value| self.description.value_index(element, value));
        let animation = content
            .frame_seconds
            .map(|seconds| self.animation(element, &content.name, seconds));
        let animation = animation.transpose()?;
        let sprite = match &animation {
            Some(animation) => animation.sprite_at(0.0),
            None => self.sprite(element, &content.name)?,
        };
        Ok(SpriteBody {
            sprite,
            size: self.atlas.sprite_size(sprite),
            animation,
            value: value.transpose()?,
        })
    }

    fn gauge_body(
        &self,
        element: &Element,
        gauge: &Gauge,
        values: &[Value],
    ) -> Result<GaugeBody, ScreenError> {
        let value = self.description.value_index(element, &gauge.value)?;
        let share = GaugeBody::share(&values[value]);
        Ok(GaugeBody {
            value,
            fill: match &gauge.fill {
                GaugeFill::Color(color) => FillBody::Color(*color),
                GaugeFill::Stretched(name) => FillBody::Stretched(self.sprite(element, name)?),
                GaugeFill::Clipped(name) => FillBody::Clipped(self.sprite(element, name)?),
            },
            back: self.optional(element, gauge.back.as_ref())?,
            marks: self.optional(element, gauge.marks.as_ref())?,
            gauge: gauge.clone(),
            target: share,
            shown: share,
            ghost: 0.0,
            ghost_left: 0.0,
        })
    }

    fn icons_body(&self, element: &Element, row: &IconRow) -> Result<IconsBody, ScreenError> {
        if row.count > IconRow::MOST {
            let problem = format!("{} icons; there may be {}", row.count, IconRow::MOST);
            return Err(self.description.fault(element, problem));
        }
        let full = self.sprite(element, &row.full)?;
        Ok(IconsBody {
            value: self.description.value_index(element, &row.value)?,
            half: self.optional(element, row.half.as_ref())?,
            empty: self.optional(element, row.empty.as_ref())?,
            size: self.atlas.sprite_size(full),
            row: row.clone(),
            full,
        })
    }

    fn animation(
        &self,
        element: &Element,
        name: &str,
        seconds: f32,
    ) -> Result<Animation, ScreenError> {
        let frames = numbered(name, self.atlas.sprite_names());
        let animation = Animation::new(frames.into_iter().map(|id| (id, seconds)), true);
        animation.map_err(|error| {
            let problem = format!("the animation “{name}”: {error}");
            self.description.fault(element, problem)
        })
    }
}

impl Body {
    /// Returns whether it may look otherwise as time goes by.
    pub(super) fn lives(&self) -> bool {
        match self {
            Self::Gauge(_) => true,
            Self::Sprite(sprite) => sprite.animation.is_some(),
            _ => false,
        }
    }

    /// The values that it shows, by their numbers.
    pub(super) fn values(&self) -> Vec<usize> {
        match self {
            Self::Text(text) => text.values().collect(),
            Self::Sprite(sprite) => sprite.value.into_iter().collect(),
            Self::Gauge(gauge) => vec![gauge.value],
            Self::Icons(icons) => vec![icons.value],
            Self::None | Self::Panel(_) | Self::Tiles(..) | Self::Rect(_) | Self::Dialogue(_) => {
                Vec::new()
            }
        }
    }

    /// The size that it has where nothing else is said; none for what is no picture.
    pub(super) fn intrinsic_size(&self) -> Option<Size> {
        match self {
            Self::Sprite(sprite) => Some(sprite.size),
            Self::Dialogue(body) => body.player.as_ref().map(spoken_size),
            Self::Icons(icons) => {
                let count = f32::from(icons.row.count);
                let gaps = (count - 1.0).max(0.0) * icons.row.gap;
                Some(Size::new(
                    icons.size.width * count + gaps,
                    icons.size.height,
                ))
            }
            _ => None,
        }
    }
}

/// The size of the page that is spoken, as it is when all of it is said.
fn spoken_size(player: &SpeechPlayer) -> Size {
    let layout = player.speech().layout();
    let lines = player.page().map_or(0..0, |page| page.lines.clone());
    let lines = &layout.lines()[lines];
    let width = lines.iter().map(|line| line.width).fold(0.0, f32::max);
    let height = match lines {
        [first, .., last] => last.top + last.height - first.top,
        [line] => line.height,
        [] => 0.0,
    };
    Size::new(width, height)
}
