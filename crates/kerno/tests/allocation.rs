//! A warm frame allocates nothing.

use std::alloc::{GlobalAlloc, Layout, System};
use std::cell::Cell;
use std::io::Write;

use flate2::Compression;
use flate2::write::GzEncoder;
use kerno::atlas::SpriteOptions;
use kerno::base::{Mapping, SharedBytes};
use kerno::dialogue::{
    Pace, PageSize, Speech, SpeechEvent, SpeechPlayer, Timetable, with_spoken_names,
};
use kerno::draw::RectStyle;
use kerno::font::Synthesis;
use kerno::markup::{
    Markup, NumberFormat, NumberOptions, StringTables, StyleChange, StyleFile, ValueDeclaration,
};
use kerno::outline::Outline;
use kerno::raster::{GlyphRequest, Rasterizer, Subpixel};
use kerno::screen::{Arrangement, Content, Element, Screen, ScreenDescription, TextContent};
use kerno::text::{LayoutContext, LayoutOptions, Overflow, Span, TextAlign, Wrap};
use kerno::{
    Anchor, Atlas, DeviceSize, DrawText, Face, FrameBuilder, Point, Rect, Size, Style, TextLayout,
};

static LATO: &[u8] = include_bytes!("../demo/ferry/fonts/Lato-Medium.ttf");
static MISAKI: &[u8] = include_bytes!("../demo/ferry/fonts/misaki_gothic.ttf");
static PANEL: &[u8] = include_bytes!("../demo/ferry/sprites/panel.png");

thread_local! {
    static COUNT: Cell<usize> = const { Cell::new(0) };
    static BYTES: Cell<usize> = const { Cell::new(0) };
    /// Bytes that are not given back yet.
    static LIVE: Cell<isize> = const { Cell::new(0) };
}

struct Counting;

// SAFETY: every call is passed on to the system's allocator as it came.
unsafe impl GlobalAlloc for Counting {
    unsafe fn alloc(&self, layout: Layout) -> *mut u8 {
        COUNT.with(|count| count.set(count.get() + 1));
        BYTES.with(|bytes| bytes.set(bytes.get() + layout.size()));
        LIVE.with(|bytes| bytes.set(bytes.get() + layout.size() as isize));
        // SAFETY: the caller keeps to the contract of `alloc`.
        unsafe { System.alloc(layout) }
    }

    unsafe fn dealloc(&self, place: *mut u8, layout: Layout) {
        LIVE.with(|bytes| bytes.set(bytes.get() - layout.size() as isize));
        // SAFETY: the caller keeps to the contract of `dealloc`.
        unsafe { System.dealloc(place, layout) }
    }
}

#[global_allocator]
static ALLOCATOR: Counting = Counting;

/// The number of allocations that `work` makes.
fn allocations(work: impl FnOnce()) -> usize {
    let before = COUNT.with(Cell::get);
    work();
    COUNT.with(Cell::get) - before
}

#[test]
fn the_counter_counts() {
    assert_eq!(allocations(|| drop(std::hint::black_box(vec![1_u8]))), 1);
}

#[test]
fn a_warm_frame_takes_no_memory() {
    let face = Face::from_bytes(LATO).expect("a font");
    let line = TextLayout::new("Fog bank ahead, 1,284 fares", &Style::new(&face, 18.0));
    let line = line.expect("a layout");
    let timetable = Timetable::new(&line, &Pace::default()).expect("a pace");
    let mut atlas = Atlas::default();
    let image = kerno::base::Image::from_png(PANEL).expect("a PNG");
    let panel = atlas
        .add_sprite("panel", &image, SpriteOptions::default())
        .expect("a sprite");
    let mut builder = FrameBuilder::new();
    let mut gather = |time: f64| {
        let mut frame = builder.begin(&mut atlas, Mapping::uniform(2.0));
        let visible = timetable.visible_at(time);
        let mut layer = frame.scope().layer(3);
        layer.text(
            &line,
            DrawText::at(Point::new(9.0, 9.0), Anchor::TOP_LEFT).visible(visible),
        )?;
        let plate = Rect::new(0.0, 0.0, 200.0, 40.0);
        frame.scope().layer(-1).panel(panel, plate)?;
        frame
            .scope()
            .layer(2)
            .opacity(0.5)
            .rect(plate, kerno::Color::BLACK);
        std::hint::black_box(builder.finish().quad_count());
        Ok::<(), kerno::atlas::AtlasError>(())
    };
    // The frame before is kept as well: two are warm after the second.
    for time in [60.0, 60.0, 0.0] {
        gather(time).expect("room");
    }
    for time in [0.0, 0.3, 0.9, 60.0] {
        assert_eq!(
            allocations(|| gather(time).expect("room")),
            0,
            "at {time} s"
        );
    }
}

/// A hundred rows of a plate, a square, a name and a number, and a few more: 500 elements, 200
/// of them texts.
fn rows() -> ScreenDescription {
    let mut screen = ScreenDescription::new(Size::new(1280.0, 720.0))
        .element(Element::group("list").arrangement(Arrangement::Column));
    for row in 0..100 {
        let (name, parent) = (format!("value-{row}"), format!("row-{row}"));
        let plate = || Content::Rect(RectStyle::filled(kerno::Color::BLACK));
        let text = |text: &str| Content::Text(TextContent::markup(text));
        let group = Element::group(&parent).arrangement(Arrangement::Row);
        screen = screen
            .value(ValueDeclaration::new(&name, 10_000.0).range(0.0, 99_999.0))
            .element(group.parent("list"));
        let parts = [
            Element::new(&format!("plate-{row}"), plate()).size(90.0, 7.0),
            Element::new(&format!("square-{row}"), plate()).size(7.0, 7.0),
            Element::new(&format!("name-{row}"), text("Passengers aboard")),
            Element::new(&format!("number-{row}"), text(&format!("@value({name})"))),
        ];
        for part in parts {
            screen = screen.element(part.parent(&parent));
        }
    }
    screen
}

#[test]
fn a_warm_screen_takes_no_memory_and_little_in_all() {
    let face = Face::from_bytes(LATO).expect("a font");
    let body = StyleChange::default().face(face).size(6.0).tabular(true);
    let styles = StyleFile::default()
        .with_style("body", body)
        .with_default("text", "body");
    let mut atlas = Atlas::default();
    let description = rows();
    // The face makes what it knows of its letters once.
    let open = |atlas: &mut Atlas| {
        let strings = StringTables::default();
        Screen::new(description.clone(), styles.clone(), strings, atlas).expect("a screen")
    };
    drop(open(&mut atlas));
    let live = LIVE.with(Cell::get);
    let mut screen = open(&mut atlas);
    let view = screen.viewport(DeviceSize::new(1280, 720));
    let view = view.expect("a window");
    screen.arrange(&view, &atlas).expect("arranged");
    let held = LIVE.with(Cell::get) - live;
    assert!(held <= 2_000_000, "a screen of 500 holds {held} bytes");
    let names: Vec<String> = (0..10).map(|row| format!("value-{row}")).collect();
    let mut turn = |screen: &mut Screen, number: f64| {
        for (row, name) in names.iter().enumerate() {
            screen.set(name, number + row as f64).expect("a value");
        }
        screen.advance(0.016);
        let frame = screen.frame(&mut atlas, &view).expect("a frame");
        std::hint::black_box(frame.quad_count());
    };
    // All figures in all places.
    for figure in 1..=9 {
        turn(&mut screen, f64::from(figure) * 11_111.0 - 9.0);
    }
    turn(&mut screen, 10_000.0);
    for number in [10_000.0, 24_680.0, 13_579.0] {
        assert_eq!(allocations(|| turn(&mut screen, number)), 0, "{number}");
    }
}

#[test]
fn dialogue_that_plays_takes_no_memory() {
    let face = Face::from_bytes(LATO).expect("a font");
    let markup = with_spoken_names(Markup::new());
    let words = "The @wave{fog} has teeth@cue(bell) tonight, @shake{ferryman}. ".repeat(12);
    let text = markup
        .read(&words, &Style::new(&face, 12.0))
        .expect("a text");
    let options = LayoutOptions::default().width(300.0).wrap(Wrap::Greedy);
    let layout = text.lay_out(&options, &mut LayoutContext::new());
    let speech = Speech::new(
        layout.expect("a layout"),
        &Pace::default(),
        PageSize::Lines(4),
    );
    let mut player = SpeechPlayer::new(speech.expect("a speech"));
    player.set_auto_advance(Some(100.0));
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    let mut shown = 0;
    while !player.is_done() {
        let taken = allocations(|| {
            player.advance(1.0 / 60.0, &mut |event| {
                shown += usize::from(matches!(event, SpeechEvent::Cluster { .. }));
            });
        });
        assert_eq!(taken, 0, "after {shown} clusters");
    }
    assert_eq!(shown, player.speech().layout().clusters().len());
    // A frame of it with its letters in motion, once their pictures are there.
    let mut gather = || {
        player.advance(1.0 / 60.0, &mut |_| {});
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        let pose = |cluster: usize| player.pose(cluster, false);
        let at = DrawText::at(Point::new(9.0, 9.0), Anchor::TOP_LEFT);
        let layout = player.speech().layout();
        frame.text_in_motion(layout, at, &pose).expect("room");
        std::hint::black_box(builder.finish().quad_count());
    };
    gather();
    gather();
    assert_eq!(allocations(gather), 0);
}

#[test]
fn a_warm_text_that_changes_takes_no_memory() {
    let face = Face::from_bytes(LATO).expect("a font");
    let label = Style::new(&face, 18.0);
    let number = label.clone().tabular(true);
    let options = |width: f32| {
        LayoutOptions::default()
            .width(width)
            .overflow(Overflow::Ellipsis)
            .align(TextAlign::Justify)
    };
    let text = "Fog bank ahead, and the lamp must not go out before Heron Steps. ".repeat(9);
    let spans = [Span::new(&text, &label), Span::new("0", &number)];
    let mut layout = TextLayout::with_options(&spans, &options(300.0)).expect("a layout");
    let format = NumberFormat::new("en", NumberOptions::default()).expect("a language");
    let mut written = String::new();
    let mut context = LayoutContext::new();
    let mut short = TextLayout::new("0", &number).expect("a layout");
    let mut change = |fares: f64| {
        written.clear();
        format.write(fares, &mut written);
        for (layout, span) in [(&mut layout, 1), (&mut short, 0)] {
            context.set_text(layout, span, &written).expect("a text");
            let boxed = options(200.0 + fares as f32 % 100.0);
            context.relayout(layout, &boxed).expect("a box");
        }
    };
    // Twice: what was known before is kept beside what is known now.
    (0..60).for_each(|fares| change(f64::from(fares) * 1000.5));
    let taken = allocations(|| (0..60).for_each(|fares| change(f64::from(fares) * 1001.25)));
    assert_eq!(taken, 0);
    assert!(layout.text().ends_with("59,074"), "{}", layout.text());
}

#[test]
fn a_label_is_small() {
    let face = Face::from_bytes(LATO).expect("a font");
    let style = Style::new(&face, 18.0);
    let mut context = LayoutContext::new();
    let mut label = |number: u32| {
        let text = format!("Fares{number:05}");
        let options = LayoutOptions::default();
        let spans = [Span::new(&text, &style)];
        context.lay_out(&spans, &options).expect("a layout")
    };
    drop(label(0));
    let before = LIVE.with(Cell::get);
    let labels: Vec<TextLayout> = (0..100).map(&mut label).collect();
    let taken = (LIVE.with(Cell::get) - before) as usize / labels.len();
    println!("{taken} bytes, {} of them inline", size_of::<TextLayout>());
    // With the room that the vector keeps free.
    let inline = size_of::<TextLayout>() * (labels.capacity() - labels.len()) / labels.len();
    assert!(taken - inline <= 1200, "{taken} bytes a label");
}

#[test]
fn warm_outlines_and_pictures_take_no_memory() {
    let drawn = Face::from_bytes(LATO).expect("a font");
    let made = drawn.synthesized(Synthesis {
        slant: 10.0,
        ..Synthesis::BOLD
    });
    outlines_and_pictures(&drawn);
    outlines_and_pictures(&made.expect("a style"));
}

/// Opening a face takes memory for what the directory says, whatever the size of
/// the file.
#[test]
fn an_open_face_is_small() {
    let mut packed = GzEncoder::new(Vec::new(), Compression::fast());
    packed.write_all(LATO).expect("memory");
    let packed = packed.finish().expect("memory");
    for bytes in [LATO.into(), MISAKI.into(), SharedBytes::from(packed)] {
        let before = BYTES.with(Cell::get);
        let face = Face::from_bytes(bytes).expect("a font");
        let taken = BYTES.with(Cell::get) - before;
        drop(face);
        assert!((1..8192).contains(&taken), "{taken} bytes");
    }
}

fn outlines_and_pictures(face: &Face) {
    let (mut outline, mut rasterizer) = (Outline::new(), Rasterizer::new());
    let mut all = || {
        for character in ' '..='~' {
            let glyph = face.glyph(character).expect("ASCII");
            face.outline(glyph, &mut outline).expect("an outline");
            rasterizer
                .glyph(&GlyphRequest::new(face, glyph, 30.0).subpixel(Subpixel::new(1, 4)))
                .expect("a picture");
        }
    };
    all();
    assert_eq!(allocations(all), 0);
}
