//! Columns joined from a second file by key.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use serde_json::{Value, json};
use std::collections::BTreeMap;
use support::Desk;

const RECORDS: &str = "Job,Customer,Issued,Amount
1,Heron Charters,30/09/2026,1.00
2,Cordage & Co.,31/08/2026,2.00
3,Old Lock Brewery,01/08/2026,4.00
4,,01/08/2026,8.00
5, Heron Charters ,01/01/2025,16.00
";

const CUSTOMERS: &str = "Name;Region;Since;Discount
Heron Charters;North;01.03.2020;2,5
Cordage & Co.;=1+1;;
Puffin Island Trips;West;01.01.2021;1,0
;East;01.01.2021;1,0
";

fn plan(join: &str) -> String {
    format!(
        "plan = 1
as_of = 2026-09-30
[records]
file = \"records.csv\"
key = \"Job\"
[records.dates]
Issued = \"day/month/year\"
[records.amounts]
Amount = {{ decimals = 2 }}
[[join]]
file = \"customers.csv\"
separator = \";\"
match = {{ Customer = \"Name\" }}
{join}
[join.dates]
Since = \"day.month.year\"
Until = \"day.month.year\"
[join.numbers]
Discount = {{ decimals = 1, decimal_mark = \"comma\" }}
[[column]]
name = \"Months\"
between = [\"Since\", \"Issued\"]
count = \"complete months\"
[output]
rows = \"rows.csv\"
exceptions = \"exceptions.csv\"
"
    )
}

fn desk(customers: &str, join: &str) -> Desk {
    let desk = Desk::new();
    desk.write("records.csv", RECORDS);
    desk.write("customers.csv", customers);
    // Only columns that are there may be named.
    let text = plan(join);
    let has = |name: &str| customers.lines().next().unwrap().split(';').any(|column| column == name);
    let text = if has("Until") { text } else { text.replace("Until = \"day.month.year\"\n", "") };
    let text = if has("Discount") {
        text
    } else {
        text.replace("[join.numbers]\nDiscount = { decimals = 1, decimal_mark = \"comma\" }\n", "")
    };
    desk.write("plan.toml", text);
    desk
}

fn rows(desk: &Desk) -> Vec<String> {
    desk.read("rows.csv").lines().map(str::to_owned).collect()
}

#[test]
fn columns_are_brought_typed_and_can_be_counted_with() {
    let desk = desk(CUSTOMERS, "columns = [\"Region\", \"Since\", \"Discount\"]");
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    // From 1 March 2020 to 30 September 2026: six years and six months; to 1 January 2025: four years and ten months.
    assert_eq!(
        rows(&desk),
        [
            "Job,Customer,Issued,Amount,Region,Since,Discount,Months",
            "1,Heron Charters,2026-09-30,1.00,North,2020-03-01,2.5,78",
            "2,Cordage & Co.,2026-08-31,2.00,'=1+1,,,",
            "3,Old Lock Brewery,2026-08-01,4.00,,,,",
            "4,,2026-08-01,8.00,,,,",
            "5, Heron Charters ,2025-01-01,16.00,North,2020-03-01,2.5,58",
        ]
    );
    assert_eq!(
        json["joined"],
        json!([{ "file": "customers.csv", "rows": 4, "usable_rows": 3, "blank_keys": 1, "keys": 3, "matched": 3,
                 "unmatched_records": 2, "unmatched_other": 1 }])
    );
    let exceptions = desk.read("exceptions.csv");
    for line in [
        "records.csv,3,4,3,Customer,Old Lock Brewery,no match: it is not in customers.csv,,cell left empty",
        "records.csv,4,5,4,Customer,,no match: a blank key matches nothing,,cell left empty",
        "customers.csv,3,4,Puffin Island Trips,,,matched by no record: no row has this Customer,,row not used",
    ] {
        assert!(exceptions.contains(line), "{line}\n{exceptions}");
    }
    assert_eq!(exceptions.lines().count(), 4);
    // The second file is an input of the run, and named in its receipt.
    assert!(desk.read("plan.receipt.toml").contains("file = \"customers.csv\""));
}

#[test]
fn rows_without_a_match_are_kept_set_aside_or_refused() {
    let with = |missing: &str| {
        desk(CUSTOMERS, &format!("columns = [\"Region\", \"Since\"]\nwithout_match = \"{missing}\""))
    };
    let aside = with("set aside");
    let json = aside.mild(&["run", "plan.toml", "--json"]).json();
    let counts = ["read", "written", "set_aside"].map(|key| json["rows"][key].clone());
    assert_eq!(counts, [json!(5), json!(3), json!(2)]);
    assert_eq!(json["amounts"][0]["set_aside"], "12.00");
    assert_eq!(rows(&aside).len(), 4);
    let refused = with("refuse").run_plan();
    assert_eq!(refused.code, 2);
    assert!(
        refused
            .err
            .contains("row 3 (line 4) of records.csv: \"Old Lock Brewery\": it is not in customers.csv"),
        "{}",
        refused.err
    );
    let kept = with("keep").run_plan();
    assert!(
        kept.code == 0
            && kept
                .out
                .contains("customers.csv     4     3             3                 2                 1"),
        "{}",
        kept.out
    );
}

const REPEATED: &str = "Name;Region;Since
Heron Charters;North;01.03.2020
Heron Charters;South;01.03.2022
Heron Charters;East;
Heron Charters;West;01.03.2021
Cordage & Co.;West;01.03.2021
Cordage & Co.;West;01.03.2021
";

#[test]
fn of_several_rows_of_a_key_a_stated_rule_says_which_counts() {
    let region = |duplicates: &str| {
        let desk = desk(REPEATED, &format!("columns = [\"Region\", \"Since\"]\n{duplicates}"));
        let answer = desk.run_plan();
        assert_eq!(answer.code, 0, "{}", answer.err);
        (
            rows(&desk)[1].split(',').nth(4).unwrap().to_owned(),
            rows(&desk)[2].split(',').nth(4).unwrap().to_owned(),
            desk,
        )
    };
    let said = |duplicates: &str| {
        let (heron, cordage, _) = region(duplicates);
        // Rows that bring the same are one.
        assert_eq!(cordage, "West", "{duplicates}");
        heron
    };
    assert_eq!(said("duplicates = \"first\""), "North");
    assert_eq!(said("duplicates = \"last\""), "West");
    assert_eq!(said("duplicates = { latest = \"Since\" }"), "South");
    assert_eq!(said("duplicates = { earliest = \"Since\" }"), "North");
    let (heron, _, desk) = region("");
    assert_eq!(heron, "");
    assert!(
        desk.read("exceptions.csv")
            .contains("several matches: rows 1 and 2 of customers.csv have it, and differ"),
        "{}",
        desk.read("exceptions.csv")
    );
    let refused = with_repeats("duplicates = \"refuse\"").run_plan();
    assert_eq!(refused.code, 2);
    assert!(refused.err.contains("is twice in customers.csv, in rows"), "{}", refused.err);
}

fn with_repeats(duplicates: &str) -> Desk {
    desk(REPEATED, &format!("columns = [\"Region\", \"Since\"]\n{duplicates}"))
}

#[test]
fn the_row_counts_whose_days_hold_a_date_of_ours() {
    let customers = "Name;Region;Since;Until
Heron Charters;North;;31.12.2024
Heron Charters;South;01.01.2025;29.09.2026
Heron Charters;East;30.09.2026;
Cordage & Co.;West;01.09.2026;
Old Lock Brewery;One;01.01.2026;01.08.2026
Old Lock Brewery;Two;01.08.2026;
";
    let desk = desk(
        customers,
        "columns = [\"Region\", \"Since\"]\nduplicates = { valid = [\"Since\", \"Until\"], on = \"Issued\" }",
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let regions: Vec<String> =
        rows(&desk)[1..].iter().map(|row| row.split(',').nth(4).unwrap().to_owned()).collect();
    assert_eq!(regions, ["East", "", "", "", "South"]);
    let exceptions = desk.read("exceptions.csv");
    assert!(exceptions.contains("no match: no row of customers.csv counts on 2026-08-31"), "{exceptions}");
    assert!(
        exceptions.contains("several matches: rows 5 and 6 of customers.csv have it, and differ"),
        "{exceptions}"
    );
}

#[test]
fn what_is_wrong_with_the_second_file_is_listed_and_sets_no_row_of_ours_aside() {
    let customers = format!("{CUSTOMERS}Kittiwake Rowing Club;North;soon;x\nToo;many;cells;in;it\n");
    let desk = desk(&customers, "columns = { Area = \"Region\", Since = \"Since\" }");
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!((&json["rows"]["set_aside"], &json["joined"][0]["usable_rows"]), (&json!(0), &json!(4)));
    let exceptions = desk.read("exceptions.csv");
    assert!(exceptions.contains("customers.csv,6,7,,,\"Too, many, cells, …\",\"too many cells: 5 cells, where the header has 4\",4 cells,row not used"), "{exceptions}");
    assert!(exceptions.contains("customers.csv,5,6,Kittiwake Rowing Club,Since,soon,"), "{exceptions}");
    assert!(rows(&desk)[0].ends_with(",Amount,Area,Since,Months"));
}

#[test]
fn mistakes_are_shown_where_they_stand() {
    for (join, said) in [
        ("columns = [\"Regio\"]", "nearest: \"Region\""),
        ("columns = [\"Amount\"]", "there is no column \"Amount\""),
        ("columns = { Amount = \"Region\" }", "there is a column \"Amount\" already"),
        ("columns = []", "no columns are named"),
        ("columns = [\"Region\"]\nwithout_match = \"drop\"", "\"drop\" is not a choice here"),
        ("columns = [\"Region\"]\nduplicates = { latest = \"Region\" }", "their \"Region\" holds text"),
        (
            "columns = [\"Region\"]\nduplicates = { newest = \"Since\" }",
            "this is not a rule for rows of one key",
        ),
        (
            "columns = [\"Region\"]\nduplicates = { valid = [\"Since\", \"Since\"], on = \"Customer\" }",
            "\"Customer\" holds text, not dates",
        ),
    ] {
        let desk = desk(CUSTOMERS, join);
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{join}: {}", answer.out);
        assert!(answer.err.contains(said), "{join}: {}", answer.err);
        assert!(!desk.files().contains(&"rows.csv".to_owned()));
    }
    let other = desk(CUSTOMERS, "columns = [\"Region\", \"Since\"]");
    other.write(
        "plan.toml",
        other.read("plan.toml").replace("{ Customer = \"Name\" }", "{ Issued = \"Name\" }"),
    );
    assert!(other.run_plan().err.contains("ours holds dates, theirs text"));
    other.write(
        "plan.toml",
        other
            .read("plan.toml")
            .replace("{ Issued = \"Name\" }", "{ Customer = \"Name\" }")
            .replace("\"rows.csv\"", "\"customers.csv\""),
    );
    let overwriting = other.run_plan();
    assert!(
        overwriting.err.contains("this output is a file that columns are joined from"),
        "{}",
        overwriting.err
    );
    assert_eq!(other.read("customers.csv"), CUSTOMERS);
}

#[test]
fn many_rows_are_matched_as_a_plain_map_matches_them() {
    let desk = Desk::new();
    let mut known: BTreeMap<u64, u64> = BTreeMap::new();
    let mut customers = "Name;Region;Since\n".to_owned();
    // Every third number, in an order of no sense, of which the last of several counts.
    for nth in 0..30_000_u64 {
        let key = nth * 7919 % 20_011 * 3;
        known.insert(key, nth);
        customers.push_str(&format!("K{key};R{nth};01.01.2020\n"));
    }
    let mut records = "Job,Customer,Issued,Amount\n".to_owned();
    for nth in 0..40_000_u64 {
        records.push_str(&format!("{nth},K{},01/01/2026,1.00\n", nth * 2));
    }
    desk.write("records.csv", &records);
    desk.write("customers.csv", &customers);
    let text = plan("columns = [\"Region\", \"Since\"]\nduplicates = \"last\"");
    let text = text
        .replace("Until = \"day.month.year\"\n", "")
        .replace("[join.numbers]\nDiscount = { decimals = 1, decimal_mark = \"comma\" }\n", "");
    desk.write("plan.toml", text);
    let json: Value = desk.mild(&["run", "plan.toml", "--json"]).json();
    let expected: Vec<String> = (0..40_000_u64)
        .map(|nth| known.get(&(nth * 2)).map_or_else(String::new, |row| format!("R{row}")))
        .collect();
    let found: Vec<String> =
        rows(&desk)[1..].iter().map(|row| row.split(',').nth(4).unwrap().to_owned()).collect();
    assert!(found == expected, "the regions of 40,000 rows");
    let matched = expected.iter().filter(|region| !region.is_empty()).count();
    assert_eq!(json["joined"][0]["matched"], matched);
    let asked: usize = known.keys().filter(|key| **key % 2 == 0 && **key < 80_000).count();
    assert_eq!(json["joined"][0]["unmatched_other"], known.len() - asked);
}

#[test]
fn an_inner_join_that_is_meant_leaves_rows_out_without_a_doubt() {
    let desk = desk(CUSTOMERS, "columns = [\"Region\"]\nwithout_match = \"leave out\"");
    let records: String = (0..40)
        .map(|nth| {
            let customer = if nth % 4 == 0 { "Heron Charters" } else { "Nobody" };
            format!("{nth},{customer},30/09/2026,1.00\n")
        })
        .collect();
    desk.write("records.csv", format!("Job,Customer,Issued,Amount\n{records}"));
    desk.write(
        "plan.toml",
        desk.read("plan.toml").replace(
            "[[column]]\nname = \"Months\"\nbetween = [\"Since\", \"Issued\"]\ncount = \"complete months\"\n",
            "",
        ),
    );
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(!answer.out.contains("Doubtful"), "{}", answer.out);
    let said = answer.out.split_whitespace().collect::<Vec<_>>().join(" ");
    assert!(
        said.contains("30 rows have no match in customers.csv and are not selected, as without_match states"),
        "{said}"
    );
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(
        (&json["rows"]["written"], &json["rows"]["not_selected"]),
        (&serde_json::json!(10), &serde_json::json!(30))
    );
    assert_eq!(json["amounts"][0]["not_selected"], "30.00");
    assert_eq!(rows(&desk).len(), 11);
    assert!(!desk.read("exceptions.csv").contains("Nobody"), "{}", desk.read("exceptions.csv"));
}

#[test]
fn several_differing_entries_are_never_missing() {
    let twice = format!("{CUSTOMERS}Heron Charters;South;01.03.2020;2,5\n");
    for missing in ["keep", "set aside", "leave out", "refuse"] {
        // All customers of the records but that of several entries are there once.
        let join = format!("columns = [\"Region\"]\nwithout_match = \"{missing}\"");
        let desk = desk(&twice, &join);
        desk.write(
            "records.csv",
            "Job,Customer,Issued,Amount\n1,Heron Charters,30/09/2026,1.00\n2,Cordage & Co.,31/08/2026,2.00\n",
        );
        desk.write("plan.toml", desk.read("plan.toml").replace("[[column]]\nname = \"Months\"\nbetween = [\"Since\", \"Issued\"]\ncount = \"complete months\"\n", ""));
        let answer = desk.mild(&["run", "plan.toml"]);
        assert_eq!(answer.code, 0, "{missing}: {}", answer.err);
        let rows = rows(&desk);
        assert_eq!(rows[1], "1,Heron Charters,2026-09-30,1.00,", "{missing}");
        let exceptions = desk.read("exceptions.csv");
        assert!(
            exceptions.contains("several matches") && exceptions.contains("cell left empty"),
            "{exceptions}"
        );
    }
}
