//! The law of a calendar, and the days that have orders of their own.

use super::{Block, Cell, Document, Narrowing, Table};
use crate::facts::CalendarSources;

/// The fewest characters that names of holidays and their orders are cut to.
const SHORTEST_TEXT: usize = 24;

/// The law of a calendar, its notes, and the days with an order or a publication of their own.
pub(crate) fn sources(found: &CalendarSources) -> Document {
    let mut out = Document::default();
    let covers = found.covers.map_or_else(|| "every year".to_owned(), |years| years.to_string());
    let by_rule =
        found.by_rule.map_or_else(String::new, |years| format!("; {years} by rule, not yet proclaimed"));
    out.push(Block::Heading(format!("{}: covers {covers}{by_rule}", found.calendar)));
    out.end_part();
    match found.shipped {
        Some(shipped) => {
            out.paragraph(shipped.title());
            out.paragraph(format!("law: {}", shipped.law()));
            if let Some(base) = shipped.base() {
                out.paragraph(format!("builds on {}: {}", base.name(), base.law()));
            }
            for note in shipped.notes() {
                out.push(Block::Item((*note).to_owned()));
            }
        }
        None => out.paragraph("It does not ship with the program: its own file states the law of its days."),
    }
    out.end_part();
    if found.days.is_empty() {
        out.paragraph("No day has an order or a publication of its own.");
        return out;
    }
    let mut table = Table::new(["date", "weekday", "holiday", "stands on"], 0..4).narrowed_by([
        Narrowing::WithoutColumn(1),
        Narrowing::CutTexts(2, SHORTEST_TEXT),
        Narrowing::CutTexts(3, SHORTEST_TEXT),
    ]);
    for day in &found.days {
        let texts =
            [day.date.to_string(), day.date.weekday().to_string(), day.holiday.clone(), day.source.clone()];
        table.row(texts.map(Cell::from));
    }
    out.push(Block::Table(table));
    out
}
