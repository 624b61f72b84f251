//! Options that several commands share.

mod font;
mod parsers;
mod text;
mod values;

pub(crate) use font::{FontArgs, open_font};
pub(crate) use parsers::{
    PngParser, WindowSize, parse_effect, parse_length, parse_number, parse_path, parse_seconds,
    parse_size,
};
pub(crate) use text::{LaidOut, Look, TextArgs};
