//! Text in both directions, held to the standard's own test.

use kerno::text::{Direction, LayoutOptions, Span};
use kerno::{Style, TextLayout};

use crate::support::lato;

/// Some of the cases of the Unicode Character Database's test of UAX #9.
static CASES: &str = include_str!("../data/bidi_cases.txt");

#[test]
fn text_is_ordered_as_the_test_of_the_standard_says() {
    let style = Style::new(&lato(), 16.0);
    let mut checked = 0;
    for case in CASES.lines().filter(|line| !line.starts_with('#')) {
        let fields: Vec<&str> = case.split(';').collect();
        let [characters, direction, paragraph, levels, order] = fields[..] else {
            panic!("{case}");
        };
        let character = |code: &str| {
            let code = u32::from_str_radix(code, 16).expect("a code point");
            char::from_u32(code).expect("a character")
        };
        let text: String = characters.split(' ').map(character).collect();
        let options = LayoutOptions::default()
            .direction(match direction {
                "0" => Direction::LeftToRight,
                "1" => Direction::RightToLeft,
                _ => Direction::Auto,
            })
            // So wide that nothing wraps; with a width, white space at the end hangs.
            .width(100_000.0);
        let layout = TextLayout::with_options(&[Span::new(&text, &style)], &options);
        let layout = layout.expect("a layout");
        let clusters = layout.clusters();
        let levels: Vec<Option<u8>> = levels.split(' ').map(|level| level.parse().ok()).collect();
        // The test counts characters; where one stands on another there are fewer
        // clusters.
        if clusters.len() != levels.len() || layout.lines().len() != 1 {
            continue;
        }
        checked += 1;
        let is_odd = |level: u8| level % 2 == 1;
        let paragraph: u8 = paragraph.parse().expect("a level");
        assert_eq!(layout.lines()[0].is_rtl, is_odd(paragraph), "{case}");
        for (cluster, level) in clusters.iter().zip(&levels) {
            assert!(
                level.is_none_or(|level| cluster.is_rtl == is_odd(level)),
                "{case}"
            );
        }
        // Characters without room have no place that could be seen.
        let places = order
            .split(' ')
            .filter_map(|place| place.parse::<usize>().ok());
        let shown = places.filter(|place| clusters[*place].advance > 0.0);
        let shown: Vec<usize> = shown.collect();
        let mut found = shown.clone();
        found.sort_by(|a, b| clusters[*a].x.total_cmp(&clusters[*b].x));
        assert_eq!(found, shown, "{case}");
    }
    assert!(checked > 900, "only {checked} cases could be compared");
}
