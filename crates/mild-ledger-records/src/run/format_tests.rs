//! The same rows through every format, in and out.

use crate::source::Server;
use crate::{ExistingFiles, Plan, RecordsError, RunRequest, Watch, run};
use rusqlite::Connection;
use std::fs::{self, File};
use std::io::Write;
use std::path::Path;
use std::sync::atomic::AtomicBool;

/// Takes the records over as they are, each column as what it is.
const CONVERT: &str = r#"plan = 1
[records]
file = "records.csv"
key = "Invoice"
[records.dates]
Issued = "iso"
Paid = { pattern = "iso", required = false }
Launched = { pattern = "iso", time = "keep" }
[records.amounts]
Amount = { decimals = 2 }
[records.numbers]
Hours = { decimals = 0, required = false }
[output]
rows = "same.FORMAT"
exceptions = "same-exceptions.FORMAT"
"#;

/// Works on them.
const REPORT: &str = r#"plan = 1
as_of = 2026-09-30T17:00
[records]
file = "FILE"
key = "Invoice"
[records.dates]
Issued = "iso"
Paid = { pattern = "iso", required = false }
Launched = { pattern = "iso", time = "keep" }
[records.amounts]
Amount = { decimals = 2 }
[records.numbers]
Hours = { decimals = 0, required = false }
[[column]]
name = "Due"
from = "Issued"
shift = "1 month"
[[column]]
name = "Days"
between = ["Due", "as-of"]
count = "days"
[[column]]
name = "Hours up"
between = ["Launched", "as-of"]
count = "complete hours"
[[column]]
name = "Band"
bucket = "Days"
edges = [0, 30, 60, 90]
[[report]]
kind = "aging"
band = "Band"
amount = "Amount"
issued = "Issued"
paid = "Paid"
by = "Customer"
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
order_by = ["Customer", "Days, largest first"]
"#;

/// Invoices of three hundred days around a leap day, with blanks, characters that want quotes, and texts that look like other things.
fn records() -> String {
    let customers = [
        "Heron Charters",
        "\"Cordage, \"\"Sons\"\" & <Co>\"",
        "Ærø Færge",
        "007",
        "2026-01-31",
        "\"two\nlines\"",
    ];
    let mut out = String::from("Invoice,Customer,Issued,Paid,Launched,Amount,Hours\n");
    for nth in 0..300_i64 {
        let issued = mild_ledger::Date::from_day_number(19_700 + i32::try_from(nth * 3).unwrap()).unwrap();
        let paid = if nth % 3 == 0 { String::new() } else { format!("{issued}") };
        let hours = if nth % 5 == 0 { String::new() } else { (nth * nth).to_string() };
        let (sign, units) = (if nth % 7 == 0 { "-" } else { "" }, nth * 1_234_567 % 99_999_999);
        let customer = customers[usize::try_from(nth).unwrap() % customers.len()];
        let minute = nth % 60;
        out += &format!(
            "A{nth:04},{customer},{issued},{paid},{issued}T14:{minute:02}:09,{sign}{}.{:02},{hours}\n",
            units / 100,
            units % 100
        );
    }
    out
}

fn ran(folder: &Path, plan: &str) -> Result<(), RecordsError> {
    let plan = Plan::of_text(plan, &folder.join("plan.toml"))?;
    let request = RunRequest::new().with_existing(ExistingFiles::Overwrite);
    run(&plan, &request, Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} }).map(drop)
}

/// The result files of the report over a file, without the name of that file.
fn reported(folder: &Path, file: &str, more: &str) -> [String; 2] {
    let text = REPORT.replace("\"FILE\"", &format!("\"{file}\"{more}"));
    ran(folder, &text).unwrap();
    ["rows.csv", "exceptions.csv"].map(|name| fs::read_to_string(folder.join(name)).unwrap())
}

/// The records as an .ods workbook, dates and numbers typed.
fn write_ods(folder: &Path, records: &str) {
    let escaped = |text: &str| text.replace('&', "&amp;").replace('<', "&lt;");
    let mut rows = String::new();
    let mut sheet = csv_rows(records).into_iter();
    for name in sheet.next().unwrap() {
        rows += &format!(
            "<table:table-cell office:value-type=\"string\"><text:p>{name}</text:p></table:table-cell>"
        );
    }
    rows = format!("<table:table-row>{rows}</table:table-row>");
    for row in sheet {
        rows += "<table:table-row>";
        for (nth, cell) in row.iter().enumerate() {
            rows += &match (nth, cell.as_str()) {
                (_, "") => "<table:table-cell/>".to_owned(),
                (2..=4, date) => {
                    // Each type has its value in an attribute of its own name.
                    let holds = "date";
                    format!(
                        "<table:table-cell office:value-type=\"{holds}\" office:{holds}-value=\"{date}\"><text:p>x</text:p></table:table-cell>"
                    )
                }
                (5 | 6, number) => format!(
                    "<table:table-cell office:value-type=\"float\" office:value=\"{number}\"><text:p>x</text:p></table:table-cell>"
                ),
                (_, text) => {
                    let lines: String =
                        text.lines().map(|line| format!("<text:p>{}</text:p>", escaped(line))).collect();
                    format!("<table:table-cell office:value-type=\"string\">{lines}</table:table-cell>")
                }
            };
        }
        rows += "</table:table-row>";
    }
    let content = format!(
        "<?xml version=\"1.0\"?><office:document-content xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\" xmlns:text=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\"><office:body><office:spreadsheet><table:table table:name=\"Invoices\">{rows}</table:table></office:spreadsheet></office:body></office:document-content>"
    );
    let mut archive = zip::ZipWriter::new(File::create(folder.join("same.ods")).unwrap());
    for (name, text) in
        [("mimetype", "application/vnd.oasis.opendocument.spreadsheet"), ("content.xml", content.as_str())]
    {
        archive.start_file(name, zip::write::SimpleFileOptions::default()).unwrap();
        archive.write_all(text.as_bytes()).unwrap();
    }
    archive.finish().unwrap();
}

/// The cells of CSV, distinguished by hand.
fn csv_rows(text: &str) -> Vec<Vec<String>> {
    let (mut rows, mut row, mut cell, mut quoted) = (Vec::new(), Vec::new(), String::new(), false);
    let mut signs = text.chars().peekable();
    while let Some(sign) = signs.next() {
        match (sign, quoted) {
            ('"', true) if signs.peek() == Some(&'"') => cell.extend(signs.next()),
            ('"', _) => quoted = !quoted,
            (',', false) => row.push(std::mem::take(&mut cell)),
            ('\n', false) => {
                row.push(std::mem::take(&mut cell));
                rows.push(std::mem::take(&mut row));
            }
            (sign, _) => cell.push(sign),
        }
    }
    rows
}

#[test]
fn the_same_rows_in_every_format_give_the_same_result_byte_for_byte() {
    let folder = tempfile::tempdir().unwrap();
    let folder = folder.path();
    let records = records();
    fs::write(folder.join("records.csv"), &records).unwrap();
    let [rows, exceptions] = reported(folder, "records.csv", "");
    assert_eq!(csv_rows(&rows).len(), 301);
    assert_eq!(exceptions.lines().count(), 1, "{exceptions}");
    for format in ["csv", "jsonl", "xlsx", "parquet", "sqlite"] {
        ran(folder, &CONVERT.replace("FORMAT", format)).unwrap();
        let found = reported(folder, &format!("same.{format}"), "");
        assert!(found[0] == rows, "{format}: {}", first_difference(&found[0], &rows));
        assert_eq!(found[1], exceptions, "{format}");
    }
    write_ods(folder, &records);
    let found = reported(folder, "same.ods", "");
    assert!(found[0] == rows, "ods: {}", first_difference(&found[0], &rows));

    let Some(server) = Server::start() else { return };
    let table = "CREATE TABLE invoices (\"Invoice\" text PRIMARY KEY, \"Customer\" text, \"Issued\" date, \"Paid\" date, \"Launched\" timestamp, \"Amount\" numeric(20,2), \"Hours\" bigint)";
    let mut client = server.connected().unwrap();
    client.batch_execute(table).unwrap();
    let mut copied = client.copy_in("COPY invoices FROM STDIN WITH (FORMAT csv, HEADER)").unwrap();
    copied.write_all(records.as_bytes()).unwrap();
    copied.finish().unwrap();
    let found = server.with_password_file(|| reported(folder, &server.address(), "\ntable = \"invoices\""));
    assert!(found[0] == rows, "PostgreSQL: {}", first_difference(&found[0], &rows));
}

fn first_difference(one: &str, other: &str) -> String {
    let differ = one.lines().zip(other.lines()).find(|(one, other)| one != other);
    format!("{differ:?}, {} and {} lines", one.lines().count(), other.lines().count())
}

#[test]
fn a_table_is_replaced_and_those_beside_it_stay() {
    let folder = tempfile::tempdir().unwrap();
    let folder = folder.path();
    fs::write(folder.join("records.csv"), records()).unwrap();
    let plan = CONVERT.replace("same.FORMAT", "yard.sqlite").replace("FORMAT", "csv")
        + "table = \"open \"\"invoices\"\"\"\n";
    let plan = plan.replace("\"open \"\"invoices\"\"\"", "'open \"invoices\"'");
    ran(folder, &plan).unwrap();
    let alone = fs::read(folder.join("yard.sqlite")).unwrap();
    ran(folder, &plan).unwrap();
    assert_eq!(fs::read(folder.join("yard.sqlite")).unwrap(), alone, "the same rows make the same bytes");

    let count = |table: &str| -> i64 {
        let database = Connection::open(folder.join("yard.sqlite")).unwrap();
        let sql = format!("SELECT count(*) FROM \"{}\"", table.replace('"', "\"\""));
        database.query_row(&sql, [], |row| row.get(0)).unwrap()
    };
    let database = Connection::open(folder.join("yard.sqlite")).unwrap();
    database
        .execute_batch("CREATE TABLE crew (Name TEXT); INSERT INTO crew VALUES ('Ida'), ('Olav'); INSERT INTO \"open \"\"invoices\"\"\" (Invoice) VALUES ('by hand');")
        .unwrap();
    drop(database);
    assert_eq!((count("crew"), count("open \"invoices\"")), (2, 301));
    ran(folder, &plan).unwrap();
    assert_eq!((count("crew"), count("open \"invoices\"")), (2, 300));
    // Dates are texts of ISO 8601, which the database's own functions read; numbers are numbers.
    let database = Connection::open(folder.join("yard.sqlite")).unwrap();
    let types = "SELECT typeof(Issued), typeof(Amount), typeof(Hours), typeof(Paid), date(Issued, '+1 day') FROM \"open \"\"invoices\"\"\" WHERE Invoice = 'A0003'";
    let found: [String; 5] = database
        .query_row(types, [], |row| Ok([row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?]))
        .unwrap();
    // Day 19,709 is 2023-12-18, ten days after 2023-12-08, which is 19,699 days from 1970.
    assert_eq!(found, ["text", "real", "integer", "null", "2023-12-19"]);

    // A view of that name is not our table, and the old file stays.
    database.execute_batch("CREATE VIEW seen AS SELECT 1").unwrap();
    drop(database);
    let before = fs::read(folder.join("yard.sqlite")).unwrap();
    let refused = ran(folder, &plan.replace("'open \"invoices\"'", "\"seen\"")).unwrap_err().to_string();
    assert!(refused.contains("has a view \"seen\""), "{refused}");
    assert_eq!(fs::read(folder.join("yard.sqlite")).unwrap(), before);
}

/// A report of rows themselves, each column of a type, with cells that are empty for a reason.
const LIST: &str = r#"[[report]]
kind = "list"
file = "report.FORMAT"
columns = ["Invoice", "Customer", "Due", "Launched", "Days", "Amount", "Hours"]
order = "Days, largest first"
first = 120
sum = "Amount"
[output]
"#;

/// Takes the file of that report up again.
const TAKEN_UP: &str = r#"plan = 1
[records]
file = "report.FORMAT"TABLE
[records.dates]
Due = { pattern = "iso", required = false }
Launched = { pattern = "iso", time = "keep" }
[records.amounts]
Amount = { decimals = 2 }
[records.numbers]
Days = { decimals = 0, required = false }
Hours = { decimals = 0, required = false }
[output]
rows = "back.csv"
exceptions = "back-exceptions.csv"
"#;

#[test]
fn a_report_is_the_same_table_in_every_format() {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("records.csv"), records().replace("2024-02-29,", "soon,")).unwrap();
    let mut taken_up = Vec::new();
    for format in ["csv", "jsonl", "xlsx", "parquet", "sqlite"] {
        let plan =
            REPORT.replace("FILE", "records.csv").replace("[output]\n", &LIST.replace("FORMAT", format));
        ran(folder.path(), &plan).unwrap();
        let table = if format == "sqlite" { "\ntable = \"report\"" } else { "" };
        ran(folder.path(), &TAKEN_UP.replace("FORMAT", format).replace("TABLE", table)).unwrap();
        taken_up.push(fs::read_to_string(folder.path().join("back.csv")).unwrap());
    }
    assert_eq!(taken_up[0].lines().filter(|line| line.starts_with('A')).count(), 120);
    for (other, format) in taken_up.iter().skip(1).zip(["jsonl", "xlsx", "parquet", "sqlite"]) {
        assert_eq!(&taken_up[0], other, "{format}");
    }
}
