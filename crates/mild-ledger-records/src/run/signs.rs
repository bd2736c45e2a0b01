//! How many figures are below zero, zero and above zero, over the rows written.

use super::outcome::ColumnFigures;
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving};
use crate::table::{Layout, Table};

/// The signs of all figures in columns of intervals, ages and stays.
pub(super) struct FigureSigns {
    columns: Vec<(usize, ColumnFigures)>,
}

impl Counts for FigureSigns {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        let signs = |(_, of): &(usize, ColumnFigures)| [of.negative, of.zero, of.positive, of.empty];
        into.put(&self.columns.iter().map(signs).collect::<Vec<_>>())
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        let signs: Vec<[u64; 4]> = from.take()?;
        for ((_, of), counted) in self.columns.iter_mut().zip(signs) {
            [of.negative, of.zero, of.positive, of.empty] = counted;
        }
        Ok(())
    }
}

impl FigureSigns {
    pub(super) fn new(layout: &Layout) -> Self {
        let columns = (0..layout.columns.len())
            .filter_map(|column| {
                let figure = layout.kind(column).figure()?;
                let figures = ColumnFigures {
                    column: layout.name(column).to_owned(),
                    rule: figure.rule.clone(),
                    ends: figure.ends,
                    negative: 0,
                    zero: 0,
                    positive: 0,
                    empty: 0,
                };
                Some((column, figures))
            })
            .collect();
        Self { columns }
    }

    pub(super) fn count(&mut self, table: &Table, rows: &[usize]) {
        for (column, figures) in &mut self.columns {
            for row in rows {
                let place = match table.sign(*column, *row) {
                    None => &mut figures.empty,
                    Some(..0) => &mut figures.negative,
                    Some(0) => &mut figures.zero,
                    Some(_) => &mut figures.positive,
                };
                *place += 1;
            }
        }
    }

    /// Takes over the signs of other rows.
    pub(super) fn merge(&mut self, other: &Self) {
        for ((_, figures), (_, other)) in self.columns.iter_mut().zip(&other.columns) {
            figures.negative += other.negative;
            figures.zero += other.zero;
            figures.positive += other.positive;
            figures.empty += other.empty;
        }
    }

    pub(super) fn finish(self) -> Vec<ColumnFigures> {
        self.columns.into_iter().map(|(_, figures)| figures).collect()
    }
}
