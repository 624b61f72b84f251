//! Fonts that have to be unpacked or made over before anything can be asked of them:
//! opening looks at their headers only.

use std::ops::Deref;
use std::sync::{Arc, OnceLock};

use super::{Face, FaceData};
use crate::base::{Limits, SharedBytes};
use crate::font::FontError;
use crate::font::bitmap::{Packing, empty_font, from_bitmap, packing_of, unpack};
use crate::font::tables::{unpack_woff, unpack_woff2};

/// A face as it was opened, and all that is known of it once something was asked.
pub(in crate::font) struct Opened {
    data: OnceLock<FaceData>,
    deferred: Option<Deferred>,
}

/// The work to be done before anything is known of a face.
pub(super) struct Deferred {
    pub(super) work: Work,
    pub(super) bytes: SharedBytes,
    /// The index of the face in the file.
    pub(super) face: u32,
    pub(super) limits: Limits,
}

pub(super) enum Work {
    /// The file is to be unpacked.
    Unpack(Packing),
    /// An OpenType font is to be made of a bitmap font.
    Bitmap,
    /// Or of a strike inside an OpenType font, by its pixels per em.
    Strike(u16),
}

impl From<FaceData> for Opened {
    fn from(data: FaceData) -> Self {
        Self {
            data: OnceLock::from(data),
            deferred: None,
        }
    }
}

impl From<Deferred> for Opened {
    fn from(deferred: Deferred) -> Self {
        Self {
            data: OnceLock::new(),
            deferred: Some(deferred),
        }
    }
}

impl Deref for Opened {
    type Target = FaceData;

    #[inline]
    fn deref(&self) -> &FaceData {
        match self.data.get() {
            Some(data) => data,
            None => self.make(),
        }
    }
}

impl Opened {
    #[cold]
    fn make(&self) -> &FaceData {
        self.data.get_or_init(|| {
            let made = self.deferred.as_ref().map(Deferred::make);
            made.unwrap_or(Err(FontError::NotAFont("it is empty")))
                .unwrap_or_else(FaceData::unusable)
        })
    }

    /// Makes what was put off, and tells what is wrong.
    fn prepare(&self) -> Result<(), FontError> {
        if let (None, Some(deferred)) = (self.data.get(), &self.deferred) {
            // Another thread may have been faster.
            drop(self.data.set(deferred.make()?));
        }
        self.usable()
    }

    /// Returns whether there is anything wrong with the whole font.
    pub(super) fn usable(&self) -> Result<(), FontError> {
        match &self.fault {
            Some(fault) => Err(FontError::Unusable(Arc::clone(fault))),
            None => Ok(()),
        }
    }
}

impl Deferred {
    fn make(&self) -> Result<FaceData, FontError> {
        let unpacked = match &self.work {
            Work::Unpack(Packing::Woff) => unpack_woff(&self.bytes, &self.limits)?,
            Work::Unpack(Packing::Woff2) => unpack_woff2(&self.bytes, &self.limits)?,
            Work::Unpack(Packing::Gzip) => unpack(&self.bytes, &self.limits)?,
            Work::Bitmap => {
                let strike = from_bitmap(&self.bytes)?;
                return FaceData::of_strike(strike, &self.limits, None);
            }
            Work::Strike(pixels) => {
                return FaceData::of_embedded(&self.bytes, self.face, &self.limits, *pixels);
            }
        };
        if packing_of(&unpacked).is_some() {
            return Err(FontError::NotAFont("it is packed twice"));
        }
        let face = Face::from_bytes_with(unpacked, self.face, self.limits.clone())?;
        face.prepare()?;
        let opened = Arc::into_inner(face.0);
        let data = opened.and_then(|opened| opened.data.into_inner());
        data.ok_or(FontError::NotAFont("it is empty"))
    }
}

impl FaceData {
    /// A stand-in for a font that turned out to be damaged: without any glyph, and with
    /// the error for all that can tell it.
    fn unusable(error: FontError) -> Self {
        let empty = FaceData::of_strike(empty_font(), &Limits::default(), None);
        let mut data = empty.expect("a font without glyphs is a font");
        data.fault = Some(Arc::new(error));
        data
    }
}

impl Face {
    /// Does what opening has put off: a WOFF or gzip file is unpacked and a bitmap font
    /// made over when something is first asked of the face, which takes some
    /// milliseconds, or here. Of a face of another kind nothing is put off.
    ///
    /// If such a font is damaged, the face has no glyphs, and all that can fail fails:
    /// outlines, bounds and layouts. The functions that read files prepare the face.
    ///
    /// # Errors
    /// [`FontError`] for what is wrong with the font.
    pub fn prepare(&self) -> Result<(), FontError> {
        self.0.prepare()
    }
}
