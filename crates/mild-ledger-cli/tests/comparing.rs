//! Figures that are in the file already, besides those that a plan works out.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use serde_json::{Value, json};
use support::{Answer, Desk};

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30

[records]
file = "crew.csv"
key  = "Name"

[records.dates]
Hired = "iso"
Left  = { pattern = "iso", required = false }

[records.numbers]
Years = { decimals = 0 }
Days  = { decimals = 0 }

[[column]]
name    = "Years of service"
between = ["Hired", "as-of"]
count   = "complete years"

[[column]]
name    = "Days served"
between = ["Hired", "as-of"]
count   = "days"

[[cross_check]]
column = "Years"
ours   = "Years of service"

[[cross_check]]
column = "Days"
ours   = "Days served"

[output]
rows = "rows.csv"
"#;

/// Years by New Years passed, and days with both ends counted. Ida's New Years are those of 2025 and 2026, and her second year ends on 1
/// October; from 2024-10-01 to 2026-09-30 are 729 days: 365 to 2025-10-01, and 365 less a day.
const CREW: &str = "Name,Hired,Left,Years,Days
Ida,2024-10-01,,2,730
Olav,2024-09-30,,2,731
Runa,2025-12-31,,1,274
Sten,2026-01-01,,0,273
Tove,,,1,
Ulf,2026-09-30,,,1
";

fn compared(answer: &Answer) -> Vec<Value> {
    assert_eq!(answer.code, 0, "{}", answer.err);
    let object: Value = serde_json::from_str(&answer.out).unwrap();
    object["cross_checked"].as_array().unwrap().clone()
}

fn desk() -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", PLAN);
    desk.write("crew.csv", CREW);
    desk
}

#[test]
fn differences_are_counted_shown_and_explained() {
    let desk = desk();
    let pairs = compared(&desk.mild(&["run", "plan.toml", "--json"]));
    let counts = |pair: &Value| {
        ["equal", "different", "only_in_file", "only_added", "neither"].map(|key| pair[key].as_u64().unwrap())
    };
    // Olav's two years are right, and Sten's none; Ida and Runa had a New Year more than years.
    assert_eq!(counts(&pairs[0]), [2, 2, 1, 1, 0]);
    assert_eq!(pairs[0]["explained"], json!([{ "way": "year starts passed", "rows": 2 }]));
    assert_eq!(counts(&pairs[1]), [0, 5, 0, 0, 1]);
    assert_eq!(
        (&pairs[1]["explained"], &pairs[1]["apart"]),
        (&json!([{ "way": "days, ends first-and-last", "rows": 5 }]), &json!("1"))
    );
    assert_eq!(
        pairs[0]["examples"][0],
        json!({ "key": "Ida", "place": "row 1 (line 2)", "theirs": "2", "ours": "1" })
    );
    let out = desk.mild(&["run", "plan.toml"]).out;
    let from = out.find("Cross-check").unwrap();
    insta::assert_snapshot!("columns_compared", &out[from..out.find("\nProof").unwrap()]);
}

#[test]
fn what_no_way_explains_is_said_so_and_dates_and_signs_are_compared_too() {
    let desk = desk();
    // Years that are right but for one, which nothing tells.
    desk.write(
        "crew.csv",
        CREW.replace("Ida,2024-10-01,,2", "Ida,2024-10-01,,19")
            .replace("Runa,2025-12-31,,1", "Runa,2025-12-31,,0"),
    );
    let answer = desk.mild(&["run", "plan.toml"]);
    assert!(
        answer.out.contains("No other way of counting explains the difference of \"Years\"."),
        "{}",
        answer.out
    );
    // Ends the wrong way round.
    desk.write(
        "crew.csv",
        CREW.replace(",730", ",-729")
            .replace(",731", ",-730")
            .replace(",274", ",-273")
            .replace(",273", ",-272")
            .replace(",1\n", ",0\n"),
    );
    let pairs = compared(&desk.mild(&["run", "plan.toml", "--json"]));
    assert_eq!(pairs[1]["explained"], json!([{ "way": "start and end exchanged", "rows": 4 }]));
    // A date two days off in every row.
    let dated = PLAN.replace(
        "count   = \"complete years\"",
        "count   = \"complete years\"\n\n[[column]]\nname = \"Term\"\nfrom = \"Hired\"\nshift = \"2 days\"",
    );
    desk.write(
        "plan.toml",
        dated.replace(
            "column = \"Years\"\nours   = \"Years of service\"",
            "column = \"Hired\"\nours = \"Term\"",
        ),
    );
    let pairs = compared(&desk.mild(&["run", "plan.toml", "--json"]));
    assert_eq!((&pairs[0]["different"], &pairs[0]["apart"]), (&json!(5), &json!("-2 days")));
}

#[test]
fn what_cannot_be_compared_is_a_mistake() {
    for (from, to, error) in [
        ("column = \"Years\"", "column = \"Name\"", "\"Name\" holds text, and \"Years of service\" numbers"),
        ("ours   = \"Years of service\"", "ours = \"Days\"", "a column that the plan adds"),
        ("ours   = \"Years of service\"", "", "ours is missing"),
        ("column = \"Years\"", "column = \"Years of service\"", "a column of the file"),
    ] {
        let desk = desk();
        desk.write("plan.toml", PLAN.replacen(from, to, 1));
        let answer = desk.mild(&["run", "plan.toml"]);
        assert_eq!(answer.code, 2);
        assert!(answer.err.contains(error), "{}", answer.err);
    }
}
