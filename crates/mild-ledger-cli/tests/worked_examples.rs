//! The same question asked of the library, the command and a plan: one answer.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use mild_ledger::{Date, Ends, Interval, Measure, MonthEnd, Rounding, Shift};
use support::Desk;

/// Start, end, measure, ends, month end, figure.
const INTERVALS: [(&str, &str, &str, Ends, MonthEnd, &str); 17] = [
    ("2019-11-30", "2022-01-02", "complete years", Ends::Last, MonthEnd::Clamp, "2"),
    ("2019-11-30", "2022-01-02", "complete months", Ends::Last, MonthEnd::Clamp, "25"),
    ("2019-11-30", "2022-01-02", "year starts passed", Ends::Last, MonthEnd::Clamp, "3"),
    ("2019-11-30", "2022-01-02", "month starts passed", Ends::Last, MonthEnd::Clamp, "26"),
    ("2019-11-30", "2022-01-02", "fractional months", Ends::Last, MonthEnd::Clamp, "25.10"),
    ("2026-01-31", "2026-02-28", "complete months", Ends::Last, MonthEnd::Clamp, "1"),
    ("2024-01-31", "2024-02-28", "complete months", Ends::Last, MonthEnd::Clamp, "0"),
    ("2026-03-15", "2026-05-14", "complete months", Ends::Last, MonthEnd::Clamp, "1"),
    ("2026-05-14", "2026-03-15", "complete months", Ends::Last, MonthEnd::Clamp, "-1"),
    ("2026-02-28", "2026-08-31", "parts", Ends::Last, MonthEnd::Clamp, "6 months and 3 days"),
    ("2026-02-28", "2026-08-31", "parts", Ends::Last, MonthEnd::Keep, "6 months"),
    ("2012-05-20", "2021-07-04", "parts", Ends::Last, MonthEnd::Clamp, "9 years, 1 month and 14 days"),
    ("2016-02-29", "2026-11-23", "parts", Ends::Last, MonthEnd::Clamp, "10 years, 8 months and 25 days"),
    ("2026-01-01", "2026-12-31", "complete years", Ends::FirstAndLast, MonthEnd::Clamp, "1"),
    ("2026-02-28", "2026-03-31", "30-360-bond", Ends::Last, MonthEnd::Clamp, "0.0917"),
    ("2026-02-28", "2026-03-31", "30e-360", Ends::Last, MonthEnd::Clamp, "0.0889"),
    ("2023-12-01", "2024-03-01", "actual-actual-isda", Ends::Last, MonthEnd::Clamp, "0.2489"),
];

fn by_library(start: Date, end: Date, measure: Measure, ends: Ends, rule: MonthEnd) -> String {
    let interval = Interval::between(start, end).month_end(rule).unwrap();
    let interval = if ends == Ends::FirstAndLast { interval.through_last_day() } else { interval };
    let decimal = |fraction: mild_ledger::Fraction, decimals| {
        fraction.to_decimal(decimals, Rounding::Nearest).unwrap().to_string()
    };
    match measure {
        Measure::Count(rule) => interval.count(rule).value().to_string(),
        Measure::Fractional(unit) => decimal(interval.fractional(unit), 2),
        Measure::YearFraction(convention) => decimal(interval.year_fraction(convention), 4),
        _ => interval.parts().to_string(),
    }
}

/// The same figure in the command's JSON.
fn by_command(desk: &Desk, start: &str, end: &str, measure: &str, ends: Ends, rule: MonthEnd) -> String {
    let json = desk
        .mild(&["between", start, end, "--ends", ends.word(), "--month-end", rule.word(), "--json"])
        .json();
    let words: Vec<&str> = measure.split(' ').collect();
    let number = |value: &serde_json::Value| value.as_i64().unwrap().to_string();
    match words.as_slice() {
        ["complete", units] => number(&json["complete"][units]),
        [unit, "starts", "passed"] => number(&json["starts_passed"][format!("{unit}s")]),
        // The command gives the exact fraction; the plan writes two decimals of it.
        ["fractional", units] => {
            let exact = &json["fractional"][units];
            let part = |key: &str| exact[key].as_f64().unwrap();
            format!("{:.2}", part("whole") + part("over") / part("of"))
        }
        ["parts"] => json["sentence"].as_str().unwrap().to_owned(),
        _ => json["day_count"][measure]["decimal"].as_str().unwrap().to_owned(),
    }
}

/// What a plan writes into a column of its own, for one record.
fn by_plan(fields: [&str; 2], column: &str) -> String {
    let desk = Desk::new();
    desk.write("records.csv", format!("Start,End\n{},{}\n", fields[0], fields[1]));
    desk.write("plan.toml", format!("plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"records.csv\"\n[records.dates]\nStart = \"iso\"\nEnd = \"iso\"\n[[column]]\nname = \"It\"\n{column}\n[output]\nrows = \"rows.csv\"\ncolumns = [\"It\"]\n"));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    desk.read("rows.csv").lines().nth(1).unwrap().trim_matches('"').to_owned()
}

#[test]
fn intervals_are_the_same_however_they_are_asked_for() {
    let desk = Desk::new();
    for (start, end, measure, ends, rule, expected) in INTERVALS {
        let what = format!("{measure} from {start} to {end}");
        let dates = (start.parse().unwrap(), end.parse().unwrap());
        assert_eq!(
            by_library(dates.0, dates.1, measure.parse().unwrap(), ends, rule),
            expected,
            "{what}, library"
        );
        assert_eq!(by_command(&desk, start, end, measure, ends, rule), expected, "{what}, command");
        let column = format!(
            "between = [\"Start\", \"End\"]\ncount = \"{measure}\"\nends = \"{ends}\"\nmonth_end = \"{rule}\""
        );
        assert_eq!(by_plan([start, end], &column), expected, "{what}, plan");
    }
}

#[test]
fn moves_are_the_same_however_they_are_asked_for() {
    let desk = Desk::new();
    for (start, amount, rule, expected) in [
        ("2026-01-31", "1 month", MonthEnd::Clamp, "2026-02-28"),
        ("2026-02-28", "1 month", MonthEnd::Keep, "2026-03-31"),
        ("2026-01-31", "3 months", MonthEnd::NextStart, "2026-05-01"),
        ("2026-01-31", "2 months", MonthEnd::Refuse, "2026-03-31"),
        ("2024-02-29", "1 year 1 month", MonthEnd::Clamp, "2025-03-29"),
        ("2026-01-31", "-2mo", MonthEnd::Clamp, "2025-11-30"),
    ] {
        let shift = amount.parse::<Shift>().unwrap().month_end(rule);
        assert_eq!(shift.apply(start.parse().unwrap()).unwrap().to_string(), expected);
        let json = desk.mild(&["shift", start, amount, "--month-end", rule.word(), "--json"]).json();
        assert_eq!(json["date"], expected);
        let column = format!("from = \"Start\"\nshift = \"{amount}\"\nmonth_end = \"{rule}\"");
        assert_eq!(by_plan([start, ""], &column), expected);
    }
}

#[test]
fn a_run_says_which_ends_its_figures_count() {
    let desk = Desk::with_plan("count   = \"days\"", "count   = \"days\"\nends    = \"first-and-last\"");
    assert!(desk.run_plan().out.contains("days, ends first-and-last"));
    assert!(Desk::with_records(support::RECORDS).run_plan().out.contains("days, ends last"));
}
