//! The path operators of Type 2 charstrings (Note 5177, sections 4.1, 4.2 and
//! 4.5): numbers in, lines and curves out.

use crate::outline::{Contours, OutlinePoint};

/// The contours that are drawn, and the position of the pen.
pub(super) struct Drawing<'a> {
    into: &'a mut Contours,
    pub(super) pen: OutlinePoint,
}

/// Why an operator can't draw its numbers: a wrong value of what, and why.
pub(super) struct Misuse {
    pub(super) what: &'static str,
    pub(super) value: i64,
    pub(super) expected: &'static str,
}

impl Misuse {
    fn of_stack(count: usize, expected: &'static str) -> Self {
        Self {
            what: "stack",
            value: count as i64,
            expected,
        }
    }
}

/// The last `N` numbers, which an operator takes that clears the stack: the
/// width of the glyph may stand before them.
pub(super) fn last<const N: usize>(numbers: &[f32]) -> Result<[f32; N], Misuse> {
    numbers.last_chunk::<N>().copied().ok_or_else(|| {
        Misuse::of_stack(
            numbers.len(),
            "the operator needs more numbers than there are",
        )
    })
}

/// Refuses a count of numbers that leaves some over.
fn all_used(left: &[f32]) -> Result<(), Misuse> {
    if left.is_empty() {
        return Ok(());
    }
    Err(Misuse::of_stack(
        left.len(),
        "the operator leaves numbers over",
    ))
}

impl<'a> Drawing<'a> {
    pub(super) fn new(into: &'a mut Contours) -> Self {
        Self {
            into,
            pen: OutlinePoint::default(),
        }
    }

    /// Runs a path operator of one byte.
    pub(super) fn draw(&mut self, operator: u8, numbers: &[f32]) -> Result<(), Misuse> {
        let count = numbers.len();
        match operator {
            4 => {
                let [dy] = last(numbers)?;
                self.start(0.0, dy);
                Ok(())
            }
            21 => {
                let [dx, dy] = last(numbers)?;
                self.start(dx, dy);
                Ok(())
            }
            22 => {
                let [dx] = last(numbers)?;
                self.start(dx, 0.0);
                Ok(())
            }
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
            _ => Err(Misuse {
                what: "operator",
                value: operator.into(),
                expected: "Type 2 has no such operator",
            }),
        }
    }

    fn start(&mut self, dx: f32, dy: f32) {
        self.pen = moved(self.pen, dx, dy);
        self.into.start(self.pen);
    }

    fn line(&mut self, dx: f32, dy: f32) {
        self.pen = moved(self.pen, dx, dy);
        self.into.line(self.pen);
    }

    fn curve(&mut self, steps: [f32; 6]) {
        let [ax, ay, bx, by, cx, cy] = steps;
        let first = moved(self.pen, ax, ay);
        let second = moved(first, bx, by);
        self.pen = moved(second, cx, cy);
        self.into.cubic(first, second, self.pen);
    }

    /// rlineto
    fn lines(&mut self, numbers: &[f32]) -> Result<(), Misuse> {
        let (pairs, rest) = numbers.as_chunks::<2>();
        for [dx, dy] in pairs {
            self.line(*dx, *dy);
        }
        all_used(rest)
    }

    /// hlineto, vlineto
    fn turning_lines(&mut self, numbers: &[f32], mut is_level: bool) -> Result<(), Misuse> {
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
    fn curves(&mut self, numbers: &[f32]) -> Result<(), Misuse> {
        let (sixes, rest) = numbers.as_chunks::<6>();
        for steps in sixes {
            self.curve(*steps);
        }
        all_used(rest)
    }

    /// vvcurveto: starts and ends upright.
    fn upright_curves(&mut self, numbers: &[f32]) -> Result<(), Misuse> {
        let (lead, numbers) = numbers.split_at(numbers.len() % 4 % 2);
        let mut dx = lead.first().copied().unwrap_or(0.0);
        let (fours, rest) = numbers.as_chunks::<4>();
        for [ay, bx, by, cy] in fours {
            self.curve([dx, *ay, *bx, *by, 0.0, *cy]);
            dx = 0.0;
        }
        all_used(rest)
    }

    /// hhcurveto: starts and ends level.
    fn level_curves(&mut self, numbers: &[f32]) -> Result<(), Misuse> {
        let (lead, numbers) = numbers.split_at(numbers.len() % 4 % 2);
        let mut dy = lead.first().copied().unwrap_or(0.0);
        let (fours, rest) = numbers.as_chunks::<4>();
        for [ax, bx, by, cx] in fours {
            self.curve([*ax, dy, *bx, *by, *cx, 0.0]);
            dy = 0.0;
        }
        all_used(rest)
    }

    /// hvcurveto, vhcurveto: starts level and upright in turn; the last one may
    /// say how it ends.
    fn turning_curves(&mut self, numbers: &[f32], mut is_level: bool) -> Result<(), Misuse> {
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
        all_used(if rest.len() == 1 && !fours.is_empty() {
            &[]
        } else {
            rest
        })
    }

    /// hflex, flex, hflex1, flex1: two curves, drawn as such.
    pub(super) fn flex(&mut self, operator: u8, numbers: &[f32]) -> Result<(), Misuse> {
        let wanted = [7, 13, 9, 11][usize::from(operator - 34)];
        if numbers.len() < wanted {
            let expected = "flex needs more numbers than there are";
            return Err(Misuse::of_stack(numbers.len(), expected));
        }
        let n: [f32; 13] =
            std::array::from_fn(|index| numbers.get(index).copied().unwrap_or_default());
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
