//! Screen files: TOML → a description, and back.

mod reading;
mod records;
mod writing;

#[cfg(feature = "schemas")]
pub(crate) use records::file_schema;
