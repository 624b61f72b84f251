//! JSON Schemas of the files that people write, for editors.
//!
//! ```
//! let schemas = kerno::schemas::all();
//! let screen = schemas.iter().find(|schema| schema.kind == "screen");
//! assert!(screen.is_some_and(|schema| schema.text.contains("anchor")));
//! ```

/// The schema of a kind of file (JSON Schema, draft 2020-12).
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct FileSchema {
    /// The kind: `screen`, `scene`, `styles`, `strings`, `manifest`, `picture-sheet`.
    pub kind: &'static str,
    /// The schema as JSON.
    pub text: String,
}

/// Returns the schema of every kind of file.
pub fn all() -> Vec<FileSchema> {
    let kinds = [
        ("screen", crate::screen::file_schema()),
        ("scene", crate::dialogue::file_schema()),
        ("styles", crate::markup::style_file_schema()),
        ("strings", crate::markup::string_table_schema()),
        ("manifest", crate::bake::file_schema()),
        ("picture-sheet", crate::font::sheet_schema()),
    ];
    let schema = |(kind, mut schema): (&'static str, schemars::Schema)| {
        schema.insert("title".to_owned(), kind.into());
        let text = serde_json::to_string_pretty(&schema).unwrap_or_default() + "\n";
        FileSchema { kind, text }
    };
    kinds.into_iter().map(schema).collect()
}
