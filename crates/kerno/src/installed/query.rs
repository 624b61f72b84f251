//! Choosing among installed faces: CSS Fonts 4, section 5.2, “Matching font
//! styles”.

use std::collections::BTreeSet;

use super::{InstalledFace, Slant};

/// A wish for a face.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct FaceQuery<'a> {
    /// The family; upper and lower case are the same.
    pub family: &'a str,
    /// 1 to 1000; 400 is regular, 700 bold.
    pub weight: u16,
    /// 1 (ultra-condensed) to 9 (ultra-expanded); 5 is normal.
    pub width: u16,
    /// Slant of its letters.
    pub slant: Slant,
}

crate::base::setters! {
    FaceQuery<'a> {
        weight: u16,
        width: u16,
        slant: Slant,
    }
}

impl<'a> FaceQuery<'a> {
    /// The regular face of a family.
    pub fn new(family: &'a str) -> Self {
        Self {
            family,
            weight: 400,
            width: 5,
            slant: Slant::Normal,
        }
    }
}

/// No face has the family that was asked for.
#[derive(Clone, PartialEq, Eq, thiserror::Error)]
#[error(
    "no installed font has the family “{family}”{}",
    nearest_names(nearest)
)]
pub struct LookupError {
    /// The family asked for.
    pub family: String,
    /// Installed families of nearly that name, the nearest first; at most three.
    pub nearest: Vec<String>,
}

crate::base::debug_in_full!(LookupError);

impl LookupError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        "lookup-no-such-family"
    }
}

fn nearest_names(names: &[String]) -> String {
    match names {
        [] => String::new(),
        names => format!("; did you mean “{}”?", names.join("”, “")),
    }
}

/// The face that comes closest to a wish.
pub(super) fn find<'a>(
    faces: &'a [InstalledFace],
    query: &FaceQuery<'_>,
) -> Result<&'a InstalledFace, LookupError> {
    let wanted = query.family.to_lowercase();
    let is_of = |family: &str| family.to_lowercase() == wanted;
    let of_family = || faces.iter().filter(|face| is_of(&face.family));
    // A name that older programs use is that of a few faces only.
    let of_narrow = || {
        let narrow = |face: &&InstalledFace| face.narrow_family.as_deref().is_some_and(is_of);
        faces.iter().filter(narrow)
    };
    of_family()
        .min_by_key(|face| distance(face, query))
        .or_else(|| of_narrow().min_by_key(|face| distance(face, query)))
        .ok_or_else(|| LookupError {
            family: query.family.to_owned(),
            nearest: nearest_families(faces, &wanted),
        })
}

/// The distance of a face from a wish: width before slant before weight, each with
/// the wrong side after all of the right one.
fn distance(face: &InstalledFace, query: &FaceQuery<'_>) -> impl Ord + use<> {
    let (width, wanted) = (face.width, query.width);
    let is_wrong_side = if wanted <= 5 {
        width > wanted
    } else {
        width < wanted
    };
    let by_width = (is_wrong_side, width.abs_diff(wanted));
    let by_slant = match (query.slant, face.slant) {
        (wanted, has) if wanted == has => 0,
        (Slant::Normal | Slant::Italic, Slant::Oblique) | (Slant::Oblique, Slant::Italic) => 1,
        _ => 2,
    };
    (
        by_width,
        by_slant,
        weight_distance(face.weight, query.weight),
    )
}

/// Regular and medium stand in for each other before anything else does; then
/// lighter text gets lighter still, and heavier text heavier.
fn weight_distance(has: u16, wanted: u16) -> (u8, u16) {
    let away = has.abs_diff(wanted);
    let rank = match wanted {
        400..=500 if (wanted..=500).contains(&has) => 0,
        ..=500 => match has <= wanted {
            true => 1,
            false => 2,
        },
        _ if has >= wanted => 1,
        _ => 2,
    };
    (rank, away)
}

/// Families whose names hold the wanted one or differ, or begin with what
/// differs, in a few letters.
fn nearest_families(faces: &[InstalledFace], wanted: &str) -> Vec<String> {
    let families: BTreeSet<&str> = faces.iter().map(|face| face.family.as_str()).collect();
    let allowed = wanted.chars().count() / 4 + 1;
    let mut near: Vec<(usize, &str)> = families
        .into_iter()
        .filter_map(|family| {
            let lower = family.to_lowercase();
            let start: String = lower.chars().take(wanted.chars().count()).collect();
            let whole = strsim::osa_distance(&lower, wanted);
            let letters = whole.min(strsim::osa_distance(&start, wanted));
            let is_part = wanted.len() >= 3 && lower.contains(wanted);
            (is_part || letters <= allowed).then_some((letters, family))
        })
        .collect();
    near.sort_unstable();
    near.into_iter()
        .take(3)
        .map(|(_, family)| family.to_owned())
        .collect()
}
