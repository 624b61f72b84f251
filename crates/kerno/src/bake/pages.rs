//! From pictures to pages.

use std::collections::HashMap;

use rayon::prelude::*;
use xxhash_rust::xxh3::xxh3_128;

use super::error::BakeError;
use super::pictures::Picture;
use crate::atlas::{Grid, Packed, Packing, PackingOptions, PageKind, Slot, TexelRect, turned};

/// A page with its pictures on it.
#[derive(Debug)]
pub(super) struct MadePage {
    pub(super) kind: PageKind,
    pub(super) width: u16,
    pub(super) height: u16,
    pub(super) texels: Vec<u8>,
    /// True if there are multi-channel fields on it, whose alpha is no opacity.
    pub(super) has_fields: bool,
    /// Texels that pictures and their padding take.
    pub(super) used: u64,
}

/// The places of the pictures.
pub(super) struct Placed {
    pub(super) pages: Vec<MadePage>,
    /// One for each picture; left and top are 0.
    pub(super) slots: Vec<Slot>,
    /// True if the picture is the first of those that look the same.
    pub(super) is_first: Vec<bool>,
}

/// Finds a place for every picture; what looks the same is stored once. All pages
/// of one kind have one size, as a texture array asks.
pub(super) fn place(pictures: &[&Picture], options: &PackingOptions) -> Result<Placed, BakeError> {
    let nowhere = Slot::new(PageKind::Mask, 0, TexelRect::default(), false);
    let mut placed = Placed {
        pages: Vec::new(),
        slots: vec![nowhere; pictures.len()],
        is_first: vec![false; pictures.len()],
    };
    for kind in [PageKind::Mask, PageKind::Color] {
        place_kind(kind, pictures, options, &mut placed)?;
    }
    Ok(placed)
}

fn place_kind(
    kind: PageKind,
    pictures: &[&Picture],
    options: &PackingOptions,
    placed: &mut Placed,
) -> Result<(), BakeError> {
    // Masks are letters, which stay upright: every renderer can draw them.
    let options = PackingOptions {
        may_rotate: options.may_rotate && kind == PageKind::Color,
        share_padding: kind == PageKind::Mask,
        ..*options
    };
    let own: Vec<usize> = (0..pictures.len())
        .filter(|index| pictures[*index].kind == kind)
        .collect();
    let (firsts, stands_for) = find_firsts(&own, pictures);
    for first in &firsts {
        placed.is_first[*first] = true;
    }
    let sizes: Vec<(u16, u16)> = firsts
        .iter()
        .map(|index| (pictures[*index].width, pictures[*index].height))
        .collect();
    let Some((packing, side)) = evenly(&sizes, &options) else {
        return Err(BakeError::TooMuch(
            "a picture fits no page; raise largest-side in [pages]".to_owned(),
        ));
    };
    if packing.pages.len() > 256 {
        return Err(BakeError::TooMuch(format!(
            "the pictures take {} pages of {} × {}, and 256 of a kind can be numbered; raise largest-side in [pages], or bake fewer sizes",
            packing.pages.len(),
            side.0,
            side.1
        )));
    }
    for (index, first) in own.into_iter().zip(stands_for) {
        let Packed {
            page,
            texels,
            is_rotated,
        } = packing.places[first];
        placed.slots[index] = Slot::new(kind, page as u8, texels, is_rotated);
    }
    let pages = (0..packing.pages.len()).into_par_iter().map(|page| {
        let on_page = packing
            .places
            .iter()
            .zip(&firsts)
            .filter(|(place, _)| place.page as usize == page)
            .map(|(place, index)| (place, pictures[*index]));
        draw_page(kind, side, on_page, options.padding)
    });
    placed.pages.par_extend(pages);
    Ok(())
}

/// Finds the first of each set of pictures that look the same, and for every picture which of
/// these stands for it.
fn find_firsts(own: &[usize], pictures: &[&Picture]) -> (Vec<usize>, Vec<usize>) {
    let hashes: Vec<u128> = own
        .par_iter()
        .map(|index| xxh3_128(&pictures[*index].texels))
        .collect();
    let mut firsts: Vec<usize> = Vec::new();
    let mut known: HashMap<(u16, u16, u128), usize> = HashMap::new();
    let stands_for = own.iter().zip(hashes).map(|(index, hash)| {
        let look = (pictures[*index].width, pictures[*index].height, hash);
        *known.entry(look).or_insert_with(|| {
            firsts.push(*index);
            firsts.len() - 1
        })
    });
    let stands_for = stands_for.collect();
    (firsts, stands_for)
}

/// Packs onto pages of one size; also says which.
fn evenly(sizes: &[(u16, u16)], options: &PackingOptions) -> Option<(Packing, (u16, u16))> {
    let side = |packing: &Packing| {
        let (widths, heights) = (
            packing.pages.iter().map(|page| page.0),
            packing.pages.iter().map(|page| page.1),
        );
        (widths.max().unwrap_or(0), heights.max().unwrap_or(0))
    };
    let area = |packing: &Packing| {
        let (width, height) = side(packing);
        packing.pages.len() as u64 * u64::from(width) * u64::from(height)
    };
    let first = Packing::of(sizes, options)?;
    let mut best = first;
    // The last of several pages is often half empty: smaller ones may be full.
    let count = best.pages.len();
    if count > 1 && !options.power_of_two {
        let even = (best.area() as f64 / count as f64).sqrt();
        for tenths in [100, 101, 102, 104, 107] {
            let largest_side = (even * f64::from(tenths) / 100.0).ceil() as u16;
            let tried = Packing::of(
                sizes,
                &PackingOptions {
                    largest_side: largest_side.min(options.largest_side),
                    ..*options
                },
            );
            let better =
                tried.filter(|tried| tried.pages.len() <= count && area(tried) < area(&best));
            best = better.unwrap_or(best);
        }
    }
    let side = side(&best);
    Some((best, side))
}

/// Puts pictures on a page, each with its padding: sprites' repeats their border.
fn draw_page<'a>(
    kind: PageKind,
    (width, height): (u16, u16),
    pictures: impl Iterator<Item = (&'a Packed, &'a Picture)>,
    padding: u16,
) -> MadePage {
    let grid = Grid {
        stride: width,
        texel_bytes: kind.texel_bytes(),
    };
    let mut page = MadePage {
        kind,
        width,
        height,
        texels: vec![0; usize::from(width) * usize::from(height) * kind.texel_bytes()],
        has_fields: false,
        used: 0,
    };
    for (place, picture) in pictures {
        let to = place.texels;
        page.has_fields |= picture.is_field;
        if place.is_rotated {
            let texels = turned(picture.width.into(), &picture.texels, grid.texel_bytes);
            grid.copy(&mut page.texels, to, &texels);
        } else {
            grid.copy(&mut page.texels, to, &picture.texels);
        }
        if kind == PageKind::Color {
            grid.extrude(&mut page.texels, to, padding);
        }
        let border = u64::from(padding) * if kind == PageKind::Mask { 1 } else { 2 };
        let padded = |side: u16| u64::from(side) + border;
        page.used += padded(to.width) * padded(to.height);
    }
    page
}
