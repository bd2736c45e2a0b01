//! What a run finds and writes does not depend on where the file is cut, nor on how many work on the pieces.

use super::{RunRequest, Watch, run_with};
use crate::Plan;
use crate::source::ChunkSize;
use proptest::prelude::*;
use std::fs;
use std::num::NonZeroUsize;
use std::path::Path;
use std::sync::atomic::AtomicBool;

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30
[records]
file = "records.FORMAT"
key = "Key"
duplicates = "DUPLICATES"
[records.dates]
Issued = "day/month/year"
[records.amounts]
Amount = { decimals = 2, required = false }
[[column]]
name = "Days"
between = ["Issued", "as-of"]
count = "days"
[[column]]
name = "Band"
bucket = "Days"
edges = [0, 30]
[[report]]
kind = "aging"
band = "Band"
amount = "Amount"
by = "Key"
[output]
rows = "rows.FORMAT"
exceptions = "exceptions.csv"
"#;

/// How a run goes about it.
#[derive(Debug, Clone, Copy)]
struct Goes {
    size: Option<ChunkSize>,
    workers: usize,
    most_held: Option<usize>,
}

/// At one go.
const AT_ONE_GO: Goes = Goes { size: None, workers: 1, most_held: None };

/// All that a run shows and leaves, or how it ends.
fn left_by(folder: &Path, format: &str, goes: Goes) -> Vec<String> {
    let plan = Plan::read(&folder.join("plan.toml")).unwrap();
    let workers = NonZeroUsize::new(goes.workers).unwrap();
    let Goes { size: chunks, most_held, .. } = goes;
    let request = RunRequest { chunks, most_held, ..RunRequest::new().with_workers(workers) };
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    let outcome = match run_with(&plan, &request, watch, None, |_| {}) {
        Ok(outcome) => outcome,
        Err(error) => return vec![error.to_string()],
    };
    let rows = format!("rows.{format}");
    let files = [rows.as_str(), "exceptions.csv", "plan.receipt.toml"];
    let files = files.map(|name| fs::read_to_string(folder.join(name)).unwrap());
    // The next run finds the folder as this one did.
    for name in [rows.as_str(), "exceptions.csv", "plan.receipt.toml"] {
        fs::remove_file(folder.join(name)).unwrap();
    }
    std::iter::once(format!("{outcome:#?}")).chain(files).collect()
}

/// Lines as people write them, and as they should not.
fn lines_of_csv() -> impl Strategy<Value = String> {
    let piece = prop_oneof![
        6 => "[A-C],0[1-9]/0[1-9]/2026,[1-9]{1,3}\\.[0-9]{2}\n",
        2 => "\"[A-C]\",,\"-[1-9]\"\r\n",
        1 => "\"two\nlines\",0[1-9]/0[1-9]/2026,[1-9]\n",
        1 => prop::sample::select(vec!["\n", "\r\n\r\n", "A\n", "A,B,C,D\n", "Key,Issued,Amount\n", "x\"y,,\n", "\"a\nb\"c,,\n", "A,soon,1\r", "B,,much\n", "é,,1\n"])
            .prop_map(str::to_owned),
    ];
    prop::collection::vec(piece, 0..40).prop_map(|lines| format!("Key,Issued,Amount\n{}", lines.concat()))
}

fn lines_of_json() -> impl Strategy<Value = String> {
    let piece = prop_oneof![
        6 => "\\{\"Key\":\"[A-C]\",\"Issued\":\"0[1-9]/0[1-9]/2026\",\"Amount\":[1-9]{1,3}\\.[0-9]{2}\\}\n",
        1 => prop::sample::select(vec!["\n", " \r\n", "{}\n", "{\"Key\":1\n", "[1]\n", "{\"Amount\":\"much\"}\r\n"])
            .prop_map(str::to_owned),
    ];
    let first = "{\"Key\":\"A\",\"Issued\":\"01/02/2026\",\"Amount\":1}\n";
    prop::collection::vec(piece, 0..40).prop_map(move |lines| format!("{first}{}", lines.concat()))
}

fn check(
    text: &str,
    format: &str,
    (duplicates, order): (&str, &str),
    size: ChunkSize,
) -> Result<(), TestCaseError> {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join(format!("records.{format}")), text).unwrap();
    let plan = PLAN.replace("FORMAT", format).replace("DUPLICATES", duplicates);
    fs::write(folder.path().join("plan.toml"), format!("{plan}{order}")).unwrap();
    let whole = left_by(folder.path(), format, AT_ONE_GO);
    for workers in [1, 2, 3, 8] {
        let goes = Goes { size: Some(size), workers, ..AT_ONE_GO };
        prop_assert_eq!(&left_by(folder.path(), format, goes), &whole, "{:?}", goes);
    }
    Ok(())
}

/// What is joined: sums, the latest date of some rows among them, or one row of each key.
const JOINS: [&str; 3] = [
    "columns = { \"Paid so far\" = \"Paid\", \"Last paid\" = \"Date\" }\nduplicates = { sum_up_to_as_of = \"Date\" }\n",
    "columns = [\"Paid\", \"Note\"]\nduplicates = { latest = \"Date\" }\n",
    "columns = [\"Note\"]\n",
];

fn plan_with_join(join: &str) -> String {
    let of_theirs = format!(
        "[[join]]\nfile = \"payments.csv\"\nmatch = {{ Key = \"Key\" }}\n{join}[join.dates]\nDate = \"day/month/year\"\n[join.amounts]\nPaid = {{ decimals = 2, required = false }}\n[[column]]\n"
    );
    PLAN.replace("FORMAT", "csv").replace("DUPLICATES", "keep").replacen("[[column]]\n", &of_theirs, 1)
}

/// Payments as people write them, and as they should not.
fn lines_of_payments() -> impl Strategy<Value = String> {
    let piece = prop_oneof![
        6 => "[A-F]{1,2},(0[1-9]|1[0-2])/(0[1-9]|1[0-2])/2026,[1-9]{1,3}\\.[0-9]{2},[a-b]\n",
        2 => "[A-C] ,,-[1-9],\n",
        1 => prop::sample::select(vec!["\n", ",01/01/2026,5,x\n", "A\n", "A,soon,1,\n", "B,01/02/2026,much,\n", "a\"b,,,\n", "B,02/02/2026,,n\n"])
            .prop_map(str::to_owned),
    ];
    prop::collection::vec(piece, 0..60).prop_map(|lines| format!("Key,Date,Paid,Note\n{}", lines.concat()))
}

const ORDER: &str = "order_by = [\"Amount, largest first\", \"Key\"]\n";

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    #[test]
    fn any_cut_of_csv_leaves_the_same(
        text in lines_of_csv(),
        duplicates in prop::sample::select(vec!["set aside", "first", "last", "sum", "keep"]),
        order in prop::sample::select(vec!["", ORDER]),
        bytes in 1_usize..60,
        rows in 1_u64..5,
    ) {
        check(&text, "csv", (duplicates, order), ChunkSize { bytes, rows })?;
    }

    #[test]
    fn any_cut_of_json_lines_leaves_the_same(
        text in lines_of_json(),
        duplicates in prop::sample::select(vec!["set aside", "sum"]),
        bytes in 1_usize..60,
        rows in 1_u64..5,
    ) {
        check(&text, "jsonl", (duplicates, ""), ChunkSize { bytes, rows })?;
    }

    #[test]
    fn any_cut_of_a_second_file_leaves_the_same_wherever_it_is_held(
        records in lines_of_csv(),
        payments in lines_of_payments(),
        join in prop::sample::select(JOINS.to_vec()),
        bytes in 1_usize..90,
        rows in 1_u64..5,
    ) {
        let folder = tempfile::tempdir().unwrap();
        fs::write(folder.path().join("records.csv"), records).unwrap();
        fs::write(folder.path().join("payments.csv"), payments).unwrap();
        fs::write(folder.path().join("plan.toml"), plan_with_join(join)).unwrap();
        let whole = left_by(folder.path(), "csv", AT_ONE_GO);
        prop_assert!(whole.len() > 1, "{:?}", whole);
        let size = Some(ChunkSize { bytes, rows });
        for (workers, most_held) in [(1, None), (3, None), (2, Some(0)), (3, Some(60_000))] {
            let goes = Goes { size, workers, most_held };
            prop_assert_eq!(&left_by(folder.path(), "csv", goes), &whole, "{:?}", goes);
        }
    }
}
