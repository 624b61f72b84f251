//! Folders of fonts.

use std::collections::BTreeSet;
use std::env;
use std::ffi::OsStr;
use std::path::{Path, PathBuf};

/// The folders where this system keeps its fonts, the user's own first.
pub(super) fn of_system() -> Vec<PathBuf> {
    let home = env::var_os("HOME").map(PathBuf::from);
    let below = |base: Option<PathBuf>, path: &str| base.map(|base| base.join(path));
    let fixed = |path: &str| Some(PathBuf::from(path));
    let folders = if cfg!(windows) {
        let local = env::var_os("LOCALAPPDATA").map(PathBuf::from);
        let windows = env::var_os("WINDIR").map(PathBuf::from);
        vec![
            below(local, "Microsoft/Windows/Fonts"),
            below(windows, "Fonts"),
        ]
    } else if cfg!(target_os = "macos") {
        vec![
            below(home, "Library/Fonts"),
            fixed("/Library/Fonts"),
            fixed("/System/Library/Fonts"),
        ]
    } else {
        // The XDG base directories, and the folder from before them.
        let data = env::var_os("XDG_DATA_HOME").map(PathBuf::from);
        let data = data.or_else(|| below(home.clone(), ".local/share"));
        let shared = env::var_os("XDG_DATA_DIRS")
            .unwrap_or_else(|| OsStr::new("/usr/local/share:/usr/share").to_owned());
        let shared = env::split_paths(&shared).map(|base| Some(base.join("fonts")));
        [below(data, "fonts"), below(home, ".fonts")]
            .into_iter()
            .chain(shared)
            .collect()
    };
    folders.into_iter().flatten().collect()
}

/// The font files in folders and those in them, each once and in order. Links
/// are followed, circles among them are not.
pub(super) fn font_files(folders: &[impl AsRef<Path>]) -> BTreeSet<PathBuf> {
    let mut files = BTreeSet::new();
    let mut seen = BTreeSet::new();
    let mut waiting: Vec<PathBuf> = folders
        .iter()
        .map(|folder| folder.as_ref().into())
        .collect();
    while let Some(folder) = waiting.pop() {
        let is_new = folder.canonicalize().is_ok_and(|real| seen.insert(real));
        let Some(entries) = is_new.then(|| folder.read_dir().ok()).flatten() else {
            continue;
        };
        for path in entries.flatten().map(|entry| entry.path()) {
            if path.is_dir() {
                waiting.push(path);
            } else if is_font_file(&path) {
                files.insert(path);
            }
        }
    }
    files
}

fn is_font_file(path: &Path) -> bool {
    let extension = path.extension().and_then(OsStr::to_str).unwrap_or_default();
    ["ttf", "otf", "ttc", "otc"].contains(&extension.to_ascii_lowercase().as_str())
}
