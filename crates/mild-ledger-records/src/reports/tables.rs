//! Tables of figures.

use super::ReportCell;

/// A table of figures, and what may be shown next to them.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
#[non_exhaustive]
pub struct ReportTable {
    /// The report that it belongs to.
    pub title: String,
    /// Whether it is the first of its report.
    pub rank: TableRank,
    /// The currency of its amounts, where they have currencies; empty for rows that name none.
    pub currency: Option<String>,
    /// What it shows, where the title does not say that.
    pub shows: Option<String>,
    /// The names of its columns, each with its unit where it has one.
    pub columns: Vec<String>,
    /// How many columns tell the rows apart; figures come after them.
    pub names: usize,
    /// Its rows, each with a cell a column; in their own order, or largest first.
    pub rows: ReportRows,
    /// The order of its rows.
    pub order: RowOrder,
    /// Rows that are between the others, and for several of them, in the order in which they are.
    pub sums: Vec<SumRow>,
    /// The figures of all rows together, with a cell a column.
    pub total: Option<Vec<ReportCell>>,
    /// Further figures of all rows, which are below the total: in each row its name, and a cell for each column of figures.
    pub further: Vec<Vec<ReportCell>>,
    /// The columns whose figures sum to that of the total.
    pub summed: Vec<usize>,
    /// The column of which each row, and of whose total each column, is a share that is worth showing.
    pub share_of: Option<usize>,
    /// Columns outside the order of the others: rows without a date, credits. A picture gives each a colour of its own.
    pub apart: Vec<usize>,
    /// The column of which a bar is drawn next to each row, and in a picture.
    pub bars: Option<usize>,
    /// The column that a picture shows where no bars are drawn next to the rows: the days, the amounts.
    pub measure: Option<usize>,
    /// The columns of the total that lead from one of them to another, where a picture may show that.
    pub leads: Option<Leads>,
}

/// Columns of a total of which the first and those between come to the last.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Leads {
    /// Where it begins.
    pub from: usize,
    /// What comes to it.
    pub more: Vec<usize>,
    /// What goes off it.
    pub less: Vec<usize>,
    /// What it comes to.
    pub to: usize,
}

/// Which of the tables of a report one is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
#[non_exhaustive]
pub enum TableRank {
    /// The first, whose rows are in the file of the report.
    #[default]
    First,
    /// One that shows the same from another side, or what else there is; whoever takes up the file counts nothing twice.
    Further,
}

/// In what order rows are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
#[non_exhaustive]
pub enum RowOrder {
    /// That of their names: of edges, of the calendar, of the alphabet.
    #[default]
    OfNames,
    /// By a figure, the largest first, so that the first say the most.
    LargestFirst,
}

/// A row that represents several.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SumRow {
    /// How many of the other rows are above it.
    pub behind: usize,
    /// For which it is.
    pub of: SumRowOf,
    /// Its cells, one a column; those that are not sum are empty, but for its name.
    pub cells: Vec<ReportCell>,
}

/// For which rows a row is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum SumRowOf {
    /// Those that are left out of the table.
    LeftOut,
    /// A group, whose rows end here, with those of it that are left out.
    Group,
}

impl ReportTable {
    /// Whether a column of this name is outside the order of the others.
    pub(super) fn is_apart(&self, name: &str) -> bool {
        self.apart.iter().any(|place| self.columns.get(*place).is_some_and(|column| column == name))
    }

    /// The rest of the total next to the first rows, in a row under this name; only the figures that sum have any.
    #[must_use]
    pub fn rest_behind(&self, shown: usize, name: &str) -> Vec<ReportCell> {
        let mut rest: Vec<ReportCell> = vec![ReportCell::Empty; self.columns.len()];
        if let Some(first) = rest.first_mut() {
            *first = ReportCell::Text(name.to_owned());
        }
        for column in &self.summed {
            let Some(total) = self.total.as_ref().and_then(|total| total.get(*column)) else { continue };
            let mut rows = self.rows.iter().take(shown);
            let left = rows.try_fold(total.clone(), |left, row| less(&left, row.get(*column)?));
            let mut others =
                self.sums.iter().filter(|row| row.of == SumRowOf::LeftOut && row.behind <= shown);
            let left =
                left.and_then(|left| others.try_fold(left, |left, row| less(&left, row.cells.get(*column)?)));
            if let (Some(cell), Some(left)) = (rest.get_mut(*column), left) {
                *cell = left;
            }
        }
        rest
    }
}

/// The difference of two figures of a kind.
fn less(whole: &ReportCell, part: &ReportCell) -> Option<ReportCell> {
    match (whole, part) {
        (ReportCell::Count(whole), ReportCell::Count(part)) => {
            whole.checked_sub(*part).map(ReportCell::Count)
        }
        (ReportCell::Decimal(whole), ReportCell::Decimal(part)) => {
            whole.checked_sub(*part).map(ReportCell::Decimal)
        }
        // An empty sum is of nothing.
        (whole, ReportCell::Empty) => Some(whole.clone()),
        _ => None,
    }
}

/// The rows of a table. Those of which most cells are alike are held without them.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct ReportRows {
    /// The cell of each column where a row has none.
    usual: Vec<ReportCell>,
    /// Each with its cells and their columns, in their order.
    rows: Vec<Vec<(u16, ReportCell)>>,
}

impl ReportRows {
    /// Rows of which each has only those cells, with their columns, that are not the usual ones.
    pub(super) fn sparse(
        usual: Vec<ReportCell>,
        rows: impl IntoIterator<Item = Vec<(u16, ReportCell)>>,
    ) -> Self {
        Self { usual, rows: rows.into_iter().collect() }
    }

    /// How many there are.
    #[must_use]
    pub fn len(&self) -> usize {
        self.rows.len()
    }

    /// Whether there are none.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.rows.is_empty()
    }

    /// The rows in their order, each with a cell a column.
    pub fn iter(&self) -> impl Iterator<Item = Vec<ReportCell>> + '_ {
        self.rows.iter().map(|row| {
            let mut cells = self.usual.clone();
            for (column, cell) in row {
                if let Some(place) = cells.get_mut(usize::from(*column)) {
                    *place = cell.clone();
                }
            }
            cells
        })
    }
}

impl FromIterator<Vec<ReportCell>> for ReportRows {
    fn from_iter<I: IntoIterator<Item = Vec<ReportCell>>>(rows: I) -> Self {
        let rows: Vec<Vec<(u16, ReportCell)>> =
            rows.into_iter().map(|row| (0_u16..).zip(row).collect()).collect();
        let columns = rows.iter().map(Vec::len).max().unwrap_or(0);
        Self { usual: vec![ReportCell::Empty; columns], rows }
    }
}

/// What a report has besides its tables, for programs.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub enum ReportDetail {
    /// One value.
    Cell(ReportCell),
    /// Several.
    List(Vec<ReportDetail>),
    /// Several by their names.
    Named(Vec<(&'static str, ReportDetail)>),
}
