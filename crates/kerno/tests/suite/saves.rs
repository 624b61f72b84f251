//! Second cases of dialogue: saves of other texts, forms that are not chosen, times of events.

use kerno::base::full_message;
use kerno::dialogue::{
    ClusterClass, Pace, PageSize, Scene, SceneCheck, SceneEvent, SceneFindingKind, ScenePlayer,
    Speech, SpeechEvent, SpeechPlayer, SpeechState, Stop, with_spoken_names,
};
use kerno::markup::{Markup, StringTables, StyleChange, StyleFile};
use kerno::screen::{Screen, ScreenDescription};
use kerno::text::{LayoutContext, LayoutOptions, TextLayout, Wrap};
use kerno::{Atlas, DeviceSize, Size, Style};
use proptest::prelude::*;

use crate::support::lato;

const ROOM: Size = Size::new(200.0, 40.0);

fn styles() -> StyleFile {
    let body = StyleChange::default().face(lato()).size(10.0);
    StyleFile::default()
        .with_style("body", body.clone())
        .with_style("ambra", body)
        .with_default("text", "body")
}

/// String tables by language.
fn strings(tables: &[(&str, &str)]) -> StringTables {
    let mut strings = StringTables::default();
    for (tag, texts) in tables {
        let table = format!("language = '{tag}'\n[texts]\n{texts}");
        strings.add(tag, &table).expect("a table");
    }
    strings
}

fn open_with(scene: &str, strings: StringTables) -> Result<ScenePlayer, String> {
    let scene = Scene::from_toml(scene).map_err(|error| full_message(&error))?;
    let player = ScenePlayer::new(scene, styles(), strings, ROOM);
    player.map_err(|error| full_message(&error))
}

fn open(scene: &str) -> ScenePlayer {
    open_with(scene, StringTables::default()).expect("a scene")
}

fn play(player: &mut ScenePlayer, seconds: f64) {
    player.advance(seconds, &mut |_| {}).expect("played");
}

fn restored(scene: &str, before: &ScenePlayer) -> Result<ScenePlayer, String> {
    let mut after = open(scene);
    let saved = toml::to_string(&before.save()).expect("plain data");
    let saved = toml::from_str(&saved).expect("the same");
    let done = after.restore(&saved);
    done.map(|()| after).map_err(|error| full_message(&error))
}

/// The words of the line at hand, and those of them that are seen.
fn shown(player: &ScenePlayer) -> (String, String) {
    let speech = player.speech().expect("a line");
    let layout = speech.speech().layout();
    let end = layout.clusters()[..speech.visible()]
        .last()
        .map_or(0, |cluster| cluster.end);
    (
        layout.text().to_owned(),
        layout.text()[..end as usize].to_owned(),
    )
}

#[test]
fn a_line_that_says_something_else_begins_anew_or_stays_said() {
    let scene = |text: &str| {
        format!("[[lines]]\nlabel = 'run'\ntext = '{text}'\n[[lines]]\ntext = 'Gone.'\n")
    };
    for seconds in [0.05, 0.11, 0.2, 9.0] {
        let mut before = open(&scene("Run."));
        play(&mut before, seconds);
        let was_said = before.speech().expect("a line").is_done();
        let after = restored(&scene("Run, all of you."), &before).expect("restored");
        let (words, seen) = shown(&after);
        assert_eq!(words, "Run, all of you.");
        assert_eq!(
            seen,
            if was_said { words.as_str() } else { "" },
            "after {seconds} s"
        );
        // Shorter, as well.
        let mut before = open(&scene("Run, all of you."));
        play(&mut before, seconds);
        let was_said = before.speech().expect("a line").is_done();
        let mut after = restored(&scene("Run."), &before).expect("restored");
        assert_eq!(shown(&after).1, if was_said { "Run." } else { "" });
        // And it goes on: nothing that is done has less to show.
        while after.line() == Some(0) {
            play(&mut after, 0.5);
            let speech = after.speech().expect("a line");
            let count = speech.speech().layout().clusters().len();
            assert!(!speech.is_done() || speech.visible() == count);
            after.press(&mut |_| {}).expect("pressed");
        }
    }
}

#[test]
fn a_save_goes_on_in_another_language() {
    let scene = "strings = 's'\n[[lines]]\nstring = 'run'\n";
    let tables = [
        ("en", "run = 'Run.'\n"),
        ("de", "run = 'Lauft, ihr alle, lauft.'\n"),
    ];
    for seconds in [0.1, 9.0] {
        let mut before = open_with(scene, strings(&tables)).expect("a scene");
        play(&mut before, seconds);
        let saved = before.save();
        assert_eq!((saved.language(), saved.text()), ("en", "Run."));
        let mut after = open_with(scene, strings(&tables)).expect("a scene");
        after.set_language("de").expect("a language");
        after.restore(&saved).expect("restored");
        let (words, seen) = shown(&after);
        assert_eq!(words, "Lauft, ihr alle, lauft.");
        assert_eq!(seen, if seconds > 1.0 { words.as_str() } else { "" });
    }
}

#[test]
fn lines_that_were_added_or_swapped_keep_a_save_in_its_place() {
    let line = |text: &str| format!("[[lines]]\ntext = '{text}'\n");
    let labelled =
        |label: &str, text: &str| format!("[[lines]]\nlabel = '{label}'\ntext = '{text}'\n");
    let fog = line("Fog.");
    let (bell, oar, reeds) = (line("Bell."), line("Oar."), line("Reeds."));
    let at = |scene: &str, words: &str| {
        let mut player = open(scene);
        play(&mut player, 0.0);
        while shown(&player).0 != words {
            player.press(&mut |_| {}).expect("pressed");
        }
        play(&mut player, 0.15);
        player
    };
    let cases = [
        // A patch adds lines before it; lines are swapped; lines are taken away.
        (
            [&fog, &bell, &oar].map(String::as_str).concat(),
            [&reeds, &fog, &bell, &oar].map(String::as_str).concat(),
        ),
        (
            [&fog, &bell, &oar].map(String::as_str).concat(),
            [&fog, &oar, &bell].map(String::as_str).concat(),
        ),
        (
            [&fog, &bell, &oar].map(String::as_str).concat(),
            [&bell, &oar].map(String::as_str).concat(),
        ),
    ];
    for (before, after) in &cases {
        let player = at(before, "Bell.");
        let after = restored(after, &player).expect("restored");
        assert_eq!(
            shown(&after),
            ("Bell.".to_owned(), shown(&player).1),
            "{after:?}"
        );
    }
    // By its label, whatever it says and wherever it is.
    let player = at(&(fog.clone() + &labelled("hush", "Hush.")), "Hush.");
    assert_eq!(player.save().label(), Some("hush"));
    let patched = labelled("hush", "Hush now.") + &fog + "[[lines]]\ntext = 'x'\n";
    assert_eq!(
        shown(&restored(&patched, &player).expect("restored")).0,
        "Hush now."
    );
    // Between its neighbours, written anew; and gone.
    let player = at(&[&fog, &bell, &oar].map(String::as_str).concat(), "Bell.");
    let anew = [&fog, &line("Ring."), &oar].map(String::as_str).concat();
    assert_eq!(
        shown(&restored(&anew, &player).expect("restored")).0,
        "Ring."
    );
    let gone = restored(&[&fog, &oar, &reeds].map(String::as_str).concat(), &player);
    let gone = gone.expect_err("no such line");
    assert!(gone.contains("“Bell.”") && gone.contains("label"), "{gone}");
}

fn layout(source: &str, face: &kerno::Face) -> TextLayout {
    let markup = with_spoken_names(Markup::new());
    let text = markup
        .read(source, &Style::new(face, 10.0))
        .expect("a text");
    let options = LayoutOptions::default().width(100.0).wrap(Wrap::Greedy);
    text.lay_out(&options, &mut LayoutContext::new())
        .expect("a layout")
}

fn speech(source: &str) -> Speech {
    let pace = Pace::default();
    Speech::new(layout(source, &lato()), &pace, PageSize::Lines(2)).expect("a speech")
}

#[test]
fn letters_in_motion_go_on_where_they_were() {
    for source in [
        "@fade-in(seconds=2){Fog bank} ahead",
        "@drop-in(seconds=1, amount=5){Fog}",
    ] {
        let speech = speech(source);
        let mut player = SpeechPlayer::new(speech.clone());
        player.advance(0.3, &mut |_| {});
        let state: SpeechState =
            toml::from_str(&toml::to_string(&player.state()).expect("data")).expect("data");
        let again = SpeechPlayer::new(speech).at(&state);
        for cluster in 0..4 {
            let (own, other) = (player.pose(cluster, false), again.pose(cluster, false));
            assert_eq!(own, other, "cluster {cluster} of {source}");
        }
        let faded = player.pose(2, false).tint.alpha;
        assert!(faded > 0 && faded < 255, "it is on its way: {faded}");
    }
    let mut player = open("[[lines]]\ntext = '@fade-in(seconds=2){Fog bank ahead}'\n");
    play(&mut player, 0.4);
    let before = player.speech().expect("a line").pose(3, false);
    player.set_room(Size::new(90.0, 40.0)).expect("laid out");
    assert_eq!(player.speech().expect("a line").pose(3, false), before);
}

#[test]
fn a_mark_parts_a_ligature() {
    // Of the ligature for ffi the first letter is there before the pause is over.
    let sans = lato();
    let (whole, parted) = (layout("office", &sans), layout("of@pause(2)fice", &sans));
    assert_eq!(whole.text(), parted.text());
    assert!(
        parted.glyphs().len() > whole.glyphs().len(),
        "the font has ligatures"
    );
    let seen = |layout: &TextLayout| {
        layout
            .glyphs()
            .iter()
            .map(|glyph| glyph.cluster)
            .collect::<Vec<_>>()
    };
    assert!(
        seen(&parted).starts_with(&[0, 1]),
        "o and f are glyphs of their own"
    );
}

#[test]
fn skipped_letters_are_heard_once() {
    let speech =
        speech("The night ferry crosses a chain of foggy lakes, and the lamp must not go out.");
    let mut player = SpeechPlayer::new(speech.clone());
    let audible = |event: &SpeechEvent<'_>| {
        matches!(
            event,
            SpeechEvent::Cluster {
                is_audible: true,
                ..
            }
        )
    };
    let mut count = 0;
    player.advance(0.01, &mut |_| {});
    player.press(&mut |event| count += usize::from(audible(&event)));
    assert_eq!(count, 1, "all at one instant");
    // Typed, they are heard as far apart as sounds are.
    let mut player = SpeechPlayer::new(speech.clone());
    let mut times = Vec::new();
    while player.stop().is_none() {
        player.advance_timed(0.013, &mut |now, event| {
            if audible(&event) {
                times.push(now);
            }
        });
    }
    assert!(times.len() > 10);
    assert!(
        times.windows(2).all(|pair| pair[1] - pair[0] > 0.059),
        "{times:?}"
    );
    // In a hurry there are fewer, and none nearer.
    let mut player = SpeechPlayer::new(speech);
    player.set_hurry(8.0);
    let mut quick = Vec::new();
    while player.stop().is_none() {
        player.advance_timed(0.013, &mut |now, event| {
            let is_letter = matches!(
                event,
                SpeechEvent::Cluster {
                    class: ClusterClass::Letter,
                    ..
                }
            );
            if is_letter && audible(&event) {
                quick.push(now);
            }
        });
    }
    assert!(quick.len() < times.len() && quick.windows(2).all(|pair| pair[1] - pair[0] > 0.059));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    #[test]
    fn events_have_the_times_of_the_player_however_it_is_stepped(step in 0.003_f64..3.0) {
        let scene = "[[lines]]\ntext = 'Fog, and@pause(0.7) more@cue(bell) fog.'\n\
            choices = [{ text = 'Row' }, { text = 'Wait' }]\n[[lines]]\ntext = 'You row.'\n";
        let scene = format!("cues = ['bell']\n{scene}");
        let times = |step: f64| {
            let mut player = open(&scene);
            player.set_auto_advance(Some(20.0));
            let (mut now, mut times) = (0.0, Vec::new());
            let mut chosen = false;
            while !player.is_over() && now < 60.0 {
                let over = player
                    .advance_timed(step, &mut |past, event| {
                        if !matches!(event, SceneEvent::Speech(SpeechEvent::Rest(_))) {
                            times.push((now + past, format!("{event:?}")));
                        }
                    })
                    .expect("played");
                now += step;
                if !player.choices().is_empty() && !chosen {
                    // Chosen at once: the rest of the step is played after it.
                    chosen = true;
                    player.choose(0, &mut |_| {}).expect("chosen");
                    now -= over;
                }
            }
            times
        };
        let (fine, own) = (times(0.001), times(step));
        prop_assert_eq!(fine.len(), own.len());
        for ((fine, event), (own, other)) in fine.iter().zip(&own) {
            prop_assert_eq!(event, other);
            prop_assert!((fine - own).abs() < 1e-6, "{} at {} and {}", event, fine, own);
        }
    }
}

#[test]
fn forms_that_are_not_chosen_now_are_read_in_all_languages() {
    let scene = "[values]\nstars = { start = 5, range = [0, 9] }\n[[lines]]\nstring = 'stars'\n";
    let good =
        "stars = { plural = 'stars', one = 'One @ambra{star}.', other = '@value(stars) stars.' }\n";
    let bad = "stars = { plural = 'stars', one = 'Ich sehe einen @ambr{Stern}.', other = '@value(stars) Sterne.' }\n";
    assert!(open_with(scene, strings(&[("en", good), ("de", good)])).is_ok());
    for tables in [[("de", bad), ("en", good)], [("en", good), ("de", bad)]] {
        let error = open_with(scene, strings(&tables)).expect_err("a style that is not there");
        assert!(
            error.contains("de.toml, line 3") && error.contains("did you mean “ambra”?"),
            "{error}"
        );
    }
    // A language that lacks a text is not missed until it is spoken.
    let mut player =
        open_with(scene, strings(&[("en", good), ("de", "other = 'x'\n")])).expect("a scene");
    assert!(player.set_language("de").is_err());
    assert_eq!(player.language(), "en", "it stays as it was");
    // Marks along a part, and selections, in screens and scenes alike.
    let pace = "stars = { plural = 'stars', one = '@pace(0){x}', other = 'y' }\n";
    let error = open_with(scene, strings(&[("en", good), ("de", pace)])).expect_err("no pace");
    assert!(
        error.contains("column 1") && error.contains("no pace"),
        "{error}"
    );
    let screen = "design = [64, 36]\n[values]\nstars = { start = 5 }\n[[elements]]\nname = 'a'\nstring = 'stars'\n";
    let open_screen = |tables: &[(&str, &str)]| {
        let description = ScreenDescription::from_toml(screen).expect("a screen");
        let opened = Screen::new(
            description,
            styles(),
            strings(tables),
            &mut Atlas::default(),
        );
        opened.map(|_| ()).map_err(|error| full_message(&error))
    };
    open_screen(&[("en", good), ("de", good)]).expect("a screen");
    let error = open_screen(&[("en", good), ("de", bad)]).expect_err("a style that is not there");
    assert!(
        error.contains("de.toml, line 3") && error.contains("“ambr”"),
        "{error}"
    );
    open_screen(&[("en", good), ("de", "other = 'x'\n")]).expect("a text that is not there yet");
}

#[test]
fn the_check_tells_all_that_is_wrong_of_speakers_answers_boxes_and_marks() {
    let answers: String = (0..8)
        .map(|number| format!("{{ text = 'Answer {number}' }},"))
        .collect();
    let scene = format!(
        "style = 'body'\nstrings = 's'\n\
         [speakers.odelle]\nstring = 'odelle'\nportrait = 'odele'\n\
         [speakers.bram]\nname = 'Bram \u{16a0}'\n\
         [[lines]]\nspeaker = 'odelle'\nstring = 'a'\n\
         [[lines]]\nspeaker = 'bram'\ntext = '@pause(x)Hush.'\n\
         [[lines]]\nportrait = 'bell'\ntext = '@wave(amount=x){{Hush.}}'\n\
         [[lines]]\ntext = 'So?'\nchoices = [{answers}]\n"
    );
    let tables = strings(&[
        ("en", "odelle = 'Odelle'\na = 'Fog.'\n"),
        ("de", "a = 'Nebel, @umbra{grau}.'\n"),
    ]);
    let scene = Scene::from_toml(&scene).expect("a scene");
    let check = |room: Size| {
        SceneCheck::new(room)
            .most_choices(6)
            .sprites(Some(vec!["odelle".to_owned(), "bell".to_owned()]))
            .run(&scene, &styles(), &tables)
            .expect("checked")
    };
    let found = check(ROOM);
    let has = |kind: SceneFindingKind, language: &str, words: &str| {
        let own = found
            .iter()
            .filter(|found| found.kind == kind && found.language == language);
        own.filter(|found| found.problem.contains(words)).count()
    };
    use SceneFindingKind as Kind;
    assert_eq!(has(Kind::MissingText, "de", "odelle"), 1, "{found:?}");
    assert_eq!(has(Kind::MissingText, "en", ""), 0);
    assert_eq!(
        has(Kind::UnknownPortrait, "en", "did you mean “odelle”?"),
        1
    );
    assert_eq!(has(Kind::UnknownPortrait, "en", "bell"), 0);
    for language in ["en", "de"] {
        assert_eq!(has(Kind::MissingGlyphs, language, "\u{16a0}"), 1);
        assert_eq!(has(Kind::UnreadableText, language, "no pause"), 1);
        assert_eq!(has(Kind::UnreadableText, language, "no number"), 1);
        assert_eq!(has(Kind::TooManyChoices, language, "8 answers"), 1);
        assert_eq!(has(Kind::LineTooHigh, language, ""), 0);
    }
    assert_eq!(
        has(Kind::UnreadableText, "de", "de.toml, line 3"),
        1,
        "{found:?}"
    );
    assert_eq!(has(Kind::UnreadableText, "de", "column 8"), 1, "{found:?}");
    // Lines of 10 px letters are 12 px high.
    let low = check(Size::new(200.0, 9.0));
    let high = low.iter().filter(|found| found.kind == Kind::LineTooHigh);
    assert!(high.count() >= 2);
    assert!(
        SceneCheck::new(ROOM)
            .languages(vec!["xx".to_owned()])
            .run(&scene, &styles(), &tables)
            .is_err_and(|error| full_message(&error).contains("there are en, de"))
    );
}

#[test]
fn a_hidden_dialogue_has_the_room_that_it_has_when_shown() {
    let screen = |more: &str| {
        format!(
            "design = [640, 360]\n[[elements]]\nname = 'box'\nwidth = 400\nheight = 100\npadding = 10\n{more}\n\
             [[elements]]\nname = 'line'\nparent = 'box'\ndialogue = true\nwidth = '50%'\nheight = '100%'\n"
        )
    };
    let room = |text: &str, window: DeviceSize| {
        let description = ScreenDescription::from_toml(text).expect("a screen");
        let mut atlas = Atlas::default();
        let screen = Screen::new(description, styles(), StringTables::default(), &mut atlas);
        let mut screen = screen.expect("a screen");
        let view = screen.viewport(window).expect("a view");
        screen.arrange(&view, &atlas).expect("arranged");
        let hidden = screen.element_rect("line").map_or(0.0, |rect| rect.width);
        (screen.dialogue_room("line").expect("a dialogue"), hidden)
    };
    for window in [DeviceSize::new(640, 360), DeviceSize::new(1000, 400)] {
        let (shown, _) = room(&screen(""), window);
        let (hidden, width) = room(&screen("show-while = 'line.open'"), window);
        assert_eq!(shown, hidden);
        // Half of 400 less the padding, and all of 100 less it.
        assert!(
            (shown.width - 190.0).abs() < 0.01 && (shown.height - 80.0).abs() < 0.01,
            "{shown:?}"
        );
        assert_eq!(width, 0.0, "it is hidden all the same");
    }
}

#[test]
fn stops_are_believed_only_where_they_can_be() {
    // A state of a shorter text, handed to a longer one by hand.
    let (short, long) = (
        speech("Run."),
        speech("Run, all of you, and do not look back at the lamp."),
    );
    let mut player = SpeechPlayer::new(short);
    player.advance(9.0, &mut |_| {});
    assert_eq!(player.stop(), Some(Stop::Done));
    let mut again = SpeechPlayer::new(long).at(&player.state());
    assert_eq!((again.stop(), again.visible()), (None, 4));
    // It types on, at its pace.
    let before = again.visible();
    again.advance(0.05, &mut |_| {});
    assert!(again.visible() <= before + 3, "{}", again.visible());
}
