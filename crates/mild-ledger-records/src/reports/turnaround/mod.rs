//! How long jobs take from one stage to another, by group and period, and against a promise.

mod tally;

use super::groups::{Figure, Level, PlannedFigure, PlannedLevel, Reduction, percentile_heading, read_levels};
use super::{BoundReport, Heading, PlannedReport, ReportKind, Tally};
use crate::columns::{Binder, CalendarByRule, DateSource, HiddenColumn, read_number};
use crate::mistakes::{At, Walk};
use crate::table::Kind;
use mild_ledger::{Date, DateTime, Decimal, Shift};
use std::sync::Arc;
use tally::{LONGEST, SHORTEST, TurnaroundTally};
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "turnaround",
    gives: "how long jobs take from one stage to another, against a promise, and what still runs",
    title: "Turnaround",
    keys: &[
        "between",
        "count",
        "calendar",
        "ends",
        "month_end",
        "weeks_begin",
        "decimals",
        "promise",
        "by",
        "percentiles",
    ],
    read,
    further: |_| Vec::new(),
};

/// The name by which the day that was promised is found while its report is bound.
const PROMISED: &str = "the promised day";
/// The name by which a figure is found while its report is bound.
const FIGURE: &str = "the figure";

/// A turnaround as the plan says it.
#[derive(Debug)]
struct PlannedTurnaround {
    heading: Heading,
    start: At<String>,
    end: At<String>,
    taken: HiddenColumn,
    running: HiddenColumn,
    promise: Option<PlannedPromise>,
    by: Vec<PlannedLevel>,
    percentiles: Vec<Decimal>,
}

/// The day by which a job is promised, and how much after it counts.
#[derive(Debug)]
struct PlannedPromise {
    shift: Shift,
    day: HiddenColumn,
    late: HiddenColumn,
}

/// A turnaround bound to its columns.
struct BoundTurnaround {
    title: String,
    /// How the time is counted, in words.
    shows: String,
    /// What it is counted in.
    unit: String,
    levels: Vec<Level>,
    start: usize,
    end: usize,
    taken: usize,
    running: usize,
    promise: Option<BoundPromise>,
    /// Of jobs that are finished, in the order of the table.
    figures: Vec<Figure>,
    /// Of jobs that were late.
    late_figures: Vec<Figure>,
    /// Of jobs that still run.
    running_figures: Vec<Figure>,
    by_rule: JobsByRule,
    as_of: Date,
    /// The as-of with its time, where hours are counted.
    as_of_time: Option<DateTime>,
}

/// The calendars of which some years are by rule: those that times are counted by, and those that promises go by. Where both go by some, these are the same.
struct JobsByRule {
    times: Vec<CalendarByRule>,
    promises: Vec<CalendarByRule>,
}

impl JobsByRule {
    fn calendars(&self) -> &[CalendarByRule] {
        if self.promises.is_empty() { &self.times } else { &self.promises }
    }
}

struct BoundPromise {
    said: String,
    day: usize,
    late: usize,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    const BETWEEN: &str = "between = [\"Hauled out\", \"Relaunched\"], two columns of dates";
    let span = heading.span.clone();
    let value = walk.needed(table, "between", span.clone(), BETWEEN)?;
    let [start, end] = walk.two_items(value, BETWEEN)?;
    let (start, end) = (walk.text(start, BETWEEN), walk.text(end, BETWEEN));
    let (start, end) = (start?, end?);
    let of_column =
        |name: &At<String>| At { value: DateSource::Column(name.value.clone()), span: name.span.clone() };
    let as_of = At { value: DateSource::AsOf, span: end.span.clone() };
    let (from, to) = (of_column(&start), of_column(&end));
    let taken = HiddenColumn::elapsed(walk, table, (from.clone(), to.clone()), span.clone())?;
    let running = HiddenColumn::elapsed(walk, table, (from.clone(), as_of), span.clone())?;
    let promise = match table.get("promise") {
        Some(value) => {
            const PROMISE: &str = "promise = \"10 working days\", or \"2 weeks\"";
            let shift: Shift = walk.parsed(value, PROMISE, str::parse)?;
            if shift.needs_time_of_day() || shift.month_total() < 0 || shift.day_total() < 0 {
                walk.mistakes.tell(value.span(), format!("{shift} is not a promise"), PROMISE);
                return None;
            }
            let promised = At { value: DateSource::Column(PROMISED.to_owned()), span: value.span() };
            let late = match shift.needs_calendar() {
                true => HiddenColumn::working_days_after(walk, table, (promised, to), span.clone())?,
                false => HiddenColumn::days_between(promised, to),
            };
            let day =
                HiddenColumn::day_after(walk, table, (from, At { value: shift, span: value.span() }), span)?;
            Some(PlannedPromise { shift, day, late })
        }
        None => None,
    };
    let by = read_levels(walk, table)?;
    let percentiles = match table.get("percentiles") {
        Some(value) => {
            const PLACES: &str = "numbers from 0 to 100, such as [75, 90]";
            let mut places = Vec::new();
            for item in walk.items_or_one(value) {
                let place = read_number(walk, item, PLACES)?;
                if place < Decimal::ZERO || place > Decimal::from(100) {
                    walk.mistakes.tell(item.span(), format!("there is no percentile {place}"), PLACES);
                    return None;
                }
                places.push(place);
            }
            places
        }
        None => vec![Decimal::from(90)],
    };
    Some(Box::new(PlannedTurnaround { heading, start, end, taken, running, promise, by, percentiles }))
}

impl PlannedReport for PlannedTurnaround {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    /// What still runs is measured to the as-of date.
    fn uses_as_of(&self) -> bool {
        true
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let as_of = binder.as_of(&self.heading.span);
        let (start, end) = (binder.find_dates(&self.start), binder.find_dates(&self.end));
        let levels: Vec<Option<Level>> = self.by.iter().map(|level| level.bind(binder)).collect();
        let (as_of, start, end) = (as_of?, start?, end?);
        let levels = levels.into_iter().collect::<Option<Vec<_>>>()?;
        let (hidden, counting) = binder.meeting_calendars(|binder| {
            Some((binder.add_hidden(&self.taken)?, binder.add_hidden(&self.running)?))
        });
        let (taken, running) = hidden?;
        let (promise, promising) = binder.meeting_calendars(|binder| match &self.promise {
            Some(promise) => promise.bind(binder).map(Some),
            None => Some(None),
        });
        let promise = promise?;
        let by_rule = JobsByRule { times: binder.by_rule(&counting), promises: binder.by_rule(&promising) };
        let mut figures = vec![(Reduction::Mean, "Mean".to_owned())];
        figures.push((Reduction::Percentile(Decimal::from(50)), "Median".to_owned()));
        let place = |place: &Decimal| (Reduction::Percentile(*place), percentile_heading(*place));
        figures.extend(self.percentiles.iter().map(place));
        figures.push((Reduction::Smallest, SHORTEST.to_owned()));
        figures.push((Reduction::Largest, LONGEST.to_owned()));
        let figures = self.figures_of(binder, taken, figures)?;
        let running_figures =
            self.figures_of(binder, running, vec![(Reduction::Largest, "Longest running".to_owned())])?;
        let late_figures = match &promise {
            Some(promise) => {
                let mean = (Reduction::Mean, "Mean late by".to_owned());
                let most = (Reduction::Largest, "Most late by".to_owned());
                self.figures_of(binder, promise.late, vec![mean, most])?
            }
            None => Vec::new(),
        };
        let title = self.heading.title_in(binder);
        let shows = self.taken.said();
        let unit = binder.kind(taken).figure().map_or_else(String::new, |figure| figure.rule.clone());
        // What goes by the clock has no ends.
        let goes_by_clock =
            matches!(binder.kind(taken), Kind::Number { figure: Some(figure), .. } if figure.ends.is_none());
        // Figures in days go by dates alone, whatever times there are.
        let as_of_time = as_of.at.filter(|_| goes_by_clock);
        Some(Box::new(Arc::new(BoundTurnaround {
            title,
            shows,
            unit,
            levels,
            start,
            end,
            taken,
            running,
            promise,
            figures,
            late_figures,
            running_figures,
            by_rule,
            as_of: as_of.date,
            as_of_time,
        })))
    }
}

impl PlannedPromise {
    fn bind(&self, binder: &mut Binder<'_>) -> Option<BoundPromise> {
        let day = binder.add_hidden(&self.day)?;
        let late = binder.with_name(PROMISED, day, |binder| binder.add_hidden(&self.late))?;
        Some(BoundPromise { said: self.shift.to_string(), day, late })
    }
}

impl PlannedTurnaround {
    /// Figures of a column that no name represents, each under its own name.
    fn figures_of(
        &self,
        binder: &mut Binder<'_>,
        column: usize,
        named: Vec<(Reduction, String)>,
    ) -> Option<Vec<Figure>> {
        if matches!(binder.kind(column), Kind::Parts(_)) {
            let what = "years, months and days have no mean";
            binder.mistakes.tell(self.heading.span.clone(), what, "count = \"days\" or another number");
            return None;
        }
        binder.with_name(FIGURE, column, |binder| {
            let mut figures = Vec::with_capacity(named.len());
            for (reduction, name) in named {
                let column = At { value: FIGURE.to_owned(), span: self.heading.span.clone() };
                let bound = PlannedFigure::Of { reduction, column }.bind(binder)?;
                figures.extend(bound.into_iter().next().map(|figure| Figure { name, ..figure }));
            }
            Some(figures)
        })
    }
}

impl BoundReport for Arc<BoundTurnaround> {
    fn amounts(&self) -> Vec<usize> {
        Vec::new()
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(TurnaroundTally::of(self))
    }
}
