//! Heights that the letters of a face share.

use super::extent::Extent;
use super::{Face, FontBounds};
use crate::outline::Outline;

/// A height that many letters of a face reach: flat ones exactly, round ones a little
/// farther, by their overshoot. In font units, y up.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct AlignmentZone {
    pub(crate) flat: f32,
    /// The reach of round letters: above `flat` at a top, below it at a bottom.
    pub(crate) round: f32,
}

/// The largest overshoot, as a share of the em: more is another height.
const OVERSHOOT: f32 = 0.05;

impl Face {
    /// The baseline, the x-height, the heights of capitals, ascenders and figures, and the
    /// depth of descenders, as far as the face has them, from the lowest up. Looks at a dozen
    /// outlines once, and remembers what it found.
    pub(crate) fn alignment_zones(&self) -> &[AlignmentZone] {
        self.0.zones.get_or_init(|| find(self))
    }
}

/// A side of letters' boxes.
#[derive(Clone, Copy)]
struct Side {
    of: fn(FontBounds) -> i16,
    /// The way outwards: 1 is up.
    out: f32,
}

const TOP: Side = Side {
    of: |bounds| bounds.y_max,
    out: 1.0,
};

const BOTTOM: Side = Side {
    of: |bounds| bounds.y_min,
    out: -1.0,
};

fn find(face: &Face) -> Vec<AlignmentZone> {
    let metrics = face.metrics();
    let most = OVERSHOOT * f32::from(metrics.units_per_em);
    let mut outline = Outline::new();
    let mut edge = |letter: char, side: Side| {
        let glyph = face.glyph(letter)?;
        face.outline(glyph, &mut outline).ok()?;
        let bounds = Extent::of(&outline).bounds()?;
        Some(f32::from((side.of)(bounds)))
    };
    let stated = |height: Option<i16>| height.map(f32::from);
    let flat = [
        (edge('p', BOTTOM), BOTTOM, "gqy"),
        (Some(0.0), BOTTOM, "oeOCS08"),
        (edge('x', TOP).or(stated(metrics.x_height)), TOP, "oecs"),
        (edge('7', TOP), TOP, "0836"),
        (edge('H', TOP).or(stated(metrics.cap_height)), TOP, "OCSG"),
        (edge('l', TOP), TOP, "fk"),
    ];
    let mut zones = Vec::new();
    for (flat, side, round) in flat {
        let Some(flat) = flat else { continue };
        let reaches = round.chars().filter_map(|letter| edge(letter, side));
        let reaches = reaches.map(|round| (round - flat) * side.out);
        // A letter that reaches farther belongs to another height.
        let reach = reaches.filter(|reach| *reach <= most).fold(0.0, f32::max);
        zones.push(AlignmentZone {
            flat,
            round: flat + reach * side.out,
        });
    }
    zones.sort_unstable_by(|a, b| a.flat.total_cmp(&b.flat));
    // Capitals and figures that are as high, say.
    zones.dedup_by(|next, zone| {
        let is_same = next.flat.min(next.round) <= zone.flat.max(zone.round);
        if is_same {
            zone.round = zone.round.max(next.round);
        }
        is_same
    });
    zones
}
