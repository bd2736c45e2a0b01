//! The kinds of periods, each as a numbered row of stretches without gap or overlap.

use super::{DateRange, FiscalYear, Period, WeekYear};
use crate::date::{Date, Weekday, year_month_day};
use crate::error::{Error, ErrorKind};
use alloc::borrow::ToOwned;
use alloc::format;
use core::fmt;

/// A kind of period: any day lies in exactly one of each kind.
///
/// ```
/// use mild_ledger::{PeriodRule, Weekday};
///
/// let date = "2026-09-30".parse()?;
/// assert_eq!(PeriodRule::Quarter.containing(date).last_day()?, date);
/// let week = PeriodRule::Week(Weekday::Sunday).containing(date);
/// assert_eq!(week.first_day()?.to_string(), "2026-09-27");
/// assert_eq!(week.rule().to_string(), "week from Sunday");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum PeriodRule {
    /// Seven days from this weekday on.
    Week(Weekday),
    /// A calendar month.
    Month,
    /// Three calendar months from January, April, July or October.
    Quarter,
    /// Six calendar months from January or July.
    HalfYear,
    /// A calendar year.
    Year,
    /// The twelfth of a fiscal year: a month from the day that the year begins on.
    FiscalPeriod(FiscalYear),
    /// The quarter of a fiscal year.
    FiscalQuarter(FiscalYear),
    /// A fiscal year of twelve months.
    FiscalYear(FiscalYear),
    /// Four or five weeks of a year of weeks.
    WeekPeriod(WeekYear),
    /// Thirteen weeks of a year of weeks; the last has the 53rd too.
    WeekQuarter(WeekYear),
    /// A year of 52 or 53 weeks.
    WeekYear(WeekYear),
}

/// Written as its word with what it goes by: `week from Monday`, `fiscal quarter from 6 April`,
/// `week-year, last saturday of january, 4-4-5`.
impl fmt::Display for PeriodRule {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let word = self.word();
        f.pad(&match self {
            Self::Week(first) => format!("{word} from {first}"),
            Self::Month | Self::Quarter | Self::HalfYear | Self::Year => word.to_owned(),
            Self::FiscalPeriod(year) | Self::FiscalQuarter(year) | Self::FiscalYear(year) => {
                format!("{word} from {year}")
            }
            Self::WeekPeriod(weeks) | Self::WeekQuarter(weeks) | Self::WeekYear(weeks) => {
                format!("{word}, {weeks}")
            }
        })
    }
}

impl PeriodRule {
    /// The word for its kind in plans, options and output.
    ///
    /// ```
    /// assert_eq!(mild_ledger::PeriodRule::HalfYear.word(), "half-year");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Week(_) => "week",
            Self::Month => "month",
            Self::Quarter => "quarter",
            Self::HalfYear => "half-year",
            Self::Year => "year",
            Self::FiscalPeriod(_) => "fiscal period",
            Self::FiscalQuarter(_) => "fiscal quarter",
            Self::FiscalYear(_) => "fiscal year",
            Self::WeekPeriod(_) => "week period",
            Self::WeekQuarter(_) => "week quarter",
            Self::WeekYear(_) => "week-year",
        }
    }

    /// Every kind, with these rules for weeks, fiscal years and years of weeks.
    ///
    /// ```
    /// use mild_ledger::{FiscalYear, PeriodRule, WeekYear, Weekday};
    /// let words = PeriodRule::all(Weekday::Monday, FiscalYear::default(), WeekYear::iso()).map(PeriodRule::word);
    /// assert_eq!(words[..3], ["week", "month", "quarter"]);
    /// ```
    #[must_use]
    pub fn all(week: Weekday, fiscal: FiscalYear, weeks: WeekYear) -> [Self; 11] {
        [
            Self::Week(week),
            Self::Month,
            Self::Quarter,
            Self::HalfYear,
            Self::Year,
            Self::FiscalPeriod(fiscal),
            Self::FiscalQuarter(fiscal),
            Self::FiscalYear(fiscal),
            Self::WeekPeriod(weeks),
            Self::WeekQuarter(weeks),
            Self::WeekYear(weeks),
        ]
    }

    /// The period that a date lies in. Its own ends may lie outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::{Date, PeriodRule, Weekday};
    /// let week = PeriodRule::Week(Weekday::Monday).containing(Date::MAX);
    /// assert_eq!(week.first_day()?.to_string(), "9999-12-27");
    /// assert!(week.last_day().is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn containing(self, date: Date) -> Period {
        self.with_index(self.index_of(date.day_number()))
    }

    /// The periods that cover a stretch of days, in their order.
    ///
    /// ```
    /// use mild_ledger::{DateRange, PeriodRule};
    /// let months = PeriodRule::Month.covering(DateRange::new("2026-01-31".parse()?, "2026-03-01".parse()?)?);
    /// let labels: Vec<String> = months.map(|month| month.label()).collect();
    /// assert_eq!(labels, ["2026-01", "2026-02", "2026-03"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn covering(self, days: DateRange) -> impl Iterator<Item = Period> {
        let index = |date: Date| self.index_of(date.day_number());
        (index(days.first())..=index(days.last())).map(move |index| self.with_index(index))
    }

    /// The quarters of a kind of year; those of the calendar for other periods.
    pub(super) fn quarter_of_year(self) -> Self {
        match self {
            Self::FiscalYear(year) => Self::FiscalQuarter(year),
            Self::WeekYear(weeks) => Self::WeekQuarter(weeks),
            _ => Self::Quarter,
        }
    }

    /// The months, or the periods in their place, of a kind of year; those of the calendar for other periods.
    pub(super) fn month_of_year(self) -> Self {
        match self {
            Self::FiscalYear(year) => Self::FiscalPeriod(year),
            Self::WeekYear(weeks) => Self::WeekPeriod(weeks),
            _ => Self::Month,
        }
    }

    /// The first and the last day of the period that a day lies in, which may lie outside the range of dates.
    pub(crate) fn bounds_around(self, day_number: i32) -> (i64, i64) {
        let (first, next) = self.bounds(self.index_of(day_number));
        (first, next - 1)
    }

    fn index_of(self, day_number: i32) -> i64 {
        let day = i64::from(day_number);
        match self {
            Self::Week(first) => (day - week_offset(first)).div_euclid(7),
            Self::WeekYear(rule) => rule.year_of(day),
            Self::WeekQuarter(rule) => {
                let year = rule.year_of(day);
                let week = (day - rule.first_day_of(year)) / 7;
                year * 4 + (week / 13).min(3)
            }
            Self::WeekPeriod(rule) => {
                let year = rule.year_of(day);
                let week = (day - rule.first_day_of(year)) / 7;
                let period =
                    rule.first_weeks_of_periods().iter().filter(|first| **first <= week).count() as i64 - 1;
                year * 12 + period
            }
            months => {
                let (year, month, day) = year_month_day::year_month_day_of(day_number);
                let (first_month, first_day, length) = months.of_months();
                let index = year_month_day::month_index(year, month) - i64::from(day < first_day);
                (index - i64::from(first_month - 1)).div_euclid(length)
            }
        }
    }

    /// The first day, and the first day of the next, of the period with a number.
    fn bounds(self, index: i64) -> (i64, i64) {
        match self {
            Self::Week(first) => (index * 7 + week_offset(first), (index + 1) * 7 + week_offset(first)),
            Self::WeekYear(rule) => (rule.first_day_of(index), rule.first_day_of(index + 1)),
            Self::WeekQuarter(rule) => {
                let start = |index: i64| rule.first_day_of(index.div_euclid(4)) + 91 * index.rem_euclid(4);
                (start(index), start(index + 1))
            }
            Self::WeekPeriod(rule) => {
                let weeks = rule.first_weeks_of_periods();
                let start = |index: i64| {
                    rule.first_day_of(index.div_euclid(12)) + 7 * weeks[index.rem_euclid(12) as usize]
                };
                (start(index), start(index + 1))
            }
            months => {
                let (first_month, first_day, length) = months.of_months();
                let start = |index: i64| month_day(index * length + i64::from(first_month - 1), first_day);
                (start(index), start(index + 1))
            }
        }
    }

    /// For kinds made of months: the month and the day that the row begins with, and the months of each.
    fn of_months(self) -> (u8, u8, i64) {
        let of_year = |year: FiscalYear, length| (year.first_month(), year.first_day(), length);
        match self {
            Self::Quarter => (1, 1, 3),
            Self::HalfYear => (1, 1, 6),
            Self::Year => (1, 1, 12),
            Self::FiscalPeriod(year) => of_year(year, 1),
            Self::FiscalQuarter(year) => of_year(year, 3),
            Self::FiscalYear(year) => of_year(year, 12),
            _ => (1, 1, 1),
        }
    }

    /// The months of each period, for kinds made of months.
    pub(super) fn months(self) -> Option<i64> {
        match self {
            Self::Week(_) | Self::WeekPeriod(_) | Self::WeekQuarter(_) | Self::WeekYear(_) => None,
            months => Some(months.of_months().2),
        }
    }

    /// The period with a number in the row.
    pub(super) fn with_index(self, index: i64) -> Period {
        let (first, next) = self.bounds(index);
        let (year, number) = self.name_of(index, first);
        Period::new(self, index, (first, next - 1), (year, number))
    }

    /// The year that a period is named by, and its number in it, from 1.
    fn name_of(self, index: i64, first: i64) -> (i64, i64) {
        let in_year = |per_year: i64| (index.div_euclid(per_year), index.rem_euclid(per_year) + 1);
        match self {
            Self::Week(_) => {
                // As ISO 8601 does for Monday: the year in which most of its days lie.
                let middle = (first + 3).clamp(-2_000_000_000, 2_000_000_000) as i32;
                let (year, ..) = year_month_day::year_month_day_of(middle);
                let new_year = year_month_day::day_number_of(year, 1, 1);
                (i64::from(year), i64::from(middle - new_year) / 7 + 1)
            }
            Self::Month => in_year(12),
            Self::Quarter => in_year(4),
            Self::HalfYear => in_year(2),
            // A year's number is its year.
            Self::Year => (index, index),
            Self::FiscalPeriod(year) => (year.name_of(index.div_euclid(12)), index.rem_euclid(12) + 1),
            Self::FiscalQuarter(year) => (year.name_of(index.div_euclid(4)), index.rem_euclid(4) + 1),
            Self::FiscalYear(year) => (year.name_of(index), year.name_of(index)),
            Self::WeekPeriod(weeks) => (weeks.name_of(index.div_euclid(12)), index.rem_euclid(12) + 1),
            Self::WeekQuarter(weeks) => (weeks.name_of(index.div_euclid(4)), index.rem_euclid(4) + 1),
            Self::WeekYear(weeks) => (weeks.name_of(index), weeks.name_of(index)),
        }
    }

    pub(super) fn away(self, index: i64, steps: i64) -> Result<Period, Error> {
        let period = index
            .checked_add(steps)
            .filter(|index| index.unsigned_abs() < 1_000_000)
            .map(|index| self.with_index(index));
        period.filter(Period::touches_the_calendar).ok_or_else(|| {
            Error::new(
                ErrorKind::OutOfRange,
                format!("the period {steps} away lies outside the years 0001 to 9999"),
                "0001-01-01 to 9999-12-31",
            )
        })
    }
}

/// Days from 1970-01-01 to the first such weekday of the row.
fn week_offset(first: Weekday) -> i64 {
    // 1970-01-05 was a Monday.
    4 + first.days_from_monday()
}

/// The day number of a day of a month, by the month's index; every month has the days it is asked for.
fn month_day(index: i64, day: u8) -> i64 {
    let (year, month) = year_month_day::month_of_index(index);
    let (cycles, year) = (year.div_euclid(400), year.rem_euclid(400) as i32);
    cycles * year_month_day::DAYS_IN_CYCLE + i64::from(year_month_day::day_number_of(year, month, day))
}
