//! Chained setters of options.

/// Chained setters for the fields of a struct of options. Those after `optional` take a
/// value with or without `Some`; those after `changed` are kept as `Some` of the value.
macro_rules! setters {
    (
        $of:ident $(<$life:lifetime>)?
        { $($field:ident: $type:ty,)* }
        $(optional { $($may_field:ident: $may_type:ty,)* })?
        $(changed { $($new_field:ident: $new_type:ty,)* })?
    ) => {
        impl $(<$life>)? $of $(<$life>)? {
            $(
                #[doc = concat!(
                    "Sets [`", stringify!($field), "`](", stringify!($of),
                    "#structfield.", stringify!($field), ")."
                )]
                #[must_use]
                pub fn $field(mut self, $field: $type) -> Self {
                    self.$field = $field;
                    self
                }
            )*
            $($(
                #[doc = concat!(
                    "Sets [`", stringify!($may_field), "`](", stringify!($of),
                    "#structfield.", stringify!($may_field), "), with or without `Some`."
                )]
                #[must_use]
                pub fn $may_field(mut self, $may_field: impl Into<Option<$may_type>>) -> Self {
                    self.$may_field = $may_field.into();
                    self
                }
            )*)?
            $($(
                #[doc = concat!(
                    "Sets [`", stringify!($new_field), "`](", stringify!($of),
                    "#structfield.", stringify!($new_field), ")."
                )]
                #[must_use]
                pub fn $new_field(mut self, $new_field: $new_type) -> Self {
                    self.$new_field = Some($new_field);
                    self
                }
            )*)?
        }
    };
}

pub(crate) use setters;
