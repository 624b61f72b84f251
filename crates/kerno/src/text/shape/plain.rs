//! Text to which shaping does nothing but kern it, as is so with most letters of most
//! texts: what becomes of a letter is known from it and the next one. Only words that
//! are more than that are shaped as a whole.

use super::{Output, Run, Shaped, Shaper, ShapingContext};
use crate::font::{FontError, GlyphId, Neighbours};
use crate::text::PlacedGlyph;
use crate::text::analysis::unicode::is_plain;
use crate::text::ink::Ink;

/// The start of a word that may have to be shaped as a whole: with the space before it.
#[derive(Clone, Copy)]
struct Word {
    cluster: usize,
    /// Its first glyph in the list.
    glyph: usize,
}

/// The most times that more words are taken together because lookups look past spaces.
const MOST_WORDS: usize = 4;

/// The letters of ASCII in one face and size, once they were met in a run: the same few
/// come again and again.
#[derive(Debug)]
pub(super) struct Letters {
    /// For each the number of its glyph in the list, from 1; 0 for those not met yet.
    numbers: [u8; 128],
    list: Vec<Shaped>,
    /// The last one that is not of ASCII.
    other: Option<Shaped>,
}

impl Default for Letters {
    fn default() -> Self {
        Self {
            numbers: [0; 128],
            list: Vec::new(),
            other: None,
        }
    }
}

impl Letters {
    fn clear(&mut self) {
        self.numbers = [0; 128];
        self.list.clear();
    }

    /// The index of a letter in the list.
    #[inline]
    fn place(&self, byte: u8) -> Option<usize> {
        let number = self.numbers.get(usize::from(byte)).copied()?;
        usize::from(number).checked_sub(1)
    }
}

/// The kinds of clusters on the way through a run.
enum Letter<'a> {
    /// One character that the face has, which joins nothing.
    Plain(&'a Shaped),
    /// A line break or the like.
    Nothing,
    Other,
}

impl ShapingContext<'_> {
    #[inline]
    fn letter<'l>(
        &self,
        run: &Run,
        number: usize,
        letters: &'l mut Letters,
    ) -> Result<Letter<'l>, FontError> {
        let cluster = &self.clusters[number];
        let is_byte = cluster.end - cluster.start == 1;
        let byte = self.text.as_bytes()[cluster.start as usize];
        if is_byte && let Some(place) = letters.place(byte) {
            return Ok(Letter::Plain(&letters.list[place]));
        }
        self.new_letter(run, cluster.part(self.text), letters)
    }

    fn new_letter<'l>(
        &self,
        run: &Run,
        cluster: &str,
        letters: &'l mut Letters,
    ) -> Result<Letter<'l>, FontError> {
        let mut characters = cluster.chars();
        let character = match (characters.next(), characters.next()) {
            (Some(one), None) if one.is_ascii_control() => return Ok(Letter::Nothing),
            (Some(one), None) if is_plain(one) => one,
            _ => return Ok(Letter::Other),
        };
        let Some(glyph) = self.face.glyph(character) else {
            return Ok(Letter::Other);
        };
        let glyph = self.plain(run, glyph)?;
        if let Some(number) = letters.numbers.get_mut(character as usize) {
            letters.list.push(glyph);
            *number = letters.list.len() as u8;
            return Ok(Letter::Plain(&letters.list[letters.list.len() - 1]));
        }
        Ok(Letter::Plain(letters.other.insert(glyph)))
    }

    /// Font units between a letter and the one before it; none where either is more than its
    /// letters.
    #[inline]
    fn units_between(
        &self,
        before: Option<GlyphId>,
        letter: &Letter<'_>,
        next: Option<GlyphId>,
    ) -> Option<i16> {
        match (letter, before) {
            (Letter::Other, _) => None,
            (_, None) => Some(0),
            (_, Some(left)) => match self.face.neighbours(self.chosen, left, next) {
                Neighbours::Kerned(units) => Some(units),
                Neighbours::Shaped => None,
            },
        }
    }

    /// A letter as it comes.
    fn plain(&self, run: &Run, glyph: GlyphId) -> Result<Shaped, FontError> {
        let stated = i32::from(self.face.advance(glyph));
        Ok(Shaped {
            placed: PlacedGlyph {
                glyph,
                cluster: 0,
                span: run.span,
                face: run.face,
                x: 0.0,
                y: 0.0,
                advance: self.length(stated),
                kerning: 0.0,
            },
            last_cluster: 0,
            ink: Ink::of(self.face.bounds(glyph)?, self.unit as f32),
            pen: 0.0,
            advance: stated,
            is_tied: false,
            is_attached: false,
        })
    }

    fn is_space(&self, cluster: usize) -> bool {
        self.clusters[cluster].part(self.text) == " "
    }
}

impl Shaper {
    /// Shapes a run from left to right word by word; false where it has to be shaped as
    /// a whole, and nothing is added then.
    pub(super) fn shape_words(
        &mut self,
        way: &ShapingContext<'_>,
        run: &Run,
        into: &mut Output<'_>,
    ) -> Result<bool, FontError> {
        let start = into.len();
        let done = self.words(way, run, into)?;
        if !done {
            into.truncate(start);
        }
        Ok(done)
    }

    fn words(
        &mut self,
        way: &ShapingContext<'_>,
        run: &Run,
        into: &mut Output<'_>,
    ) -> Result<bool, FontError> {
        let end = run.clusters.end;
        let mut at = run.clusters.start;
        let mut word = Word {
            cluster: at,
            glyph: into.glyphs.list.len(),
        };
        // The word before it.
        let mut earlier = None;
        self.letters.clear();
        let space = way.face.glyph(' ');
        // The glyph before the cluster at hand, where it is a letter.
        let mut before = None;
        loop {
            let letter = if at < end {
                way.letter(run, at, &mut self.letters)?
            } else {
                Letter::Nothing
            };
            let next = match &letter {
                Letter::Plain(glyph) => Some(glyph.placed.glyph),
                Letter::Nothing | Letter::Other => None,
            };
            let Some(units) = way.units_between(before, &letter, next) else {
                // This word is more than its letters.
                let Some(next) = self.whole_word(way, run, (earlier, word, at), into)? else {
                    return Ok(false);
                };
                (earlier, word, at) = (Some(word), next.0, next.1);
                before = space;
                if at >= end {
                    return Ok(true);
                }
                continue;
            };
            if units != 0 {
                way.kern_last(units, &mut into.glyphs.list);
            }
            if at >= end {
                return Ok(true);
            }
            if let Letter::Plain(glyph) = letter {
                if next == space {
                    earlier = Some(word);
                    word = Word {
                        cluster: at,
                        glyph: into.glyphs.list.len(),
                    };
                }
                into.glyphs.list.push(Shaped {
                    placed: PlacedGlyph {
                        cluster: at as u32,
                        ..glyph.placed
                    },
                    last_cluster: at as u32,
                    is_tied: units != 0,
                    ..*glyph
                });
            }
            before = next;
            at += 1;
        }
    }

    /// Shapes a word as a whole, with the spaces on both sides of it; `at` is a cluster
    /// of it. Where lookups look past the spaces, more words are taken together. Returns
    /// where the next one begins and the cluster after its space; none where lookups reach
    /// further than a few words.
    fn whole_word(
        &mut self,
        way: &ShapingContext<'_>,
        run: &Run,
        (mut earlier, mut word, at): (Option<Word>, Word, usize),
        into: &mut Output<'_>,
    ) -> Result<Option<(Word, usize)>, FontError> {
        let end = run.clusters.end;
        let space_from = |from: usize| (from..end).find(|cluster| way.is_space(*cluster));
        let mut space = space_from(at.max(word.cluster + 1));
        for _ in 0..MOST_WORDS {
            let after = space.map_or(end, |space| space + 1);
            let (past_start, past_end) = self.part(way, run, (word, after), into)?;
            let begins = word.cluster == run.clusters.start;
            match (past_start && !begins, past_end && after < end) {
                (false, false) => return Ok(self.next_word(way, (space, after), into)),
                (true, _) => match earlier.take() {
                    Some(before) => word = before,
                    None => return Ok(None),
                },
                (_, true) => space = space_from(after),
            }
        }
        Ok(None)
    }

    /// Shapes the clusters from a word on to `after` anew. Returns whether lookups have
    /// looked for something before and after them.
    fn part(
        &mut self,
        way: &ShapingContext<'_>,
        run: &Run,
        (word, after): (Word, usize),
        into: &mut Output<'_>,
    ) -> Result<(bool, bool), FontError> {
        let glyphs = &mut into.glyphs;
        let first = glyphs.list.get(word.glyph);
        let was_tied = first.is_some_and(|glyph| glyph.is_tied);
        let byte = way.clusters[word.cluster].start;
        let missing = into.missing.partition_point(|known| *known < byte);
        let attachments = &glyphs.attachments;
        let attachments = attachments.partition_point(|(glyph, _)| *glyph < word.glyph);
        into.truncate([word.glyph, attachments, missing]);
        let part = Run {
            clusters: word.cluster..after,
            ..run.clone()
        };
        self.shape_whole(way, &part, into)?;
        if let Some(first) = into.glyphs.list.get_mut(word.glyph) {
            first.is_tied |= was_tied;
        }
        Ok(self.row.looked_past())
    }

    /// The word after one that was shaped as a whole up to `after`, and that cluster.
    fn next_word(
        &self,
        way: &ShapingContext<'_>,
        (space, after): (Option<usize>, usize),
        into: &Output<'_>,
    ) -> Option<(Word, usize)> {
        let next = Word {
            cluster: after - 1,
            glyph: into.glyphs.list.len().saturating_sub(1),
        };
        let Some(space) = space else {
            return Some((next, after));
        };
        // The space has to be as it would be after any other word.
        let last = into.glyphs.list.last();
        let is_untouched = last.is_some_and(|last| {
            let placed = &last.placed;
            placed.cluster as usize == space
                && Some(placed.glyph) == way.face.glyph(' ')
                && (placed.x, placed.y, placed.kerning) == (0.0, 0.0, 0.0)
                && !last.is_attached
        });
        is_untouched.then_some((next, after))
    }
}
