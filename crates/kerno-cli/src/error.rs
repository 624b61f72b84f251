//! Errors of the command, and their messages.

use std::error::Error;
use std::io;
use std::path::{Path, PathBuf};

use kerno::atlas::AtlasError;
use kerno::bake::BakeError;
use kerno::base::ImageError;
use kerno::dialogue::PaceError;
use kerno::font::FontError;
use kerno::markup::{MarkupError, NumberError};
use kerno::pack::PackError;
use kerno::screen::{ScreenError, ViewportError};
use kerno::text::TextError;

/// Why the command stopped.
#[derive(Debug, thiserror::Error)]
pub(crate) enum CliError {
    /// An argument that is not UTF-8.
    #[error("{0} is not valid UTF-8; pass it in UTF-8")]
    NotUtf8(&'static str),
    /// A text that should be a number.
    #[error("“{0}” is no number; write digits with a point, such as 1284 or -3.5")]
    NotANumber(String),
    /// A number that can't be written so.
    #[error(transparent)]
    Number(#[from] NumberError),
    /// A screen.
    #[error(transparent)]
    Screen(#[from] ScreenError),
    /// A value of a screen that should be a number.
    #[error("the value “{0}” is a number, and “{1}” is none")]
    NoNumber(String, String),
    /// A value of a screen that should be true or false.
    #[error("the value “{0}” is true or false, and “{1}” is neither")]
    NoFlag(String, String),
    /// A text that can't be typed.
    #[error(transparent)]
    Timetable(#[from] kerno::dialogue::TimetableError),
    /// A scene that can't be played.
    #[error(transparent)]
    Scene(#[from] kerno::dialogue::SceneError),
    /// A screen without a place for dialogue.
    #[error("“{}” has no element with `dialogue = true` to play a scene in", .0.display())]
    NoDialogue(PathBuf),
    /// An answer that is not offered.
    #[error("there is no answer {0} to choose; there are {1}")]
    NoAnswer(usize, usize),
    /// A beginning after the end.
    #[error("the scene ends at {1:.2} s, and the pictures would begin at {0:.2} s")]
    PastEnd(f64, f64),
    /// Subtitles in another form.
    #[error("“{}” is neither .vtt nor .srt: subtitles are WebVTT or SubRip", .0.display())]
    Subtitles(PathBuf),
    /// A build without windows.
    #[error(
        "this build of kerno has no windows; build it with them: cargo build --release --features view"
    )]
    #[cfg_attr(feature = "view", expect(dead_code, reason = "there are windows"))]
    NoWindows,
    /// A window that can't be opened or drawn on.
    #[error("cannot show a window")]
    #[cfg_attr(not(feature = "view"), expect(dead_code, reason = "there are none"))]
    Window(#[source] Box<dyn Error + Send + Sync>),
    /// Pictures that make no animated PNG.
    #[error("cannot write the animation: {0}")]
    Animation(String),
    /// A file that people write.
    #[error(transparent)]
    File(#[from] kerno::base::FileError),
    /// A value of a screen that should be a point.
    #[error("the value “{0}” is a point such as 12,4, and “{1}” is none")]
    NoPoint(String, String),
    /// A file of values.
    #[error("“{}” has no values", .0.display())]
    Values(PathBuf, #[source] Box<dyn Error + Send + Sync>),
    /// A file that can't be read.
    #[error("cannot read “{}”", .0.display())]
    Read(PathBuf, #[source] io::Error),
    /// An output that was read.
    #[error("“{}” is one of the files that were read; name another output, or say --force", .0.display())]
    IsInput(PathBuf),
    /// A file of somebody else where a text of ours would go.
    #[error("“{}” is there, and kerno has not made it; move it away, or say --force", .0.display())]
    NotOurs(PathBuf),
    /// Findings of a check.
    #[error("{0} findings")]
    Findings(usize),
    /// Markup in the text.
    #[error("TEXT, {0}")]
    Markup(#[from] MarkupError),
    /// No installed font has a name like that.
    #[error("no installed family has “{0}” in its name{1}; `kerno fonts` lists all")]
    NoSuchFont(String, String),
    /// A folder that isn't there.
    #[error("there is no folder “{}”", .0.display())]
    NoSuchFolder(PathBuf),
    /// A name that is neither a file's nor an installed family's.
    #[error("there is no file “{0}”, and no installed family has that name{1}")]
    NoFont(String, String),
    /// A folder for a new project with something in it.
    #[error("“{}” is not empty; name a folder that is not there yet", .0.display())]
    FolderInUse(PathBuf),
    /// Standard input.
    #[error("cannot read standard input")]
    Input(#[source] io::Error),
    /// More standard input than a font may have.
    #[error("standard input has more than the {0} bytes that are read")]
    LongInput(u64),
    /// More fonts than a proof has room for.
    #[error("{0} fonts; a proof has room for at most six side by side")]
    TooManyFonts(usize),
    /// More fonts than a comparison shows.
    #[error("{0} fonts; `--compare` shows one, in several ways")]
    CompareOne(usize),
    /// A picture that can't be that large.
    #[error(
        "the picture would be {0} × {1} pixels, and at most 8192 a side are allowed; choose a smaller --size, --scale, --width or --padding"
    )]
    PictureTooLarge(f32, f32),
    /// Pages that no picture has room for.
    #[error(
        "a sheet of these pages would be {0} × {1} pixels, and at most 8192 a side are allowed; set a smaller largest-side in [pages]"
    )]
    SheetTooLarge(f32, f32),
    /// Threads that the system doesn't give.
    #[error("cannot start the threads; choose fewer with --threads")]
    Threads(#[from] rayon::ThreadPoolBuildError),
    /// A manifest, or what it asks for.
    #[error(transparent)]
    Bake(#[from] BakeError),
    /// A pack.
    #[error(transparent)]
    Pack(#[from] PackError),
    /// Something in a font.
    #[error("the font “{}”", .0.display())]
    InFont(PathBuf, #[source] Box<dyn Error + Send + Sync>),
    /// A conversion that needs a size.
    #[error("a font of outlines has no size of its own; say --size N")]
    NoSize,
    /// A conversion of nothing.
    #[error("the font has none of the characters asked for")]
    NoCharacters,
    /// An output file whose name does not say what to write.
    #[error("“{}” does not end in .bdf or .toml; its ending says what to write", .0.display())]
    UnknownForm(PathBuf),
    /// An output file.
    #[error("cannot write “{}”", .0.display())]
    Write(PathBuf, #[source] io::Error),
    /// An output folder that isn't there.
    #[error("cannot write “{}”: the folder “{}” does not exist; create it first", .0.display(), .1.display())]
    NoFolder(PathBuf, PathBuf),
    /// A pack that is not the demo's.
    #[error("the pack “{}” is not the demo's", .0.display())]
    OtherPack(PathBuf, #[source] Box<dyn Error + Send + Sync>),
    /// The lines of the demo.
    #[error("the demo's lines")]
    Lines(#[from] toml::de::Error),
    /// A sprite of the demo.
    #[error("the demo's sprite “{0}”")]
    Sprite(&'static str, #[source] ImageError),
    /// Drawing.
    #[error(transparent)]
    Atlas(#[from] AtlasError),
    /// Laying out.
    #[error(transparent)]
    Text(#[from] TextError),
    /// Scaling.
    #[error(transparent)]
    Viewport(#[from] ViewportError),
    /// Pacing.
    #[error(transparent)]
    Pace(#[from] PaceError),
    /// Encoding.
    #[error(transparent)]
    Image(#[from] ImageError),
    /// Opening a font; it names the file itself.
    #[error(transparent)]
    Font(#[from] FontError),
    /// Standard output.
    #[error("cannot write to standard output")]
    Output(#[from] io::Error),
}

impl CliError {
    /// 2 where the command line is at fault, 1 where the input is.
    pub(crate) fn exit_code(&self) -> u8 {
        match self {
            Self::NotUtf8(_)
            | Self::NoWindows
            | Self::IsInput(_)
            | Self::PastEnd(..)
            | Self::PictureTooLarge(..)
            | Self::NoSize
            | Self::UnknownForm(_)
            | Self::TooManyFonts(_)
            | Self::CompareOne(_) => 2,
            _ => 1,
        }
    }
}

/// Says in which font file something is wrong.
pub(crate) fn in_font<E: Error + Send + Sync + 'static>(path: &Path) -> impl FnOnce(E) -> CliError {
    let path = path.to_owned();
    |error| CliError::InFont(path, Box::new(error))
}
