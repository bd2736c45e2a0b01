//! The figures of a summary: counts, sums and comparisons in each group.

use crate::columns::{Binder, NumberUse, read_number};
use crate::mistakes::{At, Keys, Value, Walk};
use crate::table::Kind;
use mild_ledger::Decimal;
use toml::de::DeTable;

/// A figure as the plan says it.
#[derive(Debug)]
pub(in crate::reports) enum PlannedFigure {
    OfRows(RowFigure),
    Of { reduction: Reduction, column: At<String> },
}

/// A figure of the rows themselves.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::reports) enum RowFigure {
    Count,
    /// In per cent of all.
    Share,
}

/// What becomes of the values of a column in a group.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::reports) enum Reduction {
    Sum,
    Mean,
    Smallest,
    Largest,
    /// Linear between the closest ranks; the median is the 50th.
    Percentile(Decimal),
    /// Different values.
    Distinct,
    Blanks,
    /// The sum in per cent of that of all groups.
    Share,
}

/// The words after which a column is, each with what it says; nothing for a percentile, whose place is next to it.
fn reductions() -> [(&'static str, Option<Reduction>); 9] {
    [
        ("sum", Some(Reduction::Sum)),
        ("mean", Some(Reduction::Mean)),
        ("smallest", Some(Reduction::Smallest)),
        ("largest", Some(Reduction::Largest)),
        ("median", Some(Reduction::Percentile(Decimal::from(50)))),
        ("percentile", None),
        ("distinct", Some(Reduction::Distinct)),
        ("blanks", Some(Reduction::Blanks)),
        ("share", Some(Reduction::Share)),
    ]
}

pub(in crate::reports) fn read_figure(walk: &mut Walk, value: &Value<'_>) -> Option<PlannedFigure> {
    const EXPECTED: &str = "\"count\", \"share\", or one of { sum = \"…\" }, { mean = \"…\" }, { median = \"…\" }, { percentile = \"…\", at = 90 }, { smallest = \"…\" }, { largest = \"…\" }, { distinct = \"…\" }, { blanks = \"…\" }, { share = \"…\" }";
    if value.get_ref().as_str().is_some() {
        let choices = [("count", RowFigure::Count), ("share", RowFigure::Share)];
        return walk.choice(value, &choices).map(PlannedFigure::OfRows);
    }
    let table = walk.table(value, EXPECTED)?;
    let words: Vec<&str> = reductions().iter().map(|(word, _)| *word).chain(["at"]).collect();
    walk.check_keys(table, &Keys { part: "a figure of a summary", known: &words, later: &[] });
    let stated: Vec<_> = reductions()
        .into_iter()
        .filter_map(|(word, reduction)| Some((word, reduction, table.get(word)?)))
        .collect();
    let [(word, reduction, column)] = stated.as_slice() else {
        // An unknown key was reported above.
        if stated.len() + usize::from(table.contains_key("at")) == table.len() {
            walk.mistakes.tell(value.span(), format!("it says {} figures", stated.len()), EXPECTED);
        }
        return None;
    };
    let column = walk.text(column, "the name of a column")?;
    let reduction = match (reduction, table.get("at")) {
        (None, _) => Reduction::Percentile(read_place(walk, table, value)?),
        (Some(reduction), None) => *reduction,
        (Some(_), Some(at)) => {
            let what = format!("\"at\" does not go with \"{word}\"");
            walk.mistakes.tell(at.span(), what, "{ percentile = \"…\", at = 90 }");
            return None;
        }
    };
    Some(PlannedFigure::Of { reduction, column })
}

/// The place of a percentile.
fn read_place(walk: &mut Walk, table: &DeTable, whole: &Value<'_>) -> Option<Decimal> {
    const PLACE: &str = "at = 90, a number from 0 to 100";
    let at = walk.needed(table, "at", whole.span(), PLACE)?;
    let place = read_number(walk, at, PLACE)?;
    if place < Decimal::ZERO || place > Decimal::from(100) {
        walk.mistakes.tell(at.span(), format!("there is no percentile {place}"), PLACE);
        return None;
    }
    Some(place)
}

/// One figure of each group.
pub(in crate::reports) struct Figure {
    /// As its column is called.
    pub(in crate::reports) name: String,
    pub(in crate::reports) of: FigureOf,
}

pub(in crate::reports) enum FigureOf {
    Rows,
    ShareOfRows,
    Column {
        reduction: Reduction,
        column: usize,
        summed: Summed,
        shape: Shape,
    },
    /// How many rows were added in the sum before it.
    RowsSummed {
        column: usize,
    },
}

/// In what the sums of a column are kept.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::reports) enum Summed {
    /// Amounts, in units of a number of decimals.
    Units(u8),
    /// Figures, exactly, whatever they are shown as.
    Exactly,
}

/// How a figure is shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::reports) enum Shape {
    Decimals(u8),
    /// One of the numbers of a column that may be years or numbers of documents.
    PlainNumber(u8),
    /// A date: what lies between two is the nearest, a tie the later one.
    Date,
}

impl Figure {
    /// Whether the figures of groups, as they are shown, sum to that of all.
    pub(in crate::reports) fn is_summed(&self) -> bool {
        match self.of {
            FigureOf::Rows | FigureOf::RowsSummed { .. } | FigureOf::ShareOfRows => true,
            FigureOf::Column { reduction: Reduction::Sum, summed: Summed::Units(_), .. } => true,
            FigureOf::Column { reduction, .. } => matches!(reduction, Reduction::Blanks | Reduction::Share),
        }
    }

    /// Whether it is shown as its part of that of all.
    pub(in crate::reports) fn is_share(&self) -> bool {
        matches!(self.of, FigureOf::ShareOfRows | FigureOf::Column { reduction: Reduction::Share, .. })
    }

    /// Whether it is an amount or a length of time, which says more than how many rows there are.
    pub(in crate::reports) fn is_measure(&self) -> bool {
        let FigureOf::Column { reduction, shape: Shape::Decimals(_), .. } = self.of else { return false };
        !matches!(reduction, Reduction::Blanks | Reduction::Distinct | Reduction::Share)
    }

    /// The column whose amounts it adds up or compares.
    pub(in crate::reports) fn amounts(&self) -> Option<usize> {
        match self.of {
            FigureOf::Column { reduction: Reduction::Blanks | Reduction::Distinct, .. } => None,
            FigureOf::Column { column, .. } => Some(column),
            _ => None,
        }
    }
}

impl PlannedFigure {
    pub(in crate::reports) fn bind(&self, binder: &mut Binder<'_>) -> Option<Vec<Figure>> {
        let (reduction, name) = match self {
            Self::OfRows(RowFigure::Count) => {
                return Some(vec![Figure { name: "count".to_owned(), of: FigureOf::Rows }]);
            }
            Self::OfRows(RowFigure::Share) => {
                return Some(vec![Figure { name: "share".to_owned(), of: FigureOf::ShareOfRows }]);
            }
            Self::Of { reduction, column } => (*reduction, column),
        };
        let column = binder.find(name)?;
        if !matches!(reduction, Reduction::Blanks | Reduction::Distinct) {
            binder.take_as(column, NumberUse::Figures);
        }
        let kind = binder.kind(column).clone();
        if let Some(why) = refused(reduction, &kind) {
            let what = format!("\"{}\" holds {}", name.value.escape_debug(), kind.word());
            binder.mistakes.tell(
                name.span.clone(),
                format!("{what}; {why}"),
                "a column of amounts, figures or dates",
            );
            return None;
        }
        let shown = binder.name(column);
        let said = match reduction {
            Reduction::Sum => format!("{shown}, sum"),
            Reduction::Mean => format!("{shown}, mean"),
            Reduction::Smallest => format!("{shown}, smallest"),
            Reduction::Largest => format!("{shown}, largest"),
            Reduction::Percentile(place) if place == Decimal::from(50) => format!("{shown}, median"),
            Reduction::Percentile(place) => format!("{shown}, {}", percentile_heading(place)),
            Reduction::Distinct => format!("{shown}, distinct"),
            Reduction::Blanks => format!("{shown}, blank"),
            Reduction::Share => format!("{shown}, share"),
        };
        let decimals = kind.decimals().unwrap_or(0);
        let shape = match (reduction, &kind) {
            (_, Kind::Date { .. }) => Shape::Date,
            (Reduction::Mean | Reduction::Percentile(_), _) => Shape::Decimals(decimals.max(2)),
            (Reduction::Smallest | Reduction::Largest, Kind::Number { figure: None, .. } | Kind::Place) => {
                Shape::PlainNumber(decimals)
            }
            _ => Shape::Decimals(decimals),
        };
        let summed = match &kind {
            Kind::Amount { scale, .. } => Summed::Units(scale.decimals()),
            _ => Summed::Exactly,
        };
        let of = FigureOf::Column { reduction, column, summed, shape };
        let mut figures = vec![Figure { name: said, of }];
        // A sum of intervals says how many rows it added.
        if reduction == Reduction::Sum && kind.figure().is_some() {
            let name = format!("{shown}, rows in the sum");
            figures.push(Figure { name, of: FigureOf::RowsSummed { column } });
        }
        Some(figures)
    }
}

/// `90th percentile`, `1st percentile`, `99.9th percentile`.
pub(in crate::reports) fn percentile_heading(place: Decimal) -> String {
    let place = place.to_string();
    // 11 to 13 end otherwise than 1 to 3 (eleventh, first); so do decimals.
    let is_teen = ["11", "12", "13"].iter().any(|teen| place.ends_with(teen));
    let ending = match place.as_bytes().last() {
        _ if is_teen || place.contains('.') => "th",
        Some(b'1') => "st",
        Some(b'2') => "nd",
        Some(b'3') => "rd",
        _ => "th",
    };
    format!("{place}{ending} percentile")
}

/// Why a column of a kind has no such figure.
fn refused(reduction: Reduction, kind: &Kind) -> Option<&'static str> {
    let is_number = kind.decimals().is_some();
    match (reduction, kind) {
        (Reduction::Blanks | Reduction::Distinct, _) => None,
        (Reduction::Sum | Reduction::Mean | Reduction::Share, Kind::Place) => {
            Some("numbers that name a place, such as weeks and months, are not summed")
        }
        (Reduction::Smallest | Reduction::Largest, Kind::Date { .. }) => None,
        (Reduction::Mean | Reduction::Percentile(_), Kind::Date { time: None, .. }) => None,
        (Reduction::Mean | Reduction::Percentile(_), Kind::Date { .. }) => {
            Some("date-times have a smallest and a largest, and nothing between them")
        }
        _ if is_number => None,
        (Reduction::Sum | Reduction::Share, _) => Some("only amounts and numbers have a sum"),
        (Reduction::Mean | Reduction::Percentile(_), _) => {
            Some("only amounts, numbers and dates have a mean, a median and percentiles")
        }
        _ => Some("only dates, amounts and numbers have a smallest and a largest"),
    }
}
