//! Columns that a plan adds: intervals in every measure, moves, periods, ages, stays, and windows to select by.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

const STAFF: &str = "Name,Born,Hired,Left
Ada,1984-02-29,2009-05-18,
Bo,1991-12-03,2018-01-31,2026-02-28
Cleo,2001-07-30,2026-10-05,
Dov,,2024-02-29,soon
Eve,2027-01-01,2025-09-30,2026-12-31
";

/// The last column of the rows that a plan over the staff writes, its header first.
fn last_column(column: &str) -> Vec<String> {
    let desk = desk_with(column);
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 0, "{column}\n{}", answer.err);
    let rows = desk.read("rows.csv");
    rows.lines().map(|line| line.split(',').skip(4).collect::<Vec<_>>().join(",")).skip(1).collect()
}

fn desk_with(column: &str) -> Desk {
    let desk = Desk::new();
    desk.write("staff.csv", STAFF);
    desk.write("plan.toml", format!("plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"staff.csv\"\n[records.dates]\nBorn = \"iso\"\nHired = \"iso\"\nLeft = \"iso\"\n[[column]]\nname = \"It\"\n{column}\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"));
    desk
}

#[test]
fn intervals_in_every_measure() {
    let hired = |rest: &str| last_column(&format!("between = [\"Hired\", \"as-of\"]\n{rest}"));
    assert_eq!(hired("count = \"days\""), ["6344", "3164", "-5", "944", "365"]);
    assert_eq!(hired("count = \"days\"\nends = \"first-and-last\""), ["6345", "3165", "-6", "945", "366"]);
    assert_eq!(hired("count = \"complete months\""), ["208", "104", "0", "31", "12"]);
    assert_eq!(
        hired("count = \"complete months\"\nends = \"first-and-last\""),
        ["208", "104", "0", "31", "12"]
    );
    assert_eq!(hired("count = \"complete years\"\nmonth_end = \"next-start\""), ["17", "8", "0", "2", "1"]);
    assert_eq!(hired("count = \"fractional years\""), ["17.37", "8.66", "-0.01", "2.59", "1.00"]);
    assert_eq!(
        hired("count = \"fractional months\"\ndecimals = 0\nrounding = \"up\""),
        ["209", "104", "-1", "32", "12"]
    );
    assert_eq!(
        hired("count = \"actual-360\"\nrounding = \"truncate\""),
        ["17.6222", "8.7888", "-0.0138", "2.6222", "1.0138"]
    );
    assert_eq!(
        hired("count = \"week starts passed\"\nweek_starts = \"sunday\""),
        ["906", "452", "-1", "135", "52"]
    );
    // Text of our own is guarded as well: a spreadsheet would take the minus for a formula.
    assert_eq!(hired("count = \"parts\"")[1..3], ["8 years and 8 months", "'-5 days"]);
}

#[test]
fn stays_and_ages() {
    let stay = |rest: &str| last_column(&format!("tenure = [\"Hired\", \"Left\"]\n{rest}"));
    // Cleo has not begun; when Dov left cannot be read; Eve's end has not come.
    assert_eq!(stay("count = \"complete months\""), ["208", "97", "", "", "12"]);
    let parts = stay("count = \"parts\"");
    assert_eq!(parts, ["\"17 years, 4 months and 12 days\"", "8 years and 1 month", "", "", "1 year"]);
    assert_eq!(last_column("tenure = \"Hired\"\ncount = \"complete years\""), ["17", "8", "", "2", "1"]);
    assert_eq!(last_column("age = \"Born\""), ["42", "34", "25", "", ""]);
    assert_eq!(last_column("age = \"Born\"\non = 2026-02-28"), ["42", "34", "24", "", ""]);
    assert_eq!(
        last_column("age = \"Born\"\non = 2026-02-28\nleap_day = \"next-start\""),
        ["41", "34", "24", "", ""]
    );
    assert_eq!(last_column("age = \"Born\"\non = \"Hired\""), ["25", "26", "25", "", ""]);
    let desk = desk_with("age = \"Born\"");
    assert_eq!(desk.run_plan().code, 0);
    assert_snapshot!(desk.read("exceptions.csv"));
}

#[test]
fn moves_periods_and_the_first_of_several_dates() {
    let hired = |rest: &str| last_column(&format!("from = \"Hired\"\n{rest}"));
    assert_eq!(hired("weekday = \"on or after monday\"")[..2], ["2009-05-18", "2018-02-05"]);
    assert_eq!(hired("shift = \"1 month\"\nweekday = \"before friday\"")[..2], ["2009-06-12", "2018-02-23"]);
    let period = |rest: &str| last_column(&format!("of = \"Hired\"\n{rest}"));
    assert_eq!(
        period("period = \"month\"\ngives = \"last day\""),
        ["2009-05-31", "2018-01-31", "2026-10-31", "2024-02-29", "2025-09-30"]
    );
    assert_eq!(
        period("period = \"month\"\ngives = \"first day\"\naway = 1")[..2],
        ["2009-06-01", "2018-02-01"]
    );
    assert_eq!(
        period("period = \"quarter\"\ngives = \"label\""),
        ["2009-Q2", "2018-Q1", "2026-Q4", "2024-Q1", "2025-Q3"]
    );
    assert_eq!(
        period("period = \"fiscal quarter\"\ngives = \"label\"\nfiscal_starts = \"10\"")[2],
        "FY2027-Q1"
    );
    assert_eq!(
        period(
            "period = \"fiscal year\"\ngives = \"label\"\nfiscal_starts = \"10\"\nfiscal_named = \"begin\""
        )[2],
        "FY2026"
    );
    assert_eq!(period("period = \"week\"\ngives = \"number\"")[0], "21");
    assert_eq!(period("period = \"year\"\ngives = \"days\"")[3], "366");
    assert_eq!(
        period("period = \"week-year\"\ngives = \"first day\"\nweek_years = \"last saturday of january\"")[2],
        "2026-02-01"
    );
    assert_eq!(period("period = \"month\"\ngives = \"label\"\npattern = \"%b %Y\"")[0], "May 2009");
    // When Dov left could not be read, so the day he was hired does not take its place.
    assert_eq!(
        last_column("first_of = [\"Left\", \"Hired\"]"),
        ["2009-05-18", "2026-02-28", "2026-10-05", "", "2026-12-31"]
    );
}

#[test]
fn rows_selected_by_days_named_from_the_as_of_date() {
    let select = |window: &str| {
        let desk = desk_with("age = \"Born\"");
        let plan = desk.read("plan.toml").replace(
            "[[column]]",
            &format!("[[select]]\ncolumn = \"Hired\"\nwithin = \"{window}\"\n[[column]]"),
        );
        desk.write("plan.toml", plan);
        let answer = desk.run_plan();
        assert_eq!(answer.code, 0, "{}", answer.err);
        let names: Vec<String> =
            desk.read("rows.csv").lines().skip(1).map(|line| line[..2].to_owned()).collect();
        let note = answer.out.lines().find(|line| line.contains(" within ")).unwrap().trim().to_owned();
        (names.join(" "), note)
    };
    assert_eq!(
        select("next month"),
        ("Cl".to_owned(), "Note: \"Hired\" within next month: 2026-10-01 to 2026-10-31.".to_owned())
    );
    assert_eq!(select("last 12 months").0, "");
    assert_eq!(select("last 366 days").0, "Ev");
    assert_eq!(select("year to date").0, "");
    assert_eq!(select("last year").0, "Ev");
}

#[test]
fn mistakes_in_these_columns() {
    let said = |column: &str| {
        let answer = desk_with(column).run_plan();
        assert_eq!(answer.code, 2, "{column}");
        answer.err
    };
    assert_snapshot!(said("between = [\"Hired\", \"as-of\"]\ncount = \"years\""));
    assert_snapshot!(said("between = [\"Hired\", \"as-of\"]\ncount = \"days\"\ndecimals = 2"));
    assert_snapshot!(said("between = [\"Hired\", \"as-of\"]\ncount = \"days\"\nends = \"both\""));
    assert_snapshot!(said("period = \"month\"\nof = \"Hired\"\ngives = \"first day\"\npattern = \"%b\""));
    assert_snapshot!(said("period = \"months\"\nof = \"Hired\"\ngives = \"first day\""));
    assert_snapshot!(said(
        "period = \"fiscal year\"\nof = \"Hired\"\ngives = \"number\"\nfiscal_starts = \"02-30\""
    ));
    assert_snapshot!(said("tenure = [\"Hired\"]\ncount = \"days\""));
    assert_snapshot!(said("age = \"Name\""));
    assert_snapshot!(said("first_of = [\"Hired\"]"));
    assert_snapshot!(said("from = \"Hired\"\nmonth_end = \"keep\""));
}

#[test]
fn a_made_up_number_is_no_amount_for_an_aging() {
    let desk = desk_with(
        "between = [\"Hired\", \"as-of\"]\ncount = \"days\"\n[[column]]\nname = \"Band\"\nbucket = \"It\"\nedges = [0]\n[[column]]\nname = \"Years\"\nbetween = [\"Hired\", \"as-of\"]\ncount = \"fractional years\"\n[[report]]\nkind = \"aging\"\nband = \"Band\"\namount = \"Years\"",
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 2);
    assert!(answer.err.contains("a column named under [records.amounts]"), "{}", answer.err);
    let json = desk_with("tenure = \"Hired\"\ncount = \"days\"").mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(
        json["exceptions"][0],
        json!({"reason": "unreadable date", "outcome": "cell left empty", "count": 1})
    );
}
