//! The pages of a bake as a picture, every slot outlined and named.

use kerno::atlas::{AtlasOptions, PageKind, Sampling, SpriteOptions};
use kerno::bake::{Bake, NamedSlot};
use kerno::base::{Edges, Image, Insets, Mapping};
use kerno::draw::{DrawSprite, RectStyle};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, FrameBuilder, Point, Rect, Size, Style,
    TextLayout,
};

use crate::demo::{caption_face, label_face};
use crate::error::CliError;

const BACK: Color = Color::rgb(0x0e, 0x18, 0x22);
const PAGE: Color = Color::rgb(0x1d, 0x2c, 0x3a);
const LINE: Color = Color::rgba(0x58, 0xa6, 0xa0, 0xc0);
const PLATE: Color = Color::rgba(0x0e, 0x18, 0x22, 0xd0);
const LABEL: Color = Color::rgb(0xff, 0xcf, 0x70);
const CAPTION: Color = Color::rgb(0xf6, 0xea, 0xd0);

/// Pixels around and between pages, and for a page's caption.
const MARGIN: f32 = 24.0;
const CAPTION_ROOM: f32 = 28.0;

/// The longest side of the picture, and the most times that texels are enlarged.
const LARGEST: f32 = 8192.0;
const MOST_TIMES: u32 = 4;

/// The longest side of an enlarged page.
const PAGE_SIDE: f32 = 4096.0;

/// The number of pixels from which on texels are not enlarged.
const LARGE: f32 = 12e6;

/// A page on the sheet.
struct Shown {
    kind: PageKind,
    number: usize,
    image: Image,
    at: Rect,
}

/// Draws all pages beside and below each other.
pub(super) fn draw(bake: &Bake<'_>) -> Result<Image, CliError> {
    let mut pages: Vec<Shown> = [PageKind::Mask, PageKind::Color]
        .into_iter()
        .flat_map(|kind| {
            let numbered = bake.page_images(kind).enumerate();
            numbered.map(move |(number, image)| Shown {
                kind,
                number,
                image,
                at: Rect::default(),
            })
        })
        .collect();
    let (times, size) = arrange(&mut pages)?;
    let mut canvas = Canvas::new(size);
    canvas.clear(BACK);
    let slots = bake.slots();
    for page in &pages {
        draw_page(&mut canvas, page, times)?;
        let own = |named: &&NamedSlot| {
            named.slot.kind == page.kind && usize::from(named.slot.page) == page.number
        };
        let own: Vec<&NamedSlot> = slots.iter().filter(own).collect();
        draw_slots(&mut canvas, page, times, &own)?;
    }
    Ok(canvas.to_image())
}

/// Finds a place for each page, at the largest whole enlargement that keeps the
/// sheet within bounds; also says how large it is.
fn arrange(pages: &mut [Shown]) -> Result<(f32, DeviceSize), CliError> {
    let columns = (pages.len() as f32).sqrt().ceil().max(1.0) as usize;
    for times in (1..=MOST_TIMES).rev() {
        let scale = times as f32;
        let (mut width, mut y) = (0.0_f32, MARGIN);
        for row in pages.chunks_mut(columns) {
            let (mut x, mut bottom) = (MARGIN, y);
            for page in row {
                let size = Size::new(
                    page.image.width() as f32 * scale,
                    page.image.height() as f32 * scale,
                );
                page.at = Rect::new(x, y + CAPTION_ROOM, size.width, size.height);
                x = page.at.right() + MARGIN;
                bottom = bottom.max(page.at.bottom());
            }
            width = width.max(x);
            y = bottom + MARGIN;
        }
        let is_small = times == 1 || width * y <= LARGE;
        let sides = pages
            .iter()
            .map(|page| page.image.width().max(page.image.height()));
        let largest = sides.max().unwrap_or(0) as f32 * scale;
        let fits = width.max(y) <= LARGEST && is_small && (times == 1 || largest <= PAGE_SIDE);
        if fits {
            return Ok((scale, DeviceSize::new(width as u32, y as u32)));
        }
        if times == 1 {
            return Err(CliError::SheetTooLarge(width, y));
        }
    }
    Err(CliError::SheetTooLarge(0.0, 0.0))
}

fn draw_page(canvas: &mut Canvas, page: &Shown, times: f32) -> Result<(), CliError> {
    let mut atlas = Atlas::new(
        AtlasOptions::default()
            .page_side(PAGE_SIDE as u16)
            .padding(0),
    )?;
    let options = SpriteOptions::default()
        .sampling(Sampling::Nearest)
        .density(1.0 / times);
    let sprite = atlas.add_sprite("page", &page.image, options)?;
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    frame.rect(page.at, PAGE);
    let corner = Point::new(page.at.x, page.at.y);
    frame.sprite(sprite, DrawSprite::at(corner, Anchor::TOP_LEFT))?;
    let kind = match page.kind {
        PageKind::Mask => "Mask",
        PageKind::Color => "Colour",
    };
    let (number, width, height) = (page.number, page.image.width(), page.image.height());
    let caption = format!("{kind} page {number}: {width} × {height} texels");
    let style = Style::new(&caption_face()?, 16.0).color(CAPTION);
    let caption = TextLayout::new(&caption, &style)?;
    let above = Point::new(page.at.x, page.at.y - 6.0);
    frame.text(&caption, DrawText::at(above, Anchor::BOTTOM_LEFT))?;
    canvas.draw(builder.finish(), &atlas);
    Ok(())
}

fn draw_slots(
    canvas: &mut Canvas,
    page: &Shown,
    times: f32,
    slots: &[&NamedSlot],
) -> Result<(), CliError> {
    let style = Style::new(&label_face()?, 8.0)
        .color(LABEL)
        .edges(Edges::Hard);
    let mut atlas = Atlas::default();
    let mut builder = FrameBuilder::new();
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    for named in slots {
        let texels = named.slot.texels;
        let at = Rect::new(
            page.at.x + f32::from(texels.x) * times,
            page.at.y + f32::from(texels.y) * times,
            f32::from(texels.width) * times,
            f32::from(texels.height) * times,
        );
        // A line of one pixel around the slot, outside of it.
        frame.styled_rect(at.outset(Insets::all(1.0)), RectStyle::outlined(1.0, LINE))?;
        for name in [&named.name, &named.short_name] {
            let label = TextLayout::new(name, &style)?;
            let size = label.size();
            if size.width + 3.0 > at.width || size.height + 1.0 > at.height * 0.5 {
                continue;
            }
            // At the foot: heads of letters tell more, their accents most.
            let top = at.bottom() - size.height;
            let plate = Rect::new(at.x, top, size.width + 2.0, size.height);
            frame.scope().layer(1).rect(plate, PLATE);
            let corner = Point::new(at.x + 1.0, top);
            frame
                .scope()
                .layer(2)
                .text(&label, DrawText::at(corner, Anchor::TOP_LEFT))?;
            break;
        }
    }
    canvas.draw(builder.finish(), &atlas);
    Ok(())
}
