//! The fields of a column of dates.

use super::blocks::{Lane, in_blocks};
use super::dispatch::{Loop, with_widest_instructions};
use super::lanes::from_lane;
use super::slices::{bits_for, same_rows};
use super::{Column, ColumnSlice, ColumnSliceMut, Values};
use crate::date::year_month_day::year_month_day_lane;
use crate::date::{Date, DateField};
use crate::error::Error;

/// Year, month and day of every date, as [`Date::year_month_day`] gives them for one, into three narrow columns, and the
/// bits of the rows that hold them.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where one of them has another number of rows.
///
/// ```
/// use mild_ledger::{Date, column::{Column, year_month_day_into}};
/// let dates: Column<Date> = [Some("2026-09-30".parse()?), None].into_iter().collect();
/// let (mut years, mut months, mut days, mut validity) = ([0; 2], [0; 2], [0; 2], [0; 1]);
/// year_month_day_into(dates.as_slice(), &mut years, &mut months, &mut days, &mut validity)?;
/// assert_eq!((years[0], months[0], days[0], validity), (2026, 9, 30, [0b01]));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn year_month_day_into(
    dates: ColumnSlice<'_, Date>,
    years: &mut [i16],
    months: &mut [u8],
    days: &mut [u8],
    validity: &mut [u8],
) -> Result<(), Error> {
    [years.len(), months.len(), days.len()].into_iter().try_for_each(|rows| same_rows(dates.len(), rows))?;
    bits_for(dates.len(), validity)?;
    in_blocks([dates.into()], dates.len(), validity, |[from], rows, _| {
        let Lane::Each(from) = from else { return };
        let (years, months) = (&mut years[rows.clone()], &mut months[rows.clone()]);
        with_widest_instructions(CivilFields { from, years, months, days: &mut days[rows] });
    });
    Ok(())
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
            let (year, month, day) = year_month_day_lane(*from);
            (*out_year, *out_month, *out_day) = (year as i16, month as u8, day as u8);
        }
    }
}

/// One field of every date, as [`Date::field`] gives it for one.
///
/// ```
/// use mild_ledger::{Date, DateField, column::field};
/// let date: Date = "2026-09-30".parse()?;
/// assert_eq!(field(date, DateField::DayOfYear).get(0), Some(273));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn field<'c>(dates: impl Into<Values<'c, Date>>, field: DateField) -> Column<i32> {
    let dates = dates.into();
    Column::written(dates.rows().unwrap_or(1), |out| write_field(dates, field, out))
}

/// [`field`](fn@field) into a column that is there.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where that has another number of rows.
///
/// ```
/// use mild_ledger::{Date, DateField, column::{Column, field_into}};
/// let mut years = Column::new();
/// field_into(Date::MAX, DateField::Year, years.rows_to_write(1))?;
/// assert_eq!(years.get(0), Some(9_999));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn field_into<'c>(
    dates: impl Into<Values<'c, Date>>,
    field: DateField,
    out: ColumnSliceMut<'_, i32>,
) -> Result<(), Error> {
    let dates = dates.into();
    write_field(dates, field, out.has_rows(dates.rows().unwrap_or(1))?);
    Ok(())
}

fn write_field(dates: Values<'_, Date>, field: DateField, out: ColumnSliceMut<'_, i32>) {
    let ColumnSliceMut { values, validity } = out;
    in_blocks([dates], values.len(), validity, |[from], rows, _| {
        let out = &mut values[rows];
        // Each field gets a loop of its own, in which it is known.
        macro_rules! loop_of {
            ($field:expr) => {
                from_lane(
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
    });
}
