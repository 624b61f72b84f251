//! Curves: what grows tenfold, measured and drawn beside a limit of the same run.
//!
//!     cargo bench -p kerno --bench growth -- --chart growth.png

mod chart;
mod counting;
mod work;

use std::hint::black_box;
use std::time::{Duration, Instant};

use counting::allocations;

/// One curve: a piece of work at sizes ten times as large each.
pub(crate) struct Curve {
    title: &'static str,
    /// The unit of the sizes.
    unit: &'static str,
    /// The limit that it is held against.
    limit: &'static str,
    points: Vec<Measured>,
}

pub(crate) struct Measured {
    size: usize,
    seconds: f64,
    /// Seconds of the limit, in the same run.
    limit: f64,
    /// Allocations of one call that is not the first.
    allocations: usize,
}

/// The least time that a call takes, of as many as fit into a tenth of a second, at least five.
fn seconds(mut work: impl FnMut()) -> f64 {
    work();
    let (start, mut least, mut calls) = (Instant::now(), f64::INFINITY, 0_u32);
    while calls < 5 || start.elapsed() < Duration::from_millis(100) {
        let before = Instant::now();
        work();
        least = least.min(before.elapsed().as_secs_f64());
        calls += 1;
    }
    least
}

/// Measures work and its limit at one size.
pub(crate) fn measured(size: usize, mut work: impl FnMut(), limit: impl FnMut()) -> Measured {
    let seconds_of_work = seconds(&mut work);
    Measured {
        size,
        seconds: seconds_of_work,
        limit: seconds(limit),
        allocations: allocations(work),
    }
}

/// The limit of what hands out bytes: a plain copy of as many.
pub(crate) fn copy_of(bytes: usize) -> impl FnMut() {
    let from = vec![1_u8; bytes];
    let mut to = vec![0_u8; bytes];
    move || {
        black_box(&mut to).copy_from_slice(black_box(&from));
    }
}

fn main() {
    let arguments: Vec<String> = std::env::args().collect();
    // The test runner only asks whether it starts.
    if arguments
        .iter()
        .any(|argument| argument == "--test" || argument == "--list")
    {
        return;
    }
    let curves = work::curves();
    for curve in &curves {
        println!("{}, beside {}", curve.title, curve.limit);
        for point in &curve.points {
            println!(
                "  {:>7} {:<12} {:>10} {:>10} {:>8.1} times {:>6} allocations",
                point.size,
                curve.unit,
                chart::time(point.seconds),
                chart::time(point.limit),
                point.seconds / point.limit,
                point.allocations
            );
        }
    }
    let path = arguments.iter().position(|argument| argument == "--chart");
    if let Some(path) = path.and_then(|at| arguments.get(at + 1)) {
        let picture = chart::draw(&curves).expect("a chart");
        picture.write_png_file(path).expect("a PNG");
        println!("{path}");
    }
}
