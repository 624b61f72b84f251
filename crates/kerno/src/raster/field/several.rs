//! Fields of several channels: the distance from the lines of each, and mended where the
//! middle one of them tells another shape than the outline.

use super::channels::ChannelLine;
use super::lines::Line;
use super::strip::Strip;
use super::union::winding;

/// Distances this much closer to each other are those of one corner, in texels squared.
const TIE: f32 = 1e-3;

/// The nearest line of a channel.
#[derive(Clone, Copy, Debug)]
pub(super) struct Nearest {
    square: f32,
    /// The distance to the inside, where lines go on at corners.
    inside: f32,
    aside: f32,
}

impl Nearest {
    pub(super) const NONE: Self = Self {
        square: f32::INFINITY,
        inside: 0.0,
        aside: 0.0,
    };

    /// The distance to the inside of a texel, of which it is known whether it is filled.
    fn inside(&self, is_filled: bool, reach: f32) -> f32 {
        match (self.square.is_finite(), is_filled) {
            (true, _) => self.inside,
            (false, true) => reach,
            (false, false) => -reach,
        }
    }
}

/// Tells the texels near a line how far they are from it; `squares` has the distances from any
/// line.
pub(super) fn draw_near(
    own: &ChannelLine,
    reach: f32,
    (width, height): (usize, usize),
    (near, squares): (&mut [[Nearest; 3]], &mut [f32]),
) {
    let strip = Strip::new(&own.line, reach, own.beyond.map(|share| share * reach));
    for (row, columns) in strip.rows((width, height)) {
        for column in columns {
            let (along, aside) = strip.place([column as f32 + 0.5, row as f32 + 0.5]);
            let inside = aside * own.line.side;
            let beyond = along - along.clamp(0.0, strip.length());
            let square = aside * aside + beyond * beyond;
            // At a corner the line goes on.
            let goes_on = match beyond < 0.0 {
                true => own.corners[0],
                false => own.corners[1],
            };
            let inside = match beyond == 0.0 || goes_on {
                true => inside,
                false => square.sqrt().copysign(inside),
            };
            let texel = row * width + column;
            squares[texel] = squares[texel].min(square);
            let found = Nearest {
                square,
                inside,
                aside: aside.abs(),
            };
            for (channel, known) in near[texel].iter_mut().enumerate() {
                // Two lines that end at the corner which is nearest: the one that the texel
                // lies more straight above.
                let is_nearer = square < known.square - TIE
                    || (square < known.square + TIE && found.aside > known.aside);
                if own.channels >> channel & 1 == 1 && is_nearer {
                    *known = found;
                }
            }
        }
    }
}

/// Writes texels of four bytes: the channels, and the distance itself. `plain` has that of
/// each texel, inside above the middle of a byte.
pub(super) fn write(
    near: &mut [[Nearest; 3]],
    plain: &[u8],
    (width, reach, step): (usize, f32, f32),
    texels: &mut Vec<u8>,
) {
    for (channels, plain) in near.iter_mut().zip(plain) {
        for channel in channels {
            channel.inside = channel.inside(*plain > 127, reach).clamp(-reach, reach);
        }
    }
    texels.clear();
    for (index, channels) in near.iter().enumerate() {
        for (channel, nearest) in channels.iter().enumerate() {
            let other = |index: usize| {
                near.get(index)
                    .map_or(nearest.inside, |texel| texel[channel].inside)
            };
            // Between texels, what bends is told a little too far out: a twelfth of its second
            // difference on average, which is left out here as far as it is half a byte.
            let sum = other(index.wrapping_sub(1))
                + other(index + 1)
                + other(index.wrapping_sub(width))
                + other(index + width);
            let bend = (sum - 4.0 * nearest.inside) / 12.0 * step;
            texels.push((127.5 + nearest.inside * step - bend.clamp(-0.5, 0.5)).round() as u8);
        }
        texels.push(plain[index]);
    }
}

/// The middle one of three.
fn middle([a, b, c]: [f32; 3]) -> f32 {
    a.min(b).max(a.max(b).min(c))
}

/// Places that are looked at between two texels.
const PLACES: usize = 4;

/// Two texels and the places between them and the two below them.
struct Cell([[f32; 4]; 4]);

impl Cell {
    fn of(texels: &[[u8; 4]], indices: [usize; 4]) -> Self {
        Self(indices.map(|index| texels[index].map(|byte| f32::from(byte) - 127.5)))
    }

    /// True where two channels, the same ones at all four texels, tell the distance itself, or
    /// its side where that is one: so does the middle of three everywhere.
    fn is_plain(&self) -> bool {
        let Self(texels) = self;
        let is_filled = texels[0][3] > 0.0;
        let one_side = texels.iter().all(|texel| (texel[3] > 0.0) == is_filled);
        let tells = |channel: usize| {
            texels.iter().all(|texel| {
                (texel[channel] - texel[3]).abs() <= 1.0
                    || (one_side && (texel[channel] > 0.0) == is_filled)
            })
        };
        (0..3).filter(|channel| tells(*channel)).count() > 1
    }

    /// The middle of the channels and the distance itself at shares of the way right and
    /// down.
    fn at(&self, [x, y]: [f32; 2]) -> (f32, f32) {
        let Self([a, b, c, d]) = self;
        let mixed: [f32; 4] = std::array::from_fn(|channel| {
            let top = a[channel] + (b[channel] - a[channel]) * x;
            let bottom = c[channel] + (d[channel] - c[channel]) * x;
            top + (bottom - top) * y
        });
        let [red, green, blue, plain] = mixed;
        (middle([red, green, blue]), plain)
    }
}

/// Gives texels one distance in all channels where the middle of them, between texels, lies
/// on the wrong side of the outline, and the distance itself on the right one.
pub(super) fn mend(texels: &mut [u8], width: usize, lines: &[Line], step: f32) {
    let (texels, _) = texels.as_chunks_mut::<4>();
    let height = texels.len() / width;
    // A mended cell changes its neighbours: a few times over.
    for _ in 0..4 {
        let mut wrong = Vec::new();
        for row in 0..height.saturating_sub(1) {
            for column in 0..width - 1 {
                let first = row * width + column;
                let indices = [first, first + 1, first + width, first + width + 1];
                let cell = Cell::of(texels, indices);
                if !cell.is_plain() && is_wrong(&cell, [column, row], lines, step) {
                    wrong.extend(indices);
                }
            }
        }
        if wrong.is_empty() {
            return;
        }
        for index in wrong {
            let plain = texels[index][3];
            texels[index] = [plain; 4];
        }
    }
}

/// Returns whether the middle is wrong somewhere in a cell where the distance itself is not.
fn is_wrong(cell: &Cell, [column, row]: [usize; 2], lines: &[Line], step: f32) -> bool {
    let mut places = (0..=PLACES).flat_map(|y| (0..=PLACES).map(move |x| [x, y]));
    places.any(|place| {
        let share = place.map(|part| part as f32 / PLACES as f32);
        let (middle, plain) = cell.at(share);
        // A twentieth of a texel is seen by nobody.
        if (middle > 0.0) == (plain > 0.0) || middle.abs() < step * 0.05 {
            return false;
        }
        let at = [column as f32 + 0.5 + share[0], row as f32 + 0.5 + share[1]];
        (winding(at, lines) != 0) != (middle > 0.0)
    })
}
