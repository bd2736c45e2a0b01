//! A moved date, or a series of them.

use super::working_days::{put_months, said_of_rule};
use super::{Block, Document};
use crate::{Detail, Moved};

/// The date with its weekday, or a numbered list of a series, and the rule; with the working, the steps of each, and the months
/// in which working days were counted, each of them under its number.
pub(crate) fn moved(found: &Moved, detail: Detail) -> Document {
    let mut out = Document::default();
    if found.series {
        out.push(Block::Heading(format!("from {} ({})", found.start, found.start.date().weekday())));
    }
    for (nth, occurrence) in found.dates.iter().enumerate() {
        let text = format!("{} ({})", occurrence.date, occurrence.date.date().weekday());
        out.push(match found.series {
            true => Block::Numbered { number: nth + 1, of: found.dates.len(), text },
            false => Block::Heading(text),
        });
        if detail == Detail::FiguresOnly {
            continue;
        }
        for step in occurrence.working.steps() {
            out.push(Block::Step(step.said().to_owned()));
        }
        if let Some(months) = occurrence.months.as_ref().filter(|_| !found.series) {
            out.end_part();
            put_months(&mut out, months);
        }
    }
    let from = if found.series { "; each moved from the first date" } else { "" };
    let by = match &found.calendar {
        // The rule of a count of working days names their calendar already.
        Some(calendar) if !found.rule().contains(calendar.as_str()) => format!(" ({calendar})"),
        _ => String::new(),
    };
    out.paragraph(format!("rule: {}{by}{from}", found.rule()));
    if let Some((calendar, years)) = found.calendar.as_ref().zip(found.by_rule) {
        out.paragraph(said_of_rule(calendar, years));
    }
    out
}
