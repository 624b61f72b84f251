//! Texture pages, and the places on them.

use super::{AtlasError, Skyline};

/// What a page's texels are.
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

/// Where a picture is: its page and texels, and where they lie about the
/// picture's origin (a glyph's pen, a sprite's top left corner).
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Slot {
    /// Mask or colour.
    pub kind: PageKind,
    /// Which of the pages of that kind.
    pub page: u8,
    /// Which texels of it, without the padding.
    pub texels: TexelRect,
    /// From the origin to the left edge, in device pixels, rightwards.
    pub left: i32,
    /// From the origin to the top edge, in device pixels, downwards.
    pub top: i32,
}

/// One texture page.
#[derive(Clone, Debug)]
pub struct Page {
    side: u16,
    texels: Vec<u8>,
    free: Skyline,
    /// What has changed since it was last uploaded.
    changed: Option<TexelRect>,
}

impl Page {
    /// Width and height, in texels.
    pub fn side(&self) -> u16 {
        self.side
    }

    /// All bytes, row by row from the top, no padding.
    pub fn texels(&self) -> &[u8] {
        &self.texels
    }

    /// The texels that have changed since
    /// [`Atlas::mark_uploaded`](super::Atlas::mark_uploaded): all of a new page;
    /// `None` where there is nothing to upload.
    pub fn changed(&self) -> Option<TexelRect> {
        self.changed
    }

    fn change(&mut self, rect: TexelRect) {
        let Some(old) = self.changed else {
            self.changed = Some(rect);
            return;
        };
        let (x, y) = (old.x.min(rect.x), old.y.min(rect.y));
        let right = (old.x + old.width).max(rect.x + rect.width);
        let bottom = (old.y + old.height).max(rect.y + rect.height);
        self.changed = Some(TexelRect {
            x,
            y,
            width: right - x,
            height: bottom - y,
        });
    }
}

/// The pages of one kind.
#[derive(Clone, Debug)]
pub(super) struct Pages {
    kind: PageKind,
    side: u16,
    padding: u16,
    /// The most pages there may be.
    most: usize,
    pages: Vec<Page>,
}

impl Pages {
    pub(super) fn new(kind: PageKind, side: u16, padding: u16) -> Self {
        Self {
            kind,
            side,
            padding,
            most: usize::from(u8::MAX) + 1,
            pages: Vec::new(),
        }
    }

    pub(super) fn as_slice(&self) -> &[Page] {
        &self.pages
    }

    /// Bytes of one page.
    pub(super) fn page_bytes(&self) -> usize {
        usize::from(self.side) * usize::from(self.side) * self.kind.texel_bytes()
    }

    /// Lets the pages take so many bytes, at least one page.
    pub(super) fn set_budget(&mut self, bytes: usize) {
        self.most = (bytes / self.page_bytes()).clamp(1, usize::from(u8::MAX) + 1);
    }

    pub(super) fn mark_uploaded(&mut self) {
        for page in &mut self.pages {
            page.changed = None;
        }
    }

    /// Whether a picture finds room without another page.
    pub(super) fn has_room(&self, (width, height): (u32, u32)) -> bool {
        let border = u32::from(self.padding) * 2;
        let (width, height) = ((width + border) as u16, (height + border) as u16);
        let mut pages = self.pages.iter();
        pages.any(|page| page.free.clone().place(width, height).is_some())
    }

    /// Frees everything on a page but some pictures, given without padding.
    pub(super) fn keep_only(&mut self, page: usize, kept: &[TexelRect]) {
        let padding = self.padding;
        let outer = |inner: &TexelRect| TexelRect {
            x: inner.x - padding,
            y: inner.y - padding,
            width: inner.width + 2 * padding,
            height: inner.height + 2 * padding,
        };
        let taken: Vec<TexelRect> = kept.iter().map(outer).collect();
        self.pages[page].free = Skyline::around(self.side, self.side, &taken);
    }

    /// Refuses what no page can hold, before anyone draws it.
    pub(super) fn check_size(&self, width: u32, height: u32) -> Result<(), AtlasError> {
        let most = u32::from(self.side).saturating_sub(u32::from(self.padding) * 2);
        if width > most || height > most {
            return Err(self.too_large(width, height));
        }
        Ok(())
    }

    fn too_large(&self, width: u32, height: u32) -> AtlasError {
        AtlasError::TooLarge {
            width,
            height,
            page_side: self.side,
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
    ) -> Result<(u8, TexelRect), AtlasError> {
        self.check_size(width, height)?;
        let border = u32::from(self.padding) * 2;
        let (outer_width, outer_height) = ((width + border) as u16, (height + border) as u16);
        let found =
            self.pages.iter_mut().enumerate().find_map(|(index, page)| {
                Some((index, page.free.place(outer_width, outer_height)?))
            });
        let (index, outer) = match found {
            Some(found) => found,
            None => {
                let page = self.add_page()?;
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
        self.clear(index, outer);
        self.copy(index, texels, bytes);
        if extrude {
            self.extrude(index, texels);
        }
        self.pages[index].change(outer);
        Ok((index as u8, texels))
    }

    fn add_page(&mut self) -> Result<usize, AtlasError> {
        if self.pages.len() >= self.most {
            return Err(AtlasError::Full(self.most));
        }
        let side = usize::from(self.side);
        self.pages.push(Page {
            side: self.side,
            texels: vec![0; side * side * self.kind.texel_bytes()],
            free: Skyline::new(self.side, self.side),
            changed: Some(TexelRect {
                x: 0,
                y: 0,
                width: self.side,
                height: self.side,
            }),
        });
        Ok(self.pages.len() - 1)
    }

    /// Whether a place holds exactly these texels.
    pub(super) fn shows(&self, page: u8, at: TexelRect, bytes: &[u8]) -> bool {
        let size = self.kind.texel_bytes();
        let (width, side) = (usize::from(at.width), usize::from(self.side));
        let texels = &self.pages[usize::from(page)].texels;
        let is_same = |(row, own): (usize, &[u8])| {
            let start = ((usize::from(at.y) + row) * side + usize::from(at.x)) * size;
            texels[start..start + width * size] == *own
        };
        bytes.len() == width * usize::from(at.height) * size
            && bytes.chunks_exact(width * size).enumerate().all(is_same)
    }

    /// Empties what another picture may have left.
    fn clear(&mut self, page: usize, rect: TexelRect) {
        let size = self.kind.texel_bytes();
        let stride = usize::from(self.side) * size;
        let row_bytes = usize::from(rect.width) * size;
        let start = usize::from(rect.y) * stride + usize::from(rect.x) * size;
        let texels = &mut self.pages[page].texels;
        for row in 0..usize::from(rect.height) {
            let at = start + row * stride;
            texels[at..at + row_bytes].fill(0);
        }
    }

    fn copy(&mut self, page: usize, to: TexelRect, bytes: &[u8]) {
        let size = self.kind.texel_bytes();
        let stride = usize::from(self.side) * size;
        let row_bytes = usize::from(to.width) * size;
        let start = usize::from(to.y) * stride + usize::from(to.x) * size;
        let texels = &mut self.pages[page].texels;
        for (row, source) in bytes.chunks_exact(row_bytes).enumerate() {
            let at = start + row * stride;
            texels[at..at + row_bytes].copy_from_slice(source);
        }
    }

    /// Repeats the border of a picture into its padding, so that filtering at
    /// its edge meets its own colour.
    fn extrude(&mut self, page: usize, inner: TexelRect) {
        let size = self.kind.texel_bytes();
        let side = usize::from(self.side);
        let (left, top) = (usize::from(inner.x), usize::from(inner.y));
        let (width, height) = (usize::from(inner.width), usize::from(inner.height));
        let padding = usize::from(self.padding);
        let texels = &mut self.pages[page].texels;
        for y in top..top + height {
            let at = |x: usize| (y * side + x) * size;
            for step in 1..=padding {
                texels.copy_within(at(left)..at(left + 1), at(left - step));
                let last = left + width - 1;
                texels.copy_within(at(last)..at(last + 1), at(last + step));
            }
        }
        let row = |y: usize| {
            let start = (y * side + left - padding) * size;
            start..start + (width + 2 * padding) * size
        };
        for step in 1..=padding {
            texels.copy_within(row(top), row(top - step).start);
            texels.copy_within(row(top + height - 1), row(top + height - 1 + step).start);
        }
    }
}
