//! Measures of how fast receivables come in. The figures are exact until decimals are asked for, and a measure of nothing is an error
//! with the reason, never a figure.

use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Quotient, Rounding};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::vec::Vec;

/// Days sales outstanding of a period: open receivables at its end ÷ sales issued in it × its days.
///
/// # Errors
/// [`ErrorKind::DivisionByZero`] for a period without sales, [`ErrorKind::OutOfRange`] where the result is too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, Rounding, days_sales_outstanding};
/// // 45,000 open after a quarter of 92 days with sales of 120,000.
/// let days = days_sales_outstanding(Decimal::from(45_000), Decimal::from(120_000), 92)?;
/// assert_eq!(days.to_decimal(1, Rounding::Nearest)?.to_string(), "34.5");
/// assert!(days_sales_outstanding(Decimal::from(45_000), Decimal::ZERO, 92).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn days_sales_outstanding(open: Decimal, sales: Decimal, days: u32) -> Result<Quotient, Error> {
    let days = Quotient::of(days.into(), 1).ok_or_else(too_large)?;
    let part = divided(open, sales, "no sales were issued in the period")?;
    part.checked_mul(days).ok_or_else(too_large)
}

/// The sales of a month and its days, for [`days_sales_by_count_back`].
///
/// ```
/// use mild_ledger::{Decimal, MonthSales};
/// let september = MonthSales { sales: Decimal::from(40_000), days: 30 };
/// assert_eq!(september.days, 30);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct MonthSales {
    /// What was issued in it, credit notes taken off.
    pub sales: Decimal,
    /// How many days it has.
    pub days: u8,
}

/// Days sales outstanding by count-back: the days of the latest months whose sales the open balance uses up, the last of them in
/// proportion. The months are in the order in which they are counted back, the latest first. A month whose sales are not above nothing uses
/// up nothing, and its days count.
///
/// # Errors
/// [`ErrorKind::NotCovered`] where the sales of all months do not use the balance up, [`ErrorKind::OutOfRange`] where a figure is too large
/// to hold.
///
/// ```
/// use mild_ledger::{Decimal, MonthSales, Rounding, days_sales_by_count_back};
/// let month = |sales: i32, days| MonthSales { sales: sales.into(), days };
/// // 45,000: all of September (40,000, 30 days) and 5,000 of the 50,000 of August (31 days).
/// let days = days_sales_by_count_back(Decimal::from(45_000), &[month(40_000, 30), month(50_000, 31)])?;
/// assert_eq!(days.to_decimal(1, Rounding::Nearest)?.to_string(), "33.1");
/// assert!(days_sales_by_count_back(Decimal::from(90_001), &[month(40_000, 30), month(50_000, 31)]).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn days_sales_by_count_back(open: Decimal, latest_first: &[MonthSales]) -> Result<Quotient, Error> {
    let mut left = open;
    let mut days = Quotient::ZERO;
    for month in latest_first {
        if left <= Decimal::ZERO {
            return Ok(days);
        }
        let of_month = Quotient::of(month.days.into(), 1).ok_or_else(too_large)?;
        let used = match month.sales > left {
            true => divided(left, month.sales, "")?.checked_mul(of_month).ok_or_else(too_large)?,
            false => of_month,
        };
        days = days.checked_add(used).ok_or_else(too_large)?;
        left = left.checked_sub(month.sales.clamp(Decimal::ZERO, left)).ok_or_else(too_large)?;
    }
    if left <= Decimal::ZERO {
        return Ok(days);
    }
    let what = format!("the sales of {} months do not use up the open balance", latest_first.len());
    Err(Error::new(ErrorKind::NotCovered, what, "more months, the latest first"))
}

/// Average days late, weighted by amount: Σ (amount × days late) ÷ Σ amount. For settled invoices, each with the days from its due date to
/// the day on which nothing was open any more; below zero for those that were early. Amounts that are not above nothing, such as credit
/// notes, are left out.
///
/// # Errors
/// [`ErrorKind::DivisionByZero`] where nothing is left, [`ErrorKind::OutOfRange`] where a sum is too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, Rounding, average_days_late};
/// let settled = [(Decimal::from(900), 10), (Decimal::from(100), -5), (Decimal::from(-50), 400)];
/// // (900 × 10 + 100 × −5) ÷ 1,000.
/// assert_eq!(average_days_late(settled)?.to_decimal(1, Rounding::Nearest)?.to_string(), "8.5");
/// assert!(average_days_late([]).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn average_days_late(settled: impl IntoIterator<Item = (Decimal, i32)>) -> Result<Quotient, Error> {
    let (mut weighted, mut amounts) = (Quotient::ZERO, Decimal::ZERO);
    for (amount, days) in settled.into_iter().filter(|(amount, _)| *amount > Decimal::ZERO) {
        let days = Quotient::of(days.into(), 1).ok_or_else(too_large)?;
        let late = Quotient::from(amount).checked_mul(days).ok_or_else(too_large)?;
        weighted = weighted.checked_add(late).ok_or_else(too_large)?;
        amounts = amounts.checked_add(amount).ok_or_else(too_large)?;
    }
    if amounts == Decimal::ZERO {
        return Err(of_nothing("no invoice was settled"));
    }
    weighted.checked_div(amounts.into()).ok_or_else(too_large)
}

/// What the collection effectiveness index is worked out from.
///
/// ```
/// use mild_ledger::{Collections, Decimal, Rounding};
/// let quarter = Collections {
///     opening: Decimal::from(100_000),
///     sales: Decimal::from(300_000),
///     closing: Decimal::from(120_000),
///     closing_not_yet_due: Decimal::from(90_000),
/// };
/// // (100,000 + 300,000 − 120,000) ÷ (100,000 + 300,000 − 90,000) = 280 ÷ 310.
/// assert_eq!(quarter.effectiveness_index()?.to_decimal(4, Rounding::Nearest)?.to_string(), "0.9032");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Collections {
    /// Open at the beginning of the period.
    pub opening: Decimal,
    /// Issued in it.
    pub sales: Decimal,
    /// Open at its end.
    pub closing: Decimal,
    /// What of that is not yet due.
    pub closing_not_yet_due: Decimal,
}

impl Collections {
    /// Collection effectiveness index: (opening + sales − closing total) ÷ (opening + sales − closing not yet due); 1 where all that was due
    /// came in.
    ///
    /// # Errors
    /// [`ErrorKind::DivisionByZero`] where nothing was to be collected, [`ErrorKind::OutOfRange`] where a sum is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Collections, Decimal};
    /// let none = Collections { opening: Decimal::ZERO, sales: Decimal::ZERO, closing: Decimal::ZERO, closing_not_yet_due: Decimal::ZERO };
    /// assert!(none.effectiveness_index().is_err());
    /// ```
    pub fn effectiveness_index(&self) -> Result<Quotient, Error> {
        let less = |taken_off: Decimal| {
            let all = self.opening.checked_add(self.sales)?;
            all.checked_sub(taken_off)
        };
        let collected = less(self.closing).ok_or_else(too_large)?;
        let to_collect = less(self.closing_not_yet_due).ok_or_else(too_large)?;
        divided(collected, to_collect, "nothing was to be collected in the period")
    }
}

/// The part of what is open that is overdue: overdue ÷ (overdue + not yet due), credits left out.
///
/// # Errors
/// [`ErrorKind::DivisionByZero`] where nothing is open, [`ErrorKind::OutOfRange`] where the result is too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, Rounding, share_overdue};
/// let part = share_overdue(Decimal::from(30), Decimal::from(90))?;
/// assert_eq!(part.to_decimal(2, Rounding::Nearest)?.to_string(), "0.25");
/// assert!(share_overdue(Decimal::ZERO, Decimal::ZERO).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn share_overdue(overdue: Decimal, not_yet_due: Decimal) -> Result<Quotient, Error> {
    let open = overdue.checked_add(not_yet_due).ok_or_else(too_large)?;
    divided(overdue, open, "nothing is open")
}

/// The loss allowance of each bucket by a provision matrix (IFRS 9, B5.5.35): its amount × its rate in per cent, each rounded half away from zero to
/// the decimals of the amount. As many as there are buckets. A bucket of less than nothing has none.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`] where there is not one rate a bucket, [`ErrorKind::OutOfRange`] for a rate outside 0 to 100 and where a figure is too large
/// to hold.
///
/// ```
/// use mild_ledger::{Decimal, Scale, loss_allowance};
/// let open: Vec<Decimal> = ["15000.00", "7510.10", "-20.00"].iter().map(|text| Scale::new(2)?.read(text)).collect::<Result<_, _>>()?;
/// let rates: Vec<Decimal> = ["0.3", "1.6", "6.6"].iter().map(|text| text.parse()).collect::<Result<_, _>>()?;
/// let allowance: Vec<String> = loss_allowance(&open, &rates)?.iter().map(ToString::to_string).collect();
/// assert_eq!(allowance, ["45.00", "120.16", "0.00"]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn loss_allowance(open: &[Decimal], rates_per_cent: &[Decimal]) -> Result<Vec<Decimal>, Error> {
    if open.len() != rates_per_cent.len() {
        let what = format!("there are {} buckets and {} rates", open.len(), rates_per_cent.len());
        return Err(Error::new(ErrorKind::LengthsDiffer, what, "a rate for each bucket"));
    }
    let hundred = Quotient::of(100, 1).ok_or_else(too_large)?;
    let allowance = |(open, rate): (&Decimal, &Decimal)| {
        if *rate < Decimal::ZERO || *rate > Decimal::from(100) {
            let what = format!("{rate} is not a rate of loss in per cent");
            return Err(Error::new(ErrorKind::OutOfRange, what, "0 to 100"));
        }
        let owed = Quotient::from(*open).max(Quotient::ZERO);
        let part = owed.checked_mul((*rate).into()).and_then(|part| part.checked_div(hundred));
        part.ok_or_else(too_large)?.to_decimal(open.decimals(), Rounding::Nearest)
    };
    open.iter().zip(rates_per_cent).map(allowance).collect()
}

fn divided(part: Decimal, whole: Decimal, why_not: &str) -> Result<Quotient, Error> {
    if whole == Decimal::ZERO {
        return Err(of_nothing(why_not));
    }
    Quotient::from(part).checked_div(whole.into()).ok_or_else(too_large)
}

fn of_nothing(why: &str) -> Error {
    Error::new(ErrorKind::DivisionByZero, why.to_owned(), "a sum other than 0")
}

fn too_large() -> Error {
    Error::new(
        ErrorKind::OutOfRange,
        "the figures are too large to be worked with".to_owned(),
        "at most 38 digits",
    )
}
