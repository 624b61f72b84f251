//! Type 2 charstrings: the little programs that draw glyphs (Note 5177).

use std::ops::Range;

use super::{CffOutlines, Index};
use crate::base::Limits;
use crate::font::outline::Path;
use crate::font::table::Table;
use crate::font::{FontError, GlyphId, OutlinePoint};

/// Note 5177, appendix B: how deep subroutines may call each other.
const MOST_CALLS: usize = 10;
/// And how many numbers the stack holds.
const STACK: usize = 48;
/// And how many the transient array.
const TRANSIENT: usize = 32;

/// One run of a charstring.
pub(super) struct Interpreter<'a, P> {
    font: &'a CffOutlines,
    cff: Table<'a>,
    glyph: GlyphId,
    limits: &'a Limits,
    path: &'a mut P,
    subrs: Option<Index>,
    stack: [f32; STACK],
    depth: usize,
    transient: [f32; TRANSIENT],
    pen: OutlinePoint,
    /// Hint lines met so far: a mask has a bit for each.
    stems: usize,
    steps: usize,
    /// Where the byte at hand is, for errors.
    at: usize,
}

/// Whether the glyph is finished.
#[derive(PartialEq)]
enum Flow {
    GoOn,
    Done,
}

impl<'a, P: Path> Interpreter<'a, P> {
    pub(super) fn new(
        font: &'a CffOutlines,
        cff: Table<'a>,
        glyph: GlyphId,
        limits: &'a Limits,
        path: &'a mut P,
    ) -> Self {
        Self {
            font,
            cff,
            glyph,
            limits,
            path,
            subrs: None,
            stack: [0.0; STACK],
            depth: 0,
            transient: [0.0; TRANSIENT],
            pen: OutlinePoint::default(),
            stems: 0,
            steps: 0,
            at: 0,
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
        self.subrs = self.font.subrs_of(&self.cff, glyph)?;
        (self.pen, self.depth, self.stems) = (from, 0, 0);
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
        if self.depth == STACK {
            return Err(self.bad("stack", STACK as i64 + 1, "it holds 48 numbers"));
        }
        self.stack[self.depth] = value;
        self.depth += 1;
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
            Ok(number) => index.range(&self.cff, number),
            Err(_) => Err(self.bad("subroutine", number, "the number is too low")),
        }
    }

    /// The last `N` numbers, which an operator takes that clears the stack: the
    /// width of the glyph may stand before them. Empties the stack.
    fn numbers<const N: usize>(&mut self) -> Result<[f32; N], FontError> {
        let Some(numbers) = self.stack[..self.depth].last_chunk::<N>() else {
            let expected = "the operator needs more numbers than there are";
            return Err(self.bad("stack", self.depth as i64, expected));
        };
        self.depth = 0;
        Ok(*numbers)
    }

    /// Counts hint lines: two numbers each, and maybe the width.
    fn take_stems(&mut self) {
        self.stems += self.depth / 2;
        self.depth = 0;
    }

    /// Path and hint operators, which all leave the stack empty.
    fn draw(&mut self, operator: u8) -> Result<(), FontError> {
        match operator {
            1 | 3 | 18 | 23 => {
                self.take_stems();
                return Ok(());
            }
            4 => {
                let [dy] = self.numbers()?;
                self.start(0.0, dy);
                return Ok(());
            }
            21 => {
                let [dx, dy] = self.numbers()?;
                self.start(dx, dy);
                return Ok(());
            }
            22 => {
                let [dx] = self.numbers()?;
                self.start(dx, 0.0);
                return Ok(());
            }
            _ => {}
        }
        let (stack, count) = (self.stack, self.depth);
        let numbers = &stack[..count];
        self.depth = 0;
        match operator {
            5 => self.lines(numbers),
            6 => self.turning_lines(numbers, true),
            7 => self.turning_lines(numbers, false),
            8 => self.curves(numbers),
            24 => {
                let (curves, line) = numbers.split_at(count.saturating_sub(2));
                self.curves(curves)?;
                self.lines(line)
            }
            25 => {
                let (lines, curve) = numbers.split_at(count.saturating_sub(6));
                self.lines(lines)?;
                self.curves(curve)
            }
            26 => self.upright_curves(numbers),
            27 => self.level_curves(numbers),
            30 => self.turning_curves(numbers, false),
            31 => self.turning_curves(numbers, true),
            _ => Err(self.bad("operator", operator.into(), "Type 2 has no such operator")),
        }
    }

    fn start(&mut self, dx: f32, dy: f32) {
        self.pen = moved(self.pen, dx, dy);
        self.path.start(self.pen);
    }

    fn line(&mut self, dx: f32, dy: f32) {
        self.pen = moved(self.pen, dx, dy);
        self.path.line(self.pen);
    }

    fn curve(&mut self, steps: [f32; 6]) {
        let [ax, ay, bx, by, cx, cy] = steps;
        let first = moved(self.pen, ax, ay);
        let second = moved(first, bx, by);
        self.pen = moved(second, cx, cy);
        self.path.cubic(first, second, self.pen);
    }

    /// Refuses a count of numbers that leaves some over.
    fn all_used(&self, left: &[f32]) -> Result<(), FontError> {
        if left.is_empty() {
            return Ok(());
        }
        Err(self.bad(
            "stack",
            left.len() as i64,
            "the operator leaves numbers over",
        ))
    }

    /// rlineto
    fn lines(&mut self, numbers: &[f32]) -> Result<(), FontError> {
        let (pairs, rest) = numbers.as_chunks::<2>();
        for [dx, dy] in pairs {
            self.line(*dx, *dy);
        }
        self.all_used(rest)
    }

    /// hlineto, vlineto
    fn turning_lines(&mut self, numbers: &[f32], mut is_level: bool) -> Result<(), FontError> {
        for &step in numbers {
            if is_level {
                self.line(step, 0.0);
            } else {
                self.line(0.0, step);
            }
            is_level = !is_level;
        }
        Ok(())
    }

    /// rrcurveto
    fn curves(&mut self, numbers: &[f32]) -> Result<(), FontError> {
        let (sixes, rest) = numbers.as_chunks::<6>();
        for steps in sixes {
            self.curve(*steps);
        }
        self.all_used(rest)
    }

    /// vvcurveto: starts and ends upright.
    fn upright_curves(&mut self, numbers: &[f32]) -> Result<(), FontError> {
        let (lead, numbers) = numbers.split_at(numbers.len() % 4 % 2);
        let mut dx = lead.first().copied().unwrap_or(0.0);
        let (fours, rest) = numbers.as_chunks::<4>();
        for [ay, bx, by, cy] in fours {
            self.curve([dx, *ay, *bx, *by, 0.0, *cy]);
            dx = 0.0;
        }
        self.all_used(rest)
    }

    /// hhcurveto: starts and ends level.
    fn level_curves(&mut self, numbers: &[f32]) -> Result<(), FontError> {
        let (lead, numbers) = numbers.split_at(numbers.len() % 4 % 2);
        let mut dy = lead.first().copied().unwrap_or(0.0);
        let (fours, rest) = numbers.as_chunks::<4>();
        for [ax, bx, by, cx] in fours {
            self.curve([*ax, dy, *bx, *by, *cx, 0.0]);
            dy = 0.0;
        }
        self.all_used(rest)
    }

    /// hvcurveto, vhcurveto: starts level and upright in turn; the last one may
    /// say how it ends.
    fn turning_curves(&mut self, numbers: &[f32], mut is_level: bool) -> Result<(), FontError> {
        let (fours, rest) = numbers.as_chunks::<4>();
        let last_step = if let [step] = rest { *step } else { 0.0 };
        for (index, [a, bx, by, c]) in fours.iter().enumerate() {
            let slant = if index + 1 == fours.len() {
                last_step
            } else {
                0.0
            };
            self.curve(if is_level {
                [*a, 0.0, *bx, *by, slant, *c]
            } else {
                [0.0, *a, *bx, *by, *c, slant]
            });
            is_level = !is_level;
        }
        self.all_used(if rest.len() == 1 && !fours.is_empty() {
            &[]
        } else {
            rest
        })
    }

    /// endchar, with the numbers of an accented glyph where there are four
    /// (Note 5177, appendix C: adx ady bchar achar).
    fn end(&mut self, is_part: bool) -> Result<(), FontError> {
        if self.depth < 4 || is_part {
            return Ok(());
        }
        let [dx, dy, base, accent] = self.numbers()?;
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
        self.run_glyph(base, OutlinePoint::default(), true)?;
        self.run_glyph(accent, OutlinePoint::new(dx, dy), true)
            .map(drop)
    }

    /// Two-byte operators: flex and arithmetic (Note 5177, sections 4.1, 4.4
    /// and 4.5).
    fn escape(&mut self, operator: u8) -> Result<(), FontError> {
        if let 34..=37 = operator {
            return self.flex(operator);
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

    /// hflex, flex, hflex1, flex1: two curves, drawn as such.
    fn flex(&mut self, operator: u8) -> Result<(), FontError> {
        let wanted = [7, 13, 9, 11][usize::from(operator - 34)];
        if self.depth < wanted {
            let expected = "flex needs more numbers than there are";
            return Err(self.bad("stack", self.depth as i64, expected));
        }
        let n: [f32; 13] = std::array::from_fn(|index| self.stack[index]);
        self.depth = 0;
        let (first, second) = match operator {
            34 => (
                [n[0], 0.0, n[1], n[2], n[3], 0.0],
                [n[4], 0.0, n[5], -n[2], n[6], 0.0],
            ),
            35 => (
                [n[0], n[1], n[2], n[3], n[4], n[5]],
                [n[6], n[7], n[8], n[9], n[10], n[11]],
            ),
            36 => (
                [n[0], n[1], n[2], n[3], n[4], 0.0],
                [n[5], 0.0, n[6], n[7], n[8], -(n[1] + n[3] + n[7])],
            ),
            _ => {
                let dx = n[0] + n[2] + n[4] + n[6] + n[8];
                let dy = n[1] + n[3] + n[5] + n[7] + n[9];
                let (x, y) = if dx.abs() > dy.abs() {
                    (n[10], -dy)
                } else {
                    (-dx, n[10])
                };
                (
                    [n[0], n[1], n[2], n[3], n[4], n[5]],
                    [n[6], n[7], n[8], n[9], x, y],
                )
            }
        };
        self.curve(first);
        self.curve(second);
        Ok(())
    }
}

fn moved(from: OutlinePoint, dx: f32, dy: f32) -> OutlinePoint {
    OutlinePoint::new(from.x + dx, from.y + dy)
}
