//! Bounds that values are expected to keep; what lies outside is flagged and stays.

use super::binder::Binder;
use super::conditions::{BoundCondition, Condition, all_hold, read_condition};
use crate::mistakes::{Keys, Walk};
use crate::table::{Batch, Became, Exception, ExceptionSubject, Layout, Reason, Table};
use std::ops::Range;
use toml::de::DeTable;

/// A bound as the plan says it.
#[derive(Debug)]
pub(crate) struct PlannedBound {
    condition: Condition,
    /// What is expected, in words.
    expected: String,
}

/// A bound on the values of a column.
pub(crate) struct Bound {
    column: usize,
    condition: BoundCondition,
    expected: String,
}

pub(crate) const BOUND: Keys<'static> = Keys {
    part: "[[bound]]",
    known: &["column", "is", "is_not", "over", "at_least", "under", "at_most", "within"],
    later: &[],
};

pub(crate) fn read_bound(walk: &mut Walk, table: &DeTable<'_>, span: Range<usize>) -> Option<PlannedBound> {
    let before = walk.mistakes.count();
    walk.check_keys(table, &BOUND);
    if walk.mistakes.count() > before {
        return None;
    }
    let condition = read_condition(walk, table, span)?;
    let expected = condition.words();
    Some(PlannedBound { condition, expected })
}

impl PlannedBound {
    /// Whether it wants an as-of date.
    pub(crate) fn uses_as_of(&self) -> bool {
        self.condition.uses_as_of()
    }
}

impl Binder<'_> {
    pub(crate) fn bounds(&mut self, planned: &[PlannedBound]) -> Option<Vec<Bound>> {
        let bound: Vec<_> = planned.iter().map(|planned| self.bound(planned)).collect();
        bound.into_iter().collect()
    }

    fn bound(&mut self, planned: &PlannedBound) -> Option<Bound> {
        let nth = self.find(planned.condition.column()?)?;
        let condition = self.conditions(std::slice::from_ref(&planned.condition))?.pop()?;
        Some(Bound { column: nth, condition, expected: planned.expected.clone() })
    }
}

impl Bound {
    /// Flags the rows whose value lies outside; a cell without a value is in no bound and out of none.
    pub(crate) fn flag(
        &self,
        layout: &Layout,
        (batch, table): (&Batch, &Table),
        rows: &[usize],
        exceptions: &mut Vec<Exception>,
    ) {
        for row in rows {
            if table.is_empty(self.column, *row)
                || all_hold(std::slice::from_ref(&self.condition), table, *row)
            {
                continue;
            }
            exceptions.push(Exception {
                origin: batch.origins.of(*row),
                key: layout.key_text(batch, *row).into_owned(),
                subject: ExceptionSubject::Column(self.column),
                text: table.shown(self.column, *row).into_owned(),
                reason: Reason::OutOfBounds,
                detail: String::new(),
                expected: self.expected.clone(),
                became: Became::Kept,
            });
        }
    }
}
