//! The rules by which holidays come round.

use super::kept_years::KeptYears;
use super::occurrence::Occurrence;
use crate::choice::chosen_by_word;
use crate::date::{Date, Weekday};
use crate::shift::WeekdayMove;
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
    occurrences: Vec<Occurrence>,
    /// By how many days it moves from each weekday, Monday first.
    weekday_moves: [i8; 7],
    moved: HolidayMove,
    closes: SubstituteCloses,
    length: HolidayLength,
    years: KeptYears,
    /// Years in which it is not kept, said by a calendar that builds on the one it is in.
    dropped: Vec<KeptYears>,
    source: Option<String>,
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
    /// The nearest day that is not a rest day; a tie goes forward.
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

/// What a holiday closes that is kept on another day than its own.
///
/// ```
/// assert_eq!(mild_ledger::SubstituteCloses::default().word(), "substitute");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum SubstituteCloses {
    /// The other day alone. The default.
    #[default]
    SubstituteAlone,
    /// The day that it was moved from too.
    BothDays,
}

impl SubstituteCloses {
    /// Both.
    pub const ALL: [Self; 2] = [Self::SubstituteAlone, Self::BothDays];

    /// The word for it in calendar files.
    ///
    /// ```
    /// assert_eq!(mild_ledger::SubstituteCloses::BothDays.word(), "both days");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::SubstituteAlone => "substitute",
            Self::BothDays => "both days",
        }
    }
}

chosen_by_word!(SubstituteCloses, "what a moved holiday closes");

/// How much of a day a holiday takes.
///
/// ```
/// assert_eq!(mild_ledger::HolidayLength::default().word(), "whole day");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub enum HolidayLength {
    /// All of it. The default.
    #[default]
    WholeDay,
    /// Half of it: the day is open, closed or half a working day, as is asked. On a whole holiday it is none.
    HalfDay,
}

impl HolidayLength {
    /// Both.
    pub const ALL: [Self; 2] = [Self::WholeDay, Self::HalfDay];

    /// The words for it in calendar files.
    ///
    /// ```
    /// assert_eq!(mild_ledger::HolidayLength::HalfDay.word(), "half day");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::WholeDay => "whole day",
            Self::HalfDay => "half day",
        }
    }
}

chosen_by_word!(HolidayLength, "a length of a holiday");

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
        Self::on_all(name, [occurrence])
    }

    /// A holiday that occurs in several ways, on several dates for example.
    ///
    /// ```
    /// use mild_ledger::{HolidayRule, Occurrence, RestDays, WorkCalendar};
    /// let days = ["2026-02-17".parse()?, "2026-02-18".parse()?].map(Occurrence::on_date);
    /// let feast = HolidayRule::on_all("Lunar New Year", days);
    /// assert_eq!(WorkCalendar::new("C", RestDays::default(), 2026, 2026, &[feast])?.holidays().len(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn on_all(name: impl Into<String>, occurrences: impl IntoIterator<Item = Occurrence>) -> Self {
        Self {
            name: name.into(),
            occurrences: occurrences.into_iter().collect(),
            weekday_moves: [0; 7],
            moved: HolidayMove::Stays,
            closes: SubstituteCloses::SubstituteAlone,
            length: HolidayLength::WholeDay,
            years: KeptYears::default(),
            dropped: Vec::new(),
            source: None,
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

    /// The same holiday, moved where it falls on a weekday, be that a rest day or not. A rest day that it comes to
    /// moves it on as [`with_moved`](Self::with_moved) says.
    ///
    /// ```
    /// # use mild_ledger::{HolidayRule, Occurrence, RestDays, Weekday, WeekdayMove, WorkCalendar};
    /// let day = HolidayRule::new("King's Day", Occurrence::on_day_of_year(4, 27)?)
    ///     .with_moved_on(Weekday::Sunday, WeekdayMove::Before(Weekday::Saturday));
    /// let calendar = WorkCalendar::new("C", RestDays::default(), 2025, 2025, &[day])?;
    /// assert_eq!(calendar.holidays()[0].date().to_string(), "2025-04-26");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_moved_on(mut self, weekday: Weekday, to: WeekdayMove) -> Self {
        let from = weekday.days_from_monday();
        // 1970-01-05 was a Monday.
        let day = 4 + from;
        if let Some(by) = usize::try_from(from).ok().and_then(|place| self.weekday_moves.get_mut(place)) {
            *by = i8::try_from(to.day_number_from(day) - day).unwrap_or(0);
        }
        self
    }

    /// The same holiday, which closes what it says where it is moved.
    ///
    /// ```
    /// # use mild_ledger::{HolidayMove, HolidayRule, Occurrence, RestDays, SubstituteCloses, WorkCalendar};
    /// let day = HolidayRule::new("A", Occurrence::on_day_of_year(7, 4)?)
    ///     .with_moved(HolidayMove::FollowingMonday)
    ///     .with_closes(SubstituteCloses::BothDays);
    /// let calendar = WorkCalendar::new("C", RestDays::default(), 2026, 2026, &[day])?;
    /// let days: Vec<String> = calendar.holidays().iter().map(|day| day.date().to_string()).collect();
    /// assert_eq!(days, ["2026-07-04", "2026-07-06"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_closes(self, closes: SubstituteCloses) -> Self {
        Self { closes, ..self }
    }

    /// The same holiday of this length.
    ///
    /// ```
    /// # use mild_ledger::{DayKind, HolidayLength, HolidayRule, Occurrence, RestDays, WorkCalendar};
    /// let eve = HolidayRule::new("Eve", Occurrence::on_day_of_year(12, 24)?).with_length(HolidayLength::HalfDay);
    /// let calendar = WorkCalendar::new("C", RestDays::default(), 2026, 2026, &[eve])?;
    /// assert_eq!(calendar.kind_of("2026-12-24".parse()?)?, DayKind::HalfDay);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_length(self, length: HolidayLength) -> Self {
        Self { length, ..self }
    }

    /// The same holiday with the law, order or publication that it rests on, for people to look up.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// let day = HolidayRule::new("A", Occurrence::on_date(Date::MIN)).with_source("order of the yard");
    /// assert_eq!(day.source(), Some("order of the yard"));
    /// ```
    #[must_use]
    pub fn with_source(self, source: impl Into<String>) -> Self {
        Self { source: Some(source.into()), ..self }
    }

    /// The same holiday in these years, years of its unmoved date.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, KeptYears, Occurrence};
    /// let rule = HolidayRule::new("A", Occurrence::on_date(Date::MIN)).with_years(KeptYears::default().since(2));
    /// assert!(!rule.is_in(1));
    /// ```
    #[must_use]
    pub fn with_years(self, years: KeptYears) -> Self {
        Self { years, ..self }
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
        Self { years: self.years.since(year), ..self }
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
        Self { years: self.years.until(year), ..self }
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
        Self { years: self.years.except(years), ..self }
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
        Self { years: self.years.only(years), ..self }
    }

    /// The same holiday, not kept in those years.
    pub(super) fn dropped_in(mut self, years: KeptYears) -> Self {
        self.dropped.push(years);
        self
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
        self.years.has(year) && !self.dropped.iter().any(|years| years.has(year))
    }

    /// The years in which it is kept, but for those that a calendar which builds on its own drops.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, KeptYears, Occurrence};
    /// let rule = HolidayRule::new("A", Occurrence::on_date(Date::MIN)).with_since(2021);
    /// assert_eq!(rule.years(), &KeptYears::default().since(2021));
    /// ```
    #[must_use]
    pub fn years(&self) -> &KeptYears {
        &self.years
    }

    /// The ways in which it occurs.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// let once = Occurrence::on_date(Date::MIN);
    /// assert_eq!(HolidayRule::new("A", once).occurrences(), [once]);
    /// ```
    #[must_use]
    pub fn occurrences(&self) -> &[Occurrence] {
        &self.occurrences
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

    /// By how many days it is moved where it falls on a weekday; 0 for none.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence, Weekday, WeekdayMove};
    /// let once = HolidayRule::new("A", Occurrence::on_date(Date::MIN))
    ///     .with_moved_on(Weekday::Sunday, WeekdayMove::After(Weekday::Monday));
    /// assert_eq!((once.moved_on(Weekday::Sunday), once.moved_on(Weekday::Monday)), (1, 0));
    /// ```
    #[must_use]
    pub fn moved_on(&self, weekday: Weekday) -> i8 {
        let place = usize::try_from(weekday.days_from_monday()).ok();
        place.and_then(|place| self.weekday_moves.get(place)).copied().unwrap_or(0)
    }

    /// What it closes where it is moved.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence, SubstituteCloses};
    /// let once = HolidayRule::new("A", Occurrence::on_date(Date::MIN));
    /// assert_eq!(once.closes(), SubstituteCloses::SubstituteAlone);
    /// ```
    #[must_use]
    pub fn closes(&self) -> SubstituteCloses {
        self.closes
    }

    /// How much of a day it takes.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayLength, HolidayRule, Occurrence};
    /// let once = HolidayRule::new("A", Occurrence::on_date(Date::MIN));
    /// assert_eq!(once.length(), HolidayLength::WholeDay);
    /// ```
    #[must_use]
    pub fn length(&self) -> HolidayLength {
        self.length
    }

    /// What it rests on, where that is stated.
    ///
    /// ```
    /// # use mild_ledger::{Date, HolidayRule, Occurrence};
    /// assert_eq!(HolidayRule::new("A", Occurrence::on_date(Date::MIN)).source(), None);
    /// ```
    #[must_use]
    pub fn source(&self) -> Option<&str> {
        self.source.as_deref()
    }

    /// Its day, moved as its weekday says.
    pub(super) fn by_weekday(&self, date: Date) -> Option<Date> {
        Date::in_range(i64::from(date.day_number()) + i64::from(self.moved_on(date.weekday())))
    }
}
