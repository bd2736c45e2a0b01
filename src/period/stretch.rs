//! One period: its bounds, its name, its neighbours.

use super::{DateRange, PeriodRule};
use crate::date::{Date, Weekday};
use crate::error::{Error, ErrorKind};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::String;
use core::cmp::Ordering;
use core::fmt;

/// One period of a kind.
///
/// ```
/// use mild_ledger::PeriodRule;
///
/// let quarter = PeriodRule::Quarter.containing("2026-09-30".parse()?);
/// assert_eq!(quarter.label(), "2026-Q3");
/// assert_eq!((quarter.days(), quarter.position_of("2026-07-03".parse()?)), (92, Some(3)));
/// assert_eq!(quarter.away(-3)?.label(), "2025-Q4");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Period {
    rule: PeriodRule,
    index: i64,
    first: i64,
    last: i64,
    year: i64,
    number: i64,
}

impl Period {
    pub(super) fn new(
        rule: PeriodRule,
        index: i64,
        (first, last): (i64, i64),
        (year, number): (i64, i64),
    ) -> Self {
        Self { rule, index, first, last, year, number }
    }

    /// Its kind.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert_eq!(PeriodRule::Month.containing(Date::MIN).rule(), PeriodRule::Month);
    /// ```
    #[must_use]
    pub fn rule(&self) -> PeriodRule {
        self.rule
    }

    /// Its first day.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where that lies before 0001-01-01.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert_eq!(PeriodRule::Year.containing(Date::MAX).first_day()?.to_string(), "9999-01-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn first_day(&self) -> Result<Date, Error> {
        self.date(self.first, "first")
    }

    /// Its last day.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where that lies after 9999-12-31.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert_eq!(PeriodRule::Year.containing(Date::MIN).last_day()?.to_string(), "0001-12-31");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn last_day(&self) -> Result<Date, Error> {
        self.date(self.last, "last")
    }

    /// The number of its days.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert_eq!(PeriodRule::HalfYear.containing(Date::MAX).days(), 184);
    /// ```
    #[must_use]
    pub fn days(&self) -> i64 {
        self.last - self.first + 1
    }

    /// The year it is named by: for weeks the one with most of its days, for fiscal years as they are named.
    ///
    /// ```
    /// # use mild_ledger::{PeriodRule, Weekday};
    /// let week = PeriodRule::Week(Weekday::Monday).containing("2021-01-03".parse()?);
    /// assert_eq!((week.year(), week.number()), (2020, 53));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn year(&self) -> i32 {
        // Periods of dates lie in the years 0000 to 10000.
        self.year.clamp(i32::MIN.into(), i32::MAX.into()) as i32
    }

    /// Its number in that year, from 1; 1 for a year itself.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert_eq!(PeriodRule::Quarter.containing(Date::MAX).number(), 4);
    /// ```
    #[must_use]
    pub fn number(&self) -> i64 {
        self.number
    }

    /// Whether a date lies in it.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert!(!PeriodRule::Year.containing(Date::MAX).contains(Date::MIN));
    /// ```
    #[must_use]
    pub fn contains(&self, date: Date) -> bool {
        (self.first..=self.last).contains(&i64::from(date.day_number()))
    }

    /// The number of a date inside it, from 1; `None` for a date outside.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert_eq!(PeriodRule::Year.containing(Date::MAX).position_of(Date::MAX), Some(365));
    /// ```
    #[must_use]
    pub fn position_of(&self, date: Date) -> Option<i64> {
        self.contains(date).then(|| i64::from(date.day_number()) - self.first + 1)
    }

    /// The period a number of steps away, back where negative.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where no day of it lies in the years 0001 to 9999.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert!(PeriodRule::Month.containing(Date::MAX).away(1).is_err());
    /// ```
    pub fn away(&self, steps: i64) -> Result<Self, Error> {
        self.rule.away(self.index, steps)
    }

    /// Its label: `2026-W40`, `2026-09`, `2026-Q3`, `2026-H2`, `2026`, and for fiscal years `FY2026-P12`,
    /// `FY2026-Q4`, `FY2026`. A week that does not start on Monday is labelled by its first day.
    ///
    /// ```
    /// # use mild_ledger::{FiscalYear, PeriodRule};
    /// let year = FiscalYear::starting(10, 1)?;
    /// assert_eq!(PeriodRule::FiscalQuarter(year).containing("2026-10-01".parse()?).label(), "FY2027-Q1");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn label(&self) -> String {
        let (year, number) = (self.year, self.number);
        match self.rule {
            PeriodRule::Week(Weekday::Monday) => format!("{year:04}-W{number:02}"),
            // Not by way of its first day's error, which names the period by its label.
            PeriodRule::Week(_) => match Date::in_range(self.first) {
                Some(first) => format!("week of {first}"),
                None => "week before 0001-01-01".to_owned(),
            },
            PeriodRule::Month => format!("{year:04}-{number:02}"),
            PeriodRule::Quarter => format!("{year:04}-Q{number}"),
            PeriodRule::HalfYear => format!("{year:04}-H{number}"),
            PeriodRule::Year => format!("{year:04}"),
            PeriodRule::FiscalPeriod(_) => format!("FY{year:04}-P{number:02}"),
            PeriodRule::FiscalQuarter(_) => format!("FY{year:04}-Q{number}"),
            PeriodRule::FiscalYear(_) => format!("FY{year:04}"),
            PeriodRule::WeekPeriod(_) => format!("{year:04} week period {number}"),
            PeriodRule::WeekQuarter(_) => format!("{year:04} week quarter {number}"),
            PeriodRule::WeekYear(_) => format!("{year:04} week-year"),
        }
    }

    /// Its days, as far as they are dates: all of them, but for a period that reaches over an end of the calendar.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule, Weekday};
    /// let week = PeriodRule::Week(Weekday::Monday).containing(Date::MAX);
    /// assert_eq!((week.dates().to_string(), week.is_whole()), ("9999-12-27 to 9999-12-31".into(), false));
    /// ```
    #[must_use]
    pub fn dates(&self) -> DateRange {
        DateRange::between(
            Date::in_range(self.first).unwrap_or(Date::MIN),
            Date::in_range(self.last).unwrap_or(Date::MAX),
        )
    }

    /// Whether all of its days are dates.
    ///
    /// ```
    /// # use mild_ledger::{Date, PeriodRule};
    /// assert!(PeriodRule::Month.containing(Date::MAX).is_whole());
    /// ```
    #[must_use]
    pub fn is_whole(&self) -> bool {
        self.first_day().is_ok() && self.last_day().is_ok()
    }

    /// First day, last day as day numbers, which may lie a little outside the calendar.
    pub(super) fn bounds(&self) -> (i64, i64) {
        (self.first, self.last)
    }

    pub(super) fn touches_the_calendar(&self) -> bool {
        self.last >= i64::from(Date::MIN.day_number()) && self.first <= i64::from(Date::MAX.day_number())
    }

    fn date(&self, day_number: i64, which: &str) -> Result<Date, Error> {
        Date::in_range(day_number).ok_or_else(|| {
            Error::new(
                ErrorKind::OutOfRange,
                format!("the {which} day of {} lies outside the years 0001 to 9999", self.label()),
                "0001-01-01 to 9999-12-31",
            )
        })
    }
}

/// Periods are ordered by their first days, then by their last ones.
impl Ord for Period {
    fn cmp(&self, other: &Self) -> Ordering {
        let place = |period: &Self| (period.first, period.last, period.rule);
        place(self).cmp(&place(other))
    }
}

impl PartialOrd for Period {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl fmt::Display for Period {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&self.label())
    }
}
