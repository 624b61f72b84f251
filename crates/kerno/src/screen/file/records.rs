//! Screen files as they are written (`docs/screen.md`): a change of a name in the interface
//! changes no file.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use toml::Spanned;

/// The whole file.
#[derive(Deserialize, Serialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ScreenRecord {
    pub(super) design: [f32; 2],
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) fit: FitRecord,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) styles: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) sprites: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) strings: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) language: Option<String>,
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub(super) values: BTreeMap<String, ValueRecord>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(super) allowed: Vec<AllowedRecord>,
    #[serde(default)]
    pub(super) elements: Vec<Spanned<ElementRecord>>,
}

#[derive(Deserialize, Serialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ValueRecord {
    pub(super) start: Datum,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) range: Option<[f64; 2]>,
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) roll_seconds: f32,
}

#[derive(Clone, PartialEq, Deserialize, Serialize)]
#[serde(
    untagged,
    expecting = "a number, a text, true or false, or a point such as [12, 4]"
)]
pub(super) enum Datum {
    Flag(bool),
    Number(f64),
    Text(String),
    Point([f32; 2]),
}

#[derive(Clone, PartialEq, Deserialize, Serialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct AllowedRecord {
    pub(super) finding: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) element: Option<String>,
    pub(super) reason: String,
}

#[derive(Default, Deserialize, Serialize)]
#[serde(default, deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ElementRecord {
    pub(super) name: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) parent: Option<String>,

    // What it shows: one of these at most.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) text: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) string: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) sprite: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) panel: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) tiles: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) rect: Option<RectRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) gauge: Option<GaugeRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) icons: Option<IconsRecord>,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) dialogue: bool,

    // Of texts.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) style: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) style_changes: Option<StyleChangesRecord>,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) text_align: TextAlignRecord,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) wrap: WrapRecord,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) vertical_align: VerticalAlignRecord,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) overflow: OverflowRecord,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) max_lines: Option<usize>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) shrink_to: Option<f32>,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) keep_room: bool,

    // Of sprites.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) frame_seconds: Option<f32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) sprite_value: Option<String>,

    // Its children.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) arrange: ArrangeRecord,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) columns: Option<u16>,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) gap: f32,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) align: AlignRecord,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) justify: JustifyRecord,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) padding: Option<SidesRecord>,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) clip: bool,

    // Its place and size.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) anchor: Option<AnchorRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) origin: Option<AnchorRecord>,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) offset: [f32; 2],
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) width: Option<LengthRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) height: Option<LengthRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) min_width: Option<LengthRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) min_height: Option<LengthRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) max_width: Option<LengthRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) max_height: Option<LengthRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) aspect_ratio: Option<f32>,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) grow: f32,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) margin: Option<SidesRecord>,

    // Its look as a whole.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) visible: Option<bool>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) show_while: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) show_unless: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) opacity: Option<f32>,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) fade_as_one: bool,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) z: i32,
    #[serde(skip_serializing_if = "is_default")]
    pub(super) rotation: f32,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) scale: Option<f32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) world: Option<WorldRecord>,
}

#[derive(Clone, PartialEq, Deserialize, Serialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct WorldRecord {
    pub(super) value: String,
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) scales: bool,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) kept_inside: Option<SidesRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) pointer: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) tail: Option<String>,
}

/// Changes of a style for one text: the settings that are plain numbers and words.
#[derive(Clone, Default, PartialEq, Deserialize, Serialize)]
#[serde(default, deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct StyleChangesRecord {
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) size: Option<f32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) scale: Option<f32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) color: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) letter_spacing: Option<f32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) word_spacing: Option<f32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) line_height: Option<f32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) baseline_shift: Option<f32>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) tabular: Option<bool>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) underline: Option<bool>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) line_through: Option<bool>,
}

fn is_default<T: Default + PartialEq>(value: &T) -> bool {
    *value == T::default()
}

#[derive(Clone, Copy, PartialEq, Deserialize, Serialize)]
#[serde(
    untagged,
    expecting = "design pixels, a share of the parent such as \"50%\", or \"auto\""
)]
pub(super) enum LengthRecord {
    Px(f32),
    #[serde(with = "percent")]
    Percent(f32),
    Word(AutoRecord),
}

#[derive(Clone, Copy, PartialEq, Deserialize, Serialize)]
#[serde(rename_all = "kebab-case")]
pub(super) enum AutoRecord {
    Auto,
}

mod percent {
    use serde::de::{Error, Unexpected};
    use serde::{Deserialize, Deserializer, Serializer};

    // What serde asks for.
    #[expect(
        clippy::trivially_copy_pass_by_ref,
        reason = "serde hands in a reference"
    )]
    pub(super) fn serialize<S: Serializer>(value: &f32, to: S) -> Result<S::Ok, S::Error> {
        to.collect_str(&format_args!("{value}%"))
    }

    pub(super) fn deserialize<'de, D: Deserializer<'de>>(from: D) -> Result<f32, D::Error> {
        let text = String::deserialize(from)?;
        let number = text
            .strip_suffix('%')
            .and_then(|number| number.trim().parse().ok());
        number.ok_or_else(|| Error::invalid_value(Unexpected::Str(&text), &"a percentage"))
    }
}

#[derive(Clone, PartialEq, Deserialize, Serialize)]
#[serde(
    untagged,
    expecting = "design pixels: one number for all sides, two for top and bottom and for left and right, or four from the top clockwise"
)]
pub(super) enum SidesRecord {
    All(f32),
    Pairs([f32; 2]),
    Each([f32; 4]),
}

#[derive(Clone, Copy, PartialEq, Deserialize, Serialize)]
#[serde(
    untagged,
    expecting = "a point such as \"top-right\" or \"center\", or two shares such as [1, 0]"
)]
pub(super) enum AnchorRecord {
    Named(NamedAnchor),
    Shares([f32; 2]),
}

#[derive(Clone, Copy, PartialEq, Deserialize, Serialize)]
#[serde(rename_all = "kebab-case")]
pub(super) enum NamedAnchor {
    TopLeft,
    Top,
    TopRight,
    Left,
    Center,
    Right,
    BottomLeft,
    Bottom,
    BottomRight,
}

macro_rules! words {
    ($name:ident for $of:path { $first:ident $(, $other:ident)* }) => {
        #[derive(Clone, Copy, Default, PartialEq, Deserialize, Serialize)]
        #[serde(rename_all = "kebab-case")]
        pub(super) enum $name {
            #[default]
            $first,
            $($other,)*
        }

        impl From<$name> for $of {
            fn from(word: $name) -> Self {
                match word {
                    $name::$first => Self::$first,
                    $($name::$other => Self::$other,)*
                }
            }
        }

        impl $name {
            /// The word of a value; none where files have none for it.
            pub(super) fn of(value: $of) -> Option<Self> {
                let words = [Self::$first, $(Self::$other,)*];
                words.into_iter().find(|word| <$of>::from(*word) == value)
            }
        }
    };
}

words!(TextAlignRecord for crate::text::TextAlign { Start, Center, End, Justify });
words!(OverflowRecord for crate::text::Overflow {
    Visible, Clip, Ellipsis, EllipsisAtStart, EllipsisInMiddle
});
words!(WrapRecord for crate::text::Wrap { None, Greedy, Balanced, Optimal });
words!(VerticalAlignRecord for crate::text::VerticalAlign {
    Top, Middle, Bottom, MiddleOfInk, MiddleOfCapitals
});
words!(FitRecord for crate::screen::Fit { Contain, Cover, Fill, Integer, None });
words!(AlignRecord for crate::screen::Align { Start, Center, End, Stretch, Baseline });
words!(JustifyRecord for crate::screen::Justify { Start, Center, End, SpaceBetween });
words!(SideRecord for crate::screen::GaugeSide { Left, Right, Top, Bottom });

#[derive(Clone, Copy, Default, PartialEq, Deserialize, Serialize)]
#[serde(rename_all = "kebab-case")]
pub(super) enum ArrangeRecord {
    #[default]
    Overlay,
    Row,
    Column,
    Wrap,
    Grid,
}

#[derive(Default, Deserialize, Serialize)]
#[serde(default, deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct RectRecord {
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) fill: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) border: Option<BorderRecord>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) radius: Option<SidesRecord>,
}

#[derive(Deserialize, Serialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct BorderRecord {
    pub(super) width: f32,
    pub(super) color: String,
}

#[derive(Deserialize, Serialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct GaugeRecord {
    pub(super) value: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) color: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) stretched: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) clipped: Option<String>,
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) from: SideRecord,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) back: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) marks: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) inset: Option<SidesRecord>,
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) follow_seconds: f32,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) ghost: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) ghost_seconds: Option<f32>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(super) thresholds: Vec<ThresholdRecord>,
}

#[derive(Deserialize, Serialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ThresholdRecord {
    pub(super) below: f32,
    pub(super) color: String,
}

#[derive(Deserialize, Serialize)]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct IconsRecord {
    pub(super) value: String,
    pub(super) full: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) half: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) empty: Option<String>,
    pub(super) count: u16,
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) gap: f32,
}
