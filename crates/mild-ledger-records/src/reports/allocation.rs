//! Amounts allocated to the periods of the days that each is for: prepayments, accruals, rents, targets.

use super::groups::{ByGroup, Level, MOST_LEVELS, NamedGroups, Places, PlannedLevel, read_levels};
use super::over::{BoundOver, Over, PlannedOver};
use super::periods::{head_of, label_as_of};
use super::{
    BoundReport, Heading, PlannedReport, ProofLine, Report, ReportCell, ReportKind, ReportRows, ReportTable,
    Tally, counted, of_one_report,
};
use crate::calendars::{FiguresByRule, Resting};
use crate::columns::{Binder, read_periods};
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::mistakes::{At, Walk};
use crate::table::{Layout, Origin, Origins, Table};
use mild_ledger::{Date, DateRange, Decimal, ErrorKind, PeriodRule, Scale, allocate_over_periods};
use serde::{Deserialize, Serialize};
use std::any::Any;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "allocation",
    gives: "amounts allocated to the periods of the days that each is for, to the cent",
    title: "Allocation",
    keys: &[
        "amount",
        "from",
        "to",
        "over",
        "calendar",
        "period",
        "fiscal_year_begins",
        "fiscal_named",
        "week_years",
        "weeks_begin",
        "decimals",
        "by",
    ],
    read,
    further: |_| Vec::new(),
};

/// An allocation as the plan says it.
#[derive(Debug)]
struct PlannedAllocation {
    heading: Heading,
    amount: At<String>,
    from: At<String>,
    to: At<String>,
    over: PlannedOver,
    periods: PeriodRule,
    decimals: Option<At<u8>>,
    by: Vec<PlannedLevel>,
}

/// An allocation bound to its columns.
struct BoundAllocation {
    title: String,
    shows: String,
    amount: usize,
    scale: Scale,
    from: usize,
    to: usize,
    over: BoundOver,
    periods: PeriodRule,
    decimals: u8,
    levels: Vec<Level>,
    as_of: Option<Date>,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let mut column = |key: &str, expected: &str| {
        let value = walk.needed(table, key, heading.span.clone(), expected)?;
        walk.text(value, "the name of a column")
    };
    let amount = column("amount", "amount = \"…\", the amounts to allocate");
    let from = column("from", "from = \"…\", the first day of each");
    let to = column("to", "to = \"…\", the last day of each, included");
    let choices = [Over::Days, Over::WorkingDays, Over::Months];
    let over = PlannedOver::read(walk, table, &choices, heading.span.clone())?;
    let periods = read_periods(walk, table)?;
    let decimals = match table.get("decimals") {
        Some(value) => {
            let decimals = walk.whole_number(value, 0..=18)?;
            u8::try_from(decimals).ok().map(|decimals| At { value: decimals, span: value.span() })
        }
        None => None,
    };
    let by = read_levels(walk, table)?;
    if by.len() >= MOST_LEVELS {
        let what = "periods come below each group, which has two columns at most";
        walk.mistakes.tell(heading.span.clone(), what, "by = [\"Customer\"], one or two of them");
        return None;
    }
    let (amount, from, to) = (amount?, from?, to?);
    Some(Box::new(PlannedAllocation { heading, amount, from, to, over, periods, decimals, by }))
}

impl PlannedReport for PlannedAllocation {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    fn uses_as_of(&self) -> bool {
        false
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let (amount, scale) = binder.find_amounts(&self.amount)?;
        let (from, to) = (binder.find_dates(&self.from), binder.find_dates(&self.to));
        let levels: Vec<Option<Level>> = self.by.iter().map(|level| level.bind(binder)).collect();
        let bound_over = self.over.bind(binder)?;
        let decimals = self.decimals.as_ref().map_or(scale.decimals(), |decimals| decimals.value);
        if let Some(said) = self.decimals.as_ref().filter(|said| said.value > scale.decimals()) {
            let what = format!("the amounts have {} decimals", scale.decimals());
            binder.mistakes.tell(said.span.clone(), what, format!("0 to {}", scale.decimals()));
            return None;
        }
        let (from, to) = (from?, to?);
        let levels = levels.into_iter().collect::<Option<Vec<_>>>()?;
        let as_of = binder.known_as_of().map(|as_of| as_of.date);
        let (over, by) = self.over.said();
        let shows = format!(
            "{} over the {over} from {} to {}{by}, by {}",
            binder.name(amount),
            binder.name(from),
            binder.name(to),
            self.periods.word()
        );
        Some(Box::new(Arc::new(BoundAllocation {
            title: self.heading.title_in(binder),
            shows,
            amount,
            scale,
            from,
            to,
            over: bound_over,
            periods: self.periods,
            decimals,
            levels,
            as_of,
        })))
    }
}

impl BoundReport for Arc<BoundAllocation> {
    fn amounts(&self) -> Vec<usize> {
        vec![self.amount]
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(AllocationTally {
            groups: ByGroup::default(),
            places: Default::default(),
            allocated: 0,
            not_allocated: 0,
            rows: AllocationRows::default(),
            by_rule: FiguresByRule::default(),
            bound: Arc::clone(self),
        })
    }
}

/// The most periods that the library allocates one amount to.
const MOST_PERIODS: usize = 100_000;

/// Rows by what became of their amounts.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct AllocationRows {
    allocated: u64,
    no_amount: u64,
    /// Without one of the dates.
    no_span: u64,
    backwards: u64,
    not_covered: u64,
    /// Over more periods than one amount is allocated to.
    too_long: u64,
    /// Without a day to allocate over, or with decimals that the shares do not have.
    other: u64,
}

impl AllocationRows {
    fn all(&mut self) -> [&mut u64; 7] {
        [
            &mut self.allocated,
            &mut self.no_amount,
            &mut self.no_span,
            &mut self.backwards,
            &mut self.not_covered,
            &mut self.too_long,
            &mut self.other,
        ]
    }
}

/// The amounts of each group by the first days of the periods.
struct AllocationTally {
    bound: Arc<BoundAllocation>,
    groups: ByGroup<BTreeMap<Date, i128>>,
    places: [Places; MOST_LEVELS],
    /// In units of the amounts.
    allocated: i128,
    not_allocated: i128,
    rows: AllocationRows,
    /// Amounts that rest on days which are by rule.
    by_rule: FiguresByRule,
}

impl AllocationTally {
    fn add_row(
        &mut self,
        bound: &BoundAllocation,
        (layout, table): (&Layout, &Table),
        row: usize,
        origin: Origin,
    ) -> Result<(), RecordsError> {
        let Some(units) = table.units(bound.amount, row) else {
            self.rows.no_amount += 1;
            return Ok(());
        };
        let too_large = || RecordsError::too_large(layout.name(bound.amount), &layout.place(origin));
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(too_large)?;
            Ok(())
        };
        let span = match table.date(bound.from, row).zip(table.date(bound.to, row)) {
            None => Err(&mut self.rows.no_span),
            Some((from, to)) => DateRange::new(from, to).map_err(|_| &mut self.rows.backwards),
        };
        let span = match span {
            Ok(span) => span,
            Err(rows) => {
                *rows += 1;
                return add(&mut self.not_allocated, units);
            }
        };
        let by = bound.over.by();
        let shares =
            match allocate_over_periods(bound.scale.amount(units), span, bound.periods, by, bound.decimals) {
                Ok(shares) => shares,
                Err(error) => {
                    match error.kind() {
                        ErrorKind::NotCovered => self.rows.not_covered += 1,
                        ErrorKind::OutOfRange if bound.periods.covering(span).nth(MOST_PERIODS).is_some() => {
                            self.rows.too_long += 1;
                        }
                        _ => self.rows.other += 1,
                    }
                    return add(&mut self.not_allocated, units);
                }
            };
        let places = Places::of_levels(&mut self.places, &bound.levels, table, row);
        self.rows.allocated += 1;
        if let Some(years) = &bound.over.by_rule {
            self.by_rule.add(years, span.last().year());
        }
        add(&mut self.allocated, units)?;
        let group = self.groups.of(places, Default::default);
        for share in shares {
            add(group.entry(share.period.dates().first()).or_insert(0), share.share.units())?;
        }
        Ok(())
    }

    fn into_report(self, layout: &Layout) -> Result<Report, RecordsError> {
        let bound = Arc::clone(&self.bound);
        let column = layout.name(bound.amount);
        let too_large = || RecordsError::too_large_in_all(column);
        let (table, allocated) = self.table().ok_or_else(too_large)?;
        // What fell to all periods is the allocated amounts, to the last unit.
        if allocated != bound.scale.amount(self.allocated) {
            let what = format!(
                "\"{}\" allocated {} of \"{column}\" into {allocated}",
                bound.title.escape_debug(),
                bound.scale.amount(self.allocated)
            );
            return Err(RecordsError::Proof { what });
        }
        let amount = |units: i128| bound.scale.amount(units);
        let parts = [("allocated", amount(self.allocated)), ("not allocated", amount(self.not_allocated))];
        let proved = ProofLine::of_amounts(column, parts).ok_or_else(too_large)?;
        let rows = self.rows;
        let apart = rows.no_span + rows.backwards + rows.not_covered + rows.too_long + rows.other;
        let of_rows = ProofLine::of_rows([
            ("allocated", rows.allocated),
            ("not allocated", apart),
            ("without an amount", rows.no_amount),
        ]);
        let text = |text: String| ReportCell::Text(text);
        let periods = table.rows.iter().filter_map(|row| row.get(bound.levels.len()).cloned());
        let mut labels: Vec<String> = Vec::new();
        for label in periods {
            if let ReportCell::Text(label) = label
                && !labels.contains(&label)
            {
                labels.push(label);
            }
        }
        let answer = vec![
            ReportCell::Decimal(amount(self.allocated)),
            text(" allocated over ".to_owned()),
            ReportCell::count(labels.len()),
            text(if labels.len() == 1 { " period".to_owned() } else { " periods".to_owned() }),
        ];
        let notes = self.notes(layout);
        Ok(Report {
            kind: KIND.word,
            title: bound.title.clone(),
            made_of: Vec::new(),
            seen_from: Vec::new(),
            behind: Vec::new(),
            tables: vec![table],
            answer,
            explanation: vec![
                "Both ends of a span count. The parts of each amount sum to it exactly. Remaining is the sum of the later parts.".to_owned(),
            ],
            proof: vec![proved, of_rows],
            notes,
        })
    }

    /// A row a group and period, and the whole that was allocated; `None` where a sum is too large.
    fn table(&self) -> Option<(ReportTable, Decimal)> {
        let bound = &self.bound;
        let known = self.groups.iter();
        let groups: NamedGroups<&BTreeMap<Date, i128>> =
            Places::named_groups(&self.places, bound.levels.len(), known);
        let days: BTreeSet<Date> = groups.values().flat_map(|(_, periods)| periods.keys().copied()).collect();
        let scale = Scale::new(bound.decimals).ok()?;
        let amount = |units: i128| ReportCell::Decimal(scale.amount(units));
        let mut rows = Vec::new();
        let mut all = 0_i128;
        for (labels, periods) in groups.values() {
            let whole = periods.values().try_fold(0_i128, |sum, units| sum.checked_add(*units))?;
            all = all.checked_add(whole)?;
            let mut so_far = 0_i128;
            let (first, last) = (periods.keys().next()?, periods.keys().next_back()?);
            // Periods between others are shown though nothing falls to them.
            for day in days.iter().filter(|day| *day >= first && *day <= last) {
                let units = periods.get(day).copied().unwrap_or(0);
                so_far = so_far.checked_add(units)?;
                let period = bound.periods.containing(*day);
                let label = label_as_of(&period, bound.as_of);
                let names = labels.iter().cloned().chain([label]).map(ReportCell::Text);
                let figures = [units, so_far, whole.checked_sub(so_far)?].map(amount);
                rows.push(names.chain(figures).collect::<Vec<_>>());
            }
        }
        let names = bound.levels.len() + 1;
        let name = |nth: usize| ReportCell::Text(if nth == 0 { "Total".to_owned() } else { String::new() });
        let total = (0..names).map(name).chain([amount(all), ReportCell::Empty, ReportCell::Empty]).collect();
        let heads = bound.levels.iter().map(|level| level.name.clone());
        let period = [head_of(bound.periods)];
        let columns = heads
            .chain(period)
            .chain(["Amount", "Recognised to date", "Remaining"].map(str::to_owned))
            .collect();
        let table = ReportTable {
            title: bound.title.clone(),
            shows: Some(bound.shows.clone()),
            columns,
            names,
            rows: ReportRows::from_iter(rows),
            total: Some(total),
            summed: vec![names],
            ..ReportTable::default()
        };
        Some((table, scale.amount(all)))
    }

    fn notes(&self, layout: &Layout) -> Vec<String> {
        let rows = self.rows;
        let (from, to) = (layout.name(self.bound.from), layout.name(self.bound.to));
        let title = &self.bound.title;
        let parts_of = |amounts: u64| {
            Resting::Several(format!("The parts of {} of \"{title}\"", counted(amounts, "amount", "amounts")))
        };
        let not_allocated = |count: u64, why: String| {
            let rows = counted(count, "row is", "rows are");
            (count > 0).then(|| format!("{rows} not allocated: {why}"))
        };
        [
            not_allocated(rows.no_span, format!("no \"{from}\" or no \"{to}\"")),
            not_allocated(rows.backwards, format!("\"{to}\" lies before \"{from}\"")),
            not_allocated(rows.not_covered, "the calendar does not cover the days".to_owned()),
            not_allocated(
                rows.too_long,
                format!("from \"{from}\" to \"{to}\" are more than 100,000 periods, the most for one amount"),
            ),
            not_allocated(
                rows.other,
                "no day to allocate over, or an amount with more decimals than its parts".to_owned(),
            ),
            not_allocated(rows.no_amount, format!("no \"{}\"", layout.name(self.bound.amount))),
            self.bound.over.by_rule.as_ref().and_then(|years| self.by_rule.note(years, parts_of)),
        ]
        .into_iter()
        .flatten()
        .collect()
    }
}

handed_over!(AllocationTally: groups, places, allocated, not_allocated, rows, by_rule; known: bound);

impl Tally for AllocationTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let bound = Arc::clone(&self.bound);
        rows.iter().try_for_each(|row| self.add_row(&bound, (layout, table), *row, origins.of(*row)))
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        let mut other = of_one_report::<Self>(other)?;
        let bound = Arc::clone(&self.bound);
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            let too_large = || RecordsError::too_large_in_all(layout.name(bound.amount));
            *sum = sum.checked_add(units).ok_or_else(too_large)?;
            Ok(())
        };
        add(&mut self.allocated, other.allocated)?;
        add(&mut self.not_allocated, other.not_allocated)?;
        for (places, periods) in std::mem::take(&mut other.groups) {
            let own = Places::own_of(&mut self.places, &other.places, places, bound.levels.len());
            let into = self.groups.of(own, Default::default);
            for (day, units) in periods {
                add(into.entry(day).or_insert(0), units)?;
            }
        }
        self.by_rule.merge(other.by_rule);
        for (rows, more) in self.rows.all().into_iter().zip(other.rows.all()) {
            *rows += *more;
        }
        Ok(())
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        self.into_report(layout)
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}
