//! What comes up in a stretch of days: dates themselves, their anniversaries, or what recurs from them.

use crate::table::Table;
use mild_ledger::{Anniversaries, Date, DateRange, MonthEnd, Recurrence, Shift};

/// What comes up, and when.
#[derive(Debug, Clone)]
pub(in crate::reports) struct ComingUp {
    pub(in crate::reports) column: usize,
    pub(in crate::reports) every: Every,
    pub(in crate::reports) days: DateRange,
    /// Which of them by their numbers; all where none are named.
    pub(in crate::reports) only: Vec<i32>,
}

/// How a date comes round.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::reports) enum Every {
    /// It is itself what comes up.
    Once,
    /// Its anniversaries, a 29 February by this rule.
    Year(MonthEnd),
    /// By a step from the date itself, which is not an occurrence.
    Step(Shift),
}

/// One of them: its day, and the how many-th it is, where they are counted.
pub(super) type Occurrence = (Date, Option<i32>);

impl ComingUp {
    /// Whether the date of a row itself lies in the days, where its anniversaries or recurrences are requested.
    pub(super) fn is_itself_within(&self, table: &Table, row: usize) -> bool {
        self.every != Every::Once && table.date(self.column, row).is_some_and(|date| self.days.contains(date))
    }

    /// Those of a row, in their order; `None` where it has no date.
    pub(super) fn of_row(&self, table: &Table, row: usize) -> Option<Vec<Occurrence>> {
        let date = table.date(self.column, row)?;
        let counted = |number: i32, date: Date| (date, Some(number));
        let mut found: Vec<Occurrence> = match self.every {
            Every::Once => Some((date, None)).filter(|_| self.days.contains(date)).into_iter().collect(),
            // The rule was read as one of the two that a 29 February comes round by.
            Every::Year(rule) => Anniversaries::of(date).with_leap_day(rule).map_or_else(
                |_| Vec::new(),
                |all| all.within(self.days).map(|found| counted(found.number(), found.date())).collect(),
            ),
            Every::Step(step) => {
                let all = self.days.occurrences_of(Recurrence::new(date, step));
                all.filter(|(number, _)| *number > 0).map(|(number, date)| counted(number, date)).collect()
            }
        };
        if !self.only.is_empty() {
            found.retain(|(_, number)| number.is_some_and(|number| self.only.contains(&number)));
        }
        Some(found)
    }
}
