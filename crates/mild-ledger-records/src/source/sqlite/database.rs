//! A database that is only read.

use crate::error::RecordsError;
use crate::source::float_text::number_text;
use rusqlite::types::ValueRef;
use rusqlite::{Connection, OpenFlags, Statement};
use std::io;
use std::path::{Path, PathBuf};

/// An opened database.
pub(super) struct Database {
    path: PathBuf,
    connection: Connection,
}

impl Database {
    /// Opens a database that nobody writes.
    pub(super) fn open(path: &Path) -> Result<Self, RecordsError> {
        // What stands in a log beside the file is no part of it yet, and is not what its hash is of.
        let mut log = path.as_os_str().to_owned();
        log.push("-wal");
        if std::fs::metadata(&log).is_ok_and(|log| log.len() > 0) {
            return Err(RecordsError::request(
                format!("{} is being written, as the log beside it says", path.display()),
                "close the program that writes it, or copy the database with it",
            ));
        }
        let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX;
        let connection = Connection::open_with_flags(path, flags).map_err(|error| broken(path, &error))?;
        let database = Self { path: path.to_owned(), connection };
        database
            .connection
            .pragma_update(None, "query_only", true)
            .map_err(|error| database.failed(&error))?;
        // What a schema calls by name is not run, wherever the file comes from.
        database
            .connection
            .pragma_update(None, "trusted_schema", false)
            .map_err(|error| database.failed(&error))?;
        Ok(database)
    }

    /// The names of its tables and views, in the order in which they were made.
    pub(super) fn tables(&self) -> Result<Vec<String>, RecordsError> {
        let sql = "SELECT name FROM sqlite_schema WHERE type IN ('table', 'view') AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' ORDER BY rowid";
        let failed = |error: rusqlite::Error| self.failed(&error);
        let mut statement = self.connection.prepare(sql).map_err(failed)?;
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

fn broken(path: &Path, error: &rusqlite::Error) -> RecordsError {
    let what = format!("the database cannot be read: {error}");
    RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
}

/// A value as a text, and whether it is a number.
pub(super) fn text_of(value: ValueRef<'_>) -> Option<(String, IsNumber)> {
    Some(match value {
        ValueRef::Null => return None,
        ValueRef::Integer(number) => (number.to_string(), IsNumber::Yes),
        ValueRef::Real(number) => (number_text(number), IsNumber::Yes),
        // What is no text is shown as what it is, and not as a text that is nearly it.
        ValueRef::Text(text) => match std::str::from_utf8(text) {
            Ok(text) => (text.to_owned(), IsNumber::No),
            Err(_) => (format!("({} bytes that are not UTF-8)", text.len()), IsNumber::No),
        },
        ValueRef::Blob(bytes) => (format!("({} bytes)", bytes.len()), IsNumber::No),
    })
}

/// Whether the database holds a number.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum IsNumber {
    Yes,
    No,
}
