//! `[output]`: the files, and the columns and the order of the rows.

use super::document_format::DocumentFormat;
use super::model::{MergedRows, OutputColumns, STANDARD_OUTPUT};
use super::vocabulary as keys;
use crate::columns::AS_OF_FIELD;
use crate::files::HashKind;
use crate::mistakes::{At, Value, Walk};
use crate::sink::{ByteOrderMark, SinkForm, SinkKind, SinkPart};
use crate::written::read_sign;
use mild_ledger::{DatePattern, DecimalMark, WritingPattern};
use std::path::Path;
use toml::de::DeTable;

pub(super) struct OutputPart {
    pub(super) rows: At<String>,
    pub(super) exceptions: At<String>,
    pub(super) receipt: Option<At<String>>,
    pub(super) documents: Vec<At<String>>,
    pub(super) output_form: SinkForm,
    pub(super) merged_rows: MergedRows,
    pub(super) columns: OutputColumns,
    pub(super) order_by: Vec<At<String>>,
    pub(super) hash: HashKind,
}

pub(super) fn read(walk: &mut Walk, value: &Value<'_>, path: &Path) -> Option<OutputPart> {
    let table = walk.table(value, "a table under [output]")?;
    walk.check_keys(table, &keys::OUTPUT);
    let rows = walk.needed(table, "rows", value.span(), "rows = \"…\", the file to write the rows to");
    let rows =
        rows.and_then(|value| walk.text(value, "the name of a file")).and_then(|name| check_name(walk, name));
    let rows = rows.and_then(|name| check_format(walk, name));
    let exceptions = match table.get("exceptions") {
        Some(value) => read_file(walk, value),
        None => {
            // Of the same as-of date as the rows, where those say one.
            let stem = path.file_stem().unwrap_or_default().to_string_lossy();
            let dated = rows.as_ref().is_some_and(|rows| rows.value.contains(AS_OF_FIELD));
            let as_of = if dated { "-{as_of}" } else { "" };
            Some(At { value: format!("{stem}-exceptions{as_of}.csv"), span: value.span() })
        }
    };
    let receipt = match table.get("receipt") {
        Some(value) => Some(read_receipt(walk, value)?),
        None => None,
    };
    let documents = match table.get("report") {
        Some(value) => {
            let names: Vec<Option<_>> =
                walk.items_or_one(value).iter().map(|item| read_document(walk, item)).collect();
            names.into_iter().collect::<Option<Vec<_>>>()?
        }
        None => Vec::new(),
    };
    let output_form = read_form(walk, table)?;
    if let Some(rows) = &rows {
        let of_documents = [SinkPart::DecimalMark, SinkPart::Dates];
        let of_documents = of_documents.into_iter().filter(|_| !documents.is_empty());
        // The plan does not state the semicolon that comes with the decimal comma.
        let unstated = table.get("separator").is_none().then_some(SinkPart::Separator);
        let others: Vec<SinkPart> = of_documents.chain(unstated).collect();
        check_heeded(walk, table, &output_form, (rows, &others));
    }
    let merged_rows = match table.get("merged_rows") {
        Some(value) => walk.choice(value, &MERGED_ROWS)?,
        None => MergedRows::default(),
    };
    let columns = match table.get("columns") {
        Some(value) => OutputColumns::Named(walk.texts(value, "a list of column names")?),
        None => OutputColumns::All,
    };
    let order_by = match table.get("order_by") {
        Some(value) => walk.texts(value, "column names, each perhaps with \", largest first\"")?,
        None => Vec::new(),
    };
    let hash = match table.get("fingerprint") {
        Some(value) => walk.choice(value, &HashKind::ALL)?,
        None => HashKind::default(),
    };
    Some(OutputPart {
        rows: rows?,
        exceptions: exceptions?,
        receipt,
        documents,
        output_form,
        merged_rows,
        columns,
        order_by,
        hash,
    })
}

/// The name of the receipt, which holds the runs of all as-of dates.
fn read_receipt(walk: &mut Walk, value: &Value<'_>) -> Option<At<String>> {
    const EXPECTED: &str = "the name of a file that ends in .toml";
    let name = walk.text(value, EXPECTED)?;
    let mistake = if name.value.contains(AS_OF_FIELD) {
        "one receipt holds the runs of all as-of dates"
    } else if !name.value.to_lowercase().ends_with(".toml") {
        "a receipt is TOML"
    } else {
        return check_name(walk, name);
    };
    walk.mistakes.tell(value.span(), mistake, EXPECTED);
    None
}

const MERGED_ROWS: [(&str, MergedRows); 2] =
    [("counted", MergedRows::Counted), ("listed", MergedRows::Listed)];

/// How outputs of text are written.
fn read_form(walk: &mut Walk, table: &DeTable<'_>) -> Option<SinkForm> {
    let mut form = SinkForm::default();
    if let Some(value) = table.get("separator") {
        form.separator = read_sign(walk, value, "one character such as \";\", \"|\" or \"\\t\"")?;
    }
    if let Some(value) = table.get("decimal_mark") {
        form.decimal_mark = walk.choice_of(value, &DecimalMark::ALL, DecimalMark::word)?;
        if form.decimal_mark == DecimalMark::Comma && table.get("separator").is_none() {
            form.separator = b';';
        }
        if form.decimal_mark == DecimalMark::Comma && form.separator == b',' {
            let what = "a comma cannot be both the decimal mark and the separator";
            walk.mistakes.tell(value.span(), what, "separator = \";\" with it");
            return None;
        }
    }
    if form.separator == b'"' {
        let span = table.get("separator").map(Value::span).unwrap_or_default();
        walk.mistakes.tell(span, "cells are quoted with this character", "another separator");
        return None;
    }
    if let Some(value) = table.get("dates_as") {
        const EXPECTED: &str = "a pattern of day, month and year in numbers, such as \"day.month.year\"";
        let pattern: DatePattern = walk.parsed(value, EXPECTED, str::parse)?;
        form.dates = Some(match WritingPattern::of(&pattern) {
            Ok(pattern) => pattern,
            Err(error) => {
                walk.mistakes.tell(value.span(), error.what(), error.allowed());
                return None;
            }
        });
    }
    if let Some(value) = table.get("byte_order_mark") {
        let is_wanted = walk.yes_or_no(value)?;
        form.mark = if is_wanted { ByteOrderMark::AtTheStart } else { ByteOrderMark::Absent };
    }
    if let Some(value) = table.get("table") {
        let name = walk.text(value, "the name of a table")?;
        if name.value.trim().is_empty()
            || name.value.contains('\0')
            || name.value.to_lowercase().starts_with("sqlite_")
        {
            let what = "a database has no table of this name";
            walk.mistakes.tell(name.span, what, "the name of a table, such as \"rows\"");
            return None;
        }
        form.table = Some(name.value);
    }
    Some(form)
}

/// What is stated of how rows are written, and neither their format has nor another output heeds, is a mistake.
fn check_heeded(
    walk: &mut Walk,
    table: &DeTable<'_>,
    form: &SinkForm,
    (rows, others): (&At<String>, &[SinkPart]),
) {
    let kind = SinkKind::of(Path::new(&rows.value));
    if let Some(part) = kind.does_not_take(form).find(|part| !others.contains(part)) {
        let span = table.get(part.key()).map_or_else(|| rows.span.clone(), Value::span);
        let what = format!("{} is set for {}, which is written as {}", part.key(), rows.value, kind.word());
        let expected = match part {
            SinkPart::Table => "no such line, or rows = \"….sqlite\"",
            _ => "no such line, or rows = \"….csv\"",
        };
        walk.mistakes.tell(span, what, expected);
    }
}

/// A file next to that of the rows, which cannot be standard output.
pub(super) fn read_file(walk: &mut Walk, value: &Value<'_>) -> Option<At<String>> {
    let name = walk.text(value, "the name of a file").and_then(|name| check_name(walk, name))?;
    if name.value == STANDARD_OUTPUT {
        let what = "only the rows can go to standard output";
        walk.mistakes.tell(name.span, what, "the name of a file");
        return None;
    }
    check_format(walk, name)
}

/// The file of the report that people get, in the format that its name promises.
fn read_document(walk: &mut Walk, value: &Value<'_>) -> Option<At<String>> {
    let name = walk.text(value, "the name of a file").and_then(|name| check_name(walk, name))?;
    if DocumentFormat::of(Path::new(&name.value)).is_none() {
        let what = "the name promises no report that is drawn";
        let expected = "a name that ends in .html for a page in one file, in .xlsx for a workbook, in .md for Markdown, or in .svg or .png for its charts";
        walk.mistakes.tell(name.span, what, expected);
        return None;
    }
    Some(name)
}

/// A file is written in the format that its name promises.
fn check_format(walk: &mut Walk, name: At<String>) -> Option<At<String>> {
    if let Some(other) = SinkKind::not_written(Path::new(&name.value)) {
        let what = format!("the name promises {other}, which this version does not write");
        walk.mistakes.tell(
            name.span,
            what,
            "a name that ends in .csv, .jsonl for JSON Lines, .xlsx for a workbook, .parquet, or .sqlite for a table of a database",
        );
        return None;
    }
    let kind = SinkKind::of(Path::new(&name.value));
    if !kind.is_built() {
        walk.mistakes.tell(
            name.span,
            format!("this build writes no {}", kind.word()),
            "install it with its features: cargo install --path crates/mild-ledger-cli --all-features",
        );
        return None;
    }
    Some(name)
}

/// A file name may hold `{as_of}`, and no other field.
pub(super) fn check_name(walk: &mut Walk, name: At<String>) -> Option<At<String>> {
    let rest = name.value.replace(AS_OF_FIELD, "");
    if rest.trim().is_empty() {
        walk.mistakes.tell(name.span, "the file has no name", "the name of a file");
        return None;
    }
    if rest.contains(['{', '}']) {
        walk.mistakes.tell(
            name.span,
            "a field in this file name is not known",
            "{as_of}, which is replaced by the as-of date",
        );
        return None;
    }
    Some(name)
}
