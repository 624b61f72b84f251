//! Type 2 charstrings: the little programs that draw glyphs (Note 5177).

use std::ops::Range;

use super::CffOutlines;
use super::cutting::Used;
use super::drawing::{Drawing, Misuse, last};
use super::index::Index;
use crate::base::Limits;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId};
use crate::outline::{Contours, OutlinePoint};

/// Note 5177, appendix B: how deep subroutines may call each other.
const MOST_CALLS: usize = 10;
/// And how many numbers the stack holds.
const STACK: usize = 48;
/// As many in version 2 (OpenType `CFF2`, its charstrings).
const STACK_2: usize = 513;
/// And how many the transient array.
const TRANSIENT: usize = 32;

/// One run of a charstring.
pub(super) struct Interpreter<'a> {
    font: &'a CffOutlines,
    cff: Table<'a>,
    glyph: GlyphId,
    limits: &'a Limits,
    drawing: Drawing<'a>,
    subrs: Option<Index>,
    stack: [f32; STACK_2],
    depth: usize,
    transient: [f32; TRANSIENT],
    /// Hint lines met so far: a mask has a bit for each.
    stems: usize,
    steps: usize,
    blend: Blend,
    /// The place of the byte at hand, for errors.
    at: usize,
    /// Where it is noted what is used.
    used: Option<&'a mut Used>,
}

/// The scalar of each region of the variation data in use. There can't be
/// more regions than the stack has room for deltas.
struct Blend {
    index: usize,
    scales: [f32; STACK_2],
    /// The number of them that are known; `None` before the first question.
    count: Option<usize>,
}

impl Default for Blend {
    fn default() -> Self {
        Self {
            index: 0,
            scales: [0.0; STACK_2],
            count: None,
        }
    }
}

impl Blend {
    /// Takes other variation data (`vsindex`).
    fn choose(&mut self, index: usize) {
        self.index = index;
        self.count = None;
    }

    fn scales(&mut self, font: &CffOutlines, cff: &Table<'_>) -> Result<&[f32], FontError> {
        let count = match (self.count, &font.variations) {
            (Some(count), _) => count,
            (None, Some(store)) => store.scales(cff, self.index, &mut self.scales)?,
            (None, None) => 0,
        };
        self.count = Some(count);
        Ok(&self.scales[..count])
    }
}

/// True if the glyph is finished.
#[derive(PartialEq)]
enum Flow {
    GoOn,
    Done,
}

impl<'a> Interpreter<'a> {
    pub(super) fn new(
        font: &'a CffOutlines,
        cff: Table<'a>,
        glyph: GlyphId,
        limits: &'a Limits,
        into: &'a mut Contours,
    ) -> Self {
        Self {
            font,
            cff,
            glyph,
            limits,
            drawing: Drawing::new(into),
            subrs: None,
            stack: [0.0; STACK_2],
            depth: 0,
            transient: [0.0; TRANSIENT],
            stems: 0,
            steps: 0,
            blend: Blend::default(),
            at: 0,
            used: None,
        }
    }

    /// Notes what the charstring uses.
    pub(super) fn noting(self, used: &'a mut Used) -> Self {
        Self {
            used: Some(used),
            ..self
        }
    }

    pub(super) fn run(mut self) -> Result<(), FontError> {
        let glyph = self.glyph;
        self.run_glyph(glyph, OutlinePoint::default(), false)
            .map(drop)
    }

    /// Runs the charstring of a glyph from a place; `is_part` where it is half
    /// of an accented one, which can't be accented itself.
    fn run_glyph(
        &mut self,
        glyph: GlyphId,
        from: OutlinePoint,
        is_part: bool,
    ) -> Result<Flow, FontError> {
        let private = self.font.private_of(&self.cff, glyph)?;
        self.subrs = private.subrs;
        self.blend.choose(private.variation_index);
        (self.drawing.pen, self.depth, self.stems) = (from, 0, 0);
        let range = self
            .font
            .charstrings
            .range(&self.cff, usize::from(glyph.0))?;
        self.execute(range, 0, is_part)
    }

    fn bad(&self, what: &'static str, value: i64, expected: &'static str) -> FontError {
        self.cff.bad(self.at, what, value, expected)
    }

    fn byte(&mut self, at: &mut usize) -> Result<u8, FontError> {
        let byte = self.cff.u8(*at)?;
        *at += 1;
        Ok(byte)
    }

    fn execute(
        &mut self,
        code: Range<usize>,
        calls: usize,
        is_part: bool,
    ) -> Result<Flow, FontError> {
        if calls > MOST_CALLS {
            return Err(self.bad("subroutine depth", calls as i64, "at most 10 may nest"));
        }
        let mut at = code.start;
        while at < code.end {
            self.at = at;
            self.steps += 1;
            if self.steps > self.limits.charstring_steps {
                return Err(FontError::Limit {
                    glyph: self.glyph,
                    what: "charstring steps",
                    limit: self.limits.charstring_steps,
                });
            }
            let operator = self.byte(&mut at)?;
            match operator {
                28 | 32..=255 => self.number(operator, &mut at)?,
                10 | 29 => {
                    let range = self.subroutine(operator == 29)?;
                    if self.execute(range, calls + 1, is_part)? == Flow::Done {
                        return Ok(Flow::Done);
                    }
                }
                11 => return Ok(Flow::GoOn),
                14 => {
                    self.end(is_part)?;
                    return Ok(Flow::Done);
                }
                15 if self.font.version == 2 => {
                    let index = self.pop()?;
                    self.blend.choose(index as usize);
                }
                16 if self.font.version == 2 => self.blend()?,
                19 | 20 => {
                    self.take_stems();
                    at += self.stems.div_ceil(8);
                }
                12 => {
                    let second = self.byte(&mut at)?;
                    self.escape(second)?;
                }
                _ => self.draw(operator)?,
            }
        }
        Ok(Flow::GoOn)
    }

    /// Pushes a number (Note 5177, section 3.2).
    fn number(&mut self, first: u8, at: &mut usize) -> Result<(), FontError> {
        let high = f32::from(first);
        let value = match first {
            32..=246 => high - 139.0,
            247..=250 => (high - 247.0) * 256.0 + f32::from(self.byte(at)?) + 108.0,
            251..=254 => -(high - 251.0) * 256.0 - f32::from(self.byte(at)?) - 108.0,
            28 => {
                *at += 2;
                f32::from(self.cff.i16(*at - 2)?)
            }
            _ => {
                *at += 4;
                self.cff.u32(*at - 4)? as i32 as f32 / 65536.0
            }
        };
        self.push(value)
    }

    fn push(&mut self, value: f32) -> Result<(), FontError> {
        let (most, expected) = match self.font.version {
            1 => (STACK, "it holds 48 numbers"),
            _ => (STACK_2, "it holds 513 numbers"),
        };
        if self.depth == most {
            return Err(self.bad("stack", most as i64 + 1, expected));
        }
        self.stack[self.depth] = value;
        self.depth += 1;
        Ok(())
    }

    /// Replaces numbers and their deltas by the numbers as they are here (OpenType
    /// `CFF2`, “blend”).
    fn blend(&mut self) -> Result<(), FontError> {
        let count = self.pop()?.max(0.0) as usize;
        let scales = self.blend.scales(self.font, &self.cff)?;
        let Some(start) = self.depth.checked_sub(count * (scales.len() + 1)) else {
            let expected = "the operator needs more numbers than there are";
            return Err(self.bad("stack", self.depth as i64, expected));
        };
        let (numbers, deltas) = self.stack[start..self.depth].split_at_mut(count);
        if !scales.is_empty() {
            for (number, deltas) in numbers.iter_mut().zip(deltas.chunks_exact(scales.len())) {
                let moves = deltas
                    .iter()
                    .zip(scales)
                    .map(|(delta, scale)| delta * scale);
                *number += moves.sum::<f32>();
            }
        }
        self.depth = start + count;
        Ok(())
    }

    fn pop(&mut self) -> Result<f32, FontError> {
        if self.depth == 0 {
            return Err(self.bad("stack", 0, "the operator needs more numbers than there are"));
        }
        self.depth -= 1;
        Ok(self.stack[self.depth])
    }

    /// The subroutine whose number is on the stack, moved by the bias.
    fn subroutine(&mut self, is_global: bool) -> Result<Range<usize>, FontError> {
        let number = self.pop()? as i64;
        let index = if is_global {
            Some(self.font.global_subrs)
        } else {
            self.subrs
        };
        let Some(index) = index else {
            return Err(self.bad("subroutine", number, "the font has no local subroutines"));
        };
        let bias = match index.count {
            0..1240 => 107,
            1240..33900 => 1131,
            _ => 32768,
        };
        match usize::try_from(number + bias) {
            Ok(number) => {
                if let Some(used) = &mut self.used {
                    used.call(self.subrs.as_ref().filter(|_| !is_global), number);
                }
                index.range(&self.cff, number)
            }
            Err(_) => Err(self.bad("subroutine", number, "the number is too low")),
        }
    }

    /// Counts hint lines: two numbers each, and maybe the width.
    fn take_stems(&mut self) {
        self.stems += self.depth / 2;
        self.depth = 0;
    }

    /// Path and hint operators, which all leave the stack empty.
    fn draw(&mut self, operator: u8) -> Result<(), FontError> {
        if let 1 | 3 | 18 | 23 = operator {
            self.take_stems();
            return Ok(());
        }
        let numbers = &self.stack[..self.depth];
        let drawn = self.drawing.draw(operator, numbers);
        self.depth = 0;
        drawn.map_err(|misuse| self.misused(misuse))
    }

    fn misused(&self, misuse: Misuse) -> FontError {
        self.bad(misuse.what, misuse.value, misuse.expected)
    }

    /// endchar, with the numbers of an accented glyph where there are four
    /// (Note 5177, appendix C: adx ady bchar achar).
    fn end(&mut self, is_part: bool) -> Result<(), FontError> {
        if self.depth < 4 || is_part {
            return Ok(());
        }
        let [dx, dy, base, accent] =
            last(&self.stack[..self.depth]).map_err(|misuse| self.misused(misuse))?;
        let part = |code: f32| {
            let glyphs = self.font.charstrings.count;
            self.font
                .charset
                .standard_glyph(&self.cff, glyphs, code as u8)
        };
        let (Some(base), Some(accent)) = (part(base)?, part(accent)?) else {
            let expected = "the font lacks this base of the standard encoding, or its accent";
            return Err(self.bad("accented glyph", base as i64, expected));
        };
        if let Some(used) = &mut self.used {
            used.parts.extend([base, accent]);
        }
        self.run_glyph(base, OutlinePoint::default(), true)?;
        self.run_glyph(accent, OutlinePoint::new(dx, dy), true)
            .map(drop)
    }

    /// Two-byte operators: flex and arithmetic (Note 5177, sections 4.1, 4.4
    /// and 4.5).
    fn escape(&mut self, operator: u8) -> Result<(), FontError> {
        if let 34..=37 = operator {
            let drawn = self.drawing.flex(operator, &self.stack[..self.depth]);
            self.depth = 0;
            return drawn.map_err(|misuse| self.misused(misuse));
        }
        let flag = |is_true: bool| f32::from(u8::from(is_true));
        let value = match operator {
            // dotsection: deprecated, a hint.
            0 => {
                self.depth = 0;
                return Ok(());
            }
            3 => self.two(|a, b| flag(a != 0.0 && b != 0.0))?,
            4 => self.two(|a, b| flag(a != 0.0 || b != 0.0))?,
            5 => flag(self.pop()? == 0.0),
            9 => self.pop()?.abs(),
            10 => self.two(|a, b| a + b)?,
            11 => self.two(|a, b| a - b)?,
            12 => self.two(|a, b| if b == 0.0 { 0.0 } else { a / b })?,
            14 => -self.pop()?,
            15 => self.two(|a, b| flag(a == b))?,
            18 => return self.pop().map(drop),
            20 => {
                let slot = self.transient_slot()?;
                self.transient[slot] = self.pop()?;
                return Ok(());
            }
            21 => self.transient[self.transient_slot()?],
            22 => {
                let (v2, v1) = (self.pop()?, self.pop()?);
                self.two(|s1, s2| if v1 <= v2 { s1 } else { s2 })?
            }
            // random: any number above 0 and up to 1; the same input has to
            // give the same picture.
            23 => 1.0,
            24 => self.two(|a, b| a * b)?,
            26 => self.pop()?.max(0.0).sqrt(),
            27 => {
                let top = self.pop()?;
                self.push(top)?;
                top
            }
            28 => {
                let (b, a) = (self.pop()?, self.pop()?);
                self.push(b)?;
                a
            }
            29 => {
                let down = self.pop()?.max(0.0) as usize;
                let place = self.depth.checked_sub(down + 1);
                match place {
                    Some(place) => self.stack[place],
                    None => return Err(self.bad("index", down as i64, "the stack is not as deep")),
                }
            }
            30 => return self.roll(),
            _ => {
                let expected = "Type 2 has no such two-byte operator";
                return Err(self.bad("operator 12", operator.into(), expected));
            }
        };
        self.push(value)
    }

    fn two(&mut self, combine: impl Fn(f32, f32) -> f32) -> Result<f32, FontError> {
        let (b, a) = (self.pop()?, self.pop()?);
        Ok(combine(a, b))
    }

    fn transient_slot(&mut self) -> Result<usize, FontError> {
        let number = self.pop()?;
        if (0.0..TRANSIENT as f32).contains(&number) {
            return Ok(number as usize);
        }
        Err(self.bad("transient array", number as i64, "it has places 0 to 31"))
    }

    fn roll(&mut self) -> Result<(), FontError> {
        let (by, count) = (self.pop()? as i64, self.pop()? as i64);
        let start = usize::try_from(count)
            .ok()
            .and_then(|count| self.depth.checked_sub(count))
            .ok_or_else(|| self.bad("roll", count, "the stack is not as deep"))?;
        if count > 0 {
            self.stack[start..self.depth].rotate_right(by.rem_euclid(count) as usize);
        }
        Ok(())
    }
}
