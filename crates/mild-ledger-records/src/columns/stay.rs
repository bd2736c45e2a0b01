//! Stays: from a start to an end, or to the as-of date while there is none.

use super::binder::Binder;
use super::inputs::{DateInput, DateSource, read_date_source};
use super::measuring::Measuring;
use super::rows::Rows;
use crate::mistakes::{At, Value, Walk};
use mild_ledger::{Date, Error, Interval, Measure, Tenure};
use toml::de::DeValue;

/// A start and an end, or a start alone.
#[derive(Debug)]
pub(super) struct StaySource {
    pub(super) start: At<DateSource>,
    pub(super) end: Option<At<DateSource>>,
}

/// Where the ends of stays come from, and the day that those without an end run to.
#[derive(Debug, Clone, Copy)]
pub(super) struct StayInput {
    pub(super) start: DateInput,
    pub(super) end: DateInput,
    pub(super) as_of: Date,
}

pub(super) fn read_stay(walk: &mut Walk, value: &Value<'_>) -> Option<StaySource> {
    const EXPECTED: &str = "a start and an end, such as [\"Hired\", \"Left\"], or the start alone";
    if !matches!(value.get_ref(), DeValue::Array(_)) {
        return Some(StaySource { start: read_date_source(walk, value, EXPECTED)?, end: None });
    }
    let [start, end] = walk.two_items(value, EXPECTED)?;
    let start = read_date_source(walk, start, EXPECTED)?;
    Some(StaySource { start, end: Some(read_date_source(walk, end, EXPECTED)?) })
}

impl StaySource {
    /// In words, for a header.
    pub(super) fn said(&self) -> String {
        match &self.end {
            Some(end) => format!("from {} to {} or as-of", self.start.value.said(), end.value.said()),
            None => format!("from {} to as-of", self.start.value.said()),
        }
    }

    pub(super) fn bind(&self, binder: &mut Binder<'_>) -> Option<StayInput> {
        let as_of = binder.as_of(&self.start.span);
        let start = binder.date_input(&self.start);
        let end = match &self.end {
            Some(end) => binder.date_input(end),
            None => as_of.map(DateInput::Every),
        };
        Some(StayInput { start: start?, end: end?, as_of: as_of?.date })
    }
}

impl StayInput {
    /// The columns that it looks at.
    pub(super) fn columns(&self) -> Vec<usize> {
        [self.start, self.end].into_iter().filter_map(DateInput::column).collect()
    }

    /// A stay as far as it has come; `None` where it has no start, or an end that could not be read, which is not the same
    /// as none.
    pub(super) fn of(&self, rows: &Rows<'_>, row: usize) -> Option<Result<Interval, Error>> {
        if rows.is_unreadable(self.end, row) {
            return None;
        }
        let start = Tenure::from(rows.date(self.start, row)?);
        // A stay up to the as-of date has no end of its own: before its start it has not begun, and is not out of order.
        let end = rows.date(self.end, row).filter(|end| *end != self.as_of || self.end.column().is_some());
        let stay = end.map_or(start, |end| start.until(end));
        Some(stay.as_of(self.as_of))
    }

    /// The stays of all rows; those that have no result are listed.
    pub(super) fn all(&self, rows: &mut Rows<'_>) -> Vec<Option<Interval>> {
        rows.each(|stay| stay, |rows, row| self.of(rows, row))
    }
}

/// What counts hours wants times on both ends: a date alone is never taken as its midnight.
pub(super) fn check_times(
    binder: &mut Binder<'_>,
    measuring: &Measuring,
    ends: [(DateInput, &At<DateSource>); 2],
) -> Option<()> {
    match measuring.measure {
        Measure::Clock(measure) => want_times(binder, &measure.to_string(), ends),
        _ => Some(()),
    }
}

/// Tells of ends without a time, between which so-and-so many hours cannot be counted.
pub(super) fn want_times(
    binder: &mut Binder<'_>,
    measure: &str,
    ends: [(DateInput, &At<DateSource>); 2],
) -> Option<()> {
    let without: Vec<_> = ends.into_iter().filter(|(input, _)| binder.time_of(*input).is_none()).collect();
    for (_, source) in &without {
        let what = match &source.value {
            DateSource::AsOf => format!("{measure} up to an as-of date without a time"),
            DateSource::Date(date) => format!("{measure} are counted between times, and {date} has none"),
            DateSource::Column(name) => format!(
                "{measure} are counted between times of day, and \"{}\" keeps none",
                name.escape_debug()
            ),
        };
        let (expected, help) = match &source.value {
            DateSource::AsOf => (
                "an as-of date with a time",
                "as_of = 2026-09-30T17:00, or \"now\"; --as-of 2026-09-30T17:00 names it for one run",
            ),
            DateSource::Date(_) => ("two columns of dates with times", "days are counted between dates"),
            DateSource::Column(_) => (
                "a column of dates with times",
                "set it under [records.dates]: { pattern = \"…\", time = \"keep\" }",
            ),
        };
        binder.mistakes.tell_with_help(source.span.clone(), what, expected, Some(help.to_owned()));
    }
    without.is_empty().then_some(())
}
