//! Spans of what takes time, in a process of their own: what other threads run first, without
//! anyone who listens, counts as heard by nobody.

use std::num::NonZero;
use std::sync::{Arc, Mutex};

use kerno::base::Mapping;
use kerno::{Anchor, Atlas, DrawText, Face, FrameBuilder, Point, Style, TextLayout};
use tracing::span::{Attributes, Id, Record};
use tracing::{Event, Metadata, Subscriber};

static LATO: &[u8] = include_bytes!("../demo/ferry/fonts/Lato-Medium.ttf");

/// The names of spans: of those that opened, and of those that closed after a minus.
#[derive(Clone, Default)]
struct Names(Arc<Mutex<Vec<String>>>);

impl Subscriber for Names {
    fn enabled(&self, _: &Metadata<'_>) -> bool {
        true
    }

    fn new_span(&self, span: &Attributes<'_>) -> Id {
        let mut names = self.0.lock().expect("names");
        names.push(span.metadata().name().to_owned());
        Id::from_non_zero_u64(NonZero::new(names.len() as u64).expect("not 0"))
    }

    fn try_close(&self, id: Id) -> bool {
        let mut names = self.0.lock().expect("names");
        let name = names[id.into_u64() as usize - 1].clone();
        names.push(format!("-{name}"));
        true
    }

    fn record(&self, _: &Id, _: &Record<'_>) {}
    fn record_follows_from(&self, _: &Id, _: &Id) {}
    fn event(&self, _: &Event<'_>) {}
    fn enter(&self, _: &Id) {}
    fn exit(&self, _: &Id) {}
}

#[test]
fn what_takes_time_has_spans() {
    let names = Names::default();
    tracing::subscriber::with_default(names.clone(), || {
        let face = Face::from_bytes(LATO).expect("a font");
        let oar = TextLayout::new("oo", &Style::new(&face, 20.0)).expect("a layout");
        let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
        let mut frame = builder.begin(&mut atlas, Mapping::IDENTITY);
        let at = DrawText::at(Point::new(4.0, 4.0), Anchor::TOP_LEFT);
        frame.text(&oar, at).expect("room");
        builder.finish();
    });
    let names = names.0.lock().expect("names").join(" ");
    // One letter at two places between pixels, or at one.
    let names = names.replace(" draw_glyph -draw_glyph draw_glyph", " draw_glyph");
    let wanted = "open_font -open_font lay_out -lay_out frame draw_glyph -draw_glyph -frame";
    assert_eq!(names, wanted);
}
