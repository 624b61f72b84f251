//! Manners of every command: reports for programs, quiet, pipes, names, a starter project.

use std::fs;

use kerno::base::Image;
use serde_json::Value;

use crate::{HUD, LATO, SCENE, Scratch, ferry, kerno, output, refusal};

fn json(args: &[&str]) -> Value {
    serde_json::from_str(&output(&[args, &["--json"]].concat())).expect("JSON")
}

#[test]
fn every_report_is_there_as_json() {
    let scratch = Scratch::new();
    let png = scratch.path("a.png");
    let font = json(&["inspect", LATO]);
    assert_eq!(font["units_per_em"], 2000);
    assert_eq!(font["names"]["family"], "Lato Medium");
    assert_eq!(font["metrics"]["fixed_pitch"], false);
    let tables = font["tables"].as_array().expect("tables");
    assert!(tables.iter().any(|table| table["table"] == "glyf"));
    let blocks = font["blocks"].as_array().expect("blocks");
    assert_eq!(blocks[0]["block"], "Basic Latin");
    assert!(blocks[0]["has"].as_u64() >= Some(95));

    // Numbers have the digits of 32 bits, not those of the nearest 64.
    let text = output(&["measure", LATO, "Fog", "--size", "14.1", "--json"]);
    assert!(text.contains("\"size\": 14.1,"), "{text}");

    let folder = LATO.replace("/Lato-Medium.ttf", "");
    let fonts = json(&["fonts", "--folder", &folder, "lato"]);
    assert_eq!(fonts["fonts"][0]["weight"], 500);

    let demo = json(&["demo", "-o", &png, "--window", "320x180"]);
    assert_eq!((&demo["width"], &demo["batches"]), (&320.into(), &1.into()));
    assert_eq!(demo["files"][0], Value::from(png.as_str()));
    let drawn = json(&["render", LATO, "Fog", "--size", "20", "-o", &png]);
    let picture = Image::from_png_file(&png).expect("a PNG");
    assert_eq!(drawn["width"], picture.width());
    // Options of all commands may come before the command's name as well.
    let screen = output(&["--json", "render", HUD, "-o", &png]);
    let screen: Value = serde_json::from_str(&screen).expect("JSON");
    assert_eq!(screen["height"], 720);
    let proof = json(&["proof", LATO, "-o", &png]);
    assert_eq!(proof["files"][0], Value::from(png.as_str()));
    let bdf = scratch.path("a.bdf");
    let converted = json(&[
        "convert",
        LATO,
        "--size",
        "12",
        "--characters",
        "Fog",
        "-o",
        &bdf,
    ]);
    assert_eq!(converted["characters"], 3);
    let bake = json(&["bake", &ferry(&scratch, "ferry.kpack"), "--report"]);
    let pages: u64 = bake["pages"]
        .as_array()
        .expect("pages")
        .iter()
        .filter_map(|page| page["bytes"].as_u64())
        .sum();
    assert_eq!(bake["texture_bytes"], pages);
    assert_eq!(json(&["check", HUD])["findings"], Value::Array(Vec::new()));
    assert!(json(&["play", SCENE])["seconds"].as_f64() > Some(10.0));
}

#[test]
fn quiet_prints_what_was_asked_for_alone() {
    let scratch = Scratch::new();
    let png = scratch.path("a.png");
    let text = ["render", LATO, "Fog", "--size", "20", "-o", &png];
    assert_eq!(output(&[&text[..], &["--quiet"]].concat()), "");
    assert!(Image::from_png_file(&png).is_ok());
    assert!(output(&["-q", "inspect", LATO]).contains("2000 per em"));
    let both = refusal(2, &["inspect", LATO, "--quiet", "--verbose"]);
    assert!(both.contains("--verbose"), "{both}");
    let told = kerno(&["inspect", LATO, "--verbose"])
        .output()
        .expect("it runs");
    let told = String::from_utf8(told.stderr).expect("UTF-8");
    assert!(
        told.contains("open_font") && told.contains("done in"),
        "{told}"
    );
}

#[test]
fn files_go_through_pipes() {
    let mut render = kerno(&["render", LATO, "-", "--size", "20", "-o", "-"]);
    let done = render
        .write_stdin("Heron Steps\n")
        .output()
        .expect("it runs");
    let piped = Image::from_png(&done.stdout).expect("a PNG and nothing else");
    let told = String::from_utf8(done.stderr).expect("UTF-8");
    assert!(told.contains("pixels"), "{told}");
    let scratch = Scratch::new();
    let png = scratch.path("a.png");
    output(&["render", LATO, "Heron Steps", "--size", "20", "-o", &png]);
    assert_eq!(Image::from_png_file(&png).expect("a PNG"), piped);

    for values in [r#"{ "fares": 12 }"#, "fares = 12"] {
        let mut render = kerno(&["render", HUD, "--values", "-", "-o", &png]);
        render.write_stdin(values).assert().success();
        let mut play = kerno(&["play", SCENE, "--values", "-", "--storyboard", &png]);
        play.write_stdin(values).assert().success();
    }
    let said = refusal(2, &["check", "-"]);
    assert!(said.contains("give its path"), "{said}");
}

#[test]
fn colors_are_for_terminals() {
    let scratch = Scratch::new();
    let screen =
        b"design = [9, 9]\n[[elements]]\nname = \"a\"\nrect = {}\nwidth = 40\nheight = 9\n";
    let path = scratch.file("odd.toml", screen);
    for more in [
        &[][..],
        &[("CLICOLOR_FORCE", "1")],
        &[("CLICOLOR_FORCE", "1"), ("NO_COLOR", "1")],
    ] {
        let done = kerno(&["check", &path]).envs(more.iter().copied()).output();
        let done = done.expect("it runs");
        let is_colored = |bytes: &[u8]| bytes.contains(&0x1b);
        let forced = more.len() == 1;
        assert_eq!(is_colored(&done.stdout), forced, "{more:?}");
        assert_eq!(is_colored(&done.stderr), forced, "{more:?}");
    }
}

#[test]
fn shells_and_manuals_know_every_command() {
    for shell in ["bash", "zsh", "fish"] {
        let script = output(&["completions", shell]);
        assert!(script.contains("storyboard"), "{shell}");
    }
    let scratch = Scratch::new();
    output(&["man-pages", &scratch.path("")]);
    let page = fs::read_to_string(scratch.path("kerno-bake.1")).expect("a page");
    assert!(
        page.starts_with(".ie") && page.contains("manifest"),
        "{page}"
    );
    assert!(!scratch.path("kerno-render-screen.1").is_empty());
    assert!(!scratch.names().contains(&"kerno-render-screen.1".into()));
}

#[test]
fn a_misspelt_name_is_answered_with_the_near_one() {
    for (args, near) in [
        (vec!["messure", LATO], "measure"),
        (vec!["measure", LATO, "--siez", "9", "a"], "--size"),
        (
            vec!["measure", LATO, "--size", "9", "--wrap", "greddy", "a"],
            "greedy",
        ),
    ] {
        let said = refusal(2, &args);
        assert!(said.contains(near), "{said}");
    }
    let said = refusal(1, &["inspect", "No Such Family Anywhere"]);
    assert!(said.contains("no installed family has that name"), "{said}");
}

#[test]
fn a_starter_project_holds_at_any_size() {
    let scratch = Scratch::new();
    let folder = scratch.path("Lake Crossing");
    output(&["new", &folder]);
    let file = |name: &str| format!("{folder}/{name}");
    let manifest = fs::read_to_string(file("Cargo.toml")).expect("a manifest");
    let manifest: toml::Table = manifest.parse().expect("TOML");
    assert_eq!(manifest["package"]["name"].as_str(), Some("lake-crossing"));
    assert!(manifest["dependencies"].get("kerno").is_some());
    let (hud, scene) = (file("assets/hud.toml"), file("assets/scene.toml"));
    let said = output(&["check", &hud, &scene, "--language", "en-XA"]);
    assert_eq!(said.matches("nothing found").count(), 2, "{said}");
    output(&["bake", &file("assets/bake.toml")]);
    assert!(fs::exists(file("assets/game.kpack")).expect("a folder"));
    let said = refusal(1, &["new", &folder]);
    assert!(said.contains("not empty"), "{said}");
}

#[test]
fn a_long_text_is_measured_in_as_many_rows_as_one_reads() {
    let words = "Fog ".repeat(1500);
    let told = output(&["measure", LATO, "--size", "16", "--width", "30", &words]);
    assert!(told.contains("1500 lines"), "{}", &told[..300]);
    // Three letters and a space in each line, the space hanging.
    let glyphs = told
        .lines()
        .find(|line| line.ends_with("glyphs; --json has all"));
    assert_eq!(glyphs, Some("and 5000 more glyphs; --json has all"));
    assert!(told.contains("and 500 more lines; --json has all"));
    let args = [
        "measure", LATO, "--size", "16", "--width", "30", &words, "--json",
    ];
    let json: Value = serde_json::from_str(&output(&args)).expect("JSON");
    let count = |name: &str| json[name].as_array().expect("a list").len();
    assert_eq!((count("lines"), count("glyphs")), (1500, 6000));
}
