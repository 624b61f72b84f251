//! Texts and sizes that suit a face.

use kerno::{Face, Style, TextLayout};

use crate::error::CliError;

/// The strike and size nearest to a wanted one at which the face is crisp; the
/// wanted one for a face that has none.
pub(super) fn crisp(face: &Face, wanted: f32) -> Result<(Face, f32), CliError> {
    let (face, size) = face.for_size(wanted)?;
    let size = face.crisp_size(size).unwrap_or(size);
    Ok((face, size))
}

/// The wanted text, or letters of the face where it lacks half of that.
pub(super) fn text_in_face(face: &Face, text: &str) -> String {
    let letters = || text.chars().filter(|character| !character.is_whitespace());
    let known = letters()
        .filter(|character| face.glyph(*character).is_some())
        .count();
    if known * 2 >= letters().count() {
        return text.to_owned();
    }
    let own = face.characters();
    if face.has_color_glyphs() {
        let signs = own.filter(|(sign, glyph)| !sign.is_ascii() && face.is_color_glyph(*glyph));
        return signs.map(|(sign, _)| sign).take(60).collect();
    }
    own.map(|(character, _)| character)
        .filter(|character| character.is_alphabetic())
        .take(60)
        .collect()
}

/// The start of a text that fits a width, whole words where it has any.
pub(super) fn fitted(text: &str, style: &Style, width: f32) -> Result<TextLayout, CliError> {
    let whole = TextLayout::new(text, style)?;
    let fits = |end: &&kerno::text::Cluster| end.x + end.advance <= width;
    let Some(last) = whole.clusters().iter().take_while(fits).last() else {
        return Ok(TextLayout::new("", style)?);
    };
    let end = last.end as usize;
    if end == text.len() {
        return Ok(whole);
    }
    let cut = text[..end].rfind(' ').unwrap_or(end);
    Ok(TextLayout::new(&text[..cut], style)?)
}
