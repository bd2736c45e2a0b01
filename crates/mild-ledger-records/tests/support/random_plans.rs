//! Tables and plans of all kinds, made up from a seed.

#![allow(dead_code, unreachable_pub)] // each test file uses a part of it

use std::fmt::Write as _;

/// Numbers that follow from a seed, the same everywhere.
#[derive(Debug, Clone)]
pub struct Seeded {
    state: u64,
}

impl Seeded {
    pub fn new(seed: u64) -> Self {
        Self { state: seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) ^ 0x2545_f491_4f6c_dd1d }
    }

    /// A number below another.
    pub fn below(&mut self, most: u64) -> u64 {
        // SplitMix64, which is in the public domain.
        self.state = self.state.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut mixed = self.state;
        mixed = (mixed ^ (mixed >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        mixed = (mixed ^ (mixed >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        (mixed ^ (mixed >> 31)) % most.max(1)
    }

    pub fn one_of<'t>(&mut self, all: &[&'t str]) -> &'t str {
        all[usize::try_from(self.below(all.len() as u64)).unwrap_or(0)]
    }

    /// True once in a number of times.
    pub fn once_in(&mut self, times: u64) -> bool {
        self.below(times) == 0
    }
}

/// A table of records, a file of payments next to it, and a plan over both.
#[derive(Debug)]
pub struct RandomPlan {
    /// The name and the text of each file, the plan first.
    pub files: Vec<(String, String)>,
}

const CUSTOMERS: [&str; 6] =
    ["Heron Charters", "Cordage & Co.", "Ferry Nine", " Ferry Nine", "", "\"Tern, Ltd\""];

/// A day as people write it, and now and then as they should not.
fn day(seeded: &mut Seeded) -> String {
    match seeded.below(40) {
        0 => String::new(),
        1 => "soon".to_owned(),
        2 => "31/06/2026".to_owned(),
        _ => format!("{:02}/{:02}/{}", seeded.below(28) + 1, seeded.below(12) + 1, 2025 + seeded.below(2)),
    }
}

fn amount(seeded: &mut Seeded) -> String {
    match seeded.below(40) {
        0 => String::new(),
        1 => "much".to_owned(),
        2..6 => format!("-{}.{:02}", seeded.below(500), seeded.below(100)),
        _ => format!("{}.{:02}", seeded.below(5000), seeded.below(100)),
    }
}

fn records(seeded: &mut Seeded, format: &str) -> String {
    let rows = if seeded.once_in(20) { 0 } else { seeded.below(60) };
    let mut text =
        if format == "csv" { "Key,Customer,Currency,Issued,Amount\n".to_owned() } else { String::new() };
    if format == "jsonl" {
        text.push_str(
            "{\"Key\":\"first\",\"Customer\":\"Heron Charters\",\"Currency\":\"EUR\",\"Issued\":\"05/01/2026\",\"Amount\":\"12.50\"}\n",
        );
    }
    for row in 0..rows {
        let key = if seeded.once_in(8) { seeded.below(rows) } else { row };
        let (customer, currency) = (seeded.one_of(&CUSTOMERS), seeded.one_of(&["EUR", "GBP", "EUR", ""]));
        let (issued, amount) = (day(seeded), amount(seeded));
        if format == "csv" {
            let _ = match seeded.below(30) {
                0 => writeln!(text, "K{key},{customer}"),
                1 => writeln!(text, "\"two\nlines {key}\",{customer},{currency},{issued},{amount}\r"),
                2 => writeln!(text, "K{key},x\"y,{currency},{issued},{amount}"),
                3 => writeln!(text, "\n"),
                _ => writeln!(text, "K{key},{customer},{currency},{issued},{amount}"),
            };
        } else {
            let customer = customer.trim_matches('"');
            let _ = match seeded.below(30) {
                0 => writeln!(text, "{{\"Key\":\"K{key}\""),
                1 => writeln!(text, "{{\"Key\":\"K{key}\",\"Amount\":\"{amount}\"}}"),
                2 => writeln!(text, " "),
                _ => writeln!(
                    text,
                    "{{\"Key\":\"K{key}\",\"Customer\":\"{customer}\",\"Currency\":\"{currency}\",\"Issued\":\"{issued}\",\"Amount\":\"{amount}\"}}"
                ),
            };
        }
    }
    text
}

fn payments(seeded: &mut Seeded) -> String {
    let mut text = "Invoice,Paid on,Paid,Agent\n".to_owned();
    for _ in 0..seeded.below(30) {
        let (paid_on, paid) = (day(seeded), amount(seeded));
        let _ = writeln!(text, "K{},{paid_on},{paid},Agent {}", seeded.below(60), seeded.below(3));
    }
    text
}

/// Parts of a plan, of which each has some.
const COLUMNS: [&str; 10] = [
    "[[column]]\nname = \"Working\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"working days\"\ncalendar = \"office\"\n",
    "[[column]]\nname = \"Months\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"complete months\"\n",
    "[[column]]\nname = \"Month\"\nperiod = \"month\"\nof = \"Issued\"\ngives = \"label\"\n",
    "[[column]]\nname = \"Quarter end\"\nperiod = \"quarter\"\nof = \"Issued\"\ngives = \"last day\"\n",
    "[[column]]\nname = \"Double\"\nsum = [\"Amount\", \"Amount\"]\n",
    "[[column]]\nname = \"Kind\"\nvalue = \"invoice\"\n",
    "[[column]]\nname = \"Whole years\"\nage = \"Issued\"\n",
    "[[column]]\nname = \"Later\"\nfrom = \"Issued\"\nshift = \"2 months\"\n",
    "[[column]]\nname = \"Reminder\"\nwhen = [{ column = \"Days\", at_least = 15 }]\nthen = \"send\"\nelse = \"wait\"\n",
    "[[column]]\nname = \"Copy\"\nfirst_of = [\"Issued\", \"Due\"]\n",
];

const REPORTS: [&str; 12] = [
    "[[report]]\nkind = \"aging\"\nband = \"Band\"\namount = \"Amount\"\nby = \"Customer\"\n",
    "[[report]]\nkind = \"aging\"\nat = \"last 3 month ends\"\nband = \"Band\"\namount = \"Amount\"\nissued = \"Issued\"\nby = [{ period = \"quarter\", of = \"Issued\" }, \"Customer\"]\ncredits = { off_oldest_debt_of = \"Customer\" }\n",
    "[[report]]\nkind = \"summary\"\nby = [{ period = \"month\", of = \"Issued\" }, \"Customer\"]\nshow = [\"count\", { sum = \"Amount\" }, { mean = \"Days\" }, { smallest = \"Issued\" }, { largest = \"Amount\" }, { median = \"Days\" }, { distinct = \"Customer\" }]\n",
    "[[report]]\nkind = \"movement\"\nsince = 2026-06-30\nband = \"Band\"\namount = \"Amount\"\nissued = \"Issued\"\npaid = \"Due\"\n",
    "[[report]]\nkind = \"measures\"\nsince = \"end of last quarter\"\nband = \"Band\"\namount = \"Amount\"\nissued = \"Issued\"\ndue = \"Due\"\npaid = \"Due\"\nloss_rates = [1, 2, 3, 4]\n",
    "[[report]]\nkind = \"distribution\"\nof = \"Days\"\n",
    "[[report]]\nkind = \"target\"\namount = \"Amount\"\nof = \"Issued\"\nwithin = \"this year\"\nplanned = TARGET\n",
    "[[report]]\nkind = \"turnaround\"\nbetween = [\"Issued\", \"Due\"]\ncount = \"days\"\npromise = \"3 weeks\"\nby = [\"Customer\", \"Band\"]\n",
    "[[report]]\nkind = \"allocation\"\namount = \"Amount\"\nfrom = \"Issued\"\nto = \"Due\"\nby = \"Customer\"\n",
    "[[report]]\nkind = \"tenure\"\nstart = \"Issued\"\nleft = \"Due\"\ncount = \"days\"\nby = \"Customer\"\n",
    "[[report]]\nkind = \"list\"\ncolumns = [\"Key\", \"Amount\"]\norder = [\"Amount, largest first\"]\nfirst = 5\n",
    "[[report]]\nkind = \"upcoming\"\nof = \"Issued\"\nevery = \"1 year\"\nwindow = \"3 months\"\n",
];

const SELECTS: [&str; 3] = [
    "[[select]]\ncolumn = \"Amount\"\nover = -300\n",
    "[[select]]\ncolumn = \"Customer\"\nis_not = \"Ferry Nine\"\n",
    "[[select]]\ncolumn = \"Days\"\nat_most = 500\n",
];

/// The files of a seed.
pub fn random_plan(seed: u64) -> RandomPlan {
    let mut seeded = Seeded::new(seed);
    let format = seeded.one_of(&["csv", "jsonl", "csv"]);
    let mut plan = format!("plan = 1\nas_of = 2026-09-30\n[records]\nfile = \"records.{format}\"\n");
    if !seeded.once_in(4) {
        let duplicates = seeded.one_of(&["set aside", "first", "last", "keep", "sum"]);
        let key = if duplicates == "sum" { "[\"Key\", \"Currency\"]" } else { "\"Key\"" };
        let _ = writeln!(plan, "key = {key}\nduplicates = \"{duplicates}\"");
    }
    let _ = writeln!(plan, "[records.dates]\nIssued = \"day/month/year\"");
    let currency = if seeded.once_in(2) { ", currency = \"Currency\"" } else { "" };
    let required = seeded.one_of(&["true", "false"]);
    let _ = writeln!(plan, "[records.amounts]\nAmount = {{ decimals = 2, required = {required}{currency} }}");
    let joins = seeded.once_in(3);
    if joins {
        let missing = seeded.one_of(&["keep", "set aside"]);
        let duplicates = seeded.one_of(&["sum", "first", "last"]);
        let _ = writeln!(
            plan,
            "[[join]]\nfile = \"payments.csv\"\nmatch = {{ Key = \"Invoice\" }}\ncolumns = [\"Paid\"]\nduplicates = \"{duplicates}\"\nwithout_match = \"{missing}\"\n[join.amounts]\nPaid = {{ decimals = 2, required = false }}"
        );
    }
    plan.push_str("[[column]]\nname = \"Due\"\nfrom = \"Issued\"\nshift = \"20 days\"\n");
    plan.push_str("[[column]]\nname = \"Days\"\nbetween = [\"Issued\", \"as-of\"]\ncount = \"days\"\n");
    plan.push_str("[[column]]\nname = \"Band\"\nbucket = \"Days\"\nedges = [0, 30, 60]\n");
    for column in COLUMNS {
        if seeded.once_in(3) {
            plan.push_str(column);
        }
    }
    for select in SELECTS {
        if seeded.once_in(5) {
            plan.push_str(select);
        }
    }
    for report in REPORTS {
        if seeded.once_in(4) {
            // Of amounts in several currencies a target is one of each.
            let target = if currency.is_empty() { "100000" } else { "{ EUR = 100000, GBP = 50000 }" };
            plan.push_str(&report.replace("TARGET", target));
        }
    }
    plan.push_str("[calendar.office]\nholidays = [\"england-wales\"]\nbeside = [\"scots\"]\n");
    plan.push_str("[calendar.scots]\nholidays = [\"scotland\"]\n");
    let rows = seeded.one_of(&["rows.csv", "rows.csv", "rows.jsonl"]);
    let _ = writeln!(plan, "[output]\nrows = \"{rows}\"\nexceptions = \"exceptions.csv\"");
    if seeded.once_in(3) {
        plan.push_str("report = \"report.md\"\n");
    }
    if seeded.once_in(3) {
        let _ = writeln!(plan, "order_by = [\"Amount, largest first\", \"Key\"]");
    }
    let files = [
        ("plan.toml".to_owned(), plan),
        (format!("records.{format}"), records(&mut seeded, format)),
        ("payments.csv".to_owned(), payments(&mut seeded)),
    ];
    RandomPlan { files: files.into() }
}
