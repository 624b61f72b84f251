//! The timetable by which clusters appear.

use super::instruction::Instruction;
use super::rest::Rest;
use super::{Pace, PaceError};
use crate::text::{Mark, TextLayout};

/// The times at which the clusters of a text appear, each after one step of the pace and all
/// rests before it, and what happens between them. At time 0 nothing is visible. It has no
/// clock and no state: any time can be asked for, in any order.
///
/// ```no_run
/// use kerno::{Face, Style, TextLayout};
/// use kerno::dialogue::{Pace, Timetable};
/// # let face = Face::from_file("fonts/Lato-Medium.ttf").unwrap();
/// let line = TextLayout::new("Fog, and more fog.", &Style::new(&face, 16.0)).unwrap();
/// let timetable = Timetable::new(&line, &Pace::default())?;
/// let shown = timetable.visible_at(0.25); // clusters: `DrawText::visible`
/// assert!(timetable.is_done_at(timetable.duration()));
/// # Ok::<(), kerno::dialogue::TimetableError>(())
/// ```
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Timetable {
    /// The time of each cluster, in seconds, never falling.
    times: Vec<f64>,
    moments: Vec<Moment>,
}

/// Something that happens between two clusters.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Moment {
    /// Seconds from the start.
    pub seconds: f64,
    /// The cluster before which it is.
    pub cluster: usize,
    /// The event.
    pub kind: MomentKind,
}

/// Events between two clusters.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum MomentKind {
    /// A rest begins, with its length in seconds.
    Rest(f64),
    /// The text waits for a key.
    Wait,
    /// A cue for the game: the mark of a number, of [`TextLayout::marks`].
    Cue(usize),
}

/// Why no timetable can be made.
#[derive(Clone, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum TimetableError {
    /// A number of the pace is out of range.
    #[error(transparent)]
    Pace(#[from] PaceError),
    /// A mark of the text means nothing.
    #[error("{problem}")]
    Mark {
        /// The byte of the text that it is before.
        byte: usize,
        /// The problem, in a sentence.
        problem: String,
    },
    /// Times of words that don't go with the text.
    #[error("{problem}")]
    Words {
        /// The problem, in a sentence.
        problem: String,
    },
}

crate::base::debug_in_full!(TimetableError);

impl TimetableError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Pace(error) => error.code(),
            Self::Mark { .. } => "timetable-mark",
            Self::Words { .. } => "timetable-words",
        }
    }
}

/// A part of the text with a pace of its own, in bytes.
struct Stretch {
    start: usize,
    end: usize,
    /// Factor of the pace; none where all of it appears at once.
    factor: Option<f64>,
}

impl Stretch {
    /// The factor of the pace at a byte, and whether what is there appears with what is before.
    fn at(open: &[Self], byte: usize) -> (f64, bool) {
        let factors = open.iter().filter_map(|stretch| stretch.factor);
        let follows = |stretch: &Self| stretch.factor.is_none() && stretch.start < byte;
        (factors.product(), open.iter().any(follows))
    }
}

/// A timetable on its way.
#[derive(Default)]
struct Writing {
    table: Timetable,
    now: f64,
}

impl Writing {
    /// Adds something that happens now, before the next cluster. A rest takes its time.
    fn happen(&mut self, kind: MomentKind) {
        let rest = match kind {
            MomentKind::Rest(seconds) if seconds <= 0.0 => return,
            MomentKind::Rest(seconds) => seconds,
            _ => 0.0,
        };
        self.table.moments.push(Moment {
            seconds: self.now,
            cluster: self.table.times.len(),
            kind,
        });
        self.now += rest;
    }

    /// Shows the next cluster after some seconds.
    fn show(&mut self, after: f64) {
        self.now += after;
        self.table.times.push(self.now);
    }
}

/// A mark between two clusters.
struct Point {
    byte: usize,
    kind: MomentKind,
}

impl Timetable {
    /// Makes the timetable of a text with its marks: those of
    /// [`with_spoken_names`](super::with_spoken_names).
    ///
    /// # Errors
    /// [`TimetableError`] where a number of the pace is out of range, or a mark is not as it
    /// should be.
    pub fn new(layout: &TextLayout, pace: &Pace) -> Result<Self, TimetableError> {
        pace.check()?;
        let (points, stretches) = instructions(layout.marks())?;
        let mut points = points.into_iter().peekable();
        let mut stretches = stretches.into_iter().peekable();
        let mut open: Vec<Stretch> = Vec::new();
        let step = 1.0 / f64::from(pace.clusters_per_second);
        let (text, clusters) = (layout.text(), layout.clusters());
        let mut writing = Writing::default();
        writing.table.times.reserve(clusters.len());
        let (mut due, mut before) = (Rest::None, ' ');
        for (index, cluster) in clusters.iter().enumerate() {
            let start = cluster.start as usize;
            while let Some(point) = points.next_if(|point| point.byte <= start) {
                writing.happen(point.kind);
            }
            while let Some(stretch) = stretches.next_if(|stretch| stretch.start <= start) {
                open.push(stretch);
            }
            open.retain(|stretch| start < stretch.end);
            let (factor, follows) = Stretch::at(&open, start);
            let part = &text[start..cluster.end as usize];
            let mark = part.chars().next().unwrap_or(' ');
            let is_rest = mark.is_whitespace() || due.needs_no_space(mark);
            if is_rest && !follows {
                writing.happen(MomentKind::Rest(due.seconds(pace) / factor));
            }
            if is_rest {
                due = Rest::None;
            }
            let is_new_line = index > 0 && clusters[index - 1].line != cluster.line;
            if is_new_line && !follows {
                writing.happen(MomentKind::Rest(f64::from(pace.line_rest)));
            }
            due = due.after(mark, before);
            before = mark;
            writing.show(if follows { 0.0 } else { step / factor });
        }
        for point in points {
            writing.happen(point.kind);
        }
        Ok(writing.table)
    }

    /// The number of clusters that are visible `seconds` after the start; none before it
    /// and at a time that is not a number.
    pub fn visible_at(&self, seconds: f64) -> usize {
        self.times.partition_point(|time| *time <= seconds)
    }

    /// The time at which a cluster appears, in seconds after the start.
    pub fn time_of(&self, cluster: usize) -> Option<f64> {
        self.times.get(cluster).copied()
    }

    /// The time at which all has appeared and happened, in seconds after the start.
    pub fn duration(&self) -> f64 {
        let last = self.moments.last().map_or(0.0, |moment| match moment.kind {
            MomentKind::Rest(seconds) => moment.seconds + seconds,
            _ => moment.seconds,
        });
        self.times.last().copied().unwrap_or(0.0).max(last)
    }

    /// Returns whether all is visible `seconds` after the start.
    pub fn is_done_at(&self, seconds: f64) -> bool {
        self.visible_at(seconds) == self.times.len()
    }

    /// Events between clusters, in their order.
    pub fn moments(&self) -> &[Moment] {
        &self.moments
    }

    /// The same timetable, made to last a number of seconds: as long as a recorded voice.
    ///
    /// # Errors
    /// [`TimetableError::Words`] unless the length is above 0 and finite.
    pub fn lasting(mut self, seconds: f64) -> Result<Self, TimetableError> {
        if !(seconds > 0.0 && seconds.is_finite()) {
            let problem = format!("a line of {seconds} seconds: it must be above 0 and finite");
            return Err(TimetableError::Words { problem });
        }
        let duration = self.duration();
        let factor = if duration > 0.0 {
            seconds / duration
        } else {
            1.0
        };
        for time in &mut self.times {
            *time *= factor;
        }
        for moment in &mut self.moments {
            moment.seconds *= factor;
            if let MomentKind::Rest(rest) = &mut moment.kind {
                *rest *= factor;
            }
        }
        Ok(self)
    }

    /// The same text by the times at which its words begin, in seconds: those of a recorded
    /// voice. A word is what stands between white space. Its clusters appear evenly until the
    /// next word, at the pace that it had at most; rests and waits are as the voice has them.
    ///
    /// # Errors
    /// [`TimetableError::Words`] unless there is a time for each word, none before the other.
    pub fn by_words(&self, layout: &TextLayout, words: &[f64]) -> Result<Self, TimetableError> {
        let fault = |problem: String| Err(TimetableError::Words { problem });
        let starts = word_starts(layout);
        if starts.len() != words.len() {
            let (there, given) = (starts.len(), words.len());
            return fault(format!(
                "the text has {there} words, and {given} times are given"
            ));
        }
        if words.iter().any(|time| !(*time >= 0.0 && time.is_finite()))
            || words.windows(2).any(|pair| pair[1] < pair[0])
        {
            return fault("the times of words are 0 or more seconds, none before the other".into());
        }
        let mut times = vec![0.0; self.times.len()];
        let ends = starts.iter().skip(1).copied().chain([self.times.len()]);
        for (at, (start, end)) in starts.iter().zip(ends).enumerate() {
            let count = (end - start) as f64;
            let own = self.times[end - 1] - self.times[*start];
            let room = words.get(at + 1).map_or(own, |next| next - words[at]);
            let step = own.min(room) / count.max(1.0);
            for (index, time) in times[*start..end].iter_mut().enumerate() {
                *time = words[at] + step * index as f64;
            }
        }
        let cues = self.moments.iter().filter_map(|moment| match moment.kind {
            MomentKind::Rest(_) => None,
            _ => Some(Moment {
                seconds: match moment.cluster.checked_sub(1) {
                    Some(before) => times[before],
                    None => 0.0,
                },
                ..*moment
            }),
        });
        Ok(Self {
            moments: cues.collect(),
            times,
        })
    }
}

/// The clusters at which words begin.
pub(super) fn word_starts(layout: &TextLayout) -> Vec<usize> {
    let text = layout.text();
    let mut is_between = true;
    let mut starts = Vec::new();
    for (index, cluster) in layout.clusters().iter().enumerate() {
        let part = &text[cluster.start as usize..cluster.end as usize];
        let is_space = part.chars().all(char::is_whitespace);
        if is_between && !is_space {
            starts.push(index);
        }
        is_between = is_space;
    }
    starts
}

/// Refuses a mark that means nothing.
#[cfg(feature = "screens")]
pub(super) fn check_mark(mark: &Mark) -> Result<(), String> {
    Instruction::of(mark).map(|_| ())
}

/// Reads the marks of a text: those between clusters, and those along a part of it.
fn instructions(marks: &[Mark]) -> Result<(Vec<Point>, Vec<Stretch>), TimetableError> {
    let (mut points, mut stretches) = (Vec::new(), Vec::new());
    for (index, mark) in marks.iter().enumerate() {
        let byte = mark.bytes.start;
        let read = Instruction::of(mark);
        let instruction = read.map_err(|problem| TimetableError::Mark { byte, problem })?;
        let mut stretch = |factor| {
            stretches.push(Stretch {
                start: byte,
                end: mark.bytes.end,
                factor,
            });
        };
        let kind = match instruction {
            Instruction::Pause(seconds) => MomentKind::Rest(seconds),
            Instruction::Wait => MomentKind::Wait,
            Instruction::Cue => MomentKind::Cue(index),
            Instruction::Pace(factor) => {
                stretch(Some(factor));
                continue;
            }
            Instruction::AtOnce => {
                stretch(None);
                continue;
            }
            Instruction::Motion(_) | Instruction::Other => continue,
        };
        points.push(Point { byte, kind });
    }
    points.sort_by_key(|point| point.byte);
    stretches.sort_by_key(|stretch| stretch.start);
    Ok((points, stretches))
}
