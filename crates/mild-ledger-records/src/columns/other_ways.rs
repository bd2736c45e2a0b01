//! Other ways in which the figures of a column might have been counted, tried where a column of the file has other figures.

use super::inputs::DateInput;
use crate::columns::Setting;
use crate::table::Table;
use mild_ledger::{
    CountRule, Ends, Figure, Interval, Measure, MonthEnd, Quotient, RestDays, Rounding, WorkCalendar,
};

/// Between which dates a column counts, and by which calendar of the plan, if by one.
#[derive(Debug, Clone, Copy)]
pub(crate) struct CountsBetween {
    pub(crate) start: DateInput,
    pub(crate) end: DateInput,
    pub(crate) calendar: Option<usize>,
}

impl CountsBetween {
    /// The interval of a row.
    pub(crate) fn of(&self, table: &Table, row: usize) -> Option<Interval> {
        let date = |input: DateInput| match input {
            DateInput::Every(as_of) => Some(as_of.date),
            DateInput::Column(column) => table.date(column, row),
        };
        Some(Interval::between(date(self.start)?, date(self.end)?))
    }
}

/// A way of counting, in words, and what it gives.
pub(crate) struct OtherWay {
    pub(crate) said: String,
    figure: WayFigure,
}

type WayFigure = Box<dyn Fn(Interval) -> Option<Quotient> + Send + Sync>;

impl OtherWay {
    fn new(
        said: impl Into<String>,
        figure: impl Fn(Interval) -> Option<Quotient> + Send + Sync + 'static,
    ) -> Self {
        Self { said: said.into(), figure: Box::new(figure) }
    }

    /// The figure of an interval; none where there is none, such as where a calendar does not cover its days.
    pub(crate) fn of(&self, interval: Interval) -> Option<Quotient> {
        (self.figure)(interval)
    }
}

/// The ways that figures with a number of decimals may have been counted in; whole numbers from fractions by rounding too.
pub(crate) fn other_ways(between: &CountsBetween, setting: &Setting, decimals: u8) -> Vec<OtherWay> {
    let mut ways: Vec<OtherWay> = Vec::new();
    for measure in Measure::all().filter(|measure| !matches!(measure, Measure::Parts | Measure::Clock(_))) {
        add_measure(&mut ways, measure, decimals);
    }
    for ends in [Ends::FirstAndLast, Ends::Neither] {
        ways.push(OtherWay::new(format!("days, ends {ends}"), move |interval| {
            Some(whole(interval.days_counting(ends).value()))
        }));
    }
    let week = WorkCalendar::rest_days_only(RestDays::default());
    let planned = between.calendar.and_then(|nth| setting.calendars.get(nth));
    let calendars = planned.map(|known| {
        let calendar = known.opened.calendar().clone();
        (format!("working days by {}", calendar.name()), calendar)
    });
    let calendars = calendars.into_iter().chain([("working days without holidays".to_owned(), week)]);
    for (said, calendar) in calendars {
        for ends in Ends::ALL {
            let calendar = calendar.clone();
            ways.push(OtherWay::new(format!("{said}, ends {ends}"), move |interval| {
                calendar.count_working_days(interval, ends).ok().map(whole)
            }));
        }
    }
    ways
}

fn add_measure(ways: &mut Vec<OtherWay>, measure: Measure, decimals: u8) {
    let plain = move |interval: Interval| exact(interval.measure(measure).ok()?);
    if matches!(measure, Measure::Count(_)) {
        ways.push(OtherWay::new(measure.to_string(), plain));
    } else {
        for (rounding, said) in
            [(Rounding::Nearest, ""), (Rounding::Truncate, ", truncated"), (Rounding::Up, ", rounded up")]
        {
            ways.push(OtherWay::new(format!("{measure}{said}"), move |interval| {
                Some(plain(interval)?.to_decimal(decimals, rounding).ok()?.into())
            }));
        }
    }
    // Starts passed do not depend on it, and days have ends of their own.
    let is_of_units = matches!(measure, Measure::Count(rule) if rule != CountRule::DAYS && rule.way() == mild_ledger::Way::Complete);
    if is_of_units {
        ways.push(OtherWay::new(format!("{measure}, first and last day counted"), move |interval| {
            exact(interval.with_ends(Ends::FirstAndLast).ok()?.measure(measure).ok()?)
        }));
        ways.push(OtherWay::new(format!("{measure}, month ends kept"), move |interval| {
            exact(interval.with_month_end(MonthEnd::Keep).ok()?.measure(measure).ok()?)
        }));
    }
}

fn exact(figure: Figure) -> Option<Quotient> {
    match figure {
        Figure::Count(count) => Some(whole(count.value())),
        Figure::Fraction(fraction) => Some(fraction.into()),
        _ => None,
    }
}

fn whole(count: i64) -> Quotient {
    mild_ledger::Decimal::from(count).into()
}
