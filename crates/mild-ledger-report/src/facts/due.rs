//! When an invoice is due under its payment terms: the facts that both the text and the JSON show.

use super::by_calendar::by_rule_among;
use mild_ledger::{CalendarYears, Date, DateMove, Decimal, Error, PaymentTerms, Roll, WorkCalendar, Working};

/// The due date of an invoice, and the last day of its discount.
#[derive(Debug, Clone)]
pub struct Due {
    pub(crate) issued: Date,
    pub(crate) terms: PaymentTerms,
    pub(crate) due: DueDay,
    pub(crate) discount: Option<(Decimal, DueDay)>,
    /// How dates that are not working days are rolled, and the name of the calendar that decides, where they are.
    pub(crate) rolled: Option<(Roll, String)>,
    /// The year of the due date, where the days of that follow by rule in the calendar.
    pub(crate) by_rule: Option<CalendarYears>,
}

/// One of the dates.
#[derive(Debug, Clone)]
pub(crate) struct DueDay {
    pub(crate) date: Date,
    pub(crate) working: Working,
}

/// Which dates are rolled to working days.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum RolledDates {
    /// The due date alone.
    Due,
    /// The last day of the discount too.
    DueAndDiscount,
}

impl Due {
    /// The dates of an invoice issued on that day.
    ///
    /// # Errors
    /// A date outside the years 0001 to 9999, and days that the calendar does not cover.
    pub fn of(
        issued: Date,
        terms: PaymentTerms,
        (roll, rolled): (Roll, RolledDates),
        calendar: &WorkCalendar,
    ) -> Result<Self, Error> {
        let discount_roll = if rolled == RolledDates::DueAndDiscount { roll } else { Roll::Unadjusted };
        let due = DueDay::of(terms.due(issued)?, terms.why_due(issued)?, roll, calendar)?;
        let discounted = terms.discount().zip(terms.discount_date(issued)?);
        let discount = match discounted.zip(terms.why_discount_date(issued)?) {
            Some(((discount, date), working)) => {
                Some((discount.per_cent(), DueDay::of(date, working, discount_roll, calendar)?))
            }
            None => None,
        };
        let rolled = (roll != Roll::Unadjusted).then(|| (roll, calendar.name().to_owned()));
        let by_rule = rolled.as_ref().and_then(|_| by_rule_among(calendar, &[due.date]));
        Ok(Self { issued, terms, due, discount, rolled, by_rule })
    }
}

impl DueDay {
    fn of(date: Date, working: Working, roll: Roll, calendar: &WorkCalendar) -> Result<Self, Error> {
        if roll == Roll::Unadjusted {
            return Ok(Self { date, working });
        }
        let by = DateMove::default().rolled(roll);
        let rolled = by.why(date, Some(calendar))?;
        Ok(Self {
            date: by.apply(date, Some(calendar))?,
            working: working.followed_by(rolled.working().clone()),
        })
    }
}
