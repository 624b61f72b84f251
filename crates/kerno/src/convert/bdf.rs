//! Strikes as BDF 2.1 (Adobe Technical Note 5005).

use std::fmt::Write;

use super::strike::{Strike, StrikeGlyph};
use crate::raster::RasterError;

impl Strike {
    /// The strike as a BDF file. That format has no kerning, no
    /// colours and no soft edges.
    ///
    /// # Errors
    /// [`RasterError::NotReadable`] where a measure is beyond what is read.
    pub fn to_bdf(&self) -> Result<String, RasterError> {
        self.check_sides()?;
        let mut out = String::new();
        // Writing to a string can't fail.
        let _ = self.write_bdf(&mut out);
        Ok(out)
    }

    fn write_bdf(&self, out: &mut String) -> std::fmt::Result {
        let (width, height, left, bottom) = self.extent();
        let size = self.pixels;
        let weight = if self.is_bold { "Bold" } else { "Medium" };
        let family = self.family.replace(['"', '\n', '\r'], "");
        // The fields of a font name are separated by hyphens.
        let field = family.replace('-', " ");
        writeln!(out, "STARTFONT 2.1")?;
        writeln!(
            out,
            "FONT -kerno-{field}-{weight}-R-Normal--{size}-{}-72-72-P-0-ISO10646-1",
            size * 10
        )?;
        writeln!(out, "SIZE {size} 72 72")?;
        writeln!(out, "FONTBOUNDINGBOX {width} {height} {left} {bottom}")?;
        writeln!(
            out,
            "STARTPROPERTIES {}",
            5 + u8::from(self.default.is_some())
        )?;
        writeln!(out, "FAMILY_NAME \"{family}\"")?;
        writeln!(out, "WEIGHT_NAME \"{weight}\"")?;
        writeln!(out, "PIXEL_SIZE {size}")?;
        writeln!(out, "FONT_ASCENT {}", self.ascent)?;
        writeln!(out, "FONT_DESCENT {}", self.descent)?;
        if let Some(default) = self.default {
            writeln!(out, "DEFAULT_CHAR {}", u32::from(default))?;
        }
        writeln!(out, "ENDPROPERTIES")?;
        writeln!(out, "CHARS {}", self.glyphs.len())?;
        for glyph in &self.glyphs {
            self.write_glyph(glyph, out)?;
        }
        writeln!(out, "ENDFONT")
    }

    fn write_glyph(&self, glyph: &StrikeGlyph, out: &mut String) -> std::fmt::Result {
        let code = u32::from(glyph.character);
        let picture = &glyph.picture;
        let (width, height) = (picture.width as usize, picture.height as i32);
        // SWIDTH counts thousandths of the size.
        let scalable = glyph.advance * 1000 / i32::from(self.pixels);
        writeln!(out, "STARTCHAR uni{code:04X}")?;
        writeln!(out, "ENCODING {code}")?;
        writeln!(out, "SWIDTH {scalable} 0")?;
        writeln!(out, "DWIDTH {} 0", glyph.advance)?;
        let bottom = -picture.top - height;
        writeln!(out, "BBX {width} {height} {} {bottom}", picture.left)?;
        writeln!(out, "BITMAP")?;
        if width > 0 {
            for row in picture.texels.chunks_exact(width) {
                for eight in row.chunks(8) {
                    let bits = eight.iter().enumerate();
                    let byte = bits.fold(0, |byte: u8, (index, texel)| {
                        byte | if *texel == 0 { 0 } else { 0x80 >> index }
                    });
                    write!(out, "{byte:02X}")?;
                }
                writeln!(out)?;
            }
        }
        writeln!(out, "ENDCHAR")
    }

    /// The box around all glyphs: width, height, left, bottom.
    fn extent(&self) -> (i32, i32, i32, i32) {
        let pictures = self.glyphs.iter().map(|glyph| &glyph.picture);
        let boxes = pictures
            .filter(|picture| !picture.is_empty())
            .map(|picture| {
                let (right, bottom) = (picture.width as i32, picture.height as i32);
                (
                    picture.left,
                    picture.top,
                    picture.left + right,
                    picture.top + bottom,
                )
            });
        let all = boxes.reduce(|a, b| (a.0.min(b.0), a.1.min(b.1), a.2.max(b.2), a.3.max(b.3)));
        let (left, top, right, bottom) = all.unwrap_or_default();
        (right - left, bottom - top, left, -bottom)
    }
}
