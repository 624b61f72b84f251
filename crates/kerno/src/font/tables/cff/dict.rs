//! DICT data: operators with numbers before them (Note 5176, section 4).

use std::ops::Range;

use crate::font::table::Table;
use crate::font::{FontError, TableFault};

/// Operators that we ask for; two-byte ones are 0x0c00 and their second byte.
pub(super) mod operator {
    pub(in super::super) const CHARSET: u16 = 15;
    pub(in super::super) const CHAR_STRINGS: u16 = 17;
    pub(in super::super) const PRIVATE: u16 = 18;
    pub(in super::super) const SUBRS: u16 = 19;
    /// CFF2: which variation data the charstrings begin with.
    pub(in super::super) const VARIATION_INDEX: u16 = 22;
    /// CFF2: where the variation store is.
    pub(in super::super) const VARIATION_STORE: u16 = 24;
    pub(in super::super) const CHARSTRING_TYPE: u16 = 0x0c06;
    /// CID-keyed: registry, ordering, supplement.
    pub(in super::super) const ROS: u16 = 0x0c1e;
    pub(in super::super) const FD_ARRAY: u16 = 0x0c24;
    pub(in super::super) const FD_SELECT: u16 = 0x0c25;
}

/// A DICT in the table, read anew for every question: they are short.
pub(super) struct Dict<'a> {
    cff: &'a Table<'a>,
    range: Range<usize>,
}

enum Token {
    Operator(u16),
    Operand(i32),
}

impl<'a> Dict<'a> {
    pub(super) fn new(cff: &'a Table<'a>, range: Range<usize>) -> Self {
        Self { cff, range }
    }

    /// The last two operands of an operator; `None` where it is not there.
    fn operands(&self, wanted: u16) -> Result<Option<[i32; 2]>, FontError> {
        let mut at = self.range.start;
        let mut last = [0, 0];
        while at < self.range.end {
            let (token, end) = self.token(at)?;
            at = end;
            match token {
                Token::Operator(operator) if operator == wanted => return Ok(Some(last)),
                Token::Operator(_) => last = [0, 0],
                Token::Operand(number) => last = [last[1], number],
            }
        }
        Ok(None)
    }

    /// All operators in their order, each with the bytes of its operands and its own.
    pub(super) fn entries(&self) -> Result<Vec<(u16, Range<usize>)>, FontError> {
        let mut entries = Vec::new();
        let (mut start, mut at) = (self.range.start, self.range.start);
        while at < self.range.end {
            let (token, end) = self.token(at)?;
            at = end;
            if let Token::Operator(operator) = token {
                entries.push((operator, start..at));
                start = at;
            }
        }
        Ok(entries)
    }

    /// The operator or operand at a place, and where it ends.
    fn token(&self, at: usize) -> Result<(Token, usize), FontError> {
        let first = self.cff.u8(at)?;
        Ok(match first {
            12 => {
                let second = u16::from(self.cff.u8(at + 1)?);
                (Token::Operator(0x0c00 | second), at + 2)
            }
            0..=24 => (Token::Operator(first.into()), at + 1),
            _ => {
                let (number, length) = self.operand(first, at + 1)?;
                (Token::Operand(number), at + 1 + length)
            }
        })
    }

    /// An operand that begins with `first`, and how many bytes follow that one.
    fn operand(&self, first: u8, at: usize) -> Result<(i32, usize), FontError> {
        let second = || self.cff.u8(at).map(i32::from);
        let high = i32::from(first);
        Ok(match first {
            32..=246 => (high - 139, 0),
            247..=250 => ((high - 247) * 256 + second()? + 108, 1),
            251..=254 => (-(high - 251) * 256 - second()? - 108, 1),
            28 => (i32::from(self.cff.i16(at)?), 2),
            29 => (self.cff.u32(at)? as i32, 4),
            30 => (0, self.real_length(at)?),
            _ => {
                let expected = "it is no operand of a DICT";
                return Err(self.cff.bad(at - 1, "byte", high.into(), expected));
            }
        })
    }

    /// The length of a real number: none of the numbers asked for is one, so it is
    /// passed over. It ends with a nibble of 15.
    fn real_length(&self, at: usize) -> Result<usize, FontError> {
        let rest = self.cff.slice(at, self.range.end.saturating_sub(at))?;
        rest.iter()
            .position(|byte| byte & 0x0f == 0x0f || byte >> 4 == 0x0f)
            .map(|place| place + 1)
            .ok_or_else(|| self.cff.error(at, TableFault::Truncated))
    }

    pub(super) fn number(&self, wanted: u16) -> Result<Option<i32>, FontError> {
        Ok(self.operands(wanted)?.map(|[_, number]| number))
    }

    /// An operand that is a place in the table.
    pub(super) fn offset(&self, wanted: u16) -> Result<Option<usize>, FontError> {
        let Some(number) = self.number(wanted)? else {
            return Ok(None);
        };
        match usize::try_from(number) {
            Ok(offset) => Ok(Some(offset)),
            Err(_) => {
                let expected = "an offset can't be negative";
                Err(self
                    .cff
                    .bad(self.range.start, "offset", number.into(), expected))
            }
        }
    }

    /// Size and place of the Private DICT.
    pub(super) fn private(&self) -> Result<Option<(usize, usize)>, FontError> {
        let Some([size, offset]) = self.operands(operator::PRIVATE)? else {
            return Ok(None);
        };
        match (usize::try_from(size), usize::try_from(offset)) {
            (Ok(size), Ok(offset)) => {
                self.cff.slice(offset, size)?;
                Ok(Some((size, offset)))
            }
            _ => {
                let expected = "size and offset can't be negative";
                Err(self
                    .cff
                    .bad(self.range.start, "Private", size.into(), expected))
            }
        }
    }
}
