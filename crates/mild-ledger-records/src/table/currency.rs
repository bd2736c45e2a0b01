//! The currencies of amounts: what distinguishes them.

use crate::error::RecordsError;
use std::borrow::Cow;

/// The currency that a text names: its code of ISO 4217 in capitals, or the text as it is without spaces, and without the
/// apostrophes that a spreadsheet's texts may begin with. A blank names none.
pub(crate) fn currency_of(text: &str) -> Cow<'_, str> {
    let text = text.trim_start_matches('\'').trim();
    let is_code = text.len() == 3 && text.bytes().all(|byte| byte.is_ascii_alphabetic());
    if is_code && text.bytes().any(|byte| byte.is_ascii_lowercase()) {
        return Cow::Owned(text.to_ascii_uppercase());
    }
    Cow::Borrowed(text)
}

/// How a currency is called where it has no name.
pub(crate) fn called(currency: &str) -> &str {
    if currency.is_empty() { "without currency" } else { currency }
}

/// The error of a column of currencies that holds something else.
pub(crate) fn too_many_currencies(column: &str) -> RecordsError {
    RecordsError::request(
        format!("the currencies of \"{}\" are more than {MOST_CURRENCIES}", column.escape_debug()),
        "currency = … under [records.amounts] names the column that holds them",
    )
}

/// The most currencies of a column: there are about 180, and a column of more names something else.
pub(crate) const MOST_CURRENCIES: usize = 300;

#[cfg(test)]
mod tests {
    use super::currency_of;

    #[test]
    fn codes_are_told_apart_without_regard_to_case_and_spaces() {
        for (text, currency) in [
            (" eur", "EUR"),
            ("EUR", "EUR"),
            ("Eur ", "EUR"),
            ("", ""),
            ("€", "€"),
            ("kr", "kr"),
            ("'=x", "=x"),
        ] {
            assert_eq!(currency_of(text), currency, "{text:?}");
        }
    }
}
