//! Subjects of a window.

use std::path::Path;

use kerno::base::{DevicePoint, DeviceRect};
use kerno::draw::Frame;
use kerno::{Atlas, DeviceSize};

use super::ViewArgs;
use super::live::Live;
use super::picture::Picture;
use crate::commands::bake::sheet_of;
use crate::commands::proof::proof_of;
use crate::error::CliError;

/// The subject of a window: a screen or a scene at work, or a picture.
pub(super) enum Subject {
    Live(Box<Live>),
    Picture(Box<Picture>),
}

/// Something beneath the pointer.
pub(super) struct Hovered {
    pub(super) rect: DeviceRect,
    pub(super) told: String,
}

impl Subject {
    /// Opens a file by what is in it.
    pub(super) fn open(args: &ViewArgs) -> Result<Self, CliError> {
        let path = &args.file;
        Ok(match kind_of(path)? {
            Kind::Screen => Self::Live(Box::new(Live::screen(args)?)),
            Kind::Scene => Self::Live(Box::new(Live::scene(args)?)),
            Kind::Manifest => Self::Picture(Box::new(Picture::new(&sheet_of(path, &args.files)?)?)),
            Kind::Font => Self::Picture(Box::new(Picture::new(&proof_of(path, &args.files)?)?)),
        })
    }

    pub(super) fn advance(&mut self, seconds: f64) -> Result<(), CliError> {
        match self {
            Self::Live(live) => live.advance(seconds),
            Self::Picture(_) => Ok(()),
        }
    }

    /// A frame for a window, with the atlas that it is drawn with.
    pub(super) fn frame(
        &mut self,
        window: DeviceSize,
        text_scale: f32,
    ) -> Result<(Frame<'_>, &Atlas), CliError> {
        match self {
            Self::Live(live) => live.frame(window, text_scale),
            Self::Picture(picture) => picture.frame(window),
        }
    }

    /// The thing at a place of the window.
    pub(super) fn hovered(&self, at: DevicePoint) -> Option<Hovered> {
        match self {
            Self::Live(live) => live.hovered(at),
            Self::Picture(picture) => picture.hovered(at),
        }
    }

    /// The boxes of all elements, with their names.
    pub(super) fn boxes(&self) -> Vec<(String, DeviceRect)> {
        match self {
            Self::Live(live) => live.boxes(),
            Self::Picture(_) => Vec::new(),
        }
    }

    pub(super) fn live(&mut self) -> Option<&mut Live> {
        match self {
            Self::Live(live) => Some(live),
            Self::Picture(_) => None,
        }
    }

    pub(super) fn scroll(&mut self, across: f32, down: f32) {
        if let Self::Picture(picture) = self {
            picture.scroll(across, down);
        }
    }

    /// Goes on where an earlier state of the same file was.
    pub(super) fn keep_place(&mut self, before: &Self) {
        match (self, before) {
            (Self::Live(own), Self::Live(before)) => own.keep_place(before),
            (Self::Picture(own), Self::Picture(before)) => own.keep_place(before),
            _ => {}
        }
    }
}

/// Kinds of files.
#[derive(Clone, Copy)]
enum Kind {
    Screen,
    Scene,
    Manifest,
    Font,
}

/// The kind of a file: TOML is told apart by its keys, and all else is a font.
fn kind_of(path: &Path) -> Result<Kind, CliError> {
    if path.extension().is_none_or(|ending| ending != "toml") {
        return Ok(Kind::Font);
    }
    let text =
        std::fs::read_to_string(path).map_err(|error| CliError::Read(path.to_owned(), error))?;
    // Lines, because a file at work may be no whole TOML; its reader says so.
    let has = |starts: &[&str]| {
        text.lines().any(|line| {
            let key = line.trim_start();
            starts.iter().any(|start| key.starts_with(start))
        })
    };
    Ok(if has(&["design ", "design="]) {
        Kind::Screen
    } else if has(&["[[lines]]"]) {
        Kind::Scene
    } else if has(&["[[strikes]]", "[[sprites]]", "[fonts"]) {
        Kind::Manifest
    } else {
        Kind::Font
    })
}
