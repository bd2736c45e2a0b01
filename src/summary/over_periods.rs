//! An amount allocated over the periods of a span of days: prepayments, accruals, rents, targets.

use super::allocate;
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::interval::Ends;
use crate::interval::Interval;
use crate::number::Decimal;
use crate::period::{DateRange, Month, Period, PeriodRule};
use crate::work::WorkCalendar;
use alloc::borrow::ToOwned;
use alloc::vec::Vec;

/// By what an amount is allocated over the periods of a span.
///
/// ```
/// use mild_ledger::{DateRange, Decimal, PeriodRule, AllocationBasis, allocate_over_periods};
/// let span = DateRange::new("2026-01-15".parse()?, "2026-03-31".parse()?)?;
/// let shares = allocate_over_periods(Decimal::from(300), span, PeriodRule::Month, AllocationBasis::Months, 2)?;
/// assert!(shares.iter().all(|share| share.share == Decimal::from(100)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy)]
pub enum AllocationBasis<'c> {
    /// The days of the span in each period.
    Days,
    /// Its working days by a calendar.
    WorkingDays(&'c WorkCalendar),
    /// The calendar months that it touches, each with the same weight; one counts where its first day in the span lies.
    Months,
}

/// The part of an amount that falls to a period.
///
/// ```
/// # use mild_ledger::{DateRange, Decimal, PeriodRule, AllocationBasis, allocate_over_periods};
/// let span = DateRange::new("2026-01-31".parse()?, "2026-02-02".parse()?)?;
/// let shares = allocate_over_periods(Decimal::from(30), span, PeriodRule::Month, AllocationBasis::Days, 2)?;
/// assert_eq!((shares[1].period.label().as_str(), shares[1].weight, shares[1].share), ("2026-02", 2, Decimal::from(20)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PeriodShare {
    /// The whole period, of which the span may fill a part only.
    pub period: Period,
    /// Its days, working days or months in the span.
    pub weight: u32,
    /// The part of the amount.
    pub share: Decimal,
}

/// An amount over a span of days, both ends included, allocated over the periods that it touches, in their order. The shares have a number of decimals and
/// sum to the amount, by the rule of [`allocate`].
///
/// # Errors
/// As [`allocate`]: where the span has nothing to allocate to (no working day), and where the amount has more decimals than its shares;
/// [`ErrorKind::NotCovered`] for days that the calendar does not know, [`ErrorKind::OutOfRange`] for more than 100,000 periods.
///
/// ```
/// use mild_ledger::{DateRange, Decimal, PeriodRule, AllocationBasis, allocate_over_periods};
/// // A year's insurance from 10 November, by days: 21 of them in November.
/// let span = DateRange::new("2026-11-10".parse()?, "2027-11-09".parse()?)?;
/// let shares = allocate_over_periods(Decimal::from(365), span, PeriodRule::Month, AllocationBasis::Days, 2)?;
/// assert_eq!((shares.len(), shares[0].share, shares[12].share), (13, Decimal::from(21), Decimal::from(9)));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn allocate_over_periods(
    amount: Decimal,
    span: DateRange,
    periods: PeriodRule,
    by: AllocationBasis<'_>,
    decimals: u8,
) -> Result<Vec<PeriodShare>, Error> {
    let periods = periods_of(span, periods)?;
    let mut weights = Vec::with_capacity(periods.len());
    for period in &periods {
        weights.push(match span.overlap(period.dates()) {
            Some(days) => weight_of(days, span, by)?,
            None => 0,
        });
    }
    let shares = allocate(amount, &weights, decimals)?;
    let shares = periods.into_iter().zip(weights).zip(shares);
    Ok(shares.map(|((period, weight), share)| PeriodShare { period, weight, share }).collect())
}

/// The periods that a span touches, in their order.
pub(super) fn periods_of(span: DateRange, periods: PeriodRule) -> Result<Vec<Period>, Error> {
    const MOST: usize = 100_000;
    let periods: Vec<Period> = periods.covering(span).take(MOST + 1).collect();
    if periods.len() > MOST {
        let what = "the span touches too many periods".to_owned();
        return Err(Error::new(ErrorKind::OutOfRange, what, "at most 100,000 periods"));
    }
    Ok(periods)
}

/// What the days of a period weigh that lie in the span.
pub(super) fn weight_of(days: DateRange, span: DateRange, by: AllocationBasis<'_>) -> Result<u32, Error> {
    let weight = match by {
        AllocationBasis::Days => days.days(),
        AllocationBasis::WorkingDays(calendar) => {
            let interval = Interval::between(days.first(), days.last());
            calendar.working_days(interval, Ends::FirstAndLast)?.count()
        }
        AllocationBasis::Months => {
            let touched = Month::of(days.first()).through(Month::of(days.last()));
            let first_day = |month: &Month| -> Date { month.first_day().max(span.first()) };
            i64::try_from(touched.filter(|month| days.contains(first_day(month))).count()).unwrap_or(i64::MAX)
        }
    };
    u32::try_from(weight).map_err(|_| {
        Error::new(
            ErrorKind::OutOfRange,
            "the span has too many days".to_owned(),
            "fewer than 4 thousand million",
        )
    })
}
