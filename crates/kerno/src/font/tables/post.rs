//! `post`: the names of glyphs, formats 1 and 2; format 3 has none.

use super::Directory;
use crate::font::GlyphId;
use crate::font::table::Table;

/// The names that fonts need not spell out, in the order of OpenType `post`,
/// “Format 1”.
const STANDARD_NAMES: &str = "\
.notdef .null nonmarkingreturn space exclam quotedbl numbersign dollar percent ampersand \
quotesingle parenleft parenright asterisk plus comma hyphen period slash zero one two three four \
five six seven eight nine colon semicolon less equal greater question at \
A B C D E F G H I J K L M N O P Q R S T U V W X Y Z \
bracketleft backslash bracketright asciicircum underscore grave \
a b c d e f g h i j k l m n o p q r s t u v w x y z \
braceleft bar braceright asciitilde \
Adieresis Aring Ccedilla Eacute Ntilde Odieresis Udieresis aacute agrave acircumflex adieresis \
atilde aring ccedilla eacute egrave ecircumflex edieresis iacute igrave icircumflex idieresis \
ntilde oacute ograve ocircumflex odieresis otilde uacute ugrave ucircumflex udieresis \
dagger degree cent sterling section bullet paragraph germandbls registered copyright trademark \
acute dieresis notequal AE Oslash infinity plusminus lessequal greaterequal yen mu partialdiff \
summation product pi integral ordfeminine ordmasculine Omega ae oslash questiondown exclamdown \
logicalnot radical florin approxequal Delta guillemotleft guillemotright ellipsis \
nonbreakingspace Agrave Atilde Otilde OE oe endash emdash quotedblleft quotedblright quoteleft \
quoteright divide lozenge ydieresis Ydieresis fraction currency guilsinglleft guilsinglright \
fi fl daggerdbl periodcentered quotesinglbase quotedblbase perthousand Acircumflex Ecircumflex \
Aacute Edieresis Egrave Iacute Icircumflex Idieresis Igrave Oacute Ocircumflex apple Ograve \
Uacute Ucircumflex Ugrave dotlessi circumflex tilde macron breve dotaccent ring cedilla \
hungarumlaut ogonek caron Lslash lslash Scaron scaron Zcaron zcaron brokenbar Eth eth Yacute \
yacute Thorn thorn minus multiply onesuperior twosuperior threesuperior onehalf onequarter \
threequarters franc Gbreve gbreve Idotaccent Scedilla scedilla Cacute cacute Ccaron ccaron dcroat";

/// The number of them.
const STANDARD_COUNT: u16 = 258;

/// The name of a glyph; `None` where the font gives none. A damaged table has no
/// names; that is no reason to refuse the font.
pub(in crate::font) fn read_glyph_name(
    directory: &Directory,
    bytes: &[u8],
    glyph: GlyphId,
) -> Option<String> {
    let post = directory.table(bytes, b"post")?;
    let number = match post.u32(0).ok()? {
        0x0001_0000 => glyph.0,
        0x0002_0000 if glyph.0 < post.u16(32).ok()? => {
            post.u16(34 + usize::from(glyph.0) * 2).ok()?
        }
        _ => return None,
    };
    let Some(own) = number.checked_sub(STANDARD_COUNT) else {
        let mut names = STANDARD_NAMES.split(' ');
        return names.nth(usize::from(number)).map(str::to_owned);
    };
    let at = 34 + usize::from(post.u16(32).ok()?) * 2;
    own_name(&post, at, own)
}

/// The names of the font's own stand one after another, each after its length.
fn own_name(post: &Table<'_>, mut at: usize, number: u16) -> Option<String> {
    for _ in 0..number {
        at += 1 + usize::from(post.u8(at).ok()?);
    }
    let name = post.slice(at + 1, usize::from(post.u8(at).ok()?)).ok()?;
    Some(name.iter().map(|byte| char::from(*byte)).collect())
}
