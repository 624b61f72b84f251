//! A text as it is spoken.

use std::ops::Range;
use std::sync::Arc;

use super::instruction::Instruction;
use super::motion::{LetterMotion, MotionMoment};
use super::pages::scrolling;
use super::{Pace, Page, PageSize, Timetable, TimetableError, pages};
use crate::text::{ClusterPose, TextLayout};

/// A text as it is spoken: its layout, its timetable, its pages, and the motions of its
/// letters. It does not change; a [`SpeechPlayer`](super::SpeechPlayer) plays it.
///
/// ```no_run
/// use kerno::dialogue::{Pace, PageSize, Speech, SpeechPlayer, with_spoken_names};
/// use kerno::markup::Markup;
/// use kerno::text::{LayoutContext, LayoutOptions, Wrap};
/// # use kerno::{Face, Style};
/// # let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let markup = with_spoken_names(Markup::new());
/// let text = markup.read("Fog bank ahead@pause(0.4)… @shake{Ferryman!}", &Style::new(&face, 16.0))?;
/// let options = LayoutOptions::default().width(416.0).wrap(Wrap::Greedy);
/// let layout = text.lay_out(&options, &mut LayoutContext::new())?;
/// let speech = Speech::new(layout, &Pace::default(), PageSize::Lines(3))?;
/// let mut player = SpeechPlayer::new(speech);
/// player.advance(1.0 / 60.0, &mut |event| println!("{event:?}"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone)]
pub struct Speech {
    layout: TextLayout,
    timetable: Timetable,
    pages: Vec<Page>,
    scrolls: bool,
    motions: Vec<SpanMotion>,
    /// For each cluster whether it has a sound.
    audible: Vec<bool>,
}

/// A motion of a game's own: the pose of a letter at a moment.
pub type OwnMotion = Arc<dyn Fn(MotionMoment) -> ClusterPose + Send + Sync>;

/// A part of the text in motion.
#[derive(Clone)]
struct SpanMotion {
    clusters: Range<usize>,
    motion: Moving,
}

#[derive(Clone)]
enum Moving {
    Named(LetterMotion),
    Own(OwnMotion),
}

impl std::fmt::Debug for Speech {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Speech")
            .field("text", &self.layout.text())
            .field("pages", &self.pages.len())
            .finish_non_exhaustive()
    }
}

/// The least seconds between two sounds of letters.
pub(super) const SOUND_INTERVAL: f64 = 0.06;

impl Speech {
    /// Makes the timetable and the pages of a text.
    ///
    /// # Errors
    /// [`TimetableError`] where a number of the pace is out of range, or a mark is not as it
    /// should be.
    pub fn new(layout: TextLayout, pace: &Pace, size: PageSize) -> Result<Self, TimetableError> {
        let timetable = Timetable::new(&layout, pace)?;
        let mut motions = Vec::new();
        for mark in layout.marks() {
            if let Ok(Instruction::Motion(motion)) = Instruction::of(mark) {
                motions.push(SpanMotion {
                    clusters: clusters(&layout, &mark.bytes),
                    motion: Moving::Named(motion),
                });
            }
        }
        Ok(Self {
            audible: audible(&layout, &timetable),
            pages: pages(&layout, size),
            timetable,
            scrolls: false,
            motions,
            layout,
        })
    }

    /// The same text by another timetable: one that goes with a recorded voice.
    #[must_use]
    pub fn with_timetable(mut self, timetable: Timetable) -> Self {
        self.audible = audible(&self.layout, &timetable);
        self.timetable = timetable;
        self
    }

    /// The same text, that scrolls by lines in place of going on to pages: where the box is
    /// full, its first line makes room for the next one, without a press.
    #[must_use]
    pub fn scrolling(mut self, size: PageSize) -> Self {
        self.pages = scrolling(&self.layout, size);
        self.scrolls = true;
        self
    }

    /// Returns whether it scrolls by lines.
    pub fn scrolls(&self) -> bool {
        self.scrolls
    }

    /// Moves the parts with a mark of a name by a motion of one's own.
    #[must_use]
    pub fn with_motion(mut self, name: &str, motion: &OwnMotion) -> Self {
        let own = self.layout.marks().iter().filter(|mark| mark.name == name);
        let own = own.map(|mark| SpanMotion {
            clusters: clusters(&self.layout, &mark.bytes),
            motion: Moving::Own(motion.clone()),
        });
        let own: Vec<SpanMotion> = own.collect();
        self.motions.extend(own);
        self
    }

    /// The text.
    pub fn layout(&self) -> &TextLayout {
        &self.layout
    }

    /// Its timetable.
    pub fn timetable(&self) -> &Timetable {
        &self.timetable
    }

    /// Its pages; none for an empty text.
    pub fn pages(&self) -> &[Page] {
        &self.pages
    }

    /// Returns whether some of its letters move.
    pub fn has_motion(&self) -> bool {
        !self.motions.is_empty()
    }

    /// Returns whether a cluster has a sound: it is seen, and the one before was long enough
    /// ago.
    pub fn is_audible(&self, cluster: usize) -> bool {
        self.audible.get(cluster).copied().unwrap_or_default()
    }

    /// The pose of a cluster, by the seconds since the text began, `appeared` seconds of which
    /// had gone by when it was shown.
    pub fn pose(
        &self,
        cluster: usize,
        seconds: f64,
        appeared: f64,
        is_reduced: bool,
    ) -> ClusterPose {
        let own = self.motions.iter();
        let own = own.filter(|motion| motion.clusters.contains(&cluster));
        own.fold(ClusterPose::STILL, |pose, motion| {
            let index = cluster - motion.clusters.start;
            let moment = MotionMoment::new(index, seconds, (seconds - appeared).max(0.0));
            pose.and(match &motion.motion {
                Moving::Named(named) => named.pose(moment, is_reduced),
                Moving::Own(own) => own(moment),
            })
        })
    }
}

/// The clusters of a part of a text in bytes.
fn clusters(layout: &TextLayout, bytes: &Range<usize>) -> Range<usize> {
    let all = layout.clusters();
    let at = |byte: usize| all.partition_point(|cluster| (cluster.start as usize) < byte);
    at(bytes.start)..at(bytes.end)
}

/// Returns whether each cluster has a sound: letters and figures, not all of a quick text.
fn audible(layout: &TextLayout, timetable: &Timetable) -> Vec<bool> {
    let mut last = f64::NEG_INFINITY;
    let text = layout.text();
    let clusters = layout.clusters().iter().enumerate();
    let is_audible = |(index, cluster): (usize, &crate::text::Cluster)| {
        let part = &text[cluster.start as usize..cluster.end as usize];
        let time = timetable.time_of(index).unwrap_or_default();
        let sounds = part.chars().any(char::is_alphanumeric) && time - last >= SOUND_INTERVAL;
        if sounds {
            last = time;
        }
        sounds
    };
    clusters.map(is_audible).collect()
}
