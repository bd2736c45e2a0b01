//! A document as plain text.

use super::months::months;
use super::tables::table;
use super::text::wrapped;
use super::workings::put_workings;
use super::{Colour, Width};
use crate::document::{Block, Document, lines_of_answer};
use crate::shown::visible;

/// The blocks one below the other, texts from records with their control characters made visible.
pub(super) fn rendered(document: &Document, width: Width, colour: Colour) -> String {
    let mut out = String::new();
    for block in &document.blocks {
        let mut text = |text: &str, indent: &str| out.push_str(&wrapped(&visible(text), indent, width));
        match block {
            Block::Heading(said) | Block::Paragraph(said) => text(said, ""),
            Block::Caption(caption) => text(&caption.in_full(), ""),
            Block::Answer(parts) => lines_of_answer(parts).into_iter().map(|line| text(&line, "")).collect(),
            // A terminal has no room for names of what is plain from its place, and draws nothing.
            Block::Section(_) | Block::Chart(_) | Block::Opened { .. } | Block::Folding(_) => {}
            Block::Doubt(doubt) => text(&format!("Doubtful: {doubt}."), ""),
            Block::Note(note) if note.ends_with('?') => text(&format!("Note: {note}"), "  "),
            Block::Note(note) => text(&format!("Note: {note}."), "  "),
            Block::Item(item) => text(item, "  "),
            Block::Example(example) => text(example, "      "),
            Block::Step(step) => text(step, "    "),
            Block::Numbered { number, of, text } => {
                let digits = of.to_string().len();
                out.push_str(&format!("{number:>digits$}  {}\n", visible(text)));
            }
            Block::Table(found) => out.push_str(&table(found, width, &document.writer)),
            Block::Months(found) => out.push_str(&months(found, width, colour)),
            Block::Workings(workings) => put_workings(&mut out, workings, width),
            Block::PartEnds => out.push('\n'),
        }
    }
    out
}
