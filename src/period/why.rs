//! The working of a period: why a date lies in it, and why it is called so.

use super::{Period, PeriodRule};
use crate::date::month_names::month_name;
use crate::date::{Date, year_month_day};
use crate::reasoning::Working;
use alloc::format;
use alloc::string::String;

impl PeriodRule {
    /// How the period that a date lies in is found; the last step gives its label.
    ///
    /// ```
    /// use mild_ledger::{FiscalYear, PeriodRule};
    /// let date = "2026-09-30".parse()?;
    /// assert_eq!(
    ///     PeriodRule::Quarter.why(date).to_string(),
    ///     "quarter: 2026-09-30 lies in month 9 of 2026, from 2026-07-01 through 2026-09-30, 92 days, so 2026-Q3"
    /// );
    /// let fiscal = PeriodRule::FiscalQuarter(FiscalYear::starting(10, 1)?);
    /// assert_eq!(
    ///     fiscal.why(date).to_string(),
    ///     "fiscal quarter: fiscal years begin on 1 October and the last to begin by 2026-09-30 begins on 2025-10-01, \
    ///      it ends on 2026-09-30 and is named by the year it ends in, 2026, \
    ///      its quarter 4 runs from 2026-07-01 through 2026-09-30, 92 days, so FY2026-Q4"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why(self, date: Date) -> Working {
        let period = self.containing(date);
        let working = Working::of_rule(self.word());
        let working = match self {
            Self::Week(first) => {
                let into = period.position_of(date).unwrap_or(1) - 1;
                let word = if into == 1 { "day" } else { "days" };
                let fourth = shown(period.bounds().0 + 3);
                working
                    .step(
                        format!("{date} is a {}, {into} {word} after {first}", date.weekday()),
                        date.weekday(),
                    )
                    .step(bounds(&period), period.days())
                    .step(
                        format!("its fourth day, {fourth}, lies in week {} of that year", period.number()),
                        fourth,
                    )
            }
            Self::Month | Self::Quarter | Self::HalfYear | Self::Year => {
                let (year, month, _) = date.year_month_day();
                working
                    .step(format!("{date} lies in month {month} of {year:04}"), month)
                    .step(bounds(&period), period.days())
            }
            Self::FiscalPeriod(fiscal) | Self::FiscalQuarter(fiscal) | Self::FiscalYear(fiscal) => {
                let year = Self::FiscalYear(fiscal).containing(date);
                let (first, last) = year.bounds();
                let (month, day) = (fiscal.first_month(), fiscal.first_day());
                let working = working
                    .step(
                        format!(
                            "fiscal years begin on {day} {} and the last to begin by {date} begins on {}",
                            month_name(month),
                            shown(first)
                        ),
                        shown(first),
                    )
                    .step(
                        format!(
                            "it ends on {} and is named by the year it {}s in, {:04}",
                            shown(last),
                            fiscal.naming(),
                            year.year()
                        ),
                        year.year(),
                    );
                part_of_year(working, &period)
            }
            Self::WeekPeriod(weeks) | Self::WeekQuarter(weeks) | Self::WeekYear(weeks) => {
                let year = Self::WeekYear(weeks).containing(date);
                let (first, last) = year.bounds();
                let day = i64::from(date.day_number()) - first + 1;
                let working = working
                    .step(format!("week-years end on the {weeks}"), weeks)
                    .step(
                        format!(
                            "{:04} runs from {} through {}, {} weeks",
                            year.year(),
                            shown(first),
                            shown(last),
                            year.days() / 7
                        ),
                        year.year(),
                    )
                    .step(
                        format!("{date} is day {day} of it, in week {}", (day - 1) / 7 + 1),
                        (day - 1) / 7 + 1,
                    );
                part_of_year(working, &period)
            }
        };
        working.step(format!("so {}", period.label()), period.label())
    }
}

/// Which part of a year the period is, where it is not the whole.
fn part_of_year(working: Working, period: &Period) -> Working {
    let word = match period.rule() {
        PeriodRule::FiscalPeriod(_) | PeriodRule::WeekPeriod(_) => "period",
        PeriodRule::FiscalQuarter(_) | PeriodRule::WeekQuarter(_) => "quarter",
        _ => return working,
    };
    working.step(format!("its {word} {} runs {}", period.number(), bounds(period)), period.number())
}

fn bounds(period: &Period) -> String {
    let (first, last) = period.bounds();
    format!("from {} through {}, {} days", shown(first), shown(last), period.days())
}

/// A day as a date; one just outside the calendar, by year, month and day all the same.
fn shown(day_number: i64) -> String {
    // Bounds of periods lie within a year of the calendar.
    let (year, month, day) = year_month_day::year_month_day_of(i32::try_from(day_number).unwrap_or(i32::MAX));
    format!("{year:04}-{month:02}-{day:02}")
}
