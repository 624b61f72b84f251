//! Numbers as text. Expected forms are those of the Unicode CLDR's number symbols.

use kerno::markup::{NumberError, NumberFormat, NumberOptions, NumberSign};
use kerno::{Style, TextLayout};
use proptest::prelude::*;

use crate::support::lato;

fn written(language: &str, value: f64, options: NumberOptions) -> String {
    let format = NumberFormat::new(language, options).expect("a language");
    format.format(value)
}

#[test]
fn languages_group_and_part_digits_in_their_own_ways() {
    let halves = NumberOptions::default().decimals(1);
    for (language, expected) in [
        ("en", "1,234,567.5"),
        ("de", "1.234.567,5"),
        ("en-IN", "12,34,567.5"),
        ("fr", "1\u{202f}234\u{202f}567,5"),
        ("hi", "12,34,567.5"),
        ("ar-EG", "١٬٢٣٤٬٥٦٧٫٥"),
    ] {
        assert_eq!(
            written(language, 1_234_567.5, halves),
            expected,
            "{language}"
        );
    }
    // Spanish groups from five digits on.
    assert_eq!(written("es", 1234.0, NumberOptions::default()), "1234");
    assert_eq!(written("es", 12345.0, NumberOptions::default()), "12.345");
    let ungrouped = NumberOptions::default().grouping(false);
    assert_eq!(written("en", 1_234_567.0, ungrouped), "1234567");
}

#[test]
fn digits_are_filled_up_and_rounded() {
    let options = |digits, decimals| NumberOptions::default().digits(digits).decimals(decimals);
    assert_eq!(written("en", 7.0, options(3, 0)), "007");
    assert_eq!(written("en", 12.0, options(1, 2)), "12.00");
    // Halves away from zero.
    assert_eq!(written("en", 0.5, NumberOptions::default()), "1");
    assert_eq!(written("en", -2.5, NumberOptions::default()), "-3");
    assert_eq!(written("en", 1.005, options(1, 2)), "1.01");
    assert_eq!(written("en", f64::NAN, NumberOptions::default()), "NaN");
    assert_eq!(
        written("en", f64::NEG_INFINITY, NumberOptions::default()),
        "-∞"
    );
}

#[test]
fn signs_stand_where_they_are_asked_for() {
    let signs = |value| {
        [
            NumberSign::Negative,
            NumberSign::ExceptZero,
            NumberSign::Always,
            NumberSign::Never,
        ]
        .map(|sign| written("en", value, NumberOptions::default().sign(sign)))
    };
    assert_eq!(signs(12.0), ["12", "+12", "+12", "12"]);
    assert_eq!(signs(-12.0), ["-12", "-12", "-12", "12"]);
    assert_eq!(signs(0.0), ["0", "0", "+0", "0"]);
    // A number that is rounded to nothing has no sign.
    assert_eq!(signs(-0.4)[0], "0");
}

#[test]
fn what_cannot_be_written_is_told() {
    let error = NumberFormat::new("no such tag", NumberOptions::default()).expect_err("no tag");
    assert!(matches!(error, NumberError::Locale(_)));
    let many = NumberOptions::default().digits(41);
    let error = NumberFormat::new("en", many).expect_err("too many");
    assert_eq!(
        error.to_string(),
        "the number of digits is 41; it must be 0 to 40"
    );
}

proptest! {
    /// Without groups an integer reads back as itself, and a score of as many digits is
    /// as wide whatever it is.
    #[test]
    fn scores_read_back_and_do_not_dance(value in 0_u32..1_000_000) {
        let options = NumberOptions::default().digits(6);
        let plain = options.grouping(false);
        let text = written("en", f64::from(value), plain);
        prop_assert_eq!(text.parse::<u32>().expect("digits"), value);
        let style = Style::new(&lato(), 20.0).tabular(true);
        let width = |value| {
            let text = written("en", value, options);
            TextLayout::new(&text, &style).expect("a layout").size().width
        };
        prop_assert!((width(f64::from(value)) - width(888_888.0)).abs() < 0.01);
    }
}
