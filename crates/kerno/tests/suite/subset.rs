//! The part of a font that a pack carries.

use kerno::atlas::PageKind;
use kerno::bake::Manifest;
use kerno::base::Mapping;
use kerno::{
    Anchor, Atlas, Canvas, DeviceSize, DrawText, Face, FrameBuilder, Pack, Point, Style, TextLayout,
};

use crate::support::{AVERIA, LATO};

/// A pack of a face with some characters, at one size.
pub(crate) fn packed(font: &[u8], characters: &str, more: &str) -> (Pack, usize) {
    packed_face(font, characters, (more, ""))
}

/// The same with more to say of the face.
pub(crate) fn packed_with(font: &[u8], characters: &str, face: &str) -> (Pack, usize) {
    packed_face(font, characters, ("", face))
}

fn packed_face(font: &[u8], characters: &str, (more, face): (&str, &str)) -> (Pack, usize) {
    let folder = tempfile::tempdir().expect("a folder");
    let write = |name: &str, bytes: &[u8]| {
        std::fs::write(folder.path().join(name), bytes).expect("a file");
    };
    write("font.ttf", font);
    let manifest = format!(
        "{more}[faces.text]\nfile = 'font.ttf'\n{face}[charsets.all]\ntext = '{characters}'\n\
         [[strikes]]\nface = 'text'\nsizes = [16]\ncharsets = ['all']\n"
    );
    write("all.toml", manifest.as_bytes());
    let manifest = Manifest::from_file(folder.path().join("all.toml")).expect("a manifest");
    let bake = manifest.bake(&|_, _| {}).expect("a bake");
    let report = bake.report();
    let [font_use] = &report.fonts[..] else {
        panic!("one font")
    };
    assert_eq!(font_use.whole, font.len() as u64);
    let bytes = bake.to_pack().expect("a pack");
    (
        Pack::from_bytes(bytes).expect("a pack"),
        font_use.bytes as usize,
    )
}

fn glyphs(face: &Face, text: &str, tabular: bool) -> Vec<(u16, f32, f32)> {
    let style = Style::new(face, 16.0).tabular(tabular);
    let layout = TextLayout::new(text, &style).expect("a layout");
    assert!(layout.missing().is_empty(), "{text}");
    let glyphs = layout.glyphs().iter();
    glyphs
        .map(|glyph| (glyph.glyph.0, glyph.x, glyph.y))
        .collect()
}

#[test]
fn what_is_carried_measures_and_kerns_as_the_whole_font_does() {
    for (font, most) in [(LATO, 60_000), (AVERIA, 20_000)] {
        let (pack, bytes) = packed(font, "AVToWaffile.1,284", "");
        assert!(bytes < most, "{bytes} of {}", font.len());
        let (carried, whole) = (
            pack.face("text").expect("a face"),
            Face::from_bytes(font).expect("a font"),
        );
        for text in [
            "AVTo Waffle",
            "To, AV. 1,284",
            "fi ffi fl",
            "Wave TTTo",
            "..,,;",
        ] {
            let known: String = text
                .chars()
                .filter(|c| carried.glyph(*c).is_some())
                .collect();
            for tabular in [false, true] {
                assert_eq!(
                    glyphs(&carried, &known, tabular),
                    glyphs(&whole, &known, tabular),
                    "{known}"
                );
            }
        }
        assert_eq!(carried.metrics(), whole.metrics());
        for character in ['A', 'f', '1', '…'] {
            let (Some(own), Some(glyph)) = (carried.glyph(character), whole.glyph(character))
            else {
                continue;
            };
            let (mut a, mut b) = (
                kerno::outline::Outline::new(),
                kerno::outline::Outline::new(),
            );
            carried.outline(own, &mut a).expect("an outline");
            whole.outline(glyph, &mut b).expect("an outline");
            assert!(a.segments().eq(b.segments()), "{character}");
        }
        // Glyphs that nobody asked for are not there.
        assert_eq!(carried.glyph('Z'), None);
    }
}

#[test]
fn fonts_are_carried_whole_on_demand() {
    let (pack, bytes) = packed(
        LATO,
        "AV",
        "[output]\nfile = 'all.kpack'\nfonts = 'whole'\n",
    );
    assert_eq!(bytes, LATO.len());
    assert!(pack.face("text").expect("a face").glyph('Z').is_some());
}

#[test]
fn composites_keep_their_components() {
    let (pack, _) = packed(LATO, "éü", "");
    let (carried, whole) = (
        pack.face("text").expect("a face"),
        Face::from_bytes(LATO).expect("a font"),
    );
    for character in ['é', 'ü'] {
        let glyph = whole.glyph(character).expect("a glyph");
        assert_eq!(carried.glyph(character), Some(glyph));
        let (mut a, mut b) = (
            kerno::outline::Outline::new(),
            kerno::outline::Outline::new(),
        );
        carried.outline(glyph, &mut a).expect("an outline");
        whole.outline(glyph, &mut b).expect("an outline");
        assert!(
            a.segments().eq(b.segments()) && !a.is_empty(),
            "{character}"
        );
    }
}

#[test]
fn pages_that_come_later_are_as_large_as_they_like() {
    // One small letter: its page is far too small for a large one.
    let (pack, _) = packed(LATO, "A", "");
    let style = Style::new(&pack.face("text").expect("a face"), 200.0);
    let layout = TextLayout::new("A", &style).expect("a layout");
    let mut atlas = pack.atlas();
    let before = atlas.pages(PageKind::Mask)[0].width();
    let drawn = |atlas: &mut Atlas| {
        let mut builder = FrameBuilder::new();
        let mut frame = builder.begin(atlas, Mapping::IDENTITY);
        let corner = DrawText::at(Point::ORIGIN, Anchor::TOP_LEFT);
        frame.text(&layout, corner).expect("room for it");
        let mut canvas = Canvas::new(DeviceSize::new(200, 240));
        canvas.draw(builder.finish(), atlas);
        canvas.to_image()
    };
    let from_pack = drawn(&mut atlas);
    let pages = atlas.pages(PageKind::Mask);
    assert!(before < 100 && pages[0].width() == before && pages[1].width() == 1024);
    // And its letter is drawn from there as from any other atlas.
    assert!(from_pack == drawn(&mut Atlas::default()), "the same pixels");
}

#[test]
fn spaces_that_are_made_are_not_missing() {
    let folder = tempfile::tempdir().expect("a folder");
    std::fs::write(folder.path().join("font.ttf"), AVERIA).expect("a file");
    let text = "[faces]\ntext = { file = 'font.ttf' }\n[charsets.a]\ntext = \"a\\u2003\\u2011\\u202F\u{21d2}\"\n\
        [[strikes]]\nface = 'text'\nsizes = [16]\ncharsets = ['a']\n";
    std::fs::write(folder.path().join("a.toml"), text).expect("a file");
    let manifest = Manifest::from_file(folder.path().join("a.toml")).expect("a manifest");
    let report = manifest.bake(&|_, _| {}).expect("a bake").report();
    assert_eq!(report.missing, [("text".to_owned(), "\u{21d2}".to_owned())]);
}
