//! Columns that measure intervals and stays.

use super::rows::{Rows, numbers, texts};
use crate::plan::Measuring;
use crate::run::job::{DateInput, Stay};
use crate::run::table::Data;
use mild_ledger::column::{CountColumn, DateColumn, Dates, FractionColumn, Intervals};
use mild_ledger::{ClockInterval, Date, DateTime, Error, Fraction, Interval, Measure, Tenure};

/// The ends of a measured column, and what lies between them.
pub(super) struct Measured {
    pub(super) start: DateInput,
    pub(super) end: DateInput,
    pub(super) stay: Stay,
    pub(super) within: Option<(Date, Date)>,
}

impl Rows<'_, '_, '_> {
    pub(super) fn measured<'b>(
        &mut self,
        measured: &Measured,
        measuring: &Measuring,
    ) -> Result<Data<'b>, Error> {
        let Measured { start, end, stay, within } = *measured;
        if self.keeps_times(start) || self.keeps_times(end) {
            return self.measured_by_the_clock(measured, measuring);
        }
        // A stay runs to the as-of date while its end is blank or has not come.
        let (starts, ends) = match stay {
            Stay::Interval => (DateColumn::new(), DateColumn::new()),
            Stay::Tenure => self.stays(start, end),
        };
        let none: DateColumn = (0..self.count()).map(|_| None).collect();
        let (starts, ends) = match stay {
            Stay::Interval => (self.dates(start, &none), self.dates(end, &none)),
            Stay::Tenure => (Dates::Column(&starts), Dates::Column(&ends)),
        };
        let intervals = Intervals::between(starts, ends, self.count())?
            .month_end(measuring.month_end)?
            .counting(measuring.ends)
            .week_starts(measuring.week_starts);
        if let Some((first, last)) = within {
            let days = |interval: Interval| interval.days_within(first, last, measuring.ends);
            let days = (0..self.count()).map(|row| intervals.get(row).map(days));
            let rule = mild_ledger::CountRule::DAYS;
            return Ok(Data::Number(CountColumn::of_figures(rule, days)));
        }
        match measuring.measure {
            Measure::Count(rule) => Ok(Data::Number(intervals.count(rule))),
            Measure::Fractional(unit) => rounded(&intervals.fractional(unit), measuring),
            Measure::YearFraction(convention) => rounded(&intervals.year_fraction(convention), measuring),
            Measure::MeanMonths(mean) => rounded(&intervals.mean_months(mean), measuring),
            Measure::CalendarMonths => rounded(&intervals.calendar_months(), measuring),
            _ => {
                let parts = intervals.parts();
                Ok(texts((0..self.count()).map(|row| parts.get(row).map(|parts| parts.to_string()))))
            }
        }
    }

    /// The starts and the ends of stays, both empty where there is none.
    fn stays(&mut self, start: DateInput, end: DateInput) -> (DateColumn, DateColumn) {
        let as_of = self.job.as_of;
        let stays = self.each(
            |(start, end): (Date, Option<Date>)| {
                let stay = end.map_or(Tenure::from(start), |end| Tenure::from(start).until(end));
                stay.as_of(as_of)
            },
            // An end that could not be read is not the same as none.
            |rows, row| match rows.is_unreadable(end, row) {
                true => None,
                false => Some((rows.date(start, row)?, rows.date(end, row))),
            },
        );
        let starts = stays.iter().map(|stay| stay.map(Interval::start)).collect();
        (starts, stays.iter().map(|stay| stay.map(Interval::end)).collect())
    }

    /// Between date-times, row by row; a date beside one begins at midnight.
    fn measured_by_the_clock<'b>(
        &mut self,
        measured: &Measured,
        measuring: &Measuring,
    ) -> Result<Data<'b>, Error> {
        let Measured { start, end, stay, within } = *measured;
        let as_of = self.job.as_of;
        let intervals = self.each(
            |(start, end): (Moment, Option<Moment>)| -> Result<ClockInterval, Error> {
                let ((start, start_utc), (mut end, mut end_utc)) = (start, end.unwrap_or(start));
                if stay == Stay::Tenure {
                    // Whether it has begun, and how far it runs, is a matter of dates.
                    let dates = Tenure::from(start.date()).until(end.date()).as_of(as_of)?;
                    if dates.end() != end.date() {
                        (end, end_utc) = (DateTime::new(as_of, mild_ledger::ClockTime::MIDNIGHT), None);
                    }
                }
                let interval = ClockInterval::between(start, end)
                    .month_end(measuring.month_end)?
                    .week_starts(measuring.week_starts);
                Ok(match (start_utc, end_utc) {
                    (Some(start), Some(end)) => interval.with_instants(start, end),
                    _ => interval,
                })
            },
            |rows, row| match (stay, rows.moment(end, row)) {
                (Stay::Interval, end) => Some((rows.moment(start, row)?, Some(end?))),
                (Stay::Tenure, _) if rows.is_unreadable(end, row) => None,
                (Stay::Tenure, None) => {
                    let today = rows.moment(DateInput::Every(as_of), row);
                    Some((rows.moment(start, row)?, today))
                }
                (Stay::Tenure, end) => Some((rows.moment(start, row)?, end)),
            },
        );
        let fractions = |figure: &dyn Fn(ClockInterval) -> Fraction| -> FractionColumn {
            intervals.iter().map(|interval| interval.map(figure)).collect()
        };
        let of_dates = |figure: &dyn Fn(Interval) -> Fraction| -> FractionColumn {
            intervals.iter().map(|interval| interval.map(|interval| figure(interval.dates()))).collect()
        };
        match measuring.measure {
            Measure::Count(rule) => {
                let count = |interval: ClockInterval| match (within, rule.way()) {
                    (Some((first, last)), _) => interval.dates().days_within(first, last, measuring.ends),
                    (None, mild_ledger::Way::StartsPassed) => interval.starts_passed(rule.unit()).value(),
                    _ => interval.complete(rule.unit()).value(),
                };
                let figures = intervals.iter().map(|interval| interval.map(count));
                Ok(Data::Number(CountColumn::of_figures(rule, figures)))
            }
            Measure::Clock(measure) if measure.is_whole() => Ok(numbers(
                0,
                intervals
                    .iter()
                    .map(|interval| interval.map(|interval| interval.figure(measure).whole().into())),
            )),
            Measure::Clock(measure) => rounded(&fractions(&|interval| interval.figure(measure)), measuring),
            Measure::Fractional(unit) => {
                rounded(&fractions(&|interval| interval.fractional(unit)), measuring)
            }
            Measure::YearFraction(convention) => {
                rounded(&of_dates(&|interval| interval.year_fraction(convention)), measuring)
            }
            Measure::MeanMonths(mean) => {
                rounded(&of_dates(&|interval| interval.mean_months(mean)), measuring)
            }
            Measure::CalendarMonths => rounded(&of_dates(&Interval::calendar_months), measuring),
            _ => Ok(texts(intervals.iter().map(|interval| interval.map(|all| all.parts().to_string())))),
        }
    }
}

/// A date-time, and its instant in UTC where a zone told it.
type Moment = (DateTime, Option<DateTime>);

/// Exact fractions with the decimals that were asked for.
fn rounded<'b>(fractions: &FractionColumn, measuring: &Measuring) -> Result<Data<'b>, Error> {
    let units: Vec<Option<i128>> = (0..fractions.len())
        .map(|row| match fractions.get(row) {
            Some(fraction) => fraction
                .to_decimal(measuring.decimals, measuring.rounding)
                .map(|decimal| Some(decimal.units())),
            None => Ok(None),
        })
        .collect::<Result<_, _>>()?;
    Ok(numbers(measuring.decimals, units))
}
