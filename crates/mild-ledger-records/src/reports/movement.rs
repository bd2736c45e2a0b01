//! What moved between two dates: from bucket to bucket, new, paid and credited.

use super::invoices::{Invoices, OnTwoDates, Seen, Stands};
use super::{
    BoundReport, Heading, Leads, PlannedReport, ProofLine, Report, ReportCell, ReportKind, ReportRows,
    ReportTable, TableRank, Tally, counted, of_one_report,
};
use crate::columns::Binder;
use crate::error::RecordsError;
use crate::handover::handed_over;
use crate::mistakes::Walk;
use crate::table::{Layout, Origin, Origins, Table};
use mild_ledger::{
    BucketMovement, Date, Decimal, MovedFrom, MovedTo, Movement, Position, Quotient, Rounding,
};
use serde::{Deserialize, Serialize};
use std::any::Any;
use std::sync::Arc;
use toml::de::DeTable;

pub(super) const KIND: ReportKind = ReportKind {
    word: "movement",
    gives: "what moved between buckets from an earlier date to the as-of date, new, paid and credited",
    title: "Movement",
    keys: &["since", "band", "amount", "issued", "paid", "payments"],
    read,
    further: |_| Vec::new(),
};

/// A movement as the plan says it.
#[derive(Debug)]
struct PlannedMovement {
    heading: Heading,
    invoices: OnTwoDates,
}

/// A movement between the columns as they are seen from two dates.
struct BoundMovement {
    title: String,
    opening: Invoices,
    closing: Invoices,
    nothing: Movement,
}

fn read(walk: &mut Walk, table: &DeTable, heading: Heading) -> Option<Box<dyn PlannedReport>> {
    let invoices = OnTwoDates::read(walk, table, &heading)?;
    Some(Box::new(PlannedMovement { heading, invoices }))
}

impl PlannedReport for PlannedMovement {
    fn heading(&self) -> &Heading {
        &self.heading
    }

    fn uses_as_of(&self) -> bool {
        true
    }

    fn other_dates(&self, binder: &mut Binder<'_>) -> Vec<Date> {
        self.invoices.other_dates(&self.heading, binder)
    }

    fn bind(&self, binder: &mut Binder<'_>) -> Option<Box<dyn BoundReport>> {
        let [opening, closing] = self.invoices.bind(binder, &self.heading)?;
        let nothing = match Movement::of(closing.credits()) {
            Ok(nothing) => nothing,
            Err(error) => {
                binder.mistakes.tell(self.heading.span.clone(), error.what(), error.allowed());
                return None;
            }
        };
        let title = self.heading.title_in(binder);
        Some(Box::new(Arc::new(BoundMovement { title, opening, closing, nothing })))
    }
}

impl BoundReport for Arc<BoundMovement> {
    fn amounts(&self) -> Vec<usize> {
        vec![self.closing.amount]
    }

    fn tally(&self) -> Box<dyn Tally> {
        Box::new(MovementTally {
            movement: self.nothing.clone(),
            has_rows: vec![false; self.closing.places()],
            open: [0; 2],
            paid_before: 0,
            not_yet_issued: 0,
            rows: RowsOfMovement::default(),
            paid_unreadable: 0,
            report: Arc::clone(self),
        })
    }
}

/// Rows by what they are in a movement.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize)]
struct RowsOfMovement {
    /// Open on one of the dates, or issued between them.
    moved: u64,
    settled_before: u64,
    not_yet_issued: u64,
    no_amount: u64,
}

/// The movement of the rows so far, and the sums that it is held against.
struct MovementTally {
    report: Arc<BoundMovement>,
    movement: Movement,
    /// Whether a row was in each place on one of the dates.
    has_rows: Vec<bool>,
    /// What is open on the earlier date and on the later one.
    open: [i128; 2],
    paid_before: i128,
    not_yet_issued: i128,
    rows: RowsOfMovement,
    paid_unreadable: u64,
}

impl MovementTally {
    fn add_row(
        &mut self,
        report: &BoundMovement,
        (layout, table): (&Layout, &Table),
        row: usize,
        origin: Origin,
    ) -> Result<(), RecordsError> {
        let seen = (
            report.opening.seen(layout, table, row, origin)?,
            report.closing.seen(layout, table, row, origin)?,
        );
        let (Some(opening), Some(closing)) = seen else {
            self.rows.no_amount += 1;
            return Ok(());
        };
        let too_large = || report.closing.too_large(layout, origin);
        let add = |sum: &mut i128, units: i128| -> Result<(), RecordsError> {
            *sum = sum.checked_add(units).ok_or_else(too_large)?;
            Ok(())
        };
        let amount = |units: i128| report.closing.scale.amount(units);
        let balance = |seen: &Seen| report.closing.balance(seen, layout, origin);
        let balances = [balance(&opening)?, balance(&closing)?];
        for ((sum, seen), units) in self.open.iter_mut().zip([opening, closing]).zip(balances) {
            add(sum, units)?;
            if let Stands::In(place) = seen.stands {
                self.has_rows[place] = true;
            }
        }
        // What was paid ahead of the issue is a credit of its own, which is used up when the invoice is issued.
        if opening.paid_ahead != 0 || closing.paid_ahead != 0 {
            add(&mut self.paid_before, opening.paid_ahead)?;
            let credit = |seen: &Seen, open: i128| match seen.paid_ahead {
                0 => Position::Settled,
                _ => Position::Credit { open: amount(open) },
            };
            let ends = (credit(&opening, balances[0]), credit(&closing, balances[1]));
            self.movement.add(amount(0), ends.0, ends.1).map_err(|_| too_large())?;
        }
        if closing.stands == Stands::NotYetIssued {
            self.rows.not_yet_issued += 1;
            return add(&mut self.not_yet_issued, closing.units);
        }
        let stood = match opening.stands {
            Stands::In(_) => opening.open,
            Stands::Settled => 0,
            Stands::NotYetIssued => opening.units,
        };
        add(&mut self.paid_before, opening.units.checked_sub(stood).ok_or_else(too_large)?)?;
        match (opening.stands, closing.stands) {
            (Stands::Settled, Stands::Settled) => self.rows.settled_before += 1,
            _ => self.rows.moved += 1,
        }
        if matches!(closing.stands, Stands::In(_)) {
            self.paid_unreadable += u64::from(report.closing.is_payment_unreadable(table, row));
        }
        let position = |stands: Stands, open: i128| match stands {
            Stands::NotYetIssued => Position::NotYetIssued,
            Stands::Settled => Position::Settled,
            Stands::In(place) if place == report.closing.credits() => Position::Credit { open: amount(open) },
            Stands::In(bucket) => Position::Open { bucket, open: amount(open) },
        };
        let (from, to) = (position(opening.stands, opening.open), position(closing.stands, closing.open));
        self.movement.add(amount(closing.units), from, to).map_err(|_| too_large())
    }

    fn into_report(self, layout: &Layout) -> Result<Report, RecordsError> {
        let (opening, closing) = (&self.report.opening, &self.report.closing);
        let column = layout.name(closing.amount);
        let too_large = || RecordsError::too_large_in_all(column);
        let total = self.movement.total().map_err(|_| too_large())?;
        self.check(&total)?;
        let places = closing.labels(|place| self.has_rows[place]);
        let [first, last] = [opening.as_of, closing.as_of].map(|date| layout.presentation.date(date));
        let band = layout.name(closing.band);
        let lines = self.lines(&places, total, band).ok_or_else(too_large)?;
        let matrix = self.matrix(&places, total, band).ok_or_else(too_large)?;
        let amount = |units: i128| closing.scale.amount(units);
        let amounts = ProofLine::of_amounts(
            column,
            [
                ("open", total.closing),
                ("paid since", total.paid),
                ("paid before", amount(self.paid_before)),
                ("not yet issued", amount(self.not_yet_issued)),
            ],
        );
        let rows = ProofLine::of_rows([
            ("in the movement", self.rows.moved),
            ("settled before", self.rows.settled_before),
            ("not yet issued", self.rows.not_yet_issued),
            ("without an amount", self.rows.no_amount),
        ]);
        let mut notes = Vec::new();
        if let (Some(paid), true) = (closing.paid_by(), self.paid_unreadable > 0) {
            let rows = counted(self.paid_unreadable, "open row has", "open rows have");
            let paid = layout.name(paid);
            notes.push(format!("{rows} a \"{paid}\" that could not be read, and counts as not paid"));
        }
        if self.rows.no_amount > 0 {
            let rows = counted(self.rows.no_amount, "row has", "rows have");
            notes.push(format!("{rows} no \"{column}\" and did not move"));
        }
        let text = |text: String| ReportCell::Text(text);
        let total = in_decimals(&total, closing.scale.decimals()).ok_or_else(too_large)?;
        let answer = vec![
            ReportCell::Decimal(total.opening),
            text(format!(" open on {first}, ")),
            ReportCell::Decimal(total.new),
            text(" new, ".to_owned()),
            ReportCell::Decimal(total.credited),
            text(" credited, ".to_owned()),
            ReportCell::Decimal(total.paid),
            text(" paid, ".to_owned()),
            ReportCell::Decimal(total.closing),
            text(format!(" open on {last}")),
        ];
        let table = |rank: TableRank, (columns, rows, total, summed): Parts, shows: String| ReportTable {
            title: self.report.title.clone(),
            rank,
            shows: Some(shows),
            columns,
            names: 1,
            rows: ReportRows::from_iter(rows),
            total: Some(total),
            summed,
            // Opening, new, credited, paid and closing.
            leads: (rank == TableRank::First).then(|| Leads {
                from: 1,
                more: vec![2, 3],
                less: vec![6],
                to: 7,
            }),
            ..ReportTable::default()
        };
        Ok(Report {
            kind: KIND.word,
            title: self.report.title.clone(),
            made_of: Vec::new(),
            seen_from: Vec::new(),
            behind: Vec::new(),
            tables: vec![
                table(TableRank::First, lines, format!("open {column} from {first} to {last}, by {band}")),
                table(TableRank::Further, matrix, format!("open {column} of {first} down, and where it is on {last} across")),
            ],
            answer,
            explanation: vec![
                "Opening + new + credited + rolled in − rolled on − paid = closing. Paid is all that was paid since, less what was taken back; credits that were used up count below zero.".to_owned(),
                "The rate is the part of the opening that rolled on to other buckets; there is none where nothing was open.".to_owned(),
            ],
            proof: vec![amounts.ok_or_else(too_large)?, rows],
            notes,
        })
    }

    /// The ends of the movement are the sums of what is open on the two dates, and what lies between leads from one to the other.
    fn check(&self, total: &BucketMovement) -> Result<(), RecordsError> {
        let scale = self.report.closing.scale;
        let closes = || {
            let moved = total.opening.checked_add(total.new)?.checked_add(total.credited)?;
            moved.checked_sub(total.paid).map(|closing| closing == total.closing)
        };
        let ends = [total.opening, total.closing] == self.open.map(|units| scale.amount(units));
        if ends && closes() == Some(true) && total.rolled_in == total.rolled_on {
            return Ok(());
        }
        let what = format!(
            "the movement of \"{}\" leads from {} to {}, and {} and {} are open",
            self.report.title.escape_debug(),
            total.opening,
            total.closing,
            scale.amount(self.open[0]),
            scale.amount(self.open[1]),
        );
        Err(RecordsError::Proof { what })
    }

    /// A line a bucket: from its opening to its closing.
    fn lines(&self, places: &[(usize, String)], total: BucketMovement, band: &str) -> Option<Parts> {
        const COLUMNS: [&str; 8] =
            ["Opening", "New", "Credited", "Rolled in", "Rolled on", "Paid", "Closing", "Rate, %"];
        let columns = std::iter::once(band).chain(COLUMNS).map(str::to_owned).collect();
        let mut rows = Vec::with_capacity(places.len() + 1);
        for (place, label) in places {
            rows.push(cells(label, &self.line(*place)?, HasRate::Yes, self.decimals())?);
        }
        rows.push(cells(
            "Issued and paid",
            &self.movement.issued_and_paid().ok()?,
            HasRate::No,
            self.decimals(),
        )?);
        Some((
            columns,
            rows,
            cells("Total", &total, HasRate::No, self.decimals())?,
            (1..COLUMNS.len()).collect(),
        ))
    }

    fn line(&self, place: usize) -> Option<BucketMovement> {
        match place == self.report.closing.credits() {
            true => self.movement.credits().ok(),
            false => self.movement.bucket(place).ok(),
        }
    }

    /// A line for each place that amounts come from, and a column for each that they are in now.
    fn matrix(&self, places: &[(usize, String)], total: BucketMovement, band: &str) -> Option<Parts> {
        let credits = self.report.closing.credits();
        let from =
            |place: usize| if place == credits { MovedFrom::Credits } else { MovedFrom::Bucket(place) };
        let to = |place: usize| if place == credits { MovedTo::Credits } else { MovedTo::Bucket(place) };
        let labels = places.iter().map(|(_, label)| label.clone());
        let columns =
            std::iter::once(band.to_owned()).chain(labels).chain(["Paid", "Total"].map(str::to_owned));
        let of_places = places.iter().map(|(place, label)| (label.as_str(), from(*place)));
        let others = [
            ("New", MovedFrom::New),
            ("Credited", MovedFrom::Credited),
            ("Nothing open", MovedFrom::NothingOpen),
        ];
        let mut rows = Vec::new();
        for (label, from) in of_places.chain(others) {
            let reached = places.iter().map(|(place, _)| to(*place)).chain([MovedTo::Paid]);
            let parts: Vec<Decimal> = reached.map(|to| self.movement.moved(from, to)).collect();
            let is_empty = parts.iter().all(|part| *part == Decimal::ZERO);
            // What had nothing open and still has is not worth a line.
            if is_empty && from == MovedFrom::NothingOpen {
                continue;
            }
            rows.push(in_scale(
                label,
                &parts,
                Decimal::checked_sum(parts.iter().copied())?,
                self.decimals(),
            )?);
        }
        let mut closing = Vec::with_capacity(places.len() + 1);
        for (place, _) in places {
            closing.push(self.line(*place)?.closing);
        }
        closing.push(total.paid);
        let all = Decimal::checked_sum(closing.iter().copied())?;
        let columns: Vec<String> = columns.collect();
        let summed = (1..columns.len()).collect();
        Some((columns, rows, in_scale("Total", &closing, all, self.decimals())?, summed))
    }

    fn decimals(&self) -> u8 {
        self.report.closing.scale.decimals()
    }
}

/// The columns of a table, its rows, their total, and the columns that sum to it.
type Parts = (Vec<String>, Vec<Vec<ReportCell>>, Vec<ReportCell>, Vec<usize>);

/// Whether a line may have a rate at which it rolled on.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum HasRate {
    Yes,
    No,
}

/// All amounts of a line in a number of decimals, those that are nothing too.
fn in_decimals(line: &BucketMovement, decimals: u8) -> Option<BucketMovement> {
    let rounded = |amount: Decimal| amount.with_decimals(decimals, Rounding::Nearest).ok();
    Some(BucketMovement {
        opening: rounded(line.opening)?,
        new: rounded(line.new)?,
        credited: rounded(line.credited)?,
        rolled_in: rounded(line.rolled_in)?,
        rolled_on: rounded(line.rolled_on)?,
        paid: rounded(line.paid)?,
        closing: rounded(line.closing)?,
    })
}

/// A line of amounts, which have the decimals of all even where they are nothing.
fn cells(label: &str, line: &BucketMovement, has_rate: HasRate, decimals: u8) -> Option<Vec<ReportCell>> {
    let parts = [line.opening, line.new, line.credited, line.rolled_in, line.rolled_on, line.paid];
    let mut cells = in_scale(label, &parts, line.closing, decimals)?;
    cells.push(match has_rate {
        HasRate::No => ReportCell::Empty,
        HasRate::Yes => match line.roll_rate() {
            Ok(rate) => {
                let per_cent =
                    rate.checked_mul(Quotient::of(100, 1)?)?.to_decimal(1, Rounding::Nearest).ok()?;
                ReportCell::Decimal(per_cent)
            }
            Err(_) => ReportCell::Empty,
        },
    });
    Some(cells)
}

/// A name, amounts, and the one that closes them, in a number of decimals.
fn in_scale(label: &str, parts: &[Decimal], total: Decimal, decimals: u8) -> Option<Vec<ReportCell>> {
    let name = Some(ReportCell::Text(label.to_owned()));
    let cell = |part: &Decimal| part.with_decimals(decimals, Rounding::Nearest).ok().map(ReportCell::Decimal);
    std::iter::once(name).chain(parts.iter().chain([&total]).map(cell)).collect()
}

handed_over!(MovementTally: movement, has_rows, open, paid_before, not_yet_issued, rows, paid_unreadable; known: report);

impl Tally for MovementTally {
    fn add(
        &mut self,
        layout: &Layout,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<(), RecordsError> {
        let report = Arc::clone(&self.report);
        rows.iter().try_for_each(|row| self.add_row(&report, (layout, table), *row, origins.of(*row)))
    }

    fn merge(&mut self, other: Box<dyn Tally>, layout: &Layout) -> Result<(), RecordsError> {
        let other = of_one_report::<Self>(other)?;
        let too_large = || RecordsError::too_large_in_all(layout.name(self.report.closing.amount));
        self.movement.merge(&other.movement).map_err(|_| too_large())?;
        let sums = self.open.iter_mut().chain([&mut self.paid_before, &mut self.not_yet_issued]);
        for (sum, more) in sums.zip(other.open.into_iter().chain([other.paid_before, other.not_yet_issued])) {
            *sum = sum.checked_add(more).ok_or_else(too_large)?;
        }
        self.has_rows.iter_mut().zip(&other.has_rows).for_each(|(has, more)| *has |= more);
        self.rows.moved += other.rows.moved;
        self.rows.settled_before += other.rows.settled_before;
        self.rows.not_yet_issued += other.rows.not_yet_issued;
        self.rows.no_amount += other.rows.no_amount;
        self.paid_unreadable += other.paid_unreadable;
        Ok(())
    }

    fn finish(self: Box<Self>, layout: &Layout) -> Result<Report, RecordsError> {
        self.into_report(layout)
    }

    fn into_any(self: Box<Self>) -> Box<dyn Any> {
        self
    }
}
