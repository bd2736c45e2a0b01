//! What the arguments say of the columns of a file that was looked at, and what is in doubt about them.

use crate::ending::Failure;
use mild_ledger::DecimalMark;
use mild_ledger_records::{
    AmountFormat, Clarity, Holding, Look, LookedColumn, Presentation, RowsSeen, nearest_words,
};

/// Columns with how their dates are written, as the arguments say it.
pub(super) fn written(found: &Look, said: &[String]) -> Result<Vec<(String, String)>, Failure> {
    let pair = |said: &String| {
        let help = "--date-pattern \"Issued=day/month/year\"".to_owned();
        let Some((column, pattern)) = said.split_once('=') else {
            return Err(Failure::Request { what: format!("\"{said}\" names no column and pattern"), help });
        };
        let column = column_of(found, column)?;
        Ok((column.name.clone(), pattern.trim().to_owned()))
    };
    said.iter().map(pair).collect()
}

/// The pattern of a column of dates, where it is not in doubt.
pub(super) fn said_of(found: &Look, name: &str, written: &[(String, String)]) -> Result<String, Failure> {
    if let Some((_, pattern)) = written.iter().find(|(known, _)| known == name) {
        return Ok(format!("{name} is read as {pattern}, as said."));
    }
    let doubt = |what: String| Failure::Request {
        what,
        help: format!(
            "name the pattern: --date-pattern \"{name}=day/month/year\"; mild look shows the evidence"
        ),
    };
    let column = column_of(found, name)?;
    if column.values == 0 {
        return Ok(format!("{name} holds nothing but blanks."));
    }
    let Holding::Date(dates) = &column.holds else {
        return Err(doubt(format!(
            "\"{}\" holds {}, not dates",
            name.escape_debug(),
            column.holds.in_plural()
        )));
    };
    let first = dates.patterns.first().map_or("iso", |pattern| pattern.pattern.as_str());
    let is_found = dates.verdict == Clarity::Found || dates.beyond_doubt;
    if !is_found || dates.offsets > 0 {
        let what = match dates.patterns.get(1) {
            Some(other) => format!("the dates of \"{name}\" may be written {first} or {}", other.pattern),
            None => format!("how the dates of \"{name}\" are written is in doubt"),
        };
        return Err(doubt(what));
    }
    let reads = dates.patterns.first().map_or(0, |pattern| pattern.reads);
    let failed = match dates.failed {
        0 => String::new(),
        failed => format!(", {failed} not"),
    };
    let seen = match column.rows_seen {
        RowsSeen::First(rows) => format!(" in the first {rows} rows"),
        RowsSeen::All | RowsSeen::None => String::new(),
    };
    Ok(format!("{name} is read as {first}, as {reads} of its values are{failed}{seen}."))
}

/// How the report shows dates and amounts, where that is not the usual way.
pub(super) fn shown_as(presentation: &Presentation) -> Option<String> {
    let dates = presentation.dates.as_ref().map(|pattern| format!("dates as {pattern}"));
    let amounts = match presentation.decimal_mark {
        DecimalMark::Comma => Some("amounts with a decimal comma".to_owned()),
        DecimalMark::Point => None,
    };
    let said: Vec<String> = dates.into_iter().chain(amounts).collect();
    (!said.is_empty()).then(|| format!("As in the file, the report shows {}.", said.join(" and ")))
}

/// The column of a name.
pub(super) fn column_of<'l>(found: &'l Look, name: &str) -> Result<&'l LookedColumn, Failure> {
    let name = name.trim();
    found.columns.iter().find(|column| column.name == name).ok_or_else(|| {
        let names = || found.columns.iter().map(|column| column.name.as_str());
        let (near, more) = nearest_words(name, names());
        let near: Vec<String> = near.iter().map(|name| format!("\"{}\"", name.escape_debug())).collect();
        Failure::Request {
            what: format!("{} has no column \"{}\"", found.file.escape_debug(), name.escape_debug()),
            help: format!("{}{}", near.join(", "), if more { " …" } else { "" }),
        }
    })
}

/// The format that an argument such as `Amount=1.234,56` means.
pub(super) fn amount_format(look: &Look, argument: &str) -> Result<AmountFormat, Failure> {
    const HELP: &str = "--amount-format \"Amount=1,234.56\" or \"Amount=1.234,56\"";
    let refused = |what: String| Failure::Request { what, help: HELP.to_owned() };
    let (column, sample) = argument
        .split_once('=')
        .ok_or_else(|| refused(format!("\"{}\" names no column and sample", argument.escape_debug())))?;
    let column = column_of(look, column)?;
    let mark = decimal_mark_of(sample.trim()).ok_or_else(|| {
        refused(format!("\"{}\" does not show which mark is before two decimals", sample.escape_debug()))
    })?;
    let Holding::Amount(amounts) = &column.holds else {
        let what =
            format!("\"{}\" holds {}, not amounts", column.name.escape_debug(), column.holds.in_plural());
        return Err(refused(what));
    };
    let other = amounts.other.as_ref().map(|other| (&other.notation, other.decimals));
    let mut known = std::iter::once((&amounts.notation, amounts.decimals)).chain(other);
    let found = known.find(|(notation, _)| notation.decimal_mark() == mark).ok_or_else(|| {
        let name = column.name.escape_debug();
        refused(format!("the amounts of \"{name}\" are written {}, not as {sample}", amounts.notation))
    })?;
    Ok(AmountFormat { column: column.name.clone(), notation: found.0.clone(), decimals: found.1 })
}

/// The mark before the last two digits of a sample.
fn decimal_mark_of(sample: &str) -> Option<DecimalMark> {
    let place = sample.rfind(['.', ','])?;
    let (mark, digits) = sample.get(place..)?.split_at_checked(1)?;
    let is_sample = digits.len() == 2 && digits.bytes().all(|digit| digit.is_ascii_digit());
    DecimalMark::ALL.into_iter().find(|known| is_sample && mark.starts_with(known.sign()))
}

/// An error where a column cannot be read as amounts without doubt.
pub(super) fn check_amounts(look: &Look, column: &LookedColumn) -> Result<(), Failure> {
    let name = column.name.escape_debug();
    let both_lines =
        format!("mild look {} --plan writes what a plan can say of it", look.file.escape_debug());
    let (what, help) = match &column.holds {
        Holding::Amount(amounts) => match (amounts.verdict, &amounts.other) {
            _ if amounts.currencies.len() > 1 => {
                let signs: Vec<&str> = amounts.currencies.iter().map(|(sign, _)| sign.as_str()).collect();
                let what = format!("\"{name}\" holds amounts of several currencies: {}", signs.join(", "));
                (what, "a column of currencies of its own, and --currency COLUMN".to_owned())
            }
            _ if amounts.credit_and_debit != (0, 0) => (
                format!(
                    "\"{name}\" has CR or DR after its amounts, and which of them is negative is not known"
                ),
                both_lines,
            ),
            (Clarity::Found, _) => return Ok(()),
            (Clarity::Ambiguous, Some(other)) => (
                format!(
                    "the amounts of \"{name}\" may be written {} or {}: {} in row {} could be either",
                    amounts.notation,
                    other.notation,
                    other.example.text.escape_debug(),
                    other.example.row
                ),
                format!("--amount-format \"{name}=1,234.56\" or --amount-format \"{name}=1.234,56\""),
            ),
            _ => {
                let first = amounts.failures.first();
                let example =
                    first.map(|value| format!(", such as row {}: {}", value.row, value.text.escape_debug()));
                (
                    format!(
                        "{} of the values of \"{name}\" are not amounts written {}{}",
                        amounts.failed,
                        amounts.notation,
                        example.unwrap_or_default()
                    ),
                    both_lines,
                )
            }
        },
        Holding::WholeNumber { failed: 0, .. } => return Ok(()),
        _ if column.values == 0 => {
            (format!("\"{name}\" holds nothing but blanks"), "a column of amounts".to_owned())
        }
        other => {
            (format!("\"{name}\" holds {}, not amounts", other.in_plural()), "a column of amounts".to_owned())
        }
    };
    Err(Failure::Request { what, help })
}
