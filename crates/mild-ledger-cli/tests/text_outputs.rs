//! Rows written for colleagues abroad: another separator, a decimal comma, dates of another form.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use support::{Answer, Desk, PLAN, RECORDS};

fn writing(desk: &Desk, rows: &str, said: &str) -> Answer {
    desk.write("plan.toml", PLAN.replace("\"rows.csv\"", &format!("\"{rows}\"\n{said}")));
    desk.mild(&["run", "plan.toml", "--overwrite"])
}

const ABROAD: &str =
    "separator = \";\"\ndecimal_mark = \"comma\"\ndates_as = \"day.month.year\"\nbyte_order_mark = true";

#[test]
fn a_file_for_colleagues_abroad_is_read_back_and_proved() {
    let desk = Desk::with_records(
        RECORDS
            .replace("Cordage & Co.", "Cordage; & Co., Ltd")
            .replace("Cordage; & Co., Ltd,", "\"Cordage; & Co., Ltd\","),
    );
    let answer = writing(&desk, "rows.csv", ABROAD);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.out.contains("agree in the finished files. "), "{}", answer.out);
    assert_eq!(
        desk.read("rows.csv"),
        "\u{feff}Invoice;Customer;Issued;Paid;Amount;Days;Band\n\
         A1;Heron Charters;30.09.2026;;100,00;0;Not yet due\n\
         A2;Heron Charters;31.08.2026;;50,25;30;1–30\n\
         A3;\"Cordage; & Co., Ltd\";30.08.2026;01.09.2026;70,00;31;31–60\n\
         A4;\"Cordage; & Co., Ltd\";01.08.2026;;9,75;60;31–60\n"
    );
    assert!(
        desk.read("exceptions.csv").starts_with("\u{feff}source;row;line;key;"),
        "{}",
        desk.read("exceptions.csv")
    );
    // It is read back as it was written.
    desk.write(
        "back.toml",
        "plan = 1\n[records]\nfile = \"rows.csv\"\nseparator = \";\"\n[records.dates]\nIssued = \"day.month.year\"\nPaid = \"day.month.year\"\n\
         [records.amounts]\nAmount = { decimals = 2, decimal_mark = \"comma\" }\n[output]\nrows = \"back.csv\"\n",
    );
    assert_eq!(desk.mild(&["run", "back.toml"]).code, 0);
    assert!(writing(&desk, "rows.csv", "").code == 0);
    assert_eq!(desk.read("back.csv"), desk.read("rows.csv"));
}

#[test]
fn times_stand_behind_dates_of_another_form() {
    let desk = Desk::with_records("Invoice,Customer,Issued,Paid,Amount\nA1,x,30/09/2026 14:30,,1.00\n");
    desk.write(
        "plan.toml",
        PLAN.replace(
            "Issued = \"day/month/year\"",
            "Issued = { pattern = \"day/month/year\", time = \"keep\" }",
        )
        .replace("\"rows.csv\"", "\"rows.jsonl\"\ndates_as = \"month/day/year\""),
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(
        desk.read("rows.jsonl").contains("\"Issued\":\"09/30/2026 14:30:00\""),
        "{}",
        desk.read("rows.jsonl")
    );
}

#[test]
fn what_cannot_be_or_nobody_would_heed_is_a_mistake() {
    let desk = Desk::with_records(RECORDS);
    for (rows, said, error) in [
        (
            "rows.csv",
            "separator = \",\"\ndecimal_mark = \"comma\"",
            "a comma cannot be both the decimal mark and the separator",
        ),
        ("rows.csv", "separator = \"a\"", "cannot be between cells"),
        ("rows.csv", "separator = '\"'", "cells are quoted with this character"),
        ("rows.csv", "dates_as = \"day/month\"", "the year is missing"),
        (
            "rows.csv",
            "dates_as = \"day/month/short-year (years 1950 to 2049)\"",
            "dates are not written day/month/short-year",
        ),
        ("rows.csv", "dates_as = \"day month-name year\"", "dates are not written day month-name year"),
        (
            "rows.jsonl",
            "separator = \";\"",
            "separator is set for rows.jsonl, which is written as JSON Lines",
        ),
        (
            "rows.xlsx",
            "byte_order_mark = true",
            "byte_order_mark is set for rows.xlsx, which is written as workbook",
        ),
    ] {
        let answer = writing(&desk, rows, said);
        assert_eq!(answer.code, 2, "{said}");
        assert!(answer.err.contains(error), "{said}: {}", answer.err);
    }
    assert_eq!(desk.files(), ["plan.toml", "records.csv"]);
}

#[test]
fn a_report_has_the_decimal_comma_though_its_rows_are_a_workbook() {
    let desk = Desk::with_records(RECORDS);
    let plan = PLAN.replace(
        "\"rows.csv\"",
        "\"rows.xlsx\"\nreport = \"page.html\"\ndecimal_mark = \"comma\"\ndates_as = \"day.month.year\"",
    );
    desk.write("plan.toml", plan.replacen("title = \"Aging\"", "title = \"On {as_of}\"", 1));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("page.html");
    assert!(page.contains("<h1>On 30.09.2026</h1>"), "{page}");
    let (report, _) = page.split_once("How each column is worked out").unwrap_or((&page, ""));
    assert!(!report.contains("2026-09-30"), "{report}");
    // The decimal comma brings the semicolon of the exceptions.
    assert!(desk.read("exceptions.csv").starts_with("source;row;"), "{}", desk.read("exceptions.csv"));
    // The rows are proved as the workbook has them.
    assert_eq!(desk.mild(&["verify", "plan.receipt.toml", "--again"]).code, 0);
    // Without a report nothing has the comma.
    desk.write("plan.toml", PLAN.replace("\"rows.csv\"", "\"rows.xlsx\"\ndecimal_mark = \"comma\""));
    let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert!(
        answer.err.contains("decimal_mark is set for rows.xlsx, which is written as workbook"),
        "{}",
        answer.err
    );
}
