//! A table of a server as a source of rows.

use super::connection::{connect, failed};
use super::stream::ServerBytes;
use crate::error::RecordsError;
use crate::source::csv::open_stream;
use crate::source::ordered_query::states_order;
use crate::source::{
    Chunk, ChunkReader, ChunkSize, ColumnType, Reading, Source, SourceEnd, Stop, TableChoice,
};
use crate::table::TypedDigits;
use postgres::Client;
use postgres::types::Type;
use std::path::Path;

/// The rows that a server sends as CSV, and what it says that its columns are.
pub(super) struct ServerTable {
    rows: Box<dyn Source>,
    types: Vec<ColumnType>,
    said: Vec<String>,
    stop: Stop,
}

/// Asks the server what the columns are, and begins to read the rows.
pub(super) fn open(address: &Path, reading: &Reading) -> Result<ServerTable, RecordsError> {
    let mut client = connect(address)?;
    let (query, said) = match &reading.form.table {
        Some(TableChoice::Query(query)) => (checked(address, query)?, "a query".to_owned()),
        Some(TableChoice::Named(name)) => of_table(&mut client, address, name)?,
        None => {
            return Err(RecordsError::request(
                "the plan names neither a table of the server nor a query",
                "table = \"…\" under [records], or query = \"SELECT … ORDER BY …\"",
            ));
        }
    };
    // The query must be valid by itself before it becomes part of another one.
    let statement = client.prepare(&query).map_err(|error| failed(address, &error))?;
    let types =
        statement.columns().iter().map(|column| type_of(column.type_(), column.type_modifier())).collect();
    let query = match statement.columns() {
        [] => {
            return Err(RecordsError::request(
                "the query gives no columns",
                "query = \"SELECT … ORDER BY …\"",
            ));
        }
        // A line of nothing would be no row.
        [only] => {
            let name = quoted(only.name());
            format!("SELECT coalesce(one.{name}::text, '') AS {name} FROM (\n{query}\n) AS one")
        }
        _ => query,
    };
    let copy = format!("COPY (\n{query}\n) TO STDOUT WITH (FORMAT csv, HEADER)");
    drop(client);
    let stop = reading.stop.clone();
    let bytes = ServerBytes::of(address, copy, stop.clone())?;
    let rows = unless_stopped(&stop, open_stream(address, Box::new(bytes), reading))?;
    Ok(ServerTable { rows, types, said: vec![said], stop })
}

/// The result of a reading; after a request to stop, the error of that request in place of the server's own words.
fn unless_stopped<T>(stop: &Stop, read: Result<T, RecordsError>) -> Result<T, RecordsError> {
    if read.is_err() {
        stop.check()?;
    }
    read
}

/// A query with an order and without an end of its own.
fn checked(address: &Path, query: &str) -> Result<String, RecordsError> {
    let query = query.trim().trim_end_matches(';');
    if states_order(query) {
        return Ok(query.to_owned());
    }
    let what = format!("the query of {} has no order, and its rows would have none", address.display());
    Err(RecordsError::request(what, "ORDER BY … at its end"))
}

/// The query that reads a table in the order of its key. The name is compared with those that there are, and quoted.
fn of_table(client: &mut Client, address: &Path, name: &str) -> Result<(String, String), RecordsError> {
    let mut ask = |sql: &str, names: &[&(dyn postgres::types::ToSql + Sync)]| {
        client.query(sql, names).map_err(|error| failed(address, &error))
    };
    let (schema, table) = name.split_once('.').map_or((None, name), |(schema, table)| (Some(schema), table));
    let sql = "SELECT n.nspname::text, c.relname::text, c.oid FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace \
               WHERE c.relkind IN ('r', 'p', 'v', 'm', 'f') AND (($1::text IS NULL AND c.relname = $3 AND pg_table_is_visible(c.oid)) \
               OR (n.nspname = $1 AND c.relname = $2)) LIMIT 1";
    let found = ask(sql, &[&schema, &table, &name])?;
    let found = match found.first() {
        Some(found) => Some((found.get::<_, String>(0), found.get::<_, String>(1), found.get::<_, u32>(2))),
        // A name with a point in it, of a table that can be seen.
        None => ask(sql, &[&None::<String>, &table, &name])?
            .first()
            .map(|found| (found.get::<_, String>(0), found.get::<_, String>(1), found.get::<_, u32>(2))),
    };
    let Some((schema, table, id)) = found else {
        return Err(RecordsError::request(
            format!("there is no table \"{}\" on the server", name.escape_debug()),
            "table = \"name\", or \"schema.name\"",
        ));
    };
    let keys = ask(
        "SELECT a.attname::text FROM pg_index i CROSS JOIN LATERAL unnest(i.indkey::int2[]) WITH ORDINALITY AS k(number, place) \
         JOIN pg_attribute a ON a.attrelid = i.indrelid AND a.attnum = k.number WHERE i.indrelid = $1 AND i.indisprimary ORDER BY k.place",
        &[&id],
    )?;
    let order: Vec<String> = keys.iter().map(|key| quoted(key.get::<_, &str>(0))).collect();
    if order.is_empty() {
        return Err(RecordsError::request(
            format!("the table \"{}\" has no primary key, and its rows no order", name.escape_debug()),
            "query = \"SELECT * FROM … ORDER BY …\"",
        ));
    }
    let query = format!("SELECT * FROM {}.{} ORDER BY {}", quoted(&schema), quoted(&table), order.join(", "));
    Ok((query, format!("table \"{schema}.{table}\", ordered by {}", order.join(", "))))
}

fn quoted(name: &str) -> String {
    format!("\"{}\"", name.replace('"', "\"\""))
}

/// The digits that a NUMERIC was declared with; none for one without a precision. Of its modifier less four, the upper half counts
/// all digits, the lower half those after the decimal mark.
fn digits_of(modifier: i32) -> Option<TypedDigits> {
    let declared = modifier.checked_sub(4).filter(|declared| *declared >= 0)?;
    let decimals = u8::try_from(declared & 0xffff).ok()?;
    let whole = u16::try_from(declared >> 16).ok()?.saturating_sub(decimals.into());
    Some(TypedDigits { whole, decimals })
}

fn type_of(held: &Type, modifier: i32) -> ColumnType {
    match *held {
        Type::DATE => ColumnType::Dates,
        Type::TIMESTAMP | Type::TIMESTAMPTZ => ColumnType::DateTimes,
        Type::INT2 | Type::INT4 | Type::INT8 => ColumnType::Numbers(Some(TypedDigits::WHOLE)),
        Type::FLOAT4 | Type::FLOAT8 => ColumnType::Numbers(None),
        Type::NUMERIC => ColumnType::Numbers(digits_of(modifier)),
        _ => ColumnType::Text,
    }
}

impl Source for ServerTable {
    fn columns(&self) -> &[String] {
        self.rows.columns()
    }

    fn with_chunks_of(&mut self, size: ChunkSize) {
        self.rows.with_chunks_of(size);
    }

    fn next_chunk(&mut self) -> Result<Option<Chunk>, RecordsError> {
        unless_stopped(&self.stop, self.rows.next_chunk())
    }

    fn chunk_reader(&self) -> Box<dyn ChunkReader> {
        self.rows.chunk_reader()
    }

    fn said(&self) -> &[String] {
        &self.said
    }

    fn types(&self) -> &[ColumnType] {
        &self.types
    }

    fn rows_read(&self) -> u64 {
        self.rows.rows_read()
    }

    fn bytes_read(&self) -> u64 {
        self.rows.bytes_read()
    }

    fn finish(self: Box<Self>) -> SourceEnd {
        self.rows.finish()
    }
}
