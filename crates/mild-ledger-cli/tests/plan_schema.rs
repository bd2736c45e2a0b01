//! The schema of plans refuses what the command refuses, and accepts what it accepts.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use mild_ledger::{DateField, FiscalYear, Measure, PeriodEdge, PeriodRule, Roll, WeekYear, Weekday};
use mild_ledger_records::Plan;
use mild_ledger_report::error_said;
use mild_ledger_report::terminal::{Colour, Width};
use std::path::Path;
use support::schemas::Schema;

/// Where the lines of a case are in its plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Place {
    Top,
    Records,
    Dates,
    Amounts,
    /// A block of its own.
    Block,
    /// The keys of a column besides its name.
    Column,
    /// A condition of a choice.
    Condition,
    /// The keys of an aging besides those that it needs.
    Aging,
    /// The keys of a report with its kind.
    Report,
    Output,
}
use Place::{Aging, Amounts, Block, Column, Condition, Dates, Output, Records, Report, Top};

fn plan_with(place: Place, lines: &str) -> String {
    let at = |wanted: Place| if place == wanted { lines } else { "" };
    let block = match place {
        Block => lines.to_owned(),
        Column => format!("[[column]]\nname = \"New\"\n{lines}\n"),
        Condition => format!("[[column]]\nname = \"New\"\nwhen = [{lines}]\nthen = \"yes\"\n"),
        Aging => format!("[[report]]\nkind = \"aging\"\nband = \"Band\"\namount = \"Amount\"\n{lines}\n"),
        Report => format!("[[report]]\n{lines}\n"),
        _ => String::new(),
    };
    let (top, records, dates, amounts, output) = (at(Top), at(Records), at(Dates), at(Amounts), at(Output));
    let as_of = if top.contains("as_of") { "" } else { "as_of = 2026-09-30\n" };
    format!(
        "plan = 1\n{as_of}{top}\n[records]\nfile = \"records.csv\"\n{records}\n[records.dates]\nIssued = \"iso\"\n{dates}\n\
         [records.amounts]\nAmount = {{ decimals = 2 }}\n{amounts}\n{block}\n[output]\nrows = \"rows.csv\"\n{output}\n"
    )
}

/// Lines that are right where they are.
const RIGHT: &[(Place, &str)] = &[
    (Top, "title = \"Month end\""),
    (Top, "as_of = \"2026-09-30\""),
    (Top, "as_of = \"end of last month\""),
    (Top, "as_of = 2026-09-30"),
    (Top, "column = [\"Due = Issued + 2 months, month end\", { name = \"New\", value = 5 }]"),
    (Top, "select = [\"Amount over 500 and Issued is not blank\", { column = \"A\", is = \"x\" }]"),
    (Top, "[control]\nrows = 5"),
    (Top, "[control]\nAmount = \"100.00\""),
    (Records, "key = \"Invoice\""),
    (Records, "key = [\"A\", \"B\"]"),
    (Records, "key = \"A\"\nduplicates = \"set aside\""),
    (Records, "key = \"A\"\nduplicates = \"keep\""),
    (Records, "key = \"A\"\nduplicates = \"first\""),
    (Records, "key = \"A\"\nduplicates = \"last\""),
    (Records, "key = \"A\"\nduplicates = \"sum\""),
    (Records, "total_row = \"leave out\""),
    (Records, "separator = \";\""),
    (Records, "quote = \"'\""),
    (Records, "encoding = \"windows-1252\""),
    (Records, "encoding = \"utf-16le\""),
    (Records, "header_line = 3"),
    (Records, "longest_cell = 100"),
    (Records, "file_column = \"File\""),
    (Dates, "Paid = \"day/month/year\""),
    (Dates, "Paid = [\"iso\", \"day/month/year\"]"),
    (Dates, "Paid = { pattern = \"day.month.year\" }"),
    (Dates, "Paid = { pattern = \"day/month/year\", blank = [\"-\"] }"),
    (Dates, "Paid = { pattern = \"iso\", time = \"keep\" }"),
    (Dates, "Paid = { pattern = \"day month-name year\", language = \"german\" }"),
    (Amounts, "Paid = { decimals = 0 }"),
    (Amounts, "Paid = { decimals = 2, decimal_mark = \"comma\" }"),
    (Amounts, "Paid = { decimals = 2, thousands = \"space\" }"),
    (Amounts, "Paid = { decimals = 2, negatives = \"brackets\" }"),
    (Amounts, "Paid = { decimals = 2, negatives = [\"brackets\", \"trailing minus\"] }"),
    (Amounts, "Paid = { decimals = 2, signs = \"€\" }"),
    (Amounts, "Paid = { decimals = 2, currency = \"Currency\" }"),
    (Amounts, "Paid = { decimals = 18 }"),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"days\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"complete weeks\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"complete months\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"complete years\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"complete quarters\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"fractional years\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"parts\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"working days\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"calendar months\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"month starts passed\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"30-360-bond\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"mean-365.25\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"mean months of 365.25 ÷ 12 days\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"24-hour days\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"working hours\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"days\"\nends = \"first-and-last\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"complete months\"\nmonth_end = \"keep\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"fractional years\"\ndecimals = 6"),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"fractional years\"\nrounding = \"truncate\""),
    (Column, "from = \"Issued\"\nshift = \"30 days\""),
    (Column, "from = \"Issued\"\nshift = \"2 months\"\nmonth_end = \"clamp\""),
    (Column, "from = \"Issued\"\nto = \"month end\""),
    (Column, "from = \"Issued\"\nshift = \"10 working days\""),
    (Column, "from = \"Issued\"\nshift = { column = \"Days\" , unit = \"days\" }"),
    (Column, "from = \"Issued\"\nterms = \"net 30\""),
    (Column, "from = \"Issued\"\nterms = \"2/10 net 30\"\ngives = \"discount date\""),
    (Column, "from = \"Issued\"\nshift = { column = \"Days\", unit = \"days\", back = true }"),
    (Column, "from = \"Issued\"\nterms = { column = \"Terms\" }"),
    (Column, "from = \"Issued\"\nweekday = \"on or after monday\""),
    (Column, "from = \"Issued\"\nroll = \"following\""),
    (Column, "bucket = \"Days\"\nedges = [0, 30, 60]"),
    (Column, "bucket = \"Days\"\nfrom = [0, 18, 65]"),
    (Column, "bucket = \"Days\"\nedges = [0, 30]\nlabels = [\"a\", \"b\", \"c\"]"),
    (Column, "bucket = \"Days\"\nedges = [0, 30]\nlowest = -10"),
    (Column, "of = \"Issued\"\nperiod = \"month\"\ngives = \"label\""),
    (
        Column,
        "of = \"Issued\"\nperiod = \"fiscal quarter\"\ngives = \"first day\"\nfiscal_year_begins = \"april\"",
    ),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = 4"),
    (Column, "of = \"Issued\"\nperiod = \"week\"\ngives = \"first day\"\nweeks_begin = \"Sunday\""),
    (Column, "of = \"Issued\"\nperiod = \"week\"\ngives = \"first day\"\nweeks_begin = \"sunday\""),
    (Column, "of = \"Issued\"\nperiod = \"month\"\ngives = \"last day\"\naway = -1"),
    (Column, "of = \"Issued\"\nfield = \"weekday\""),
    (Column, "of = \"Issued\"\nfield = \"month\""),
    (Column, "age = \"Born\"\non = \"Issued\""),
    (Column, "age = \"Born\""),
    (Column, "age = \"Born\"\nleap_day = \"next-start\""),
    (Column, "anniversary = \"Issued\""),
    (Column, "anniversary = \"Issued\"\ngives = \"number\""),
    (Column, "tenure = [\"Start\", \"Left\"]\ncount = \"complete months\""),
    (Column, "tenure = \"Start\"\ncount = \"complete years\""),
    (Column, "first_of = [\"Paid\", \"as-of\"]"),
    (Column, "working_day = \"Issued\""),
    (Column, "working_day = \"Issued\"\ngives = \"kind\""),
    (Column, "sum = [\"A\", \"B\"]"),
    (Column, "difference = [\"A\", 5]"),
    (Column, "product = [\"A\", 0.5]"),
    (Column, "quotient = [\"A\", \"B\"]\ndecimals = 2"),
    (Column, "value = \"x\""),
    (Column, "value = 5"),
    (Column, "rate = \"Amount\"\nper = \"year\"\ntenure = \"Start\""),
    (Column, "rate = \"Amount\"\nper = \"month\"\ntenure = [\"Start\", \"as-of\"]"),
    (Condition, "{ column = \"A\", is = \"x\" }"),
    (Condition, "{ column = \"A\", is = [\"x\", \"y\"] }"),
    (Condition, "{ column = \"A\", is_not = [\"x\", \"y\"], any_case = true }"),
    (Condition, "{ column = \"A\", contains = \"x\", lacks = [\"y\", \"z\"] }"),
    (Condition, "{ column = \"A\", begins = [\"x\", \"y\"], any_case = true }"),
    (Condition, "{ column = \"A\", over = 5 }"),
    (Condition, "{ column = \"A\", at_least = 1, at_most = 9 }"),
    (Condition, "{ column = \"A\", blank = true }"),
    (Condition, "{ column = \"A\", is_not = \"x\" }"),
    (Condition, "{ any = [{ column = \"A\", is = \"x\" }, { column = \"B\", under = 3 }] }"),
    (Condition, "{ column = \"Issued\", within = \"last month\" }"),
    (Condition, "{ column = \"Issued\", unreadable = true }"),
    (Aging, "by = \"Customer\""),
    (Aging, "by = [\"Customer\", { period = \"month\", of = \"Issued\" }]"),
    (Aging, "issued = \"Issued\"\npaid = \"Paid\""),
    (Aging, "credits = \"apart\""),
    (Aging, "credits = \"by-due-date\""),
    (Aging, "credits = { off_oldest_debt_of = \"Customer\" }\nby = \"Customer\""),
    (Aging, "at = \"last 3 month ends\""),
    (Aging, "at = [2026-06-30, \"end of last month\"]"),
    (Aging, "title = \"Who owes\""),
    (Aging, "file = \"aging.csv\""),
    (Aging, "when = [{ column = \"A\", is = \"x\" }]"),
    (Report, "kind = \"summary\"\nby = \"A\""),
    (Report, "kind = \"summary\"\nby = \"A\"\nshow = [\"count\", { mean = \"Amount\" }]"),
    (Report, "kind = \"summary\"\nby = \"A\"\nshow = [{ percentile = \"Amount\", at = 90 }]"),
    (Report, "kind = \"list\""),
    (Report, "kind = \"list\"\nfirst = 5"),
    (Report, "kind = \"distribution\"\nof = \"Amount\""),
    (Report, "kind = \"turnaround\"\nbetween = [\"A\", \"B\"]\ncount = \"days\""),
    (Report, "kind = \"tenure\"\nstart = \"A\"\ncount = \"complete months\""),
    (Report, "kind = \"upcoming\"\nof = \"A\"\nwindow = \"2 months\""),
    (Report, "kind = \"upcoming\"\nof = \"A\"\nwithin = \"next month\""),
    (Report, "kind = \"allocation\"\namount = \"Amount\"\nfrom = \"A\"\nto = \"B\""),
    (Report, "kind = \"target\"\namount = \"Amount\"\nof = \"A\"\nplanned = 100\nwithin = \"this year\""),
    (
        Report,
        "kind = \"movement\"\nsince = 2026-06-30\nband = \"Band\"\namount = \"Amount\"\nissued = \"Issued\"",
    ),
    (
        Report,
        "kind = \"target\"\namount = \"Amount\"\nof = \"A\"\nplanned = [1, 2]\nfrom = 2026-01-01\nto = 2026-12-31",
    ),
    (Block, "[calendar.yard]\nholidays = [2026-12-25]"),
    (Block, "[calendar.yard]\nholidays = [\"england-wales\"]\nrest_days = [\"Saturday\"]"),
    (Block, "[calendar.yard]\nholidays = []\nrest_days = [\"saturday\", \"sunday\"]"),
    (Block, "[calendar.yard]\nholidays = []\ncovers = \"2026\""),
    (Block, "[calendar.yard]\nholidays = []\ncovers = \"2020 to 2030\""),
    (Block, "[[join]]\nfile = \"other.csv\"\nmatch = { A = \"A\" }\ncolumns = [\"B\"]"),
    (
        Block,
        "[[join]]\nfile = \"other.csv\"\nmatch = { A = \"A\" }\ncolumns = { B = \"C\" }\nwithout_match = \"set aside\"",
    ),
    (Block, "[[join]]\nfile = \"other.csv\"\nmatch = { A = \"A\" }\ncolumns = \"B\"\nduplicates = \"sum\""),
    (Block, "[[cross_check]]\ncolumn = \"A\"\nours = \"B\""),
    (Block, "[[select]]\ncolumn = \"A\"\nis = \"x\""),
    (Report, "kind = \"summary\""),
    (Output, "exceptions = \"e.csv\""),
    (Output, "receipt = \"r.toml\""),
    (Output, "report = \"page.html\""),
    (Output, "report = [\"page.html\", \"book.xlsx\", \"note.md\", \"chart.svg\"]"),
    (Output, "columns = [\"A\"]"),
    (Output, "columns = \"A\""),
    (Output, "order_by = \"A, largest first\""),
    (Output, "order_by = [\"A\", \"B\"]"),
    (Output, "merged_rows = \"listed\""),
    (Output, "separator = \";\""),
    (Output, "separator = \";\"\ndecimal_mark = \"comma\""),
    (Output, "dates_as = \"day.month.year\""),
    (Output, "byte_order_mark = true"),
    (Output, "fingerprint = \"sha-256\""),
    (Column, "from = \"Issued\"\nshift = \"1 year, 2 months and 10 days\""),
    (Column, "from = \"Issued\"\nshift = \"-5 days\""),
    (Column, "from = \"Issued\"\nshift = \"P1M\""),
    (Column, "from = \"Issued\"\nshift = \"P1Y2M10D\""),
    (Column, "from = \"Issued\"\nshift = \"10wd\""),
    (Column, "from = \"Issued\"\nshift = \"1 month (month end: keep)\""),
    (Column, "from = \"Issued\"\nshift = \"45D\""),
    (Column, "from = \"Issued\"\nshift = \"2M\""),
    (Column, "from = \"Issued\"\nshift = \"3 half-years\""),
    (Column, "from = \"Issued\"\nshift = \"30min\""),
    (Column, "from = \"Issued\"\nshift = \"14h\""),
    (Column, "from = \"Issued\"\nshift = \"30 Days\""),
    (Column, "from = \"Issued\"\nshift = \"2 Months\""),
    (Column, "from = \"Issued\"\nterms = \"n/30\""),
    (Column, "from = \"Issued\"\nterms = \"15 prox\""),
    (Column, "from = \"Issued\"\nterms = \"15 MFI\""),
    (Column, "from = \"Issued\"\nterms = \"COD\""),
    (Column, "from = \"Issued\"\nterms = \"due on receipt\""),
    (Column, "from = \"Issued\"\nterms = \"2/10 net 30 EOM\""),
    (Column, "from = \"Issued\"\nterms = \"2/10, n/30\""),
    (Column, "from = \"Issued\"\nterms = \"net 30 to EOM\""),
    (Column, "from = \"Issued\"\nterms = \"15 prox cut-off 25\""),
    (Column, "from = \"Issued\"\nterms = \"30 days\""),
    (Column, "from = \"Issued\"\nterms = \"30 days net\""),
    (Column, "from = \"Issued\"\nterms = \"net30\""),
    (Column, "from = \"Issued\"\nterms = \"cash on delivery\""),
    (Column, "from = \"Issued\"\nterms = \"30 days net eom\""),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"apr-6\""),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"4-6\""),
    (
        Column,
        "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"6 April\"",
    ),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"04\""),
    (
        Column,
        "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"december\"",
    ),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"Sept\""),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"6\""),
    (Column, "from = \"Issued\"\nto = \"month start\""),
    (Column, "from = \"Issued\"\nto = \"quarter end\""),
    (Column, "from = \"Issued\"\nto = \"fiscal year end\""),
    (Column, "from = \"Issued\"\nto = \"week-year start\""),
    (Column, "of = \"Issued\"\nfield = \"day of year\""),
    (Column, "of = \"Issued\"\nfield = \"iso week\""),
    (Column, "of = \"Issued\"\nfield = \"weekday number from monday 1\""),
    (Column, "of = \"Issued\"\nfield = \"weekday\""),
    (Column, "of = \"Issued\"\nfield = \"month name\""),
    (Column, "of = \"Issued\"\nfield = \"hour\""),
    (Column, "of = \"Issued\"\nperiod = \"week-year\"\ngives = \"label\"\nweek_years = \"iso\""),
    (
        Column,
        "of = \"Issued\"\nperiod = \"week-year\"\ngives = \"label\"\nweek_years = \"last saturday of january\"",
    ),
    (
        Column,
        "of = \"Issued\"\nperiod = \"week-year\"\ngives = \"label\"\nweek_years = \"Saturday nearest end of January, 4-5-4\"",
    ),
    (Column, "of = \"Issued\"\nfield = \"week\"\nweeks = \"iso\""),
    (Column, "of = \"Issued\"\nfield = \"week\"\nweeks = \"Sunday first, at least 1 day\""),
    (Column, "of = \"Issued\"\nfield = \"week\"\nweeks = \"blocks from 1 January\""),
    (Column, "of = \"Issued\"\nfield = \"weekday number\"\nweekdays = \"sunday from 1\""),
    (Top, "as_of = \"now\""),
    (Top, "as_of = \"today\""),
    (Top, "as_of = \"end of last month\""),
    (Top, "as_of = \"start of this quarter\""),
    (Top, "as_of = \"2026-02-28\""),
];

/// Lines that are wrong where they are.
const WRONG: &[(Place, &str)] = &[
    (Top, "titel = \"x\""),
    (Top, "title = 5"),
    (Top, "as_of = true"),
    (Top, "[control]\nrows = -1"),
    (Top, "[control]\nrows = \"many\""),
    (Records, "keys = \"A\""),
    (Records, "key = 5"),
    (Records, "key = \"A\"\nduplicates = \"drop\""),
    (Records, "total_row = \"yes\""),
    (Records, "separator = \"ab\""),
    (Records, "encoding = \"latin-1\""),
    (Records, "header_line = 0"),
    (Records, "header_line = \"3\""),
    (Records, "longest_cell = 0"),
    (Records, "sheet = true"),
    (Records, "file_column = 3"),
    (Dates, "Paid = 5"),
    (Dates, "Paid = { blank = [\"-\"] }"),
    (Dates, "Paid = { pattern = \"iso\", time = \"cut\" }"),
    (Dates, "Paid = { pattern = \"iso\", language = \"latin\" }"),
    (Dates, "Paid = { pattern = \"iso\", zone = 5 }"),
    (Dates, "Paid = { pattern = \"iso\", blanks = [\"-\"] }"),
    (Amounts, "Paid = 2"),
    (Amounts, "Paid = { decimals = -1 }"),
    (Amounts, "Paid = { decimals = 31 }"),
    (Amounts, "Paid = { decimals = 19 }"),
    (Amounts, "Paid = { decimals = 2.5 }"),
    (Amounts, "Paid = { decimals = 2, decimal_mark = \"dot\" }"),
    (Amounts, "Paid = { decimals = 2, thousands = \"dash\" }"),
    (Amounts, "Paid = { decimals = 2, negatives = \"red\" }"),
    (Amounts, "Paid = { }"),
    (Amounts, "Paid = { decimals = 2, currencies = \"C\" }"),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"dayz\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"day\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"Months\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"working day\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"weeks\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"months started\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"mean-365x25\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"Complete Months\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"Working Days\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = 5"),
    (Column, "between = [\"Issued\", \"as-of\"]\n"),
    (Column, "count = \"days\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"days\"\nends = \"both\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"complete months\"\nmonth_end = \"strict\""),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"fractional years\"\ndecimals = 31"),
    (Column, "between = [\"Issued\", \"as-of\"]\ncount = \"fractional years\"\nrounding = \"down\""),
    (Column, "between = [\"Issued\"]\ncount = \"days\""),
    (Column, "between = [\"A\", \"B\", \"C\"]\ncount = \"days\""),
    (Column, "between = \"Issued\"\ncount = \"days\""),
    (Column, "from = \"Issued\"\nshift = \"30\""),
    (Column, "from = \"Issued\"\nshift = 30"),
    (Column, "from = \"Issued\"\nshift = \"some days\""),
    (Column, "from = \"Issued\"\nto = \"month\""),
    (Column, "from = \"Issued\"\nterms = 30"),
    (Column, "from = \"Issued\"\nterms = \"whenever\""),
    (Column, "from = \"Issued\"\nroll = \"next\""),
    (Column, "from = \"Issued\"\nweekday = \"monday-ish\""),
    (Column, "from = 5\nshift = \"30 days\""),
    (Column, "bucket = \"Days\""),
    (Column, "bucket = \"Days\"\nedges = []"),
    (Column, "bucket = \"Days\"\nedges = [\"0\"]"),
    (Column, "bucket = \"Days\"\nedges = 30"),
    (Column, "bucket = 5\nedges = [0]"),
    (Column, "bucket = \"Days\"\nedges = [0, 30]\nlabels = \"a\""),
    (Column, "bucket = \"Days\"\nedges = [0]\nage = \"Born\""),
    (Column, "of = \"Issued\"\nperiod = \"moon\"\ngives = \"label\""),
    (Column, "of = \"Issued\"\nperiod = \"month\""),
    (Column, "of = \"Issued\"\nperiod = \"month\"\ngives = \"name\""),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = 13"),
    (
        Column,
        "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"april-ish\"",
    ),
    (Column, "of = \"Issued\"\nperiod = \"week\"\ngives = \"first day\"\nweeks_begin = \"someday\""),
    (Column, "of = \"Issued\"\nperiod = \"month\"\ngives = \"last day\"\naway = 1.5"),
    (Column, "period = \"month\"\ngives = \"label\""),
    (Column, "of = \"Issued\"\nfield = \"mood\""),
    (Column, "field = \"weekday\""),
    (Column, "age = 5"),
    (Column, "age = \"Born\"\nleap_day = \"march\""),
    (Column, "anniversary = \"Issued\"\ngives = \"label\""),
    (Column, "tenure = \"Start\""),
    (Column, "tenure = [\"A\"]\ncount = \"complete months\""),
    (Column, "tenure = \"Start\"\ncount = \"working days\""),
    (Column, "first_of = [\"Paid\"]"),
    (Column, "first_of = \"Paid\""),
    (Column, "working_day = \"Issued\"\ngives = \"label\""),
    (Column, "sum = [\"A\"]"),
    (Column, "sum = \"A\""),
    (Column, "difference = [\"A\", \"B\", \"C\"]"),
    (Column, "product = [\"A\", true]"),
    (Column, "value = true"),
    (Column, "value = [\"a\"]"),
    (Column, "rate = \"Amount\"\nper = \"day\"\ntenure = \"Start\""),
    (Column, "rate = \"Amount\"\nper = \"fortnight\"\ntenure = \"Start\""),
    (Column, "rate = \"Amount\"\ntenure = \"Start\""),
    (Column, ""),
    (Column, "sum = [\"A\", \"B\"]\ndifference = [\"A\", \"B\"]"),
    (Condition, "{ column = \"A\" }"),
    (Condition, "{ is = \"x\" }"),
    (Condition, "{ column = \"A\", equals = \"x\" }"),
    (Condition, "{ column = \"A\", blank = \"yes\" }"),
    (Condition, "{ any = [] }"),
    (Condition, "{ any = [{ column = \"A\" }] }"),
    (Condition, "{ column = 5, is = \"x\" }"),
    (Condition, "{ column = \"A\", within = 5 }"),
    (Aging, "by = 5"),
    (Aging, "by = [\"A\", \"B\", \"C\", \"D\"]"),
    (Aging, "credits = \"off\""),
    (Aging, "payments = \"P\"\npaid = \"Paid\""),
    (Aging, "at = []"),
    (Aging, "file = 5"),
    (Aging, "when = []"),
    (Aging, "when = [{ column = \"A\" }]"),
    (Aging, "per = \"Customer\""),
    (Aging, "by = { period = \"moon\", of = \"Issued\" }"),
    (Report, "kind = \"pivot\""),
    (Report, "title = \"x\""),
    (Report, "kind = \"summary\"\nby = \"A\"\nshow = [\"average\"]"),
    (Report, "kind = \"summary\"\nby = \"A\"\nshow = [{ percentile = \"Amount\" }]"),
    (Report, "kind = \"summary\"\nby = \"A\"\nshow = [{ percentile = \"Amount\", at = 101 }]"),
    (Report, "kind = \"list\"\nfirst = 0"),
    (Report, "kind = \"list\"\nfirst = 1\nfirst_of_each = 1"),
    (Report, "kind = \"distribution\""),
    (Report, "kind = \"turnaround\"\nbetween = [\"A\", \"B\"]"),
    (Report, "kind = \"turnaround\"\nbetween = [\"A\", \"B\"]\ncount = \"dayz\""),
    (Report, "kind = \"tenure\"\nstart = \"A\""),
    (Report, "kind = \"tenure\"\nstart = \"A\"\ncount = \"dayz\""),
    (Report, "kind = \"upcoming\"\nof = \"A\""),
    (Report, "kind = \"upcoming\"\nof = \"A\"\nwindow = \"2 months\"\nwithin = \"next month\""),
    (Report, "kind = \"upcoming\"\nof = \"A\"\nwindow = \"soon\""),
    (Report, "kind = \"allocation\"\namount = \"Amount\"\nfrom = \"A\""),
    (Report, "kind = \"target\"\namount = \"Amount\"\nof = \"A\"\nwithin = \"this year\""),
    (Report, "kind = \"movement\"\nband = \"Band\"\namount = \"Amount\""),
    (Report, "kind = \"aging\"\nband = \"Band\""),
    (Block, "[calendar.yard]\nholidays = 5"),
    (Block, "[calendar.yard]\nholidays = [\"x\"]\nrest_days = [\"someday\"]"),
    (Block, "[calendar.yard]\nholidays = []\ncovers = 2026"),
    (Block, "[[join]]\nfile = \"other.csv\"\ncolumns = [\"B\"]"),
    (Block, "[[join]]\nfile = \"other.csv\"\nmatch = {}\ncolumns = [\"B\"]"),
    (
        Block,
        "[[join]]\nfile = \"other.csv\"\nmatch = { A = \"A\" }\ncolumns = [\"B\"]\nwithout_match = \"drop\"",
    ),
    (Block, "[[join]]\nfile = \"other.csv\"\nmatch = { A = \"A\" }\ncolumns = [\"B\"]\nduplicates = \"any\""),
    (Block, "[[cross_check]]\ncolumn = \"A\""),
    (Block, "[fetch]\nfile = \"x\""),
    (Block, "[calender.yard]\nholidays = []"),
    (Output, "exceptions = 5"),
    (Output, "receipt = \"r.txt\""),
    (Output, "report = \"page.docx\""),
    (Output, "report = 5"),
    (Output, "columns = [5]"),
    (Output, "merged_rows = \"yes\""),
    (Output, "separator = \"ab\""),
    (Output, "decimal_mark = \"point-ish\""),
    (Output, "byte_order_mark = \"yes\""),
    (Output, "fingerprint = \"md5\""),
    (Output, "row = \"x\""),
    (Output, "dates_as = 5"),
    (Output, "order_by = 5"),
    (Column, "from = \"Issued\"\nshift = \"half-year\""),
    (Column, "from = \"Issued\"\nshift = \"5m\""),
    (Column, "from = \"Issued\"\nshift = \"days 5\""),
    (Column, "from = \"Issued\"\nshift = \"\""),
    (Column, "from = \"Issued\"\nshift = \"10 fortnights\""),
    (Column, "from = \"Issued\"\nshift = \"P\""),
    (Column, "from = \"Issued\"\nshift = \"1 month (month end: strict)\""),
    (Column, "from = \"Issued\"\nshift = \"1.5 months\""),
    (Column, "from = \"Issued\"\nterms = \"net\""),
    (Column, "from = \"Issued\"\nterms = \"EOM\""),
    (Column, "from = \"Issued\"\nterms = \"30\""),
    (Column, "from = \"Issued\"\nterms = \"2/10\""),
    (Column, "from = \"Issued\"\nterms = \"net 30 cut-off 25\""),
    (Column, "from = \"Issued\"\nterms = \"30 days eom\""),
    (Column, "from = \"Issued\"\nterms = \"net thirty\""),
    (Column, "from = \"Issued\"\nterms = \"soon\""),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"0\""),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"13\""),
    (Column, "of = \"Issued\"\nperiod = \"fiscal year\"\ngives = \"label\"\nfiscal_year_begins = \"month\""),
    (Column, "from = \"Issued\"\nto = \"end of month\""),
    (Column, "from = \"Issued\"\nto = \"Month end\""),
    (Column, "from = \"Issued\"\nto = \"month middle\""),
    (Column, "of = \"Issued\"\nperiod = \"week-year\"\ngives = \"label\"\nweek_years = \"isoo\""),
    (
        Column,
        "of = \"Issued\"\nperiod = \"week-year\"\ngives = \"label\"\nweek_years = \"first saturday of january\"",
    ),
    (
        Column,
        "of = \"Issued\"\nperiod = \"week-year\"\ngives = \"label\"\nweek_years = \"last saturday of january, 4-4-4\"",
    ),
    (Column, "of = \"Issued\"\nfield = \"week\"\nweeks = \"isoweek\""),
    (Column, "of = \"Issued\"\nfield = \"week\"\nweeks = \"Sunday first\""),
    (Column, "of = \"Issued\"\nfield = \"weekday number\"\nweekdays = \"sunday\""),
    (Top, "as_of = \"whenever\""),
    (Top, "as_of = \"end of month\""),
    (Top, "as_of = \"2026-02-30\""),
    (Top, "as_of = \"30/09/2026\""),
];

#[test]
fn the_schema_and_the_command_agree() {
    let schema = Schema::of("plan");
    let mut faults = Vec::new();
    for (cases, is_right) in [(RIGHT, true), (WRONG, false)] {
        for (place, lines) in cases {
            let text = plan_with(*place, lines);
            let command = Plan::of_text(&text, Path::new("plan.toml"));
            let object = support::schemas::json_of(&text);
            let schema = object.map(|object| schema.faults(&object));
            if command.is_ok() != is_right {
                faults.push(format!(
                    "command, {place:?}: {lines}: {:?}",
                    command.err().map(|error| error.to_string())
                ));
            }
            // What is not TOML is not an object for a schema.
            if let Some(found) = schema
                && found.is_none() != is_right
            {
                faults.push(format!("schema, {place:?}: {lines}: {found:?}"));
            }
        }
    }
    assert!(faults.is_empty(), "{}\n{} of {}", faults.join("\n"), faults.len(), RIGHT.len() + WRONG.len());
    assert!(RIGHT.len() + WRONG.len() >= 200, "{} cases", RIGHT.len() + WRONG.len());
}

/// What the command answers to each of the wrong plans, to be read as a table.
#[test]
fn the_messages_of_wrong_plans() {
    let mut table = String::new();
    for (place, lines) in WRONG {
        let error = Plan::of_text(&plan_with(*place, lines), Path::new("plan.toml")).expect_err(lines);
        let message = error_said(&error, (Colour::Off, Width::Columns(160)));
        let message = message.split("\n\nerror:").next().unwrap();
        // The line of the plan and the caret below it are the same each time.
        let said: Vec<&str> = message.lines().map(str::trim).collect();
        let said =
            said.iter().filter(|line| !lines.contains(**line) && !line.trim_start_matches('^').is_empty());
        let said: Vec<&str> = said.copied().collect();
        table += &format!("{place:?}: {}\n    {}\n", lines.replace('\n', "; "), said.join("\n    "));
    }
    insta::assert_snapshot!(table);
}

/// Each word of the library in its place: a new one is not forgotten in the schema.
#[test]
fn the_schema_has_the_words_of_the_library() {
    let schema = Schema::of("plan");
    let counts =
        Measure::all().map(|measure| format!("between = [\"Issued\", \"as-of\"]\ncount = \"{measure}\""));
    let edges = PeriodRule::all(Weekday::Monday, FiscalYear::default(), WeekYear::iso());
    let edges = PeriodEdge::all(edges).map(|edge| format!("from = \"Issued\"\nto = \"{edge}\""));
    let fields = DateField::ALL.iter().map(|field| format!("of = \"Issued\"\nfield = \"{field}\""));
    let rolls =
        Roll::ALL.iter().map(|roll| format!("from = \"Issued\"\nshift = \"1 day\"\nroll = \"{roll}\""));
    let all: Vec<String> = counts.chain(edges).chain(fields).chain(rolls).collect();
    assert!(all.len() > 70, "{}", all.len());
    for lines in all {
        let text = plan_with(Column, &lines);
        assert_eq!(schema.faults(&support::schemas::json_of(&text).unwrap()), None, "{lines}");
    }
}
