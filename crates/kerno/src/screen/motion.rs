//! Motion of elements: pure in time.

use super::Easing;
use crate::base::Offset;

/// A motion of an element, from its start on.
///
/// ```
/// use kerno::screen::{Motion, MotionKind};
/// let pop = Motion::new(MotionKind::Pop, 0.3);
/// let pose = pop.pose(0.0);
/// assert_eq!((pose.scale, pose.opacity), (0.0, 0.0));
/// assert_eq!(pop.pose(0.3).scale, 1.0);
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Motion {
    /// Its kind.
    pub kind: MotionKind,
    /// Its length in seconds; for [`MotionKind::Pulse`] and [`MotionKind::Shake`] that of one
    /// round.
    pub seconds: f32,
    /// Its course over its time.
    pub easing: Easing,
    /// Seconds before it begins.
    pub delay: f32,
    /// The number of times that it runs; infinity for ever.
    pub repeats: f32,
}

/// Kind of a motion.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum MotionKind {
    /// It comes to be seen.
    FadeIn,
    /// It comes not to be seen, and stays so.
    FadeOut,
    /// It comes from a way off to its place, and to be seen.
    SlideIn(Offset),
    /// It goes a way off from its place.
    SlideOut(Offset),
    /// It grows to its size, a little beyond, and back.
    Pop,
    /// It grows by a share and back.
    Pulse(f32),
    /// It goes to and fro by some design pixels.
    Shake(f32),
}

/// State of an element in motion.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Pose {
    /// Its opacity, from 0 to 1.
    pub opacity: f32,
    /// The way from its place, in design pixels.
    pub offset: Offset,
    /// Factor of its size.
    pub scale: f32,
}

impl Pose {
    /// At its place, in its size.
    pub const STILL: Self = Self {
        opacity: 1.0,
        offset: Offset::ZERO,
        scale: 1.0,
    };
}

crate::base::setters! {
    Motion {
        easing: Easing,
        delay: f32,
        repeats: f32,
    }
}

impl Motion {
    /// A motion of a kind that takes some seconds.
    pub const fn new(kind: MotionKind, seconds: f32) -> Self {
        Self {
            kind,
            seconds,
            easing: Easing::Ease,
            delay: 0.0,
            repeats: 1.0,
        }
    }

    /// Its end, in seconds from the start.
    pub fn end(&self) -> f32 {
        self.delay.max(0.0) + self.seconds.max(0.0) * self.repeats.max(0.0)
    }

    /// State of an element some seconds after the start.
    pub fn pose(&self, seconds: f32) -> Pose {
        let since = (seconds - self.delay.max(0.0)).max(0.0);
        let rounds = match self.seconds > 0.0 {
            true => since / self.seconds,
            false => f32::INFINITY,
        };
        let is_over = rounds >= self.repeats.max(0.0);
        let time = if is_over { 1.0 } else { rounds.fract() };
        let way = self.easing.at(time);
        let part = |offset: Offset, share: f32| Offset::new(offset.x * share, offset.y * share);
        let still = Pose::STILL;
        match self.kind {
            MotionKind::FadeIn => Pose {
                opacity: way,
                ..still
            },
            MotionKind::FadeOut => Pose {
                opacity: 1.0 - way,
                ..still
            },
            MotionKind::SlideIn(from) => Pose {
                opacity: way.clamp(0.0, 1.0),
                offset: part(from, 1.0 - way),
                ..still
            },
            MotionKind::SlideOut(to) => Pose {
                opacity: (1.0 - way).clamp(0.0, 1.0),
                offset: part(to, way),
                ..still
            },
            MotionKind::Pop => {
                // A curve that ends at 1 and goes a tenth beyond on its way.
                let beyond = Easing::CubicBezier(0.3, 1.5, 0.6, 1.0).at(time);
                Pose {
                    opacity: (time * 3.0).min(1.0),
                    scale: beyond,
                    ..still
                }
            }
            MotionKind::Pulse(share) if !is_over => Pose {
                scale: 1.0 + share * (std::f32::consts::PI * way).sin(),
                ..still
            },
            MotionKind::Shake(pixels) if !is_over => {
                let turn = std::f32::consts::TAU * time;
                let (x, y) = ((turn * 3.0).sin(), (turn * 2.0).sin() * 0.5);
                let fading = pixels * (1.0 - way);
                Pose {
                    offset: Offset::new(x * fading, y * fading),
                    ..still
                }
            }
            MotionKind::Pulse(_) | MotionKind::Shake(_) => still,
        }
    }

    /// The same motion for readers who want nothing to move: what comes and goes fades.
    #[must_use]
    pub fn reduced(self) -> Self {
        let kind = match self.kind {
            MotionKind::SlideIn(_) | MotionKind::Pop => MotionKind::FadeIn,
            MotionKind::SlideOut(_) => MotionKind::FadeOut,
            MotionKind::Pulse(_) => MotionKind::Pulse(0.0),
            MotionKind::Shake(_) => MotionKind::Shake(0.0),
            other => other,
        };
        Self { kind, ..self }
    }
}
