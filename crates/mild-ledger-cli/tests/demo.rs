//! The demo: what it writes, what it shows, and its figures worked out again by other means.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use std::collections::BTreeMap;
use support::Desk;

#[test]
fn the_demo_as_a_newcomer_sees_it() {
    let desk = Desk::new();
    let answer = desk.mild(&["demo"]);
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!("the_demo_as_a_newcomer_sees_it", answer.out);
    assert_snapshot!("exceptions_of_the_demo", desk.read("mild-demo/exceptions-2026-09-30.csv"));
    let again = desk.mild(&["demo"]);
    assert_eq!((again.code, again.out == answer.out), (0, true), "it can be run again");
}

#[test]
fn a_changed_file_of_the_demo_stays() {
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo", "here"]).code, 0);
    let mine = desk.read("here/receivables.toml").replace("Receivables at month end", "Mine");
    desk.write("here/receivables.toml", &mine);
    let answer = desk.mild(&["demo", "here"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(
        answer.err.replace('\\', "/"),
        "note: here/receivables.toml was changed and is kept as it is\n"
    );
    assert_eq!(desk.read("here/receivables.toml"), mine);
    assert!(answer.out.starts_with("Mine\n"));
}

#[test]
fn a_folder_that_cannot_be_made() {
    let desk = Desk::new();
    desk.write("taken", "");
    let answer = desk.mild(&["demo", "taken"]);
    assert_eq!(answer.code, 3);
    assert!(answer.err.starts_with("error: taken: could not write it: "), "{}", answer.err);
}

/// Days since 2025-01-01 of a day/month/year text, by adding up the lengths of months.
fn day_number(text: &str) -> Option<i64> {
    let parts: Vec<i64> = text.split('/').map(|part| part.parse().ok()).collect::<Option<_>>()?;
    let [day, month, year] = parts.as_slice() else { return None };
    let lengths = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
    let of_month = lengths.get(usize::try_from(month - 1).ok()?)?;
    (1..=*of_month)
        .contains(day)
        .then(|| (year - 2025) * 365 + lengths[..(month - 1) as usize].iter().sum::<i64>() + day)
}

#[test]
fn the_figures_of_the_demo_worked_out_again() {
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo"]).code, 0);
    let json = desk.mild(&["run", "mild-demo/receivables.toml", "--json"]).json();
    // The records by hand: quoted commas first, then the cells; 2025 and 2026 are common years.
    let records = desk.read("mild-demo/invoices-2026-09-30.csv");
    let as_of = day_number("30/09/2026").unwrap();
    let mut seen = Vec::new();
    let mut aged: BTreeMap<String, [i64; 8]> = BTreeMap::new();
    let (mut set_aside, mut written) = (0, 0);
    for line in records.lines().skip(1) {
        let outside: Vec<String> = line
            .split('"')
            .enumerate()
            .map(|(nth, part)| if nth % 2 == 1 { part.replace(',', ";") } else { part.to_owned() })
            .collect();
        let joined = outside.concat();
        let cells: Vec<&str> = joined.split(',').map(str::trim).collect();
        if cells.len() != 6 || seen.contains(&cells[0].to_owned()) {
            set_aside += 1;
            continue;
        }
        seen.push(cells[0].to_owned());
        written += 1;
        let issued = day_number(cells[3].split(' ').next().unwrap());
        let paid = day_number(cells[4]).filter(|_| !cells[4].ends_with("1899"));
        let cents: i64 = cells[5].replace('.', "").parse().unwrap();
        if issued.is_some_and(|day| day > as_of) || paid.is_some_and(|day| day <= as_of) {
            continue;
        }
        let bucket = match issued.map(|day| as_of - (day + 30)) {
            _ if cents < 0 => 7,
            None if cells[3].is_empty() => 5,
            None => 6,
            Some(..=0) => 0,
            Some(1..=30) => 1,
            Some(31..=60) => 2,
            Some(61..=90) => 3,
            Some(_) => 4,
        };
        aged.entry(cells[1].to_owned()).or_default()[bucket] += cents;
    }
    assert_eq!(
        (json["rows"]["written"].as_u64(), json["rows"]["set_aside"].as_u64()),
        (Some(written), Some(set_aside))
    );
    let mut found: BTreeMap<String, [i64; 8]> = BTreeMap::new();
    for row in json["reports"][0]["rows"].as_array().unwrap() {
        let cents =
            |nth: usize| row["amounts"][nth].as_str().unwrap().replace('.', "").parse::<i64>().unwrap();
        found.insert(row["by"].as_str().unwrap().to_owned(), std::array::from_fn(cents));
    }
    assert_eq!(found, aged);
    assert!(aged.len() > 10 && aged.values().any(|amounts| amounts[5] != 0), "the demo shows something");
}

/// The commands that a page shows, between backticks or in lines of their own.
fn commands_of(page: &str) -> Vec<String> {
    let text = page.replace('\n', "\n ");
    let joined = text.split_whitespace().collect::<Vec<_>>().join(" ");
    let spans =
        joined.split('`').skip(1).step_by(2).filter(|span| span.starts_with("mild ")).map(str::to_owned);
    let lines = page.lines();
    let lines = lines.filter_map(|line| line.strip_prefix("    mild ").map(|rest| format!("mild {rest}")));
    // A command with … in it is not complete.
    spans.chain(lines).filter(|command| !command.contains('…')).collect()
}

/// What a command of a page answers. Quotes keep words together, as a shell would.
fn answer_to(desk: &Desk, command: &str) -> support::Answer {
    let words: Vec<String> = command
        .split('"')
        .enumerate()
        .flat_map(|(nth, part)| match nth % 2 {
            0 => part.split_whitespace().map(str::to_owned).collect(),
            _ => vec![part.to_owned()],
        })
        .skip(1)
        .collect();
    let words: Vec<&str> = words.iter().map(String::as_str).collect();
    desk.mild(&words)
}

/// Runs each command as it is written, in a folder that the demo was written to.
fn run_all(desk: &Desk, commands: &[String]) {
    for command in commands {
        let answer = answer_to(desk, command);
        assert_eq!(answer.code, 0, "{command}\n{}", answer.err);
        assert!(!answer.out.is_empty(), "{command}");
    }
}

#[test]
fn every_command_of_the_readme_runs_as_it_is_written() {
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo", "."]).code, 0);
    assert_eq!(desk.mild(&["demo", "demo"]).code, 0);
    let commands = commands_of(include_str!("../../../README.md"));
    assert!(commands.len() > 4, "{commands:?}");
    run_all(&desk, &commands);
}

#[test]
fn every_command_of_the_pages_runs_as_it_is_written() {
    for (page, least) in [
        (include_str!("../../../docs/quick-start.md"), 8),
        (include_str!("../../../docs/which-figure.md"), 12),
        (include_str!("../../../docs/figures-people-get-wrong.md"), 8),
    ] {
        let desk = Desk::new();
        assert_eq!(desk.mild(&["demo", "."]).code, 0);
        // A command named without its arguments is not one to run, nor is one that lists.
        let all = commands_of(page).into_iter().filter(|command| command.split(' ').count() > 2);
        let commands: Vec<String> = all.filter(|command| !command.starts_with("mild demo")).collect();
        assert!(commands.len() >= least, "{commands:?}");
        run_all(&desk, &commands);
    }
}

/// What the jobs on a file print is on their page; `MILD_WRITE_PAGES=1` writes it.
#[test]
fn the_jobs_on_a_file_print_what_the_page_has() {
    const BEGIN: &str = "```console\n$ ";
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo", "."]).code, 0);
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/which-figure.md");
    let page = std::fs::read_to_string(&path).unwrap();
    let mut parts = page.split(BEGIN);
    let mut expected = parts.next().unwrap().to_owned();
    let mut jobs = 0;
    for part in parts {
        let (block, after) = part.split_once("\n```").unwrap();
        let command = block.lines().next().unwrap();
        let answer = answer_to(&desk, command);
        assert_eq!(answer.code, 0, "{command}: {}", answer.err);
        expected += &format!("{BEGIN}{command}\n{}\n```{after}", answer.out.trim_end());
        jobs += 1;
    }
    assert!(jobs > 7, "{jobs}");
    if std::env::var_os("MILD_WRITE_PAGES").is_some() {
        std::fs::write(&path, &expected).unwrap();
    } else {
        assert!(page == expected, "MILD_WRITE_PAGES=1 cargo test --test demo writes docs/which-figure.md");
    }
}

/// The right figures of the page are those of its commands.
#[test]
fn the_right_figures_are_right() {
    let desk = Desk::new();
    let page = include_str!("../../../docs/figures-people-get-wrong.md");
    let mut tried = 0;
    for line in page.lines().filter(|line| line.starts_with("| ") && line.contains("`mild ")) {
        let cells: Vec<&str> = line.trim_matches('|').split('|').map(str::trim).collect();
        let (wrong, right, command) = (cells[1], cells[2], cells[3].trim_matches('`'));
        let answer = answer_to(&desk, command);
        // A date of the page is in words, one of the command in ISO 8601.
        let shown = match right {
            "31 March" => "2026-03-31",
            "28 February" => "2026-02-28",
            "2 March" => "2026-03-02",
            number => number,
        };
        let first = answer.out.lines().next().unwrap();
        assert!(
            first.split(|sign: char| !sign.is_alphanumeric() && sign != '-').any(|word| word == shown),
            "{line}: {first}"
        );
        assert_ne!(wrong, right);
        tried += 1;
    }
    assert_eq!(tried, 8);
}

/// What the quick start names is what the commands print.
#[test]
fn the_quick_start_says_what_the_commands_say() {
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo", "."]).code, 0);
    let page = include_str!("../../../docs/quick-start.md");
    let look = desk.mild(&["look", "ledger-2026-09-30.csv"]).out;
    for words in [
        "the header is line 4",
        "row 62, the last one, seems to be a total",
        "rows 34 and 61 have the same value",
    ] {
        assert!(look.contains(words), "{words}: {look}");
    }
    let command = commands_of(page).into_iter().find(|command| command.contains("--to page.html")).unwrap();
    let answer = answer_to(&desk, &command);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.out.contains("137,187.44 owed by 6 values of Customer"), "{}", answer.out);
    assert!(page.contains("137,187.44 owed by 6 customers"));
    // Counted by a walk over the file: all but the duplicate, the total, and what was paid by then.
    let open: i64 = desk
        .read("ledger-2026-09-30.csv")
        .lines()
        .skip(4)
        .filter(|line| line.starts_with("QL-"))
        .take(60)
        .filter(|line| line.split(',').nth(4) == Some(""))
        .map(|line| {
            let amount: String =
                line.splitn(6, ',').nth(5).unwrap().chars().filter(char::is_ascii_digit).collect();
            amount.parse::<i64>().unwrap()
        })
        .sum();
    assert_eq!(open, 13_718_744);
}

/// Jobs counted by a walk over the days, besides what the demo says of them.
#[test]
fn the_jobs_of_the_demo_counted_off() {
    let desk = Desk::new();
    assert_eq!(desk.mild(&["demo", "."]).code, 0);
    let report = desk.mild(&["run", "jobs.toml", "--json"]).json()["reports"][0].clone();
    // In 2026 Harvest Monday is 25 May and Launch Day 4 May; the slip repair, the regatta and a working Saturday come later than the jobs.
    let holidays =
        ["04/05/2026", "25/05/2026", "03/04/2026", "25/09/2026"].map(|day| day_number(day).unwrap());
    let is_working = |day: i64| {
        // Day 1 is 1 January 2025, a Wednesday.
        !matches!((day + 1) % 7, 5 | 6) && !holidays.contains(&day)
    };
    let mut by_work: BTreeMap<String, (u64, i64, i64)> = BTreeMap::new();
    for line in desk.read("jobs-2026-09-30.csv").lines().skip(1) {
        let cells: Vec<&str> = line.split(',').collect();
        let Some(end) = day_number(cells[5]) else { continue };
        let start = day_number(cells[4]).unwrap();
        let taken = (start + 1..=end).filter(|day| is_working(*day)).count() as i64;
        let of_work = by_work.entry(cells[2].to_owned()).or_insert((0, i64::MAX, 0));
        *of_work = (of_work.0 + 1, of_work.1.min(taken), of_work.2.max(taken));
    }
    assert!(by_work.len() > 3);
    for row in report["tables"][0]["rows"].as_array().unwrap() {
        let (finished, shortest, longest) = by_work[row[0].as_str().unwrap()];
        assert_eq!(
            (row[1].as_u64(), row[5].as_i64(), row[7].as_i64()),
            (Some(finished), Some(shortest), Some(longest)),
            "{row}"
        );
    }
}
