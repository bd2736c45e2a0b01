//! Public holidays as data: each calendar with the law that it rests on and the years that it covers.
//!
//! A calendar holds what the law or an official announcement says and nothing that is guessed: it ends with the last
//! year whose days were certain when it was written, and outside its years it answers nothing. Where practice is settled
//! it goes on by rule, and says which of its years are not yet proclaimed. Rest days are Saturday and Sunday.
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

mod africa;
mod asia;
mod australia;
mod canada;
mod eastern_europe;
mod germany;
mod latin_america;
mod new_zealand;
mod northern_europe;
mod rules;
mod settlement;
mod shipped;
mod southern_europe;
mod united_kingdom;
mod united_states;
mod western_europe;

pub use shipped::{Region, Shipped};

/// Every calendar that ships, by region and name.
pub const SHIPPED: &[Shipped] = &[
    western_europe::AUSTRIA,
    western_europe::BELGIUM,
    eastern_europe::CZECHIA,
    northern_europe::DENMARK,
    united_kingdom::ENGLAND_WALES,
    eastern_europe::ESTONIA,
    northern_europe::FINLAND,
    western_europe::FRANCE,
    germany::GERMANY,
    germany::BADEN_WUERTTEMBERG,
    germany::BAVARIA,
    germany::BERLIN,
    germany::BRANDENBURG,
    germany::BREMEN,
    germany::HAMBURG,
    germany::HESSE,
    germany::LOWER_SAXONY,
    germany::MECKLENBURG_WESTERN_POMERANIA,
    germany::NORTH_RHINE_WESTPHALIA,
    germany::RHINELAND_PALATINATE,
    germany::SAARLAND,
    germany::SAXONY,
    germany::SAXONY_ANHALT,
    germany::SCHLESWIG_HOLSTEIN,
    germany::THURINGIA,
    southern_europe::GREECE,
    united_kingdom::IRELAND,
    southern_europe::ITALY,
    eastern_europe::LATVIA,
    eastern_europe::LITHUANIA,
    western_europe::LUXEMBOURG,
    western_europe::NETHERLANDS,
    western_europe::NETHERLANDS_TIME_LIMITS,
    united_kingdom::NORTHERN_IRELAND,
    northern_europe::NORWAY,
    eastern_europe::POLAND,
    southern_europe::PORTUGAL,
    eastern_europe::ROMANIA,
    united_kingdom::SCOTLAND,
    southern_europe::SPAIN,
    northern_europe::SWEDEN,
    northern_europe::SWEDEN_WITH_EVES,
    canada::ALBERTA,
    latin_america::BRAZIL,
    canada::BRITISH_COLUMBIA,
    canada::CANADA_FEDERAL,
    canada::CANADA_FEDERAL_WEEKDAY_AFTER,
    latin_america::COLOMBIA,
    latin_america::MEXICO,
    canada::ONTARIO,
    canada::QUEBEC,
    united_states::US_FEDERAL,
    united_states::US_FEDERAL_WITH_CLOSINGS,
    africa::SOUTH_AFRICA,
    asia::HONG_KONG,
    asia::INDIA,
    asia::JAPAN,
    asia::SINGAPORE,
    australia::AUSTRALIA,
    australia::AUSTRALIAN_CAPITAL_TERRITORY,
    australia::NEW_SOUTH_WALES,
    new_zealand::NEW_ZEALAND,
    australia::NORTHERN_TERRITORY,
    australia::QUEENSLAND,
    australia::SOUTH_AUSTRALIA,
    australia::TASMANIA,
    australia::VICTORIA,
    australia::WESTERN_AUSTRALIA,
    latin_america::BRAZIL_BANKING,
    settlement::EURO_SETTLEMENT,
    settlement::FEDERAL_RESERVE,
    settlement::NEW_YORK_EXCHANGE,
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

/// The page of the package, whose example runs as those of the documentation do.
#[cfg(doctest)]
#[doc = include_str!("../README.md")]
struct PackagePage;
