//! What came in so far, compared with a target by the days that are gone.

use super::allocate;
use super::over_periods::{AllocationBasis, periods_of, weight_of};
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Quotient};
use crate::period::{DateRange, Period, PeriodRule};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::vec::Vec;

/// A target: of a whole span of days, or of each of its periods.
///
/// ```
/// # use mild_ledger::{Decimal, TargetAmount};
/// let by_month = [100, 120, 140].map(Decimal::from);
/// assert_ne!(TargetAmount::OfEachPeriod(&by_month), TargetAmount::OfTheWhole(Decimal::from(360)));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum TargetAmount<'t> {
    /// One number, spread over the days of the span.
    OfTheWhole(Decimal),
    /// A number for each period that the span touches, in their order, each spread over the days of its own.
    OfEachPeriod(&'t [Decimal]),
}

/// A period of a target, with what of it should have come in up to a date.
///
/// ```
/// # use mild_ledger::{DateRange, Decimal, TargetAmount, PeriodRule, AllocationBasis, target_by_period};
/// let span = DateRange::new("2026-06-01".parse()?, "2026-06-30".parse()?)?;
/// let target = TargetAmount::OfTheWhole(Decimal::from(60));
/// let periods = target_by_period(target, span, PeriodRule::Month, "2026-06-10".parse()?, AllocationBasis::Days, 0)?;
/// assert_eq!((periods[0].days, periods[0].gone), (30, 10));
/// assert_eq!((periods[0].target, periods[0].so_far), (Decimal::from(60), Decimal::from(20)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TargetPeriod {
    /// The whole period, of which the span may fill a part only.
    pub period: Period,
    /// Its days, working days or months in the span.
    pub days: u32,
    /// Those of them up to the date, that date included.
    pub gone: u32,
    /// The target of the period.
    pub target: Decimal,
    /// What of it falls to the days that are gone.
    pub so_far: Decimal,
}

/// A target by period, with what of each falls to the days up to a date, that date included. The parts have a number of decimals and sum to the target,
/// by the rule of [`allocate`]; all that falls to the days that are gone sums to the rounded part of a target of the whole.
///
/// # Errors
/// As [`allocate`]; [`ErrorKind::LengthsDiffer`] for another count of numbers than of periods. [`ErrorKind::NotCovered`] for days that the calendar
/// does not know. [`ErrorKind::OutOfRange`] for more than 100,000 periods and for a period without a day to spread its own target over.
///
/// ```
/// use mild_ledger::{DateRange, Decimal, TargetAmount, PeriodRule, AllocationBasis, WorkCalendar, target_by_period};
/// let week_days = WorkCalendar::rest_days_only(mild_ledger::RestDays::default());
/// let quarter = DateRange::new("2026-07-01".parse()?, "2026-09-30".parse()?)?;
/// let target = TargetAmount::OfTheWhole(Decimal::from(66_000));
/// let as_of = "2026-08-14".parse()?;
/// let months = target_by_period(target, quarter, PeriodRule::Month, as_of, AllocationBasis::WorkingDays(&week_days), 2)?;
/// // 23, 21 and 22 working days; 10 of those of August are gone.
/// let days: Vec<(u32, u32)> = months.iter().map(|month| (month.days, month.gone)).collect();
/// assert_eq!(days, [(23, 23), (21, 10), (22, 0)]);
/// assert_eq!(months[1].so_far, Decimal::from(10_000));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn target_by_period(
    target: TargetAmount<'_>,
    span: DateRange,
    periods: PeriodRule,
    as_of: Date,
    by: AllocationBasis<'_>,
    decimals: u8,
) -> Result<Vec<TargetPeriod>, Error> {
    let periods = periods_of(span, periods)?;
    // Of each period the days that are gone and those to come, one after the other, so that each sum of the first is rounded once.
    let mut weights: Vec<[u32; 2]> = Vec::with_capacity(periods.len());
    for period in &periods {
        let Some(days) = span.overlap(period.dates()) else {
            weights.push([0, 0]);
            continue;
        };
        let all = weight_of(days, span, by)?;
        let gone = match DateRange::new(days.first(), as_of.min(days.last())) {
            Ok(gone) => weight_of(gone, span, by)?,
            Err(_) => 0,
        };
        weights.push([gone, all.saturating_sub(gone)]);
    }
    let shares: Vec<Decimal> = match target {
        TargetAmount::OfTheWhole(target) => {
            let weights: Vec<u32> = weights.iter().copied().flatten().collect();
            allocate(target, &weights, decimals)?
        }
        TargetAmount::OfEachPeriod(targets) if targets.len() == periods.len() => {
            let mut shares = Vec::with_capacity(2 * periods.len());
            for ((target, weights), period) in targets.iter().zip(&weights).zip(&periods) {
                if *weights == [0, 0] {
                    let what = format!("there is no day in {} to spread its target over", period.label());
                    return Err(Error::new(ErrorKind::OutOfRange, what, "periods with a day"));
                }
                shares.extend(allocate(*target, weights, decimals)?);
            }
            shares
        }
        TargetAmount::OfEachPeriod(targets) => {
            let what = format!("there are {} targets for {} periods", targets.len(), periods.len());
            return Err(Error::new(ErrorKind::LengthsDiffer, what, "a target for each period"));
        }
    };
    let period = |((period, [gone, to_come]), shares): ((Period, [u32; 2]), &[Decimal])| {
        let so_far = shares.first().copied().unwrap_or_default();
        let target = Decimal::checked_sum(shares.iter().copied()).ok_or_else(too_large)?;
        let days = gone.checked_add(to_come).ok_or_else(too_large)?;
        Ok(TargetPeriod { period, days, gone, target, so_far })
    };
    periods.into_iter().zip(weights).zip(shares.chunks(2)).map(period).collect()
}

/// What came in so far against a target, after a number of days of all.
///
/// ```
/// use mild_ledger::{Decimal, TargetProgress};
/// // 33,000 of 66,000 are in after 30 of 66 working days.
/// let progress = TargetProgress { target: 66_000.into(), target_so_far: 30_000.into(), actual: 33_000.into(), days: 66, gone: 30 };
/// assert_eq!(progress.ahead()?, Decimal::from(3_000));
/// assert_eq!(progress.left()?, Decimal::from(33_000));
/// let rounded = |rate: mild_ledger::Quotient| rate.to_decimal(2, mild_ledger::Rounding::Nearest);
/// assert_eq!(rounded(progress.rate_so_far()?)?.to_string(), "1100.00");
/// assert_eq!(rounded(progress.rate_needed()?)?.to_string(), "916.67");
/// assert_eq!(rounded(progress.at_this_rate()?)?.to_string(), "72600.00");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TargetProgress {
    /// What is to come in.
    pub target: Decimal,
    /// What of it falls to the days that are gone.
    pub target_so_far: Decimal,
    /// What came in so far.
    pub actual: Decimal,
    /// All days, or working days.
    pub days: u32,
    /// Those that are gone.
    pub gone: u32,
}

impl TargetProgress {
    /// By how much what came in is more than what should have; below zero where it is less.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::TargetProgress;
    /// let progress = TargetProgress { target: 100.into(), target_so_far: 40.into(), actual: 30.into(), days: 10, gone: 4 };
    /// assert_eq!(progress.ahead()?, mild_ledger::Decimal::from(-10));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn ahead(&self) -> Result<Decimal, Error> {
        self.actual.checked_sub(self.target_so_far).ok_or_else(too_large)
    }

    /// What still has to come in; below zero where more did.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::TargetProgress;
    /// let progress = TargetProgress { target: 100.into(), target_so_far: 40.into(), actual: 30.into(), days: 10, gone: 4 };
    /// assert_eq!(progress.left()?, mild_ledger::Decimal::from(70));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn left(&self) -> Result<Decimal, Error> {
        self.target.checked_sub(self.actual).ok_or_else(too_large)
    }

    /// The part of the days that is gone.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for a span without days.
    ///
    /// ```
    /// # use mild_ledger::TargetProgress;
    /// let progress = TargetProgress { target: 1.into(), target_so_far: 0.into(), actual: 0.into(), days: 4, gone: 1 };
    /// assert_eq!(progress.part_gone()?.denominator(), 4);
    /// assert!(TargetProgress { days: 0, gone: 0, ..progress }.part_gone().is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn part_gone(&self) -> Result<Quotient, Error> {
        Quotient::of(self.gone.into(), self.days.into()).ok_or_else(no_days)
    }

    /// What came in a day, of the days that are gone.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] before the first day, and where it is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::TargetProgress;
    /// let progress = TargetProgress { target: 100.into(), target_so_far: 40.into(), actual: 30.into(), days: 10, gone: 4 };
    /// assert_eq!((progress.rate_so_far()?.numerator(), progress.rate_so_far()?.denominator()), (15, 2));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn rate_so_far(&self) -> Result<Quotient, Error> {
        a_day(self.actual, self.gone)
    }

    /// What has to come in a day, of the days that are left: the rate that still reaches the target; zero where it is reached.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where something is left and no day, and where it is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, TargetProgress};
    /// let over = TargetProgress { target: 10.into(), target_so_far: 10.into(), actual: 8.into(), days: 5, gone: 5 };
    /// assert!(over.rate_needed().is_err());
    /// assert_eq!(TargetProgress { actual: 12.into(), ..over }.rate_needed()?, Decimal::ZERO.into());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn rate_needed(&self) -> Result<Quotient, Error> {
        let left = self.left()?;
        if left <= Decimal::ZERO {
            return Ok(Decimal::ZERO.into());
        }
        a_day(left, self.days.saturating_sub(self.gone))
    }

    /// What will have come in at the end if it goes on as it did so far.
    ///
    /// # Errors
    /// Those of [`rate_so_far`](Self::rate_so_far).
    ///
    /// ```
    /// # use mild_ledger::TargetProgress;
    /// let progress = TargetProgress { target: 100.into(), target_so_far: 40.into(), actual: 30.into(), days: 10, gone: 4 };
    /// assert_eq!(progress.at_this_rate()?, mild_ledger::Decimal::from(75).into());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn at_this_rate(&self) -> Result<Quotient, Error> {
        let days = Quotient::of(self.days.into(), 1).ok_or_else(no_days)?;
        self.rate_so_far()?.checked_mul(days).ok_or_else(too_large)
    }
}

fn a_day(amount: Decimal, days: u32) -> Result<Quotient, Error> {
    let days = Quotient::of(days.into(), 1).filter(|_| days > 0).ok_or_else(no_days)?;
    Quotient::from(amount).checked_div(days).ok_or_else(too_large)
}

fn no_days() -> Error {
    Error::new(ErrorKind::OutOfRange, "there are no days".to_owned(), "one day or more")
}

fn too_large() -> Error {
    Error::new(ErrorKind::OutOfRange, "the figures are too large to hold".to_owned(), "at most 38 digits")
}
