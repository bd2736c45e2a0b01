//! What is owed of each group by bucket, counted by several at once.

use super::owed::{Owed, SparseGroup, in_order, words_of_groups};
use super::placed_sums::PlacedSums;
use super::{BoundAging, KIND};
use crate::columns::Figures;
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::reports::behind::Behind;
use crate::reports::groups::{ByGroup, Level, MOST_LEVELS, NamedGroups, Places, filled};
use crate::reports::invoices::Stands;
use crate::reports::{
    ProofLine, Report, ReportCell, RowBehind, RowOrder, Tally, counted, key_of, of_one_report,
};
use crate::table::{Layout, Origin, Origins, Table};
use mild_ledger::{CreditsStand, SetOff};
use serde::{Deserialize, Serialize};
use std::any::Any;
use std::collections::HashMap;
use std::sync::Arc;

/// Rows of a report that are in no bucket.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
struct RowsApart {
    /// Settled on or before the as-of date.
    settled: u64,
    /// Issued after it, and nothing paid of them.
    not_yet_issued: u64,
    /// Without an amount.
    no_amount: u64,
}

/// The amounts of those places that have any.
type Amounts = Vec<(u16, i128)>;

/// The sums of one aging report.
pub(super) struct AgingTally {
    report: Arc<BoundAging>,
    /// By the numbers that a group has at each level.
    groups: ByGroup<PlacedSums>,
    places: [Places; MOST_LEVELS],
    /// By bucket, then by the reason of rows without a figure, then credits.
    counts: Vec<u64>,
    settled: i128,
    /// Taken off what is open, of invoices that are issued.
    taken_off: i128,
    not_yet_issued: i128,
    /// Of what is not issued yet, how many rows something was paid of, and how much.
    paid_ahead: (u64, i128),
    apart: RowsApart,
    paid_unreadable: u64,
    /// Open rows with spaces around the name of their group, by level.
    spaced: [u64; MOST_LEVELS],
    behind: Behind,
}

/// Rows whose groups are brought near at once.
const AT_ONCE: usize = 256;

/// What is open of a row, and where.
struct OpenRow {
    row: usize,
    origin: Origin,
    place: u16,
    open: i128,
}

/// What is owed of a group: the debts by place, and what credits took off each.
struct SetOffGroup {
    amounts: Amounts,
    taken: Amounts,
}

fn add_to(amounts: &mut Amounts, place: u16, units: i128) -> Option<()> {
    match amounts.iter_mut().find(|(known, _)| *known == place) {
        Some((_, sum)) => *sum = sum.checked_add(units)?,
        None => amounts.push((place, units)),
    }
    Some(())
}

impl AgingTally {
    pub(super) fn of(report: Arc<BoundAging>) -> Self {
        Self {
            groups: ByGroup::default(),
            places: Default::default(),
            counts: vec![0; report.invoices.places()],
            report,
            settled: 0,
            taken_off: 0,
            not_yet_issued: 0,
            paid_ahead: (0, 0),
            apart: RowsApart::default(),
            paid_unreadable: 0,
            spaced: [0; MOST_LEVELS],
            behind: Behind::default(),
        }
    }

    /// Takes a row that is written in; where it is open, what of it is in which place.
    fn take_row(
        &mut self,
        report: &BoundAging,
        (layout, table): (&Layout, &Table),
        row: usize,
        origin: Origin,
    ) -> Result<Option<OpenRow>, RecordsError> {
        let (invoices, credits) = (&report.invoices, &report.credits);
        let Some(seen) = invoices.seen(layout, table, row, origin)? else {
            self.apart.no_amount += 1;
            return Ok(None);
        };
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(|| invoices.too_large(layout, origin))?;
            Ok(())
        };
        let open = invoices.balance(&seen, layout, origin)?;
        let mut taken_off = seen.taken_off;
        let place = match seen.stands {
            Stands::NotYetIssued => {
                add(&mut self.not_yet_issued, seen.units)?;
                if seen.paid_ahead == 0 {
                    self.apart.not_yet_issued += 1;
                    return Ok(None);
                }
                self.paid_ahead.0 += 1;
                add(&mut self.paid_ahead.1, seen.paid_ahead)?;
                if invoices.payments.is_none() {
                    add(&mut self.settled, seen.paid_ahead)?;
                    taken_off = 0;
                }
                match credits.stand {
                    CreditsStand::ByDueDate => invoices.place_in_band(table, row),
                    CreditsStand::Apart | CreditsStand::OffOldestDebt => invoices.credits(),
                }
            }
            Stands::Settled => {
                self.apart.settled += 1;
                add(&mut self.taken_off, seen.taken_off)?;
                return add(&mut self.settled, seen.open).map(|()| None);
            }
            Stands::In(place) if place == invoices.credits() && credits.stand == CreditsStand::ByDueDate => {
                invoices.place_in_band(table, row)
            }
            Stands::In(place) => place,
        };
        add(&mut self.taken_off, taken_off)?;
        self.paid_unreadable += u64::from(invoices.is_payment_unreadable(table, row));
        self.counts[place] += 1;
        for (level, spaced) in credits.levels.iter().zip(&mut self.spaced) {
            if let Some(column) = level.column().filter(|_| !level.has_an_order()) {
                let shown = table.shown(column, row);
                *spaced += u64::from(shown.trim().len() != shown.len());
            }
        }
        let place = u16::try_from(place).unwrap_or(u16::MAX);
        Ok(Some(OpenRow { row, origin, place, open }))
    }

    /// What a reader of the report should know besides its figures.
    fn notes(&self, layout: &Layout) -> Vec<String> {
        let mut notes = Vec::new();
        let open_rows = |count| counted(count, "open row has", "open rows have");
        if let (Some(paid), true) = (self.report.invoices.paid_by(), self.paid_unreadable > 0) {
            let rows = open_rows(self.paid_unreadable);
            let paid = layout.name(paid);
            notes.push(format!("{rows} a \"{paid}\" that could not be read, and counts as not paid"));
        }
        for (level, spaced) in self.report.credits.levels.iter().zip(self.spaced) {
            if spaced > 0 {
                let (rows, by) = (open_rows(spaced), &level.name);
                notes.push(format!("{rows} spaces around its \"{by}\", which were left out to group by it"));
            }
        }
        if self.paid_ahead.0 > 0 {
            let rows = counted(
                self.paid_ahead.0,
                "row was paid ahead: it is issued after the as-of date",
                "rows were paid ahead: they are issued after the as-of date",
            );
            let amount = layout.presentation.amount(self.report.invoices.scale.amount(self.paid_ahead.1));
            notes.push(format!("{rows}, and the {amount} paid is a credit until then"));
        }
        if self.apart.no_amount > 0 {
            let rows = counted(self.apart.no_amount, "row has", "rows have");
            let amount = layout.name(self.report.invoices.amount);
            notes.push(format!("{rows} no \"{amount}\" and no bucket"));
        }
        notes
    }

    /// What is owed of each group of the table after credits were set off, as the plan says. `None` where a sum is too large to hold.
    fn set_off(&mut self) -> Option<NamedGroups<SetOffGroup>> {
        let report = Arc::clone(&self.report);
        let credits = &report.credits;
        let groups = std::mem::take(&mut self.groups);
        let mut shown: HashMap<[u32; MOST_LEVELS], SetOffGroup> = HashMap::new();
        for (mut group, sums) in groups {
            let mut amounts = sums.all();
            group.iter_mut().skip(credits.shown).for_each(|number| *number = 0);
            let taken = match credits.stand {
                CreditsStand::OffOldestDebt => self.taken_off_debts(&mut amounts)?,
                CreditsStand::Apart | CreditsStand::ByDueDate => Vec::new(),
            };
            match shown.get_mut(&group) {
                Some(known) => {
                    amounts
                        .iter()
                        .try_for_each(|(place, units)| add_to(&mut known.amounts, *place, *units))?;
                    taken.iter().try_for_each(|(place, units)| add_to(&mut known.taken, *place, *units))?;
                }
                None => {
                    shown.insert(group, SetOffGroup { amounts, taken });
                }
            }
        }
        Some(Places::named_groups(&self.places, credits.shown, shown))
    }

    /// Takes the credits of a group off its debts, the oldest first and those of no known age last: what that took off each place.
    fn taken_off_debts(&self, amounts: &mut Amounts) -> Option<Amounts> {
        let invoices = &self.report.invoices;
        let credits_place = u16::try_from(invoices.credits()).ok()?;
        let credits =
            amounts.iter().find(|(place, _)| *place == credits_place).map_or(0, |(_, units)| *units);
        if credits == 0 {
            return Some(Vec::new());
        }
        let mut debts: Vec<(u16, i128)> =
            amounts.iter().copied().filter(|(place, _)| *place != credits_place).collect();
        // A reason for having no bucket says nothing of the age.
        debts.sort_by_key(|(place, _)| (usize::from(*place) < invoices.buckets(), *place));
        let amount = |units: i128| invoices.scale.amount(units);
        let given: Vec<_> = debts.iter().map(|(_, units)| amount(*units)).collect();
        let after = SetOff::oldest_first(&given, amount(credits)).ok()?;
        let zero = amount(0);
        let left = |decimal: &mild_ledger::Decimal| decimal.checked_add(zero).map(|decimal| decimal.units());
        let mut taken = Vec::new();
        for ((place, before), left_of_it) in debts.iter().zip(&after.debts) {
            let left = left(left_of_it)?;
            if let Some((_, units)) = amounts.iter_mut().find(|(known, _)| known == place) {
                *units = left;
            }
            taken.push((*place, left.checked_sub(*before)?));
        }
        let left = left(&after.credits)?;
        if let Some((_, units)) = amounts.iter_mut().find(|(place, _)| *place == credits_place) {
            *units = left;
        }
        taken.push((credits_place, left.checked_sub(credits)?));
        taken.retain(|(_, units)| *units != 0);
        Some(taken)
    }

    fn into_report(mut self, layout: &Layout) -> Result<Report, RecordsError> {
        let mut notes = self.notes(layout);
        let report = Arc::clone(&self.report);
        let (invoices, credits) = (&report.invoices, &report.credits);
        let (scale, column) = (invoices.scale, layout.name(invoices.amount));
        let too_large = || RecordsError::too_large_in_all(column);
        let mut named = self.set_off().ok_or_else(too_large)?;
        let levels = credits.levels.get(..credits.shown).unwrap_or_default();
        notes.extend(fill(&mut named, levels));
        let mut buckets = invoices.labels(|place| self.counts[place] > 0);
        if credits.stand == CreditsStand::ByDueDate {
            buckets.retain(|(place, _)| *place != invoices.credits());
        }
        let column_of = |place: u16| {
            let found = buckets.iter().position(|(nth, _)| *nth == usize::from(place));
            found.and_then(|column| u16::try_from(column).ok()).unwrap_or(u16::MAX)
        };
        let mut sums = vec![0_i128; buckets.len()];
        let mut taken: HashMap<(Vec<String>, u16), i128> = HashMap::new();
        let mut placed: NamedGroups<(Amounts, i128)> = NamedGroups::new();
        for (keys, (labels, mut group)) in named {
            let mut total = 0_i128;
            for (place, units) in &mut group.amounts {
                *place = column_of(*place);
                let sum = sums.get_mut(usize::from(*place)).ok_or_else(too_large)?;
                *sum = sum.checked_add(*units).ok_or_else(too_large)?;
                total = total.checked_add(*units).ok_or_else(too_large)?;
            }
            group.amounts.sort_unstable();
            let of_cells = group.taken.iter();
            taken.extend(of_cells.map(|(place, units)| ((labels.clone(), column_of(*place)), *units)));
            placed.insert(keys, (labels, (group.amounts, total)));
        }
        let groups = in_order(placed, levels, column)?;
        let order = match levels {
            [level] if !level.has_an_order() => RowOrder::LargestFirst,
            _ => RowOrder::OfNames,
        };
        let behind = std::mem::take(&mut self.behind);
        let behind = open_cells(behind, layout, (&report, &groups), &buckets, &taken, &mut notes);
        let total =
            sums.iter().try_fold(0_i128, |sum, units| sum.checked_add(*units)).ok_or_else(too_large)?;
        let by: Vec<String> = levels.iter().map(|level| level.name.clone()).collect();
        // Where nothing tells what was paid, the amounts are invoiced and may no longer be owed.
        let is_paid_known = invoices.paid.is_some() || invoices.payments.is_some();
        let (word, to_whom) = if is_paid_known { (" owed", "by") } else { (" invoiced", "to") };
        let mut answer = vec![ReportCell::Decimal(scale.amount(total)), ReportCell::Text(word.to_owned())];
        if !by.is_empty() {
            answer.extend(words_of_groups(&groups, &by, to_whom));
        }
        answer.extend([ReportCell::Text(" as of ".to_owned()), ReportCell::Date(invoices.as_of)]);
        let band = layout.name(invoices.band);
        let names = (!by.is_empty()).then(|| by.join(", "));
        let by_group = names.as_ref().map_or_else(String::new, |by| format!(" by {by}"));
        let shows = format!("open {column}{by_group}, in buckets of {band}");
        let proof = self.proof(column, &sums, &buckets, total).ok_or_else(too_large)?;
        let explanation = vec![self.explanation(layout, order)];
        let made_of = [("by", names), ("amount", Some(column.to_owned())), ("band", Some(band.to_owned()))];
        let owed = Owed {
            by,
            counts: buckets.iter().map(|(nth, _)| self.counts[*nth]).collect(),
            with_edges: invoices.buckets(),
            buckets: buckets.into_iter().map(|(_, label)| label).collect(),
            groups,
            order,
            amounts: sums,
            total,
            scale,
        };
        Ok(Report {
            kind: KIND.word,
            title: report.title.clone(),
            seen_from: Vec::new(),
            behind,
            made_of: made_of.into(),
            tables: vec![owed.table(&report.title, shows, levels).ok_or_else(too_large)?],
            answer,
            explanation,
            proof,
            notes,
        })
    }

    /// The parts of the rows written; `None` where a sum is too large to hold.
    fn proof(
        &self,
        column: &str,
        sums: &[i128],
        buckets: &[(usize, String)],
        total: i128,
    ) -> Option<Vec<ProofLine>> {
        let invoices = &self.report.invoices;
        let credits = buckets.iter().zip(sums).find(|((place, _), _)| *place == invoices.credits());
        let credits = credits.map(|(_, units)| *units);
        let parts = [
            Some(("in buckets", total.checked_sub(credits.unwrap_or(0))?)),
            credits.map(|units| ("credits", units)),
            Some(match invoices.payments {
                // What is settled by payments has nothing open, and what was paid of it is paid.
                Some(_) => ("paid", self.taken_off),
                None => ("settled", self.settled),
            }),
            Some(("not yet issued", self.not_yet_issued)),
        ];
        let parts = parts.into_iter().flatten().map(|(name, units)| (name, invoices.scale.amount(units)));
        let amounts = ProofLine::of_amounts(column, parts)?;
        let apart = self.apart;
        let rows = ProofLine::of_rows([
            (
                if credits.is_some() { "in buckets and credits" } else { "in buckets" },
                self.counts.iter().sum(),
            ),
            ("settled", apart.settled),
            ("not yet issued", apart.not_yet_issued),
            ("without an amount", apart.no_amount),
        ]);
        Some(vec![amounts, rows])
    }

    /// How to read the figures: a sentence for each rule that this report applies.
    fn explanation(&self, layout: &Layout, order: RowOrder) -> String {
        let (invoices, credits) = (&self.report.invoices, &self.report.credits);
        let paid = match (invoices.payments, invoices.paid) {
            (Some(payments), _) => {
                Some(format!("Each amount is reduced by its \"{}\".", layout.name(payments.column)))
            }
            (None, Some(paid)) => {
                Some(format!("Rows with \"{}\" on or before the as-of date are settled.", layout.name(paid)))
            }
            (None, None) => None,
        };
        let issued = invoices.issued.map(|issued| {
            format!("Rows with \"{}\" after the as-of date are set apart.", layout.name(issued))
        });
        let order = match order {
            RowOrder::LargestFirst => Some("The largest total comes first.".to_owned()),
            RowOrder::OfNames => None,
        };
        let credits = match (credits.stand, &credits.of) {
            (CreditsStand::ByDueDate, _) => "Credits reduce the bucket of their own date.".to_owned(),
            (CreditsStand::OffOldestDebt, Some(of)) => format!(
                "Credits reduce the debts of the same \"{of}\" in each line, those of the last bucket first. The rest of a credit \
                 reduces the total only."
            ),
            _ => "Credits reduce the total only.".to_owned(),
        };
        let all: Vec<String> = paid.into_iter().chain(issued).chain(order).chain([credits]).collect();
        all.join(" ")
    }
}

/// Adds the groups that there are though no row is in them: all buckets and periods of a level. A note says where these are too many.
fn fill(named: &mut NamedGroups<SetOffGroup>, levels: &[Level]) -> Option<String> {
    if !levels.iter().any(Level::has_an_order) {
        return None;
    }
    let known = named.iter().map(|(keys, (labels, _))| (keys.clone(), labels.clone())).collect();
    match filled(levels, &known) {
        Err(note) => Some(note),
        Ok(paths) => {
            for (keys, labels) in paths {
                let nothing = SetOffGroup { amounts: Vec::new(), taken: Vec::new() };
                named.entry(keys).or_insert((labels, nothing));
            }
            None
        }
    }
}

/// The rows of each cell of the table, and next to them what credits took off.
fn open_cells(
    behind: Behind,
    layout: &Layout,
    (report, groups): (&BoundAging, &[SparseGroup]),
    buckets: &[(usize, String)],
    taken: &HashMap<(Vec<String>, u16), i128>,
    notes: &mut Vec<String>,
) -> Vec<crate::reports::RowsBehind> {
    let amount = |units: i128| ReportCell::Decimal(report.invoices.scale.amount(units));
    let order: HashMap<&[String], usize> =
        groups.iter().enumerate().map(|(nth, group)| (group.labels.as_slice(), nth)).collect();
    let place = |row: &[String]| order.get(row).copied();
    let (mut cells, too_many) = behind.finish(layout, report.invoices.scale, place, buckets);
    notes.extend(too_many);
    for cell in &mut cells {
        let group = place(&cell.row).and_then(|nth| groups.get(nth));
        let column = buckets.iter().position(|(_, label)| *label == cell.column);
        let column = column.and_then(|column| u16::try_from(column).ok());
        let (Some(group), Some(column)) = (group, column) else { continue };
        if let Some((_, units)) = group.amounts.iter().find(|(place, _)| *place == column) {
            cell.figure = amount(*units);
        }
        if let Some(units) = taken.get(&(group.labels.clone(), column)) {
            let said = if *units < 0 { "credits taken off" } else { "taken off debts" };
            cell.besides =
                Some(RowBehind { key: said.to_owned(), place: String::new(), part: amount(*units) });
        }
    }
    cells
}

handed_over!(AgingTally: groups, places, counts, settled, taken_off, not_yet_issued, paid_ahead, apart, paid_unreadable, spaced, behind; known: report);

impl Tally for AgingTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let report = Arc::clone(&self.report);
        let mut open = Vec::with_capacity(rows.len());
        for row in rows {
            open.extend(self.take_row(&report, (layout, table), *row, origins.of(*row))?);
        }
        // One thing after the other of all rows, so that no one waits for memory row by row.
        let rows: Vec<usize> = open.iter().map(|row| row.row).collect();
        let groups = Places::of_rows(&mut self.places, &report.credits.levels, table, &rows);
        for (groups, rows) in groups.chunks(AT_ONCE).zip(open.chunks(AT_ONCE)) {
            self.groups.bring_near(groups, PlacedSums::near);
            for (group, row) in groups.iter().zip(rows) {
                let sums = self.groups.of(*group, Default::default);
                let too_large = || report.invoices.too_large(layout, row.origin);
                sums.add(row.place, row.open).ok_or_else(too_large)?;
            }
        }
        if report.figures == Figures::Opened {
            for (group, row) in groups.iter().zip(&open) {
                let key = || key_of(layout, table, row.row);
                let named = group.iter().zip(&self.places).take(report.credits.shown);
                let names = named.filter_map(|(number, known)| known.named(*number)).map(|(_, label)| label);
                self.behind.add((names.cloned().collect(), row.place), row.origin, key, row.open);
            }
        }
        Ok(())
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        let other = of_one_report::<Self>(other)?;
        let column = layout.name(self.report.invoices.amount);
        let too_large = || RecordsError::too_large_in_all(column);
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(too_large)?;
            Ok(())
        };
        add(&mut self.settled, other.settled)?;
        add(&mut self.taken_off, other.taken_off)?;
        add(&mut self.not_yet_issued, other.not_yet_issued)?;
        add(&mut self.paid_ahead.1, other.paid_ahead.1)?;
        self.paid_ahead.0 += other.paid_ahead.0;
        self.counts.iter_mut().zip(&other.counts).for_each(|(count, more)| *count += more);
        self.spaced.iter_mut().zip(&other.spaced).for_each(|(count, more)| *count += more);
        self.apart.settled += other.apart.settled;
        self.apart.not_yet_issued += other.apart.not_yet_issued;
        self.apart.no_amount += other.apart.no_amount;
        self.paid_unreadable += other.paid_unreadable;
        self.behind.merge(other.behind);
        let levels = self.report.credits.levels.len();
        for (group, theirs) in other.groups {
            let own = Places::own_of(&mut self.places, &other.places, group, levels);
            let sums = self.groups.of(own, Default::default);
            for (place, units) in theirs.all() {
                sums.add(place, units).ok_or_else(too_large)?;
            }
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
