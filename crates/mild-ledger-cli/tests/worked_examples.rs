//! The same question asked of the library, the command and a plan: one answer.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use mild_ledger::{
    Anniversaries, Date, DateRange, Ends, FiscalYear, Interval, Measure, MonthEnd, PeriodRule, Rounding,
    Shift, WeekYear, Weekday,
};
use support::Desk;

/// Start, end, measure, ends, month end, figure.
const INTERVALS: [(&str, &str, &str, Ends, MonthEnd, &str); 24] = [
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
    ("2015-06-30", "2016-12-31", "fractional months", Ends::Last, MonthEnd::Clamp, "18.03"),
    ("2015-06-30", "2016-12-31", "fractional months", Ends::Last, MonthEnd::Keep, "18.00"),
    ("2024-01-31", "2024-03-01", "parts", Ends::Last, MonthEnd::Clamp, "1 month and 1 day"),
    ("2026-01-15", "2026-03-10", "calendar months", Ends::FirstAndLast, MonthEnd::Clamp, "1.87"),
    ("2026-03-15", "2026-05-14", "month starts passed", Ends::Last, MonthEnd::Clamp, "2"),
    ("2019-11-30", "2022-01-02", "days", Ends::Last, MonthEnd::Clamp, "764"),
    ("2019-11-30", "2022-01-02", "actual-365-fixed", Ends::Last, MonthEnd::Clamp, "2.0932"),
    ("2026-02-28", "2026-03-31", "30-360-bond", Ends::Last, MonthEnd::Clamp, "0.0917"),
    ("2026-02-28", "2026-03-31", "30e-360", Ends::Last, MonthEnd::Clamp, "0.0889"),
    ("2023-12-01", "2024-03-01", "actual-actual-isda", Ends::Last, MonthEnd::Clamp, "0.2489"),
];

fn by_library(start: Date, end: Date, measure: Measure, ends: Ends, rule: MonthEnd) -> String {
    let interval = Interval::between(start, end).with_month_end(rule).unwrap();
    let interval = interval.with_ends(ends).unwrap_or(interval);
    let decimal = |fraction: mild_ledger::Fraction, decimals| {
        fraction.to_decimal(decimals, Rounding::Nearest).unwrap().to_string()
    };
    match measure {
        Measure::Count(rule) => interval.count(rule).value().to_string(),
        Measure::Fractional(unit) => decimal(interval.fractional(unit), 2),
        Measure::CalendarMonths => decimal(interval.calendar_months(), 2),
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
            format!("{:.2}", part("whole") + part("numerator") / part("denominator"))
        }
        ["days"] => number(&json["days"]),
        ["calendar", "months"] => {
            let part = |key: &str| json["calendar_months"][key].as_f64().unwrap();
            format!("{:.2}", part("whole") + part("numerator") / part("denominator"))
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
    // The table of the rules for month ends, row by row, and what goes beyond it.
    let months = ["1 month", "2 months", "3 months"];
    let (january, february, april) = ("2026-01-31", "2026-02-28", "2026-04-30");
    let table = [
        (MonthEnd::Clamp, ["2026-02-28", "2026-03-31", "2026-04-30"], "2026-03-28", "2026-05-30"),
        (MonthEnd::Keep, ["2026-02-28", "2026-03-31", "2026-04-30"], "2026-03-31", "2026-05-31"),
        (MonthEnd::NextStart, ["2026-03-01", "2026-03-31", "2026-05-01"], "2026-03-28", "2026-05-30"),
        (MonthEnd::Refuse, ["", "2026-03-31", ""], "2026-03-28", "2026-05-30"),
    ];
    let mut moves = vec![
        ("2024-02-29", "1 year 1 month", MonthEnd::Clamp, "2025-03-29"),
        ("2026-01-31", "-2M", MonthEnd::Clamp, "2025-11-30"),
    ];
    for (rule, of_january, of_february, of_april) in table {
        moves.extend(
            months.iter().zip(of_january).map(|(amount, expected)| (january, *amount, rule, expected)),
        );
        moves.extend([(february, "1 month", rule, of_february), (april, "1 month", rule, of_april)]);
    }
    for (start, amount, rule, expected) in moves {
        if expected.is_empty() {
            assert!(
                amount.parse::<Shift>().unwrap().with_month_end(rule).apply(start.parse().unwrap()).is_err()
            );
            assert_eq!(desk.mild(&["shift", start, amount, "--month-end", rule.word()]).code, 2);
            let column = format!("from = \"Start\"\nshift = \"{amount}\"\nmonth_end = \"{rule}\"");
            assert_eq!(by_plan([start, ""], &column), "");
            continue;
        }
        let shift = amount.parse::<Shift>().unwrap().with_month_end(rule);
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
    assert!(desk.run_plan().out.contains("days, both ends counted"));
    assert!(Desk::with_records(support::RECORDS).run_plan().out.contains("days, start not counted"));
}

#[test]
fn periods_are_the_same_however_they_are_asked_for() {
    let desk = Desk::new();
    let fiscal = FiscalYear::starting(10, 1).unwrap();
    for (day, kind, key, rule, label, last) in [
        (
            "2026-09-30",
            "fiscal quarter",
            "fiscal_quarter",
            PeriodRule::FiscalQuarter(fiscal),
            "FY2026-Q4",
            "2026-09-30",
        ),
        (
            "2026-10-01",
            "fiscal quarter",
            "fiscal_quarter",
            PeriodRule::FiscalQuarter(fiscal),
            "FY2027-Q1",
            "2026-12-31",
        ),
        ("2026-10-01", "fiscal year", "fiscal_year", PeriodRule::FiscalYear(fiscal), "FY2027", "2027-09-30"),
        (
            "2021-01-03",
            "week-year",
            "week_year",
            PeriodRule::WeekYear(WeekYear::iso()),
            "2020 week-year",
            "2021-01-03",
        ),
        ("2021-01-03", "week", "week", PeriodRule::Week(Weekday::Monday), "2020-W53", "2021-01-03"),
        ("2024-02-10", "month", "month", PeriodRule::Month, "2024-02", "2024-02-29"),
        ("2026-09-30", "half-year", "half_year", PeriodRule::HalfYear, "2026-H2", "2026-12-31"),
    ] {
        let period = rule.containing(day.parse().unwrap());
        assert_eq!((period.label().as_str(), period.last_day().unwrap().to_string().as_str()), (label, last));
        let json = desk.mild(&["periods", day, "--fiscal-year-begins", "10", "--json"]).json();
        assert_eq!(
            (&json["periods"][key]["label"], &json["periods"][key]["last"]),
            (&label.into(), &last.into())
        );
        let column = format!("period = \"{kind}\"\nof = \"Start\"\nfiscal_year_begins = \"10\"\n");
        assert_eq!(by_plan([day, ""], &format!("{column}gives = \"label\"")), label);
        assert_eq!(by_plan([day, ""], &format!("{column}gives = \"last day\"")), last);
    }
}

#[test]
fn ages_anniversaries_and_splits_are_the_same_however_they_are_asked_for() {
    let desk = Desk::new();
    for (rule, age, next) in [(MonthEnd::Clamp, 22, "2027-02-28"), (MonthEnd::NextStart, 21, "2026-03-01")] {
        let born = Anniversaries::of("2004-02-29".parse().unwrap()).with_leap_day(rule).unwrap();
        assert_eq!(born.age_on("2026-02-28".parse().unwrap()).unwrap().value(), age);
        let years =
            desk.mild(&["between", "2004-02-29", "2026-02-28", "--month-end", rule.word(), "--json"]).json();
        assert_eq!(years["complete"]["years"], age);
        let column = format!("age = \"Start\"\non = \"End\"\nleap_day = \"{rule}\"");
        assert_eq!(by_plan(["2004-02-29", "2026-02-28"], &column), age.to_string());
        let found = born.next_on_or_after("2026-03-01".parse().unwrap()).unwrap();
        assert_eq!(found.date().to_string(), next);
        let column = format!("anniversary = \"Start\"\non_or_after = \"End\"\nleap_day = \"{rule}\"");
        assert_eq!(by_plan(["2004-02-29", "2026-03-01"], &column), next);
    }
    // From 2026-11-12 for three months: 4 January and 11 February lie in it, 12 February does not.
    let window = DateRange::months_from("2026-11-12".parse().unwrap(), 3).unwrap();
    for (start, next, inside) in [
        ("2020-01-04", "2027-01-04", true),
        ("2020-02-11", "2027-02-11", true),
        ("2020-02-12", "2027-02-12", false),
    ] {
        assert_eq!(Anniversaries::of(start.parse().unwrap()).within(window).count() == 1, inside);
        assert_eq!(by_plan([start, "2026-11-12"], "anniversary = \"Start\"\non_or_after = \"End\""), next);
    }
    let split = desk.mild(&[
        "between",
        "2026-01-15",
        "2026-03-10",
        "--ends",
        "first-and-last",
        "--split",
        "month",
        "--json",
    ]);
    let days: Vec<_> =
        split.json()["split"].as_array().unwrap().iter().map(|share| share["days"].clone()).collect();
    assert_eq!(days, [17, 28, 10]);
    let february = "between = [\"Start\", \"End\"]\ncount = \"days\"\nends = \"first-and-last\"\nwithin = \"last month\"";
    // The plan's as-of date is 2026-09-30, so last month is August.
    assert_eq!(by_plan(["2026-07-15", "2026-09-10"], february), "31");
}
