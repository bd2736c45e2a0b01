//! Columns that lines of words define, and the tables that say the same.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // a test fails by panicking

use mild_ledger_records::{ColumnLine, ConditionLine, GroupLine, Plan, PlanMistakes};
use proptest::prelude::*;

/// Lines of every kind, as people write them.
const LINES: [&str; 60] = [
    "Days = working days from Ordered to Shipped on england-wales",
    "Days = Working Days between Ordered and \"Sent to customer\", ends last",
    "days from Issued to Paid",
    "Open = days since Issued",
    "Left = days until Due",
    "Months = complete months from Start to as-of",
    "Starts = month starts passed from Start to 2026-09-30",
    "Years = fractional years since Start, 1 decimal",
    "Year part = actual-360 from Start to End, decimals 6, rounding truncate",
    "Hours = working hours from Opened to Closed on yard",
    "Last month = days from Start to End, within last month, ends first-and-last",
    "Parts = parts from Start to End, month end keep, gives years",
    "Due = Issued + 2 months, month end",
    "Due = Issued + 10 working days on yard",
    "Due = Issued + Term in days",
    "Due = Issued + column Notice, following on yard",
    "Begin = Shipped - Lead time in working days on yard",
    "Before = Shipped - 1 year 2 months",
    "Review = 6 months after Start, month end keep",
    "Warned = 30 days before Ends",
    "First = month start of Issued",
    "Close = fiscal year end of Issued, fiscal year begins april",
    "Visit = on or after monday from Issued",
    "Paid out = Due rolled modified-following on column Site",
    "Then = Issued + 1 month, month end, on or before friday",
    "Due = net 30 from Issued",
    "Due = 2/10 net 30 EOM from Issued, following on yard",
    "Discount = discount date of Issued under 2/10 net 30",
    "Due = due date of Issued under column Terms",
    "Band = bucket of Days overdue by 0, 30, 60, 90",
    "Band = bucket of Days overdue, edges 0, 30, labels Not due, Late, Very late",
    "Ages = bucket of Age from 25, 35.5, 45, lowest 18",
    "Reminder = send when Days overdue at least 15 and Amount over 50, else wait",
    "Flag = when Paid is blank or Paid over column Due then \"late, or open\" else column State",
    "Flag = yes when (Site is Quay or Site is \"Old Quay\") and Issued within last month",
    "Stamp = as-of when Paid is unreadable",
    "Period = label of fiscal quarter of Issued, fiscal year begins apr-6, pattern \"{fiscal_year} Q{fiscal_quarter}\"",
    "Month = Issued by month",
    "Before = first day of the month of Issued, away -1",
    "Near = nearest start of month of Issued, nearest by middle",
    "Day = weekday of Issued",
    "Week = iso week of Issued",
    "Sunday week = week of Issued, weeks \"sunday first, at least 1 day\"",
    "Hour = hour of Opened",
    "Age = age of Date of birth",
    "Age = age of Born on 2026-12-31, leap day next-start",
    "Next = next anniversary of Start",
    "Nth = anniversary of Start on or after 2026-01-01, gives number",
    "Rate = Repairs per month since Bought, smallest 1",
    "Rate = Visits per mean year of 365.25 days from Joined to Left",
    "Service = tenure from Hired to Left in complete years",
    "Service = tenure since Hired in parts",
    "End = first of Paid, Closed, as-of",
    "Open day = Issued is a working day on yard",
    "Kind = kind of day of Issued",
    "Close = working day of the month of Issued on yard",
    "As of = as-of",
    "Note = \"checked by hand\"",
    "Net = Amount - Discount",
    "Price = Amount / Age, 4 decimals",
];

#[test]
fn lines_of_every_kind_are_tables_of_a_plan() {
    let table = |line: &str| match ColumnLine::read(line) {
        Ok(read) => format!("{line}\n{}", read.plan_text()),
        Err(wrong) => format!("{line}\n{wrong}\n"),
    };
    insta::assert_snapshot!(LINES.map(table).join("\n"));
}

#[test]
fn a_mistake_in_a_line_has_its_place_and_the_nearest_words() {
    const WRONG: [&str; 19] = [
        "",
        "Days =",
        "= days from A to B",
        "Days = wroking days from Ordered to Shipped",
        "Days = days from Ordered",
        "Days = Ordered",
        "Days = days from \"Ordered to Shipped",
        "Days = days from Ordered to Shipped, end last",
        "Days = days from Ordered to Shipped, decimals",
        "Days = days from Ordered to Shipped,",
        "Days = days from Ordered to Shipped, ends last, ends first",
        "Due = Issued + 2 moths",
        "Band = bucket of Days by 0, thirty",
        "Band = bucket of Days by 30, 0",
        "Week = week of Issued, weeks sunday first, at least 1 day",
        "Note = send when Amount above 5",
        "Note = send when Amount over 5 and Paid is blank or Site is Quay",
        "Note = send when Paid is blank today",
        "Note = send when Amount over",
    ];
    let said = |line: &str| {
        let wrong = ColumnLine::read(line).unwrap_err();
        let carets = |mistake: &mild_ledger_records::PlanMistake| {
            let span = mistake.span();
            let width = line[span.clone()].chars().count().max(1);
            format!("{}{}\n", " ".repeat(line[..span.start].chars().count()), "^".repeat(width))
        };
        format!("{line}\n{}{wrong}\n", wrong.mistakes().iter().map(carets).collect::<String>())
    };
    insta::assert_snapshot!(WRONG.map(said).join("\n"));
}

/// A line that is a definition is a table that a plan takes.
fn is_a_table(line: &str) {
    let Ok(read) = ColumnLine::read(line) else { return };
    let plan = format!(
        "plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"a.csv\"\n{}[output]\nrows = \"b.csv\"\n",
        read.plan_text()
    );
    if let Err(error) = Plan::of_text(&plan, "plan.toml".as_ref()) {
        panic!("{line:?} is\n{plan}\n{error}");
    }
}

/// Whatever is in a line, its end is a table or a mistake with a place in it.
fn ends_well(read: Result<(), PlanMistakes>, line: &str) {
    let Err(wrong) = read else { return };
    assert!(!wrong.mistakes().is_empty());
    for mistake in wrong.mistakes() {
        let span = mistake.span();
        assert!(span.start <= span.end && line.get(span).is_some(), "{line:?}: {mistake:?}");
    }
}

proptest! {
    #[test]
    fn any_line_ends_well(line in ".{0,80}") {
        ends_well(ColumnLine::read(&line).map(drop), &line);
        ends_well(ConditionLine::read(&line).map(drop), &line);
        ends_well(GroupLine::read(&line).map(drop), &line);
        is_a_table(&line);
    }

    #[test]
    fn words_of_lines_in_any_order_end_well(words in prop::collection::vec(0_usize..200, 0..14)) {
        let all: Vec<&str> = LINES.iter().flat_map(|line| line.split(' ')).collect();
        let line: Vec<&str> = words.iter().map(|word| all[word % all.len()]).collect();
        let line = line.join(" ");
        ends_well(ColumnLine::read(&line).map(drop), &line);
        ends_well(ConditionLine::read(&line).map(drop), &line);
        ends_well(GroupLine::read(&line).map(drop), &line);
        is_a_table(&line);
    }
}
