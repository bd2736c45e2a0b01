//! Who is in service and for how long, and how many joined and left in each period.

use super::groups::{
    ByGroup, Figure, Group, Level, MOST_LEVELS, Places, PlannedFigure, PlannedLevel, Reduction, check_held,
    filled, read_levels,
};
use super::periods::{head_of, label_as_of};
use super::{
    BoundReport, Heading, PlannedReport, ProofLine, Report, ReportCell, ReportKind, ReportRows, ReportTable,
    TableRank, Tally, counted, of_one_report,
};
use crate::columns::{Binder, DateSource, HiddenColumn, read_periods};
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::mistakes::{At, Walk};
use crate::table::{Kind, Layout, Origins, Table};
use mild_ledger::{Date, DateRange, Headcount, Job, PeriodRule, Progress};
use serde::{Deserialize, Serialize};
use std::any::Any;
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "tenure",
    gives: "who is in service and for how long, and the headcount by period with joiners and leavers",
    title: "Tenure",
    keys: &[
        "start",
        "left",
        "count",
        "ends",
        "month_end",
        "weeks_begin",
        "decimals",
        "by",
        "period",
        "fiscal_year_begins",
        "fiscal_named",
        "week_years",
        "last_periods",
    ],
    read,
    further: |_| Vec::new(),
};

/// The name by which the time in service is found while its report is bound.
const SERVED: &str = "the time in service";
/// The most periods that are shown.
const MOST_PERIODS: i64 = 1_200;

/// A tenure as the plan says it.
#[derive(Debug)]
struct PlannedTenure {
    heading: Heading,
    start: At<String>,
    left: Option<At<String>>,
    served: HiddenColumn,
    by: Vec<PlannedLevel>,
    rule: PeriodRule,
    /// How many, up to that of the as-of date.
    periods: usize,
}

/// A tenure bound to its columns.
struct BoundTenure {
    title: String,
    shows: String,
    /// What the time in service is counted in.
    unit: String,
    start: usize,
    left: Option<usize>,
    levels: Vec<Level>,
    figures: Vec<Figure>,
    rule: PeriodRule,
    /// The stretches of days, the earliest first; the last ends on the as-of date.
    periods: Vec<(String, DateRange)>,
    as_of: Date,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let span = heading.span.clone();
    let start = walk.needed(table, "start", span.clone(), "start = \"…\", the first days of service")?;
    let start = walk.text(start, "the name of a column of dates")?;
    let left = match table.get("left") {
        Some(value) => Some(walk.text(value, "the name of a column of dates")?),
        None => None,
    };
    let dates = (
        At { value: DateSource::Column(start.value.clone()), span: start.span.clone() },
        At { value: DateSource::AsOf, span: start.span.clone() },
    );
    let served = HiddenColumn::elapsed(walk, table, dates, span)?;
    let by = read_levels(walk, table)?;
    let rule = read_periods(walk, table)?;
    let periods = match table.get("last_periods") {
        Some(value) => walk.whole_number(value, 1..=MOST_PERIODS)?,
        None => 12,
    };
    let periods = usize::try_from(periods).unwrap_or(1);
    Some(Box::new(PlannedTenure { heading, start, left, served, by, rule, periods }))
}

impl PlannedReport for PlannedTenure {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    fn uses_as_of(&self) -> bool {
        true
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let as_of = binder.as_of(&self.heading.span);
        let start = binder.find_dates(&self.start);
        let left = match &self.left {
            Some(name) => Some(binder.find_dates(name)?),
            None => None,
        };
        let levels: Vec<Option<Level>> = self.by.iter().map(|level| level.bind(binder)).collect();
        let (as_of, start) = (as_of?.date, start?);
        let levels = levels.into_iter().collect::<Option<Vec<_>>>()?;
        let served = binder.add_hidden(&self.served)?;
        if matches!(binder.kind(served), Kind::Parts(_)) {
            let what = "years, months and days have no mean";
            binder.mistakes.tell(
                self.heading.span.clone(),
                what,
                "count = \"complete months\" or another number",
            );
            return None;
        }
        let figures = binder.with_name(SERVED, served, |binder| {
            let named = [
                (Reduction::Mean, "Mean"),
                (Reduction::Percentile(50.into()), "Median"),
                (Reduction::Smallest, "Shortest"),
                (Reduction::Largest, "Longest"),
            ];
            let mut figures = Vec::with_capacity(named.len());
            for (reduction, name) in named {
                let column = At { value: SERVED.to_owned(), span: self.heading.span.clone() };
                let bound = PlannedFigure::Of { reduction, column }.bind(binder)?;
                figures.extend(
                    bound.into_iter().next().map(|figure| Figure { name: name.to_owned(), ..figure }),
                );
            }
            Some(figures)
        })?;
        let title = self.heading.title_in(binder);
        Some(Box::new(Arc::new(BoundTenure {
            title,
            unit: binder.kind(served).figure().map_or_else(String::new, |figure| figure.rule.clone()),
            shows: format!("in service on {}: {}", binder.presentation.date(as_of), self.served.said()),
            start,
            left,
            levels,
            figures,
            rule: self.rule,
            periods: periods_up_to(as_of, self.rule, self.periods),
            as_of,
        })))
    }
}

/// So many periods up to that of a date, with their labels; the last ends on the date.
fn periods_up_to(as_of: Date, rule: PeriodRule, count: usize) -> Vec<(String, DateRange)> {
    let mut periods = Vec::with_capacity(count);
    let mut day = as_of;
    for _ in 0..count {
        let period = rule.containing(day);
        let (first, last) = (period.dates().first(), period.dates().last());
        let label = label_as_of(&period, Some(as_of));
        if let Ok(days) = DateRange::new(first, last.min(as_of)) {
            periods.push((label, days));
        }
        let Some(before) = first.days_later(-1) else { break };
        day = before;
    }
    periods.reverse();
    periods
}

impl BoundReport for Arc<BoundTenure> {
    fn amounts(&self) -> Vec<usize> {
        Vec::new()
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(TenureTally {
            groups: ByGroup::default(),
            places: Default::default(),
            headcount: Headcount::of(self.periods.iter().map(|(_, days)| *days)),
            rows: RowsOfService::default(),
            held: 0,
            bound: Arc::clone(self),
        })
    }
}

/// Rows by what they say of a service.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct RowsOfService {
    in_service: u64,
    left: u64,
    not_begun: u64,
    no_start: u64,
    left_unreadable: u64,
    backwards: u64,
}

impl RowsOfService {
    fn all(&mut self) -> [&mut u64; 6] {
        [
            &mut self.in_service,
            &mut self.left,
            &mut self.not_begun,
            &mut self.no_start,
            &mut self.left_unreadable,
            &mut self.backwards,
        ]
    }
}

/// Those in service by group, and who came and went.
struct TenureTally {
    bound: Arc<BoundTenure>,
    groups: ByGroup<Group>,
    places: [Places; MOST_LEVELS],
    headcount: Headcount,
    rows: RowsOfService,
    held: usize,
}

impl TenureTally {
    fn add_row(&mut self, bound: &BoundTenure, table: &Table, row: usize) -> Option<()> {
        if bound.left.is_some_and(|left| table.is_unreadable(left, row)) {
            self.rows.left_unreadable += 1;
            return Some(());
        }
        let left = bound.left.and_then(|left| table.date(left, row));
        let service = Job { start: table.date(bound.start, row), end: left };
        let Some(start) = service.start else {
            self.rows.no_start += 1;
            return Some(());
        };
        if left.is_some_and(|left| left < start) {
            self.rows.backwards += 1;
            return Some(());
        }
        self.headcount.add(start, left);
        match service.progress_on(bound.as_of)? {
            Progress::NotBegun => self.rows.not_begun += 1,
            Progress::Finished => self.rows.left += 1,
            Progress::Running => {
                self.rows.in_service += 1;
                let places = Places::of_levels(&mut self.places, &bound.levels, table, row);
                let group = self.groups.of(places, || Group::of(&bound.figures));
                self.held += group.add(&bound.figures, table, row)?;
            }
        }
        Some(())
    }

    fn too_large(&self) -> RecordsError {
        RecordsError::too_large_in_all(&self.bound.title)
    }

    fn into_report(mut self) -> Result<Report, RecordsError> {
        let bound = Arc::clone(&self.bound);
        let rows = self.rows;
        let mut notes: Vec<String> = [
            (
                rows.backwards,
                "row has a last day before its first",
                "rows have a last day before their first",
            ),
            (rows.no_start, "row has no first day", "rows have no first day"),
            (
                rows.left_unreadable,
                "row has a last day that could not be read",
                "rows have a last day that could not be read",
            ),
        ]
        .into_iter()
        .filter(|(count, ..)| *count > 0)
        .map(|(count, one, more)| {
            let verb = if count == 1 { "is" } else { "are" };
            format!("{}, and {verb} not counted", counted(count, one, more))
        })
        .collect();
        let (in_service, note) = self.in_service().ok_or_else(|| self.too_large())?;
        notes.extend(note);
        let by_period = self.by_period();
        // Who is in service is who is left of all who came.
        let counted_up = self.headcount.lines().last().map_or(0, |line| line.closing);
        if counted_up != rows.in_service {
            let what = format!(
                "\"{}\" counts {} in service, and {counted_up} by the joined and the left",
                bound.title.escape_debug(),
                rows.in_service
            );
            return Err(RecordsError::Proof { what });
        }
        let text = |text: &str| ReportCell::Text(text.to_owned());
        let mut answer = vec![ReportCell::count(rows.in_service), text(" in service")];
        if let Some(mean) = in_service
            .total
            .as_ref()
            .or(in_service.rows.iter().next().as_ref())
            .and_then(|row| row.get(in_service.names + 1))
            .cloned()
        {
            answer.extend([text(", mean "), mean, ReportCell::Text(format!(" {}", bound.unit))]);
        }
        Ok(Report {
            kind: KIND.word,
            title: bound.title.clone(),
            made_of: Vec::new(),
            seen_from: Vec::new(),
            behind: Vec::new(),
            tables: vec![in_service, by_period],
            answer,
            explanation: vec![
                "Who left on a day is in service until its end, and counts as left in its period; at the start + joined − left = at the end.".to_owned(),
            ],
            proof: vec![ProofLine::of_rows([
                ("in service", rows.in_service),
                ("left", rows.left),
                ("not begun", rows.not_begun),
                ("without a first day", rows.no_start),
                ("without a last day that could be read", rows.left_unreadable),
                ("with a last day before the first", rows.backwards),
            ])],
            notes,
        })
    }

    /// A row a group, and a note where there are too many; `None` where a figure is too large.
    fn in_service(&mut self) -> Option<(ReportTable, Option<String>)> {
        let bound = Arc::clone(&self.bound);
        let groups = std::mem::take(&mut self.groups);
        let mut named = Places::named_groups(&self.places, bound.levels.len(), groups);
        let known = named.iter().map(|(keys, (labels, _))| (keys.clone(), labels.clone())).collect();
        let note = match filled(&bound.levels, &known) {
            Err(note) => Some(note),
            Ok(paths) => {
                for (keys, labels) in paths {
                    named.entry(keys).or_insert_with(|| (labels, Group::of(&bound.figures)));
                }
                None
            }
        };
        let mut total = Group::of(&bound.figures);
        for (_, group) in named.values() {
            total.merge(group.clone(), &bound.figures)?;
        }
        let cells = |group: &Group| -> Option<Vec<ReportCell>> {
            let figures = group.cells(&bound.figures)?;
            Some(std::iter::once(ReportCell::count(group.rows)).chain(figures).collect())
        };
        let is_whole = bound.levels.is_empty();
        let mut rows = Vec::with_capacity(named.len());
        for (labels, group) in named.values() {
            let labels: Vec<String> = if is_whole { vec!["all".to_owned()] } else { labels.clone() };
            rows.push(labels.into_iter().map(ReportCell::Text).chain(cells(group)?).collect::<Vec<_>>());
        }
        let heads: Vec<String> = match is_whole {
            true => vec!["Service".to_owned()],
            false => bound.levels.iter().map(|level| level.name.clone()).collect(),
        };
        let names = heads.len();
        let name = |nth: usize| ReportCell::Text(if nth == 0 { "Total".to_owned() } else { String::new() });
        let all = (0..names).map(name).chain(cells(&total)?).collect();
        let figures = bound.figures.iter().map(|figure| figure.name.clone());
        let table = ReportTable {
            title: bound.title.clone(),
            shows: Some(bound.shows.clone()),
            columns: heads.into_iter().chain(["In service".to_owned()]).chain(figures).collect(),
            names,
            rows: ReportRows::from_iter(rows),
            total: (!is_whole).then_some(all),
            summed: vec![names],
            measure: bound.figures.iter().position(Figure::is_measure).map(|nth| names + 1 + nth),
            ..ReportTable::default()
        };
        Some((table, note))
    }

    /// A row a period: at the start, joined, left, at the end.
    fn by_period(&self) -> ReportTable {
        let bound = &self.bound;
        let lines = self.headcount.lines();
        let row = |((label, _), line): (&(String, DateRange), mild_ledger::HeadcountLine)| {
            let counts = [line.opening, line.joined, line.left, line.closing].map(ReportCell::count);
            std::iter::once(ReportCell::Text(label.clone())).chain(counts).collect::<Vec<_>>()
        };
        let head = head_of(bound.rule);
        let columns = [head.as_str(), "At the start", "Joined", "Left", "At the end"].map(str::to_owned);
        ReportTable {
            title: bound.title.clone(),
            rank: TableRank::Further,
            shows: Some(format!("headcount by {}", bound.rule.word())),
            columns: columns.into(),
            names: 1,
            rows: ReportRows::from_iter(bound.periods.iter().zip(lines).map(row)),
            summed: vec![2, 3],
            measure: Some(4),
            ..ReportTable::default()
        }
    }
}

handed_over!(TenureTally: groups, places, headcount, rows, held; known: bound);

impl Tally for TenureTally {
    fn add(&mut self, _: &Layout, table: &Table, rows: &[usize], _: &Origins) -> Result<(), RecordsError> {
        let bound = Arc::clone(&self.bound);
        for row in rows {
            self.add_row(&bound, table, *row).ok_or_else(|| self.too_large())?;
        }
        check_held(self.held, &self.bound.title)
    }

    fn merge(&mut self, other: Box<dyn Tally>, _: &Layout) -> Result<(), RecordsError> {
        let mut other = of_one_report::<Self>(other)?;
        let bound = Arc::clone(&self.bound);
        for (places, group) in std::mem::take(&mut other.groups) {
            let own = Places::own_of(&mut self.places, &other.places, places, bound.levels.len());
            let into = self.groups.of(own, || Group::of(&bound.figures));
            into.merge(group, &bound.figures).ok_or_else(|| RecordsError::too_large_in_all(&bound.title))?;
        }
        self.headcount.merge(&other.headcount);
        for (rows, more) in self.rows.all().into_iter().zip(other.rows.all()) {
            *rows += *more;
        }
        self.held = self.groups.values().map(Group::held).sum();
        check_held(self.held, &bound.title)
    }

    fn finish(self: Box<Self>, _: &Layout) -> Result<Report, RecordsError> {
        self.into_report()
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}
