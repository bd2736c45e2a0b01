//! A column of counts, and the dates that columns are counted between.

use super::{DateColumn, Mask};
use crate::date::Date;
use crate::interval::{CountRule, Ends};

/// The figures of [`Intervals::count`](super::Intervals::count), with the rule by which all of them were counted.
///
/// ```
/// use mild_ledger::column::{Dates, Intervals};
/// use mild_ledger::{CountRule, Date};
///
/// let days = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MAX), 1)?.count(CountRule::DAYS);
/// assert_eq!(days.get(0), Some(3_652_058));
/// assert_eq!(days.rule(), CountRule::DAYS);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CountColumn {
    pub(super) values: Vec<i32>,
    pub(super) present: Mask,
    pub(super) rule: CountRule,
    pub(super) ends: Ends,
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
        let mut column = Self { values: Vec::new(), present: Mask::new(), rule, ends: Ends::Last };
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
    /// # use mild_ledger::{CountRule, Date, column::{Dates, Intervals}};
    /// let none = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 0)?.count(CountRule::DAYS);
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
    /// # use mild_ledger::{CountRule, Date, column::{Dates, Intervals}};
    /// let two = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 2)?.count(CountRule::DAYS);
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
    /// # use mild_ledger::{CountRule, Date, column::{Dates, Intervals}};
    /// let none = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 0)?.count(CountRule::DAYS);
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
    /// # use mild_ledger::{CountRule, Date, column::{Dates, Intervals}};
    /// let none = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 0)?.count(CountRule::DAYS);
    /// assert_eq!(none.rule().to_string(), "days");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn rule(&self) -> CountRule {
        self.rule
    }

    /// Which ends its figures count.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, Ends, column::{Dates, Intervals}};
    /// let none = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 0)?.count(CountRule::DAYS);
    /// assert_eq!(none.ends(), Ends::Last);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn ends(&self) -> Ends {
        self.ends
    }

    /// The figures, one a row; what stands in an empty row has no meaning.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, column::{Dates, Intervals}};
    /// let one = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1)?.count(CountRule::DAYS);
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
    /// # use mild_ledger::{CountRule, Date, column::{Dates, Intervals}};
    /// let one = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1)?.count(CountRule::DAYS);
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
    /// use mild_ledger::column::{DateColumn, Dates, Intervals};
    /// assert_eq!(Dates::Column(&DateColumn::new()).get(0), None);
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<Date> {
        match self {
            Self::Column(column) => column.get(row),
            Self::Every(date) => Some(*date),
        }
    }

    /// The rows in which both this and another end hold a date.
    pub(super) fn present_with(&self, other: &Self, rows: usize) -> Mask {
        match (self, other) {
            (Dates::Column(starts), Dates::Column(ends)) => starts.mask().and(ends.mask()),
            (Dates::Column(dates), Dates::Every(_)) | (Dates::Every(_), Dates::Column(dates)) => {
                dates.mask().clone()
            }
            (Dates::Every(_), Dates::Every(_)) => Mask::all_present(rows),
        }
    }

    pub(super) fn has_rows(&self, rows: usize) -> bool {
        match self {
            Self::Column(column) => column.len() == rows,
            Self::Every(_) => true,
        }
    }
}
