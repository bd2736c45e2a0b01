//! Year fractions by the day-count conventions of the trade.

use super::Fraction;
use crate::choice::chosen_by_word;
use crate::date::year_month_day;

/// A convention for the fraction of a year between two dates; the start is counted and the end is not.
///
/// The definitions are those of the 2006 ISDA Definitions, section 4.16 (Actual/365 Fixed, Actual/360,
/// Actual/Actual, 30/360, 30E/360), and the mean years of the Julian and the Gregorian calendar.
///
/// ```
/// use mild_ledger::{DayCount, Interval};
///
/// let interval = Interval::between("2026-02-28".parse()?, "2026-03-31".parse()?);
/// assert_eq!(interval.year_fraction(DayCount::Thirty360Bond).to_string(), "11/120");
/// assert_eq!(interval.year_fraction(DayCount::Thirty360European).to_string(), "4/45");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum DayCount {
    /// Days ÷ 365.
    Actual365Fixed,
    /// Days ÷ 360.
    Actual360,
    /// Days in leap years ÷ 366 + the others ÷ 365.
    ActualActualIsda,
    /// 30/360, Bond Basis: a start on the 31st counts as the 30th, and then an end on the 31st too.
    Thirty360Bond,
    /// 30E/360: each 31st counts as the 30th.
    Thirty360European,
    /// Days ÷ 365.25, the mean year of the Julian calendar.
    MeanJulianYear,
    /// Days ÷ 365.2425, the mean year of the Gregorian calendar.
    MeanGregorianYear,
}

impl DayCount {
    /// Every convention.
    pub const ALL: &'static [Self] = &[
        Self::Actual365Fixed,
        Self::Actual360,
        Self::ActualActualIsda,
        Self::Thirty360Bond,
        Self::Thirty360European,
        Self::MeanJulianYear,
        Self::MeanGregorianYear,
    ];

    /// The word for it in plans, options and output.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DayCount::Thirty360European.word(), "30e-360");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Actual365Fixed => "actual-365-fixed",
            Self::Actual360 => "actual-360",
            Self::ActualActualIsda => "actual-actual-isda",
            Self::Thirty360Bond => "30-360-bond",
            Self::Thirty360European => "30e-360",
            Self::MeanJulianYear => "mean-365.25",
            Self::MeanGregorianYear => "mean-365.2425",
        }
    }

    /// The fraction between two day numbers, the first not after the last.
    pub(super) fn between(self, first: i32, last: i32) -> Fraction {
        let days = i64::from(last) - i64::from(first);
        match self {
            Self::Actual365Fixed => Fraction::new(0, days, 365),
            Self::Actual360 => Fraction::new(0, days, 360),
            Self::ActualActualIsda => actual_actual(first, last),
            Self::Thirty360Bond | Self::Thirty360European => {
                let (first_year, first_month, first_day) = year_month_day::year_month_day_of(first);
                let (last_year, last_month, last_day) = year_month_day::year_month_day_of(last);
                let first_day = i64::from(first_day.min(30));
                let last_day = match last_day {
                    31 if self == Self::Thirty360European || first_day == 30 => 30,
                    day => i64::from(day),
                };
                let months = (i64::from(last_year) - i64::from(first_year)) * 12 + i64::from(last_month)
                    - i64::from(first_month);
                Fraction::new(0, months * 30 + last_day - first_day, 360)
            }
            Self::MeanJulianYear => Fraction::new(0, days * 4, 1461),
            Self::MeanGregorianYear => Fraction::new(0, days * 400, 146_097),
        }
    }
}

chosen_by_word!(DayCount, "a day count");

/// The mean month of a calendar: the twelfth of its mean year.
///
/// ```
/// use mild_ledger::{Interval, MeanMonth};
/// let year = Interval::between("2025-01-01".parse()?, "2026-01-01".parse()?);
/// assert_eq!(year.mean_months(MeanMonth::Julian).to_string(), "11 + 483/487"); // 365 × 12 ÷ 365.25
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum MeanMonth {
    /// 365.25 ÷ 12 days.
    Julian,
    /// 365.2425 ÷ 12 days.
    Gregorian,
}

impl MeanMonth {
    /// Both.
    pub const ALL: &'static [Self] = &[Self::Julian, Self::Gregorian];

    /// The words for it in plans and output.
    ///
    /// ```
    /// assert_eq!(mild_ledger::MeanMonth::Julian.word(), "mean months of 365.25 ÷ 12 days");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Julian => "mean months of 365.25 ÷ 12 days",
            Self::Gregorian => "mean months of 365.2425 ÷ 12 days",
        }
    }

    /// A number of days in mean months.
    pub(super) fn of_days(self, days: i64) -> Fraction {
        match self {
            Self::Julian => Fraction::of_quotient(days * 48, 1_461),
            Self::Gregorian => Fraction::of_quotient(days * 1_600, 48_699),
        }
    }
}

chosen_by_word!(MeanMonth, "a mean month");

/// Days of leap years and of common years, each over its own length, as one fraction in lowest terms.
fn actual_actual(first: i32, last: i32) -> Fraction {
    let (leap_days, common_days) = days_of_leap_and_common_years(first, last);
    Fraction::new(0, leap_days * 365 + common_days * 366, 365 * 366)
}

/// How many of the days between lie in leap years, and how many in common ones.
pub(super) fn days_of_leap_and_common_years(first: i32, last: i32) -> (i64, i64) {
    let (first_year, ..) = year_month_day::year_month_day_of(first);
    let (last_year, ..) = year_month_day::year_month_day_of(last);
    let total = i64::from(last) - i64::from(first);
    let new_year = |year| i64::from(year_month_day::day_number_of(year, 1, 1));
    let length = |year| if year_month_day::is_leap_year(year) { 366 } else { 365 };
    // Whole years between the first and the last are counted by their number, not one by one.
    let leap_days = if first_year == last_year {
        if year_month_day::is_leap_year(first_year) { total } else { 0 }
    } else {
        let head = new_year(first_year + 1) - i64::from(first);
        let tail = i64::from(last) - new_year(last_year);
        let leap_years = leap_years_before(last_year) - leap_years_before(first_year + 1);
        let of_leap = |year, days| if length(year) == 366 { days } else { 0 };
        of_leap(first_year, head) + leap_years * 366 + of_leap(last_year, tail)
    };
    (leap_days, total - leap_days)
}

/// Leap years from year 1 up to the year before this one.
fn leap_years_before(year: i32) -> i64 {
    let before = i64::from(year) - 1;
    before / 4 - before / 100 + before / 400
}
