//! The working days of some years: the facts that the table, the grid and the JSON show.

use mild_ledger::{
    CalendarYears, Date, DateRange, Decimal, Ends, Error, Holiday, Interval, Month, Period, PeriodRule,
    Quotient, Rounding, WorkCalendar, WorkingDays, rate_a_day, spread,
};
use mild_ledger_records::OpenedCalendar;

/// Some years of a calendar, month by month.
#[derive(Debug, Clone)]
pub struct WorkYears {
    pub(crate) calendar: WorkCalendar,
    /// The years that the calendar covers, be they worked out or not.
    pub(crate) covers: Option<CalendarYears>,
    pub(crate) months: Vec<WorkMonth>,
    pub(crate) total: WorkingDays,
    pub(crate) holidays: Vec<Holiday>,
    pub(crate) rate: Option<Rate>,
}

/// One month.
#[derive(Debug, Clone)]
pub(crate) struct WorkMonth {
    pub(crate) period: Period,
    pub(crate) first: Date,
    pub(crate) days: WorkingDays,
    pub(crate) target: Option<Decimal>,
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

/// What some months have of a target; `None` where there is no such number.
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
    pub(crate) fn of(&self, months: &[WorkMonth]) -> RateOfMonths {
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
            let from = dates.first();
            let days = calendar.working_days(Interval::between(from, dates.last()), both)?;
            months.push(WorkMonth { period, first: from, days, target: None });
        }
        let rate = match target {
            Some(Target { total: amount, rounding, decimals }) => {
                let weights: Vec<u32> =
                    months.iter().map(|month| u32::try_from(month.days.count()).unwrap_or(0)).collect();
                for (month, share) in months.iter_mut().zip(spread(amount, &weights, decimals)?) {
                    month.target = Some(share);
                }
                let days = u32::try_from(total.count()).unwrap_or(0);
                let (a_day, over) = rate_a_day(amount, days, decimals, rounding)?;
                Some(Rate { total: amount, a_day, rounding, over, decimals })
            }
            None => None,
        };
        let inside = |holiday: &&Holiday| (first..=last).contains(&holiday.date());
        let holidays = calendar.holidays().iter().filter(inside).cloned().collect();
        let (calendar, covers) = (calendar.clone(), opened.covers());
        Ok(Self { calendar, covers, months, total, holidays, rate })
    }

    /// The calendar's name.
    #[must_use]
    pub fn name(&self) -> &str {
        self.calendar.name()
    }

    /// The days on which holidays are kept in these years, by date.
    #[must_use]
    pub fn holidays(&self) -> &[Holiday] {
        &self.holidays
    }

    /// Every day of the years.
    pub(crate) fn days(&self) -> impl Iterator<Item = Date> + '_ {
        self.months.iter().flat_map(|month| {
            let last = Month::of(month.first).last_day();
            (month.first.day_number()..=last.day_number()).filter_map(|day| Date::from_day_number(day).ok())
        })
    }
}
