//! `mild add`: columns that lines of words define, on a file without a plan.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use mild_ledger_records::ColumnLine;
use proptest::prelude::*;
use proptest::strategy::ValueTree;
use proptest::test_runner::{Config, RngAlgorithm, TestRng, TestRunner};
use support::{Answer, Desk};

const ORDERS: &str = "Order,Customer,Ordered,Shipped,Amount,Units,Terms,Note
O-1,Harbour Lane,29/09/2026,02/10/2026,\"1,250.00\",3,net 30,
O-2,Mill Race,1/9/2026,30/09/2026,80.50,0,15 prox,\"a, b\"
O-3,Mill Race,28/09/2026,n/a,12.00,12,soon,=1+1
O-4,Quay Stores,31/06/2026,15/07/2026,99.00,,2/10 net 30,
O-5,Quay Stores,13/08/2026,,-5.00,4,,last
O-6,Quay Stores,25/08/2026,26/08/2026,5.25,7,net 10,
O-7,Harbour Lane,17/08/2026,30/08/2026,0.00,1,COD,
";

fn desk() -> Desk {
    let desk = Desk::new();
    desk.write("orders.csv", ORDERS);
    desk
}

fn add(desk: &Desk, more: &[&str]) -> Answer {
    let patterns = ["--date-pattern", "Ordered=day/month/year", "--date-pattern", "Shipped=day/month/year"];
    desk.mild(&[&["add", "orders.csv"], more, &patterns].concat())
}

#[test]
fn rows_get_columns_and_keep_their_texts() {
    let answer = add(
        &desk(),
        &[
            "--column",
            "Days = working days from Ordered to Shipped on england-wales",
            "--column",
            "Due = Ordered + 2 months, month end",
            "--column",
            "Each = Amount / Units",
            "--column",
            "Late = yes when Days over 10 else no",
        ],
    );
    assert_snapshot!(answer.all());
}

#[test]
fn a_file_gets_the_rows_and_nothing_else_is_left() {
    let desk = desk();
    let days = "Days = working days from Ordered to Shipped";
    for (name, begins) in
        [("a.csv", "Order,"), ("a.jsonl", "{\"Order\""), ("a.xlsx", "PK"), ("a.tsv", "Order\t")]
    {
        let answer = add(&desk, &["--column", days, "--to", name]);
        assert_eq!(answer.code, 0, "{}", answer.err);
        assert!(answer.err.contains("no calendar is named"), "{}", answer.err);
        assert!(std::fs::read(desk.path(name)).unwrap().starts_with(begins.as_bytes()), "{name}");
        let again = add(&desk, &["--column", days, "--to", name]);
        assert_eq!((again.code, again.err.contains("exists already")), (2, true), "{}", again.err);
        assert_eq!(add(&desk, &["--column", days, "--to", name, "--overwrite"]).code, 0);
    }
    assert_eq!(desk.files(), ["a.csv", "a.jsonl", "a.tsv", "a.xlsx", "orders.csv"]);
    let own = add(&desk, &["--column", days, "--to", "./orders.csv"]);
    assert_eq!((own.code, own.err.contains("is the file of records")), (2, true), "{}", own.err);
    assert_eq!(desk.read("orders.csv"), ORDERS);
    // Only where asked, and with a copy of each time.
    for copy in ["orders-before.csv", "orders-before-2.csv"] {
        let before = desk.read("orders.csv");
        let own =
            add(&desk, &["--column", &format!("{copy} = Amount + 1"), "--to", "orders.csv", "--overwrite"]);
        assert_eq!((own.code, own.out.contains(&format!("{copy} is a copy"))), (0, true), "{}", own.err);
        assert_eq!(desk.read(copy), before);
    }
    assert!(
        desk.read("orders.csv")
            .starts_with("Order,Customer,Ordered,Shipped,Amount,Units,Terms,Note,orders-before.csv,")
    );
}

#[test]
fn a_workbook_shows_new_dates_as_the_file_does() {
    let desk = desk();
    let answer = add(&desk, &["--column", "Due = Ordered + 1 month", "--to", "a.xlsx"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    let mut workbook = zip::ZipArchive::new(std::fs::File::open(desk.path("a.xlsx")).unwrap()).unwrap();
    let styles = std::io::read_to_string(workbook.by_name("xl/styles.xml").unwrap()).unwrap();
    assert!(styles.contains("formatCode=\"dd\\/mm\\/yyyy\""), "{styles}");
    // A reader of the file meets a date.
    let looked = desk.mild(&["look", "a.xlsx"]).out;
    assert!(looked.contains("Due: date, 6 values, 1 blank"), "{looked}");
}

#[test]
fn rows_that_cannot_be_read_are_kept_next_to_the_others() {
    let desk = Desk::new();
    desk.write(
        "orders.csv",
        "Order,Ordered,Shipped\nO-1,2026-09-29,2026-10-02\nO-2,2026-09-01,2026-09-30,more\n",
    );
    let answer =
        desk.mild(&["add", "orders.csv", "--column", "Days = days from Ordered to Shipped", "--to", "a.csv"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(desk.read("a.csv"), "Order,Ordered,Shipped,Days\nO-1,2026-09-29,2026-10-02,3\n");
    assert!(desk.read("a-exceptions.csv").contains("O-2"), "{}", desk.read("a-exceptions.csv"));
    assert!(answer.out.contains("a-exceptions.csv has the rows that were set aside"), "{}", answer.out);
    // Also where other names have the word.
    std::fs::create_dir(desk.path("exceptions")).unwrap();
    let rows = "exceptions/b-exceptions.csv";
    let answer =
        desk.mild(&["add", "orders.csv", "--column", "Days = days from Ordered to Shipped", "--to", rows]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(desk.read(rows), desk.read("a.csv"));
    assert_eq!(desk.read("exceptions/b-exceptions-exceptions.csv"), desk.read("a-exceptions.csv"));
}

#[test]
fn a_wrong_line_has_a_caret_and_nothing_is_written() {
    let answer = add(
        &desk(),
        &[
            "--column",
            "Days = wroking days from Ordered to Shipped",
            "--column",
            "Due = Orderd + 2 moths",
            "--when",
            "Amount above 5",
            "--to",
            "a.csv",
        ],
    );
    assert_snapshot!("lines that cannot be read", answer.all());
    let answer = add(
        &desk(),
        &[
            "--column",
            "Days = working days from Orderd to Shipped",
            "--column",
            "Sum = Amount + Shipped",
            "--when",
            "Amonut over 5",
        ],
    );
    assert_snapshot!("lines with other columns", answer.all());
}

#[test]
fn a_row_shows_its_working() {
    let answer = add(
        &desk(),
        &[
            "--column",
            "Days = working days from Ordered to Shipped on england-wales",
            "--why",
            "--row",
            "O-2",
            "--key",
            "Order",
        ],
    );
    assert_snapshot!(answer.all());
}

#[test]
fn conditions_choose_the_rows() {
    let rows = |conditions: &[&str]| {
        let more: Vec<&str> = conditions.iter().flat_map(|line| ["--when", line]).collect();
        let answer = add(
            &desk(),
            &[&["--column", "N = Units + 0", "--as-of", "2026-09-30"], more.as_slice()].concat(),
        );
        assert_eq!(answer.code, 0, "{}", answer.err);
        let orders = answer.out.lines().skip(1).map(|line| line[..3].to_owned());
        orders.collect::<Vec<_>>().join(" ")
    };
    assert_eq!(rows(&["Shipped is blank"]), "O-5");
    assert_eq!(rows(&["Shipped is unreadable"]), "O-3");
    assert_eq!(rows(&["Amount over 50 and Customer is not Mill Race"]), "O-1 O-4");
    assert_eq!(rows(&["Amount over 50", "Customer is not \"Mill Race\""]), "O-1 O-4");
    assert_eq!(rows(&["Customer is Mill Race or Customer is Harbour Lane"]), "O-1 O-2 O-3 O-7");
    assert_eq!(rows(&["(Customer is Mill Race or Amount under 0) and Units at least 4"]), "O-3 O-5");
    assert_eq!(rows(&["Customer is any of Mill Race or Harbour Lane"]), "O-1 O-2 O-3 O-7");
    assert_eq!(rows(&["Customer is any of (Mill Race or Harbour Lane) and Units over 0"]), "O-1 O-3 O-7");
    assert_eq!(rows(&["Customer is any of Mill Race or Harbour Lane or Units is 7"]), "O-1 O-2 O-3 O-6 O-7");
    assert_eq!(rows(&["Customer is none of Mill Race or Harbour Lane"]), "O-4 O-5 O-6");
    assert_eq!(rows(&["Customer contains ar"]), "O-1 O-7");
    assert_eq!(rows(&["Customer begins with mill"]), "");
    assert_eq!(rows(&["Customer begins with mill in any case"]), "O-2 O-3");
    assert_eq!(rows(&["Customer is MILL RACE in any case"]), "O-2 O-3");
    assert_eq!(rows(&["Terms ends with 30 or Terms ends 10"]), "O-1 O-4 O-6");
    assert_eq!(rows(&["Note lacks a"]), "O-1 O-3 O-4 O-6 O-7");
    assert_eq!(rows(&["Note contains a or =1"]), "O-2 O-3 O-5");
    assert_eq!(rows(&["Ordered within last month"]), "O-5 O-6 O-7");
    assert_eq!(rows(&["Shipped over column Ordered and Shipped at most 2026-08-31"]), "O-6 O-7");
}

/// Lines of every kind over the columns of [`ORDERS`], made of random choices.
fn any_line() -> impl Strategy<Value = String> {
    let one_of =
        |all: &[&str]| prop::sample::select(all.iter().map(|text| (*text).to_owned()).collect::<Vec<_>>());
    let date = one_of(&["Ordered", "Shipped", "as-of", "2026-09-15", "\"Shipped\""]);
    let column = one_of(&["Ordered", "Shipped"]);
    let number = one_of(&["Amount", "Units", "2", "-1.5", "\"Units\""]);
    let count = one_of(&[
        "days",
        "complete weeks",
        "complete months",
        "month starts passed",
        "fractional years",
        "parts",
        "actual-360",
        "actual-365-fixed",
        "30-360-bond",
        "mean-365.25",
        "Days",
    ]);
    let amount = one_of(&[
        "30 days",
        "2 months",
        "1 year 1 month",
        "3W",
        "P1M",
        "Units in days",
        "Units in months",
        "-10 days",
    ]);
    let with = one_of(&[
        "",
        ", month end",
        ", on or after monday",
        ", month end keep",
        ", quarter start",
        ", month end next-start",
    ]);
    let roll = one_of(&["", ", following on england-wales", ", nearest on england-wales"]);
    let condition = one_of(&[
        "Amount over 50",
        "Shipped is blank",
        "Shipped is unreadable",
        "Customer is Mill Race",
        "Ordered within last month",
        "Shipped over column Ordered",
        "Units at most 4 and Units is not 0",
        "Note is blank or Amount under 0",
    ]);
    let period = one_of(&["month", "week", "fiscal quarter", "fiscal year", "week-year"]);
    let gives = one_of(&["first day", "last day", "number", "days", "label"]);
    let field =
        one_of(&["year", "month", "weekday", "iso week", "month name", "day of year", "ordinal date"]);
    prop_oneof![
        (count, date.clone(), column.clone())
            .prop_map(|(count, from, to)| format!("{count} from {from} to {to}")),
        (date, column.clone(), one_of(&["", ", ends last"]))
            .prop_map(|(from, to, ends)| format!("working days from {from} to {to} on england-wales{ends}")),
        (column.clone(), amount.clone(), with, roll.clone())
            .prop_map(|(from, amount, with, roll)| format!("{from} + {amount}{with}{roll}")),
        (column.clone(), amount).prop_map(|(from, amount)| format!("{from} - {amount}")),
        (one_of(&["net 30", "15 prox", "2/10 net 30 EOM", "column Terms"]), column.clone(), roll)
            .prop_map(|(terms, from, roll)| format!("{terms} from {from}{roll}")),
        (
            number,
            one_of(&["+", "-", "×", "÷", "*", "/"]),
            one_of(&["Amount", "Units"]),
            one_of(&["", ", 3 decimals"])
        )
            .prop_map(|(one, operator, other, decimals)| format!("{one} {operator} {other}{decimals}")),
        (
            one_of(&["yes", "column Note", "1", "Ordered"]),
            condition,
            one_of(&["", " else no", ", else column Terms"])
        )
            .prop_map(|(then, when, otherwise)| format!("{then} when {when}{otherwise}")),
        (gives, period.clone(), column.clone())
            .prop_map(|(gives, period, of)| format!("{gives} of the {period} of {of}")),
        (column.clone(), period).prop_map(|(of, period)| format!("{of} by {period}")),
        (field, column.clone()).prop_map(|(field, of)| format!("{field} of {of}")),
        column.clone().prop_map(|of| format!("age of {of}")),
        column.clone().prop_map(|of| format!("next anniversary of {of}, leap day next-start")),
        column.clone().prop_map(|from| format!("Amount per month since {from}, smallest 0.1")),
        column.clone().prop_map(|from| format!("tenure from {from} to Shipped in complete months")),
        column.clone().prop_map(|from| format!("first of {from}, Shipped, as-of")),
        column.prop_map(|of| format!("{of} is a working day on england-wales")),
        one_of(&["0, 5", "-1.5, 0, 20.25", "10"]).prop_map(|edges| format!("bucket of Amount by {edges}")),
        one_of(&["as-of", "\"a, b\"", "2026-02-28", "7.50", "column Customer"]).prop_map(|value| value),
    ]
}

#[test]
fn a_thousand_lines_are_the_tables_and_the_saved_plan() {
    const BATCHES: usize = 10;
    const LINES: usize = 100;
    let desk = desk();
    let mut random =
        TestRunner::new_with_rng(Config::default(), TestRng::deterministic_rng(RngAlgorithm::ChaCha));
    let any = any_line();
    for _ in 0..BATCHES {
        let lines: Vec<String> = (0..LINES)
            .map(|nth| format!("C{nth} = {}", any.new_tree(&mut random).unwrap().current()))
            .collect();
        let columns: Vec<&str> = lines.iter().flat_map(|line| ["--column", line.as_str()]).collect();
        let more = ["--as-of", "2026-09-30", "--to", "a.csv", "--overwrite", "--save-plan", "saved.toml"];
        let answer = add(&desk, &[columns.as_slice(), &more].concat());
        assert_eq!(answer.code, 0, "{}", answer.err);
        let saved = desk.read("saved.toml");
        let tables: String =
            lines.iter().map(|line| ColumnLine::read(line).unwrap().plan_text().to_owned() + "\n").collect();
        let (before, rest) = saved.split_once("column = [\n").unwrap();
        let (_, rest) = rest.split_once("\n]\n").unwrap();
        let (records, output) = rest.split_once("\n[output]\n").unwrap();
        desk.write(
            "tables.toml",
            format!("{before}{records}\n{tables}\n[output]\n{output}").replace("a.csv", "b.csv"),
        );
        desk.write("saved.toml", saved.replace("a.csv", "c.csv"));
        for plan in ["tables.toml", "saved.toml"] {
            let run = desk.mild(&["run", plan, "--overwrite"]);
            assert_eq!(run.code, 0, "{plan}: {}", run.err);
        }
        let added = desk.read("a.csv");
        assert!(added.starts_with("Order,") && added.lines().count() == 8);
        assert_eq!(desk.read("b.csv"), added);
        assert_eq!(desk.read("c.csv"), added);
        std::fs::remove_file(desk.path("saved.toml")).unwrap();
    }
}
