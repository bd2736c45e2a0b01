//! The naive calendar: days counted one after the other, with no formula of the library's.
#![allow(dead_code, unreachable_pub)] // each test file uses a part of it

use mild_ledger::Date;

/// A day with its year, month and day, stepped on by one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Day {
    pub year: i32,
    pub month: u8,
    pub day: u8,
}

pub fn length_of(year: i32, month: u8) -> u8 {
    let leap = if year % 100 == 0 { year % 400 == 0 } else { year % 4 == 0 };
    [31, if leap { 29 } else { 28 }, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][usize::from(month) - 1]
}

impl Day {
    pub fn next(self) -> Self {
        let Self { year, month, day } = self;
        if day < length_of(year, month) {
            Self { day: day + 1, ..self }
        } else if month < 12 {
            Self { month: month + 1, day: 1, ..self }
        } else {
            Self { year: year + 1, month: 1, day: 1 }
        }
    }

    pub fn next_month(self, wanted_day: u8) -> Self {
        let (year, month) = if self.month < 12 { (self.year, self.month + 1) } else { (self.year + 1, 1) };
        Self { year, month, day: wanted_day.min(length_of(year, month)) }
    }

    pub fn date(self) -> Date {
        Date::new(self.year, self.month, self.day).expect("a day of the counter exists")
    }
}

/// The days from one on, for a number of days.
pub fn days_from(year: i32, month: u8, day: u8, count: usize) -> Vec<Day> {
    let mut days = Vec::with_capacity(count);
    let mut today = Day { year, month, day };
    for _ in 0..count {
        days.push(today);
        today = today.next();
    }
    days
}
