//! Values of the API as files write them: a change of a name there changes no file.

use serde::{Deserialize, Serialize, Serializer};

use crate::atlas::{PageKind, Sampling, SliceFill};
use crate::base::{
    Band, BandSide, BandSideRecord, Edges, EdgesRecord, Join, JoinRecord, Treatment,
};

#[derive(Serialize)]
#[serde(remote = "PageKind", rename_all = "kebab-case")]
pub(crate) enum PageKindRecord {
    Mask,
    Color,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(remote = "Sampling", rename_all = "kebab-case")]
pub(crate) enum SamplingRecord {
    Smooth,
    Nearest,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(remote = "SliceFill", rename_all = "kebab-case")]
pub(crate) enum SliceFillRecord {
    Stretch,
    Tile,
}

/// A treatment, of whose numbers only those stand in a file that are not 0.
#[derive(Clone, Copy, Debug)]
pub(crate) struct TreatmentRecord(pub(crate) Treatment);

#[derive(Serialize)]
struct TreatmentFields {
    #[serde(with = "EdgesRecord")]
    edges: Edges,
    #[serde(skip_serializing_if = "is_zero")]
    outset: i32,
    #[serde(skip_serializing_if = "Option::is_none")]
    band: Option<BandFields>,
    #[serde(with = "JoinRecord", skip_serializing_if = "is_miter")]
    join: Join,
    #[serde(skip_serializing_if = "is_none")]
    blur: u32,
    #[serde(skip_serializing_if = "is_no_field")]
    range: u8,
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    in_color: bool,
}

#[derive(Serialize)]
struct BandFields {
    width: u32,
    #[serde(with = "BandSideRecord")]
    side: BandSide,
}

fn is_zero(number: &i32) -> bool {
    *number == 0
}

fn is_none(number: &u32) -> bool {
    *number == 0
}

fn is_no_field(range: &u8) -> bool {
    *range == 0
}

fn is_miter(join: &Join) -> bool {
    *join == Join::Miter
}

impl Serialize for TreatmentRecord {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        let Treatment {
            edges,
            outset,
            band,
            join,
            blur,
            range,
            in_color,
        } = self.0;
        let band = band.map(|Band { width, side }| BandFields { width, side });
        let fields = TreatmentFields {
            edges,
            outset,
            band,
            join,
            blur,
            range,
            in_color,
        };
        fields.serialize(to)
    }
}
