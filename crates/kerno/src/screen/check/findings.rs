//! Findings, gathered.

use std::collections::BTreeMap;

use super::finding::{Finding, FindingCase, FindingKind};
use crate::screen::node::Node;

/// Findings, each once in its worst case.
#[derive(Default)]
pub(super) struct Findings {
    found: BTreeMap<(usize, FindingKind, String), Finding>,
}

impl Findings {
    pub(super) fn add(
        &mut self,
        node: &Node,
        kind: FindingKind,
        (measure, problem): (f32, String),
        case: Option<&FindingCase>,
    ) {
        let element = &node.element;
        let finding = Finding {
            kind,
            name: element.name.clone(),
            line: element.line,
            problem,
            case: case.cloned(),
            count: 1,
            measure,
        };
        let key = (element.line, kind, element.name.clone());
        match self.found.get_mut(&key) {
            Some(known) => {
                let count = known.count + 1;
                if finding.measure > known.measure {
                    *known = finding;
                }
                known.count = count;
            }
            None => {
                self.found.insert(key, finding);
            }
        }
    }

    pub(super) fn add_named(&mut self, name: &str, kind: FindingKind, problem: String) {
        let finding = Finding {
            kind,
            name: name.to_owned(),
            line: 0,
            problem,
            case: None,
            count: 1,
            measure: 0.0,
        };
        self.found
            .insert((usize::MAX, kind, name.to_owned()), finding);
    }

    pub(super) fn list(self, is_allowed: impl Fn(&Finding) -> bool) -> Vec<Finding> {
        self.found
            .into_values()
            .filter(|finding| !is_allowed(finding))
            .collect()
    }
}
