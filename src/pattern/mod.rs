//! Dates read by a pattern that somebody named.

mod fault;
mod filler;
mod read;
mod text;

use crate::date::clock_time::ClockText;
use crate::date::{ClockTime, Date, DateTime, FinerDigits};
use crate::error::Error;
use alloc::borrow::ToOwned;
use alloc::string::String;
use alloc::vec::Vec;
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
#[non_exhaustive]
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum TimeOfDay {
    /// There was none.
    Absent,
    /// It was midnight, so nothing was lost.
    Midnight,
    /// It was another time, which was dropped.
    Dropped,
}

/// What a text turned out to be when its time of day was wanted too.
///
/// ```
/// use mild_ledger::{DatePattern, DateTimeReading};
/// let DateTimeReading::DateTime { offset_minutes, .. } =
///     DatePattern::iso().read_date_time("2026-09-30T23:30-02:30")? else { unreachable!() };
/// assert_eq!(offset_minutes, Some(-150));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum DateTimeReading {
    /// A date and a time of day as they were written.
    DateTime {
        /// As written, before any offset is taken off.
        at: DateTime,
        /// Whether digits finer than a microsecond were dropped.
        finer: FinerDigits,
        /// The offset from UTC behind the time, in minutes; 0 for Z. With one, a named zone is needed to say which
        /// day it was.
        offset_minutes: Option<i16>,
    },
    /// Nothing but spaces.
    Blank,
    /// A date that programs write where there is none; it counts as blank.
    Filler(Filler),
}

/// A text taken apart.
enum Read {
    Day(Date, Option<ClockText>),
    Blank,
    Filler(Filler),
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

    /// Whether it reads a text as a date, blanks and placeholders left out: [`read`](Self::read) without the words of an
    /// error.
    ///
    /// ```
    /// use mild_ledger::DatePattern;
    /// let pattern: DatePattern = "day/month/year".parse()?;
    /// assert!(pattern.reads("30/09/2026") && !pattern.reads("09/30/2026") && !pattern.reads(""));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn reads(&self, text: &str) -> bool {
        matches!(self.reading_of(text.trim()), Ok(Reading::Date { .. }))
    }

    /// Reads one text as a date with its time of day; a date without one begins at midnight. Spaces around it do
    /// not count.
    ///
    /// # Errors
    /// Those of [`read`](Self::read), but for an offset, which is given with the reading.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, DateTimeReading};
    /// let pattern: DatePattern = "day/month/year hour:minute".parse()?;
    /// let DateTimeReading::DateTime { at, .. } = pattern.read_date_time("30/09/2026 14:30")? else { unreachable!() };
    /// assert_eq!(at, "2026-09-30T14:30".parse()?);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn read_date_time(&self, text: &str) -> Result<DateTimeReading, Error> {
        let trimmed = text.trim();
        self.date_time_of(trimmed).map_err(|fault| fault.into_error(trimmed, &self.source))
    }

    fn date_time_of(&self, text: &str) -> Result<DateTimeReading, Fault> {
        Ok(match self.parts_of(text)? {
            Read::Blank => DateTimeReading::Blank,
            Read::Filler(filler) => DateTimeReading::Filler(filler),
            Read::Day(date, None) => DateTimeReading::DateTime {
                at: DateTime::new(date, ClockTime::MIDNIGHT),
                finer: FinerDigits::Absent,
                offset_minutes: None,
            },
            Read::Day(date, Some(clock)) => DateTimeReading::DateTime {
                at: DateTime::new(date, clock.time),
                finer: clock.finer,
                offset_minutes: clock.offset_minutes,
            },
        })
    }

    /// [`read`](Self::read) of a trimmed text, without the words of an error, for loops over columns.
    pub(crate) fn reading_of(&self, text: &str) -> Result<Reading, Fault> {
        Ok(match self.parts_of(text)? {
            Read::Blank => Reading::Blank,
            Read::Filler(filler) => Reading::Filler(filler),
            Read::Day(_, Some(ClockText { offset_minutes: Some(_), .. })) => return Err(Fault::Offset),
            Read::Day(date, None) => Reading::Date { date, time: TimeOfDay::Absent },
            Read::Day(
                date,
                Some(ClockText { time: ClockTime::MIDNIGHT, finer: FinerDigits::Absent, .. }),
            ) => Reading::Date { date, time: TimeOfDay::Midnight },
            Read::Day(date, Some(_)) => Reading::Date { date, time: TimeOfDay::Dropped },
        })
    }

    fn parts_of(&self, text: &str) -> Result<Read, Fault> {
        if text.is_empty() {
            return Ok(Read::Blank);
        }
        let (parts, time) = match &self.form {
            Form::Iso => read::iso(text)?,
            Form::Pieces(pieces) => read::pieces(pieces, text.as_bytes())?,
        };
        let date = match parts {
            read::Parts::Known(date) => date,
            read::Parts::Civil { year: 1900, month: 1, day: 0 } => {
                return Ok(Read::Filler(Filler::NoDayOf1900));
            }
            read::Parts::Civil { year, month, day } => fault::date_of(year, month, day)?,
        };
        Ok(match Filler::of(date) {
            Some(filler) if filler.counts_as_blank() => Read::Filler(filler),
            _ => Read::Day(date, time),
        })
    }
}
