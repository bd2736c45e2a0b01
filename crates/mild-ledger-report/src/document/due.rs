//! When an invoice is due under its payment terms.

use super::working_days::said_of_rule;
use super::{Block, Document};
use crate::{Detail, Due};

/// The due date with its weekday, the last day of a discount, and how the terms were read; with the working, the steps of each.
pub(crate) fn due(found: &Due, detail: Detail) -> Document {
    let mut out = Document::default();
    let steps = |out: &mut Document, day: &crate::facts::DueDay| {
        if detail == Detail::WithWorking {
            day.working.steps().iter().for_each(|step| out.push(Block::Step(step.said().to_owned())));
        }
    };
    out.push(Block::Heading(format!("due {} ({})", found.due.date, found.due.date.weekday())));
    steps(&mut out, &found.due);
    if let Some((per_cent, day)) = &found.discount {
        out.push(Block::Heading(format!("{per_cent} % off until {} ({})", day.date, day.date.weekday())));
        steps(&mut out, day);
    }
    let rolled = match &found.rolled {
        Some((roll, calendar)) => {
            format!("a due date that is not a working day is rolled: {roll} ({calendar})")
        }
        None => "not rolled to a working day".to_owned(),
    };
    out.paragraph(format!("issued {} ({}); day 1 is the day after", found.issued, found.issued.weekday()));
    out.paragraph(format!("terms read as {}: {}", found.terms, found.terms.in_words()));
    out.paragraph(rolled);
    if let Some(((_, calendar), years)) = found.rolled.as_ref().zip(found.by_rule) {
        out.paragraph(said_of_rule(calendar, years));
    }
    out
}
