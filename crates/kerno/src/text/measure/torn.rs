//! Letters that a line break would part though they belong together: joined, kerned, in one
//! ligature.

use std::ops::Range;

use crate::text::measure::lines::{ClusterKind, LineMeasures};
use crate::text::shape::{Run, Shaped};

/// The first of some glyphs that is of a cluster or of one after it; `likely` it is that
/// one: where every cluster has one glyph.
pub(in crate::text) fn first_of(glyphs: &[Shaped], cluster: usize, likely: usize) -> usize {
    let is_before = |glyph: &Shaped| (glyph.placed.cluster as usize) < cluster;
    let begins_there = likely <= glyphs.len()
        && glyphs[..likely].last().is_none_or(is_before)
        && glyphs.get(likely).is_none_or(|glyph| !is_before(glyph));
    if begins_there {
        return likely;
    }
    glyphs.partition_point(is_before)
}

/// Returns whether a break before a cluster of a run parts what belongs together; the glyph at `at`
/// of the run's is the first of the cluster.
pub(in crate::text) fn is_torn(
    run: &Run,
    (shaped, at): (&[Shaped], usize),
    measures: &LineMeasures,
    cluster: usize,
) -> bool {
    // After a space nothing is joined that would be seen.
    let is_inside = cluster > run.clusters.start && cluster < run.clusters.end;
    let before = shaped[..at].last();
    let is_tied = shaped.get(at).is_some_and(|glyph| glyph.is_tied)
        || before.is_some_and(|glyph| glyph.last_cluster as usize >= cluster);
    is_inside && is_tied && measures.list[cluster - 1].kind != ClusterKind::Space
}

/// Finds at which places letters are broken apart that belong together.
pub(in crate::text) fn find_torn(
    runs: &[Run],
    shaped: &[Shaped],
    run_glyphs: &[Range<usize>],
    measures: &mut LineMeasures,
) {
    let mut places = std::mem::take(&mut measures.places);
    let mut index = 0;
    for place in &mut places {
        let cluster = place.cluster;
        // Nearly all are after spaces.
        if measures.list[cluster - 1].kind == ClusterKind::Space {
            continue;
        }
        while runs
            .get(index)
            .is_some_and(|run| run.clusters.end <= cluster)
        {
            index += 1;
        }
        let Some(run) = runs.get(index) else { break };
        let own = &shaped[run_glyphs[index].clone()];
        let at = first_of(own, cluster, cluster.saturating_sub(run.clusters.start));
        place.is_torn = is_torn(run, (own, at), measures, cluster);
    }
    measures.places = places;
}
