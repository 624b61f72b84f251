//! Scenes: what is refused, how they are played, what the check finds.

use kerno::bake::Manifest;
use kerno::base::full_message;
use kerno::dialogue::{SavedScene, Scene, SceneCheck, SceneEvent, ScenePlayer};
use kerno::markup::{Markup, StringTables, StyleChange, StyleFile};
use kerno::screen::Screen;
use kerno::{Atlas, DeviceSize, Size};
use proptest::prelude::*;

use crate::support::{FERRY, lato};

const ROOM: Size = Size::new(200.0, 40.0);

fn styles() -> StyleFile {
    let body = StyleChange::default().face(lato()).size(10.0);
    StyleFile::default()
        .with_style("body", body)
        .with_default("text", "body")
}

fn open(text: &str) -> Result<ScenePlayer, String> {
    let scene = Scene::from_toml(text).map_err(|error| full_message(&error))?;
    let player = ScenePlayer::new(scene, styles(), StringTables::default(), ROOM);
    player.map_err(|error| full_message(&error))
}

const TALK: &str = r#"
    cues = ["bell"]
    [values]
    foggy = { start = true }
    fares = { start = 10, range = [0, 99999] }
    [speakers.odelle]
    name = "Odelle Marsh"
    portrait = "odelle"
    [[lines]]
    speaker = "odelle"
    text = "Well? @value(fares) fares."
    choices = [
        { text = "Row on", jump = "row" },
        { text = "Pay", when = { value = "fares", at-least = 100 }, jump = "row" },
        { text = "Wait" },
    ]
    [[lines]]
    text = "You wait."
    when = "foggy"
    [[lines]]
    label = "row"
    cue = "bell"
    text = "You row."
    ends = true
"#;

/// Plays a scene to its end with an answer; what happened, in words.
fn story(player: &mut ScenePlayer, answer: usize, step: f64) -> Vec<String> {
    let mut events = Vec::new();
    for _ in 0..10_000 {
        let mut on = |event: SceneEvent<'_>| {
            if !matches!(event, SceneEvent::Speech(_)) {
                events.push(format!("{event:?}"));
            }
        };
        player.advance(step, &mut on).expect("played");
        if !player.choices().is_empty() {
            player.choose(answer, &mut on).expect("an answer");
        } else if player.is_waiting() {
            player.press(&mut on).expect("pressed");
        }
        if player.is_over() {
            break;
        }
    }
    events
}

#[test]
fn lines_choices_and_conditions_are_played() {
    let line =
        |index: usize, speaker: &str| format!("Line {{ index: {index}, speaker: {speaker} }}");
    let mut player = open(TALK).expect("a scene");
    assert_eq!(
        story(&mut player, 0, 0.1),
        [
            line(0, "Some(\"odelle\")"),
            "Choices".into(),
            "Chosen(0)".into(),
            line(2, "None"),
            "Cue(\"bell\")".into(),
            "End".into()
        ]
    );
    let said: Vec<_> = player.history().map(|said| said.text.as_str()).collect();
    assert_eq!(said, ["Well? 10 fares.", "Row on", "You row."]);
    // Below a hundred fares there are two answers, and the second one goes on below.
    let mut player = open(TALK).expect("a scene");
    let events = story(&mut player, 1, 0.1);
    assert!(events.contains(&"Chosen(2)".to_owned()) && events.contains(&line(1, "None")));
    let mut player = open(TALK).expect("a scene");
    player.set("foggy", false).expect("a value");
    player.set("fares", 100).expect("a value");
    let events = story(&mut player, 2, 0.1);
    assert!(!events.contains(&line(1, "None")), "{events:?}");
    assert!(player.set("fare", 1).is_err() && player.set("foggy", 1).is_err());
    assert!(player.choose(0, &mut |_| {}).is_err(), "it is over");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(16))]
    #[test]
    fn a_scene_goes_on_from_where_it_was_saved(cut in 0.0_f64..4.0, step in 0.02_f64..0.5) {
        let mut player = open(TALK).expect("a scene");
        let whole = story(&mut open(TALK).expect("a scene"), 0, step);
        let mut events = Vec::new();
        let mut on = |event: SceneEvent<'_>| {
            if !matches!(event, SceneEvent::Speech(_)) {
                events.push(format!("{event:?}"));
            }
        };
        player.advance(cut, &mut on).expect("played");
        let saved = toml::to_string(&player.save()).expect("plain data");
        let saved: SavedScene = toml::from_str(&saved).expect("plain data");
        let mut again = open(TALK).expect("a scene");
        again.restore(&saved).expect("the same scene");
        prop_assert_eq!(again.save(), player.save());
        events.extend(story(&mut again, 0, step));
        prop_assert_eq!(events, whole);
    }
}

#[test]
fn what_was_saved_is_of_its_scene() {
    let player = open(TALK).expect("a scene");
    let other = "[[lines]]\ntext = 'Fog.'\n[[lines]]\ntext = 'More fog.'\n";
    let error = open(other).expect("a scene").restore(&player.save());
    assert!(
        error
            .expect_err("another scene")
            .to_string()
            .contains("another scene")
    );
    let mut saved = serde_json::to_value(player.save()).expect("plain data");
    saved["version"] = 7.into();
    let saved: SavedScene = serde_json::from_value(saved).expect("plain data");
    let error = open(TALK).expect("a scene").restore(&saved);
    assert!(
        error
            .expect_err("another version")
            .to_string()
            .contains("version 7")
    );
}

#[test]
fn another_box_keeps_the_place_in_the_text() {
    let mut player = open(TALK).expect("a scene");
    player.advance(0.25, &mut |_| {}).expect("played");
    let shown = player.speech().expect("a line").visible();
    player.set_room(Size::new(60.0, 14.0)).expect("a box");
    let speech = player.speech().expect("a line");
    assert!(speech.speech().pages().len() > 1 && speech.visible() == shown);
    // A box as large as its text.
    let free = Size::new(f32::INFINITY, f32::INFINITY);
    player.set_room(free).expect("a box");
    let speech = player.speech().expect("a line");
    assert_eq!(speech.speech().layout().lines().len(), 1);
    assert!(speech.visible() == shown);
}

#[test]
fn what_is_wrong_is_told_with_its_line() {
    let refused = [
        (
            "speaker = \"odelle\"",
            "speaker = \"odele\"",
            "did you mean “odelle”",
        ),
        (
            "jump = \"row\" },\n        { text = \"Pay\"",
            "jump = \"rov\" },\n        { text = \"Pay\"",
            "did you mean “row”",
        ),
        ("cue = \"bell\"", "cue = \"bel\"", "did you mean “bell”"),
        (
            "when = \"foggy\"",
            "when = \"fogy\"",
            "did you mean “foggy”",
        ),
        ("@value(fares)", "@value(fare)", "did you mean “fares”"),
        (
            "text = \"You wait.\"",
            "text = \"@cue(drum)\"",
            "no cue “drum”",
        ),
        ("text = \"You wait.\"", "text = \"@pause(-1)\"", "no pause"),
        (
            "text = \"You wait.\"",
            "text = \"@wave{\"",
            "brace is not closed",
        ),
        ("text = \"You wait.\"", "text = \"\"", "text is empty"),
        ("text = \"You wait.\"", "string = \"wait\"", "there is none"),
        (
            "text = \"You wait.\"",
            "style = \"loud\"\ntext = \"a\"",
            "no style “loud”",
        ),
        ("text = \"You wait.\"\n", "", "says nothing"),
        ("text = \"You wait.\"", "txt = \"a\"", "did you mean “text”"),
        (
            "label = \"row\"",
            "label = \"row\"\nspeaker = \"\"",
            "no speaker “”",
        ),
        ("range = [0, 99999]", "range = [20, 30]", "within its range"),
        (
            "ends = true",
            "ends = true\n[[lines]]\ntext = \"Lost.\"",
            "nobody reaches",
        ),
        (
            "text = \"You wait.\"\n    when = \"foggy\"",
            "jump = \"here\"\nlabel = \"here\"",
            "without a word",
        ),
        (
            "at-least = 100",
            "at-least = 1, below = 2",
            "one of `at-least`",
        ),
    ];
    assert!(open(TALK).is_ok());
    for (from, to, said) in refused {
        assert!(TALK.contains(from), "{from}");
        let error = open(&TALK.replacen(from, to, 1)).expect_err(to);
        assert!(
            error.contains(said) && error.contains("line "),
            "{to}: {error}"
        );
    }
}

#[test]
fn answers_that_are_all_missing_are_passed() {
    let line = "[[lines]]\nchoices = [{ text = \"Pay\", when = \"rich\" }]\n";
    let head = "[values]\nrich = { start = false }\n";
    // As many in a row as would not fit on a stack.
    let many = format!("{head}{}[[lines]]\ntext = \"Row.\"\n", line.repeat(50_000));
    let mut player = open(&many).expect("a scene");
    player.advance(0.1, &mut |_| {}).expect("played");
    assert_eq!(player.line(), Some(50_000));
    let circle = format!("{head}{line}label = \"here\"\njump = \"here\"\n");
    let error = open(&circle).expect_err("it may go round for ever");
    assert!(error.contains("without a word"), "{error}");
}

#[test]
fn the_check_finds_what_was_planted() {
    let find = |text: &str| {
        let scene = Scene::from_toml(text).expect("a scene");
        let check = SceneCheck::new(ROOM);
        let found = check.run(&scene, &styles(), &StringTables::default());
        let found = found.expect("checked").into_iter();
        found
            .map(|finding| (finding.line, finding.kind.name()))
            .collect::<Vec<_>>()
    };
    assert_eq!(find(TALK), []);
    let planted = [
        (
            "You wait.",
            "Word after word after word. ".repeat(30),
            "too-many-pages",
        ),
        ("You wait.", "W".repeat(60), "word-too-wide"),
        (
            "Row on",
            "Row on and on and on and on and on and on and on".into(),
            "choice-too-wide",
        ),
        (
            "You wait.",
            "You @pace(9){wait and row for a long time}.".into(),
            "too-fast",
        ),
        ("You wait.", "You ⛴.".into(), "missing-glyphs"),
    ];
    for (from, to, kind) in planted {
        let text = TALK.replacen(from, &to, 1);
        let at = 1 + text[..text.find(&to).expect("it is there")]
            .rfind("[[lines]]")
            .map_or(0, |at| text[..at].matches('\n').count());
        let found = find(&text);
        assert_eq!(found, [(at, kind)], "{to}");
    }
}

#[test]
fn the_demo_scene_is_sound_in_three_languages() {
    let scene = Scene::from_file(format!("{FERRY}/crossing.toml")).expect("a scene");
    let styles = StyleFile::from_file(scene.style_file().expect("styles")).expect("styles");
    let folder = scene.string_folder().expect("strings");
    let strings = StringTables::from_folder(folder).expect("strings");
    let room = Size::new(404.0, 48.0);
    let found = SceneCheck::new(room).run(&scene, &styles, &strings);
    assert_eq!(found.expect("checked"), []);
    let mut player = ScenePlayer::new(scene, styles, strings, room).expect("a player");
    for language in ["de", "en", "he"] {
        player.set_language(language).expect("a language");
        let events = story(&mut player, 0, 0.1);
        assert!(
            player.is_over() && events.last() == Some(&"End".to_owned()),
            "{language}"
        );
        let first = open(TALK).expect("a scene");
        assert!(player.restore(&first.save()).is_err());
        player = ScenePlayer::from_file(format!("{FERRY}/crossing.toml"), room).expect("again");
    }
}

#[test]
fn a_text_without_its_markup_is_what_is_said() {
    assert_eq!(
        Markup::strip("a@pause(0.4)b @wave{c@gold{d}} @@ @} }"),
        "ab cd @ } }"
    );
    assert_eq!(Markup::strip("@value(fares, digits=4) aboard"), " aboard");
    assert_eq!(Markup::strip("@broken(x"), "");
}

#[test]
fn a_scene_is_shown_on_a_screen() {
    let mut atlas = Atlas::default();
    let sprites = Manifest::from_file(format!("{FERRY}/sprites.toml")).expect("sprites");
    sprites.add_sprites_to(&mut atlas).expect("room");
    let screen = Screen::from_file(format!("{FERRY}/talk.toml"), &mut atlas);
    let mut screen = screen.expect("a screen");
    let view = screen
        .viewport(DeviceSize::new(1280, 720))
        .expect("a window");
    screen.arrange(&view, &atlas).expect("arranged");
    let room = screen.dialogue_room("line").expect("a dialogue element");
    assert_eq!(room, Size::new(404.0, 48.0));
    assert_eq!(screen.dialogue_room("box"), None);
    let mut player =
        ScenePlayer::from_file(format!("{FERRY}/crossing.toml"), room).expect("a scene");
    let mut look = |screen: &mut Screen, player: &ScenePlayer| {
        screen.show_dialogue("line", player).expect("shown");
        let frame = screen.frame(&mut atlas, &view).expect("a frame");
        assert!(frame.batches.len() <= 1);
        let quads = frame.quad_count();
        let names = [
            "box",
            "nameplate",
            "portrait",
            "oar",
            "answer-1",
            "answer-3",
        ];
        (names.map(|name| screen.element_rect(name).is_some()), quads)
    };
    assert_eq!(
        look(&mut screen, &player),
        ([false; 6], 0),
        "nobody speaks yet"
    );
    player.advance(0.5, &mut |_| {}).expect("played");
    let (seen, few) = look(&mut screen, &player);
    assert_eq!(
        seen,
        [true, false, false, false, false, false],
        "the narrator has no name"
    );
    player.advance(0.5, &mut |_| {}).expect("played");
    assert!(look(&mut screen, &player).1 > few, "more letters");
    player.press(&mut |_| {}).expect("pressed");
    assert_eq!(
        look(&mut screen, &player).0,
        [true, false, false, true, false, false]
    );
    player.press(&mut |_| {}).expect("pressed");
    player.advance(0.1, &mut |_| {}).expect("played");
    assert_eq!(
        look(&mut screen, &player).0,
        [true, true, true, false, false, false]
    );
    while player.choices().is_empty() {
        player.press(&mut |_| {}).expect("pressed");
    }
    assert_eq!(
        look(&mut screen, &player).0,
        [true, true, true, false, true, true]
    );
    assert_eq!(
        screen.text("answer-1-words").map(kerno::TextLayout::text),
        Some("Sound the bell")
    );
    let error = screen
        .show_dialogue("lin", &player)
        .expect_err("no such element");
    assert!(error.to_string().contains("did you mean “line”"), "{error}");
    // Values that the screen gives itself are neither asked for nor written.
    screen
        .set_all(&std::collections::BTreeMap::<&str, f64>::new())
        .expect("no values");
    assert!(
        !screen
            .description()
            .to_toml()
            .expect("words")
            .contains("line.open\" =")
    );
}
