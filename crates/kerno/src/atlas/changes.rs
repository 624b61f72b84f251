//! The changes of a page, for renderers that keep a copy of it.

use super::TexelRect;

/// The most changes that are told apart: older ones are told as one.
const MOST: usize = 16;

/// The changes of a page, each with the revision that it made.
#[derive(Clone, Debug)]
pub(super) struct Changes {
    revision: u64,
    /// Oldest first.
    recent: Vec<(u64, TexelRect)>,
    /// Texels of all changes together.
    texels: u64,
}

impl Changes {
    /// Those of a new page.
    pub(super) fn of_new(all: TexelRect) -> Self {
        Self {
            revision: 1,
            recent: vec![(1, all)],
            texels: area(all),
        }
    }

    pub(super) fn revision(&self) -> u64 {
        self.revision
    }

    /// Texels of all changes so far.
    pub(super) fn texels(&self) -> u64 {
        self.texels
    }

    pub(super) fn add(&mut self, rect: TexelRect) {
        self.texels += area(rect);
        self.revision += 1;
        if self.recent.len() >= MOST {
            // Whoever is older than both uploads both.
            let (_, oldest) = self.recent.remove(0);
            let next = &mut self.recent[0].1;
            *next = around(*next, oldest);
        }
        self.recent.push((self.revision, rect));
    }

    /// The texels that have changed after a revision.
    pub(super) fn since(&self, revision: u64) -> Option<TexelRect> {
        let newer = self.recent.iter().filter(|(own, _)| *own > revision);
        newer.map(|(_, rect)| *rect).reduce(around)
    }
}

fn area(rect: TexelRect) -> u64 {
    u64::from(rect.width) * u64::from(rect.height)
}

/// The least rectangle that holds both.
fn around(a: TexelRect, b: TexelRect) -> TexelRect {
    let (x, y) = (a.x.min(b.x), a.y.min(b.y));
    let right = (a.x + a.width).max(b.x + b.width);
    let bottom = (a.y + a.height).max(b.y + b.height);
    TexelRect {
        x,
        y,
        width: right - x,
        height: bottom - y,
    }
}
