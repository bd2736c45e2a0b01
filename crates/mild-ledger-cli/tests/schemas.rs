//! The published schemas are those of what the command prints and reads.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use serde_json::Value;
use std::cell::RefCell;
use std::collections::BTreeMap;
use support::schemas::{Schema, schema};
use support::{Desk, PLAN, RECORDS};

/// What a schema finds wrong with an object; `None` where nothing is. Each schema is made ready once, which takes most of the time.
fn faults(name: &str, object: &Value) -> Option<String> {
    thread_local!(static READY: RefCell<BTreeMap<String, Schema>> = const { RefCell::new(BTreeMap::new()) });
    READY.with_borrow_mut(|ready| {
        ready.entry(name.to_owned()).or_insert_with(|| Schema::of(name)).faults(object)
    })
}

fn json_of(text: &str) -> Value {
    support::schemas::json_of(text).unwrap()
}

#[test]
fn every_object_that_the_command_prints_is_of_its_schema() {
    let desk = Desk::with_records(RECORDS);
    desk.write(
        "awkward.csv",
        "Titles;;\nKey;Day;Cost;Date;Then\n1;01/02/2026;1,250;46295;9999-12-31\n1;03/04/2026;2,500;46296;30/09/26\n\
         2;x;8,000 CR;46297;29/09/26\nTotal;;;;\n1;2\n",
    );
    for (name, words) in [
        ("between", "between 2019-11-30 2022-01-02"),
        ("between", "between 2026-04-01 2026-06-10 --split month --calendar france"),
        ("between", "between 2022-01-02 2019-11-30 --why --split month"),
        ("between", "between 0001-01-01 9999-12-31 --ends neither --split year"),
        (
            "between",
            "between 0001-01-01 9999-12-31 --ends first-and-last --month-end keep --weeks-begin sunday",
        ),
        ("between-times", "between 2026-09-30T16:00 2026-10-02T09:30:00.000001 --why"),
        ("between-times", "between 2026-03-29T22:00Z 2026-03-28T00:00 --zone Europe/London"),
        ("shift", "shift 2026-01-31 1M"),
        ("shift", "shift 2026-01-31 1M --times 3 --weekday after.monday"),
        ("shift", "shift 2026-01-31T12:00 1M 14h --times 3"),
        ("due", "due 2026-01-15 net 30"),
        ("due", "due 2026-01-15 2/10 net 30 EOM --roll following --roll-discount"),
        ("periods", "periods 2026-09-30"),
        ("periods", "periods 0001-01-01 --why --weeks-begin sunday"),
        ("periods", "periods 9999-12-31 --fiscal-year-begins 4-6"),
        ("periods", "periods 2026-09-30 --away -1"),
        ("periods", "periods 2026-11-03 --calendar japan"),
        ("periods", "periods 2026-11-03 --calendar japan --calendar france"),
        ("shift", "shift 2026-10-31 --roll nearest"),
        ("between", "between 2026-10-03 2026-10-18 --calendar japan"),
        ("between", "between 2026-10-03 2026-10-18 --calendar japan --calendar france --ends neither"),
        ("shift", "shift 2026-10-03 10wd --calendar france"),
        ("calendar", "calendar england-wales 2022"),
        ("calendar", "calendar none 2026..2027 --target 36000 --rate-up"),
        ("calendar", "calendar none 2026 --target 5000 --whole"),
        ("calendar", "calendar new-york-exchange 2030"),
        ("between", "between 2026-11-20 2030-12-31 --calendar new-york-exchange --half-days half"),
        ("shift", "shift 2030-12-20 20wd --calendar germany"),
        ("due", "due 2031-01-10 net30 --roll following --calendar germany"),
        ("periods", "periods 2031-01-10 --calendar germany"),
        ("calendars", "calendar"),
        ("calendars", "calendar --find german"),
        ("calendar-sources", "calendar germany-berlin --sources"),
        ("calendar-sources", "calendar federal-reserve --sources"),
        ("two-calendars", "calendar england-wales scotland 2022"),
        ("two-calendars", "calendar federal-reserve new-york-exchange 2028..2029"),
        ("row", "run plan.toml --why --row A1"),
        ("look", "look records.csv"),
        ("look", "look awkward.csv"),
        ("check", "check plan.toml"),
        ("run", "run plan.toml"),
        (
            "run",
            "aging records.csv --amount Amount --issued Issued --by Customer --date-pattern Issued=day/month/year --as-of 2026-09-30",
        ),
        ("verify", "verify plan.receipt.toml"),
        ("verify", "verify plan.receipt.toml --again"),
    ] {
        let words: Vec<String> = words
            .split(' ')
            .map(|word| word.replace('.', if word.contains("monday") { " " } else { "." }))
            .collect();
        let words: Vec<&str> = words.iter().map(String::as_str).chain(["--json"]).collect();
        let mut object = desk.mild(&words).json();
        assert_eq!(faults(name, &object), None, "{words:?}\n{object:#}");
        // A schema that lets everything pass would hold nothing.
        object["unheard_of"] = Value::Null;
        assert!(faults(name, &object).is_some(), "{words:?}");
        let first = schema(name)["required"][0].as_str().unwrap().to_owned();
        object.as_object_mut().unwrap().retain(|key, _| *key != first && key != "unheard_of");
        assert!(faults(name, &object).is_some(), "{words:?} without {first}");
    }
}

#[test]
fn plans_are_of_the_schema_of_plans() {
    let demo = include_str!("../demo/receivables.toml");
    for plan in [PLAN, demo] {
        let plan = json_of(plan);
        assert_eq!(faults("plan", &plan), None);
    }
    assert!(faults("plan", &json_of(&PLAN.replace("plan  = 1", "plan  = 2"))).is_some());
    assert!(
        faults("plan", &json_of(&PLAN.replace("bucket = \"Days\"", "bucket = \"Days\"\nage = \"Issued\"")))
            .is_some()
    );
}

#[test]
fn a_summary_and_its_figures_are_of_their_schemas() {
    let summary = "[[report]]\nkind = \"summary\"\nby = [\"Customer\", { period = \"month\", of = \"Issued\" }]\nshow = [\"count\", { mean = \"Amount\" }, { smallest = \"Issued\" }, { percentile = \"Amount\", at = 90 }, { share = \"Amount\" }]\norder = \"count, largest first\"\nbars = \"count\"\n[output]";
    let desk = Desk::with_plan("[output]", summary);
    assert_eq!(faults("plan", &json_of(&desk.read("plan.toml"))), None);
    for (from, to) in [
        ("mean", "middle"),
        ("at = 90", "at = 101"),
        ("order = ", "ordered = "),
        ("\"count\"", "\"counts\""),
        ("by = ", "per = "),
    ] {
        let wrong = desk.read("plan.toml").replace(summary, &summary.replace(from, to));
        assert!(faults("plan", &json_of(&wrong)).is_some(), "{to}");
    }
    let mut object = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(faults("run", &object), None, "{object:#}");
    assert_eq!(object["reports"][1]["tables"][0]["columns"][0], "Customer");
    object["reports"][1]["tables"][0]["rows"][0][2] = serde_json::json!({ "figure": 1 });
    assert!(faults("run", &object).is_some());
}

#[test]
fn a_list_and_its_sums_are_of_their_schemas() {
    let list = "[[report]]\nkind = \"list\"\ncolumns = [\"Invoice\", \"Amount\"]\nby = [\"Customer\", { period = \"month\", of = \"Issued\" }]\norder = [\"Issued, newest first\", \"Amount\"]\nfirst_of_each = 1\nsum = \"Amount\"\n[output]";
    let desk = Desk::with_plan("[output]", list);
    assert_eq!(faults("plan", &json_of(&desk.read("plan.toml"))), None);
    for (from, to) in [
        ("first_of_each = 1", "first_of_each = 0"),
        ("first_of_each = 1", "first_of_each = 1\nfirst = 2"),
        ("sum = ", "total = "),
        ("by = [\"Customer\", { period = \"month\"", "by = [\"Customer\", { period = \"moon\""),
    ] {
        let wrong = desk.read("plan.toml").replace(list, &list.replace(from, to));
        assert!(faults("plan", &json_of(&wrong)).is_some(), "{to}");
    }
    let mut object = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(faults("run", &object), None, "{object:#}");
    assert!(object["reports"][1]["tables"][0]["sums"].as_array().is_some_and(|sums| !sums.is_empty()));
    object["reports"][1]["tables"][0]["sums"][0]["of"] = "rows".into();
    assert!(faults("run", &object).is_some());
}

#[test]
fn what_comes_up_is_of_its_schemas() {
    let upcoming = "[[report]]\nkind = \"upcoming\"\nof = \"Issued\"\nwindow = \"3 months\"\nevery = \"6 months\"\nonly = [1, 2]\nby = \"Customer\"\n[output]";
    let desk = Desk::with_plan("[output]", upcoming);
    assert_eq!(faults("plan", &json_of(&desk.read("plan.toml"))), None);
    for (from, to) in [
        ("window = \"3 months\"", "window = \"3 months\"\nwithin = \"next month\""),
        ("of = ", "from = "),
        ("only = [1, 2]", "only = [0]"),
        ("window = \"3 months\"\n", ""),
    ] {
        let wrong = desk.read("plan.toml").replace(upcoming, &upcoming.replace(from, to));
        assert!(faults("plan", &json_of(&wrong)).is_some(), "{to}");
    }
    let object = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(faults("run", &object), None, "{object:#}");
}

#[test]
fn calendar_files_are_of_their_schema() {
    const FILE: &str = "calendar = 1\nname = \"Yard\"\ncovers = \"2026\"\n[[holiday]]\nname = \"Slip\"\ndate = 2026-10-07\n[[working]]\ndate = 2026-12-05\n";
    assert_eq!(faults("calendar-file", &json_of(FILE)), None);
    assert!(
        faults("calendar-file", &json_of(&FILE.replace("date = 2026-10-07", "day = 7\ndate = 2026-10-07")))
            .is_some()
    );
    // What the page on calendars shows of the file.
    let page = include_str!("../../../docs/calendars.md");
    let blocks: Vec<&str> =
        page.split("```toml\n").skip(1).filter_map(|part| part.split("```").next()).collect();
    let files: Vec<&str> = blocks
        .into_iter()
        .filter(|block| block.contains("calendar  = 1") || block.contains("calendar = 1"))
        .collect();
    assert_eq!(files.len(), 2);
    for file in files {
        assert_eq!(faults("calendar-file", &json_of(file)), None, "{file}");
    }
    let newer = "rest_days = [\"thursday\"]\nproclaimed_to = 2027\n[[rest_days_from]]\ndate = 2026-06-29\nrest_days = [\"friday\"]\n[[holiday]]";
    assert_eq!(faults("calendar-file", &json_of(&FILE.replacen("[[holiday]]", newer, 1))), None);
    let without = FILE.replace("covers = \"2026\"\n", "");
    assert!(faults("calendar-file", &json_of(&without)).is_some());
    let based = without.replace("[[holiday]]", "extends = \"france\"\n[[holiday]]");
    assert_eq!(faults("calendar-file", &json_of(&based)), None);
}

#[test]
fn sums_of_a_second_file_and_payments_are_of_the_schema() {
    let join = "[[join]]\nfile = \"payments.csv\"\nmatch = { Invoice = \"Invoice\" }\ncolumns = { Sum = \"Paid\" }\nduplicates = { sum_up_to_as_of = \"Date\" }\n\n[[column]]";
    let plan = PLAN.replacen("[[column]]", join, 1).replace("paid   = \"Paid\"", "payments = \"Sum\"");
    assert_eq!(faults("plan", &json_of(&plan)), None);
    assert_eq!(faults("plan", &json_of(&plan.replace("{ sum_up_to_as_of = \"Date\" }", "\"sum\""))), None);
    for (from, to) in
        [("sum_up_to_as_of", "sum_up_to"), ("payments = \"Sum\"", "payments = \"Sum\"\npaid = \"Paid\"")]
    {
        assert!(faults("plan", &json_of(&plan.replace(from, to))).is_some(), "{to}");
    }
}

#[test]
fn reports_that_look_from_several_dates_are_of_their_schemas() {
    let of = "band = \"Band\"\namount = \"Amount\"\nissued = \"Issued\"\npaid = \"Paid\"\n";
    let reports = format!(
        "[[report]]\nkind = \"movement\"\nsince = 2026-06-30\n{of}[[report]]\nkind = \"measures\"\nsince = \"end of last month\"\ndue = \"Issued\"\nloss_rates = [0.5, 2, 5, 100]\n{of}[[report]]\nkind = \"aging\"\nat = [2026-03-31, \"end of last quarter\"]\n{of}[[report]]\nkind = \"movement\"\nsince = \"end of last month\"\nat = \"last 2 month ends\"\n{of}[output]"
    );
    let desk = Desk::with_plan("[output]", &reports);
    assert_eq!(faults("plan", &json_of(&desk.read("plan.toml"))), None);
    for (from, to) in [
        ("kind = \"movement\"\nsince = 2026-06-30\n", "kind = \"movement\"\n"),
        ("kind = \"measures\"", "kind = \"measures\"\nby = \"Customer\""),
        ("loss_rates = [0.5", "loss_rates = [-1"),
        ("at = [2026-03-31, \"end of last quarter\"]", "at = []"),
        ("due = \"Issued\"\n", ""),
    ] {
        let wrong = desk.read("plan.toml").replace(&reports, &reports.replace(from, to));
        assert!(faults("plan", &json_of(&wrong)).is_some(), "{to}");
    }
    let object = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(faults("run", &object), None, "{object:#}");
    // The last are the two that are seen from several dates.
    let seen: Vec<usize> = object["reports"]
        .as_array()
        .unwrap()
        .iter()
        .map(|report| report["seen_from"].as_array().map_or(0, Vec::len))
        .collect();
    assert_eq!(seen, [0, 0, 0, 2, 2]);
}

#[test]
fn jobs_spans_and_service_are_of_their_schemas() {
    let reports = "[[report]]\nkind = \"turnaround\"\nbetween = [\"Issued\", \"Paid\"]\ncount = \"days\"\npromise = \"30 days\"\npercentiles = [75, 90]\nby = \"Customer\"\n[[report]]\nkind = \"allocation\"\namount = \"Amount\"\nfrom = \"Issued\"\nto = \"Paid\"\nover = \"months\"\nperiod = \"quarter\"\ndecimals = 2\n[[report]]\nkind = \"tenure\"\nstart = \"Issued\"\nleft = \"Paid\"\ncount = \"complete months\"\nlast_periods = 3\n[output]";
    let desk = Desk::with_plan("[output]", reports);
    assert_eq!(faults("plan", &json_of(&desk.read("plan.toml"))), None);
    for (from, to) in [
        ("between = [\"Issued\", \"Paid\"]", "between = \"Issued\""),
        ("percentiles = [75, 90]", "percentiles = 101"),
        ("over = \"months\"", "over = \"years\""),
        ("count = \"complete months\"\n", ""),
        ("last_periods = 3", "last_periods = 0"),
    ] {
        let wrong = desk.read("plan.toml").replace(reports, &reports.replace(from, to));
        assert!(faults("plan", &json_of(&wrong)).is_some(), "{to}");
    }
    let object = desk.mild(&["run", "plan.toml", "--json"]).json();
    assert_eq!(faults("run", &object), None, "{object:#}");
}
