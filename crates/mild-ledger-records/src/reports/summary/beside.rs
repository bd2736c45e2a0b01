//! Periods next to earlier ones: the one before, and the same a year before.

use crate::reports::ReportCell;
use crate::reports::groups::Key;
use mild_ledger::{Date, PeriodRule, Shift};
use std::collections::BTreeMap;

/// Which earlier period is next to one.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Earlier {
    PeriodBefore,
    YearBefore,
}

impl Earlier {
    pub(super) const WORDS: [(&str, Self); 2] =
        [("period before", Self::PeriodBefore), ("year before", Self::YearBefore)];

    pub(super) fn word(self) -> &'static str {
        Self::WORDS.iter().find(|(_, earlier)| *earlier == self).map_or("", |(word, _)| word)
    }

    /// The key of the earlier period of the one that begins on the day of a key; none for what is not a period, and before the first
    /// there is. Years of weeks have no months: a year before is 52 weeks before.
    fn of(self, rule: PeriodRule, key: &Key) -> Option<Key> {
        let Key::Number(first) = key else { return None };
        let first = Date::from_day_number(i32::try_from(*first).ok()?).ok()?;
        let within = match (self, rule) {
            (Self::PeriodBefore, _) => first.days_later(-1)?,
            (
                Self::YearBefore,
                PeriodRule::Week(_)
                | PeriodRule::WeekPeriod(_)
                | PeriodRule::WeekQuarter(_)
                | PeriodRule::WeekYear(_),
            ) => first.days_later(-364)?,
            (Self::YearBefore, _) => Shift::months(-12).apply(first).ok()?,
        };
        let earlier = rule.containing(within).dates().first();
        Some(Key::Number(earlier.day_number().into()))
    }
}

/// The figures of earlier periods after those of each row; empty where the records do not reach so far back.
pub(super) fn put_beside(
    rule: PeriodRule,
    earlier: &[Earlier],
    keys: &[Option<Key>],
    rows: &mut [Vec<ReportCell>],
) {
    let figures: BTreeMap<Key, Vec<ReportCell>> = keys
        .iter()
        .zip(rows.iter())
        .filter_map(|(key, row)| Some((key.clone()?, row.iter().skip(1).cloned().collect())))
        .collect();
    for (key, row) in keys.iter().zip(rows) {
        let count = row.len().saturating_sub(1);
        for which in earlier {
            let found = key.as_ref().and_then(|key| figures.get(&which.of(rule, key)?));
            match found {
                Some(cells) => row.extend(cells.iter().cloned()),
                None => row.extend(std::iter::repeat_n(ReportCell::Empty, count)),
            }
        }
    }
}
