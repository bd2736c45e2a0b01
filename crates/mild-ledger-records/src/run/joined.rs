//! What was joined from second files, and what is to be said of it.

use super::job::Job;
use super::outcome::{JoinAccount, JoinedFile};
use crate::error::RecordsError;
use crate::join::{Join, JoinTally};
use crate::reports::{ProofPart, ProofValue};

/// What was joined from each second file.
pub(super) fn joined(job: &Job, tallies: &[JoinTally]) -> Result<Vec<JoinedFile>, RecordsError> {
    let of_file = |(join, tally): (&Join, &JoinTally)| {
        let (rows, blank_keys) = join.rows_with_and_without_key();
        let account = join.account(tally)?.into_iter().map(|found| {
            let value = |units: i128| match &found.column {
                None => ProofValue::Rows(u64::try_from(units).unwrap_or(0)),
                Some((_, scale)) => ProofValue::Amount(scale.amount(units)),
            };
            let part =
                |(name, units): &(&str, i128)| ProofPart { name: (*name).to_owned(), value: value(*units) };
            JoinAccount {
                read: value(found.read),
                parts: found.parts.iter().map(part).collect(),
                column: found.column.map(|(name, _)| name),
            }
        });
        Ok(JoinedFile {
            file: join.other().name.clone(),
            rows: join.end().rows,
            usable_rows: rows,
            blank_keys,
            keys: join.keys(),
            matched: tally.matched,
            unmatched_records: tally.unmatched,
            unmatched_other: join.unmatched_keys(tally),
            account: account.collect(),
        })
    };
    job.joins.iter().zip(tallies).map(of_file).collect()
}

/// How many rows are left out because a second file has no match for them.
pub(super) fn left_out_note((join, tally): (&Join, &JoinTally)) -> Option<String> {
    let (name, said) = (&join.other().name, "as without_match states");
    match tally.unmatched {
        _ if !join.leaves_out() => None,
        0 => None,
        1 => Some(format!("1 row has no match in {name} and is not selected, {said}")),
        rows => Some(format!("{rows} rows have no match in {name} and are not selected, {said}")),
    }
}

/// How many rows of a second file are not added up, and why.
pub(super) fn not_added_note(join: &Join) -> Vec<String> {
    let (found, name) = (join.not_added(), &join.other().name);
    let said = |count: u64, why: &str| {
        let rows = if count == 1 { "row of" } else { "rows of" };
        (count > 0).then(|| format!("{count} {rows} {name} {why}"))
    };
    [
        said(found.later, "after the as-of date not added"),
        said(found.without_date, "without a date that could be read not added"),
    ]
    .into_iter()
    .flatten()
    .collect()
}

/// Where more than one row in a hundred, and at least three, found no match: how many of how many.
pub(super) fn join_doubts(job: &Job, tallies: &[JoinTally]) -> Vec<String> {
    let doubt = |(join, tally): (&Join, &JoinTally)| {
        let rows = tally.matched + tally.unmatched;
        // A key without rows has a sum of nothing, which is what most are expected to have.
        let is_meant = join.is_sum() || join.leaves_out();
        let is_doubtful = !is_meant && tally.unmatched >= 3 && tally.unmatched * 100 > rows;
        is_doubtful
            .then(|| format!("{} of {rows} rows have no match in {}", tally.unmatched, join.other().name))
    };
    job.joins.iter().zip(tallies).filter_map(doubt).collect()
}
