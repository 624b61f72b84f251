//! Faces and packs.

use std::ffi::c_char;

use kerno::base::Limits;
use kerno::{Face, Pack};

use crate::handle::{bytes, free, give, shared, string, write};
use crate::status::{KernoStatus, guard};

/// A font in one style.
#[derive(Debug)]
pub struct KernoFace(pub(crate) Face);

/// Fonts and pictures that were baked ahead of time.
#[derive(Debug)]
pub struct KernoPack(pub(crate) Pack);

/// Metrics of a face at a size, in design pixels; the descender is below zero.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoMetrics {
    /// From the baseline up to the top of the tallest letters.
    pub ascender: f32,
    /// From the baseline down to the bottom of the deepest letters, below zero.
    pub descender: f32,
    /// Space between two lines.
    pub line_gap: f32,
    /// Height of capital letters; 0 where the font does not say.
    pub cap_height: f32,
    /// Height of small letters; 0 where the font does not say.
    pub x_height: f32,
}

/// Opens a font file.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_face_open(
    path: *const c_char,
    out: *mut *mut KernoFace,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            let face = Face::from_file(string(path, "path")?)?;
            Ok(KernoFace(face))
        })
    })
}

/// Opens a font from its bytes, which are copied; `index` counts the faces of a collection
/// from 0.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_face_from_bytes(
    first: *const u8,
    count: usize,
    index: u32,
    out: *mut *mut KernoFace,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            let own = bytes(first, count, "first")?.to_vec();
            Ok(KernoFace(Face::from_bytes_with(
                own,
                index,
                Limits::default(),
            )?))
        })
    })
}

/// Metrics of a face at a size in design pixels an em.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_face_metrics(
    face: *const KernoFace,
    size: f32,
    out: *mut KernoMetrics,
) -> KernoStatus {
    guard(|| {
        let metrics = shared(face, "face")?.0.metrics();
        let px = |units: i16| f32::from(units) * size / f32::from(metrics.units_per_em);
        let height = |units: Option<i16>| units.map_or(0.0, px);
        let metrics = KernoMetrics {
            ascender: px(metrics.ascender),
            descender: px(metrics.descender),
            line_gap: px(metrics.line_gap),
            cap_height: height(metrics.cap_height),
            x_height: height(metrics.x_height),
        };
        write(out, metrics)
    })
}

/// Frees a face.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_face_free(face: *mut KernoFace) {
    free(face);
}

/// Opens a baked pack.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_pack_open(
    path: *const c_char,
    out: *mut *mut KernoPack,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            Ok(KernoPack(Pack::from_file(string(path, "path")?)?))
        })
    })
}

/// A face of a pack, by the name that the manifest gave it.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_pack_face(
    pack: *const KernoPack,
    name: *const c_char,
    out: *mut *mut KernoFace,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            let pack = shared(pack, "pack")?;
            Ok(KernoFace(pack.0.face(string(name, "name")?)?))
        })
    })
}

/// Frees a pack.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_pack_free(pack: *mut KernoPack) {
    free(pack);
}
