//! A figure that says how it was counted.

use crate::choice::chosen_by_word;
use crate::error::{Error, ErrorKind, quoted};
use crate::shift::Unit;
use alloc::format;
use alloc::string::ToString;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// A number of units between two dates, with its unit, its way of counting and its ends.
///
/// ```
/// use mild_ledger::{Ends, Interval, Unit, Way};
///
/// let count = Interval::between("2019-11-30".parse()?, "2022-01-02".parse()?).starts_passed(Unit::Month);
/// assert_eq!((count.value(), count.rule().unit(), count.rule().way()), (26, Unit::Month, Way::StartsPassed));
/// assert_eq!(count.ends(), Ends::Last);
/// assert_eq!(count.to_string(), "26 month starts passed");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Count {
    value: i64,
    rule: CountRule,
    ends: Ends,
}

impl Count {
    pub(crate) fn new(value: i64, rule: CountRule, ends: Ends) -> Self {
        Self { value, rule, ends }
    }

    /// The bare number; negative where the end lies before the start.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval};
    /// assert_eq!(Interval::between(Date::MAX, Date::MIN).days().value(), -3_652_058);
    /// ```
    #[must_use]
    pub fn value(self) -> i64 {
        self.value
    }

    /// The way of counting and the unit.
    ///
    /// ```
    /// # use mild_ledger::{CountRule, Date, Interval};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).days().rule(), CountRule::DAYS);
    /// ```
    #[must_use]
    pub fn rule(self) -> CountRule {
        self.rule
    }

    /// Which of the first and the last day were counted.
    ///
    /// ```
    /// # use mild_ledger::{Date, Ends, Interval};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).days().ends(), Ends::Last);
    /// ```
    #[must_use]
    pub fn ends(self) -> Ends {
        self.ends
    }
}

impl fmt::Display for Count {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let unit = self.rule.unit;
        match self.rule.way {
            _ if unit == Unit::Day => f.pad(&format!("{} {}", self.value, unit.word_for(self.value))),
            Way::Complete => f.pad(&format!("{} complete {}", self.value, unit.word_for(self.value))),
            Way::StartsPassed if self.value.unsigned_abs() == 1 => {
                f.pad(&format!("{} {unit} start passed", self.value))
            }
            Way::StartsPassed => f.pad(&format!("{} {unit} starts passed", self.value)),
        }
    }
}

/// The bare number.
impl From<Count> for i64 {
    fn from(count: Count) -> Self {
        count.value
    }
}

/// A way of counting the time between two dates.
///
/// ```
/// assert_eq!(mild_ledger::Way::ALL.len(), 2);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Way {
    /// Whole units that have elapsed since the earlier date.
    Complete,
    /// First days of a unit after the earlier date, up to and including the later.
    StartsPassed,
}

impl Way {
    /// Every way.
    pub const ALL: &'static [Self] = &[Self::Complete, Self::StartsPassed];
}

/// A way of counting together with a unit: what a column of intervals is measured in.
///
/// Read from and written as `days`, `complete months`, `month starts passed` and so on.
///
/// ```
/// use mild_ledger::{CountRule, Unit, Way};
///
/// let rule: CountRule = "month starts passed".parse()?;
/// assert_eq!(rule, CountRule::new(Way::StartsPassed, Unit::Month));
/// assert_eq!(rule.to_string(), "month starts passed");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct CountRule {
    way: Way,
    unit: Unit,
}

impl CountRule {
    /// Elapsed days.
    pub const DAYS: Self = Self { way: Way::Complete, unit: Unit::Day };
    /// Complete years, as ages are counted.
    pub const COMPLETE_YEARS: Self = Self { way: Way::Complete, unit: Unit::Year };

    /// The rule of a way and a unit.
    ///
    /// ```
    /// use mild_ledger::{CountRule, Unit, Way};
    /// assert_eq!(CountRule::new(Way::Complete, Unit::Day), CountRule::DAYS);
    /// ```
    #[must_use]
    pub fn new(way: Way, unit: Unit) -> Self {
        // A day has begun and is complete at the same moment, so days have one rule.
        if unit == Unit::Day { Self::DAYS } else { Self { way, unit } }
    }

    /// Its way of counting.
    ///
    /// ```
    /// assert_eq!(mild_ledger::CountRule::DAYS.way(), mild_ledger::Way::Complete);
    /// ```
    #[must_use]
    pub fn way(self) -> Way {
        self.way
    }

    /// Its unit.
    ///
    /// ```
    /// assert_eq!(mild_ledger::CountRule::DAYS.unit(), mild_ledger::Unit::Day);
    /// ```
    #[must_use]
    pub fn unit(self) -> Unit {
        self.unit
    }

    /// Every rule there is, in the order in which messages list them.
    ///
    /// ```
    /// let words: Vec<String> = mild_ledger::CountRule::all().map(|rule| rule.to_string()).collect();
    /// assert_eq!(words[..2], ["days", "complete weeks"]);
    /// ```
    pub fn all() -> impl Iterator<Item = Self> {
        let longer_than_a_day = || Unit::ALL.into_iter().filter(|unit| *unit != Unit::Day);
        let by_way = Way::ALL.iter().copied();
        core::iter::once(Self::DAYS)
            .chain(by_way.flat_map(move |way| longer_than_a_day().map(move |unit| Self::new(way, unit))))
    }
}

impl fmt::Display for CountRule {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.way {
            _ if self.unit == Unit::Day => f.pad("days"),
            Way::Complete => f.pad(&format!("complete {}", self.unit.plural())),
            Way::StartsPassed => f.pad(&format!("{} starts passed", self.unit)),
        }
    }
}

impl FromStr for CountRule {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::all().find(|rule| rule.to_string() == text).ok_or_else(|| {
            Error::new(
                ErrorKind::Unreadable,
                format!("{} is not a way of counting", quoted(text)),
                Self::all().map(|rule| format!("\"{rule}\"")).collect::<Vec<_>>().join(", "),
            )
        })
    }
}

/// Which of the first and the last day of an interval are counted; "first" is the earlier date.
///
/// No default suits all figures: elapsed time and a count of working days have one each.
///
/// ```
/// use mild_ledger::Ends;
/// assert_eq!((Ends::OF_ELAPSED_TIME.word(), Ends::OF_WORKING_DAYS.word()), ("last", "first-and-last"));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Ends {
    /// From the first day through the last.
    FirstAndLast,
    /// From the day after the first through the last: the plain difference.
    Last,
    /// From the first through the day before the last.
    First,
    /// The days strictly between.
    Neither,
}

impl Ends {
    /// The ends of elapsed time where none are named: the plain difference. Elapsed working time (turnaround, days late) has them too.
    pub const OF_ELAPSED_TIME: Self = Self::Last;
    /// The ends of a count of working days in a span where none are named: both days of the span are in it.
    pub const OF_WORKING_DAYS: Self = Self::FirstAndLast;

    /// The word for it in plans, options and output.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Ends::FirstAndLast.word(), "first-and-last");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::FirstAndLast => "first-and-last",
            Self::Last => "last",
            Self::First => "first",
            Self::Neither => "neither",
        }
    }

    /// The same as a person would say it after a figure; "start" is the earlier date.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Ends::FirstAndLast.said(), "both ends counted");
    /// ```
    #[must_use]
    pub fn said(self) -> &'static str {
        match self {
            Self::FirstAndLast => "both ends counted",
            Self::Last => "start not counted",
            Self::First => "end not counted",
            Self::Neither => "neither end counted",
        }
    }
}

chosen_by_word!(Ends, "a choice of ends");

impl Ends {
    /// All four.
    pub const ALL: [Self; 4] = [Self::FirstAndLast, Self::Last, Self::First, Self::Neither];
}
