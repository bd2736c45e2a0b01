//! Reports as files of their own.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use support::{Desk, OWED};

const KIND: &str = "kind   = \"aging\"";

fn desk_with(from: &str, to: &str) -> Desk {
    let desk = Desk::with_plan(from, to);
    desk.write("records.csv", OWED);
    desk
}

#[test]
fn an_aging_as_a_file() {
    let desk = desk_with(KIND, &format!("{KIND}\nfile = \"aging-{{as_of}}.csv\""));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    // As the table has it, without its total: buckets in the order of their edges, empty ones too; no text is run as a formula.
    assert_eq!(
        desk.read("aging-2026-09-30.csv"),
        "Customer,Not yet due,1–30,31–60,Over 60,No date,Credits,Total\n\
         Heron Charters,100.00,50.25,0.00,0.00,0.00,-20.00,130.25\n\
         Cordage & Co.,0.00,0.00,0.00,9.75,0.00,0.00,9.75\n\
         '=Ferry,0.00,0.00,0.00,0.00,3.00,0.00,3.00\n"
    );
    let receipt: toml::Table = desk.read("plan.receipt.toml").parse().unwrap();
    let outputs = receipt["run"][0]["output"].as_array().unwrap();
    let names: Vec<&str> = outputs.iter().map(|output| output["file"].as_str().unwrap()).collect();
    assert_eq!(names, ["rows.csv", "exceptions.csv", "aging-2026-09-30.csv"]);
    assert_eq!(outputs[2]["rows"].as_integer(), Some(3));
    // Run again: it is known as an output of this plan. Changed by hand it is kept.
    assert_eq!(desk.run_plan().code, 0);
    desk.write("aging-2026-09-30.csv", "mine\n");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 3, "{}", answer.err);
    assert!(answer.err.contains("was changed after this plan wrote it"), "{}", answer.err);
    assert_eq!(desk.read("aging-2026-09-30.csv"), "mine\n");
}

#[test]
fn a_list_as_a_file_of_typed_cells() {
    let list = "[[report]]\nkind = \"list\"\nfile = \"list.jsonl\"\nby = \"Customer\"\ncolumns = [\"Invoice\", \"Customer\", \"Issued\", \"Days\", \"Amount\"]\norder = \"Amount\"\nfirst = 3\nsum = \"Amount\"\n\n[output]";
    let desk = desk_with("[output]", list);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let rows = desk.read("list.jsonl");
    // A date and a number that could not be read are nothing, not texts among dates and numbers.
    assert_eq!(
        rows,
        "{\"Customer\":\"=Ferry\",\"Invoice\":\"A5\",\"Customer (2)\":\"=Ferry\",\"Issued\":null,\"Days\":null,\"Amount\":3.00}\n\
         {\"Customer\":\"Cordage & Co.\",\"Invoice\":\"A4\",\"Customer (2)\":\"Cordage & Co.\",\"Issued\":\"2026-06-01\",\"Days\":121,\"Amount\":9.75}\n\
         {\"Customer\":\"Heron Charters\",\"Invoice\":\"A6\",\"Customer (2)\":\"Heron Charters\",\"Issued\":null,\"Days\":null,\"Amount\":-20.00}\n"
    );
}

#[test]
fn currencies_stand_below_each_other() {
    let desk = desk_with("Amount = { decimals = 2 }", "Amount = { decimals = 2, currency = \"Currency\" }");
    desk.write("records.csv", "Invoice,Customer,Issued,Paid,Amount,Currency\nA1,Heron,30/09/2026,,100.00,EUR\nA2,Heron,31/08/2026,,50.25,GBP\n");
    desk.write("plan.toml", desk.read("plan.toml").replace(KIND, &format!("{KIND}\nfile = \"aging.csv\"")));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(
        desk.read("aging.csv"),
        "currency,Customer,Not yet due,1–30,31–60,Over 60,No date,Credits,Total\n\
         EUR,Heron,100.00,0.00,0.00,0.00,0.00,0.00,100.00\nGBP,Heron,0.00,50.25,0.00,0.00,0.00,0.00,50.25\n"
    );
}

#[test]
fn a_report_goes_to_its_file_while_the_rows_go_to_standard_output() {
    let desk = desk_with(KIND, &format!("{KIND}\nfile = \"aging.csv\""));
    // The option leaves no file.
    let before = desk.files();
    let answer = desk.mild(&["run", "plan.toml", "--stdout"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(desk.files(), before);
    desk.write("plan.toml", desk.read("plan.toml").replace("\"rows.csv\"", "\"-\""));
    let answer = desk.run_plan();
    assert!(answer.out.starts_with("Invoice,Customer,"), "{}", answer.out);
    assert_eq!(desk.read("aging.csv").lines().count(), 4);
    assert!(!desk.path("rows.csv").exists());
}

#[test]
fn files_that_cannot_be_are_told() {
    for (name, file) in [
        ("a_report_over_the_rows", "rows.csv"),
        ("a_report_over_the_records", "records.csv"),
        ("a_report_to_standard_output", "-"),
        ("a_report_of_a_format_that_is_not_written", "aging.pdf"),
        ("a_report_with_a_field_that_is_not_known", "aging-{month}.csv"),
    ] {
        let desk = desk_with(KIND, &format!("{KIND}\nfile = \"{file}\""));
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.err);
        assert_snapshot!(name, answer.err);
        assert_eq!(desk.read("records.csv"), OWED);
    }
}

#[test]
fn nothing_appears_where_the_report_cannot_be_written() {
    let desk = desk_with(KIND, &format!("{KIND}\nfile = \"there/is/none/aging.csv\""));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 3, "{}", answer.err);
    assert!(!desk.path("rows.csv").exists() && !desk.path("plan.receipt.toml").exists());
}
