//! What laws say of holidays, in calendar files: moves by weekday, days between, half days, rest days that change, calendars
//! that build on others, and years by rule.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use insta::assert_snapshot;
use serde_json::json;
use support::Desk;

const HEAD: &str = "calendar = 1\nname = \"Sound\"\n";

/// The holidays of some years of a calendar file, as dates.
fn holidays(desk: &Desk, years: &str) -> String {
    let json = desk.mild(&["calendar", "sound.toml", years, "--json"]).json();
    let days = json["holidays"].as_array().unwrap().iter();
    days.map(|day| day["date"].as_str().unwrap().to_owned()).collect::<Vec<_>>().join(" ")
}

fn sound(rest: &str) -> Desk {
    let desk = Desk::new();
    desk.write("sound.toml", format!("{HEAD}{rest}"));
    desk
}

#[test]
fn holidays_move_by_their_weekday_as_laws_say() {
    let king = "covers = \"2024 to 2031\"\n[[holiday]]\nname = \"King's Day\"\nday = 27\nmonth = \"april\"\n";
    let desk = sound(&format!("{king}moved = {{ sunday = \"saturday before\" }}\n"));
    // 27 April is a Sunday in 2025 and in 2031.
    assert_eq!(
        holidays(&desk, "2024..2031"),
        "2024-04-27 2025-04-26 2026-04-27 2027-04-27 2028-04-27 2029-04-27 2030-04-27 2031-04-26"
    );
    let desk = sound(&format!(
        "{king}moved = {{ saturday = \"sunday after\", then = \"next free day\" }}\nonly = [2024, 2025]\n"
    ));
    assert_eq!(holidays(&desk, "2024..2025"), "2024-04-29 2025-04-28");
    let desk = sound(&format!("{king}moved = \"following monday\"\ncloses = \"both days\"\nonly = 2025\n"));
    assert_eq!(holidays(&desk, "2025"), "2025-04-27 2025-04-28");
}

#[test]
fn several_dates_and_the_days_between() {
    let desk = sound(
        "covers = \"2026\"\n[[holiday]]\nname = \"Feast\"\ndate = [2026-09-21, 2026-09-23]\nsource = \"order 7 of the harbour\"\n\
         [[holiday]]\nname = \"Citizens' Day\"\nbetween = \"two holidays\"\n[[working]]\ndate = [2026-09-23, 2026-09-26]\n",
    );
    let answer = desk.mild(&["calendar", "sound.toml", "2026", "--holidays"]);
    assert_snapshot!(answer.out);
    let json = desk.mild(&["calendar", "sound.toml", "2026", "--json"]).json();
    assert_eq!(json["holidays"][0]["source"], "order 7 of the harbour");
    // September 2026: 22 weekdays, of which the 21st and the 22nd are off, and Saturday the 26th is worked.
    assert_eq!(json["months"][8]["working_days"], 21);
}

#[test]
fn half_days_count_as_is_asked() {
    let desk = sound(
        "covers = \"2026\"\n[[holiday]]\nname = \"Christmas Eve\"\nday = 24\nmonth = \"december\"\nlength = \"half day\"\n\
         [[holiday]]\nname = \"Christmas Day\"\nday = 25\nmonth = \"december\"\n",
    );
    let words = ["between", "2026-12-21", "2026-12-27", "--calendar", "sound.toml"];
    let asked = |more: &[&str]| desk.mild(&[&words[..], more].concat());
    for (half_days, figure) in [("open", "4"), ("half", "3.5"), ("closed", "3")] {
        let answer = asked(&["--half-days", half_days]);
        assert!(answer.out.contains(&format!("{figure} working days by Sound")), "{}", answer.out);
    }
    assert_eq!(
        asked(&["--json", "--half-days", "half"]).json()["working_days"]["half_days"],
        json!({ "days": 1, "counted": "3.5" })
    );
    assert_snapshot!(asked(&["--why", "--half-days", "half"]).out.split("\nfrom ").next().unwrap());
    assert_snapshot!("half_days_in_the_months_of_a_year", desk.mild(&["calendar", "sound.toml", "2026"]).out);
    let written = desk.mild(&["calendar", "sound.toml", "2026", "--ics", "sound.ics"]);
    assert!(written.err.contains("1 half day has no event"), "{}", written.err);
    assert!(
        !desk.read("sound.ics").contains("Christmas Eve") && desk.read("sound.ics").contains("Christmas Day")
    );
    let wrong = asked(&["--half-days", "some"]);
    assert_eq!(wrong.code, 2);
    assert!(wrong.err.contains("open, closed or half"), "{}", wrong.err);
    let wrong = desk.mild(&["between", "2026-12-21", "2026-12-27", "--half-days", "half"]);
    assert_eq!(wrong.code, 2);
    // In a plan: halves in the column, whole days in a move, which is reported.
    desk.write(
        "jobs.csv",
        "Job,Start,End\nA,2026-12-21,2026-12-27\nB,2026-12-27,2026-12-21\nC,2026-12-24,2026-12-24\n",
    );
    let plan = |half_days: &str, more: &str| {
        let plan = format!(
            "plan = 1\nas_of = 2026-12-31\n[records]\nfile = \"jobs.csv\"\n[records.dates]\nStart = \"iso\"\nEnd = \"iso\"\n\
             [calendar.sound]\nholidays = [\"sound.toml\"]\nhalf_days = \"{half_days}\"\n\
             [[column]]\nname = \"Days\"\nbetween = [\"Start\", \"End\"]\ncount = \"working days\"\n{more}\
             [output]\nrows = \"rows.csv\"\ncolumns = [\"Job\", \"Days\"]\n"
        );
        desk.write("plan.toml", &plan);
        let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
        assert_eq!(answer.code, 0, "{}", answer.err);
        (desk.read("rows.csv"), format!("{}{}", answer.out, answer.err))
    };
    assert_eq!(plan("half", "").0, "Job,Days\nA,3.5\nB,-3.5\nC,0.5\n");
    assert_eq!(plan("closed", "").0, "Job,Days\nA,3\nB,-3\nC,0\n");
    let (rows, said) = plan(
        "open",
        "within = \"this year\"\n[[column]]\nname = \"Later\"\nfrom = \"Start\"\nshift = \"1 working day\"\n",
    );
    assert_eq!(rows, "Job,Days\nA,4\nB,-4\nC,1\n");
    assert!(!said.contains("half days count half"), "{said}");
    let (_, said) =
        plan("half", "[[column]]\nname = \"Later\"\nfrom = \"Start\"\nshift = \"1 working day\"\n");
    assert!(
        said.contains("half days count half in columns of working days, and are working days elsewhere"),
        "{said}"
    );
}

#[test]
fn rest_days_change_at_a_date_and_years_may_be_by_rule() {
    let desk = sound(
        "covers = \"2012 to 2030\"\nproclaimed_to = 2027\nrest_days = [\"thursday\", \"friday\"]\n\
         [[rest_days_from]]\ndate = 2013-06-29\nrest_days = [\"friday\", \"saturday\"]\n\
         [[holiday]]\nname = \"National Day\"\nday = 23\nmonth = \"september\"\n",
    );
    let count = |from: &str, to: &str| {
        desk.mild(&["between", from, to, "--calendar", "sound.toml", "--json"]).json()["working_days"].clone()
    };
    // Sunday 23 June to Saturday 6 July 2013: off are the 27th and 28th, then the 29th, and 5 and 6 July.
    assert_eq!(count("2013-06-23", "2013-07-06")["count"], 9);
    assert_eq!(count("2027-12-01", "2028-01-31")["by_rule"], json!([2028, 2028]));
    assert_eq!(count("2027-12-01", "2027-12-31")["by_rule"], json!(null));
    let year = desk.mild(&["calendar", "sound.toml", "2013", "--json"]).json();
    assert_eq!(year["rest_days"], json!(["friday", "saturday"]));
    assert_eq!(
        desk.mild(&["calendar", "sound.toml", "2012..2014", "--json"]).json()["rest_days_from"],
        json!([{ "date": "2013-06-29", "rest_days": ["friday", "saturday"] }])
    );
    let said = desk.mild(&["calendar", "sound.toml", "2028"]).out;
    assert!(said.contains("2028: holidays by rule, not yet proclaimed"), "{said}");
    assert!(!desk.mild(&["calendar", "sound.toml", "2027"]).out.contains("by rule"));
    let said = desk.mild(&["between", "2029-01-01", "2030-01-01", "--calendar", "sound.toml"]).out;
    assert!(
        said.contains("The holidays of 2029 to 2030 in Sound follow by rule, not yet proclaimed"),
        "{said}"
    );
}

#[test]
fn a_calendar_builds_on_another_three_deep() {
    let desk = sound(
        "extends = \"county.toml\"\ncovers = \"2020 to 2022\"\n[[moved]]\nname = \"Harbour Day\"\nto = 2021-08-10\n\
         [[holiday]]\nname = \"Slip repair\"\ndate = 2022-03-02\n",
    );
    desk.write(
        "county.toml",
        "calendar = 1\nname = \"County\"\nextends = \"france\"\n[[dropped]]\nname = \"Whit Monday\"\nsince = 2021\n\
         [[holiday]]\nname = \"Harbour Day\"\nday = 9\nmonth = \"august\"\n",
    );
    // Whit Monday is 1 June 2020, and dropped on 24 May 2021 and 6 June 2022.
    assert_eq!(
        holidays(&desk, "2020..2022"),
        "2020-01-01 2020-04-13 2020-05-01 2020-05-08 2020-05-21 2020-06-01 2020-07-14 2020-08-09 2020-08-15 2020-11-01 \
         2020-11-11 2020-12-25 2021-01-01 2021-04-05 2021-05-01 2021-05-08 2021-05-13 2021-07-14 2021-08-10 2021-08-15 \
         2021-11-01 2021-11-11 2021-12-25 2022-01-01 2022-03-02 2022-04-18 2022-05-01 2022-05-08 2022-05-26 2022-07-14 \
         2022-08-09 2022-08-15 2022-11-01 2022-11-11 2022-12-25"
    );
    // The receipt names every file that it was made of.
    desk.write("jobs.csv", "Job,Start,End\nA,2021-05-24,2021-05-28\n");
    desk.write(
        "plan.toml",
        "plan = 1\nas_of = 2026-12-31\n[records]\nfile = \"jobs.csv\"\n[records.dates]\nStart = \"iso\"\nEnd = \"iso\"\n\
         [calendar.sound]\nholidays = [\"sound.toml\"]\n\
         [[column]]\nname = \"Days\"\nbetween = [\"Start\", \"End\"]\ncount = \"working days\"\n[output]\nrows = \"rows.csv\"\n",
    );
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    let receipt = desk.read("plan.receipt.toml");
    assert!(receipt.contains("sound.toml") && receipt.contains("county.toml"), "{receipt}");
    assert!(desk.read("rows.csv").contains(",5"), "{}", desk.read("rows.csv"));
}

#[test]
fn calendars_that_build_on_themselves_are_refused() {
    let desk = sound("extends = \"county.toml\"\n");
    desk.write("county.toml", "calendar = 1\nname = \"County\"\nextends = \"land.toml\"\n");
    desk.write("land.toml", "calendar = 1\nname = \"Land\"\nextends = \"./sound.toml\"\n");
    let answer = desk.mild(&["calendar", "sound.toml", "2026"]);
    assert_eq!(answer.code, 2);
    assert_snapshot!(answer.err);
    desk.write("land.toml", "calendar = 1\nname = \"Land\"\nextends = \"land.toml\"\n");
    let answer = desk.mild(&["calendar", "land.toml", "2026"]);
    assert!(answer.code == 2 && answer.err.contains("builds on itself"), "{}", answer.err);
    // A long way down is refused before it is gone.
    for nth in 0..40 {
        let next = nth + 1;
        desk.write(
            &format!("{nth}.toml"),
            format!("calendar = 1\nname = \"{nth}\"\nextends = \"{next}.toml\"\n"),
        );
    }
    let answer = desk.mild(&["calendar", "0.toml", "2026"]);
    assert!(
        answer.code == 2 && answer.err.contains("more than 16 calendars build on each other"),
        "{}",
        answer.err
    );
}

#[test]
fn mistakes_in_the_newer_keys_are_shown_in_their_place() {
    let desk = sound(
        "extends = \"france\"\ncovers = \"2010 to 2026\"\nproclaimed_to = \"2026\"\n\
         [[dropped]]\nname = \"Whit Munday\"\n\
         [[moved]]\nname = \"Labour Day\"\nto = \"soon\"\n",
    );
    let answer = desk.mild(&["calendar", "sound.toml", "2026"]);
    assert_eq!(answer.code, 2);
    assert_snapshot!(answer.err);
    let desk = sound(
        "covers = \"2026\"\n[[holiday]]\nname = \"A\"\nday = 1\nmonth = \"may\"\nmoved = { sunday = \"monday\", funday = \"monday after\" }\n\
         [[holiday]]\nname = \"B\"\nbetween = \"three holidays\"\n\
         [[holiday]]\nname = \"C\"\nday = 2\nmonth = \"may\"\nlength = \"half\"\n\
         [[holiday]]\nname = \"D\"\nday = 2\nmonth = \"may\"\ncloses = \"both\"\n\
         [[rest_days_from]]\ndate = 2026-02-01\n",
    );
    let answer = desk.mild(&["calendar", "sound.toml", "2026"]);
    assert_eq!(answer.code, 2);
    assert_snapshot!("mistakes_in_holidays", answer.err);
}

/// Jobs with the days between their dates, by a calendar that is named.
fn plan_by(calendars: &str, columns: &str) -> String {
    format!(
        "plan = 1\nas_of = 2031-06-30\n[records]\nfile = \"jobs.csv\"\n[records.dates]\nStart = \"iso\"\nEnd = \"iso\"\n{calendars}\n\
         [[column]]\nname = \"Days\"\nbetween = [\"Start\", \"End\"]\ncount = \"working days\"\n{columns}\n[output]\nrows = \"rows.csv\"\n"
    )
}

#[test]
fn a_run_says_how_many_figures_would_differ_by_another_calendar() {
    let desk = Desk::new();
    // By England and Wales: 4, 1, 2 days and none; by Scotland: 3, 1, 2 and none. The last is outside the years of Scotland.
    desk.write(
        "jobs.csv",
        "Job,Start,End\nA,2022-01-01,2022-01-09\nB,2022-01-04,2022-01-04\nC,2023-05-09,2023-05-10\nD,,2023-05-10\n\
         E,2027-05-10,2027-05-10\n",
    );
    let calendars = "[calendar.office]\nholidays = [\"england-wales\"]\nbeside = [\"scots\"]\n[calendar.scots]\nholidays = [\"scotland\"]";
    desk.write(
        "plan.toml",
        plan_by(calendars, "[[column]]\nname = \"Next\"\nfrom = \"Start\"\nshift = \"1 working day\""),
    );
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    // B: 4 January 2022 is the 2nd January of Scotland, so that its figure differs too. The next working days are 4 January and 5
    // January for A, the 5th for B, and the 10th of May for C by both.
    let said = "by the calendar \"scots\" in place of \"office\", 2 of 3 figures of \"Days\" would differ; 1 figure more only one of the two covers";
    assert!(answer.out.contains(said), "{}", answer.out);
    let said = "by the calendar \"scots\" in place of \"office\", 1 of 3 figures of \"Next\" would differ; 1 figure more only one of the two covers";
    assert!(answer.out.contains(said), "{}", answer.out);
    assert!(
        !desk.read("rows.csv").contains("scots")
            && desk.read("rows.csv").starts_with("Job,Start,End,Days,Next\n")
    );
    assert!(
        desk.read("rows.csv").contains("A,2022-01-01,2022-01-09,4,2022-01-04\n"),
        "{}",
        desk.read("rows.csv")
    );
    // By itself it has no difference to tell.
    desk.write("plan.toml", plan_by("[calendar.office]\nholidays = [\"england-wales\"]", ""));
    assert!(!desk.mild(&["run", "plan.toml", "--overwrite"]).out.contains("would differ"));
    desk.write("plan.toml", plan_by(&calendars.replace("[\"scots\"]", "[\"scotts\", \"office\"]"), ""));
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 2);
    assert!(answer.err.contains("\"scotts\" is not another calendar of the plan"), "{}", answer.err);
    assert!(answer.err.contains("\"office\" is not another calendar of the plan"), "{}", answer.err);
}

#[test]
fn a_run_says_which_figures_rest_on_days_that_are_not_proclaimed() {
    let desk = Desk::new();
    desk.write(
        "jobs.csv",
        "Job,Start,End\nA,2030-12-30,2030-12-31\nB,2030-12-30,2031-01-02\nC,2033-05-09,2033-05-10\nD,2041-05-09,2041-05-10\n",
    );
    let office = "[calendar.office]\nholidays = [\"germany-berlin\"]";
    desk.write(
        "plan.toml",
        plan_by(office, "[[column]]\nname = \"Next\"\nfrom = \"Start\"\nshift = \"3 working days\""),
    );
    let answer = desk.mild(&["run", "plan.toml", "--details"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    for said in [
        "2 figures of \"Days\" rest on days of 2031 to 2033 that are by rule in the calendar \"office\", not yet proclaimed: they may change",
        // The third working day after 30 December 2030 is 3 January 2031, for A and B.
        "3 figures of \"Next\" rest on days of 2031 to 2033",
        "Calendar office: 2015 to 2040, from 2031 by rule, rest days Saturday, Sunday",
    ] {
        assert!(answer.out.contains(said), "{said}\n{}", answer.out);
    }
    // The as-of date counts as one of the dates: 30 June 2031.
    let until =
        plan_by(office, "").replace("between = [\"Start\", \"End\"]", "between = [\"Start\", \"as-of\"]");
    desk.write("plan.toml", until);
    let answer = desk.mild(&["run", "plan.toml", "--overwrite", "--details"]);
    assert!(answer.out.contains("3 figures of \"Days\" rest on days of 2031 to 2033"), "{}", answer.out);
    // What is proclaimed is not spoken of.
    desk.write("jobs.csv", "Job,Start,End\nA,2026-12-28,2026-12-31\n");
    desk.write("plan.toml", plan_by(office, ""));
    assert!(!desk.mild(&["run", "plan.toml", "--overwrite"]).out.contains("not yet proclaimed"));
}

#[test]
fn reports_say_which_of_their_figures_rest_on_days_that_are_not_proclaimed() {
    let desk = Desk::new();
    // On 30 June 2031 A and B are finished, C has not begun, and E and F still run. G begins before the years of the calendar, so that nothing of it is
    // counted by that.
    desk.write(
        "jobs.csv",
        "Job,Start,End,Amount\nA,2030-12-30,2030-12-31,10.00\nB,2030-12-30,2031-01-02,20.00\nC,2033-05-09,2033-05-10,30.00\n\
         E,2030-12-02,,40.00\nF,2030-12-02,2032-09-01,50.00\nG,2014-12-30,2031-01-02,60.00\n",
    );
    let said_by = |report: &str| {
        desk.write(
            "plan.toml",
            format!(
                "plan = 1\nas_of = 2031-06-30\n[records]\nfile = \"jobs.csv\"\n[records.dates]\nStart = \"iso\"\nEnd = \"iso\"\n\
                 [records.amounts]\nAmount = {{ decimals = 2 }}\n[calendar.office]\nholidays = [\"germany-berlin\"]\n[[report]]\n{report}\n\
                 [output]\nrows = \"rows.csv\"\n"
            ),
        );
        let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
        assert_eq!(answer.code, 0, "{}", answer.err);
        let lines = answer.out.lines().filter(|line| line.contains("not yet proclaimed"));
        lines
            .map(|line| line.trim().trim_start_matches("Note: ").trim_end_matches('.').to_owned())
            .collect::<Vec<_>>()
    };
    let turnaround = "kind = \"turnaround\"\ntitle = \"Hauled out\"\nbetween = [\"Start\", \"End\"]\n";
    let rest = |what: &str, years: &str| {
        format!("{what} on days of {years} that are by rule in the calendar \"office\", not yet proclaimed: ")
    };
    let jobs = |count: u64| {
        vec![rest(&format!("The figures of {count} jobs of \"Hauled out\" rest"), "2031") + "they may change"]
    };
    for (figures, expected) in [
        ("count = \"working days\"", jobs(3)),
        ("count = \"working days\"\npromise = \"3 days\"", jobs(3)),
        // Ten working days after 30 December 2030 is a day of January, for A too.
        ("count = \"working days\"\npromise = \"10 working days\"", jobs(4)),
        ("count = \"days\"\npromise = \"10 working days\"", jobs(4)),
        ("count = \"days\"\npromise = \"10 days\"", vec![]),
    ] {
        assert_eq!(said_by(&format!("{turnaround}{figures}")), expected, "{figures}");
    }
    let allocation = "kind = \"allocation\"\namount = \"Amount\"\nfrom = \"Start\"\nto = \"End\"\n";
    let parts = rest("The parts of 3 amounts of \"Allocation\" rest", "2031 to 2033") + "they may change";
    assert_eq!(said_by(&format!("{allocation}over = \"working days\"")), [parts]);
    assert!(said_by(&format!("{allocation}over = \"days\"")).is_empty());
    let of_target = "kind = \"target\"\ntitle = \"Winter\"\namount = \"Amount\"\nof = \"Start\"\nplanned = 200\nfrom = 2030-12-01\n";
    let target = rest("The target of \"Winter\" rests", "2031") + "it may change";
    assert_eq!(said_by(&format!("{of_target}to = 2031-01-31\nover = \"working days\"")), [target]);
    assert!(said_by(&format!("{of_target}to = 2031-01-31")).is_empty());
    assert!(said_by(&format!("{of_target}to = 2030-12-31\nover = \"working days\"")).is_empty());
}

#[test]
fn single_answers_say_that_they_rest_on_days_that_are_not_proclaimed() {
    let desk = Desk::new();
    let germany = ["--calendar", "germany"];
    let asked = |words: &[&str]| {
        let text = desk.mild(&[words, &germany].concat());
        let json = desk.mild(&[words, &germany, &["--json"]].concat());
        assert_eq!((text.code, json.code), (0, 0), "{}{}", text.err, json.err);
        (text.out.contains("not yet proclaimed"), json.out.contains("\"by_rule\":[2031,2031]"))
    };
    for (words, expected) in [
        (&["shift", "2030-12-20", "5wd"][..], false),
        (&["shift", "2030-12-20", "10wd"], true),
        (&["shift", "2031-01-10", "-10wd"], true),
        (&["due", "2030-11-29", "net 30", "--roll", "following"], false),
        (&["due", "2030-12-29", "net 30", "--roll", "following"], true),
        (&["periods", "2030-12-31"], false),
        (&["periods", "2031-01-01"], true),
    ] {
        assert_eq!(asked(words), (expected, expected), "{words:?}");
    }
}

#[test]
fn working_hours_say_so_too() {
    let desk = sound(
        "covers = \"2026 to 2030\"\nproclaimed_to = 2027\n[hours]\neach_day = \"08:00 to 16:00\"\n[[holiday]]\nname = \"A\"\nday = 1\nmonth = \"may\"\n",
    );
    let asked = |from: &str, to: &str| desk.mild(&["between", from, to, "--calendar", "sound.toml"]).out;
    assert!(
        asked("2027-12-30T10:00", "2028-01-03T10:00")
            .contains("The holidays of 2028 in Sound follow by rule")
    );
    assert!(!asked("2027-12-30T10:00", "2027-12-31T10:00").contains("by rule"));
    let json = desk
        .mild(&["between", "2027-12-30T10:00", "2028-01-03T10:00", "--calendar", "sound.toml", "--json"])
        .json();
    assert_eq!(json["working_hours"][0]["by_rule"], json!([2028, 2028]));
}

#[test]
fn a_check_tells_of_holidays_that_close_one_day_together() {
    // 4 July 2026 is a Saturday: the Monday after it is the Regatta. 4 July 2027, a Sunday, is kept on the 5th alone.
    let desk = sound(
        "covers = \"2026 to 2027\"\n[[holiday]]\nname = \"Launch Day\"\nday = 4\nmonth = \"july\"\nmoved = \"following monday\"\n\
         [[holiday]]\nname = \"Regatta\"\nday = 6\nmonth = \"july\"\n",
    );
    desk.write("jobs.csv", "Job,Start,End\nA,2026-07-01,2026-07-08\n");
    desk.write("plan.toml", plan_by("[calendar.yard]\nholidays = [\"sound.toml\"]", ""));
    let said = "calendar \"yard\": \"Sound\": \"Launch Day\" of 2026-07-04 is kept on 2026-07-06, as \"Regatta\" is: one closed day";
    let answer = desk.mild(&["check", "plan.toml"]);
    assert!(answer.out.contains(said) && answer.out.matches("one closed day").count() == 1, "{}", answer.out);
    assert!(!desk.mild(&["run", "plan.toml"]).out.contains("one closed day"));
}

#[test]
fn what_builds_on_a_list_of_dates_rests_on_weekends_unless_it_says_otherwise() {
    let desk = sound("extends = \"closed.csv\"\ncovers = \"2026\"\n");
    desk.write("closed.csv", "date,name\n2026-10-07,Slip repair\n");
    let count = |desk: &Desk| {
        let words = ["between", "2026-10-03", "2026-10-18", "--calendar", "sound.toml", "--json"];
        desk.mild(&words).json()["working_days"]["count"].clone()
    };
    // Ten weekdays between Saturday the 3rd and Sunday the 18th, of which the 7th is off.
    assert_eq!(count(&desk), 9);
    desk.write("sound.toml", format!("{HEAD}extends = \"closed.csv\"\ncovers = \"2026\"\nrest_days = []\n"));
    assert_eq!(count(&desk), 15);
}

#[test]
fn rows_that_name_their_calendars_are_told_of_by_those_that_they_name() {
    let desk = Desk::new();
    desk.write(
        "jobs.csv",
        "Job,Site,Start,End\nA,berlin,2031-05-05,2031-05-06\nB,yard,2031-05-05,2031-05-06\nC,berlin,2026-05-05,2026-05-06\n",
    );
    let calendars = "[calendar.berlin]\nholidays = [\"germany-berlin\"]\nbeside = [\"yard\"]\n\
                     [calendar.yard]\nrest_days = [\"sunday\"]";
    let plan = plan_by(calendars, "")
        .replace("count = \"working days\"", "count = \"working days\"\ncalendar = { column = \"Site\" }");
    desk.write("plan.toml", plan);
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    // Row B goes by the yard's week alone, which is by no rule; no calendar represents another of those that rows name.
    assert!(
        answer.out.contains(
            "1 figure of \"Days\" rests on days of 2031 that are by rule in the calendar \"berlin\""
        ),
        "{}",
        answer.out
    );
    assert!(!answer.out.contains("would differ"), "{}", answer.out);
}

#[test]
fn a_column_that_asks_for_a_calendar_twice_tells_once() {
    let desk = Desk::new();
    desk.write("jobs.csv", "Job,Start,End\nA,2031-05-05,2031-05-06\n");
    let calendars = "[calendar.office]\nholidays = [\"germany\"]\nbeside = [\"week\"]\n[calendar.week]\nrest_days = [\"sunday\"]";
    let moved = "[[column]]\nname = \"Next\"\nfrom = \"Start\"\nshift = \"1 month 3 working days\"\nroll = \"following\"";
    desk.write("plan.toml", plan_by(calendars, moved));
    let out = desk.mild(&["run", "plan.toml"]).out;
    assert_eq!(out.matches("of \"Next\" rests on").count(), 1, "{out}");
    assert_eq!(out.matches("of \"Next\" would differ").count(), 1, "{out}");
}
