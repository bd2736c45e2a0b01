//! A table of a database as a source of rows.

use super::database::{Database, IsNumber, TableKind, text_of};
use crate::error::RecordsError;
use crate::source::ordered_query::states_order;
use crate::source::raw_bytes::RawBytes;
use crate::source::typed_rows::{TakeRow, TypedRows, TypedTable, WholeFile};
use crate::source::types_met::TypesMet;
use crate::source::{ColumnType, FileForm, OwnFile, Reading, Stop, TableChoice};
use crate::table::{CellType, TypedCell};
use std::ops::ControlFlow;
use std::path::Path;

/// Opens what a plan names, or the only table that there is.
pub(super) fn open(path: &Path, reading: &Reading) -> Result<TypedRows, RecordsError> {
    let file = WholeFile::read(path, reading)?;
    let database = Database::open(path, &reading.stop)?;
    let (sql, said) = chosen(path, &database, reading.form.table.as_ref())?;
    let statement = database.statement(&sql)?;
    let declared: Vec<bool> =
        statement.columns().map(|column| declares_numbers(column.decl_type())).collect();
    let columns: Vec<String> = statement.column_names().map(|name| name.trim().to_owned()).collect();
    drop(statement);
    let types = types_of(path, &sql, &declared, &reading.stop)?;
    let table = TypedTable {
        source: reading.source,
        path: path.to_owned(),
        columns,
        types,
        unread: Vec::new(),
        said: vec![said],
        longest_cell: reading.longest_cell,
        file,
        groups: None,
        first_row: 1,
    };
    let (path, stop) = (path.to_owned(), reading.stop.clone());
    let read_stop = stop.clone();
    let read = move |take: TakeRow<'_>| read_rows(&path, &sql, &read_stop, take);
    Ok(TypedRows::new(table, Box::new(read)).stopped_by(stop))
}

/// Opens a table that this program wrote, once the database is whole: its bytes are summed as they come, and its rows read from its place.
pub(super) fn open_own(file: OwnFile) -> Result<TypedRows, RecordsError> {
    let OwnFile { path, input, columns, table, hash, .. } = file;
    let whole = WholeFile::of(&path, RawBytes::new(input, hash))?;
    let sql = format!("SELECT * FROM {} ORDER BY rowid", in_quotes(&table));
    let stop = Stop::default();
    let database = Database::open(&path, &stop)?;
    let found: Vec<String> = database.statement(&sql)?.column_names().map(ToOwned::to_owned).collect();
    let table = TypedTable::of_own(path.clone(), (&found, columns), whole)?;
    Ok(TypedRows::new(table, Box::new(move |take: TakeRow<'_>| read_rows(&path, &sql, &stop, take))))
}

/// Gives on each row of what a query gives.
fn read_rows(path: &Path, sql: &str, stop: &Stop, take: TakeRow<'_>) -> Result<(), RecordsError> {
    let database = Database::open(path, stop)?;
    let mut statement = database.statement(sql)?;
    let columns = statement.column_count();
    let names: Vec<String> = statement.column_names().map(|name| name.trim().to_owned()).collect();
    let failed = |error: rusqlite::Error| database.failed(&error);
    let mut rows = statement.query([]).map_err(failed)?;
    let mut number = 0;
    while let Some(row) = rows.next().map_err(failed)? {
        number += 1;
        let cell = |nth: usize| -> Result<TypedCell, RecordsError> {
            let refused = |what: String| {
                let name = names.get(nth).map_or("", String::as_str).escape_debug();
                RecordsError::BrokenFile {
                    path: path.to_owned(),
                    line: number,
                    what: format!("\"{name}\" holds {what}"),
                    help: "query = \"SELECT … ORDER BY …\" under [records], without that column or with hex(…) of it".to_owned(),
                }
            };
            Ok(match text_of(row.get_ref(nth).map_err(failed)?).map_err(refused)? {
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

/// Whether the type that a column is declared with is one of numbers, by the rules of affinity of the format.
fn declares_numbers(declared: Option<&str>) -> bool {
    const PARTS: [&str; 7] = ["INT", "REAL", "FLOA", "DOUB", "NUMERIC", "DECIMAL", "NUMBER"];
    const TEXTS: [&str; 3] = ["CHAR", "CLOB", "TEXT"];
    declared.map(str::to_ascii_uppercase).is_some_and(|declared| {
        PARTS.iter().any(|part| declared.contains(part)) && !TEXTS.iter().any(|part| declared.contains(part))
    })
}

/// What the columns hold that are declared as numbers. A database keeps any value in any column, so each is looked at. Dates are texts
/// or numbers in it, of which it says nothing.
fn types_of(path: &Path, sql: &str, declared: &[bool], stop: &Stop) -> Result<Vec<ColumnType>, RecordsError> {
    if !declared.contains(&true) {
        return Ok(Vec::new());
    }
    let mut met = vec![TypesMet::default(); declared.len()];
    read_rows(path, sql, stop, &mut |_, cells| {
        let of_numbers = met.iter_mut().zip(cells).zip(declared).filter(|(_, declared)| **declared);
        of_numbers.for_each(|((met, cell), _)| met.note(cell));
        ControlFlow::Continue(())
    })?;
    let types = met.iter().zip(declared);
    Ok(types.map(|(met, declared)| if *declared { met.of_all() } else { ColumnType::Text }).collect())
}

/// A name as SQL quotes it.
fn in_quotes(name: &str) -> String {
    format!("\"{}\"", name.replace('"', "\"\""))
}

/// What a plan would name: the first table, where there are several.
pub(super) fn form_of(path: &Path, part: Option<&str>) -> Result<FileForm, RecordsError> {
    let tables = Database::open(path, &Stop::default())?.names_of(TableKind::Table)?;
    let table = match (part, tables.as_slice()) {
        (Some(name), _) => Some(TableChoice::Named(name.to_owned())),
        (None, [first, _, ..]) => Some(TableChoice::Named(first.clone())),
        _ => None,
    };
    Ok(FileForm { table, ..FileForm::default() })
}

/// The query that reads what was chosen, and what is stated of it.
fn chosen(
    path: &Path,
    database: &Database,
    choice: Option<&TableChoice>,
) -> Result<(String, String), RecordsError> {
    let (tables, views) = (database.names_of(TableKind::Table)?, database.names_of(TableKind::View)?);
    let quoted: Vec<String> = tables.iter().map(|name| format!("\"{name}\"")).collect();
    let help = || format!("table = … under [records]: {}", quoted.join(", "));
    let refused = |what: String| RecordsError::request(what, help());
    let name = match (choice, tables.as_slice()) {
        (Some(TableChoice::Query(query)), _) => {
            if !states_order(query) {
                return Err(RecordsError::request(
                    format!("the query of {} has no order, and its rows would have none", path.display()),
                    "ORDER BY … after it",
                ));
            }
            return Ok((query.clone(), "a query".to_owned()));
        }
        (Some(TableChoice::Named(name)), _) if tables.contains(name) || views.contains(name) => name,
        (Some(TableChoice::Named(name)), _) => {
            return Err(refused(format!("{} has no table \"{}\"", path.display(), name.escape_debug())));
        }
        (None, [only]) => only,
        (None, []) if !views.is_empty() => {
            let named: Vec<String> = views.iter().map(|name| format!("\"{name}\"")).collect();
            return Err(RecordsError::request(
                format!("{} has views and no tables, and no view is chosen for you", path.display()),
                format!("table = … under [records]: {}", named.join(", ")),
            ));
        }
        (None, []) => return Err(refused(format!("{} has no tables", path.display()))),
        (None, several) => return Err(refused(format!("{} has {} tables", path.display(), several.len()))),
    };
    // Only a name that is in the schema comes here, and it is quoted all the same.
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
