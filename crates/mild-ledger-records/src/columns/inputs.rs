//! What a column is worked out from: dates, numbers and texts, each from a column or from the plan itself.

use crate::mistakes::{At, Keys, Value, Walk, read_date};
use mild_ledger::{Date, DateTime, Decimal};
use std::fmt;
use std::ops::Range;
use toml::de::{DeTable, DeValue};

/// The as-of date, perhaps with a time of it, which only what counts times looks at.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct AsOfDate {
    pub(crate) date: Date,
    pub(crate) at: Option<DateTime>,
}

/// The date, with its time where it has one.
impl fmt::Display for AsOfDate {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.at {
            Some(at) => at.fmt(f),
            None => self.date.fmt(f),
        }
    }
}

/// A date as the plan says it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum DateSource {
    AsOf,
    Date(Date),
    Column(String),
}

/// Where a date comes from.
#[derive(Debug, Clone, Copy)]
pub(crate) enum DateInput {
    Every(AsOfDate),
    Column(usize),
}

/// A value as the plan says it.
#[derive(Debug, Clone, PartialEq)]
pub(crate) enum ValueSource {
    Text(String),
    Number(Decimal),
    Date(Date),
    AsOf,
    Column(String),
}

/// One side of a sum, difference, product or quotient.
#[derive(Debug, Clone, PartialEq)]
pub(crate) enum NumberSource {
    Column(String),
    Number(Decimal),
}

/// Where a number comes from.
#[derive(Debug, Clone, Copy)]
pub(crate) enum NumberInput {
    Column(usize),
    Number(Decimal),
}

/// The word for the as-of date wherever a date may be.
pub(crate) const AS_OF: &str = "as-of";

const REFERENCE: Keys<'static> = Keys { part: "a column in place of a text", known: &["column"], later: &[] };

/// `{ column = "…" }`.
pub(crate) fn read_reference(walk: &mut Walk, table: &DeTable, value: &Value<'_>) -> Option<String> {
    walk.check_keys(table, &REFERENCE);
    let column = walk.needed(table, "column", value.span(), "{ column = \"…\" }")?;
    walk.text(column, "the name of a column").map(|name| name.value)
}

/// A date, `as-of`, or the name of a column of dates.
pub(crate) fn read_date_source(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<At<DateSource>> {
    let source = match value.get_ref() {
        DeValue::Datetime(_) => DateSource::Date(read_date(walk, value, expected)?),
        DeValue::Table(table) => DateSource::Column(read_reference(walk, table, value)?),
        _ => match walk.text(value, expected)?.value {
            text if text == AS_OF => DateSource::AsOf,
            column => DateSource::Column(column),
        },
    };
    Some(At { value: source, span: value.span() })
}

/// The value of a key that names a date.
pub(crate) fn needed_date(
    walk: &mut Walk,
    table: &DeTable,
    key: &str,
    span: Range<usize>,
) -> Option<At<DateSource>> {
    const EXPECTED: &str = "the name of a date column, a date, or \"as-of\"";
    let value = walk.needed(table, key, span, &format!("{key} = \"…\", {EXPECTED}"))?;
    read_date_source(walk, value, EXPECTED)
}

/// A text, a number, a date, `as-of`, or `{ column = "…" }`.
pub(crate) fn read_value_source(walk: &mut Walk, value: &Value<'_>) -> Option<At<ValueSource>> {
    const EXPECTED: &str = "a text, a number, a date, \"as-of\", or { column = \"…\" }";
    let source = match value.get_ref() {
        DeValue::Table(table) => ValueSource::Column(read_reference(walk, table, value)?),
        DeValue::Datetime(_) => ValueSource::Date(read_date(walk, value, EXPECTED)?),
        DeValue::Integer(_) | DeValue::Float(_) => ValueSource::Number(read_number(walk, value, EXPECTED)?),
        _ => match walk.text(value, EXPECTED)?.value {
            text if text == AS_OF => ValueSource::AsOf,
            text => {
                check_placeholders(walk, &At { value: text.clone(), span: value.span() });
                ValueSource::Text(text)
            }
        },
    };
    Some(At { value: source, span: value.span() })
}

/// Refuses a text with a placeholder that nothing fills, such as `{month}`: it would be printed as it is.
pub(crate) fn check_placeholders(walk: &mut Walk, text: &At<String>) {
    let rest = text.value.replace(AS_OF_FIELD, "");
    let Some((_, behind)) = rest.split_once('{') else { return };
    let Some((name, _)) = behind.split_once('}') else { return };
    let what = format!("nothing fills {{{}}}", name.escape_debug());
    walk.mistakes.tell(text.span.clone(), what, "{as_of}, the one placeholder, or a text without brackets");
}

/// A number of the plan, exactly as it is.
pub(crate) fn read_number(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<Decimal> {
    let read = match value.get_ref() {
        DeValue::Integer(_) => {
            return walk.whole_number(value, i64::MIN..=i64::MAX).map(Decimal::from);
        }
        DeValue::Float(digits) => {
            let digits = digits.as_str().replace('_', "");
            digits.strip_prefix('+').unwrap_or(&digits).parse::<Decimal>().ok()
        }
        _ => {
            walk.other_kind(value, expected);
            return None;
        }
    };
    if read.is_none() {
        walk.mistakes.tell(value.span(), "this number is not plain digits", "a number such as 62.50");
    }
    read
}

/// What a key says, or the default where it is not there.
pub(crate) fn or_default<T>(
    table: &DeTable,
    key: &str,
    default: T,
    read: impl FnOnce(&Value<'_>) -> Option<T>,
) -> Option<T> {
    table.get(key).map_or(Some(default), read)
}

impl DateSource {
    /// As headers have it.
    pub(crate) fn said(&self) -> String {
        match self {
            Self::AsOf => AS_OF.to_owned(),
            Self::Date(date) => date.to_string(),
            Self::Column(name) => name.clone(),
        }
    }
}

impl DateInput {
    /// A date of every row.
    pub(crate) fn every(date: Date) -> Self {
        Self::Every(AsOfDate { date, at: None })
    }

    /// The column that it is, if it is one.
    pub(crate) fn column(self) -> Option<usize> {
        match self {
            Self::Column(column) => Some(column),
            Self::Every(_) => None,
        }
    }
}

impl NumberInput {
    /// The column that it is, if it is one.
    pub(crate) fn column(self) -> Option<usize> {
        match self {
            Self::Column(column) => Some(column),
            Self::Number(_) => None,
        }
    }
}

/// What represents the as-of date in names of files, titles and texts.
pub(crate) const AS_OF_FIELD: &str = "{as_of}";

/// A text for people with the as-of date in its place, and its time where it has one.
pub(crate) fn filled_in_text(text: &str, as_of: Option<AsOfDate>) -> String {
    as_of.map_or_else(|| text.to_owned(), |as_of| text.replace(AS_OF_FIELD, &as_of.to_string()))
}

/// A name of a file with the as-of date in its place, without a time: not every system has files with a colon in their names.
pub(crate) fn filled_in(name: &str, as_of: Option<AsOfDate>) -> String {
    as_of.map_or_else(|| name.to_owned(), |as_of| name.replace(AS_OF_FIELD, &as_of.date.to_string()))
}
