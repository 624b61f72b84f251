//! Scripts whose letters are drawn one after the other, though they ought to be reordered, stacked or
//! joined.

use icu_properties::CodePointMapData;
use icu_properties::props::Script;

/// Those of the scripts of the OpenType script specifications that need more than is done for them,
/// by their names.
const UNSHAPED: [(Script, &str); 31] = [
    (Script::Balinese, "Balinese"),
    (Script::Batak, "Batak"),
    (Script::Bengali, "Bengali"),
    (Script::Brahmi, "Brahmi"),
    (Script::Buginese, "Buginese"),
    (Script::Chakma, "Chakma"),
    (Script::Cham, "Cham"),
    (Script::Devanagari, "Devanagari"),
    (Script::Grantha, "Grantha"),
    (Script::Gujarati, "Gujarati"),
    (Script::Gurmukhi, "Gurmukhi"),
    (Script::Javanese, "Javanese"),
    (Script::Kaithi, "Kaithi"),
    (Script::Kannada, "Kannada"),
    (Script::Khmer, "Khmer"),
    (Script::Lepcha, "Lepcha"),
    (Script::Limbu, "Limbu"),
    (Script::Malayalam, "Malayalam"),
    (Script::MeeteiMayek, "Meetei Mayek"),
    (Script::Myanmar, "Myanmar"),
    (Script::Newa, "Newa"),
    (Script::Oriya, "Odia"),
    (Script::Rejang, "Rejang"),
    (Script::Sharada, "Sharada"),
    (Script::Sinhala, "Sinhala"),
    (Script::Sundanese, "Sundanese"),
    (Script::Takri, "Takri"),
    (Script::TaiTham, "Tai Tham"),
    (Script::Tamil, "Tamil"),
    (Script::Telugu, "Telugu"),
    (Script::Tibetan, "Tibetan"),
];

/// The script of a character, by its name, where text in it is not shaped as it ought to be: letters
/// are not reordered, stacked or joined. None for all others.
///
/// ```
/// use kerno::text::unshaped_script;
/// assert_eq!(unshaped_script('क'), Some("Devanagari"));
/// assert_eq!(unshaped_script('ก'), None); // Thai
/// ```
pub fn unshaped_script(character: char) -> Option<&'static str> {
    // All of them, and nothing that most texts have, lies from here on.
    if character < '\u{900}' {
        return None;
    }
    let script = CodePointMapData::<Script>::new().get(character);
    let found = UNSHAPED.iter().find(|(known, _)| *known == script);
    found.map(|(_, name)| *name)
}

/// What to say of a script that is not shaped.
#[cfg(feature = "screens")]
pub(crate) fn unshaped(script: &str) -> String {
    format!("letters of {script} are not reordered, stacked or joined as they ought to be")
}
