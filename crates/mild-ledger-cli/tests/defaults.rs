//! Without a stated choice, the library, a plan and the command choose the same; SQL is held against the same table in `engine/`.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

#[path = "../../mild-ledger-records/tests/support/defaults.rs"]
mod defaults;
mod support;

use defaults::{DEFAULTS, Default, ROW};
use mild_ledger::{
    Anniversaries, Date, Ends, FiscalYear, Interval, PaymentTerms, PeriodRule, Shift, Unit, Weekday,
    WorkCalendar,
};
use support::Desk;

fn date(text: &str) -> Date {
    text.parse().unwrap()
}

/// What the library gives, called without a choice.
fn of_library(figure: &str) -> String {
    let row = Interval::between(date(ROW.0), date(ROW.1));
    let month_ends = Interval::between(date("2026-01-31"), date("2026-02-28"));
    match figure {
        "days between" => row.days().value().to_string(),
        "working days between" => {
            let week = WorkCalendar::rest_days_only("saturday, sunday".parse().unwrap());
            week.count_working_days(row, Ends::OF_WORKING_DAYS).unwrap().to_string()
        }
        "complete months" => month_ends.complete(Unit::Month).value().to_string(),
        "a date moved by months" => Shift::months(1).apply(date("2026-01-31")).unwrap().to_string(),
        "age on a 29 February birthday" => {
            Anniversaries::of(date("2004-02-29")).age_on(date("2026-02-28")).unwrap().value().to_string()
        }
        "a due date" => {
            "net 30".parse::<PaymentTerms>().unwrap().due(date("2026-10-01")).unwrap().to_string()
        }
        "the number of the week" => {
            PeriodRule::Week(Weekday::Monday).containing(date(ROW.1)).number().to_string()
        }
        "the first day of the week" => {
            PeriodRule::Week(Weekday::Monday).containing(date(ROW.1)).first_day().unwrap().to_string()
        }
        "the name of a fiscal year" => PeriodRule::FiscalYear(FiscalYear::starting(4, 1).unwrap())
            .containing(date(ROW.1))
            .number()
            .to_string(),
        other => panic!("{other} is not in the test"),
    }
}

/// What a plan gives that says no more than the figure.
fn of_plan(desk: &Desk, column: &str) -> String {
    let plan = format!(
        "plan = 1\n[records]\nfile = \"records.csv\"\n[records.dates]\nA = \"iso\"\nB = \"iso\"\n[calendar.week]\n\
         [[column]]\nname = \"Figure\"\n{column}\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\ncolumns = [\"Figure\"]\n"
    );
    desk.write("plan.toml", &plan);
    let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert_eq!(answer.code, 0, "{plan}{}", answer.err);
    desk.read("rows.csv").lines().nth(1).unwrap().to_owned()
}

/// What the command gives: a place of its object, or its one line.
fn of_command(desk: &Desk, (arguments, place): (&[&str], &str)) -> String {
    if place.is_empty() {
        let answer = desk.mild(arguments);
        assert_eq!(answer.code, 0, "{}", answer.err);
        return answer.out.trim().to_owned();
    }
    let object = desk.mild(&[arguments, &["--json"]].concat()).json();
    match object.pointer(place) {
        Some(serde_json::Value::String(text)) => text.clone(),
        Some(value) => value.to_string(),
        None => panic!("there is no {place} in {object}"),
    }
}

#[test]
fn without_a_stated_choice_all_choose_the_same() {
    let desk = Desk::with_records(format!("A,B\n{},{}\n", ROW.0, ROW.1));
    for Default { figure, choice, plan, command, gives, otherwise, .. } in &DEFAULTS {
        assert_ne!(gives, otherwise, "{figure}: the example does not tell {choice} apart");
        assert_eq!(of_library(figure), *gives, "{figure} of the library: {choice}");
        if let Some(column) = plan {
            assert_eq!(of_plan(&desk, column), *gives, "{figure} of a plan: {choice}");
        }
        if let Some(command) = command {
            assert_eq!(of_command(&desk, *command), *gives, "{figure} of the command: {choice}");
        }
    }
}
