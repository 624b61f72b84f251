//! One font in one style.

use std::borrow::Cow;
use std::fmt;
use std::path::Path as FilePath;
use std::sync::{Arc, OnceLock};

use super::bitmap::{embedded_sizes, from_bitmap, from_embedded};
use super::outline::{Extent, Path};
use super::sheet::{GlyphPictures, read as read_sheet};
use super::tables::{
    AxisRecord, CffOutlines, CharMap, Directory, GlyphLocations, GlyphMetrics, GlyphPoints,
    GlyphVariations, InstanceRecord, ItemVariations, KernPairs, NameId, PairLookups, TableRecord,
    face_count, face_offset, normalize, read_axes, read_glyph_name, read_head, read_instances,
    read_metrics, read_name, unpack_woff,
};
use super::{FontBounds, FontBytes, FontError, GlyphPicture, Metrics, Outline, Synthesis, Tag};
use crate::base::{Image, ImageError, Limits};

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
/// few hundred nanoseconds for a small font and for a large one.
///
/// ```no_run
/// use kerno::{Face, Outline};
/// let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let glyph = face.glyph('A').expect("a Latin face");
/// println!("{} of {} units wide", face.advance(glyph), face.metrics().units_per_em);
/// let mut outline = Outline::new();
/// face.outline(glyph, &mut outline)?;
/// # Ok::<(), kerno::FontError>(())
/// ```
#[derive(Clone)]
pub struct Face(pub(super) Arc<FaceData>);

/// What opening a face has learned. Ranges and numbers only: the tables stay
/// in `bytes` and are read when asked for.
pub(super) struct FaceData {
    bytes: FontBytes,
    limits: Limits,
    directory: Directory,
    metrics: Metrics,
    glyph_metrics: GlyphMetrics,
    outlines: Outlines,
    char_map: Option<CharMap>,
    vertical: Option<GlyphMetrics>,
    pairs: Option<PairLookups>,
    kern: KernPairs,
    notes: Vec<FaceNote>,
    /// Which face of the file.
    index: u32,
    /// Where each axis is, from -1 to 1.
    places: Vec<f32>,
    /// What follows from that, where it is not the default.
    variation: Option<Variation>,
    /// Where the pixels come from that the outlines are squares of.
    strike: Option<StrikeOrigin>,
    synthesis: Synthesis,
    /// What [`Face::pixels_per_em`] found.
    pub(super) grid: OnceLock<Option<f32>>,
}

/// What a face can be opened with.
#[derive(Default)]
struct Setting {
    /// Each axis from -1 to 1; at their defaults where there are none.
    places: Vec<f32>,
    /// A style made from the outlines.
    synthesis: Synthesis,
}

/// The bitmap strike that a face was made of.
#[derive(Clone)]
struct StrikeOrigin {
    pixels: u16,
    /// Those of a picture sheet.
    pictures: Option<Arc<GlyphPictures>>,
    /// The OpenType font that it is in, and which face of it.
    font: Option<(FontBytes, u32)>,
}

/// How a face differs from the default of its variable font.
struct Variation {
    glyphs: Option<GlyphVariations>,
    advances: Option<ItemVariations>,
}

/// An axis of a variable font.
#[derive(Clone, Debug, PartialEq)]
pub struct Axis {
    /// Its tag, such as `wght`.
    pub tag: Tag,
    /// Its name for people, where the font has one.
    pub name: Option<String>,
    /// The lowest setting.
    pub low: f32,
    /// The setting of the face as it is opened.
    pub default: f32,
    /// The highest setting.
    pub high: f32,
}

/// A setting of all axes that the font has a name for.
#[derive(Clone, Debug, PartialEq)]
pub struct NamedInstance {
    /// Such as “Condensed Bold”.
    pub name: String,
    /// The axes in the order of [`Face::axes`], ready for [`Face::instance`].
    pub settings: Vec<(Tag, f32)>,
}

/// Where the outlines are.
enum Outlines {
    TrueType(GlyphLocations),
    PostScript(Box<CffOutlines>),
}

/// Something in a font that Kerno does not read or had to overlook, for
/// [`Face::notes`].
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FaceNote {
    /// The table concerned.
    pub table: Tag,
    /// What is missing because of it, in a sentence.
    pub text: Cow<'static, str>,
}

impl Face {
    /// Opens a face from the bytes of a TrueType or OpenType font, the first one
    /// of a collection; or of a bitmap font (BDF, PCF, PSF), whose pixels become squares.
    /// A WOFF file is unpacked first and a bitmap font made over; nothing else is
    /// copied.
    ///
    /// # Errors
    /// [`FontError`] where the bytes are no such font, a needed table is missing
    /// or damaged, or a table reaches past the end.
    pub fn from_bytes(bytes: impl Into<FontBytes>) -> Result<Self, FontError> {
        Self::from_bytes_with(bytes, 0, Limits::default())
    }

    /// As [`Face::from_bytes`], for any face of a collection (counted from 0; see
    /// [`Face::count_in`]) and under other [`Limits`].
    ///
    /// # Errors
    /// As [`Face::from_bytes`]; [`FontError::NoSuchFace`] where there are not as
    /// many faces.
    pub fn from_bytes_with(
        bytes: impl Into<FontBytes>,
        face: u32,
        limits: Limits,
    ) -> Result<Self, FontError> {
        let mut bytes = bytes.into();
        if bytes.starts_with(b"wOFF") {
            bytes = unpack_woff(&bytes, &limits)?.into();
        } else if let Some((font, pixels)) = from_bitmap(&bytes, &limits)? {
            let strike = StrikeOrigin {
                pixels,
                pictures: None,
                font: None,
            };
            return Self::open(font.into(), face, limits, Some(strike), Setting::default());
        }
        let directory = Directory::read(&bytes, face_offset(&bytes, face)?)?;
        // Fonts of strikes alone may have an empty table of outlines.
        let has = |tag| directory.range(&bytes, tag).is_some_and(|r| !r.is_empty());
        if !has(b"glyf") && !has(b"CFF ") && !has(b"CFF2") {
            let sizes = embedded_sizes(&directory, &bytes)?;
            if let Some(largest) = sizes.into_iter().max() {
                return Self::open_strike(&bytes, face, &limits, largest);
            }
        }
        Self::open(bytes, face, limits, None, Setting::default())
    }

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
        let strike = StrikeOrigin {
            pixels: sheet.pixels,
            pictures: sheet.pictures,
            font: None,
        };
        let limits = Limits::default();
        Self::open(
            sheet.font.into(),
            0,
            limits,
            Some(strike),
            Setting::default(),
        )
    }

    /// The picture of a glyph, in a face of a picture sheet whose colours are kept
    /// or whose edges are soft; at [`Face::strike_size`] pixels per em.
    pub fn picture(&self, glyph: GlyphId) -> Option<&GlyphPicture> {
        let pictures = self.0.strike.as_ref()?.pictures.as_ref()?;
        // A style that was made is made of the outlines.
        pictures.get(glyph).filter(|_| self.0.synthesis.is_none())
    }

    /// Opens one of the strikes inside an OpenType font.
    fn open_strike(
        bytes: &FontBytes,
        face: u32,
        limits: &Limits,
        pixels: u16,
    ) -> Result<Self, FontError> {
        let directory = Directory::read(bytes, face_offset(bytes, face)?)?;
        let (font, pixels) = from_embedded(&directory, bytes, pixels, limits)?;
        let strike = StrikeOrigin {
            pixels,
            pictures: None,
            font: Some((bytes.clone(), face)),
        };
        Self::open(
            font.into(),
            0,
            limits.clone(),
            Some(strike),
            Setting::default(),
        )
    }

    /// For a face made of a bitmap strike, how many pixels its em has: it is drawn
    /// at whole multiples of them. `None` for a face of outlines.
    pub fn strike_size(&self) -> Option<u16> {
        Some(self.0.strike.as_ref()?.pixels)
    }

    /// Pixels per em of the bitmap strikes that the font has, ready for
    /// [`Face::strike`]: one for a bitmap font, any number inside an OpenType font
    /// (`EBLC`).
    ///
    /// # Errors
    /// [`FontError::Table`] where `EBLC` is damaged.
    pub fn strike_sizes(&self) -> Result<Vec<u16>, FontError> {
        if let Some(StrikeOrigin {
            pixels, font: None, ..
        }) = &self.0.strike
        {
            return Ok(vec![*pixels]);
        }
        let (bytes, face) = self.strike_font();
        let directory = Directory::read(bytes, face_offset(bytes, face)?)?;
        embedded_sizes(&directory, bytes)
    }

    /// One of the bitmap strikes of the font as a face of its own, whose outlines
    /// are the squares of its pixels. A font without outlines is opened with its
    /// largest.
    ///
    /// # Errors
    /// [`FontError::NoSuchStrike`], with the sizes there are;
    /// [`FontError::Table`] where `EBLC` or `EBDT` is damaged.
    pub fn strike(&self, pixels: u16) -> Result<Self, FontError> {
        match &self.0.strike {
            Some(strike) if strike.pixels == pixels => Ok(self.clone()),
            Some(StrikeOrigin {
                pixels: own,
                font: None,
                ..
            }) => Err(FontError::NoSuchStrike {
                pixels,
                known: vec![*own],
            }),
            _ => {
                let (bytes, face) = self.strike_font();
                Self::open_strike(bytes, face, &self.0.limits, pixels)
            }
        }
    }

    /// The font that the strikes are in.
    fn strike_font(&self) -> (&FontBytes, u32) {
        match &self.0.strike {
            Some(StrikeOrigin {
                font: Some((bytes, face)),
                ..
            }) => (bytes, *face),
            _ => (&self.0.bytes, self.0.index),
        }
    }

    fn open(
        bytes: FontBytes,
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
                Outlines::TrueType(GlyphLocations::read(&directory, &bytes, wide, count)?)
            }
        };
        let mut notes = directory.unread_tables(&bytes);
        let char_map = CharMap::read(&directory, &bytes, &mut notes)?;
        let kern = KernPairs::read(&directory, &bytes, &mut notes)?;
        let mut metrics = read_metrics(&directory, &bytes, &head)?;
        let mut variation = None;
        if places.iter().any(|place| *place != 0.0) {
            if let Some(mvar) = ItemVariations::read(&directory, &bytes, b"MVAR", &places) {
                vary_metrics(&mut metrics, &mvar, &bytes)?;
            }
            let advances = ItemVariations::read(&directory, &bytes, b"HVAR", &places);
            if let Some(advances) = &advances {
                advances.check_advances(&bytes)?;
            }
            variation = Some(Variation {
                glyphs: GlyphVariations::read(&directory, &bytes, &places)?,
                advances,
            });
        }
        Ok(Self(Arc::new(FaceData {
            vertical: GlyphMetrics::read_vertical(&directory, &bytes)?,
            pairs: PairLookups::read(&directory, &bytes)?,
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
            grid: OnceLock::new(),
        })))
    }

    /// How many faces the bytes of a font file hold: 1, or more in a collection.
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
        let path = path.as_ref();
        let bytes = std::fs::read(path).map_err(|source| FontError::Io {
            path: path.to_owned(),
            source,
        })?;
        let opened = if path
            .extension()
            .is_some_and(|extension| extension == "toml")
        {
            let folder = path.parent().unwrap_or(FilePath::new(""));
            let text = String::from_utf8_lossy(&bytes);
            Self::from_sheet(&text, |name| Image::from_png_file(folder.join(name)))
        } else {
            Self::from_bytes_with(bytes, face, limits)
        };
        opened.map_err(|error| FontError::InFile {
            path: path.to_owned(),
            source: Box::new(error),
        })
    }

    /// The axes of a variable font; none in any other.
    ///
    /// # Errors
    /// [`FontError::Table`] where `fvar` is damaged.
    pub fn axes(&self) -> Result<Vec<Axis>, FontError> {
        let axis = |record: AxisRecord| Axis {
            tag: record.tag,
            name: self.name(NameId(record.name)),
            low: record.low,
            default: record.default,
            high: record.high,
        };
        Ok(self.axis_records()?.into_iter().map(axis).collect())
    }

    fn axis_records(&self) -> Result<Vec<AxisRecord>, FontError> {
        read_axes(&self.0.directory, &self.0.bytes)
    }

    /// The settings of the axes that the font has names for.
    ///
    /// # Errors
    /// [`FontError::Table`] where `fvar` is damaged.
    pub fn named_instances(&self) -> Result<Vec<NamedInstance>, FontError> {
        let axes = self.axis_records()?;
        let records = read_instances(&self.0.directory, &self.0.bytes)?;
        let instance = |record: InstanceRecord| NamedInstance {
            name: self.name(NameId(record.name)).unwrap_or_default(),
            settings: axes
                .iter()
                .map(|axis| axis.tag)
                .zip(record.values)
                .collect(),
        };
        Ok(records.into_iter().map(instance).collect())
    }

    /// The face at another setting of its axes: a face of its own, over the same
    /// bytes. Axes that are not named stay at their defaults; a setting beyond
    /// an axis's end counts as that end.
    ///
    /// ```no_run
    /// # use kerno::{Face, Tag};
    /// # let face = Face::from_file("a-variable-font.ttf").unwrap();
    /// let bold = face.instance(&[(Tag::new(b"wght"), 700.0)])?;
    /// # Ok::<(), kerno::FontError>(())
    /// ```
    ///
    /// # Errors
    /// [`FontError::NoSuchAxis`], with the axes that there are; or
    /// [`FontError::Table`] where a variation table is damaged.
    pub fn instance(&self, settings: &[(Tag, f32)]) -> Result<Self, FontError> {
        let data = &*self.0;
        let axes = self.axis_records()?;
        let mut values: Vec<f32> = axes.iter().map(|axis| axis.default).collect();
        for (tag, value) in settings {
            let Some(index) = axes.iter().position(|axis| axis.tag == *tag) else {
                return Err(FontError::NoSuchAxis {
                    axis: *tag,
                    known: axes.iter().map(|axis| axis.tag).collect(),
                });
            };
            values[index] = *value;
        }
        let places = normalize(&data.directory, &data.bytes, &axes, &values)?;
        self.reopened(Some(places), data.synthesis)
    }

    /// The same face of the same file with other axes (or the same ones) and
    /// another synthesis.
    pub(super) fn reopened(
        &self,
        places: Option<Vec<f32>>,
        synthesis: Synthesis,
    ) -> Result<Self, FontError> {
        let data = &*self.0;
        let places = places.unwrap_or_else(|| data.places.clone());
        Self::open(
            data.bytes.clone(),
            data.index,
            data.limits.clone(),
            data.strike.clone(),
            Setting { places, synthesis },
        )
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

    /// How many glyphs the face has (`maxp`).
    pub fn glyph_count(&self) -> u16 {
        self.0.glyph_metrics.count()
    }

    /// The glyph for a character, or `None` where the face has none (`cmap`).
    pub fn glyph(&self, character: char) -> Option<GlyphId> {
        self.0.char_map.as_ref()?.glyph(&self.0.bytes, character)
    }

    /// The name of a glyph in the font (`post`, or the charset of `CFF `), such as
    /// `eacute`; `None` where it has none.
    pub fn glyph_name(&self, glyph: GlyphId) -> Option<String> {
        let data = &*self.0;
        if glyph.0 >= self.glyph_count() {
            return None;
        }
        let own = match &data.outlines {
            Outlines::PostScript(cff) => cff.glyph_name(&data.bytes, glyph),
            Outlines::TrueType(_) => None,
        };
        own.or_else(|| read_glyph_name(&data.directory, &data.bytes, glyph))
    }

    /// Every character of the face with its glyph, in code point order.
    pub fn characters(&self) -> impl Iterator<Item = (char, GlyphId)> + '_ {
        self.0
            .char_map
            .iter()
            .flat_map(|map| map.characters(&self.0.bytes))
    }

    /// How far the pen moves after the glyph, in font units (`hmtx`); 0 for a
    /// glyph that the face doesn't have.
    pub fn advance(&self, glyph: GlyphId) -> u16 {
        let data = &*self.0;
        let advance = data.glyph_metrics.advance(&data.bytes, glyph);
        if data.variation.is_none() && data.synthesis.is_none() {
            return advance;
        }
        let varied = data
            .variation
            .as_ref()
            .filter(|_| glyph.0 < self.glyph_count())
            .map(|variation| self.advance_growth(variation, glyph));
        let advance = f32::from(advance) + varied.and_then(Result::ok).unwrap_or(0.0);
        // A mark that takes no room still takes none when it gets bolder.
        let growth = match advance {
            0.0 => 0.0,
            _ => data.synthesis.growth(data.metrics.units_per_em),
        };
        (advance + growth).round() as u16
    }

    /// How much wider the advance is than that of the default, by `HVAR` or, in
    /// a font without, by the phantom points.
    fn advance_growth(&self, variation: &Variation, glyph: GlyphId) -> Result<f32, FontError> {
        let data = &*self.0;
        match (&variation.advances, &variation.glyphs, &data.outlines) {
            (Some(advances), ..) => advances.advance(&data.bytes, glyph),
            (None, Some(glyphs), Outlines::TrueType(locations)) => locations
                .phantom_deltas(&data.bytes, glyph, &data.limits, glyphs)
                .map(|deltas| deltas.advance),
            _ => Ok(0.0),
        }
    }

    /// From the pen to the left edge of the glyph's ink, in font units (`hmtx`;
    /// for an instance of a variable font or a synthetic style from the outline).
    pub fn left_side_bearing(&self, glyph: GlyphId) -> i16 {
        if (self.0.variation.is_some() || !self.0.synthesis.is_none())
            && let Ok(Some(bounds)) = self.bounds(glyph)
        {
            return bounds.x_min;
        }
        self.stated_bearing(glyph)
    }

    fn stated_bearing(&self, glyph: GlyphId) -> i16 {
        self.0.glyph_metrics.side_bearing(&self.0.bytes, glyph)
    }

    fn varied_glyphs(&self) -> Option<&GlyphVariations> {
        self.0.variation.as_ref()?.glyphs.as_ref()
    }

    /// How far down the pen moves after the glyph in an upright line, in font
    /// units (`vmtx`); `None` where the face has no vertical metrics.
    pub fn vertical_advance(&self, glyph: GlyphId) -> Option<u16> {
        let vertical = self.0.vertical.as_ref()?;
        Some(vertical.advance(&self.0.bytes, glyph))
    }

    /// From the top of its upright advance down to the glyph's ink, in font units
    /// (`vmtx`).
    pub fn top_side_bearing(&self, glyph: GlyphId) -> Option<i16> {
        let vertical = self.0.vertical.as_ref()?;
        Some(vertical.side_bearing(&self.0.bytes, glyph))
    }

    /// The glyph for a character with a variation selector behind it, where the
    /// face knows the sequence (`cmap` format 14).
    pub fn variant_glyph(&self, character: char, selector: char) -> Option<GlyphId> {
        let map = self.0.char_map.as_ref()?;
        map.variant(&self.0.bytes, character, selector)
    }

    /// How much closer (negative) or farther two neighbours stand than their
    /// advances say, in font units: by `GPOS` pair adjustment where the face has
    /// the feature `kern`, else by the table `kern` (OpenType recommends this
    /// order).
    pub fn kerning(&self, left: GlyphId, right: GlyphId) -> i32 {
        match &self.0.pairs {
            Some(pairs) => pairs.pair(&self.0.bytes, left, right),
            None => self.0.kern.pair(&self.0.bytes, left, right),
        }
    }

    /// Whether the face kerns at all.
    pub fn has_kerning(&self) -> bool {
        self.0.pairs.is_some() || !self.0.kern.is_empty()
    }

    /// The box of a glyph's ink in font units; `None` for one without ink. For
    /// TrueType outlines what the `glyf` header states, moved so that its left
    /// edge is the left side bearing; for PostScript outlines, which state none,
    /// taken from the outline, outwards to whole units.
    ///
    /// # Errors
    /// [`FontError::NoSuchGlyph`], or [`FontError::Table`] where `loca` or
    /// `glyf` is damaged.
    pub fn bounds(&self, glyph: GlyphId) -> Result<Option<FontBounds>, FontError> {
        let data = &*self.0;
        if !data.synthesis.is_none() {
            let mut outline = Outline::new();
            self.outline(glyph, &mut outline)?;
            return Ok(Extent::of(&outline).bounds());
        }
        let stated = match &data.outlines {
            Outlines::TrueType(_) if self.varied_glyphs().is_some() => {
                let mut extent = Extent::new();
                self.trace(glyph, &mut GlyphPoints::default(), &mut extent)?;
                return Ok(extent.bounds());
            }
            Outlines::TrueType(locations) => locations.bounds(&data.bytes, glyph)?,
            Outlines::PostScript(cff) => {
                let mut extent = Extent::new();
                cff.draw(&data.bytes, glyph, &data.limits, &mut extent)?;
                return Ok(extent.bounds());
            }
        };
        let Some(stated) = stated else {
            return Ok(None);
        };
        let shift = self.stated_bearing(glyph).wrapping_sub(stated.x_min);
        Ok(Some(FontBounds {
            x_min: stated.x_min.wrapping_add(shift),
            x_max: stated.x_max.wrapping_add(shift),
            ..stated
        }))
    }

    /// Writes the outline of a glyph into `outline`, in font units; a TrueType one
    /// with its xMin on the left side bearing. A glyph without ink leaves it
    /// empty. Allocates nothing once `outline` has grown to the size of the face's
    /// glyphs.
    ///
    /// # Errors
    /// [`FontError::NoSuchGlyph`]; [`FontError::Table`] where the glyph's data
    /// is damaged; [`FontError::Limit`] where a composite nests too deep (also
    /// when it contains itself) or has too many parts or points.
    pub fn outline(&self, glyph: GlyphId, outline: &mut Outline) -> Result<(), FontError> {
        outline.clear();
        self.trace(glyph, &mut outline.working, &mut outline.contours)?;
        if !self.0.synthesis.is_none() {
            self.0.synthesis.apply(self.0.metrics.units_per_em, outline);
        }
        Ok(())
    }

    /// Draws a glyph on a path; `points` is working memory.
    fn trace(
        &self,
        glyph: GlyphId,
        points: &mut GlyphPoints,
        path: &mut impl Path,
    ) -> Result<(), FontError> {
        let data = &*self.0;
        let locations = match &data.outlines {
            Outlines::TrueType(locations) => locations,
            Outlines::PostScript(cff) => {
                return cff.draw(&data.bytes, glyph, &data.limits, path);
            }
        };
        let variations = self.varied_glyphs();
        let loaded = locations.load(&data.bytes, glyph, &data.limits, variations, points)?;
        if let Some((x_min, phantoms)) = loaded {
            // The pen stands on the first phantom point.
            let shift = i32::from(self.stated_bearing(glyph)) - i32::from(x_min);
            points.trace(shift as f32 - phantoms.origin, path);
        }
        Ok(())
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

    /// What this version does not read or had to overlook in the font.
    pub fn notes(&self) -> &[FaceNote] {
        &self.0.notes
    }

    /// Caps that the face was opened under.
    pub fn limits(&self) -> &Limits {
        &self.0.limits
    }

    /// Whether both handles are of one face.
    pub fn is_same(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.0, &other.0)
    }
}

/// Adds what `MVAR` says to the measures of a face (OpenType `MVAR`, “Value tags”).
fn vary_metrics(
    metrics: &mut Metrics,
    mvar: &ItemVariations,
    bytes: &[u8],
) -> Result<(), FontError> {
    let vary = |measure: &mut i16, tag: &[u8; 4]| -> Result<(), FontError> {
        *measure = (f32::from(*measure) + mvar.measure(bytes, tag)?).round() as i16;
        Ok(())
    };
    vary(&mut metrics.ascender, b"hasc")?;
    vary(&mut metrics.descender, b"hdsc")?;
    vary(&mut metrics.line_gap, b"hlgp")?;
    for (height, tag) in [
        (&mut metrics.cap_height, b"cpht"),
        (&mut metrics.x_height, b"xhgt"),
    ] {
        height.as_mut().map_or(Ok(()), |height| vary(height, tag))?;
    }
    for (line, [position, thickness]) in [
        (&mut metrics.underline, [b"undo", b"unds"]),
        (&mut metrics.strikeout, [b"stro", b"strs"]),
    ] {
        if let Some(line) = line {
            vary(&mut line.position, position)?;
            vary(&mut line.thickness, thickness)?;
        }
    }
    Ok(())
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
