//! A table's bytes that know their name: every read is checked, every error
//! says where it happened.

use std::fmt;

use super::{FontError, TableFault};

/// The four-byte name of a font table, script or feature.
#[derive(Clone, Copy, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Tag(pub [u8; 4]);

impl Tag {
    /// The tag spelled by four bytes, e.g. `Tag::new(b"glyf")`.
    pub const fn new(name: &[u8; 4]) -> Self {
        Self(*name)
    }

    /// The tag of a name of one to four ASCII characters; spaces fill it up.
    pub fn from_name(name: &str) -> Option<Self> {
        let is_tag = (1..=4).contains(&name.len()) && name.is_ascii();
        let mut bytes = *b"    ";
        bytes
            .get_mut(..name.len())
            .filter(|_| is_tag)?
            .copy_from_slice(name.as_bytes());
        Some(Self(bytes))
    }
}

impl fmt::Display for Tag {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for &byte in &self.0 {
            match byte {
                b' '..=b'~' => write!(f, "{}", char::from(byte))?,
                _ => write!(f, "\\x{byte:02x}")?,
            }
        }
        Ok(())
    }
}

impl fmt::Debug for Tag {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "Tag('{self}')")
    }
}

/// A table, or a part of one from some byte on; all numbers big-endian.
#[derive(Clone, Copy)]
pub(crate) struct Table<'a> {
    tag: Tag,
    /// The offset of `bytes` in the whole table; only errors need it.
    start: usize,
    bytes: &'a [u8],
}

impl<'a> Table<'a> {
    pub(super) fn new(tag: Tag, bytes: &'a [u8]) -> Self {
        Self {
            tag,
            start: 0,
            bytes,
        }
    }

    pub(super) fn bytes(&self) -> &'a [u8] {
        self.bytes
    }

    pub(super) fn len(&self) -> usize {
        self.bytes.len()
    }

    /// The offset of this part in the whole table.
    pub(super) fn start(&self) -> usize {
        self.start
    }

    /// An error at byte `at` of this part.
    #[cold]
    pub(super) fn error(&self, at: usize, fault: TableFault) -> FontError {
        FontError::Table {
            table: self.tag,
            offset: self.start.saturating_add(at),
            fault,
        }
    }

    /// A field that holds what it may not.
    #[cold]
    pub(super) fn bad(
        &self,
        at: usize,
        field: &'static str,
        value: i64,
        expected: &'static str,
    ) -> FontError {
        let fault = TableFault::BadValue {
            field,
            value,
            expected,
        };
        self.error(at, fault)
    }

    fn array<const N: usize>(&self, at: usize) -> Result<[u8; N], FontError> {
        self.bytes
            .get(at..)
            .and_then(|rest| rest.first_chunk::<N>())
            .copied()
            .ok_or_else(|| self.error(at, TableFault::Truncated))
    }

    pub(super) fn u8(&self, at: usize) -> Result<u8, FontError> {
        self.array::<1>(at).map(|[byte]| byte)
    }

    pub(crate) fn u16(&self, at: usize) -> Result<u16, FontError> {
        self.array(at).map(u16::from_be_bytes)
    }

    pub(super) fn i16(&self, at: usize) -> Result<i16, FontError> {
        self.array(at).map(i16::from_be_bytes)
    }

    pub(super) fn u32(&self, at: usize) -> Result<u32, FontError> {
        self.array(at).map(u32::from_be_bytes)
    }

    pub(super) fn tag(&self, at: usize) -> Result<Tag, FontError> {
        self.array(at).map(Tag)
    }

    /// `length` bytes from `at`.
    pub(super) fn slice(&self, at: usize, length: usize) -> Result<&'a [u8], FontError> {
        at.checked_add(length)
            .and_then(|end| self.bytes.get(at..end))
            .ok_or_else(|| self.error(at, TableFault::Truncated))
    }

    /// The first bytes of it; all where there are fewer.
    pub(super) fn cut(self, length: usize) -> Self {
        Self {
            bytes: &self.bytes[..length.min(self.bytes.len())],
            ..self
        }
    }

    /// The part from byte `at` on.
    pub(super) fn from(&self, at: usize) -> Result<Self, FontError> {
        match self.bytes.get(at..) {
            Some(bytes) => Ok(Self {
                tag: self.tag,
                start: self.start + at,
                bytes,
            }),
            None => Err(self.error(at, TableFault::Truncated)),
        }
    }
}

/// A 16-bit number of a subtable that was checked once and is searched often: no
/// error is made for what turns out to be missing.
pub(super) fn word(bytes: &[u8], at: usize) -> Option<u16> {
    let bytes = bytes.get(at..)?.first_chunk::<2>()?;
    Some(u16::from_be_bytes(*bytes))
}

/// A 32-bit number, likewise.
pub(super) fn long(bytes: &[u8], at: usize) -> Option<u32> {
    let bytes = bytes.get(at..)?.first_chunk::<4>()?;
    Some(u32::from_be_bytes(*bytes))
}
