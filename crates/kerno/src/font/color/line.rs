//! Colour lines: the colours along a gradient (`COLR`, “Color Lines”).

/// The colours of a gradient by their places, in the order of these.
#[derive(Clone, Debug, Default, PartialEq)]
pub(crate) struct ColorLine {
    pub(crate) extend: Extend,
    /// Place and colour, red, green, blue, alpha from 0 to 1, multiplied by alpha.
    stops: Vec<(f32, [f32; 4])>,
}

/// The colours beyond the ends of a colour line.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) enum Extend {
    /// The colour of the nearest end.
    #[default]
    Pad,
    /// The line again.
    Repeat,
    /// The line again, every other time from its end to its start.
    Reflect,
}

impl ColorLine {
    /// A line of stops; where two are at one place the colour changes at once.
    pub(super) fn new(extend: Extend, mut stops: Vec<(f32, [f32; 4])>) -> Self {
        stops.sort_by(|a, b| a.0.total_cmp(&b.0));
        Self { extend, stops }
    }

    /// Returns whether it has any colour: without stops there is none, and what has no length
    /// can't repeat.
    pub(crate) fn is_seen(&self) -> bool {
        let (Some(first), Some(last)) = (self.stops.first(), self.stops.last()) else {
            return false;
        };
        first.0 < last.0 || self.extend == Extend::Pad
    }

    /// The colour at a place, multiplied by alpha.
    pub(crate) fn at(&self, place: f32) -> [f32; 4] {
        let (Some((start, first)), Some((end, last))) = (self.stops.first(), self.stops.last())
        else {
            return [0.0; 4];
        };
        let length = end - start;
        let place = match self.extend {
            Extend::Pad => place,
            Extend::Repeat => start + (place - start).rem_euclid(length),
            Extend::Reflect => {
                let way = (place - start).rem_euclid(length * 2.0);
                start + way.min(length * 2.0 - way)
            }
        };
        if place < *start {
            return *first;
        }
        let pair = self.stops.windows(2).find(|pair| place < pair[1].0);
        let Some([(from, before), (to, after)]) = pair else {
            return *last;
        };
        let share = ((place - from) / (to - from)).max(0.0);
        std::array::from_fn(|channel| before[channel] + (after[channel] - before[channel]) * share)
    }
}
