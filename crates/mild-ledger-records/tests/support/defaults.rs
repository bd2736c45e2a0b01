//! What each figure is by default, in one table: the command, a plan and SQL are held against it, and the library by hand.

#![allow(dead_code, unreachable_pub)] // each test file uses a part of it

/// A figure asked for without saying how, wherever it can be asked for.
#[derive(Debug)]
pub struct Default {
    pub figure: &'static str,
    /// What is chosen by default.
    pub choice: &'static str,
    /// A column of a plan over one row with the dates A and B, without its name.
    pub plan: Option<&'static str>,
    /// Arguments of `mild`, and the place of the figure in the object that it prints.
    pub command: Option<(&'static [&'static str], &'static str)>,
    pub sql: Option<&'static str>,
    pub gives: &'static str,
    /// What another choice would give, so that the example distinguishes them.
    pub otherwise: &'static str,
}

/// The dates A and B of the plan's row: a Tuesday and a Wednesday of one month, with 22 weekdays from the first to the last.
pub const ROW: (&str, &str) = ("2026-09-01", "2026-09-30");

pub const DEFAULTS: [Default; 9] = [
    Default {
        figure: "days between",
        choice: "ends = last",
        plan: Some("between = [\"A\", \"B\"]\ncount = \"days\""),
        command: Some((&["between", "2026-09-01", "2026-09-30"], "/days")),
        sql: Some("count_between(date '2026-09-01', date '2026-09-30', 'days')"),
        gives: "29",
        otherwise: "30",
    },
    Default {
        figure: "working days between",
        choice: "ends = first-and-last, saturday and sunday off",
        plan: Some("between = [\"A\", \"B\"]\ncount = \"working days\"\ncalendar = \"week\""),
        command: Some((
            &["between", "2026-09-01", "2026-09-30", "--calendar", "none"],
            "/working_days/count",
        )),
        sql: Some("working_days(date '2026-09-01', date '2026-09-30', 'none')"),
        gives: "22",
        otherwise: "21",
    },
    Default {
        figure: "complete months",
        choice: "month end = clamp",
        plan: Some("between = [2026-01-31, 2026-02-28]\ncount = \"complete months\""),
        command: Some((&["between", "2026-01-31", "2026-02-28"], "/complete/months")),
        sql: Some("count_between(date '2026-01-31', date '2026-02-28', 'complete months')"),
        gives: "1",
        otherwise: "0",
    },
    Default {
        figure: "a date moved by months",
        choice: "month end = clamp",
        plan: Some("from = 2026-01-31\nshift = \"1 month\""),
        command: Some((&["shift", "2026-01-31", "1 month"], "/date")),
        sql: Some("shifted(date '2026-01-31', '1 month')"),
        gives: "2026-02-28",
        otherwise: "2026-03-01",
    },
    Default {
        figure: "age on a 29 February birthday",
        choice: "leap day = clamp, 28 February",
        plan: Some("age = 2004-02-29\non = 2026-02-28"),
        command: None,
        sql: Some("age_on(date '2004-02-29', date '2026-02-28')"),
        gives: "22",
        otherwise: "21",
    },
    Default {
        figure: "a due date",
        choice: "roll = unadjusted: 2026-10-31 is a Saturday",
        plan: Some("from = 2026-10-01\nterms = \"net 30\""),
        command: Some((&["due", "2026-10-01", "net 30"], "/due")),
        sql: Some("due_date(date '2026-10-01', 'net 30')"),
        gives: "2026-10-31",
        otherwise: "2026-11-02",
    },
    Default {
        figure: "the number of the week",
        choice: "ISO 8601",
        plan: Some("field = \"iso week\"\nof = \"B\""),
        command: Some((&["periods", "2026-09-30", "--period", "week", "--gives", "number"], "")),
        sql: None,
        gives: "40",
        otherwise: "39",
    },
    Default {
        figure: "the first day of the week",
        choice: "weeks begin on monday",
        plan: Some("period = \"week\"\nof = \"B\"\ngives = \"first day\""),
        command: Some((&["periods", "2026-09-30", "--period", "week", "--gives", "first day"], "")),
        sql: Some("period_first(date '2026-09-30', 'week')"),
        gives: "2026-09-28",
        otherwise: "2026-09-27",
    },
    Default {
        figure: "the name of a fiscal year",
        choice: "the calendar year that it ends in",
        plan: Some(
            "period = \"fiscal year\"\nof = \"B\"\ngives = \"number\"\nfiscal_year_begins = \"april\"",
        ),
        command: Some((
            &[
                "periods",
                "2026-09-30",
                "--period",
                "fiscal year",
                "--gives",
                "number",
                "--fiscal-year-begins",
                "april",
            ],
            "",
        )),
        sql: None,
        gives: "2027",
        otherwise: "2026",
    },
];
