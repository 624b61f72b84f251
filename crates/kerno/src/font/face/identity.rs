//! The identity of faces.

use xxhash_rust::xxh3::Xxh3;

use super::Face;

/// Identity of a face by its contents: two handles have the same one when their font, the
/// axes of it and the synthesis are the same, wherever they were opened and however
/// often. The face of a pack has that of the font it was baked from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct FaceId(pub(crate) u128);

impl Face {
    /// The face's identity. The first call reads all bytes of the font once, at some
    /// gigabytes a second; later ones take no time.
    pub fn id(&self) -> FaceId {
        *self.0.id.get_or_init(|| self.computed_id())
    }

    fn computed_id(&self) -> FaceId {
        let parts = self.parts();
        let mut hasher = Xxh3::new();
        hasher.update(&parts.bytes);
        hasher.update(&parts.index.to_le_bytes());
        // A variable font at its defaults is as it is without axes.
        if parts.places.iter().any(|place| *place != 0.0) {
            for place in &parts.places {
                hasher.update(&(place + 0.0).to_le_bytes());
            }
        }
        hasher.update(&parts.synthesis.embolden.to_le_bytes());
        hasher.update(&parts.synthesis.slant.to_le_bytes());
        hasher.update(&parts.strike.unwrap_or(0).to_le_bytes());
        let (palette, changed) = &parts.palette;
        if *palette != 0 || !changed.is_empty() {
            hasher.update(&palette.to_le_bytes());
            for (entry, color) in changed {
                let [low, high] = entry.to_le_bytes();
                let crate::base::Color {
                    red,
                    green,
                    blue,
                    alpha,
                } = *color;
                hasher.update(&[low, high, red, green, blue, alpha]);
            }
        }
        if let Some(pictures) = &parts.pictures {
            for (glyph, picture) in pictures.all() {
                let place = [i32::from(glyph.0), picture.left, picture.top];
                for number in place {
                    hasher.update(&number.to_le_bytes());
                }
                hasher.update(&[u8::from(picture.is_tinted)]);
                hasher.update(picture.image.pixels());
            }
        }
        FaceId(hasher.digest128())
    }
}
