//! Screens: HUDs from files.

use std::ffi::c_char;

use kerno::draw::Frame;
use kerno::markup::Value;
use kerno::screen::{Screen, ScreenDescription, Viewport};
use kerno::{DeviceSize, Point};

use crate::drawing::{KernoBatch, KernoDrawing, KernoFrame, frame_for_c, paint};
use crate::handle::{free, give, shared, string, unique, write};
use crate::scene::KernoScene;
use crate::status::{Failure, KernoStatus, guard};
use crate::values::{KernoPoint, KernoRect, KernoSize};

/// A HUD of a screen file.
#[derive(Debug)]
pub struct KernoScreen {
    screen: Screen,
    batches: Vec<KernoBatch>,
}

impl KernoScreen {
    fn viewport(&self, (width, height): (u32, u32), text_scale: f32) -> Result<Viewport, Failure> {
        let view = self.screen.viewport(DeviceSize::new(width, height))?;
        Ok(view.with_text_scale(text_scale))
    }
}

/// Opens a screen file with the sprites that it names, which are added to the drawing if no
/// pack has brought them. Use the
/// screen with that drawing alone; several screens may share one.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_open(
    path: *const c_char,
    drawing: *mut KernoDrawing,
    out: *mut *mut KernoScreen,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            let path = string(path, "path")?;
            let drawing = unique(drawing, "drawing")?;
            let description = ScreenDescription::from_file(path)?;
            if let Some(sprites) = description.sprite_source()
                && !drawing.is_baked
            {
                drawing.add_sprites(&sprites)?;
            }
            Ok(KernoScreen {
                screen: Screen::from_file(path, &mut drawing.atlas)?,
                batches: Vec::new(),
            })
        })
    })
}

fn set(
    screen: *mut KernoScreen,
    name: *const c_char,
    value: impl FnOnce() -> Result<Value, Failure>,
) -> KernoStatus {
    guard(|| {
        let (screen, name) = (unique(screen, "screen")?, string(name, "name")?);
        Ok(screen.screen.set(name, value()?)?)
    })
}

/// Sets a value that is a number.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_set_number(
    screen: *mut KernoScreen,
    name: *const c_char,
    number: f64,
) -> KernoStatus {
    set(screen, name, || Ok(Value::Number(number)))
}

/// Sets a value that is a text.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_set_text(
    screen: *mut KernoScreen,
    name: *const c_char,
    text: *const c_char,
) -> KernoStatus {
    set(screen, name, || {
        Ok(Value::Text(string(text, "text")?.to_owned()))
    })
}

/// Sets a value that is true or false.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_set_flag(
    screen: *mut KernoScreen,
    name: *const c_char,
    flag: bool,
) -> KernoStatus {
    set(screen, name, || Ok(Value::Flag(flag)))
}

/// Sets a value that is a point: the place of an element in the world.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_set_point(
    screen: *mut KernoScreen,
    name: *const c_char,
    point: KernoPoint,
) -> KernoStatus {
    set(screen, name, || Ok(Value::Point(Point::from(point))))
}

/// Sets the language of the texts, by its tag.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_set_language(
    screen: *mut KernoScreen,
    drawing: *mut KernoDrawing,
    language: *const c_char,
) -> KernoStatus {
    guard(|| {
        let atlas = &mut unique(drawing, "drawing")?.atlas;
        let language = string(language, "language")?;
        Ok(unique(screen, "screen")?
            .screen
            .set_language(language, atlas)?)
    })
}

/// Moves time on by some seconds, 0 or more.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_advance(
    screen: *mut KernoScreen,
    seconds: f64,
) -> KernoStatus {
    guard(|| {
        if !(seconds >= 0.0 && seconds.is_finite()) {
            return Err(Failure::argument("`seconds` is 0 or more"));
        }
        unique(screen, "screen")?.screen.advance(seconds);
        Ok(())
    })
}

/// The frame of a screen in a window of a size in device pixels. `text_scale` is what a reader
/// asks for, 0.5 to 3. A window of 0 × 0 gives a frame with nothing in it.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_frame(
    screen: *mut KernoScreen,
    drawing: *mut KernoDrawing,
    width: u32,
    height: u32,
    text_scale: f32,
    out: *mut KernoFrame,
) -> KernoStatus {
    guard(|| {
        let screen = unique(screen, "screen")?;
        let atlas = &mut unique(drawing, "drawing")?.atlas;
        if width == 0 || height == 0 {
            let empty = frame_for_c(&Frame::default(), &mut screen.batches);
            return write(out, empty);
        }
        let view = screen.viewport((width, height), text_scale)?;
        let frame = screen.screen.frame(atlas, &view)?;
        write(out, frame_for_c(&frame, &mut screen.batches))
    })
}

/// Draws a screen over pixels in memory, as `kerno_screen_frame` and `kerno_drawing_paint` do.
/// `pixels` points to `width` × `height` × 4 bytes.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_paint(
    screen: *mut KernoScreen,
    drawing: *mut KernoDrawing,
    width: u32,
    height: u32,
    text_scale: f32,
    pixels: *mut u8,
) -> KernoStatus {
    guard(|| {
        let screen = unique(screen, "screen")?;
        let atlas = &mut unique(drawing, "drawing")?.atlas;
        if width == 0 || height == 0 {
            return Ok(());
        }
        let view = screen.viewport((width, height), text_scale)?;
        let frame = screen.screen.frame(atlas, &view)?;
        paint(frame, atlas, (width, height), pixels)
    })
}

/// The rectangle of an element, as it was arranged last.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_element_rect(
    screen: *const KernoScreen,
    name: *const c_char,
    out: *mut KernoRect,
) -> KernoStatus {
    guard(|| {
        let (screen, name) = (shared(screen, "screen")?, string(name, "name")?);
        let rect = screen.screen.element_rect(name);
        let missing = || Failure::argument(&format!("there is no element “{name}” to be seen"));
        write(out, rect.ok_or_else(missing)?.into())
    })
}

/// The room that a dialogue element has for its lines: for `kerno_scene_open`. Ask for it after
/// a frame.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_dialogue_room(
    screen: *const KernoScreen,
    name: *const c_char,
    out: *mut KernoSize,
) -> KernoStatus {
    guard(|| {
        let (screen, name) = (shared(screen, "screen")?, string(name, "name")?);
        let room = screen.screen.dialogue_room(name);
        let missing = || Failure::argument(&format!("there is no dialogue element “{name}”"));
        write(out, room.ok_or_else(missing)?.into())
    })
}

/// Shows the line at hand of a scene in a dialogue element. Call it in every frame.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_show_scene(
    screen: *mut KernoScreen,
    name: *const c_char,
    scene: *const KernoScene,
) -> KernoStatus {
    guard(|| {
        let (screen, name) = (unique(screen, "screen")?, string(name, "name")?);
        Ok(screen
            .screen
            .show_dialogue(name, &shared(scene, "scene")?.0)?)
    })
}

/// Frees a screen.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_screen_free(screen: *mut KernoScreen) {
    free(screen);
}
