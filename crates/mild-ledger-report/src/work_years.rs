//! The working days of some years: the facts that the table, the grid and the JSON show.

use mild_ledger::{
    Date, Decimal, Ends, Error, Holiday, Interval, Month, Period, PeriodRule, Rounding, WorkCalendar,
    WorkingDays, rate_a_day, spread,
};

/// Some years of a calendar, month by month.
#[derive(Debug, Clone)]
pub struct WorkYears {
    pub(crate) calendar: WorkCalendar,
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
}

/// A rate a day.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Rate {
    pub(crate) total: Decimal,
    pub(crate) a_day: Decimal,
    pub(crate) rounding: Rounding,
    /// How far the rate times the days lies above the total.
    pub(crate) over: Decimal,
}

impl WorkYears {
    /// The years from a first to a last.
    ///
    /// # Errors
    /// Where the calendar does not cover them, or the target cannot be spread.
    pub fn of(calendar: &WorkCalendar, years: (i32, i32), target: Option<Target>) -> Result<Self, Error> {
        let (first, last) = (Date::new(years.0, 1, 1)?, Date::new(years.1, 12, 31)?);
        let both = Ends::FirstAndLast;
        let total = calendar.working_days(Interval::between(first, last), both)?;
        let mut months = Vec::new();
        for period in PeriodRule::Month.covering(first, last) {
            let from = period.first_day()?;
            let days = calendar.working_days(Interval::between(from, Month::of(from).last_day()), both)?;
            months.push(WorkMonth { period, first: from, days, target: None });
        }
        let rate = match target {
            Some(Target { total: amount, rounding }) => {
                let weights: Vec<u32> =
                    months.iter().map(|month| u32::try_from(month.days.count()).unwrap_or(0)).collect();
                for (month, share) in months.iter_mut().zip(spread(amount, &weights, amount.decimals())?) {
                    month.target = Some(share);
                }
                let days = u32::try_from(total.count()).unwrap_or(0);
                let (a_day, over) = rate_a_day(amount, days, amount.decimals(), rounding)?;
                Some(Rate { total: amount, a_day, rounding, over })
            }
            None => None,
        };
        let inside = |holiday: &&Holiday| (first..=last).contains(&holiday.date());
        let holidays = calendar.holidays().iter().filter(inside).cloned().collect();
        Ok(Self { calendar: calendar.clone(), months, total, holidays, rate })
    }

    /// The days on which holidays are kept in these years, by date.
    #[must_use]
    pub fn holidays(&self) -> &[Holiday] {
        &self.holidays
    }
}
