//! The figures of a table as lengths of bars.

use super::shares::number_of;
use crate::numbers::Writer;
use mild_ledger::Decimal;
use mild_ledger_records::{Leads, ReportCell, ReportTable};
use std::ops::Range;

/// Bars below each other, each of one part or of several.
#[derive(Debug, Clone)]
pub(crate) struct Chart {
    /// The report that it belongs to.
    pub(crate) report: String,
    /// What of it is shown.
    pub(crate) shows: String,
    /// What the figures are, where the table says that.
    pub(crate) of: Option<String>,
    /// The parts; none where each bar has one.
    pub(crate) parts: Vec<Part>,
    pub(crate) bars: Vec<Bar>,
}

/// A part of each bar.
#[derive(Debug, Clone)]
pub(crate) struct Part {
    pub(crate) name: String,
    pub(crate) shade: Shade,
}

/// How a part is distinguished from the others.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) enum Shade {
    /// By its place from light (0) to dark (1), since the parts have an order.
    InOrder(f64),
    /// By a grey, since it is outside that order: from the lightest (0) on.
    Apart(usize),
    /// By stripes, since no figure of it is above zero.
    BelowZero,
}

/// A bar under its name.
#[derive(Debug, Clone)]
pub(crate) struct Bar {
    pub(crate) name: String,
    /// Where it begins.
    pub(crate) from: Decimal,
    /// The length of each part; below zero they go to the left.
    pub(crate) parts: Vec<Decimal>,
    /// The text after it.
    pub(crate) total: Decimal,
}

/// The most bars of one chart.
const MOST_BARS: usize = 24;

impl Chart {
    /// The charts of a table: of buckets one of all and one of the rows, of several dates one with a bar a date, of one figure a bar a row.
    /// A table of which no chart says more has none.
    pub(crate) fn all_of(table: &ReportTable, writer: &Writer) -> Vec<Self> {
        if let Some(leads) = &table.leads {
            return Self::of_leads(table, leads).into_iter().collect();
        }
        let charts = match table.share_of {
            Some(total) => vec![Self::of_totals(table, total), Self::of_rows(table, total, writer)],
            None if is_of_dates(table) => {
                vec![Self::of_rows(table, table.columns.len().saturating_sub(1), writer)]
            }
            None => vec![Self::of_one_figure(table, writer)],
        };
        let says_something =
            |chart: &Self| chart.bars.len() > 1 && chart.bars.iter().any(|bar| bar.total != Decimal::ZERO);
        charts.into_iter().flatten().filter(says_something).collect()
    }

    /// From one figure of the total to another: each bar between begins where the one before it ends.
    fn of_leads(table: &ReportTable, leads: &Leads) -> Option<Self> {
        let total = table.total.as_ref()?;
        let figure = |column: usize| total.get(column).and_then(number_of);
        let name = |column: usize| table.columns.get(column).cloned();
        let mut reached = figure(leads.from)?;
        let end = |column: usize, figure: Decimal| {
            Some(Bar { name: name(column)?, from: Decimal::ZERO, parts: vec![figure], total: figure })
        };
        let mut bars = vec![end(leads.from, reached)?];
        let more = leads.more.iter().map(|column| (*column, figure(*column)));
        let less = leads.less.iter().map(|column| (*column, figure(*column).and_then(Decimal::checked_neg)));
        for (column, step) in more.chain(less) {
            let step = step?;
            bars.push(Bar { name: name(column)?, from: reached, parts: vec![step], total: step });
            reached = reached.checked_add(step)?;
        }
        bars.push(end(leads.to, figure(leads.to)?)?);
        let (from, to) = (name(leads.from)?.to_lowercase(), name(leads.to)?.to_lowercase());
        Some(Self::of_bars(table, format!("from {from} to {to}"), bars))
    }

    /// A bar a column of figures, of the figures of all rows.
    fn of_totals(table: &ReportTable, total: usize) -> Option<Self> {
        let row = table.total.as_ref()?;
        let bar = |column: usize| {
            let figure = number_of(row.get(column)?)?;
            Some(Bar {
                name: table.columns.get(column)?.clone(),
                from: Decimal::ZERO,
                parts: vec![figure],
                total: figure,
            })
        };
        let bars = (table.names..total).map(bar).collect::<Option<_>>()?;
        Some(Self::of_bars(table, "in all".to_owned(), bars))
    }

    /// A bar a row with a part a column of figures, the first rows of many.
    fn of_rows(table: &ReportTable, total: usize, writer: &Writer) -> Option<Self> {
        if table.names != 1 {
            return None;
        }
        let bar = |row: Vec<ReportCell>| {
            let figure = |column: usize| row.get(column).and_then(number_of).unwrap_or(Decimal::ZERO);
            let parts = (table.names..total).map(figure).collect();
            Some(Bar {
                name: name_of(row.first()?, writer),
                from: Decimal::ZERO,
                parts,
                total: figure(total),
            })
        };
        let bars = table.rows.iter().take(MOST_BARS).map(bar).collect::<Option<Vec<_>>>()?;
        let more = match table.rows.len().saturating_sub(MOST_BARS) {
            0 => String::new(),
            more => format!(", the first {MOST_BARS}, without {more} more"),
        };
        let by = match is_of_dates(table) {
            true => "date",
            false => table.columns.first()?,
        };
        let parts = parts(table, table.names..total, &bars);
        Some(Self { parts, ..Self::of_bars(table, format!("by {by}{more}"), bars) })
    }

    /// A bar a row of the figure that bars are drawn of, or else of its measure, or of the first figure where it alone sums.
    fn of_one_figure(table: &ReportTable, writer: &Writer) -> Option<Self> {
        let column = match (table.bars.or(table.measure), table.summed.as_slice()) {
            (Some(column), _) => column,
            (None, [column]) if *column == table.names => *column,
            _ => return None,
        };
        if table.rows.len() > MOST_BARS || table.names != 1 {
            return None;
        }
        let bar = |row: Vec<ReportCell>| {
            let figure = row.get(column).and_then(number_of)?;
            Some(Bar {
                name: name_of(row.first()?, writer),
                from: Decimal::ZERO,
                parts: vec![figure],
                total: figure,
            })
        };
        // A group without the figure has no bar, as its cell is empty.
        let bars: Vec<Bar> = table.rows.iter().filter_map(bar).collect();
        let (figure, by) = (table.columns.get(column)?, table.columns.first()?);
        Some(Self::of_bars(table, format!("{figure} by {by}"), bars))
    }

    fn of_bars(table: &ReportTable, shows: String, bars: Vec<Bar>) -> Self {
        Self { report: table.title.clone(), shows, of: table.shows.clone(), parts: Vec::new(), bars }
    }

    /// The report and the part shown, where no title is above it.
    pub(crate) fn title(&self) -> String {
        format!("{}: {}", self.report, self.shows)
    }
}

/// The columns as parts: those in order from light to dark, of the others each on its own.
fn parts(table: &ReportTable, columns: Range<usize>, bars: &[Bar]) -> Vec<Part> {
    let figures = |nth: usize| bars.iter().filter_map(move |bar| bar.parts.get(nth));
    let is_below = |nth: usize| {
        figures(nth).all(|figure| *figure <= Decimal::ZERO)
            && figures(nth).any(|figure| *figure < Decimal::ZERO)
    };
    let is_apart = |column: usize| table.apart.contains(&column);
    let in_order: Vec<usize> = columns.clone().filter(|column| !is_apart(*column)).collect();
    let steps = in_order.len().saturating_sub(1).max(1) as f64;
    let shade = |(nth, column): (usize, usize)| match in_order.iter().position(|known| *known == column) {
        _ if is_below(nth) => Shade::BelowZero,
        Some(step) => Shade::InOrder(step as f64 / steps),
        None => Shade::Apart(table.apart.iter().position(|known| *known == column).unwrap_or(0)),
    };
    let name = |column: usize| table.columns.get(column).cloned().unwrap_or_default();
    let columns = columns.enumerate();
    columns.map(|(nth, column)| Part { name: name(column), shade: shade((nth, column)) }).collect()
}

/// Whether each row is of a date that the records are seen from, with figures whose last is the sum of the others. Rows of days of the
/// records have a total.
pub(crate) fn is_of_dates(table: &ReportTable) -> bool {
    if table.total.is_some() {
        return false;
    }
    let is_row = |row: Vec<ReportCell>| {
        let figures: Option<Vec<Decimal>> = row.iter().skip(1).map(number_of).collect();
        let Some((total, parts)) = figures.as_ref().and_then(|figures| figures.split_last()) else {
            return false;
        };
        matches!(row.first(), Some(ReportCell::Date(_)))
            && Decimal::checked_sum(parts.iter().copied()) == Some(*total)
    };
    table.names == 1 && table.rows.len() > 1 && table.rows.iter().all(is_row)
}

fn name_of(cell: &ReportCell, writer: &Writer) -> String {
    match cell {
        ReportCell::Text(name) if name.is_empty() => "(blank)".to_owned(),
        other => writer.cell(other),
    }
}
