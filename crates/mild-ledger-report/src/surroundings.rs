//! The periods that a date lies in, or some steps away from them: the facts that both the table and the JSON show.

use crate::Detail;
use mild_ledger::{Date, Error, FiscalYear, LabelPattern, Period, PeriodRule, WeekYear, Weekday, Working};

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
    pub week_starts: Weekday,
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
    pub(crate) rows: Vec<Surrounding>,
    pub(crate) fiscal: FiscalYear,
    pub(crate) weeks: WeekYear,
    pub(crate) week_starts: Weekday,
}

/// One of the periods.
#[derive(Debug, Clone)]
pub(crate) struct Surrounding {
    pub(crate) kind: &'static str,
    /// `None` where it lies outside the years 0001 to 9999.
    pub(crate) first: Option<Date>,
    pub(crate) last: Option<Date>,
    pub(crate) days: i64,
    pub(crate) label: String,
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
        let kinds = [
            ("week", PeriodRule::Week(request.week_starts)),
            ("month", PeriodRule::Month),
            ("quarter", PeriodRule::Quarter),
            ("half_year", PeriodRule::HalfYear),
            ("year", PeriodRule::Year),
            ("fiscal_quarter", PeriodRule::FiscalQuarter(request.fiscal)),
            ("fiscal_year", PeriodRule::FiscalYear(request.fiscal)),
            ("week_quarter", PeriodRule::WeekQuarter(request.weeks)),
            ("week_year", PeriodRule::WeekYear(request.weeks)),
        ];
        let mut rows = Vec::with_capacity(kinds.len());
        for (kind, rule) in kinds {
            let period: Period = rule.containing(date).away(request.away)?;
            let first = period.first_day().ok();
            let label = match (&request.pattern, first) {
                (Some(pattern), Some(first)) => pattern.write(first, request.fiscal),
                _ => period.label(),
            };
            rows.push(Surrounding {
                kind,
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
        let (fiscal, weeks, week_starts) = (request.fiscal, request.weeks, request.week_starts);
        Ok(Self { date, away: request.away, rows, fiscal, weeks, week_starts })
    }
}
