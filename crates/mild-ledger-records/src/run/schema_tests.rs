//! How the columns of a run are stored in memory, and what their metadata states.

use super::job::{Job, RecordsShape};
use crate::Plan;
use crate::columns::AsOfDate;
use crate::source::Stop;
use arrow_schema::Field;
use std::fs;

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30
[records]
file = "records.csv"
[records.dates]
Issued = "day/month/year"
Done = { pattern = "year-month-day hour:minute", time = "keep" }
[records.amounts]
Amount = { decimals = 2 }
[[column]]
name = "Due"
from = "Issued"
shift = "30 days"
[[column]]
name = "Days overdue"
between = ["Due", "as-of"]
count = "days"
[[column]]
name = "Years"
between = ["Issued", "as-of"]
count = "fractional years"
decimals = 3
[[column]]
name = "Since"
between = ["Issued", "as-of"]
count = "parts"
[[column]]
name = "Age band"
bucket = "Days overdue"
edges = [0, 30]
[[column]]
name = "Reminder"
when = [{ column = "Days overdue", over = 0 }]
then = "send"
[[column]]
name = "Month"
of = "Issued"
period = "month"
gives = "label"
[[column]]
name = "Half"
product = ["Amount", 0.5]
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

#[test]
fn columns_are_stored_in_types_of_the_columnar_format_and_say_what_they_mean() {
    let folder = tempfile::tempdir().unwrap();
    let place = folder.path().join("plan.toml");
    fs::write(&place, PLAN).unwrap();
    let plan = Plan::read(&place).unwrap();
    let header = ["Invoice", "Issued", "Done", "Amount"].map(str::to_owned);
    let as_of = AsOfDate { date: "2026-09-30".parse().unwrap(), at: None };
    let (job, _) = Job::bind(
        &plan,
        Some(as_of),
        RecordsShape {
            sources: vec!["records.csv".to_owned()],
            header: &header,
            types: &[],
            unread: Vec::new(),
            stop: Stop::default(),
        },
    )
    .unwrap();
    let schema = job.schema(&header).unwrap();
    let said = |field: &Field| {
        let mut meaning: Vec<String> =
            field.metadata().iter().map(|(name, said)| format!("{name}: {said}")).collect();
        meaning.sort();
        format!("{}: {}; {}", field.name(), field.data_type(), meaning.join("; ").replace('\n', ", "))
    };
    let fields: Vec<String> = schema.fields().iter().map(|field| said(field)).collect();
    assert_eq!(
        fields,
        [
            "Invoice: Utf8; holds: text; words: taken over",
            "Issued: Date32; holds: dates",
            "Done: Timestamp(µs); holds: dates",
            "Amount: Decimal128(38, 2); holds: amounts",
            "Due: Date32; holds: dates",
            "Days overdue: Int64; ends: last; holds: numbers; rule: days",
            "Years: Decimal128(38, 3); ends: last; holds: numbers; rule: fractional years",
            "Since: Interval(MonthDayNano); ends: last; holds: years, months and days; rule: parts",
            "Age band: Dictionary(UInt16, Utf8); buckets: Not yet due, 1–30, Over 30; holds: buckets; words: own",
            "Reminder: Dictionary(UInt16, Utf8); holds: text; words: taken over",
            "Month: Utf8; holds: text; words: own",
            "Half: Decimal128(38, 2); holds: numbers",
        ]
    );
}
