//! Columns of ages, anniversaries and rates.

use super::rows::{Rows, numbers};
use crate::plan::{AnniversaryGives, RatePer};
use crate::run::job::{BoundRate, DateInput};
use crate::run::table::Data;
use mild_ledger::column::CountColumn;
use mild_ledger::{Anniversaries, CountRule, Date, Fraction, Interval, MonthEnd, Tenure, rate_per};

impl<'t> Rows<'_, 't, '_> {
    pub(super) fn ages<'b>(&mut self, of: DateInput, on: DateInput, leap_day: MonthEnd) -> Data<'b> {
        let ages = self.each(
            |(born, on)| Ok(Anniversaries::of(born).leap_day(leap_day)?.age_on(on)?.value()),
            |rows, row| rows.date(of, row).zip(rows.date(on, row)),
        );
        Data::Number(CountColumn::of_figures(CountRule::COMPLETE_YEARS, ages))
    }

    pub(super) fn anniversaries(
        &mut self,
        of: DateInput,
        on_or_after: DateInput,
        leap_day: MonthEnd,
        gives: AnniversaryGives,
    ) -> Data<'t> {
        let found = self.each(
            |(start, from): (Date, Date)| Anniversaries::of(start).leap_day(leap_day)?.next_on_or_after(from),
            |rows, row| rows.date(of, row).zip(rows.date(on_or_after, row)),
        );
        match gives {
            AnniversaryGives::Date => self.dates_of(found.iter().map(|found| found.map(|(_, date)| date))),
            AnniversaryGives::Number => {
                numbers(0, found.iter().map(|found| found.map(|(number, _)| number.into())))
            }
        }
    }

    /// A quantity over the tenure of its row; a blank quantity stays blank.
    pub(super) fn rates<'b>(&mut self, rate: &BoundRate) -> Data<'b> {
        let as_of = self.job.as_of;
        let (decimals, rounding) = (rate.decimals, rate.rounding);
        let rates = self.each(
            |(quantity, start, end): (mild_ledger::Decimal, Date, Option<Date>)| {
                let stay = end.map_or(Tenure::from(start), |end| Tenure::from(start).until(end));
                let time = time_of(stay.as_of(as_of)?, rate.per);
                Ok(rate_per(quantity, time, rate.smallest, decimals, rounding)?.units())
            },
            |rows, row| match rows.is_unreadable(rate.end, row) {
                true => None,
                false => Some((
                    rows.table.decimal(rate.quantity, row)?,
                    rows.date(rate.start, row)?,
                    rows.date(rate.end, row),
                )),
            },
        );
        numbers(decimals, rates)
    }
}

/// The time of a stay in what a rate divides by.
fn time_of(stay: Interval, per: RatePer) -> Fraction {
    match per {
        RatePer::Fractional(unit) => stay.fractional(unit),
        RatePer::MeanMonths(mean) => stay.mean_months(mean),
        RatePer::MeanYears(convention) => stay.year_fraction(convention),
    }
}
