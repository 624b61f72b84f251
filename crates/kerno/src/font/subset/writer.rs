//! Tables put together from numbers and from parts that offsets lead to.

/// A table that is being written.
#[derive(Default)]
pub(super) struct Writer {
    pub(super) bytes: Vec<u8>,
    /// Positions of offsets, and the parts that they lead to.
    parts: Vec<(usize, Vec<u8>)>,
}

impl Writer {
    pub(super) fn word(&mut self, number: u16) {
        self.bytes.extend(number.to_be_bytes());
    }

    pub(super) fn words(&mut self, numbers: impl IntoIterator<Item = u16>) {
        numbers.into_iter().for_each(|number| self.word(number));
    }

    pub(super) fn long(&mut self, number: u32) {
        self.bytes.extend(number.to_be_bytes());
    }

    /// An offset to a part; 0 where there is none.
    pub(super) fn part(&mut self, part: Option<Vec<u8>>) {
        if let Some(part) = part {
            self.parts.push((self.bytes.len(), part));
        }
        self.word(0);
    }

    /// The table with all parts after it, the same ones once; none where one is too far
    /// away.
    pub(super) fn finish(mut self) -> Option<Vec<u8>> {
        let mut known: Vec<(usize, usize)> = Vec::new();
        for (at, part) in &self.parts {
            let is_same = |(start, length): &&(usize, usize)| {
                self.bytes.get(*start..start + length) == Some(part.as_slice())
            };
            let start = match known.iter().rev().take(64).find(is_same) {
                Some((start, _)) => *start,
                None => {
                    let start = self.bytes.len();
                    self.bytes.extend_from_slice(part);
                    known.push((start, part.len()));
                    start
                }
            };
            let offset = u16::try_from(start).ok()?;
            self.bytes[*at..at + 2].copy_from_slice(&offset.to_be_bytes());
        }
        Some(self.bytes)
    }
}

/// A coverage table of glyphs in order (OpenType, “Coverage Table”).
pub(super) fn coverage(glyphs: &[u16]) -> Vec<u8> {
    let ranges: Vec<&[u16]> = glyphs.chunk_by(|a, b| a + 1 == *b).collect();
    let mut table = Writer::default();
    if ranges.len() * 3 < glyphs.len() {
        table.words([2, ranges.len() as u16]);
        let mut index = 0;
        for range in ranges {
            table.words([range[0], range[range.len() - 1], index]);
            index += range.len() as u16;
        }
    } else {
        table.words([1, glyphs.len() as u16]);
        table.words(glyphs.iter().copied());
    }
    table.bytes
}

/// A class definition table of glyphs in order (“Class Definition Table”); those of class 0
/// need not be in it.
pub(super) fn classes(glyphs: &[(u16, u16)]) -> Vec<u8> {
    let ranges: Vec<&[(u16, u16)]> = glyphs
        .chunk_by(|a, b| a.0 + 1 == b.0 && a.1 == b.1)
        .filter(|range| range[0].1 != 0)
        .collect();
    let mut table = Writer::default();
    table.words([2, ranges.len() as u16]);
    for range in ranges {
        table.words([range[0].0, range[range.len() - 1].0, range[0].1]);
    }
    table.bytes
}
