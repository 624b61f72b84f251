//! A face at one size, written to a file to be touched up by hand.
//!
//! In: a face, a size and characters. Out: a [`Strike`], written as
//! BDF or as a picture sheet, which [`Face`](crate::Face) reads again.

mod bdf;
mod sheet;
mod strike;

pub use strike::Strike;
