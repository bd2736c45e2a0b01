//! The object of `mild run --json`.

use super::exceptions::{Exceptions, exceptions};
use super::to_text;
use crate::document;
use crate::facts::Shares;
use mild_ledger::Decimal;
use mild_ledger_records::{
    AddedColumn, AmountProof, ComparedColumns, EndRow, JoinAccount, ProofLine, ProofPart, ProofValue,
    ReadBackState, ReportCell, ReportDetail, ReportTable, RunFile, RunOutcome, SumRow, SumRowOf,
};
use serde::{Serialize, Serializer};

/// The object of `mild run --json`, in one line.
#[must_use]
pub fn run(outcome: &RunOutcome) -> String {
    let rows = outcome.rows;
    to_text(&Run {
        title: &outcome.title,
        as_of: outcome
            .as_of
            .map(|date| outcome.as_of_time.map_or_else(|| date.to_string(), |at| at.to_string())),
        records: &outcome.records,
        rows: Rows {
            read: rows.read,
            written: rows.written,
            set_aside: rows.set_aside,
            merged: rows.merged,
            not_selected: rows.not_selected,
        },
        amounts: outcome.amounts.iter().map(amounts).collect(),
        control: outcome
            .control
            .iter()
            .map(|control| Control {
                of: &control.of,
                stated: control.stated.to_string(),
                read: control.read.to_string(),
                agrees: control.agrees(),
            })
            .collect(),
        reports: outcome.reports.iter().map(report).collect(),
        added: outcome.added.iter().map(added).collect(),
        sample: outcome.sample.as_ref().map(|sample| SampleRows {
            columns: &sample.columns,
            rows: sample
                .rows
                .iter()
                .map(|row| Sampled { place: &row.place, chosen_for: &row.chosen_for, cells: &row.cells })
                .collect(),
        }),
        cross_checked: outcome.compared.iter().map(compared).collect(),
        joined: outcome
            .joined
            .iter()
            .map(|joined| Joined {
                file: &joined.file,
                rows: joined.rows,
                usable_rows: joined.usable_rows,
                blank_keys: joined.blank_keys,
                keys: joined.keys,
                matched: joined.matched,
                unmatched_records: joined.unmatched_records,
                unmatched_other: joined.unmatched_other,
                account: joined.account.iter().map(account).collect(),
            })
            .collect(),
        exceptions: exceptions(&outcome.exceptions),
        doubts: &outcome.doubts,
        notes: outcome
            .notes
            .iter()
            .chain(&outcome.duplicates)
            .cloned()
            .chain(outcome.figures.iter().filter_map(document::mostly_negative))
            .collect(),
        unreadable_cells: outcome.unreadable_cells,
        dates: outcome
            .dates
            .iter()
            .map(|dates| Dates {
                column: &dates.column,
                pattern: &dates.pattern,
                read: dates.tally.read,
                blank: dates.tally.blank,
                placeholder: dates.tally.filler,
                unreadable: dates.tally.unreadable,
                time_dropped: dates.tally.time_dropped,
                doubtful: dates.tally.doubtful,
            })
            .collect(),
        figures: outcome
            .figures
            .iter()
            .map(|figures| Figures {
                column: &figures.column,
                rule: &figures.rule,
                ends: figures.ends.map(mild_ledger::Ends::word),
                negative: figures.negative,
                zero: figures.zero,
                positive: figures.positive,
                empty: figures.empty,
            })
            .collect(),
        calendars: outcome
            .calendars
            .iter()
            .map(|calendar| CountedBy {
                name: &calendar.name,
                covers: &calendar.covers,
                rest_days: &calendar.rest_days,
                hours: calendar.hours.as_deref(),
                holidays: calendar.holidays,
                sources: &calendar.sources,
            })
            .collect(),
        cells_behind_apostrophe: outcome.cells_behind_apostrophe,
        inputs: outcome.inputs.iter().map(file).collect(),
        outputs: outcome.outputs.iter().map(file).collect(),
        receipt: outcome.receipt.display().to_string(),
        answer: document::one_line(outcome),
    })
}

fn file(file: &RunFile) -> File<'_> {
    File { path: file.path.display().to_string(), rows: file.rows, bytes: file.bytes, hash: &file.hash }
}

fn added(column: &AddedColumn) -> Added<'_> {
    Added {
        column: &column.column,
        filled: column.filled,
        empty: column.empty,
        smallest: column.smallest.as_ref().map(end),
        largest: column.largest.as_ref().map(end),
        mean: column.mean.as_deref(),
        median: column.median.as_deref(),
        values: column
            .values
            .as_ref()
            .map(|values| values.iter().map(|(value, rows)| ValueRows { value, rows: *rows }).collect()),
    }
}

fn end(end: &EndRow) -> End<'_> {
    let inputs = end.inputs.iter().map(|(column, value)| Input { column, value }).collect();
    End { value: &end.value, key: &end.key, place: &end.place, inputs }
}

fn compared(pair: &ComparedColumns) -> Compared<'_> {
    Compared {
        column: &pair.column,
        with: &pair.with,
        equal: pair.equal,
        different: pair.different,
        only_in_file: pair.only_in_file,
        only_added: pair.only_added,
        neither: pair.neither,
        examples: pair
            .examples
            .iter()
            .map(|row| ComparedRow { key: &row.key, place: &row.place, theirs: &row.theirs, ours: &row.ours })
            .collect(),
        explained: pair.explained.iter().map(|(way, rows)| Explained { way, rows: *rows }).collect(),
        apart: pair.apart.as_deref(),
    }
}

fn amounts(proof: &AmountProof) -> Amounts<'_> {
    Amounts {
        column: &proof.column,
        currency: proof.currency.as_deref(),
        read: proof.read.to_string(),
        written: proof.written.to_string(),
        set_aside: proof.set_aside.to_string(),
        merged: proof.merged.to_string(),
        not_selected: proof.not_selected.to_string(),
        unreadable_rows: proof.unreadable_rows,
        read_back: proof.read_back == ReadBackState::InTheOutput,
    }
}

fn report(report: &mild_ledger_records::Report) -> Report<'_> {
    Report {
        kind: report.kind,
        title: &report.title,
        seen_from: report.seen_from.iter().map(ToString::to_string).collect(),
        tables: report.tables.iter().map(table).collect(),
        explanation: &report.explanation,
        proof: report.proof.iter().map(proof).collect(),
        notes: &report.notes,
        further: Named(report.further()),
    }
}

fn table(table: &ReportTable) -> Table {
    let cells = |row: &[ReportCell]| row.iter().map(cell).collect();
    let text = |share: Option<Decimal>| share.map(|share| share.to_string());
    Table {
        title: table.title.clone(),
        columns: table.columns.clone(),
        rows: table.rows.iter().map(|row| cells(&row)).collect(),
        sums: table.sums.iter().map(|row| sum_row(row, cells(&row.cells))).collect(),
        total: table.total.as_deref().map(cells),
        further: table.further.iter().map(|row| cells(row)).collect(),
        shares: Shares::of(table).map(|shares| TableShares {
            rows: shares.rows.into_iter().map(text).collect(),
            of: shares.of,
            columns: shares.columns.into_iter().map(text).collect(),
        }),
    }
}

fn sum_row(row: &SumRow, cells: Vec<Cell>) -> SumCells {
    let of = match row.of {
        SumRowOf::LeftOut => "left out",
        _ => "group",
    };
    SumCells { behind: row.behind, of, cells }
}

/// Decimals and dates as texts, so that no reader rounds them.
fn cell(cell: &ReportCell) -> Cell {
    match cell {
        ReportCell::Text(text) => Cell::Text(text.clone()),
        ReportCell::Count(count) => Cell::Count(*count),
        ReportCell::Number(number) if number.decimals() == 0 => match i64::try_from(number.units()) {
            Ok(whole) => Cell::Count(whole),
            Err(_) => Cell::Text(number.to_string()),
        },
        ReportCell::Decimal(number) | ReportCell::Number(number) => Cell::Text(number.to_string()),
        ReportCell::Date(date) => Cell::Text(date.to_string()),
        ReportCell::DateTime(at) => Cell::Text(at.to_string()),
        ReportCell::Missing(reason) => Cell::Text(format!("({reason})")),
        _ => Cell::Nothing,
    }
}

fn proof(line: &ProofLine) -> Proof<'_> {
    Proof {
        of: &line.what,
        whole: &line.whole.name,
        value: proved(line.whole.value),
        parts: proved_parts(&line.parts),
    }
}

/// Where the rows of a second file went, or the amounts of one of its columns.
fn account(found: &JoinAccount) -> Account<'_> {
    Account {
        of: found.column.as_deref().unwrap_or("rows"),
        read: proved(found.read),
        parts: proved_parts(&found.parts),
    }
}

fn proved_parts(parts: &[ProofPart]) -> Vec<ProvedPart> {
    parts.iter().map(|part| ProvedPart { name: part.name.clone(), value: proved(part.value) }).collect()
}

fn proved(value: ProofValue) -> Cell {
    match value {
        ProofValue::Rows(rows) => {
            i64::try_from(rows).map_or_else(|_| Cell::Text(rows.to_string()), Cell::Count)
        }
        ProofValue::Amount(amount) => Cell::Text(amount.to_string()),
    }
}

/// What a kind of report has besides its tables.
struct Named(Vec<(&'static str, ReportDetail)>);

impl Serialize for Named {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_map(self.0.iter().map(|(name, detail)| (name, Detail(detail))))
    }
}

struct Detail<'o>(&'o ReportDetail);

impl Serialize for Detail<'_> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        match self.0 {
            ReportDetail::Cell(one) => cell(one).serialize(serializer),
            ReportDetail::List(several) => serializer.collect_seq(several.iter().map(Detail)),
            ReportDetail::Named(named) => {
                serializer.collect_map(named.iter().map(|(name, detail)| (name, Detail(detail))))
            }
            _ => serializer.serialize_unit(),
        }
    }
}

#[derive(Serialize)]
struct Control<'r> {
    of: &'r str,
    stated: String,
    read: String,
    agrees: bool,
}

#[derive(Serialize)]
struct Run<'o> {
    title: &'o str,
    as_of: Option<String>,
    records: &'o str,
    rows: Rows,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    control: Vec<Control<'o>>,
    amounts: Vec<Amounts<'o>>,
    reports: Vec<Report<'o>>,
    added: Vec<Added<'o>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    sample: Option<SampleRows<'o>>,
    cross_checked: Vec<Compared<'o>>,
    joined: Vec<Joined<'o>>,
    exceptions: Vec<Exceptions<'o>>,
    doubts: &'o [String],
    notes: Vec<String>,
    unreadable_cells: u64,
    dates: Vec<Dates<'o>>,
    figures: Vec<Figures<'o>>,
    calendars: Vec<CountedBy<'o>>,
    cells_behind_apostrophe: u64,
    inputs: Vec<File<'o>>,
    outputs: Vec<File<'o>>,
    receipt: String,
    answer: String,
}

#[derive(Serialize)]
struct Compared<'o> {
    column: &'o str,
    with: &'o str,
    equal: u64,
    different: u64,
    only_in_file: u64,
    only_added: u64,
    neither: u64,
    examples: Vec<ComparedRow<'o>>,
    explained: Vec<Explained<'o>>,
    apart: Option<&'o str>,
}

#[derive(Serialize)]
struct ComparedRow<'o> {
    key: &'o str,
    place: &'o str,
    theirs: &'o str,
    ours: &'o str,
}

#[derive(Serialize)]
struct Explained<'o> {
    way: &'o str,
    rows: u64,
}

#[derive(Serialize)]
struct Added<'o> {
    column: &'o str,
    filled: u64,
    empty: u64,
    smallest: Option<End<'o>>,
    largest: Option<End<'o>>,
    mean: Option<&'o str>,
    median: Option<&'o str>,
    /// The values of texts and labels, each with its rows; none where there are too many.
    values: Option<Vec<ValueRows<'o>>>,
}

#[derive(Serialize)]
struct SampleRows<'o> {
    columns: &'o [String],
    rows: Vec<Sampled<'o>>,
}

#[derive(Serialize)]
struct Sampled<'o> {
    place: &'o str,
    chosen_for: &'o str,
    cells: &'o [String],
}

#[derive(Serialize)]
struct End<'o> {
    value: &'o str,
    key: &'o str,
    place: &'o str,
    inputs: Vec<Input<'o>>,
}

#[derive(Serialize)]
struct Input<'o> {
    column: &'o str,
    value: &'o str,
}

#[derive(Serialize)]
struct ValueRows<'o> {
    value: &'o str,
    rows: u64,
}

#[derive(Serialize)]
struct Joined<'o> {
    file: &'o str,
    rows: u64,
    usable_rows: u64,
    blank_keys: u64,
    keys: u64,
    matched: u64,
    unmatched_records: u64,
    unmatched_other: u64,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    account: Vec<Account<'o>>,
}

#[derive(Serialize)]
struct Account<'o> {
    of: &'o str,
    read: Cell,
    parts: Vec<ProvedPart>,
}

#[derive(Serialize)]
struct Rows {
    read: u64,
    written: u64,
    set_aside: u64,
    merged: u64,
    not_selected: u64,
}

#[derive(Serialize)]
struct Amounts<'o> {
    column: &'o str,
    /// Always null until a plan can name a column of currencies.
    currency: Option<&'o str>,
    read: String,
    written: String,
    set_aside: String,
    merged: String,
    not_selected: String,
    unreadable_rows: u64,
    /// Whether its sum was read back from the output, which has the column.
    read_back: bool,
}

#[derive(Serialize)]
struct Report<'o> {
    kind: &'static str,
    title: &'o str,
    /// Nothing of a report that is seen from the as-of date alone.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    seen_from: Vec<String>,
    tables: Vec<Table>,
    explanation: &'o [String],
    proof: Vec<Proof<'o>>,
    notes: &'o [String],
    #[serde(flatten)]
    further: Named,
}

#[derive(Serialize)]
struct Table {
    title: String,
    columns: Vec<String>,
    rows: Vec<Vec<Cell>>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    sums: Vec<SumCells>,
    total: Option<Vec<Cell>>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    further: Vec<Vec<Cell>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    shares: Option<TableShares>,
}

/// A row that represents several, after so many of the others.
#[derive(Serialize)]
struct SumCells {
    behind: usize,
    of: &'static str,
    cells: Vec<Cell>,
}

/// Shares of the total of a column, as they are shown.
#[derive(Serialize)]
struct TableShares {
    of: String,
    rows: Vec<Option<String>>,
    columns: Vec<Option<String>>,
}

#[derive(Serialize)]
#[serde(untagged)]
enum Cell {
    Text(String),
    Count(i64),
    Nothing,
}

#[derive(Serialize)]
struct Proof<'o> {
    of: &'o str,
    whole: &'o str,
    value: Cell,
    parts: Vec<ProvedPart>,
}

#[derive(Serialize)]
struct ProvedPart {
    name: String,
    value: Cell,
}

#[derive(Serialize)]
struct Dates<'o> {
    column: &'o str,
    pattern: &'o str,
    read: u64,
    blank: u64,
    placeholder: u64,
    unreadable: u64,
    time_dropped: u64,
    doubtful: u64,
}

#[derive(Serialize)]
struct Figures<'o> {
    column: &'o str,
    rule: &'o str,
    ends: Option<&'static str>,
    negative: u64,
    zero: u64,
    positive: u64,
    empty: u64,
}

#[derive(Serialize)]
struct CountedBy<'o> {
    name: &'o str,
    covers: &'o str,
    rest_days: &'o str,
    #[serde(skip_serializing_if = "Option::is_none")]
    hours: Option<&'o str>,
    holidays: u64,
    sources: &'o [String],
}

#[derive(Serialize)]
struct File<'o> {
    path: String,
    rows: Option<u64>,
    bytes: u64,
    hash: &'o str,
}
