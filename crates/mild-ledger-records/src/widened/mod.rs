//! A workbook with more columns: the sheet of the records gets them, and all other parts stay byte for byte as they are.

mod check;
mod other_parts;
mod sheet_part;
mod styles_part;

use crate::error::RecordsError;
use crate::source::{FileForm, Parts, SheetChoice, SheetFound, each_own_row};
use crate::table::{CellType, TypedCell};
pub use other_parts::OtherParts;
use sheet_part::{Place, SheetStyles, write_sheet};
use std::fs::File;
use std::io::{self, BufWriter, Write};
use std::path::Path;
use std::sync::mpsc::sync_channel;
use std::thread::Builder;
use styles_part::{NewStyles, Wanted};
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

/// A workbook (.xlsx or .xlsm, ISO/IEC 29500) that gets columns.
///
/// ```
/// use mild_ledger_records::WorkbookToWiden;
/// let folder = tempfile::tempdir()?;
/// let file = folder.path().join("orders.csv");
/// std::fs::write(&file, "Order,Amount\nO-1,5\n")?;
/// // A file of another format is none.
/// assert!(WorkbookToWiden::of(&file, None, None)?.is_none());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub struct WorkbookToWiden {
    path: std::path::PathBuf,
    sheet: SheetFound,
    others: OtherParts,
}

/// The new columns, and how they look.
#[derive(Debug, Clone, Copy)]
pub struct NewColumns<'n> {
    /// The workbook of rows that a run wrote: the columns of the sheet, and the new ones to the right of them.
    pub rows: &'n Path,
    /// The column of the sheet whose dates the new ones look like; none where no new date is like one of the sheet.
    pub dates_like: Option<&'n str>,
}

impl WorkbookToWiden {
    /// The workbook, and its sheet by its name or number; `None` where the file is of another format.
    ///
    /// # Errors
    /// Where it cannot be read, or has no such sheet.
    pub fn of(
        path: &Path,
        sheet: Option<&str>,
        header_line: Option<u64>,
    ) -> Result<Option<Self>, RecordsError> {
        let is_workbook = |ending: &std::ffi::OsStr| {
            ["xlsx", "xlsm"].iter().any(|known| ending.eq_ignore_ascii_case(known))
        };
        if !path.extension().is_some_and(is_workbook) {
            return Ok(None);
        }
        let sheet = sheet.map(|name| SheetChoice::Named(name.to_owned()));
        let form = FileForm { sheet, header_line, ..FileForm::default() };
        let Some(sheet) = SheetFound::of(path, &form)? else { return Ok(None) };
        let others = OtherParts::of(path, &sheet)?;
        Ok(Some(Self { path: path.to_owned(), sheet, others }))
    }

    /// What else is in the workbook.
    #[must_use]
    pub fn others(&self) -> &OtherParts {
        &self.others
    }

    /// Looks whether nothing is where the new columns go.
    ///
    /// # Errors
    /// [`RecordsError::Request`] where a row has a cell to the right of the header, with the row; and where the workbook cannot be read.
    pub fn check_room(&self) -> Result<(), RecordsError> {
        let mut taken = None;
        self.sheet.each_row(&self.path, |line, cells| {
            if cells.len() > self.sheet.header.len() {
                taken.get_or_insert(line);
            }
        })?;
        match taken {
            None => Ok(()),
            Some(line) => Err(RecordsError::request(
                format!(
                    "row {line} of the sheet \"{}\" has a cell to the right of its table, where the new columns go",
                    self.sheet.name
                ),
                "move that cell; or write the rows to another format, such as CSV",
            )),
        }
    }

    /// Writes the workbook with the new columns to a new file, and reads it back.
    ///
    /// # Errors
    /// Where a file cannot be read or written, the rows are not those of the sheet, or the cells read back differ from the cells written.
    pub fn write(&self, columns: NewColumns<'_>, target: &Path) -> Result<(), RecordsError> {
        let mut lines: Vec<u64> = Vec::new();
        self.sheet.each_row(&self.path, |line, _| lines.push(line))?;
        let first_new = self.sheet.header.len();
        let header = self.header_of(columns)?;
        let mut wanted = vec![Wanted::default(); header.len()];
        let mut rows = 0_usize;
        each_own_row(columns.rows, |cells| {
            rows += 1;
            wanted.iter_mut().zip(new_cells(cells, first_new)).for_each(|(wanted, cell)| wanted.note(cell));
        })?;
        if rows != lines.len() {
            let what = format!("the sheet has {} rows, and {rows} were written for it", lines.len());
            return Err(RecordsError::Proof { what });
        }
        let mut parts = Parts::open(&self.path)?;
        let (styles, look) = {
            let look = SheetStyles::of(&self.path, &mut parts, &self.sheet, columns.dates_like)?;
            (NewStyles::of(&self.path, &mut parts, &wanted, look.dates.as_deref())?, look)
        };
        let failed = || RecordsError::file(target, "write it");
        let mut archive = ZipWriter::new(BufWriter::new(File::create_new(target).map_err(failed())?));
        let widths = wanted.iter().zip(&header).map(|(wanted, header)| wanted.width(header)).collect();
        let place = Place { first: first_new, lines: &lines, header: &header, widths };
        for nth in 0..parts.count() {
            let name = parts.part(nth)?.0;
            if name == self.sheet.part || styles.replaces(&name) {
                let options = SimpleFileOptions::default().compression_method(CompressionMethod::Deflated);
                archive.start_file(name.as_str(), options).map_err(|error| failed()(error.into()))?;
                if name == self.sheet.part {
                    self.write_sheet(&mut archive, (&mut parts, &place), (&styles, &look), columns)?;
                } else {
                    archive.write_all(styles.bytes()).map_err(failed())?;
                }
            } else {
                archive.raw_copy_file(parts.packed(nth)?).map_err(|error| failed()(error.into()))?;
            }
        }
        let file = archive.finish().map_err(|error| failed()(error.into()))?;
        let file = file.into_inner().map_err(|error| failed()(error.into_error()))?;
        file.sync_all().map_err(failed())?;
        check::check(&self.sheet, (&self.path, target), columns.rows, (place.first, header.len()))
    }

    /// The headers of the new columns.
    fn header_of(&self, columns: NewColumns<'_>) -> Result<Vec<String>, RecordsError> {
        let form = FileForm::default();
        let Some(own) = SheetFound::of(columns.rows, &form)? else {
            return Err(RecordsError::Proof { what: "the rows are in no workbook".to_owned() });
        };
        Ok(own.header.into_iter().skip(self.sheet.header.len()).collect())
    }

    /// The part of the sheet, with the rows that another thread reads.
    fn write_sheet(
        &self,
        archive: &mut ZipWriter<BufWriter<File>>,
        (parts, place): (&mut Parts, &Place<'_>),
        (styles, look): (&NewStyles, &SheetStyles),
        columns: NewColumns<'_>,
    ) -> Result<(), RecordsError> {
        const WAITING: usize = 256;
        let (send, next) = sync_channel::<Vec<TypedCell>>(WAITING);
        let (first_new, count) = (self.sheet.header.len(), place.header.len());
        std::thread::scope(|scope| {
            let reading = Builder::new().name("new columns".to_owned()).spawn_scoped(scope, move || {
                each_own_row(columns.rows, |cells| {
                    let new = new_cells(cells, first_new).chain(std::iter::repeat(&BLANK));
                    // A writer that has stopped has its own error.
                    let _ = send.send(new.take(count).cloned().collect());
                })
            });
            let reading = reading.map_err(|error| RecordsError::no_thread(&error))?;
            let part = parts.named(&self.sheet.part)?;
            let written = write_sheet((&self.path, part), archive, place, (styles, look), &self.sheet, &next);
            drop(next);
            let read = reading.join().map_err(|_| RecordsError::Proof {
                what: "the thread that reads the new columns stopped".to_owned(),
            })?;
            written.and(read)
        })
    }
}

static BLANK: TypedCell = TypedCell { holds: CellType::Text, text: String::new() };

/// The cells of a row that are new.
fn new_cells(cells: &[TypedCell], first: usize) -> impl Iterator<Item = &TypedCell> {
    cells.iter().skip(first)
}

fn broken(path: &Path, what: &str) -> RecordsError {
    let what = format!("the workbook cannot be read: {}", what.trim());
    RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
}
