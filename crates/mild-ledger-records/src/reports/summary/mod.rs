//! Figures by group: rows counted, amounts and figures summed, means, medians and percentiles, ends, different values, shares.

mod beside;
mod bound;
mod rows;
mod tally;

use super::groups::{
    Figure, Level, MOST_LEVELS, PlannedFigure, PlannedLevel, RowFigure, read_figure, read_level, read_levels,
};
use super::{BoundReport, Heading, PlannedReport, ReportKind, Tally};
use crate::columns::Binder;
use crate::mistakes::{At, Expected, Walk, in_quotes, nearest};
use crate::sorting::Direction;
use beside::Earlier;
use bound::{BoundSummary, PageLayout};
use std::sync::Arc;
use tally::SummaryTally;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "summary",
    gives: "figures of groups: of columns, buckets or periods",
    title: "Summary",
    keys: &["by", "columns_by", "show", "order", "top", "bars", "beside"],
    read,
    further: |_| Vec::new(),
};

/// The most rows that come before the others are one.
const MOST_TOP: i64 = 1_000_000;

/// A summary as the plan says it.
#[derive(Debug)]
struct PlannedSummary {
    heading: Heading,
    /// The groups of the last one across the page, where the plan lays some so.
    by: Vec<PlannedLevel>,
    layout: PageLayout,
    show: Vec<PlannedFigure>,
    order: Option<At<String>>,
    top: Option<usize>,
    bars: Option<At<String>>,
    /// Earlier periods next to each.
    beside: Option<At<Vec<Earlier>>>,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    const BY: &str = "by = [\"Region\", { period = \"month\", of = \"Issued\" }], one to three of them";
    let mut by = read_levels(walk, table)?;
    let groupings = by.len();
    let across = table.get("columns_by");
    if let Some(value) = across {
        if groupings == MOST_LEVELS {
            let what = format!("groups across the page are next to at most {} others", MOST_LEVELS - 1);
            walk.mistakes.tell(value.span(), what, BY);
            return None;
        }
        by.push(read_level(walk, value)?);
    }
    let show = match table.get("show") {
        Some(value) => {
            const SHOW: &str = "a list such as [\"count\", { sum = \"Amount\" }]";
            let items = walk.items(value, SHOW)?;
            if items.is_empty() {
                walk.mistakes.tell(value.span(), "no figures are to be shown", SHOW);
                return None;
            }
            let figures: Vec<Option<PlannedFigure>> =
                items.iter().map(|item| read_figure(walk, item)).collect();
            figures.into_iter().collect::<Option<Vec<_>>>()
        }
        None => Some(vec![PlannedFigure::OfRows(RowFigure::Count)]),
    };
    let order = match table.get("order") {
        Some(value) => Some(walk.text(value, "a figure that is shown, such as \"count, largest first\"")?),
        None => None,
    };
    let top = match (table.get("top"), &order, groupings) {
        (None, ..) => None,
        (Some(value), Some(_), 1) => Some(walk.whole_number(value, 1..=MOST_TOP)?),
        (Some(value), ..) => {
            let what = "the first rows are those of one grouping in a stated order";
            let expected = "order = \"count, largest first\" with it, and one grouping in by";
            walk.mistakes.tell(value.span(), what, expected);
            return None;
        }
    };
    let top = top.and_then(|top| usize::try_from(top).ok());
    let bars = match table.get("bars") {
        Some(value) => Some(walk.text(value, "a figure that is shown, such as \"count\"")?),
        None => None,
    };
    let beside = match table.get("beside") {
        Some(value) => {
            let items = walk.items_or_one(value);
            let earlier = items.iter().map(|item| walk.choice(item, &Earlier::WORDS));
            Some(At { value: earlier.collect::<Option<Vec<_>>>()?, span: value.span() })
        }
        None => None,
    };
    let layout = if across.is_some() { PageLayout::Across } else { PageLayout::Down };
    Some(Box::new(PlannedSummary { heading, by, layout, show: show?, order, top, bars, beside }))
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
        let title = self.heading.title_in(binder);
        let figures: Vec<Figure> = figures.into_iter().flatten().collect();
        let order = match &self.order {
            Some(order) => Some(ordered_by(binder, order, &figures)?),
            None => None,
        };
        if self.layout == PageLayout::Across && figures.iter().any(Figure::is_share) {
            let what = "shares of a whole are in one column, not in groups across the page";
            binder.mistakes.tell(self.heading.span.clone(), what, "show without shares, or no across");
            return None;
        }
        let bars = match &self.bars {
            Some(name) => Some(figure_called(binder, name, name.value.trim(), &figures)?),
            None => None,
        };
        let beside = self.beside.as_ref().map(|beside| beside.value.clone()).unwrap_or_default();
        let is_of_periods = matches!(levels.as_slice(), [level] if level.periods().is_some());
        if let (Some(beside), false) = (&self.beside, is_of_periods) {
            let what = "only periods have earlier ones";
            let expected = "by = [{ period = \"month\", of = \"…\" }], one grouping, and no across";
            binder.mistakes.tell(beside.span.clone(), what, expected);
            return None;
        }
        let (layout, top) = (self.layout, self.top);
        let opens = binder.figures;
        Some(Box::new(Arc::new(BoundSummary {
            title,
            levels,
            layout,
            figures,
            order,
            top,
            bars,
            beside,
            opens,
        })))
    }
}

/// The figure that a plan orders rows by, and its direction.
fn ordered_by(binder: &mut Binder<'_>, order: &At<String>, figures: &[Figure]) -> Option<(usize, Direction)> {
    let (name, direction) = order
        .value
        .rsplit_once(',')
        .and_then(|(name, behind)| {
            let known = Direction::WORDS.iter().find(|(words, _)| *words == behind.trim());
            known.map(|(_, direction)| (name.trim(), *direction))
        })
        .unwrap_or((order.value.trim(), Direction::SmallestFirst));
    figure_called(binder, order, name, figures).map(|figure| (figure, direction))
}

/// The figure of a name; where there is none, the message lists the figures that there are.
fn figure_called(
    binder: &mut Binder<'_>,
    said: &At<String>,
    name: &str,
    figures: &[Figure],
) -> Option<usize> {
    let found = figures.iter().position(|figure| figure.name == name);
    if found.is_none() {
        let names = || figures.iter().map(|figure| figure.name.as_str());
        let help = nearest(name, names()).map(|near| format!("nearest: \"{}\"", near.escape_debug()));
        let what = format!("no figure of this report is called \"{}\"", name.escape_debug());
        binder.mistakes.tell_with_help(said.span.clone(), what, Expected::Words(in_quotes(names())), help);
    }
    found
}

impl BoundReport for Arc<BoundSummary> {
    fn amounts(&self) -> Vec<usize> {
        self.figures.iter().filter_map(Figure::amounts).collect()
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(SummaryTally::of(self))
    }
}
