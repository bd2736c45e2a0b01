//! One larger file with every fault that files have: each is found and named with its row, and the proof adds up.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // a test fails by panicking

mod support;

use std::collections::BTreeMap;
use support::Desk;

const ROWS: usize = 3_000;

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30
control = { rows = 3000 }

[records]
file = "jobs.csv"
separator = ";"
encoding = "windows-1252"
header_line = 3
key = "Job"
duplicates = "set aside"

[records.dates]
Started = { pattern = ["day/month/year", "iso"], blank = "-" }
Ended   = { pattern = "day/month/short-year", pivot = 1950, time = "drop" }

[records.amounts]
Price = { decimals = 2, decimal_mark = "comma", thousands = "point", negatives = "brackets", signs = "€" }

[records.numbers]
Weeks = { decimals = 0 }

[[column]]
name    = "Days"
between = ["Started", "Ended"]
count   = "days"

[[bound]]
column   = "Days"
at_least = 0

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// The cells of a sound row, and those of the rows with a fault: by the number of the row, with the reason that is expected.
fn row(number: usize) -> (Vec<String>, Option<&'static str>) {
    let day = number % 28 + 1;
    let mut cells: Vec<String> = vec![
        format!("J{number}"),
        format!("S\u{f8}n & Caf\u{e9} {}", number % 7),
        format!("{day:02}/09/2026"),
        format!("{day:02}/10/26"),
        "1.250,50 €".to_owned(),
        (number % 9).to_string(),
    ];
    let mut set = |place: usize, text: &str| text.clone_into(&mut cells[place]);
    let fault = match number {
        100 => Some((2, "31/06/2026", "a day that does not exist")),
        101 => Some((2, "soon", "unreadable date")),
        102 => Some((2, "2026-09-01 14:30", "time dropped")),
        103 => Some((3, "31/12/99", "outside its bounds")),
        104 => Some((2, "9999-12-31", "placeholder, taken as blank")),
        105 => Some((2, "01/01/1970", "perhaps a placeholder")),
        106 => Some((4, "$5,00", "unreadable amount")),
        107 => Some((4, "", "no amount")),
        108 => Some((4, "1,250.00", "unreadable amount")),
        109 => Some((5, "many", "unreadable number")),
        110 => Some((0, "J5", "repeated key")),
        111 => Some((3, "01/01/26", "outside its bounds")),
        112 => Some((2, "-", "no fault")),
        113 => Some((4, "(8,25 €)", "no fault")),
        _ => None,
    };
    let reason = fault.map(|(place, text, reason)| {
        set(place, text);
        reason
    });
    match number {
        114 => cells.push("one too many".to_owned()),
        115 => cells.truncate(3),
        116 => cells[1] = "a \"stray\" quote".to_owned(),
        117 => {
            cells = ["Job", "Customer", "Started", "Ended", "Price", "Weeks"].map(str::to_owned).to_vec();
        }
        _ => {}
    }
    let broken = match number {
        114 => Some("too many cells"),
        115 => Some("too few cells"),
        116 => Some("stray quote"),
        117 => Some("the header again"),
        _ => reason.filter(|reason| *reason != "no fault"),
    };
    (cells, broken)
}

fn file() -> Vec<u8> {
    let mut text =
        "Quillhaven Boatyard\nJobs of the year\nJob;Customer;Started;Ended;Price;Weeks\n".to_owned();
    for number in 1..=ROWS {
        text += &(row(number).0.join(";") + "\r\n");
    }
    // The euro character is a byte of Windows-1252 that is none of Latin-1.
    text.chars().map(|sign| if sign == '€' { 0x80 } else { u8::try_from(u32::from(sign)).unwrap() }).collect()
}

#[test]
fn every_fault_is_named_with_its_row_and_the_proof_adds_up() {
    let desk = Desk::new();
    desk.write("plan.toml", PLAN);
    desk.write("jobs.csv", file());
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    let expected: BTreeMap<usize, &str> =
        (1..=ROWS).filter_map(|number| Some((number, row(number).1?))).collect();
    let exceptions = desk.read("exceptions.csv");
    let mut found: BTreeMap<usize, String> = BTreeMap::new();
    for line in exceptions.lines().skip(1) {
        let number: usize = line.split(',').nth(1).unwrap().parse().unwrap();
        let reason = expected.get(&number).unwrap_or_else(|| panic!("row {number} has no fault: {line}"));
        assert!(line.contains(reason), "row {number}, {reason}: {line}");
        found.insert(number, line.to_owned());
    }
    assert_eq!(found.len(), expected.len(), "{found:#?}");
    // 106, 107, 108, 110 and the four broken rows are set aside; the rest stays.
    let rows = &json["rows"];
    assert_eq!(
        (&rows["read"], &rows["set_aside"], &rows["written"]),
        (&3_000.into(), &8.into(), &2_992.into())
    );
    // Every sound row is 1,250.50, and row 113 is 8.25 below zero; the repeated key was read and set aside.
    let amounts = &json["amounts"][0];
    let cents = |rows: i64| rows * 125_050;
    let shown = |cents: i64| format!("{}.{:02}", cents / 100, cents % 100);
    assert_eq!(amounts["written"], shown(cents(2_991) - 825));
    assert_eq!(amounts["set_aside"], shown(cents(1)));
    assert_eq!(amounts["read"], shown(cents(2_992) - 825));
    assert_eq!((&amounts["unreadable_rows"], &json["control"][0]["agrees"]), (&7.into(), &true.into()));
    assert_eq!(json["unreadable_cells"], 3);
}

#[test]
fn looking_at_it_finds_how_it_is_written_and_what_is_wrong() {
    let desk = Desk::new();
    desk.write("jobs.csv", file());
    let found = desk.mild(&["look", "jobs.csv", "--json"]).json();
    assert_eq!(
        (&found["separator"], &found["header_line"], &found["encoding"]),
        (&";".into(), &3.into(), &"windows-1252".into())
    );
    assert_eq!(found["rows"], 3_000);
    let broken: Vec<(&str, u64)> = found["broken"]
        .as_array()
        .unwrap()
        .iter()
        .map(|broken| (broken["reason"].as_str().unwrap(), broken["rows"][0].as_u64().unwrap()))
        .collect();
    let expected =
        [("stray quote", 116), ("the header again", 117), ("too few cells", 115), ("too many cells", 114)];
    assert_eq!(broken, expected);
    let column = |nth: usize| &found["columns"][nth];
    assert_eq!(column(0)["repeated_in"], serde_json::json!([5, 110]));
    // Dates of two patterns, and what is not a date: the rows that the first of them does not read.
    assert_eq!(
        (&column(2)["verdict"], &column(2)["patterns"][0]),
        (&"none".into(), &"day/month/year".into())
    );
    let failed: Vec<u64> = column(2)["failures"]
        .as_array()
        .unwrap()
        .iter()
        .map(|value| value["row"].as_u64().unwrap())
        .collect();
    assert_eq!(failed, [100, 101, 102, 112]);
    assert_eq!(column(2)["fillers"][0]["rows"], serde_json::json!([104]));
    assert_eq!(column(4)["format"], "$ 1.234,56 or ($ 1.234,56)");
    assert_eq!((&column(4)["verdict"], &column(4)["failures"][0]["row"]), (&"none".into(), &108.into()));
    assert_eq!(
        (&column(3)["wants"]["pattern"], &column(5)["kind"]),
        (&"day/month/short-year".into(), &"whole number".into())
    );
}

#[test]
fn five_thousand_columns_are_looked_at_and_run_in_bounded_memory() {
    let header: Vec<String> = (0..5_000).map(|nth| format!("C{nth}")).collect();
    let row = |nth: usize| {
        (0..5_000).map(|column| format!("{:02}/09/2026", (nth + column) % 28 + 1)).collect::<Vec<_>>()
    };
    let rows: String = (0..40).map(|nth| row(nth).join(",") + "\n").collect();
    let desk = Desk::new();
    desk.write("wide.csv", header.join(",") + "\n" + &rows);
    let found = desk.mild(&["look", "wide.csv", "--json"]).json();
    let columns = found["columns"].as_array().unwrap();
    assert_eq!(columns.len(), 5_000);
    assert!(columns.iter().all(|column| column["patterns"] == serde_json::json!(["day/month/year"])));
    desk.write("plan.toml", desk.mild(&["look", "wide.csv", "--plan"]).out);
    let json = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(json["rows"]["written"], 40);
    assert!(desk.read("wide-rows.csv").lines().nth(1).unwrap().starts_with("2026-09-01,2026-09-02,"));
}
