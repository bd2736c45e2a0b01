//! Texts made fit to be shown: from records, safe and short; and the names of months.

use mild_ledger::Date;
use std::borrow::Cow;
use unicode_width::UnicodeWidthStr;

/// A text with its control characters, and the characters that turn the direction of writing, made visible.
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

/// Whether a character steers a terminal, turns the direction of writing, or is not seen at all.
pub(crate) fn is_hidden(sign: char) -> bool {
    sign.is_control()
        || matches!(sign, '\u{200b}'..='\u{200f}' | '\u{2028}'..='\u{202e}' | '\u{2060}'..='\u{206f}' | '\u{feff}' | '\u{fff9}'..='\u{fffb}' | '\u{61c}' | '\u{e0000}'..='\u{e007f}')
}

/// How many columns a text takes.
pub(crate) fn width_of(text: &str) -> usize {
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

/// The English name of a date's month, which this pattern always gives.
pub(crate) fn month_name(date: Date) -> String {
    let name = "month-name".parse::<mild_ledger::LabelPattern>();
    name.map_or_else(|_| String::new(), |name| name.write(date, mild_ledger::FiscalYear::default()))
}
