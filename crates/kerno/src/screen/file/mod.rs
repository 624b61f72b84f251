//! Screen files: TOML → a description, and back.

mod reading;
mod records;
mod writing;
