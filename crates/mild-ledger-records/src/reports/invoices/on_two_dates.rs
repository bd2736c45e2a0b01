//! The same invoices seen from two dates.

use super::{Invoices, PlannedInvoices};
use crate::columns::Binder;
use crate::mistakes::{At, Walk};
use crate::reports::{Heading, PlannedDay, read_day};
use mild_ledger::Date;
use toml::de::DeTable;

/// The columns of invoices, and an earlier date from which they are looked at too.
#[derive(Debug)]
pub(in crate::reports) struct OnTwoDates {
    since: At<PlannedDay>,
    invoices: PlannedInvoices,
}

impl OnTwoDates {
    pub(in crate::reports) fn read(walk: &mut Walk, table: &DeTable, heading: &Heading) -> Option<Self> {
        const SINCE: &str = "since = 2026-06-30, or a day such as \"end of last month\"";
        let since = walk.needed(table, "since", heading.span.clone(), SINCE);
        let since = since.and_then(|value| read_day(walk, value, SINCE));
        let invoices = PlannedInvoices::read(walk, table, heading);
        Some(Self { since: since?, invoices: invoices? })
    }

    /// The dates of the heading, and the earlier one of each of them.
    pub(in crate::reports) fn other_dates(&self, heading: &Heading, binder: &mut Binder<'_>) -> Vec<Date> {
        let mut dates = heading.dates(binder).unwrap_or_default();
        let closing = if dates.is_empty() { binder.known_as_of().map(|as_of| as_of.date) } else { None };
        let closing = dates.iter().copied().chain(closing);
        let opening: Vec<Date> = closing.filter_map(|date| self.since.value.from(date).ok()).collect();
        dates.extend(opening);
        dates
    }

    /// The invoices on the earlier date, and on that from which the binder looks; what is wrong with them is reported.
    pub(in crate::reports) fn bind(
        &self,
        binder: &mut Binder<'_>,
        heading: &Heading,
    ) -> Option<[Invoices; 2]> {
        let since = self.since.value.seen(&self.since.span, binder)?;
        let closing = self.invoices.bind(binder, heading)?;
        if since >= closing.as_of {
            let what = format!("{since} does not lie before {}", closing.as_of);
            binder.mistakes.tell(self.since.span.clone(), what, "an earlier date than the as-of date");
            return None;
        }
        let opening = binder.seen_from(since, |binder| self.invoices.bind(binder, heading))?;
        Some([opening, closing])
    }
}
