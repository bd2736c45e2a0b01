//! The proof: the rows read are those written, set aside, merged and not selected, to the last cent.
//!
//! The reader, the places, the writer and the reports each counted on their own, and the output files were read back.

use super::outcome::{AmountProof, ReadBackState, RunOutcome};
use super::outputs::Holds;
use super::read_back::{ReadBack, SumsInOutput};
use crate::error::RecordsError;
use crate::reports::{ProofAgainst, ProofLine, ProofValue};
use crate::sink::Written;
use crate::table::called;
use mild_ledger::Decimal;
use std::fmt::Display;

/// Compares all that was counted.
pub(super) fn check(
    outcome: &RunOutcome,
    written: &[(Holds, Written)],
    back: &ReadBack,
) -> Result<(), RecordsError> {
    let rows = &outcome.rows;
    let placed = rows.written + rows.set_aside + rows.merged + rows.not_selected;
    agree("rows read", &rows.read, "rows written, set aside, merged and not selected", &placed)?;
    let in_rows = back.files.iter().filter(|file| file.holds == Holds::Rows).map(|file| file.end.rows).sum();
    agree("rows written", &rows.written, "rows in the output", &in_rows)?;
    agree("rows set aside", &rows.set_aside, "rows listed as set aside", &back.rows_set_aside)?;
    agree("the outputs written", &written.len(), "those read back", &back.files.len())?;
    for ((holds, written), file) in written.iter().zip(&back.files) {
        let name = holds.said();
        agree("an output", &name, "that read back in its place", &file.holds.said())?;
        agree(&format!("rows of {name} written"), &written.rows, "rows in the file", &file.end.rows)?;
        let (one, other) = (format!("{:016x}", written.checksum), format!("{:016x}", file.end.checksum));
        agree(&format!("the checksum of {name}"), &one, "that of the file", &other)?;
    }
    if let Some(file) = back.files.iter().find(|file| !file.is_untouched) {
        let what = format!("the file of {} changed after it was written", file.holds.said());
        return Err(RecordsError::Proof { what });
    }
    // The currencies of a column are one after the other.
    let columns: Vec<&[AmountProof]> =
        outcome.amounts.chunk_by(|one, other| one.column == other.column).collect();
    agree("the columns of amounts", &columns.len(), "those that were read back", &back.sums.len())?;
    for (amounts, sums) in columns.into_iter().zip(&back.sums) {
        amounts.iter().try_for_each(check_places)?;
        check_read_back(amounts, sums.as_ref())?;
    }
    for report in &outcome.reports {
        report.proof.iter().try_for_each(|line| check_line(&report.title, line, outcome))?;
    }
    Ok(())
}

/// The parts of a report sum to their whole, and that is what the writer counted on its own.
fn check_line(title: &str, line: &ProofLine, outcome: &RunOutcome) -> Result<(), RecordsError> {
    let what = format!("\"{}\" of \"{title}\" ({})", line.what, line.whole.name);
    let sum = line.parts.iter().try_fold(None, |sum: Option<ProofValue>, part| match (sum, part.value) {
        (None, value) => Some(Some(value)),
        (Some(ProofValue::Rows(sum)), ProofValue::Rows(rows)) => {
            Some(Some(ProofValue::Rows(sum.checked_add(rows)?)))
        }
        (Some(ProofValue::Amount(sum)), ProofValue::Amount(amount)) => {
            Some(Some(ProofValue::Amount(sum.checked_add(amount)?)))
        }
        _ => None,
    });
    match sum {
        Some(Some(sum)) => agree(&what, &line.whole.value, "the sum of its parts", &sum)?,
        _ => return Err(RecordsError::Proof { what: format!("{what} has no parts that could be summed") }),
    }
    let counted = match &line.against {
        ProofAgainst::RowsWritten => Some(ProofValue::Rows(outcome.rows.written)),
        ProofAgainst::AmountWritten(column, currency) => {
            let mut of_column = outcome.amounts.iter().filter(|amount| amount.column == *column).peekable();
            // Of a currency that no row has an amount of, nothing was written.
            let nothing = of_column.peek().and_then(|amount| amount.written.checked_sub(amount.written));
            let amount = of_column.find(|amount| amount.currency == *currency);
            amount.map(|amount| amount.written).or(nothing).map(ProofValue::Amount)
        }
    };
    match counted {
        Some(counted) => agree(&what, &line.whole.value, "what was written", &counted),
        None => Err(RecordsError::Proof { what: format!("{what} has no proof of its own") }),
    }
}

/// The amounts of a column and currency went somewhere, all of them.
fn check_places(amount: &AmountProof) -> Result<(), RecordsError> {
    let mut placed = amount.written;
    for part in [amount.set_aside, amount.merged, amount.not_selected] {
        placed = placed.checked_add(part).ok_or_else(|| RecordsError::too_large_in_all(&amount.column))?;
    }
    agree(
        &format!("the sum of \"{}\" read", said(amount)),
        &amount.read,
        "that written, set aside, merged and not selected",
        &placed,
    )
}

/// The amount written of a column, in each of its currencies, is the amount in the output.
fn check_read_back(amounts: &[AmountProof], back: Option<&SumsInOutput>) -> Result<(), RecordsError> {
    let agrees = |amount: &AmountProof, sum: Decimal| {
        agree(
            &format!("the sum of \"{}\" written", said(amount)),
            &amount.written,
            "that in the output",
            &sum,
        )
    };
    let Some(first) = amounts.first() else { return Ok(()) };
    match (first.read_back, back) {
        (ReadBackState::NotWritten, None) => Ok(()),
        (ReadBackState::InTheOutput, Some(SumsInOutput::ByCurrency(sums))) => {
            for amount in amounts {
                let sum = sums.get(amount.currency.as_deref().unwrap_or_default());
                // Of a currency that no row of the output has, nothing was written.
                let nothing = || amount.written.checked_sub(amount.written).unwrap_or(Decimal::ZERO);
                agrees(amount, sum.copied().unwrap_or_else(nothing))?;
            }
            let known = |currency: &String| {
                amounts.iter().any(|amount| amount.currency.as_deref().unwrap_or_default() == currency)
            };
            match sums.keys().find(|currency| !known(currency)) {
                None => Ok(()),
                Some(other) => Err(RecordsError::Proof {
                    what: format!(
                        "the output has amounts of \"{}\" ({}) that no writer wrote",
                        first.column,
                        called(other)
                    ),
                }),
            }
        }
        (ReadBackState::DigitsInTheOutput, Some(SumsInOutput::Together(sum))) => {
            let written = Decimal::checked_sum(amounts.iter().map(|amount| amount.written));
            let written = written.ok_or_else(|| RecordsError::too_large_in_all(&first.column))?;
            agree(
                &format!("the digits of \"{}\" written", first.column),
                &written,
                "those in the output",
                sum,
            )
        }
        _ => Err(RecordsError::Proof { what: format!("\"{}\" was not read back", first.column) }),
    }
}

fn said(amount: &AmountProof) -> String {
    match &amount.currency {
        Some(currency) => format!("{} {}", amount.column, called(currency)),
        None => amount.column.clone(),
    }
}

fn agree<T: PartialEq + Display>(one: &str, a: &T, other: &str, b: &T) -> Result<(), RecordsError> {
    if a == b {
        return Ok(());
    }
    Err(RecordsError::Proof { what: format!("{one} ({a}) and {other} ({b}) do not agree") })
}
