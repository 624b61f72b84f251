//! The store of pictures: each is made once and kept on a page.

use std::hash::{Hash, Hasher};

use rustc_hash::{FxHashMap, FxHasher};

use super::baked::{BakedStrikes, LazyFace};
use super::drawn::draw_glyph;
use super::eviction::{BAKED, GlyphKey, KeptGlyph, make_room};
use super::pages::Pages;
use super::sprite::Sprite;
use super::{AtlasError, Page, PageKind, Slot, SpriteId, SpritePicture, TexelRect};
use crate::base::Treatment;
use crate::font::{Face, GlyphId};
use crate::raster::Rasterizer;

/// Options for the pages of an [`Atlas`].
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct AtlasOptions {
    /// Width and height of every page, in texels, 16 to 4096. Default 1024.
    pub page_side: u16,
    /// Free texels around every picture, so that filtering never meets a
    /// neighbour. Default 1.
    pub padding: u16,
    /// The number of places between two pixels a smooth glyph is kept for, 1 to 16:
    /// the more, the more evenly letters stand, and the more room they take; one for
    /// those exactly an em wide, as Han is. Default 4.
    pub steps: u8,
    /// The number of bytes the pages of each kind may take, rounded down to whole
    /// pages, at least one. What was not used for longest makes room for what is
    /// new, but nothing that the frame at hand uses, and no sprites. Default: as
    /// many as can be numbered, 256 pages. Pages of a pack do not count.
    pub budget: Option<usize>,
}

impl Default for AtlasOptions {
    fn default() -> Self {
        Self {
            page_side: 1024,
            padding: 1,
            steps: 4,
            budget: None,
        }
    }
}

/// A request for the picture of a glyph.
#[derive(Clone, Copy, Debug)]
pub struct GlyphSpec<'a> {
    /// The face.
    pub face: &'a Face,
    /// The glyph.
    pub glyph: GlyphId,
    /// Device pixels in the side of the em square.
    pub size: f32,
    /// Position of the pen to the right of a whole pixel, in steps of
    /// 1 / [`AtlasOptions::steps`] device pixel.
    pub step: u8,
    /// Treatment of its shape.
    pub treatment: Treatment,
}

/// Statistics of an atlas, for reports.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct AtlasStatistics {
    /// Glyph pictures with ink.
    pub glyphs: usize,
    /// Sprites, each counted once however many sizes it is kept in.
    pub sprites: usize,
    /// Mask pages.
    pub mask_pages: usize,
    /// Colour pages.
    pub color_pages: usize,
    /// Bytes of all pages together.
    pub texture_bytes: usize,
    /// The number of times that the picture for a missing character (`.notdef`) was asked for.
    pub missing: u64,
}

/// Glyphs and sprites on shared pages. Pictures are made when first asked for,
/// at the size they have on the window, and kept.
#[derive(Debug)]
pub struct Atlas {
    masks: Pages,
    pub(super) colors: Pages,
    rasterizer: Rasterizer,
    /// Keeping the handles keeps the key of a face from being taken by another.
    pub(super) faces: Vec<LazyFace>,
    pub(super) strikes: BakedStrikes,
    steps: u8,
    glyphs: FxHashMap<GlyphKey, KeptGlyph>,
    /// Which frame is being built.
    frame: u64,
    pub(super) sprites: Vec<Sprite>,
    pub(super) names: FxHashMap<String, SpriteId>,
    pub(super) pictures: FxHashMap<(SpriteId, u32, u32), SpritePicture>,
    /// Places of sprites' pictures by a hash of their texels: what looks the same
    /// is kept once.
    stored: FxHashMap<u64, Vec<(u8, TexelRect)>>,
    missing: u64,
}

impl Default for Atlas {
    fn default() -> Self {
        Self::of(AtlasOptions::default())
    }
}

impl Atlas {
    /// An empty atlas.
    ///
    /// # Errors
    /// [`AtlasError::PageSide`] for a page side out of range, [`AtlasError::Steps`]
    /// for a number of steps.
    pub fn new(options: AtlasOptions) -> Result<Self, AtlasError> {
        if !(16..=4096).contains(&options.page_side) {
            return Err(AtlasError::PageSide(options.page_side));
        }
        if !(1..=16).contains(&options.steps) {
            return Err(AtlasError::Steps(options.steps));
        }
        Ok(Self::of(options))
    }

    pub(super) fn of(options: AtlasOptions) -> Self {
        let pages = |kind| Pages::new(kind, options.page_side, options.padding);
        let mut atlas = Self {
            masks: pages(PageKind::Mask),
            colors: pages(PageKind::Color),
            frame: 0,
            rasterizer: Rasterizer::new(),
            faces: Vec::new(),
            strikes: BakedStrikes::default(),
            steps: options.steps,
            glyphs: FxHashMap::default(),
            sprites: Vec::new(),
            names: FxHashMap::default(),
            pictures: FxHashMap::default(),
            stored: FxHashMap::default(),
            missing: 0,
        };
        if let Some(budget) = options.budget {
            atlas.set_budget(budget);
        }
        atlas
    }

    pub(super) fn set_budget(&mut self, bytes: usize) {
        self.masks.set_budget(bytes);
        self.colors.set_budget(bytes);
    }

    pub(super) fn pages_mut(&mut self, kind: PageKind) -> &mut Pages {
        match kind {
            PageKind::Mask => &mut self.masks,
            PageKind::Color => &mut self.colors,
        }
    }

    /// The number of places between two pixels a smooth glyph is kept for.
    pub fn steps(&self) -> u8 {
        self.steps
    }

    /// The place of a glyph's picture, which is made now if it is new; `None`
    /// for a glyph without ink.
    ///
    /// # Errors
    /// [`AtlasError::Raster`] where the glyph is damaged or the size is none,
    /// [`AtlasError::TooLarge`] and [`AtlasError::Full`] where no page has room.
    pub fn glyph(&mut self, spec: &GlyphSpec<'_>) -> Result<Option<Slot>, AtlasError> {
        self.missing += u64::from(spec.glyph == GlyphId::NOTDEF);
        let key = GlyphKey {
            face: self.face_key(spec.face),
            size: spec.size.to_bits(),
            glyph: spec.glyph.0,
            step: spec.step,
            treatment: spec.treatment,
        };
        if let Some(kept) = self.glyphs.get_mut(&key) {
            kept.frame = kept.frame.max(self.frame);
            return Ok(kept.slot);
        }
        let slot = match self.strikes.find(key.face, spec) {
            Some(slot) => {
                let slot = Some(slot);
                self.glyphs.insert(key, KeptGlyph { slot, frame: BAKED });
                return Ok(slot);
            }
            None => self.drawn(spec)?,
        };
        let frame = self.frame;
        self.glyphs.insert(key, KeptGlyph { slot, frame });
        Ok(slot)
    }

    /// Draws a glyph and finds it a place.
    fn drawn(&mut self, spec: &GlyphSpec<'_>) -> Result<Option<Slot>, AtlasError> {
        let mut rasterizer = std::mem::take(&mut self.rasterizer);
        let largest = self.colors.largest_side();
        let drawn = draw_glyph(&mut rasterizer, spec, self.steps, largest);
        let slot = drawn.and_then(|drawn| {
            let Some(drawn) = drawn else {
                return Ok(None);
            };
            let size = (drawn.width, drawn.height);
            let (page, texels) = self.store(drawn.kind, size, &drawn.texels)?;
            Ok(Some(Slot {
                kind: drawn.kind,
                page,
                texels,
                is_rotated: false,
                left: drawn.left,
                top: drawn.top,
            }))
        });
        self.rasterizer = rasterizer;
        slot
    }

    /// Begins another frame: glyphs that it does not ask for may make room for
    /// those it does. To be called once for each frame, before anything is drawn;
    /// who never does loses nothing and frees nothing.
    pub fn begin_frame(&mut self) {
        self.frame += 1;
    }

    /// Says that all pages have been uploaded as they are: from here on
    /// [`Page::changed`] tells what has changed.
    pub fn mark_uploaded(&mut self) {
        self.masks.mark_uploaded();
        self.colors.mark_uploaded();
    }

    /// Stores a sprite's picture, or finds the same one that is there already.
    pub(super) fn store_once(
        &mut self,
        size: (u32, u32),
        bytes: &[u8],
    ) -> Result<(u8, TexelRect), AtlasError> {
        let mut hasher = FxHasher::default();
        (size, bytes).hash(&mut hasher);
        let hash = hasher.finish();
        let alike = self.stored.get(&hash).into_iter().flatten();
        let mut same = alike.filter(|(page, texels)| self.colors.shows(*page, *texels, bytes));
        if let Some(place) = same.next() {
            return Ok(*place);
        }
        let place = self.store(PageKind::Color, size, bytes)?;
        self.stored.entry(hash).or_default().push(place);
        Ok(place)
    }

    /// Stores a picture, where need be in the place of glyphs that are not in use.
    fn store(
        &mut self,
        kind: PageKind,
        size: (u32, u32),
        bytes: &[u8],
    ) -> Result<(u8, TexelRect), AtlasError> {
        // What filters beyond a sprite's edge meets its own colour.
        let extrude = kind == PageKind::Color;
        match self.pages_mut(kind).store(size, bytes, extrude) {
            Err(AtlasError::Full(_)) => {}
            stored => return stored,
        }
        let (pages, sprites) = match kind {
            PageKind::Mask => (&mut self.masks, Vec::new()),
            PageKind::Color => {
                let pictures = self.pictures.values();
                let sprites = pictures.map(|picture| picture.slot).collect();
                (&mut self.colors, sprites)
            }
        };
        make_room(&mut self.glyphs, pages, kind, self.frame, size, &sprites)?;
        pages.store(size, bytes, extrude)
    }

    fn face_key(&mut self, face: &Face) -> u32 {
        let is_same = |known: &LazyFace| known.get().is_some_and(|known| known.is_same(face));
        let known = self.faces.iter().position(is_same);
        let index = known.unwrap_or_else(|| {
            self.faces.push(LazyFace::new(face.clone().into()));
            self.faces.len() - 1
        });
        index as u32
    }

    /// The pages of one kind, in the order of [`Slot::page`].
    pub fn pages(&self, kind: PageKind) -> &[Page] {
        match kind {
            PageKind::Mask => self.masks.as_slice(),
            PageKind::Color => self.colors.as_slice(),
        }
    }

    /// Statistics of what the atlas holds.
    pub fn usage(&self) -> AtlasStatistics {
        let bytes = |pages: &[Page]| pages.iter().map(|page| page.texels().len()).sum::<usize>();
        let is_live = |kept: &&KeptGlyph| kept.slot.is_some() && kept.frame != BAKED;
        let (masks, colors) = (self.masks.as_slice(), self.colors.as_slice());
        AtlasStatistics {
            glyphs: self.glyphs.values().filter(is_live).count() + self.strikes.len(),
            sprites: self.sprites.len(),
            mask_pages: masks.len(),
            color_pages: colors.len(),
            texture_bytes: bytes(masks) + bytes(colors),
            missing: self.missing,
        }
    }
}
