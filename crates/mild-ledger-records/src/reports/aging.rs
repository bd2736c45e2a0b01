//! What is owed, by group and bucket.

use super::{
    BoundReport, Heading, PlannedReport, ProofLine, Report, ReportCell, ReportDetail, ReportKind, ReportRows,
    ReportTable, RowOrder, Tally, counted,
};
use crate::columns::{AsOfDate, Binder, NumberUse};
use crate::error::RecordsError;
use crate::mistakes::{At, Walk};
use crate::table::{BandKind, Gap, Kind, Layout, Origin, Origins, Table};
use mild_ledger::{Date, Invoice, Scale, Standing};
use std::any::Any;
use std::collections::HashMap;
use std::sync::Arc;
use toml::de::DeTable;

/// The bucket behind those without a figure.
const CREDITS: &str = "Credits";

pub(super) const KIND: ReportKind = ReportKind {
    word: "aging",
    gives: "what is owed, by bucket and perhaps by another column",
    title: "Aging",
    keys: &["band", "amount", "issued", "paid", "payments", "by"],
    later: &["credits", "show"],
    read,
    further,
};

/// A group with the amounts of those buckets that have any, since most of many customers owe in one or two.
#[derive(Debug, Clone)]
struct SparseGroup {
    name: String,
    amounts: Vec<(u16, i128)>,
    total: i128,
}

/// Rows of a report that are in no bucket.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
struct RowsApart {
    /// Settled on or before the as-of date.
    settled: u64,
    /// Issued after it.
    not_yet_issued: u64,
    /// Without an amount.
    no_amount: u64,
}

/// What is owed, by group and bucket.
struct Owed {
    by: Option<String>,
    /// The buckets in the order of their edges, then the rows without a figure by their reasons, then credits.
    buckets: Vec<String>,
    groups: Vec<SparseGroup>,
    /// Of all groups, by bucket.
    amounts: Vec<i128>,
    total: i128,
    /// Open rows in each bucket.
    counts: Vec<u64>,
    scale: Scale,
}

impl Owed {
    /// A row a group, or one of all where there are none, with a column a bucket and the total.
    fn table(self, title: &str, shows: String) -> ReportTable {
        let names = usize::from(self.by.is_some());
        let last = names + self.buckets.len();
        let amount = |units: i128| ReportCell::Decimal(self.scale.amount(units));
        let named = |name: &str| (names > 0).then(|| ReportCell::Text(name.to_owned()));
        let amounts = self.amounts.iter().chain([&self.total]).map(|units| amount(*units));
        let total: Vec<ReportCell> = named("Total").into_iter().chain(amounts).collect();
        let counts = self.counts.iter().copied();
        let counts = counts.clone().chain([counts.sum()]).map(ReportCell::count);
        let place = |bucket: usize| u16::try_from(bucket).unwrap_or(u16::MAX);
        let cells = |group: &SparseGroup| {
            let name = (0, ReportCell::Text(group.name.clone()));
            let amounts = group.amounts.iter().map(|(bucket, units)| (bucket + 1, amount(*units)));
            std::iter::once(name).chain(amounts).chain([(place(last), amount(group.total))]).collect()
        };
        let rows = match names {
            0 => ReportRows::from_iter([total.clone()]),
            _ => ReportRows::sparse(vec![amount(0); last + 1], self.groups.iter().map(cells)),
        };
        ReportTable {
            title: title.to_owned(),
            currency: None,
            shows: Some(shows),
            names,
            rows,
            order: RowOrder::LargestFirst,
            total: Some(total),
            sums: Vec::new(),
            further: vec![std::iter::once(ReportCell::Text("Rows".to_owned())).chain(counts).collect()],
            summed: (names..=last).collect(),
            bars: None,
            share_of: Some(last),
            columns: self.by.into_iter().chain(self.buckets).chain(["Total".to_owned()]).collect(),
        }
    }
}

/// Its groups, buckets and counts under names of their own.
fn further(report: &Report) -> Vec<(&'static str, ReportDetail)> {
    let Some(table) = report.tables.first() else { return Vec::new() };
    let last = table.columns.len().saturating_sub(1);
    let cells =
        |cells: &[ReportCell]| ReportDetail::List(cells.iter().cloned().map(ReportDetail::Cell).collect());
    let of_buckets = |row: &[ReportCell]| cells(row.get(table.names..last).unwrap_or_default());
    let cell = |cell: Option<&ReportCell>| ReportDetail::Cell(cell.cloned().unwrap_or(ReportCell::Empty));
    let sums = |row: &[ReportCell]| [("amounts", of_buckets(row)), ("total", cell(row.get(last)))];
    let row = |row: Vec<ReportCell>| {
        let by = cell(row.first().filter(|_| table.names > 0));
        ReportDetail::Named([("by", by)].into_iter().chain(sums(&row)).collect())
    };
    let text = |text: &String| ReportCell::Text(text.clone());
    let made_of =
        |(key, header): &(&'static str, Option<String>)| (*key, cell(header.as_ref().map(text).as_ref()));
    let buckets: Vec<ReportCell> = table.columns.iter().map(text).collect();
    let counts = table.further.first().map_or(&[][..], |row| row.get(1..).unwrap_or_default());
    let mut named: Vec<_> = report.made_of.iter().map(made_of).collect();
    named.extend([
        ("buckets", of_buckets(&buckets)),
        ("rows", ReportDetail::List(table.rows.iter().map(row).collect())),
        ("total", ReportDetail::Named(sums(table.total.as_deref().unwrap_or_default()).into())),
        ("counts", cells(counts.get(..last - table.names.min(last)).unwrap_or_default())),
    ]);
    named
}

/// An aging as the plan says it.
#[derive(Debug)]
struct PlannedAging {
    heading: Heading,
    band: At<String>,
    amount: At<String>,
    issued: Option<At<String>>,
    paid: Option<At<String>>,
    /// What was paid up to the as-of date, taken off the amount.
    payments: Option<At<String>>,
    by: Option<At<String>>,
}

/// An aging bound to its columns.
struct BoundAging {
    title: String,
    band: usize,
    band_kind: BandKind,
    amount: usize,
    scale: Scale,
    issued: Option<usize>,
    paid: Option<usize>,
    payments: Option<Payments>,
    by: Option<usize>,
    as_of: Date,
}

/// A column of what was paid of each invoice up to the as-of date.
#[derive(Debug, Clone, Copy)]
struct Payments {
    column: usize,
    /// By what its units are multiplied to be those of the amounts.
    factor: i128,
}

/// `[[report]]` with `kind = "aging"`.
fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let mut column = |key: &str| table.get(key).and_then(|value| walk.text(value, "the name of a column"));
    let (issued, paid, payments, by) = (column("issued"), column("paid"), column("payments"), column("by"));
    let (band, amount) = (column("band"), column("amount"));
    for (key, value) in [("band", &band), ("amount", &amount)] {
        if value.is_none() && !table.contains_key(key) {
            walk.mistakes.tell(
                heading.span.clone(),
                format!("{key} is missing"),
                format!("{key} = \"…\", the name of a column"),
            );
        }
    }
    if let (Some(_), Some(payments)) = (&paid, &payments) {
        let what = "a date of payment in full and payments of amounts are two ways to be paid";
        walk.mistakes.tell(payments.span.clone(), what, "paid = \"…\" or payments = \"…\"");
        return None;
    }
    Some(Box::new(PlannedAging { heading, band: band?, amount: amount?, issued, paid, payments, by }))
}

impl PlannedReport for PlannedAging {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    /// An aging always stands on a day.
    fn uses_as_of(&self) -> bool {
        true
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let as_of: Option<AsOfDate> = binder.as_of(&self.heading.span);
        let band = binder.find(&self.band);
        let band = match band.map(|band| (band, binder.kind(band).clone())) {
            Some((nth, Kind::Band(band))) => Some((nth, band)),
            Some((nth, kind)) => {
                let in_error = nth >= binder.columns_of_file && matches!(kind, Kind::Text);
                let what =
                    format!("\"{}\" holds {}, not buckets", self.band.value.escape_debug(), kind.word());
                // A column in error holds nothing, and was told of.
                if !in_error || binder.mistakes.count() == 0 {
                    binder.mistakes.tell(self.band.span.clone(), what, "a column made with bucket and edges");
                }
                None
            }
            None => None,
        };
        let amount = binder.find(&self.amount);
        if let Some(amount) = amount {
            binder.take_as(amount, NumberUse::Amounts);
        }
        let scale = match amount.map(|amount| binder.kind(amount).clone()) {
            Some(Kind::Amount { scale, .. }) => Some(scale),
            Some(other) => {
                let what =
                    format!("\"{}\" holds {}, not amounts", self.amount.value.escape_debug(), other.word());
                binder.mistakes.tell(
                    self.amount.span.clone(),
                    what,
                    "a column named under [records.amounts]",
                );
                None
            }
            None => None,
        };
        let mut dates = |name: &Option<At<String>>| match name {
            Some(name) => binder.find_dates(name).map(Some),
            None => Some(None),
        };
        let (issued, paid) = (dates(&self.issued), dates(&self.paid));
        let payments = match (&self.payments, scale) {
            (Some(name), Some(scale)) => Some(bind_payments(binder, name, (amount?, scale))?),
            _ => None,
        };
        let by = match &self.by {
            Some(name) => Some(binder.find(name)?),
            None => None,
        };
        let (as_of, (band, band_kind)) = (as_of?.date, band?);
        let bound = BoundAging {
            title: self.heading.title.replace("{as_of}", &as_of.to_string()),
            band,
            band_kind,
            amount: amount?,
            scale: scale?,
            issued: issued?,
            paid: paid?,
            payments,
            by,
            as_of,
        };
        Some(Box::new(Arc::new(bound)))
    }
}

/// The column of payments, in no more decimals and no other currency than the amounts.
fn bind_payments(
    binder: &mut Binder<'_>,
    name: &At<String>,
    (amount, scale): (usize, Scale),
) -> Option<Payments> {
    let (column, decimals) = binder.find_number(name)?;
    let places = scale.decimals().checked_sub(decimals);
    let factor = places.and_then(|places| 10_i128.checked_pow(places.into()));
    let Some(factor) = factor else {
        let what = format!("\"{}\" has more decimals than the amounts", name.value.escape_debug());
        binder.mistakes.tell(name.span.clone(), what, format!("at most {} decimals", scale.decimals()));
        return None;
    };
    if binder.currency(column).is_some_and(|currency| binder.currency(amount) != Some(currency)) {
        let what = format!("\"{}\" is of other currencies than the amounts", name.value.escape_debug());
        binder.mistakes.tell(name.span.clone(), what, "payments of the currency of the amounts");
        return None;
    }
    Some(Payments { column, factor })
}

impl BoundReport for Arc<BoundAging> {
    fn amounts(&self) -> Vec<usize> {
        vec![self.amount]
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(AgingTotals::new(Arc::clone(self)))
    }
}

/// The sums of one aging report.
struct AgingTotals {
    report: Arc<BoundAging>,
    groups: HashMap<String, Vec<(u16, i128)>>,
    /// By bucket, then by the reason of rows without a figure, then credits.
    counts: Vec<u64>,
    settled: i128,
    /// Taken off what is open, of invoices that are issued.
    taken_off: i128,
    not_yet_issued: i128,
    apart: RowsApart,
    paid_unreadable: u64,
    spaced: u64,
}

impl AgingTotals {
    fn new(report: Arc<BoundAging>) -> Self {
        Self {
            groups: HashMap::new(),
            counts: vec![0; report.bucket_count() + Gap::ALL.len() + 1],
            report,
            settled: 0,
            taken_off: 0,
            not_yet_issued: 0,
            apart: RowsApart::default(),
            paid_unreadable: 0,
            spaced: 0,
        }
    }

    /// Adds a row that is written.
    fn add_row(
        &mut self,
        layout: &Layout,
        table: &Table,
        row: usize,
        origin: Origin,
    ) -> Result<(), RecordsError> {
        let report = &*self.report;
        let Some(units) = table.units(report.amount, row) else {
            self.apart.no_amount += 1;
            return Ok(());
        };
        let too_large = || RecordsError::too_large(layout.name(report.amount), &layout.place(origin));
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(too_large)?;
            Ok(())
        };
        let taken_off = match report.payments {
            Some(Payments { column, factor }) => {
                table.units(column, row).unwrap_or(0).checked_mul(factor).ok_or_else(too_large)?
            }
            None => 0,
        };
        let open = units.checked_sub(taken_off).ok_or_else(too_large)?;
        let invoice = Invoice {
            amount: report.scale.amount(open),
            issued: report.issued.and_then(|column| table.date(column, row)),
            paid: report.paid.and_then(|column| table.date(column, row)),
        };
        let bucket = match invoice.standing_on(report.as_of) {
            Standing::NotYetIssued => {
                self.apart.not_yet_issued += 1;
                return add(&mut self.not_yet_issued, units);
            }
            Standing::Settled => {
                self.apart.settled += 1;
                add(&mut self.taken_off, taken_off)?;
                return add(&mut self.settled, open);
            }
            Standing::Credit => report.bucket_count() + Gap::ALL.len(),
            Standing::Open => match table.order_number(report.band, row).map(usize::try_from) {
                Some(Ok(bucket)) => bucket,
                _ => report.bucket_of_gap(table.gap(report.band, row).unwrap_or(Gap::Blank)),
            },
        };
        add(&mut self.taken_off, taken_off)?;
        let payments = report.payments.map(|payments| payments.column);
        let mut paid = report.paid.into_iter().chain(payments);
        // Payments that have no sum are none that are known, however they came to have none.
        let is_unreadable = paid.any(|column| {
            table.is_unreadable(column, row) || Some(column) == payments && table.is_empty(column, row)
        });
        self.paid_unreadable += u64::from(is_unreadable);
        self.counts[bucket] += 1;
        let name = report.by.map_or_else(Default::default, |column| table.shown(column, row));
        let trimmed = name.trim();
        self.spaced += u64::from(trimmed.len() != name.len());
        let amounts = match self.groups.get_mut(trimmed) {
            Some(amounts) => amounts,
            None => self.groups.entry(trimmed.to_owned()).or_default(),
        };
        let bucket = u16::try_from(bucket).unwrap_or(u16::MAX);
        match amounts.iter_mut().find(|(known, _)| *known == bucket) {
            Some((_, sum)) => add(sum, open),
            None => {
                amounts.push((bucket, open));
                Ok(())
            }
        }
    }

    /// What a reader of the report should know beside its figures.
    fn notes(&self, layout: &Layout) -> Vec<String> {
        let mut notes = Vec::new();
        let open_rows = |count| counted(count, "open row has", "open rows have");
        let paid = self.report.paid.or(self.report.payments.map(|payments| payments.column));
        if let (Some(paid), true) = (paid, self.paid_unreadable > 0) {
            let rows = open_rows(self.paid_unreadable);
            let paid = layout.name(paid);
            notes.push(format!("{rows} a \"{paid}\" that could not be read, and counts as not paid"));
        }
        if let (Some(by), true) = (self.report.by, self.spaced > 0) {
            let rows = open_rows(self.spaced);
            let by = layout.name(by);
            notes.push(format!("{rows} spaces around its \"{by}\", which were left out to group by it"));
        }
        if self.apart.no_amount > 0 {
            let rows = counted(self.apart.no_amount, "row has", "rows have");
            let amount = layout.name(self.report.amount);
            notes.push(format!("{rows} no \"{amount}\" and stands in no bucket"));
        }
        notes
    }

    fn into_report(self, layout: &Layout) -> Result<Report, RecordsError> {
        let notes = self.notes(layout);
        let (scale, column) = (self.report.scale, layout.name(self.report.amount));
        let sum = |units: &[i128]| -> Result<i128, RecordsError> {
            let total = units.iter().try_fold(0_i128, |sum, units| sum.checked_add(*units));
            total.ok_or_else(|| RecordsError::too_large_in_all(column))
        };
        // The buckets of the band, "No date", the other reasons that rows have, and credits.
        let labels = self.report.band_kind.buckets.labels().iter().cloned();
        let (gaps, credits) = (self.report.bucket_count(), self.counts.len() - 1);
        let kept = |nth: usize| !(gaps + 1..credits).contains(&nth) || self.counts[nth] > 0;
        let buckets: Vec<(usize, String)> = labels
            .chain(Gap::ALL.map(|gap| gap.bucket(&self.report.band_kind).to_owned()))
            .chain([CREDITS.to_owned()])
            .enumerate()
            .filter(|(nth, _)| kept(*nth))
            .collect();
        let place_of = |bucket: u16| buckets.iter().position(|(nth, _)| *nth == usize::from(bucket));
        let mut sums = vec![0_i128; buckets.len()];
        let mut groups = Vec::with_capacity(self.groups.len());
        for (name, mut amounts) in self.groups {
            for (bucket, units) in &mut amounts {
                let place = place_of(*bucket).unwrap_or(0);
                *bucket = u16::try_from(place).unwrap_or(u16::MAX);
                sums[place] = sum(&[sums[place], *units])?;
            }
            amounts.sort_unstable();
            let units: Vec<i128> = amounts.iter().map(|(_, units)| *units).collect();
            let total = sum(&units)?;
            groups.push(SparseGroup { name, amounts, total });
        }
        groups.sort_by(|a, b| b.total.cmp(&a.total).then_with(|| a.name.cmp(&b.name)));
        let credits = sums.last().copied().unwrap_or(0);
        let total = sum(&sums)?;
        let in_buckets = total - credits;
        let parts = [
            ("in buckets", in_buckets),
            ("credits", credits),
            match self.report.payments {
                // What is settled by payments has nothing open, and what was paid of it is paid.
                Some(_) => ("paid", self.taken_off),
                None => ("settled", self.settled),
            },
            ("not yet issued", self.not_yet_issued),
        ];
        let parts = parts.map(|(name, units)| (name, scale.amount(units)));
        let amounts_proved = ProofLine::of_amounts(column, parts);
        let amounts_proved = amounts_proved.ok_or_else(|| RecordsError::too_large_in_all(column))?;
        let apart = self.apart;
        let rows_proved = ProofLine::of_rows([
            ("in buckets and credits", self.counts.iter().sum()),
            ("settled", apart.settled),
            ("not yet issued", apart.not_yet_issued),
            ("without an amount", apart.no_amount),
        ]);
        let (band, by) = (layout.name(self.report.band), self.report.by.map(|by| layout.name(by).to_owned()));
        let as_of = self.report.as_of;
        let mut answer = vec![ReportCell::Decimal(scale.amount(total)), ReportCell::Text(" owed".to_owned())];
        if let Some(by) = &by {
            let words = words_of_groups(groups.len(), by);
            let by = ReportCell::Text(" by ".to_owned());
            answer.extend([by, ReportCell::count(groups.len()), ReportCell::Text(words)]);
        }
        answer.push(ReportCell::Text(format!(" as of {as_of}")));
        let paid = match self.report.payments {
            Some(payments) => format!("each amount less its \"{}\"", layout.name(payments.column)),
            None => "paid on or before it is settled".to_owned(),
        };
        let by_group = by.as_ref().map_or_else(String::new, |by| format!(" by {by}"));
        let shows = format!("open {column}{by_group}, in buckets of {band}");
        let made_of =
            [("by", by.clone()), ("amount", Some(column.to_owned())), ("band", Some(band.to_owned()))];
        let owed = Owed {
            by,
            counts: buckets.iter().map(|(nth, _)| self.counts[*nth]).collect(),
            buckets: buckets.into_iter().map(|(_, label)| label).collect(),
            groups,
            amounts: sums,
            total,
            scale,
        };
        Ok(Report {
            kind: KIND.word,
            title: self.report.title.clone(),
            made_of: made_of.into(),
            tables: vec![owed.table(&self.report.title, shows)],
            answer,
            explanation: vec![format!(
                "Open on {as_of}: {paid}, issued after it is set apart. Largest total first; credits are taken off in the total only."
            )],
            proof: vec![amounts_proved, rows_proved],
            notes,
        })
    }
}

impl Tally for AgingTotals {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        rows.iter().try_for_each(|row| self.add_row(layout, table, *row, origins.of(*row)))
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        // Tallies of one report are of one kind.
        let Ok(other) = other.into_any().downcast::<Self>() else { return Ok(()) };
        let column = layout.name(self.report.amount);
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(|| RecordsError::too_large_in_all(column))?;
            Ok(())
        };
        add(&mut self.settled, other.settled)?;
        add(&mut self.taken_off, other.taken_off)?;
        add(&mut self.not_yet_issued, other.not_yet_issued)?;
        self.counts.iter_mut().zip(&other.counts).for_each(|(count, more)| *count += more);
        self.apart.settled += other.apart.settled;
        self.apart.not_yet_issued += other.apart.not_yet_issued;
        self.apart.no_amount += other.apart.no_amount;
        self.paid_unreadable += other.paid_unreadable;
        self.spaced += other.spaced;
        for (name, amounts) in other.groups {
            let sums = self.groups.entry(name).or_default();
            for (bucket, units) in amounts {
                match sums.iter_mut().find(|(known, _)| *known == bucket) {
                    Some((_, sum)) => add(sum, units)?,
                    None => sums.push((bucket, units)),
                }
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

impl BoundAging {
    fn bucket_count(&self) -> usize {
        self.band_kind.buckets.labels().len()
    }

    fn bucket_of_gap(&self, gap: Gap) -> usize {
        self.bucket_count() + Gap::ALL.iter().position(|known| *known == gap).unwrap_or(0)
    }
}

/// ` customers`, of a column of one plain word; ` of "…"` with the column's name as it is otherwise.
fn words_of_groups(count: usize, by: &str) -> String {
    let is_word = by.chars().all(|sign| sign.is_ascii_alphabetic()) && by.len() > 2;
    if !is_word {
        return format!(" of \"{by}\"");
    }
    let word = by.to_ascii_lowercase();
    let before_y = word.strip_suffix('y').filter(|rest| !rest.ends_with(['a', 'e', 'i', 'o', 'u']));
    match (count, before_y) {
        (1, _) => format!(" {word}"),
        (_, Some(rest)) => format!(" {rest}ies"),
        _ if word.ends_with(['s', 'x', 'z']) || word.ends_with("ch") || word.ends_with("sh") => {
            format!(" {word}es")
        }
        _ => format!(" {word}s"),
    }
}
