//! The ferry's signs as a colour font: `COLR` version 1, two palettes, six signs.

/// A font that is put together table by table (OpenType 1.9).
type Table = ([u8; 4], Vec<u8>);

/// Points of a contour: x, y (up), and whether it runs through them.
type Contour = Vec<(i16, i16, bool)>;

/// Entries of the palettes.
const LAMP: u16 = 0;
const FLAME: u16 = 1;
const BRASS: u16 = 2;
const DARK: u16 = 3;
const SKY: u16 = 4;
const CLEAR: u16 = 5;
const RED: u16 = 6;

/// By lamplight and by moonlight: red, green, blue, alpha.
const PALETTES: [[u32; 7]; 2] = [
    [
        0xffcf_70ff,
        0xfff2_c8ff,
        0xd6a8_50ff,
        0x3a1d_10ff,
        0x2c44_52ff,
        0xffcf_7000,
        0xa8322aff,
    ],
    [
        0xbcd0_e0ff,
        0xf0f6_ffff,
        0x7f98_a8ff,
        0x16222eff,
        0x1f30_40ff,
        0xbcd0_e000,
        0x5a5470ff,
    ],
];

fn words(numbers: &[i32]) -> Vec<u8> {
    numbers
        .iter()
        .flat_map(|number| (*number as u16).to_be_bytes())
        .collect()
}

fn long(number: usize) -> [u8; 4] {
    (number as u32).to_be_bytes()
}

/// An offset of three bytes.
fn short_offset(offset: usize) -> [u8; 3] {
    let [_, a, b, c] = long(offset);
    [a, b, c]
}

/// A number in 1/16384.
fn part(number: f64) -> i32 {
    (number * 16384.0).round() as i32
}

fn polygon(points: &[(i16, i16)]) -> Contour {
    points.iter().map(|(x, y)| (*x, *y, true)).collect()
}

/// A circle: eight control points, between which it runs through the middle.
fn circle(x: f64, y: f64, radius: f64) -> Contour {
    let reach = radius / (std::f64::consts::PI / 8.0).cos();
    let point = |index: i32| {
        let angle = f64::from(index) * -std::f64::consts::FRAC_PI_4;
        let (sin, cos) = angle.sin_cos();
        ((x + reach * cos) as i16, (y + reach * sin) as i16, false)
    };
    (0..8).map(point).collect()
}

/// The data of a glyph (`glyf`, “Simple Glyph Table”).
fn glyph(contours: &[Contour]) -> Vec<u8> {
    if contours.is_empty() {
        return Vec::new();
    }
    let points: Vec<_> = contours.iter().flatten().collect();
    let (xs, ys) = (
        points.iter().map(|point| point.0),
        points.iter().map(|point| point.1),
    );
    let sides = [xs.clone().min(), ys.clone().min(), xs.max(), ys.max()];
    let mut data = words(&[contours.len() as i32]);
    data.extend(words(&sides.map(|side| i32::from(side.unwrap_or(0)))));
    let mut end = -1;
    for contour in contours {
        end += contour.len() as i32;
        data.extend(words(&[end]));
    }
    data.extend(words(&[0]));
    data.extend(points.iter().map(|point| u8::from(point.2)));
    for axis in 0..2 {
        let mut before = 0;
        for point in &points {
            let at = i32::from(if axis == 0 { point.0 } else { point.1 });
            data.extend(words(&[at - before]));
            before = at;
        }
    }
    data.resize(data.len().next_multiple_of(4), 0);
    data
}

// Paints (`COLR`, “Paint tables”).

fn solid(entry: u16, alpha: f64) -> Vec<u8> {
    [vec![2], words(&[i32::from(entry), part(alpha)])].concat()
}

/// A paint seen in the shape of a glyph.
fn within(glyph: usize, paint: &[u8]) -> Vec<u8> {
    [&[10][..], &short_offset(6), &words(&[glyph as i32]), paint].concat()
}

/// A paint with numbers, and what it is over.
fn over(format: u8, numbers: &[i32], paint: &[u8]) -> Vec<u8> {
    let length = short_offset(4 + numbers.len() * 2);
    [&[format][..], &length, &words(numbers), paint].concat()
}

fn gradient(format: u8, numbers: &[i32], stops: &[(f64, u16)]) -> Vec<u8> {
    let mut line = vec![0];
    line.extend(words(&[stops.len() as i32]));
    for (place, entry) in stops {
        line.extend(words(&[part(*place), i32::from(*entry), part(1.0)]));
    }
    over(format, numbers, &line)
}

/// A paint laid over another one, by the number of a mode.
fn composite(mode: u8, above: &[u8], below: &[u8]) -> Vec<u8> {
    let second = short_offset(8 + above.len());
    [&[32][..], &short_offset(8), &[mode], &second, above, below].concat()
}

/// Paints from the lowest to the highest.
fn stack(paints: &[Vec<u8>]) -> Vec<u8> {
    let mut paints = paints.iter().cloned();
    let first = paints.next().unwrap_or_default();
    paints.fold(first, |below, above| composite(3, &above, &below))
}

/// Waves from side to side, and beyond.
fn waves() -> Contour {
    let mut points: Vec<(i16, i16)> = (0..13)
        .map(|index| (index * 125 - 250, if index % 2 == 0 { 40 } else { 100 }))
        .collect();
    points.extend([(1250, -60), (-250, -60)]);
    polygon(&points)
}

/// Shapes that signs are made of, and their glyphs from 7 on.
fn shapes() -> Vec<Vec<Contour>> {
    let [frame, glass] = lantern_shapes();
    let [shaft, arm] = anchor_shapes();
    vec![
        // 7: all of it. 8: the disc of the moon. 9: a smaller one beside it.
        vec![circle(500.0, 350.0, 460.0)],
        vec![circle(500.0, 350.0, 330.0)],
        vec![circle(640.0, 430.0, 290.0)],
        // 10 and 11: a lantern's frame, its glass.
        frame,
        glass,
        // 12 and 13: a bell, its clapper. 14: a flame.
        vec![bell_shape()],
        vec![circle(500.0, 110.0, 70.0)],
        vec![flame_shape()],
        // 15 and 16: the shaft of an anchor with its ring, one arm of it.
        shaft,
        arm,
        // 17 and 18: a hull, a deckhouse with a funnel.
        vec![polygon(&[(60, 260), (180, 60), (820, 60), (940, 260)])],
        vec![
            polygon(&[(220, 260), (220, 420), (700, 420), (700, 260)]),
            polygon(&[(520, 420), (520, 620), (620, 620), (620, 420)]),
        ],
        // 19: waves.
        vec![waves()],
    ]
}

fn lantern_shapes() -> [Vec<Contour>; 2] {
    [
        vec![
            polygon(&[(320, 40), (320, 100), (680, 100), (680, 40)]),
            polygon(&[(340, 560), (400, 660), (600, 660), (660, 560)]),
            polygon(&[
                (440, 660),
                (440, 700),
                (470, 700),
                (470, 690),
                (530, 690),
                (530, 700),
                (560, 700),
                (560, 660),
            ]),
        ],
        vec![polygon(&[
            (350, 100),
            (330, 330),
            (350, 560),
            (650, 560),
            (670, 330),
            (650, 100),
        ])],
    ]
}

fn bell_shape() -> Contour {
    vec![
        (200, 150, true),
        (300, 250, false),
        (300, 450, true),
        (300, 700, false),
        (500, 720, true),
        (700, 700, false),
        (700, 450, true),
        (700, 250, false),
        (800, 150, true),
    ]
}

fn flame_shape() -> Contour {
    vec![
        (500, 150, true),
        (400, 180, false),
        (420, 290, true),
        (440, 370, false),
        (500, 480, true),
        (560, 370, false),
        (580, 290, true),
        (600, 180, false),
    ]
}

fn anchor_shapes() -> [Vec<Contour>; 2] {
    [
        vec![
            polygon(&[(470, 0), (470, 560), (530, 560), (530, 0)]),
            polygon(&[(360, 430), (360, 490), (640, 490), (640, 430)]),
            circle(500.0, 620.0, 90.0),
            circle(500.0, 620.0, 45.0).into_iter().rev().collect(),
        ],
        vec![vec![
            (500, -20, true),
            (760, -10, false),
            (820, 260, true),
            (860, 230, true),
            (790, 330, true),
            (700, 220, true),
            (750, 240, true),
            (720, 60, false),
            (500, 60, true),
        ]],
    ]
}

/// The signs: their characters, in order, and what paints them. Their glyphs are 1 to 6.
fn signs() -> Vec<(char, Vec<u8>)> {
    // The clapper swings the other way.
    let bell = stack(&[
        over(26, &[part(-0.03), 500, 700], &brass(13)),
        over(26, &[part(0.03), 500, 700], &brass(12)),
    ]);
    let fog = stack(&[
        ground(SKY),
        over(14, &[0, 420], &within(19, &solid(FLAME, 0.25))),
        over(14, &[60, 280], &within(19, &solid(FLAME, 0.4))),
        over(14, &[-40, 140], &within(19, &solid(FLAME, 0.6))),
    ]);
    vec![
        ('\u{2693}', anchor()),
        ('\u{26f4}', within(7, &ferry())),
        ('\u{1f319}', moon()),
        ('\u{1f32b}', within(7, &fog)),
        ('\u{1f3ee}', lantern()),
        ('\u{1f514}', bell),
    ]
}

/// A disc of a colour that is dark at its edge.
fn ground(entry: u16) -> Vec<u8> {
    within(
        7,
        &gradient(
            6,
            &[500, 350, 0, 500, 350, 460],
            &[(0.0, entry), (1.0, DARK)],
        ),
    )
}

/// Lamplight around a place.
fn glow(x: i32, y: i32, radius: i32) -> Vec<u8> {
    within(
        7,
        &gradient(6, &[x, y, 0, x, y, radius], &[(0.0, LAMP), (1.0, CLEAR)]),
    )
}

/// A shape of brass.
fn brass(glyph: usize) -> Vec<u8> {
    within(
        glyph,
        &gradient(
            4,
            &[0, 700, 0, 0, 700, 700],
            &[(0.0, FLAME), (0.4, BRASS), (1.0, DARK)],
        ),
    )
}

fn anchor() -> Vec<u8> {
    stack(&[
        within(
            7,
            &gradient(
                8,
                &[500, 350, part(-1.0), part(1.0)],
                &[(0.0, SKY), (0.5, DARK), (1.0, SKY)],
            ),
        ),
        brass(15),
        brass(16),
        // The other arm, mirrored about the middle.
        over(18, &[part(-1.0), part(1.0), 500, 0], &brass(16)),
    ])
}

fn ferry() -> Vec<u8> {
    stack(&[
        ground(SKY),
        glow(570, 640, 200),
        within(
            18,
            &gradient(
                4,
                &[0, 620, 0, 260, 600, 620],
                &[(0.0, RED), (0.5, RED), (0.5, FLAME), (1.0, LAMP)],
            ),
        ),
        within(
            17,
            &gradient(4, &[0, 260, 0, 60, 600, 260], &[(0.0, RED), (1.0, DARK)]),
        ),
        within(19, &solid(SKY, 0.9)),
    ])
}

/// The part of a disc that another one leaves (`SourceOut`).
fn moon() -> Vec<u8> {
    composite(
        7,
        &within(
            8,
            &gradient(
                6,
                &[420, 300, 60, 420, 300, 420],
                &[(0.0, FLAME), (1.0, LAMP)],
            ),
        ),
        &within(9, &solid(DARK, 1.0)),
    )
}

fn lantern() -> Vec<u8> {
    stack(&[
        ground(SKY),
        glow(500, 330, 440),
        within(11, &solid(FLAME, 0.35)),
        within(
            14,
            &gradient(
                6,
                &[500, 250, 10, 500, 280, 200],
                &[(0.0, FLAME), (1.0, LAMP)],
            ),
        ),
        brass(10),
    ])
}

/// `COLR` version 1: the list of glyphs, and their paints.
fn colr(paints: &[Vec<u8>]) -> Vec<u8> {
    let mut table = words(&[1, 0, 0, 0, 0, 0, 0]);
    table.extend(long(34));
    table.resize(34, 0);
    table.extend(long(paints.len()));
    let mut at = 4 + 6 * paints.len();
    for (index, paint) in paints.iter().enumerate() {
        table.extend(words(&[index as i32 + 1]));
        table.extend(long(at));
        at += paint.len();
    }
    table.extend(paints.iter().flatten());
    table
}

/// `CPAL` version 1: both palettes, the second for dark grounds, and their names.
fn cpal() -> Vec<u8> {
    let entries = PALETTES[0].len();
    let colors = 12 + 4 + 12;
    let types = colors + PALETTES.len() * entries * 4;
    let mut table = words(&[1, entries as i32, 2, 2 * entries as i32]);
    table.extend(long(colors));
    table.extend(words(&[0, entries as i32]));
    for offset in [types, types + 8, 0] {
        table.extend(long(offset));
    }
    for color in PALETTES.iter().flatten() {
        let [red, green, blue, alpha] = color.to_be_bytes();
        table.extend([blue, green, red, alpha]);
    }
    table.extend([0, 0, 0, 3, 0, 0, 0, 2]);
    table.extend(words(&[256, 257]));
    table
}

/// `name`: family, style, full name, and those of the palettes.
fn names() -> Vec<u8> {
    let texts = [
        (0, "Made with the demo world of this repository"),
        (1, "Ferry Signs"),
        (2, "Regular"),
        (4, "Ferry Signs"),
        (256, "Lamplight"),
        (257, "Moonlight"),
    ];
    let mut table = words(&[0, texts.len() as i32, 6 + 12 * texts.len() as i32]);
    let mut strings = Vec::new();
    for (id, text) in texts {
        let text: Vec<u8> = text.encode_utf16().flat_map(u16::to_be_bytes).collect();
        let (length, offset) = (text.len() as i32, strings.len() as i32);
        table.extend(words(&[3, 1, 0x409, id, length, offset]));
        strings.extend(text);
    }
    [table, strings].concat()
}

/// `cmap` of format 12: each sign its glyph.
fn cmap(signs: &[(char, Vec<u8>)]) -> Vec<u8> {
    let mut table = words(&[0, 1, 3, 10, 0, 12, 12, 0]);
    table.extend(long(16 + 12 * signs.len()));
    table.extend(long(0));
    table.extend(long(signs.len()));
    for (index, (sign, _)) in signs.iter().enumerate() {
        for number in [*sign as usize, *sign as usize, index + 1] {
            table.extend(long(number));
        }
    }
    table
}

/// The font file.
pub(crate) fn font() -> Vec<u8> {
    let signs = signs();
    let empty = vec![polygon(&[(100, 0), (100, 700), (900, 700), (900, 0)])];
    let mut glyphs = vec![glyph(&empty)];
    // Signs have no outline of their own.
    glyphs.extend(signs.iter().map(|_| Vec::new()));
    glyphs.extend(shapes().iter().map(|shape| glyph(shape)));
    let count = glyphs.len() as i32;
    let (mut glyf, mut loca) = (Vec::new(), long(0).to_vec());
    let mut hmtx = Vec::new();
    for data in &glyphs {
        glyf.extend(data);
        loca.extend(long(glyf.len()));
        let left = data
            .get(2..4)
            .map_or(0, |side| i16::from_be_bytes([side[0], side[1]]));
        hmtx.extend(words(&[1000, left.into()]));
    }
    let mut head = vec![0; 54];
    head[..4].copy_from_slice(&[0, 1, 0, 0]);
    head[12..16].copy_from_slice(&long(0x5f0f_3cf5));
    head[18..20].copy_from_slice(&words(&[1000]));
    head[36..44].copy_from_slice(&words(&[0, -150, 1000, 850]));
    head[51] = 1;
    let mut hhea = vec![0; 36];
    hhea[..10].copy_from_slice(&words(&[1, 0, 850, -150, 0]));
    hhea[34..36].copy_from_slice(&words(&[count]));
    let mut maxp = words(&[1, 0, count]);
    maxp.resize(32, 0);
    let mut post = words(&[3, 0]);
    post.resize(32, 0);
    let paints: Vec<Vec<u8>> = signs.iter().map(|(_, paint)| paint.clone()).collect();
    let tables: Vec<Table> = vec![
        (*b"COLR", colr(&paints)),
        (*b"CPAL", cpal()),
        (*b"cmap", cmap(&signs)),
        (*b"glyf", glyf),
        (*b"head", head),
        (*b"hhea", hhea),
        (*b"hmtx", hmtx),
        (*b"loca", loca),
        (*b"maxp", maxp),
        (*b"name", names()),
        (*b"post", post),
    ];
    let mut file = vec![0, 1, 0, 0];
    file.extend(words(&[tables.len() as i32, 0, 0, 0]));
    let mut at = 12 + 16 * tables.len();
    for (tag, table) in &tables {
        file.extend(tag);
        for number in [0, at, table.len()] {
            file.extend(long(number));
        }
        at += table.len().next_multiple_of(4);
    }
    for (_, table) in tables {
        file.extend(&table);
        file.resize(file.len().next_multiple_of(4), 0);
    }
    file
}
