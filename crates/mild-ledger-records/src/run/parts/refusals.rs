//! What is not done in parts, told before a row is read, with the line of the plan.

use crate::error::RecordsError;
use crate::mistakes::{At, Mistakes};
use crate::plan::Plan;
use crate::run::RunRequest;
use crate::sink::SinkKind;
use crate::source::SourceKind;
use std::path::Path;

/// The formats that are read and written in parts, in words.
const FORMATS: &str = "CSV, JSON Lines or Parquet";

/// Refuses what a plan or a request holds that is not done in parts.
pub(super) fn check(plan: &Plan, request: &RunRequest) -> Result<(), RecordsError> {
    let mut mistakes = Mistakes::default();
    let has_pieces = |name: &str| SourceKind::of(Path::new(name)).has_pieces();
    for name in plan.records_files.iter().filter(|_| request.records.is_empty()) {
        if !has_pieces(&name.value) {
            let what =
                format!("the format {} is not read in parts", SourceKind::of(Path::new(&name.value)).word);
            mistakes.tell(name.span.clone(), what, FORMATS);
        }
    }
    let rows: &At<String> = &plan.output_rows;
    let kind = SinkKind::of(Path::new(&rows.value));
    if plan.sends_rows_to_standard_output() {
        mistakes.tell(rows.span.clone(), "rows are written in parts, and go to no standard output", "a name");
    } else if !kind.read_back().has_pieces() {
        let what = format!("the format {} is not written in parts", kind.word());
        mistakes.tell(rows.span.clone(), what, FORMATS);
    }
    if mistakes.count() > 0 {
        return Err(plan.mistakes(mistakes));
    }
    match request
        .records
        .iter()
        .find(|path| path.to_str().is_none_or(|name| name == "-" || !has_pieces(name)))
    {
        None => Ok(()),
        Some(path) => {
            let what = format!("{} is not read in parts", path.display());
            Err(RecordsError::request(what, format!("give a file of {FORMATS}")))
        }
    }
}
