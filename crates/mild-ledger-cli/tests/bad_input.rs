//! Everything that can be wrong with records and requests, through the command: a clear message, the right exit
//! code, and nothing half-written.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use support::{Answer, Desk, PLAN, RECORDS};

const INPUTS: [&str; 2] = ["plan.toml", "records.csv"];

/// The message of a run that wrote nothing.
fn refused(desk: &Desk, code: i32) -> String {
    let before = desk.files();
    let answer = desk.run_plan();
    assert_eq!(answer.code, code, "{}", answer.err);
    assert_eq!(answer.out, "", "nothing goes to standard output");
    assert_eq!(desk.files(), before, "nothing was written");
    answer.err
}

fn refused_records(records: impl AsRef<[u8]>) -> String {
    refused(&Desk::with_records(records), 3)
}

#[test]
fn files_that_are_not_there_or_no_files() {
    let desk = Desk::with_records(RECORDS);
    std::fs::remove_file(desk.path("records.csv")).unwrap();
    assert_snapshot!(refused(&desk, 3), @"error: records.csv: could not read it: there is no such file or folder");
    std::fs::create_dir(desk.path("records.csv")).unwrap();
    assert_snapshot!(refused(&desk, 2), @"error: records.csv is a folder, and no file in it ends as records do; such as .csv, .jsonl or .parquet; or name a file");
    let desk = Desk::new();
    let answer = desk.mild(&["run", "nowhere.toml"]);
    assert_eq!(answer.code, 3);
    assert_snapshot!(answer.err, @"error: nowhere.toml: could not read it: there is no such file or folder");
    let answer = desk.mild(&["run", "."]);
    assert_eq!(answer.code, 3);
    assert_snapshot!(answer.err, @"error: .: could not read it: it is a folder, not a file");
    let answer = desk.mild(&["run", "plan.toml/x"]);
    assert_eq!(answer.code, 3);
}

#[test]
fn broken_files() {
    assert_snapshot!(refused_records(""), @"error: records.csv, line 1: the file is empty; a header with the names of the columns was expected");
    assert_snapshot!(refused_records("\u{feff}\r\n\r\n"), @"error: records.csv, line 1: the file is empty; a header with the names of the columns was expected");
    assert_snapshot!(refused_records(",,,\n"), @"error: records.csv, line 1: the header has no names; the names of the columns were expected");
    assert_snapshot!(refused_records(b"Invoice,Caf\xe9\n"), @"error: records.csv, line 1: the header holds bytes that are not UTF-8; save the file as UTF-8, or name its encoding under [records]");
    let open = format!("{RECORDS}A5,\"Heron\nCharters,01/01/2026,,5.00\nA6,x,01/01/2026,,1.00\n");
    assert_snapshot!(refused_records(open), @r#"error: records.csv, line 6: a quoted cell that begins in this row is never closed; a closing " was expected before the end of the file"#);
    let long = format!("{RECORDS}A5,{},01/01/2026,,5.00\n", "x".repeat(2_000_000));
    assert_snapshot!(refused_records(long), @"error: records.csv, line 6: a cell that begins in this row is longer than 1048576 bytes; look for a quote that is never closed, or raise longest_cell under [records]");
    let wide = "a,".repeat(20_000);
    assert_snapshot!(refused_records(wide), @"error: records.csv, line 1: the header has too many columns; at most 16384 columns are read");
}

#[test]
fn a_longer_cell_can_be_allowed() {
    let desk =
        Desk::with_plan("duplicates = \"set aside\"", "duplicates = \"set aside\"\nlongest_cell = 3_000_000");
    desk.write("records.csv", format!("{RECORDS}A5,{},01/01/2026,,5.00\n", "x".repeat(2_000_000)));
    assert_eq!(desk.run_plan().code, 0);
    assert!(desk.read("rows.csv").contains(&"x".repeat(2_000_000)));
}

#[test]
fn only_a_header_is_no_mistake() {
    let desk = Desk::with_records("Invoice,Customer,Issued,Paid,Amount\n");
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(json["rows"]["read"], 0);
    assert_eq!(desk.read("rows.csv"), "Invoice,Customer,Issued,Paid,Amount,Days,Band\n");
    assert_eq!(desk.read("exceptions.csv"), "source,row,line,key,column,text,reason,expected,outcome\n");
}

#[test]
fn a_header_that_lacks_a_column_or_names_it_twice() {
    let lacking = Desk::with_records("Invoice,Customer,Issued,Payed,Amount\n");
    assert_snapshot!(refused(&lacking, 2), @r#"
    plan.toml, line 12: there is no column "Paid"
        Paid   = "day/month/year"
        ^^^^
        allowed: "Invoice", "Customer", "Issued", "Payed", "Amount"
        nearest: "Payed"

    plan.toml, line 32: there is no column "Paid"
        paid   = "Paid"
                 ^^^^^^
        allowed: "Payed", "Band", "Days" …
        nearest: "Payed"

    error: the plan has 2 mistakes; nothing was read or written
    "#);
    let twice = Desk::with_records("Invoice,Customer,Issued,Paid,Amount,Paid\n");
    assert_snapshot!(refused(&twice, 2), @r#"
    plan.toml, line 12: the header names "Paid" twice, as columns 4 and 6
        Paid   = "day/month/year"
        ^^^^
        expected: a name that one column alone has

    plan.toml, line 32: the header names "Paid" twice, as columns 4 and 6
        paid   = "Paid"
                 ^^^^^^
        expected: a name that one column alone has

    error: the plan has 2 mistakes; nothing was read or written
    "#);
}

#[test]
fn cells_separated_by_something_else() {
    let desk = Desk::with_records("Invoice;Customer;Issued;Paid;Amount\nA1;x;30/09/2026;;1,00\n");
    let said = refused(&desk, 3);
    assert!(said.contains("the cells of the header are separated by semicolons"), "{said}");
}

#[test]
fn broken_rows_are_set_aside_and_the_next_is_read() {
    let records = b"Invoice,Customer,Issued,Paid,Amount
A1,Heron Charters,30/09/2026,,100.00
A2,too,many,cells,here,1.00
A3,too few
Invoice,Customer,Issued,Paid,Amount
A4,\"two
lines\",31/08/2026,,12.50
A5,Caf\xe9,31/08/2026,,1.00
A6,fine,31/08/2026,,1.005
A7,fine,31/08/2026,,\"1,000.00\"
A8,fine,31/08/2026,,
A9,fine,31/08/2026,,ten
A10,fine,01/01/0000,,1.00
A11,fine,01/01/10000,,2.00
A12,fine,31/08/2026,,99999999999999999999999999999999999999999999
A1,again,30/09/2026,,5.00
A13,last,29/09/2026,,4.00";
    let desk = Desk::with_records(records);
    let answer = desk.run_plan();
    assert_snapshot!("broken_rows_reported", answer.all());
    assert_snapshot!("broken_rows_among_the_exceptions", desk.read("exceptions.csv"));
    assert_snapshot!("rows_between_broken_ones", desk.read("rows.csv"));
    let strict = desk.mild(&["run", "plan.toml", "--strict", "--details"]);
    assert_eq!((strict.code, strict.out == answer.out), (4, true));
    assert_snapshot!(strict.err, @"error: 10 rows were set aside and 2 cells were left empty as unreadable, and --strict asks for none");
}

#[test]
fn a_required_date_sets_its_row_aside() {
    let desk = Desk::with_plan(
        "Issued = \"day/month/year\"",
        "Issued = { pattern = \"day/month/year\", required = true }",
    );
    desk.write("records.csv", "Invoice,Customer,Issued,Paid,Amount\nA1,x,,,1.00\nA2,x,31/06/2026,,2.00\nA3,x,30/12/1899,,4.00\nA4,x,30/06/2026,,8.00\n");
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(
        json["rows"],
        serde_json::json!({"read": 4, "written": 1, "set_aside": 3, "merged": 0, "not_selected": 0})
    );
    assert_eq!(json["amounts"][0]["set_aside"], "7.00");
    assert_snapshot!(desk.read("exceptions.csv"));
}

#[test]
fn repeated_keys_of_an_aging_must_be_decided() {
    let desk = Desk::with_records(format!("{RECORDS}A1,Heron Charters,30/09/2026,,100.00\n"));
    desk.write("plan.toml", PLAN.replace("duplicates = \"set aside\"\n", ""));
    assert_snapshot!(refused(&desk, 2), @r#"error: 1 value of "Invoice" appears in more than one row (rows 1 and 5), and an aging would count them twice; say in the plan under [records]: duplicates = "set aside" (or "keep", "first", "last", "sum")"#);
}

#[test]
fn as_of_dates_that_are_missing_or_none() {
    let desk = Desk::with_plan("as_of = 2026-09-30\n", "");
    assert_snapshot!(refused(&desk, 2), @r#"error: plan.toml states no as-of date, and none is assumed; write as_of = 2026-09-30 (or "today", "end of last month" …) into it, or give --as-of"#);
    assert_eq!(desk.mild(&["run", "plan.toml", "--as-of", "2026-09-30"]).code, 0);
    let answer = desk.mild(&["run", "plan.toml", "--as-of", "31/09/2026"]);
    assert_eq!(answer.code, 2);
    assert_snapshot!(answer.err, @r#"
    error: --as-of: "31/09/2026" is not an ISO 8601 date
    expected: a date such as 2026-09-30, 2026-W40-3 or 2026-273
    "#);
    let answer = desk.mild(&["run", "plan.toml", "--as-of", "2026-09-31"]);
    assert_snapshot!(answer.err, @"
    error: --as-of: there is no day 31 in 2026-09
    expected: day 1 to 30
    ");
}

#[test]
fn one_absurd_amount_sets_its_row_aside() {
    // One absurd amount sets its row aside, as does any that no sum of a million could hold.
    let row = |key: &str, amount: &str| format!("{key},x,30/09/2026,,{amount}\n");
    let absurd = "999999999999999999999999999999999999.99";
    let desk = Desk::with_records(format!(
        "Invoice,Customer,Issued,Paid,Amount\n{}{}",
        row("A1", absurd),
        row("A2", "1.00")
    ));
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(
        (&json["rows"]["set_aside"], &json["rows"]["written"]),
        (&serde_json::json!(1), &serde_json::json!(1))
    );
}

#[test]
fn an_unknown_option_is_an_error() {
    let desk = Desk::with_records(RECORDS);
    let answer = desk.mild(&["run", "plan.toml", "--overwrit"]);
    assert_eq!(answer.code, 2);
    assert!(answer.err.contains("--overwrite"), "{}", answer.err);
    assert_eq!(desk.files(), INPUTS);
}

#[test]
fn text_from_records_never_steers_the_terminal() {
    let desk = Desk::with_records(
        "Invoice,Customer,Issued,Paid,Amount\nA1,\u{1b}[31mred\u{7}\u{202e}x,30/09/2026,,1.00\nA2,x,\u{1b}]0;t\u{7},,2.00\n",
    );
    let Answer { code, out, err } = desk.run_plan();
    assert_eq!(code, 0, "{err}");
    assert!(!out.contains(['\u{1b}', '\u{7}', '\u{202e}']));
    assert!(out.contains("\\u{1b}[31mred\\u{7}\\u{202e}x"), "{out}");
    // The records themselves are written as they are.
    assert!(desk.read("rows.csv").contains("\u{1b}[31mred\u{7}\u{202e}x"));
}
