//! The demo world: the Lamplight Ferry, and the HUD over its lake.

mod hud;
mod scene;
mod stage;
mod world;

pub(crate) use stage::{caption_face, label_face};
pub(crate) use world::World;
