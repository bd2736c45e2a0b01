//! A column of dates, and moving it.

use super::Mask;
use crate::date::Date;

/// Dates as day numbers, with a mask of the empty rows.
///
/// ```
/// use mild_ledger::column::DateColumn;
///
/// let mut dates = DateColumn::new();
/// dates.push(Some("2026-09-30".parse()?));
/// dates.push(None);
/// assert_eq!(dates.get(0), Some("2026-09-30".parse()?));
/// assert_eq!((dates.get(1), dates.len()), (None, 2));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct DateColumn {
    pub(super) days: Vec<i32>,
    pub(super) present: Mask,
}

impl DateColumn {
    /// A column of no rows.
    ///
    /// ```
    /// assert!(mild_ledger::column::DateColumn::new().is_empty());
    /// ```
    #[must_use]
    pub fn new() -> Self {
        Self::default()
    }

    /// Appends a row; `None` is empty.
    ///
    /// ```
    /// let mut dates = mild_ledger::column::DateColumn::new();
    /// dates.push(Some(mild_ledger::Date::MIN));
    /// assert_eq!(dates.len(), 1);
    /// ```
    pub fn push(&mut self, date: Option<Date>) {
        match date {
            Some(date) => {
                self.days.push(date.day_number());
                self.present.push_present();
            }
            None => {
                self.days.push(0);
                self.present.push_empty();
            }
        }
    }

    /// The date of a row; `None` where it is empty or there is no such row.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::DateColumn::new().get(3), None);
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<Date> {
        if self.present.is_present(row) { Date::in_range(i64::from(self.days[row])) } else { None }
    }

    /// The number of rows.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::DateColumn::new().len(), 0);
    /// ```
    #[must_use]
    pub fn len(&self) -> usize {
        self.days.len()
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// assert!(mild_ledger::column::DateColumn::new().is_empty());
    /// ```
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.days.is_empty()
    }

    /// The day numbers since 1970-01-01, one a row; what stands in an empty row has no meaning.
    ///
    /// ```
    /// assert!(mild_ledger::column::DateColumn::new().day_numbers().is_empty());
    /// ```
    #[must_use]
    pub fn day_numbers(&self) -> &[i32] {
        &self.days
    }

    /// The rows that hold a date.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::DateColumn::new().mask().present(), 0);
    /// ```
    #[must_use]
    pub fn mask(&self) -> &Mask {
        &self.present
    }
}

impl FromIterator<Option<Date>> for DateColumn {
    fn from_iter<I: IntoIterator<Item = Option<Date>>>(dates: I) -> Self {
        let mut column = Self::new();
        dates.into_iter().for_each(|date| column.push(date));
        column
    }
}
