//! Packages that make sense of files: one that panics over a file has met a broken file, and the program goes on.

use crate::error::RecordsError;
use std::cell::Cell;
use std::io;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::Path;

thread_local! {
    static IS_DECODING: Cell<bool> = const { Cell::new(false) };
}

/// Whether this thread is reading a file by a package of its format, where a panic becomes an error that names the file; a panic
/// hook need not tell of it.
///
/// ```
/// assert!(!mild_ledger_records::is_decoding());
/// ```
pub fn is_decoding() -> bool {
    IS_DECODING.get()
}

/// What the packages make of a file; an error where they panic over it.
pub(super) fn decoded<T>(
    path: &Path,
    decode: impl FnOnce() -> Result<T, RecordsError>,
) -> Result<T, RecordsError> {
    let before = IS_DECODING.replace(true);
    // What a panic leaves half done goes with it: nothing of `decode` is used afterwards.
    let result = catch_unwind(AssertUnwindSafe(decode));
    IS_DECODING.set(before);
    result.unwrap_or_else(|_| {
        let what = "the file is broken: parts of it contradict each other";
        Err(RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what)))
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_panic_is_an_error_of_the_file() {
        let path = Path::new("yard.parquet");
        let result = decoded(path, || -> Result<(), RecordsError> {
            let none: [u8; 0] = [];
            let _ = none[std::hint::black_box(0)];
            Ok(())
        });
        let error = result.map_err(|error| error.to_string());
        let expected =
            "yard.parquet: could not read it: the file is broken: parts of it contradict each other";
        assert_eq!(error, Err(expected.to_owned()));
        assert!(!is_decoding(), "it is over");
    }

    #[test]
    fn what_is_read_is_given_on() {
        let path = Path::new("yard.parquet");
        assert!(matches!(decoded(path, || Ok(is_decoding())), Ok(true)));
    }
}
