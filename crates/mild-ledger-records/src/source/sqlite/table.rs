//! A table of a database as a source of rows.

use super::database::{Database, IsNumber, text_of};
use crate::error::RecordsError;
use crate::source::raw_bytes::RawBytes;
use crate::source::typed_rows::{TakeRow, TypedRows, TypedTable, WholeFile};
use crate::source::{FileForm, OwnFile, Reading, TableChoice};
use crate::table::{CellType, TypedCell};
use std::path::Path;

/// Opens what a plan names, or the only table that there is.
pub(super) fn open(path: &Path, reading: &Reading) -> Result<TypedRows, RecordsError> {
    let file = WholeFile::read(path, reading)?;
    let database = Database::open(path)?;
    let (sql, said) = chosen(path, &database, reading.form.table.as_ref())?;
    let columns: Vec<String> =
        database.statement(&sql)?.column_names().map(|name| name.trim().to_owned()).collect();
    let table = TypedTable {
        source: reading.source,
        path: path.to_owned(),
        columns,
        // A database says nothing of dates: they are texts or numbers in it.
        types: Vec::new(),
        said: vec![said],
        longest_cell: reading.longest_cell,
        file,
        groups: None,
        first_row: 1,
    };
    let path = path.to_owned();
    let read = move |take: TakeRow<'_>| read_rows(&path, &sql, take);
    Ok(TypedRows::new(table, Box::new(read)))
}

/// Opens a table that this program wrote, once the database is whole: its bytes are summed as they come, and its rows read from its place.
pub(super) fn open_own(file: OwnFile) -> Result<TypedRows, RecordsError> {
    let OwnFile { path, input, columns, table, hash, .. } = file;
    let whole = WholeFile::of(&path, RawBytes::new(input, hash))?;
    let sql = format!("SELECT * FROM {} ORDER BY rowid", in_quotes(&table));
    let database = Database::open(&path)?;
    let found: Vec<String> = database.statement(&sql)?.column_names().map(ToOwned::to_owned).collect();
    let table = TypedTable::of_own(path.clone(), (&found, columns), whole)?;
    Ok(TypedRows::new(table, Box::new(move |take: TakeRow<'_>| read_rows(&path, &sql, take))))
}

/// Gives on each row of what a query gives.
fn read_rows(path: &Path, sql: &str, take: TakeRow<'_>) -> Result<(), RecordsError> {
    let database = Database::open(path)?;
    let mut statement = database.statement(sql)?;
    let columns = statement.column_count();
    let failed = |error: rusqlite::Error| database.failed(&error);
    let mut rows = statement.query([]).map_err(failed)?;
    let mut number = 0;
    while let Some(row) = rows.next().map_err(failed)? {
        number += 1;
        let cell = |nth: usize| -> Result<TypedCell, RecordsError> {
            Ok(match text_of(row.get_ref(nth).map_err(failed)?) {
                None => TypedCell::blank(),
                Some((text, IsNumber::Yes)) => TypedCell { holds: CellType::Number, text },
                Some((text, IsNumber::No)) => TypedCell { holds: CellType::Text, text },
            })
        };
        let cells = (0..columns).map(cell).collect::<Result<Vec<_>, _>>()?;
        if take(number, &cells).is_break() {
            break;
        }
    }
    Ok(())
}

/// A name as SQL quotes it.
fn in_quotes(name: &str) -> String {
    format!("\"{}\"", name.replace('"', "\"\""))
}

/// What a plan would name: the first table, where there are several.
pub(super) fn form_of(path: &Path, part: Option<&str>) -> Result<FileForm, RecordsError> {
    let tables = Database::open(path)?.tables()?;
    let table = match (part, tables.as_slice()) {
        (Some(name), _) => Some(TableChoice::Named(name.to_owned())),
        (None, [first, _, ..]) => Some(TableChoice::Named(first.clone())),
        _ => None,
    };
    Ok(FileForm { table, ..FileForm::default() })
}

/// The query that reads what was chosen, and what is said of it.
fn chosen(
    path: &Path,
    database: &Database,
    choice: Option<&TableChoice>,
) -> Result<(String, String), RecordsError> {
    let tables = database.tables()?;
    let quoted: Vec<String> = tables.iter().map(|name| format!("\"{name}\"")).collect();
    let help = || format!("table = … under [records]: {}", quoted.join(", "));
    let refused = |what: String| RecordsError::request(what, help());
    let name = match (choice, tables.as_slice()) {
        (Some(TableChoice::Query(query)), _) => {
            if !query.to_lowercase().contains("order by") {
                return Err(RecordsError::request(
                    format!("the query of {} has no order, and its rows would have none", path.display()),
                    "ORDER BY … behind it",
                ));
            }
            return Ok((query.clone(), "a query".to_owned()));
        }
        (Some(TableChoice::Named(name)), _) if tables.contains(name) => name,
        (Some(TableChoice::Named(name)), _) => {
            return Err(refused(format!("{} has no table \"{}\"", path.display(), name.escape_debug())));
        }
        (None, [only]) => only,
        (None, []) => return Err(refused(format!("{} has no tables", path.display()))),
        (None, several) => return Err(refused(format!("{} has {} tables", path.display(), several.len()))),
    };
    // Only a name that stands in the schema comes here, and it is quoted all the same.
    let table = in_quotes(name);
    let by_number = format!("SELECT * FROM {table} ORDER BY rowid");
    // A view, and a table without row numbers, has an order of its own.
    let sql = match database.statement(&by_number) {
        Ok(_) => by_number,
        Err(_) => format!("SELECT * FROM {table}"),
    };
    let others: Vec<&String> =
        quoted.iter().zip(&tables).filter(|(_, other)| *other != name).map(|(quoted, _)| quoted).collect();
    let said = match others.as_slice() {
        [] => format!("table \"{name}\""),
        others => format!(
            "table \"{name}\", not {}",
            others.iter().map(|name| name.as_str()).collect::<Vec<_>>().join(", ")
        ),
    };
    Ok((sql, said))
}
