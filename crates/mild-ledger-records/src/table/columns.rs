//! The values of one column, as arrays of the Arrow columnar format.

use super::dictionary::{Dictionary, LabelCount};
use super::gap::Gap;
use arrow_array::types::IntervalMonthDayNano;
use arrow_array::{
    Array, Date32Array, Decimal128Array, Int64Array, IntervalMonthDayNanoArray, PrimitiveArray, StringArray,
    TimestampMicrosecondArray,
};
use arrow_buffer::{BooleanBuffer, Buffer, NullBuffer, ScalarBuffer};
use mild_ledger::column::{Cell, Column, ColumnSlice, Validity};
use mild_ledger::{Date, DateTime, Parts, Quotient};
use std::sync::Arc;

/// The values of one column.
#[derive(Debug, Clone)]
pub(crate) enum Data {
    /// Cells of the records, texts from the plan, and texts copied from the records.
    Text(StringArray),
    /// Texts from the plan, of which there are few.
    Choice(Dictionary),
    /// Texts of our own making, such as labels, each with the number that it is ordered by.
    Made {
        texts: StringArray,
        order: Int64Array,
    },
    Date(Date32Array),
    /// Date-times on the clock, and the same instants in UTC where a zone told them.
    Moment {
        local: TimestampMicrosecondArray,
        utc: Option<TimestampMicrosecondArray>,
    },
    Count(Int64Array),
    Number(Numbers),
    /// Years and months as months, and days.
    Parts(IntervalMonthDayNanoArray),
    Band(Bands),
}

/// Numbers with a fixed count of decimals, and what they were before they were rounded.
#[derive(Debug, Clone)]
pub(crate) struct Numbers {
    pub(crate) values: Decimal128Array,
    /// The exact values, where they are others than those that are shown.
    pub(crate) exact: Option<Column<Quotient>>,
}

/// Buckets by their labels, and after them those of rows without a figure.
#[derive(Debug, Clone)]
pub(crate) struct Bands {
    pub(super) labels: Dictionary,
    buckets: u16,
}

/// Digits that a decimal of the columnar format can have.
const DIGITS: u8 = 38;

impl Data {
    pub(crate) fn dates(dates: impl IntoIterator<Item = Option<Date>>) -> Self {
        Self::Date(date_array(dates.into_iter().collect()))
    }

    /// Date-times on the clock alone.
    pub(crate) fn moments(moments: impl IntoIterator<Item = Option<DateTime>>) -> Self {
        Self::Moment { local: moment_array(moments), utc: None }
    }

    pub(crate) fn counts(counts: impl IntoIterator<Item = Option<i64>>) -> Self {
        Self::Count(counts.into_iter().collect())
    }

    /// Numbers of a number of decimals, in units of the last one.
    pub(crate) fn numbers(units: impl IntoIterator<Item = Option<i128>>, decimals: u8) -> Self {
        Self::Number(Numbers { values: decimal_array(units, decimals), exact: None })
    }

    /// Numbers as they are shown, in units of the last decimal, and as they are.
    pub(crate) fn rounded(units: Column<i128>, decimals: u8, exact: Column<Quotient>) -> Self {
        Self::Number(Numbers { values: decimal_array(units, decimals), exact: Some(exact) })
    }

    pub(crate) fn parts(parts: impl IntoIterator<Item = Option<Parts>>) -> Self {
        let month_days =
            |parts: Parts| IntervalMonthDayNano::new(12 * parts.years() + parts.months(), parts.days(), 0);
        Self::Parts(parts.into_iter().map(|parts| parts.map(month_days)).collect())
    }
}

impl Bands {
    /// The labels of buckets, and after them those of rows without a figure.
    pub(crate) fn labels(buckets: &[String], without_figure: impl Fn(Gap) -> &'static str) -> StringArray {
        let gaps = Gap::ALL.iter().map(|gap| without_figure(*gap));
        StringArray::from_iter_values(buckets.iter().map(String::as_str).chain(gaps))
    }

    /// The bucket of each row by its number, and for a row without a figure that of the reason.
    pub(crate) fn of(buckets: &Column<u16>, gaps: &[Option<Gap>], labels: &Arc<StringArray>) -> Self {
        let count = labels.len().saturating_sub(Gap::ALL.len()) as u16;
        let place = |(row, bucket): (usize, Option<u16>)| {
            let gap = || gaps.get(row).copied().flatten().unwrap_or(Gap::Blank);
            bucket.filter(|bucket| *bucket < count).unwrap_or_else(|| count + gap().place())
        };
        Self { labels: Dictionary::new(buckets.iter().enumerate().map(place), labels), buckets: count }
    }

    /// The number of the bucket that a row's figure is in.
    pub(crate) fn bucket(&self, row: usize) -> Option<u16> {
        self.labels.place(row).filter(|place| *place < self.buckets)
    }

    /// The labels that these rows have, and how many have each.
    pub(super) fn counts(&self, rows: &[usize]) -> Vec<LabelCount<'_>> {
        self.labels.counts(rows, |place, _| place >= self.buckets)
    }

    /// The label of a row's bucket, be it that of a figure or of the reason why there is none.
    pub(crate) fn label(&self, row: usize) -> &str {
        self.labels.text(row)
    }
}

/// The value of a row; `None` where there is none.
pub(super) fn value_of<T: arrow_array::ArrowPrimitiveType>(
    array: &PrimitiveArray<T>,
    row: usize,
) -> Option<T::Native> {
    (row < array.len() && array.is_valid(row)).then(|| array.value(row))
}

/// A column of the library as it lies in memory.
pub(crate) fn date_array(dates: Column<Date>) -> Date32Array {
    let (days, validity) = dates.into_parts();
    let rows = days.len();
    let nulls = NullBuffer::new(BooleanBuffer::new(Buffer::from_vec(validity), 0, rows));
    Date32Array::new(ScalarBuffer::from(days), Some(nulls).filter(|nulls| nulls.null_count() > 0))
}

/// An array of dates as a column of the library, without a copy.
pub(crate) fn date_slice(dates: &Date32Array) -> Result<ColumnSlice<'_, Date>, mild_ledger::Error> {
    let validity = dates
        .nulls()
        .map(|nulls| Validity::new(nulls.validity(), nulls.offset(), nulls.len()))
        .transpose()?;
    ColumnSlice::new(dates.values(), validity)
}

pub(crate) fn moment_array(moments: impl IntoIterator<Item = Option<DateTime>>) -> TimestampMicrosecondArray {
    moments.into_iter().map(|at| at.map(DateTime::stored)).collect()
}

fn decimal_array(units: impl IntoIterator<Item = Option<i128>>, decimals: u8) -> Decimal128Array {
    let array: Decimal128Array = units.into_iter().collect();
    let scale = i8::try_from(decimals).unwrap_or_default();
    // There are at most eighteen decimals, which the format allows; else the array stays what it is by default.
    array.clone().with_precision_and_scale(DIGITS, scale).unwrap_or(array)
}
