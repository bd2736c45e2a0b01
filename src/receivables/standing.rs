//! The state of an invoice on an as-of date.

use crate::choice::chosen_by_word;
use crate::date::Date;
use crate::number::Decimal;

/// The facts of an invoice that decide its state.
///
/// ```
/// use mild_ledger::{Invoice, Scale, Standing};
///
/// let amount = Scale::new(2)?.read("100.00")?;
/// let invoice = Invoice { amount, issued: Some("2026-08-01".parse()?), paid: Some("2026-09-30".parse()?) };
/// assert_eq!(invoice.standing_on("2026-09-29".parse()?), Standing::Open);
/// assert_eq!(invoice.standing_on("2026-09-30".parse()?), Standing::Settled);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Invoice {
    /// Its amount; below zero for a credit note.
    pub amount: Decimal,
    /// The day it was issued; without one it counts as issued.
    pub issued: Option<Date>,
    /// The day it was paid in full, if it was.
    pub paid: Option<Date>,
}

/// The state of an invoice on a date: exactly one of these.
///
/// ```
/// # use mild_ledger::{Invoice, Scale, Standing};
/// let amount = Scale::new(2)?.read("-20.00")?;
/// let credit_note = Invoice { amount, issued: None, paid: None };
/// assert_eq!(credit_note.standing_on("2026-09-30".parse()?), Standing::Credit);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Standing {
    /// Issued after the date.
    NotYetIssued,
    /// Paid on or before the date, or of amount zero: nothing is open.
    Settled,
    /// An amount above zero is open.
    Open,
    /// An amount below zero is open: a credit note or an over-payment.
    Credit,
}

impl Standing {
    /// All of them.
    pub const ALL: [Self; 4] = [Self::NotYetIssued, Self::Settled, Self::Open, Self::Credit];

    /// The words for it.
    ///
    /// ```
    /// assert_eq!("not yet issued".parse(), Ok(mild_ledger::Standing::NotYetIssued));
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::NotYetIssued => "not yet issued",
            Self::Settled => "settled",
            Self::Open => "open",
            Self::Credit => "credit",
        }
    }
}

chosen_by_word!(Standing, "a state of an invoice");

impl Invoice {
    /// Its state on the as-of date. Dates equal to it are included; a payment after it has not happened
    /// yet.
    ///
    /// ```
    /// # use mild_ledger::{Invoice, Scale, Standing};
    /// let amount = Scale::new(2)?.read("100.00")?;
    /// let invoice = Invoice { amount, issued: Some("2026-10-01".parse()?), paid: None };
    /// assert_eq!(invoice.standing_on("2026-09-30".parse()?), Standing::NotYetIssued);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn standing_on(&self, as_of: Date) -> Standing {
        match self.amount.units() {
            _ if self.issued.is_some_and(|issued| issued > as_of) => Standing::NotYetIssued,
            _ if self.paid.is_some_and(|paid| paid <= as_of) => Standing::Settled,
            0 => Standing::Settled,
            units if units < 0 => Standing::Credit,
            _ => Standing::Open,
        }
    }
}
