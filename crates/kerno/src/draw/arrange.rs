//! The quads of a frame with groups, in the order in which they are drawn.

use std::ops::Range;

use super::gathered::Gathered;
use super::group::GroupNumber;
use super::{Batch, Pass};

/// The corners of the two triangles of a quad.
pub(super) fn corners(quad: u32) -> [u32; 6] {
    [0, 1, 2, 0, 2, 3].map(|corner| quad * 4 + corner)
}

/// A part of a group, in the order in which parts are drawn.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
struct Part {
    layer: i32,
    /// The number of quads before it.
    first: u32,
    item: Item,
}

#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Item {
    Group(GroupNumber),
    Quad,
}

/// Puts the quads of a frame with groups in their order, and the steps between them.
pub(super) fn arrange(now: &Gathered, indices: &mut Vec<u32>, batches: &mut Vec<Batch>) {
    let mut parts: Vec<Vec<Part>> = vec![Vec::new(); now.groups.len() + 1];
    for (number, group) in (1..).zip(&now.groups) {
        parts[usize::from(group.parent)].push(Part {
            layer: group.layer,
            first: group.first,
            item: Item::Group(number),
        });
    }
    let ends = now.runs.iter().skip(1).map(|run| run.0);
    let count = now.layers.len() as u32;
    let ends = ends.chain([count]);
    let runs = now.runs.iter().zip(ends);
    let mut add = |quads: Range<u32>, group: GroupNumber| {
        let own = quads.map(|first| Part {
            layer: now.layers[first as usize],
            first,
            item: Item::Quad,
        });
        parts[usize::from(group)].extend(own);
    };
    add(0..now.runs.first().map_or(count, |run| run.0), 0);
    for ((first, group), end) in runs {
        add(*first..end, *group);
    }
    for own in &mut parts {
        own.sort_unstable();
    }
    emit(0, now, &parts, indices, batches);
}

fn emit(
    group: GroupNumber,
    now: &Gathered,
    parts: &[Vec<Part>],
    indices: &mut Vec<u32>,
    batches: &mut Vec<Batch>,
) {
    let mut start = indices.len() as u32;
    let end_batch = |indices: &Vec<u32>, batches: &mut Vec<Batch>, start: &mut u32| {
        let end = indices.len() as u32;
        if end > *start {
            batches.push(Batch {
                indices: *start..end,
                pass: Pass::Same,
            });
        }
        *start = end;
    };
    for part in &parts[usize::from(group)] {
        match part.item {
            Item::Quad => indices.extend(corners(part.first)),
            Item::Group(number) if parts[usize::from(number)].is_empty() => {}
            Item::Group(number) => {
                end_batch(indices, batches, &mut start);
                let at = indices.len() as u32;
                batches.push(Batch {
                    indices: at..at,
                    pass: Pass::Begin,
                });
                emit(number, now, parts, indices, batches);
                let at = indices.len() as u32;
                let opacity = now.groups[usize::from(number) - 1].opacity;
                batches.push(Batch {
                    indices: at..at,
                    pass: Pass::End { opacity },
                });
                start = at;
            }
        }
    }
    end_batch(indices, batches, &mut start);
}
