//! Colours: 8-bit sRGB with straight alpha.

use std::fmt;
#[cfg(feature = "css-colors")]
use std::str::FromStr;

/// A colour in 8-bit sRGB with straight alpha (255 is opaque).
///
/// Parses any CSS colour:
///
/// ```
/// use kerno::Color;
/// let lamp: Color = "#ffcf70".parse()?;
/// assert_eq!(lamp, Color::rgb(255, 207, 112));
/// let fog: Color = "rgb(255 207 112 / 50%)".parse()?;
/// assert_eq!(fog, lamp.with_alpha(128));
/// assert_eq!("goldenrod".parse::<Color>()?.to_string(), "#daa520");
/// # Ok::<(), kerno::base::ColorError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Color {
    /// Red, 0 to 255.
    pub red: u8,
    /// Green, 0 to 255.
    pub green: u8,
    /// Blue, 0 to 255.
    pub blue: u8,
    /// Opacity, 0 (clear) to 255 (opaque).
    pub alpha: u8,
}

impl Color {
    /// Fully transparent (CSS `transparent`).
    pub const CLEAR: Self = Self::rgba(0, 0, 0, 0);

    /// An opaque colour from its six hexadecimal digits, as designers write them.
    ///
    /// ```
    /// use kerno::Color;
    /// assert_eq!(Color::from_hex(0xffcf70), Color::rgb(255, 207, 112));
    /// ```
    pub const fn from_hex(digits: u32) -> Self {
        Self::rgb((digits >> 16) as u8, (digits >> 8) as u8, digits as u8)
    }

    /// An opaque colour.
    pub const fn rgb(red: u8, green: u8, blue: u8) -> Self {
        Self::rgba(red, green, blue, 255)
    }

    /// A colour with straight alpha.
    pub const fn rgba(red: u8, green: u8, blue: u8, alpha: u8) -> Self {
        Self {
            red,
            green,
            blue,
            alpha,
        }
    }

    /// The product of both, channel by channel, alpha too: white changes nothing.
    pub(crate) fn multiplied(self, by: Self) -> Self {
        let times = |a: u8, b: u8| ((u32::from(a) * u32::from(b) + 127) / 255) as u8;
        Self {
            red: times(self.red, by.red),
            green: times(self.green, by.green),
            blue: times(self.blue, by.blue),
            alpha: times(self.alpha, by.alpha),
        }
    }

    /// A colour on the way to another, at a share of 0 to 1 of it: mixed as CSS does,
    /// premultiplied (CSS Color, “Interpolating with Alpha”).
    pub(crate) fn mixed(self, other: Self, share: f32) -> Self {
        let (own, others) = (
            f32::from(self.alpha) * (1.0 - share),
            f32::from(other.alpha) * share,
        );
        let alpha = own + others;
        if alpha <= 0.0 {
            return self.with_alpha(0);
        }
        let channel =
            |a: u8, b: u8| ((f32::from(a) * own + f32::from(b) * others) / alpha).round() as u8;
        Self {
            red: channel(self.red, other.red),
            green: channel(self.green, other.green),
            blue: channel(self.blue, other.blue),
            alpha: alpha.round() as u8,
        }
    }

    /// The same colour at another opacity.
    pub const fn with_alpha(self, alpha: u8) -> Self {
        Self { alpha, ..self }
    }
}

impl fmt::Display for Color {
    /// CSS hexadecimal notation, with alpha only where it is not opaque.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "#{:02x}{:02x}{:02x}", self.red, self.green, self.blue)?;
        if self.alpha != 255 {
            write!(f, "{:02x}", self.alpha)?;
        }
        Ok(())
    }
}

/// A text that is no CSS colour.
#[cfg(feature = "css-colors")]
#[derive(Clone, PartialEq, Eq, thiserror::Error)]
#[error(
    "“{0}” is not a colour; write a CSS colour such as #ffcf70, goldenrod or “rgb(255 207 112 / 80%)”"
)]
pub struct ColorError(String);
#[cfg(feature = "css-colors")]
crate::base::debug_in_full!(ColorError);

#[cfg(feature = "css-colors")]
impl ColorError {
    /// Stable code of the error, for logs and programs: it stays where the message changes.
    pub fn code(&self) -> &'static str {
        "color-syntax"
    }
}

#[cfg(feature = "css-colors")]
impl FromStr for Color {
    type Err = ColorError;

    /// Reads a CSS Color 4 value.
    fn from_str(text: &str) -> Result<Self, ColorError> {
        let parsed = csscolorparser::parse(text).map_err(|_| ColorError(text.to_owned()))?;
        let [red, green, blue, alpha] = parsed.to_rgba8();
        Ok(Self::rgba(red, green, blue, alpha))
    }
}

/// A premultiplied colour back to straight alpha.
pub(crate) fn straight([red, green, blue, alpha]: [u8; 4]) -> [u8; 4] {
    if alpha == 0 {
        return [0; 4];
    }
    let whole = u32::from(alpha);
    let divide = |channel: u8| ((u32::from(channel) * 255 + whole / 2) / whole).min(255) as u8;
    [divide(red), divide(green), divide(blue), alpha]
}
