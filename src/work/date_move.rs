//! A move of a date in several steps, of which only the last result has to be a date.

use super::calendar::{WorkCalendar, shown};
use super::roll::Roll;
use super::why::WorkingGrid;
use crate::date::{Date, DateTime};
use crate::error::{Error, ErrorKind};
use crate::period::PeriodEdge;
use crate::reasoning::Working;
use crate::shift::{Shift, WeekdayMove};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::{String, ToString};

/// How a date is moved: by an amount of time, then to the start or the end of its period, then to a weekday, then rolled to
/// a working day. Each step is left out unless it is named; days on the way may lie outside the years 0001 to 9999.
///
/// ```
/// use mild_ledger::{DateMove, PeriodEdge, PeriodRule, Roll, WorkCalendar};
///
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let due = DateMove::by("1 month".parse()?).to_edge(PeriodEdge::end_of(PeriodRule::Month)).rolled(Roll::Preceding);
/// // 31 January 2027 is a Sunday.
/// assert_eq!(due.apply("2026-12-10".parse()?, Some(&week))?.to_string(), "2027-01-29");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct DateMove {
    shift: Shift,
    edge: Option<PeriodEdge>,
    weekday: Option<WeekdayMove>,
    roll: Roll,
}

/// How a moved date came about.
///
/// ```
/// use mild_ledger::{DateMove, WorkCalendar};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let why = DateMove::by("1M 2wd".parse()?).why("2026-01-31".parse()?, Some(&week))?;
/// assert_eq!(why.working().figure(), "2026-03-03");
/// assert_eq!(why.grid().map(|grid| grid.months().len()), Some(1));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MoveWorking {
    working: Working,
    grid: Option<WorkingGrid>,
}

impl MoveWorking {
    /// The rule and the steps, the moved date last.
    ///
    /// ```
    /// # use mild_ledger::{DateMove, Shift};
    /// let why = DateMove::by(Shift::days(30)).why("2026-01-31".parse()?, None)?;
    /// assert_eq!(why.working().to_string(), "days: 2026-01-31 + 30 days = 2026-03-02");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn working(&self) -> &Working {
        &self.working
    }

    /// The months that working days were counted in; `None` where none were.
    ///
    /// ```
    /// # use mild_ledger::{DateMove, Shift};
    /// assert!(DateMove::by(Shift::days(30)).why("2026-01-31".parse()?, None)?.grid().is_none());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn grid(&self) -> Option<&WorkingGrid> {
        self.grid.as_ref()
    }
}

impl Default for DateMove {
    /// The move that leaves every date where it is.
    fn default() -> Self {
        Self { shift: Shift::days(0), edge: None, weekday: None, roll: Roll::Unadjusted }
    }
}

impl DateMove {
    /// The move by an amount of time.
    ///
    /// ```
    /// # use mild_ledger::{DateMove, Shift};
    /// assert_eq!(DateMove::by(Shift::days(1)).apply("2026-02-28".parse()?, None)?.to_string(), "2026-03-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn by(shift: Shift) -> Self {
        Self { shift, ..Self::default() }
    }

    /// The same, then to the start or the end of the period it lies in.
    ///
    /// ```
    /// # use mild_ledger::{DateMove, PeriodEdge, PeriodRule};
    /// let month_end = DateMove::default().to_edge(PeriodEdge::end_of(PeriodRule::Month));
    /// assert_eq!(month_end.apply("2026-02-10".parse()?, None)?.to_string(), "2026-02-28");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn to_edge(self, edge: PeriodEdge) -> Self {
        Self { edge: Some(edge), ..self }
    }

    /// The same, then to a weekday.
    ///
    /// ```
    /// # use mild_ledger::{DateMove, Weekday, WeekdayMove};
    /// let monday = DateMove::default().to_weekday(WeekdayMove::After(Weekday::Monday));
    /// assert_eq!(monday.apply("2026-09-30".parse()?, None)?.to_string(), "2026-10-05");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn to_weekday(self, weekday: WeekdayMove) -> Self {
        Self { weekday: Some(weekday), ..self }
    }

    /// The same, then rolled to a working day.
    ///
    /// ```
    /// # use mild_ledger::{DateMove, Roll, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let rolled = DateMove::default().rolled(Roll::Following);
    /// assert_eq!(rolled.apply("2026-10-03".parse()?, Some(&week))?.to_string(), "2026-10-05");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn rolled(self, roll: Roll) -> Self {
        Self { roll, ..self }
    }

    /// Whether a calendar of working days is needed for it.
    ///
    /// ```
    /// # use mild_ledger::{DateMove, Roll, Shift};
    /// assert!(DateMove::by(Shift::working_days(0)).needs_calendar());
    /// assert!(!DateMove::by(Shift::days(3)).needs_calendar());
    /// ```
    #[must_use]
    pub fn needs_calendar(&self) -> bool {
        self.shift.needs_calendar() || self.roll != Roll::Unadjusted
    }

    /// The same move with a number of times its amount of time, as for the occurrences of a recurrence.
    ///
    /// # Errors
    /// Those of [`Shift::times`].
    ///
    /// ```
    /// # use mild_ledger::{DateMove, Shift};
    /// assert_eq!(DateMove::by(Shift::months(1)).times(3)?, DateMove::by(Shift::months(3)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn times(&self, number: i32) -> Result<Self, Error> {
        Ok(Self { shift: self.shift.times(number)?, ..*self })
    }

    /// The moved date.
    ///
    /// # Errors
    /// Those of [`Shift::apply`] and [`WorkCalendar::roll`], and [`ErrorKind::NotCovered`] where a calendar is needed and
    /// none is given.
    ///
    /// ```
    /// # use mild_ledger::{Date, DateMove, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// // A month after the last one that there is lies outside the years; thirty working days before it do not.
    /// let back = DateMove::by("1M -30wd".parse()?);
    /// assert_eq!(back.apply(Date::MAX, Some(&week))?.to_string(), "9999-12-20");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn apply(&self, date: Date, calendar: Option<&WorkCalendar>) -> Result<Date, Error> {
        let mut day = self.by_dates(date)?;
        if let Some(working) = self.shift.working() {
            let calendar = self.needed(calendar, date)?;
            calendar.is_working_day(day)?;
            day = calendar
                .day_moved_by(day, working)
                .ok_or_else(|| calendar.no_day(shown(day), working.number))?;
        }
        day = self.at_places(day);
        if self.roll != Roll::Unadjusted {
            day = self.needed(calendar, date)?.rolled_day(day, self.roll)?;
        }
        Date::in_range(day).ok_or_else(|| self.out_of_range(date, day))
    }

    /// The moved date-time: its date is moved, its time kept, then the clock's part of the amount is added, then its date is
    /// moved to the places named.
    ///
    /// # Errors
    /// Those of [`Shift::apply_at`]; [`ErrorKind::NoTimeOfDay`] where a calendar is needed, which knows days only.
    ///
    /// ```
    /// # use mild_ledger::DateMove;
    /// let moved = DateMove::by("1M 14h".parse()?).apply_at("2026-01-31T12:00".parse()?)?;
    /// assert_eq!(moved.to_string(), "2026-03-01T02:00:00");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn apply_at(&self, at: DateTime) -> Result<DateTime, Error> {
        if self.needs_calendar() {
            let what = format!("{at} has a time of day, and working days are moved by from a date");
            return Err(Error::new(ErrorKind::NoTimeOfDay, what, "a date without a time"));
        }
        let moved = self.shift.apply_at(at)?;
        let day = self.at_places(moved.date().day_number().into());
        let date = Date::in_range(day).ok_or_else(|| self.out_of_range(at, day))?;
        Ok(DateTime::new(date, moved.time()))
    }

    /// How the moved date comes about.
    ///
    /// # Errors
    /// Those of [`apply`](Self::apply).
    ///
    /// ```
    /// # use mild_ledger::{DateMove, Roll, Shift, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let why = DateMove::by(Shift::days(3)).rolled(Roll::Following).why("2026-09-30".parse()?, Some(&week))?;
    /// assert_eq!(
    ///     why.working().to_string(),
    ///     "days, then roll: following: 2026-09-30 + 3 days = 2026-10-03, \
    ///      2026-10-03 (Saturday) is not a working day; following gives 2026-10-05"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why(&self, date: Date, calendar: Option<&WorkCalendar>) -> Result<MoveWorking, Error> {
        let end = self.apply(date, calendar)?;
        let by_dates = self.shift.without_working_days();
        let mut day = self.by_dates(date)?;
        let mut working = match Date::in_range(day) {
            _ if by_dates.is_nothing() => Working::of_rule(String::new()),
            Some(_) => by_dates.why(date)?,
            None => Working::of_rule("months, then days")
                .step(format!("{date} moved by {by_dates} = {}", shown(day)), shown(day)),
        };
        let mut grid = None;
        if let Some(moved) = self.shift.working() {
            let calendar = self.needed(calendar, date)?;
            let name = format!("working days ({})", calendar.name());
            let from = day;
            day = calendar.day_moved_by(day, moved).unwrap_or(day);
            working = match (Date::in_range(from), Date::in_range(day), self.shift.only_working_amount()) {
                (Some(start), Some(_), Some(number)) => {
                    let counted = calendar.why_add_working_days(start, number)?;
                    let steps = counted.working().clone();
                    grid = Some(counted);
                    working.followed_by(steps).with_rule(|rule| joined(rule, &name))
                }
                _ => {
                    let said =
                        format!("{} moved by {} = {}", shown(from), self.shift.working_part(), shown(day));
                    working.step(said, shown(day)).with_rule(|rule| joined(rule, &name))
                }
            };
        }
        if let Some(edge) = self.edge {
            let from = day;
            day = edge.day_number_of(day);
            working = working
                .step(format!("{edge} of {} = {}", shown(from), shown(day)), shown(day))
                .with_rule(|rule| joined(rule, &format!("to {edge}")));
        }
        if let Some(weekday) = self.weekday {
            let from = day;
            day = weekday.day_number_from(day);
            working = working
                .step(format!("{weekday} {} = {}", shown(from), shown(day)), shown(day))
                .with_rule(|rule| joined(rule, &weekday.to_string()));
        }
        if self.roll != Roll::Unadjusted {
            working = working
                .step(self.said_of_roll(day, end), end)
                .with_rule(|rule| joined(rule, &format!("roll: {}", self.roll)));
        }
        if working.steps().is_empty() {
            working = Working::of_rule("days").step(format!("{date} stays"), end);
        }
        Ok(MoveWorking { working, grid })
    }

    /// How the moved date-time comes about.
    ///
    /// # Errors
    /// Those of [`apply_at`](Self::apply_at).
    ///
    /// ```
    /// # use mild_ledger::DateMove;
    /// let why = DateMove::by("36h".parse()?).why_at("2026-01-31T12:00".parse()?)?;
    /// assert_eq!(why.figure(), "2026-02-02T00:00:00");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_at(&self, at: DateTime) -> Result<Working, Error> {
        let end = self.apply_at(at)?;
        let moved = self.shift.apply_at(at)?;
        let mut working = match self.shift.is_nothing() {
            true => Working::of_rule(String::new()),
            false => self.shift.why_at(at)?,
        };
        let mut day = i64::from(moved.date().day_number());
        let (edge, weekday) = (self.edge.map(|edge| edge.to_string()), self.weekday);
        if let (Some(edge), Some(to)) = (edge, self.edge) {
            let from = day;
            day = to.day_number_of(day);
            working = working
                .step(format!("{edge} of {} = {}", shown(from), shown(day)), end)
                .with_rule(|rule| joined(rule, &format!("to {edge}")));
        }
        if let Some(weekday) = weekday {
            working = working
                .step(format!("{weekday} {} = {end}", shown(day)), end)
                .with_rule(|rule| joined(rule, &weekday.to_string()));
        }
        if working.steps().is_empty() {
            working = Working::of_rule("days").step(format!("{at} stays"), end);
        }
        Ok(working)
    }

    /// Moves a date-time on a clock that may jump, such as that of a time zone: years to days by the calendar, then hours, minutes and seconds
    /// by `elapse`, which is given a time of that clock and how many microseconds pass, and gives the time it shows then.
    ///
    /// # Errors
    /// Those of [`apply_at`](Self::apply_at), and that of `elapse`.
    ///
    /// ```
    /// use mild_ledger::{DateMove, DateTime, Error, Shift};
    /// // A clock that was put forward by an hour at two.
    /// let two: DateTime = "2026-03-29T02:00".parse()?;
    /// let elapse = |at: DateTime, microseconds: i64| -> Result<DateTime, Error> {
    ///     let hour = 3_600_000_000;
    ///     let after = at.microseconds() + microseconds;
    ///     DateTime::from_microseconds(if at < two && after >= two.microseconds() { after + hour } else { after })
    /// };
    /// let three_hours: Shift = "3h".parse()?;
    /// let (moved, _) = DateMove::by(three_hours).apply_at_by("2026-03-28T23:30".parse()?, elapse)?;
    /// assert_eq!(moved.to_string(), "2026-03-29T03:30:00");
    /// # Ok::<(), Error>(())
    /// ```
    pub fn apply_at_by<E: From<Error>>(
        &self,
        at: DateTime,
        elapse: impl FnOnce(DateTime, i64) -> Result<DateTime, E>,
    ) -> Result<(DateTime, Working), E> {
        let (dates, clock) = self.shift.parted();
        let by_dates = Self { edge: None, weekday: None, ..Self { shift: dates, ..*self } };
        let local = by_dates.apply_at(at)?;
        let after = elapse(local, clock.clock_microseconds())?;
        let rest = Self { shift: Shift::days(0), ..*self };
        let end = rest.apply_at(after)?;
        let elapsed = Working::of_rule("elapsed time").step(format!("{local} + {clock} = {after}"), after);
        let mut working = match dates.is_nothing() {
            true => elapsed,
            false => by_dates.why_at(at)?.followed_by(elapsed),
        };
        if self.edge.is_some() || self.weekday.is_some() {
            working = working.followed_by(rest.why_at(after)?);
        }
        Ok((end, working))
    }

    /// The months, weeks and days of the amount.
    fn by_dates(&self, date: Date) -> Result<i64, Error> {
        let by_dates = self.shift.without_working_days();
        if by_dates.needs_time_of_day() {
            return by_dates.apply(date).map(|date| date.day_number().into());
        }
        by_dates.day_number_after(date).map_err(|miss| by_dates.missed(date, miss))
    }

    fn at_places(&self, day: i64) -> i64 {
        let day = self.edge.map_or(day, |edge| edge.day_number_of(day));
        self.weekday.map_or(day, |weekday| weekday.day_number_from(day))
    }

    fn needed<'c>(&self, calendar: Option<&'c WorkCalendar>, date: Date) -> Result<&'c WorkCalendar, Error> {
        calendar.ok_or_else(|| {
            let what = format!("{date} moved by {} asks for a calendar of working days", self.shift);
            Error::new(ErrorKind::NotCovered, what, "a calendar, or days, weeks, months and longer")
        })
    }

    fn out_of_range(&self, from: impl core::fmt::Display, day: i64) -> Error {
        let what = format!("the move of {from} leads to {}, outside the years 0001 to 9999", shown(day));
        Error::new(ErrorKind::OutOfRange, what, "0001-01-01 to 9999-12-31")
    }

    fn said_of_roll(&self, from: i64, to: Date) -> String {
        let roll = self.roll;
        match Date::in_range(from) {
            Some(date) if date == to => format!("{date} is a working day, so {roll} leaves it"),
            Some(date) => format!("{date} ({}) is not a working day; {roll} gives {to}", date.weekday()),
            None => format!("{} is not a working day; {roll} gives {to}", shown(from)),
        }
    }
}

/// A rule and the one that follows it.
fn joined(rule: &str, then: &str) -> String {
    if rule.is_empty() { then.to_owned() } else { format!("{rule}, then {then}") }
}

impl WorkCalendar {
    /// The date so far away: months first, then weeks and days, then working days.
    ///
    /// # Errors
    /// Those of [`DateMove::apply`].
    ///
    /// ```
    /// use mild_ledger::WorkCalendar;
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// // 2026-02-28 is a Saturday.
    /// assert_eq!(week.shifted("2026-01-31".parse()?, &"1M 2wd".parse()?)?.to_string(), "2026-03-03");
    /// assert_eq!(week.shifted("2026-01-31".parse()?, &"1M 0wd".parse()?)?.to_string(), "2026-03-02");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn shifted(&self, date: Date, shift: &Shift) -> Result<Date, Error> {
        DateMove::by(*shift).apply(date, Some(self))
    }
}
