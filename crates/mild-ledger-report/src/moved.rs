//! What a move of a date gave: the facts that both the table and the JSON show.

use mild_ledger::{Date, DateTime, Error, Shift, WeekdayMove, Working};
use std::fmt;

/// A date moved once, or a series of dates, with the working of each.
#[derive(Debug, Clone)]
pub struct Moved {
    pub(crate) start: MovedFrom,
    pub(crate) series: bool,
    pub(crate) dates: Vec<Occurrence>,
    pub(crate) rule: String,
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

    fn moved(self, shift: &Shift) -> Result<(Self, Working), Error> {
        Ok(match self {
            Self::Date(date) => (Self::Date(shift.apply(date)?), shift.why(date)?),
            Self::DateTime(at) => (Self::DateTime(shift.apply_at(at)?), shift.why_at(at)?),
        })
    }

    fn to_weekday(self, to: WeekdayMove) -> Result<Self, Error> {
        let date = to.apply(self.date())?;
        Ok(match self {
            Self::Date(_) => Self::Date(date),
            Self::DateTime(at) => Self::DateTime(DateTime::new(date, at.time())),
        })
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

/// One date of a move.
#[derive(Debug, Clone)]
pub(crate) struct Occurrence {
    pub(crate) date: MovedFrom,
    pub(crate) steps: Vec<String>,
}

impl Moved {
    /// Moves a date by an amount, then to a weekday; so many times where a series is asked for.
    ///
    /// # Errors
    /// Those of the moves: a date outside the years 0001 to 9999, a day that its month lacks.
    pub fn of(
        start: MovedFrom,
        shift: Option<Shift>,
        weekday: Option<WeekdayMove>,
        times: Option<u32>,
    ) -> Result<Self, Error> {
        let shift = shift.unwrap_or(Shift::days(0));
        let numbers = match times {
            Some(times) => 1..=i32::try_from(times).unwrap_or(i32::MAX),
            None => 1..=1,
        };
        let mut rule = String::new();
        let mut dates = Vec::new();
        for number in numbers {
            // Each occurrence is moved from the first date, so that month ends do not drift.
            let (mut date, working) = start.moved(&shift.times(number)?)?;
            let mut steps: Vec<String> = working.steps().iter().map(|step| step.said().to_owned()).collect();
            rule = working.rule().to_owned();
            if let Some(to) = weekday {
                let moved = date.to_weekday(to)?;
                steps.push(format!("{to} {date} = {moved}"));
                date = moved;
            }
            dates.push(Occurrence { date, steps });
        }
        if let Some(to) = weekday {
            rule = if shift == Shift::days(0) { to.to_string() } else { format!("{rule}, then {to}") };
        }
        Ok(Self { start, series: times.is_some(), dates, rule })
    }

    /// The dates moved to, in their order, their times dropped.
    #[must_use]
    pub fn dates(&self) -> Vec<Date> {
        self.dates.iter().map(|occurrence| occurrence.date.date()).collect()
    }
}
