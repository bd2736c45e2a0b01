//! A calendar that ships: its rules, the law that they rest on, and how far they reach.

use mild_ledger::{CalendarBuilder, CalendarYears, Error, HolidayRule, KeptYears, WorkCalendar};

/// A calendar that ships.
#[derive(Debug, Clone, Copy)]
pub struct Shipped {
    pub(crate) name: &'static str,
    pub(crate) title: &'static str,
    pub(crate) region: Region,
    pub(crate) law: &'static str,
    pub(crate) notes: &'static [&'static str],
    pub(crate) covers: (i32, i32),
    /// The last year that is proclaimed, published or fixed by the law as it was.
    pub(crate) proclaimed: i32,
    /// The one that it builds on.
    pub(crate) base: Option<&'static Shipped>,
    /// The holidays of that one which it does not keep, or keeps by rules of its own.
    pub(crate) dropped: &'static [&'static str],
    pub(crate) rules: fn() -> Result<Vec<HolidayRule>, Error>,
}

/// Names of countries that no calendar has in its own, and the calendars that people may mean by them.
const ALSO_CALLED: [(&[&str], &[&str]); 9] = [
    (
        &["uk", "gb", "britain", "great britain", "united kingdom"],
        &["england-wales", "northern-ireland", "scotland"],
    ),
    (&["england", "wales"], &["england-wales"]),
    (&["us", "usa", "united states", "america"], &["us-federal", "us-federal-with-closings"]),
    (&["nz"], &["new-zealand"]),
    (&["holland"], &["netherlands"]),
    (&["czech republic"], &["czechia"]),
    (&["canada"], &["canada-federal"]),
    (&["wall street", "nyse"], &["new-york-exchange"]),
    (&["target", "ecb", "euro"], &["euro-settlement"]),
];

/// A part of the world, or of trade.
///
/// ```
/// assert_eq!(mild_ledger_calendars::Region::ALL.len(), 6);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Region {
    /// Europe.
    Europe,
    /// North and South America.
    Americas,
    /// Africa.
    Africa,
    /// Asia.
    Asia,
    /// Australia and New Zealand.
    Oceania,
    /// Payment systems and exchanges.
    Settlement,
}

impl Region {
    /// All of them, in the order in which they are listed.
    pub const ALL: [Self; 6] =
        [Self::Europe, Self::Americas, Self::Africa, Self::Asia, Self::Oceania, Self::Settlement];

    /// Its name.
    ///
    /// ```
    /// assert_eq!(mild_ledger_calendars::Region::Settlement.word(), "Settlement and exchanges");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Europe => "Europe",
            Self::Americas => "Americas",
            Self::Africa => "Africa",
            Self::Asia => "Asia",
            Self::Oceania => "Oceania",
            Self::Settlement => "Settlement and exchanges",
        }
    }
}

impl Shipped {
    /// The name by which it is asked for.
    ///
    /// ```
    /// assert_eq!(mild_ledger_calendars::SHIPPED[0].name(), "austria");
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

    /// Where it belongs.
    ///
    /// ```
    /// use mild_ledger_calendars::{Region, named};
    /// assert_eq!(named("austria").map(|shipped| shipped.region()), Some(Region::Europe));
    /// ```
    #[must_use]
    pub fn region(&self) -> Region {
        self.region
    }

    /// The law that its days rest on, with its section.
    ///
    /// ```
    /// use mild_ledger_calendars::named;
    /// assert!(named("us-federal").is_some_and(|shipped| shipped.law().contains("6103")));
    /// ```
    #[must_use]
    pub fn law(&self) -> &'static str {
        self.law
    }

    /// What else a person who counts by it should know, a sentence or two each.
    ///
    /// ```
    /// use mild_ledger_calendars::named;
    /// assert!(named("spain").is_some_and(|shipped| !shipped.notes().is_empty()));
    /// ```
    #[must_use]
    pub fn notes(&self) -> &'static [&'static str] {
        self.notes
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

    /// Those of its years whose days follow by rule and are not yet proclaimed or published, if there are any.
    ///
    /// ```
    /// use mild_ledger::CalendarYears;
    /// use mild_ledger_calendars::named;
    /// assert_eq!(named("england-wales").and_then(|shipped| shipped.by_rule()), Some(CalendarYears::of(2028, 2030)));
    /// ```
    #[must_use]
    pub fn by_rule(&self) -> Option<CalendarYears> {
        (self.proclaimed < self.covers.1).then(|| CalendarYears::of(self.proclaimed + 1, self.covers.1))
    }

    /// The one that it builds on, a region on its country.
    ///
    /// ```
    /// use mild_ledger_calendars::named;
    /// let base = named("germany-berlin").and_then(|shipped| shipped.base());
    /// assert_eq!(base.map(|base| base.name()), Some("germany"));
    /// ```
    #[must_use]
    pub fn base(&self) -> Option<&'static Self> {
        self.base
    }

    /// The rules that it has of its own, besides those of the one that it builds on.
    ///
    /// # Errors
    /// None for what ships; a test holds it so.
    ///
    /// ```
    /// assert!(mild_ledger_calendars::SHIPPED.iter().all(|shipped| shipped.own_rules().is_ok()));
    /// ```
    pub fn own_rules(&self) -> Result<Vec<HolidayRule>, Error> {
        (self.rules)()
    }

    /// What it is made of, with Saturday and Sunday as rest days; another may build on it.
    ///
    /// # Errors
    /// None for what ships; a test holds it so.
    ///
    /// ```
    /// assert!(mild_ledger_calendars::SHIPPED.iter().all(|shipped| shipped.builder().is_ok()));
    /// ```
    pub fn builder(&self) -> Result<CalendarBuilder, Error> {
        let mut begun = match self.base {
            Some(base) => base.builder()?.extended(self.name, self.covers()),
            None => WorkCalendar::builder(self.name, self.covers()),
        };
        for name in self.dropped {
            begun = begun.without(name, &KeptYears::default())?;
        }
        Ok(begun.proclaimed_to(self.proclaimed).holidays(self.own_rules()?))
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

    /// Whether a word is part of its name, its title, its region's name or a name that people use for its country, in any case.
    ///
    /// ```
    /// use mild_ledger_calendars::SHIPPED;
    /// assert!(SHIPPED.iter().filter(|shipped| shipped.is_about("German")).count() > 16);
    /// let british: Vec<&str> = SHIPPED.iter().filter(|shipped| shipped.is_about("UK")).map(|shipped| shipped.name()).collect();
    /// assert_eq!(british, ["england-wales", "northern-ireland", "scotland"]);
    /// ```
    #[must_use]
    pub fn is_about(&self, word: &str) -> bool {
        let word = word.trim().to_lowercase();
        let texts = [self.name, self.title, self.region.word()];
        let is_called = |(names, calendars): &(&[&str], &[&str])| {
            names.contains(&word.as_str()) && calendars.contains(&self.name)
        };
        !word.is_empty()
            && (texts.iter().any(|text| text.to_lowercase().contains(&word))
                || ALSO_CALLED.iter().any(is_called))
    }
}
