//! The guide's commands, typed as written: files are written, commands run, in their order.

use std::fs;
use std::path::Path;

use crate::{Scratch, kerno};

const GUIDE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/docs/guide");
const DEMO: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

/// The blocks of code of a page: the language and the text of each.
fn blocks(page: &str) -> Vec<(&str, &str)> {
    let mut parts = page.split("\n```");
    parts.next();
    // Every other part is between a fence that begins a block and one that ends it.
    let inside = parts.step_by(2);
    inside.filter_map(|part| part.split_once('\n')).collect()
}

/// The words of a command line; what is in quotation marks is one.
fn words(line: &str) -> Vec<String> {
    let mut words = Vec::new();
    for (index, part) in line.split('"').enumerate() {
        match index % 2 {
            0 => words.extend(part.split_whitespace().map(str::to_owned)),
            _ => words.push(part.to_owned()),
        }
    }
    words
}

fn copy(from: &Path, to: &Path) {
    fs::create_dir_all(to).expect("a folder");
    for entry in fs::read_dir(from).expect("a folder") {
        let from = entry.expect("an entry").path();
        let to = to.join(from.file_name().expect("a name"));
        match from.is_dir() {
            true => copy(&from, &to),
            false => drop(fs::copy(&from, &to).expect("a copy")),
        }
    }
}

#[test]
fn the_guides_files_and_commands_do_what_it_says() {
    let mut commands = 0;
    for page in fs::read_dir(GUIDE).expect("the guide") {
        let page = page.expect("a page").path();
        let text = fs::read_to_string(&page).expect("a page");
        let scratch = Scratch::new();
        let folder = scratch.path("");
        let folder = Path::new(&folder);
        copy(Path::new(DEMO), &folder.join("demo/ferry"));
        for (language, block) in blocks(&text) {
            // A file begins with its name.
            let name = block
                .strip_prefix("# ")
                .and_then(|rest| rest.lines().next());
            if let ("toml", Some(name)) = (language, name) {
                let path = folder.join(name);
                fs::create_dir_all(path.parent().expect("a folder")).expect("a folder");
                fs::write(path, block).expect("a file");
            }
            if language != "sh" {
                continue;
            }
            for line in block.lines() {
                let line = words(line);
                let [command, arguments @ ..] = &line[..] else {
                    continue;
                };
                assert_eq!(command, "kerno", "{}", page.display());
                let arguments: Vec<&str> = arguments.iter().map(String::as_str).collect();
                kerno(&arguments).current_dir(folder).assert().success();
                commands += 1;
            }
        }
    }
    assert!(commands >= 20, "{commands}");
}
