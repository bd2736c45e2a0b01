//! Where credits are, and the rest of debts that they are set off against.

use crate::choice::chosen_by_word;
use crate::error::{Error, ErrorKind};
use crate::number::Decimal;
use alloc::borrow::ToOwned;
use alloc::vec::Vec;

/// Where open amounts below zero are in an aging: credit notes and over-payments.
///
/// ```
/// # use mild_ledger::CreditsStand;
/// assert_eq!("by-due-date".parse(), Ok(CreditsStand::ByDueDate));
/// assert_eq!(CreditsStand::default(), CreditsStand::Apart);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum CreditsStand {
    /// In a column of their own, and taken off in the total only.
    #[default]
    Apart,
    /// In the buckets of their own due dates, where they are taken off.
    ByDueDate,
    /// Off the debts of the same customer, the oldest first; the rest is in a column of its own.
    OffOldestDebt,
}

impl CreditsStand {
    /// All of them.
    pub const ALL: [Self; 3] = [Self::Apart, Self::ByDueDate, Self::OffOldestDebt];

    /// The word for it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::CreditsStand::OffOldestDebt.word(), "off-oldest-debt");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Apart => "apart",
            Self::ByDueDate => "by-due-date",
            Self::OffOldestDebt => "off-oldest-debt",
        }
    }
}

chosen_by_word!(CreditsStand, "a place for credits");

/// The debts of one customer after credits were set off against them, the oldest debt first.
///
/// ```
/// use mild_ledger::{Decimal, SetOff};
///
/// // Not yet due, a month overdue, longer: 100, 30 and 50, with credits of 60.
/// let debts = [100, 30, 50].map(Decimal::from);
/// let after = SetOff::oldest_first(&debts, Decimal::from(-60))?;
/// assert_eq!(after.debts, [100, 20, 0].map(Decimal::from));
/// assert_eq!(after.credits, Decimal::ZERO);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SetOff {
    /// The rest of each debt, in the order in which they were given.
    pub debts: Vec<Decimal>,
    /// The rest of the credits, zero or below.
    pub credits: Decimal,
}

impl SetOff {
    /// Takes credits, zero or below, off debts that are given in the order of their age, the oldest last. The sum of all stays what
    /// it was.
    ///
    /// # Errors
    /// [`ErrorKind::NotAllowed`] for a debt below zero and for credits above it.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, SetOff};
    /// let more = SetOff::oldest_first(&[Decimal::from(10)], Decimal::from(-25))?;
    /// assert_eq!((more.debts, more.credits), (vec![Decimal::ZERO], Decimal::from(-15)));
    /// assert!(SetOff::oldest_first(&[Decimal::from(10)], Decimal::from(25)).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn oldest_first(debts: &[Decimal], credits: Decimal) -> Result<Self, Error> {
        let is_of_its_sign = credits <= Decimal::ZERO && debts.iter().all(|debt| *debt >= Decimal::ZERO);
        if !is_of_its_sign {
            let what = "a debt below zero, or credits above it, cannot be set off".to_owned();
            return Err(Error::new(ErrorKind::NotAllowed, what, "debts above zero and credits below it"));
        }
        let (mut debts, mut credits) = (debts.to_vec(), credits);
        for debt in debts.iter_mut().rev() {
            let left = debt.checked_add(credits).ok_or_else(too_large)?;
            (*debt, credits) = (left.max(Decimal::ZERO), left.min(Decimal::ZERO));
        }
        Ok(Self { debts, credits })
    }
}

fn too_large() -> Error {
    Error::new(ErrorKind::OutOfRange, "the sums are too large to hold".to_owned(), "at most 38 digits")
}
