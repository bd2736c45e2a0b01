//! The groups of a summary, counted by several at once and filled up.

use super::KIND;
use super::bound::{BoundSummary, PageLayout};
use super::rows::{Groups, table_of};
use crate::columns::Figures;
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::reports::groups::{
    ByGroup, FigureOf, Group, Key, MOST_LEVELS, Places, Reduction, Running, Summed, ValueEnds, check_held,
    filled,
};
use crate::reports::{ProofLine, Report, ReportCell, ReportTable, RowsBehind, Tally, of_one_report};
use crate::table::{Layout, Origins, Table};
use mild_ledger::Decimal;
use std::any::Any;
use std::sync::Arc;

/// The most groups whose figures people may open.
const MOST_OPENED: usize = 500;

/// The groups of one summary.
pub(super) struct SummaryTally {
    bound: Arc<BoundSummary>,
    groups: Groups,
    /// Groups of rows that were added since, by the numbers that they have at each level.
    counted: ByGroup<Group>,
    places: [Places; MOST_LEVELS],
    /// The rows of the means and medians of each group, where people may open them.
    ends: ByGroup<ValueEnds>,
    /// Different values that are held, those of all groups together.
    held: usize,
}

impl SummaryTally {
    pub(super) fn of(bound: &Arc<BoundSummary>) -> Self {
        Self {
            bound: Arc::clone(bound),
            groups: Groups::new(),
            counted: ByGroup::default(),
            places: Default::default(),
            ends: ByGroup::default(),
            held: 0,
        }
    }

    /// Adds the groups without rows, as far as there are not too many; a note says where there are.
    fn fill(&mut self) -> Option<String> {
        let bound = Arc::clone(&self.bound);
        let known = self.groups.iter().map(|(keys, group)| (keys.clone(), group.labels.clone()));
        match filled(&bound.levels, &known.collect()) {
            Err(note) => Some(note),
            Ok(paths) => {
                for (keys, labels) in paths {
                    self.groups.entry(keys).or_insert_with(|| Group { labels, ..Group::of(&bound.figures) });
                }
                None
            }
        }
    }

    /// Gives the groups of rows that were added their keys and labels.
    fn name_groups(&mut self) -> Result<(), RecordsError> {
        let bound = Arc::clone(&self.bound);
        for (places, mut group) in std::mem::take(&mut self.counted) {
            let named = places.iter().zip(&self.places).take(bound.levels.len());
            let named = named.filter_map(|(place, known)| known.named(*place).cloned());
            let (keys, labels): (Vec<Key>, Vec<String>) = named.unzip();
            match self.groups.get_mut(&keys) {
                Some(known) => known.merge(group, &bound.figures).ok_or_else(|| self.too_large())?,
                None => {
                    group.labels = labels;
                    self.groups.insert(keys, group);
                }
            }
        }
        Ok(())
    }

    fn too_large(&self) -> RecordsError {
        RecordsError::too_large_in_all(&self.bound.title)
    }
}

/// The first figures of the total that say something, and how many groups they are of.
fn totals(table: &ReportTable) -> Vec<ReportCell> {
    const MOST: usize = 2;
    let mut said = Vec::new();
    // Where nothing is grouped, the one row is of all rows.
    let all = table.total.clone().or_else(|| table.rows.iter().next()).unwrap_or_default();
    let figures = table.columns.iter().zip(all.iter()).skip(table.names);
    let figures = figures.filter(|(_, cell)| **cell != ReportCell::Empty);
    for (nth, (name, cell)) in figures.take(MOST).enumerate() {
        let before = if nth > 0 { ", " } else { "" };
        said.push(ReportCell::Text(format!("{before}{name} ")));
        said.push(cell.clone());
    }
    if table.total.is_none() {
        return said;
    }
    if !said.is_empty() {
        said.push(ReportCell::Text(" in ".to_owned()));
    }
    said.extend([ReportCell::count(table.rows.len()), ReportCell::Text(" ".to_owned())]);
    said.push(ReportCell::Text(if table.rows.len() == 1 { "group" } else { "groups" }.to_owned()));
    said
}

handed_over!(SummaryTally: groups, counted, places, ends, held; known: bound);

impl Tally for SummaryTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let bound = Arc::clone(&self.bound);
        let groups = Places::of_rows(&mut self.places, &bound.levels, table, rows);
        for (row, places) in rows.iter().zip(groups) {
            let group = self.counted.of(places, || Group::of(&bound.figures));
            self.held += group.add(&bound.figures, table, *row).ok_or_else(|| self.too_large())?;
            if bound.opens == Figures::Opened && self.ends.len() <= MOST_OPENED {
                let ends = self.ends.of(places, Default::default);
                ends.add(&bound.figures, (layout, table), (*row, origins.of(*row)));
            }
        }
        check_held(self.held, &bound.title)
    }

    fn merge(&mut self, other: Box<dyn Tally>, _: &Layout) -> Result<(), RecordsError> {
        let mut other = of_one_report::<Self>(other)?;
        let bound = Arc::clone(&self.bound);
        for (places, ends) in std::mem::take(&mut other.ends) {
            let own = Places::own_of(&mut self.places, &other.places, places, bound.levels.len());
            self.ends.of(own, Default::default).merge(ends);
        }
        self.name_groups()?;
        other.name_groups()?;
        for (keys, group) in other.groups {
            match self.groups.get_mut(&keys) {
                Some(known) => known.merge(group, &bound.figures).ok_or_else(|| self.too_large())?,
                None => {
                    self.groups.insert(keys, group);
                }
            }
        }
        self.held = self.groups.values().map(Group::held).sum();
        check_held(self.held, &bound.title)
    }

    fn finish(mut self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        self.name_groups()?;
        let mut notes: Vec<String> = self.fill().into_iter().collect();
        let bound = Arc::clone(&self.bound);
        let proof = self.proof(layout)?;
        let behind = self.opened(&mut notes);
        let made = table_of(&bound, std::mem::take(&mut self.groups));
        let (table, more) = made.ok_or_else(|| self.too_large())?;
        notes.extend(more);
        Ok(Report {
            kind: KIND.word,
            title: bound.title.clone(),
            seen_from: Vec::new(),
            behind,
            made_of: Vec::new(),
            answer: totals(&table),
            tables: vec![table],
            explanation: Vec::new(),
            proof,
            notes,
        })
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}

impl SummaryTally {
    /// The means and medians of the groups, each with the rows of its ends.
    fn opened(&mut self, notes: &mut Vec<String>) -> Vec<RowsBehind> {
        let ends = std::mem::take(&mut self.ends);
        if self.bound.layout == PageLayout::Across {
            return Vec::new();
        }
        if ends.len() > MOST_OPENED {
            let said =
                format!("its figures are not opened to their rows: there are more than {MOST_OPENED} groups");
            notes.push(said);
            return Vec::new();
        }
        let levels = self.bound.levels.len();
        let named = Places::named_groups(&self.places, levels, ends);
        let opened = |(keys, (labels, ends)): (Vec<Key>, (Vec<String>, ValueEnds))| {
            let cells = self.groups.get(&keys).and_then(|group| group.cells(&self.bound.figures));
            ends.opened(&self.bound.figures, &labels, &cells.unwrap_or_default())
        };
        named.into_iter().flat_map(opened).collect()
    }

    /// The rows of all groups, and each sum of amounts.
    fn proof(&self, layout: &Layout) -> Result<Vec<ProofLine>, RecordsError> {
        let rows = self.groups.values().map(|group| group.rows).sum();
        let mut proof = vec![ProofLine::of_rows([("in groups", rows)])];
        for (nth, figure) in self.bound.figures.iter().enumerate() {
            let FigureOf::Column { reduction: Reduction::Sum, column, summed: Summed::Units(scale), .. } =
                figure.of
            else {
                continue;
            };
            let units = self.groups.values().map(|group| match group.figures.get(nth) {
                Some(Running::Units { sum, .. }) => *sum,
                _ => 0,
            });
            let sum = units.into_iter().try_fold(0_i128, i128::checked_add);
            let sum = sum.and_then(|units| Decimal::of_units(units, scale).ok());
            let line = sum.and_then(|sum| ProofLine::of_amounts(layout.name(column), [("in groups", sum)]));
            proof.push(line.ok_or_else(|| self.too_large())?);
        }
        Ok(proof)
    }
}
