//! The store of pictures: each is made once and kept on a page.

use std::hash::{Hash, Hasher};

use rustc_hash::{FxHashMap, FxHasher};

use super::BoxPicture;
use super::baked::BakedStrikes;
use super::drawn::{draw_corner, draw_glyph};
use super::eviction::make_room;
use super::kept::{BAKED, KeptId, KeptPictures, PictureKey};
use super::pages::{PageCount, Pages};
use super::sprite::Sprite;
use super::{
    AtlasError, AtlasOptions, DrawnPicture, Page, PageKind, Slot, SpriteId, SpritePicture,
    TexelRect,
};
use crate::base::{Color, Stamp, span};
use crate::font::{Face, FaceId, GlyphId};
use crate::raster::{GlyphRequest, Rasterizer};

/// Statistics of an atlas, for reports.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct AtlasStatistics {
    /// Glyph pictures with ink.
    pub glyphs: usize,
    /// Bytes of the glyph pictures that were made at run time, padding not counted: what the
    /// edges and the effects of a style cost.
    pub glyph_bytes: usize,
    /// Sprites, each counted once however many sizes it is kept in.
    pub sprites: usize,
    /// Mask pages.
    pub mask_pages: usize,
    /// Colour pages.
    pub color_pages: usize,
    /// Bytes of all pages together.
    pub texture_bytes: usize,
    /// Bytes of pages that were changed since the atlas was made, which renderers upload: the
    /// difference over a frame is that frame's. A new page counts whole.
    pub changed_bytes: u64,
    /// The number of times that the picture for a missing character (`.notdef`) was asked for.
    pub missing: u64,
    /// Pictures of glyphs that are coarser than they would be, since their outlines ask for more
    /// work than any letter: damaged ones, or made to take long.
    pub coarse: u64,
}

/// Glyphs and sprites on shared pages. Pictures are made when first asked for,
/// at the size they have on the window, and kept.
///
/// Text draws itself from it ([`Scope::text`](crate::draw::Scope::text)); a renderer of one's
/// own asks for pictures and uploads the pages:
///
/// ```no_run
/// use kerno::{Atlas, Face};
/// use kerno::atlas::PageKind;
/// use kerno::raster::GlyphRequest;
/// let face = Face::from_file("fonts/Lato-Medium.ttf")?;
/// let glyph = face.glyph('A').expect("a Latin face");
/// let mut atlas = Atlas::default();
/// if let Some(slot) = atlas.glyph(&GlyphRequest::new(&face, glyph, 24.0))? {
///     let page = &atlas.pages(slot.kind)[usize::from(slot.page)];
///     println!("{:?} of a page {} texels wide", slot.texels, page.width());
/// }
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug)]
pub struct Atlas {
    masks: Pages,
    pub(super) colors: Pages,
    rasterizer: Rasterizer,
    /// The numbers of faces.
    faces: FxHashMap<FaceId, u32>,
    pub(super) strikes: BakedStrikes,
    options: AtlasOptions,
    kept: KeptPictures,
    /// Another one whenever a place that was given out before is no longer so.
    stamp: Stamp,
    /// The frame that is being built.
    frame: u64,
    pub(super) sprites: Vec<Sprite>,
    pub(super) names: FxHashMap<String, SpriteId>,
    pub(super) pictures: FxHashMap<(SpriteId, u32, u32), SpritePicture>,
    /// Places of sprites' pictures by a hash of their texels: what looks the same
    /// is kept once.
    stored: FxHashMap<u64, Vec<(u8, TexelRect)>>,
    missing: u64,
    coarse: u64,
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
    /// [`AtlasError::PageSide`], [`AtlasError::SubpixelPositions`] and
    /// [`AtlasError::MaxPages`] for a number out of range.
    pub fn new(options: AtlasOptions) -> Result<Self, AtlasError> {
        options.check()?;
        Ok(Self::of(options))
    }

    pub(super) fn of(options: AtlasOptions) -> Self {
        let pages = |kind| Pages::new(kind, options.page_side, options.padding);
        let mut atlas = Self {
            masks: pages(PageKind::Mask),
            colors: pages(PageKind::Color),
            frame: 0,
            rasterizer: Rasterizer::new(),
            faces: FxHashMap::default(),
            strikes: BakedStrikes::default(),
            options,
            kept: KeptPictures::default(),
            stamp: Stamp::new(),
            sprites: Vec::new(),
            names: FxHashMap::default(),
            pictures: FxHashMap::default(),
            stored: FxHashMap::default(),
            missing: 0,
            coarse: 0,
        };
        atlas.set_budget();
        atlas
    }

    /// Counts the pages that are still to come against the budget.
    pub(super) fn set_budget(&mut self) {
        let AtlasOptions {
            budget, max_pages, ..
        } = self.options;
        self.masks.set_budget(budget, max_pages);
        self.colors.set_budget(budget, max_pages);
    }

    pub(super) fn pages_mut(&mut self, kind: PageKind) -> &mut Pages {
        match kind {
            PageKind::Mask => &mut self.masks,
            PageKind::Color => &mut self.colors,
        }
    }

    /// The options that it was made with.
    pub fn options(&self) -> &AtlasOptions {
        &self.options
    }

    /// The place of a glyph's picture, which is made now if it is new; `None`
    /// for a glyph without ink.
    ///
    /// # Errors
    /// [`AtlasError::Raster`] where the glyph is damaged or the size is none,
    /// [`AtlasError::TooLarge`] and [`AtlasError::Full`] where no page has room.
    pub fn glyph(&mut self, request: &GlyphRequest<'_>) -> Result<Option<Slot>, AtlasError> {
        let face = self.face_number(request.face);
        Ok(self.kept_glyph(face, request)?.0)
    }

    /// As [`Atlas::glyph`], for a face whose number is known.
    pub(crate) fn kept_glyph(
        &mut self,
        face: u32,
        request: &GlyphRequest<'_>,
    ) -> Result<(Option<Slot>, KeptId), AtlasError> {
        self.missing += u64::from(request.glyph == GlyphId::NOTDEF);
        let key = PictureKey::glyph(face, request);
        if let Some(kept) = self.kept.used(&key, self.frame) {
            return Ok(kept);
        }
        let positions = self.options.subpixel_positions;
        if request.veil.is_empty()
            && request.foreground == Color::BLACK
            && let Some(slot) = self.strikes.find(face, request, positions)
        {
            return Ok((Some(slot), self.kept.add(key, Some(slot), BAKED)));
        }
        span!("draw_glyph", glyph = request.glyph.0);
        let largest = self.colors.largest_side();
        let slot = self.drawn(|rasterizer| draw_glyph(rasterizer, request, largest))?;
        Ok((slot, self.kept.add(key, slot, self.frame)))
    }

    /// The place of the top left quarter of a ring, by its radii in device pixels; of a
    /// disc where the inner one is 0.
    pub(crate) fn corner(&mut self, outer: u16, inner: u16) -> Result<Option<Slot>, AtlasError> {
        let key = PictureKey::Corner { outer, inner };
        self.kept_shape(key, |rasterizer| draw_corner(rasterizer, outer, inner))
    }

    /// The place of the picture of a blurred box.
    pub(crate) fn box_picture(&mut self, picture: &BoxPicture) -> Result<Option<Slot>, AtlasError> {
        let key = PictureKey::Box(*picture);
        self.kept_shape(key, |rasterizer| picture.draw(rasterizer))
    }

    /// The place of a picture that is no glyph's.
    fn kept_shape(
        &mut self,
        key: PictureKey,
        draw: impl FnOnce(&mut Rasterizer) -> Result<Option<DrawnPicture<'_>>, AtlasError>,
    ) -> Result<Option<Slot>, AtlasError> {
        if let Some((slot, _)) = self.kept.used(&key, self.frame) {
            return Ok(slot);
        }
        let slot = self.drawn(draw)?;
        self.kept.add(key, slot, self.frame);
        Ok(slot)
    }

    /// Draws a picture and finds it a place.
    fn drawn(
        &mut self,
        draw: impl FnOnce(&mut Rasterizer) -> Result<Option<DrawnPicture<'_>>, AtlasError>,
    ) -> Result<Option<Slot>, AtlasError> {
        let mut rasterizer = std::mem::take(&mut self.rasterizer);
        let slot = draw(&mut rasterizer).and_then(|drawn| {
            let Some(drawn) = drawn else {
                return Ok(None);
            };
            let size = (drawn.width, drawn.height);
            self.coarse += u64::from(drawn.is_coarse);
            let (page, texels) = self.store(drawn.kind, size, &drawn.texels)?;
            let slot = Slot::new(drawn.kind, page, texels, false);
            let slot = slot.reduced(drawn.left, drawn.top, drawn.reduction);
            Ok(Some(match drawn.shown_height {
                Some(height) => Slot {
                    height: height as f32,
                    ..slot
                },
                None => slot,
            }))
        });
        self.rasterizer = rasterizer;
        slot
    }

    /// Begins another frame: pictures that the last frames did not ask for may make room
    /// for new ones. [`FrameBuilder::begin`](crate::FrameBuilder::begin) does it; only a
    /// renderer that asks for glyphs itself has to, once for each frame.
    pub fn begin_frame(&mut self) {
        self.frame += 1;
    }

    /// Says that pictures are used in this frame as well.
    pub(crate) fn touch(&mut self, ids: &[KeptId]) {
        self.kept.touch(ids, self.frame);
    }

    /// A mark that stays as it is while all places that were given out are valid.
    pub(crate) fn stamp(&self) -> Stamp {
        self.stamp
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
        // A filter beyond a sprite's edge meets its own colour.
        let extrude = kind == PageKind::Color;
        let pages = self.pages_mut(kind);
        match pages.store(size, bytes, extrude, PageCount::WithinBudget) {
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
        let in_flight = u64::from(self.options.frames_in_flight);
        let since = self.frame.saturating_sub(in_flight);
        // Places that were given out may no longer hold.
        self.stamp = Stamp::new();
        match make_room(&mut self.kept, pages, kind, since, size, &sprites) {
            Ok(()) | Err(AtlasError::Full(_)) => {}
            Err(error) => return Err(error),
        }
        pages.store(size, bytes, extrude, PageCount::All)
    }

    /// The number of a face in this atlas.
    pub(crate) fn face_number(&mut self, face: &Face) -> u32 {
        self.number_of(face.id())
    }

    pub(super) fn number_of(&mut self, face: FaceId) -> u32 {
        let next = self.faces.len() as u32;
        *self.faces.entry(face).or_insert(next)
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
        let is_live = |(key, _, last): &(PictureKey, Slot, u64)| {
            matches!(
                key,
                PictureKey::Glyph { .. } | PictureKey::Veiled { .. } | PictureKey::Tinted { .. }
            ) && *last != BAKED
        };
        let live = self.kept.placed().filter(is_live);
        let area = |slot: Slot| usize::from(slot.texels.width) * usize::from(slot.texels.height);
        let (mut glyphs, mut glyph_bytes) = (self.strikes.len(), 0);
        for (_, slot, _) in live {
            glyphs += 1;
            glyph_bytes += area(slot) * slot.kind.texel_bytes();
        }
        let (masks, colors) = (self.masks.as_slice(), self.colors.as_slice());
        let changed = |pages: &[Page]| pages.iter().map(Page::changed_texels).sum::<u64>();
        AtlasStatistics {
            glyphs,
            glyph_bytes,
            sprites: self.sprites.len(),
            mask_pages: masks.len(),
            color_pages: colors.len(),
            texture_bytes: bytes(masks) + bytes(colors),
            changed_bytes: changed(masks) + 4 * changed(colors),
            missing: self.missing,
            coarse: self.coarse,
        }
    }
}
