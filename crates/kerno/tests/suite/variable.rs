//! Variable fonts: tables of a few words, and where they move things.

use kerno::Face;
use kerno::font::{FontError, GlyphId, Tag};
use kerno::outline::{Outline, Segment};

use crate::hostile::damage;
use crate::subset::packed_with;
use crate::support::{FontBuilder, cmap12, composite, polygon, words};

const WEIGHT: Tag = Tag::new(b"wght");

/// One axis from 100 by 400 to 900, and an instance 7 named by string 0.
pub(crate) fn fvar() -> Vec<u8> {
    let mut table = words(&[1, 0, 16, 2, 1, 20, 1, 8]);
    table.extend(b"wght");
    table.extend(words(&[100, 0, 400, 0, 900, 0, 0, 256]));
    table.extend(words(&[257, 0, 700, 0]));
    table
}

/// A `gvar` of one axis whose shared peak is 1.
fn gvar(glyphs: &[Vec<u8>]) -> Vec<u8> {
    let count = glyphs.len();
    let data = 20 + 4 * (count + 1) + 2;
    let mut table = words(&[1, 0, 1, 1, 0, 20 + 4 * (count as i32 + 1)]);
    table.extend(words(&[count as i32, 1, 0, data as i32]));
    let mut offset = 0_u32;
    for glyph in glyphs {
        table.extend(offset.to_be_bytes());
        offset += glyph.len() as u32;
    }
    table.extend(offset.to_be_bytes());
    table.extend(words(&[0x4000]));
    table.extend(glyphs.iter().flatten());
    table
}

/// Variation data of one tuple that names no points, so all of them.
fn all_points(deltas: &[u8]) -> Vec<u8> {
    let mut data = words(&[0x8001, 8, deltas.len() as i32, 0]);
    data.push(0); // shared point numbers: all
    data.extend(deltas);
    data
}

fn square() -> Vec<u8> {
    polygon(&[(0, 0), (100, 0), (100, 100), (0, 100)])
}

fn font(glyphs: &[Vec<u8>], variations: &[Vec<u8>]) -> FontBuilder {
    let hmtx: Vec<i32> = glyphs.iter().flat_map(|_| [500, 0]).collect();
    FontBuilder::new(glyphs)
        .table(b"hmtx", words(&hmtx))
        .table(b"fvar", fvar())
        .table(b"gvar", gvar(variations))
}

pub(crate) fn at(face: &Face, weight: f32) -> Face {
    face.instance(&[(WEIGHT, weight)]).expect("the axis")
}

fn corners(face: &Face, glyph: u16) -> Vec<(f32, f32)> {
    let mut outline = Outline::new();
    face.outline(GlyphId(glyph), &mut outline)
        .expect("an outline");
    let corner = |segment| match segment {
        Segment::Start(p) | Segment::Line(p) => (p.x, p.y),
        _ => panic!("a curve in a polygon"),
    };
    outline.segments().map(corner).collect()
}

/// Four points and four phantoms: the right side moves by 40 to the right, the
/// top by 20 up, and the advance grows by 60.
fn grow() -> Vec<u8> {
    // x: runs of one zero, two bytes, two zeros, one byte 60, two zeros.
    let mut deltas = vec![0x80, 1, 40, 40, 0x81, 0, 60, 0x81];
    // y: two zeros, two bytes, four zeros.
    deltas.extend([0x81, 1, 20, 20, 0x83]);
    all_points(&deltas)
}

#[test]
fn points_and_advances_move_along_an_axis() {
    let face = font(&[square()], &[grow()]).face();
    assert_eq!(
        corners(&face, 0),
        [(0.0, 0.0), (100.0, 0.0), (100.0, 100.0), (0.0, 100.0)]
    );
    let bold = at(&face, 900.0);
    assert_eq!(
        corners(&bold, 0),
        [(0.0, 0.0), (140.0, 0.0), (140.0, 120.0), (0.0, 120.0)]
    );
    assert_eq!(
        (face.advance(GlyphId(0)), bold.advance(GlyphId(0))),
        (500, 560)
    );
    let bounds = bold.bounds(GlyphId(0)).expect("an outline").expect("ink");
    assert_eq!((bounds.x_max, bounds.y_max), (140, 120));
    // Half-way from 400 to 900, and beyond the end.
    assert_eq!(corners(&at(&face, 650.0), 0)[2], (120.0, 110.0));
    assert_eq!(corners(&at(&face, 2000.0), 0)[2], (140.0, 120.0));
    // Below the default a peak of 1 does not count.
    assert_eq!(corners(&at(&face, 100.0), 0), corners(&face, 0));
    assert_eq!(at(&face, 650.0).advance(GlyphId(0)), 530);
}

#[test]
fn points_that_are_not_named_move_with_their_neighbours() {
    // Points 0 and 2 of five along the bottom, at x = 0, 50, 100, 150 and the
    // top corner: only these two are named, by +10 and +30.
    let shape = polygon(&[(0, 0), (50, 0), (100, 0), (150, 0), (75, 90)]);
    let mut data = words(&[0x0001, 8, 12, 0x2000]);
    data.extend([2, 1, 0, 2]); // two private points: 0 and 2
    data.extend([1, 10, 30, 0x81]); // x deltas, y deltas
    data.resize(20, 0);
    let face = font(&[shape], &[data]).face();
    let xs: Vec<f32> = corners(&at(&face, 900.0), 0)
        .iter()
        .map(|corner| corner.0)
        .collect();
    // Between the two in proportion, past the second as the second.
    assert_eq!(xs, [10.0, 70.0, 130.0, 180.0, 75.0 + 10.0 + 20.0 * 0.75]);
}

#[test]
fn components_move_by_their_offsets() {
    let parts = composite(&[0x23, 0, 0, 0, 0x03, 0, 200, 0]);
    // Two components and four phantoms: the second moves 50 right, 8 down.
    let deltas = [0x80, 0, 50, 0x83, 0x80, 0, 0xf8, 0x83];
    let face = font(&[square(), parts], &[grow(), all_points(&deltas)]).face();
    let bold = corners(&at(&face, 900.0), 1);
    assert_eq!(bold[..2], [(0.0, 0.0), (140.0, 0.0)]);
    assert_eq!(bold[4..6], [(250.0, -8.0), (390.0, -8.0)]);
}

#[test]
fn avar_bends_the_axis() {
    // -1 to -1, 0 to 0, 0.5 to 0.25, 1 to 1.
    let mut avar = words(&[1, 0, 0, 1, 4]);
    avar.extend(words(&[
        -0x4000, -0x4000, 0, 0, 0x2000, 0x1000, 0x4000, 0x4000,
    ]));
    let face = font(&[square()], &[grow()]).table(b"avar", avar).face();
    // 650 is half-way, so a quarter: 100 + 40/4.
    assert_eq!(corners(&at(&face, 650.0), 0)[1], (110.0, 0.0));
    // 775 is three quarters: half-way from 0.25 to 1.
    assert_eq!(corners(&at(&face, 775.0), 0)[1], (125.0, 0.0));
}

/// A store of one region (peak 1) and one item of a 16-bit delta.
pub(crate) fn store(delta: i32) -> Vec<u8> {
    let mut store = words(&[1, 0, 12, 1, 0, 22]);
    store.extend(words(&[1, 1, 0, 0x4000, 0x4000]));
    store.extend(words(&[1, 1, 1, 0, delta]));
    store
}

#[test]
fn advances_and_measures_vary_by_their_own_tables() {
    // HVAR without a map: the item of glyph 0 is item 0.
    let mut hvar = words(&[1, 0, 0, 20, 0, 0, 0, 0, 0, 0]);
    hvar.extend(store(77));
    // MVAR: one record, the ascender.
    let mut mvar = words(&[1, 0, 0, 8, 1, 20]);
    mvar.extend(b"hasc");
    mvar.extend(words(&[0, 0]));
    mvar.extend(store(30));
    let font = font(&[square()], &[grow()]);
    let font = font.table(b"HVAR", hvar).table(b"MVAR", mvar);
    // An advance that is nothing by default can grow as well.
    let mark = font.clone().table(b"hmtx", words(&[0, 0])).face();
    assert_eq!(at(&mark, 900.0).advance(GlyphId(0)), 77);
    let face = font.face();
    assert_eq!(
        at(&face, 900.0).advance(GlyphId(0)),
        577,
        "HVAR before phantom points"
    );
    assert_eq!(
        (face.metrics().ascender, at(&face, 900.0).metrics().ascender),
        (800, 830)
    );
    assert_eq!(at(&face, 650.0).metrics().ascender, 815);
}

#[test]
fn axes_and_instances_are_listed() {
    let face = font(&[square()], &[grow()]).face();
    let axes = face.axes().expect("a table");
    let [axis] = &axes[..] else {
        panic!("one axis")
    };
    assert_eq!(
        (axis.tag, axis.min, axis.default, axis.max),
        (WEIGHT, 100.0, 400.0, 900.0)
    );
    let instances = face.named_instances().expect("a table");
    assert_eq!(instances[0].settings, [(WEIGHT, 700.0)]);
    let error = face
        .instance(&[(Tag::new(b"wdth"), 9.0)])
        .expect_err("no such axis");
    assert_eq!(
        error.to_string(),
        "the face has no axis 'wdth'; it has 'wght'"
    );
    let plain = FontBuilder::new(&[square()]).face();
    assert!(plain.axes().expect("none").is_empty());
    let error = plain
        .instance(&[(WEIGHT, 700.0)])
        .expect_err("not variable");
    assert!(matches!(error, FontError::NoSuchAxis { .. }));
}

#[test]
fn damaged_variations_are_survived() {
    let parts = composite(&[0x23, 0, 0, 0, 0x03, 0, 200, 0]);
    let deltas = [0x80, 0, 50, 0x83, 0x80, 0, 0xf8, 0x83];
    damage(&font(&[square(), parts], &[grow(), all_points(&deltas)]).build());
    let numbers: Vec<u8> = [10, 5, 40, -10, 2].into_iter().flat_map(short).collect();
    let charstring = [numbers, vec![16, 21], short(100), short(50), vec![7]].concat();
    damage(&cff2_font(&charstring).build());
}

/// A number of a DICT or charstring in three bytes.
fn short(value: i32) -> Vec<u8> {
    [vec![28], words(&[value])].concat()
}

/// An INDEX of one object, as version 2 has it: a long count.
fn one(object: &[u8]) -> Vec<u8> {
    let end = object.len() as u8 + 1;
    [&[0, 0, 0, 1, 1, 1, end], object].concat()
}

/// A `CFF2` table of one glyph (OpenType `CFF2`), whose only region peaks at the
/// end of the only axis.
fn cff2(charstring: &[u8]) -> Vec<u8> {
    let glyphs = one(charstring);
    // Top DICT of 13 bytes, an empty INDEX of global subroutines, the glyphs.
    let fonts_at = 5 + 13 + 4 + glyphs.len() as i32;
    let fonts = one(&[short(0), short(0), vec![18]].concat()); // Private: empty
    let store_at = fonts_at + fonts.len() as i32;
    let top = [
        [short(22), vec![17]].concat(),           // CharStrings
        [short(fonts_at), vec![12, 36]].concat(), // FDArray
        [short(store_at), vec![24]].concat(),     // vstore
    ]
    .concat();
    // Item variation store: one region, one set of data that uses it.
    let regions = words(&[1, 1, 0, 0x4000, 0x4000]);
    let store = words(&[1, 0, 12, 1, 0, 22]);
    let data = words(&[0, 0, 1, 0]);
    let store = [words(&[30]), store, regions, data].concat();
    [vec![2, 0, 5, 0, 13], top, vec![0; 4], glyphs, fonts, store].concat()
}

fn cff2_font(charstring: &[u8]) -> FontBuilder {
    FontBuilder::new(&[vec![]])
        .without(b"glyf")
        .without(b"loca")
        .table(b"fvar", fvar())
        .table(b"CFF2", cff2(charstring))
}

#[test]
fn postscript_outlines_blend() {
    const BLEND: u8 = 16;
    // Two numbers, 10 and 5, which grow by 40 and -10; rmoveto; lines up and right.
    let numbers: Vec<u8> = [10, 5, 40, -10, 2].into_iter().flat_map(short).collect();
    let path = [short(100), short(50), vec![7]].concat(); // vlineto
    let font = cff2_font(&[numbers, vec![BLEND, 21], path].concat());
    let face = font.face();
    assert_eq!(
        corners(&face, 0),
        [(10.0, 5.0), (10.0, 105.0), (60.0, 105.0)]
    );
    // Half-way from 400 to 900.
    let half = [(30.0, 0.0), (30.0, 100.0), (80.0, 100.0)];
    assert_eq!(corners(&at(&face, 650.0), 0), half);
    assert_eq!(corners(&at(&face, 900.0), 0)[0], (50.0, -5.0));
    // Nothing varies below the default: the region has no share there.
    assert_eq!(corners(&at(&face, 100.0), 0)[0], (10.0, 5.0));
}

#[test]
fn a_blend_without_its_numbers_is_refused() {
    let refused = |charstring: Vec<u8>| {
        let face = at(&cff2_font(&charstring).face(), 900.0);
        let error = face.outline(GlyphId(0), &mut Outline::new());
        error.expect_err("a wrong charstring").to_string()
    };
    let message = refused([short(7), vec![16]].concat());
    assert!(
        message.contains("'CFF2'") && message.contains("more numbers"),
        "{message}"
    );
    let message = refused([short(1), vec![15], short(1), short(2), short(1), vec![16]].concat());
    assert!(
        message.contains("vsindex") && message.contains("fewer data"),
        "{message}"
    );
}

#[test]
fn damaged_advances_are_refused_with_the_instance() {
    // A store that says its data lie past the end.
    let hvar = words(&[1, 0, 0, 20, 0, 0, 0, 0, 0, 0, 1, 0, 12, 1, 0, 900]);
    let face = font(&[square()], &[all_points(&[])])
        .table(b"HVAR", hvar)
        .face();
    let error = face.instance(&[(WEIGHT, 900.0)]).expect_err("damage");
    assert!(error.to_string().contains("'HVAR'"), "{error}");
}

#[test]
fn upright_advances_vary_by_their_own_table() {
    let mut vvar = words(&[1, 0, 0, 24, 0, 0, 0, 0, 0, 0, 0, 0]);
    vvar.extend(store(90));
    let mut vhea = vec![0; 36];
    vhea[35] = 1;
    let upright = font(&[square()], &[grow()])
        .table(b"vhea", vhea)
        .table(b"vmtx", words(&[800, 0]));
    let face = upright.clone().table(b"VVAR", vvar).face();
    assert_eq!(face.vertical_advance(GlyphId(0)), Some(800));
    assert_eq!(at(&face, 900.0).vertical_advance(GlyphId(0)), Some(890));
    assert_eq!(at(&face, 650.0).vertical_advance(GlyphId(0)), Some(845));
}

#[test]
fn packs_carry_the_variations_of_the_glyphs_that_stay() {
    let glyphs = vec![square(), square(), square(), square(), composite_of(2)];
    let data = vec![vec![], grow(), vec![], grow(), vec![]];
    let bytes = font(&glyphs, &data)
        .table(b"cmap", cmap12(&[[0x61, 0x64, 1]]))
        .build();
    let whole = Face::from_bytes(bytes.clone()).expect("a font");
    for weight in [100.0, 400.0, 650.0, 900.0] {
        for letters in ["a", "c", "bc", "d", "abcd"] {
            let axes = format!("axes = {{ wght = {weight:.1} }}\n");
            let (pack, size) = packed_with(&bytes, letters, &axes);
            assert!(
                size < bytes.len() || letters.len() > 1,
                "{size} of {}",
                bytes.len()
            );
            let (carried, own) = (pack.face("text").expect("a face"), at(&whole, weight));
            for letter in letters.chars() {
                let glyph = own.glyph(letter).expect("a glyph");
                assert_eq!(
                    corners(&carried, glyph.0),
                    corners(&own, glyph.0),
                    "{letter} at {weight}"
                );
                assert_eq!(carried.advance(glyph), own.advance(glyph));
            }
        }
    }
}

/// A composite of one glyph, as it is.
fn composite_of(glyph: i32) -> Vec<u8> {
    composite(&[0x0003, glyph, 7, 9])
}
