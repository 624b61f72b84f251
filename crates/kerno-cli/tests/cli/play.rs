//! Scenes as the command plays and checks them: times, subtitles, faces, and what is wrong in them.

use std::fs;

use kerno::base::Image;
use serde_json::Value;

use crate::{LATO, Scratch, kerno, output, refusal};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

/// A scene in a folder of its own, with a style file.
fn scene(scratch: &Scratch, text: &str) -> String {
    let styles = format!("[faces]\ntext = '{LATO}'\n[styles.line]\nface = 'text'\nsize = 15\n");
    scratch.file("styles.toml", styles.as_bytes());
    let scene = format!("styles = 'styles.toml'\nstyle = 'line'\n{text}");
    scratch.file("scene.toml", scene.as_bytes())
}

fn json(args: &[&str]) -> Value {
    serde_json::from_str(&output(args)).expect("JSON")
}

/// What a check finds, and the JSON of it.
fn findings(args: &[&str]) -> Vec<(String, String)> {
    let args = [&["check", "--json"], args].concat();
    let done = kerno(&args).assert().code(1);
    let value: Value = serde_json::from_slice(&done.get_output().stdout).expect("JSON");
    let list = value["findings"].as_array().expect("a list").iter();
    list.map(|found| (found["finding"].to_string(), found.to_string()))
        .collect()
}

#[test]
fn times_do_not_depend_on_how_many_pictures_there_are() {
    let path = format!("{FERRY}/crossing.toml");
    let lines = json(&["play", &path, "--json"])["lines"].clone();
    let last = lines
        .as_array()
        .and_then(|lines| lines.last())
        .expect("a line");
    let pages = last["pages"].as_array().expect("pages");
    let end = pages.last().expect("a page")["end"]
        .as_f64()
        .expect("seconds");
    let scratch = Scratch::new();
    for rate in [2, 7, 20] {
        let folder = scratch.path(&format!("at-{rate}"));
        let rate_word = rate.to_string();
        let more = ["--frame-rate", &rate_word, "--window", "32x18"];
        output(&[&["play", &path, "--frames", &folder], &more[..]].concat());
        // The first picture is that of no time, the last one the first at the end or after it.
        let expected = (end * f64::from(rate) - 1e-6).ceil() as usize + 1;
        let count = fs::read_dir(&folder).expect("a folder").count();
        assert!(
            count.abs_diff(expected) <= 1,
            "{rate}: {count}, not {expected}"
        );
    }
}

#[test]
fn pictures_do_not_begin_after_the_end() {
    let path = format!("{FERRY}/crossing.toml");
    let scratch = Scratch::new();
    let picture = scratch.path("a.png");
    let said = refusal(2, &["play", &path, "--from", "599", "-o", &picture]);
    assert!(said.contains("the scene ends at"), "{said}");
    assert!(!std::path::Path::new(&picture).exists());
}

#[test]
fn subtitles_hold_what_their_format_has_words_for() {
    let scratch = Scratch::new();
    let path = scene(
        &scratch,
        "[speakers.both]\nname = 'Marsh & <Sons>'\n[[lines]]\nspeaker = 'both'\n\
         text = \"a < b --> c & d\\nand on\"\n[[lines]]\ncue = 'bell'\n\
         [[lines]]\ntext = '@wait'\n[[lines]]\ntext = 'Over.'\n",
    );
    let text = fs::read_to_string(&path).expect("a file");
    fs::write(&path, text.replace("style =", "cues = ['bell']\nstyle =")).expect("a file");
    let (vtt, srt) = (scratch.path("a.vtt"), scratch.path("a.srt"));
    output(&["play", &path, "--subtitles", &vtt]);
    output(&["play", &path, "--subtitles", &srt]);
    let vtt = fs::read_to_string(vtt).expect("subtitles");
    // WebVTT, “cue text”: `&`, `<` and `>` are escaped, and no payload has an arrow or a blank line.
    assert!(
        vtt.contains("<v Marsh &amp; &lt;Sons&gt;>a &lt; b --&gt; c &amp; d\nand on\n"),
        "{vtt}"
    );
    let arrows = vtt.lines().filter(|line| line.contains("-->")).count();
    assert_eq!(arrows, 2, "two cues that say something: {vtt}");
    let srt = fs::read_to_string(srt).expect("subtitles");
    let cues: Vec<&str> = srt.trim().split("\n\n").collect();
    assert_eq!(cues.len(), 2, "{srt}");
    assert!(
        cues[0].starts_with("1\n") && cues[1].starts_with("2\n"),
        "{srt}"
    );
    assert!(cues[1].ends_with("\nOver."), "{srt}");
}

#[test]
fn a_check_tells_all_that_can_t_be_read_with_its_place() {
    let scratch = Scratch::new();
    let path = scene(
        &scratch,
        "[values]\ncount = { start = 2, range = [0, 9] }\n\
         [[lines]]\ntext = 'Keep @goldd{that} lamp high.'\n\
         [[lines]]\ntext = 'The fog @wave{has teeth.'\n",
    );
    let found = findings(&[&path]);
    let lines: Vec<&String> = found.iter().map(|(_, all)| all).collect();
    assert_eq!(found.len(), 2, "{lines:?}");
    for (at, (kind, all)) in found.iter().enumerate() {
        assert_eq!(kind, "\"unreadable-text\"");
        assert!(
            all.contains(&format!("line {}", [5, 7][at])) && all.contains("column"),
            "{all}"
        );
    }
    // So are those of a screen, in all forms and languages.
    fs::create_dir(scratch.path("tables")).expect("a folder");
    let table = |text: &str| format!("[texts.seen]\nplural = 'stars'\n{text}");
    scratch.file(
        "tables/en.toml",
        table("one = '@a{star}'\nother = '@b{stars}'\n").as_bytes(),
    );
    scratch.file(
        "tables/de.toml",
        table("one = 'Stern'\nother = '@c{Sterne}'\n").as_bytes(),
    );
    let screen = scratch.file(
        "screen.toml",
        b"design = [320, 180]\nstyles = 'styles.toml'\nstrings = 'tables'\nlanguage = 'en'\n\
          [values]\nstars = { start = 2 }\n\
          [[elements]]\nname = 'seen'\nstring = 'seen'\nstyle = 'line'\n\
          [[elements]]\nname = 'said'\ntext = '@d{Row.}'\nstyle = 'line'\n",
    );
    let found = findings(&[&screen]);
    let names = ["“a”", "“b”", "“d”", "“c”"];
    assert_eq!(found.len(), names.len(), "{found:?}");
    for (name, (kind, all)) in names.iter().zip(&found) {
        assert_eq!(kind, "\"unreadable\"");
        assert!(all.contains(name) && all.contains("line"), "{all}");
    }
    // Nor do texts hide what else is wrong, or one without a style the next.
    let text = fs::read_to_string(&screen).expect("a file");
    let text = text.replace(
        "string = 'seen'\nstyle = 'line'",
        "string = 'seen'\nstyle = 'lin'",
    );
    let more = "[[elements]]\nname = 'sail'\nsprite = 'sail'\nbox = 'none'\n";
    let worse = scratch.file("worse.toml", text.as_bytes());
    let found = findings(&[&worse]);
    let all = |word: &str| found.iter().filter(|found| found.1.contains(word)).count();
    assert_eq!((all("“lin”"), all("“d”")), (2, 1), "{found:?}");
    let sail = text.replace(
        "[[elements]]\nname = 'seen'",
        &format!("{more}[[elements]]\nname = 'seen'"),
    );
    let found = findings(&[&scratch.file("sail.toml", sail.as_bytes())]);
    assert!(found[0].1.contains("box"), "{found:?}");
    let found =
        findings(&[&scratch.file("sail.toml", sail.replace("box = 'none'\n", "").as_bytes())]);
    let all = |word: &str| found.iter().filter(|found| found.1.contains(word)).count();
    assert_eq!((all("“sail”"), all("“d”")), (1, 1), "{found:?}");
    // A file that is none is a finding beside those of the others.
    let broken = scratch.file("broken.toml", b"lines = [");
    let found = findings(&[&broken, &path]);
    assert_eq!(found.len(), 3, "{found:?}");
    assert!(found[0].1.contains("broken.toml"));
    let found = findings(&[&format!("{FERRY}/crossing.toml"), "--language", "xx"]);
    assert!(found[0].1.contains("there are de, en, he"), "{found:?}");
}

#[test]
fn forms_that_are_not_chosen_are_read_in_all_languages() {
    let scratch = Scratch::new();
    let path = scene(
        &scratch,
        "strings = 'tables'\nlanguage = 'en'\n[values]\nstars = { start = 5, range = [0, 9] }\n\
         [[lines]]\nstring = 'seen'\n",
    );
    fs::create_dir(scratch.path("tables")).expect("a folder");
    scratch.file(
        "tables/en.toml",
        b"[texts.seen]\nplural = 'stars'\none = 'A star.'\nother = '@value(stars) stars.'\n",
    );
    let german = "[texts.seen]\nplural = 'stars'\none = 'Ein @ambr{Stern}.'\nother = '@value(stars) Sterne.'\n";
    scratch.file("tables/de.toml", german.as_bytes());
    let found = findings(&[&path]);
    assert_eq!(found.len(), 1, "{found:?}");
    assert!(
        found[0].1.contains("ambr") && found[0].1.contains("de.toml"),
        "{found:?}"
    );
}

#[test]
fn the_default_box_is_in_the_language_of_its_line() {
    let scratch = Scratch::new();
    let path = scene(
        &scratch,
        "strings = 'tables'\nlanguage = 'en'\n[speakers.bram]\nstring = 'bram'\n\
         [[lines]]\nspeaker = 'bram'\nstring = 'said'\n",
    );
    fs::create_dir(scratch.path("tables")).expect("a folder");
    scratch.file("tables/en.toml", b"[texts]\nbram = 'Bram'\nsaid = 'Row.'\n");
    scratch.file(
        "tables/he.toml",
        b"direction = 'right-to-left'\n[texts]\nbram = 'Bram'\nsaid = 'Row.'\n",
    );
    let shot = |language: &str| {
        let file = scratch.path(&format!("{language}.png"));
        let more = [
            "--window",
            "320x180",
            "--at-once",
            "--from",
            "0.1",
            "--to",
            "0.1",
        ];
        let folder = scratch.path(language);
        output(
            &[
                &["play", &path, "--frames", &folder, "--language", language],
                &more[..],
            ]
            .concat(),
        );
        let first = fs::read_dir(&folder)
            .expect("a folder")
            .next()
            .expect("a picture");
        fs::copy(first.expect("a file").path(), &file).expect("a copy");
        Image::from_png_file(&file).expect("a PNG")
    };
    let (left, right) = (shot("en"), shot("he"));
    // The words are the same, so where their light is tells the side that they begin at.
    let center = |image: &Image| {
        let (mut sum, mut all) = (0.0, 0.0);
        for y in 0..image.height() {
            for x in 0..image.width() {
                let [red, ..] = image.pixel(x, y).expect("a pixel");
                if red > 150 {
                    (sum, all) = (sum + f64::from(x), all + 1.0);
                }
            }
        }
        sum / all
    };
    assert!(center(&left) < 160.0, "{}", center(&left));
    assert!(center(&right) > 160.0, "{}", center(&right));
}

#[test]
fn scripts_that_are_not_shaped_are_told() {
    let word = "नमस्ते";
    let measured = json(&["measure", LATO, "--size", "16", word, "--json"]);
    assert_eq!(measured["unshaped"], serde_json::json!(["Devanagari"]));
    let plain = json(&["measure", LATO, "--size", "16", "שלום Fog", "--json"]);
    assert_eq!(plain["unshaped"], serde_json::json!([]));
    let scratch = Scratch::new();
    let picture = scratch.path("a.png");
    let said = output(&["render", LATO, "--size", "16", word, "-o", &picture]);
    assert!(said.contains("Devanagari"), "{said}");
    let path = scene(&scratch, &format!("[[lines]]\ntext = 'Fog, {word}'\n"));
    let found = findings(&[&path]);
    assert!(
        found
            .iter()
            .any(|(kind, all)| kind == "\"unshaped-script\"" && all.contains("Devanagari")),
        "{found:?}"
    );
}
