//! Numbers that take some work to find, kept one by one once they were asked for.

use std::sync::OnceLock;
use std::sync::atomic::{AtomicU64, Ordering};

/// Numbers whose memory is taken together.
const PAGE: usize = 256;

type Page = OnceLock<Box<[AtomicU64; PAGE]>>;

/// A list of numbers, none of which is known before it is asked for. Empty it takes
/// no memory. Several threads may ask at once: they find the same.
#[derive(Debug, Default)]
pub(super) struct LazyCells {
    pages: OnceLock<Box<[Page]>>,
}

/// A number that is not known yet; one that is 0 is found anew each time.
const UNKNOWN: u64 = 0;

/// As many numbers as there can be glyphs.
const LENGTH: usize = 1 << 16;

impl LazyCells {
    /// Number `index`, found by `find` the first time.
    ///
    /// # Errors
    /// The error of `find`; nothing is kept then.
    #[inline]
    pub(super) fn get<E>(
        &self,
        index: u16,
        find: impl FnOnce() -> Result<u64, E>,
    ) -> Result<u64, E> {
        let place = usize::from(index);
        let page = || self.pages.get()?.get(place / PAGE)?.get();
        let known = page().map_or(UNKNOWN, |page| page[place % PAGE].load(Ordering::Relaxed));
        if known != UNKNOWN {
            return Ok(known);
        }
        let found = find()?;
        self.keep(place, found);
        Ok(found)
    }

    #[cold]
    fn keep(&self, place: usize, found: u64) {
        let new = || (0..LENGTH / PAGE).map(|_| OnceLock::new()).collect();
        let page = self.pages.get_or_init(new)[place / PAGE].get_or_init(cells::<PAGE>);
        page[place % PAGE].store(found, Ordering::Relaxed);
    }
}

fn cells<const COUNT: usize>() -> Box<[AtomicU64; COUNT]> {
    Box::new([const { AtomicU64::new(UNKNOWN) }; COUNT])
}

/// Facts about pairs of glyphs, the last ones that were asked for: a new one may
/// take the place of an old one. Empty it takes no memory.
#[derive(Debug, Default)]
pub(super) struct PairCache(OnceLock<Box<[AtomicU64; PAIRS]>>);

/// The number of pairs that are kept; a game's text has some hundreds.
const PAIRS: usize = 2048;

/// The number of cells side by side that a pair may be in, so that those that come to lie in
/// one place do not drive each other out.
const SIDE_BY_SIDE: usize = 4;

impl PairCache {
    /// The fact about a pair, found by `find` where none is kept. It must not be 0.
    #[inline]
    pub(super) fn get(&self, left: u16, right: u16, find: impl FnOnce() -> u32) -> u32 {
        let pairs = self.0.get_or_init(cells::<PAIRS>);
        let pair = u32::from(left) << 16 | u32::from(right);
        // Fibonacci hashing: neighbours in either glyph are spread out.
        let hash = pair.wrapping_mul(0x9e37_79b9);
        let (groups, _) = pairs.as_chunks::<SIDE_BY_SIDE>();
        let group = &groups[(hash >> (32 - groups.len().ilog2())) as usize % groups.len()];
        for cell in group {
            let known = cell.load(Ordering::Relaxed);
            if (known >> 32) as u32 == pair && known as u32 != 0 {
                return known as u32;
            }
        }
        let found = find();
        Self::keep(group, hash, u64::from(pair) << 32 | u64::from(found));
        found
    }

    /// Keeps a pair in a free cell of its group, or in the place of another one.
    #[cold]
    fn keep(group: &[AtomicU64; SIDE_BY_SIDE], hash: u32, pair: u64) {
        let is_free = |cell: &&AtomicU64| cell.load(Ordering::Relaxed) == UNKNOWN;
        let other = &group[hash as usize % SIDE_BY_SIDE];
        let cell = group.iter().find(is_free).unwrap_or(other);
        cell.store(pair, Ordering::Relaxed);
    }
}
