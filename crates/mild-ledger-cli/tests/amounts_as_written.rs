//! Amounts and plain numbers of records as people write them, each way named in the plan.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use support::{Answer, Desk};

fn desk(columns: &str, texts: &[&str]) -> Desk {
    let desk = Desk::new();
    desk.write(
        "plan.toml",
        format!(
            "plan = 1\n[records]\nfile = \"records.csv\"\nkey = \"Job\"\n{columns}\n\
             [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"
        ),
    );
    let rows: String = texts.iter().zip(1..).map(|(text, nth)| format!("J{nth},\"{text}\"\n")).collect();
    desk.write("records.csv", format!("Job,Figure\n{rows}"));
    desk
}

fn figures(desk: &Desk) -> Vec<String> {
    desk.read("rows.csv").lines().skip(1).map(|row| row.split_once(',').unwrap().1.to_owned()).collect()
}

#[test]
fn each_notation_is_read_written_plainly_and_proved() {
    for (keys, texts, expected, sum) in [
        (
            "decimal_mark = \"comma\", thousands = \"point\"",
            ["1.250,00", "-0,5"],
            ["1250.00", "-0.50"],
            "1249.50",
        ),
        (
            "thousands = \"comma\", negatives = \"brackets\", signs = \"$\"",
            ["$1,250.00", "($50.25)"],
            ["1250.00", "-50.25"],
            "1199.75",
        ),
        (
            "thousands = \"space\", negatives = [\"trailing minus\"]",
            ["1 250.00", "8.25-"],
            ["1250.00", "-8.25"],
            "1241.75",
        ),
        ("negatives = \"credit\"", ["50.00 CR", "8.25 DR"], ["-50.00", "8.25"], "-41.75"),
        (
            "thousands = \"apostrophe\", blank = \"-\", required = false",
            ["1’250.00", "-"],
            ["1250.00", ""],
            "1250.00",
        ),
    ] {
        let desk = desk(&format!("[records.amounts]\nFigure = {{ decimals = 2, {keys} }}"), &texts);
        let json = desk.mild(&["run", "plan.toml", "--json"]).json();
        assert_eq!(figures(&desk), expected, "{keys}");
        assert_eq!(
            (&json["amounts"][0]["read"], &json["amounts"][0]["written"]),
            (&sum.into(), &sum.into()),
            "{keys}"
        );
        assert_eq!(json["amounts"][0]["unreadable_rows"], 0, "{keys}");
    }
}

#[test]
fn what_is_written_otherwise_is_set_aside_with_the_notation_that_was_expected() {
    let keys =
        "[records.amounts]\nFigure = { decimals = 2, decimal_mark = \"comma\", thousands = \"point\" }";
    let desk = desk(keys, &["1.250,00", "1,250.00", "$5,00"]);
    let answer: Answer = desk.run_plan();
    assert_eq!((answer.code, figures(&desk)), (0, vec!["1250.00".to_owned()]));
    let exceptions = desk.read("exceptions.csv");
    assert!(exceptions.contains("amounts written 1.234,56"), "{exceptions}");
    assert_eq!(exceptions.matches("unreadable amount").count(), 2, "{exceptions}");
}

#[test]
fn plain_numbers_have_no_part_in_the_proof_and_leave_their_cell_empty() {
    let desk = desk(
        "[records.numbers]\nFigure = { decimals = 0, thousands = \"comma\" }",
        &["1,250", "many", "", "-3"],
    );
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(figures(&desk), ["1250", "", "", "-3"]);
    assert_eq!(json["amounts"], serde_json::json!([]));
    assert_eq!((&json["rows"]["written"], &json["rows"]["set_aside"]), (&4.into(), &0.into()));
    assert!(
        desk.read("exceptions.csv").contains("many,\"unreadable number"),
        "{}",
        desk.read("exceptions.csv")
    );
    // What could not be read counts as such, so that a strict run does not end well.
    assert_eq!(json["unreadable_cells"], 1);
    let strict = desk.mild(&["run", "plan.toml", "--overwrite", "--strict"]);
    assert_eq!(strict.code, 4, "{}", strict.err);
}

#[test]
fn mistakes_are_shown_where_they_stand() {
    for (keys, said) in [
        (
            "decimal_mark = \"comma\", thousands = \"comma\"",
            "cannot be the decimal mark and the thousands mark",
        ),
        ("negatives = [\"credit\", \"debit\"]", "cannot both be below zero"),
        ("negatives = \"bracket\"", "nearest: \"brackets\""),
        ("thousands = \".\"", "is not a choice here"),
    ] {
        let answer = desk(&format!("[records.amounts]\nFigure = {{ decimals = 2, {keys} }}"), &[]).run_plan();
        assert_eq!(answer.code, 2);
        assert!(
            answer.err.contains(said) && answer.err.contains("plan.toml, line 6"),
            "{keys}: {}",
            answer.err
        );
    }
    let twice = "[records.amounts]\nFigure = { decimals = 2 }\n[records.numbers]\nFigure = { decimals = 2 }";
    let answer = desk(twice, &[]).run_plan();
    assert!(answer.err.contains("this column is read as amounts already"), "{}", answer.err);
}
