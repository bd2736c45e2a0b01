//! Looking at files as they really are: every fault is found and named with its row.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::{Value, json};
use support::Desk;

fn look_at(name: &str, bytes: impl AsRef<[u8]>) -> Value {
    let desk = Desk::new();
    desk.write(name, bytes);
    desk.mild(&["look", name, "--json"]).json()
}

/// A column of these values, each in quotes, after a column of numbers.
fn column(values: &[&str]) -> Value {
    let rows: String = values.iter().zip(1..).map(|(value, nth)| format!("{nth},\"{value}\"\n")).collect();
    look_at("records.csv", format!("Job,Done\n{rows}"))["columns"][1].clone()
}

#[test]
fn the_demo_is_looked_at_as_a_person_reads_it() {
    let desk = Desk::new();
    desk.mild(&["demo", "."]);
    let answer = desk.mild(&["look", "invoices-2026-09-30.csv"]);
    assert_eq!(answer.code, 0);
    assert_snapshot!("the_demo_looked_at", answer.out);
    assert_snapshot!("the_demo_as_a_plan", desk.mild(&["look", "invoices-2026-09-30.csv", "--plan"]).out);
}

#[test]
fn each_fault_of_dates_is_found_and_named_with_its_row() {
    // Text that is not a date among dates.
    let found = column(&["30/09/2026", "29/09/2026", "28/09/2026", "soon"]);
    assert_eq!((&found["kind"], &found["verdict"]), (&json!("date"), &json!("none")));
    assert_eq!(found["patterns"], json!(["day/month/year"]));
    assert_eq!(found["failures"], json!([{ "row": 4, "text": "soon" }]));
    // A zero that turned into a day.
    let found = column(&["2026-09-30", "1899-12-30", "2026-09-29"]);
    assert_eq!(found["fillers"][0]["rows"], json!([2]));
    assert_eq!((&found["verdict"], &found["earliest"]), (&json!("found"), &json!("2026-09-29")));
    // Day and month that could be swapped, with one value read both ways.
    let found = column(&["01/02/2026", "03/04/2026", "05/05/2026", "30/06/2026"]);
    assert_eq!(found["verdict"], "ambiguous");
    assert_eq!(found["patterns"], json!(["day/month/year", "month/day/year"]));
    assert_eq!(
        found["both_ways"],
        json!({ "row": 1, "text": "01/02/2026", "one": "2026-02-01", "other": "2026-01-02" })
    );
    assert_eq!(found["evidence"][0]["rows"], json!([4]));
    // An unwanted time part, and one in each value.
    let found = column(&["2026-09-30", "2026-09-29 14:30", "2026-09-28"]);
    assert_eq!((&found["kind"], &found["times"]), (&json!("date"), &json!(1)));
    let found = column(&["2026-09-30 2:30 PM", "2026-09-29 14:30", "2026-09-28"]);
    assert_eq!(found["kind"], "date-time");
    // Serial numbers in place of dates.
    let found = column(&["46295", "46296", "45000"]);
    assert_eq!((&found["kind"], &found["perhaps_dates"]), (&json!("whole number"), &Value::Null));
    let of_a_date = look_at("records.csv", "Date\n46295\n46296\n45000\n");
    assert_eq!(of_a_date["columns"][0]["perhaps_dates"], "serial 1900");
    // Years of two digits, and months without a day.
    let found = column(&["30/09/26", "29/09/26"]);
    assert_eq!(
        found["wants"],
        json!({ "pattern": "day/month/short-year", "named": "a pivot year for years of two digits" })
    );
    assert_eq!(column(&["2026-09", "2026-10"])["wants"]["pattern"], "year-month");
    // Offsets from UTC.
    assert_eq!(
        column(&["2026-09-30T14:30Z", "2026-09-30 14:30 Europe/London", "2026-09-30 14:30"])["offsets"],
        2
    );
    // Names in another language.
    let found = column(&["30. März 2026", "1. Mai 2026", "2. Dez. 2026", "3. Okt. 2026"]);
    assert_eq!(found["patterns"], json!(["day. month-name year (german)"]));
}

#[test]
fn each_fault_of_amounts_is_found() {
    let found = column(&["1.250,00", "8,25", "0,5", "12,00"]);
    assert_eq!(
        (&found["kind"], &found["format"], &found["decimals"]),
        (&json!("amount"), &json!("1.234,56"), &json!(2))
    );
    let found = column(&["1,250", "12,500"]);
    assert_eq!((&found["verdict"], &found["either"]["row"]), (&json!("ambiguous"), &json!(1)));
    let found = column(&["$5.00", "€8.25", "(1.00)", "50.00 CR", "x"]);
    assert_eq!(found["currencies"], json!([{ "sign": "$", "values": 1 }, { "sign": "€", "values": 1 }]));
    assert_eq!((&found["credit"], &found["negative"]), (&json!(1), &json!(1)));
    assert_eq!(found["failures"], json!([{ "row": 5, "text": "x" }]));
    assert_eq!(column(&["007", "008"])["kind"], "text");
    assert_eq!(column(&["12", "-8", "1"])["kind"], "whole number");
}

#[test]
fn files_are_told_by_how_they_begin() {
    let table = "Job;Done;Cost\nJ1;30/09/2026;1,5\nJ2;29/09/2026;2,5\nJ3;28/09/2026;3,25\n";
    let titles = format!("Quillhaven Boatyard\nJobs of September\n\n{table}Total;;7,25\n");
    let found = look_at("jobs.csv", &titles);
    assert_eq!(
        (&found["separator"], &found["header_line"], &found["rows"]),
        (&json!(";"), &json!(4), &json!(4))
    );
    assert_eq!(
        found["total_line"],
        json!({ "row": 4, "column": "Job", "text": "Total", "evidence": "sum", "amounts": [{ "column": "Cost", "text": "7,25" }] })
    );
    let windows: Vec<u8> = "Name,Done\nSøn,30/09/2026\nCafé,29/09/2026\n"
        .chars()
        .map(|sign| u8::try_from(u32::from(sign)).unwrap())
        .collect();
    let found = look_at("names.csv", windows);
    assert_eq!(
        (&found["encoding"], &found["columns"][0]["examples"][0]),
        (&json!("windows-1252"), &json!("Søn"))
    );
    // Rows whose cells cannot be distinguished, and keys that repeat.
    let found = look_at("keys.csv", "Key,Value\nA,1\nB,2,3\nA,3\nC\n\"D\"x,4\n");
    let reasons: Vec<(&str, &Value)> = found["broken"]
        .as_array()
        .unwrap()
        .iter()
        .map(|broken| (broken["reason"].as_str().unwrap(), &broken["rows"]))
        .collect();
    assert_eq!(
        reasons,
        [("stray quote", &json!([5])), ("too few cells", &json!([4])), ("too many cells", &json!([2]))]
    );
    assert_eq!((&found["columns"][0]["repeated_in"], &found["keys"]), (&json!([1, 3]), &json!(["Value"])));
    let found = look_at("objects.jsonl", "{\"Key\":1,\"Done\":\"2026-09-30\"}\n{\"Key\":2}\n");
    assert_eq!((&found["format"], &found["columns"][1]["blanks"]), (&json!("JSON Lines"), &json!(1)));
    assert_eq!(found["keys"], json!(["Key"]));
}

#[test]
fn what_is_found_runs_as_the_plan_that_is_printed() {
    let desk = Desk::new();
    let awkward = "Quillhaven Boatyard;;;;\nKey;Started;\"Paid on\";Price \"net\";Weeks\n\
        K1;30/09/2026;2026-09-30 14:30;1.250,00 €;3\nK2;29/09/2026;2026-09-29 09:00;(8,25 €);4\n\
        K3;28/09/2026;;0,50 €;3\nK4;31/06/2026;2026-09-28 08:15;12,00 €;5\nK5;27/09/2026;;3,00 €;1\nTotal;;;1.257,25 €;\n";
    desk.write("jobs.csv", awkward.replace("Price \"net\"", "\"Price \"\"net\"\"\""));
    let plan = desk.mild(&["look", "jobs.csv", "--plan"]).out;
    desk.write("plan.toml", &plan);
    let answer = desk.mild(&["run", "plan.toml", "--json"]);
    assert_eq!(answer.code, 0, "{plan}\n{}", answer.err);
    let json = answer.json();
    assert_eq!(json["amounts"][0]["written"], "1257.25", "{plan}");
    assert_eq!((&json["rows"]["written"], &json["rows"]["not_selected"]), (&json!(5), &json!(1)));
    let rows = desk.read("jobs-rows.csv");
    assert!(rows.contains("K1,2026-09-30,2026-09-30T14:30:00,1250.00,3"), "{rows}");
    assert!(rows.contains("K2,2026-09-29,2026-09-29T09:00:00,-8.25,4"), "{rows}");
}

#[test]
fn files_that_are_no_records_are_called_what_they_are() {
    let desk = Desk::new();
    desk.write("empty.csv", "");
    desk.write("book.csv", b"PK\x03\x04rest");
    for (file, said) in [
        ("none.csv", "there is no such file"),
        ("empty.csv", "the file is empty"),
        ("book.csv", "a workbook"),
    ] {
        let answer = desk.mild(&["look", file]);
        assert_eq!(answer.code, 3, "{file}");
        assert!(answer.err.contains(said), "{file}: {}", answer.err);
    }
    // Text of records never steers the terminal.
    desk.write("signs.csv", "Key\u{1b}[31m,Done\n\u{1b}[2J,2026-09-30\n");
    let answer = desk.mild(&["look", "signs.csv"]);
    assert!(answer.code == 0 && !answer.out.contains('\u{1b}'), "{}", answer.out);
}

#[test]
fn several_files_are_looked_at_one_by_one() {
    let desk = Desk::new();
    desk.write("a.csv", "Key\n1\n");
    desk.write("b.csv", "Key\n1\n2\n");
    let found = desk.mild(&["look", "a.csv", "b.csv", "--json"]).json();
    assert_eq!((&found[0]["rows"], &found[1]["rows"]), (&json!(1), &json!(2)));
}

#[test]
fn a_file_that_grows_while_it_is_looked_at_is_not_taken_for_what_it_was() {
    let desk = Desk::new();
    let rows: String = (0..400_000).map(|nth| format!("B{nth},Heron Charters,01/02/2026,1.00\n")).collect();
    desk.write("grows.csv", format!("Invoice,Customer,Issued,Amount\n{rows}"));
    let child = desk
        .command(&["look", "grows.csv"])
        .stdout(std::process::Stdio::piped())
        .stderr(std::process::Stdio::piped())
        .spawn()
        .unwrap();
    std::thread::sleep(std::time::Duration::from_millis(60));
    let mut file = std::fs::OpenOptions::new().append(true).open(desk.path("grows.csv")).unwrap();
    std::io::Write::write_all(&mut file, b"B400000,Heron Charters,01/02/2026,1.00\n").unwrap();
    drop(file);
    let ended = child.wait_with_output().unwrap();
    let said = String::from_utf8_lossy(&ended.stderr);
    assert_eq!((ended.status.code(), ended.stdout.len()), (Some(2), 0), "{said}");
    assert!(said.contains("grows.csv") && said.contains("changed"), "{said}");
}
