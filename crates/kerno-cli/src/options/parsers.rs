//! Values of options, read from what was typed.

use std::ffi::OsStr;
use std::path::PathBuf;
use std::str::FromStr;

use clap::builder::TypedValueParser;
use clap::error::ErrorKind;
use kerno::font::Tag;
use kerno::markup::EffectTextError;
use kerno::text::Effect;
use kerno::{DeviceSize, Style};

/// A window size as `WIDTHxHEIGHT`.
#[derive(Clone, Copy, Debug)]
pub(crate) struct WindowSize(pub(crate) DeviceSize);

impl FromStr for WindowSize {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        let refuse = || "write WIDTHxHEIGHT in pixels, each 1 to 8192, such as 1280x800".to_owned();
        let side = |text: &str| text.parse().ok().filter(|side| (1..=8192).contains(side));
        let (width, height) = text.split_once('x').ok_or_else(refuse)?;
        match (side(width), side(height)) {
            (Some(width), Some(height)) => Ok(Self(DeviceSize::new(width, height))),
            _ => Err(refuse()),
        }
    }
}

pub(crate) fn parse_number(text: &str) -> Result<f32, String> {
    let number: f32 = text
        .parse()
        .map_err(|_| "write a number, such as 1.5".to_owned())?;
    if number.is_finite() {
        Ok(number)
    } else {
        Err("it must be finite".to_owned())
    }
}

/// An axis of a variable font and its value; tags shorter than four letters are
/// filled with spaces.
pub(crate) fn parse_axis(text: &str) -> Result<(Tag, f32), String> {
    let refuse = || "write an axis tag and a number, such as wght=700".to_owned();
    let (tag, value) = text.split_once('=').ok_or_else(refuse)?;
    let tag = Tag::from_name(tag).ok_or_else(refuse)?;
    Ok((tag, parse_number(value)?))
}

pub(crate) fn parse_tag(text: &str) -> Result<Tag, String> {
    Tag::from_name(text).ok_or_else(|| "write a tag of one to four letters".to_owned())
}

pub(crate) fn parse_feature(text: &str) -> Result<(Tag, u16), String> {
    let (tag, value) = text.split_once('=').unwrap_or((text, "1"));
    let refuse = || "write a feature tag, or a tag and a number such as salt=2".to_owned();
    let tag = Tag::from_name(tag).ok_or_else(refuse)?;
    Ok((tag, value.parse().map_err(|_| refuse())?))
}

pub(crate) fn parse_size(text: &str) -> Result<f32, String> {
    match parse_number(text)? {
        size if size > 0.0 && size <= Style::LARGEST => Ok(size),
        _ => Err("it must be above 0 and at most 100000".to_owned()),
    }
}

pub(crate) fn parse_part(text: &str) -> Result<f32, String> {
    match parse_number(text)? {
        part if part > 0.0 && part <= 1.0 => Ok(part),
        _ => Err("it must be above 0 and at most 1".to_owned()),
    }
}

/// The path of a PNG to write: no other form is.
#[derive(Clone)]
pub(crate) struct PngParser;

impl TypedValueParser for PngParser {
    type Value = PathBuf;

    fn parse_ref(
        &self,
        command: &clap::Command,
        _: Option<&clap::Arg>,
        value: &OsStr,
    ) -> Result<PathBuf, clap::Error> {
        let path = PathBuf::from(value);
        match path.extension() {
            Some(ending) if !ending.eq_ignore_ascii_case("png") => {
                let name = path.display();
                let text = format!(
                    "“{name}” is not written: end its name in .png, the one form there is\n"
                );
                Err(clap::Error::raw(ErrorKind::ValueValidation, text).with_cmd(command))
            }
            _ => Ok(path),
        }
    }
}

/// The path of a file that names others beside it, or is read again: standard input has no
/// folder, and is read once.
pub(crate) fn parse_path(text: &str) -> Result<PathBuf, String> {
    match text {
        "-" => Err("standard input has no folder and is read once; give its path".to_owned()),
        path => Ok(PathBuf::from(path)),
    }
}

pub(crate) fn parse_length(text: &str) -> Result<f32, String> {
    match parse_number(text)? {
        length if (0.0..=1e6).contains(&length) => Ok(length),
        _ => Err("it must be 0 to 1000000".to_owned()),
    }
}

pub(crate) fn parse_seconds(text: &str) -> Result<f64, String> {
    match text.parse::<f64>() {
        Ok(seconds) if seconds >= 0.0 && seconds.is_finite() => Ok(seconds),
        _ => Err("write seconds, 0 or more, such as 1.5".to_owned()),
    }
}

/// Parses a layer of the letters' look.
pub(crate) fn parse_effect(text: &str) -> Result<Effect, String> {
    text.parse()
        .map_err(|error: EffectTextError| error.to_string())
}
