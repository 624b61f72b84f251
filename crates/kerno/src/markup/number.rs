//! Numbers as text: digits, grouping, sign, by the customs of a place.

use std::fmt::Write;

use fixed_decimal::{
    Decimal, FloatPrecision, Sign, SignDisplay, SignedRoundingMode, UnsignedRoundingMode,
};
use icu_decimal::DecimalFormatter;
use icu_decimal::options::{DecimalFormatterOptions, GroupingStrategy};
use icu_locale_core::Locale;

/// Why numbers can't be written so.
#[derive(thiserror::Error)]
#[non_exhaustive]
pub enum NumberError {
    /// No language tag.
    #[error("“{0}” is no language tag; write one as in BCP 47, such as en, de-CH or ar-EG")]
    Locale(String),
    /// More digits than anybody reads.
    #[error("{what} is {value}; it must be 0 to {most}", most = NumberOptions::MOST_DIGITS)]
    Digits {
        /// The number that is out of range.
        what: &'static str,
        /// The number that was asked for.
        value: u8,
    },
}

crate::base::debug_in_full!(NumberError);

impl NumberError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::Locale { .. } => "number-locale",
            Self::Digits { .. } => "number-digits",
        }
    }
}

/// The numbers that are written with a sign (ECMA-402, `signDisplay`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum NumberSign {
    /// Those below zero. What is rounded to zero has none.
    #[default]
    Negative,
    /// All but zero: gains and losses.
    ExceptZero,
    /// All.
    Always,
    /// None.
    Never,
}

/// Options for writing numbers.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct NumberOptions {
    /// The fewest digits before the point, filled up with zeros. Default 1.
    pub digits: u8,
    /// Digits after the point; the number is rounded, halves away from
    /// zero. Default 0.
    pub decimals: u8,
    /// The numbers that are written with a sign.
    pub sign: NumberSign,
    /// True if digits stand in groups where the language groups them. Default true.
    pub grouping: bool,
}

crate::base::setters! {
    NumberOptions {
        digits: u8,
        decimals: u8,
        sign: NumberSign,
        grouping: bool,
    }
}

impl NumberOptions {
    /// The most digits before the point to be filled up, and after it.
    pub const MOST_DIGITS: u8 = 40;
}

impl Default for NumberOptions {
    fn default() -> Self {
        Self {
            digits: 1,
            decimals: 0,
            sign: NumberSign::Negative,
            grouping: true,
        }
    }
}

/// Writes numbers as a language does (Unicode CLDR): its digits, its separators, its
/// groups. To keep them from dancing see [`Style::tabular`](crate::Style::tabular).
///
/// ```
/// use kerno::markup::{NumberFormat, NumberOptions};
/// let fares = NumberFormat::new("en", NumberOptions::default().digits(4))?;
/// assert_eq!(fares.format(284.0), "0,284");
/// let depth = NumberFormat::new("de", NumberOptions::default().decimals(1))?;
/// assert_eq!(depth.format(-1234.56), "-1.234,6");
/// # Ok::<(), kerno::markup::NumberError>(())
/// ```
#[derive(Debug)]
pub struct NumberFormat {
    formatter: DecimalFormatter,
    options: NumberOptions,
}

impl NumberFormat {
    /// The customs of a language tag (BCP 47), such as `en`, `de-CH` or `ar-EG`.
    ///
    /// # Errors
    /// [`NumberError::Locale`] for what is no tag, [`NumberError::Digits`] for too
    /// many digits. A language that nothing is known of is written as no language
    /// in particular.
    pub fn new(locale: &str, options: NumberOptions) -> Result<Self, NumberError> {
        let unknown = || NumberError::Locale(locale.to_owned());
        for (what, value) in [
            ("the number of digits", options.digits),
            ("the number of decimals", options.decimals),
        ] {
            if value > NumberOptions::MOST_DIGITS {
                return Err(NumberError::Digits { what, value });
            }
        }
        let tag = Locale::try_from_str(locale).map_err(|_| unknown())?;
        let strategy = if options.grouping {
            GroupingStrategy::Auto
        } else {
            GroupingStrategy::Never
        };
        let grouping = DecimalFormatterOptions::from(strategy);
        let formatter = DecimalFormatter::try_new((&tag).into(), grouping);
        Ok(Self {
            formatter: formatter.map_err(|_| unknown())?,
            options,
        })
    }

    /// A number as text. What is no number is `NaN`, and infinity `∞`.
    pub fn format(&self, value: f64) -> String {
        let mut text = String::new();
        self.write(value, &mut text);
        text
    }

    /// Writes a number after a text. Takes no memory but the text’s own for numbers of
    /// up to eight digits.
    pub fn write(&self, value: f64, into: &mut String) {
        let Ok(mut number) = Decimal::try_from_f64(value, FloatPrecision::RoundTrip) else {
            if value.is_nan() {
                into.push_str("NaN");
                return;
            }
            // Signed as a one is.
            let mut one = Decimal::from(1);
            one.set_sign(if value < 0.0 {
                Sign::Negative
            } else {
                Sign::None
            });
            one.apply_sign_display(self.sign_display());
            let text = self.formatter.format(&one).to_string();
            into.extend(text.chars().map(|c| if c.is_numeric() { '∞' } else { c }));
            return;
        };
        let decimals = i16::from(self.options.decimals);
        let half_up = SignedRoundingMode::Unsigned(UnsignedRoundingMode::HalfExpand);
        number.round_with_mode(-decimals, half_up);
        number.trim_end();
        number.pad_end(-decimals);
        number.pad_start(i16::from(self.options.digits));
        number.apply_sign_display(self.sign_display());
        // A string takes all that is written to it.
        let _ = write!(into, "{}", self.formatter.format(&number));
    }

    fn sign_display(&self) -> SignDisplay {
        match self.options.sign {
            NumberSign::Negative => SignDisplay::Negative,
            NumberSign::ExceptZero => SignDisplay::ExceptZero,
            NumberSign::Always => SignDisplay::Always,
            NumberSign::Never => SignDisplay::Never,
        }
    }
}
