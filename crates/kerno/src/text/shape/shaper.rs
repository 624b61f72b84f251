//! Runs of text, shaped.

use super::super::analysis::unicode::{is_ignorable, is_line_break, is_mark};
use super::super::ink::Ink;
use super::super::{Cluster, PlacedGlyph, Style};
use super::characters::Characters;
use super::characters::joined_around;
use super::plain::Letters;
use super::{characters, features, marks, presented, stand_ins, stretch};
use crate::font::{
    Attachment, ChosenLookups, Face, FontError, GlyphId, GlyphRow, RowGlyph, TextKind,
};
use icu_properties::props::Script;
use std::ops::Range;

/// Text of one style, face, script and direction.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::text) struct Run {
    pub(in crate::text) clusters: Range<usize>,
    /// Start and end of its bytes in the text.
    pub(in crate::text) start: u32,
    pub(in crate::text) end: u32,
    pub(in crate::text) span: u32,
    /// 0 for the style's face, else one of its fallbacks, from 1.
    pub(in crate::text) face: u16,
    pub(in crate::text) script: Script,
    /// Bidirectional embedding level (UAX #9).
    pub(in crate::text) level: u8,
}

impl Run {
    pub(in crate::text) fn is_rtl(&self) -> bool {
        self.level % 2 == 1
    }
}

/// A glyph of a run, in design pixels.
#[derive(Clone, Copy, Debug)]
pub(in crate::text) struct Shaped {
    /// As it is placed, but from the pen and the baseline.
    pub(in crate::text) placed: PlacedGlyph,
    /// The last cluster that it stands for.
    pub(in crate::text) last_cluster: u32,
    /// Its ink from there: see [`Ink`].
    pub(in crate::text) ink: [f32; 4],
    /// The position of the pen among those of the text ([`LineMeasures::pens`]): before it,
    /// in a run from right to left after it.
    ///
    /// [`LineMeasures::pens`]: super::super::measure::lines::LineMeasures::pens
    pub(in crate::text) pen: f64,
    /// The distance the pen moves, in font units.
    pub(in crate::text) advance: i32,
    /// True if a line that breaks before it has to be shaped anew.
    pub(in crate::text) is_tied: bool,
    /// True if it stands on another one.
    pub(in crate::text) is_attached: bool,
}

/// Glyphs of runs, one after another, in reading order.
#[derive(Clone, Debug, Default)]
pub(in crate::text) struct ShapedGlyphs {
    pub(in crate::text) list: Vec<Shaped>,
    /// Attachments to other glyphs, by the place of the attached glyph in the list.
    pub(in crate::text) attachments: Vec<(usize, Attachment)>,
}

impl ShapedGlyphs {
    /// Those of no text.
    pub(in crate::text) const NOTHING: Self = Self {
        list: Vec::new(),
        attachments: Vec::new(),
    };

    pub(in crate::text) fn clear(&mut self) {
        self.list.clear();
        self.attachments.clear();
    }

    /// The attachments of glyphs of a part of the list, by their place in the part.
    pub(in crate::text) fn attachments_in(
        &self,
        range: Range<usize>,
    ) -> impl Iterator<Item = (usize, Attachment)> {
        let first = self
            .attachments
            .partition_point(|(at, _)| *at < range.start);
        let own = self.attachments[first..].iter();
        let own = own.take_while(move |(at, _)| *at < range.end);
        own.map(move |(at, attachment)| (at - range.start, *attachment))
    }
}

/// Shapes runs, and keeps its working memory between them.
#[derive(Debug, Default)]
pub(in crate::text) struct Shaper {
    pub(super) row: GlyphRow,
    pub(super) characters: Characters,
    pub(super) kind: TextKind,
    pub(super) letters: Letters,
}

/// Means of shaping a run.
pub(super) struct ShapingContext<'a> {
    pub(super) text: &'a str,
    pub(super) clusters: &'a [Cluster],
    pub(super) style: &'a Style,
    pub(super) face: &'a Face,
    pub(super) chosen: &'a ChosenLookups,
    /// The length of a font unit.
    pub(super) unit: f64,
}

/// The destination of shaped text: glyphs, and the bytes of clusters that the face lacks.
pub(in crate::text) struct Output<'a> {
    pub(in crate::text) glyphs: &'a mut ShapedGlyphs,
    pub(in crate::text) missing: &'a mut Vec<u32>,
}

impl Output<'_> {
    pub(super) fn len(&self) -> [usize; 3] {
        let ShapedGlyphs { list, attachments } = &*self.glyphs;
        [list.len(), attachments.len(), self.missing.len()]
    }

    pub(super) fn truncate(&mut self, [glyphs, attachments, missing]: [usize; 3]) {
        self.glyphs.list.truncate(glyphs);
        self.glyphs.attachments.truncate(attachments);
        self.missing.truncate(missing);
    }
}

impl Shaper {
    /// Shapes some clusters of a run and adds their glyphs; also tells which of them
    /// the face lacks.
    pub(in crate::text) fn shape(
        &mut self,
        text: &str,
        clusters: &[Cluster],
        run: &Run,
        style: &Style,
        into: &mut Output<'_>,
    ) -> Result<(), FontError> {
        let face = style.face_at(run.face);
        features::describe(&mut self.kind, style, run.script, run.is_rtl());
        let chosen = face.chosen_lookups(&self.kind);
        let way = ShapingContext {
            text,
            clusters,
            style,
            face,
            chosen: &chosen,
            unit: style.unit_at(run.face),
        };
        let has_words = !run.is_rtl() && !features::joins(run.script) && !way.evens_digits();
        if has_words && self.shape_words(&way, run, into)? {
            return Ok(());
        }
        self.shape_whole(&way, run, into)
    }

    /// Fills the row with the glyphs of some clusters, one or more for each.
    fn fill_row(&mut self, way: &ShapingContext<'_>, run: &Run, into: &mut Output<'_>) {
        let ShapingContext {
            text,
            clusters,
            face,
            chosen,
            ..
        } = *way;
        let row = &mut self.row;
        row.glyphs.clear();
        row.glyphs.reserve(run.clusters.len());
        self.characters.has_made_spaces = false;
        let turns = (run.is_rtl(), chosen.has_marks);
        let own = &clusters[run.clusters.clone()];
        for (number, cluster) in (run.clusters.start as u32..).zip(own) {
            let bytes = &text.as_bytes()[cluster.start as usize..cluster.end as usize];
            if let ([byte], false) = (bytes, run.is_rtl()) {
                // Nothing to put together or to turn around.
                let character = char::from(*byte);
                if let Some(glyph) = face.glyph(character).filter(|_| !byte.is_ascii_control()) {
                    row.glyphs.push(RowGlyph::new(glyph, character, number));
                    continue;
                }
            }
            let part = cluster.part(text);
            if is_control(part) {
                continue;
            }
            if !self.characters.add(face, part, number, turns, row) {
                into.missing.push(cluster.start);
            }
        }
    }

    /// Shapes some clusters of a run as a whole.
    pub(super) fn shape_whole(
        &mut self,
        way: &ShapingContext<'_>,
        run: &Run,
        into: &mut Output<'_>,
    ) -> Result<(), FontError> {
        let ShapingContext {
            text,
            clusters,
            face,
            chosen,
            ..
        } = *way;
        self.fill_row(way, run, into);
        let row = &mut self.row;
        let (Some(first), Some(last)) = (
            clusters.get(run.clusters.start),
            run.clusters.clone().last(),
        ) else {
            return Ok(());
        };
        if features::joins(run.script) {
            let (start, end) = (first.start as usize, clusters[last].end as usize);
            let around = joined_around(&text[..start], &text[end..]);
            characters::join(row, around);
            if run.script == Script::Syriac {
                characters::shape_alaphs(row);
            }
            if run.script == Script::Arabic && !chosen.has_forms {
                presented::present(face, row);
            }
        }
        characters::mark_fractions(row);
        face.shape(chosen, run.is_rtl(), row, is_mark);
        if !chosen.has_marks {
            marks::place(face, row, run.is_rtl())?;
        }
        if run.script == Script::Syriac {
            stretch::stretch(face, run.is_rtl(), row)?;
        }
        if way.evens_digits() {
            even_digits(face, row);
        }
        if self.characters.has_made_spaces {
            stand_ins::widen_spaces(face, row);
        }
        way.take(run, row, into.glyphs)
    }
}

/// Gives every digit the width of the widest, itself in the middle of it.
pub(super) fn even_digits(face: &Face, row: &mut GlyphRow) {
    let advance = |digit: char| Some(i32::from(face.advance(face.glyph(digit)?)));
    let Some(widest) = ('0'..='9').filter_map(advance).max() else {
        return;
    };
    for glyph in &mut row.glyphs {
        if glyph.character.is_ascii_digit() {
            let own = i32::from(face.advance(glyph.glyph));
            glyph.x += (widest - own) / 2;
            glyph.advance = widest;
        }
    }
}

impl ShapingContext<'_> {
    /// Returns whether digits of one width are asked for that the face does not have.
    pub(super) fn evens_digits(&self) -> bool {
        self.style.tabular && !self.chosen.has_tabular
    }

    pub(super) fn length(&self, units: i32) -> f32 {
        (f64::from(units) * self.unit) as f32
    }

    /// A glyph of a row in design pixels.
    #[inline]
    pub(super) fn shaped(&self, run: &Run, glyph: &RowGlyph) -> Result<Shaped, FontError> {
        let stated = i32::from(glyph.stated);
        Ok(Shaped {
            placed: PlacedGlyph {
                glyph: glyph.glyph,
                cluster: glyph.cluster,
                span: run.span,
                face: run.face,
                x: self.length(glyph.x),
                y: -self.length(glyph.y),
                advance: self.length(stated),
                kerning: self.length(glyph.advance - stated),
            },
            last_cluster: glyph.last_cluster,
            ink: Ink::of(self.face.bounds(glyph.glyph)?, self.unit as f32),
            pen: 0.0,
            advance: glyph.advance,
            is_tied: glyph.is_tied,
            is_attached: false,
        })
    }

    /// Kerns the last glyph of a list.
    pub(super) fn kern_last(&self, units: i16, glyphs: &mut [Shaped]) {
        if let Some(last) = glyphs.last_mut() {
            last.advance += i32::from(units);
            last.placed.kerning = self.length(units.into());
        }
    }

    /// Takes the glyphs that are seen out of a row.
    pub(super) fn take(
        &self,
        run: &Run,
        row: &GlyphRow,
        glyphs: &mut ShapedGlyphs,
    ) -> Result<(), FontError> {
        let face = self.face;
        let is_hidden = |index: usize| {
            let glyph = &row.glyphs[index];
            // A glyph that a substitution has put there is meant to be seen.
            is_ignorable(glyph.character)
                && (glyph.glyph == GlyphId::NOTDEF
                    || face.glyph(glyph.character) == Some(glyph.glyph))
        };
        let mut hidden = 0_u32;
        for (index, glyph) in row.glyphs.iter().enumerate() {
            if is_hidden(index) {
                hidden += 1;
                continue;
            }
            let mut attachment = glyph.attachment;
            if hidden > 0
                && let Some(Attachment::Mark { back, .. }) = &mut attachment
            {
                // Hidden glyphs between the two are gone, and with them what stood on one.
                let base = index - *back as usize;
                *back -= (base..index).filter(|index| is_hidden(*index)).count() as u32;
                if is_hidden(base) {
                    attachment = None;
                }
            }
            if let Some(attachment) = attachment {
                glyphs.attachments.push((glyphs.list.len(), attachment));
            }
            glyphs.list.push(Shaped {
                is_attached: attachment.is_some(),
                ..self.shaped(run, glyph)?
            });
        }
        Ok(())
    }
}

/// Returns whether a cluster is for control and has no glyph: line breaks, tabs.
pub(in crate::text) fn is_control(cluster: &str) -> bool {
    if let [byte] = cluster.as_bytes() {
        return byte.is_ascii_control();
    }
    cluster.chars().all(char::is_control) || is_line_break(cluster)
}

/// Adds to the widths of clusters, the first of which is number `first`: a ligature's is
/// shared out among those that it stands for.
pub(in crate::text) fn add_widths(glyphs: &[Shaped], unit: f64, first: usize, widths: &mut [f64]) {
    for glyph in glyphs {
        let width = f64::from(glyph.advance) * unit;
        let own = (glyph.placed.cluster as usize).wrapping_sub(first);
        let last = (glyph.last_cluster as usize).wrapping_sub(first);
        if last <= own {
            if let Some(own) = widths.get_mut(own) {
                *own += width;
            }
            continue;
        }
        let share = width / (last + 1 - own) as f64;
        let all = widths.get_mut(own..=last).unwrap_or_default();
        all.iter_mut().for_each(|own| *own += share);
    }
}

/// Finds where the pen stands for each glyph of a run, by where it stands before each of
/// its clusters.
pub(in crate::text) fn set_pens(glyphs: &mut [Shaped], unit: f64, run: &Run, pens: &[f64]) {
    let is_rtl = run.is_rtl();
    let (mut pen, mut next) = (0.0, 0);
    for glyph in glyphs {
        let own = (glyph.placed.cluster as usize).wrapping_sub(run.clusters.start);
        if own >= next {
            pen = pens.get(own).copied().unwrap_or(pen);
            next = own + 1;
        }
        let after = pen + f64::from(glyph.advance) * unit;
        glyph.pen = if is_rtl { after } else { pen };
        pen = after;
    }
}
