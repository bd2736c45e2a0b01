//! Days from which reports are seen: dates, days named from the as-of date, and the last ends of several periods.

use crate::columns::Binder;
use crate::mistakes::{At, Value, Walk, read_date};
use mild_ledger::{Date, Error, Month, NamedDay, Shift, Unit};
use std::ops::Range;
use toml::de::DeValue;

/// One or several days, as a plan says them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum PlannedDays {
    Day(PlannedDay),
    /// The last so many ends of a period, on or before the as-of date.
    LastEnds {
        count: u16,
        of: Unit,
    },
}

/// A day, as a plan says it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum PlannedDay {
    Date(Date),
    /// From the as-of date.
    Named(NamedDay),
}

/// The most dates from which a report is seen.
const MOST: usize = 60;
const EXPECTED: &str =
    "dates such as 2026-06-30, days such as \"end of last month\", or \"last 12 month ends\"";

/// `at = "last 12 month ends"`, or a list of days.
pub(super) fn read_days(walk: &mut Walk, value: &Value<'_>) -> Option<Vec<At<PlannedDays>>> {
    let items = walk.items_or_one(value);
    if items.is_empty() {
        walk.mistakes.tell(value.span(), "there are no days", EXPECTED);
        return None;
    }
    items.iter().map(|item| read_some(walk, item)).collect()
}

fn read_some(walk: &mut Walk, value: &Value<'_>) -> Option<At<PlannedDays>> {
    if let Some(text) = value.get_ref().as_str()
        && let Some((count, of)) = last_ends(text)
    {
        if count == 0 || usize::from(count) > MOST {
            let what = format!("\"{}\" are {count} days", text.escape_debug());
            walk.mistakes.tell(value.span(), what, format!("1 to {MOST}"));
            return None;
        }
        return Some(At { value: PlannedDays::LastEnds { count, of }, span: value.span() });
    }
    let day = read_day(walk, value, EXPECTED)?;
    Some(At { value: PlannedDays::Day(day.value), span: day.span })
}

/// A date, or a day named from the as-of date.
pub(super) fn read_day(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<At<PlannedDay>> {
    let day = match value.get_ref() {
        DeValue::Datetime(_) => PlannedDay::Date(read_date(walk, value, expected)?),
        _ => {
            let text = walk.text(value, expected)?.value;
            let Ok(named) = text.parse() else {
                let what = format!("\"{}\" names no day", text.escape_debug());
                walk.mistakes.tell(value.span(), what, expected);
                return None;
            };
            PlannedDay::Named(named)
        }
    };
    Some(At { value: day, span: value.span() })
}

/// `last 12 month ends`.
fn last_ends(text: &str) -> Option<(u16, Unit)> {
    let words: Vec<String> = text.split_whitespace().map(str::to_lowercase).collect();
    let ["last", count, of, "ends"] = *words.iter().map(String::as_str).collect::<Vec<_>>() else {
        return None;
    };
    let of = match of {
        "month" => Unit::Month,
        "quarter" => Unit::Quarter,
        "year" => Unit::Year,
        _ => return None,
    };
    Some((count.parse().ok()?, of))
}

impl PlannedDay {
    /// The date, and what is wrong with it is reported.
    pub(super) fn seen(self, span: &Range<usize>, binder: &mut Binder<'_>) -> Option<Date> {
        let as_of = binder.as_of(span)?.date;
        told(self.from(as_of), span, binder)
    }

    /// The date, seen from another.
    pub(super) fn from(self, as_of: Date) -> Result<Date, Error> {
        match self {
            Self::Date(date) => Ok(date),
            Self::Named(day) => day.seen_from(as_of),
        }
    }
}

impl PlannedDays {
    fn seen(self, span: &Range<usize>, binder: &mut Binder<'_>) -> Option<Vec<Date>> {
        match self {
            Self::Day(day) => day.seen(span, binder).map(|date| vec![date]),
            Self::LastEnds { count, of } => {
                let as_of = binder.as_of(span)?.date;
                told(ends_before(as_of, count, of), span, binder)
            }
        }
    }
}

/// All dates, in their order, each once.
pub(super) fn dates_of(days: &[At<PlannedDays>], binder: &mut Binder<'_>) -> Option<Vec<Date>> {
    let mut dates: Vec<Date> = Vec::new();
    for part in days {
        dates.extend(part.value.seen(&part.span, binder)?);
    }
    dates.sort_unstable();
    dates.dedup();
    if let (true, Some(last)) = (dates.len() > MOST, days.last()) {
        binder.mistakes.tell(
            last.span.clone(),
            format!("these are {} days", dates.len()),
            format!("1 to {MOST}"),
        );
        return None;
    }
    Some(dates)
}

/// The last ends of a period on or before a date, the earliest first.
fn ends_before(as_of: Date, count: u16, of: Unit) -> Result<Vec<Date>, Error> {
    let name = match of {
        Unit::Quarter => "end of this quarter",
        Unit::Year => "end of this year",
        _ => "end of this month",
    };
    let this = name.parse::<NamedDay>()?.seen_from(as_of)?;
    let first = if this > as_of { 1 } else { 0 };
    let end = |back: i32| {
        let month = Month::of(Shift::of(-back, of).apply(Month::of(this).first_day())?);
        Ok(month.last_day())
    };
    (first..first + i32::from(count)).rev().map(end).collect()
}

fn told<T>(dates: Result<T, Error>, span: &Range<usize>, binder: &mut Binder<'_>) -> Option<T> {
    dates.map_err(|error| binder.mistakes.tell(span.clone(), error.what(), error.allowed())).ok()
}
