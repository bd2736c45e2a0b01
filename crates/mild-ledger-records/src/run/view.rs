//! Columns that only reports look at: those of the plan as they are seen from another date, and those that a report adds for itself.

use crate::columns::{Binder, Setting, Step, add_columns};
use crate::error::RecordsError;
use crate::join::{BoundJoin, HowRead, Join, LikeRecords};
use crate::plan::Plan;
use crate::table::{Batch, Layout, Table};
use crate::typing::Place;
use mild_ledger::Date;

/// Columns after all of the plan: of one date from which others are seen, or of reports.
pub(super) struct View {
    joins: Vec<Join>,
    steps: Vec<Box<dyn Step>>,
}

/// A view whose second files are still to be read.
pub(super) struct BoundView {
    joins: Vec<BoundJoin>,
    steps: Vec<Box<dyn Step>>,
}

/// A view for each date that a report asks for, in the order of the dates. Of a plan with mistakes there are none.
pub(super) fn bind_views(
    plan: &Plan,
    binder: &mut Binder<'_>,
    first_source: usize,
) -> Result<Vec<BoundView>, RecordsError> {
    let mut dates: Vec<Date> = Vec::new();
    for report in &plan.reports {
        dates.extend(report.other_dates(binder));
    }
    dates.sort_unstable();
    dates.dedup();
    dates.retain(|date| binder.known_as_of().is_some_and(|as_of| as_of.date != *date));
    let mut views = Vec::with_capacity(dates.len());
    if binder.mistakes.count() > 0 {
        return Ok(views);
    }
    let files = plan.joins.len();
    for (nth, date) in dates.iter().enumerate() {
        binder.open_scope(*date);
        let source = first_source + files * (nth + 1);
        views.push(binder.seen_from(*date, |binder| bind_view(plan, binder, source))?);
    }
    let sharing = 1 + views.iter().map(|view| view.joins.len()).sum::<usize>();
    let joins = views.iter_mut().flat_map(|view| &mut view.joins);
    joins.for_each(|join| join.sharing = sharing);
    Ok(views)
}

/// All columns that the date makes others of; the names of the rest keep their meaning.
fn bind_view(plan: &Plan, binder: &mut Binder<'_>, first_source: usize) -> Result<BoundView, RecordsError> {
    let own_columns = binder.columns.len();
    let mut view = BoundView { joins: Vec::new(), steps: Vec::new() };
    for (nth, join) in plan.joins.iter().enumerate().filter(|(_, join)| join.adds_up_to_as_of()) {
        for name in join.names() {
            binder.forget_name(name);
        }
        let source = first_source + nth;
        let like = LikeRecords { source, longest_cell: plan.longest_cell, hash: plan.hash };
        view.joins.extend(join.bind(binder, like)?);
    }
    for column in &plan.columns {
        let columns = binder.columns.len();
        let name = column.name.value.trim();
        let stood_for = binder.forget_name(name);
        let step = binder.add_planned(column);
        let is_another = |step: &dyn Step| {
            column.planned.uses_as_of() || step.depends_on().iter().any(|input| *input >= own_columns)
        };
        match step.filter(|step| is_another(step.as_ref())) {
            Some(step) => view.steps.push(step),
            None => {
                binder.columns.truncate(columns);
                binder.name_again(name, stood_for);
            }
        }
    }
    Ok(view)
}

impl BoundView {
    /// Columns of reports that need no second file.
    pub(super) fn of_steps(steps: Vec<Box<dyn Step>>) -> Self {
        Self { joins: Vec::new(), steps }
    }

    /// Reads the second files.
    pub(super) fn build(self, layout: &mut Layout, how: HowRead<'_>) -> Result<View, RecordsError> {
        let joins = self.joins.into_iter().map(|join| join.build(layout, how));
        Ok(View { joins: joins.collect::<Result<_, _>>()?, steps: self.steps })
    }
}

impl View {
    /// The second files that it reads.
    pub(super) fn joins(&self) -> &[Join] {
        &self.joins
    }

    /// Adds its columns after those that there are. Notes about them were made for those seen from the as-of date.
    pub(super) fn add_columns(
        &self,
        setting: &Setting,
        (batch, table): (&Batch, &mut Table),
        places: &[Place],
    ) -> Result<(), RecordsError> {
        if self.joins.is_empty() && self.steps.is_empty() {
            return Ok(());
        }
        let (mut places, mut unsaid) = (places.to_vec(), Vec::new());
        for join in &self.joins {
            let into = (batch, &mut *table);
            join.add_columns(&setting.layout, into, (&mut places, &mut unsaid), None)?;
        }
        add_columns(&self.steps, setting, batch, table, &mut unsaid)
            .map_err(|error| RecordsError::Proof { what: error.to_string() })
    }
}
