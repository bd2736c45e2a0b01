//! Moving a date.

use super::{FunctionKind, Planned, date};
use crate::columns::dates;
use crate::kind::Takes::{Date, MayWord, Word};
use arrow::datatypes::DataType;
use mild_ledger::column::{moved_to_weekday, shifted};
use mild_ledger::{MonthEnd, Shift, WeekdayMove};

pub(super) const SHIFTED: FunctionKind = FunctionKind {
    name: "shifted",
    says: "the date so far away: `2 months`, `45D`, `-1Y`; under a rule for month ends, `clamp` unless named",
    takes: &[Date, Word, MayWord],
    called: &["date", "amount", "month_end"],
    plan: |literals| {
        let shift: Shift = literals.choice(1, "an amount of time such as '2 months'")?;
        let rule = literals.choice_or(2, "'clamp', 'keep', 'next-start' or 'refuse'", MonthEnd::Clamp)?;
        let shift = shift.with_month_end(rule);
        let work = move |inputs: &crate::columns::Inputs| Ok(dates(shifted(inputs.dates(0)?, &shift)));
        Ok(Planned::new(DataType::Date32, work, move |inputs, row| shift.apply(date(inputs, 0, row)?).err()))
    },
};

pub(super) const MOVED_TO_WEEKDAY: FunctionKind = FunctionKind {
    name: "moved_to_weekday",
    says: "the weekday `on or after`, `after`, `on or before` or `before` a date",
    takes: &[Date, Word],
    called: &["date", "weekday"],
    plan: |literals| {
        let to: WeekdayMove = literals.choice(1, "a move such as 'on or after monday'")?;
        let work = move |inputs: &crate::columns::Inputs| Ok(dates(moved_to_weekday(inputs.dates(0)?, to)));
        Ok(Planned::new(DataType::Date32, work, move |inputs, row| to.apply(date(inputs, 0, row)?).err()))
    },
};
