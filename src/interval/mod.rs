//! The time between two dates, or two date-times, in the ways that reports count it.

mod clock_interval;
mod count;
mod day_count;
pub(crate) mod lanes;
mod measure;
mod parts;
mod split;
mod why;

use crate::date::{Date, Weekday};
use crate::error::{Error, ErrorKind};
use crate::number::Fraction;
use crate::shift::{MonthEnd, Unit};
use alloc::format;
pub use clock_interval::{ClockInterval, ClockMeasure, HoursOf};
pub use count::{Count, CountRule, Ends, Way};
pub use day_count::{DayCount, MeanMonth};
pub use measure::{Figure, Measure};
pub use parts::Parts;
pub use split::Share;

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
    month_end: MonthEnd,
    ends: Ends,
    week_begins: Weekday,
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
        Self {
            start,
            end,
            month_end: MonthEnd::Clamp,
            ends: Ends::OF_ELAPSED_TIME,
            week_begins: Weekday::Monday,
        }
    }

    /// The same interval counted under another rule for month ends: it decides complete units, fractional units
    /// and parts. [`MonthEnd::Clamp`] is the default, [`MonthEnd::Keep`] is for contracts and schedules, and
    /// [`MonthEnd::NextStart`] lets a 29 February come round on 1 March.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] for [`MonthEnd::Refuse`], under which there would be nothing to count.
    ///
    /// ```
    /// # use mild_ledger::{Interval, MonthEnd};
    /// let interval = Interval::between("2026-02-28".parse()?, "2026-08-31".parse()?);
    /// assert_eq!(interval.parts().to_string(), "6 months and 3 days");
    /// assert_eq!(interval.with_month_end(MonthEnd::Keep)?.parts().to_string(), "6 months");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_month_end(self, rule: MonthEnd) -> Result<Self, Error> {
        if rule == MonthEnd::Refuse {
            return Err(Error::new(
                ErrorKind::NotAllowed,
                "an interval cannot be counted under \"refuse\"",
                "clamp, keep or next-start",
            ));
        }
        Ok(Self { month_end: rule, ..self })
    }

    /// The same interval under other ends: with [`Ends::FirstAndLast`] its first and its last day are both counted, and
    /// every unit is counted to the day after the later date.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] for [`Ends::First`] and [`Ends::Neither`], which are for days and working days:
    /// [`days_counting`](Self::days_counting).
    ///
    /// ```
    /// # use mild_ledger::{Ends, Interval, Unit};
    /// let contract = Interval::between("2026-01-01".parse()?, "2026-12-31".parse()?);
    /// assert_eq!(contract.complete(Unit::Year).value(), 0);
    /// assert_eq!(contract.with_ends(Ends::FirstAndLast)?.complete(Unit::Year).value(), 1);
    /// assert!(contract.with_ends(Ends::Neither).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_ends(self, ends: Ends) -> Result<Self, Error> {
        match ends {
            Ends::Last | Ends::FirstAndLast => Ok(Self { ends, ..self }),
            Ends::First | Ends::Neither => {
                let what = format!("the ends \"{ends}\" are for days and working days only");
                Err(Error::new(ErrorKind::NotAllowed, what, "last or first-and-last"))
            }
        }
    }

    /// An interval between other dates, counted in the same way.
    pub(crate) fn of_dates(self, start: Date, end: Date) -> Self {
        Self { start, end, ..self }
    }

    /// The same interval with weeks that start on another day than Monday; it decides the week starts passed.
    ///
    /// ```
    /// # use mild_ledger::{Interval, Unit, Weekday};
    /// let interval = Interval::between("2026-10-03".parse()?, "2026-10-04".parse()?);
    /// assert_eq!(interval.starts_passed(Unit::Week).value(), 0);
    /// assert_eq!(interval.with_weeks_beginning(Weekday::Sunday).starts_passed(Unit::Week).value(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_weeks_beginning(self, weekday: Weekday) -> Self {
        Self { week_begins: weekday, ..self }
    }

    /// The day that its weeks start on.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Weekday};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).week_begins(), Weekday::Monday);
    /// ```
    #[must_use]
    pub fn week_begins(self) -> Weekday {
        self.week_begins
    }

    /// Which ends its figures count: [`Ends::Last`], or [`Ends::FirstAndLast`] where [`with_ends`](Self::with_ends) states that.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).with_ends(Ends::FirstAndLast)?.ends(), Ends::FirstAndLast);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn ends(self) -> Ends {
        self.ends
    }

    /// The rule for month ends that its figures are counted by.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, MonthEnd};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).month_end(), MonthEnd::Clamp);
    /// ```
    #[must_use]
    pub fn month_end(self) -> MonthEnd {
        self.month_end
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
        let (first, last) = (self.start.min(self.end), self.start.max(self.end));
        let sign = if self.start <= self.end { 1 } else { -1 };
        let difference = i64::from(last.day_number()) - i64::from(first.day_number());
        let days = match ends {
            Ends::Last | Ends::First => difference,
            Ends::FirstAndLast => difference + 1,
            Ends::Neither => (difference - 1).max(0),
        };
        // One day counts as one whichever way it is looked at.
        let sign = if difference == 0 { 1 } else { sign };
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

    /// The unit starts passed: how many first days of a unit lie after the earlier date, up to and including the
    /// later one. Weeks start on Monday unless [`with_weeks_beginning`](Self::with_weeks_beginning) says otherwise.
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
        Count::new(i64::from(self.figure(rule)), rule, self.ends())
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
        let (months, days) = lanes::months_and_days(self.month_end, first, last);
        let sign = sign as i32;
        Parts::new(sign * (months / 12), sign * (months % 12), sign * days)
    }

    /// Complete units and the days left over as a fraction of the unit that is running: the days from the
    /// earlier date moved by the complete units to it moved by one more.
    ///
    /// ```
    /// # use mild_ledger::{Interval, MonthEnd, Unit};
    /// let interval = Interval::between("2015-06-30".parse()?, "2016-12-31".parse()?);
    /// assert_eq!(interval.fractional(Unit::Month).to_string(), "18 + 1/31");
    /// assert_eq!(interval.with_month_end(MonthEnd::Keep)?.fractional(Unit::Month).to_string(), "18");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn fractional(self, unit: Unit) -> Fraction {
        let (first, last, sign) = self.in_order();
        let days = i64::from(last) - i64::from(first);
        let months = match unit {
            Unit::Day => return Fraction::new(days, 0, 1).with_sign(sign),
            Unit::Week => return Fraction::of_quotient(days, 7).with_sign(sign),
            Unit::Month => 1,
            Unit::Quarter => 3,
            Unit::HalfYear => 6,
            Unit::Year => 12,
        };
        let complete = i64::from(self.complete_months(first, last)) / months;
        let reached = self.moved_by_months(first, complete * months);
        let next = self.moved_by_months(first, (complete + 1) * months);
        Fraction::new(complete, i64::from(last) - reached, next - reached).with_sign(sign)
    }

    /// The fraction of a year by a convention of the trade, as days over the convention's year; negative where
    /// the end lies before the start. The rule for month ends has no part in it.
    ///
    /// ```
    /// # use mild_ledger::{DayCount, Interval};
    /// let interval = Interval::between("2023-12-01".parse()?, "2024-03-01".parse()?);
    /// assert_eq!(interval.year_fraction(DayCount::ActualActualIsda).to_string(), "5541/22265");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn year_fraction(self, convention: DayCount) -> Fraction {
        let (first, last, sign) = self.in_order();
        convention.between(first, last).with_sign(sign)
    }

    /// The days in mean months of a calendar, exactly; negative where the end lies before the start.
    ///
    /// ```
    /// # use mild_ledger::{Interval, MeanMonth};
    /// let cycle = Interval::between("2000-01-01".parse()?, "2400-01-01".parse()?);
    /// assert_eq!(cycle.mean_months(MeanMonth::Gregorian).to_string(), "4800");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn mean_months(self, mean: MeanMonth) -> Fraction {
        let (first, last, sign) = self.in_order();
        mean.of_days(i64::from(last) - i64::from(first)).with_sign(sign)
    }

    /// The bare number of [`count`](Self::count).
    fn figure(self, rule: CountRule) -> i32 {
        let (first, last, sign) = self.in_order();
        let offset = self.week_begins.days_from_monday() as i32;
        let figure = match (rule.way(), rule.unit()) {
            (_, Unit::Day) => last - first,
            (Way::Complete, Unit::Week) => (last - first) / 7,
            (Way::Complete, Unit::Month) => self.complete_months(first, last),
            (Way::Complete, Unit::Quarter) => self.complete_months(first, last) / 3,
            (Way::Complete, Unit::HalfYear) => self.complete_months(first, last) / 6,
            (Way::Complete, Unit::Year) => self.complete_months(first, last) / 12,
            (Way::StartsPassed, Unit::Week) => lanes::week_of(last, offset) - lanes::week_of(first, offset),
            (Way::StartsPassed, Unit::Month) => starts_passed::<1>(first, last),
            (Way::StartsPassed, Unit::Quarter) => starts_passed::<3>(first, last),
            (Way::StartsPassed, Unit::HalfYear) => starts_passed::<6>(first, last),
            (Way::StartsPassed, Unit::Year) => starts_passed::<12>(first, last),
        };
        figure * sign as i32
    }

    /// The day numbers counted between, the earlier first, and −1 where they were swapped. The later may be the
    /// day after the last date there is.
    #[inline]
    fn in_order(self) -> (i32, i32, i64) {
        let through = i32::from(self.ends == Ends::FirstAndLast);
        let (first, last, sign) = lanes::in_order(self.start.day_number(), self.end.day_number(), through);
        (first, last, i64::from(sign))
    }

    /// Months by which `first` can be moved without passing `last`, which is not before it.
    #[inline]
    fn complete_months(self, first: i32, last: i32) -> i32 {
        lanes::complete_months(self.month_end, first, last)
    }

    /// Days since the first day of its week, 0 to 6.
    fn days_into_week(self, day_number: i32) -> i64 {
        let from_monday = Weekday::of_day_number(day_number).days_from_monday();
        (from_monday - self.week_begins.days_from_monday()).rem_euclid(7)
    }

    /// The day number of `first` moved by months; it may lie outside the range of dates.
    fn moved_by_months(self, first: i32, months: i64) -> i64 {
        // Months between two dates are few enough never to miss, and refuse is not allowed here.
        self.month_end.day_number_after_months(first, months).unwrap_or(i64::from(first))
    }
}

/// First days of periods of a number of months after one day, up to and including another.
fn starts_passed<const MONTHS: i32>(first: i32, last: i32) -> i32 {
    lanes::period_of_months::<MONTHS>(last) - lanes::period_of_months::<MONTHS>(first)
}
