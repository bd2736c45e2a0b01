//! The object of `mild due --json`.

use super::to_text;
use crate::Due;
use crate::facts::DueDay;
use serde::Serialize;

/// The object of `mild due --json`, in one line: the due date, the last day of a discount, how the terms were read, and the steps.
#[must_use]
pub fn due(found: &Due) -> String {
    let discount = found.discount.as_ref().map(|(per_cent, day)| Discount {
        per_cent: per_cent.to_string(),
        until: day.date.to_string(),
        steps: steps(day),
    });
    to_text(&DueObject {
        issued: found.issued.to_string(),
        terms: found.terms.to_string(),
        read_as: found.terms.in_words(),
        due: found.due.date.to_string(),
        steps: steps(&found.due),
        discount,
        roll: found.rolled.as_ref().map(|(roll, _)| roll.word()),
        calendar: found.rolled.as_ref().map(|(_, calendar)| calendar.as_str()),
        by_rule: found.by_rule.map(|years| [years.first(), years.last()]),
    })
}

fn steps(day: &DueDay) -> Vec<String> {
    day.working.steps().iter().map(|step| step.said().to_owned()).collect()
}

#[derive(Serialize)]
struct DueObject<'d> {
    issued: String,
    terms: String,
    read_as: String,
    due: String,
    steps: Vec<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    discount: Option<Discount>,
    #[serde(skip_serializing_if = "Option::is_none")]
    roll: Option<&'static str>,
    #[serde(skip_serializing_if = "Option::is_none")]
    calendar: Option<&'d str>,
    #[serde(skip_serializing_if = "Option::is_none")]
    by_rule: Option<[i32; 2]>,
}

#[derive(Serialize)]
struct Discount {
    per_cent: String,
    until: String,
    steps: Vec<String>,
}
