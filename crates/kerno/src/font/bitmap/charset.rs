//! The meaning of the codes of a bitmap font (X Logical Font Description, the fields
//! `CHARSET_REGISTRY` and `CHARSET_ENCODING`).

use crate::font::encodings::{
    BIG5, EUC_JP, EUC_KR, Encoding, GBK, ISO_8859_2, ISO_8859_3, ISO_8859_4, ISO_8859_5,
    ISO_8859_6, ISO_8859_7, ISO_8859_8, ISO_8859_10, ISO_8859_13, ISO_8859_14, ISO_8859_15,
    ISO_8859_16, KOI8_R, KOI8_U, WINDOWS_874, WINDOWS_1250, WINDOWS_1251, WINDOWS_1252,
    WINDOWS_1253, WINDOWS_1254, WINDOWS_1255, WINDOWS_1256, WINDOWS_1257, WINDOWS_1258,
};

/// The characters that codes stand for.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum Charset {
    /// Codes are code points; those of ISO 8859-1 and ASCII are too.
    Unicode,
    /// One byte a code, as an encoding has it.
    Byte(&'static Encoding),
    /// Half-width Latin and Katakana: JIS X 0201.
    HalfWidth,
    /// VISCII 1.1 (RFC 1456).
    Viscii,
    /// Rows and columns of 94 each, which are two bytes of an encoding with their high bits
    /// set, after another byte where there is one (EUC).
    Rows(&'static Encoding, Option<u8>),
    /// Two bytes as an encoding has them.
    Pairs(&'static Encoding),
    /// Nobody knows.
    Private,
}

/// The upper half of VISCII, from 0x80.
const VISCII: &str = "ẠẮẰẶẤẦẨẬẼẸẾỀỂỄỆỐỒỔỖỘỢỚỜỞỊỎỌỈỦŨỤỲÕắằặấầẩậẽẹếềểễệốồổỗỠƠộờởịỰỨỪỬơớƯÀÁÂÃẢĂẳẵÈÉÊẺÌÍĨỳĐứÒÓÔạỷừửÙÚỹỵÝỡưàáâãảăữẫèéêẻìíĩỉđựòóôõỏọụùúũủýợỮ";

impl Charset {
    /// The one of a registry and an encoding, as fonts write them; without a registry it is
    /// Unicode.
    pub(super) fn of(registry: &str, encoding: &str) -> Self {
        let registry = registry.to_ascii_uppercase();
        let encoding = encoding.to_ascii_uppercase();
        // Years and numbers of standards follow the name: JISX0208.1983.
        let name = registry.split('.').next().unwrap_or_default();
        let name: String = name.chars().filter(char::is_ascii_alphanumeric).collect();
        match (name.as_str(), encoding.as_str()) {
            ("" | "ISO10646" | "ISO646" | "ASCII" | "UNICODE", _) | ("ISO8859", "1") => {
                Self::Unicode
            }
            ("ISO8859", part) => latin(part).map_or(Self::Private, Self::Byte),
            ("KOI8", "U") => Self::Byte(KOI8_U),
            ("KOI8", "R") => Self::Byte(KOI8_R),
            ("TIS620", _) => Self::Byte(WINDOWS_874),
            ("MICROSOFT" | "WINDOWS", page) => windows(page).map_or(Self::Private, Self::Byte),
            ("JISX0201", _) => Self::HalfWidth,
            ("VISCII1" | "VISCII", _) => Self::Viscii,
            ("JISX0208", _) => Self::Rows(EUC_JP, None),
            ("JISX0212", _) => Self::Rows(EUC_JP, Some(0x8f)),
            ("KSC5601" | "KSX1001", _) => Self::Rows(EUC_KR, None),
            ("GB2312", _) => Self::Rows(GBK, None),
            ("GBK" | "GB18030", _) => Self::Pairs(GBK),
            ("BIG5", _) => Self::Pairs(BIG5),
            _ => Self::Private,
        }
    }

    /// The last two fields of an X font name.
    pub(super) fn of_name(name: &str) -> Self {
        let mut fields = name.rsplit('-');
        match (name.starts_with('-'), fields.next(), fields.next()) {
            (true, Some(encoding), Some(registry)) => Self::of(registry, encoding),
            _ => Self::Unicode,
        }
    }

    /// The character that a code stands for.
    pub(super) fn character(self, code: u32) -> Option<char> {
        let byte = u8::try_from(code);
        // Rows and columns count from 0x21; some fonts set the high bits.
        let euc = |byte: u32| {
            (0x21..=0x7e)
                .contains(&(byte & 0x7f))
                .then_some(byte as u8 | 0x80)
        };
        match self {
            Self::Unicode => char::from_u32(code),
            Self::Byte(encoding) => single(encoding, &[byte.ok()?]),
            Self::HalfWidth => match code {
                0x5c => Some('¥'),
                0x7e => Some('‾'),
                0x20..0x7f => char::from_u32(code),
                0xa1..=0xdf => char::from_u32(code - 0xa1 + 0xff61),
                _ => None,
            },
            Self::Viscii => match byte.ok()? {
                0x02 => Some('Ẳ'),
                0x05 => Some('Ẵ'),
                0x06 => Some('Ẫ'),
                0x14 => Some('Ỷ'),
                0x19 => Some('Ỹ'),
                0x1e => Some('Ỵ'),
                byte @ 0x80.. => VISCII.chars().nth(usize::from(byte - 0x80)),
                byte => Some(char::from(byte)),
            },
            Self::Rows(encoding, first) => {
                let (row, column) = (euc(code >> 8 & 0xff)?, euc(code & 0xff)?);
                match first {
                    Some(first) => single(encoding, &[first, row, column]),
                    None => single(encoding, &[row, column]),
                }
            }
            Self::Pairs(_) if code < 0x80 => char::from_u32(code),
            Self::Pairs(encoding) => single(encoding, &[(code >> 8) as u8, code as u8]),
            // As symbol fonts have it, or in a plane of its own.
            Self::Private if code <= 0xff => char::from_u32(0xf000 + code),
            Self::Private if code <= 0xfffd => char::from_u32(0xf_0000 + code),
            Self::Private => None,
        }
    }
}

/// The one character that some bytes are.
fn single(encoding: &'static Encoding, bytes: &[u8]) -> Option<char> {
    let (text, has_errors) = encoding.decode_without_bom_handling(bytes);
    let mut characters = text.chars();
    let one = characters.next().filter(|_| !has_errors);
    one.filter(|_| characters.next().is_none())
}

/// The part of ISO 8859 of a number. Part 9 and 11 are what Windows calls 1254 and 874, but
/// for control characters.
fn latin(part: &str) -> Option<&'static Encoding> {
    Some(match part {
        "2" => ISO_8859_2,
        "3" => ISO_8859_3,
        "4" => ISO_8859_4,
        "5" => ISO_8859_5,
        "6" | "6.8" | "6.8X" | "6.16" => ISO_8859_6,
        "7" => ISO_8859_7,
        "8" => ISO_8859_8,
        "9" => WINDOWS_1254,
        "10" => ISO_8859_10,
        "11" => WINDOWS_874,
        "13" => ISO_8859_13,
        "14" => ISO_8859_14,
        "15" => ISO_8859_15,
        "16" => ISO_8859_16,
        _ => return None,
    })
}

fn windows(page: &str) -> Option<&'static Encoding> {
    Some(match page.trim_start_matches("CP") {
        "1250" => WINDOWS_1250,
        "1251" => WINDOWS_1251,
        "1252" => WINDOWS_1252,
        "1253" => WINDOWS_1253,
        "1254" => WINDOWS_1254,
        "1255" => WINDOWS_1255,
        "1256" => WINDOWS_1256,
        "1257" => WINDOWS_1257,
        "1258" => WINDOWS_1258,
        _ => return None,
    })
}
