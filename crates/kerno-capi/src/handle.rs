//! Handles, and pointers of C as references.

use std::any::TypeId;
use std::collections::HashMap;
use std::ffi::{CStr, c_char};
use std::sync::{LazyLock, Mutex, PoisonError};

use crate::status::{Failure, KernoStatus};

/// The handles that live: their addresses, with their types.
static LIVE: LazyLock<Mutex<HashMap<usize, TypeId>>> = LazyLock::new(Mutex::default);

fn null(name: &str) -> Failure {
    let message = format!("`{name}` is null");
    Failure::new(KernoStatus::NullPointer, "null-pointer", message)
}

fn check<T: 'static>(handle: *const T, name: &str) -> Result<(), Failure> {
    if handle.is_null() {
        return Err(null(name));
    }
    let live = LIVE.lock().unwrap_or_else(PoisonError::into_inner);
    match live.get(&handle.addr()) == Some(&TypeId::of::<T>()) {
        true => Ok(()),
        false => Err(Failure::new(
            KernoStatus::StaleHandle,
            "stale-handle",
            format!("`{name}` was freed, or is no handle of its type"),
        )),
    }
}

/// Hands out a value as a handle.
pub(crate) fn give<T: 'static>(
    out: *mut *mut T,
    make: impl FnOnce() -> Result<T, Failure>,
) -> Result<(), Failure> {
    if out.is_null() {
        return Err(null("out"));
    }
    let handle = Box::into_raw(Box::new(make()?));
    let mut live = LIVE.lock().unwrap_or_else(PoisonError::into_inner);
    live.insert(handle.addr(), TypeId::of::<T>());
    drop(live);
    // SAFETY: `out` is not null, and the caller promises that it points to a handle's place.
    unsafe { out.write(handle) };
    Ok(())
}

/// Frees a handle; does nothing for null and for one that was freed.
pub(crate) fn free<T: 'static>(handle: *mut T) {
    if check(handle, "handle").is_err() {
        return;
    }
    let mut live = LIVE.lock().unwrap_or_else(PoisonError::into_inner);
    live.remove(&handle.addr());
    drop(live);
    // SAFETY: a live handle came from `Box::into_raw` in `give`, and is listed no longer.
    drop(unsafe { Box::from_raw(handle) });
}

/// A handle that is read.
pub(crate) fn shared<'a, T: 'static>(handle: *const T, name: &str) -> Result<&'a T, Failure> {
    check(handle, name)?;
    // SAFETY: the handle lives, and the caller promises that one thread at a time uses it.
    Ok(unsafe { &*handle })
}

/// A handle that is changed.
pub(crate) fn unique<'a, T: 'static>(handle: *mut T, name: &str) -> Result<&'a mut T, Failure> {
    check(handle, name)?;
    // SAFETY: the handle lives, the caller promises that one thread at a time uses it, and a
    // call takes each type of handle once.
    Ok(unsafe { &mut *handle })
}

/// A struct that is read.
pub(crate) fn given<'a, T>(from: *const T, name: &str) -> Result<&'a T, Failure> {
    // SAFETY: where it is not null, the caller promises that it points to such a struct.
    unsafe { from.as_ref() }.ok_or_else(|| null(name))
}

/// Writes a result.
pub(crate) fn write<T>(out: *mut T, value: T) -> Result<(), Failure> {
    if out.is_null() {
        return Err(null("out"));
    }
    // SAFETY: `out` is not null, and the caller promises that it points to room for a `T`.
    unsafe { out.write(value) };
    Ok(())
}

/// A string that ends with a zero.
pub(crate) fn string<'a>(text: *const c_char, name: &str) -> Result<&'a str, Failure> {
    if text.is_null() {
        return Err(null(name));
    }
    // SAFETY: it is not null, and the caller promises that it ends with a zero.
    let text = unsafe { CStr::from_ptr(text) };
    text.to_str().map_err(|error| {
        let at = error.valid_up_to();
        let message = format!("`{name}` is not UTF-8 from byte {at} on");
        Failure::new(KernoStatus::NotUtf8, "not-utf8", message)
    })
}

/// Bytes by their first and their number.
pub(crate) fn bytes<'a>(first: *const u8, count: usize, name: &str) -> Result<&'a [u8], Failure> {
    if first.is_null() {
        return Err(null(name));
    }
    if isize::try_from(count).is_err() {
        return Err(Failure::argument("more bytes than memory has"));
    }
    // SAFETY: it is not null, and the caller promises that many bytes.
    Ok(unsafe { std::slice::from_raw_parts(first, count) })
}

/// Bytes that are written, by their first and their number.
pub(crate) fn bytes_mut<'a>(
    first: *mut u8,
    count: usize,
    name: &str,
) -> Result<&'a mut [u8], Failure> {
    bytes(first, count, name)?;
    // SAFETY: as above, and the caller promises that nobody else uses them meanwhile.
    Ok(unsafe { std::slice::from_raw_parts_mut(first, count) })
}
