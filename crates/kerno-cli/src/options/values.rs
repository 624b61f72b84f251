//! Choices of options, and what they stand for.

use clap::ValueEnum;
use kerno::markup::NumberSign;
use kerno::text::{Direction, LineBreak, TextAlign, VerticalAlign, WhiteSpace, WordBreak, Wrap};

/// Values of an option, each with the one of the library that it stands for.
macro_rules! values {
    ($name:ident: $of:ident { $($(#[$help:meta])* $value:ident,)* }) => {
        #[derive(Clone, Copy, Debug, ValueEnum)]
        pub(super) enum $name {
            $($(#[$help])* $value,)*
        }

        impl From<$name> for $of {
            fn from(value: $name) -> Self {
                match value {
                    $($name::$value => Self::$value,)*
                }
            }
        }
    };
}

values! { AlignArg: TextAlign {
    /// To the side where reading starts
    Start,
    /// To the middle
    Center,
    /// To the side where reading ends
    End,
    /// From side to side
    Justify,
} }

values! { SignArg: NumberSign {
    /// Those below zero
    Negative,
    /// All but zero
    ExceptZero,
    /// All
    Always,
    /// None
    Never,
} }

values! { VerticalArg: VerticalAlign {
    /// To the top
    Top,
    /// To the middle, by the font's metrics
    Middle,
    /// To the bottom
    Bottom,
    /// To the middle, by what is drawn
    MiddleOfInk,
    /// To the middle, by capital letters
    MiddleOfCapitals,
} }

values! { WrapArg: Wrap {
    /// Nowhere but at line breaks
    None,
    /// Each line takes as much as it can
    Greedy,
    /// As many lines, all about as long
    Balanced,
    /// The evenest lines together
    Optimal,
} }

values! { DirectionArg: Direction {
    /// As the first letter does
    Auto,
    /// From left to right
    LeftToRight,
    /// From right to left
    RightToLeft,
} }

values! { WhiteSpaceArg: WhiteSpace {
    /// As it is
    Keep,
    /// Several in a row are one space
    Collapse,
} }

values! { LineBreakArg: LineBreak {
    /// The fewest rules
    Loose,
    /// The usual ones
    Normal,
    /// No line begins with a small kana
    Strict,
    /// Between any two clusters
    Anywhere,
} }

values! { WordBreakArg: WordBreak {
    /// As each script does
    Normal,
    /// All scripts break like Han
    BreakAll,
    /// Han and Kana do not break either
    KeepAll,
} }

#[derive(Clone, Copy, Debug, ValueEnum)]
pub(super) enum OverflowArg {
    /// It reaches out of the block
    Visible,
    /// It is cut off at the block's border
    Clip,
    /// The last line that fits ends with an ellipsis
    Ellipsis,
    /// The text begins with an ellipsis, and keeps its end
    EllipsisAtStart,
    /// An ellipsis in the middle of the line
    EllipsisInMiddle,
}

#[derive(Clone, Copy, Debug, ValueEnum)]
pub(super) enum EdgesArg {
    /// Anti-aliased
    Smooth,
    /// On or off, for pixel faces
    Hard,
    /// Anti-aliased, with baseline, x-height and capitals on whole pixels
    GridFitted,
    /// From a distance field
    DistanceField,
    /// From a distance field of several channels, with sharp corners
    MultiChannelField,
}
