//! The timetable of typewriter text, by hand.

use kerno::dialogue::{
    LetterMotion, LetterMotionKind, MomentKind, MotionMoment, Pace, PageSize, Speech, SpeechEvent,
    SpeechPlayer, Stop, Timetable, TimetableError, pages, with_spoken_names,
};
use kerno::markup::Markup;
use kerno::text::{ClusterPose, LayoutContext, LayoutOptions, Wrap};
use kerno::{
    Anchor, Atlas, Canvas, Color, DeviceSize, DrawText, FrameBuilder, Offset, Point, Style,
    TextLayout,
};
use proptest::prelude::*;

use crate::support::lato;

/// Ten clusters a second, half a second after commas, two after sentences.
fn pace() -> Pace {
    Pace::default()
        .clusters_per_second(10.0)
        .comma_rest(0.5)
        .sentence_rest(2.0)
        .ellipsis_rest(2.0)
}

fn timetable(text: &str) -> Timetable {
    let layout = TextLayout::new(text, &Style::new(&lato(), 12.0)).expect("a layout");
    Timetable::new(&layout, &pace()).expect("a pace")
}

#[test]
fn clusters_appear_one_step_after_another() {
    let timetable = timetable("Fog");
    let counts = [-1.0, 0.0, 0.09, 0.11, 0.21, 0.31, 99.0].map(|time| timetable.visible_at(time));
    assert_eq!(counts, [0, 0, 0, 1, 2, 3, 3]);
    assert!((timetable.duration() - 0.3).abs() < 1e-9);
    assert!(timetable.is_done_at(0.31) && !timetable.is_done_at(0.29));
    assert_eq!(timetable.visible_at(f64::NAN), 0);
    assert_eq!(timetable.visible_at(f64::INFINITY), 3);
}

#[test]
fn an_accent_comes_with_its_letter() {
    assert_eq!(timetable("e\u{301}\u{302}x").visible_at(9.0), 2);
}

#[test]
fn rests_begin_with_the_space_behind_the_mark() {
    let duration = |text| (timetable(text).duration() * 10.0).round() / 10.0;
    assert_eq!(duration("Ah, oil"), 0.7 + 0.5);
    assert_eq!(duration("Ah. Oil"), 0.7 + 2.0);
    assert_eq!(duration("Ah… Oil"), 0.7 + 2.0);
    assert_eq!(duration("Ah?! Oi"), 0.7 + 2.0, "two marks, one rest");
    assert_eq!(duration("“Ah.” O"), 0.7 + 2.0, "after the closing quote");
    assert_eq!(duration("3.5 oil"), 0.7, "a point inside a number");
    assert_eq!(duration("12:40 h"), 0.7);
    assert_eq!(duration("a, b. c"), 0.7 + 2.5);
    assert_eq!(duration("Oil low."), 0.8, "nothing to wait for at the end");
    assert_eq!(duration("Ah.\nOil"), 0.7 + 2.0, "a line break is a space");
    assert_eq!(
        duration("霧。船が出る"),
        0.6 + 2.0,
        "no space in this script"
    );
    assert_eq!(duration("「霧。」船"), 0.5 + 2.0);
    // Up to the mark nothing has been waited for; then the rest, then go on.
    let timetable = timetable("Ah, oil");
    let counts = [0.31, 0.85, 0.95, 1.05].map(|time| timetable.visible_at(time));
    assert_eq!(counts, [3, 3, 4, 5]);
}

#[test]
fn a_pace_out_of_range_is_refused() {
    let layout = TextLayout::new("a", &Style::new(&lato(), 12.0)).expect("a layout");
    for speed in [0.0, -1.0, f32::NAN, f32::INFINITY] {
        let pace = pace().clusters_per_second(speed);
        assert!(Timetable::new(&layout, &pace).is_err());
    }
    let error = Timetable::new(&layout, &pace().comma_rest(-0.5)).expect_err("negative");
    assert_eq!(
        error.to_string(),
        "comma_rest is -0.5, it must be 0 or more seconds"
    );
}

proptest! {
    #[test]
    fn more_time_never_shows_less(
        text in "[a-z ,.!?\n…]{0,60}",
        mut times in prop::collection::vec(0.0_f64..40.0, 2..20),
    ) {
        let timetable = timetable(&text);
        let asked: Vec<usize> = times.iter().map(|time| timetable.visible_at(*time)).collect();
        // Asked again in another order, every time has the same answer.
        let again: Vec<usize> = times.iter().rev().map(|time| timetable.visible_at(*time)).collect();
        prop_assert!(asked.iter().eq(again.iter().rev()));
        times.sort_by(f64::total_cmp);
        prop_assert!(times.windows(2).all(|t| timetable.visible_at(t[0]) <= timetable.visible_at(t[1])));
        prop_assert!(timetable.is_done_at(timetable.duration()));
    }
}

/// A text with markup, 100 px wide.
fn marked(source: &str) -> TextLayout {
    let markup = with_spoken_names(Markup::new().range("glimmer"));
    let text = markup.read(source, &Style::new(&lato(), 10.0));
    let options = LayoutOptions::default().width(100.0).wrap(Wrap::Greedy);
    let layout = text
        .expect("a text")
        .lay_out(&options, &mut LayoutContext::new());
    layout.expect("a layout")
}

#[test]
fn marks_rest_hurry_and_show_at_once() {
    let times = |source: &str| {
        let table = Timetable::new(&marked(source), &pace()).expect("a timetable");
        let rounded = |time: f64| (time * 1000.0).round() / 1000.0;
        let count = table.visible_at(f64::INFINITY);
        let times = (0..count).filter_map(|cluster| table.time_of(cluster));
        times.map(rounded).collect::<Vec<f64>>()
    };
    assert_eq!(times("a@pause(0.4)b"), [0.1, 0.6]);
    assert_eq!(times("@pause(1)@pause(1)a"), [2.1]);
    assert_eq!(times("a@pace(2){bc}d"), [0.1, 0.15, 0.2, 0.3]);
    assert_eq!(
        times("@pace(2){a@pace(0.5){b}}"),
        [0.05, 0.15],
        "they multiply"
    );
    assert_eq!(times("a@at-once{bcd}e"), [0.1, 0.2, 0.2, 0.2, 0.3]);
    assert_eq!(
        times("@at-once{a, b}"),
        [0.1, 0.1, 0.1, 0.1],
        "without rests"
    );
    // The Greek question mark ends a sentence.
    assert_eq!(times("α; β"), [0.1, 0.2, 2.3, 2.4]);
    assert_eq!(times("a; b"), [0.1, 0.2, 0.8, 0.9]);
    let table = Timetable::new(&marked("a@cue(bell, loud)b@wait@pause(3)"), &pace());
    let table = table.expect("a timetable");
    let moments = table.moments().iter();
    let moments: Vec<_> = moments.map(|m| (m.cluster, m.seconds, m.kind)).collect();
    let wanted = [
        (1, 0.1, MomentKind::Cue(0)),
        (2, 0.2, MomentKind::Wait),
        (2, 0.2, MomentKind::Rest(3.0)),
    ];
    assert_eq!(moments, wanted);
    assert_eq!(table.duration(), 3.2);
    for (source, said) in [
        ("@pause(NaN)", "no pause"),
        ("@pause(31536000)", "seconds from 0 to 3600"),
        ("@pause", "takes one argument"),
        ("@pace(0){a}", "factor from 0.01"),
        ("@wave(high=1){a}", "amount, seconds"),
        ("@cue()", "begins with the name"),
    ] {
        let error = Timetable::new(&marked(source), &pace()).expect_err(source);
        assert!(matches!(&error, TimetableError::Mark { .. }));
        assert!(error.to_string().contains(said), "{source}: {error}");
    }
}

#[test]
fn a_voice_gives_the_times() {
    let layout = marked("Fog, and fog.@wait");
    let table = Timetable::new(&layout, &pace()).expect("a timetable");
    let short = table.clone().lasting(0.5).expect("a length");
    assert!((short.duration() - 0.5).abs() < 1e-9);
    assert!(table.clone().lasting(f64::NAN).is_err());
    let spoken = table
        .by_words(&layout, &[0.0, 1.0, 1.2])
        .expect("three words");
    assert_eq!(spoken.time_of(0), Some(0.0));
    assert_eq!(
        spoken.time_of(5),
        Some(1.0),
        "the second word begins with its letter"
    );
    assert_eq!(spoken.time_of(9), Some(1.2));
    assert!(spoken.time_of(8) <= Some(1.2), "it ends before the third");
    let two = table
        .by_words(&layout, &[0.0, 1.0])
        .expect_err("three words");
    assert!(two.to_string().contains("3 words, and 2 times"), "{two}");
    assert!(table.by_words(&layout, &[0.0, 2.0, 1.0]).is_err());
}

#[test]
fn pages_end_with_sentences_and_leave_no_line_alone() {
    let cut = |text: &str, lines| {
        let layout = marked(text);
        let pages = pages(&layout, PageSize::Lines(lines));
        let ends = pages.iter().map(|page| page.lines.end);
        assert_eq!(
            pages.last().map_or(0, |page| page.clusters.end),
            layout.clusters().len()
        );
        ends.collect::<Vec<_>>()
    };
    assert_eq!(cut("a\nb\nc", 3), [3]);
    assert_eq!(cut("a\nb\nc\nd\ne\nf", 3), [3, 6]);
    // The second line ends a sentence, and the page is more than half full.
    assert_eq!(cut("a\nb.\nc\nd\ne", 3), [2, 5]);
    assert_eq!(
        cut("a.\nb\nc\nd\ne", 3),
        [3, 5],
        "not for a page that is hardly begun"
    );
    assert_eq!(cut("a\nb\nc\nd", 3), [2, 4], "the last line is not alone");
    assert_eq!(cut("a\nb", 1), [1, 2]);
    assert_eq!(cut("", 3), [1]);
    // By height: a line of 10 px is 12 px high in this face.
    let layout = marked("a\nb\nc");
    let high = layout.lines()[0].height;
    let found = pages(&layout, PageSize::Height(high * 2.0));
    assert_eq!((found.len(), found[1].top), (2, high * 2.0));
    assert_eq!(
        pages(&layout, PageSize::Height(1.0)).len(),
        3,
        "a line too high has its page"
    );
    assert_eq!(pages(&layout, PageSize::Height(f32::NAN)).len(), 3);
}

#[test]
fn marks_stay_in_their_places_when_the_text_changes() {
    let mut layout = marked("Fares 12@pause(1) and @wave{more}");
    layout.edit(6..8, "1,284").expect("an edit");
    let text = layout.text().to_owned();
    let marks: Vec<_> = layout
        .marks()
        .iter()
        .map(|mark| &text[mark.bytes.clone()])
        .collect();
    assert_eq!(marks, ["", "more"]);
    assert_eq!(
        layout.marks()[0].bytes.start,
        text.find(" and").expect("it is there")
    );
    layout.edit(0..11, "").expect("an edit");
    assert_eq!(layout.marks()[0].bytes, 0..0);
    layout
        .relayout(&LayoutOptions::default().width(20.0))
        .expect("a layout");
    assert_eq!(layout.marks().len(), 2);
}

const LINE: &str = "“@shake{Hush!}@pause(0.4) Did you hear that?@wait It came over the @wave{water}, \
    @cue(bell)and it knew my name.” Nobody rows, and nobody speaks for a long while.";

fn player(source: &str, lines: usize) -> SpeechPlayer {
    let speech = Speech::new(marked(source), &pace(), PageSize::Lines(lines));
    SpeechPlayer::new(speech.expect("a speech"))
}

/// Plays a line by steps, with a press where it waits; what happened, in words.
fn played(steps: &[f64], auto: bool) -> (Vec<String>, SpeechPlayer) {
    let mut player = player(LINE, 2);
    if auto {
        player.set_auto_advance(Some(20.0));
    }
    let mut events = Vec::new();
    for step in steps.iter().cycle().take(4000) {
        player.advance(*step, &mut |event| events.push(format!("{event:?}")));
        if !auto && player.stop().is_some() {
            player.press(&mut |event| events.push(format!("{event:?}")));
        }
        if player.is_done() {
            break;
        }
    }
    (events, player)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    #[test]
    fn any_split_of_the_time_gives_the_same_events(
        steps in prop::collection::vec(0.0_f64..3.0, 1..8),
        auto in any::<bool>(),
    ) {
        prop_assume!(steps.iter().sum::<f64>() > 0.5);
        let (whole, end) = played(&[1.0], auto);
        let (split, other) = played(&steps, auto);
        prop_assert_eq!(&whole, &split);
        prop_assert!(end.is_done() && other.is_done());
        // As often as it has pages and waits, and each cluster once.
        let clusters = whole.iter().filter(|event| event.starts_with("Cluster")).count();
        prop_assert_eq!(clusters, end.speech().layout().clusters().len());
        let stops = whole.iter().filter(|event| event.starts_with("Stop")).count();
        prop_assert_eq!(stops, end.speech().pages().len() + 1);
    }

    #[test]
    fn what_is_shown_is_a_prefix_of_the_page(times in prop::collection::vec(0.0_f64..2.0, 1..40)) {
        let mut player = player(LINE, 2);
        let mut before = 0;
        for time in times {
            player.advance(time, &mut |_| {});
            let page = player.page().expect("a page").clusters.clone();
            prop_assert!(player.visible() >= before && page.start <= player.visible());
            prop_assert!(player.visible() <= page.end);
            before = player.visible();
            // A speech that was saved and goes on is the same.
            let mut again = SpeechPlayer::new(player.speech().clone()).at(&player.state());
            prop_assert_eq!(again.state(), player.state());
            let mut events = [Vec::new(), Vec::new()];
            let mut copy = player.clone();
            copy.advance(0.7, &mut |event| events[0].push(format!("{event:?}")));
            again.advance(0.7, &mut |event| events[1].push(format!("{event:?}")));
            prop_assert_eq!(&events[0], &events[1]);
            if player.stop().is_some() {
                player.press(&mut |_| {});
            }
        }
    }
}

#[test]
fn a_press_shows_all_and_then_goes_on() {
    let mut player = player(LINE, 2);
    let mut events = Vec::new();
    let mut press = |player: &mut SpeechPlayer| {
        events.clear();
        player.press(&mut |event| {
            if !matches!(event, SpeechEvent::Cluster { .. } | SpeechEvent::Rest(_)) {
                events.push(format!("{event:?}"));
            }
        });
        (events.clone(), player.stop())
    };
    player.advance(0.15, &mut |_| {});
    assert_eq!(
        press(&mut player),
        (vec!["Stop(Wait)".into()], Some(Stop::Wait))
    );
    assert_eq!(press(&mut player), (vec![], None));
    let (events, stop) = press(&mut player);
    assert_eq!(stop, Some(Stop::PageFull));
    assert_eq!(events, ["Stop(PageFull)"], "the cue is on the next page");
    assert_eq!(press(&mut player), (vec!["Page(1)".into()], None));
    let cue = "Cue { name: \"bell\", arguments: [] }".to_owned();
    assert!(
        press(&mut player).0.contains(&cue),
        "cues are told though nobody waits for them"
    );
    // Seconds that are none, and far too many.
    let mut player = self::player("Fog.", 2);
    for seconds in [f64::NAN, -3.0, f64::NEG_INFINITY] {
        player.advance(seconds, &mut |_| {});
        assert_eq!((player.visible(), player.elapsed()), (0, 0.0));
    }
    player.advance(f64::INFINITY, &mut |_| {});
    assert!(player.is_done() && player.elapsed().is_finite());
    assert!(!player.press(&mut |_| {}));
    // Nothing to say, and nothing but marks.
    for source in ["", "@pause(1)@cue(bell)"] {
        let mut player = self::player(source, 2);
        player.advance(2.0, &mut |_| {});
        assert!(player.is_done(), "{source}");
    }
    let mut quick = self::player(LINE, 9);
    quick.set_at_once(true);
    quick.advance(0.0, &mut |_| {});
    assert_eq!(quick.stop(), Some(Stop::Wait));
    quick.set_hurry(f64::NAN);
    quick.press(&mut |_| {});
    quick.advance(0.0, &mut |_| {});
    assert!(quick.is_done());
}

#[test]
fn motions_are_pure_and_may_be_reduced() {
    for kind in [
        LetterMotionKind::Wave,
        LetterMotionKind::Shake,
        LetterMotionKind::Pulse,
        LetterMotionKind::Hue,
        LetterMotionKind::FadeIn,
        LetterMotionKind::DropIn,
    ] {
        let motion = LetterMotion::new(kind);
        for step in 0..50 {
            let moment = MotionMoment::new(step % 7, f64::from(step as u8) * 0.13, 0.05);
            assert_eq!(motion.pose(moment, false), motion.pose(moment, false));
            let reach = motion.pose(moment, false).offset;
            assert!(reach.x.abs() <= motion.amount && reach.y.abs() <= motion.amount);
            assert!(motion.pose(moment, true).is_in_place(), "{kind:?}");
        }
    }
    let drop = LetterMotion::new(LetterMotionKind::DropIn);
    assert_eq!(
        drop.pose(MotionMoment::new(0, 9.0, 1.0), false),
        ClusterPose::STILL
    );
    let fade = LetterMotion::new(LetterMotionKind::FadeIn);
    let half = fade.pose(
        MotionMoment::new(0, 9.0, f64::from(fade.seconds) / 2.0),
        false,
    );
    assert_eq!(half.tint.alpha, 128);
    // Noon of a wave: a quarter of a round is its whole height.
    let wave = LetterMotion::new(LetterMotionKind::Wave);
    let quarter = wave.pose(
        MotionMoment::new(0, f64::from(wave.seconds) / 4.0, 1.0),
        false,
    );
    assert!((quarter.offset.y - wave.amount).abs() < 1e-4);
    // A motion of one's own, only where it is named.
    let speech = Speech::new(marked("ab@glimmer{cd}"), &pace(), PageSize::Lines(2));
    let own: kerno::dialogue::OwnMotion =
        std::sync::Arc::new(|moment| ClusterPose::STILL.scale(1.0 + moment.index as f32));
    let speech = speech.expect("a speech").with_motion("glimmer", &own);
    let scales = [0, 1, 2, 3].map(|cluster| speech.pose(cluster, 1.0, 0.5, false).scale);
    assert_eq!(scales, [1.0, 1.0, 1.0, 2.0]);
}

/// The rows of a canvas with light in them, and the light of all.
fn drawn(draw: impl FnOnce(&mut kerno::draw::Scope<'_>)) -> (Vec<usize>, u32) {
    let (mut atlas, mut builder) = (Atlas::default(), FrameBuilder::new());
    draw(&mut builder.begin(&mut atlas, kerno::base::Mapping::IDENTITY));
    let mut canvas = Canvas::new(DeviceSize::new(120, 60));
    canvas.draw(builder.finish(), &atlas);
    let rows = canvas.pixels().chunks_exact(120).enumerate();
    let rows = rows.filter(|(_, row)| row.iter().any(|pixel| pixel[3] > 8));
    let light = canvas
        .pixels()
        .iter()
        .map(|pixel| u32::from(pixel[3]))
        .sum();
    (rows.map(|(y, _)| y).collect(), light)
}

#[test]
fn clusters_are_drawn_from_any_on_and_where_they_move() {
    let layout = marked("Fog\nFog\nFog");
    let at = DrawText::at(Point::new(10.0, 10.0), Anchor::TOP_LEFT);
    let (all, light) = drawn(|scope| scope.text(&layout, at).expect("room"));
    let (middle, part) = drawn(|scope| scope.text(&layout, at.first(4).visible(7)).expect("room"));
    assert_eq!(light, 3 * part);
    let third = layout.lines()[1].height as usize;
    assert!(middle[0] >= all[0] + third - 1 && middle.len() * 3 <= all.len() + 3);
    // Still letters are as without a motion; moved ones are as far away as is said.
    let still = |_: usize| ClusterPose::STILL;
    let same = drawn(|scope| scope.text_in_motion(&layout, at, &still).expect("room"));
    assert_eq!(same, (all.clone(), light));
    let down = |_: usize| ClusterPose::STILL.offset(Offset::new(0.0, 5.0));
    let (moved, moved_light) =
        drawn(|scope| scope.text_in_motion(&layout, at, &down).expect("room"));
    assert!(
        moved[0].abs_diff(all[0] + 5) <= 1,
        "{} {}",
        moved[0],
        all[0]
    );
    assert!((moved_light as f32 / light as f32 - 1.0).abs() < 0.1);
    let gone = |_: usize| ClusterPose::STILL.tint(Color::rgba(0, 0, 0, 0));
    assert_eq!(
        drawn(|scope| scope.text_in_motion(&layout, at, &gone).expect("room")).1,
        0
    );
    let odd = |_: usize| ClusterPose::STILL.scale(f32::NAN).rotation(f32::INFINITY);
    drawn(|scope| {
        scope
            .text_in_motion(&layout, at, &odd)
            .expect("nothing is drawn");
    });
}

#[test]
fn a_text_may_scroll_by_lines() {
    let speech = Speech::new(marked("a\nb\nc\nd"), &pace(), PageSize::Lines(3));
    let speech = speech.expect("a speech").scrolling(PageSize::Lines(3));
    let lines = speech.pages().iter().map(|page| page.lines.clone());
    assert_eq!(lines.collect::<Vec<_>>(), [0..3, 1..4]);
    let mut player = SpeechPlayer::new(speech);
    let mut events = Vec::new();
    player.advance(9.0, &mut |event| {
        if !matches!(event, SpeechEvent::Cluster { .. }) {
            events.push(format!("{event:?}"));
        }
    });
    // It scrolls without a press, and ends where all is said.
    assert_eq!(events, ["Page(1)", "Stop(Done)"]);
    assert_eq!(player.page().map(|page| page.clusters.clone()), Some(2..7));
}
