//! Spans for those who trace what takes time.

/// Opens a span to the end of the block, with the feature `tracing`; without it, nothing.
macro_rules! span {
    ($name:literal $(, $key:ident = $value:expr)*) => {
        #[cfg(feature = "tracing")]
        let _span = tracing::debug_span!($name $(, $key = $value)*).entered();
    };
}
pub(crate) use span;

/// A span from one call to another one, which is not entered in between.
#[derive(Clone, Debug, Default)]
pub(crate) struct OpenSpan {
    #[cfg(feature = "tracing")]
    span: Option<tracing::Span>,
}

impl OpenSpan {
    /// The span of a frame, from `FrameBuilder::begin` to `finish`.
    pub(crate) fn begin_frame(&mut self) {
        #[cfg(feature = "tracing")]
        {
            self.span = Some(tracing::debug_span!("frame"));
        }
    }

    pub(crate) fn end(&mut self) {
        #[cfg(feature = "tracing")]
        {
            self.span = None;
        }
    }
}
