//! Curves → short lines, close enough that no pixel shows the difference.

/// How far the line may stray from its curve, in device pixels, at the points
/// where it strays most. It lies outside there and inside between, so that
/// over a pixel about half of this cancels: the error in coverage stays below
/// 1.5/255.
const TOLERANCE: f32 = 0.012;

/// The most chords for one curve; reached only far beyond any screen.
const MOST_CHORDS: u32 = 512;

/// A place in the picture: pixels, y down.
pub(super) type Place = (f32, f32);

/// A quadratic Bézier curve as chords, handed out end by end.
///
/// With second difference `a`, chords between n + 1 points of the curve lie
/// inside it by up to |a| / 4n². Moving the inner points outwards along -a by
/// |a| / 6n² · n/(n - 1) makes the area under the chords that of the curve.
pub(super) fn quadratic(from: Place, control: Place, to: Place, mut line_to: impl FnMut(Place)) {
    let ax = from.0 - 2.0 * control.0 + to.0;
    let ay = from.1 - 2.0 * control.1 + to.1;
    let count = chords(ax, ay, 1.0 / 6.0);
    if count > 1 {
        let n = count as f32;
        let step = 1.0 / n;
        let out = step / (6.0 * (n - 1.0));
        let (cx, cy) = (from.0 - ax * out, from.1 - ay * out);
        let (bx, by) = (2.0 * (control.0 - from.0), 2.0 * (control.1 - from.1));
        for index in 1..count {
            let t = index as f32 * step;
            line_to((cx + t * (bx + t * ax), cy + t * (by + t * ay)));
        }
    }
    line_to(to);
}

/// A cubic Bézier curve as chords: its second derivative is at most six times
/// the larger second difference of its points.
pub(super) fn cubic(
    from: Place,
    first: Place,
    second: Place,
    to: Place,
    mut line_to: impl FnMut(Place),
) {
    let bend = |a: f32, b: f32, c: f32| (a - 2.0 * b + c).abs();
    let dx = bend(from.0, first.0, second.0).max(bend(first.0, second.0, to.0));
    let dy = bend(from.1, first.1, second.1).max(bend(first.1, second.1, to.1));
    // Not moved outwards: half the tolerance makes up for it.
    let count = chords(dx, dy, 1.5);
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

/// How many chords keep within [`TOLERANCE`], where n of them stray by the
/// second difference times `factor` / n².
fn chords(dx: f32, dy: f32, factor: f32) -> u32 {
    let (dx, dy) = (dx.abs(), dy.abs());
    // At least the length of (dx, dy), and cheaper than its square root.
    let length = dx.max(dy) + 0.4143 * dx.min(dy);
    let count = (length * (factor / TOLERANCE)).sqrt();
    (count as i32 as u32 + 1).min(MOST_CHORDS)
}
