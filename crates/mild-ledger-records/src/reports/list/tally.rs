//! The rows of a list, met by several at once.

use super::MOST_ROWS;
use super::bound::{BoundList, CellShape, First};
use super::coming_up::Occurrence;
use super::first_rows::ListedRow;
use super::part::Part;
use super::rows::{Listed, table_of};
use crate::columns::put_order_key;
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::reports::groups::{ByGroup, Figure, FigureOf, MOST_LEVELS, Places, Summed};
use crate::reports::{ProofLine, Report, ReportCell, Tally, counted, of_one_report};
use crate::sorting::{Direction, SortKey};
use crate::table::{Data, Gap, Layout, Origins, Presentation, Table};
use mild_ledger::{Decimal, Quotient, Rounding};
use serde::{Deserialize, Serialize};
use std::any::Any;
use std::sync::Arc;

/// The most rows that the first of all groups may be.
const MOST_HELD: isize = 1 << 20;

/// The rows of one list.
pub(super) struct ListTally {
    bound: Arc<BoundList>,
    places: [Places; MOST_LEVELS],
    /// The first rows of each group, or of all under the first place of every level, and the sums of all of its rows.
    parts: ByGroup<Part>,
    key: SortKey,
    held: isize,
    dated: Dated,
}

/// Rows of which a date comes up, none does, and that have no date, where that is asked.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct Dated {
    coming_up: u64,
    not_coming_up: u64,
    without_date: u64,
    /// Rows whose date itself lies in the days, where its anniversaries are asked for.
    themselves: u64,
}

impl Dated {
    /// The dates of a row that come up, counted as one row.
    fn counted(&mut self, found: Option<Vec<Occurrence>>) -> Vec<Occurrence> {
        match &found {
            None => self.without_date += 1,
            Some(found) if found.is_empty() => self.not_coming_up += 1,
            Some(_) => self.coming_up += 1,
        }
        found.unwrap_or_default()
    }

    fn merge(&mut self, other: Self) {
        self.coming_up += other.coming_up;
        self.not_coming_up += other.not_coming_up;
        self.without_date += other.without_date;
        self.themselves += other.themselves;
    }
}

impl ListTally {
    pub(super) fn of(bound: &Arc<BoundList>) -> Self {
        Self {
            bound: Arc::clone(bound),
            places: Default::default(),
            parts: ByGroup::default(),
            key: SortKey::default(),
            held: 0,
            dated: Dated::default(),
        }
    }

    fn too_large(&self) -> RecordsError {
        RecordsError::too_large_in_all(&self.bound.title)
    }

    fn check_held(&self) -> Result<(), RecordsError> {
        if self.held <= MOST_HELD {
            return Ok(());
        }
        let title = self.bound.title.escape_debug();
        Err(RecordsError::request(
            format!("\"{title}\" has more than {MOST_HELD} rows in all of its groups"),
            "fewer groups, or a smaller number in first_of_each",
        ))
    }
}

handed_over!(ListTally: places, parts, held, dated; known: bound, key);

impl Tally for ListTally {
    fn add(
        &mut self,
        _: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let bound = Arc::clone(&self.bound);
        let most = bound.first.most(MOST_ROWS);
        for row in rows {
            let places = Places::of_levels(&mut self.places, &bound.levels, table, *row);
            let of = if matches!(bound.first, First::OfEachGroup(_)) { places } else { [0; MOST_LEVELS] };
            let part = self.parts.of(of, || Part::of(&bound.sums));
            let origin = origins.of(*row).id();
            // A row is once in its own order, or once for each of its dates that come up.
            let (once, dates) = match &bound.coming_up {
                None => (Some(None), Vec::new()),
                Some((coming_up, _)) => {
                    self.dated.themselves += u64::from(coming_up.is_itself_within(table, *row));
                    (None, self.dated.counted(coming_up.of_row(table, *row)))
                }
            };
            for occurrence in once.into_iter().chain(dates.into_iter().map(Some)) {
                match occurrence {
                    None => put_order_key(&mut self.key, &bound.order, table, *row),
                    Some((date, _)) => {
                        self.key.clear();
                        self.key.push_number(date.day_number().into(), Direction::SmallestFirst);
                    }
                }
                if part.all.add(&bound.sums, table, *row).is_none() {
                    return Err(RecordsError::too_large_in_all(&bound.title));
                }
                if part.first.wants(self.key.as_bytes(), origin) {
                    let (key, cells) = (self.key.as_bytes().to_vec(), bound.cells(occurrence, table, *row));
                    let adds = bound.sums.iter().map(|sum| number_of(sum, table, *row)).collect();
                    self.held += part.first.push(ListedRow { key, origin, places, cells, adds }, most);
                }
            }
        }
        self.check_held()
    }

    fn merge(&mut self, other: Box<dyn Tally>, _: &Layout) -> Result<(), RecordsError> {
        let other = of_one_report::<Self>(other)?;
        let bound = Arc::clone(&self.bound);
        let most = bound.first.most(MOST_ROWS);
        let Self { places: theirs, parts, dated, .. } = *other;
        self.dated.merge(dated);
        let mut ours = |numbers: [u32; MOST_LEVELS]| -> [u32; MOST_LEVELS] {
            Places::own_of(&mut self.places, &theirs, numbers, bound.levels.len())
        };
        let mut merged = Vec::with_capacity(parts.len());
        for (of, mut part) in parts {
            part.first.move_to(&mut ours);
            let of = if matches!(bound.first, First::OfEachGroup(_)) { ours(of) } else { of };
            merged.push((of, part));
        }
        for (of, part) in merged {
            match self.parts.get_mut(of) {
                Some(known) => {
                    known.first.append(part.first, most);
                    if known.all.merge(part.all, &bound.sums).is_none() {
                        return Err(self.too_large());
                    }
                }
                None => {
                    self.parts.of(of, || part);
                }
            }
        }
        self.held = self.parts.values().map(|part| part.first.len().cast_signed()).sum();
        self.check_held()
    }

    fn finish(mut self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        let parts = std::mem::take(&mut self.parts);
        let made = table_of(&self.bound, &self.places, parts.into_iter().map(|(_, part)| part).collect());
        let (table, listed) = made.ok_or_else(|| self.too_large())?;
        Ok(Report {
            kind: self.bound.kind,
            title: self.bound.title.clone(),
            seen_from: Vec::new(),
            behind: Vec::new(),
            made_of: Vec::new(),
            answer: answer(&self.bound, &listed, table.total.as_deref()),
            tables: vec![table],
            explanation: vec![self.bound.explanation.clone()],
            proof: self.proof(&listed, layout)?,
            notes: notes(&self.bound, &listed, self.dated, &layout.presentation),
        })
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}

impl ListTally {
    fn proof(&self, listed: &Listed, layout: &Layout) -> Result<Vec<ProofLine>, RecordsError> {
        if self.bound.coming_up.is_some() {
            return Ok(vec![ProofLine::of_rows([
                ("with a date that comes up", self.dated.coming_up),
                ("with none", self.dated.not_coming_up),
                ("without a date", self.dated.without_date),
            ])]);
        }
        let mut proof =
            vec![ProofLine::of_rows([("listed", listed.rows), ("not listed", listed.all - listed.rows)])];
        for (figure, (sum, all)) in self.bound.sums.iter().zip(listed.sums.iter().zip(&listed.all_sums)) {
            let FigureOf::Column { column, summed: Summed::Units(scale), .. } = figure.of else { continue };
            let decimal = |number: Quotient| number.to_decimal(scale, Rounding::Nearest).ok();
            let line = (|| {
                let others = all.checked_sub(*sum)?;
                let parts: [(&str, Decimal); 2] =
                    [("listed", decimal(*sum)?), ("not listed", decimal(others)?)];
                ProofLine::of_amounts(layout.name(column), parts)
            })();
            proof.push(line.ok_or_else(|| self.too_large())?);
        }
        Ok(proof)
    }
}

/// How many rows are listed, and the first sums of all.
fn answer(bound: &BoundList, listed: &Listed, total: Option<&[ReportCell]>) -> Vec<ReportCell> {
    const MOST: usize = 2;
    let mut said = vec![ReportCell::count(listed.rows)];
    if listed.rows < listed.all {
        said.extend([ReportCell::Text(" of ".to_owned()), ReportCell::count(listed.all)]);
    }
    if let Some((coming_up, what)) = &bound.coming_up {
        let days = coming_up.days;
        let text = |text: String| ReportCell::Text(text);
        let from = [text(format!(" {what} from ")), ReportCell::Date(days.first())];
        said.extend(from.into_iter().chain([text(" to ".to_owned()), ReportCell::Date(days.last())]));
        return said;
    }
    let rows = if listed.all == 1 { " row" } else { " rows" };
    said.push(ReportCell::Text(format!("{rows} listed")));
    for place in bound.places.iter().take(MOST) {
        let cell = total.and_then(|total| total.get(bound.levels.len() + place));
        if let (Some(cell), Some(name)) = (cell, bound.names.get(*place)) {
            said.extend([ReportCell::Text(format!(", {name} ")), cell.clone()]);
        }
    }
    if !bound.places.is_empty() && listed.rows < listed.all {
        said.push(ReportCell::Text(" in all".to_owned()));
    }
    said
}

fn notes(bound: &BoundList, listed: &Listed, dated: Dated, shown: &Presentation) -> Vec<String> {
    let mut notes = Vec::new();
    if let (1.., Some((coming_up, _))) = (dated.themselves, &bound.coming_up) {
        let rows =
            counted(dated.themselves, "row has a date that itself lies", "rows have a date that itself lies");
        let (first, last) = (shown.date(coming_up.days.first()), shown.date(coming_up.days.last()));
        notes.push(format!("{rows} from {first} to {last}; every = \"once\" lists such dates"));
    }
    let left = listed.all - listed.rows;
    if left == 0 || bound.first != First::All {
        return notes;
    }
    notes.push(format!(
        "a list has at most {MOST_ROWS} rows: {} left out",
        counted(left, "row of this one is", "rows of this one are")
    ));
    notes
}

impl BoundList {
    /// The cells of a row; of one of its dates that come up, with that and its number in front.
    fn cells(&self, occurrence: Option<Occurrence>, table: &Table, row: usize) -> Vec<ReportCell> {
        let dated = occurrence.into_iter().flat_map(|(date, number)| {
            let number = number.map(|number| ReportCell::Count(number.into()));
            std::iter::once(ReportCell::Date(date)).chain(number)
        });
        let columns = self.columns.iter().copied().zip(self.shapes.iter().copied());
        dated.chain(columns.map(|column| cell(table, column, row))).collect()
    }
}

/// A cell as it is listed; where there is none for a reason, that.
fn cell(table: &Table, (column, shape): (usize, CellShape), row: usize) -> ReportCell {
    let is_plain = matches!(shape, CellShape::PlainNumber);
    let found = match table.columns.get(column) {
        Some(Data::Count(_) | Data::Number(_)) if is_plain => {
            table.decimal(column, row).map(ReportCell::Number)
        }
        Some(Data::Date(_)) => table.date(column, row).map(ReportCell::Date),
        Some(Data::Moment { .. }) => table.date_time(column, row).map(ReportCell::DateTime),
        Some(Data::Count(_)) => {
            table.units(column, row).and_then(|units| i64::try_from(units).ok()).map(ReportCell::Count)
        }
        Some(Data::Number(_)) => table.decimal(column, row).map(ReportCell::Decimal),
        _ if table.is_empty(column, row) => None,
        _ => Some(ReportCell::Text(table.shown(column, row).into_owned())),
    };
    found.unwrap_or_else(|| match table.gap(column, row) {
        None | Some(Gap::Blank) => ReportCell::Empty,
        Some(gap) => ReportCell::Missing(gap.in_words().into()),
    })
}

/// What a row adds to a sum.
fn number_of(sum: &Figure, table: &Table, row: usize) -> Option<Quotient> {
    match sum.of {
        FigureOf::Column { column, summed: Summed::Units(scale), .. } => {
            Decimal::of_units(table.units(column, row)?, scale).ok().map(Quotient::from)
        }
        FigureOf::Column { column, .. } => table.exact(column, row),
        _ => None,
    }
}
