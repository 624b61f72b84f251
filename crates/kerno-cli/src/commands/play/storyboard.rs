//! A scene on one sheet: a picture of each page.

use kerno::Canvas;

use super::stage::{Note, run};
use super::{PlayArgs, clock};
use crate::commands::render::{Captions, sheet};
use crate::error::CliError;

/// Steps in which a scene is played.
const STEP: f64 = 0.01;

/// Draws a picture of each page when all of it is there, and of each choice, its times beneath.
pub(super) fn draw(args: &PlayArgs) -> Result<Canvas, CliError> {
    let mut panels: Vec<(String, Canvas)> = Vec::new();
    let mut faces = Vec::new();
    let mut start = 0.0;
    run(args, STEP, &mut |stage, notes| {
        for (time, note) in notes {
            match note {
                Note::Line | Note::Page => start = *time,
                Note::Stop | Note::Choices => {
                    let (from, to) = (clock(start), clock(*time));
                    if faces.is_empty() {
                        faces = stage.faces();
                    }
                    let speaker = stage.player.speaker_name();
                    let speaker = speaker.map_or_else(String::new, |name| format!("  {name}"));
                    let what = match note {
                        Note::Choices => "  choice",
                        _ => "",
                    };
                    let caption = format!("{from} – {to}{speaker}{what}");
                    // A choice is shown over the last page of its line.
                    if matches!(note, Note::Choices) && !panels.is_empty() {
                        panels.pop();
                    }
                    panels.push((caption, stage.draw(args)?));
                }
                _ => {}
            }
        }
        Ok(())
    })?;
    sheet(&panels, Captions::Beneath, &faces)
}
