//! Outputs appear all or not at all, and nothing of another user's is overwritten.

#![cfg(unix)]
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use std::fs;
use std::io::Read;
use std::os::unix::fs::{MetadataExt, PermissionsExt};
use std::os::unix::process::CommandExt;
use std::process::{Command, Stdio};
use std::time::Duration;
use support::{Answer, Desk, PLAN, RECORDS};

const OUTPUTS: [&str; 3] = ["rows.csv", "exceptions.csv", "plan.receipt.toml"];

/// The contents of all files, to see that none changed.
fn contents(desk: &Desk) -> Vec<(String, Vec<u8>)> {
    desk.files()
        .into_iter()
        .map(|name| (name.clone(), fs::read(desk.path(&name)).unwrap_or_default()))
        .collect()
}

/// Many rows, so that a run takes a while and writes more than any buffer holds.
fn many_records(count: usize) -> String {
    let mut records = String::from("Invoice,Customer,Issued,Paid,Amount\n");
    for nth in 0..count {
        records.push_str(&format!(
            "A{nth},Heron Charters,{:02}/{:02}/2026,,{}.25\n",
            nth % 28 + 1,
            nth % 9 + 1,
            nth % 997
        ));
    }
    records
}

#[test]
fn a_run_leaves_three_files_and_can_be_repeated() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    assert_eq!(desk.files(), ["exceptions.csv", "plan.receipt.toml", "plan.toml", "records.csv", "rows.csv"]);
    let first = contents(&desk);
    assert_snapshot!(desk.read("plan.receipt.toml"));
    assert_eq!(desk.run_plan().code, 0);
    assert_eq!(contents(&desk), first, "the same records give the same bytes");
}

#[test]
fn files_that_are_not_this_plans_stay() {
    let desk = Desk::with_records(RECORDS);
    desk.write("rows.csv", "mine\n");
    let before = contents(&desk);
    let answer = desk.run_plan();
    assert_eq!((answer.code, contents(&desk) == before), (3, true));
    assert_snapshot!(answer.err.replace(desk.folder().canonicalize().unwrap().to_str().unwrap(), "FOLDER"), @"error: FOLDER/rows.csv would be overwritten and was not written by an earlier run of this plan; move it away, or overwrite it with --overwrite");
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite"]).code, 0);
    assert_ne!(desk.read("rows.csv"), "mine\n");
}

#[test]
fn an_output_changed_by_hand_stays() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    desk.write("rows.csv", desk.read("rows.csv") + "note to self\n");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 3);
    assert!(answer.err.contains("was changed after this plan wrote it"), "{}", answer.err);
    assert!(desk.read("rows.csv").ends_with("note to self\n"));
}

#[test]
fn an_unchanged_output_of_another_as_of_date_is_replaced() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    let answer = desk.mild(&["run", "plan.toml", "--as-of", "2026-10-01"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    let receipt = desk.read("plan.receipt.toml");
    assert!(receipt.contains("as_of = \"2026-10-01\"") && !receipt.contains("as_of = \"2026-09-30\""));
    // What a user changed stays, whatever the date.
    desk.write("rows.csv", desk.read("rows.csv") + "note to self\n");
    let answer = desk.mild(&["run", "plan.toml", "--as-of", "2026-10-02"]);
    assert_eq!(answer.code, 3);
    assert!(answer.err.contains("was changed after this plan wrote it"), "{}", answer.err);
}

/// A run that is killed before it marks its hidden folder leaves an empty one.
#[test]
fn an_empty_folder_of_a_killed_run_is_cleared_away_and_no_other() {
    let desk = Desk::with_records(RECORDS);
    let written = fs::metadata(desk.path("plan.toml")).unwrap().modified().unwrap();
    let two_hours_ago = written - Duration::from_secs(7_200);
    for name in [".mild-run-empty", ".mild-run-full", ".mild-run-new"] {
        let folder = desk.path(name);
        fs::create_dir(&folder).unwrap();
        if name == ".mild-run-full" {
            fs::write(folder.join("mine"), "mine").unwrap();
        }
        if name != ".mild-run-new" {
            fs::File::open(&folder).unwrap().set_modified(two_hours_ago).unwrap();
        }
    }
    assert_eq!(desk.run_plan().code, 0);
    let left = |name: &str| desk.path(name).exists();
    assert_eq!(
        [".mild-run-empty", ".mild-run-full", ".mild-run-new"].map(left),
        [false, true, true],
        "{:?}",
        desk.files()
    );
}

/// A plan that keeps one file a day and replaces another goes on to know all of them.
#[test]
fn files_of_each_day_are_known_though_one_is_replaced_daily() {
    let desk = Desk::with_plan("exceptions = \"exceptions.csv\"", "exceptions = \"exceptions-{as_of}.csv\"");
    for as_of in ["2026-09-29", "2026-09-30", "2026-09-29"] {
        let answer = desk.mild(&["run", "plan.toml", "--as-of", as_of]);
        assert_eq!(answer.code, 0, "{}", answer.err);
    }
    let verified = desk.mild(&["verify", "plan.receipt.toml"]);
    assert_eq!(verified.code, 0, "{}{}", verified.out, verified.err);
}

#[test]
fn the_receipt_keeps_a_run_for_each_as_of_date() {
    let desk = Desk::with_plan(
        "rows       = \"rows.csv\"\nexceptions = \"exceptions.csv\"",
        "rows       = \"rows-{as_of}.csv\"\nexceptions = \"exceptions-{as_of}.csv\"",
    );
    for as_of in ["2026-09-30", "2026-08-31", "2026-09-30"] {
        let answer = desk.mild(&["run", "plan.toml", "--as-of", as_of]);
        assert_eq!(answer.code, 0, "{}", answer.err);
    }
    let receipt = desk.read("plan.receipt.toml");
    let dates: Vec<&str> = receipt.lines().filter(|line| line.starts_with("as_of")).collect();
    assert_eq!(dates, ["as_of = \"2026-08-31\"", "as_of = \"2026-09-30\""]);
}

#[test]
fn a_receipt_that_is_none_stays() {
    let desk = Desk::with_records(RECORDS);
    desk.write("plan.receipt.toml", "dear diary");
    let answer = desk.run_plan();
    assert_eq!((answer.code, desk.read("plan.receipt.toml").as_str()), (3, "dear diary"));
    assert!(answer.err.contains("is not a receipt of an earlier run"), "{}", answer.err);
}

#[test]
fn outputs_that_cannot_be_written() {
    let desk = Desk::with_plan("rows       = \"rows.csv\"", "rows       = \"nowhere/rows.csv\"");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 3);
    assert_snapshot!(answer.err, @"error: nowhere/rows.csv: could not write it: there is no such file or folder");
    let desk = Desk::with_records(RECORDS);
    fs::create_dir(desk.path("exceptions.csv")).unwrap();
    let answer = desk.run_plan();
    assert_eq!(answer.code, 3);
    assert!(answer.err.contains("exceptions.csv: could not write it: it is a folder"), "{}", answer.err);
    assert_eq!(desk.files(), ["exceptions.csv", "plan.toml", "records.csv"]);
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    fs::set_permissions(desk.path("rows.csv"), fs::Permissions::from_mode(0o444)).unwrap();
    let answer = desk.run_plan();
    assert_eq!(answer.code, 3);
    assert!(answer.err.contains("read-only"), "{}", answer.err);
}

/// As another user where the tests run as root, who may do everything; as the same user elsewhere.
fn as_nobody(desk: &Desk) -> Answer {
    as_nobody_with(desk, &[])
}

fn as_nobody_with(desk: &Desk, more: &[&str]) -> Answer {
    let mut command = desk.command(&["run", "plan.toml"]);
    if fs::metadata("/proc/self").map_or(1, |facts| facts.uid()) == 0 {
        // The program itself has to be reachable for that user.
        let program = desk.path("mild-for-nobody");
        fs::copy(env!("CARGO_BIN_EXE_mild"), &program).unwrap();
        fs::set_permissions(&program, fs::Permissions::from_mode(0o755)).unwrap();
        command = Command::new(program);
        command.args(["run", "plan.toml"]).current_dir(desk.folder()).uid(65_534).gid(65_534);
    }
    command.args(more);
    Answer::of(command.output().unwrap())
}

/// The folder of the plan may not be written to, and the outputs go to others.
#[test]
fn a_receipt_goes_where_the_plan_or_the_caller_says() {
    let desk = Desk::with_records(RECORDS);
    let mode =
        |name: &str, mode| fs::set_permissions(desk.path(name), fs::Permissions::from_mode(mode)).unwrap();
    for folder in ["rows", "receipts"] {
        fs::create_dir(desk.path(folder)).unwrap();
        mode(folder, 0o777);
    }
    let outputs = [("rows.csv", "rows/rows.csv"), ("exceptions.csv", "rows/exceptions.csv")];
    let plan = outputs.iter().fold(desk.read("plan.toml"), |plan, (from, to)| plan.replace(from, to));
    let plan = plan.replace("[output]\n", "[output]\nreceipt = \"receipts/september.toml\"\n");
    assert!(plan.contains("receipts/september.toml"), "{plan}");
    desk.write("plan.toml", &plan);
    assert_eq!(as_nobody(&desk).code, 0); // the program is copied before the folder is closed
    mode("", 0o555);
    let answer = as_nobody(&desk);
    mode("", 0o755);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(fs::read_dir(desk.path("rows")).unwrap().count(), 2);
    let verified = desk.mild(&["verify", "receipts/september.toml"]);
    assert_eq!(verified.code, 0, "{}{}", verified.out, verified.err);
    // A changed output is noticed by way of that receipt, and stays.
    let rows = desk.read("rows/rows.csv");
    desk.write("rows/rows.csv", rows.replace("Heron", "Tern"));
    assert_eq!(desk.mild(&["verify", "receipts/september.toml"]).code, 4);
    assert!(desk.run_plan().err.contains("was changed after this plan wrote it"));
    desk.write("rows/rows.csv", rows);
    // The option goes before the plan; with rows on standard output the receipt is the one file.
    mode("receipts", 0o777);
    let elsewhere = desk.path("receipts/other.toml");
    let answer = as_nobody_with(&desk, &["--stdout", "--receipt", elsewhere.to_str().unwrap()]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.out.starts_with("Invoice,"), "{}", answer.out);
    let receipt = desk.read("receipts/other.toml");
    assert!(receipt.contains("file = \"standard output\""), "{receipt}");
    assert_eq!(receipt.matches("[[run.output]]").count(), 1, "{receipt}");
    let refused = desk.mild(&["run", "plan.toml", "--receipt", "nowhere/september.toml"]);
    assert_eq!(refused.code, 3);
    assert!(refused.err.contains("nowhere/september.toml: could not write it"), "{}", refused.err);
    desk.write("plan.toml", plan.replace("september.toml", "{as_of}.toml"));
    let refused = desk.mild(&["check", "plan.toml"]);
    assert!(refused.err.contains("one receipt holds the runs of all as-of dates"), "{}", refused.err);
}

#[test]
fn without_permission() {
    let desk = Desk::with_records(RECORDS);
    let mode =
        |name: &str, mode| fs::set_permissions(desk.path(name), fs::Permissions::from_mode(mode)).unwrap();
    fs::set_permissions(desk.folder(), fs::Permissions::from_mode(0o755)).unwrap();
    mode("records.csv", 0o000);
    let answer = as_nobody(&desk);
    assert_eq!(answer.code, 3);
    assert_eq!(answer.err, "error: records.csv: could not open it: permission denied\n");
    mode("records.csv", 0o644);
    mode("plan.toml", 0o000);
    assert_eq!(as_nobody(&desk).err, "error: plan.toml: could not read it: permission denied\n");
    mode("plan.toml", 0o644);
    fs::set_permissions(desk.folder(), fs::Permissions::from_mode(0o555)).unwrap();
    let answer = as_nobody(&desk);
    assert_eq!(answer.code, 3);
    assert!(answer.err.contains("could not write it: permission denied"), "{}", answer.err);
    fs::set_permissions(desk.folder(), fs::Permissions::from_mode(0o755)).unwrap();
    assert!(OUTPUTS.iter().all(|name| !desk.path(name).exists()));
}

#[test]
fn where_files_may_not_grow() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    desk.write("records.csv", many_records(20_000));
    let before = contents(&desk);
    let script = format!("ulimit -f 64; exec '{}' run plan.toml", env!("CARGO_BIN_EXE_mild"));
    let answer =
        Answer::of(Command::new("sh").args(["-c", &script]).current_dir(desk.folder()).output().unwrap());
    assert_eq!(answer.code, 3, "{}", answer.err);
    assert!(
        answer.err.contains("rows.csv: could not write it: the file would be larger than is allowed here"),
        "{}",
        answer.err
    );
    assert_eq!(contents(&desk), before, "the old outputs are still there, and nothing else");
}

#[test]
fn on_a_full_disk() {
    let desk = Desk::new();
    // A disk of 256 KiB needs the right to mount; a user's own namespace gives it where that is allowed.
    let script = format!(
        "mount -t tmpfs -o size=256k none '{0}' && cd '{0}' && cat > plan.toml && \
         printf 'Invoice,Customer,Issued,Paid,Amount\\nA1,x,30/09/2026,,1.00\\n' > records.csv && \
         '{1}' run plan.toml > /dev/null && sha256sum rows.csv exceptions.csv plan.receipt.toml > before && \
         i=0; while [ $i -lt 4000 ]; do echo \"B$i,Heron Charters and family,30/09/2026,,1.00\"; i=$((i+1)); done >> records.csv; \
         '{1}' run plan.toml; echo \"exit $?\"; sha256sum -c --quiet before && ls -A",
        desk.folder().display(),
        env!("CARGO_BIN_EXE_mild"),
    );
    let mut child = Command::new("unshare")
        .args(["-rm", "sh", "-c", &script])
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    std::io::Write::write_all(&mut child.stdin.take().unwrap(), PLAN.as_bytes()).unwrap();
    let output = child.wait_with_output().unwrap();
    let (out, err) = (String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr));
    if err.contains("unshare:") || err.contains("mount:") {
        eprintln!("no disk can be mounted here, so only the limit on a file's size was tried: {err}");
        return;
    }
    assert!(err.contains("could not write it: the disk is full"), "{out}{err}");
    assert_eq!(
        out, "exit 3\nbefore\nexceptions.csv\nplan.receipt.toml\nplan.toml\nrecords.csv\nrows.csv\n",
        "{err}"
    );
}

/// The hidden folder of a run, whose name no one can foresee.
fn is_workshop(name: &std::ffi::OsStr) -> bool {
    name.to_str().is_some_and(|name| name.starts_with(".mild-run-"))
}

/// Starts a run over many records and waits until it writes.
fn start_long_run(desk: &Desk) -> std::process::Child {
    let mut child = desk
        .command(&["run", "plan.toml"])
        .stdin(Stdio::null())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    let is_writing = |folder: &std::path::Path| {
        let mut files = fs::read_dir(folder).into_iter().flatten().flatten();
        let part = |file: fs::DirEntry| {
            file.file_name() == "new-0" && file.metadata().is_ok_and(|facts| facts.len() > 0)
        };
        files.any(part)
    };
    for _ in 0..2000 {
        let inside = fs::read_dir(desk.folder()).unwrap().flatten();
        if inside.filter(|entry| is_workshop(&entry.file_name())).any(|entry| is_writing(&entry.path())) {
            return child;
        }
        std::thread::sleep(Duration::from_millis(1));
    }
    let _ = child.kill();
    let ended = child.wait();
    unreachable!("the run did not begin to write: {ended:?}");
}

#[test]
fn an_interrupt_keeps_the_old_outputs() {
    for signal in ["INT", "TERM"] {
        let desk = Desk::with_records(RECORDS);
        assert_eq!(desk.run_plan().code, 0);
        desk.write("records.csv", many_records(400_000));
        let before = contents(&desk);
        let child = start_long_run(&desk);
        // Whoever is in a hurry sends it twice.
        let kill = || Command::new("kill").args([format!("-{signal}"), child.id().to_string()]).status();
        assert!(kill().unwrap().success());
        let _ = kill();
        let answer = Answer::of(child.wait_with_output().unwrap());
        assert_eq!(answer.code, 130, "{}", answer.err);
        assert_eq!(
            (answer.out.as_str(), answer.err.as_str()),
            ("", "error: interrupted; nothing was written\n")
        );
        assert!(contents(&desk) == before, "the old outputs are still there, and nothing else");
    }
}

#[test]
fn a_kill_at_any_moment_leaves_whole_files() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    let old: Vec<Vec<u8>> = OUTPUTS.iter().map(|name| fs::read(desk.path(name)).unwrap()).collect();
    let many = many_records(30_000);
    desk.write("records.csv", &many);
    assert_eq!(desk.run_plan().code, 0);
    let new: Vec<Vec<u8>> = OUTPUTS.iter().map(|name| fs::read(desk.path(name)).unwrap()).collect();
    for nth in 0..40 {
        desk.write("records.csv", RECORDS);
        assert_eq!(desk.run_plan().code, 0, "the run before number {nth} recovers");
        desk.write("records.csv", &many);
        let mut child =
            desk.command(&["run", "plan.toml"]).stdout(Stdio::null()).stderr(Stdio::null()).spawn().unwrap();
        std::thread::sleep(Duration::from_millis(nth * 6));
        let _ = child.kill();
        child.wait().unwrap();
        for (name, (old, new)) in OUTPUTS.iter().zip(old.iter().zip(&new)) {
            let found = fs::read(desk.path(name)).unwrap();
            assert!(found == *old || found == *new, "{name} is whole after kill number {nth}");
        }
    }
}

#[test]
fn files_left_by_a_run_killed_among_its_renames_are_known() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    let earlier_receipt = desk.read("plan.receipt.toml");
    desk.write("records.csv", "Invoice,Customer,Issued,Paid,Amount\nB1,x,30/09/2026,,1.00\n");
    assert_eq!(desk.run_plan().code, 0);
    // As if the kill had come before the last rename: new outputs, old receipt, new receipt in its part file.
    fs::create_dir(desk.path(".mild-run-abc")).unwrap();
    desk.write(".mild-run-abc/unfinished-outputs-of", "plan.receipt.toml\n");
    fs::rename(desk.path("plan.receipt.toml"), desk.path(".mild-run-abc/receipt.toml")).unwrap();
    desk.write("plan.receipt.toml", earlier_receipt);
    // A run that fails in between does not forget it.
    assert_eq!(desk.mild(&["run", "plan.toml", "--records", "nowhere.csv"]).code, 3);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(!desk.path(".mild-run-abc").exists());
}

#[test]
fn two_runs_of_a_plan_at_once_do_not_mix() {
    let desk = Desk::with_records(many_records(400_000));
    let first = start_long_run(&desk);
    let second = desk.run_plan();
    assert_eq!(second.code, 2);
    assert!(second.err.contains("another run of this plan is writing"), "{}", second.err);
    let first = Answer::of(first.wait_with_output().unwrap());
    assert_eq!(first.code, 0, "{}", first.err);
}

#[test]
fn a_closed_pipe_ends_quietly() {
    let desk = Desk::with_records(RECORDS);
    for arguments in [["run", "plan.toml"].as_slice(), &["between", "2019-11-30", "2022-01-02"]] {
        let mut child =
            desk.command(arguments).stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().unwrap();
        drop(child.stdout.take());
        let mut err = String::new();
        child.stderr.take().unwrap().read_to_string(&mut err).unwrap();
        assert_eq!((child.wait().unwrap().code(), err.as_str()), (Some(0), ""));
    }
}

#[test]
fn a_link_to_an_output_stays_a_link() {
    let desk = Desk::with_records(RECORDS);
    fs::create_dir(desk.path("share")).unwrap();
    desk.write("share/rows.csv", "old\n");
    std::os::unix::fs::symlink("share/rows.csv", desk.path("rows.csv")).unwrap();
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite"]).code, 0);
    assert!(fs::symlink_metadata(desk.path("rows.csv")).unwrap().is_symlink());
    assert!(desk.read("share/rows.csv").starts_with("Invoice,"));
}

#[test]
fn what_stands_under_a_name_of_ours_is_never_written_through_nor_cleared_away() {
    let desk = Desk::with_records(RECORDS);
    desk.write("precious", "keep me\n");
    // Links and folders under the names that such files had, or might have, and a record file named like one.
    for name in [".plan.receipt.toml.mild-part", ".rows.csv.mild-part", ".mild-run-link"] {
        std::os::unix::fs::symlink("precious", desk.path(name)).unwrap();
    }
    fs::create_dir(desk.path(".mild-run-mine")).unwrap();
    desk.write(".mild-run-mine/notes.txt", "mine\n");
    assert_eq!(desk.run_plan().code, 0);
    assert_eq!(desk.read("precious"), "keep me\n");
    assert_eq!(desk.read(".mild-run-mine/notes.txt"), "mine\n");
    assert_eq!(desk.read("rows.csv").lines().count(), 5);
    let mut desk = desk;
    desk = {
        let plan = desk.read("plan.toml").replace("records.csv", ".rows.csv.mild-part");
        fs::remove_file(desk.path(".rows.csv.mild-part")).unwrap();
        desk.write(".rows.csv.mild-part", RECORDS);
        desk.write("plan.toml", plan);
        desk
    };
    assert_eq!(desk.run_plan().code, 0);
    assert_eq!(desk.read(".rows.csv.mild-part"), RECORDS);
}

#[test]
fn files_that_never_end_are_told_before_they_are_opened() {
    let desk = Desk::with_records(RECORDS);
    assert!(Command::new("mkfifo").arg(desk.path("pipe")).status().unwrap().success());
    for name in ["plan.toml", "rows.csv", "plan.receipt.toml"] {
        let desk = Desk::with_records(RECORDS);
        let _ = fs::remove_file(desk.path(name));
        assert!(Command::new("mkfifo").arg(desk.path(name)).status().unwrap().success());
        let answer = desk.run_plan();
        let said = ["a pipe or a device", "a device or a pipe"];
        assert!(
            answer.code == 3 && said.iter().any(|said| answer.err.contains(said)),
            "{name}: {}",
            answer.err
        );
    }
    let answer = desk.mild(&["calendar", "/dev/zero", "2026"]);
    assert_eq!(answer.code, 2, "{}", answer.err);
    std::os::unix::fs::symlink("/dev/zero", desk.path("zero.toml")).unwrap();
    let answer = desk.mild(&["calendar", "zero.toml", "2026"]);
    assert!(answer.code == 3 && answer.err.contains("a pipe or a device"), "{}", answer.err);
}

#[test]
fn the_receipt_says_which_calendars_were_counted_by_and_which_plan_wrote() {
    let desk = Desk::with_plan(
        "[[report]]",
        "[calendar.yard]\nholidays = [\"yard.toml\"]\n\n[[column]]\nname = \"Worked\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"working days\"\ncalendar = \"yard\"\n\n[[report]]",
    );
    desk.write("yard.toml", "calendar = 1\nname = \"Yard\"\ncovers = \"2026\"\n[[holiday]]\nname = \"Slip repair\"\ndate = 2026-09-07\n");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let receipt = desk.read("plan.receipt.toml");
    for said in ["yard", "2026", "yard.toml", "hash = \"blake3:"] {
        assert!(receipt.contains(said), "{said}: {receipt}");
    }
    assert!(!receipt.contains("no holidays counted"), "{receipt}");
    // A plan of another name over the same outputs is not the one that wrote them.
    desk.write("other.toml", desk.read("plan.toml"));
    let answer = desk.mild(&["run", "other.toml"]);
    assert_eq!(answer.code, 3, "{}", answer.err);
    assert!(answer.err.contains("would be overwritten"), "{}", answer.err);
    // Nor may an output be a calendar that it counts by.
    desk.write("plan.toml", desk.read("plan.toml").replace("\"rows.csv\"", "\"yard.toml\""));
    let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert_eq!(answer.code, 2, "{}", answer.err);
    assert!(desk.read("yard.toml").contains("Slip repair"));
}

/// A plan whose policy names another hash.
fn with_sha_256(desk: &Desk) {
    let plan = desk.read("plan.toml").replace("[output]", "[output]\nfingerprint = \"sha-256\"");
    desk.write("plan.toml", plan);
}

#[test]
fn outputs_are_known_by_either_hash() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    let plan = desk.read("plan.toml");
    for turn in 0..2 {
        if turn == 0 {
            with_sha_256(&desk)
        } else {
            desk.write("plan.toml", &plan)
        }
        let answer = desk.run_plan();
        assert_eq!(answer.code, 0, "{}", answer.err);
        let receipt = desk.read("plan.receipt.toml");
        let (one, other) = if turn == 0 { ("sha-256:", "blake3:") } else { ("blake3:", "sha-256:") };
        // Two files read, and two written.
        assert_eq!((receipt.matches(one).count(), receipt.matches(other).count()), (4, 0), "{receipt}");
    }
    desk.write("rows.csv", desk.read("rows.csv").replace("50.25", "50.26"));
    assert!(desk.run_plan().err.contains("was changed after this plan wrote it"));
}

#[test]
fn a_receipt_of_version_1_is_read() {
    let desk = Desk::with_records(RECORDS);
    let plan = desk.read("plan.toml");
    with_sha_256(&desk);
    assert_eq!(desk.run_plan().code, 0);
    let written = desk.read("plan.receipt.toml");
    let earlier: Vec<String> = written
        .lines()
        .filter(|line| !line.starts_with("plan =") && !line.starts_with("kind ="))
        .map(|line| line.replace("receipt = 2", "receipt = 1").replace("hash = \"sha-256:", "sha256 = \""))
        .collect();
    desk.write("plan.receipt.toml", earlier.join("\n"));
    desk.write("plan.toml", plan);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(desk.read("plan.receipt.toml").contains("receipt = 2\nplan = \"plan.toml\""));
    // The one of a file changed by hand is as before.
    desk.write("plan.receipt.toml", earlier.join("\n"));
    desk.write("rows.csv", desk.read("rows.csv").replace("50.25", "50.26"));
    assert!(desk.run_plan().err.contains("was changed after this plan wrote it"));
}
