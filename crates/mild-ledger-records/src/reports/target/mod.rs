//! How what came in so far is against a target, by the days or working days that are gone, and what a day still needs.

mod planned;
mod tally;

use super::over::{Over, PlannedOver};
use super::{BoundReport, Heading, PlannedDay, PlannedReport, ReportKind, Tally, read_day};
use crate::calendars::{FiguresByRule, Resting};
use crate::columns::{Binder, read_periods};
use crate::mistakes::{At, Walk};
use mild_ledger::{Date, DateRange, ErrorKind, NamedWindow, PeriodRule, Scale};
use planned::{PlannedTarget, Targets};
use std::collections::HashMap;
use std::ops::Range;
use std::sync::Arc;
use tally::TargetTally;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "target",
    gives: "what came in so far against a target, by the days that are gone, and what a day still needs",
    title: "Target",
    keys: &[
        "amount",
        "of",
        "planned",
        "within",
        "from",
        "to",
        "over",
        "calendar",
        "period",
        "fiscal_year_begins",
        "fiscal_named",
        "week_years",
        "weeks_begin",
    ],
    read,
    further: |_| Vec::new(),
};

/// The days that the target is for.
#[derive(Debug)]
enum PlannedSpan {
    Named(At<NamedWindow>),
    Days(At<PlannedDay>, At<PlannedDay>),
}

/// A target report as the plan says it.
#[derive(Debug)]
struct PlannedTargetReport {
    heading: Heading,
    amount: At<String>,
    of: At<String>,
    target: At<PlannedTarget>,
    span: PlannedSpan,
    over: PlannedOver,
    periods: PeriodRule,
}

/// A target report bound to its columns.
struct BoundTarget {
    title: String,
    shows: String,
    amount: usize,
    /// The column of the currencies of the amounts.
    currency: Option<usize>,
    scale: Scale,
    of: usize,
    /// The target by period of each currency, or of all where there are none.
    targets: HashMap<Option<String>, Targets>,
    span: DateRange,
    over: Over,
    periods: PeriodRule,
    as_of: Date,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let mut column = |key: &str, expected: &str| {
        let value = walk.needed(table, key, heading.span.clone(), expected)?;
        walk.text(value, "the name of a column")
    };
    let amount = column("amount", "amount = \"…\", what came in");
    let of = column("of", "of = \"…\", the dates on which it came in");
    let target = walk.needed(table, "planned", heading.span.clone(), planned::EXPECTED);
    let target = target.and_then(|value| planned::read(walk, value));
    let span = read_span(walk, table, &heading);
    let choices = [Over::Days, Over::WorkingDays];
    let over = PlannedOver::read(walk, table, &choices, heading.span.clone())?;
    let periods = read_periods(walk, table)?;
    let (amount, of, target, span) = (amount?, of?, target?, span?);
    Some(Box::new(PlannedTargetReport { heading, amount, of, target, span, over, periods }))
}

/// `within = "this quarter"`, or `from` and `to`.
fn read_span(walk: &mut Walk, table: &DeTable, heading: &Heading) -> Option<PlannedSpan> {
    const SPAN: &str = "within = \"this quarter\", or from = 2026-07-01 and to = \"end of this quarter\"";
    match (table.get("within"), table.get("from"), table.get("to")) {
        (Some(value), None, None) => {
            let window = walk.parsed(value, SPAN, str::parse)?;
            Some(PlannedSpan::Named(At { value: window, span: value.span() }))
        }
        (None, Some(from), Some(to)) => {
            let (from, to) = (read_day(walk, from, SPAN), read_day(walk, to, SPAN));
            Some(PlannedSpan::Days(from?, to?))
        }
        (Some(value), ..) => {
            walk.mistakes.tell(value.span(), "there are two stretches of days", SPAN);
            None
        }
        (None, ..) => {
            walk.mistakes.tell(heading.span.clone(), "the days that the target is for are missing", SPAN);
            None
        }
    }
}

impl PlannedSpan {
    /// Where its last day is in the plan.
    fn place(&self) -> &Range<usize> {
        match self {
            Self::Named(window) => &window.span,
            Self::Days(_, to) => &to.span,
        }
    }

    fn seen(&self, binder: &mut Binder<'_>) -> Option<DateRange> {
        match self {
            Self::Named(window) => binder.window(&window.value, &window.span, ""),
            Self::Days(from, to) => {
                let (first, last) = (from.value.seen(&from.span, binder)?, to.value.seen(&to.span, binder)?);
                match DateRange::new(first, last) {
                    Ok(span) => Some(span),
                    Err(_) => {
                        let what = format!("{last} lies before {first}");
                        binder.mistakes.tell(to.span.clone(), what, "a last day on or after the first");
                        None
                    }
                }
            }
        }
    }
}

impl PlannedReport for PlannedTargetReport {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    /// What is gone is gone by a day.
    fn uses_as_of(&self) -> bool {
        true
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let (amount, scale) = binder.find_amounts(&self.amount)?;
        let of = binder.find_dates(&self.of);
        let as_of = binder.as_of(&self.heading.span);
        let span = self.span.seen(binder);
        let over = self.over.bind(binder)?;
        let (of, as_of, span) = (of?, as_of?.date, span?);
        let currency = binder.currency(amount);
        let targets = self.target.value.by_currency(currency.is_some());
        let targets = targets.and_then(|targets| {
            let of_currency = |(currency, target): (Option<String>, &planned::Target)| {
                let targets = Targets::of(target, (span, self.periods), as_of, over.by(), scale.decimals())?;
                Ok((currency, targets))
            };
            targets.into_iter().map(of_currency).collect::<Result<HashMap<_, _>, _>>()
        });
        let targets = match targets {
            Ok(targets) => targets,
            Err(error) => {
                let at = match error.kind() {
                    ErrorKind::NotCovered => self.span.place(),
                    _ => &self.target.span,
                };
                binder.mistakes.tell(at.clone(), error.what(), error.allowed());
                return None;
            }
        };
        let title = self.heading.title_in(binder);
        if let Some(years) = &over.by_rule {
            let mut figures = FiguresByRule::default();
            figures.add(years, span.last().year());
            let target = |_| Resting::One(format!("The target of \"{title}\""));
            binder.notes.extend(figures.note(years, target));
        }
        let (words, said) = self.over.said();
        let shows = format!(
            "{} by {} from {} to {}, the target spread over {words}{said}",
            binder.name(amount),
            binder.name(of),
            binder.presentation.date(span.first()),
            binder.presentation.date(span.last())
        );
        Some(Box::new(Arc::new(BoundTarget {
            title,
            shows,
            amount,
            currency,
            scale,
            of,
            targets,
            span,
            over: over.over,
            periods: self.periods,
            as_of,
        })))
    }
}

impl BoundReport for Arc<BoundTarget> {
    fn amounts(&self) -> Vec<usize> {
        vec![self.amount]
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(TargetTally::of(Arc::clone(self)))
    }
}
