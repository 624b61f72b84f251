//! Why a frame can't be drawn.

/// Why a frame can't be drawn.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum RenderError {
    /// Pages larger than the adapter allows.
    #[error(
        "pages of {side} texels, and the adapter allows {most}: make the atlas with `page_side` {most} or less"
    )]
    PageTooLarge {
        /// The side of the pages.
        side: u32,
        /// The most that the adapter allows.
        most: u32,
    },
    /// More pages than the adapter allows.
    #[error("{count} pages of a kind, and the adapter allows {most}: limit the atlas")]
    TooManyPages {
        /// The number of pages.
        count: u32,
        /// The most that the adapter allows.
        most: u32,
    },
    /// A frame with groups needs passes of its own.
    #[error("the frame has groups, which need passes of their own: use `Renderer::draw`")]
    HasGroups,
    /// Vertices beyond the largest buffer.
    #[error("{bytes} bytes of vertices or indices, and the adapter allows {most}")]
    TooManyQuads {
        /// Bytes of the buffer.
        bytes: u64,
        /// The most that the adapter allows.
        most: u64,
    },
}

impl RenderError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        match self {
            Self::PageTooLarge { .. } => "render-page-too-large",
            Self::TooManyPages { .. } => "render-too-many-pages",
            Self::HasGroups => "render-has-groups",
            Self::TooManyQuads { .. } => "render-too-many-quads",
        }
    }
}
