//! The rows of a sheet into chunks, by a thread of their own.

use super::book::Book;
use crate::error::RecordsError;
use crate::source::{Chunk, ChunkSize};
use crate::table::{TypedCell as Cell, pack};
use std::ops::ControlFlow;
use std::path::PathBuf;
use std::sync::mpsc::SyncSender;

/// A chunk; none at the end of the sheet; or what went wrong.
pub(super) type Sent = Result<Option<Chunk>, RecordsError>;

/// Who reads the rows of a sheet into chunks.
pub(super) struct SheetReader {
    pub(super) path: PathBuf,
    pub(super) sheet: String,
    pub(super) header_line: u64,
    /// The last row of a sheet of our own, in which rows of nothing are rows.
    pub(super) last_line: Option<u64>,
    pub(super) size: ChunkSize,
    pub(super) longest_cell: usize,
    /// The row that comes next in a sheet of our own.
    pub(super) next_line: u64,
    /// The chunk that is filled.
    pub(super) chunk: Chunk,
}

impl SheetReader {
    /// Reads all of them, unless nobody wants more.
    pub(super) fn read(mut self, give: &SyncSender<Sent>) {
        let path = self.path.clone();
        let sheet = self.sheet.clone();
        let mut fault = None;
        let read = Book::open(&path).and_then(|mut book| {
            book.rows(&path, &sheet, |line, cells| match self.take(line, cells, give) {
                Ok(flow) => flow,
                Err(error) => {
                    fault = Some(error);
                    ControlFlow::Break(())
                }
            })
        });
        if let (Ok(()), None, Some(last)) = (&read, &fault, self.last_line) {
            self.take_blanks_to(last + 1, give);
        }
        let rest = match (read, fault) {
            (Err(error), _) | (Ok(()), Some(error)) => Err(error),
            (Ok(()), None) => Ok((self.chunk.rows > 0).then_some(self.chunk)),
        };
        // Nobody is left to be told where the other side has gone.
        let is_more = matches!(rest, Ok(Some(_)));
        if give.send(rest).is_ok() && is_more {
            let _ = give.send(Ok(None));
        }
    }

    fn take(
        &mut self,
        line: u64,
        cells: &[Cell],
        give: &SyncSender<Sent>,
    ) -> Result<ControlFlow<()>, RecordsError> {
        if line <= self.header_line {
            return Ok(ControlFlow::Continue(()));
        }
        if self.last_line.is_some() {
            self.take_blanks_to(line, give);
            self.next_line = line + 1;
        }
        if cells.iter().any(|cell| cell.text.len() > self.longest_cell) {
            return Err(RecordsError::BrokenFile {
                path: self.path.clone(),
                line,
                what: format!("a cell of this row is longer than {} bytes", self.longest_cell),
                help: "raise longest_cell under [records], if it is right".to_owned(),
            });
        }
        Ok(self.push(line, cells, give))
    }

    /// Rows of nothing, up to one that holds something or to the end.
    fn take_blanks_to(&mut self, line: u64, give: &SyncSender<Sent>) {
        while self.next_line < line {
            if self.push(self.next_line, &[], give).is_break() {
                break;
            }
            self.next_line += 1;
        }
    }

    fn push(&mut self, line: u64, cells: &[Cell], give: &SyncSender<Sent>) -> ControlFlow<()> {
        if self.chunk.rows == 0 {
            self.chunk.first_line = line;
        }
        pack(line, cells, &mut self.chunk.bytes);
        self.chunk.rows += 1;
        if self.chunk.rows < self.size.rows && self.chunk.bytes.len() < self.size.bytes {
            return ControlFlow::Continue(());
        }
        let next = Chunk {
            source: self.chunk.source,
            bytes: Vec::new(),
            first_row: self.chunk.first_row + self.chunk.rows,
            first_line: line,
            rows: 0,
        };
        let full = std::mem::replace(&mut self.chunk, next);
        if give.send(Ok(Some(full))).is_ok() { ControlFlow::Continue(()) } else { ControlFlow::Break(()) }
    }
}
