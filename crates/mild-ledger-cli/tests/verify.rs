//! `mild verify`: the files of a receipt, read again.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::{Value, json};
use std::fs;
use support::{Desk, RECORDS};

fn desk() -> Desk {
    let desk = Desk::with_plan(
        "[[column]]",
        "[calendar.yard]\ncovers = \"2025 to 2027\"\nholidays = [\"closed.txt\"]\n\n[[column]]\nname = \"Working\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"working days\"\n\n[[column]]",
    );
    desk.write("records.csv", RECORDS);
    desk.write("closed.txt", "2025-12-25\n2026-12-25\n2027-12-25\n");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    desk
}

/// What each file is now.
fn states(object: &Value) -> Vec<String> {
    let files = object["runs"].as_array().unwrap().iter().flat_map(|run| run["files"].as_array().unwrap());
    files
        .map(|file| {
            format!(
                "{} {}: {}",
                file["role"].as_str().unwrap(),
                file["file"].as_str().unwrap(),
                file["now"].as_str().unwrap()
            )
        })
        .collect()
}

#[test]
fn a_run_that_nobody_touched_is_as_recorded() {
    let desk = desk();
    let answer = desk.mild(&["verify", "plan.receipt.toml"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.out.ends_with("5 files read again: all as recorded\n"), "{}", answer.out);
    let object = desk.mild(&["verify", "plan.receipt.toml", "--json"]).json();
    assert_eq!(object["agrees"], json!(true));
    assert_eq!(
        states(&object),
        [
            "read plan.toml: as recorded",
            "read records.csv: as recorded",
            "read closed.txt: as recorded",
            "written rows.csv: as recorded",
            "written exceptions.csv: as recorded",
        ]
    );
}

#[test]
fn what_was_changed_since_is_named() {
    let desk = desk();
    // As many bytes as before, one of them another.
    desk.write("records.csv", RECORDS.replace("100.00", "900.00"));
    desk.write("rows.csv", desk.read("rows.csv") + "more\n");
    fs::remove_file(desk.path("closed.txt")).unwrap();
    let answer = desk.mild(&["verify", "plan.receipt.toml"]);
    assert_eq!(answer.code, 4, "{}", answer.err);
    assert_snapshot!(answer.out);
    // From another folder too: names start from that of the plan.
    fs::create_dir(desk.path("elsewhere")).unwrap();
    let mut command = desk.command(&["verify", "../plan.receipt.toml", "--json"]);
    let output = command.current_dir(desk.path("elsewhere")).output().unwrap();
    let object: Value = serde_json::from_slice(&output.stdout).unwrap();
    assert_eq!(
        states(&object),
        [
            "read plan.toml: as recorded",
            "read records.csv: changed",
            "read closed.txt: missing",
            "written rows.csv: changed",
            "written exceptions.csv: as recorded",
        ]
    );
}

#[test]
fn a_later_run_of_another_date_does_not_spoil_an_earlier_one() {
    let desk = Desk::with_plan("\"exceptions.csv\"", "\"exceptions-{as_of}.csv\"");
    desk.write("plan.toml", desk.read("plan.toml").replace("\"rows.csv\"", "\"rows-{as_of}.csv\""));
    desk.write("records.csv", RECORDS);
    for as_of in ["2026-09-30", "2026-10-31"] {
        assert_eq!(desk.mild(&["run", "plan.toml", "--as-of", as_of]).code, 0);
    }
    let object = desk.mild(&["verify", "plan.receipt.toml", "--json"]).json();
    assert_eq!(object["runs"].as_array().unwrap().len(), 2);
    assert_eq!(object["agrees"], json!(true), "{object:#}");
}

#[test]
fn of_files_that_a_later_run_wrote_the_receipt_has_that_run() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    assert_eq!(desk.mild(&["run", "plan.toml", "--as-of", "2026-08-31", "--overwrite"]).code, 0);
    let object = desk.mild(&["verify", "plan.receipt.toml", "--json"]).json();
    let dates: Vec<&Value> = object["runs"].as_array().unwrap().iter().map(|run| &run["as_of"]).collect();
    assert_eq!((dates, &object["agrees"]), (vec![&json!("2026-08-31")], &json!(true)));
}

#[test]
fn rows_that_went_to_standard_output_are_no_file() {
    let desk = Desk::with_plan("\"rows.csv\"", "\"-\"");
    assert_eq!(desk.run_plan().code, 0);
    let object = desk.mild(&["verify", "plan.receipt.toml", "--json"]).json();
    assert!(states(&object).contains(&"written standard output: no file".to_owned()), "{object:#}");
    assert_eq!(object["agrees"], json!(true));
}

#[test]
fn what_is_no_receipt_is_an_error() {
    let desk = Desk::with_records(RECORDS);
    for (name, file, code) in
        [("no_receipt", "plan.receipt.toml", 3), ("a_plan_is_no_receipt", "plan.toml", 2)]
    {
        let answer = desk.mild(&["verify", file]);
        assert_eq!((answer.code, answer.out.as_str()), (code, ""), "{name}: {}", answer.err);
        assert_snapshot!(name, answer.err);
    }
}

/// What each output comes to once more.
fn comes_out(object: &Value) -> Vec<String> {
    let files = object["again"].as_array().unwrap().iter().flat_map(|run| run["files"].as_array().unwrap());
    files
        .map(|file| {
            let line = file["first_line"].as_u64().map_or_else(String::new, |line| format!(", line {line}"));
            format!("{}: {}{line}", file["file"].as_str().unwrap(), file["comes_out"].as_str().unwrap())
        })
        .collect()
}

#[test]
fn a_run_comes_out_the_same_once_more_and_leaves_nothing_behind() {
    let desk = desk();
    desk.write(
        "plan.toml",
        desk.read("plan.toml").replace("exceptions = ", "report = \"report.html\"\nexceptions = "),
    );
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite"]).code, 0);
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite", "--as-of", "2026-08-31"]).code, 0);
    let before = desk.files();
    let answer = desk.mild(&["verify", "plan.receipt.toml", "--again", "--json"]);
    let object = answer.json();
    // The later run took the place of the earlier one's files, which are not dated.
    assert_eq!(object["agrees"], json!(true), "{object:#}");
    assert_eq!(
        comes_out(&object),
        ["rows.csv: the same", "exceptions.csv: the same", "report.html: the same"]
    );
    assert_eq!(desk.files(), before);
    let shown = desk.mild(&["verify", "plan.receipt.toml", "--again"]);
    assert!(
        shown.out.ends_with("Run once more as of 2026-08-31: 3 files, byte for byte what was recorded\n"),
        "{}",
        shown.out
    );
}

#[test]
fn what_comes_out_another_is_named_with_its_first_line() {
    let desk = desk();
    // The third row's amount; the outputs still are what was recorded.
    desk.write("records.csv", RECORDS.replace("70.00", "71.00"));
    let answer = desk.mild(&["verify", "plan.receipt.toml", "--again", "--json"]);
    assert_eq!(answer.code, 4, "{}", answer.err);
    let object: Value = serde_json::from_str(&answer.out).unwrap();
    assert_eq!(comes_out(&object), ["rows.csv: another, line 4", "exceptions.csv: the same"]);
    // An output that was changed too cannot be compared line by line.
    desk.write("rows.csv", "mine");
    let answer = desk.mild(&["verify", "plan.receipt.toml", "--again"]);
    assert_eq!(answer.code, 4);
    assert!(answer.out.contains("  rows.csv: another\n"), "{}", answer.out);
    assert_eq!(desk.read("rows.csv"), "mine", "nothing is written over");
    // A plan that writes something else now.
    desk.write("plan.toml", desk.read("plan.toml").replace("\"rows.csv\"", "\"other.csv\""));
    let answer = desk.mild(&["verify", "plan.receipt.toml", "--again"]);
    assert!(answer.out.contains("  rows.csv: the plan writes no such file now\n"), "{}", answer.out);
}

#[test]
fn records_of_the_command_line_are_named_again() {
    let desk = desk();
    desk.write("more.csv", RECORDS.replace("A1", "B1"));
    assert_eq!(desk.mild(&["run", "plan.toml", "--records", "more.csv", "--overwrite"]).code, 0);
    let again = |more: &[&str]| {
        let arguments: Vec<&str> =
            ["verify", "plan.receipt.toml", "--again"].iter().chain(more).copied().collect();
        desk.mild(&arguments).code
    };
    assert_eq!((again(&[]), again(&["--records", "more.csv"])), (4, 0));
}

/// Every format comes out byte for byte the same.
#[test]
fn workbooks_and_lines_come_out_the_same() {
    for rows in ["rows.xlsx", "rows.jsonl", "rows.csv.gz", "rows.parquet", "rows.sqlite"] {
        let desk = Desk::with_plan("\"rows.csv\"", &format!("\"{rows}\""));
        desk.write("records.csv", RECORDS);
        let answer = desk.run_plan();
        if answer.code != 0 {
            assert!(
                answer.err.contains("this build writes no") || answer.err.contains("the name promises"),
                "{}",
                answer.err
            );
            continue;
        }
        let answer = desk.mild(&["verify", "plan.receipt.toml", "--again"]);
        assert_eq!(answer.code, 0, "{rows}: {}", answer.out);
    }
}

/// Whatever an output's name leads to, a run once more writes none of the files that are there.
#[test]
fn outputs_elsewhere_are_left_alone() {
    let other = tempfile::tempdir().unwrap();
    let desk = desk();
    fs::create_dir(desk.path("plans")).unwrap();
    let place = other.path().join("rows.csv").display().to_string();
    let plan = desk.read("plan.toml").replace("\"rows.csv\"", &format!("'{place}'"));
    let plan = plan
        .replace("\"exceptions.csv\"", "\"../left.csv\"")
        .replace("\"records.csv\"", "\"../records.csv\"");
    desk.write("plans/plan.toml", plan.replace("\"closed.txt\"", "\"../closed.txt\""));
    let answer = desk.mild(&["run", "plans/plan.toml"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    let receipt = other.path().join("plan.receipt.toml").display().to_string();
    assert_eq!(desk.mild(&["verify", &receipt, "--again"]).code, 0);
    let stood = |path: &str| fs::read_to_string(path).unwrap();
    let (rows, recorded) = (stood(&place), stood(&receipt));
    desk.write("records.csv", RECORDS.replace("70.00", "71.00"));
    let answer = desk.mild(&["verify", &receipt, "--again"]);
    assert_eq!(answer.code, 4);
    assert!(answer.out.contains("another, from line 4 on"), "{}", answer.out);
    assert_eq!((stood(&place), stood(&receipt)), (rows, recorded));
}

#[test]
fn what_is_not_known_is_never_as_recorded() {
    let now = |desk: &Desk| {
        let answer = desk.mild(&["verify", "plan.receipt.toml", "--json"]);
        let object: Value = serde_json::from_str(&answer.out).unwrap();
        (answer.code, object["agrees"].clone(), states(&object))
    };
    let desk = desk();
    let receipt = desk.read("plan.receipt.toml");
    let other: Vec<&str> = receipt
        .lines()
        .map(|line| if line.starts_with("hash = ") { "hash = \"md5:00\"" } else { line })
        .collect();
    desk.write("plan.receipt.toml", other.join("\n"));
    let (code, agrees, states) = now(&desk);
    assert_eq!((code, agrees), (4, json!(false)));
    assert!(states.iter().all(|state| state.ends_with(": unknown hash")), "{states:?}");
    let answer = desk.mild(&["verify", "plan.receipt.toml"]);
    assert!(answer.out.contains("5 of 5 files are not what was recorded"), "{}", answer.out);
    // A receipt whose files are all elsewhere verifies nothing.
    let none: Vec<String> = receipt
        .lines()
        .map(|line| {
            if line.starts_with("file = ") {
                "file = \"postgres://localhost/yard\"".to_owned()
            } else {
                line.to_owned()
            }
        })
        .collect();
    desk.write("plan.receipt.toml", none.join("\n"));
    let answer = desk.mild(&["verify", "plan.receipt.toml"]);
    assert_eq!(answer.code, 4, "{}", answer.out);
    assert!(answer.out.ends_with("no file was read again, so nothing is verified\n"), "{}", answer.out);
}

#[cfg(unix)]
#[test]
fn a_folder_a_pipe_and_a_device_are_no_files() {
    let desk = desk();
    for (name, make) in [("records.csv", "mkdir"), ("rows.csv", "mkfifo")] {
        fs::remove_file(desk.path(name)).unwrap();
        assert!(std::process::Command::new(make).arg(desk.path(name)).status().unwrap().success());
    }
    fs::remove_file(desk.path("exceptions.csv")).unwrap();
    std::os::unix::fs::symlink("/dev/zero", desk.path("exceptions.csv")).unwrap();
    let answer = desk.mild(&["verify", "plan.receipt.toml", "--json"]);
    assert_eq!(answer.code, 4, "{}", answer.err);
    let object: Value = serde_json::from_str(&answer.out).unwrap();
    let not_files = states(&object).iter().filter(|state| state.ends_with(": not a file")).count();
    assert_eq!(not_files, 3, "{}", answer.out);
}

#[test]
fn files_are_those_of_the_receipt_and_never_of_the_folder_at_hand() {
    let desk = desk();
    fs::create_dir(desk.path("else")).unwrap();
    fs::copy(desk.path("records.csv"), desk.path("else/records.csv")).unwrap();
    fs::remove_file(desk.path("records.csv")).unwrap();
    let verify = |folder: &str, receipt: &str| {
        desk.command(&["verify", receipt, "--json"]).current_dir(desk.path(folder)).output().unwrap()
    };
    assert_eq!(verify("else", "../plan.receipt.toml").status.code(), Some(4));
    // Records that the command line names are found from the receipt, wherever both are named from.
    let run = desk.command(&["run", "../plan.toml", "--records", "records.csv", "--overwrite"]);
    let mut run = run;
    assert!(run.current_dir(desk.path("else")).output().unwrap().status.success());
    assert_eq!(verify("else", "../plan.receipt.toml").status.code(), Some(0));
    assert_eq!(verify(".", "plan.receipt.toml").status.code(), Some(0));
}
