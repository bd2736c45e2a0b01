//! The figures of an interval in every unit of the calendar.

use mild_ledger::{Fraction, Interval, Unit};

/// A row a unit, the day first.
pub(crate) type UnitFigures = Vec<UnitRow>;

/// An interval in one unit.
#[derive(Debug, Clone, Copy)]
pub(crate) struct UnitRow {
    pub(crate) unit: Unit,
    pub(crate) complete: i64,
    /// By the starts of the unit that were passed, and exactly; none for the day, which has begun and is complete at the same
    /// moment, and is never divided.
    pub(crate) parts: Option<UnitParts>,
}

/// What an interval is in a unit that can be divided.
#[derive(Debug, Clone, Copy)]
pub(crate) struct UnitParts {
    pub(crate) starts_passed: i64,
    pub(crate) fractional: Fraction,
}

pub(super) fn unit_figures(interval: Interval) -> UnitFigures {
    let row = |unit| UnitRow {
        unit,
        complete: interval.complete(unit).value(),
        parts: (unit != Unit::Day).then(|| UnitParts {
            starts_passed: interval.starts_passed(unit).value(),
            fractional: interval.fractional(unit),
        }),
    };
    Unit::ALL.into_iter().map(row).collect()
}
