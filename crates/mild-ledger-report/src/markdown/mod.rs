//! A report as text that a message takes: CommonMark, with tables as most readers of it know them.

use crate::document::{self, Block, Cell, Column, Document, FileNames, RunDetail, Table};
use crate::numbers::{Decimals, Writer};
use crate::shown::{month_name, visible};
use mild_ledger::Step;
use mild_ledger_records::RunOutcome;

/// The report of a run in Markdown: the answer first, then what the page has, without its pictures. Characters of records that would be markup are escaped.
#[must_use]
pub fn run(outcome: &RunOutcome) -> String {
    text(&document::run(outcome, FileNames::OfThePlan, RunDetail::Full))
}

fn text(found: &Document) -> String {
    let mut out = String::new();
    let mut put = |line: &str| {
        out.push_str(line);
        out.push_str("\n\n");
    };
    for block in &found.blocks {
        if let Block::Heading(title) = block {
            put(&format!("# {}", escaped(title)));
        }
    }
    for block in &found.blocks {
        if let Block::Answer(answer) = block {
            let parts: Vec<String> = answer.iter().map(|part| format!("- {}", escaped(part))).collect();
            put(&parts.join("\n"));
        }
    }
    let writer = &found.writer;
    let mut section = "";
    for block in &found.blocks {
        match block {
            Block::Heading(_)
            | Block::Answer(_)
            | Block::PartEnds
            | Block::Chart(_)
            | Block::Folding(_)
            | Block::Opened { .. } => {}
            Block::Section(next) => {
                section = &next.title;
                put(&format!("## {}", escaped(section)));
            }
            Block::Paragraph(text) => put(&escaped(text)),
            Block::Caption(caption) => {
                if let Some(text) = caption.under(section) {
                    put(&format!("**{}**", escaped(&text)));
                }
            }
            Block::Doubt(doubt) => put(&format!("**Doubtful: {}.**", escaped(doubt))),
            Block::Note(note) => put(&format!("- Note: {}", escaped(note))),
            Block::Item(item) => put(&format!("- {}", escaped(item))),
            Block::Example(example) => put(&format!("  - {}", escaped(example))),
            Block::Step(step) => put(&format!("- {}", escaped(step))),
            Block::Numbered { number, text, .. } => put(&format!("{number}. {}", escaped(text))),
            Block::Table(found) => put(&table(found, writer)),
            Block::Workings(all) => {
                for working in all {
                    let steps: Vec<&str> = working.steps().iter().map(Step::said).collect();
                    put(&format!("- {}: {}", escaped(working.rule()), escaped(&steps.join(", "))));
                }
            }
            Block::Months(found) => {
                for month in &found.months {
                    let days = month.days.iter().filter(|day| day.inside && !day.holidays.is_empty());
                    let named = days.map(|day| {
                        let names: Vec<&str> = day.holidays.iter().map(|holiday| holiday.name()).collect();
                        format!("{} {}", day.date, names.join(", "))
                    });
                    let named: Vec<String> = named.collect();
                    put(&format!("- {}: {}", month_name(month.first), escaped(&named.join("; "))));
                }
            }
        }
    }
    let kept = out.trim_end().len();
    out.truncate(kept);
    out.push('\n');
    out
}

fn table(found: &Table, writer: &Writer) -> String {
    let line = |cells: Vec<String>| format!("| {} |", cells.join(" | "));
    let head = found.columns.iter().map(|column| in_cell(&column.name)).collect();
    let sides = found.columns.iter().map(|column| if column.holds.are_numbers() { "--:" } else { ":--" });
    let mut lines = vec![line(head), line(sides.map(str::to_owned).collect())];
    for row in &found.rows {
        let cell = |(cell, column): (&Cell, &Column)| match cell {
            Cell::Value(cell) | Cell::Repeated(cell) => {
                in_cell(&column.holds.text_of(cell, Decimals::Shown, writer))
            }
            Cell::LongOrShort(long, _) => in_cell(long),
        };
        lines.push(line(row.iter().zip(&found.columns).map(cell).collect()));
    }
    lines.join("\n")
}

fn in_cell(text: &str) -> String {
    escaped(text).replace('|', "\\|")
}

/// Characters that would be markup get a backslash, which CommonMark allows for all ASCII punctuation. So do those by which many
/// readers know an address and make a link of it.
fn escaped(text: &str) -> String {
    let text = visible(text);
    let mut out = String::with_capacity(text.len());
    for (place, sign) in text.char_indices() {
        let is_markup = matches!(
            sign,
            '\\' | '`' | '*' | '_' | '[' | ']' | '<' | '>' | '#' | '!' | '&' | '~' | '$' | '@'
        );
        let before = text.get(place.saturating_sub(3)..place).unwrap_or_default();
        let behind = text.get(place + sign.len_utf8()..).unwrap_or_default();
        let is_address =
            sign == ':' && behind.starts_with('/') || sign == '.' && before.eq_ignore_ascii_case("www");
        if is_markup || is_address {
            out.push('\\');
        }
        out.push(sign);
    }
    out
}
