//! Reports of kind "list": what is printed, its JSON, and the mistakes of plans that ask for one.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::{Value, json};
use support::{Desk, OWED, desk_with_report};

/// A plan with a list in place of its aging.
fn desk(list: &str) -> Desk {
    let desk = desk_with_report(&format!("kind = \"list\"\n{list}\n"));
    // Nothing of a name steers the terminal.
    desk.write("records.csv", OWED.replace("=Ferry", "=Ferry\u{7}"));
    desk
}

#[test]
fn under_the_heads_of_groups() {
    let list = "title = \"Open, as of {as_of}\"\ncolumns = [\"Invoice\", \"Issued\", \"Days\", \"Amount\"]\nby = \"Customer\"\norder = \"Days, largest first\"\nsum = \"Amount\"";
    let answer = desk(list).run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_snapshot!(answer.out);
}

#[test]
fn the_oldest_two() {
    let answer = desk("title = \"The oldest two\"\ncolumns = [\"Invoice\", \"Customer\", \"Issued\", \"Amount\"]\norder = \"Issued\"\nfirst = 2\nsum = \"Amount\"").run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_snapshot!(answer.out);
}

#[test]
fn the_newest_of_each_customer() {
    let answer =
        desk("columns = [\"Invoice\", \"Issued\"]\nby = \"Customer\"\norder = \"Issued, newest first\"\nfirst_of_each = 1")
            .run_plan();
    let rows: Vec<String> = answer
        .out
        .lines()
        .skip_while(|line| !line.starts_with("Customer"))
        .skip(2)
        .take(3)
        .map(|line| line.split_whitespace().collect::<Vec<_>>().join(" "))
        .collect();
    // Counted by hand: of Heron's three the one of September, of Cordage's the one of August; the ferry's has no date.
    assert_eq!(rows, ["=Ferry\\u{7} A5", "Cordage & Co. A3 2026-08-30", "Heron Charters A1 2026-09-30"]);
}

#[test]
fn the_json_has_every_row_and_where_its_sums_stand() {
    let desk =
        desk("columns = [\"Invoice\", \"Amount\"]\nby = \"Customer\"\nfirst_of_each = 1\nsum = \"Amount\"");
    let answer = desk.mild(&["run", "plan.toml", "--json"]);
    let object: Value = serde_json::from_str(&answer.out).unwrap();
    let report = &object["reports"][0];
    let table = &report["tables"][0];
    assert_eq!(table["columns"], json!(["Customer", "Invoice", "Amount"]));
    assert_eq!(
        table["rows"],
        json!([
            ["=Ferry\u{7}", "A5", "3.00"],
            ["Cordage & Co.", "A3", "70.00"],
            ["Heron Charters", "A1", "100.00"]
        ])
    );
    assert_eq!(
        table["sums"],
        json!([
            {"behind": 1, "of": "group", "cells": ["=Ferry\u{7}: 1 row", null, "3.00"]},
            {"behind": 2, "of": "left out", "cells": ["… and 1 more", null, "9.75"]},
            {"behind": 2, "of": "group", "cells": ["Cordage & Co.: 2 rows", null, "79.75"]},
            {"behind": 3, "of": "left out", "cells": ["… and 2 more", null, "30.25"]},
            {"behind": 3, "of": "group", "cells": ["Heron Charters: 3 rows", null, "130.25"]},
        ])
    );
    assert_eq!(
        report["proof"],
        json!([
            {"of": "rows", "whole": "written", "value": 6, "parts": [{"name": "listed", "value": 3}, {"name": "not listed", "value": 3}]},
            {"of": "Amount", "whole": "written", "value": "213.00", "parts": [{"name": "listed", "value": "173.00"}, {"name": "not listed", "value": "40.00"}]},
        ])
    );
    assert_eq!(
        object["answer"]
            .as_str()
            .map(|answer| answer.starts_with("3 of 6 rows listed, Amount 213.00 in all; ")),
        Some(true),
        "{}",
        object["answer"]
    );
}

#[test]
fn mistakes_are_told() {
    for (name, list) in [
        ("a_column_that_there_is_not", "columns = [\"Invoise\"]"),
        ("an_order_by_no_such_end", "order = \"Days, descending\""),
        ("a_sum_of_what_is_not_listed", "columns = [\"Invoice\"]\nsum = \"Amount\""),
        ("a_sum_of_the_first_column", "columns = [\"Amount\"]\nsum = \"Amount\""),
        ("a_sum_of_texts_in_a_list", "columns = [\"Invoice\", \"Customer\"]\nsum = \"Customer\""),
        ("the_first_of_no_groups", "first_of_each = 1"),
        ("the_first_of_all_and_of_each", "by = \"Customer\"\nfirst = 10\nfirst_of_each = 1"),
        ("the_first_none", "first = 0"),
        ("conditions_on_no_column", "when = [{ column = \"Payed\", blank = true }]"),
        ("no_conditions", "when = []"),
    ] {
        let answer = desk(list).run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}

#[test]
fn a_report_of_some_rows_has_the_others_in_its_proof() {
    let list = "columns = [\"Invoice\", \"Amount\"]\nsum = \"Amount\"\nwhen = [{ column = \"Paid\", blank = true }, { column = \"Amount\", over = 5 }]";
    let desk = desk(list);
    let answer = desk.mild(&["run", "plan.toml", "--json"]);
    let object: Value = serde_json::from_str(&answer.out).unwrap();
    let report = &object["reports"][0];
    assert_eq!(report["tables"][0]["rows"], json!([["A1", "100.00"], ["A2", "50.25"], ["A4", "9.75"]]));
    assert_eq!(
        report["proof"],
        json!([
            {"of": "rows", "whole": "written", "value": 6, "parts": [
                {"name": "listed", "value": 3}, {"name": "not listed", "value": 0}, {"name": "left out by its conditions", "value": 3}]},
            {"of": "Amount", "whole": "written", "value": "213.00", "parts": [
                {"name": "listed", "value": "160.00"}, {"name": "not listed", "value": "0.00"}, {"name": "left out by its conditions", "value": "53.00"}]},
        ])
    );
    assert_eq!(report["explanation"][0], json!("Only rows with Paid blank, and Amount over 5."));
    let words = "3 rows are left out of \"List\" by its conditions";
    assert!(report["notes"].as_array().unwrap().contains(&json!(words)), "{}", report["notes"]);
}

#[test]
fn other_kinds_and_currencies_may_be_of_some_rows_too() {
    let report = "kind = \"summary\"\nby = [\"Customer\"]\nshow = [\"count\", { sum = \"Amount\" }]\nwhen = [{ column = \"Days\", at_least = 30 }]\n\n[[report]]\nkind = \"aging\"\nband = \"Band\"\namount = \"Amount\"\nwhen = [{ column = \"Customer\", is = \"Heron\" }]\n";
    let desk = desk_with_report(report);
    desk.write(
        "plan.toml",
        desk.read("plan.toml").replace("{ decimals = 2 }", "{ decimals = 2, currency = \"Currency\" }"),
    );
    desk.write("records.csv", "Invoice,Customer,Issued,Paid,Amount,Currency\nA1,Heron,30/09/2026,,100.00,EUR\nA2,Heron,31/08/2026,,50.25,GBP\nA3,Ferry,01/06/2026,,9.75,GBP\n");
    let answer = desk.mild(&["run", "plan.toml", "--json"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    let object: Value = serde_json::from_str(&answer.out).unwrap();
    let tables = |nth: usize| -> Vec<Value> {
        let tables = object["reports"][nth]["tables"].as_array().unwrap();
        tables.iter().map(|table| table["rows"].clone()).collect()
    };
    assert_eq!(tables(0), [json!([]), json!([["Ferry", 1, "9.75"], ["Heron", 1, "50.25"]])]);
    assert_eq!(
        tables(1),
        [
            json!([["100.00", "0.00", "0.00", "0.00", "0.00", "0.00", "100.00"]]),
            json!([["0.00", "50.25", "0.00", "0.00", "0.00", "0.00", "50.25"]])
        ]
    );
    let left_out = |nth: usize| -> Vec<Value> {
        let lines = object["reports"][nth]["proof"].as_array().unwrap();
        let last = |line: &Value| line["parts"].as_array().unwrap().last().unwrap()["value"].clone();
        lines.iter().map(last).collect()
    };
    assert_eq!(left_out(0), [json!(1), json!("100.00"), json!("0.00")]);
    assert!(left_out(1).contains(&json!("9.75")) && left_out(1).contains(&json!(1)), "{:?}", left_out(1));
}

#[test]
fn a_list_without_columns_of_its_own_shows_what_is_written() {
    // Another report looks at the same rows from an earlier date, which makes a column of each figure again.
    let more = "kind = \"list\"\n\n[[report]]\nkind = \"aging\"\nband = \"Band\"\namount = \"Amount\"\nissued = \"Issued\"\nat = [2026-06-30]\n\n[[report]]\nkind = \"tenure\"\nstart = \"Issued\"\ncount = \"fractional years\"\n";
    let desk = desk_with_report(more);
    let columns = |desk: &Desk| {
        let answer = desk.mild(&["run", "plan.toml", "--overwrite", "--json"]);
        let report = answer.json()["reports"][0].clone();
        let cells = report["tables"][0]["columns"].as_array().unwrap().clone();
        cells.iter().map(|cell| cell.as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert_eq!(columns(&desk), ["Invoice", "Customer", "Issued", "Paid", "Amount", "Days", "Band"]);
    let plan = desk.read("plan.toml");
    desk.write(
        "plan.toml",
        plan.replace("[output]\n", "[output]\ncolumns = [\"Invoice\", \"Band\", \"Amount\"]\n"),
    );
    assert_eq!(columns(&desk), ["Invoice", "Band", "Amount"]);
}

#[test]
fn years_and_numbers_of_documents_have_no_marks_between_their_thousands() {
    let desk = Desk::new();
    desk.write("records.csv", "Boat,Built,Berth\nHeron,1999,10250\nTern,2004,10251\n");
    desk.write(
        "plan.toml",
        "plan = 1\n[records]\nfile = \"records.csv\"\n[records.numbers]\nBuilt = { decimals = 0 }\nBerth = { decimals = 0 }\n[[column]]\nname = \"Older\"\nsum = [\"Built\", 1]\n[[report]]\nkind = \"list\"\n[[report]]\nkind = \"summary\"\nby = \"Boat\"\nshow = [{ largest = \"Built\" }]\n[output]\nrows = \"rows.csv\"\nreport = \"page.html\"\n",
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("page.html");
    for text in [&answer.out, &page] {
        assert!(text.contains("1999") && text.contains("10250"), "{text}");
        assert!(!text.contains("1,999") && !text.contains("10,250") && !text.contains("2,004"), "{text}");
    }
    let look = desk.mild(&["look", "records.csv"]).out;
    assert!(look.contains("from 1999 to 2004") && look.contains("from 10250 to 10251"), "{look}");
}
