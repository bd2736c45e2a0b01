//! One figure of an interval by its name, for a script or a person who wants no table.

use crate::Detail;
use mild_ledger::{
    ClockInterval, ClockMeasure, CountRule, DayCount, Ends, Figure, Fraction, Interval, Measure, Rounding,
    Unit, Working,
};

/// Decimals shown of an exact fraction.
const DECIMALS: u8 = 4;

/// A figure of an interval between dates in one line, with its working where that is asked for; `None` for a figure
/// that needs times, and for all but days under ends that only days have a meaning under.
///
/// ```
/// use mild_ledger::{Ends, Interval};
/// use mild_ledger_report::{Detail, figures};
/// let interval = Interval::between("2026-01-31".parse()?, "2026-03-30".parse()?);
/// let months = figures::of_days(interval, Ends::Last, "complete months".parse()?, Detail::FiguresOnly);
/// assert_eq!(months.as_deref(), Some("1\n"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn of_days(interval: Interval, ends: Ends, measure: Measure, detail: Detail) -> Option<String> {
    let days_only = matches!(ends, Ends::First | Ends::Neither);
    let working = interval.why_measure(measure).ok()?;
    let shown = match measure {
        Measure::Count(rule) if rule == CountRule::DAYS => interval.days_counting(ends).value().to_string(),
        _ if days_only => return None,
        _ => match interval.measure(measure).ok()? {
            Figure::Fraction(fraction) => decimal(fraction),
            _ => working.figure().to_owned(),
        },
    };
    let last = (days_only && working.figure() != shown).then(|| format!("less 1, since {}", ends.said()));
    Some(in_lines(&shown, &working, last, detail))
}

/// A figure of an interval between date-times: one of the clock, or one of its dates.
///
/// ```
/// use mild_ledger::ClockInterval;
/// use mild_ledger_report::{Detail, figures};
/// let interval = ClockInterval::between("2026-09-30T16:00".parse()?, "2026-10-02T09:30".parse()?);
/// let figure = |name: &str| name.parse().ok().and_then(|name| figures::of_times(interval, name, Detail::FiguresOnly));
/// assert_eq!(figure("complete hours").as_deref(), Some("41\n"));
/// assert_eq!(figure("days").as_deref(), Some("2\n"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[must_use]
pub fn of_times(interval: ClockInterval, measure: Measure, detail: Detail) -> Option<String> {
    match measure {
        Measure::Clock(measure) => {
            let figure = interval.figure(measure);
            let shown = if measure.is_whole() { figure.to_string() } else { decimal(figure) };
            Some(in_lines(&shown, &interval.why(measure), None, detail))
        }
        measure => of_days(interval.dates(), Ends::Last, measure, detail),
    }
}

/// A figure alone in a line; with its working, the rule and the steps in the next lines.
#[must_use]
pub fn in_lines(shown: &str, working: &Working, last: Option<String>, detail: Detail) -> String {
    let mut out = format!("{shown}\n");
    if detail == Detail::WithWorking {
        out.push_str(&format!("  {}\n", working.rule()));
        for step in working.steps() {
            out.push_str(&format!("    {}\n", step.said()));
        }
        if let Some(last) = last {
            out.push_str(&format!("    {last}\n"));
        }
    }
    out
}

/// The working of every figure of dates.
pub(crate) fn workings(interval: Interval) -> Vec<Working> {
    let mut all: Vec<_> = CountRule::all().map(|rule| interval.why(rule)).collect();
    all.push(interval.why_parts());
    all.push(interval.why_calendar_months());
    all.extend(Unit::ALL.into_iter().skip(1).map(|unit| interval.why_fractional(unit)));
    all.extend(DayCount::ALL.iter().copied().map(|convention| interval.why_year_fraction(convention)));
    all
}

/// The working of every figure by the clock.
pub(crate) fn clock_workings(interval: ClockInterval) -> Vec<Working> {
    ClockMeasure::all().map(|measure| interval.why(measure)).collect()
}

/// A fraction rounded to the decimals shown; a number of decimals that is always allowed.
pub(crate) fn decimal(fraction: Fraction) -> String {
    fraction
        .to_decimal(DECIMALS, Rounding::Nearest)
        .map_or_else(|_| String::new(), |decimal| decimal.to_string())
}
