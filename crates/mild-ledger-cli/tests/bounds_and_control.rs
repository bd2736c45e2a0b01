//! What a plan expects of its records: bounds on values, and control totals.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use serde_json::json;
use support::{Desk, PLAN, RECORDS};

fn desk(bounds: &str, control: &str) -> Desk {
    let desk = Desk::with_records(RECORDS);
    let plan = PLAN.replacen("[[report]]", &format!("{bounds}\n[[report]]"), 1);
    desk.write(
        "plan.toml",
        plan.replacen("as_of = 2026-09-30", &format!("as_of = 2026-09-30\n{control}"), 1),
    );
    desk
}

/// The lines of the exceptions that a bound made.
fn flagged(desk: &Desk) -> Vec<String> {
    let lines = desk.read("exceptions.csv");
    lines.lines().filter(|line| line.contains("outside its bounds")).map(str::to_owned).collect()
}

#[test]
fn what_lies_outside_a_bound_is_flagged_and_kept() {
    let desk = desk("[[bound]]\ncolumn = \"Days\"\nat_most = 31\nat_least = 0", "");
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!((&json["rows"]["written"], &json["rows"]["set_aside"]), (&json!(4), &json!(0)));
    // 1 August to 30 September: 30 days of August and 30 of September.
    assert_eq!(
        flagged(&desk),
        ["records.csv,4,5,A4,Days,60,outside its bounds,at least 0 and at most 31,kept"]
    );
    assert_eq!(json["exceptions"][0]["reason"], "outside its bounds");
    assert!(desk.read("rows.csv").contains("A4,Cordage & Co.,2026-08-01,,9.75,60"));
}

#[test]
fn bounds_compare_with_dates_columns_and_the_as_of_date() {
    let against = |bound: &str| {
        let desk = desk(&format!("[[bound]]\n{bound}"), "");
        let answer = desk.run_plan();
        assert_eq!(answer.code, 0, "{bound}: {}", answer.err);
        flagged(&desk).iter().map(|line| line.split(',').nth(3).unwrap().to_owned()).collect::<Vec<_>>()
    };
    // A blank is in no bound and out of none.
    assert_eq!(against("column = \"Paid\"\nunder = 2026-09-01"), ["A3"]);
    assert_eq!(against("column = \"Paid\"\nat_least = { column = \"Issued\" }"), Vec::<String>::new());
    assert_eq!(against("column = \"Issued\"\nunder = \"as-of\""), ["A1"]);
    assert_eq!(against("column = \"Amount\"\nover = 50.25"), ["A2", "A4"]);
    assert_eq!(against("column = \"Customer\"\nis = \"Heron Charters\""), ["A3", "A4"]);
    let either = "column = \"Customer\"\nis = [\"Heron Charters\", \"Quay Stores\"]";
    assert_eq!(against(either), ["A3", "A4"]);
    let desk = desk(&format!("[[bound]]\n{either}"), "");
    assert_eq!(desk.run_plan().code, 0);
    assert!(flagged(&desk)[0].contains("is Heron Charters or is Quay Stores"), "{:?}", flagged(&desk));
}

#[test]
fn control_totals_are_held_against_what_was_read() {
    let good = desk("", "control = { rows = 4, Amount = \"230.00\" }");
    let answer = good.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.out.contains("Control total: 230.00 of Amount stated, 230.00 read."), "{}", answer.out);
    for (control, said) in [
        (
            "control = { rows = 5 }",
            "Doubtful: the control total is missed: 5 of rows stated, 4 read, a difference of -1.",
        ),
        ("control = { Amount = 230.5 }", "230.5 of Amount stated, 230.00 read, a difference of -0.50."),
    ] {
        let missed = desk("", control);
        let answer = missed.run_plan();
        assert_eq!(answer.code, 4, "{}", answer.err);
        assert!(answer.out.contains(said), "{}", answer.out);
        assert!(answer.err.contains("was missed"), "{}", answer.err);
        // The outputs stay: it is for people to say which of the two is wrong.
        assert!(missed.files().contains(&"rows.csv".to_owned()));
    }
    let with_json = desk("", "control = { Amount = \"1.00\" }").mild(&["run", "plan.toml", "--json"]);
    let object: serde_json::Value = serde_json::from_str(&with_json.out).unwrap();
    assert_eq!(
        object["control"],
        json!([{ "of": "Amount", "stated": "1.00", "read": "230.00", "agrees": false }])
    );
}

#[test]
fn mistakes_are_shown_where_they_stand() {
    for (bounds, control, said) in [
        ("[[bound]]\ncolumn = \"Dayz\"\nat_most = 1", "", "nearest: \"Days\""),
        ("[[bound]]\ncolumn = \"Days\"\nblank = true", "", "[[bound]] has no key blank"),
        ("[[bound]]\ncolumn = \"Days\"", "", "does not say what must hold"),
        ("", "control = { Customer = 5 }", "\"Customer\" holds text, no amounts"),
        ("", "control = { rows = \"many\" }", "a whole number"),
        ("", "control = { Amount = \"much\" }", "is not an amount"),
    ] {
        let answer = desk(bounds, control).run_plan();
        assert_eq!(answer.code, 2, "{bounds}{control}");
        assert!(answer.err.contains(said), "{bounds}{control}: {}", answer.err);
    }
}
