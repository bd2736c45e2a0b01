//! The object of `mild shift --json`.

use super::to_text;
use crate::Moved;
use serde::Serialize;

/// The object of `mild shift --json`, in one line: `date`, or `dates` for a series, with the rule and the steps.
#[must_use]
pub fn shift(moved: &Moved) -> String {
    let dates: Vec<String> = moved.dates.iter().map(|occurrence| occurrence.date.to_string()).collect();
    to_text(&Shifted {
        start: moved.start.to_string(),
        date: dates.first().filter(|_| !moved.series).cloned(),
        steps: moved
            .dates
            .iter()
            .flat_map(|occurrence| occurrence.working.steps())
            .map(|step| step.said().to_owned())
            .collect(),
        dates: moved.series.then_some(dates),
        rule: moved.rule(),
        calendar: moved.calendar.as_deref(),
        by_rule: moved.by_rule.map(|years| [years.first(), years.last()]),
    })
}

#[derive(Serialize)]
struct Shifted<'m> {
    start: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    date: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    dates: Option<Vec<String>>,
    rule: &'m str,
    #[serde(skip_serializing_if = "Option::is_none")]
    calendar: Option<&'m str>,
    #[serde(skip_serializing_if = "Option::is_none")]
    by_rule: Option<[i32; 2]>,
    steps: Vec<String>,
}
