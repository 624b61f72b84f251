//! Values and time, handed in by the game.

use serde::Serialize;

use super::element::Visibility;
use super::node::Body;
use super::{Camera, Motion, Pose, Screen, ScreenError};
use crate::base::{Point, hint};
use crate::markup::Value;

impl Screen {
    /// Hands in a value. Numbers are clamped to the range that the screen states; one that is
    /// no number is the least of it, or 0.
    ///
    /// # Errors
    /// [`ScreenError::Value`] for a name that the screen does not have, or a value of another
    /// kind; [`ScreenError::Text`] where a text can't be laid out.
    pub fn set(&mut self, name: &str, value: impl Into<Value>) -> Result<(), ScreenError> {
        let Some(index) = self.value_names.get(name).copied() else {
            let names = self
                .description
                .values
                .iter()
                .map(|value| value.name.as_str());
            let near = hint(name, names);
            return Err(ScreenError::Value(format!(
                "there is no value “{name}”{near}"
            )));
        };
        let declared = &self.description.values[index];
        let value = declared.clamped(value.into()).map_err(ScreenError::Value)?;
        if self.handed[index] == value {
            return Ok(());
        }
        self.handed[index] = value;
        self.show(index)
    }

    /// Hands in all values at once, by the names of fields or keys: any map or struct. What
    /// the screen has no name for is left out.
    ///
    /// # Errors
    /// [`ScreenError::Value`] where one of the screen's values is missing or of another kind,
    /// or something else than a map or a struct is handed in.
    pub fn set_all(&mut self, values: &impl Serialize) -> Result<(), ScreenError> {
        let table = toml::Table::try_from(values)
            .map_err(|error| ScreenError::Value(format!("these are no values: {error}")))?;
        let names: Vec<String> = self
            .description
            .values
            .iter()
            .filter(|v| !v.is_own)
            .map(|v| v.name.clone())
            .collect();
        for name in names {
            let value = match table.get(&name) {
                Some(toml::Value::Integer(number)) => Value::Number(*number as f64),
                Some(toml::Value::Float(number)) => Value::Number(*number),
                Some(toml::Value::Boolean(flag)) => Value::Flag(*flag),
                Some(toml::Value::String(text)) => Value::Text(text.clone()),
                Some(toml::Value::Array(pair)) if point(pair).is_some() => {
                    Value::Point(point(pair).unwrap_or_default())
                }
                Some(_) => {
                    let problem =
                        format!("the value “{name}” is no number, text, point, true or false");
                    return Err(ScreenError::Value(problem));
                }
                None => {
                    let near = hint(&name, table.keys().map(String::as_str));
                    let problem = format!("the value “{name}” is missing{near}");
                    return Err(ScreenError::Value(problem));
                }
            };
            self.set(&name, value)?;
        }
        Ok(())
    }

    /// A value as it was handed in, by its name.
    pub fn value(&self, name: &str) -> Option<&Value> {
        self.handed.get(*self.value_names.get(name)?)
    }

    /// Takes a new value to the elements that show it.
    pub(super) fn spread(&mut self, value: usize) -> Result<(), ScreenError> {
        for at in 0..self.users[value].len() {
            let index = self.users[value][at];
            let node = &mut self.nodes[index];
            if let (Some(world), Value::Point(at)) = (&mut node.world, &self.values[value])
                && world.value == value
            {
                world.at = *at;
                self.has_moved = true;
                continue;
            }
            match &mut node.body {
                Body::Text(text) => {
                    let rules = self.rules.as_ref();
                    if text.change(value, &self.values, rules, &mut self.context)? {
                        self.flow.mark(index);
                        self.is_loose = true;
                    } else if !self.changed_texts.contains(&index) {
                        self.changed_texts.push(index);
                    }
                    self.laid_out += 1;
                }
                Body::Gauge(gauge) if gauge.value == value => {
                    gauge.change(&self.values[value]);
                    self.is_changed = true;
                }
                Body::Sprite(sprite) if sprite.value == Some(value) => self.renamed.push(index),
                _ => self.is_changed = true,
            }
            let is_true = self.values[value].is_true();
            let is_there = match &node.element.visible {
                Visibility::While(_) => is_true,
                Visibility::Unless(_) => !is_true,
                Visibility::Always | Visibility::Never => continue,
            };
            if node.shown_by == Some(value) && node.is_there != is_there {
                node.is_there = is_there;
                self.flow.show(index, &self.nodes);
                self.is_loose = true;
            }
        }
        Ok(())
    }

    /// Moves on by some seconds: what moves by itself. Any split of the time comes to the
    /// same; less than 0 is none.
    pub fn advance(&mut self, seconds: f64) {
        let seconds = if seconds > 0.0 { seconds } else { 0.0 };
        let before = self.time;
        self.time += seconds;
        for index in &self.living {
            let node = &mut self.nodes[*index];
            let moved = match &mut node.body {
                Body::Gauge(gauge) => gauge.advance(seconds as f32),
                Body::Sprite(sprite) => sprite.animation.as_ref().is_some_and(|animation| {
                    animation.sprite_at(before) != animation.sprite_at(self.time)
                }),
                _ => false,
            };
            let moved = moved || node.moves(before, self.time);
            self.is_changed |= moved && node.is_there;
        }
    }

    /// Starts a motion of an element now, beside those that run. Motions that are over and
    /// leave it as it is are forgotten.
    ///
    /// # Errors
    /// [`ScreenError::Value`] where there is no element of that name.
    pub fn play(&mut self, name: &str, motion: Motion) -> Result<(), ScreenError> {
        let index = self.element_index(name)?;
        let now = self.time;
        let motion = if self.reduces_motion {
            motion.reduced()
        } else {
            motion
        };
        let motions = &mut self.nodes[index].motions;
        motions.retain(|(start, motion)| {
            let is_over = start + f64::from(motion.end()) <= now;
            !(is_over && motion.pose(f32::INFINITY) == Pose::STILL)
        });
        motions.push((now, motion));
        if !self.living.contains(&index) {
            self.living.push(index);
        }
        self.is_changed = true;
        Ok(())
    }

    /// The number of an element by its name.
    fn element_index(&self, name: &str) -> Result<usize, ScreenError> {
        self.names.get(name).copied().ok_or_else(|| {
            let near = hint(name, self.names.keys().map(String::as_str));
            ScreenError::Value(format!("there is no element “{name}”{near}"))
        })
    }

    /// Ends all motions of an element: it is as its description says.
    ///
    /// # Errors
    /// [`ScreenError::Value`] where there is no element of that name.
    pub fn stop(&mut self, name: &str) -> Result<(), ScreenError> {
        let index = self.element_index(name)?;
        self.nodes[index].motions.clear();
        self.is_changed = true;
        Ok(())
    }

    /// Says that the reader wants little motion: motions that start from now on fade where
    /// they would move.
    pub fn reduce_motion(&mut self, reduces: bool) {
        self.reduces_motion = reduces;
    }

    /// Sets the camera that elements in the world are seen by.
    pub fn set_camera(&mut self, camera: Camera) {
        self.has_moved |= self.camera != camera;
        self.camera = camera;
    }

    /// Brings all that follows a value to where it goes, at once.
    pub fn settle(&mut self) {
        self.end_rolls();
        for node in &mut self.nodes {
            if let Body::Gauge(gauge) = &mut node.body {
                gauge.settle();
                self.is_changed = true;
            }
        }
    }
}

/// A place of the world, as a map has it: two numbers.
fn point(pair: &[toml::Value]) -> Option<Point> {
    let number = |value: &toml::Value| match value {
        toml::Value::Integer(number) => Some(*number as f32),
        toml::Value::Float(number) => Some(*number as f32),
        _ => None,
    };
    match pair {
        [x, y] => Some(Point::new(number(x)?, number(y)?)),
        _ => None,
    }
}
