//! What reports have of the kinds of columns: columns that one report looks at and no one sees, its calendar and its periods.

use super::binder::Binder;
use super::calendar::{CalendarChoice, read_calendar_choice};
use super::inputs::DateSource;
use super::period_rules::read_period_rules;
use super::typed_numbers::NumberUse;
use super::{Planned, between, moved, working_days};
use crate::mistakes::{At, Walk};
use crate::table::Kind;
use mild_ledger::{Ends, PeriodRule, Scale, Shift, WorkCalendar};
use std::ops::Range;
use toml::de::DeTable;

/// A column of one report, under a name by which others of it may find it.
#[derive(Debug)]
pub(crate) struct HiddenColumn {
    planned: Box<dyn Planned>,
}

impl HiddenColumn {
    /// The elapsed time between two dates, counted as the report says.
    pub(crate) fn elapsed(
        walk: &mut Walk,
        table: &DeTable,
        dates: (At<DateSource>, At<DateSource>),
        span: Range<usize>,
    ) -> Option<Self> {
        between::read_between(walk, table, dates, span, Ends::OF_ELAPSED_TIME).map(|planned| Self { planned })
    }

    /// The day so long after another.
    pub(crate) fn day_after(
        walk: &mut Walk,
        table: &DeTable,
        (from, shift): (At<DateSource>, At<Shift>),
        span: Range<usize>,
    ) -> Option<Self> {
        moved::read_day_after(walk, table, (from, shift), span).map(|planned| Self { planned })
    }

    /// The plain days from one date to another.
    pub(crate) fn days_between(start: At<DateSource>, end: At<DateSource>) -> Self {
        Self { planned: between::days_between(start, end) }
    }

    /// The working days after one day up to another.
    pub(crate) fn working_days_after(
        walk: &mut Walk,
        table: &DeTable,
        dates: (At<DateSource>, At<DateSource>),
        span: Range<usize>,
    ) -> Option<Self> {
        working_days::read_days_after(walk, table, dates, span).map(|planned| Self { planned })
    }

    /// What it holds, in words.
    pub(crate) fn said(&self) -> String {
        self.planned.header().unwrap_or_default()
    }
}

/// The one calendar that a report counts by, as its keys name it.
#[derive(Debug)]
pub(crate) struct ReportCalendar {
    choice: CalendarChoice,
}

impl ReportCalendar {
    pub(crate) fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Self> {
        let choice = read_calendar_choice(walk, table, span)?;
        if let CalendarChoice::OfRow(column) = &choice {
            let what = "a report counts by one calendar";
            walk.mistakes.tell(column.span.clone(), what, "calendar = \"yard\"");
            return None;
        }
        Some(Self { choice })
    }

    /// The calendar, opened.
    pub(crate) fn bind(&self, binder: &mut Binder<'_>) -> Option<WorkCalendar> {
        let calendar = binder.calendar(&self.choice)?;
        binder.opened_calendar(calendar).cloned()
    }

    pub(crate) fn said(&self) -> String {
        self.choice.said()
    }
}

/// The periods that a report goes by: `period = "month"` unless another is named, with the keys that say more of it.
pub(crate) fn read_periods(walk: &mut Walk, table: &DeTable) -> Option<PeriodRule> {
    let words = read_period_rules(walk, table)?.all().map(|rule| (rule.word(), rule));
    match table.get("period") {
        Some(value) => walk.choice(value, &words),
        None => Some(PeriodRule::Month),
    }
}

impl Binder<'_> {
    /// The column of amounts with a name, and their scale; what is wrong with it is reported.
    pub(crate) fn find_amounts(&mut self, name: &At<String>) -> Option<(usize, Scale)> {
        let amount = self.find(name)?;
        self.take_as(amount, NumberUse::Amounts);
        if let Kind::Amount { scale } = *self.kind(amount) {
            return Some((amount, scale));
        }
        let held = self.kind(amount).word();
        let what = format!("\"{}\" holds {held}, not amounts", name.value.escape_debug());
        self.mistakes.tell(name.span.clone(), what, "a column named under [records.amounts]");
        None
    }

    /// Adds a column that is neither written nor shown; no name represents it.
    pub(crate) fn add_hidden(&mut self, column: &HiddenColumn) -> Option<usize> {
        let (kind, step) = column.planned.bind(self)?;
        self.hidden_steps.push(step);
        Some(self.add_unnamed(column.said(), kind))
    }

    /// Binds something to which a column without a name is known by one.
    pub(crate) fn with_name<R>(&mut self, name: &str, column: usize, bind: impl FnOnce(&mut Self) -> R) -> R {
        let stood_for = self.forget_name(name);
        self.name_again(name, Some(vec![column]));
        let bound = bind(self);
        self.name_again(name, stood_for);
        bound
    }
}
