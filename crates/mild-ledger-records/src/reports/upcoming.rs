//! What comes up: anniversaries, renewals and reviews in a stretch of days seen from the as-of date.

use super::groups::{Level, PlannedLevel, read_levels};
use super::list::{BoundList, CellShape, ComingUp, Every, First, MOST_ROWS};
use super::{BoundReport, Heading, PlannedReport, ReportKind};
use crate::columns::Binder;
use crate::mistakes::{At, Walk};
use mild_ledger::{DateRange, Error, ErrorKind, MonthEnd, NamedWindow, Shift};
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "upcoming",
    gives: "anniversaries, renewals and reviews in a stretch of days, by their dates",
    title: "What comes up",
    keys: &["of", "every", "only", "window", "within", "leap_day", "columns", "by", "first"],
    read,
    further: |_| Vec::new(),
};

/// The stretch of days.
#[derive(Debug)]
enum PlannedWindow {
    /// So long from the as-of date, which is included.
    From(At<Shift>),
    Named(At<NamedWindow>),
}

/// What comes up, as the plan says it.
#[derive(Debug)]
struct PlannedUpcoming {
    heading: Heading,
    of: At<String>,
    every: Every,
    only: Vec<i32>,
    window: PlannedWindow,
    columns: Option<Vec<At<String>>>,
    by: Vec<PlannedLevel>,
    first: First,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let of = walk.needed(table, "of", heading.span.clone(), "of = \"…\", a column of dates");
    let of = of.and_then(|value| walk.text(value, "the name of a column of dates"));
    let every = read_every(walk, table)?;
    let only = match table.get("only") {
        Some(value) if every == Every::Once => {
            let what = "a date that comes once has no numbers";
            walk.mistakes.tell(value.span(), what, "every = \"1 year\", or no such line");
            return None;
        }
        Some(value) => {
            let numbers = walk.items_or_one(value).iter().map(|item| walk.whole_number(item, 1..=9_999));
            let numbers = numbers.collect::<Option<Vec<_>>>()?;
            numbers.into_iter().filter_map(|number| i32::try_from(number).ok()).collect()
        }
        None => Vec::new(),
    };
    let window = read_window(walk, table, &heading)?;
    let columns = match table.get("columns") {
        Some(value) => Some(walk.texts(value, "a list of columns such as [\"Name\", \"Berth\"]")?),
        None => None,
    };
    let by = read_levels(walk, table)?;
    let first = match table.get("first") {
        Some(value) => {
            let number = walk.whole_number(value, 1..=i64::try_from(MOST_ROWS).unwrap_or(i64::MAX))?;
            First::OfAll(usize::try_from(number).unwrap_or(MOST_ROWS))
        }
        None => First::All,
    };
    Some(Box::new(PlannedUpcoming { heading, of: of?, every, only, window, columns, by, first }))
}

/// `every = "1 year"` unless stated, `"6 months"`, or `"once"`.
fn read_every(walk: &mut Walk, table: &DeTable) -> Option<Every> {
    const EVERY: &str = "\"1 year\", \"6 months\", \"2 weeks\" or the like, or \"once\"";
    let leap_day = match table.get("leap_day") {
        Some(value) => {
            let rules = [MonthEnd::Clamp, MonthEnd::NextStart].map(|rule| (rule.word(), rule));
            walk.choice(value, &rules)?
        }
        None => MonthEnd::Clamp,
    };
    let Some(value) = table.get("every") else { return Some(Every::Year(leap_day)) };
    if value.get_ref().as_str() == Some("once") {
        return Some(Every::Once);
    }
    let step: Shift = walk.parsed(value, EVERY, str::parse)?;
    if !leads_on(&step) {
        walk.mistakes.tell(value.span(), format!("no date comes round every {step}"), EVERY);
        return None;
    }
    Some(match (step.month_total(), step.day_total()) {
        (12, 0) => Every::Year(leap_day),
        _ => Every::Step(step.with_month_end(leap_day)),
    })
}

/// Whether a step goes forward, in days and longer.
fn leads_on(step: &Shift) -> bool {
    let (months, days) = (step.month_total(), step.day_total());
    !step.needs_calendar() && !step.needs_time_of_day() && months >= 0 && days >= 0 && months + days > 0
}

fn read_window(walk: &mut Walk, table: &DeTable, heading: &Heading) -> Option<PlannedWindow> {
    const WINDOW: &str = "window = \"3 months\", from the as-of date, or within = \"next month\"";
    match (table.get("window"), table.get("within")) {
        (Some(value), None) => {
            let window: Shift = walk.parsed(value, WINDOW, str::parse)?;
            if !leads_on(&window) {
                walk.mistakes.tell(value.span(), format!("no days come up in {window}"), WINDOW);
                return None;
            }
            Some(PlannedWindow::From(At { value: window, span: value.span() }))
        }
        (None, Some(value)) => {
            let window = walk.parsed(value, "\"next month\", \"next 30 days\" or the like", str::parse)?;
            Some(PlannedWindow::Named(At { value: window, span: value.span() }))
        }
        (window, _) => {
            let what = if window.is_some() { "there are two stretches of days" } else { "window is missing" };
            let span = window.map_or_else(|| heading.span.clone(), |value| value.span());
            walk.mistakes.tell(span, what, WINDOW);
            None
        }
    }
}

impl PlannedReport for PlannedUpcoming {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    fn uses_as_of(&self) -> bool {
        true
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let column = binder.find_dates(&self.of);
        let levels: Vec<_> = self.by.iter().map(|level| level.bind(binder)).collect();
        let (days, said) = self.window.seen(binder)?;
        let column = column?;
        let columns: Vec<_> = match &self.columns {
            Some(names) => names.iter().map(|name| binder.find(name)).collect(),
            None => {
                let heads = levels.iter().flatten().filter_map(Level::column);
                let elsewhere: Vec<usize> = heads.chain([column]).collect();
                let written = binder.written_columns.iter().copied();
                written.filter(|column| !elsewhere.contains(column)).map(Some).collect()
            }
        };
        let columns = columns.into_iter().collect::<Option<Vec<usize>>>()?;
        let levels = levels.into_iter().collect::<Option<Vec<_>>>()?;
        let name = binder.name(column);
        let (first, number, what) = match &self.every {
            Every::Once => (name.to_owned(), None, format!("dates of {name}")),
            Every::Year(_) => {
                (format!("anniversary of {name}"), Some("years"), format!("anniversaries of {name}"))
            }
            Every::Step(step) => {
                (format!("{name}, every {step}"), Some("number"), format!("dates every {step} from {name}"))
            }
        };
        let chosen = columns.iter().map(|column| binder.name(*column).to_owned());
        let names = std::iter::once(first).chain(number.map(str::to_owned)).chain(chosen).collect();
        let leap_day = match self.every {
            Every::Year(MonthEnd::NextStart) => ", a 29 February on 1 March in common years",
            Every::Year(_) => ", a 29 February on 28 February in common years",
            _ => "",
        };
        let explanation = format!("By date; {said}{leap_day}.");
        Some(Box::new(Arc::new(BoundList {
            kind: KIND.word,
            title: self.heading.title_in(binder),
            names,
            shapes: columns.iter().map(|column| CellShape::of(binder.kind(*column))).collect(),
            columns,
            levels,
            order: Vec::new(),
            explanation,
            first: self.first,
            sums: Vec::new(),
            places: Vec::new(),
            amounts: Vec::new(),
            coming_up: Some((ComingUp { column, every: self.every, days, only: self.only.clone() }, what)),
        })))
    }
}

impl PlannedWindow {
    /// The days, and how they are stated.
    fn seen(&self, binder: &mut Binder<'_>) -> Option<(DateRange, String)> {
        match self {
            Self::Named(window) => {
                let days = binder.window(&window.value, &window.span, "")?;
                let shown = &binder.presentation;
                let (first, last) = (shown.date(days.first()), shown.date(days.last()));
                Some((days, format!("within {}: {first} to {last}, both included", window.value)))
            }
            Self::From(window) => {
                let as_of = binder.as_of(&window.span)?.date;
                let day_behind = |end: mild_ledger::Date| {
                    let none = || Error::new(ErrorKind::OutOfRange, "there are no days", "later days");
                    DateRange::new(as_of, end.days_later(-1).ok_or_else(none)?).map(|days| (days, end))
                };
                match window.value.apply(as_of).and_then(day_behind) {
                    Ok((days, end)) => {
                        let (window, shown) = (window.value, &binder.presentation);
                        let (first, end) = (shown.date(as_of), shown.date(end));
                        let said =
                            format!("{window} from {first}, which is included, to {end}, which is not");
                        Some((days, said))
                    }
                    Err(error) => {
                        binder.mistakes.tell(window.span.clone(), error.what(), error.allowed());
                        None
                    }
                }
            }
        }
    }
}
