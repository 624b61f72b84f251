//! Curves → chords, with the area that each chord leaves out: together close
//! enough that no pixel shows the difference.

/// A twelfth of the area between a curve and its short chords: what of it lands
/// in the wrong pixel is far less, so that with the rounding to a byte pixels
/// are right to about 1/255.
const TOLERANCE: f32 = 0.005;

/// The same for chords of several pixels, which may stray on both sides of a
/// stroke and at a slant.
const LONG_TOLERANCE: f32 = 0.003;

/// The most chords of up to a pixel for one curve.
const MOST_SHORT: u32 = 8;

/// The most chords for one curve; reached only far beyond any screen.
const MOST_CHORDS: u32 = 512;

/// A place in the picture: pixels, y down.
pub(super) type Place = (f32, f32);

/// The smaller of two numbers, in one instruction: `f32::min` takes several to
/// say what happens to a value that is no number.
#[inline]
pub(super) fn smaller(a: f32, b: f32) -> f32 {
    if a < b { a } else { b }
}

/// The larger of two numbers, likewise.
#[inline]
pub(super) fn larger(a: f32, b: f32) -> f32 {
    if a > b { a } else { b }
}

/// At least the length of a vector, at most 8 % more, without a square root.
fn length((x, y): Place) -> f32 {
    let (x, y) = (x.abs(), y.abs());
    larger(x, y) + 0.4143 * smaller(x, y)
}

/// What an outline is drawn with.
pub(super) trait Pen {
    fn move_to(&mut self, to: Place);
    /// An edge of any length.
    fn line_to(&mut self, to: Place);
    /// A chord of a curve, at most a pixel wide and high, and the area between
    /// the two: positive where the curve runs left of the chord going down.
    fn chord_to(&mut self, to: Place, bulge: f32);
}

/// A quadratic Bézier curve as chords.
///
/// With first difference b and second difference a, the area between each of n
/// chords and the curve is a × b / 6n³: the second difference is the same
/// everywhere.
#[inline]
pub(super) fn quadratic(from: Place, control: Place, to: Place, pen: &mut impl Pen) {
    let b = (2.0 * (control.0 - from.0), 2.0 * (control.1 - from.1));
    let a = (to.0 - from.0 - b.0, to.1 - from.1 - b.1);
    let bend = a.0 * b.1 - a.1 * b.0;
    let short = short_chords(bend, a, b);
    let count = if short <= MOST_SHORT {
        short
    } else {
        long_chords(a, 0.25)
    };
    let step = 1.0 / count as f32;
    let at = |index: u32| {
        let t = index as f32 * step;
        (from.0 + t * (b.0 + t * a.0), from.1 + t * (b.1 + t * a.1))
    };
    if short <= MOST_SHORT {
        let bulge = bend * (step * step * step * (1.0 / 6.0));
        for index in 1..count {
            pen.chord_to(at(index), bulge);
        }
        pen.chord_to(to, bulge);
    } else {
        for index in 1..count {
            pen.line_to(at(index));
        }
        pen.line_to(to);
    }
}

/// How many chords it takes that are no wider and no higher than a pixel, so
/// that the area beside each can be put where it belongs: enough of them to
/// leave only 2 [`TOLERANCE`] beside each. Up to [`MOST_SHORT`] the number is
/// right; above, it only says that there are more.
fn short_chords(bend: f32, a: Place, b: Place) -> u32 {
    // Sums of comparisons: a branch here would be anyone's guess.
    let cubes = std::array::from_fn::<_, { MOST_SHORT as usize }, _>(|n| {
        let n = (n + 1) as f32;
        12.0 * TOLERANCE * n * n * n
    });
    let bend = bend.abs();
    let needed: u32 = cubes.iter().map(|cube| u32::from(bend > *cube)).sum();
    // No chord is wider or higher than the longer half of the control polygon
    // would make it.
    let side = |v: Place| larger(v.0.abs(), v.1.abs());
    let longest = larger(side(b), side((b.0 + 2.0 * a.0, b.1 + 2.0 * a.1)));
    needed.max(longest as i32 as u32) + 1
}

/// How many chords of any length keep within [`LONG_TOLERANCE`], where n of
/// them stray by `factor` times `bend` over n².
fn long_chords(bend: Place, factor: f32) -> u32 {
    let count = (length(bend) * (factor / LONG_TOLERANCE)).sqrt();
    (count as i32 as u32 + 1).min(MOST_CHORDS)
}

/// A cubic Bézier curve as chords: its second derivative is at most six times
/// the larger second difference of its points, so n of them stray by 3/4 of it
/// over n².
pub(super) fn cubic(from: Place, first: Place, second: Place, to: Place, pen: &mut impl Pen) {
    let bend = |a: Place, b: Place, c: Place| (a.0 - 2.0 * b.0 + c.0, a.1 - 2.0 * b.1 + c.1);
    let (start, end) = (bend(from, first, second), bend(first, second, to));
    let count = long_chords(
        if length(start) > length(end) {
            start
        } else {
            end
        },
        0.75,
    );
    let step = 1.0 / count as f32;
    let at = |t: f32, p: [f32; 4]| {
        let s = 1.0 - t;
        s * s * s * p[0] + 3.0 * s * t * (s * p[1] + t * p[2]) + t * t * t * p[3]
    };
    for index in 1..count {
        let t = index as f32 * step;
        pen.line_to((
            at(t, [from.0, first.0, second.0, to.0]),
            at(t, [from.1, first.1, second.1, to.1]),
        ));
    }
    pen.line_to(to);
}
