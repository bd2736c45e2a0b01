//! Columns that another user owns, to be read or written.

use super::cell::Cell;
use super::validity::{Validity, and_word, set_word};
use crate::error::{Error, ErrorKind};
use alloc::format;

/// A borrowed column: what is stored for each row, and perhaps the bits of the rows that hold a value; without them
/// all do.
///
/// A day number beyond the calendar, or what else represents no value, is an empty row.
///
/// ```
/// use mild_ledger::{Date, Shift, column::{ColumnSlice, Validity, shifted}};
///
/// let days = [20_726, 20_727, i32::MAX];
/// let dates = ColumnSlice::<Date>::new(&days, Some(Validity::new(&[0b101], 0, 3)?))?;
/// assert_eq!((dates.get(0), dates.get(1), dates.get(2)), (Some("2026-09-30".parse()?), None, None));
/// assert_eq!(shifted(dates, &Shift::days(1)).iter().flatten().count(), 1);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy)]
pub struct ColumnSlice<'c, T: Cell> {
    values: &'c [T::Stored],
    validity: Option<Validity<'c>>,
    checked: Checked,
}

/// Whether every row is known to hold a value, or none at all.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Checked {
    Already,
    NotYet,
}

impl<'c, T: Cell> ColumnSlice<'c, T> {
    /// A column of values and the rows that hold one.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`] where there are more or fewer bits than values.
    ///
    /// ```
    /// use mild_ledger::column::{ColumnSlice, Validity};
    /// assert!(ColumnSlice::<i32>::new(&[1, 2], Some(Validity::new(&[1], 0, 1)?)).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn new(values: &'c [T::Stored], validity: Option<Validity<'c>>) -> Result<Self, Error> {
        if let Some(validity) = validity {
            same_rows(values.len(), validity.len())?;
        }
        Ok(Self { values, validity, checked: Checked::NotYet })
    }

    pub(super) fn of_column(values: &'c [T::Stored], validity: Validity<'c>) -> Self {
        Self { values, validity: Some(validity), checked: Checked::Already }
    }

    /// The value of a row; `None` where it is empty, and beyond the last row.
    ///
    /// ```
    /// use mild_ledger::column::ColumnSlice;
    /// let column = ColumnSlice::<i32>::new(&[7], None)?;
    /// assert_eq!((column.get(0), column.get(1)), (Some(7), None));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    #[inline]
    pub fn get(self, row: usize) -> Option<T> {
        if self.validity.is_none_or(|validity| validity.is_valid(row)) {
            T::of_stored(*self.values.get(row)?)
        } else {
            None
        }
    }

    /// The number of rows.
    ///
    /// ```
    /// use mild_ledger::column::ColumnSlice;
    /// assert_eq!(ColumnSlice::<i32>::new(&[7], None)?.len(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn len(self) -> usize {
        self.values.len()
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// use mild_ledger::column::ColumnSlice;
    /// assert!(ColumnSlice::<i32>::new(&[], None)?.is_empty());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn is_empty(self) -> bool {
        self.values.is_empty()
    }

    /// What is stored for each row; what is in an empty row has no meaning.
    ///
    /// ```
    /// use mild_ledger::column::ColumnSlice;
    /// assert_eq!(ColumnSlice::<i32>::new(&[7], None)?.values(), [7]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn values(self) -> &'c [T::Stored] {
        self.values
    }

    /// The rows that hold a value; `None` where all do.
    ///
    /// ```
    /// use mild_ledger::column::ColumnSlice;
    /// assert!(ColumnSlice::<i32>::new(&[7], None)?.validity().is_none());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn validity(self) -> Option<Validity<'c>> {
        self.validity
    }

    pub(super) fn checked(self) -> Checked {
        self.checked
    }
}

/// What a calculation takes: a value a row, or one that represents every row.
///
/// ```
/// use mild_ledger::{Date, column::{Column, Values}};
/// let dates: Column<Date> = [Some(Date::MIN), None].into_iter().collect();
/// assert_eq!(Values::from(&dates).get(1), None);
/// assert_eq!(Values::from(Date::MAX).get(1), Some(Date::MAX));
/// ```
#[derive(Debug, Clone, Copy)]
pub enum Values<'c, T: Cell> {
    /// A value a row, or none.
    Each(ColumnSlice<'c, T>),
    /// The same value in every row.
    Every(T),
}

impl<T: Cell> Values<'_, T> {
    /// The value of a row; a value that represents every row is there for any.
    ///
    /// ```
    /// use mild_ledger::column::Values;
    /// assert_eq!(Values::from(7).get(1_000), Some(7));
    /// ```
    #[must_use]
    #[inline]
    pub fn get(self, row: usize) -> Option<T> {
        match self {
            Self::Each(column) => column.get(row),
            Self::Every(value) => Some(value),
        }
    }

    /// The number of rows; `None` where one value represents any number.
    ///
    /// ```
    /// use mild_ledger::column::Values;
    /// assert_eq!(Values::from(7).rows(), None);
    /// ```
    #[must_use]
    pub fn rows(self) -> Option<usize> {
        match self {
            Self::Each(column) => Some(column.len()),
            Self::Every(_) => None,
        }
    }

    pub(super) fn validity(&self) -> Option<Validity<'_>> {
        match self {
            Self::Each(column) => column.validity(),
            Self::Every(_) => None,
        }
    }
}

impl<'c, T: Cell> From<ColumnSlice<'c, T>> for Values<'c, T> {
    fn from(column: ColumnSlice<'c, T>) -> Self {
        Self::Each(column)
    }
}

impl<T: Cell> From<T> for Values<'_, T> {
    fn from(value: T) -> Self {
        Self::Every(value)
    }
}

/// The rows that two inputs have: as many as the one that is a column, or one where neither is.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`] where both are columns, of different lengths.
pub(super) fn rows_of(one: Option<usize>, other: Option<usize>) -> Result<usize, Error> {
    match (one, other) {
        (Some(one), Some(other)) => same_rows(one, other).map(|()| one),
        (Some(rows), None) | (None, Some(rows)) => Ok(rows),
        (None, None) => Ok(1),
    }
}

/// # Errors
/// [`ErrorKind::LengthsDiffer`] where they are not the same.
pub(super) fn same_rows(one: usize, other: usize) -> Result<(), Error> {
    if one == other {
        return Ok(());
    }
    let what = format!("a column of {other} rows is next to one of {one}");
    Err(Error::new(ErrorKind::LengthsDiffer, what, "columns of as many rows"))
}

/// # Errors
/// [`ErrorKind::LengthsDiffer`] where there is not a byte for each eight rows.
pub(super) fn bits_for(rows: usize, validity: &[u8]) -> Result<(), Error> {
    if validity.len() == rows.div_ceil(8) {
        return Ok(());
    }
    let what = format!("{} bytes of bits are next to {rows} rows", validity.len());
    Err(Error::new(ErrorKind::LengthsDiffer, what, "a byte for each eight rows"))
}

/// A column of the caller's that is written: what is stored for each row, and the bits of the rows that hold a value,
/// the least significant bit of a byte first, from the first bit on.
///
/// ```
/// use mild_ledger::{Date, Shift, column::{ColumnSlice, ColumnSliceMut, shifted_into}};
///
/// let dates = ColumnSlice::<Date>::new(&[20_726, 20_727], None)?;
/// let (mut days, mut validity) = ([0; 2], [0; 1]);
/// shifted_into(dates, &Shift::days(1), ColumnSliceMut::new(&mut days, &mut validity)?)?;
/// assert_eq!((days, validity), ([20_727, 20_728], [0b11]));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug)]
pub struct ColumnSliceMut<'c, T: Cell> {
    pub(super) values: &'c mut [T::Stored],
    pub(super) validity: &'c mut [u8],
}

impl<'c, T: Cell> ColumnSliceMut<'c, T> {
    /// The values to write, and a byte for each eight of them, begun or whole.
    ///
    /// # Errors
    /// [`ErrorKind::LengthsDiffer`] for more or fewer bytes than that.
    ///
    /// ```
    /// use mild_ledger::column::ColumnSliceMut;
    /// assert!(ColumnSliceMut::<i32>::new(&mut [0; 9], &mut [0; 2]).is_ok());
    /// assert!(ColumnSliceMut::<i32>::new(&mut [0; 9], &mut [0; 1]).is_err());
    /// ```
    pub fn new(values: &'c mut [T::Stored], validity: &'c mut [u8]) -> Result<Self, Error> {
        bits_for(values.len(), validity)?;
        Ok(Self { values, validity })
    }

    pub(super) fn of_column(values: &'c mut [T::Stored], validity: &'c mut [u8]) -> Self {
        Self { values, validity }
    }

    /// The number of rows.
    ///
    /// ```
    /// use mild_ledger::column::ColumnSliceMut;
    /// assert_eq!(ColumnSliceMut::<i32>::new(&mut [0; 9], &mut [0; 2])?.len(), 9);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn len(&self) -> usize {
        self.values.len()
    }

    /// Whether it has no rows at all.
    ///
    /// ```
    /// use mild_ledger::column::ColumnSliceMut;
    /// assert!(ColumnSliceMut::<i32>::new(&mut [], &mut [])?.is_empty());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.values.is_empty()
    }

    /// Writes every row by what is in it, one by one.
    pub(super) fn write_rows(self, value: impl Fn(usize) -> Option<T>) {
        let chunks = self.values.chunks_mut(64).zip(self.validity.chunks_mut(8)).enumerate();
        for (nth, (values, validity)) in chunks {
            let mut word = 0;
            for (row, out) in values.iter_mut().enumerate() {
                let value = value(64 * nth + row);
                word |= u64::from(value.is_some()) << row;
                *out = value.map_or(T::EMPTY, T::stored);
            }
            set_word(validity, word);
        }
    }

    /// # Errors
    /// [`ErrorKind::LengthsDiffer`] for another number of rows.
    pub(super) fn has_rows(self, rows: usize) -> Result<Self, Error> {
        same_rows(rows, self.values.len()).map(|()| self)
    }
}

/// Clears the bits of rows that an input does not hold.
pub(super) fn keep_valid(validity: &mut [u8], of: Option<Validity<'_>>) {
    if let Some(of) = of {
        for (nth, bytes) in validity.chunks_mut(8).enumerate() {
            and_word(bytes, of.word(nth));
        }
    }
}
