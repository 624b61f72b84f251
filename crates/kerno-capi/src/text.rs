//! Texts that are laid out.

use std::ffi::c_char;

use kerno::text::{Effect, Fill, LayoutOptions, Overflow, Span, TextAlign, Wrap};
use kerno::{Offset, Style, TextLayout};

use crate::face::KernoFace;
use crate::handle::{free, give, given, shared, string, unique, write};
use crate::status::{Failure, KernoStatus, guard};
use crate::values::{KernoColor, KernoPoint, KernoRect, KernoSize};

/// A text with the place of every glyph.
#[derive(Debug)]
pub struct KernoText(pub(crate) TextLayout);

/// The look of a text. Begin with `kerno_style` and change what should be other.
#[repr(C)]
#[derive(Clone, Copy, Debug)]
pub struct KernoStyle {
    /// The face; the style does not own it.
    pub face: *const KernoFace,
    /// Size of an em in design pixels.
    pub size: f32,
    /// Extra space after each letter, in design pixels.
    pub letter_spacing: f32,
    /// Width of an outline around the letters, in design pixels; 0 for none.
    pub outline_width: f32,
    /// Blur of a shadow, in design pixels.
    pub shadow_blur: f32,
    /// Offset of the shadow.
    pub shadow_offset: KernoPoint,
    /// Colour of the letters.
    pub color: KernoColor,
    /// Colour of the outline.
    pub outline_color: KernoColor,
    /// Colour of the shadow; there is none where it is clear.
    pub shadow_color: KernoColor,
    /// All digits as wide as each other.
    pub tabular: bool,
}

/// Horizontal alignment of lines that are shorter than the block (CSS `text-align`).
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KernoAlign {
    /// To the side where reading starts.
    Start = 0,
    /// In the middle.
    Center = 1,
    /// To the side where reading ends.
    End = 2,
    /// From side to side.
    Justify = 3,
}

/// Line wrapping (CSS `text-wrap`).
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KernoWrap {
    /// Nowhere but at line breaks.
    None = 0,
    /// Each line takes as much as it can.
    Greedy = 1,
    /// Lines of about one length.
    Balanced = 2,
    /// The evenest lines together.
    Optimal = 3,
}

/// Treatment of text that does not fit (CSS `overflow`, `text-overflow`).
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KernoOverflow {
    /// It overflows the block.
    Visible = 0,
    /// It is cut off at the block's border.
    Clip = 1,
    /// The last line that fits ends with an ellipsis.
    Ellipsis = 2,
}

/// The block that a text fills. Begin with `kerno_options`. Enums are numbers here, so that one
/// out of range can be told.
#[repr(C)]
#[derive(Clone, Copy, Debug)]
pub struct KernoOptions {
    /// Width of the block, in design pixels; 0 for as wide as the text.
    pub width: f32,
    /// Height of the block; 0 for as high as the lines.
    pub height: f32,
    /// The most lines; 0 for any number.
    pub max_lines: u32,
    /// A `KernoAlign`.
    pub align: u32,
    /// A `KernoWrap`.
    pub wrap: u32,
    /// A `KernoOverflow`.
    pub overflow: u32,
}

/// A line of a text, in design pixels from the top left of the block.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoLine {
    /// Left edge.
    pub x: f32,
    /// Top edge.
    pub top: f32,
    /// Width without spaces at its end.
    pub width: f32,
    /// Height.
    pub height: f32,
    /// Baseline, from the line's top.
    pub baseline: f32,
    /// Number of the first cluster.
    pub first_cluster: usize,
    /// Number of clusters.
    pub cluster_count: usize,
}

/// A plain white style of a face and a size.
/// The face is only kept; it is looked at when a text is laid out.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_style(face: *const KernoFace, size: f32) -> KernoStyle {
    let color = |red, green, blue, alpha| KernoColor {
        red,
        green,
        blue,
        alpha,
    };
    KernoStyle {
        face,
        size,
        letter_spacing: 0.0,
        outline_width: 0.0,
        shadow_blur: 0.0,
        shadow_offset: KernoPoint::default(),
        color: color(255, 255, 255, 255),
        outline_color: color(0, 0, 0, 255),
        shadow_color: color(0, 0, 0, 0),
        tabular: false,
    }
}

/// Options of a text that is as wide as it has to be.
#[unsafe(no_mangle)]
pub extern "C" fn kerno_options() -> KernoOptions {
    KernoOptions {
        width: 0.0,
        height: 0.0,
        max_lines: 0,
        align: KernoAlign::Start as u32,
        wrap: KernoWrap::Greedy as u32,
        overflow: KernoOverflow::Visible as u32,
    }
}

fn style(from: *const KernoStyle) -> Result<Style, Failure> {
    let from = given(from, "style")?;
    let face = &shared(from.face, "style.face")?.0;
    let mut style = Style::new(face, from.size)
        .color(from.color.into())
        .letter_spacing(from.letter_spacing)
        .tabular(from.tabular);
    let mut effects = Vec::new();
    if from.shadow_color.alpha > 0 {
        let KernoPoint { x, y } = from.shadow_offset;
        let color = from.shadow_color.into();
        effects.push(Effect::shadow(Offset::new(x, y), from.shadow_blur, color));
    }
    if from.outline_width != 0.0 {
        let color = from.outline_color.into();
        effects.push(Effect::outline(from.outline_width, color));
    }
    if !effects.is_empty() {
        effects.push(Effect::Fill(Fill::default()));
        style = style.effects(effects);
    }
    Ok(style)
}

/// The entry of a list that a number of C stands for.
fn chosen<T: Copy>(number: u32, entries: &[T], name: &str) -> Result<T, Failure> {
    entries.get(number as usize).copied().ok_or_else(|| {
        let most = entries.len() - 1;
        Failure::argument(&format!("`{name}` is {number}; it is 0 to {most}"))
    })
}

fn options(from: *const KernoOptions) -> Result<LayoutOptions, Failure> {
    // Without any, those of `kerno_options`.
    if from.is_null() {
        return Ok(LayoutOptions::default());
    }
    let from = given(from, "options")?;
    let aligns = [
        TextAlign::Start,
        TextAlign::Center,
        TextAlign::End,
        TextAlign::Justify,
    ];
    let wraps = [Wrap::None, Wrap::Greedy, Wrap::Balanced, Wrap::Optimal];
    let overflows = [Overflow::Visible, Overflow::Clip, Overflow::Ellipsis];
    let some = |length: f32| (length != 0.0).then_some(length);
    Ok(LayoutOptions::default()
        .width(some(from.width))
        .height(some(from.height))
        .max_lines((from.max_lines > 0).then_some(from.max_lines as usize))
        .align(chosen(from.align, &aligns, "options.align")?)
        .wrap(chosen(from.wrap, &wraps, "options.wrap")?)
        .overflow(chosen(from.overflow, &overflows, "options.overflow")?))
}

/// Lays out a text. `layout` may be null: it is as wide as it has to be then.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_text_new(
    text: *const c_char,
    look: *const KernoStyle,
    layout: *const KernoOptions,
    out: *mut *mut KernoText,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            let (text, style) = (string(text, "text")?, style(look)?);
            let spans = [Span::new(text, &style)];
            let layout = TextLayout::with_options(&spans, &options(layout)?)?;
            Ok(KernoText(layout))
        })
    })
}

/// Sets other words, in the same style and block.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_text_set(text: *mut KernoText, words: *const c_char) -> KernoStatus {
    guard(|| {
        let text = unique(text, "text")?;
        Ok(text.0.set_text(0, string(words, "words")?)?)
    })
}

/// Size of a text's block.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_text_size(
    text: *const KernoText,
    out: *mut KernoSize,
) -> KernoStatus {
    guard(|| write(out, shared(text, "text")?.0.size().into()))
}

/// The rectangle of what is drawn of a text, from the top left of its block.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_text_ink(
    text: *const KernoText,
    out: *mut KernoRect,
) -> KernoStatus {
    guard(|| write(out, shared(text, "text")?.0.ink().into()))
}

/// Number of lines; 0 for a handle that is null or was freed.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_text_line_count(text: *const KernoText) -> usize {
    shared(text, "text").map_or(0, |text| text.0.lines().len())
}

/// A line, by its number from 0.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_text_line(
    text: *const KernoText,
    index: usize,
    out: *mut KernoLine,
) -> KernoStatus {
    guard(|| {
        let lines = shared(text, "text")?.0.lines();
        let line = lines.get(index).ok_or_else(|| {
            let count = lines.len();
            Failure::argument(&format!("there is no line {index}; there are {count}"))
        })?;
        let line = KernoLine {
            x: line.x,
            top: line.top,
            width: line.width,
            height: line.height,
            baseline: line.baseline,
            first_cluster: line.clusters.start,
            cluster_count: line.clusters.len(),
        };
        write(out, line)
    })
}

/// Number of clusters, the letters as one sees them; 0 for a handle that is null or was freed.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_text_cluster_count(text: *const KernoText) -> usize {
    shared(text, "text").map_or(0, |text| text.0.clusters().len())
}

/// Frees a text.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_text_free(text: *mut KernoText) {
    free(text);
}
