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
    assert_snapshot!("two_equal_signs", said("as_of = 2026-09-30", "as_of = = 2026-09-30"));
    assert_snapshot!(
        "a_header_with_a_space",
        said("Issued = \"day/month/year\"", "Date issued = \"day/month/year\"")
    );
    let desk = Desk::with_records(RECORDS);
    desk.write("plan.toml", b"plan = 1\ntitle = \"Caf\xe9\"\n");
    assert_snapshot!("a_plan_of_other_bytes", refused(&desk));
    desk.write("plan.toml", "");
    assert_snapshot!("an_empty_plan", refused(&desk));
}

#[test]
fn unknown_keys_and_keys_of_a_later_version() {
    assert_snapshot!("a_key_that_is_nearly_right", said("duplicates =", "duplicate  ="));
    assert_snapshot!(
        "a_key_that_no_column_has",
        said("edges  = [0, 30, 60]", "edges  = [0, 30, 60]\nnames = [\"a\"]")
    );
    assert_snapshot!(
        "a_key_of_a_later_version",
        said("edges  = [0, 30, 60]", "edges  = [0, 30, 60]\ndates_as = \"day/month/year\"")
    );
}

#[test]
fn headers_that_want_quotes() {
    assert_snapshot!(said("Issued = \"day/month/year\"", "Date.issued = \"day/month/year\""));
}

#[test]
fn edges_out_of_order() {
    assert_snapshot!("edges_out_of_order", said("edges  = [0, 30, 60]", "edges  = [0, 60, 30]"));
    assert_snapshot!("no_edges", said("edges  = [0, 30, 60]", "edges  = []"));
    assert_snapshot!("an_edge_in_quotes", said("edges  = [0, 30, 60]", "edges  = [0, \"30\"]"));
}

#[test]
fn values_that_do_not_fit() {
    assert_snapshot!("an_as_of_without_hyphens", said("as_of = 2026-09-30", "as_of = 20260930"));
    assert_snapshot!("a_version_of_the_future", said("plan  = 1", "plan  = 2"));
    assert_snapshot!("a_word_for_another_day", said("\"as-of\"", "\"today\""));
    assert_snapshot!("a_count_that_is_nearly_right", said("count   = \"days\"", "count   = \"day\""));
    assert_snapshot!(
        "a_named_day_that_is_nearly_right",
        said("as_of = 2026-09-30", "as_of = \"end of last moth\"")
    );
    assert_snapshot!("a_choice_that_is_nearly_right", said("\"set aside\"", "\"set-aside\""));
    assert_snapshot!("decimals_beyond_all", said("decimals = 2", "decimals = 99"));
    assert_snapshot!("a_pattern_in_signs", said("Issued = \"day/month/year\"", "Issued = \"dd/mm/yyyy\""));
    assert_snapshot!("a_count_without_its_way", said("count   = \"days\"", "count   = \"months\""));
    assert_snapshot!("a_kind_that_is_nearly_right", said("kind   = \"aging\"", "kind   = \"ageing\""));
    assert_snapshot!(
        "a_field_in_a_name_that_is_none",
        said("rows       = \"rows.csv\"", "rows       = \"rows-{month}.csv\"")
    );
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
    assert_snapshot!(
        "an_interval_from_a_name",
        said("between = [\"Issued\", \"as-of\"]", "between = [\"Customer\", \"as-of\"]")
    );
    assert_snapshot!(
        "an_interval_from_no_column",
        said("between = [\"Issued\", \"as-of\"]", "between = [\"Isued\", \"as-of\"]")
    );
    assert_snapshot!("a_bucket_of_a_name", said("bucket = \"Days\"", "bucket = \"Customer\""));
    assert_snapshot!("a_band_that_is_none", said("band   = \"Band\"", "band   = \"Days\""));
    assert_snapshot!("an_amount_that_is_none", said("amount = \"Amount\"", "amount = \"Days\""));
    assert_snapshot!("a_name_that_is_taken", said("name    = \"Days\"", "name    = \"Customer\""));
    assert_snapshot!("edges_of_an_interval", said("count   = \"days\"", "count   = \"days\"\nedges = [1]"));
}

#[test]
fn conditions_that_do_not_fit() {
    let with = |condition: &str| said("[[report]]", &format!("[[select]]\n{condition}\n\n[[report]]"));
    assert_snapshot!("a_condition_that_asks_nothing", with("column = \"Amount\""));
    assert_snapshot!("a_limit_finer_than_the_column", with("column = \"Amount\"\nover = 50.005"));
    assert_snapshot!("a_name_over_a_number", with("column = \"Customer\"\nover = 50"));
    assert_snapshot!("a_bucket_that_is_none", with("column = \"Band\"\nis = \"1-30\""));
    assert_snapshot!("a_window_that_is_nearly_right", with("column = \"Issued\"\nwithin = \"last moth\""));
    assert_snapshot!("a_date_that_is_an_amount", with("column = \"Issued\"\nis = { column = \"Amount\" }"));
}

#[test]
fn outputs_that_are_inputs() {
    assert_snapshot!(
        "rows_over_the_records",
        said("rows       = \"rows.csv\"", "rows       = \"records.csv\"")
    );
    assert_snapshot!(
        "exceptions_over_the_rows",
        said("exceptions = \"exceptions.csv\"", "exceptions = \"./rows.csv\"")
    );
    assert_snapshot!(
        "rows_over_the_receipt",
        said("rows       = \"rows.csv\"", "rows       = \"plan.receipt.toml\"")
    );
    let desk = Desk::with_plan("rows       = \"rows.csv\"", "rows       = \"link.csv\"");
    std::fs::hard_link(desk.path("records.csv"), desk.path("link.csv")).unwrap();
    assert_snapshot!("rows_over_the_records_by_another_name", refused(&desk));
}
