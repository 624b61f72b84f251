//! Level runs that belong together once isolates are cut out (UAX #9, rule X10).

use icu_properties::props::BidiClass;

use super::{Character, direction_of};

/// An isolating run sequence (definition BD13).
pub(super) struct Sequence {
    /// Its characters, in order.
    pub(super) characters: Vec<usize>,
    /// The direction of what stands before it (sos), and after it (eos).
    pub(super) before: BidiClass,
    pub(super) after: BidiClass,
    pub(super) level: u8,
}

/// Cuts the characters of a paragraph into sequences.
pub(super) fn find(paragraph: &[Character], base: u8, pairs: &[Option<usize>]) -> Vec<Sequence> {
    let all = paragraph.iter().enumerate();
    let seen: Vec<usize> = all
        .filter(|(_, character)| !character.is_removed())
        .map(|(index, _)| index)
        .collect();
    // Level runs (definition BD7), and for each character that ends an isolate the sequence
    // that goes on with it.
    let runs = seen.chunk_by(|a, b| paragraph[*a].level == paragraph[*b].level);
    let mut going_on: Vec<Option<usize>> = vec![None; paragraph.len()];
    let mut sequences: Vec<Vec<usize>> = Vec::new();
    for run in runs {
        let (first, last) = (run[0], run[run.len() - 1]);
        let known = going_on[first].filter(|_| paragraph[first].ends_isolate());
        let number = known.unwrap_or_else(|| {
            sequences.push(Vec::new());
            sequences.len() - 1
        });
        sequences[number].extend_from_slice(run);
        if paragraph[last].starts_isolate()
            && let Some(end) = pairs[last]
        {
            going_on[end] = Some(number);
        }
    }
    let with_ends = |characters: Vec<usize>| {
        let (first, last) = (characters[0], characters[characters.len() - 1]);
        let level = paragraph[first].level;
        let place = |index: usize| seen.partition_point(|other| *other < index);
        let around = |neighbour: Option<&usize>| {
            let other = neighbour.map_or(base, |index| paragraph[*index].level);
            direction_of(level.max(other))
        };
        let before = place(first).checked_sub(1).and_then(|at| seen.get(at));
        let after = match paragraph[last].starts_isolate() {
            true => None,
            false => seen.get(place(last) + 1),
        };
        Sequence {
            before: around(before),
            after: around(after),
            level,
            characters,
        }
    };
    sequences.into_iter().map(with_ends).collect()
}
