//! What a move of a date gave: the facts that both the table and the JSON show.

use mild_ledger::{Date, Error, Series, Shift, WeekdayMove, Working};

/// A date moved once, or a series of dates, with the working of each.
#[derive(Debug, Clone)]
pub struct Moved {
    pub(crate) start: Date,
    pub(crate) series: bool,
    pub(crate) dates: Vec<Occurrence>,
    pub(crate) rule: String,
}

/// One date of a move.
#[derive(Debug, Clone)]
pub(crate) struct Occurrence {
    pub(crate) date: Date,
    pub(crate) steps: Vec<String>,
}

impl Moved {
    /// Moves a date by an amount, then to a weekday; so many times where a series is asked for.
    ///
    /// # Errors
    /// Those of the moves: a date outside the years 0001 to 9999, a day that its month lacks.
    pub fn of(
        start: Date,
        shift: Option<Shift>,
        weekday: Option<WeekdayMove>,
        times: Option<u32>,
    ) -> Result<Self, Error> {
        let shift = shift.unwrap_or(Shift::days(0));
        let series = Series::new(start, shift);
        let numbers = match times {
            Some(times) => 1..=i32::try_from(times).unwrap_or(i32::MAX),
            None => 1..=1,
        };
        let mut rule = String::new();
        let mut dates = Vec::new();
        for number in numbers {
            // The occurrence's own error says what is wrong with it; the working then cannot fail.
            series.occurrence(number)?;
            let working: Working = series.why(number)?;
            let mut steps: Vec<String> = working.steps().iter().map(|step| step.said().to_owned()).collect();
            rule = working.rule().to_owned();
            let mut date: Date = working.figure().parse()?;
            if let Some(to) = weekday {
                let moved = to.apply(date)?;
                steps.push(format!("{to} {date} = {moved}"));
                date = moved;
            }
            dates.push(Occurrence { date, steps });
        }
        if let Some(to) = weekday {
            rule = if shift == Shift::days(0) { to.to_string() } else { format!("{rule}, then {to}") };
        }
        Ok(Self { start, series: times.is_some(), dates, rule })
    }
}
