//! The timetable by which clusters appear.

use super::{Pace, PaceError};
use crate::text::TextLayout;

/// When each cluster of a text appears: the n-th after n steps of the pace and
/// all rests before it. At time 0 nothing is visible.
///
/// ```no_run
/// use kerno::{Face, Style, TextLayout};
/// use kerno::dialogue::{Pace, Reveal};
/// # let face = Face::from_file("fonts/Lato-Medium.ttf").unwrap();
/// let line = TextLayout::new("Fog, and more fog.", &Style::new(&face, 16.0)).unwrap();
/// let reveal = Reveal::new(&line, &Pace::default())?;
/// let shown = reveal.visible_at(0.25); // clusters; hand it to `Layer::text_part`
/// assert!(reveal.is_done_at(reveal.duration()));
/// # Ok::<(), kerno::dialogue::PaceError>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
pub struct Reveal {
    /// When each cluster appears, in seconds, never falling.
    times: Vec<f64>,
}

impl Reveal {
    /// Makes the timetable.
    ///
    /// # Errors
    /// [`PaceError`] where a number of the pace is out of range.
    pub fn new(layout: &TextLayout, pace: &Pace) -> Result<Self, PaceError> {
        pace.check()?;
        let step = 1.0 / f64::from(pace.clusters_per_second);
        let text = layout.text();
        let mut rests = 0.0;
        let mut rest_due = Rest::None;
        let times = layout
            .clusters()
            .iter()
            .enumerate()
            .map(|(index, cluster)| {
                let cluster = &text[cluster.start as usize..cluster.end as usize];
                let mark = cluster.chars().next().unwrap_or(' ');
                if mark.is_whitespace() || rest_due.needs_no_space(mark) {
                    rests += rest_due.seconds(pace);
                    rest_due = Rest::None;
                }
                rest_due = rest_due.after(mark);
                (index + 1) as f64 * step + rests
            })
            .collect();
        Ok(Self { times })
    }

    /// The number of clusters that are visible `seconds` after the start; none before it
    /// and at a time that is not a number.
    pub fn visible_at(&self, seconds: f64) -> usize {
        self.times.partition_point(|time| *time <= seconds)
    }

    /// When the last cluster appears, in seconds after the start.
    pub fn duration(&self) -> f64 {
        self.times.last().copied().unwrap_or(0.0)
    }

    /// Returns whether all is visible `seconds` after the start.
    pub fn is_done_at(&self, seconds: f64) -> bool {
        self.visible_at(seconds) == self.times.len()
    }
}

/// A rest that punctuation has called for and that begins with the space
/// behind it: so “3.5” and “12:40” are typed in one go, and a closing quote
/// comes before the rest.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Rest {
    None,
    Comma,
    Sentence,
    /// As the two above, by marks of scripts that put no space behind them.
    WideComma,
    WideSentence,
}

impl Rest {
    fn after(self, mark: char) -> Self {
        match mark {
            ',' | ';' | ':' | '–' | '—' | '،' | '؛' => Self::Comma,
            '.' | '!' | '?' | '…' | '؟' | '۔' | '‽' => Self::Sentence,
            '、' | '，' | '；' | '：' => Self::WideComma,
            '。' | '！' | '？' | '．' => Self::WideSentence,
            ')' | ']' | '}' | '"' | '\'' | '”' | '’' | '»' | '›' | '」' | '』' | '）' => {
                self
            }
            _ => Self::None,
        }
    }

    /// Returns whether the rest begins before `next`, though that is no space: behind
    /// wide marks it begins unless another mark or a closing quote follows.
    fn needs_no_space(self, next: char) -> bool {
        matches!(self, Self::WideComma | Self::WideSentence) && self.after(next) == Self::None
    }

    fn seconds(self, pace: &Pace) -> f64 {
        f64::from(match self {
            Self::None => 0.0,
            Self::Comma | Self::WideComma => pace.comma_rest,
            Self::Sentence | Self::WideSentence => pace.sentence_rest,
        })
    }
}
