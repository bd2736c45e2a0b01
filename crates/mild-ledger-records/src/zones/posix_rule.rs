//! The rule by which a zone's clock goes on changing, in the form of POSIX's `TZ` variable as RFC 9636 extends it.

use mild_ledger::Date;

/// What a zone's clock shows for a while.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct ClockOffset {
    /// Seconds east of UTC.
    pub(super) seconds: i32,
    /// The letters that it goes by, such as `CEST`.
    pub(super) letters: String,
}

/// Standard time, and perhaps daylight saving time between two days of each year.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct PosixRule {
    standard: ClockOffset,
    daylight: Option<Daylight>,
}

#[derive(Debug, Clone, PartialEq, Eq)]
struct Daylight {
    clock: ClockOffset,
    start: ChangeDay,
    end: ChangeDay,
}

/// A day of the year, and seconds from its midnight by the clock before the change.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
struct ChangeDay {
    day: DayOfYear,
    seconds: i32,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum DayOfYear {
    /// 1 to 365; a 29 February is not counted.
    WithoutLeapDay(u16),
    /// 0 to 365; a 29 February is counted.
    FromZero(u16),
    /// A week from 1 to 5, the last one, and a weekday from Sunday 0.
    Weekday { month: u8, week: u8, weekday: u8 },
}

const SECONDS_IN_DAY: i64 = 86_400;

impl PosixRule {
    /// Reads a rule such as `GMT0BST,M3.5.0/1,M10.5.0`; `None` where it is not one.
    pub(super) fn read(text: &str) -> Option<Self> {
        let mut rest = Rest(text);
        let letters = rest.name()?.to_owned();
        let standard = ClockOffset { seconds: -rest.time()?, letters };
        if rest.0.is_empty() {
            return Some(Self { standard, daylight: None });
        }
        let letters = rest.name()?.to_owned();
        let seconds = match rest.0.starts_with(',') {
            true => standard.seconds + 3_600,
            false => -rest.time()?,
        };
        let clock = ClockOffset { seconds, letters };
        let start = rest.change_day()?;
        let end = rest.change_day()?;
        rest.0.is_empty().then_some(Self { standard, daylight: Some(Daylight { clock, start, end }) })
    }

    pub(super) fn standard(&self) -> &ClockOffset {
        &self.standard
    }

    /// What the clock shows at a time in seconds since 1970-01-01T00:00:00 UTC.
    pub(super) fn clock_at(&self, seconds: i64) -> &ClockOffset {
        let Some(daylight) = &self.daylight else { return &self.standard };
        let local = seconds + i64::from(self.standard.seconds);
        let day = local.div_euclid(SECONDS_IN_DAY);
        // Outside the years that there are, the nearest one answers.
        let nearest = if day < 0 { Date::MIN } else { Date::MAX };
        let date = i32::try_from(day).ok().and_then(|day| Date::from_day_number(day).ok()).unwrap_or(nearest);
        let year = date.year();
        let start = daylight.start.seconds_in(year) - i64::from(self.standard.seconds);
        let end = daylight.end.seconds_in(year) - i64::from(daylight.clock.seconds);
        // In the south daylight saving time runs over New Year.
        let is_daylight =
            if start < end { start <= seconds && seconds < end } else { seconds < end || start <= seconds };
        if is_daylight { &daylight.clock } else { &self.standard }
    }
}

impl ChangeDay {
    /// Seconds since 1970-01-01T00:00:00 by the clock of that time.
    fn seconds_in(self, year: i32) -> i64 {
        i64::from(self.day.day_number_in(year)) * SECONDS_IN_DAY + i64::from(self.seconds)
    }
}

impl DayOfYear {
    fn day_number_in(self, year: i32) -> i32 {
        let first_of = |month: u8| Date::new(year, month, 1).map_or(0, Date::day_number);
        match self {
            Self::FromZero(day) => first_of(1) + i32::from(day),
            Self::WithoutLeapDay(day) => {
                let is_leap = first_of(3) - first_of(1) == 60;
                first_of(1) + i32::from(day) - 1 + i32::from(is_leap && day > 59)
            }
            Self::Weekday { month, week, weekday } => {
                let first = first_of(month);
                // 1970-01-01 was a Thursday.
                let into_week = (first + 4).rem_euclid(7);
                let day = first + (i32::from(weekday) - into_week).rem_euclid(7) + 7 * (i32::from(week) - 1);
                let next_month = if month == 12 { first + 31 } else { first_of(month + 1) };
                if day < next_month { day } else { day - 7 }
            }
        }
    }
}

/// The text that is left to read.
struct Rest<'t>(&'t str);

impl<'t> Rest<'t> {
    /// Letters, or anything in angle brackets.
    fn name(&mut self) -> Option<&'t str> {
        if let Some(quoted) = self.0.strip_prefix('<') {
            let (name, rest) = quoted.split_once('>')?;
            self.0 = rest;
            return (!name.is_empty()).then_some(name);
        }
        let end = self.0.find(|sign: char| !sign.is_ascii_alphabetic()).unwrap_or(self.0.len());
        let (name, rest) = self.0.split_at_checked(end)?;
        self.0 = rest;
        (end >= 3).then_some(name)
    }

    fn number(&mut self) -> Option<i32> {
        let end = self.0.find(|sign: char| !sign.is_ascii_digit()).unwrap_or(self.0.len());
        let (digits, rest) = self.0.split_at(end);
        self.0 = rest;
        digits.parse().ok().filter(|number| (0..=1_000).contains(number))
    }

    /// `[+-]hh[:mm[:ss]]` in seconds.
    fn time(&mut self) -> Option<i32> {
        let (sign, rest) = match self.0.strip_prefix('-') {
            Some(rest) => (-1, rest),
            None => (1, self.0.strip_prefix('+').unwrap_or(self.0)),
        };
        self.0 = rest;
        let mut seconds = self.number().filter(|hours| *hours <= 167)? * 3_600;
        for unit in [60, 1] {
            let Some(rest) = self.0.strip_prefix(':') else { break };
            self.0 = rest;
            seconds += self.number().filter(|number| *number < 60)? * unit;
        }
        Some(sign * seconds)
    }

    fn change_day(&mut self) -> Option<ChangeDay> {
        self.0 = self.0.strip_prefix(',')?;
        let part = |rest: &mut Self, low: i32, high: i32| {
            rest.number()
                .filter(|number| (low..=high).contains(number))
                .and_then(|number| u8::try_from(number).ok())
        };
        let day = if let Some(rest) = self.0.strip_prefix('M') {
            self.0 = rest;
            let month = part(self, 1, 12)?;
            self.0 = self.0.strip_prefix('.')?;
            let week = part(self, 1, 5)?;
            self.0 = self.0.strip_prefix('.')?;
            DayOfYear::Weekday { month, week, weekday: part(self, 0, 6)? }
        } else if let Some(rest) = self.0.strip_prefix('J') {
            self.0 = rest;
            let day = self.number().filter(|day| (1..=365).contains(day))?;
            DayOfYear::WithoutLeapDay(u16::try_from(day).ok()?)
        } else {
            let day = self.number().filter(|day| *day <= 365)?;
            DayOfYear::FromZero(u16::try_from(day).ok()?)
        };
        let seconds = match self.0.strip_prefix('/') {
            Some(rest) => {
                self.0 = rest;
                self.time()?
            }
            None => 7_200,
        };
        Some(ChangeDay { day, seconds })
    }
}

#[cfg(test)]
mod tests {
    use super::PosixRule;
    use mild_ledger::{ClockTime, Date, DateTime};

    fn seconds(text: &str) -> i64 {
        text.parse::<DateTime>().unwrap().microseconds() / 1_000_000
    }

    #[test]
    fn clocks_change_on_the_days_of_the_rule() {
        // Last Sundays of March and October at 01:00 UTC.
        let london = PosixRule::read("GMT0BST,M3.5.0/1,M10.5.0").unwrap();
        for (at, offset) in [
            ("2026-03-29T00:59:59", 0),
            ("2026-03-29T01:00:00", 3_600),
            ("2026-10-25T00:59:59", 3_600),
            ("2026-10-25T01:00:00", 0),
        ] {
            assert_eq!(london.clock_at(seconds(at)).seconds, offset, "{at}");
        }
        // The south: daylight saving time over New Year.
        let auckland = PosixRule::read("NZST-12NZDT,M9.5.0,M4.1.0/3").unwrap();
        assert_eq!(auckland.clock_at(seconds("2026-01-01T00:00")).seconds, 13 * 3_600);
        assert_eq!(auckland.clock_at(seconds("2026-07-01T00:00")).seconds, 12 * 3_600);
        assert_eq!(auckland.clock_at(seconds("2026-04-04T13:59:59")).seconds, 13 * 3_600);
        assert_eq!(auckland.clock_at(seconds("2026-04-04T14:00:00")).seconds, 12 * 3_600);
        // Days by number, with and without the leap day; names in brackets; one offset for ever.
        let by_number = PosixRule::read("<-03>3<-02>,J60/0,300/24:30:15").unwrap();
        let start = Date::new(2024, 3, 1).unwrap();
        assert_eq!(
            by_number
                .clock_at(DateTime::new(start, ClockTime::MIDNIGHT).microseconds() / 1_000_000 + 3 * 3_600)
                .seconds,
            -7_200
        );
        assert_eq!(
            by_number
                .clock_at(
                    DateTime::new(start, ClockTime::MIDNIGHT).microseconds() / 1_000_000 + 3 * 3_600 - 1
                )
                .seconds,
            -10_800
        );
        assert_eq!(PosixRule::read("UTC0").unwrap().clock_at(0).seconds, 0);
        assert_eq!(PosixRule::read("IST-5:30").unwrap().clock_at(0).seconds, 19_800);
    }

    #[test]
    fn what_is_not_a_rule_is_refused() {
        for text in [
            "",
            "UTC",
            "/dev/zero",
            "GMT0BST",
            "GMT0BST,M3.5.0",
            "GMT0BST,M13.5.0,M10.5.0",
            "GMT0BST,M3.5.0,M10.5.0x",
            "GMT999",
            "<>0",
            "GMT0BST,J0,J5",
        ] {
            assert_eq!(PosixRule::read(text), None, "{text:?}");
        }
    }
}
