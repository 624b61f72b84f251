//! Numbers that roll to a new value.

use super::{Easing, Screen, ScreenError};
use crate::markup::Value;

/// A number on its way to the one that the game handed in.
#[derive(Clone, Copy, Debug)]
pub(super) struct Roll {
    /// Its number among the values.
    value: usize,
    from: f64,
    to: f64,
    /// Seconds of the screen's time at its start, and those that it takes.
    start: f64,
    seconds: f64,
}

impl Roll {
    /// The number that is shown at a time. Between whole numbers it is whole.
    fn at(&self, time: f64) -> f64 {
        let share = (time - self.start) / self.seconds;
        if share >= 1.0 {
            return self.to;
        }
        let way = f64::from(Easing::EaseOut.at(share as f32));
        let number = self.from + (self.to - self.from) * way;
        match self.from.fract() == 0.0 && self.to.fract() == 0.0 {
            true => number.round(),
            false => number,
        }
    }

    fn is_over(&self, time: f64) -> bool {
        time >= self.start + self.seconds
    }
}

impl Screen {
    /// Shows a value that was handed in: at once, or by and by.
    pub(super) fn show(&mut self, value: usize) -> Result<(), ScreenError> {
        let seconds = f64::from(self.description.values[value].roll_seconds);
        let before = self.rolls.iter().position(|roll| roll.value == value);
        let before = before.map(|at| self.rolls.swap_remove(at));
        let handed = &self.handed[value];
        if let (Value::Number(to), Value::Number(shown)) = (handed, &self.values[value])
            && seconds > 0.0
            && !self.reduces_motion
        {
            self.rolls.push(Roll {
                value,
                from: before.map_or(*shown, |roll| roll.at(self.time)),
                to: *to,
                start: self.time,
                seconds,
            });
            return Ok(());
        }
        self.values[value].clone_from(handed);
        self.spread(value)
    }

    /// Takes the numbers that roll to where they are now.
    pub(super) fn roll(&mut self) -> Result<(), ScreenError> {
        for at in (0..self.rolls.len()).rev() {
            let roll = self.rolls[at];
            if roll.is_over(self.time) {
                self.rolls.swap_remove(at);
            }
            let number = Value::Number(roll.at(self.time));
            if self.values[roll.value] != number {
                self.values[roll.value] = number;
                self.spread(roll.value)?;
            }
        }
        Ok(())
    }

    /// Ends all rolls: the next frame shows the numbers that the game handed in.
    pub(super) fn end_rolls(&mut self) {
        for roll in &mut self.rolls {
            roll.start = f64::NEG_INFINITY;
        }
    }
}
