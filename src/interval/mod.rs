//! The time between two dates, in the ways that reports count it.

mod count;
mod parts;

use crate::date::{Date, Weekday, civil};
use crate::shift::Unit;
pub use count::{Count, CountRule, Ends, Way};
pub use parts::Parts;

/// The time from one date to another.
///
/// Where the end lies before the start, the two are swapped, counted from the earlier date, and the figure is
/// negated: every way of counting only changes its sign.
///
/// ```
/// use mild_ledger::{Interval, Unit};
///
/// let (start, end) = ("2026-03-15".parse()?, "2026-05-14".parse()?);
/// assert_eq!(Interval::between(start, end).complete(Unit::Month).value(), 1);
/// assert_eq!(Interval::between(start, end).starts_passed(Unit::Month).value(), 2);
/// assert_eq!(Interval::between(end, start).complete(Unit::Month).value(), -1);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Interval {
    start: Date,
    end: Date,
}

impl Interval {
    /// The interval from a start to an end, which may be before it.
    ///
    /// ```
    /// use mild_ledger::Interval;
    /// let day = "2026-09-30".parse()?;
    /// assert_eq!(Interval::between(day, day).days().value(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn between(start: Date, end: Date) -> Self {
        Self { start, end }
    }

    /// The start it was made with.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).start(), Date::MIN);
    /// ```
    #[must_use]
    pub fn start(self) -> Date {
        self.start
    }

    /// The end it was made with.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).end(), Date::MAX);
    /// ```
    #[must_use]
    pub fn end(self) -> Date {
        self.end
    }

    /// The days from the start to the end, the last day counted and the first not.
    ///
    /// ```
    /// # use mild_ledger::Interval;
    /// let february = Interval::between("2024-02-01".parse()?, "2024-03-01".parse()?);
    /// assert_eq!(february.days().value(), 29);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days(self) -> Count {
        self.count(CountRule::DAYS)
    }

    /// The days of the interval, with its first and last day counted or not, as named.
    ///
    /// An interval of one day counts 1 with [`Ends::FirstAndLast`] and 0 otherwise.
    ///
    /// ```
    /// # use mild_ledger::{Ends, Interval};
    /// let september = Interval::between("2026-09-01".parse()?, "2026-09-30".parse()?);
    /// assert_eq!(september.days_counting(Ends::FirstAndLast).value(), 30);
    /// assert_eq!(september.days_counting(Ends::Neither).value(), 28);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days_counting(self, ends: Ends) -> Count {
        let (first, last, sign) = self.in_order();
        let difference = i64::from(last.day_number()) - i64::from(first.day_number());
        let days = match ends {
            Ends::Last | Ends::First => difference,
            Ends::FirstAndLast => difference + 1,
            Ends::Neither => (difference - 1).max(0),
        };
        Count::new(days * sign, CountRule::DAYS, ends)
    }

    /// The complete units: the largest number of them by which the earlier date can be moved without passing
    /// the later one, a day that a month lacks becoming its last.
    ///
    /// ```
    /// # use mild_ledger::{Interval, Unit};
    /// let months = |start: &str, end: &str| -> Result<i64, mild_ledger::Error> {
    ///     Ok(Interval::between(start.parse()?, end.parse()?).complete(Unit::Month).value())
    /// };
    /// assert_eq!(months("2026-01-31", "2026-02-28")?, 1);
    /// assert_eq!(months("2024-01-31", "2024-02-28")?, 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn complete(self, unit: Unit) -> Count {
        self.count(CountRule::new(Way::Complete, unit))
    }

    /// The unit starts passed: how many first days of a unit lie after the earlier date, up to and with the
    /// later one. Weeks start on Monday.
    ///
    /// ```
    /// # use mild_ledger::{Interval, Unit};
    /// let new_year = Interval::between("2025-12-31".parse()?, "2026-01-01".parse()?);
    /// assert_eq!(new_year.starts_passed(Unit::Year).value(), 1);
    /// assert_eq!(new_year.complete(Unit::Year).value(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn starts_passed(self, unit: Unit) -> Count {
        self.count(CountRule::new(Way::StartsPassed, unit))
    }

    /// The figure under a rule named elsewhere, such as in a plan.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Interval};
    /// let rule: CountRule = "complete months".parse()?;
    /// let interval = Interval::between("2019-11-30".parse()?, "2022-01-02".parse()?);
    /// assert_eq!(interval.count(rule).to_string(), "25 complete months");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn count(self, rule: CountRule) -> Count {
        Count::new(i64::from(self.figure(rule)), rule, Ends::Last)
    }

    /// Complete years, months left over, and days left over.
    ///
    /// ```
    /// # use mild_ledger::Interval;
    /// let parts = Interval::between("2012-05-20".parse()?, "2021-07-04".parse()?).parts();
    /// assert_eq!((parts.years(), parts.months(), parts.days()), (9, 1, 14));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn parts(self) -> Parts {
        let (first, last, sign) = self.in_order();
        let months = complete_months(first, last);
        let (year, month, day) = first.civil();
        let (to_year, to_month) = civil::month_of_index(civil::month_index(year, month) + i64::from(months));
        // At or before the last date, so inside the range.
        let to_year = to_year as i32;
        let reached =
            Date::of_known_parts(to_year, to_month, day.min(civil::month_length(to_year, to_month)));
        let days = last.day_number() - reached.day_number();
        let sign = sign as i32;
        Parts::new(sign * (months / 12), sign * (months % 12), sign * days)
    }

    /// The bare number of [`count`](Self::count), for loops over columns.
    pub(crate) fn figure(self, rule: CountRule) -> i32 {
        let (first, last, sign) = self.in_order();
        let days = last.day_number() - first.day_number();
        let figure = match (rule.way(), rule.unit()) {
            (_, Unit::Day) => days,
            (Way::Complete, Unit::Week) => days / 7,
            (Way::Complete, Unit::Month) => complete_months(first, last),
            (Way::Complete, Unit::Quarter) => complete_months(first, last) / 3,
            (Way::Complete, Unit::HalfYear) => complete_months(first, last) / 6,
            (Way::Complete, Unit::Year) => complete_months(first, last) / 12,
            (Way::StartsPassed, Unit::Week) => week_index(last) - week_index(first),
            (Way::StartsPassed, Unit::Month) => periods_of_months(last, 1) - periods_of_months(first, 1),
            (Way::StartsPassed, Unit::Quarter) => periods_of_months(last, 3) - periods_of_months(first, 3),
            (Way::StartsPassed, Unit::HalfYear) => periods_of_months(last, 6) - periods_of_months(first, 6),
            (Way::StartsPassed, Unit::Year) => periods_of_months(last, 12) - periods_of_months(first, 12),
        };
        figure * sign as i32
    }

    /// The earlier date, the later date, and −1 where they were swapped.
    fn in_order(self) -> (Date, Date, i64) {
        if self.start <= self.end { (self.start, self.end, 1) } else { (self.end, self.start, -1) }
    }
}

/// Months by which `first` can be moved (clamped) without passing `last`, which is not before it.
fn complete_months(first: Date, last: Date) -> i32 {
    let (from_year, from_month, from_day) = first.civil();
    let (to_year, to_month, to_day) = last.civil();
    let months = (to_year - from_year) * 12 + i32::from(to_month) - i32::from(from_month);
    let reached = to_day >= from_day.min(civil::month_length(to_year, to_month));
    months - i32::from(!reached)
}

/// The number of the week that a date lies in, weeks counted from a Monday long ago.
fn week_index(date: Date) -> i32 {
    let from_monday = Weekday::of_day_number(date.day_number()).days_from_monday() as i32;
    (date.day_number() - from_monday).div_euclid(7)
}

/// The number of the period of so many months that a date lies in, counted from year 0.
fn periods_of_months(date: Date, months: i64) -> i32 {
    let (year, month, _) = date.civil();
    (civil::month_index(year, month) / months) as i32
}
