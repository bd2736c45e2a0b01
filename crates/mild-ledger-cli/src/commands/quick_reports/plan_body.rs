//! The columns and the report of a plan, as its text.

use super::super::looked::{check_amounts, column_of};
use super::wrong_options::OptionValue;
use crate::ending::Failure;
use mild_ledger_records::{
    AmountFormat, GroupLine, Holding, Look, LookedColumn, UsedAs, UsedColumn, plan_key, quoted,
};
use std::ffi::OsStr;
use std::path::Path;

/// A file of payments, and its columns.
pub(super) struct Payments<'p> {
    pub(super) found: &'p Look,
    pub(super) file: &'p Path,
    pub(super) ours: String,
    pub(super) theirs: String,
    pub(super) date: String,
    pub(super) paid: String,
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

    /// A column that a condition compares, as what it holds.
    pub(super) fn condition(&mut self, used: &UsedColumn) -> Result<(), Failure> {
        // One that is not there is a mistake of its line.
        let Ok(column) = column_of(self.look, &used.name) else { return Ok(()) };
        match (used.used_as, &column.holds) {
            (UsedAs::Dates | UsedAs::Ordered, Holding::Date(_)) | (UsedAs::Dates, _) => {
                self.dates(&column.name).map(drop)
            }
            (UsedAs::Numbers | UsedAs::Ordered, Holding::Amount(_) | Holding::WholeNumber { .. })
                if ![&self.amounts, &self.figures].into_iter().any(|known| known.contains(&column.name)) =>
            {
                self.numbers(&column.name).map(drop)
            }
            _ => Ok(()),
        }
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

    /// The column that tells the rows apart, where one alone does.
    pub(super) fn only_key(&self) -> Option<&'l str> {
        match self.look.keys().as_slice() {
            [only] => Some(*only),
            _ => None,
        }
    }

    /// A column of a file of payments: what was paid up to the as-of date.
    pub(super) fn joined_payments(&mut self, payments: &Payments<'_>) -> String {
        let Payments { found, file, ours, theirs, date, paid } = payments;
        let so_far = self.new_name("Paid so far");
        let file = quoted(&file.display().to_string());
        self.text += &format!("\n[[join]]\nfile = {file}\n{}", found.form_keys());
        self.text += &format!("match = {{ {} = {} }}\n", plan_key(ours), quoted(theirs));
        self.text += &format!("columns = {{ {} = {} }}\n", plan_key(&so_far), quoted(paid));
        self.text += &format!("duplicates = {{ sum_up_to_as_of = {} }}\n", quoted(date));
        for (part, column) in [("dates", date), ("amounts", paid)] {
            let value = found.column_text(column).unwrap_or_default();
            self.text += &format!("\n[join.{part}]\n{} = {value}\n", plan_key(column));
        }
        self.added.push(so_far.clone());
        so_far
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

    /// What rows are grouped by, as a plan has it: a column, or the periods of a column of dates.
    pub(super) fn group(&mut self, option: &'static str, line: &str) -> Result<String, Failure> {
        // A column of this name is meant, whatever words it is called by.
        if let Ok(column) = column_of(self.look, line) {
            return Ok(quoted(&column.name));
        }
        let read = GroupLine::read(line).map_err(|wrong| Failure::Lines(vec![wrong]))?;
        match read.dates() {
            Some(dates) => self.dates(dates).map(drop)?,
            None => self.any(line).map(drop)?,
        }
        self.option(option, line);
        Ok(read.plan_text().to_owned())
    }

    /// All that rows are grouped by.
    pub(super) fn groups(&mut self, option: &'static str, lines: &[String]) -> Result<Vec<String>, Failure> {
        lines.iter().map(|line| self.group(option, line)).collect()
    }

    /// The groups of a report, where it has some.
    pub(super) fn put_groups(&mut self, groups: &[String]) {
        if !groups.is_empty() {
            self.raw("by", &format!("[{}]", groups.join(", ")));
        }
    }

    /// A key whose value is a text of a plan already.
    pub(super) fn raw(&mut self, key: &str, value: &str) {
        self.text += &format!("{key} = {value}\n");
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

    pub(super) fn title(&self, name: &str) -> String {
        let mut kind = self.kind.chars();
        let kind: String = kind.next().into_iter().flat_map(char::to_uppercase).chain(kind).collect();
        format!("{kind} of {name}").replace(['{', '}'], "")
    }

    pub(super) fn text(&self) -> String {
        self.text.clone()
    }
}
