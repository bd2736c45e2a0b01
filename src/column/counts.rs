//! Counting between two columns of dates.

use super::{DateColumn, Mask};
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::interval::{CountRule, Interval, Way};
use crate::shift::Unit;

/// The figures of [`count_between`], with the rule by which all of them were counted.
///
/// ```
/// use mild_ledger::column::{Dates, count_between};
/// use mild_ledger::{CountRule, Date};
///
/// let days = count_between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), CountRule::DAYS, 1)?;
/// assert_eq!(days.get(0), Some(3_652_058));
/// assert_eq!(days.rule(), CountRule::DAYS);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CountColumn {
    values: Vec<i32>,
    present: Mask,
    rule: CountRule,
}

impl CountColumn {
    /// A column of figures that were counted one by one under a rule; a figure that is none, or is too large to
    /// hold, leaves its row empty.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, column::CountColumn};
    /// let ages = CountColumn::of_figures("complete years".parse()?, [Some(41), None]);
    /// assert_eq!((ages.get(0), ages.get(1), ages.len()), (Some(41), None, 2));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn of_figures(rule: CountRule, figures: impl IntoIterator<Item = Option<i64>>) -> Self {
        let mut column = Self { values: Vec::new(), present: Mask::new(), rule };
        for figure in figures {
            match figure.and_then(|figure| i32::try_from(figure).ok()) {
                Some(figure) => {
                    column.values.push(figure);
                    column.present.push_present();
                }
                None => {
                    column.values.push(0);
                    column.present.push_empty();
                }
            }
        }
        column
    }

    /// The figure of a row; `None` where it is empty or there is no such row.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, column::{Dates, count_between}};
    /// let none = count_between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), CountRule::DAYS, 0)?;
    /// assert_eq!(none.get(0), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<i64> {
        if self.present.is_present(row) { Some(i64::from(self.values[row])) } else { None }
    }

    /// The number of rows.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, column::{Dates, count_between}};
    /// let two = count_between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), CountRule::DAYS, 2)?;
    /// assert_eq!(two.len(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn len(&self) -> usize {
        self.values.len()
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, column::{Dates, count_between}};
    /// let none = count_between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), CountRule::DAYS, 0)?;
    /// assert!(none.is_empty());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.values.is_empty()
    }

    /// The rule of counting.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, column::{Dates, count_between}};
    /// let none = count_between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), CountRule::DAYS, 0)?;
    /// assert_eq!(none.rule().to_string(), "days");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn rule(&self) -> CountRule {
        self.rule
    }

    /// The figures, one a row; what stands in an empty row has no meaning.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, column::{Dates, count_between}};
    /// let one = count_between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), CountRule::DAYS, 1)?;
    /// assert_eq!(one.values(), [0]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn values(&self) -> &[i32] {
        &self.values
    }

    /// The rows that hold a figure.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, column::{Dates, count_between}};
    /// let one = count_between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), CountRule::DAYS, 1)?;
    /// assert_eq!(one.mask().present(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn mask(&self) -> &Mask {
        &self.present
    }
}

/// One end of the intervals of a column: another date in each row, or one date for every row.
///
/// ```
/// use mild_ledger::column::Dates;
/// assert_eq!(Dates::Every(mild_ledger::Date::MIN).get(5), Some(mild_ledger::Date::MIN));
/// ```
#[derive(Debug, Clone, Copy)]
pub enum Dates<'c> {
    /// A date a row.
    Column(&'c DateColumn),
    /// The same date in every row.
    Every(Date),
}

impl Dates<'_> {
    /// The date of a row.
    ///
    /// ```
    /// use mild_ledger::column::{DateColumn, Dates};
    /// assert_eq!(Dates::Column(&DateColumn::new()).get(0), None);
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<Date> {
        match self {
            Self::Column(column) => column.get(row),
            Self::Every(date) => Some(*date),
        }
    }

    fn has_rows(&self, rows: usize) -> bool {
        match self {
            Self::Column(column) => column.len() == rows,
            Self::Every(_) => true,
        }
    }
}

/// Counts between a start and an end in each of so many rows, as [`Interval::count`] does for one; empty where
/// either is.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] where a column has another number of rows.
///
/// ```
/// use mild_ledger::column::{DateColumn, Dates, count_between};
///
/// let starts: DateColumn = [Some("2026-01-31".parse()?), None].into_iter().collect();
/// let end = "2026-02-28".parse()?;
/// let months = count_between(Dates::Column(&starts), Dates::Every(end), "complete months".parse()?, 2)?;
/// assert_eq!((months.get(0), months.get(1)), (Some(1), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn count_between(
    starts: Dates<'_>,
    ends: Dates<'_>,
    rule: CountRule,
    rows: usize,
) -> Result<CountColumn, Error> {
    if !starts.has_rows(rows) || !ends.has_rows(rows) {
        return Err(Error::new(
            ErrorKind::OutOfRange,
            format!("a column of dates does not have {rows} rows"),
            "columns of as many rows as are counted",
        ));
    }
    let present = match (starts, ends) {
        (Dates::Column(starts), Dates::Column(ends)) => starts.mask().and(ends.mask()),
        (Dates::Column(dates), Dates::Every(_)) | (Dates::Every(_), Dates::Column(dates)) => {
            dates.mask().clone()
        }
        (Dates::Every(_), Dates::Every(_)) => Mask::all_present(rows),
    };
    // Each rule gets a loop of its own, in which it is known.
    let (way, unit) = (rule.way(), rule.unit());
    let known = |way, unit| CountRule::new(way, unit);
    let values = match (way, unit) {
        (_, Unit::Day) => figures(starts, ends, rows, |interval| interval.figure(CountRule::DAYS)),
        (Way::Complete, Unit::Week) => {
            figures(starts, ends, rows, |i| i.figure(known(Way::Complete, Unit::Week)))
        }
        (Way::Complete, Unit::Month) => {
            figures(starts, ends, rows, |i| i.figure(known(Way::Complete, Unit::Month)))
        }
        (Way::Complete, Unit::Year) => {
            figures(starts, ends, rows, |i| i.figure(known(Way::Complete, Unit::Year)))
        }
        (Way::StartsPassed, Unit::Month) => {
            figures(starts, ends, rows, |i| i.figure(known(Way::StartsPassed, Unit::Month)))
        }
        _ => figures(starts, ends, rows, |interval| interval.figure(rule)),
    };
    Ok(CountColumn { values, present, rule })
}

/// One figure a row; what stands in an empty row is a figure too, and the mask hides it.
#[inline]
fn figures(starts: Dates<'_>, ends: Dates<'_>, rows: usize, figure: impl Fn(Interval) -> i32) -> Vec<i32> {
    let of = |(start, end)| figure(Interval::between(start, end));
    match (starts, ends) {
        (Dates::Column(starts), Dates::Column(ends)) => {
            starts.days_as_dates().zip(ends.days_as_dates()).map(of).collect()
        }
        (Dates::Column(starts), Dates::Every(end)) => {
            starts.days_as_dates().map(|start| of((start, end))).collect()
        }
        (Dates::Every(start), Dates::Column(ends)) => {
            ends.days_as_dates().map(|end| of((start, end))).collect()
        }
        (Dates::Every(start), Dates::Every(end)) => vec![of((start, end)); rows],
    }
}
