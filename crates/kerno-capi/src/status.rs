//! Ends of calls.

use std::cell::RefCell;
use std::error::Error;
use std::ffi::{CString, c_char};
use std::panic::{AssertUnwindSafe, catch_unwind};

/// The end of a call.
#[repr(C)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KernoStatus {
    /// As it should.
    Ok = 0,
    /// A pointer is null that may not be.
    NullPointer = 1,
    /// A handle was freed, or is of another type.
    StaleHandle = 2,
    /// A string is not UTF-8.
    NotUtf8 = 3,
    /// A number or a name is out of range.
    BadArgument = 4,
    /// A file or its content is wrong.
    BadInput = 5,
    /// A fault of Kerno itself; the handles of the call should be freed.
    Internal = 6,
}

/// Why a call failed.
pub(crate) struct Failure {
    status: KernoStatus,
    code: &'static str,
    message: String,
}

impl Failure {
    pub(crate) fn new(status: KernoStatus, code: &'static str, message: String) -> Self {
        Self {
            status,
            code,
            message,
        }
    }

    /// A number or a name that is out of range.
    pub(crate) fn argument(message: &str) -> Self {
        Self::new(KernoStatus::BadArgument, "argument", message.to_owned())
    }

    fn input(code: &'static str, error: &(dyn Error + 'static)) -> Self {
        Self::new(
            KernoStatus::BadInput,
            code,
            kerno::base::full_message(error),
        )
    }
}

/// Failures of the library, by their codes.
macro_rules! failures {
    ($($error:ty,)*) => { $(
        impl From<$error> for Failure {
            fn from(error: $error) -> Self {
                Self::input(error.code(), &error)
            }
        }
    )* };
}

failures! {
    kerno::atlas::AtlasError,
    kerno::bake::BakeError,
    kerno::dialogue::SceneError,
    kerno::font::FontError,
    kerno::pack::PackError,
    kerno::screen::ScreenError,
    kerno::screen::ViewportError,
    kerno::text::TextError,
    kerno::base::ImageError,
}

/// The failure that came last.
struct Last {
    code: CString,
    message: CString,
}

thread_local! {
    static LAST: RefCell<Option<Last>> = const { RefCell::new(None) };
}

/// A string for C: what follows a zero is left out.
pub(crate) fn c_string(text: &str) -> CString {
    let length = text.find('\0').unwrap_or(text.len());
    CString::new(&text[..length]).unwrap_or_default()
}

/// Does the work of a call: no panic gets out, and a failure is kept to be asked for.
pub(crate) fn guard(work: impl FnOnce() -> Result<(), Failure>) -> KernoStatus {
    let failure = match catch_unwind(AssertUnwindSafe(work)) {
        Ok(Ok(())) => return KernoStatus::Ok,
        Ok(Err(failure)) => failure,
        Err(_) => Failure::new(
            KernoStatus::Internal,
            "internal",
            "a fault of Kerno itself; please report it with what was called".to_owned(),
        ),
    };
    let last = Last {
        code: c_string(failure.code),
        message: c_string(&failure.message),
    };
    LAST.set(Some(last));
    failure.status
}

/// The sentence that says what was wrong in the call that failed last on this thread; empty
/// where none did. It stays valid until the next call fails on this thread.
#[unsafe(no_mangle)]
pub extern "C" fn kerno_error_message() -> *const c_char {
    last(|last| &last.message)
}

/// The stable code of the failure that came last on this thread, such as `font-table`; empty
/// where none came. It stays valid until the next call fails on this thread.
#[unsafe(no_mangle)]
pub extern "C" fn kerno_error_code() -> *const c_char {
    last(|last| &last.code)
}

fn last(of: fn(&Last) -> &CString) -> *const c_char {
    LAST.with_borrow(|last| last.as_ref().map_or(c"".as_ptr(), |last| of(last).as_ptr()))
}
