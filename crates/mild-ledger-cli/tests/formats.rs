//! The same records and the same rows in every format that is read and written.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use proptest::prelude::*;
use serde_json::{Map, Value, json};
use support::{Desk, PLAN, RECORDS};

/// Records of CSV without quotes as objects; numbers are written as such, blanks as null or left out in turn.
fn as_objects(csv: &str) -> String {
    let mut lines = csv.lines();
    let names: Vec<&str> = lines.next().unwrap().split(',').collect();
    let mut out = String::new();
    for (nth, line) in lines.enumerate() {
        let mut object = Vec::new();
        for (name, cell) in names.iter().zip(line.split(',')) {
            let is_number =
                !cell.is_empty() && cell.parse::<f64>().is_ok() && !cell.starts_with(['+', '.', '0']);
            match cell {
                "" if nth % 2 == 0 => {}
                "" => object.push(format!("{}:null", json!(name))),
                cell if is_number => object.push(format!("{}:{cell}", json!(name))),
                cell => object.push(format!("{}:{}", json!(name), json!(cell))),
            }
        }
        out += &format!("{{{}}}\n", object.join(","));
    }
    out
}

fn with_files(records: &str, rows: &str, exceptions: &str) -> String {
    PLAN.replace("\"records.csv\"", &format!("\"{records}\""))
        .replace("\"rows.csv\"", &format!("\"{rows}\""))
        .replace("\"exceptions.csv\"", &format!("\"{exceptions}\""))
        + "columns = [\"Invoice\", \"Customer\", \"Issued\", \"Paid\", \"Amount\", \"Days\", \"Band\"]\n\
           order_by = [\"Customer\", \"Days, largest first\"]\n"
}

/// What does not depend on the format: the figures, and what was wrong with which row.
fn figures(json: &Value) -> Value {
    let keys = ["rows", "amounts", "reports", "exceptions", "figures", "notes", "dates"];
    Value::Object(keys.iter().map(|key| ((*key).to_owned(), json[*key].clone())).collect::<Map<_, _>>())
}

#[test]
fn every_pair_of_formats_gives_the_same_figures_and_rows() {
    let csv =
        format!("{RECORDS}A5,=1+1,30/02/2026,,8.00\nA6,Heron Charters,01/09/2026,,-3.00\nA7,Cordage,,,x\n");
    let desk = Desk::new();
    desk.write("records.csv", &csv);
    desk.write("records.jsonl", as_objects(&csv));
    let mut seen: Vec<(Value, Vec<Vec<String>>)> = Vec::new();
    for (from, to) in [("csv", "csv"), ("csv", "jsonl"), ("jsonl", "csv"), ("jsonl", "jsonl")] {
        let name = format!("{from}-{to}");
        let plan = with_files(
            &format!("records.{from}"),
            &format!("{name}-rows.{to}"),
            &format!("{name}-exceptions.{to}"),
        );
        desk.write(&format!("{name}.toml"), &plan);
        let json = desk.mild(&["run", &format!("{name}.toml"), "--json"]).json();
        let rows = desk.read(&format!("{name}-rows.{to}"));
        // A formula is guarded where a spreadsheet would run it, and nowhere else.
        let cells: Vec<Vec<String>> = match to {
            "csv" => rows
                .lines()
                .skip(1)
                .map(|line| line.split(',').map(|cell| cell.trim_start_matches('\'').to_owned()).collect())
                .collect(),
            _ => rows
                .lines()
                .map(|line| {
                    let object: Map<String, Value> = serde_json::from_str(line).unwrap();
                    assert_eq!(object.len(), 7, "{line}");
                    ["Invoice", "Customer", "Issued", "Paid", "Amount", "Days", "Band"]
                        .iter()
                        .map(|name| match &object[*name] {
                            Value::Null => String::new(),
                            Value::String(text) => text.clone(),
                            number if *name == "Amount" => format!("{:.2}", number.as_f64().unwrap()),
                            number => number.to_string(),
                        })
                        .collect()
                })
                .collect(),
        };
        assert!(rows.contains(if to == "csv" { "'=1+1" } else { "\"=1+1\"" }), "{rows}");
        seen.push((figures(&json), cells));
    }
    for pair in seen.windows(2) {
        assert_eq!(pair[0].1, pair[1].1);
        assert_eq!(pair[0].0["reports"], pair[1].0["reports"]);
        assert_eq!(pair[0].0["amounts"], pair[1].0["amounts"]);
        assert_eq!(pair[0].0["rows"], pair[1].0["rows"]);
    }
    assert_eq!(seen[0].1.len(), 6);
    assert_eq!(seen[0].1[0], ["A5", "=1+1", "", "", "8.00", "", "Unreadable"]);
    assert!(seen[0].1.contains(
        &["A6", "Heron Charters", "2026-09-01", "", "-3.00", "29", "1–30"].map(str::to_owned).to_vec()
    ));
    // The lines of a file differ, and nothing else of what is listed.
    let without_lines = |value: &Value| {
        let text = value["exceptions"].to_string();
        text.split("(line ")
            .map(|part| part.split_once(')').map_or(part, |(_, rest)| rest).to_owned())
            .collect::<String>()
    };
    assert_eq!(without_lines(&seen[0].0), without_lines(&seen[3].0));
}

#[test]
fn numbers_keep_every_digit() {
    let desk = Desk::new();
    let plan = with_files("records.jsonl", "rows.jsonl", "exceptions.jsonl")
        .replace("decimals = 2", "decimals = 18");
    desk.write("plan.toml", &plan);
    desk.write(
        "records.jsonl",
        "\u{feff}{\"Invoice\":\"A1\",\"Customer\":\"Heron\",\"Issued\":\"30/09/2026\",\"Paid\":null,\"Amount\":12345678901.123456789012345678}\r\n",
    );
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(json["amounts"][0]["written"], "12345678901.123456789012345678");
    assert!(desk.read("rows.jsonl").contains("\"Amount\":12345678901.123456789012345678,"));
}

#[test]
fn broken_lines_are_set_aside_and_no_other_is_lost() {
    let desk = Desk::new();
    desk.write("plan.toml", with_files("records.jsonl", "rows.csv", "exceptions.csv"));
    let good = |name: &str| {
        format!(
            "{{\"Invoice\":\"{name}\",\"Customer\":\"Heron\",\"Issued\":\"30/09/2026\",\"Paid\":null,\"Amount\":1.25}}\n"
        )
    };
    let mut bytes = [
        good("A1").into_bytes(),
        b"\n{\"Invoice\":\"A2\"\n".to_vec(),
        b"[1]\n".to_vec(),
        b"{\"Invoice\":\"A3\",\"Amount\":{\"net\":1}}\n".to_vec(),
        b"{\"Invoice\":\"A4\",\"Invoice\":\"A5\"}\n".to_vec(),
        b"{\"Invoice\":\"A\xff\"}\n".to_vec(),
        good("A6").trim_end().as_bytes().to_vec(),
    ]
    .concat();
    std::fs::write(desk.path("records.jsonl"), &bytes).unwrap();
    let answer = desk.mild(&["run", "plan.toml", "--json"]);
    let json = answer.json();
    assert_eq!(
        (&json["rows"]["read"], &json["rows"]["written"], &json["rows"]["set_aside"]),
        (&json!(7), &json!(2), &json!(5))
    );
    assert_eq!(json["amounts"][0]["written"], "2.50");
    let listed = desk.read("exceptions.csv");
    let reasons: Vec<&str> =
        listed.lines().skip(1).map(|line| line.rsplit(',').nth(1).unwrap_or(line)).collect();
    assert_eq!(listed.lines().count(), 6, "{listed}");
    for (row, line, reason) in [
        (2, 3, "not a JSON object"),
        (3, 4, "not a JSON object"),
        (4, 5, "a value of several"),
        (5, 6, "a name twice"),
        (6, 7, "bytes that are not UTF-8"),
    ] {
        assert!(
            listed.lines().any(
                |text| text.starts_with(&format!("records.jsonl,{row},{line},")) && text.contains(reason)
            ),
            "{row} {reason} {reasons:?}\n{listed}"
        );
    }
    // A file of no objects at all is called what it is.
    bytes.clear();
    std::fs::write(desk.path("records.jsonl"), &bytes).unwrap();
    assert!(desk.mild(&["run", "plan.toml"]).err.contains("the file is empty"));
    desk.write("records.jsonl", "Invoice,Amount\nA1,1\n");
    assert!(desk.mild(&["run", "plan.toml"]).err.contains("no line is a JSON object with names"));
}

#[test]
fn a_column_that_begins_late_is_blank_before() {
    let desk = Desk::new();
    let plan = "plan = 1\n[records]\nfile = \"records.jsonl\"\n[output]\nrows = \"rows.csv\"\n";
    desk.write("plan.toml", plan);
    desk.write("records.jsonl", "{\"A\":\"1\"}\n{\"B\":\"2\",\"A\":\"3\"}\n{\"C\":false}\n");
    assert_eq!(desk.mild(&["run", "plan.toml"]).code, 0);
    assert_eq!(desk.read("rows.csv"), "A,B,C\n1,,\n3,2,\n,,false\n");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    /// Any texts there and back: text written as JSON Lines is read as it was.
    #[test]
    fn any_texts_come_back(rows in prop::collection::vec(prop::collection::vec("[ -~é\u{1F600}\u{7}\"\\\\]{0,12}", 3), 1..20)) {
        let desk = Desk::new();
        desk.write("there.toml", "plan = 1\n[records]\nfile = \"records.jsonl\"\n[output]\nrows = \"there.jsonl\"\n");
        desk.write("back.toml", "plan = 1\n[records]\nfile = \"there.jsonl\"\n[output]\nrows = \"back.jsonl\"\n");
        let names = ["Name", "a \"b\"", "c\\d"];
        let lines = rows.iter().map(|row| {
            let object: Map<String, Value> = names.iter().zip(row).map(|(name, cell)| ((*name).to_owned(), json!(cell))).collect();
            Value::Object(object).to_string() + "\n"
        });
        desk.write("records.jsonl", lines.collect::<String>());
        prop_assert_eq!(desk.mild(&["run", "there.toml"]).code, 0);
        prop_assert_eq!(desk.mild(&["run", "back.toml"]).code, 0);
        prop_assert_eq!(desk.read("there.jsonl"), desk.read("back.jsonl"));
        for (line, row) in desk.read("back.jsonl").lines().zip(&rows) {
            let object: Map<String, Value> = serde_json::from_str(line).unwrap();
            for (name, cell) in names.iter().zip(row) {
                let expected = if cell.is_empty() { Value::Null } else { json!(cell) };
                prop_assert_eq!(&object[*name], &expected);
            }
        }
        prop_assert_eq!(desk.read("back.jsonl").lines().count(), rows.len());
    }
}
