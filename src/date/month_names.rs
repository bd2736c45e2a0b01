//! The names of the months in English.

use alloc::string::String;

/// In lower case, January first.
pub(crate) const MONTHS: [&str; 12] = [
    "january",
    "february",
    "march",
    "april",
    "may",
    "june",
    "july",
    "august",
    "september",
    "october",
    "november",
    "december",
];

/// The name of a month, 1 to 12, with its capital.
pub(crate) fn month_name(month: u8) -> String {
    let name = MONTHS.get(usize::from(month.saturating_sub(1))).copied().unwrap_or_default();
    name.get(..1).unwrap_or_default().to_uppercase() + name.get(1..).unwrap_or_default()
}

/// The month with this name, in full, by its first three letters, or `sept`; in any case.
pub(crate) fn month_of_name(name: &[u8]) -> Option<u8> {
    let same = |word: &str| name.eq_ignore_ascii_case(word.as_bytes());
    let found = MONTHS
        .iter()
        .position(|month| same(month) || same(&month[..3]) || (*month == "september" && same("sept")))?;
    u8::try_from(found + 1).ok()
}
