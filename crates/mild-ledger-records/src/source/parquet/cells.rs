//! Cells of typed columns.

use crate::source::ColumnType;
use crate::source::float_text::number_text;
use crate::table::{CellType, TypedCell, TypedDigits};
use arrow_array::cast::AsArray;
use arrow_array::types::{
    ArrowPrimitiveType, Date32Type, Date64Type, Decimal128Type, Float32Type, Float64Type, Int8Type,
    Int16Type, Int32Type, Int64Type, TimestampMicrosecondType, TimestampMillisecondType,
    TimestampNanosecondType, TimestampSecondType, UInt8Type, UInt16Type, UInt32Type, UInt64Type,
};
use arrow_array::{Array, ArrayRef};
use arrow_schema::{DataType, TimeUnit};
use mild_ledger::{Date, DateTime, Decimal};

/// What values of an Arrow type are; nothing for a type that is not read.
pub(super) fn type_of(held: &DataType) -> Option<ColumnType> {
    Some(match held {
        DataType::Utf8 | DataType::LargeUtf8 | DataType::Utf8View | DataType::Boolean | DataType::Null => {
            ColumnType::Text
        }
        DataType::Int8
        | DataType::Int16
        | DataType::Int32
        | DataType::Int64
        | DataType::UInt8
        | DataType::UInt16
        | DataType::UInt32
        | DataType::UInt64 => ColumnType::Numbers(Some(TypedDigits::WHOLE)),
        DataType::Float32 | DataType::Float64 => ColumnType::Numbers(None),
        DataType::Decimal128(digits, scale @ 0..=18) => {
            let decimals = scale.unsigned_abs();
            let whole = u16::from(digits.saturating_sub(decimals));
            ColumnType::Numbers(Some(TypedDigits { whole, decimals }))
        }
        DataType::Date32 | DataType::Date64 => ColumnType::Dates,
        DataType::Timestamp(_, _) => ColumnType::DateTimes,
        DataType::Dictionary(_, values) => type_of(values).filter(|held| *held == ColumnType::Text)?,
        _ => return None,
    })
}

/// The values of a column, each as it is read.
pub(super) struct Cells<'c> {
    column: &'c dyn Array,
    /// The values of a dictionary, in whose place numbers of them are.
    read: Read<'c>,
}

type Read<'c> = Box<dyn Fn(usize) -> TypedCell + 'c>;

impl<'c> Cells<'c> {
    pub(super) fn of(column: &'c dyn Array) -> Option<Self> {
        Some(Self { column, read: read_of(column)? })
    }

    pub(super) fn cell(&self, row: usize) -> TypedCell {
        if self.column.is_valid(row) { (self.read)(row) } else { TypedCell::blank() }
    }
}

fn text(text: &str) -> TypedCell {
    TypedCell { holds: CellType::Text, text: text.to_owned() }
}

fn number(text: String) -> TypedCell {
    TypedCell { holds: CellType::Number, text }
}

/// A date-time as it is, with `Z` after it where it is an instant; what is not a day of the calendar stays the number that it is.
fn moment(microseconds: Option<i64>, stored: i64, is_instant: IsInstant) -> TypedCell {
    match microseconds.and_then(|at| DateTime::from_microseconds(at).ok()) {
        Some(at) => {
            let zone = if is_instant == IsInstant::Yes { "Z" } else { "" };
            TypedCell { holds: CellType::Date, text: format!("{at}{zone}") }
        }
        None => text(&stored.to_string()),
    }
}

/// The same to the nanosecond, of which all digits are there, so that a caller that drops the last ones can state that.
fn nanoseconds(stored: i64, is_instant: IsInstant) -> TypedCell {
    if stored.rem_euclid(1_000) == 0 {
        return moment(Some(stored.div_euclid(1_000)), stored, is_instant);
    }
    let (seconds, digits) = (stored.div_euclid(1_000_000_000), stored.rem_euclid(1_000_000_000));
    let zone = if is_instant == IsInstant::Yes { "Z" } else { "" };
    match DateTime::from_microseconds(seconds * 1_000_000) {
        Ok(at) => TypedCell { holds: CellType::Date, text: format!("{at}.{digits:09}{zone}") },
        Err(_) => text(&stored.to_string()),
    }
}

/// Whether times have a zone, so that they are instants.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum IsInstant {
    Yes,
    No,
}

fn read_of<'c>(column: &'c dyn Array) -> Option<Read<'c>> {
    fn values<'c, T: ArrowPrimitiveType>(column: &'c dyn Array) -> Option<impl Fn(usize) -> T::Native + 'c> {
        let values = column.as_primitive_opt::<T>()?;
        Some(move |row| values.value(row))
    }
    fn whole<'c, T: ArrowPrimitiveType>(column: &'c dyn Array) -> Option<Read<'c>>
    where
        T::Native: ToString,
    {
        let value = values::<T>(column)?;
        Some(Box::new(move |row| number(value(row).to_string())))
    }
    fn times<'c, T: ArrowPrimitiveType<Native = i64>>(
        column: &'c dyn Array,
        zone: Option<&str>,
        to_microseconds: fn(i64) -> Option<i64>,
    ) -> Option<Read<'c>> {
        let value = values::<T>(column)?;
        let is_instant = if zone.is_some() { IsInstant::Yes } else { IsInstant::No };
        Some(Box::new(move |row| moment(to_microseconds(value(row)), value(row), is_instant)))
    }
    let days = |day: i64| {
        let date = i32::try_from(day).ok().and_then(|day| Date::from_day_number(day).ok());
        match date {
            Some(date) => TypedCell { holds: CellType::Date, text: date.to_string() },
            None => text(&day.to_string()),
        }
    };
    Some(match column.data_type() {
        DataType::Null => Box::new(|_| TypedCell::blank()),
        DataType::Utf8 => {
            let texts = column.as_string_opt::<i32>()?;
            Box::new(|row| text(texts.value(row)))
        }
        DataType::LargeUtf8 => {
            let texts = column.as_string_opt::<i64>()?;
            Box::new(|row| text(texts.value(row)))
        }
        DataType::Utf8View => {
            let texts = column.as_string_view_opt()?;
            Box::new(|row| text(texts.value(row)))
        }
        DataType::Boolean => {
            let truths = column.as_boolean_opt()?;
            Box::new(|row| text(if truths.value(row) { "true" } else { "false" }))
        }
        DataType::Int8 => whole::<Int8Type>(column)?,
        DataType::Int16 => whole::<Int16Type>(column)?,
        DataType::Int32 => whole::<Int32Type>(column)?,
        DataType::Int64 => whole::<Int64Type>(column)?,
        DataType::UInt8 => whole::<UInt8Type>(column)?,
        DataType::UInt16 => whole::<UInt16Type>(column)?,
        DataType::UInt32 => whole::<UInt32Type>(column)?,
        DataType::UInt64 => whole::<UInt64Type>(column)?,
        // A short binary number is shown with the digits that it is exact to.
        DataType::Float32 => {
            let value = values::<Float32Type>(column)?;
            Box::new(move |row| number(value(row).to_string()))
        }
        DataType::Float64 => {
            let value = values::<Float64Type>(column)?;
            Box::new(move |row| number(number_text(value(row))))
        }
        DataType::Decimal128(_, scale) => {
            let (value, decimals) = (values::<Decimal128Type>(column)?, u8::try_from(*scale).ok()?);
            Box::new(move |row| match Decimal::of_units(value(row), decimals) {
                Ok(decimal) => number(decimal.to_string()),
                Err(_) => text(&value(row).to_string()),
            })
        }
        DataType::Date32 => {
            let value = values::<Date32Type>(column)?;
            Box::new(move |row| days(value(row).into()))
        }
        DataType::Date64 => {
            let value = values::<Date64Type>(column)?;
            Box::new(move |row| days(value(row).div_euclid(86_400_000)))
        }
        DataType::Timestamp(unit, zone) => {
            let zone = zone.as_deref();
            match unit {
                TimeUnit::Second => {
                    times::<TimestampSecondType>(column, zone, |at| at.checked_mul(1_000_000))?
                }
                TimeUnit::Millisecond => {
                    times::<TimestampMillisecondType>(column, zone, |at| at.checked_mul(1_000))?
                }
                TimeUnit::Microsecond => times::<TimestampMicrosecondType>(column, zone, Some)?,
                TimeUnit::Nanosecond => {
                    let value = values::<TimestampNanosecondType>(column)?;
                    let is_instant = if zone.is_some() { IsInstant::Yes } else { IsInstant::No };
                    Box::new(move |row| nanoseconds(value(row), is_instant))
                }
            }
        }
        DataType::Dictionary(_, _) => {
            let dictionary = column.as_any_dictionary_opt()?;
            let (places, values): (Vec<usize>, &ArrayRef) =
                (dictionary.normalized_keys(), dictionary.values());
            let inner = Cells::of(values.as_ref())?;
            Box::new(move |row| places.get(row).map_or_else(TypedCell::blank, |place| inner.cell(*place)))
        }
        _ => return None,
    })
}
