//! Whether the files of a receipt are what its runs recorded.

use super::{Block, Cell, Document, Holds, Table};
use crate::numbers::grouped;
use mild_ledger_records::{AgainState, FileRole, FileState, ReportCell, RunAgain, Verified};

/// A table of the files a run, and in the last line how many of them are what was recorded.
pub(crate) fn verified(found: &Verified, again: Option<&[RunAgain]>) -> Document {
    let mut out = Document::default();
    let of_plan = found.plan.as_ref().map_or_else(String::new, |plan| format!(", of {plan}"));
    out.push(Block::Heading(format!("{}{of_plan}", found.receipt.display())));
    for run in &found.runs {
        out.end_part();
        let as_of = if run.as_of == "none" { String::new() } else { format!("as of {}, ", run.as_of) };
        out.paragraph(format!("{as_of}{}", run.title));
        out.end_part();
        let mut table = Table::new(["File", "role", "bytes then", "now"].map(str::to_owned), 0..2);
        if let Some(now) = table.columns.last_mut() {
            now.holds = Holds::Words;
        }
        for file in &run.files {
            let cells = [
                ReportCell::Text(file.file.clone()),
                ReportCell::Text(role(file.role).to_owned()),
                ReportCell::count(file.bytes),
                ReportCell::Text(state(&file.state)),
            ];
            table.row(cells.map(Cell::from));
        }
        out.push(Block::Table(table));
    }
    out.end_part();
    out.paragraph(answer(found));
    for run in again.unwrap_or_default() {
        put_again(&mut out, run);
    }
    out
}

/// How many files are what was recorded, in a sentence.
fn answer(found: &Verified) -> String {
    let compared =
        found.runs.iter().flat_map(|run| &run.files).filter(|file| file.state != FileState::NoFile);
    let (all, differing) = (compared.count(), found.differing());
    let files = |count: usize| format!("{count} {}", if count == 1 { "file" } else { "files" });
    match differing.as_slice() {
        [] if found.read_again() == 0 => "no file was read again, so nothing is verified".to_owned(),
        [] => format!("{} read again: all as recorded", files(all)),
        [one] => format!("1 of {} is not what was recorded: {}", files(all), one.file),
        [first, others @ ..] => {
            format!(
                "{} of {} are not what was recorded: {} and {} more",
                differing.len(),
                files(all),
                first.file,
                others.len()
            )
        }
    }
}

fn role(role: FileRole) -> &'static str {
    match role {
        FileRole::Input => "read",
        FileRole::Output => "written",
    }
}

fn state(state: &FileState) -> String {
    match state {
        FileState::AsRecorded => "as recorded".to_owned(),
        FileState::Changed(bytes) => format!("changed, {} bytes", grouped(&bytes.to_string())),
        FileState::Missing => "missing".to_owned(),
        FileState::UnknownHash => "not known: its hash is of another kind".to_owned(),
        FileState::NotAFile => "not a file".to_owned(),
        _ => "no file to compare".to_owned(),
    }
}

/// What each output of a run comes to once more, and in the last line how many are the same.
fn put_again(out: &mut Document, run: &RunAgain) {
    let as_of = if run.as_of == "none" { String::new() } else { format!(" as of {}", run.as_of) };
    out.end_part();
    for file in run.differing() {
        out.push(Block::Item(format!("{}: {}", file.file, comes_to(file.state))));
    }
    let compared = run.files.iter().filter(|file| file.state != AgainState::NoFile).count();
    let files = if compared == 1 { "file" } else { "files" };
    out.paragraph(match run.differing().len() {
        0 => format!("Run once more{as_of}: {compared} {files}, byte for byte what was recorded"),
        differing => format!("Run once more{as_of}: {differing} of {compared} {files} come out another"),
    });
}

fn comes_to(state: AgainState) -> String {
    match state {
        AgainState::TheSame => "the same".to_owned(),
        AgainState::Differs { first_line: Some(line) } => {
            format!("another, from line {} on", grouped(&line.to_string()))
        }
        AgainState::Differs { first_line: None } => "another".to_owned(),
        AgainState::NotWritten => "the plan writes no such file now".to_owned(),
        _ => "no file to compare".to_owned(),
    }
}
