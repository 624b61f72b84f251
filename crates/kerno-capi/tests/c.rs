//! The header is that of the code, and a program of C is built with it and runs.

use std::env;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};

use cbindgen::{
    Builder, DocumentationStyle, EnumConfig, ExportConfig, Language, RenameRule, Style,
};

use kerno::bake::Manifest;

const CRATE: &str = env!("CARGO_MANIFEST_DIR");

/// The header, as the generator makes it of the sources.
fn generated() -> String {
    let config = cbindgen::Config {
        language: Language::C,
        include_guard: Some("KERNO_H".to_owned()),
        header: Some(
            "/* Kerno from C. Made of the crate kerno-capi: change that instead. */".to_owned(),
        ),
        cpp_compat: true,
        usize_is_size_t: true,
        style: Style::Both,
        documentation: true,
        documentation_style: DocumentationStyle::C99,
        export: ExportConfig {
            include: ["PageKind", "Align", "Wrap", "Overflow"]
                .map(|name| format!("Kerno{name}"))
                .to_vec(),
            ..ExportConfig::default()
        },
        enumeration: EnumConfig {
            rename_variants: RenameRule::QualifiedScreamingSnakeCase,
            ..EnumConfig::default()
        },
        ..cbindgen::Config::default()
    };
    let mut builder = Builder::new().with_config(config);
    for file in [
        "status", "values", "face", "text", "drawing", "screen", "scene",
    ] {
        builder = builder.with_src(format!("{CRATE}/src/{file}.rs"));
    }
    let mut header = Vec::new();
    builder.generate().expect("a header").write(&mut header);
    String::from_utf8(header).expect("UTF-8")
}

#[test]
fn the_header_is_that_of_the_code() {
    let path = format!("{CRATE}/include/kerno.h");
    let own = generated();
    if env::var_os("KERNO_WRITE_HEADER").is_some() {
        fs::write(&path, &own).expect("the header written");
    }
    let committed = fs::read_to_string(&path).unwrap_or_default();
    assert!(
        own == committed,
        "include/kerno.h is out of date: KERNO_WRITE_HEADER=1 cargo test -p kerno-capi"
    );
}

/// The library as C links it, beside this test.
fn library() -> PathBuf {
    let test = env::current_exe().expect("a path");
    let beside = test.parent().expect("a folder").join("libkerno_capi.a");
    assert!(beside.exists(), "{} was built", beside.display());
    beside
}

/// Builds the example with the machine's compiler; false where that lacks the sanitizers.
fn compiles(program: &Path, sanitizers: &[&str]) -> bool {
    let mut compiler = Command::new(env::var_os("CC").unwrap_or_else(|| "cc".into()));
    compiler.args(["-std=c99", "-Wall", "-Wextra", "-Werror", "-g", "-I"]);
    compiler.arg(format!("{CRATE}/include")).args(sanitizers);
    compiler
        .arg(format!("{CRATE}/examples/score.c"))
        .arg(library());
    compiler
        .arg("-o")
        .arg(program)
        .args(["-lpthread", "-ldl", "-lm"]);
    let output = compiler.output().expect("a compiler for C");
    if !output.status.success() {
        eprintln!("{}", String::from_utf8_lossy(&output.stderr));
    }
    output.status.success()
}

fn run(program: &mut Command) -> Output {
    let output = program.output().expect("it starts");
    let errors = String::from_utf8_lossy(&output.stderr);
    assert!(output.status.success(), "{errors}");
    output
}

#[cfg(unix)]
#[test]
fn a_program_of_c_draws_and_its_mistakes_are_told() {
    let folder = tempfile::tempdir().expect("a folder");
    let (program, picture) = (folder.path().join("score"), folder.path().join("score.ppm"));
    let sanitizers = ["-fsanitize=address,undefined", "-fno-sanitize-recover=all"];
    if !compiles(&program, &sanitizers) {
        eprintln!("this compiler has no sanitizers; without them:");
        assert!(compiles(&program, &[]), "it builds");
    }
    let demo = format!("{CRATE}/demo/ferry");
    let manifest = Manifest::from_file(format!("{demo}/ferry.toml")).expect("a manifest");
    let bake = manifest.bake(&|_, _| {}).expect("a bake");
    let pack = folder.path().join("ferry.kpack");
    fs::write(&pack, bake.to_pack().expect("a pack")).expect("a file");
    let output = run(Command::new(&program).args([Path::new(&demo), &pack, &picture]));
    let said = String::from_utf8(output.stdout).expect("UTF-8");
    let wanted = "\
score: 1 wider, 1 draw call, uploaded once, then 0 texels
its plate ends at 636
scene: 1 line, many letters, over: 0
fares: wider, to the same right edge: 1
no fog: 1
pack: 1 pages or more, letters of two heights
a HUD with baked sprites: 1 draw call
5 font-not-a-font: no face
1 null-pointer: `text` is null
2 stale-handle: `text` was freed, or is no handle of its type
2 stale-handle
4 argument: `options.wrap` is 9; it is 0 to 3
3 not-utf8: `text` is not UTF-8 from byte 0 on
4 argument: no frame was begun: call `kerno_drawing_begin` first
";
    assert_eq!(said, wanted);
    let picture = fs::read(&picture).expect("a picture");
    let pixels = &picture[picture.len() - 640 * 360 * 3..];
    let lit = pixels
        .chunks(3)
        .filter(|pixel| pixel.iter().any(|byte| *byte > 0))
        .count();
    assert!(lit > 20_000, "{lit} pixels");
}
