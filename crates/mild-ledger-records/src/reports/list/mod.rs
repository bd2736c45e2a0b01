//! Rows themselves, in a stated order: under the heads of groups, with chosen columns, the first of them, and sums below.

mod bound;
mod coming_up;
mod first_rows;
mod part;
mod rows;
mod tally;

use super::groups::{Figure, FigureOf, Level, PlannedFigure, PlannedLevel, Reduction, read_levels};
use super::{BoundReport, Heading, PlannedReport, ReportKind, Tally};
use crate::columns::{Binder, read_order};
use crate::mistakes::{At, Walk};
use crate::table::Kind;
pub(super) use bound::{BoundList, CellShape, First};
pub(super) use coming_up::{ComingUp, Every};
use std::sync::Arc;
use tally::ListTally;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "list",
    gives: "rows themselves in a stated order, under the heads of groups, with sums",
    title: "List",
    keys: &["columns", "by", "order", "first", "first_of_each", "sum"],
    read,
    further: |_| Vec::new(),
};

/// The most rows that a list has.
pub(super) const MOST_ROWS: usize = 100_000;

/// A list as the plan says it.
#[derive(Debug)]
struct PlannedList {
    heading: Heading,
    /// What is in each row; all columns where the plan does not say.
    columns: Option<Vec<At<String>>>,
    by: Vec<PlannedLevel>,
    order: Vec<At<String>>,
    first: First,
    sum: Vec<At<String>>,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    const COLUMNS: &str = "a list of columns such as [\"Invoice\", \"Due\", \"Amount\"]";
    let columns = match table.get("columns") {
        Some(value) => {
            let columns = walk.texts(value, COLUMNS)?;
            if columns.is_empty() {
                walk.mistakes.tell(value.span(), "no columns are to be listed", COLUMNS);
                return None;
            }
            Some(columns)
        }
        None => None,
    };
    let by = read_levels(walk, table)?;
    let texts = |walk: &mut Walk, key: &str, expected: &str| match table.get(key) {
        Some(value) => {
            let texts = walk.items_or_one(value).iter().map(|item| walk.text(item, expected));
            texts.collect::<Option<Vec<_>>>()
        }
        None => Some(Vec::new()),
    };
    let order = texts(walk, "order", "a column, such as \"Days overdue, largest first\"");
    let sum = texts(walk, "sum", "a column of amounts or numbers that is listed");
    let number = |walk: &mut Walk, key: &str| match table.get(key) {
        Some(value) => {
            let number = walk.whole_number(value, 1..=i64::try_from(MOST_ROWS).unwrap_or(i64::MAX))?;
            Some(usize::try_from(number).ok())
        }
        None => Some(None),
    };
    let first = match (number(walk, "first")?, number(walk, "first_of_each")?) {
        (None, None) => First::All,
        (Some(most), None) => First::OfAll(most),
        (None, Some(most)) if !by.is_empty() => First::OfEachGroup(most),
        (one, _) => {
            let what = match one {
                Some(_) => "the first of all and the first of each group are two lists",
                None => "there are no groups to have the first of",
            };
            let span = table.get("first_of_each").map_or_else(|| heading.span.clone(), |value| value.span());
            walk.mistakes.tell(span, what, "first = 10, or by = [\"Customer\"] and first_of_each = 1");
            return None;
        }
    };
    Some(Box::new(PlannedList { heading, columns, by, order: order?, first, sum: sum? }))
}

impl PlannedReport for PlannedList {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    fn uses_as_of(&self) -> bool {
        false
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let levels: Vec<_> = self.by.iter().map(|level| level.bind(binder)).collect();
        let columns: Vec<_> = match &self.columns {
            Some(names) => names.iter().map(|name| binder.find(name)).collect(),
            // What is in the heads of groups need not be in each row again.
            None => {
                let heads: Vec<usize> = levels.iter().flatten().filter_map(Level::column).collect();
                let written = binder.written_columns.iter().copied();
                written.filter(|column| !heads.contains(column)).map(Some).collect()
            }
        };
        let order: Vec<_> = self.order.iter().map(|name| read_order(binder, name)).collect();
        let columns = columns.into_iter().collect::<Option<Vec<usize>>>()?;
        let sums: Vec<_> = self.sum.iter().map(|name| bind_sum(binder, name, &columns)).collect();
        let levels = levels.into_iter().collect::<Option<Vec<_>>>()?;
        let order = order.into_iter().collect::<Option<Vec<_>>>()?;
        let (places, sums) = sums.into_iter().collect::<Option<(Vec<usize>, Vec<Figure>)>>()?;
        let is_amount = |column: &usize| matches!(binder.kind(*column), Kind::Amount { .. });
        let ordered = order.iter().map(|(column, _)| *column).filter(is_amount);
        let amounts = sums.iter().filter_map(Figure::amounts).chain(ordered).collect();
        Some(Box::new(Arc::new(BoundList {
            kind: KIND.word,
            title: self.heading.title_in(binder),
            names: columns.iter().map(|column| binder.name(*column).to_owned()).collect(),
            explanation: order_in_words(&self.order, &levels),
            coming_up: None,
            shapes: columns.iter().map(|column| CellShape::of(binder.kind(*column))).collect(),
            columns,
            levels,
            order,
            first: self.first,
            sums,
            places,
            amounts,
        })))
    }
}

/// The place of a column among those that are listed, and its sum.
fn bind_sum(binder: &mut Binder<'_>, name: &At<String>, columns: &[usize]) -> Option<(usize, Figure)> {
    let planned = PlannedFigure::Of { reduction: Reduction::Sum, column: name.clone() };
    let figure = planned.bind(binder)?.into_iter().next()?;
    let FigureOf::Column { column, .. } = figure.of else { return None };
    let place = columns.iter().position(|listed| *listed == column);
    match place {
        Some(0) | None => {
            let what = format!("\"{}\" is summed, and ", name.value.escape_debug());
            let what = match place {
                None => what + "is not in the list",
                Some(_) => what + "is first, where the rows are named",
            };
            binder.mistakes.tell(name.span.clone(), what, "columns = [\"…\", \"…\"] with it after the first");
            None
        }
        Some(place) => Some((place, figure)),
    }
}

fn order_in_words(order: &[At<String>], levels: &[Level]) -> String {
    let columns: Vec<&str> = order.iter().map(|order| order.value.as_str()).collect();
    let order = match columns.as_slice() {
        [] => "In the order of the records".to_owned(),
        columns => format!("In the order of {}", columns.join("; then ")),
    };
    match levels {
        [] => format!("{order}."),
        levels => {
            let names: Vec<&str> = levels.iter().map(|level| level.name.as_str()).collect();
            format!("{order}, under each {}.", names.join(" and "))
        }
    }
}

impl BoundReport for Arc<BoundList> {
    fn amounts(&self) -> Vec<usize> {
        self.amounts.clone()
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(ListTally::of(self))
    }
}
