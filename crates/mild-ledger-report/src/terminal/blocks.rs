//! A document as plain text.

use super::Width;
use super::aging::aging;
use super::grid::Grid;
use super::tables;
use super::text::wrapped;
use super::workings::put_workings;
use crate::document::{self, Block, Document};
use crate::shown::visible;
use crate::{Between, BetweenTimes};
use mild_ledger_records::RunOutcome;

/// The dates; the days, with the ends that they count; the working days by each calendar asked for, which are given as they
/// are shown. Then a table of every unit (complete, by starts passed, fractional), the parts, the day counts, and what each means;
/// the days shared out over periods, and the working of every figure, where they are asked for.
#[must_use]
pub fn between(found: &Between, working_days: &str, width: Width) -> String {
    let [above, below] = document::between(found).map(|part| rendered(&part, width));
    format!("{above}{working_days}\n{below}")
}

/// The date-times, and the time between them by the clock; a table of every unit of the clock and of the calendar, and what each
/// means; with the working of every figure where it is asked for.
#[must_use]
pub fn between_times(found: &BetweenTimes, width: Width) -> String {
    rendered(&document::between_times(found), width)
}

/// What makes the figures doubtful, then the title and as-of date, the reports, the exceptions, the dates, the proof and the
/// files of a run; and in the last line the answer: what is owed, the rows, and whether the proof agrees.
#[must_use]
pub fn run(outcome: &RunOutcome, width: Width) -> String {
    rendered(&document::run(outcome), width)
}

/// The blocks one below the other, texts from records with their control signs made visible.
fn rendered(document: &Document, width: Width) -> String {
    let mut out = String::new();
    for block in &document.blocks {
        let mut text = |text: &str, indent: &str| out.push_str(&wrapped(&visible(text), indent, width));
        match block {
            Block::Heading(said) | Block::Paragraph(said) => text(said, ""),
            Block::Doubt(doubt) => text(&format!("Doubtful: {doubt}."), ""),
            Block::Note(note) if note.ends_with('?') => text(&format!("Note: {note}"), "  "),
            Block::Note(note) => text(&format!("Note: {note}."), "  "),
            Block::Item(item) => text(item, "  "),
            Block::Example(example) => text(example, "      "),
            Block::Table(table) => out.push_str(&Grid::of(table).fitted(width)),
            Block::ReportTable(table) => out.push_str(&tables::table(table, width)),
            Block::Aging { title, report } => out.push_str(&aging(title, report, width)),
            Block::Workings(workings) => put_workings(&mut out, workings, width),
            Block::PartEnds => out.push('\n'),
        }
    }
    out
}
