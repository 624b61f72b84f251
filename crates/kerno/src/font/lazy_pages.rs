//! Numbers that take a search or a sum to find, kept page by page once one of the
//! page was asked for.

use std::sync::OnceLock;

/// As many numbers are found together.
const PAGE: usize = 256;

type Page = OnceLock<Box<[u16; PAGE]>>;

/// A list of numbers, none of which is known before it is asked for. Empty it takes
/// no memory.
#[derive(Debug)]
pub(super) struct LazyPages {
    pages: OnceLock<Box<[Page]>>,
    /// The most numbers that there may be.
    length: usize,
}

impl LazyPages {
    pub(super) const fn new(length: usize) -> Self {
        Self {
            pages: OnceLock::new(),
            length,
        }
    }

    /// Number `index`; where it is not known, `find` gets the first index of its
    /// page and finds them all. `None` past the end.
    #[inline]
    pub(super) fn get(&self, index: usize, find: impl FnOnce(usize) -> [u16; PAGE]) -> Option<u16> {
        let known = || self.pages.get()?.get(index / PAGE)?.get();
        match known() {
            Some(page) => Some(page[index % PAGE]),
            None => self.found(index, find),
        }
    }

    #[cold]
    fn found(&self, index: usize, find: impl FnOnce(usize) -> [u16; PAGE]) -> Option<u16> {
        let pages = self.pages.get_or_init(|| {
            let pages = std::iter::repeat_with(OnceLock::new);
            pages.take(self.length.div_ceil(PAGE)).collect()
        });
        let page = pages.get(index / PAGE)?;
        let first = index / PAGE * PAGE;
        Some(page.get_or_init(|| Box::new(find(first)))[index % PAGE])
    }
}
