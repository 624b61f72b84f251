//! Tests of the core through its public interface, on the demo's real fonts
//! and on tiny ones built byte by byte.

mod atlas;
mod bake;
mod bidi;
mod bitmap;
mod cff;
mod container;
mod dialogue;
mod draw;
mod editing;
mod embedded;
mod eviction;
mod failed_changes;
mod fallbacks;
mod font;
mod hostile;
mod image;
mod inline;
mod installed;
mod lines;
mod lookup;
mod markup;
mod names;
mod numbers;
mod overlap;
mod packing;
mod raster;
mod screen;
mod shaping;
mod sheet;
mod sprites;
mod support;
mod synthesis;
mod text;
mod variable;
