//! A moved date, or a series of them.

use super::Width;
use super::text::wrapped;
use crate::{Detail, Moved};

/// The date with its weekday, or a numbered list of a series, and the rule.
#[must_use]
pub fn shift(moved: &Moved, detail: Detail, width: Width) -> String {
    let mut out = String::new();
    let digits = moved.dates.len().to_string().len();
    if moved.series {
        out.push_str(&wrapped(
            &format!("from {} ({})", moved.start, moved.start.date().weekday()),
            "",
            width,
        ));
    }
    for (nth, occurrence) in moved.dates.iter().enumerate() {
        let date = format!("{} ({})", occurrence.date, occurrence.date.date().weekday());
        let line = if moved.series { format!("{:>digits$}  {date}", nth + 1) } else { date };
        out.push_str(&line);
        out.push('\n');
        if detail == Detail::WithWorking {
            for step in &occurrence.steps {
                out.push_str(&wrapped(step, "    ", width));
            }
        }
    }
    let from = if moved.series { "; each moved from the first date" } else { "" };
    out.push_str(&wrapped(&format!("rule: {}{from}", moved.rule), "", width));
    out
}
