//! The proof, broken on purpose: every figure that can be wrong is noticed, and nothing is kept.

use super::{RunRequest, Staging, Watch, run_with};
use crate::{Plan, RecordsError};
use std::fs;
use std::path::Path;
use std::sync::atomic::AtomicBool;

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30
[records]
file = "records.csv"
[records.dates]
Issued = "iso"
[records.amounts]
Amount = { decimals = 2 }
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
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

const RECORDS: &str =
    "Invoice,Issued,Amount\nA1,2026-09-01,10.00\nA2,soon,5.50\nA3,2026-06-01,x\nA4,2026-09-30,1.25\n";

const OBJECTS: &str = r#"{"Invoice":"A1","Issued":"2026-09-01","Amount":10.00}
{"Invoice":"A2","Issued":"soon","Amount":5.50}
{"Invoice":"A3","Issued":"2026-06-01","Amount":"x"}
{"Invoice":"A4","Issued":"2026-09-30","Amount":1.25}
"#;

/// Runs with the finished files changed before they are read back; gives what the proof says.
fn proof_after(change: impl Fn(&Staging)) -> Result<(), String> {
    proof_of(["csv", "csv"], change)
}

/// The same with records and outputs of these kinds.
fn proof_of(kinds: [&str; 2], change: impl Fn(&Staging)) -> Result<(), String> {
    proof_over(RECORDS, OBJECTS, kinds, change)
}

/// The same over records of our own.
fn proof_over(
    rows: &str,
    objects: &str,
    [from, to]: [&str; 2],
    change: impl Fn(&Staging),
) -> Result<(), String> {
    let folder = tempfile::tempdir().unwrap();
    let place = |name: &str| folder.path().join(name);
    let plan = PLAN.replace("records.csv", &format!("records.{from}"));
    let plan = plan.replace("rows.csv", &format!("rows.{to}"));
    fs::write(place("plan.toml"), plan.replace("exceptions.csv", &format!("exceptions.{to}"))).unwrap();
    let records = if from == "csv" { rows } else { objects };
    fs::write(place(&format!("records.{from}")), records).unwrap();
    let plan = Plan::read(&place("plan.toml")).unwrap();
    let request = RunRequest::new();
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    let result = run_with(&plan, &request, watch, None, |staging| change(staging));
    let mut names: Vec<_> =
        fs::read_dir(folder.path()).unwrap().map(|entry| entry.unwrap().file_name()).collect();
    names.sort();
    match result {
        Ok(_) => {
            let [exceptions, records, rows] = [("exceptions", to), ("records", from), ("rows", to)]
                .map(|(name, ending)| format!("{name}.{ending}"));
            assert_eq!(names, [&exceptions, "plan.receipt.toml", "plan.toml", &records, &rows]);
            Ok(())
        }
        Err(RecordsError::Proof { what }) => {
            assert_eq!(names, ["plan.toml", &format!("records.{from}")], "nothing is kept");
            Err(what)
        }
        Err(other) => panic!("another error: {other}"),
    }
}

fn edit(part: &Path, from: &str, to: &str) {
    let text = fs::read_to_string(part).unwrap();
    assert!(text.contains(from), "{text}");
    fs::write(part, text.replacen(from, to, 1)).unwrap();
}

#[test]
fn an_untouched_run_holds() {
    assert_eq!(proof_after(|_| {}), Ok(()));
}

#[test]
fn a_row_lost_or_doubled_is_noticed() {
    let lost = proof_after(|staging| edit(staging.part(0), "A4,2026-09-30,1.25,0,Not yet due\n", ""));
    assert_eq!(lost.unwrap_err(), "rows written (3) and rows in the output (2) do not agree");
    let doubled =
        proof_after(|staging| edit(staging.part(0), "A4,", "A4,2026-09-30,1.25,0,Not yet due\nA4,"));
    assert_eq!(doubled.unwrap_err(), "rows written (3) and rows in the output (4) do not agree");
}

#[test]
fn an_amount_that_changed_is_noticed() {
    // The checksum notices it first; the sums, changed on their own below, would too.
    let changed = proof_after(|staging| edit(staging.part(0), "5.50", "5.51"));
    assert!(changed.unwrap_err().starts_with("the checksum of the rows ("));
}

#[test]
fn a_text_that_changed_is_noticed() {
    let changed = proof_after(|staging| edit(staging.part(0), "A4", "A5"));
    assert!(changed.unwrap_err().starts_with("the checksum of the rows ("));
    let changed = proof_after(|staging| edit(staging.part(1), "soon", "late"));
    assert!(changed.unwrap_err().starts_with("the checksum of the exceptions ("));
}

#[test]
fn every_source_and_sink_is_proved() {
    for kinds in [["csv", "jsonl"], ["jsonl", "csv"], ["jsonl", "jsonl"]] {
        let cell = if kinds[1] == "csv" { "A4," } else { "\"A4\"," };
        assert_eq!(proof_of(kinds, |_| {}), Ok(()), "{kinds:?}");
        let line_of = |part: &Path| {
            let text = fs::read_to_string(part).unwrap();
            text.lines().find(|line| line.contains(cell)).unwrap().to_owned() + "\n"
        };
        let lost = proof_of(kinds, |staging| edit(staging.part(0), &line_of(staging.part(0)), ""));
        assert_eq!(lost.unwrap_err(), "rows written (3) and rows in the output (2) do not agree");
        let doubled = proof_of(kinds, |staging| {
            let line = line_of(staging.part(0));
            edit(staging.part(0), &line, &line.repeat(2));
        });
        assert_eq!(doubled.unwrap_err(), "rows written (3) and rows in the output (4) do not agree");
        let changed = proof_of(kinds, |staging| edit(staging.part(0), "5.50", "5.51"));
        assert!(changed.unwrap_err().starts_with("the checksum of the rows ("));
        let changed = proof_of(kinds, |staging| edit(staging.part(1), "soon", "late"));
        assert!(changed.unwrap_err().starts_with("the checksum of the exceptions ("));
    }
}

#[test]
fn a_change_behind_the_reader_is_noticed() {
    // Enough rows that most of them are read back while others are written.
    let rows = "A1,2026-09-01,10.00\n".repeat(60_000);
    let records = format!("Invoice,Issued,Amount\n{rows}");
    let change = |staging: &Staging| {
        use std::io::Write;
        let mut file = fs::OpenOptions::new().write(true).open(staging.part(0)).unwrap();
        // The header alone, of the same length.
        file.write_all(b"Invoicf").unwrap();
    };
    let untouched = proof_over(&records, OBJECTS, ["csv", "csv"], |_| {});
    assert_eq!(untouched, Ok(()));
    let said = proof_over(&records, OBJECTS, ["csv", "csv"], change).unwrap_err();
    assert!(said.contains("the rows"), "{said}");
}

mod figures {
    //! Each figure of an outcome changed on its own.

    use super::super::outcome::{AmountProof, ReadBackState, RowCounts, RunFile, RunOutcome};
    use super::super::outputs::Holds;
    use super::super::proof::check;
    use super::super::read_back::{FileReadBack, ReadBack, SumsInOutput};
    use crate::files::{Fingerprint, HashKind};
    use crate::reports::{ProofAgainst, ProofLine, ProofValue, Report};
    use crate::sink::Written;
    use crate::source::SourceEnd;
    use mild_ledger::{Decimal, Scale};

    fn cents(units: i128) -> Decimal {
        Scale::new(2).unwrap().amount(units)
    }

    fn in_output(currency: &str, units: i128) -> Option<SumsInOutput> {
        Some(SumsInOutput::ByCurrency([(currency.to_owned(), cents(units))].into()))
    }

    fn outcome() -> RunOutcome {
        let file = |name: &str, rows| RunFile {
            name: name.to_owned(),
            path: name.into(),
            rows: Some(rows),
            bytes: 1,
            hash: name.to_owned(),
            led_to: None,
        };
        RunOutcome {
            control: Vec::new(),
            title: String::new(),
            as_of: None,
            as_of_time: None,
            doubts: Vec::new(),
            unreadable_cells: 0,
            calendars: Vec::new(),
            records: String::new(),
            inputs: Vec::new(),
            rows: RowCounts { read: 10, written: 5, set_aside: 2, merged: 2, not_selected: 1 },
            amounts: vec![AmountProof {
                currency: None,
                column: "Amount".to_owned(),
                read: cents(1000),
                written: cents(600),
                set_aside: cents(200),
                merged: cents(150),
                not_selected: cents(50),
                unreadable_rows: 0,
                read_back: ReadBackState::InTheOutput,
            }],
            reports: vec![Report {
                kind: "aging",
                title: "Aging".to_owned(),
                made_of: Vec::new(),
                seen_from: Vec::new(),
                behind: Vec::new(),
                tables: Vec::new(),
                answer: Vec::new(),
                explanation: Vec::new(),
                notes: Vec::new(),
                proof: vec![
                    ProofLine::of_amounts(
                        "Amount",
                        [
                            ("in buckets", cents(400)),
                            ("credits", cents(-10)),
                            ("settled", cents(200)),
                            ("later", cents(10)),
                        ],
                    )
                    .unwrap(),
                    ProofLine::of_rows([("in buckets", 2), ("settled", 1), ("later", 1), ("without", 1)]),
                ],
            }],
            dates: Vec::new(),
            compared: Vec::new(),
            added: Vec::new(),
            sample: None,
            joined: Vec::new(),
            figures: Vec::new(),
            exceptions: Vec::new(),
            notes: Vec::new(),
            duplicates: None,
            cells_behind_apostrophe: 0,
            outputs: vec![file("rows", 5), file("exceptions", 3)],
            held_rows: None,
            receipt: "receipt".into(),
            presentation: crate::table::Presentation::default(),
        }
    }

    fn read_back() -> ReadBack {
        let file = |holds, rows, checksum| FileReadBack {
            holds,
            end: SourceEnd { rows, checksum, fingerprint: Fingerprint::of_bytes(b"", HashKind::default()) },
            is_untouched: true,
        };
        ReadBack {
            files: vec![file(Holds::Rows, 5, 17), file(Holds::Exceptions, 3, 18)],
            rows_set_aside: 2,
            sums: vec![in_output("", 600)],
        }
    }

    fn written() -> Vec<(Holds, Written)> {
        let all = [(Holds::Rows, 5, 17), (Holds::Exceptions, 3, 18)];
        let written = |(holds, rows, checksum)| (holds, Written { rows, checksum, behind_apostrophe: 0 });
        all.map(written).to_vec()
    }

    #[test]
    fn figures_that_agree_hold() {
        check(&outcome(), &written(), &read_back()).unwrap();
    }

    #[test]
    fn each_figure_alone_is_noticed() {
        type Change = fn(&mut RunOutcome, &mut Vec<(Holds, Written)>, &mut ReadBack);
        let changes: [Change; 31] = [
            |outcome, _, _| outcome.rows.read += 1,
            |outcome, _, _| outcome.rows.written += 1,
            |outcome, _, _| outcome.rows.set_aside -= 1,
            |outcome, _, _| outcome.rows.merged -= 1,
            |outcome, _, _| outcome.rows.not_selected += 1,
            |outcome, _, _| outcome.amounts[0].read = cents(1001),
            |outcome, _, _| outcome.amounts[0].written = cents(601),
            |outcome, _, _| outcome.amounts[0].merged = cents(0),
            |outcome, _, _| outcome.reports[0].proof[0].whole.value = ProofValue::Amount(cents(599)),
            |outcome, _, _| outcome.reports[0].proof[0].parts[2].value = ProofValue::Amount(cents(199)),
            |outcome, _, _| outcome.reports[0].proof[1].parts[0].value = ProofValue::Rows(3),
            |outcome, _, _| outcome.reports[0].proof[1].whole.value = ProofValue::Rows(4),
            |outcome, _, _| outcome.reports[0].proof[1].parts[0].value = ProofValue::Amount(cents(2)),
            |outcome, _, _| outcome.reports[0].proof[1].parts.clear(),
            |outcome, _, _| {
                outcome.reports[0].proof[0].against = ProofAgainst::AmountWritten("Net".to_owned(), None)
            },
            |outcome, _, _| outcome.amounts[0].column.clear(),
            |_, written, _| written[1].1.rows += 1,
            |_, written, _| written[0].1.checksum += 1,
            |_, written, _| written.truncate(1),
            |_, _, back| back.files.truncate(1),
            |_, _, back| back.files[1].holds = Holds::Rows,
            |_, _, back| back.files[1].end.checksum += 1,
            |_, _, back| back.files[0].end.rows -= 1,
            |_, _, back| back.rows_set_aside += 1,
            |_, _, back| back.files[0].is_untouched = false,
            |_, _, back| back.files[1].is_untouched = false,
            |_, _, back| back.sums[0] = in_output("", 601),
            |_, _, back| back.sums[0] = in_output("EUR", 600),
            |_, _, back| back.sums[0] = Some(SumsInOutput::Together(cents(600))),
            |outcome, _, _| outcome.amounts[0].currency = Some("EUR".to_owned()),
            |_, _, back| back.sums[0] = None,
        ];
        for (nth, change) in changes.into_iter().enumerate() {
            let (mut outcome, mut written, mut back) = (outcome(), written(), read_back());
            change(&mut outcome, &mut written, &mut back);
            assert!(check(&outcome, &written, &back).is_err(), "change number {nth} was not noticed");
        }
    }
}
