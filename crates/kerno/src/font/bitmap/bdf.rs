//! BDF, the Glyph Bitmap Distribution Format 2.1 and 2.2 (Adobe Technical Note
//! 5005).

use super::Strike;
use super::charset::Charset;
use super::strike::{Missing, StrikeGlyph};
use crate::font::FontError;

/// The largest side of a glyph's bitmap and of the em, in pixels.
const LARGEST: i32 = 255;

/// The file line by line.
struct Lines<'a> {
    rest: std::str::Lines<'a>,
    number: usize,
}

impl<'a> Lines<'a> {
    fn next(&mut self) -> Option<&'a str> {
        self.number += 1;
        self.rest.next().map(str::trim_end)
    }

    fn bad(&self, problem: impl Into<String>) -> FontError {
        FontError::Line {
            format: "BDF",
            line: self.number,
            problem: problem.into(),
        }
    }

    /// The numbers of a line, at least `N`.
    fn numbers<const N: usize>(&self, text: &str) -> Result<[i32; N], FontError> {
        let mut numbers = [0; N];
        let mut words = text.split_whitespace();
        for slot in &mut numbers {
            let word = words.next().unwrap_or_default();
            let number = word
                .parse()
                .ok()
                .filter(|n: &i32| n.unsigned_abs() <= 0x10_ffff);
            *slot =
                number.ok_or_else(|| self.bad(format!("{N} whole numbers should stand here")))?;
        }
        Ok(numbers)
    }
}

/// The properties before the glyphs.
#[derive(Default)]
struct Header {
    family: Option<String>,
    is_bold: bool,
    pixels: Option<i32>,
    ascent: Option<i32>,
    descent: Option<i32>,
    default: Option<i32>,
    /// Meaning of the codes: by the properties, or else by the name.
    registry: Option<String>,
    encoding: Option<String>,
    name: Option<String>,
    /// Width, height, left, bottom.
    bounds: [i32; 4],
}

impl Header {
    fn charset(&self) -> Charset {
        match (&self.registry, &self.name) {
            (Some(registry), _) => {
                Charset::of(registry, self.encoding.as_deref().unwrap_or_default())
            }
            (None, Some(name)) => Charset::of_name(name),
            (None, None) => Charset::Unicode,
        }
    }
}

pub(super) fn read(bytes: &[u8]) -> Result<Strike, FontError> {
    // Names may be in any encoding; all that counts is ASCII.
    let text = String::from_utf8_lossy(bytes);
    let mut lines = Lines {
        rest: text.lines(),
        number: 0,
    };
    let mut header = Header::default();
    let mut glyphs = Vec::new();
    let mut charset = None;
    loop {
        let Some(line) = lines.next() else {
            return Err(lines.bad("the file ends before ENDFONT"));
        };
        let (word, rest) = line.split_once(' ').unwrap_or((line, ""));
        match word {
            "STARTCHAR" => {
                if glyphs.len() >= usize::from(u16::MAX) - 1 {
                    return Err(lines.bad("a font may have at most 65534 glyphs"));
                }
                let charset = *charset.get_or_insert_with(|| header.charset());
                glyphs.push(read_glyph(&mut lines, charset)?);
            }
            "ENDFONT" => break,
            _ => read_property(&lines, word, rest, &mut header)?,
        }
    }
    finish(&lines, header, glyphs)
}

/// A line before the glyphs; those that nothing depends on are passed over.
fn read_property(
    lines: &Lines<'_>,
    word: &str,
    rest: &str,
    header: &mut Header,
) -> Result<(), FontError> {
    let quoted = || rest.trim().trim_matches('"').to_owned();
    let number = || lines.numbers::<1>(rest).map(|[number]| Some(number));
    match word {
        "FONTBOUNDINGBOX" => header.bounds = lines.numbers(rest)?,
        "SIZE" => {
            let [points, _, resolution] = lines.numbers(rest)?;
            // 72 points are an inch.
            header.pixels = header.pixels.or(Some(
                points.saturating_mul(resolution).saturating_add(36) / 72,
            ));
        }
        "PIXEL_SIZE" => header.pixels = number()?,
        "FONT_ASCENT" => header.ascent = number()?,
        "FONT_DESCENT" => header.descent = number()?,
        "DEFAULT_CHAR" => header.default = number()?,
        "FONT" => header.name = Some(rest.trim().to_owned()),
        "CHARSET_REGISTRY" => header.registry = Some(quoted()),
        "CHARSET_ENCODING" => header.encoding = Some(quoted()),
        "FAMILY_NAME" => header.family = Some(quoted()),
        "WEIGHT_NAME" => header.is_bold = quoted().to_lowercase().contains("bold"),
        _ => {}
    }
    Ok(())
}

/// From the line after STARTCHAR to ENDCHAR.
fn read_glyph(lines: &mut Lines<'_>, charset: Charset) -> Result<StrikeGlyph, FontError> {
    let (mut code, mut advance, mut bounds) = (-1, None, None);
    loop {
        let Some(line) = lines.next() else {
            return Err(lines.bad("the file ends inside a glyph"));
        };
        let (word, rest) = line.split_once(' ').unwrap_or((line, ""));
        match word {
            "ENCODING" => [code] = lines.numbers(rest)?,
            "DWIDTH" => advance = Some(lines.numbers::<2>(rest)?[0]),
            "BBX" => bounds = Some(lines.numbers::<4>(rest)?),
            "BITMAP" => break,
            "STARTCHAR" | "ENDCHAR" | "ENDFONT" => return Err(lines.bad("the glyph has no BITMAP")),
            _ => {}
        }
    }
    let Some([width, height, left, bottom]) = bounds else {
        return Err(lines.bad("the glyph has no BBX"));
    };
    let in_range = |side: i32| (0..=LARGEST).contains(&side);
    let is_near = |place: i32| place.abs() <= LARGEST;
    if !in_range(width) || !in_range(height) || !is_near(left) || !is_near(bottom) {
        return Err(lines.bad("sides of BBX have to be 0 to 255, offsets -255 to 255"));
    }
    let advance = advance.unwrap_or(width);
    if !in_range(advance) {
        return Err(lines.bad("DWIDTH has to be 0 to 255"));
    }
    let width = width as u16;
    let bits = read_rows(lines, width, height)?;
    Ok(StrikeGlyph {
        characters: u32::try_from(code)
            .ok()
            .and_then(|code| charset.character(code))
            .into_iter()
            .collect(),
        advance: advance as u16,
        left: left as i16,
        bottom: bottom as i16,
        width,
        height: height as u16,
        bits,
        levels: Vec::new(),
    })
}

/// Rows of hexadecimal digits, up to ENDCHAR.
fn read_rows(lines: &mut Lines<'_>, width: u16, height: i32) -> Result<Vec<u8>, FontError> {
    let row_bytes = StrikeGlyph::row_bytes(width);
    let mut bits = Vec::with_capacity(row_bytes * height as usize);
    for _ in 0..height {
        let row = lines.next().unwrap_or_default();
        let digits = row.trim().as_bytes();
        if digits.len() < row_bytes * 2 {
            return Err(lines.bad(format!(
                "a row of {width} pixels takes {} digits",
                row_bytes * 2
            )));
        }
        for pair in digits.as_chunks::<2>().0.iter().take(row_bytes) {
            let [high, low] = pair.map(|digit| char::from(digit).to_digit(16));
            let (Some(high), Some(low)) = (high, low) else {
                return Err(lines.bad("a row takes hexadecimal digits only"));
            };
            bits.push((high * 16 + low) as u8);
        }
    }
    match lines.next() {
        Some("ENDCHAR") => Ok(bits),
        _ => Err(lines.bad(format!(
            "ENDCHAR should follow the {height} rows of the glyph"
        ))),
    }
}

fn finish(
    lines: &Lines<'_>,
    header: Header,
    glyphs: Vec<StrikeGlyph>,
) -> Result<Strike, FontError> {
    let [_, height, _, bottom] = header.bounds;
    let ascent = header.ascent.unwrap_or(height + bottom);
    let descent = header.descent.unwrap_or(-bottom);
    let pixels = header
        .pixels
        .filter(|pixels| *pixels > 0)
        .unwrap_or(ascent + descent);
    if !(1..=LARGEST).contains(&pixels) || ascent.abs() > LARGEST || descent.abs() > LARGEST {
        return Err(lines.bad("the size of the font has to be 1 to 255 pixels"));
    }
    let charset = header.charset();
    let default = header
        .default
        .and_then(|code| charset.character(code as u32));
    let default = default.and_then(|character| {
        glyphs
            .iter()
            .position(|g| g.characters.contains(&character))
    });
    Ok(Strike {
        is_private: charset == Charset::Private,
        family: header.family.unwrap_or_else(|| "Bitmap font".to_owned()),
        is_bold: header.is_bold,
        pixels: pixels as u16,
        ascent: ascent as i16,
        descent: descent as i16,
        glyphs,
        line_gap: 0,
        missing: default.map_or(Missing::Box, Missing::Same),
    })
}
