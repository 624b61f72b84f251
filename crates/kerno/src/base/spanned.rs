//! Values of TOML files with their places.

use std::borrow::Borrow;
use std::ops::Range;

use serde::{Deserialize, Serialize};

/// A value with the bytes of the file that it stands in.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Deserialize, Serialize)]
#[serde(transparent)]
pub(crate) struct Spanned<T>(toml::Spanned<T>);

impl<T> Spanned<T> {
    #[cfg(any(feature = "bake", feature = "screens"))]
    pub(crate) fn new(span: Range<usize>, value: T) -> Self {
        Self(toml::Spanned::new(span, value))
    }

    pub(crate) fn span(&self) -> Range<usize> {
        self.0.span()
    }

    pub(crate) fn get_ref(&self) -> &T {
        self.0.get_ref()
    }

    #[cfg(feature = "screens")]
    pub(crate) fn into_inner(self) -> T {
        self.0.into_inner()
    }
}

impl<T> AsRef<T> for Spanned<T> {
    fn as_ref(&self) -> &T {
        self.0.get_ref()
    }
}

impl Borrow<str> for Spanned<String> {
    fn borrow(&self) -> &str {
        self.0.get_ref()
    }
}

/// In a schema it is the value alone.
#[cfg(feature = "schemas")]
impl<T: schemars::JsonSchema> schemars::JsonSchema for Spanned<T> {
    fn schema_name() -> std::borrow::Cow<'static, str> {
        T::schema_name()
    }

    fn inline_schema() -> bool {
        T::inline_schema()
    }

    fn json_schema(generator: &mut schemars::SchemaGenerator) -> schemars::Schema {
        T::json_schema(generator)
    }
}
