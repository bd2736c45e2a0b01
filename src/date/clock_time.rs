//! The time of day, and its text.

use super::zone_text::{ClockFault, ZoneText, read_zone_text};
use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use core::fmt;
use core::str::FromStr;

/// Microseconds in a day of 24 hours.
pub(crate) const MICROSECONDS_IN_DAY: i64 = 86_400_000_000;

/// A time of day to the microsecond, from 00:00 up to and without 24:00, as a clock shows it.
///
/// ```
/// use mild_ledger::ClockTime;
///
/// let half_past_two = ClockTime::new(14, 30, 0)?;
/// assert_eq!(half_past_two.to_string(), "14:30:00");
/// assert_eq!("14:30".parse(), Ok(half_past_two));
/// assert!("14:30:05.25".parse::<ClockTime>()? > half_past_two);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct ClockTime {
    microseconds: i64,
}

impl ClockTime {
    /// 00:00, with which a day begins.
    pub const MIDNIGHT: Self = Self { microseconds: 0 };
    /// The last microsecond of a day.
    pub const LAST: Self = Self { microseconds: MICROSECONDS_IN_DAY - 1 };

    /// The time of an hour (0 to 23), a minute and a second (0 to 59).
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] outside these; leap seconds do not exist here.
    ///
    /// ```
    /// use mild_ledger::ClockTime;
    /// assert!(ClockTime::new(24, 0, 0).is_err() && ClockTime::new(23, 59, 60).is_err());
    /// ```
    pub fn new(hour: u8, minute: u8, second: u8) -> Result<Self, Error> {
        if hour > 23 || minute > 59 || second > 59 {
            return Err(no_such_time(format!("{hour:02}:{minute:02}:{second:02}")));
        }
        let seconds = i64::from(hour) * 3_600 + i64::from(minute) * 60 + i64::from(second);
        Ok(Self { microseconds: seconds * 1_000_000 })
    }

    /// The time so many microseconds (0 to 86,399,999,999) after midnight.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] outside these.
    ///
    /// ```
    /// use mild_ledger::ClockTime;
    /// assert_eq!(ClockTime::after_midnight(3_600_000_001)?.to_string(), "01:00:00.000001");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn after_midnight(microseconds: i64) -> Result<Self, Error> {
        if (0..MICROSECONDS_IN_DAY).contains(&microseconds) {
            return Ok(Self { microseconds });
        }
        Err(no_such_time(format!("{microseconds} microseconds after midnight")))
    }

    /// For callers inside the library whose microseconds are known to lie within a day.
    pub(crate) fn of_known(microseconds: i64) -> Self {
        Self { microseconds }
    }

    /// Microseconds since midnight.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockTime::MIDNIGHT.microseconds(), 0);
    /// ```
    #[must_use]
    pub fn microseconds(self) -> i64 {
        self.microseconds
    }

    /// The hour, 0 to 23.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockTime::LAST.hour(), 23);
    /// ```
    #[must_use]
    pub fn hour(self) -> u8 {
        (self.microseconds / 3_600_000_000) as u8
    }

    /// The minute of the hour, 0 to 59.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockTime::LAST.minute(), 59);
    /// ```
    #[must_use]
    pub fn minute(self) -> u8 {
        (self.microseconds / 60_000_000 % 60) as u8
    }

    /// The second of the minute, 0 to 59.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockTime::LAST.second(), 59);
    /// ```
    #[must_use]
    pub fn second(self) -> u8 {
        (self.microseconds / 1_000_000 % 60) as u8
    }

    /// The microsecond of the second, 0 to 999,999.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockTime::LAST.microsecond(), 999_999);
    /// ```
    #[must_use]
    pub fn microsecond(self) -> u32 {
        (self.microseconds % 1_000_000) as u32
    }
}

fn no_such_time(said: impl fmt::Display) -> Error {
    Error::new(ErrorKind::OutOfRange, format!("there is no time of day {said}"), "00:00 to 23:59:59.999999")
}

/// Writes hour, minute and second, and six digits of the microsecond where there is one (ISO 8601).
impl fmt::Display for ClockTime {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (hour, minute, second) = (self.hour(), self.minute(), self.second());
        match self.microsecond() {
            0 => f.pad(&format!("{hour:02}:{minute:02}:{second:02}")),
            part => f.pad(&format!("{hour:02}:{minute:02}:{second:02}.{part:06}")),
        }
    }
}

/// Reads `14:30`, `14:30:05` and `14:30:05.123456` (ISO 8601, extended form); finer digits are refused.
impl FromStr for ClockTime {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let unreadable = |why: &str| {
            let what = format!("{} is not a time of day{why}", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "a time such as 14:30, 14:30:05 or 14:30:05.123456")
        };
        match read_clock(text.as_bytes()) {
            Err(ClockFault::NoSuchTime) => Err(no_such_time(quoted(text))),
            Err(ClockFault::Shape) => Err(unreadable("")),
            Ok(ClockText { finer: FinerDigits::Dropped, .. }) => {
                Err(unreadable(": it is finer than a microsecond"))
            }
            Ok(ClockText { time, zone: ZoneText::Absent, .. }) => Ok(time),
            Ok(_) => Err(unreadable(": it has an offset")),
        }
    }
}

/// Whether digits finer than a microsecond were after a time.
///
/// ```
/// use mild_ledger::{DatePattern, FinerDigits};
/// let reading = DatePattern::iso().read_date_time("2026-09-30T14:30:05.1234567")?;
/// assert!(matches!(reading, mild_ledger::DateTimeReading::DateTime { finer: FinerDigits::Dropped, .. }));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum FinerDigits {
    /// There were none, or zeros only.
    Absent,
    /// There were, and they were dropped.
    Dropped,
}

/// A time of day as it was written, with what was after it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct ClockText {
    pub(crate) time: ClockTime,
    pub(crate) finer: FinerDigits,
    pub(crate) zone: ZoneText,
}

/// Reads hour and minute, perhaps a second with a fraction, perhaps an offset or a zone; the whole must match.
pub(crate) fn read_clock(text: &[u8]) -> Result<ClockText, ClockFault> {
    let (hour, rest) = match text {
        [tens @ b'0'..=b'9', ones @ b'0'..=b'9', rest @ ..] => ((tens - b'0') * 10 + ones - b'0', rest),
        [ones @ b'0'..=b'9', rest @ ..] => (ones - b'0', rest),
        _ => return Err(ClockFault::Shape),
    };
    let (minute, mut rest) = behind_colon(rest)?.ok_or(ClockFault::Shape)?;
    let (mut second, mut fraction, mut finer) = (0, 0, FinerDigits::Absent);
    if let Some((read, after)) = behind_colon(rest)? {
        (second, rest) = (read, after);
        if let [b'.' | b',', digits @ ..] = rest {
            let count = digits.iter().take_while(|sign| sign.is_ascii_digit()).count();
            if count == 0 {
                return Err(ClockFault::Shape);
            }
            let (digits, after) = digits.split_at(count);
            let digit = |nth: usize| digits.get(nth).map_or(0, |sign| i64::from(sign - b'0'));
            fraction = (0..6).fold(0, |sum, nth| sum * 10 + digit(nth));
            if digits.iter().skip(6).any(|sign| *sign != b'0') {
                finer = FinerDigits::Dropped;
            }
            rest = after;
        }
    }
    let zone = read_zone_text(rest)?;
    let time = ClockTime::new(hour, minute, second).map_err(|_| ClockFault::NoSuchTime)?;
    let time = ClockTime::of_known(time.microseconds + fraction);
    Ok(ClockText { time, finer, zone })
}

/// The two digits after a colon, if one follows, and what comes after them.
fn behind_colon(text: &[u8]) -> Result<Option<(u8, &[u8])>, ClockFault> {
    match text {
        [b':', tens @ b'0'..=b'9', ones @ b'0'..=b'9', rest @ ..] => {
            Ok(Some(((tens - b'0') * 10 + ones - b'0', rest)))
        }
        [b':', ..] => Err(ClockFault::Shape),
        _ => Ok(None),
    }
}

/// Shows it as it is written.
impl fmt::Debug for ClockTime {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, f)
    }
}
