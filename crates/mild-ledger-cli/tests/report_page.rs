//! The report that people get: a page in one file, or Markdown.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use calamine::{Data, DataType, Range, Reader, Xlsx, open_workbook};
use insta::assert_snapshot;
use std::fs;
use std::process::Command;
use support::Desk;
use support::quarter::{PLAN as QUARTER, quarter_desk};

/// Records whose texts are markup, a script, and characters that a page or Markdown would take for their own.
const MARKUP: &str = "Invoice,Customer,Issued,Paid,Amount
<i>A1</i>,<script>alert(1)</script>,30/09/2026,,100.00
A2,\"\"\" onload=\"\"alert(2)\",31/08/2026,,50.25
A3,*Cordage* & [Co](http://example.org) | x,30/07/2026,,70.00
A4,Heron \u{202e}Charters,01/08/2026,soon,9.75
A5,Heron \u{202e}Charters,01/08/2026,,-4.00
";

fn desk_with(report: &str) -> Desk {
    let desk = Desk::with_plan("rows       = ", &format!("report     = \"{report}\"\nrows       = "));
    desk.write("records.csv", MARKUP);
    desk
}

/// The text between two marks, from the first of the one on.
fn between<'t>(text: &'t str, from: &str, to: &str) -> &'t str {
    text.split_once(from).and_then(|(_, rest)| rest.split_once(to)).map_or("", |(found, _)| found)
}

#[test]
fn texts_of_records_are_texts_in_the_page() {
    let desk = desk_with("report.html");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("report.html");
    assert!(page.contains("&lt;script&gt;alert(1)&lt;/script&gt;"), "{page}");
    // A quoted character ends no attribute, and no character that turns the writing round is there as it is.
    for never in ["<script", "<i>", "\" onload=\"", "\u{202e}"] {
        assert!(!page.contains(never), "{never} in {page}");
    }
    // What a page could load or send, it is forbidden.
    assert!(page.contains("default-src 'none'"), "{page}");
    for what in [" src=", "href=\"http", "url(http", "<link", "<iframe", "<form", "@import"] {
        assert!(!page.contains(what), "{what} in {page}");
    }
}

#[test]
fn the_answer_stands_first_and_every_figure_is_there() {
    let desk = desk_with("report.html");
    desk.run_plan();
    let page = desk.read("report.html");
    let place = |text: &str| page.find(text).unwrap_or_else(|| panic!("{text} in {page}"));
    assert!(place("226.00 owed by 4 values of Customer") < place("Doubtful"), "{page}");
    assert!(place("Doubtful") < place("<table"), "{page}");
    // 50.25 of 31 August and 70.00 of 30 July: 30 and 62 days.
    assert!(
        page.contains("<td class=\"n\">50.25</td>") && page.contains("<td class=\"n\">70.00</td>"),
        "{page}"
    );
    for section in ["Exceptions", "Dates", "Intervals", "Added columns", "Proof", "Files"] {
        assert!(page.contains(&format!(">{section}</h2>")), "{section} in {page}");
    }
    // Each link leads to a section that is there.
    for link in page.split("href=\"#").skip(1) {
        let id = link.split('"').next().unwrap();
        assert!(page.contains(&format!("id=\"{id}\"")), "{id}");
    }
}

#[test]
fn a_cell_opens_to_the_rows_behind_it() {
    let desk = quarter_desk();
    let plan = QUARTER.replace("rows       = ", "report = \"quarter.html\"\nrows       = ");
    desk.write("plan.toml", plan);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("quarter.html");
    // Q7 and Q8 are not yet due: 75.75 and 640.00.
    let opened = between(&page, "<caption>EUR, Not yet due: 715.75 in 2 rows</caption>", "</details>");
    for part in ["Q7", "row 7 (line 8)", "75.75", "Q8", "640.00"] {
        assert!(opened.contains(part), "{part} in {opened}");
    }
    // It opens in the cell of the figure, one of a row at a time.
    let cell = "<td class=\"n\"><details name=\"EUR: open Amount, in buckets of Age band, row 1\"><summary>715.75</summary>";
    assert!(page.contains(cell), "{page}");
    assert!(page.contains("<caption>EUR, Credits: -220.00 in 2 rows</caption>"), "{page}");
    assert!(page.contains("<caption>USD, Over 90: 1,000.00 in 1 row</caption>"), "{page}");
}

#[test]
fn many_rows_behind_a_cell_are_the_first_and_their_count() {
    let desk = Desk::with_plan("rows       = ", "report     = \"report.html\"\nrows       = ");
    let rows = (1..=40).map(|nth| format!("N{nth:02},Heron,01/09/2026,,1.00\n"));
    desk.write("records.csv", format!("Invoice,Customer,Issued,Paid,Amount\n{}", rows.collect::<String>()));
    assert_eq!(desk.run_plan().code, 0);
    let page = desk.read("report.html");
    let opened = between(&page, "<caption>Heron, 1–30: 40.00 in 40 rows</caption>", "</details>");
    assert!(opened.contains("N01") && opened.contains("N12") && !opened.contains("N13"), "{opened}");
    assert!(opened.contains("and 28 more"), "{opened}");
}

#[test]
fn a_column_opens_to_its_rule_and_working_days_to_their_months() {
    let desk = Desk::with_plan("rows       = ", "report     = \"report.html\"\nrows       = ");
    let working = "[calendar.yard]\nholidays = [\"none.csv\", 2026-09-07]\ncovers = \"2000 to 2026\"\n\n[[column]]\nname = \"Worked\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"working days\"\n\n[[report]]";
    desk.write("none.csv", "date\n2026-09-14\n");
    let plan = desk.read("plan.toml").replacen("[[report]]", working, 1);
    let summary = "[[report]]\nkind = \"summary\"\nby = \"Customer\"\nshow = [\"count\", { mean = \"Worked\" }, { median = \"Amount\" }]\n\n[output]";
    desk.write("plan.toml", plan.replacen("[output]", summary, 1));
    let records = "Invoice,Customer,Issued,Paid,Amount\nA1,Heron,21/09/2026,,10.00\nA2,Heron,01/09/2026,,30.00\nA3,Heron,10/09/2026,,20.00\nA4,Tern,01/01/2020,,1.00\n";
    desk.write("records.csv", records);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("report.html");
    // A mean of 8 (from the 21st), 20 (from the 1st, without the 7th and the 14th) and 14: the ends of three.
    let mean = between(&page, "<caption>Heron, Worked, mean: 14.00 in 3 rows</caption>", "</details>");
    for part in ["A1", "8", "A2", "20", "and 1 more"] {
        assert!(mean.contains(part), "{part} in {mean}");
    }
    assert!(!mean.contains("A3"), "{mean}");
    assert!(page.contains("<caption>Heron, Amount, median: 20.00 in 3 rows</caption>"), "{page}");
    // The column opens to its rule and, at both ends, to the months with their days; of many the first and the last.
    let column = between(&page, "<summary>Worked: working days", "</details>");
    for part in [
        "A1, row 1 (line 2):",
        "Worked = 8",
        "September 2026",
        "no. 8",
        "A4, row 4 (line 5):",
        "January 2020",
        "months between these are left out",
    ] {
        assert!(column.contains(part), "{part} in {column}");
    }
    assert!(!column.contains("January 2023"), "{column}");
    // A column of buckets has its rule, at its first row.
    let band = between(&page, "<summary>Band: buckets", "</details>");
    assert!(band.contains("A1, row 1") && band.contains("lies in"), "{band}");
}

#[test]
fn a_group_without_the_figure_has_no_bar() {
    let desk = desk_with("report.html");
    let summary = "[[report]]\nkind = \"summary\"\ntitle = \"Days\"\nby = \"Customer\"\nshow = [\"count\", { mean = \"Days\" }]\n\n[output]";
    desk.write("plan.toml", desk.read("plan.toml").replacen("[output]", summary, 1));
    desk.write(
        "records.csv",
        "Invoice,Customer,Issued,Paid,Amount\nA1,Heron,20/09/2026,,1.00\nA2,Tern,,,2.00\nA3,Osprey,30/09/2026,,3.00\n",
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    // 20 to 30 September is 10 days, and the day itself none; Tern has no date, which is not 0 days.
    let page = desk.read("report.html");
    assert!(page.contains("Days: Days, mean by Customer. Heron 10.00; Osprey 0.00</title>"), "{page}");
}

#[test]
fn a_page_of_many_rows_stays_small_and_says_what_it_leaves_out() {
    let desk = Desk::with_plan("rows       = ", "report     = \"report.html\"\nrows       = ");
    let plan = desk.read("plan.toml");
    let (before, rest) = plan.split_once("[[report]]").unwrap();
    let (aging, output) = rest.split_once("[output]").unwrap();
    let by_day = aging.replacen("by     = \"Customer\"", "by     = \"Issued\"", 1);
    assert_ne!(by_day, aging);
    let by_days = format!("[[report]]{by_day}").repeat(10);
    desk.write("plan.toml", format!("{before}[[report]]{aging}{by_days}[output]{output}"));
    // 250 days in their order, of which a table has 200, with invoices of sixteen customers each: a cell of twelve rows and more a day.
    let mut text = String::from("Invoice,Customer,Issued,Paid,Amount\n");
    for nth in 0..4_000 {
        let day = mild_ledger::Date::MIN.days_later(730_000 + nth % 250).unwrap();
        let issued = format!("{:02}/{:02}/{}", day.day(), day.month(), day.year());
        text.push_str(&format!(
            "N{nth:05},A customer with a rather long name {:02},{issued},,1.00\n",
            nth % 80
        ));
    }
    desk.write("records.csv", text);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("report.html");
    assert!(page.len() < 5_000_000, "{}", page.len());
    let opened = page.matches("<details name").count();
    let said = |after: &str| -> Vec<usize> {
        let said = page.split(after).filter_map(|before| before.rsplit(' ').next()?.parse().ok());
        said.collect()
    };
    // Of 80 customers the largest 50 are in the table, and of 250 days the first 200.
    let not_shown = said(" figures of rows that are not in the table do not open.");
    assert_eq!((not_shown.len(), not_shown[1..].iter().all(|days| *days == 50)), (11, true), "{not_shown:?}");
    // The last two of ten tables of days have no room.
    let no_room = said(" figures do not open, so that the page stays small.");
    assert!(no_room.len() == 2 && no_room[0] < 200 && no_room[1] == 200, "{no_room:?}");
    assert!(opened > 1_500, "{opened}");
}

#[test]
fn a_page_is_an_output_like_the_others() {
    let desk = desk_with("report-{as_of}.html");
    assert_eq!(desk.run_plan().code, 0);
    let first = desk.read("report-2026-09-30.html");
    assert!(desk.read("plan.receipt.toml").contains("report-2026-09-30.html"));
    // The same run writes the same bytes, over its own file, and the receipt proves it.
    assert_eq!(desk.run_plan().code, 0);
    assert_eq!(desk.read("report-2026-09-30.html"), first);
    assert_eq!(desk.mild(&["verify", "plan.receipt.toml"]).code, 0);
    // A page that a user changed is not overwritten, and nothing else is.
    desk.write("report-2026-09-30.html", "mine");
    let rows = desk.read("rows.csv");
    desk.write("records.csv", MARKUP.replace("100.00", "101.00"));
    let answer = desk.run_plan();
    assert_ne!(answer.code, 0);
    assert_eq!((desk.read("report-2026-09-30.html").as_str(), desk.read("rows.csv")), ("mine", rows));
    assert_eq!(desk.mild(&["verify", "plan.receipt.toml"]).code, 4);
}

#[test]
fn several_forms_of_a_report_and_its_charts_as_a_picture() {
    let desk = quarter_desk();
    let movement = "[[report]]\nkind = \"movement\"\nsince = 2026-06-30\nband = \"Age band\"\namount = \"Amount\"\nissued = \"Issued\"\npayments = \"Paid so far\"\n\n[output]\nreport = [\"quarter.html\", \"quarter-{as_of}.svg\", \"quarter.md\"]";
    desk.write("plan.toml", QUARTER.replacen("[output]", movement, 1));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let picture = desk.read("quarter-2026-09-30.svg");
    // It is by itself: drawn on its own paper, with a size, and nothing in it is asked for or run.
    assert!(picture.starts_with("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"808\""), "{picture}");
    for never in ["href", "<script", "url(http", "<image"] {
        assert!(!picture.contains(never), "{never}");
    }
    // The euro: from 3,260.25 by 1,705.75 new, 120.00 credited and 3,000.00 paid to 1,846.00.
    let (_, moved) = picture.split_once("Movement, EUR: from opening to closing").unwrap();
    let bars: Vec<(f64, f64)> = moved
        .lines()
        .filter(|line| line.starts_with("<rect x="))
        .take(5)
        .map(|line| {
            let number = |key: &str| between(line, &format!("{key}=\""), "\"").parse::<f64>().unwrap();
            (number(" x"), number("width"))
        })
        .collect();
    let [opening, new, credited, paid, closing] = bars[..] else { panic!("{bars:?}") };
    let close = |one: f64, other: f64| (one - other).abs() < 0.3;
    let unit = opening.1 / 3260.25;
    assert!(close(new.0, opening.0 + opening.1) && close(new.1, 1705.75 * unit), "{bars:?}");
    assert!(close(credited.0 + credited.1, new.0 + new.1) && close(credited.1, 120.0 * unit), "{bars:?}");
    assert!(close(paid.0 + paid.1, credited.0) && close(paid.1, 3000.0 * unit), "{bars:?}");
    assert!(close(closing.0, opening.0) && close(closing.0 + closing.1, paid.0), "{bars:?}");
    for figure in ["3,260.25", "1,705.75", "-120.00", "-3,000.00", "1,846.00"] {
        assert!(moved.contains(figure), "{figure}");
    }
    assert!(desk.read("quarter.html").contains("Movement, EUR: from opening to closing"));
    assert!(desk.read("quarter.md").contains("Movement"));
    // Each is an output, and the same once more.
    let receipt = desk.read("plan.receipt.toml");
    for name in ["quarter.html", "quarter-2026-09-30.svg", "quarter.md"] {
        assert!(receipt.contains(name), "{name}");
    }
    assert_eq!(desk.mild(&["verify", "plan.receipt.toml", "--again"]).code, 0);
    // Two of one name are a mistake before a row is read.
    let twice = desk.read("plan.toml").replace("quarter.md", "quarter.html");
    desk.write("plan.toml", twice);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 2);
    assert!(answer.err.contains("this output is the file of report"), "{}", answer.err);
}

#[test]
fn charts_in_pixels_where_that_is_built_in() {
    let desk = desk_with("charts.png");
    let answer = desk.run_plan();
    if cfg!(feature = "png") {
        assert_eq!(answer.code, 0, "{}", answer.err);
        assert!(fs::read(desk.path("charts.png")).unwrap().starts_with(b"\x89PNG"));
    } else {
        assert_eq!(answer.code, 3);
        assert!(answer.err.contains("this build draws no PNG"), "{}", answer.err);
        assert!(!desk.path("rows.csv").exists());
    }
}

#[test]
fn a_report_as_markdown() {
    let desk = desk_with("report.md");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_snapshot!(desk.read("report.md"));
}

#[test]
fn a_report_in_no_form_that_is_drawn() {
    let answer = desk_with("report.docx").run_plan();
    assert_eq!(answer.code, 2);
    assert_snapshot!(answer.err);
}

#[test]
fn a_report_as_a_workbook_of_typed_cells() {
    let desk = quarter_desk();
    let more = "[[report]]\nkind = \"list\"\ncolumns = [\"Invoice\", \"Due\", \"Days overdue\", \"Amount\"]\nsum = \"Amount\"\n[[report]]\nkind = \"aging\"\ntitle = \"Aging\"\nband = \"Age band\"\namount = \"Amount\"\nissued = \"Issued\"\npayments = \"Paid so far\"\nby = \"Terms\"\n\
        [[report]]\nkind = \"summary\"\ntitle = \"By day\"\nby = \"Issued\"\nshow = [\"count\"]\n";
    desk.write(
        "plan.toml",
        QUARTER.replace("[output]", &format!("{more}\n[output]\nreport = \"quarter.xlsx\"")),
    );
    // A text that would run as a formula, and one that is markup.
    desk.write(
        "invoices.csv",
        support::quarter::INVOICES.replace("Q8,EUR", "=1+1,EUR").replace("Q6,EUR", "<b>Q6,EUR"),
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let mut book: Xlsx<_> = open_workbook(desk.path("quarter.xlsx")).unwrap();
    let names = book.sheet_names();
    // A sheet a table: three currencies of an aging, of a list and of another aging, and what every run has.
    assert_eq!(names[..4], ["Aging", "Aging 2", "Aging 3", "List"]);
    assert_eq!(names.last().map(String::as_str), Some("Checks"));
    assert!(names.contains(&"List".to_owned()) && names.contains(&"Aging 6".to_owned()), "{names:?}");
    // The formulas are the sums of the totals alone.
    let mut sums = 0;
    for name in &names {
        let (formulas, cells) = (book.worksheet_formula(name).unwrap(), book.worksheet_range(name).unwrap());
        for (row, column, formula) in formulas.used_cells().filter(|(_, _, formula)| !formula.is_empty()) {
            let (first_row, first_column) = formulas.start().unwrap();
            let (row, column) = (first_row + row as u32, first_column + column as u32);
            let (from, to) =
                formula.strip_prefix("SUM(").and_then(|sum| sum.strip_suffix(')')?.split_once(':')).unwrap();
            let first: u32 = from[1..].parse::<u32>().unwrap() - 1;
            assert_eq!(to[1..].parse(), Ok(row), "{name}: {formula}");
            // It begins below the header.
            let above = cells.get_value((first - 1, column));
            assert!(matches!(above, Some(Data::String(_))), "{name}: {formula} below {above:?}");
            let added: f64 =
                (first..row).filter_map(|above| cells.get_value((above, column))?.as_f64()).sum();
            let total = cells.get_value((row, column)).and_then(DataType::as_f64).unwrap();
            assert!((added - total).abs() < 1e-6, "{name}: {formula} is {added}, and {total} is kept");
            sums += 1;
        }
    }
    assert!(sums > 3, "{sums}");
    // A report by days has days in its rows.
    let by_day = book.worksheet_range("By day").unwrap();
    assert!(matches!(by_day.get_value((2, 0)), Some(Data::DateTime(_))), "{by_day:?}");
    let added = book.worksheet_range("Checks").unwrap();
    let is_of = |row: &&[Data], name: &str| row[0] == Data::String(name.to_owned());
    let due = added.rows().find(|row| is_of(row, "Due") && matches!(row[1], Data::DateTime(_))).unwrap();
    assert!(matches!(&due[4], Data::DateTime(_)), "{due:?}");
    let overdue = added.rows().find(|row| is_of(row, "Days overdue") && row[1].is_float()).unwrap();
    assert!(overdue[1..5].iter().all(|cell| matches!(cell, Data::Float(_))), "{overdue:?}");
    let euro = book.worksheet_range("Aging").unwrap();
    let cell = |range: &Range<Data>, row: u32, column: u32| range.get_value((row, column)).cloned();
    // Below the header: the name, five buckets, no date, credits, the total, and its share.
    let total_row = euro.rows().position(|row| row[0] == Data::String("Total".to_owned())).unwrap();
    let total: Vec<Option<Data>> = (0..10).map(|column| cell(&euro, total_row as u32, column)).collect();
    let number = |number: f64| Some(Data::Float(number));
    assert_eq!(total[1..9], [715.75, 0.0, 990.0, 310.0, 50.25, 0.0, -220.0, 1846.0].map(number));
    assert_eq!((total[0].clone(), total[9].clone()), (Some(Data::String("Total".to_owned())), number(1.0)));
    let list = book.worksheet_range("List").unwrap();
    let rows: Vec<&[Data]> = list.rows().filter(|row| row[0] == Data::String("=1+1".to_owned())).collect();
    let [row] = rows.as_slice() else { panic!("one row of =1+1: {rows:?}") };
    // 30 September and 30 days.
    let Data::DateTime(due) = &row[1] else { panic!("no date: {row:?}") };
    assert_eq!(due.to_ymd_hms_milli().0, 2026);
    assert_eq!(due.as_f64(), 46_325.0, "days since the end of 1899");
    assert_eq!((row[2].clone(), row[3].clone()), (Data::Float(-30.0), Data::Float(640.0)));
    // Each column of amounts sums to its total, as it is read.
    let amounts: Vec<f64> = list.rows().filter_map(|row| row[3].as_f64()).collect();
    let (last, parts) = amounts.split_last().unwrap();
    assert!(
        (parts.iter().sum::<f64>() - last).abs() < 0.005 && (*last - 6846.5).abs() < 0.005,
        "{amounts:?}"
    );
    // It opens on the first report, below the answer.
    let front = book.worksheet_range(&names[0]).unwrap();
    let said = |row: u32| cell(&front, row, 0).map(|cell| cell.to_string()).unwrap_or_default();
    assert_eq!(said(0), "Quarter end");
    assert!(said(1).starts_with("as of 2026-09-30 (Wednesday)"), "{}", said(1));
    assert!(said(2).starts_with("Aging: EUR 1,846.00 owed"), "{}", said(2));
    // The same run makes the same bytes.
    assert_eq!(desk.mild(&["verify", "plan.receipt.toml", "--again"]).code, 0);
    let parts = fs::read(desk.path("quarter.xlsx")).unwrap();
    let mut archive = zip::ZipArchive::new(std::io::Cursor::new(parts)).unwrap();
    let charts = archive
        .file_names()
        .filter(|name| name.as_ref().is_ok_and(|name| name.starts_with("xl/charts/")))
        .count();
    assert!(charts >= 6, "{charts} charts");
    assert!(archive.by_name("xl/vbaProject.bin").is_err());
}

/// What is in a page after our script has run in a browser: that of the page itself may not run any.
fn in_the_browser(browser: &str, desk: &Desk, page: &str, script: &str) -> String {
    let (head, rest) = page.split_once("<meta http-equiv").unwrap();
    let (_, rest) = rest.split_once('>').unwrap();
    let script = format!(
        "<script>addEventListener('load', async () => {{ const found = await (async () => {{ {script} }})(); \
         const out = document.createElement('pre'); out.id = 'found'; out.textContent = JSON.stringify(found); document.body.append(out); }})</script></head>"
    );
    desk.write("with-script.html", format!("{head}{}", rest.replacen("</head>", &script, 1)));
    let shown = browse(browser, desk, &["--dump-dom", "--virtual-time-budget=20000"], "with-script.html");
    between(&shown.0, "<pre id=\"found\">", "</pre>").replace("&quot;", "\"").replace("&amp;", "&")
}

/// What the browser writes, and what it complains of.
fn browse(browser: &str, desk: &Desk, arguments: &[&str], file: &str) -> (String, String) {
    let profile = tempfile::tempdir().unwrap();
    let output = Command::new(browser)
        .args(["--headless=new", "--no-sandbox", "--disable-gpu", "--disable-background-networking"])
        .args(["--enable-logging=stderr", "--no-first-run", "--allow-file-access-from-files"])
        .arg(format!("--user-data-dir={}", profile.path().display()))
        .args(arguments)
        .arg(format!("file://{}", desk.path(file).display()))
        .current_dir(desk.folder())
        .output()
        .unwrap();
    let text = |bytes: &[u8]| String::from_utf8_lossy(bytes).into_owned();
    (text(&output.stdout), text(&output.stderr))
}

/// Only bars that the report draws give way to a picture, and never what the records hold.
#[test]
fn block_characters_of_the_records_stay_on_the_page() {
    let desk = Desk::new();
    desk.write("records.csv", "Id,,Amount\n1,█████,10.00\n2,███,20.00\n");
    desk.write(
        "plan.toml",
        "plan = 1\n[records]\nfile = \"records.csv\"\n[records.amounts]\nAmount = { decimals = 2 }\n[[report]]\nkind = \"list\"\nfirst = 10\norder = [\"Amount\"]\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\nreport = \"report.html\"\n",
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("report.html");
    assert!(page.contains(">█████<") && page.contains(">███<"), "{page}");
}

/// In a real browser, where there is one: `MILD_BROWSER` names it, and `MILD_NEEDS_BROWSER` says that there must be one; `MILD_AXE` names the script of the
/// accessibility checker axe-core.
#[test]
fn a_browser_finds_no_fault_in_the_page() {
    let browser = std::env::var("MILD_BROWSER").unwrap_or_else(|_| "chromium".to_owned());
    let is_there =
        Command::new(&browser).arg("--version").output().is_ok_and(|output| output.status.success());
    if !is_there {
        assert!(std::env::var("MILD_NEEDS_BROWSER").is_err(), "there is no {browser}");
        return;
    }
    let desk = quarter_desk();
    let summary = "[[report]]\nkind = \"summary\"\nby = [\"Age band\", \"Terms\"]\nshow = [\"count\", { sum = \"Amount\" }, { mean = \"Worked\" }]\n[[report]]\nkind = \"movement\"\nsince = 2026-06-30\nband = \"Age band\"\namount = \"Amount\"\nissued = \"Issued\"\npayments = \"Paid so far\"\n";
    let plan = QUARTER.replace("[output]", &format!("{summary}\n[output]\nreport = \"quarter.html\""));
    let working = "[calendar.yard]\nholidays = [2026-09-07]\ncovers = \"2026\"\n\n[[column]]\nname = \"Worked\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"working days\"\n\n[[report]]";
    let plan = plan.replacen("[[report]]", working, 1);
    desk.write(
        "plan.toml",
        plan.replacen("payments = \"Paid so far\"\n\n", "payments = \"Paid so far\"\nby = \"Terms\"\n\n", 1),
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let page = desk.read("quarter.html");
    // As it is: nothing is asked for that its policy forbids, and nothing in it fails.
    let (dom, complaints) = browse(&browser, &desk, &["--dump-dom"], "quarter.html");
    assert!(dom.contains("Quarter end"), "{complaints}");
    assert!(!complaints.contains("CONSOLE"), "{complaints}");
    // All tables and pictures are there, and have a size.
    let counts = in_the_browser(
        &browser,
        &desk,
        &page,
        "return [document.querySelectorAll('table').length, [...document.querySelectorAll('svg')].filter(it => it.getBoundingClientRect().height > 50).length, performance.getEntriesByType('resource').length, [...document.querySelectorAll('*')].filter(it => it.getAttributeNames().some(name => name.startsWith('on'))).length]",
    );
    // Each picture is there twice, for screens and for telephones.
    let (tables, charts) = (page.matches("<table").count(), page.matches("<svg").count() / 2);
    assert!(charts >= 3);
    assert_eq!(counts, format!("[{tables},{charts},0,0]"));
    // On paper as wide as A4 and Letter no table is wider than the page.
    let on_paper = page.replace("@media print", "@media all");
    for width in ["702", "725"] {
        let measure = format!(
            "document.body.style.width = '{width}px'; return [...document.querySelectorAll('.scroll > table')].filter(it => it.offsetWidth > {width}).map(it => it.caption.textContent)"
        );
        assert_eq!(in_the_browser(&browser, &desk, &on_paper, &measure), "[]", "at {width} pixels");
    }
    // An opened box fits a telephone.
    let measure = "document.body.style.width = '360px'; document.querySelectorAll('details').forEach(it => { it.open = true }); return [document.querySelectorAll('.month').length > 2, [...document.querySelectorAll('details table')].filter(it => it.offsetWidth > 360).map(it => it.caption.textContent)]";
    assert_eq!(in_the_browser(&browser, &desk, &page, measure), "[true,[]]");
    let (_, complaints) = browse(&browser, &desk, &["--print-to-pdf=quarter.pdf"], "quarter.html");
    assert!(fs::read(desk.path("quarter.pdf")).is_ok_and(|pdf| pdf.starts_with(b"%PDF")), "{complaints}");
    let Ok(axe) = std::env::var("MILD_AXE") else {
        assert!(std::env::var("MILD_NEEDS_BROWSER").is_err(), "MILD_AXE names no script");
        return;
    };
    let axe = fs::read_to_string(axe).unwrap();
    desk.write("axe.js", axe);
    for dark in ["", "document.documentElement.style.colorScheme = 'dark';"] {
        let script = format!(
            "{dark} await new Promise(done => {{ const it = document.createElement('script'); it.src = 'axe.js'; it.onload = done; document.head.append(it) }}); document.querySelectorAll('details').forEach(it => {{ it.open = true }}); const found = await axe.run(); return [found.passes.length > 10, found.violations.map(it => it.id + ' ' + it.nodes[0].html)]"
        );
        let page =
            if dark.is_empty() { page.clone() } else { page.replace("(prefers-color-scheme: dark)", "all") };
        assert_eq!(in_the_browser(&browser, &desk, &page, &script), "[true,[]]", "{dark}");
    }
}
