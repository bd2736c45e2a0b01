//! Texts from records, made safe and short for a terminal.

use std::borrow::Cow;
use unicode_width::UnicodeWidthStr;

/// A text with its control signs, and the signs that turn the direction of writing, made visible.
///
/// ```
/// assert_eq!(mild_ledger_report::terminal::visible("red \u{1b}[31m"), "red \\u{1b}[31m");
/// assert_eq!(mild_ledger_report::terminal::visible("Brise d'Été"), "Brise d'Été");
/// ```
#[must_use]
pub fn visible(text: &str) -> Cow<'_, str> {
    if !text.chars().any(is_hidden) {
        return Cow::Borrowed(text);
    }
    let shown = text.chars().flat_map(|sign| {
        let hidden = is_hidden(sign).then(|| sign.escape_default());
        let plain = (!is_hidden(sign)).then_some(sign);
        hidden.into_iter().flatten().chain(plain)
    });
    Cow::Owned(shown.collect())
}

/// Whether a sign steers a terminal, turns the direction of writing, or is not seen at all.
pub(crate) fn is_hidden(sign: char) -> bool {
    sign.is_control()
        || matches!(sign, '\u{200b}'..='\u{200f}' | '\u{2028}'..='\u{202e}' | '\u{2060}'..='\u{206f}' | '\u{feff}' | '\u{fff9}'..='\u{fffb}' | '\u{61c}' | '\u{e0000}'..='\u{e007f}')
}

/// How many columns a text takes.
pub(super) fn width_of(text: &str) -> usize {
    UnicodeWidthStr::width(text)
}

/// A text cut to so many columns, with … where something was left out.
pub(crate) fn shortened(text: &str, columns: usize) -> String {
    if width_of(text) <= columns {
        return text.to_owned();
    }
    let mut short = String::new();
    for sign in text.chars() {
        let mut longer = short.clone();
        longer.push(sign);
        if width_of(&longer) + 1 > columns {
            break;
        }
        short = longer;
    }
    short.push('…');
    short
}

/// A text broken into lines as wide as the terminal, its control signs made visible.
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

/// A text broken into lines of so many columns at its spaces, each behind an indent.
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
