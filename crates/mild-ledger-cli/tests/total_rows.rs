//! Rows that are the total of others: what shows it, what a plan does with them, and what is never dropped.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use serde_json::json;
use support::Desk;

const PLAN: &str = r#"plan = 1
as_of = 2026-03-31

[records]
file = "records.csv"
key = "Invoice"

[records.dates]
Issued = "iso"

[records.amounts]
Amount = { decimals = 2 }

[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// A desk with these rows; the plan leaves total rows out, or keeps them.
fn desk(rows: &str, total_row: Option<&str>) -> Desk {
    let desk = Desk::new();
    desk.write("records.csv", format!("Invoice,Customer,Issued,Amount\n{rows}"));
    let key = total_row.map_or_else(String::new, |word| format!("total_row = \"{word}\"\n"));
    desk.write("plan.toml", PLAN.replace("key = \"Invoice\"\n", &format!("key = \"Invoice\"\n{key}")));
    desk
}

fn run(desk: &Desk) -> serde_json::Value {
    desk.mild(&["run", "plan.toml", "--overwrite", "--json"]).json()
}

fn doubts(desk: &Desk) -> Vec<String> {
    let object = run(desk);
    object["doubts"].as_array().unwrap().iter().map(|doubt| doubt.as_str().unwrap().to_owned()).collect()
}

#[test]
fn customers_of_that_name_are_kept_by_every_command() {
    let rows = "A,Total,2026-01-02,1000.00\nB,Total,2026-01-03,2000.00\nC,Acme,2026-01-04,30.00\nD,Total,2026-01-05,40.00\n";
    let desk = desk(rows, None);
    let aging = ["aging", "records.csv", "--amount", "Amount", "--issued", "Issued", "--by", "Customer"];
    let object = desk.mild(&[&aging[..], &["--as-of", "2026-03-31", "--json"]].concat()).json();
    assert_eq!(object["reports"][0]["total"]["total"], json!("3070.00"), "{object}");
    assert_eq!(object["rows"]["written"], json!(4));
    assert_eq!(object["doubts"], json!([]));
    let plan = desk.mild(&["look", "records.csv", "--plan"]).out;
    assert!(!plan.contains("select") && !plan.contains("total_row"), "{plan}");
    // A total of the last row's own is not evidence where nothing of it is blank.
    desk.write("records.csv", "Invoice,Customer,Issued,Amount\nA,Ash,2026-01-02,10.00\nB,Elm,2026-01-03,20.00\nC,Oak,2026-01-04,30.00\n");
    assert_eq!(doubts(&desk), Vec::<String>::new());
}

#[test]
fn a_total_row_is_a_doubt_until_the_plan_leaves_it_out() {
    let rows =
        "A,Ash,2026-01-02,10.00\nB,Elm,2026-01-03,20.00\nC,Oak,2026-01-04,30.00\nD,Fir,2026-01-05,40.00\n";
    for total in ["Total,,,100.00\n", ",,,100.00\n", "Grand total,,,100\n", ",Sum,2026-03-31,100.00\n"] {
        let desk = desk(&format!("{rows}{total}"), None);
        let doubts = doubts(&desk);
        assert_eq!(doubts.len(), 1, "{total}: {doubts:?}");
        assert!(
            doubts[0].starts_with("the last row, row 5, seems to be a total and counts as a record: Amount 100.00 is the sum of 4 rows above"),
            "{doubts:?}"
        );
    }
    let desk = desk(&format!("{rows}Total,,,100.00\n"), Some("leave out"));
    let object = run(&desk);
    assert_eq!(object["doubts"], json!([]));
    let rows_of = &object["rows"];
    assert_eq!(
        (&rows_of["read"], &rows_of["written"], &rows_of["not_selected"]),
        (&json!(5), &json!(4), &json!(1))
    );
    let amount = &object["amounts"][0];
    assert_eq!((&amount["written"], &amount["not_selected"]), (&json!("100.00"), &json!("100.00")));
    assert_eq!(
        desk.read("exceptions.csv").lines().nth(1).unwrap(),
        "records.csv,5,6,Total,,Total,total row: Amount 100.00 is the sum of 4 rows above,,row left out"
    );
    assert!(!desk.read("rows.csv").contains("Total"));
    // The next file has none, and the plan does no harm.
    desk.write("records.csv", format!("Invoice,Customer,Issued,Amount\n{rows}"));
    let object = run(&desk);
    assert_eq!((&object["rows"]["written"], &object["exceptions"]), (&json!(4), &json!([])));
}

#[test]
fn subtotals_in_the_middle_are_a_doubt_each() {
    let rows = "A,Ash,2026-01-02,10.00\nB,Ash,2026-01-03,20.00\n,Ash total,,30.00\nC,Oak,2026-01-04,30.00\nD,Oak,2026-01-05,40.00\n,Oak total,,70.00\nGrand total,,,100.00\n";
    let kept = desk(rows, None);
    let found = doubts(&kept);
    assert_eq!(found.len(), 2, "{found:?}");
    assert!(found[0].contains("the last row, row 7"), "{found:?}");
    assert!(
        found[1].starts_with("2 rows seem to be a total and each count as a record: row 3, row 6"),
        "{found:?}"
    );
    // The last row alone is left out; those in the middle stay a doubt.
    let left_out = desk(rows, Some("leave out"));
    let found = doubts(&left_out);
    assert_eq!((found.len(), run(&left_out)["rows"]["not_selected"].clone()), (1, json!(1)), "{found:?}");
}

#[test]
fn a_total_that_does_not_add_up_stays_and_is_a_doubt() {
    let rows = "A,Ash,2026-01-02,10.00\nB,Elm,2026-01-03,20.00\nTotal,,,31.00\n";
    let desk = desk(rows, Some("leave out"));
    let found = doubts(&desk);
    assert!(
        found[0]
            .starts_with("row 3 is called a total and counts as a record, though its amount is not the sum"),
        "{found:?}"
    );
    assert_eq!(run(&desk)["rows"]["written"], json!(3));
}

#[test]
fn each_of_several_files_has_its_own_total() {
    let desk = desk("A,Ash,2026-01-02,10.00\nB,Elm,2026-01-03,20.00\nTotal,,,30.00\n", Some("leave out"));
    desk.write(
        "more.csv",
        "Invoice,Customer,Issued,Amount\nC,Ash,2026-01-02,1.00\nD,Elm,2026-01-03,2.00\nTotal,,,3.00\n",
    );
    let plan = desk.read("plan.toml").replace("\"records.csv\"", "[\"records.csv\", \"more.csv\"]");
    desk.write("plan.toml", plan);
    let object = run(&desk);
    assert_eq!(
        (&object["rows"]["written"], &object["rows"]["not_selected"]),
        (&json!(4), &json!(2)),
        "{object}"
    );
    assert_eq!(object["doubts"], json!([]));
}

#[test]
fn a_total_after_many_rows_is_found_and_repeated_keys_are_decided_too() {
    let rows: String =
        (1..=30_000).map(|nth| format!("I{},Ash,2026-01-02,{nth}.00\n", nth.min(29_999))).collect();
    let sum: u64 = (1..=30_000).sum();
    let desk = desk(&format!("{rows}Total,,,{sum}.00\n"), Some("leave out"));
    let plan = desk.read("plan.toml").replace("total_row", "duplicates = \"set aside\"\ntotal_row");
    desk.write("plan.toml", plan);
    let object = run(&desk);
    let rows = &object["rows"];
    assert_eq!(
        (&rows["written"], &rows["not_selected"], &rows["set_aside"]),
        (&json!(29_999), &json!(1), &json!(1))
    );
    let quick = desk.mild(&[
        "summary",
        "records.csv",
        "--by",
        "Customer",
        "--sum",
        "Amount",
        "--duplicates",
        "keep",
        "--json",
    ]);
    assert_eq!(
        quick.json()["reports"][0]["tables"][0]["total"][2],
        json!(format!("{sum}.00")),
        "{}",
        quick.out
    );
}
