//! Adding up what is owed, by group and bucket.

use super::RecordsError;
use super::job::{BoundReport, Job, Kind};
use super::outcome::{AgingGroup, AgingReport, ReportProof, RowsApart};
use super::rows::too_large;
use super::table::{Data, NO_DATE, Table};
use mild_ledger::{Invoice, Standing};
use std::collections::HashMap;

/// The bucket behind those without a date.
const CREDITS: &str = "Credits";

/// The sums of one aging report.
pub(super) struct AgingTotals<'j> {
    report: &'j BoundReport,
    /// Buckets of the band, then the one without a date, then credits.
    buckets: Vec<String>,
    groups: HashMap<String, Vec<i128>>,
    counts: Vec<u64>,
    settled: i128,
    not_yet_issued: i128,
    apart: RowsApart,
    paid_unreadable: u64,
    spaced: u64,
}

impl<'j> AgingTotals<'j> {
    pub(super) fn new(job: &Job, report: &'j BoundReport) -> Self {
        let mut buckets = match job.kind(report.band) {
            Kind::Band { buckets } => buckets.labels().to_vec(),
            _ => Vec::new(),
        };
        buckets.extend([NO_DATE.to_owned(), CREDITS.to_owned()]);
        let counts = vec![0; buckets.len()];
        Self {
            report,
            buckets,
            groups: HashMap::new(),
            counts,
            settled: 0,
            not_yet_issued: 0,
            apart: RowsApart::default(),
            paid_unreadable: 0,
            spaced: 0,
        }
    }

    /// Adds a row that is written.
    pub(super) fn add(&mut self, job: &Job, table: &Table<'_>, row: usize) -> Result<(), RecordsError> {
        let report = self.report;
        let Some(units) = table.number(report.amount, row) else {
            self.apart.no_amount += 1;
            return Ok(());
        };
        let invoice = Invoice {
            amount: report.scale.amount(units),
            issued: report.issued.and_then(|column| table.date(column, row)),
            paid: report.paid.and_then(|column| table.date(column, row)),
        };
        let no_date = self.buckets.len() - 2;
        let bucket = match invoice.standing_on(job.as_of) {
            Standing::NotYetIssued => {
                self.apart.not_yet_issued += 1;
                return add_to(&mut self.not_yet_issued, units, job.name(report.amount));
            }
            Standing::Settled => {
                self.apart.settled += 1;
                return add_to(&mut self.settled, units, job.name(report.amount));
            }
            Standing::Credit => no_date + 1,
            Standing::Open => table.number(report.band, row).map_or(no_date, |bucket| bucket as usize),
        };
        if let Some(Data::Date { unreadable, .. }) = report.paid.and_then(|column| table.columns.get(column))
        {
            self.paid_unreadable += u64::from(unreadable.get(row).copied().unwrap_or(false));
        }
        self.counts[bucket] += 1;
        let name =
            report.by.map_or_else(Default::default, |column| table.shown(column, row, job.kind(column)));
        let trimmed = name.trim();
        self.spaced += u64::from(trimmed.len() != name.len());
        if !self.groups.contains_key(trimmed) {
            self.groups.insert(trimmed.to_owned(), vec![0; self.buckets.len()]);
        }
        match self.groups.get_mut(trimmed) {
            Some(amounts) => add_to(&mut amounts[bucket], units, job.name(report.amount)),
            None => Ok(()),
        }
    }

    /// What a reader of the report should know beside its figures.
    pub(super) fn notes(&self, job: &Job) -> Vec<String> {
        let mut notes = Vec::new();
        if let (Some(paid), true) = (self.report.paid, self.paid_unreadable > 0) {
            let rows = counted(self.paid_unreadable, "open row has", "open rows have");
            notes.push(format!(
                "{rows} a \"{}\" that could not be read, and counts as not paid",
                job.name(paid)
            ));
        }
        if let (Some(by), true) = (self.report.by, self.spaced > 0) {
            let rows = counted(self.spaced, "open row has", "open rows have");
            notes.push(format!(
                "{rows} spaces around its \"{}\", which were left out to group by it",
                job.name(by)
            ));
        }
        if self.apart.no_amount > 0 {
            let rows = counted(self.apart.no_amount, "row has", "rows have");
            notes.push(format!("{rows} no \"{}\" and stands in no bucket", job.name(self.report.amount)));
        }
        notes
    }

    pub(super) fn into_report(self, job: &Job) -> Result<AgingReport, RecordsError> {
        let (scale, column) = (self.report.scale, job.name(self.report.amount));
        let finish = |name: String, units: Vec<i128>| -> Result<AgingGroup, RecordsError> {
            let mut total = 0;
            units.iter().try_for_each(|units| add_to(&mut total, *units, column))?;
            let amounts = units.into_iter().map(|units| scale.amount(units)).collect();
            Ok(AgingGroup { name, amounts, total: scale.amount(total) })
        };
        let mut sums = vec![0; self.buckets.len()];
        for amounts in self.groups.values() {
            for (sum, units) in sums.iter_mut().zip(amounts) {
                add_to(sum, *units, column)?;
            }
        }
        let total = finish(String::new(), sums.clone())?;
        let mut groups = self
            .groups
            .into_iter()
            .map(|(name, units)| finish(name, units))
            .collect::<Result<Vec<_>, _>>()?;
        groups.sort_by(|a, b| b.total.units().cmp(&a.total.units()).then_with(|| a.name.cmp(&b.name)));
        let credits = sums.last().copied().unwrap_or(0);
        let in_buckets = total.total.units() - credits;
        let mut written = in_buckets;
        for units in [credits, self.settled, self.not_yet_issued] {
            add_to(&mut written, units, column)?;
        }
        let proof = ReportProof {
            written: scale.amount(written),
            in_buckets: scale.amount(in_buckets),
            credits: scale.amount(credits),
            settled: scale.amount(self.settled),
            not_yet_issued: scale.amount(self.not_yet_issued),
        };
        Ok(AgingReport {
            title: self.report.title.clone(),
            by: self.report.by.map(|column| job.name(column).to_owned()),
            amount_column: column.to_owned(),
            band_column: job.name(self.report.band).to_owned(),
            buckets: self.buckets,
            groups,
            total,
            counts: self.counts,
            proof,
            apart: self.apart,
        })
    }
}

fn add_to(sum: &mut i128, units: i128, column: &str) -> Result<(), RecordsError> {
    *sum = sum.checked_add(units).ok_or_else(|| too_large(column))?;
    Ok(())
}

/// A count with the words that agree with it.
pub(super) fn counted(count: u64, one: &str, more: &str) -> String {
    format!("{count} {}", if count == 1 { one } else { more })
}
