//! Yearly recurrence rules of iCalendar (RFC 5545, section 3.3.10).

use mild_ledger::{Date, Month, WeekNumbers, Weekday};
use std::collections::BTreeSet;

/// An all-day event, once or every a number of years.
#[derive(Debug, Clone)]
pub(crate) struct RepeatedEvent {
    pub(crate) name: String,
    pub(crate) start: Date,
    /// How many days it lasts.
    pub(crate) days: i32,
    pub(crate) rule: YearlyRule,
    /// Occurrences that are left out, or that another event represents.
    pub(crate) except: BTreeSet<Date>,
}

/// The rule by which it comes round; what is not stated is taken from the start.
#[derive(Debug, Clone)]
pub(crate) struct YearlyRule {
    pub(crate) interval: i32,
    pub(crate) until: Option<Date>,
    pub(crate) count: Option<u32>,
    pub(crate) months: Vec<u8>,
    pub(crate) month_days: Vec<i32>,
    pub(crate) year_days: Vec<i32>,
    pub(crate) weeks: Vec<i32>,
    /// Weekdays, each with its number in the month or the year, from its end where negative; 0 for all of them.
    pub(crate) weekdays: Vec<(i32, Weekday)>,
    pub(crate) positions: Vec<i32>,
    pub(crate) weeks_begin: Weekday,
}

impl Default for YearlyRule {
    fn default() -> Self {
        Self {
            interval: 1,
            until: None,
            count: None,
            months: Vec::new(),
            month_days: Vec::new(),
            year_days: Vec::new(),
            weeks: Vec::new(),
            weekdays: Vec::new(),
            positions: Vec::new(),
            weeks_begin: Weekday::Monday,
        }
    }
}

impl RepeatedEvent {
    /// Whether its start is an occurrence of its rule; where it is not, the standard does not say what is meant.
    pub(crate) fn begins_with_its_start(&self) -> bool {
        self.rule.occurrences_in(self.start.year(), self.start).contains(&self.start)
    }

    /// How much there is to look at for the days of some years: about one for each day that is tried.
    pub(crate) fn work_in(&self, first_year: i32, last_year: i32) -> u64 {
        // A counted rule is followed from its start.
        let from =
            if self.rule.count.is_some() { self.start.year() } else { first_year.max(self.start.year()) };
        let years = u64::try_from((last_year - from) / self.rule.interval + 1).unwrap_or(0);
        let tried = if self.rule.takes_start_day() { 12 } else { 366 };
        let counted = u64::from(self.rule.count.unwrap_or(u32::MAX));
        years.min(counted.saturating_mul(400)) * tried
    }

    /// The days of all occurrences that reach into some years.
    pub(crate) fn days_in(&self, first_year: i32, last_year: i32) -> Vec<Date> {
        let rule = &self.rule;
        // An event of many days reaches into the next year or two.
        let from = first_year - 1 - self.days / 365;
        let mut year = self.start.year();
        if rule.count.is_none() && from > year {
            year += (from - year) / rule.interval * rule.interval;
        }
        let mut left = rule.count.unwrap_or(u32::MAX);
        let mut days = Vec::new();
        while year <= last_year && left > 0 {
            let occurrences = rule.occurrences_in(year, self.start);
            for date in occurrences.into_iter().filter(|date| *date >= self.start) {
                if left == 0 || rule.until.is_some_and(|until| date > until) {
                    return days;
                }
                left -= 1;
                if !self.except.contains(&date) {
                    let first = date.day_number();
                    let dates = (first..first + self.days).filter_map(|day| Date::from_day_number(day).ok());
                    days.extend(dates.filter(|date| (first_year..=last_year).contains(&date.year())));
                }
            }
            let Some(next) = year.checked_add(rule.interval) else { break };
            year = next;
        }
        days
    }
}

impl YearlyRule {
    /// The days of a year on which it falls, in order.
    fn occurrences_in(&self, year: i32, start: Date) -> Vec<Date> {
        let (Ok(first), Ok(last)) = (Date::new(year, 1, 1), Date::new(year, 12, 31)) else {
            return Vec::new();
        };
        if self.takes_start_day() {
            let start_month = [start.month()];
            let months = if self.months.is_empty() { start_month.as_slice() } else { &self.months };
            let mut days: Vec<Date> =
                months.iter().filter_map(|month| Date::new(year, *month, start.day()).ok()).collect();
            days.sort_unstable();
            return self.at_positions(days);
        }
        let days = (first.day_number()..=last.day_number()).filter_map(|day| Date::from_day_number(day).ok());
        self.at_positions(days.filter(|date| self.falls_on(*date, (first, last), start)).collect())
    }

    /// Whether it falls on the day of the month that it started on, in one month or several.
    fn takes_start_day(&self) -> bool {
        self.month_days.is_empty()
            && self.year_days.is_empty()
            && self.weeks.is_empty()
            && self.weekdays.is_empty()
    }

    fn falls_on(&self, date: Date, (first, last): (Date, Date), start: Date) -> bool {
        let year_length = last.day_number() - first.day_number() + 1;
        let from_start = |number: i32, length: i32| if number < 0 { length + 1 + number } else { number };
        let has = |numbers: &[i32], place: i32, length: i32| {
            numbers.is_empty() || numbers.iter().any(|number| from_start(*number, length) == place)
        };
        let month_length = i32::from(Month::of(date).length_in_days());
        let in_year = date.day_number() - first.day_number() + 1;
        (self.months.is_empty() || self.months.contains(&date.month()))
            && has(&self.month_days, i32::from(date.day()), month_length)
            && has(&self.year_days, in_year, year_length)
            && self.is_in_week(date, last)
            && self.is_on_weekday(date, start, (in_year, year_length), month_length)
    }

    fn is_in_week(&self, date: Date, last: Date) -> bool {
        if self.weeks.is_empty() {
            return true;
        }
        let Ok(numbers) = WeekNumbers::new(self.weeks_begin, 4) else { return false };
        let week = numbers.of(date);
        // The last week of the year is that of its 28 December, whatever day weeks begin on.
        let weeks = Date::new(last.year(), 12, 28).map_or(52, |late| i32::from(numbers.of(late).week()));
        let number_of = |week: i32| if week < 0 { weeks + 1 + week } else { week };
        week.year() == last.year()
            && self.weeks.iter().any(|wanted| number_of(*wanted) == i32::from(week.week()))
    }

    fn is_on_weekday(&self, date: Date, start: Date, in_year: (i32, i32), month_length: i32) -> bool {
        if self.weekdays.is_empty() {
            // A week alone falls on the weekday of the start.
            return self.weeks.is_empty() || date.weekday() == start.weekday();
        }
        let (place, length) =
            if self.months.is_empty() { in_year } else { (i32::from(date.day()), month_length) };
        let from_start = (place - 1) / 7 + 1;
        let from_end = -((length - place) / 7 + 1);
        self.weekdays.iter().any(|(number, weekday)| {
            *weekday == date.weekday() && (*number == 0 || *number == from_start || *number == from_end)
        })
    }

    fn at_positions(&self, days: Vec<Date>) -> Vec<Date> {
        if self.positions.is_empty() {
            return days;
        }
        let length = i32::try_from(days.len()).unwrap_or(i32::MAX);
        let wanted: BTreeSet<i32> = self
            .positions
            .iter()
            .map(|position| if *position < 0 { length + 1 + position } else { *position })
            .collect();
        (1..).zip(days).filter(|(place, _)| wanted.contains(place)).map(|(_, date)| date).collect()
    }
}
