//! An interval shared out over periods.

use super::{Ends, Fraction, Interval};
use crate::date::{Date, year_month_day};
use crate::period::{DateRange, Month, Period, PeriodRule};
use crate::reasoning::Working;
use crate::shift::Unit;
use alloc::format;
use alloc::string::String;
use alloc::vec;
use alloc::vec::Vec;

/// What a split gives to one period.
///
/// ```
/// use mild_ledger::{Ends, Interval, PeriodRule};
/// let interval = Interval::between("2026-01-15".parse()?, "2026-03-10".parse()?);
/// let shares = interval.split(PeriodRule::Month, Ends::FirstAndLast);
/// let days: Vec<(String, i64)> = shares.iter().map(|share| (share.period().label(), share.days())).collect();
/// assert_eq!(days, [("2026-01".into(), 17), ("2026-02".into(), 28), ("2026-03".into(), 10)]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Share {
    period: Period,
    days: i64,
}

impl Share {
    pub(crate) fn new(period: Period, days: i64) -> Self {
        Self { period, days }
    }

    /// The period.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, PeriodRule};
    /// let shares = Interval::between(Date::MIN, Date::MIN).split(PeriodRule::Year, Ends::Last);
    /// assert_eq!(shares[0].period().label(), "0001");
    /// ```
    #[must_use]
    pub fn period(&self) -> &Period {
        &self.period
    }

    /// The days of the interval that lie in it; negative where the end lies before the start.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval, PeriodRule};
    /// let shares = Interval::between(Date::MIN, Date::MIN).split(PeriodRule::Year, Ends::Last);
    /// assert_eq!(shares[0].days(), 0);
    /// ```
    #[must_use]
    pub fn days(&self) -> i64 {
        self.days
    }
}

impl Interval {
    /// The days of the interval in each of the periods that it touches, in their order: they sum to
    /// [`days_counting`](Self::days_counting) the same ends. There is at least one share; where no day is counted it
    /// is that of the earlier date's period, with 0 days.
    ///
    /// ```
    /// use mild_ledger::{Ends, Interval, PeriodRule};
    /// let back = Interval::between("2026-02-02".parse()?, "2026-01-30".parse()?);
    /// let days: Vec<i64> = back.split(PeriodRule::Month, Ends::Last).iter().map(|share| share.days()).collect();
    /// assert_eq!(days, [-1, -2]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn split(self, rule: PeriodRule, ends: Ends) -> Vec<Share> {
        let Some(counted) = self.days_counted(ends) else {
            return vec![Share { period: rule.containing(self.start.min(self.end)), days: 0 }];
        };
        rule.covering(counted)
            .map(|period| Share { period, days: self.days_within(period.dates(), ends) })
            .collect()
    }

    /// The days of the interval that lie in a stretch of days.
    ///
    /// ```
    /// use mild_ledger::{DateRange, Ends, Interval};
    /// let hire = Interval::between("2026-08-20".parse()?, "2026-10-05".parse()?);
    /// let september = DateRange::new("2026-09-01".parse()?, "2026-09-30".parse()?)?;
    /// assert_eq!(hire.days_within(september, Ends::Last), 30);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days_within(self, days: DateRange, ends: Ends) -> i64 {
        let days =
            self.days_counted(ends).and_then(|counted| counted.overlap(days)).map_or(0, DateRange::days);
        // One day counts as one whichever way it is looked at.
        if self.end < self.start { -days } else { days }
    }

    /// The calendar-month fraction: the sum over the months of the interval's days in each ÷ its length, under the
    /// interval's [`ends`](Self::ends).
    ///
    /// ```
    /// use mild_ledger::{Ends, Interval};
    /// let interval = Interval::between("2026-01-15".parse()?, "2026-03-10".parse()?).with_ends(Ends::FirstAndLast)?;
    /// assert_eq!(interval.calendar_months().to_string(), "1 + 27/31"); // 17/31 + 1 + 10/31
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn calendar_months(self) -> Fraction {
        let Some(counted) = self.days_counted(self.ends()) else { return Fraction::ZERO };
        let pieces = MonthPieces::of(counted);
        let parts =
            pieces.parts.into_iter().flatten().map(|(days, of)| days * (ALL_MONTHS / of)).sum::<i64>();
        let sum = Fraction::of_quotient(pieces.whole_months * ALL_MONTHS + parts, ALL_MONTHS);
        sum.with_sign(if self.end < self.start { -1 } else { 1 })
    }

    /// How the calendar-month fraction comes about: the parts of the first and the last month, and those between.
    ///
    /// ```
    /// use mild_ledger::{Ends, Interval};
    /// let interval = Interval::between("2026-01-15".parse()?, "2026-03-10".parse()?).with_ends(Ends::FirstAndLast)?;
    /// assert_eq!(
    ///     interval.why_calendar_months().to_string(),
    ///     "calendar months (ends: first-and-last): 17 of the 31 days of 2026-01, 1 whole month, \
    ///      10 of the 31 days of 2026-03, so 1 + 27/31"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why_calendar_months(self) -> Working {
        let figure = self.calendar_months();
        let mut working = Working::of_rule(format!("calendar months (ends: {})", self.ends()));
        let Some(counted) = self.days_counted(self.ends()) else {
            return working.step("no day is counted, so 0", figure);
        };
        if self.end < self.start {
            working =
                working.step("the end lies before the start, so counted from the end and negated", self.end);
        }
        let pieces = MonthPieces::of(counted);
        let part =
            |(days, of): (i64, i64), month: Date| format!("{days} of the {of} days of {}", label(month));
        if let Some(piece) = pieces.parts[0] {
            working = working.step(part(piece, counted.first()), piece.0);
        }
        if pieces.whole_months > 0 {
            let word = Unit::Month.word_for(pieces.whole_months);
            working = working.step(format!("{} whole {word}", pieces.whole_months), pieces.whole_months);
        }
        if let Some(piece) = pieces.parts[1] {
            working = working.step(part(piece, counted.last()), piece.0);
        }
        working.step(format!("so {figure}"), figure)
    }

    /// The days that count under these ends; `None` where none does.
    ///
    /// ```
    /// use mild_ledger::{Ends, Interval};
    /// let interval = Interval::between("2026-09-30".parse()?, "2026-09-28".parse()?);
    /// let days = interval.days_counted(Ends::Last).map(|days| days.to_string());
    /// assert_eq!(days, Some("2026-09-29 to 2026-09-30".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days_counted(self, ends: Ends) -> Option<DateRange> {
        let (first, last) = (self.start.min(self.end).day_number(), self.start.max(self.end).day_number());
        let (first, last) = match ends {
            Ends::FirstAndLast => (first, last),
            Ends::Last => (first + 1, last),
            Ends::First => (first, last - 1),
            Ends::Neither => (first + 1, last - 1),
        };
        let days = || DateRange::between(Date::of_checked_day(first), Date::of_checked_day(last));
        (first <= last).then(days)
    }
}

/// A number that the length of every month divides: 28 and 30, 29, 31.
const ALL_MONTHS: i64 = 4 * 7 * 15 * 29 * 31;

/// A stretch of days by calendar months: a part of the first and of the last, and whole ones.
struct MonthPieces {
    /// Days, and the days of their month.
    parts: [Option<(i64, i64)>; 2],
    whole_months: i64,
}

impl MonthPieces {
    fn of(days: DateRange) -> Self {
        let (first, last) = (days.first(), days.last());
        let ((from_year, from_month, from_day), (to_year, to_month, to_day)) =
            (first.year_month_day(), last.year_month_day());
        let (from_length, to_length) =
            (i64::from(Month::of(first).length_in_days()), i64::from(Month::of(last).length_in_days()));
        let (from_day, to_day) = (i64::from(from_day), i64::from(to_day));
        let months = year_month_day::month_index(to_year, to_month)
            - year_month_day::month_index(from_year, from_month);
        let piece = |days: i64, of: i64| (days < of).then_some((days, of));
        if months == 0 {
            let part = piece(to_day - from_day + 1, from_length);
            return Self { parts: [part, None], whole_months: i64::from(part.is_none()) };
        }
        let parts = [piece(from_length - from_day + 1, from_length), piece(to_day, to_length)];
        let whole_ends = parts.iter().filter(|part| part.is_none()).count() as i64;
        Self { parts, whole_months: months - 1 + whole_ends }
    }
}

fn label(date: Date) -> String {
    PeriodRule::Month.containing(date).label()
}
