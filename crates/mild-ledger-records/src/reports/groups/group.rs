//! The figures of one group while its rows go by.

use super::figure::{Figure, FigureOf, Reduction, Shape, Summed};
use crate::error::RecordsError;
use crate::reports::ReportCell;
use crate::table::{Data, Table};
use mild_ledger::{Date, DateTime, Decimal, ExactSum, Quotient, Rounding, percentile_of_counted};
use serde::{Deserialize, Serialize};
use std::cmp::Ordering;
use std::collections::{HashMap, HashSet};
use xxhash_rust::xxh3::xxh3_128;

/// One group's figures so far.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub(in crate::reports) struct Group {
    /// How it is called at each level.
    pub(in crate::reports) labels: Vec<String>,
    pub(in crate::reports) rows: u64,
    pub(in crate::reports) figures: Vec<Running>,
}

/// One figure while it is worked out.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub(in crate::reports) enum Running {
    Rows(u64),
    /// A sum in units of the last decimal, and how many rows it is of.
    Units {
        sum: i128,
        rows: u64,
    },
    /// A sum of exact numbers, and how many rows it is of.
    Exact {
        sum: ExactSum,
        rows: u64,
    },
    /// The most extreme value so far: what it is ordered by, and how it is shown.
    Extreme(Option<(Quotient, ReportCell)>),
    /// How often each value is there.
    Values(HashMap<Quotient, u64>),
    /// The hashes of different values.
    Different(HashSet<u128>),
}

/// The most different values that are held for medians, percentiles and distinct counts.
const MOST_HELD: usize = 1 << 22;

/// That the groups of a report hold no more different values than there is room for.
pub(in crate::reports) fn check_held(held: usize, title: &str) -> Result<(), RecordsError> {
    if held <= MOST_HELD {
        return Ok(());
    }
    Err(RecordsError::request(
        format!(
            "\"{}\" holds more than {MOST_HELD} different values for its medians, percentiles and distinct counts",
            title.escape_debug()
        ),
        "fewer groups, or figures without these",
    ))
}

impl Group {
    pub(in crate::reports) fn of(figures: &[Figure]) -> Self {
        let running = |figure: &Figure| match figure.of {
            FigureOf::Rows | FigureOf::RowsSummed { .. } | FigureOf::ShareOfRows => Running::Rows(0),
            FigureOf::Column { reduction, summed, .. } => match (reduction, summed) {
                (Reduction::Blanks, _) => Running::Rows(0),
                (Reduction::Smallest | Reduction::Largest, _) => Running::Extreme(None),
                (Reduction::Percentile(_), _) => Running::Values(HashMap::new()),
                (Reduction::Distinct, _) => Running::Different(HashSet::new()),
                (Reduction::Sum | Reduction::Mean | Reduction::Share, Summed::Units(_)) => {
                    Running::Units { sum: 0, rows: 0 }
                }
                (Reduction::Sum | Reduction::Mean | Reduction::Share, Summed::Exactly) => {
                    Running::Exact { sum: ExactSum::default(), rows: 0 }
                }
            },
        };
        Self { labels: Vec::new(), rows: 0, figures: figures.iter().map(running).collect() }
    }

    /// Takes a row in, and says how many values are held that were not before; `None` where a sum gets too large.
    pub(in crate::reports) fn add(&mut self, figures: &[Figure], table: &Table, row: usize) -> Option<usize> {
        self.rows += 1;
        let mut new = 0;
        for (running, figure) in self.figures.iter_mut().zip(figures) {
            let column = match figure.of {
                FigureOf::Rows | FigureOf::ShareOfRows => usize::MAX,
                FigureOf::Column { column, .. } | FigureOf::RowsSummed { column } => column,
            };
            match running {
                Running::Rows(count) => {
                    let counts = match figure.of {
                        FigureOf::Rows | FigureOf::ShareOfRows => true,
                        FigureOf::RowsSummed { .. } => !table.is_empty(column, row),
                        FigureOf::Column { .. } => table.is_blank(column, row),
                    };
                    *count += u64::from(counts);
                }
                Running::Units { sum, rows } => {
                    if let Some(units) = table.units(column, row) {
                        (*sum, *rows) = (sum.checked_add(units)?, *rows + 1);
                    }
                }
                Running::Exact { sum, rows } => {
                    if let Some(number) = number_of(table, column, row) {
                        let held = sum.held();
                        sum.add(number).ok()?;
                        new += sum.held().saturating_sub(held);
                        *rows += 1;
                    }
                }
                Running::Extreme(best) => {
                    if let Some(value) = value_of(table, column, row) {
                        more_extreme(best, value, figure);
                    }
                }
                Running::Values(values) => {
                    if let Some(value) = number_of(table, column, row) {
                        let count = values.entry(value).or_insert(0);
                        new += usize::from(*count == 0);
                        *count += 1;
                    }
                }
                Running::Different(hashes) => {
                    if !table.is_empty(column, row) {
                        new +=
                            usize::from(hashes.insert(xxh3_128(table.shown(column, row).trim().as_bytes())));
                    }
                }
            }
        }
        Some(new)
    }

    /// Takes over what another group counted; `None` where a sum gets too large.
    pub(in crate::reports) fn merge(&mut self, other: Self, figures: &[Figure]) -> Option<()> {
        self.rows += other.rows;
        for ((running, more), figure) in self.figures.iter_mut().zip(other.figures).zip(figures) {
            match (running, more) {
                (Running::Rows(count), Running::Rows(more)) => *count += more,
                (Running::Units { sum, rows }, Running::Units { sum: more, rows: others }) => {
                    (*sum, *rows) = (sum.checked_add(more)?, *rows + others);
                }
                (Running::Exact { sum, rows }, Running::Exact { sum: more, rows: others }) => {
                    sum.add_sum(&more).ok()?;
                    *rows += others;
                }
                (Running::Extreme(best), Running::Extreme(Some(value))) => more_extreme(best, value, figure),
                (Running::Values(values), Running::Values(more)) => {
                    more.into_iter().for_each(|(value, count)| *values.entry(value).or_insert(0) += count);
                }
                (Running::Different(hashes), Running::Different(more)) => hashes.extend(more),
                _ => {}
            }
        }
        Some(())
    }

    /// What the sum of a figure has come to, exactly; nothing for figures of other kinds.
    pub(in crate::reports) fn sum(&self, nth: usize, figures: &[Figure]) -> Option<Quotient> {
        match (self.figures.get(nth)?, &figures.get(nth)?.of) {
            (Running::Units { sum, .. }, FigureOf::Column { summed: Summed::Units(scale), .. }) => {
                Decimal::of_units(*sum, *scale).ok().map(Quotient::from)
            }
            (Running::Exact { sum, .. }, _) => sum.nearly().ok(),
            _ => None,
        }
    }

    /// Values that are held.
    pub(in crate::reports) fn held(&self) -> usize {
        let held = |running: &Running| match running {
            Running::Values(values) => values.len(),
            Running::Different(hashes) => hashes.len(),
            // One of them is there from the beginning.
            Running::Exact { sum, .. } => sum.held() - 1,
            _ => 0,
        };
        self.figures.iter().map(held).sum()
    }

    /// Its figures, of shares what they are a share of all groups' by; `None` where one is too large to be shown.
    pub(in crate::reports) fn cells(&self, figures: &[Figure]) -> Option<Vec<ReportCell>> {
        self.figures.iter().zip(figures).map(|(running, figure)| running.cell(figure)).collect()
    }
}

impl Figure {
    /// A sum of this figure as it is shown; `None` where it is too large for that.
    pub(in crate::reports) fn shown(&self, sum: Quotient) -> Option<ReportCell> {
        match self.of {
            FigureOf::Column { shape, .. } => shown(sum, shape),
            _ => None,
        }
    }
}

impl Running {
    fn cell(&self, figure: &Figure) -> Option<ReportCell> {
        let (reduction, summed, shape) = match figure.of {
            FigureOf::Column { reduction, summed, shape, .. } => (reduction, summed, shape),
            _ => (Reduction::Blanks, Summed::Exactly, Shape::Decimals(0)),
        };
        let (sum, rows) = match self {
            Self::Rows(count) => return Some(ReportCell::Count(i64::try_from(*count).ok()?)),
            Self::Different(hashes) => return Some(ReportCell::count(hashes.len())),
            Self::Extreme(best) => {
                let cell = best.as_ref().map_or(ReportCell::Empty, |(_, cell)| cell.clone());
                return Some(match (cell, shape) {
                    (ReportCell::Decimal(number), Shape::PlainNumber(_)) => ReportCell::Number(number),
                    (ReportCell::Count(count), Shape::PlainNumber(_)) => ReportCell::Number(count.into()),
                    (cell, _) => cell,
                });
            }
            Self::Values(values) => {
                let Reduction::Percentile(place) = reduction else { return Some(ReportCell::Empty) };
                return match percentile_of(values, place)? {
                    Some(value) => shown(value, shape),
                    None => Some(ReportCell::Empty),
                };
            }
            Self::Units { sum, rows } => {
                let scale = if let Summed::Units(scale) = summed { scale } else { 0 };
                (Quotient::from(Decimal::of_units(*sum, scale).ok()?), *rows)
            }
            Self::Exact { rows: 0, .. } if reduction == Reduction::Mean => return Some(ReportCell::Empty),
            Self::Exact { sum, rows } => match shape {
                Shape::Decimals(decimals) | Shape::PlainNumber(decimals) => {
                    let over = if reduction == Reduction::Mean { *rows } else { 1 };
                    return sum.over(over, decimals, Rounding::Nearest).ok().map(ReportCell::Decimal);
                }
                Shape::Date => (sum.quotient()?, *rows),
            },
        };
        let figure = match reduction {
            Reduction::Mean if rows == 0 => return Some(ReportCell::Empty),
            Reduction::Mean => sum.checked_div(Quotient::of(rows.into(), 1)?)?,
            _ => sum,
        };
        shown(figure, shape)
    }
}

/// The percentile of values with their counts, if there are any; `None` where it is too large to hold.
pub(in crate::reports) fn percentile_of(
    values: &HashMap<Quotient, u64>,
    per_cent: Decimal,
) -> Option<Option<Quotient>> {
    let mut sorted: Vec<(Quotient, u64)> = values.iter().map(|(value, count)| (*value, *count)).collect();
    sorted.sort_unstable_by_key(|(value, _)| *value);
    percentile_of_counted(&sorted, per_cent).ok()
}

/// A figure as it is shown; `None` where it is too large for that.
fn shown(figure: Quotient, shape: Shape) -> Option<ReportCell> {
    match shape {
        Shape::Decimals(decimals) => {
            figure.to_decimal(decimals, Rounding::Nearest).ok().map(ReportCell::Decimal)
        }
        Shape::PlainNumber(decimals) => {
            figure.to_decimal(decimals, Rounding::Nearest).ok().map(ReportCell::Number)
        }
        Shape::Date => {
            let half = Quotient::of(1, 2)?;
            let later = figure.checked_add(half)?;
            let day = later.numerator().div_euclid(later.denominator());
            Date::from_day_number(i32::try_from(day).ok()?).ok().map(ReportCell::Date)
        }
    }
}

/// Keeps the smaller or the larger of two.
fn more_extreme(best: &mut Option<(Quotient, ReportCell)>, value: (Quotient, ReportCell), figure: &Figure) {
    let is_smallest = matches!(figure.of, FigureOf::Column { reduction: Reduction::Smallest, .. });
    let is_better = best.as_ref().is_none_or(|known| match value.0.cmp(&known.0) {
        // One instant by two clocks: the same is shown whichever came first.
        Ordering::Equal => clock(&value.1) < clock(&known.1),
        Ordering::Less => is_smallest,
        Ordering::Greater => !is_smallest,
    });
    if is_better {
        *best = Some(value);
    }
}

fn clock(cell: &ReportCell) -> Option<DateTime> {
    if let ReportCell::DateTime(at) = cell { Some(*at) } else { None }
}

/// A number exactly, or a date as the number of its day.
fn number_of(table: &Table, column: usize, row: usize) -> Option<Quotient> {
    match table.columns.get(column)? {
        Data::Date(_) => Quotient::of(table.order_number(column, row)?, 1),
        _ => table.exact(column, row),
    }
}

/// A date or a number: what it is ordered by, and how it is shown.
pub(super) fn value_of(table: &Table, column: usize, row: usize) -> Option<(Quotient, ReportCell)> {
    match table.columns.get(column)? {
        Data::Date(_) | Data::Moment { .. } => {
            let at: DateTime = table.date_time(column, row)?;
            let cell = match table.columns.get(column) {
                Some(Data::Date(_)) => ReportCell::Date(at.date()),
                _ => ReportCell::DateTime(at),
            };
            Some((Quotient::of(table.order_number(column, row)?, 1)?, cell))
        }
        Data::Count(_) => {
            let units = table.units(column, row)?;
            Some((Quotient::of(units, 1)?, ReportCell::Count(i64::try_from(units).ok()?)))
        }
        _ => Some((table.exact(column, row)?, ReportCell::Decimal(table.decimal(column, row)?))),
    }
}
