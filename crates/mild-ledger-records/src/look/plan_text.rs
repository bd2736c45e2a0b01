//! A plan that says of a file what looking at it found.

use super::findings::{Clarity, Holding, Look, LookedAmounts, LookedColumn, LookedDates, TotalEvidence};
use crate::table::Presentation;
use crate::toml_text::{line_text, plan_key, quoted};
use mild_ledger::{DecimalMark, NegativeForm, Notation, ThousandsMark};
use std::path::Path;

impl Look {
    /// The beginning of a plan for the file: its `[records]` as they were found, and an output, so that it runs as it is.
    /// What is ambiguous or wants something named is in it as a remark.
    #[must_use]
    pub fn plan_text(&self) -> String {
        self.plan_text_with(&PlanParts::default())
    }

    /// The same with what else is known: the as-of date, what is done with repeated keys, how columns are written that are not found without doubt, and
    /// columns and reports.
    ///
    /// ```
    /// # use mild_ledger_records::{PlanParts, Watch, look};
    /// # use std::sync::atomic::AtomicBool;
    /// # let folder = std::env::temp_dir().join(format!("mild-parts-{}", std::process::id()));
    /// # std::fs::create_dir_all(&folder)?;
    /// # let file = folder.join("jobs.csv");
    /// # std::fs::write(&file, "Job,Done\nJ1,30/09/2026\nJ2,29/09/2026\nJ3,28/09/2026\n")?;
    /// # let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    /// let parts = PlanParts { as_of: Some("2026-09-30".to_owned()), ..PlanParts::default() };
    /// assert!(look(&file, watch)?.plan_text_with(&parts).starts_with("plan = 1\nas_of = \"2026-09-30\"\n"));
    /// # std::fs::remove_dir_all(&folder)?;
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn plan_text_with(&self, parts: &PlanParts) -> String {
        let file = Path::new(&self.file);
        let name = file.file_name().unwrap_or_default().to_string_lossy();
        let stem = name.split('.').next().unwrap_or_default();
        let mut out = String::from("plan = 1\n");
        for (key, value) in [("title", &parts.title), ("as_of", &parts.as_of)] {
            if let Some(value) = value {
                out += &format!("{key} = {}\n", quoted(value));
            }
        }
        out += &lines_text("select", &parts.select);
        out += &self.records_text(&parts.files);
        let key = self.key_of_plan(parts);
        let duplicates = parts.duplicates.as_ref();
        if !key.is_empty() {
            let names: Vec<String> = key.iter().map(|name| quoted(name)).collect();
            out += &match names.as_slice() {
                [one] => format!("key = {one}\n"),
                several => format!("key = [{}]\n", several.join(", ")),
            };
            out += &duplicates
                .map_or_else(String::new, |duplicates| format!("duplicates = {}\n", quoted(duplicates)));
        } else if let Some((column, (first, second))) = self.nearly_a_key() {
            let name = quoted(&column.name);
            out += &format!(
                "# key = {name} # rows {first} and {second} have the same; with duplicates = \"set aside\" it can be the key\n"
            );
        }
        match self.total_line.as_ref().map(|total| (total, total.evidence)) {
            Some((total, TotalEvidence::Sum)) => {
                out +=
                    &format!("total_row = \"leave out\" # row {} is the sum of those above it\n", total.row);
            }
            Some((total, _)) => {
                out += &format!("# total_row = \"leave out\" # row {} seems to be a total\n", total.row);
            }
            None => {}
        }
        let currency = parts.currency.as_deref();
        let currency = currency.or_else(|| self.currency_column().map(|column| column.name.as_str()));
        let is_amount = |column: &LookedColumn| {
            column.is_named_as_amount()
                || [&parts.amounts, &parts.figures].into_iter().flatten().any(|name| *name == column.name)
        };
        let said = |column: &LookedColumn| {
            let pattern = parts.written.iter().find(|(name, _)| *name == column.name);
            pattern.map(|(_, pattern)| Line { is_remark: false, value: quoted(pattern), why: String::new() })
        };
        let one = |line: Option<Line>| line.into_iter().collect();
        self.put_part(&mut out, "dates", |column| match &column.holds {
            _ if said(column).is_some() => one(said(column)),
            Holding::Date(dates) => vec![date_line(dates)],
            Holding::WholeNumber { perhaps_dates: Some((pattern, first, last)), .. } => vec![Line {
                is_remark: true,
                value: quoted(pattern),
                why: format!("if these are numbers of days or instants, they run from {first} to {last}"),
            }],
            _ => Vec::new(),
        });
        self.put_part(&mut out, "amounts", |column| match &column.holds {
            Holding::Amount(amounts) => {
                match parts.amount_formats.iter().find(|format| format.column == column.name) {
                    Some(format) => vec![Line {
                        is_remark: false,
                        value: keys_of_notation(&format.notation, format.decimals, (column, currency)),
                        why: String::new(),
                    }],
                    None => amount_lines(amounts, column, currency),
                }
            }
            Holding::WholeNumber { .. } if is_amount(column) && said(column).is_none() => {
                let is_money = column.is_named_as_amount() || parts.amounts.contains(&column.name);
                let mut keys = vec![format!("decimals = {}", if is_money { 2 } else { 0 })];
                put_keys_of_all(&mut keys, column, currency);
                vec![Line {
                    is_remark: false,
                    value: format!("{{ {} }}", keys.join(", ")),
                    why: String::new(),
                }]
            }
            _ => Vec::new(),
        });
        self.put_part(&mut out, "numbers", |column| match &column.holds {
            Holding::WholeNumber { perhaps_dates: None, .. }
                if !key.contains(&column.name) && !is_amount(column) && said(column).is_none() =>
            {
                vec![Line { is_remark: false, value: "{ decimals = 0 }".to_owned(), why: String::new() }]
            }
            _ => Vec::new(),
        });
        out += &parts.body;
        let rows = parts.rows.clone().unwrap_or_else(|| format!("{stem}-rows.csv"));
        out += &format!("\n[output]\nrows = {}\n", quoted(&rows));
        if !parts.documents.is_empty() {
            let names: Vec<String> = parts.documents.iter().map(|name| quoted(name)).collect();
            out += &format!("report = [{}]\n", names.join(", "));
        }
        out + &form_text(&parts.presentation)
    }

    /// How the file is written, as the keys of a plan for a file that columns are joined from.
    #[must_use]
    pub fn form_keys(&self) -> String {
        let text = self.records_text(&[]);
        text.lines()
            .filter(|line| !line.is_empty() && *line != "[records]" && !line.starts_with("file = "))
            .map(|line| format!("{line}\n"))
            .collect()
    }

    /// What a plan says of how a column of dates, amounts or numbers is written; `None` for other columns.
    ///
    /// ```
    /// # use mild_ledger_records::{Watch, look};
    /// # use std::sync::atomic::AtomicBool;
    /// # let folder = tempfile::tempdir()?;
    /// # let file = folder.path().join("payments.csv");
    /// std::fs::write(&file, "Invoice,On,Paid\nA1,30/09/2026,10.50\nA2,29/09/2026,3.00\nA3,28/09/2026,7.25\n")?;
    /// let found = look(&file, Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} })?;
    /// assert_eq!(found.column_text("On").as_deref(), Some("\"day/month/year\""));
    /// assert_eq!(found.column_text("Paid").as_deref(), Some("{ decimals = 2 }"));
    /// assert_eq!(found.column_text("Invoice"), None);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn column_text(&self, name: &str) -> Option<String> {
        let column = self.columns.iter().find(|column| column.name == name)?;
        match &column.holds {
            Holding::Date(dates) => Some(date_line(dates).value),
            Holding::Amount(amounts) => {
                let keys = notation_keys(&amounts.notation, amounts.decimals);
                Some(format!("{{ {} }}", keys.join(", ")))
            }
            Holding::WholeNumber { .. } => Some("{ decimals = 2 }".to_owned()),
            _ => None,
        }
    }

    /// `[records]` with how the file is written.
    pub(super) fn records_text(&self, files: &[String]) -> String {
        let named: Vec<String> = files.iter().map(|file| quoted(file)).collect();
        let mut out = match named.as_slice() {
            [] => format!("\n[records]\nfile = {}\n", quoted(&self.file)),
            [one] => format!("\n[records]\nfile = {one}\n"),
            several => format!("\n[records]\nfile = [{}]\n", several.join(", ")),
        };
        if let Some(separator) = self.separator {
            out += &format!("separator = {}\n", quoted(&separator.to_string()));
        }
        if let Some(sheet) = &self.sheet {
            out += &format!("sheet = {}\n", quoted(sheet));
        }
        if let Some(query) = &self.query {
            out += &format!("query = {}\n", quoted(query));
        }
        if let Some(table) = self.table.as_ref().filter(|_| self.query.is_none()) {
            out += &format!("table = {}\n", quoted(table));
        }
        if let Some(line) = self.header_line {
            out += &format!("header_line = {line}\n");
        }
        if let Some(encoding) = self.encoding {
            out += &format!("encoding = {}\n", quoted(encoding));
        }
        out
    }

    /// Whether a plan with these parts has a key.
    #[must_use]
    pub fn has_key_with(&self, parts: &PlanParts) -> bool {
        !self.key_of_plan(parts).is_empty()
    }

    /// The columns of the key: those named, or the first that tells the rows apart and is not an amount.
    fn key_of_plan(&self, parts: &PlanParts) -> Vec<String> {
        if !parts.key.is_empty() {
            return parts.key.clone();
        }
        let is_used = |name: &String| parts.amounts.contains(name) || parts.figures.contains(name);
        let may_be_key = |column: &&LookedColumn| {
            matches!(column.holds, Holding::Text | Holding::WholeNumber { .. })
                && !column.is_named_as_amount()
                && !is_used(&column.name)
        };
        let keys = self.keys();
        let mut names = self.columns.iter().filter(may_be_key);
        match (names.find(|column| keys.contains(&column.name.as_str())), self.nearly_a_key()) {
            (Some(key), _) => vec![key.name.clone()],
            (None, Some((column, _))) if parts.duplicates.is_some() => vec![column.name.clone()],
            _ => Vec::new(),
        }
    }

    /// A part of the records, with a line for each of its columns; nothing where it has none. A header that occurs twice cannot
    /// be named.
    fn put_part(&self, out: &mut String, part: &str, lines_of: impl Fn(&LookedColumn) -> Vec<Line>) {
        let is_once = |name: &str| self.columns.iter().filter(|column| column.name == name).count() == 1;
        let mut lines = String::new();
        let columns = self.columns.iter().filter(|column| is_once(&column.name));
        for (column, line) in
            columns.flat_map(|column| lines_of(column).into_iter().map(move |line| (column, line)))
        {
            let Line { is_remark, value, why } = line;
            let remark = if is_remark { "# " } else { "" };
            let why = if why.is_empty() { String::new() } else { format!(" # {}", one_line(&why)) };
            lines += &format!("{remark}{} = {value}{why}\n", plan_key(&column.name));
        }
        if !lines.is_empty() {
            *out += &format!("\n[records.{part}]\n{lines}");
        }
    }
}

/// A list of lines of words, a line each; nothing where there are none.
pub(super) fn lines_text(key: &str, lines: &[String]) -> String {
    if lines.is_empty() {
        return String::new();
    }
    let all: String = lines.iter().map(|line| format!("    {},\n", line_text(line))).collect();
    format!("{key} = [\n{all}]\n")
}

/// How numbers and dates are written, under `[output]`.
pub(super) fn form_text(shown: &Presentation) -> String {
    let mut out = String::new();
    if shown.decimal_mark == DecimalMark::Comma {
        out += &format!("separator = \";\"\ndecimal_mark = {}\n", quoted(shown.decimal_mark.word()));
    }
    if let Some(pattern) = &shown.dates {
        out += &format!("dates_as = {}\n", quoted(&pattern.to_string()));
    }
    out
}

/// What a plan states besides the findings in its file.
#[derive(Debug, Clone, Default)]
pub struct PlanParts {
    /// Its title.
    pub title: Option<String>,
    /// Its as-of date: ISO 8601, or a named day.
    pub as_of: Option<String>,
    /// The files of records, where they are several or called otherwise than it was found by.
    pub files: Vec<String>,
    /// The lines of the conditions that rows must meet.
    pub select: Vec<String>,
    /// The columns of its key, where they are named.
    pub key: Vec<String>,
    /// Columns that are named as money: they are amounts, of two decimals where all are whole.
    pub amounts: Vec<String>,
    /// Other columns that figures are made of: they are amounts of as many decimals as were found.
    pub figures: Vec<String>,
    /// The column of the currencies of its amounts, where it is named.
    pub currency: Option<String>,
    /// What is done with rows of one key.
    pub duplicates: Option<String>,
    /// Columns of dates with how they are written, whatever was found.
    pub written: Vec<(String, String)>,
    /// Columns of amounts of which two notations were found, with the one that is meant.
    pub amount_formats: Vec<AmountFormat>,
    /// The file of its rows, where it is not called after the records.
    pub rows: Option<String>,
    /// The files of its report for people.
    pub documents: Vec<String>,
    /// How numbers and dates are shown and written.
    pub presentation: Presentation,
    /// Columns and reports, as a plan says them.
    pub body: String,
}

/// How a column of amounts is written, of two notations that read it.
///
/// ```
/// use mild_ledger::{DecimalMark, Notation, ThousandsMark};
/// use mild_ledger_records::AmountFormat;
/// let notation = Notation::with_marks(DecimalMark::Comma, ThousandsMark::Point)?;
/// let fees = AmountFormat { column: "Fee".to_owned(), notation, decimals: 0 };
/// assert_eq!(fees.notation.decimal_mark(), DecimalMark::Comma);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AmountFormat {
    /// The header of the column.
    pub column: String,
    /// The notation that is meant.
    pub notation: Notation,
    /// The most decimals of a value by it.
    pub decimals: u8,
}

/// What a plan says of a column.
struct Line {
    /// Whether it waits for a person to decide.
    is_remark: bool,
    value: String,
    /// What is to be known of it.
    why: String,
}

fn date_line(dates: &LookedDates) -> Line {
    let Some(first) = dates.patterns.first() else {
        let (value, why) = match &dates.wants {
            Some((pattern, wants)) => (quoted(pattern), format!("wants {wants}")),
            None => (quoted("iso"), "nothing but fillers and blanks".to_owned()),
        };
        return Line { is_remark: true, value, why };
    };
    let written = quoted(&first.pattern);
    let are_date_times = dates.times * 2 > dates.days.count();
    let value = match (dates.offsets > 0, are_date_times) {
        (true, _) => format!("{{ pattern = {written}, zone = \"UTC\", time = \"keep\" }}"),
        (false, true) => format!("{{ pattern = {written}, time = \"keep\" }}"),
        (false, false) => written,
    };
    match dates.verdict {
        Clarity::Found if dates.offsets > 0 => {
            Line { is_remark: true, value, why: "name the zone whose dates are meant".to_owned() }
        }
        Clarity::Found => Line { is_remark: false, value, why: String::new() },
        Clarity::Ambiguous => {
            let other = dates.patterns.get(1).map_or("", |other| &other.pattern);
            let example = dates.both_ways.as_ref().map(|both| {
                format!(": {} (row {}) is {} or {}", both.value.text, both.value.row, both.one, both.other)
            });
            let why = format!("or {}{}", quoted(other), example.unwrap_or_default());
            Line { is_remark: true, value, why }
        }
        Clarity::None => {
            let values = first.reads + dates.failed;
            let are = if dates.failed == 1 { "is not such a date" } else { "are not such dates" };
            let example =
                dates.failures.first().map(|failed| format!(", such as row {}: {}", failed.row, failed.text));
            let why = format!("{} of {values} {are}{}", dates.failed, example.unwrap_or_default());
            // Cells of text would be left empty: where there are many, a person decides.
            let is_remark = !dates.beyond_doubt || dates.offsets > 0 || dates.failed * 4 > values;
            Line { is_remark, value, why }
        }
    }
}

/// The keys that a column of amounts has however it is written.
fn put_keys_of_all(keys: &mut Vec<String>, column: &LookedColumn, currency: Option<&str>) {
    if column.blanks > 0 {
        keys.push("required = false".to_owned());
    }
    keys.extend(currency.map(|currency| format!("currency = {}", quoted(currency))));
}

/// A line for the column; where two notations explain it, one for each, and a person decides.
fn amount_lines(amounts: &LookedAmounts, column: &LookedColumn, currency: Option<&str>) -> Vec<Line> {
    let keys_of =
        |notation: &Notation, decimals: u8| keys_of_notation(notation, decimals, (column, currency));
    let keys = keys_of(&amounts.notation, amounts.decimals);
    let (credit, debit) = amounts.credit_and_debit;
    let why = match (amounts.verdict, &amounts.other) {
        _ if credit + debit > 0 => {
            "negatives = \"credit\" or \"debit\", as CR or DR is below zero".to_owned()
        }
        _ if amounts.currencies.len() > 1 => {
            let signs: Vec<&str> = amounts.currencies.iter().map(|(sign, _)| sign.as_str()).collect();
            format!("more than one currency: {}", signs.join(", "))
        }
        (Clarity::Found, _) => return vec![Line { is_remark: false, value: keys, why: String::new() }],
        (Clarity::Ambiguous, Some(other)) => {
            let both =
                [(keys, &amounts.notation), (keys_of(&other.notation, other.decimals), &other.notation)];
            let line = |(value, notation): (String, &Notation)| {
                let example = &other.example;
                let why = format!(
                    "if they are written {notation}, such as {} in row {}",
                    example.text, example.row
                );
                Line { is_remark: true, value, why }
            };
            return both.into_iter().map(line).collect();
        }
        (Clarity::Ambiguous, None) => String::new(),
        (Clarity::None, _) if amounts.failed == 1 => "1 value is not written so".to_owned(),
        (Clarity::None, _) => format!("{} values are not written so", amounts.failed),
    };
    vec![Line { is_remark: true, value: keys, why }]
}

/// What a plan says of a column of amounts in a notation.
fn keys_of_notation(
    notation: &Notation,
    decimals: u8,
    (column, currency): (&LookedColumn, Option<&str>),
) -> String {
    let mut keys = notation_keys(notation, decimals);
    put_keys_of_all(&mut keys, column, currency);
    format!("{{ {} }}", keys.join(", "))
}

/// The keys of a notation and its decimals.
pub(super) fn notation_keys(notation: &Notation, decimals: u8) -> Vec<String> {
    let mut keys = vec![format!("decimals = {decimals}")];
    if notation.decimal_mark() != DecimalMark::default() {
        keys.push(format!("decimal_mark = {}", quoted(notation.decimal_mark().word())));
    }
    if notation.thousands_mark() != ThousandsMark::default() {
        keys.push(format!("thousands = {}", quoted(notation.thousands_mark().word())));
    }
    let list = |texts: Vec<String>| match texts.as_slice() {
        [one] => one.clone(),
        many => format!("[{}]", many.join(", ")),
    };
    let negatives: Vec<String> =
        notation.negatives().iter().copied().map(NegativeForm::word).map(quoted).collect();
    if !negatives.is_empty() {
        keys.push(format!("negatives = {}", list(negatives)));
    }
    let signs: Vec<String> = notation.signs().iter().map(|sign| quoted(sign)).collect();
    if !signs.is_empty() {
        keys.push(format!("signs = {}", list(signs)));
    }
    keys
}

/// A remark that ends where its line does, whatever a value holds.
fn one_line(text: &str) -> String {
    text.chars().map(|sign| if sign.is_control() { ' ' } else { sign }).collect()
}
