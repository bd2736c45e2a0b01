//! Choices that are written and read by a word.

use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use alloc::vec::Vec;

/// The choice with this word.
///
/// # Errors
/// [`ErrorKind::Unreadable`] where none has it, with all words that there are.
pub(crate) fn by_word<T: Copy>(
    text: &str,
    all: &[T],
    word: fn(T) -> &'static str,
    is_not: &str,
) -> Result<T, Error> {
    all.iter().copied().find(|choice| word(*choice) == text).ok_or_else(|| {
        let words: Vec<&str> = all.iter().map(|choice| word(*choice)).collect();
        let allowed = match words.as_slice() {
            [before @ .., last] if !before.is_empty() => format!("{} or {last}", before.join(", ")),
            few => few.concat(),
        };
        Error::new(ErrorKind::Unreadable, format!("{} is not {is_not}", quoted(text)), allowed)
    })
}

/// Writes and reads an enum by its `word`; it lists all of its variants in `ALL`.
macro_rules! chosen_by_word {
    ($choice:ty, $is_not:literal) => {
        /// Writes its word.
        impl core::fmt::Display for $choice {
            fn fmt(&self, f: &mut core::fmt::Formatter<'_>) -> core::fmt::Result {
                f.pad(self.word())
            }
        }

        /// Reads its word.
        impl core::str::FromStr for $choice {
            type Err = crate::error::Error;

            fn from_str(text: &str) -> Result<Self, Self::Err> {
                crate::choice::by_word(text, &Self::ALL, Self::word, $is_not)
            }
        }
    };
}
pub(crate) use chosen_by_word;
