//! Scenes of dialogue.

use std::ffi::{CString, c_char, c_void};
use std::ptr;

use kerno::Size;
use kerno::dialogue::{SceneEvent, ScenePlayer, SpeechEvent};

use crate::handle::{free, give, shared, string, unique, write};
use crate::status::{Failure, KernoStatus, c_string, guard};
use crate::values::KernoSize;

/// A scene at work.
#[derive(Debug)]
pub struct KernoScene(pub(crate) ScenePlayer);

/// Kinds of events of a scene.
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KernoEventKind {
    /// A line begins: `index` is its number, `text` who speaks.
    Line = 0,
    /// A letter appears: `index` is the number of its cluster.
    Cluster = 1,
    /// A cue: `text` is its name.
    Cue = 2,
    /// The player has to choose.
    Choices = 3,
    /// An answer was chosen: `index` is its number in the line.
    Chosen = 4,
    /// The scene is over.
    End = 5,
    /// Something else: pages, rests.
    Other = 6,
}

/// Something that happened in a scene.
#[repr(C)]
#[derive(Clone, Copy, Debug)]
pub struct KernoEvent {
    /// Its kind.
    pub kind: KernoEventKind,
    /// A number, by the kind.
    pub index: usize,
    /// A text, by the kind; null where there is none. It is valid during the call.
    pub text: *const c_char,
}

/// A hearer of events: it gets the pointer that was handed in, and the event. It may not use the
/// scene, and may not jump out.
pub type KernoEventHandler = Option<unsafe extern "C" fn(*mut c_void, *const KernoEvent)>;

fn tell(event: SceneEvent<'_>, handler: KernoEventHandler, user: *mut c_void) {
    let Some(handler) = handler else {
        return;
    };
    let (kind, index, text) = match event {
        SceneEvent::Line { index, speaker } => (KernoEventKind::Line, index, speaker),
        SceneEvent::Speech(SpeechEvent::Cluster { cluster, .. }) => {
            (KernoEventKind::Cluster, cluster, None)
        }
        SceneEvent::Cue(name) | SceneEvent::Speech(SpeechEvent::Cue { name, .. }) => {
            (KernoEventKind::Cue, 0, Some(name))
        }
        SceneEvent::Choices => (KernoEventKind::Choices, 0, None),
        SceneEvent::Chosen(index) => (KernoEventKind::Chosen, index, None),
        SceneEvent::End => (KernoEventKind::End, 0, None),
        _ => (KernoEventKind::Other, 0, None),
    };
    let text: Option<CString> = text.map(c_string);
    let event = KernoEvent {
        kind,
        index,
        text: text.as_ref().map_or(ptr::null(), |text| text.as_ptr()),
    };
    // SAFETY: the caller promises that the handler takes what it was handed in with.
    unsafe { handler(user, &raw const event) };
}

/// Opens a scene file for a box of a size, in design pixels.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_scene_open(
    path: *const c_char,
    room: KernoSize,
    out: *mut *mut KernoScene,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            let room = Size::new(room.width, room.height);
            Ok(KernoScene(ScenePlayer::from_file(
                string(path, "path")?,
                room,
            )?))
        })
    })
}

/// Moves a scene on by some seconds, 0 or more; `handler` may be null.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_scene_advance(
    scene: *mut KernoScene,
    seconds: f64,
    handler: KernoEventHandler,
    user: *mut c_void,
) -> KernoStatus {
    guard(|| {
        if !(seconds >= 0.0 && seconds.is_finite()) {
            return Err(Failure::argument("`seconds` is 0 or more"));
        }
        let scene = unique(scene, "scene")?;
        scene
            .0
            .advance(seconds, &mut |event| tell(event, handler, user))?;
        Ok(())
    })
}

/// The key was pressed: shows all of the page, or goes on.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_scene_press(
    scene: *mut KernoScene,
    handler: KernoEventHandler,
    user: *mut c_void,
) -> KernoStatus {
    guard(|| {
        let scene = unique(scene, "scene")?;
        scene.0.press(&mut |event| tell(event, handler, user))?;
        Ok(())
    })
}

/// Chooses an answer, by its number from 0 among those that are offered.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_scene_choose(
    scene: *mut KernoScene,
    answer: usize,
    handler: KernoEventHandler,
    user: *mut c_void,
) -> KernoStatus {
    guard(|| {
        let scene = unique(scene, "scene")?;
        Ok(scene
            .0
            .choose(answer, &mut |event| tell(event, handler, user))?)
    })
}

/// Number of answers that are offered now.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_scene_choice_count(
    scene: *const KernoScene,
    out: *mut usize,
) -> KernoStatus {
    guard(|| write(out, shared(scene, "scene")?.0.choices().len()))
}

/// Returns whether a scene is over; true for a handle that is null or was freed.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_scene_is_over(scene: *const KernoScene) -> bool {
    shared(scene, "scene").map_or(true, |scene| scene.0.is_over())
}

/// Frees a scene.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_scene_free(scene: *mut KernoScene) {
    free(scene);
}
