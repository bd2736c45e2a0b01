//! What is owed, by group and bucket.

mod credits;
mod owed;
mod placed_sums;
mod tally;

use super::groups::{PlannedLevel, read_levels};
use super::invoices::{Invoices, PlannedInvoices};
use super::{BoundReport, Heading, PlannedReport, ReportKind, Tally};
use crate::columns::{Binder, Figures};
use crate::mistakes::Walk;
use credits::{BoundCredits, PlannedCredits};
use std::sync::Arc;
use tally::AgingTally;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "aging",
    gives: "what is owed, by bucket and perhaps by group",
    title: "Aging",
    keys: &["band", "amount", "issued", "paid", "payments", "by", "credits"],
    read,
    further: owed::further,
};

/// An aging as the plan says it.
#[derive(Debug)]
struct PlannedAging {
    heading: Heading,
    invoices: PlannedInvoices,
    by: Vec<PlannedLevel>,
    credits: PlannedCredits,
}

/// An aging bound to its columns.
struct BoundAging {
    title: String,
    invoices: Invoices,
    credits: BoundCredits,
    figures: Figures,
}

/// `[[report]]` with `kind = "aging"`.
fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let invoices = PlannedInvoices::read(walk, table, &heading);
    let by = read_levels(walk, table);
    let credits = credits::read(walk, table.get("credits"));
    Some(Box::new(PlannedAging { heading, invoices: invoices?, by: by?, credits: credits? }))
}

impl PlannedReport for PlannedAging {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    /// An aging always is on a day.
    fn uses_as_of(&self) -> bool {
        true
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let invoices = self.invoices.bind(binder, &self.heading);
        let levels: Vec<Option<_>> = self.by.iter().map(|level| level.bind(binder)).collect();
        let levels = levels.into_iter().collect::<Option<Vec<_>>>()?;
        let credits = self.credits.bind(levels, binder)?;
        let invoices = invoices?;
        let title = self.heading.title_in(binder);
        Some(Box::new(Arc::new(BoundAging { title, invoices, credits, figures: binder.figures })))
    }
}

impl BoundReport for Arc<BoundAging> {
    fn amounts(&self) -> Vec<usize> {
        vec![self.invoices.amount]
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(AgingTally::of(Arc::clone(self)))
    }
}
