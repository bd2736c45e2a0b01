//! How the dates of a column are written: patterns in order, texts for a blank, and dates that represent none.

use super::fault::Fault;
use super::{DatePattern, DateTimeReading, Filler, Read, Reading, UsualForm};
use crate::date::Date;
use crate::error::Error;
use alloc::string::{String, ToString};
use alloc::vec;
use alloc::vec::Vec;
use core::fmt;

/// How the dates of a column are written: by one pattern or by several, tried in their order, with texts that mean a blank, and
/// with the dates that are fillers there.
///
/// A text that two of the patterns read as different dates is refused.
///
/// ```
/// use mild_ledger::{DatePattern, Filler, Reading, WrittenDates};
///
/// let dates = WrittenDates::by(DatePattern::iso())
///     .or("day/month/year".parse()?)
///     .with_blank("n/a")
///     .with_filler("1950-01-01".parse()?)
///     .without_filler("9999-12-31".parse()?);
/// assert!(dates.reads("2026-09-30") && dates.reads("30/09/2026") && dates.reads("31/12/9999"));
/// assert_eq!(dates.read("N/A")?, Reading::Blank);
/// assert_eq!(dates.read("1950-01-01")?, Reading::Filler(Filler::Named("1950-01-01".parse()?)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WrittenDates {
    patterns: Vec<DatePattern>,
    blanks: Vec<String>,
    fillers: Vec<Date>,
    no_fillers: Vec<Date>,
}

impl From<DatePattern> for WrittenDates {
    fn from(pattern: DatePattern) -> Self {
        Self::by(pattern)
    }
}

impl WrittenDates {
    /// Dates written by this pattern.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, WrittenDates};
    /// assert_eq!(WrittenDates::by(DatePattern::iso()).to_string(), "iso");
    /// ```
    #[must_use]
    pub fn by(pattern: DatePattern) -> Self {
        Self { patterns: vec![pattern], blanks: Vec::new(), fillers: Vec::new(), no_fillers: Vec::new() }
    }

    /// Where the patterns so far do not read a text, by this one.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, WrittenDates};
    /// let both = WrittenDates::by("day/month/year".parse()?).or("month/day/year".parse()?);
    /// assert_eq!(both.to_string(), "day/month/year or month/day/year");
    /// assert!(both.reads("30/09/2026") && both.reads("09/30/2026"));
    /// let error = both.read("01/02/2026").unwrap_err();
    /// assert_eq!(error.what(), "\"01/02/2026\": one pattern reads it as 2026-02-01, another as 2026-01-02");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn or(mut self, pattern: DatePattern) -> Self {
        self.patterns.push(pattern);
        self
    }

    /// A text that means a blank, in any case.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, Reading, WrittenDates};
    /// assert_eq!(WrittenDates::by(DatePattern::iso()).with_blank("-").read(" - ")?, Reading::Blank);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_blank(mut self, text: &str) -> Self {
        self.blanks.push(text.trim().to_string());
        self
    }

    /// A date that represents none here.
    ///
    /// ```
    /// use mild_ledger::{Date, DatePattern, Reading, WrittenDates};
    /// let dates = WrittenDates::by(DatePattern::iso()).with_filler(Date::new(2099, 1, 1)?);
    /// assert!(matches!(dates.read("2099-01-01")?, Reading::Filler(_)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_filler(mut self, date: Date) -> Self {
        self.fillers.push(date);
        self
    }

    /// A date that is a true one here, though it is often a filler.
    ///
    /// ```
    /// use mild_ledger::{Date, DatePattern, WrittenDates};
    /// let dates = WrittenDates::by(DatePattern::iso()).without_filler(Date::MAX);
    /// assert!(dates.reads("9999-12-31"));
    /// ```
    #[must_use]
    pub fn without_filler(mut self, date: Date) -> Self {
        self.no_fillers.push(date);
        self
    }

    /// The same column with its dates written by ISO 8601: fillers and texts for blanks stay as they are.
    ///
    /// ```
    /// use mild_ledger::{Date, WrittenDates};
    /// let pattern: mild_ledger::DatePattern = "day/month/year".parse()?;
    /// let dates = WrittenDates::by(pattern).without_filler(Date::MAX).as_iso();
    /// assert!(dates.reads("9999-12-31") && !dates.reads("31/12/9999"));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn as_iso(&self) -> Self {
        Self { patterns: vec![DatePattern::iso()], ..self.clone() }
    }

    /// The patterns, in the order in which they are tried.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, WrittenDates};
    /// assert_eq!(WrittenDates::by(DatePattern::iso()).patterns(), [DatePattern::iso()]);
    /// ```
    #[must_use]
    pub fn patterns(&self) -> &[DatePattern] {
        &self.patterns
    }

    /// Whether a date was named as a true one, though it is often a filler.
    ///
    /// ```
    /// use mild_ledger::{Date, DatePattern, WrittenDates};
    /// let dates = WrittenDates::by(DatePattern::iso()).without_filler(Date::MAX);
    /// assert!(dates.keeps(Date::MAX) && !dates.keeps(Date::MIN));
    /// ```
    #[must_use]
    pub fn keeps(&self, date: Date) -> bool {
        self.no_fillers.contains(&date)
    }

    /// What a date that was read may be for, though it was taken as a date: 1900-01-01 and 1970-01-01, unless they
    /// are true ones here.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, Filler, WrittenDates};
    /// let dates = WrittenDates::by(DatePattern::iso());
    /// assert_eq!(dates.doubt_of("1970-01-01".parse()?), Some(Filler::ClockZero));
    /// assert_eq!(dates.doubt_of("2026-09-30".parse()?), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn doubt_of(&self, date: Date) -> Option<Filler> {
        Filler::of(date).filter(|_| !self.keeps(date))
    }

    /// Reads one text. Spaces around it do not count.
    ///
    /// # Errors
    /// Those of [`DatePattern::read`], of the pattern that read the most of it;
    /// [`ErrorKind::Unreadable`](crate::ErrorKind::Unreadable) where two patterns read different dates.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, WrittenDates};
    /// let dates = WrittenDates::by("day/month/year".parse()?).or(DatePattern::iso());
    /// assert_eq!(dates.read("2026-06-31").unwrap_err().what(), "\"2026-06-31\": there is no day 31 in 2026-06");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn read(&self, text: &str) -> Result<Reading, Error> {
        let trimmed = text.trim();
        self.reading_of(trimmed).map_err(|fault| fault.into_error(trimmed, &self.to_string()))
    }

    /// Reads one text as a date with its time of day; a date without one begins at midnight.
    ///
    /// # Errors
    /// Those of [`read`](Self::read), but for an offset or a zone, which is given with the reading.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, DateTimeReading, WrittenDates};
    /// let dates = WrittenDates::by(DatePattern::iso());
    /// let DateTimeReading::DateTime { at, .. } = dates.read_date_time("2026-09-30 2:30 PM")? else { unreachable!() };
    /// assert_eq!(at, "2026-09-30T14:30".parse()?);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn read_date_time(&self, text: &str) -> Result<DateTimeReading, Error> {
        let trimmed = text.trim();
        let read = self.parts_of(trimmed).map(Read::into_date_time);
        read.map_err(|fault| fault.into_error(trimmed, &self.to_string()))
    }

    /// Whether it reads a text as a date, blanks and fillers left out.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, WrittenDates};
    /// assert!(!WrittenDates::by(DatePattern::iso()).reads(""));
    /// ```
    #[must_use]
    pub fn reads(&self, text: &str) -> bool {
        matches!(self.reading_of(text.trim()), Ok(Reading::Date { .. }))
    }

    /// The usual form of its dates, where they are written by one pattern of numbers and no text of that form can mean a blank.
    pub(crate) fn usual_form(&self) -> Option<UsualForm> {
        match self.patterns.as_slice() {
            [pattern] if self.blanks.is_empty() => UsualForm::of(pattern),
            _ => None,
        }
    }

    /// Whether a date is one whatever else is stated of the column: it is not a filler, and cannot be one.
    pub(crate) fn is_plain(&self, date: Date) -> bool {
        Filler::of(date).is_none() && !self.fillers.contains(&date)
    }

    /// [`read`](Self::read) of a trimmed text, without the words of an error, for loops over columns.
    pub(crate) fn reading_of(&self, text: &str) -> Result<Reading, Fault> {
        self.parts_of(text)?.into_reading()
    }

    fn parts_of(&self, text: &str) -> Result<Read, Fault> {
        if self.blanks.iter().any(|blank| is_same(blank, text)) {
            return Ok(Read::Blank);
        }
        let mut read: Result<Read, Fault> = Err(Fault::Shape);
        for pattern in &self.patterns {
            match (pattern.parts_of(text), &read) {
                (Ok(new), Err(_)) => read = Ok(new),
                (Ok(Read::Day(new, _)), Ok(Read::Day(before, _))) if new != *before => {
                    return Err(Fault::TwoWays(*before, new));
                }
                (Err(new), Err(before)) if new.reach() > before.reach() => read = Err(new),
                _ => {}
            }
        }
        Ok(match read? {
            Read::Day(date, time) => match Filler::of(date) {
                _ if self.keeps(date) => Read::Day(date, time),
                _ if self.fillers.contains(&date) => Read::Filler(Filler::Named(date)),
                Some(filler) if filler.counts_as_blank() => Read::Filler(filler),
                _ => Read::Day(date, time),
            },
            Read::Filler(Filler::SerialZero) => match crate::date::Date::new(1904, 1, 1) {
                Ok(zero) if self.keeps(zero) => Read::Day(zero, None),
                _ => Read::Filler(Filler::SerialZero),
            },
            other => other,
        })
    }
}

/// Whether two texts are the same but for the case of their letters.
fn is_same(one: &str, other: &str) -> bool {
    one.eq_ignore_ascii_case(other) || (!one.is_ascii() && one.to_lowercase() == other.to_lowercase())
}

/// Writes the patterns in their order.
impl fmt::Display for WrittenDates {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let patterns: Vec<String> = self.patterns.iter().map(DatePattern::to_string).collect();
        f.pad(&patterns.join(" or "))
    }
}
