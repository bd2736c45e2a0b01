//! A distribution as it is shown: a line a band, its measures, and its outliers.

use super::KIND;
use super::counted::DistributionTally;
use crate::error::RecordsError;
use crate::reports::groups::percentile_of;
use crate::reports::measure::Measure;
use crate::reports::{ProofLine, Report, ReportCell, ReportRows, ReportTable, TableRank, counted};
use crate::table::{Gap, Layout, Presentation};
use mild_ledger::{
    AgingBuckets, Decimal, ExactSum, OutlierBounds, OutlierSide, Quotient, Rounding, even_edges,
    shares_of_hundred,
};

/// The most edges of even bands.
const MOST_EDGES: u32 = 11;

/// The data of all values.
struct Values {
    /// In their order, with how many rows have each.
    sorted: Vec<(Quotient, u64)>,
    rows: u64,
    sum: ExactSum,
    quartiles: [Quotient; 3],
    bounds: OutlierBounds,
}

impl Values {
    /// `None` where a figure is too large to hold; nothing of no values.
    fn of(tally: &DistributionTally) -> Option<Option<Self>> {
        let mut sorted: Vec<(Quotient, u64)> =
            tally.values.iter().map(|(value, count)| (*value, *count)).collect();
        sorted.sort_unstable_by_key(|(value, _)| *value);
        if sorted.is_empty() {
            return Some(None);
        }
        let rows: u64 = sorted.iter().map(|(_, count)| count).sum();
        let mut sum = ExactSum::default();
        for (value, count) in &sorted {
            sum.add(value.checked_mul(Quotient::of((*count).into(), 1)?)?).ok()?;
        }
        let quartile = |place: i64| percentile_of(&tally.values, Decimal::from(place))?;
        let quartiles = [quartile(25)?, quartile(50)?, quartile(75)?];
        let bounds = OutlierBounds::of_quartiles(quartiles[0], quartiles[2]).ok()?;
        Some(Some(Self { sorted, rows, sum, quartiles, bounds }))
    }

    fn count(&self, holds: impl Fn(Quotient) -> bool) -> u64 {
        self.sorted.iter().filter(|(value, _)| holds(*value)).map(|(_, count)| count).sum()
    }

    /// Rows by band: even ones between the bounds of outliers, the first and the last open.
    fn by_even_bands(&self, decimals: u8) -> Option<Vec<(String, u64)>> {
        let first = self.sorted.first()?.0.max(self.bounds.lower());
        let last = self.sorted.last()?.0.min(self.bounds.upper());
        let edges = even_edges(first, last, MOST_EDGES, decimals).ok()?;
        if edges.is_empty() {
            let only = self.sorted.first()?.0.to_decimal(decimals, Rounding::Nearest).ok()?;
            let name = if self.sorted.len() == 1 { only.to_string() } else { format!("about {only}") };
            return Some(vec![(name, self.rows)]);
        }
        let buckets = AgingBuckets::from_lower_edges(&edges).ok()?;
        let mut bands: Vec<(String, u64)> = buckets.labels().iter().map(|label| (label.clone(), 0)).collect();
        for (value, count) in &self.sorted {
            if let Some((_, rows)) = bands.get_mut(buckets.bucket_of_exact(*value)) {
                *rows += count;
            }
        }
        Some(bands)
    }
}

pub(super) fn report_of(tally: &DistributionTally, layout: &Layout) -> Result<Report, RecordsError> {
    let bound = &tally.bound;
    let name = layout.name(bound.of);
    let too_large = || RecordsError::too_large_in_all(name);
    let values = Values::of(tally).ok_or_else(too_large)?;
    let without: u64 = tally.without.values().sum();
    let mut tables = Vec::new();
    let mut answer = vec![ReportCell::Text(format!("{name}: no values"))];
    if let Some(values) = &values {
        tables.push(bands(tally, values, layout).ok_or_else(too_large)?);
        tables.push(measures(tally, values, name, &layout.presentation));
        let outliers = values.count(|value| values.bounds.side_of(value) != OutlierSide::Within);
        if outliers > 0 {
            tables.push(outliers_of(tally, values, layout).ok_or_else(too_large)?);
        }
        let median = values.quartiles[1].to_decimal(bound.decimals.max(2), Rounding::Nearest);
        answer = vec![
            ReportCell::Text(format!("median {name} ")),
            ReportCell::Decimal(median.map_err(|_| too_large())?),
            ReportCell::Text(" of ".to_owned()),
            ReportCell::count(values.rows),
            ReportCell::Text(format!(
                ", {}",
                if outliers == 0 {
                    "no outlier".to_owned()
                } else {
                    counted(outliers, "outlier", "outliers")
                }
            )),
        ];
    }
    let known: u64 = values.as_ref().map_or(0, |values| values.rows);
    let reasons = |(gap, rows): (&Gap, &u64)| {
        let why = match gap {
            Gap::Blank => "blank",
            Gap::Unreadable => "unreadable",
            _ => "without a result",
        };
        format!("{rows} {why}")
    };
    let notes = (without > 0).then(|| {
        let rows = counted(without, "row has", "rows have");
        let why: Vec<String> = tally.without.iter().map(reasons).collect();
        format!("{rows} no \"{name}\": {}", why.join(", "))
    });
    Ok(Report {
        kind: KIND.word,
        title: bound.title.clone(),
        made_of: Vec::new(),
        seen_from: Vec::new(),
        behind: Vec::new(),
        tables,
        answer,
        explanation: vec![
            "Quartiles are linear between the closest ranks. Outliers lie outside the quartiles by more than 1.5 times their distance; they are marked, and counted with the others.".to_owned(),
        ],
        proof: vec![ProofLine::of_rows([("with a value", known), ("without a value", without)])],
        notes: notes.into_iter().collect(),
    })
}

/// A line a band with its rows and their share.
fn bands(tally: &DistributionTally, values: &Values, layout: &Layout) -> Option<ReportTable> {
    let bound = &tally.bound;
    let name = layout.name(bound.of);
    let (head, rows) = match &bound.band {
        None => (name.to_owned(), values.by_even_bands(bound.decimals)?),
        Some((column, band)) => {
            let rows_in = |nth: usize| tally.buckets.get(&nth).copied().unwrap_or(0);
            let labels = band.buckets.labels().iter().enumerate();
            let mut rows: Vec<(String, u64)> =
                labels.map(|(nth, label)| (label.clone(), rows_in(nth))).collect();
            if rows_in(usize::MAX) > 0 {
                rows.push(("in no bucket".to_owned(), rows_in(usize::MAX)));
            }
            (layout.name(*column).to_owned(), rows)
        }
    };
    let counts: Vec<Decimal> =
        rows.iter().map(|(_, rows)| i64::try_from(*rows).ok().map(Decimal::from)).collect::<Option<_>>()?;
    let shares = shares_of_hundred(&counts, 1).ok()?;
    let row = |((label, rows), share): ((String, u64), Decimal)| {
        vec![ReportCell::Text(label), ReportCell::count(rows), ReportCell::Number(share)]
    };
    let all = [ReportCell::Text("Total".to_owned()), ReportCell::count(values.rows)];
    let hundred = Decimal::of_units(1000, 1).ok()?;
    Some(ReportTable {
        title: bound.title.clone(),
        shows: Some(format!("rows by {name}")),
        columns: vec![head, "Count".to_owned(), "Share, %".to_owned()],
        names: 1,
        rows: ReportRows::from_iter(rows.into_iter().zip(shares).map(row)),
        total: Some(all.into_iter().chain([ReportCell::Decimal(hundred)]).collect()),
        summed: vec![1, 2],
        bars: Some(1),
        ..ReportTable::default()
    })
}

fn measures(
    tally: &DistributionTally,
    values: &Values,
    name: &str,
    presentation: &Presentation,
) -> ReportTable {
    let bound = &tally.bound;
    let decimals = bound.decimals.max(2);
    let [first, median, third] = values.quartiles;
    let ends = [
        (values.sorted.first(), tally.smallest.values().next()),
        (values.sorted.last(), tally.largest.values().next_back()),
    ];
    let key = |key: Option<&String>| key.cloned().unwrap_or_default();
    let why_not = "it is too large to be shown";
    let figure = |name: &'static str, value: Quotient, decimals: u8, from: String| {
        Measure::of(name, "", (Ok(value), decimals), why_not, from)
    };
    let [(smallest, smallest_key), (largest, largest_key)] = ends;
    let of = |value: Option<&(Quotient, u64)>| value.map_or(Quotient::ZERO, |(value, _)| *value);
    let shown = |value: Quotient| {
        value
            .to_decimal(decimals, Rounding::Nearest)
            .map_or_else(|_| String::new(), |value| presentation.amount(value))
    };
    let distance = format!("1.5 × ({} − {})", shown(third), shown(first));
    let outside = |side: OutlierSide| values.count(|value| values.bounds.side_of(value) == side);
    let (below, above) = (outside(OutlierSide::Below), outside(OutlierSide::Above));
    let lie = |count: u64, side: &str| format!("{} {side}", counted(count, "value lies", "values lie"));
    let all = counted(values.rows, "value", "values");
    let mean = values.sum.over(values.rows, decimals, Rounding::Nearest).map(Quotient::from);
    let measures = vec![
        figure("Smallest", of(smallest), bound.decimals, key(smallest_key)),
        figure("First quartile", first, decimals, "25th percentile".to_owned()),
        figure("Median", median, decimals, "50th percentile".to_owned()),
        Measure::of("Mean", "", (mean, decimals), why_not, format!("the sum ÷ {all}")),
        figure("Third quartile", third, decimals, "75th percentile".to_owned()),
        figure("Largest", of(largest), bound.decimals, key(largest_key)),
        figure(
            "Outliers below",
            values.bounds.lower(),
            decimals,
            format!("first quartile − {distance}; {}", lie(below, "below")),
        ),
        figure(
            "Outliers above",
            values.bounds.upper(),
            decimals,
            format!("third quartile + {distance}; {}", lie(above, "above")),
        ),
    ];
    Measure::table(&bound.title, TableRank::Further, format!("measures of {name}"), measures)
}

/// The outliers with their keys, the farthest first, as far as these are known.
fn outliers_of(tally: &DistributionTally, values: &Values, layout: &Layout) -> Option<ReportTable> {
    let bound = &tally.bound;
    let name = layout.name(bound.of);
    let known = |side: OutlierSide, (value, key): (&Quotient, &String)| {
        let is_out = values.bounds.side_of(*value) == side;
        let row = |value: Decimal| {
            vec![
                ReportCell::Text(key.clone()),
                ReportCell::Decimal(value),
                ReportCell::Text(side.word().to_owned()),
            ]
        };
        is_out.then(|| value.to_decimal(bound.decimals, Rounding::Nearest).ok().map(row))
    };
    let below = tally.smallest.iter().map(|((value, _), key)| (value, key));
    let above = tally.largest.iter().rev().map(|((value, _), key)| (value, key));
    let rows = below
        .filter_map(|found| known(OutlierSide::Below, found))
        .chain(above.filter_map(|found| known(OutlierSide::Above, found)));
    let rows: Vec<Vec<ReportCell>> = rows.collect::<Option<_>>()?;
    let all = values.count(|value| values.bounds.side_of(value) != OutlierSide::Within);
    let left_out = all.saturating_sub(rows.len() as u64);
    let more =
        if left_out > 0 { format!(", without {left_out} more that lie nearer") } else { String::new() };
    let key = layout.key.iter().map(|column| layout.name(*column)).collect::<Vec<_>>().join(" / ");
    let key = if key.is_empty() { "record".to_owned() } else { key };
    Some(ReportTable {
        title: bound.title.clone(),
        rank: TableRank::Further,
        shows: Some(format!("outliers of {name}{more}")),
        columns: vec![key, name.to_owned(), "Lies".to_owned()],
        names: 1,
        rows: ReportRows::from_iter(rows),
        ..ReportTable::default()
    })
}
