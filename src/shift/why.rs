//! The working of a move.

use super::{MonthEnd, Shift, Unit, clock_amounts};
use crate::date::{Date, DateTime, year_month_day};
use crate::error::Error;
use crate::reasoning::Working;
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::String;

impl Shift {
    /// How the date so far away comes about: the months first, then the days.
    ///
    /// # Errors
    /// Those of [`apply`](Self::apply).
    ///
    /// ```
    /// use mild_ledger::Shift;
    /// let shift: Shift = "1 year 1 month 3 days".parse()?;
    /// assert_eq!(
    ///     shift.why("2024-02-29".parse()?)?.to_string(),
    ///     "months first (month end: clamp), then days: \
    ///      2024-02-29 + 13 months = 2025-03-29, 2025-03-29 + 3 days = 2025-04-01"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why(&self, date: Date) -> Result<Working, Error> {
        let end = self.apply(date)?;
        let by_months = Self { days: 0, ..*self };
        let by_days = Self { months: 0, ..*self };
        let rule = match (self.months, self.days) {
            (0, _) => "days".to_owned(),
            (_, 0) => format!("months (month end: {})", self.month_end),
            _ => format!("months first (month end: {}), then days", self.month_end),
        };
        let working = Working::of_rule(rule);
        if self.months == 0 {
            return Ok(working.step(format!("{date} {} = {end}", signed(self.days, Unit::Day)), end));
        }
        let months = signed(self.months, Unit::Month);
        // A date on the way may lie outside the years there are; then only the whole is shown.
        let Ok(between) = by_months.apply(date) else {
            return Ok(working.step(format!("{date} {months} {} = {end}", signed(self.days, Unit::Day)), end));
        };
        let note = by_months.note_on(date, between);
        let working = working.step(format!("{date} {months} = {between}{note}"), between);
        if self.days == 0 {
            return Ok(working);
        }
        Ok(working.step(format!("{between} {} = {end}", signed(by_days.days, Unit::Day)), end))
    }

    /// How the date-time so far away comes about: the date first, then the clock.
    ///
    /// # Errors
    /// Those of [`apply_at`](Self::apply_at).
    ///
    /// ```
    /// use mild_ledger::Shift;
    /// let shift: Shift = "1 month 36h".parse()?;
    /// assert_eq!(
    ///     shift.why_at("2026-01-31T12:00".parse()?)?.to_string(),
    ///     "months (month end: clamp), then hours of the clock: \
    ///      2026-01-31 + 1 month = 2026-02-28 (clamped: 2026-02 has 28 days), \
    ///      2026-02-28T12:00:00 + 36 hours = 2026-03-02T00:00:00"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_at(&self, at: DateTime) -> Result<Working, Error> {
        let end = self.apply_at(at)?;
        let (dates, clock) = self.parted();
        // A date on the way may lie outside the years there are; then only the whole is shown.
        let Ok(between) = dates.apply(at.date()) else {
            return Ok(Working::of_rule("dates, then hours of the clock")
                .step(format!("{at} moved by {self} = {end}"), end));
        };
        let moves_date = self.months != 0 || self.days != 0;
        let mut working = match (moves_date, clock.microseconds) {
            (true, 0) => dates.why(at.date())?,
            (true, _) => {
                let by_date = dates.why(at.date())?;
                by_date.with_rule(|rule| format!("{rule}, then hours of the clock"))
            }
            (false, _) => Working::of_rule("hours of the clock"),
        };
        let between = DateTime::new(between, at.time());
        working = match clock.microseconds {
            0 => working.step(format!("its time kept: {end}"), end),
            amount => {
                let sign = if amount < 0 { '-' } else { '+' };
                let said = clock_amounts(amount.saturating_abs()).join(" ");
                working.step(format!("{between} {sign} {said} = {end}"), end)
            }
        };
        Ok(working)
    }

    /// What the rule for month ends did, where it did something.
    fn note_on(&self, from: Date, to: Date) -> String {
        let (from_year, from_month, from_day) = from.year_month_day();
        let (to_year, to_month, to_day) = to.year_month_day();
        if from_day == to_day {
            return String::new();
        }
        let length = year_month_day::month_length(to_year, to_month);
        match self.month_end {
            MonthEnd::Keep if from_day == year_month_day::month_length(from_year, from_month) => {
                " (month end kept)".to_owned()
            }
            MonthEnd::NextStart => format!(" (the month before has no day {from_day})"),
            _ => format!(" (clamped: {to_year:04}-{to_month:02} has {length} days)"),
        }
    }
}

/// `+ 3 days` or `- 1 month`.
fn signed(amount: i64, unit: Unit) -> String {
    let sign = if amount < 0 { '-' } else { '+' };
    format!("{sign} {} {}", amount.unsigned_abs(), unit.word_for(amount))
}
