//! Letters in motion.

use std::f32::consts::TAU;

use crate::base::{Color, Offset};
use crate::text::ClusterPose;

/// Motion of the letters of a part of a text: a pure function of time.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct LetterMotion {
    /// Its kind.
    pub kind: LetterMotionKind,
    /// Height of a wave or a drop, reach of a shake, in design pixels; share of its size for a
    /// pulse.
    pub amount: f32,
    /// Seconds of one round, or of the way in.
    pub seconds: f32,
}

/// Kind of a motion of letters.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum LetterMotionKind {
    /// Up and down, one letter after another.
    Wave,
    /// To and fro, each by itself.
    Shake,
    /// Larger and smaller, all together.
    Pulse,
    /// Through the colours, one letter after another: for white letters.
    Hue,
    /// Out of nothing, each as it appears.
    FadeIn,
    /// From above, each as it appears.
    DropIn,
}

/// The moment at which a letter in motion is looked at.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct MotionMoment {
    /// Its number in the part that moves.
    pub index: usize,
    /// Seconds since the text began.
    pub seconds: f64,
    /// Seconds since the letter appeared.
    pub age: f64,
}

impl MotionMoment {
    /// A moment of a letter.
    pub const fn new(index: usize, seconds: f64, age: f64) -> Self {
        Self {
            index,
            seconds,
            age,
        }
    }
}

/// Letters of a wave from crest to crest.
const WAVE_LENGTH: f32 = 10.0;

/// Places that a shaking letter takes in a round.
const SHAKES: f64 = 4.0;

impl LetterMotion {
    /// A motion as its name does it.
    pub const fn new(kind: LetterMotionKind) -> Self {
        let (amount, seconds) = match kind {
            LetterMotionKind::Wave => (2.0, 1.2),
            LetterMotionKind::Shake => (1.0, 0.25),
            LetterMotionKind::Pulse => (0.15, 0.8),
            LetterMotionKind::Hue => (1.0, 2.0),
            LetterMotionKind::FadeIn => (1.0, 0.25),
            LetterMotionKind::DropIn => (6.0, 0.2),
        };
        Self {
            kind,
            amount,
            seconds,
        }
    }

    /// The motion of a name in texts.
    pub(super) fn named(name: &str) -> Option<Self> {
        Some(Self::new(match name {
            "wave" => LetterMotionKind::Wave,
            "shake" => LetterMotionKind::Shake,
            "pulse" => LetterMotionKind::Pulse,
            "hue" => LetterMotionKind::Hue,
            "fade-in" => LetterMotionKind::FadeIn,
            "drop-in" => LetterMotionKind::DropIn,
            _ => return None,
        }))
    }

    /// The motion with the arguments of a mark.
    pub(super) fn with(self, arguments: &[(Option<String>, String)]) -> Result<Self, String> {
        let mut motion = self;
        for (key, text) in arguments {
            let number = text.parse::<f32>().ok();
            let number = number.filter(|number| (0.0..=1000.0).contains(number));
            let Some(number) = number else {
                return Err(format!("“{text}” is no number from 0 to 1000"));
            };
            match key.as_deref() {
                Some("amount") => motion.amount = number,
                Some("seconds") if number > 0.0 => motion.seconds = number,
                Some("seconds") => return Err("a motion takes more than 0 seconds".to_owned()),
                _ => {
                    let key = key.as_deref().unwrap_or(text);
                    return Err(format!(
                        "a motion has no option “{key}”; there are amount, seconds"
                    ));
                }
            }
        }
        Ok(motion)
    }

    /// The pose of a letter at a moment. Where little motion is wanted, what comes in fades,
    /// and the rest is still.
    pub fn pose(&self, moment: MotionMoment, is_reduced: bool) -> ClusterPose {
        let still = ClusterPose::STILL;
        let rounds = (moment.seconds / f64::from(self.seconds.max(1e-3))).max(0.0);
        let turn = |rounds: f64| (rounds.fract() as f32) * TAU;
        let letter = moment.index as f32;
        let way = ((moment.age / f64::from(self.seconds.max(1e-3))) as f32).clamp(0.0, 1.0);
        let faded = still.tint(Color::WHITE.with_alpha((way * 255.0).round() as u8));
        match self.kind {
            LetterMotionKind::FadeIn => faded,
            LetterMotionKind::DropIn if is_reduced => faded,
            LetterMotionKind::DropIn => {
                let left = (1.0 - way) * (1.0 - way);
                ClusterPose {
                    offset: Offset::new(0.0, -self.amount * left),
                    ..faded
                }
            }
            LetterMotionKind::Hue if is_reduced => still.tint(hue(letter / WAVE_LENGTH)),
            LetterMotionKind::Hue => {
                let share = letter / WAVE_LENGTH - rounds.fract() as f32;
                still.tint(hue(share))
            }
            _ if is_reduced => still,
            LetterMotionKind::Wave => {
                let angle = turn(rounds) - letter / WAVE_LENGTH * TAU;
                still.offset(Offset::new(0.0, self.amount * angle.sin()))
            }
            LetterMotionKind::Pulse => still.scale(1.0 + self.amount * turn(rounds).sin()),
            LetterMotionKind::Shake => {
                let step = (rounds * SHAKES).floor() as u64;
                let noise = scattered(step ^ ((moment.index as u64) << 32));
                let part = |bits: u64| (bits & 0xffff) as f32 / 65_535.0 * 2.0 - 1.0;
                still.offset(Offset::new(
                    self.amount * part(noise),
                    self.amount * part(noise >> 16),
                ))
            }
        }
    }
}

/// A bright colour of the circle; whole numbers are red.
fn hue(share: f32) -> Color {
    let part = |shift: f32| {
        let at = (share + shift).rem_euclid(1.0) * 6.0;
        let light = (at - 3.0).abs() - 1.0;
        (96.0 + 159.0 * light.clamp(0.0, 1.0)) as u8
    };
    Color::rgb(part(0.0), part(2.0 / 3.0), part(1.0 / 3.0))
}

/// Bits that have nothing to do with those before (`SplitMix64`).
fn scattered(seed: u64) -> u64 {
    let mut bits = seed.wrapping_add(0x9e37_79b9_7f4a_7c15);
    bits = (bits ^ (bits >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    bits = (bits ^ (bits >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    bits ^ (bits >> 31)
}
