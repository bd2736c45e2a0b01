//! Records at addresses, read by who knows how: the same as from a folder, in whatever parts; and what goes wrong there.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use mild_ledger_records::{Plan, RecordsError, RemoteFile, RemoteFiles, RunRequest, Watch, look, run};
use std::ops::Range;
use std::path::PathBuf;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::{fs, io};
use support::left::{as_a_whole, left_by, same};
use support::parts::{Cutting, JobOf, run_in_parts};
use support::random_plans::random_plan;

const SHELF: &str = "shelf://yard/";

/// A folder whose files are read by addresses.
#[derive(Debug)]
struct Shelf {
    folder: PathBuf,
    reads: AtomicU64,
    fault: Fault,
}

/// What goes wrong.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Fault {
    Nothing,
    /// A byte of the range requested is missing.
    Short,
    /// After so many reads nothing is reached any more.
    GoneBehind(u64),
    /// After so many reads files are of another version.
    ChangedBehind(u64),
}

impl Shelf {
    fn of(folder: impl Into<PathBuf>, fault: Fault) -> Arc<Self> {
        Arc::new(Self { folder: folder.into(), reads: AtomicU64::new(0), fault })
    }

    fn path(&self, address: &str) -> PathBuf {
        self.folder.join(address.strip_prefix(SHELF).unwrap())
    }
}

impl RemoteFiles for Shelf {
    fn reads(&self, address: &str) -> bool {
        address.starts_with("shelf://")
    }

    fn file(&self, address: &str) -> io::Result<RemoteFile> {
        let bytes = fs::metadata(self.path(address))?.len();
        let reads = self.reads.load(Ordering::Relaxed);
        let is_other = matches!(self.fault, Fault::ChangedBehind(most) if reads > most);
        let version = Some(if is_other { "second" } else { "first" }.to_owned());
        Ok(RemoteFile { address: address.to_owned(), bytes, version, led_to: None })
    }

    fn names_in(&self, folder: &str) -> io::Result<Vec<String>> {
        let names =
            fs::read_dir(self.path(folder))?.map(|entry| entry.unwrap().file_name().into_string().unwrap());
        Ok(names.map(|name| format!("{folder}{name}")).collect())
    }

    fn read(&self, file: &RemoteFile, range: Range<u64>) -> io::Result<Vec<u8>> {
        let reads = self.reads.fetch_add(1, Ordering::Relaxed);
        if matches!(self.fault, Fault::GoneBehind(most) if reads >= most) {
            return Err(io::Error::new(io::ErrorKind::ConnectionReset, "the line is cut"));
        }
        assert!(range.start < range.end && range.end <= file.bytes, "{range:?} of {}", file.bytes);
        let all = fs::read(self.path(&file.address))?;
        let end = if self.fault == Fault::Short { range.end - 1 } else { range.end };
        Ok(all[usize::try_from(range.start).unwrap()..usize::try_from(end).unwrap()].to_vec())
    }
}

fn watch() -> Watch<'static> {
    static NOT: AtomicBool = AtomicBool::new(false);
    Watch { interrupted: &NOT, progress: &|_| {} }
}

#[test]
fn records_at_an_address_come_to_what_those_of_a_folder_do() {
    for seed in 0..16 {
        let folder = tempfile::tempdir().unwrap();
        let place = folder.path();
        let random = random_plan(seed);
        for (name, text) in &random.files {
            fs::write(place.join(name), text).unwrap();
        }
        let expected = but_inputs(&left_by(place, "plan.toml", as_a_whole));
        // The same plan, whose records were brought to a shelf.
        let (records, plan) = (&random.files[1].0, &random.files[0].1);
        let shelf = tempfile::tempdir().unwrap();
        fs::rename(place.join(records), shelf.path().join(records)).unwrap();
        let at_shelf = plan.replacen(&format!("\"{records}\""), &format!("\"{SHELF}{records}\""), 1);
        assert_ne!(&at_shelf, plan);
        fs::write(place.join("plan.toml"), at_shelf).unwrap();
        let shelf = Shelf::of(shelf.path(), Fault::Nothing);
        let with_shelf = |request: &RunRequest| request.clone().with_remote_files(shelf.clone());
        let found =
            left_by(place, "plan.toml", |plan, request, draw| as_a_whole(plan, &with_shelf(request), draw));
        same(&but_inputs(&found), &expected, &format!("seed {seed}, as a whole"));
        for (bytes, parts) in [(1 << 20, 1), (60, 3)] {
            let cutting = Cutting { bytes, parts, job: JobOf::All };
            let found = left_by(place, "plan.toml", |plan, request, draw| {
                run_in_parts(plan, &with_shelf(request), (cutting, draw))
            });
            same(&but_inputs(&found), &expected, &format!("seed {seed}, {cutting:?}"));
        }
        assert!(shelf.reads.load(Ordering::Relaxed) > 0, "seed {seed}");
    }
}

/// What a run left, but for where its inputs are.
fn but_inputs(left: &[String]) -> Vec<String> {
    let text = |text: &String| {
        let text = text.replace(SHELF, "");
        match text.split_once("\n    inputs: [\n") {
            Some((before, behind)) => format!("{before}{}", behind.split_once("\n    ],\n").unwrap().1),
            None => text,
        }
    };
    left.iter().map(text).collect()
}

const PLAN: &str = "plan = 1\n[records]\nfile = \"shelf://yard/FILE\"\n[records.amounts]\nAmount = { decimals = 2 }\n\
                    [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";

/// How a run ends of records on a shelf, and whether anything is left of it.
fn ended(file: &str, fault: Fault) -> Result<u64, String> {
    let (shelf, folder) = (tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap());
    fs::create_dir(shelf.path().join("month")).unwrap();
    fs::create_dir(shelf.path().join("empty")).unwrap();
    fs::write(shelf.path().join("month/b.csv"), "Invoice,Amount\nQB-3,4.00\n").unwrap();
    fs::write(shelf.path().join("month/a.csv"), "Invoice,Amount\nQB-1,1.00\nQB-2,2.00\n").unwrap();
    fs::write(shelf.path().join("month/notes.pdf"), "no records").unwrap();
    fs::write(shelf.path().join("empty/notes.pdf"), "no records").unwrap();
    // Longer than the first request.
    let long: String = (0..60_000).map(|row| format!("QB-{row},{row}.25\n")).collect();
    fs::write(shelf.path().join("long.csv"), format!("Invoice,Amount\n{long}")).unwrap();
    fs::write(folder.path().join("plan.toml"), PLAN.replace("FILE", file)).unwrap();
    let plan = Plan::read(&folder.path().join("plan.toml")).unwrap();
    let request = RunRequest::new().with_remote_files(Shelf::of(shelf.path(), fault));
    let ended = run(&plan, &request, watch());
    let left = fs::read_dir(folder.path()).unwrap().count();
    match ended {
        Ok(outcome) => {
            let receipt = fs::read_to_string(&outcome.receipt).unwrap();
            assert!(receipt.contains("file = \"shelf://yard/"), "{receipt}");
            Ok(outcome.rows.written)
        }
        Err(error) => {
            assert_eq!(left, 1, "{error}");
            let cause = std::error::Error::source(&error).map_or(String::new(), |cause| format!(": {cause}"));
            Err(format!("{error}{cause}"))
        }
    }
}

#[test]
fn a_folder_at_an_address_stands_for_the_records_in_it() {
    assert_eq!(ended("month/", Fault::Nothing), Ok(3));
    assert_eq!(ended("month/a.csv", Fault::Nothing), Ok(2));
    assert_eq!(ended("long.csv", Fault::Nothing), Ok(60_000));
    let none = ended("empty/", Fault::Nothing).unwrap_err();
    assert!(none.contains("no file in it ends as records do"), "{none}");
}

#[test]
fn what_goes_wrong_at_an_address_is_an_error_and_leaves_nothing() {
    for (file, fault, expected) in [
        ("none.csv", Fault::Nothing, "shelf://yard/none.csv"),
        ("none/", Fault::Nothing, "there is no such file or folder"),
        ("long.csv", Fault::Short, "bytes came that were asked for"),
        ("long.csv", Fault::GoneBehind(0), "the line is cut"),
        ("long.csv", Fault::GoneBehind(1), "the line is cut"),
        ("long.csv", Fault::ChangedBehind(0), "changed while it was read"),
        ("a.csv?signature=secret", Fault::Nothing, "holds @, ? or #"),
        ("user:secret@elsewhere/a.csv", Fault::Nothing, "holds @, ? or #"),
    ] {
        let error = ended(file, fault).unwrap_err();
        assert!(error.contains(expected), "{file}, {fault:?}: {error}");
        assert!(!error.contains("secret"), "{error}");
    }
}

#[test]
fn who_reads_no_addresses_says_so() {
    let folder = tempfile::tempdir().unwrap();
    let text = PLAN.replace("shelf://yard/FILE", "https://yard.example/invoices.csv");
    fs::write(folder.path().join("plan.toml"), text).unwrap();
    let plan = Plan::read(&folder.path().join("plan.toml")).unwrap();
    for request in
        [RunRequest::new(), RunRequest::new().with_remote_files(Shelf::of(folder.path(), Fault::Nothing))]
    {
        let error = run(&plan, &request, watch()).unwrap_err();
        assert!(matches!(error, RecordsError::Request { .. }), "{error:?}");
        assert!(
            error
                .to_string()
                .contains("https://yard.example/invoices.csv is an address that is not read here"),
            "{error}"
        );
    }
    let error = look("https://yard.example/invoices.csv".as_ref(), watch()).unwrap_err();
    assert!(error.to_string().contains("is an address"), "{error}");
}
