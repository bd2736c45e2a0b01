//! Dates read, and written, by a pattern that a user named.

mod candidates;
mod days_seen;
mod evidence;
mod fault;
mod filler;
mod language;
mod names;
mod read;
mod serial;
mod settings;
mod shapes;
mod text;
mod usual_form;
mod verdict;
mod write;
mod written;

use crate::date::clock_time::ClockText;
use crate::date::{ClockTime, Date, DateTime, FinerDigits, ZoneText};
use crate::error::Error;
use alloc::borrow::ToOwned;
use alloc::string::String;
use alloc::vec::Vec;
pub use days_seen::DaysSeen;
pub use evidence::{DateEvidence, FillersMet};
use fault::Fault;
pub use filler::Filler;
pub use language::Language;
pub use serial::SerialSystem;
pub use settings::{PatternSettings, PeriodDay};
pub use verdict::{BothWays, PatternReadings, PatternVerdict};
pub use write::WritingPattern;
pub use written::WrittenDates;

pub(crate) use usual_form::UsualForm;

/// How the dates of a column are written.
///
/// Made from words (`day/month/year`, `day month-name year`, `year-month-day`), from POSIX `strftime` letters
/// (`%d/%m/%Y`), or from `iso` for the forms of ISO 8601. A year has exactly four digits, a day and a month
/// one or two, names of months and weekdays are English, in full or short, in any case; the whole text must match, and a space
/// represents one space or several of any width. What else there is (other languages, years of two digits, periods without a
/// day, numbers of days) is set with [`with_settings`](Self::with_settings).
///
/// A time of day after the date (`14:30`, `14:30:05`, `2:30 PM`) is read and dropped, and the [`Reading`] states that.
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
    settings: PatternSettings,
    source: String,
}

#[derive(Debug, Clone, PartialEq, Eq)]
enum Form {
    Iso,
    Pieces(Vec<Piece>),
    Serial(SerialSystem),
    /// So many microseconds each, in UTC.
    Since1970 {
        unit: i64,
    },
}

/// One part of a pattern, in the order of the text.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Piece {
    Day(Digits),
    Month(Digits),
    MonthName,
    WeekdayName,
    Quarter,
    Year,
    ShortYear,
    Hour(Digits),
    Minute,
    Second,
    HalfDay,
    Literal(u8),
}

/// How many digits a number of a pattern has.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Digits {
    OneOrTwo,
    /// Where no character is between it and another number.
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
    /// A date, and what became of a time of day after it.
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

/// Whether a time of day was after a date.
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
/// use mild_ledger::{DatePattern, DateTimeReading, ZoneText};
/// let DateTimeReading::DateTime { zone, .. } =
///     DatePattern::iso().read_date_time("2026-09-30T23:30-02:30")? else { unreachable!() };
/// assert_eq!(zone, ZoneText::Offset { minutes: -150 });
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum DateTimeReading {
    /// A date and a time of day as they were written.
    DateTime {
        /// As written, in whatever zone that was.
        at: DateTime,
        /// Whether digits finer than a microsecond were dropped.
        finer: FinerDigits,
        /// The offset from UTC or the zone after the time. With one, another named zone is needed to say which day it was
        /// there.
        zone: ZoneText,
    },
    /// Nothing but spaces.
    Blank,
    /// A date that programs write where there is none; it counts as blank.
    Filler(Filler),
}

/// A text taken apart.
#[derive(Clone, Copy)]
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
        Self { form: Form::Iso, settings: PatternSettings::new(), source: "iso".to_owned() }
    }

    /// Its words or letters, without what is next to them.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, Language, PatternSettings};
    /// let german = PatternSettings::new().with_language(Language::German);
    /// let pattern = DatePattern::with_settings("day. month-name year", german)?;
    /// assert_eq!(pattern.words(), "day. month-name year");
    /// assert_eq!(pattern.to_string(), "day. month-name year (german)");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn words(&self) -> &str {
        &self.source
    }

    /// What is next to its words.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, PatternSettings};
    /// assert_eq!(DatePattern::iso().settings(), PatternSettings::new());
    /// ```
    #[must_use]
    pub fn settings(&self) -> PatternSettings {
        self.settings
    }

    /// Whether a piece is in it.
    fn has(&self, wanted: impl Fn(&Piece) -> bool) -> bool {
        matches!(&self.form, Form::Pieces(pieces) if pieces.iter().any(wanted))
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
    /// Those of [`read`](Self::read), but for an offset or a zone, which is given with the reading.
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
        self.parts_of(text).map(|read| read.with_usual_fillers().into_date_time())
    }

    /// [`read`](Self::read) of a trimmed text, without the words of an error, for loops over columns.
    pub(crate) fn reading_of(&self, text: &str) -> Result<Reading, Fault> {
        self.parts_of(text)?.with_usual_fillers().into_reading()
    }

    /// A text taken apart, with dates that represent none still among them.
    fn parts_of(&self, text: &str) -> Result<Read, Fault> {
        if text.is_empty() {
            return Ok(Read::Blank);
        }
        let (parts, time, weekday) = match &self.form {
            Form::Iso => {
                let (parts, time) = read::iso(text)?;
                (parts, time, None)
            }
            Form::Pieces(pieces) => {
                let read::PiecesRead { parts, time, weekday } =
                    read::pieces(pieces, self.settings, text.as_bytes())?;
                (parts, time, weekday)
            }
            Form::Serial(system) => return serial_read(*system, text),
            Form::Since1970 { unit } => {
                let at = serial::since_1970(text, *unit)?;
                let utc = ClockText {
                    time: at.time(),
                    finer: FinerDigits::Absent,
                    zone: ZoneText::Offset { minutes: 0 },
                };
                (read::Parts::Known(at.date()), Some(utc), None)
            }
        };
        let date = match parts {
            read::Parts::Known(date) => date,
            read::Parts::Civil { year: 1900, month: 1, day: 0 } => {
                return Ok(Read::Filler(Filler::NoDayOf1900));
            }
            read::Parts::Civil { year, month, day } => fault::date_of(year, month, day)?,
        };
        if weekday.is_some_and(|weekday| weekday != date.weekday()) {
            return Err(Fault::OtherWeekday(date.weekday()));
        }
        Ok(Read::Day(date, time))
    }
}

/// A zero is not a date in any of the systems.
fn serial_read(system: SerialSystem, text: &str) -> Result<Read, Fault> {
    let (number, time) = serial::serial_of(text)?;
    Ok(match (system, number) {
        (SerialSystem::From1900, 0) => Read::Filler(Filler::NoDayOf1900),
        (SerialSystem::From1904, 0) => Read::Filler(Filler::SerialZero),
        _ => {
            let clock = ClockText { time, finer: FinerDigits::Absent, zone: ZoneText::Absent };
            Read::Day(system.day_of(number)?, Some(clock))
        }
    })
}

impl Read {
    /// A date that represents none as what it is.
    fn with_usual_fillers(self) -> Self {
        match self {
            Self::Day(date, _) => match Filler::of(date) {
                Some(filler) if filler.counts_as_blank() => Self::Filler(filler),
                _ => self,
            },
            other => other,
        }
    }

    fn into_date_time(self) -> DateTimeReading {
        match self {
            Self::Blank => DateTimeReading::Blank,
            Self::Filler(filler) => DateTimeReading::Filler(filler),
            Self::Day(date, None) => DateTimeReading::DateTime {
                at: DateTime::new(date, ClockTime::MIDNIGHT),
                finer: FinerDigits::Absent,
                zone: ZoneText::Absent,
            },
            Self::Day(date, Some(clock)) => DateTimeReading::DateTime {
                at: DateTime::new(date, clock.time),
                finer: clock.finer,
                zone: clock.zone,
            },
        }
    }

    fn into_reading(self) -> Result<Reading, Fault> {
        Ok(match self {
            Self::Blank => Reading::Blank,
            Self::Filler(filler) => Reading::Filler(filler),
            Self::Day(date, None) => Reading::Date { date, time: TimeOfDay::Absent },
            Self::Day(
                date,
                Some(ClockText {
                    time: ClockTime::MIDNIGHT,
                    finer: FinerDigits::Absent,
                    zone: ZoneText::Absent,
                }),
            ) => Reading::Date { date, time: TimeOfDay::Midnight },
            Self::Day(_, Some(ClockText { zone, .. })) if zone != ZoneText::Absent => {
                return Err(Fault::OtherZone);
            }
            Self::Day(date, Some(_)) => Reading::Date { date, time: TimeOfDay::Dropped },
        })
    }
}
