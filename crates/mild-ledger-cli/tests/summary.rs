//! Reports of kind "summary": what is printed, its JSON and receipt, and the mistakes of plans that ask for one.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::{Value, json};
use support::Desk;

const RECORDS: &str = "Invoice,Customer,Issued,Paid,Amount
A1,Heron Charters,30/09/2026,,100.00
A2,Heron Charters,31/08/2026,,50.25
A3,Cordage & Co.,30/08/2026,01/09/2026,70.00
A4,Cordage & Co.,01/06/2026,,9.75
A5,\"=Ferry\",,soon,3.00
A6,Heron Charters,31/06/2026,,-20.00
";

const AGING: &str = "kind   = \"aging\"
band   = \"Band\"
amount = \"Amount\"
issued = \"Issued\"
paid   = \"Paid\"
by     = \"Customer\"
";

/// A plan with a summary in place of its aging.
fn desk(summary: &str) -> Desk {
    let desk = Desk::with_plan(AGING, &format!("kind = \"summary\"\n{summary}\n"));
    desk.write("records.csv", RECORDS);
    desk
}

const BY_MONTH: &str = r#"title = "Issued, as of {as_of}"
by   = [{ period = "month", of = "Issued" }, "Band"]
show = ["count", { sum = "Amount" }, { mean = "Amount" }, { sum = "Days" }, { largest = "Days" }, { smallest = "Issued" }, { blanks = "Paid" }]"#;

#[test]
fn groups_with_and_without_rows() {
    let answer = desk(BY_MONTH).run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_snapshot!(answer.out);
}

#[test]
fn by_a_text() {
    let answer = desk("by = [\"Customer\"]\nshow = [\"count\", { sum = \"Amount\" }]").run_plan();
    let rows: Vec<&str> = answer.out.lines().skip_while(|line| !line.starts_with("Customer")).collect();
    let rows: Vec<Vec<&str>> =
        rows.iter().map(|line| line.split("  ").filter(|cell| !cell.is_empty()).collect()).collect();
    let trimmed: Vec<Vec<&str>> =
        rows[2..5].iter().map(|row| row.iter().map(|cell| cell.trim()).collect()).collect();
    // Texts are shown as they are; none of them is a formula on a terminal.
    assert_eq!(
        trimmed,
        [["=Ferry", "1", "3.00"], ["Cordage & Co.", "2", "79.75"], ["Heron Charters", "3", "130.25"]]
    );
}

#[test]
fn the_receipt_and_the_json_have_its_proof() {
    let desk = desk(BY_MONTH);
    let answer = desk.mild(&["run", "plan.toml", "--json"]);
    let object: Value = serde_json::from_str(&answer.out).unwrap();
    let report = &object["reports"][0];
    assert_eq!((&report["kind"], &report["title"]), (&json!("summary"), &json!("Issued, as of 2026-09-30")));
    let amounts = &report["proof"][1];
    assert_eq!(
        amounts,
        &json!({"of": "Amount", "whole": "written", "value": "213.00", "parts": [{"name": "in groups", "value": "213.00"}]})
    );
    let receipt: toml::Table = desk.read("plan.receipt.toml").parse().unwrap();
    let proof = &receipt["run"][0]["report"][0]["proof"];
    assert_eq!(proof[0]["parts"]["in groups"].as_str(), Some("6"));
    assert_eq!(proof[1]["written"].as_str(), Some("213.00"));
}

#[test]
fn mistakes_are_told() {
    let said = |summary: &str| {
        let answer = desk(summary).run_plan();
        assert_eq!(answer.code, 2, "{summary}\n{}", answer.out);
        answer.err
    };
    assert_snapshot!("no_groups", said("show = [\"count\"]"));
    assert_snapshot!("groups_of_nothing", said("by = []"));
    assert_snapshot!("groups_too_deep", said("by = [\"Customer\", \"Band\", \"Issued\", \"Paid\"]"));
    assert_snapshot!("a_group_by_no_column", said("by = [\"Custmer\"]"));
    assert_snapshot!("a_period_that_is_none", said("by = [{ period = \"moth\", of = \"Issued\" }]"));
    assert_snapshot!("a_period_of_amounts", said("by = [{ period = \"month\", of = \"Amount\" }]"));
    assert_snapshot!("a_figure_that_is_none", said("by = [\"Customer\"]\nshow = [\"counts\"]"));
    assert_snapshot!("a_sum_of_names", said("by = [\"Customer\"]\nshow = [{ sum = \"Customer\" }]"));
    assert_snapshot!("the_smallest_band", said("by = [\"Customer\"]\nshow = [{ smallest = \"Band\" }]"));
    assert_snapshot!(
        "two_figures_in_one",
        said("by = [\"Customer\"]\nshow = [{ sum = \"Amount\", mean = \"Amount\" }]")
    );
    assert_snapshot!(
        "a_median_that_is_not_built_yet",
        said("by = [\"Customer\"]\nshow = [{ median = \"Amount\" }]")
    );
    assert_snapshot!("the_top_that_is_not_built_yet", said("by = [\"Customer\"]\ntop = 5"));
}

#[test]
fn numbers_that_name_a_place_are_not_summed() {
    let column =
        "[[column]]\nname = \"Month\"\nperiod = \"month\"\nof = \"Issued\"\ngives = \"number\"\n[[report]]";
    let desk = desk("by = [\"Customer\"]\nshow = [{ sum = \"Month\" }]");
    desk.write("plan.toml", desk.read("plan.toml").replacen("[[report]]", column, 1));
    assert_snapshot!(desk.run_plan().err);
}
