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
INSERT INTO invoices VALUES ('A1', '2026-09-30', 46295, 10.5, NULL), ('A2', '2026-08-31', NULL, 0.3, 'it''s'), ('A3', '2024-02-29', 45351.5, -7, 'new');"#;

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
        "Invoice,Issued,Paid,Amount,Note\nA1,2026-09-30,46295,10.5,\nA2,2026-08-31,,0.3,it's\nA3,2024-02-29,45351.5,-7,new\n",
    )
    .unwrap();
    let as_csv = rows(folder.path(), "same.csv", "").unwrap();
    assert_eq!(rows(folder.path(), "yard.db", "").unwrap(), as_csv);
    // 46295 is 2026-09-30, as 46023 is 1 January 2026; 2024-02-29 is 944 days before it: 671 to 31 December 2025, and 273.
    assert!(as_csv.contains("A1,2026-09-30,2026-09-30,10.50,,0\n"), "{as_csv}");
    assert!(as_csv.contains("A3,2024-02-29,2024-02-29,-7.00,new,944\n"), "{as_csv}");
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
        ("WITH x AS (SELECT 1 ORDER BY 1) DELETE FROM invoices RETURNING *", "does not read a table"),
        ("SELECT * FROM invoices -- ORDER BY 1", "has no order"),
        ("SELECT 1 ORDER BY 1; DELETE FROM invoices", "cannot be read"),
        ("SELECT * FROM nowhere ORDER BY 1", "no such table"),
        ("SELECT * FROM invoices", "has no order"),
    ] {
        let error = rows(folder.path(), "yard.db", &format!("query = \"{query}\"")).unwrap_err().to_string();
        assert!(error.contains(said), "{query}: {error}");
    }
    assert_eq!(fs::read(folder.path().join("yard.db")).unwrap(), before);
    let both = rows(folder.path(), "yard.db", "table = \"invoices\"\nquery = \"SELECT 1 ORDER BY 1\"");
    assert!(both.unwrap_err().to_string().contains("table and query both name what to read"));
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
    // The header of the file and of its first page, and every 13th byte after them.
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

#[test]
fn binary_values_are_refused_with_their_column_and_row() {
    for (value, what) in [
        ("x'0102030405'", "\"Invoice\" holds a binary value of 5 bytes"),
        ("CAST(x'436166e9' AS TEXT)", "\"Invoice\" holds a text of 4 bytes that is not UTF-8"),
    ] {
        let folder = tempfile::tempdir().unwrap();
        database(
            folder.path(),
            &format!("{TABLE} UPDATE invoices SET Invoice = {value} WHERE Invoice = 'A2'"),
        );
        let error = rows(folder.path(), "yard.db", "").unwrap_err().to_string();
        assert!(error.contains(what) && error.contains("line 2") && error.contains("hex("), "{error}");
        assert!(watch(|watch| look(&folder.path().join("yard.db"), watch)).is_err());
        let without =
            "query = \"SELECT hex(Invoice) AS Invoice, Issued, Paid, Amount FROM invoices ORDER BY rowid\"";
        assert_eq!(rows(folder.path(), "yard.db", without).unwrap().lines().count(), 4);
    }
}

#[test]
fn numbers_keep_their_digits_and_their_type() {
    let folder = tempfile::tempdir().unwrap();
    database(
        folder.path(),
        "CREATE TABLE sums (Name TEXT, Whole INTEGER, Part REAL, Mixed INTEGER, Amount REAL);
         INSERT INTO sums VALUES ('a', 10, 0.1 + 0.2, 7, 12345678901234.56), ('b', -3, 2, 'x', 99999999999999.98), ('c', NULL, 0.5, 8, 0.005);",
    );
    let plan = "plan = 1\n[records]\nfile = \"yard.db\"\n[records.amounts]\nAmount = { decimals = 2 }\n[output]\nrows = \"rows.jsonl\"\nexceptions = \"exceptions.csv\"\n";
    let plan = Plan::of_text(plan, &folder.path().join("plan.toml")).unwrap();
    watch(|watch| run(&plan, &RunRequest::new(), watch)).unwrap();
    assert_eq!(
        fs::read_to_string(folder.path().join("rows.jsonl")).unwrap(),
        "{\"Name\":\"a\",\"Whole\":10,\"Part\":0.3,\"Mixed\":\"7\",\"Amount\":12345678901234.56}\n\
         {\"Name\":\"b\",\"Whole\":-3,\"Part\":2.0,\"Mixed\":\"x\",\"Amount\":99999999999999.98}\n\
         {\"Name\":\"c\",\"Whole\":null,\"Part\":0.5,\"Mixed\":\"8\",\"Amount\":0.01}\n"
    );
    let exceptions = fs::read_to_string(folder.path().join("exceptions.csv")).unwrap();
    let listed: Vec<&str> = exceptions.lines().skip(1).collect();
    assert_eq!(
        listed,
        [
            "yard.db,1,1,,Part,0.30000000000000004,rounded: read as 0.3,,kept",
            "yard.db,3,3,,Amount,0.005,rounded: read as 0.01,,kept"
        ]
    );
}

/// A view whose rows never come.
const ENDLESS: &str = "CREATE VIEW endless AS WITH RECURSIVE n(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n) SELECT x FROM n WHERE x < 0;";

#[test]
fn a_view_is_read_where_it_is_named_alone() {
    let folder = tempfile::tempdir().unwrap();
    database(folder.path(), &format!("{ENDLESS} {TABLE}"));
    let path = folder.path().join("yard.db");
    // Of a table and a view, the table.
    assert_eq!(watch(|watch| look(&path, watch)).unwrap().rows, 3);
    assert_eq!(rows(folder.path(), "yard.db", "").unwrap().lines().count(), 4);
    database(folder.path(), "CREATE VIEW two AS SELECT * FROM invoices WHERE Amount > 0");
    assert_eq!(rows(folder.path(), "yard.db", "table = \"two\"").unwrap().lines().count(), 3);
    database(folder.path(), "DROP TABLE invoices");
    for error in [
        watch(|watch| look(&path, watch)).unwrap_err().to_string(),
        rows(folder.path(), "yard.db", "").unwrap_err().to_string(),
    ] {
        assert!(error.contains("views and no tables"), "{error}");
    }
}

#[test]
fn an_interruption_ends_a_query_that_gives_no_row() {
    let folder = tempfile::tempdir().unwrap();
    database(folder.path(), ENDLESS);
    let plan =
        "plan = 1\n[records]\nfile = \"yard.db\"\ntable = \"endless\"\n[output]\nrows = \"rows.csv\"\n";
    let plan = Plan::of_text(plan, &folder.path().join("plan.toml")).unwrap();
    let interrupted = AtomicBool::new(false);
    let error = std::thread::scope(|scope| {
        scope.spawn(|| {
            std::thread::sleep(std::time::Duration::from_millis(300));
            interrupted.store(true, std::sync::atomic::Ordering::Relaxed);
        });
        let watch = Watch { interrupted: &interrupted, progress: &|_| {} };
        run(&plan, &RunRequest::new(), watch).unwrap_err()
    });
    assert!(matches!(error, RecordsError::Interrupted), "{error}");
    assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 1, "nothing but the database is there");
}
