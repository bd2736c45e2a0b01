//! The rows of a list as they are in its table: under the heads of their groups, with the rows left out and the sums below.

use super::MOST_ROWS;
use super::bound::{BoundList, First};
use super::first_rows::ListedRow;
use super::part::Part;
use crate::reports::groups::{Key, MOST_LEVELS, Places};
use crate::reports::{ReportCell, ReportRows, ReportTable, SumRow, SumRowOf, counted};
use mild_ledger::Quotient;

/// What is listed, and of how much.
pub(super) struct Listed {
    pub(super) rows: u64,
    pub(super) all: u64,
    /// The sums of the rows that are listed, and of all.
    pub(super) sums: Vec<Quotient>,
    pub(super) all_sums: Vec<Quotient>,
}

/// Sums of rows while these are put below each other.
#[derive(Clone)]
struct Sums {
    rows: u64,
    sums: Vec<Quotient>,
}

impl Sums {
    fn nothing(bound: &BoundList) -> Self {
        Self { rows: 0, sums: vec![Quotient::ZERO; bound.sums.len()] }
    }

    fn of_all(part: &Part, bound: &BoundList) -> Option<Self> {
        let sums = (0..bound.sums.len()).map(|nth| part.all.sum(nth, &bound.sums));
        Some(Self { rows: part.all.rows, sums: sums.collect::<Option<_>>()? })
    }

    fn add_row(&mut self, row: &ListedRow) -> Option<()> {
        self.rows += 1;
        for (sum, add) in self.sums.iter_mut().zip(&row.adds) {
            *sum = sum.checked_add(add.unwrap_or(Quotient::ZERO))?;
        }
        Some(())
    }

    fn add(&mut self, other: &Self) -> Option<()> {
        self.rows += other.rows;
        for (sum, more) in self.sums.iter_mut().zip(&other.sums) {
            *sum = sum.checked_add(*more)?;
        }
        Some(())
    }

    fn less(&self, other: &Self) -> Option<Self> {
        let sums = self.sums.iter().zip(&other.sums).map(|(sum, less)| sum.checked_sub(*less));
        Some(Self { rows: self.rows.checked_sub(other.rows)?, sums: sums.collect::<Option<_>>()? })
    }

    /// A row of the table under a name that is in one of its first columns.
    fn cells(&self, bound: &BoundList, name: String, column: usize) -> Option<Vec<ReportCell>> {
        let mut cells = vec![ReportCell::Empty; bound.levels.len() + bound.names.len()];
        *cells.get_mut(column)? = ReportCell::Text(name);
        for ((sum, figure), place) in self.sums.iter().zip(&bound.sums).zip(&bound.places) {
            *cells.get_mut(bound.levels.len() + place)? = figure.shown(*sum)?;
        }
        Some(cells)
    }
}

/// A row with what tells its groups, and how these are called.
struct Headed {
    keys: Vec<Key>,
    labels: Vec<String>,
    row: ListedRow,
}

/// The table, and what was listed; `None` where a sum is too large to be shown.
pub(super) fn table_of(
    bound: &BoundList,
    places: &[Places; MOST_LEVELS],
    parts: Vec<Part>,
) -> Option<(ReportTable, Listed)> {
    let mut all = Sums::nothing(bound);
    let mut listed = Sums::nothing(bound);
    let mut rows: Vec<Headed> = Vec::new();
    // Of the rows that are left out of each group, by what tells the group.
    let mut left_out: Vec<(Vec<Key>, Sums)> = Vec::new();
    for part in parts {
        let of_part = Sums::of_all(&part, bound)?;
        all.add(&of_part)?;
        let mut of_listed = Sums::nothing(bound);
        let kept = part.first.finish(bound.first.most(MOST_ROWS));
        let mut keys = Vec::new();
        for row in kept {
            of_listed.add_row(&row)?;
            let named = row.places.iter().zip(places).take(bound.levels.len());
            let named = named.filter_map(|(place, known)| known.named(*place).cloned());
            let labels: Vec<String>;
            (keys, labels) = named.unzip();
            rows.push(Headed { keys: keys.clone(), labels, row });
        }
        listed.add(&of_listed)?;
        left_out.push((keys, of_part.less(&of_listed)?));
    }
    // Those of a group are in their order already.
    rows.sort_by(|one, other| one.keys.cmp(&other.keys));
    left_out.sort_by(|(one, _), (other, _)| one.cmp(other));
    let is_of_groups = matches!(bound.first, First::OfEachGroup(_));
    let mut table = Below { bound, rows: Vec::with_capacity(rows.len()), sums: Vec::new(), open: Vec::new() };
    let mut left_out = left_out.into_iter();
    let mut rows = rows.into_iter().peekable();
    while let Some(Headed { keys, labels, row }) = rows.next() {
        table.put(&labels, row)?;
        let next = rows.peek().map(|next| &next.keys);
        let same =
            next.map_or(0, |next| keys.iter().zip(next).take_while(|(one, other)| one == other).count());
        if same == keys.len() && next.is_some() {
            continue;
        }
        if is_of_groups && let Some((_, left)) = left_out.next() {
            table.leave_out(&left, bound.levels.len() - 1)?;
        }
        table.close(&labels, same)?;
    }
    if let (false, Some((_, left))) = (is_of_groups, left_out.next()) {
        table.leave_out(&left, 0)?;
    }
    let total = match bound.sums.is_empty() {
        true => None,
        false => Some(all.cells(bound, format!("Total: {}", rows_in_words(all.rows)), 0)?),
    };
    let heads = bound.levels.iter().map(|level| level.name.clone());
    let table = ReportTable {
        title: bound.title.clone(),
        columns: heads.chain(bound.names.iter().cloned()).collect(),
        names: bound.levels.len() + 1,
        rows: ReportRows::from_iter(table.rows),
        sums: table.sums,
        total,
        summed: bound.places.iter().map(|place| bound.levels.len() + place).collect(),
        ..ReportTable::default()
    };
    Some((table, Listed { rows: listed.rows, all: all.rows, sums: listed.sums, all_sums: all.sums }))
}

/// Rows below each other, and the sums of the groups that are open, the outermost first.
struct Below<'b> {
    bound: &'b BoundList,
    rows: Vec<Vec<ReportCell>>,
    sums: Vec<SumRow>,
    open: Vec<Sums>,
}

impl Below<'_> {
    fn put(&mut self, labels: &[String], row: ListedRow) -> Option<()> {
        self.open.resize(labels.len(), Sums::nothing(self.bound));
        self.open.iter_mut().try_for_each(|sums| sums.add_row(&row))?;
        let labels = labels.iter().cloned().map(ReportCell::Text);
        self.rows.push(labels.chain(row.cells).collect());
        Some(())
    }

    /// A row for those that are left out here, if there are any; they are in the sums of their groups.
    fn leave_out(&mut self, left: &Sums, column: usize) -> Option<()> {
        self.open.iter_mut().try_for_each(|sums| sums.add(left))?;
        if left.rows > 0 && !self.bound.sums.is_empty() {
            let name = format!("… and {} more", left.rows);
            let cells = left.cells(self.bound, name, column)?;
            self.sums.push(SumRow { behind: self.rows.len(), of: SumRowOf::LeftOut, cells });
        }
        Some(())
    }

    /// The sums of the groups that end here, the innermost first.
    fn close(&mut self, labels: &[String], still_open: usize) -> Option<()> {
        while self.open.len() > still_open {
            let sums = self.open.pop()?;
            let level = self.open.len();
            if !self.bound.sums.is_empty() {
                let label = labels.get(level).map_or("", String::as_str);
                let label = if label.is_empty() { "(blank)" } else { label };
                let name = format!("{label}: {}", rows_in_words(sums.rows));
                let cells = sums.cells(self.bound, name, level)?;
                self.sums.push(SumRow { behind: self.rows.len(), of: SumRowOf::Group, cells });
            }
        }
        Some(())
    }
}

fn rows_in_words(rows: u64) -> String {
    counted(rows, "row", "rows")
}
