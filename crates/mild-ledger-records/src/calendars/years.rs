//! The years that a calendar covers.

/// Years from a first to a last, both included.
///
/// ```
/// use mild_ledger_records::CalendarYears;
/// let years: CalendarYears = "2025 to 2027".parse()?;
/// assert_eq!((years.first(), years.last()), (2025, 2027));
/// assert!("2027 to 2025".parse::<CalendarYears>().is_err());
/// # Ok::<(), String>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CalendarYears {
    first: i32,
    last: i32,
}

impl CalendarYears {
    /// The first year.
    #[must_use]
    pub fn first(self) -> i32 {
        self.first
    }

    /// The last year.
    #[must_use]
    pub fn last(self) -> i32 {
        self.last
    }

    /// The years from one to another, whichever comes first.
    ///
    /// ```
    /// assert_eq!(mild_ledger_records::CalendarYears::of(2027, 2025).to_string(), "2025 to 2027");
    /// ```
    #[must_use]
    pub fn of(one: i32, other: i32) -> Self {
        Self { first: one.min(other), last: one.max(other) }
    }

    pub(crate) fn has(self, year: i32) -> bool {
        (self.first..=self.last).contains(&year)
    }

    pub(crate) fn contains(self, other: Self) -> bool {
        self.first <= other.first && other.last <= self.last
    }

    /// The years that both have, if any.
    pub(crate) fn and(self, other: Self) -> Option<Self> {
        let (first, last) = (self.first.max(other.first), self.last.min(other.last));
        (first <= last).then_some(Self { first, last })
    }
}

impl std::fmt::Display for CalendarYears {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self.first == self.last {
            true => write!(f, "{:04}", self.first),
            false => write!(f, "{:04} to {:04}", self.first, self.last),
        }
    }
}

/// Reads `2025 to 2027`, `2025..2027` or `2026`.
impl std::str::FromStr for CalendarYears {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        const ALLOWED: &str = "years such as \"2025 to 2027\", or 2026";
        let (first, last) = text.split_once(" to ").or_else(|| text.split_once("..")).unwrap_or((text, text));
        let year = |text: &str| text.trim().parse::<i32>().ok().filter(|year| (1..=9_999).contains(year));
        match (year(first), year(last)) {
            (Some(first), Some(last)) if first <= last => Ok(Self { first, last }),
            (Some(first), Some(last)) => {
                Err(format!("{first} to {last} ends before it begins (allowed: {ALLOWED})"))
            }
            _ => Err(format!("\"{}\" is not a span of years (allowed: {ALLOWED})", text.escape_debug())),
        }
    }
}
