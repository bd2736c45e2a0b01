//! Rows written as workbooks: what is in their cells, and what cannot.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use std::io::Read;
use support::{Answer, Desk, PLAN, RECORDS};

/// The plan of the support with its rows and exceptions in these files.
fn writing(desk: &Desk, rows: &str, exceptions: &str) -> Answer {
    let plan = PLAN.replace("\"rows.csv\"", &format!("\"{rows}\""));
    desk.write("plan.toml", plan.replace("\"exceptions.csv\"", &format!("\"{exceptions}\"")));
    desk.mild(&["run", "plan.toml", "--overwrite"])
}

/// A part of a workbook.
fn part(desk: &Desk, file: &str, name: &str) -> String {
    let mut archive = zip::ZipArchive::new(std::fs::File::open(desk.path(file)).unwrap()).unwrap();
    let mut text = String::new();
    archive.by_name(name).unwrap().read_to_string(&mut text).unwrap();
    text
}

/// What is in a cell of the sheet, with its tag.
fn cell<'s>(sheet: &'s str, name: &str) -> &'s str {
    let (_, rest) = sheet.split_once(&format!("<c r=\"{name}\"")).expect(name);
    rest.split("</c>").next().unwrap()
}

#[test]
fn dates_and_numbers_are_typed_and_texts_are_texts() {
    let desk = Desk::with_records(
        "Invoice,Customer,Issued,Paid,Amount\n=1+1,@x,30/09/2026,01/03/1900,1250.50\nA2,x,28/02/1900,,-0.05\n",
    );
    let answer = writing(&desk, "rows.xlsx", "exceptions.xlsx");
    assert_eq!(answer.code, 0, "{}", answer.err);
    let sheet = part(&desk, "rows.xlsx", "xl/worksheets/sheet1.xml");
    // 46295 is 2026-09-30: 46023 is 1 January 2026, and 30 September its day 273.
    assert!(cell(&sheet, "C2").ends_with("<v>46295</v>"), "{sheet}");
    assert!(cell(&sheet, "D2").ends_with("<v>61</v>"), "{sheet}");
    assert!(
        cell(&sheet, "E2").ends_with("<v>1250.5</v>") && cell(&sheet, "E3").ends_with("<v>-0.05</v>"),
        "{sheet}"
    );
    // A day before the one that never was has no number, and stays a text.
    assert!(cell(&sheet, "C3").contains("1900-02-28") && cell(&sheet, "C3").contains("inlineStr"), "{sheet}");
    assert!(cell(&sheet, "A2").contains("inlineStr") && cell(&sheet, "A2").contains(">=1+1<"), "{sheet}");
    assert!(sheet.contains("state=\"frozen\"") && sheet.contains("<cols>"), "{sheet}");
    // It filters, and on paper each page has the header and all columns.
    assert!(sheet.contains("<autoFilter ref=\"A1:"), "{sheet}");
    assert!(sheet.contains("fitToWidth") || sheet.contains("<pageSetUpPr fitToPage=\"1\"/>"), "{sheet}");
    let book = part(&desk, "rows.xlsx", "xl/workbook.xml");
    assert!(book.contains("_xlnm.Print_Titles") && book.contains("Rows!$1:$1"), "{book}");
    let styles = part(&desk, "rows.xlsx", "xl/styles.xml");
    assert!(
        styles.contains("yyyy-mm-dd") && styles.contains("formatCode=\"#,##0.00\"")
            || styles.contains("numFmtId=\"4\""),
        "{styles}"
    );
    assert!(!answer.out.contains("apostrophe"), "{}", answer.out);
}

#[test]
fn rows_come_back_from_a_workbook_as_they_were_written() {
    let desk = Desk::with_records(RECORDS);
    let plain = writing(&desk, "rows.csv", "exceptions.csv");
    assert_eq!(plain.code, 0, "{}", plain.err);
    assert_eq!(writing(&desk, "rows.xlsx", "exceptions.xlsx").code, 0);
    let again = r#"plan = 1
[records]
file = "rows.xlsx"
[records.amounts]
Amount = { decimals = 2 }
[records.numbers]
Days = { decimals = 0 }
[output]
rows = "again.csv"
"#;
    desk.write("again.toml", again);
    let answer = desk.mild(&["run", "again.toml"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(desk.read("again.csv"), desk.read("rows.csv"));
    // The same rows make the same bytes.
    let before = std::fs::read(desk.path("rows.xlsx")).unwrap();
    assert_eq!(writing(&desk, "rows.xlsx", "exceptions.xlsx").code, 0);
    assert_eq!(std::fs::read(desk.path("rows.xlsx")).unwrap(), before);
}

#[test]
fn what_a_workbook_cannot_hold_is_a_text_or_an_error() {
    let long = "x".repeat(32_768);
    let desk =
        Desk::with_records(format!("Invoice,Customer,Issued,Paid,Amount\nA1,{long},30/09/2026,,1.00\n"));
    let answer = writing(&desk, "rows.xlsx", "exceptions.csv");
    assert_eq!(answer.code, 3);
    assert!(
        answer.err.contains("row 1 has a text of 32768 characters, and a cell of a sheet holds 32767"),
        "{}",
        answer.err
    );
    assert_eq!(desk.files(), ["plan.toml", "records.csv"]);
    desk.write("records.csv", "Invoice,Customer,Issued,Paid,Amount\nA1,x,30/09/2026,,12345678901234.56\nA2,x,30/09/2026,,1234567890123.45\n");
    let answer = writing(&desk, "rows.xlsx", "exceptions.csv");
    assert_eq!(answer.code, 0, "{}", answer.err);
    let sheet = part(&desk, "rows.xlsx", "xl/worksheets/sheet1.xml");
    assert!(
        cell(&sheet, "E2").contains("inlineStr") && cell(&sheet, "E2").contains("12345678901234.56"),
        "{sheet}"
    );
    assert!(cell(&sheet, "E3").ends_with("<v>1234567890123.45</v>"), "{sheet}");
    for name in ["rows.ods", "rows.xlsm", "rows.xls", "rows.zip"] {
        let answer = writing(&desk, name, "exceptions.csv");
        assert!(
            answer.code == 2 && answer.err.contains("which this version does not write"),
            "{name}: {}",
            answer.err
        );
    }
}

#[test]
fn rows_of_nothing_are_rows() {
    let desk = Desk::with_records(
        "Invoice,Customer,Issued,Paid,Amount\nA1,x,30/09/2026,,1.00\nA2,x,30/09/2026,30/09/2026,1.00\nA3,x,30/09/2026,,1.00\n",
    );
    let plan = PLAN.replace("\"rows.csv\"", "\"rows.xlsx\"\ncolumns = [\"Paid\"]");
    desk.write("plan.toml", plan);
    let answer = desk.run_plan();
    assert!(
        answer.code == 0 && answer.out.contains("3 rows read, 3 written"),
        "{}{}",
        answer.out,
        answer.err
    );
}
