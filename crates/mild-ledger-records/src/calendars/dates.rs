//! A plain list of dates, one a line, perhaps with a name after a comma.

use super::parts::CalendarParts;
use crate::error::RecordsError;
use mild_ledger::{Date, HolidayRule, Occurrence};
use std::path::Path;

/// Reads ISO dates; a first line that is not a date is taken for a header, and lines after a `#` for remarks.
pub(super) fn read(path: &Path, text: &str) -> Result<CalendarParts, RecordsError> {
    let (mut rules, mut dates) = (Vec::new(), Vec::new());
    for (nth, line) in text.lines().enumerate() {
        let line = line.trim();
        if line.is_empty() || line.starts_with('#') {
            continue;
        }
        let (day, name) = line.split_once([',', ';', '\t']).unwrap_or((line, ""));
        let day = day.trim().trim_matches('"');
        match day.parse::<Date>() {
            Ok(date) => {
                let name = name.trim().trim_matches('"').trim();
                let name = if name.is_empty() { "holiday" } else { name };
                rules.push(HolidayRule::new(name, Occurrence::on_date(date)));
                dates.push(date);
            }
            Err(_) if nth == 0 && !day.bytes().any(|byte| byte.is_ascii_digit()) => {}
            Err(error) => {
                return Err(RecordsError::BrokenFile {
                    path: path.to_owned(),
                    line: nth as u64 + 1,
                    what: error.what().to_owned(),
                    help: format!("each line holds {}, perhaps with a name after a comma", error.allowed()),
                });
            }
        }
    }
    Ok(CalendarParts::of_list(path, rules, dates))
}
