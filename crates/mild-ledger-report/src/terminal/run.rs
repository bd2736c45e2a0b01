//! What a run prints.

use super::Width;
use super::aging::aging;
use super::grid::Grid;
use super::numbers::{Decimals, amount, grouped};
use super::text::{visible, wrapped};
use mild_ledger_records::{ReadBackState, RunOutcome};

/// The title and as-of date, the reports, the exceptions, the dates, the proof and the files of a run.
#[must_use]
pub fn run(outcome: &RunOutcome, width: Width) -> String {
    let mut out = String::new();
    out.push_str(&wrapped(&visible(&outcome.title), "", width));
    let said =
        format!("as of {} ({}), from {}", outcome.as_of, outcome.as_of.weekday(), visible(&outcome.records));
    out.push_str(&wrapped(&said, "", width));
    for report in &outcome.reports {
        out.push('\n');
        out.push_str(&aging(report, width));
        let said = format!(
            "Open on {}: paid on or before it is settled, issued after it is set apart. Largest total first. \"No date\" holds rows without a date to age them by; credits are taken off in the total only.",
            outcome.as_of
        );
        out.push_str(&wrapped(&said, "", width));
    }
    exceptions(&mut out, outcome, width);
    dates(&mut out, outcome, width);
    figures(&mut out, outcome, width);
    proof(&mut out, outcome, width);
    files(&mut out, outcome, width);
    out
}

fn exceptions(out: &mut String, outcome: &RunOutcome, width: Width) {
    let count: u64 = outcome.exceptions.iter().map(|group| group.count).sum();
    let file = outcome.files.get(1).map_or("", |file| file.name.as_str());
    let said = match count {
        0 => "Exceptions: none".to_owned(),
        _ => format!("Exceptions: {count}, each listed in {}", visible(file)),
    };
    out.push('\n');
    out.push_str(&wrapped(&said, "", width));
    for group in &outcome.exceptions {
        out.push_str(&wrapped(
            &format!("{} × {}: {}", group.count, group.reason, group.outcome),
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
        Grid::new(["Dates", "written", "read", "blank", "filler", "unreadable"]).align_left([0, 1]);
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
    fitted(out, &grid, width);
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
            [visible(&figures.column).into_owned(), format!("{}, ends {}", figures.rule, figures.ends)]
                .into_iter()
                .chain(counts),
        );
    }
    out.push('\n');
    fitted(out, &grid, width);
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
    let mut line =
        |name: &str, count: u64, of: fn(&mild_ledger_records::AmountProof) -> mild_ledger::Amount| {
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
    fitted(out, &grid, width);
    for column in outcome.amounts.iter().filter(|column| column.unreadable_rows > 0) {
        let rows = if column.unreadable_rows == 1 { "row has" } else { "rows have" };
        let said = format!(
            "{} {rows} no readable \"{}\", and so no part in its sums.",
            column.unreadable_rows,
            visible(&column.column)
        );
        out.push_str(&wrapped(&said, "", width));
    }
    for report in &outcome.reports {
        let proof = &report.proof;
        let said = format!(
            "{}: written {} = in buckets {} + credits {} + settled {} + not yet issued {}.",
            visible(&report.title),
            amount(proof.written, Decimals::Shown),
            amount(proof.in_buckets, Decimals::Shown),
            amount(proof.credits, Decimals::Shown),
            amount(proof.settled, Decimals::Shown),
            amount(proof.not_yet_issued, Decimals::Shown),
        );
        out.push_str(&wrapped(&said, "", width));
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

fn files(out: &mut String, outcome: &RunOutcome, width: Width) {
    let mut grid = Grid::new(["Files", "rows", "bytes"]).align_left([0]);
    for file in &outcome.files {
        let path = file.path.display().to_string();
        grid.row([
            visible(&path).into_owned(),
            grouped(&file.rows.to_string()),
            grouped(&file.bytes.to_string()),
        ]);
    }
    let receipt = outcome.receipt.display().to_string();
    grid.row([visible(&receipt).into_owned(), String::new(), String::new()]);
    out.push('\n');
    fitted(out, &grid, width);
}

/// A small table as it is; where it is too wide, a block a row.
fn fitted(out: &mut String, grid: &Grid, width: Width) {
    if width.fits(grid.width()) {
        out.push_str(&grid.to_text());
    } else {
        out.push_str(&grid.to_blocks());
    }
}
