//! The parts of a changed text that are as they were.

use crate::text::PlacedGlyph;
use crate::text::prepared::Prepared;
use crate::text::shape::{Output, Run, Shaped};

/// A change of a text: its bytes from `start` to `old_end` became those to `new_end`.
#[derive(Clone, Copy, Debug)]
pub(in crate::text) struct Edit {
    pub(in crate::text) start: usize,
    pub(in crate::text) old_end: usize,
    pub(in crate::text) new_end: usize,
}

/// The number of bytes around a run that have a say in its shape: eight
/// characters, by which letters join.
const AROUND: usize = 32;

impl Edit {
    /// The old run that a run equals, if the change is too far from it to matter.
    pub(in crate::text) fn known(&self, run: &Run, old: &Prepared) -> Option<ReusedRun> {
        let (start, end) = (run.start as usize, run.end as usize);
        let start = if end + AROUND <= self.start {
            start
        } else if start >= self.new_end + AROUND {
            start - self.new_end + self.old_end
        } else {
            return None;
        };
        let runs = &old.analysis.runs;
        let index = runs.partition_point(|run| (run.start as usize) < start);
        let known = runs.get(index)?;
        let is_same = known.start as usize == start
            && known.end - known.start == run.end - run.start
            && known.clusters.len() == run.clusters.len()
            && (known.span, known.face) == (run.span, run.face)
            && (known.script, known.level) == (run.script, run.level);
        is_same.then_some(ReusedRun(index))
    }
}

/// A run that was shaped before.
pub(in crate::text) struct ReusedRun(usize);

impl ReusedRun {
    /// Takes its glyphs over, and which clusters its face lacks.
    pub(in crate::text) fn take(
        &self,
        run: &Run,
        (old, old_missing): (&Prepared, &[u32]),
        into: &mut Output<'_>,
    ) {
        let Output { glyphs, missing } = into;
        let known = &old.analysis.runs[self.0];
        let moved =
            |cluster: u32| (cluster as usize - known.clusters.start + run.clusters.start) as u32;
        let range = old.run_glyphs[self.0].clone();
        let first = glyphs.list.len();
        let attachments = old.shaped.attachments_in(range.clone());
        let attachments = attachments.map(|(at, attachment)| (first + at, attachment));
        glyphs.attachments.extend(attachments);
        let shaped = old.shaped.list[range].iter();
        glyphs.list.extend(shaped.map(|glyph| Shaped {
            placed: PlacedGlyph {
                cluster: moved(glyph.placed.cluster),
                ..glyph.placed
            },
            last_cluster: moved(glyph.last_cluster),
            ..*glyph
        }));
        let first = old_missing.partition_point(|byte| *byte < known.start);
        let own = old_missing[first..]
            .iter()
            .take_while(|byte| **byte < known.end);
        missing.extend(own.map(|byte| byte - known.start + run.start));
    }
}
