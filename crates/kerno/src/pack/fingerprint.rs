//! Identity of the inputs of a bake.

/// Identity of the inputs of a bake: the same manifest and the same files have the same,
/// on every machine.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Fingerprint(pub(crate) [u8; 16]);

impl std::fmt::Display for Fingerprint {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.0.iter().try_for_each(|byte| write!(f, "{byte:02x}"))
    }
}
