//! The rows of a summary as they are in its table: in their order, the last of them as one, groups laid across, shares.

use super::beside::{Earlier, put_beside};
use super::bound::{BoundSummary, PageLayout};
use crate::reports::groups::{Figure, Group, Key, Level};
use crate::reports::{ReportCell, ReportRows, ReportTable, RowOrder};
use crate::sorting::Direction;
use mild_ledger::{Decimal, Quotient, shares_of_hundred};
use std::collections::{BTreeMap, BTreeSet};

/// Groups by their keys at all levels, in their own order.
pub(super) type Groups = BTreeMap<Vec<Key>, Group>;

/// A row of the table: where it is by itself, its names, its groups across the page, and all of them together.
struct Row {
    keys: Vec<Key>,
    names: Vec<String>,
    across: BTreeMap<Key, Group>,
    whole: Group,
}

/// The table, and what is to be known of it; `None` where a figure is too large to be shown.
pub(super) fn table_of(bound: &BoundSummary, groups: Groups) -> Option<(ReportTable, Vec<String>)> {
    let figures = bound.figures.as_slice();
    let down = bound.down().len();
    // Buckets are columns whether rows are in them or not.
    let mut columns: BTreeMap<Key, String> = match (bound.layout, bound.levels.last()) {
        (PageLayout::Across, Some(level)) => level.all(&BTreeSet::new()),
        _ => BTreeMap::new(),
    };
    let (rows, mut total) = (rows_of(bound, groups, &mut columns)?, Group::of(figures));
    let mut across_all: BTreeMap<Key, Group> = BTreeMap::new();
    for row in &rows {
        total.merge(row.whole.clone(), figures)?;
        for (key, group) in &row.across {
            merge_into(&mut across_all, key, group.clone(), figures)?;
        }
    }
    let rows = with_top(bound, ordered(bound, rows)?)?;
    let is_by_figure = bound.order.is_some_and(|(_, direction)| direction == Direction::LargestFirst);
    let cells = |across: &BTreeMap<Key, Group>, whole: &Group| -> Option<Vec<ReportCell>> {
        let mut cells = Vec::new();
        for key in columns.keys() {
            match across.get(key) {
                Some(group) => cells.extend(group.cells(figures)?),
                None => cells.extend(Group::of(figures).cells(figures)?),
            }
        }
        cells.extend(whole.cells(figures)?);
        Some(cells)
    };
    let mut shown: Vec<Vec<ReportCell>> = Vec::with_capacity(rows.len());
    for row in &rows {
        let names = row.names.iter().enumerate().map(|(nth, name)| match bound.levels.get(nth) {
            Some(level) => level.cell_of(name),
            None => ReportCell::Text(name.clone()),
        });
        shown.push(names.chain(cells(&row.across, &row.whole)?).collect());
    }
    let name = |nth: usize| if nth == 0 { "Total".to_owned() } else { String::new() };
    let names = (0..down).map(|nth| ReportCell::Text(name(nth)));
    let mut total: Vec<ReportCell> = names.chain(cells(&across_all, &total)?).collect();
    let mut notes = Vec::new();
    for (nth, figure) in figures.iter().enumerate().filter(|(_, figure)| figure.is_share()) {
        if !put_shares(&mut shown, &mut total, down + nth) {
            notes.push(format!("{} is empty, since the whole is nothing or below", figure.name));
        }
    }
    if let Some(rule) = bound.levels.first().and_then(Level::periods) {
        let key = |row: &Row| row.keys.first().cloned();
        put_beside(rule, &bound.beside, &rows.iter().map(key).collect::<Vec<_>>(), &mut shown);
        total.extend(std::iter::repeat_n(ReportCell::Empty, bound.beside.len() * figures.len()));
    }
    let header = header_of(bound, &columns);
    // Figures of earlier periods after them sum to nothing that is shown.
    let own = header.len() - bound.beside.len() * figures.len();
    let is_summed = |(nth, _): &(usize, &ReportCell)| {
        nth.checked_sub(down).and_then(|nth| figures.get(nth % figures.len())).is_some_and(Figure::is_summed)
    };
    let summed = total.iter().enumerate().take(own).filter(is_summed).map(|(nth, _)| nth).collect();
    if down == 0 {
        return Some((of_all_rows(bound, header, total, summed), notes));
    }
    let table = ReportTable {
        title: bound.title.clone(),
        columns: header,
        names: down,
        rows: ReportRows::from_iter(shown),
        order: if is_by_figure { RowOrder::LargestFirst } else { RowOrder::OfNames },
        total: Some(total),
        shows: (bound.layout == PageLayout::Across).then(|| across_in_words(bound)),
        summed,
        bars: bound.bars.map(|figure| own - figures.len() + figure),
        measure: figures.iter().position(Figure::is_measure).map(|figure| own - figures.len() + figure),
        ..ReportTable::default()
    };
    Some((table, notes))
}

/// The table where nothing is grouped: one row, whose figures are not a total of others.
fn of_all_rows(
    bound: &BoundSummary,
    header: Vec<String>,
    cells: Vec<ReportCell>,
    summed: Vec<usize>,
) -> ReportTable {
    let row: Vec<ReportCell> =
        std::iter::once(ReportCell::Text("All rows".to_owned())).chain(cells).collect();
    ReportTable {
        title: bound.title.clone(),
        columns: std::iter::once(String::new()).chain(header).collect(),
        names: 1,
        rows: ReportRows::from_iter([row]),
        shows: (bound.layout == PageLayout::Across).then(|| across_in_words(bound)),
        summed: summed.into_iter().map(|column| column + 1).collect(),
        ..ReportTable::default()
    }
}

/// The names of the columns: of the groups, and of their figures; of those that are laid across, each group's.
fn header_of(bound: &BoundSummary, across: &BTreeMap<Key, String>) -> Vec<String> {
    let figures = bound.figures.as_slice();
    let header = bound.down().iter().map(|level| level.name.clone());
    let named = |label: &str| -> Vec<String> {
        figures.iter().map(|figure| of_column(label, figure, figures)).collect()
    };
    let beside = |earlier: &Earlier| -> Vec<String> {
        figures.iter().map(|figure| format!("{}, {}", figure.name, earlier.word())).collect()
    };
    match bound.layout {
        PageLayout::Down => {
            let own = figures.iter().map(|figure| figure.name.clone());
            header.chain(own).chain(bound.beside.iter().flat_map(beside)).collect()
        }
        PageLayout::Across => {
            header.chain(across.values().flat_map(|label| named(label))).chain(named("Total")).collect()
        }
    }
}

/// What is in the cells of groups laid across the page.
fn across_in_words(bound: &BoundSummary) -> String {
    let figures: Vec<&str> = bound.figures.iter().map(|figure| figure.name.as_str()).collect();
    let across = bound.levels.last().map_or("", |level| level.name.as_str());
    format!("{}; columns: {across}", figures.join("; "))
}

/// The name of a column of a group across the page, with its figure where there are several.
fn of_column(label: &str, figure: &Figure, figures: &[Figure]) -> String {
    if figures.len() == 1 { label.to_owned() } else { format!("{label}: {}", figure.name) }
}

/// Groups into rows; those of the last level side by side where they are laid across.
fn rows_of(bound: &BoundSummary, groups: Groups, columns: &mut BTreeMap<Key, String>) -> Option<Vec<Row>> {
    let mut rows: Vec<Row> = Vec::new();
    for (mut keys, mut group) in groups {
        let mut names = std::mem::take(&mut group.labels);
        let across = match bound.layout {
            PageLayout::Across => keys.pop().zip(names.pop()),
            PageLayout::Down => None,
        };
        if rows.last().is_none_or(|row| row.keys != keys) {
            let whole = Group::of(&bound.figures);
            rows.push(Row { keys, names, across: BTreeMap::new(), whole });
        }
        let row = rows.last_mut()?;
        // A bucket without rows has a row, and no group that could be a column.
        let across = across.filter(|(key, _)| *key != Key::Text(String::new(), String::new()));
        if let Some((key, label)) = across {
            columns.entry(key.clone()).or_insert(label);
            row.across.insert(key, group.clone());
        }
        row.whole.merge(group, &bound.figures)?;
    }
    Some(rows)
}

fn merge_into(groups: &mut BTreeMap<Key, Group>, key: &Key, group: Group, figures: &[Figure]) -> Option<()> {
    match groups.get_mut(key) {
        Some(known) => known.merge(group, figures),
        None => {
            groups.insert(key.clone(), group);
            Some(())
        }
    }
}

/// Rows by a figure, those of one outer group together; what has none comes last.
fn ordered(bound: &BoundSummary, rows: Vec<Row>) -> Option<Vec<Row>> {
    let Some((figure, direction)) = bound.order else { return Some(rows) };
    let mut valued: Vec<(Option<Quotient>, Row)> = Vec::with_capacity(rows.len());
    for row in rows {
        valued.push((row.whole.cells(&bound.figures)?.get(figure).and_then(number_of), row));
    }
    let outer = bound.down().len().saturating_sub(1);
    let within = |row: &Row| row.keys.get(..outer).unwrap_or_default().to_vec();
    valued.sort_by(|(one, row), (other, than)| {
        within(row).cmp(&within(than)).then_with(|| match (one, other, direction) {
            (Some(one), Some(other), Direction::LargestFirst) => other.cmp(one),
            (Some(one), Some(other), Direction::SmallestFirst) => one.cmp(other),
            (one, other, _) => other.is_some().cmp(&one.is_some()),
        })
    });
    Some(valued.into_iter().map(|(_, row)| row).collect())
}

/// The first rows, and the others as one.
fn with_top(bound: &BoundSummary, mut rows: Vec<Row>) -> Option<Vec<Row>> {
    let Some(top) = bound.top.filter(|top| rows.len() > top.saturating_add(1)) else { return Some(rows) };
    let others = rows.split_off(top);
    let mut names = vec![String::new(); bound.down().len()];
    if let Some(name) = names.first_mut() {
        *name = format!("the other {}", others.len());
    }
    let (mut across, mut whole) = (BTreeMap::new(), Group::of(&bound.figures));
    let keys = Vec::new();
    for row in others {
        whole.merge(row.whole, &bound.figures)?;
        for (key, group) in row.across {
            merge_into(&mut across, &key, group, &bound.figures)?;
        }
    }
    rows.push(Row { keys, names, across, whole });
    Some(rows)
}

/// Figures in place of which their shares are shown, which add up to 100; whether there is a whole that they are shares of.
fn put_shares(rows: &mut [Vec<ReportCell>], total: &mut [ReportCell], column: usize) -> bool {
    const DECIMALS: u8 = 1;
    let part = |row: &Vec<ReportCell>| row.get(column).and_then(decimal_of).unwrap_or(Decimal::ZERO);
    let parts: Vec<Decimal> = rows.iter().map(part).collect();
    let is_above = total.get(column).and_then(decimal_of).is_some_and(|whole| whole > Decimal::ZERO);
    let shares = if is_above { shares_of_hundred(&parts, DECIMALS).ok() } else { None };
    let hundred = Decimal::of_units(1_000, DECIMALS).ok().filter(|_| shares.is_some());
    // A share is a plain number: one that is rounded to nothing is not an amount of nothing.
    let cell = |share: Option<Decimal>| share.map_or(ReportCell::Empty, ReportCell::Number);
    for (nth, row) in rows.iter_mut().enumerate() {
        if let Some(place) = row.get_mut(column) {
            *place = cell(shares.as_ref().and_then(|shares| shares.get(nth).copied()));
        }
    }
    if let Some(place) = total.get_mut(column) {
        *place = cell(hundred);
    }
    shares.is_some()
}

fn decimal_of(cell: &ReportCell) -> Option<Decimal> {
    match cell {
        ReportCell::Count(count) => Some(Decimal::from(*count)),
        ReportCell::Decimal(number) => Some(*number),
        _ => None,
    }
}

/// What a figure is ordered by.
fn number_of(cell: &ReportCell) -> Option<Quotient> {
    match cell {
        ReportCell::Date(date) => Quotient::of(date.day_number().into(), 1),
        ReportCell::DateTime(at) => Quotient::of(at.microseconds().into(), 1),
        other => decimal_of(other).map(Quotient::from),
    }
}
