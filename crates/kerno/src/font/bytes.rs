//! The bytes of a font file, wherever they live.

use std::fmt;
use std::ops::Deref;
use std::sync::Arc;

/// The bytes of a font file, shared and never copied: a `Vec<u8>`, a `static`
/// slice from `include_bytes!`, a memory map, whatever the caller has.
#[derive(Clone)]
pub struct FontBytes(Arc<dyn AsRef<[u8]> + Send + Sync>);

impl FontBytes {
    /// Takes any owner of bytes; they must stay the same as long as it lives.
    pub fn from_owner(owner: impl AsRef<[u8]> + Send + Sync + 'static) -> Self {
        Self(Arc::new(owner))
    }
}

impl Deref for FontBytes {
    type Target = [u8];
    fn deref(&self) -> &[u8] {
        (*self.0).as_ref()
    }
}

impl From<Vec<u8>> for FontBytes {
    fn from(bytes: Vec<u8>) -> Self {
        Self::from_owner(bytes)
    }
}

impl From<&'static [u8]> for FontBytes {
    fn from(bytes: &'static [u8]) -> Self {
        Self::from_owner(bytes)
    }
}

impl<const N: usize> From<&'static [u8; N]> for FontBytes {
    fn from(bytes: &'static [u8; N]) -> Self {
        Self::from_owner(bytes.as_slice())
    }
}

impl fmt::Debug for FontBytes {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "FontBytes({} bytes)", self.len())
    }
}
