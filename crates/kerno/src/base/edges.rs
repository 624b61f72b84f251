//! Edges of glyphs on the pixels.

/// Anti-aliasing of glyphs.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Edges {
    /// Anti-aliased: each pixel takes the exact share that the outline covers. A pixel face
    /// at a crisp size comes out with hard edges all the same, since it is on its grid, and
    /// stands on whole pixels: so this is also the automatic choice between the two.
    #[default]
    Smooth,
    /// For pixel faces: a pixel is on when its centre lies inside the outline.
    /// Such text is drawn at a whole number of device pixels per design pixel.
    Hard,
    /// Smooth, with the heights that letters share (baseline, x-height, capitals, ascenders,
    /// figures) on whole device pixels: sharper small text, its letters up to half a pixel
    /// higher or lower than drawn. Where text is turned or its scale moves it is as
    /// [`Edges::Smooth`].
    GridFitted,
    /// From a distance field: one picture serves every scale and turn, and outlines, bolder
    /// letters and soft shadows come from it as well, as far as its range reaches. Corners are
    /// rounded by about half a texel where letters are enlarged. Text smaller than a third of
    /// the field, effects beyond its range and letters that fade layer by layer are drawn as
    /// [`Edges::Smooth`].
    DistanceField,
    /// From a distance field of several channels, which keeps corners sharp at any scale. A
    /// texel takes four bytes instead of one; what is made of the letter beside itself
    /// (outlines, bolder letters, soft shadows) has rounded corners. Everything else is as with
    /// [`Edges::DistanceField`].
    MultiChannelField,
}

impl Edges {
    /// Device pixels per design pixel that a text with such edges is drawn at, of those
    /// that the window has: hard ones at a whole number of them, at least 1.
    pub fn drawn_scale(self, scale: f32) -> f32 {
        match self {
            Self::Hard => scale.floor().max(1.0),
            _ => scale,
        }
    }

    /// Returns whether letters come from a distance field.
    pub fn is_field(self) -> bool {
        matches!(self, Self::DistanceField | Self::MultiChannelField)
    }
}
