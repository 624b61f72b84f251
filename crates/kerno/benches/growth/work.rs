//! The work that is measured.

use std::hint::black_box;

use kerno::base::{Edges, Mapping};
use kerno::draw::Vertex;
use kerno::font::GlyphId;
use kerno::raster::{GlyphRequest, Rasterizer};
use kerno::text::{LayoutContext, LayoutOptions, PlacedGlyph, Span};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, Face, FrameBuilder, Point, Style,
    TextLayout,
};

use super::{Curve, copy_of, measured};

static LATO: &[u8] = include_bytes!("../../demo/ferry/fonts/Lato-Medium.ttf");

const WORDS: [&str; 12] = [
    "lamp", "oil", "ferry", "fog", "bell", "landing", "heron", "lake", "ticket", "oar", "night",
    "crossing",
];

/// Words, no two neighbours the same for long.
fn text(length: usize) -> String {
    let mut text = String::new();
    let mut at = 0;
    while text.len() < length {
        at = (at * 5 + 7 + text.len() / 11) % WORDS.len();
        text.push_str(WORDS[at]);
        text.push(' ');
    }
    text.truncate(length);
    text
}

pub(super) fn curves() -> Vec<Curve> {
    let face = Face::from_bytes(LATO).expect("a font");
    let smooth = |size| pictures(&face, size, Edges::Smooth);
    let field = |size| pictures(&face, size, Edges::DistanceField);
    vec![
        Curve {
            title: "A text laid out in a box",
            unit: "characters",
            limit: "a copy of its glyphs",
            points: [100, 1_000, 10_000, 100_000]
                .map(|size| layout(&face, size))
                .into(),
        },
        Curve {
            title: "A frame of labels, unchanged",
            unit: "labels",
            limit: "a copy of its vertices",
            points: [10, 100, 1_000, 10_000]
                .map(|size| labels(&face, size, false))
                .into(),
        },
        Curve {
            title: "A frame of labels, all moved",
            unit: "labels",
            limit: "a copy of its vertices",
            points: [10, 100, 1_000, 10_000]
                .map(|size| labels(&face, size, true))
                .into(),
        },
        Curve {
            title: "A page of text drawn on the CPU",
            unit: "pixels",
            limit: "a copy of the pixels",
            points: [10_000, 100_000, 1_000_000, 10_000_000]
                .map(|size| canvas(&face, size))
                .into(),
        },
        Curve {
            title: "Pictures of glyphs, smooth",
            unit: "px per em",
            limit: "a copy of the texels",
            points: [10, 100, 1_000].map(smooth).into(),
        },
        Curve {
            title: "Pictures of glyphs, distance fields",
            unit: "px per em",
            limit: "a copy of the texels",
            points: [10, 100, 1_000].map(field).into(),
        },
    ]
}

fn layout(face: &Face, size: usize) -> super::Measured {
    let (style, text) = (Style::new(face, 14.0), text(size));
    let options = LayoutOptions::default().width(400.0);
    let mut context = LayoutContext::default();
    let glyphs = size * size_of::<PlacedGlyph>();
    let work = || {
        let spans = [Span::new(&text, &style)];
        black_box(context.lay_out(&spans, &options).expect("a layout"));
    };
    measured(size, work, copy_of(glyphs))
}

fn labels(face: &Face, size: usize, is_moved: bool) -> super::Measured {
    let style = Style::new(face, 12.0);
    let label = |index: usize| TextLayout::new(&format!("Fares {:04}", index * 7), &style);
    let labels: Vec<TextLayout> = (0..size)
        .map(|index| label(index).expect("a layout"))
        .collect();
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut vertices = 0;
    let mut moment = 0.0;
    let mut work = || {
        if is_moved {
            moment += 1.0;
        }
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        for (index, label) in labels.iter().enumerate() {
            let at = Point::new(
                (index % 20) as f32 * 60.0 + moment % 7.0,
                (index / 20) as f32 * 14.0,
            );
            frame
                .text(label, DrawText::at(at, Anchor::TOP_LEFT))
                .expect("room");
        }
        vertices = black_box(builder.finish()).vertices.len();
    };
    work();
    work();
    let bytes = size * 9 * 4 * size_of::<Vertex>();
    let point = measured(size, work, copy_of(bytes));
    assert!(vertices > size * 30, "the labels are there");
    point
}

fn canvas(face: &Face, pixels: usize) -> super::Measured {
    let side = (pixels as f32).sqrt() as u32;
    let options = LayoutOptions::default().width(side as f32);
    let style = Style::new(face, 14.0);
    // As many letters as fill the page.
    let text = text(pixels / 110);
    let layout = TextLayout::with_options(&[Span::new(&text, &style)], &options).expect("a layout");
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
    frame
        .text(&layout, DrawText::at(Point::default(), Anchor::TOP_LEFT))
        .expect("room");
    let frame = builder.finish();
    let mut canvas = Canvas::new(DeviceSize::new(side, side));
    let work = || {
        canvas.clear(Color::BLACK);
        canvas.draw(frame, &atlas);
    };
    measured(pixels, work, copy_of(pixels * 4))
}

/// Twenty-six letters.
fn pictures(face: &Face, size: usize, edges: Edges) -> super::Measured {
    let glyphs: Vec<GlyphId> = ('a'..='z')
        .filter_map(|letter| face.glyph(letter))
        .collect();
    let mut rasterizer = Rasterizer::new();
    let mut texels = 0;
    let mut work = || {
        texels = 0;
        for glyph in &glyphs {
            let request = GlyphRequest::new(face, *glyph, size as f32).treatment(edges);
            texels += black_box(rasterizer.glyph(&request).expect("a picture"))
                .texels
                .len();
        }
    };
    work();
    let bytes = texels;
    let work = || {
        for glyph in &glyphs {
            let request = GlyphRequest::new(face, *glyph, size as f32).treatment(edges);
            black_box(rasterizer.glyph(&request).expect("a picture"));
        }
    };
    measured(size, work, copy_of(bytes))
}
