//! A report as a workbook: a sheet a table with typed cells, and charts that the spreadsheet draws itself. Nothing in it runs.

mod sheets;

use crate::document::{self, Block, Document, FileNames, RunDetail};
use crate::shown::visible;
use mild_ledger_records::RunOutcome;
use rust_xlsxwriter::{DocProperties, Format, IntoCustomDateTime, Workbook, XlsxError};
use sheets::{Names, Text, put_table};
use std::io;

/// The report of a run as a workbook (.xlsx): on its first sheet the answer, what makes it doubtful, and what is to be known next to the tables; then a
/// sheet for each table, and charts of what is owed and counted. The same run makes the same bytes.
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
    let mut names = Names::default();
    let front = workbook.add_worksheet();
    front.set_name(names.of("Report"))?.set_column_width(0, 110)?;
    front.set_landscape().set_print_fit_to_pages(1, 0);
    let mut row = 0;
    for text in texts(found) {
        let (said, format) = match &text {
            Text::Title(said) => (said, Format::new().set_bold().set_font_size(16)),
            Text::Head(said) => {
                row += 1;
                (said, Format::new().set_bold())
            }
            Text::Plain(said) => (said, Format::new()),
        };
        front.write_string_with_format(row, 0, &*visible(said), &format)?;
        row += 1;
    }
    let mut section = "";
    let mut caption: Option<&str> = None;
    for (nth, block) in found.blocks.iter().enumerate() {
        match block {
            Block::Section(title) => section = title,
            Block::Caption(text) => caption = Some(text),
            Block::Table(table) => {
                let charts =
                    found.blocks.get(nth + 1..).unwrap_or_default().iter().map_while(|next| match next {
                        Block::Chart(chart) => Some(chart),
                        _ => None,
                    });
                let sheet = workbook.add_worksheet();
                sheet.set_name(names.of(section))?;
                put_table(sheet, caption.take().unwrap_or(section), table, &charts.collect::<Vec<_>>())?;
            }
            _ => {}
        }
    }
    workbook.save_to_buffer()
}

/// What is next to the tables, the answer first.
fn texts(found: &Document) -> Vec<Text> {
    let mut texts = Vec::new();
    for block in &found.blocks {
        if let Block::Heading(title) = block {
            texts.push(Text::Title(title.clone()));
        }
    }
    for block in &found.blocks {
        if let Block::Answer(parts) = block {
            texts.extend(parts.iter().cloned().map(Text::Plain));
        }
    }
    let mut section: Option<&str> = None;
    for block in &found.blocks {
        let said = match block {
            Block::Section(title) => {
                section = Some(title);
                continue;
            }
            Block::Paragraph(text) | Block::Item(text) | Block::Step(text) => text.clone(),
            Block::Example(text) => format!("    {text}"),
            Block::Doubt(doubt) => format!("Doubtful: {doubt}."),
            Block::Note(note) => format!("Note: {note}"),
            Block::Numbered { number, text, .. } => format!("{number}. {text}"),
            Block::Workings(all) => {
                let working = |working: &mild_ledger::Working| {
                    let steps: Vec<&str> = working.steps().iter().map(mild_ledger::Step::said).collect();
                    format!("{}: {}", working.rule(), steps.join(", "))
                };
                all.iter().map(working).collect::<Vec<_>>().join("\n")
            }
            // They are elsewhere in the workbook, or in no run's report.
            Block::Heading(_)
            | Block::Answer(_)
            | Block::Caption(_)
            | Block::Table(_)
            | Block::Chart(_)
            | Block::Opened { .. }
            | Block::Months(_)
            | Block::PartEnds => continue,
        };
        if let Some(title) = section.take() {
            texts.push(Text::Head(title.to_owned()));
        }
        texts.push(Text::Plain(said));
    }
    texts
}
