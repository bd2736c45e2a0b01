//! Moving a column of dates.

use super::blocks::in_blocks;
use super::lanes::{days_from_days, moved_days};
use super::slices::rows_of;
use super::{Column, ColumnSliceMut, Values};
use crate::date::Date;
use crate::error::Error;
use crate::receivables::PaymentTerms;
use crate::shift::{MonthEnd, Shift, WeekdayMove};
use crate::work::{DateMove, WorkCalendar};

/// Every date moved by one amount: as many rows, empty where the input is, and where [`Shift::apply`] gives an error,
/// which says why when called for that row.
///
/// ```
/// use mild_ledger::{Date, Shift, column::{Column, shifted}};
///
/// let dates: Column<Date> = [Some("2026-01-31".parse()?), Some(Date::MAX), None].into_iter().collect();
/// let moved = shifted(&dates, &Shift::months(1));
/// assert_eq!(moved.get(0), Some("2026-02-28".parse()?));
/// assert_eq!((moved.get(1), moved.get(2), moved.len()), (None, None, 3));
/// assert!(Shift::months(1).apply(Date::MAX).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn shifted<'c>(dates: impl Into<Values<'c, Date>>, shift: &Shift) -> Column<Date> {
    let dates = dates.into();
    Column::written(dates.rows().unwrap_or(1), |out| write_shifted(dates, shift, out))
}

/// [`shifted`] into a column that is there.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where that has another number of rows.
///
/// ```
/// use mild_ledger::{Date, Shift, column::{Column, shifted_into}};
/// let mut moved = Column::new();
/// shifted_into(Date::MIN, &Shift::days(1), moved.rows_to_write(1))?;
/// assert_eq!(moved.get(0), Some("0001-01-02".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn shifted_into<'c>(
    dates: impl Into<Values<'c, Date>>,
    shift: &Shift,
    out: ColumnSliceMut<'_, Date>,
) -> Result<(), Error> {
    let dates = dates.into();
    write_shifted(dates, shift, out.has_rows(dates.rows().unwrap_or(1))?);
    Ok(())
}

fn write_shifted(dates: Values<'_, Date>, shift: &Shift, out: ColumnSliceMut<'_, Date>) {
    let ColumnSliceMut { values, validity } = out;
    in_blocks([dates], values.len(), validity, |[from], rows, validity| {
        let out = &mut values[rows];
        // Each rule gets a loop of its own, in which it is known.
        macro_rules! moved_under {
            ($rule:expr, $months:expr, $days:expr) => {
                moved_days(
                    from,
                    out,
                    validity,
                    #[inline(always)]
                    |day| $rule.moved_lane(day, $months, $days).0,
                )
            };
        }
        match (shift.near(), shift.month_end()) {
            (Some((0, days)), _) => moved_days(
                from,
                out,
                validity,
                #[inline(always)]
                |day| day + days,
            ),
            (Some((months, days)), MonthEnd::Clamp) => moved_under!(MonthEnd::Clamp, months, days),
            (Some((months, days)), MonthEnd::Keep) => moved_under!(MonthEnd::Keep, months, days),
            (Some((months, days)), MonthEnd::NextStart) => moved_under!(MonthEnd::NextStart, months, days),
            (Some((months, days)), MonthEnd::Refuse) => days_from_days(
                from,
                out,
                validity,
                #[inline(always)]
                |day| MonthEnd::Refuse.moved_lane(day, months, days),
            ),
            // So far that most results leave the calendar: one by one.
            (None, _) => days_from_days(from, out, validity, |day| {
                shift.moved(Date::of_checked_day(day)).map_or((0, false), |date| (date.day_number(), true))
            }),
        }
    });
}

/// The due date of every invoice under the same terms, from its day of issue: as many rows, empty where the input is, and where
/// [`PaymentTerms::due`] gives an error, which says why when called for that row.
///
/// ```
/// use mild_ledger::{Date, PaymentTerms, column::{Column, due_dates}};
///
/// let terms: PaymentTerms = "net 30 EOM".parse()?;
/// let issued: Column<Date> = [Some("2026-01-15".parse()?), Some(Date::MAX), None].into_iter().collect();
/// let due = due_dates(&issued, &terms);
/// assert_eq!((due.get(0), due.get(1), due.get(2)), (Some("2026-03-02".parse()?), None, None));
/// assert!(terms.due(Date::MAX).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn due_dates<'c>(issued: impl Into<Values<'c, Date>>, terms: &PaymentTerms) -> Column<Date> {
    let issued = issued.into();
    Column::written(issued.rows().unwrap_or(1), |out| write_due(issued, terms, out))
}

/// [`due_dates`] into a column that is there.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) where that has another number of rows.
///
/// ```
/// use mild_ledger::{Date, column::{Column, due_dates_into}};
/// let mut due = Column::new();
/// let issued: Date = "2026-01-15".parse()?;
/// due_dates_into(issued, &"net 30 to EOM".parse()?, due.rows_to_write(1))?;
/// assert_eq!(due.get(0), Some("2026-02-28".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn due_dates_into<'c>(
    issued: impl Into<Values<'c, Date>>,
    terms: &PaymentTerms,
    out: ColumnSliceMut<'_, Date>,
) -> Result<(), Error> {
    let issued = issued.into();
    write_due(issued, terms, out.has_rows(issued.rows().unwrap_or(1))?);
    Ok(())
}

fn write_due(issued: Values<'_, Date>, terms: &PaymentTerms, out: ColumnSliceMut<'_, Date>) {
    let ColumnSliceMut { values, validity } = out;
    in_blocks([issued], values.len(), validity, |[from], rows, validity| {
        days_from_days(from, &mut values[rows], validity, |day| {
            terms.due(Date::of_checked_day(day)).map_or((0, false), |date| (date.day_number(), true))
        });
    });
}

/// Every date moved by an amount of its own, a number of times a step: empty where either input is, and where
/// [`Shift::times`] or [`Shift::apply`] gives an error.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Date, Shift, column::{Column, shifted_by}};
/// let issued: Date = "2026-01-31".parse()?;
/// let terms: Column<i32> = [Some(1), Some(2), None].into_iter().collect();
/// let due = shifted_by(issued, &terms, &Shift::months(1))?;
/// assert_eq!((due.get(0), due.get(1), due.get(2)), (Some("2026-02-28".parse()?), Some("2026-03-31".parse()?), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn shifted_by<'c>(
    dates: impl Into<Values<'c, Date>>,
    times: impl Into<Values<'c, i32>>,
    step: &Shift,
) -> Result<Column<Date>, Error> {
    let (dates, times) = (dates.into(), times.into());
    Ok(Column::of_rows(rows_of(dates.rows(), times.rows())?, |row| {
        step.times(times.get(row)?).ok()?.apply(dates.get(row)?).ok()
    }))
}

/// Every date moved in several steps, as [`DateMove::apply`] gives it for one: empty where the input is, and where that
/// is an error.
///
/// ```
/// use mild_ledger::{Date, DateMove, PeriodEdge, PeriodRule, Shift, column::moved};
/// let issued: Date = "2026-01-31".parse()?;
/// let to_month_end = DateMove::by(Shift::days(30)).to_edge(PeriodEdge::end_of(PeriodRule::Month));
/// assert_eq!(moved(issued, &to_month_end, None).get(0), Some("2026-03-31".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn moved<'c>(
    dates: impl Into<Values<'c, Date>>,
    by: &DateMove,
    calendar: Option<&WorkCalendar>,
) -> Column<Date> {
    let dates = dates.into();
    Column::of_rows(dates.rows().unwrap_or(1), |row| by.apply(dates.get(row)?, calendar).ok())
}

/// Every date moved to a weekday, as [`WeekdayMove::apply`] gives it for one: empty where the input is, and where that
/// is an error.
///
/// ```
/// use mild_ledger::{Date, WeekdayMove, column::moved_to_weekday};
/// let wednesday: Date = "2026-09-30".parse()?;
/// assert_eq!(moved_to_weekday(wednesday, "on or after friday".parse()?).get(0), Some("2026-10-02".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn moved_to_weekday<'c>(dates: impl Into<Values<'c, Date>>, to: WeekdayMove) -> Column<Date> {
    let dates = dates.into();
    Column::of_rows(dates.rows().unwrap_or(1), |row| to.apply(dates.get(row)?).ok())
}
