//! A plan that says of a file what looking at it found.

use super::findings::{Clarity, Holding, Look, LookedAmounts, LookedColumn, LookedDates};
use mild_ledger::{DecimalMark, NegativeForm, ThousandsMark};
use std::path::Path;

impl Look {
    /// The beginning of a plan for the file: its `[records]` as they were found, and an output, so that it runs as it stands.
    /// What is ambiguous or wants something named stands in it as a remark.
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
        let records = parts.file.as_deref().unwrap_or(&self.file);
        out += &format!("\n[records]\nfile = {}\n", quoted(records));
        if let Some(separator) = self.separator {
            out += &format!("separator = {}\n", quoted(&separator.to_string()));
        }
        if let Some(sheet) = &self.sheet {
            out += &format!("sheet = {}\n", quoted(sheet));
        }
        if let Some(table) = &self.table {
            out += &format!("table = {}\n", quoted(table));
        }
        if let Some(line) = self.header_line {
            out += &format!("header_line = {line}\n");
        }
        if let Some(encoding) = self.encoding {
            out += &format!("encoding = {}\n", quoted(encoding));
        }
        let is_name =
            |column: &&LookedColumn| matches!(column.holds, Holding::Text | Holding::WholeNumber { .. });
        let keys = self.keys();
        if let Some(key) =
            self.columns.iter().filter(is_name).find(|column| keys.contains(&column.name.as_str()))
        {
            out += &format!("key = {}\n", quoted(&key.name));
        } else if let (Some((column, _)), Some(repeats)) = (self.nearly_a_key(), &parts.repeats) {
            out += &format!("key = {}\nrepeats = {}\n", quoted(&column.name), quoted(repeats));
        } else if let Some((column, (first, second))) = self.nearly_a_key() {
            let name = quoted(&column.name);
            out += &format!(
                "# key = {name} # it stands in more than one row, such as {first} and {second}; say what is done, repeats = \"set aside\" …\n"
            );
        }
        let said = |column: &LookedColumn| {
            let pattern = parts.written.iter().find(|(name, _)| *name == column.name);
            pattern.map(|(_, pattern)| Line { is_remark: false, value: quoted(pattern), why: String::new() })
        };
        self.put_part(&mut out, "dates", |column| match &column.holds {
            _ if said(column).is_some() => said(column),
            Holding::Date(dates) => Some(date_line(dates)),
            Holding::WholeNumber { perhaps_dates: Some((pattern, first, last)), .. } => Some(Line {
                is_remark: true,
                value: quoted(pattern),
                why: format!("if these are numbers of days or instants, they run from {first} to {last}"),
            }),
            _ => None,
        });
        self.put_part(&mut out, "amounts", |column| match &column.holds {
            Holding::Amount(amounts) => Some(amount_line(amounts, column)),
            _ => None,
        });
        self.put_part(&mut out, "numbers", |column| match &column.holds {
            Holding::WholeNumber { perhaps_dates: None, .. } if !keys.contains(&column.name.as_str()) => {
                Some(Line { is_remark: false, value: "{ decimals = 0 }".to_owned(), why: String::new() })
            }
            _ => None,
        });
        if let Some(total) = &self.total_line {
            out += &format!(
                "\n[[select]] # row {} seems to be a total\ncolumn = {}\nis_not = {}\n",
                total.row,
                quoted(&total.column),
                quoted(&total.text)
            );
        }
        out += &parts.body;
        out += &format!("\n[output]\nrows = {}\n", quoted(&format!("{stem}-rows.csv")));
        out
    }

    /// A part of the records, with a line for each of its columns; nothing where it has none. A header that stands twice cannot
    /// be named.
    fn put_part(&self, out: &mut String, part: &str, line: impl Fn(&LookedColumn) -> Option<Line>) {
        let is_once = |name: &str| self.columns.iter().filter(|column| column.name == name).count() == 1;
        let mut lines = String::new();
        for column in self.columns.iter().filter(|column| is_once(&column.name)) {
            let Some(Line { is_remark, value, why }) = line(column) else { continue };
            let remark = if is_remark { "# " } else { "" };
            let why = if why.is_empty() { String::new() } else { format!(" # {}", one_line(&why)) };
            lines += &format!("{remark}{} = {value}{why}\n", plan_key(&column.name));
        }
        if !lines.is_empty() {
            *out += &format!("\n[records.{part}]\n{lines}");
        }
    }
}

/// What a plan says beside what was found of its file.
#[derive(Debug, Clone, Default)]
pub struct PlanParts {
    /// Its title.
    pub title: Option<String>,
    /// Its as-of date: ISO 8601, or a named day.
    pub as_of: Option<String>,
    /// The file of records, where it is called otherwise than it was found by.
    pub file: Option<String>,
    /// What is done with rows of one key.
    pub repeats: Option<String>,
    /// Columns of dates with how they are written, whatever was found.
    pub written: Vec<(String, String)>,
    /// Columns and reports, as a plan says them.
    pub body: String,
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
        (true, _) => format!("{{ written = {written}, zone = \"UTC\", time = \"keep\" }}"),
        (false, true) => format!("{{ written = {written}, time = \"keep\" }}"),
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
            let are = if dates.failed == 1 { "is" } else { "are" };
            let example =
                dates.failures.first().map(|failed| format!(", such as row {}: {}", failed.row, failed.text));
            let why =
                format!("{} of {values} {are} no such date{}", dates.failed, example.unwrap_or_default());
            Line { is_remark: !dates.beyond_doubt || dates.offsets > 0, value, why }
        }
    }
}

fn amount_line(amounts: &LookedAmounts, column: &LookedColumn) -> Line {
    let notation = &amounts.notation;
    let mut keys = vec![format!("decimals = {}", amounts.decimals)];
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
    if column.blanks > 0 {
        keys.push("required = false".to_owned());
    }
    let value = format!("{{ {} }}", keys.join(", "));
    let (credit, debit) = amounts.credit_and_debit;
    let why = match amounts.verdict {
        _ if credit + debit > 0 => {
            "negatives = \"credit\" or \"debit\", as CR or DR is below zero".to_owned()
        }
        _ if amounts.currencies.len() > 1 => {
            let signs: Vec<&str> = amounts.currencies.iter().map(|(sign, _)| sign.as_str()).collect();
            format!("more than one currency: {}", signs.join(", "))
        }
        Clarity::Found => return Line { is_remark: false, value, why: String::new() },
        Clarity::Ambiguous => match &amounts.other {
            Some((other, value)) => {
                format!("or written {other}: {} in row {} could be either", value.text, value.row)
            }
            None => String::new(),
        },
        Clarity::None => format!("{} values are not written so", amounts.failed),
    };
    Line { is_remark: true, value, why }
}

/// A key as TOML writes it: bare where it may be, and quoted where it may not.
///
/// ```
/// use mild_ledger_records::plan_key;
/// assert_eq!((plan_key("yard").as_str(), plan_key("the yard").as_str()), ("yard", "\"the yard\""));
/// ```
#[must_use]
pub fn plan_key(name: &str) -> String {
    let is_bare = |sign: char| sign.is_ascii_alphanumeric() || matches!(sign, '-' | '_');
    if !name.is_empty() && name.chars().all(is_bare) { name.to_owned() } else { quoted(name) }
}

/// A text as TOML writes it.
///
/// ```
/// assert_eq!(mild_ledger_records::quoted("12\" pipe"), "\"12\\\" pipe\"");
/// ```
#[must_use]
pub fn quoted(text: &str) -> String {
    let mut out = String::from("\"");
    for sign in text.chars() {
        match sign {
            '"' | '\\' => out.extend(['\\', sign]),
            '\t' => out.push_str("\\t"),
            sign if sign.is_control() => out.push_str(&format!("\\u{:04X}", u32::from(sign))),
            sign => out.push(sign),
        }
    }
    out + "\""
}

/// A remark that ends where its line does, whatever a value holds.
fn one_line(text: &str) -> String {
    text.chars().map(|sign| if sign.is_control() { ' ' } else { sign }).collect()
}
