//! The plan that adds the columns of some lines of words to a file.

use super::plan_text::{form_text, lines_text, notation_keys};
use super::{AmountFormat, Holding, Look, LookedColumn};
use crate::table::Presentation;
use crate::toml_text::{plan_key, quoted};
use mild_ledger::DecimalMark;

/// Columns that lines define, conditions that lines say, and the look of the columns that they name.
///
/// ```
/// use mild_ledger_records::{LinesPlan, Plan, Watch, look};
/// use std::sync::atomic::AtomicBool;
/// let folder = tempfile::tempdir()?;
/// let file = folder.path().join("jobs.csv");
/// std::fs::write(&file, "Job,Begun,Done\nJ1,28/09/2026,30/09/2026\nJ2,27/09/2026,29/09/2026\nJ3,13/09/2026,28/09/2026\n")?;
/// let found = look(&file, Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} })?;
/// let lines = LinesPlan {
///     columns: vec!["Days = days from Begun to Done".to_owned()],
///     dates: vec![("Begun".to_owned(), None), ("Done".to_owned(), None)],
///     rows: "-".to_owned(),
///     ..LinesPlan::default()
/// };
/// let text = found.plan_of_lines(&lines);
/// assert!(text.contains("Begun = { pattern = \"day/month/year\", keep_text = true }\n"));
/// assert!(Plan::of_text(&text, "days.toml".as_ref()).is_ok());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug, Clone, Default)]
pub struct LinesPlan {
    /// The title, where the plan has one.
    pub title: Option<String>,
    /// The as-of date: ISO 8601, or a named day.
    pub as_of: Option<String>,
    /// The files of records, where they are several or called otherwise than it was found by.
    pub files: Vec<String>,
    /// The lines of the columns, in their order.
    pub columns: Vec<String>,
    /// The lines of the conditions that rows must meet.
    pub select: Vec<String>,
    /// The columns of the key.
    pub key: Vec<String>,
    /// The columns of dates that the lines name, each with its pattern where that is not the one found.
    pub dates: Vec<(String, Option<String>)>,
    /// The columns of numbers that the lines name.
    pub numbers: Vec<String>,
    /// Columns of numbers of which two notations were found, with the one that is meant.
    pub amount_formats: Vec<AmountFormat>,
    /// Which of these columns are written as their texts.
    pub texts: TextsKept,
    /// The calendars, each with what it is made of.
    pub calendars: Vec<LineCalendar>,
    /// The file of the rows; `-` is standard output.
    pub rows: String,
    /// The character between cells of a text file, where it is not a comma.
    pub separator: Option<char>,
    /// How new numbers and dates are written.
    pub presentation: Presentation,
}

/// Which columns of the file are written as their texts, and not as the dates and numbers that they hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum TextsKept {
    /// All that the lines name.
    #[default]
    All,
    /// Those with values that cannot be read.
    WhereUnreadable,
}

/// A calendar that lines count by.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LineCalendar {
    /// As the lines name it.
    pub name: String,
    /// A calendar that ships, or a file; none is Saturdays and Sundays alone.
    pub source: Option<String>,
}

impl Look {
    /// The plan that adds the columns of some lines to the file, and writes its rows.
    #[must_use]
    pub fn plan_of_lines(&self, lines: &LinesPlan) -> String {
        let mut out = String::from("plan = 1\n");
        for (key, value) in [("title", &lines.title), ("as_of", &lines.as_of)] {
            out += &value.as_ref().map_or_else(String::new, |value| format!("{key} = {}\n", quoted(value)));
        }
        out += &lines_text("select", &lines.select);
        out += &lines_text("column", &lines.columns);
        out += &self.records_text(&lines.files);
        if !lines.key.is_empty() {
            let names: Vec<String> = lines.key.iter().map(|name| quoted(name)).collect();
            out += &format!("key = [{}]\nduplicates = \"keep\"\n", names.join(", "));
        }
        let column = |name: &str| self.columns.iter().find(|column| column.name == name);
        let part = |key: &str, all: Vec<String>| match all.is_empty() {
            true => String::new(),
            false => format!("\n[records.{key}]\n{}", all.concat()),
        };
        let dates = lines.dates.iter().filter_map(|(name, pattern)| {
            let keys = date_keys(column(name)?, pattern.as_deref(), lines.texts);
            Some(format!("{} = {{ {} }}\n", plan_key(name), keys.join(", ")))
        });
        out += &part("dates", dates.collect());
        let numbers = lines.numbers.iter().filter_map(|name| {
            let given = lines.amount_formats.iter().find(|format| format.column == *name);
            let keys = number_keys(column(name)?, given, lines.texts);
            Some(format!("{} = {{ {} }}\n", plan_key(name), keys.join(", ")))
        });
        out += &part("numbers", numbers.collect());
        for LineCalendar { name, source } in &lines.calendars {
            let made_of = source.as_ref().map_or_else(
                || "rest_days = [\"saturday\", \"sunday\"]\n".to_owned(),
                |source| format!("holidays = [{}]\n", quoted(source)),
            );
            out += &format!("\n[calendar.{}]\n{made_of}", plan_key(name));
        }
        out += &format!("\n[output]\nrows = {}\n", quoted(&lines.rows));
        // A decimal comma has its own separator.
        let separator = lines.separator.filter(|_| lines.presentation.decimal_mark == DecimalMark::Point);
        if let Some(separator) = separator {
            out += &format!("separator = {}\n", quoted(&separator.to_string()));
        }
        out + &form_text(&lines.presentation)
    }
}

fn date_keys(column: &LookedColumn, given: Option<&str>, texts: TextsKept) -> Vec<String> {
    let dates = match &column.holds {
        Holding::Date(dates) => Some(dates),
        _ => None,
    };
    let found = dates.and_then(|dates| Some(dates.patterns.first()?.pattern.as_str()));
    let mut keys = vec![format!("pattern = {}", quoted(given.or(found).unwrap_or("iso")))];
    if dates.is_some_and(|dates| dates.times > 0) {
        keys.push("time = \"keep\"".to_owned());
    }
    let some_failed = dates.is_none_or(|dates| dates.failed > 0 || !dates.fillers.is_empty());
    if texts == TextsKept::All || (some_failed && column.values > 0) {
        keys.push("keep_text = true".to_owned());
    }
    keys
}

fn number_keys(column: &LookedColumn, given: Option<&AmountFormat>, texts: TextsKept) -> Vec<String> {
    let whole = || vec!["decimals = 0".to_owned()];
    let (mut keys, failed) = match (&column.holds, given) {
        (_, Some(format)) => (notation_keys(&format.notation, format.decimals), 0),
        (Holding::Amount(amounts), None) => {
            (notation_keys(&amounts.notation, amounts.decimals), amounts.failed)
        }
        (Holding::WholeNumber { failed, .. }, None) => (whole(), *failed),
        _ => (whole(), 0),
    };
    if texts == TextsKept::All || failed > 0 {
        keys.push("keep_text = true".to_owned());
    }
    keys
}
