//! Counting between two columns of dates.

use super::blocks::{Lane, in_blocks};
use super::lanes::{from_ends, three_from_ends};
use super::slices::{bits_for, rows_of, same_rows};
use super::{Column, ColumnSliceMut, Values};
use crate::date::{Date, Weekday};
use crate::error::Error;
use crate::interval::lanes::{complete_months, in_order, months_and_days, period_of_months, week_of};
use crate::interval::{CountRule, DayCount, Ends, Interval, MeanMonth, Parts, Way};
use crate::number::Fraction;
use crate::period::DateRange;
use crate::shift::{MonthEnd, Unit};
use core::ops::Range;

/// Intervals from a start to an end, one a row, and how they are counted.
///
/// Each function gives for a row what [`Interval`] gives for one; a row is empty where either end is. Two single dates
/// make one row.
///
/// ```
/// use mild_ledger::{Date, column::{Column, Intervals}};
///
/// let starts: Column<Date> = [Some("2026-01-31".parse()?), None].into_iter().collect();
/// let end: Date = "2026-03-01".parse()?;
/// let intervals = Intervals::between(&starts, end)?;
/// let months = intervals.count("complete months".parse()?);
/// assert_eq!((months.get(0), months.get(1)), (Some(1), None));
/// assert_eq!(intervals.parts().get(0).map(|parts| parts.to_string()), Some("1 month and 1 day".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy)]
pub struct Intervals<'c> {
    starts: Values<'c, Date>,
    ends: Values<'c, Date>,
    rows: usize,
    /// How each of them is counted; its own dates have no part in it.
    counted: Interval,
}

impl<'c> Intervals<'c> {
    /// The intervals of two columns, or of a column and one date.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
    ///
    /// ```
    /// use mild_ledger::{Date, column::{Column, Intervals}};
    /// let (none, one) = (Column::<Date>::new(), [Some(Date::MIN)].into_iter().collect::<Column<Date>>());
    /// assert!(Intervals::between(&none, &one).is_err());
    /// assert_eq!(Intervals::between(&none, Date::MIN)?.rows(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn between(
        starts: impl Into<Values<'c, Date>>,
        ends: impl Into<Values<'c, Date>>,
    ) -> Result<Self, Error> {
        let (starts, ends) = (starts.into(), ends.into());
        let rows = rows_of(starts.rows(), ends.rows())?;
        Ok(Self { starts, ends, rows, counted: Interval::between(Date::MIN, Date::MIN) })
    }

    /// The same intervals counted under another rule for month ends, as [`Interval::with_month_end`].
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`](crate::ErrorKind::NotAllowed) for [`MonthEnd::Refuse`].
    ///
    /// ```
    /// use mild_ledger::{Date, MonthEnd, column::Intervals};
    /// let one = Intervals::between(Date::MIN, Date::MAX)?;
    /// assert!(one.with_month_end(MonthEnd::Keep).is_ok() && one.with_month_end(MonthEnd::Refuse).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_month_end(self, rule: MonthEnd) -> Result<Self, Error> {
        Ok(Self { counted: self.counted.with_month_end(rule)?, ..self })
    }

    /// The same intervals under other ends, as [`Interval::with_ends`].
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`](crate::ErrorKind::NotAllowed) for [`Ends::First`] and [`Ends::Neither`], which are for
    /// days: [`days_counting`](Self::days_counting).
    ///
    /// ```
    /// use mild_ledger::{CountRule, Date, Ends, column::Intervals};
    /// let one = Intervals::between(Date::MIN, Date::MIN)?;
    /// assert_eq!(one.with_ends(Ends::FirstAndLast)?.count(CountRule::DAYS).get(0), Some(1));
    /// assert!(one.with_ends(Ends::Neither).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_ends(self, ends: Ends) -> Result<Self, Error> {
        Ok(Self { counted: self.counted.with_ends(ends)?, ..self })
    }

    /// The same intervals with weeks that start on another day than Monday.
    ///
    /// ```
    /// use mild_ledger::{Date, Weekday, column::Intervals};
    /// let (saturday, sunday): (Date, Date) = ("2026-10-03".parse()?, "2026-10-04".parse()?);
    /// let weeks = Intervals::between(saturday, sunday)?.with_weeks_beginning(Weekday::Sunday);
    /// assert_eq!(weeks.count("week starts passed".parse()?).get(0), Some(1));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_weeks_beginning(self, weekday: Weekday) -> Self {
        Self { counted: self.counted.with_weeks_beginning(weekday), ..self }
    }

    /// The number of rows.
    ///
    /// ```
    /// use mild_ledger::{Date, column::Intervals};
    /// assert_eq!(Intervals::between(Date::MIN, Date::MIN)?.rows(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn rows(&self) -> usize {
        self.rows
    }

    /// The interval of a row, counted as the column is; `None` where either end is empty, and beyond the last row.
    ///
    /// ```
    /// use mild_ledger::{Date, column::Intervals};
    /// let one = Intervals::between(Date::MIN, Date::MAX)?;
    /// assert_eq!(one.get(0).map(|interval| interval.end()), Some(Date::MAX));
    /// assert_eq!(one.get(1), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<Interval> {
        if row >= self.rows {
            return None;
        }
        Some(self.counted.of_dates(self.starts.get(row)?, self.ends.get(row)?))
    }

    /// The figures under a rule, as [`Interval::count`].
    ///
    /// ```
    /// use mild_ledger::{CountRule, Date, column::Intervals};
    /// let days = Intervals::between(Date::MIN, Date::MAX)?.count(CountRule::DAYS);
    /// assert_eq!(days.values(), [3_652_058]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn count(&self, rule: CountRule) -> Column<i32> {
        Column::written(self.rows, |out| self.write_count(rule, out))
    }

    /// [`count`](Self::count) into a column that is there.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where that has another number of rows.
    ///
    /// ```
    /// use mild_ledger::{CountRule, Date, column::{Column, Intervals}};
    /// let mut column = Column::new();
    /// Intervals::between(Date::MIN, Date::MAX)?.count_into(CountRule::COMPLETE_YEARS, column.rows_to_write(1))?;
    /// assert_eq!(column.get(0), Some(9_998));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn count_into(&self, rule: CountRule, out: ColumnSliceMut<'_, i32>) -> Result<(), Error> {
        self.write_count(rule, out.has_rows(self.rows)?);
        Ok(())
    }

    fn write_count(&self, rule: CountRule, out: ColumnSliceMut<'_, i32>) {
        match (rule.way(), rule.unit()) {
            (_, Unit::Day) => self.write_days(self.counted.ends(), out),
            (Way::Complete, Unit::Week) => self.fill_in_order(out, |first, last| (last - first) / 7),
            (Way::Complete, Unit::Month) => self.fill_complete::<1>(out),
            (Way::Complete, Unit::Quarter) => self.fill_complete::<3>(out),
            (Way::Complete, Unit::HalfYear) => self.fill_complete::<6>(out),
            (Way::Complete, Unit::Year) => self.fill_complete::<12>(out),
            (Way::StartsPassed, Unit::Week) => {
                let offset = self.counted.week_begins().days_from_monday() as i32;
                self.fill_in_order(out, move |first, last| week_of(last, offset) - week_of(first, offset));
            }
            (Way::StartsPassed, Unit::Month) => self.fill_starts_passed::<1>(out),
            (Way::StartsPassed, Unit::Quarter) => self.fill_starts_passed::<3>(out),
            (Way::StartsPassed, Unit::HalfYear) => self.fill_starts_passed::<6>(out),
            (Way::StartsPassed, Unit::Year) => self.fill_starts_passed::<12>(out),
        }
    }

    /// The days under any ends, as [`Interval::days_counting`].
    ///
    /// ```
    /// use mild_ledger::{Date, Ends, column::{Column, Intervals}};
    /// let september: (Date, Date) = ("2026-09-01".parse()?, "2026-09-30".parse()?);
    /// let days = Intervals::between(september.0, september.1)?.days_counting(Ends::Neither);
    /// assert_eq!(days.get(0), Some(28));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days_counting(&self, ends: Ends) -> Column<i32> {
        Column::written(self.rows, |out| self.write_days(ends, out))
    }

    /// [`days_counting`](Self::days_counting) into a column that is there.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where that has another number of rows.
    ///
    /// ```
    /// use mild_ledger::{Date, Ends, column::{Column, Intervals}};
    /// let mut days = Column::new();
    /// Intervals::between(Date::MIN, Date::MIN)?.days_counting_into(Ends::First, days.rows_to_write(1))?;
    /// assert_eq!(days.get(0), Some(0));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn days_counting_into(&self, ends: Ends, out: ColumnSliceMut<'_, i32>) -> Result<(), Error> {
        self.write_days(ends, out.has_rows(self.rows)?);
        Ok(())
    }

    fn write_days(&self, ends: Ends, out: ColumnSliceMut<'_, i32>) {
        match ends {
            Ends::Last | Ends::First => self.fill(out, |start, end| end - start),
            Ends::FirstAndLast => {
                self.fill(out, |start, end| if start <= end { end - start + 1 } else { end - start - 1 });
            }
            Ends::Neither => self.fill(out, |start, end| {
                let days = ((end - start).abs() - 1).max(0);
                if start <= end { days } else { -days }
            }),
        }
    }

    /// Years, months and days, as [`Interval::parts`].
    ///
    /// ```
    /// use mild_ledger::{Date, column::Intervals};
    /// let parts = Intervals::between(Date::MIN, Date::MAX)?.parts();
    /// assert_eq!(parts.get(0).map(|parts| parts.to_string()), Some("9998 years, 11 months and 30 days".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn parts(&self) -> Column<Parts> {
        const ROWS: usize = 1024;
        Column::written(self.rows, |out| {
            in_blocks([self.starts, self.ends], self.rows, out.validity, |[starts, ends], rows, _| {
                let (mut years, mut months, mut days) = ([0; ROWS], [0; ROWS], [0; ROWS]);
                for (nth, out) in out.values[rows].chunks_mut(ROWS).enumerate() {
                    let here = ROWS * nth..ROWS * nth + out.len();
                    let three = (&mut years[..out.len()], &mut months[..out.len()], &mut days[..out.len()]);
                    self.fill_parts(starts.part(here.clone()), ends.part(here), three);
                    let three = years.iter().zip(&months).zip(&days);
                    for (out, ((years, months), days)) in out.iter_mut().zip(three) {
                        *out = Parts::of_narrow(*years, *months, *days);
                    }
                }
            });
        })
    }

    /// [`parts`](Self::parts) into columns of years, months (−11 to 11) and days (−30 to 30), and the bits of the rows
    /// that hold them.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where one of them has another number of rows.
    ///
    /// ```
    /// use mild_ledger::{Date, column::Intervals};
    /// let (mut years, mut months, mut days, mut validity) = ([0; 1], [0; 1], [0; 1], [0; 1]);
    /// let all = Intervals::between(Date::MIN, Date::MAX)?;
    /// all.parts_into(&mut years, &mut months, &mut days, &mut validity)?;
    /// assert_eq!((years, months, days, validity), ([9_998], [11], [30], [1]));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn parts_into(
        &self,
        years: &mut [i16],
        months: &mut [i8],
        days: &mut [i8],
        validity: &mut [u8],
    ) -> Result<(), Error> {
        [years.len(), months.len(), days.len()]
            .into_iter()
            .try_for_each(|rows| same_rows(self.rows, rows))?;
        bits_for(self.rows, validity)?;
        in_blocks([self.starts, self.ends], self.rows, validity, |[starts, ends], rows, _| {
            let three = (&mut years[rows.clone()], &mut months[rows.clone()], &mut days[rows]);
            self.fill_parts(starts, ends, three);
        });
        Ok(())
    }

    fn fill_parts(&self, starts: Lane<'_>, ends: Lane<'_>, out: (&mut [i16], &mut [i8], &mut [i8])) {
        let through = self.through();
        macro_rules! parts_under {
            ($rule:expr) => {
                three_from_ends(
                    starts,
                    ends,
                    out,
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
        // Each rule gets a loop of its own, in which it is known.
        match self.counted.month_end() {
            MonthEnd::Clamp => parts_under!(MonthEnd::Clamp),
            MonthEnd::Keep => parts_under!(MonthEnd::Keep),
            MonthEnd::NextStart | MonthEnd::Refuse => parts_under!(MonthEnd::NextStart),
        }
    }

    /// Complete units and the part of the one that is running, as [`Interval::fractional`].
    ///
    /// ```
    /// use mild_ledger::{Date, Unit, column::Intervals};
    /// let weeks = Intervals::between(Date::MIN, Date::MAX)?.fractional(Unit::Week);
    /// assert_eq!(weeks.get(0).map(|weeks| weeks.to_string()), Some("521722 + 4/7".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn fractional(&self, unit: Unit) -> Column<Fraction> {
        self.each(|interval| interval.fractional(unit))
    }

    /// Fractions of a year by a convention, as [`Interval::year_fraction`].
    ///
    /// ```
    /// use mild_ledger::{Date, DayCount, column::Intervals};
    /// let none = Intervals::between(Date::MIN, Date::MIN)?;
    /// assert_eq!(none.year_fraction(DayCount::Actual360).get(0).map(|part| part.numerator()), Some(0));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn year_fraction(&self, convention: DayCount) -> Column<Fraction> {
        self.each(|interval| interval.year_fraction(convention))
    }

    /// Days in mean months, as [`Interval::mean_months`].
    ///
    /// ```
    /// use mild_ledger::{Date, MeanMonth, column::Intervals};
    /// let none = Intervals::between(Date::MIN, Date::MIN)?;
    /// assert_eq!(none.mean_months(MeanMonth::Julian).get(0).map(|months| months.whole()), Some(0));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn mean_months(&self, mean: MeanMonth) -> Column<Fraction> {
        self.each(|interval| interval.mean_months(mean))
    }

    /// Calendar-month fractions, as [`Interval::calendar_months`].
    ///
    /// ```
    /// use mild_ledger::{Date, column::Intervals};
    /// let all = Intervals::between(Date::MIN, Date::MAX)?.calendar_months();
    /// assert_eq!(all.get(0).map(|months| months.to_string()), Some("119987 + 30/31".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn calendar_months(&self) -> Column<Fraction> {
        self.each(Interval::calendar_months)
    }

    /// The days of each interval that lie in a stretch of days, first and last included, as [`Interval::days_within`].
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange, Ends, column::Intervals};
    /// let hire: (Date, Date) = ("2026-01-15".parse()?, "2026-03-10".parse()?);
    /// let february = DateRange::new("2026-02-01".parse()?, "2026-02-28".parse()?)?;
    /// let days = Intervals::between(hire.0, hire.1)?.days_within(february, Ends::FirstAndLast);
    /// assert_eq!(days.get(0), Some(28));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days_within(&self, days: DateRange, ends: Ends) -> Column<i64> {
        Column::of_rows(self.rows, |row| Some(self.get(row)?.days_within(days, ends)))
    }

    fn each(&self, figure: impl Fn(Interval) -> Fraction) -> Column<Fraction> {
        Column::of_rows(self.rows, |row| self.get(row).map(&figure))
    }

    fn through(&self) -> i32 {
        i32::from(self.counted.ends() == Ends::FirstAndLast)
    }

    fn fill(&self, out: ColumnSliceMut<'_, i32>, figure: impl Fn(i32, i32) -> i32 + Copy) {
        let ColumnSliceMut { values, validity } = out;
        let write = |[starts, ends]: [Lane<'_>; 2], rows: Range<usize>, _: &mut [u8]| {
            from_ends(starts, ends, &mut values[rows], figure);
        };
        in_blocks([self.starts, self.ends], self.rows, validity, write);
    }

    fn fill_in_order(&self, out: ColumnSliceMut<'_, i32>, figure: impl Fn(i32, i32) -> i32 + Copy) {
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
    fn fill_complete<const MONTHS: i32>(&self, out: ColumnSliceMut<'_, i32>) {
        match self.counted.month_end() {
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

    fn fill_starts_passed<const MONTHS: i32>(&self, out: ColumnSliceMut<'_, i32>) {
        self.fill_in_order(out, |first, last| {
            period_of_months::<MONTHS>(last) - period_of_months::<MONTHS>(first)
        });
    }
}
