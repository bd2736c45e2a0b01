//! The kinds of columns that a plan adds, one file a kind, and the registry of them.

mod age;
mod anniversary;
mod arithmetic;
mod between;
mod binder;
mod bounds;
mod bucket;
mod calendar;
mod choice;
mod conditions;
mod field;
mod first_of;
mod from_line;
mod inputs;
mod measuring;
mod moved;
mod of_file;
mod of_reports;
mod ordering;
mod other_ways;
mod period;
mod period_rules;
mod rate;
mod rows;
mod stay;
mod tenure;
mod terms;
mod text_kept;
mod typed_columns;
mod typed_numbers;
mod value;
mod why;
mod working_day;
mod working_days;
mod working_hours;

pub(crate) use binder::{Binder, CalendarMet, Figures};
#[cfg(test)]
pub(crate) use bounds::BOUND;
pub(crate) use bounds::{Bound, PlannedBound, read_bound};
#[cfg(test)]
pub(crate) use calendar::CALENDAR;
pub(crate) use calendar::{CalendarByRule, PlannedCalendar, read_calendar};
#[cfg(test)]
pub(crate) use conditions::CONDITION;
pub(crate) use conditions::{BoundCondition, Condition, all_hold, read_condition, read_conditions};
pub use from_line::{ColumnLine, ConditionLine, GroupLine};
pub(crate) use from_line::{read_columns, read_selection};
pub(crate) use inputs::{AS_OF_FIELD, AsOfDate, DateSource, check_placeholders, filled_in, read_number};
pub(crate) use of_reports::{HiddenColumn, ReportCalendar, read_periods};
pub(crate) use ordering::{put_order_key, read_order};
pub(crate) use other_ways::{CountsBetween, OtherWay, other_ways};
#[cfg(test)]
pub(crate) use period_rules::PERIOD;
pub(crate) use period_rules::read_period;
pub(crate) use rows::{Rows, Setting};
pub(crate) use typed_numbers::{NumberUse, TypedNumbers};
pub(crate) use why::CellWhy;
pub use why::{CountedDays, LeadTo};

use crate::mistakes::{At, Keys, Walk};
use crate::table::{Data, Exception, Gap, Kind, Table};
use mild_ledger::Error;
use std::fmt::Debug;
use std::ops::Range;
use toml::de::DeTable;

/// A kind of column: the key that says that a column is of it, the keys that go with it, and how it reads from the plan.
pub(crate) struct ColumnKind {
    pub(crate) key: &'static str,
    /// What it holds, as the page of plans says it.
    #[cfg_attr(not(test), expect(dead_code, reason = "the page of plans is held to it by a test"))]
    pub(crate) gives: &'static str,
    pub(crate) companions: &'static [&'static str],
    /// Its forms in a line of words.
    pub(crate) lines: &'static [&'static str],
    read: ReadColumn,
}

/// Reads a column of a kind from its table of the plan; `None` where a mistake was reported.
type ReadColumn = fn(&mut Walk, &DeTable, Range<usize>) -> Option<Box<dyn Planned>>;

/// The registry; a column that holds the keys of two kinds is the earlier one, if the other's key goes with it.
pub(crate) const KINDS: [&ColumnKind; 18] = [
    &between::KIND,
    &bucket::KIND,
    &terms::KIND,
    &moved::KIND,
    &choice::KIND,
    &period::KIND,
    &field::KIND,
    &age::KIND,
    &anniversary::KIND,
    &rate::KIND,
    &tenure::KIND,
    &first_of::KIND,
    &working_day::KIND,
    &value::KIND,
    &arithmetic::SUM,
    &arithmetic::DIFFERENCE,
    &arithmetic::PRODUCT,
    &arithmetic::QUOTIENT,
];

/// What a plan says of a column.
pub(crate) trait Planned: Debug + Send + Sync {
    /// What it holds, for want of a name; `None` where only its author knows what it means.
    fn header(&self) -> Option<String>;

    /// Whether it wants an as-of date.
    fn uses_as_of(&self) -> bool;

    /// What it would hold, where it cannot be bound, so that columns that use it are not in error too.
    fn stand_in(&self) -> Kind;

    /// The column bound to those above it; `None` where a mistake was reported.
    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)>;
}

/// How the column of a batch is worked out.
pub(crate) trait Step: Send + Sync {
    /// The columns that it looks at: where one of them could not be read, the result is not blank either.
    fn inputs(&self) -> Vec<usize>;

    /// All columns that its cells depend on: where one of them is seen from another date, this one is another too.
    fn depends_on(&self) -> Vec<usize> {
        self.inputs()
    }

    /// The columns whose amounts it works with: what comes of them is of their currency.
    fn amounts(&self) -> Vec<usize> {
        self.inputs()
    }

    /// Between which dates it counts, where it does, so that other ways of counting can be tried on them.
    fn counts_between(&self) -> Option<CountsBetween> {
        None
    }

    /// The column; a row whose inputs are empty is empty, one that has no result is listed with its reason.
    ///
    /// # Errors
    /// Only what the plan's reader should have refused.
    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error>;

    /// How the cell of a row came about; nothing where that is plain from its inputs, or there is no cell.
    fn why(&self, _rows: &Rows<'_>, _row: usize) -> Option<CellWhy> {
        None
    }
}

/// A column of the plan, with its header.
#[derive(Debug)]
pub(crate) struct PlannedColumn {
    pub(crate) name: At<String>,
    pub(crate) written: ColumnWritten,
    pub(crate) planned: Box<dyn Planned>,
}

/// Whether a column is among those that are written where the plan names none.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum ColumnWritten {
    Yes,
    No,
}

impl PlannedColumn {
    /// What it holds, in words, where the plan names it otherwise.
    pub(crate) fn said(&self) -> String {
        self.planned.header().unwrap_or_else(|| "as the plan says".to_owned())
    }
}

/// The key of a column that others use and that is not written.
const HIDDEN: &str = "hidden";

/// All keys that a `[[column]]` may hold.
pub(crate) fn keys() -> Vec<&'static str> {
    let mut keys = vec!["name", HIDDEN];
    for kind in KINDS {
        for key in std::iter::once(kind.key).chain(kind.companions.iter().copied()) {
            if !keys.contains(&key) {
                keys.push(key);
            }
        }
    }
    keys
}

/// Keys of the format that this version does not do yet.
pub(crate) const LATER: [&str; 1] = ["dates_as"];

/// `[[column]]`.
pub(crate) fn read_column(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<PlannedColumn> {
    walk.check_keys(table, &Keys { part: "[[column]]", known: &keys(), later: &LATER });
    let name = match table.get("name") {
        Some(value) => Some(walk.text(value, "the new column's header")?),
        None => None,
    };
    if let Some(name) = name.as_ref().filter(|name| name.value.trim().is_empty()) {
        walk.mistakes.tell(name.span.clone(), "the new column has no name", "a header");
    }
    let kind = kind_of_column(walk, table, &span)?;
    for key in table.keys() {
        let word: &str = key.get_ref();
        let of_another = word != kind.key
            && !kind.companions.contains(&word)
            && KINDS.iter().any(|other| other.key == word || other.companions.contains(&word));
        if of_another {
            let what = format!("{word} does not go with {}", kind.key);
            walk.mistakes.tell(key.span(), what, kind.companions.join(", "));
        }
    }
    let planned = (kind.read)(walk, table, span.clone())?;
    let name = match (name, planned.header()) {
        (Some(name), _) => name,
        (None, Some(value)) => At { value, span },
        (None, None) => {
            walk.mistakes.tell(span, "name is missing", "name = \"…\", the new column's header");
            return None;
        }
    };
    let is_hidden = match table.get(HIDDEN) {
        Some(value) => walk.yes_or_no(value)?,
        None => false,
    };
    let written = if is_hidden { ColumnWritten::No } else { ColumnWritten::Yes };
    Some(PlannedColumn { name, written, planned })
}

fn kind_of_column(walk: &mut Walk, table: &DeTable, span: &Range<usize>) -> Option<&'static ColumnKind> {
    let stated: Vec<&ColumnKind> = KINDS.into_iter().filter(|kind| table.contains_key(kind.key)).collect();
    let goes_with = |kind: &&ColumnKind| {
        stated.iter().all(|other| other.key == kind.key || kind.companions.contains(&other.key))
    };
    if let Some(kind) = stated.iter().find(|kind| goes_with(kind)) {
        return Some(kind);
    }
    let all: Vec<&str> = KINDS.iter().map(|kind| kind.key).collect();
    let (what, place) = match stated.get(1).and_then(|kind| table.get_key_value(kind.key)) {
        Some((key, _)) => ("the column is two things at once", key.span()),
        None => ("the column does not say what it holds", span.clone()),
    };
    walk.mistakes.tell(place, what, all.join(", "));
    None
}

impl Binder<'_> {
    /// Adds a column of the plan to those that there are.
    pub(crate) fn add_planned(&mut self, column: &PlannedColumn) -> Option<Box<dyn Step>> {
        let bound = column.planned.bind(self);
        let mut name = column.name.value.trim();
        if self.has(name) {
            let what = format!("there is a column \"{}\" already", name.escape_debug());
            self.mistakes.tell(column.name.span.clone(), what, "a name of its own");
            name = "";
        }
        // A column in error still gets its name, so that others that use it are not in error too.
        let (kind, step) = match bound {
            Some((kind, step)) => (kind, Some(step)),
            None => (column.planned.stand_in(), None),
        };
        let currency = step.as_ref().filter(|_| kind.decimals().is_some()).and_then(|step| {
            let amounts = step.amounts();
            self.one_currency(&amounts, &column.name)
        });
        self.add(name.to_owned(), kind);
        if let Some(added) = self.columns.last_mut() {
            added.currency = currency;
        }
        step
    }

    /// The currency of what is made of some amounts; those of several are not put together.
    fn one_currency(&mut self, amounts: &[usize], name: &At<String>) -> Option<usize> {
        let mut currencies: Vec<usize> = amounts.iter().filter_map(|amount| self.currency(*amount)).collect();
        currencies.sort_unstable();
        currencies.dedup();
        if let [one, other, ..] = currencies.as_slice() {
            let what = format!(
                "amounts of the currencies of \"{}\" and of \"{}\" are not put together",
                self.name(*one).escape_debug(),
                self.name(*other).escape_debug()
            );
            self.mistakes.tell(name.span.clone(), what, "amounts of one currency");
        }
        currencies.first().copied()
    }
}

/// Adds the plan's columns to a table, in the plan's order, so that each may use those before it.
pub(crate) fn add_columns(
    steps: &[Box<dyn Step>],
    setting: &Setting,
    batch: &crate::table::Batch,
    table: &mut Table,
    exceptions: &mut Vec<Exception>,
) -> Result<(), Error> {
    for step in steps {
        let column = table.columns.len();
        let mut rows = Rows { setting, batch, table, column, exceptions: Vec::new(), gaps: Vec::new() };
        let data = step.work_out(&mut rows)?;
        let (found, mut gaps) = (rows.exceptions, rows.gaps);
        exceptions.extend(found);
        table.columns.push(data);
        let inputs = step.inputs();
        let unreadable = |row: usize| inputs.iter().any(|input| table.is_unreadable(*input, row));
        let is_known = |gaps: &[Option<Gap>], row: usize| gaps.get(row).copied().flatten().is_some();
        let inherited: Vec<usize> = (0..table.rows)
            .filter(|row| table.is_empty(column, *row) && !is_known(&gaps, *row) && unreadable(*row))
            .collect();
        if !inherited.is_empty() {
            gaps.resize(table.rows, None);
            inherited.into_iter().for_each(|row| gaps[row] = Some(Gap::Unreadable));
        }
        table.gaps.push(gaps);
    }
    Ok(())
}

/// A header as a title, with a capital.
pub(crate) fn titled(text: &str) -> String {
    let mut signs = text.chars();
    signs.next().map_or_else(String::new, |first| first.to_uppercase().chain(signs).collect())
}
