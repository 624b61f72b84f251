//! Lengths and arrangements, by the words of CSS.

/// A length of an element.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
pub enum Length {
    /// The length that its content asks for.
    #[default]
    Auto,
    /// Design pixels.
    Px(f32),
    /// Percent of the parent's, inside of its padding: 0 to 100 and more.
    Percent(f32),
}

/// Arrangement of the children of an element.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum Arrangement {
    /// Over one another, each by its anchor.
    #[default]
    Overlay,
    /// From the start of a line to its end.
    Row,
    /// From the top down.
    Column,
    /// As a row, in as many lines as it takes.
    Wrap,
    /// In a number of columns of one width, row after row.
    Grid(u16),
}

/// Alignment of children across a row or column (CSS `align-items`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum Align {
    /// At the top, or at the start of a line.
    #[default]
    Start,
    /// In the middle.
    Center,
    /// At the bottom, or at the end of a line.
    End,
    /// As large as there is room.
    Stretch,
    /// By the first baselines of texts.
    Baseline,
}

/// Distribution of children along a row or column (CSS `justify-content`).
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum Justify {
    /// At the start.
    #[default]
    Start,
    /// In the middle.
    Center,
    /// At the end.
    End,
    /// The first at the start, the last at the end, the rest evenly between.
    SpaceBetween,
}

/// When an element is there.
#[derive(Clone, Debug, Default, PartialEq)]
#[non_exhaustive]
pub enum Visibility {
    /// Always.
    #[default]
    Always,
    /// Never.
    Never,
    /// While a value is true, a number that is not 0, or a text that is not empty.
    While(String),
    /// While such a value is not.
    Unless(String),
}
