//! The one place that knows time zones: instants into dates of a zone, and back.

use mild_ledger::{ClockTime, Date, DateTime};
use std::fmt;
use std::str::FromStr;

/// A named time zone (IANA), with the changes of its clock.
///
/// Its rules come with the product, so that a plan gives the same dates on every machine.
///
/// ```
/// use mild_ledger_records::Zone;
///
/// let zone: Zone = "Pacific/Auckland".parse()?;
/// // Half past noon in UTC is the next day already.
/// let local = zone.local_of("2026-09-30T12:30".parse()?)?;
/// assert_eq!(local.to_string(), "2026-10-01T01:30:00");
/// assert_eq!(zone.utc_of(local)?.to_string(), "2026-09-30T12:30:00");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug, Clone)]
pub struct Zone {
    name: String,
    zone: jiff::tz::TimeZone,
}

impl PartialEq for Zone {
    fn eq(&self, other: &Self) -> bool {
        self.name == other.name
    }
}

/// Why a zone gives no answer.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum ZoneError {
    /// There is no zone of this name.
    #[error("\"{}\" is no time zone (allowed: an IANA name such as Europe/London, or UTC)", .0.escape_debug())]
    Unknown(String),
    /// The clock was put forward over this time.
    #[error(
        "{at} does not exist in {zone}: the clock was put forward over it (allowed: a time with its offset)"
    )]
    Skipped {
        /// The time.
        at: DateTime,
        /// The zone's name.
        zone: String,
    },
    /// The clock was put back, and showed this time twice.
    #[error("{at} came twice in {zone}: the clock was put back (allowed: a time with its offset)")]
    Twice {
        /// The time.
        at: DateTime,
        /// The zone's name.
        zone: String,
    },
    /// The answer lies outside the years 0001 to 9999.
    #[error("{at} lies outside the years 0001 to 9999 in {zone}")]
    OutOfRange {
        /// The time.
        at: DateTime,
        /// The zone's name.
        zone: String,
    },
}

impl FromStr for Zone {
    type Err = ZoneError;

    #[expect(clippy::disallowed_methods, reason = "this is the module at the edge that knows zones")]
    fn from_str(name: &str) -> Result<Self, ZoneError> {
        match jiff::tz::TimeZone::get(name) {
            Ok(zone) => Ok(Self { name: zone.iana_name().unwrap_or(name).to_owned(), zone }),
            Err(_) => Err(ZoneError::Unknown(name.to_owned())),
        }
    }
}

impl fmt::Display for Zone {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&self.name)
    }
}

impl Zone {
    /// What calendar and clock showed in the zone at an instant given in UTC.
    ///
    /// # Errors
    /// [`ZoneError::OutOfRange`] at the ends of the calendar.
    pub fn local_of(&self, utc: DateTime) -> Result<DateTime, ZoneError> {
        let out = || ZoneError::OutOfRange { at: utc, zone: self.name.clone() };
        let instant = jiff::Timestamp::from_microsecond(utc.microseconds()).map_err(|_| out())?;
        let offset = i64::from(self.zone.to_offset(instant).seconds()) * 1_000_000;
        DateTime::from_microseconds(utc.microseconds() + offset).map_err(|_| out())
    }

    /// The instant, in UTC, at which calendar and clock in the zone showed this.
    ///
    /// # Errors
    /// [`ZoneError::Skipped`] and [`ZoneError::Twice`] where no instant did, or two; [`ZoneError::OutOfRange`] at the
    /// ends of the calendar.
    pub fn utc_of(&self, local: DateTime) -> Result<DateTime, ZoneError> {
        let out = || ZoneError::OutOfRange { at: local, zone: self.name.clone() };
        let zone = self.name.clone();
        let ((year, month, day), time) = (local.date().year_month_day(), local.time());
        let civil = jiff::civil::DateTime::new(
            i16::try_from(year).map_err(|_| out())?,
            month.cast_signed(),
            day.cast_signed(),
            time.hour().cast_signed(),
            time.minute().cast_signed(),
            time.second().cast_signed(),
            0,
        )
        .map_err(|_| out())?;
        let offset = match self.zone.to_ambiguous_timestamp(civil).offset() {
            jiff::tz::AmbiguousOffset::Unambiguous { offset } => i64::from(offset.seconds()),
            jiff::tz::AmbiguousOffset::Gap { .. } => return Err(ZoneError::Skipped { at: local, zone }),
            jiff::tz::AmbiguousOffset::Fold { .. } => return Err(ZoneError::Twice { at: local, zone }),
        };
        DateTime::from_microseconds(local.microseconds() - offset * 1_000_000).map_err(|_| out())
    }

    /// What calendar and clock showed in the zone, and in UTC, at a time that was written with an offset of so many
    /// minutes.
    ///
    /// # Errors
    /// [`ZoneError::OutOfRange`] at the ends of the calendar.
    ///
    /// ```
    /// use mild_ledger_records::Zone;
    /// let zone: Zone = "Europe/London".parse()?;
    /// let (local, utc) = zone.local_and_utc_of("2026-06-30T23:30".parse()?, 0)?;
    /// assert_eq!((local.to_string(), utc.to_string()), ("2026-07-01T00:30:00".into(), "2026-06-30T23:30:00".into()));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn local_and_utc_of(
        &self,
        at: DateTime,
        offset_minutes: i16,
    ) -> Result<(DateTime, DateTime), ZoneError> {
        let utc = DateTime::from_microseconds(at.microseconds() - i64::from(offset_minutes) * 60_000_000)
            .map_err(|_| ZoneError::OutOfRange { at, zone: self.name.clone() })?;
        Ok((self.local_of(utc)?, utc))
    }

    /// The date in the zone at an instant of so many microseconds since 1970-01-01T00:00:00 UTC; where that lies
    /// outside the years 0001 to 9999, the nearest date.
    #[must_use]
    pub fn date_at(&self, microseconds: i64) -> Date {
        let nearest = if microseconds < 0 { DateTime::MIN } else { DateTime::MAX };
        let utc = DateTime::from_microseconds(microseconds).unwrap_or(nearest);
        self.local_of(utc).unwrap_or(DateTime::new(utc.date(), ClockTime::MIDNIGHT)).date()
    }
}
