//! Invoices as the reports of receivables look at them: what is open of each on a date, and where it is.

mod on_two_dates;

pub(super) use on_two_dates::OnTwoDates;

use super::Heading;
use crate::columns::Binder;
use crate::error::RecordsError;
use crate::mistakes::{At, Walk};
use crate::table::{BandKind, Gap, Kind, Layout, Origin, Table};
use mild_ledger::{Date, Invoice, Scale, Standing};
use toml::de::DeTable;

/// The place after those of rows without a figure.
const CREDITS: &str = "Credits";

/// The columns of invoices, as the plan names them.
#[derive(Debug)]
pub(super) struct PlannedInvoices {
    band: At<String>,
    amount: At<String>,
    issued: Option<At<String>>,
    paid: Option<At<String>>,
    /// What was paid up to the as-of date, taken off the amount.
    payments: Option<At<String>>,
}

/// The columns of invoices, seen from a date.
pub(super) struct Invoices {
    pub(super) band: usize,
    band_kind: BandKind,
    pub(super) amount: usize,
    pub(super) scale: Scale,
    pub(super) issued: Option<usize>,
    pub(super) paid: Option<usize>,
    pub(super) payments: Option<Payments>,
    pub(super) as_of: Date,
}

/// A column of what was paid of each invoice up to the as-of date.
#[derive(Debug, Clone, Copy)]
pub(super) struct Payments {
    pub(super) column: usize,
    /// By what its units are multiplied to be those of the amounts.
    factor: i128,
}

/// An invoice on the as-of date, in units of its amounts.
#[derive(Debug, Clone, Copy)]
pub(super) struct Seen {
    pub(super) units: i128,
    pub(super) taken_off: i128,
    /// What payments leave of it, paid on a day or not.
    pub(super) open: i128,
    /// What was paid of it though it is not issued: a credit until it is.
    pub(super) paid_ahead: i128,
    pub(super) stands: Stands,
}

/// Where an invoice is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Stands {
    NotYetIssued,
    Settled,
    /// By the number of the place: of a bucket, of the reason for having none, or of the credits.
    In(usize),
}

impl PlannedInvoices {
    pub(super) fn read(walk: &mut Walk, table: &DeTable, heading: &Heading) -> Option<Self> {
        let mut column =
            |key: &str| table.get(key).and_then(|value| walk.text(value, "the name of a column"));
        let (issued, paid, payments) = (column("issued"), column("paid"), column("payments"));
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
        Some(Self { band: band?, amount: amount?, issued, paid, payments })
    }

    /// The columns as they are seen from where the binder looks; what is wrong with them is reported.
    pub(super) fn bind(&self, binder: &mut Binder<'_>, heading: &Heading) -> Option<Invoices> {
        let as_of = binder.as_of(&heading.span);
        let band = binder.find(&self.band);
        let band = match band.map(|band| (band, binder.kind(band).clone())) {
            Some((nth, Kind::Band(band))) => Some((nth, band)),
            Some((nth, kind)) => {
                let in_error = nth >= binder.columns_of_file && matches!(kind, Kind::Text);
                let what =
                    format!("\"{}\" holds {}, not buckets", self.band.value.escape_debug(), kind.word());
                // A column in error holds nothing, and was reported.
                if !in_error || binder.mistakes.count() == 0 {
                    binder.mistakes.tell(self.band.span.clone(), what, "a column made with bucket and edges");
                }
                None
            }
            None => None,
        };
        let amounts = binder.find_amounts(&self.amount);
        let mut dates = |name: &Option<At<String>>| match name {
            Some(name) => binder.find_dates(name).map(Some),
            None => Some(None),
        };
        let (issued, paid) = (dates(&self.issued), dates(&self.paid));
        let payments = match (&self.payments, amounts) {
            (Some(name), Some(amounts)) => Some(bind_payments(binder, name, amounts)?),
            _ => None,
        };
        let ((band, band_kind), (amount, scale)) = (band?, amounts?);
        Some(Invoices {
            band,
            band_kind,
            amount,
            scale,
            issued: issued?,
            paid: paid?,
            payments,
            as_of: as_of?.date,
        })
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

impl Invoices {
    /// The state of the invoice of a row; nothing where it has no amount.
    pub(super) fn seen(
        &self,
        layout: &Layout,
        table: &Table,
        row: usize,
        origin: Origin,
    ) -> Result<Option<Seen>, RecordsError> {
        let Some(units) = table.units(self.amount, row) else { return Ok(None) };
        let too_large = || self.too_large(layout, origin);
        let taken_off = match self.payments {
            Some(Payments { column, factor }) => {
                table.units(column, row).unwrap_or(0).checked_mul(factor).ok_or_else(too_large)?
            }
            None => 0,
        };
        let open = units.checked_sub(taken_off).ok_or_else(too_large)?;
        let invoice = Invoice {
            amount: self.scale.amount(open),
            issued: self.issued.and_then(|column| table.date(column, row)),
            paid: self.paid.and_then(|column| table.date(column, row)),
        };
        let mut paid_ahead = 0;
        let stands = match invoice.standing_on(self.as_of) {
            Standing::NotYetIssued => {
                let in_full = invoice.paid.is_some_and(|paid| paid <= self.as_of);
                paid_ahead = if in_full { units } else { taken_off };
                Stands::NotYetIssued
            }
            Standing::Settled => Stands::Settled,
            Standing::Credit => Stands::In(self.credits()),
            Standing::Open => Stands::In(self.place_in_band(table, row)),
        };
        Ok(Some(Seen { units, taken_off, open, paid_ahead, stands }))
    }

    /// How many units are open of an invoice: its own once it is issued, and what was paid ahead of that as a credit before.
    pub(super) fn balance(&self, seen: &Seen, layout: &Layout, origin: Origin) -> Result<i128, RecordsError> {
        match seen.stands {
            Stands::In(_) => Ok(seen.open),
            Stands::Settled => Ok(0),
            Stands::NotYetIssued => {
                seen.paid_ahead.checked_neg().ok_or_else(|| self.too_large(layout, origin))
            }
        }
    }

    /// The place of a row by its bucket, or by the reason for which it has none.
    pub(super) fn place_in_band(&self, table: &Table, row: usize) -> usize {
        match table.order_number(self.band, row).map(usize::try_from) {
            Some(Ok(bucket)) => bucket,
            _ => self.place_of_gap(table.gap(self.band, row).unwrap_or(Gap::Blank)),
        }
    }

    /// Whether what was paid of a row is not known; payments that have no sum are none that are known, however they came to have none.
    pub(super) fn is_payment_unreadable(&self, table: &Table, row: usize) -> bool {
        let payments = self.payments.map(|payments| payments.column);
        self.paid.into_iter().chain(payments).any(|column| {
            table.is_unreadable(column, row) || Some(column) == payments && table.is_empty(column, row)
        })
    }

    /// The column that says what was paid.
    pub(super) fn paid_by(&self) -> Option<usize> {
        self.paid.or(self.payments.map(|payments| payments.column))
    }

    /// The places in which invoices are: the buckets of the band, the reasons for having none, and the credits.
    pub(super) fn places(&self) -> usize {
        self.credits() + 1
    }

    /// The number of the place of the credits.
    pub(super) fn credits(&self) -> usize {
        self.buckets() + Gap::ALL.len()
    }

    /// The names of the places with their numbers, but for reasons that no row has; "No date" is always among them.
    pub(super) fn labels(&self, has_rows: impl Fn(usize) -> bool) -> Vec<(usize, String)> {
        let labels = self.band_kind.buckets.labels().iter().cloned();
        let (gaps, credits) = (self.buckets(), self.credits());
        labels
            .chain(Gap::ALL.map(|gap| gap.bucket(&self.band_kind).to_owned()))
            .chain([CREDITS.to_owned()])
            .enumerate()
            .filter(|(place, _)| !(gaps + 1..credits).contains(place) || has_rows(*place))
            .collect()
    }

    pub(super) fn too_large(&self, layout: &Layout, origin: Origin) -> RecordsError {
        RecordsError::too_large(layout.name(self.amount), &layout.place(origin))
    }

    /// How many buckets there are.
    pub(super) fn buckets(&self) -> usize {
        self.band_kind.buckets.labels().len()
    }

    fn place_of_gap(&self, gap: Gap) -> usize {
        self.buckets() + Gap::ALL.iter().position(|known| *known == gap).unwrap_or(0)
    }
}
