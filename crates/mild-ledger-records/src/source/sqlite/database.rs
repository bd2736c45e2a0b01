//! A database that is only read.

use crate::error::RecordsError;
use crate::source::Stop;
use crate::source::float_text::number_text;
use rusqlite::types::ValueRef;
use rusqlite::{Connection, ErrorCode, OpenFlags, Statement};
use std::fs::File;
use std::io::{self, Read};
use std::path::{Path, PathBuf};

/// Bytes that the database may hold in memory.
const MOST_HELD: i64 = 1 << 30;
/// Steps of its machine after which it looks whether it is to stop.
const EACH_STEPS: i32 = 10_000;

/// An opened database.
pub(super) struct Database {
    path: PathBuf,
    connection: Connection,
}

impl Database {
    /// Opens a database that no one writes.
    pub(super) fn open(path: &Path, stop: &Stop) -> Result<Self, RecordsError> {
        // What is in a log next to the file is not a part of it yet, and is not what its hash is of.
        let mut log = path.as_os_str().to_owned();
        log.push("-wal");
        if std::fs::metadata(&log).is_ok_and(|log| log.len() > 0) {
            return Err(RecordsError::request(
                format!("{} is being written, as the log next to it shows", path.display()),
                "close the program that writes it, or copy the database with it",
            ));
        }
        check_length(path)?;
        let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX;
        let connection = Connection::open_with_flags(path, flags).map_err(|error| broken(path, &error))?;
        let mut database = Self { path: path.to_owned(), connection };
        database
            .connection
            .pragma_update(None, "query_only", true)
            .map_err(|error| database.failed(&error))?;
        // What a schema calls by name is not run, wherever the file comes from.
        database
            .connection
            .pragma_update(None, "trusted_schema", false)
            .map_err(|error| database.failed(&error))?;
        // What is sorted is held in memory, and no more of it than that, so that no view and no query fills a disk.
        for (setting, value) in [("temp_store", 2), ("hard_heap_limit", MOST_HELD)] {
            let set = database.connection.pragma_update(None, setting, value);
            // The limit answers with what it is from now on.
            match set {
                Ok(()) | Err(rusqlite::Error::ExecuteReturnedResults) => {}
                Err(error) => return Err(database.failed(&error)),
            }
        }
        let stop = stop.clone();
        let set = database.connection.progress_handler(EACH_STEPS, Some(move || stop.is_asked()));
        set.map_err(|error| database.failed(&error))?;
        database.check_names()?;
        Ok(database)
    }

    /// Refuses a schema that is not UTF-8: the names of columns are taken out of it, and would not be text.
    fn check_names(&self) -> Result<(), RecordsError> {
        let failed = |error: rusqlite::Error| self.failed(&error);
        let sql = "SELECT name, tbl_name, sql FROM sqlite_schema";
        let mut statement = self.connection.prepare(sql).map_err(failed)?;
        let mut rows = statement.query([]).map_err(failed)?;
        while let Some(row) = rows.next().map_err(failed)? {
            for nth in 0..3 {
                let is_text = match row.get_ref(nth).map_err(failed)? {
                    ValueRef::Text(text) => std::str::from_utf8(text).is_ok(),
                    _ => true,
                };
                if !is_text {
                    return Err(unreadable(&self.path, "names of its tables or columns are not UTF-8"));
                }
            }
        }
        Ok(())
    }

    /// The names of its tables, or of its views, in the order in which they were made.
    pub(super) fn names_of(&self, kind: TableKind) -> Result<Vec<String>, RecordsError> {
        let kind = match kind {
            TableKind::Table => "table",
            TableKind::View => "view",
        };
        let sql = format!(
            "SELECT name FROM sqlite_schema WHERE type = '{kind}' AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' ORDER BY rowid"
        );
        let failed = |error: rusqlite::Error| self.failed(&error);
        let mut statement = self.connection.prepare(&sql).map_err(failed)?;
        let names = statement.query_map([], |row| row.get(0)).map_err(failed)?;
        names.collect::<Result<_, _>>().map_err(failed)
    }

    /// A statement that only reads.
    pub(super) fn statement(&self, sql: &str) -> Result<Statement<'_>, RecordsError> {
        let statement = self.connection.prepare(sql).map_err(|error| self.failed(&error))?;
        if !statement.readonly() || statement.column_count() == 0 {
            return Err(RecordsError::request(
                format!("the query of {} does not read a table", self.path.display()),
                "query = \"SELECT … FROM … ORDER BY …\"",
            ));
        }
        Ok(statement)
    }

    pub(super) fn failed(&self, error: &rusqlite::Error) -> RecordsError {
        broken(&self.path, error)
    }
}

/// Refuses a file that has fewer bytes than its header says: what is cut off its last page would be read as zeros.
fn check_length(path: &Path) -> Result<(), RecordsError> {
    let mut file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
    let mut header = Vec::new();
    file.by_ref().take(100).read_to_end(&mut header).map_err(RecordsError::file(path, "read it"))?;
    let length = file.metadata().map_err(RecordsError::file(path, "read it"))?.len();
    // Numbers in the header of the file format: the length of a page, where 1 represents 65,536, and the count of them, which is known
    // where the last change was by a program that keeps it.
    let part = |at: usize| header.get(at..at + 4).and_then(|bytes| bytes.first_chunk::<4>());
    let number = |at: usize| part(at).map(|bytes| u64::from(u32::from_be_bytes(*bytes)));
    let (Some(&[high, low, ..]), Some(changes), Some(pages), Some(counted_at)) =
        (part(16), number(24), number(28), number(92))
    else {
        return Ok(()); // too short for a database, which it is told
    };
    let page = match u16::from_be_bytes([high, low]) {
        1 => 65_536,
        page => u64::from(page),
    };
    if changes == counted_at && length < pages * page {
        let what =
            format!("it has {length} bytes of the {} that its header says: it is cut off", pages * page);
        return Err(unreadable(path, &what));
    }
    Ok(())
}

fn broken(path: &Path, error: &rusqlite::Error) -> RecordsError {
    match error.sqlite_error_code() {
        Some(ErrorCode::OperationInterrupted) => return RecordsError::Interrupted,
        Some(ErrorCode::OutOfMemory) => {
            let what =
                format!("{} needs more than {} MiB of memory for its query", path.display(), MOST_HELD >> 20);
            return RecordsError::request(
                what,
                "a table, or a query that sorts less; an index on the columns of its ORDER BY",
            );
        }
        _ => {}
    }
    unreadable(path, &error.to_string())
}

fn unreadable(path: &Path, what: &str) -> RecordsError {
    let what = format!("the database cannot be read: {what}");
    RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
}

/// A value as a text, and whether it is a number.
///
/// # Errors
/// What the value is, where it is binary: a text in its place would make one of two values.
pub(super) fn text_of(value: ValueRef<'_>) -> Result<Option<(String, IsNumber)>, String> {
    Ok(Some(match value {
        ValueRef::Null => return Ok(None),
        ValueRef::Integer(number) => (number.to_string(), IsNumber::Yes),
        ValueRef::Real(number) => (number_text(number), IsNumber::Yes),
        ValueRef::Text(text) => match std::str::from_utf8(text) {
            Ok(text) => (text.to_owned(), IsNumber::No),
            Err(_) => return Err(format!("a text of {} bytes that is not UTF-8", text.len())),
        },
        ValueRef::Blob(bytes) => return Err(format!("a binary value of {} bytes", bytes.len())),
    }))
}

/// What a name of the schema is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum TableKind {
    Table,
    /// A stored query, which may never end: it is read where it is named alone.
    View,
}

/// Whether the database holds a number.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum IsNumber {
    Yes,
    No,
}
