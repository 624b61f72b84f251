//! “Did you mean …?”

/// The known name closest to `wanted`, if one is close enough to be a slip of
/// the finger.
pub(crate) fn nearest<'a>(
    wanted: &str,
    known: impl IntoIterator<Item = &'a str>,
) -> Option<&'a str> {
    let allowed = (wanted.chars().count() / 3).max(2);
    known
        .into_iter()
        .map(|name| (strsim::osa_distance(wanted, name), name))
        .filter(|(distance, _)| *distance <= allowed)
        .min()
        .map(|(_, name)| name)
}
