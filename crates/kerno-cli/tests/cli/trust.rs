//! Files of strangers: what is printed of them, what they may read, and what is never written over.

use std::fs;
use std::os::unix::fs::PermissionsExt;
use std::path::Path;
use std::process::Stdio;
use std::time::{Duration, SystemTime};

use crate::{LATO, Scratch, kerno, output, refusal};

/// A manifest with JSON as its output.
fn json_manifest(scratch: &Scratch, name: &str, words: &str) -> String {
    let text = format!(
        "[output]\nfile = '{name}.json'\n[faces]\ntext = {{ file = '{LATO}' }}\n\
         [charsets.a]\ntext = '{words}'\n[[strikes]]\nface = 'text'\nsizes = [16]\ncharsets = ['a']\n"
    );
    scratch.file(&format!("{name}.toml"), text.as_bytes())
}

/// The names of a folder's pictures.
fn pictures(scratch: &Scratch) -> Vec<String> {
    let names = scratch.names().into_iter();
    let names = names.map(|path| {
        path.file_name()
            .expect("a name")
            .to_string_lossy()
            .into_owned()
    });
    let mut names: Vec<String> = names.filter(|name| name.ends_with(".png")).collect();
    names.sort();
    names
}

/// Asserts that nothing in a text acts on a terminal but line ends.
fn assert_plain(text: &str) {
    let acts = |c: &char| {
        c.is_control() && *c != '\n' || ('\u{202a}'..='\u{202e}').contains(c) || *c == '\u{2066}'
    };
    assert_eq!(text.chars().find(acts), None, "{text:?}");
}

#[test]
fn a_bake_removes_its_own_pictures_and_no_others() {
    let scratch = Scratch::new();
    let manifest = json_manifest(&scratch, "out", "Fog");
    output(&["bake", &manifest]);
    let first = pictures(&scratch);
    // An earlier JSON that lists what it never made, and a picture that somebody has changed.
    let diary = scratch.file("diary.txt", b"of the ferryman");
    let odd = scratch.file("out-mask-7-0123456789abcdef.png", b"not its digest");
    let json = fs::read_to_string(scratch.path("out.json")).expect("a file");
    let lies = json.replace(&first[0], "diary.txt");
    scratch.file(
        "out.json",
        lies.replace("\"inputs\": \"", "\"inputs\": \"0").as_bytes(),
    );
    json_manifest(&scratch, "out", "Fog bell");
    output(&["bake", &manifest]);
    assert!(
        Path::new(&diary).exists() && Path::new(&odd).exists() && Path::new(&manifest).exists()
    );
    let second = pictures(&scratch);
    assert!(
        !second.contains(&first[0]),
        "its own of before is gone: {second:?}"
    );
    assert_eq!(second.len(), 2, "its page, and the odd one: {second:?}");
    // A picture that a killed bake left is of no JSON.
    let page = second
        .iter()
        .find(|name| !odd.ends_with(*name))
        .expect("a page");
    let bytes = fs::read(scratch.path(page)).expect("a page");
    let left = page.replace("out-mask-0", "out-mask-5");
    scratch.file(&left, &bytes);
    let other = left.replace("out-", "outer-");
    scratch.file(&other, &bytes);
    output(&["bake", &manifest, "--again"]);
    let third = pictures(&scratch);
    assert!(
        !third.contains(&left) && third.contains(&other) && third.contains(page),
        "{third:?}"
    );
}

#[test]
fn bakes_of_one_output_at_once_leave_one_that_is_whole() {
    let scratch = Scratch::new();
    let words = ["Fog", "Lamp oil", "Landing", "Heron", "Odelle"];
    let manifests: Vec<String> = (0..)
        .zip(words)
        .map(|(number, words)| {
            let text = fs::read_to_string(json_manifest(&scratch, "out", words)).expect("a file");
            scratch.file(&format!("out-{number}.toml"), text.as_bytes())
        })
        .collect();
    for _ in 0..3 {
        let start = |manifest: &String| {
            std::process::Command::new(assert_cmd::cargo::cargo_bin!("kerno"))
                .args(["bake", manifest, "--again", "--threads", "1"])
                .stdout(Stdio::null())
                .spawn()
                .expect("the command")
        };
        let running: Vec<_> = manifests.iter().map(start).collect();
        for mut running in running {
            assert!(running.wait().expect("an end").success());
        }
        let json = fs::read_to_string(scratch.path("out.json")).expect("a file");
        let json: serde_json::Value = serde_json::from_str(&json).expect("JSON");
        let pages = json["pages"].as_array().expect("pages");
        let named: Vec<&str> = pages
            .iter()
            .filter_map(|page| page["picture"].as_str())
            .collect();
        assert_eq!(
            pictures(&scratch),
            named,
            "each that it names, and no other"
        );
    }
    let others = scratch.names().into_iter();
    let others = others.filter(|path| path.to_string_lossy().contains(".kerno-"));
    assert_eq!(others.count(), 0, "no lock and no part stays");
}

#[test]
fn parallel_writers_of_one_picture_all_succeed() {
    let scratch = Scratch::new();
    let out = scratch.path("fog.png");
    let start = |_| {
        std::process::Command::new(assert_cmd::cargo::cargo_bin!("kerno"))
            .args(["render", LATO, "--size", "12", "Fog", "-o", &out])
            .stdout(Stdio::null())
            .spawn()
            .expect("the command")
    };
    for _ in 0..4 {
        let running: Vec<_> = (0..8).map(start).collect();
        for mut running in running {
            assert!(running.wait().expect("an end").success());
        }
    }
    assert_eq!(pictures(&scratch), ["fog.png"]);
    assert_eq!(scratch.names().len(), 1);
}

#[test]
fn unfinished_files_of_killed_calls_are_removed_and_strangers_are_not() {
    let scratch = Scratch::new();
    let out = scratch.path("fog.png");
    let draw = || output(&["render", LATO, "--size", "20", "Fog", "-o", &out]);
    let strange = scratch.file(".fog.png.1a2b.part", b"somebody's own");
    // The name of a part is found by catching one: its writer can't finish.
    let folder = scratch.path("caught");
    fs::create_dir(&folder).expect("a folder");
    draw();
    let prefix = {
        use std::hash::{DefaultHasher, Hash, Hasher};
        let mut hasher = DefaultHasher::new();
        Some(std::ffi::OsStr::new("fog.png")).hash(&mut hasher);
        format!(".kerno-{:016x}-", hasher.finish())
    };
    let part = |name: &str, age: u64| {
        let path = scratch.file(&format!("{prefix}{name}.part"), b"half");
        let file = fs::File::options().write(true).open(&path).expect("a file");
        let then = SystemTime::now() - Duration::from_secs(age);
        file.set_modified(then).expect("a time");
        (path, file)
    };
    let (old, _) = part("old", 120);
    let (fresh, _) = part("fresh", 2);
    let (busy, held) = part("busy", 120);
    held.lock().expect("a lock");
    draw();
    assert!(!Path::new(&old).exists(), "nobody writes it any more");
    for (path, why) in [
        (&fresh, "it was made just now"),
        (&busy, "somebody writes it"),
        (&strange, "it is not ours"),
    ] {
        assert!(Path::new(path).exists(), "{why}");
    }
}

#[test]
fn outputs_keep_modes_and_go_where_they_are_sent() {
    let scratch = Scratch::new();
    let mode = |path: &str| fs::metadata(path).expect("a file").permissions().mode() & 0o777;
    let out = scratch.path("fog.png");
    let shell = |line: &str| {
        let command = line.replace(
            "DRAW",
            &format!(
                "{} render {LATO} --size 20 Fog",
                assert_cmd::cargo::cargo_bin!("kerno").display()
            ),
        );
        let done = std::process::Command::new("bash")
            .args(["-c", &command])
            .output();
        let done = done.expect("a shell");
        assert!(
            done.status.success(),
            "{line}: {}",
            String::from_utf8_lossy(&done.stderr)
        );
        done.stdout
    };
    for (umask, wanted) in [("027", 0o640), ("022", 0o644), ("077", 0o600)] {
        let _ = fs::remove_file(&out);
        shell(&format!("umask {umask}; DRAW -o {out}"));
        assert_eq!(mode(&out), wanted, "umask {umask}");
    }
    fs::set_permissions(&out, fs::Permissions::from_mode(0o606)).expect("a mode");
    shell(&format!("DRAW -o {out}"));
    assert_eq!(mode(&out), 0o606, "that of the file before");
    let picture = fs::read(&out).expect("a picture");
    assert!(picture.starts_with(b"\x89PNG"));
    // With what is told on standard error, not after the picture.
    assert!(shell("DRAW -o /dev/stdout") == picture);
    assert!(shell("DRAW --quiet -o >(cat) | cat") == picture);
    assert!(shell("DRAW -o /dev/fd/5 5>&1 >/dev/null | cat") == picture);
    let piped = scratch.path("piped.bin");
    shell(&format!("DRAW -o /dev/stdout > {piped}"));
    assert_eq!(
        fs::read(&piped).expect("a file"),
        picture,
        "and nothing after it"
    );
    let long = scratch.path(&format!("{}.png", "f".repeat(251)));
    shell(&format!("DRAW -o {long}"));
    assert_eq!(fs::read(&long).expect("a file"), picture);
}

#[test]
fn inputs_are_not_written_over_unasked() {
    let scratch = Scratch::new();
    // Standard output takes no part in it; a font under a picture's name is a font.
    let font = fs::read(LATO).expect("a font");
    let own = scratch.file("font.png", &font);
    let link = scratch.path("link.png");
    std::os::unix::fs::symlink("font.png", &link).expect("a link");
    for out in [&own, &link] {
        let said = refusal(2, &["render", &own, "--size", "20", "Fog", "-o", out]);
        assert!(
            said.contains("one of the files that were read") && said.contains("--force"),
            "{said}"
        );
    }
    assert_eq!(fs::read(&own).expect("a file"), font);
    // A sprite that the screen shows, and the report of somebody else.
    scratch.file(
        "hud.toml",
        b"design = [64, 36]\nsprites = 'art'\n[[elements]]\nname = 'lamp'\nsprite = 'lamp'\n",
    );
    fs::create_dir(scratch.path("art")).expect("a folder");
    let lamp = concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/demo/ferry/sprites/lantern.png"
    );
    fs::copy(lamp, scratch.path("art/lamp.png")).expect("a copy");
    let (hud, art) = (scratch.path("hud.toml"), scratch.path("art/lamp.png"));
    refusal(2, &["render", &hud, "-o", &art]);
    assert_eq!(
        fs::read(&art).expect("a file"),
        fs::read(lamp).expect("a file")
    );
    output(&["render", &hud, "-o", &art, "--force"]);
    assert_ne!(
        fs::read(&art).expect("a file"),
        fs::read(lamp).expect("a file")
    );
    let manifest = json_manifest(&scratch, "out", "Fog");
    let report = scratch.file("out.report.txt", b"takings of the night ferry\n");
    let said = refusal(1, &["bake", &manifest, "--report"]);
    assert!(said.contains("kerno has not made it"), "{said}");
    assert!(
        fs::read_to_string(&report)
            .expect("a file")
            .starts_with("takings")
    );
    output(&["bake", &manifest, "--report", "--force"]);
    output(&["bake", &manifest, "--report"]);
    assert!(
        fs::read_to_string(&report)
            .expect("a file")
            .starts_with("Costs of a bake")
    );
}

#[test]
fn contained_files_do_not_leave_their_folder() {
    let scratch = Scratch::new();
    for folder in ["mod", "mod/strings", "beyond"] {
        fs::create_dir(scratch.path(folder)).expect("a folder");
    }
    fs::copy(LATO, scratch.path("beyond/text.ttf")).expect("a copy");
    fs::copy(LATO, scratch.path("mod/text.ttf")).expect("a copy");
    scratch.file("beyond/en.toml", b"language = 'en'\n[texts]\nfog = 'Fog'\n");
    let lamp = concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/demo/ferry/sprites/lantern.png"
    );
    fs::copy(lamp, scratch.path("beyond/lamp.png")).expect("a copy");
    std::os::unix::fs::symlink("../beyond", scratch.path("mod/link")).expect("a link");
    std::os::unix::fs::symlink("../../beyond/en.toml", scratch.path("mod/strings/en.toml"))
        .expect("a link");
    let styles = |face: &str| {
        format!(
            "[faces]\nf = '{face}'\n[styles.t]\nface = 'f'\nsize = 12\n[defaults]\ntext = 't'\n"
        )
    };
    scratch.file("mod/own.toml", styles("text.ttf").as_bytes());
    scratch.file("mod/out.toml", styles("../beyond/text.ttf").as_bytes());
    scratch.file("mod/linked.toml", styles("link/text.ttf").as_bytes());
    let absolute = scratch.path("beyond/text.ttf");
    scratch.file("mod/absolute.toml", styles(&absolute).as_bytes());
    let screen = |name: &str, more: &str| {
        let text = format!("design = [64, 36]\n{more}\n[[elements]]\nname = 'a'\ntext = 'Fog'\n");
        scratch.file(&format!("mod/{name}"), text.as_bytes())
    };
    let out = scratch.path("hud.png");
    let own = screen("hud-own.toml", "styles = 'own.toml'");
    output(&["render", &own, "-o", &out, "--contained"]);
    let refused = |file: &str, command: &str| {
        let mut free = vec![command, file];
        if command == "render" {
            free.extend(["-o", &out]);
        }
        kerno(&free).assert().success();
        free.push("--contained");
        let said = refusal(1, &free);
        assert!(
            said.contains("lies outside of the folder"),
            "{file}: {said}"
        );
    };
    for (number, more) in [
        "styles = 'out.toml'",
        "styles = 'linked.toml'",
        "styles = 'absolute.toml'",
        "styles = 'own.toml'\nstrings = 'strings'",
        "styles = 'own.toml'\nstrings = '../beyond'",
        "styles = 'own.toml'\nsprites = '../beyond'",
        "styles = 'own.toml'\nsprites = 'link'",
    ]
    .iter()
    .enumerate()
    {
        refused(&screen(&format!("hud-{number}.toml"), more), "render");
    }
    let manifest = |name: &str, output: &str, sprites: &str| {
        let text = format!("[output]\nfile = '{output}'\n{sprites}");
        scratch.file(&format!("mod/{name}.toml"), text.as_bytes())
    };
    let file = |file: &str| format!("[[sprites]]\nfile = '{file}'\nname = 'lamp'\n");
    refused(
        &manifest("a", "a.kpack", &file("../beyond/lamp.png")),
        "bake",
    );
    refused(
        &manifest("b", "b.kpack", "[[sprites]]\nfolder = 'link'\n"),
        "bake",
    );
    fs::copy(lamp, scratch.path("mod/lamp.png")).expect("a copy");
    // Written before: what is up to date is refused all the same.
    refused(
        &manifest("c", "../beyond/c.kpack", &file("lamp.png")),
        "bake",
    );
    let inside = manifest("d", "d.kpack", &file("lamp.png"));
    output(&["bake", &inside, "--contained"]);
}

#[test]
fn what_is_printed_of_files_does_nothing_to_terminals() {
    let scratch = Scratch::new();
    let evil = "\\u001b]0;owned\\u0007\\u202e\\u009b2J\\r";
    let hud = format!(
        "design = [64, 36]\nstyles = 'styles.toml'\n[[elements]]\nname = \"bell{evil}\\nhud: nothing found\"\n\
         text = \"far too long for so small a window {evil}\"\n"
    );
    let hud = scratch.file("hud.toml", hud.as_bytes());
    let styles = format!(
        "[faces]\nf = '{LATO}'\n[styles.t]\nface = 'f'\nsize = 12\n[defaults]\ntext = 't'\n"
    );
    scratch.file("styles.toml", styles.as_bytes());
    for more in [&[][..], &["--json"]] {
        let done = kerno(&[&["check", &hud][..], more].concat())
            .assert()
            .code(1);
        let text = String::from_utf8(done.get_output().stdout.clone()).expect("UTF-8");
        assert!(text.contains("bell"), "{text}");
        assert!(
            !text.contains("\nhud: nothing"),
            "no line is forged: {text}"
        );
        assert_plain(&text);
        assert_plain(&String::from_utf8_lossy(&done.get_output().stderr));
        if more.is_empty() {
            continue;
        }
        let json: serde_json::Value = serde_json::from_str(&text).expect("JSON");
        let name = json["findings"][0]["name"].as_str().expect("a name");
        assert_eq!(
            name,
            "bell\u{1b}]0;owned\u{7}\u{202e}\u{9b}2J\r\nhud: nothing found"
        );
    }
    // Unknown keys, file names and names of faces.
    let wrong = scratch.file(
        "wrong.toml",
        format!("design = [64, 36]\n\"{evil}\" = 1\n").as_bytes(),
    );
    let said = refusal(1, &["render", &wrong, "-o", &scratch.path("a.png")]);
    assert_plain(&said);
    assert!(said.contains("\\u{1b}]0;owned"), "{said}");
    let name = scratch.file("fog\u{1b}[2J.ttf", b"no font");
    assert_plain(&refusal(1, &["inspect", &name]));
    // The full name of a font (`name`, platform 3, UTF-16).
    let mut font = fs::read(LATO).expect("a font");
    let utf16 = |text: &str| {
        text.encode_utf16()
            .flat_map(u16::to_be_bytes)
            .collect::<Vec<u8>>()
    };
    let found = utf16("Lato Medium");
    let places: Vec<usize> = font
        .windows(found.len())
        .enumerate()
        .filter(|(_, bytes)| *bytes == found)
        .map(|(at, _)| at)
        .collect();
    for at in places {
        font[at..at + found.len()].copy_from_slice(&utf16("Lat\u{1b}[2J\u{202e}um!"));
    }
    let font = scratch.file("evil.ttf", &font);
    for more in [&[][..], &["--json"]] {
        let text = output(&[&["inspect", &font][..], more].concat());
        assert!(text.contains("um!"), "{text}");
        assert_plain(&text);
    }
}
