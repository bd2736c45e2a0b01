//! What a move of a date gave: the facts that both the table and the JSON show.

use super::by_calendar::by_rule_among;
use super::marked_days::{MarkedMonths, Marks};
use mild_ledger::{CalendarYears, Date, DateMove, DateTime, Error, WorkCalendar, Working};
use mild_ledger_records::{Zone, ZoneError};
use std::fmt;

/// A date moved once, or a series of dates, with the working of each.
#[derive(Debug, Clone)]
pub struct Moved {
    pub(crate) start: MovedFrom,
    pub(crate) series: bool,
    pub(crate) dates: Vec<Occurrence>,
    /// The name of the calendar that decided, where one was needed.
    pub(crate) calendar: Option<String>,
    /// The years among those moved over whose days that calendar has by rule.
    pub(crate) by_rule: Option<CalendarYears>,
}

/// What is moved: a date, or a date with a time of day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum MovedFrom {
    /// A date.
    Date(Date),
    /// A date and a time of it.
    DateTime(DateTime),
}

impl MovedFrom {
    pub(crate) fn date(self) -> Date {
        match self {
            Self::Date(date) => date,
            Self::DateTime(at) => at.date(),
        }
    }
}

impl fmt::Display for MovedFrom {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Date(date) => write!(f, "{date}"),
            Self::DateTime(at) => write!(f, "{at}"),
        }
    }
}

/// By what dates are moved.
#[derive(Debug, Clone, Copy, Default)]
pub struct MoveSetting<'m> {
    /// The calendar of working days, where one is needed.
    pub calendar: Option<&'m WorkCalendar>,
    /// The clock that a date-time is shown by, where hours elapse on one.
    pub clock: Option<ZoneClock<'m>>,
}

/// The clock of a zone, and the instant of the date-time that is moved.
#[derive(Debug, Clone, Copy)]
pub struct ZoneClock<'m> {
    /// The zone.
    pub zone: &'m Zone,
    /// The start in UTC, which tells a time that the clock showed twice.
    pub instant: Option<DateTime>,
}

/// Why a date could not be moved.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum MoveFailure {
    /// By the rule of the move.
    Move(Error),
    /// By the clock of the zone.
    Zone(ZoneError),
}

impl From<Error> for MoveFailure {
    fn from(error: Error) -> Self {
        Self::Move(error)
    }
}

/// What the clock of a zone shows once some microseconds have passed. Where none pass, the time is what it is, even one that the clock skipped.
fn by_clock_of(
    zone: &Zone,
    (at, instant): (DateTime, Option<DateTime>),
    elapsed: i64,
) -> Result<DateTime, MoveFailure> {
    if elapsed == 0 {
        return Ok(at);
    }
    let utc = instant.map_or_else(|| zone.utc_of(at), Ok).map_err(MoveFailure::Zone)?;
    let after = utc.microseconds().checked_add(elapsed).ok_or(i64::MAX);
    let after = after.map_or_else(DateTime::from_microseconds, DateTime::from_microseconds)?;
    zone.local_of(after).map_err(MoveFailure::Zone)
}

/// One date of a move.
#[derive(Debug, Clone)]
pub(crate) struct Occurrence {
    pub(crate) date: MovedFrom,
    pub(crate) working: Working,
    /// The months in which working days were counted.
    pub(crate) months: Option<MarkedMonths>,
}

impl Moved {
    /// Moves a date; several times where a series is asked for, each occurrence from the first date, so that month ends do
    /// not drift.
    ///
    /// # Errors
    /// Those of the moves: a date outside the years 0001 to 9999, a day that its month lacks, days that the calendar does not
    /// cover, a time of day where working days are asked for; a time that the clock of the zone skipped or showed twice.
    pub fn of(
        start: MovedFrom,
        by: &DateMove,
        times: Option<u32>,
        setting: MoveSetting<'_>,
    ) -> Result<Self, MoveFailure> {
        let MoveSetting { calendar, clock } = setting;
        let numbers = match times {
            Some(times) => 1..=i32::try_from(times).unwrap_or(i32::MAX),
            None => 1..=1,
        };
        let calendar = calendar.filter(|_| by.needs_calendar());
        let dates = numbers
            .map(|number| {
                let by = by.times(number)?;
                Ok(match start {
                    MovedFrom::Date(date) => {
                        let why = by.why(date, calendar)?;
                        Occurrence {
                            date: MovedFrom::Date(by.apply(date, calendar)?),
                            working: why.working().clone(),
                            months: calendar.zip(why.grid()).map(|(calendar, grid)| {
                                MarkedMonths::counted(calendar, grid, Marks::Numbered { start: date })
                            }),
                        }
                    }
                    MovedFrom::DateTime(at) => {
                        let (date, working) = match &clock {
                            Some(clock) => {
                                let instant = |local| if local == at { clock.instant } else { None };
                                by.apply_at_by(at, |local, elapsed| {
                                    by_clock_of(clock.zone, (local, instant(local)), elapsed)
                                })?
                            }
                            None => (by.apply_at(at)?, by.why_at(at)?),
                        };
                        Occurrence { date: MovedFrom::DateTime(date), working, months: None }
                    }
                })
            })
            .collect::<Result<Vec<Occurrence>, MoveFailure>>()?;
        let all: Vec<Date> = std::iter::once(start.date())
            .chain(dates.iter().map(|moved: &Occurrence| moved.date.date()))
            .collect();
        Ok(Self {
            start,
            series: times.is_some(),
            dates,
            by_rule: calendar.and_then(|calendar| by_rule_among(calendar, &all)),
            calendar: calendar.map(|calendar| calendar.name().to_owned()),
        })
    }

    /// The dates moved to, in their order, each with its time where it has one.
    #[must_use]
    pub fn moved_to(&self) -> Vec<MovedFrom> {
        self.dates.iter().map(|occurrence| occurrence.date).collect()
    }

    /// The rule by which they were moved.
    pub(crate) fn rule(&self) -> &str {
        self.dates.first().map_or("", |occurrence| occurrence.working.rule())
    }
}
