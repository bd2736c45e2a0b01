//! Ages, anniversaries, tenure and rates over columns.

use super::slices::{rows_of, same_rows};
use super::{Column, Intervals, Values};
use crate::date::Date;
use crate::error::Error;
use crate::interval::CountRule;
use crate::number::{Decimal, Fraction, Quotient};
use crate::people::{Anniversaries, Tenure, rate_per};
use crate::shift::MonthEnd;

/// Complete years from a day of birth to another day, as [`Anniversaries::age_on`] gives them for one: empty where either
/// date is, and where a user is not born yet. The rule says when a 29 February comes round in common years.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths, and those of
/// [`Anniversaries::with_leap_day`].
///
/// ```
/// use mild_ledger::{Date, MonthEnd, column::{Column, ages}};
/// let born: Column<Date> = [Some("2004-02-29".parse()?), Some("2027-01-01".parse()?)].into_iter().collect();
/// let day: Date = "2026-02-28".parse()?;
/// let ages = ages(&born, day, MonthEnd::Clamp)?;
/// assert_eq!((ages.get(0), ages.get(1)), (Some(22), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn ages<'c>(
    born: impl Into<Values<'c, Date>>,
    on: impl Into<Values<'c, Date>>,
    leap_day: MonthEnd,
) -> Result<Column<i32>, Error> {
    let (born, on) = (born.into(), on.into());
    Anniversaries::of(Date::MIN).with_leap_day(leap_day)?;
    let years = Intervals::between(born, on)?.with_month_end(leap_day)?.count(CountRule::COMPLETE_YEARS);
    let is_born = |row| born.get(row).zip(on.get(row)).is_some_and(|(born, on)| born <= on);
    Ok(Column::of_rows(years.len(), |row| years.get(row).filter(|_| is_born(row))))
}

/// The first anniversary of a day on or after another one, as [`Anniversaries::next_on_or_after`] gives it for one: its
/// date and its number. Empty where either date is, and where that is an error.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths, and those of
/// [`Anniversaries::with_leap_day`].
///
/// ```
/// use mild_ledger::{Date, MonthEnd, column::next_anniversaries};
/// let (hired, day): (Date, Date) = ("2021-07-31".parse()?, "2026-09-30".parse()?);
/// let next = next_anniversaries(hired, day, MonthEnd::Clamp)?;
/// assert_eq!((next.numbers.get(0), next.dates.get(0)), (Some(6), Some("2027-07-31".parse()?)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn next_anniversaries<'c>(
    of: impl Into<Values<'c, Date>>,
    on_or_after: impl Into<Values<'c, Date>>,
    leap_day: MonthEnd,
) -> Result<NextAnniversaries, Error> {
    let (of, from) = (of.into(), on_or_after.into());
    let mut next = NextAnniversaries::default();
    for row in 0..rows_of(of.rows(), from.rows())? {
        let found = match of.get(row).zip(from.get(row)) {
            Some((of, from)) => Anniversaries::of(of).with_leap_day(leap_day)?.next_on_or_after(from).ok(),
            None => None,
        };
        next.dates.push(found.map(|found| found.date()));
        next.numbers.push(found.map(|found| found.number()));
    }
    Ok(next)
}

/// What [`next_anniversaries`] gives.
///
/// ```
/// assert!(mild_ledger::column::NextAnniversaries::default().dates.is_empty());
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
#[non_exhaustive]
pub struct NextAnniversaries {
    /// The day of each.
    pub dates: Column<Date>,
    /// Its number, 1 for the first.
    pub numbers: Column<i32>,
}

/// The day up to which each stay is counted on an as-of date: its own end, or the as-of date where it has none yet, as
/// [`Tenure::as_of`] has it for one. Empty where the start is, where the stay has not begun, and where it ends before it
/// begins. [`Intervals`] from the starts to these days give every figure of tenure.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Date, Unit, column::{Column, Intervals, stays_counted_to}};
/// let hired: Column<Date> = [Some("2021-07-31".parse()?), Some("2021-07-31".parse()?)].into_iter().collect();
/// let left: Column<Date> = [None, Some("2022-07-31".parse()?)].into_iter().collect();
/// let to = stays_counted_to(&hired, &left, "2026-09-30".parse()?)?;
/// let months = Intervals::between(&hired, &to)?.count("complete months".parse()?);
/// assert_eq!((months.get(0), months.get(1)), (Some(62), Some(12)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn stays_counted_to<'c>(
    starts: impl Into<Values<'c, Date>>,
    ends: impl Into<Values<'c, Date>>,
    as_of: Date,
) -> Result<Column<Date>, Error> {
    let (starts, ends) = (starts.into(), ends.into());
    Ok(Column::of_rows(rows_of(starts.rows(), ends.rows())?, |row| {
        let stay = Tenure::from(starts.get(row)?);
        let stay = ends.get(row).map_or(stay, |end| stay.until(end));
        stay.as_of(as_of).ok().map(|interval| interval.end())
    }))
}

/// A quantity per unit of time in each row, as [`rate_per`] gives it for one: empty where either is, and where that is an
/// error, such as a time of zero.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Date, Quotient, Unit, column::{Intervals, rates_per}};
/// let (hired, as_of): (Date, Date) = ("2026-01-01".parse()?, "2026-07-01".parse()?);
/// let months = Intervals::between(hired, as_of)?.fractional(Unit::Month);
/// let quantity = Quotient::of(120, 1).unwrap_or(Quotient::ZERO);
/// assert_eq!(rates_per(quantity, &months, None)?.get(0), Quotient::of(20, 1));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn rates_per<'c>(
    quantities: impl Into<Values<'c, Quotient>>,
    times: &Column<Fraction>,
    smallest: Option<Decimal>,
) -> Result<Column<Quotient>, Error> {
    let quantities = quantities.into();
    quantities.rows().map_or(Ok(()), |rows| same_rows(times.len(), rows))?;
    Ok(Column::of_rows(times.len(), |row| rate_per(quantities.get(row)?, times.get(row)?, smallest).ok()))
}
