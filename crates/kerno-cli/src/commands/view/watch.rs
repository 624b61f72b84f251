//! Files that are saved while they are shown.

use std::path::Path;

use notify::{Event, EventKind, RecommendedWatcher, RecursiveMode, Watcher};
use winit::event_loop::EventLoopProxy;

/// A file of the folder was written.
#[derive(Clone, Copy, Debug)]
pub(super) struct Saved;

/// Watches the folder of a file with all below it: styles, texts and sprites lie there.
/// Whoever keeps what comes back is told of each file that is written.
///
/// # Errors
/// A sentence of the system, where the folder can't be watched.
pub(super) fn watch(
    file: &Path,
    proxy: EventLoopProxy<Saved>,
) -> Result<RecommendedWatcher, notify::Error> {
    let mut watcher = notify::recommended_watcher(move |event: notify::Result<Event>| {
        let is_written = event.is_ok_and(|event| {
            matches!(
                event.kind,
                EventKind::Create(_) | EventKind::Modify(_) | EventKind::Remove(_)
            )
        });
        if is_written {
            // Nobody needs to know after the window was closed.
            let _ = proxy.send_event(Saved);
        }
    })?;
    let folder = match file.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => folder,
        _ => Path::new("."),
    };
    watcher.watch(folder, RecursiveMode::Recursive)?;
    Ok(watcher)
}
