//! What came in by period, counted by several at once, and the report.

use super::planned::Targets;
use super::{BoundTarget, KIND};
use crate::columns::titled;
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::reports::measure::{Measure, per_cent};
use crate::reports::periods::{head_of, label_as_of};
use crate::reports::{
    ProofLine, Report, ReportCell, ReportRows, ReportTable, TableRank, Tally, counted, of_one_report,
};
use crate::table::{Layout, Origin, Origins, Presentation, Table, currency_of};
use mild_ledger::{Date, Decimal, Error, Quotient, TargetProgress};
use serde::{Deserialize, Serialize};
use std::any::Any;
use std::borrow::Cow;
use std::collections::BTreeMap;
use std::sync::Arc;

/// Sums of amounts by where their dates lie, with the rows that they are of.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct Sum {
    units: i128,
    rows: u64,
}

/// What came in, by the first day of its period.
pub(super) struct TargetTally {
    bound: Arc<BoundTarget>,
    /// Of the currency of this tally, where there are some.
    currency: Option<String>,
    periods: BTreeMap<Date, i128>,
    so_far: Sum,
    /// Within the days of the target, and after the as-of date.
    after: Sum,
    /// On other days.
    outside: Sum,
    no_date: Sum,
    no_amount: u64,
}

impl Sum {
    fn add(&mut self, other: Self) -> Option<()> {
        self.units = self.units.checked_add(other.units)?;
        self.rows += other.rows;
        Some(())
    }
}

impl TargetTally {
    pub(super) fn of(bound: Arc<BoundTarget>) -> Self {
        Self {
            bound,
            currency: None,
            periods: BTreeMap::new(),
            so_far: Sum::default(),
            after: Sum::default(),
            outside: Sum::default(),
            no_date: Sum::default(),
            no_amount: 0,
        }
    }

    fn add_row(
        &mut self,
        layout: &Layout,
        table: &Table,
        row: usize,
        origin: Origin,
    ) -> Result<(), RecordsError> {
        let bound = &self.bound;
        if let (Some(column), None) = (bound.currency, &self.currency) {
            self.currency = Some(currency_of(table.text(column, row)).into_owned());
        }
        let Some(units) = table.units(bound.amount, row) else {
            self.no_amount += 1;
            return Ok(());
        };
        let too_large = || RecordsError::too_large(layout.name(bound.amount), &layout.place(origin));
        let one = Sum { units, rows: 1 };
        let place = match table.date(bound.of, row) {
            None => &mut self.no_date,
            Some(date) if !bound.span.contains(date) => &mut self.outside,
            Some(date) if date > bound.as_of => &mut self.after,
            Some(date) => {
                let first = bound.periods.containing(date).dates().first();
                let sum = self.periods.entry(first).or_insert(0);
                *sum = sum.checked_add(units).ok_or_else(too_large)?;
                &mut self.so_far
            }
        };
        place.add(one).ok_or_else(too_large)
    }

    fn into_report(self, layout: &Layout) -> Result<Report, RecordsError> {
        let bound = &self.bound;
        let column = layout.name(bound.amount);
        let too_large = || RecordsError::too_large_in_all(column);
        let amount = |units: i128| bound.scale.amount(units);
        let actual = amount(self.so_far.units);
        let target = bound.targets.get(&self.currency);
        let parts = [
            ("so far", amount(self.so_far.units)),
            ("after the as-of date", amount(self.after.units)),
            ("on other days", amount(self.outside.units)),
            ("without a date", amount(self.no_date.units)),
        ];
        let amounts = ProofLine::of_amounts(column, parts).ok_or_else(too_large)?;
        let rows = ProofLine::of_rows([
            ("so far", self.so_far.rows),
            ("after the as-of date", self.after.rows),
            ("on other days", self.outside.rows),
            ("without a date", self.no_date.rows),
            ("without an amount", self.no_amount),
        ]);
        let mut tables = vec![self.table(target).ok_or_else(too_large)?];
        let answer = match target {
            Some(target) => {
                let progress = TargetProgress {
                    target: target.target,
                    target_so_far: target.so_far,
                    actual,
                    days: target.days,
                    gone: target.gone,
                };
                let measures = self.measures(&progress, &layout.presentation);
                let answer = self.answer(&progress).ok_or_else(too_large)?;
                let shows = format!("as of {}", layout.presentation.date(bound.as_of));
                tables.push(Measure::table(&bound.title, TableRank::Further, shows, measures));
                answer
            }
            None => {
                vec![
                    ReportCell::Decimal(actual),
                    ReportCell::Text(" came in, of no stated target".to_owned()),
                ]
            }
        };
        let (_, days) = bound.over.words();
        Ok(Report {
            kind: KIND.word,
            title: bound.title.clone(),
            made_of: Vec::new(),
            seen_from: Vec::new(),
            behind: Vec::new(),
            tables,
            answer,
            explanation: vec![format!(
                "Both ends of the span and the as-of date count. The target so far is what falls to the {days} that are gone; ahead is what came in less that, below zero behind it."
            )],
            proof: vec![amounts, rows],
            notes: self.notes(layout),
        })
    }

    /// A row a period; `None` where a sum is too large to hold.
    fn table(&self, target: Option<&Targets>) -> Option<ReportTable> {
        let bound = &self.bound;
        let actual_of = |first: Date| bound.scale.amount(self.periods.get(&first).copied().unwrap_or(0));
        let mut rows = Vec::new();
        for period in bound.periods.covering(bound.span) {
            let dates = period.dates();
            let label = label_as_of(&period, Some(bound.as_of));
            let actual = actual_of(dates.first());
            let of_target =
                target.and_then(|target| target.periods.iter().find(|known| known.period == period));
            let figures = match of_target {
                Some(part) => against([part.days, part.gone], [part.target, part.so_far], actual)?,
                None => without_target(actual),
            };
            rows.push(std::iter::once(ReportCell::Text(label)).chain(figures).collect::<Vec<_>>());
        }
        let actual = bound.scale.amount(self.so_far.units);
        let totals = match target {
            Some(all) => against([all.days, all.gone], [all.target, all.so_far], actual)?,
            None => without_target(actual),
        };
        let (_, days) = bound.over.words();
        let period = [head_of(bound.periods)];
        let days = [titled(days), "Gone".to_owned()];
        let amounts = ["Target", "Target so far", "Actual", "Ahead"].map(str::to_owned);
        Some(ReportTable {
            title: bound.title.clone(),
            shows: Some(bound.shows.clone()),
            columns: period.into_iter().chain(days).chain(amounts).collect(),
            names: 1,
            rows: ReportRows::from_iter(rows),
            total: Some(std::iter::once(ReportCell::Text("Total".to_owned())).chain(totals).collect()),
            summed: (1..7).collect(),
            measure: Some(5),
            ..ReportTable::default()
        })
    }

    fn measures(&self, progress: &TargetProgress, shown: &Presentation) -> Vec<Measure> {
        let bound = &self.bound;
        let (day, days) = bound.over.words();
        let decimals = bound.scale.decimals();
        let exact = |amount: Result<Decimal, Error>| (amount.map(Quotient::from), decimals);
        let a_day = |rate: Result<Quotient, Error>| (rate, decimals.max(2));
        let TargetProgress { target, target_so_far, actual, days: all, gone } = *progress;
        let left = all.saturating_sub(gone);
        let [target_text, so_far_text, actual_text] =
            [target, target_so_far, actual].map(|amount| shown.amount(amount));
        let unit = format!("a {day}");
        let none_gone = "no day of the span is gone";
        let to_come = progress.left().map_or_else(|_| String::new(), |left| shown.amount(left));
        let needed = match progress.left() {
            Ok(left) if left <= Decimal::ZERO => "the target is reached".to_owned(),
            _ => format!("{to_come} ÷ {left} {} left", if left == 1 { day } else { days }),
        };
        let too_large = "it is too large to hold";
        vec![
            Measure::of(
                "Share of the days gone",
                "%",
                (progress.part_gone().and_then(per_cent), 1),
                none_gone,
                format!("{gone} of {all} {days}"),
            ),
            Measure::of(
                "Ahead of the target so far",
                "",
                exact(progress.ahead()),
                too_large,
                format!("actual {actual_text} − target so far {so_far_text}"),
            ),
            Measure::of(
                "Still to come in",
                "",
                exact(progress.left()),
                too_large,
                format!("target {target_text} − actual {actual_text}"),
            ),
            Measure::of(
                "Rate so far",
                &unit,
                a_day(progress.rate_so_far()),
                none_gone,
                format!("{actual_text} ÷ {gone} {} gone", if gone == 1 { day } else { days }),
            ),
            Measure::of(
                "Rate needed",
                &unit,
                a_day(progress.rate_needed()),
                "no day of the span is left",
                needed,
            ),
            Measure::of(
                "In the end, at the rate so far",
                "",
                (progress.at_this_rate(), decimals),
                none_gone,
                format!("{actual_text} ÷ {gone} × {all} {days}"),
            ),
        ]
    }

    fn answer(&self, progress: &TargetProgress) -> Option<Vec<ReportCell>> {
        let text = |text: &str| ReportCell::Text(text.to_owned());
        let ahead = progress.ahead().ok()?;
        let (by, said) = match ahead < Decimal::ZERO {
            true => (ahead.checked_neg()?, " behind"),
            false => (ahead, " ahead"),
        };
        let (_, days) = self.bound.over.words();
        Some(vec![
            ReportCell::Decimal(progress.actual),
            text(" of "),
            ReportCell::Decimal(progress.target),
            text(", "),
            ReportCell::Decimal(by),
            ReportCell::Text(format!("{said} after {} of {} {days}", progress.gone, progress.days)),
        ])
    }

    fn notes(&self, layout: &Layout) -> Vec<String> {
        let bound = &self.bound;
        let of = layout.name(bound.of);
        let note = |sum: Sum, what: String| {
            let rows = counted(sum.rows, "row", "rows");
            (sum.rows > 0).then(|| {
                format!("{rows} of {} {what}", layout.presentation.amount(bound.scale.amount(sum.units)))
            })
        };
        let after = if self.after.rows == 1 { "lies" } else { "lie" };
        let no_amount = (self.no_amount > 0).then(|| {
            format!(
                "{} no \"{}\"",
                counted(self.no_amount, "row has", "rows have"),
                layout.name(bound.amount)
            )
        });
        let no_date = if self.no_date.rows == 1 { "has" } else { "have" };
        [
            note(self.after, format!("{after} after the as-of date and did not come in yet")),
            note(self.no_date, format!("{no_date} no \"{of}\" and did not come in on any day")),
            no_amount,
        ]
        .into_iter()
        .flatten()
        .collect()
    }
}

/// The figures of a row: its days and those gone, its target and that so far, and what came in; `None` where a sum is too large to hold.
fn against(days: [u32; 2], targets: [Decimal; 2], actual: Decimal) -> Option<[ReportCell; 6]> {
    let [days, gone] = days.map(|days| ReportCell::Count(days.into()));
    let ahead = actual.checked_sub(targets[1])?;
    let [target, so_far] = targets.map(ReportCell::Decimal);
    Some([days, gone, target, so_far, ReportCell::Decimal(actual), ReportCell::Decimal(ahead)])
}

fn without_target(actual: Decimal) -> [ReportCell; 6] {
    const WHY: ReportCell = ReportCell::Missing(Cow::Borrowed("the plan states no target of this currency"));
    [WHY, WHY, WHY, WHY, ReportCell::Decimal(actual), WHY]
}

handed_over!(TargetTally: currency, periods, so_far, after, outside, no_date, no_amount; known: bound);

impl Tally for TargetTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        rows.iter().try_for_each(|row| self.add_row(layout, table, *row, origins.of(*row)))
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        let other = of_one_report::<Self>(other)?;
        let too_large = || RecordsError::too_large_in_all(layout.name(self.bound.amount));
        self.currency = self.currency.take().or(other.currency);
        for (period, units) in other.periods {
            let sum = self.periods.entry(period).or_insert(0);
            *sum = sum.checked_add(units).ok_or_else(too_large)?;
        }
        let sums = [
            (&mut self.so_far, other.so_far),
            (&mut self.after, other.after),
            (&mut self.outside, other.outside),
            (&mut self.no_date, other.no_date),
        ];
        for (sum, more) in sums {
            sum.add(more).ok_or_else(too_large)?;
        }
        self.no_amount += other.no_amount;
        Ok(())
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        self.into_report(layout)
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}
