//! A sheet of a workbook as a source of rows.

use super::book::Book;
use super::limits;
use super::parts::rows_written;
use super::unseen::{Unseen, part_of};
use super::{NO_STORED_VALUE, broken};
use crate::error::RecordsError;
use crate::source::raw_bytes::RawBytes;
use crate::source::typed_rows::{TakeRow, TypedRows, TypedTable, WholeFile};
use crate::source::types_met::TypesMet;
use crate::source::{FileForm, OwnFile, Reading, SheetChoice};
use crate::table::TypedCell as Cell;
use mild_ledger::SerialSystem;
use std::ops::ControlFlow;
use std::path::Path;

/// Opens a sheet, reads it once for its header and for the types of its columns, and hashes the file.
pub(super) fn open(path: &Path, reading: &Reading) -> Result<TypedRows, RecordsError> {
    limits::check(path)?;
    let file = WholeFile::read(path, reading)?;
    let mut book = Book::open(path)?;
    let sheets = book.sheets(path)?;
    let sheet = chosen(path, &sheets, reading.form.sheet.as_ref())?;
    let mut said = vec![said_of(&sheets, &sheet)];
    said.extend(Unseen::of(path, &sheet)?.said());
    let mut first: Option<(u64, Vec<String>)> = None;
    let mut types: Vec<TypesMet> = Vec::new();
    let mut without_value = 0_u64;
    let wanted = reading.form.header_line;
    book.rows(path, &sheet, |line, cells| {
        match &first {
            None if wanted.is_none_or(|wanted| line >= wanted) => {
                let names: Vec<String> = cells.iter().map(|cell| cell.text.trim().to_owned()).collect();
                types = vec![TypesMet::default(); names.len()];
                first = Some((line, names));
            }
            None => {}
            Some(_) => {
                types.iter_mut().zip(cells).for_each(|(types, cell)| types.note(cell));
                without_value += cells.iter().filter(|cell| cell.text == NO_STORED_VALUE).count() as u64;
            }
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
    match without_value {
        0 => {}
        1 => said.push("1 formula has no stored value and cannot be read".to_owned()),
        formulas => said.push(format!("{formulas} formulas have no stored value and cannot be read")),
    }
    if types.iter().any(TypesMet::are_mixed) {
        let mixed = columns.iter().zip(&types).filter(|(_, types)| types.are_mixed());
        let names: Vec<&str> = mixed.map(|(name, _)| name.as_str()).collect();
        let hold = if names.len() == 1 { "holds" } else { "hold" };
        said.push(format!("{} {hold} dates and texts", names.join(", ")));
    }
    let table = TypedTable {
        source: reading.source,
        path: path.to_owned(),
        types: types.iter().map(TypesMet::of_all).collect(),
        columns,
        unread: Vec::new(),
        said,
        longest_cell: reading.longest_cell,
        file,
        groups: None,
        first_row: 1,
    };
    let path = path.to_owned();
    let read = move |take: TakeRow<'_>| {
        let below = |line, cells: &[Cell]| {
            if line <= header_line { ControlFlow::Continue(()) } else { take(line, cells) }
        };
        Book::open(&path)?.rows(&path, &sheet, below)
    };
    Ok(TypedRows::new(table, Box::new(read)))
}

/// A sheet of an .xlsx workbook, with where its records are.
#[derive(Debug, Clone)]
pub(crate) struct SheetFound {
    pub(crate) name: String,
    /// The part of the workbook that holds it.
    pub(crate) part: String,
    pub(crate) header_line: u64,
    /// The cells of the header.
    pub(crate) header: Vec<String>,
    pub(crate) system: SerialSystem,
}

impl SheetFound {
    /// The sheet that records are read from; `None` for a workbook of another format, or one whose parts are called otherwise.
    pub(crate) fn of(path: &Path, form: &FileForm) -> Result<Option<Self>, RecordsError> {
        limits::check(path)?;
        let mut book = Book::open(path)?;
        let Some(system) = book.serial_system() else { return Ok(None) };
        let name = chosen(path, &book.sheets(path)?, form.sheet.as_ref())?;
        let Some(part) = part_of(path, &name)? else { return Ok(None) };
        let mut found = None;
        book.rows(path, &name, |line, cells| {
            if form.header_line.is_some_and(|wanted| line < wanted) {
                return ControlFlow::Continue(());
            }
            found = Some((line, cells.iter().map(|cell| cell.text.clone()).collect()));
            ControlFlow::Break(())
        })?;
        Ok(found.map(|(header_line, header)| Self { name, part, header_line, header, system }))
    }

    /// The rows below the header that are not blank, each with its number, of this workbook or of one with the same sheet.
    pub(crate) fn each_row(
        &self,
        path: &Path,
        mut take: impl FnMut(u64, &[Cell]),
    ) -> Result<(), RecordsError> {
        Book::open(path)?.rows(path, &self.name, |line, cells| {
            if line > self.header_line {
                take(line, cells);
            }
            ControlFlow::Continue(())
        })
    }
}

/// The rows of a workbook that this program wrote, below its header; rows of nothing are rows.
pub(crate) fn each_own_row(path: &Path, mut take: impl FnMut(&[Cell])) -> Result<(), RecordsError> {
    let book = Book::open(path)?;
    let Some((sheet, _)) = book.sheets(path)?.into_iter().next() else {
        return Err(broken(path, "it has no sheets"));
    };
    let last_line = rows_written(path)?;
    read_own(path, &sheet, last_line, &mut |_, cells| {
        take(cells);
        ControlFlow::Continue(())
    })
}

/// Opens a workbook that this program wrote, once it is whole: its bytes are summed as they come, and its rows read from its place.
pub(super) fn open_own(file: OwnFile) -> Result<TypedRows, RecordsError> {
    let OwnFile { path, input, columns, hash, .. } = file;
    let whole = WholeFile::of(&path, RawBytes::new(input, hash))?;
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
    let table = TypedTable::of_own(path.clone(), (&header.unwrap_or_default(), columns), whole)?;
    let read = move |take: TakeRow<'_>| read_own(&path, &sheet, last_line, take);
    Ok(TypedRows::new(table, Box::new(read)))
}

/// The rows of a sheet of our own below its header; rows of nothing are rows.
fn read_own(path: &Path, sheet: &str, last_line: u64, take: TakeRow<'_>) -> Result<(), RecordsError> {
    let mut next_line = 2;
    let mut blanks_to = |line: u64, take: &mut dyn FnMut(u64, &[Cell]) -> ControlFlow<()>| {
        while next_line < line {
            take(next_line, &[])?;
            next_line += 1;
        }
        next_line = line.max(next_line) + 1;
        ControlFlow::Continue(())
    };
    let mut is_wanted = true;
    Book::open(path)?.rows(path, sheet, |line, cells| {
        let flow = match line {
            1 => ControlFlow::Continue(()),
            line => match blanks_to(line, take) {
                ControlFlow::Continue(()) => take(line, cells),
                broken_off => broken_off,
            },
        };
        is_wanted = flow.is_continue();
        flow
    })?;
    if is_wanted {
        let _ = blanks_to(last_line + 1, take);
    }
    Ok(())
}

/// How a workbook seems to be written: of the sheets that are shown the one whose first rows are filled the most, and the first
/// row that is filled like the others.
pub(super) fn form_of(path: &Path, part: Option<&str>) -> Result<FileForm, RecordsError> {
    limits::check(path)?;
    let mut book = Book::open(path)?;
    let sheets = book.sheets(path)?;
    let mut shown: Vec<&str> =
        sheets.iter().filter(|(_, is_shown)| *is_shown).map(|(name, _)| name.as_str()).collect();
    let choice = part.map(|name| match (sheets.iter().any(|(sheet, _)| sheet == name), name.parse()) {
        (false, Ok(number)) => SheetChoice::Number(number),
        _ => SheetChoice::Named(name.to_owned()),
    });
    let wanted = choice.map(|choice| chosen(path, &sheets, Some(&choice))).transpose()?;
    if let Some(wanted) = &wanted {
        shown = vec![wanted];
    } else if shown.is_empty() {
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
        sheet: (shown.len() > 1 || wanted.is_some()).then(|| SheetChoice::Named(sheet.to_owned())),
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
