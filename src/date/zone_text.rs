//! What may come after a time of day: an offset from UTC, the name of a zone, or both.

use core::fmt;
use core::str;

/// What was after a time of day and says whose clock showed it.
///
/// ```
/// use mild_ledger::{DatePattern, DateTimeReading, ZoneText};
///
/// let read = |text: &str| match DatePattern::iso().read_date_time(text) {
///     Ok(DateTimeReading::DateTime { zone, .. }) => zone,
///     other => unreachable!("{other:?}"),
/// };
/// assert_eq!(read("2026-09-30T23:30"), ZoneText::Absent);
/// assert_eq!(read("2026-09-30T23:30-02:30"), ZoneText::Offset { minutes: -150 });
/// assert!(matches!(read("2026-09-30 23:30 CEST"), ZoneText::Named { name } if name.is_abbreviation()));
/// // Both together, as RFC 9557 writes them.
/// let ZoneText::OffsetAndName { minutes: 60, name } = read("2026-09-30T23:30+01:00[Europe/London]") else { panic!() };
/// assert_eq!(name.as_str(), "Europe/London");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum ZoneText {
    /// Nothing: it is what a clock on the spot showed.
    Absent,
    /// An offset from UTC; 0 for `Z`, `UTC` and `GMT`.
    Offset {
        /// East of UTC.
        minutes: i16,
    },
    /// A zone's name, or the letters that its clock goes by.
    Named {
        /// As it was written.
        name: ZoneName,
    },
    /// An offset from UTC, and the zone that it is stated to be of.
    OffsetAndName {
        /// East of UTC.
        minutes: i16,
        /// As it was written.
        name: ZoneName,
    },
}

/// A text that has the form of a zone's name: `Europe/London` (an IANA name), or an abbreviation such as `CEST`. Which zones there
/// are is not known here.
///
/// ```
/// use mild_ledger::{DatePattern, DateTimeReading, ZoneText};
/// let pattern: DatePattern = "day/month/year hour:minute".parse()?;
/// let DateTimeReading::DateTime { zone: ZoneText::Named { name }, .. } =
///     pattern.read_date_time("30/09/2026 14:30 Pacific/Auckland")? else { unreachable!() };
/// assert_eq!((name.as_str(), name.is_abbreviation()), ("Pacific/Auckland", false));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Clone, Copy, PartialEq, Eq, Hash)]
pub struct ZoneName {
    letters: [u8; Self::LONGEST],
    length: u8,
}

impl ZoneName {
    /// The longest IANA name has 32 letters; a few are left for one to come.
    const LONGEST: usize = 38;

    /// A name, where the text has the form of one.
    fn read(text: &[u8]) -> Option<Self> {
        let is_inner = |sign: &u8| sign.is_ascii_alphanumeric() || matches!(sign, b'_' | b'-' | b'+');
        let is_part =
            |part: &[u8]| part.first().is_some_and(u8::is_ascii_alphabetic) && part.iter().all(is_inner);
        let is_abbreviation = (3..=5).contains(&text.len()) && text.iter().all(u8::is_ascii_uppercase);
        let is_name = text.contains(&b'/') && text.split(|sign| *sign == b'/').all(is_part);
        if text.len() > Self::LONGEST || !(is_abbreviation || is_name) {
            return None;
        }
        let mut letters = [0; Self::LONGEST];
        letters.iter_mut().zip(text).for_each(|(to, from)| *to = *from);
        u8::try_from(text.len()).ok().map(|length| Self { letters, length })
    }

    /// The name as it was written.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, DateTimeReading, ZoneText};
    /// let DateTimeReading::DateTime { zone: ZoneText::Named { name }, .. } =
    ///     DatePattern::iso().read_date_time("2026-01-31 09:00 CET")? else { unreachable!() };
    /// assert_eq!(name.as_str(), "CET");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn as_str(&self) -> &str {
        let letters = self.letters.get(..usize::from(self.length)).unwrap_or_default();
        str::from_utf8(letters).unwrap_or_default()
    }

    /// Whether it is the letters of a clock, such as `CEST`, which may mean more than one zone.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, DateTimeReading, ZoneText};
    /// let DateTimeReading::DateTime { zone: ZoneText::Named { name }, .. } =
    ///     DatePattern::iso().read_date_time("2026-01-31 09:00 Asia/Kolkata")? else { unreachable!() };
    /// assert!(!name.is_abbreviation());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn is_abbreviation(&self) -> bool {
        !self.as_str().contains('/')
    }
}

impl fmt::Debug for ZoneName {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Debug::fmt(self.as_str(), f)
    }
}

/// Writes the name as it was written.
impl fmt::Display for ZoneName {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.as_str())
    }
}

/// Why a text is not a time of day, with what comes after it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum ClockFault {
    Shape,
    NoSuchTime,
}

/// Nothing, an offset, a word for UTC, or a zone's name, which may be in square brackets and after an offset (RFC 9557).
pub(crate) fn read_zone_text(text: &[u8]) -> Result<ZoneText, ClockFault> {
    if text.is_empty() {
        return Ok(ZoneText::Absent);
    }
    let is_utc = |text: &[u8]| text.eq_ignore_ascii_case(b"utc") || text.eq_ignore_ascii_case(b"gmt");
    if is_utc(text) {
        return Ok(ZoneText::Offset { minutes: 0 });
    }
    if let Some(name) = ZoneName::read(text) {
        return Ok(ZoneText::Named { name });
    }
    let (offset, name) =
        match text.strip_suffix(b"]").map(|text| (text, text.iter().position(|sign| *sign == b'['))) {
            Some((text, Some(bracket))) => {
                let (offset, name) = text.split_at(bracket);
                // A word for UTC says what an offset of none says.
                if is_utc(&name[1..]) && matches!(read_offset(offset)?, None | Some(0)) {
                    return Ok(ZoneText::Offset { minutes: 0 });
                }
                (offset, Some(ZoneName::read(&name[1..]).ok_or(ClockFault::Shape)?))
            }
            _ => (text, None),
        };
    Ok(match (read_offset(offset)?, name) {
        (None, None) => ZoneText::Absent,
        (Some(minutes), None) => ZoneText::Offset { minutes },
        (None, Some(name)) => ZoneText::Named { name },
        (Some(minutes), Some(name)) => ZoneText::OffsetAndName { minutes, name },
    })
}

/// Nothing, `Z`, `+02:00`, `+0200` or `+02`.
fn read_offset(text: &[u8]) -> Result<Option<i16>, ClockFault> {
    let (sign, digits) = match text {
        [] => return Ok(None),
        [b'Z' | b'z'] => return Ok(Some(0)),
        [b'+', digits @ ..] => (1, digits),
        [b'-', digits @ ..] => (-1, digits),
        _ => return Err(ClockFault::Shape),
    };
    let two = |tens: u8, ones: u8| match (tens, ones) {
        (b'0'..=b'9', b'0'..=b'9') => Ok(i16::from((tens - b'0') * 10 + ones - b'0')),
        _ => Err(ClockFault::Shape),
    };
    let (hours, minutes) = match *digits {
        [h1, h2] => (two(h1, h2)?, 0),
        [h1, h2, m1, m2] | [h1, h2, b':', m1, m2] => (two(h1, h2)?, two(m1, m2)?),
        _ => return Err(ClockFault::Shape),
    };
    if hours > 23 || minutes > 59 {
        return Err(ClockFault::NoSuchTime);
    }
    Ok(Some(sign * (hours * 60 + minutes)))
}
