//! What a run prints.

use super::aging::aging;
use super::grid::Grid;
use super::numbers::{Decimals, amount, grouped};
use super::tables::shown;
use super::text::wrapped;
use super::{Width, tables};
use crate::shown::visible;
use mild_ledger::{Date, Decimal};
use mild_ledger_records::{
    ProofLine, ProofPart, ProofValue, ReadBackState, ReportFigures, ReportTable, RunOutcome,
};

/// What makes the figures doubtful, then the title and as-of date, the reports, the exceptions, the dates, the proof and the
/// files of a run; and in the last line the answer: what is owed, the rows, and whether the proof agrees.
#[must_use]
pub fn run(outcome: &RunOutcome, width: Width) -> String {
    let mut out = String::new();
    out.push_str(&wrapped(&visible(&outcome.title), "", width));
    let records = visible(&outcome.records);
    let said = match outcome.as_of {
        Some(as_of) => {
            format!("as of {} ({}), from {records}", said_of_as_of(outcome, as_of), as_of.weekday())
        }
        None => format!("from {records}"),
    };
    out.push_str(&wrapped(&said, "", width));
    for doubt in &outcome.doubts {
        out.push_str(&wrapped(&format!("Doubtful: {}.", visible(doubt)), "", width));
    }
    for report in &outcome.reports {
        out.push('\n');
        let ReportFigures::Aging(figures) = &report.figures else {
            report.tables().iter().for_each(|table| out.push_str(&tables::table(table, width)));
            continue;
        };
        out.push_str(&aging(&report.title, figures, width));
        let as_of = outcome.as_of.map_or_else(String::new, |as_of| format!(" on {as_of}"));
        let said = format!(
            "Open{as_of}: paid on or before it is settled, issued after it is set apart. Largest total first; credits are taken off in the total only."
        );
        out.push_str(&wrapped(&said, "", width));
    }
    exceptions(&mut out, outcome, width);
    dates(&mut out, outcome, width);
    figures(&mut out, outcome, width);
    calendars(&mut out, outcome, width);
    proof(&mut out, outcome, width);
    files(&mut out, outcome, width);
    out.push('\n');
    out.push_str(&wrapped(&answer(outcome), "", width));
    out
}

fn said_of_as_of(outcome: &RunOutcome, as_of: Date) -> String {
    outcome.as_of_time.map_or_else(|| as_of.to_string(), |at| at.to_string())
}

/// The first figures of a table's total that say something, and how many groups they are of.
fn totals(table: &ReportTable) -> String {
    const MOST: usize = 2;
    let number = table.rows.len();
    let groups = format!("{} {}", grouped(&number.to_string()), if number == 1 { "group" } else { "groups" });
    let figures = table.columns.iter().zip(table.total.iter().flatten()).skip(table.names);
    let figures = figures.map(|(name, cell)| (name, shown(cell))).filter(|(_, figure)| !figure.is_empty());
    let figures: Vec<String> =
        figures.take(MOST).map(|(name, figure)| format!("{} {figure}", visible(name))).collect();
    if figures.is_empty() { groups } else { format!("{} in {groups}", figures.join(", ")) }
}

/// The run in one line.
fn answer(outcome: &RunOutcome) -> String {
    let rows = outcome.rows;
    let count = |number: u64| grouped(&number.to_string());
    let as_of = outcome.as_of.map_or_else(String::new, |as_of| format!(" as of {as_of}"));
    let mut parts: Vec<String> = outcome
        .reports
        .iter()
        .map(|report| {
            let several = if outcome.reports.len() > 1 {
                format!("{}: ", visible(&report.title))
            } else {
                String::new()
            };
            let ReportFigures::Aging(figures) = &report.figures else {
                return format!(
                    "{several}{}",
                    report.tables().iter().map(totals).collect::<Vec<_>>().join("; ")
                );
            };
            let owed = amount(figures.total.total, Decimals::Shown);
            let by = match &figures.by {
                Some(by) => format!(" by {}", said_of_groups(figures.group_count(), by)),
                None => String::new(),
            };
            format!("{several}{owed} owed{by}{as_of}")
        })
        .collect();
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
        1 => "the proof agrees, and there is a doubt (see the top)".to_owned(),
        doubts => format!("the proof agrees, and there are {doubts} doubts (see the top)"),
    });
    parts.join("; ")
}

/// `14 customers`, of a column of one plain word; the column's name as it is otherwise.
fn said_of_groups(count: usize, by: &str) -> String {
    let number = grouped(&count.to_string());
    let is_word = by.chars().all(|sign| sign.is_ascii_alphabetic()) && by.len() > 2;
    if !is_word {
        return format!("{number} of \"{}\"", visible(by));
    }
    let word = by.to_ascii_lowercase();
    let before_y = word.strip_suffix('y').filter(|rest| !rest.ends_with(['a', 'e', 'i', 'o', 'u']));
    match (count, before_y) {
        (1, _) => format!("1 {word}"),
        (_, Some(rest)) => format!("{number} {rest}ies"),
        _ if word.ends_with(['s', 'x', 'z']) || word.ends_with("ch") || word.ends_with("sh") => {
            format!("{number} {word}es")
        }
        _ => format!("{number} {word}s"),
    }
}

/// The calendars that were counted by, with what they cover.
fn calendars(out: &mut String, outcome: &RunOutcome, width: Width) {
    for (nth, calendar) in outcome.calendars.iter().enumerate() {
        if nth == 0 {
            out.push('\n');
        }
        let sources = match calendar.sources.as_slice() {
            [] => String::new(),
            all => format!(", from {}", all.join(", ")),
        };
        let holidays = if calendar.holidays == 1 { "holiday" } else { "holidays" };
        let said = format!(
            "Calendar {}: {}, rest days {}, {} {holidays}{sources}",
            calendar.name,
            calendar.covers,
            calendar.rest_days,
            grouped(&calendar.holidays.to_string())
        );
        out.push_str(&wrapped(&visible(&said), "", width));
    }
}

fn exceptions(out: &mut String, outcome: &RunOutcome, width: Width) {
    let count: u64 = outcome.exceptions.iter().map(|group| group.count).sum();
    let file = outcome.outputs.get(1).map_or("", |file| file.name.as_str());
    let said = match count {
        0 => "Exceptions: none".to_owned(),
        _ => format!("Exceptions: {count}, each listed in {}", visible(file)),
    };
    out.push('\n');
    out.push_str(&wrapped(&said, "", width));
    for group in &outcome.exceptions {
        out.push_str(&wrapped(
            &format!("{} × {}, {}", group.count, group.reason, group.outcome),
            "  ",
            width,
        ));
        for example in &group.examples {
            out.push_str(&wrapped(&visible(example), "      ", width));
        }
        if group.count > group.examples.len() as u64 {
            let more = group.count - group.examples.len() as u64;
            out.push_str(&wrapped(&format!("… and {more} more"), "      ", width));
        }
    }
    for note in outcome.notes.iter().chain(&outcome.repeats) {
        out.push_str(&wrapped(&format!("Note: {}.", visible(note)), "  ", width));
    }
    if outcome.cells_behind_apostrophe > 0 {
        let (texts, them) = match outcome.cells_behind_apostrophe {
            1 => ("text was", "it as a formula"),
            _ => ("texts were", "them as formulas"),
        };
        let said = format!(
            "Note: {} {texts} written behind an apostrophe, since a spreadsheet would have run {them}.",
            outcome.cells_behind_apostrophe
        );
        out.push_str(&wrapped(&said, "  ", width));
    }
}

fn dates(out: &mut String, outcome: &RunOutcome, width: Width) {
    if outcome.dates.is_empty() {
        return;
    }
    let mut grid =
        Grid::new(["Dates", "written", "read", "blank", "placeholder", "unreadable"]).align_left([0, 1]);
    for dates in &outcome.dates {
        let tally = dates.tally;
        let counts = [tally.read, tally.blank, tally.filler, tally.unreadable]
            .map(|count| grouped(&count.to_string()));
        grid.row(
            [visible(&dates.column).into_owned(), visible(&dates.pattern).into_owned()]
                .into_iter()
                .chain(counts),
        );
    }
    out.push('\n');
    fitted(out, grid, width);
}

fn figures(out: &mut String, outcome: &RunOutcome, width: Width) {
    if outcome.figures.is_empty() {
        return;
    }
    let mut grid =
        Grid::new(["Figures", "counted in", "below zero", "zero", "above zero", "empty"]).align_left([0, 1]);
    for figures in &outcome.figures {
        let counts = [figures.negative, figures.zero, figures.positive, figures.empty];
        let counts = counts.map(|count| grouped(&count.to_string()));
        grid.row(
            [visible(&figures.column).into_owned(), format!("{}, {}", figures.rule, figures.ends.said())]
                .into_iter()
                .chain(counts),
        );
    }
    out.push('\n');
    fitted(out, grid, width);
    for figures in &outcome.figures {
        if figures.negative > figures.zero + figures.positive {
            let said = format!(
                "Note: most of \"{}\" lie below zero; is its start the end?",
                visible(&figures.column)
            );
            out.push_str(&wrapped(&said, "  ", width));
        }
    }
}

fn proof(out: &mut String, outcome: &RunOutcome, width: Width) {
    let header = ["Proof".to_owned(), "rows".to_owned()];
    let columns = outcome.amounts.iter().map(|amount| visible(&amount.column).into_owned());
    let mut grid = Grid::new(header.into_iter().chain(columns)).align_left([0]);
    let rows = outcome.rows;
    let mut line = |name: &str, count: u64, of: fn(&mild_ledger_records::AmountProof) -> Decimal| {
        let amounts = outcome.amounts.iter().map(|column| amount(of(column), Decimals::Shown));
        grid.row([name.to_owned(), grouped(&count.to_string())].into_iter().chain(amounts));
    };
    line("written", rows.written, |column| column.written);
    line("set aside", rows.set_aside, |column| column.set_aside);
    line("merged by key", rows.merged, |column| column.merged);
    line("not selected", rows.not_selected, |column| column.not_selected);
    grid.line();
    let amounts = outcome.amounts.iter().map(|column| amount(column.read, Decimals::Shown));
    grid.row(["read".to_owned(), grouped(&rows.read.to_string())].into_iter().chain(amounts));
    out.push('\n');
    fitted(out, grid, width);
    for column in outcome.amounts.iter().filter(|column| column.unreadable_rows > 0) {
        let rows = if column.unreadable_rows == 1 { "row has" } else { "rows have" };
        let said = format!(
            "{} {rows} no readable \"{}\", and so no part in its sums.",
            grouped(&column.unreadable_rows.to_string()),
            visible(&column.column)
        );
        out.push_str(&wrapped(&said, "", width));
    }
    for report in &outcome.reports {
        for line in lines_shown(&report.proof) {
            let parts = line.parts.iter().map(proof_part).collect::<Vec<_>>().join(" + ");
            let said = format!("{}: {} = {parts}.", visible(&report.title), proof_part(&line.whole));
            out.push_str(&wrapped(&said, "", width));
        }
    }
    let not_written: Vec<_> = outcome
        .amounts
        .iter()
        .filter(|column| column.read_back == ReadBackState::NotWritten)
        .map(|column| format!("\"{}\"", visible(&column.column)))
        .collect();
    let except = match not_written.as_slice() {
        [] => String::new(),
        names => {
            format!(" (all but the sum of {}, which is not among the columns written)", names.join(", "))
        }
    };
    let said = format!(
        "Counted at the reader and at the writer, and read back from the finished files{except}: it agrees."
    );
    out.push_str(&wrapped(&said, "", width));
}

/// The lines of amounts, and where there are none, those of rows.
fn lines_shown(lines: &[ProofLine]) -> impl Iterator<Item = &ProofLine> {
    let is_amount = |line: &&ProofLine| matches!(line.whole.value, ProofValue::Amount(_));
    let any_amount = lines.iter().any(|line| is_amount(&line));
    lines.iter().filter(move |line| !any_amount || is_amount(line))
}

fn proof_part(part: &ProofPart) -> String {
    match part.value {
        ProofValue::Amount(value) => format!("{} {}", part.name, amount(value, Decimals::Shown)),
        ProofValue::Rows(rows) => format!("{} {} rows", part.name, grouped(&rows.to_string())),
    }
}

fn files(out: &mut String, outcome: &RunOutcome, width: Width) {
    let mut grid = Grid::new(["Files", "rows", "bytes"]).align_left([0]);
    for file in &outcome.outputs {
        let path = file.path.display().to_string();
        grid.row([
            visible(&path).into_owned(),
            file.rows.map_or_else(String::new, |rows| grouped(&rows.to_string())),
            grouped(&file.bytes.to_string()),
        ]);
    }
    let receipt = outcome.receipt.display().to_string();
    grid.row([visible(&receipt).into_owned(), String::new(), String::new()]);
    out.push('\n');
    fitted(out, grid, width);
}

/// A small table, as it fits.
fn fitted(out: &mut String, grid: Grid, width: Width) {
    out.push_str(&grid.fitted(width));
}
