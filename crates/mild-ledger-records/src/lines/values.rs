//! Values of a plan from the words of a line, and what the line names in them.

use super::words::Words;
use mild_ledger::{Date, Decimal};
use std::borrow::Cow;
use std::ops::Range;
use toml::Spanned;
use toml::de::{DeArray, DeString, DeTable, DeValue};

/// How a line uses a column of the file.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum UsedAs {
    /// As whatever it holds.
    Anything,
    /// As what has an order, numbers or dates, whichever it holds.
    Ordered,
    /// As numbers.
    Numbers,
    /// As dates.
    Dates,
}

/// A column that a line names.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct UsedColumn {
    /// Its header.
    pub name: String,
    /// What the line takes it for.
    pub used_as: UsedAs,
}

/// What is wrong in a slot.
#[derive(Debug)]
pub(super) struct SlotMistake {
    pub(super) bytes: Range<usize>,
    pub(super) what: String,
    pub(super) expected: String,
    pub(super) help: Option<String>,
}

pub(super) const AS_OF: &str = "as-of";

const COLUMN: &str = "column";

pub(super) fn text_of(text: &str) -> DeValue<'_> {
    DeValue::String(Cow::Borrowed(text))
}

pub(super) fn key<'t>(word: &'t str, place: &Range<usize>) -> Spanned<DeString<'t>> {
    Spanned::new(place.clone(), Cow::Borrowed(word))
}

/// A number in the form of TOML, where the text is one.
pub(super) fn number_of(text: &str) -> Option<DeValue<'_>> {
    let value = DeValue::parse(text.strip_prefix('+').unwrap_or(text)).ok()?.into_inner();
    let is_plain = text.parse::<Decimal>().is_ok();
    (is_plain && (value.is_integer() || value.is_float())).then_some(value)
}

/// A date in the form of TOML, where the text is one.
pub(super) fn date_of(text: &str) -> Option<DeValue<'_>> {
    text.parse::<Date>().ok()?;
    DeValue::parse(text).ok().map(Spanned::into_inner).filter(DeValue::is_datetime)
}

/// The name after the word `column`.
pub(super) fn column_of<'t, 'w>(words: Words<'t, 'w>) -> Option<Words<'t, 'w>> {
    (words.len() > 1 && words.is(0, COLUMN)).then(|| words.part(1..words.len()))
}

/// `{ column = "…" }`.
pub(super) fn reference<'t>(column: Words<'t, '_>, place: &Range<usize>) -> DeValue<'t> {
    DeValue::Table(reference_table(column, place))
}

pub(super) fn reference_table<'t>(column: Words<'t, '_>, place: &Range<usize>) -> DeTable<'t> {
    let mut table = DeTable::new();
    table.insert(key(COLUMN, place), Spanned::new(place.clone(), text_of(column.name())));
    table
}

/// A list with one more value.
pub(super) fn with_one_more<'t>(
    list: Option<Spanned<DeValue<'t>>>,
    one: Spanned<DeValue<'t>>,
) -> Spanned<DeValue<'t>> {
    let (mut place, mut values) = match list {
        Some(list) => {
            let place = list.span();
            match list.into_inner() {
                DeValue::Array(values) => (place, values),
                other => {
                    let mut values = DeArray::new();
                    values.push(Spanned::new(place.clone(), other));
                    (place, values)
                }
            }
        }
        None => (one.span(), DeArray::new()),
    };
    place.end = place.end.max(one.span().end);
    values.push(one);
    Spanned::new(place, DeValue::Array(values))
}
