//! The constants among the arguments of a function: choices by their words, names, numbers.

use crate::calendars::Calendars;
use datafusion::common::ScalarValue;
use datafusion::error::{DataFusionError, Result};
use mild_ledger::{Decimal, WorkCalendar};
use std::str::FromStr;

/// The constants of a call, by their places; none where the argument is not a constant, or there is no such argument.
pub(crate) struct Literals<'l> {
    pub(crate) function: &'static str,
    pub(crate) all: Vec<Option<&'l ScalarValue>>,
    pub(crate) calendars: &'l Calendars,
}

impl Literals<'_> {
    /// What is wrong with an argument, and what was expected.
    fn wrong(&self, nth: usize, what: &str, expected: &str) -> DataFusionError {
        DataFusionError::Plan(format!("{}, argument {}: {what}; expected {expected}", self.function, nth + 1))
    }

    /// The text of an argument that must be there.
    fn text(&self, nth: usize, expected: &str) -> Result<&str> {
        let value = self.all.get(nth).copied().flatten();
        let text = value.and_then(|value| value.try_as_str().flatten());
        text.ok_or_else(|| self.wrong(nth, "it is not a constant text", expected))
    }

    /// A choice by its word.
    pub(crate) fn choice<T>(&self, nth: usize, expected: &str) -> Result<T>
    where
        T: FromStr<Err = mild_ledger::Error>,
    {
        let text = self.text(nth, expected)?;
        text.parse().map_err(|error: mild_ledger::Error| self.wrong(nth, error.what(), error.allowed()))
    }

    /// A choice by its word, or what holds where there is no such argument.
    pub(crate) fn choice_or<T>(&self, nth: usize, expected: &str, otherwise: T) -> Result<T>
    where
        T: FromStr<Err = mild_ledger::Error>,
    {
        if nth < self.all.len() { self.choice(nth, expected) } else { Ok(otherwise) }
    }

    /// A text read by a function of the library.
    pub(crate) fn read<T>(
        &self,
        nth: usize,
        expected: &str,
        read: impl FnOnce(&str) -> Result<T, String>,
    ) -> Result<T> {
        let text = self.text(nth, expected)?;
        read(text).map_err(|what| self.wrong(nth, &what, expected))
    }

    /// A whole number, or what holds where there is no such argument.
    pub(crate) fn number_or(&self, nth: usize, otherwise: i64) -> Result<i64> {
        if nth >= self.all.len() {
            return Ok(otherwise);
        }
        let number = match self.all.get(nth).copied().flatten() {
            Some(ScalarValue::Int64(number)) => *number,
            Some(ScalarValue::Int32(number)) => number.map(i64::from),
            Some(ScalarValue::UInt64(number)) => number.and_then(|number| i64::try_from(number).ok()),
            _ => None,
        };
        number.ok_or_else(|| self.wrong(nth, "it is not a constant whole number", "a number such as 2"))
    }

    /// A number that is allowed, as it is written or as a text.
    pub(crate) fn number<T>(
        &self,
        nth: usize,
        expected: &str,
        read: impl FnOnce(Decimal) -> Option<T>,
    ) -> Result<T> {
        let value = self.all.get(nth).copied().flatten().filter(|value| !value.is_null());
        let Some(value) = value else { return Err(self.wrong(nth, "it is not a constant number", expected)) };
        // A literal such as 99.9 is a binary fraction here; its shortest text is the one in the query.
        let text = value.to_string();
        let found = text.parse().ok().and_then(read);
        found.ok_or_else(|| self.wrong(nth, &format!("it is \"{}\"", text.escape_debug()), expected))
    }

    /// The decimals that a fraction is shown with.
    pub(crate) fn decimals(&self, nth: usize) -> Result<u8> {
        let number = self.number_or(nth, 4)?;
        let decimals = u8::try_from(number).ok().filter(|decimals| *decimals <= 18);
        decimals.ok_or_else(|| self.wrong(nth, &format!("{number} decimals are too many"), "0 to 18"))
    }

    /// What an argument says, where the library allows it.
    pub(crate) fn allowed<T>(&self, nth: usize, found: Result<T, mild_ledger::Error>) -> Result<T> {
        found.map_err(|error| self.wrong(nth, error.what(), error.allowed()))
    }

    /// A calendar by its name.
    pub(crate) fn calendar(&self, nth: usize) -> Result<WorkCalendar> {
        let name = self.text(nth, "a calendar's name")?;
        self.calendars
            .named(name)
            .map_err(|error| self.wrong(nth, &error.strip_backtrace(), "a calendar's name"))
    }
}
