//! Fonts found by name, in folders that the test makes.

use std::fs;

use kerno::font::{FontError, Synthesis};
use kerno::installed::{FaceQuery, InstalledFonts, Slant};
use tempfile::TempDir;

use crate::support::{AVERIA, FontBuilder, LATO, MISAKI, polygon, words};

/// A `name` table of ASCII texts in Windows' Unicode encoding.
fn names(texts: &[(i32, &str)]) -> Vec<u8> {
    let mut table = words(&[0, texts.len() as i32, 6 + 12 * texts.len() as i32]);
    let mut offset = 0;
    for (id, text) in texts {
        let length = text.len() as i32 * 2;
        table.extend(words(&[3, 1, 0x409, *id, length, offset]));
        offset += length;
    }
    let texts = texts.iter().flat_map(|(_, text)| text.bytes());
    table.extend(texts.flat_map(|byte| [0, byte]));
    table
}

/// A face of the family “Reed” as a file.
fn reed(weight: u16, width: u16, slant: Slant) -> Vec<u8> {
    let mut os2 = vec![0; 96];
    os2[4..6].copy_from_slice(&weight.to_be_bytes());
    os2[6..8].copy_from_slice(&width.to_be_bytes());
    // fsSelection: bit 0 italic, bit 9 oblique.
    os2[62..64].copy_from_slice(&match slant {
        Slant::Normal => [0, 0],
        Slant::Italic => [0, 1],
        Slant::Oblique => [2, 0],
    });
    FontBuilder::new(&[polygon(&[(0, 0), (9, 0), (0, 9)])])
        .table(b"OS/2", os2)
        .table(b"name", names(&[(1, "Reed"), (2, "Regular")]))
        .build()
}

fn folder(faces: &[(u16, u16, Slant)]) -> (TempDir, InstalledFonts) {
    let folder = TempDir::new().expect("a folder");
    for (number, (weight, width, slant)) in faces.iter().enumerate() {
        let path = folder.path().join(format!("reed{number}.ttf"));
        fs::write(path, reed(*weight, *width, *slant)).expect("a file");
    }
    let fonts = InstalledFonts::from_folders(&[folder.path()]);
    assert_eq!(fonts.faces().len(), faces.len());
    (folder, fonts)
}

#[test]
fn folders_are_searched_through() {
    let root = TempDir::new().expect("a folder");
    let deep = root.path().join("a/b");
    fs::create_dir_all(&deep).expect("folders");
    fs::write(deep.join("lato.TTF"), LATO).expect("a file");
    fs::write(root.path().join("averia.otf"), AVERIA).expect("a file");
    fs::write(deep.join("misaki.ttf"), MISAKI).expect("a file");
    fs::write(deep.join("half.ttf"), &LATO[..100]).expect("a file");
    fs::write(deep.join("notes.txt"), "no font").expect("a file");
    // The same folder twice, and one that isn't there.
    let folders = [root.path(), &deep, &root.path().join("none")];
    let fonts = InstalledFonts::from_folders(&folders);
    let found: Vec<_> = fonts
        .faces()
        .iter()
        .map(|face| face.family.as_str())
        .collect();
    assert_eq!(found, ["Averia Serif GWF", "Lato", "MisakiGothic"]);
    let lato = &fonts.faces()[1];
    assert_eq!(
        (lato.style.as_str(), lato.weight, lato.width),
        ("Medium", 500, 5)
    );
    assert_eq!(lato.narrow_family.as_deref(), Some("Lato Medium"));
    assert_eq!(lato.open_file().expect("a font").glyph_count(), 3026);
    assert!(matches!(
        fonts.damaged(),
        [FontError::InFile { path, .. }] if path.ends_with("half.ttf")
    ));
}

#[test]
fn a_family_is_found_by_either_name_or_not_at_all() {
    let root = TempDir::new().expect("a folder");
    fs::write(root.path().join("lato.ttf"), LATO).expect("a file");
    fs::write(root.path().join("averia.ttf"), AVERIA).expect("a file");
    let fonts = InstalledFonts::from_folders(&[root.path()]);
    for name in ["Lato", "LATO", "lato medium"] {
        assert_eq!(
            fonts.find(&FaceQuery::new(name)).expect("found").weight,
            500,
            "{name}"
        );
    }
    let error = |name| fonts.find(&FaceQuery::new(name)).expect_err("not there");
    assert_eq!(error("Latto").nearest, ["Lato"]);
    assert_eq!(error("Averia").nearest, ["Averia Serif GWF"]);
    assert_eq!(
        error("Avreia").to_string(),
        "no installed font has the family “Avreia”; did you mean “Averia Serif GWF”?"
    );
    assert_eq!(error("Fog Sans").nearest, Vec::<String>::new());
}

#[test]
fn weights_stand_in_for_each_other_as_css_says() {
    // CSS Fonts 4, 5.2: 400 and 500 for each other first; below 400 the lighter
    // ones first; above 500 the heavier ones first.
    let chosen = |has: &[u16], weight| {
        let faces: Vec<_> = has
            .iter()
            .map(|weight| (*weight, 5, Slant::Normal))
            .collect();
        let (_folder, fonts) = folder(&faces);
        let query = FaceQuery::new("Reed").weight(weight);
        fonts.find(&query).expect("the family").weight
    };
    assert_eq!(chosen(&[300, 500, 700], 400), 500);
    assert_eq!(chosen(&[300, 700], 400), 300);
    assert_eq!(chosen(&[400, 600], 500), 400);
    assert_eq!(chosen(&[600, 900], 500), 600);
    assert_eq!(chosen(&[200, 400, 700], 300), 200);
    assert_eq!(chosen(&[400, 700], 300), 400);
    assert_eq!(chosen(&[400, 700, 900], 600), 700);
    assert_eq!(chosen(&[300, 500], 900), 500);
    assert_eq!(chosen(&[450, 500], 400), 450);
}

#[test]
fn what_a_family_lacks_is_made_and_told() {
    let (_folder, fonts) = folder(&[(400, 5, Slant::Normal)]);
    let made = |weight, slant| {
        let query = FaceQuery::new("Reed").weight(weight).slant(slant);
        let face = fonts.find(&query).expect("the family");
        face.open_file_for(&query).expect("a font").synthesis()
    };
    assert_eq!(made(500, Slant::Normal), None);
    assert_eq!(made(700, Slant::Normal), Some(Synthesis::BOLD));
    assert_eq!(made(400, Slant::Italic), Some(Synthesis::OBLIQUE));
    let (_folder, fonts) = folder(&[(700, 5, Slant::Italic)]);
    let query = FaceQuery::new("Reed").weight(900).slant(Slant::Italic);
    let face = fonts.find(&query).expect("the family");
    assert_eq!(
        face.open_file_for(&query).expect("a font").synthesis(),
        None
    );
}

#[test]
fn width_decides_before_slant_and_slant_before_weight() {
    use Slant::{Italic, Normal, Oblique};
    let (_folder, fonts) = folder(&[
        (400, 5, Normal),
        (700, 5, Italic),
        (400, 3, Normal),
        (400, 7, Normal),
        (400, 7, Oblique),
    ]);
    let chosen = |weight, width, slant| {
        let query = FaceQuery::new("reed")
            .weight(weight)
            .width(width)
            .slant(slant);
        let face = fonts.find(&query).expect("the family");
        (face.weight, face.width, face.slant)
    };
    assert_eq!(chosen(400, 5, Italic), (700, 5, Italic));
    assert_eq!(chosen(700, 5, Normal), (400, 5, Normal));
    // Up to normal the narrower one is nearer, above it the wider one.
    assert_eq!(chosen(400, 4, Normal), (400, 3, Normal));
    assert_eq!(chosen(400, 6, Normal), (400, 7, Normal));
    assert_eq!(chosen(400, 1, Italic), (400, 3, Normal));
    // Italic and oblique stand in for each other before normal does.
    assert_eq!(chosen(400, 7, Italic), (400, 7, Oblique));
    assert_eq!(chosen(400, 5, Oblique), (700, 5, Italic));
}
