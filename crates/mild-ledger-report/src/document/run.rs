//! What a run answers.

use super::compared::put_compared;
use super::explained::put_cell;
use super::report_table::put_report_table;
use super::{Block, Document, Opened, Table};
use crate::facts::MarkedMonths;
use crate::numbers::{Decimals, Writer, typed};
use mild_ledger::{Date, Decimal};
use mild_ledger_records::{
    AddedColumn, AmountProof, ControlTotal, EndRow, JoinAccount, ProofLine, ProofPart, ProofValue,
    ReadBackState, Report, ReportCell, RunOutcome,
};
use std::path::Path;

/// How much of a run is shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum RunDetail {
    /// The reports, the decisions to make, one line of reconciliation, the files and the answer.
    Short,
    /// All that a person may check by eye as well: patterns of dates, counts of figures, smallest and largest, the whole proof.
    Full,
}

/// A run in the order in which people need it. What makes the figures doubtful comes first, the answer last.
pub(crate) fn run(outcome: &RunOutcome, names: FileNames, detail: RunDetail) -> Document {
    match detail {
        RunDetail::Short => short(outcome, names),
        RunDetail::Full => full(outcome, names),
    }
}

fn short(outcome: &RunOutcome, names: FileNames) -> Document {
    let mut out = begun(outcome);
    exceptions(&mut out, outcome);
    noticed_figures(&mut out, outcome);
    put_compared(&mut out, outcome);
    sample(&mut out, outcome);
    out.end_part();
    reconciliation(&mut out, outcome);
    files(&mut out, outcome, names);
    out.end_part();
    out.push(Block::Answer(answer(outcome)));
    out
}

fn full(outcome: &RunOutcome, names: FileNames) -> Document {
    let mut out = begun(outcome);
    joined(&mut out, outcome);
    exceptions(&mut out, outcome);
    dates(&mut out, outcome);
    figures(&mut out, outcome);
    added(&mut out, outcome);
    worked_out(&mut out, outcome);
    put_compared(&mut out, outcome);
    sample(&mut out, outcome);
    calendars(&mut out, outcome);
    proof(&mut out, outcome);
    files(&mut out, outcome, names);
    out.end_part();
    out.push(Block::Answer(answer(outcome)));
    out
}

/// The title, what makes the figures doubtful, and the reports.
fn begun(outcome: &RunOutcome) -> Document {
    let mut out = Document { writer: Writer::new(&outcome.presentation), ..Document::default() };
    out.push(Block::Heading(outcome.title.clone()));
    let records = &outcome.records;
    out.paragraph(match outcome.as_of {
        Some(as_of) => {
            format!(
                "as of {} ({}), from {records}",
                said_of_as_of(outcome, as_of, &out.writer),
                as_of.weekday()
            )
        }
        None => format!("from {records}"),
    });
    for missed in outcome.control.iter().filter(|control| !control.agrees()) {
        out.push(Block::Doubt(format!("the control total is missed: {}", of_control(missed, &out.writer))));
    }
    outcome.doubts.iter().for_each(|doubt| out.push(Block::Doubt(doubt.clone())));
    let mut room = MOST_OPENED_ROWS;
    for report in &outcome.reports {
        out.figures(&report.title);
        for table in &report.tables {
            out.end_part();
            put_report_table(&mut out, table, &report.behind, &mut room);
        }
        report.explanation.iter().for_each(|said| out.paragraph(said.clone()));
    }
    out
}

/// The reports and the exceptions of a run, and its answer: of a run that leaves no files.
pub(crate) fn brief(outcome: &RunOutcome) -> Document {
    let mut out = begun(outcome);
    exceptions(&mut out, outcome);
    out.end_part();
    out.push(Block::Answer(answer(outcome)));
    out
}

/// What is in the new columns, the exceptions, and the answer: of a run that adds columns and no more.
pub(crate) fn with_columns(outcome: &RunOutcome) -> Document {
    let mut out = begun(outcome);
    added(&mut out, outcome);
    exceptions(&mut out, outcome);
    out.end_part();
    out.push(Block::Answer(answer(outcome)));
    out
}

/// The rows that all figures of a report are opened to, at most, so that a page stays under 5 MB.
const MOST_OPENED_ROWS: usize = 24_000;

fn said_of_as_of(outcome: &RunOutcome, as_of: Date, writer: &Writer) -> String {
    outcome.as_of_time.map_or_else(|| writer.date(as_of), |at| writer.date_time(at))
}

/// The run in one line, by its parts.
fn answer(outcome: &RunOutcome) -> Vec<String> {
    let rows = outcome.rows;
    let writer = Writer::new(&outcome.presentation);
    let count = |number: u64| writer.count(number);
    let several = |report: &Report| match outcome.reports.len() {
        1 => String::new(),
        _ => format!("{}: ", report.title),
    };
    let said = |report: &Report| {
        several(report) + &report.answer.iter().map(|piece| writer.cell(piece)).collect::<String>()
    };
    let mut parts: Vec<String> = outcome.reports.iter().map(said).collect();
    let are = |number: u64| if number == 1 { "row" } else { "rows" };
    let mut said = format!("{} {} read, {} written", count(rows.read), are(rows.read), count(rows.written));
    for (number, what) in
        [(rows.set_aside, "set aside"), (rows.merged, "merged"), (rows.not_selected, "not selected")]
    {
        if number > 0 {
            said.push_str(&format!(", {} {what}", count(number)));
        }
    }
    parts.push(said);
    // A run whose proof does not agree ends with an error and writes nothing.
    parts.push(match outcome.doubts.len() {
        0 => "the proof agrees".to_owned(),
        1 => "the proof agrees, and there is a doubt (see the top of the report)".to_owned(),
        doubts => format!("the proof agrees, and there are {doubts} doubts (see the top of the report)"),
    });
    parts
}

/// The answer of a run in lines: one for each report where there are several, and one for the rows and the proof.
pub(crate) fn answer_lines(outcome: &RunOutcome) -> Vec<String> {
    lines_of_answer(&answer(outcome))
}

/// The parts of an answer in lines; all in one where there is one report at most.
pub(crate) fn lines_of_answer(parts: &[String]) -> Vec<String> {
    match parts.split_last_chunk::<2>() {
        Some((reports, rest)) if reports.len() > 1 => {
            reports.iter().cloned().chain([rest.join("; ")]).collect()
        }
        _ => vec![parts.join("; ")],
    }
}

/// The run in one line.
pub(crate) fn one_line(outcome: &RunOutcome) -> String {
    answer(outcome).join("; ")
}

/// What was joined from each second file.
fn joined(out: &mut Document, outcome: &RunOutcome) {
    if outcome.joined.is_empty() {
        return;
    }
    out.checks("Second files");
    let header = ["Second file", "rows", "keys", "rows matched", "rows not matched", "keys not matched"];
    let mut table = Table::new(header, [0]);
    for file in &outcome.joined {
        let counts = [file.rows, file.keys, file.matched, file.unmatched_records, file.unmatched_other];
        let name = ReportCell::Text(file.file.clone());
        table.row(std::iter::once(name).chain(counts.map(ReportCell::count)));
    }
    out.end_part();
    out.push(Block::Table(table));
    for file in outcome.joined.iter().filter(|file| file.rows > file.usable_rows) {
        let without = file.rows - file.usable_rows;
        let have = if without == 1 { "has" } else { "have" };
        let said = format!("{without} of {} rows of {} {have} no key to be matched by", file.rows, file.file);
        out.push(Block::Note(said));
    }
}

/// The calendars that were counted by, with what they cover.
fn calendars(out: &mut Document, outcome: &RunOutcome) {
    if outcome.calendars.is_empty() {
        return;
    }
    out.end_part();
    out.checks("Calendars");
    for calendar in &outcome.calendars {
        let sources = match calendar.sources.as_slice() {
            [] => String::new(),
            all => format!(", from {}", all.join(", ")),
        };
        let hours = calendar.hours.as_ref().map_or_else(String::new, |hours| format!(", open {hours}"));
        let holidays = if calendar.holidays == 1 { "holiday" } else { "holidays" };
        out.paragraph(format!(
            "Calendar {}: {}, rest days {}, {} {holidays}{hours}{sources}",
            calendar.name,
            calendar.covers,
            calendar.rest_days,
            out.writer.count(calendar.holidays)
        ));
    }
}

fn exceptions(out: &mut Document, outcome: &RunOutcome) {
    out.checks("Exceptions");
    let count: u64 = outcome.exceptions.iter().map(|group| group.count).sum();
    let file = outcome.outputs.get(1).map_or("", |file| file.name.as_str());
    out.end_part();
    out.paragraph(match count {
        0 => "Exceptions: none".to_owned(),
        _ if file.is_empty() => format!("Exceptions: {count}"),
        _ => format!("Exceptions: {count}, each listed in {file}"),
    });
    for group in &outcome.exceptions {
        out.push(Block::Item(format!("{} × {}, {}", group.count, group.reason, group.outcome)));
        group.examples.iter().for_each(|example| out.push(Block::Example(example.clone())));
        if group.count > group.examples.len() as u64 {
            let more = group.count - group.examples.len() as u64;
            out.push(Block::Example(format!("… and {more} more")));
        }
    }
    let mut said: Vec<&String> = Vec::new();
    for note in outcome.notes.iter().chain(&outcome.duplicates) {
        // Two reports may note the same of the same rows.
        if !said.contains(&note) {
            said.push(note);
            out.push(Block::Note(note.clone()));
        }
    }
    if outcome.cells_behind_apostrophe > 0 {
        let (texts, them) = match outcome.cells_behind_apostrophe {
            1 => ("text was", "it as a formula"),
            _ => ("texts were", "them as formulas"),
        };
        out.push(Block::Note(format!(
            "{} {texts} written with an apostrophe in front, because a spreadsheet would have run {them}",
            outcome.cells_behind_apostrophe
        )));
    }
}

fn dates(out: &mut Document, outcome: &RunOutcome) {
    if outcome.dates.is_empty() {
        return;
    }
    out.checks("Dates");
    let mut table = Table::new(["Dates", "pattern", "read", "blank", "placeholder", "unreadable"], [0, 1]);
    for dates in &outcome.dates {
        let tally = dates.tally;
        let words = [&dates.column, &dates.pattern].map(|word| ReportCell::Text(word.clone()));
        let counts = [tally.read, tally.blank, tally.filler, tally.unreadable].map(ReportCell::count);
        table.row(words.into_iter().chain(counts));
    }
    out.end_part();
    out.push(Block::Table(table));
}

fn figures(out: &mut Document, outcome: &RunOutcome) {
    if outcome.figures.is_empty() {
        return;
    }
    out.checks("Intervals");
    let header = ["Figures", "counted in", "below zero", "zero", "above zero", "empty"];
    let mut table = Table::new(header, [0, 1]);
    for figures in &outcome.figures {
        let ends = figures.ends.map_or_else(String::new, |ends| format!(", {}", ends.said()));
        let words = [figures.column.clone(), format!("{}{ends}", figures.rule)];
        let counts = [figures.negative, figures.zero, figures.positive, figures.empty];
        table.row(words.map(ReportCell::Text).into_iter().chain(counts.map(ReportCell::count)));
    }
    out.end_part();
    out.push(Block::Table(table));
    outcome.figures.iter().filter_map(mostly_negative).for_each(|note| out.push(Block::Note(note)));
}

/// Figures that are empty in some rows, or mostly below zero.
fn noticed_figures(out: &mut Document, outcome: &RunOutcome) {
    for figures in &outcome.figures {
        let writer = out.writer.clone();
        let count = |rows: u64| writer.count(rows);
        let have = if figures.empty == 1 { "row has" } else { "rows have" };
        if figures.empty > 0 {
            out.push(Block::Note(format!("{} {have} no \"{}\"", count(figures.empty), figures.column)));
        }
        mostly_negative(figures).into_iter().for_each(|note| out.push(Block::Note(note)));
    }
}

/// The rows read and where each of them is, and what agrees with them.
fn reconciliation(out: &mut Document, outcome: &RunOutcome) {
    let rows = outcome.rows;
    let writer = out.writer.clone();
    let count = |rows: u64| writer.count(rows);
    let others =
        [(rows.set_aside, "set aside"), (rows.merged, "merged by key"), (rows.not_selected, "not selected")];
    let others = others.iter().filter(|(rows, _)| *rows > 0);
    let parts: String = others.map(|(rows, place)| format!(" + {} {place}", count(*rows))).collect();
    let are = if rows.read == 1 { "row" } else { "rows" };
    for control in outcome.control.iter().filter(|control| control.agrees()) {
        out.paragraph(format!("Control total: {}.", of_control(control, &out.writer)));
    }
    let mut names: Vec<String> =
        outcome.amounts.iter().map(|amount| format!("\"{}\"", amount.column)).collect();
    names.dedup();
    let sums = match names.as_slice() {
        [] => String::new(),
        [all @ .., last] if !all.is_empty() => format!(" and the sums of {} and {last}", all.join(", ")),
        one => format!(" and the sums of {}", one.join("")),
    };
    out.paragraph(format!(
        "Proof: {} {are} read = {} written{parts}; rows{sums} agree in the finished files{}. --details shows all of it.",
        count(rows.read),
        count(rows.written),
        not_read_back(outcome)
    ));
}

/// The added columns: smallest, middle and largest of each, and the rows of the smallest and largest to count on a calendar.
fn added(out: &mut Document, outcome: &RunOutcome) {
    if !outcome.added.is_empty() {
        out.checks("Added columns");
    }
    let ordered: Vec<&AddedColumn> =
        outcome.added.iter().filter(|column| column.smallest.is_some() || column.values.is_none()).collect();
    if !ordered.is_empty() {
        let mut table = Table::new(["Added", "smallest", "median", "mean", "largest", "empty"], [0]);
        for column in &ordered {
            let value =
                |end: &Option<EndRow>| end.as_ref().map_or(ReportCell::Empty, |end| typed(&end.value));
            let text = |text: &Option<String>| text.as_deref().map_or(ReportCell::Empty, typed);
            table.row([
                ReportCell::Text(column.column.clone()),
                value(&column.smallest),
                text(&column.median),
                text(&column.mean),
                value(&column.largest),
                ReportCell::count(column.empty),
            ]);
        }
        out.end_part();
        out.push(Block::Table(table));
    }
    let counted = outcome.added.iter().filter_map(|column| Some((column, column.values.as_ref()?)));
    for (column, values) in counted.filter(|(_, values)| !values.is_empty()) {
        let said: Vec<String> =
            values.iter().map(|(value, rows)| format!("{value} {}", out.writer.count(rows))).collect();
        out.push(Block::Item(format!("{}: {}", column.column, said.join(", "))));
    }
    let ends = |column: &&AddedColumn| column.smallest.is_some() && column.smallest != column.largest;
    let at_ends: Vec<&AddedColumn> = ordered.into_iter().filter(ends).collect();
    if at_ends.is_empty() {
        return;
    }
    out.end_part();
    out.paragraph("Smallest and largest, row by row:");
    for column in at_ends {
        for end in [&column.smallest, &column.largest].into_iter().flatten() {
            let inputs: Vec<String> = end
                .inputs
                .iter()
                .map(|(name, value)| format!("{name} {}", out.writer.value(value)))
                .collect();
            let key = if end.key.is_empty() { String::new() } else { format!("{}, ", end.key) };
            let from = if inputs.is_empty() { String::new() } else { format!(": {}", inputs.join(", ")) };
            let value = out.writer.value(&end.value);
            out.push(Block::Item(format!("{} {value}, {key}{}{from}", column.column, end.place)));
        }
    }
}

/// The added columns, each with how the cells at its ends came about.
fn worked_out(out: &mut Document, outcome: &RunOutcome) {
    let rows = |column: &AddedColumn| -> Vec<EndRow> {
        let ends = [&column.smallest, &column.largest];
        let same = column.smallest == column.largest;
        let ends = ends.into_iter().flatten().take(if same { 1 } else { 2 });
        ends.chain(&column.first).filter(|row| row.working.is_some()).cloned().collect()
    };
    let things: Vec<Opened> = outcome
        .added
        .iter()
        .map(|column| (column, rows(column)))
        .filter(|(_, rows)| !rows.is_empty())
        .map(|(column, rows)| {
            let rule = rows.first().and_then(|row| row.working.as_ref()).map(|working| working.rule.clone());
            let mut then = Document::default();
            for row in &rows {
                if let Some(working) = &row.working {
                    let key = if row.key.is_empty() { String::new() } else { format!("{}, ", row.key) };
                    then.paragraph(format!("{key}{}:", row.place));
                    put_cell(&mut then, working);
                }
            }
            let name = match rule.filter(|rule| !rule.is_empty()) {
                Some(rule) => format!("{}: {rule}", column.column),
                None => column.column.clone(),
            };
            Opened { name, blocks: bounded(then.blocks) }
        })
        .collect();
    if !things.is_empty() {
        out.push(Block::Opened {
            heading: "How each column is worked out, at its smallest and largest",
            things,
        });
    }
}

/// The blocks with the first and the last of many months, and how many are left out between them.
fn bounded(blocks: Vec<Block>) -> Vec<Block> {
    const MOST: usize = 12;
    let cut = |block: Block| match block {
        Block::Months(mut found) if found.months.len() > MOST => {
            let last = found.months.split_off(found.months.len() - MOST / 2);
            let left_out = found.months.split_off(MOST / 2).len();
            let after = MarkedMonths { months: last, rest_days: found.rest_days, marks: found.marks };
            let said = Block::Paragraph(format!("… {left_out} months between these are left out …"));
            vec![Block::Months(found), said, Block::Months(after)]
        }
        other => vec![other],
    };
    blocks.into_iter().flat_map(cut).collect()
}

/// Rows to look at, inputs next to results.
fn sample(out: &mut Document, outcome: &RunOutcome) {
    let Some(sample) = &outcome.sample else { return };
    out.end_part();
    out.checks("Rows to look at");
    out.paragraph(format!(
        "{} of {} rows written, edge cases first:",
        sample.rows.len(),
        outcome.rows.written
    ));
    let header = std::iter::once("chosen for".to_owned()).chain(sample.columns.iter().cloned());
    let mut table = Table::new(header, 0..=sample.columns.len());
    for row in &sample.rows {
        let cells = row.cells.iter().map(|cell| out.writer.value(cell));
        table.row(std::iter::once(row.chosen_for.clone()).chain(cells));
    }
    out.push(Block::Table(table));
}

/// What is to be said of figures of which most lie below zero.
pub(crate) fn mostly_negative(figures: &mild_ledger_records::ColumnFigures) -> Option<String> {
    (figures.negative > figures.zero + figures.positive)
        .then(|| format!("most of \"{}\" lie below zero; is its start the end?", figures.column))
}

fn proof(out: &mut Document, outcome: &RunOutcome) {
    out.checks("Proof");
    let header = ["Proof".to_owned(), "rows".to_owned()];
    let columns = outcome.amounts.iter().map(|amount| match amount.currency.as_deref() {
        None => amount.column.clone(),
        Some("") => format!("{} without currency", amount.column),
        Some(currency) => format!("{} {currency}", amount.column),
    });
    let mut table = Table::new(header.into_iter().chain(columns), [0]);
    let rows = outcome.rows;
    let line = |name: &str, count: u64, of: fn(&AmountProof) -> Decimal| {
        let amounts = outcome.amounts.iter().map(|column| ReportCell::Decimal(of(column)));
        let cells = [ReportCell::Text(name.to_owned()), ReportCell::count(count)].into_iter().chain(amounts);
        cells.collect::<Vec<_>>()
    };
    table.row(line("written", rows.written, |column| column.written));
    table.row(line("set aside", rows.set_aside, |column| column.set_aside));
    table.row(line("merged by key", rows.merged, |column| column.merged));
    table.row(line("not selected", rows.not_selected, |column| column.not_selected));
    table.line();
    table.row(line("read", rows.read, |column| column.read));
    out.end_part();
    out.push(Block::Table(table));
    for column in outcome.amounts.iter().filter(|column| column.unreadable_rows > 0) {
        let rows = if column.unreadable_rows == 1 { "row has" } else { "rows have" };
        out.paragraph(format!(
            "{} {rows} no readable \"{}\", and so no part in its sums.",
            out.writer.count(column.unreadable_rows),
            column.column
        ));
    }
    for control in outcome.control.iter().filter(|control| control.agrees()) {
        out.paragraph(format!("Control total: {}.", of_control(control, &out.writer)));
    }
    for report in &outcome.reports {
        for line in lines_shown(&report.proof) {
            let parts =
                line.parts.iter().map(|part| proof_part(part, &out.writer)).collect::<Vec<_>>().join(" + ");
            out.paragraph(format!("{}: {} = {parts}.", report.title, proof_part(&line.whole, &out.writer)));
        }
    }
    for joined in &outcome.joined {
        for account in accounts_shown(&joined.account) {
            let of = account.column.as_ref().map_or_else(String::new, |column| format!(", {column}"));
            let read = ProofPart { name: "read".to_owned(), value: account.read };
            // What there is nothing of says nothing.
            let is_some = |part: &&ProofPart| match part.value {
                ProofValue::Rows(rows) => rows > 0,
                ProofValue::Amount(amount) => amount != Decimal::ZERO,
            };
            let parts: Vec<String> =
                account.parts.iter().filter(is_some).map(|part| proof_part(part, &out.writer)).collect();
            let parts = if parts.is_empty() { "nothing".to_owned() } else { parts.join(" + ") };
            out.paragraph(format!("{}{of}: {} = {parts}.", joined.file, proof_part(&read, &out.writer)));
        }
    }
    out.paragraph(format!(
        "Counted at the reader and at the writer, and read back from the finished files{}: it agrees.",
        not_read_back(outcome)
    ));
}

/// What the finished files cannot be checked for, in brackets; nothing where they are checked for all.
fn not_read_back(outcome: &RunOutcome) -> String {
    // The currencies of a column come one after the other.
    let that_are = |state: ReadBackState| -> Vec<String> {
        let are = outcome.amounts.iter().filter(|amount| amount.read_back == state);
        let mut names: Vec<String> = are.map(|amount| format!("\"{}\"", amount.column)).collect();
        names.dedup();
        names
    };
    let not_written = that_are(ReadBackState::NotWritten);
    let digits = that_are(ReadBackState::DigitsInTheOutput);
    let mut except = String::new();
    if !not_written.is_empty() {
        except = format!(
            " (all but the sum of {}, which is not among the columns written)",
            not_written.join(", ")
        );
    }
    if !digits.is_empty() {
        except += &format!(
            " (of {} the digits alone, since its currencies are not among the columns written)",
            digits.join(", ")
        );
    }
    except
}

/// The stated total and the total read, with their difference.
fn of_control(control: &ControlTotal, writer: &Writer) -> String {
    let said = |total: Decimal| writer.amount(total, Decimals::Shown);
    let both = format!("{} of {} stated, {} read", said(control.stated), control.of, said(control.read));
    match control.read.checked_sub(control.stated).filter(|_| !control.agrees()) {
        Some(difference) => format!("{both}, a difference of {}", said(difference)),
        None => both,
    }
}

/// The lines of amounts, and where there are none, those of rows.
fn lines_shown(lines: &[ProofLine]) -> impl Iterator<Item = &ProofLine> {
    let is_amount = |line: &&ProofLine| matches!(line.whole.value, ProofValue::Amount(_));
    let any_amount = lines.iter().any(|line| is_amount(&line));
    lines.iter().filter(move |line| !any_amount || is_amount(line))
}

/// The accounts of amounts, and where there are none, that of rows.
fn accounts_shown(accounts: &[JoinAccount]) -> impl Iterator<Item = &JoinAccount> {
    let any_amount = accounts.iter().any(|account| account.column.is_some());
    accounts.iter().filter(move |account| !any_amount || account.column.is_some())
}

fn proof_part(part: &ProofPart, writer: &Writer) -> String {
    match part.value {
        ProofValue::Amount(value) => format!("{} {}", part.name, writer.amount(value, Decimals::Shown)),
        ProofValue::Rows(rows) => {
            let counted = if rows == 1 { "row" } else { "rows" };
            format!("{} {} {counted}", part.name, writer.count(rows))
        }
    }
}

/// How the files that a run wrote are called.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum FileNames {
    /// With their folder, for the user at the terminal.
    WithFolder,
    /// As the plan names them, for whoever gets them.
    OfThePlan,
}

fn files(out: &mut Document, outcome: &RunOutcome, names: FileNames) {
    out.checks("Files");
    let mut table = Table::new(["Files", "rows", "bytes"], [0]);
    for file in &outcome.outputs {
        table.row([
            ReportCell::Text(match names {
                FileNames::WithFolder => file.path.display().to_string(),
                FileNames::OfThePlan => file.name.clone(),
            }),
            file.rows.map_or(ReportCell::Empty, ReportCell::count),
            ReportCell::count(file.bytes),
        ]);
    }
    let receipt = match names {
        FileNames::WithFolder => outcome.receipt.as_path(),
        FileNames::OfThePlan => outcome.receipt.file_name().map_or(outcome.receipt.as_path(), Path::new),
    };
    let receipt = ReportCell::Text(receipt.display().to_string());
    table.row([receipt, ReportCell::Empty, ReportCell::Empty]);
    out.end_part();
    out.push(Block::Table(table));
}
