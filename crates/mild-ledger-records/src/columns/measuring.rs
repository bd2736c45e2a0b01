//! How intervals and stays are measured, and the columns that come of it.

use super::inputs::{DateInput, or_default};
use super::rows::{Moment, Rows, rounded_fractions, whole_numbers};
use super::why::CellWhy;
use crate::mistakes::{Value, Walk, nearest, nearest_words};
use crate::table::{Data, Figure, FigureOf, Kind};
use crate::written::read_decimals;
use mild_ledger::column::{Column, Intervals};
use mild_ledger::{
    ClockInterval, ClockMeasure, CountRule, Date, DateRange, Ends, Error, Interval, Measure, MonthEnd, Parts,
    Rounding, Unit, Weekday,
};
use std::ops::Range;
use toml::de::DeTable;

impl Measuring {
    /// A way of measuring with what it has where a plan says no more.
    pub(super) fn of(measure: Measure) -> Self {
        Self {
            measure,
            ends: Ends::OF_ELAPSED_TIME,
            month_end: MonthEnd::default(),
            weeks_begin: Weekday::Monday,
            decimals: 0,
            rounding: Rounding::default(),
            parts: PartsGives::Whole,
        }
    }
}

/// The keys that go with `count`.
pub(super) const MEASURING_KEYS: [&str; 7] =
    ["count", "gives", "ends", "month_end", "weeks_begin", "decimals", "rounding"];

/// How intervals are measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Measuring {
    pub(super) measure: Measure,
    pub(super) ends: Ends,
    month_end: MonthEnd,
    weeks_begin: Weekday,
    /// Of fractions, which are exact until they are written.
    decimals: u8,
    rounding: Rounding,
    parts: PartsGives,
}

/// What a column takes of parts.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum PartsGives {
    Whole,
    Years,
    Months,
    Days,
}

const PARTS: [(&str, PartsGives); 4] = [
    ("parts", PartsGives::Whole),
    ("years", PartsGives::Years),
    ("months", PartsGives::Months),
    ("days", PartsGives::Days),
];

/// Decimals of fractions where the plan states none: months and years to the second, day counts to the fourth.
const DECIMALS: (u8, u8) = (2, 4);

pub(super) const WEEKDAY: &str = "a day of the week";

/// `count` with `ends`, `month_end`, `weeks_begin`, `decimals`, `rounding`, and `gives` for parts.
pub(super) fn read_measuring(walk: &mut Walk, table: &DeTable, span: Range<usize>) -> Option<Measuring> {
    const RULES: &str = "a way of counting, such as \"days\", \"complete months\" or \"month starts passed\"";
    let count = walk.needed(table, "count", span, RULES);
    let measure = count.and_then(|value| read_measure(walk, value, RULES))?;
    let month_ends = [MonthEnd::Clamp, MonthEnd::Keep, MonthEnd::NextStart].map(|rule| (rule.word(), rule));
    let ends = match table.get("ends") {
        Some(value) => {
            let ends = walk.choice(value, &Ends::ALL.map(|ends| (ends.word(), ends)))?;
            if matches!(ends, Ends::First | Ends::Neither) && measure != Measure::Count(CountRule::DAYS) {
                let what = format!("{ends} is for days only");
                walk.mistakes.tell(value.span(), what, "last or first-and-last, or count = \"days\"");
                return None;
            }
            if ends != Ends::Last && matches!(measure, Measure::Clock(_)) {
                walk.mistakes.tell(
                    value.span(),
                    format!("{measure} have no days to count or leave out"),
                    "no ends",
                );
                return None;
            }
            ends
        }
        None => Ends::OF_ELAPSED_TIME,
    };
    let decimals = match (table.get("decimals"), measure) {
        (Some(value), measure) if is_whole(measure) => {
            walk.mistakes.tell(
                value.span(),
                format!("{measure} have no decimals"),
                "count = \"fractional months\" or a day count",
            );
            return None;
        }
        (Some(value), _) => read_decimals(walk, value)?,
        (None, Measure::YearFraction(_)) => DECIMALS.1,
        (None, _) => DECIMALS.0,
    };
    let parts = match (table.get("gives"), measure) {
        (Some(value), Measure::Parts) => walk.choice(value, &PARTS)?,
        (Some(value), _) => {
            walk.mistakes.tell(value.span(), "gives goes with parts only", "count = \"parts\"");
            return None;
        }
        (None, _) => PartsGives::Whole,
    };
    Some(Measuring {
        measure,
        ends,
        month_end: or_default(table, "month_end", MonthEnd::Clamp, |value| walk.choice(value, &month_ends))?,
        weeks_begin: or_default(table, "weeks_begin", Weekday::Monday, |value| {
            walk.parsed(value, WEEKDAY, str::parse)
        })?,
        decimals,
        rounding: or_default(table, "rounding", Rounding::Nearest, |value| {
            walk.choice_of(value, Rounding::ALL, Rounding::word)
        })?,
        parts,
    })
}

/// Whether a measure's figures never have decimals.
fn is_whole(measure: Measure) -> bool {
    match measure {
        Measure::Count(_) | Measure::Parts => true,
        Measure::Clock(measure) => ClockMeasure::is_whole(measure),
        _ => false,
    }
}

/// A measure; a bare unit is refused with the rules that it could mean.
fn read_measure(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<Measure> {
    let text = walk.text(value, expected)?;
    let error: mild_ledger::Error = match text.value.parse() {
        Ok(measure) => return Some(measure),
        Err(error) => error,
    };
    let measures: Vec<String> = Measure::all().map(|measure| measure.to_string()).collect();
    let words = || measures.iter().map(String::as_str).chain(["working days", "working hours"]);
    let help = match text.value.parse::<Unit>() {
        Ok(Unit::Day) => Some("nearest: \"days\"".to_owned()),
        Ok(unit) => Some(format!(
            "\"complete {}\" counts whole {}, \"{unit} starts passed\" the first days of a {unit}",
            unit.plural(),
            unit.plural()
        )),
        Err(_) => nearest(&text.value, words()).map(|word| format!("nearest: \"{word}\"")),
    };
    if matches!(text.value.as_str(), "working days" | "working hours") {
        let what = format!("{} are not counted here", text.value);
        let help =
            format!("a column counts them: between = [\"…\", \"as-of\"] with count = \"{}\"", text.value);
        walk.mistakes.tell_with_help(text.span, what, expected, Some(help));
        return None;
    }
    let (near, _) = nearest_words(&text.value, words());
    let expected = format!("a way of counting such as {} …", crate::mistakes::in_quotes(near));
    walk.mistakes.tell_with_help(text.span, error.what(), expected, help);
    None
}

impl Measuring {
    /// In words, for a header: `complete months`, `days (ends: first-and-last)`.
    pub(super) fn said(&self) -> (String, String) {
        let what = match self.parts {
            PartsGives::Whole => match self.measure {
                Measure::Parts => "years, months and days".to_owned(),
                measure => measure.to_string(),
            },
            PartsGives::Years => "years of the parts".to_owned(),
            PartsGives::Months => "months left over".to_owned(),
            PartsGives::Days => "days left over".to_owned(),
        };
        // Without a word for them, other units are counted from the start.
        let are_stated =
            self.ends != Ends::OF_ELAPSED_TIME || self.measure == Measure::Count(CountRule::DAYS);
        let ends = if are_stated { format!(" ({})", self.ends.said()) } else { String::new() };
        (what, ends)
    }

    /// What a column of it holds.
    pub(super) fn kind(&self, of: FigureOf) -> Kind {
        let ends = (!matches!(self.measure, Measure::Clock(_))).then_some(self.ends);
        let figure = Figure { rule: self.measure.to_string(), ends, of };
        match (self.measure, self.parts) {
            (Measure::Parts, PartsGives::Whole) => Kind::Parts(figure),
            (measure, _) if is_whole(measure) => Kind::Number { decimals: 0, figure: Some(figure) },
            _ => Kind::Number { decimals: self.decimals, figure: Some(figure) },
        }
    }

    /// The figures of all rows between two inputs, by their dates alone.
    pub(super) fn between_dates(
        &self,
        rows: &Rows<'_>,
        start: DateInput,
        end: DateInput,
        within: Option<DateRange>,
    ) -> Result<Data, Error> {
        let (starts, ends) = rows.pair_of_days(start, end);
        self.figures(&Intervals::between(starts.values()?, ends.values()?)?, within)
    }

    /// The figures of stays, each from its start to its end.
    pub(super) fn of_intervals(&self, stays: &[Option<Interval>]) -> Result<Data, Error> {
        let starts: Column<Date> = stays.iter().map(|stay| stay.map(Interval::start)).collect();
        let ends: Column<Date> = stays.iter().map(|stay| stay.map(Interval::end)).collect();
        self.figures(&Intervals::between(&starts, &ends)?, None)
    }

    fn figures(&self, of: &Intervals<'_>, within: Option<DateRange>) -> Result<Data, Error> {
        let of = of.with_month_end(self.month_end)?.with_weeks_beginning(self.weeks_begin);
        if let Some(days) = within {
            return Ok(Data::counts(of.days_within(days, self.ends)));
        }
        if self.measure == Measure::Count(CountRule::DAYS) {
            return Ok(Data::counts(widened(of.days_counting(self.ends))));
        }
        let intervals = of.with_ends(self.ends)?;
        let how = (self.decimals, self.rounding);
        match self.measure {
            Measure::Count(rule) => Ok(Data::counts(widened(intervals.count(rule)))),
            Measure::Fractional(unit) => rounded_fractions(intervals.fractional(unit), how),
            Measure::YearFraction(convention) => rounded_fractions(intervals.year_fraction(convention), how),
            Measure::MeanMonths(mean) => rounded_fractions(intervals.mean_months(mean), how),
            Measure::CalendarMonths => rounded_fractions(intervals.calendar_months(), how),
            _ => {
                let parts = intervals.parts();
                let one = |of: fn(Parts) -> i32| {
                    whole_numbers(parts.iter().map(|parts| parts.map(|parts| of(parts).into())))
                };
                Ok(match self.parts {
                    PartsGives::Whole => Data::parts(parts),
                    PartsGives::Years => one(Parts::years),
                    PartsGives::Months => one(Parts::months),
                    PartsGives::Days => one(Parts::days),
                })
            }
        }
    }

    /// How the figure of an interval comes about.
    pub(super) fn why(&self, interval: Interval) -> Option<CellWhy> {
        let interval = interval.with_month_end(self.month_end).ok()?.with_weeks_beginning(self.weeks_begin);
        if self.measure == Measure::Count(CountRule::DAYS) && self.ends != Ends::Last {
            let count = interval.days_counting(self.ends);
            let (start, end) = (interval.start(), interval.end());
            return Some(CellWhy::said(
                format!("days, ends {}", self.ends),
                [format!("{start} to {end}"), format!("so {}", count.value())],
            ));
        }
        interval.with_ends(self.ends).ok()?.why_measure(self.measure).ok().map(CellWhy::from)
    }

    /// How a figure by the clock comes about.
    pub(super) fn why_by_the_clock(
        &self,
        measure: ClockMeasure,
        start: Moment,
        end: Moment,
    ) -> Option<CellWhy> {
        let interval = ClockInterval::between(start.0, end.0);
        let interval = match (start.1, end.1) {
            (Some(start), Some(end)) => interval.with_instants(start, end),
            _ => interval,
        };
        Some(interval.why(measure).into())
    }

    /// The figures of date-times by the clock.
    pub(super) fn by_the_clock(
        &self,
        measure: ClockMeasure,
        pairs: Vec<Option<(Moment, Moment)>>,
    ) -> Result<Data, Error> {
        let figures = pairs.into_iter().map(|pair| {
            let ((start, start_utc), (end, end_utc)) = pair?;
            let interval = ClockInterval::between(start, end);
            let interval = match (start_utc, end_utc) {
                (Some(start), Some(end)) => interval.with_instants(start, end),
                _ => interval,
            };
            Some(interval.figure(measure))
        });
        if measure.is_whole() {
            return Ok(whole_numbers(figures.map(|figure| figure.map(|figure| figure.whole().into()))));
        }
        rounded_fractions(figures, (self.decimals, self.rounding))
    }
}

/// Counts in the width in which records hold them.
pub(super) fn widened(counts: Column<i32>) -> impl Iterator<Item = Option<i64>> {
    counts.into_iter().map(|count| count.map(i64::from))
}
