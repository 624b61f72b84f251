//! The bytes of a file, wherever they live.

use std::fmt;
use std::ops::{Deref, Range};
use std::sync::Arc;

/// The bytes of a file (a font, a pack), shared and never copied: a `Vec<u8>`, a
/// `static` slice from `include_bytes!`, a memory map, whatever the caller has.
#[derive(Clone)]
pub struct SharedBytes(Arc<dyn AsRef<[u8]> + Send + Sync>);

impl SharedBytes {
    /// Takes any owner of bytes; they must stay the same as long as it lives.
    pub fn from_owner(owner: impl AsRef<[u8]> + Send + Sync + 'static) -> Self {
        Self(Arc::new(owner))
    }

    /// A part of them, for as long as it is needed; `None` past their end.
    pub(crate) fn part(&self, range: Range<usize>) -> Option<Self> {
        self.get(range.clone())?;
        let whole = self.clone();
        Some(Self::from_owner(SharedPart { whole, range }))
    }
}

/// A part of shared bytes, known to be inside them.
struct SharedPart {
    whole: SharedBytes,
    range: Range<usize>,
}

impl AsRef<[u8]> for SharedPart {
    fn as_ref(&self) -> &[u8] {
        &self.whole[self.range.clone()]
    }
}

impl Deref for SharedBytes {
    type Target = [u8];
    fn deref(&self) -> &[u8] {
        (*self.0).as_ref()
    }
}

impl From<Vec<u8>> for SharedBytes {
    fn from(bytes: Vec<u8>) -> Self {
        Self::from_owner(bytes)
    }
}

impl From<&'static [u8]> for SharedBytes {
    fn from(bytes: &'static [u8]) -> Self {
        Self::from_owner(bytes)
    }
}

impl<const N: usize> From<&'static [u8; N]> for SharedBytes {
    fn from(bytes: &'static [u8; N]) -> Self {
        Self::from_owner(bytes.as_slice())
    }
}

impl fmt::Debug for SharedBytes {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "SharedBytes({} bytes)", self.len())
    }
}
