//! A speech at work.

use std::sync::Arc;

use super::speech::SOUND_INTERVAL;
use super::timetable::MomentKind;
use super::{Page, Speech};
use crate::text::ClusterPose;

/// Plays a [`Speech`]: the game hands in time and presses, and hears what happens. Any split of
/// the time gives the same events in the same order.
#[derive(Clone, Debug)]
pub struct SpeechPlayer {
    speech: Arc<Speech>,
    state: SpeechState,
    /// Seconds since the start at which each cluster was shown.
    appeared: Vec<f32>,
    /// Factor of the pace while a key is held.
    hurry: f64,
    auto: Option<f64>,
    is_at_once: bool,
    /// Seconds since the start at which a letter was heard last.
    heard: f64,
}

/// State of a player in its speech: small data to save.
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(feature = "files", derive(serde::Serialize, serde::Deserialize))]
pub struct SpeechState {
    /// Seconds of the timetable.
    clock: f64,
    /// Seconds since the start, waits counted too.
    elapsed: f64,
    page: usize,
    /// The number of clusters that were shown.
    shown: usize,
    /// The number of moments that are over.
    moments: usize,
    stop: Option<Stop>,
    /// Seconds that it waits already.
    waited: f64,
    /// Where letters move: the seconds since the start at which each of those was shown that are.
    #[cfg_attr(feature = "files", serde(default))]
    appeared: Vec<f32>,
}

/// Why a player waits.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
#[cfg_attr(feature = "files", derive(serde::Serialize, serde::Deserialize))]
pub enum Stop {
    /// A `@wait` of the text.
    Wait,
    /// The page is full, and another one follows.
    PageFull,
    /// All is said.
    Done,
}

/// Class of a cluster, for sounds.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum ClusterClass {
    /// A letter or a figure.
    Letter,
    /// White space.
    Space,
    /// A sprite.
    Sprite,
    /// Anything else.
    Punctuation,
}

/// Something that happened in a speech.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum SpeechEvent<'a> {
    /// A cluster was shown.
    Cluster {
        /// Its index.
        cluster: usize,
        /// Its class.
        class: ClusterClass,
        /// True if it has a sound: not all letters of a quick text have.
        is_audible: bool,
    },
    /// A rest begins, with its length in seconds.
    Rest(f64),
    /// A cue of the text: `@cue(name, …)`.
    Cue {
        /// Its name.
        name: &'a str,
        /// Its other arguments.
        arguments: &'a [(Option<String>, String)],
    },
    /// A page begins, by its number.
    Page(usize),
    /// It waits for a press now.
    Stop(Stop),
}

/// Hears what happens in a speech, each event with the seconds since the start.
pub(super) type OnSpeech<'a> = &'a mut dyn FnMut(f64, SpeechEvent<'_>);

/// The fewest seconds that a text waits before it goes on by itself.
const LEAST_WAIT: f64 = 1.2;

/// The longest time that is played at once, in seconds: more was no time that somebody read.
const LONGEST: f64 = 3600.0;

/// The next event of a page.
enum Next {
    Moment(usize),
    Cluster(usize),
    /// The text scrolls by a line.
    Scroll,
    Stop(Stop),
}

impl SpeechState {
    /// Returns whether all was said.
    pub fn is_done(&self) -> bool {
        self.stop == Some(Stop::Done)
    }
}

impl SpeechPlayer {
    /// A player at the start of a speech.
    pub fn new(speech: impl Into<Arc<Speech>>) -> Self {
        let speech = speech.into();
        Self {
            appeared: vec![f32::NEG_INFINITY; speech.layout().clusters().len()],
            speech,
            state: SpeechState::default(),
            hurry: 1.0,
            auto: None,
            is_at_once: false,
            heard: f64::NEG_INFINITY,
        }
    }

    /// Goes on from where a player of the same speech was. What does not go with the speech is
    /// taken as far as it does: a text that was laid out in another box stays at its letter, and
    /// one that was all said and is longer now goes on from there.
    #[must_use]
    pub fn at(mut self, state: &SpeechState) -> Self {
        let mut state = state.clone();
        let speech = &self.speech;
        let count = speech.layout().clusters().len();
        state.shown = state.shown.min(count);
        let moments = speech.timetable().moments();
        // Those before the last cluster that is shown are over, those after the next are not.
        let over = moments.partition_point(|moment| moment.cluster < state.shown);
        let due = moments.partition_point(|moment| moment.cluster <= state.shown);
        state.moments = state.moments.clamp(over, due);
        let number = |number: f64| {
            if number.is_finite() {
                number.max(0.0)
            } else {
                0.0
            }
        };
        state.clock = number(state.clock);
        state.elapsed = number(state.elapsed);
        state.waited = number(state.waited);
        let pages = speech.pages();
        // Between two pages it may be at the end of the one or at the start of the other.
        let is_in = |page: &Page| (page.clusters.start..=page.clusters.end).contains(&state.shown);
        if !pages.get(state.page).is_some_and(is_in) {
            state.page = pages.iter().position(is_in).unwrap_or_default();
        }
        let end = pages.get(state.page).map_or(0, |page| page.clusters.end);
        let is_full = state.shown >= end;
        let is_last = state.page + 1 >= pages.len();
        let is_still = match state.stop {
            None | Some(Stop::Wait) => true,
            Some(Stop::PageFull) => is_full && !is_last,
            Some(Stop::Done) => is_full && is_last && state.moments == moments.len(),
        };
        if !is_still {
            state.stop = None;
            state.waited = 0.0;
            // By the timetable of this text.
            let last = state.shown.checked_sub(1);
            let time = last.and_then(|last| speech.timetable().time_of(last));
            state.clock = time.unwrap_or_default();
        }
        for (own, known) in self.appeared.iter_mut().zip(state.appeared.drain(..)) {
            *own = if known.is_finite() { known } else { *own };
        }
        self.state = state;
        self
    }

    /// Becomes the same as another player, in the memory that it has where both are of one
    /// speech. Returns whether something that is seen changed.
    #[cfg(feature = "screens")]
    pub(crate) fn become_like(&mut self, other: &Self) -> bool {
        if !Arc::ptr_eq(&self.speech, &other.speech) {
            *self = other.clone();
            return true;
        }
        let is_changed = self.speech.has_motion()
            || (self.state.shown, self.state.page) != (other.state.shown, other.state.page);
        self.state.clone_from(&other.state);
        self.appeared.copy_from_slice(&other.appeared);
        is_changed
    }

    /// Its state, to be saved.
    pub fn state(&self) -> SpeechState {
        let shown = match self.speech.has_motion() {
            true => self.state.shown.min(self.appeared.len()),
            false => 0,
        };
        // What was never timed was there from the start.
        let times = self.appeared[..shown].iter();
        SpeechState {
            appeared: times.map(|time| time.max(f32::MIN)).collect(),
            ..self.state.clone()
        }
    }

    /// The speech.
    pub fn speech(&self) -> &Speech {
        &self.speech
    }

    /// Speeds it up while a key is held: by a factor, 1 for the usual pace.
    pub fn set_hurry(&mut self, factor: f64) {
        self.hurry = if factor > 0.0 && factor.is_finite() {
            factor
        } else {
            1.0
        };
    }

    /// Goes on by itself where it waits, as fast as somebody reads, in clusters a second
    /// of the page, and never at once. None to wait for a press.
    pub fn set_auto_advance(&mut self, clusters_per_second: Option<f64>) {
        self.auto = clusters_per_second.filter(|speed| *speed > 0.0);
    }

    /// Shows each page at once, for readers who want no typing.
    pub fn set_at_once(&mut self, is_at_once: bool) {
        self.is_at_once = is_at_once;
    }

    /// The page that is shown; none for an empty text.
    pub fn page(&self) -> Option<&Page> {
        self.speech.pages().get(self.state.page)
    }

    /// The number of clusters up to which they are visible, counted from the start of the
    /// text.
    pub fn visible(&self) -> usize {
        self.state.shown
    }

    /// Why it waits, if it does.
    pub fn stop(&self) -> Option<Stop> {
        self.state.stop
    }

    /// Returns whether all is said.
    pub fn is_done(&self) -> bool {
        self.state.stop == Some(Stop::Done)
    }

    /// Seconds since the start, waits counted too.
    pub fn elapsed(&self) -> f64 {
        self.state.elapsed
    }

    /// The pose of a cluster now.
    pub fn pose(&self, cluster: usize, is_reduced: bool) -> ClusterPose {
        let appeared = self.appeared.get(cluster).copied().unwrap_or_default();
        self.speech
            .pose(cluster, self.state.elapsed, f64::from(appeared), is_reduced)
    }

    /// Moves on by some seconds; less than 0, and what is no number, is none. Returns the
    /// seconds that are left after all is said.
    pub fn advance(&mut self, seconds: f64, on: &mut dyn FnMut(SpeechEvent<'_>)) -> f64 {
        self.advance_timed(seconds, &mut |_, event| on(event))
    }

    /// As [`SpeechPlayer::advance`], with the seconds of [`SpeechPlayer::elapsed`] at which each
    /// event happens: the same however the time is split.
    pub fn advance_timed(&mut self, seconds: f64, on: OnSpeech<'_>) -> f64 {
        let mut left = if seconds > 0.0 {
            seconds.min(LONGEST)
        } else {
            0.0
        };
        loop {
            match self.state.stop {
                Some(Stop::Done) => {}
                Some(_) => {
                    let wait = self
                        .auto
                        .map(|speed| self.reading_time(speed) - self.state.waited);
                    if let Some(wait) = wait.filter(|wait| *wait <= left) {
                        self.state.elapsed += wait.max(0.0);
                        left -= wait.max(0.0);
                        self.go_on(on);
                        continue;
                    }
                    self.state.waited += left;
                }
                None if self.is_at_once => {
                    self.skip(on);
                    continue;
                }
                None => {
                    left = self.run(left, on);
                    if self.state.stop.is_some() {
                        continue;
                    }
                }
            }
            self.state.elapsed += left;
            return if self.is_done() { left } else { 0.0 };
        }
    }

    /// Goes on where it waits, else shows all up to where it waits next. Returns false where
    /// all is said and seen.
    pub fn press(&mut self, on: &mut dyn FnMut(SpeechEvent<'_>)) -> bool {
        let on: OnSpeech<'_> = &mut |_, event| on(event);
        match self.state.stop {
            Some(Stop::Done) => return false,
            Some(_) => self.go_on(on),
            None => self.skip(on),
        }
        true
    }

    /// Plays until some seconds are over, or it waits; returns the seconds that are left.
    fn run(&mut self, mut left: f64, on: OnSpeech<'_>) -> f64 {
        loop {
            let next = self.next();
            let time = self.time_of(&next);
            let way = (time - self.state.clock).max(0.0) / self.hurry;
            if way > left {
                self.state.clock += left * self.hurry;
                return left;
            }
            left -= way;
            self.state.elapsed += way;
            self.state.clock = self.state.clock.max(time);
            self.take(&next, on);
            if self.state.stop.is_some() {
                return left;
            }
        }
    }

    /// Shows all up to where it waits next, at once.
    fn skip(&mut self, on: OnSpeech<'_>) {
        while self.state.stop.is_none() {
            let next = self.next();
            self.state.clock = self.state.clock.max(self.time_of(&next));
            self.take(&next, on);
        }
    }

    fn go_on(&mut self, on: OnSpeech<'_>) {
        let before = self.state.stop.take();
        self.state.waited = 0.0;
        if before == Some(Stop::PageFull) {
            self.state.page += 1;
            on(self.state.elapsed, SpeechEvent::Page(self.state.page));
        }
    }

    fn next(&self) -> Next {
        let end = self.page().map_or(0, |page| page.clusters.end);
        let moments = self.speech.timetable().moments();
        let moment = moments.get(self.state.moments);
        if moment.is_some_and(|moment| moment.cluster <= self.state.shown) {
            return Next::Moment(self.state.moments);
        }
        if self.state.shown < end {
            return Next::Cluster(self.state.shown);
        }
        match self.state.page + 1 < self.speech.pages().len() {
            true if self.speech.scrolls() => Next::Scroll,
            true => Next::Stop(Stop::PageFull),
            false => Next::Stop(Stop::Done),
        }
    }

    fn time_of(&self, next: &Next) -> f64 {
        let timetable = self.speech.timetable();
        match next {
            Next::Moment(index) => timetable.moments()[*index].seconds,
            Next::Cluster(index) => timetable.time_of(*index).unwrap_or_default(),
            Next::Stop(Stop::Done) => timetable.duration(),
            Next::Scroll | Next::Stop(_) => self.state.clock,
        }
    }

    fn take(&mut self, next: &Next, on: OnSpeech<'_>) {
        let (speech, now) = (&self.speech, self.state.elapsed);
        match *next {
            Next::Moment(index) => {
                self.state.moments += 1;
                match speech.timetable().moments()[index].kind {
                    MomentKind::Rest(seconds) => on(now, SpeechEvent::Rest(seconds)),
                    MomentKind::Wait => self.halt(Stop::Wait, on),
                    MomentKind::Cue(mark) => {
                        let arguments = speech.layout().marks()[mark].arguments.as_slice();
                        if let [(_, name), rest @ ..] = arguments {
                            let cue = SpeechEvent::Cue {
                                name,
                                arguments: rest,
                            };
                            on(now, cue);
                        }
                    }
                }
            }
            Next::Cluster(cluster) => {
                self.state.shown += 1;
                if let Some(appeared) = self.appeared.get_mut(cluster) {
                    *appeared = self.state.elapsed as f32;
                }
                // Letters that are shown at once, or in a hurry, are not all heard.
                let is_audible = speech.is_audible(cluster)
                    && now - self.heard >= SOUND_INTERVAL - SOUND_INTERVAL * 0.01;
                if is_audible {
                    self.heard = now;
                }
                let shown = SpeechEvent::Cluster {
                    cluster,
                    class: class(speech, cluster),
                    is_audible,
                };
                on(now, shown);
            }
            Next::Scroll => {
                self.state.page += 1;
                on(self.state.elapsed, SpeechEvent::Page(self.state.page));
            }
            Next::Stop(stop) => self.halt(stop, on),
        }
    }

    fn halt(&mut self, stop: Stop, on: OnSpeech<'_>) {
        self.state.stop = Some(stop);
        self.state.waited = 0.0;
        on(self.state.elapsed, SpeechEvent::Stop(stop));
    }

    /// Seconds that it takes to read the page, at a number of clusters a second.
    pub(super) fn reading_time(&self, speed: f64) -> f64 {
        let first = self.page().map_or(0, |page| page.clusters.start);
        let count = self.state.shown.saturating_sub(first) as f64;
        (count / speed).max(LEAST_WAIT)
    }
}

fn class(speech: &Speech, cluster: usize) -> ClusterClass {
    let layout = speech.layout();
    let cluster = &layout.clusters()[cluster];
    let part = &layout.text()[cluster.start as usize..cluster.end as usize];
    match part.chars().next() {
        Some('\u{fffc}') => ClusterClass::Sprite,
        Some(letter) if letter.is_whitespace() => ClusterClass::Space,
        Some(letter) if letter.is_alphanumeric() => ClusterClass::Letter,
        _ => ClusterClass::Punctuation,
    }
}
