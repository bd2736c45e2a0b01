//! Columns as a record batch of the Arrow columnar format, and what they mean as metadata next to their types.

use super::columns::Data;
use super::data::Table;
use super::kind::Kind;
use super::layout::Layout;
use arrow_array::{ArrayRef, RecordBatch, RecordBatchOptions};
use arrow_schema::{ArrowError, DataType, Field, Schema, SchemaRef};
use std::collections::HashMap;
use std::sync::Arc;

/// What the metadata of a field say of its column.
pub(crate) mod meaning {
    /// What the column holds, in a word.
    pub(crate) const HOLDS: &str = "holds";
    /// By what its figures were measured.
    pub(crate) const RULE: &str = "rule";
    /// Which of the ends of an interval they count.
    pub(crate) const ENDS: &str = "ends";
    /// Of its buckets the labels, a line each.
    pub(crate) const BUCKETS: &str = "buckets";
    /// Whose words its texts are: those of the records and the plan, or our own.
    pub(crate) const WORDS: &str = "words";
    /// Texts of our own making.
    pub(crate) const OWN: &str = "own";
    /// Texts that came from records, or from the plan.
    pub(crate) const TAKEN: &str = "taken over";
}

impl Table {
    /// The columns in these places, as they are stored in this table and in every other one of the run.
    pub(crate) fn schema(&self, layout: &Layout, columns: &[usize]) -> Result<SchemaRef, ArrowError> {
        let field = |column: &usize| {
            let Some(data) = self.columns.get(*column) else { return Err(no_column(*column)) };
            let meaning = meaning_of(layout.kind(*column), data);
            Ok(Field::new(layout.name(*column), data.array()?.data_type().clone(), true)
                .with_metadata(meaning))
        };
        Ok(Arc::new(Schema::new(columns.iter().map(field).collect::<Result<Vec<_>, _>>()?)))
    }

    /// The columns in these places as a record batch, without a copy.
    pub(crate) fn records(&self, schema: &SchemaRef, columns: &[usize]) -> Result<RecordBatch, ArrowError> {
        let array = |column: &usize| self.columns.get(*column).ok_or_else(|| no_column(*column))?.array();
        let arrays = columns.iter().map(array).collect::<Result<Vec<_>, _>>()?;
        let options = RecordBatchOptions::new().with_row_count(Some(self.rows));
        RecordBatch::try_new_with_options(Arc::clone(schema), arrays, &options)
    }
}

fn no_column(column: usize) -> ArrowError {
    ArrowError::SchemaError(format!("there is no column {column}"))
}

impl Data {
    /// The values as they are shown; what is next to them, such as exact values and instants, is left out.
    fn array(&self) -> Result<ArrayRef, ArrowError> {
        Ok(match self {
            Self::Text(texts) | Self::Made { texts, .. } => Arc::new(texts.clone()),
            Self::Choice(texts) => texts.array()?,
            Self::Band(bands) => bands.labels.array()?,
            Self::Date(dates) => Arc::new(dates.clone()),
            Self::Moment { local, .. } => Arc::new(local.clone()),
            Self::Count(counts) => Arc::new(counts.clone()),
            Self::Number(numbers) => Arc::new(numbers.values.clone()),
            Self::Parts(parts) => Arc::new(parts.clone()),
        })
    }
}

fn meaning_of(kind: &Kind, data: &Data) -> HashMap<String, String> {
    let words = match data {
        Data::Text(_) | Data::Choice(_) => Some(meaning::TAKEN),
        Data::Made { .. } | Data::Band(_) => Some(meaning::OWN),
        _ => None,
    };
    let figure = kind.figure();
    let buckets = match kind {
        Kind::Band(band) => Some(band.buckets.labels().join("\n")),
        _ => None,
    };
    let said = [
        (meaning::HOLDS, Some(kind.word().to_owned())),
        (meaning::WORDS, words.map(str::to_owned)),
        (meaning::RULE, figure.map(|figure| figure.rule.clone())),
        (meaning::ENDS, figure.and_then(|figure| figure.ends).map(|ends| ends.word().to_owned())),
        (meaning::BUCKETS, buckets),
    ];
    said.into_iter().filter_map(|(name, said)| Some((name.to_owned(), said?))).collect()
}

/// The schema of texts and whole numbers that are not columns of the records, such as those of the exceptions.
pub(crate) fn plain_schema(columns: &[(&str, DataType)]) -> SchemaRef {
    let taken = HashMap::from([(meaning::WORDS.to_owned(), meaning::TAKEN.to_owned())]);
    let field =
        |(name, kind): &(&str, DataType)| Field::new(*name, kind.clone(), true).with_metadata(taken.clone());
    Arc::new(Schema::new(columns.iter().map(field).collect::<Vec<_>>()))
}
