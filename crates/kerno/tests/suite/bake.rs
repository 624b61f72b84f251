//! Manifests, packs, and what is told of them.

use std::collections::BTreeSet;
use std::fs;
use std::path::{Path, PathBuf};

use kerno::atlas::{PageKind, SpriteOptions};
use kerno::bake::{BakeError, Manifest};
use kerno::base::{FileError, Image, Insets, Limits, Mapping};
use kerno::draw::DrawSprite;
use kerno::font::GlyphId;
use kerno::pack::PackError;
use kerno::raster::{GlyphRequest, Rasterizer, Subpixel};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, FrameBuilder, Pack, Point, Rect, Style,
    TextLayout,
};
use serde_json::Value;
use tempfile::TempDir;
use xxhash_rust::xxh3::xxh3_64;

use crate::support::{AVERIA, LATO, lato};

/// A folder with fonts and pictures, and a manifest in it.
struct Kitchen(TempDir);

impl Kitchen {
    fn new() -> Self {
        let kitchen = Self(TempDir::new().expect("a folder"));
        kitchen.write("lato.ttf", LATO);
        kitchen.write("averia.ttf", AVERIA);
        for (name, width, height) in [("wide", 40, 6), ("high", 6, 40), ("sail", 12, 10)] {
            let pixels = (0..width * height).flat_map(|n| [n as u8, 40, (n / 7) as u8, 255]);
            let image = Image::new(width, height, pixels.collect()).expect("a picture");
            kitchen.write(&format!("{name}.png"), &image.to_png().expect("a PNG"));
        }
        kitchen
    }

    fn path(&self, name: &str) -> PathBuf {
        self.0.path().join(name)
    }

    fn write(&self, name: &str, bytes: &[u8]) {
        fs::write(self.path(name), bytes).expect("a file");
    }

    /// Reads a manifest of two faces, three sprites and `more`.
    fn manifest(&self, more: &str) -> Result<Manifest, BakeError> {
        let faces = "[faces]\ntext = { file = 'lato.ttf' }\ntitle = { file = 'averia.ttf' }\n";
        self.read(&format!("{faces}{more}"))
    }

    fn read(&self, text: &str) -> Result<Manifest, BakeError> {
        self.write("m.toml", text.as_bytes());
        Manifest::from_file(self.path("m.toml"))
    }
}

const SPRITES: &str = "[[sprites]]\nfile = 'wide.png'\n[[sprites]]\nfile = 'high.png'\n\
    [[sprites]]\nfile = 'sail.png'\nslices = [3]\n";

const STRIKE: &str = "[charsets.a]\nranges = ['U+20-7E']\n\
    [[strikes]]\nface = 'text'\nsizes = [11, 20]\ncharsets = ['a']\n";

fn packed(manifest: &Manifest) -> Vec<u8> {
    manifest
        .bake(&|_, _| {})
        .expect("a bake")
        .to_pack()
        .expect("a pack")
}

/// The JSON form as a value, and its pictures.
fn json_of(manifest: &Manifest) -> (Value, Vec<Image>) {
    let files = manifest
        .bake(&|_, _| {})
        .expect("a bake")
        .to_json("m")
        .expect("files");
    let pictures = files.pictures.iter();
    let pictures = pictures.map(|(_, png)| Image::from_png(png).expect("a PNG"));
    (
        serde_json::from_str(&files.json).expect("JSON"),
        pictures.collect(),
    )
}

fn number(value: &Value) -> u32 {
    value.as_u64().expect("a number") as u32
}

#[test]
fn outlines_are_baked_where_a_strike_asks_for_them() {
    let kitchen = Kitchen::new();
    let strike = STRIKE.replace(
        "sizes = [11, 20]",
        "sizes = [20]\neffects = [{ outline = { width = 1.25 } }]",
    );
    let pack = Pack::from_bytes(packed(&kitchen.manifest(&strike).expect("a manifest")));
    let pack = pack.expect("a pack");
    let picture = |atlas: &mut Atlas, face: &kerno::Face| {
        let style = Style::new(face, 20.0).outline(1.25, Color::BLACK);
        let text = TextLayout::new("Fares: 42", &style).expect("a layout");
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(atlas, Mapping::IDENTITY);
        let at = Point::new(5.0, 5.0);
        frame
            .text(&text, DrawText::at(at, Anchor::TOP_LEFT))
            .expect("room");
        let mut canvas = Canvas::new(DeviceSize::new(120, 40));
        canvas.draw(builder.finish(), atlas);
        canvas.to_image()
    };
    let mut atlas = pack.atlas();
    let before = atlas.usage();
    let shown = picture(&mut atlas, &pack.face("text").expect("the face"));
    assert_eq!(shown, picture(&mut Atlas::default(), &lato()));
    // The font opened beside its pack is the same face.
    assert_eq!(shown, picture(&mut atlas, &lato()));
    assert_eq!(atlas.usage(), before, "everything was there already");
    for wrong in ["0", "-1", "100", "nan"] {
        let strike = STRIKE.replace(
            "sizes",
            &format!("effects = [{{ outline = {{ width = {wrong} }} }}]\nsizes"),
        );
        let error = kitchen.manifest(&strike).expect_err("no width").to_string();
        assert!(
            error.contains("the outline of") && error.contains("above 0 and at most 64"),
            "{error}"
        );
    }
}

/// A text and the three sprites on a canvas.
fn drawn(atlas: &mut Atlas, face: &kerno::Face, mapping: Mapping) -> Image {
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(atlas, mapping);
    let text = TextLayout::new("AVATAR, 7:45?", &Style::new(face, 20.0)).expect("a layout");
    let at = Point::new(3.3, 2.0);
    frame
        .text(&text, DrawText::at(at, Anchor::TOP_LEFT))
        .expect("room");
    for (name, x) in [("wide", 60.0), ("high", 20.0), ("sail", 90.0)] {
        let sprite = frame.atlas().sprite(name).expect("a sprite");
        let mut layer = frame.scope().layer(1);
        let at = Point::new(x, 55.5);
        layer
            .sprite(sprite, DrawSprite::at(at, Anchor::CENTER))
            .expect("room");
        let room = Rect::new(x, 80.0, 31.0, 17.0);
        layer.panel(sprite, room).expect("room");
    }
    let mut canvas = Canvas::new(DeviceSize::new(260, 220));
    canvas.draw(builder.finish(), atlas);
    canvas.to_image()
}

#[test]
fn a_pack_measures_and_draws_as_the_files_it_was_made_of() {
    let kitchen = Kitchen::new();
    let more = format!("{STRIKE}{SPRITES}");
    for turns in [false, true] {
        let top = format!("scales = [1, 2]\n[pages]\nmay-rotate = {turns}\n");
        let faces = "[faces]\ntext = { file = 'lato.ttf' }\n";
        let manifest = kitchen
            .read(&format!("{top}{faces}{more}"))
            .expect("a manifest");
        let pack = Pack::from_bytes(packed(&manifest)).expect("a pack");
        let (baked, live) = (pack.face("text").expect("the face"), lato());
        assert_eq!(baked.metrics(), live.metrics());
        for left in ' '..='~' {
            let glyph = live.glyph(left).expect("ASCII");
            assert_eq!(baked.glyph(left), Some(glyph));
            assert_eq!(baked.advance(glyph), live.advance(glyph));
            assert_eq!(baked.bounds(glyph).ok(), live.bounds(glyph).ok());
            for right in ' '..='~' {
                let right = live.glyph(right).expect("ASCII");
                assert_eq!(baked.kerning(glyph, right), live.kerning(glyph, right));
            }
        }
        for scale in [1.0, 2.0] {
            let mut atlas = Atlas::default();
            for name in ["wide", "high", "sail"] {
                let image = Image::from_png_file(kitchen.path(&format!("{name}.png")));
                let slices = if name == "sail" { 3.0 } else { 0.0 };
                let options = SpriteOptions::default().slices(Insets::all(slices));
                let image = image.expect("a picture");
                atlas.add_sprite(name, &image, options).expect("a sprite");
            }
            let mut from_pack = pack.atlas();
            let before = from_pack.usage();
            let mapping = Mapping::uniform(scale);
            let shown = drawn(&mut from_pack, &baked, mapping);
            assert_eq!(shown, drawn(&mut atlas, &live, mapping), "at {scale}");
            // Everything was there already.
            assert_eq!(from_pack.usage(), before);
            assert_eq!(before.sprites, 3);
        }
        if turns {
            let (json, _) = json_of(&manifest);
            let text = json.to_string();
            let is_rotated = text.contains("\"rotated\":true");
            // Two long pictures fit better side by side.
            assert!(is_rotated, "no sprite of the pack is rotated");
        }
    }
}

#[test]
fn text_that_nobody_foresaw_goes_to_a_new_page() {
    let kitchen = Kitchen::new();
    // Its letters are in the whole font only.
    let whole = format!("{STRIKE}[output]\nfile = 'm.kpack'\nfonts = 'whole'\n");
    let manifest = kitchen.manifest(&whole).expect("a manifest");
    let pack = Pack::from_bytes(packed(&manifest)).expect("a pack");
    let mut atlas = pack.atlas();
    let pages = atlas.pages(PageKind::Mask).len();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let style = Style::new(&pack.face("text").expect("the face"), 20.0);
    for (text, added) in [("Fares", 0), ("Fährgäste", 1)] {
        let layout = TextLayout::new(text, &style).expect("a layout");
        let at = Point::new(2.0, 2.0);
        frame
            .text(&layout, DrawText::at(at, Anchor::TOP_LEFT))
            .expect("room");
        let all = frame.atlas().pages(PageKind::Mask);
        assert_eq!(all.len(), pages + added, "{text}");
        let changed = all.iter().filter(|page| page.changed_since(1).is_some());
        assert_eq!(changed.count(), added, "{text}");
    }
}

#[test]
fn a_sprite_at_a_scale_that_was_not_baked_is_made_of_its_largest_picture() {
    let kitchen = Kitchen::new();
    let manifest = kitchen.read(SPRITES).expect("a manifest");
    let pack = Pack::from_bytes(packed(&manifest)).expect("a pack");
    let mut atlas = pack.atlas();
    let sprite = atlas.sprite("sail").expect("a sprite");
    for scale in [0.5, 3.0] {
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(&mut atlas, Mapping::uniform(scale));
        let mut layer = frame.scope();
        layer
            .sprite(
                sprite,
                DrawSprite::at(Point::new(0.0, 0.0), Anchor::TOP_LEFT),
            )
            .expect("room");
        let frame = builder.finish();
        let corner = frame.vertices[2].position;
        assert_eq!(corner, [12.0 * scale, 10.0 * scale]);
    }
}

#[test]
fn the_bytes_do_not_depend_on_threads_and_the_fingerprint_on_all_inputs() {
    let kitchen = Kitchen::new();
    let more = format!("{STRIKE}{SPRITES}[charsets.f]\nfiles = ['t.txt']\n");
    kitchen.write("t.txt", b"abc");
    let manifest = kitchen.manifest(&more).expect("a manifest");
    let on = |threads: usize| {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build();
        pool.expect("threads").install(|| packed(&manifest))
    };
    assert!(on(1) == on(4), "the bytes differ");
    let first = manifest.fingerprint();
    let again = || kitchen.manifest(&more).expect("a manifest").fingerprint();
    assert_eq!(again(), first);
    assert_eq!(
        Pack::from_bytes(on(1)).expect("a pack").fingerprint(),
        first
    );
    kitchen.write("t.txt", b"abd");
    assert_ne!(again(), first);
}

#[test]
fn a_charset_is_all_that_its_keys_name() {
    let kitchen = Kitchen::new();
    kitchen.write("t.txt", "ab\r\nb".as_bytes());
    kitchen.write(
        "s.toml",
        b"[one]\nline = 'cd'\n[[two.list]]\nline = 'ef'\nname = 'g'\n",
    );
    kitchen.write(
        "s.json",
        br#"{"say": [["h", {"x": "i"}]], "no": "z", "n": 5}"#,
    );
    for (charset, expected) in [
        ("text = 'zya'", "ayz"),
        (
            "ranges = ['U+41-43', 'u+61', 'U+3?']",
            "0123456789:;<=>?ABCa",
        ),
        (
            "blocks = ['basic-latin']\nexclude-ranges = ['U+20-60', 'U+64-7D']",
            "abc~",
        ),
        ("files = ['t.txt']", "ab"),
        ("strings = [{ file = 's.toml', keys = ['line'] }]", "cdef"),
        (
            "strings = [{ file = 's.toml', keys = ['list.line', 'name'] }]",
            "efg",
        ),
        ("strings = [{ file = 's.json', keys = ['say'] }]", "hi"),
        ("strings = [{ file = 's.json' }]", "hiz"),
        ("numbers = ',.'\nexclude = '89'", ",.01234567"),
    ] {
        let more = format!(
            "[charsets.c]\n{charset}\n[[strikes]]\nface = 'text'\nsizes = [9]\ncharsets = ['c']"
        );
        let (json, _) = json_of(&kitchen.manifest(&more).expect(charset));
        let characters = json["faces"][0]["characters"]
            .as_object()
            .expect("characters");
        let found: String = characters.keys().map(String::as_str).collect();
        assert_eq!(found, expected, "{charset}");
    }
}

#[test]
fn the_report_adds_up() {
    let kitchen = Kitchen::new();
    // U+4E00 is in neither face; the stack takes everything from its first face.
    let more = format!(
        "[stacks]\nboth = ['title', 'text']\n\
         [charsets]\none = {{ text = 'ab一' }}\ntwo = {{ text = 'bcc' }}\nidle = {{ text = 'x' }}\n\
         [[strikes]]\nstack = 'both'\nsizes = [30]\ncharsets = ['one', 'two']\n{SPRITES}"
    );
    let manifest = kitchen.manifest(&more).expect("a manifest");
    let report = manifest.bake(&|_, _| {}).expect("a bake").report();
    let (json, _) = json_of(&manifest);
    let face = &json["faces"][1];
    // Padding of 1 between neighbours, one byte a texel, two subpixel positions.
    let bytes_of = |character: &str| {
        let glyph = &face["characters"][character];
        let strikes = json["strikes"][0]["glyphs"].as_array().expect("glyphs");
        let own = strikes.iter().filter(|record| record["glyph"] == *glyph);
        own.map(|r| u64::from((number(&r["width"]) + 1) * (number(&r["height"]) + 1)))
            .sum::<u64>()
    };
    let saving = |name: &str| {
        let found = report.charsets.iter().find(|charset| charset.name == name);
        found.expect("the charset").saving
    };
    assert!(bytes_of("a") > 0);
    assert_eq!(saving("one"), bytes_of("a"));
    assert_eq!(saving("two"), bytes_of("c"));
    assert_eq!(saving("idle"), 0);
    assert_eq!(report.missing, [("both".to_owned(), "一".to_owned())]);
    assert_eq!(
        report.unused,
        [
            "the charset “idle” is in no strike",
            "the stack “both” takes no character from its face “text”"
        ]
    );
    let [strike] = report.strikes.as_slice() else {
        panic!("{:?}", report.strikes)
    };
    assert_eq!(
        (strike.name.as_str(), strike.count),
        ("title 30 px smooth", 4)
    );
    let sprites: u64 = report.sprites.iter().map(|group| group.bytes).sum();
    assert_eq!(sprites, (42 * 8 + 8 * 42 + 14 * 12) * 4);
    let shares: f32 = report
        .strikes
        .iter()
        .chain(&report.sprites)
        .map(|u| u.share)
        .sum();
    assert!((shares - 1.0).abs() < 1e-5);
    for page in &report.pages {
        let texels = page.kind.texel_bytes() as f32;
        let taken = if page.kind == PageKind::Mask {
            strike.bytes
        } else {
            sprites
        };
        assert!(
            (page.fill - taken as f32 / page.bytes as f32).abs() < 1e-5,
            "{texels}"
        );
    }
    assert_eq!(
        report.bytes,
        report.pages.iter().map(|page| page.bytes).sum::<u64>()
    );
}

#[test]
fn no_two_pictures_share_a_texel_and_pages_of_a_kind_have_one_size() {
    let kitchen = Kitchen::new();
    let top = "[pages]\nlargest-side = 128\npadding = 2\nmay-rotate = true\n";
    let faces = "[faces]\ntext = { file = 'lato.ttf' }\n";
    let text = format!("{top}{faces}{STRIKE}{SPRITES}");
    let manifest = kitchen.read(&text).expect("a manifest");
    let bake = manifest.bake(&|_, _| {}).expect("a bake");
    for kind in [PageKind::Mask, PageKind::Color] {
        let sizes: BTreeSet<_> = bake
            .page_images(kind)
            .map(|page| (page.width(), page.height()))
            .collect();
        assert_eq!(sizes.len(), 1, "{sizes:?}");
        let (width, height) = sizes.first().copied().expect("a page");
        assert!(width <= 128 && height <= 128);
        let mut taken = BTreeSet::new();
        for named in bake.slots().iter().filter(|named| named.slot.kind == kind) {
            let texels = named.slot.texels;
            let (right, bottom) = (texels.x + texels.width + 2, texels.y + texels.height + 2);
            assert!(u32::from(right) <= width && u32::from(bottom) <= height);
            // Masks share the padding between them, sprites have their own.
            let own = if kind == PageKind::Mask { 0 } else { 2 };
            assert!(texels.x >= 2 && texels.y >= 2);
            let (left, top) = (texels.x - own, texels.y - own);
            for (x, y) in (left..right).flat_map(|x| (top..bottom).map(move |y| (x, y))) {
                let is_free = taken.insert((named.slot.page, x, y));
                assert!(is_free, "{} at {x}, {y}", named.name);
            }
        }
    }
    assert!(bake.page_images(PageKind::Mask).count() > 1);
}

#[test]
fn pictures_that_look_the_same_are_stored_once() {
    let kitchen = Kitchen::new();
    let again = "[[sprites]]\nfile = 'sail.png'\nname = 'again'\nslices = [3]\n";
    let manifest = kitchen
        .read(&format!("{SPRITES}{again}"))
        .expect("a manifest");
    let (json, pages) = json_of(&manifest);
    let slot = |sprite: usize| &json["sprites"][sprite]["pictures"][0]["slot"];
    assert_eq!(slot(2), slot(3));
    // And the page shows it there.
    let image = Image::from_png_file(kitchen.path("sail.png")).expect("a picture");
    let (x, y) = (number(&slot(2)["x"]), number(&slot(2)["y"]));
    assert_eq!(pages[0].part(x, y, 12, 10), image);
    // Its border goes on in the padding.
    assert_eq!(pages[0].pixel(x - 1, y + 4), image.pixel(0, 4));
}

#[test]
fn what_is_wrong_in_a_manifest_is_told_with_its_line() {
    let kitchen = Kitchen::new();
    kitchen.write("broken.png", b"no picture");
    kitchen.write("self.toml", b"include = ['m.toml']");
    for (line, expected, more) in [
        (
            5,
            "there is no key “size”; did you mean “sizes”?",
            "[[strikes]]\nsize = [1]\n",
        ),
        (
            5,
            "there is no face “txt”; did you mean “text”?",
            "[stacks]\ns = ['txt']\n",
        ),
        (
            5,
            "the charset “c” matches nothing",
            "[charsets]\nc = { text = 'x', exclude = 'x' }\n",
        ),
        (
            5,
            "“U+7E-20” is no range",
            "[charsets]\nc = { ranges = ['U+7E-20'] }\n",
        ),
        (
            5,
            "did you mean “Arrows”?",
            "[charsets]\nc = { blocks = ['Arows'] }\n",
        ),
        (
            5,
            "cannot read “gone.txt”",
            "[charsets]\nc = { files = ['gone.txt'] }\n",
        ),
        (5, "cannot use “gone.ttf”", "[faces.x]\nfile = 'gone.ttf'\n"),
        (
            6,
            "cannot use a sprite's picture",
            "[[sprites]]\nfile = 'sail.png'\n[[sprites]]\nfile = 'broken.png'\n",
        ),
        (
            6,
            "there is a sprite “sail” already",
            "[[sprites]]\nfile = 'sail.png'\n[[sprites]]\nfile = 'sail.png'\n",
        ),
        (
            4,
            "no whole number of frames of 5",
            "[[sprites]]\nfile = 'sail.png'\nframe-width = 5\n",
        ),
        (
            5,
            "there must be one",
            "[[strikes]]\nsizes = []\nface = 'text'\ncharsets = ['c']\n[charsets]\nc = { text = 'a' }\n",
        ),
        (
            5,
            "must end in .kpack or .json",
            "[output]\nfile = 'x.bin'\n",
        ),
        (5, "largest-side is 9999", "[pages]\nlargest-side = 9999\n"),
        (
            6,
            "there are 2 times for 1 frames",
            "[animations.x]\nframes = ['sail']\nseconds = [1, 2]\n[[sprites]]\nfile = 'sail.png'\n",
        ),
    ] {
        let error = kitchen.manifest(more).expect_err(more);
        let BakeError::File(FileError::Line {
            line: found,
            problem,
            ..
        }) = &error
        else {
            panic!("{error:?}")
        };
        assert!(problem.contains(expected), "{problem}");
        assert_eq!(*found, line, "{more}");
    }
    let error = kitchen
        .read("include = ['self.toml']")
        .expect_err("a circle");
    assert!(error.to_string().contains("includes itself"), "{error}");
    let error = kitchen.read("").expect_err("nothing");
    assert!(matches!(error, BakeError::Nothing(_)));
    let gone = Manifest::from_file(Path::new("gone.toml"));
    assert!(matches!(gone, Err(BakeError::File(FileError::Io { .. }))));
}

#[test]
fn a_picture_larger_than_a_page_is_told_by_its_name() {
    let kitchen = Kitchen::new();
    let manifest = kitchen.read(&format!("[pages]\nlargest-side = 41\n{SPRITES}"));
    let manifest = manifest.expect("a manifest");
    let error = manifest.bake(&|_, _| {}).expect_err("no room");
    assert_eq!(error.to_string(), "sprite “wide” at 40 × 6 texels");
    let manifest = kitchen.manifest(&format!("[pages]\nlargest-side = 16\n{STRIKE}"));
    let manifest = manifest.expect("a manifest");
    let error = manifest.bake(&|_, _| {}).expect_err("no room");
    assert!(error.to_string().contains("of the face “text”"), "{error}");
    // More pages than a byte can number: each glyph of 11 px fills one.
    let many = "[pages]\nlargest-side = 28\npadding = 2\n[charsets.a]\nranges = ['U+20-24F']\n\
        [[strikes]]\nface = 'text'\nsizes = [20]\ncharsets = ['a']\n";
    let manifest = kitchen.manifest(many).expect("a manifest");
    let error = manifest.bake(&|_, _| {}).expect_err("too many pages");
    assert!(
        matches!(error, BakeError::TooMuch(_) | BakeError::Picture { .. }),
        "{error}"
    );
}

#[test]
fn a_damaged_pack_is_refused() {
    let kitchen = Kitchen::new();
    let manifest = kitchen
        .manifest(&format!("{STRIKE}{SPRITES}"))
        .expect("a manifest");
    let bytes = packed(&manifest);
    let open = |bytes: Vec<u8>| -> Result<(), PackError> {
        let pack = Pack::from_bytes(bytes)?;
        pack.face("text")
            .and_then(|_| pack.face("title"))
            .map(|_| ())
    };
    open(bytes.clone()).expect("a whole pack");
    for end in (0..bytes.len())
        .step_by(997)
        .chain([7, 47, 48, 60, bytes.len() - 1])
    {
        assert!(open(bytes[..end].to_vec()).is_err(), "cut at {end}");
    }
    // No byte is without a checksum, or without a reason to be 0.
    let count = u32::from_le_bytes(*bytes[12..].first_chunk().expect("bytes")) as usize;
    let table_end = 48 + 32 * count;
    for at in (0..table_end + 40).chain((table_end..bytes.len()).step_by(61)) {
        let mut damaged = bytes.clone();
        damaged[at] ^= 0x40;
        assert!(open(damaged).is_err(), "byte {at}");
    }
    let mut other = bytes;
    other[8] = 2;
    let error = open(other).expect_err("another version");
    assert!(matches!(error, PackError::Version { found: 2, known: 4 }));
}

#[test]
fn a_crafted_pack_reaches_nowhere() {
    let kitchen = Kitchen::new();
    let more = format!(
        "{STRIKE}{SPRITES}[stacks]\ns = ['text']\n[animations.x]\nframes = ['sail']\nseconds = 1\n\
         [[sprites]]\nfile = 'sail.png'\nname = 'a long name'\n"
    );
    let bytes = packed(&kitchen.manifest(&more).expect("a manifest"));
    let word =
        |bytes: &[u8], at: usize| u64::from_le_bytes(*bytes[at..].first_chunk().expect("bytes"));
    let (start, length) = (word(&bytes, 56) as usize, word(&bytes, 64) as usize);
    let description = &bytes[start..start + length];
    // Every checksum is right: only the description lies, `past` bytes after the first place
    // where it has `found` (docs/pack.md).
    let crafted = |found: &[u8], past: usize, lie: &[u8]| {
        let mut places = description.windows(found.len().max(1));
        let place = places.position(|bytes| bytes.starts_with(found));
        let at = place.expect("the bytes") + past;
        let mut lies = description.to_vec();
        lies[at..at + lie.len()].copy_from_slice(lie);
        assert_ne!(lies, description, "{lie:?} past {found:?}");
        let mut bytes = bytes.clone();
        bytes[start..start + length].copy_from_slice(&lies);
        bytes[72..80].copy_from_slice(&xxh3_64(&lies).to_le_bytes());
        let count = u32::from_le_bytes(*bytes[12..].first_chunk().expect("bytes")) as usize;
        let header = [&bytes[..40], &bytes[48..48 + 32 * count]].concat();
        bytes[40..48].copy_from_slice(&xxh3_64(&header).to_le_bytes());
        Pack::from_bytes(bytes)
    };
    let name = |name: &str| [&(name.len() as u64).to_le_bytes(), name.as_bytes()].concat();
    let index = |number: u64| number.to_le_bytes();
    // The second strike: its size, and twelve bytes of a plain treatment; its first glyph comes next.
    let size = [&20_f32.to_le_bytes()[..], &[0; 12]].concat();
    crafted(b"", 2, &[8]).expect("the checksums are right");
    // From the end of a sprite's name: width, height, density, borders, sampling, sides,
    // middle, origin, number of pictures, width, height, borders, page, x.
    let wide = name("wide");
    let density = 12 + 8;
    let pictures = density + 4 + 16 + 3 + 8;
    let page = pictures + 8 + 4 + 8;
    let outcomes = [
        ("no subpixel position", crafted(b"", 2, &[0])),
        ("a page of no kind", crafted(b"", 3 + 8 + 4 + 8, &[7])),
        ("more scales than bytes", crafted(b"", 3, &index(u64::MAX))),
        ("a glyph too far", crafted(&size, 4 + 12, &index(99))),
        (
            "the glyphs of another strike",
            crafted(&size, 4 + 12, &index(0)),
        ),
        ("no size", crafted(&size, 0, &[0; 4])),
        ("no such edges", crafted(&size, 4, &[9])),
        (
            "a size that is none",
            crafted(&size, 0, &f32::NAN.to_le_bytes()),
        ),
        ("no such page", crafted(&wide, page, &[1])),
        (
            "a sprite of 17 gigabytes before it was trimmed",
            crafted(&wide, 12, &[0xff, 0xff, 0, 0, 0xff, 0xff, 0, 0]),
        ),
        (
            "a picture of 17 gigabytes",
            crafted(&wide, pictures + 8, &[0xff; 4]),
        ),
        (
            "a texel more than its scale asks for",
            crafted(&wide, pictures + 8, &[41]),
        ),
        ("off its page", crafted(&wide, page + 1, &[15, 39])),
        ("no density", crafted(&wide, density, &[0; 4])),
        (
            "more pictures than bytes",
            crafted(&wide, pictures, &index(1 << 40)),
        ),
        ("one name twice", crafted(&wide, 8, b"high")),
        ("no UTF-8", crafted(&wide, 8, &[0xff])),
        ("no such face", crafted(&name("s"), 9 + 8, &index(7))),
        ("no such sprite", crafted(&name("x"), 9 + 1 + 8, &index(4))),
        ("no time", crafted(&name("x"), 9 + 1 + 8 + 8, &[0; 4])),
    ];
    for (what, outcome) in outcomes {
        let error = outcome.map(|_| ()).expect_err(what);
        assert!(!matches!(error, PackError::NotAPack), "{what}: {error}");
    }
    // A font's number is looked at when the face is asked for.
    let pack = crafted(&name("text"), 12 + 16, &index(1)).expect("the font is not looked at");
    let error = pack.face("text").expect_err("a page");
    assert!(matches!(error, PackError::Damaged { .. }), "{error}");
    let pack = Pack::from_bytes(bytes.clone()).expect("a pack");
    let error = pack.face("txt").expect_err("no such face");
    assert_eq!(
        error.to_string(),
        "the pack has no face “txt”; did you mean “text”?"
    );
    assert!(pack.stack("s").is_ok() && pack.animation("x").is_ok());
    assert!(pack.stack("t").is_err() && pack.animation("y").is_err());
}

#[test]
fn a_pack_is_held_against_the_limits_it_is_opened_with() {
    let kitchen = Kitchen::new();
    let bytes = packed(&kitchen.manifest(SPRITES).expect("a manifest"));
    // The largest sprites have 40 × 6 pixels.
    let open = |most| Pack::from_bytes_with(bytes.clone(), &Limits::default().image_pixels(most));
    open(240).expect("as many as there are");
    let error = open(239).map(|_| ()).expect_err("one too many").to_string();
    assert!(error.contains("wide") || error.contains("high"), "{error}");
}

#[test]
fn a_bake_holds_what_its_text_can_reach() {
    let kitchen = Kitchen::new();
    let count = |text: &str, features: &str| {
        let more = format!(
            "[charsets]\na = {{ text = '{text}' }}\n\
             [[strikes]]\nface = 'text'\nsizes = [20]\ncharsets = ['a']\n{features}"
        );
        let (json, _) = json_of(&kitchen.manifest(&more).expect("a manifest"));
        let glyphs = json["strikes"][0]["glyphs"].as_array().expect("glyphs");
        let numbers: BTreeSet<u32> = glyphs.iter().map(|glyph| number(&glyph["glyph"])).collect();
        numbers.len()
    };
    // Ten digits and `.notdef`; the font has other digits, for fractions and as small ones.
    assert_eq!(count("0123456789", ""), 11);
    // With the fraction slash they become fractions of themselves, unasked (`frac` by text).
    assert!(count("0123456789\u{2044}", "") >= 12);
    // Old style digits are asked for by name.
    let old = count("0123456789", "features = ['onum']\n");
    assert!(old > 11, "{old}");
}

#[test]
fn ligatures_of_what_is_asked_for_are_baked_as_well() {
    let kitchen = Kitchen::new();
    let (face, text) = (lato(), "flight");
    let more = format!(
        "[charsets]\na = {{ text = '{text}' }}\n\
         [[strikes]]\nface = 'text'\nsizes = [20]\ncharsets = ['a']\n"
    );
    let manifest = kitchen.manifest(&more).expect("a manifest");
    let pack = Pack::from_bytes(packed(&manifest)).expect("a pack");
    let baked = pack.face("text").expect("the face");
    let layout = TextLayout::new(text, &Style::new(&baked, 20.0)).expect("a layout");
    // The font joins f and l: fewer glyphs than letters, one of no character here.
    assert_eq!(layout.glyphs().len(), text.len() - 1);
    assert_ne!(Some(layout.glyphs()[0].glyph), face.glyph('f'));
    let mut atlas = pack.atlas();
    let before = atlas.usage();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    let at = Point::new(5.0, 5.0);
    frame
        .text(&layout, DrawText::at(at, Anchor::TOP_LEFT))
        .expect("room");
    assert_eq!(atlas.usage(), before);
}

#[test]
fn the_json_form_has_the_measures_of_the_font_and_its_pictures() {
    let kitchen = Kitchen::new();
    let more = "[charsets.a]\ntext = 'AVTo, fi.'\n\
        [[strikes]]\nface = 'text'\nsizes = [18]\ncharsets = ['a']\n";
    let (json, pages) = json_of(&kitchen.manifest(more).expect("a manifest"));
    let (told, face) = (&json["faces"][0], lato());
    assert_eq!(told["ascender"], face.metrics().ascender);
    let glyphs: Vec<GlyphId> = told["advances"]
        .as_object()
        .expect("advances")
        .keys()
        .map(|glyph| GlyphId(glyph.parse().expect("a number")))
        .collect();
    let kerning = told["kerning"].as_array().expect("pairs");
    for left in &glyphs {
        assert_eq!(told["advances"][left.0.to_string()], face.advance(*left));
        for right in &glyphs {
            let mut pairs = kerning.iter();
            let pair = pairs.find(|pair| pair[0] == left.0 && pair[1] == right.0);
            let units = pair.map_or(0, |pair| pair[2].as_i64().expect("units"));
            assert_eq!(units, i64::from(face.kerning(*left, *right)));
        }
    }
    // Every picture is what the rasteriser draws, and lies where that says.
    let mut rasterizer = Rasterizer::new();
    let records = json["strikes"][0]["glyphs"].as_array().expect("glyphs");
    assert!(records.len() >= 4 * 7, "{}", records.len());
    for record in records {
        let glyph = GlyphId(number(&record["glyph"]) as u16);
        let drawn = rasterizer
            .glyph(
                &GlyphRequest::new(&face, glyph, 18.0)
                    .subpixel(Subpixel::new(number(&record["subpixel"]) as u8, 4)),
            )
            .expect("a picture");
        let side = |key: &str| number(&record[key]);
        let shown = pages[0].part(side("x"), side("y"), side("width"), side("height"));
        let grey: Vec<u8> = shown.pixels().iter().step_by(4).copied().collect();
        assert_eq!(grey, drawn.texels);
        let place = (record["left"].as_f64(), record["top"].as_f64());
        assert_eq!(place, (Some(drawn.left.into()), Some(drawn.top.into())));
    }
}

#[test]
fn what_a_manifest_includes_is_there_and_names_are_given_once() {
    let kitchen = Kitchen::new();
    let faces = "[faces]\ntext = { file = 'lato.ttf' }\nbold = { file = 'lato.ttf', bold = true }\n\
        [stacks]\nboth = ['bold', 'text']\n[pages]\npadding = 5\n";
    kitchen.write("common.toml", faces.as_bytes());
    let strike = "[charsets]\na = { text = 'a' }\n\
        [[strikes]]\nstack = 'both'\nsizes = [9]\ncharsets = ['a']\n";
    let text = format!("include = ['common.toml']\n[pages]\npadding = 3\n{strike}");
    let manifest = kitchen.read(&text).expect("a manifest");
    let (json, _) = json_of(&manifest);
    // The including file decides.
    assert_eq!(json["padding"], 3);
    let bytes = packed(&manifest);
    // One font in the pack, though two faces are of it.
    assert!(bytes.len() < LATO.len() * 3 / 2, "{}", bytes.len());
    let pack = Pack::from_bytes(bytes).expect("a pack");
    let stack = pack.stack("both").expect("the stack");
    let advance = |face: &kerno::Face| face.advance(face.glyph('a').expect("a letter"));
    assert!(stack[0].synthesis().is_some() && stack[1].synthesis().is_none());
    assert!(advance(&stack[0]) > advance(&stack[1]));
    assert!(stack[1].is_same(&pack.face("text").expect("the face")));
    let again = format!("include = ['common.toml']\n[faces.text]\nfile = 'averia.ttf'\n{strike}");
    let error = kitchen.read(&again).expect_err("two of one name");
    let expected = "line 2: there is a face “text” already";
    assert!(error.to_string().contains(expected), "{error}");
    for (face, expected) in [
        ("axes = { wght = 700 }", "cannot use “lato.ttf”"),
        ("axes = { weight = 7 }", "is no axis"),
        ("face = 3", "cannot use “lato.ttf”"),
        ("strike = 12", "cannot use “lato.ttf”"),
    ] {
        let text = format!("[faces.x]\nfile = 'lato.ttf'\n{face}\n");
        let error = kitchen.read(&text).expect_err(face);
        assert!(error.to_string().contains(expected), "{error}");
    }
}

#[test]
fn strips_and_folders_become_sprites_that_move() {
    let kitchen = Kitchen::new();
    fs::create_dir_all(kitchen.path("art/small")).expect("a folder");
    for (from, to) in [
        ("sail.png", "art/small/sail.png"),
        ("high.png", "art/oar.png"),
    ] {
        fs::copy(kitchen.path(from), kitchen.path(to)).expect("a file");
    }
    let text = "[[sprites]]\nfolder = 'art'\nexcept = ['oar']\norigin = [0.25, 1.0]\n\
        [[sprites]]\nfile = 'wide.png'\nname = 'wave'\nframe-width = 10\ndensity = 2\n\
        [animations.wave]\nnumbered = 'wave'\nseconds = [0.1, 0.2, 0.3, 0.4]\nrepeats = true\n\
        [animations.once]\nframes = ['wave/3', 'small/sail']\nseconds = 0.5\n";
    let manifest = kitchen.read(text).expect("a manifest");
    let pack = Pack::from_bytes(packed(&manifest)).expect("a pack");
    let atlas = pack.atlas();
    let names: Vec<&str> = atlas.sprite_names().map(|(name, _)| name).collect();
    assert_eq!(
        names,
        ["small/sail", "wave/0", "wave/1", "wave/2", "wave/3"]
    );
    let sail = atlas.sprite("small/sail").expect("a sprite");
    assert_eq!(atlas.sprite_origin(sail), Anchor::new(0.25, 1.0));
    let wave = |frame: usize| atlas.sprite(&format!("wave/{frame}")).expect("a sprite");
    assert_eq!(atlas.sprite_size(wave(0)), kerno::Size::new(5.0, 3.0));
    let moving = pack.animation("wave").expect("an animation");
    for (time, frame) in [(0.05, 0), (0.15, 1), (0.95, 3), (1.15, 1)] {
        assert_eq!(moving.sprite_at(time), wave(frame), "at {time}");
    }
    let once = pack.animation("once").expect("an animation");
    assert_eq!((once.sprite_at(0.0), once.sprite_at(9.0)), (wave(3), sail));
}

#[test]
fn manifests_include_each_other_so_deep_and_no_deeper() {
    let kitchen = Kitchen::new();
    for depth in 0..40 {
        let text = format!("include = ['m{}.toml']\n", depth + 1);
        kitchen.write(&format!("m{depth}.toml"), text.as_bytes());
    }
    kitchen.write("m40.toml", b"");
    let error = kitchen.read("include = ['m0.toml']").expect_err("too deep");
    assert!(error.to_string().contains("32 deep"), "{error}");
}

#[test]
fn a_folder_that_links_lead_to_counts_once() {
    let kitchen = Kitchen::new();
    let folder = kitchen.path("lamps");
    fs::create_dir_all(folder.join("lit")).expect("a folder");
    let image = Image::new(2, 2, vec![255; 16]).expect("an image");
    image
        .write_png_file(folder.join("lit/one.png"))
        .expect("a file");
    #[cfg(unix)]
    for (link, target) in [
        ("a", "."),
        ("b", "."),
        ("lit/up", ".."),
        ("lit/self", "."),
        ("c", "lit"),
    ] {
        std::os::unix::fs::symlink(target, folder.join(link)).expect("a link");
    }
    let manifest = kitchen
        .read("[[sprites]]\nfolder = 'lamps'\nslices = 1\n")
        .expect("a manifest");
    let bake = manifest.bake(&|_, _| {}).expect("a bake");
    let names: Vec<_> = bake.slots().into_iter().map(|slot| slot.name).collect();
    assert_eq!(names, ["lit/one"]);
}
