//! What the rows say that hangs on calendars: figures that rest on days which are not yet proclaimed, and figures that would be others by a calendar next to
//! that of the plan.

use super::job::Job;
use crate::calendars::{FiguresByRule, Resting};
use crate::handover::handed_over;
use crate::table::Table;
use serde::{Deserialize, Serialize};

/// What the rows of a run say of both.
pub(super) struct CalendarTallies {
    twins: Vec<TwinTally>,
    by_rule: Vec<FiguresByRule>,
}

#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct TwinTally {
    figures: u64,
    different: u64,
    /// Rows that only one of the two calendars covers.
    one_only: u64,
}

handed_over!(CalendarTallies: twins, by_rule; known:);

impl CalendarTallies {
    pub(super) fn new(job: &Job) -> Self {
        Self {
            twins: vec![TwinTally::default(); job.twins.len()],
            by_rule: vec![FiguresByRule::default(); job.by_rule.len()],
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
            let counted = |row: &&usize| !table.is_empty(of.column, **row) && of.calendar.is_of(table, **row);
            for row in written.iter().filter(counted) {
                let columns = of.inputs.iter().chain([&of.column]);
                let years = columns.filter_map(|column| Some(table.date(*column, *row)?.year()));
                years.chain(of.as_of).max().iter().for_each(|last| tally.add(&of.calendar.years, *last));
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
            tally.merge(*other);
        }
    }

    /// A sentence a column.
    pub(super) fn notes(&self, job: &Job) -> Vec<String> {
        let figures =
            |count: u64| if count == 1 { "1 figure".to_owned() } else { format!("{count} figures") };
        let by_rule = self.by_rule.iter().zip(&job.by_rule).filter_map(|(tally, of)| {
            tally.note(&of.calendar.years, |count| {
                let said = format!("{} of \"{}\"", figures(count), job.name(of.column));
                if count == 1 { Resting::One(said) } else { Resting::Several(said) }
            })
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
