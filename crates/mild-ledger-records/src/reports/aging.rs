//! What is owed, by group and bucket.

use super::behind::Behind;
use super::invoices::{Invoices, PlannedInvoices, Stands};
use super::{
    BoundReport, Heading, PlannedReport, ProofLine, Report, ReportCell, ReportDetail, ReportKind, ReportRows,
    ReportTable, RowOrder, TableRank, Tally, counted,
};
use crate::columns::{Binder, Figures};
use crate::error::RecordsError;
use crate::mistakes::{At, Walk};
use crate::table::{Layout, Origin, Origins, Table};
use mild_ledger::Scale;
use std::any::Any;
use std::collections::HashMap;
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "aging",
    gives: "what is owed, by bucket and perhaps by another column",
    title: "Aging",
    keys: &["band", "amount", "issued", "paid", "payments", "by"],
    later: &["credits", "show"],
    read,
    further,
};

/// A group with the amounts of those buckets that have any, since most of many customers owe in one or two.
#[derive(Debug, Clone)]
struct SparseGroup {
    name: String,
    amounts: Vec<(u16, i128)>,
    total: i128,
}

/// Rows of a report that are in no bucket.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
struct RowsApart {
    /// Settled on or before the as-of date.
    settled: u64,
    /// Issued after it.
    not_yet_issued: u64,
    /// Without an amount.
    no_amount: u64,
}

/// What is owed, by group and bucket.
struct Owed {
    by: Option<String>,
    /// The buckets in the order of their edges, then the rows without a figure by their reasons, then credits.
    buckets: Vec<String>,
    groups: Vec<SparseGroup>,
    /// Of all groups, by bucket.
    amounts: Vec<i128>,
    total: i128,
    /// Open rows in each bucket.
    counts: Vec<u64>,
    scale: Scale,
}

impl Owed {
    /// A row a group, or one of all where there are none, with a column a bucket and the total.
    fn table(self, title: &str, shows: String) -> ReportTable {
        let names = usize::from(self.by.is_some());
        let last = names + self.buckets.len();
        let amount = |units: i128| ReportCell::Decimal(self.scale.amount(units));
        let named = |name: &str| (names > 0).then(|| ReportCell::Text(name.to_owned()));
        let amounts = self.amounts.iter().chain([&self.total]).map(|units| amount(*units));
        let total: Vec<ReportCell> = named("Total").into_iter().chain(amounts).collect();
        let counts = self.counts.iter().copied();
        let counts = counts.clone().chain([counts.sum()]).map(ReportCell::count);
        let place = |bucket: usize| u16::try_from(bucket).unwrap_or(u16::MAX);
        let cells = |group: &SparseGroup| {
            let name = (0, ReportCell::Text(group.name.clone()));
            let amounts = group.amounts.iter().map(|(bucket, units)| (bucket + 1, amount(*units)));
            std::iter::once(name).chain(amounts).chain([(place(last), amount(group.total))]).collect()
        };
        let rows = match names {
            0 => ReportRows::from_iter([total.clone()]),
            _ => ReportRows::sparse(vec![amount(0); last + 1], self.groups.iter().map(cells)),
        };
        ReportTable {
            title: title.to_owned(),
            rank: TableRank::First,
            currency: None,
            shows: Some(shows),
            names,
            rows,
            order: RowOrder::LargestFirst,
            total: Some(total),
            sums: Vec::new(),
            further: vec![std::iter::once(ReportCell::Text("Rows".to_owned())).chain(counts).collect()],
            summed: (names..=last).collect(),
            bars: None,
            share_of: Some(last),
            columns: self.by.into_iter().chain(self.buckets).chain(["Total".to_owned()]).collect(),
        }
    }
}

/// Its groups, buckets and counts under names of their own.
fn further(report: &Report) -> Vec<(&'static str, ReportDetail)> {
    let Some(table) = report.tables.first() else { return Vec::new() };
    let last = table.columns.len().saturating_sub(1);
    let cells =
        |cells: &[ReportCell]| ReportDetail::List(cells.iter().cloned().map(ReportDetail::Cell).collect());
    let of_buckets = |row: &[ReportCell]| cells(row.get(table.names..last).unwrap_or_default());
    let cell = |cell: Option<&ReportCell>| ReportDetail::Cell(cell.cloned().unwrap_or(ReportCell::Empty));
    let sums = |row: &[ReportCell]| [("amounts", of_buckets(row)), ("total", cell(row.get(last)))];
    let row = |row: Vec<ReportCell>| {
        let by = cell(row.first().filter(|_| table.names > 0));
        ReportDetail::Named([("by", by)].into_iter().chain(sums(&row)).collect())
    };
    let text = |text: &String| ReportCell::Text(text.clone());
    let made_of =
        |(key, header): &(&'static str, Option<String>)| (*key, cell(header.as_ref().map(text).as_ref()));
    let buckets: Vec<ReportCell> = table.columns.iter().map(text).collect();
    let counts = table.further.first().map_or(&[][..], |row| row.get(1..).unwrap_or_default());
    let mut named: Vec<_> = report.made_of.iter().map(made_of).collect();
    named.extend([
        ("buckets", of_buckets(&buckets)),
        ("rows", ReportDetail::List(table.rows.iter().map(row).collect())),
        ("total", ReportDetail::Named(sums(table.total.as_deref().unwrap_or_default()).into())),
        ("counts", cells(counts.get(..last - table.names.min(last)).unwrap_or_default())),
    ]);
    named
}

/// An aging as the plan says it.
#[derive(Debug)]
struct PlannedAging {
    heading: Heading,
    invoices: PlannedInvoices,
    by: Option<At<String>>,
}

/// An aging bound to its columns.
struct BoundAging {
    title: String,
    invoices: Invoices,
    by: Option<usize>,
    figures: Figures,
}

/// `[[report]]` with `kind = "aging"`.
fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let invoices = PlannedInvoices::read(walk, table, &heading);
    let by = match table.get("by") {
        Some(value) => Some(walk.text(value, "the name of a column")?),
        None => None,
    };
    Some(Box::new(PlannedAging { heading, invoices: invoices?, by }))
}

impl PlannedReport for PlannedAging {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    /// An aging always stands on a day.
    fn uses_as_of(&self) -> bool {
        true
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let invoices = self.invoices.bind(binder, &self.heading);
        let by = match &self.by {
            Some(name) => Some(binder.find(name)?),
            None => None,
        };
        let invoices = invoices?;
        let title = self.heading.title.replace("{as_of}", &invoices.as_of.to_string());
        Some(Box::new(Arc::new(BoundAging { title, invoices, by, figures: binder.figures })))
    }
}

impl BoundReport for Arc<BoundAging> {
    fn amounts(&self) -> Vec<usize> {
        vec![self.invoices.amount]
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(AgingTotals::new(Arc::clone(self)))
    }
}

/// The sums of one aging report.
struct AgingTotals {
    report: Arc<BoundAging>,
    groups: HashMap<String, Vec<(u16, i128)>>,
    /// By bucket, then by the reason of rows without a figure, then credits.
    counts: Vec<u64>,
    settled: i128,
    /// Taken off what is open, of invoices that are issued.
    taken_off: i128,
    not_yet_issued: i128,
    apart: RowsApart,
    paid_unreadable: u64,
    spaced: u64,
    behind: Behind,
}

impl AgingTotals {
    fn new(report: Arc<BoundAging>) -> Self {
        Self {
            groups: HashMap::new(),
            counts: vec![0; report.invoices.places()],
            report,
            settled: 0,
            taken_off: 0,
            not_yet_issued: 0,
            apart: RowsApart::default(),
            paid_unreadable: 0,
            spaced: 0,
            behind: Behind::default(),
        }
    }

    /// Adds a row that is written.
    fn add_row(
        &mut self,
        layout: &Layout,
        table: &Table,
        row: usize,
        origin: Origin,
    ) -> Result<(), RecordsError> {
        let report = &*self.report;
        let invoices = &report.invoices;
        let Some(seen) = invoices.seen(layout, table, row, origin)? else {
            self.apart.no_amount += 1;
            return Ok(());
        };
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(|| invoices.too_large(layout, origin))?;
            Ok(())
        };
        let bucket = match seen.stands {
            Stands::NotYetIssued => {
                self.apart.not_yet_issued += 1;
                return add(&mut self.not_yet_issued, seen.units);
            }
            Stands::Settled => {
                self.apart.settled += 1;
                add(&mut self.taken_off, seen.taken_off)?;
                return add(&mut self.settled, seen.open);
            }
            Stands::In(bucket) => bucket,
        };
        let open = seen.open;
        add(&mut self.taken_off, seen.taken_off)?;
        self.paid_unreadable += u64::from(invoices.is_payment_unreadable(table, row));
        self.counts[bucket] += 1;
        let name = report.by.map_or_else(Default::default, |column| table.shown(column, row));
        let trimmed = name.trim();
        self.spaced += u64::from(trimmed.len() != name.len());
        let amounts = match self.groups.get_mut(trimmed) {
            Some(amounts) => amounts,
            None => self.groups.entry(trimmed.to_owned()).or_default(),
        };
        let bucket = u16::try_from(bucket).unwrap_or(u16::MAX);
        if report.figures == Figures::Opened {
            let key = || {
                let parts = layout.key.iter().map(|column| table.shown(*column, row).trim().to_owned());
                parts.collect::<Vec<_>>().join(" / ")
            };
            self.behind.add((trimmed, bucket), origin, key, open);
        }
        match amounts.iter_mut().find(|(known, _)| *known == bucket) {
            Some((_, sum)) => add(sum, open),
            None => {
                amounts.push((bucket, open));
                Ok(())
            }
        }
    }

    /// What a reader of the report should know beside its figures.
    fn notes(&self, layout: &Layout) -> Vec<String> {
        let mut notes = Vec::new();
        let open_rows = |count| counted(count, "open row has", "open rows have");
        if let (Some(paid), true) = (self.report.invoices.paid_by(), self.paid_unreadable > 0) {
            let rows = open_rows(self.paid_unreadable);
            let paid = layout.name(paid);
            notes.push(format!("{rows} a \"{paid}\" that could not be read, and counts as not paid"));
        }
        if let (Some(by), true) = (self.report.by, self.spaced > 0) {
            let rows = open_rows(self.spaced);
            let by = layout.name(by);
            notes.push(format!("{rows} spaces around its \"{by}\", which were left out to group by it"));
        }
        if self.apart.no_amount > 0 {
            let rows = counted(self.apart.no_amount, "row has", "rows have");
            let amount = layout.name(self.report.invoices.amount);
            notes.push(format!("{rows} no \"{amount}\" and stands in no bucket"));
        }
        notes
    }

    fn into_report(self, layout: &Layout) -> Result<Report, RecordsError> {
        let mut notes = self.notes(layout);
        let invoices = &self.report.invoices;
        let (scale, column) = (invoices.scale, layout.name(invoices.amount));
        let sum = |units: &[i128]| -> Result<i128, RecordsError> {
            let total = units.iter().try_fold(0_i128, |sum, units| sum.checked_add(*units));
            total.ok_or_else(|| RecordsError::too_large_in_all(column))
        };
        let buckets = invoices.labels(|place| self.counts[place] > 0);
        let place_of = |bucket: u16| buckets.iter().position(|(nth, _)| *nth == usize::from(bucket));
        let mut sums = vec![0_i128; buckets.len()];
        let mut groups = Vec::with_capacity(self.groups.len());
        for (name, mut amounts) in self.groups {
            for (bucket, units) in &mut amounts {
                let place = place_of(*bucket).unwrap_or(0);
                *bucket = u16::try_from(place).unwrap_or(u16::MAX);
                sums[place] = sum(&[sums[place], *units])?;
            }
            amounts.sort_unstable();
            let units: Vec<i128> = amounts.iter().map(|(_, units)| *units).collect();
            let total = sum(&units)?;
            groups.push(SparseGroup { name, amounts, total });
        }
        groups.sort_by(|a, b| b.total.cmp(&a.total).then_with(|| a.name.cmp(&b.name)));
        let order = groups.iter().enumerate().map(|(nth, group)| (group.name.clone(), nth)).collect();
        let (mut behind, too_many) = self.behind.finish(layout, scale, &order, &buckets);
        notes.extend(too_many);
        for cell in &mut behind {
            let group = order.get(&cell.row).and_then(|place| groups.get(*place));
            let bucket = buckets.iter().position(|(_, label)| *label == cell.column);
            let units = group.and_then(|group| {
                group
                    .amounts
                    .iter()
                    .find(|(place, _)| Some(usize::from(*place)) == bucket)
                    .map(|(_, units)| *units)
            });
            if let Some(units) = units {
                cell.figure = ReportCell::Decimal(scale.amount(units));
            }
        }
        let credits = sums.last().copied().unwrap_or(0);
        let total = sum(&sums)?;
        let in_buckets = total - credits;
        let parts = [
            ("in buckets", in_buckets),
            ("credits", credits),
            match invoices.payments {
                // What is settled by payments has nothing open, and what was paid of it is paid.
                Some(_) => ("paid", self.taken_off),
                None => ("settled", self.settled),
            },
            ("not yet issued", self.not_yet_issued),
        ];
        let parts = parts.map(|(name, units)| (name, scale.amount(units)));
        let amounts_proved = ProofLine::of_amounts(column, parts);
        let amounts_proved = amounts_proved.ok_or_else(|| RecordsError::too_large_in_all(column))?;
        let apart = self.apart;
        let rows_proved = ProofLine::of_rows([
            ("in buckets and credits", self.counts.iter().sum()),
            ("settled", apart.settled),
            ("not yet issued", apart.not_yet_issued),
            ("without an amount", apart.no_amount),
        ]);
        let (band, by) = (layout.name(invoices.band), self.report.by.map(|by| layout.name(by).to_owned()));
        let as_of = invoices.as_of;
        let mut answer = vec![ReportCell::Decimal(scale.amount(total)), ReportCell::Text(" owed".to_owned())];
        if let Some(by) = &by {
            let words = words_of_groups(groups.len(), by);
            let by = ReportCell::Text(" by ".to_owned());
            answer.extend([by, ReportCell::count(groups.len()), ReportCell::Text(words)]);
        }
        answer.push(ReportCell::Text(format!(" as of {as_of}")));
        let paid = match invoices.payments {
            Some(payments) => format!("each amount less its \"{}\"", layout.name(payments.column)),
            None => "paid on or before it is settled".to_owned(),
        };
        let by_group = by.as_ref().map_or_else(String::new, |by| format!(" by {by}"));
        let shows = format!("open {column}{by_group}, in buckets of {band}");
        let made_of =
            [("by", by.clone()), ("amount", Some(column.to_owned())), ("band", Some(band.to_owned()))];
        let owed = Owed {
            by,
            counts: buckets.iter().map(|(nth, _)| self.counts[*nth]).collect(),
            buckets: buckets.into_iter().map(|(_, label)| label).collect(),
            groups,
            amounts: sums,
            total,
            scale,
        };
        Ok(Report {
            kind: KIND.word,
            title: self.report.title.clone(),
            seen_from: Vec::new(),
            behind,
            made_of: made_of.into(),
            tables: vec![owed.table(&self.report.title, shows)],
            answer,
            explanation: vec![format!(
                "Open on the as-of date: {paid}, issued after it is set apart. Largest total first; credits are taken off in the total only."
            )],
            proof: vec![amounts_proved, rows_proved],
            notes,
        })
    }
}

impl Tally for AgingTotals {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        rows.iter().try_for_each(|row| self.add_row(layout, table, *row, origins.of(*row)))
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        // Tallies of one report are of one kind.
        let Ok(other) = other.into_any().downcast::<Self>() else { return Ok(()) };
        let column = layout.name(self.report.invoices.amount);
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(|| RecordsError::too_large_in_all(column))?;
            Ok(())
        };
        add(&mut self.settled, other.settled)?;
        add(&mut self.taken_off, other.taken_off)?;
        add(&mut self.not_yet_issued, other.not_yet_issued)?;
        self.counts.iter_mut().zip(&other.counts).for_each(|(count, more)| *count += more);
        self.apart.settled += other.apart.settled;
        self.apart.not_yet_issued += other.apart.not_yet_issued;
        self.apart.no_amount += other.apart.no_amount;
        self.paid_unreadable += other.paid_unreadable;
        self.spaced += other.spaced;
        self.behind.merge(other.behind);
        for (name, amounts) in other.groups {
            let sums = self.groups.entry(name).or_default();
            for (bucket, units) in amounts {
                match sums.iter_mut().find(|(known, _)| *known == bucket) {
                    Some((_, sum)) => add(sum, units)?,
                    None => sums.push((bucket, units)),
                }
            }
        }
        Ok(())
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        self.into_report(layout)
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}

/// ` customers`, of a column of one plain word; ` of "…"` with the column's name as it is otherwise.
fn words_of_groups(count: usize, by: &str) -> String {
    let is_word = by.chars().all(|sign| sign.is_ascii_alphabetic()) && by.len() > 2;
    if !is_word {
        return format!(" of \"{by}\"");
    }
    let word = by.to_ascii_lowercase();
    let before_y = word.strip_suffix('y').filter(|rest| !rest.ends_with(['a', 'e', 'i', 'o', 'u']));
    match (count, before_y) {
        (1, _) => format!(" {word}"),
        (_, Some(rest)) => format!(" {rest}ies"),
        _ if word.ends_with(['s', 'x', 'z']) || word.ends_with("ch") || word.ends_with("sh") => {
            format!(" {word}es")
        }
        _ => format!(" {word}s"),
    }
}
