//! A moved date, or a series of them.

use super::text::wrapped;
use super::working_days::{Numbers, put_grid};
use super::{Colour, Width};
use crate::shown::visible;
use crate::{Detail, Moved};

/// The date with its weekday, or a numbered list of a series, and the rule; with the working, the steps of each, and the months
/// in which working days were counted, each of them under its number.
#[must_use]
pub fn shift(moved: &Moved, (detail, colour, width): (Detail, Colour, Width)) -> String {
    let mut out = String::new();
    let digits = moved.dates.len().to_string().len();
    if moved.series {
        let from = format!("from {} ({})", moved.start, moved.start.date().weekday());
        out.push_str(&wrapped(&from, "", width));
    }
    for (nth, occurrence) in moved.dates.iter().enumerate() {
        let date = format!("{} ({})", occurrence.date, occurrence.date.date().weekday());
        let line = if moved.series { format!("{:>digits$}  {date}", nth + 1) } else { date };
        out.push_str(&line);
        out.push('\n');
        if detail == Detail::FiguresOnly {
            continue;
        }
        for step in occurrence.working.steps() {
            out.push_str(&wrapped(&visible(step.said()), "    ", width));
        }
        if let (Some(grid), Some(calendar), false) = (&occurrence.grid, &moved.calendar, moved.series) {
            out.push('\n');
            put_grid(&mut out, (calendar, moved.start.date()), grid, Numbers::Shown, (colour, width));
        }
    }
    let from = if moved.series { "; each moved from the first date" } else { "" };
    let by = match &moved.calendar {
        // The rule of a count of working days names their calendar already.
        Some(calendar) if !moved.rule().contains(calendar.name()) => format!(" ({})", calendar.name()),
        _ => String::new(),
    };
    out.push_str(&wrapped(&visible(&format!("rule: {}{by}{from}", moved.rule())), "", width));
    out
}
