//! `between = [START, END]` with `count`: the time between two dates.

use super::binder::Binder;
use super::inputs::{DateInput, DateSource, read_date_source};
use super::measuring::{MEASURING_KEYS, Measuring, read_measuring};
use super::rows::Rows;
use super::stay::check_times;
use super::why::CellWhy;
use super::working_days::{self, WORKING_DAYS};
use super::working_hours::{self, WORKING_HOURS};
use super::{ColumnKind, CountsBetween, Planned, Step};
use crate::mistakes::{At, Walk};
use crate::table::{Data, FigureOf, Kind};
use mild_ledger::{CountRule, DateRange, Ends, Error, Interval, Measure, NamedWindow};
use std::ops::Range;
use toml::de::{DeTable, DeValue};

pub(super) const KIND: ColumnKind = ColumnKind {
    key: "between",
    gives: "the time between two dates by a named way of counting, working days or working hours",
    companions: &[
        "count",
        "gives",
        "within",
        "calendar",
        "ends",
        "month_end",
        "weeks_begin",
        "decimals",
        "rounding",
    ],
    lines: &[
        "{count} from {between} to {between} [on {calendar}]",
        "{count} between {between} and {between} [on {calendar}]",
        "{count} since {between} {between=as-of} [on {calendar}]",
        "{count} until {between=as-of} {between} [on {calendar}]",
        ", {decimals} decimals",
        ", {decimals} decimal",
    ],
    read,
};

#[derive(Debug)]
struct Between {
    start: At<DateSource>,
    end: At<DateSource>,
    within: Option<At<NamedWindow>>,
    measuring: Measuring,
}

struct BetweenStep {
    start: DateInput,
    end: DateInput,
    within: Option<DateRange>,
    measuring: Measuring,
}

fn read(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Box<dyn Planned>> {
    const EXPECTED: &str = "a start and an end, such as [\"Issued\", \"as-of\"]";
    let value = table.get("between")?;
    let [start, end] = walk.two_items(value, EXPECTED)?;
    let (start, end) = (read_date_source(walk, start, EXPECTED), read_date_source(walk, end, EXPECTED));
    read_between(walk, table, (start?, end?), span, Ends::OF_WORKING_DAYS)
}

/// The time between two dates, counted by the keys of a table; working days have these ends unless others are named.
pub(super) fn read_between(
    walk: &mut Walk,
    table: &DeTable,
    (start, end): (At<DateSource>, At<DateSource>),
    span: Range<usize>,
    of_working_days: Ends,
) -> Option<Box<dyn Planned>> {
    if let Some(DeValue::String(text)) = table.get("count").map(|count| count.get_ref()) {
        match text.as_ref() {
            WORKING_DAYS => {
                return working_days::read_between(walk, table, (start, end), span, of_working_days);
            }
            WORKING_HOURS => return working_hours::read_between(walk, table, (start, end), span),
            _ => {}
        }
    }
    if let Some((key, _)) = table.get_key_value("calendar") {
        walk.mistakes.tell(
            key.span(),
            "a calendar goes with working days and hours only",
            "count = \"working days\"",
        );
        return None;
    }
    let measuring = read_measuring(walk, table, span)?;
    let within = match table.get("within") {
        Some(value) => {
            let window = walk.parsed(value, "days such as \"last month\"", str::parse)?;
            if measuring.measure != Measure::Count(CountRule::DAYS) {
                walk.mistakes.tell(
                    value.span(),
                    "only days and working days can be counted within a stretch of days",
                    "count = \"days\"",
                );
                return None;
            }
            Some(At { value: window, span: value.span() })
        }
        None => None,
    };
    debug_assert!(MEASURING_KEYS.iter().all(|key| KIND.companions.contains(key)));
    Some(Box::new(Between { start, end, within, measuring }))
}

/// The plain days from one date to another.
pub(super) fn days_between(start: At<DateSource>, end: At<DateSource>) -> Box<dyn Planned> {
    let measuring = Measuring::of(Measure::Count(CountRule::DAYS));
    Box::new(Between { start, end, within: None, measuring })
}

impl Between {
    /// Days up to the as-of date are what a receivable is aged by.
    fn figure_of(&self) -> FigureOf {
        let measuring = &self.measuring;
        let days = measuring.measure == Measure::Count(CountRule::DAYS) && measuring.ends == Ends::Last;
        let is_to_as_of = self.end.value == DateSource::AsOf && days && self.within.is_none();
        if is_to_as_of { FigureOf::DaysToAsOf } else { FigureOf::Interval }
    }
}

impl Planned for Between {
    fn header(&self) -> Option<String> {
        let (what, ends) = self.measuring.said();
        let (start, end) = (self.start.value.said(), self.end.value.said());
        let within =
            self.within.as_ref().map_or_else(String::new, |window| format!(" within {}", window.value));
        Some(super::titled(&format!("{what} from {start} to {end}{within}{ends}")))
    }

    fn uses_as_of(&self) -> bool {
        self.within.is_some() || [&self.start, &self.end].iter().any(|end| end.value == DateSource::AsOf)
    }

    fn stand_in(&self) -> Kind {
        self.measuring.kind(FigureOf::Interval)
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<(Kind, Box<dyn Step>)> {
        let (start, end) = (binder.date_input(&self.start), binder.date_input(&self.end));
        let (start, end) = (start?, end?);
        check_times(binder, &self.measuring, [(start, &self.start), (end, &self.end)])?;
        let within = match &self.within {
            Some(window) => Some(binder.window(&window.value, &window.span, "")?),
            None => None,
        };
        let kind = self.measuring.kind(self.figure_of());
        Some((kind, Box::new(BetweenStep { start, end, within, measuring: self.measuring })))
    }
}

impl Step for BetweenStep {
    fn inputs(&self) -> Vec<usize> {
        [self.start, self.end].into_iter().filter_map(DateInput::column).collect()
    }

    fn counts_between(&self) -> Option<CountsBetween> {
        let is_of_days = !matches!(self.measuring.measure, Measure::Clock(_)) && self.within.is_none();
        is_of_days.then_some(CountsBetween { start: self.start, end: self.end, calendar: None })
    }

    fn work_out(&self, rows: &mut Rows<'_>) -> Result<Data, Error> {
        let Measure::Clock(measure) = self.measuring.measure else {
            return self.measuring.between_dates(rows, self.start, self.end, self.within);
        };
        let pair = |row| rows.moment(self.start, row).zip(rows.moment(self.end, row));
        self.measuring.by_the_clock(measure, (0..rows.count()).map(pair).collect())
    }

    fn why(&self, rows: &Rows<'_>, row: usize) -> Option<CellWhy> {
        if let Measure::Clock(measure) = self.measuring.measure {
            return self.measuring.why_by_the_clock(
                measure,
                rows.moment(self.start, row)?,
                rows.moment(self.end, row)?,
            );
        }
        let interval = Interval::between(rows.date(self.start, row)?, rows.date(self.end, row)?);
        match self.within {
            None => self.measuring.why(interval),
            Some(window) => Some(CellWhy::said(
                format!("{}, within {window}", self.measuring.measure),
                [format!("{} to {}", interval.start(), interval.end())],
            )),
        }
    }
}
