//! A database while a table of it is filled.

use crate::files::Checksum;
use crate::sink::binary_number::binary_of;
use crate::sink::columns::Value;
use crate::sink::packed::unpack;
use crate::sink::{RowBytes, Sink, SinkForm, Target, Written};
use arrow_schema::{DataType, Field, Schema};
use rusqlite::{Connection, OpenFlags, ToSql};
use std::fs::File;
use std::io::{self, Read};
use std::path::{Path, PathBuf};

/// Writes rows into a table, all in one transaction.
pub(super) struct SqliteSink {
    part: PathBuf,
    connection: Connection,
    insert: String,
    rows: u64,
}

/// Begins a table with these columns.
pub(super) fn create(target: Target<'_>, columns: &Schema, form: &SinkForm) -> io::Result<Box<dyn Sink>> {
    Ok(Box::new(SqliteSink::begin(target, columns, form.table())?))
}

impl SqliteSink {
    /// Begins with a database of nothing; with the one that is there, where it holds tables next to the one that is replaced.
    fn begin(target: Target<'_>, columns: &Schema, table: &str) -> io::Result<Self> {
        let Target { file, part, place } = target;
        if has_other_tables(place, table)? {
            std::fs::copy(place, part)?;
        }
        drop(file);
        let connection = Connection::open(part).map_err(|error| failed(&error))?;
        // The file is thrown away where it does not get whole, so that it needs no journal, and it is synced when it is.
        let set =
            "PRAGMA journal_mode = OFF; PRAGMA synchronous = OFF; PRAGMA locking_mode = EXCLUSIVE; BEGIN;";
        connection.execute_batch(set).map_err(|error| failed(&error))?;
        let name = quoted(table);
        let is_view = connection.query_row(
            "SELECT count(*) FROM sqlite_schema WHERE type = 'view' AND lower(name) = lower(?1)",
            [table],
            |row| row.get::<_, i64>(0),
        );
        if is_view.map_err(|error| failed(&error))? > 0 {
            let what = format!("the database has a view {name}, which no table can take the place of");
            return Err(io::Error::new(io::ErrorKind::AlreadyExists, what));
        }
        let fields = columns.fields();
        let declared: Vec<String> = fields.iter().map(|field| declared(field)).collect();
        let make = format!("DROP TABLE IF EXISTS {name}; CREATE TABLE {name} ({});", declared.join(", "));
        connection.execute_batch(&make).map_err(|error| failed(&error))?;
        let values = vec!["?"; fields.len()].join(", ");
        let insert = format!("INSERT INTO {name} VALUES ({values})");
        Ok(Self { part: part.to_owned(), connection, insert, rows: 0 })
    }
}

impl Sink for SqliteSink {
    fn write(&mut self, rows: &RowBytes) -> io::Result<()> {
        let mut insert = self.connection.prepare(&self.insert).map_err(|error| failed(&error))?;
        let bytes = rows.rows.as_bytes();
        for range in rows.rows.ranges() {
            for (nth, value) in unpack(bytes.get(range).unwrap_or_default()).enumerate() {
                let bound = match value? {
                    Value::Empty => insert.raw_bind_parameter(nth + 1, None::<i64>),
                    Value::Text(text, _) => insert.raw_bind_parameter(nth + 1, text),
                    Value::Date(date) => insert.raw_bind_parameter(nth + 1, date.to_string()),
                    Value::DateTime(at) => insert.raw_bind_parameter(nth + 1, at.to_string()),
                    Value::Parts(parts) => insert.raw_bind_parameter(nth + 1, parts.to_string()),
                    Value::Number(number) => {
                        let whole = i64::try_from(number.units()).ok().filter(|_| number.decimals() == 0);
                        let stored: Box<dyn ToSql> = match (whole, binary_of(number)) {
                            (Some(whole), _) => Box::new(whole),
                            (None, Some(binary)) => Box::new(binary),
                            // With more digits than a number of the database keeps, it stays a text with all of them.
                            (None, None) => Box::new(number.to_string()),
                        };
                        insert.raw_bind_parameter(nth + 1, stored)
                    }
                };
                bound.map_err(|error| failed(&error))?;
            }
            insert.raw_execute().map_err(|error| failed(&error))?;
            self.rows += 1;
        }
        Ok(())
    }

    /// Pages are written here and there until the file is whole.
    fn bytes_written(&self) -> u64 {
        0
    }

    fn finish(self: Box<Self>) -> io::Result<Written> {
        let Self { part, connection, rows, .. } = *self;
        connection.execute_batch("COMMIT;").map_err(|error| failed(&error))?;
        connection.close().map_err(|(_, error)| failed(&error))?;
        Ok(Written { rows, checksum: checksum(&part)?, behind_apostrophe: 0 })
    }
}

fn checksum(path: &Path) -> io::Result<u64> {
    let (mut file, mut checksum) = (File::open(path)?, Checksum::default());
    let mut buffer = vec![0; 1 << 16];
    loop {
        match file.read(&mut buffer)? {
            0 => return Ok(checksum.finish()),
            read => checksum.update(buffer.get(..read).unwrap_or_default()),
        }
    }
}

/// Whether a database is at a place with tables or views next to one.
fn has_other_tables(place: &Path, table: &str) -> io::Result<bool> {
    if !std::fs::metadata(place).is_ok_and(|facts| facts.is_file() && facts.len() > 0) {
        return Ok(false);
    }
    let mut log = place.as_os_str().to_owned();
    log.push("-wal");
    if std::fs::metadata(&log).is_ok_and(|log| log.len() > 0) {
        let what = "the database is being written, as the log next to it shows; close the program that does";
        return Err(io::Error::new(io::ErrorKind::ResourceBusy, what));
    }
    let count = || -> rusqlite::Result<i64> {
        let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX;
        let database = Connection::open_with_flags(place, flags)?;
        let others = "SELECT count(*) FROM sqlite_schema WHERE type IN ('table', 'view') AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND lower(name) <> lower(?1)";
        database.query_row(others, [table], |row| row.get(0))
    };
    // What is not a database is replaced, as any file is that may be.
    Ok(count().is_ok_and(|others| others > 0))
}

/// A column with its type. Decimals have none, so that they stay what they are stored as.
fn declared(field: &Field) -> String {
    let name = quoted(field.name());
    match field.data_type() {
        DataType::Int64 => format!("{name} INTEGER"),
        DataType::Decimal128(_, _) => name,
        _ => format!("{name} TEXT"),
    }
}

fn quoted(name: &str) -> String {
    format!("\"{}\"", name.replace('"', "\"\""))
}

fn failed(error: &rusqlite::Error) -> io::Error {
    io::Error::other(error.to_string())
}
