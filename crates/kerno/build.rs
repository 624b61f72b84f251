//! Tells one build of the library from another by its sources, so that what an older one has
//! baked is baked anew.

use std::path::{Path, PathBuf};

fn main() {
    println!("cargo:rerun-if-changed=src");
    let mut files = Vec::new();
    list(Path::new("src"), &mut files);
    files.sort();
    // FNV-1a, 64 bits.
    let mut hash = 0xcbf2_9ce4_8422_2325_u64;
    for path in files {
        let bytes = std::fs::read(&path).unwrap_or_default();
        let name = path.to_string_lossy().into_owned().into_bytes();
        for byte in name.into_iter().chain(bytes) {
            hash = (hash ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3);
        }
    }
    println!("cargo:rustc-env=KERNO_SOURCES={hash:016x}");
}

fn list(folder: &Path, files: &mut Vec<PathBuf>) {
    let Ok(entries) = std::fs::read_dir(folder) else {
        return;
    };
    for path in entries.flatten().map(|entry| entry.path()) {
        if path.is_dir() {
            list(&path, files);
        } else {
            files.push(path);
        }
    }
}
