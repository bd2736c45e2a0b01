//! What a plan says, checked as far as it can be without its records.

use crate::columns::{
    AS_OF_FIELD, AsOfDate, Condition, Figures, PlannedBound, PlannedCalendar, PlannedColumn,
};
use crate::error::RecordsError;
use crate::files::{HashKind, InputFile, Remote};
use crate::join::PlannedJoin;
use crate::keys::Duplicates;
use crate::mistakes::{At, Mistakes};
use crate::reports::PlannedReport;
use crate::sink::SinkForm;
use crate::source::{Blocks, FileForm, Reading, Stop};
use crate::written::WrittenColumns;
use mild_ledger::Decimal;
use std::ffi::OsStr;
use std::path::{Component, Path, PathBuf};

pub use super::as_of::AsOf;

/// A plan: records in; columns, reports and exceptions out.
#[derive(Debug)]
pub struct Plan {
    pub(crate) path: PathBuf,
    pub(crate) source: String,
    /// The file as it was read, a byte-order mark included.
    pub(crate) input: InputFile,
    pub(crate) title: At<String>,
    pub(crate) as_of: Option<AsOf>,
    pub(crate) records_files: Vec<At<String>>,
    /// The column that gets the name of each row's file.
    pub(crate) file_column: Option<At<String>>,
    pub(crate) key: Vec<At<String>>,
    pub(crate) duplicates: Option<Duplicates>,
    pub(crate) total_row: TotalRow,
    pub(crate) longest_cell: usize,
    /// How the text of the records is written.
    pub(crate) form: FileForm,
    /// How its columns are written.
    pub(crate) written: WrittenColumns,
    pub(crate) joins: Vec<PlannedJoin>,
    pub(crate) select: Vec<Condition>,
    pub(crate) bounds: Vec<PlannedBound>,
    /// Columns of the file, each with the added one that it is compared with.
    pub(crate) compare: Vec<(At<String>, At<String>)>,
    pub(crate) control: ControlPlan,
    pub(crate) calendars: Vec<PlannedCalendar>,
    pub(crate) columns: Vec<PlannedColumn>,
    pub(crate) reports: Vec<Box<dyn PlannedReport>>,
    /// For each report the file that it is written to, where one is named.
    pub(crate) report_files: Vec<Option<At<String>>>,
    /// The folder that outputs go to instead of that of the plan.
    pub(crate) output_folder: Option<PathBuf>,
    /// Whether figures can be opened though no report for people is named.
    pub(crate) figures: Figures,
    pub(crate) output_rows: At<String>,
    pub(crate) output_exceptions: At<String>,
    /// Where the receipt goes, where that is stated.
    pub(crate) output_receipt: Option<At<String>>,
    /// The report that people get, where one is named.
    pub(crate) output_documents: Vec<At<String>>,
    /// How outputs of text are written.
    pub(crate) output_form: SinkForm,
    pub(crate) merged_rows: MergedRows,
    pub(crate) output_columns: OutputColumns,
    pub(crate) order_by: Vec<At<String>>,
    /// What files are hashed by for the receipt.
    pub(crate) hash: HashKind,
}

/// The columns of the rows that are written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum OutputColumns {
    /// Those of the file, and those that are added.
    All,
    Named(Vec<At<String>>),
    /// What the proof reads back, of rows that no one keeps.
    ProvedAlone,
}

/// What becomes of the last row of a file where it is the total of the others.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(crate) enum TotalRow {
    /// It counts as a record, with a doubt.
    #[default]
    Keep,
    /// It is not selected, and is listed.
    LeaveOut,
}

pub(crate) const TOTAL_ROW: [(&str, TotalRow); 2] =
    [("keep", TotalRow::Keep), ("leave out", TotalRow::LeaveOut)];

/// How the exceptions have rows that were merged under a rule that the plan chose.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(crate) enum MergedRows {
    /// One line with their count.
    #[default]
    Counted,
    /// A line each.
    Listed,
}

/// Totals that the records are stated to have.
#[derive(Debug, Default)]
pub(crate) struct ControlPlan {
    pub(crate) rows: Option<u64>,
    /// What is stated of columns of amounts.
    pub(crate) totals: Vec<ControlOf>,
}

/// The sum that a column of amounts is stated to have, of one of its currencies where it has such.
#[derive(Debug)]
pub(crate) struct ControlOf {
    pub(crate) column: At<String>,
    pub(crate) currency: Option<At<String>>,
    pub(crate) total: Decimal,
}

/// What represents standard output where a plan names the file of its rows.
pub(crate) const STANDARD_OUTPUT: &str = "-";

impl Plan {
    /// The plan's title as it is, `{as_of}` not filled in; its file name where it states none.
    #[must_use]
    pub fn title(&self) -> &str {
        &self.title.value
    }

    /// The same plan with its rows sent to standard output, as CSV, in place of their file.
    ///
    /// ```
    /// use mild_ledger_records::Plan;
    /// let text = "plan = 1\n[records]\nfile = \"invoices.csv\"\n[output]\nrows = \"rows.xlsx\"\n";
    /// let plan = Plan::of_text(text, "month.toml".as_ref())?;
    /// assert!(!plan.sends_rows_to_standard_output());
    /// assert!(plan.with_rows_to_standard_output().sends_rows_to_standard_output());
    /// # Ok::<(), mild_ledger_records::RecordsError>(())
    /// ```
    #[must_use]
    pub fn with_rows_to_standard_output(mut self) -> Self {
        STANDARD_OUTPUT.clone_into(&mut self.output_rows.value);
        // A table of a database is none of CSV.
        self.output_form.table = None;
        self
    }

    /// Whether its rows go to standard output, and what is stated of them elsewhere.
    #[must_use]
    pub fn sends_rows_to_standard_output(&self) -> bool {
        self.output_rows.value == STANDARD_OUTPUT
    }

    pub(crate) fn reading(&self) -> Reading {
        Reading {
            source: 0,
            longest_cell: self.longest_cell,
            hash: self.hash,
            blocks: Blocks::default(),
            form: self.form.clone(),
            remote: Remote::default(),
            stop: Stop::default(),
        }
    }

    /// The plan's file.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// The plan for a caller that looks at its reports and keeps no file: its outputs are in this folder, and of the rows no more is written than what
    /// the proof reads back: amounts with their currencies, or the first column where there are none.
    ///
    /// ```
    /// use mild_ledger_records::{Plan, RunRequest, Watch, run};
    /// use std::sync::atomic::AtomicBool;
    /// let (folder, aside) = (tempfile::tempdir()?, tempfile::tempdir()?);
    /// std::fs::write(folder.path().join("invoices.csv"), "Invoice,Amount\nQB-1,10.50\nQB-2,3.00\n")?;
    /// let text = "plan = 1\n[records]\nfile = \"invoices.csv\"\n[records.amounts]\nAmount = { decimals = 2 }\n[output]\nrows = \"rows.csv\"\n";
    /// let plan = Plan::of_text(text, &folder.path().join("month.toml"))?.with_reports_alone(aside.path());
    /// run(&plan, &RunRequest::new(), Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} })?;
    /// assert_eq!(std::fs::read_to_string(aside.path().join("rows.csv"))?, "Amount\n10.50\n3.00\n");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn with_reports_alone(self, folder: impl Into<PathBuf>) -> Self {
        Self {
            output_columns: OutputColumns::ProvedAlone,
            order_by: Vec::new(),
            ..self.with_outputs_in(folder)
        }
    }

    /// The plan for a reader who draws a page of its reports: their figures can be opened to the first rows that make them up. A plan that names a report for
    /// people has them already.
    ///
    /// ```
    /// use mild_ledger_records::{Plan, RunRequest, Watch, run};
    /// use std::sync::atomic::AtomicBool;
    /// let folder = tempfile::tempdir()?;
    /// std::fs::write(folder.path().join("jobs.csv"), "Job,Work,Hours\nJ1,Hull,3\nJ2,Hull,5\n")?;
    /// let text = "plan = 1\n[records]\nfile = \"jobs.csv\"\nkey = \"Job\"\n[records.numbers]\nHours = { decimals = 0 }\n\
    ///     [[report]]\nkind = \"summary\"\nby = \"Work\"\nshow = [{ mean = \"Hours\" }]\n[output]\nrows = \"rows.csv\"\n";
    /// let plan = Plan::of_text(text, &folder.path().join("jobs.toml"))?.with_figures_opened();
    /// let outcome = run(&plan, &RunRequest::new(), Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} })?;
    /// assert_eq!(outcome.reports[0].behind[0].rows[1].key, "J2");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn with_figures_opened(self) -> Self {
        Self { figures: Figures::Opened, ..self }
    }

    /// The title, with the as-of date as it is shown to people.
    pub(crate) fn title_on(&self, as_of: Option<AsOfDate>) -> String {
        let shown = self.output_form.presentation();
        let date = |as_of: AsOfDate| match as_of.at {
            Some(at) => shown.date_time(at),
            None => shown.date(as_of.date),
        };
        as_of.map_or_else(
            || self.title.value.clone(),
            |as_of| self.title.value.replace(AS_OF_FIELD, &date(as_of)),
        )
    }

    /// The plan with its outputs in another folder than its own.
    #[must_use]
    pub fn with_outputs_in(mut self, folder: impl Into<PathBuf>) -> Self {
        self.output_folder = Some(folder.into());
        self
    }

    /// Whether anything in it asks for an as-of date. A plan that asks for none needs to state none.
    #[must_use]
    pub fn uses_as_of(&self) -> bool {
        let names = [&self.title, &self.output_rows, &self.output_exceptions];
        let of_reports = self.report_files.iter().flatten().chain(&self.output_documents);
        names
            .into_iter()
            .chain(&self.records_files)
            .chain(of_reports)
            .any(|name| name.value.contains(AS_OF_FIELD))
            || self.columns.iter().any(|column| column.planned.uses_as_of())
            || self.joins.iter().any(PlannedJoin::uses_as_of)
            || self.select.iter().any(Condition::uses_as_of)
            || self.bounds.iter().any(PlannedBound::uses_as_of)
            || self.reports.iter().any(|report| report.uses_as_of() || report.heading().uses_as_of())
    }

    /// The folder that the plan's paths start from.
    pub(crate) fn folder(&self) -> &Path {
        self.path.parent().unwrap_or(Path::new(""))
    }

    /// Where an output of a name is. In another folder than the plan's, whatever the name says: none leads out of it.
    pub(crate) fn output_place(&self, name: &str) -> PathBuf {
        let Some(folder) = &self.output_folder else { return self.folder().join(name) };
        let inside = Path::new(name).components().filter_map(|part| match part {
            Component::Normal(part) => Some(part),
            Component::CurDir => None,
            Component::ParentDir => Some(OsStr::new("up")),
            Component::RootDir | Component::Prefix(_) => Some(OsStr::new("root")),
        });
        folder.join(inside.collect::<PathBuf>())
    }

    pub(crate) fn mistakes(&self, mistakes: Mistakes) -> RecordsError {
        mistakes.of(&self.path, &self.source).into()
    }
}
