//! A screen taken through windows, languages and the ends of its values' ranges.

use super::contrast;
use super::finding::{CheckOptions, Finding, FindingCase, FindingKind};
use super::findings::Findings;
use crate::atlas::Atlas;
use crate::base::Rect;
use crate::screen::element::Content;
use crate::screen::node::{Body, Node};
use crate::screen::text_body::{TextBody, widest};
use crate::screen::{Screen, ScreenError, Viewport};
use crate::text::Overflow;
use crate::text::unshaped;

/// Lengths below this are rounding, in design pixels.
const SAME: f32 = 0.05;

impl Screen {
    /// Takes the screen through windows, languages and the ends of its values' ranges, and
    /// tells what a player would see: each finding once, in its worst case. Findings that
    /// the screen allows are left out. The screen is as it was made afterwards.
    ///
    /// # Errors
    /// [`ScreenError`] where it can't be arranged or drawn at all.
    pub fn check(
        &mut self,
        atlas: &mut Atlas,
        options: &CheckOptions,
    ) -> Result<Vec<Finding>, ScreenError> {
        self.check_with(atlas, options, &mut |_, _| {})
    }

    /// As [`check`](Self::check), with the number of cases that are done and of all told after
    /// each: a case is a language with values.
    ///
    /// # Errors
    /// [`ScreenError`] where it can't be arranged or drawn at all.
    pub fn check_with(
        &mut self,
        atlas: &mut Atlas,
        options: &CheckOptions,
        progress: &mut dyn FnMut(usize, usize),
    ) -> Result<Vec<Finding>, ScreenError> {
        let mut languages = options.languages.clone();
        if languages.is_empty() {
            languages = self.languages().map(str::to_owned).collect();
        }
        if languages.is_empty() {
            languages.push(self.language().to_owned());
        }
        let first = self.language().to_owned();
        let mut found = Findings::default();
        let settings = self.settings();
        let (mut done, all) = (0, languages.len() * settings.len());
        for language in &languages {
            self.set_language(language, atlas)?;
            for settings in &settings {
                self.start_over()?;
                for (name, number) in settings {
                    self.set(name, *number)?;
                }
                self.settle();
                let is_start = settings.is_empty();
                for window in &options.windows {
                    let view = self.viewport(*window)?;
                    self.arrange(&view, atlas)?;
                    let case = FindingCase {
                        language: language.clone(),
                        window: *window,
                        values: settings.clone(),
                    };
                    self.look(&view, options, &case, &mut found);
                }
                // The ground behind a text does not change with the window's size.
                let middle = options.windows.get(options.windows.len() / 2);
                if let Some(window) = middle.filter(|_| is_start) {
                    let case = FindingCase {
                        language: language.clone(),
                        window: *window,
                        values: Vec::new(),
                    };
                    contrast::look(self, atlas, options, &case, &mut found)?;
                }
                done += 1;
                progress(done, all);
            }
            self.start_over()?;
        }
        self.unused(atlas, &mut found);
        if self.language() != first {
            self.set_language(&first, atlas)?;
        }
        let allowed = &self.description().allowed;
        Ok(found.list(|finding| {
            allowed.iter().any(|allowed| {
                let is_of = allowed
                    .element
                    .as_ref()
                    .is_none_or(|name| *name == finding.name);
                allowed.finding == finding.kind.name() && is_of
            })
        }))
    }

    /// Values as the screen starts with them.
    fn start_over(&mut self) -> Result<(), ScreenError> {
        let values = self.description().values.clone();
        for value in values {
            self.set(&value.name, value.start)?;
        }
        Ok(())
    }

    /// The values to try: as they start, and each at the widest numbers of its range.
    fn settings(&self) -> Vec<Vec<(String, f64)>> {
        let mut settings = vec![Vec::new()];
        let mut all_widest = Vec::new();
        for value in &self.description().values {
            let Some(range) = value.range else { continue };
            for number in widest(range) {
                settings.push(vec![(value.name.clone(), number)]);
            }
            all_widest.push((value.name.clone(), range[1]));
        }
        if all_widest.len() > 1 {
            settings.push(all_widest);
        }
        settings
    }

    /// Looks at the boxes of a window.
    fn look(
        &self,
        view: &Viewport,
        options: &CheckOptions,
        case: &FindingCase,
        found: &mut Findings,
    ) {
        let safe = view.safe_rect();
        for index in 0..self.nodes.len() {
            if !self.is_seen(index) {
                continue;
            }
            let node = &self.nodes[index];
            let mut tell = |kind, measure, problem: String| {
                found.add(node, kind, (measure, problem), Some(case));
            };
            if !matches!(node.body, Body::None) && node.element.rotation == 0.0 {
                let out = outside(node.rect, safe);
                if out > SAME {
                    let problem = format!("it reaches {out:.1} px out of the window");
                    tell(FindingKind::OutOfWindow, out, problem);
                }
            }
            if let Body::Text(text) = &node.body {
                look_at_text(node, text, (view, options), &mut tell);
            }
        }
        self.overlaps(case, found);
    }

    /// The boxes that elements cover with all that is in them; none for those that are not
    /// there.
    fn covered(&self) -> Vec<Option<Rect>> {
        let mut covered: Vec<Option<Rect>> = (0..self.nodes.len())
            .map(|index| shown(&self.nodes[index]).filter(|_| self.is_seen(index)))
            .collect();
        // Children come after their parents.
        for index in (0..covered.len()).rev() {
            if let (Some(own), Some(parent)) = (covered[index], self.nodes[index].parent) {
                covered[parent] = Some(covered[parent].map_or(own, |all| all.union(own)));
            }
        }
        covered
    }

    /// Looks for siblings that lie over each other.
    fn overlaps(&self, case: &FindingCase, found: &mut Findings) {
        let covered = self.covered();
        let families = self.nodes.iter().map(|node| node.children.as_slice());
        for family in families.chain([self.roots.as_slice()]) {
            for (at, one) in family.iter().enumerate() {
                for other in &family[at + 1..] {
                    let (a, b) = (&self.nodes[*one], &self.nodes[*other]);
                    let depth = depth(covered[*one], covered[*other]);
                    if depth > SAME {
                        let name = &a.element.name;
                        let problem = format!("it and “{name}” overlap by {depth:.1} px");
                        found.add(b, FindingKind::Overlap, (depth, problem), Some(case));
                    }
                }
            }
        }
    }
}

/// The box that an element covers: of a text its ink.
fn shown(node: &Node) -> Option<Rect> {
    match &node.body {
        Body::None => None,
        Body::Text(text) => {
            let ink = text.layout.ink();
            let ink = ink.moved(crate::base::Offset::new(node.rect.x, node.rect.y));
            (ink.width > 0.0).then_some(ink)
        }
        _ => Some(node.rect),
    }
}

/// The least that one of two boxes has to move to be clear of the other; 0 where they are.
fn depth(a: Option<Rect>, b: Option<Rect>) -> f32 {
    let (Some(a), Some(b)) = (a, b) else {
        return 0.0;
    };
    let across = a.right().min(b.right()) - a.x.max(b.x);
    let down = a.bottom().min(b.bottom()) - a.y.max(b.y);
    across.min(down).max(0.0)
}

/// The farthest that a box reaches out of another.
fn outside(inner: Rect, outer: Rect) -> f32 {
    let ways = [
        outer.x - inner.x,
        outer.y - inner.y,
        inner.right() - outer.right(),
        inner.bottom() - outer.bottom(),
    ];
    ways.into_iter().fold(0.0, f32::max)
}

fn look_at_text(
    node: &Node,
    text: &TextBody,
    (view, options): (&Viewport, &CheckOptions),
    tell: &mut impl FnMut(FindingKind, f32, String),
) {
    let layout = &text.layout;
    let said = layout.text();
    if !layout.missing().is_empty() {
        let count = layout.missing().len();
        let lost = layout.missing_letters();
        let problem = format!("{count} letters are in none of its faces: “{lost}”");
        tell(FindingKind::MissingGlyphs, count as f32, problem);
    }
    for script in layout.unshaped_scripts() {
        tell(FindingKind::UnshapedScript, 1.0, unshaped(script));
    }
    if let Some(cut) = layout.truncated_at() {
        let lost = said.len() - cut.min(said.len());
        let problem = format!("“{}” is shortened", excerpt(said));
        tell(FindingKind::TextDoesNotFit, lost as f32, problem);
    } else if !layout.fits() {
        let lines = layout.lines().iter();
        let width = lines.map(|line| line.width).fold(0.0, f32::max);
        let over = (width - node.rect.width)
            .max(layout.ink().height - node.rect.height)
            .max(0.1);
        let how = match node_overflow(node) {
            Overflow::Clip => "is cut off",
            _ => "reaches out of its box",
        };
        let problem = format!("“{}” {how} by {over:.1} px", excerpt(said));
        tell(FindingKind::TextDoesNotFit, over, problem);
    }
    for style in layout.styles() {
        let scale = style.edges.drawn_scale(view.mapping().scale());
        let size = style.size * scale;
        if size < options.legible - 0.01 {
            let problem = format!(
                "its letters are {size:.1} px, and {} are legible",
                options.legible
            );
            tell(FindingKind::Illegible, options.legible - size, problem);
        }
        let crisp = style
            .face
            .crisp_size(size)
            .filter(|crisp| (crisp - size).abs() > 0.01);
        if let Some(crisp) = crisp {
            let problem =
                format!("its pixel face is drawn at {size} px, and {crisp} px is on its grid");
            tell(FindingKind::OffPixelGrid, (crisp - size).abs(), problem);
        }
    }
}

fn node_overflow(node: &Node) -> Overflow {
    match &node.element.content {
        Content::Text(text) => text.overflow,
        _ => Overflow::Visible,
    }
}

/// The beginning of a text, for a message.
fn excerpt(text: &str) -> String {
    let line = text.lines().next().unwrap_or_default();
    match line.char_indices().nth(32) {
        Some((end, _)) => format!("{}…", &line[..end]),
        None => line.to_owned(),
    }
}
