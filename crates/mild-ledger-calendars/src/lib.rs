//! Public holidays as data: each calendar with the law that it stands on and the years that it covers.
//!
//! A calendar holds what the law or an official announcement says and nothing that is guessed: it ends with the last
//! year whose days were certain when it was written, and outside its years it answers nothing. Rest days are Saturday
//! and Sunday.
//!
//! ```
//! use mild_ledger::{Ends, Interval};
//!
//! let shipped = mild_ledger_calendars::named("england-wales").ok_or("no such calendar")?;
//! let calendar = shipped.calendar()?;
//! let june = Interval::between("2022-06-01".parse()?, "2022-06-30".parse()?);
//! assert_eq!(calendar.working_days(june, Ends::FirstAndLast)?.count(), 20);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod americas;
mod asia;
mod europe;
mod oceania;
mod rules;
mod united_kingdom;

use mild_ledger::{CalendarBuilder, CalendarYears, Error, HolidayRule, WorkCalendar};

/// A calendar that ships.
#[derive(Debug, Clone, Copy)]
pub struct Shipped {
    name: &'static str,
    title: &'static str,
    law: &'static str,
    covers: (i32, i32),
    rules: fn() -> Result<Vec<HolidayRule>, Error>,
}

impl Shipped {
    /// The name by which it is asked for.
    ///
    /// ```
    /// assert_eq!(mild_ledger_calendars::SHIPPED[0].name(), "us-federal");
    /// ```
    #[must_use]
    pub fn name(&self) -> &'static str {
        self.name
    }

    /// Whose days they are.
    ///
    /// ```
    /// assert!(mild_ledger_calendars::SHIPPED.iter().all(|shipped| !shipped.title().is_empty()));
    /// ```
    #[must_use]
    pub fn title(&self) -> &'static str {
        self.title
    }

    /// The law that they stand on, with its section.
    ///
    /// ```
    /// assert!(mild_ledger_calendars::SHIPPED[0].law().contains("6103"));
    /// ```
    #[must_use]
    pub fn law(&self) -> &'static str {
        self.law
    }

    /// The years that it covers.
    ///
    /// ```
    /// assert!(mild_ledger_calendars::SHIPPED.iter().all(|shipped| shipped.covers().has(2025)));
    /// ```
    #[must_use]
    pub fn covers(&self) -> CalendarYears {
        CalendarYears::of(self.covers.0, self.covers.1)
    }

    /// What it is made of: rules of its holidays with Saturday and Sunday as rest days, which another may build on.
    ///
    /// # Errors
    /// None for what ships; a test holds it so.
    ///
    /// ```
    /// assert!(mild_ledger_calendars::SHIPPED.iter().all(|shipped| shipped.builder().is_ok()));
    /// ```
    pub fn builder(&self) -> Result<CalendarBuilder, Error> {
        Ok(WorkCalendar::builder(self.name, self.covers()).holidays((self.rules)()?))
    }

    /// The calendar.
    ///
    /// # Errors
    /// None for what ships; a test holds it so.
    ///
    /// ```
    /// assert!(mild_ledger_calendars::SHIPPED.iter().all(|shipped| shipped.calendar().is_ok()));
    /// ```
    pub fn calendar(&self) -> Result<WorkCalendar, Error> {
        self.builder()?.build()
    }
}

/// Every calendar that ships.
pub const SHIPPED: &[Shipped] = &[
    americas::US_FEDERAL,
    united_kingdom::ENGLAND_WALES,
    united_kingdom::SCOTLAND,
    united_kingdom::NORTHERN_IRELAND,
    europe::IRELAND,
    europe::GERMANY,
    europe::FRANCE,
    europe::NETHERLANDS,
    europe::SPAIN,
    europe::ITALY,
    americas::CANADA_FEDERAL,
    oceania::AUSTRALIA,
    oceania::NEW_ZEALAND,
    asia::INDIA,
    asia::JAPAN,
    europe::EURO_SETTLEMENT,
];

/// The calendar with a name.
///
/// ```
/// assert!(mild_ledger_calendars::named("france").is_some() && mild_ledger_calendars::named("atlantis").is_none());
/// ```
#[must_use]
pub fn named(name: &str) -> Option<&'static Shipped> {
    SHIPPED.iter().find(|shipped| shipped.name == name)
}
