//! Strikes as picture sheets (`docs/picture-sheet.md`).

use std::fmt::Write;

use super::strike::{Strike, StrikeGlyph};
use crate::base::{DeviceSize, Image, Limits};
use crate::raster::RasterError;

/// The number of cells in a row.
const COLUMNS: usize = 16;

/// Free pixels between cells, so that a painter sees where one ends.
const GAP: i32 = 1;

impl Strike {
    /// The strike as a picture sheet: its description, and the picture that it
    /// calls `picture`. White ink on nothing, or in its own colours, in cells as large as
    /// the glyphs need.
    ///
    /// # Errors
    /// [`RasterError::NotReadable`] where a measure or the picture is beyond what is read.
    pub fn to_sheet(&self, picture: &str) -> Result<(String, Image), RasterError> {
        self.check_sides()?;
        // Cells reach over the ascent and descent, so that these come back too.
        let mut cell = [0, -self.ascent, 1, self.descent.max(1 - self.ascent)];
        for glyph in &self.glyphs {
            let ink = &glyph.picture;
            if !ink.is_empty() {
                cell[0] = cell[0].min(ink.left);
                cell[2] = cell[2].max(ink.left + ink.width as i32);
            }
        }
        let overshoot =
            |edge: fn(i32, i32) -> i32, from: i32, side: fn(&crate::raster::Coverage) -> i32| {
                let inks = self.glyphs.iter().map(|glyph| &glyph.picture);
                inks.filter(|ink| !ink.is_empty())
                    .map(side)
                    .fold(from, edge)
            };
        let top = overshoot(i32::min, cell[1], |ink| ink.top);
        let bottom = overshoot(i32::max, cell[3], |ink| ink.top + ink.height as i32);
        let (width, height) = (cell[2] - cell[0], bottom - top);
        let (columns, rows) = self.cells();
        let across = i64::from(columns) * i64::from(width + GAP) - i64::from(GAP);
        let down = i64::from(rows) * i64::from(height + GAP) - i64::from(GAP);
        let most = Limits::default().image_pixels as i64;
        if across * down > most {
            let (what, value) = ("the picture of the sheet, all in all,", across * down);
            return Err(RasterError::NotReadable { what, value, most });
        }
        let image = self.sheet_image(cell[0], top, width, height);
        let text = self.sheet_text(picture, [cell[0], top, width, height]);
        Ok((text, image))
    }

    /// The number of cells across and down.
    fn cells(&self) -> (i32, i32) {
        let rows = self.glyphs.len().div_ceil(COLUMNS).max(1) as i32;
        let columns = self.glyphs.len().clamp(1, COLUMNS) as i32;
        (columns, rows)
    }

    fn sheet_image(&self, left: i32, top: i32, width: i32, height: i32) -> Image {
        let (columns, rows) = self.cells();
        let size = DeviceSize::new(
            (columns * (width + GAP) - GAP) as u32,
            (rows * (height + GAP) - GAP) as u32,
        );
        let mut pixels = vec![0; size.width as usize * size.height as usize * 4];
        for (index, glyph) in self.glyphs.iter().enumerate() {
            let ink = &glyph.picture;
            let x = (index % COLUMNS) as i32 * (width + GAP) + ink.left - left;
            let y = (index / COLUMNS) as i32 * (height + GAP) + ink.top - top;
            for (row, texels) in (y..).zip(ink.texels.chunks_exact(ink.width.max(1) as usize)) {
                for (column, texel) in (x..).zip(texels) {
                    let at = (row as usize * size.width as usize + column as usize) * 4;
                    if *texel != 0 {
                        let color = glyph.color(column - x + ink.left, row - y + ink.top);
                        pixels[at..at + 4].copy_from_slice(&color);
                    }
                }
            }
        }
        Image::of_size(size, pixels)
    }

    fn sheet_text(&self, picture: &str, [left, top, width, height]: [i32; 4]) -> String {
        let mut out = String::new();
        let mut line = |text: String| {
            out.push_str(&text);
            out.push('\n');
        };
        line(format!("family = {}", quoted(&self.family)));
        if self.is_bold {
            line("bold = true".to_owned());
        }
        line(format!("em = {}", self.pixels));
        line(format!("ascent = {}", self.ascent));
        line(format!("descent = {}", self.descent));
        line(format!("baseline = {}", -top));
        line(format!("origin = {}", -left));
        line(format!("line-gap = {}", self.line_gap));
        line("widths = \"cell\"".to_owned());
        if self.keeps_color {
            line("color = \"kept\"".to_owned());
        }
        line("\n[[page]]".to_owned());
        line(format!("picture = {}", quoted(picture)));
        line(format!("cell = [{width}, {height}]"));
        line(format!("gap = [{GAP}, {GAP}]"));
        line("rows = [".to_owned());
        for row in self.glyphs.chunks(COLUMNS) {
            let characters: String = row.iter().map(|glyph| glyph.character).collect();
            line(format!("  {},", quoted(&characters)));
        }
        line("]\n\n[advances]".to_owned());
        for glyph in &self.glyphs {
            let key = quoted(glyph.character.encode_utf8(&mut [0; 4]));
            line(format!("{key} = {}", glyph.advance));
        }
        if !self.kerning.is_empty() {
            line("\n[kerning]".to_owned());
        }
        for (left, right, distance) in &self.kerning {
            line(format!(
                "{} = {distance}",
                quoted(&format!("{left}{right}"))
            ));
        }
        out
    }
}

impl StrikeGlyph {
    /// The colour of a pixel with ink, by its place from the pen.
    fn color(&self, x: i32, y: i32) -> [u8; 4] {
        let own = self.colors.as_ref().and_then(|picture| {
            let (x, y) = (x - picture.left, y - picture.top);
            picture.image.pixel(x as u32, y as u32)
        });
        own.unwrap_or([255; 4])
    }
}

/// A basic string of TOML: what could not be seen or would end it is escaped.
fn quoted(text: &str) -> String {
    let mut out = String::from('"');
    for character in text.chars() {
        match character {
            '"' | '\\' => {
                out.push('\\');
                out.push(character);
            }
            ' ' | '!'..='~' => out.push(character),
            _ if character.is_alphanumeric() => out.push(character),
            _ => {
                // Writing to a string can't fail.
                let _ = write!(out, "\\U{:08X}", u32::from(character));
            }
        }
    }
    out.push('"');
    out
}
