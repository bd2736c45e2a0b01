//! Figures by group: rows counted, amounts and figures summed, smallest and largest, means, blanks.

use super::{
    BoundReport, Heading, PlannedReport, ProofLine, Report, ReportCell, ReportKind, ReportTable, RowOrder,
    Tally,
};
use crate::columns::{Binder, read_period};
use crate::error::RecordsError;
use crate::mistakes::{At, Value, Walk};
use crate::table::{BandKind, Data, Gap, Kind, Layout, Origins, Table};
use mild_ledger::{Date, DateTime, Decimal, PeriodRule, Quotient, Rounding};
use std::any::Any;
use std::cmp::Ordering;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "summary",
    gives: "figures of groups: of columns, buckets or periods",
    title: "Summary",
    keys: &["by", "show"],
    later: &["across", "top"],
    read,
    further: |_| Vec::new(),
};

/// The most columns that rows are grouped by.
const MOST_LEVELS: usize = 3;
/// The most rows of a summary that groups without rows are added to.
const MOST_FILLED: usize = 100_000;

/// A summary as the plan says it.
#[derive(Debug)]
struct PlannedSummary {
    heading: Heading,
    by: Vec<PlannedLevel>,
    show: Vec<PlannedFigure>,
}

#[derive(Debug)]
enum PlannedLevel {
    Column(At<String>),
    Period { rule: PeriodRule, of: At<String> },
}

#[derive(Debug)]
enum PlannedFigure {
    Count,
    Of { reduction: Reduction, column: At<String> },
}

/// What becomes of the values of a column in a group.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Reduction {
    Sum,
    Mean,
    Smallest,
    Largest,
    Blanks,
}

const REDUCTIONS: [(&str, Reduction); 5] = [
    ("sum", Reduction::Sum),
    ("mean", Reduction::Mean),
    ("smallest", Reduction::Smallest),
    ("largest", Reduction::Largest),
    ("blanks", Reduction::Blanks),
];

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    const BY: &str = "by = [\"Region\", { period = \"month\", of = \"Issued\" }], one to three of them";
    let by = walk.needed(table, "by", heading.span.clone(), BY)?;
    let items = walk.items(by, BY)?;
    if items.is_empty() || items.len() > MOST_LEVELS {
        walk.mistakes.tell(by.span(), format!("there are {} groupings", items.len()), BY);
        return None;
    }
    let by: Vec<Option<PlannedLevel>> = items.iter().map(|item| read_level(walk, item)).collect();
    let show = match table.get("show") {
        Some(value) => {
            let items = walk.items(value, "a list such as [\"count\", { sum = \"Amount\" }]")?;
            let figures: Vec<Option<PlannedFigure>> =
                items.iter().map(|item| read_figure(walk, item)).collect();
            figures.into_iter().collect::<Option<Vec<_>>>()
        }
        None => Some(vec![PlannedFigure::Count]),
    };
    Some(Box::new(PlannedSummary { heading, by: by.into_iter().collect::<Option<_>>()?, show: show? }))
}

fn read_level(walk: &mut Walk, value: &Value<'_>) -> Option<PlannedLevel> {
    if value.get_ref().as_str().is_some() {
        return walk.text(value, "the name of a column").map(PlannedLevel::Column);
    }
    let (rule, of) = read_period(walk, value)?;
    Some(PlannedLevel::Period { rule, of })
}

fn read_figure(walk: &mut Walk, value: &Value<'_>) -> Option<PlannedFigure> {
    const EXPECTED: &str = "\"count\", or one of { sum = \"…\" }, { mean = \"…\" }, { smallest = \"…\" }, { largest = \"…\" }, { blanks = \"…\" }";
    if value.get_ref().as_str().is_some() {
        return walk.choice(value, &[("count", ())]).map(|()| PlannedFigure::Count);
    }
    let table = walk.table(value, EXPECTED)?;
    let words: Vec<&str> = REDUCTIONS.iter().map(|(word, _)| *word).collect();
    walk.check_keys(
        table,
        &crate::mistakes::Keys {
            part: "a figure of a summary",
            known: &words,
            later: &["median", "distinct", "percentile", "share"],
        },
    );
    let stated: Vec<_> =
        REDUCTIONS.iter().filter_map(|(word, reduction)| Some((*reduction, table.get(*word)?))).collect();
    let [(reduction, column)] = stated.as_slice() else {
        // A key that is not known was told above.
        if stated.len() == table.len() {
            walk.mistakes.tell(value.span(), format!("it says {} figures", stated.len()), EXPECTED);
        }
        return None;
    };
    let column = walk.text(column, "the name of a column")?;
    Some(PlannedFigure::Of { reduction: *reduction, column })
}

/// A summary bound to its columns.
struct BoundSummary {
    title: String,
    levels: Vec<Level>,
    figures: Vec<Figure>,
}

/// What rows are grouped by.
struct Level {
    name: String,
    column: usize,
    kind: LevelKind,
}

enum LevelKind {
    Band(BandKind),
    Period(PeriodRule),
    Value,
}

/// One figure of each group.
struct Figure {
    name: String,
    of: FigureOf,
}

enum FigureOf {
    Rows,
    Column {
        reduction: Reduction,
        column: usize,
        summed: Summed,
        decimals: u8,
    },
    /// How many rows were added in the sum before it.
    RowsSummed {
        column: usize,
    },
}

impl Figure {
    /// Whether the figures of groups, as they are shown, sum to that of all.
    fn is_summed(&self) -> bool {
        match self.of {
            FigureOf::Rows | FigureOf::RowsSummed { .. } => true,
            FigureOf::Column { reduction: Reduction::Sum, summed: Summed::Units(_), .. } => true,
            FigureOf::Column { reduction, .. } => reduction == Reduction::Blanks,
        }
    }
}

/// In what the sums of a column are kept.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Summed {
    /// Amounts, in units of so many decimals.
    Units(u8),
    /// Figures, exactly, whatever they are shown as.
    Exactly,
}

impl PlannedReport for PlannedSummary {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    fn uses_as_of(&self) -> bool {
        false
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let levels: Vec<Option<Level>> = self.by.iter().map(|level| level.bind(binder)).collect();
        let figures: Vec<Option<Vec<Figure>>> = self.show.iter().map(|figure| figure.bind(binder)).collect();
        let (levels, figures) = (
            levels.into_iter().collect::<Option<Vec<_>>>()?,
            figures.into_iter().collect::<Option<Vec<_>>>()?,
        );
        let as_of = binder.known_as_of().map_or_else(String::new, |as_of| as_of.date.to_string());
        let title = self.heading.title.replace("{as_of}", &as_of);
        let figures = figures.into_iter().flatten().collect();
        Some(Box::new(Arc::new(BoundSummary { title, levels, figures })))
    }
}

impl PlannedLevel {
    fn bind(&self, binder: &mut Binder<'_>) -> Option<Level> {
        match self {
            Self::Column(name) => {
                let column = binder.find(name)?;
                let kind = match binder.kind(column) {
                    Kind::Band(band) => LevelKind::Band(band.clone()),
                    _ => LevelKind::Value,
                };
                Some(Level { name: binder.name(column).to_owned(), column, kind })
            }
            Self::Period { rule, of } => {
                let column = binder.find_dates(of)?;
                let name = format!("{} of {}", capitalised(rule.word()), binder.name(column));
                Some(Level { name, column, kind: LevelKind::Period(*rule) })
            }
        }
    }
}

impl PlannedFigure {
    fn bind(&self, binder: &mut Binder<'_>) -> Option<Vec<Figure>> {
        let (reduction, name) = match self {
            Self::Count => return Some(vec![Figure { name: "Rows".to_owned(), of: FigureOf::Rows }]),
            Self::Of { reduction, column } => (*reduction, column),
        };
        let column = binder.find(name)?;
        let kind = binder.kind(column).clone();
        let is_of_dates = matches!(kind, Kind::Date { .. });
        let refused = match (reduction, &kind) {
            (Reduction::Blanks, _) => None,
            (Reduction::Smallest | Reduction::Largest, kind) if is_of_dates || kind.decimals().is_some() => {
                None
            }
            (Reduction::Sum | Reduction::Mean, Kind::Place) => {
                Some("numbers that name a place, such as weeks and months, are not summed")
            }
            (_, kind) if kind.decimals().is_some() => None,
            (Reduction::Sum | Reduction::Mean, _) => Some("only amounts and numbers have a sum and a mean"),
            _ => Some("only dates, amounts and numbers have a smallest and a largest"),
        };
        if let Some(why) = refused {
            let what = format!("\"{}\" holds {}", name.value.escape_debug(), kind.word());
            binder.mistakes.tell(
                name.span.clone(),
                format!("{what}; {why}"),
                "a column of amounts, figures or dates",
            );
            return None;
        }
        let shown = binder.name(column);
        let unit = kind.figure().map_or_else(String::new, |figure| format!(" ({})", figure.rule));
        let said = match (reduction, is_of_dates) {
            (Reduction::Sum, _) => format!("Sum of {shown}{unit}"),
            (Reduction::Mean, _) => format!("Mean of {shown}{unit}"),
            (Reduction::Smallest, true) => format!("Earliest {shown}"),
            (Reduction::Largest, true) => format!("Latest {shown}"),
            (Reduction::Smallest, false) => format!("Smallest {shown}{unit}"),
            (Reduction::Largest, false) => format!("Largest {shown}{unit}"),
            (Reduction::Blanks, _) => format!("Blank {shown}"),
        };
        let decimals = match reduction {
            Reduction::Mean => kind.decimals().unwrap_or(0).max(2),
            _ => kind.decimals().unwrap_or(0),
        };
        let summed = match &kind {
            Kind::Amount { scale, .. } => Summed::Units(scale.decimals()),
            _ => Summed::Exactly,
        };
        let of = FigureOf::Column { reduction, column, summed, decimals };
        let mut figures = vec![Figure { name: said, of }];
        // A sum of intervals says how many rows it added.
        if reduction == Reduction::Sum && kind.figure().is_some() {
            let name = format!("Rows in the sum of {shown}");
            figures.push(Figure { name, of: FigureOf::RowsSummed { column } });
        }
        Some(figures)
    }
}

fn capitalised(word: &str) -> String {
    let mut signs = word.chars();
    signs.next().map_or_else(String::new, |first| first.to_uppercase().chain(signs).collect())
}

impl BoundReport for Arc<BoundSummary> {
    fn amounts(&self) -> Vec<usize> {
        let amount = |figure: &Figure| match figure.of {
            FigureOf::Column { reduction, column, .. } if reduction != Reduction::Blanks => Some(column),
            _ => None,
        };
        self.figures.iter().filter_map(amount).collect()
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(SummaryTally {
            bound: Arc::clone(self),
            groups: BTreeMap::new(),
            total: Group::of(&self.figures),
        })
    }
}

/// What tells a group from others at one level, in the order of the groups: values before the reasons why there is none.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
enum Key {
    /// A bucket by its place, a period by its first day, a date or a number.
    Number(i128),
    /// A text without regard to case, and as it is.
    Text(String, String),
    Missing(Gap),
}

/// One group's figures so far.
#[derive(Debug, Clone)]
struct Group {
    /// How it is called at each level.
    labels: Vec<String>,
    rows: u64,
    figures: Vec<Running>,
}

/// One figure while it is worked out.
#[derive(Debug, Clone)]
enum Running {
    Rows(u64),
    /// A sum in units of the last decimal, and how many rows it is of.
    Units {
        sum: i128,
        rows: u64,
    },
    /// A sum of exact numbers, and how many rows it is of.
    Exact {
        sum: Quotient,
        rows: u64,
    },
    /// The most extreme value so far: what it is ordered by, and how it is shown.
    Extreme(Option<(Quotient, ReportCell)>),
}

impl Group {
    fn of(figures: &[Figure]) -> Self {
        let running = |figure: &Figure| match figure.of {
            FigureOf::Rows | FigureOf::RowsSummed { .. } => Running::Rows(0),
            FigureOf::Column { reduction, summed, .. } => match (reduction, summed) {
                (Reduction::Blanks, _) => Running::Rows(0),
                (Reduction::Smallest | Reduction::Largest, _) => Running::Extreme(None),
                (Reduction::Sum | Reduction::Mean, Summed::Units(_)) => Running::Units { sum: 0, rows: 0 },
                (Reduction::Sum | Reduction::Mean, Summed::Exactly) => {
                    Running::Exact { sum: Quotient::ZERO, rows: 0 }
                }
            },
        };
        Self { labels: Vec::new(), rows: 0, figures: figures.iter().map(running).collect() }
    }

    /// Takes a row in; `None` where a sum gets too large.
    fn add(&mut self, figures: &[Figure], table: &Table, row: usize) -> Option<()> {
        self.rows += 1;
        for (running, figure) in self.figures.iter_mut().zip(figures) {
            let column = match figure.of {
                FigureOf::Rows => usize::MAX,
                FigureOf::Column { column, .. } | FigureOf::RowsSummed { column } => column,
            };
            match running {
                Running::Rows(count) => {
                    let counts = match figure.of {
                        FigureOf::Rows => true,
                        FigureOf::RowsSummed { .. } => !table.is_empty(column, row),
                        FigureOf::Column { .. } => table.is_blank(column, row),
                    };
                    *count += u64::from(counts);
                }
                Running::Units { sum, rows } => {
                    if let Some(units) = table.units(column, row) {
                        (*sum, *rows) = (sum.checked_add(units)?, *rows + 1);
                    }
                }
                Running::Exact { sum, rows } => {
                    if let Some(number) = table.exact(column, row) {
                        (*sum, *rows) = (sum.checked_add(number)?, *rows + 1);
                    }
                }
                Running::Extreme(best) => {
                    if let Some(value) = value_of(table, column, row) {
                        more_extreme(best, value, figure);
                    }
                }
            }
        }
        Some(())
    }

    /// Takes over what another group of the same name counted; `None` where a sum gets too large.
    fn merge(&mut self, other: Self, figures: &[Figure]) -> Option<()> {
        self.rows += other.rows;
        for ((running, more), figure) in self.figures.iter_mut().zip(other.figures).zip(figures) {
            match (running, more) {
                (Running::Rows(count), Running::Rows(more)) => *count += more,
                (Running::Units { sum, rows }, Running::Units { sum: more, rows: others }) => {
                    (*sum, *rows) = (sum.checked_add(more)?, *rows + others);
                }
                (Running::Exact { sum, rows }, Running::Exact { sum: more, rows: others }) => {
                    (*sum, *rows) = (sum.checked_add(more)?, *rows + others);
                }
                (Running::Extreme(best), Running::Extreme(Some(value))) => more_extreme(best, value, figure),
                _ => {}
            }
        }
        Some(())
    }

    fn cells(&self, figures: &[Figure]) -> Option<Vec<ReportCell>> {
        self.figures.iter().zip(figures).map(|(running, figure)| running.cell(figure)).collect()
    }
}

impl Running {
    /// The figure; `None` where it is too large to be shown.
    fn cell(&self, figure: &Figure) -> Option<ReportCell> {
        let (reduction, summed, decimals) = match figure.of {
            FigureOf::Column { reduction, summed, decimals, .. } => (reduction, summed, decimals),
            _ => (Reduction::Blanks, Summed::Exactly, 0),
        };
        let (sum, rows) = match self {
            Self::Rows(count) => return Some(ReportCell::Count(i64::try_from(*count).ok()?)),
            Self::Extreme(best) => {
                return Some(best.as_ref().map_or(ReportCell::Empty, |(_, cell)| cell.clone()));
            }
            Self::Units { sum, rows } => {
                let scale = if let Summed::Units(scale) = summed { scale } else { 0 };
                (Quotient::from(Decimal::of_units(*sum, scale).ok()?), *rows)
            }
            Self::Exact { sum, rows } => (*sum, *rows),
        };
        let figure = match reduction {
            Reduction::Mean if rows == 0 => return Some(ReportCell::Empty),
            Reduction::Mean => sum.checked_div(Quotient::of(rows.into(), 1)?)?,
            _ => sum,
        };
        figure.to_decimal(decimals, Rounding::Nearest).ok().map(ReportCell::Decimal)
    }
}

/// Keeps the smaller or the larger of two.
fn more_extreme(best: &mut Option<(Quotient, ReportCell)>, value: (Quotient, ReportCell), figure: &Figure) {
    let is_smallest = matches!(figure.of, FigureOf::Column { reduction: Reduction::Smallest, .. });
    let is_better = best.as_ref().is_none_or(|known| match value.0.cmp(&known.0) {
        // One instant by two clocks: the same is shown whichever came first.
        Ordering::Equal => clock(&value.1) < clock(&known.1),
        Ordering::Less => is_smallest,
        Ordering::Greater => !is_smallest,
    });
    if is_better {
        *best = Some(value);
    }
}

fn clock(cell: &ReportCell) -> Option<DateTime> {
    if let ReportCell::DateTime(at) = cell { Some(*at) } else { None }
}

/// A date or a number: what it is ordered by, and how it is shown.
fn value_of(table: &Table, column: usize, row: usize) -> Option<(Quotient, ReportCell)> {
    match table.columns.get(column)? {
        Data::Date(_) | Data::Moment { .. } => {
            let at: DateTime = table.date_time(column, row)?;
            let cell = match table.columns.get(column) {
                Some(Data::Date(_)) => ReportCell::Date(at.date()),
                _ => ReportCell::DateTime(at),
            };
            Some((Quotient::of(table.order_number(column, row)?, 1)?, cell))
        }
        Data::Count(_) => {
            let units = table.units(column, row)?;
            Some((Quotient::of(units, 1)?, ReportCell::Count(i64::try_from(units).ok()?)))
        }
        _ => Some((table.exact(column, row)?, ReportCell::Decimal(table.decimal(column, row)?))),
    }
}

/// The groups of one summary.
struct SummaryTally {
    bound: Arc<BoundSummary>,
    groups: BTreeMap<Vec<Key>, Group>,
    total: Group,
}

impl Level {
    /// What tells the group of a row, and how that is called.
    fn key_of(&self, table: &Table, row: usize) -> (Key, String) {
        let missing = || {
            let gap = table.gap(self.column, row).unwrap_or(Gap::Blank);
            (Key::Missing(gap), self.label_of_gap(gap))
        };
        match &self.kind {
            LevelKind::Band(band) => match table.order_number(self.column, row) {
                Some(bucket) => {
                    let label = usize::try_from(bucket).ok().and_then(|bucket| band.buckets.label(bucket));
                    (Key::Number(bucket), label.unwrap_or_default().to_owned())
                }
                None => missing(),
            },
            LevelKind::Period(rule) => match table.date(self.column, row) {
                Some(date) => {
                    let period = rule.containing(date);
                    (Key::Number(period.dates().first().day_number().into()), period.label())
                }
                None => missing(),
            },
            LevelKind::Value if table.is_empty(self.column, row) => missing(),
            LevelKind::Value => {
                let shown = table.shown(self.column, row);
                let shown = shown.trim();
                let key = match table.order_number(self.column, row) {
                    Some(number) => Key::Number(number),
                    None => Key::Text(shown.to_lowercase(), shown.to_owned()),
                };
                (key, shown.to_owned())
            }
        }
    }

    fn label_of_gap(&self, gap: Gap) -> String {
        match (&self.kind, gap) {
            (LevelKind::Band(band), gap) => gap.bucket(band).to_owned(),
            (LevelKind::Period(_), Gap::Blank) => "No date".to_owned(),
            (_, Gap::Blank) => "(blank)".to_owned(),
            (_, Gap::Unreadable) => "Unreadable".to_owned(),
            (_, Gap::NotMatched) => "Not matched".to_owned(),
            (_, Gap::SeveralMatches) => "Several matches".to_owned(),
            _ => "No result".to_owned(),
        }
    }

    /// The groups that there are whether rows are in them or not: all buckets, and every period from the first to the last.
    fn all(&self, seen: &BTreeSet<Key>) -> BTreeMap<Key, String> {
        match &self.kind {
            LevelKind::Band(band) => {
                let labels = band.buckets.labels().iter().enumerate();
                labels.map(|(bucket, label)| (Key::Number(bucket as i128), label.clone())).collect()
            }
            LevelKind::Period(rule) => {
                let day = |key: &Key| match key {
                    Key::Number(day) => Date::from_day_number(i32::try_from(*day).ok()?).ok(),
                    _ => None,
                };
                let mut days = seen.iter().filter_map(day);
                let Some(first) = days.next() else { return BTreeMap::new() };
                let last = days.next_back().unwrap_or(first);
                let periods = mild_ledger::DateRange::new(first, last).map(|days| rule.covering(days));
                let key = |day: Date| Key::Number(day.day_number().into());
                let named = periods.into_iter().flatten().take(MOST_FILLED);
                named.map(|period| (key(period.dates().first()), period.label())).collect()
            }
            LevelKind::Value => BTreeMap::new(),
        }
    }
}

impl SummaryTally {
    /// Adds the groups without rows, as far as there are not too many; a note says where there are.
    fn fill(&mut self) -> Option<String> {
        let bound = Arc::clone(&self.bound);
        let seen = |level: usize| -> BTreeSet<Key> {
            self.groups.keys().filter_map(|keys| keys.get(level)).cloned().collect()
        };
        let all: Vec<BTreeMap<Key, String>> =
            bound.levels.iter().enumerate().map(|(nth, level)| level.all(&seen(nth))).collect();
        // The groups at each level under each one above it.
        let mut paths: BTreeMap<Vec<Key>, Vec<String>> = BTreeMap::from([(Vec::new(), Vec::new())]);
        for (level, named) in all.iter().enumerate() {
            let mut next: BTreeMap<Vec<Key>, Vec<String>> = BTreeMap::new();
            // Rows without a date, say, are in no month, so there is nothing to fill in below them.
            let whole = |(keys, _): &(&Vec<Key>, &Vec<String>)| {
                !keys.iter().any(|key| matches!(key, Key::Missing(_)))
            };
            for (keys, labels) in paths.iter().filter(whole) {
                for (key, label) in named {
                    let path = keys.iter().chain([key]).cloned().collect();
                    next.insert(path, labels.iter().chain([label]).cloned().collect());
                }
            }
            for (keys, group) in &self.groups {
                next.insert(keys.iter().take(level + 1).cloned().collect(), group.labels[..=level].to_vec());
            }
            if next.len() > MOST_FILLED.max(self.groups.len()) {
                return Some(format!(
                    "groups without rows are not shown: there would be more than {MOST_FILLED} rows"
                ));
            }
            paths = next;
        }
        for (keys, labels) in paths {
            self.groups.entry(keys).or_insert_with(|| Group { labels, ..Group::of(&bound.figures) });
        }
        None
    }

    fn too_large(&self) -> RecordsError {
        RecordsError::too_large_in_all(&self.bound.title)
    }
}

/// The first figures of the total that say something, and how many groups they are of.
fn totals(table: &ReportTable) -> Vec<ReportCell> {
    const MOST: usize = 2;
    let mut said = Vec::new();
    let figures = table.columns.iter().zip(table.total.iter().flatten()).skip(table.names);
    let figures = figures.filter(|(_, cell)| **cell != ReportCell::Empty);
    for (nth, (name, cell)) in figures.take(MOST).enumerate() {
        let before = if nth > 0 { ", " } else { "" };
        said.push(ReportCell::Text(format!("{before}{name} ")));
        said.push(cell.clone());
    }
    if !said.is_empty() {
        said.push(ReportCell::Text(" in ".to_owned()));
    }
    said.extend([ReportCell::count(table.rows.len()), ReportCell::Text(" ".to_owned())]);
    said.push(ReportCell::Text(if table.rows.len() == 1 { "group" } else { "groups" }.to_owned()));
    said
}

impl Tally for SummaryTally {
    fn add(&mut self, _: &Layout, table: &Table, rows: &[usize], _: &Origins) -> Result<(), RecordsError> {
        let bound = Arc::clone(&self.bound);
        for row in rows {
            let (keys, labels): (Vec<Key>, Vec<String>) =
                bound.levels.iter().map(|level| level.key_of(table, *row)).unzip();
            let group =
                self.groups.entry(keys).or_insert_with(|| Group { labels, ..Group::of(&bound.figures) });
            let added = group.add(&bound.figures, table, *row);
            let added = added.and_then(|()| self.total.add(&bound.figures, table, *row));
            added.ok_or_else(|| self.too_large())?;
        }
        Ok(())
    }

    fn merge(&mut self, other: Box<dyn Tally>, _: &Layout) -> Result<(), RecordsError> {
        // Tallies of one report are of one kind.
        let Ok(other) = other.into_any().downcast::<Self>() else { return Ok(()) };
        let bound = Arc::clone(&self.bound);
        self.total.merge(other.total, &bound.figures).ok_or_else(|| self.too_large())?;
        for (keys, group) in other.groups {
            let merged = match self.groups.get_mut(&keys) {
                Some(known) => known.merge(group, &bound.figures),
                None => {
                    self.groups.insert(keys, group);
                    Some(())
                }
            };
            merged.ok_or_else(|| self.too_large())?;
        }
        Ok(())
    }

    fn finish(mut self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        let notes: Vec<String> = self.fill().into_iter().collect();
        let bound = Arc::clone(&self.bound);
        let figures = bound.figures.as_slice();
        let row = |group: &Group| -> Option<Vec<ReportCell>> {
            Some(group.labels.iter().cloned().map(ReportCell::Text).chain(group.cells(figures)?).collect())
        };
        let rows: Option<Vec<Vec<ReportCell>>> = self.groups.values().map(row).collect();
        let total = self.total.cells(figures).map(|cells| {
            let name = |nth: usize| if nth == 0 { "Total".to_owned() } else { String::new() };
            let names = (0..bound.levels.len()).map(|nth| ReportCell::Text(name(nth)));
            names.chain(cells).collect::<Vec<_>>()
        });
        let (rows, total) = rows.zip(total).ok_or_else(|| self.too_large())?;
        let columns =
            bound.levels.iter().map(|level| &level.name).chain(figures.iter().map(|figure| &figure.name));
        let table = ReportTable {
            title: bound.title.clone(),
            currency: None,
            columns: columns.cloned().collect(),
            names: bound.levels.len(),
            rows: rows.into_iter().collect(),
            order: RowOrder::OfNames,
            total: Some(total),
            shows: None,
            further: Vec::new(),
            summed: figures
                .iter()
                .zip(bound.levels.len()..)
                .filter(|(figure, _)| figure.is_summed())
                .map(|(_, column)| column)
                .collect(),
            share_of: None,
        };
        let mut proof =
            vec![ProofLine::of_rows([("in groups", self.groups.values().map(|group| group.rows).sum())])];
        for (nth, figure) in figures.iter().enumerate() {
            let FigureOf::Column { reduction: Reduction::Sum, column, summed: Summed::Units(scale), .. } =
                figure.of
            else {
                continue;
            };
            let units = self.groups.values().map(|group| match group.figures.get(nth) {
                Some(Running::Units { sum, .. }) => *sum,
                _ => 0,
            });
            let sum = units.into_iter().try_fold(0_i128, i128::checked_add);
            let sum = sum.and_then(|units| Decimal::of_units(units, scale).ok());
            let line = sum.and_then(|sum| ProofLine::of_amounts(layout.name(column), [("in groups", sum)]));
            proof.push(line.ok_or_else(|| self.too_large())?);
        }
        Ok(Report {
            kind: KIND.word,
            title: bound.title.clone(),
            made_of: Vec::new(),
            answer: totals(&table),
            tables: vec![table],
            explanation: Vec::new(),
            proof,
            notes,
        })
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}
