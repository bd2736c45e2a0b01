//! Between which rows the values of a group lie, for whoever opens a mean or a median.

use super::figure::{Figure, FigureOf, Reduction};
use super::group::value_of;
use crate::reports::{ReportCell, RowBehind, RowsBehind, key_of};
use crate::table::{Layout, Origin, RowId, Table};
use mild_ledger::Quotient;
use serde::{Deserialize, Serialize};

/// The ends of those figures of a group that lie between values.
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
pub(in crate::reports) struct ValueEnds {
    /// A place a figure; nothing where no row has a value.
    of_figures: Vec<Option<Ends>>,
}

#[derive(Debug, Clone, Serialize, Deserialize)]
struct Ends {
    count: u64,
    smallest: End,
    largest: End,
}

#[derive(Debug, Clone, Serialize, Deserialize)]
struct End {
    value: Quotient,
    row: RowId,
    behind: RowBehind,
}

impl End {
    /// Whether it comes before another of the same end: of equal ones the first row.
    fn is_before(&self, other: &Self, is_further: fn(&Quotient, &Quotient) -> bool) -> bool {
        is_further(&self.value, &other.value) || self.value == other.value && self.row < other.row
    }
}

/// Whether a figure lies between the values of its rows.
fn lies_between(figure: &Figure) -> Option<usize> {
    match figure.of {
        FigureOf::Column { reduction: Reduction::Mean | Reduction::Percentile(_), column, .. } => {
            Some(column)
        }
        _ => None,
    }
}

impl ValueEnds {
    /// Takes a row in.
    pub(in crate::reports) fn add(
        &mut self,
        figures: &[Figure],
        (layout, table): (&Layout, &Table),
        (row, origin): (usize, Origin),
    ) {
        self.of_figures.resize(figures.len(), None);
        for (ends, figure) in self.of_figures.iter_mut().zip(figures) {
            let Some(column) = lies_between(figure) else { continue };
            let Some((value, part)) = value_of(table, column, row) else { continue };
            let end = |part: ReportCell| End {
                value,
                row: origin.id(),
                behind: RowBehind {
                    key: key_of(layout, table, row),
                    place: layout.place_in_words(origin),
                    part,
                },
            };
            match ends {
                None => {
                    let end = end(part);
                    *ends = Some(Ends { count: 1, smallest: end.clone(), largest: end });
                }
                Some(ends) => {
                    ends.count += 1;
                    let (small, large) = (ends.smallest.value, ends.largest.value);
                    if value <= small || value >= large {
                        ends.take(&end(part));
                    }
                }
            }
        }
    }

    pub(in crate::reports) fn merge(&mut self, other: Self) {
        if self.of_figures.is_empty() {
            self.of_figures = other.of_figures;
            return;
        }
        for (ends, more) in self.of_figures.iter_mut().zip(other.of_figures) {
            match (ends.as_mut(), more) {
                (Some(ends), Some(more)) => {
                    ends.count += more.count;
                    ends.take(&more.smallest);
                    ends.take(&more.largest);
                }
                (None, more) => *ends = more,
                (Some(_), None) => {}
            }
        }
    }

    /// What may be opened of a group: its figures, each with its smallest value and its largest.
    pub(in crate::reports) fn opened(
        self,
        figures: &[Figure],
        labels: &[String],
        cells: &[ReportCell],
    ) -> Vec<RowsBehind> {
        let of_figure = |((ends, figure), cell): ((Option<Ends>, &Figure), &ReportCell)| {
            let Ends { count, smallest, largest } = ends?;
            let rows = if count == 1 { vec![smallest.behind] } else { vec![smallest.behind, largest.behind] };
            Some(RowsBehind {
                currency: None,
                row: labels.to_vec(),
                column: figure.name.clone(),
                figure: cell.clone(),
                count,
                rows,
                besides: None,
            })
        };
        self.of_figures.into_iter().zip(figures).zip(cells).filter_map(of_figure).collect()
    }
}

impl Ends {
    fn take(&mut self, end: &End) {
        if end.is_before(&self.smallest, |one, other| one < other) {
            self.smallest = end.clone();
        }
        if end.is_before(&self.largest, |one, other| one > other) {
            self.largest = end.clone();
        }
    }
}
