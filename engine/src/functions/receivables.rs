//! Due dates and buckets.

use super::{FunctionKind, Planned, date};
use crate::columns::{Inputs, dates};
use crate::kind::Takes::{Date, Figure, MayWord, Word};
use crate::literals::Literals;
use arrow::array::{ArrayRef, StringBuilder};
use arrow::datatypes::DataType;
use datafusion::error::Result;
use mild_ledger::column::{due_dates, into_buckets};
use mild_ledger::{AgingBuckets, BucketMeasure, PaymentTerms};
use std::sync::Arc;

pub(super) const DUE_DATE: FunctionKind = FunctionKind {
    name: "due_date",
    says: "when an invoice is due under payment terms in the trade's notation: `net 30`, `2/10 net 30`, `net 30 EOM`, `15 MFI`",
    takes: &[Date, Word],
    called: &["issued", "terms"],
    plan: |literals| {
        let terms: PaymentTerms = literals.choice(1, "payment terms such as 'net 30'")?;
        let work = move |inputs: &Inputs| Ok(dates(due_dates(inputs.dates(0)?, &terms)));
        Ok(Planned::new(DataType::Date32, work, move |inputs, row| terms.due(date(inputs, 0, row)?).err()))
    },
};

pub(super) const BUCKET: FunctionKind = FunctionKind {
    name: "bucket_label",
    says: "the label of the bucket of a whole number, by upper edges that are included; of `days overdue` unless it is other `whole numbers`",
    takes: &[Figure, Word, MayWord],
    called: &["figure", "edges", "of"],
    plan: |literals| {
        let measure = match literals.all.len() {
            0..=2 => BucketMeasure::DaysOverdue,
            _ => literals.read(2, "'days overdue' or 'whole numbers'", |text| match text {
                "days overdue" => Ok(BucketMeasure::DaysOverdue),
                "whole numbers" => Ok(BucketMeasure::WholeNumber),
                other => Err(format!("\"{}\" is not a measure of buckets", other.escape_debug())),
            })?,
        };
        let buckets = buckets(literals, measure)?;
        Ok(Planned::new(DataType::Utf8, move |inputs| labels(inputs, &buckets), |_, _| None))
    },
};

fn buckets(literals: &Literals<'_>, measure: BucketMeasure) -> Result<AgingBuckets> {
    literals.read(1, "upper edges that increase, such as '0, 30, 60, 90'", |text| {
        let edges: std::result::Result<Vec<i64>, _> =
            text.split(',').map(|edge| edge.trim().parse()).collect();
        let edges =
            edges.map_err(|_| format!("\"{}\" are not whole numbers between commas", text.escape_debug()))?;
        AgingBuckets::from_upper_edges(&edges, measure).map_err(|error| error.what().to_owned())
    })
}

fn labels(inputs: &Inputs, buckets: &AgingBuckets) -> Result<ArrayRef> {
    let found = into_buckets(inputs.figures(0)?, buckets);
    let mut labels = StringBuilder::with_capacity(inputs.rows, 12 * inputs.rows);
    found
        .iter()
        .for_each(|bucket| labels.append_option(bucket.and_then(|bucket| buckets.label(bucket.into()))));
    Ok(Arc::new(labels.finish()))
}
