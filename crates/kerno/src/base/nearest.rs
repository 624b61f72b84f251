//! “Did you mean …?”

/// Longer names are no slips of the finger.
const LONGEST: usize = 64;

/// The known name closest to `wanted`, if one is close enough to be a slip of
/// the finger.
pub(crate) fn nearest<'a>(
    wanted: &str,
    known: impl IntoIterator<Item = &'a str>,
) -> Option<&'a str> {
    let length = wanted.chars().count();
    if length > LONGEST {
        return None;
    }
    let allowed = (length / 3).max(2);
    known
        .into_iter()
        .filter(|name| name.len() <= LONGEST * 4)
        .map(|name| (strsim::osa_distance(wanted, name), name))
        .filter(|(distance, _)| *distance <= allowed)
        .min()
        .map(|(_, name)| name)
}

/// “; did you mean …?” where a known name is near.
#[cfg(feature = "screens")]
pub(crate) fn hint<'a>(name: &str, known: impl IntoIterator<Item = &'a str>) -> String {
    nearest(name, known).map_or_else(String::new, |near| format!("; did you mean “{near}”?"))
}
