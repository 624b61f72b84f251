//! Kerno from C. `include/kerno.h` is made of this crate; `examples/score.c` is a whole program.
//!
//! Rules that hold for every call:
//!
//! - What can fail returns a [`KernoStatus`]; results come back through the pointers that are
//!   named `out`, and stay as they were where a call fails. `kerno_error_message` says what was
//!   wrong, in a sentence.
//! - No panic crosses the border: it comes back as [`KernoStatus::Internal`].
//! - Handles are opaque. One that is null is told as [`KernoStatus::NullPointer`], and one that
//!   was freed, or is of another type, as [`KernoStatus::StaleHandle`]. A handle that was freed
//!   can't be told from a newer one that stands at the same address.
//! - Other pointers are checked for null and nothing else: strings end with a zero and are
//!   UTF-8; what `out` points to has room.
//! - A handle is used by one thread at a time, and freed by its own function; freeing null does
//!   nothing. What a handle was made of may be freed before it.
//! - Lengths are design pixels, y down, unless a name says device; times are seconds.

#![expect(
    clippy::missing_safety_doc,
    reason = "the rules above hold for every call"
)]
#![expect(
    unsafe_code,
    reason = "pointers of C become references here, each in one place that says why it may"
)]

mod drawing;
mod face;
mod handle;
mod scene;
mod screen;
mod status;
mod text;
mod values;

pub use drawing::*;
pub use face::*;
pub use scene::*;
pub use screen::*;
pub use status::*;
pub use text::*;
pub use values::*;
