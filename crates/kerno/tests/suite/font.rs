//! The reader against the tables themselves, read here a second time in the
//! plainest way, and against tiny fonts whose answers follow by hand.

use std::collections::HashMap;

use kerno::Face;
use kerno::font::{FontBounds, FontError, GlyphId, NameId, TableFault, Tag};
use kerno::outline::{Outline, OutlinePoint, Segment};

use crate::support::{
    AVERIA, FontBuilder, LATO, MISAKI, averia, cmap12, composite, contour, lato, long, misaki,
    polygon, table, word, words,
};

/// Every character of a format 4 subtable of platform 3, encoding 1, by going
/// through all codes of all segments.
fn format_4(font: &[u8]) -> HashMap<char, GlyphId> {
    let cmap = table(font, b"cmap");
    let record = (0..usize::from(word(cmap, 2)))
        .map(|index| 4 + index * 8)
        .find(|at| (word(cmap, *at), word(cmap, at + 2)) == (3, 1))
        .expect("a Windows map of the BMP");
    let map = &cmap[long(cmap, record + 4)..];
    assert_eq!(word(map, 0), 4);
    let double = usize::from(word(map, 6));
    let mut found = HashMap::new();
    for segment in (0..double).step_by(2) {
        let end = word(map, 14 + segment);
        let start = word(map, 16 + double + segment);
        let delta = word(map, 16 + 2 * double + segment);
        let own_place = 16 + 3 * double + segment;
        let offset = usize::from(word(map, own_place));
        for code in start..=end {
            let glyph = if offset == 0 {
                code.wrapping_add(delta)
            } else {
                match word(map, own_place + offset + 2 * usize::from(code - start)) {
                    0 => 0,
                    glyph => glyph.wrapping_add(delta),
                }
            };
            if let Some(character) = char::from_u32(code.into()).filter(|_| glyph != 0) {
                found.insert(character, GlyphId(glyph));
            }
        }
    }
    found
}

#[test]
fn characters_are_those_of_the_map() {
    for (face, bytes) in [(lato(), LATO), (averia(), AVERIA), (misaki(), MISAKI)] {
        let wanted = format_4(bytes);
        let listed: HashMap<char, GlyphId> = face.characters().collect();
        assert_eq!(listed, wanted, "{face:?}");
        for code in 0..=0xffff_u32 {
            if let Some(character) = char::from_u32(code) {
                assert_eq!(
                    face.glyph(character),
                    wanted.get(&character).copied(),
                    "{character:?}"
                );
            }
        }
    }
}

#[test]
fn advances_and_bearings_are_those_of_hmtx() {
    for (face, bytes) in [(lato(), LATO), (averia(), AVERIA), (misaki(), MISAKI)] {
        let hmtx = table(bytes, b"hmtx");
        let long_count = word(table(bytes, b"hhea"), 34);
        for glyph in 0..face.glyph_count() {
            let own = usize::from(glyph.min(long_count - 1)) * 4;
            let bearing = if glyph < long_count {
                own + 2
            } else {
                usize::from(long_count) * 4 + usize::from(glyph - long_count) * 2
            };
            let id = GlyphId(glyph);
            assert_eq!(face.advance(id), word(hmtx, own));
            assert_eq!(face.left_side_bearing(id), word(hmtx, bearing) as i16);
        }
    }
}

/// The pairs of all format 0 subtables of `kern`, added up.
fn kern_pairs(font: &[u8]) -> HashMap<(u16, u16), i32> {
    let kern = table(font, b"kern");
    let mut found: HashMap<(u16, u16), i32> = HashMap::new();
    let mut at = 4;
    for _ in 0..word(kern, 2) {
        let pairs = usize::from(word(kern, at + 6));
        for pair in (at + 14..).step_by(6).take(pairs) {
            let key = (word(kern, pair), word(kern, pair + 2));
            *found.entry(key).or_default() += i32::from(word(kern, pair + 4) as i16);
        }
        at += 14 + pairs * 6;
    }
    found
}

/// The glyphs of a coverage table in order, each listed (OpenType, “Coverage
/// Table”).
fn coverage(table: &[u8]) -> Vec<u16> {
    let entries = 0..usize::from(word(table, 2));
    match word(table, 0) {
        1 => entries.map(|at| word(table, 4 + at * 2)).collect(),
        _ => entries
            .flat_map(|at| word(table, 4 + at * 6)..=word(table, 6 + at * 6))
            .collect(),
    }
}

/// The class of each glyph that a class definition lists.
fn classes(table: &[u8]) -> HashMap<u16, usize> {
    if word(table, 0) == 1 {
        let listed = 0..word(table, 4);
        let class = |at: u16| {
            (
                word(table, 2) + at,
                word(table, 6 + usize::from(at) * 2).into(),
            )
        };
        return listed.map(class).collect();
    }
    let ranges = (0..usize::from(word(table, 2))).map(|at| 4 + at * 6);
    ranges
        .flat_map(|at| {
            (word(table, at)..=word(table, at + 2)).map(move |g| (g, word(table, at + 4).into()))
        })
        .collect()
}

/// One pair subtable of `GPOS` whose values are an `XAdvance` alone, asked the
/// plainest way.
fn gpos_pair(table: &[u8], left: u16, right: u16) -> Option<i32> {
    assert_eq!(
        (word(table, 4), word(table, 6)),
        (4, 0),
        "only the left advance changes"
    );
    let from = |at: usize| &table[usize::from(word(table, at))..];
    let covered = coverage(from(2)).iter().position(|glyph| *glyph == left)?;
    let value = if word(table, 0) == 1 {
        let set = from(10 + covered * 2);
        let pairs = (0..usize::from(word(set, 0))).map(|pair| 2 + pair * 4);
        let pair = { pairs }.find(|at| word(set, *at) == right)?;
        word(set, pair + 2)
    } else {
        let class = |at: usize, glyph| classes(from(at)).get(&glyph).copied().unwrap_or(0);
        let (row, column) = (class(8, left), class(10, right));
        word(
            table,
            16 + (row * usize::from(word(table, 14)) + column) * 2,
        )
    };
    Some(i32::from(value as i16))
}

/// Lato's lookups of pairs, which all belong to its feature `kern`: of each the
/// first subtable counts that knows the pair.
fn lato_gpos(left: GlyphId, right: GlyphId) -> i32 {
    let gpos = table(LATO, b"GPOS");
    let lookups = &gpos[usize::from(word(gpos, 8))..];
    let in_lookup = |lookup: &[u8]| {
        let subtables = (0..usize::from(word(lookup, 4)))
            .map(|at| &lookup[usize::from(word(lookup, 6 + at * 2))..]);
        { subtables }.find_map(|subtable| gpos_pair(subtable, left.0, right.0))
    };
    (0..usize::from(word(lookups, 0)))
        .map(|at| &lookups[usize::from(word(lookups, 2 + at * 2))..])
        .filter(|lookup| word(lookup, 0) == 2)
        .filter_map(in_lookup)
        .sum()
}

/// The number of pairs of some characters that a face kerns; each has to be as wanted.
fn check_pairs(face: &Face, characters: &str, wanted: impl Fn(GlyphId, GlyphId) -> i32) -> usize {
    let glyphs: Vec<_> = characters
        .chars()
        .map(|c| face.glyph(c).expect("ASCII"))
        .collect();
    let mut kerned = 0;
    for left in &glyphs {
        for right in &glyphs {
            let value = face.kerning(*left, *right);
            assert_eq!(value, wanted(*left, *right), "{left:?} {right:?}");
            kerned += usize::from(value != 0);
        }
    }
    kerned
}

#[test]
fn kerning_is_that_of_every_ascii_pair() {
    let ascii: String = (' '..='~').collect();
    let listed = |font| {
        let pairs = kern_pairs(font);
        move |left: GlyphId, right: GlyphId| pairs.get(&(left.0, right.0)).copied().unwrap_or(0)
    };
    assert!(check_pairs(&averia(), &ascii, listed(AVERIA)) > 500);
    // Lato says it twice; where both are there `GPOS` counts, else `kern`.
    assert!(check_pairs(&lato(), "AVWTYLPFoaevwy.,-“”", lato_gpos) > 100);
    let mut without = LATO.to_vec();
    let tag = without
        .windows(4)
        .position(|tag| tag == b"GPOS")
        .expect("a record");
    without[tag] = b'X';
    let face = Face::from_bytes(without).expect("a font");
    assert!(check_pairs(&face, &ascii, listed(LATO)) > 500);
}

/// The smallest box around the points of an outline.
fn extent(outline: &Outline) -> (OutlinePoint, OutlinePoint) {
    let mut low = OutlinePoint::new(f32::MAX, f32::MAX);
    let mut high = OutlinePoint::new(f32::MIN, f32::MIN);
    for segment in outline.segments() {
        let points = match segment {
            Segment::Start(a) | Segment::Line(a) => vec![a],
            Segment::Quadratic(a, b) => vec![a, b],
            Segment::Cubic(a, b, c) => vec![a, b, c],
        };
        for point in points {
            low = OutlinePoint::new(low.x.min(point.x), low.y.min(point.y));
            high = OutlinePoint::new(high.x.max(point.x), high.y.max(point.y));
        }
    }
    (low, high)
}

#[test]
fn outlines_fill_their_stated_bounds_from_the_side_bearing() {
    let mut outline = Outline::new();
    for face in [lato(), averia(), misaki()] {
        for character in '!'..='~' {
            let glyph = face.glyph(character).expect("ASCII");
            face.outline(glyph, &mut outline).expect("an outline");
            let (low, high) = extent(&outline);
            let bounds = face.bounds(glyph).expect("a header").expect("ink");
            let stated = [bounds.x_min, bounds.y_min, bounds.x_max, bounds.y_max];
            assert_eq!(
                [low.x, low.y, high.x, high.y],
                stated.map(f32::from),
                "{character}"
            );
            assert_eq!(
                low.x,
                f32::from(face.left_side_bearing(glyph)),
                "{character}"
            );
        }
        let space = face.glyph(' ').expect("a space");
        face.outline(space, &mut outline).expect("an outline");
        assert!(outline.is_empty());
        assert_eq!(face.bounds(space).expect("no fault"), None);
    }
}

#[test]
fn curves_run_by_way_of_implied_points() {
    // A contour of off-curve points only: the on-curve points lie half-way
    // between (OpenType `glyf`, “Simple Glyph Description”, ON_CURVE_POINT).
    let diamond = contour(&[
        (0, 0, false),
        (100, 0, false),
        (100, 80, false),
        (0, 80, false),
    ]);
    let mut outline = Outline::new();
    FontBuilder::new(&[diamond])
        .face()
        .outline(GlyphId(0), &mut outline)
        .expect("an outline");
    let at = OutlinePoint::new;
    assert_eq!(
        outline.segments().collect::<Vec<_>>(),
        [
            Segment::Start(at(0.0, 40.0)),
            Segment::Quadratic(at(0.0, 0.0), at(50.0, 0.0)),
            Segment::Quadratic(at(100.0, 0.0), at(100.0, 40.0)),
            Segment::Quadratic(at(100.0, 80.0), at(50.0, 80.0)),
            Segment::Quadratic(at(0.0, 80.0), at(0.0, 40.0)),
        ]
    );
}

#[test]
fn a_contour_may_begin_off_the_curve_and_a_lone_point_is_none() {
    let flag = contour(&[(0, 0, false), (100, 0, true), (0, 80, true)]);
    let lone = polygon(&[(900, 900)]);
    // Glyph 0 and glyph 1 at 0, 0 (bytes, x and y; more follow, 0x22).
    let both = composite(&[0x22, 1, 0, 0x02, 0, 0]);
    let face = FontBuilder::new(&[flag, lone, both])
        .table(b"hmtx", words(&[500, 0, 500, 900, 500, 0]))
        .face();
    let segments = |glyph| {
        let mut outline = Outline::new();
        face.outline(GlyphId(glyph), &mut outline)
            .expect("an outline");
        outline.segments().collect::<Vec<_>>()
    };
    let at = OutlinePoint::new;
    let expected = [
        Segment::Start(at(0.0, 80.0)),
        Segment::Quadratic(at(0.0, 0.0), at(100.0, 0.0)),
    ];
    assert_eq!(segments(0), expected);
    assert_eq!(segments(1), []);
    assert_eq!(segments(2), expected);
}

#[test]
fn flags_may_stand_for_several_points() {
    // OpenType `glyf`, REPEAT_FLAG: one flag, and how many more points have it.
    let corners: Vec<(i32, i32)> = (0..18).map(|step| (step * step, step % 2 * 50)).collect();
    let plain = polygon(&corners);
    let (head, rest) = plain.split_at(14);
    let coordinates = &rest[corners.len()..];
    let outline = |flags: &[u8]| {
        let glyph = [head, flags, coordinates].concat();
        let mut outline = Outline::new();
        let face = FontBuilder::new(&[glyph]).face();
        let result = face.outline(GlyphId(0), &mut outline);
        result.map(|()| outline.segments().collect::<Vec<_>>())
    };
    let expected = outline(&[1; 18]).expect("an outline");
    assert_eq!(expected.len(), 18);
    assert_eq!(outline(&[9, 12, 9, 3, 1]).expect("an outline"), expected);
    assert_eq!(outline(&[1, 9, 0, 1, 9, 14]).expect("an outline"), expected);
    // More than there are points mean nothing.
    assert_eq!(outline(&[9, 255]).expect("an outline"), expected);
}

#[test]
fn a_damaged_glyph_leaves_no_outline() {
    let triangle = polygon(&[(0, 0), (100, 0), (0, 40)]);
    // The second component is a glyph that the face does not have.
    let broken = composite(&[0x22, 0, 0, 0x02, 9, 0]);
    let face = FontBuilder::new(&[triangle, broken]).face();
    let mut outline = Outline::new();
    assert!(face.outline(GlyphId(1), &mut outline).is_err());
    assert!(outline.is_empty());
}

/// The corners of the second contour of a composite whose parts are triangles.
fn second_triangle(records: &[i32]) -> Vec<(f32, f32)> {
    let triangle = polygon(&[(0, 0), (100, 0), (0, 40)]);
    let face = FontBuilder::new(&[triangle, composite(records)])
        .patch(b"hmtx", 6, &[0, 0]) // the composite's side bearing: its xMin, 0
        .face();
    let mut outline = Outline::new();
    face.outline(GlyphId(1), &mut outline).expect("an outline");
    let points = outline.segments().map(|segment| match segment {
        Segment::Start(p) | Segment::Line(p) => (p.x, p.y),
        _ => panic!("a curve in a triangle"),
    });
    points.skip(3).collect()
}

#[test]
fn components_are_placed_by_every_flag() {
    // OpenType `glyf`, “Composite Glyph Description”. The first component is
    // glyph 0 as it is (words, x and y, more follow: 0x0023).
    let first = [0x23, 0, 0, 0];
    let placed = |record: &[i32]| second_triangle(&[&first, record].concat());
    // Offset in words; in bytes (300 does not fit, -1 and 2 do).
    assert_eq!(
        placed(&[0x03, 0, 300, -20]),
        [(300.0, -20.0), (400.0, -20.0), (300.0, 20.0)]
    );
    assert_eq!(
        placed(&[0x02, 0, 0xff02]),
        [(-1.0, 2.0), (99.0, 2.0), (-1.0, 42.0)]
    );
    // One scale, 0.5 as F2DOT14; the offset stays as it is (unscaled) …
    assert_eq!(
        placed(&[0x0b, 0, 10, 20, 0x2000]),
        [(10.0, 20.0), (60.0, 20.0), (10.0, 40.0)]
    );
    assert_eq!(
        placed(&[0x100b, 0, 10, 20, 0x2000]),
        [(10.0, 20.0), (60.0, 20.0), (10.0, 40.0)]
    );
    // … or is scaled with it.
    assert_eq!(
        placed(&[0x080b, 0, 10, 20, 0x2000]),
        [(5.0, 10.0), (55.0, 10.0), (5.0, 30.0)]
    );
    // Two scales: 1 and -1.
    assert_eq!(
        placed(&[0x43, 0, 0, 0, 0x4000, -0x4000]),
        [(0.0, 0.0), (100.0, 0.0), (0.0, -40.0)]
    );
    // Two by two: a quarter turn, x' = -y and y' = x.
    let turn = [0x83, 0, 0, 0, 0, 0x4000, -0x4000, 0];
    assert_eq!(placed(&turn), [(0.0, 0.0), (0.0, 100.0), (-40.0, 0.0)]);
    // By points: its point 0 lands on point 2 of what is there; in words too.
    assert_eq!(
        placed(&[0x00, 0, 0x0200]),
        [(0.0, 40.0), (100.0, 40.0), (0.0, 80.0)]
    );
    assert_eq!(
        placed(&[0x01, 0, 1, 0]),
        [(100.0, 0.0), (200.0, 0.0), (100.0, 40.0)]
    );
    // Rounding, metrics and overlap flags move nothing.
    assert_eq!(
        placed(&[0x0607, 0, 7, 0]),
        [(7.0, 0.0), (107.0, 0.0), (7.0, 40.0)]
    );
}

#[test]
fn the_outline_starts_at_the_side_bearing() {
    // Glyph 2 states xMin 0 and a side bearing of 2.
    let triangle = polygon(&[(0, 0), (100, 0), (0, 40)]);
    let face = FontBuilder::new(&[triangle.clone(), triangle.clone(), triangle]).face();
    let mut outline = Outline::new();
    face.outline(GlyphId(2), &mut outline).expect("an outline");
    assert_eq!(extent(&outline).0.x, 2.0);
    let bounds = FontBounds {
        x_min: 2,
        y_min: 0,
        x_max: 102,
        y_max: 40,
    };
    assert_eq!(face.bounds(GlyphId(2)).expect("a header"), Some(bounds));
}

#[test]
fn format_12_maps_all_of_unicode() {
    let glyphs = vec![polygon(&[(0, 0), (9, 0), (0, 9)]); 9];
    let map = cmap12(&[
        [0x41, 0x43, 1],
        [0x1f6a2, 0x1f6a3, 7],
        [0x10fffe, 0x10ffff, 3],
    ]);
    let face = FontBuilder::new(&glyphs).table(b"cmap", map).face();
    assert_eq!(face.glyph('A'), Some(GlyphId(1)));
    assert_eq!(face.glyph('C'), Some(GlyphId(3)));
    assert_eq!(face.glyph('D'), None);
    assert_eq!(face.glyph('🚣'), Some(GlyphId(8)));
    assert_eq!(face.glyph(char::MAX), Some(GlyphId(4)));
    assert_eq!(face.characters().count(), 7);
}

#[test]
fn kern_lists_add_up_and_override() {
    // Two lists of one pair each (OpenType `kern`, format 0): glyphs 1 and 2.
    let list = |coverage, value| [0, 20, coverage, 1, 6, 0, 0, 1, 2, value];
    let kern = |second| words(&[&[0, 2][..], &list(1, -50), &list(second, 20)].concat());
    let glyphs = vec![polygon(&[(0, 0), (9, 0), (0, 9)]); 3];
    let value = |second| {
        let face = FontBuilder::new(&glyphs)
            .table(b"kern", kern(second))
            .face();
        face.kerning(GlyphId(1), GlyphId(2))
    };
    assert_eq!(value(0x0001), -30);
    assert_eq!(value(0x0009), 20, "override");
    assert_eq!(value(0x0005), -50, "cross-stream is not applied");
    assert_eq!(value(0x0003), -50, "minimum is not applied");
}

#[test]
fn pixel_faces_know_their_crisp_sizes() {
    // Misaki: 2048 units to the em, 8 pixels of 256.
    let face = misaki();
    assert_eq!(face.pixels_per_em(), Some(8.0));
    let sizes = [0.0, 11.9, 12.1, 16.0, 100.0].map(|size| face.crisp_size(size));
    assert_eq!(sizes, [8.0, 8.0, 16.0, 16.0, 104.0].map(Some));
    assert_eq!(
        (lato().pixels_per_em(), lato().crisp_size(16.0)),
        (None, None)
    );
    // 1000 units to the em; edges have to be level or upright, and advances to
    // keep to the grid as well.
    let grid = |steps: [i32; 3], advance: i32| {
        let [a, b, c] = steps;
        let stairs = polygon(&[(0, 0), (b, 0), (b, a), (a, a), (a, c), (0, c)]);
        let font = FontBuilder::new(&[vec![], stairs]);
        font.table(b"hmtx", words(&[500, 0, advance, 0]))
            .face()
            .pixels_per_em()
    };
    assert_eq!(grid([125, 250, 375], 375), Some(8.0));
    assert_eq!(grid([125, 250, 375], 400), Some(40.0));
    assert_eq!(grid([125, 250, 375], 401), None);
    // 300 units a pixel: three and a third to the em.
    assert_eq!(grid([300, 600, 900], 600), Some(1000.0 / 300.0));
    // 16 pixels of 62.5 units, rounded to whole ones.
    assert_eq!(grid([63, 188, 312], 500), Some(16.0));
    let slanted = polygon(&[(0, 0), (250, 0), (0, 125)]);
    assert_eq!(
        FontBuilder::new(&[vec![], slanted]).face().pixels_per_em(),
        None
    );
}

#[test]
fn names_and_metrics_are_what_the_files_state() {
    let face = lato();
    assert_eq!(face.name(NameId::FULL).as_deref(), Some("Lato Medium"));
    assert_eq!(
        face.name(NameId::TYPOGRAPHIC_FAMILY).as_deref(),
        Some("Lato")
    );
    assert_eq!(
        face.name(NameId::TYPOGRAPHIC_SUBFAMILY).as_deref(),
        Some("Medium")
    );
    let metrics = face.metrics();
    let os2 = table(LATO, b"OS/2");
    assert_ne!(word(os2, 62) & 0x80, 0, "USE_TYPO_METRICS");
    assert_eq!(metrics.units_per_em, 2000);
    assert_eq!(metrics.ascender as u16, word(os2, 68));
    assert_eq!(metrics.descender as u16, word(os2, 70));
    assert_eq!(metrics.line_gap as u16, word(os2, 72));
    assert_eq!(metrics.cap_height.map(|h| h as u16), Some(word(os2, 88)));
    assert_eq!(metrics.x_height.map(|h| h as u16), Some(word(os2, 86)));
    assert_eq!(metrics.weight, 500);
    // Without that flag it is `hhea` that counts.
    let hhea = table(MISAKI, b"hhea");
    assert_eq!(word(table(MISAKI, b"OS/2"), 62) & 0x80, 0);
    assert_eq!(misaki().metrics().ascender as u16, word(hhea, 4));
    assert_eq!(misaki().metrics().descender as u16, word(hhea, 6));
}

#[test]
fn damaged_tables_are_named() {
    let triangle = polygon(&[(0, 0), (100, 0), (0, 40)]);
    let good = FontBuilder::new(&[triangle]);
    let error = |font: &FontBuilder| Face::from_bytes(font.build()).expect_err("damaged");

    assert!(matches!(
        Face::from_bytes(vec![]),
        Err(FontError::NotAFont(_))
    ));
    assert!(matches!(
        Face::from_bytes(b"not a font".to_vec()),
        Err(FontError::NotAFont(_))
    ));
    assert!(matches!(
        Face::from_bytes(b"%!PS a Type 1 font".to_vec()),
        Err(FontError::UnsupportedFormat(_))
    ));
    assert!(matches!(
        Face::from_file("no/such/font.ttf"),
        Err(FontError::Io { .. })
    ));
    let in_file = Face::from_file("Cargo.toml").expect_err("no font");
    assert!(matches!(in_file, FontError::InFile { path, .. } if path.ends_with("Cargo.toml")));
    assert!(matches!(
        error(&good.clone().without(b"hmtx")),
        FontError::MissingTable(tag) if tag == Tag::new(b"hmtx")
    ));
    assert_eq!(
        error(&good.clone().patch(b"head", 18, &[0, 0])).to_string(),
        "table 'head', byte 18: unitsPerEm is 0, it must be 16 to 16384"
    );
    assert_eq!(
        error(&good.clone().table(b"maxp", vec![0, 1])).to_string(),
        "table 'maxp', byte 4: the table ends before the value that should be here"
    );
    let cut = &LATO[..LATO.len() / 2];
    assert!(matches!(
        Face::from_bytes(cut).expect_err("half a font"),
        FontError::Table { fault: TableFault::PastEnd { file, .. }, .. } if file == cut.len() as u64
    ));
    let face = good.face();
    assert!(matches!(
        face.outline(GlyphId(7), &mut Outline::new()),
        Err(FontError::NoSuchGlyph {
            glyph: GlyphId(7),
            count: 1
        })
    ));
    assert_eq!(face.advance(GlyphId(7)), 0);
}

#[test]
fn a_composite_may_have_the_metrics_of_a_component() {
    // Glyph 1 begins at 100 and has a bearing of 1 (`FontBuilder`): it moves by -99. The
    // composite states 102 as its least x, and has a bearing of 2.
    let part = polygon(&[(100, 0), (400, 0), (100, 700)]);
    let composed = |flags: i32| {
        let mut glyph = composite(&[flags, 1, 0, 0]);
        glyph[2..10].copy_from_slice(&words(&[102, 0, 400, 700]));
        let face = FontBuilder::new(&[part.clone(), part.clone(), glyph]).face();
        let mut outline = Outline::new();
        face.outline(GlyphId(2), &mut outline).expect("an outline");
        let Some(Segment::Start(first)) = outline.segments().next() else {
            panic!("an outline")
        };
        let bounds = face.bounds(GlyphId(2)).expect("bounds").expect("ink");
        (first.x, bounds.x_min)
    };
    // USE_MY_METRICS or not: -99 as the component, or 2 - 102.
    assert_eq!(composed(0x0203), (1.0, 3));
    assert_eq!(composed(0x0003), (0.0, 2));
}
