//! Drawing: an atlas with what gathers frames.

use std::ffi::c_char;
use std::path::{Path, PathBuf};

use kerno::atlas::{AtlasOptions, PageKind, SpriteOptions};
use kerno::base::{Affine, DevicePoint, Image, Mapping};
use kerno::draw::{Batch, DrawSprite, Frame, Pass, RectStyle, Scope, Vertex};
use kerno::{Atlas, Canvas, DeviceSize, DrawText, FrameBuilder};

use crate::face::KernoPack;
use crate::handle::{bytes, bytes_mut, free, give, given, shared, string, unique, write};
use crate::status::{Failure, KernoStatus, guard};
use crate::text::KernoText;
use crate::values::{KernoColor, KernoPoint, KernoRect};

/// An atlas of pictures, and what gathers frames with it.
#[derive(Debug)]
pub struct KernoDrawing {
    pub(crate) atlas: Atlas,
    builder: FrameBuilder,
    /// Leads from design pixels to the window, in a frame that was begun.
    mapping: Option<Mapping>,
    scopes: Vec<KernoScope>,
    batches: Vec<KernoBatch>,
    /// The manifests and folders whose sprites it has: several screens may name one.
    sources: Vec<PathBuf>,
    /// True if a pack has brought the sprites.
    pub(crate) is_baked: bool,
}

/// A vertex, 20 bytes; docs/drawing.md says how it is drawn.
#[repr(C)]
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct KernoVertex {
    /// Device pixels from the window's top left, rightwards and downwards.
    pub position: [f32; 2],
    /// Place on the page, in 1/8 texel.
    pub texel: [u16; 2],
    /// sRGB, multiplied by alpha.
    pub color: [u8; 4],
    /// Kind of shading: 0 solid, 1 mask, 4 colour, 5 veiled mask.
    pub kind: u8,
    /// Index of the page among those of its kind.
    pub page: u8,
    /// See docs/drawing.md.
    pub edge: u8,
    /// See docs/drawing.md.
    pub softness: u8,
}

const _: () = assert!(size_of::<KernoVertex>() == size_of::<Vertex>());
const _: () = assert!(align_of::<KernoVertex>() == align_of::<Vertex>());

/// A change of the target before a batch.
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KernoPass {
    /// Nothing.
    Same = 0,
    /// A group begins on a clear target.
    Begin = 1,
    /// A group ends: it is laid over what is below.
    End = 2,
}

/// Quads that are drawn in one call.
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct KernoBatch {
    /// First index.
    pub first_index: u32,
    /// Number of indices.
    pub index_count: u32,
    /// The change before it.
    pub pass: KernoPass,
    /// Opacity of the group that ends, 0 to 255.
    pub opacity: u8,
}

/// A frame: vertices, indices (six a quad) and batches. The pointers stay valid until the next
/// call with the handle that the frame came from.
#[repr(C)]
#[derive(Clone, Copy, Debug)]
pub struct KernoFrame {
    /// Vertices.
    pub vertices: *const KernoVertex,
    /// Number of vertices.
    pub vertex_count: usize,
    /// Indices.
    pub indices: *const u32,
    /// Number of indices.
    pub index_count: usize,
    /// Batches, in the order in which they are drawn.
    pub batches: *const KernoBatch,
    /// Number of batches.
    pub batch_count: usize,
}

/// Layer, opacity and transform of what is drawn within.
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct KernoScope {
    /// Layer above the one around, as CSS's z-index.
    pub layer: i32,
    /// Opacity, 0 to 1.
    pub opacity: f32,
    /// Transform a, b, c, d, e, f: x' = ax + cy + e, y' = bx + dy + f.
    pub transform: [f32; 6],
    /// True if `clip` is used.
    pub clips: bool,
    /// Nothing is drawn outside of it.
    pub clip: KernoRect,
}

/// Kinds of pages.
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KernoPageKind {
    /// One byte a texel: coverage.
    Mask = 0,
    /// Four bytes a texel: sRGB, multiplied by alpha.
    Color = 1,
}

/// A page of the atlas. The pointer stays valid until the next call with its drawing.
#[repr(C)]
#[derive(Clone, Copy, Debug)]
pub struct KernoPage {
    /// Rows of texels, from the top, without gaps.
    pub texels: *const u8,
    /// Width in texels.
    pub width: u16,
    /// Height in texels.
    pub height: u16,
    /// Goes up whenever the page changes; keep it, and hand it in next time.
    pub revision: u64,
    /// The rectangle to upload: its left edge.
    pub changed_x: u16,
    /// Its top edge.
    pub changed_y: u16,
    /// Its width; 0 where nothing changed.
    pub changed_width: u16,
    /// Its height.
    pub changed_height: u16,
}

impl KernoDrawing {
    fn new(atlas: Atlas) -> Self {
        Self {
            atlas,
            builder: FrameBuilder::new(),
            mapping: None,
            scopes: Vec::new(),
            batches: Vec::new(),
            sources: Vec::new(),
            is_baked: false,
        }
    }

    /// Adds the sprites of a manifest or of a folder, if it has them not yet.
    pub(crate) fn add_sprites(&mut self, source: &Path) -> Result<(), Failure> {
        if !self.sources.iter().any(|known| known == source) {
            kerno::bake::add_sprites(source, &mut self.atlas)?;
            self.sources.push(source.to_owned());
        }
        Ok(())
    }

    /// Draws in the scopes that are open.
    fn draw(
        &mut self,
        mut draw: impl FnMut(&mut Scope<'_>) -> Result<(), Failure>,
    ) -> Result<(), Failure> {
        let mapping = self.mapping.ok_or_else(|| {
            Failure::argument("no frame was begun: call `kerno_drawing_begin` first")
        })?;
        let mut scope = self.builder.resume(&mut self.atlas, mapping);
        within(&mut scope, &self.scopes, &mut draw)
    }
}

/// Draws in scopes, one within another.
fn within(
    scope: &mut Scope<'_>,
    scopes: &[KernoScope],
    draw: &mut dyn FnMut(&mut Scope<'_>) -> Result<(), Failure>,
) -> Result<(), Failure> {
    let Some((first, rest)) = scopes.split_first() else {
        return draw(scope);
    };
    let mut inner = scope
        .scope()
        .layer(first.layer)
        .opacity(first.opacity)
        .transform(Affine::new(first.transform));
    if first.clips {
        inner = inner.clip(first.clip.into());
    }
    within(&mut inner, rest, draw)
}

/// A frame for C; its batches are kept in a list.
pub(crate) fn frame_for_c(frame: &Frame<'_>, batches: &mut Vec<KernoBatch>) -> KernoFrame {
    batches.clear();
    batches.extend(frame.batches.iter().map(batch_for_c));
    KernoFrame {
        vertices: bytemuck::cast_slice::<Vertex, u8>(frame.vertices)
            .as_ptr()
            .cast(),
        vertex_count: frame.vertices.len(),
        indices: frame.indices.as_ptr(),
        index_count: frame.indices.len(),
        batches: batches.as_ptr(),
        batch_count: batches.len(),
    }
}

fn batch_for_c(batch: &Batch) -> KernoBatch {
    let (pass, opacity) = match batch.pass {
        Pass::Begin => (KernoPass::Begin, 255),
        Pass::End { opacity } => (KernoPass::End, opacity),
        _ => (KernoPass::Same, 255),
    };
    KernoBatch {
        first_index: batch.indices.start,
        index_count: batch.indices.end - batch.indices.start,
        pass,
        opacity,
    }
}

/// An empty drawing. `page_side` is the side of its pages in texels, 16 to 4096; 0 for 1024.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_new(
    page_side: u16,
    out: *mut *mut KernoDrawing,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            let options = AtlasOptions::default();
            let options = match page_side {
                0 => options,
                side => options.page_side(side),
            };
            Ok(KernoDrawing::new(Atlas::new(options)?))
        })
    })
}

/// A drawing with the pictures of a pack. Screens find their sprites among them.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_from_pack(
    pack: *const KernoPack,
    out: *mut *mut KernoDrawing,
) -> KernoStatus {
    guard(|| {
        give(out, || {
            Ok(KernoDrawing {
                is_baked: true,
                ..KernoDrawing::new(shared(pack, "pack")?.0.atlas())
            })
        })
    })
}

/// Adds a sprite: `pixels` is rows of red, green, blue and straight alpha, from the top.
/// `pixels` points to `width` × `height` × 4 bytes.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_add_sprite(
    drawing: *mut KernoDrawing,
    name: *const c_char,
    width: u32,
    height: u32,
    pixels: *const u8,
) -> KernoStatus {
    guard(|| {
        let (drawing, name) = (unique(drawing, "drawing")?, string(name, "name")?);
        let count = usize::try_from(u64::from(width) * u64::from(height) * 4);
        let count = count.map_err(|_| Failure::argument("more pixels than memory has"))?;
        let image = Image::new(width, height, bytes(pixels, count, "pixels")?.to_vec())?;
        let options = SpriteOptions::default();
        drawing.atlas.add_sprite(name, &image, options)?;
        Ok(())
    })
}

/// Adds the sprites of a folder of PNGs or of a manifest; once, if it is called again.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_add_sprites(
    drawing: *mut KernoDrawing,
    path: *const c_char,
) -> KernoStatus {
    guard(|| {
        let drawing = unique(drawing, "drawing")?;
        drawing.add_sprites(Path::new(string(path, "path")?))
    })
}

/// Begins a frame. A design pixel is `scale` device pixels, and the design's top left lies at
/// `origin`, in device pixels.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_begin(
    drawing: *mut KernoDrawing,
    scale: f32,
    origin: KernoPoint,
) -> KernoStatus {
    guard(|| {
        let drawing = unique(drawing, "drawing")?;
        let is_sound =
            scale > 0.0 && scale.is_finite() && origin.x.is_finite() && origin.y.is_finite();
        if !is_sound {
            return Err(Failure::argument("`scale` is above 0 and `origin` finite"));
        }
        let mapping = Mapping::new(scale, scale, DevicePoint::new(origin.x, origin.y));
        drawing.builder.begin(&mut drawing.atlas, mapping);
        drawing.mapping = Some(mapping);
        drawing.scopes.clear();
        Ok(())
    })
}

/// A scope that changes nothing, to be filled in.
#[unsafe(no_mangle)]
pub extern "C" fn kerno_scope() -> KernoScope {
    KernoScope {
        layer: 0,
        opacity: 1.0,
        transform: Affine::IDENTITY.coefficients(),
        clips: false,
        clip: KernoRect::default(),
    }
}

/// Opens a scope within the one at hand: what is drawn until `kerno_drawing_pop` is in it.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_push(
    drawing: *mut KernoDrawing,
    scope: *const KernoScope,
) -> KernoStatus {
    guard(|| {
        let drawing = unique(drawing, "drawing")?;
        if drawing.scopes.len() >= DEEPEST {
            return Err(Failure::argument("64 scopes are open already"));
        }
        drawing.scopes.push(*given(scope, "scope")?);
        Ok(())
    })
}

/// The most scopes within one another.
const DEEPEST: usize = 64;

/// Closes the scope that was opened last.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_pop(drawing: *mut KernoDrawing) -> KernoStatus {
    guard(|| match unique(drawing, "drawing")?.scopes.pop() {
        Some(_) => Ok(()),
        None => Err(Failure::argument("no scope is open")),
    })
}

/// Draws a text: the point `anchor` of its block (0, 0 top left, 1, 1 bottom right) lies at
/// `at`. Of its clusters the first `visible` are drawn; `SIZE_MAX` for all.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_text(
    drawing: *mut KernoDrawing,
    text: *const KernoText,
    at: KernoPoint,
    anchor: KernoPoint,
    visible: usize,
) -> KernoStatus {
    guard(|| {
        let (drawing, text) = (unique(drawing, "drawing")?, shared(text, "text")?);
        let draw = DrawText::at(at.into(), anchor.into()).visible(visible);
        drawing.draw(|scope| Ok(scope.text(&text.0, draw)?))
    })
}

/// Draws a rectangle with round corners of a radius.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_rect(
    drawing: *mut KernoDrawing,
    rect: KernoRect,
    radius: f32,
    color: KernoColor,
) -> KernoStatus {
    guard(|| {
        let style = RectStyle::filled(color.into()).radius(radius);
        let drawing = unique(drawing, "drawing")?;
        drawing.draw(|scope| Ok(scope.styled_rect(rect.into(), style)?))
    })
}

/// Draws a line.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_line(
    drawing: *mut KernoDrawing,
    from: KernoPoint,
    to: KernoPoint,
    width: f32,
    color: KernoColor,
) -> KernoStatus {
    guard(|| {
        unique(drawing, "drawing")?.draw(|scope| {
            scope.line(from.into(), to.into(), width, color.into());
            Ok(())
        })
    })
}

/// Draws a sprite in a rectangle, multiplied by a colour. A nine-slice keeps its corners.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_sprite(
    drawing: *mut KernoDrawing,
    name: *const c_char,
    rect: KernoRect,
    tint: KernoColor,
) -> KernoStatus {
    guard(|| {
        let (drawing, name) = (unique(drawing, "drawing")?, string(name, "name")?);
        let sprite = drawing.atlas.sprite(name)?;
        let draw = DrawSprite::filling(rect.into()).tint(tint.into());
        drawing.draw(|scope| Ok(scope.sprite(sprite, draw)?))
    })
}

/// Ends the frame and hands it out.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_finish(
    drawing: *mut KernoDrawing,
    out: *mut KernoFrame,
) -> KernoStatus {
    guard(|| {
        let drawing = unique(drawing, "drawing")?;
        drawing.mapping = None;
        drawing.scopes.clear();
        let frame = drawing.builder.finish();
        write(out, frame_for_c(&frame, &mut drawing.batches))
    })
}

/// Draws the frame that was finished last over pixels in memory: rows of red, green, blue and
/// alpha, multiplied by it, from the top.
/// `pixels` points to `width` × `height` × 4 bytes.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_paint(
    drawing: *mut KernoDrawing,
    width: u32,
    height: u32,
    pixels: *mut u8,
) -> KernoStatus {
    guard(|| {
        let drawing = unique(drawing, "drawing")?;
        paint(
            drawing.builder.finish(),
            &drawing.atlas,
            (width, height),
            pixels,
        )
    })
}

/// Draws a frame over pixels in memory.
pub(crate) fn paint(
    frame: Frame<'_>,
    atlas: &Atlas,
    (width, height): (u32, u32),
    pixels: *mut u8,
) -> Result<(), Failure> {
    let mut canvas = Canvas::try_new(DeviceSize::new(width, height))?;
    let count = canvas.pixels().len() * 4;
    let pixels = bytes_mut(pixels, count, "pixels")?;
    canvas.draw(frame, atlas);
    for (below, above) in pixels.chunks_exact_mut(4).zip(canvas.pixels()) {
        for (below, channel) in below.iter_mut().zip(above) {
            let rest = u32::from(*below) * u32::from(255 - above[3]);
            *below = channel.saturating_add(((rest + 127) / 255) as u8);
        }
    }
    Ok(())
}

/// Number of pages of a kind (a `KernoPageKind`); 0 for a handle that is null or was freed.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_page_count(
    drawing: *const KernoDrawing,
    kind: u32,
) -> usize {
    let count = |drawing: &KernoDrawing| {
        let kind = page_kind(kind).ok()?;
        Some(drawing.atlas.pages(kind).len())
    };
    shared(drawing, "drawing").ok().and_then(count).unwrap_or(0)
}

fn page_kind(kind: u32) -> Result<PageKind, Failure> {
    match kind {
        0 => Ok(PageKind::Mask),
        1 => Ok(PageKind::Color),
        _ => Err(Failure::argument(&format!(
            "`kind` is {kind}; it is 0 or 1"
        ))),
    }
}

/// A page, with the rectangle that changed after `revision`; 0 for all of it.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_page(
    drawing: *const KernoDrawing,
    kind: u32,
    index: usize,
    revision: u64,
    out: *mut KernoPage,
) -> KernoStatus {
    guard(|| {
        let pages = shared(drawing, "drawing")?.atlas.pages(page_kind(kind)?);
        let page = pages.get(index).ok_or_else(|| {
            let count = pages.len();
            Failure::argument(&format!("there is no page {index}; there are {count}"))
        })?;
        let changed = page.changed_since(revision);
        let side = |of: fn(kerno::atlas::TexelRect) -> u16| changed.map_or(0, of);
        let page = KernoPage {
            texels: page.texels().as_ptr(),
            width: page.width(),
            height: page.height(),
            revision: page.revision(),
            changed_x: side(|rect| rect.x),
            changed_y: side(|rect| rect.y),
            changed_width: side(|rect| rect.width),
            changed_height: side(|rect| rect.height),
        };
        write(out, page)
    })
}

/// Frees a drawing.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn kerno_drawing_free(drawing: *mut KernoDrawing) {
    free(drawing);
}
