//! Columns that a plan adds: intervals in every measure, moves, periods, ages, stays, and windows to select by.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

const STAFF: &str = "Name,Born,Hired,Left
Ada,1984-02-29,2009-05-18,
Bo,1991-12-03,2018-01-31,2026-02-28
Cleo,2001-07-30,2026-10-05,
Dov,,2024-02-29,soon
Eve,2027-01-01,2025-09-30,2026-12-31
";

/// The last column of the rows that a plan over the staff writes, its header first.
fn last_column(column: &str) -> Vec<String> {
    let desk = desk_with(column);
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 0, "{column}\n{}", answer.err);
    let rows = desk.read("rows.csv");
    rows.lines().map(|line| line.split(',').skip(4).collect::<Vec<_>>().join(",")).skip(1).collect()
}

fn desk_with(column: &str) -> Desk {
    let desk = Desk::new();
    desk.write("staff.csv", STAFF);
    desk.write("plan.toml", format!("plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"staff.csv\"\n[records.dates]\nBorn = \"iso\"\nHired = \"iso\"\nLeft = \"iso\"\n[[column]]\nname = \"It\"\n{column}\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"));
    desk
}

#[test]
fn intervals_in_every_measure() {
    let hired = |rest: &str| last_column(&format!("between = [\"Hired\", \"as-of\"]\n{rest}"));
    assert_eq!(hired("count = \"days\""), ["6344", "3164", "-5", "944", "365"]);
    assert_eq!(hired("count = \"days\"\nends = \"first-and-last\""), ["6345", "3165", "-6", "945", "366"]);
    assert_eq!(hired("count = \"complete months\""), ["208", "104", "0", "31", "12"]);
    assert_eq!(
        hired("count = \"complete months\"\nends = \"first-and-last\""),
        ["208", "104", "0", "31", "12"]
    );
    assert_eq!(hired("count = \"complete years\"\nmonth_end = \"next-start\""), ["17", "8", "0", "2", "1"]);
    assert_eq!(hired("count = \"fractional years\""), ["17.37", "8.66", "-0.01", "2.59", "1.00"]);
    assert_eq!(
        hired("count = \"fractional months\"\ndecimals = 0\nrounding = \"up\""),
        ["209", "104", "-1", "32", "12"]
    );
    assert_eq!(
        hired("count = \"actual-360\"\nrounding = \"truncate\""),
        ["17.6222", "8.7888", "-0.0138", "2.6222", "1.0138"]
    );
    assert_eq!(
        hired("count = \"week starts passed\"\nweeks_begin = \"sunday\""),
        ["906", "452", "-1", "135", "52"]
    );
    // A figure of our own is a figure, whatever character it begins with.
    assert_eq!(hired("count = \"parts\"")[1..3], ["8 years and 8 months", "-5 days"]);
}

#[test]
fn stays_and_ages() {
    let stay = |rest: &str| last_column(&format!("tenure = [\"Hired\", \"Left\"]\n{rest}"));
    // Cleo has not begun; when Dov left cannot be read; Eve's end has not come.
    assert_eq!(stay("count = \"complete months\""), ["208", "97", "", "", "12"]);
    let parts = stay("count = \"parts\"");
    assert_eq!(parts, ["\"17 years, 4 months and 12 days\"", "8 years and 1 month", "", "", "1 year"]);
    assert_eq!(last_column("tenure = \"Hired\"\ncount = \"complete years\""), ["17", "8", "", "2", "1"]);
    assert_eq!(last_column("age = \"Born\""), ["42", "34", "25", "", ""]);
    assert_eq!(last_column("age = \"Born\"\non = 2026-02-28"), ["42", "34", "24", "", ""]);
    assert_eq!(
        last_column("age = \"Born\"\non = 2026-02-28\nleap_day = \"next-start\""),
        ["41", "34", "24", "", ""]
    );
    assert_eq!(last_column("age = \"Born\"\non = \"Hired\""), ["25", "26", "25", "", ""]);
    let desk = desk_with("age = \"Born\"");
    assert_eq!(desk.run_plan().code, 0);
    assert_snapshot!(desk.read("exceptions.csv"));
}

#[test]
fn moves_periods_and_the_first_of_several_dates() {
    let hired = |rest: &str| last_column(&format!("from = \"Hired\"\n{rest}"));
    assert_eq!(hired("weekday = \"on or after monday\"")[..2], ["2009-05-18", "2018-02-05"]);
    assert_eq!(hired("shift = \"1 month\"\nweekday = \"before friday\"")[..2], ["2009-06-12", "2018-02-23"]);
    let period = |rest: &str| last_column(&format!("of = \"Hired\"\n{rest}"));
    assert_eq!(
        period("period = \"month\"\ngives = \"last day\""),
        ["2009-05-31", "2018-01-31", "2026-10-31", "2024-02-29", "2025-09-30"]
    );
    assert_eq!(
        period("period = \"month\"\ngives = \"first day\"\naway = 1")[..2],
        ["2009-06-01", "2018-02-01"]
    );
    assert_eq!(
        period("period = \"quarter\"\ngives = \"label\""),
        ["2009-Q2", "2018-Q1", "2026-Q4", "2024-Q1", "2025-Q3"]
    );
    assert_eq!(
        period("period = \"fiscal quarter\"\ngives = \"label\"\nfiscal_year_begins = \"10\"")[2],
        "FY2027-Q1"
    );
    assert_eq!(
        period(
            "period = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"10\"\nfiscal_named = \"begin\""
        )[2],
        "FY2026"
    );
    assert_eq!(period("period = \"week\"\ngives = \"number\"")[0], "21");
    assert_eq!(period("period = \"year\"\ngives = \"days\"")[3], "366");
    assert_eq!(
        period("period = \"week-year\"\ngives = \"first day\"\nweek_years = \"last saturday of january\"")[2],
        "2026-02-01"
    );
    assert_eq!(period("period = \"month\"\ngives = \"label\"\npattern = \"%b %Y\"")[0], "May 2009");
    // When Dov left could not be read, so the day he was hired does not take its place.
    assert_eq!(
        last_column("first_of = [\"Left\", \"Hired\"]"),
        ["2009-05-18", "2026-02-28", "2026-10-05", "", "2026-12-31"]
    );
}

#[test]
fn rows_selected_by_days_named_from_the_as_of_date() {
    let select = |window: &str| {
        let desk = desk_with("age = \"Born\"");
        let plan = desk.read("plan.toml").replace(
            "[[column]]",
            &format!("[[select]]\ncolumn = \"Hired\"\nwithin = \"{window}\"\n[[column]]"),
        );
        desk.write("plan.toml", plan);
        let answer = desk.run_plan();
        assert_eq!(answer.code, 0, "{}", answer.err);
        let names: Vec<String> =
            desk.read("rows.csv").lines().skip(1).map(|line| line[..2].to_owned()).collect();
        let note = answer.out.lines().find(|line| line.contains(" within ")).unwrap().trim().to_owned();
        (names.join(" "), note)
    };
    assert_eq!(
        select("next month"),
        ("Cl".to_owned(), "Note: \"Hired\" within next month: 2026-10-01 to 2026-10-31.".to_owned())
    );
    assert_eq!(select("last 12 months").0, "");
    assert_eq!(select("last 366 days").0, "Ev");
    assert_eq!(select("year to date").0, "");
    assert_eq!(select("last year").0, "Ev");
}

#[test]
fn mistakes_in_these_columns() {
    let said = |column: &str| {
        let answer = desk_with(column).run_plan();
        assert_eq!(answer.code, 2, "{column}");
        answer.err
    };
    assert_snapshot!(
        "a_way_of_counting_without_its_word",
        said("between = [\"Hired\", \"as-of\"]\ncount = \"years\"")
    );
    assert_snapshot!(
        "decimals_of_whole_days",
        said("between = [\"Hired\", \"as-of\"]\ncount = \"days\"\ndecimals = 2")
    );
    assert_snapshot!(
        "ends_that_are_none",
        said("between = [\"Hired\", \"as-of\"]\ncount = \"days\"\nends = \"both\"")
    );
    assert_snapshot!(
        "a_pattern_where_a_day_is_given",
        said("period = \"month\"\nof = \"Hired\"\ngives = \"first day\"\npattern = \"%b\"")
    );
    assert_snapshot!(
        "a_period_that_is_none",
        said("period = \"months\"\nof = \"Hired\"\ngives = \"first day\"")
    );
    assert_snapshot!(
        "a_fiscal_year_from_no_day",
        said("period = \"fiscal year\"\nof = \"Hired\"\ngives = \"number\"\nfiscal_year_begins = \"02-30\"")
    );
    assert_snapshot!("a_tenure_in_days", said("tenure = [\"Hired\"]\ncount = \"days\""));
    assert_snapshot!("an_age_of_a_name", said("age = \"Name\""));
    assert_snapshot!("the_first_of_one_date", said("first_of = [\"Hired\"]"));
    assert_snapshot!("a_month_end_without_a_move", said("from = \"Hired\"\nmonth_end = \"keep\""));
}

#[test]
fn a_made_up_number_is_no_amount_for_an_aging() {
    let desk = desk_with(
        "between = [\"Hired\", \"as-of\"]\ncount = \"days\"\n[[column]]\nname = \"Band\"\nbucket = \"It\"\nedges = [0]\n[[column]]\nname = \"Years\"\nbetween = [\"Hired\", \"as-of\"]\ncount = \"fractional years\"\n[[report]]\nkind = \"aging\"\nband = \"Band\"\namount = \"Years\"",
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 2);
    assert!(answer.err.contains("a column named under [records.amounts]"), "{}", answer.err);
    let json = desk_with("tenure = \"Hired\"\ncount = \"days\"").mild(&["run", "plan.toml", "--json"]).json();
    let example = "row 4 (line 5), Left: \"soon\": not a date of this pattern (allowed: a date such as 2026-09-30, 2026-W40-3 or 2026-273)";
    assert_eq!(
        json["exceptions"][0],
        json!({"reason": "unreadable date", "outcome": "cell left empty", "count": 1, "examples": [example]})
    );
}

const JOBS: &str = "Job,Started,Ended,Terms,Days,Labour,Parts
J1,2026-03-28T22:00Z,2026-03-29T22:00Z,1 month,10,100.00,3
J2,2026-09-30T16:00:00+01:00,2026-10-02T09:30:00.25+01:00,45d,-3,62.50,0
J3,2026-01-31T08:15,2026-02-28T08:14:59.1234567,2 fortnights,,10.10,7
J4,2026-03-29T01:30,2026-03-30T01:30,,2,,1
";

/// The columns that a plan over the jobs adds, each as its header and its cells.
fn of_jobs(columns: &[&str]) -> (Vec<Vec<String>>, Desk) {
    let desk = Desk::new();
    desk.write("jobs.csv", JOBS);
    let columns: String = columns.iter().map(|column| format!("[[column]]\n{column}\n")).collect();
    desk.write("plan.toml", format!("plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"jobs.csv\"\n[records.dates]\nStarted = {{ pattern = \"iso\", time = \"keep\", zone = \"Europe/London\" }}\nEnded = {{ pattern = \"iso\", time = \"keep\", zone = \"Europe/London\" }}\n[records.amounts]\nLabour = {{ decimals = 2, required = false }}\nParts = {{ decimals = 0 }}\nDays = {{ decimals = 0, required = false }}\n{columns}[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"));
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 0, "{columns}\n{}", answer.err);
    let rows = desk.read("rows.csv");
    let lines: Vec<Vec<&str>> = rows.lines().map(|line| line.split(',').collect()).collect();
    let of = |nth: usize| lines.iter().map(|line| line[nth].to_owned()).collect();
    ((7..lines[0].len()).map(of).collect(), desk)
}

#[test]
fn times_of_day_are_kept_and_counted_where_the_plan_says_so() {
    let (columns, desk) = of_jobs(&[
        "between = [\"Started\", \"Ended\"]\ncount = \"complete hours\"",
        "between = [\"Started\", \"Ended\"]\ncount = \"fractional hours\"",
        "between = [\"Started\", \"Ended\"]\ncount = \"midnights passed\"",
        "between = [\"Started\", \"Ended\"]\ncount = \"complete months\"",
        "between = [\"Started\", \"Ended\"]\ncount = \"days\"",
        "field = \"hour\"\nof = \"Ended\"",
        "field = \"time\"\nof = \"Started\"",
        "from = \"Started\"\nshift = \"1M 2h\"",
    ]);
    // J1 is a day of 24 hours by the stopwatch and of 25 by the clock; J4 begins at a time that the clock skipped.
    assert_eq!(columns[0], ["Complete hours from Started to Ended", "24", "41", "671", ""]);
    assert_eq!(columns[1], ["Fractional hours from Started to Ended", "24.00", "41.50", "672.00", ""]);
    assert_eq!(columns[2], ["Midnights passed from Started to Ended", "1", "2", "28", ""]);
    assert_eq!(columns[3], ["Complete months from Started to Ended", "0", "0", "1", ""]);
    assert_eq!(columns[4], ["Days from Started to Ended (start not counted)", "1", "2", "28", ""]);
    assert_eq!(columns[5], ["Ended: hour", "23", "9", "8", "1"]);
    assert_eq!(columns[6], ["Started: time", "22:00:00", "16:00:00", "08:15:00", ""]);
    let moved = ["2026-04-29T00:00:00", "2026-10-30T18:00:00", "2026-02-28T10:15:00", ""];
    assert_eq!(columns[7][0], "Started + 1 month and 2 hours");
    assert_eq!(columns[7][1..], moved.map(str::to_owned));
    assert!(desk.read("rows.csv").contains("J1,2026-03-28T22:00:00,2026-03-29T23:00:00,"));
    assert_snapshot!(desk.read("exceptions.csv"));
}

#[test]
fn an_instant_becomes_the_date_that_its_zone_had() {
    let desk = Desk::new();
    desk.write("calls.csv", "Call\n2026-06-30T23:30Z\n2026-12-31T23:30Z\n2026-12-31T23:30\n");
    let plan = |zone: &str| {
        format!(
            "plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"calls.csv\"\n[records.dates]\nCall = {{ pattern = \"iso\"{zone} }}\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"
        )
    };
    desk.write("plan.toml", plan(", zone = \"Europe/London\""));
    assert_eq!(desk.run_plan().code, 0);
    assert_eq!(desk.read("rows.csv"), "Call\n2026-07-01\n2026-12-31\n2026-12-31\n");
    desk.write("plan.toml", plan(""));
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite"]).code, 0);
    assert_eq!(desk.read("rows.csv"), "Call\n\"\"\n\"\"\n2026-12-31\n");
    assert!(
        desk.read("exceptions.csv")
            .contains("a time with an offset or a zone needs a named zone to become a date")
    );
    desk.write("plan.toml", plan(", zone = \"Europe/Quillhaven\""));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 2);
    assert!(answer.err.contains("\"Europe/Quillhaven\" is not a time zone"), "{}", answer.err);
}

#[test]
fn a_zone_behind_a_time_is_another_clock_or_the_letters_of_its_own() {
    let desk = Desk::new();
    let calls = [
        ("2026-07-01 12:00 Pacific/Auckland", "2026-07-01T02:00:00"), // 12 hours ahead of UTC, Berlin 2
        ("2026-06-30T23:30+01:00[Europe/London]", "2026-07-01T00:30:00"),
        ("2026-07-01 12:00+00:00[UTC]", "2026-07-01T14:00:00"),
        ("2026-07-01 12:00Z[GMT]", "2026-07-01T14:00:00"),
        ("2026-07-01 12:00+02:00[UTC]", ""),
        ("2026-07-01 14:00 CEST", "2026-07-01T14:00:00"),
        // The hour that came twice, 02:30, first by summer time: distinguished by its letters.
        ("2026-10-25 02:30 CEST", "2026-10-25T02:30:00"),
        ("2026-10-25 02:30 CET", "2026-10-25T02:30:00"),
        ("2026-10-25 02:30", ""),
        ("2026-03-29 02:30 CET", ""),
        ("2026-07-01 14:00 CET", ""),
        ("2026-07-01 14:00 BST", ""),
        ("2026-07-01 14:00 Europe/Quillhaven", ""),
        ("2026-07-01 14:00+03:00[Europe/London]", ""),
    ];
    let rows = |part: fn(&(&'static str, &'static str)) -> &'static str| {
        calls.iter().map(|call| format!("{}\n", part(call))).collect::<String>()
    };
    desk.write("calls.csv", format!("Call\n{}", rows(|call| call.0)));
    let plan = |time: &str| {
        format!(
            "plan = 1\n[records]\nfile = \"calls.csv\"\n[records.dates]\nCall = {{ pattern = \"iso\", zone = \"Europe/Berlin\", time = \"{time}\" }}\n[[column]]\nname = \"Hours\"\nbetween = [2026-01-01, \"Call\"]\ncount = \"days\"\n[output]\nrows = \"rows.csv\"\ncolumns = [\"Call\"]\nexceptions = \"exceptions.csv\"\n"
        )
    };
    desk.write("plan.toml", plan("keep"));
    assert_eq!(desk.run_plan().code, 0);
    let expected = rows(|call| if call.1.is_empty() { "\"\"" } else { call.1 });
    assert_eq!(desk.read("rows.csv"), format!("Call\n{expected}"));
    let listed = desk.read("exceptions.csv");
    for why in [
        "2026-10-25T02:30:00 came twice in Europe/Berlin",
        "2026-03-29T02:30:00 does not exist in Europe/Berlin",
        "2026-07-01T14:00:00 CET does not exist in Europe/Berlin, whose clock went by CEST then",
        "2026-07-01T14:00:00 BST does not exist in Europe/Berlin",
        "\"\"Europe/Quillhaven\"\" is not a time zone",
        "Europe/London did not have the offset before it",
    ] {
        assert!(listed.contains(why), "{why}\n{listed}");
    }
    // A time that came twice, or never, and is dropped leaves its date as it is written.
    desk.write("plan.toml", plan("drop"));
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite"]).code, 0);
    assert!(
        desk.read("rows.csv").contains("2026-10-25\n2026-10-25\n2026-10-25\n\"\"\n"),
        "{}",
        desk.read("rows.csv")
    );
}

#[test]
fn moves_and_arithmetic_from_columns() {
    let (columns, desk) = of_jobs(&[
        "from = \"Started\"\nshift = { column = \"Days\", unit = \"days\" }",
        "from = \"Started\"\nshift = { column = \"Terms\" }",
        "sum = [\"Labour\", \"Parts\"]",
        "difference = [1000, \"Labour\"]",
        "product = [\"Labour\", 1.175]\ndecimals = 2\nrounding = \"up\"",
        "quotient = [\"Labour\", \"Parts\"]",
    ]);
    let days: Vec<&str> = columns[0].iter().map(|cell| &cell[..10.min(cell.len())]).collect();
    assert_eq!(days, ["Started + ", "2026-04-07", "2026-09-27", "", ""]);
    let terms: Vec<&str> = columns[1].iter().map(|cell| &cell[..10.min(cell.len())]).collect();
    assert_eq!(terms, ["Started + ", "2026-04-28", "2026-11-14", "", ""]);
    assert_eq!(columns[2], ["Labour + Parts", "103.00", "62.50", "17.10", ""]);
    assert_eq!(columns[3], ["1000 - Labour", "900.00", "937.50", "989.90", ""]);
    assert_eq!(columns[4], ["Labour × 1.175", "117.50", "73.44", "11.87", ""]);
    assert_eq!(columns[5], ["Labour ÷ Parts", "33.33", "", "1.44", ""]);
    let exceptions = desk.read("exceptions.csv");
    assert!(exceptions.contains("the divisor is zero"), "{exceptions}");
    assert!(exceptions.contains("\"\"fortnights\"\" is not a unit"), "{exceptions}");
}

#[test]
fn fields_anniversaries_rates_and_nearest_starts() {
    let it = last_column;
    assert_eq!(it("field = \"year\"\nof = \"Hired\"")[..2], ["2009", "2018"]);
    assert_eq!(it("field = \"weekday\"\nof = \"Hired\"")[..2], ["Monday", "Wednesday"]);
    assert_eq!(it("field = \"month name\"\nof = \"Hired\"")[..2], ["May", "January"]);
    assert_eq!(it("field = \"week date\"\nof = \"Hired\"")[..2], ["2009-W21-1", "2018-W05-3"]);
    assert_eq!(it("field = \"ordinal date\"\nof = \"Hired\"")[..2], ["2009-138", "2018-031"]);
    assert_eq!(it("field = \"weekday number from monday 1\"\nof = \"Hired\"")[..2], ["1", "3"]);
    // 2009-05-18 is a Monday, in ISO week 21; 1 January 2009 was a Thursday.
    let week = |rule: &str| it(&format!("field = \"week\"\nof = \"Hired\"\nweeks = \"{rule}\""))[0].clone();
    assert_eq!(week("sunday first, at least 1 day"), "21");
    assert_eq!(week("sunday first, at least 7 days"), "20");
    assert_eq!(week("blocks from 1 january"), "20");
    assert_eq!(
        it("field = \"weekday number\"\nof = \"Hired\"\nweekdays = \"sunday from 0\"")[..2],
        ["1", "3"]
    );
    let next = |rest: &str| it(&format!("anniversary = \"Hired\"\n{rest}"));
    assert_eq!(next(""), ["2027-05-18", "2027-01-31", "2027-10-05", "2027-02-28", "2026-09-30"]);
    assert_eq!(next("leap_day = \"next-start\"")[3], "2027-03-01");
    assert_eq!(next("gives = \"number\""), ["18", "9", "1", "3", "1"]);
    assert_eq!(next("on_or_after = 2030-01-01")[..2], ["2030-05-18", "2030-01-31"]);
    let start =
        |rest: &str| it(&format!("of = \"Hired\"\nperiod = \"month\"\ngives = \"nearest start\"\n{rest}"));
    assert_eq!(start(""), ["2009-06-01", "2018-02-01", "2026-10-01", "2024-03-01", "2025-10-01"]);
    assert_eq!(start("nearest = \"by middle\"")[0], "2009-06-01");
    let within = |rest: &str| it(&format!("between = [\"Hired\", \"as-of\"]\ncount = \"days\"\n{rest}"));
    assert_eq!(within("within = \"this month\""), ["30", "30", "0", "30", "30"]);
    assert_eq!(within("ends = \"neither\""), ["6343", "3163", "-4", "943", "364"]);
    let rate = |rest: &str| {
        it(&format!(
            "tenure = [\"Hired\", \"Left\"]\ncount = \"complete months\"\n[[column]]\nname = \"Rate\"\nrate = \"It\"\ntenure = [\"Hired\", \"Left\"]\n{rest}"
        ))
    };
    // 208 months of 208 + 12/30 and so on: a little under one a month.
    assert_eq!(rate("per = \"month\"\ndecimals = 3")[0], "208,0.998");
    assert_eq!(rate("per = \"mean year of 365.25 days\"\ndecimals = 1")[0], "208,12.0");
    // Cleo has not begun, so she has no months and no rate; Eve's twelve months are too few.
    assert_eq!(rate("per = \"month\"\nsmallest = 12.5\ndecimals = 2")[2..], [",", ",", "12,"]);
}

#[test]
fn mistakes_in_columns_of_times_and_arithmetic() {
    let said = |column: &str| {
        let answer = desk_with(column).run_plan();
        assert_eq!(answer.code, 2, "{column}");
        answer
            .err
            .lines()
            .filter(|line| line.contains('^') || line.contains("help"))
            .collect::<Vec<_>>()
            .join("\n")
            + "\n"
    };
    let all: String = [
        "between = [\"Hired\", \"as-of\"]\ncount = \"complete hours\"",
        "between = [\"Hired\", \"as-of\"]\ncount = \"complete months\"\nends = \"neither\"",
        "between = [\"Hired\", \"as-of\"]\ncount = \"complete months\"\nwithin = \"last month\"",
        "from = \"Hired\"\nshift = \"3h\"",
        "from = \"Hired\"\nshift = { column = \"Name\", unit = \"days\" }",
        "from = \"Hired\"\nshift = { column = \"Born\" }",
        "field = \"hour\"\nof = \"Hired\"",
        "field = \"wekday\"\nof = \"Hired\"",
        "sum = [\"Name\", 1]",
        "sum = [1, 2]",
        "quotient = [\"Name\"]",
        "rate = \"Name\"\nper = \"month\"",
        "of = \"Hired\"\nperiod = \"month\"\ngives = \"label\"\nnearest = \"by days\"",
        "anniversary = \"Hired\"\ngives = \"day\"",
    ]
    .iter()
    .map(|column| said(column))
    .collect();
    assert_snapshot!(all);
}

const YARD: &str = "calendar = 1\nname = \"Yard\"\ncovers = \"2026\"\n[[holiday]]\nname = \"Slip repair\"\ndate = 2026-10-07\n[[holiday]]\nname = \"Regatta\"\ndate = 2026-10-17\n";

const HIRES: &str = "Boat,From,To,Site,Terms
Ada,2026-10-03,2026-10-18,yard,10wd
Bo,2026-10-18,2026-10-03,quay,2 working days
Cleo,2026-10-31,2027-01-04,yard,5d
Dov,2026-10-05,,,
Eve,2026-10-07,2026-10-07,dock,1 week
";

/// The columns that a plan with calendars adds to the hires, each as its header and its cells.
fn of_hires(columns: &[&str]) -> (Vec<Vec<String>>, Desk, String) {
    let desk = Desk::new();
    desk.write("hires.csv", HIRES);
    desk.write("yard.toml", YARD);
    let columns: String = columns.iter().map(|column| format!("[[column]]\n{column}\n")).collect();
    desk.write("plan.toml", format!("plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"hires.csv\"\n[records.dates]\nFrom = \"iso\"\nTo = \"iso\"\n[calendar.yard]\nholidays = [\"yard.toml\"]\n[calendar.quay]\nrest_days = [\"sunday\", \"monday\"]\ncovers = \"2026 to 2027\"\nholidays = [2026-10-07, 2026-10-17]\n{columns}[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"));
    let answer = desk.mild(&["run", "plan.toml", "--details"]);
    assert_eq!(answer.code, 0, "{columns}\n{}", answer.err);
    let rows = desk.read("rows.csv");
    let lines: Vec<Vec<&str>> = rows.lines().map(|line| line.split(',').collect()).collect();
    let of = |nth: usize| lines.iter().map(|line| line[nth].to_owned()).collect();
    ((5..lines[0].len()).map(of).collect(), desk, answer.out)
}

#[test]
fn working_days_by_the_calendars_of_a_plan() {
    let (columns, desk, out) = of_hires(&[
        "between = [\"From\", \"To\"]\ncount = \"working days\"\ncalendar = \"yard\"",
        "between = [\"From\", \"To\"]\ncount = \"working days\"\ncalendar = \"yard\"\nends = \"last\"",
        "between = [\"From\", \"To\"]\ncount = \"working days\"\ncalendar = { column = \"Site\" }",
        "from = \"From\"\nshift = \"10 working days\"\ncalendar = \"yard\"",
        "from = \"From\"\nshift = { column = \"Terms\" }\ncalendar = \"yard\"",
        "name = \"A\"\nfrom = \"From\"\nroll = \"following\"\ncalendar = \"yard\"",
        "name = \"B\"\nfrom = \"From\"\nroll = \"modified-following\"\ncalendar = \"yard\"",
        "working_day = \"From\"\ncalendar = \"yard\"",
        "working_day = \"From\"\ngives = \"kind\"\ncalendar = \"yard\"",
        "working_day = \"From\"\ngives = \"number in month\"\ncalendar = \"yard\"",
        "working_day = \"From\"\ngives = \"number from month end\"\ncalendar = \"yard\"",
    ]);
    assert_eq!(
        columns[0],
        ["Working days from From to To (both ends counted) (yard)", "9", "-9", "", "", "0"]
    );
    assert_eq!(columns[1][1..], ["9", "-9", "", "", "0"]);
    // Sunday and Monday are the quay's rest days; there is no dock.
    assert_eq!(columns[2][1..], ["9", "-9", "", "", ""]);
    assert_eq!(columns[3][1..], ["2026-10-19", "2026-10-30", "2026-11-13", "2026-10-20", "2026-10-21"]);
    assert_eq!(columns[4][1..], ["2026-10-19", "2026-10-20", "2026-11-05", "", "2026-10-14"]);
    assert_eq!(columns[5][1..], ["2026-10-05", "2026-10-19", "2026-11-02", "2026-10-05", "2026-10-08"]);
    assert_eq!(columns[6][1..], ["2026-10-05", "2026-10-19", "2026-10-30", "2026-10-05", "2026-10-08"]);
    assert_eq!(columns[7][1..], ["no", "no", "no", "yes", "no"]);
    assert_eq!(columns[8][1..], ["rest day", "rest day", "rest day", "working day", "holiday"]);
    assert_eq!(columns[9][1..], ["", "", "", "3", ""]);
    assert_eq!(columns[10][1..], ["", "", "", "-19", ""]);
    assert_snapshot!(desk.read("exceptions.csv"));
    for said in [
        "Calendar yard: 2026, rest days Saturday, Sunday, 2 holidays, from yard.toml",
        "Note: calendar \"quay\": \"2 named holidays\" has no holiday in 2027.",
    ] {
        assert!(out.contains(said), "{out}");
    }
}

#[test]
fn mistakes_in_calendars_of_a_plan() {
    let said = |calendars: &str, column: &str| {
        let desk = Desk::new();
        desk.write("hires.csv", HIRES);
        desk.write("yard.toml", YARD);
        desk.write("broken.toml", YARD.replace("date = 2026-10-17", "date = 2026-10-17\nday = 3"));
        desk.write("plan.toml", format!("plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"hires.csv\"\n[records.dates]\nFrom = \"iso\"\n{calendars}\n[[column]]\n{column}\n[output]\nrows = \"rows.csv\"\n"));
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{calendars} {column}");
        let folder = desk.folder().display().to_string();
        let lines: Vec<String> = answer
            .err
            .lines()
            .filter(|line| line.starts_with("error") || line.contains('^'))
            .map(|line| line.replace(&folder, "[folder]"))
            .collect();
        lines.join("\n") + "\n"
    };
    let yard = "[calendar.yard]\nholidays = [\"yard.toml\"]";
    let days = "between = [\"From\", \"as-of\"]\ncount = \"working days\"";
    let all: String = [
        said("", days),
        said(&format!("{yard}\n[calendar.quay]\nrest_days = [\"sunday\"]"), days),
        said(yard, &format!("{days}\ncalendar = \"yrad\"")),
        said(yard, &format!("{days}\ndecimals = 2")),
        said("[calendar.yard]\ncovers = \"2025 to 2027\"\nholidays = [\"yard.toml\"]", days),
        said("[calendar.yard]\nholidays = [\"broken.toml\"]", days),
        said("[calendar.yard]\nholidays = [\"missing.toml\"]", days),
        said("[calendar.yard]\nholiday = [\"yard.toml\"]", days),
        said(yard, "between = [\"From\", \"as-of\"]\ncount = \"days\"\ncalendar = \"yard\""),
        said(yard, "from = \"From\"\nshift = \"10d\"\ncalendar = \"yard\""),
        said(yard, "from = \"From\"\nroll = \"folowing\""),
        said(yard, "working_day = \"Boat\""),
    ]
    .concat();
    assert_snapshot!(all);
}

#[test]
fn date_times_of_one_day_are_told_apart() {
    let desk = Desk::new();
    desk.write("calls.csv", "Call,Answered\n2026-10-05T16:00,2026-10-05T16:30\n2026-10-05T09:00,2026-10-05T08:30\n2026-10-05T16:00,2026-10-06T00:00\n");
    desk.write("plan.toml", "plan = 1\nas_of = 2026-10-31\n[records]\nfile = \"calls.csv\"\nkey = \"Call\"\nduplicates = \"set aside\"\n[records.dates]\nCall = { pattern = \"iso\", time = \"keep\" }\nAnswered = { pattern = \"iso\", time = \"keep\" }\n[[column]]\nname = \"Late\"\nwhen = [{ column = \"Answered\", over = { column = \"Call\" } }]\nthen = \"yes\"\nelse = \"no\"\n[output]\nrows = \"rows.csv\"\norder_by = [\"Call\"]\n");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    // Only the third repeats a key; the second, earlier on the same day, comes first.
    let expected = "Call,Answered,Late\n2026-10-05T09:00:00,2026-10-05T08:30:00,no\n2026-10-05T16:00:00,2026-10-05T16:30:00,yes\n";
    assert_eq!(desk.read("rows.csv"), expected);
}

#[test]
fn rows_without_a_figure_are_in_buckets_by_their_reason() {
    let bands = |column: &str| {
        last_column(&format!("{column}\n[[column]]\nname = \"Band\"\nbucket = \"It\"\nfrom = [1, 5, 30]"))
    };
    assert_eq!(
        bands("age = \"Born\""),
        ["42,30 and over", "34,30 and over", "25,5 to under 30", ",No date", ",Not born"]
    );
    assert_eq!(
        bands("tenure = \"Hired\"\ncount = \"complete years\""),
        ["17,5 to under 30", "8,5 to under 30", ",Not begun", "2,1 to under 5", "1,1 to under 5"]
    );
    assert_eq!(bands("tenure = [\"Hired\", \"Left\"]\ncount = \"complete years\"")[3], ",Unreadable");
}

#[test]
fn as_of_is_a_value_like_any_other() {
    assert_eq!(last_column("value = \"as-of\"")[..2], ["2026-09-30", "2026-09-30"]);
    assert_eq!(last_column("from = \"as-of\"\nshift = \"1 month\"\nto = \"month end\"")[0], "2026-10-31");
    assert_eq!(last_column("period = \"quarter\"\nof = \"as-of\"\ngives = \"last day\"")[0], "2026-09-30");
    // A choice between two dates is a date, which can be counted from.
    let chosen = last_column(
        "when = [{ column = \"Left\", blank = true }]\nthen = \"as-of\"\nelse = { column = \"Left\" }\n[[column]]\nname = \"Days\"\nbetween = [\"It\", 2026-10-01]\ncount = \"days\"",
    );
    assert_eq!(chosen[..3], ["2026-09-30,1", "2026-02-28,215", "2026-09-30,1"]);
    assert_eq!(last_column("value = \"at {as_of}\"")[0], "at 2026-09-30");
}

#[test]
fn unreadable_is_not_blank() {
    let said = |test: &str| {
        last_column(&format!(
            "when = [{{ column = \"Left\", {test} = true }}]\nthen = \"yes\"\nelse = \"no\""
        ))
    };
    assert_eq!(said("blank"), ["yes", "no", "yes", "no", "no"]);
    assert_eq!(said("unreadable"), ["no", "no", "no", "yes", "no"]);
}

#[test]
fn dates_move_to_the_ends_of_their_periods_and_parts_come_as_numbers() {
    let hired = |rest: &str| last_column(&format!("from = \"Hired\"\n{rest}"));
    assert_eq!(hired("shift = \"1 month\"\nto = \"month end\"")[..2], ["2009-06-30", "2018-02-28"]);
    assert_eq!(hired("to = \"quarter start\"")[..2], ["2009-04-01", "2018-01-01"]);
    assert_eq!(
        hired("to = \"fiscal year end\"\nfiscal_year_begins = \"apr-6\"")[..2],
        ["2010-04-05", "2018-04-05"]
    );
    let part = |gives: &str| {
        last_column(&format!("between = [\"Hired\", \"as-of\"]\ncount = \"parts\"\ngives = \"{gives}\""))[..3]
            .to_vec()
    };
    assert_eq!(
        (part("years"), part("months"), part("days")),
        (
            vec!["17".to_owned(), "8".to_owned(), "0".to_owned()],
            vec!["4".to_owned(), "8".to_owned(), "0".to_owned()],
            vec!["12".to_owned(), "0".to_owned(), "-5".to_owned()],
        )
    );
    // Weeks as numbers can be put into buckets, and fractions by labels of their own.
    let week = last_column(
        "field = \"iso week\"\nof = \"Hired\"\n[[column]]\nname = \"Band\"\nbucket = \"It\"\nedges = [10, 30]",
    );
    assert_eq!(week[..2], ["21,11–30", "5,Up to 10"]);
    let years = last_column(
        "between = [\"Hired\", \"as-of\"]\ncount = \"fractional years\"\n[[column]]\nname = \"Band\"\nbucket = \"It\"\nedges = [0, 8.5]",
    );
    assert_eq!(years[..3], ["17.37,Over 8.5", "8.66,Over 8.5", "-0.01,Up to 0"]);
}

#[test]
fn a_pattern_that_another_reads_better_is_doubted() {
    let desk = Desk::new();
    let rows: String =
        (1..=30).map(|day| format!("A{day},{:02}/{:02}/2026\n", day % 9 + 1, day % 28 + 1)).collect();
    desk.write("r.csv", format!("Id,Issued\n{rows}"));
    desk.write("plan.toml", "plan = 1\n[records]\nfile = \"r.csv\"\n[records.dates]\nIssued = \"day/month/year\"\n[output]\nrows = \"rows.csv\"\n");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(
        answer.out.contains("Doubtful: 16 of 30 values of Issued could not be read as day/month/year; all 30 can as month/day/year."),
        "{}",
        answer.out
    );
    assert_eq!(desk.mild(&["run", "plan.toml", "--strict", "--overwrite"]).code, 4);
}

#[test]
fn an_as_of_with_a_time_keeps_it_and_a_start_of_a_period_is_a_day() {
    let desk = Desk::new();
    desk.write("records.csv", "Job,Begun\nA,2026-09-30T16:15\nB,2026-09-01T08:00\nC,2026-09-30T09:00\n");
    desk.write(
        "plan.toml",
        r#"plan = 1
as_of = 2026-09-30T17:00:00
title = "Jobs as of {as_of}"
[records]
file = "records.csv"
[records.dates]
Begun = { pattern = "iso", time = "keep" }
[[column]]
name = "Seen"
value = "as-of"
[[column]]
name = "Note"
value = "seen {as_of}"
[[column]]
name = "Month"
from = "Begun"
to = "month start"
[[column]]
name = "Later"
from = "Begun"
shift = "10h"
to = "month end"
[[column]]
name = "Week"
period = "week"
of = "Begun"
gives = "first day"
[[report]]
kind = "summary"
by = "Begun"
show = ["count"]
[output]
rows = "rows-{as_of}.csv"
"#,
    );
    let answer = desk.mild(&["run", "plan.toml", "--json"]);
    let object = answer.json();
    assert_eq!(object["title"], json!("Jobs as of 2026-09-30T17:00:00"));
    // Ten hours on from 16:15 on 30 September is October.
    assert_eq!(
        desk.read("rows-2026-09-30.csv"),
        "Job,Begun,Seen,Note,Month,Later,Week\n\
         A,2026-09-30T16:15:00,2026-09-30T17:00:00,seen 2026-09-30T17:00:00,2026-09-01,2026-10-31,2026-09-28\n\
         B,2026-09-01T08:00:00,2026-09-30T17:00:00,seen 2026-09-30T17:00:00,2026-09-01,2026-09-30,2026-08-31\n\
         C,2026-09-30T09:00:00,2026-09-30T17:00:00,seen 2026-09-30T17:00:00,2026-09-01,2026-09-30,2026-09-28\n"
    );
    // Grouped by its days, a column of date-times has a group a day.
    let table = &object["reports"][0]["tables"][0];
    assert_eq!(table["rows"], json!([["2026-09-01", 1], ["2026-09-30", 2]]), "{table}");
}

#[test]
fn hours_elapse_on_the_clock_of_the_zone_of_a_column() {
    let desk = Desk::new();
    desk.write("records.csv", "Job,Begun\nA,2026-03-28T22:30Z\nB,2026-10-25T00:30Z\nC,2026-10-25T01:30Z\n");
    desk.write(
        "plan.toml",
        "plan = 1\n[records]\nfile = \"records.csv\"\n[records.dates]\nBegun = { pattern = \"iso\", time = \"keep\", zone = \"Europe/London\" }\n[[column]]\nname = \"Due\"\nfrom = \"Begun\"\nshift = \"3h\"\n[output]\nrows = \"rows.csv\"\n",
    );
    assert_eq!(desk.run_plan().code, 0);
    // The clock goes forward in the first of these nights; in the second it shows 01:30 twice, an hour apart.
    assert_eq!(
        desk.read("rows.csv"),
        "Job,Begun,Due\nA,2026-03-28T22:30:00,2026-03-29T02:30:00\nB,2026-10-25T01:30:00,2026-10-25T03:30:00\nC,2026-10-25T01:30:00,2026-10-25T04:30:00\n"
    );
}

#[test]
fn a_fraction_that_grows_too_wide_goes_on_as_a_decimal() {
    let desk = Desk::new();
    // Six quotients of amounts whose divisors are large primes and have nothing in common.
    let primes = ["1000000.07", "1000001.21", "1000001.51", "1000003.57", "1000004.09", "1000004.53"];
    let header: Vec<String> = (1..=6).flat_map(|nth| [format!("A{nth}"), format!("B{nth}")]).collect();
    let cells: Vec<String> =
        primes.iter().flat_map(|prime| ["500000.03".to_owned(), (*prime).to_owned()]).collect();
    desk.write("records.csv", format!("{}\n{}\n", header.join(","), cells.join(",")));
    let amounts: String = header.iter().map(|name| format!("{name} = {{ decimals = 2 }}\n")).collect();
    let mut columns = String::new();
    for nth in 1..=6 {
        columns +=
            &format!("[[column]]\nname = \"Q{nth}\"\nquotient = [\"A{nth}\", \"B{nth}\"]\ndecimals = 4\n");
        let before = if nth == 1 { "0".to_owned() } else { format!("\"S{}\"", nth - 1) };
        columns += &format!("[[column]]\nname = \"S{nth}\"\nsum = [{before}, \"Q{nth}\"]\ndecimals = 4\n");
    }
    columns += "[[column]]\nname = \"Large\"\nproduct = [\"A1\", 9000000000000000000]\ndecimals = 2\n[[column]]\nname = \"Huge\"\nproduct = [\"Large\", 9000000000000000000]\ndecimals = 2\n[[column]]\nname = \"More\"\nsum = [\"Huge\", 1]\n";
    desk.write(
        "plan.toml",
        format!("plan = 1\n[records]\nfile = \"records.csv\"\n[records.amounts]\n{amounts}{columns}[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\ncolumns = [\"S6\", \"Huge\", \"More\"]\n"),
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    // 500000.03 over each: 0.49999999…, six of them 2.99999….
    assert_eq!(desk.read("rows.csv"), "S6,Huge,More\n3.0000,,\n");
    let exceptions = desk.read("exceptions.csv");
    assert!(
        exceptions.contains("rounded: the exact fraction has more than 38 digits")
            && exceptions.contains("Huge,,"),
        "{exceptions}"
    );
}
