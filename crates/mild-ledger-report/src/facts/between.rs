//! The time between two dates in every way of counting.

use super::by_calendar::CountsByCalendar;
use super::one_figure::workings;
use super::unit_figures::{UnitFigures, unit_figures};
use crate::{Detail, Split};
use mild_ledger::{
    Count, Date, DayCount, Ends, Error, Fraction, Interval, MonthEnd, Parts, Weekday, WorkCalendar, Working,
};

/// The time between two dates in every way of counting.
///
/// ```
/// use mild_ledger::{Ends, Interval};
/// use mild_ledger_report::{Between, Detail};
/// let interval = Interval::between("2026-01-31".parse()?, "2026-02-28".parse()?);
/// let found = Between::of(interval, Ends::Last, Detail::FiguresOnly);
/// assert!(mild_ledger_report::json::between(&found).contains("\"days\":28,"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone)]
pub struct Between {
    pub(crate) start: Date,
    pub(crate) end: Date,
    /// The days under the ends asked for.
    pub(crate) days: Count,
    pub(crate) ends: Ends,
    /// The ends that units other than days count.
    pub(crate) ends_of_units: Ends,
    pub(crate) month_end: MonthEnd,
    pub(crate) weeks_begin: Weekday,
    /// None under ends that have a meaning for days alone.
    pub(crate) figures: Option<BetweenFigures>,
    pub(crate) splits: Vec<Split>,
    pub(crate) working_days: CountsByCalendar,
    /// The working of every figure, where it was asked for.
    pub(crate) workings: Option<Vec<Working>>,
}

/// The figures other than days.
#[derive(Debug, Clone)]
pub(crate) struct BetweenFigures {
    pub(crate) units: UnitFigures,
    pub(crate) parts: Parts,
    pub(crate) calendar_months: Fraction,
    /// The fraction of a year by each day-count convention.
    pub(crate) day_counts: Vec<(DayCount, Fraction)>,
}

impl Between {
    /// Every figure of an interval, days under these ends.
    #[must_use]
    pub fn of(interval: Interval, ends: Ends, detail: Detail) -> Self {
        let days_only = matches!(ends, Ends::First | Ends::Neither);
        let year_fraction = |convention: DayCount| (convention, interval.year_fraction(convention));
        Self {
            start: interval.start(),
            end: interval.end(),
            days: interval.days_counting(ends),
            ends,
            ends_of_units: interval.ends(),
            month_end: interval.month_end(),
            weeks_begin: interval.week_begins(),
            figures: (!days_only).then(|| BetweenFigures {
                units: unit_figures(interval),
                parts: interval.parts(),
                calendar_months: interval.calendar_months(),
                day_counts: DayCount::ALL.iter().copied().map(year_fraction).collect(),
            }),
            splits: Vec::new(),
            working_days: CountsByCalendar::default(),
            workings: match detail {
                Detail::FiguresOnly => None,
                Detail::WithWorking => Some(workings(interval)),
            },
        }
    }

    /// The same with the interval shared out over periods.
    #[must_use]
    pub fn with_splits(self, splits: Vec<Split>) -> Self {
        Self { splits, ..self }
    }

    /// The same with the working days of the interval by calendars, under ends of their own; with their months, each day marked,
    /// where the working is asked for.
    ///
    /// # Errors
    /// Where a calendar does not cover the interval.
    pub fn with_working_days(
        self,
        interval: Interval,
        ends: Ends,
        calendars: &[WorkCalendar],
        detail: Detail,
    ) -> Result<Self, Error> {
        Ok(Self { working_days: CountsByCalendar::of(interval, ends, calendars, detail)?, ..self })
    }
}
