//! The calendars that the columns of a plan count by: those next to them, and what of them is by rule.

use crate::columns::{Binder, CalendarByRule, CalendarMet, PlannedColumn, Step};
use crate::table::Kind;

/// A column that is worked out by another calendar too, which no one sees.
#[derive(Debug, Clone)]
pub(super) struct Twin {
    /// The plan's column.
    pub(super) column: usize,
    /// The same by the other calendar.
    pub(super) twin: usize,
    /// The calendar that the plan counts by, and the one next to it.
    pub(super) calendars: [String; 2],
}

/// A column of the plan that looks at days of a calendar of which some are by rule.
#[derive(Debug, Clone)]
pub(super) struct ByRule {
    pub(super) column: usize,
    /// The columns of dates that it looks at.
    pub(super) inputs: Vec<usize>,
    pub(super) calendar: CalendarByRule,
    /// The year of the as-of date, where it looks at that.
    pub(super) as_of: Option<i32>,
}

/// A column of the plan, and the calendars that it was bound to.
pub(super) struct OfColumn<'p> {
    pub(super) planned: &'p PlannedColumn,
    pub(super) column: usize,
    pub(super) met: Vec<CalendarMet>,
}

/// The column by each calendar that is next to its own, hidden. Where rows name their calendars, none represents all of them.
pub(super) fn bind_twins(binder: &mut Binder<'_>, of: &OfColumn<'_>) -> Vec<Twin> {
    let mut twins = Vec::new();
    if binder.mistakes.count() > 0 {
        return twins;
    }
    for CalendarMet { nth: own, .. } in of.met.iter().filter(|met| met.named_by.is_none()) {
        for other in binder.calendars[*own].beside.clone() {
            let bound = binder.with_calendar_instead(*own, other, |binder| of.planned.planned.bind(binder));
            let Some((kind, step)) = bound else { continue };
            let twin = binder.add_unnamed(of.planned.said(), kind);
            binder.hidden_steps.push(step);
            let calendars = [*own, other].map(|nth| binder.calendars[nth].name.clone());
            twins.push(Twin { column: of.column, twin, calendars });
        }
    }
    twins
}

/// What a column looks at of calendars that are by rule in some years.
pub(super) fn by_rule(binder: &Binder<'_>, of: &OfColumn<'_>, step: Option<&dyn Step>) -> Vec<ByRule> {
    let Some(step) = step else { return Vec::new() };
    let is_of_dates = |column: &usize| matches!(binder.kind(*column), Kind::Date { .. });
    let inputs: Vec<usize> = step.inputs().into_iter().filter(is_of_dates).collect();
    let as_of = binder.known_as_of().filter(|_| of.planned.planned.uses_as_of());
    let as_of = as_of.map(|as_of| as_of.date.year());
    let of_calendar = |calendar| ByRule { column: of.column, inputs: inputs.clone(), calendar, as_of };
    binder.by_rule(&of.met).into_iter().map(of_calendar).collect()
}
