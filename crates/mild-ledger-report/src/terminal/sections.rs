//! A section of a page of the documentation, for a terminal.

use super::Width;
use super::blocks::rendered;
use super::mistakes::Colour;
use crate::document::{Block, Document, Table};

/// The title of a section and its paragraphs and tables, in the Markdown that our pages use.
///
/// ```
/// use mild_ledger_report::terminal::{Width, section};
/// let text = section("ends", "Which ends count.\n\n| word | meaning |\n|---|---|\n| `last` | the last |\n", Width::Columns(40));
/// assert!(text.starts_with("ends\n") && text.contains("last  the last"), "{text}");
/// ```
#[must_use]
pub fn section(title: &str, text: &str, width: Width) -> String {
    let mut out = Document::default();
    out.push(Block::Heading(title.to_owned()));
    // Remarks of the page are not text.
    let lines: Vec<&str> = text.lines().filter(|line| !line.starts_with("<!--")).collect();
    for part in lines.join("\n").split("\n\n").map(str::trim).filter(|part| !part.is_empty()) {
        out.end_part();
        match table(part) {
            Some(table) => out.push(Block::Table(table)),
            None => out.paragraph(plain(&part.split_whitespace().collect::<Vec<_>>().join(" "))),
        }
    }
    rendered(&out, width, Colour::Off)
}

/// A table, where the part is one.
fn table(part: &str) -> Option<Table> {
    let mut lines = part.lines();
    let header = cells(lines.next()?)?;
    let columns = header.len();
    let mut table = Table::new(header, 0..columns);
    for line in lines.skip(1) {
        table.row(cells(line)?);
    }
    Some(table)
}

fn cells(line: &str) -> Option<Vec<String>> {
    let inner = line.trim().strip_prefix('|')?.strip_suffix('|')?;
    Some(inner.split('|').map(|cell| plain(cell.trim())).collect())
}

/// A text without the marks of Markdown.
fn plain(text: &str) -> String {
    text.replace("**", "").replace('`', "")
}
