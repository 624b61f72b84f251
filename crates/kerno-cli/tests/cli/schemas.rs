//! The schemas of files, against the files themselves.

use std::fs;
use std::path::Path;

use serde_json::Value;

use crate::{Scratch, output};

const DOCS: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/docs/schemas");
const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

/// The keys of all tables of a schema.
fn keys<'a>(schema: &'a Value, found: &mut Vec<&'a str>) {
    match schema {
        Value::Object(fields) => {
            if let Some(Value::Object(properties)) = fields.get("properties") {
                found.extend(properties.keys().map(String::as_str));
            }
            fields.values().for_each(|field| keys(field, found));
        }
        Value::Array(items) => items.iter().for_each(|item| keys(item, found)),
        _ => {}
    }
}

#[test]
fn every_key_of_a_file_is_in_its_page() {
    for (kind, pages) in [
        ("screen", &["screen.md"][..]),
        ("scene", &["scene.md"]),
        ("styles", &["styles.md"]),
        ("strings", &["screen.md"]),
        ("manifest", &["manifest.md", "styles.md"]),
        ("picture-sheet", &["picture-sheet.md"]),
    ] {
        let read = |name: &str| fs::read_to_string(Path::new(DOCS).join(name)).expect("a file");
        let schema: Value =
            serde_json::from_str(&read(&format!("{kind}.schema.json"))).expect("JSON");
        let text: String = pages
            .iter()
            .map(|page| read(&format!("../{page}")))
            .collect();
        let is_part = |c: char| c.is_alphanumeric() || c == '-';
        let mut found = Vec::new();
        keys(&schema, &mut found);
        assert!(found.len() > 3, "{kind}");
        for key in found {
            let is_told = text.split(|c| !is_part(c)).any(|word| word == key);
            assert!(is_told, "{pages:?} does not tell of `{key}`");
        }
    }
}

/// Checks a value against the part of JSON Schema that ours use, and returns the first key or
/// value that the schema has no place for.
fn fault(whole: &Value, schema: &Value, value: &Value) -> Option<String> {
    if let Some(name) = schema["$ref"].as_str() {
        let part = whole.pointer(name.trim_start_matches('#'));
        return fault(whole, part.expect("a definition"), value);
    }
    for several in ["anyOf", "oneOf"] {
        if let Some(choices) = schema[several].as_array() {
            let faults: Option<Vec<_>> = choices
                .iter()
                .map(|choice| fault(whole, choice, value))
                .collect();
            return faults.map(|faults| faults.join(" and "));
        }
    }
    if let Some(words) = schema["enum"].as_array() {
        return (!words.contains(value)).then(|| format!("the word {value}"));
    }
    if schema.get("const").is_some_and(|word| word != value) {
        return Some(format!("the word {value}"));
    }
    let kind = match value {
        Value::Object(_) => "object",
        Value::Array(_) => "array",
        Value::String(_) => "string",
        Value::Bool(_) => "boolean",
        Value::Number(number) if number.is_f64() => "number",
        _ => "integer",
    };
    let kinds = schema["type"].to_string();
    if !(kinds == "null" || kinds.contains(kind) || kind == "integer" && kinds.contains("number")) {
        return Some(format!("{kinds} for {value}"));
    }
    match value {
        Value::Object(fields) => {
            let missing = schema["required"].as_array().into_iter().flatten();
            let mut missing = missing.filter_map(Value::as_str);
            if let Some(key) = missing.find(|key| !fields.contains_key(*key)) {
                return Some(format!("no {key}"));
            }
            fields.iter().find_map(|(key, value)| {
                let own = schema["properties"].get(key);
                match own.unwrap_or(&schema["additionalProperties"]) {
                    Value::Bool(false) | Value::Null => Some(format!("the key {key}")),
                    own => fault(whole, own, value),
                }
            })
        }
        Value::Array(items) => {
            let each = items
                .iter()
                .map(|item| fault(whole, &schema["items"], item));
            each.flatten().next()
        }
        _ => None,
    }
}

#[test]
fn schemas_take_the_demo_and_refuse_what_is_misspelt() {
    let scratch = Scratch::new();
    output(&["schemas", &scratch.path("")]);
    for (kind, files, misspelt) in [
        ("screen", &["hud.toml", "talk.toml"][..], "design"),
        ("scene", &["crossing.toml"], "speakers"),
        ("styles", &["hud_styles.toml", "styles.toml"], "faces"),
        ("strings", &["strings/en.toml", "crossing/he.toml"], "texts"),
        ("manifest", &["ferry.toml", "sprites.toml"], "sprites"),
    ] {
        let name = format!("{kind}.schema.json");
        let text = fs::read_to_string(scratch.path(&name)).expect("a schema");
        let committed = fs::read_to_string(Path::new(DOCS).join(&name)).unwrap_or_default();
        assert!(
            text == committed,
            "docs/schemas/{name} is old: cargo run -- schemas docs/schemas"
        );
        let schema: Value = serde_json::from_str(&text).expect("JSON");
        for file in files {
            let file = Path::new(FERRY).join(file);
            let text = fs::read_to_string(&file).expect("a file");
            let value: Value = toml::from_str(&text).expect("TOML");
            assert_eq!(fault(&schema, &schema, &value), None, "{}", file.display());
            let text = text.replace(misspelt, &misspelt[1..]);
            let value: Value = toml::from_str(&text).expect("TOML");
            if value.get(&misspelt[1..]).is_some() {
                assert!(fault(&schema, &schema, &value).is_some(), "{kind}");
            }
        }
    }
}
