//! How the values of a figure are distributed: by bands, their quartiles, and the outliers among them.

mod counted;
mod shown;
mod tally;

use super::{BoundReport, Heading, PlannedReport, ReportKind, Tally};
use crate::columns::{Binder, NumberUse};
use crate::mistakes::{At, Walk};
use crate::table::{BandKind, Kind};
use counted::DistributionTally;
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "distribution",
    gives: "how a figure is distributed: by bands, its quartiles, and outliers marked",
    title: "Distribution",
    keys: &["of", "band"],
    read,
    further: |_| Vec::new(),
};

/// A distribution as the plan says it.
#[derive(Debug)]
struct PlannedDistribution {
    heading: Heading,
    of: At<String>,
    band: Option<At<String>>,
}

/// A distribution bound to its columns.
struct BoundDistribution {
    title: String,
    of: usize,
    decimals: u8,
    is_amount: bool,
    /// Buckets of the plan in place of even bands.
    band: Option<(usize, BandKind)>,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let of = walk.needed(table, "of", heading.span.clone(), "of = \"…\", a column of numbers or amounts");
    let of = of.and_then(|value| walk.text(value, "the name of a column"));
    let band = match table.get("band") {
        Some(value) => Some(walk.text(value, "the name of a column of buckets")?),
        None => None,
    };
    Some(Box::new(PlannedDistribution { heading, of: of?, band }))
}

impl PlannedReport for PlannedDistribution {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    fn uses_as_of(&self) -> bool {
        false
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let of = binder.find(&self.of)?;
        binder.take_as(of, NumberUse::Figures);
        let kind = binder.kind(of).clone();
        let Some(decimals) = kind.decimals() else {
            let what = format!("\"{}\" holds {}", self.of.value.escape_debug(), kind.word());
            binder.mistakes.tell(self.of.span.clone(), what, "a column of numbers or amounts");
            return None;
        };
        let band = match &self.band {
            Some(name) => {
                let column = binder.find(name)?;
                let Kind::Band(band) = binder.kind(column).clone() else {
                    let held = binder.kind(column).word();
                    let what = format!("\"{}\" holds {held}, not buckets", name.value.escape_debug());
                    binder.mistakes.tell(name.span.clone(), what, "a column made with bucket and edges");
                    return None;
                };
                Some((column, band))
            }
            None => None,
        };
        Some(Box::new(Arc::new(BoundDistribution {
            title: self.heading.title_in(binder),
            of,
            decimals,
            is_amount: matches!(kind, Kind::Amount { .. }),
            band,
        })))
    }
}

impl BoundReport for Arc<BoundDistribution> {
    fn amounts(&self) -> Vec<usize> {
        if self.is_amount { vec![self.of] } else { Vec::new() }
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(DistributionTally::of(Arc::clone(self)))
    }
}
