//! Runs of text → glyphs: what is not for the font to know.
//!
//! What goes in: clusters of one style, face, script and direction. What comes out:
//! glyphs in reading order, each with its advance and where it is drawn.

mod characters;
mod features;
mod marks;
mod presented;
mod stretch;

use std::ops::Range;

use icu_properties::props::Script;

use super::unicode::{is_ignorable, is_line_break, is_mark};
use super::{Cluster, Style};
use crate::font::{Attachment, Face, FontBounds, FontError, GlyphId, Row, RowGlyph, Tag, TextKind};

use characters::Characters;
use characters::joined_around;

/// Text of one style, face, script and direction.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Run {
    pub(super) clusters: Range<usize>,
    /// Where its bytes start in the text, and where they end.
    pub(super) start: u32,
    pub(super) end: u32,
    pub(super) span: u32,
    /// 0 for the style's face, else one of its fallbacks, from 1.
    pub(super) face: u16,
    pub(super) script: Script,
    /// Bidirectional embedding level (UAX #9).
    pub(super) level: u8,
}

impl Run {
    pub(super) fn is_rtl(&self) -> bool {
        self.level % 2 == 1
    }
}

/// A glyph of a run, in font units of its face.
#[derive(Clone, Copy, Debug)]
pub(super) struct Shaped {
    pub(super) glyph: GlyphId,
    pub(super) cluster: u32,
    /// The last cluster that it stands for.
    pub(super) last_cluster: u32,
    /// How far the face says the pen moves.
    pub(super) stated: u16,
    /// How far it does.
    pub(super) advance: i32,
    pub(super) x: i32,
    pub(super) y: i32,
    pub(super) attachment: Option<Attachment>,
    /// Its ink.
    pub(super) bounds: Option<FontBounds>,
    /// Whether a line that breaks before it has to be shaped anew.
    pub(super) is_tied: bool,
}

/// Shapes runs, and keeps its working memory between them.
#[derive(Debug, Default)]
pub(super) struct Shaper {
    row: Row,
    characters: Characters,
    kind: TextKind,
}

impl Shaper {
    /// Shapes some clusters of a run and adds their glyphs; also tells which of them
    /// the face lacks.
    pub(super) fn shape(
        &mut self,
        text: &str,
        clusters: &[Cluster],
        run: &Run,
        style: &Style,
        (glyphs, missing): (&mut Vec<Shaped>, &mut Vec<u32>),
    ) -> Result<(), FontError> {
        let face = style.face_at(run.face);
        features::describe(&mut self.kind, style, run.script, run.is_rtl());
        let chosen = face.chosen_lookups(&self.kind);
        let way = (run.is_rtl(), chosen.has_marks);
        let row = &mut self.row;
        row.glyphs.clear();
        row.glyphs.reserve(run.clusters.len());
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
            if !self.characters.add(face, part, number, way, row) {
                missing.push(cluster.start);
            }
        }
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
        let kerns = self
            .kind
            .features
            .iter()
            .any(|f| f.tag == Tag::new(b"kern") && f.value != 0);
        face.shape(&chosen, run.is_rtl(), row, is_mark, kerns);
        if !chosen.has_marks {
            marks::place(face, row)?;
        }
        if run.script == Script::Syriac {
            stretch::stretch(face, run.is_rtl(), row)?;
        }
        if style.tabular && !chosen.has_tabular {
            even_digits(face, row);
        }
        take(face, row, glyphs)
    }
}

/// Gives every digit the width of the widest, itself in the middle of it.
fn even_digits(face: &Face, row: &mut Row) {
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

/// Takes the glyphs that are seen out of a row.
fn take(face: &Face, row: &Row, glyphs: &mut Vec<Shaped>) -> Result<(), FontError> {
    let is_hidden = |index: usize| {
        let glyph = &row.glyphs[index];
        // What a substitution has put there is meant to be seen.
        is_ignorable(glyph.character)
            && (glyph.glyph == GlyphId::NOTDEF || face.glyph(glyph.character) == Some(glyph.glyph))
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
        glyphs.push(Shaped {
            glyph: glyph.glyph,
            cluster: glyph.cluster,
            last_cluster: glyph.last_cluster,
            stated: glyph.stated,
            advance: glyph.advance,
            x: glyph.x,
            y: glyph.y,
            attachment,
            bounds: face.bounds(glyph.glyph)?,
            is_tied: glyph.is_tied,
        });
    }
    Ok(())
}

/// Whether a cluster is for control and has no glyph: line breaks, tabs.
pub(super) fn is_control(cluster: &str) -> bool {
    if let [byte] = cluster.as_bytes() {
        return byte.is_ascii_control();
    }
    cluster.chars().all(char::is_control) || is_line_break(cluster)
}

/// Tells the width of each cluster: a ligature's is shared out among those that it
/// stands for.
pub(super) fn add_widths(glyphs: &[Shaped], unit: f64, mut add: impl FnMut(usize, f64)) {
    for glyph in glyphs {
        let share = f64::from(glyph.advance) * unit;
        if glyph.last_cluster <= glyph.cluster {
            add(glyph.cluster as usize, share);
            continue;
        }
        let clusters = glyph.cluster as usize..=glyph.last_cluster as usize;
        let share = share / clusters.clone().count() as f64;
        clusters.for_each(|cluster| add(cluster, share));
    }
}
