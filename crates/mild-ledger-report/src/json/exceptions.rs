//! Exceptions by reason, in the objects of runs and checks.

use mild_ledger_records::ExceptionGroup;
use serde::Serialize;

#[derive(Serialize)]
pub(super) struct Exceptions<'o> {
    reason: &'o str,
    outcome: &'o str,
    count: u64,
    examples: &'o [String],
}

pub(super) fn exceptions(groups: &[ExceptionGroup]) -> Vec<Exceptions<'_>> {
    groups
        .iter()
        .map(|group| Exceptions {
            reason: &group.reason,
            outcome: &group.outcome,
            count: group.count,
            examples: &group.examples,
        })
        .collect()
}
