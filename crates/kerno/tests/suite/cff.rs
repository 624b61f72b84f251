//! PostScript outlines: charstrings written out byte by byte, and the paths
//! that Technical Note 5177 says they draw.

use kerno::Face;
use kerno::font::{FontBounds, FontError, GlyphId};
use kerno::outline::{Outline, OutlinePoint, Segment};

use crate::subset::packed;
use crate::support::{FontBuilder, cmap12};

/// A number of a charstring or a DICT, in its three-byte form.
fn n(value: i16) -> Vec<u8> {
    let [high, low] = value.to_be_bytes();
    vec![28, high, low]
}

/// A charstring: numbers as they come, operators marked by [`op`].
fn code(parts: &[i16]) -> Vec<u8> {
    let part = |part: &i16| match *part {
        op @ 1000..1032 => vec![(op - 1000) as u8],
        escape @ 2000..2038 => vec![12, (escape - 2000) as u8],
        number => n(number),
    };
    parts.iter().flat_map(part).collect()
}

const fn op(operator: i16) -> i16 {
    1000 + operator
}

const fn escape(operator: i16) -> i16 {
    2000 + operator
}

const HSTEM: i16 = op(1);
const RLINETO: i16 = op(5);
const HLINETO: i16 = op(6);
const VLINETO: i16 = op(7);
const RRCURVETO: i16 = op(8);
const CALLSUBR: i16 = op(10);
const RETURN: i16 = op(11);
const ENDCHAR: i16 = op(14);
const RMOVETO: i16 = op(21);
const HMOVETO: i16 = op(22);
const CALLGSUBR: i16 = op(29);

fn index(objects: &[Vec<u8>]) -> Vec<u8> {
    let mut bytes = (objects.len() as u16).to_be_bytes().to_vec();
    if objects.is_empty() {
        return bytes;
    }
    bytes.push(2);
    let mut offset = 1_u16;
    bytes.extend(offset.to_be_bytes());
    for object in objects {
        offset += object.len() as u16;
        bytes.extend(offset.to_be_bytes());
    }
    bytes.extend(objects.iter().flatten());
    bytes
}

/// A number of a DICT in its five-byte form, so that offsets can be filled in
/// without moving what follows.
fn long(value: usize) -> Vec<u8> {
    let mut bytes = vec![29];
    bytes.extend((value as u32).to_be_bytes());
    bytes
}

/// The parts of a font, for [`cff`].
#[derive(Default)]
struct Parts {
    glyphs: Vec<Vec<u8>>,
    local: Vec<Vec<u8>>,
    global: Vec<Vec<u8>>,
    /// The charset table; predefined where empty.
    charset: Vec<u8>,
}

/// A `CFF ` table of one font (Note 5176, section 2).
fn cff(parts: &Parts) -> Vec<u8> {
    let top = |charset: usize, charstrings: usize, private: usize| {
        let mut dict = [long(charset), vec![15], long(charstrings), vec![17]].concat();
        dict.extend([long(4), long(private), vec![18]].concat());
        dict
    };
    let head = |charset, charstrings, private| {
        let name = index(&[b"Lamp".to_vec()]);
        let top = index(&[top(charset, charstrings, private)]);
        let global = index(&parts.global);
        [vec![1, 0, 4, 2], name, top, index(&[]), global].concat()
    };
    let charset = head(0, 0, 0).len();
    let charstrings = charset + parts.charset.len();
    let glyphs = index(&parts.glyphs);
    let private = charstrings + glyphs.len();
    let charset = if parts.charset.is_empty() { 0 } else { charset };
    // Private DICT: the local subroutines lie 4 bytes on, right behind it.
    let mut table = head(charset, charstrings, private);
    table.extend(&parts.charset);
    table.extend(glyphs);
    table.extend([n(4), vec![19]].concat());
    table.extend(index(&parts.local));
    table
}

fn font(count: usize, cff: Vec<u8>) -> FontBuilder {
    let font = FontBuilder::new(&vec![vec![]; count])
        .without(b"glyf")
        .without(b"loca");
    font.table(b"CFF ", cff)
}

fn face(parts: &Parts) -> Face {
    font(parts.glyphs.len(), cff(parts)).face()
}

/// A CID-keyed `CFF ` table of two fonts (Note 5176, section 18): glyphs from `second` on are of the
/// second one. Each has local subroutines of its own.
fn cid_keyed(glyphs: &[Vec<u8>], locals: [&[Vec<u8>]; 2], second: u8) -> Vec<u8> {
    let count = glyphs.len() as u8;
    let top = |select: usize, charstrings: usize, array: usize| {
        let ros = [n(0), n(0), n(0), vec![12, 30]].concat();
        let places = [
            long(charstrings),
            vec![17],
            long(array),
            vec![12, 36],
            long(select),
            vec![12, 37],
        ];
        [ros, places.concat()].concat()
    };
    let head = |select, charstrings, array| {
        let name = index(&[b"Lamp".to_vec()]);
        let top = index(&[top(select, charstrings, array)]);
        [vec![1, 0, 4, 2], name, top, index(&[]), index(&[])].concat()
    };
    let select = head(0, 0, 0).len();
    let ranges = [vec![3, 0, 2, 0, 0, 0, 0, second, 1, 0], vec![count]].concat();
    let charstrings = select + ranges.len();
    let strings = index(glyphs);
    let mut privates = Vec::new();
    let mut fonts = Vec::new();
    for local in locals {
        let at = charstrings + strings.len() + privates.len();
        privates.extend([n(4), vec![19], index(local)].concat());
        fonts.push([long(4), long(at), vec![18]].concat());
    }
    let array = charstrings + strings.len() + privates.len();
    [
        head(select, charstrings, array),
        ranges,
        strings,
        privates,
        index(&fonts),
    ]
    .concat()
}

/// Holds the part of a font that a pack carries to the whole: the outlines of some letters, which
/// stand for the glyphs from 1 on.
fn assert_carried(font: &FontBuilder, letters: &str, most_bytes: usize) {
    let bytes = font
        .clone()
        .table(b"cmap", cmap12(&[[0x61, 0x7a, 1]]))
        .build();
    let whole = Face::from_bytes(bytes.clone()).expect("a font");
    let (pack, size) = packed(&bytes, letters, "");
    assert!(size <= most_bytes, "{size} of {} bytes", bytes.len());
    let carried = pack.face("text").expect("a face");
    for letter in letters.chars() {
        let glyph = whole.glyph(letter).expect("a glyph");
        assert_eq!(carried.glyph(letter), Some(glyph));
        let drawn = outline(&carried, glyph.0).expect("an outline");
        assert!(!drawn.is_empty(), "{letter}");
        assert_eq!(
            drawn,
            outline(&whole, glyph.0).expect("an outline"),
            "{letter}"
        );
        assert_eq!(carried.advance(glyph), whole.advance(glyph));
    }
    // Whoever is not asked for is empty or gone.
    for letter in ('a'..='z').filter(|letter| !letters.contains(*letter)) {
        assert_eq!(carried.glyph(letter), None);
        if let Some(glyph) = whole.glyph(letter) {
            assert!(
                outline(&carried, glyph.0).map_or(true, |drawn| drawn.is_empty()),
                "{letter}"
            );
        }
    }
}

#[test]
fn packs_carry_the_charstrings_and_subroutines_that_are_used() {
    // A triangle by a local subroutine, one by a global one that calls a local one, hint masks
    // whose bytes look like calls, and one that calls none.
    let line = |by: i16| code(&[by, 40, RLINETO, 30, HLINETO, RETURN]);
    for (local_count, global_count) in [(3, 2), (1300, 5), (40, 1250)] {
        let bias = |count: usize| if count < 1240 { 107 } else { 1131 };
        let (local, global) = (bias(local_count), bias(global_count));
        let mut locals = vec![line(1); local_count];
        let mut globals = vec![line(2); global_count];
        let last = local_count as i16 - 1;
        locals[2] = line(17);
        globals[1] = code(&[25, 10, RLINETO, 2 - local, CALLSUBR, RETURN]);
        let mask = [
            code(&[0, 5, HSTEM, 10, 20, RMOVETO]),
            vec![19, 10],
            code(&[50, 60, RLINETO, 7, HLINETO, ENDCHAR]),
        ];
        let glyphs = vec![
            code(&[ENDCHAR]),
            code(&[5, HMOVETO, 2 - local, CALLSUBR, ENDCHAR]),
            code(&[6, HMOVETO, 1 - global, CALLGSUBR, ENDCHAR]),
            code(&[7, HMOVETO, last - local, CALLSUBR, ENDCHAR]),
            mask.concat(),
            code(&[9, HMOVETO, 12, 13, RLINETO, 4, HLINETO, ENDCHAR]),
        ];
        let parts = Parts {
            glyphs,
            local: locals,
            global: globals,
            ..Parts::default()
        };
        let font = font(6, cff(&parts));
        for letters in ["a", "b", "c", "d", "ae", "bcd", "abcde"] {
            assert_carried(&font, letters, usize::MAX);
        }
        let whole = font.build().len();
        if local_count > 1000 {
            assert_carried(&font, "ab", whole / 2);
        }
    }
    // A base and an accent that nobody asked for go with the accented glyph: `a` and acute are
    // glyphs 1 and 2 of this charset, by the numbers of their strings, 66 and 125.
    let accented = code(&[10, 20, 97, 194, ENDCHAR]);
    let part = |by: i16| code(&[by, HMOVETO, 12, 13, RLINETO, 4, HLINETO, ENDCHAR]);
    let mut charset = vec![0];
    charset.extend([0, 66, 0, 125, 0, 200, 0, 201]);
    let glyphs = vec![code(&[ENDCHAR]), part(1), part(2), accented, part(4)];
    let parts = Parts {
        glyphs,
        charset,
        ..Parts::default()
    };
    let bytes = font(5, cff(&parts))
        .table(b"cmap", cmap12(&[[0x61, 0x64, 1]]))
        .build();
    let (pack, _) = packed(&bytes, "c", "");
    let carried = pack.face("text").expect("a face");
    assert_eq!(
        outline(&carried, 3).expect("an outline").len(),
        6,
        "base and accent"
    );
}

#[test]
fn packs_carry_the_fonts_of_cid_keyed_ones() {
    let line = |by: i16| code(&[by, 40, RLINETO, 30, HLINETO, RETURN]);
    let call = |from: i16| code(&[from, HMOVETO, 1 - 107, CALLSUBR, ENDCHAR]);
    let glyphs: Vec<Vec<u8>> = [0, 1, 2, 3, 4, 5].map(call).to_vec();
    let (first, second) = ([line(1), line(2)], [line(11), line(12), line(13)]);
    let table = cid_keyed(&glyphs, [&first, &second], 3);
    // The second font begins with glyph 3, the letter c.
    for letters in ["a", "b", "c", "d", "ac", "bd", "abcde"] {
        assert_carried(&font(6, table.clone()), letters, usize::MAX);
    }
}

fn one(glyph: &[i16]) -> Face {
    face(&Parts {
        glyphs: vec![code(glyph)],
        ..Parts::default()
    })
}

fn outline(face: &Face, glyph: u16) -> Result<Vec<Segment>, FontError> {
    let mut outline = Outline::new();
    face.outline(GlyphId(glyph), &mut outline)?;
    Ok(outline.segments().collect())
}

fn at(x: f32, y: f32) -> OutlinePoint {
    OutlinePoint::new(x, y)
}

/// The points where the steps of a glyph end.
fn ends(glyph: &[i16]) -> Vec<(f32, f32)> {
    let end = |segment: &Segment| match segment {
        Segment::Start(p) | Segment::Line(p) | Segment::Cubic(_, _, p) => (p.x, p.y),
        Segment::Quadratic(..) => panic!("PostScript curves are cubic"),
    };
    outline(&one(glyph), 0)
        .expect("a glyph")
        .iter()
        .map(end)
        .collect()
}

/// The one curve of a glyph that starts at the origin.
fn curve(numbers: &[i16], operator: i16) -> Vec<[(f32, f32); 3]> {
    let glyph = [&[0, HMOVETO][..], numbers, &[operator, ENDCHAR]].concat();
    let drawn = outline(&one(&glyph), 0).expect("a glyph");
    let curve = |segment: &Segment| match segment {
        Segment::Cubic(a, b, c) => [(a.x, a.y), (b.x, b.y), (c.x, c.y)],
        _ => panic!("not a curve: {segment:?}"),
    };
    drawn[1..].iter().map(curve).collect()
}

#[test]
fn lines_run_as_they_are_told() {
    // A width before the first move; then a level and an upright line in turn.
    let glyph = [
        500, 10, 20, RMOVETO, 5, 7, -1, 2, RLINETO, 3, 4, HLINETO, 8, 9, VLINETO, ENDCHAR,
    ];
    let wanted = [
        (10.0, 20.0),
        (15.0, 27.0),
        (14.0, 29.0),
        (17.0, 29.0),
        (17.0, 33.0),
    ];
    assert_eq!(ends(&glyph)[..5], wanted);
    assert_eq!(ends(&glyph)[5..], [(17.0, 41.0), (26.0, 41.0)]);
    assert_eq!(ends(&[500, 7, op(4), ENDCHAR]), [(0.0, 7.0)], "vmoveto");
}

#[test]
fn curves_run_as_they_are_told() {
    let points = |list: &[[i16; 6]]| -> Vec<[(f32, f32); 3]> {
        list.iter()
            .map(|p| [(0, 1), (2, 3), (4, 5)].map(|(x, y)| (p[x].into(), p[y].into())))
            .collect()
    };
    assert_eq!(
        curve(&[1, 2, 3, 4, 5, 6], RRCURVETO),
        points(&[[1, 2, 4, 6, 9, 12]])
    );
    // rcurveline and rlinecurve
    let mixed = |numbers: &[i16], operator| {
        let glyph = [&[0, HMOVETO][..], numbers, &[operator, ENDCHAR]].concat();
        ends(&glyph)
    };
    let curve_line = mixed(&[1, 2, 3, 4, 5, 6, 10, 20], op(24));
    assert_eq!(curve_line, [(0.0, 0.0), (9.0, 12.0), (19.0, 32.0)]);
    let line_curve = mixed(&[10, 20, 1, 2, 3, 4, 5, 6], op(25));
    assert_eq!(line_curve, [(0.0, 0.0), (10.0, 20.0), (19.0, 32.0)]);
    // vvcurveto: dx1? {dya dxb dyb dyc}+; hhcurveto: dy1? {dxa dxb dyb dxc}+
    assert_eq!(
        curve(&[7, 1, 2, 3, 4], op(26)),
        points(&[[7, 1, 9, 4, 9, 8]])
    );
    assert_eq!(curve(&[1, 2, 3, 4], op(26)), points(&[[0, 1, 2, 4, 2, 8]]));
    assert_eq!(
        curve(&[7, 1, 2, 3, 4], op(27)),
        points(&[[1, 7, 3, 10, 7, 10]])
    );
    // hvcurveto: starts level, ends upright, then the other way round; the last
    // number slants the last end.
    let two = points(&[[1, 0, 3, 3, 3, 7], [3, 12, 9, 19, 17, 28]]);
    assert_eq!(curve(&[1, 2, 3, 4, 5, 6, 7, 8, 9], op(31)), two);
    assert_eq!(curve(&[1, 2, 3, 4], op(30)), points(&[[0, 1, 2, 4, 6, 4]]));
    assert_eq!(
        curve(&[1, 2, 3, 4, 5], op(30)),
        points(&[[0, 1, 2, 4, 6, 9]])
    );
    // flex, hflex, hflex1, flex1
    let flex = curve(&[1, 1, 2, 2, 3, 3, 4, 4, 5, 5, 6, 6, 50], escape(35));
    assert_eq!(
        flex,
        points(&[[1, 1, 3, 3, 6, 6], [10, 10, 15, 15, 21, 21]])
    );
    let hflex = curve(&[1, 2, 3, 4, 5, 6, 7], escape(34));
    assert_eq!(hflex, points(&[[1, 0, 3, 3, 7, 3], [12, 3, 18, 0, 25, 0]]));
    let hflex1 = curve(&[1, 2, 3, 4, 5, 6, 7, 8, 9], escape(36));
    assert_eq!(
        hflex1,
        points(&[[1, 2, 4, 6, 9, 6], [15, 6, 22, 14, 31, 0]])
    );
    let flex1 = curve(&[9, 1, 9, 1, 9, 1, 9, 1, 9, 1, 5], escape(37));
    assert_eq!(
        flex1,
        points(&[[9, 1, 18, 2, 27, 3], [36, 4, 45, 5, 50, 0]])
    );
}

#[test]
fn hints_are_passed_over_with_their_masks() {
    // Three stems (one implied by the mask) and a width: the mask is one byte;
    // with nine stems it is two. The mask's byte 5 would be rlineto.
    let mut glyph = code(&[500, 1, 2, 3, 4, HSTEM, 5, 6, op(19)]);
    glyph.push(5);
    glyph.extend(code(&[10, HMOVETO, 3, 4, RLINETO, ENDCHAR]));
    let mut nine = code(&[
        1,
        2,
        1,
        2,
        1,
        2,
        1,
        2,
        1,
        2,
        1,
        2,
        1,
        2,
        1,
        2,
        1,
        2,
        op(18),
        op(20),
    ]);
    nine.extend([5, 14]);
    nine.extend(code(&[10, HMOVETO, 3, 4, RLINETO, ENDCHAR]));
    let face = face(&Parts {
        glyphs: vec![glyph, nine],
        ..Parts::default()
    });
    let wanted = [Segment::Start(at(10.0, 0.0)), Segment::Line(at(13.0, 4.0))];
    assert_eq!(outline(&face, 0).expect("a glyph"), wanted);
    assert_eq!(outline(&face, 1).expect("a glyph"), wanted);
}

#[test]
fn arithmetic_leaves_its_results_on_the_stack() {
    let result = |parts: &[i16]| {
        let glyph = [parts, &[HMOVETO, ENDCHAR]].concat();
        ends(&glyph)[0].0
    };
    for (parts, wanted) in [
        (&[7, 5, escape(10)][..], 12.0),
        (&[7, 5, escape(11)], 2.0),
        (&[7, 2, escape(12)], 3.5),
        (&[7, 2, escape(24)], 14.0),
        (&[7, escape(14)], -7.0),
        (&[-7, escape(9)], 7.0),
        (&[49, escape(26)], 7.0),
        (&[3, 0, escape(3)], 0.0),
        (&[3, 0, escape(4)], 1.0),
        (&[0, escape(5)], 1.0),
        (&[4, 4, escape(15)], 1.0),
        (&[9, 8, escape(18)], 9.0),
        (&[9, 3, escape(20), 1, 3, escape(21), escape(10)], 10.0),
        (&[10, 20, 1, 2, escape(22)], 10.0),
        (&[10, 20, 3, 2, escape(22)], 20.0),
        (&[6, escape(27), escape(10)], 12.0),
        (&[9, 2, escape(28), escape(11)], -7.0),
        (&[9, 8, 7, 2, escape(29), escape(11)], -2.0),
        // roll: 1 2 3 by 1 is 3 1 2; 3 - (1 - 2) = 4.
        (&[1, 2, 3, 3, 1, escape(30), escape(11), escape(11)], 4.0),
    ] {
        // put takes two numbers; what it leaves is its operand for `add`.
        let wanted = if parts.contains(&escape(20)) {
            1.0 + 9.0
        } else {
            wanted
        };
        assert_eq!(result(parts), wanted, "{parts:?}");
    }
}

#[test]
fn subroutines_are_found_by_their_bias() {
    // Up to 1239 subroutines the bias is 107 (Note 5176, section 16).
    let parts = Parts {
        glyphs: vec![code(&[10, HMOVETO, -107, CALLSUBR, -106, CALLGSUBR])],
        local: vec![code(&[3, 4, RLINETO, RETURN])],
        global: vec![vec![], code(&[5, 6, RLINETO, ENDCHAR])],
        ..Parts::default()
    };
    let wanted = [
        Segment::Start(at(10.0, 0.0)),
        Segment::Line(at(13.0, 4.0)),
        Segment::Line(at(18.0, 10.0)),
    ];
    assert_eq!(outline(&face(&parts), 0).expect("a glyph"), wanted);
}

#[test]
fn an_accented_glyph_is_two_glyphs() {
    // endchar with adx ady bchar achar: code 97 is a (string 66), code 194 is
    // acute (string 125). The charset of format 0 names glyphs 1 and 2 so.
    let parts = Parts {
        glyphs: vec![
            code(&[30, 40, 97, 194, ENDCHAR]),
            code(&[1, HMOVETO, 2, 0, RLINETO, ENDCHAR]),
            code(&[5, HMOVETO, 6, 0, RLINETO, ENDCHAR]),
        ],
        charset: vec![0, 0, 66, 0, 125],
        ..Parts::default()
    };
    let wanted = [
        Segment::Start(at(1.0, 0.0)),
        Segment::Line(at(3.0, 0.0)),
        Segment::Start(at(35.0, 40.0)),
        Segment::Line(at(41.0, 40.0)),
    ];
    assert_eq!(outline(&face(&parts), 0).expect("a glyph"), wanted);
    // The same names as a range of format 1, and one that is not there.
    let ranges = Parts {
        charset: vec![1, 0, 66, 0, 0, 125, 0],
        ..parts
    };
    assert_eq!(outline(&face(&ranges), 0).expect("a glyph"), wanted);
    let nameless = Parts {
        charset: vec![0, 0, 66, 0, 126],
        ..ranges
    };
    assert!(outline(&face(&nameless), 0).is_err());
}

#[test]
fn bounds_are_those_of_the_curve() {
    // From (0,0) by (0,100) and (200,100) to (200,0): it rises to 3/4 of 100.
    let face = one(&[0, HMOVETO, 0, 100, 200, 0, 0, -100, RRCURVETO, ENDCHAR]);
    let bounds = FontBounds {
        x_min: 0,
        y_min: 0,
        x_max: 200,
        y_max: 75,
    };
    assert_eq!(face.bounds(GlyphId(0)).expect("a glyph"), Some(bounds));
    assert_eq!(one(&[ENDCHAR]).bounds(GlyphId(0)).expect("no ink"), None);
}

#[test]
fn programs_that_go_wrong_are_refused() {
    let error = |parts: &[i16]| {
        let error = outline(&one(parts), 0).expect_err("a fault");
        assert!(error.to_string().contains("'CFF '"), "{error}");
        error.to_string()
    };
    assert!(error(&[RMOVETO]).contains("more numbers"));
    assert!(error(&[escape(10)]).contains("more numbers"));
    assert!(error(&[1; 49]).contains("48 numbers"));
    assert!(error(&[0, HMOVETO, 1, RLINETO]).contains("over"));
    assert!(error(&[op(2)]).contains("no such operator"));
    assert!(error(&[escape(33)]).contains("no such two-byte"));
    assert!(error(&[0, CALLSUBR]).contains("fewer objects"));
    assert!(error(&[-300, CALLGSUBR]).contains("too low"));
    assert!(error(&[40, escape(21)]).contains("0 to 31"));
    assert!(error(&[1, 9, escape(29)]).contains("not as deep"));
    assert!(error(&[1, 9, 1, escape(30)]).contains("not as deep"));
    // A subroutine that calls itself.
    let circle = Parts {
        glyphs: vec![code(&[-107, CALLSUBR])],
        local: vec![code(&[-107, CALLSUBR])],
        ..Parts::default()
    };
    let circle = outline(&face(&circle), 0).expect_err("a circle");
    assert!(circle.to_string().contains("at most 10"), "{circle}");
    // Ten levels that each call the next twenty times: 20^10 steps.
    let calls = |next: i16| [next - 107, CALLSUBR].repeat(20);
    let tower = Parts {
        glyphs: vec![code(&calls(0))],
        local: (1..10)
            .map(|next| code(&calls(next)))
            .chain([code(&[RETURN])])
            .collect(),
        ..Parts::default()
    };
    let tower = outline(&face(&tower), 0).expect_err("too long");
    assert!(
        matches!(tower, FontError::Limit { limit: 500_000, .. }),
        "{tower}"
    );
}

#[test]
fn a_table_damaged_anywhere_is_survived() {
    let parts = Parts {
        glyphs: vec![
            code(&[30, 40, 97, 194, ENDCHAR]),
            code(&[
                1, HMOVETO, -107, CALLSUBR, 1, 2, 3, 4, 5, 6, RRCURVETO, ENDCHAR,
            ]),
            code(&[5, HMOVETO, -107, CALLGSUBR, ENDCHAR]),
        ],
        local: vec![code(&[3, 4, RLINETO, RETURN])],
        global: vec![code(&[3, 4, RLINETO, RETURN])],
        charset: vec![0, 0, 66, 0, 125],
    };
    let table = cff(&parts);
    let font = FontBuilder::new(&vec![vec![]; 3])
        .without(b"glyf")
        .without(b"loca");
    let draw_all = |table: Vec<u8>| {
        if let Ok(face) = Face::from_bytes(font.clone().table(b"CFF ", table).build()) {
            for glyph in (0..3).map(GlyphId) {
                let _ = (face.outline(glyph, &mut Outline::new()), face.bounds(glyph));
            }
        }
    };
    for length in 0..table.len() {
        draw_all(table[..length].to_vec());
        for value in [0, 1, 0x0b, 0x1c, 0x7f, 0x80, 0xff] {
            let mut table = table.clone();
            table[length] = value;
            draw_all(table);
        }
    }
}

#[test]
fn glyphs_are_named_by_the_charset() {
    let names = |charset: &[u8]| {
        let glyphs = vec![code(&[ENDCHAR]); 4];
        let charset = charset.to_vec();
        let face = face(&Parts {
            glyphs,
            charset,
            ..Parts::default()
        });
        [1, 2, 3].map(|glyph| face.glyph_name(GlyphId(glyph)).expect("a name"))
    };
    // Note 5176, appendix A: strings 1, 2, 3; 34 is A, 390 Semibold.
    assert_eq!(names(&[]), ["space", "exclam", "quotedbl"]);
    assert_eq!(names(&[0, 0, 34, 1, 134, 0, 36]), ["A", "Semibold", "C"]);
    assert_eq!(names(&[1, 0, 34, 1, 0, 66, 0]), ["A", "B", "a"]);
}
