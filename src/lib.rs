//! Record dates into figures for reporting.
//!
//! The library takes dates from records (invoices, jobs, contracts, staff) and gives the figures that a
//! finance or operations report needs, each by a rule that has a name. It reads no files and no clock, and
//! depends on nothing but the standard library.
//!
//! # In the order of the work
//!
//! **Make dates of text.** A pattern, written in words, says how the dates of a column are written.
//!
//! ```
//! use mild_ledger::{Date, DatePattern, Reading};
//!
//! let pattern: DatePattern = "day/month/year".parse()?;
//! let Reading::Date { date, .. } = pattern.read("30/11/2019")? else { unreachable!() };
//! assert_eq!(date, Date::new(2019, 11, 30)?);
//! assert!(pattern.read("31/06/2026").is_err());
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Count the time between two dates.** There is more than one way, and each says which it is.
//!
//! ```
//! # use mild_ledger::{Date, Interval, Unit};
//! let interval = Interval::between("2019-11-30".parse()?, "2022-01-02".parse()?);
//! assert_eq!(interval.days().to_string(), "764 days");
//! assert_eq!(interval.complete(Unit::Year).to_string(), "2 complete years");
//! assert_eq!(interval.starts_passed(Unit::Year).to_string(), "3 year starts passed");
//! assert_eq!(interval.parts().to_string(), "2 years, 1 month and 3 days");
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Move a date**, with the rule for month ends by name.
//!
//! ```
//! # use mild_ledger::{Date, MonthEnd, Shift};
//! let start: Date = "2026-01-31".parse()?;
//! assert_eq!(Shift::months(1).apply(start)?.to_string(), "2026-02-28");
//! assert_eq!(Shift::months(1).with_month_end(MonthEnd::NextStart).apply(start)?.to_string(), "2026-03-01");
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Place a date**: in its month, its fiscal quarter, its week of a 52- or 53-week year.
//!
//! ```
//! # use mild_ledger::{Date, FiscalYear, Month, PeriodRule};
//! assert_eq!(Month::of("2024-02-10".parse()?).last_day().to_string(), "2024-02-29");
//! let quarter = PeriodRule::FiscalQuarter(FiscalYear::starting(10, 1)?).containing("2026-10-01".parse()?);
//! assert_eq!((quarter.label(), quarter.last_day()?.to_string()), ("FY2027-Q1".into(), "2026-12-31".into()));
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Share days out** over the periods that they fall into.
//!
//! ```
//! # use mild_ledger::{Ends, Interval, PeriodRule};
//! let hire = Interval::between("2026-01-15".parse()?, "2026-03-10".parse()?);
//! let days: Vec<i64> = hire.split(PeriodRule::Month, Ends::FirstAndLast).iter().map(|share| share.days()).collect();
//! assert_eq!(days, [17, 28, 10]);
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Tell ages, anniversaries and tenure.**
//!
//! ```
//! # use mild_ledger::{Anniversaries, Tenure, Unit};
//! let born = Anniversaries::of("2004-02-29".parse()?);
//! assert_eq!(born.age_on("2026-02-28".parse()?)?.value(), 22);
//! let stay = Tenure::from("2021-07-31".parse()?).as_of("2026-09-30".parse()?)?;
//! assert_eq!(stay.parts().to_string(), "5 years and 2 months");
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Count hours**, where a time of day comes after the date.
//!
//! ```
//! # use mild_ledger::{ClockInterval, ClockMeasure, ClockUnit};
//! let turnaround = ClockInterval::between("2026-09-30T16:00".parse()?, "2026-10-02T09:30".parse()?);
//! assert_eq!(turnaround.figure(ClockMeasure::Fractional(ClockUnit::Hour)).to_string(), "41 + 1/2");
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Count working days** by a calendar that knows which years it covers.
//!
//! ```
//! # use mild_ledger::{Date, Ends, HolidayRule, Interval, Occurrence, RestDays, WorkCalendar};
//! let closed = HolidayRule::new("Slip repair", Occurrence::on_date("2026-10-07".parse()?));
//! let yard = WorkCalendar::new("Yard", RestDays::default(), 2026, 2027, &[closed])?;
//! let october = Interval::between("2026-10-01".parse()?, "2026-10-31".parse()?);
//! assert_eq!(yard.working_days(october, Ends::FirstAndLast)?.to_string(), "31 days - 9 rest days - 1 holiday = 21");
//! assert_eq!(yard.add_working_days("2026-10-02".parse()?, 10)?.to_string(), "2026-10-19");
//! assert!(yard.add_working_days("2027-12-31".parse()?, 1).is_err());
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Show the working** of any of these figures: the rule, the steps, and in the last one the figure.
//!
//! ```
//! # use mild_ledger::{Interval, Unit};
//! let interval = Interval::between("2024-01-31".parse()?, "2024-03-01".parse()?);
//! assert_eq!(
//!     interval.why_complete(Unit::Month).to_string(),
//!     "complete months: 2024-01-31 + 1 month = 2024-02-29 (clamped), + 2 months = 2024-03-31, after 2024-03-01, so 1"
//! );
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Age what is owed**, in buckets that cannot overlap, in exact amounts.
//!
//! ```
//! # use mild_ledger::{AgingBuckets, BucketMeasure, Scale};
//! let buckets = AgingBuckets::from_upper_edges(&[0, 30, 60, 90], BucketMeasure::DaysOverdue)?;
//! assert_eq!(buckets.label(buckets.bucket_of(31)), Some("31–60"));
//! let owed = Scale::new(2)?.read("1250.00")?;
//! assert_eq!(owed.to_string(), "1250.00");
//! # Ok::<(), mild_ledger::Error>(())
//! ```
//!
//! **Do it for whole columns**: [`mod@column`] holds the same calculations over many rows at once.

#![no_std]

extern crate alloc;

mod choice;
mod date;
mod error;
mod interval;
mod number;
mod pattern;
mod people;
mod period;
mod reasoning;
mod receivables;
#[cfg(feature = "serde")]
mod serialisation;
mod shift;
mod summary;
mod values_met;
mod work;

pub mod column;

pub use date::{ClockTime, Date, DateField, DateTime, FinerDigits, Weekday, ZoneName, ZoneText};
pub use error::{Error, ErrorKind};
pub use interval::{
    ClockInterval, ClockMeasure, Count, CountRule, DayCount, Ends, Figure, HoursOf, Interval, MeanMonth,
    Measure, Parts, Share, Way,
};
pub use number::{
    AmountEvidence, Decimal, DecimalMark, ExactSum, Fraction, NegativeForm, Notation, NotationVerdict,
    Operation, Quotient, Rounding, Scale, ThousandsMark, is_currency_code,
};
pub use pattern::{
    BothWays, DateEvidence, DatePattern, DateTimeReading, DaysSeen, Filler, FillersMet, Language,
    PatternReadings, PatternSettings, PatternVerdict, PeriodDay, Reading, SerialSystem, TimeOfDay,
    WritingPattern, WrittenDates,
};
pub use people::{Anniversaries, Anniversary, Headcount, HeadcountLine, Tenure, rate_per, why_rate_per};
pub use period::{
    DateRange, FiscalNaming, FiscalYear, LabelPattern, Month, NamedDay, NamedWindow, Nearness, Period,
    PeriodEdge, PeriodRule, WeekNumber, WeekNumbers, WeekSplit, WeekYear, WeekdayNumbers, YearEnding,
};
pub use reasoning::{Step, Working};
pub use receivables::{
    Account, AgingBuckets, BucketMeasure, BucketMovement, Collections, CreditsStand, EarlyDiscount, Invoice,
    MonthSales, MovedFrom, MovedTo, Movement, PayBy, Payment, PaymentTerms, Position, SetOff, Standing,
    average_days_late, days_sales_by_count_back, days_sales_outstanding, loss_allowance, share_overdue,
};
pub use shift::{ClockUnit, MonthEnd, NthWeekday, Occurrences, Recurrence, Shift, Unit, WeekdayMove};
pub use summary::{
    AllocationBasis, Job, OutlierBounds, OutlierSide, PercentilePlace, PeriodShare, Progress, TargetAmount,
    TargetPeriod, TargetProgress, allocate, allocate_over_periods, even_edges, percentile,
    percentile_of_counted, rate_a_day, shares_of_hundred, target_by_period,
};
pub use values_met::ValueMet;
pub use work::{
    CalendarBuilder, CalendarYears, Church, Combination, CommonYears, CountedDay, DateMove, DayKind,
    HalfDays, Holiday, HolidayLength, HolidayMove, HolidayRule, KeptYears, MonthGrid, MoveWorking,
    NumberInMonth, Occurrence, OpenSpan, OpeningHours, RestDays, Roll, SubstituteCloses, WeekdaySide,
    WorkCalendar, WorkingDays, WorkingGrid, WorkingTime, easter_sunday,
};

/// The page that a registry shows, whose example runs as those of the documentation do.
#[cfg(doctest)]
#[doc = include_str!("../docs/library.md")]
struct RegistryPage;
