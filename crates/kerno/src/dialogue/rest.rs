//! Rests that punctuation calls for.

use super::Pace;

/// A rest that punctuation has called for and that begins with the space after it: so “3.5”
/// and “12:40” are typed in one go, and a closing quote comes before the rest.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum Rest {
    None,
    Comma,
    Sentence,
    Ellipsis,
    /// As comma and sentence, by marks of scripts that put no space after them.
    WideComma,
    WideSentence,
}

impl Rest {
    /// The rest that is due after a mark, which follows `before`.
    pub(super) fn after(self, mark: char, before: char) -> Self {
        match mark {
            // The Greek question mark looks like a semicolon, and is mostly typed as one.
            ';' if is_greek(before) => Self::Sentence,
            ',' | ';' | ':' | '–' | '—' | '،' | '؛' | '՝' | '፣' | '፤' => Self::Comma,
            '…' => Self::Ellipsis,
            '.' if before == '.' => Self::Ellipsis,
            '.' | '!' | '?' | '؟' | '۔' | '‽' | '։' | '።' | '।' | '॥' | '\u{37e}' => {
                Self::Sentence
            }
            '、' | '，' | '；' | '：' => Self::WideComma,
            '。' | '！' | '？' | '．' => Self::WideSentence,
            ')' | ']' | '}' | '"' | '\'' | '”' | '’' | '»' | '›' | '」' | '』' | '）' => {
                self
            }
            _ => Self::None,
        }
    }

    /// Returns whether the rest begins before `next`, though that is no space: after
    /// wide marks it begins unless another mark or a closing quote follows.
    pub(super) fn needs_no_space(self, next: char) -> bool {
        let is_wide = matches!(self, Self::WideComma | Self::WideSentence);
        is_wide && self.after(next, ' ') == Self::None
    }

    /// Returns whether it ends a sentence.
    pub(super) fn ends_sentence(self) -> bool {
        matches!(self, Self::Sentence | Self::Ellipsis | Self::WideSentence)
    }

    pub(super) fn seconds(self, pace: &Pace) -> f64 {
        f64::from(match self {
            Self::None => 0.0,
            Self::Comma | Self::WideComma => pace.comma_rest,
            Self::Ellipsis => pace.ellipsis_rest,
            Self::Sentence | Self::WideSentence => pace.sentence_rest,
        })
    }
}

fn is_greek(letter: char) -> bool {
    matches!(letter, '\u{370}'..='\u{3ff}' | '\u{1f00}'..='\u{1fff}')
}
