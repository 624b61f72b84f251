//! Curves → chords, with the area that each chord leaves out: together close
//! enough that no pixel shows the difference.

/// The largest error in the coverage of a pixel that we are after, of 1: a
/// little over 1/255.
const TOLERANCE: f32 = 0.002;

/// The same for chords of several pixels, which may stray on both sides of a
/// stroke and at a slant.
const LONG_TOLERANCE: f32 = 0.003;

/// The most chords for one curve; reached only far beyond any screen.
const MOST_CHORDS: u32 = 512;

/// A place in the picture: pixels, y down.
pub(super) type Place = (f32, f32);

/// At least the length of a vector, at most 8 % more, without a square root.
fn length((x, y): Place) -> f32 {
    let (x, y) = (x.abs(), y.abs());
    x.max(y) + 0.4143 * x.min(y)
}

/// A quadratic Bézier curve as chords: hands out the end of each and the area
/// (in pixels, positive where the curve runs left of a chord going down)
/// between chord and curve.
///
/// With first difference b and second difference a, that area is a × b / 6n³
/// for each of n chords: the second difference is the same everywhere.
pub(super) fn quadratic(
    from: Place,
    control: Place,
    to: Place,
    mut chord_to: impl FnMut(Place, f32),
) {
    let (bx, by) = (2.0 * (control.0 - from.0), 2.0 * (control.1 - from.1));
    let (ax, ay) = (to.0 - from.0 - bx, to.1 - from.1 - by);
    let bend = ax * by - ay * bx;
    let (count, is_short) = quadratic_chords(bend, (ax, ay), (bx, by));
    let step = 1.0 / count as f32;
    let bulge = if is_short {
        bend * (step * step * step / 6.0)
    } else {
        0.0
    };
    for index in 1..count {
        let t = index as f32 * step;
        let next = (from.0 + t * (bx + t * ax), from.1 + t * (by + t * ay));
        chord_to(next, bulge);
    }
    chord_to(to, bulge);
}

/// How many chords it takes, and whether they are so short (a pixel at most)
/// that the area beside each may be put into one pixel.
///
/// Short ones are right but for what lies in the wrong pixel, at most half of
/// |a × b| / 6n³. Longer ones do without, and stray by |a| / 4n².
fn quadratic_chords(bend: f32, a: Place, b: Place) -> (u32, bool) {
    let wanted = bend.abs() * (1.0 / (12.0 * TOLERANCE));
    let mut short = 1;
    while ((short * short * short) as f32) < wanted && short < 16 {
        short += 1;
    }
    // The curve is no longer than its control polygon.
    let reach = (length(b) + length((a.0 + b.0, a.1 + b.1))) * 0.5;
    let short = short.max(reach as i32 as u32 + 1);
    let long = (length(a) * (0.25 / LONG_TOLERANCE)).sqrt() as i32 as u32 + 1;
    if short <= long.min(16) {
        (short, true)
    } else {
        (long.min(MOST_CHORDS), false)
    }
}

/// A cubic Bézier curve as chords: its second derivative is at most six times
/// the larger second difference of its points, so n of them stray by 3/4 of it
/// over n².
pub(super) fn cubic(
    from: Place,
    first: Place,
    second: Place,
    to: Place,
    mut line_to: impl FnMut(Place),
) {
    let bend =
        |a: Place, b: Place, c: Place| length((a.0 - 2.0 * b.0 + c.0, a.1 - 2.0 * b.1 + c.1));
    let bend = bend(from, first, second).max(bend(first, second, to));
    let count = (bend * (0.75 / LONG_TOLERANCE)).sqrt() as i32 as u32 + 1;
    let count = count.min(MOST_CHORDS);
    let step = 1.0 / count as f32;
    let at = |t: f32, p: [f32; 4]| {
        let s = 1.0 - t;
        s * s * s * p[0] + 3.0 * s * t * (s * p[1] + t * p[2]) + t * t * t * p[3]
    };
    for index in 1..count {
        let t = index as f32 * step;
        line_to((
            at(t, [from.0, first.0, second.0, to.0]),
            at(t, [from.1, first.1, second.1, to.1]),
        ));
    }
    line_to(to);
}
