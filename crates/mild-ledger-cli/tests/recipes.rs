//! Every block of a plan on the pages runs: the recipes on the demo's files, the blocks of the reference as parts of a plan.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use support::Desk;

const INVOICES: &str = "plan = 1
as_of = 2026-09-30
[records]
file = \"invoices-2026-09-30.csv\"
key = \"Invoice\"
duplicates = \"set aside\"
[records.dates]
Issued = \"day/month/year\"
Paid = \"day/month/year\"
[records.amounts]
Amount = { decimals = 2 }
";
const JOBS: &str = "plan = 1
as_of = 2026-09-30
[records]
file = \"jobs-2026-09-30.csv\"
[records.dates]
\"Hauled out\" = \"day/month/year\"
Relaunched = { pattern = \"day/month/year\", blank = [\"-\"] }
[calendar.yard]
holidays = [\"yard.toml\"]
";
const LICENCES: &str = "plan = 1
as_of = 2026-09-30
[records]
file = \"licences-2026-09-30.csv\"
[records.dates]
From = \"day/month/year\"
To = \"day/month/year\"
[records.amounts]
Fee = { decimals = 2 }
";
const CREW: &str = "plan = 1
as_of = 2026-09-30
[records]
file = \"crew-2026-09-30.csv\"
[records.dates]
Born = \"iso\"
Start = \"iso\"
Left = \"iso\"
[records.numbers]
Repairs = { decimals = 0 }
";
const DUE: &str = "[[column]]\nname = \"Due\"\nfrom = \"Issued\"\nterms = \"net 30\"\n";
const YARD: &str = "[calendar.yard]\nholidays = [\"yard.toml\"]\n";
const OUTPUT: &str = "[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";

/// The blocks of TOML on a page.
fn blocks(page: &str) -> Vec<&str> {
    page.split("```toml\n").skip(1).map(|rest| rest.split("```").next().unwrap()).collect()
}

/// Runs a plan on the files of the demo.
fn run(plan: &str, what: &str) -> String {
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo", "."]).code, 0);
    desk.write("recipe.toml", plan);
    let answer = desk.mild(&["run", "recipe.toml", "--overwrite"]);
    assert_eq!(answer.code, 0, "{what}\n{plan}\n{}", answer.err);
    answer.out
}

#[test]
fn the_recipes_run_on_the_demo() {
    let receivables = include_str!("../../../docs/recipes/receivables.md");
    let out = run(&format!("{INVOICES}{}{OUTPUT}", blocks(receivables).concat()), "receivables");
    // The figures of the demo's own plan of the quarter.
    assert!(out.contains("55,682.41 owed by 14 values of Customer"), "{out}");
    let days_late = blocks(include_str!("../../../docs/recipes/days-late.md"));
    let out = run(&format!("{JOBS}{}{OUTPUT}", days_late[0]), "days late: jobs");
    assert!(out.contains("44 finished") && out.contains("90th percentile"), "{out}");
    let out = run(&format!("{INVOICES}{DUE}{}{OUTPUT}", days_late[1]), "days late: invoices");
    assert!(out.contains("Days late, median"), "{out}");
    let contracts = include_str!("../../../docs/recipes/contracts.md");
    let out = run(&format!("{LICENCES}{}{OUTPUT}", blocks(contracts).concat()), "contracts");
    assert!(out.contains("Recognised to date") && out.contains("Notice by"), "{out}");
    let people = include_str!("../../../docs/recipes/people.md");
    let out = run(&format!("{CREW}{}{OUTPUT}", blocks(people).concat()), "people");
    assert!(out.contains("16 in service"), "{out}");
    let targets = include_str!("../../../docs/recipes/targets.md");
    let out = run(&format!("{INVOICES}{YARD}{}{OUTPUT}", blocks(targets).concat()), "targets");
    assert!(out.contains("228,347.75 of 305,000.00"), "{out}");
    let checking = include_str!("../../../docs/recipes/checking.md");
    let own = CREW.replace("[records.numbers]\n", "[records.numbers]\n\"Their months\" = { decimals = 0 }\n");
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo", "."]).code, 0);
    let crew: String = desk
        .read("crew-2026-09-30.csv")
        .lines()
        .enumerate()
        .map(|(nth, line)| format!("{line},{}\n", if nth == 0 { "Their months" } else { "40" }))
        .collect();
    desk.write("crew-2026-09-30.csv", crew);
    desk.write("recipe.toml", format!("{own}{}{OUTPUT}", blocks(checking).concat()));
    let answer = desk.mild(&["run", "recipe.toml", "--overwrite"]);
    assert!(answer.out.contains("Cross-check"), "{}{}", answer.out, answer.err);
}

#[test]
fn the_blocks_of_the_reference_run() {
    let whole = blocks(include_str!("../../../docs/plan/README.md"));
    run(whole[0], "plan/README");
    let front = blocks(include_str!("../../../README.md"));
    let out = run(front[0], "README");
    assert!(out.contains("58,601.75 owed by 14 values of Customer"), "{out}");
    let records = blocks(include_str!("../../../docs/plan/records.md"));
    run(&format!("{INVOICES}{}{OUTPUT}", records[0]), "plan/records");
    let joins = blocks(include_str!("../../../docs/plan/joins.md"));
    let payments =
        joins[1].replace("payments.csv", "payments-2026-09-30.csv").replace("\"iso\"", "\"day/month/year\"");
    run(&format!("{INVOICES}{payments}{OUTPUT}"), "plan/joins, payments");
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo", "."]).code, 0);
    desk.write(
        "customers.csv",
        "Name,Region,Since\nHeron Charters,West,01/02/2020\nHeron Charters,North,01/02/2024\n",
    );
    desk.write("recipe.toml", format!("{INVOICES}{}{OUTPUT}", joins[0]));
    let answer = desk.mild(&["run", "recipe.toml", "--overwrite"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(desk.read("rows.csv").contains("North"), "the latest row counts");
    let columns = blocks(include_str!("../../../docs/plan/columns.md"));
    run(&format!("{CREW}{}{OUTPUT}", columns[0]), "plan/columns");
    for (page, count) in [(whole.len(), 1), (records.len(), 1), (joins.len(), 2), (columns.len(), 1)] {
        assert_eq!(page, count, "a block that is not run");
    }
}
