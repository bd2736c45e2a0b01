//! Files that the records crate reads, each put into a folder of its own.

use mild_ledger::Date;
use mild_ledger_records::{
    CalendarRequest, ExistingFiles, OpenedCalendar, Plan, RecordsError, RunRequest, Watch, is_decoding, look,
    open_calendar, run, to_ics,
};
use std::collections::BTreeSet;
use std::fs;
use std::panic;
use std::path::{Path, PathBuf};
use std::sync::atomic::AtomicBool;
use std::sync::{Once, OnceLock};
use tempfile::TempDir;

/// The text of a plan, which is run on a small file of records where it can be.
pub fn plan(text: &str) {
    let folder = folder();
    let place = folder.join("plan.toml");
    let Ok(plan) = Plan::of_text(text, &place) else { return };
    let _ = plan.title();
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    let checked = mild_ledger_records::check(&plan, &request(), watch);
    no_defect(checked.err());
}

/// A calendar file of that name.
pub fn calendar(name: &str, text: &str) {
    let place = folder().join(name);
    fs::write(&place, text).expect("a file is written");
    let covers = "2020 to 2030".parse().ok();
    let sources = vec![place.display().to_string()];
    let request = |sources| CalendarRequest { sources, covers, ..CalendarRequest::default() };
    let Ok(opened) = open_calendar(&request(sources)) else { return };
    let days = |opened: &OpenedCalendar| -> BTreeSet<Date> {
        opened.calendar().holidays().iter().map(|holiday| holiday.date()).collect()
    };
    // A file written for other programs is read as the same days.
    let closed = days(&opened);
    let events = to_ics(
        "yard",
        closed.iter().map(|date| (mild_ledger_records::EventTime::Day(*date), "closed, \\ or; not\n")),
    );
    let written = folder().join("written.ics");
    fs::write(&written, events).expect("a file is written");
    let again = open_calendar(&request(vec![written.display().to_string()]));
    if !closed.is_empty() {
        assert_eq!(days(&again.expect("a written file is read")), closed);
    }
}

/// A file of records of that name: the plan made for it runs as it is printed, and every row is in one place.
pub fn records(name: &str, bytes: &[u8]) {
    let_packages_panic();
    let folder = folder();
    let place = folder.join(name);
    fs::write(&place, bytes).expect("a file is written");
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    let found = match look(&place, watch) {
        Ok(found) => found,
        Err(error) => return no_defect(Some(error)),
    };
    let broken: u64 = found.broken.iter().map(|broken| broken.count).sum();
    for column in &found.columns {
        assert_eq!(column.values + column.blanks + broken, found.rows, "{}", column.name);
    }
    let text = found.plan_text();
    let plan = match Plan::of_text(&text, &folder.join("plan.toml")) {
        Ok(plan) => plan,
        Err(error) => panic!("the plan that was printed has mistakes: {error}\n{text}"),
    };
    match run(&plan, &request(), watch) {
        Ok(outcome) => assert_eq!(outcome.rows.read, found.rows),
        Err(error) => no_defect(Some(error)),
    }
}

fn request() -> RunRequest {
    let as_of = "2026-09-30".parse().expect("a date");
    RunRequest::new().with_as_of(as_of).with_existing(ExistingFiles::Overwrite)
}

/// A panic of a package that reads a file is caught and becomes an error, so it is not a finding; one of our own is, and so is one of
/// a package anywhere else.
pub(crate) fn let_packages_panic() {
    static ONCE: Once = Once::new();
    ONCE.call_once(|| {
        let finding = panic::take_hook();
        panic::set_hook(Box::new(move |panic| {
            let is_of_package = panic.location().is_some_and(|place| place.file().contains("/registry/src/"));
            if !(is_of_package && is_decoding()) {
                finding(panic);
            }
        }));
    });
}

/// A proof that does not hold is never the fault of the records.
fn no_defect(error: Option<RecordsError>) {
    if let Some(error @ RecordsError::Proof { .. }) = error {
        panic!("{error}");
    }
}

/// The folder of this fuzzer.
pub(crate) fn folder() -> &'static Path {
    static FOLDER: OnceLock<(TempDir, PathBuf)> = OnceLock::new();
    let (_, path) = FOLDER.get_or_init(|| {
        // In memory where there is such a place, since every input becomes a file.
        let memory = Path::new("/dev/shm");
        let place = if memory.is_dir() { memory.to_owned() } else { std::env::temp_dir() };
        let folder = tempfile::tempdir_in(place).expect("a folder is made");
        let path = folder.path().to_owned();
        let records = "Invoice,Issued,Paid,Amount\nA1,2026-01-31,,10.50\nA2,2026-02-28,2026-03-31,-7.00\n";
        fs::write(path.join("invoices.csv"), records).expect("a file is written");
        (folder, path)
    });
    path
}
