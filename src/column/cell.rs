//! The values that columns hold.

use crate::date::{Date, DateTime};
use crate::interval::Parts;
use crate::number::{Fraction, Quotient};
use core::fmt::Debug;

/// A value that a [`Column`](super::Column) holds, and how it is stored: dates as day numbers since 1970-01-01,
/// date-times as microseconds since then, everything else as itself. The crate alone implements it.
///
/// ```
/// use mild_ledger::{Date, column::{Cell, Column}};
/// fn first<T: Cell>(column: &Column<T>) -> Option<T> {
///     column.get(0)
/// }
/// assert_eq!(first(&[Some(Date::MIN)].into_iter().collect()), Some(Date::MIN));
/// ```
pub trait Cell: Copy + Debug + PartialEq + sealed::Sealed {
    /// What is in the column for it.
    type Stored: Copy + Debug + PartialEq;
    /// What is in an empty row of the crate's own making.
    const EMPTY: Self::Stored;

    /// What is stored for it.
    fn stored(self) -> Self::Stored;

    /// The value of what is stored; `None` where it represents none, such as a day number beyond the calendar.
    fn of_stored(stored: Self::Stored) -> Option<Self>;
}

mod sealed {
    pub trait Sealed {}
}

impl sealed::Sealed for Date {}

impl Cell for Date {
    type Stored = i32;
    const EMPTY: i32 = 0;

    #[inline]
    fn stored(self) -> i32 {
        self.day_number()
    }

    #[inline]
    fn of_stored(stored: i32) -> Option<Self> {
        Self::in_range(i64::from(stored))
    }
}

impl sealed::Sealed for DateTime {}

impl Cell for DateTime {
    type Stored = i64;
    const EMPTY: i64 = 0;

    #[inline]
    fn stored(self) -> i64 {
        self.microseconds()
    }

    #[inline]
    fn of_stored(stored: i64) -> Option<Self> {
        Self::from_microseconds(stored).ok()
    }
}

/// Values that are stored as they are.
macro_rules! stored_as_itself {
    ($($cell:ty = $empty:expr),* $(,)?) => {$(
        impl sealed::Sealed for $cell {}

        impl Cell for $cell {
            type Stored = Self;
            const EMPTY: Self = $empty;

            #[inline]
            fn stored(self) -> Self {
                self
            }

            #[inline]
            fn of_stored(stored: Self) -> Option<Self> {
                Some(stored)
            }
        }
    )*};
}

stored_as_itself! {
    i8 = 0, u8 = 0, i16 = 0, u16 = 0, i32 = 0, u32 = 0, i64 = 0, i128 = 0,
    Fraction = Fraction::ZERO, Parts = Parts::NONE, Quotient = Quotient::ZERO,
}
