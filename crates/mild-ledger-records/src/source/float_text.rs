//! Numbers that a format holds in binary, as texts.

/// A number with the fifteen digits that it is exact to, as it is shown.
pub(super) fn number_text(number: f64) -> String {
    let rounded: f64 = format!("{number:.14e}").parse().unwrap_or(number);
    let text = rounded.to_string();
    if text == "-0" { "0".to_owned() } else { text }
}
