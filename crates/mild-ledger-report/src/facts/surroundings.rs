//! The periods that a date lies in, or some steps away from them: the facts that both the table and the JSON show.

use super::by_calendar::DayByCalendar;
use super::one_figure::in_lines;
use crate::Detail;
use crate::shown::visible;
use mild_ledger::{
    Date, Error, FiscalYear, LabelPattern, Period, PeriodRule, WeekNumber, WeekNumbers, WeekYear, Weekday,
    WeekdayNumbers, WorkCalendar, Working,
};

/// Which periods are looked at, and how far away.
#[derive(Debug, Clone)]
pub struct SurroundingsRequest {
    /// Steps of each period, back where negative.
    pub away: i64,
    /// The fiscal year.
    pub fiscal: FiscalYear,
    /// The rule for years of weeks.
    pub weeks: WeekYear,
    /// The first day of the week.
    pub weeks_begin: Weekday,
    /// How weeks are numbered.
    pub week_numbers: WeekNumbers,
    /// How weekdays are numbered.
    pub weekday_numbers: WeekdayNumbers,
    /// A pattern that labels are written by, from each period's first day.
    pub pattern: Option<LabelPattern>,
    /// Whether each period comes with how it was found.
    pub detail: Detail,
}

/// A date and the periods around it.
#[derive(Debug, Clone)]
pub struct Surroundings {
    pub(crate) date: Date,
    pub(crate) away: i64,
    pub(crate) iso_week: WeekNumber,
    pub(crate) day_of_year: i64,
    pub(crate) week: WeekNumber,
    pub(crate) week_numbers: WeekNumbers,
    pub(crate) weekday_number: u8,
    pub(crate) weekday_numbers: WeekdayNumbers,
    pub(crate) rows: Vec<Surrounding>,
    pub(crate) fiscal: FiscalYear,
    pub(crate) weeks: WeekYear,
    pub(crate) weeks_begin: Weekday,
    pub(crate) by_calendar: Vec<DayByCalendar>,
}

/// One of the periods.
#[derive(Debug, Clone)]
pub(crate) struct Surrounding {
    pub(crate) rule: PeriodRule,
    /// `None` where it lies outside the years 0001 to 9999.
    pub(crate) first: Option<Date>,
    pub(crate) last: Option<Date>,
    pub(crate) days: i64,
    pub(crate) label: String,
    /// Its number, of years the year, of months 1 to 12.
    pub(crate) number: i64,
    /// The number of the date inside it.
    pub(crate) position: Option<i64>,
    /// How it was found, where that is asked for.
    pub(crate) why: Option<Working>,
}

impl Surroundings {
    /// The periods of a date.
    ///
    /// # Errors
    /// Where a period lies wholly outside the years 0001 to 9999.
    pub fn of(date: Date, request: &SurroundingsRequest) -> Result<Self, Error> {
        let rules = PeriodRule::all(request.weeks_begin, request.fiscal, request.weeks);
        let mut rows = Vec::with_capacity(rules.len());
        for rule in rules {
            let period: Period = rule.containing(date).away(request.away)?;
            let first = period.first_day().ok();
            let label = match &request.pattern {
                Some(pattern) => pattern.write_period(&period, request.fiscal)?,
                None => period.label(),
            };
            rows.push(Surrounding {
                rule,
                number: period.number(),
                first,
                last: period.last_day().ok(),
                days: period.days(),
                label,
                position: period.position_of(date),
                why: match request.detail {
                    Detail::FiguresOnly => None,
                    Detail::WithWorking => Some(rule.why(date)),
                },
            });
        }
        let (fiscal, weeks, weeks_begin) = (request.fiscal, request.weeks, request.weeks_begin);
        Ok(Self {
            date,
            away: request.away,
            iso_week: WeekNumbers::iso().of(date),
            day_of_year: PeriodRule::Year.containing(date).position_of(date).unwrap_or_default(),
            week: request.week_numbers.of(date),
            week_numbers: request.week_numbers,
            weekday_number: request.weekday_numbers.of(date),
            weekday_numbers: request.weekday_numbers,
            rows,
            fiscal,
            weeks,
            weeks_begin,
            by_calendar: Vec::new(),
        })
    }

    /// The same with what calendars say of the date.
    ///
    /// # Errors
    /// Where a calendar does not cover it.
    pub fn with_calendars(self, calendars: &[WorkCalendar]) -> Result<Self, Error> {
        Ok(Self { by_calendar: DayByCalendar::of_all(self.date, calendars)?, ..self })
    }

    /// One figure of one of the periods in a line, with the working of the period where that was asked for; `None` for
    /// a period that is not among them, or a day outside the years 0001 to 9999.
    #[must_use]
    pub fn one(&self, period: PeriodRule, gives: PeriodFigure) -> Option<String> {
        let row = self.rows.iter().find(|row| row.rule == period)?;
        let shown = match gives {
            PeriodFigure::FirstDay => row.first?.to_string(),
            PeriodFigure::LastDay => row.last?.to_string(),
            PeriodFigure::Days => row.days.to_string(),
            PeriodFigure::Label => visible(&row.label).into_owned(),
            PeriodFigure::Number => row.number.to_string(),
        };
        Some(match &row.why {
            Some(why) => in_lines(&shown, why, None, Detail::WithWorking),
            None => format!("{shown}\n"),
        })
    }
}

/// What a period gives in one line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PeriodFigure {
    /// Its first day.
    FirstDay,
    /// Its last day.
    LastDay,
    /// How many days it has.
    Days,
    /// Its label.
    Label,
    /// Its number.
    Number,
}

impl PeriodFigure {
    /// All of them, each with its word.
    pub const ALL: [(&'static str, Self); 5] = [
        ("first day", Self::FirstDay),
        ("last day", Self::LastDay),
        ("days", Self::Days),
        ("label", Self::Label),
        ("number", Self::Number),
    ];
}
