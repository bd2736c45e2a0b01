//! What the rows say that hangs on calendars: figures that rest on days which are not yet proclaimed, and figures that would be others by a calendar beside
//! that of the plan.

use super::job::Job;
use crate::handover::handed_over;
use crate::table::Table;
use mild_ledger::CalendarYears;
use serde::{Deserialize, Serialize};

/// What the rows of a run say of both.
pub(super) struct CalendarTallies {
    twins: Vec<TwinTally>,
    by_rule: Vec<RuleTally>,
}

#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct TwinTally {
    figures: u64,
    different: u64,
    /// Rows that only one of the two calendars covers.
    one_only: u64,
}

#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct RuleTally {
    figures: u64,
    last_year: Option<i32>,
}

handed_over!(CalendarTallies: twins, by_rule; known:);

impl CalendarTallies {
    pub(super) fn new(job: &Job) -> Self {
        Self {
            twins: vec![TwinTally::default(); job.twins.len()],
            by_rule: vec![RuleTally::default(); job.by_rule.len()],
        }
    }

    /// Takes the rows of a batch that are written.
    pub(super) fn count(&mut self, job: &Job, table: &Table, written: &[usize]) {
        for (tally, of) in self.twins.iter_mut().zip(&job.twins) {
            for row in written {
                match (table.is_empty(of.column, *row), table.is_empty(of.twin, *row)) {
                    (true, true) => {}
                    (false, false) => {
                        tally.figures += 1;
                        let shown = |column: usize| table.shown(column, *row);
                        tally.different += u64::from(shown(of.column) != shown(of.twin));
                    }
                    _ => tally.one_only += 1,
                }
            }
        }
        for (tally, of) in self.by_rule.iter_mut().zip(&job.by_rule) {
            let goes_by_it =
                |row: usize| of.named_by.is_none_or(|names| table.text(names, row) == of.calendar);
            let counted = |row: &&usize| !table.is_empty(of.column, **row) && goes_by_it(**row);
            for row in written.iter().filter(counted) {
                let columns = of.inputs.iter().chain([&of.column]);
                let years = columns.filter_map(|column| Some(table.date(*column, *row)?.year()));
                if let Some(last) = years.chain(of.as_of).max().filter(|year| *year >= of.years.first()) {
                    tally.figures += 1;
                    tally.last_year = tally.last_year.max(Some(last));
                }
            }
        }
    }

    /// Takes over what another worker counted.
    pub(super) fn merge(&mut self, other: &Self) {
        for (tally, other) in self.twins.iter_mut().zip(&other.twins) {
            tally.figures += other.figures;
            tally.different += other.different;
            tally.one_only += other.one_only;
        }
        for (tally, other) in self.by_rule.iter_mut().zip(&other.by_rule) {
            tally.figures += other.figures;
            tally.last_year = tally.last_year.max(other.last_year);
        }
    }

    /// A sentence a column.
    pub(super) fn notes(&self, job: &Job) -> Vec<String> {
        let figures =
            |count: u64| if count == 1 { "1 figure".to_owned() } else { format!("{count} figures") };
        let by_rule = self.by_rule.iter().zip(&job.by_rule).filter_map(|(tally, of)| {
            let last = tally.last_year?.min(of.years.last());
            let years = CalendarYears::of(of.years.first(), last);
            let (rest, they) = if tally.figures == 1 { ("rests", "it") } else { ("rest", "they") };
            Some(format!(
                "{} of \"{}\" {rest} on days of {years} that are by rule in the calendar \"{}\", not yet proclaimed: {they} may change",
                figures(tally.figures),
                job.name(of.column),
                of.calendar,
            ))
        });
        let twins = self.twins.iter().zip(&job.twins).map(|(tally, of)| {
            let [own, beside] = &of.calendars;
            let one_only = match tally.one_only {
                0 => String::new(),
                rows => format!("; {} more only one of the two covers", figures(rows)),
            };
            format!(
                "by the calendar \"{beside}\" in place of \"{own}\", {} of {} of \"{}\" would differ{one_only}",
                tally.different,
                figures(tally.figures),
                job.name(of.column),
            )
        });
        by_rule.chain(twins).collect()
    }
}
