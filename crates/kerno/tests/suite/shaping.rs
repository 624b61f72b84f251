//! Lookups of `GSUB` and `GPOS` on fonts built byte by byte, and scripts.

use kerno::font::Tag;
use kerno::text::PlacedGlyph;
use kerno::{Face, Style, TextLayout};
use proptest::prelude::*;

use crate::hostile::damage;
use crate::support::{FontBuilder, cmap12, lato, polygon, words};
use crate::variable::{at, fvar, store};

/// A lookup: its type, its flag, its one subtable.
type Lookup = (i32, i32, Vec<u8>);

/// A layout table whose features (in the order of their tags) each have some
/// lookups, in the default script.
fn layout_table(features: &[(&[u8; 4], &[i32])], lookups: &[Lookup]) -> Vec<u8> {
    let count = features.len() as i32;
    let mut scripts = words(&[1]);
    scripts.extend(b"DFLT");
    scripts.extend(words(&[8, 4, 0, 0, 0xffff, count]));
    scripts.extend(words(&(0..count).collect::<Vec<_>>()));
    table_of(scripts, features, lookups)
}

/// The same with a script list of its own.
fn table_of(scripts: Vec<u8>, features: &[(&[u8; 4], &[i32])], lookups: &[Lookup]) -> Vec<u8> {
    let count = features.len() as i32;
    let mut list = words(&[count]);
    let mut records = Vec::new();
    for (tag, own) in features {
        list.extend(*tag);
        list.extend(words(&[2 + 6 * count + records.len() as i32]));
        records.extend(words(&[0, own.len() as i32]));
        records.extend(words(own));
    }
    list.extend(records);
    let mut table = words(&[lookups.len() as i32]);
    let mut bodies = Vec::new();
    for (kind, flag, subtable) in lookups {
        table.extend(words(&[2 + 2 * lookups.len() as i32 + bodies.len() as i32]));
        bodies.extend(words(&[*kind, *flag, 1, 8]));
        bodies.extend(subtable);
    }
    table.extend(bodies);
    let features_at = 10 + scripts.len() as i32;
    let mut all = words(&[1, 0, 10, features_at, features_at + list.len() as i32]);
    all.extend(scripts);
    all.extend(list);
    all.extend(table);
    all
}

/// A coverage table of some glyphs.
fn coverage(glyphs: &[i32]) -> Vec<u8> {
    words(&[&[1, glyphs.len() as i32], glyphs].concat())
}

/// Words, then a coverage of which word `at` is to be the offset.
fn with_coverage(mut numbers: Vec<i32>, at: usize, glyphs: &[i32]) -> Vec<u8> {
    numbers[at] = numbers.len() as i32 * 2;
    [words(&numbers), coverage(glyphs)].concat()
}

/// `GDEF` with classes: 1 base, 3 mark.
fn definitions(marks: &[i32]) -> Vec<u8> {
    let mut table = words(&[1, 0, 12, 0, 0, 0, 2, marks.len() as i32]);
    table.extend(marks.iter().flat_map(|mark| words(&[*mark, *mark, 3])));
    table
}

/// Twenty glyphs, 500 + 10n units wide; glyph 1 and on for the characters from `first` on.
fn font(first: char) -> FontBuilder {
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 20];
    let first = u32::from(first);
    FontBuilder::new(&glyphs).table(b"cmap", cmap12(&[[first, first + 18, 1]]))
}

/// The glyphs of a text at a size of 1000: design pixels are font units.
fn shaped(face: &Face, text: &str, features: &[(&[u8; 4], u16)]) -> Vec<PlacedGlyph> {
    let style = Style::new(face, 1000.0).features(
        features
            .iter()
            .map(|(tag, v)| (Tag::new(tag), *v))
            .collect(),
    );
    let layout = TextLayout::new(text, &style).expect("a layout");
    layout.glyphs().to_vec()
}

fn ids(face: &Face, text: &str, features: &[(&[u8; 4], u16)]) -> Vec<u16> {
    let glyphs = shaped(face, text, features);
    glyphs.iter().map(|glyph| glyph.glyph.0).collect()
}

/// Ligature a b → 10, from the first two characters, with a flag.
fn ligature(flag: i32) -> Lookup {
    (
        4,
        flag,
        with_coverage(vec![1, 0, 1, 8, 1, 4, 10, 2, 2], 1, &[1]),
    )
}

#[test]
fn each_kind_of_substitution_does_as_the_standard_says() {
    // Format 2: b → 5. Format 1: b by +3.
    let single = (1, 0, with_coverage(vec![2, 0, 1, 5], 1, &[2]));
    let by_delta = (1, 0, with_coverage(vec![1, 0, 3], 1, &[2]));
    // a → 6 7.
    let multiple = (2, 0, with_coverage(vec![1, 0, 1, 8, 2, 6, 7], 1, &[1]));
    // c → 8 or 9.
    let alternate = (3, 0, with_coverage(vec![1, 0, 1, 8, 2, 8, 9], 1, &[3]));
    let table = layout_table(
        &[
            (b"ccmp", &[2]),
            (b"liga", &[4]),
            (b"salt", &[3]),
            (b"smcp", &[0]),
            (b"titl", &[1]),
        ],
        &[single, by_delta, multiple, alternate, ligature(0)],
    );
    let face = font('a').table(b"GSUB", table).face();
    // On by default: multiple substitution comes first, so no a is left to join.
    assert_eq!(ids(&face, "ab", &[]), [6, 7, 2]);
    assert_eq!(ids(&face, "ab", &[(b"ccmp", 0)]), [10]);
    assert_eq!(ids(&face, "b", &[(b"smcp", 1)]), [5]);
    assert_eq!(ids(&face, "b", &[(b"titl", 1)]), [5]);
    assert_eq!(ids(&face, "c", &[(b"salt", 1)]), [8]);
    assert_eq!(ids(&face, "c", &[(b"salt", 2)]), [9]);
    assert_eq!(ids(&face, "c", &[(b"salt", 3)]), [3]);
    // Letter spacing parts ligatures that are not needed.
    let style = Style::new(&face, 10.0)
        .letter_spacing(1.0)
        .features(vec![(Tag::new(b"ccmp"), 0)]);
    let layout = TextLayout::new("ab", &style).expect("a layout");
    assert_eq!(layout.glyphs().len(), 2);
}

#[test]
fn a_ligature_shares_its_width_with_its_clusters() {
    let face = font('a')
        .table(b"GSUB", layout_table(&[(b"liga", &[0])], &[ligature(0)]))
        .face();
    let layout = TextLayout::new("abc", &Style::new(&face, 1000.0)).expect("a layout");
    let boxes: Vec<(f32, f32)> = layout.clusters().iter().map(|c| (c.x, c.advance)).collect();
    // Glyph 10 is 600 wide, c 530.
    assert_eq!(boxes, [(0.0, 300.0), (300.0, 300.0), (600.0, 530.0)]);
    // U+200C parts them and is not seen; U+200D does neither.
    assert_eq!(ids(&face, "a\u{200c}b", &[]), [1, 2]);
    assert_eq!(ids(&face, "a\u{200d}b", &[]), [10]);
}

#[test]
fn contexts_look_around() {
    // b → 5 where a stands before and c behind: chained, format 3.
    let single = (1, 0, with_coverage(vec![2, 0, 1, 5], 1, &[2]));
    let mut chained = words(&[3, 1, 20, 1, 26, 1, 32, 1, 0, 0]);
    chained.extend([coverage(&[1]), coverage(&[2]), coverage(&[3])].concat());
    // d e → d 7, by glyphs: format 1 of the plain kind, one set of one rule.
    let inner = (1, 0, with_coverage(vec![2, 0, 1, 7], 1, &[5]));
    let plain = (
        5,
        0,
        with_coverage(vec![1, 0, 1, 8, 1, 4, 2, 1, 5, 1, 2], 1, &[4]),
    );
    // Reverse: f → 9 before an f that has become 9, or before g.
    let reverse = {
        let mut table = words(&[1, 14, 0, 1, 20, 1, 9]);
        table.extend([coverage(&[6]), coverage(&[7, 9])].concat());
        (8, 0, table)
    };
    let table = layout_table(
        &[(b"calt", &[1, 3]), (b"rclt", &[4])],
        &[single, (6, 0, chained), inner, plain, reverse],
    );
    let face = font('a').table(b"GSUB", table).face();
    assert_eq!(ids(&face, "abcb", &[]), [1, 5, 3, 2]);
    assert_eq!(ids(&face, "bc", &[]), [2, 3]);
    assert_eq!(ids(&face, "dee", &[]), [4, 7, 5]);
    // From the end to the start, so all of them.
    assert_eq!(ids(&face, "fffg", &[]), [9, 9, 9, 7]);
    assert_eq!(ids(&face, "ff", &[]), [6, 6]);
}

#[test]
fn marks_stand_on_their_anchors() {
    // U+0300 and on are glyphs 11 and on; a is 1. Base anchor (250, 700), mark
    // anchor (60, 650); mark on mark (40, 900) with the same anchor of the mark.
    let font = |table: Vec<u8>| {
        let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 20];
        FontBuilder::new(&glyphs)
            .table(b"cmap", cmap12(&[[0x61, 0x6a, 1], [0x300, 0x308, 11]]))
            .table(b"GDEF", definitions(&[11, 12]))
            .table(b"GPOS", table)
            .face()
    };
    // Coverage of marks at 12, of bases at 20, marks at 26, bases at 42.
    let attach = |marks: &[i32], bases: &[i32], x: i32, y: i32| {
        let (mark_set, base_set) = (coverage(marks), coverage(bases));
        let marks_at = 12 + (mark_set.len() + base_set.len()) as i32;
        let mark_array = [
            words(&[marks.len() as i32]),
            marks
                .iter()
                .flat_map(|_| words(&[0, 2 + 4 * marks.len() as i32]))
                .collect(),
            words(&[1, 60, 650]),
        ]
        .concat();
        let bases_at = marks_at + mark_array.len() as i32;
        let head = words(&[1, 12, 12 + mark_set.len() as i32, 1, marks_at, bases_at]);
        let base_array = words(&[1, 4, 1, x, y]);
        [head, mark_set, base_set, mark_array, base_array].concat()
    };
    let table = layout_table(
        &[(b"mark", &[0]), (b"mkmk", &[1])],
        &[
            (4, 0, attach(&[11, 12], &[1], 250, 700)),
            (6, 0, attach(&[12], &[11], 40, 900)),
        ],
    );
    let face = font(table);
    let glyphs = shaped(&face, "ba\u{300}\u{301}b", &[]);
    let base = 520.0;
    let places: Vec<(f32, f32)> = glyphs.iter().map(|g| (g.x, g.y - glyphs[0].y)).collect();
    assert_eq!(places[1], (base, 0.0));
    assert_eq!(places[2], (base + 190.0, -50.0));
    // The second on the first: 40 - 60, 900 - 650 from there.
    assert_eq!(places[3], (base + 170.0, -300.0));
    // Marks take no room.
    assert_eq!(places[4], (base + 510.0, 0.0));
    // If b ends at (450, 100) and a is entered at (30, 40), a rises by 60, and both
    // marks with it.
    let mut joined = words(&[1, 14, 2, 28, 0, 0, 22]);
    joined.extend(coverage(&[1, 2]));
    joined.extend(words(&[1, 450, 100, 1, 30, 40]));
    let table = layout_table(
        &[(b"curs", &[2]), (b"mark", &[0]), (b"mkmk", &[1])],
        &[
            (4, 0, attach(&[11, 12], &[1], 250, 700)),
            (6, 0, attach(&[12], &[11], 40, 900)),
            (3, 0, joined),
        ],
    );
    let glyphs = shaped(&font(table), "ba\u{300}\u{301}b", &[]);
    let heights: Vec<f32> = glyphs.iter().map(|g| g.y - glyphs[0].y).collect();
    assert_eq!(heights, [0.0, -60.0, -110.0, -360.0, 0.0]);
    // Without these tables they stand over the middle of the letter: ink from 11 to
    // 411 over ink from 1 to 401, and a sixteenth of an em above its 700.
    let plain = font(layout_table(&[], &[]));
    let glyphs = shaped(&plain, "a\u{300}", &[]);
    assert_eq!((glyphs[1].x, glyphs[1].y - glyphs[0].y), (-10.0, -762.0));
}

#[test]
fn letters_of_arabic_take_their_forms() {
    // U+0627 alef joins only the letter before it; beh joins both. Each has its forms
    // by adding 1 (isol), 2 (fina), 3 (medi) or 4 (init).
    let by = |delta: i32| (1, 0, with_coverage(vec![1, 0, delta], 1, &[1, 6]));
    let table = layout_table(
        &[
            (b"fina", &[1]),
            (b"init", &[3]),
            (b"isol", &[0]),
            (b"medi", &[2]),
        ],
        &[by(1), by(2), by(3), by(4)],
    );
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 20];
    let face = FontBuilder::new(&glyphs)
        .table(
            b"cmap",
            cmap12(&[[0x627, 0x627, 1], [0x628, 0x628, 6], [0x64e, 0x64e, 12]]),
        )
        .table(b"GSUB", table)
        .face();
    let (alef, beh) = (1, 6);
    assert_eq!(ids(&face, "ب", &[]), [beh + 1]);
    assert_eq!(ids(&face, "ببب", &[]), [beh + 4, beh + 3, beh + 2]);
    assert_eq!(ids(&face, "باب", &[]), [beh + 4, alef + 2, beh + 1]);
    // A mark is passed over, a non-joiner parts.
    assert_eq!(ids(&face, "بَب", &[]), [beh + 4, 12, beh + 2]);
    assert_eq!(ids(&face, "ب\u{200c}ب", &[]), [beh + 1, beh + 1]);
    assert_eq!(ids(&face, "ب\u{200d}", &[]), [beh + 4]);
    // Read from the right: the first letter stands rightmost.
    let glyphs = shaped(&face, "ببب", &[]);
    assert!(glyphs.windows(2).all(|pair| pair[0].x > pair[1].x));
    assert_eq!(glyphs[2].x, 0.0);
    // Letters of another style still join: the form is the text's, not the run's.
    let style = Style::new(&face, 20.0);
    let other = Style::new(&face, 30.0);
    let spans = [
        kerno::text::Span::new("ب", &style),
        kerno::text::Span::new("ب", &other),
    ];
    let layout = TextLayout::with_options(&spans, &kerno::text::LayoutOptions::default());
    let layout = layout.expect("a layout");
    let found: Vec<u16> = layout.glyphs().iter().map(|glyph| glyph.glyph.0).collect();
    assert_eq!(found, [beh + 4, beh + 2]);
}

#[test]
fn what_a_face_lacks_as_one_is_taken_apart_and_put_together() {
    let face = lato();
    let one = |text: &str| ids(&face, text, &[]);
    let glyph = |c: char| face.glyph(c).expect("a character of the face").0;
    // The face has é: both spellings show it.
    assert_eq!(one("e\u{301}"), [glyph('é')]);
    // Marks in any order that means the same (canonical ordering).
    assert_eq!(one("e\u{301}\u{323}"), one("e\u{323}\u{301}"));
    // Jamo make a syllable where the face has it: U+1112 U+1161 U+11AB is U+D55C.
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 5];
    let hangul = FontBuilder::new(&glyphs)
        .table(b"cmap", cmap12(&[[0xd55c, 0xd55c, 3]]))
        .face();
    assert_eq!(ids(&hangul, "\u{1112}\u{1161}\u{11ab}", &[]), [3]);
    // Thai AM: the ring goes before a tone mark.
    let thai = FontBuilder::new(&vec![polygon(&[(0, 0), (9, 0), (0, 9)]); 9])
        .table(
            b"cmap",
            cmap12(&[
                [0xe19, 0xe19, 1],
                [0xe32, 0xe32, 2],
                [0xe49, 0xe49, 3],
                [0xe4d, 0xe4d, 4],
            ]),
        )
        .face();
    assert_eq!(ids(&thai, "น\u{e49}\u{e33}", &[]), [1, 4, 3, 2]);
}

#[test]
fn fallback_goes_by_clusters_and_brackets_are_mirrored() {
    let latin = lato();
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 9];
    let hebrew = FontBuilder::new(&glyphs)
        .table(
            b"cmap",
            cmap12(&[
                [0x28, 0x29, 1],
                [0x61, 0x61, 6],
                [0x5d0, 0x5d2, 3],
                [0x1ab0, 0x1ab0, 7],
            ]),
        )
        .face();
    let style = Style::new(&latin, 10.0).fallback(vec![hebrew.clone()]);
    // The mark U+1AB0 is in the second face only, so its base is taken from there.
    let layout = TextLayout::new("aa\u{1ab0}", &style).expect("a layout");
    let faces: Vec<u16> = layout.glyphs().iter().map(|glyph| glyph.face).collect();
    assert_eq!(faces, [0, 1, 1]);
    assert_eq!(layout.face_of(&layout.glyphs()[2]), &hebrew);
    assert!(layout.missing().is_empty());
    // A character that no face has is .notdef of the first, and told.
    let layout = TextLayout::new("a\u{e000}", &style).expect("a layout");
    assert_eq!(
        (layout.glyphs()[1].glyph.0, layout.missing()),
        (0, &[1_u32][..])
    );
    // In text from the right an opening bracket opens to the left.
    assert_eq!(ids(&hebrew, "(א)", &[]), [2, 3, 1]);
    assert_eq!(ids(&hebrew, "(a)", &[]), [1, 6, 2]);
}

#[test]
fn hostile_lookups_come_to_an_end() {
    // A rule that applies itself, and a glyph that becomes two of itself, forever.
    let again = with_coverage(vec![1, 0, 1, 8, 1, 4, 1, 2, 0, 0, 0, 1], 1, &[1]);
    let twice = with_coverage(vec![1, 0, 1, 8, 2, 1, 1], 1, &[1]);
    let table = layout_table(&[(b"calt", &[0])], &[(5, 0, again), (2, 0, twice)]);
    let font = font('a').table(b"GSUB", table);
    let face = font.face();
    let text = "a".repeat(3000);
    let layout = TextLayout::new(&text, &Style::new(&face, 10.0)).expect("a layout");
    assert!(
        layout.glyphs().len() < 3000 * 40,
        "{}",
        layout.glyphs().len()
    );
    // A chain of multiples does not explode either.
    let explode: Vec<Lookup> = (0..40)
        .map(|_| (2, 0, with_coverage(vec![1, 0, 1, 8, 2, 1, 1], 1, &[1])))
        .collect();
    let all: Vec<i32> = (0..40).collect();
    let bomb = font
        .table(b"GSUB", layout_table(&[(b"ccmp", &all)], &explode))
        .face();
    let layout = TextLayout::new("aaaa", &Style::new(&bomb, 10.0)).expect("a layout");
    assert!(layout.glyphs().len() < 100_000, "{}", layout.glyphs().len());
}

#[test]
fn damaged_layout_tables_never_panic() {
    let attach = with_coverage(vec![1, 0, 4, -40], 1, &[1, 2]);
    let substitutions = layout_table(&[(b"liga", &[0])], &[ligature(8)]);
    let positions = layout_table(&[(b"kern", &[0])], &[(1, 0, attach)]);
    let font = font('a')
        .table(b"GSUB", substitutions)
        .table(b"GPOS", positions)
        .table(b"GDEF", definitions(&[3]));
    damage(&font.build());
}

#[test]
fn letters_that_join_cursively_follow_one_another() {
    // a ends at (450, 100), b is entered at (30, 40): tables behind coverage at 14.
    let mut subtable = words(&[1, 14, 2, 0, 22, 28, 0]);
    subtable.extend(coverage(&[1, 2]));
    subtable.extend(words(&[1, 450, 100, 1, 30, 40]));
    let table = |flag: i32| layout_table(&[(b"curs", &[0])], &[(3, flag, subtable.clone())]);
    let places = |flag: i32| {
        let face = font('a').table(b"GPOS", table(flag)).face();
        let glyphs = shaped(&face, "cabc", &[]);
        let from = |glyph: &PlacedGlyph| (glyph.x - glyphs[1].x, glyphs[0].y - glyph.y);
        (from(&glyphs[1]), from(&glyphs[2]), from(&glyphs[3]))
    };
    // The pen stops where a ends; b is moved so that it begins there, and takes so
    // much less room. It rises to the height that a ends in.
    assert_eq!(places(0), ((0.0, 0.0), (420.0, 60.0), (450.0 + 490.0, 0.0)));
    // With the flag the first one moves instead.
    assert_eq!(places(1), ((0.0, -60.0), (420.0, 0.0), (940.0, 0.0)));
}

#[test]
fn marks_stand_on_the_part_of_a_ligature_that_they_followed() {
    // Mark 5 (anchor 0, 0) on ligature 10: part 1 at (100, 0), part 2 at (400, 50).
    let mut subtable = words(&[1, 12, 18, 1, 24, 36]);
    subtable.extend(coverage(&[5]));
    subtable.extend(coverage(&[10]));
    subtable.extend(words(&[1, 0, 6, 1, 0, 0]));
    subtable.extend(words(&[1, 4, 2, 6, 12, 1, 100, 0, 1, 400, 50]));
    let positions = layout_table(&[(b"mark", &[0])], &[(5, 0, subtable)]);
    let font = font('a')
        .table(b"GPOS", positions)
        .table(b"GDEF", definitions(&[5]));
    // The flag that passes over marks lets a and b join around one.
    let joins = layout_table(&[(b"liga", &[0])], &[ligature(8)]);
    let face = font.clone().table(b"GSUB", joins).face();
    for (text, x, y) in [("aeb", 100.0, 0.0), ("abe", 400.0, 50.0)] {
        let glyphs = shaped(&face, text, &[]);
        let found: Vec<u16> = glyphs.iter().map(|glyph| glyph.glyph.0).collect();
        assert_eq!(found, [10, 5], "{text}");
        let mark = (glyphs[1].x - glyphs[0].x, glyphs[0].y - glyphs[1].y);
        assert_eq!(mark, (x, y), "{text}");
    }
    // Without the flag the mark stands between them.
    let parted = layout_table(&[(b"liga", &[0])], &[ligature(0)]);
    let face = font.table(b"GSUB", parted).face();
    assert_eq!(ids(&face, "aeb", &[]), [1, 5, 2]);
}

#[test]
fn lookups_pass_over_what_their_flags_say() {
    // Classes behind the header of 14 bytes, mark sets behind them: 5 and 6 are
    // marks, and the one set has 6 only.
    let mut sets = words(&[1, 2, 14, 0, 0, 0, 30]);
    sets.extend(words(&[2, 2, 5, 5, 3, 6, 6, 3]));
    sets.extend(words(&[1, 1, 0, 8]));
    sets.extend(coverage(&[6]));
    let with_set = {
        // The number of the set stands between the subtables' offsets and the first.
        let (_, _, subtable) = ligature(0);
        let mut table = layout_table(&[(b"liga", &[0])], &[(4, 16, Vec::new())]);
        let end = table.len();
        table[end - 2..].copy_from_slice(&10_i16.to_be_bytes());
        table.extend(words(&[0]));
        table.extend(subtable);
        table
    };
    let face = font('a')
        .table(b"GSUB", with_set)
        .table(b"GDEF", sets)
        .face();
    assert_eq!(ids(&face, "aeb", &[]), [10, 5]);
    assert_eq!(ids(&face, "afb", &[]), [1, 6, 2]);
}

#[test]
fn glyphs_are_moved_one_by_one_in_pairs_and_behind_extensions() {
    // Every b: 20 to the right, 30 up, 15 wider; behind an extension.
    let mut single = words(&[1, 1, 0, 8]);
    single.extend(with_coverage(vec![1, 0, 7, 20, 30, 15], 1, &[2]));
    // a b: a 40 less wide, b 7 to the right. Both have values, so b is done with.
    let pair = with_coverage(vec![1, 0, 4, 1, 1, 12, 1, 2, -40, 7], 1, &[1]);
    let table = layout_table(
        &[(b"dist", &[0]), (b"kern", &[1])],
        &[(9, 0, single), (2, 0, pair)],
    );
    let face = font('a').table(b"GPOS", table).face();
    let glyphs = shaped(&face, "abb", &[]);
    let places: Vec<(f32, f32)> = glyphs.iter().map(|g| (g.x, glyphs[0].y - g.y)).collect();
    // Advances: a 510 - 40, b 520 + 15.
    let expected = [
        (0.0, 0.0),
        (470.0 + 27.0, 30.0),
        (470.0 + 535.0 + 20.0, 30.0),
    ];
    assert_eq!(places, expected);
    assert_eq!(face.kerning(glyphs[0].glyph, glyphs[1].glyph), -40);
    let plain = shaped(&face, "ab", &[(b"kern", 0), (b"dist", 0)]);
    assert_eq!((plain[1].x, plain[1].kerning), (510.0, 0.0));
}

#[test]
fn the_language_decides_between_features() {
    // Latin: by default feature 0, in Turkish feature 1.
    let mut scripts = words(&[1]);
    scripts.extend(b"latn");
    scripts.extend(words(&[8, 10, 1]));
    scripts.extend(b"TRK ");
    scripts.extend(words(&[18, 0, 0xffff, 1, 0, 0, 0xffff, 1, 1]));
    let to = |glyph: i32| (1, 0, with_coverage(vec![2, 0, 1, glyph], 1, &[1]));
    let features: [(&[u8; 4], &[i32]); 2] = [(b"locl", &[0]), (b"locl", &[1])];
    let table = table_of(scripts, &features, &[to(7), to(8)]);
    let face = font('a').table(b"GSUB", table).face();
    for (language, glyph) in [(None, 7), (Some(b"TRK "), 8), (Some(b"DEU "), 7)] {
        let style = Style::new(&face, 10.0).language(language.map(Tag::new));
        let layout = TextLayout::new("a", &style).expect("a layout");
        assert_eq!(layout.glyphs()[0].glyph.0, glyph, "{language:?}");
    }
}

#[test]
fn where_glyphs_stand_varies_with_the_axes() {
    // Every a: 100 wider, and by item 0 of the store in `GDEF`: 80 at the far end.
    let mut single = with_coverage(vec![1, 0, 0x44, 100, 0], 1, &[1]);
    // The word that says where the table for the advance is.
    let device = single.len() as i32;
    single[8..10].copy_from_slice(&words(&[device]));
    single.extend(words(&[0, 0, 0x8000]));
    // An a carries b: the anchor of the a is 200 up, and varies by the same item.
    let mut mark = with_coverage(vec![1, 0, 0, 1, 0, 0], 1, &[2]);
    let place = |mark: &mut Vec<u8>, word: usize| {
        let end = mark.len() as i32;
        mark[word * 2..word * 2 + 2].copy_from_slice(&words(&[end]));
    };
    place(&mut mark, 2);
    mark.extend(coverage(&[1]));
    place(&mut mark, 4);
    mark.extend(words(&[1, 0, 6, 1, 0, 0]));
    place(&mut mark, 5);
    // Its base array: one record of one anchor in format 3, whose y varies.
    mark.extend(words(&[1, 4, 3, 0, 200, 0, 10, 0, 0, 0x8000]));
    let table = layout_table(
        &[(b"dist", &[0]), (b"mark", &[1])],
        &[(1, 0, single), (4, 0, mark)],
    );
    // Version 1.3: glyph 2 is a mark, and a store behind the classes.
    let mut definitions = words(&[1, 3, 18, 0, 0, 0, 0, 0, 28]);
    definitions.extend(words(&[2, 1, 2, 2, 3]));
    definitions.extend(store(80));
    let face = font('a')
        .table(b"fvar", fvar())
        .table(b"GPOS", table)
        .table(b"GDEF", definitions)
        .face();
    // 80 at 900, nothing at 400; in between as far as the weight has come.
    for (weight, grown) in [(400.0, 0.0), (650.0, 40.0), (900.0, 80.0)] {
        let glyphs = shaped(&at(&face, weight), "aba", &[]);
        assert_eq!(glyphs[2].x, 510.0 + 100.0 + grown, "at {weight}");
        let up = glyphs[0].y - glyphs[1].y;
        assert_eq!((glyphs[1].x, up), (0.0, 200.0 + grown), "at {weight}");
    }
}

#[test]
fn features_change_where_the_axes_say() {
    // `rvrn` does nothing, but from half of the axis on turns a into glyph 10.
    let single = with_coverage(vec![2, 0, 1, 10], 1, &[1]);
    let table = layout_table(&[(b"rvrn", &[])], &[(1, 0, single)]);
    let mut varied = words(&[1, 1]);
    for offset in table[4..10].chunks(2) {
        varied.extend(words(&[
            (i32::from(offset[0]) << 8 | i32::from(offset[1])) + 4
        ]));
    }
    let end = table.len() as i32 + 4;
    varied.extend(words(&[0, end]));
    varied.extend(&table[10..]);
    // One record: its conditions at 16, its features at 30.
    varied.extend(words(&[1, 0, 0, 1, 0, 16, 0, 30]));
    varied.extend(words(&[1, 0, 6, 1, 0, 0x2000, 0x4000]));
    varied.extend(words(&[1, 0, 1, 0, 0, 12, 0, 1, 0]));
    let face = font('a')
        .table(b"fvar", fvar())
        .table(b"GSUB", varied.clone())
        .face();
    for (weight, glyph) in [(400.0, 1), (640.0, 1), (660.0, 10), (900.0, 10)] {
        assert_eq!(ids(&at(&face, weight), "a", &[]), [glyph], "at {weight}");
    }
    let built = font('A').table(b"fvar", fvar()).table(b"GSUB", varied);
    damage(&built.build());
}

#[test]
fn an_alaph_has_the_form_that_its_word_asks_for() {
    // Each form of the alaph is a glyph of its own: 1 plain, 11 isol, 12 fina, 13 fin2,
    // 14 fin3, 15 med2. The other letters are 2 and on and have none.
    let to = |glyph: i32| (1, 0, with_coverage(vec![2, 0, 1, glyph], 1, &[1]));
    let table = layout_table(
        &[
            (b"fin2", &[2]),
            (b"fin3", &[3]),
            (b"fina", &[1]),
            (b"isol", &[0]),
            (b"med2", &[4]),
        ],
        &[to(11), to(12), to(13), to(14), to(15)],
    );
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 20];
    let letters = cmap12(&[
        [0x710, 0x710, 1],
        [0x712, 0x712, 2],
        [0x715, 0x715, 3],
        [0x719, 0x719, 4],
        [0x730, 0x730, 5],
    ]);
    let face = FontBuilder::new(&glyphs)
        .table(b"cmap", letters)
        .table(b"GSUB", table)
        .face();
    // OpenType feature tags: what `fin2`, `fin3` and `med2` are for. Beth joins what
    // follows, dalath and zain do not.
    let cases: [(&str, &[u16]); 8] = [
        ("\u{710}", &[11]),
        ("\u{712}\u{710}", &[2, 12]),
        ("\u{712}\u{710}\u{712}", &[2, 15, 2]),
        ("\u{719}\u{710}", &[4, 13]),
        ("\u{715}\u{710}", &[3, 14]),
        ("\u{715}\u{730}\u{710} ", &[3, 5, 14, 0]),
        ("\u{719}\u{710}\u{712}", &[4, 11, 2]),
        ("\u{710}\u{712}", &[11, 2]),
    ];
    for (text, expected) in cases {
        assert_eq!(ids(&face, text, &[]), expected, "{text:?}");
    }
}

#[test]
fn numbers_around_a_fraction_slash_become_a_fraction() {
    // Digits from glyph 1 on; numerators are 10 more, denominators 13 more; the slash,
    // glyph 8, becomes 9.
    let digits = [1, 2, 3];
    let by = |delta: i32, glyphs: &[i32]| (1, 0, with_coverage(vec![1, 0, delta], 1, glyphs));
    let table = layout_table(
        &[(b"dnom", &[1]), (b"frac", &[2]), (b"numr", &[0])],
        &[by(10, &digits), by(13, &digits), by(1, &[8])],
    );
    let face = FontBuilder::new(&vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 20])
        .table(b"cmap", cmap12(&[[0x30, 0x32, 1], [0x2044, 0x2044, 8]]))
        .table(b"GSUB", table)
        .face();
    assert_eq!(ids(&face, "1\u{2044}20", &[]), [12, 9, 16, 14]);
    assert_eq!(ids(&face, "0 12\u{2044}2", &[]), [1, 0, 12, 13, 9, 16]);
    assert_eq!(
        ids(&face, "\u{2044}2", &[]),
        [8, 3],
        "there is no numerator"
    );
    assert_eq!(ids(&face, "1\u{2044}2", &[(b"numr", 0)]), [2, 9, 16]);
}

#[test]
fn marks_come_in_the_order_that_fonts_expect() {
    // Beh is glyph 1, its marks 2 and on: fatha, kasra, shadda, hamza above, madda above,
    // hamza below; shin 10 with dagesh, qamats and shin dot; letters with dots as one.
    let characters = [
        (0x628, 1),
        (0x64e, 2),
        (0x650, 3),
        (0x651, 4),
        (0x653, 6),
        (0x654, 5),
        (0x655, 7),
        (0x5b8, 12),
        (0x5bc, 11),
        (0x5c1, 13),
        (0x5e9, 10),
    ];
    let mut groups: Vec<[u32; 3]> = characters.map(|(c, glyph)| [c, c, glyph]).to_vec();
    groups.sort_unstable();
    let font = |groups: &[[u32; 3]]| {
        FontBuilder::new(&vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 20])
            .table(b"cmap", cmap12(groups))
            .face()
    };
    let face = font(&groups);
    // UTR 53: the shadda before vowels, a modifier before both, one beneath first of all;
    // the madda is no modifier, and stops the hamza behind it.
    let cases: [(&str, &[u16]); 6] = [
        ("\u{628}\u{64e}\u{651}", &[1, 4, 2]),
        ("\u{628}\u{64e}\u{654}", &[1, 5, 2]),
        ("\u{628}\u{654}\u{651}\u{655}\u{650}", &[1, 7, 5, 4, 3]),
        ("\u{628}\u{653}\u{654}", &[1, 6, 5]),
        // In Hebrew the dot of the letter, the dagesh, the vowel.
        ("\u{5e9}\u{5b8}\u{5bc}\u{5c1}", &[10, 13, 11, 12]),
        ("\u{5e9}\u{5c1}\u{5b8}", &[10, 13, 12]),
    ];
    for (text, expected) in cases {
        assert_eq!(ids(&face, text, &[]), expected, "{text:?}");
    }
    // A face that does not say where points stand has letters with them: shin with its
    // dot, and that with a dagesh.
    groups.extend([[0xfb2a, 0xfb2a, 14], [0xfb2c, 0xfb2c, 15]]);
    let face = font(&groups);
    assert_eq!(ids(&face, "\u{5e9}\u{5c1}", &[]), [14]);
    assert_eq!(ids(&face, "\u{5e9}\u{5b8}\u{5bc}\u{5c1}", &[]), [15, 12]);
}

#[test]
fn what_is_kept_of_pairs_is_right_for_more_of_them_than_are_kept() {
    // 95 × 95 pairs, twice: each takes the place of others, and is found anew.
    let face = lato();
    let style = Style::new(&face, f32::from(face.metrics().units_per_em))
        // Without ligatures, so that a pair is two glyphs.
        .features(vec![(Tag::new(b"liga"), 0)]);
    let ascii: Vec<char> = (' '..='~').collect();
    for round in 0..2 {
        for left in &ascii {
            // Between two of them a line break: no pair runs on into the next.
            let text: String = ascii
                .iter()
                .flat_map(|right| [*left, *right, '\n'])
                .collect();
            let layout = TextLayout::new(&text, &style).expect("a layout");
            for (line, right) in layout.lines().iter().zip(&ascii) {
                let glyphs = &layout.glyphs()[line.glyphs.clone()];
                let [first, second] = glyphs else {
                    panic!("{left}{right}: {glyphs:?}");
                };
                let wanted = face.kerning(first.glyph, second.glyph) as f32;
                let given = first.kerning;
                assert!(
                    (given - wanted).abs() < 0.01,
                    "{left}{right}, {round}: {given} for {wanted}"
                );
            }
        }
    }
}

#[test]
fn threads_that_share_a_face_set_the_same_text() {
    // All begin with a face that nothing was asked of yet.
    let face = lato();
    let texts: Vec<String> = (0..24_u32)
        .map(|seed| {
            let letter = |n: u32| char::from(b' ' + (n.wrapping_mul(seed * 37 + 11) % 95) as u8);
            (0..300).map(letter).collect()
        })
        .collect();
    let set = |face: &Face| -> Vec<Vec<PlacedGlyph>> {
        texts.iter().map(|text| shaped(face, text, &[])).collect()
    };
    let outcomes: Vec<_> = std::thread::scope(|scope| {
        let threads: Vec<_> = (0..4).map(|_| scope.spawn(|| set(&face))).collect();
        { threads }
            .into_iter()
            .map(|thread| thread.join().expect("no panic"))
            .collect()
    });
    let alone = set(&lato());
    assert!(outcomes.iter().all(|outcome| *outcome == alone));
}

#[test]
fn contexts_by_coverages_ask_for_all_that_stands_around() {
    // Glyphs by letters from a: after b or c, the a of “ad” or “ae” becomes 10 where f
    // follows. Marks, glyph 9, are passed over.
    let chained = |flag: i32| {
        let mut numbers = vec![3, 1, 0, 2, 0, 0, 1, 0, 1, 0, 1];
        let mut bodies = Vec::new();
        for (at, glyphs) in [(2, &[2, 3][..]), (4, &[1]), (5, &[4, 5]), (7, &[6])] {
            numbers[at] = (11 * 2 + bodies.len()) as i32;
            bodies.extend(coverage(glyphs));
        }
        let single = (1, 0, with_coverage(vec![2, 0, 1, 10], 1, &[1]));
        let context = [words(&numbers), bodies].concat();
        layout_table(&[(b"calt", &[0])], &[(6, flag, context), single])
    };
    let face = |flag: i32| {
        let font = font('a').table(b"GSUB", chained(flag));
        font.table(b"GDEF", definitions(&[9])).face()
    };
    let skipping = face(8);
    let cases: [(&str, &[u16]); 8] = [
        ("badf", &[2, 10, 4, 6]),
        ("caef", &[3, 10, 5, 6]),
        ("dadf", &[4, 1, 4, 6]),
        ("bacf", &[2, 1, 3, 6]),
        ("badg", &[2, 1, 4, 7]),
        ("adf", &[1, 4, 6]),
        ("bad", &[2, 1, 4]),
        ("biaidif", &[2, 9, 10, 9, 4, 9, 6]),
    ];
    for (text, expected) in cases {
        assert_eq!(ids(&skipping, text, &[]), expected, "{text}");
    }
    assert_eq!(
        ids(&face(0), "biadf", &[]),
        [2, 9, 1, 4, 6],
        "marks count here"
    );
}

#[test]
fn letters_of_arabic_are_joined_in_faces_without_lookups() {
    // Glyphs in the order of the code points: letters from 1, presentation forms A from
    // 100, B from 300. Which form has which code point: UnicodeData.txt.
    let glyphs = vec![polygon(&[(0, 0), (400, 0), (0, 700)]); 430];
    let letters = cmap12(&[
        [0x621, 0x6d3, 1],
        [0xfb50, 0xfbff, 200],
        [0xfe80, 0xfefc, 300],
    ]);
    let face = FontBuilder::new(&glyphs).table(b"cmap", letters).face();
    let glyph = |code: u32| {
        let character = char::from_u32(code).expect("a code");
        face.glyph(character).expect("a glyph").0
    };
    let cases: [(&str, &[u32]); 9] = [
        ("ب", &[0xfe8f]),
        ("بتا", &[0xfe91, 0xfe98, 0xfe8e]),
        ("ءبد", &[0x621, 0xfe91, 0xfeaa]),
        ("ىىى", &[0xfbe8, 0xfbe9, 0xfef0]),
        // Persian and Urdu: peh, gaf, farsi yeh, noon ghunna.
        ("پگی", &[0xfb58, 0xfb95, 0xfbfd]),
        ("بں", &[0xfe91, 0xfb9f]),
        // Lam and alef are one sign, also with a mark between them.
        ("لا", &[0xfefb]),
        ("بلأ", &[0xfe91, 0xfef8]),
        ("لَا", &[0xfefb, 0x64e]),
    ];
    for (text, wanted) in cases {
        let wanted: Vec<u16> = wanted.iter().map(|code| glyph(*code)).collect();
        assert_eq!(ids(&face, text, &[]), wanted, "{text}");
    }
    // The sign for two letters has room for a caret between them.
    let layout = TextLayout::new("لا", &Style::new(&face, 1000.0)).expect("a layout");
    let (x, width) = (layout.caret(2).x, layout.size().width);
    assert_eq!(x, width / 2.0);
}

#[test]
fn an_abbreviation_mark_reaches_over_its_word() {
    // OpenType, “stch”: glyph 1 falls into 15 16 15, of which the middle one is repeated.
    let parts = (
        2,
        0,
        with_coverage(vec![1, 0, 1, 8, 3, 15, 16, 15], 1, &[1]),
    );
    let table = layout_table(&[(b"stch", &[0])], &[parts]);
    let face = font('\u{70f}').table(b"GSUB", table).face();
    let placed = |text: &str| -> Vec<(u16, f32)> {
        let glyphs = shaped(&face, text, &[]);
        glyphs
            .iter()
            .map(|glyph| (glyph.glyph.0, glyph.x))
            .collect()
    };
    // Four letters, 540 to 570 units wide, are 2220 from right to left. The ends, 650
    // wide, leave 920 between them, where 660 go twice: 260 apart.
    let word = "\u{70f}\u{712}\u{713}\u{714}\u{715}";
    let whole = [
        (15, 1570.0),
        (16, 910.0),
        (16, 650.0),
        (15, 0.0),
        (4, 1680.0),
        (5, 1130.0),
        (6, 570.0),
        (7, 0.0),
    ];
    assert_eq!(placed(word), whole);
    // It ends with the word, whatever follows.
    let longer = placed(&format!("{word} \u{712}"));
    let shift = longer[0].1 - whole[0].1;
    let moved = whole.map(|(glyph, x)| (glyph, x + shift));
    assert_eq!(longer[..8], moved);
    // Over one letter the ends overlap, and nothing is left to fill.
    assert_eq!(
        placed("\u{70f}\u{712}"),
        [(15, -110.0), (15, 0.0), (4, 0.0)]
    );
}

/// A font with a glyph 1 for the space and 2 and on for the signs behind it: `!"` are a
/// ligature (10), `$` behind the glyphs `before`, the nearest first, is another (11), and
/// four pairs are kerned.
fn parting(before: &[i32]) -> Face {
    let (space, first, second, sign, last) = (1, 2, 3, 4, 5);
    let joined = with_coverage(vec![1, 0, 1, 8, 1, 4, 10, 2, second], 1, &[first]);
    // Coverages of six bytes each stand behind the rule.
    let count = before.len() as i32;
    let at = |index: i32| 16 + count * 2 + index * 6;
    let mut context = words(&[3, count]);
    context.extend(words(&(0..count).map(at).collect::<Vec<_>>()));
    context.extend(words(&[1, at(count), 0, 1, 0, 2]));
    for glyph in before.iter().chain([&last]) {
        context.extend(coverage(&[*glyph]));
    }
    let single = with_coverage(vec![2, 0, 1, 11], 1, &[last]);
    let substitutions = layout_table(
        &[(b"calt", &[1]), (b"liga", &[0])],
        &[(4, 0, joined), (6, 0, context), (1, 0, single)],
    );
    let mut pairs = words(&[1, 42, 4, 0, 4, 18, 24, 30, 36]);
    for (_, right, units) in kerned() {
        pairs.extend(words(&[1, right, units]));
    }
    pairs.extend(coverage(&[space, first, 10, 11]));
    assert_eq!(kerned()[0], (space, sign, -15));
    let positions = layout_table(&[(b"kern", &[0])], &[(2, 0, pairs)]);
    let font = font(' ').table(b"GSUB", substitutions);
    font.table(b"GPOS", positions).face()
}

/// The pairs of glyphs that are kerned, with their distances.
fn kerned() -> [(i32, i32, i32); 4] {
    [(1, 4, -15), (2, 5, -40), (10, 1, -25), (11, 5, 30)]
}

proptest! {
    #[test]
    fn words_alone_or_in_a_row_are_what_the_lookups_make_of_them(text in "[ !\"#$]{0,30}") {
        // Behind a sign; and behind a word, so that words are not to be taken alone.
        for before in [&[4][..], &[1, 4]] {
            // Lookup by lookup through the whole text, as the standard says.
            let mut expected: Vec<i32> = text.bytes().map(|byte| i32::from(byte) - 31).collect();
            while let Some(at) = expected.windows(2).position(|pair| pair == [2, 3]) {
                expected.splice(at..at + 2, [10]);
            }
            for at in before.len()..expected.len() {
                let around = expected[..at].iter().rev();
                if expected[at] == 5 && around.zip(before).all(|(found, wanted)| found == wanted) {
                    expected[at] = 11;
                }
            }
            let kerning = |at: usize| {
                let next = expected.get(at + 1);
                let is_own = |(left, right, _): &&(i32, i32, i32)| {
                    *left == expected[at] && Some(right) == next
                };
                kerned().iter().find(is_own).map_or(0.0, |(.., units)| *units as f32)
            };
            let found = shaped(&parting(before), &text, &[]);
            let glyphs: Vec<i32> = found.iter().map(|glyph| glyph.glyph.0.into()).collect();
            prop_assert_eq!(&glyphs, &expected);
            for (at, glyph) in found.iter().enumerate() {
                prop_assert_eq!(glyph.kerning, kerning(at), "{:?} at {}", text, at);
            }
        }
    }
}

#[test]
fn what_a_font_claims_of_its_lookups_costs_no_more_than_its_bytes() {
    // 5,000 ranges of all glyphs, and 2,000 subtables that share them.
    let ranges = (0..5000).flat_map(|_| [0, 0xffff, 0]);
    let coverage: Vec<i32> = [2, 5000].into_iter().chain(ranges).collect();
    let count = 2000;
    let mut lookup = words(&[4, 0, count]);
    let subtables = (0..count).map(|index| 6 + 2 * count + 6 * index);
    lookup.extend(words(&subtables.collect::<Vec<_>>()));
    for index in 0..count {
        lookup.extend(words(&[1, 6 * (count - index), 0]));
    }
    lookup.extend(words(&coverage));
    let mut table = words(&[1, 0, 10, 30, 44]);
    table.extend(words(&[1]));
    table.extend(b"DFLT");
    table.extend(words(&[8, 4, 0, 0, 0xffff, 1, 0]));
    table.resize(30, 0);
    table.extend(words(&[1]));
    table.extend(b"liga");
    table.extend(words(&[8, 0, 1, 0]));
    table.resize(44, 0);
    table.extend(words(&[1, 4]));
    table.extend(lookup);
    let face = font('a').table(b"GSUB", table).face();
    let start = std::time::Instant::now();
    assert_eq!(ids(&face, "ab", &[]), [1, 2]);
    // 10 million ranges of 65,536 glyphs took minutes; what is left is far below a second.
    assert!(start.elapsed().as_secs() < 20);
}

#[test]
fn signs_go_with_the_script_around_them() {
    // For each script one substitution: of the sign, by another glyph.
    let script = |tag: &[u8; 4]| (*tag, ());
    let tags = [script(b"arab").0, script(b"latn").0];
    let mut scripts = words(&[2]);
    for (index, tag) in tags.iter().enumerate() {
        scripts.extend(tag);
        scripts.extend(words(&[14 + 12 * index as i32]));
    }
    for index in 0..2 {
        scripts.extend(words(&[4, 0, 0, 0xffff, 1, index]));
    }
    let to = |glyph: i32| (1, 0, with_coverage(vec![2, 0, 1, glyph], 1, &[3]));
    let features: &[(&[u8; 4], &[i32])] = &[(b"ccmp", &[0]), (b"ccmp", &[1])];
    let table = table_of(scripts, features, &[to(10), to(11)]);
    // Latin a, Arabic beh, and the sign that is looked at.
    let face = |sign: char| {
        let mut groups = [
            [0x61, 0x61, 1],
            [0x628, 0x628, 2],
            [u32::from(sign), u32::from(sign), 3],
        ];
        groups.sort_unstable();
        font('a')
            .table(b"cmap", cmap12(&groups))
            .table(b"GSUB", table.clone())
            .face()
    };
    let sign_in = |text: &str, sign: char| {
        let layout = TextLayout::new(text, &Style::new(&face(sign), 1000.0)).expect("a layout");
        let own = layout.text().find(sign).expect("the sign") as u32;
        let glyphs = layout.glyphs().iter();
        let cluster = |glyph: &&PlacedGlyph| layout.clusters()[glyph.cluster as usize].start == own;
        glyphs.clone().find(cluster).expect("a glyph").glyph.0
    };
    let (arabic, latin) = (10, 11);
    // Behind a letter; before one, where none is before it.
    assert_eq!(sign_in("ب!", '!'), arabic);
    assert_eq!(sign_in("!ب", '!'), arabic);
    assert_eq!(sign_in("!a", '!'), latin);
    assert_eq!(sign_in("a!", '!'), latin);
    // The mark that closes goes with the one that opens, and no sign with letters that run
    // the other way.
    assert_eq!(sign_in("ب «a» ب", '»'), arabic);
    assert_eq!(sign_in("ب (a) ب", ')'), arabic);
    assert_eq!(sign_in("ب a ! ب", '!'), arabic);
    assert_eq!(sign_in("(ب) a", ')'), arabic);
}

#[test]
fn marks_behind_a_glyph_that_was_taken_apart_stand_on_its_first_part() {
    // a → 6 7; the mark 2 stands on 6 at (100, 500), on 7 at (100, 900), by (0, 0).
    let multiple = (2, 0, with_coverage(vec![1, 0, 1, 8, 2, 6, 7], 1, &[1]));
    let ccmp = layout_table(&[(b"ccmp", &[0])], &[multiple]);
    let mut mark = words(&[1, 12, 18, 1, 26, 38]);
    mark.extend(coverage(&[2]));
    mark.extend(coverage(&[6, 7]));
    mark.extend(words(&[1, 0, 6, 1, 0, 0]));
    mark.extend(words(&[2, 6, 12, 1, 100, 500, 1, 100, 900]));
    let face = font('a')
        .table(b"GSUB", ccmp)
        .table(b"GPOS", layout_table(&[(b"mark", &[0])], &[(4, 0, mark)]))
        .table(b"GDEF", definitions(&[2]))
        .face();
    let glyphs = shaped(&face, "ab", &[]);
    let places: Vec<_> = glyphs.iter().map(|g| (g.glyph.0, g.x)).collect();
    assert_eq!(places, [(6, 0.0), (7, 560.0), (2, 100.0)]);
    assert_eq!(glyphs[0].y - glyphs[2].y, 500.0);
}

#[test]
fn a_joiner_between_arabic_letters_forbids_their_ligature() {
    // lam, alef → 10; ZWJ is glyph 3.
    let lookup = (
        4,
        0,
        with_coverage(vec![1, 0, 1, 8, 1, 4, 10, 2, 2], 1, &[1]),
    );
    let table = layout_table(&[(b"rlig", &[0])], &[lookup]);
    let map = cmap12(&[[0x627, 0x627, 2], [0x644, 0x644, 1], [0x200d, 0x200d, 3]]);
    let face = font('a').table(b"cmap", map).table(b"GSUB", table).face();
    assert_eq!(ids(&face, "\u{644}\u{627}", &[]), [10]);
    assert_eq!(ids(&face, "\u{644}\u{200d}\u{627}", &[]), [1, 2]);
}

#[test]
fn syllables_and_points_come_as_fonts_expect_them() {
    // Every character of the cases has a glyph, in the order of this list.
    let all = [
        0x1100, 0x1161, 0x11a8, 0x11f0, 0x302e, 0xac00, 0xac01, 0xe81, 0xeb2, 0xeb4, 0xec8, 0xecd,
        0x5d0, 0x5b4, 0x5b7, 0x5bd,
    ];
    let mut groups: Vec<[u32; 3]> = (1..).zip(all).map(|(glyph, c)| [c, c, glyph]).collect();
    groups.sort_unstable();
    let face = font('a').table(b"cmap", cmap12(&groups)).face();
    let order = |text: &str| -> Vec<u32> {
        let ids = ids(&face, text, &[]).into_iter();
        ids.map(|id| all[usize::from(id) - 1]).collect()
    };
    // Modern syllables are one glyph; with an old last letter they are three.
    assert_eq!(order("\u{1100}\u{1161}\u{11a8}"), [0xac01]);
    assert_eq!(order("\u{1100}\u{1161}\u{11f0}"), [0x1100, 0x1161, 0x11f0]);
    assert_eq!(order("\u{ac00}\u{11f0}"), [0x1100, 0x1161, 0x11f0]);
    // A tone mark stands at the left of its syllable.
    assert_eq!(order("\u{ac00}\u{302e}"), [0x302e, 0xac00]);
    // The ring of Lao AM goes before an upper vowel and a tone mark.
    assert_eq!(
        order("\u{e81}\u{eb4}\u{ec8}\u{eb3}"),
        [0xe81, 0xecd, 0xeb4, 0xec8, 0xeb2]
    );
    // Patah, hiriq, meteg: the meteg between the two.
    assert_eq!(
        order("\u{5d0}\u{5b7}\u{5b4}\u{5bd}"),
        [0x5d0, 0x5b7, 0x5bd, 0x5b4]
    );
}
