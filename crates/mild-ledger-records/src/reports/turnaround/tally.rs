//! Jobs by group: what they took, and how they are against their promise.

use super::{BoundTurnaround, KIND};
use crate::calendars::{FiguresByRule, Resting};
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::reports::groups::{ByGroup, Group, MOST_LEVELS, Places, check_held, filled};
use crate::reports::{
    ProofLine, Report, ReportCell, ReportRows, ReportTable, TableRank, Tally, counted, key_of, of_one_report,
};
use crate::table::{Layout, Origins, Presentation, Table};
use mild_ledger::{Date, Job, Progress, Quotient, Rounding};
use serde::{Deserialize, Serialize};
use std::any::Any;
use std::sync::Arc;

/// The figures next to which the key of their row is.
pub(super) const SHORTEST: &str = "Shortest";
pub(super) const LONGEST: &str = "Longest";

/// The jobs of one group.
#[derive(Clone, Serialize, Deserialize)]
struct Jobs {
    finished: Group,
    late: Group,
    running: Group,
    on_time: u64,
    running_late: u64,
    shortest: Option<Extreme>,
    longest: Option<Extreme>,
    longest_running: Option<Extreme>,
}

/// A value, and the key of the row that has it; of several the first in the order of keys.
type Extreme = (Quotient, String);

/// Rows by what a turnaround says of them.
#[derive(Clone, Copy, Default, Serialize, Deserialize)]
struct RowsOfJobs {
    finished: u64,
    running: u64,
    not_begun: u64,
    no_start: u64,
    end_unreadable: u64,
    /// Of the finished, those that end before they start, and those whose time could not be counted.
    backwards: u64,
    not_counted: u64,
    /// Of all that began, those for which no day could be promised.
    no_promise: u64,
}

impl RowsOfJobs {
    fn all(&mut self) -> [&mut u64; 8] {
        [
            &mut self.finished,
            &mut self.running,
            &mut self.not_begun,
            &mut self.no_start,
            &mut self.end_unreadable,
            &mut self.backwards,
            &mut self.not_counted,
            &mut self.no_promise,
        ]
    }
}

/// The jobs of all groups so far.
pub(super) struct TurnaroundTally {
    bound: Arc<BoundTurnaround>,
    counted: ByGroup<Jobs>,
    places: [Places; MOST_LEVELS],
    rows: RowsOfJobs,
    /// Jobs whose figures rest on days that are by rule, of each calendar.
    by_rule: Vec<FiguresByRule>,
    held: usize,
}

impl TurnaroundTally {
    pub(super) fn of(bound: &Arc<BoundTurnaround>) -> Self {
        Self {
            bound: Arc::clone(bound),
            counted: ByGroup::default(),
            places: Default::default(),
            rows: RowsOfJobs::default(),
            by_rule: vec![FiguresByRule::default(); bound.by_rule.calendars().len()],
            held: 0,
        }
    }

    fn add_row(
        &mut self,
        bound: &BoundTurnaround,
        (layout, table): (&Layout, &Table),
        row: usize,
    ) -> Option<()> {
        if table.is_unreadable(bound.end, row) {
            self.rows.end_unreadable += 1;
            return Some(());
        }
        let job = Job { start: table.date(bound.start, row), end: table.date(bound.end, row) };
        let progress = match bound.as_of_time {
            Some(as_of) => {
                Job { start: table.date_time(bound.start, row), end: table.date_time(bound.end, row) }
                    .progress_on(as_of)
            }
            None => job.progress_on(bound.as_of),
        };
        let Some(progress) = progress else {
            self.rows.no_start += 1;
            return Some(());
        };
        if progress == Progress::NotBegun {
            self.rows.not_begun += 1;
            return Some(());
        }
        let promised = bound.promise.as_ref().map(|promise| table.date(promise.day, row));
        // An end after the as-of has not happened yet, and what runs is late once its day is over.
        let seen = Job { end: job.end.filter(|_| progress == Progress::Finished), ..job };
        let late = promised.flatten().and_then(|promised| seen.late_on(bound.as_of, promised));
        self.rows.no_promise += u64::from(promised.is_some() && late.is_none());
        self.count_by_rule((table, row), &job, (progress, promised.flatten()));
        let places = Places::of_levels(&mut self.places, &bound.levels, table, row);
        let jobs = self.counted.of(places, || Jobs::of(bound));
        let key = || key_of(layout, table, row);
        match progress {
            Progress::Finished => {
                self.rows.finished += 1;
                self.rows.backwards += u64::from(job.end < job.start);
                self.held += jobs.finished.add(&bound.figures, table, row)?;
                jobs.on_time += u64::from(late == Some(false));
                if late == Some(true) {
                    self.held += jobs.late.add(&bound.late_figures, table, row)?;
                }
                match table.exact(bound.taken, row) {
                    None => self.rows.not_counted += 1,
                    Some(taken) => {
                        keep(&mut jobs.shortest, taken, key, |new, old| new < old);
                        keep(&mut jobs.longest, taken, key, |new, old| new > old);
                    }
                }
            }
            _ => {
                self.rows.running += 1;
                self.held += jobs.running.add(&bound.running_figures, table, row)?;
                jobs.running_late += u64::from(late == Some(true));
                if let Some(running) = table.exact(bound.running, row) {
                    keep(&mut jobs.longest_running, running, key, |new, old| new > old);
                }
            }
        }
        Some(())
    }

    /// Counts a job whose figures rest on days that are by rule: those from its start to its end, or to the as-of date, and to the day that was promised.
    fn count_by_rule(
        &mut self,
        (table, row): (&Table, usize),
        job: &Job,
        (progress, promised): (Progress, Option<Date>),
    ) {
        let bound = &self.bound;
        let time = if progress == Progress::Finished { bound.taken } else { bound.running };
        let is_counted = !bound.by_rule.times.is_empty() && !table.is_empty(time, row);
        let promised = promised.filter(|_| !bound.by_rule.promises.is_empty());
        if !is_counted && promised.is_none() {
            return;
        }
        let end = job.end.unwrap_or(bound.as_of).min(bound.as_of);
        let Some(last) = [job.start, Some(end), promised].into_iter().flatten().max() else { return };
        for (tally, calendar) in self.by_rule.iter_mut().zip(bound.by_rule.calendars()) {
            if calendar.is_of(table, row) {
                tally.add(&calendar.years, last.year());
            }
        }
    }

    fn too_large(&self) -> RecordsError {
        RecordsError::too_large_in_all(&self.bound.title)
    }

    fn into_report(mut self, layout: &Layout) -> Result<Report, RecordsError> {
        let bound = Arc::clone(&self.bound);
        let jobs = std::mem::take(&mut self.counted);
        let mut named = Places::named_groups(&self.places, bound.levels.len(), jobs);
        let mut notes = self.notes();
        let known = named.iter().map(|(keys, (labels, _))| (keys.clone(), labels.clone())).collect();
        match filled(&bound.levels, &known) {
            Err(note) => notes.push(note),
            Ok(paths) => {
                for (keys, labels) in paths {
                    named.entry(keys).or_insert_with(|| (labels, Jobs::of(&bound)));
                }
            }
        }
        let mut total = Jobs::of(&bound);
        let mut groups = Vec::with_capacity(named.len());
        for (labels, jobs) in named.into_values() {
            total.merge(jobs.clone(), &bound).ok_or_else(|| self.too_large())?;
            groups.push((labels, jobs));
        }
        // Jobs that are in no groups are all in one.
        let heads: Vec<String> = match bound.levels.is_empty() {
            true => {
                groups = vec![(vec!["all".to_owned()], total.clone())];
                vec!["Jobs".to_owned()]
            }
            false => bound.levels.iter().map(|level| level.name.clone()).collect(),
        };
        let shown = &layout.presentation;
        let mut tables = Vec::new();
        for part in Part::of(&bound) {
            let table =
                part.table(&bound, &heads, (&groups, &total), shown).ok_or_else(|| self.too_large())?;
            tables.push(table);
        }
        let proof = ProofLine::of_rows([
            ("finished", self.rows.finished),
            ("running", self.rows.running),
            ("not begun", self.rows.not_begun),
            ("without a start", self.rows.no_start),
            ("without an end that could be read", self.rows.end_unreadable),
        ]);
        let text = |text: &str| ReportCell::Text(text.to_owned());
        let mut answer = vec![ReportCell::count(self.rows.finished), text(" finished, ")];
        if let Some(mean) = total.finished.cells(&bound.figures).and_then(|cells| cells.first().cloned()) {
            let unit = ReportCell::Text(format!(" {}, ", bound.unit));
            answer.extend([text("mean "), mean, unit]);
        }
        if bound.promise.is_some() {
            answer.extend([ReportCell::count(total.late.rows), text(" of them late, ")]);
        }
        answer.extend([ReportCell::count(self.rows.running), text(" running")]);
        let mut explanation = vec![format!(
            "Finished are jobs that ended on {0} or before. Those that still ran are counted up to {0}, by themselves.",
            bound.as_of_time.map_or_else(|| shown.date(bound.as_of), |at| shown.date_time(at))
        )];
        if let Some(promise) = &bound.promise {
            explanation.push(format!(
                "Promised is the day {} after the start; late is a job that ended, or still runs, after it.",
                promise.said
            ));
        }
        Ok(Report {
            kind: KIND.word,
            title: bound.title.clone(),
            made_of: Vec::new(),
            seen_from: Vec::new(),
            behind: Vec::new(),
            tables,
            answer,
            explanation,
            proof: vec![proof],
            notes,
        })
    }

    fn notes(&self) -> Vec<String> {
        let rows = self.rows;
        let said = [
            (rows.backwards, "job ends before it starts", "jobs end before they start"),
            (
                rows.not_counted,
                "finished job took a time that could not be counted",
                "finished jobs took a time that could not be counted",
            ),
            (
                rows.no_promise,
                "job has no day that could be promised",
                "jobs have no day that could be promised",
            ),
            (rows.no_start, "row has no start", "rows have no start"),
            (
                rows.end_unreadable,
                "row has an end that could not be read",
                "rows have an end that could not be read",
            ),
        ];
        let rows = said
            .into_iter()
            .filter(|(count, ..)| *count > 0)
            .map(|(count, one, more)| counted(count, one, more));
        let by_rule = self.by_rule.iter().zip(self.bound.by_rule.calendars());
        let title = &self.bound.title;
        let figures_of = |jobs: u64| {
            Resting::Several(format!("The figures of {} of \"{title}\"", counted(jobs, "job", "jobs")))
        };
        rows.chain(by_rule.filter_map(|(tally, calendar)| tally.note(&calendar.years, figures_of))).collect()
    }
}

fn keep(
    known: &mut Option<Extreme>,
    value: Quotient,
    key: impl Fn() -> String,
    is_further: fn(&Quotient, &Quotient) -> bool,
) {
    let is_new =
        known.as_ref().is_none_or(|(old, of)| is_further(&value, old) || value == *old && key() < *of);
    if is_new {
        *known = Some((value, key()));
    }
}

/// What a table shows of the jobs.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Part {
    Finished,
    Promise,
    Running,
}

impl Part {
    fn of(bound: &BoundTurnaround) -> Vec<Self> {
        match bound.promise {
            Some(_) => vec![Self::Finished, Self::Promise, Self::Running],
            None => vec![Self::Finished, Self::Running],
        }
    }

    fn shows(self, bound: &BoundTurnaround, shown: &Presentation) -> String {
        match (self, &bound.promise) {
            (Self::Promise, Some(promise)) => format!("finished against the promise of {}", promise.said),
            (Self::Running, _) => format!("still running on {}", shown.date(bound.as_of)),
            _ => bound.shows.clone(),
        }
    }

    /// The columns after the names of groups, each with whether the figures of groups sum to that of all.
    fn columns(self, bound: &BoundTurnaround) -> Vec<(String, IsSummed)> {
        let counted = |name: &str| (name.to_owned(), IsSummed::Yes);
        let other = |name: &str| (name.to_owned(), IsSummed::No);
        match self {
            Self::Finished => {
                let mut columns = vec![counted("Finished")];
                for figure in &bound.figures {
                    columns.push(other(&figure.name));
                    if matches!(figure.name.as_str(), SHORTEST | LONGEST) {
                        columns.push(other(&format!("{}, key", figure.name)));
                    }
                }
                columns
            }
            Self::Promise => {
                let figures = bound.late_figures.iter().map(|figure| other(&figure.name));
                [counted("On time"), counted("Late"), other("On time, %")]
                    .into_iter()
                    .chain(figures)
                    .collect()
            }
            Self::Running => {
                let late = bound.promise.iter().map(|_| counted("Running late"));
                let figures = bound.running_figures.iter().map(|figure| other(&figure.name));
                let columns = std::iter::once(counted("Running")).chain(late).chain(figures);
                columns.chain([other("Longest running, key")]).collect()
            }
        }
    }

    /// `None` where a figure is too large to be shown.
    fn table(
        self,
        bound: &BoundTurnaround,
        heads: &[String],
        (groups, total): (&[(Vec<String>, Jobs)], &Jobs),
        shown: &Presentation,
    ) -> Option<ReportTable> {
        let names = heads.len();
        let columns = self.columns(bound);
        let mut rows = Vec::with_capacity(groups.len());
        for (labels, jobs) in groups {
            let labels = labels.iter().cloned().map(ReportCell::Text);
            rows.push(labels.chain(jobs.cells(self, bound)?).collect::<Vec<_>>());
        }
        let name = |nth: usize| ReportCell::Text(if nth == 0 { "Total".to_owned() } else { String::new() });
        let all = (0..names).map(name).chain(total.cells(self, bound)?).collect();
        let summed = columns.iter().enumerate().filter(|(_, (_, summed))| *summed == IsSummed::Yes);
        let measure = columns.iter().position(|(_, summed)| *summed == IsSummed::No);
        Some(ReportTable {
            title: bound.title.clone(),
            rank: if self == Self::Finished { TableRank::First } else { TableRank::Further },
            shows: Some(self.shows(bound, shown)),
            summed: summed.map(|(nth, _)| names + nth).collect(),
            columns: heads.iter().cloned().chain(columns.iter().map(|(name, _)| name.clone())).collect(),
            names,
            rows: ReportRows::from_iter(rows),
            total: (!bound.levels.is_empty()).then_some(all),
            measure: measure.map(|nth| names + nth),
            ..ReportTable::default()
        })
    }
}

/// Whether the figures of groups sum to that of all.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum IsSummed {
    Yes,
    No,
}

impl Jobs {
    fn of(bound: &BoundTurnaround) -> Self {
        Self {
            finished: Group::of(&bound.figures),
            late: Group::of(&bound.late_figures),
            running: Group::of(&bound.running_figures),
            on_time: 0,
            running_late: 0,
            shortest: None,
            longest: None,
            longest_running: None,
        }
    }

    fn merge(&mut self, other: Self, bound: &BoundTurnaround) -> Option<()> {
        self.finished.merge(other.finished, &bound.figures)?;
        self.late.merge(other.late, &bound.late_figures)?;
        self.running.merge(other.running, &bound.running_figures)?;
        self.on_time += other.on_time;
        self.running_late += other.running_late;
        let take = |known: &mut Option<Extreme>, more: Option<Extreme>, is_further| {
            if let Some((value, key)) = more {
                keep(known, value, || key.clone(), is_further);
            }
        };
        take(&mut self.shortest, other.shortest, |new, old| new < old);
        take(&mut self.longest, other.longest, |new, old| new > old);
        take(&mut self.longest_running, other.longest_running, |new, old| new > old);
        Some(())
    }

    fn held(&self) -> usize {
        self.finished.held() + self.late.held() + self.running.held()
    }

    /// Its cells of a table, in the order of the columns; `None` where a figure is too large to be shown.
    fn cells(&self, part: Part, bound: &BoundTurnaround) -> Option<Vec<ReportCell>> {
        let key = |extreme: &Option<Extreme>| {
            extreme.as_ref().map_or(ReportCell::Empty, |(_, key)| ReportCell::Text(key.clone()))
        };
        Some(match part {
            Part::Finished => {
                let mut cells = vec![ReportCell::count(self.finished.rows)];
                for (cell, figure) in self.finished.cells(&bound.figures)?.into_iter().zip(&bound.figures) {
                    cells.push(cell);
                    match figure.name.as_str() {
                        SHORTEST => cells.push(key(&self.shortest)),
                        LONGEST => cells.push(key(&self.longest)),
                        _ => {}
                    }
                }
                cells
            }
            Part::Promise => {
                let judged = self.on_time + self.late.rows;
                let on_time = match judged {
                    0 => ReportCell::Empty,
                    _ => {
                        let part = Quotient::of(i128::from(self.on_time) * 100, judged.into())?;
                        ReportCell::Decimal(part.to_decimal(1, Rounding::Nearest).ok()?)
                    }
                };
                let counts = [ReportCell::count(self.on_time), ReportCell::count(self.late.rows), on_time];
                counts.into_iter().chain(self.late.cells(&bound.late_figures)?).collect()
            }
            Part::Running => {
                let late = bound.promise.iter().map(|_| ReportCell::count(self.running_late));
                let cells = std::iter::once(ReportCell::count(self.running.rows)).chain(late);
                let figures = self.running.cells(&bound.running_figures)?;
                cells.chain(figures).chain([key(&self.longest_running)]).collect()
            }
        })
    }
}

handed_over!(TurnaroundTally: counted, places, rows, by_rule, held; known: bound);

impl Tally for TurnaroundTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        _: &Origins,
    ) -> Result<(), RecordsError> {
        let bound = Arc::clone(&self.bound);
        for row in rows {
            self.add_row(&bound, (layout, table), *row).ok_or_else(|| self.too_large())?;
        }
        check_held(self.held, &self.bound.title)
    }

    fn merge(&mut self, other: Box<dyn Tally>, _: &Layout) -> Result<(), RecordsError> {
        let mut other = of_one_report::<Self>(other)?;
        let bound = Arc::clone(&self.bound);
        for (places, jobs) in std::mem::take(&mut other.counted) {
            let own = Places::own_of(&mut self.places, &other.places, places, bound.levels.len());
            let into = self.counted.of(own, || Jobs::of(&bound));
            into.merge(jobs, &bound).ok_or_else(|| RecordsError::too_large_in_all(&bound.title))?;
        }
        for (rows, more) in self.rows.all().into_iter().zip(other.rows.all()) {
            *rows += *more;
        }
        self.by_rule.iter_mut().zip(&other.by_rule).for_each(|(tally, other)| tally.merge(*other));
        self.held = self.counted.values().map(Jobs::held).sum();
        check_held(self.held, &bound.title)
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        self.into_report(layout)
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}
