//! Opening a face.

use super::super::bitmap::{
    Format, Packing, check_header, embedded_sizes, format_of, from_bitmap, packing_of,
};
use super::super::color::{ColorStrikes, PaletteChoice};
use super::super::lazy_cells::LazyCells;
use super::super::lazy_pages::LazyPages;
use super::super::shaping::LayoutTables;
#[cfg(feature = "files")]
use super::super::sheet::read as read_sheet;
use super::super::tables::{
    CffOutlines, CharMap, Directory, GlyphLocations, GlyphMetrics, GlyphVariations, ItemVariations,
    KernPairs, NameId, TableRecord, check_woff, check_woff2, face_count, face_offset, read_head,
    read_metrics, read_name,
};
use super::super::{AlignmentZone, FontError, Metrics, Synthesis, Tag};
use super::deferred::{Deferred, Opened, Work};
use super::strikes::StrikeOrigin;
use super::variation::{Variation, vary_metrics};
use super::{FaceColors, FaceId};
use crate::base::{FileReader, Limits, SharedBytes, span};
#[cfg(feature = "files")]
use crate::base::{Image, ImageError};
use std::borrow::Cow;
use std::fmt;
use std::io;
use std::path::Path as FilePath;
use std::sync::{Arc, OnceLock};

/// The number of a glyph in its face. Glyph 0 is `.notdef`, the picture for
/// characters that the face lacks.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct GlyphId(pub u16);

impl GlyphId {
    /// The glyph shown for a character that the face lacks.
    pub const NOTDEF: Self = Self(0);
}

/// One font in one style: metrics, character map, kerning, names, outlines.
///
/// A `Face` is a handle: cloning it is cheap and shares the bytes. Opening
/// reads the table directory and the fixed-size headers, so it takes the same
/// microsecond for a small font and for a large one; what has to be unpacked or made
/// over is when something is first asked (see [`Face::prepare`]).
///
/// ```no_run
/// use kerno::Face;
/// use kerno::outline::Outline;
/// let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let glyph = face.glyph('A').expect("a Latin face");
/// println!("{} of {} units wide", face.advance(glyph), face.metrics().units_per_em);
/// let mut outline = Outline::new();
/// face.outline(glyph, &mut outline)?;
/// # Ok::<(), kerno::font::FontError>(())
/// ```
#[derive(Clone)]
pub struct Face(pub(in crate::font) Arc<Opened>);

/// The data of an open face. Ranges and numbers only: the tables stay
/// in `bytes` and are read when asked for.
pub(in crate::font) struct FaceData {
    pub(super) bytes: SharedBytes,
    pub(super) limits: Limits,
    pub(super) directory: Directory,
    pub(super) metrics: Metrics,
    pub(super) glyph_metrics: GlyphMetrics,
    pub(super) outlines: Outlines,
    pub(super) char_map: Option<CharMap>,
    pub(super) vertical: Option<GlyphMetrics>,
    pub(super) kern: KernPairs,
    pub(super) layout: LayoutTables,
    pub(super) notes: Vec<FaceNote>,
    /// The index of the face in the file.
    pub(super) index: u32,
    /// The position of each axis, from -1 to 1.
    pub(super) places: Vec<f32>,
    /// The variation at those positions, if they are not the default.
    pub(super) variation: Option<Variation>,
    /// The bitmap strike whose pixels the outlines are made of.
    pub(super) strike: Option<StrikeOrigin>,
    pub(super) synthesis: Synthesis,
    /// Glyphs in colours.
    pub(super) colors: FaceColors,
    /// Those of an instance or a synthetic style that were asked for before.
    pub(super) advances: LazyPages,
    /// The boxes of glyphs that were asked for before.
    pub(super) boxes: LazyCells,
    /// True if the contours of a glyph overlap, of those that were asked for: 1 no, 2 yes.
    pub(super) overlaps: LazyCells,
    /// A fault of the whole font, if one was found late.
    pub(super) fault: Option<Arc<FontError>>,
    /// The answer of [`Face::pixels_per_em`].
    pub(in crate::font) grid: OnceLock<Option<f32>>,
    /// Heights that its letters share, once they were asked for.
    pub(in crate::font) zones: OnceLock<Vec<AlignmentZone>>,
    /// The answer of [`Face::id`], or the id from a pack.
    pub(super) id: OnceLock<FaceId>,
}

/// Options for opening a face.
#[derive(Default)]
pub(super) struct Setting {
    /// Each axis from -1 to 1; at their defaults where there are none.
    pub(super) places: Vec<f32>,
    /// A style made from the outlines.
    pub(super) synthesis: Synthesis,
    pub(super) palette: PaletteChoice,
}

/// The source of the outlines.
pub(super) enum Outlines {
    TrueType(GlyphLocations),
    PostScript(Box<CffOutlines>),
}

/// Something in a font that Kerno does not read or had to overlook, for
/// [`Face::notes`].
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FaceNote {
    /// The table concerned.
    pub table: Tag,
    /// The consequence, in a sentence.
    pub text: Cow<'static, str>,
}

impl Face {
    /// Opens a face from the bytes of a TrueType or OpenType font, the first one
    /// of a collection; or of a bitmap font (BDF, PCF, PSF), whose pixels become squares.
    /// WOFF and gzip files are unpacked and bitmap fonts made over, BDF at once, others
    /// when something is first asked of the face or by [`Face::prepare`]; nothing else
    /// is copied.
    ///
    /// # Errors
    /// [`FontError`] where the bytes are no such font, a needed table is missing
    /// or damaged, or a table reaches past the end.
    pub fn from_bytes(bytes: impl Into<SharedBytes>) -> Result<Self, FontError> {
        Self::from_bytes_with(bytes, 0, Limits::default())
    }

    /// As [`Face::from_bytes`], for any face of a collection (counted from 0; see
    /// [`Face::count_in`]) and under other [`Limits`].
    ///
    /// # Errors
    /// As [`Face::from_bytes`]; [`FontError::NoSuchFace`] where there are not as
    /// many faces.
    pub fn from_bytes_with(
        bytes: impl Into<SharedBytes>,
        face: u32,
        limits: Limits,
    ) -> Result<Self, FontError> {
        let bytes = bytes.into();
        span!("open_font", bytes = bytes.len());
        let deferred = |work: Work, bytes: SharedBytes| {
            let deferred = Deferred {
                work,
                bytes,
                face,
                limits: limits.clone(),
            };
            Ok(Self(Arc::new(deferred.into())))
        };
        if let Some(packing) = packing_of(&bytes) {
            let count = match packing {
                Packing::Woff => check_woff(&bytes, &limits).map(|()| 1)?,
                Packing::Woff2 => check_woff2(&bytes, &limits)?,
                Packing::Gzip => u32::MAX,
            };
            if face >= count {
                return Err(FontError::NoSuchFace { face, count });
            }
            return deferred(Work::Unpack(packing), bytes);
        }
        match format_of(&bytes) {
            Some(Format::Bdf) => {
                let data = FaceData::of_strike(from_bitmap(&bytes)?, &limits, None)?;
                return Ok(data.into());
            }
            Some(format) => {
                check_header(&bytes, &format)?;
                return deferred(Work::Bitmap, bytes);
            }
            None => {}
        }
        let directory = Directory::read(&bytes, face_offset(&bytes, face)?)?;
        // Fonts of strikes alone may have an empty table of outlines.
        let has = |tag| directory.range(&bytes, tag).is_some_and(|r| !r.is_empty());
        let has_outlines = has(b"glyf") || has(b"CFF ") || has(b"CFF2");
        if has(b"EBLC") && (!has_outlines || is_blank(&directory, &bytes)?) {
            let sizes = embedded_sizes(&directory, &bytes)?;
            if let Some(largest) = sizes.into_iter().max() {
                return deferred(Work::Strike(largest), bytes);
            }
        }
        let has_strikes = (has(b"CBDT") && has(b"CBLC")) || has(b"sbix");
        let colors = [b"SVG ", b"CBDT"].into_iter().find(|tag| has(tag));
        if let (false, false, Some(tag)) = (has_outlines, has_strikes, colors) {
            return Err(FontError::ColorOnly(Tag::new(tag)));
        }
        let data = FaceData::open(bytes, face, limits, None, Setting::default())?;
        Ok(data.into())
    }

    #[cfg(feature = "files")]
    /// Opens a picture sheet: a TOML description (`docs/picture-sheet.md`), and
    /// pictures that `open` gets for the names in it.
    ///
    /// # Errors
    /// [`FontError::Line`] with the line of the description that is wrong or
    /// doesn't fit its picture, [`FontError::SheetPicture`] where `open` fails.
    pub fn from_sheet(
        description: &str,
        mut open: impl FnMut(&str) -> Result<Image, ImageError>,
    ) -> Result<Self, FontError> {
        let sheet = read_sheet(description, &mut open)?;
        let data = FaceData::of_strike(sheet, &Limits::default(), None)?;
        Ok(data.into())
    }
}

/// The face of a picture sheet, where a file is the description of one.
#[cfg(feature = "files")]
pub(super) fn sheet_at(
    path: &FilePath,
    bytes: &[u8],
    limits: &Limits,
    read: &mut impl FnMut(&FilePath) -> io::Result<Vec<u8>>,
) -> Option<Result<Face, FontError>> {
    path.extension().filter(|extension| *extension == "toml")?;
    let folder = path.parent().unwrap_or(FilePath::new(""));
    let text = String::from_utf8_lossy(bytes);
    Some(Face::from_sheet(&text, |name| {
        Image::from_png_read(&folder.join(name), limits, &mut *read)
    }))
}

/// Without the feature `files` there are no picture sheets.
#[cfg(not(feature = "files"))]
pub(super) fn sheet_at(
    _: &FilePath,
    _: &[u8],
    _: &Limits,
    _: &mut impl FnMut(&FilePath) -> io::Result<Vec<u8>>,
) -> Option<Result<Face, FontError>> {
    None
}

impl From<FaceData> for Face {
    fn from(data: FaceData) -> Self {
        Self(Arc::new(data.into()))
    }
}

/// Returns whether a font has TrueType outlines, none of which but that of `.notdef` draws
/// anything.
pub(super) fn is_blank(directory: &Directory, bytes: &[u8]) -> Result<bool, FontError> {
    if directory.range(bytes, b"glyf").is_none() {
        return Ok(false);
    }
    let head = read_head(directory, bytes)?;
    let count = GlyphMetrics::read(directory, bytes)?.count();
    let locations = GlyphLocations::read(directory, bytes, head.wide_locations, count)?;
    let mut glyphs = (1..count).map(GlyphId);
    Ok(glyphs.all(|glyph| matches!(locations.glyph(bytes, glyph), Ok(None))))
}

impl FaceData {
    pub(super) fn open(
        bytes: SharedBytes,
        face: u32,
        limits: Limits,
        strike: Option<StrikeOrigin>,
        setting: Setting,
    ) -> Result<Self, FontError> {
        let places = setting.places;
        let directory = Directory::read(&bytes, face_offset(&bytes, face)?)?;
        let head = read_head(&directory, &bytes)?;
        let glyph_metrics = GlyphMetrics::read(&directory, &bytes)?;
        let outlines = match CffOutlines::read(&directory, &bytes, &places)? {
            Some(cff) => Outlines::PostScript(Box::new(cff)),
            None => {
                let (wide, count) = (head.wide_locations, glyph_metrics.count());
                Outlines::TrueType(match ColorStrikes::find(&directory, &bytes) {
                    Some(_) if directory.range(&bytes, b"glyf").is_none() => {
                        GlyphLocations::none(count)
                    }
                    _ => GlyphLocations::read(&directory, &bytes, wide, count)?,
                })
            }
        };
        let colors = FaceColors::read(&directory, &bytes, &places, setting.palette)?;
        let mut notes = directory.unread_tables(&bytes);
        let char_map = CharMap::read(&directory, &bytes, &mut notes)?;
        let kern = KernPairs::read(&directory, &bytes, &mut notes)?;
        let mut metrics = read_metrics(&directory, &bytes, &head)?;
        let mut variation = None;
        let advances = LazyPages::new(glyph_metrics.count().into());
        if places.iter().any(|place| *place != 0.0) {
            if let Some(mvar) = ItemVariations::read(&directory, &bytes, b"MVAR", &places)? {
                vary_metrics(&mut metrics, &mvar, &bytes)?;
            }
            let advances = ItemVariations::read(&directory, &bytes, b"HVAR", &places)?;
            variation = Some(Variation {
                glyphs: GlyphVariations::read(&directory, &bytes, &places)?,
                advances,
                heights: ItemVariations::read(&directory, &bytes, b"VVAR", &places)?,
            });
        }
        Ok(Self {
            vertical: GlyphMetrics::read_vertical(&directory, &bytes)?,
            layout: LayoutTables::read(&directory, &bytes, &places)?,
            bytes,
            limits,
            directory,
            metrics,
            glyph_metrics,
            outlines,
            char_map,
            kern,
            notes,
            index: face,
            places,
            variation,
            strike,
            synthesis: setting.synthesis,
            colors,
            advances,
            boxes: LazyCells::default(),
            overlaps: LazyCells::default(),
            fault: None,
            grid: OnceLock::new(),
            zones: OnceLock::new(),
            id: OnceLock::new(),
        })
    }
}

impl Face {
    /// The number of faces the bytes of a font file hold: 1, or more in a collection.
    ///
    /// # Errors
    /// [`FontError::Table`] where the header of a collection is cut short.
    pub fn count_in(bytes: &[u8]) -> Result<u32, FontError> {
        face_count(bytes)
    }

    /// Reads a file and opens the face in it, the first one of a collection; or a
    /// picture sheet by its description (`.toml`), whose pictures lie beside it.
    ///
    /// # Errors
    /// [`FontError::Io`] where the file can't be read, else
    /// [`FontError::InFile`] around what [`Face::from_bytes`] says.
    pub fn from_file(path: impl AsRef<FilePath>) -> Result<Self, FontError> {
        Self::from_file_with(path, 0, Limits::default())
    }

    /// As [`Face::from_file`], for any face of a collection and under other
    /// [`Limits`].
    ///
    /// # Errors
    /// As [`Face::from_file`].
    pub fn from_file_with(
        path: impl AsRef<FilePath>,
        face: u32,
        limits: Limits,
    ) -> Result<Self, FontError> {
        Self::from_file_through(path, face, &FileReader::new(limits))
    }

    /// As [`Face::from_file_with`], where `files` says what may be read: a picture sheet names
    /// other files.
    ///
    /// # Errors
    /// As [`Face::from_file`].
    pub fn from_file_through(
        path: impl AsRef<FilePath>,
        face: u32,
        files: &FileReader,
    ) -> Result<Self, FontError> {
        let limits = files.limits().clone();
        Self::from_files(path.as_ref(), face, limits, |path| files.read(path))
    }

    /// As [`Face::from_file_with`], where `read` reads the file and those that it
    /// names.
    pub(crate) fn from_files(
        path: &FilePath,
        face: u32,
        limits: Limits,
        mut read: impl FnMut(&FilePath) -> io::Result<Vec<u8>>,
    ) -> Result<Self, FontError> {
        let bytes = read(path).map_err(|source| FontError::Io {
            path: path.to_owned(),
            source,
        })?;
        let opened = match sheet_at(path, &bytes, &limits, &mut read) {
            Some(opened) => opened,
            None => {
                let face = Self::from_bytes_with(bytes, face, limits);
                face.and_then(|face| face.prepare().map(|()| face))
            }
        };
        opened.map_err(|error| FontError::InFile {
            path: path.to_owned(),
            source: Box::new(error),
        })
    }

    /// The same face of the same file with other axes (or the same ones) and
    /// another synthesis.
    pub(in crate::font) fn reopened(
        &self,
        places: Option<Vec<f32>>,
        synthesis: Synthesis,
    ) -> Result<Self, FontError> {
        let data = &**self.0;
        self.reopened_with(Setting {
            places: places.unwrap_or_else(|| data.places.clone()),
            synthesis,
            palette: data.colors.palette.clone(),
        })
    }

    /// The same face of the same file with another setting.
    pub(super) fn reopened_with(&self, setting: Setting) -> Result<Self, FontError> {
        self.0.usable()?;
        let data = &**self.0;
        let opened = FaceData::open(
            data.bytes.clone(),
            data.index,
            data.limits.clone(),
            data.strike.clone(),
            setting,
        )?;
        Ok(opened.into())
    }

    /// The style that was made from the outlines, if any: a face that says so is
    /// not as its designer drew it.
    pub fn synthesis(&self) -> Option<Synthesis> {
        let synthesis = self.0.synthesis;
        (!synthesis.is_none()).then_some(synthesis)
    }

    /// Measures of the whole face.
    pub fn metrics(&self) -> &Metrics {
        &self.0.metrics
    }

    /// The number of glyphs the face has (`maxp`).
    pub fn glyph_count(&self) -> u16 {
        self.0.glyph_metrics.count()
    }

    /// A text of the `name` table, in English where the face has it.
    pub fn name(&self, name: NameId) -> Option<String> {
        read_name(&self.0.directory, &self.0.bytes, name)
    }

    /// “Family Style”, for messages; “unnamed face” where the font has no name.
    /// Says so where the style is synthetic.
    pub fn full_name(&self) -> String {
        let name = self
            .name(NameId::FULL)
            .or_else(|| self.name(NameId::FAMILY))
            .unwrap_or_else(|| "unnamed face".to_owned());
        match self.synthesis() {
            Some(synthesis) => format!("{name} ({})", synthesis.name()),
            None => name,
        }
    }

    /// The tables of the file, in the directory's order.
    pub fn tables(&self) -> impl Iterator<Item = TableRecord> + '_ {
        self.0.directory.records(&self.0.bytes)
    }

    /// Notes on parts of the font that are not read or had to be overlooked.
    pub fn notes(&self) -> &[FaceNote] {
        &self.0.notes
    }

    /// Caps that the face was opened under.
    pub fn limits(&self) -> &Limits {
        &self.0.limits
    }

    /// Returns whether both handles are of one face: opened once, or of one [`FaceId`].
    pub fn is_same(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.0, &other.0) || self.id() == other.id()
    }
}

impl fmt::Debug for Face {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(
            f,
            "Face({:?}, {} glyphs)",
            self.full_name(),
            self.glyph_count()
        )
    }
}

impl PartialEq for Face {
    /// Two handles are equal when they are of one face.
    fn eq(&self, other: &Self) -> bool {
        self.is_same(other)
    }
}
