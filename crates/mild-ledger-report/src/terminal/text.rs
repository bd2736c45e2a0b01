//! Texts broken into lines.

use crate::shown::{visible, width_of};

/// A text broken into lines as wide as the terminal, its control characters made visible.
///
/// ```
/// use mild_ledger_report::terminal::{Width, lines};
/// assert_eq!(lines("one two three", Width::Columns(8)), "one two\nthree\n");
/// assert_eq!(lines("red \u{1b}[31m", Width::Unlimited), "red \\u{1b}[31m\n");
/// ```
#[must_use]
pub fn lines(text: &str, width: super::Width) -> String {
    wrapped(&visible(text), "", width)
}

/// A text broken into lines of so many columns at its spaces, each after an indent.
pub(super) fn wrapped(text: &str, indent: &str, width: super::Width) -> String {
    let mut out = String::new();
    let mut line = String::from(indent);
    for word in text.split(' ') {
        let longer = width_of(&line) + 1 + width_of(word);
        if line.len() > indent.len() && !width.fits(longer) {
            out.push_str(line.trim_end());
            out.push('\n');
            line = String::from(indent);
        }
        if line.len() > indent.len() {
            line.push(' ');
        }
        line.push_str(word);
    }
    out.push_str(line.trim_end());
    out.push('\n');
    out
}
