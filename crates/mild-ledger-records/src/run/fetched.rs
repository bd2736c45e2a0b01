//! What was fetched from second files, and what is to be said of it.

use super::job::Job;
use super::outcome::{FetchAccount, FetchedFile};
use crate::error::RecordsError;
use crate::fetch::{Fetch, FetchTally};
use crate::reports::{ProofPart, ProofValue};

/// What was fetched from each second file.
pub(super) fn fetched(job: &Job, tallies: &[FetchTally]) -> Result<Vec<FetchedFile>, RecordsError> {
    let of_file = |(fetch, tally): (&Fetch, &FetchTally)| {
        let (rows, blank_keys) = fetch.rows_with_and_without_key();
        let account = fetch.account(tally)?.into_iter().map(|found| {
            let value = |units: i128| match &found.column {
                None => ProofValue::Rows(u64::try_from(units).unwrap_or(0)),
                Some((_, scale)) => ProofValue::Amount(scale.amount(units)),
            };
            let part =
                |(name, units): &(&str, i128)| ProofPart { name: (*name).to_owned(), value: value(*units) };
            FetchAccount {
                read: value(found.read),
                parts: found.parts.iter().map(part).collect(),
                column: found.column.map(|(name, _)| name),
            }
        });
        Ok(FetchedFile {
            file: fetch.other().name.clone(),
            rows: fetch.end().rows,
            usable_rows: rows,
            blank_keys,
            keys: fetch.keys(),
            matched: tally.matched,
            unmatched_records: tally.unmatched,
            unmatched_other: fetch.unmatched_keys(tally),
            account: account.collect(),
        })
    };
    job.fetches.iter().zip(tallies).map(of_file).collect()
}

/// How many rows of a second file are not added up, and why.
pub(super) fn not_added_note(fetch: &Fetch) -> Vec<String> {
    let (found, name) = (fetch.not_added(), &fetch.other().name);
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
pub(super) fn fetch_doubts(job: &Job, tallies: &[FetchTally]) -> Vec<String> {
    let doubt = |(fetch, tally): (&Fetch, &FetchTally)| {
        let rows = tally.matched + tally.unmatched;
        // A key without rows has a sum of nothing, which is what most are expected to have.
        let is_doubtful = !fetch.is_sum() && tally.unmatched >= 3 && tally.unmatched * 100 > rows;
        is_doubtful
            .then(|| format!("{} of {rows} rows have no match in {}", tally.unmatched, fetch.other().name))
    };
    job.fetches.iter().zip(tallies).filter_map(doubt).collect()
}
