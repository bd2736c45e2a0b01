//! Exceptions on their way to their file, counted by reason.

use super::outcome::ExceptionGroup;
use crate::csv::{CellWriter, LineWriter};
use crate::table::{Became, Exception, ExceptionSubject, Layout, Reason};
use std::collections::BTreeMap;
use std::io;

/// Writes exceptions to their file in the order of the rows, and counts them.
pub(super) struct ExceptionSink<'j> {
    layout: &'j Layout,
    key_name: String,
    cells: CellWriter,
    file: LineWriter,
    groups: BTreeMap<(Reason, Became), Group>,
    rows_set_aside: u64,
    unreadable_cells: u64,
}

#[derive(Default)]
struct Group {
    count: u64,
    examples: Vec<String>,
}

/// Exceptions of a reason that are shown in full; the file has them all.
const EXAMPLES: usize = 3;

impl<'j> ExceptionSink<'j> {
    pub(super) fn new(layout: &'j Layout, file: LineWriter) -> io::Result<Self> {
        let names: Vec<&str> = layout.key.iter().map(|column| layout.name(*column)).collect();
        let mut sink = Self {
            layout,
            key_name: names.join(" / "),
            cells: CellWriter::default(),
            file,
            groups: BTreeMap::new(),
            rows_set_aside: 0,
            unreadable_cells: 0,
        };
        for name in ["row", "line", "key", "column", "text", "reason", "outcome"] {
            sink.cells.text(name);
        }
        sink.cells.take_line(|line| sink.file.write_line(line))?;
        Ok(sink)
    }

    /// Writes what came of one batch, in the order of its rows.
    pub(super) fn write_batch(&mut self, mut exceptions: Vec<Exception>) -> io::Result<()> {
        exceptions.sort_by_key(|exception| exception.row);
        let mut last_set_aside = 0;
        for exception in exceptions {
            // A row that is set aside for two reasons is one row.
            if exception.became == Became::RowSetAside && exception.row != last_set_aside {
                self.rows_set_aside += 1;
                last_set_aside = exception.row;
            }
            let is_unreadable = matches!(exception.reason, Reason::UnreadableDate | Reason::NoSuchDay);
            self.unreadable_cells += u64::from(is_unreadable && exception.became == Became::CellEmpty);
            self.write(&exception)?;
            let is_wanted = {
                let group = self.groups.entry((exception.reason, exception.became)).or_default();
                group.count += 1;
                group.examples.len() < EXAMPLES
            };
            if is_wanted {
                let shown = self.shown(&exception);
                let group = self.groups.entry((exception.reason, exception.became)).or_default();
                group.examples.push(shown);
            }
        }
        Ok(())
    }

    fn write(&mut self, exception: &Exception) -> io::Result<()> {
        self.cells.value(exception.row);
        self.cells.value(exception.line);
        self.cells.text(&exception.key);
        self.cells.text(name_of(exception.subject, &self.key_name, self.layout));
        self.cells.text(&exception.text);
        self.cells.text(&match exception.detail.as_str() {
            "" => exception.reason.to_string(),
            detail => format!("{}: {detail}", exception.reason),
        });
        self.cells.text(&exception.became.to_string());
        self.cells.take_line(|line| self.file.write_line(line))
    }

    /// One line for a person: where, whose, and what.
    fn shown(&self, exception: &Exception) -> String {
        let part = |text: &str| match text {
            "" => String::new(),
            text => format!(", {}", shortened(text)),
        };
        let key = if exception.subject == ExceptionSubject::Key { "" } else { exception.key.as_str() };
        let what = match (exception.detail.as_str(), exception.subject) {
            ("", _) => shortened(&exception.text),
            (detail, ExceptionSubject::Key) => {
                format!("{}, {}", shortened(&exception.text), shortened(detail))
            }
            (detail, _) => shortened(detail),
        };
        let (row, line) = (exception.row, exception.line);
        format!(
            "row {row} (line {line}){}{}: {what}",
            part(key),
            part(name_of(exception.subject, &self.key_name, self.layout))
        )
    }

    /// Rows set aside, as the exceptions file lists them.
    pub(super) fn rows_set_aside(&self) -> u64 {
        self.rows_set_aside
    }

    /// Cells left empty because their text could not be read.
    pub(super) fn unreadable_cells(&self) -> u64 {
        self.unreadable_cells
    }

    pub(super) fn behind_apostrophe(&self) -> u64 {
        self.cells.behind_apostrophe()
    }

    /// The groups, rows set aside first, and the finished file.
    pub(super) fn finish(self) -> (Vec<ExceptionGroup>, LineWriter) {
        let mut groups: Vec<_> = self.groups.into_iter().collect();
        groups.sort_by_key(|((reason, became), group)| (*became, std::cmp::Reverse(group.count), *reason));
        let groups = groups
            .into_iter()
            .map(|((reason, became), group)| ExceptionGroup {
                reason: reason.to_string(),
                outcome: became.to_string(),
                count: group.count,
                examples: group.examples,
            })
            .collect();
        (groups, self.file)
    }
}

/// The name of the column, or columns, that an exception is about.
fn name_of<'n>(subject: ExceptionSubject, key_name: &'n str, layout: &'n Layout) -> &'n str {
    match subject {
        ExceptionSubject::Row => "",
        ExceptionSubject::Key => key_name,
        ExceptionSubject::Column(column) => layout.name(column),
    }
}

/// A text as far as a line for a person needs it.
fn shortened(text: &str) -> String {
    const MOST: usize = 200;
    match text.char_indices().nth(MOST) {
        Some((end, _)) => format!("{}…", text.get(..end).unwrap_or(text)),
        None => text.to_owned(),
    }
}
