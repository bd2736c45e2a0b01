//! The working of a due date.

use super::terms::{PayBy, PaymentTerms};
use crate::date::Date;
use crate::error::Error;
use crate::period::Month;
use crate::reasoning::Working;
use crate::shift::Shift;
use alloc::format;

impl PaymentTerms {
    /// How the due date of an invoice comes about.
    ///
    /// # Errors
    /// Those of [`due`](Self::due).
    ///
    /// ```
    /// use mild_ledger::PaymentTerms;
    /// let terms: PaymentTerms = "15 prox cut-off 25".parse()?;
    /// assert_eq!(
    ///     terms.why_due("2026-01-25".parse()?)?.to_string(),
    ///     "15 prox cut-off 25, day 15 of the month after that of issue: \
    ///      2026-01-25 is on day 25 or later, so it counts as 2026-02, the month after is 2026-03, its day 15 = 2026-03-15"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_due(&self, issued: Date) -> Result<Working, Error> {
        self.why_day(self.net, issued)
    }

    /// How the last day of the discount comes about; `None` where there is none.
    ///
    /// # Errors
    /// Those of [`due`](Self::due).
    ///
    /// ```
    /// # use mild_ledger::PaymentTerms;
    /// let terms: PaymentTerms = "2/10 net 30".parse()?;
    /// let working = terms.why_discount_date("2026-02-20".parse()?)?.ok_or("no discount")?;
    /// assert_eq!(working.to_string(), "2/10 net 30, 10 days after issue: 2026-02-20 + 10 days = 2026-03-02");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn why_discount_date(&self, issued: Date) -> Result<Option<Working>, Error> {
        self.discount.map(|discount| self.why_day(discount.until, issued)).transpose()
    }

    fn why_day(&self, by: PayBy, issued: Date) -> Result<Working, Error> {
        let date = self.day_of(by, issued)?;
        let working = Working::of_rule(format!("{self}, {}", by.in_words()));
        let plus = |from: Date, days: u16| format!("{from} + {}", Shift::days(i32::from(days)));
        Ok(match by {
            PayBy::Receipt => working.step(format!("issued {date}"), date),
            PayBy::Days(days) => working.step(format!("{} = {date}", plus(issued, days)), date),
            PayBy::DaysAfterMonthEnd(days) => {
                let (working, month) = self.counted_in(working, issued)?;
                let last = month.last_day();
                let working = working.step(format!("the last day of {month} is {last}"), last);
                if days == 0 { working } else { working.step(format!("{} = {date}", plus(last, days)), date) }
            }
            PayBy::MonthEndAfterDays(days) => {
                let reached = Shift::days(i32::from(days)).apply(issued)?;
                working
                    .step(format!("{} = {reached}", plus(issued, days)), reached)
                    .step(format!("the last day of {} is {date}", Month::of(reached)), date)
            }
            PayBy::DayOfNextMonth(day) => {
                let (working, month) = self.counted_in(working, issued)?;
                let next = month.away(1)?;
                let working = working.step(format!("the month after is {next}"), next);
                let said = match date.day() {
                    known if known == day => format!("its day {day} = {date}"),
                    last => format!("it has {last} days, so its last = {date}"),
                };
                working.step(said, date)
            }
        })
    }

    /// The month that counts, with the steps that lead to it.
    fn counted_in(&self, working: Working, issued: Date) -> Result<(Working, Month), Error> {
        let month = self.month_of(issued)?;
        Ok(match self.cut_off {
            Some(day) if issued.day() >= day => {
                let said = format!("{issued} is on day {day} or later, so it counts as {month}");
                (working.step(said, month), month)
            }
            Some(day) => {
                (working.step(format!("{issued} is before day {day}, so it counts as {month}"), month), month)
            }
            None => (working, month),
        })
    }
}
