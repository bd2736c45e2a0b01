//! Words that people bring along, keys in another part, and files in place of others: each gets an answer that leads on.
#![allow(clippy::unwrap_used, clippy::panic)]

mod support;

use support::Desk;

const PLAN: &str = "plan = 1
as_of = 2026-11-30
[records]
file = \"records.csv\"
[records.dates]
Issued = \"day/month/year\"
[records.amounts]
Amount = { decimals = 2 }
";
const OUTPUT: &str = "[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";

/// What a run writes to standard error of the plan with a part in it.
fn refused(part: &str) -> String {
    let desk = Desk::with_records(support::RECORDS);
    desk.write("plan.toml", format!("{PLAN}{part}\n{OUTPUT}"));
    let answer = desk.mild(&["run", "plan.toml"]);
    assert_eq!(answer.code, 2, "{part}: {}", answer.all());
    answer.err
}

#[test]
fn a_part_of_a_plan_in_other_words() {
    for (part, words) in [
        ("[[column]]\ntenure = \"Issued\"\ncount = \"working days\"", "working days are not counted here"),
        (
            "[[column]]\ntenure = \"Issued\"\ncount = \"working days\"",
            "between = [\"…\", \"as-of\"] with count = \"working days\"",
        ),
        (
            "[[column]]\nbetween = [\"Issued\", \"as-of\"]\ncount = \"working days\"\ncalendar = \"uk\"",
            "the plan has no [calendar.uk]",
        ),
        (
            "[[column]]\nbetween = [\"Issued\", \"as-of\"]\ncount = \"working days\"\ncalendar = \"uk\"",
            "[calendar.uk] with holidays = [ … ]",
        ),
        (
            "[[column]]\nbetween = [\"Issued\", \"as-of\"]\ncount = \"Complete Months\"",
            "nearest: \"complete months\"",
        ),
        (
            "[[column]]\nbetween = [\"Issued\", \"as-of\"]\ncount = \"business days\"",
            "nearest: \"working days\"",
        ),
        (
            "[[column]]\nbetween = [\"Issued\", \"as-of\"]\nends = \"both\"\ncount = \"days\"",
            "nearest: \"first-and-last\"",
        ),
        (
            "[[column]]\nname = \"Due\"\nfrom = \"Issued\"\nterms = \"net 30\"\nroll = \"next\"",
            "nearest: \"following\"",
        ),
        (
            "[[column]]\nname = \"x\"\nif = [{ column = \"Amount\", over = 5 }]\nthen = \"a\"\nelse = \"b\"",
            "nearest: when",
        ),
        (
            "[[column]]\nname = \"x\"\ndifference = [\"Issued\", \"as-of\"]",
            "between = [\"…\", \"…\"] counts the time between two dates",
        ),
        ("[[column]]\nname = \"x\"\nvalue = \"{Sku}/{Item}\"", "nothing fills {Sku}"),
        (
            "[[report]]\nkind = \"summary\"\nby = [\"Customer\"]\nshow = [{ average = \"Amount\" }]",
            "nearest: mean",
        ),
        ("[[report]]\nkind = \"summary\"\ngroup_by = [\"Customer\"]\nshow = [\"count\"]", "nearest: by"),
        (
            "[[report]]\nkind = \"list\"\norder = \"Customer desc\"",
            "an order has a comma: \"Customer, largest first\"",
        ),
        ("[[report]]\nkind = \"list\"\nreport = \"x.html\"", "report belongs under [output]"),
        ("[[report]]\nkind = \"list\"\nkey = \"Invoice\"", "key belongs under [records]"),
        ("[[report]]\nkind = \"agin\"", "nearest: \"aging\""),
        ("[[report]]\nkind = \"list\"\ntitle = \"{month}\"", "{month}"),
        ("[[select]]\ncolumn = \"Amount\"\nequals = 5", "nearest: is"),
        ("[[select]]\ncolumn = \"Amount\"\ngreater_than = 5", "nearest: over"),
        ("[[select]]\ncolumn = \"Issued\"\nis_not = \"\"", "blank = false for all others"),
        ("[[filter]]\ncolumn = \"Amount\"\nover = 5", "nearest: select"),
        ("[[lookup]]\nfile = \"a.csv\"", "nearest: join"),
    ] {
        let message = refused(part);
        assert!(message.contains(words), "{part}: {message}");
    }
}

#[test]
fn a_date_in_the_order_of_a_country_is_written_in_toml() {
    let desk = Desk::with_records(support::RECORDS);
    for (written, iso) in
        [("30/11/2026", "2026-11-30"), ("30.11.2026", "2026-11-30"), ("3/4/2026", "2026-04-03 or 2026-03-04")]
    {
        desk.write("plan.toml", format!("{PLAN}{OUTPUT}").replace("2026-11-30", written));
        let answer = desk.mild(&["run", "plan.toml"]);
        assert_eq!(answer.code, 2);
        assert!(answer.err.contains(&format!("    write {iso}\n")), "{}", answer.err);
    }
}

#[test]
fn a_command_in_other_words() {
    let desk = Desk::with_records(support::RECORDS);
    for (arguments, words) in [
        (&["run", "records.csv"][..], "is a text file of records, not a plan"),
        (&["check", "records.csv"], "mild look records.csv --plan writes a plan for it"),
        (&["calendar", "uk"], "perhaps england-wales, northern-ireland, scotland"),
        (&["calendar", "usa"], "perhaps us-federal, us-federal-with-closings"),
        (&["calendar", "england-wales", "26"], "2026 perhaps"),
        (&["shift", "2026-10-31", "0d", "--roll", "next"], "nearest: following"),
        (&["between", "2026-01-01", "2026-02-01", "--ends", "both"], "nearest: first-and-last"),
        (
            &["due", "2026-10-31", "net 30", "--as-of", "month end"],
            "\"end of this month\" or \"end of last month\"",
        ),
        (
            &["aging", "records.csv", "--amount", "Amount", "--issued", "Issued", "--as-of", "30/11/2026"],
            "perhaps 2026-11-30",
        ),
        (
            &[
                "aging",
                "records.csv",
                "--amount",
                "Amount",
                "--issued",
                "Issued",
                "--as-of",
                "2026-11-30",
                "--terms",
                "net thirty",
            ],
            "--terms: \"net thirty\"",
        ),
        (
            &["tenure", "records.csv", "--start", "Issued", "--as-of", "2026-11-30", "--count", "moons"],
            "--count: \"moons\"",
        ),
        (
            &["upcoming", "records.csv", "--of", "Issued", "--as-of", "2026-11-30", "--window", "soon"],
            "--window: ",
        ),
        (
            &["upcoming", "records.csv", "--of", "Issued", "--as-of", "2026-11-30", "--every", "often"],
            "--every: ",
        ),
    ] {
        let answer = desk.mild(arguments);
        assert_eq!(answer.code, 2, "{arguments:?}: {}", answer.all());
        assert!(answer.err.contains(words), "{arguments:?}: {}", answer.err);
        assert!(!answer.err.contains("arguments, line"), "{}", answer.err);
    }
    let found = desk.mild(&["calendar", "--find", "Britain"]);
    assert!(found.out.contains("england-wales") && found.out.contains("scotland"), "{}", found.out);
    assert!(!found.out.contains("germany"), "{}", found.out);
    let any_case = desk.mild(&["between", "2026-01-01", "2026-02-01", "--ends", "First-And-Last"]);
    assert_eq!(any_case.code, 0, "{}", any_case.err);
}

#[test]
fn a_wrong_header_line_is_one_mistake() {
    let plan = |form: &str| {
        format!("{PLAN}{OUTPUT}").replace("\n[records.dates]", &format!("\n{form}[records.dates]"))
    };
    let titled = format!("Quillhaven Boatyard\nprinted 2026-11-30\n{}", support::RECORDS);
    for (records, form, line, now, right) in [
        (titled.as_str(), "", 4, 1, 3),
        (titled.as_str(), "header_line = 2\n", 4, 2, 3),
        (support::RECORDS, "header_line = 3\n", 4, 3, 1),
    ] {
        let desk = Desk::with_records(records);
        desk.write("plan.toml", plan(form));
        let answer = desk.mild(&["run", "plan.toml"]);
        assert_eq!(answer.code, 2, "{}", answer.all());
        let said = format!(
            "plan.toml, line {line}: line {now} of records.csv is not the header of these columns; line {right} is"
        );
        assert!(answer.err.contains(&said), "{}", answer.err);
        assert!(
            answer.err.contains(&format!("expected: header_line = {right} under [records]")),
            "{}",
            answer.err
        );
        assert!(answer.err.contains("the plan has 1 mistake;"), "{}", answer.err);
        desk.write("plan.toml", plan(&format!("header_line = {right}\n")));
        assert_eq!(desk.mild(&["run", "plan.toml"]).code, 0);
    }
    // Columns that no line has stay mistakes by themselves.
    let desk = Desk::with_records(&titled);
    desk.write("plan.toml", plan("").replace("Issued", "Made").replace("Amount", "Price"));
    let answer = desk.mild(&["run", "plan.toml"]);
    assert!(answer.err.contains("the plan has 2 mistakes;"), "{}", answer.err);
}

#[test]
fn a_text_that_may_mean_a_day_or_a_column_is_noted() {
    let desk = Desk::with_records(support::RECORDS);
    for (value, note) in [
        ("today", "the value \"today\" is a text here; \"as-of\" is the as-of date"),
        ("Amount", "the value \"Amount\" is a text here; { column = \"Amount\" } is what the column holds"),
    ] {
        let column = format!("[[column]]\nname = \"New\"\nvalue = \"{value}\"\n");
        desk.write("plan.toml", format!("{PLAN}{column}{OUTPUT}"));
        let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
        assert_eq!(answer.code, 0, "{}", answer.err);
        assert!(answer.out.contains(note), "{}", answer.out);
    }
    let column = "[[column]]\nname = \"New\"\nvalue = \"send\"\n";
    desk.write("plan.toml", format!("{PLAN}{column}{OUTPUT}"));
    assert!(!desk.mild(&["run", "plan.toml", "--overwrite"]).out.contains("is a text here"));
}
