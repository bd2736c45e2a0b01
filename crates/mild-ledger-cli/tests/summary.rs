//! Reports of kind "summary": what is printed, its JSON and receipt, and the mistakes of plans that ask for one.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::{Value, json};
use support::{Desk, desk_with_report};

/// A plan with a summary in place of its aging.
fn desk(summary: &str) -> Desk {
    desk_with_report(&format!("kind = \"summary\"\n{summary}\n"))
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
fn without_groups_all_rows_are_one() {
    let desk =
        desk("show = [\"count\", { sum = \"Amount\" }, { largest = \"Days\" }]\ncolumns_by = \"Band\"");
    let answer = desk.mild(&["run", "plan.toml", "--json"]);
    let report = &answer.json()["reports"][0];
    let rows = report["tables"][0]["rows"].as_array().unwrap();
    assert_eq!(rows.len(), 1);
    let cells = rows[0].as_array().unwrap();
    assert_eq!(
        (&cells[0], &cells[cells.len() - 3], &cells[cells.len() - 2]),
        (&json!("All rows"), &json!(6), &json!("213.00"))
    );
    assert_eq!(report["proof"][0]["parts"], json!([{"name": "in groups", "value": 6}]));
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
    assert_snapshot!("no_groups", said("by = []\nshow = [\"count\"]"));
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
    assert_snapshot!("nothing_to_show", said("by = [\"Customer\"]\nshow = []"));
    let shown = |figure: &str| said(&format!("by = [\"Customer\"]\nshow = [{figure}]"));
    assert_snapshot!("a_percentile_without_a_place", shown("{ percentile = \"Amount\" }"));
    assert_snapshot!("a_percentile_past_a_hundred", shown("{ percentile = \"Amount\", at = 101 }"));
    assert_snapshot!("a_median_at_a_place", shown("{ median = \"Amount\", at = 40 }"));
    assert_snapshot!("a_sum_at_a_place", shown("{ sum = \"Amount\", at = 40 }"));
    assert_snapshot!("the_top_without_an_order", said("by = [\"Customer\"]\ntop = 5"));
    assert_snapshot!(
        "an_order_by_no_figure",
        said("by = [\"Customer\"]\nshow = [{ sum = \"Amount\" }]\norder = \"Amunt, sum, largest first\"")
    );
    assert_snapshot!("earlier_groups_of_names", said("by = [\"Customer\"]\nbeside = \"period before\""));
    assert_snapshot!(
        "shares_across",
        said("by = [\"Customer\"]\ncolumns_by = \"Band\"\nshow = [{ share = \"Amount\" }]")
    );
}

/// The names of the columns of the first table of the first report, and its rows and total as texts.
fn table(desk: &Desk) -> (Vec<String>, Vec<Vec<String>>) {
    let object = desk.mild(&["run", "plan.toml", "--json", "--overwrite"]).json();
    let table = &object["reports"][0]["tables"][0];
    let cell = |cell: &Value| match cell {
        Value::String(text) => text.clone(),
        Value::Null => String::new(),
        other => other.to_string(),
    };
    let row = |row: &Value| row.as_array().unwrap().iter().map(cell).collect::<Vec<_>>();
    let rows = table["rows"].as_array().unwrap().iter().chain([&table["total"]]).map(row).collect();
    (row(&table["columns"]), rows)
}

#[test]
fn rows_in_the_order_of_a_figure_and_the_others_as_one() {
    // Heron 100.00, 50.25 and -20.00; Cordage 70.00 and 9.75; Ferry 3.00; 213.00 in all.
    let show = "show = [\"count\", { sum = \"Amount\" }, { median = \"Amount\" }, { distinct = \"Issued\" }, \"share\", { share = \"Amount\" }]";
    let (columns, rows) =
        table(&desk(&format!("by = [\"Customer\"]\n{show}\norder = \"Amount, sum, largest first\"\n")));
    assert_eq!(
        columns,
        ["Customer", "count", "Amount, sum", "Amount, median", "Issued, distinct", "share", "Amount, share"]
    );
    // 3, 2 and 1 of 6 rows; 130.25, 79.75 and 3.00 of 213.00 are 61.150…, 37.441… and 1.408…, which lack a tenth.
    assert_eq!(
        rows,
        [
            ["Heron Charters", "3", "130.25", "50.25", "2", "50.0", "61.2"],
            ["Cordage & Co.", "2", "79.75", "39.88", "2", "33.3", "37.4"],
            ["=Ferry", "1", "3.00", "3.00", "0", "16.7", "1.4"],
            ["Total", "6", "213.00", "30.00", "4", "100.0", "100.0"],
        ]
    );
    let top = format!("by = [\"Customer\"]\n{show}\norder = \"Amount, sum, largest first\"\ntop = 1\n");
    let (_, rows) = table(&desk(&top));
    // The others are worked out from their rows: the median of 3.00, 9.75 and 70.00.
    assert_eq!(rows[1], ["the other 2", "3", "82.75", "9.75", "2", "50.0", "38.8"]);
    let (_, rows) = table(&desk(&format!("by = [\"Customer\"]\n{show}\norder = \"Amount, median\"\n")));
    assert_eq!(
        rows.iter().map(|row| row[3].as_str()).collect::<Vec<_>>(),
        ["3.00", "39.88", "50.25", "30.00"]
    );
}

#[test]
fn a_distribution_has_a_bar_a_row() {
    let desk = desk("by = [\"Band\"]\nshow = [\"count\", { sum = \"Amount\" }]\nbars = \"Amount, sum\"\n");
    let rows = "Invoice,Customer,Issued,Paid,Amount\nA1,x,30/09/2026,,100.00\nA2,x,31/08/2026,,50.00\nA3,x,30/08/2026,,0.10\nA4,x,,,-5.00\n";
    desk.write("records.csv", rows);
    let answer = desk.run_plan();
    let (_, summary) = answer.out.split_once("\nSummary\n").unwrap();
    let (summary, _) = summary.split_once("\nExceptions").unwrap();
    assert_snapshot!(summary.lines().map(|line| format!("{}\n", line.trim_end())).collect::<String>());
}

#[test]
fn periods_stand_beside_earlier_ones() {
    let desk = desk(
        "by = [{ period = \"quarter\", of = \"Issued\" }]\nshow = [\"count\", { sum = \"Amount\" }]\nbeside = [\"period before\", \"year before\"]\n",
    );
    let rows = "Invoice,Customer,Issued,Paid,Amount\nA1,x,30/06/2025,,10.00\nA2,x,01/07/2025,,20.00\nA3,x,31/12/2025,,30.00\nA4,x,29/02/2024,,40.00\nA5,x,01/04/2026,,50.00\nA6,x,,,60.00\n";
    desk.write("records.csv", rows);
    let (columns, rows) = table(&desk);
    assert_eq!(
        columns[1..],
        [
            "count",
            "Amount, sum",
            "count, period before",
            "Amount, sum, period before",
            "count, year before",
            "Amount, sum, year before"
        ]
    );
    // From the first quarter with a row to the last, all of them; before the first nothing is known.
    let cells: Vec<String> = rows.iter().map(|row| row.join("|")).collect();
    assert_eq!(
        cells,
        [
            "2024-Q1|1|40.00||||",
            "2024-Q2|0|0.00|1|40.00||",
            "2024-Q3|0|0.00|0|0.00||",
            "2024-Q4|0|0.00|0|0.00||",
            "2025-Q1|0|0.00|0|0.00|1|40.00",
            "2025-Q2|1|10.00|0|0.00|0|0.00",
            "2025-Q3|1|20.00|1|10.00|0|0.00",
            "2025-Q4|1|30.00|1|20.00|0|0.00",
            "2026-Q1|0|0.00|1|30.00|0|0.00",
            "2026-Q2|1|50.00|0|0.00|1|10.00",
            "No date|1|60.00||||",
            "Total|6|210.00||||",
        ]
    );
    // Weeks have no month: 52 weeks before. 2026-06-30 is a Tuesday, and so is 2025-07-01.
    let weekly = desk
        .read("plan.toml")
        .replace("\"quarter\"", "\"week\"")
        .replace("[\"period before\", \"year before\"]", "\"year before\"");
    desk.write("plan.toml", weekly);
    desk.write(
        "records.csv",
        "Invoice,Customer,Issued,Paid,Amount\nA1,x,01/07/2025,,10.00\nA2,x,30/06/2026,,20.00\n",
    );
    let (_, rows) = table(&desk);
    assert_eq!((rows.len(), rows[52].join("|").as_str()), (54, "2026-W27|1|20.00|1|10.00"));
}

#[test]
fn groups_laid_across_the_page() {
    let desk = desk(
        "by = [\"Customer\"]\ncolumns_by = { period = \"month\", of = \"Issued\" }\nshow = [{ sum = \"Amount\" }]",
    );
    desk.write("plan.toml", desk.read("plan.toml").replace("as_of = 2026-09-30", "as_of = 2026-09-15"));
    let (columns, rows) = table(&desk);
    assert_eq!(
        columns,
        [
            "Customer",
            "2026-06",
            "2026-07",
            "2026-08",
            "2026-09, unfinished",
            "No date",
            "Unreadable",
            "Total"
        ]
    );
    assert_eq!(
        rows,
        [
            ["=Ferry", "0.00", "0.00", "0.00", "0.00", "3.00", "0.00", "3.00"],
            ["Cordage & Co.", "9.75", "0.00", "70.00", "0.00", "0.00", "0.00", "79.75"],
            ["Heron Charters", "0.00", "0.00", "50.25", "100.00", "0.00", "-20.00", "130.25"],
            ["Total", "9.75", "0.00", "120.25", "100.00", "3.00", "-20.00", "213.00"],
        ]
    );
    let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert!(answer.out.contains("Summary: Amount, sum; columns: Issued by month"), "{}", answer.out);
}

#[test]
fn numbers_that_name_a_place_are_not_summed() {
    let column =
        "[[column]]\nname = \"Month\"\nperiod = \"month\"\nof = \"Issued\"\ngives = \"number\"\n[[report]]";
    let desk = desk("by = [\"Customer\"]\nshow = [{ sum = \"Month\" }]");
    desk.write("plan.toml", desk.read("plan.toml").replacen("[[report]]", column, 1));
    assert_snapshot!(desk.run_plan().err);
}

#[test]
fn empty_buckets_are_shown_in_every_layout() {
    const ALL: [&str; 4] = ["Not yet due", "1–30", "31–60", "Over 60"];
    let rows = |summary: &str, records: &str| {
        let desk = desk(summary);
        desk.write("records.csv", records);
        table(&desk)
    };
    let records = "Invoice,Customer,Issued,Paid,Amount\nA1,Heron,30/09/2026,,100.00\nA2,,,,50.25\n";
    // Inside a blank customer, and inside no date.
    for by in ["\"Customer\"", "{ period = \"month\", of = \"Issued\" }"] {
        let (_, rows) = rows(&format!("by = [{by}, \"Band\"]\nshow = [\"count\"]"), records);
        let blank: Vec<&str> = rows
            .iter()
            .filter(|row| ["(blank)", "No date"].contains(&row[0].as_str()))
            .map(|row| row[1].as_str())
            .collect();
        assert_eq!(blank[..4], ALL, "{by}: {rows:?}");
    }
    // Outside of the customers.
    let (_, outer) = rows("by = [\"Band\", \"Customer\"]\nshow = [\"count\", { sum = \"Amount\" }]", records);
    let cells: Vec<Vec<&str>> = outer.iter().map(|row| row.iter().map(String::as_str).collect()).collect();
    assert_eq!(
        cells[..5],
        [
            vec!["Not yet due", "Heron", "1", "100.00"],
            vec!["1–30", "–", "0", "0.00"],
            vec!["31–60", "–", "0", "0.00"],
            vec!["Over 60", "–", "0", "0.00"],
            vec!["No date", "(blank)", "1", "50.25"],
        ]
    );
    // As columns, also where the only group is blank and where the file has only a header.
    for records in [
        "Invoice,Customer,Issued,Paid,Amount\nA2,,30/09/2026,,50.25\n",
        "Invoice,Customer,Issued,Paid,Amount\n",
    ] {
        let (header, _) =
            rows("by = [\"Customer\"]\ncolumns_by = \"Band\"\nshow = [{ sum = \"Amount\" }]", records);
        assert_eq!(header[1..5], ALL, "{header:?}");
    }
    // Buckets across, and buckets down.
    let (header, rows) = rows("by = [\"Band\"]\ncolumns_by = \"Customer\"\nshow = [\"count\"]", records);
    assert_eq!((header.len(), rows.len()), (4, 6), "{header:?} {rows:?}");
}
