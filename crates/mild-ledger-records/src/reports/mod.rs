//! The kinds of reports, one file a kind, and the registry of them.

mod aging;
mod allocation;
mod behind;
mod by_currency;
mod days;
mod distribution;
mod findings;
mod flat_table;
mod groups;
mod invoices;
mod list;
mod measure;
mod measures;
mod movement;
mod over;
mod periods;
mod series;
mod some_rows;
mod summary;
mod tables;
mod target;
mod tenure;
mod turnaround;
mod upcoming;

pub use findings::{
    ProofAgainst, ProofLine, ProofPart, ProofValue, Report, ReportCell, RowBehind, RowsBehind,
};
pub use tables::{Leads, ReportDetail, ReportRows, ReportTable, RowOrder, SumRow, SumRowOf, TableRank};

pub(crate) use flat_table::{FlatTable, SummedColumn};

use crate::handover::Counts;
use by_currency::by_currency;
use days::{PlannedDay, PlannedDays, read_day, read_days};
use series::series;
use some_rows::of_some_rows;

use crate::columns::{Binder, Condition, check_placeholders, read_conditions};
use crate::error::RecordsError;
use crate::mistakes::{At, Keys, Walk};
use crate::table::{Layout, Origins, Table};
use mild_ledger::Date;
use std::any::Any;
use std::fmt::Debug;
use std::ops::Range;
use toml::de::DeTable;

/// A kind of report, by its word.
pub(crate) struct ReportKind {
    /// What comes after `kind`.
    pub(crate) word: &'static str,
    /// What it holds, as the page of plans says it.
    #[cfg_attr(not(test), expect(dead_code, reason = "the page of plans is held to it by a test"))]
    pub(crate) gives: &'static str,
    /// What it is called where the plan gives it no title.
    title: &'static str,
    /// The keys that say more of it, next to `kind` and `title`.
    pub(crate) keys: &'static [&'static str],
    read: ReadReport,
    /// What programs are given of it besides its tables.
    further: fn(&Report) -> Vec<(&'static str, ReportDetail)>,
}

type ReadReport = fn(&mut Walk, &DeTable, Heading) -> Option<Box<dyn PlannedReport>>;

/// Every kind of report.
pub(crate) const KINDS: [&ReportKind; 11] = [
    &aging::KIND,
    &movement::KIND,
    &measures::KIND,
    &summary::KIND,
    &distribution::KIND,
    &list::KIND,
    &upcoming::KIND,
    &turnaround::KIND,
    &allocation::KIND,
    &target::KIND,
    &tenure::KIND,
];

/// What every report has.
#[derive(Debug)]
pub(crate) struct Heading {
    pub(crate) title: String,
    /// What must hold of its rows; of all rows where there is nothing.
    pub(crate) when: Vec<Condition>,
    /// The dates from which it is seen; the as-of date alone where there is nothing.
    at: Vec<At<PlannedDays>>,
    pub(crate) span: Range<usize>,
}

/// A report as a plan says it.
pub(crate) trait PlannedReport: Debug + Send + Sync {
    /// Its title, and where it is in the plan.
    fn heading(&self) -> &Heading;

    /// Whether it asks for the as-of date.
    fn uses_as_of(&self) -> bool;

    /// Dates other than the as-of date from which it looks at columns; what is wrong with them is reported.
    fn other_dates(&self, binder: &mut Binder<'_>) -> Vec<Date> {
        self.heading().dates(binder).unwrap_or_default()
    }

    /// The report bound to the columns of the records, with nothing counted yet; what is wrong with it is reported.
    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>>;
}

/// A report that knows its columns.
pub(crate) trait BoundReport: Send + Sync {
    /// The columns whose amounts it adds up or compares. Where they have currencies, it is made for each of these.
    fn amounts(&self) -> Vec<usize>;

    /// A tally of nothing.
    fn tally(&self) -> Box<dyn Tally>;
}

/// The sums of one report. Tallies of parts of the rows, merged in any order, come to the tally of all.
pub(crate) trait Tally: Counts + Send {
    /// Adds rows that are written; the origins are those of all rows of the table.
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError>;

    /// Takes over what another tally of the same report counted.
    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError>;

    /// The figures.
    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError>;

    /// Itself, to be merged with one of its kind.
    fn into_any(self: Box<Self>) -> Box<dyn Any>;
}

/// Another tally of a report as one of its kind. One of another kind is a fault of the program, and never rows that no one counts.
fn of_one_report<T: Tally + 'static>(other: Box<dyn Tally>) -> Result<Box<T>, RecordsError> {
    other.into_any().downcast().map_err(|_| RecordsError::Proof {
        what: "tallies of two reports were added together, which is a fault of the program".to_owned(),
    })
}

/// `[[report]]`, distinguished by its `kind`.
pub(crate) fn read_report(
    walk: &mut Walk,
    table: &DeTable,
    span: Range<usize>,
) -> Option<Box<dyn PlannedReport>> {
    let value = walk.needed(table, "kind", span.clone(), "kind = \"aging\" or one of the other kinds")?;
    let words: Vec<(&str, &ReportKind)> = KINDS.iter().map(|kind| (kind.word, *kind)).collect();
    let kind = walk.choice(value, &words)?;
    let known = keys(kind);
    walk.check_keys(table, &Keys { part: "[[report]]", known: &known, later: &[] });
    let title = match table.get("title") {
        Some(value) => walk.text(value, "a text").map(|title| {
            check_placeholders(walk, &title);
            title.value
        }),
        None => Some(kind.title.to_owned()),
    };
    let when = match table.get("when") {
        Some(value) => read_conditions(walk, value),
        None => Some(Vec::new()),
    };
    let at = match table.get("at") {
        Some(value) => read_days(walk, value),
        None => Some(Vec::new()),
    };
    (kind.read)(walk, table, Heading { title: title?, when: when?, at: at?, span })
}

impl Heading {
    /// The dates from which the report is seen, in their order; none where it is seen from the as-of date alone.
    fn dates(&self, binder: &mut Binder<'_>) -> Option<Vec<Date>> {
        days::dates_of(&self.at, binder)
    }

    /// The title, with the as-of date as it is shown to people.
    fn title_in(&self, binder: &Binder<'_>) -> String {
        let as_of = binder.known_as_of().map(|as_of| binder.presentation.date(as_of.date));
        self.title.replace("{as_of}", &as_of.unwrap_or_default())
    }

    /// Whether anything in it needs an as-of date.
    pub(crate) fn uses_as_of(&self) -> bool {
        !self.at.is_empty() || self.when.iter().any(Condition::uses_as_of)
    }
}

/// A report bound to its columns: to some rows of them, from several dates, and a currency at a time, as the plan says.
pub(crate) fn bind_report(
    binder: &mut Binder<'_>,
    report: &dyn PlannedReport,
) -> Option<Box<dyn BoundReport>> {
    let heading = report.heading();
    let of_its_rows = |binder: &mut Binder<'_>| {
        let bound = report.bind(binder)?;
        of_some_rows(bound, heading, binder)
    };
    let bound = match heading.dates(binder)?.as_slice() {
        [] => of_its_rows(binder)?,
        dates => {
            let part = |date: &Date| Some((*date, binder.seen_from(*date, of_its_rows)?));
            series(dates.iter().map(part).collect::<Option<Vec<_>>>()?)
        }
    };
    by_currency(bound, heading, binder)
}

/// The key that names the file of a report, whatever its kind.
pub(crate) const FILE: &str = "file";

/// The keys that a report of a kind may have.
pub(crate) fn keys(kind: &ReportKind) -> Vec<&'static str> {
    ["kind", "title", FILE, "when", "at"].into_iter().chain(kind.keys.iter().copied()).collect()
}

impl Report {
    /// What programs are given of it besides its tables, by its kind.
    #[must_use]
    pub fn further(&self) -> Vec<(&'static str, ReportDetail)> {
        let kind = KINDS.iter().find(|kind| kind.word == self.kind);
        let Some(kind) = kind.filter(|_| self.seen_from.is_empty()) else { return Vec::new() };
        if self.tables.iter().all(|table| table.currency.is_none()) {
            return (kind.further)(self);
        }
        // A table a currency: each has what the report would have of it alone.
        let of_currency = |table: &ReportTable| {
            let alone = Report { tables: vec![table.clone()], ..self.clone() };
            let currency = ReportCell::Text(table.currency.clone().unwrap_or_default());
            let named = [("currency", ReportDetail::Cell(currency))].into_iter();
            ReportDetail::Named(named.chain((kind.further)(&alone)).collect())
        };
        vec![("by_currency", ReportDetail::List(self.tables.iter().map(of_currency).collect()))]
    }
}

/// A count with the words that agree with it.
fn counted(count: u64, one: &str, more: &str) -> String {
    format!("{count} {}", if count == 1 { one } else { more })
}

/// The key of a row in words, the parts of one of several columns after each other; nothing where the plan names no key.
fn key_of(layout: &Layout, table: &Table, row: usize) -> String {
    let parts = layout.key.iter().map(|column| table.shown(*column, row).trim().to_owned());
    parts.collect::<Vec<_>>().join(" / ")
}
