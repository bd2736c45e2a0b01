//! The fields of a column of dates.

use super::dispatch::{Loop, with_widest_instructions};
use super::lanes::from_days;
use super::{DateColumn, Mask};
use crate::date::DateField;
use crate::date::civil::civil_lane;

/// Year, month and day of dates, in three narrow columns.
///
/// ```
/// use mild_ledger::column::{DateColumn, year_month_day};
/// let dates: DateColumn = [Some("2026-09-30".parse()?), None].into_iter().collect();
/// let fields = year_month_day(&dates);
/// assert_eq!((fields.get(0), fields.get(1)), (Some((2026, 9, 30)), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct YearMonthDayColumn {
    years: Vec<i16>,
    months: Vec<u8>,
    days: Vec<u8>,
    present: Mask,
}

impl YearMonthDayColumn {
    /// Year, month and day of a row; `None` where it is empty or there is no such row.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::YearMonthDayColumn::default().get(0), None);
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<(i16, u8, u8)> {
        self.present.is_present(row).then(|| (self.years[row], self.months[row], self.days[row]))
    }

    /// Years, one a row; what stands in an empty row has no meaning.
    ///
    /// ```
    /// assert!(mild_ledger::column::YearMonthDayColumn::default().years().is_empty());
    /// ```
    #[must_use]
    pub fn years(&self) -> &[i16] {
        &self.years
    }

    /// Months, 1 to 12, one a row.
    ///
    /// ```
    /// assert!(mild_ledger::column::YearMonthDayColumn::default().months().is_empty());
    /// ```
    #[must_use]
    pub fn months(&self) -> &[u8] {
        &self.months
    }

    /// Days of the month, 1 to 31, one a row.
    ///
    /// ```
    /// assert!(mild_ledger::column::YearMonthDayColumn::default().days().is_empty());
    /// ```
    #[must_use]
    pub fn days(&self) -> &[u8] {
        &self.days
    }

    /// The rows that hold a date.
    ///
    /// ```
    /// assert!(mild_ledger::column::YearMonthDayColumn::default().mask().is_empty());
    /// ```
    #[must_use]
    pub fn mask(&self) -> &Mask {
        &self.present
    }
}

/// Year, month and day of every date, as [`Date::year_month_day`](crate::Date::year_month_day) gives them for one.
///
/// ```
/// use mild_ledger::column::{DateColumn, year_month_day};
/// assert!(year_month_day(&DateColumn::new()).years().is_empty());
/// ```
#[must_use]
pub fn year_month_day(dates: &DateColumn) -> YearMonthDayColumn {
    let mut column = YearMonthDayColumn::default();
    year_month_day_into(dates, &mut column);
    column
}

/// [`year_month_day`] into a column that is there, whose memory is used again.
///
/// ```
/// use mild_ledger::column::{YearMonthDayColumn, DateColumn, year_month_day_into};
/// let mut column = YearMonthDayColumn::default();
/// year_month_day_into(&DateColumn::new(), &mut column);
/// assert_eq!(column, YearMonthDayColumn::default());
/// ```
pub fn year_month_day_into(dates: &DateColumn, column: &mut YearMonthDayColumn) {
    let rows = dates.len();
    column.years.resize(rows, 0);
    column.months.resize(rows, 0);
    column.days.resize(rows, 0);
    column.present = dates.mask().clone();
    let YearMonthDayColumn { years, months, days, .. } = column;
    with_widest_instructions(CivilFields { from: dates.day_numbers(), years, months, days });
}

struct CivilFields<'s> {
    from: &'s [i32],
    years: &'s mut [i16],
    months: &'s mut [u8],
    days: &'s mut [u8],
}

impl Loop for CivilFields<'_> {
    #[inline(always)]
    fn run(self) {
        let out = self.years.iter_mut().zip(self.months).zip(self.days);
        for (((out_year, out_month), out_day), from) in out.zip(self.from) {
            let (year, month, day) = civil_lane(*from);
            (*out_year, *out_month, *out_day) = (year as i16, month as u8, day as u8);
        }
    }
}

/// One field of every date, as [`Date::field`](crate::Date::field) gives it for one; what stands in a row that is
/// empty in the column of dates has no meaning.
///
/// ```
/// use mild_ledger::{DateField, column::{DateColumn, field}};
/// let dates: DateColumn = [Some("2026-09-30".parse()?)].into_iter().collect();
/// assert_eq!(field(&dates, DateField::DayOfYear), [273]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn field(dates: &DateColumn, field: DateField) -> Vec<i32> {
    let mut out = Vec::new();
    field_into(dates, field, &mut out);
    out
}

/// [`field`](fn@field) into numbers that are there, whose memory is used again.
///
/// ```
/// use mild_ledger::{DateField, column::{DateColumn, field_into}};
/// let mut out = vec![7];
/// field_into(&DateColumn::new(), DateField::Year, &mut out);
/// assert!(out.is_empty());
/// ```
pub fn field_into(dates: &DateColumn, field: DateField, out: &mut Vec<i32>) {
    out.resize(dates.len(), 0);
    let from = dates.day_numbers();
    // Each field gets a loop of its own, in which it is known.
    macro_rules! loop_of {
        ($field:expr) => {
            from_days(
                from,
                out,
                #[inline(always)]
                |day| $field.of_day(day),
            )
        };
    }
    match field {
        DateField::Year => loop_of!(DateField::Year),
        DateField::HalfYear => loop_of!(DateField::HalfYear),
        DateField::Quarter => loop_of!(DateField::Quarter),
        DateField::Month => loop_of!(DateField::Month),
        DateField::Day => loop_of!(DateField::Day),
        DateField::DayOfYear => loop_of!(DateField::DayOfYear),
        DateField::WeekdayNumber => loop_of!(DateField::WeekdayNumber),
        DateField::IsoWeekYear => loop_of!(DateField::IsoWeekYear),
        DateField::IsoWeek => loop_of!(DateField::IsoWeek),
    }
}
