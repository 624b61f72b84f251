//! Faces and strikes as a pack writes them.

use serde::{Deserialize, Deserializer, Serialize, Serializer};

use super::values::TreatmentRecord;
use crate::font::FaceId;

/// A face as a pack tells it.
#[derive(Debug, Deserialize, Serialize)]
pub(crate) struct PackedFace {
    pub(crate) name: String,
    pub(crate) id: PackedId,
    /// Which section its font is.
    pub(crate) font: usize,
    /// Which face of the font.
    pub(crate) index: u32,
    /// Each axis of a variable font from -1 to 1.
    pub(crate) places: Vec<f32>,
    pub(crate) embolden: f32,
    pub(crate) slant: f32,
    /// Pixels per em of a bitmap strike.
    pub(crate) strike: Option<u16>,
    /// Which section its pictures in colour are.
    pub(crate) pictures: Option<usize>,
}

/// The identity of a face: 32 hexadecimal digits.
#[derive(Debug)]
pub(crate) struct PackedId(pub(crate) FaceId);

impl Serialize for PackedId {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.collect_str(&format_args!("{:032x}", self.0.0))
    }
}

impl<'de> Deserialize<'de> for PackedId {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        let digits = String::deserialize(from)?;
        let id = u128::from_str_radix(&digits, 16).map_err(serde::de::Error::custom)?;
        Ok(Self(FaceId(id)))
    }
}

/// A strike as a pack tells it: some of the records of glyphs.
#[derive(Debug, Deserialize, Serialize)]
pub(crate) struct PackedStrike {
    pub(crate) face: u32,
    /// Device pixels per em.
    pub(crate) size: f32,
    #[serde(flatten)]
    pub(crate) treatment: TreatmentRecord,
    pub(crate) first: usize,
    pub(crate) count: usize,
}
