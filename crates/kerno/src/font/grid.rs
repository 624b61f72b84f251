//! Faces drawn on a grid of pixels, and the sizes at which they are crisp.

use std::collections::BTreeSet;

use super::{Face, FontError, GlyphId};
use crate::outline::{Outline, Segment};

/// The most glyphs that are looked at, besides printable ASCII.
const SAMPLES: u16 = 64;
/// The distance a place may lie off its line, in font units: it was rounded to a
/// whole one.
const TOLERANCE: f32 = 0.51;
/// The coarsest and the finest grid that is one: more pixels to the em than
/// these are a shape.
const PIXELS: std::ops::RangeInclusive<u16> = 4..=64;

impl Face {
    /// For a face drawn on a grid of pixels, how many pixels there are to the em
    /// (which need not be a whole number); `None` for any other. Looks at the
    /// outlines of printable ASCII and of the first glyphs once, and remembers
    /// what it found.
    pub fn pixels_per_em(&self) -> Option<f32> {
        let find = || {
            self.strike_size()
                .map(f32::from)
                .or_else(|| find_grid(self))
        };
        *self.0.grid.get_or_init(find)
    }

    /// The size nearest to `wanted`, in pixels per em, at which every edge of the
    /// face falls on a pixel's edge, so that smoothing changes nothing: at least
    /// one device pixel for each pixel of the face. `None` for a face that is not
    /// drawn on a grid, which no size makes crisp.
    ///
    /// ```no_run
    /// # let face = kerno::Face::from_file("fonts/misaki_gothic.ttf").unwrap();
    /// // Eight pixels to the em.
    /// assert_eq!(face.crisp_size(15.0), Some(16.0));
    /// assert_eq!(face.crisp_size(3.0), Some(8.0));
    /// ```
    pub fn crisp_size(&self, wanted: f32) -> Option<f32> {
        let pixels = self.pixels_per_em()?;
        Some((wanted / pixels).round().max(1.0) * pixels)
    }
}

impl Face {
    /// The face and size to draw text of `wanted` pixels per em with. For a bitmap
    /// font that is the strike, and the whole multiple of it, that comes nearest:
    /// a smaller multiple where two are as near. For any other face itself and
    /// `wanted`.
    ///
    /// # Errors
    /// [`FontError`] where the strikes of the font are damaged.
    pub fn for_size(&self, wanted: f32) -> Result<(Self, f32), FontError> {
        if self.strike_size().is_none() {
            return Ok((self.clone(), wanted));
        }
        let multiple = |strike: u16| {
            let pixels = f32::from(strike);
            (wanted / pixels).round().max(1.0) * pixels
        };
        let nearest = self.strike_sizes()?.into_iter().max_by(|a, b| {
            let off = |strike: u16| (multiple(strike) - wanted).abs();
            off(*b).total_cmp(&off(*a)).then(a.cmp(b))
        });
        match nearest {
            Some(strike) => Ok((self.strike(strike)?, multiple(strike))),
            None => Ok((self.clone(), wanted)),
        }
    }
}

/// The coarsest grid that all coordinates and advances lie on, where every edge
/// is level or upright.
fn find_grid(face: &Face) -> Option<f32> {
    let ascii = ('!'..='~').filter_map(|character| face.glyph(character));
    let first = (1..face.glyph_count().min(SAMPLES)).map(GlyphId);
    let mut outline = Outline::new();
    let mut places = BTreeSet::new();
    for glyph in ascii.chain(first) {
        face.outline(glyph, &mut outline).ok()?;
        if !outline.is_empty() {
            places.insert(u32::from(face.advance(glyph)));
            take_places(&outline, &mut places)?;
        }
    }
    places.remove(&0);
    let em = f32::from(face.metrics().units_per_em);
    // A pixel of whole font units …
    let divisor = places.iter().copied().reduce(greatest_common_divisor)?;
    let pixels = em / divisor as f32;
    if pixels <= f32::from(*PIXELS.end()) {
        return Some(pixels);
    }
    // … or a whole number of them to the em, each place rounded to a unit.
    PIXELS.map(f32::from).find(|pixels| {
        let off_grid = |place: &u32| {
            let line = *place as f32 * pixels / em;
            (line - line.round()).abs() * em / pixels
        };
        places.iter().all(|place| off_grid(place) <= TOLERANCE)
    })
}

/// Takes in the coordinates of an outline; `None` where it has a curve or a
/// slanted edge, or a place between font units.
fn take_places(outline: &Outline, places: &mut BTreeSet<u32>) -> Option<()> {
    let (mut start, mut pen) = ((0.0, 0.0), (0.0, 0.0));
    for segment in outline.segments() {
        let (Segment::Start(to) | Segment::Line(to)) = segment else {
            return None;
        };
        let to = (to.x, to.y);
        if matches!(segment, Segment::Start(_)) {
            check_edge(pen, start)?;
            start = to;
        } else {
            check_edge(pen, to)?;
        }
        pen = to;
        for place in [to.0, to.1] {
            if place.fract() != 0.0 {
                return None;
            }
            places.insert(place.abs() as u32);
        }
    }
    check_edge(pen, start)
}

/// Only level and upright edges will do.
fn check_edge(from: (f32, f32), to: (f32, f32)) -> Option<()> {
    (from.0 == to.0 || from.1 == to.1).then_some(())
}

fn greatest_common_divisor(a: u32, b: u32) -> u32 {
    if b == 0 {
        a
    } else {
        greatest_common_divisor(b, a % b)
    }
}
