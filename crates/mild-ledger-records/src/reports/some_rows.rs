//! A report of some rows only: those of which the plan's conditions hold. The others are in its proof.

use super::{
    BoundReport, Heading, ProofAgainst, ProofLine, ProofPart, ProofValue, Report, Tally, counted,
    of_one_report,
};
use crate::columns::{Binder, BoundCondition, Condition, all_hold};
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving};
use crate::table::{Kind, Layout, Origins, Table};
use mild_ledger::Decimal;
use std::any::Any;
use std::sync::Arc;

/// What the rows that are left out are called in a proof.
const LEFT_OUT: &str = "left out by its conditions";

/// The report itself where its heading has no conditions, else one of the rows that they hold of; what is wrong with them is reported.
pub(crate) fn of_some_rows(
    report: Box<dyn BoundReport>,
    heading: &Heading,
    binder: &mut Binder<'_>,
) -> Option<Box<dyn BoundReport>> {
    if heading.when.is_empty() {
        return Some(report);
    }
    let conditions = binder.conditions(&heading.when)?;
    let said: Vec<String> = heading.when.iter().map(Condition::in_words).collect();
    let said = format!("Only rows with {}.", said.join(", and "));
    Some(Box::new(OfSomeRows { report: Arc::from(report), conditions: Arc::from(conditions), said }))
}

struct OfSomeRows {
    report: Arc<dyn BoundReport>,
    conditions: Arc<[BoundCondition]>,
    said: String,
}

impl BoundReport for OfSomeRows {
    fn amounts(&self) -> Vec<usize> {
        self.report.amounts()
    }

    fn tally(&self) -> Box<dyn Tally> {
        let mut amounts = self.report.amounts();
        amounts.sort_unstable();
        amounts.dedup();
        Box::new(SomeRows {
            tally: self.report.tally(),
            conditions: Arc::clone(&self.conditions),
            said: self.said.clone(),
            left_out: 0,
            amounts: amounts.into_iter().map(|column| (column, 0)).collect(),
        })
    }
}

/// The tally of some rows, and what the others come to.
struct SomeRows {
    tally: Box<dyn Tally>,
    conditions: Arc<[BoundCondition]>,
    said: String,
    left_out: u64,
    /// Units of the columns that the report adds up or compares.
    amounts: Vec<(usize, i128)>,
}

impl Counts for SomeRows {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        into.put(&(self.left_out, &self.amounts))?;
        self.tally.save(into)
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        (self.left_out, self.amounts) = from.take()?;
        self.tally.restore(from)
    }
}

impl Tally for SomeRows {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let (wanted, others): (Vec<usize>, Vec<usize>) =
            rows.iter().partition(|row| all_hold(&self.conditions, table, **row));
        self.left_out += others.len() as u64;
        for (column, sum) in &mut self.amounts {
            for row in &others {
                let units = table.units(*column, *row).unwrap_or(0);
                let too_large =
                    || RecordsError::too_large(layout.name(*column), &layout.place(origins.of(*row)));
                *sum = sum.checked_add(units).ok_or_else(too_large)?;
            }
        }
        self.tally.add(layout, table, &wanted, origins)
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        let other = of_one_report::<Self>(other)?;
        self.left_out += other.left_out;
        for ((column, sum), (_, more)) in self.amounts.iter_mut().zip(other.amounts) {
            *sum =
                sum.checked_add(more).ok_or_else(|| RecordsError::too_large_in_all(layout.name(*column)))?;
        }
        self.tally.merge(other.tally, layout)
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        let Self { tally, said, left_out, amounts, .. } = *self;
        let mut report = tally.finish(layout)?;
        report.explanation.insert(0, said);
        if left_out > 0 {
            let rows = counted(left_out, "row is", "rows are");
            report.notes.push(format!("{rows} left out of \"{}\" by its conditions", report.title));
        }
        for line in &mut report.proof {
            let part = match &line.against {
                ProofAgainst::RowsWritten => Some(ProofValue::Rows(left_out)),
                ProofAgainst::AmountWritten(name, _) => {
                    amount_of(&amounts, name, layout).map(ProofValue::Amount)
                }
            };
            let added = part.and_then(|part| add_part(line, part));
            added.ok_or_else(|| RecordsError::too_large_in_all(&line.what))?;
        }
        Ok(report)
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}

/// The amounts left out of a column.
fn amount_of(amounts: &[(usize, i128)], name: &str, layout: &Layout) -> Option<Decimal> {
    let (column, units) = amounts.iter().find(|(column, _)| layout.name(*column) == name)?;
    match layout.kind(*column) {
        Kind::Amount { scale, .. } => Some(scale.amount(*units)),
        _ => None,
    }
}

/// The rows written are those of the report and those that it leaves out.
fn add_part(line: &mut ProofLine, part: ProofValue) -> Option<()> {
    line.whole.value = match (line.whole.value, part) {
        (ProofValue::Rows(rows), ProofValue::Rows(more)) => ProofValue::Rows(rows.checked_add(more)?),
        (ProofValue::Amount(amount), ProofValue::Amount(more)) => {
            ProofValue::Amount(amount.checked_add(more)?)
        }
        _ => return None,
    };
    line.parts.push(ProofPart { name: LEFT_OUT.to_owned(), value: part });
    Some(())
}
