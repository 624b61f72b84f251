//! Four numbers at a time.

/// As many are worked on at once.
pub(super) const LANES: usize = 4;

/// The smaller of two numbers, in one instruction: `f32::min` takes several to
/// say what happens to a value that is no number.
#[inline(always)]
pub(super) fn smaller(a: f32, b: f32) -> f32 {
    if a < b { a } else { b }
}

/// The larger of two numbers, likewise.
#[inline(always)]
pub(super) fn larger(a: f32, b: f32) -> f32 {
    if a > b { a } else { b }
}

/// The whole number below a number, in few instructions: `f32::floor` is a function
/// call on a processor without SSE 4.1.
#[inline(always)]
pub(super) fn floor(value: f32) -> f32 {
    if value.abs() >= 8_388_608.0 {
        return value; // Nothing else is left in its 24 bits.
    }
    let whole = value as i32 as f32;
    if whole > value { whole - 1.0 } else { whole }
}

/// Puts four numbers into a list.
#[inline(always)]
pub(super) fn set_lanes<T>(list: &mut [T], at: usize, numbers: impl Into<[T; LANES]>) {
    let four = list.get_mut(at..);
    if let Some(four) = four.and_then(|rest| rest.first_chunk_mut()) {
        *four = numbers.into();
    }
}
