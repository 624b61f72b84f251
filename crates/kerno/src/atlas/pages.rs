//! Texture pages, and the places on them.

use std::ops::Range;

use super::changes::Changes;
use super::{AtlasError, Skyline};
use crate::base::SharedBytes;

/// Kind of the texels of a page.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum PageKind {
    /// One byte a texel: how much of it is covered.
    Mask,
    /// Four bytes a texel: premultiplied sRGB colour.
    Color,
}

impl PageKind {
    /// Bytes in one texel.
    pub const fn texel_bytes(self) -> usize {
        match self {
            Self::Mask => 1,
            Self::Color => 4,
        }
    }
}

/// A half-open rectangle of texels on a page.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct TexelRect {
    /// Left edge.
    pub x: u16,
    /// Top edge.
    pub y: u16,
    /// Left to right.
    pub width: u16,
    /// Top to bottom.
    pub height: u16,
}

impl TexelRect {
    /// All of a page of a size.
    fn of_size(width: u16, height: u16) -> Self {
        Self {
            x: 0,
            y: 0,
            width,
            height,
        }
    }
}

/// The place of a picture: its page and texels, and where they lie about the
/// picture's origin (a glyph's pen, a sprite's top left corner).
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Slot {
    /// Mask or colour.
    pub kind: PageKind,
    /// Index of the page among those of that kind.
    pub page: u8,
    /// Its texels, without the padding.
    pub texels: TexelRect,
    /// True if the picture lies on its side, turned clockwise by a quarter: its
    /// width runs down the page.
    pub is_rotated: bool,
    /// From the origin to the left edge, in device pixels, rightwards.
    pub left: f32,
    /// From the origin to the top edge, in device pixels, downwards.
    pub top: f32,
    /// Width that it is drawn in, in device pixels: that of the picture, or another where
    /// one picture serves several sizes.
    pub width: f32,
    /// Height that it is drawn in, in device pixels.
    pub height: f32,
}

impl Slot {
    /// A picture that is drawn in its own size from its origin.
    pub(crate) fn new(kind: PageKind, page: u8, texels: TexelRect, is_rotated: bool) -> Self {
        let mut slot = Self {
            kind,
            page,
            texels,
            is_rotated,
            left: 0.0,
            top: 0.0,
            width: 0.0,
            height: 0.0,
        };
        let (width, height) = slot.picture_size();
        (slot.width, slot.height) = (width.into(), height.into());
        slot
    }

    /// The same place, with another place of the picture about its origin.
    pub(crate) fn with_origin(self, left: f32, top: f32) -> Self {
        Self { left, top, ..self }
    }

    /// The same place of a picture whose texels are `reduction` device pixels wide and whose
    /// place about its origin is told in texels.
    pub(crate) fn reduced(self, left: i32, top: i32, reduction: u32) -> Self {
        let times = reduction as f32;
        self.with_origin(left as f32 * times, top as f32 * times)
            .with_reduction(reduction)
    }

    /// The same place of a picture whose texels are `reduction` device pixels wide.
    pub(crate) fn with_reduction(self, reduction: u32) -> Self {
        let (width, height) = self.picture_size();
        Self {
            width: f32::from(width) * reduction as f32,
            height: f32::from(height) * reduction as f32,
            ..self
        }
    }

    /// Device pixels that a texel is wide.
    pub(crate) fn reduction(&self) -> u32 {
        let (width, _) = self.picture_size();
        (self.width / f32::from(width.max(1))).round().max(1.0) as u32
    }

    /// Width and height of the picture upright, in texels.
    pub fn picture_size(&self) -> (u16, u16) {
        let TexelRect { width, height, .. } = self.texels;
        if self.is_rotated {
            (height, width)
        } else {
            (width, height)
        }
    }
}

/// The bytes of a page.
#[derive(Clone, Debug)]
enum Texels {
    /// Made here.
    Own(Vec<u8>),
    /// Baked ahead of time: they stay as they are.
    Baked(SharedBytes),
}

/// One texture page.
#[derive(Clone, Debug)]
pub struct Page {
    width: u16,
    height: u16,
    texels: Texels,
    free: Skyline,
    changes: Changes,
}

impl Page {
    /// Width, in texels.
    pub fn width(&self) -> u16 {
        self.width
    }

    /// Height, in texels.
    pub fn height(&self) -> u16 {
        self.height
    }

    /// All bytes, row by row from the top, no padding.
    pub fn texels(&self) -> &[u8] {
        match &self.texels {
            Texels::Own(bytes) => bytes,
            Texels::Baked(bytes) => bytes,
        }
    }

    /// The bytes to draw on: a baked page has no room, so nothing is drawn there.
    fn texels_mut(&mut self) -> &mut [u8] {
        match &mut self.texels {
            Texels::Own(bytes) => bytes,
            Texels::Baked(_) => &mut [],
        }
    }

    /// Texels that were changed so far, those of its start counted too.
    pub(super) fn changed_texels(&self) -> u64 {
        self.changes.texels()
    }

    /// Revision of its texels: it grows with every change, from 1 on.
    pub fn revision(&self) -> u64 {
        self.changes.revision()
    }

    /// The texels that have changed after a revision, in one rectangle; `None` where there
    /// is nothing to upload. A renderer keeps, for each copy of the page that it has, the
    /// revision it uploaded last, 0 for none, which asks for all of the page.
    ///
    /// ```
    /// # use kerno::Atlas;
    /// # use kerno::atlas::{PageKind, TexelRect};
    /// # fn upload(layer: usize, rect: TexelRect) {}
    /// fn bring_up_to_date(uploaded: &mut Vec<u64>, atlas: &Atlas) {
    ///     let pages = atlas.pages(PageKind::Mask);
    ///     uploaded.resize(pages.len(), 0);
    ///     for (layer, (page, uploaded)) in pages.iter().zip(uploaded).enumerate() {
    ///         if let Some(rect) = page.changed_since(*uploaded) {
    ///             upload(layer, rect);
    ///         }
    ///         *uploaded = page.revision();
    ///     }
    /// }
    /// # bring_up_to_date(&mut Vec::new(), &Atlas::default());
    /// ```
    pub fn changed_since(&self, revision: u64) -> Option<TexelRect> {
        self.changes.since(revision)
    }
}

/// The number of pages that a picture may bring about.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum PageCount {
    WithinBudget,
    All,
}

/// The pages of one kind.
#[derive(Clone, Debug)]
pub(super) struct Pages {
    kind: PageKind,
    width: u16,
    height: u16,
    padding: u16,
    /// The number of pages from which on others make room first.
    budget: usize,
    /// The most pages there may be.
    most: usize,
    pages: Vec<Page>,
}

impl Pages {
    pub(super) fn new(kind: PageKind, side: u16, padding: u16) -> Self {
        Self {
            kind,
            width: side,
            height: side,
            padding,
            budget: usize::from(u8::MAX) + 1,
            most: usize::from(u8::MAX) + 1,
            pages: Vec::new(),
        }
    }

    pub(super) fn as_slice(&self) -> &[Page] {
        &self.pages
    }

    /// Bytes of one page.
    pub(super) fn page_bytes(&self) -> usize {
        usize::from(self.width) * usize::from(self.height) * self.kind.texel_bytes()
    }

    /// Sets the bytes that the pages still to come take, at least one page, until others
    /// have to make room, and the most pages there may be.
    pub(super) fn set_budget(&mut self, bytes: usize, most: u16) {
        let more = (bytes / self.page_bytes()).max(1);
        self.most = usize::from(most).max(self.pages.len());
        self.budget = (self.pages.len() + more).min(self.most);
    }

    /// Takes in a page that was baked; those to come are as large.
    pub(super) fn add_baked(&mut self, width: u16, height: u16, texels: SharedBytes) {
        self.pages.push(Page {
            width,
            height,
            texels: Texels::Baked(texels),
            free: Skyline::new(0, 0),
            changes: Changes::of_new(TexelRect::of_size(width, height)),
        });
    }

    /// The padding of a picture, left and right together: neighbours on mask pages share
    /// what is between them.
    fn own_padding(&self) -> u16 {
        match self.kind {
            PageKind::Mask => self.padding,
            PageKind::Color => self.padding.saturating_mul(2),
        }
    }

    /// The part of a page that pictures with their padding are placed on.
    fn room(&self) -> (u16, u16) {
        let border = match self.kind {
            PageKind::Mask => self.padding,
            PageKind::Color => 0,
        };
        (
            self.width.saturating_sub(border),
            self.height.saturating_sub(border),
        )
    }

    /// Returns whether a picture finds room without another page.
    pub(super) fn has_room(&self, (width, height): (u32, u32)) -> bool {
        let border = u32::from(self.own_padding());
        let (width, height) = ((width + border) as u16, (height + border) as u16);
        let mut pages = self.pages.iter();
        pages.any(|page| page.free.clone().place(width, height).is_some())
    }

    /// Frees everything on a page but some pictures, given without padding.
    pub(super) fn keep_only(&mut self, page: usize, kept: &[TexelRect]) {
        let (padding, border) = (self.padding, self.own_padding());
        let outer = |inner: &TexelRect| TexelRect {
            x: inner.x - padding,
            y: inner.y - padding,
            width: inner.width + border,
            height: inner.height + border,
        };
        let taken: Vec<TexelRect> = kept.iter().map(outer).collect();
        let (width, height) = self.room();
        self.pages[page].free = Skyline::around(width, height, &taken);
    }

    /// The longest side that a picture may have.
    pub(super) fn largest_side(&self) -> u16 {
        let side = self.width.max(self.height);
        side.saturating_sub(self.padding.saturating_mul(2))
    }

    /// Refuses what no page can hold, before anyone draws it.
    pub(super) fn check_size(&self, width: u32, height: u32) -> Result<(), AtlasError> {
        let most = |side: u16| u32::from(side).saturating_sub(u32::from(self.padding) * 2);
        if width > most(self.width) || height > most(self.height) {
            return Err(self.too_large(width, height));
        }
        Ok(())
    }

    fn too_large(&self, width: u32, height: u32) -> AtlasError {
        AtlasError::TooLarge {
            width,
            height,
            page: (self.width, self.height),
        }
    }

    /// Puts a picture on the first page with room, a new one where none has.
    /// The padding, on every side, repeats the picture's border where `extrude`
    /// says so, and is empty otherwise.
    pub(super) fn store(
        &mut self,
        (width, height): (u32, u32),
        bytes: &[u8],
        extrude: bool,
        most: PageCount,
    ) -> Result<(u8, TexelRect), AtlasError> {
        self.check_size(width, height)?;
        let border = u32::from(self.own_padding());
        let (outer_width, outer_height) = ((width + border) as u16, (height + border) as u16);
        let found =
            self.pages.iter_mut().enumerate().find_map(|(index, page)| {
                Some((index, page.free.place(outer_width, outer_height)?))
            });
        let (index, outer) = match found {
            Some(found) => found,
            None => {
                let page = self.add_page(most)?;
                let outer = self.pages[page]
                    .free
                    .place(outer_width, outer_height)
                    .ok_or(self.too_large(width, height))?;
                (page, outer)
            }
        };
        let texels = TexelRect {
            x: outer.x + self.padding,
            y: outer.y + self.padding,
            width: width as u16,
            height: height as u16,
        };
        let around = TexelRect {
            x: outer.x,
            y: outer.y,
            width: width as u16 + 2 * self.padding,
            height: height as u16 + 2 * self.padding,
        };
        self.clear(index, around);
        self.copy(index, texels, bytes);
        if extrude {
            self.extrude(index, texels);
        }
        self.pages[index].changes.add(around);
        Ok((index as u8, texels))
    }

    fn add_page(&mut self, most: PageCount) -> Result<usize, AtlasError> {
        let most = match most {
            PageCount::WithinBudget => self.budget,
            PageCount::All => self.most,
        };
        if self.pages.len() >= most {
            return Err(AtlasError::Full(most));
        }
        let (width, height) = self.room();
        self.pages.push(Page {
            width: self.width,
            height: self.height,
            texels: Texels::Own(vec![0; self.page_bytes()]),
            free: Skyline::new(width, height),
            changes: Changes::of_new(TexelRect::of_size(self.width, self.height)),
        });
        Ok(self.pages.len() - 1)
    }

    /// Returns whether a place holds exactly these texels.
    pub(super) fn shows(&self, page: u8, at: TexelRect, bytes: &[u8]) -> bool {
        let row_bytes = usize::from(at.width) * self.kind.texel_bytes();
        let rows = self.rows(page, at);
        bytes.len() == row_bytes * usize::from(at.height) && bytes.chunks_exact(row_bytes).eq(rows)
    }

    /// The rows of a place.
    pub(super) fn rows(&self, page: u8, at: TexelRect) -> impl Iterator<Item = &[u8]> {
        let grid = self.grid(usize::from(page));
        let texels = self.pages[usize::from(page)].texels();
        (at.y..at.y + at.height).map(move |y| &texels[grid.row(at.x, y, at.width)])
    }

    /// Those of a pack are as large as they were baked.
    fn grid(&self, page: usize) -> Grid {
        Grid {
            stride: self.pages[page].width,
            texel_bytes: self.kind.texel_bytes(),
        }
    }

    /// Empties what another picture may have left.
    fn clear(&mut self, page: usize, rect: TexelRect) {
        let grid = self.grid(page);
        let texels = self.pages[page].texels_mut();
        for y in rect.y..rect.y + rect.height {
            texels[grid.row(rect.x, y, rect.width)].fill(0);
        }
    }

    fn copy(&mut self, page: usize, to: TexelRect, bytes: &[u8]) {
        let grid = self.grid(page);
        grid.copy(self.pages[page].texels_mut(), to, bytes);
    }

    fn extrude(&mut self, page: usize, inner: TexelRect) {
        let (grid, padding) = (self.grid(page), self.padding);
        grid.extrude(self.pages[page].texels_mut(), inner, padding);
    }
}

/// Layout of texels in the bytes of a page.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Grid {
    /// Texels in a row of the page.
    pub(crate) stride: u16,
    pub(crate) texel_bytes: usize,
}

impl Grid {
    /// The bytes of a piece of a row.
    fn row(self, x: u16, y: u16, width: u16) -> Range<usize> {
        let start = usize::from(y) * usize::from(self.stride) + usize::from(x);
        start * self.texel_bytes..(start + usize::from(width)) * self.texel_bytes
    }

    /// Copies a picture to its place.
    pub(crate) fn copy(self, texels: &mut [u8], to: TexelRect, bytes: &[u8]) {
        let row_bytes = usize::from(to.width) * self.texel_bytes;
        for (y, source) in (to.y..).zip(bytes.chunks_exact(row_bytes)) {
            texels[self.row(to.x, y, to.width)].copy_from_slice(source);
        }
    }

    /// Repeats the border of a picture into its padding, so that filtering at
    /// its edge meets its own colour.
    pub(crate) fn extrude(self, texels: &mut [u8], inner: TexelRect, padding: u16) {
        let (right, bottom) = (inner.x + inner.width, inner.y + inner.height);
        for y in inner.y..bottom {
            for step in 1..=padding {
                let at = |x: u16| self.row(x, y, 1);
                texels.copy_within(at(inner.x), at(inner.x - step).start);
                texels.copy_within(at(right - 1), at(right - 1 + step).start);
            }
        }
        let row = |y: u16| self.row(inner.x - padding, y, inner.width + 2 * padding);
        for step in 1..=padding {
            texels.copy_within(row(inner.y), row(inner.y - step).start);
            texels.copy_within(row(bottom - 1), row(bottom - 1 + step).start);
        }
    }
}
