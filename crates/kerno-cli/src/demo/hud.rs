//! The HUD: the demo's screen file, with values as a game would hand them in.

use kerno::dialogue::{Pace, Timetable};
use kerno::draw::Scope;
use kerno::markup::{StringTables, StyleFile};
use kerno::screen::{Screen, ScreenDescription};
use kerno::{Atlas, Face, Viewport};

use super::stage::picture;
use crate::error::CliError;

/// The text element that is typed.
const LINE: &str = "line";

/// The languages of the demo.
const STRINGS: [(&str, &str); 3] = [
    ("en", include_str!("../../demo/ferry/strings/en.toml")),
    ("de", include_str!("../../demo/ferry/strings/de.toml")),
    ("he", include_str!("../../demo/ferry/strings/he.toml")),
];

/// Opens the screen of the demo with its faces, from an atlas that has its sprites.
pub(crate) fn open(
    faces: impl Fn(&str) -> Option<Face>,
    atlas: &mut Atlas,
) -> Result<Screen, CliError> {
    let description = ScreenDescription::from_toml(include_str!("../../demo/ferry/hud.toml"))?;
    let styles = include_str!("../../demo/ferry/hud_styles.toml");
    let styles = StyleFile::from_toml_with(styles, faces, picture)?;
    let mut strings = StringTables::default();
    for (language, text) in STRINGS {
        strings.add(language, text)?;
    }
    Ok(Screen::new(description, styles, strings, atlas)?)
}

/// Draws the HUD on layers from 0 up. Its line has been typed for some seconds, or is all
/// there.
pub(crate) fn draw(
    screen: &mut Screen,
    scope: &mut Scope<'_>,
    (view, time): (&Viewport, Option<f64>),
) -> Result<(), CliError> {
    screen.arrange(view, scope.atlas())?;
    if let (Some(time), Some(line)) = (time, screen.text(LINE)) {
        let visible = Timetable::new(line, &Pace::default())?.visible_at(time);
        let is_whole = visible >= line.clusters().len();
        screen.reveal(LINE, visible)?;
        screen.set("waiting", is_whole)?;
    }
    Ok(screen.draw(scope, view)?)
}
