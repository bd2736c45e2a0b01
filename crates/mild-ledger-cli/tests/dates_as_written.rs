//! Dates of records as people and programs write them, each named in the plan.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use support::Desk;

fn plan(dates: &str) -> String {
    format!(
        "plan = 1\n[records]\nfile = \"records.csv\"\nkey = \"Job\"\n[records.dates]\n{dates}\n\
         [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"
    )
}

/// The dates of a column, as a run wrote them, and what it listed.
fn dates_of(column: &str, texts: &[&str]) -> (Vec<String>, String) {
    let desk = Desk::new();
    desk.write("plan.toml", plan(column));
    let rows: String = texts.iter().zip(1..).map(|(text, nth)| format!("J{nth},\"{text}\"\n")).collect();
    desk.write("records.csv", format!("Job,Done\n{rows}"));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let rows = desk.read("rows.csv");
    let dates = rows.lines().skip(1).map(|row| row.split_once(',').unwrap().1.to_owned()).collect();
    (dates, desk.read("exceptions.csv"))
}

#[test]
fn each_way_of_writing_is_named_in_the_plan() {
    for (column, texts, expected) in [
        (
            "Done = { pattern = \"day/month/short-year\", pivot = 1950 }",
            ["30/09/26", "1/1/50"],
            ["2026-09-30", "1950-01-01"],
        ),
        (
            "Done = { pattern = \"day. month-name year\", language = \"german\" }",
            ["30. März 2026", "1. Dez. 2026"],
            ["2026-03-30", "2026-12-01"],
        ),
        (
            "Done = { pattern = \"year-month\", day = \"last\" }",
            ["2026-02", "2024-02"],
            ["2026-02-28", "2024-02-29"],
        ),
        (
            "Done = { pattern = \"quarter year\", day = \"first\" }",
            ["Q3 2026", "q1 2026"],
            ["2026-07-01", "2026-01-01"],
        ),
        (
            "Done = { pattern = \"serial 1900\", time = \"drop\" }",
            ["46295", "46295.75"],
            ["2026-09-30", "2026-09-30"],
        ),
        (
            "Done = { pattern = [\"day/month/year\", \"iso\"] }",
            ["30/09/2026", "2026-09-30"],
            ["2026-09-30", "2026-09-30"],
        ),
        // What comes after a pattern in brackets is of that pattern alone.
        (
            "Done = [\"year-month (last day)\", \"day/month/short-year (years 1950 to 2049)\"]",
            ["2026-02", "30/09/26"],
            ["2026-02-28", "2026-09-30"],
        ),
        ("Done = { pattern = \"iso\", blank = [\"-\", \"n/a\"] }", [" N/A ", "-"], ["", ""]),
        (
            "Done = { pattern = \"seconds since 1970\", zone = \"Pacific/Auckland\", time = \"drop\" }",
            ["1790769600", "0"],
            ["2026-10-01", "1970-01-01"],
        ),
        (
            "Done = { pattern = \"iso\", time = \"keep\" }",
            ["2026-09-30 2:30 pm", "2026-09-30"],
            ["2026-09-30T14:30:00", "2026-09-30T00:00:00"],
        ),
        (
            "Done = { pattern = \"iso\", true_dates = [9999-12-31] }",
            ["9999-12-31", "1899-12-30"],
            ["9999-12-31", ""],
        ),
    ] {
        assert_eq!(dates_of(column, &texts).0, expected, "{column}");
    }
}

#[test]
fn fillers_of_the_plan_and_contradictions_are_listed_with_their_rows() {
    let (dates, exceptions) =
        dates_of("Done = { pattern = \"iso\", fillers = [2099-01-01] }", &["2099-01-01", "2026-09-30"]);
    assert_eq!(dates, ["", "2026-09-30"]);
    assert!(exceptions.contains("2099-01-01, which the plan takes for no date"), "{exceptions}");
    let both = "Done = { pattern = [\"day/month/year\", \"month/day/year\"] }";
    let (dates, exceptions) = dates_of(both, &["30/09/2026", "09/30/2026", "01/02/2026"]);
    assert_eq!(dates, ["2026-09-30", "2026-09-30", ""]);
    assert!(exceptions.contains("one pattern reads it as 2026-02-01, another as 2026-01-02"), "{exceptions}");
}

#[test]
fn mistakes_beside_a_pattern_are_shown_where_they_stand() {
    for (column, said) in [
        ("Done = { pattern = \"day/month/short-year\" }", "unless a pivot is named"),
        ("Done = { pattern = \"day/month/year\", language = \"germann\" }", "nearest: \"german\""),
        ("Done = { pattern = \"year-month\" }", "the period's first or last day"),
        ("Done = { pattern = [] }", "this list has no pattern"),
        ("Done = { pattern = \"day/month/year\", pivot = 12000 }", "a whole number from 1 to 9900"),
        ("Done = { pattern = \"day/month/short-year\", pivot = 50 }", "such as pivot = 1950"),
        ("Done = { pattern = \"iso\", fillers = [\"1950\"] }", "a list of dates such as [1950-01-01]"),
        ("Done = { pattern = \"dd.mm.yy\" }", "nearest: \"day.month.short-year\""),
    ] {
        let desk = Desk::new();
        desk.write("plan.toml", plan(column));
        desk.write("records.csv", "Job,Done\n");
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2);
        assert!(
            answer.err.contains(said) && answer.err.contains("plan.toml, line 6"),
            "{column}: {}",
            answer.err
        );
    }
}
