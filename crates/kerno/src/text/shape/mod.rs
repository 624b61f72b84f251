//! Runs of text → glyphs: what is not for the font to know.
//!
//! In: clusters of one style, face, script and direction. Out:
//! glyphs in reading order, each with its advance and where it is drawn.

mod characters;
mod features;
mod marks;
mod plain;
mod presented;
mod shaper;
mod stand_ins;
mod stretch;
mod unshaped;

use shaper::ShapingContext;
pub(super) use shaper::{
    Output, Run, Shaped, ShapedGlyphs, Shaper, add_widths, is_control, set_pens,
};
pub(crate) use stand_ins::glyph_or_stand_in;
#[cfg(feature = "screens")]
pub(crate) use unshaped::unshaped;
pub use unshaped::unshaped_script;
