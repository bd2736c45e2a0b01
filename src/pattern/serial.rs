//! Dates as numbers: serial numbers of spreadsheets, and seconds since 1970.

use super::fault::Fault;
use crate::choice::chosen_by_word;
use crate::date::{ClockTime, Date, DateTime};

/// A way to number days, as spreadsheets do.
///
/// ```
/// use mild_ledger::SerialSystem;
/// // The day that these numbers count and that never was.
/// assert!(SerialSystem::From1900.date_of(60).is_err());
/// assert_eq!(SerialSystem::From1900.date_of(46_295)?.to_string(), "2026-09-30");
/// assert_eq!(SerialSystem::From1904.date_of(44_833)?.to_string(), "2026-09-30");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum SerialSystem {
    /// 1 is 1900-01-01, 60 is not a day (a 29 February that 1900 did not have), 61 is 1900-03-01.
    From1900,
    /// 0 is 1904-01-01.
    From1904,
    /// 0 is 1899-12-30, and every number is a day.
    From1899,
}

impl SerialSystem {
    /// All three.
    pub const ALL: [Self; 3] = [Self::From1900, Self::From1904, Self::From1899];

    /// The words for it as a pattern.
    ///
    /// ```
    /// assert_eq!(mild_ledger::SerialSystem::From1904.word(), "serial 1904");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::From1900 => "serial 1900",
            Self::From1904 => "serial 1904",
            Self::From1899 => "serial 1899-12-30",
        }
    }

    /// The date that a number represents.
    ///
    /// # Errors
    /// [`ErrorKind::NoSuchDay`](crate::ErrorKind::NoSuchDay) for 0 and 60 in the 1900 system,
    /// [`ErrorKind::OutOfRange`](crate::ErrorKind::OutOfRange) for negative numbers and those beyond the year 9999.
    ///
    /// ```
    /// use mild_ledger::SerialSystem;
    /// assert_eq!(SerialSystem::From1900.date_of(59)?.to_string(), "1900-02-28");
    /// assert_eq!(SerialSystem::From1900.date_of(61)?.to_string(), "1900-03-01");
    /// assert_eq!(SerialSystem::From1899.date_of(60)?.to_string(), "1900-02-28");
    /// assert!(SerialSystem::From1904.date_of(-1).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn date_of(self, number: i64) -> Result<Date, crate::Error> {
        self.day_of(number)
            .map_err(|fault| fault.into_error(&alloc::string::ToString::to_string(&number), self.word()))
    }

    pub(super) fn day_of(self, number: i64) -> Result<Date, Fault> {
        /// Day numbers of 1899-12-30, 1899-12-31 and 1904-01-01.
        const BEFORE: [i64; 3] = [-25_569, -25_568, -24_107];
        let start = match (self, number) {
            (_, i64::MIN..0) => return Err(Fault::OutOfYears),
            (Self::From1900, 0 | 60) => return Err(Fault::NoSerialDay),
            (Self::From1900, 1..60) => BEFORE[1],
            (Self::From1904, _) => BEFORE[2],
            _ => BEFORE[0],
        };
        start.checked_add(number).and_then(Date::in_range).ok_or(Fault::OutOfYears)
    }
}

chosen_by_word!(SerialSystem, "a system of serial numbers");

/// The day and the time of a serial number with a fraction, which is rounded to the second within its day; a day number of its own, since
/// not each of them is a day.
pub(super) fn serial_of(text: &str) -> Result<(i64, ClockTime), Fault> {
    let (whole, fraction) = text.split_once('.').unwrap_or((text, "0"));
    let number = digits(whole)?;
    digits(fraction)?;
    // As many digits as distinguish seconds by far.
    let digit = |nth: usize| fraction.as_bytes().get(nth).map_or(0, |sign| i64::from(sign - b'0'));
    const PARTS: i64 = 1_000_000_000_000;
    let parts = (0..12).fold(0, |sum, nth| sum * 10 + digit(nth));
    // A number that arithmetic in binary left below a whole day is that day: ten microseconds, less than fifteen digits distinguish.
    const NOISE: i64 = 116;
    if parts >= PARTS - NOISE {
        return Ok((number + 1, ClockTime::MIDNIGHT));
    }
    // The last half second of a day rounds to its last second, so that rounding a time never changes the day.
    let seconds = ((parts * 86_400 + PARTS / 2) / PARTS).min(86_399);
    Ok((number, ClockTime::of_known(seconds * 1_000_000)))
}

/// A number of nothing but digits, few enough to be a day.
fn digits(text: &str) -> Result<i64, Fault> {
    if text.is_empty() || !text.bytes().all(|sign| sign.is_ascii_digit()) {
        return Err(Fault::Shape);
    }
    match text.len() {
        1..=15 => Ok(text.bytes().fold(0, |sum, sign| sum * 10 + i64::from(sign - b'0'))),
        _ => Ok(999_999_999_999_999),
    }
}

/// The instant, in UTC, so many of a unit of time after the beginning of 1970; the unit is given in microseconds.
pub(super) fn since_1970(text: &str, unit: i64) -> Result<DateTime, Fault> {
    let (negative, digits_of) = match text.strip_prefix('-') {
        Some(rest) => (true, rest),
        None => (false, text),
    };
    let (whole, fraction) = digits_of.split_once('.').unwrap_or((digits_of, "0"));
    let count = digits(whole)?;
    digits(fraction)?;
    let digit = |nth: usize| fraction.as_bytes().get(nth).map_or(0, |sign| i64::from(sign - b'0'));
    let parts = (0..6).fold(0, |sum, nth| sum * 10 + digit(nth));
    let microseconds = count.checked_mul(unit).ok_or(Fault::OutOfYears)?;
    let microseconds = microseconds.checked_add(parts * unit / 1_000_000).ok_or(Fault::OutOfYears)?;
    DateTime::from_microseconds(if negative { -microseconds } else { microseconds })
        .map_err(|_| Fault::OutOfYears)
}
