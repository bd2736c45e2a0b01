//! What is open of an invoice on any date, from its payments.

use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::number::Decimal;
use alloc::borrow::ToOwned;
use alloc::vec::Vec;

/// A payment against an invoice.
///
/// ```
/// use mild_ledger::{Payment, Scale};
/// let paid = Payment { on: "2026-09-15".parse()?, amount: Scale::new(2)?.read("40.00")? };
/// assert_eq!(paid.amount.to_string(), "40.00");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Payment {
    /// The day that it counts from, that day included.
    pub on: Date,
    /// How much; below zero where it was taken back, and against a credit note.
    pub amount: Decimal,
}

/// An invoice, or a credit note, with its payments: what is open of it on any date, today's or a past one.
///
/// Payments on the as-of date are included, later ones ignored. More than the amount leaves less than nothing open: an
/// over-payment.
///
/// ```
/// use mild_ledger::{Account, Payment, Scale};
///
/// let amount = |text: &str| Scale::new(2)?.read(text);
/// let paid = |on: &str, text: &str| Ok::<_, mild_ledger::Error>(Payment { on: on.parse()?, amount: amount(text)? });
/// let account = Account::new(amount("100.00")?, [paid("2026-09-15", "40.00")?, paid("2026-10-02", "60.00")?]);
/// assert_eq!(account.open_on("2026-09-14".parse()?)?, amount("100.00")?);
/// assert_eq!(account.open_on("2026-09-30".parse()?)?, amount("60.00")?);
/// assert_eq!(account.settled_by("2026-09-30".parse()?)?, None);
/// assert_eq!(account.settled_by("2026-12-31".parse()?)?, Some("2026-10-02".parse()?));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Account {
    amount: Decimal,
    /// In the order of their days.
    payments: Vec<Payment>,
}

impl Account {
    /// An invoice of that amount with its payments, in any order.
    ///
    /// ```
    /// # use mild_ledger::{Account, Decimal};
    /// assert_eq!(Account::new(Decimal::from(5), []).amount(), Decimal::from(5));
    /// ```
    #[must_use]
    pub fn new(amount: Decimal, payments: impl IntoIterator<Item = Payment>) -> Self {
        let mut payments: Vec<Payment> = payments.into_iter().collect();
        payments.sort_by_key(|payment| payment.on);
        Self { amount, payments }
    }

    /// The amount of the invoice.
    ///
    /// ```
    /// # use mild_ledger::{Account, Decimal};
    /// assert_eq!(Account::new(Decimal::from(-5), []).amount(), Decimal::from(-5));
    /// ```
    #[must_use]
    pub fn amount(&self) -> Decimal {
        self.amount
    }

    /// The sum of the payments up to a date, that date included.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Account, Decimal, Payment};
    /// let payments = [Payment { on: "2026-09-30".parse()?, amount: Decimal::from(2) }];
    /// let account = Account::new(Decimal::from(5), payments);
    /// assert_eq!(account.paid_by("2026-09-30".parse()?)?, Decimal::from(2));
    /// assert_eq!(account.paid_by("2026-09-29".parse()?)?, Decimal::ZERO);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn paid_by(&self, as_of: Date) -> Result<Decimal, Error> {
        let paid = self.payments.iter().take_while(|payment| payment.on <= as_of);
        Decimal::checked_sum(paid.map(|payment| payment.amount)).ok_or_else(too_large)
    }

    /// What is open on a date: the amount less the payments up to it.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Account, Decimal, Payment};
    /// let payments = [Payment { on: "2026-09-30".parse()?, amount: Decimal::from(7) }];
    /// let over_paid = Account::new(Decimal::from(5), payments);
    /// assert_eq!(over_paid.open_on("2026-09-30".parse()?)?, Decimal::from(-2));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn open_on(&self, as_of: Date) -> Result<Decimal, Error> {
        self.amount.checked_sub(self.paid_by(as_of)?).ok_or_else(too_large)
    }

    /// The day from which nothing is open any more, seen from a date: that on which the balance first reaches zero and stays at it or
    /// beyond. An over-paid invoice is settled. `None` where something is open. An invoice of nothing is settled with its first payment
    /// only.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where a balance is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Account, Decimal, Payment};
    /// let paid = |on: &str, amount: i32| Ok::<_, mild_ledger::Error>(Payment { on: on.parse()?, amount: amount.into() });
    /// // Settled, opened again by a payment that was taken back, and settled once more.
    /// let account = Account::new(Decimal::from(5), [paid("2026-03-01", 5)?, paid("2026-03-08", -5)?, paid("2026-04-01", 5)?]);
    /// assert_eq!(account.settled_by("2026-03-07".parse()?)?, Some("2026-03-01".parse()?));
    /// assert_eq!(account.settled_by("2026-03-31".parse()?)?, None);
    /// assert_eq!(account.settled_by("2026-04-30".parse()?)?, Some("2026-04-01".parse()?));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn settled_by(&self, as_of: Date) -> Result<Option<Date>, Error> {
        let (mut open, mut settled) = (self.amount, None);
        let mut payments = self.payments.iter().take_while(|payment| payment.on <= as_of).peekable();
        while let Some(payment) = payments.next() {
            open = open.checked_sub(payment.amount).ok_or_else(too_large)?;
            // Payments of one day count together.
            if payments.peek().is_some_and(|next| next.on == payment.on) {
                continue;
            }
            let is_settled = match self.amount < Decimal::ZERO {
                true => open >= Decimal::ZERO,
                false => open <= Decimal::ZERO,
            };
            settled = if is_settled { settled.or(Some(payment.on)) } else { None };
        }
        Ok(settled)
    }
}

fn too_large() -> Error {
    Error::new(ErrorKind::OutOfRange, "the balance is too large to hold".to_owned(), "at most 38 digits")
}
