//! What is in the columns that a plan adds, so that a person can look at it: both ends, the middle, and the rows to count off.

use super::job::Job;
use super::outcome::{AddedColumn, EndRow};
use super::working_out::cell_working;
use crate::columns::Figures;
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving, handed_over};
use crate::table::{Batch, Kind, LabelCount, RowId, Table};
use mild_ledger::{Date, Decimal, Quotient, Rounding};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, HashMap};

/// The columns that a plan adds, those that are joined among them, over the rows written.
pub(super) struct Overview {
    columns: Vec<ColumnTally>,
}

/// The data of one column so far.
struct ColumnTally {
    column: usize,
    filled: u64,
    empty: u64,
    ends: Option<Ends>,
    /// Of texts and labels that people may open.
    first: Option<(RowId, EndRow)>,
    /// The sum of the values as they are shown, in units of the last decimal; nothing once it was too large.
    sum: Option<i128>,
    values: Values,
}

/// The rows with the smallest and the largest value, of several the first.
#[derive(Serialize, Deserialize)]
struct Ends {
    smallest: (i128, RowId, EndRow),
    largest: (i128, RowId, EndRow),
}

/// How often each value is in a column.
#[derive(Serialize, Deserialize)]
enum Values {
    /// Of an order: numbers, dates.
    Ordered(ValueCounts),
    /// Labels and texts; nothing of them once there were too many.
    Labels(Option<BTreeMap<String, u64>>),
}

/// Counts of whole numbers, most of which are small.
#[derive(Default, Serialize, Deserialize)]
struct ValueCounts {
    small: Vec<u64>,
    others: HashMap<i128, u64, ahash::RandomState>,
    are_too_many: bool,
}

/// Small numbers are those from minus this to this.
const SMALL: i128 = 1 << 15;
/// Different numbers that are not small, whose counts are held.
const MOST_OTHERS: usize = 1 << 16;
/// Different labels of a column that are counted.
const MOST_LABELS: usize = 24;

handed_over!(ColumnTally: filled, empty, ends, first, sum, values; known: column);

impl Counts for Overview {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        into.put_all(self.columns.iter())
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        from.restore_all(self.columns.iter_mut())
    }
}

impl Overview {
    pub(super) fn new(job: &Job) -> Self {
        let layout = &job.setting.layout;
        let tally = |column: usize| ColumnTally {
            column,
            filled: 0,
            empty: 0,
            ends: None,
            first: None,
            sum: Some(0),
            values: match layout.kind(column) {
                Kind::Text | Kind::Band(_) => Values::Labels(Some(BTreeMap::new())),
                _ => Values::Ordered(ValueCounts::default()),
            },
        };
        Self { columns: (layout.columns_of_file..layout.columns.len()).map(tally).collect() }
    }

    /// The rows of which people are shown how their figures come about.
    pub(super) fn rows_shown(&self) -> Vec<RowId> {
        let of_column = |column: &ColumnTally| {
            let ends = column.ends.as_ref().map(|ends| [ends.smallest.1, ends.largest.1]);
            ends.into_iter().flatten().chain(column.first.as_ref().map(|(row, _)| *row)).collect::<Vec<_>>()
        };
        self.columns.iter().flat_map(of_column).collect()
    }

    /// Takes over how figures come about from another worker on the same rows.
    pub(super) fn take_workings(&mut self, other: Self) {
        for (column, other) in self.columns.iter_mut().zip(other.columns) {
            let known = other.ends.into_iter().flat_map(|ends| [ends.smallest, ends.largest]);
            let known = known.map(|(_, row, end)| (row, end)).chain(other.first);
            let own = column.ends.iter_mut().flat_map(|ends| [&mut ends.smallest, &mut ends.largest]);
            let mut own: Vec<(RowId, &mut EndRow)> = own
                .map(|(_, row, end)| (*row, end))
                .chain(column.first.as_mut().map(|(row, end)| (*row, end)))
                .collect();
            for (row, end) in known {
                for (_, own) in own.iter_mut().filter(|(shown, _)| *shown == row) {
                    own.working.clone_from(&end.working);
                }
            }
        }
    }

    /// Takes the rows of a batch that are written.
    pub(super) fn count(&mut self, job: &Job, (batch, table): (&Batch, &Table), written: &[usize]) {
        self.columns.iter_mut().for_each(|column| column.count(job, (batch, table), written));
    }

    /// Takes over what another worker saw.
    pub(super) fn merge(&mut self, other: Self) {
        for (column, other) in self.columns.iter_mut().zip(other.columns) {
            column.merge(other);
        }
    }

    pub(super) fn finish(self, job: &Job) -> Vec<AddedColumn> {
        self.columns.into_iter().map(|column| column.finish(job)).collect()
    }
}

impl ColumnTally {
    fn count(&mut self, job: &Job, (batch, table): (&Batch, &Table), written: &[usize]) {
        let column = self.column;
        let mut ends: Option<[(i128, usize); 2]> = None;
        // Labels of a dictionary have an order too, and ends say nothing of them.
        let is_ordered = matches!(self.values, Values::Ordered(_));
        let Self { values, empty, filled, sum, .. } = self;
        match values {
            Values::Labels(labels) => {
                let mut take = |count: LabelCount<'_>| {
                    *(if count.is_empty { &mut *empty } else { &mut *filled }) += count.rows;
                    count_label(labels, count);
                };
                match table.label_counts(column, written) {
                    Some(counts) => counts.into_iter().for_each(take),
                    None => written.iter().for_each(|row| {
                        let label = table.shown(column, *row);
                        take(LabelCount { label: &label, rows: 1, is_empty: table.is_empty(column, *row) });
                    }),
                }
            }
            Values::Ordered(counts) => table.each_order_number(column, written, |row, value| {
                let Some(value) = value else {
                    *empty += 1;
                    return;
                };
                *filled += 1;
                *sum = sum.and_then(|sum| sum.checked_add(value));
                counts.add(value, 1);
                let [smallest, largest] = ends.get_or_insert([(value, row); 2]);
                if value < smallest.0 {
                    *smallest = (value, row);
                }
                if value > largest.0 {
                    *largest = (value, row);
                }
            }),
        }
        if let (Figures::Opened, false, Some(row)) = (job.figures, is_ordered, written.first()) {
            let id = batch.origins.of(*row).id();
            if self.first.as_ref().is_none_or(|(first, _)| id < *first) {
                self.first = Some((id, end_row(job, (batch, table), column, *row)));
            }
        }
        let Some([smallest, largest]) = ends.filter(|_| is_ordered) else { return };
        let is_further = |known: Option<i128>, value: i128, further: fn(i128, i128) -> bool| {
            known.is_none_or(|known| further(value, known))
        };
        let known = self.ends.as_ref();
        let new_smallest = is_further(known.map(|ends| ends.smallest.0), smallest.0, |new, old| new < old);
        let new_largest = is_further(known.map(|ends| ends.largest.0), largest.0, |new, old| new > old);
        let end = |(value, row): (i128, usize)| {
            (value, batch.origins.of(row).id(), end_row(job, (batch, table), column, row))
        };
        match &mut self.ends {
            None => self.ends = Some(Ends { smallest: end(smallest), largest: end(largest) }),
            Some(ends) => {
                if new_smallest {
                    ends.smallest = end(smallest);
                }
                if new_largest {
                    ends.largest = end(largest);
                }
            }
        }
    }

    fn merge(&mut self, other: Self) {
        self.filled += other.filled;
        self.empty += other.empty;
        self.sum = self.sum.zip(other.sum).and_then(|(sum, other)| sum.checked_add(other));
        self.ends = match (self.ends.take(), other.ends) {
            (Some(one), Some(other)) => {
                let is_first = |(value, row, _): &(i128, RowId, EndRow), than: &(i128, RowId, EndRow)| {
                    (*value, *row) < (than.0, than.1)
                };
                let smallest =
                    if is_first(&other.smallest, &one.smallest) { other.smallest } else { one.smallest };
                let (a, b) = (one.largest, other.largest);
                let largest =
                    if (b.0, std::cmp::Reverse(b.1)) > (a.0, std::cmp::Reverse(a.1)) { b } else { a };
                Some(Ends { smallest, largest })
            }
            (one, other) => one.or(other),
        };
        self.first = match (self.first.take(), other.first) {
            (Some(one), Some(other)) => Some(if other.0 < one.0 { other } else { one }),
            (one, other) => one.or(other),
        };
        match (&mut self.values, other.values) {
            (Values::Ordered(counts), Values::Ordered(other)) => counts.merge(other),
            (Values::Labels(labels), Values::Labels(other)) => {
                *labels = labels.take().zip(other).and_then(|(mut labels, other)| {
                    for (label, count) in other {
                        *labels.entry(label).or_insert(0) += count;
                    }
                    (labels.len() <= MOST_LABELS).then_some(labels)
                });
            }
            _ => {}
        }
    }

    fn finish(self, job: &Job) -> AddedColumn {
        let layout = &job.setting.layout;
        let kind = layout.kind(self.column);
        let decimals = kind.decimals();
        // What is of several currencies has no mean and no middle.
        let is_of_currencies = layout.currency(self.column).is_some();
        let has_mean = !matches!(kind, Kind::Place) && !is_of_currencies;
        let mean = decimals.filter(|_| has_mean).zip(self.sum).and_then(|(decimals, sum)| {
            let count = Decimal::of_units(i128::from(self.filled), 0).ok()?;
            let sum = Quotient::from(Decimal::of_units(sum, decimals).ok()?);
            let mean = sum.checked_div(count.into())?;
            mean.to_decimal(decimals.max(2), Rounding::Nearest).ok().map(|mean| mean.to_string())
        });
        let (median, values) = match self.values {
            Values::Ordered(counts) => {
                let middle = counts.middle(self.filled).filter(|_| !is_of_currencies);
                (middle.and_then(|middle| in_words(kind, middle)), None)
            }
            Values::Labels(labels) => (None, labels),
        };
        let (smallest, largest) = match self.ends {
            Some(ends) => (Some(ends.smallest.2), Some(ends.largest.2)),
            None => (None, None),
        };
        AddedColumn {
            column: layout.name(self.column).to_owned(),
            filled: self.filled,
            empty: self.empty,
            smallest,
            largest,
            mean,
            median,
            values: in_their_order(kind, values),
            first: self.first.map(|(_, row)| row),
        }
    }
}

/// Counts the rows of a label, if labels are still counted.
fn count_label(labels: &mut Option<BTreeMap<String, u64>>, LabelCount { label, rows, .. }: LabelCount<'_>) {
    let Some(known) = labels.as_mut().filter(|_| !label.is_empty()) else { return };
    if let Some(count) = known.get_mut(label) {
        *count += rows;
    } else if known.len() < MOST_LABELS {
        known.insert(label.to_owned(), rows);
    } else {
        *labels = None;
    }
}

/// Labels of buckets by their edges, others by the alphabet; a bucket that no row is in has none.
fn in_their_order(kind: &Kind, values: Option<BTreeMap<String, u64>>) -> Option<Vec<(String, u64)>> {
    let mut values: Vec<(String, u64)> = values?.into_iter().collect();
    if let Kind::Band(band) = kind {
        let place =
            |label: &str| band.buckets.labels().iter().position(|known| known == label).unwrap_or(usize::MAX);
        values.sort_by_key(|(label, _)| place(label));
    }
    Some(values)
}

fn end_row(job: &Job, (batch, table): (&Batch, &Table), column: usize, row: usize) -> EndRow {
    let layout = &job.setting.layout;
    let named = |input: usize| (layout.name(input).to_owned(), table.shown(input, row).into_owned());
    EndRow {
        value: table.shown(column, row).into_owned(),
        key: layout.key_text(batch, row).into_owned(),
        place: layout.place_in_words(batch.origins.of(row)),
        inputs: job.inputs_of(column).into_iter().map(named).collect(),
        working: (job.figures == Figures::Opened).then(|| cell_working(job, (batch, table), (column, row))),
    }
}

/// A value of a column's order as it is shown; nothing for what has no middle, such as parts.
fn in_words(kind: &Kind, (one, other): (i128, i128)) -> Option<String> {
    match kind {
        Kind::Date { time: None, .. } => {
            Date::from_day_number(i32::try_from(one).ok()?).ok().map(|date| date.to_string())
        }
        Kind::Number { decimals, .. } => {
            let half = Decimal::of_units(one.checked_add(other)?, *decimals).ok()?;
            let half = Quotient::from(half).checked_div(Decimal::of_units(2, 0).ok()?.into())?;
            let decimals = if (one + other) % 2 == 0 { *decimals } else { decimals.saturating_add(1) };
            half.to_decimal(decimals, Rounding::Nearest).ok().map(|half| half.to_string())
        }
        _ => None,
    }
}

impl ValueCounts {
    fn add(&mut self, value: i128, count: u64) {
        if (-SMALL..SMALL).contains(&value) {
            if self.small.is_empty() {
                self.small = vec![0; 2 * SMALL as usize];
            }
            self.small[(value + SMALL) as usize] += count;
        } else if !self.are_too_many {
            *self.others.entry(value).or_insert(0) += count;
            if self.others.len() > MOST_OTHERS {
                self.others = HashMap::default();
                self.are_too_many = true;
            }
        }
    }

    fn merge(&mut self, other: Self) {
        for (nth, count) in other.small.into_iter().enumerate().filter(|(_, count)| *count > 0) {
            self.add(nth as i128 - SMALL, count);
        }
        self.are_too_many |= other.are_too_many;
        if self.are_too_many {
            self.others = HashMap::default();
            return;
        }
        other.others.into_iter().for_each(|(value, count)| self.add(value, count));
    }

    /// The value, or the two values, in the middle of so many; nothing where not all were held.
    fn middle(self, filled: u64) -> Option<(i128, i128)> {
        if self.are_too_many || filled == 0 {
            return None;
        }
        let small = self.small.into_iter().enumerate().filter(|(_, count)| *count > 0);
        let mut all: Vec<(i128, u64)> = small.map(|(nth, count)| (nth as i128 - SMALL, count)).collect();
        all.extend(self.others);
        all.sort_unstable();
        let at = |wanted: u64| {
            let mut before = 0;
            all.iter().find(|(_, count)| {
                before += count;
                before > wanted
            })
        };
        let (one, _) = at((filled - 1) / 2)?;
        let (other, _) = at(filled / 2)?;
        Some((*one, *other))
    }
}

#[cfg(test)]
mod tests {
    use super::ValueCounts;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_middle_is_that_of_the_sorted_values(
            values in proptest::collection::vec(prop_oneof![-40_000_i128..40_000, any::<i64>().prop_map(i128::from)], 1..60),
            cut in 0_usize..60,
        ) {
            let (one, other) = values.split_at(cut.min(values.len()));
            let [mut counts, mut others] = [one, other].map(|values| {
                let mut counts = ValueCounts::default();
                values.iter().for_each(|value| counts.add(*value, 1));
                counts
            });
            std::mem::swap(&mut counts, &mut others);
            counts.merge(others);
            let mut sorted = values.clone();
            sorted.sort_unstable();
            let middle = (sorted[(sorted.len() - 1) / 2], sorted[sorted.len() / 2]);
            prop_assert_eq!(counts.middle(values.len() as u64), Some(middle));
        }
    }
}
