//! The working of ages, anniversaries, tenure and rates.

use super::{Anniversaries, Tenure};
use crate::date::Date;
use crate::error::Error;
use crate::interval::{Interval, Measure};
use crate::number::{Decimal, Fraction, Rounding};
use crate::reasoning::Working;
use crate::shift::Unit;
use alloc::format;

impl Anniversaries {
    /// How the age on a date comes about.
    ///
    /// # Errors
    /// Those of [`age_on`](Self::age_on).
    ///
    /// ```
    /// use mild_ledger::Anniversaries;
    /// let born = Anniversaries::of("2004-02-29".parse()?);
    /// assert_eq!(
    ///     born.why_age_on("2026-02-28".parse()?)?.to_string(),
    ///     "age in complete years (29 February: clamp): 2004-02-29 + 22 years = 2026-02-28 (clamped), \
    ///      + 23 years = 2027-02-28 (clamped), after 2026-02-28, so 22"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_age_on(self, date: Date) -> Result<Working, Error> {
        self.age_on(date)?;
        let interval = Interval::between(self.start(), date).with_month_end(self.leap_day())?;
        Ok(interval
            .why_complete(Unit::Year)
            .with_rule(|_| format!("age in complete years (29 February: {})", self.leap_day())))
    }

    /// How the first anniversary on or after a date comes about.
    ///
    /// # Errors
    /// Those of [`next_on_or_after`](Self::next_on_or_after).
    ///
    /// ```
    /// use mild_ledger::Anniversaries;
    /// let hired = Anniversaries::of("2021-03-15".parse()?);
    /// assert_eq!(
    ///     hired.why_next_on_or_after("2026-03-16".parse()?)?.to_string(),
    ///     "anniversary on or after 2026-03-16 (29 February: clamp): 2021-03-15 + 5 years = 2026-03-15, before 2026-03-16, \
    ///      2021-03-15 + 6 years = 2027-03-15"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_next_on_or_after(self, date: Date) -> Result<Working, Error> {
        let found = self.next_on_or_after(date)?;
        let (years, next) = (found.number(), found.date());
        let start = self.start();
        let mut working =
            Working::of_rule(format!("anniversary on or after {date} (29 February: {})", self.leap_day()));
        let word = |years: i32| Unit::Year.word_for(i64::from(years));
        if let Ok(before) = self.number(years - 1) {
            let said = format!("{start} + {} {} = {before}, before {date}", years - 1, word(years - 1));
            working = working.step(said, before);
        }
        Ok(working.step(format!("{start} + {years} {} = {next}", word(years)), next))
    }
}

impl Tenure {
    /// How a measure of the stay comes about as it is on a date: to which day it runs, then the interval's own
    /// working.
    ///
    /// # Errors
    /// Those of [`as_of`](Self::as_of).
    ///
    /// ```
    /// use mild_ledger::{Measure, Tenure};
    /// let stay = Tenure::from("2021-07-31".parse()?);
    /// assert_eq!(
    ///     stay.why("2026-09-30".parse()?, Measure::Parts)?.to_string(),
    ///     "tenure, parts: no end yet, so to 2026-09-30, 2021-07-31 + 5 years 2 months = 2026-09-30 (clamped), \
    ///      0 days on to 2026-09-30, so 5 years and 2 months"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why(self, as_of: Date, measure: Measure) -> Result<Working, Error> {
        let interval = self.as_of(as_of)?;
        let end = interval.end();
        let said = match self.end() {
            None => format!("no end yet, so to {as_of}"),
            Some(left) if left > as_of => format!("the end, {left}, has not come, so to {as_of}"),
            Some(left) => format!("to the end, {left}"),
        };
        let working = interval.why_measure(measure)?;
        let begin = Working::of_rule(format!("tenure, {}", working.rule())).step(said, end);
        Ok(begin.followed_by(working))
    }
}

/// How a quantity per month or year of tenure comes about.
///
/// # Errors
/// Those of [`rate_per`](super::rate_per).
///
/// ```
/// use mild_ledger::{Decimal, Rounding, Tenure, Unit, why_rate_per};
/// let months = Tenure::from("2026-01-01".parse()?).as_of("2026-07-16".parse()?)?.fractional(Unit::Month);
/// assert_eq!(
///     why_rate_per(Decimal::of_units(100_500, 2)?, months, None, 2, Rounding::Nearest)?.to_string(),
///     "rate (rounding: nearest): 1005.00 ÷ (6 + 15/31), 1005.00 × 31 ÷ 201, so 155.00"
/// );
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn why_rate_per(
    quantity: Decimal,
    time: Fraction,
    smallest: Option<Decimal>,
    decimals: u8,
    rounding: Rounding,
) -> Result<Working, Error> {
    let rate = super::rate_per(quantity.into(), time, smallest)?.to_decimal(decimals, rounding)?;
    Ok(Working::of_rule(format!("rate (rounding: {rounding})"))
        .step(format!("{quantity} ÷ ({time})"), time)
        .step(format!("{quantity} × {} ÷ {}", time.denominator(), time.improper_numerator()), quantity)
        .step(format!("so {rate}"), rate))
}
