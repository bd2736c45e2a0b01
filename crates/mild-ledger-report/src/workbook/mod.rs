//! A report as a workbook: a sheet a table of figures with typed cells, charts that the spreadsheet draws itself, and all checks on a last sheet. Nothing
//! in it runs.

mod cells;
mod chart;
mod names;
mod sheet;

use crate::document::{self, About, Block, Document, FileNames, RunDetail};
use mild_ledger_records::RunOutcome;
use names::Names;
use rust_xlsxwriter::{DocProperties, IntoCustomDateTime, Workbook, XlsxError};
use sheet::{Look, Sheet};
use std::io;

/// The report of a run as a workbook (.xlsx). It opens on the first report, under the title, the answer and what makes it doubtful. Each further table of
/// figures has its own sheet; exceptions, proof and all else that people check are on the last one. The same run makes the same bytes.
///
/// # Errors
/// Where a sheet cannot hold a table.
pub fn run(outcome: &RunOutcome) -> io::Result<Vec<u8>> {
    made(&document::run(outcome, FileNames::OfThePlan, RunDetail::Full)).map_err(io::Error::other)
}

/// When a workbook says that it was made: the first day that an archive can name.
struct WhenMade;

impl IntoCustomDateTime for WhenMade {
    fn utc_datetime(self) -> String {
        "1980-01-01T00:00:00Z".to_owned()
    }
}

fn made(found: &Document) -> Result<Vec<u8>, XlsxError> {
    let mut workbook = Workbook::new();
    workbook.set_properties(&DocProperties::new().set_creation_datetime(WhenMade));
    let parts = found.parts();
    let about = |about: About| {
        parts.iter().filter(move |part| part.section.is_some_and(|section| section.about == about))
    };
    let mut names = Names::default();
    let mut first = Some(top(found));
    for part in about(About::Figures) {
        for table in tables(part.blocks) {
            let mut sheet = Sheet::new(workbook.add_worksheet());
            sheet.name(&names.of(part.title()))?;
            if let Some(lines) = first.take() {
                put_lines(&mut sheet, &lines)?;
            }
            put_blocks(&mut sheet, part.title(), table)?;
            sheet.finish()?;
        }
    }
    let mut sheet = Sheet::new(workbook.add_worksheet());
    sheet.name(&names.of("Checks"))?;
    if let Some(lines) = first.take() {
        put_lines(&mut sheet, &lines)?;
    }
    for part in about(About::Checks) {
        sheet.line(part.title(), Look::Head)?;
        put_blocks(&mut sheet, part.title(), part.blocks)?;
        sheet.gap();
    }
    sheet.finish()?;
    workbook.save_to_buffer()
}

/// What is above the first table: the title, of when and what it is, the answer, and what makes it doubtful.
fn top(found: &Document) -> Vec<(String, Look)> {
    let before = found.blocks.iter().take_while(|block| !matches!(block, Block::Section(_)));
    let mut lines: Vec<(String, Look)> = Vec::new();
    let mut doubts = Vec::new();
    for block in before {
        match block {
            Block::Heading(title) => lines.push((title.clone(), Look::Title)),
            Block::Paragraph(text) => lines.push((text.clone(), Look::Plain)),
            Block::Doubt(doubt) => doubts.push((format!("Doubtful: {doubt}."), Look::Head)),
            _ => {}
        }
    }
    for block in &found.blocks {
        if let Block::Answer(parts) = block {
            lines.extend(parts.iter().map(|part| (part.clone(), Look::Plain)));
        }
    }
    lines.extend(doubts);
    lines
}

fn put_lines(sheet: &mut Sheet<'_>, lines: &[(String, Look)]) -> Result<(), XlsxError> {
    for (text, look) in lines {
        sheet.line(text, *look)?;
    }
    sheet.gap();
    Ok(())
}

/// The blocks of each table of a section: from its caption to the caption of the next.
fn tables(blocks: &[Block]) -> Vec<&[Block]> {
    let begins = |nth: &usize| matches!(blocks.get(*nth), Some(Block::Caption(_)));
    let mut places: Vec<usize> = (0..blocks.len()).filter(begins).collect();
    match places.first_mut() {
        // What is in front of the first caption belongs to the first table.
        Some(first) => *first = 0,
        None => places.push(0),
    }
    let ends = places.iter().skip(1).copied().chain([blocks.len()]);
    places.iter().zip(ends).filter_map(|(begin, end)| blocks.get(*begin..end)).collect()
}

/// A table under what it shows, the texts, and below them the charts.
fn put_blocks(sheet: &mut Sheet<'_>, section: &str, blocks: &[Block]) -> Result<(), XlsxError> {
    for block in blocks {
        match block {
            Block::Caption(caption) => sheet.line(&caption.in_full(), Look::Head)?,
            Block::Table(table) => sheet.table(table)?,
            Block::Paragraph(text) | Block::Item(text) | Block::Step(text) => {
                sheet.line(text, Look::Plain)?
            }
            Block::Example(text) => sheet.line(&format!("    {text}"), Look::Plain)?,
            Block::Doubt(doubt) => sheet.line(&format!("Doubtful: {doubt}."), Look::Head)?,
            Block::Note(note) => sheet.line(&format!("Note: {note}"), Look::Plain)?,
            Block::Numbered { number, text, .. } => sheet.line(&format!("{number}. {text}"), Look::Plain)?,
            Block::Workings(all) => {
                for working in all {
                    let steps: Vec<&str> = working.steps().iter().map(mild_ledger::Step::said).collect();
                    sheet.line(&format!("{}: {}", working.rule(), steps.join(", ")), Look::Plain)?;
                }
            }
            // They are at the top, below, or in no workbook.
            Block::Heading(_)
            | Block::Answer(_)
            | Block::Section(_)
            | Block::Chart(_)
            | Block::Folding(_)
            | Block::Opened { .. }
            | Block::Months(_)
            | Block::PartEnds => {}
        }
    }
    for block in blocks {
        if let Block::Chart(chart) = block {
            sheet.chart(section, chart)?;
        }
    }
    Ok(())
}
