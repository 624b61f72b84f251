//! Pictures laid over each other (CSS Compositing and Blending Level 1, sections 9 and 10).

use crate::font::CompositeMode;

/// A colour multiplied by alpha, from 0 to 1: red, green, blue, alpha.
type Rgba = [f32; 4];

/// Lays a colour over another one.
pub(super) fn composite(mode: CompositeMode, source: Rgba, below: Rgba) -> Rgba {
    let (own, under) = (source[3], below[3]);
    // Porter-Duff: the shares of both that stay.
    let shares = match mode {
        CompositeMode::Clear => (0.0, 0.0),
        CompositeMode::Source => (1.0, 0.0),
        CompositeMode::Destination => (0.0, 1.0),
        CompositeMode::SourceOver => (1.0, 1.0 - own),
        CompositeMode::DestinationOver => (1.0 - under, 1.0),
        CompositeMode::SourceIn => (under, 0.0),
        CompositeMode::DestinationIn => (0.0, own),
        CompositeMode::SourceOut => (1.0 - under, 0.0),
        CompositeMode::DestinationOut => (0.0, 1.0 - own),
        CompositeMode::SourceAtop => (under, 1.0 - own),
        CompositeMode::DestinationAtop => (1.0 - under, own),
        CompositeMode::Xor => (1.0 - under, 1.0 - own),
        CompositeMode::Plus => (1.0, 1.0),
        _ => return blended(mode, source, below),
    };
    std::array::from_fn(|channel| (source[channel] * shares.0 + below[channel] * shares.1).min(1.0))
}

/// Colours mixed where both are: what shows is the source alone, what is below alone, and
/// their mix, by their alphas.
fn blended(mode: CompositeMode, source: Rgba, below: Rgba) -> Rgba {
    let (own, under) = (source[3], below[3]);
    let straight = |color: Rgba| {
        let alpha = if color[3] > 0.0 { color[3] } else { 1.0 };
        [color[0] / alpha, color[1] / alpha, color[2] / alpha]
    };
    let mixed = mix(mode, straight(source), straight(below));
    let channel = |index: usize| {
        source[index] * (1.0 - under) + below[index] * (1.0 - own) + mixed[index] * own * under
    };
    [
        channel(0),
        channel(1),
        channel(2),
        own + under - own * under,
    ]
}

/// The mix of two opaque colours.
fn mix(mode: CompositeMode, source: [f32; 3], below: [f32; 3]) -> [f32; 3] {
    match mode {
        CompositeMode::Hue => with_luminosity(with_saturation(source, saturation(below)), below),
        CompositeMode::Saturation => {
            with_luminosity(with_saturation(below, saturation(source)), below)
        }
        CompositeMode::Color => with_luminosity(source, below),
        CompositeMode::Luminosity => with_luminosity(below, source),
        _ => std::array::from_fn(|channel| mix_channel(mode, source[channel], below[channel])),
    }
}

/// One channel of the mix.
fn mix_channel(mode: CompositeMode, own: f32, under: f32) -> f32 {
    let screen = |a: f32, b: f32| a + b - a * b;
    let hard = |own: f32, under: f32| match own <= 0.5 {
        true => under * 2.0 * own,
        false => screen(under, 2.0 * own - 1.0),
    };
    match mode {
        CompositeMode::Multiply => own * under,
        CompositeMode::Screen => screen(own, under),
        CompositeMode::Overlay => hard(under, own),
        CompositeMode::HardLight => hard(own, under),
        CompositeMode::Darken => own.min(under),
        CompositeMode::Lighten => own.max(under),
        CompositeMode::ColorDodge => match (under <= 0.0, own >= 1.0) {
            (true, _) => 0.0,
            (false, true) => 1.0,
            (false, false) => (under / (1.0 - own)).min(1.0),
        },
        CompositeMode::ColorBurn => match (under >= 1.0, own <= 0.0) {
            (true, _) => 1.0,
            (false, true) => 0.0,
            (false, false) => 1.0 - ((1.0 - under) / own).min(1.0),
        },
        CompositeMode::SoftLight => {
            if own <= 0.5 {
                return under - (1.0 - 2.0 * own) * under * (1.0 - under);
            }
            let lighter = match under <= 0.25 {
                true => ((16.0 * under - 12.0) * under + 4.0) * under,
                false => under.sqrt(),
            };
            under + (2.0 * own - 1.0) * (lighter - under)
        }
        CompositeMode::Difference => (own - under).abs(),
        CompositeMode::Exclusion => own + under - 2.0 * own * under,
        _ => own,
    }
}

fn luminosity([red, green, blue]: [f32; 3]) -> f32 {
    0.3 * red + 0.59 * green + 0.11 * blue
}

fn saturation(color: [f32; 3]) -> f32 {
    let [low, high] = extremes(color);
    high - low
}

fn extremes(color: [f32; 3]) -> [f32; 2] {
    let least = color.iter().copied().fold(f32::INFINITY, f32::min);
    [
        least,
        color.iter().copied().fold(f32::NEG_INFINITY, f32::max),
    ]
}

/// A colour with the luminosity of another one (`SetLum`, `ClipColor`).
fn with_luminosity(color: [f32; 3], other: [f32; 3]) -> [f32; 3] {
    let growth = luminosity(other) - luminosity(color);
    let color = color.map(|channel| channel + growth);
    let middle = luminosity(color);
    let [low, high] = extremes(color);
    color.map(|channel| {
        let channel = match low < 0.0 {
            true => middle + (channel - middle) * middle / (middle - low),
            false => channel,
        };
        match high > 1.0 {
            true => middle + (channel - middle) * (1.0 - middle) / (high - middle),
            false => channel,
        }
    })
}

/// A colour with another saturation (`SetSat`).
fn with_saturation(color: [f32; 3], saturation: f32) -> [f32; 3] {
    let [low, high] = extremes(color);
    match high > low {
        true => color.map(|channel| (channel - low) * saturation / (high - low)),
        false => [0.0; 3],
    }
}
