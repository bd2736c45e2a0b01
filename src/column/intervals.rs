//! Counting between two columns of dates.

use super::lanes::{from_ends, three_from_ends};
use super::{CountColumn, Dates, FractionColumn, Mask, PartsColumn};
use crate::date::{Date, Weekday};
use crate::error::{Error, ErrorKind};
use crate::interval::lanes::{complete_months, in_order, months_and_days, period_of_months, week_of};
use crate::interval::{CountRule, DayCount, Ends, Interval, MeanMonth, Way};
use crate::number::Fraction;
use crate::shift::{MonthEnd, Unit};

/// Intervals from a start to an end in each of so many rows, and how they are counted.
///
/// Each function gives for a row what [`Interval`] gives for one; a row is empty where either end is.
///
/// ```
/// use mild_ledger::column::{DateColumn, Dates, Intervals};
///
/// let starts: DateColumn = [Some("2026-01-31".parse()?), None].into_iter().collect();
/// let end = "2026-03-01".parse()?;
/// let intervals = Intervals::between(Dates::Column(&starts), Dates::Every(end), 2)?;
/// let months = intervals.count("complete months".parse()?);
/// assert_eq!((months.get(0), months.get(1)), (Some(1), None));
/// assert_eq!(intervals.parts().get(0).map(|parts| parts.to_string()), Some("1 month and 1 day".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy)]
pub struct Intervals<'c> {
    starts: Dates<'c>,
    ends: Dates<'c>,
    rows: usize,
    month_end: MonthEnd,
    counted: Ends,
    week_start: Weekday,
}

impl<'c> Intervals<'c> {
    /// The intervals of so many rows.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where a column has another number of rows.
    ///
    /// ```
    /// use mild_ledger::{Date, column::{DateColumn, Dates, Intervals}};
    /// assert!(Intervals::between(Dates::Column(&DateColumn::new()), Dates::Every(Date::MIN), 1).is_err());
    /// ```
    pub fn between(starts: Dates<'c>, ends: Dates<'c>, rows: usize) -> Result<Self, Error> {
        if !starts.has_rows(rows) || !ends.has_rows(rows) {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("a column of dates does not have {rows} rows"),
                "columns of as many rows as are counted",
            ));
        }
        let (month_end, counted, week_start) = (MonthEnd::Clamp, Ends::Last, Weekday::Monday);
        Ok(Self { starts, ends, rows, month_end, counted, week_start })
    }

    /// The same intervals counted under another rule for month ends, as [`Interval::month_end`].
    ///
    /// # Errors
    /// [`ErrorKind::Unreadable`] for [`MonthEnd::Refuse`].
    ///
    /// ```
    /// use mild_ledger::{Date, MonthEnd, column::{Dates, Intervals}};
    /// let one = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 1)?;
    /// assert!(one.month_end(MonthEnd::Keep).is_ok() && one.month_end(MonthEnd::Refuse).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn month_end(self, rule: MonthEnd) -> Result<Self, Error> {
        Interval::between(Date::MIN, Date::MIN).month_end(rule)?;
        Ok(Self { month_end: rule, ..self })
    }

    /// The same intervals under other ends. [`Ends::First`] and [`Ends::Neither`] are for days only.
    ///
    /// # Errors
    /// None here; [`count`](Self::count) leaves every row empty where the ends are not for its unit.
    ///
    /// ```
    /// use mild_ledger::{CountRule, Date, Ends, column::{Dates, Intervals}};
    /// let one = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1)?;
    /// assert_eq!(one.counting(Ends::FirstAndLast).count(CountRule::DAYS).get(0), Some(1));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn counting(self, ends: Ends) -> Self {
        Self { counted: ends, ..self }
    }

    /// The same intervals with weeks that start on another day than Monday.
    ///
    /// ```
    /// use mild_ledger::{Weekday, column::{DateColumn, Dates, Intervals}};
    /// let starts: DateColumn = [Some("2026-10-03".parse()?)].into_iter().collect();
    /// let sunday = Intervals::between(Dates::Column(&starts), Dates::Every("2026-10-04".parse()?), 1)?
    ///     .week_starts(Weekday::Sunday);
    /// assert_eq!(sunday.count("week starts passed".parse()?).get(0), Some(1));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn week_starts(self, weekday: Weekday) -> Self {
        Self { week_start: weekday, ..self }
    }

    /// The figures under a rule, as [`Interval::count`], and for days as [`Interval::days_counting`].
    ///
    /// ```
    /// use mild_ledger::{CountRule, Date, column::{Dates, Intervals}};
    /// let days = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 2)?.count(CountRule::DAYS);
    /// assert_eq!(days.values(), [3_652_058, 3_652_058]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn count(&self, rule: CountRule) -> CountColumn {
        let mut column = CountColumn { values: Vec::new(), present: Mask::new(), rule, ends: self.counted };
        self.count_into(rule, &mut column);
        column
    }

    /// [`count`](Self::count) into a column that is there, whose memory is used again.
    ///
    /// ```
    /// use mild_ledger::{CountRule, Date, column::{Dates, Intervals}};
    /// let one = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 1)?;
    /// let mut column = one.count(CountRule::DAYS);
    /// one.count_into(CountRule::COMPLETE_YEARS, &mut column);
    /// assert_eq!((column.get(0), column.rule()), (Some(9_998), CountRule::COMPLETE_YEARS));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn count_into(&self, rule: CountRule, column: &mut CountColumn) {
        (column.rule, column.ends) = (rule, self.counted);
        column.values.resize(self.rows, 0);
        if matches!(self.counted, Ends::First | Ends::Neither) && rule != CountRule::DAYS {
            column.present = Mask::all_empty(self.rows);
            return;
        }
        column.present = self.starts.present_with(&self.ends, self.rows);
        let out = column.values.as_mut_slice();
        match (rule.way(), rule.unit()) {
            (_, Unit::Day) => match self.counted {
                Ends::Last | Ends::First => self.fill(out, |start, end| end - start),
                Ends::FirstAndLast => {
                    self.fill(out, |start, end| if start <= end { end - start + 1 } else { end - start - 1 })
                }
                Ends::Neither => self.fill(out, |start, end| {
                    let days = ((end - start).abs() - 1).max(0);
                    if start <= end { days } else { -days }
                }),
            },
            (Way::Complete, Unit::Week) => self.fill_in_order(out, |first, last| (last - first) / 7),
            (Way::Complete, Unit::Month) => self.fill_complete::<1>(out),
            (Way::Complete, Unit::Quarter) => self.fill_complete::<3>(out),
            (Way::Complete, Unit::HalfYear) => self.fill_complete::<6>(out),
            (Way::Complete, Unit::Year) => self.fill_complete::<12>(out),
            (Way::StartsPassed, Unit::Week) => {
                let offset = self.week_start.days_from_monday() as i32;
                self.fill_in_order(out, |first, last| week_of(last, offset) - week_of(first, offset));
            }
            (Way::StartsPassed, Unit::Month) => self.fill_starts_passed::<1>(out),
            (Way::StartsPassed, Unit::Quarter) => self.fill_starts_passed::<3>(out),
            (Way::StartsPassed, Unit::HalfYear) => self.fill_starts_passed::<6>(out),
            (Way::StartsPassed, Unit::Year) => self.fill_starts_passed::<12>(out),
        }
    }

    /// Years, months and days, as [`Interval::parts`], in three narrow columns.
    ///
    /// ```
    /// use mild_ledger::{Date, column::{Dates, Intervals}};
    /// let parts = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 1)?.parts();
    /// assert_eq!((parts.years(), parts.months(), parts.days()), ([9_998].as_slice(), [11].as_slice(), [30].as_slice()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn parts(&self) -> PartsColumn {
        let mut column = PartsColumn::default();
        self.parts_into(&mut column);
        column
    }

    /// [`parts`](Self::parts) into a column that is there, whose memory is used again.
    ///
    /// ```
    /// use mild_ledger::{Date, column::{Dates, Intervals, PartsColumn}};
    /// let mut column = PartsColumn::default();
    /// Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 3)?.parts_into(&mut column);
    /// assert_eq!(column.len(), 3);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn parts_into(&self, column: &mut PartsColumn) {
        column.resize(self.rows, self.starts.present_with(&self.ends, self.rows));
        let through = self.through();
        macro_rules! parts_under {
            ($rule:expr) => {
                three_from_ends(
                    self.starts,
                    self.ends,
                    column.as_slices(),
                    #[inline(always)]
                    |start, end| {
                        let (first, last, sign) = in_order(start, end, through);
                        let (months, days) = months_and_days($rule, first, last);
                        (sign * months, sign * days)
                    },
                    #[inline(always)]
                    |months, days| {
                        let years = months / 12;
                        (years as i16, (months - 12 * years) as i8, days as i8)
                    },
                )
            };
        }
        match self.month_end {
            MonthEnd::Clamp => parts_under!(MonthEnd::Clamp),
            MonthEnd::Keep => parts_under!(MonthEnd::Keep),
            MonthEnd::NextStart | MonthEnd::Refuse => parts_under!(MonthEnd::NextStart),
        }
    }

    /// Complete units and the part of the one that is running, as [`Interval::fractional`].
    ///
    /// ```
    /// use mild_ledger::{Date, Unit, column::{Dates, Intervals}};
    /// let weeks = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 1)?.fractional(Unit::Week);
    /// assert_eq!(weeks.get(0).map(|weeks| weeks.to_string()), Some("521722 + 4/7".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn fractional(&self, unit: Unit) -> FractionColumn {
        self.fractions(|interval| interval.fractional(unit))
    }

    /// Fractions of a year by a convention, as [`Interval::year_fraction`].
    ///
    /// ```
    /// use mild_ledger::{Date, DayCount, column::{Dates, Intervals}};
    /// let none = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1)?;
    /// assert_eq!(none.year_fraction(DayCount::Actual360).get(0).map(|part| part.numerator()), Some(0));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn year_fraction(&self, convention: DayCount) -> FractionColumn {
        self.fractions(|interval| interval.year_fraction(convention))
    }

    /// Days in mean months, as [`Interval::mean_months`].
    ///
    /// ```
    /// use mild_ledger::{Date, MeanMonth, column::{Dates, Intervals}};
    /// let none = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1)?;
    /// assert_eq!(none.mean_months(MeanMonth::Julian).get(0).map(|months| months.whole()), Some(0));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn mean_months(&self, mean: MeanMonth) -> FractionColumn {
        self.fractions(|interval| interval.mean_months(mean))
    }

    /// Calendar-month fractions, as [`Interval::calendar_months`].
    ///
    /// ```
    /// use mild_ledger::{Date, column::{Dates, Intervals}};
    /// let all = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 1)?.calendar_months();
    /// assert_eq!(all.get(0).map(|months| months.to_string()), Some("119987 + 30/31".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn calendar_months(&self) -> FractionColumn {
        self.fractions(Interval::calendar_months)
    }

    /// The interval of a row; `None` where either end is empty.
    ///
    /// ```
    /// use mild_ledger::{Date, column::{Dates, Intervals}};
    /// let one = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 1)?;
    /// assert_eq!(one.get(0).map(|interval| interval.end()), Some(Date::MAX));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<Interval> {
        let interval =
            Interval::between(self.starts.get(row)?, self.ends.get(row)?).week_starts(self.week_start);
        // The rule was checked when it was named.
        let interval = interval.month_end(self.month_end).unwrap_or(interval);
        Some(if self.counted == Ends::FirstAndLast { interval.through_last_day() } else { interval })
    }

    fn fractions(&self, figure: impl Fn(Interval) -> Fraction) -> FractionColumn {
        let of_date = matches!(self.counted, Ends::Last | Ends::FirstAndLast);
        (0..self.rows).map(|row| self.get(row).filter(|_| of_date).map(&figure)).collect()
    }

    fn through(&self) -> i32 {
        i32::from(self.counted == Ends::FirstAndLast)
    }

    fn fill(&self, out: &mut [i32], figure: impl Fn(i32, i32) -> i32) {
        from_ends(self.starts, self.ends, out, figure);
    }

    fn fill_in_order(&self, out: &mut [i32], figure: impl Fn(i32, i32) -> i32) {
        let through = self.through();
        self.fill(
            out,
            #[inline(always)]
            move |start, end| {
                let (first, last, sign) = in_order(start, end, through);
                sign * figure(first, last)
            },
        );
    }

    /// Each rule gets a loop of its own, in which it is known.
    fn fill_complete<const MONTHS: i32>(&self, out: &mut [i32]) {
        match self.month_end {
            MonthEnd::Clamp => {
                self.fill_in_order(out, |first, last| complete_months(MonthEnd::Clamp, first, last) / MONTHS)
            }
            MonthEnd::Keep => {
                self.fill_in_order(out, |first, last| complete_months(MonthEnd::Keep, first, last) / MONTHS)
            }
            MonthEnd::NextStart | MonthEnd::Refuse => self
                .fill_in_order(out, |first, last| complete_months(MonthEnd::NextStart, first, last) / MONTHS),
        }
    }

    fn fill_starts_passed<const MONTHS: i32>(&self, out: &mut [i32]) {
        self.fill_in_order(out, |first, last| {
            period_of_months::<MONTHS>(last) - period_of_months::<MONTHS>(first)
        });
    }
}
