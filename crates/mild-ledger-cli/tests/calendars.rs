//! Working time on the command line: calendars, counts and moves with their grids, and what is wrong with a file.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

const YARD: &str = r#"calendar  = 1
name      = "Quillhaven yard"
covers    = "2020 to 2030"
rest_days = ["saturday", "sunday"]

[[holiday]]
name    = "Launch Day"
weekday = "monday"
which   = "first"
month   = "may"
moved   = "following monday"

[[holiday]]
name = "Yard Supper"
day = 25
month = "september"
since = 2021
except = [2027]

[[holiday]]
name   = "Good Friday"
easter = { days = -2, church = "western" }

[[holiday]]
name = "Slip repair"
date = 2026-10-07

[[holiday]]
name = "Harbour Regatta"
date = 2026-10-17

[[holiday]]
name    = "Harvest Monday"
weekday = "monday"
on_or_after = { day = 24, month = "may" }

[[working]]
date = 2026-12-05
"#;

fn desk() -> Desk {
    let desk = Desk::new();
    desk.write("yard.toml", YARD);
    desk.write("closed.csv", "date,name\n2026-10-07,Slip repair\n2026-10-17,Harbour Regatta\n");
    desk
}

#[test]
fn a_count_of_working_days_shows_its_days() {
    let desk = desk();
    let question = ["between", "2026-10-03", "2026-10-18", "--calendar", "yard.toml"];
    let answer = desk.mild(&[&question[..], &["--why"]].concat());
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!(answer.out.split("\nfrom ").next().unwrap());
    let json = desk.mild(&[&question[..], &["--json"]].concat()).json();
    assert_eq!(
        json["working_days"],
        json!({
            "calendar": "Quillhaven yard", "ends": "first-and-last", "count": 9, "days": 16, "rest_days": 6, "holidays": 1,
            "holidays_on_rest_days": 1, "sum": "16 days - 6 rest days - 1 holiday = 9 (another holiday falls on a rest day)",
        })
    );
    assert_eq!(json["days"], 15);
    // Every worked example, by every kind of calendar.
    let count = |more: &[&str]| {
        let words = [&["between", "2026-10-03", "2026-10-18", "--json"], more].concat();
        desk.mild(&words).json()["working_days"]["count"].as_i64().unwrap()
    };
    assert_eq!(count(&["--rest-days", "saturday, sunday"]), 10);
    assert_eq!(count(&["--rest-days", "sunday, monday"]), 11);
    let both = ["--holiday", "2026-10-07", "--holiday", "2026-10-17"];
    assert_eq!(count(&both), 9);
    assert_eq!(count(&[&both[..], &["--rest-days", "sunday, monday"]].concat()), 9);
    assert_eq!(count(&["--calendar", "closed.csv", "--covers", "2026"]), 9);
    assert_eq!(count(&["--calendar", "yard.toml", "--ends", "last"]), 9);
    let week = "monday, tuesday, wednesday, thursday, friday, saturday, sunday";
    assert_eq!(count(&["--rest-days", week]), 0);
}

#[test]
fn two_calendars_show_the_days_that_make_the_difference() {
    let desk = desk();
    let answer =
        desk.mild(&["between", "2026-10-01", "2026-10-31", "--calendar", "yard.toml", "--calendar", "japan"]);
    assert_eq!(answer.code, 0);
    assert_snapshot!(answer.out.split("\nfrom ").next().unwrap());
    let json = desk
        .mild(&[
            "between",
            "2026-10-01",
            "2026-10-31",
            "--calendar",
            "yard.toml",
            "--calendar",
            "japan",
            "--json",
        ])
        .json();
    assert_eq!(json["working_days"].as_array().unwrap().len(), 2);
}

#[test]
fn a_move_by_working_days_numbers_each() {
    let desk = desk();
    let answer = desk.mild(&["shift", "2026-10-02", "10wd", "--calendar", "yard.toml", "--why"]);
    assert_eq!((answer.code, answer.err.as_str()), (0, ""));
    assert_snapshot!("a_move_by_working_days_numbers_each", answer.out);
    let date = |words: &[&str]| desk.mild(&[&["shift"], words, &["--json"]].concat()).json()["date"].clone();
    assert_eq!(date(&["2026-10-02", "10wd", "--calendar", "yard.toml"]), "2026-10-19");
    assert_eq!(date(&["2026-10-19", "-10wd", "--calendar", "yard.toml"]), "2026-10-02");
    assert_eq!(date(&["2026-01-31", "1M 2 working days"]), "2026-03-03");
    assert_eq!(date(&["2026-12-04", "1wd", "--calendar", "yard.toml"]), "2026-12-05");
    // Without a calendar the answer says that no holidays were counted.
    assert_snapshot!("a_move_without_a_calendar", desk.mild(&["shift", "2026-10-02", "10 working days"]).out);
}

#[test]
fn a_year_of_a_calendar() {
    let desk = desk();
    assert_snapshot!("the_calendars_that_ship", desk.mild(&["calendar"]).out);
    assert_snapshot!(
        "a_year_with_a_target",
        desk.mild(&["calendar", "yard.toml", "2026", "--target", "36000", "--rate-up"]).out
    );
    assert_snapshot!(
        "a_year_as_a_grid_with_its_holidays",
        desk.mild(&["calendar", "yard.toml", "2026", "--grid", "--holidays"]).out
    );
    let json = desk.mild(&["calendar", "england-wales", "2022", "--json"]).json();
    assert_eq!(json["months"].as_array().unwrap().len(), 12);
    assert_eq!(
        json["months"][5],
        json!({
            "month": "2022-06", "days": 30, "working_days": 20, "rest_days": 8, "holidays": 2, "holidays_on_rest_days": 0,
        })
    );
    assert_eq!((&json["working_days"], &json["covers"]), (&json!(250), &json!([2015, 2030])));
    assert_eq!(
        json["holidays"][0],
        json!({
            "date": "2022-01-03", "weekday": "monday", "name": "New Year's Day", "moved_from": "2022-01-01",
        })
    );
    let target = desk.mild(&["calendar", "none", "2026", "--target", "100000.00", "--json"]).json();
    let parts: f64 = target["months"]
        .as_array()
        .unwrap()
        .iter()
        .map(|month| month["target"].as_str().unwrap().parse::<f64>().unwrap())
        .sum();
    assert!((parts - 100_000.0).abs() < 1e-6);
    assert_eq!(
        desk.mild(&["calendar", "england-wales", "2026..2027", "--json"]).json()["months"]
            .as_array()
            .unwrap()
            .len(),
        24
    );
    assert_eq!(desk.mild(&["calendar", "--json"]).json()["calendars"].as_array().unwrap().len(), 72);
}

#[test]
fn calendars_are_found_by_a_word_and_say_what_they_stand_on() {
    let desk = desk();
    let found = |word: &str| {
        let json = desk.mild(&["calendar", "--find", word, "--json"]).json();
        let names = json["calendars"].as_array().unwrap().iter();
        names.map(|shipped| shipped["name"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert_eq!(found("GERMAN").len(), 17);
    assert_eq!(
        found("settlement and"),
        ["brazil-banking", "euro-settlement", "federal-reserve", "new-york-exchange"]
    );
    assert_eq!(found("saxony"), ["germany-lower-saxony", "germany-saxony", "germany-saxony-anhalt"]);
    assert_snapshot!("calendars_about_a_word", desk.mild(&["calendar", "--find", "austral"]).out);
    assert_snapshot!(
        "what_a_calendar_stands_on",
        desk.mild(&["calendar", "us-federal-with-closings", "--sources"]).out
    );
    assert_snapshot!("what_a_file_stands_on", desk.mild(&["calendar", "yard.toml", "--sources"]).out);
    for words in [
        &["calendar", "--find", "atlantis"][..],
        &["calendar", "2026"],
        &["calendar", "--sources"],
        &["calendar", "germany", "france", "italy", "2026"],
        &["calendar", "germany", "france", "--sources"],
        &["calendar", "scotland", "germany-berlin", "2026"],
    ] {
        let answer = desk.mild(words);
        assert_eq!((answer.code, answer.out.as_str()), (2, ""), "{words:?}: {}", answer.err);
    }
    // A file that is not there is not a year, whatever its name begins with.
    let said = desk.mild(&["calendar", "2026-closed.csv"]);
    assert!(said.code == 3 && said.err.contains("2026-closed.csv"), "{}", said.err);
    let said = desk.mild(&["calendar", "berlin", "2026"]).err;
    assert!(said.contains("perhaps germany-berlin"), "{said}");
}

#[test]
fn two_calendars_side_by_side() {
    let desk = desk();
    assert_snapshot!(
        "two_calendars_side_by_side",
        desk.mild(&["calendar", "england-wales", "scotland", "2022"]).out
    );
    // What differs and what both keep are all days that either closes, one by one.
    let json = desk.mild(&["calendar", "england-wales", "scotland", "2022", "--json"]).json();
    let holidays = |name: &str| {
        let json = desk.mild(&["calendar", name, "2022", "--json"]).json();
        let days = json["holidays"].as_array().unwrap().clone();
        let dates = days.iter().map(|day| day["date"].as_str().unwrap().to_owned());
        (dates.collect::<std::collections::BTreeSet<_>>(), json["working_days"].as_i64().unwrap())
    };
    let ((england, of_england), (scotland, of_scotland)) = (holidays("england-wales"), holidays("scotland"));
    let dates = |key: &str| -> std::collections::BTreeSet<String> {
        json[key].as_array().unwrap().iter().map(|day| day["date"].as_str().unwrap().to_owned()).collect()
    };
    assert_eq!(dates("different"), england.symmetric_difference(&scotland).cloned().collect());
    assert_eq!(dates("holidays_in_both"), england.intersection(&scotland).cloned().collect());
    assert_eq!(json["working_days"], json!([of_england.to_string(), of_scotland.to_string()]));
    // A half day on one side, a whole day on the other: 3 July 2028 is a half day of trading.
    let words = ["calendar", "federal-reserve", "new-york-exchange", "2028", "--half-days", "half", "--json"];
    let json = desk.mild(&words).json();
    let day =
        json["different"].as_array().unwrap().iter().find(|day| day["date"] == "2028-07-03").unwrap().clone();
    assert_eq!(day["by"][1]["is"], "half a working day");
    assert_eq!(json["by_rule"], json!([null, [2028, 2028]]));
}

#[test]
fn a_year_that_is_not_covered_is_said_before_another_is_shown() {
    let desk = desk();
    let answer = desk.mild(&["calendar", "scotland", "--as-of", "2026-11-27"]);
    assert_eq!(answer.err, "note: it does not cover 2026; this is 2025, the nearest year that it covers\n");
    assert!(answer.out.contains("2025-12"));
    let answer = desk.mild(&["calendar", "germany", "--as-of", "2026-11-27"]);
    assert_eq!((answer.err.as_str(), answer.out.contains("2026-12")), ("", true));
}

#[test]
fn what_a_calendar_does_not_know_is_an_error() {
    let desk = desk();
    desk.write("broken.csv", "date\n2026-10-07\n31/10/2026\n");
    let said = |words: &[&str]| {
        let answer = desk.mild(words);
        assert_eq!(
            (answer.code, answer.out.as_str()),
            (if words.contains(&"missing.csv") || words.contains(&"broken.csv") { 3 } else { 2 }, ""),
            "{words:?}"
        );
        answer.err
    };
    let all = [
        said(&["between", "2026-12-20", "2031-01-05", "--calendar", "yard.toml"]),
        said(&["shift", "2030-12-30", "5wd", "--calendar", "yard.toml"]),
        said(&[
            "shift",
            "2026-10-02",
            "1wd",
            "--rest-days",
            "monday, tuesday, wednesday, thursday, friday, saturday, sunday",
        ]),
        said(&["calendar", "england", "2026"]),
        said(&["calendar", "england-wales", "2031"]),
        said(&["calendar", "england-wales", "2027..2026"]),
        said(&["calendar", "closed.csv", "2026"]),
        said(&["calendar", "yard.toml", "2026", "--covers", "2019 to 2026"]),
        said(&["calendar", "missing.csv", "2026", "--covers", "2026"]),
        said(&["calendar", "broken.csv", "2026", "--covers", "2026"]),
        said(&["calendar", "yard.toml", "2026", "--holiday", "2031-01-02"]),
        said(&["shift", "9999-12-31", "1wd"]),
        said(&["shift", "0001-01-01", "--roll", "preceding", "--rest-days", "monday"]),
        said(&["between", "2026-10-01", "2026-10-31", "--rest-days", "sunnday"]),
        said(&["between", "2026-10-01T10:00", "2026-10-31T10:00", "--calendar", "yard.toml"]),
        said(&["calendar", "yard.toml", "2026", "--target", "12.3.4"]),
        said(&["shift", "2026-10-02T10:00", "1wd"]),
    ];
    assert_snapshot!(all.concat());
}

#[test]
fn mistakes_of_a_calendar_file_are_shown_in_their_place() {
    let desk = Desk::new();
    let said = |from: &str, to: &str| {
        assert!(YARD.contains(from), "{from}");
        desk.write("yard.toml", YARD.replacen(from, to, 1));
        let answer = desk.mild(&["calendar", "yard.toml", "2026"]);
        assert_eq!((answer.code, answer.out.as_str()), (2, ""), "{to}");
        answer.err
    };
    let all: String = [
        ("month   = \"may\"", "month   = 13"),
        ("month   = \"may\"", "month   = \"mai\""),
        ("which   = \"first\"", "which   = \"sixth\""),
        ("covers    = \"2020 to 2030\"", "covers    = \"2030 to 2020\""),
        ("day = 25", "day = 31"),
        ("day = 25", "day = 25\ncommon_years = \"1 march\""),
        ("date = 2026-10-07", "when = 2026-10-07"),
        ("date = 2026-10-07", "date = 2026-10-07\nday = 7"),
        ("church = \"western\"", "church = \"eastern\""),
        ("moved   = \"following monday\"", "moved   = \"monday\""),
        ("on_or_after = { day = 24, month = \"may\" }", "on_or_after = { day = 24 }"),
        ("since = 2021", "since = \"2021\""),
        ("[[working]]\ndate = 2026-12-05", "[[working]]\ndate = \"2026-12-05\""),
        ("rest_days = [\"saturday\", \"sunday\"]", "rest_days = [\"saturday\", \"sundae\"]"),
        ("calendar  = 1\n", "calendar  = 2\n"),
        ("[[holiday]]\nname = \"Slip repair\"", "[holiday]]\nname = \"Slip repair\""),
    ]
    .iter()
    .map(|(from, to)| said(from, to))
    .collect();
    assert_snapshot!(all);
    // A following Monday that is a rest day.
    let error = said("rest_days = [\"saturday\", \"sunday\"]", "rest_days = [\"sunday\", \"monday\"]");
    assert!(
        error.contains("\"Launch Day\" on 2026-05-04 cannot be moved: the following Monday is a rest day"),
        "{error}"
    );
}

const EVENTS: &str = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Quillhaven//harbour//EN\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:20261007\r\nDTEND;VALUE=DATE:20261009\r\nSUMMARY:Slip repair\\, both\r\n  days\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\nUID:2\r\nDTSTART;VALUE=DATE:20240925\r\nRRULE:FREQ=YEARLY\r\nEXDATE;VALUE=DATE:20250925\r\nSUMMARY:Yard Supper\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\nUID:3\r\nDTSTART;VALUE=DATE:20240506\r\nRRULE:FREQ=YEARLY;BYMONTH=5;BYDAY=1MO;COUNT=3\r\nSUMMARY:Launch Day\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n";

#[test]
fn events_come_in_and_holidays_go_out() {
    let desk = Desk::new();
    desk.write("harbour.ics", EVENTS);
    let holidays = |source: &str| -> Vec<String> {
        let json =
            desk.mild(&["calendar", source, "2024..2027", "--covers", "2024 to 2027", "--json"]).json();
        let days = json["holidays"].as_array().unwrap().iter();
        days.map(|day| format!("{} {}", day["date"].as_str().unwrap(), day["name"].as_str().unwrap()))
            .collect()
    };
    let expected = [
        "2024-05-06 Launch Day",
        "2024-09-25 Yard Supper",
        "2025-05-05 Launch Day",
        "2026-05-04 Launch Day",
        "2026-09-25 Yard Supper",
        "2026-10-07 Slip repair, both days",
        "2026-10-08 Slip repair, both days",
        "2027-09-25 Yard Supper",
    ];
    assert_eq!(holidays("harbour.ics"), expected);
    // Written and read again, they are the same.
    let written = desk.mild(&[
        "calendar",
        "harbour.ics",
        "2024..2027",
        "--covers",
        "2024 to 2027",
        "--ics",
        "again.ics",
    ]);
    assert!(written.code == 0 && written.err.starts_with("note: wrote again.ics ("), "{}", written.err);
    assert_eq!(holidays("again.ics"), expected);
    assert!(desk.read("again.ics").lines().all(|line| line.len() <= 75), "{}", desk.read("again.ics"));
    assert!(desk.read("again.ics").contains("\r\n"));
    // A file that is there is not overwritten.
    let again = desk.mild(&[
        "calendar",
        "harbour.ics",
        "2024..2027",
        "--covers",
        "2024 to 2027",
        "--ics",
        "harbour.ics",
    ]);
    assert_eq!((again.code, desk.read("harbour.ics").as_str()), (2, EVENTS));
    assert_eq!(desk.files(), ["again.ics", "harbour.ics"]);
}

#[test]
fn computed_due_dates_go_out_as_events() {
    let desk = desk();
    let series = [
        "shift",
        "2026-01-31",
        "1M",
        "--times",
        "3",
        "--ics",
        "reviews.ics",
        "--title",
        "Review; yard, slip",
    ];
    assert_eq!(desk.mild(&series).code, 0);
    let due = ["shift", "2026-10-02", "10wd", "--calendar", "yard.toml", "--ics", "due.ics"];
    assert_eq!(desk.mild(&due).code, 0);
    let days = |source: &str| -> Vec<String> {
        let json = desk.mild(&["calendar", source, "2026", "--covers", "2026", "--json"]).json();
        let days = json["holidays"].as_array().unwrap().iter();
        days.map(|day| format!("{} {}", day["date"].as_str().unwrap(), day["name"].as_str().unwrap()))
            .collect()
    };
    let title = "Review; yard, slip";
    assert_eq!(
        days("reviews.ics"),
        ["2026-02-28", "2026-03-31", "2026-04-30"].map(|date| format!("{date} {title}"))
    );
    assert_eq!(days("due.ics"), ["2026-10-19 due"]);
}

#[test]
fn events_that_are_no_holidays_are_refused_by_their_line() {
    let desk = Desk::new();
    let said = |from: &str, to: &str| {
        assert!(EVENTS.contains(from), "{from}");
        desk.write("harbour.ics", EVENTS.replacen(from, to, 1));
        let answer = desk.mild(&["calendar", "harbour.ics", "2026", "--covers", "2026"]);
        assert_eq!((answer.code, answer.out.as_str()), (3, ""), "{to}");
        answer.err
    };
    let cut = EVENTS.find("SUMMARY:Yard").unwrap();
    let all = [
        said(&EVENTS[cut..], ""),
        said("RRULE:FREQ=YEARLY\r\n", "RRULE:FREQ=WEEKLY\r\n"),
        said("RRULE:FREQ=YEARLY\r\n", "RRULE:FREQ=YEARLY;BYWEEKNO=20\r\n"),
        said("RRULE:FREQ=YEARLY\r\n", "RRULE:FREQ=YEARLY;INTERVAL=0\r\n"),
        said("DTSTART;VALUE=DATE:20261007", "DTSTART:20261007T090000Z"),
        said("DTSTART;VALUE=DATE:20261007", "DTSTART;VALUE=DATE:20261307"),
        said("DTEND;VALUE=DATE:20261009", "DTEND;VALUE=DATE:20261001"),
        said("DTEND;VALUE=DATE:20261009", "RDATE;VALUE=DATE:20261001"),
        said("DTSTART;VALUE=DATE:20240925\r\n", ""),
        said("BEGIN:VCALENDAR\r\n", ""),
        said("END:VEVENT\r\nBEGIN:VEVENT\r\nUID:2", "UID:2"),
        said("UID:1", "what is this"),
    ];
    assert_snapshot!(all.concat());
    // A hundred thousand events are read like any other.
    let event = |nth: usize| {
        format!(
            "BEGIN:VEVENT\r\nUID:{nth}\r\nDTSTART;VALUE=DATE:20{:02}{:02}{:02}\r\nEND:VEVENT\r\n",
            nth % 30 + 10,
            nth % 12 + 1,
            nth % 28 + 1
        )
    };
    desk.write(
        "harbour.ics",
        format!("BEGIN:VCALENDAR\r\n{}END:VCALENDAR\r\n", (0..100_000).map(event).collect::<String>()),
    );
    assert_eq!(desk.mild(&["calendar", "harbour.ics", "2026", "--covers", "2010 to 2039"]).code, 0);
}

#[test]
fn a_year_as_a_picture_holds_its_texts_as_texts() {
    let desk = desk();
    desk.write("yard.toml", YARD.replace("Slip repair", "Slip <repair> & \\\"paint\\\""));
    let answer = desk.mild(&["calendar", "yard.toml", "2026", "--svg", "year.svg"]);
    assert!(answer.code == 0 && answer.err.starts_with("note: wrote year.svg ("), "{}", answer.err);
    let picture = desk.read("year.svg");
    assert!(picture.contains("Slip &lt;repair&gt; &amp; &quot;paint&quot;") && !picture.contains("<repair>"));
    let pixels = desk.mild(&["calendar", "yard.toml", "2026", "--png", "year.png"]);
    if cfg!(feature = "png") {
        assert_eq!(pixels.code, 0);
        let pixels = std::fs::read(desk.path("year.png")).unwrap();
        // The signature of the format, then the size, in its first chunk.
        assert_eq!(pixels[..8], *b"\x89PNG\r\n\x1a\n");
        let size = |at: usize| u32::from_be_bytes(pixels[at..at + 4].try_into().unwrap());
        assert_eq!((size(16), size(20)), (1176, 884));
    } else {
        assert_eq!(pixels.code, 2);
        assert!(pixels.err.contains("--png needs the feature \"png\""), "{}", pixels.err);
        assert!(!desk.path("year.png").exists());
    }
    // Twelve months, every day of the year, and a day for each character under them.
    assert_eq!(picture.matches(" working</text>").count(), 12);
    let days = picture.matches("text-anchor=\"middle\"").count() - 12 * 7 - 5;
    assert_eq!(days, 365);
    assert_eq!(picture.matches("stroke-width=\"1.5\" fill=\"#a3352c\"").count() - 1, 5);
}

#[test]
fn a_leap_day_is_kept_in_common_years_where_the_file_says_so() {
    let desk = Desk::new();
    desk.write("yard.toml", "calendar = 1\nname = \"Yard\"\ncovers = \"2024 to 2026\"\n[[holiday]]\nname = \"Leap day\"\nday = 29\nmonth = \"february\"\ncommon_years = \"1 march\"\n");
    let json = desk.mild(&["calendar", "yard.toml", "2024..2026", "--json"]).json();
    let dates: Vec<_> = json["holidays"].as_array().unwrap().iter().map(|day| day["date"].clone()).collect();
    assert_eq!(dates, ["2024-02-29", "2025-03-01", "2026-03-01"]);
}

#[test]
fn rolls_and_the_number_of_a_working_day() {
    let desk = desk();
    let rolled =
        |words: &[&str]| desk.mild(&[&["shift"], words, &["--json"]].concat()).json()["date"].clone();
    assert_eq!(rolled(&["2026-10-31", "--roll", "following"]), "2026-11-02");
    assert_eq!(rolled(&["2026-10-31", "--roll", "modified-following"]), "2026-10-30");
    assert_eq!(rolled(&["2026-10-31", "--roll", "nearest"]), "2026-10-30");
    assert_eq!(rolled(&["2026-09-30", "1M 1d", "--roll", "preceding"]), "2026-10-30");
    assert_eq!(rolled(&["2026-10-07", "--roll", "following", "--calendar", "yard.toml"]), "2026-10-08");
    assert_snapshot!(desk.mild(&["shift", "2026-10-31", "--roll", "modified-following", "--why"]).out, @"
    2026-10-30 (Friday)
        2026-10-31 (Saturday) is not a working day; modified-following gives 2026-10-30
    rule: roll: modified-following (Saturday, Sunday off, no holidays)
    ");
    let around = desk.mild(&["periods", "2026-10-05", "--calendar", "yard.toml", "--json"]).json();
    assert_eq!(
        around["working_day"],
        json!({
            "calendar": "Quillhaven yard", "kind": "working day", "holidays": [], "number_in_month": 3, "number_from_month_end": -19,
        })
    );
    let answer = desk.mild(&["periods", "2026-10-17", "--calendar", "yard.toml"]);
    assert!(
        answer.out.starts_with("Quillhaven yard: holiday on a rest day, Harbour Regatta\n"),
        "{}",
        answer.out
    );
}

/// The days of a yearly repetition as the command lists them.
fn days_of_rule(first: &str, rule: &str, last_year: i32, more: &str) -> Vec<String> {
    let desk = Desk::new();
    desk.write("rule.ics", format!("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:{first}\r\nRRULE:{rule}\r\n{more}END:VEVENT\r\nEND:VCALENDAR\r\n"));
    let years = format!("{}..{last_year}", &first[..4]);
    let answer = desk.mild(&["calendar", "rule.ics", &years, "--covers", &years, "--json"]);
    assert_eq!(answer.code, 0, "{rule}: {}", answer.err);
    let days = answer.json()["holidays"].as_array().unwrap().clone();
    days.iter().map(|day| day["date"].as_str().unwrap().to_owned()).collect()
}

/// The yearly examples of RFC 5545, section 3.8.5.3, with the dates that are there.
#[test]
fn yearly_repetitions_are_those_of_the_standard() {
    for (first, rule, last_year, days) in [
        (
            "19970610",
            "FREQ=YEARLY;COUNT=10;BYMONTH=6,7",
            2003,
            "1997-06-10 1997-07-10 1998-06-10 1998-07-10 1999-06-10 1999-07-10 2000-06-10 2000-07-10 2001-06-10 2001-07-10",
        ),
        (
            "19970310",
            "FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3",
            2006,
            "1997-03-10 1999-01-10 1999-02-10 1999-03-10 2001-01-10 2001-02-10 2001-03-10 2003-01-10 2003-02-10 2003-03-10",
        ),
        (
            "19970101",
            "FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200",
            2008,
            "1997-01-01 1997-04-10 1997-07-19 2000-01-01 2000-04-09 2000-07-18 2003-01-01 2003-04-10 2003-07-19 2006-01-01",
        ),
        ("19970519", "FREQ=YEARLY;BYDAY=20MO", 1999, "1997-05-19 1998-05-18 1999-05-17"),
        ("19970512", "FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO", 1999, "1997-05-12 1998-05-11 1999-05-17"),
        (
            "19970313",
            "FREQ=YEARLY;BYMONTH=3;BYDAY=TH",
            1999,
            "1997-03-13 1997-03-20 1997-03-27 1998-03-05 1998-03-12 1998-03-19 1998-03-26 1999-03-04 1999-03-11 1999-03-18 1999-03-25",
        ),
        (
            "19970605",
            "FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8",
            1997,
            "1997-06-05 1997-06-12 1997-06-19 1997-06-26 1997-07-03 1997-07-10 1997-07-17 1997-07-24 1997-07-31 1997-08-07 1997-08-14 1997-08-21 1997-08-28",
        ),
        (
            "19961105",
            "FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8",
            2004,
            "1996-11-05 2000-11-07 2004-11-02",
        ),
    ] {
        assert_eq!(days_of_rule(first, rule, last_year, "").join(" "), days, "{rule}");
    }
    // An end is a day, not a year; a count counts what exists; an exception removes its own day, if there is one.
    let days = |rule: &str, more: &str| days_of_rule("20200925", rule, 2024, more).join(" ");
    assert_eq!(days("FREQ=YEARLY;UNTIL=20230924", ""), "2020-09-25 2021-09-25 2022-09-25");
    assert_eq!(days("FREQ=YEARLY;UNTIL=20230925", "").len(), 4 * 11 - 1);
    let except = "EXDATE;VALUE=DATE:20210926\r\nEXDATE;VALUE=DATE:20220925\r\n";
    assert_eq!(days("FREQ=YEARLY;COUNT=4", except), "2020-09-25 2021-09-25 2023-09-25");
    assert_eq!(
        days_of_rule("20200229", "FREQ=YEARLY;COUNT=3", 2030, "").join(" "),
        "2020-02-29 2024-02-29 2028-02-29"
    );
    // One day of a repetition is moved by an event that names it.
    let moved = "END:VEVENT\r\nBEGIN:VEVENT\r\nUID:1\r\nRECURRENCE-ID;VALUE=DATE:20210925\r\nDTSTART;VALUE=DATE:20210927\r\n";
    assert_eq!(days("FREQ=YEARLY;COUNT=3", moved), "2020-09-25 2021-09-27 2022-09-25");
}

#[test]
fn repetitions_without_end_do_not_hang() {
    let desk = Desk::new();
    let event = |rule: &str| {
        format!(
            "BEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:00010101\r\nRRULE:FREQ=YEARLY;{rule}\r\nEND:VEVENT\r\n"
        )
    };
    let calendar = |events: String| format!("BEGIN:VCALENDAR\r\nVERSION:2.0\r\n{events}END:VCALENDAR\r\n");
    // A counted rule is followed from year 1 on, day by day; many such events are reported instead.
    desk.write("many.ics", calendar(event("COUNT=900000;BYDAY=MO").repeat(300)));
    let refused = desk.mild(&["calendar", "many.ics", "9999", "--covers", "9999"]);
    assert_eq!(refused.code, 2, "{}", refused.err);
    assert!(refused.err.contains("too many to follow from their starts"), "{}", refused.err);
    // One that is not counted is looked at in the years asked only.
    desk.write("many.ics", calendar(event("BYDAY=MO").repeat(300)));
    assert_eq!(desk.mild(&["calendar", "many.ics", "9999", "--covers", "9999"]).code, 0);
}

#[test]
fn other_rest_days_are_refused_where_a_law_moves_holidays_by_its_own() {
    let desk = Desk::new();
    // 25 December 2027 is a Saturday: England keeps it and closes the Monday too, and no rest days make it a working Christmas.
    let shift = |more: &[&str]| {
        desk.mild(&[&["shift", "2027-12-24", "1wd", "--calendar", "england-wales"], more].concat())
    };
    let refused = shift(&["--rest-days", "sunday"]);
    assert_eq!(refused.code, 2, "{}", refused.out);
    assert!(refused.err.contains("move off its own rest days (Saturday, Sunday)"), "{}", refused.err);
    assert_eq!(shift(&["--rest-days", "saturday, sunday"]).out, shift(&[]).out);
    // A file that builds on it is refused alike, and so is a plan.
    desk.write(
        "shop.toml",
        "calendar = 1\nname = \"Shop\"\nextends = \"england-wales\"\nrest_days = [\"sunday\"]\n",
    );
    let file = desk.mild(&["shift", "2027-12-24", "1wd", "--calendar", "shop.toml"]);
    assert_eq!(file.code, 2, "{}", file.out);
    assert!(
        file.err.contains("shop.toml, line 4") && file.err.contains("move off its own rest days"),
        "{}",
        file.err
    );
    // Holidays that never move are counted with any rest days.
    let berlin = [
        "between",
        "2026-10-01",
        "2026-10-10",
        "--calendar",
        "germany-berlin",
        "--rest-days",
        "sunday",
        "--count",
        "working days",
    ];
    assert_eq!(desk.mild(&berlin).out.trim(), "8");
}
