//! Groups: parts of a frame that are drawn by themselves and laid over the rest as one.

/// Number of a group in a frame, from 1; 0 for the frame itself.
pub(super) type GroupNumber = u16;

/// The most groups of a frame; more than that are drawn as if they were none.
pub(super) const MOST_GROUPS: usize = 1024;

/// A group of a frame.
#[derive(Clone, Copy, Debug)]
pub(super) struct Group {
    /// The group around it.
    pub(super) parent: GroupNumber,
    /// Its layer there.
    pub(super) layer: i32,
    pub(super) opacity: u8,
    /// The number of quads before it.
    pub(super) first: u32,
}
