//! What a plan would do, and what is wrong with it.

use super::{Block, Document, Table};
use crate::numbers::grouped;
use mild_ledger_records::PlanCheck;

/// The plan and its records; what would make its figures doubtful; the columns, the reports, the outputs and the calendars; what
/// was wrong with the rows that were looked at; and in the last line whether a run would end well, as far as those rows tell.
pub(crate) fn check(found: &PlanCheck) -> Document {
    let mut out = Document::default();
    out.push(Block::Heading(found.title.clone()));
    out.paragraph(match found.as_of {
        Some(as_of) => format!("as of {as_of} ({}), from {}", as_of.weekday(), found.records),
        None => format!("from {}", found.records),
    });
    found.doubts.iter().for_each(|doubt| out.push(Block::Doubt(doubt.clone())));
    if let Some(duplicates) = &found.duplicates {
        out.push(Block::Note(duplicates.clone()));
    }
    found.notes.iter().for_each(|note| out.push(Block::Note(note.clone())));
    out.end_part();
    let mut table = Table::new(["column", "from", "written", "holds"], 0..4);
    for column in &found.columns {
        let from = if column.is_added { "the plan" } else { "the file" };
        let written = if column.is_written { "yes" } else { "no" };
        table.row([column.name.clone(), from.to_owned(), written.to_owned(), column.holds.clone()]);
    }
    out.push(Block::Table(table));
    if !found.reports.is_empty() {
        out.end_part();
        out.paragraph(format!("Reports: {}.", found.reports.join(", ")));
    }
    for calendar in &found.calendars {
        out.paragraph(format!(
            "Calendar {}: covers {}, rest days {}, {} holidays{}.",
            calendar.name,
            calendar.covers,
            calendar.rest_days,
            calendar.holidays,
            calendar.hours.as_ref().map_or_else(String::new, |hours| format!(", open {hours}"))
        ));
    }
    let outputs: Vec<String> = found.outputs.iter().map(|path| path.display().to_string()).collect();
    let (last, others) = outputs
        .split_last()
        .map_or((String::new(), String::new()), |(last, others)| (last.clone(), others.join(", ")));
    let and = if others.is_empty() { "" } else { " and " };
    out.paragraph(format!("A run would write {others}{and}{last}."));
    if !found.exceptions.is_empty() {
        out.end_part();
        for group in &found.exceptions {
            out.push(Block::Item(format!(
                "{}, {}: {}",
                group.reason,
                group.outcome,
                grouped(&group.count.to_string())
            )));
            group.examples.iter().for_each(|example| out.push(Block::Example(example.clone())));
        }
    }
    out.end_part();
    out.paragraph(answer(found));
    out
}

/// The check in one line.
pub(crate) fn answer(found: &PlanCheck) -> String {
    let which = match (found.more_rows, found.rows) {
        (true, rows) => format!("the first {} rows", grouped(&rows.to_string())),
        (false, 1) => "the one row".to_owned(),
        (false, rows) => format!("all {} rows", grouped(&rows.to_string())),
    };
    let of_rows: u64 = found.exceptions.iter().map(|group| group.count).sum();
    let noticed = of_rows + found.doubts.len() as u64 + u64::from(found.duplicates.is_some());
    let noticed = match noticed {
        0 => "nothing was wrong".to_owned(),
        1 => "1 thing was noticed".to_owned(),
        many => format!("{} things were noticed", grouped(&many.to_string())),
    };
    // What a run looks at and this does not.
    let not_examined = match found.more_rows {
        true => {
            "; the rows after them were not, so keys that repeat there, the last row and the control totals are not examined"
        }
        false => "",
    };
    format!(
        "the plan fits its records; {which} were looked at and {noticed}{not_examined}; nothing was written"
    )
}
