//! The ways through a scene.

use super::description::Scene;
use crate::base::FileError;

/// Refuses lines that nobody reaches, and circles that nothing is said on.
pub(super) fn check(scene: &Scene) -> Result<(), FileError> {
    let count = scene.lines.len();
    let mut reached = vec![false; count];
    let mut open = if count > 0 { vec![0] } else { Vec::new() };
    while let Some(at) = open.pop() {
        if at >= count || std::mem::replace(&mut reached[at], true) {
            continue;
        }
        open.extend(after(scene, at)?);
    }
    if let Some(lost) = reached.iter().position(|reached| !reached) {
        let line = scene.lines[lost].line;
        let problem =
            "nobody reaches this line: what is above goes elsewhere, and nothing jumps here";
        return Err(scene.fault(line, problem));
    }
    circles(scene)
}

/// The lines that may come after one.
fn after(scene: &Scene, at: usize) -> Result<Vec<usize>, FileError> {
    let line = &scene.lines[at];
    let mut next = Vec::new();
    let jumps = line
        .choices
        .iter()
        .filter_map(|choice| choice.jump.as_ref());
    for label in jumps.chain(&line.jump) {
        next.push(scene.target(line.line, label)?);
    }
    // A choice without a jump goes on below; so does a line whose choices may all be missing.
    let is_bound = !line.choices.is_empty()
        && line.choices.iter().all(|choice| choice.jump.is_some())
        && line.choices.iter().any(|choice| choice.condition.is_none());
    let goes_on = match line.jump.is_some() || line.ends {
        true => line.condition.is_some(),
        false => !is_bound || line.condition.is_some(),
    };
    if goes_on {
        next.push(at + 1);
    }
    Ok(next)
}

/// Refuses circles of lines that may all be passed without a word.
fn circles(scene: &Scene) -> Result<(), FileError> {
    // 0: not seen, 1: on the way, 2: done.
    let mut marks = vec![0_u8; scene.lines.len()];
    for start in 0..scene.lines.len() {
        let mut way = vec![(start, false)];
        while let Some((at, is_left)) = way.pop() {
            if at >= scene.lines.len() {
                continue;
            }
            if is_left {
                marks[at] = 2;
                continue;
            }
            match marks[at] {
                1 => {
                    let problem = "this line comes round to itself without a word: the scene would never go on";
                    return Err(scene.fault(scene.lines[at].line, problem));
                }
                2 => continue,
                _ => {}
            }
            marks[at] = 1;
            way.push((at, true));
            way.extend(passed(scene, at)?.into_iter().map(|next| (next, false)));
        }
    }
    Ok(())
}

/// The lines that come after one at once, without a word.
fn passed(scene: &Scene, at: usize) -> Result<Vec<usize>, FileError> {
    let line = &scene.lines[at];
    let mut next = Vec::new();
    if line.condition.is_some() {
        next.push(at + 1);
    }
    // Answers may all be missing.
    let may_be_silent = line.choices.iter().all(|choice| choice.condition.is_some());
    if line.text.is_none() && may_be_silent {
        match &line.jump {
            Some(label) => next.push(scene.target(line.line, label)?),
            None if line.ends => {}
            None => next.push(at + 1),
        }
    }
    Ok(next)
}
