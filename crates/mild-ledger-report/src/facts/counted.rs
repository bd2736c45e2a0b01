//! The days that a cell of an added column counts.

use super::marked_days::{MarkedMonths, Marks};
use mild_ledger_records::{CellWorking, LeadTo};

impl MarkedMonths {
    /// The months in which the days of a cell were counted.
    pub(crate) fn behind(cell: &CellWorking) -> Option<Self> {
        let days = cell.days.as_ref()?;
        let start = days.from;
        let marks = match days.lead_to {
            LeadTo::Date => Marks::Numbered { start },
            _ => Marks::Counted { start },
        };
        Some(Self::counted(&days.calendar, &days.grid, marks))
    }
}
