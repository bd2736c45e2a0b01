//! `bucket = COLUMN` with `edges`, or with `from`: which bucket a number falls into.

use super::binder::Binder;
use super::inputs::{NumberInput, read_number};
use super::rows::Rows;
use super::typed_numbers::NumberUse;
use super::why::{CellWhy, in_full};
use super::{ColumnKind, Planned, Step};
use crate::mistakes::{At, Value, Walk};
use crate::table::{BandKind, Bands, Data, FigureOf, Gap, Kind};
use arrow_array::StringArray;
use mild_ledger::column::Column;
use mild_ledger::{AgingBuckets, BucketMeasure, Decimal, Error, ErrorKind};
use std::ops::Range;
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "bucket",
    gives: "the bucket that a number falls into",
    companions: &["edges", "from", "lowest", "labels"],
    lines: &["bucket of {bucket}", "bucket of {bucket} by {edges}", "bucket of {bucket} from {from:numbers}"],
    read,
};

/// Which of its edges belongs to a bucket.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum EdgeSide {
    Upper,
    Lower,
}

#[derive(Debug)]
struct PlannedBucket {
    of: At<String>,
    edges: At<Vec<Decimal>>,
    side: EdgeSide,
    /// What lies below it is set apart.
    lowest: Option<At<Decimal>>,
    /// Names in place of those made of the edges.
    labels: Option<At<Vec<String>>>,
}

struct BucketStep {
    of: usize,
    buckets: AgingBuckets,
    labels: Arc<StringArray>,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    const EXPECTED: &str =
        "upper edges such as edges = [0, 30, 60, 90], or lower ones such as from = [25, 35, 45]";
    let of = table.get("bucket").and_then(|value| walk.text(value, "the name of a column of numbers"));
    let (value, side) = match (table.get("edges"), table.get_key_value("from")) {
        (Some(value), None) => (value, EdgeSide::Upper),
        (None, Some((_, value))) => (value, EdgeSide::Lower),
        (Some(_), Some((key, _))) => {
            walk.mistakes.tell(key.span(), "edges and from are two ways to say the edges", EXPECTED);
            return None;
        }
        (None, None) => {
            walk.mistakes.tell(span, "edges is missing", EXPECTED);
            return None;
        }
    };
    let items = walk.items(value, EXPECTED)?;
    let mut edges: Vec<Decimal> = Vec::new();
    for item in items.iter() {
        let edge = read_number(walk, item, EXPECTED)?;
        if let Some(before) = edges.last().filter(|before| **before >= edge) {
            let what = format!("the edge {edge} does not lie above the edge {before} before it");
            walk.mistakes.tell(item.span(), what, "edges that strictly increase");
            return None;
        }
        edges.push(edge);
    }
    if edges.is_empty() || edges.len() > AgingBuckets::MOST_EDGES {
        walk.mistakes.tell(value.span(), format!("there are {} edges", edges.len()), "1 to 1000 edges");
        return None;
    }
    let lowest = match table.get("lowest") {
        Some(value) => {
            let edge = read_number(walk, value, "an edge below the others, such as lowest = 0")?;
            Some(At { value: edge, span: value.span() })
        }
        None => None,
    };
    let labels = match table.get("labels") {
        Some(value) => Some(read_labels(walk, value, edges.len() + 1 + usize::from(lowest.is_some()))?),
        None => None,
    };
    let edges = At { value: edges, span: value.span() };
    Some(Box::new(PlannedBucket { of: of?, edges, side, lowest, labels }))
}

/// A name for each bucket.
fn read_labels(walk: &mut Walk, value: &Value<'_>, count: usize) -> Option<At<Vec<String>>> {
    let expected = format!("{count} names, one for each bucket, each a name of its own");
    let labels = walk.texts(value, &expected)?;
    if labels.len() != count {
        walk.mistakes.tell(
            value.span(),
            match labels.len() {
                1 => "there is 1 name".to_owned(),
                names => format!("there are {names} names"),
            },
            expected,
        );
        return None;
    }
    Some(At { value: labels.into_iter().map(|label| label.value).collect(), span: value.span() })
}

impl PlannedBucket {
    fn buckets(&self, measure: BucketMeasure) -> Result<AgingBuckets, Error> {
        let buckets = self.buckets_of_edges(measure)?;
        match &self.labels {
            Some(labels) => buckets.with_labels(labels.value.iter().map(|label| label.trim())),
            None => Ok(buckets),
        }
    }

    fn buckets_of_edges(&self, measure: BucketMeasure) -> Result<AgingBuckets, Error> {
        let buckets = match self.side {
            EdgeSide::Upper => AgingBuckets::from_upper_edges(&self.edges.value, measure),
            EdgeSide::Lower => AgingBuckets::from_lower_edges(&self.edges.value),
        };
        match &self.lowest {
            Some(lowest) => buckets?.with_lowest(lowest.value),
            None => buckets,
        }
    }
}

impl PlannedBucket {
    /// Reports have columns of their own next to the buckets, whose names no bucket may have.
    fn check_not_taken(&self, binder: &mut Binder<'_>, kind: &BandKind) -> Option<()> {
        const OF_REPORTS: [&str; 2] = ["Credits", "Total"];
        let Some(labels) = &self.labels else { return Some(()) };
        let mut reasons = Gap::ALL.into_iter().map(|gap| gap.bucket(kind)).chain(OF_REPORTS);
        let taken = reasons.find(|taken| kind.buckets.labels().iter().any(|label| label == taken));
        let Some(taken) = taken else { return Some(()) };
        let what = format!("reports have a column \"{taken}\" of their own");
        binder.mistakes.tell(labels.span.clone(), what, "another name");
        None
    }
}

impl Planned for PlannedBucket {
    fn header(&self) -> Option<String> {
        None
    }

    fn uses_as_of(&self) -> bool {
        false
    }

    fn stand_in(&self) -> Kind {
        match self.buckets(BucketMeasure::WholeNumber) {
            Ok(buckets) => Kind::Band(BandKind { buckets, is_of_dates: true }),
            Err(_) => Kind::Text,
        }
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let column = binder.find(&self.of)?;
        binder.take_as(column, NumberUse::Figures);
        let kind = binder.kind(column).clone();
        let Some(decimals) = kind.decimals() else {
            let what =
                format!("\"{}\" holds {}, which have no buckets", self.of.value.escape_debug(), kind.word());
            binder.mistakes.tell(
                self.of.span.clone(),
                what,
                "a column of numbers, such as one made with between",
            );
            return None;
        };
        let measure = match kind.figure().map(|figure| figure.of) {
            Some(FigureOf::DaysToAsOf) => BucketMeasure::DaysOverdue,
            _ if decimals > 0 => BucketMeasure::Fractional,
            _ => BucketMeasure::WholeNumber,
        };
        let is_of_dates = kind.figure().is_some() || matches!(kind, Kind::Place);
        match self.buckets(measure) {
            Ok(buckets) => {
                let kind = BandKind { buckets, is_of_dates };
                self.check_not_taken(binder, &kind)?;
                let labels = Bands::labels(kind.buckets.labels(), |gap| gap.bucket(&kind));
                let step = BucketStep { of: column, buckets: kind.buckets.clone(), labels: Arc::new(labels) };
                Some((Kind::Band(kind), Box::new(step)))
            }
            Err(error) => {
                let lowest = self.lowest.as_ref().filter(|_| error.kind() == ErrorKind::NotInOrder);
                let at =
                    lowest.map(|lowest| &lowest.span).or(self.labels.as_ref().map(|labels| &labels.span));
                let at = at.unwrap_or(&self.edges.span);
                binder.mistakes.tell(at.clone(), error.what(), error.allowed());
                None
            }
        }
    }
}

impl Step for BucketStep {
    fn inputs(&self) -> Vec<usize> {
        vec![self.of]
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        // Why a figure is empty is why its row is in no bucket of the others.
        rows.gaps = (0..rows.count()).map(|row| rows.table.gap(self.of, row)).collect();
        let of = NumberInput::Column(self.of);
        let buckets: Column<u16> = match rows.table.columns.get(self.of) {
            Some(Data::Count(counts)) => {
                let bucket = |count: i64| self.buckets.bucket_of(count) as u16;
                counts.iter().map(|count| count.map(bucket)).collect()
            }
            _ => (0..rows.count())
                .map(|row| rows.exact(of, row).map(|number| self.buckets.bucket_of_exact(number) as u16))
                .collect(),
        };
        Ok(Data::Band(Bands::of(&buckets, &rows.gaps, &self.labels)))
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        let rule = format!("buckets: {}", self.buckets.labels().join(", "));
        let in_bucket = |number| {
            let label = self.buckets.labels().get(self.buckets.bucket_of_exact(number))?;
            Some(format!("{} lies in \"{label}\"", in_full(number)))
        };
        Some(CellWhy::said(rule, rows.exact(NumberInput::Column(self.of), row).and_then(in_bucket)))
    }
}
