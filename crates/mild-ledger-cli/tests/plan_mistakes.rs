//! Mistakes of a plan: file, line, a caret under the word, what was expected, the nearest right word.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use support::{Desk, RECORDS};

/// The message for a plan with one piece replaced.
fn said(from: &str, to: &str) -> String {
    let desk = Desk::with_plan(from, to);
    refused(&desk)
}

fn refused(desk: &Desk) -> String {
    let before = desk.files();
    let answer = desk.run_plan();
    assert_eq!(answer.code, 2, "{}", answer.err);
    assert_eq!((answer.out.as_str(), desk.files()), ("", before), "nothing was read or written");
    answer.err
}

#[test]
fn plans_that_are_not_toml() {
    assert_snapshot!(said("as_of = 2026-09-30", "as_of = = 2026-09-30"));
    assert_snapshot!(said("Issued = \"day/month/year\"", "Date issued = \"day/month/year\""));
    let desk = Desk::with_records(RECORDS);
    desk.write("plan.toml", b"plan = 1\ntitle = \"Caf\xe9\"\n");
    assert_snapshot!(refused(&desk));
    desk.write("plan.toml", "");
    assert_snapshot!(refused(&desk));
}

#[test]
fn unknown_keys_and_keys_of_a_later_version() {
    assert_snapshot!(said("repeats =", "repeat  ="));
    assert_snapshot!(said("edges  = [0, 30, 60]", "edges  = [0, 30, 60]\nnames = [\"a\"]"));
    assert_snapshot!(said("Amount = { decimals = 2 }", "Amount = { decimals = 2, currency = \"Currency\" }"));
}

#[test]
fn headers_that_want_quotes() {
    assert_snapshot!(said("Issued = \"day/month/year\"", "Date.issued = \"day/month/year\""));
}

#[test]
fn edges_out_of_order() {
    assert_snapshot!(said("edges  = [0, 30, 60]", "edges  = [0, 60, 30]"));
    assert_snapshot!(said("edges  = [0, 30, 60]", "edges  = []"));
    assert_snapshot!(said("edges  = [0, 30, 60]", "edges  = [0, \"30\"]"));
}

#[test]
fn values_that_do_not_fit() {
    assert_snapshot!(said("as_of = 2026-09-30", "as_of = 20260930"));
    assert_snapshot!(said("plan  = 1", "plan  = 2"));
    assert_snapshot!(said("\"as-of\"", "\"today\""));
    assert_snapshot!(said("count   = \"days\"", "count   = \"day\""));
    assert_snapshot!(said("as_of = 2026-09-30", "as_of = \"end of last moth\""));
    assert_snapshot!(said("\"set aside\"", "\"set-aside\""));
    assert_snapshot!(said("decimals = 2", "decimals = 99"));
    assert_snapshot!(said("Issued = \"day/month/year\"", "Issued = \"dd/mm/yyyy\""));
    assert_snapshot!(said("count   = \"days\"", "count   = \"months\""));
    assert_snapshot!(said("kind   = \"aging\"", "kind   = \"ageing\""));
    assert_snapshot!(said("rows       = \"rows.csv\"", "rows       = \"rows-{month}.csv\""));
}

#[test]
fn several_mistakes_are_told_at_once() {
    let desk = Desk::with_plan("[[report]]", "[[reports]]");
    let plan =
        desk.read("plan.toml").replace("bucket = \"Days\"", "bucket = 5").replace("title =", "titel =");
    desk.write("plan.toml", plan);
    assert_snapshot!(refused(&desk));
}

#[test]
fn columns_that_do_not_fit_together() {
    assert_snapshot!(said("between = [\"Issued\", \"as-of\"]", "between = [\"Customer\", \"as-of\"]"));
    assert_snapshot!(said("between = [\"Issued\", \"as-of\"]", "between = [\"Isued\", \"as-of\"]"));
    assert_snapshot!(said("bucket = \"Days\"", "bucket = \"Customer\""));
    assert_snapshot!(said("band   = \"Band\"", "band   = \"Days\""));
    assert_snapshot!(said("amount = \"Amount\"", "amount = \"Days\""));
    assert_snapshot!(said("name    = \"Days\"", "name    = \"Customer\""));
    assert_snapshot!(said("count   = \"days\"", "count   = \"days\"\nedges = [1]"));
}

#[test]
fn conditions_that_do_not_fit() {
    let with = |condition: &str| said("[[report]]", &format!("[[select]]\n{condition}\n\n[[report]]"));
    assert_snapshot!(with("column = \"Amount\""));
    assert_snapshot!(with("column = \"Amount\"\nover = 50.005"));
    assert_snapshot!(with("column = \"Customer\"\nover = 50"));
    assert_snapshot!(with("column = \"Band\"\nis = \"1-30\""));
    assert_snapshot!(with("column = \"Issued\"\nwithin = \"last moth\""));
    assert_snapshot!(with("column = \"Issued\"\nis = { column = \"Amount\" }"));
}

#[test]
fn outputs_that_are_inputs() {
    assert_snapshot!(said("rows       = \"rows.csv\"", "rows       = \"records.csv\""));
    assert_snapshot!(said("exceptions = \"exceptions.csv\"", "exceptions = \"./rows.csv\""));
    assert_snapshot!(said("rows       = \"rows.csv\"", "rows       = \"plan.receipt.toml\""));
    let desk = Desk::with_plan("rows       = \"rows.csv\"", "rows       = \"link.csv\"");
    std::fs::hard_link(desk.path("records.csv"), desk.path("link.csv")).unwrap();
    assert_snapshot!(refused(&desk));
}
