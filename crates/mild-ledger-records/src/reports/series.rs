//! A report seen from several dates: made for each, and one table of them all.

use super::{
    BoundReport, ProofLine, Report, ReportCell, ReportRows, ReportTable, SumRow, SumRowOf, Tally,
    of_one_report,
};
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving};
use crate::table::{Layout, Origins, Presentation, Table};
use mild_ledger::{Date, Decimal};
use std::any::Any;
use std::sync::Arc;

/// How the column of the dates is called.
const AS_OF: &str = "As of";

/// The parts, each bound to the columns as they are seen from its date, as one report.
pub(super) fn series(parts: Vec<(Date, Box<dyn BoundReport>)>) -> Box<dyn BoundReport> {
    Box::new(Series { parts: parts.into_iter().map(|(date, report)| (date, Arc::from(report))).collect() })
}

struct Series {
    parts: Vec<(Date, Arc<dyn BoundReport>)>,
}

impl BoundReport for Series {
    fn amounts(&self) -> Vec<usize> {
        self.parts.iter().flat_map(|(_, report)| report.amounts()).collect()
    }

    fn tally(&self) -> Box<dyn Tally> {
        let tallies = self.parts.iter().map(|(date, report)| (*date, report.tally())).collect();
        Box::new(SeriesTally { tallies })
    }
}

struct SeriesTally {
    tallies: Vec<(Date, Box<dyn Tally>)>,
}

impl Counts for SeriesTally {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        into.put_all(self.tallies.iter().map(|(_, tally)| tally.as_ref()))
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        from.restore_all(self.tallies.iter_mut().map(|(_, tally)| tally.as_mut()))
    }
}

impl Tally for SeriesTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        self.tallies.iter_mut().try_for_each(|(_, tally)| tally.add(layout, table, rows, origins))
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        let other = of_one_report::<Self>(other)?;
        for ((_, tally), (_, other)) in self.tallies.iter_mut().zip(other.tallies) {
            tally.merge(other, layout)?;
        }
        Ok(())
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        let parts = self.tallies.into_iter().map(|(date, tally)| Ok((date, tally.finish(layout)?)));
        let parts = parts.collect::<Result<Vec<_>, RecordsError>>()?;
        joined(parts, &layout.presentation)
            .ok_or_else(|| RecordsError::Proof { what: "a report of no date was made".to_owned() })
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}

/// The reports of all dates as one, whose sentences are those of the last; `None` where there is none.
fn joined(mut parts: Vec<(Date, Report)>, presentation: &Presentation) -> Option<Report> {
    let dates: Vec<Date> = parts.iter().map(|(date, _)| *date).collect();
    let (mut proof, mut notes) = (Vec::new(), Vec::new());
    for (date, part) in &mut parts {
        let date = presentation.date(*date);
        let dated = |mut line: ProofLine| {
            line.what = format!("{} as of {date}", line.what);
            line.whole.name = format!("as of {date} {}", line.whole.name);
            line
        };
        proof.extend(std::mem::take(&mut part.proof).into_iter().map(dated));
        notes.extend(part.notes.iter().map(|note| format!("as of {date}: {note}")));
    }
    let tables = parts.iter().map(|(_, part)| part.tables.len()).max().unwrap_or(0);
    let tables: Vec<ReportTable> = (0..tables)
        .filter_map(|nth| {
            let of_dates = parts.iter().filter_map(|(date, part)| Some((*date, part.tables.get(nth)?)));
            stacked(&of_dates.collect::<Vec<_>>(), presentation)
        })
        .collect();
    let (_, report) = parts.pop()?;
    let mut answer = report.answer;
    if dates.len() > 1 {
        answer.push(ReportCell::Text(format!(" (the last of {} dates)", dates.len())));
    }
    let mut explanation =
        vec!["What counts from the as-of date is counted from each of the dates.".to_owned()];
    explanation.extend(report.explanation);
    Some(Report { seen_from: dates, behind: Vec::new(), tables, answer, explanation, proof, notes, ..report })
}

/// Tables of several dates below each other, each row after its date.
fn stacked(tables: &[(Date, &ReportTable)], presentation: &Presentation) -> Option<ReportTable> {
    let (_, last) = tables.last()?;
    let names = last.names;
    let columns = all_columns(tables);
    let nothing: Vec<ReportCell> = columns.iter().map(|name| nothing_of(tables, name)).collect();
    let (mut rows, mut sums) = (Vec::new(), Vec::new());
    for (date, table) in tables {
        // Where each of their columns is in all; each place is taken once.
        let mut places: Vec<usize> = Vec::with_capacity(table.columns.len());
        for name in &table.columns {
            let free = |(nth, known): &(usize, &String)| *known == name && !places.contains(nth);
            let place = columns.iter().enumerate().find(free).map_or(usize::MAX, |(nth, _)| nth);
            places.push(place);
        }
        let put = |first: ReportCell, row: Vec<ReportCell>| {
            let mut cells = vec![ReportCell::Empty; columns.len() + 1];
            // A column that only other dates have holds nothing on this one: none of its amounts and none of its rows.
            for (cell, nothing) in cells.iter_mut().skip(1).zip(&nothing) {
                cell.clone_from(nothing);
            }
            for (place, cell) in places.iter().zip(row) {
                if let Some(into) = place.checked_add(1).and_then(|place| cells.get_mut(place)) {
                    *into = cell;
                }
            }
            if let Some(cell) = cells.first_mut() {
                *cell = first;
            }
            cells
        };
        let before = rows.len();
        rows.extend(table.rows.iter().map(|row| put(ReportCell::Date(*date), row)));
        for sum in &table.sums {
            let cells = put(ReportCell::Empty, sum.cells.clone());
            sums.push(SumRow { behind: before + sum.behind, of: sum.of, cells });
        }
        // One row without a name is the total itself.
        if let (true, Some(total)) = (table.names > 0, &table.total) {
            let figures = total.iter().enumerate().map(|(nth, cell)| match nth < table.names {
                true => ReportCell::Empty,
                false => cell.clone(),
            });
            let name = ReportCell::Text(format!("{}: total", presentation.date(*date)));
            sums.push(SumRow {
                behind: rows.len(),
                of: SumRowOf::Group,
                cells: put(name, figures.collect()),
            });
        }
    }
    let is_apart = |name: &String| tables.iter().any(|(_, table)| table.is_apart(name));
    Some(ReportTable {
        title: last.title.clone(),
        apart: columns
            .iter()
            .enumerate()
            .filter(|(_, name)| is_apart(name))
            .map(|(nth, _)| nth + 1)
            .collect(),
        rank: last.rank,
        shows: shows_of_all(tables),
        columns: std::iter::once(AS_OF.to_owned()).chain(columns).collect(),
        names: names + 1,
        rows: ReportRows::from_iter(rows),
        sums,
        ..ReportTable::default()
    })
}

/// What a table of a date shows that has no column of this name: zero where the column holds amounts or counts on other dates.
fn nothing_of(tables: &[(Date, &ReportTable)], name: &str) -> ReportCell {
    let first = tables.iter().find_map(|(_, table)| {
        // A mean or a rate of nothing is not zero; only parts of a total are.
        let place = table
            .summed
            .iter()
            .find(|place| table.columns.get(**place).is_some_and(|column| column == name))?;
        table.rows.iter().next()?.get(*place).cloned()
    });
    match first {
        Some(ReportCell::Decimal(amount)) => {
            Decimal::of_units(0, amount.decimals()).map_or(ReportCell::Empty, ReportCell::Decimal)
        }
        Some(ReportCell::Count(_)) => ReportCell::Count(0),
        _ => ReportCell::Empty,
    }
}

/// What the tables show: each word of the first and of the last, where these differ, as dates do.
fn shows_of_all(tables: &[(Date, &ReportTable)]) -> Option<String> {
    let (first, last) = (&tables.first()?.1.shows, &tables.last()?.1.shows);
    let (Some(first), Some(last)) = (first, last) else { return last.clone() };
    let (first, last): (Vec<&str>, Vec<&str>) = (first.split(' ').collect(), last.split(' ').collect());
    if first.len() != last.len() {
        return Some(last.join(" "));
    }
    let both = first.iter().zip(&last).map(|(first, last)| match first == last {
        true => (*last).to_owned(),
        false => format!("{} … {last}", first.trim_end_matches(',')),
    });
    Some(both.collect::<Vec<_>>().join(" "))
}

/// The columns of all tables; one that is not in the first comes after the one that it follows where it is.
fn all_columns(tables: &[(Date, &ReportTable)]) -> Vec<String> {
    let mut all: Vec<String> = Vec::new();
    for (_, table) in tables {
        let mut behind = 0;
        for (nth, name) in table.columns.iter().enumerate() {
            let occurrence = table.columns.iter().take(nth).filter(|known| *known == name).count();
            let known = all.iter().enumerate().filter(|(_, known)| *known == name).nth(occurrence);
            behind = match known {
                Some((place, _)) => place + 1,
                None => {
                    all.insert(behind.min(all.len()), name.clone());
                    behind + 1
                }
            };
        }
    }
    all
}
