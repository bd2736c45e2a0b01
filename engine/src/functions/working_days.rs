//! Working days by calendars.

use super::{FunctionKind, Planned, date, rows};
use crate::columns::{Inputs, dates, whole};
use crate::kind::Takes::{Date, Figure, MayWord, Word};
use arrow::datatypes::DataType;
use mild_ledger::column::{add_working_days, count_working_days, rolled};
use mild_ledger::{Ends, Interval, Roll};

const ENDS: &str = "'first-and-last', 'last', 'first' or 'neither'";

pub(super) const WORKING_DAYS: FunctionKind = FunctionKind {
    name: "working_days",
    says: "the working days by a calendar from start to end, both counted (`first-and-last`) unless other ends are named",
    takes: &[Date, Date, Word, MayWord],
    called: &["start", "end", "calendar", "ends"],
    plan: |literals| {
        let calendar = literals.calendar(2)?;
        let ends = literals.choice_or(3, ENDS, Ends::OF_WORKING_DAYS)?;
        let own = calendar.clone();
        let work = move |inputs: &Inputs| {
            rows(count_working_days(inputs.dates(0)?, inputs.dates(1)?, &calendar, ends)).map(whole)
        };
        let why = move |inputs: &Inputs, row: usize| {
            let interval = Interval::between(date(inputs, 0, row)?, date(inputs, 1, row)?);
            own.count_working_days(interval, ends).err()
        };
        Ok(Planned::new(DataType::Int32, work, why))
    },
};

pub(super) const ADD_WORKING_DAYS: FunctionKind = FunctionKind {
    name: "add_working_days",
    says: "the date a number of working days after, before where negative; 0 is the date or the next working day",
    takes: &[Date, Figure, Word],
    called: &["date", "number", "calendar"],
    plan: |literals| {
        let calendar = literals.calendar(2)?;
        let own = calendar.clone();
        let work = move |inputs: &Inputs| {
            rows(add_working_days(inputs.dates(0)?, inputs.figures(1)?, &calendar)).map(dates)
        };
        let why = move |inputs: &Inputs, row: usize| {
            own.add_working_days(date(inputs, 0, row)?, inputs.figures(1).ok()?.get(row)?).err()
        };
        Ok(Planned::new(DataType::Date32, work, why))
    },
};

pub(super) const ROLLED: FunctionKind = FunctionKind {
    name: "rolled",
    says: "a date that is not a working day, rolled to one: `following`, `modified-following`, `preceding` and so on",
    takes: &[Date, Word, Word],
    called: &["date", "roll", "calendar"],
    plan: |literals| {
        let roll: Roll = literals.choice(1, "a roll such as 'following'")?;
        let calendar = literals.calendar(2)?;
        let own = calendar.clone();
        let work = move |inputs: &Inputs| Ok(dates(rolled(inputs.dates(0)?, roll, &calendar)));
        Ok(Planned::new(DataType::Date32, work, move |inputs, row| {
            own.roll(date(inputs, 0, row)?, roll).err()
        }))
    },
};
