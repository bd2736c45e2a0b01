//! A plan bound to the header of its records: names have become column numbers, and kinds are known.

use super::bound_calendars::{ByRule, OfColumn, Twin, bind_twins, by_rule};
use super::outcome::ReadBackState;
use super::view::{BoundView, View, bind_views};
use crate::columns::{
    AsOfDate, Binder, Bound, BoundCondition, ColumnWritten, CountsBetween, Figures, NumberUse, Setting, Step,
    TypedNumbers, add_columns, read_order,
};
use crate::error::RecordsError;
use crate::files::{Fingerprint, HashKind};
use crate::join::{BoundJoin, HowRead, Join, JoinTally, LikeRecords, OtherFile};
use crate::keys::Duplicates;
use crate::mistakes::At;
use crate::plan::TotalRow;
use crate::plan::{ControlOf, MergedRows, OutputColumns, Plan};
use crate::reports::{BoundReport, bind_report};
use crate::sorting::Direction;
use crate::source::Stop;
use crate::source::{ColumnType, Reading, UnreadColumn};
use crate::table::{Batch, BatchBuilder, Exception, Kept, Kind, Layout, Origin, Table, currency_of};
use crate::typing::{Cleaner, Place};
use arrow_schema::SchemaRef;
use mild_ledger::{Decimal, Scale};
use std::borrow::Cow;
use std::collections::BTreeSet;

/// All that a pass over the records needs to know.
pub(super) struct Job {
    pub(super) setting: Setting,
    pub(super) reading: Reading,
    /// The files that columns are joined from, as far as they were read.
    pub(super) joins: Vec<Join>,
    /// All of them.
    pub(super) other_files: Vec<OtherFile>,
    pub(super) duplicates: Option<Duplicates>,
    pub(super) total_row: TotalRow,
    /// Rows to look at that are asked for.
    pub(super) sample: usize,
    pub(super) merged_rows: MergedRows,
    /// Columns of amounts, in the order of the header.
    pub(super) amounts: Vec<usize>,
    /// Columns of dates of the file, in the order of the header.
    pub(super) dates_of_file: Vec<usize>,
    pub(super) steps: Vec<Box<dyn Step>>,
    /// Columns of the plan that are worked out by another calendar too, and those that may rest on days that are not proclaimed.
    pub(super) twins: Vec<Twin>,
    pub(super) by_rule: Vec<ByRule>,
    /// What each of them makes, in words.
    pub(super) said: Vec<String>,
    /// Whether people may open figures to their rows.
    pub(super) figures: Figures,
    /// The columns that only reports look at, those of each date by themselves.
    pub(super) views: Vec<View>,
    pub(super) select: Vec<BoundCondition>,
    pub(super) bounds: Vec<Bound>,
    pub(super) compare: Vec<Pair>,
    /// Totals that are stated of columns of amounts.
    pub(super) control: Vec<StatedTotal>,
    pub(super) reports: Vec<Box<dyn BoundReport>>,
    pub(super) output: Vec<usize>,
    pub(super) order_by: Vec<(usize, Direction)>,
    /// What named stretches of days were resolved to, and what calendars cover.
    pub(super) notes: Vec<String>,
    /// What may be a mistake in the headers of the records.
    pub(super) doubts: Vec<String>,
}

/// A column of the file and one that is added, by their numbers.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Pair {
    pub(super) theirs: usize,
    pub(super) ours: usize,
}

/// The sum that a column is stated to have, of one of its currencies where it has such.
pub(super) struct StatedTotal {
    pub(super) column: usize,
    pub(super) currency: Option<String>,
    pub(super) total: Decimal,
}

/// Second files that are still to be read: those of the plan, and those that reports need from other dates.
pub(super) struct ToRead {
    own: Vec<BoundJoin>,
    of_views: Vec<BoundView>,
}

/// The data of the records before a row is read.
pub(super) struct RecordsShape<'r> {
    /// The names of their files.
    pub(super) sources: Vec<String>,
    pub(super) header: &'r [String],
    pub(super) types: &'r [ColumnType],
    /// Columns that are left out.
    pub(super) unread: Vec<UnreadColumn>,
    pub(super) stop: Stop,
}

impl Job {
    /// Binds a plan to the header of its records, and to those of the files that columns are joined from, which are still to be read.
    pub(super) fn bind(
        plan: &Plan,
        as_of: Option<AsOfDate>,
        records: RecordsShape<'_>,
    ) -> Result<(Self, ToRead), RecordsError> {
        let RecordsShape { sources, header, types, unread, stop } = records;
        let mut typed = TypedNumbers::default();
        loop {
            let mut binder = Binder::new(as_of, header, plan.folder());
            binder.unread.clone_from(&unread);
            binder.typed_numbers = typed;
            binder.presentation = plan.output_form.presentation();
            binder.stop = stop.clone();
            let bound = Self::bind_with(plan, &mut binder, (sources.clone(), types));
            if !binder.typed_numbers.is_more_known {
                return bound;
            }
            typed = binder.typed_numbers.again();
        }
    }

    fn bind_with(
        plan: &Plan,
        binder: &mut Binder<'_>,
        (sources, types): (Vec<String>, &[ColumnType]),
    ) -> Result<(Self, ToRead), RecordsError> {
        binder.figures = match plan.output_documents.is_empty() {
            true => plan.figures,
            false => Figures::Opened,
        };
        let mut written = binder.bind_file(&plan.written, types);
        binder.open_calendars(&plan.calendars);
        binder.find_calendars_beside(&plan.calendars);
        let key: Vec<_> = plan.key.iter().map(|name| binder.find(name)).collect();
        let mut to_join = Vec::new();
        for (nth, join) in plan.joins.iter().enumerate() {
            let source = sources.len() + nth;
            let like = LikeRecords { source, longest_cell: plan.longest_cell, hash: plan.hash };
            to_join.push(join.bind(binder, like)?);
        }
        let mut steps = Vec::with_capacity(plan.columns.len());
        let mut hidden = Vec::new();
        let mut by_calendar = Vec::new();
        for column in &plan.columns {
            let (step, met) = binder.meeting_calendars(|binder| binder.add_planned(column));
            steps.push(step);
            hidden.extend((column.written == ColumnWritten::No).then(|| binder.columns.len() - 1));
            by_calendar.push(OfColumn { planned: column, column: binder.columns.len() - 1, met });
        }
        let select = binder.conditions(&plan.select);
        let bounds = binder.bounds(&plan.bounds);
        let compare: Vec<_> = plan.compare.iter().map(|(theirs, ours)| pair(binder, theirs, ours)).collect();
        let control: Vec<_> = plan.control.totals.iter().map(|stated| control(binder, stated)).collect();
        let own_columns = binder.columns.len();
        let output: Vec<_> = match &plan.output_columns {
            OutputColumns::All => {
                (0..own_columns).filter(|column| !hidden.contains(column)).map(Some).collect()
            }
            OutputColumns::Named(names) if names.is_empty() => {
                let expected = "columns = [\"…\"], or no such line to write all";
                let span = plan.output_rows.span.clone();
                binder.mistakes.tell(span, "no columns are to be written", expected);
                Vec::new()
            }
            OutputColumns::Named(names) => names.iter().map(|name| binder.find_to_write(name)).collect(),
            OutputColumns::ProvedAlone => {
                proved_alone(binder, &amounts_of(binder)).into_iter().map(Some).collect()
            }
        };
        binder.written_columns = match &plan.output_columns {
            OutputColumns::Named(_) => output.iter().copied().flatten().collect(),
            OutputColumns::All | OutputColumns::ProvedAlone => {
                (0..own_columns).filter(|column| !hidden.contains(column)).collect()
            }
        };
        let mut views = bind_views(plan, binder, sources.len())?;
        let reports: Vec<_> =
            plan.reports.iter().map(|report| bind_report(binder, report.as_ref())).collect();
        let output: Vec<Option<usize>> =
            output.into_iter().map(|column| Some(binder.written_for(column?, &plan.written))).collect();
        let twins = by_calendar.iter().flat_map(|of| bind_twins(binder, of)).collect();
        let by_rule =
            by_calendar.iter().zip(&steps).flat_map(|(of, step)| by_rule(binder, of, step.as_deref()));
        let by_rule = by_rule.collect();
        views.push(BoundView::of_steps(std::mem::take(&mut binder.hidden_steps)));
        check_summed(binder, plan);
        let amounts = amounts_of(binder);
        let dates_of_file: Vec<usize> = (0..binder.columns_of_file)
            .filter(|nth| matches!(binder.kind(*nth), Kind::Date { .. }))
            .collect();
        let order_by: Vec<_> = plan.order_by.iter().map(|name| read_order(binder, name)).collect();
        let all = (|| {
            Some((
                key.into_iter().collect::<Option<Vec<_>>>()?,
                steps.into_iter().collect::<Option<Vec<_>>>()?,
                select?,
                bounds?,
                compare.into_iter().collect::<Option<Vec<_>>>()?,
                control.into_iter().collect::<Option<Vec<_>>>()?,
                reports.into_iter().collect::<Option<Vec<_>>>()?,
                output.into_iter().collect::<Option<Vec<_>>>()?,
                order_by.into_iter().collect::<Option<Vec<_>>>()?,
            ))
        })();
        binder.finish_typed(&mut written);
        let (as_of, columns_of_file) = (binder.known_as_of(), binder.columns_of_file);
        let figures = binder.figures;
        let Binder { columns, calendars, mistakes, notes, .. } = binder;
        let (mut columns, calendars) = (std::mem::take(columns), std::mem::take(calendars));
        let of_views = columns.split_off(own_columns.min(columns.len()));
        let (mistakes, mut notes) = (std::mem::take(mistakes), std::mem::take(notes));
        let Some((key, steps, select, bounds, compare, control, reports, output, order_by)) =
            all.filter(|_| mistakes.count() == 0)
        else {
            return Err(plan.mistakes(mistakes));
        };
        let files_of_records = sources.len();
        let other_names = Vec::new();
        let layout = Layout {
            columns,
            of_views,
            columns_of_file,
            key,
            written,
            sources,
            files_of_records,
            other_names,
            presentation: plan.output_form.presentation(),
        };
        let to_join = to_join.into_iter().flatten().collect::<Vec<_>>();
        notes.extend(to_join.iter().flat_map(|join: &BoundJoin| join.said().iter().cloned()));
        let other_files = to_join.iter().map(|join| join.other().clone()).collect();
        let setting = Setting { as_of, layout, calendars };
        let (reading, duplicates) = (plan.reading(), plan.duplicates);
        let job = Self {
            setting,
            reading,
            joins: Vec::new(),
            other_files,
            duplicates,
            total_row: plan.total_row,
            sample: 0,
            merged_rows: plan.merged_rows,
            amounts,
            dates_of_file,
            steps,
            twins,
            by_rule,
            said: plan.columns.iter().map(|column| column.said()).collect(),
            figures,
            views: Vec::new(),
            select,
            bounds,
            compare,
            control,
            reports,
            output,
            order_by,
            notes,
            doubts: Vec::new(),
        };
        Ok((job, ToRead { own: to_join, of_views: views }))
    }

    /// Reads the files that columns are joined from, before a row of the records is.
    pub(super) fn read_second_files(
        &mut self,
        to_read: ToRead,
        how: HowRead<'_>,
    ) -> Result<(), RecordsError> {
        for join in to_read.own {
            self.joins.push(join.build(&mut self.setting.layout, how)?);
        }
        for view in to_read.of_views {
            self.views.push(view.build(&mut self.setting.layout, how)?);
        }
        Ok(())
    }

    /// What the bytes of each second file came to, as often as it was read, and those of each calendar file, with its name.
    pub(super) fn read_before_rows(&self) -> Vec<(String, Fingerprint)> {
        let of_views = self.views.iter().flat_map(View::joins);
        let second = self.joins.iter().chain(of_views);
        let second = second.map(|join| (join.other().name.clone(), join.end().fingerprint.clone()));
        let calendars = self.setting.calendars.iter().flat_map(|calendar| &calendar.opened.files);
        let calendars = calendars
            .map(|file| (file.path.display().to_string(), file.fingerprint(HashKind::default()).clone()));
        second.chain(calendars).collect()
    }

    /// Adds the columns that are joined to those of the file.
    pub(super) fn join(
        &self,
        (batch, table): (&Batch, &mut Table),
        (places, exceptions): (&mut [Place], &mut Vec<Exception>),
        tallies: &mut [JoinTally],
    ) -> Result<(), RecordsError> {
        let layout = &self.setting.layout;
        for (join, tally) in self.joins.iter().zip(tallies) {
            join.add_columns(layout, (batch, &mut *table), (&mut *places, &mut *exceptions), Some(tally))?;
        }
        Ok(())
    }

    /// The columns that an added one looks at; of one that is joined those of the key.
    pub(super) fn inputs_of(&self, column: usize) -> Vec<usize> {
        // The columns of the steps come after those that are joined.
        let first = self.setting.layout.columns.len() - self.steps.len();
        match column.checked_sub(first).and_then(|nth| self.steps.get(nth)) {
            Some(step) => step.inputs(),
            None => self.join_of(column).map_or_else(Vec::new, |join| join.key().to_vec()),
        }
    }

    /// Between which dates an added column counts, where it does.
    pub(super) fn counts_between(&self, column: usize) -> Option<CountsBetween> {
        let first = self.setting.layout.columns.len() - self.steps.len();
        column.checked_sub(first).and_then(|nth| self.steps.get(nth)).and_then(|step| step.counts_between())
    }

    /// The join that a column comes from.
    pub(super) fn join_of(&self, column: usize) -> Option<&Join> {
        let mut behind = column.checked_sub(self.setting.layout.columns_of_file)?;
        self.joins.iter().find(|join| {
            let is_of_it = behind < join.columns();
            behind = behind.saturating_sub(join.columns());
            is_of_it
        })
    }

    pub(super) fn name(&self, column: usize) -> &str {
        self.setting.layout.name(column)
    }

    /// The error of a sum that becomes too large to hold at a row.
    pub(super) fn too_large(&self, column: usize, origin: Origin) -> RecordsError {
        let layout = &self.setting.layout;
        RecordsError::too_large(layout.name(column), &layout.place(origin))
    }

    /// The scale of a column of amounts.
    pub(super) fn scale(&self, column: usize) -> Option<Scale> {
        match self.setting.layout.kind(column) {
            Kind::Amount { scale, .. } => Some(*scale),
            _ => None,
        }
    }

    /// The currency of a row's amount; no name where the column has no currencies.
    pub(super) fn currency_in<'t>(&self, column: usize, table: &'t Table, row: usize) -> Cow<'t, str> {
        let currency = self.setting.layout.currency(column);
        currency.map_or_else(Cow::default, |currency| currency_of(table.text(currency, row)))
    }

    /// The columns of the output as they are stored: those of a run over no rows.
    pub(super) fn schema(&self, header: &[String]) -> Result<SchemaRef, RecordsError> {
        let failed = |error: &dyn std::error::Error| RecordsError::Proof { what: error.to_string() };
        let layout = &self.setting.layout;
        let none = BatchBuilder::of_columns(header, Kept::All).take()?;
        let mut exceptions = Vec::new();
        let (mut table, mut places) = Cleaner::new(layout).clean(&none, &mut exceptions);
        let mut tallies = vec![JoinTally::default(); self.joins.len()];
        self.join((&none, &mut table), (&mut places, &mut exceptions), &mut tallies)?;
        let added = add_columns(&self.steps, &self.setting, &none, &mut table, &mut exceptions);
        added.map_err(|error| failed(&error))?;
        for view in &self.views {
            view.add_columns(&self.setting, (&none, &mut table), &places)?;
        }
        table.schema(layout, &self.output).map_err(|error| failed(&error))
    }

    pub(super) fn read_back_state(&self, column: usize) -> ReadBackState {
        let is_written = |column: &usize| self.output.contains(column);
        match self.setting.layout.currency(column) {
            _ if !is_written(&column) => ReadBackState::NotWritten,
            Some(currency) if !is_written(&currency) => ReadBackState::DigitsInTheOutput,
            _ => ReadBackState::InTheOutput,
        }
    }
}

/// The columns of amounts of the file.
fn amounts_of(binder: &Binder<'_>) -> Vec<usize> {
    (0..binder.columns_of_file).filter(|nth| matches!(binder.kind(*nth), Kind::Amount { .. })).collect()
}

/// The columns that the proof reads back: amounts with what names their currencies, or the first column where there are none, so that rows are
/// counted all the same.
fn proved_alone(binder: &Binder<'_>, amounts: &[usize]) -> Vec<usize> {
    let currencies = amounts.iter().filter_map(|amount| binder.currency(*amount));
    let proved: BTreeSet<usize> = amounts.iter().copied().chain(currencies).collect();
    if proved.is_empty() { vec![0] } else { proved.into_iter().collect() }
}

/// A column of the file and one that is added, which hold things of one kind.
fn pair(binder: &mut Binder<'_>, theirs: &At<String>, ours: &At<String>) -> Option<Pair> {
    let (their, our) = (binder.find(theirs), binder.find(ours));
    let (their, our) = (their?, our?);
    if binder.kind(our).decimals().is_some() {
        binder.take_as(their, NumberUse::Figures);
    }
    for (name, is_right, expected) in [
        (theirs, their < binder.columns_of_file, "a column of the file"),
        (ours, our >= binder.columns_of_file, "a column that the plan adds"),
    ] {
        if !is_right {
            let what = format!("\"{}\" is none that is compared here", name.value.escape_debug());
            binder.mistakes.tell(name.span.clone(), what, expected);
            return None;
        }
    }
    let (one, other) = (binder.kind(their), binder.kind(our));
    // Texts are compared with whatever is shown as one.
    let are_texts = |kind: &Kind| matches!(kind, Kind::Text | Kind::Band(_) | Kind::Parts(_));
    if !(one.is_like(other) || are_texts(one) && are_texts(other)) {
        let what = format!(
            "\"{}\" holds {}, and \"{}\" {}",
            theirs.value.escape_debug(),
            one.word(),
            ours.value.escape_debug(),
            other.word()
        );
        binder.mistakes.tell(
            theirs.span.clone(),
            what,
            "a column named under [records.numbers], [records.dates] or [records.amounts], as it is meant",
        );
        return None;
    }
    Some(Pair { theirs: their, ours: our })
}

/// Amounts of the rows of one key are added only where the key tells their currencies apart.
fn check_summed(binder: &mut Binder<'_>, plan: &Plan) {
    if plan.duplicates != Some(Duplicates::Sum) {
        return;
    }
    for amount in &plan.written.amounts {
        let Some(currency) = &amount.currency else { continue };
        if !plan.key.iter().any(|key| key.value.trim() == currency.value.trim()) {
            let what = format!(
                "duplicates = \"sum\" adds the amounts of one key, and they may be of several currencies of \"{}\"",
                currency.value.escape_debug()
            );
            let expected = format!("\"{}\" among the columns of the key", currency.value.escape_debug());
            binder.mistakes.tell(currency.span.clone(), what, expected);
        }
    }
}

/// A stated total, and the column of amounts that it is of.
fn control(binder: &mut Binder<'_>, stated: &ControlOf) -> Option<StatedTotal> {
    let name = &stated.column;
    let column = binder.find(name)?;
    binder.take_as(column, NumberUse::Amounts);
    if !matches!(binder.kind(column), Kind::Amount { .. }) {
        let what =
            format!("\"{}\" holds {}, no amounts", name.value.escape_debug(), binder.kind(column).word());
        binder.mistakes.tell(name.span.clone(), what, "a column named under [records.amounts], or rows");
        return None;
    }
    let word = name.value.escape_debug();
    match (&stated.currency, binder.currency(column)) {
        (None, Some(_)) => {
            let what = format!("\"{word}\" is of several currencies, which have no sum together");
            binder.mistakes.tell(name.span.clone(), what, format!("{word} = {{ EUR = \"125000.00\" }}"));
            None
        }
        (Some(currency), None) => {
            let what = format!("\"{word}\" has no currencies");
            let expected = "currency = \"…\" of the column under [records.amounts], or one total";
            binder.mistakes.tell(currency.span.clone(), what, expected);
            None
        }
        (currency, _) => {
            let currency = currency.as_ref().map(|currency| currency_of(&currency.value).into_owned());
            Some(StatedTotal { column, currency, total: stated.total })
        }
    }
}
