//! The command as a user calls it.

#[path = "cli/guide.rs"]
mod guide;
#[path = "cli/manners.rs"]
mod manners;
#[path = "cli/play.rs"]
mod play;
#[path = "cli/schemas.rs"]
mod schemas;
#[cfg(unix)]
#[path = "cli/trust.rs"]
mod trust;

use std::ffi::OsStr;
use std::fs;
use std::path::{Path, PathBuf};

use assert_cmd::Command;
use kerno::Face;
use kerno::base::Image;
use tempfile::TempDir;

const LATO: &str = concat!(
    env!("CARGO_MANIFEST_DIR"),
    "/demo/ferry/fonts/Lato-Medium.ttf"
);

fn kerno(args: &[&str]) -> Command {
    let mut command = Command::cargo_bin("kerno").expect("the command");
    command.args(args);
    command
}

/// The output of a successful call.
fn output(args: &[&str]) -> String {
    let done = kerno(args).assert().success();
    String::from_utf8(done.get_output().stdout.clone()).expect("UTF-8")
}

/// Calls the command, expects it to refuse with a code, and returns what it
/// says.
fn refusal(code: i32, args: &[&str]) -> String {
    let done = kerno(args).assert().code(code).stdout("");
    String::from_utf8(done.get_output().stderr.clone()).expect("UTF-8")
}

struct Scratch(TempDir);

impl Scratch {
    fn new() -> Self {
        Self(TempDir::new().expect("a folder"))
    }

    fn path(&self, name: &str) -> String {
        self.0.path().join(name).to_str().expect("UTF-8").to_owned()
    }

    fn file(&self, name: &str, bytes: &[u8]) -> String {
        let path = self.path(name);
        fs::write(&path, bytes).expect("a file");
        path
    }

    fn names(&self) -> Vec<PathBuf> {
        let entries = fs::read_dir(self.0.path()).expect("a folder");
        entries
            .map(|entry| entry.expect("a file").file_name().into())
            .collect()
    }
}

#[test]
fn measure_prints_the_tables_numbers_for_every_ascii_character() {
    // At a size of one design pixel per font unit they are the numbers of the
    // tables themselves, which the core's tests read a second time.
    let text: String = (' '..='~').collect();
    let printed = output(&["measure", LATO, "--size", "2000", "--json", &text]);
    let json: serde_json::Value = serde_json::from_str(&printed).expect("JSON");
    let face = Face::from_file(LATO).expect("a font");
    let glyphs = json["glyphs"].as_array().expect("a list");
    assert_eq!(glyphs.len(), 95);
    let mut pen = 0.0;
    for (index, character) in text.chars().enumerate() {
        let (json, glyph) = (&glyphs[index], face.glyph(character).expect("ASCII"));
        let next = text
            .chars()
            .nth(index + 1)
            .and_then(|next| face.glyph(next));
        let kerning = next.map_or(0, |next| face.kerning(glyph, next));
        assert_eq!(json["id"], glyph.0);
        assert_eq!(json["cluster"], index);
        assert_eq!(json["x"].as_f64(), Some(pen), "{character}");
        assert_eq!(
            json["advance"].as_f64(),
            Some(f64::from(face.advance(glyph)))
        );
        assert_eq!(json["kerning"].as_f64(), Some(f64::from(kerning)));
        let bounds = face.bounds(glyph).expect("no fault");
        let width = bounds.map(|b| f64::from(b.x_max) - f64::from(b.x_min));
        assert_eq!(json["ink"]["width"].as_f64(), width, "{character}");
        pen += f64::from(face.advance(glyph)) + f64::from(kerning);
    }
    assert_eq!(json["width"].as_f64(), Some(pen));
    assert_eq!(json["height"].as_f64(), Some(1610.0 + 390.0 + 400.0));
}

#[test]
fn measure_prints_a_table() {
    let printed = output(&["measure", LATO, "--size", "20", "A\u{13000}\ni"]);
    assert!(
        printed.contains("Lato Medium at 20 px, 2 lines"),
        "{printed}"
    );
    assert!(
        printed.contains("no glyph for the text at byte 1"),
        "{printed}"
    );
    // 680 units of 2000 wide at 20 px, on a baseline of (1610 + 400 / 2) / 100.
    let row = printed
        .lines()
        .find(|line| line.trim_start().starts_with("A "))
        .expect("a row");
    let cells: Vec<&str> = row.split_whitespace().collect();
    assert_eq!(cells[..5], ["A", "0", "3", "0.000", "18.100"], "{printed}");
}

#[test]
fn inspect_tells_what_is_in_a_font() {
    let printed = output(&["inspect", LATO]);
    for part in [
        "Lato Medium",
        "2000 per em",
        "glyf   ",
        "Basic Latin",
        "GPOS",
    ] {
        assert!(printed.contains(part), "{part} in:\n{printed}");
    }
    // All that this font has is read.
    assert!(!printed.contains("Not supported"), "{printed}");
}

#[test]
fn render_writes_the_text_at_its_size() {
    let scratch = Scratch::new();
    let path = scratch.path("out.png");
    let args = [
        "render",
        LATO,
        "--size",
        "20",
        "--width",
        "80",
        "--padding",
        "5",
        "--scale",
        "2",
    ];
    let more = [
        "--background",
        "transparent",
        "--color",
        "goldenrod",
        "-o",
        &path,
        "Oil",
    ];
    let printed = output(&[&args[..], &more].concat());
    // (80 + 10) · 2 wide; a line of 24 px and 10 around, doubled.
    assert!(printed.contains("180 × 68 pixels"), "{printed}");
    let image = Image::from_png_file(&path).expect("a PNG");
    assert_eq!((image.width(), image.height()), (180, 68));
    let opaque = image
        .pixels()
        .chunks(4)
        .find(|pixel| pixel[3] == 255)
        .expect("ink");
    assert_eq!(opaque, [0xda, 0xa5, 0x20, 255]);
    assert_eq!(image.pixel(0, 0), Some([0; 4]));
}

#[test]
fn a_plate_lies_behind_a_text_that_is_held_by_its_baseline() {
    let scratch = Scratch::new();
    let path = scratch.path("out.png");
    let args = ["render", LATO, "--size", "20", "--plate", "#2a3c4c"];
    let more = [
        "--plate-padding",
        "3",
        "--padding",
        "8",
        "--first-baseline",
        "40",
    ];
    let rest = ["--background", "transparent", "-o", &path, "Oil"];
    output(&[&args[..], &more, &rest].concat());
    let image = Image::from_png_file(&path).expect("a PNG");
    // The block begins at 8, the plate 3 before it, and ends as far behind it.
    let plate = Some([0x2a, 0x3c, 0x4c, 255]);
    let end = image.width() - 5;
    for (x, wanted) in [
        (4, Some([0; 4])),
        (5, plate),
        (end - 2, plate),
        (end, Some([0; 4])),
    ] {
        assert_eq!(image.pixel(x, 9), wanted, "at {x} of {}", image.width());
    }
    assert_eq!(
        (image.pixel(20, 4), image.pixel(20, 5)),
        (Some([0; 4]), plate)
    );
    // “Oil” has nothing beneath its baseline but the rounding of the O.
    let is_ink = |y: u32| (0..image.width()).any(|x| image.pixel(x, y) == Some([255; 4]));
    assert!(is_ink(8 + 39) && !is_ink(8 + 41));
    let both = [
        "--first-baseline",
        "4",
        "--vertical-align",
        "top",
        "-o",
        &path,
        "Oil",
    ];
    kerno(&[&args[..], &both].concat()).assert().code(2);
}

#[test]
fn a_pixel_face_off_its_grid_is_told() {
    let misaki = LATO.replace("Lato-Medium", "misaki_gothic");
    let scratch = Scratch::new();
    let path = scratch.path("out.png");
    let draw = |size: &str, scale: &str| {
        output(&[
            "render", &misaki, "--size", size, "--scale", scale, "-o", &path, "PUMP",
        ])
    };
    assert!(draw("11", "1").contains("8 px is the nearest crisp size"));
    assert!(draw("8", "1.6").contains("12.8 px is off the pixel grid"));
    assert!(!draw("8", "3").contains("grid"));
    let printed = output(&["inspect", &misaki]);
    assert!(printed.contains("8, 16, 24, 32, … px"), "{printed}");
}

#[test]
fn numbers_are_written_as_a_language_does() {
    let german = ["--number", "de", "--decimals", "2", "--", "-1234.5"];
    let printed = output(&[&["measure", LATO, "--size", "20", "--json"], &german[..]].concat());
    assert!(printed.contains("\"text\": \"-1.234,50\""), "{printed}");
    for (more, expected) in [
        (["--number", "x!", "1"], "is no language tag"),
        (["--number", "en", "ten"], "“ten” is no number"),
    ] {
        let told = refusal(1, &[&["measure", LATO, "--size", "20"], &more[..]].concat());
        assert!(told.contains(expected), "{told}");
    }
}

#[test]
fn the_demo_draws_every_size_and_time() {
    let scratch = Scratch::new();
    let draw = |name: &str, more: &[&str]| {
        let path = scratch.path(name);
        let printed = output(&[&["demo", "-o", &path], more].concat());
        (Image::from_png_file(&path).expect("a PNG"), printed)
    };
    let (whole, printed) = draw("whole.png", &["--window", "640x360"]);
    assert_eq!((whole.width(), whole.height()), (640, 360));
    for part in [
        "glyphs",
        "missing        0",
        "sprites        20",
        "texture",
        "quads",
        "batches        1",
        "ms",
    ] {
        assert!(printed.contains(part), "{part} in:\n{printed}");
    }
    // The bell is at rest then, as it is at the start.
    let (again, _) = draw("again.png", &["--window", "640x360", "--time", "600"]);
    assert_eq!(whole, again, "typed to the end it is the whole line");
    let (start, _) = draw("start.png", &["--window", "640x360", "--time", "0"]);
    // Nothing but the line of dialogue (and its mark) is missing.
    let changed = (0..360 * 640).filter(|at| {
        let (x, y) = (at % 640, at / 640);
        whole.pixel(x, y) != start.pixel(x, y)
    });
    let rows: Vec<u32> = changed.map(|at| at / 640).collect();
    assert!(
        rows.len() > 500 && rows.iter().all(|row| *row > 360 - 98),
        "{}",
        rows.len()
    );
}

#[test]
fn what_is_no_font_is_told_by_name() {
    let scratch = Scratch::new();
    let lato = fs::read(LATO).expect("a font");
    let cases: [(String, &str); 4] = [
        (scratch.path("none.ttf"), "cannot read the font"),
        (scratch.file("empty.ttf", b""), "the file is empty"),
        (scratch.file("text.ttf", b"Dear passengers"), "not a font"),
        (
            scratch.file("half.ttf", &lato[..lato.len() / 2]),
            "cut short or damaged",
        ),
    ];
    for (path, reason) in cases {
        let name = Path::new(&path)
            .file_name()
            .and_then(OsStr::to_str)
            .expect("a name");
        let out = scratch.path("never.png");
        for args in [
            vec!["inspect", path.as_str()],
            vec!["measure", path.as_str(), "--size", "9", "a"],
            vec![
                "render",
                path.as_str(),
                "--size",
                "9",
                "-o",
                out.as_str(),
                "a",
            ],
        ] {
            let said = refusal(1, &args);
            assert!(said.contains(name) && said.contains(reason), "{said}");
        }
    }
    assert!(!scratch.names().contains(&"never.png".into()));
}

#[test]
fn wrong_usage_is_told_by_option() {
    for (args, parts) in [
        (
            vec!["measure", LATO, "--size", "0", "a"],
            ["--size", "above 0"],
        ),
        (
            vec!["measure", LATO, "--size", "-1", "a"],
            ["--size", "above 0"],
        ),
        (
            vec!["measure", LATO, "--size", "NaN", "a"],
            ["--size", "finite"],
        ),
        (
            vec!["measure", LATO, "--size", "1e9", "a"],
            ["--size", "at most 100000"],
        ),
        (
            vec!["measure", LATO, "--size", "9", "--widht", "3", "a"],
            ["--widht", "--width"],
        ),
        (vec!["demo", "--window", "0x9"], ["--window", "1280x800"]),
        (vec!["demo", "--time", "-3"], ["--time", "0 or more"]),
        (
            vec![
                "render", LATO, "--size", "9", "-o", "x.png", "--color", "blurple", "a",
            ],
            ["--color", "blurple"],
        ),
        (
            vec!["render", LATO, "--size", "90000", "-o", "x.png", "a"],
            ["8192", "--size"],
        ),
    ] {
        let said = refusal(2, &args);
        assert!(
            parts.iter().all(|part| said.contains(part)),
            "{args:?}: {said}"
        );
    }
}

#[cfg(unix)]
#[test]
fn text_that_is_no_utf_8_is_refused() {
    use std::os::unix::ffi::OsStrExt;
    let mut command = kerno(&["measure", LATO, "--size", "9"]);
    let done = command.arg(OsStr::from_bytes(b"fog\xff")).assert().code(2);
    let said = String::from_utf8_lossy(&done.get_output().stderr).into_owned();
    assert!(said.contains("TEXT") && said.contains("UTF-8"), "{said}");
}

#[test]
fn an_output_that_cannot_be_written_changes_nothing() {
    let scratch = Scratch::new();
    let missing = scratch.path("no/such/out.png");
    let said = refusal(1, &["demo", "--window", "64x36", "-o", &missing]);
    assert!(
        said.contains("out.png") && said.contains("does not exist"),
        "{said}"
    );
    // A folder in the file's place: refused, and no temporary file is left.
    let folder = scratch.path("out.png");
    fs::create_dir(&folder).expect("a folder");
    let said = refusal(1, &["demo", "--window", "64x36", "-o", &folder]);
    assert!(
        said.contains("cannot write") && said.contains("out.png"),
        "{said}"
    );
    assert_eq!(scratch.names(), [PathBuf::from("out.png")]);
}

#[test]
fn a_glyph_that_is_damaged_is_told_with_its_file() {
    // 'glyf' is found by its record and overwritten with 0xff from its start:
    // the first glyph, .notdef, becomes a composite of nonsense.
    let mut font = fs::read(LATO).expect("a font");
    let record = (12..)
        .step_by(16)
        .find(|at| &font[*at..*at + 4] == b"glyf")
        .expect("glyf");
    let number = |at: usize| u32::from_be_bytes(font[at..at + 4].try_into().expect("four bytes"));
    let start = number(record + 8) as usize;
    font[start..start + 40].fill(0xff);
    let scratch = Scratch::new();
    let path = scratch.file("odd.ttf", &font);
    let out = scratch.path("out.png");
    let said = refusal(
        1,
        &["render", &path, "--size", "9", "-o", &out, "\u{13000}"],
    );
    assert!(
        said.contains("odd.ttf") && said.contains("'glyf'"),
        "{said}"
    );
}

#[test]
fn fonts_are_listed_by_name() {
    let fonts = LATO.replace("/Lato-Medium.ttf", "");
    let printed = output(&["fonts", "--folder", &fonts, "LATO"]);
    assert!(
        printed.contains("Medium") && printed.contains("1 face of 5"),
        "{printed}"
    );
    let said = refusal(1, &["fonts", "--folder", &fonts, "latto"]);
    assert!(
        said.contains("“latto”") && said.contains("did you mean “Lato”"),
        "{said}"
    );
    let said = refusal(1, &["fonts", "--folder", "no/such/folder"]);
    assert!(said.contains("no folder “no/such/folder”"), "{said}");
}

#[test]
fn a_proof_has_a_column_for_each_font() {
    let scratch = Scratch::new();
    let path = scratch.path("proof.png");
    let misaki = LATO.replace("Lato-Medium", "misaki_gothic");
    let one = output(&["proof", LATO, "-o", &path]);
    assert!(one.contains("1280 × 800"), "{one}");
    let single = Image::from_png_file(&path).expect("a PNG");
    let three = output(&["proof", LATO, &misaki, LATO, "-o", &path]);
    assert!(three.contains("1440 × 800"), "{three}");
    let image = Image::from_png_file(&path).expect("a PNG");
    // The first and the third column are of one font: the same but for the rule.
    for y in 0..800 {
        for x in 2..480 {
            assert_eq!(image.pixel(x, y), image.pixel(960 + x, y), "{x}, {y}");
        }
    }
    assert_ne!(single.pixels(), image.pixels());
    let broken = scratch.file("odd.ttf", b"no font");
    let said = refusal(1, &["proof", LATO, &broken, "-o", &path]);
    assert!(said.contains("odd.ttf"), "{said}");
    assert!(refusal(2, &["proof"]).contains("<FONT>"));
    let compared = output(&["proof", LATO, "--compare", "-o", &path]);
    assert!(compared.contains("1280 × 800"), "{compared}");
    assert!(refusal(2, &["proof", LATO, LATO, "--compare"]).contains("shows one"));
    // A text that the face lacks is not shown as a row of empty boxes.
    let foreign = output(&["proof", LATO, "--text", "\u{13000}\u{13001}", "-o", &path]);
    assert!(foreign.contains("1280"), "{foreign}");
}

#[test]
fn a_font_is_converted_and_comes_back() {
    let scratch = Scratch::new();
    let (bdf, sheet) = (scratch.path("lamp.bdf"), scratch.path("lamp.toml"));
    let size = ["--size", "20", "--characters", "Fog bank"];
    let to = |from: &str, out: &str, more: &[&str]| {
        output(&[&["convert", from, "-o", out], more].concat())
    };
    let said = to(LATO, &bdf, &size);
    assert!(said.contains("8 characters at 20 px"), "{said}");
    to(&bdf, &sheet, &[]);
    let again = scratch.path("again.bdf");
    to(&sheet, &again, &[]);
    let read = |path: &str| fs::read_to_string(path).expect("a file");
    assert_eq!(read(&bdf), read(&again));
    let said = output(&[
        "render",
        &sheet,
        "Fog",
        "--size",
        "29",
        "-o",
        &scratch.path("fog.png"),
    ]);
    assert!(said.contains("set in 20 px"), "{said}");
}

#[test]
fn a_conversion_that_cannot_be_is_refused() {
    let scratch = Scratch::new();
    let out = scratch.path("lamp.bdf");
    let message = refusal(2, &["convert", LATO, "-o", &out]);
    assert!(message.contains("--size"), "{message}");
    let message = refusal(
        2,
        &[
            "convert",
            LATO,
            "--size",
            "9",
            "-o",
            &scratch.path("lamp.ttf"),
        ],
    );
    assert!(message.contains(".bdf or .toml"), "{message}");
    let message = refusal(
        1,
        &[
            "convert",
            LATO,
            "--size",
            "9",
            "--characters",
            "灯",
            "-o",
            &out,
        ],
    );
    assert!(message.contains("none of the characters"), "{message}");
    let sheet = scratch.file(
        "lamp.toml",
        b"family = 'Lamp'\nbaseline = 3\ncolour = 'kept'\n",
    );
    let message = refusal(1, &["inspect", &sheet]);
    assert!(
        message.contains("lamp.toml") && message.contains("line 3"),
        "{message}"
    );
    assert!(message.contains("did you mean “color”"), "{message}");
    assert_eq!(scratch.names(), [PathBuf::from("lamp.toml")]);
}

/// The demo's manifest, to be baked somewhere else and in some form.
fn ferry(scratch: &Scratch, output: &str) -> String {
    let manifest = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/ferry.toml");
    let text = format!("include = ['{manifest}']\n[output]\nfile = '{output}'\n");
    scratch.file("m.toml", text.as_bytes())
}

#[test]
fn the_demo_is_baked_and_drawn_from_its_pack() {
    let scratch = Scratch::new();
    let manifest = ferry(&scratch, "ferry.kpack");
    let (pack, sheet) = (scratch.path("ferry.kpack"), scratch.path("sheet.png"));
    let told = output(&["bake", &manifest, "--threads", "1", "--report"]);
    // All parts of the library's report are printed and written.
    for part in [
        "text 30 px smooth",
        "sprites/bell.png",
        "mask 0",
        "typed",
        "used by nothing",
    ] {
        assert!(told.contains(part), "{told}");
    }
    let written = fs::read_to_string(scratch.path("ferry.report.txt")).expect("the report");
    assert!(told.contains(written.trim_end()), "{written}");
    let first = fs::read(&pack).expect("the pack");
    let told = output(&["bake", &manifest]);
    assert!(
        told.ends_with("nothing has changed since it was baked\n"),
        "{told}"
    );
    output(&[
        "bake",
        &manifest,
        "--again",
        "--threads",
        "2",
        "--sheet",
        &sheet,
    ]);
    assert!(
        first == fs::read(&pack).expect("the pack"),
        "the bytes differ"
    );
    let sheet = Image::from_png_file(&sheet).expect("the sheet");
    assert!(sheet.width() > 1000 && sheet.height() > 500);

    for size in ["1280x720", "640x360"] {
        let (live, baked) = (scratch.path("live.png"), scratch.path("baked.png"));
        output(&["demo", "--window", size, "--time", "2.5", "-o", &live]);
        output(&[
            "demo", "--window", size, "--time", "2.5", "-o", &baked, "--pack", &pack,
        ]);
        let read = |path: &str| Image::from_png_file(path).expect("a picture");
        assert!(read(&live) == read(&baked), "at {size}");
    }
    // A pack that was cut short is baked anew.
    scratch.file("ferry.kpack", &first[..first.len() / 2]);
    let refused = refusal(1, &["demo", "--pack", &pack, "-o", &scratch.path("x.png")]);
    assert!(
        refused.contains("ferry.kpack") && refused.contains("bake it again"),
        "{refused}"
    );
    output(&["bake", &manifest]);
    assert!(
        first == fs::read(&pack).expect("the pack"),
        "the bytes differ"
    );
}

#[test]
fn the_json_form_keeps_the_pictures_that_it_names() {
    let scratch = Scratch::new();
    let manifest = ferry(&scratch, "ferry.json");
    output(&["bake", &manifest]);
    let pictures = || -> Vec<PathBuf> {
        let names = scratch.names().into_iter();
        names
            .filter(|name| name.extension() == Some(OsStr::new("png")))
            .collect()
    };
    let first = pictures();
    assert_eq!(first.len(), 2, "{first:?}");
    let json = fs::read_to_string(scratch.path("ferry.json")).expect("the JSON");
    for name in &first {
        assert!(json.contains(name.to_str().expect("UTF-8")), "{name:?}");
    }
    assert!(output(&["bake", &manifest]).contains("nothing has changed"));
    // A page that is gone is made again; one that is no longer named goes.
    fs::remove_file(scratch.0.path().join(&first[0])).expect("a file");
    let lantern = concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/demo/ferry/sprites/lantern.png"
    );
    let text = fs::read_to_string(&manifest).expect("the manifest");
    let more = format!("{text}[[sprites]]\nfile = '{lantern}'\nname = 'lamp'\ndensity = 2\n");
    fs::write(&manifest, more).expect("the manifest");
    output(&["bake", &manifest]);
    let second = pictures();
    assert_eq!(second.len(), 2, "{second:?}");
    assert_ne!(first, second);
}

#[test]
fn a_bake_that_fails_leaves_what_was_there() {
    let scratch = Scratch::new();
    let manifest = ferry(&scratch, "ferry.kpack");
    let pack = scratch.file("ferry.kpack", b"earlier");
    let text = fs::read_to_string(&manifest).expect("the manifest");
    scratch.file("broken.png", b"no picture");
    fs::write(
        &manifest,
        format!("{text}[[sprites]]\nfile = 'broken.png'\n"),
    )
    .expect("the manifest");
    let refused = refusal(1, &["bake", &manifest]);
    assert!(
        refused.contains("m.toml, line 4") && refused.contains("broken.png"),
        "{refused}"
    );
    assert_eq!(fs::read(&pack).expect("the pack"), b"earlier");
    let gone = ferry(&scratch, "gone/ferry.kpack");
    assert!(refusal(1, &["bake", &gone]).contains("create it first"));
    assert!(refusal(1, &["bake", "gone.toml"]).contains("“gone.toml”"));
    assert!(refusal(2, &["bake", &manifest, "--threads", "0"]).contains("1..=256"));
}

#[test]
fn a_text_in_a_box_is_measured_and_shown() {
    let scratch = Scratch::new();
    let text = "The night ferry crosses a chain of foggy lakes";
    let boxed = [
        "measure", LATO, "--size", "16", "--width", "120", text, "--json",
    ];
    let report: serde_json::Value = serde_json::from_str(&output(&boxed)).expect("JSON");
    let lines = report["lines"].as_array().expect("lines");
    assert!(lines.len() > 2, "{lines:?}");
    assert_eq!(
        (&report["fits"], &report["truncated_at"]),
        (&true.into(), &serde_json::Value::Null)
    );
    let clusters = report["clusters"].as_array().expect("clusters");
    assert_eq!(clusters.len(), text.len());
    assert_eq!(clusters[0]["caret"], 0.0);
    let one_line = [&boxed[..], &["--max-lines", "1", "--overflow", "ellipsis"]].concat();
    let report: serde_json::Value = serde_json::from_str(&output(&one_line)).expect("JSON");
    assert_eq!(report["lines"].as_array().map(Vec::len), Some(1));
    assert!(
        report["truncated_at"]
            .as_u64()
            .is_some_and(|byte| byte < text.len() as u64)
    );

    let picture = |more: &[&str]| {
        let path = scratch.path("box.png");
        let args = [
            "render", LATO, "--size", "16", "--width", "120", text, "-o", &path,
        ];
        output(&[&args[..], more].concat());
        Image::from_png_file(&path).expect("a picture")
    };
    let plain = picture(&[]);
    let boxes = picture(&["--boxes"]);
    assert_eq!(
        (plain.width(), plain.height()),
        (boxes.width(), boxes.height())
    );
    // The block's corner is at the padding of 8; only with boxes is a line there.
    assert_ne!(plain.pixel(8, 8), boxes.pixel(8, 8));
    // Clipped, nothing is drawn below the block.
    let clipped = picture(&["--height", "30", "--overflow", "clip"]);
    assert_eq!(clipped.height(), 46);
    let background = clipped.pixel(0, 0);
    assert!((0..clipped.width()).all(|x| clipped.pixel(x, 39) == background));
    let refused = refusal(
        2,
        &["measure", LATO, "--size", "9", "x", "--feature", "toolong"],
    );
    assert!(refused.contains("salt=2"), "{refused}");
}

/// A style file with its picture.
fn style_file(scratch: &Scratch) -> String {
    let red = Image::new(8, 4, [255, 0, 0, 255].repeat(32)).expect("a picture");
    scratch.file("lamp.png", &red.to_png().expect("a PNG"));
    let text = "marks = [\"pause\"]
[styles.loud]
scale = 2
[styles.key]
plate = { color = \"#102030\", padding = 3 }
[styles.gone]
line-through = true
[sprites.lamp]
picture = \"lamp.png\"
height = 10
align = \"baseline\"
";
    scratch.file("styles.toml", text.as_bytes())
}

#[test]
fn a_style_file_gives_names_to_what_stands_in_a_text() {
    let scratch = Scratch::new();
    let styles = style_file(&scratch);
    let text = "A@loud{B}@@@pause(0.4)@key{E}@gone{F}@icon(lamp)";
    let args = [LATO, "--size", "20", "--styles", &styles, text];
    let printed = output(&[&["measure", "--json"], &args[..]].concat());
    let json: serde_json::Value = serde_json::from_str(&printed).expect("JSON");
    assert_eq!(json["text"], "AB@EF\u{fffc}");
    let glyphs = json["glyphs"].as_array().expect("a list");
    let sizes: Vec<_> = glyphs.iter().map(|glyph| &glyph["size"]).collect();
    assert_eq!(sizes, [20.0, 40.0, 20.0, 20.0, 20.0]);
    let number = |value: &serde_json::Value| value.as_f64().expect("a number");
    // The plate reaches three pixels before its letter.
    let plate = &json["plates"][0];
    assert_eq!(plate["color"], "#102030");
    assert!((number(&glyphs[3]["x"]) - number(&plate["x"]) - 3.0).abs() < 1e-3);
    assert_eq!(json["line_throughs"].as_array().map(Vec::len), Some(1));
    // Twice as wide as high, as it was drawn, and on the baseline.
    let sprite = &json["sprites"][0];
    assert_eq!(
        (&sprite["name"], number(&sprite["width"])),
        (&"lamp".into(), 20.0)
    );
    let baseline = number(&json["lines"][0]["baseline"]);
    assert!((number(&sprite["y"]) + 10.0 - baseline).abs() < 1e-3);
    let path = scratch.path("out.png");
    output(&[&["render", "-o", &path], &args[..]].concat());
    let image = Image::from_png_file(&path).expect("a PNG");
    // The picture begins 8 pixels before the block.
    let middle = [number(&sprite["x"]) + 18.0, number(&sprite["y"]) + 13.0];
    let found = image.pixel(middle[0] as u32, middle[1] as u32);
    assert_eq!(found, Some([255, 0, 0, 255]));
}

#[test]
fn what_is_wrong_with_names_is_told_by_line() {
    let scratch = Scratch::new();
    let styles = style_file(&scratch);
    let said = |styles: &str, text: &str| {
        refusal(
            1,
            &["measure", LATO, "--size", "20", "--styles", styles, text],
        )
    };
    let markup = said(&styles, "a\n b@lowd{c}");
    assert!(markup.contains("line 2, column 3") && markup.contains("“loud”"));
    assert!(said(&styles, "@loud{a").contains("line 1, column 6"));
    assert!(said(&styles, "@icon(lmap)").contains("“lamp”"));
    let file = |text: &str| said(&scratch.file("other.toml", text.as_bytes()), "a");
    let cases = [
        ("\n[styles.a]\ncolour = \"red\"", "line 3", "“color”"),
        ("[styles.a]\ncolor = \"rde\"", "line 2", "“rde”"),
        ("[styles.a]\nscale = 0", "line 2", "above 0"),
        ("[styles.a]\nface = \"none.ttf\"", "line 2", "none.ttf"),
        (
            "[sprites.a]\npicture = \"none.png\"\nheight = 2",
            "line 2",
            "none.png",
        ),
        (
            "[sprites.a]\npicture = \"lamp.png\"\nheight = nan",
            "line 3",
            "above 0",
        ),
        ("[styles.a", "line 1", "other.toml"),
    ];
    for (text, line, what) in cases {
        let said = file(text);
        assert!(said.contains(line) && said.contains(what), "{said}");
    }
    assert!(said(&scratch.path("no.toml"), "a").contains("no.toml"));
}

#[cfg(unix)]
#[test]
fn output_goes_through_links_and_to_what_is_no_file() {
    let scratch = Scratch::new();
    let (link, target) = (scratch.path("link.png"), scratch.path("real.png"));
    std::os::unix::fs::symlink("real.png", &link).expect("a link");
    let render = |to: &str| output(&["render", LATO, "--size", "20", "Fog", "-o", to]);
    render(&link);
    assert!(Path::new(&link).is_symlink() && Image::from_png_file(&target).is_ok());
    // A device stays one.
    let before = fs::metadata("/dev/null").expect("a device").file_type();
    render("/dev/null");
    assert_eq!(
        fs::metadata("/dev/null").expect("a device").file_type(),
        before
    );
    // In a circle there is nothing to write to.
    std::os::unix::fs::symlink("b.png", scratch.path("a.png")).expect("a link");
    std::os::unix::fs::symlink("a.png", scratch.path("b.png")).expect("a link");
    let said = refusal(
        1,
        &[
            "render",
            LATO,
            "--size",
            "20",
            "Fog",
            "-o",
            &scratch.path("a.png"),
        ],
    );
    assert!(said.contains("circle"), "{said}");
}

#[test]
fn bad_usage_is_told_by_what_is_accepted() {
    let said = |args: &[&str]| refusal(2, args);
    let wide = said(&["measure", LATO, "--size", "9", "a", "--shrink-to", "2"]);
    assert!(wide.contains("above 0 and at most 1"), "{wide}");
    let long = said(&[
        "measure", LATO, "--size", "9", "1", "--number", "en", "--digits", "60",
    ]);
    assert!(long.contains("0..=40"), "{long}");
    let form = said(&["render", LATO, "--size", "9", "a", "-o", "x.jpg"]);
    assert!(form.contains("end its name in .png"), "{form}");
    let many = said(&[&["proof"][..], &[LATO; 7]].concat());
    assert!(many.contains("at most six"), "{many}");
}

#[test]
fn a_font_comes_from_standard_input_and_a_foreign_pack_is_named() {
    let mut command = kerno(&["measure", "-", "--size", "20", "Fog"]);
    command
        .write_stdin(fs::read(LATO).expect("a font"))
        .assert()
        .success();
    let scratch = Scratch::new();
    let manifest = format!(
        "[faces]\ntext = {{ file = '{LATO}' }}\n[charsets.a]\ntext = 'Fog'\n\
         [[strikes]]\nface = 'text'\nsizes = [16]\ncharsets = ['a']\n"
    );
    let manifest = scratch.file("a.toml", manifest.as_bytes());
    output(&["bake", &manifest]);
    let said = refusal(1, &["demo", "--pack", &scratch.path("a.kpack")]);
    assert!(
        said.contains("a.kpack") && said.contains("is not the demo's"),
        "{said}"
    );
}

const HUD: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/hud.toml");

#[test]
fn a_screen_is_rendered_with_values_in_windows_and_languages() {
    let scratch = Scratch::new();
    let path = scratch.path("hud.png");
    let drawn = |more: &[&str]| {
        output(&[&["render", HUD, "-o", &path], more].concat());
        Image::from_png_file(&path).expect("a PNG")
    };
    let plain = drawn(&[]);
    assert_eq!((plain.width(), plain.height()), (1280, 720));
    let values = scratch.file("values.json", br#"{ "fares": 12, "foggy": false }"#);
    let by_file = drawn(&["--values", &values]);
    assert_ne!(by_file.pixels(), plain.pixels());
    let by_hand = drawn(&["--set", "fares=12", "--set", "foggy=no"]);
    assert_eq!(by_hand.pixels(), by_file.pixels());
    // Two windows in each of three languages.
    let sheet = drawn(&[
        "--language",
        "all",
        "--window",
        "320x180",
        "--window",
        "400x180",
    ]);
    assert!(
        sheet.width() > 400 + 320 && sheet.height() > 2 * 180,
        "{}",
        sheet.height()
    );
    assert_ne!(drawn(&["--boxes"]).pixels(), plain.pixels());

    let refused = |more: &[&str]| refusal(1, &[&["render", HUD, "-o", &path], more].concat());
    assert!(refused(&["--set", "fare=3"]).contains("did you mean “fares”"));
    assert!(refused(&["--set", "fares=many"]).contains("“many” is none"));
    assert!(refused(&["--language", "fr"]).contains("there are de, en, he"));
    let broken = scratch.file("broken.toml", b"design = [1, 1]\n\n[[elements]]\nnme = 3\n");
    let said = refusal(1, &["render", &broken, "-o", &path]);
    assert!(
        said.contains("line 4") && said.contains("did you mean “name”"),
        "{said}"
    );
    assert!(output(&["render", HUD, "--help"]).contains("kerno render"));
}

#[test]
fn a_check_says_where_and_its_exit_code_counts() {
    let fine = output(&["check", HUD]);
    assert!(fine.contains("nothing found"), "{fine}");
    let scratch = Scratch::new();
    let screen = b"design = [320, 180]\n[values]\noil = { start = 1 }\n[[elements]]\nname = \"plate\"\nrect = { fill = \"#fff\" }\nwidth = 400\nheight = 9\n";
    let path = scratch.file("odd.toml", screen);
    let check = |more: &[&str]| {
        let done = kerno(&[&["check", &path], more].concat()).assert().code(1);
        String::from_utf8(done.get_output().stdout.clone()).expect("UTF-8")
    };
    let said = check(&["--window", "640x360"]);
    assert!(
        said.contains("odd.toml, line 4: out-of-window: “plate”"),
        "{said}"
    );
    assert!(
        said.contains("80.0 px out") && said.contains("unused-value: “oil”"),
        "{said}"
    );
    let json: serde_json::Value = serde_json::from_str(&check(&["--json"])).expect("JSON");
    let findings = json["findings"].as_array().expect("a list");
    assert_eq!(findings.len(), 2);
    assert_eq!(
        findings[0]["worst"]["window"].as_array().map(Vec::len),
        Some(2)
    );
    let folder = scratch.path("");
    check(&["--pictures", &folder]);
    let picture = Image::from_png_file(format!("{folder}/odd.plate.out-of-window.png"));
    assert!(picture.is_ok());
}

const SCENE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/crossing.toml");

#[test]
fn a_scene_is_played_as_text_pictures_and_subtitles() {
    let said = output(&["play", SCENE, "--choose", "2"]);
    assert!(
        said.contains("Bram Tansy") && said.contains("chosen    • Raise the lantern"),
        "{said}"
    );
    assert!(!said.contains("One stroke"), "that was the first answer");
    let json: serde_json::Value =
        serde_json::from_str(&output(&["play", SCENE, "--json"])).expect("JSON");
    let lines = json["lines"].as_array().expect("lines");
    assert_eq!(lines.len(), 6);
    assert_eq!(lines[0]["speaker"], serde_json::Value::Null);
    // Thirty letters a second, a rest of half a second and two of the pace.
    let first = &lines[0]["pages"][0];
    let letters = first["text"].as_str().expect("words").chars().count() as f64;
    let seconds = letters / 30.0 + 0.5 + 0.4 + 0.15;
    assert!(
        (first["full"].as_f64().expect("seconds") - seconds).abs() < 0.02,
        "{first}"
    );
    assert!(
        lines[4]["cues"]
            .as_array()
            .is_some_and(|cues| cues.len() == 2)
    );
    let scratch = Scratch::new();
    let (vtt, srt) = (scratch.path("a.vtt"), scratch.path("a.srt"));
    output(&["play", SCENE, "--subtitles", &vtt]);
    output(&["play", SCENE, "--subtitles", &srt, "--language", "de"]);
    let vtt = fs::read_to_string(vtt).expect("subtitles");
    assert!(
        vtt.starts_with("WEBVTT\n\n1\n00:00:00.000 --> 00:00:0"),
        "{vtt}"
    );
    assert!(vtt.contains("<v Odelle Marsh>“Keep that lamp high"));
    let srt = fs::read_to_string(srt).expect("subtitles");
    assert!(srt.starts_with("1\n00:00:00,000 --> ") && srt.contains("Odelle Marsh: „Haltet"));
    let (moving, board) = (scratch.path("a.png"), scratch.path("b.png"));
    output(&[
        "play",
        SCENE,
        "-o",
        &moving,
        "--to",
        "2",
        "--window",
        "320x180",
        "--progress-bar",
    ]);
    let bytes = fs::read(&moving).expect("a PNG");
    let has = |chunk: &[u8]| bytes.windows(4).any(|part| part == chunk);
    assert!(
        has(b"acTL") && has(b"fcTL") && has(b"fdAT"),
        "it is animated"
    );
    assert!(Image::from_png_file(&moving).is_ok_and(|image| image.width() == 320));
    output(&["play", SCENE, "--storyboard", &board, "--window", "320x180"]);
    // Seven panels, three in a row, each 320 wide with space between.
    assert!(Image::from_png_file(&board).is_ok_and(|image| image.width() == 3 * 344 + 24));
    let frames = scratch.path("frames");
    output(&[
        "play",
        SCENE,
        "--frames",
        &frames,
        "--to",
        "1",
        "--frame-rate",
        "5",
    ]);
    assert_eq!(fs::read_dir(frames).expect("a folder").count(), 6);
    let refused = |more: &[&str]| refusal(1, &[&["play", SCENE], more].concat());
    assert!(refused(&["--subtitles", "a.txt"]).contains("WebVTT or SubRip"));
    assert!(refused(&["--choose", "9"]).contains("no answer 9"));
    assert!(refused(&["--set", "fares=many"]).contains("is a number"));
    assert!(refused(&["--language", "fr"]).contains("there are de, en, he"));
    assert!(refusal(1, &["play", HUD]).contains("line "));
}

#[test]
fn a_check_reads_scenes() {
    assert!(output(&["check", SCENE, HUD]).contains("crossing.toml: nothing found"));
    let scratch = Scratch::new();
    let styles = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry/hud_styles.toml");
    let words = "word after word ".repeat(60);
    let scene = format!("styles = {styles:?}\nstyle = \"line\"\n[[lines]]\ntext = \"{words}\"\n");
    let path = scratch.file("long.toml", scene.as_bytes());
    let done = kerno(&["check", &path]).assert().code(1);
    let said = String::from_utf8(done.get_output().stdout.clone()).expect("UTF-8");
    assert!(
        said.contains("long.toml, line 3: too-many-pages: it takes"),
        "{said}"
    );
    assert!(output(&["check", &path, "--pages", "20"]).contains("nothing found"));
}

#[cfg(not(feature = "view"))]
#[test]
fn a_build_without_windows_says_how_to_build_one_with_them() {
    let output = kerno(&["view", "hud.toml"]).output().expect("it runs");
    assert_eq!(output.status.code(), Some(2));
    let message = String::from_utf8_lossy(&output.stderr);
    assert!(message.contains("--features view"), "{message}");
}
