//! Screen files as they are written (`docs/screen.md`): a change of a name in the interface
//! changes no file.

use std::collections::BTreeMap;

use crate::base::Spanned;
use serde::{Deserialize, Serialize};

/// The whole file.
#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ScreenRecord {
    /// The size that the screen was drawn for, in design pixels.
    pub(super) design: [f32; 2],
    /// The way in which that size fits the window.
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) fit: FitRecord,
    /// The style file.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) styles: Option<String>,
    /// A manifest with sprites, or a folder of PNGs.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) sprites: Option<String>,
    /// The folder with a file of texts for each language.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) strings: Option<String>,
    /// The language that the screen begins with. Default: the first file of texts.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) language: Option<String>,
    /// The values that the game hands in, by their names.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub(super) values: BTreeMap<String, ValueRecord>,
    /// Findings of `kerno check` that are left out.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(super) allowed: Vec<AllowedRecord>,
    /// The elements, parents before or after their children.
    #[serde(default)]
    pub(super) elements: Vec<Spanned<ElementRecord>>,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ValueRecord {
    /// The value at the start; it says of which kind it is.
    pub(super) start: Datum,
    /// The least and the greatest number.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) range: Option<[f64; 2]>,
    /// Seconds in which the number that is shown rolls to a new one. Default: 0.
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) roll_seconds: f32,
}

#[derive(Clone, PartialEq, Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct AllowedRecord {
    /// The kind of finding, as `kerno check` names it.
    pub(super) finding: String,
    /// The element that it is allowed of. Default: all.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) element: Option<String>,
    /// The reason why it is allowed.
    pub(super) reason: String,
}

#[derive(Default, Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(default, deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ElementRecord {
    /// The name, which no other element has.
    pub(super) name: String,
    /// The element that it is a child of. Default: the window.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) parent: Option<String>,

    // Its content: one of these at most.
    /// A text with markup, the same in all languages.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) text: Option<String>,
    /// A text of the string tables, by its key.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) string: Option<String>,
    /// A sprite in its own size, or in that of the element.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) sprite: Option<String>,
    /// A nine-slice sprite over all of the element.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) panel: Option<String>,
    /// A sprite repeated over all of the element.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) tiles: Option<String>,
    /// A rectangle: fill, border, round corners.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) rect: Option<RectRecord>,
    /// A bar for a value from 0 to 1.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) gauge: Option<GaugeRecord>,
    /// A value as a row of sprites.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) icons: Option<IconsRecord>,
    /// True: the line that is spoken in a scene.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) dialogue: bool,

    // Of texts.
    /// The style of the text, by its name. Default: `[defaults] text` of the style file.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) style: Option<String>,
    /// Changes of the style for this text alone.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) style_changes: Option<StyleChangesRecord>,
    /// Horizontal alignment of lines that are shorter than the block.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) text_align: TextAlignRecord,
    /// The way in which lines break.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) wrap: WrapRecord,
    /// Vertical alignment in a higher element.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) vertical_align: VerticalAlignRecord,
    /// Treatment of text that does not fit.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) overflow: OverflowRecord,
    /// The most lines.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) max_lines: Option<usize>,
    /// The share of its size down to which text that does not fit is set smaller, above 0 and at
    /// most 1.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) shrink_to: Option<f32>,
    /// True: room for the widest values of their ranges.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) keep_room: bool,

    // Of sprites.
    /// Seconds for which each frame of a moving sprite is shown.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) frame_seconds: Option<f32>,
    /// The text value that names the sprite.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) sprite_value: Option<String>,

    // Its children.
    /// The arrangement of its children.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) arrange: ArrangeRecord,
    /// The columns of a grid.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) columns: Option<u16>,
    /// Space between children, in design pixels.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) gap: f32,
    /// Alignment of children across a row, or across a column.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) align: AlignRecord,
    /// Alignment of children along a row or a column.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) justify: JustifyRecord,
    /// Space between the edges and the children, in design pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) padding: Option<SidesRecord>,
    /// True: its children are cut off at its edges.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) clip: bool,

    // Its place and size.
    /// The point of the parent that it hangs from.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) anchor: Option<AnchorRecord>,
    /// The point of its own box that is put there. Default: the same as `anchor`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) origin: Option<AnchorRecord>,
    /// Design pixels from there, to the right and down.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) offset: [f32; 2],
    /// Width. Default: `auto`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) width: Option<LengthRecord>,
    /// Height. Default: `auto`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) height: Option<LengthRecord>,
    /// The least width.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) min_width: Option<LengthRecord>,
    /// The least height.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) min_height: Option<LengthRecord>,
    /// The greatest width.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) max_width: Option<LengthRecord>,
    /// The greatest height.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) max_height: Option<LengthRecord>,
    /// Width over height, where one of them is `auto`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) aspect_ratio: Option<f32>,
    /// Its share of the room that is left in the row.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) grow: f32,
    /// Space around it, in design pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) margin: Option<SidesRecord>,

    // Its look as a whole.
    /// False: it is not there, and takes no room. Default: true.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) visible: Option<bool>,
    /// The value while which it is there: true, not 0, not empty.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) show_while: Option<String>,
    /// The value while which it is not there.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) show_unless: Option<String>,
    /// Opacity with its children, 0 to 1. Default: 1.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) opacity: Option<f32>,
    /// True: it fades as one thing, at the cost of a pass of its own.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) fade_as_one: bool,
    /// Order among its siblings: later ones are painted above.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) z: i32,
    /// Degrees clockwise about its origin.
    #[serde(skip_serializing_if = "is_default")]
    pub(super) rotation: f32,
    /// Scale about its origin. Default: 1.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) scale: Option<f32>,
    /// The place of the game's world that it follows.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) world: Option<WorldRecord>,
}

#[derive(Clone, PartialEq, Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct WorldRecord {
    /// The point value that it follows.
    pub(super) value: String,
    /// True: it grows with the zoom.
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) scales: bool,
    /// Design pixels that it stays inside of the safe area when its place is out of sight.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) kept_inside: Option<SidesRecord>,
    /// A sprite that points to a place out of sight; drawn to point to the right.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) pointer: Option<String>,
    /// A sprite that always points to its place.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) tail: Option<String>,
}

/// Changes of a style for one text: the settings that are plain numbers and words.
#[derive(Clone, Default, PartialEq, Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(default, deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct StyleChangesRecord {
    /// Design pixels per em.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) size: Option<f32>,
    /// Factor of the size.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) scale: Option<f32>,
    /// Colour of the letters, as in CSS.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) color: Option<String>,
    /// Space between clusters, in design pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) letter_spacing: Option<f32>,
    /// Space added to each space, in design pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) word_spacing: Option<f32>,
    /// From baseline to baseline, as a factor of the size.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) line_height: Option<f32>,
    /// Design pixels that the letters are raised.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) baseline_shift: Option<f32>,
    /// True: digits of one width.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) tabular: Option<bool>,
    /// True: a line beneath the letters.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) underline: Option<bool>,
    /// True: a line through the letters.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) line_through: Option<bool>,
}

fn is_default<T: Default + PartialEq>(value: &T) -> bool {
    *value == T::default()
}

#[derive(Clone, Copy, PartialEq, Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(
    untagged,
    expecting = "design pixels, a share of the parent such as \"50%\", or \"auto\""
)]
pub(super) enum LengthRecord {
    Px(f32),
    #[serde(with = "percent")]
    #[cfg_attr(feature = "schemas", schemars(with = "String"))]
    Percent(f32),
    Word(AutoRecord),
}

#[derive(Clone, Copy, PartialEq, Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub(super) enum AutoRecord {
    Auto,
}

mod percent {
    use serde::de::{Error, Unexpected};
    use serde::{Deserialize, Deserializer, Serializer};

    // The signature that serde asks for.
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(
    untagged,
    expecting = "a point such as \"top-right\" or \"center\", or two shares such as [1, 0]"
)]
pub(super) enum AnchorRecord {
    Named(NamedAnchor),
    Shares([f32; 2]),
}

#[derive(Clone, Copy, PartialEq, Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
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
        #[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
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
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(default, deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct RectRecord {
    /// Colour inside, as in CSS.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) fill: Option<String>,
    /// The line along the edge.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) border: Option<BorderRecord>,
    /// Radius of all corners, or of four from the top left clockwise, in design pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) radius: Option<SidesRecord>,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct BorderRecord {
    /// Design pixels.
    pub(super) width: f32,
    /// A colour as in CSS.
    pub(super) color: String,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct GaugeRecord {
    /// The value that it shows, from 0 to 1.
    pub(super) value: String,
    /// Colour of the bar, as in CSS.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) color: Option<String>,
    /// A nine-slice sprite that is the bar.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) stretched: Option<String>,
    /// A sprite of which the bar shows a part.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) clipped: Option<String>,
    /// The side that it grows from. Default: `left`.
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) from: SideRecord,
    /// Nine-slice sprite behind it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) back: Option<String>,
    /// Sprite over it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) marks: Option<String>,
    /// Room between the edges and the bar, in design pixels.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) inset: Option<SidesRecord>,
    /// Seconds in which the bar comes to within a twentieth of a new value.
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) follow_seconds: f32,
    /// Colour of a part that was just lost, as in CSS.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) ghost: Option<String>,
    /// Seconds for which that part stays.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) ghost_seconds: Option<f32>,
    /// Other colours below certain values.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub(super) thresholds: Vec<ThresholdRecord>,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct ThresholdRecord {
    /// The value below which it counts.
    pub(super) below: f32,
    /// A colour as in CSS.
    pub(super) color: String,
}

#[derive(Deserialize, Serialize)]
#[cfg_attr(feature = "schemas", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields, rename_all = "kebab-case")]
pub(super) struct IconsRecord {
    /// The value that it shows: the number of full icons.
    pub(super) value: String,
    /// Sprite of a full icon.
    pub(super) full: String,
    /// Sprite of a half one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) half: Option<String>,
    /// Sprite of an empty one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(super) empty: Option<String>,
    /// Icons in all, up to 100.
    pub(super) count: u16,
    /// Space between icons, in design pixels.
    #[serde(default, skip_serializing_if = "is_default")]
    pub(super) gap: f32,
}

/// The schema of screen files.
#[cfg(feature = "schemas")]
pub(crate) fn file_schema() -> schemars::Schema {
    schemars::schema_for!(ScreenRecord)
}
