//! A few rows with their inputs next to their results, chosen so that edge cases come first.

use super::job::Job;
use super::outcome::{Sample, SampledRow};
use crate::handover::handed_over;
use crate::table::{Batch, Kind, RowId, Table};
use mild_ledger::{Date, Month, Weekday};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Why a row is worth a look, the rarest first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
enum Edge {
    LeapDay,
    Holiday,
    Negative,
    Zero,
    Empty,
    MonthEnd,
    RestDay,
    None,
}

impl Edge {
    fn in_words(self) -> &'static str {
        match self {
            Self::LeapDay => "29 February",
            Self::Holiday => "holiday",
            Self::Negative => "below zero",
            Self::Zero => "zero",
            Self::Empty => "empty",
            Self::MonthEnd => "month end",
            Self::RestDay => "rest day",
            Self::None => "any",
        }
    }
}

/// The first rows of each edge.
pub(super) struct SampleTally {
    /// How many rows are wanted in all.
    wanted: usize,
    rows: BTreeMap<(Edge, RowId), SampledRow>,
    columns: Vec<usize>,
}

handed_over!(SampleTally: rows; known: wanted, columns);

impl SampleTally {
    pub(super) fn new(job: &Job) -> Self {
        let layout = &job.setting.layout;
        // The key first, then what added columns look at, then those.
        let added = layout.columns_of_file..layout.columns.len();
        let mut columns = layout.key.clone();
        for column in added.clone().flat_map(|column| job.inputs_of(column)).chain(added) {
            if !columns.contains(&column) {
                columns.push(column);
            }
        }
        Self { wanted: job.sample, rows: BTreeMap::new(), columns }
    }

    /// Takes the rows of a batch that are written.
    pub(super) fn count(&mut self, job: &Job, (batch, table): (&Batch, &Table), written: &[usize]) {
        if self.wanted == 0 {
            return;
        }
        for row in written {
            let edge = edge_of(job, table, *row);
            let id = batch.origins.of(*row).id();
            let of_edge =
                self.rows.range((edge, RowId::default())..).take_while(|((other, _), _)| *other == edge);
            let of_edge: Vec<(Edge, RowId)> = of_edge.map(|(place, _)| *place).collect();
            if of_edge.len() >= self.wanted {
                match of_edge.last() {
                    Some(last) if last.1 > id => self.rows.remove(last),
                    _ => continue,
                };
            }
            let sampled = SampledRow {
                place: job.setting.layout.place_in_words(batch.origins.of(*row)),
                chosen_for: edge.in_words().to_owned(),
                cells: self.columns.iter().map(|column| table.shown(*column, *row).into_owned()).collect(),
            };
            self.rows.insert((edge, id), sampled);
        }
    }

    pub(super) fn merge(&mut self, other: Self) {
        self.rows.extend(other.rows);
    }

    /// One row of each edge in turn, until there are as many as are wanted.
    pub(super) fn finish(self, job: &Job) -> Option<Sample> {
        if self.wanted == 0 {
            return None;
        }
        let mut of_edges: BTreeMap<Edge, Vec<SampledRow>> = BTreeMap::new();
        for ((edge, _), row) in self.rows {
            of_edges.entry(edge).or_default().push(row);
        }
        let mut rows: Vec<SampledRow> = Vec::new();
        let turns = of_edges.values().map(Vec::len).max().unwrap_or(0);
        for turn in 0..turns {
            rows.extend(of_edges.values().filter_map(|rows| rows.get(turn)).cloned());
        }
        rows.truncate(self.wanted);
        let columns = self.columns.iter().map(|column| job.name(*column).to_owned()).collect();
        Some(Sample { columns, rows })
    }
}

/// The rarest edge that a row is at.
fn edge_of(job: &Job, table: &Table, row: usize) -> Edge {
    let layout = &job.setting.layout;
    let mut found = Edge::None;
    for column in 0..layout.columns.len() {
        let is_added = column >= layout.columns_of_file;
        let edge = match layout.kind(column) {
            _ if is_added && table.is_empty(column, row) => Edge::Empty,
            Kind::Date { .. } => table.date(column, row).map_or(Edge::None, |date| edge_of_date(job, date)),
            Kind::Number { .. } if is_added => match table.sign(column, row) {
                Some(..0) => Edge::Negative,
                Some(0) => Edge::Zero,
                _ => Edge::None,
            },
            _ => Edge::None,
        };
        found = found.min(edge);
    }
    found
}

fn edge_of_date(job: &Job, date: Date) -> Edge {
    let used =
        || job.setting.calendars.iter().filter(|known| known.is_used).map(|known| known.opened.calendar());
    let is_rest_day = match used().next() {
        None => matches!(date.weekday(), Weekday::Saturday | Weekday::Sunday),
        Some(_) => used().any(|calendar| calendar.rest_days().contains(date.weekday())),
    };
    match (date.month(), date.day()) {
        (2, 29) => Edge::LeapDay,
        _ if used().any(|calendar| !calendar.holidays_on(date).is_empty()) => Edge::Holiday,
        _ if Month::of(date).last_day() == date => Edge::MonthEnd,
        _ if is_rest_day => Edge::RestDay,
        _ => Edge::None,
    }
}
