//! A conversation with two speakers and a choice: a scene file, played on a screen file. Four
//! moments of it; the events that the game hears are printed.

use kerno::bake::Manifest;
use kerno::dialogue::{SceneEvent, ScenePlayer, SpeechEvent};
use kerno::screen::Screen;
use kerno::{Atlas, Canvas, Color, DeviceSize};

const FERRY: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/demo/ferry");

/// The game's answer to an event: sounds for cues and letters, and so on.
fn hear(event: SceneEvent<'_>) {
    match event {
        SceneEvent::Line { speaker, .. } => {
            println!("{} speaks", speaker.unwrap_or("the narrator"));
        }
        SceneEvent::Cue(name) | SceneEvent::Speech(SpeechEvent::Cue { name, .. }) => {
            println!("  cue {name}");
        }
        SceneEvent::Choices => println!("  a choice"),
        SceneEvent::End => println!("the end"),
        _ => {}
    }
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut atlas = Atlas::default();
    Manifest::from_file(format!("{FERRY}/sprites.toml"))?.add_sprites_to(&mut atlas)?;
    let mut screen = Screen::from_file(format!("{FERRY}/talk.toml"), &mut atlas)?;
    let window = DeviceSize::new(640, 360);
    let view = screen.viewport(window)?;
    screen.arrange(&view, &atlas)?;
    // The box has room for so much; the scene makes pages of it.
    let room = screen.dialogue_room("line").ok_or("no dialogue")?;
    let mut talk = ScenePlayer::from_file(format!("{FERRY}/crossing.toml"), room)?;
    talk.set("fares", 40)?;

    let mut sheet = Canvas::new(DeviceSize::new(1280, 720));
    let mut pictures = [7.0, 13.4, 20.5, 30.0].into_iter().enumerate().peekable();
    let (mut time, frame) = (0.0, 1.0 / 60.0);
    while !talk.is_over() {
        talk.advance(frame, &mut hear)?;
        time += frame;
        // Somebody who reads for two seconds, and takes the first answer.
        if talk.is_waiting() && time % 2.0 < frame {
            talk.press(&mut hear)?;
        }
        if pictures.peek().is_some_and(|(_, at)| time >= *at) {
            let (at, _) = pictures.next().unwrap_or_default();
            screen.show_dialogue("line", &talk)?;
            screen.advance(frame);
            let mut canvas = Canvas::new(window);
            canvas.clear(Color::rgb(0x16, 0x22, 0x2e));
            canvas.draw(screen.frame(&mut atlas, &view)?, &atlas);
            let (x, y) = (at as i32 % 2 * 640, at as i32 / 2 * 360);
            sheet.draw_enlarged(&canvas, x, y, 1);
        } else if !talk.choices().is_empty() && time > 27.0 {
            talk.choose(0, &mut hear)?;
        }
    }
    for said in talk.history() {
        let who = said.speaker.as_deref().unwrap_or("–");
        println!("{who}: {}", said.text);
    }
    sheet.to_image().write_png_file("conversation.png")?;
    println!("conversation.png");
    Ok(())
}
