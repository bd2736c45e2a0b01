//! The outputs of a run: a list, each with its content, its place, and the rows written to it.

use super::held_rows::HeldRows;
use super::job::Job;
use super::records::Records;
use crate::columns::{AsOfDate, filled_in};
use crate::error::RecordsError;
use crate::files::{Progress, STANDARD_OUTPUT, receipt_path};
use crate::mistakes::{At, Mistakes};
use crate::plan::{DocumentFormat, Plan};
use crate::run::RunRequest;
use crate::sink::{RowBytes, RowForm, Sink, SinkForm, SinkKind, Target, Written};
use crate::table::plain_schema;
use arrow_schema::{DataType, Schema, SchemaRef};
use mild_ledger::{Notation, Scale};
use same_file::Handle;
use std::fs::File;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// What an output holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Holds {
    Rows,
    Exceptions,
    /// The tables of a report, by its number among those of the plan.
    Report(usize),
    /// All that the run found, as people get it: by the number of its file among those of the plan.
    Document(usize, DocumentFormat),
}

impl Holds {
    /// As messages call it.
    pub(super) fn said(self) -> &'static str {
        match self {
            Self::Rows => "the rows",
            Self::Exceptions => "the exceptions",
            Self::Report(_) => "a report",
            Self::Document(..) => "the report",
        }
    }
}

/// One output.
#[derive(Debug, Clone)]
pub(super) struct Output {
    pub(super) holds: Holds,
    /// As the plan names it, with the as-of date in its place.
    pub(super) name: String,
    pub(super) place: PathBuf,
    pub(super) columns: Vec<String>,
    /// How it is written, where it is a file of text.
    pub(super) form: SinkForm,
    /// For each column of amounts of the job where it is among the columns; `None` where it does not.
    pub(super) summed: Vec<Option<Summed>>,
}

impl Output {
    /// Whether it is held, to be taken to standard output.
    pub(super) fn is_held(&self) -> bool {
        self.name == STANDARD_OUTPUT
    }
}

/// A column of amounts in an output: its place among the columns, and its name.
#[derive(Debug, Clone)]
pub(super) struct Summed {
    pub(super) place: usize,
    pub(super) scale: Scale,
    /// How its numbers are there.
    pub(super) notation: Notation,
    pub(super) name: String,
    pub(super) currency: CurrencyIn,
}

impl Summed {
    /// The places of the columns that its sums are worked out from.
    pub(super) fn places(&self) -> impl Iterator<Item = usize> + use<> {
        let currency = match self.currency {
            CurrencyIn::Place(place) => Some(place),
            CurrencyIn::None | CurrencyIn::NotWritten => None,
        };
        std::iter::once(self.place).chain(currency)
    }
}

/// Where the currency of a column of amounts is in an output.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum CurrencyIn {
    /// The column has no currencies.
    None,
    /// In this place among the columns.
    Place(usize),
    /// It is not written, so that only the units of all can be added, as a check of them.
    NotWritten,
}

/// The columns of the file of exceptions.
pub(super) const EXCEPTION_COLUMNS: [&str; 9] =
    ["source", "row", "line", "key", "column", "text", "reason", "expected", "outcome"];

/// Those of them that hold numbers.
const EXCEPTION_NUMBERS: [&str; 2] = ["row", "line"];

/// The same as they are stored.
pub(super) fn exception_schema() -> SchemaRef {
    let holds = |name| if EXCEPTION_NUMBERS.contains(&name) { DataType::Int64 } else { DataType::Utf8 };
    plain_schema(&EXCEPTION_COLUMNS.map(|name| (name, holds(name))))
}

/// The outputs of a run: the rows, the exceptions, and the files of reports.
pub(super) fn outputs_of(
    plan: &Plan,
    as_of: Option<AsOfDate>,
    job: &Job,
    held: Option<&HeldRows>,
) -> Vec<Output> {
    let summed = |column: &usize, form: &SinkForm| {
        let place = job.output.iter().position(|written| written == column)?;
        Some(Summed {
            place,
            scale: job.scale(*column)?,
            notation: form.notation(),
            name: job.name(*column).to_owned(),
            currency: match job.setting.layout.currency(*column) {
                None => CurrencyIn::None,
                Some(currency) => match job.output.iter().position(|written| *written == currency) {
                    Some(place) => CurrencyIn::Place(place),
                    None => CurrencyIn::NotWritten,
                },
            },
        })
    };
    let rows = job.output.iter().map(|column| job.name(*column).to_owned()).collect();
    let exceptions = EXCEPTION_COLUMNS.map(ToOwned::to_owned).to_vec();
    let output = |holds, name: &At<String>, columns, summed| {
        let (name, place) = match held.filter(|_| holds == Holds::Rows) {
            Some(held) => (STANDARD_OUTPUT.to_owned(), held.place()),
            None => {
                let name = filled_in(&name.value, as_of);
                let place = plan.output_place(&name);
                (name, place)
            }
        };
        // Each file has those settings of the plan that its format has; the table named is that of the rows.
        let mut form = SinkKind::of(&place).heeded(plan.output_form.clone());
        match holds {
            Holds::Rows => {}
            Holds::Document(..) => form.table = None,
            Holds::Exceptions => form.table = Some("exceptions".to_owned()),
            Holds::Report(_) => form.table = Some("report".to_owned()),
        }
        Output { holds, name, place, columns, form, summed }
    };
    let mut of_rows = output(Holds::Rows, &plan.output_rows, rows, Vec::new());
    of_rows.summed = job.amounts.iter().map(|column| summed(column, &of_rows.form)).collect();
    let mut outputs =
        vec![of_rows, output(Holds::Exceptions, &plan.output_exceptions, exceptions, Vec::new())];
    for (nth, file) in plan.report_files.iter().enumerate() {
        // Its columns are known when it is finished.
        let of_report = |file| output(Holds::Report(nth), file, Vec::new(), Vec::new());
        outputs.extend(file.as_ref().map(of_report));
    }
    for (nth, file) in plan.output_documents.iter().enumerate() {
        let of_format = |format| output(Holds::Document(nth, format), file, Vec::new(), Vec::new());
        outputs.extend(DocumentFormat::of(Path::new(&file.value)).map(of_format));
    }
    outputs
}

/// Where the receipt goes: to the place that the caller or the plan names, or next to the first output that is a file of its own.
pub(super) fn receipt_place(plan: &Plan, request: &RunRequest, outputs: &[Output]) -> PathBuf {
    let of_plan = plan.output_receipt.as_ref().map(|name| plan.folder().join(&name.value));
    // Outputs that are put aside take the receipt of the plan with them.
    if let Some(named) = request.receipt.clone().or(of_plan.filter(|_| plan.output_folder.is_none())) {
        return named;
    }
    let file = outputs.iter().find(|output| !output.is_held());
    receipt_path(&plan.path, file.map_or(&plan.path, |output| &output.place))
}

/// No output is an input or another output, under whatever name.
pub(super) fn check_outputs(
    outputs: &[Output],
    receipt: &Path,
    plan: &Plan,
    records: &Records,
    job: &Job,
) -> Result<(), RecordsError> {
    let calendars = job.setting.calendars.iter().flat_map(|calendar| &calendar.opened.files);
    let mut taken: Vec<(&Path, String)> =
        vec![(&plan.path, "the plan itself".to_owned()), (receipt, "the receipt".to_owned())];
    let called = if records.files.len() == 1 { "the records file" } else { "a file of the records" };
    taken.extend(records.files.iter().map(|file| (file.path.as_path(), called.to_owned())));
    let other = |file| (AsRef::as_ref(file), "a file that columns are joined from".to_owned());
    taken.extend(job.other_files.iter().map(other));
    taken.extend(calendars.map(|file| (file.path.as_path(), "a calendar of the plan".to_owned())));
    for output in outputs {
        let place = &output.place;
        let folder = place.parent().filter(|folder| !folder.as_os_str().is_empty());
        if let (Some(folder), Some(aside)) = (folder, &plan.output_folder)
            && folder.starts_with(aside)
        {
            // The plan's own folders are there, and those of outputs that are put aside are made for them.
            std::fs::create_dir_all(folder).map_err(RecordsError::file(folder, "make it"))?;
        }
        if folder.is_some_and(|folder| !folder.is_dir()) {
            return Err(RecordsError::file(place, "write it")(std::io::ErrorKind::NotFound.into()));
        }
        if let Some((_, what)) = taken.iter().find(|(other, _)| is_same_file(place, other)) {
            let what = format!("this output is {what}, which it would overwrite");
            let at = match output.holds {
                Holds::Rows => Some(&plan.output_rows),
                Holds::Exceptions => Some(&plan.output_exceptions),
                Holds::Report(nth) => plan.report_files.get(nth).and_then(Option::as_ref),
                Holds::Document(nth, _) => plan.output_documents.get(nth),
            };
            let mut mistakes = Mistakes::default();
            let span = at.map_or(0..0, |at| at.span.clone());
            mistakes.tell(span, what, "a file of its own");
            return Err(plan.mistakes(mistakes));
        }
        taken.push((place, format!("the file of {}", output.holds.said().trim_start_matches("the "))));
    }
    let folder = receipt.parent().filter(|folder| !folder.as_os_str().is_empty());
    match folder.is_some_and(|folder| !folder.is_dir()) {
        true => Err(RecordsError::file(receipt, "write it")(std::io::ErrorKind::NotFound.into())),
        false => Ok(()),
    }
}

/// An output while it is written.
pub(super) struct OutputSink {
    sink: Box<dyn Sink>,
    form: Arc<dyn RowForm>,
    progress: Progress,
    place: PathBuf,
}

impl OutputSink {
    /// Begins to write an output to a file, and tells its progress.
    pub(super) fn begin(
        output: &Output,
        (file, part): (File, &Path),
        columns: &Schema,
        progress: Progress,
    ) -> Result<Self, RecordsError> {
        let failed = || RecordsError::file(&output.place, WRITE);
        let kind = SinkKind::of(&output.place);
        let target = Target { file, part, place: &output.place };
        Ok(Self {
            form: kind.form(columns, &output.form).map_err(failed())?,
            sink: kind.create(target, columns, &output.form).map_err(failed())?,
            progress,
            place: output.place.clone(),
        })
    }

    /// How rows are in it.
    pub(super) fn form(&self) -> &Arc<dyn RowForm> {
        &self.form
    }

    pub(super) fn write(&mut self, rows: &RowBytes) -> Result<(), RecordsError> {
        self.sink.write(rows).map_err(RecordsError::file(&self.place, WRITE))?;
        self.progress.reached(self.sink.bytes_written());
        Ok(())
    }

    /// Says of an error that it came of writing to this output.
    pub(super) fn failed(&self, error: std::io::Error) -> RecordsError {
        RecordsError::file(&self.place, WRITE)(error)
    }

    pub(super) fn finish(self) -> Result<Written, RecordsError> {
        self.sink.finish().map_err(RecordsError::file(&self.place, WRITE))
    }
}

const WRITE: &str = "write it";

/// Whether two paths lead, or would lead, to one file.
fn is_same_file(a: &Path, b: &Path) -> bool {
    // A pipe or a device is not opened to be looked at: that could wait for ever.
    let handle = |path: &Path| {
        std::fs::metadata(path)
            .ok()
            .filter(std::fs::Metadata::is_file)
            .and_then(|_| Handle::from_path(path).ok())
    };
    match (handle(a), handle(b)) {
        (Some(a), Some(b)) => a == b,
        _ => {
            let place = |path: &Path| {
                let folder =
                    path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
                (folder.canonicalize().ok(), path.file_name().map(ToOwned::to_owned))
            };
            a == b || (place(a) == place(b) && place(a).0.is_some())
        }
    }
}
