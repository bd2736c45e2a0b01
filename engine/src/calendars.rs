//! Calendars by their names: those that ship, and those of whoever registers the functions.

use datafusion::error::{DataFusionError, Result};
use mild_ledger::{RestDays, WorkCalendar};
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

/// The name of the calendar of rest days alone.
const NONE: &str = "none";

/// The calendars that functions find by their names: those that ship are made when one of them is first asked for; `none` is that of
/// rest days alone.
///
/// ```
/// use mild_ledger::WorkCalendar;
/// use mild_ledger_engine::Calendars;
/// let yard = WorkCalendar::rest_days_only("sunday, monday".parse()?).with_name("yard");
/// let calendars = Calendars::default().with(yard);
/// assert!(calendars.named("yard").is_ok() && calendars.named("france").is_ok() && calendars.named("atlantis").is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Default)]
pub struct Calendars {
    own: HashMap<String, WorkCalendar>,
    shipped: Arc<Mutex<HashMap<&'static str, WorkCalendar>>>,
}

impl Calendars {
    /// The same with a calendar of one's own under its name, which comes before one that ships.
    #[must_use]
    pub fn with(mut self, calendar: WorkCalendar) -> Self {
        self.own.insert(calendar.name().to_owned(), calendar);
        self
    }

    /// The calendar with a name.
    ///
    /// # Errors
    /// Where none has it.
    pub fn named(&self, name: &str) -> Result<WorkCalendar> {
        if let Some(own) = self.own.get(name) {
            return Ok(own.clone());
        }
        if name == NONE {
            return Ok(WorkCalendar::rest_days_only(RestDays::default()));
        }
        let Some(shipped) = mild_ledger_calendars::named(name) else {
            return Err(DataFusionError::Plan(format!(
                "there is no calendar \"{}\": name one that ships, \"none\" for rest days alone, or one that was registered",
                name.escape_debug()
            )));
        };
        let mut made = self.shipped.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(calendar) = made.get(shipped.name()) {
            return Ok(calendar.clone());
        }
        let calendar = shipped.calendar().map_err(|error| DataFusionError::Internal(error.to_string()))?;
        made.insert(shipped.name(), calendar.clone());
        Ok(calendar)
    }
}
