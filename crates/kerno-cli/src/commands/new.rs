//! `kerno new`.

use std::fs;
use std::path::{Path, PathBuf};

use clap::Args;

use crate::console::Console;
use crate::error::CliError;

#[derive(Debug, Args)]
pub(crate) struct NewArgs {
    /// The folder to make
    #[arg(value_name = "FOLDER")]
    folder: PathBuf,
    /// The folder of the crate `kerno` that the project is built with; by default the one that
    /// this command was built from, or the published crate
    #[arg(long, value_name = "FOLDER")]
    kerno: Option<PathBuf>,
}

macro_rules! files {
    ($($name:literal: $source:literal),* $(,)?) => {
        [$(($name, include_bytes!($source) as &[u8])),*]
    };
}

/// The files of a project, beside its `Cargo.toml`.
const FILES: [(&str, &[u8]); 8] = files! {
    "README.md": "../starter/README.md",
    "src/main.rs": "../starter/src/main.rs",
    "assets/hud.toml": "../starter/assets/hud.toml",
    "assets/styles.toml": "../starter/assets/styles.toml",
    "assets/scene.toml": "../starter/assets/scene.toml",
    "assets/bake.toml": "../starter/assets/bake.toml",
    "assets/fonts/AveriaSerifGWF-Bold.ttf": "../../demo/ferry/fonts/AveriaSerifGWF-Bold.ttf",
    "assets/fonts/AveriaSerifGWF-OFL.txt": "../../demo/ferry/fonts/AveriaSerifGWF-OFL.txt",
};

/// Makes a starter project in a folder that is not there or empty.
pub(crate) fn new(args: &NewArgs, out: &mut Console) -> Result<(), CliError> {
    let folder = &args.folder;
    let failed = |error| CliError::Write(folder.clone(), error);
    if folder.exists() {
        let mut entries = fs::read_dir(folder).map_err(failed)?;
        if entries.next().is_some() {
            return Err(CliError::FolderInUse(folder.clone()));
        }
    }
    for name in ["src", "assets/fonts"] {
        fs::create_dir_all(folder.join(name)).map_err(failed)?;
    }
    for (name, bytes) in FILES {
        out.files().write(&folder.join(name), bytes)?;
    }
    out.files()
        .write(&folder.join(".gitignore"), b"/target\n*.kpack\n")?;
    let manifest = manifest(folder, args.kerno.as_deref());
    out.files()
        .write(&folder.join("Cargo.toml"), manifest.as_bytes())?;
    out.wrote(
        folder,
        "a window with a HUD and a scene; see its README.md, or: cargo run",
    )
}

/// The `Cargo.toml` of a project.
fn manifest(folder: &Path, kerno: Option<&Path>) -> String {
    let built_from = Path::new(env!("CARGO_MANIFEST_DIR")).with_file_name("kerno");
    let source = match kerno {
        Some(kerno) => Some(std::path::absolute(kerno).unwrap_or_else(|_| kerno.to_owned())),
        None => Some(built_from).filter(|path| path.join("Cargo.toml").exists()),
    };
    let version = env!("CARGO_PKG_VERSION");
    let kerno = match source {
        Some(path) => format!("{{ path = {:?} }}", path.display().to_string()),
        None => format!("{version:?}"),
    };
    let name = folder.file_name().unwrap_or_default().to_string_lossy();
    let plain = |c: char| {
        if c.is_ascii_alphanumeric() {
            c.to_ascii_lowercase()
        } else {
            '-'
        }
    };
    let mut name: String = name.chars().map(plain).collect();
    if !name.starts_with(|first: char| first.is_ascii_lowercase()) {
        name = format!("game-{name}");
    }
    let name = name.trim_end_matches('-');
    format!(
        "[package]\n\
         name = {name:?}\n\
         version = \"0.1.0\"\n\
         edition = \"2024\"\n\
         \n\
         [dependencies]\n\
         kerno = {kerno}\n\
         # The window, and its pixels in memory.\n\
         softbuffer = {{ version = \"0.4.8\", default-features = false, \
         features = [\"wayland\", \"wayland-dlopen\", \"x11\", \"x11-dlopen\"] }}\n\
         winit = {{ version = \"0.30.13\", default-features = false, \
         features = [\"rwh_06\", \"wayland\", \"wayland-dlopen\", \"x11\"] }}\n\
         \n\
         # A project of its own, wherever its folder is.\n\
         [workspace]\n"
    )
}
