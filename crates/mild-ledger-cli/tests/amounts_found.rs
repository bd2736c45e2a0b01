//! Which columns of a file are amounts, and what commands without a plan do with them.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use serde_json::{Value, json};
use support::{Answer, Desk};

/// A file of two columns, and what looking at it says of the first.
fn kind_of(values: &[&str]) -> (String, Value) {
    let desk = Desk::new();
    let rows: String = values.iter().map(|value| format!("\"{value}\",x\n")).collect();
    desk.write("records.csv", format!("Ref,Other\n{rows}"));
    let object = desk.mild(&["look", "records.csv", "--json"]).json();
    let column = object["columns"][0].clone();
    (column["kind"].as_str().unwrap().to_owned(), column)
}

fn numbered(before: &str, after: &str, count: usize) -> Vec<String> {
    (1..=count).map(|nth| format!("{before}{nth}{after}")).collect()
}

#[test]
fn codes_are_no_amounts() {
    for (before, after) in [
        ("C", ""),
        ("D", ""),
        ("CR", ""),
        ("Dr1", ""),
        ("INV-", ""),
        ("INV10", ""),
        ("ABC-", ""),
        ("CRN-", ""),
        ("CAD", ""),
        ("EUR ", ""),
        ("TOP-", ""),
        ("", "C"),
        ("", "DR"),
    ] {
        let mut values = numbered(before, after, 20);
        let seventh = values[6].clone();
        values[19] = seventh;
        let values: Vec<&str> = values.iter().map(String::as_str).collect();
        assert_eq!(kind_of(&values).0, "text", "{before}1{after}");
    }
    // Berths on both sides of a pier are not credits and debits.
    assert_eq!(kind_of(&["1C", "1D", "2C", "2D", "3C"]).0, "text");
}

#[test]
fn money_is_found_by_its_decimals_currencies_and_marks() {
    for values in [
        &["10 CR", "12 DR", "9 CR"][..],
        &["10.50 CR", "12.00 CR"],
        &["10 C", "12.50"],
        &["EUR 10.50", "EUR 12.00", "EUR 9.00"],
        &["$10", "$12", "$9"],
        &["EUR 10", "EUR 10", "EUR 12", "EUR 10"],
    ] {
        assert_eq!(kind_of(values).0, "amount", "{values:?}");
    }
    let (_, column) = kind_of(&["10", "12", "9", "8", "7", "5 C"]);
    assert_eq!((&column["failed"], &column["failures"][0]["text"]), (&json!(1), &json!("5 C")), "{column}");
}

#[test]
fn an_invoice_that_comes_twice_is_not_counted_twice() {
    for code in ["C", "INV-"] {
        let desk = Desk::new();
        let mut rows: String =
            (1..=20).map(|nth| format!("{code}{nth},2026-01-{nth:02},{}.50\n", nth * 10)).collect();
        rows += &format!("{code}7,2026-01-07,70.50\n");
        desk.write("records.csv", format!("Invoice,Issued,Amount\n{rows}"));
        let aging =
            ["aging", "records.csv", "--amount", "Amount", "--issued", "Issued", "--as-of", "2026-03-31"];
        let asked = desk.mild(&aging);
        assert_eq!(asked.code, 2, "{}", asked.out);
        assert!(asked.err.contains("rows 7 and 21"), "{}", asked.err);
        let object = desk.mild(&[&aging[..], &["--duplicates", "set aside", "--json"]].concat()).json();
        assert_eq!(object["reports"][0]["total"]["total"], json!("2110.00"), "{code}");
        let plan = desk.mild(&["look", "records.csv", "--plan"]).out;
        assert!(!plan.contains("Invoice = {"), "{plan}");
    }
}

fn aging(desk: &Desk, file: &str, more: &[&str]) -> Answer {
    desk.mild(
        &[
            &["aging", file, "--amount", "Amount", "--issued", "Issued", "--as-of", "2026-03-31", "--json"],
            more,
        ]
        .concat(),
    )
}

#[test]
fn whole_numbers_that_an_option_names_are_amounts() {
    let desk = Desk::new();
    desk.write("a.csv", "Invoice,Issued,Amount\nA,2026-01-02,10\nB,2026-01-03,25\nC,2026-01-04,40\n");
    desk.write(
        "a.jsonl",
        "{\"Invoice\":\"A\",\"Issued\":\"2026-01-02\",\"Amount\":10}\n{\"Invoice\":\"B\",\"Issued\":\"2026-01-03\",\"Amount\":25}\n{\"Invoice\":\"C\",\"Issued\":\"2026-01-04\",\"Amount\":40}\n",
    );
    let plan = "plan = 1\n[records]\nfile = \"a.csv\"\n[records.dates]\nIssued = \"iso\"\n[records.amounts]\nAmount = { decimals = 0 }\n[output]\nrows = \"a.xlsx\"\n";
    desk.write("book.toml", plan);
    assert_eq!(desk.mild(&["run", "book.toml"]).code, 0);
    for file in ["a.csv", "a.jsonl", "a.xlsx"] {
        let object = aging(&desk, file, &[]).json();
        assert_eq!(object["reports"][0]["total"]["total"], json!("75.00"), "{file}");
        let sums = ["--sum", "Amount", "--mean", "Amount", "--median", "Amount", "--json"];
        let object = desk.mild(&[&["summary", file, "--by", "Issued"], &sums[..]].concat()).json();
        assert_eq!(object["reports"][0]["tables"][0]["total"][2], json!("75.00"), "{file}: {object}");
        let plan = desk.mild(&["look", file, "--plan"]).out;
        assert!(plan.contains("[records.amounts]\nAmount = { decimals = 2 }\n"), "{plan}");
    }
    // Whole numbers that are not money have no decimals, and next to a key they are numbers of the plan.
    desk.write("b.csv", "Job,Visits\nA,3\nB,4\nC,5\n");
    let object = desk.mild(&["summary", "b.csv", "--by", "Job", "--sum", "Visits", "--json"]).json();
    assert_eq!(object["reports"][0]["tables"][0]["total"][2], json!("12"), "{object}");
    assert!(
        desk.mild(&["look", "b.csv", "--plan"])
            .out
            .contains("[records.numbers]\nVisits = { decimals = 0 }\n")
    );
}

#[test]
fn what_is_no_amount_is_refused_in_its_own_words() {
    let desk = Desk::new();
    desk.write(
        "a.csv",
        "Invoice,Issued,Amount,Note,Both,Marks\nA,2026-01-02,\"1,250\",x,EUR 1.50,1.00 CR\nB,2026-01-03,980,y,NOK 2.50,2.00 DR\nC,2026-01-04,\"2,100\",,EUR 3.50,3.00 DR\n",
    );
    for (column, what) in [
        (
            "Amount",
            "the amounts of \"Amount\" may be written 1,234.56 or 1234,56: 1,250 in row 1 could be either",
        ),
        ("Note", "\"Note\" holds texts, not amounts"),
        ("Issued", "\"Issued\" holds dates, not amounts"),
        ("Both", "\"Both\" holds amounts of several currencies: EUR, NOK"),
        ("Marks", "\"Marks\" has CR or DR after its amounts"),
    ] {
        let answer = desk.mild(&["summary", "a.csv", "--by", "Invoice", "--sum", column]);
        assert_eq!(answer.code, 2, "{}", answer.out);
        assert!(answer.err.contains(what) && !answer.err.contains("arguments.toml"), "{}", answer.err);
    }
    // The reading that makes thousandths of money comes last, and neither is chosen.
    let plan = desk.mild(&["look", "a.csv", "--plan"]).out;
    let first = plan.find("# Amount = { decimals = 0, thousands = \"comma\" }").unwrap();
    let last = plan.find("# Amount = { decimals = 3, decimal_mark = \"comma\" }").unwrap();
    assert!(first < last && !plan.contains("\nAmount = "), "{plan}");
}

#[test]
fn currencies_are_never_added() {
    let desk = Desk::new();
    desk.write(
        "a.csv",
        "Invoice,Issued,Amount,Currency\nA,2026-01-02,10.50,EUR\nB,2026-01-03,25.00,NOK\nC,2026-01-04,40.00,EUR\n",
    );
    let totals = |object: &Value| {
        let report = object["reports"][0].to_string();
        (report.contains("50.50"), report.contains("75.50"))
    };
    let object = aging(&desk, "a.csv", &[]).json();
    assert_eq!(totals(&object), (true, false), "{object}");
    for by in ["Invoice", "Currency"] {
        let object = desk.mild(&["summary", "a.csv", "--by", by, "--sum", "Amount", "--json"]).json();
        assert_eq!(totals(&object), (true, false), "{object}");
    }
    assert!(
        desk.mild(&["look", "a.csv", "--plan"])
            .out
            .contains("Amount = { decimals = 2, currency = \"Currency\" }")
    );
    assert!(desk.mild(&["look", "a.csv"]).out.contains("codes of currencies"));
    // A column of other words for them is named.
    desk.write("b.csv", desk.read("a.csv").replace("EUR", "euros").replace("NOK", "crowns"));
    assert_eq!(totals(&aging(&desk, "b.csv", &[]).json()), (false, true));
    assert_eq!(totals(&aging(&desk, "b.csv", &["--currency", "Currency"]).json()), (true, false));
}

#[test]
fn repeats_without_a_key_are_refused() {
    let desk = Desk::new();
    desk.write(
        "a.csv",
        "Customer,Issued,Amount\nAsh,2026-01-02,10.50\nAsh,2026-01-02,10.50\nElm,2026-01-02,10.50\n",
    );
    let answer = aging(&desk, "a.csv", &["--duplicates", "set aside"]);
    assert_eq!(answer.code, 2, "{}", answer.out);
    assert!(
        answer.err.contains("no column of the file is a key") && answer.err.contains("--key COLUMN"),
        "{}",
        answer.err
    );
    let named = ["--key", "Customer", "--key", "Issued", "--duplicates", "set aside"];
    let object = aging(&desk, "a.csv", &named).json();
    assert_eq!(object["reports"][0]["total"]["total"], json!("21.00"), "{object}");
}

#[test]
fn a_column_of_dates_without_a_value_yet_is_one() {
    let desk = Desk::new();
    desk.write("a.csv", "Invoice,Issued,Paid,Amount\nA,2026-01-02,,10.50\nB,2026-01-03,,25.00\n");
    let object = aging(&desk, "a.csv", &["--paid", "Paid"]).json();
    assert_eq!(object["reports"][0]["total"]["total"], json!("35.50"), "{object}");
}

#[test]
fn edges_above_zero_leave_a_bucket_for_what_is_not_yet_due() {
    let desk = Desk::new();
    desk.write("a.csv", "Invoice,Issued,Amount\nA,2026-03-30,10.50\nB,2026-01-03,25.00\n");
    let answer = aging(&desk, "a.csv", &["--edges", "30,60,90"]);
    assert!(answer.err.contains("an edge of 0 was added"), "{}", answer.err);
    let report = &answer.json()["reports"][0];
    assert_eq!(
        (&report["buckets"][0], &report["total"]["amounts"][0]),
        (&json!("Not yet due"), &json!("10.50"))
    );
}

#[test]
fn no_group_of_thousands_begins_an_amount_with_zero() {
    for (value, key) in [
        ("0,123", "comma"),
        ("00,123", "comma"),
        ("000,001", "comma"),
        ("0,123,456", "comma"),
        ("0.250", "point"),
    ] {
        let desk = Desk::new();
        let mark = if key == "point" { ", decimal_mark = \"comma\"" } else { "" };
        let plan = format!(
            "plan = 1\n[records]\nfile = \"a.csv\"\n[records.amounts]\nAmount = {{ decimals = 3, thousands = \"{key}\"{mark} }}\n[output]\nrows = \"rows.csv\"\n"
        );
        desk.write("plan.toml", plan);
        desk.write("a.csv", format!("Amount\n\"{value}\"\n"));
        let object = desk.mild(&["run", "plan.toml", "--json"]).json();
        assert_eq!(object["rows"]["set_aside"], json!(1), "{value}");
        assert!(
            desk.read("plan-exceptions.csv").contains("no group of thousands begins an amount with a zero")
        );
    }
    let (kind, column) = kind_of(&["0.250", "0.500", "0.125", "1.500"]);
    assert_eq!(
        (kind.as_str(), &column["verdict"], &column["decimals"]),
        ("amount", &json!("found"), &json!(3))
    );
}
