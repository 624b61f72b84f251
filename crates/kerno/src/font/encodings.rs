//! Encodings from before Unicode, by their names in the WHATWG Encoding Standard.

#[cfg(not(feature = "legacy-encodings"))]
pub(super) use ascii_alone::{
    BIG5, EUC_JP, EUC_KR, Encoding, GBK, ISO_8859_2, ISO_8859_3, ISO_8859_4, ISO_8859_5,
    ISO_8859_6, ISO_8859_7, ISO_8859_8, ISO_8859_10, ISO_8859_13, ISO_8859_14, ISO_8859_15,
    ISO_8859_16, KOI8_R, KOI8_U, MACINTOSH, SHIFT_JIS, UTF_16BE, WINDOWS_874, WINDOWS_1250,
    WINDOWS_1251, WINDOWS_1252, WINDOWS_1253, WINDOWS_1254, WINDOWS_1255, WINDOWS_1256,
    WINDOWS_1257, WINDOWS_1258, X_MAC_CYRILLIC,
};
#[cfg(feature = "legacy-encodings")]
pub(super) use encoding_rs::{
    BIG5, EUC_JP, EUC_KR, Encoding, GBK, ISO_8859_2, ISO_8859_3, ISO_8859_4, ISO_8859_5,
    ISO_8859_6, ISO_8859_7, ISO_8859_8, ISO_8859_10, ISO_8859_13, ISO_8859_14, ISO_8859_15,
    ISO_8859_16, KOI8_R, KOI8_U, MACINTOSH, SHIFT_JIS, UTF_16BE, WINDOWS_874, WINDOWS_1250,
    WINDOWS_1251, WINDOWS_1252, WINDOWS_1253, WINDOWS_1254, WINDOWS_1255, WINDOWS_1256,
    WINDOWS_1257, WINDOWS_1258, X_MAC_CYRILLIC,
};

/// Stand-ins for them without the feature `legacy-encodings`: of each its ASCII half.
#[cfg(not(feature = "legacy-encodings"))]
mod ascii_alone {
    use std::borrow::Cow;

    /// An encoding of which ASCII alone is known.
    #[derive(Debug, PartialEq)]
    pub(in crate::font) struct Encoding;

    impl Encoding {
        /// The text of some bytes, and whether any of them is not known.
        pub(in crate::font) fn decode_without_bom_handling(
            &self,
            bytes: &[u8],
        ) -> (Cow<'static, str>, bool) {
            let known = |byte: &u8| {
                if byte.is_ascii() {
                    char::from(*byte)
                } else {
                    '\u{fffd}'
                }
            };
            (bytes.iter().map(known).collect(), !bytes.is_ascii())
        }

        /// The bytes of a text, and whether any character is not known.
        pub(in crate::font) fn encode<'a>(
            &'static self,
            text: &'a str,
        ) -> (Cow<'a, [u8]>, &'static Self, bool) {
            (text.as_bytes().into(), self, !text.is_ascii())
        }
    }

    macro_rules! encodings {
        ($($name:ident)*) => {
            $(pub(in crate::font) static $name: &Encoding = &Encoding;)*
        };
    }

    encodings! { BIG5 EUC_JP EUC_KR GBK ISO_8859_10 ISO_8859_13 ISO_8859_14 ISO_8859_15 ISO_8859_16 ISO_8859_2 ISO_8859_3 ISO_8859_4 ISO_8859_5 ISO_8859_6 ISO_8859_7 ISO_8859_8 KOI8_R KOI8_U MACINTOSH SHIFT_JIS UTF_16BE WINDOWS_1250 WINDOWS_1251 WINDOWS_1252 WINDOWS_1253 WINDOWS_1254 WINDOWS_1255 WINDOWS_1256 WINDOWS_1257 WINDOWS_1258 WINDOWS_874 X_MAC_CYRILLIC }
}
