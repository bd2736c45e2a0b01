//! Day number to year, month and day, and back, in constant time.
//!
//! Both ways count in years that begin on 1 March, so that the leap day is the last of its year and the
//! months' lengths follow one line (153 days every five months). A cycle of 400 years has 146,097 days.
//! Everything is moved up by whole cycles first, so that the divisions are of unsigned numbers.

/// Days from 0000-03-01 to 1970-01-01.
const EPOCH_FROM_MARCH_0: i64 = 719_468;
/// Whole cycles that bring every `i32` above zero.
const CYCLES_UP: i64 = 16_000;
/// Days in 400 years.
pub(crate) const DAYS_IN_CYCLE: i64 = 146_097;

/// Year, month and day of a day number.
pub(crate) fn civil_of(day_number: i32) -> (i32, u8, u8) {
    let moved = (i64::from(day_number) + EPOCH_FROM_MARCH_0 + CYCLES_UP * DAYS_IN_CYCLE) as u64;
    let cycle = moved / DAYS_IN_CYCLE as u64;
    let day_of_cycle = (moved % DAYS_IN_CYCLE as u64) as u32;
    let year_of_cycle =
        (day_of_cycle - day_of_cycle / 1_460 + day_of_cycle / 36_524 - day_of_cycle / 146_096) / 365;
    let day_of_year = day_of_cycle - (365 * year_of_cycle + year_of_cycle / 4 - year_of_cycle / 100);
    let march_month = (5 * day_of_year + 2) / 153;
    let day = day_of_year - (153 * march_month + 2) / 5 + 1;
    let month = if march_month < 10 { march_month + 3 } else { march_month - 9 };
    let march_year = cycle as i64 * 400 + i64::from(year_of_cycle) - CYCLES_UP * 400;
    let year = march_year + i64::from(month <= 2);
    (year as i32, month as u8, day as u8)
}

/// Day number of a year, month (1 to 12) and day (1 to 31).
pub(crate) fn day_number_of(year: i32, month: u8, day: u8) -> i32 {
    let march_year = i64::from(year) - i64::from(month <= 2);
    let march_month = if month > 2 { i64::from(month) - 3 } else { i64::from(month) + 9 };
    let moved = (march_year + CYCLES_UP * 400) as u64;
    let (cycle, year_of_cycle) = (moved / 400, moved % 400);
    let day_of_year = (153 * march_month as u64 + 2) / 5 + u64::from(day) - 1;
    let day_of_cycle = year_of_cycle * 365 + year_of_cycle / 4 - year_of_cycle / 100 + day_of_year;
    let days = cycle as i64 * DAYS_IN_CYCLE + day_of_cycle as i64;
    (days - EPOCH_FROM_MARCH_0 - CYCLES_UP * DAYS_IN_CYCLE) as i32
}

/// Whether a year has 366 days.
pub(crate) fn is_leap_year(year: i32) -> bool {
    year % 4 == 0 && (year % 100 != 0 || year % 400 == 0)
}

/// The number of days, 28 to 31, of a month 1 to 12.
pub(crate) fn month_length(year: i32, month: u8) -> u8 {
    match month {
        2 if is_leap_year(year) => 29,
        2 => 28,
        4 | 6 | 9 | 11 => 30,
        _ => 31,
    }
}

/// Months since January of year 0, so that months add and subtract as numbers.
pub(crate) fn month_index(year: i32, month: u8) -> i64 {
    i64::from(year) * 12 + i64::from(month) - 1
}

/// The year and month of a month index.
pub(crate) fn month_of_index(index: i64) -> (i64, u8) {
    (index.div_euclid(12), (index.rem_euclid(12) + 1) as u8)
}
