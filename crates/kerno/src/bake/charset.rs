//! The characters that a game needs: by ranges, by blocks, and by its strings.

use std::collections::BTreeSet;
use std::ops::Range;
use std::path::Path;

use crate::base::Spanned;
use serde::Deserialize;
use unicode_blocks::{UnicodeBlock, find_unicode_block};

use super::inputs::Inputs;
use crate::base::nearest;
use crate::markup::Markup;

/// A charset as the manifest has it (`docs/manifest.md`).
#[derive(Debug, Default, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct CharsetEntry {
    /// CSS `unicode-range`: `U+41`, `U+20-7E`, `U+4??`.
    #[serde(default)]
    ranges: Vec<Spanned<String>>,
    /// Names of Unicode blocks.
    #[serde(default)]
    blocks: Vec<Spanned<String>>,
    /// The characters themselves.
    #[serde(default)]
    text: String,
    /// Text files, of which every character counts.
    #[serde(default)]
    files: Vec<Spanned<String>>,
    /// Strings in TOML and JSON files.
    #[serde(default)]
    strings: Vec<StringsEntry>,
    /// Screen files and scene files: all that they say, with their string tables.
    #[serde(default)]
    texts_of: Vec<Spanned<String>>,
    /// The ten digits and these: separators, signs, units.
    numbers: Option<String>,
    /// Characters to leave out.
    #[serde(default)]
    exclude: String,
    /// Ranges to leave out.
    #[serde(default)]
    exclude_ranges: Vec<Spanned<String>>,
}

/// Strings of a file that stand under certain keys.
#[derive(Debug, Deserialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
struct StringsEntry {
    /// A `.toml` or `.json` file.
    file: Spanned<String>,
    /// Keys, or the ends of their paths (`shop.title`); without any, all strings.
    #[serde(default)]
    keys: Vec<Spanned<String>>,
}

/// A problem, and the part of the manifest that it is in.
pub(super) type Fault = (Range<usize>, String);

impl CharsetEntry {
    /// The characters, where paths begin at `folder`.
    pub(super) fn characters(
        &self,
        folder: &Path,
        inputs: &mut Inputs,
    ) -> Result<BTreeSet<char>, Fault> {
        let mut found: BTreeSet<char> = self.text.chars().collect();
        for range in &self.ranges {
            found.extend(unicode_range(range)?);
        }
        for block in &self.blocks {
            let block = block_named(block)?;
            found.extend(characters_of(block.start(), block.end()));
        }
        for file in &self.files {
            found.extend(read_text(file, folder, inputs)?.chars());
        }
        for strings in &self.strings {
            strings.collect(folder, inputs, &mut found)?;
        }
        for file in &self.texts_of {
            said_in(file, folder, inputs, &mut found)?;
        }
        if let Some(separators) = &self.numbers {
            found.extend('0'..='9');
            found.extend(separators.chars());
        }
        for character in self.exclude.chars() {
            found.remove(&character);
        }
        for range in &self.exclude_ranges {
            for character in unicode_range(range)? {
                found.remove(&character);
            }
        }
        found.retain(|character| !character.is_control());
        Ok(found)
    }
}

fn characters_of(first: u32, last: u32) -> impl Iterator<Item = char> {
    (first..=last).filter_map(char::from_u32)
}

/// Reads a range as CSS writes it (CSS Fonts 4, `unicode-range`).
fn unicode_range(text: &Spanned<String>) -> Result<impl Iterator<Item = char> + use<>, Fault> {
    let written = text.get_ref();
    let refuse = || {
        let problem =
            format!("“{written}” is no range; write U+41, U+20-7E or U+4??, up to U+10FFFF");
        (text.span(), problem)
    };
    let digits = written
        .strip_prefix("U+")
        .or_else(|| written.strip_prefix("u+"));
    let digits = digits.ok_or_else(refuse)?;
    let number = |digits: &str| {
        let is_hex = !digits.is_empty() && digits.bytes().all(|b| b.is_ascii_hexdigit());
        let number = is_hex.then(|| u32::from_str_radix(digits, 16).ok());
        number
            .flatten()
            .filter(|number| *number <= u32::from(char::MAX))
    };
    let (first, last) = match digits.split_once('-') {
        Some((first, last)) => (number(first), number(last)),
        None if digits.trim_end_matches('?').contains('?') => (None, None),
        None => (
            number(&digits.replace('?', "0")),
            number(&digits.replace('?', "F")),
        ),
    };
    match (first, last) {
        (Some(first), Some(last)) if first <= last => Ok(characters_of(first, last)),
        _ => Err(refuse()),
    }
}

/// Finds a block by its name; case, spaces and hyphens do not count (UAX #44,
/// “Matching Symbolic Values”).
fn block_named(name: &Spanned<String>) -> Result<UnicodeBlock, Fault> {
    let plain = |name: &str| {
        let letters = name.chars().filter(|c| c.is_alphanumeric());
        letters.flat_map(char::to_lowercase).collect::<String>()
    };
    let wanted = plain(name.get_ref());
    let all: Vec<UnicodeBlock> = blocks().collect();
    let found = all.iter().find(|block| plain(block.name()) == wanted);
    found.copied().ok_or_else(|| {
        let near = nearest(name.get_ref(), all.iter().map(UnicodeBlock::name));
        let hint = near.map_or_else(String::new, |near| format!("; did you mean “{near}”?"));
        let problem = format!("there is no Unicode block “{}”{hint}", name.get_ref());
        (name.span(), problem)
    })
}

/// Every block, by its first character; blocks begin at multiples of 16.
fn blocks() -> impl Iterator<Item = UnicodeBlock> {
    let starts = (0..=u32::from(char::MAX)).step_by(16);
    starts.filter_map(|start| {
        let block = find_unicode_block(char::from_u32(start)?)?;
        (block.start() == start).then_some(block)
    })
}

/// Reads a text file that the manifest names.
pub(super) fn read_text(
    file: &Spanned<String>,
    folder: &Path,
    inputs: &mut Inputs,
) -> Result<String, Fault> {
    let name = file.get_ref();
    let bytes = inputs
        .read(&folder.join(name))
        .map_err(|error| (file.span(), format!("cannot read “{name}”: {error}")))?;
    String::from_utf8(bytes).map_err(|error| {
        let at = error.utf8_error().valid_up_to();
        let problem = format!("“{name}” is not UTF-8 from byte {at} on; save it as UTF-8");
        (file.span(), problem)
    })
}

impl StringsEntry {
    fn collect(
        &self,
        folder: &Path,
        inputs: &mut Inputs,
        found: &mut BTreeSet<char>,
    ) -> Result<(), Fault> {
        let name = self.file.get_ref();
        let text = read_text(&self.file, folder, inputs)?;
        let value: serde_json::Value = match Path::new(name).extension() {
            Some(end) if end == "toml" => toml::from_str(&text).map_err(|e| e.to_string()),
            Some(end) if end == "json" => serde_json::from_str(&text).map_err(|e| e.to_string()),
            _ => Err(
                "strings are read from .toml and .json files; a plain text goes under `files`"
                    .into(),
            ),
        }
        .map_err(|problem| {
            (
                self.file.span(),
                format!("“{name}”: {}", problem.trim_end()),
            )
        })?;
        if self.keys.is_empty() {
            strings_in(&value, &mut Vec::new(), &mut |_, text| {
                found.extend(text.chars());
            });
            return Ok(());
        }
        for key in &self.keys {
            let wanted: Vec<&str> = key.get_ref().split('.').collect();
            let mut count = 0_usize;
            strings_in(&value, &mut Vec::new(), &mut |path, text| {
                // The key may stand anywhere above the string.
                if path.windows(wanted.len()).any(|part| part == wanted) {
                    count += 1;
                    found.extend(text.chars());
                }
            });
            if count == 0 {
                let problem = format!("“{name}” has no strings under “{}”", key.get_ref());
                return Err((key.span(), problem));
            }
        }
        Ok(())
    }
}

/// Keys of a screen file and of a scene file that lead to what is said there.
const SAID: [&[&str]; 4] = [
    &["elements", "text"],
    &["lines", "text"],
    &["lines", "choices", "text"],
    &["speakers", "*", "name"],
];

/// Adds the characters of all that a screen or a scene says, and those of numbers where a text
/// has a value in it.
fn said_in(
    file: &Spanned<String>,
    folder: &Path,
    inputs: &mut Inputs,
    found: &mut BTreeSet<char>,
) -> Result<(), Fault> {
    let fault = |name: &str, problem: &dyn std::fmt::Display| {
        let problem = format!("“{name}”: {}", problem.to_string().trim_end());
        (file.span(), problem)
    };
    let name = file.get_ref();
    let text = read_text(file, folder, inputs)?;
    let whole: serde_json::Value = toml::from_str(&text).map_err(|error| fault(name, &error))?;
    let mut add = |text: &str| {
        found.extend(Markup::strip(text).chars());
        if text.contains("@value(") {
            found.extend('0'..='9');
            found.extend("-.,\u{a0}\u{202f}’".chars());
        }
    };
    strings_in(&whole, &mut Vec::new(), &mut |path, text| {
        let is_said = |keys: &&[&str]| {
            let pairs = keys.iter().zip(path);
            keys.len() == path.len() && pairs.clone().all(|(key, own)| *key == "*" || key == own)
        };
        if SAID.iter().any(is_said) {
            add(text);
        }
    });
    let Some(tables) = whole.get("strings").and_then(serde_json::Value::as_str) else {
        return Ok(());
    };
    let tables = folder.join(name).parent().unwrap_or(folder).join(tables);
    let entries = inputs.reader().check(&tables);
    let entries = entries.and_then(|()| std::fs::read_dir(&tables));
    let entries = entries.map_err(|error| fault(&tables.display().to_string(), &error))?;
    let paths = entries.filter_map(|entry| Some(entry.ok()?.path()));
    let mut paths: Vec<_> = paths
        .filter(|path| path.extension().is_some_and(|end| end == "toml"))
        .collect();
    paths.sort();
    for path in paths {
        let name = path.display().to_string();
        let bytes = inputs.read(&path).map_err(|error| fault(&name, &error))?;
        let text = String::from_utf8_lossy(&bytes);
        let table: serde_json::Value =
            toml::from_str(&text).map_err(|error| fault(&name, &error))?;
        strings_in(&table, &mut Vec::new(), &mut |path, text| {
            let is_form = !matches!(path.last(), Some(&("plural" | "select")));
            if path.first() == Some(&"texts") && is_form {
                add(text);
            }
        });
    }
    Ok(())
}

/// Every string of a file, with the keys that lead to it.
fn strings_in<'a>(
    value: &'a serde_json::Value,
    path: &mut Vec<&'a str>,
    visit: &mut dyn FnMut(&[&str], &str),
) {
    match value {
        serde_json::Value::String(text) => visit(path, text),
        serde_json::Value::Array(items) => {
            for item in items {
                strings_in(item, path, visit);
            }
        }
        serde_json::Value::Object(entries) => {
            for (key, value) in entries {
                path.push(key);
                strings_in(value, path, visit);
                path.pop();
            }
        }
        _ => {}
    }
}
