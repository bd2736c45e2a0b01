//! Columns of parts and of exact fractions.

use super::Mask;
use crate::interval::Parts;
use crate::number::Fraction;

/// Years, months and days of intervals, in three narrow columns.
///
/// ```
/// use mild_ledger::column::PartsColumn;
/// assert_eq!(PartsColumn::default().get(0), None);
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct PartsColumn {
    years: Vec<i16>,
    months: Vec<i8>,
    days: Vec<i8>,
    present: Mask,
}

impl PartsColumn {
    /// The parts of a row; `None` where it is empty or there is no such row.
    ///
    /// ```
    /// # use mild_ledger::{Date, column::{Dates, Intervals}};
    /// let none = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1)?.parts();
    /// assert_eq!(none.get(0).map(|parts| parts.to_string()), Some("0 days".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<Parts> {
        let there = self.present.is_present(row);
        there.then(|| Parts::new(self.years[row].into(), self.months[row].into(), self.days[row].into()))
    }

    /// The number of rows.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::PartsColumn::default().len(), 0);
    /// ```
    #[must_use]
    pub fn len(&self) -> usize {
        self.years.len()
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// assert!(mild_ledger::column::PartsColumn::default().is_empty());
    /// ```
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.years.is_empty()
    }

    /// Complete years, one a row; what stands in an empty row has no meaning.
    ///
    /// ```
    /// assert!(mild_ledger::column::PartsColumn::default().years().is_empty());
    /// ```
    #[must_use]
    pub fn years(&self) -> &[i16] {
        &self.years
    }

    /// Months beyond the years, −11 to 11, one a row.
    ///
    /// ```
    /// assert!(mild_ledger::column::PartsColumn::default().months().is_empty());
    /// ```
    #[must_use]
    pub fn months(&self) -> &[i8] {
        &self.months
    }

    /// Days beyond the months, −30 to 30, one a row.
    ///
    /// ```
    /// assert!(mild_ledger::column::PartsColumn::default().days().is_empty());
    /// ```
    #[must_use]
    pub fn days(&self) -> &[i8] {
        &self.days
    }

    /// The rows that hold parts.
    ///
    /// ```
    /// assert!(mild_ledger::column::PartsColumn::default().mask().is_empty());
    /// ```
    #[must_use]
    pub fn mask(&self) -> &Mask {
        &self.present
    }

    pub(super) fn resize(&mut self, rows: usize, present: Mask) {
        self.years.resize(rows, 0);
        self.months.resize(rows, 0);
        self.days.resize(rows, 0);
        self.present = present;
    }

    pub(super) fn as_slices(&mut self) -> (&mut [i16], &mut [i8], &mut [i8]) {
        (&mut self.years, &mut self.months, &mut self.days)
    }
}

/// Exact fractions, one a row.
///
/// ```
/// # use mild_ledger::{Date, Unit, column::{Dates, Intervals}};
/// let none = Intervals::between(Dates::Every(Date::MIN), Dates::Every(Date::MIN), 1)?.fractional(Unit::Month);
/// assert_eq!((none.len(), none.get(0).map(|months| months.whole()), none.get(1)), (1, Some(0), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct FractionColumn {
    values: Vec<Fraction>,
    present: Mask,
}

impl FractionColumn {
    /// The fraction of a row; `None` where it is empty or there is no such row.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::FractionColumn::default().get(0), None);
    /// ```
    #[must_use]
    pub fn get(&self, row: usize) -> Option<Fraction> {
        self.present.is_present(row).then(|| self.values[row])
    }

    /// The number of rows.
    ///
    /// ```
    /// assert_eq!(mild_ledger::column::FractionColumn::default().len(), 0);
    /// ```
    #[must_use]
    pub fn len(&self) -> usize {
        self.values.len()
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// assert!(mild_ledger::column::FractionColumn::default().is_empty());
    /// ```
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.values.is_empty()
    }

    /// The rows that hold a fraction.
    ///
    /// ```
    /// assert!(mild_ledger::column::FractionColumn::default().mask().is_empty());
    /// ```
    #[must_use]
    pub fn mask(&self) -> &Mask {
        &self.present
    }
}

impl FromIterator<Option<Fraction>> for FractionColumn {
    fn from_iter<I: IntoIterator<Item = Option<Fraction>>>(fractions: I) -> Self {
        let mut column = Self::default();
        for fraction in fractions {
            match fraction {
                Some(_) => column.present.push_present(),
                None => column.present.push_empty(),
            }
            column.values.push(fraction.unwrap_or(Fraction::new(0, 0, 1)));
        }
        column
    }
}
