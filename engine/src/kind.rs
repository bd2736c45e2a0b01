//! What a function is called, what it takes, and what constants make of it.

use crate::literals::Literals;
use arrow::datatypes::DataType;
use datafusion::error::{DataFusionError, Result};
use std::fmt::{self, Debug, Formatter};

/// A function, of which constants among its arguments make a `P`.
pub(crate) struct Kind<P> {
    pub(crate) name: &'static str,
    /// What it gives, as the page of functions says it.
    pub(crate) says: &'static str,
    pub(crate) takes: &'static [Takes],
    /// What its arguments are called, in their order.
    pub(crate) called: &'static [&'static str],
    pub(crate) plan: fn(&Literals<'_>) -> Result<P>,
}

/// What an argument is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Takes {
    /// A column of dates, or one date.
    Date,
    /// A column of whole numbers, or one.
    Figure,
    /// A column of decimals or whole numbers.
    Exact,
    /// A constant text.
    Word,
    /// A constant number, or the text of one.
    Number,
    /// A constant text that may be left out, with all after it.
    MayWord,
    /// A constant whole number that may be left out, with all after it.
    MayNumber,
}

impl Takes {
    pub(crate) fn is_needed(self) -> bool {
        !matches!(self, Self::MayWord | Self::MayNumber)
    }

    pub(crate) fn is_column(self) -> bool {
        matches!(self, Self::Date | Self::Figure | Self::Exact)
    }

    fn said(self) -> &'static str {
        match self {
            Self::Date => "a date",
            Self::Figure => "a whole number",
            Self::Exact => "a decimal or a whole number, which are exact",
            Self::Word | Self::MayWord => "a constant text",
            Self::Number => "a constant number",
            Self::MayNumber => "a constant whole number",
        }
    }

    /// What an argument of a type is taken as; `None` where it cannot be.
    fn of(self, given: &DataType) -> Option<DataType> {
        match self {
            Self::Date => match given {
                DataType::Date32
                | DataType::Date64
                | DataType::Timestamp(..)
                | DataType::Utf8
                | DataType::LargeUtf8
                | DataType::Utf8View
                | DataType::Null => Some(DataType::Date32),
                _ => None,
            },
            Self::Figure => (given.is_integer() || given.is_null()).then_some(DataType::Int32),
            Self::Exact => match given {
                DataType::Decimal32(digits, scale)
                | DataType::Decimal64(digits, scale)
                | DataType::Decimal128(digits, scale)
                    if *scale >= 0 =>
                {
                    Some(DataType::Decimal128(*digits, *scale))
                }
                whole if whole.is_integer() || whole.is_null() => Some(DataType::Decimal128(20, 0)),
                _ => None,
            },
            // Constants are looked at as they are.
            Self::Word | Self::MayWord => given.is_string().then(|| given.clone()),
            Self::Number => (given.is_numeric() || given.is_string()).then(|| given.clone()),
            Self::MayNumber => given.is_integer().then(|| given.clone()),
        }
    }
}

impl<P> Debug for Kind<P> {
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str(self.name)
    }
}

impl<P> Kind<P> {
    /// Its arguments by their names; in brackets those that may be left out.
    pub(crate) fn arguments(&self) -> String {
        let named = self.called.iter().zip(self.takes).map(|(called, takes)| match takes.is_needed() {
            true => (*called).to_owned(),
            false => format!("[{called}]"),
        });
        named.collect::<Vec<_>>().join(", ")
    }

    /// What is wrong with a call of it.
    pub(crate) fn wrong(&self, what: &str) -> DataFusionError {
        DataFusionError::Plan(format!("{}({}): {what}", self.name, self.arguments()))
    }

    /// What arguments of some types are taken as, or what is wrong with them.
    pub(crate) fn taken(&self, given: &[DataType]) -> std::result::Result<Vec<DataType>, String> {
        let needed = self.takes.iter().filter(|takes| takes.is_needed()).count();
        if !(needed..=self.takes.len()).contains(&given.len()) {
            return Err(format!("{} arguments are given", given.len()));
        }
        let taken = given.iter().zip(self.takes).enumerate().map(|(nth, (given, takes))| {
            takes.of(given).ok_or_else(|| format!("argument {} is {given}, not {}", nth + 1, takes.said()))
        });
        taken.collect()
    }
}
