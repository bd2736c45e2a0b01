//! The columns and the report of a plan, as its text.

use super::column_of;
use super::wrong_options::OptionValue;
use crate::ending::Failure;
use mild_ledger::DecimalMark;
use mild_ledger_records::{AmountFormat, Clarity, Holding, Look, LookedColumn, plan_key, quoted};
use std::ffi::OsStr;
use std::path::Path;

/// The format that an argument such as `Amount=1.234,56` means.
pub(super) fn amount_format(look: &Look, argument: &str) -> Result<AmountFormat, Failure> {
    const HELP: &str = "--amount-format \"Amount=1,234.56\" or \"Amount=1.234,56\"";
    let refused = |what: String| Failure::Request { what, help: HELP.to_owned() };
    let (column, sample) = argument
        .split_once('=')
        .ok_or_else(|| refused(format!("\"{}\" names no column and sample", argument.escape_debug())))?;
    let column = column_of(look, column)?;
    let mark = decimal_mark_of(sample.trim()).ok_or_else(|| {
        refused(format!("\"{}\" does not show which mark is before two decimals", sample.escape_debug()))
    })?;
    let Holding::Amount(amounts) = &column.holds else {
        let what =
            format!("\"{}\" holds {}, not amounts", column.name.escape_debug(), column.holds.in_plural());
        return Err(refused(what));
    };
    let other = amounts.other.as_ref().map(|other| (&other.notation, other.decimals));
    let mut known = std::iter::once((&amounts.notation, amounts.decimals)).chain(other);
    let found = known.find(|(notation, _)| notation.decimal_mark() == mark).ok_or_else(|| {
        let name = column.name.escape_debug();
        refused(format!("the amounts of \"{name}\" are written {}, not as {sample}", amounts.notation))
    })?;
    Ok(AmountFormat { column: column.name.clone(), notation: found.0.clone(), decimals: found.1 })
}

/// The mark before the last two digits of a sample.
fn decimal_mark_of(sample: &str) -> Option<DecimalMark> {
    let place = sample.rfind(['.', ','])?;
    let (mark, digits) = sample.get(place..)?.split_at_checked(1)?;
    let is_sample = digits.len() == 2 && digits.bytes().all(|digit| digit.is_ascii_digit());
    DecimalMark::ALL.into_iter().find(|known| is_sample && mark.starts_with(known.sign()))
}

/// An error where a column cannot be read as amounts without doubt.
fn check_amounts(look: &Look, column: &LookedColumn) -> Result<(), Failure> {
    let name = column.name.escape_debug();
    let both_lines =
        format!("mild look {} --plan writes what a plan can say of it", look.file.escape_debug());
    let (what, help) = match &column.holds {
        Holding::Amount(amounts) => match (amounts.verdict, &amounts.other) {
            _ if amounts.currencies.len() > 1 => {
                let signs: Vec<&str> = amounts.currencies.iter().map(|(sign, _)| sign.as_str()).collect();
                let what = format!("\"{name}\" holds amounts of several currencies: {}", signs.join(", "));
                (what, "a column of currencies of its own, and --currency COLUMN".to_owned())
            }
            _ if amounts.credit_and_debit != (0, 0) => (
                format!(
                    "\"{name}\" has CR or DR after its amounts, and which of them is negative is not known"
                ),
                both_lines,
            ),
            (Clarity::Found, _) => return Ok(()),
            (Clarity::Ambiguous, Some(other)) => (
                format!(
                    "the amounts of \"{name}\" may be written {} or {}: {} in row {} could be either",
                    amounts.notation,
                    other.notation,
                    other.example.text.escape_debug(),
                    other.example.row
                ),
                format!("--amount-format \"{name}=1,234.56\" or --amount-format \"{name}=1.234,56\""),
            ),
            _ => {
                let first = amounts.failures.first();
                let example =
                    first.map(|value| format!(", such as row {}: {}", value.row, value.text.escape_debug()));
                (
                    format!(
                        "{} of the values of \"{name}\" are not amounts written {}{}",
                        amounts.failed,
                        amounts.notation,
                        example.unwrap_or_default()
                    ),
                    both_lines,
                )
            }
        },
        Holding::WholeNumber { failed: 0, .. } => return Ok(()),
        _ if column.values == 0 => {
            (format!("\"{name}\" holds nothing but blanks"), "a column of amounts".to_owned())
        }
        other => {
            (format!("\"{name}\" holds {}, not amounts", other.in_plural()), "a column of amounts".to_owned())
        }
    };
    Err(Failure::Request { what, help })
}

/// What a plan has after its records.
pub(super) struct PlanBody<'l> {
    look: &'l Look,
    formats: &'l [AmountFormat],
    text: String,
    kind: &'static str,
    dates: Vec<String>,
    amounts: Vec<String>,
    figures: Vec<String>,
    added: Vec<String>,
    options: Vec<OptionValue>,
}

impl<'l> PlanBody<'l> {
    pub(super) fn of(look: &'l Look, formats: &'l [AmountFormat]) -> Self {
        Self {
            look,
            formats,
            text: String::new(),
            kind: "report",
            dates: Vec::new(),
            amounts: Vec::new(),
            figures: Vec::new(),
            added: Vec::new(),
            options: Vec::new(),
        }
    }

    /// A column of the file that holds dates, by its name.
    pub(super) fn dates(&mut self, name: &str) -> Result<String, Failure> {
        let name = self.any(name)?;
        if !self.dates.contains(&name) {
            self.dates.push(name.clone());
        }
        Ok(name)
    }

    /// A column of the file that holds money, by its name.
    pub(super) fn money(&mut self, name: &str) -> Result<String, Failure> {
        let column = column_of(self.look, name)?;
        self.check_amounts(column)?;
        self.amounts.push(column.name.clone());
        Ok(column.name.clone())
    }

    /// A column of the file that holds the numbers of a sum, a mean or a median.
    pub(super) fn numbers(&mut self, name: &str) -> Result<String, Failure> {
        let column = column_of(self.look, name)?;
        self.check_amounts(column)?;
        self.figures.push(column.name.clone());
        Ok(column.name.clone())
    }

    fn check_amounts(&self, column: &LookedColumn) -> Result<(), Failure> {
        match self.formats.iter().any(|format| format.column == column.name) {
            true => Ok(()),
            false => check_amounts(self.look, column),
        }
    }

    /// The columns that are named as money, and those that other figures are made of.
    pub(super) fn amounts_used(&self) -> (Vec<String>, Vec<String>) {
        (self.amounts.clone(), self.figures.clone())
    }

    /// A column of the file, by its name.
    pub(super) fn any(&self, name: &str) -> Result<String, Failure> {
        column_of(self.look, name).map(|column| column.name.clone())
    }

    /// A name that no column of the file has.
    pub(super) fn new_name(&self, name: &str) -> String {
        let is_taken = |name: &str| {
            self.look.columns.iter().any(|column| column.name == name)
                || self.added.iter().any(|added| added == name)
        };
        let mut called = name.to_owned();
        let mut number = 1;
        while is_taken(&called) {
            number += 1;
            called = format!("{name} ({number})");
        }
        called
    }

    /// Takes note of the option that a value of the plan comes from.
    pub(super) fn option(&mut self, option: &'static str, value: &str) {
        self.options.push((option, value.to_owned()));
    }

    /// The options that values of the plan come from.
    pub(super) fn options(&self) -> &[OptionValue] {
        &self.options
    }

    /// A column that is added.
    pub(super) fn column(&mut self, name: &str, keys: &[(&str, &str)]) {
        self.added.push(name.to_owned());
        self.text += &format!("\n[[column]]\nname = {}\n", quoted(name));
        keys.iter().for_each(|(key, value)| self.key(key, value));
    }

    /// The time between a column of dates and another, or the as-of date.
    pub(super) fn counted(&mut self, name: &str, from: &str, to: &str, count: &str) {
        self.column(name, &[("count", count)]);
        self.list("between", &[from.to_owned(), to.to_owned()]);
    }

    pub(super) fn bucket(&mut self, name: &str, of: &str, edges: &str) {
        self.column(name, &[("bucket", of)]);
        self.text += &format!("edges = [{edges}]\n");
    }

    /// The only calendar: one that ships, or a file, by whose name it is known.
    pub(super) fn calendar(&mut self, source: &str) {
        let name = Path::new(source).file_stem().map_or_else(|| source.into(), OsStr::to_string_lossy);
        self.text += &format!("\n[calendar.{}]\n", plan_key(&name));
        self.list("holidays", &[source.to_owned()]);
    }

    pub(super) fn report(&mut self, kind: &'static str, keys: &[(&str, &str)]) {
        self.kind = kind;
        self.text += &format!("\n[[report]]\nkind = {}\n", quoted(kind));
        keys.iter().for_each(|(key, value)| self.key(key, value));
    }

    pub(super) fn key(&mut self, key: &str, value: &str) {
        self.text += &format!("{key} = {}\n", quoted(value));
    }

    pub(super) fn number(&mut self, key: &str, number: i64) {
        self.text += &format!("{key} = {number}\n");
    }

    pub(super) fn list(&mut self, key: &str, values: &[String]) {
        let values: Vec<String> = values.iter().map(|value| quoted(value)).collect();
        self.text += &format!("{key} = [{}]\n", values.join(", "));
    }

    /// The figures of a summary: how many rows there are, and these.
    pub(super) fn figures(&mut self, figures: &[(&str, String)]) {
        let figure = |(word, column): &(&str, String)| format!("{{ {word} = {} }}", quoted(column));
        let figures: Vec<String> =
            std::iter::once(quoted("count")).chain(figures.iter().map(figure)).collect();
        self.text += &format!("show = [{}]\n", figures.join(", "));
    }

    /// The columns of dates that are used.
    pub(super) fn dates_used(&self) -> &[String] {
        &self.dates
    }

    pub(super) fn title(&self, file: &Path) -> String {
        let name = file.file_name().unwrap_or_default().to_string_lossy();
        let mut kind = self.kind.chars();
        let kind: String = kind.next().into_iter().flat_map(char::to_uppercase).chain(kind).collect();
        format!("{kind} of {name}").replace(['{', '}'], "")
    }

    pub(super) fn text(&self) -> String {
        self.text.clone()
    }
}
