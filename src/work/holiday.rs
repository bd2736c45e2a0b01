//! The rules by which holidays come round.

use super::easter::{Church, easter_day_number};
use crate::choice::chosen_by_word;
use crate::date::{Date, Weekday, civil};
use crate::error::{Error, ErrorKind};
use crate::shift::{NthWeekday, WeekdayMove};
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;

/// A holiday: when it occurs, in which years, and what it does on a rest day.
///
/// ```
/// use mild_ledger::{HolidayMove, HolidayRule, Occurrence, RestDays, WorkCalendar};
///
/// let supper = HolidayRule::new("Yard Supper", Occurrence::on_day_of_year(9, 25)?).with_since(2021).with_except([2027]);
/// let yard = WorkCalendar::new("Yard", RestDays::default(), 2020, 2030, &[supper])?;
/// let days: Vec<String> = yard.holidays().iter().map(|holiday| holiday.date().to_string()).collect();
/// assert_eq!(days.first().map(String::as_str), Some("2021-09-25"));
/// assert_eq!(days.len(), 9);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct HolidayRule {
    name: String,
    occurrence: Occurrence,
    moved: HolidayMove,
    since: Option<i32>,
    until: Option<i32>,
    except: Vec<i32>,
    only: Vec<i32>,
}

/// The day of a year on which a holiday occurs.
///
/// ```
/// use mild_ledger::{Occurrence, Weekday};
/// let may_day = Occurrence::on_nth_weekday(1, Weekday::Monday, 5)?;
/// assert_eq!(may_day.in_year(2026)?.map(|date| date.to_string()), Some("2026-05-04".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Occurrence {
    kind: Kind,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Kind {
    Date(Date),
    DayOfYear { month: u8, day: u8 },
    LeapDay(CommonYears),
    OfMonth { month: u8, which: NthWeekday },
    Beside { month: u8, day: u8, to: WeekdayMove },
    Easter { days: i16, church: Church },
}

/// On which day a 29 February is kept in common years.
///
/// ```
/// use mild_ledger::{CommonYears, Occurrence};
/// let leap_day = Occurrence::on_leap_day(CommonYears::MarchFirst);
/// assert_eq!(leap_day.in_year(2026)?.map(|date| date.to_string()), Some("2026-03-01".into()));
/// assert_eq!(leap_day.in_year(2028)?.map(|date| date.to_string()), Some("2028-02-29".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum CommonYears {
    /// On 28 February.
    February28,
    /// On 1 March.
    MarchFirst,
}

impl CommonYears {
    /// Both.
    pub const ALL: [Self; 2] = [Self::February28, Self::MarchFirst];

    /// The words for it in calendar files.
    ///
    /// ```
    /// assert_eq!(mild_ledger::CommonYears::February28.word(), "28 february");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::February28 => "28 february",
            Self::MarchFirst => "1 march",
        }
    }
}

chosen_by_word!(CommonYears, "a day for a 29 February");

/// On which side of a day a weekday is looked for.
///
/// ```
/// assert_eq!(mild_ledger::WeekdaySide::ALL.len(), 4);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum WeekdaySide {
    /// The day itself or the next such weekday.
    OnOrAfter,
    /// The next such weekday.
    After,
    /// The day itself or the last such weekday before.
    OnOrBefore,
    /// The last such weekday before.
    Before,
}

impl WeekdaySide {
    /// All four.
    pub const ALL: &'static [Self] = &[Self::OnOrAfter, Self::After, Self::OnOrBefore, Self::Before];

    fn of(self, weekday: Weekday) -> WeekdayMove {
        match self {
            Self::OnOrAfter => WeekdayMove::OnOrAfter(weekday),
            Self::After => WeekdayMove::After(weekday),
            Self::OnOrBefore => WeekdayMove::OnOrBefore(weekday),
            Self::Before => WeekdayMove::Before(weekday),
        }
    }
}

/// What a holiday does that falls on a rest day.
///
/// ```
/// assert_eq!(mild_ledger::HolidayMove::default().word(), "stays");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
#[non_exhaustive]
pub enum HolidayMove {
    /// It stays, and takes no working day off. The default.
    #[default]
    Stays,
    /// The nearest day that is no rest day; a tie goes forward.
    NearestWeekday,
    /// The Monday after it.
    FollowingMonday,
    /// The first later day that is neither a rest day nor a holiday placed already.
    NextFreeDay,
}

impl HolidayMove {
    /// All four.
    pub const ALL: &'static [Self] =
        &[Self::Stays, Self::NearestWeekday, Self::FollowingMonday, Self::NextFreeDay];

    /// The words for it in calendar files.
    ///
    /// ```
    /// assert_eq!(mild_ledger::HolidayMove::NextFreeDay.word(), "next free day");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Stays => "stays",
            Self::NearestWeekday => "nearest weekday",
            Self::FollowingMonday => "following monday",
            Self::NextFreeDay => "next free day",
        }
    }
}

chosen_by_word!(HolidayMove, "a move of a holiday");

impl Occurrence {
    /// Once, on a date.
    ///
    /// ```
    /// use mild_ledger::{Date, Occurrence};
    /// assert_eq!(Occurrence::on_date(Date::MIN).in_year(2)?, None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn on_date(date: Date) -> Self {
        Self { kind: Kind::Date(date) }
    }

    /// Every year on a day of a month; a 29 February in leap years only.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] and [`ErrorKind::NoSuchDay`] for a day that no year has.
    ///
    /// ```
    /// use mild_ledger::Occurrence;
    /// let leap_day = Occurrence::on_day_of_year(2, 29)?;
    /// assert!(leap_day.in_year(2024)?.is_some() && leap_day.in_year(2026)?.is_none());
    /// assert!(Occurrence::on_day_of_year(2, 30).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn on_day_of_year(month: u8, day: u8) -> Result<Self, Error> {
        check_day(month, day)?;
        Ok(Self { kind: Kind::DayOfYear { month, day } })
    }

    /// Every year on 29 February, and in common years on the day beside it that is named.
    ///
    /// ```
    /// use mild_ledger::{CommonYears, Occurrence};
    /// let leap_day = Occurrence::on_leap_day(CommonYears::February28);
    /// assert_eq!(leap_day.in_year(2026)?.map(|date| date.to_string()), Some("2026-02-28".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn on_leap_day(common_years: CommonYears) -> Self {
        Self { kind: Kind::LeapDay(common_years) }
    }

    /// The first to fifth such weekday of a month; in years that lack a fifth, never.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another month or number.
    ///
    /// ```
    /// use mild_ledger::{Occurrence, Weekday};
    /// assert!(Occurrence::on_nth_weekday(1, Weekday::Monday, 13).is_err());
    /// assert!(Occurrence::on_nth_weekday(6, Weekday::Monday, 1).is_err());
    /// ```
    pub fn on_nth_weekday(number: u8, weekday: Weekday, month: u8) -> Result<Self, Error> {
        Date::new(2000, month, 1)?;
        if !(1..=5).contains(&number) {
            let what = format!("no month has a {weekday} number {number}");
            return Err(Error::new(ErrorKind::OutOfRange, what, "first to fifth, or last"));
        }
        Ok(Self { kind: Kind::OfMonth { month, which: NthWeekday::Nth(number, weekday) } })
    }

    /// The last such weekday of a month.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another month.
    ///
    /// ```
    /// use mild_ledger::{Occurrence, Weekday};
    /// let august = Occurrence::on_last_weekday(Weekday::Monday, 8)?;
    /// assert_eq!(august.in_year(2026)?.map(|date| date.to_string()), Some("2026-08-31".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn on_last_weekday(weekday: Weekday, month: u8) -> Result<Self, Error> {
        Date::new(2000, month, 1)?;
        Ok(Self { kind: Kind::OfMonth { month, which: NthWeekday::Last(weekday) } })
    }

    /// The weekday on or after, after, on or before, or before a day of a month; beside a 29 February in leap years
    /// only.
    ///
    /// # Errors
    /// Those of [`on_day_of_year`](Self::on_day_of_year).
    ///
    /// ```
    /// use mild_ledger::{Occurrence, Weekday, WeekdaySide};
    /// let harvest = Occurrence::on_weekday_beside(Weekday::Monday, WeekdaySide::OnOrAfter, 5, 24)?;
    /// assert_eq!(harvest.in_year(2026)?.map(|date| date.to_string()), Some("2026-05-25".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn on_weekday_beside(weekday: Weekday, side: WeekdaySide, month: u8, day: u8) -> Result<Self, Error> {
        check_day(month, day)?;
        Ok(Self { kind: Kind::Beside { month, day, to: side.of(weekday) } })
    }

    /// So many days after Easter Sunday, before it where negative (at most 400 either way).
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more days.
    ///
    /// ```
    /// use mild_ledger::{Church, Occurrence};
    /// let good_friday = Occurrence::from_easter(-2, Church::Western)?;
    /// assert_eq!(good_friday.in_year(2026)?.map(|date| date.to_string()), Some("2026-04-03".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn from_easter(days: i16, church: Church) -> Result<Self, Error> {
        if !(-400..=400).contains(&days) {
            let what = format!("{days} days from Easter lie in another year");
            return Err(Error::new(ErrorKind::OutOfRange, what, "-400 to 400 days"));
        }
        Ok(Self { kind: Kind::Easter { days, church } })
    }

    /// The day in a year, `None` where the year has none.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it lies outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::{Church, Occurrence};
    /// assert!(Occurrence::from_easter(0, Church::Western)?.in_year(10_000).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn in_year(self, year: i32) -> Result<Option<Date>, Error> {
        Date::new(year, 1, 1)?;
        match self.day_number_in(year) {
            None => Ok(None),
            Some(day) => Date::in_range(day).map(Some).ok_or_else(|| {
                let what = format!("the day in {year:04} lies outside the years 0001 to 9999");
                Error::new(ErrorKind::OutOfRange, what, "0001-01-01 to 9999-12-31")
            }),
        }
    }

    /// The same for any year, also beside those that there are: a day may be reached from a year that it does not lie in.
    pub(super) fn day_number_in(self, year: i32) -> Option<i64> {
        let on = |month, day| i64::from(civil::day_number_of(year, month, day));
        let day_of = |month, day| (day <= civil::month_length(year, month)).then(|| on(month, day));
        match self.kind {
            Kind::Date(date) => (date.year() == year).then(|| date.day_number().into()),
            Kind::DayOfYear { month, day } => day_of(month, day),
            Kind::LeapDay(common_years) => Some(match (civil::is_leap_year(year), common_years) {
                (true, _) => on(2, 29),
                (false, CommonYears::February28) => on(2, 28),
                (false, CommonYears::MarchFirst) => on(3, 1),
            }),
            Kind::OfMonth { month, which } => which.day_number_of_month(year, month),
            Kind::Beside { month, day, to } => day_of(month, day).map(|day| to.day_number_from(day)),
            Kind::Easter { days, church } => Some(easter_day_number(year, church) + i64::from(days)),
        }
    }

    /// How many years a day may lie from the year that it is reached from.
    pub(super) fn reach(self) -> i32 {
        match self.kind {
            Kind::Easter { .. } => 2,
            Kind::Beside { .. } => 1,
            _ => 0,
        }
    }

    /// The one year of a date; every year otherwise.
    pub(super) fn only_year(self) -> Option<i32> {
        match self.kind {
            Kind::Date(date) => Some(date.year()),
            _ => None,
        }
    }
}

/// Every day of every year stands in a leap year.
fn check_day(month: u8, day: u8) -> Result<(), Error> {
    Date::new(2000, month, 1)?;
    let length = civil::month_length(2000, month);
    if (1..=length).contains(&day) {
        return Ok(());
    }
    let what = format!("no year has a day {day} in month {month}");
    Err(Error::new(ErrorKind::NoSuchDay, what, format!("day 1 to {length}")))
}

impl HolidayRule {
    /// A holiday of every year that stays where it falls.
    ///
    /// ```
    /// use mild_ledger::{HolidayRule, Occurrence};
    /// assert_eq!(HolidayRule::new("New Year", Occurrence::on_day_of_year(1, 1)?).name(), "New Year");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn new(name: impl Into<String>, occurrence: Occurrence) -> Self {
        Self {
            name: name.into(),
            occurrence,
            moved: HolidayMove::Stays,
            since: None,
            until: None,
            except: Vec::new(),
            only: Vec::new(),
        }
    }

    /// The same holiday, moved off rest days.
    ///
    /// ```
    /// # use mild_ledger::{HolidayMove, HolidayRule, Occurrence, RestDays, WorkCalendar};
    /// let day = HolidayRule::new("A", Occurrence::on_day_of_year(7, 4)?).with_moved(HolidayMove::NearestWeekday);
    /// let calendar = WorkCalendar::new("C", RestDays::default(), 2026, 2026, &[day])?;
    /// assert_eq!(calendar.holidays()[0].date().to_string(), "2026-07-03");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_moved(self, moved: HolidayMove) -> Self {
        Self { moved, ..self }
    }

    /// The same holiday from a year on, included; of its unmoved date.
    ///
    /// ```
    /// # use mild_ledger::{HolidayRule, Occurrence};
    /// assert!(!HolidayRule::new("A", Occurrence::on_day_of_year(7, 4)?).with_since(2021).is_in(2020));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_since(self, year: i32) -> Self {
        Self { since: Some(year), ..self }
    }

    /// The same holiday up to a year, included.
    ///
    /// ```
    /// # use mild_ledger::{HolidayRule, Occurrence};
    /// assert!(HolidayRule::new("A", Occurrence::on_day_of_year(7, 4)?).with_until(2021).is_in(2021));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_until(self, year: i32) -> Self {
        Self { until: Some(year), ..self }
    }

    /// The same holiday but for these years.
    ///
    /// ```
    /// # use mild_ledger::{HolidayRule, Occurrence};
    /// assert!(!HolidayRule::new("A", Occurrence::on_day_of_year(7, 4)?).with_except([2027]).is_in(2027));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_except(self, years: impl IntoIterator<Item = i32>) -> Self {
        Self { except: years.into_iter().collect(), ..self }
    }

    /// The same holiday in these years alone.
    ///
    /// ```
    /// # use mild_ledger::{HolidayRule, Occurrence};
    /// assert!(!HolidayRule::new("A", Occurrence::on_day_of_year(7, 4)?).with_only([2026]).is_in(2027));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_only(self, years: impl IntoIterator<Item = i32>) -> Self {
        Self { only: years.into_iter().collect(), ..self }
    }

    /// Its name.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// assert_eq!(HolidayRule::new("A", Occurrence::on_date(Date::MIN)).name(), "A");
    /// ```
    #[must_use]
    pub fn name(&self) -> &str {
        &self.name
    }

    /// Whether it is kept in a year, the year of its unmoved date.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// assert!(HolidayRule::new("A", Occurrence::on_date(Date::MIN)).is_in(2026));
    /// ```
    #[must_use]
    pub fn is_in(&self, year: i32) -> bool {
        self.since.is_none_or(|since| since <= year)
            && self.until.is_none_or(|until| year <= until)
            && !self.except.contains(&year)
            && (self.only.is_empty() || self.only.contains(&year))
    }

    /// The first year in which it is kept, where there is one.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// let rule = HolidayRule::new("A", Occurrence::on_date(Date::MIN));
    /// assert_eq!((rule.since(), rule.with_since(2021).since()), (None, Some(2021)));
    /// ```
    #[must_use]
    pub fn since(&self) -> Option<i32> {
        self.since
    }

    /// The last year in which it is kept, where there is one.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// let rule = HolidayRule::new("A", Occurrence::on_date(Date::MIN));
    /// assert_eq!((rule.until(), rule.with_until(2021).until()), (None, Some(2021)));
    /// ```
    #[must_use]
    pub fn until(&self) -> Option<i32> {
        self.until
    }

    /// The years in which it is not kept, as they were given.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// let rule = HolidayRule::new("A", Occurrence::on_date(Date::MIN)).with_except([2027, 2025]);
    /// assert_eq!(rule.except(), [2027, 2025]);
    /// ```
    #[must_use]
    pub fn except(&self) -> &[i32] {
        &self.except
    }

    /// The years in which alone it is kept, as they were given; all where there are none.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// let rule = HolidayRule::new("A", Occurrence::on_date(Date::MIN)).with_only([2026]);
    /// assert_eq!(rule.only(), [2026]);
    /// ```
    #[must_use]
    pub fn only(&self) -> &[i32] {
        &self.only
    }

    /// The day of a year on which it occurs.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// let once = Occurrence::on_date(Date::MIN);
    /// assert_eq!(HolidayRule::new("A", once).occurrence(), once);
    /// ```
    #[must_use]
    pub fn occurrence(&self) -> Occurrence {
        self.occurrence
    }

    /// What becomes of it on a rest day.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayMove, HolidayRule, Occurrence};
    /// let once = HolidayRule::new("A", Occurrence::on_date(Date::MIN));
    /// assert_eq!(once.moved(), HolidayMove::Stays);
    /// ```
    #[must_use]
    pub fn moved(&self) -> HolidayMove {
        self.moved
    }
}
