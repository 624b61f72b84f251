//! The store of pictures: each is made once and kept on a page.

use std::hash::{Hash, Hasher};

use rustc_hash::{FxHashMap, FxHasher};

use super::pages::Pages;
use super::sprite::{Sprite, cut_out, opaque_part};
use super::{
    AtlasError, Page, PageKind, Sampling, SliceFill, Slot, SpriteId, SpriteOptions, SpritePicture,
    TexelRect,
};
use crate::base::{Anchor, Edges, Image, Size, nearest};
use crate::font::{Face, GlyphId, GlyphPicture};
use crate::raster::{GlyphShape, Rasterizer};

/// How an [`Atlas`] lays out its pages.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct AtlasOptions {
    /// Width and height of every page, in texels, 16 to 4096. Default 1024.
    pub page_side: u16,
    /// Free texels around every picture, so that filtering never meets a
    /// neighbour. Default 1.
    pub padding: u16,
    /// How many bytes the pages of each kind may take, rounded down to whole
    /// pages, at least one. What was not used for longest makes room for what is
    /// new, but nothing that the frame at hand uses, and no sprites. Default: as
    /// many as can be numbered, 256 pages.
    pub budget: Option<usize>,
}

impl Default for AtlasOptions {
    fn default() -> Self {
        Self {
            page_side: 1024,
            padding: 1,
            budget: None,
        }
    }
}

/// Which picture of a glyph is wanted.
#[derive(Clone, Copy, Debug)]
pub struct GlyphSpec<'a> {
    /// The face.
    pub face: &'a Face,
    /// The glyph.
    pub glyph: GlyphId,
    /// Device pixels in the side of the em square.
    pub size: f32,
    /// How far right of a whole pixel the pen stands, in steps of
    /// 1 / [`Atlas::STEPS`] device pixel.
    pub step: u8,
    /// Smooth or hard edges.
    pub edges: Edges,
}

/// What tells one glyph picture from another.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
struct GlyphKey {
    face: u32,
    size: u32,
    glyph: u16,
    step: u8,
    edges: Edges,
}

/// A glyph's picture; none for one without ink.
#[derive(Clone, Copy, Debug)]
struct KeptGlyph {
    slot: Option<Slot>,
    /// The last frame that used it.
    frame: u64,
}

/// What an atlas holds, for reports.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct AtlasUse {
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
    /// How often the picture for a missing character (`.notdef`) was asked for.
    pub missing: u64,
}

/// Glyphs and sprites on shared pages. Pictures are made when first asked for,
/// at the size they have on the window, and kept.
#[derive(Debug)]
pub struct Atlas {
    masks: Pages,
    colors: Pages,
    rasterizer: Rasterizer,
    /// Keeping the handles keeps the key of a face from being taken by another.
    faces: Vec<Face>,
    glyphs: FxHashMap<GlyphKey, KeptGlyph>,
    /// Which frame is being built.
    frame: u64,
    sprites: Vec<Sprite>,
    names: FxHashMap<String, SpriteId>,
    pictures: FxHashMap<(SpriteId, u32, u32), SpritePicture>,
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
    /// How many steps of a pixel a smooth glyph is kept in.
    pub const STEPS: u8 = 4;

    /// An empty atlas.
    ///
    /// # Errors
    /// [`AtlasError::PageSide`] for a page side out of range.
    pub fn new(options: AtlasOptions) -> Result<Self, AtlasError> {
        if !(16..=4096).contains(&options.page_side) {
            return Err(AtlasError::PageSide(options.page_side));
        }
        Ok(Self::of(options))
    }

    fn of(options: AtlasOptions) -> Self {
        let pages = |kind| {
            let mut pages = Pages::new(kind, options.page_side, options.padding);
            if let Some(budget) = options.budget {
                pages.set_budget(budget);
            }
            pages
        };
        Self {
            masks: pages(PageKind::Mask),
            colors: pages(PageKind::Color),
            frame: 0,
            rasterizer: Rasterizer::new(),
            faces: Vec::new(),
            glyphs: FxHashMap::default(),
            sprites: Vec::new(),
            names: FxHashMap::default(),
            pictures: FxHashMap::default(),
            stored: FxHashMap::default(),
            missing: 0,
        }
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
            edges: spec.edges,
        };
        if let Some(kept) = self.glyphs.get_mut(&key) {
            kept.frame = self.frame;
            return Ok(kept.slot);
        }
        if let Some(picture) = spec.face.picture(spec.glyph) {
            let slot = Some(self.glyph_picture(spec, picture)?);
            return Ok(self.keep(key, slot));
        }
        let shape = GlyphShape {
            size: spec.size,
            shift_x: f32::from(spec.step) / f32::from(Self::STEPS),
            edges: spec.edges,
        };
        let picture = self.rasterizer.glyph(spec.face, spec.glyph, shape)?;
        if picture.is_empty() {
            return Ok(self.keep(key, None));
        }
        let size = (picture.width, picture.height);
        let stored = match self.masks.store(size, &picture.texels, false) {
            Err(AtlasError::Full(_)) => {
                let kept = &mut self.glyphs;
                make_room(kept, &mut self.masks, PageKind::Mask, self.frame, size, &[])?;
                self.masks.store(size, &picture.texels, false)
            }
            stored => stored,
        };
        let (page, texels) = stored?;
        let slot = Slot {
            kind: PageKind::Mask,
            page,
            texels,
            left: picture.left,
            top: picture.top,
        };
        Ok(self.keep(key, Some(slot)))
    }

    fn keep(&mut self, key: GlyphKey, slot: Option<Slot>) -> Option<Slot> {
        let frame = self.frame;
        self.glyphs.insert(key, KeptGlyph { slot, frame });
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
    fn store_once(
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
        let place = self.store_color(size, bytes)?;
        self.stored.entry(hash).or_default().push(place);
        Ok(place)
    }

    /// The point that a sprite is held by, as its options have it.
    ///
    /// # Panics
    /// If the id is of another atlas that has more sprites.
    pub fn sprite_origin(&self, sprite: SpriteId) -> Anchor {
        self.sprites[sprite.0 as usize].options.origin
    }

    /// How the edges and the middle of a nine-slice fill their room.
    pub(crate) fn slice_fills(&self, sprite: SpriteId) -> (SliceFill, SliceFill) {
        let options = &self.sprites[sprite.0 as usize].options;
        (options.edges, options.middle)
    }

    /// Stores a colour picture, where need be in the place of glyphs that are not
    /// in use.
    fn store_color(
        &mut self,
        size: (u32, u32),
        bytes: &[u8],
    ) -> Result<(u8, TexelRect), AtlasError> {
        match self.colors.store(size, bytes, true) {
            Err(AtlasError::Full(_)) => {
                let sprites: Vec<Slot> =
                    self.pictures.values().map(|picture| picture.slot).collect();
                let kept = &mut self.glyphs;
                make_room(
                    kept,
                    &mut self.colors,
                    PageKind::Color,
                    self.frame,
                    size,
                    &sprites,
                )?;
                self.colors.store(size, bytes, true)
            }
            stored => stored,
        }
    }

    /// Keeps the picture of a glyph that is one, at the nearest whole multiple of
    /// its size.
    fn glyph_picture(
        &mut self,
        spec: &GlyphSpec<'_>,
        picture: &GlyphPicture,
    ) -> Result<Slot, AtlasError> {
        let own = spec.face.strike_size().map_or(spec.size, f32::from);
        let times = (spec.size / own).round().max(1.0) as u32;
        let options = SpriteOptions {
            sampling: Sampling::Nearest,
            ..SpriteOptions::default()
        };
        let sprite = Sprite::new("", &picture.image, options)?;
        let size = (
            picture.image.width().saturating_mul(times),
            picture.image.height().saturating_mul(times),
        );
        self.colors.check_size(size.0, size.1)?;
        let bytes = sprite.resized(size.0, size.1);
        let (page, texels) = self.store_color(size, &bytes)?;
        Ok(Slot {
            kind: PageKind::Color,
            page,
            texels,
            left: picture.left * times as i32,
            top: picture.top * times as i32,
        })
    }

    fn face_key(&mut self, face: &Face) -> u32 {
        let known = self.faces.iter().position(|known| known.is_same(face));
        let index = known.unwrap_or_else(|| {
            self.faces.push(face.clone());
            self.faces.len() - 1
        });
        index as u32
    }

    /// Takes in a sprite under a name.
    ///
    /// # Errors
    /// [`AtlasError::DuplicateSprite`] where the name is taken,
    /// [`AtlasError::BadSprite`] where its numbers are out of range.
    pub fn add_sprite(
        &mut self,
        name: &str,
        image: &Image,
        options: SpriteOptions,
    ) -> Result<SpriteId, AtlasError> {
        if self.names.contains_key(name) {
            return Err(AtlasError::DuplicateSprite(name.to_owned()));
        }
        let id = SpriteId(self.sprites.len() as u32);
        self.sprites.push(Sprite::new(name, image, options)?);
        self.names.insert(name.to_owned(), id);
        Ok(id)
    }

    /// The sprite of a name.
    ///
    /// # Errors
    /// [`AtlasError::NoSuchSprite`], with a name that is nearly the same.
    pub fn sprite(&self, name: &str) -> Result<SpriteId, AtlasError> {
        self.names.get(name).copied().ok_or_else(|| {
            let known = self.sprites.iter().map(|sprite| sprite.name.as_str());
            AtlasError::NoSuchSprite {
                name: name.to_owned(),
                nearest: nearest(name, known).map(str::to_owned),
            }
        })
    }

    /// Every sprite with its name.
    pub fn sprite_names(&self) -> impl Iterator<Item = (&str, SpriteId)> + '_ {
        let numbered = self.sprites.iter().enumerate();
        numbered.map(|(index, sprite)| (sprite.name.as_str(), SpriteId(index as u32)))
    }

    /// A sprite's own size, in design pixels.
    ///
    /// # Panics
    /// If the id is of another atlas that has more sprites.
    pub fn sprite_size(&self, sprite: SpriteId) -> Size {
        self.sprites[sprite.0 as usize].size()
    }

    /// The picture of a sprite at `scale` device pixels per design pixel, which
    /// is made now if it is new.
    pub(crate) fn sprite_picture(
        &mut self,
        id: SpriteId,
        scale: f32,
    ) -> Result<SpritePicture, AtlasError> {
        let sprite = &self.sprites[id.0 as usize];
        let (width, height, enlarged) = sprite.texels_at(scale);
        if let Some(picture) = self.pictures.get(&(id, width, height)) {
            return Ok(SpritePicture {
                enlarged,
                ..*picture
            });
        }
        self.colors.check_size(width, height)?;
        let borders = sprite.borders(width, height);
        let mut bytes = sprite.resized(width, height);
        let mut part = [0, 0, width, height];
        if sprite.may_be_trimmed() {
            part = opaque_part(width, &bytes);
            bytes = cut_out(&bytes, width, part);
        }
        let (page, texels) = self.store_once((part[2], part[3]), &bytes)?;
        let picture = SpritePicture {
            slot: Slot {
                kind: PageKind::Color,
                page,
                texels,
                left: part[0] as i32,
                top: part[1] as i32,
            },
            whole: (width as u16, height as u16),
            borders,
            enlarged,
        };
        self.pictures.insert((id, width, height), picture);
        Ok(picture)
    }

    /// The pages of one kind, in the order of [`Slot::page`].
    pub fn pages(&self, kind: PageKind) -> &[Page] {
        match kind {
            PageKind::Mask => self.masks.as_slice(),
            PageKind::Color => self.colors.as_slice(),
        }
    }

    /// What the atlas holds.
    pub fn usage(&self) -> AtlasUse {
        let bytes = |pages: &[Page]| pages.iter().map(|page| page.texels().len()).sum::<usize>();
        let (masks, colors) = (self.masks.as_slice(), self.colors.as_slice());
        AtlasUse {
            glyphs: self
                .glyphs
                .values()
                .filter(|kept| kept.slot.is_some())
                .count(),
            sprites: self.sprites.len(),
            mask_pages: masks.len(),
            color_pages: colors.len(),
            texture_bytes: bytes(masks) + bytes(colors),
            missing: self.missing,
        }
    }
}

/// How much more is freed at once than is needed: the next glyph comes soon.
const ROOM: u32 = 16;

/// Frees glyphs on full pages, those first that were not used for longest, until a
/// picture of `size` may find room; none that this frame uses. `pinned` pictures
/// stay.
fn make_room(
    glyphs: &mut FxHashMap<GlyphKey, KeptGlyph>,
    pages: &mut Pages,
    kind: PageKind,
    frame: u64,
    size: (u32, u32),
    pinned: &[Slot],
) -> Result<(), AtlasError> {
    let on_page = |(key, kept): (&GlyphKey, &KeptGlyph)| {
        let slot = kept.slot.filter(|slot| slot.kind == kind)?;
        Some((kept.frame, *key, slot))
    };
    let mut unused: Vec<_> = glyphs.iter().filter_map(on_page).collect();
    unused.retain(|(last, ..)| *last < frame);
    // The key decides among equals, so that the same frames free the same glyphs.
    unused.sort_unstable_by_key(|(last, key, _)| (*last, *key));
    let mut unused = unused.into_iter();
    let mut room = size.0.saturating_mul(size.1).saturating_mul(ROOM);
    loop {
        let mut touched = [false; 256];
        let mut freed = 0_u32;
        for (_, key, slot) in unused.by_ref() {
            glyphs.remove(&key);
            touched[usize::from(slot.page)] = true;
            freed += u32::from(slot.texels.width) * u32::from(slot.texels.height);
            if freed >= room {
                break;
            }
        }
        if freed == 0 {
            return Err(AtlasError::Full(pages.as_slice().len()));
        }
        for (page, _) in touched.iter().enumerate().filter(|(_, touched)| **touched) {
            let slots = glyphs.values().filter_map(|kept| kept.slot);
            let slots = slots.chain(pinned.iter().copied());
            let on_page = slots.filter(|slot| slot.kind == kind && usize::from(slot.page) == page);
            let kept: Vec<TexelRect> = on_page.map(|slot| slot.texels).collect();
            pages.keep_only(page, &kept);
        }
        if pages.has_room(size) {
            return Ok(());
        }
        room = room.saturating_mul(2);
    }
}
