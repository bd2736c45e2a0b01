//! Measures of how fast receivables come in, each with the figures that it is worked out from.

use super::invoices::{Invoices, OnTwoDates, Seen, Stands};
use super::measure::{Measure, per_cent};
use super::{
    BoundReport, Heading, PlannedReport, ProofLine, Report, ReportCell, ReportKind, ReportRows, ReportTable,
    TableRank, Tally, counted, of_one_report,
};
use crate::columns::{Binder, read_number};
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::mistakes::{At, Walk};
use crate::table::{Layout, Origin, Origins, Presentation, Table};
use mild_ledger::{
    Collections, Date, DateRange, Decimal, Month, MonthSales, average_days_late, days_sales_by_count_back,
    days_sales_outstanding, loss_allowance, share_overdue,
};
use serde::{Deserialize, Serialize};
use std::any::Any;
use std::collections::BTreeMap;
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "measures",
    gives: "how fast receivables come in: days sales outstanding, days late, what was collected, what may be lost",
    title: "Measures",
    keys: &["since", "band", "amount", "issued", "due", "paid", "payments", "settled", "loss_rates"],
    read,
    further: |_| Vec::new(),
};

/// Measures as the plan says them.
#[derive(Debug)]
struct PlannedMeasures {
    heading: Heading,
    invoices: OnTwoDates,
    issued: At<String>,
    due: At<String>,
    /// When nothing was open any more.
    settled: Option<At<String>>,
    /// In per cent, a bucket each.
    loss_rates: Option<At<Vec<Decimal>>>,
}

/// Measures bound to their columns.
struct BoundMeasures {
    title: String,
    opening: Invoices,
    closing: Invoices,
    issued: usize,
    due: usize,
    settled: Option<usize>,
    loss_rates: Option<Vec<Decimal>>,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let invoices = OnTwoDates::read(walk, table, &heading);
    let mut column = |key: &str, expected: &str| {
        let value = walk.needed(table, key, heading.span.clone(), expected)?;
        walk.text(value, "the name of a column of dates")
    };
    let issued = column("issued", "issued = \"…\", the dates on which sales were made");
    let due = column("due", "due = \"…\", the due dates");
    // The day on which an invoice was paid in full is that on which nothing was open any more.
    let settled = match table.get("settled").or(table.get("paid")) {
        Some(value) => walk.text(value, "the name of a column of dates"),
        None => None,
    };
    let loss_rates = match table.get("loss_rates") {
        Some(value) => {
            const RATES: &str = "a rate in per cent for each bucket, such as [0.5, 2, 5, 10, 50]";
            let items = walk.items(value, RATES)?;
            let rates =
                items.iter().map(|item| read_number(walk, item, RATES)).collect::<Option<Vec<_>>>()?;
            Some(At { value: rates, span: value.span() })
        }
        None => None,
    };
    let (invoices, issued, due) = (invoices?, issued?, due?);
    Some(Box::new(PlannedMeasures { heading, invoices, issued, due, settled, loss_rates }))
}

impl PlannedReport for PlannedMeasures {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    fn uses_as_of(&self) -> bool {
        true
    }

    fn other_dates(&self, binder: &mut Binder<'_>) -> Vec<Date> {
        self.invoices.other_dates(&self.heading, binder)
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let invoices = self.invoices.bind(binder, &self.heading);
        let (issued, due) = (binder.find_dates(&self.issued), binder.find_dates(&self.due));
        let settled = match &self.settled {
            Some(name) => Some(binder.find_dates(name)?),
            None => None,
        };
        let ([opening, closing], issued, due) = (invoices?, issued?, due?);
        let loss_rates = match &self.loss_rates {
            Some(rates) => {
                let nothing = vec![Decimal::ZERO; closing.buckets()];
                if let Err(error) = loss_allowance(&nothing, &rates.value) {
                    binder.mistakes.tell(rates.span.clone(), error.what(), error.allowed());
                    return None;
                }
                Some(rates.value.clone())
            }
            None => None,
        };
        let title = self.heading.title_in(binder);
        Some(Box::new(Arc::new(BoundMeasures { title, opening, closing, issued, due, settled, loss_rates })))
    }
}

impl BoundReport for Arc<BoundMeasures> {
    fn amounts(&self) -> Vec<usize> {
        vec![self.closing.amount]
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(MeasuresTally {
            sums: Sums::default(),
            buckets: vec![0; self.closing.places()],
            months: BTreeMap::new(),
            late: BTreeMap::new(),
            rows: RowsOfMeasures::default(),
            report: Arc::clone(self),
        })
    }
}

/// Sums in units of the amounts.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct Sums {
    opening: i128,
    closing: i128,
    /// Of the closing, what is due on the as-of date or later, credits left out; and what was due before.
    not_yet_due: i128,
    /// Of what is not yet due, what has no due date.
    no_due_date: i128,
    overdue: i128,
    /// Issued since.
    sales: i128,
    /// Paid of what is issued.
    paid: i128,
    not_yet_issued: i128,
}

impl Sums {
    fn all(&mut self) -> [&mut i128; 8] {
        [
            &mut self.opening,
            &mut self.closing,
            &mut self.not_yet_due,
            &mut self.no_due_date,
            &mut self.overdue,
            &mut self.sales,
            &mut self.paid,
            &mut self.not_yet_issued,
        ]
    }
}

/// Rows by what the measures say of them.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct RowsOfMeasures {
    issued: u64,
    not_yet_issued: u64,
    /// Of those that are not yet issued, those that something was paid of.
    paid_ahead: u64,
    no_amount: u64,
    /// Open without a due date.
    no_due_date: u64,
    /// Issued on a day that is not known, and so among no sales.
    no_issue_date: u64,
    /// Settled on a day that is not known, or lies after the as-of date.
    no_settled_date: u64,
    settled_since: u64,
}

impl RowsOfMeasures {
    fn all(&mut self) -> [&mut u64; 8] {
        [
            &mut self.issued,
            &mut self.not_yet_issued,
            &mut self.paid_ahead,
            &mut self.no_amount,
            &mut self.no_due_date,
            &mut self.no_issue_date,
            &mut self.no_settled_date,
            &mut self.settled_since,
        ]
    }
}

/// The sums of the rows so far.
struct MeasuresTally {
    report: Arc<BoundMeasures>,
    sums: Sums,
    /// Open by the places of the band.
    buckets: Vec<i128>,
    /// Sales by the first days of their months.
    months: BTreeMap<Date, i128>,
    /// Amounts of invoices that were settled since, by the days that they were late.
    late: BTreeMap<i32, i128>,
    rows: RowsOfMeasures,
}

impl MeasuresTally {
    fn add_row(
        &mut self,
        report: &BoundMeasures,
        (layout, table): (&Layout, &Table),
        row: usize,
        origin: Origin,
    ) -> Result<(), RecordsError> {
        let seen = |invoices: &Invoices| invoices.seen(layout, table, row, origin);
        let (Some(opening), Some(closing)) = (seen(&report.opening)?, seen(&report.closing)?) else {
            self.rows.no_amount += 1;
            return Ok(());
        };
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(|| report.closing.too_large(layout, origin))?;
            Ok(())
        };
        let balance = |seen: &Seen| report.closing.balance(seen, layout, origin);
        let open = balance(&closing)?;
        add(&mut self.sums.opening, balance(&opening)?)?;
        add(&mut self.sums.closing, open)?;
        if closing.stands == Stands::NotYetIssued {
            self.rows.not_yet_issued += 1;
            self.rows.paid_ahead += u64::from(closing.paid_ahead != 0);
            add(&mut self.buckets[report.closing.credits()], open)?;
            add(&mut self.sums.paid, closing.paid_ahead)?;
            return add(&mut self.sums.not_yet_issued, closing.units);
        }
        self.rows.issued += 1;
        let paid = closing.units.checked_sub(open);
        add(&mut self.sums.paid, paid.ok_or_else(|| report.closing.too_large(layout, origin))?)?;
        match table.date(report.issued, row) {
            None => self.rows.no_issue_date += 1,
            Some(issued) => {
                let month = Month::of(issued).first_day();
                add(self.months.entry(month).or_insert(0), closing.units)?;
                if issued > report.opening.as_of {
                    add(&mut self.sums.sales, closing.units)?;
                }
            }
        }
        let due = table.date(report.due, row);
        match closing.stands {
            Stands::In(place) => {
                add(&mut self.buckets[place], closing.open)?;
                if place == report.closing.credits() {
                    // Over-paid is paid.
                    return self.add_settled(table, row, (due, closing), layout, origin);
                }
                if due.is_none() {
                    self.rows.no_due_date += 1;
                    add(&mut self.sums.no_due_date, closing.open)?;
                }
                match due.is_some_and(|due| due < report.closing.as_of) {
                    true => add(&mut self.sums.overdue, closing.open),
                    false => add(&mut self.sums.not_yet_due, closing.open),
                }
            }
            _ => self.add_settled(table, row, (due, closing), layout, origin),
        }
    }

    /// An invoice with nothing open, if it was settled since the earlier date.
    fn add_settled(
        &mut self,
        table: &Table,
        row: usize,
        (due, seen): (Option<Date>, Seen),
        layout: &Layout,
        origin: Origin,
    ) -> Result<(), RecordsError> {
        let report = &self.report;
        let Some(column) = report.settled.filter(|_| seen.units > 0) else { return Ok(()) };
        let days = DateRange::new(report.opening.as_of, report.closing.as_of);
        match (table.date(column, row), due, days) {
            (Some(settled), _, Ok(days)) if settled <= days.first() => Ok(()),
            (Some(settled), Some(due), Ok(days)) if days.contains(settled) => {
                self.rows.settled_since += 1;
                let late = settled.day_number() - due.day_number();
                let sum = self.late.entry(late).or_insert(0);
                *sum = sum.checked_add(seen.units).ok_or_else(|| report.closing.too_large(layout, origin))?;
                Ok(())
            }
            _ => {
                self.rows.no_settled_date += 1;
                Ok(())
            }
        }
    }

    fn into_report(self, layout: &Layout) -> Result<Report, RecordsError> {
        let report = &self.report;
        let scale = report.closing.scale;
        let column = layout.name(report.closing.amount);
        let shown = &layout.presentation;
        let [first, last] = [report.opening.as_of, report.closing.as_of].map(|date| shown.date(date));
        let measures = self.measures(shown).ok_or_else(|| RecordsError::too_large_in_all(column))?;
        let text = |text: &str| ReportCell::Text(text.to_owned());
        let answer = measures.first().map_or_else(Vec::new, |measure| {
            vec![
                text("days sales outstanding "),
                measure.figure.clone(),
                ReportCell::Text(format!(" from {first} to {last}")),
            ]
        });
        let shows = format!("of {column}, from {first}, which is not counted, to {last}");
        let mut tables = vec![Measure::table(&report.title, TableRank::First, shows, measures)];
        if let Some((rows, total)) = self.allowance() {
            let shows = format!("what of open {column} may be lost, by {}", layout.name(report.closing.band));
            let columns = [layout.name(report.closing.band), "Open", "Rate, %", "Loss allowance"];
            tables.push(ReportTable {
                title: report.title.clone(),
                rank: TableRank::Further,
                shows: Some(shows),
                columns: columns.map(str::to_owned).into(),
                names: 1,
                rows: ReportRows::from_iter(rows),
                summed: vec![1, 3],
                total: Some(total),
                ..ReportTable::default()
            });
        }
        let amount = |units: i128| scale.amount(units);
        let parts = [
            ("open", amount(self.sums.closing)),
            ("paid", amount(self.sums.paid)),
            ("not yet issued", amount(self.sums.not_yet_issued)),
        ];
        let proved = ProofLine::of_amounts(column, parts);
        let rows = ProofLine::of_rows([
            ("issued", self.rows.issued),
            ("not yet issued", self.rows.not_yet_issued),
            ("without an amount", self.rows.no_amount),
        ]);
        Ok(Report {
            kind: KIND.word,
            title: report.title.clone(),
            made_of: Vec::new(),
            seen_from: Vec::new(),
            behind: Vec::new(),
            tables,
            answer,
            explanation: Vec::new(),
            proof: vec![proved.ok_or_else(|| RecordsError::too_large_in_all(column))?, rows],
            notes: self.notes(layout),
        })
    }

    /// `None` where a sum is too large to hold.
    fn measures(&self, shown: &Presentation) -> Option<Vec<Measure>> {
        let scale = self.report.closing.scale;
        let amount = |units: i128| scale.amount(units);
        let text = |units: i128| shown.amount(amount(units));
        let Sums { opening, closing, not_yet_due, overdue, sales, .. } = self.sums;
        let (first, last) = (self.report.opening.as_of, self.report.closing.as_of);
        let days = u32::try_from(last.day_number() - first.day_number()).unwrap_or(0);
        let mut measures = vec![Measure::of(
            "Days sales outstanding",
            "days",
            (days_sales_outstanding(amount(closing), amount(sales), days), 1),
            "no sales were issued in the period",
            format!("open {} ÷ sales {} × {days} days", text(closing), text(sales)),
        )];
        let months = self.latest_first();
        measures.push(Measure::of(
            "Days sales outstanding, counted back",
            "days",
            (days_sales_by_count_back(amount(closing), &months), 1),
            "the sales of all months do not use up what is open",
            self.counted_back(amount(closing), &months, shown),
        ));
        let collections = Collections {
            opening: amount(opening),
            sales: amount(sales),
            closing: amount(closing),
            closing_not_yet_due: amount(not_yet_due),
        };
        measures.push(Measure::of(
            "Collection effectiveness index",
            "%",
            (collections.effectiveness_index().and_then(per_cent), 1),
            "nothing was to be collected in the period",
            format!(
                "(opening {0} + sales {1} − closing {2}) ÷ (opening {0} + sales {1} − not yet due {3}{4})",
                text(opening),
                text(sales),
                text(closing),
                text(not_yet_due),
                self.without_due_date(shown),
            ),
        ));
        let owed = overdue.checked_add(not_yet_due)?;
        measures.push(Measure::of(
            "Share overdue",
            "%",
            (share_overdue(amount(overdue), amount(not_yet_due)).and_then(per_cent), 1),
            "nothing is open",
            format!(
                "overdue {} ÷ open without credits {}{}",
                text(overdue),
                text(owed),
                self.without_due_date(shown)
            ),
        ));
        if self.report.settled.is_some() {
            let settled = self.late.iter().map(|(days, units)| (amount(*units), *days));
            let sum = self.late.values().try_fold(0_i128, |sum, units| sum.checked_add(*units));
            measures.push(Measure::of(
                "Average days late, by amount",
                "days",
                (average_days_late(settled), 1),
                "no invoice was settled in the period",
                format!(
                    "{} with {} in all",
                    counted(self.rows.settled_since, "invoice settled since", "invoices settled since"),
                    text(sum?)
                ),
            ));
        }
        Some(measures)
    }

    /// Which part of a sum has no due date, where there is any.
    fn without_due_date(&self, shown: &Presentation) -> String {
        match self.sums.no_due_date {
            0 => String::new(),
            units => {
                let amount = shown.amount(self.report.closing.scale.amount(units));
                format!(", of which {amount} without a due date")
            }
        }
    }

    /// The sales of each month back from that of the as-of date, whose days end there; months without sales among them.
    fn latest_first(&self) -> Vec<MonthSales> {
        let last = self.report.closing.as_of;
        let mut months = Vec::new();
        let Some(earliest) = self.months.keys().next().copied() else { return months };
        let mut month = Month::of(last);
        while month.first_day() >= earliest {
            let sales = self.months.get(&month.first_day()).copied().unwrap_or(0);
            let days = if month == Month::of(last) { last.day() } else { month.length_in_days() };
            months.push(MonthSales { sales: self.report.closing.scale.amount(sales), days });
            let Ok(before) = month.away(-1) else { break };
            month = before;
        }
        months
    }

    /// The months whose sales the open balance uses up.
    fn counted_back(&self, open: Decimal, months: &[MonthSales], shown: &Presentation) -> String {
        let mut left = open;
        let mut used = Vec::new();
        let mut month = Month::of(self.report.closing.as_of);
        for of_month in months {
            if left <= Decimal::ZERO {
                break;
            }
            let days = match of_month.sales > left {
                true => {
                    let (left, sales) = (shown.amount(left), shown.amount(of_month.sales));
                    format!("{month}: {left} ÷ {sales} × {} days", of_month.days)
                }
                false => format!("{month}: {} days", of_month.days),
            };
            used.push(days);
            left = left.checked_sub(of_month.sales.clamp(Decimal::ZERO, left)).unwrap_or(Decimal::ZERO);
            let Ok(before) = month.away(-1) else { break };
            month = before;
        }
        const MOST: usize = 4;
        let more = used.len().saturating_sub(MOST);
        if more > 0 {
            // The first say how it begins, the last where it ends.
            let last = used.pop().unwrap_or_default();
            used.truncate(MOST - 1);
            used.push(format!("… {more} more"));
            used.push(last);
        }
        if used.is_empty() { format!("open {}", shown.amount(open)) } else { used.join(" + ") }
    }

    /// The loss allowance a bucket, and of all.
    fn allowance(&self) -> Option<(Vec<Vec<ReportCell>>, Vec<ReportCell>)> {
        let report = &self.report;
        let rates = report.loss_rates.as_ref()?;
        let scale = report.closing.scale;
        let open: Vec<Decimal> =
            self.buckets.iter().take(rates.len()).map(|units| scale.amount(*units)).collect();
        let allowance = loss_allowance(&open, rates).ok()?;
        let labels = report.closing.labels(|place| self.buckets[place] != 0);
        let mut rows = Vec::with_capacity(open.len());
        for (((label, open), rate), allowance) in labels.iter().zip(&open).zip(rates).zip(&allowance) {
            let figures = [*open, *rate, *allowance].map(ReportCell::Decimal);
            rows.push(std::iter::once(ReportCell::Text(label.1.clone())).chain(figures).collect());
        }
        // What is in no bucket has no rate. It is shown all the same, so that the column comes to what is open.
        let mut all_open = open;
        for (place, label) in labels.iter().skip(all_open.len()) {
            let open = scale.amount(*self.buckets.get(*place)?);
            all_open.push(open);
            let label = ReportCell::Text(label.clone());
            rows.push(vec![label, ReportCell::Decimal(open), ReportCell::Empty, ReportCell::Empty]);
        }
        let sum = |parts: &[Decimal]| Decimal::checked_sum(parts.iter().copied()).map(ReportCell::Decimal);
        let total =
            vec![ReportCell::Text("Total".to_owned()), sum(&all_open)?, ReportCell::Empty, sum(&allowance)?];
        Some((rows, total))
    }

    fn notes(&self, layout: &Layout) -> Vec<String> {
        let report = &self.report;
        let named = |column: usize| layout.name(column).to_owned();
        let mut notes = Vec::new();
        let mut note = |count: u64, one: &str, more: &str, what: String| {
            if count > 0 {
                notes.push(format!("{} {what}", counted(count, one, more)));
            }
        };
        let amount = named(report.closing.amount);
        note(self.rows.no_amount, "row has", "rows have", format!("no \"{amount}\" and are in no measure"));
        let due = named(report.due);
        let what = format!("no \"{due}\" and count as not yet due");
        note(self.rows.no_due_date, "open row has", "open rows have", what);
        let what = "paid ahead of the issue, which is a credit until then".to_owned();
        note(self.rows.paid_ahead, "row was", "rows were", what);
        let issued = named(report.issued);
        let what = format!("no \"{issued}\" and are not sales of any month");
        note(self.rows.no_issue_date, "row has", "rows have", what);
        if let Some(settled) = report.settled {
            let what = format!(
                "no \"{}\" up to the as-of date, or no due date, and are not among the days late",
                named(settled)
            );
            note(self.rows.no_settled_date, "settled row has", "settled rows have", what);
        }
        notes
    }
}

handed_over!(MeasuresTally: sums, buckets, months, late, rows; known: report);

impl Tally for MeasuresTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let report = Arc::clone(&self.report);
        rows.iter().try_for_each(|row| self.add_row(&report, (layout, table), *row, origins.of(*row)))
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        let mut other = of_one_report::<Self>(other)?;
        let column = layout.name(self.report.closing.amount);
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(|| RecordsError::too_large_in_all(column))?;
            Ok(())
        };
        for (sum, more) in self.sums.all().into_iter().zip(other.sums.all()) {
            add(sum, *more)?;
        }
        for (sum, more) in self.buckets.iter_mut().zip(&other.buckets) {
            add(sum, *more)?;
        }
        for (month, units) in other.months {
            add(self.months.entry(month).or_insert(0), units)?;
        }
        for (days, units) in other.late {
            add(self.late.entry(days).or_insert(0), units)?;
        }
        for (rows, more) in self.rows.all().into_iter().zip(other.rows.all()) {
            *rows += *more;
        }
        Ok(())
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        self.into_report(layout)
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}
