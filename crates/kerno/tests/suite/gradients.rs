//! Gradients of colour glyphs against a second reading of the standard, pixel by pixel: any
//! kind, any extend mode, under any transform.

use kerno::base::Treatment;
use kerno::font::GlyphId;
use kerno::raster::{GlyphRequest, Rasterizer};
use proptest::prelude::*;
use proptest::test_runner::RngSeed;

use crate::color::{BLUE, GREEN, RED, font, gradient, offset24, part, within};

const SIDE: usize = 20;

/// A gradient as the table has it: the format, its numbers, the extend mode, places of stops.
#[derive(Clone, Debug)]
struct Case {
    format: u8,
    numbers: Vec<i32>,
    extend: u8,
    stops: Vec<f64>,
    /// xx, yx, xy, yy, dx, dy (`PaintTransform`).
    affine: [f64; 6],
}

fn cases() -> impl Strategy<Value = Case> {
    let length = -200..1200_i32;
    let linear = (Just(4_u8), prop::collection::vec(length.clone(), 6));
    let radial = (
        Just(6_u8),
        prop::collection::vec(length.clone(), 6).prop_map(|mut numbers| {
            numbers[2] = numbers[2].abs() / 2;
            numbers[5] = numbers[5].abs() / 2;
            numbers
        }),
    );
    let sweep = (
        Just(8_u8),
        (length.clone(), length, -16384..16384_i32, -16384..16384_i32)
            .prop_map(|(x, y, start, end)| vec![x, y, start, end]),
    );
    let stops = prop::collection::vec(-0.5..1.5, 2..4);
    let affine = prop::array::uniform6(-1.5..1.5);
    (prop_oneof![linear, radial, sweep], 0..3_u8, stops, affine).prop_map(
        |((format, numbers), extend, stops, mut affine)| {
            // Turned and sheared, but with an area.
            affine[0] += 2.0;
            affine[3] += 2.0;
            affine[4] *= 200.0;
            affine[5] *= 200.0;
            Case {
                format,
                numbers,
                extend,
                stops,
                affine,
            }
        },
    )
}

/// The paint as bytes, seen in the square of 1000 units.
fn paint(case: &Case) -> Vec<u8> {
    let colors = [RED, BLUE, GREEN];
    let stops: Vec<_> = case.stops.iter().copied().zip(colors).collect();
    let inner = gradient(case.format, &case.numbers, case.extend, &stops);
    let mut placed = vec![12];
    placed.extend(offset24(7 + 24));
    placed.extend(offset24(7));
    for number in case.affine {
        placed.extend(((number * 65536.0).round() as i32).to_be_bytes());
    }
    placed.extend(inner);
    within(1, &placed)
}

/// The place on the colour line of a point in font units, where anything is painted.
fn place(case: &Case, [x, y]: [f64; 2]) -> Option<f64> {
    let n: Vec<f64> = case
        .numbers
        .iter()
        .map(|number| f64::from(*number))
        .collect();
    match case.format {
        4 => {
            // Lines of one colour run along p0 to p2.
            let normal = [-(n[5] - n[1]), n[4] - n[0]];
            let whole = (n[2] - n[0]) * normal[0] + (n[3] - n[1]) * normal[1];
            let way = (x - n[0]) * normal[0] + (y - n[1]) * normal[1];
            (whole.abs() > 1e4).then(|| way / whole)
        }
        6 => {
            // The largest circle of all that go through the point, searched for in small steps.
            let distance = |t: f64| {
                let (cx, cy) = (n[0] + t * (n[3] - n[0]), n[1] + t * (n[4] - n[1]));
                let radius = n[2] + t * (n[5] - n[2]);
                ((x - cx).hypot(y - cy) - radius, radius)
            };
            let mut t = 5000.0_f64;
            let mut before = distance(t);
            while t > -5000.0 {
                let step = (t.abs() * 0.002).max(0.02);
                let next = distance(t - step);
                if before.0.signum() != next.0.signum() && before.1 >= 0.0 && next.1 >= 0.0 {
                    let (mut low, mut high) = (t - step, t);
                    for _ in 0..24 {
                        let middle = (low + high) / 2.0;
                        match distance(middle).0.signum() == before.0.signum() {
                            true => high = middle,
                            false => low = middle,
                        }
                    }
                    return Some(high);
                }
                t -= step;
                before = next;
            }
            None
        }
        _ => {
            let degrees = (y - n[1]).atan2(x - n[0]).to_degrees().rem_euclid(360.0);
            let angle = |number: f64| (number / 16384.0 + 1.0) * 180.0;
            let (start, end) = (angle(n[2]), angle(n[3]));
            Some((degrees - start) / (end - start))
        }
    }
}

/// The colour at a place, by the extend mode.
fn color(case: &Case, place: f64) -> [f64; 4] {
    let colors = [
        [255.0, 0.0, 0.0, 255.0],
        [0.0, 0.0, 255.0, 255.0],
        [0.0, 255.0, 0.0, 255.0],
    ];
    let rounded = |stop: &f64| f64::from(part(*stop)) / 16384.0;
    let mut stops: Vec<(f64, [f64; 4])> = case.stops.iter().map(rounded).zip(colors).collect();
    stops.sort_by(|a, b| a.0.total_cmp(&b.0));
    let (first, last) = (stops[0].0, stops[stops.len() - 1].0);
    let length = last - first;
    let place = match case.extend {
        0 => place.clamp(first, last),
        1 => first + (place - first).rem_euclid(length),
        _ => first + length - ((place - first).rem_euclid(2.0 * length) - length).abs(),
    };
    let next = stops
        .iter()
        .position(|stop| place < stop.0)
        .unwrap_or(stops.len() - 1)
        .max(1);
    let ((from, before), (to, after)) = (stops[next - 1], stops[next]);
    let share = ((place - from) / (to - from)).clamp(0.0, 1.0);
    std::array::from_fn(|channel| before[channel] + (after[channel] - before[channel]) * share)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60,
        rng_seed: RngSeed::Fixed(20), failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_gradient_has_the_colors_of_the_standard(case in cases()) {
        let mut sorted = case.stops.clone();
        sorted.sort_by(f64::total_cmp);
        // Stops that are too near make every pixel a change of colour.
        prop_assume!(sorted.windows(2).all(|pair| pair[1] - pair[0] > 0.1));
        prop_assume!(case.format != 8 || (case.numbers[2] - case.numbers[3]).abs() > 1000);
        prop_assume!(case.format != 6 || (case.numbers[2] - case.numbers[5]).abs() > 20);
        let [xx, yx, xy, yy, dx, dy] = case.affine;
        let area = xx * yy - xy * yx;
        prop_assume!(area.abs() > 0.5);
        let face = font(&[paint(&case)]).face();
        let request = GlyphRequest::new(&face, GlyphId(1), SIDE as f32).treatment(Treatment::in_color());
        let mut rasterizer = Rasterizer::new();
        let picture = rasterizer.glyph(&request).expect("a picture");
        let pixels = picture.texels.as_chunks::<4>().0;
        let mut compared = 0;
        for (index, pixel) in pixels.iter().enumerate() {
            let at = |shift: [f64; 2]| {
                let x = (index % SIDE) as f64 + 0.5 + shift[0];
                let y = (index / SIDE) as f64 + 0.5 + shift[1];
                let (x, y) = (x * 1000.0 / SIDE as f64 - dx, (SIDE as f64 - y) * 1000.0 / SIDE as f64 - dy);
                let [x, y] = [(x * yy - y * xy) / area, (y * xx - x * yx) / area];
                place(&case, [x, y]).map(|place| color(&case, place))
            };
            // Pixels beside a sudden change are either colour.
            let around = [[0.0, 0.0], [0.05, 0.0], [-0.05, 0.0], [0.0, 0.05], [0.0, -0.05]].map(at);
            let spread = |channel: usize| {
                let values = around.iter().flatten().map(|color| color[channel]);
                values.clone().fold(0.0, f64::max) - values.fold(255.0, f64::min)
            };
            if around.iter().any(Option::is_none) || (0..4).any(|channel| spread(channel) > 40.0) {
                continue;
            }
            compared += 1;
            let wanted = around[0].expect("a colour");
            for channel in 0..4 {
                let off = (f64::from(pixel[channel]) - wanted[channel]).abs();
                prop_assert!(off <= 1.5 + spread(channel) * 0.5, "pixel {index}: {pixel:?}, not {wanted:?}");
            }
        }
        prop_assert!(compared > 0 || case.format == 4 || case.format == 6);
    }
}
