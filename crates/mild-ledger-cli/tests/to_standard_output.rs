//! Rows that go to standard output, and nothing else with them.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use std::io::Read;
use std::process::Stdio;
use support::{Desk, RECORDS};

#[test]
fn rows_go_to_standard_output_and_what_is_said_of_them_does_not() {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    let rows = desk.read("rows.csv");
    std::fs::remove_file(desk.path("rows.csv")).unwrap();
    for plan in ["plan.toml", "piped.toml"] {
        let text = desk
            .read("plan.toml")
            .replace("\"rows.csv\"", "\"-\"")
            .replace("\"exceptions.csv\"", "\"left.csv\"");
        desk.write("piped.toml", text);
        let stdout = if plan == "plan.toml" { vec!["run", plan, "--stdout"] } else { vec!["run", plan] };
        let answer = desk.mild(&stdout);
        assert_eq!((answer.code, answer.out.as_str()), (0, rows.as_str()), "{plan}: {}", answer.err);
        assert!(answer.err.ends_with("the proof agrees\n"), "{}", answer.err);
        assert!(answer.err.contains("standard output"), "{}", answer.err);
    }
    // The option leaves no file; the plan that sends its rows there writes the others.
    assert_eq!(
        desk.files(),
        [
            "exceptions.csv",
            "left.csv",
            "piped.receipt.toml",
            "piped.toml",
            "plan.receipt.toml",
            "plan.toml",
            "records.csv"
        ]
    );
    // The receipt knows what went there.
    let hash = blake3::hash(rows.as_bytes()).to_hex().to_string();
    let receipt = desk.read("piped.receipt.toml");
    assert!(receipt.contains("\"standard output\"") && receipt.contains(&hash), "{receipt}");
    // The file that an earlier run wrote is still known by it, and one that was changed since is not overwritten.
    desk.write("rows.csv", &rows);
    desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert_eq!(desk.mild(&["run", "plan.toml", "--stdout"]).code, 0);
    let again = desk.run_plan();
    assert_eq!(again.code, 0, "{}", again.err);
    desk.mild(&["run", "plan.toml", "--stdout"]);
    desk.write("rows.csv", format!("{rows}by hand\n"));
    assert_eq!(desk.run_plan().code, 3);
    // For programs the object is on standard error then.
    let answer = desk.mild(&["run", "plan.toml", "--stdout", "--json"]);
    assert_eq!(answer.out, rows);
    let object: serde_json::Value = serde_json::from_str(answer.err.trim()).unwrap();
    assert_eq!(object["rows"]["written"], 4);
}

#[test]
fn nothing_comes_of_a_run_that_fails_and_a_reader_that_goes_away_ends_it() {
    let desk = Desk::with_records(RECORDS.replace("A2", "A1"));
    desk.write("plan.toml", desk.read("plan.toml").replace("duplicates = \"set aside\"\n", ""));
    let answer = desk.mild(&["run", "plan.toml", "--stdout"]);
    assert_eq!((answer.code, answer.out.as_str()), (2, ""), "{}", answer.err);
    assert_eq!(desk.files(), ["plan.toml", "records.csv"]);

    let many: String = (0..50_000).map(|nth| format!("B{nth},Heron,01/02/2026,,1.00\n")).collect();
    let desk = Desk::with_records(format!("{RECORDS}{many}"));
    let mut child = desk
        .command(&["run", "plan.toml", "--stdout"])
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    let mut first = [0; 7];
    child.stdout.take().unwrap().read_exact(&mut first).unwrap();
    let ended = child.wait_with_output().unwrap();
    assert_eq!((&first, ended.status.code()), (b"Invoice", Some(3)));
    // Nothing is claimed of rows that did not all arrive.
    let said = String::from_utf8_lossy(&ended.stderr);
    assert!(said.contains("could not write to standard output") && !said.contains("proof"), "{said}");
    assert_eq!(desk.files(), ["plan.toml", "records.csv"]);

    let text = desk.read("plan.toml").replace("\"exceptions.csv\"", "\"-\"");
    desk.write("plan.toml", text);
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 2);
    assert!(answer.err.contains("only the rows can go to standard output"), "{}", answer.err);
}

#[cfg(target_os = "linux")]
#[test]
fn a_full_device_and_a_folder_that_cannot_be_written() {
    let desk = Desk::with_records(RECORDS);
    let full = std::fs::OpenOptions::new().write(true).open("/dev/full").unwrap();
    let ended = desk.command(&["run", "plan.toml", "--stdout"]).stdout(full).output().unwrap();
    let said = String::from_utf8_lossy(&ended.stderr);
    assert_eq!(ended.status.code(), Some(3), "{said}");
    assert!(said.contains("No space left") && !said.contains("proof"), "{said}");
    assert_eq!(desk.files(), ["plan.toml", "records.csv"]);
    // Root may write anywhere, so a file in place of the outputs represents a folder that is read-only.
    desk.write("exceptions.csv", "kept by hand\n");
    let answer = desk.mild(&["run", "plan.toml", "--stdout"]);
    assert_eq!((answer.code, answer.out.lines().count()), (0, 5), "{}", answer.err);
    assert_eq!(desk.read("exceptions.csv"), "kept by hand\n");
}
