//! Values of the API as files write them: a change of a name there changes no file.

use serde::{Deserialize, Serialize, Serializer};

use crate::atlas::{PageKind, Sampling, SliceFill};
use crate::base::{Edges, Treatment};

#[derive(Deserialize, Serialize)]
#[serde(remote = "Edges", rename_all = "kebab-case")]
pub(crate) enum EdgesRecord {
    Smooth,
    Hard,
}

#[derive(Serialize)]
#[serde(remote = "PageKind", rename_all = "kebab-case")]
pub(crate) enum PageKindRecord {
    Mask,
    Color,
}

#[derive(Deserialize, Serialize)]
#[serde(remote = "Sampling", rename_all = "kebab-case")]
pub(crate) enum SamplingRecord {
    Smooth,
    Nearest,
}

#[derive(Deserialize, Serialize)]
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
    #[serde(skip_serializing_if = "Option::is_none")]
    outset: Option<u16>,
}

impl Serialize for TreatmentRecord {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        let Treatment { edges, outset, .. } = self.0;
        let outset = (outset > 0).then_some(outset);
        TreatmentFields { edges, outset }.serialize(to)
    }
}
