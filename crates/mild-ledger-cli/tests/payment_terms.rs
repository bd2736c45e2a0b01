//! Payment terms: `mild due`, and columns of due dates in a plan.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::{Answer, Desk};

fn due(words: &[&str]) -> Answer {
    Desk::new().mild(&[&["due"], words].concat())
}

#[test]
fn one_invoice() {
    let answer = due(&["2026-01-15", "2/10", "net", "30", "EOM"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_snapshot!("terms_with_a_discount", answer.out);
    let answer = due(&["2026-01-28", "15 MFI cut-off 25", "--why"]);
    assert_snapshot!("terms_with_a_cut_off", answer.out);
}

#[test]
fn rolled_to_a_working_day() {
    // 31 October 2026 is a Saturday, and 10 October one too.
    let words = ["2026-10-01", "1/9 net 30", "--roll", "modified-following"];
    let answer = due(&[&words[..], &["--why"]].concat());
    assert_snapshot!("a_due_date_rolled", answer.out);
    let object =
        due(&[&words[..], &["--roll-discount", "--calendar", "england-wales", "--json"]].concat()).json();
    assert_eq!(object["due"], json!("2026-10-30"));
    assert_eq!(object["discount"]["until"], json!("2026-10-12"));
    assert_eq!(object["calendar"], json!("england-wales"));
}

#[test]
fn mistakes_are_told() {
    for (name, words) in [
        ("terms_with_two_readings", &["2026-01-15", "30", "EOM"][..]),
        ("no_terms", &["2026-01-15", "soon"]),
        ("a_calendar_that_decides_nothing", &["2026-01-15", "net 30", "--calendar", "france"]),
        ("a_due_date_out_of_all_years", &["9999-12-15", "net 30"]),
    ] {
        let answer = due(words);
        assert_eq!((answer.code, answer.out.as_str()), (2, ""), "{name}");
        assert_snapshot!(name, answer.err);
    }
}

const RECORDS: &str = "Invoice,Customer,Issued,Paid,Amount,Terms
A1,Heron Charters,31/01/2026,,100.00,Net 30
A2,Heron Charters,15/01/2026,,50.25,\"2/10, n/30 EOM\"
A3,Cordage & Co.,25/01/2026,,70.00,15 prox cut-off 25
A4,Cordage & Co.,01/06/2026,,9.75,30 EOM
A5,Ferry Nine,,,3.00,net 30
A6,Ferry Nine,02/10/2026,,1.00,
";

const COLUMNS: &str = "[[column]]
name = \"Due\"
from = \"Issued\"
terms = { column = \"Terms\" }
roll = \"following\"
calendar = \"week\"

[[column]]
name = \"Discount until\"
from = \"Issued\"
terms = { column = \"Terms\" }
gives = \"discount date\"

[[column]]
from = \"Issued\"
terms = \"net 10\"

[calendar.week]
rest_days = [\"saturday\", \"sunday\"]

[[report]]";

fn desk() -> Desk {
    let desk = Desk::with_plan("[[report]]", COLUMNS);
    desk.write("records.csv", RECORDS);
    desk
}

#[test]
fn a_column_of_due_dates() {
    let desk = desk();
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let rows: Vec<String> = desk
        .read("rows.csv")
        .lines()
        .map(|line| {
            let cells: Vec<&str> = line.rsplit(',').take(3).collect();
            format!("{}|{}|{}", cells[2], cells[1], cells[0])
        })
        .collect();
    // 31 January + 30 days is Monday 2 March; 31 January + 30 days again for A2; A3 counts as February, due on Sunday 15 March.
    assert_eq!(
        rows,
        [
            "Due|Discount until|Due date from Issued under net 10",
            "2026-03-02||2026-02-10",
            "2026-03-02|2026-01-25|2026-01-25",
            "2026-03-16||2026-02-04",
            "||2026-06-11",
            "||",
            "||2026-10-12",
        ]
    );
    let listed = desk.read("exceptions.csv");
    let of_terms: Vec<&str> = listed.lines().filter(|line| line.contains("A4")).collect();
    assert!(of_terms.len() == 2 && of_terms[0].contains("two readings"), "{listed}");
    let why = desk.mild(&["run", "plan.toml", "--why", "--row", "A3"]);
    assert!(
        why.out.contains("2026-03-15 (Sunday) is not a working day; following gives 2026-03-16"),
        "{}",
        why.out
    );
}

#[test]
fn mistakes_of_plans_are_told() {
    for (name, from, to) in [
        ("terms_of_a_plan_with_two_readings", "\"net 10\"", "\"30 EOM\""),
        ("terms_without_a_discount", "terms = \"net 10\"", "terms = \"net 10\"\ngives = \"discount date\""),
        ("terms_of_amounts", "terms = { column = \"Terms\" }\nroll", "terms = { column = \"Amount\" }\nroll"),
        ("terms_from_nothing", "from = \"Issued\"\nterms = \"net 10\"", "terms = \"net 10\""),
        ("terms_and_a_shift", "terms = \"net 10\"", "terms = \"net 10\"\nshift = \"10 days\""),
    ] {
        let desk = desk();
        desk.write("plan.toml", desk.read("plan.toml").replace(from, to));
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
}
