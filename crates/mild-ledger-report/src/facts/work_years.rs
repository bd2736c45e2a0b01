//! The working days of some years: the facts that the table, the grid and the JSON show.

use super::marked_days::{MarkedMonth, MarkedMonths, Marks};
use mild_ledger::{
    CalendarYears, Date, DateRange, DayKind, Decimal, Ends, Error, Holiday, Interval, PeriodRule, Quotient,
    RestDays, Rounding, WorkingDays, allocate, rate_a_day,
};
use mild_ledger_records::OpenedCalendar;

/// Some years of a calendar, month by month.
#[derive(Debug, Clone)]
pub struct WorkYears {
    pub(crate) calendar: String,
    /// The years that the calendar covers, be they worked out or not.
    pub(crate) covers: Option<CalendarYears>,
    /// Its opening hours, in words, where it states some.
    pub(crate) hours: Option<String>,
    /// Its rest days, in words.
    pub(crate) rest_days: String,
    /// What its rest days change to, and when.
    pub(crate) rest_day_changes: Vec<(Date, RestDays)>,
    /// The years among these whose days follow by rule, not yet proclaimed.
    pub(crate) by_rule: Option<CalendarYears>,
    /// The months, each quarter after its months and each year after those.
    pub(crate) rows: Vec<WorkRow>,
    pub(crate) months: MarkedMonths,
    pub(crate) total: WorkingDays,
    pub(crate) holidays: Vec<Holiday>,
    pub(crate) rate: Option<Rate>,
}

/// A month, a quarter or a year.
#[derive(Debug, Clone)]
pub(crate) struct WorkRow {
    pub(crate) of: PeriodRule,
    pub(crate) label: String,
    pub(crate) days: i64,
    pub(crate) rest_days: i64,
    pub(crate) holidays: i64,
    pub(crate) holidays_on_rest_days: i64,
    pub(crate) half_days: i64,
    pub(crate) working_days: i64,
    /// What it has of the target.
    pub(crate) share: Option<RateOfMonths>,
}

/// One month, and its part of the target.
struct WorkMonth {
    first: Date,
    days: WorkingDays,
    target: Option<Decimal>,
}

/// An amount to spread over the working days, and how its rate a day is rounded.
#[derive(Debug, Clone, Copy)]
pub struct Target {
    /// The amount.
    pub total: Decimal,
    /// Of the rate a day.
    pub rounding: Rounding,
    /// Decimals of the rate and of the months' parts; 0 for whole units.
    pub decimals: u8,
}

/// A rate a day.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Rate {
    pub(crate) total: Decimal,
    pub(crate) a_day: Decimal,
    pub(crate) rounding: Rounding,
    /// How far the rate times the days lies above the total.
    pub(crate) over: Decimal,
    decimals: u8,
}

/// The part of a target in some months; `None` where the target has none.
#[derive(Debug, Clone, Copy)]
pub(crate) struct RateOfMonths {
    pub(crate) target: Option<Decimal>,
    /// The target over their working days.
    pub(crate) a_day: Option<Decimal>,
    /// The rate of all the years times their working days.
    pub(crate) at_the_rate: Option<Decimal>,
    pub(crate) over: Option<Decimal>,
}

impl Rate {
    /// What some months have of the target together.
    fn of(&self, months: &[WorkMonth]) -> RateOfMonths {
        let target = Decimal::checked_sum(months.iter().filter_map(|month| month.target));
        let days: i64 = months.iter().map(|month| month.days.count()).sum();
        let a_day = target.and_then(|target| {
            let days = Quotient::of(i128::from(days), 1)?;
            Quotient::from(target).checked_div(days)?.to_decimal(self.decimals, self.rounding).ok()
        });
        let units = self.a_day.units().checked_mul(i128::from(days));
        let at_the_rate = units.and_then(|units| Decimal::of_units(units, self.a_day.decimals()).ok());
        let over = at_the_rate.zip(target).and_then(|(raised, target)| raised.checked_sub(target));
        RateOfMonths { target, a_day, at_the_rate, over }
    }
}

impl WorkRow {
    /// Some months together.
    fn of(rule: PeriodRule, months: &[WorkMonth], rate: Option<Rate>) -> Self {
        let sum = |of: fn(&WorkingDays) -> i64| months.iter().map(|month| of(&month.days)).sum();
        let first = months.first().map(|month| rule.containing(month.first).label());
        Self {
            of: rule,
            label: first.unwrap_or_default(),
            days: sum(|days| days.days()),
            rest_days: sum(|days| days.rest_days()),
            holidays: sum(|days| days.holidays()),
            holidays_on_rest_days: sum(|days| days.holidays_on_rest_days()),
            half_days: sum(|days| days.half_days()),
            working_days: sum(|days| days.count()),
            share: rate.map(|rate| rate.of(months)),
        }
    }

    /// The rows of whole years.
    fn of_years(months: &[WorkMonth], rate: Option<Rate>) -> Vec<Self> {
        let mut rows = Vec::with_capacity(months.len() / 12 * 17);
        for year in months.chunks(12) {
            for quarter in year.chunks(3) {
                rows.extend(quarter.chunks(1).map(|month| Self::of(PeriodRule::Month, month, rate)));
                rows.push(Self::of(PeriodRule::Quarter, quarter, rate));
            }
            rows.push(Self::of(PeriodRule::Year, year, rate));
        }
        rows
    }
}

impl WorkYears {
    /// The years from a first to a last.
    ///
    /// # Errors
    /// Where the calendar does not cover them, or the target cannot be spread.
    pub fn of(opened: &OpenedCalendar, years: (i32, i32), target: Option<Target>) -> Result<Self, Error> {
        let calendar = opened.calendar();
        let (first, last) = (Date::new(years.0, 1, 1)?, Date::new(years.1, 12, 31)?);
        let both = Ends::FirstAndLast;
        let total = calendar.working_days(Interval::between(first, last), both)?;
        let mut months = Vec::new();
        for period in PeriodRule::Month.covering(DateRange::new(first, last)?) {
            let dates = period.dates();
            let days = calendar.working_days(Interval::between(dates.first(), dates.last()), both)?;
            months.push(WorkMonth { first: dates.first(), days, target: None });
        }
        let rate = match target {
            Some(Target { total: amount, rounding, decimals }) => {
                let weights: Vec<u32> =
                    months.iter().map(|month| u32::try_from(month.days.count()).unwrap_or(0)).collect();
                for (month, share) in months.iter_mut().zip(allocate(amount, &weights, decimals)?) {
                    month.target = Some(share);
                }
                let days = u32::try_from(total.count()).unwrap_or(0);
                let (a_day, over) = rate_a_day(amount, days, decimals, rounding)?;
                Some(Rate { total: amount, a_day, rounding, over, decimals })
            }
            None => None,
        };
        let inside = |holiday: &&Holiday| (first..=last).contains(&holiday.date());
        Ok(Self {
            calendar: calendar.name().to_owned(),
            covers: opened.covers(),
            hours: calendar.hours().map(|hours| hours.without(calendar.rest_days()).to_string()),
            rest_days: calendar.rest_days_said(),
            rest_day_changes: calendar.rest_day_changes().to_vec(),
            by_rule: calendar.by_rule_within(DateRange::new(first, last)?),
            rows: WorkRow::of_years(&months, rate),
            months: MarkedMonths {
                months: months.iter().map(|month| MarkedMonth::of(calendar, month.first)).collect(),
                rest_days: calendar.rest_days(),
                marks: Marks::Kinds,
            },
            total,
            holidays: calendar.holidays().iter().filter(inside).cloned().collect(),
            rate,
        })
    }

    /// The calendar's name.
    #[must_use]
    pub fn name(&self) -> &str {
        &self.calendar
    }

    /// The days on which holidays are kept in these years, by date.
    #[must_use]
    pub fn holidays(&self) -> &[Holiday] {
        &self.holidays
    }

    /// What a day of the years is.
    pub(crate) fn kind_of(&self, date: Date) -> Option<DayKind> {
        let months = &self.months.months;
        let month = months.partition_point(|month| month.first <= date).checked_sub(1)?;
        let day = usize::from(date.day()).checked_sub(1)?;
        months.get(month)?.days.get(day).filter(|day| day.date == date)?.kind
    }
}
