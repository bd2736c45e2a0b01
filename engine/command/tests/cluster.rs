//! A cluster on this machine: a scheduler and two executors, each a process of its own.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use mild_ledger_records::{Plan, RunOutcome};
use mild_ledger_report::drawn;
use std::fmt::Write as _;
use std::fs;
use std::path::Path;
use std::process::Command;
use std::time::{Duration, Instant};
use support::cluster::{COMMAND, Cluster, free_port};
use support::left::{self, as_a_whole, request};
use support::random_plans::random_plan;
use support::runs::{Left, left_of, lines, rows_in, whole};

/// What a run of the cluster leaves, where one of one process left that.
fn on_the_cluster(
    cluster: &Cluster,
    folder: &Path,
    (plan, cut): (&str, (usize, usize)),
    outcome: &RunOutcome,
) -> Left {
    let output = cluster.run(folder, plan, cut);
    let said = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(output.status.success(), "{said}");
    left_of(&String::from_utf8(output.stdout).unwrap(), outcome, &rows_in(&outcome.outputs[0].path))
}

/// Partitions of a run, and bytes of its pieces.
const CUTS: [(usize, usize); 3] = [(1, 8 << 20), (2, 700), (7, 60)];

fn same(folder: &Path, plan: &str, cluster: &Cluster) {
    let read = Plan::read(&folder.join(plan)).unwrap();
    let Ok(outcome) = as_a_whole(&read, &request(), &drawn) else {
        let output = cluster.run(folder, plan, CUTS[1]);
        assert!(!output.status.success());
        return;
    };
    let expected = whole(folder, plan);
    for cut in CUTS {
        let found = on_the_cluster(cluster, folder, (plan, cut), &outcome);
        left::same(&lines(&found), &lines(&expected), &format!("{plan}, {cut:?}"));
    }
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
    for seed in 3000..3012 {
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
duplicates = "first"
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

/// Invoices of which some occur twice, far apart.
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
    let run = cluster.begin_run(folder.path(), "plan.toml", (6, 8 << 20));
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

/// An executor sees other bytes under the same path, such as a mirror that is not up to date.
#[test]
fn an_executor_that_sees_another_file_ends_the_run_with_an_error() {
    let (folder, other) = (tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap());
    let files = ["plan.toml", "invoices.csv", "regions.csv", "yard-holidays.toml"];
    let plan = LARGE.replace("[\"england-wales\"]", "[\"yard-holidays.toml\"]").replace(
        "[[column]]\nname = \"Days\"",
        "[[join]]\nfile = \"regions.csv\"\nmatch = { Customer = \"Name\" }\ncolumns = [\"Region\"]\n[[column]]\nname = \"Days\"",
    );
    let regions = "Name,Region\nCustomer 1,North\nCustomer 2,South\n";
    let calendar = "calendar = 1\nname = \"Yard\"\ncovers = \"2025 to 2027\"\n\
        [[holiday]]\nname = \"Launch Day\"\ndate = 2026-05-04\n";
    let texts = [
        plan,
        many_invoices()[..200_000].rsplit_once('\n').unwrap().0.to_owned() + "\n",
        regions.to_owned(),
        calendar.to_owned(),
    ];
    for place in [&folder, &other] {
        for (name, text) in files.iter().zip(&texts) {
            fs::write(place.path().join(name), text).unwrap();
        }
    }
    let mut cluster = Cluster::of(0);
    if !cluster.add_executor_that_sees(other.path(), folder.path()) {
        return;
    }
    // The same bytes under another mount are the same file, whatever their times are.
    let plan = Plan::read(&folder.path().join("plan.toml")).unwrap();
    let outcome = as_a_whole(&plan, &request(), &drawn).unwrap();
    whole(folder.path(), "plan.toml");
    for (nth, name) in files.iter().enumerate().skip(1) {
        let changed =
            texts[nth].replace("QB-17,", "QB-71,").replace("South", "North").replace("05-04", "05-05");
        assert_ne!(changed, texts[nth]);
        fs::write(other.path().join(name), changed).unwrap();
        let output = cluster.run(folder.path(), "plan.toml", (2, 50_000));
        let said = String::from_utf8_lossy(&output.stderr).into_owned();
        assert!(!output.status.success(), "{name}: {said}");
        assert!(said.contains(name) && said.contains("not the file that the run hashed"), "{name}: {said}");
        // One error in words, with the executor that met it.
        assert!(said.contains("met by the executor 127.0.0.1:"), "{said}");
        assert_eq!(said.matches("not the file that the run hashed").count(), 1, "{said}");
        assert!(!said.contains("DataFusionError") && !said.contains("mild run"), "{said}");
        assert!(!outcome.outputs[0].path.exists());
        fs::write(other.path().join(name), &texts[nth]).unwrap();
    }
}

#[test]
fn a_run_whose_process_is_killed_is_given_up_and_cleared_away() {
    let cluster = Cluster::of(2);
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("plan.toml"), LARGE).unwrap();
    fs::write(folder.path().join("invoices.csv"), many_invoices()).unwrap();
    let hidden = || {
        let entries = fs::read_dir(folder.path()).unwrap();
        entries
            .filter(|entry| entry.as_ref().unwrap().file_name().to_string_lossy().starts_with(".mild-run"))
            .count()
    };
    let mut command = cluster.run_command(folder.path(), "plan.toml", (16, 200_000));
    let mut run = command.args(["--gone-after", "2"]).spawn().unwrap();
    // It is killed while executors work on its pieces: their files are in its folder.
    let began = Instant::now();
    let is_worked_on = || {
        let within =
            |path: &Path| fs::read_dir(path).into_iter().flatten().map(|entry| entry.unwrap().path());
        let mut folders = within(folder.path()).filter(|path| path.to_string_lossy().contains(".mild-run"));
        folders.any(|hidden| within(&hidden).any(|rows| within(&rows).next().is_some()))
    };
    while !is_worked_on() {
        assert!(began.elapsed() < Duration::from_secs(60), "no executor begins");
        std::thread::sleep(Duration::from_millis(20));
    }
    run.kill().unwrap();
    run.wait().unwrap();
    assert_eq!(hidden(), 1);
    let killed = Instant::now();
    while hidden() > 0 {
        assert!(killed.elapsed() < Duration::from_secs(30), "its folder stays");
        std::thread::sleep(Duration::from_millis(100));
    }
    assert!(killed.elapsed() > Duration::from_secs(1), "{:?}", killed.elapsed());
    // The cluster works for the next run.
    let output = cluster.run(folder.path(), "plan.toml", (6, 8 << 20));
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
}

/// How a process ends, which it must do within a minute.
fn end_of(process: &mut std::process::Child) -> std::process::ExitStatus {
    let began = Instant::now();
    loop {
        if let Some(ended) = process.try_wait().unwrap() {
            return ended;
        }
        assert!(began.elapsed() < Duration::from_secs(60), "the process does not end");
        std::thread::sleep(Duration::from_millis(50));
    }
}

/// Sends a signal to a process, by its name.
fn send(signal: &str, process: &std::process::Child) {
    let sent = Command::new("kill").args([&format!("-{signal}"), &process.id().to_string()]).status();
    assert!(sent.unwrap().success());
}

#[test]
fn an_executor_that_lost_its_place_ends_with_an_error_and_one_that_is_stopped_does_not() {
    let mut cluster = Cluster::of(2);
    std::thread::sleep(Duration::from_secs(3));
    for executor in 0..2 {
        use std::os::unix::fs::PermissionsExt;
        let folders = cluster.results_of(executor);
        let modes: Vec<u32> =
            folders.iter().map(|folder| fs::metadata(folder).unwrap().permissions().mode() & 0o777).collect();
        assert_eq!(modes, [0o700], "{folders:?}");
    }
    send("STOP", &cluster.executors[0]);
    send("TERM", &cluster.executors[1]);
    assert!(end_of(&mut cluster.executors[1]).success());
    // The scheduler looks every 2 seconds for executors that were silent for 6.
    std::thread::sleep(Duration::from_secs(14));
    send("CONT", &cluster.executors[0]);
    let ended = end_of(&mut cluster.executors[0]);
    (0..2).for_each(|executor| assert_eq!(cluster.results_of(executor), Vec::<std::path::PathBuf>::new()));
    let said = cluster.said_by(0);
    assert_eq!(ended.code(), Some(2), "{said}");
    assert!(said.contains("counted this executor as gone") && said.contains("Restart=always"), "{said}");
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
    assert!(
        said.contains("line 28: the format workbook")
            && said.contains("rows = \"rows.xlsx\"")
            && said.contains("is not written in parts"),
        "{said}"
    );
    let said = refused(&LARGE.replace("invoices.csv", "invoices.sqlite"));
    assert!(
        said.contains("line 4: ")
            && said.contains("file = \"invoices.sqlite\"")
            && said.contains("is not read in parts"),
        "{said}"
    );
    let said = refused(&LARGE.replace("as_of = 2026-09-30", "as_of = \"today\""));
    assert!(said.contains("--as-of 2026-09-30"), "{said}");
}
