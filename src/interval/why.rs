//! The working of an interval's figures.

use super::day_count::days_of_leap_and_common_years;
use super::measure::no_time_of_day;
use super::{CountRule, DayCount, Fraction, Interval, Measure, Way};
use crate::date::{Date, year_month_day};
use crate::error::Error;
use crate::reasoning::Working;
use crate::shift::{MonthEnd, Unit};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;

impl Interval {
    /// How the figure under a rule comes about.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Interval};
    /// let interval = Interval::between("2025-12-30".parse()?, "2026-01-02".parse()?);
    /// assert_eq!(
    ///     interval.why(CountRule::DAYS).to_string(),
    ///     "days: 1 day to 2025-12-31, 2 days of 2026 to 2026-01-02, so 3"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why(self, rule: CountRule) -> Working {
        match rule.way() {
            _ if rule.unit() == Unit::Day => self.why_days(),
            Way::Complete => self.why_complete(rule.unit()),
            Way::StartsPassed => self.why_starts_passed(rule.unit()),
        }
    }

    /// How the figure of a measure comes about.
    ///
    /// # Errors
    /// [`ErrorKind::NoTimeOfDay`](crate::ErrorKind::NoTimeOfDay) for one that only date-times have.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Measure};
    /// let interval = Interval::between(Date::MIN, Date::MAX);
    /// assert_eq!(interval.why_measure(Measure::Parts)?, interval.why_parts());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_measure(self, measure: Measure) -> Result<Working, Error> {
        Ok(match measure {
            Measure::Count(rule) => self.why(rule),
            Measure::Fractional(unit) => self.why_fractional(unit),
            Measure::YearFraction(convention) => self.why_year_fraction(convention),
            Measure::MeanMonths(mean) => {
                let (figure, (first, last, _)) = (self.mean_months(mean), self.in_order());
                let days = i64::from(last) - i64::from(first);
                let word = Unit::Day.word_for(days);
                self.begin(mean).step(format!("{days} {word}"), days).step(format!("so {figure}"), figure)
            }
            Measure::CalendarMonths => self.why_calendar_months(),
            Measure::Parts => self.why_parts(),
            Measure::Clock(measure) => return Err(no_time_of_day(measure)),
        })
    }

    /// How the complete units come about: the earlier date moved by as many as reach the later, and by one more.
    ///
    /// ```
    /// # use mild_ledger::{Interval, Unit};
    /// let interval = Interval::between("2026-03-15".parse()?, "2026-05-14".parse()?);
    /// assert_eq!(
    ///     interval.why_complete(Unit::Month).to_string(),
    ///     "complete months: 2026-03-15 + 1 month = 2026-04-15, + 2 months = 2026-05-15, after 2026-05-14, so 1"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why_complete(self, unit: Unit) -> Working {
        if unit == Unit::Day {
            return self.why_days();
        }
        let rule = CountRule::new(Way::Complete, unit);
        let figure = self.figure(rule);
        let (first, last, _) = self.in_order();
        let count = i64::from(figure.unsigned_abs());
        let mut working = self.begin(rule);
        let mut from = format!("{} ", Shown(i64::from(first)));
        for count in [count, count + 1].into_iter().filter(|count| *count > 0) {
            let moved = self.moved(first, count, unit);
            let word = unit.word_for(count);
            let note = self.note_on(first, moved, unit);
            let after = if moved > i64::from(last) {
                format!(", after {}", Shown(i64::from(last)))
            } else {
                String::new()
            };
            working =
                working.step(format!("{from}+ {count} {word} = {}{note}{after}", Shown(moved)), Shown(moved));
            from = String::new();
        }
        working.step(format!("so {figure}"), figure)
    }

    /// How the unit starts passed come about: the first one after the earlier date, and the last one up to the
    /// later.
    ///
    /// ```
    /// # use mild_ledger::{Interval, Unit};
    /// let interval = Interval::between("2019-11-30".parse()?, "2022-01-02".parse()?);
    /// assert_eq!(
    ///     interval.why_starts_passed(Unit::Year).to_string(),
    ///     "year starts passed: the first after 2019-11-30 is 2020-01-01, \
    ///      the last up to 2022-01-02 is 2022-01-01, 2 years later, so 3"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why_starts_passed(self, unit: Unit) -> Working {
        if unit == Unit::Day {
            return self.why_days();
        }
        let rule = CountRule::new(Way::StartsPassed, unit);
        let figure = self.figure(rule);
        let (first, last, _) = self.in_order();
        let mut working = self.begin(rule);
        if unit == Unit::Week {
            working = working.step(format!("weeks start on {}", self.week_begins), self.week_begins);
        }
        let (from, to) = (Shown(i64::from(first)), Shown(i64::from(last)));
        let before = figure.unsigned_abs();
        if before == 0 {
            return working.step(format!("no {unit} starts after {from} up to {to}, so 0"), figure);
        }
        let latest = self.start_of(last, unit);
        let earliest = Shown(self.next_start(first, unit));
        let later = i64::from(before) - 1;
        working
            .step(format!("the first after {from} is {earliest}"), &earliest)
            .step(
                match later {
                    0 => format!("which is also the last up to {to}"),
                    _ => format!(
                        "the last up to {to} is {}, {later} {} later",
                        Shown(latest),
                        unit.word_for(later)
                    ),
                },
                Shown(latest),
            )
            .step(format!("so {figure}"), figure)
    }

    /// How the days come about: to the end of the first year, the years between, and into the last.
    ///
    /// ```
    /// # use mild_ledger::Interval;
    /// let interval = Interval::between("2019-11-30".parse()?, "2022-01-02".parse()?);
    /// assert_eq!(
    ///     interval.why_days().to_string(),
    ///     "days: 31 days to 2019-12-31, 731 days in the 2 years 2020 to 2021, 2 days of 2022 to 2022-01-02, so 764"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why_days(self) -> Working {
        let (first, last, sign) = self.in_order();
        let figure = (i64::from(last) - i64::from(first)) * sign;
        let mut working = self.begin(CountRule::DAYS);
        let ((first_year, ..), (last_year, ..)) =
            (year_month_day::year_month_day_of(first), year_month_day::year_month_day_of(last));
        let day = |days: i32| format!("{days} {}", Unit::Day.word_for(i64::from(days)));
        if first_year == last_year {
            let day_of_year = |number: i32| number - year_month_day::day_number_of(first_year, 1, 1) + 1;
            return working.step(
                format!(
                    "{} is day {} of {first_year:04} and {} day {}, so {figure}",
                    Shown(i64::from(last)),
                    day_of_year(last),
                    Shown(i64::from(first)),
                    day_of_year(first)
                ),
                figure,
            );
        }
        let old_year = year_month_day::day_number_of(first_year, 12, 31);
        let new_year = year_month_day::day_number_of(last_year, 1, 1);
        working =
            working.step(format!("{} to {first_year:04}-12-31", day(old_year - first)), old_year - first);
        let years = last_year - first_year - 1;
        if years > 0 {
            let days = new_year - 1 - old_year;
            let said = match years {
                1 => format!("{} in {:04}", day(days), first_year + 1),
                _ => format!(
                    "{} in the {years} years {:04} to {:04}",
                    day(days),
                    first_year + 1,
                    last_year - 1
                ),
            };
            working = working.step(said, days);
        }
        let of_last = last - new_year + 1;
        working
            .step(format!("{} of {last_year:04} to {}", day(of_last), Shown(i64::from(last))), of_last)
            .step(format!("so {figure}"), figure)
    }

    /// How the parts come about: the earlier date moved by the complete months, then the days to the later.
    ///
    /// ```
    /// # use mild_ledger::Interval;
    /// let interval = Interval::between("2012-05-20".parse()?, "2021-07-04".parse()?);
    /// assert_eq!(
    ///     interval.why_parts().to_string(),
    ///     "parts: 2012-05-20 + 9 years 1 month = 2021-06-20, 14 days on to 2021-07-04, so 9 years, 1 month and 14 days"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why_parts(self) -> Working {
        let parts = self.parts();
        let (first, last, _) = self.in_order();
        let months = i64::from(self.complete_months(first, last));
        let reached = self.moved_by_months(first, months);
        let (years, rest) = (months / 12, months % 12);
        let words: Vec<String> = [(years, Unit::Year), (rest, Unit::Month)]
            .into_iter()
            .filter(|(amount, _)| *amount != 0)
            .map(|(amount, unit)| format!("{amount} {}", unit.word_for(amount)))
            .collect();
        let amount = if words.is_empty() { "0 months".to_owned() } else { words.join(" ") };
        let days = i64::from(last) - reached;
        let note = self.note_on(first, reached, Unit::Month);
        self.begin("parts")
            .step(
                format!("{} + {amount} = {}{note}", Shown(i64::from(first)), Shown(reached)),
                Shown(reached),
            )
            .step(format!("{days} {} on to {}", Unit::Day.word_for(days), Shown(i64::from(last))), days)
            .step(format!("so {parts}"), parts)
    }

    /// How the fractional units come about.
    ///
    /// ```
    /// # use mild_ledger::{Interval, Unit};
    /// let interval = Interval::between("2019-11-30".parse()?, "2022-01-02".parse()?);
    /// assert_eq!(
    ///     interval.why_fractional(Unit::Month).to_string(),
    ///     "fractional months: 2019-11-30 + 25 months = 2021-12-30, + 26 months = 2022-01-30, 31 days later, \
    ///      2022-01-02 is 3 days on, so 25 + 3/31"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why_fractional(self, unit: Unit) -> Working {
        let fraction = self.fractional(unit);
        if unit == Unit::Day {
            return self.why_days();
        }
        let (first, last, _) = self.in_order();
        let count = fraction.whole().abs();
        let (reached, next) = (self.moved(first, count, unit), self.moved(first, count + 1, unit));
        let days = |days: i64| format!("{days} {}", Unit::Day.word_for(days));
        let moved = |count: i64, to| {
            format!("+ {count} {} = {}{}", unit.word_for(count), Shown(to), self.note_on(first, to, unit))
        };
        self.begin(format!("fractional {}", unit.plural()))
            .step(format!("{} {}", Shown(i64::from(first)), moved(count, reached)), Shown(reached))
            .step(format!("{}, {} later", moved(count + 1, next), days(next - reached)), Shown(next))
            .step(
                format!("{} is {} on", Shown(i64::from(last)), days(i64::from(last) - reached)),
                i64::from(last) - reached,
            )
            .step(format!("so {fraction}"), fraction)
    }

    /// How the fraction of a year by a convention comes about.
    ///
    /// ```
    /// # use mild_ledger::{DayCount, Interval};
    /// let interval = Interval::between("2026-02-28".parse()?, "2026-03-31".parse()?);
    /// assert_eq!(
    ///     interval.why_year_fraction(DayCount::Actual360).to_string(),
    ///     "actual-360: 31 days over 360, so 31/360"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why_year_fraction(self, convention: DayCount) -> Working {
        let figure: Fraction = self.year_fraction(convention);
        let (first, last, _) = self.in_order();
        let days = i64::from(last) - i64::from(first);
        let said = match convention {
            DayCount::Thirty360Bond | DayCount::Thirty360European => {
                let days = figure.improper_numerator().abs() * 360 / i128::from(figure.denominator());
                format!("{days} days of 30-day months over 360")
            }
            DayCount::ActualActualIsda => {
                let (leap, common) = days_of_leap_and_common_years(first, last);
                format!("{leap} days of leap years over 366 + {common} of common years over 365")
            }
            DayCount::Actual365Fixed => format!("{days} days over 365"),
            DayCount::Actual360 => format!("{days} days over 360"),
            DayCount::MeanJulianYear => format!("{days} days over 365.25"),
            DayCount::MeanGregorianYear => format!("{days} days over 365.2425"),
        };
        self.begin(convention).step(said, days).step(format!("so {figure}"), figure)
    }

    /// A working with its rule, and what was done to the ends before anything was counted.
    fn begin(self, rule: impl fmt::Display) -> Working {
        let mut working = Working::of_rule(rule.to_string());
        if self.end < self.start {
            working = working.step(
                format!(
                    "the end {} lies before the start {}, so counted from the end and negated",
                    self.end, self.start
                ),
                self.end,
            );
        }
        let (_, last, _) = self.in_order();
        if self.ends() == super::Ends::FirstAndLast {
            let later = self.start.max(self.end);
            working = working.step(
                format!(
                    "first and last day counted, so to the day after {later}, {}",
                    Shown(i64::from(last))
                ),
                Shown(i64::from(last)),
            );
        }
        working
    }

    /// The day number of `first` moved by a number of units.
    fn moved(self, first: i32, count: i64, unit: Unit) -> i64 {
        match unit {
            Unit::Day => i64::from(first) + count,
            Unit::Week => i64::from(first) + 7 * count,
            Unit::Month => self.moved_by_months(first, count),
            Unit::Quarter => self.moved_by_months(first, 3 * count),
            Unit::HalfYear => self.moved_by_months(first, 6 * count),
            Unit::Year => self.moved_by_months(first, 12 * count),
        }
    }

    /// The first day of the unit that a day lies in.
    fn start_of(self, day_number: i32, unit: Unit) -> i64 {
        let (year, month, _) = year_month_day::year_month_day_of(day_number);
        let months = match unit {
            Unit::Day => return i64::from(day_number),
            Unit::Week => return i64::from(day_number) - self.days_into_week(day_number),
            Unit::Month => 1,
            Unit::Quarter => 3,
            Unit::HalfYear => 6,
            Unit::Year => 12,
        };
        i64::from(year_month_day::day_number_of(year, (month - 1) / months * months + 1, 1))
    }

    /// The first day of the unit after the one that a day lies in.
    fn next_start(self, day_number: i32, unit: Unit) -> i64 {
        let start = self.start_of(day_number, unit);
        let months = match unit {
            Unit::Day => return start + 1,
            Unit::Week => return start + 7,
            Unit::Month => 1,
            Unit::Quarter => 3,
            Unit::HalfYear => 6,
            Unit::Year => 12,
        };
        let start = i32::try_from(start).unwrap_or(day_number);
        MonthEnd::Clamp.day_number_after_months(start, months).unwrap_or(i64::from(start))
    }

    /// What the rule for month ends did to a moved date, where it did something.
    fn note_on(self, first: i32, moved: i64, unit: Unit) -> &'static str {
        let (_, _, from_day) = year_month_day::year_month_day_of(first);
        match (unit, i32::try_from(moved).map(year_month_day::year_month_day_of)) {
            (Unit::Day | Unit::Week, _) | (_, Err(_)) => "",
            (_, Ok((_, _, day))) if day == from_day => "",
            _ if self.month_end == MonthEnd::NextStart => " (the first, for want of the day)",
            _ if self.month_end == MonthEnd::Keep => " (month end)",
            _ => " (clamped)",
        }
    }
}

/// A day number as a date; one just outside the years there are, as what it is.
struct Shown(i64);

impl fmt::Display for Shown {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match Date::in_range(self.0) {
            Some(date) => write!(f, "{date}"),
            None if self.0 > 0 => f.write_str("a day after 9999-12-31"),
            None => f.write_str("a day before 0001-01-01"),
        }
    }
}
