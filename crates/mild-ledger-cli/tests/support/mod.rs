//! A folder of its own for each test, and the command run in it.
#![allow(dead_code, unreachable_pub)] // each test file uses a part of it

pub mod quarter;
pub mod schemas;

use std::fs;
use std::path::{Path, PathBuf};
use std::process::{Command, Output};

pub struct Desk {
    folder: tempfile::TempDir,
}

/// What the command gave.
pub struct Answer {
    pub code: i32,
    pub out: String,
    pub err: String,
}

/// A plan that ages `records.csv`; tests change a line of it.
pub const PLAN: &str = r#"plan  = 1
title = "Aging"
as_of = 2026-09-30

[records]
file    = "records.csv"
key     = "Invoice"
duplicates = "set aside"

[records.dates]
Issued = "day/month/year"
Paid   = "day/month/year"

[records.amounts]
Amount = { decimals = 2 }

[[column]]
name    = "Days"
between = ["Issued", "as-of"]
count   = "days"

[[column]]
name   = "Band"
bucket = "Days"
edges  = [0, 30, 60]

[[report]]
kind   = "aging"
band   = "Band"
amount = "Amount"
issued = "Issued"
paid   = "Paid"
by     = "Customer"

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

pub const RECORDS: &str = "Invoice,Customer,Issued,Paid,Amount
A1,Heron Charters,30/09/2026,,100.00
A2,Heron Charters,31/08/2026,,50.25
A3,Cordage & Co.,30/08/2026,01/09/2026,70.00
A4,Cordage & Co.,01/08/2026,,9.75
";

impl Desk {
    pub fn new() -> Self {
        Self { folder: tempfile::tempdir().unwrap() }
    }

    /// With the plan and records above.
    pub fn with_records(records: impl AsRef<[u8]>) -> Self {
        let desk = Self::new();
        desk.write("plan.toml", PLAN);
        desk.write("records.csv", records);
        desk
    }

    /// With the plan above, one piece of it replaced.
    pub fn with_plan(from: &str, to: &str) -> Self {
        let desk = Self::with_records(RECORDS);
        assert!(PLAN.contains(from), "the plan has {from}");
        desk.write("plan.toml", PLAN.replacen(from, to, 1));
        desk
    }

    pub fn path(&self, name: &str) -> PathBuf {
        self.folder.path().join(name)
    }

    pub fn folder(&self) -> &Path {
        self.folder.path()
    }

    pub fn write(&self, name: &str, content: impl AsRef<[u8]>) {
        fs::write(self.path(name), content).unwrap();
    }

    pub fn read(&self, name: &str) -> String {
        fs::read_to_string(self.path(name)).unwrap()
    }

    /// The names of all files in the folder, hidden ones too.
    pub fn files(&self) -> Vec<String> {
        let mut names: Vec<String> = fs::read_dir(self.folder())
            .unwrap()
            .map(|entry| entry.unwrap().file_name().to_string_lossy().into_owned())
            .collect();
        names.sort();
        names
    }

    pub fn command(&self, arguments: &[&str]) -> Command {
        let mut command = Command::new(env!("CARGO_BIN_EXE_mild"));
        command.args(arguments).current_dir(self.folder()).env_remove("NO_COLOR").env("TZ", "UTC");
        command
    }

    pub fn mild(&self, arguments: &[&str]) -> Answer {
        Answer::of(self.command(arguments).output().unwrap())
    }

    pub fn run_plan(&self) -> Answer {
        self.mild(&["run", "plan.toml", "--details"])
    }

    /// The first report of the plan, as programs get it.
    pub fn report(&self) -> serde_json::Value {
        self.report_of(&[])
    }

    /// The same as of another date.
    pub fn report_as_of(&self, as_of: &str) -> serde_json::Value {
        self.report_of(&["--as-of", as_of])
    }

    fn report_of(&self, more: &[&str]) -> serde_json::Value {
        let answer = self.mild(&[&["run", "plan.toml", "--overwrite", "--json"], more].concat());
        assert_eq!(answer.code, 0, "{}", answer.err);
        answer.json()["reports"][0].clone()
    }
}

impl Answer {
    pub fn of(output: Output) -> Self {
        Self {
            code: output.status.code().unwrap_or(-1),
            out: String::from_utf8(output.stdout).unwrap(),
            err: String::from_utf8(output.stderr).unwrap(),
        }
    }

    /// Everything, for a snapshot.
    pub fn all(&self) -> String {
        format!("exit {}\n--- standard output\n{}--- standard error\n{}", self.code, self.out, self.err)
    }

    pub fn json(&self) -> serde_json::Value {
        assert_eq!(self.code, 0, "{}", self.err);
        serde_json::from_str(&self.out).unwrap()
    }
}

/// Records with what reports meet: credits, a text that looks like a formula, dates that are not dates.
pub const OWED: &str = "Invoice,Customer,Issued,Paid,Amount
A1,Heron Charters,30/09/2026,,100.00
A2,Heron Charters,31/08/2026,,50.25
A3,Cordage & Co.,30/08/2026,01/09/2026,70.00
A4,Cordage & Co.,01/06/2026,,9.75
A5,\"=Ferry\",,soon,3.00
A6,Heron Charters,31/06/2026,,-20.00
";

/// The aging of [`PLAN`].
const AGING: &str = "kind   = \"aging\"
band   = \"Band\"
amount = \"Amount\"
issued = \"Issued\"
paid   = \"Paid\"
by     = \"Customer\"
";

/// The plan with this report in place of its aging, and those records.
pub fn desk_with_report(report: &str) -> Desk {
    let desk = Desk::with_plan(AGING, report);
    desk.write("records.csv", OWED);
    desk
}
