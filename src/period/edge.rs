//! The first and the last day of a period, as places that a date is moved to.

use super::PeriodRule;
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use alloc::format;
use core::fmt;

/// The first or the last day of the period that a date lies in.
///
/// ```
/// use mild_ledger::{FiscalYear, PeriodEdge, PeriodRule};
///
/// let date = "2026-02-10".parse()?;
/// assert_eq!(PeriodEdge::end_of(PeriodRule::Month).of(date)?.to_string(), "2026-02-28");
/// let fiscal = PeriodRule::FiscalYear(FiscalYear::starting(4, 6)?);
/// assert_eq!(PeriodEdge::end_of(fiscal).of(date)?.to_string(), "2026-04-05");
/// assert_eq!(PeriodEdge::start_of(fiscal).to_string(), "fiscal year start");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct PeriodEdge {
    rule: PeriodRule,
    side: Side,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Side {
    Start,
    End,
}

impl PeriodEdge {
    /// The first day of a kind of period.
    ///
    /// ```
    /// use mild_ledger::{PeriodEdge, PeriodRule};
    /// assert_eq!(PeriodEdge::start_of(PeriodRule::Quarter).of("2026-08-20".parse()?)?.to_string(), "2026-07-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn start_of(rule: PeriodRule) -> Self {
        Self { rule, side: Side::Start }
    }

    /// The last day of a kind of period.
    ///
    /// ```
    /// use mild_ledger::{PeriodEdge, PeriodRule};
    /// assert_eq!(PeriodEdge::end_of(PeriodRule::Quarter).of("2026-08-20".parse()?)?.to_string(), "2026-09-30");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn end_of(rule: PeriodRule) -> Self {
        Self { rule, side: Side::End }
    }

    /// Both edges of some kinds of periods, with the words for them, such as `month end`.
    ///
    /// ```
    /// use mild_ledger::{PeriodEdge, PeriodRule};
    /// let words: Vec<String> = PeriodEdge::all([PeriodRule::Month]).map(|edge| edge.to_string()).collect();
    /// assert_eq!(words, ["month start", "month end"]);
    /// ```
    pub fn all(rules: impl IntoIterator<Item = PeriodRule>) -> impl Iterator<Item = Self> {
        rules.into_iter().flat_map(|rule| [Self::start_of(rule), Self::end_of(rule)])
    }

    /// That day of the period that a date lies in.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it lies outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::{Date, PeriodEdge, PeriodRule, Weekday};
    /// assert!(PeriodEdge::end_of(PeriodRule::Week(Weekday::Monday)).of(Date::MAX).is_err());
    /// ```
    pub fn of(self, date: Date) -> Result<Date, Error> {
        Date::in_range(self.day_number_of(date.day_number().into())).ok_or_else(|| {
            let what = format!("the {self} of {date} lies outside the years 0001 to 9999");
            Error::new(ErrorKind::OutOfRange, what, "0001-01-01 to 9999-12-31")
        })
    }

    /// The same for a day that may lie outside the range of dates.
    pub(crate) fn day_number_of(self, day: i64) -> i64 {
        let (first, last) = self.rule.bounds_around(day.clamp(i32::MIN.into(), i32::MAX.into()) as i32);
        match self.side {
            Side::Start => first,
            Side::End => last,
        }
    }
}

impl fmt::Display for PeriodEdge {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let side = match self.side {
            Side::Start => "start",
            Side::End => "end",
        };
        f.pad(&format!("{} {side}", self.rule.word()))
    }
}
