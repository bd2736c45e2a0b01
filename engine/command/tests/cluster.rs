//! A cluster on this machine: a scheduler and two executors, each a process of its own.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

#[path = "../../../crates/mild-ledger-records/tests/support/left.rs"]
mod left;
#[path = "../../../crates/mild-ledger-records/tests/support/random_plans.rs"]
mod random_plans;

use left::{as_a_whole, request};
use mild_ledger_records::{Plan, RunOutcome};
use mild_ledger_report::{drawn, json};
use random_plans::random_plan;
use serde_json::Value;
use std::fmt::Write as _;
use std::fs;
use std::net::{TcpListener, TcpStream};
use std::path::Path;
use std::process::{Child, Command, Output, Stdio};
use std::time::{Duration, Instant};

const COMMAND: &str = env!("CARGO_BIN_EXE_mild-engine");

/// A scheduler, and those who work for it; they end with it.
struct Cluster {
    address: String,
    scheduler: Child,
    executors: Vec<Child>,
    _folders: Vec<tempfile::TempDir>,
}

fn free_port() -> u16 {
    TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port()
}

fn begin(arguments: &[&str]) -> Child {
    let (out, error) = (Stdio::null(), Stdio::null());
    Command::new(COMMAND).args(arguments).stdout(out).stderr(error).spawn().unwrap()
}

impl Cluster {
    fn of(executors: usize) -> Self {
        let port = free_port();
        let address = format!("127.0.0.1:{port}");
        let scheduler = begin(&["scheduler", "--port", &port.to_string(), "--gone-after", "6"]);
        let began = Instant::now();
        while TcpStream::connect(&address).is_err() {
            assert!(began.elapsed() < Duration::from_secs(30), "the scheduler does not come up");
            std::thread::sleep(Duration::from_millis(50));
        }
        let mut folders = Vec::new();
        let executors = (0..executors).map(|_| {
            let folder = tempfile::tempdir().unwrap();
            let [port, work_port] = [free_port(), free_port()].map(|port| port.to_string());
            let place = folder.path().display().to_string();
            folders.push(folder);
            begin(&[
                "executor",
                "--scheduler",
                &address,
                "--port",
                &port,
                "--work-port",
                &work_port,
                "--tasks",
                "1",
                "--folder",
                &place,
            ])
        });
        Self { address: address.clone(), scheduler, executors: executors.collect(), _folders: folders }
    }

    fn begin_run(&self, folder: &Path, plan: &str) -> Child {
        Command::new(COMMAND)
            .arg("run")
            .arg(folder.join(plan))
            .args(["--json", "--overwrite", "--sample", "3", "--partitions", "6"])
            .args(["--cluster", &self.address, "--give-up-after", "40"])
            .current_dir(folder)
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .unwrap()
    }

    fn run(&self, folder: &Path, plan: &str) -> Output {
        self.begin_run(folder, plan).wait_with_output().unwrap()
    }
}

impl Drop for Cluster {
    fn drop(&mut self) {
        for process in self.executors.iter_mut().chain([&mut self.scheduler]) {
            let _ = process.kill();
            let _ = process.wait();
        }
    }
}

/// The object of a run as programs get it, the files left out that rows went to; and these rows with one header, and the exceptions.
struct Left {
    object: Value,
    rows: String,
    exceptions: String,
}

/// What a run of one process leaves, which is cleared away.
fn whole(folder: &Path, plan: &str) -> Left {
    let plan = Plan::read(&folder.join(plan)).unwrap();
    let outcome = as_a_whole(&plan, &request(), &drawn).unwrap();
    let rows = outcome.outputs[0].path.clone();
    let left = left_of(&json::run(&outcome), &outcome, &fs::read_to_string(&rows).unwrap());
    fs::remove_file(rows).unwrap();
    left
}

fn left_of(object: &str, outcome: &RunOutcome, rows: &str) -> Left {
    let mut object: Value = serde_json::from_str(object).unwrap();
    let outputs = object.as_object_mut().unwrap().remove("outputs");
    assert!(outputs.is_some(), "{object}");
    let exceptions = outcome.outputs.iter().find(|file| file.name.contains("exceptions")).unwrap();
    Left { object, rows: rows.to_owned(), exceptions: fs::read_to_string(&exceptions.path).unwrap() }
}

/// What a run of the cluster leaves, where one of one process left that.
fn on_the_cluster(cluster: &Cluster, folder: &Path, plan: &str, outcome: &RunOutcome) -> Left {
    let output = cluster.run(folder, plan);
    let said = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(output.status.success(), "{said}");
    left_of(&String::from_utf8(output.stdout).unwrap(), outcome, &rows_in(&outcome.outputs[0].path))
}

/// The rows of a folder, which is cleared away.
fn rows_in(folder: &Path) -> String {
    let mut names: Vec<_> = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    names.sort();
    let mut rows = String::new();
    for (nth, name) in names.iter().enumerate() {
        let part = fs::read_to_string(name).unwrap();
        let is_csv = name.extension().is_some_and(|ending| ending == "csv");
        let header = if nth > 0 && is_csv { part.find('\n').map_or(part.len(), |end| end + 1) } else { 0 };
        rows.push_str(&part[header..]);
    }
    fs::remove_dir_all(folder).unwrap();
    rows
}

fn same(folder: &Path, plan: &str, cluster: &Cluster) {
    let read = Plan::read(&folder.join(plan)).unwrap();
    let Ok(outcome) = as_a_whole(&read, &request(), &drawn) else {
        let output = cluster.run(folder, plan);
        assert!(!output.status.success());
        return;
    };
    let expected = whole(folder, plan);
    let found = on_the_cluster(cluster, folder, plan, &outcome);
    left::same(&lines(&found), &lines(&expected), plan);
}

fn lines(left: &Left) -> [String; 3] {
    [serde_json::to_string_pretty(&left.object).unwrap(), left.rows.clone(), left.exceptions.clone()]
}

#[test]
fn the_demo_and_random_plans_come_to_the_same_on_two_executors() {
    let cluster = Cluster::of(2);
    let demo = Path::new(concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo"));
    let folder = tempfile::tempdir().unwrap();
    for entry in fs::read_dir(demo).unwrap() {
        let path = entry.unwrap().path();
        fs::copy(&path, folder.path().join(path.file_name().unwrap())).unwrap();
    }
    for plan in ["crew.toml", "jobs.toml", "licences.toml", "quarter.toml", "receivables.toml"] {
        same(folder.path(), plan, &cluster);
    }
    for seed in 3000..3020 {
        let folder = tempfile::tempdir().unwrap();
        for (name, text) in random_plan(seed).files {
            fs::write(folder.path().join(name), text).unwrap();
        }
        same(folder.path(), "plan.toml", &cluster);
    }
}

const LARGE: &str = r#"plan = 1
as_of = 2026-09-30
[records]
file = "invoices.csv"
key = "Invoice"
repeats = "first"
[records.dates]
Issued = "day/month/year"
[records.amounts]
Amount = { decimals = 2 }
[[column]]
name = "Days"
between = ["Issued", "as-of"]
count = "working days"
calendar = "office"
[calendar.office]
holidays = ["england-wales"]
[[column]]
name = "Band"
bucket = "Days"
edges = [0, 30, 60]
[[report]]
kind = "aging"
band = "Band"
amount = "Amount"
by = "Customer"
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// Invoices of which some stand twice, far apart.
fn many_invoices() -> String {
    let mut text = String::from("Invoice,Customer,Issued,Amount,Remark\n");
    let remark = "spare line, ".repeat(30);
    for row in 0..150_000_u32 {
        let key = if row % 1000 == 999 { row - 500 } else { row };
        let (day, month, cents) = (row % 28 + 1, row % 9 + 1, row % 100);
        let _ = writeln!(
            text,
            "QB-{key},Customer {},{day:02}/{month:02}/2026,{}.{cents:02},\"{remark}\"",
            row % 40,
            row % 5000
        );
    }
    text
}

#[test]
fn an_executor_that_is_killed_leaves_nothing_half_done() {
    let mut cluster = Cluster::of(2);
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("plan.toml"), LARGE).unwrap();
    fs::write(folder.path().join("invoices.csv"), many_invoices()).unwrap();
    let plan = Plan::read(&folder.path().join("plan.toml")).unwrap();
    let outcome = as_a_whole(&plan, &request(), &drawn).unwrap();
    let expected = whole(folder.path(), "plan.toml");
    let began = Instant::now();
    let run = cluster.begin_run(folder.path(), "plan.toml");
    std::thread::sleep(Duration::from_millis(700));
    cluster.executors[0].kill().unwrap();
    let output = run.wait_with_output().unwrap();
    assert!(began.elapsed() < Duration::from_secs(180), "{:?}", began.elapsed());
    let rows = folder.path().join("rows.csv");
    if output.status.success() {
        let found = left_of(&String::from_utf8(output.stdout).unwrap(), &outcome, &rows_in(&rows));
        left::same(&lines(&found), &lines(&expected), "with an executor less");
    } else {
        let said = String::from_utf8_lossy(&output.stderr).into_owned();
        assert!(said.contains("error: "), "{said}");
        assert!(!rows.exists(), "{said}");
    }
    let left: Vec<_> = fs::read_dir(folder.path()).unwrap().map(|entry| entry.unwrap().file_name()).collect();
    assert!(left.iter().all(|name| !name.to_string_lossy().starts_with(".mild-run")), "{left:?}");
}

#[test]
fn a_scheduler_that_is_not_there_is_told_soon() {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("plan.toml"), LARGE).unwrap();
    fs::write(folder.path().join("invoices.csv"), "Invoice,Customer,Issued,Amount\n").unwrap();
    let began = Instant::now();
    let nobody = format!("127.0.0.1:{}", free_port());
    let output = Command::new(COMMAND)
        .args(["run", "plan.toml", "--cluster", &nobody])
        .current_dir(folder.path())
        .output()
        .unwrap();
    assert!(began.elapsed() < Duration::from_secs(10));
    assert_eq!(output.status.code(), Some(2));
    let said = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(said.contains(&format!("no scheduler answers at {nobody}")), "{said}");
    assert!(said.contains("help: "), "{said}");
}

#[test]
fn what_is_not_done_in_parts_is_refused_with_its_line() {
    let folder = tempfile::tempdir().unwrap();
    let refused = |plan: &str| {
        fs::write(folder.path().join("plan.toml"), plan).unwrap();
        let output =
            Command::new(COMMAND).args(["run", "plan.toml"]).current_dir(folder.path()).output().unwrap();
        assert_eq!(output.status.code(), Some(2));
        String::from_utf8(output.stderr).unwrap()
    };
    // The records are not there: the plan is refused before they would be missed.
    let said = refused(&LARGE.replace("rows.csv", "rows.xlsx"));
    assert!(said.contains("28 | rows = \"rows.xlsx\"") && said.contains("is not written in parts"), "{said}");
    let said = refused(&LARGE.replace("invoices.csv", "invoices.sqlite"));
    assert!(
        said.contains("4 | file = \"invoices.sqlite\"") && said.contains("is not read in parts"),
        "{said}"
    );
    let said = refused(&LARGE.replace("as_of = 2026-09-30", "as_of = \"today\""));
    assert!(said.contains("--as-of 2026-09-30"), "{said}");
}
