//! What is owed, by group and bucket.

use crate::columns::{AsOfDate, Binder};
use crate::error::RecordsError;
use crate::mistakes::{At, Keys, Walk};
use crate::table::{BandKind, Gap, Kind, Layout, Table};
use mild_ledger::{Date, Decimal, Invoice, Scale, Standing};
use std::collections::HashMap;
use std::ops::Range;
use toml::de::DeTable;

/// The bucket behind those without a figure.
const CREDITS: &str = "Credits";

pub(crate) const REPORT: Keys<'static> = Keys {
    part: "[[report]]",
    known: &["kind", "title", "band", "amount", "issued", "paid", "by"],
    later: &["credits", "show"],
};

/// What is owed, by customer and bucket.
#[derive(Debug, Clone)]
pub struct AgingReport {
    /// The report's title.
    pub title: String,
    /// The column that rows are grouped by, if any.
    pub by: Option<String>,
    /// The column of amounts.
    pub amount_column: String,
    /// The column of buckets.
    pub band_column: String,
    /// The buckets in the order of their edges, then the rows without a figure by their reasons, then credits.
    pub buckets: Vec<String>,
    groups: Vec<SparseGroup>,
    /// The sums of all groups; its name is empty.
    pub total: AgingGroup,
    /// Open rows in each bucket.
    pub counts: Vec<u64>,
    /// How the amounts add up to what was written.
    pub proof: ReportProof,
    /// Rows that are in no bucket.
    pub apart: RowsApart,
    scale: Scale,
}

/// One group of an aging, or the total of all.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AgingGroup {
    /// What its rows have in common.
    pub name: String,
    /// One amount a bucket.
    pub amounts: Vec<Decimal>,
    /// Their sum.
    pub total: Decimal,
}

/// A group with the amounts of those buckets that have any, since most of many customers owe in one or two.
#[derive(Debug, Clone)]
struct SparseGroup {
    name: String,
    amounts: Vec<(u16, i128)>,
    total: i128,
}

/// How a report's amounts add up: written is the sum of the others.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct ReportProof {
    /// The sum of the amounts of all rows written.
    pub written: Decimal,
    /// What is in buckets, credits left out.
    pub in_buckets: Decimal,
    /// Open amounts below zero.
    pub credits: Decimal,
    /// What is settled.
    pub settled: Decimal,
    /// What was issued after the as-of date.
    pub not_yet_issued: Decimal,
}

/// Rows of a report that are in no bucket.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct RowsApart {
    /// Settled on or before the as-of date.
    pub settled: u64,
    /// Issued after it.
    pub not_yet_issued: u64,
    /// Without an amount.
    pub no_amount: u64,
}

#[cfg(test)]
impl AgingReport {
    /// A report without groups, to try its proof on.
    pub(crate) fn of_proof(proof: ReportProof, counts: Vec<u64>, apart: RowsApart) -> Self {
        let scale = proof.written.scale();
        Self {
            title: "Aging".to_owned(),
            by: None,
            amount_column: "Amount".to_owned(),
            band_column: String::new(),
            buckets: Vec::new(),
            groups: Vec::new(),
            total: AgingGroup { name: String::new(), amounts: Vec::new(), total: scale.amount(0) },
            counts,
            proof,
            apart,
            scale,
        }
    }
}

impl AgingReport {
    /// How many groups there are.
    #[must_use]
    pub fn group_count(&self) -> usize {
        self.groups.len()
    }

    /// The groups, largest total first.
    pub fn groups(&self) -> impl Iterator<Item = AgingGroup> + '_ {
        self.groups.iter().map(|group| {
            let mut amounts = vec![self.scale.amount(0); self.buckets.len()];
            for (bucket, units) in &group.amounts {
                if let Some(amount) = amounts.get_mut(usize::from(*bucket)) {
                    *amount = self.scale.amount(*units);
                }
            }
            AgingGroup { name: group.name.clone(), amounts, total: self.scale.amount(group.total) }
        })
    }
}

/// An aging as the plan says it.
#[derive(Debug)]
pub(crate) struct PlannedReport {
    title: String,
    span: Range<usize>,
    band: At<String>,
    amount: At<String>,
    issued: Option<At<String>>,
    paid: Option<At<String>>,
    by: Option<At<String>>,
}

/// An aging bound to its columns.
pub(crate) struct BoundReport {
    title: String,
    band: usize,
    band_kind: BandKind,
    pub(crate) amount: usize,
    scale: Scale,
    issued: Option<usize>,
    paid: Option<usize>,
    by: Option<usize>,
    as_of: Date,
}

/// `[[report]]` with `kind = "aging"`.
pub(crate) fn read_report(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<PlannedReport> {
    walk.check_keys(table, &REPORT);
    let kind = walk.needed(table, "kind", span.clone(), "kind = \"aging\"");
    let kind = kind.and_then(|value| walk.choice(value, &[("aging", ())]));
    let title = match table.get("title") {
        Some(value) => walk.text(value, "a text").map(|title| title.value),
        None => Some("Aging".to_owned()),
    };
    let mut column = |key: &str| table.get(key).and_then(|value| walk.text(value, "the name of a column"));
    let (issued, paid, by) = (column("issued"), column("paid"), column("by"));
    let (band, amount) = (column("band"), column("amount"));
    for (key, value) in [("band", &band), ("amount", &amount)] {
        if value.is_none() && !table.contains_key(key) {
            walk.mistakes.tell(
                span.clone(),
                format!("{key} is missing"),
                format!("{key} = \"…\", the name of a column"),
            );
        }
    }
    kind?;
    Some(PlannedReport { title: title?, span, band: band?, amount: amount?, issued, paid, by })
}

impl PlannedReport {
    /// An aging always stands on a day.
    #[expect(clippy::unused_self, reason = "other kinds of reports will look at what they say")]
    pub(crate) fn uses_as_of(&self) -> bool {
        true
    }

    pub(crate) fn bind(&self, binder: &mut Binder<'_>) -> Option<BoundReport> {
        let as_of: Option<AsOfDate> = binder.as_of(&self.span);
        let band = binder.find(&self.band);
        let band = match band.map(|band| (band, binder.kind(band).clone())) {
            Some((nth, Kind::Band(band))) => Some((nth, band)),
            Some((nth, kind)) => {
                let in_error = nth >= binder.columns_of_file && matches!(kind, Kind::Text);
                let what =
                    format!("\"{}\" holds {}, not buckets", self.band.value.escape_debug(), kind.word());
                // A column in error holds nothing, and was told of.
                if !in_error || binder.mistakes.count() == 0 {
                    binder.mistakes.tell(self.band.span.clone(), what, "a column made with bucket and edges");
                }
                None
            }
            None => None,
        };
        let amount = binder.find(&self.amount);
        let scale = match amount.map(|amount| binder.kind(amount).clone()) {
            Some(Kind::Amount { scale, .. }) => Some(scale),
            Some(other) => {
                let what =
                    format!("\"{}\" holds {}, not amounts", self.amount.value.escape_debug(), other.word());
                binder.mistakes.tell(
                    self.amount.span.clone(),
                    what,
                    "a column named under [records.amounts]",
                );
                None
            }
            None => None,
        };
        let mut dates = |name: &Option<At<String>>| match name {
            Some(name) => binder.find_dates(name).map(Some),
            None => Some(None),
        };
        let (issued, paid) = (dates(&self.issued), dates(&self.paid));
        let by = match &self.by {
            Some(name) => Some(binder.find(name)?),
            None => None,
        };
        let (as_of, (band, band_kind)) = (as_of?.date, band?);
        Some(BoundReport {
            title: self.title.replace("{as_of}", &as_of.to_string()),
            band,
            band_kind,
            amount: amount?,
            scale: scale?,
            issued: issued?,
            paid: paid?,
            by,
            as_of,
        })
    }
}

/// The sums of one aging report.
pub(crate) struct AgingTotals<'j> {
    report: &'j BoundReport,
    groups: HashMap<String, Vec<(u16, i128)>>,
    /// By bucket, then by the reason of rows without a figure, then credits.
    counts: Vec<u64>,
    settled: i128,
    not_yet_issued: i128,
    apart: RowsApart,
    paid_unreadable: u64,
    spaced: u64,
}

impl<'j> AgingTotals<'j> {
    pub(crate) fn new(report: &'j BoundReport) -> Self {
        Self {
            report,
            groups: HashMap::new(),
            counts: vec![0; report.bucket_count() + Gap::ALL.len() + 1],
            settled: 0,
            not_yet_issued: 0,
            apart: RowsApart::default(),
            paid_unreadable: 0,
            spaced: 0,
        }
    }

    /// Adds a row that is written.
    pub(crate) fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        row: usize,
        number: u64,
    ) -> Result<(), RecordsError> {
        let report = self.report;
        let Some(units) = table.units(report.amount, row) else {
            self.apart.no_amount += 1;
            return Ok(());
        };
        let too_large = || RecordsError::too_large(layout.name(report.amount), number);
        let add_to = |sum: &mut i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(too_large)?;
            Ok(())
        };
        let invoice = Invoice {
            amount: report.scale.amount(units),
            issued: report.issued.and_then(|column| table.date(column, row)),
            paid: report.paid.and_then(|column| table.date(column, row)),
        };
        let bucket = match invoice.standing_on(report.as_of) {
            Standing::NotYetIssued => {
                self.apart.not_yet_issued += 1;
                return add_to(&mut self.not_yet_issued);
            }
            Standing::Settled => {
                self.apart.settled += 1;
                return add_to(&mut self.settled);
            }
            Standing::Credit => report.bucket_count() + Gap::ALL.len(),
            Standing::Open => match table.order_number(report.band, row).map(usize::try_from) {
                Some(Ok(bucket)) => bucket,
                _ => report.bucket_of_gap(table.gap(report.band, row).unwrap_or(Gap::Blank)),
            },
        };
        let is_unreadable = report.paid.is_some_and(|column| table.is_unreadable(column, row));
        self.paid_unreadable += u64::from(is_unreadable);
        self.counts[bucket] += 1;
        let name = report.by.map_or_else(Default::default, |column| table.shown(column, row));
        let trimmed = name.trim();
        self.spaced += u64::from(trimmed.len() != name.len());
        if !self.groups.contains_key(trimmed) {
            self.groups.insert(trimmed.to_owned(), Vec::new());
        }
        let Some(amounts) = self.groups.get_mut(trimmed) else { return Ok(()) };
        let bucket = u16::try_from(bucket).unwrap_or(u16::MAX);
        match amounts.iter_mut().find(|(known, _)| *known == bucket) {
            Some((_, sum)) => add_to(sum),
            None => {
                amounts.push((bucket, units));
                Ok(())
            }
        }
    }

    /// What a reader of the report should know beside its figures.
    pub(crate) fn notes(&self, layout: &Layout) -> Vec<String> {
        let mut notes = Vec::new();
        let open_rows = |count| counted(count, "open row has", "open rows have");
        if let (Some(paid), true) = (self.report.paid, self.paid_unreadable > 0) {
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
            let amount = layout.name(self.report.amount);
            notes.push(format!("{rows} no \"{amount}\" and stands in no bucket"));
        }
        notes
    }

    pub(crate) fn into_report(self, layout: &Layout) -> Result<AgingReport, RecordsError> {
        let (scale, column) = (self.report.scale, layout.name(self.report.amount));
        let sum = |units: &[i128]| -> Result<i128, RecordsError> {
            let total = units.iter().try_fold(0_i128, |sum, units| sum.checked_add(*units));
            total.ok_or_else(|| RecordsError::too_large_in_all(column))
        };
        // The buckets of the band, "No date", the other reasons that rows have, and credits.
        let labels = self.report.band_kind.buckets.labels().iter().cloned();
        let (gaps, credits) = (self.report.bucket_count(), self.counts.len() - 1);
        let kept = |nth: usize| !(gaps + 1..credits).contains(&nth) || self.counts[nth] > 0;
        let buckets: Vec<(usize, String)> = labels
            .chain(Gap::ALL.map(|gap| gap.bucket(&self.report.band_kind).to_owned()))
            .chain([CREDITS.to_owned()])
            .enumerate()
            .filter(|(nth, _)| kept(*nth))
            .collect();
        let place_of = |bucket: u16| buckets.iter().position(|(nth, _)| *nth == usize::from(bucket));
        let mut sums = vec![0_i128; buckets.len()];
        let mut groups = Vec::with_capacity(self.groups.len());
        for (name, mut amounts) in self.groups {
            for (bucket, units) in &mut amounts {
                let place = place_of(*bucket).unwrap_or(0);
                *bucket = u16::try_from(place).unwrap_or(u16::MAX);
                sums[place] = sum(&[sums[place], *units])?;
            }
            let units: Vec<i128> = amounts.iter().map(|(_, units)| *units).collect();
            let total = sum(&units)?;
            groups.push(SparseGroup { name, amounts, total });
        }
        groups.sort_by(|a, b| b.total.cmp(&a.total).then_with(|| a.name.cmp(&b.name)));
        let credits = sums.last().copied().unwrap_or(0);
        let total = sum(&sums)?;
        let in_buckets = total - credits;
        let written = sum(&[in_buckets, credits, self.settled, self.not_yet_issued])?;
        let amounts = sums.into_iter().map(|units| scale.amount(units)).collect();
        Ok(AgingReport {
            title: self.report.title.clone(),
            by: self.report.by.map(|column| layout.name(column).to_owned()),
            amount_column: column.to_owned(),
            band_column: layout.name(self.report.band).to_owned(),
            counts: buckets.iter().map(|(nth, _)| self.counts[*nth]).collect(),
            buckets: buckets.into_iter().map(|(_, label)| label).collect(),
            groups,
            total: AgingGroup { name: String::new(), amounts, total: scale.amount(total) },
            proof: ReportProof {
                written: scale.amount(written),
                in_buckets: scale.amount(in_buckets),
                credits: scale.amount(credits),
                settled: scale.amount(self.settled),
                not_yet_issued: scale.amount(self.not_yet_issued),
            },
            apart: self.apart,
            scale,
        })
    }
}

impl BoundReport {
    fn bucket_count(&self) -> usize {
        self.band_kind.buckets.labels().len()
    }

    fn bucket_of_gap(&self, gap: Gap) -> usize {
        self.bucket_count() + Gap::ALL.iter().position(|known| *known == gap).unwrap_or(0)
    }
}

/// A count with the words that agree with it.
fn counted(count: u64, one: &str, more: &str) -> String {
    format!("{count} {}", if count == 1 { one } else { more })
}
