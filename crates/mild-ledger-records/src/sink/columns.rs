//! The columns of a record batch by their written form.

use crate::table::meaning;
use arrow_array::cast::AsArray;
use arrow_array::types::{
    Date32Type, Decimal128Type, Int64Type, IntervalMonthDayNanoType, TimestampMicrosecondType, UInt16Type,
};
use arrow_array::{
    Array, Date32Array, Decimal128Array, Int64Array, IntervalMonthDayNanoArray, RecordBatch, StringArray,
    TimestampMicrosecondArray, UInt16Array,
};
use arrow_schema::{DataType, Field, IntervalUnit, TimeUnit};
use mild_ledger::column::Cell;
use mild_ledger::{Date, DateTime, Decimal, Parts};
use std::io;

/// The columns of a record batch.
pub(super) struct Columns<'b> {
    columns: Vec<ColumnValues<'b>>,
}

/// The values of a column.
enum ColumnValues<'b> {
    Texts(&'b StringArray, Words),
    Places(&'b UInt16Array, &'b StringArray, Words),
    Dates(&'b Date32Array),
    Moments(&'b TimestampMicrosecondArray),
    Counts(&'b Int64Array),
    Decimals(&'b Decimal128Array, u8),
    Parts(&'b IntervalMonthDayNanoArray),
}

/// Whose words a text is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Words {
    /// Ours, such as a label or a figure in words.
    Own,
    /// Those of the records, or of the plan.
    TakenOver,
}

/// What is in a cell.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Value<'b> {
    Empty,
    Text(&'b str, Words),
    Date(Date),
    DateTime(DateTime),
    Number(Decimal),
    Parts(Parts),
}

impl<'b> Columns<'b> {
    /// The columns of a record batch; an error for a type that no table holds.
    pub(super) fn of(records: &'b RecordBatch) -> io::Result<Self> {
        let schema = records.schema_ref();
        let columns = schema.fields().iter().zip(records.columns());
        let columns = columns.map(|(field, array)| values_of(field, array).ok_or_else(|| unknown(field)));
        Ok(Self { columns: columns.collect::<io::Result<_>>()? })
    }

    /// The cells of a row.
    pub(super) fn row(&self, row: usize) -> impl Iterator<Item = Value<'b>> + '_ {
        self.columns.iter().map(move |column| column.value(row))
    }
}

fn unknown(field: &Field) -> io::Error {
    let what = format!("the column \"{}\" holds {}, which is not written", field.name(), field.data_type());
    io::Error::new(io::ErrorKind::Unsupported, what)
}

fn values_of<'b>(field: &Field, array: &'b dyn Array) -> Option<ColumnValues<'b>> {
    let words = match field.metadata().get(meaning::WORDS).map(String::as_str) {
        Some(meaning::OWN) => Words::Own,
        // A text without an owner may be any user's.
        _ => Words::TakenOver,
    };
    Some(match array.data_type() {
        DataType::Utf8 => ColumnValues::Texts(array.as_string_opt::<i32>()?, words),
        DataType::Dictionary(_, _) => {
            let dictionary = array.as_dictionary_opt::<UInt16Type>()?;
            let texts = dictionary.values().as_string_opt::<i32>()?;
            ColumnValues::Places(dictionary.keys(), texts, words)
        }
        DataType::Date32 => ColumnValues::Dates(array.as_primitive_opt::<Date32Type>()?),
        DataType::Timestamp(TimeUnit::Microsecond, None) => {
            ColumnValues::Moments(array.as_primitive_opt::<TimestampMicrosecondType>()?)
        }
        DataType::Int64 => ColumnValues::Counts(array.as_primitive_opt::<Int64Type>()?),
        DataType::Decimal128(_, scale) => {
            let decimals = u8::try_from(*scale).ok()?;
            ColumnValues::Decimals(array.as_primitive_opt::<Decimal128Type>()?, decimals)
        }
        DataType::Interval(IntervalUnit::MonthDayNano) => {
            ColumnValues::Parts(array.as_primitive_opt::<IntervalMonthDayNanoType>()?)
        }
        _ => return None,
    })
}

impl<'b> ColumnValues<'b> {
    fn value(&self, row: usize) -> Value<'b> {
        match self {
            Self::Texts(texts, words) => match texts.value(row) {
                "" => Value::Empty,
                text => Value::Text(text, *words),
            },
            Self::Places(places, texts, words) => {
                let place = places.values().get(row).map_or(usize::MAX, |place| usize::from(*place));
                match if place < texts.len() { texts.value(place) } else { "" } {
                    "" => Value::Empty,
                    text => Value::Text(text, *words),
                }
            }
            Self::Dates(dates) if dates.is_valid(row) => {
                Date::of_stored(dates.value(row)).map_or(Value::Empty, Value::Date)
            }
            Self::Moments(moments) if moments.is_valid(row) => {
                DateTime::of_stored(moments.value(row)).map_or(Value::Empty, Value::DateTime)
            }
            Self::Counts(counts) if counts.is_valid(row) => Value::Number(Decimal::from(counts.value(row))),
            Self::Decimals(numbers, decimals) if numbers.is_valid(row) => {
                Decimal::of_units(numbers.value(row), *decimals).map_or(Value::Empty, Value::Number)
            }
            Self::Parts(parts) if parts.is_valid(row) => {
                let parts = parts.value(row);
                Value::Parts(Parts::of_months(parts.months, parts.days))
            }
            _ => Value::Empty,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::{Columns, Value, Words};
    use crate::table::{Dictionary, meaning};
    use arrow_array::{ArrayRef, Float64Array, RecordBatch, StringArray};
    use arrow_schema::{Field, Schema};
    use std::collections::HashMap;
    use std::sync::Arc;

    /// A record batch of one column, of which this is stated.
    fn batch(array: ArrayRef, meaning: &[(&str, &str)]) -> RecordBatch {
        let said: HashMap<String, String> =
            meaning.iter().map(|(name, said)| ((*name).to_owned(), (*said).to_owned())).collect();
        let field = Field::new("Remark", array.data_type().clone(), true).with_metadata(said);
        RecordBatch::try_new(Arc::new(Schema::new(vec![field])), vec![array]).unwrap()
    }

    fn values<'b>(batch: &'b RecordBatch) -> Vec<Value<'b>> {
        let columns = Columns::of(batch).unwrap();
        (0..batch.num_rows()).flat_map(|row| columns.row(row).collect::<Vec<_>>()).collect()
    }

    #[test]
    fn texts_are_taken_for_those_of_the_records_unless_they_are_said_to_be_ours() {
        let texts: ArrayRef = Arc::new(StringArray::from(vec!["=1+1", ""]));
        let taken = Value::Text("=1+1", Words::TakenOver);
        assert_eq!(values(&batch(Arc::clone(&texts), &[])), [taken, Value::Empty]);
        assert_eq!(values(&batch(Arc::clone(&texts), &[(meaning::WORDS, meaning::TAKEN)]))[0], taken);
        assert_eq!(
            values(&batch(texts, &[(meaning::WORDS, meaning::OWN)]))[0],
            Value::Text("=1+1", Words::Own)
        );
    }

    #[test]
    fn places_give_their_texts() {
        let dictionary = Dictionary::new([1, 0, 1], &Arc::new(StringArray::from(vec!["send", ""])));
        let batch = batch(dictionary.array().unwrap(), &[]);
        assert_eq!(values(&batch), [Value::Empty, Value::Text("send", Words::TakenOver), Value::Empty]);
    }

    #[test]
    fn a_place_beyond_all_texts_makes_no_array() {
        let dictionary = Dictionary::new([2], &Arc::new(StringArray::from(vec!["send", ""])));
        assert!(dictionary.array().is_err());
        assert_eq!(dictionary.text(0), "");
    }

    #[test]
    fn a_type_that_no_table_holds_is_an_error() {
        let batch = batch(Arc::new(Float64Array::from(vec![0.5])), &[]);
        let error = Columns::of(&batch).err().unwrap().to_string();
        assert_eq!(error, "the column \"Remark\" holds Float64, which is not written");
    }
}
