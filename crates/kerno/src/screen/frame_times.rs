//! A chart of what frames take.

use std::fmt::Write;

use crate::atlas::AtlasError;
use crate::base::{Anchor, Color, Insets, Offset, Point, Rect};
use crate::draw::{DrawText, RectStyle, Scope};
use crate::font::Face;
use crate::text::{LayoutContext, Style, TextError, TextLayout};

/// Frames that the chart remembers.
const FRAMES: usize = 120;

/// Frames after which the numbers are written anew: often enough, and slow enough to be read.
const RENEWED: usize = 20;

const PLATE: Color = Color::rgba(0x0c, 0x14, 0x1c, 0xd8);
const LINE: Color = Color::rgba(0xff, 0xff, 0xff, 0x90);
const COLORS: [Color; 6] = [
    Color::rgb(0xff, 0xcf, 0x70),
    Color::rgb(0x7c, 0xc4, 0xb8),
    Color::rgb(0xe0, 0x8a, 0x6a),
    Color::rgb(0x9a, 0xb4, 0xe0),
    Color::rgb(0xc6, 0xa0, 0xd4),
    Color::rgb(0xb8, 0xcc, 0x88),
];

/// A chart of what the phases of a frame take: a bar for each of the last 120 frames, and the
/// median and the longest time of each phase. It is drawn over the game by the one who builds
/// it; times are handed in, for Kerno has no clock.
///
/// ```no_run
/// use kerno::{Atlas, Face, FrameBuilder, Rect, base::Mapping, screen::FrameTimes};
/// let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let mut times = FrameTimes::new(&face, &["layout", "frame", "upload"])?;
/// let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
/// // Every frame, the times in seconds:
/// times.record(&[0.000_2, 0.000_1, 0.000_05]);
/// let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
/// times.draw(&mut frame, Rect::new(12.0, 12.0, 260.0, 96.0))?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug)]
pub struct FrameTimes {
    phases: Vec<Phase>,
    /// Seconds of a frame that the chart is as high as.
    budget: f32,
    /// The budget, written at its line.
    budget_label: TextLayout,
    /// Frames so far, and the place of the next one.
    count: usize,
    sorted: Vec<f32>,
    words: String,
    context: LayoutContext,
}

#[derive(Debug)]
struct Phase {
    name: String,
    /// Seconds, the place after the newest one first.
    seconds: [f32; FRAMES],
    label: TextLayout,
}

impl FrameTimes {
    /// A chart of phases by their names, six at most, in the order in which they are recorded.
    /// Further ones have no colour of their own.
    ///
    /// # Errors
    /// As [`TextLayout::new`].
    pub fn new(face: &Face, phases: &[&str]) -> Result<Self, TextError> {
        let phase = |(index, name): (usize, &&str)| {
            let style = Style::new(face, 11.0)
                .color(COLORS[index % COLORS.len()])
                .tabular(true);
            Ok(Phase {
                name: (*name).to_owned(),
                seconds: [0.0; FRAMES],
                label: TextLayout::new(name, &style)?,
            })
        };
        Ok(Self {
            phases: phases
                .iter()
                .enumerate()
                .map(phase)
                .collect::<Result<_, TextError>>()?,
            budget: 1.0 / 60.0,
            budget_label: TextLayout::new("16.7 ms", &Style::new(face, 9.0).color(LINE))?,
            count: 0,
            sorted: Vec::with_capacity(FRAMES),
            words: String::new(),
            context: LayoutContext::new(),
        })
    }

    /// Sets the time of a frame that fills the chart, in seconds, above 0. Default: 1/60.
    #[must_use]
    pub fn budget(mut self, seconds: f32) -> Self {
        self.budget = seconds;
        let words = format!("{:.1} ms", seconds * 1e3);
        let set = self.budget_label.set_text(0, &words);
        debug_assert!(set.is_ok(), "a short text in one span");
        self
    }

    /// Takes in a frame: seconds for each phase; those that are missing count as 0.
    pub fn record(&mut self, seconds: &[f32]) {
        let at = self.count % FRAMES;
        let seconds = seconds.iter().copied().chain(std::iter::repeat(0.0));
        for (phase, seconds) in self.phases.iter_mut().zip(seconds) {
            phase.seconds[at] = seconds.max(0.0);
        }
        self.count += 1;
    }

    /// The median and the longest time of a phase among the frames that are remembered, in
    /// seconds; nothing before the first frame, and for a phase that there is not.
    pub fn median_and_longest(&mut self, phase: usize) -> Option<(f32, f32)> {
        let known = self.count.min(FRAMES);
        let seconds = &self.phases.get(phase)?.seconds[..known];
        self.sorted.clear();
        self.sorted.extend_from_slice(seconds);
        self.sorted.sort_unstable_by(f32::total_cmp);
        Some((*self.sorted.get(known / 2)?, *self.sorted.last()?))
    }

    /// Draws the chart into a rectangle.
    ///
    /// # Errors
    /// [`AtlasError`] where pictures find no room.
    pub fn draw(&mut self, scope: &mut Scope<'_>, rect: Rect) -> Result<(), AtlasError> {
        if self.count % RENEWED == 1 || self.count < RENEWED {
            self.renew();
        }
        scope.styled_rect(rect, RectStyle::filled(PLATE).radius(6.0))?;
        let inner = rect.inset(Insets::all(8.0));
        let mut at = Point::new(inner.x, inner.y);
        for phase in &self.phases {
            scope.text(&phase.label, DrawText::at(at, Anchor::TOP_LEFT))?;
            at = at + Offset::new(0.0, phase.label.size().height);
        }
        let chart = Rect::new(
            inner.x,
            at.y + 4.0,
            inner.width,
            inner.bottom() - at.y - 4.0,
        );
        if chart.height > 0.0 {
            self.draw_bars(scope, chart);
            let end = DrawText::at(chart.point(Anchor::TOP_RIGHT), Anchor::BOTTOM_RIGHT);
            scope.text(&self.budget_label, end)?;
        }
        Ok(())
    }

    /// A bar for each frame, the newest at the right, its phases upon each other.
    fn draw_bars(&self, scope: &mut Scope<'_>, chart: Rect) {
        let step = chart.width / FRAMES as f32;
        for age in 0..self.count.min(FRAMES) {
            let frame = (self.count - 1 - age) % FRAMES;
            let left = chart.right() - (age + 1) as f32 * step;
            let mut floor = chart.bottom();
            for (index, phase) in self.phases.iter().enumerate() {
                let height = phase.seconds[frame] / self.budget * chart.height;
                let height = height.min(floor - chart.y);
                let bar = Rect::new(left, floor - height, step, height);
                scope.rect(bar, COLORS[index % COLORS.len()]);
                floor -= height;
            }
        }
        scope.rect(Rect::new(chart.x, chart.y, chart.width, 1.0), LINE);
    }

    /// Writes the numbers anew.
    fn renew(&mut self) {
        for index in 0..self.phases.len() {
            let Some((median, longest)) = self.median_and_longest(index) else {
                return;
            };
            let phase = &mut self.phases[index];
            self.words.clear();
            let (median, longest) = (median * 1e3, longest * 1e3);
            // A string takes what is written.
            let _ = write!(
                self.words,
                "{} {median:.2} ms, at most {longest:.2}",
                phase.name
            );
            let set = self.context.set_text(&mut phase.label, 0, &self.words);
            debug_assert!(set.is_ok(), "a short text in one span");
        }
    }
}
