//! Values of this room as files write them: a change of a name here changes no file.

use serde::{Deserialize, Serialize};

use super::{BandSide, Edges, Join};

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(remote = "Edges", rename_all = "kebab-case")]
pub(crate) enum EdgesRecord {
    Smooth,
    Hard,
    GridFitted,
    DistanceField,
    MultiChannelField,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(remote = "BandSide", rename_all = "kebab-case")]
pub(crate) enum BandSideRecord {
    Outside,
    Centered,
    Inside,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(remote = "Join", rename_all = "kebab-case")]
pub(crate) enum JoinRecord {
    Miter,
    Round,
    Bevel,
}
