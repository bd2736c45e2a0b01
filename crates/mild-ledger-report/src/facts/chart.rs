//! The figures of a table as lengths of bars.

use super::shares::number_of;
use mild_ledger::Decimal;
use mild_ledger_records::{Leads, ReportCell, ReportTable};

/// Bars below each other, each of one part or of several.
#[derive(Debug, Clone)]
pub(crate) struct Chart {
    pub(crate) title: String,
    /// The names of the parts; none where each bar has one.
    pub(crate) parts: Vec<String>,
    pub(crate) bars: Vec<Bar>,
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
    pub(crate) fn all_of(table: &ReportTable) -> Vec<Self> {
        if let Some(leads) = &table.leads {
            return Self::of_leads(table, leads).into_iter().collect();
        }
        let charts = match table.share_of {
            Some(total) => vec![Self::of_totals(table, total), Self::of_rows(table, total)],
            None if is_of_dates(table) => vec![Self::of_rows(table, table.columns.len().saturating_sub(1))],
            None => vec![Self::of_one_figure(table)],
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
        Some(Self { title: format!("{}: from {from} to {to}", table.title), parts: Vec::new(), bars })
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
        Some(Self { title: format!("{}, in all", table.title), parts: Vec::new(), bars })
    }

    /// A bar a row with a part a column of figures, the first rows of many.
    fn of_rows(table: &ReportTable, total: usize) -> Option<Self> {
        if table.names != 1 {
            return None;
        }
        let bar = |row: Vec<ReportCell>| {
            let figure = |column: usize| row.get(column).and_then(number_of).unwrap_or(Decimal::ZERO);
            let parts = (table.names..total).map(figure).collect();
            Some(Bar { name: name_of(row.first()?), from: Decimal::ZERO, parts, total: figure(total) })
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
        let parts = table.columns.get(table.names..total)?.to_vec();
        Some(Self { title: format!("{} by {by}{more}", table.title), parts, bars })
    }

    /// A bar a row of the figure that bars are drawn of, or of the first one where it alone sums.
    fn of_one_figure(table: &ReportTable) -> Option<Self> {
        let column = match (table.bars, table.summed.as_slice()) {
            (Some(column), _) => column,
            (None, [column]) if *column == table.names => *column,
            _ => return None,
        };
        if table.rows.len() > MOST_BARS || table.names != 1 {
            return None;
        }
        let bar = |row: Vec<ReportCell>| {
            let figure = row.get(column).and_then(number_of)?;
            Some(Bar { name: name_of(row.first()?), from: Decimal::ZERO, parts: vec![figure], total: figure })
        };
        let bars = table.rows.iter().map(bar).collect::<Option<Vec<_>>>()?;
        let figure = table.columns.get(column)?;
        Some(Self { title: format!("{}: {figure}", table.title), parts: Vec::new(), bars })
    }
}

/// Whether each row is of a date that the records are seen from, with figures whose last is the sum of the others. Rows of days of the
/// records have a total.
fn is_of_dates(table: &ReportTable) -> bool {
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

fn name_of(cell: &ReportCell) -> String {
    match cell {
        ReportCell::Text(name) if name.is_empty() => "(blank)".to_owned(),
        other => crate::numbers::written(other),
    }
}
