//! The one error type of the library.

use alloc::borrow::Cow;
use alloc::boxed::Box;
use alloc::format;
use alloc::string::String;
use core::fmt;

/// Says what could not be done, where, and what was allowed.
///
/// The facts are read through [`kind`](Error::kind), [`what`](Error::what), [`place`](Error::place) and
/// [`allowed`](Error::allowed); the text of the whole is in its `Display`.
///
/// ```
/// use mild_ledger::{Date, ErrorKind};
///
/// let error = Date::new(2026, 6, 31).unwrap_err();
/// assert_eq!(error.kind(), ErrorKind::NoSuchDay);
/// assert_eq!(error.to_string(), "there is no day 31 in 2026-06 (allowed: day 1 to 30)");
/// ```
#[derive(Clone, PartialEq, Eq)]
pub struct Error {
    facts: Box<Facts>,
}

#[derive(Clone, PartialEq, Eq)]
struct Facts {
    kind: ErrorKind,
    what: String,
    place: Option<String>,
    allowed: Cow<'static, str>,
}

/// The sort of thing that went wrong, for a program to branch on.
///
/// ```
/// use mild_ledger::{Date, ErrorKind};
///
/// assert_eq!(Date::new(10_000, 1, 1).unwrap_err().kind(), ErrorKind::OutOfRange);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum ErrorKind {
    /// A result or an input lies outside the years 0001 to 9999, or outside what a number here can hold.
    OutOfRange,
    /// Year and month exist, but not this day of them.
    NoSuchDay,
    /// A text is not of the form that was asked for.
    Unreadable,
    /// Values that must increase do not.
    NotInOrder,
    /// A calendar was asked for a day of a year that it does not cover.
    NotCovered,
    /// A working day was asked for where there is none.
    NoWorkingDay,
    /// Hours, minutes or seconds were asked of a date, which has none.
    NoTimeOfDay,
    /// An age or a tenure was asked for on a day before its start.
    NotBegun,
    /// A number was divided by zero.
    DivisionByZero,
    /// Columns that belong together have different numbers of rows.
    LengthsDiffer,
    /// A choice was made that does not go with the request.
    NotAllowed,
}

impl Error {
    /// An error of this kind: what could not be done, and what would have been allowed. Callers whose own checks are
    /// besides those of the library can answer as it does.
    ///
    /// ```
    /// use mild_ledger::{Error, ErrorKind};
    /// let error = Error::new(ErrorKind::Unreadable, "there is no calendar \"yrad\"", "yard");
    /// assert_eq!(error.to_string(), "there is no calendar \"yrad\" (allowed: yard)");
    /// ```
    #[must_use]
    pub fn new(kind: ErrorKind, what: impl Into<String>, allowed: impl Into<Cow<'static, str>>) -> Self {
        Self { facts: Box::new(Facts { kind, what: what.into(), place: None, allowed: allowed.into() }) }
    }

    /// The same error with the place where it arose, such as a file and line or a row and column.
    ///
    /// ```
    /// let error = mild_ledger::Date::new(2026, 6, 31).unwrap_err().at("row 12, column \"Issued\"");
    /// assert_eq!(error.place(), Some("row 12, column \"Issued\""));
    /// ```
    #[must_use]
    pub fn at(mut self, place: impl Into<String>) -> Self {
        self.facts.place = Some(place.into());
        self
    }

    /// The sort of error.
    ///
    /// ```
    /// use mild_ledger::{Date, ErrorKind};
    /// assert_eq!(Date::new(2026, 13, 1).unwrap_err().kind(), ErrorKind::OutOfRange);
    /// ```
    #[must_use]
    pub fn kind(&self) -> ErrorKind {
        self.facts.kind
    }

    /// What could not be done.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::new(2026, 13, 1).unwrap_err().what(), "there is no month 13");
    /// ```
    #[must_use]
    pub fn what(&self) -> &str {
        &self.facts.what
    }

    /// Where it arose, if that is known.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::new(2026, 13, 1).unwrap_err().place(), None);
    /// ```
    #[must_use]
    pub fn place(&self) -> Option<&str> {
        self.facts.place.as_deref()
    }

    /// What would have been allowed.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::new(2026, 13, 1).unwrap_err().allowed(), "month 1 to 12");
    /// ```
    #[must_use]
    pub fn allowed(&self) -> &str {
        &self.facts.allowed
    }
}

impl ErrorKind {
    /// The words for it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ErrorKind::NoSuchDay.word(), "no such day");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::OutOfRange => "out of range",
            Self::NoSuchDay => "no such day",
            Self::Unreadable => "unreadable",
            Self::NotInOrder => "not in order",
            Self::NotCovered => "not covered",
            Self::NoWorkingDay => "no working day",
            Self::NoTimeOfDay => "no time of day",
            Self::NotBegun => "not begun",
            Self::DivisionByZero => "division by zero",
            Self::LengthsDiffer => "lengths differ",
            Self::NotAllowed => "not allowed",
        }
    }
}

/// Writes its words.
impl fmt::Display for ErrorKind {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.word())
    }
}

impl fmt::Display for Error {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if let Some(place) = &self.facts.place {
            write!(f, "{place}: ")?;
        }
        write!(f, "{} (allowed: {})", self.facts.what, self.facts.allowed)
    }
}

impl fmt::Debug for Error {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "Error({:?}: {self})", self.facts.kind)
    }
}

impl core::error::Error for Error {}

/// A text in quotes for a message: control characters escaped, cut where it is long.
pub(crate) fn quoted(text: &str) -> String {
    const LONGEST: usize = 60;
    let mut shown: String = text.chars().take(LONGEST).flat_map(char::escape_debug).collect();
    if text.chars().nth(LONGEST).is_some() {
        shown.push('…');
    }
    format!("\"{shown}\"")
}
