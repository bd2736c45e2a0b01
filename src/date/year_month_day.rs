//! Day number to year, month and day, and back, in constant time.
//!
//! Both ways count in years that begin on 1 March, so that the leap day is the last of its year and the months'
//! lengths follow one line. The divisions are turned into multiplications of 32 bits as C. Neri and L. Schneider
//! show ("Euclidean affine functions and their application to calendar algorithms", 2022), which is what loops
//! over columns spend their time on. Days far outside the calendar are brought into it by whole cycles of 400
//! years first.

/// Days in 400 years.
pub(crate) const DAYS_IN_CYCLE: i64 = 146_097;
/// Cycles that bring the days near the calendar above zero.
const CYCLES_UP: i32 = 10;
/// Days from 1 March of the year 0, less those cycles, to 1970-01-01.
const DAYS_UP: i32 = 719_468 + CYCLES_UP * DAYS_IN_CYCLE as i32;
const YEARS_UP: i32 = CYCLES_UP * 400;
/// Days for which the short way holds: the years −3000 to 13000 or so.
const NEAR: core::ops::Range<i32> = -1_800_000..4_000_000;

/// Year, month and day of a day number.
#[inline]
pub(crate) fn year_month_day_of(day_number: i32) -> (i32, u8, u8) {
    if NEAR.contains(&day_number) {
        return year_month_day_of_near(day_number);
    }
    let cycles = day_number.div_euclid(DAYS_IN_CYCLE as i32);
    let (year, month, day) = year_month_day_of_near(day_number.rem_euclid(DAYS_IN_CYCLE as i32));
    (year + 400 * cycles, month, day)
}

/// The same for days that are known to be near the calendar, as those of every date are.
#[inline]
pub(crate) fn year_month_day_of_near(day_number: i32) -> (i32, u8, u8) {
    let (year, month, day) = year_month_day_lane(day_number);
    (year, month as u8, day as u8)
}

/// The same in numbers of one width, which loops over columns turn into vector instructions.
#[inline(always)]
pub(crate) fn year_month_day_lane(day_number: i32) -> (i32, u32, u32) {
    let days = (day_number + DAYS_UP) as u32;
    // The century, and the day of it in quarters.
    let quarters = 4 * days + 3;
    let century = quarters / 146_097;
    let in_century = (quarters % 146_097) | 3;
    // The year of the century, and the day of it: 2939745 ÷ 2^32 is 1 ÷ 1461, near enough.
    let product = 2_939_745 * u64::from(in_century);
    let year_of_century = (product >> 32) as u32;
    let day_of_year = (product as u32) / 2_939_745 / 4;
    // The month, and the day of it: 2141 ÷ 2^16 is 5 ÷ 153, near enough.
    let line = 2_141 * day_of_year + 197_913;
    let (month, day) = (line >> 16, (line & 0xffff) / 2_141 + 1);
    let after_new_year = day_of_year >= 306;
    let year = (100 * century + year_of_century) as i32 - YEARS_UP + i32::from(after_new_year);
    let month = if after_new_year { month - 12 } else { month };
    (year, month, day)
}

/// Day number of a year, month (1 to 12) and day (1 to 31).
#[inline]
pub(crate) fn day_number_of(year: i32, month: u8, day: u8) -> i32 {
    if (-3_000..13_000).contains(&year) {
        return day_number_of_near(year, month, day);
    }
    let (cycles, year) = (i64::from(year.div_euclid(400)), year.rem_euclid(400));
    (cycles * DAYS_IN_CYCLE + i64::from(day_number_of_near(year, month, day))) as i32
}

/// The same for years near the calendar.
#[inline]
fn day_number_of_near(year: i32, month: u8, day: u8) -> i32 {
    day_number_lane(year, u32::from(month), u32::from(day))
}

/// The same in numbers of one width; the year is −3000 to 13000.
#[inline(always)]
pub(crate) const fn day_number_lane(year: i32, month: u32, day: u32) -> i32 {
    let before_march = month <= 2;
    let march_year = (year + YEARS_UP - before_march as i32) as u32;
    let month = month + if before_march { 12 } else { 0 };
    let century = march_year / 100;
    let days = 1_461 * march_year / 4 - century + century / 4;
    // The days before the month: 979 ÷ 32 is 153 ÷ 5, near enough.
    let before_month = (979 * month - 2_919) / 32;
    (days + before_month + day - 1) as i32 - DAYS_UP
}

/// Whether a year has 366 days.
#[inline]
pub(crate) fn is_leap_year(year: i32) -> bool {
    // The calendar repeats every 400 years.
    is_leap_year_lane(if (-3_000..13_000).contains(&year) { year } else { year.rem_euclid(400) })
}

/// The same with no division; the year is −3000 to 13000.
#[inline(always)]
const fn is_leap_year_lane(year: i32) -> bool {
    // One product whose bits show whether 4, 100 and 400 divide the year, for years up to 102,499 (F. Hüffner,
    // "A leap year check in three instructions", 2025); every year of a cycle is tried in the tests.
    let product = ((year + YEARS_UP) as u32).wrapping_mul(1_073_750_999);
    product & 3_221_352_463 <= 126_976
}

/// The number of days, 28 to 31, of a month 1 to 12.
#[inline]
pub(crate) fn month_length(year: i32, month: u8) -> u8 {
    // The calendar repeats every 400 years.
    let year = if (-3_000..13_000).contains(&year) { year } else { year.rem_euclid(400) };
    month_length_lane(year, u32::from(month)) as u8
}

/// The same in numbers of one width; the year is −3000 to 13000.
#[inline(always)]
pub(crate) const fn month_length_lane(year: i32, month: u32) -> u32 {
    // Of the months but February, those have 31 days whose number is odd up to July, and even from August on.
    let other = 30 | (month ^ (month >> 3));
    if month == 2 { 28 + is_leap_year_lane(year) as u32 } else { other }
}

/// The year and month a number of months from a month near the calendar, in numbers of one width; at most 36,000.
#[inline(always)]
pub(crate) fn month_on_lane(year: i32, month: u32, months: i32) -> (i32, u32) {
    let index = ((year + YEARS_UP) * 12 + month as i32 - 1 + months) as u32;
    ((index / 12) as i32 - YEARS_UP, index % 12 + 1)
}

/// Months since January of year 0, so that months add and subtract as numbers.
pub(crate) fn month_index(year: i32, month: u8) -> i64 {
    i64::from(year) * 12 + i64::from(month) - 1
}

/// The year and month of a month index.
pub(crate) fn month_of_index(index: i64) -> (i64, u8) {
    (index.div_euclid(12), (index.rem_euclid(12) + 1) as u8)
}
