//! A Parquet file as a source of rows.

use super::cells::{Cells, type_of};
use crate::error::RecordsError;
use crate::files::OpenedFile;
use crate::source::raw_bytes::RawBytes;
use crate::source::typed_rows::{TakeRow, TypedRows, TypedTable, WholeFile};
use crate::source::{OwnFile, Piece, Reading, UnreadColumn};
use crate::table::{Kept, TypedCell};
use arrow_schema::Field;
use parquet::arrow::ProjectionMask;
use parquet::arrow::arrow_reader::ParquetRecordBatchReaderBuilder;
use parquet::file::reader::ChunkReader;
use std::fmt::Display;
use std::fs::File;
use std::io;
use std::path::Path;

/// Rows that are unpacked at a time.
const ROWS: usize = 4_096;

type Builder<R> = ParquetRecordBatchReaderBuilder<R>;

/// Opens a file whose columns are texts, numbers, dates, times or truths.
pub(super) fn open(path: &Path, reading: &Reading) -> Result<TypedRows, RecordsError> {
    let file = WholeFile::read(path, reading)?;
    let builder = builder(path, reading)?;
    let schema = builder.schema();
    let (read, unread): (Vec<_>, Vec<_>) =
        schema.fields().iter().partition(|field| type_of(field.data_type()).is_some());
    let unread: Vec<UnreadColumn> = unread.into_iter().map(|field| unread_of(field)).collect();
    if let (true, Some(first)) = (read.is_empty(), unread.first()) {
        return Err(RecordsError::request(
            format!(
                "no column of {} is read: \"{}\" holds {}",
                path.display(),
                first.name.escape_debug(),
                first.holds
            ),
            "write the table with texts, numbers, dates or times in their place",
        ));
    }
    let left_out = |column: &UnreadColumn| {
        format!(
            "the column \"{}\" is left out: it holds {}, which is not read",
            column.name.escape_debug(),
            column.holds
        )
    };
    let groups = builder.metadata().row_groups().iter();
    let groups = groups.map(|group| (count(group.num_rows()), count(group.compressed_size())));
    let table = TypedTable {
        source: reading.source,
        path: path.to_owned(),
        columns: read.iter().map(|field| field.name().trim().to_owned()).collect(),
        types: read.iter().filter_map(|field| type_of(field.data_type())).collect(),
        said: unread.iter().map(left_out).collect(),
        unread,
        longest_cell: reading.longest_cell,
        file,
        groups: Some(groups.collect()),
        first_row: 1,
    };
    let (path, reading) = (path.to_owned(), reading.clone());
    let read =
        move |take: TakeRow<'_>| read_rows(&path, of_what_is_read(self::builder(&path, &reading)?), 1, take);
    Ok(TypedRows::new(table, Box::new(read)))
}

/// A number of the format, which is signed and never below zero.
fn count(number: i64) -> u64 {
    u64::try_from(number).unwrap_or_default()
}

/// Opens a piece of a file of records.
pub(super) fn open_piece(
    path: &Path,
    reading: &Reading,
    columns: Vec<String>,
    piece: &Piece,
) -> Result<TypedRows, RecordsError> {
    let groups = piece.groups(path)?;
    let table = TypedTable {
        source: reading.source,
        path: path.to_owned(),
        columns,
        types: Vec::new(),
        unread: Vec::new(),
        said: Vec::new(),
        longest_cell: reading.longest_cell,
        file: WholeFile::not_read(),
        groups: None,
        first_row: piece.first_row,
    };
    let (path, reading, first_row) = (path.to_owned(), reading.clone(), piece.first_row);
    let read = move |take: TakeRow<'_>| {
        let builder = of_what_is_read(builder(&path, &reading)?).with_row_groups(groups.collect());
        read_rows(&path, builder, first_row, take)
    };
    Ok(TypedRows::new(table, Box::new(read)))
}

/// Opens a file that this program wrote, once it is whole: its bytes are summed as they come, and its rows read from its place.
pub(super) fn open_own(file: OwnFile) -> Result<TypedRows, RecordsError> {
    let OwnFile { path, input, columns, kept, hash, .. } = file;
    let whole = WholeFile::of(&path, RawBytes::new(input, hash))?;
    let builder = builder_of(&path, File::open(&path).map_err(RecordsError::file(&path, "open it"))?)?;
    let found: Vec<String> = builder.schema().fields().iter().map(|field| field.name().clone()).collect();
    let table = TypedTable::of_own(path.clone(), (&found, columns), whole)?;
    let read = move |take: TakeRow<'_>| {
        let Kept::Only(places) = kept else { return read_rows(&path, builder, 1, take) };
        // Of the other columns nothing is unpacked.
        let wanted = ProjectionMask::roots(builder.parquet_schema(), places.iter().copied());
        let mut places: Vec<usize> = places;
        places.sort_unstable();
        let mut row = vec![TypedCell::blank(); found.len()];
        read_rows(&path, builder.with_projection(wanted), 1, &mut |number, cells| {
            for (place, cell) in places.iter().zip(cells) {
                if let Some(into) = row.get_mut(*place) {
                    into.clone_from(cell);
                }
            }
            take(number, &row)
        })
    };
    Ok(TypedRows::new(table, Box::new(read)))
}

/// Gives on each row of the columns that a reader is built for, the first of which has this number.
fn read_rows<R: ChunkReader + 'static>(
    path: &Path,
    builder: Builder<R>,
    first_row: u64,
    take: TakeRow<'_>,
) -> Result<(), RecordsError> {
    let reader = builder.with_batch_size(ROWS).build().map_err(|error| broken(path, &error))?;
    let mut number = first_row.saturating_sub(1);
    for batch in reader {
        let batch = batch.map_err(|error| broken(path, &error))?;
        let columns: Option<Vec<Cells<'_>>> =
            batch.columns().iter().map(|column| Cells::of(column.as_ref())).collect();
        let columns = columns.ok_or_else(|| broken(path, &"a column is not what the file says"))?;
        for row in 0..batch.num_rows() {
            number += 1;
            let cells: Vec<TypedCell> = columns.iter().map(|column| column.cell(row)).collect();
            if take(number, &cells).is_break() {
                return Ok(());
            }
        }
    }
    Ok(())
}

fn builder(path: &Path, reading: &Reading) -> Result<Builder<OpenedFile>, RecordsError> {
    builder_of(path, reading.opened(path)?)
}

fn builder_of<R: ChunkReader + 'static>(path: &Path, file: R) -> Result<Builder<R>, RecordsError> {
    Builder::try_new(file).map_err(|error| broken(path, &error))
}

/// The same without the columns that are not read, of which nothing is unpacked.
fn of_what_is_read<R: ChunkReader + 'static>(builder: Builder<R>) -> Builder<R> {
    let fields = builder.schema().fields().iter().enumerate();
    let read: Vec<usize> =
        fields.filter(|(_, field)| type_of(field.data_type()).is_some()).map(|(nth, _)| nth).collect();
    let wanted = ProjectionMask::roots(builder.parquet_schema(), read);
    builder.with_projection(wanted)
}

fn unread_of(field: &Field) -> UnreadColumn {
    UnreadColumn { name: field.name().trim().to_owned(), holds: field.data_type().to_string() }
}

fn broken(path: &Path, error: &dyn Display) -> RecordsError {
    let what = format!("the Parquet file cannot be read: {error}");
    RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
}
