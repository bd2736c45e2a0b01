//! Arrays of the engine as columns of the library and back, without a copy.

use arrow::array::{Array, ArrayRef, BooleanArray, Date32Array, Decimal128Array, Int32Array, PrimitiveArray};
use arrow::buffer::{BooleanBuffer, Buffer, NullBuffer, ScalarBuffer};
use arrow::datatypes::{ArrowPrimitiveType, Date32Type, Int32Type, Int64Type};
use datafusion::error::{DataFusionError, Result};
use mild_ledger::column::{Cell, Column, ColumnSlice, Validity, Values, rounded};
use mild_ledger::{Date, Fraction, Quotient, Rounding};
use std::sync::Arc;

/// The most digits of a decimal column.
pub(crate) const DIGITS: u8 = 38;

/// An error of the library while rows are worked out.
pub(crate) fn failed(error: &mild_ledger::Error) -> DataFusionError {
    DataFusionError::Execution(error.to_string())
}

/// An input of a function: a column, or one value for all rows.
pub(crate) enum Input {
    Dates(Date32Array),
    EveryDate(Date),
    Figures(Int32Array),
    EveryFigure(i32),
}

/// The inputs of a function, and how many rows they are.
pub(crate) struct Inputs {
    pub(crate) all: Vec<Input>,
    pub(crate) rows: usize,
}

impl Inputs {
    /// The dates of an input.
    pub(crate) fn dates(&self, nth: usize) -> Result<Values<'_, Date>> {
        match self.all.get(nth) {
            Some(Input::Dates(dates)) => Ok(slice_of::<Date, Date32Type>(dates)?.into()),
            Some(Input::EveryDate(date)) => Ok((*date).into()),
            _ => Err(DataFusionError::Internal(format!("input {} holds no dates", nth + 1))),
        }
    }

    /// The whole numbers of an input.
    pub(crate) fn figures(&self, nth: usize) -> Result<Values<'_, i32>> {
        match self.all.get(nth) {
            Some(Input::Figures(figures)) => Ok(slice_of::<i32, Int32Type>(figures)?.into()),
            Some(Input::EveryFigure(figure)) => Ok((*figure).into()),
            _ => Err(DataFusionError::Internal(format!("input {} holds no numbers", nth + 1))),
        }
    }
}

fn slice_of<C, A>(array: &PrimitiveArray<A>) -> Result<ColumnSlice<'_, C>>
where
    C: Cell<Stored = A::Native>,
    A: ArrowPrimitiveType,
{
    let nulls = array.nulls();
    let validity =
        nulls.map(|nulls| Validity::new(nulls.validity(), nulls.offset(), nulls.len())).transpose();
    let validity = validity.map_err(|error| failed(&error))?;
    ColumnSlice::new(array.values(), validity).map_err(|error| failed(&error))
}

fn nulls_of(bits: Vec<u8>, rows: usize) -> NullBuffer {
    NullBuffer::new(BooleanBuffer::new(Buffer::from_vec(bits), 0, rows))
}

fn array_of<C, A>(column: Column<C>) -> ArrayRef
where
    C: Cell<Stored = A::Native>,
    A: ArrowPrimitiveType,
{
    let rows = column.len();
    let (values, bits) = column.into_parts();
    Arc::new(PrimitiveArray::<A>::new(ScalarBuffer::from(values), Some(nulls_of(bits, rows))))
}

/// A column of dates as an array.
pub(crate) fn dates(column: Column<Date>) -> ArrayRef {
    array_of::<Date, Date32Type>(column)
}

/// A column of whole numbers as an array.
pub(crate) fn whole(column: Column<i32>) -> ArrayRef {
    array_of::<i32, Int32Type>(column)
}

/// A column of large whole numbers as an array.
pub(crate) fn large(column: Column<i64>) -> ArrayRef {
    array_of::<i64, Int64Type>(column)
}

/// Exact fractions as decimals, rounded to the nearest, half away from zero.
pub(crate) fn decimals(fractions: &Column<Fraction>, decimals: u8) -> Result<ArrayRef> {
    let exact: Column<Quotient> = fractions.iter().map(|fraction| fraction.map(Quotient::from)).collect();
    let units = rounded(&exact, decimals, Rounding::Nearest).map_err(|error| failed(&error))?;
    let rows = units.len();
    let (values, bits) = units.into_parts();
    let array = Decimal128Array::new(ScalarBuffer::from(values), Some(nulls_of(bits, rows)));
    Ok(Arc::new(array.with_precision_and_scale(DIGITS, scale_of(decimals))?))
}

/// The scale of a decimal column of a number of decimals, of which there are few.
pub(crate) fn scale_of(decimals: u8) -> i8 {
    i8::try_from(decimals).unwrap_or_default()
}

/// Which rows of an array are empty.
pub(crate) fn empty_rows(array: &dyn Array) -> BooleanArray {
    (0..array.len()).map(|row| Some(array.is_null(row))).collect()
}
