//! Dates read by a pattern that somebody named.

mod fault;
mod filler;
mod read;
mod text;

use crate::date::Date;
use crate::error::Error;
use fault::Fault;
pub use filler::Filler;

/// How the dates of a column are written.
///
/// Made from words (`day/month/year`, `day month-name year`, `year-month-day`), from POSIX `strftime` letters
/// (`%d/%m/%Y`), or from `iso` for the forms of ISO 8601. A year has exactly four digits, a day and a month
/// one or two, month names are English, in full or by three letters, in any case; the whole text must match.
///
/// A time of day behind the date (`14:30`, `14:30:05`) is read and dropped, and the [`Reading`] says so.
///
/// ```
/// use mild_ledger::{Date, DatePattern, Reading, TimeOfDay};
///
/// let pattern: DatePattern = "day month-name year".parse()?;
/// let date = Date::new(2026, 9, 30)?;
/// assert_eq!(pattern.read(" 30 Sep 2026 ")?, Reading::Date { date, time: TimeOfDay::Absent });
/// assert_eq!(pattern.read("30 september 2026 14:30")?, Reading::Date { date, time: TimeOfDay::Dropped });
/// assert_eq!(pattern.read("  ")?, Reading::Blank);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct DatePattern {
    form: Form,
    source: String,
}

#[derive(Debug, Clone, PartialEq, Eq)]
enum Form {
    Iso,
    Pieces(Vec<Piece>),
}

/// One part of a pattern, in the order of the text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Piece {
    Day(Digits),
    Month(Digits),
    MonthName,
    Year,
    Hour(Digits),
    Minute,
    Second,
    Literal(u8),
}

/// How many digits a number of a pattern has.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Digits {
    OneOrTwo,
    /// Where no sign stands between it and another number.
    Two,
}

/// What a text turned out to be.
///
/// ```
/// use mild_ledger::{DatePattern, Filler, Reading};
/// let pattern: DatePattern = "day/month/year".parse()?;
/// assert_eq!(pattern.read("30/12/1899")?, Reading::Filler(Filler::SpreadsheetZero));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Reading {
    /// A date, and what became of a time of day behind it.
    Date {
        /// The date.
        date: Date,
        /// The time of day, as far as it matters once it is dropped.
        time: TimeOfDay,
    },
    /// Nothing but spaces.
    Blank,
    /// A date that programs write where there is none; it counts as blank.
    Filler(Filler),
}

/// Whether a time of day stood behind a date.
///
/// ```
/// use mild_ledger::{DatePattern, Reading, TimeOfDay};
/// let reading = "iso".parse::<DatePattern>()?.read("2026-09-30T00:00")?;
/// assert!(matches!(reading, Reading::Date { time: TimeOfDay::Midnight, .. }));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum TimeOfDay {
    /// There was none.
    Absent,
    /// It was midnight, so nothing was lost.
    Midnight,
    /// It was another time, which was dropped.
    Dropped,
}

impl DatePattern {
    /// The pattern for calendar, week and ordinal dates of ISO 8601.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, Reading};
    /// assert!(matches!(DatePattern::iso().read("2026-W40-3")?, Reading::Date { .. }));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn iso() -> Self {
        Self { form: Form::Iso, source: "iso".to_owned() }
    }

    /// Reads one text. Spaces around it do not count.
    ///
    /// # Errors
    /// [`ErrorKind::NoSuchDay`](crate::ErrorKind::NoSuchDay) for a day its month lacks,
    /// [`ErrorKind::OutOfRange`](crate::ErrorKind::OutOfRange) for a year, month or time of day that does not
    /// exist, [`ErrorKind::Unreadable`](crate::ErrorKind::Unreadable) where the text is not of the pattern.
    ///
    /// ```
    /// use mild_ledger::DatePattern;
    /// let pattern: DatePattern = "day/month/year".parse()?;
    /// let error = pattern.read("31/06/2026").unwrap_err();
    /// assert_eq!(error.what(), "\"31/06/2026\": there is no day 31 in 2026-06");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn read(&self, text: &str) -> Result<Reading, Error> {
        let trimmed = text.trim();
        self.reading_of(trimmed).map_err(|fault| fault.into_error(trimmed, &self.source))
    }

    /// [`read`](Self::read) of a trimmed text, without the words of an error, for loops over columns.
    pub(crate) fn reading_of(&self, text: &str) -> Result<Reading, Fault> {
        if text.is_empty() {
            return Ok(Reading::Blank);
        }
        let (parts, time) = match &self.form {
            Form::Iso => read::iso(text)?,
            Form::Pieces(pieces) => read::pieces(pieces, text.as_bytes())?,
        };
        let date = match parts {
            read::Parts::Known(date) => date,
            read::Parts::Civil { year: 1900, month: 1, day: 0 } => {
                return Ok(Reading::Filler(Filler::NoDayOf1900));
            }
            read::Parts::Civil { year, month, day } => fault::date_of(year, month, day)?,
        };
        Ok(match Filler::of(date) {
            Some(filler) if filler.counts_as_blank() => Reading::Filler(filler),
            _ => Reading::Date { date, time },
        })
    }
}
