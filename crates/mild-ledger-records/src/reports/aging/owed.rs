//! The table of an aging: its groups in their order, a column a bucket, sums of groups, and the total.

use crate::error::RecordsError;
use crate::reports::groups::{Key, Level, NamedGroups};
use crate::reports::{Report, ReportCell, ReportDetail, ReportRows, ReportTable, RowOrder, SumRow, SumRowOf};
use mild_ledger::Scale;
use std::cmp::Reverse;
use std::collections::HashMap;

/// A group with the amounts of those buckets that have any, since most of many customers owe in one or two.
#[derive(Debug, Clone)]
pub(super) struct SparseGroup {
    pub(super) keys: Vec<Key>,
    pub(super) labels: Vec<String>,
    /// By the places of the columns, in their order.
    pub(super) amounts: Vec<(u16, i128)>,
    pub(super) total: i128,
}

/// What is owed, by group and bucket.
pub(super) struct Owed {
    /// What the groups are of; without any there is one row of all.
    pub(super) by: Vec<String>,
    /// The buckets in the order of their edges, then the rows without a figure by their reasons, then credits.
    pub(super) buckets: Vec<String>,
    /// How many of them have edges.
    pub(super) with_edges: usize,
    pub(super) groups: Vec<SparseGroup>,
    pub(super) order: RowOrder,
    /// Of all groups, by bucket.
    pub(super) amounts: Vec<i128>,
    pub(super) total: i128,
    /// Open rows in each bucket.
    pub(super) counts: Vec<u64>,
    pub(super) scale: Scale,
}

/// Where a group is at one level.
#[derive(PartialEq, Eq, PartialOrd, Ord)]
enum Place {
    /// In the order of buckets, periods, numbers and dates.
    InOrder(Key),
    /// By what it owes, the most first.
    ByTotal(Reverse<i128>, String, Key),
}

/// The groups in their order: of levels that have an order by that, of the others by what they owe, the most first. Groups of several
/// levels are by their outer ones.
pub(super) fn in_order(
    named: NamedGroups<(Vec<(u16, i128)>, i128)>,
    levels: &[Level],
    column: &str,
) -> Result<Vec<SparseGroup>, RecordsError> {
    let mut totals: HashMap<Vec<Key>, i128> = HashMap::new();
    for (keys, (_, (_, total))) in &named {
        for level in 1..=levels.len() {
            let of_level = totals.entry(keys.iter().take(level).cloned().collect()).or_default();
            *of_level = of_level.checked_add(*total).ok_or_else(|| RecordsError::too_large_in_all(column))?;
        }
    }
    let mut groups: Vec<SparseGroup> = named
        .into_iter()
        .map(|(keys, (labels, (amounts, total)))| SparseGroup { keys, labels, amounts, total })
        .collect();
    groups.sort_by_cached_key(|group| -> Vec<Place> {
        let place = |((nth, key), (label, level)): ((usize, &Key), (&String, &Level))| {
            if level.has_an_order() {
                return Place::InOrder(key.clone());
            }
            let total = group.keys.get(..=nth).and_then(|keys| totals.get(keys));
            Place::ByTotal(Reverse(total.copied().unwrap_or(0)), label.clone(), key.clone())
        };
        group.keys.iter().enumerate().zip(group.labels.iter().zip(levels)).map(place).collect()
    });
    Ok(groups)
}

impl Owed {
    /// A row a group, or one of all where there are none, with a column a bucket and the total.
    pub(super) fn table(self, title: &str, shows: String, levels: &[Level]) -> Option<ReportTable> {
        let names = self.by.len();
        let last = names + self.buckets.len();
        let amount = |units: i128| ReportCell::Decimal(self.scale.amount(units));
        let named = |name: &str| {
            let empty = std::iter::repeat_n(ReportCell::Empty, names.saturating_sub(1));
            (names > 0).then(|| ReportCell::Text(name.to_owned())).into_iter().chain(empty)
        };
        let amounts = self.amounts.iter().chain([&self.total]).map(|units| amount(*units));
        let total: Vec<ReportCell> = named("Total").chain(amounts).collect();
        let counts = self.counts.iter().copied();
        let counts = counts.clone().chain([counts.sum()]).map(ReportCell::count);
        let place = |column: usize| u16::try_from(column).unwrap_or(u16::MAX);
        let cells = |group: &SparseGroup| {
            let names_of = group.labels.iter().zip(levels).map(|(label, level)| level.cell_of(label));
            let named = (0..names).map(place).zip(names_of);
            let amounts = group.amounts.iter();
            let amounts =
                amounts.map(|(bucket, units)| (place(names + usize::from(*bucket)), amount(*units)));
            named.chain(amounts).chain([(place(last), amount(group.total))]).collect()
        };
        let rows = match names {
            0 => ReportRows::from_iter([total.clone()]),
            _ => ReportRows::sparse(vec![amount(0); last + 1], self.groups.iter().map(cells)),
        };
        Some(ReportTable {
            title: title.to_owned(),
            shows: Some(shows),
            names,
            rows,
            order: self.order,
            total: Some(total),
            sums: self.sums_of_groups()?,
            further: vec![std::iter::once(ReportCell::Text("Rows".to_owned())).chain(counts).collect()],
            summed: (names..=last).collect(),
            share_of: Some(last),
            apart: (names + self.with_edges..last).collect(),
            columns: self.by.into_iter().chain(self.buckets).chain(["Total".to_owned()]).collect(),
            ..ReportTable::default()
        })
    }

    /// Sums after the rows of each group that has groups in it, the inner ones first; `None` where one is too large to hold.
    fn sums_of_groups(&self) -> Option<Vec<SumRow>> {
        let names = self.by.len();
        let mut sums = Vec::new();
        let mut open: Vec<Vec<i128>> = Vec::new();
        let mut groups = self.groups.iter().enumerate().peekable();
        while let Some((nth, group)) = groups.next() {
            open.resize(names.saturating_sub(1), vec![0; self.buckets.len() + 1]);
            for sum in &mut open {
                let total = (self.buckets.len(), group.total);
                let amounts = group.amounts.iter().map(|(bucket, units)| (usize::from(*bucket), *units));
                for (place, units) in amounts.chain([total]) {
                    let sum = sum.get_mut(place)?;
                    *sum = sum.checked_add(units)?;
                }
            }
            let next = groups.peek().map(|(_, next)| &next.keys);
            let same = next.map_or(0, |next| {
                group.keys.iter().zip(next).take_while(|(one, other)| one == other).count()
            });
            while open.len() > same {
                let amounts = open.pop()?;
                let level = open.len();
                let mut cells = vec![ReportCell::Empty; names];
                let label = group.labels.get(level)?;
                *cells.get_mut(level)? = ReportCell::Text(format!("{label}: total"));
                cells.extend(amounts.iter().map(|units| ReportCell::Decimal(self.scale.amount(*units))));
                sums.push(SumRow { behind: nth + 1, of: SumRowOf::Group, cells });
            }
        }
        Some(sums)
    }
}

/// Its groups, buckets and counts under names of their own.
pub(super) fn further(report: &Report) -> Vec<(&'static str, ReportDetail)> {
    let Some(table) = report.tables.first() else { return Vec::new() };
    let last = table.columns.len().saturating_sub(1);
    let cells =
        |cells: &[ReportCell]| ReportDetail::List(cells.iter().cloned().map(ReportDetail::Cell).collect());
    let of_buckets = |row: &[ReportCell]| cells(row.get(table.names..last).unwrap_or_default());
    let cell = |cell: Option<&ReportCell>| ReportDetail::Cell(cell.cloned().unwrap_or(ReportCell::Empty));
    let sums = |row: &[ReportCell]| [("amounts", of_buckets(row)), ("total", cell(row.get(last)))];
    let row = |row: Vec<ReportCell>| {
        // One name is as it is, several as a list.
        let by = match table.names {
            0 | 1 => cell(row.first().filter(|_| table.names > 0)),
            names => cells(row.get(..names).unwrap_or_default()),
        };
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

/// How many groups there are, and of what, after an amount: a header is a name and no English word, so it is neither made plural nor
/// written small.
pub(super) fn words_of_groups(groups: &[SparseGroup], by: &[String], to_whom: &str) -> Vec<ReportCell> {
    let text = |text: String| ReportCell::Text(text);
    let [name] = by else {
        return vec![
            text(" in ".to_owned()),
            ReportCell::count(groups.len()),
            text(format!(" groups of {}", by.join(" and "))),
        ];
    };
    let is_blank = |group: &&SparseGroup| matches!(group.keys.first(), Some(Key::Missing(_)));
    let blank = groups.iter().filter(is_blank).count();
    let named = groups.len() - blank;
    let values = if named == 1 { "value" } else { "values" };
    let mut words =
        vec![text(format!(" {to_whom} ")), ReportCell::count(named), text(format!(" {values} of {name}"))];
    if blank > 0 {
        words.push(text(format!(" and {to_whom} rows without one")));
    }
    words
}
