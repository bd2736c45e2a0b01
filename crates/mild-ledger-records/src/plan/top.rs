//! A plan's text as a whole.

use super::as_of::AsOf;
use super::model::{ControlPlan, Plan};
use super::{control, output, records, vocabulary as keys};
use crate::columns::{Figures, check_placeholders, read_bound, read_calendar, read_columns, read_selection};
use crate::files::InputFile;
use crate::join::read_join;
use crate::mistakes::{At, PlanMistakes, Value, Walk, read_date};
use crate::reports::{FILE, read_report};
use std::ops::Range;
use std::path::Path;
use toml::de::{DeTable, DeValue};

/// Reads a plan's text; every mistake found is in the error.
pub(super) fn read(source: &str, input: InputFile) -> Result<Plan, PlanMistakes> {
    let path = input.path.clone();
    Walk::default().read(&path, source, |walk, tree| read_plan(walk, &path, (source, input), tree))
}

fn read_plan(
    walk: &mut Walk,
    path: &Path,
    (source, input): (&str, InputFile),
    top: &DeTable<'_>,
) -> Option<Plan> {
    let end = source.len()..source.len();
    // A plan of another version may say anything, so nothing more is reported of it.
    if let Some(version) = top.get("plan").filter(|version| is_another_version(version)) {
        let what = "this is not a version of the plan format that this program reads";
        walk.mistakes.tell(version.span(), what, "plan = 1");
        return None;
    }
    walk.check_keys(top, &keys::TOP);
    if let Some(version) =
        walk.needed(top, "plan", 0..0, "plan = 1, the version of the format, as the first line")
    {
        walk.whole_number(version, 1..=1);
    }
    let title = match top.get("title") {
        Some(title) => {
            let title = walk.text(title, "a text");
            title.iter().for_each(|title| check_placeholders(walk, title));
            title
        }
        None => {
            let value = path.file_stem().unwrap_or_default().to_string_lossy().into_owned();
            Some(At { value, span: 0..0 })
        }
    };
    let as_of = top.get("as_of").and_then(|value| read_as_of(walk, value));
    let records = walk.needed(top, "records", end.clone(), "[records] with file = \"…\"");
    let records = records.and_then(|value| records::read(walk, value));
    let joins = walk.tables(top, "join");
    let joins = joins.into_iter().filter_map(|(table, span)| read_join(walk, table, span)).collect();
    let select = read_selection(walk, top);
    let bounds = walk.tables(top, "bound");
    let bounds = bounds.into_iter().filter_map(|(table, span)| read_bound(walk, table, span)).collect();
    let compare = walk.tables(top, "cross_check");
    let compare = compare.into_iter().filter_map(|(table, span)| read_compare(walk, table, &span)).collect();
    let control = match top.get("control") {
        Some(value) => control::read(walk, value),
        None => Some(ControlPlan::default()),
    };
    let mut calendars = Vec::new();
    if let Some(value) = top.get("calendar")
        && let Some(table) = walk.table(value, "calendars, each under [calendar.name]")
    {
        for (name, value) in table {
            let name = At { value: name.get_ref().to_string(), span: name.span() };
            calendars.extend(read_calendar(walk, name, value));
        }
    }
    let columns = read_columns(walk, top);
    let reports = walk.tables(top, "report");
    let reports = reports.into_iter().filter_map(|(table, span)| {
        let file = match table.get(FILE) {
            Some(value) => Some(output::read_file(walk, value)?),
            None => None,
        };
        Some((read_report(walk, table, span)?, file))
    });
    let (reports, report_files) = reports.unzip();
    let output = walk.needed(top, "output", end, "[output] with rows = \"…\"");
    let output = output.and_then(|value| output::read(walk, value, path));
    let (records, output) = (records?, output?);
    Some(Plan {
        path: path.to_owned(),
        source: source.to_owned(),
        input,
        title: title?,
        as_of,
        records_files: records.files,
        file_column: records.file_column,
        key: records.key,
        duplicates: records.duplicates,
        total_row: records.total_row,
        longest_cell: records.longest_cell,
        form: records.form,
        written: records.written,
        joins,
        select,
        bounds,
        compare,
        control: control?,
        calendars,
        columns,
        reports,
        report_files,
        output_folder: None,
        figures: Figures::Closed,
        output_rows: output.rows,
        output_exceptions: output.exceptions,
        output_receipt: output.receipt,
        output_documents: output.documents,
        output_form: output.output_form,
        merged_rows: output.merged_rows,
        output_columns: output.columns,
        order_by: output.order_by,
        hash: output.hash,
    })
}

/// `[[cross_check]]`: a column of the file, and the added one that it is compared with.
fn read_compare(
    walk: &mut Walk,
    table: &DeTable<'_>,
    span: &Range<usize>,
) -> Option<(At<String>, At<String>)> {
    walk.check_keys(table, &keys::COMPARE);
    let mut name = |key: &str, expected: &str| {
        let value = walk.needed(table, key, span.clone(), expected)?;
        walk.text(value, "the name of a column")
    };
    let column = name("column", "column = \"…\", a column of the file");
    let with = name("ours", "ours = \"…\", a column that the plan adds");
    Some((column?, with?))
}

fn is_another_version(value: &Value<'_>) -> bool {
    matches!(value.get_ref(), DeValue::Integer(digits) if digits.as_str() != "1")
}

fn read_as_of(walk: &mut Walk, value: &Value<'_>) -> Option<AsOf> {
    const EXPECTED: &str =
        "a date such as 2026-09-30, perhaps with a time, or a day such as \"today\" or \"end of last month\"";
    match value.get_ref() {
        DeValue::String(_) => walk.parsed(value, EXPECTED, str::parse),
        DeValue::Datetime(at) if at.date.is_some() && at.time.is_some() && at.offset.is_none() => {
            match at.to_string().parse() {
                Ok(at) => Some(AsOf::Time(at)),
                Err(error) => {
                    let error: mild_ledger::Error = error;
                    walk.mistakes.tell(value.span(), error.what(), error.allowed());
                    None
                }
            }
        }
        _ => read_date(walk, value, EXPECTED).map(AsOf::Date),
    }
}
