//! Databases made on the spot, read by plans.

use crate::{Plan, RecordsError, RunRequest, Watch, look, run};
use rusqlite::Connection;
use std::fs;
use std::path::Path;
use std::sync::atomic::AtomicBool;

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30
[records]
file = "FILE"
key = "Invoice"
[records.dates]
Issued = "iso"
Paid = "serial 1900"
[records.amounts]
Amount = { decimals = 2 }
[[column]]
name = "Days"
between = ["Issued", "as-of"]
count = "days"
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

const TABLE: &str = r#"CREATE TABLE invoices (Invoice TEXT, Issued TEXT, Paid REAL, Amount NUMERIC, Note);
INSERT INTO invoices VALUES ('A1', '2026-09-30', 46295, 10.5, NULL), ('A2', '2026-08-31', NULL, 0.3, 'it''s'), ('A3', '2024-02-29', 45351.5, -7, x'00ff');"#;

fn watch<T>(then: impl FnOnce(Watch<'_>) -> T) -> T {
    then(Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} })
}

fn database(folder: &Path, sql: &str) {
    Connection::open(folder.join("yard.db")).unwrap().execute_batch(sql).unwrap();
}

/// The rows that a plan over a file writes, or its error.
fn rows(folder: &Path, file: &str, more: &str) -> Result<String, RecordsError> {
    let text = PLAN.replace("\"FILE\"", &format!("\"{file}\"\n{more}"));
    let plan = Plan::of_text(&text, &folder.join("plan.toml"))?;
    let request = RunRequest::new().with_existing(crate::ExistingFiles::Overwrite);
    watch(|watch| run(&plan, &request, watch))?;
    Ok(fs::read_to_string(folder.join("rows.csv")).unwrap())
}

#[test]
fn a_table_gives_what_the_same_rows_give_as_csv() {
    let folder = tempfile::tempdir().unwrap();
    database(folder.path(), TABLE);
    fs::write(
        folder.path().join("same.csv"),
        "Invoice,Issued,Paid,Amount,Note\nA1,2026-09-30,46295,10.5,\nA2,2026-08-31,,0.3,it's\nA3,2024-02-29,45351.5,-7,(2 bytes)\n",
    )
    .unwrap();
    let as_csv = rows(folder.path(), "same.csv", "").unwrap();
    assert_eq!(rows(folder.path(), "yard.db", "").unwrap(), as_csv);
    // 46295 is 2026-09-30, as 46023 is 1 January 2026; 2024-02-29 is 944 days before it: 671 to 31 December 2025, and 273.
    assert!(as_csv.contains("A1,2026-09-30,2026-09-30,10.50,,0\n"), "{as_csv}");
    assert!(as_csv.contains("A3,2024-02-29,2024-02-29,-7.00,(2 bytes),944\n"), "{as_csv}");
    // A text that is none is not mended.
    database(folder.path(), "UPDATE invoices SET Note = CAST(x'436166e9' AS TEXT) WHERE Invoice = 'A1'");
    assert!(rows(folder.path(), "yard.db", "").unwrap().contains("(4 bytes that are not UTF-8)"));
    let query = "query = \"SELECT * FROM invoices WHERE Amount > 0 ORDER BY Invoice DESC\"";
    let asked = rows(folder.path(), "yard.db", query).unwrap();
    assert_eq!(asked.lines().nth(1).unwrap().split(',').next(), Some("A2"));
    assert_eq!(asked.lines().count(), 3);
    let found = watch(|watch| look(&folder.path().join("yard.db"), watch)).unwrap();
    assert_eq!((found.format, found.rows), ("SQLite", 3));
}

#[test]
fn a_table_is_named_where_there_are_several_and_its_name_is_never_run() {
    let folder = tempfile::tempdir().unwrap();
    let strange = r#"x"; DROP TABLE invoices; --"#;
    let named = strange.replace('"', "\"\"");
    database(folder.path(), &format!("{TABLE} CREATE TABLE \"{named}\" AS SELECT * FROM invoices;"));
    let several = rows(folder.path(), "yard.db", "").unwrap_err().to_string();
    assert!(several.contains("has 2 tables; table = … under [records]: \"invoices\""), "{several}");
    let one = rows(folder.path(), "yard.db", "table = \"invoices\"").unwrap();
    let other = rows(folder.path(), "yard.db", &format!("table = '{strange}'")).unwrap();
    assert_eq!(one, other);
    assert_eq!(rows(folder.path(), "yard.db", "table = \"invoices\"").unwrap(), one, "nothing was dropped");
    let none =
        rows(folder.path(), "yard.db", "table = \"invoices; DROP TABLE invoices\"").unwrap_err().to_string();
    assert!(none.contains("has no table \"invoices; DROP TABLE invoices\""), "{none}");
    let found = watch(|watch| look(&folder.path().join("yard.db"), watch)).unwrap();
    assert!(found.plan_text().contains("table = \"invoices\""), "{}", found.plan_text());
}

#[test]
fn a_query_only_reads_and_has_an_order() {
    let folder = tempfile::tempdir().unwrap();
    database(folder.path(), TABLE);
    let before = fs::read(folder.path().join("yard.db")).unwrap();
    for (query, said) in [
        ("DELETE FROM invoices", "has no order"),
        ("DELETE FROM invoices RETURNING * /* ORDER BY 1 */", "does not read a table"),
        ("SELECT 1 ORDER BY 1; DELETE FROM invoices", "cannot be read"),
        ("SELECT * FROM nowhere ORDER BY 1", "no such table"),
        ("SELECT * FROM invoices", "has no order"),
    ] {
        let error = rows(folder.path(), "yard.db", &format!("query = \"{query}\"")).unwrap_err().to_string();
        assert!(error.contains(said), "{query}: {error}");
    }
    assert_eq!(fs::read(folder.path().join("yard.db")).unwrap(), before);
    let both = rows(folder.path(), "yard.db", "table = \"invoices\"\nquery = \"SELECT 1 ORDER BY 1\"");
    assert!(both.unwrap_err().to_string().contains("table and query both say what is read"));
}

#[test]
fn a_database_that_is_cut_off_or_being_written_is_an_error() {
    let folder = tempfile::tempdir().unwrap();
    database(folder.path(), TABLE);
    let whole = fs::read(folder.path().join("yard.db")).unwrap();
    fs::write(folder.path().join("cut.db"), &whole[..whole.len() - 4096]).unwrap();
    assert!(
        rows(folder.path(), "cut.db", "").unwrap_err().to_string().contains("the database cannot be read")
    );
    fs::write(folder.path().join("text.db"), "Invoice,Issued\nA1,2026-09-30\n").unwrap();
    assert!(rows(folder.path(), "text.db", "").unwrap_err().to_string().contains("not a database"));
    fs::write(folder.path().join("yard.db-wal"), [0; 64]).unwrap();
    assert!(rows(folder.path(), "yard.db", "").unwrap_err().to_string().contains("is being written"));
    assert!(!folder.path().join("rows.csv").exists());
}

#[test]
fn a_database_with_any_byte_turned_over_is_an_error_or_read_and_never_a_wrong_sum() {
    let folder = tempfile::tempdir().unwrap();
    database(folder.path(), TABLE);
    let whole = fs::read(folder.path().join("yard.db")).unwrap();
    let right = rows(folder.path(), "yard.db", "").unwrap();
    let (mut read, mut refused) = (0, 0);
    // The header of the file and of its first page, and every 13th byte behind them.
    for place in (0..140).chain((140..whole.len()).step_by(13)) {
        let mut bytes = whole.clone();
        bytes[place] ^= 0xff;
        fs::write(folder.path().join("yard.db"), &bytes).unwrap();
        match rows(folder.path(), "yard.db", "") {
            Ok(_) => read += 1,
            // Whatever is wrong with it, the figures that were proved are those that were read.
            Err(RecordsError::Proof { what }) => panic!("byte {place}: {what}"),
            Err(_) => refused += 1,
        }
    }
    assert!(read > 0 && refused > 0, "{read} read, {refused} refused");
    for length in [0, 1, 15, 16, 99, 100, 512, whole.len() - 1] {
        fs::write(folder.path().join("yard.db"), &whole[..length]).unwrap();
        let error = rows(folder.path(), "yard.db", "").err().map(|error| error.to_string());
        assert!(error.is_some(), "cut off at {length}");
    }
    fs::write(folder.path().join("yard.db"), &whole).unwrap();
    assert_eq!(rows(folder.path(), "yard.db", "").unwrap(), right);
}
