//! The object of `mild look --json`.

use super::{OneOrMany, to_text};
use mild_ledger_records::{Distinct, Holding, Look, LookedAmounts, LookedColumn, LookedDates};
use serde::Serialize;

/// The object of `mild look FILE --json`, in one line: the file, its rows, its columns, and the names of those that tell the rows
/// apart; a list of such objects for several files.
#[must_use]
pub fn look(files: &[Look]) -> String {
    OneOrMany::of(files.iter().map(object)).map_or_else(|| "[]".to_owned(), |objects| to_text(&objects))
}

#[derive(Serialize)]
struct Looked<'l> {
    file: &'l str,
    format: &'static str,
    #[serde(skip_serializing_if = "Option::is_none")]
    separator: Option<char>,
    #[serde(skip_serializing_if = "Option::is_none")]
    header_line: Option<u64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    encoding: Option<&'static str>,
    said: &'l [String],
    rows: u64,
    broken: Vec<Broken<'l>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    total_line: Option<Total<'l>>,
    columns: Vec<Column<'l>>,
    keys: Vec<&'l str>,
}

#[derive(Serialize)]
struct Broken<'l> {
    reason: &'l str,
    count: u64,
    rows: &'l [u64],
}

#[derive(Serialize)]
struct Total<'l> {
    row: u64,
    #[serde(skip_serializing_if = "Option::is_none")]
    column: Option<&'l str>,
    #[serde(skip_serializing_if = "Option::is_none")]
    text: Option<&'l str>,
    evidence: &'static str,
    amounts: Vec<TotalAmount<'l>>,
}

#[derive(Serialize)]
struct TotalAmount<'l> {
    column: &'l str,
    text: &'l str,
}

#[derive(Serialize)]
struct Column<'l> {
    name: &'l str,
    kind: &'static str,
    values: u64,
    blanks: u64,
    distinct: u64,
    /// Whether there are more than that.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    more: bool,
    #[serde(skip_serializing_if = "Option::is_none")]
    repeated_in: Option<[u64; 2]>,
    examples: &'l [String],
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    currency_codes: bool,
    #[serde(flatten)]
    dates: Option<Dates<'l>>,
    #[serde(flatten)]
    amounts: Option<Amounts<'l>>,
    #[serde(flatten)]
    whole: Option<Whole<'l>>,
}

#[derive(Serialize)]
struct Dates<'l> {
    verdict: &'static str,
    patterns: Vec<&'l str>,
    evidence: Vec<Evidence<'l>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    both_ways: Option<Both<'l>>,
    failed: u64,
    failures: Vec<Value<'l>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    wants: Option<Wants<'l>>,
    earliest: Option<String>,
    latest: Option<String>,
    fillers: Vec<Filler<'l>>,
    times: u64,
    offsets: u64,
    weekend: u64,
    #[serde(skip_serializing_if = "Option::is_none")]
    largest_gap: Option<Gap>,
    months: Vec<Month>,
}

#[derive(Serialize)]
struct Evidence<'l> {
    pattern: &'l str,
    reads: u64,
    alone: u64,
    rows: Vec<u64>,
}

#[derive(Serialize)]
struct Both<'l> {
    row: u64,
    text: &'l str,
    one: String,
    other: String,
}

#[derive(Serialize)]
struct Value<'l> {
    row: u64,
    text: &'l str,
}

#[derive(Serialize)]
struct Wants<'l> {
    pattern: &'l str,
    named: &'static str,
}

#[derive(Serialize)]
struct Filler<'l> {
    filler: String,
    count: u64,
    rows: &'l [u64],
}

#[derive(Serialize)]
struct Gap {
    from: String,
    to: String,
    days: i32,
}

#[derive(Serialize)]
struct Month {
    month: String,
    values: u64,
}

#[derive(Serialize)]
struct Amounts<'l> {
    verdict: &'static str,
    format: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    or_format: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    or_decimals: Option<u8>,
    #[serde(skip_serializing_if = "Option::is_none")]
    either: Option<Value<'l>>,
    decimals: u8,
    negative: u64,
    credit: u64,
    debit: u64,
    currencies: Vec<Currency<'l>>,
    failed: u64,
    failures: Vec<Value<'l>>,
}

#[derive(Serialize)]
struct Currency<'l> {
    sign: &'l str,
    values: u64,
}

#[derive(Serialize)]
struct Whole<'l> {
    #[serde(skip_serializing_if = "Option::is_none")]
    smallest: Option<i64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    largest: Option<i64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    perhaps_dates: Option<&'static str>,
    failed: u64,
    failures: Vec<Value<'l>>,
}

fn object(found: &Look) -> Looked<'_> {
    Looked {
        file: &found.file,
        format: found.format,
        separator: found.separator,
        header_line: found.header_line,
        encoding: found.encoding,
        said: &found.said,
        rows: found.rows,
        broken: found
            .broken
            .iter()
            .map(|rows| Broken { reason: &rows.reason, count: rows.count, rows: &rows.rows })
            .collect(),
        total_line: found.total_line.as_ref().map(|total| Total {
            row: total.row,
            column: total.word.as_ref().map(|(column, _)| column.as_str()),
            text: total.word.as_ref().map(|(_, text)| text.as_str()),
            evidence: total.evidence.word(),
            amounts: total.amounts.iter().map(|(column, text)| TotalAmount { column, text }).collect(),
        }),
        columns: found.columns.iter().map(column).collect(),
        keys: found.keys(),
    }
}

fn column(found: &LookedColumn) -> Column<'_> {
    let (distinct, more) = match found.distinct {
        Distinct::Exactly(count) => (count, false),
        Distinct::MoreThan(count) => (count, true),
    };
    Column {
        name: &found.name,
        kind: found.holds.word(),
        values: found.values,
        blanks: found.blanks,
        distinct,
        more,
        repeated_in: found.repeat.map(|(first, second)| [first, second]),
        examples: &found.examples,
        currency_codes: found.are_currency_codes,
        dates: match &found.holds {
            Holding::Date(found) => Some(dates(found)),
            _ => None,
        },
        amounts: match &found.holds {
            Holding::Amount(found) => Some(amounts(found)),
            _ => None,
        },
        whole: match &found.holds {
            Holding::WholeNumber { range, perhaps_dates, failed, failures } => Some(Whole {
                smallest: range.map(|(low, _)| low),
                largest: range.map(|(_, high)| high),
                perhaps_dates: perhaps_dates.map(|(pattern, ..)| pattern),
                failed: *failed,
                failures: failures.iter().map(|value| Value { row: value.row, text: &value.text }).collect(),
            }),
            _ => None,
        },
    }
}

fn dates(found: &LookedDates) -> Dates<'_> {
    Dates {
        verdict: found.verdict.word(),
        patterns: found.patterns.iter().map(|pattern| pattern.pattern.as_str()).collect(),
        evidence: found
            .patterns
            .iter()
            .map(|pattern| Evidence {
                pattern: &pattern.pattern,
                reads: pattern.reads,
                alone: pattern.alone,
                rows: pattern.alone_examples.iter().map(|value| value.row).collect(),
            })
            .collect(),
        both_ways: found.both_ways.as_ref().map(|both| Both {
            row: both.value.row,
            text: &both.value.text,
            one: both.one.to_string(),
            other: both.other.to_string(),
        }),
        failed: found.failed,
        failures: found.failures.iter().map(|value| Value { row: value.row, text: &value.text }).collect(),
        wants: found.wants.as_ref().map(|(pattern, named)| Wants { pattern, named }),
        earliest: found.days.earliest().map(|date| date.to_string()),
        latest: found.days.latest().map(|date| date.to_string()),
        fillers: found
            .fillers
            .iter()
            .map(|(filler, count, rows)| Filler { filler: filler.to_string(), count: *count, rows })
            .collect(),
        times: found.times,
        offsets: found.offsets,
        weekend: found.days.weekend(),
        largest_gap: found.days.largest_gap().map(|(from, to)| Gap {
            from: from.to_string(),
            to: to.to_string(),
            days: to.day_number() - from.day_number(),
        }),
        months: found
            .days
            .months()
            .into_iter()
            .map(|((year, month), values)| Month { month: format!("{year:04}-{month:02}"), values })
            .collect(),
    }
}

fn amounts(found: &LookedAmounts) -> Amounts<'_> {
    Amounts {
        verdict: found.verdict.word(),
        format: found.notation.to_string(),
        or_format: found.other.as_ref().map(|other| other.notation.to_string()),
        or_decimals: found.other.as_ref().map(|other| other.decimals),
        either: found.other.as_ref().map(|other| Value { row: other.example.row, text: &other.example.text }),
        decimals: found.decimals,
        negative: found.negative,
        credit: found.credit_and_debit.0,
        debit: found.credit_and_debit.1,
        currencies: found
            .currencies
            .iter()
            .map(|(sign, values)| Currency { sign, values: *values })
            .collect(),
        failed: found.failed,
        failures: found.failures.iter().map(|value| Value { row: value.row, text: &value.text }).collect(),
    }
}
