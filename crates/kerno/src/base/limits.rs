//! Caps on what a file may make us do.

/// Caps on what a file or a caller may make Kerno spend. Every reader takes
/// one; the default suits games and refuses only what no real file needs.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Limits {
    /// The number of levels that a composite glyph may nest (OpenType `glyf`). Default 16.
    pub composite_depth: u32,
    /// The number of components one glyph may have in all its levels. Default 1024.
    pub composite_components: u32,
    /// The number of points one outline may have. Default 200,000.
    pub outline_points: usize,
    /// The number of paints one colour glyph may have in all its levels (OpenType `COLR`).
    /// Default 10,000.
    pub paint_steps: u32,
    /// The number of levels that its paints may nest. Default 64.
    pub paint_depth: u32,
    /// The number of bytes of charstrings, subroutines included, one glyph may run
    /// through (`CFF `). Default 500,000.
    pub charstring_steps: usize,
    /// The number of bytes a file may have. Default 1 Gi.
    pub file_bytes: u64,
    /// The number of bytes a packed font (WOFF) may take unpacked. Default 64 Mi.
    pub font_bytes: u64,
    /// The longest side of one glyph's picture, in device pixels. Default 4096.
    pub picture_side: u32,
    /// The most pixels a decoded PNG may have. Default 64 Mi (8192 × 8192).
    pub image_pixels: u64,
}

crate::base::setters! {
    Limits {
        composite_depth: u32,
        composite_components: u32,
        outline_points: usize,
        paint_steps: u32,
        paint_depth: u32,
        charstring_steps: usize,
        file_bytes: u64,
        font_bytes: u64,
        picture_side: u32,
        image_pixels: u64,
    }
}

impl Default for Limits {
    fn default() -> Self {
        Self {
            composite_depth: 16,
            composite_components: 1024,
            outline_points: 200_000,
            paint_steps: 10_000,
            paint_depth: 64,
            charstring_steps: 500_000,
            file_bytes: 1 << 30,
            font_bytes: 64 << 20,
            picture_side: 4096,
            image_pixels: 64 << 20,
        }
    }
}
