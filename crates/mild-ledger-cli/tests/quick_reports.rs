//! The quick commands: common reports of a file without a plan, the files they go to, and the plan that gives the same.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

/// A command by its words; quotes keep words together.
fn words(command: &str) -> Vec<String> {
    command
        .split('"')
        .enumerate()
        .flat_map(|(nth, part)| match nth % 2 {
            0 => part.split_whitespace().map(str::to_owned).collect(),
            _ => vec![part.to_owned()],
        })
        .collect()
}

fn mild(desk: &Desk, command: &str) -> support::Answer {
    let words = words(command);
    desk.mild(&words.iter().map(String::as_str).collect::<Vec<_>>())
}

/// The files of the demo and none of its outputs.
fn desk() -> Desk {
    let desk = Desk::new();
    for (name, content) in [
        ("invoices.csv", include_str!("../demo/invoices-2026-09-30.csv")),
        ("crew.csv", include_str!("../demo/crew-2026-09-30.csv")),
        ("jobs.csv", include_str!("../demo/jobs-2026-09-30.csv")),
        ("licences.csv", include_str!("../demo/licences-2026-09-30.csv")),
        ("yard.toml", include_str!("../demo/yard.toml")),
    ] {
        desk.write(name, content);
    }
    desk
}

const ALL: [&str; 6] = [
    "aging invoices.csv --amount Amount --issued Issued --paid Paid --by Customer --as-of 2026-09-30 --duplicates \"set aside\"",
    "tenure crew.csv --start Start --left Left --by Team --as-of 2026-09-30 --months 3",
    "upcoming crew.csv --of Start --window \"6 months\" --show Name,Team --as-of 2026-09-30",
    "upcoming licences.csv --of To --every once --as-of 2026-09-30",
    "turnaround jobs.csv --start \"Hauled out\" --end Relaunched --count \"working days\" --calendar yard.toml --promise \"10 working days\" --by Work --as-of 2026-09-30",
    "summary invoices.csv --by Customer --sum Amount --mean Amount --median Amount --smallest Issued --largest Issued --distinct Work --duplicates first",
];

#[test]
fn each_says_what_the_plan_says_that_it_saves() {
    let desk = desk();
    for (nth, command) in ALL.into_iter().enumerate() {
        let before = desk.files();
        let quick = mild(&desk, &format!("{command} --json"));
        assert_eq!(quick.code, 0, "{command}: {}", quick.err);
        assert_eq!(desk.files(), before, "{command} leaves no file");
        let plan = format!("plan{nth}.toml");
        let saved = mild(&desk, &format!("{command} --save-plan {plan} --json"));
        assert!(saved.err.contains("gives the same report"), "{}", saved.err);
        let run = desk.mild(&["run", &plan, "--overwrite", "--json"]);
        let (quick, run) = (quick.json(), run.json());
        for part in ["reports", "rows", "answer", "exceptions", "doubts", "as_of"] {
            assert_eq!(quick[part], run[part], "{command}: {part}");
        }
        assert_eq!(quick["reports"].as_array().unwrap().len(), 1);
        assert_eq!(desk.read(&plan).contains("[calendar.yard]"), command.contains("yard.toml"), "{command}");
        // A plan that is there is not written over.
        let again = mild(&desk, &format!("{command} --save-plan {plan}"));
        assert_ne!(again.code, 0, "{command}");
    }
}

/// The cells of the table that a quick command shows, as programs get them.
fn cells(desk: &Desk, command: &str) -> Vec<Vec<String>> {
    let answer = mild(desk, &format!("{command} --json"));
    assert_eq!(answer.code, 0, "{command}: {}", answer.err);
    let report = answer.json()["reports"][0].clone();
    let text = |cell: &serde_json::Value| cell.as_str().map_or_else(|| cell.to_string(), str::to_owned);
    let rows = report["tables"][0]["rows"].as_array().unwrap();
    rows.iter().map(|row| row.as_array().unwrap().iter().map(text).collect()).collect()
}

#[test]
fn rows_are_chosen_and_grouped_by_periods_and_across() {
    let desk = desk();
    let of =
        |more: &str| cells(&desk, &format!("summary invoices.csv --duplicates first --sum Amount {more}"));
    // The invoices over 500 that are not paid, counted in the file by a reader of its own.
    let (mut count, mut cents, mut keys) = (0, 0_i64, std::collections::HashSet::new());
    for line in desk.read("invoices.csv").lines().skip(1) {
        // A comma in quotes is none between cells.
        let plain: String = line
            .split('"')
            .enumerate()
            .map(|(nth, part)| if nth % 2 == 1 { "quoted" } else { part })
            .collect();
        let cells: Vec<&str> = plain.split(',').collect();
        let amount: i64 = cells.last().unwrap().replace('.', "").parse().unwrap_or(0);
        let is_open = cells.len() == 6 && matches!(cells[4], "" | "31/12/1899" | "30/12/1899");
        if is_open && amount > 50_000 && keys.insert(cells[0].to_owned()) {
            count += 1;
            cents += amount;
        }
    }
    let all = of("--when \"Amount over 500\" --when \"Paid is blank\"");
    assert_eq!(
        all,
        [["All rows".to_owned(), count.to_string(), format!("{}.{:02}", cents / 100, cents % 100)]]
    );
    let quarters = of("--by \"Issued by quarter\"");
    assert_eq!(quarters.first().unwrap()[0], "2025-Q2");
    let fiscal = of("--by \"Issued by fiscal quarter, fiscal year begins april\"");
    assert_eq!((fiscal.first().unwrap()[0].as_str(), &fiscal[0][1..]), ("FY2026-Q1", &quarters[0][1..]));
    let across = of(
        "--by Work --columns-by \"Issued by year\" --when \"Issued within last 24 months\" --as-of 2026-09-30",
    );
    // A count and a sum of 2025, of 2026, and of both.
    assert!(across.iter().all(|row| row.len() == 7), "{across:?}");
    for wrong in
        ["--by \"Issued by decade\"", "--when \"Amount above 5\"", "--when \"Amonut over 5\"", "--by Worc"]
    {
        let answer = mild(&desk, &format!("summary invoices.csv --duplicates first --sum Amount {wrong}"));
        assert_eq!(answer.code, 2, "{wrong}");
        assert!(
            answer.err.contains("nearest: ")
                || answer.err.contains("allowed: ")
                || answer.err.contains("\"Work\""),
            "{wrong}: {}",
            answer.err
        );
    }
}

#[test]
fn records_come_from_standard_input_and_from_several_files() {
    let desk = desk();
    let command = "summary invoices.csv --by Customer --sum Amount --duplicates first";
    let one = cells(&desk, command);
    let mut input = desk.command(&[
        "summary",
        "-",
        "--by",
        "Customer",
        "--sum",
        "Amount",
        "--duplicates",
        "first",
        "--json",
    ]);
    input.stdin(std::fs::File::open(desk.path("invoices.csv")).unwrap());
    let piped = support::Answer::of(input.output().unwrap()).json();
    assert_eq!(piped["title"], "Summary of standard input");
    assert_eq!(piped["reports"][0]["tables"][0]["rows"].as_array().unwrap().len(), one.len());
    let text = desk.read("invoices.csv");
    let lines: Vec<&str> = text.lines().collect();
    let (header, rows) = lines.split_first().unwrap();
    let (first, second) = rows.split_at(160);
    for (name, part) in [("a.csv", first), ("b.csv", second)] {
        desk.write(name, format!("{header}\n{}\n", part.join("\n")));
    }
    assert_eq!(cells(&desk, &command.replace("invoices.csv", "a.csv b.csv")), one);
    // Their dates are to be written alike.
    desk.write(
        "b.csv",
        format!("{header}\n{}\n", second.join("\n"))
            .replace("/2026", "-2026")
            .replace("/06-", "-06-")
            .replace('/', "-"),
    );
    let answer = mild(&desk, "summary a.csv b.csv --by \"Issued by month\" --sum Amount --duplicates first");
    assert_eq!(
        (answer.code, answer.err.contains("are written day/month/year in a.csv and day-month-year in b.csv")),
        (2, true),
        "{}",
        answer.err
    );
    let mut input = desk.command(&["summary", "-", "--sum", "Amount", "--save-plan", "p.toml"]);
    input.stdin(std::fs::File::open(desk.path("invoices.csv")).unwrap());
    let answer = support::Answer::of(input.output().unwrap());
    assert_eq!((answer.code, answer.err.contains("came by standard input")), (2, true), "{}", answer.err);
}

#[test]
fn payments_terms_of_rows_and_rolls_are_those_of_the_plan() {
    let desk = desk();
    desk.write("payments.csv", include_str!("../demo/payments-2026-09-30.csv"));
    let paid = cells(
        &desk,
        "aging invoices.csv --amount Amount --issued Issued --payments payments.csv --payment-match Invoice --payment-date Date \
         --payment-amount Paid --by Customer --as-of 2026-09-30 --duplicates \"set aside\"",
    );
    desk.write("quarter.toml", include_str!("../demo/quarter.toml"));
    let plan = include_str!("../demo/quarter.toml").replace("-{as_of}.csv\"", ".csv\"");
    desk.write("quarter.toml", &plan);
    let quarter = desk.mild(&["run", "quarter.toml", "--json", "--overwrite"]).json();
    let aging =
        quarter["reports"].as_array().unwrap().iter().find(|report| report["kind"] == "aging").unwrap();
    let owed = |rows: &[Vec<String>]| -> Vec<(String, String)> {
        rows.iter().map(|row| (row[0].clone(), row.last().unwrap().clone())).collect()
    };
    let text = |cell: &serde_json::Value| cell.as_str().map_or_else(|| cell.to_string(), str::to_owned);
    let of_plan: Vec<Vec<String>> = aging["tables"][0]["rows"]
        .as_array()
        .unwrap()
        .iter()
        .map(|row| row.as_array().unwrap().iter().map(text).collect())
        .collect();
    assert_eq!(owed(&paid), owed(&of_plan));
    // Terms of each row, and due dates that are working days.
    desk.write("t.csv", "No,Issued,Amount,Terms\n1,2026-08-03,10.00,net 30\n2,2026-08-03,20.00,net 59\n3,2026-08-28,30.00,net 1\n");
    let of_terms = |more: &str| {
        let rows = cells(
            &desk,
            &format!(
                "aging t.csv --amount Amount --issued Issued --terms \"column Terms\" --as-of 2026-10-01 {more}"
            ),
        );
        rows[0].join(" ")
    };
    // Due on 2 September, 1 October and Saturday 29 August, which rolls over the holiday of 31 August.
    assert_eq!(of_terms(""), "20.00 10.00 30.00 0.00 0.00 0.00 0.00 60.00");
    let rolled = of_terms("--roll following --calendar england-wales");
    assert_eq!(rolled, "20.00 40.00 0.00 0.00 0.00 0.00 0.00 60.00");
}

#[test]
fn the_aging_is_that_of_the_demo() {
    let desk = desk();
    desk.write("receivables.toml", include_str!("../demo/receivables.toml"));
    let demo = desk.mild(&["run", "receivables.toml", "--records", "invoices.csv", "--json"]).json();
    let quick = mild(&desk, &format!("{} --json", ALL[0])).json();
    assert_eq!(quick["reports"][0]["rows"], demo["reports"][0]["rows"]);
}

#[test]
fn an_aging_as_it_is_shown() {
    let answer = mild(&desk(), &ALL[0].replace("--by Customer", "--edges -1,30,90"));
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!(answer.out);
}

#[test]
fn what_is_in_doubt_is_asked_for() {
    let desk = desk();
    desk.write(
        "doubt.csv",
        "Job,Issued,Due,Amount\nA,01/02/2026,2026-03-01,1.00\nB,02/03/2026,2026-04-01,2.00\n",
    );
    for (name, command) in [
        ("dates_in_doubt", "aging doubt.csv --amount Amount --issued Issued --as-of 2026-09-30"),
        ("no_dates_at_all", "tenure crew.csv --start Team --as-of 2026-09-30"),
        ("no_such_column", "tenure crew.csv --start Strat --as-of 2026-09-30"),
        ("no_as_of_date", "tenure crew.csv --start Start"),
        ("a_key_that_nearly_is_one", "summary invoices.csv --by Customer"),
        ("no_due_dates", "aging invoices.csv --amount Amount --as-of 2026-09-30 --duplicates first"),
        ("a_pattern_of_nothing", "upcoming crew.csv --of Start --date-pattern Start --as-of 2026-09-30"),
        ("no_such_measure", "tenure crew.csv --start Start --count moons --as-of 2026-09-30"),
    ] {
        let answer = mild(&desk, command);
        assert_eq!(answer.code, 2, "{name}: {}", answer.out);
        assert_snapshot!(name, answer.err);
    }
    // Said, it is done, and said again below the report; one of their columns keeps its name.
    let answer = mild(
        &desk,
        "aging doubt.csv --amount Amount --issued Issued --date-pattern \"Issued=day/month/year\" --as-of 2026-03-10 --json --save-plan doubt.toml",
    );
    let object = answer.json();
    // Issued on 1 February and 2 March, net 30: 3 March and 1 April.
    assert_eq!(
        object["reports"][0]["total"]["amounts"],
        json!(["2.00", "1.00", "0.00", "0.00", "0.00", "0.00", "0.00"])
    );
    assert!(desk.read("doubt.toml").contains("name = \"Due (2)\""), "{}", desk.read("doubt.toml"));
    let shown = mild(&desk, "aging doubt.csv --amount Amount --due Due --as-of 2026-03-10");
    assert!(shown.out.ends_with("Due is read as iso, as 2 of its values are.\n"), "{}", shown.out);
}

#[test]
fn a_saved_plan_finds_its_file_from_another_folder() {
    let desk = desk();
    std::fs::create_dir(desk.path("plans")).unwrap();
    let answer = mild(&desk, "tenure crew.csv --start Start --as-of 2026-09-30 --save-plan plans/crew.toml");
    assert_eq!(answer.code, 0, "{}", answer.err);
    let run = desk.mild(&["run", "plans/crew.toml"]);
    assert_eq!(run.code, 0, "{}", run.err);
    assert!(run.out.contains("20 rows read, 20 written"), "{}", run.out);
}

/// Invoices of November with a title above, a total below, thousands in the amounts, and an invoice that comes twice.
const LEDGER: &str = "Receivables, exported 30/11/2026,,,,
Invoice,Customer,Issued,Paid on,Amount
QB-1,Heron Charters,30/09/2026,,\"1,250.00\"
QB-2,Cordage & Co.,15/10/2026,10/11/2026,80.50
QB-3,Heron Charters,02/11/2026,,19.50
QB-4,Osprey Sailing,25/08/2026,,200.00
QB-1,Heron Charters,30/09/2026,,\"1,250.00\"
Total,,,,\"2,800.00\"
";

/// The quick command on that file, with more arguments.
fn aging(desk: &Desk, more: &[&str]) -> support::Answer {
    let first =
        ["aging", "ledger-2026-11-30.csv", "--amount", "Amount", "--issued", "Issued", "--paid", "Paid on"];
    let then = [
        "--by",
        "Customer",
        "--as-of",
        "2026-11-30",
        "--duplicates",
        "set aside",
        "--date-pattern",
        "Paid on=day/month/year",
        "--key",
        "Invoice",
    ];
    desk.mild(&[&first[..], &then, more].concat())
}

#[test]
fn a_report_goes_to_the_files_that_are_named() {
    let desk = Desk::new();
    desk.write("ledger-2026-11-30.csv", LEDGER);
    let answer = aging(
        &desk,
        &[
            "--to",
            "page.html",
            "--to",
            "aging.xlsx",
            "--to",
            "aging.csv",
            "--to",
            "note.md",
            "--to",
            "chart.svg",
        ],
    );
    assert_eq!(answer.code, 0, "{}", answer.err);
    // QB-1 was due on 30 October, QB-4 on 24 September: 31 and 67 days before; QB-3 is due in December.
    assert_eq!(
        desk.read("aging.csv"),
        "Customer,Not yet due,1–30,31–60,61–90,Over 90,No date,Credits,Total\n\
         Heron Charters,19.50,0.00,1250.00,0.00,0.00,0.00,0.00,1269.50\n\
         Osprey Sailing,0.00,0.00,0.00,200.00,0.00,0.00,0.00,200.00\n"
    );
    let page = desk.read("page.html");
    assert!(page.contains("1,469.50 owed by 2 values of Customer as of 30/11/2026"), "{page}");
    assert!(
        desk.read("note.md").contains("| Heron Charters | 19.50 | – | 1,250.00 |"),
        "{}",
        desk.read("note.md")
    );
    assert!(desk.read("chart.svg").starts_with("<svg"), "{}", desk.read("chart.svg"));
    assert!(std::fs::read(desk.path("aging.xlsx")).unwrap().starts_with(b"PK"));
    assert_eq!(
        desk.files().iter().filter(|name| name.contains("exceptions") || name.contains("receipt")).count(),
        0
    );

    // A file that exists stays unless it may be replaced, and the records stay whatever is asked.
    let refused = |more: &[&str], words: &str| {
        let before = desk.files();
        let answer = aging(&desk, more);
        assert_eq!(answer.code, 2, "{}", answer.out);
        assert!(answer.err.contains(words), "{}", answer.err);
        assert_eq!(desk.files(), before);
    };
    desk.write("mine.html", "mine");
    refused(&["--to", "mine.html"], "--to: mine.html exists already");
    refused(&["--to", "new.html", "--to", "new.html"], "is named twice");
    refused(&["--to", "a.csv", "--to", "b.csv"], "is a second file of the table alone");
    refused(&["--to", "ledger-2026-11-30.csv", "--overwrite"], "is the file of records");
    refused(&["--to", "report.pdf"], "--to: the name promises a PDF");
    assert_eq!(desk.read("mine.html"), "mine");
    assert_eq!(aging(&desk, &["--to", "mine.html", "--overwrite"]).code, 0);
    assert_eq!(desk.read("mine.html"), page);
}

#[test]
fn a_saved_plan_is_that_of_every_month() {
    let desk = Desk::new();
    desk.write("ledger-2026-11-30.csv", LEDGER);
    let answer =
        aging(&desk, &["--to", "page.html", "--to", "aging-2026-11-30.csv", "--save-plan", "aging.toml"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.err.contains("note: next month, change line 3: as_of\n"), "{}", answer.err);
    let plan = desk.read("aging.toml");
    assert_eq!(plan.lines().nth(2), Some("as_of = \"2026-11-30\""));
    for line in [
        "title = \"Aging of ledger-{as_of}.csv\"",
        "file = \"ledger-{as_of}.csv\"",
        "file = \"aging-{as_of}.csv\"",
        "rows = \"ledger-rows-{as_of}.csv\"",
        "report = [\"page-{as_of}.html\"]",
    ] {
        assert!(plan.contains(line), "{plan}");
    }
    let this_month = desk.mild(&["run", "aging.toml", "--overwrite"]);
    assert_eq!(this_month.code, 0, "{}", this_month.err);
    assert!(
        this_month.out.contains("1,469.50 owed by 2 values of Customer as of 30/11/2026"),
        "{}",
        this_month.out
    );
    // One line is another, and the new file is there.
    desk.write("aging.toml", plan.replace("2026-11-30", "2026-12-31"));
    desk.write("ledger-2026-12-31.csv", LEDGER);
    let next_month = desk.mild(&["run", "aging.toml"]);
    assert_eq!(next_month.code, 0, "{}", next_month.err);
    assert!(next_month.out.contains("as of 31/12/2026; 6 rows read"), "{}", next_month.out);
    assert!(desk.files().iter().any(|name| name == "page-2026-12-31.html"));
    // The page of November is as it was.
    assert!(desk.read("page-2026-11-30.html").contains("as of 30/11/2026"));
}

/// Invoices as a yard in Hamburg has them: a title above the header, dates by points, a decimal comma.
const HAMBURG: &str = "Offene Rechnungen;;;;
Nr;Kunde;Datum;Bezahlt;Betrag
R1;Reiher Charter;31.08.2026;;1.250,00
R2;Reiher Charter;17.09.2026;;80,50
R3;Seeschwalbe;02.06.2026;15.07.2026;12.300,00
R4;Seeschwalbe;25.05.2026;;2.300,75
";

#[test]
fn figures_and_dates_are_shown_as_in_the_file() {
    let desk = Desk::new();
    desk.write("offen.csv", HAMBURG);
    let words = "aging offen.csv --issued Datum --amount Betrag --paid Bezahlt --by Kunde --as-of 2026-09-30 --to seite.html --to tabelle.csv --to notiz.md --save-plan plan.toml";
    let answer = desk.mild(&words.split(' ').collect::<Vec<_>>());
    assert_eq!(answer.code, 0, "{}", answer.err);
    // R4 was due on 24 June: 6 days of June, 31, 31 and 30 are 98.
    let row = answer.out.lines().find(|line| line.starts_with("Seeschwalbe")).unwrap_or_default();
    let cells: Vec<&str> = row.split_whitespace().collect();
    assert_eq!(cells[1..6], ["–", "–", "–", "–", "2.300,75"], "{}", answer.out);
    assert!(answer.out.contains("3.631,25 owed by 2 values of Kunde as of 30.09.2026"), "{}", answer.out);
    let said = "As in the file, the report shows dates as day.month.year and amounts with a decimal comma.";
    assert!(answer.out.contains(said), "{}", answer.out);
    assert!(
        desk.read("tabelle.csv").contains("Seeschwalbe;0,00;0,00;0,00;0,00;2300,75;"),
        "{}",
        desk.read("tabelle.csv")
    );
    assert!(
        desk.read("notiz.md").contains("| Seeschwalbe | – | – | – | – | 2.300,75 |"),
        "{}",
        desk.read("notiz.md")
    );
    let page = desk.read("seite.html");
    for part in ["as of 30.09.2026 (Wednesday)", "<summary>2.300,75</summary>", "63,4 %"] {
        assert!(page.contains(part), "{part} in {page}");
    }
    // The working of a column is in ISO 8601, as everywhere.
    let (report, working) = page.split_once("How each column is worked out").unwrap();
    assert!(working.contains("2026-09-30 is day 273 of 2026"), "{working}");
    for never in ["2,300.75", "2300.75", "2026-09-30"] {
        assert!(!report.contains(never), "{never} in {report}");
    }
    // The saved plan shows the same, and writes its rows so.
    for line in ["separator = \";\"", "decimal_mark = \"comma\"", "dates_as = \"day.month.year\""] {
        assert!(desk.read("plan.toml").contains(line), "{}", desk.read("plan.toml"));
    }
    let run = desk.mild(&["run", "plan.toml"]);
    assert_eq!(run.code, 0, "{}", run.err);
    assert!(run.out.contains("3.631,25 owed by 2 values of Kunde as of 30.09.2026"), "{}", run.out);
    assert!(
        desk.read("offen-rows-2026-09-30.csv")
            .contains("R4;Seeschwalbe;25.05.2026;;2300,75;24.06.2026;98;Over 90")
    );
}

#[test]
fn amounts_in_doubt_are_decided_by_a_sample() {
    let desk = Desk::new();
    desk.write("fees.csv", "No;Berth;Paid on;Fee\nF1;North;05.09.2026;1.250\nF2;South;17.09.2026;2.500\n");
    let summary = |more: &[&str]| {
        desk.mild(&[&["summary", "fees.csv", "--by", "Berth", "--sum", "Fee"], more].concat())
    };
    let doubt = summary(&[]);
    assert_eq!(doubt.code, 2, "{}", doubt.out);
    assert!(
        doubt.err.contains("--amount-format \"Fee=1,234.56\" or --amount-format \"Fee=1.234,56\""),
        "{}",
        doubt.err
    );
    // Thousands by a point: 1,250 and 2,500 in whole units. Decimals by a point: one and a quarter, and two and a half.
    let thousands = summary(&["--amount-format", "Fee=1.234,56"]);
    assert!(thousands.out.contains("3.750"), "{} {}", thousands.out, thousands.err);
    let decimals = summary(&["--amount-format", "Fee=1,234.56"]);
    assert!(
        decimals.out.contains("3.750") && decimals.out.contains("1.250"),
        "{} {}",
        decimals.out,
        decimals.err
    );
    assert!(thousands.out.contains("a decimal comma") && !decimals.out.contains("a decimal comma"));
    let total = |sample: &str| {
        let object = summary(&["--amount-format", sample, "--json"]).json();
        object["reports"][0]["tables"][0]["total"][2].as_str().unwrap_or_default().to_owned()
    };
    assert_eq!((total("Fee=1.234,56").as_str(), total("Fee=1,234.56").as_str()), ("3750", "3.750"));
    for (sample, words) in [
        ("Fee", "names no column and sample"),
        ("Fee=1234", "does not show which mark"),
        ("Fee=1.234", "does not show which mark"),
        ("Fees=1.234,56", "has no column \"Fees\""),
        ("Berth=1.234,56", "not amounts"),
    ] {
        let answer = summary(&["--amount-format", sample]);
        assert!(answer.code == 2 && answer.err.contains(words), "{sample}: {}", answer.err);
    }
}
