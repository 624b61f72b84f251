//! Numbers that tell one state of a thing from another.

use std::sync::atomic::{AtomicU64, Ordering};

/// A number that nothing else in the process has. No result depends on its value: it only
/// tells whether a thing is still as it was.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Stamp(u64);

impl Stamp {
    /// A number that was not given before.
    pub(crate) fn new() -> Self {
        static NEXT: AtomicU64 = AtomicU64::new(0);
        Self(NEXT.fetch_add(1, Ordering::Relaxed))
    }
}
