//! Streams of numbers (sections 4.1 and 6.1).

use crate::font::FontError;
use crate::font::table::Table;

/// Bytes that are read one after another.
#[derive(Clone, Copy)]
pub(super) struct Stream<'a> {
    table: Table<'a>,
    at: usize,
}

impl<'a> Stream<'a> {
    pub(super) fn new(table: Table<'a>) -> Self {
        Self { table, at: 0 }
    }

    /// The next stream of a number of bytes.
    pub(super) fn part(&mut self, length: usize) -> Result<Self, FontError> {
        let whole = self.table.from(self.at)?;
        whole.slice(0, length)?;
        self.at += length;
        Ok(Self::new(whole.cut(length)))
    }

    pub(super) fn position(&self) -> usize {
        self.at
    }

    pub(super) fn u8(&mut self) -> Result<u8, FontError> {
        let value = self.table.u8(self.at)?;
        self.at += 1;
        Ok(value)
    }

    pub(super) fn u16(&mut self) -> Result<u16, FontError> {
        let value = self.table.u16(self.at)?;
        self.at += 2;
        Ok(value)
    }

    pub(super) fn u32(&mut self) -> Result<u32, FontError> {
        let value = self.table.u32(self.at)?;
        self.at += 4;
        Ok(value)
    }

    pub(super) fn bytes(&mut self, length: usize) -> Result<&'a [u8], FontError> {
        let bytes = self.table.slice(self.at, length)?;
        self.at += length;
        Ok(bytes)
    }

    /// A `255UInt16`: small numbers take a byte.
    pub(super) fn short(&mut self) -> Result<u16, FontError> {
        match self.u8()? {
            253 => self.u16(),
            255 => Ok(u16::from(self.u8()?) + 253),
            254 => Ok(u16::from(self.u8()?) + 506),
            code => Ok(code.into()),
        }
    }

    /// A `UIntBase128`: seven bits a byte.
    pub(super) fn long(&mut self) -> Result<u32, FontError> {
        let start = self.at;
        let mut number = 0_u32;
        for index in 0..5 {
            let byte = self.u8()?;
            if (index == 0 && byte == 0x80) || number >> 25 != 0 {
                break;
            }
            number = number << 7 | u32::from(byte & 0x7f);
            if byte & 0x80 == 0 {
                return Ok(number);
            }
        }
        let expected = "it is no number in base 128";
        Err(self.table.bad(start, "UIntBase128", 0, expected))
    }

    /// A fault at the byte that was read last.
    pub(super) fn bad(&self, field: &'static str, value: i64, expected: &'static str) -> FontError {
        self.table
            .bad(self.at.saturating_sub(1), field, value, expected)
    }
}
