//! A column that owns its values.

use super::cell::Cell;
use super::slices::{ColumnSlice, ColumnSliceMut, Values};
use super::validity::Validity;
use crate::error::{Error, ErrorKind};
use alloc::format;
use alloc::vec;
use alloc::vec::Vec;

/// Values one a row, some of them empty: what is stored for each, and a bit a row that says whether it holds a value.
///
/// Both parts are laid out as in the Arrow columnar format, so that they can be handed over without a copy.
///
/// ```
/// use mild_ledger::{Date, column::Column};
///
/// let mut dates = Column::new();
/// dates.push(Some("2026-09-30".parse::<Date>()?));
/// dates.push(None);
/// assert_eq!(dates.get(0), Some("2026-09-30".parse()?));
/// assert_eq!((dates.get(1), dates.get(2), dates.len()), (None, None, 2));
/// assert_eq!(dates.values()[0], 20_726);
/// assert_eq!(dates.validity().valid_rows(), 1);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone)]
pub struct Column<T: Cell> {
    values: Vec<T::Stored>,
    /// A bit a row, those after the last row clear.
    validity: Vec<u8>,
}

impl<T: Cell> Column<T> {
    /// A column of no rows.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// assert!(Column::<i32>::new().is_empty());
    /// ```
    #[must_use]
    pub fn new() -> Self {
        Self { values: Vec::new(), validity: Vec::new() }
    }

    /// A column of what is stored for each row, and a bit a row; without bits every row holds a value. What is
    /// in a row without a value may be anything.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`] for fewer bits than rows; [`ErrorKind::OutOfRange`] for a row that is marked to hold
    /// a value and does not, such as a day number beyond the calendar.
    ///
    /// ```
    /// use mild_ledger::{Date, column::Column};
    /// let dates = Column::<Date>::from_parts(vec![20_726, i32::MAX], Some(vec![0b01]))?;
    /// assert_eq!((dates.get(0), dates.get(1)), (Some("2026-09-30".parse()?), None));
    /// assert!(Column::<Date>::from_parts(vec![i32::MAX], None).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn from_parts(mut values: Vec<T::Stored>, validity: Option<Vec<u8>>) -> Result<Self, Error> {
        let rows = values.len();
        let mut validity = validity.unwrap_or_else(|| vec![u8::MAX; rows.div_ceil(8)]);
        Validity::new(&validity, 0, rows)?;
        validity.truncate(rows.div_ceil(8));
        clear_behind(&mut validity, rows);
        for (row, value) in values.iter_mut().enumerate() {
            if T::of_stored(*value).is_some() {
                continue;
            }
            if is_set(&validity, row) {
                let what = format!("row {row} holds {value:?}, which represents no value");
                return Err(Error::new(ErrorKind::OutOfRange, what, "values that the column can hold"));
            }
            *value = T::EMPTY;
        }
        Ok(Self { values, validity })
    }

    /// What is stored for each row, and a bit a row.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// let column: Column<i32> = [Some(7), None].into_iter().collect();
    /// assert_eq!(column.into_parts(), (vec![7, 0], vec![0b01]));
    /// ```
    #[must_use]
    pub fn into_parts(self) -> (Vec<T::Stored>, Vec<u8>) {
        (self.values, self.validity)
    }

    /// Appends a row; `None` is empty.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// let mut column = Column::new();
    /// column.push(Some(5_i64));
    /// assert_eq!(column.get(0), Some(5));
    /// ```
    pub fn push(&mut self, value: Option<T>) {
        let row = self.values.len();
        if row.is_multiple_of(8) {
            self.validity.push(0);
        }
        if let (Some(_), Some(byte)) = (value, self.validity.last_mut()) {
            *byte |= 1 << (row % 8);
        }
        self.values.push(value.map_or(T::EMPTY, T::stored));
    }

    /// The value of a row; `None` where it is empty, and beyond the last row.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// assert_eq!(Column::<i32>::new().get(3), None);
    /// ```
    #[must_use]
    #[inline]
    pub fn get(&self, row: usize) -> Option<T> {
        if is_set(&self.validity, row) { T::of_stored(*self.values.get(row)?) } else { None }
    }

    /// The number of rows.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// assert_eq!(Column::<u8>::new().len(), 0);
    /// ```
    #[must_use]
    pub fn len(&self) -> usize {
        self.values.len()
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// assert!(Column::<u8>::default().is_empty());
    /// ```
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.values.is_empty()
    }

    /// What is stored for each row; what is in an empty row has no meaning.
    ///
    /// ```
    /// use mild_ledger::{Date, column::Column};
    /// let column: Column<Date> = [Some(Date::MIN)].into_iter().collect();
    /// assert_eq!(column.values(), [-719_162]);
    /// ```
    #[must_use]
    pub fn values(&self) -> &[T::Stored] {
        &self.values
    }

    /// The rows that hold a value.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// let column: Column<u8> = [None, Some(1)].into_iter().collect();
    /// assert_eq!(column.validity().bytes(), [0b10]);
    /// ```
    #[must_use]
    pub fn validity(&self) -> Validity<'_> {
        // There is a bit for each row, always.
        Validity::of_rows(&self.validity, self.values.len())
    }

    /// The column, borrowed.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// let column: Column<u8> = [Some(1)].into_iter().collect();
    /// assert_eq!(column.as_slice().get(0), Some(1));
    /// ```
    #[must_use]
    pub fn as_slice(&self) -> ColumnSlice<'_, T> {
        ColumnSlice::of_column(&self.values, self.validity())
    }

    /// Its rows in their order.
    ///
    /// ```
    /// use mild_ledger::column::Column;
    /// let column: Column<u8> = [Some(1), None].into_iter().collect();
    /// assert_eq!(column.iter().flatten().sum::<u8>(), 1);
    /// ```
    pub fn iter(&self) -> impl ExactSizeIterator<Item = Option<T>> + '_ {
        (0..self.values.len()).map(|row| self.get(row))
    }

    /// Makes it a number of rows long, to be written anew; its memory is used again.
    ///
    /// ```
    /// use mild_ledger::{Date, Shift, column::{Column, shifted_into}};
    /// let dates: Column<Date> = [Some(Date::MIN)].into_iter().collect();
    /// let mut moved = Column::new();
    /// shifted_into(&dates, &Shift::days(1), moved.rows_to_write(1))?;
    /// assert_eq!(moved.get(0), Some("0001-01-02".parse()?));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn rows_to_write(&mut self, rows: usize) -> ColumnSliceMut<'_, T> {
        self.values.resize(rows, T::EMPTY);
        self.validity.clear();
        self.validity.resize(rows.div_ceil(8), 0);
        ColumnSliceMut::of_column(&mut self.values, &mut self.validity)
    }

    /// A column of a number of rows, written by a function.
    pub(super) fn written(rows: usize, write: impl FnOnce(ColumnSliceMut<'_, T>)) -> Self {
        let mut column = Self::new();
        write(column.rows_to_write(rows));
        column
    }

    /// A column of a number of rows, each by what is in it.
    pub(super) fn of_rows(rows: usize, value: impl Fn(usize) -> Option<T>) -> Self {
        Self::written(rows, |out| out.write_rows(value))
    }
}

#[inline]
fn is_set(validity: &[u8], row: usize) -> bool {
    validity.get(row / 8).is_some_and(|byte| byte >> (row % 8) & 1 == 1)
}

/// Clears the bits after the last row.
pub(super) fn clear_behind(validity: &mut [u8], rows: usize) {
    if let (Some(last), 1..) = (validity.last_mut(), rows % 8) {
        *last &= (1 << (rows % 8)) - 1;
    }
}

impl<T: Cell> Default for Column<T> {
    fn default() -> Self {
        Self::new()
    }
}

/// Columns are equal where all rows are: what is in an empty row has no part in it.
impl<T: Cell> PartialEq for Column<T> {
    fn eq(&self, other: &Self) -> bool {
        self.len() == other.len() && self.iter().eq(other.iter())
    }
}

impl<T: Cell + Eq> Eq for Column<T> {}

impl<T: Cell> FromIterator<Option<T>> for Column<T> {
    fn from_iter<I: IntoIterator<Item = Option<T>>>(values: I) -> Self {
        let mut column = Self::new();
        column.extend(values);
        column
    }
}

impl<T: Cell> Extend<Option<T>> for Column<T> {
    fn extend<I: IntoIterator<Item = Option<T>>>(&mut self, values: I) {
        values.into_iter().for_each(|value| self.push(value));
    }
}

impl<T: Cell> IntoIterator for Column<T> {
    type Item = Option<T>;
    type IntoIter = ColumnRows<T>;

    fn into_iter(self) -> ColumnRows<T> {
        ColumnRows { column: self, row: 0 }
    }
}

/// The rows of a column, one after the other.
///
/// ```
/// use mild_ledger::column::Column;
/// let column: Column<u8> = [Some(1), None].into_iter().collect();
/// assert_eq!(column.into_iter().collect::<Vec<_>>(), [Some(1), None]);
/// ```
#[derive(Debug, Clone)]
pub struct ColumnRows<T: Cell> {
    column: Column<T>,
    row: usize,
}

impl<T: Cell> Iterator for ColumnRows<T> {
    type Item = Option<T>;

    fn next(&mut self) -> Option<Option<T>> {
        let row = self.row;
        if row >= self.column.len() {
            return None;
        }
        self.row += 1;
        Some(self.column.get(row))
    }

    fn size_hint(&self) -> (usize, Option<usize>) {
        let left = self.column.len() - self.row;
        (left, Some(left))
    }
}

impl<T: Cell> ExactSizeIterator for ColumnRows<T> {}

impl<'c, T: Cell> From<&'c Column<T>> for Values<'c, T> {
    fn from(column: &'c Column<T>) -> Self {
        Self::Each(column.as_slice())
    }
}
