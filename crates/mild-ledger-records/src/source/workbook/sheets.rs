//! A sheet of a workbook as a source of rows.

use super::book::Book;
use super::broken;
use super::limits;
use super::parts::rows_written;
use super::rows::WorkbookRows;
use super::sheet_reader::{Sent, SheetReader};
use super::types_met::TypesMet;
use crate::error::RecordsError;
use crate::files::HashKind;
use crate::source::raw_bytes::RawBytes;
use crate::source::{
    Chunk, ChunkReader, ChunkSize, ColumnType, FileForm, OwnFile, Reading, SheetChoice, Source, SourceEnd,
};
use std::fs::File;
use std::io;
use std::ops::ControlFlow;
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, sync_channel};
use std::thread::Builder;

/// Rows of a sheet, read by a thread of their own.
pub(super) struct SheetSource {
    source: usize,
    path: PathBuf,
    sheet: String,
    /// The row of the sheet that is the header.
    header_line: u64,
    /// The last row of a sheet of our own, in which rows of nothing are rows.
    last_line: Option<u64>,
    columns: Vec<String>,
    types: Vec<ColumnType>,
    said: Vec<String>,
    size: ChunkSize,
    longest_cell: usize,
    /// From whom the chunks come, once the first was asked for.
    chunks: Option<Receiver<Sent>>,
    is_at_end: bool,
    rows_read: u64,
    bytes: u64,
    end: (u64, crate::files::Fingerprint),
}

/// Opens a sheet, reads it once for its header and for the types of its columns, and hashes the file.
pub(super) fn open(path: &Path, reading: &Reading) -> Result<SheetSource, RecordsError> {
    limits::check(path)?;
    let (bytes, end) = hashed(path, reading.hash)?;
    let mut book = Book::open(path)?;
    let sheets = book.sheets(path)?;
    let sheet = chosen(path, &sheets, reading.form.sheet.as_ref())?;
    let mut said = vec![said_of(&sheets, &sheet)];
    let mut first: Option<(u64, Vec<String>)> = None;
    let mut types: Vec<TypesMet> = Vec::new();
    let wanted = reading.form.header_line;
    book.rows(path, &sheet, |line, cells| {
        match &first {
            None if wanted.is_none_or(|wanted| line >= wanted) => {
                let names: Vec<String> = cells.iter().map(|cell| cell.text.trim().to_owned()).collect();
                types = vec![TypesMet::default(); names.len()];
                first = Some((line, names));
            }
            None => {}
            Some(_) => types.iter_mut().zip(cells).for_each(|(types, cell)| types.note(cell)),
        }
        ControlFlow::Continue(())
    })?;
    let Some((header_line, columns)) = first else {
        let what = match wanted {
            Some(line) => {
                format!("the sheet \"{sheet}\" ends before row {line}, where the plan says its header is")
            }
            None => format!("the sheet \"{sheet}\" is empty"),
        };
        let help = "a header with the names of the columns was expected".to_owned();
        return Err(RecordsError::BrokenFile { path: path.to_owned(), line: 1, what, help });
    };
    if types.iter().any(TypesMet::are_mixed) {
        let mixed = columns.iter().zip(&types).filter(|(_, types)| types.are_mixed());
        let names: Vec<&str> = mixed.map(|(name, _)| name.as_str()).collect();
        said.push(format!("{} holds dates and texts", names.join(", ")));
    }
    Ok(SheetSource {
        source: reading.source,
        path: path.to_owned(),
        sheet,
        header_line,
        last_line: None,
        types: types.iter().map(TypesMet::of_all).collect(),
        columns,
        said,
        size: ChunkSize::of_rows_with(1),
        longest_cell: reading.longest_cell,
        chunks: None,
        is_at_end: false,
        rows_read: 0,
        bytes,
        end,
    })
}

/// Opens a workbook that this program wrote, once it is whole: its bytes are summed as they come, and its rows read from its place.
pub(super) fn open_own(file: OwnFile) -> Result<SheetSource, RecordsError> {
    let OwnFile { path, input, columns, hash, .. } = file;
    let mut raw = RawBytes::new(input, hash);
    io::copy(&mut raw, &mut io::sink()).map_err(RecordsError::file(&path, "read it back"))?;
    let (bytes, end) = (raw.count(), raw.finish());
    let mut book = Book::open(&path)?;
    let Some((sheet, _)) = book.sheets(&path)?.into_iter().next() else {
        return Err(broken(&path, "it has no sheets"));
    };
    let last_line = rows_written(&path)?;
    let mut header: Option<Vec<String>> = None;
    book.rows(&path, &sheet, |_, cells| {
        header = Some(cells.iter().map(|cell| cell.text.clone()).collect());
        ControlFlow::Break(())
    })?;
    if header.as_ref() != Some(&columns) {
        return Err(RecordsError::Proof {
            what: "the header of the workbook is not that which was written".to_owned(),
        });
    }
    Ok(SheetSource {
        source: 0,
        path,
        sheet,
        header_line: 1,
        last_line: Some(last_line),
        columns,
        types: Vec::new(),
        said: Vec::new(),
        size: ChunkSize::of_rows_with(1),
        longest_cell: usize::MAX,
        chunks: None,
        is_at_end: false,
        rows_read: 0,
        bytes,
        end,
    })
}

/// How a workbook seems to be written: of the sheets that are shown the one whose first rows are filled the most, and the first
/// row that is filled like the others.
pub(super) fn form_of(path: &Path) -> Result<FileForm, RecordsError> {
    limits::check(path)?;
    let mut book = Book::open(path)?;
    let sheets = book.sheets(path)?;
    let mut shown: Vec<&str> =
        sheets.iter().filter(|(_, is_shown)| *is_shown).map(|(name, _)| name.as_str()).collect();
    if shown.is_empty() {
        shown.extend(sheets.first().map(|(name, _)| name.as_str()));
    }
    let mut best: Option<(usize, &str, Vec<FilledRow>)> = None;
    for sheet in &shown {
        let filled = filled_rows(&mut book, path, sheet)?;
        let cells = filled.iter().map(|(_, cells)| *cells).sum();
        if best.as_ref().is_none_or(|(most, ..)| cells > *most) {
            best = Some((cells, sheet, filled));
        }
    }
    let Some((_, sheet, filled)) = best else { return Err(broken(path, "it has no sheets")) };
    // A title, or a merged cell, fills fewer cells than a header does.
    let most = filled.iter().map(|(_, cells)| *cells).max().unwrap_or(0);
    let header = filled.iter().find(|(_, cells)| cells * 2 > most).map(|(line, _)| *line);
    let first = filled.first().map_or(1, |(line, _)| *line);
    Ok(FileForm {
        header_line: header.filter(|line| *line > first),
        sheet: (shown.len() > 1).then(|| SheetChoice::Named(sheet.to_owned())),
        ..FileForm::default()
    })
}

/// The number of a row, and how many of its cells are filled.
type FilledRow = (u64, usize);

/// The first rows of a sheet that are not blank, each with how many of its cells are filled.
fn filled_rows(book: &mut Book, path: &Path, sheet: &str) -> Result<Vec<FilledRow>, RecordsError> {
    const ROWS: usize = 60;
    let mut filled: Vec<FilledRow> = Vec::new();
    book.rows(path, sheet, |line, cells| {
        filled.push((line, cells.iter().filter(|cell| !cell.text.trim().is_empty()).count()));
        if filled.len() < ROWS { ControlFlow::Continue(()) } else { ControlFlow::Break(()) }
    })?;
    Ok(filled)
}

/// The sheet that a plan names; where it names none, the only one that is shown.
fn chosen(
    path: &Path,
    sheets: &[(String, bool)],
    choice: Option<&SheetChoice>,
) -> Result<String, RecordsError> {
    let shown: Vec<&str> = sheets.iter().filter(|(_, shown)| *shown).map(|(name, _)| name.as_str()).collect();
    let names: Vec<String> = sheets.iter().map(|(name, _)| format!("\"{name}\"")).collect();
    let refused = |what: String| {
        let help = format!("sheet = … under [records]: {}", names.join(", "));
        RecordsError::BrokenFile { path: path.to_owned(), line: 1, what, help }
    };
    match (choice, shown.as_slice()) {
        (Some(SheetChoice::Named(name)), _) => {
            let found = sheets.iter().find(|(sheet, _)| sheet == name);
            found
                .map(|(name, _)| name.clone())
                .ok_or_else(|| refused(format!("there is no sheet \"{name}\"")))
        }
        (Some(SheetChoice::Number(number)), _) => {
            let found = number.checked_sub(1).and_then(|nth| sheets.get(nth));
            found.map(|(name, _)| name.clone()).ok_or_else(|| refused(format!("there is no sheet {number}")))
        }
        (None, [only]) => Ok((*only).to_owned()),
        (None, []) => Err(refused("no sheet is shown".to_owned())),
        (None, several) => Err(refused(format!("the workbook has {} sheets", several.len()))),
    }
}

fn said_of(sheets: &[(String, bool)], sheet: &str) -> String {
    let others: Vec<String> = sheets
        .iter()
        .filter(|(name, _)| name != sheet)
        .map(|(name, shown)| if *shown { format!("\"{name}\"") } else { format!("\"{name}\" (hidden)") })
        .collect();
    match others.as_slice() {
        [] => format!("sheet \"{sheet}\""),
        others => format!("sheet \"{sheet}\", not {}", others.join(", ")),
    }
}

/// The size of the file, and what its bytes come to.
fn hashed(path: &Path, hash: HashKind) -> Result<(u64, (u64, crate::files::Fingerprint)), RecordsError> {
    let file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
    let mut raw = RawBytes::new(Box::new(file), hash);
    io::copy(&mut raw, &mut io::sink()).map_err(RecordsError::file(path, "read it"))?;
    Ok((raw.count(), raw.finish()))
}

impl Source for SheetSource {
    fn columns(&self) -> &[String] {
        &self.columns
    }

    fn with_chunks_of(&mut self, size: ChunkSize) {
        self.size = size;
    }

    fn next_chunk(&mut self) -> Result<Option<Chunk>, RecordsError> {
        if self.chunks.is_none() {
            self.chunks = Some(self.begin()?);
        }
        if self.is_at_end {
            return Ok(None);
        }
        // Who reads the sheet says when it is at its end; one who has stopped before is no end.
        let stopped = || RecordsError::Proof { what: "the thread that reads the sheet stopped".to_owned() };
        let sent = self.chunks.as_ref().and_then(|chunks| chunks.recv().ok()).ok_or_else(stopped)?;
        let chunk = sent?;
        self.is_at_end = chunk.is_none();
        self.rows_read += chunk.as_ref().map_or(0, |chunk| chunk.rows);
        Ok(chunk)
    }

    fn chunk_reader(&self) -> Box<dyn ChunkReader> {
        Box::new(WorkbookRows::new(&self.columns))
    }

    fn said(&self) -> &[String] {
        &self.said
    }

    fn types(&self) -> &[ColumnType] {
        &self.types
    }

    fn rows_read(&self) -> u64 {
        self.rows_read
    }

    fn bytes_read(&self) -> u64 {
        self.bytes
    }

    fn finish(self: Box<Self>) -> SourceEnd {
        let (checksum, fingerprint) = self.end;
        SourceEnd { rows: self.rows_read, checksum, fingerprint }
    }
}

impl SheetSource {
    /// Begins to read the rows below the header, by a thread that ends where nobody wants more.
    fn begin(&self) -> Result<Receiver<Sent>, RecordsError> {
        let (give, chunks) = sync_channel(2);
        let reader = SheetReader {
            path: self.path.clone(),
            sheet: self.sheet.clone(),
            header_line: self.header_line,
            last_line: self.last_line,
            next_line: self.header_line + 1,
            size: self.size,
            longest_cell: self.longest_cell,
            chunk: Chunk { source: self.source, bytes: Vec::new(), first_row: 1, first_line: 1, rows: 0 },
        };
        let read = move || reader.read(&give);
        let thread = Builder::new().name("sheet".to_owned()).spawn(read);
        thread.map(|_| chunks).map_err(|error| RecordsError::no_thread(&error))
    }
}
