//! Atlas pages as layers of a texture.

use kerno::Atlas;
use kerno::atlas::{Page, PageKind};
use wgpu::{
    Device, Extent3d, Origin3d, Queue, TexelCopyBufferLayout, TexelCopyTextureInfo, Texture,
    TextureAspect, TextureDescriptor, TextureDimension, TextureFormat, TextureUsages, TextureView,
    TextureViewDescriptor, TextureViewDimension,
};

use crate::RenderError;

/// The pages of one kind, a layer each.
#[derive(Debug)]
pub(crate) struct Pages {
    kind: PageKind,
    texture: Texture,
    pub(crate) view: TextureView,
    /// The revision of each page that was uploaded last.
    uploaded: Vec<u64>,
}

impl Pages {
    /// A texture for no page yet.
    pub(crate) fn new(device: &Device, kind: PageKind) -> Self {
        let (texture, view) = layers(device, kind, (1, 1), 1);
        Self {
            kind,
            texture,
            view,
            uploaded: Vec::new(),
        }
    }

    /// The size of a page, in texels.
    pub(crate) fn size(&self) -> [f32; 2] {
        [self.texture.width() as f32, self.texture.height() as f32]
    }

    /// Uploads what changed; returns whether there is another texture now.
    pub(crate) fn upload(
        &mut self,
        device: &Device,
        queue: &Queue,
        atlas: &Atlas,
    ) -> Result<bool, RenderError> {
        let pages = atlas.pages(self.kind);
        let Some(first) = pages.first() else {
            return Ok(false);
        };
        let limits = device.limits();
        let (most, layers_most) = (
            limits.max_texture_dimension_2d,
            limits.max_texture_array_layers,
        );
        let size = (u32::from(first.width()), u32::from(first.height()));
        let side = size.0.max(size.1);
        if side > most {
            return Err(RenderError::PageTooLarge { side, most });
        }
        let count = pages.len() as u32;
        if count > layers_most {
            return Err(RenderError::TooManyPages {
                count,
                most: layers_most,
            });
        }
        let held = (self.texture.width(), self.texture.height());
        let is_other = held != size || self.texture.depth_or_array_layers() < count;
        if is_other {
            // Room to grow, so that a new page is not a new texture each time.
            let room = count.next_power_of_two().min(layers_most);
            (self.texture, self.view) = layers(device, self.kind, size, room);
            self.uploaded.clear();
        }
        self.uploaded.resize(pages.len(), 0);
        for (layer, (page, uploaded)) in pages.iter().zip(&mut self.uploaded).enumerate() {
            if page.revision() < *uploaded {
                *uploaded = 0; // Another atlas.
            }
            write(&self.texture, queue, (page, layer as u32), *uploaded);
            *uploaded = page.revision();
        }
        Ok(is_other)
    }

    /// Forgets what was uploaded: all is uploaded again.
    pub(crate) fn forget(&mut self) {
        self.uploaded.clear();
    }
}

/// Uploads the rectangle of a page that changed after a revision.
fn write(texture: &Texture, queue: &Queue, (page, layer): (&Page, u32), uploaded: u64) {
    let Some(rect) = page.changed_since(uploaded) else {
        return;
    };
    let texel =
        page.texels().len() / (usize::from(page.width()) * usize::from(page.height())).max(1);
    let row = usize::from(page.width()) * texel;
    let start = usize::from(rect.y) * row + usize::from(rect.x) * texel;
    let to = TexelCopyTextureInfo {
        texture,
        mip_level: 0,
        origin: Origin3d {
            x: rect.x.into(),
            y: rect.y.into(),
            z: layer,
        },
        aspect: TextureAspect::All,
    };
    let layout = TexelCopyBufferLayout {
        offset: 0,
        bytes_per_row: Some(row as u32),
        rows_per_image: None,
    };
    let size = Extent3d {
        width: rect.width.into(),
        height: rect.height.into(),
        depth_or_array_layers: 1,
    };
    let bytes = page.texels().get(start..).unwrap_or_default();
    queue.write_texture(to, bytes, layout, size);
}

fn layers(
    device: &Device,
    kind: PageKind,
    (width, height): (u32, u32),
    count: u32,
) -> (Texture, TextureView) {
    let texture = device.create_texture(&TextureDescriptor {
        label: Some("kerno pages"),
        size: Extent3d {
            width,
            height,
            // An array, even of one page.
            depth_or_array_layers: count.max(2),
        },
        mip_level_count: 1,
        sample_count: 1,
        dimension: TextureDimension::D2,
        format: match kind {
            PageKind::Mask => TextureFormat::R8Unorm,
            PageKind::Color => TextureFormat::Rgba8Unorm,
        },
        usage: TextureUsages::TEXTURE_BINDING | TextureUsages::COPY_DST,
        view_formats: &[],
    });
    let view = texture.create_view(&TextureViewDescriptor {
        dimension: Some(TextureViewDimension::D2Array),
        ..TextureViewDescriptor::default()
    });
    (texture, view)
}
