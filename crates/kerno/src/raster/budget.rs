//! The work that a picture may take: enough for any letter at its size, and not more for outlines
//! that were damaged or made to take long. What goes beyond is drawn coarser.

use super::placement::Placement;
use crate::base::{Edges, Treatment};
use crate::outline::Contours;

/// Work for one picture, by the size that it is asked for.
#[derive(Clone, Copy, Debug)]
pub(super) struct Budget {
    /// The square of the size, in device pixels per em.
    area: f64,
}

/// Numbers of a budget: as much for every picture, and more by the square of its size, up to some.
struct Share {
    least: usize,
    by_area: f64,
    most: usize,
}

/// Edges that are looked at where shapes lie over each other.
const STEPS: Share = Share {
    least: 1 << 20,
    by_area: 512.0,
    most: 1 << 26,
};

/// Pixels that are painted for a colour glyph, over each other.
const PAINTED: Share = Share {
    least: 1 << 20,
    by_area: 512.0,
    most: 1 << 27,
};

/// The length of all edges of an outline, in pixels.
const LENGTH: Share = Share {
    least: 1 << 16,
    by_area: 512.0,
    most: 1 << 26,
};

/// Pixels of a picture that is filled, grown, blurred, a field of one channel, or of several.
const FILLED: Share = Share {
    least: 1 << 22,
    by_area: 16.0,
    most: 1 << 24,
};
const GROWN: Share = Share {
    least: 1 << 14,
    by_area: 64.0,
    most: 1 << 23,
};
const BLURRED: Share = Share {
    least: 1 << 18,
    by_area: 64.0,
    most: 1 << 20,
};
const FIELD: Share = Share {
    least: 1 << 15,
    by_area: 8.0,
    most: 1 << 22,
};
const CHANNELS: Share = Share {
    least: 1 << 12,
    by_area: 8.0,
    most: 1 << 20,
};

/// The largest number of device pixels in a texel of a picture that takes too long.
const COARSEST: u32 = 1 << 10;

impl Share {
    fn at(&self, area: f64) -> usize {
        let more = (area * self.by_area).min(self.most as f64) as usize;
        (self.least + more).min(self.most)
    }
}

impl Budget {
    /// The budget of a picture at a size.
    pub(super) fn of(size: f32) -> Self {
        let size = f64::from(size);
        Self { area: size * size }
    }

    /// For shapes that are no letters.
    pub(super) const LARGEST: Self = Self { area: 1e12 };

    pub(super) fn steps(self) -> usize {
        STEPS.at(self.area)
    }

    pub(super) fn painted(self) -> usize {
        PAINTED.at(self.area)
    }

    /// The device pixels that a texel has to be wide, for an outline to be drawn within the budget:
    /// 1 for letters. A multiple of the reduction that goes with the treatment anyway.
    pub(super) fn coarseness(
        self,
        contours: &Contours,
        placement: Placement,
        treatment: &Treatment,
    ) -> u32 {
        let usual = treatment.reduction();
        let share = match treatment.edges {
            Edges::MultiChannelField => &CHANNELS,
            Edges::DistanceField => &FIELD,
            _ if treatment.blur_px() > 0.0 => &BLURRED,
            _ if !treatment.is_plain() => &GROWN,
            _ => &FILLED,
        };
        let (pixels, length) = (share.at(self.area) as f64, LENGTH.at(self.area) as f64);
        let part = f64::from(placement.scale) / f64::from(usual);
        let (sides, path) = extent(contours);
        let reach = f64::from(treatment.range().max(1))
            + 2.0 * f64::from(treatment.outset_px().max(0.0) + 3.0 * treatment.blur_px())
                / f64::from(usual);
        let mut times = 1;
        while times < COARSEST {
            let scale = part / f64::from(times);
            let [width, height] = sides.map(|side| side * scale + reach);
            if width * height <= pixels && path * scale <= length {
                break;
            }
            times *= 2;
        }
        usual.saturating_mul(times)
    }
}

/// Width and height of the box around all points, and the length of the way through them.
fn extent(contours: &Contours) -> ([f64; 2], f64) {
    let (mut low, mut high) = ([f64::INFINITY; 2], [f64::NEG_INFINITY; 2]);
    let mut path = 0.0;
    let mut before: Option<[f64; 2]> = None;
    for point in &contours.points {
        let at = [f64::from(point.x), f64::from(point.y)];
        for axis in 0..2 {
            low[axis] = low[axis].min(at[axis]);
            high[axis] = high[axis].max(at[axis]);
        }
        let [x, y] = before.unwrap_or(at);
        path += (at[0] - x).abs() + (at[1] - y).abs();
        before = Some(at);
    }
    let side = |axis: usize| (high[axis] - low[axis]).max(0.0);
    ([side(0), side(1)], path)
}
