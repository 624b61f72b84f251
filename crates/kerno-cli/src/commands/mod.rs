//! One file a command.

mod bake;
mod convert;
mod demo;
mod fonts;
mod inspect;
mod measure;
mod proof;
mod render;

pub(crate) use bake::bake;
pub(crate) use convert::convert;
pub(crate) use demo::demo;
pub(crate) use fonts::fonts;
pub(crate) use inspect::inspect;
pub(crate) use measure::measure;
pub(crate) use proof::proof;
pub(crate) use render::render;

use comfy_table::{CellAlignment, Table, presets};

/// A plain table: columns by spaces, no lines; columns named in `right` are
/// set to the right.
fn plain_table(header: &[&str], right: &[&str]) -> Table {
    let mut table = Table::new();
    table.load_style(presets::NOTHING);
    table.set_header(header.iter().copied());
    for (index, name) in header.iter().enumerate() {
        let Some(column) = table.column_mut(index) else {
            continue;
        };
        column.set_padding((if index == 0 { 2 } else { 1 }, 1));
        if right.contains(name) {
            column.set_cell_alignment(CellAlignment::Right);
        }
    }
    table
}
