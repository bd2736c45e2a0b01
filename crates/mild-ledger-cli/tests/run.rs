//! Plans over records that no one here wrote: right rows, right sums, right lines.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::{Value, json};
use support::{Desk, PLAN, RECORDS};

fn rows(json: &Value) -> [u64; 5] {
    ["read", "written", "set_aside", "merged", "not_selected"].map(|key| json["rows"][key].as_u64().unwrap())
}

const STRANGE_PLAN: &str = r#"plan = 1
as_of = "2026-09-30"
[records]
file = "strange.csv"
key = ["Inv. No.", "Line \"no\""]
[records.dates]
"Date, issued" = "%d.%m.%Y"
"Paid on" = "iso"
[records.amounts]
"Amount (net)" = { decimals = 2 }
"Tax" = { decimals = 3, required = false }
[[column]]
name = "Months, complete"
between = [2026-01-31, "Date, issued"]
count = "complete months"
[[column]]
name = "Review"
from = "Date, issued"
shift = "1 month"
month_end = "keep"
[output]
rows = "out {as_of}.csv"
order_by = ["Amount (net), largest first", "Inv. No."]
"#;

#[test]
fn a_strange_header_crlf_and_a_byte_order_mark() {
    let desk = Desk::new();
    desk.write("strange.plan", STRANGE_PLAN);
    desk.write(
        "strange.csv",
        "\u{feff}Inv. No.,\"Line \"\"no\"\"\",\"Date, issued\",Paid on,\"Amount (net)\",Tax,Müller's note\r\n\
         7,1,28.02.2026,,10.00,1.999,\"first\r\nsecond, with \"\"quotes\"\"\"\r\n\
         \r\n\
         7,2,30.04.2026,2026-05-01,-2.5,,Ærøskøbing\r\n\
         8,1,31.06.2026,2026-W40-3,10,0.001,日本\r\n\
         9,1,01.07.2026,2026-05-01,x,0.5,\r\n",
    );
    let json = desk.mild(&["run", "strange.plan", "--json"]).json();
    assert_eq!(rows(&json), [4, 3, 1, 0, 0]);
    assert_eq!(
        json["amounts"][0],
        json!({"column": "Amount (net)", "currency": null, "read": "17.50", "written": "17.50", "set_aside": "0.00", "merged": "0.00", "not_selected": "0.00", "unreadable_rows": 1, "read_back": true})
    );
    assert_eq!(json["amounts"][1]["read"], "2.500");
    assert_eq!(json["amounts"][1]["set_aside"], "0.500");
    assert_snapshot!("rows_under_a_strange_header", desk.read("out 2026-09-30.csv"));
    // Rows begin on lines 2, 5, 6 and 7: a cell of two lines and an empty line are between.
    assert_snapshot!("exceptions_under_a_strange_header", desk.read("strange-exceptions-2026-09-30.csv"));
}

#[test]
fn the_json_of_a_run() {
    let desk = Desk::with_records(format!(
        "{RECORDS}A5,Heron Charters,01/10/2026,,8.00\nA6,Heron Charters,01/09/2026,,-3.00\nA7,Cordage & Co.,,,0.50\n"
    ));
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    let keys: Vec<&String> = json.as_object().unwrap().keys().collect();
    assert_eq!(
        keys,
        [
            "added",
            "amounts",
            "answer",
            "as_of",
            "calendars",
            "cells_behind_apostrophe",
            "cross_checked",
            "dates",
            "doubts",
            "exceptions",
            "figures",
            "inputs",
            "joined",
            "notes",
            "outputs",
            "receipt",
            "records",
            "reports",
            "rows",
            "title",
            "unreadable_cells"
        ]
    );
    assert_eq!(
        json["reports"][0],
        json!({
            "kind": "aging", "title": "Aging", "notes": [], "by": "Customer", "amount": "Amount", "band": "Band",
            "buckets": ["Not yet due", "1–30", "31–60", "Over 60", "No date", "Credits"],
            "rows": [
                {"by": "Heron Charters", "amounts": ["100.00", "50.25", "0.00", "0.00", "0.00", "-3.00"], "total": "147.25"},
                {"by": "Cordage & Co.", "amounts": ["0.00", "0.00", "9.75", "0.00", "0.50", "0.00"], "total": "10.25"},
            ],
            "total": {"amounts": ["100.00", "50.25", "9.75", "0.00", "0.50", "-3.00"], "total": "157.50"},
            "counts": [1, 1, 1, 0, 1, 1],
            "tables": [{
                "title": "Aging",
                "columns": ["Customer", "Not yet due", "1–30", "31–60", "Over 60", "No date", "Credits", "Total"],
                "rows": [
                    ["Heron Charters", "100.00", "50.25", "0.00", "0.00", "0.00", "-3.00", "147.25"],
                    ["Cordage & Co.", "0.00", "0.00", "9.75", "0.00", "0.50", "0.00", "10.25"],
                ],
                "total": ["Total", "100.00", "50.25", "9.75", "0.00", "0.50", "-3.00", "157.50"],
                "further": [["Rows", 1, 1, 1, 0, 1, 1, 5]],
                "shares": {
                    "of": "Total",
                    "rows": ["93.5", "6.5"],
                    "columns": ["63.5", "31.9", "6.2", "0.0", "0.3", "-1.9", "100.0"],
                },
            }],
            "explanation": ["Rows with \"Paid\" on or before the as-of date are settled. Rows with \"Issued\" after the as-of date are set apart. The largest total comes first. Credits reduce the total only."],
            "proof": [
                {"of": "Amount", "whole": "written", "value": "235.50", "parts": [
                    {"name": "in buckets", "value": "160.50"}, {"name": "credits", "value": "-3.00"},
                    {"name": "settled", "value": "70.00"}, {"name": "not yet issued", "value": "8.00"},
                ]},
                {"of": "rows", "whole": "written", "value": 7, "parts": [
                    {"name": "in buckets and credits", "value": 5}, {"name": "settled", "value": 1},
                    {"name": "not yet issued", "value": 1}, {"name": "without an amount", "value": 0},
                ]},
            ],
        })
    );
    let files = |list: &str| -> Vec<(String, Value, u64)> {
        let of = |file: &Value| {
            let bytes = desk.read(file["path"].as_str().unwrap()).into_bytes();
            // Worked out here, by the package alone.
            assert_eq!(file["hash"], format!("blake3:{}", blake3::hash(&bytes)));
            assert_eq!(file["bytes"], bytes.len());
            (file["path"].as_str().unwrap().to_owned(), file["rows"].clone(), bytes.len() as u64)
        };
        json[list].as_array().unwrap().iter().map(of).collect()
    };
    let named = |files: &[(String, Value, u64)]| -> Vec<(String, Value)> {
        files.iter().map(|(path, rows, _)| (path.clone(), rows.clone())).collect()
    };
    assert_eq!(
        named(&files("inputs")),
        [("plan.toml".to_owned(), Value::Null), ("records.csv".to_owned(), json!(7))]
    );
    assert_eq!(
        named(&files("outputs")),
        [("rows.csv".to_owned(), json!(7)), ("exceptions.csv".to_owned(), json!(0))]
    );
}

#[test]
fn repeated_keys_first_last_sum_keep_and_set_aside() {
    let records = format!(
        "{RECORDS}A2, Heron Charters,01/07/2026,,1.00\n A2 ,Heron Charters,02/07/2026,,-0.25\nA4,x,01/07/2026,,2.00\n,x,01/07/2026,,4.00\n,x,01/07/2026,,4.00\n"
    );
    let with = |word: &str| {
        let desk = Desk::with_plan("\"set aside\"", &format!("\"{word}\""));
        desk.write("records.csv", &records);
        desk.write("plan.toml", format!("{}merged_rows = \"listed\"\n", desk.read("plan.toml")));
        let json = desk.mild(&["run", "plan.toml", "--json"]).json();
        let amounts = &json["amounts"][0];
        let sums =
            ["read", "written", "set_aside", "merged"].map(|key| amounts[key].as_str().unwrap().to_owned());
        (rows(&json), sums, desk.read("rows.csv"), desk.read("exceptions.csv"))
    };
    let (counts, sums, ..) = with("keep");
    assert_eq!((counts, sums), ([9, 9, 0, 0, 0], ["240.75", "240.75", "0.00", "0.00"].map(str::to_owned)));
    let (counts, sums, kept, listed) = with("set aside");
    assert_eq!((counts, sums), ([9, 6, 3, 0, 0], ["240.75", "238.00", "2.75", "0.00"].map(str::to_owned)));
    assert!(kept.contains("A2,Heron Charters,2026-08-31,,50.25"));
    assert_snapshot!("repeats_first", listed);
    let (counts, sums, first, _) = with("first");
    assert_eq!((counts, sums), ([9, 6, 0, 3, 0], ["240.75", "238.00", "0.00", "2.75"].map(str::to_owned)));
    assert_eq!(first, kept);
    let (counts, sums, last, listed) = with("last");
    assert_eq!((counts, sums), ([9, 6, 0, 3, 0], ["240.75", "179.75", "0.00", "61.00"].map(str::to_owned)));
    assert!(last.contains(" A2 ,Heron Charters,2026-07-02,,-0.25"));
    assert_snapshot!("repeats_last", listed);
    let (counts, sums, summed, listed) = with("sum");
    assert_eq!((counts, sums), ([9, 6, 0, 3, 0], ["240.75", "240.75", "0.00", "0.00"].map(str::to_owned)));
    assert!(summed.contains("A2,Heron Charters,2026-08-31,,51.00"));
    assert!(summed.contains("A4,Cordage & Co.,2026-08-01,,11.75"));
    assert_snapshot!("repeats_sum", listed);
}

#[test]
fn what_is_not_selected_is_counted() {
    let select = |conditions: &str| {
        let desk = Desk::with_plan("[[report]]", &format!("{conditions}\n[[report]]"));
        desk.write("records.csv", format!("{RECORDS}A5,,,,7.00\n"));
        let json = desk.mild(&["run", "plan.toml", "--json"]).json();
        let written: Vec<String> =
            desk.read("rows.csv").lines().skip(1).map(|line| line[..2].to_owned()).collect();
        assert_eq!(json["rows"]["not_selected"].as_u64().unwrap() as usize, 5 - written.len());
        written.join(" ")
    };
    let one = |condition: &str| select(&format!("[[select]]\n{condition}"));
    assert_eq!(one("column = \"Customer\"\nis = \"Heron Charters\""), "A1 A2");
    assert_eq!(one("column = \"Customer\"\nis_not = \"Heron Charters\""), "A3 A4 A5");
    assert_eq!(one("column = \"Customer\"\nblank = true"), "A5");
    assert_eq!(one("column = \"Customer\"\nblank = false"), "A1 A2 A3 A4");
    assert_eq!(one("column = \"Amount\"\nover = 50.25"), "A1 A3");
    assert_eq!(one("column = \"Amount\"\nat_least = \"50.25\"\nunder = 100"), "A2 A3");
    assert_eq!(one("column = \"Issued\"\nat_most = 2026-08-30"), "A3 A4");
    assert_eq!(one("column = \"Issued\"\nis = \"as-of\""), "A1");
    assert_eq!(one("column = \"Days\"\nat_least = 31"), "A3 A4");
    assert_eq!(one("column = \"Band\"\nis = \"1–30\""), "A2");
    assert_eq!(one("column = \"Paid\"\nover = { column = \"Issued\" }"), "A3");
    assert_eq!(
        one("any = [{ column = \"Days\", is = 0 }, { column = \"Customer\", blank = true }]"),
        "A1 A5"
    );
    assert_eq!(
        select("[[select]]\ncolumn = \"Days\"\nover = 0\n[[select]]\ncolumn = \"Paid\"\nblank = true"),
        "A2 A4"
    );
}

#[test]
fn rows_in_the_order_asked_for_blanks_last() {
    let desk = Desk::with_plan(
        "exceptions = \"exceptions.csv\"",
        "exceptions = \"exceptions.csv\"\ncolumns = [\"Invoice\"]\norder_by = [\"Band, largest first\", \"Customer\", \"Amount, largest first\"]",
    );
    desk.write(
        "records.csv",
        format!("{RECORDS}A5,Aster,,,7.00\nA6,,01/08/2026,,1.00\nA7,Cordage & Co.,01/08/2026,,10.00\n"),
    );
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(
        desk.read("rows.csv").lines().collect::<Vec<_>>(),
        ["Invoice", "A3", "A7", "A4", "A6", "A2", "A1", "A5"]
    );
    assert_eq!(json["amounts"][0]["written"], "248.00");
}

#[test]
fn a_choice_by_conditions() {
    let desk = Desk::with_plan(
        "[[report]]",
        "[[column]]\nname = \"Reminder\"\nwhen = [{ column = \"Days\", at_least = 30 }, { column = \"Paid\", blank = true }]\nthen = \"send\"\nelse = { column = \"Band\" }\n\n[[report]]",
    );
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(rows(&json), [4, 4, 0, 0, 0]);
    let last: Vec<String> =
        desk.read("rows.csv").lines().map(|line| line.rsplit(',').next().unwrap().to_owned()).collect();
    assert_eq!(last, ["Reminder", "Not yet due", "send", "31–60", "send"]);
}

#[test]
fn texts_that_a_spreadsheet_would_run() {
    let desk = Desk::with_plan(
        "exceptions = \"exceptions.csv\"",
        "exceptions = \"exceptions.csv\"\ncolumns = [\"Customer\", \"Amount\"]",
    );
    let cells = [
        "=1+1", "+44 20", "-x", "@x", "＝1", " =1", "\t=1", "\"\r=1\"", "-5", "+7.5", "plain", "\"a,b\"",
        "\"a\tb\"", "'=1",
    ];
    let body: String =
        cells.iter().enumerate().map(|(nth, cell)| format!("K{nth},{cell},30/09/2026,,-1.00\n")).collect();
    desk.write("records.csv", format!("Invoice,Customer,Issued,Paid,Amount\n{body}"));
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(json["cells_behind_apostrophe"], 8);
    assert!(desk.read("plan.receipt.toml").contains("cells_behind_apostrophe = 8\n"));
    let rows = desk.read("rows.csv");
    for written in [
        "\n'=1+1,",
        "\n'+44 20,",
        "\n'-x,",
        "\n'@x,",
        "\n'＝1,",
        "\n' =1,",
        "\n\"'\t=1\",",
        "\n\"'\r=1\",",
        "\n-5,",
        "\n+7.5,",
        "\nplain,",
        "\n\"a,b\",",
        "\n\"a\tb\",",
        "\n'=1,",
    ] {
        assert!(rows.contains(written), "{written:?} in {rows}");
    }
}

#[test]
fn exceptions_are_guarded_too() {
    let desk = Desk::with_records("Invoice,Customer,Issued,Paid,Amount\n=A1,x,=NOW(),,1.00\n");
    assert_eq!(desk.run_plan().code, 0);
    assert!(desk.read("exceptions.csv").contains("'=A1,Issued,'=NOW(),"));
}

#[test]
fn an_aging_without_groups_and_other_dates_of_the_same_records() {
    let desk = Desk::with_plan("by     = \"Customer\"\n", "");
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(
        json["reports"][0]["rows"],
        json!([{"by": null, "amounts": ["100.00", "50.25", "9.75", "0.00", "0.00", "0.00"], "total": "160.00"}])
    );
    // On 31 August nothing was paid yet, and A1 was not issued.
    let earlier = desk.mild(&["run", "plan.toml", "--json", "--as-of", "2026-08-31", "--overwrite"]).json();
    assert_eq!(
        earlier["reports"][0]["proof"][0],
        json!({"of": "Amount", "whole": "written", "value": "230.00", "parts": [
            {"name": "in buckets", "value": "130.00"}, {"name": "credits", "value": "0.00"},
            {"name": "settled", "value": "0.00"}, {"name": "not yet issued", "value": "100.00"},
        ]})
    );
    assert_eq!(
        earlier["reports"][0]["rows"][0]["amounts"],
        json!(["50.25", "79.75", "0.00", "0.00", "0.00", "0.00"])
    );
}

#[test]
fn records_from_another_file_and_names_with_the_as_of_date() {
    let desk = Desk::with_plan("file    = \"records.csv\"", "file    = \"records-{as_of}.csv\"");
    let missing = desk.run_plan();
    assert_eq!(missing.code, 3);
    assert!(
        missing.err.contains("as-of date 2026-09-30") && missing.err.contains("--records"),
        "{}",
        missing.err
    );
    std::fs::rename(desk.path("records.csv"), desk.path("records-2026-09-30.csv")).unwrap();
    assert_eq!(desk.run_plan().code, 0);
    desk.write("other.csv", "Invoice,Customer,Issued,Paid,Amount\nB1,x,30/09/2026,,5.00\n");
    let json = desk.mild(&["run", "plan.toml", "--records", "other.csv", "--json"]).json();
    assert_eq!((json["records"].as_str(), &json["rows"]["read"]), (Some("other.csv"), &json!(1)));
}

#[test]
fn a_named_as_of_date_is_resolved_and_told() {
    let desk = Desk::with_plan("as_of = 2026-09-30", "as_of = \"end of last month\"");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.err.contains("today being") && answer.err.contains("UTC"), "{}", answer.err);
    let as_of: mild_ledger::Date =
        answer.out[answer.out.find("as of ").unwrap() + 6..][..10].parse().unwrap();
    assert_eq!(mild_ledger::Month::of(as_of).last_day(), as_of);
}

#[test]
fn dates_that_cannot_be_moved_are_listed() {
    let desk = Desk::with_plan(
        "[[report]]",
        "[[column]]\nname = \"Review\"\nfrom = \"Issued\"\nshift = \"1 month\"\nmonth_end = \"refuse\"\n\n[[report]]",
    );
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(
        (&json["exceptions"][0]["reason"], &json["exceptions"][0]["count"]),
        (&json!("no result"), &json!(1))
    );
    assert!(desk.read("exceptions.csv").contains(
        "2,3,A2,Review,2026-08-31,\"no result: 2026-08-31 moved by 1 month (month end: refuse) would be day 31 of 2026-09"
    ));
}

#[test]
fn the_plan_in_the_support_is_the_plan_that_is_run() {
    // The tests replace pieces of it, so it has to be right as it is.
    let desk = Desk::with_records(RECORDS);
    desk.write("plan.toml", PLAN);
    let answer = desk.run_plan();
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!(answer.out);
}

#[test]
fn half_of_a_small_file_set_aside_is_a_doubt() {
    let doubts = |records: &str| {
        let desk = Desk::with_records(records);
        let object = desk.mild(&["run", "plan.toml", "--json"]).json();
        object["doubts"].as_array().unwrap().len()
    };
    let header = "Invoice,Customer,Issued,Paid,Amount\n";
    let rows = |wrong: usize, right: usize| {
        let wrong: String = (0..wrong).map(|nth| format!("W{nth},x,01/09/2026,,soon\n")).collect();
        let right: String = (0..right).map(|nth| format!("R{nth},x,01/09/2026,,1.00\n")).collect();
        format!("{header}{wrong}{right}")
    };
    for (wrong, right, expected) in
        [(2, 2, 1), (4, 0, 1), (1, 3, 1), (1, 4, 0), (2, 10, 0), (3, 200, 1), (3, 297, 0), (0, 4, 0)]
    {
        assert_eq!(doubts(&rows(wrong, right)), expected, "{wrong} of {}", wrong + right);
    }
}

#[test]
fn a_placeholder_that_nothing_fills_is_refused() {
    for (line, at) in [
        ("title = \"Aging of {month}\"", "nothing fills {month}"),
        ("[[column]]\nname = \"Label\"\nvalue = \"{Sku}/{Item}\"", "nothing fills {Sku}"),
        ("[[report]]\nkind = \"list\"\ntitle = \"{Customer}\"", "nothing fills {Customer}"),
    ] {
        let desk = Desk::with_records(RECORDS);
        let plan = desk.read("plan.toml");
        desk.write(
            "plan.toml",
            if line.starts_with("title") {
                plan.replace("title = \"Aging\"", line)
            } else {
                format!("{plan}\n{line}\n")
            },
        );
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{}", answer.out);
        assert!(
            answer.err.contains(at) && answer.err.contains("{as_of}, the one placeholder"),
            "{}",
            answer.err
        );
    }
}

#[test]
fn a_header_of_two_lines_is_named_with_a_space() {
    let desk = Desk::with_records(RECORDS.replacen("Issued", "\"Issued\non\"", 1));
    desk.write(
        "plan.toml",
        desk.read("plan.toml")
            .replace("Issued = ", "\"Issued on\" = ")
            .replace("\"Issued\"", "\"Issued on\""),
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
}

#[test]
fn a_choice_that_meets_an_empty_figure_takes_else_and_is_listed() {
    let desk = Desk::with_plan(
        "[[report]]",
        "[[column]]\nname = \"Reminder\"\nwhen = [{ column = \"Days\", over = 30 }]\nthen = \"send\"\nelse = \"wait\"\n\n[[report]]",
    );
    desk.write("records.csv", RECORDS.replace("31/08/2026", "soon").replace("01/08/2026", ""));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.out.contains("2 × a condition on an empty figure, kept"), "{}", answer.out);
    let exceptions = desk.read("exceptions.csv");
    assert!(exceptions.contains("A4,Reminder,,\"a condition on an empty figure: \"\"Days\"\" is empty, so the value of else is used\",,kept"), "{exceptions}");
    assert!(
        desk.read("rows.csv").lines().filter(|line| line.ends_with(",wait")).count() == 3,
        "{}",
        desk.read("rows.csv")
    );
}
