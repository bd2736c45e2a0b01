//! Texts of a batch into dates and amounts, and the rows that cannot be used.

use super::broken_rows::broken_row;
use super::cells::{Cells, Place};
use super::dates::{ColumnReadings, DateColumnReader};
use super::numbers::read_numbers;
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving};
use crate::table::{Batch, Data, Exception, Kind, Layout, Table};
use arrow_array::StringArray;

/// Reads the columns of dates and amounts of batch after batch.
pub(crate) struct Cleaner<'j> {
    layout: &'j Layout,
    readers: Vec<DateColumnReader>,
}

impl Counts for Cleaner<'_> {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        into.put_all(self.readers.iter())
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        from.restore_all(self.readers.iter_mut())
    }
}

impl<'j> Cleaner<'j> {
    pub(crate) fn new(layout: &'j Layout) -> Self {
        let readers = (0..layout.columns_of_file)
            .filter_map(|column| DateColumnReader::of(column, layout.kind(column)));
        let readers = readers.collect();
        Self { layout, readers }
    }

    /// The batch as a table of the file's columns, and the place of each row as far as it is known.
    pub(crate) fn clean(&mut self, batch: &Batch, exceptions: &mut Vec<Exception>) -> (Table, Vec<Place>) {
        exceptions.extend(batch.broken.iter().map(|row| broken_row(batch.origins.source, row)));
        let mut places = vec![Place::Written; batch.rows()];
        let mut readers = self.readers.iter_mut();
        let mut columns = Vec::with_capacity(self.layout.columns.len());
        let mut all_gaps = Vec::with_capacity(self.layout.columns.len());
        for nth in 0..batch.columns() {
            let as_it_is = || Data::Text(texts_of(batch, nth));
            let mut cells =
                Cells { layout: self.layout, batch, column: nth, exceptions, places: &mut places };
            let kind = self.layout.kind(nth);
            let (data, gaps) = match kind {
                Kind::Date { .. } => match readers.next() {
                    Some(reader) => reader.read(&mut cells),
                    None => (as_it_is(), Vec::new()),
                },
                Kind::Amount { .. } | Kind::Number { .. } => match self.layout.written(nth) {
                    Some(written) => read_numbers(&mut cells, kind, written),
                    None => (as_it_is(), Vec::new()),
                },
                _ => (as_it_is(), Vec::new()),
            };
            columns.push(data);
            all_gaps.push(gaps);
        }
        (Table { rows: batch.rows(), columns, gaps: all_gaps }, places)
    }

    /// Takes over what another cleaner of the same columns met in other batches.
    pub(crate) fn merge(&mut self, other: &Self) {
        self.readers.iter_mut().zip(&other.readers).for_each(|(reader, other)| reader.merge(other));
    }

    /// What the columns of dates held.
    pub(crate) fn readings(&self) -> Vec<ColumnReadings> {
        self.readers.iter().map(|reader| reader.readings(self.layout)).collect()
    }
}

/// The texts of a column as they are; of one that was not kept, a blank text a row.
fn texts_of(batch: &Batch, column: usize) -> StringArray {
    let blank = || StringArray::from_iter_values(std::iter::repeat_n("", batch.rows()));
    batch.texts(column).cloned().unwrap_or_else(blank)
}
