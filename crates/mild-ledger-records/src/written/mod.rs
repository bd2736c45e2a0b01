//! How a file and its columns are written, as plans say it.

mod dates;
mod form;
mod numbers;
mod quoted_header;

use crate::mistakes::{At, Keys, Value, Walk};
use crate::table::{Missing, TimeKept, WrittenNumbers};
use crate::zones::Zone;
use dates::read_date_column;
pub(crate) use form::{read_form, read_sign};
use mild_ledger::{Scale, WrittenDates};
use numbers::{NumberPart, read_numbers};
use toml::de::DeTable;

/// The columns of a file that hold dates, amounts and plain numbers, and how they are written.
#[derive(Debug, Default)]
pub(crate) struct WrittenColumns {
    pub(crate) dates: Vec<DateColumnPlan>,
    pub(crate) amounts: Vec<NumberColumnPlan>,
    pub(crate) numbers: Vec<NumberColumnPlan>,
}

/// A column of the records that holds dates.
#[derive(Debug)]
pub(crate) struct DateColumnPlan {
    pub(crate) column: At<String>,
    pub(crate) written: WrittenDates,
    pub(crate) time: TimeKept,
    /// Whose dates are meant where a time has an offset.
    pub(crate) zone: Option<Zone>,
    pub(crate) missing: Missing,
}

/// A column of the records that holds amounts or numbers.
#[derive(Debug)]
pub(crate) struct NumberColumnPlan {
    pub(crate) column: At<String>,
    pub(crate) written: WrittenNumbers,
    /// The column that names the currency of each amount.
    pub(crate) currency: Option<At<String>>,
}

pub(crate) const DATE: Keys<'static> = Keys {
    part: "a date column",
    known: &[
        "pattern",
        "language",
        "pivot",
        "day",
        "blank",
        "fillers",
        "true_dates",
        "required",
        "time",
        "zone",
    ],
    later: &[],
};

pub(crate) const AMOUNT: Keys<'static> = Keys {
    part: "a column of amounts or numbers",
    known: &["decimals", "decimal_mark", "thousands", "negatives", "signs", "blank", "required", "currency"],
    later: &[],
};

/// `dates`, `amounts` and `numbers` of a part of a plan.
pub(crate) fn read_written(walk: &mut Walk, table: &DeTable<'_>) -> Option<WrittenColumns> {
    let mut dates = Vec::new();
    if let Some(value) = table.get("dates") {
        for (name, value) in walk.table(value, "columns with their patterns")? {
            let column = At { value: name.get_ref().to_string(), span: name.span() };
            dates.extend(read_date_column(walk, column, value));
        }
    }
    let amounts = read_numbers(walk, table, NumberPart::Amounts)?;
    let numbers = read_numbers(walk, table, NumberPart::Numbers)?;
    Some(WrittenColumns { dates, amounts, numbers })
}

/// A whole number of decimals that a number may have.
pub(crate) fn read_decimals(walk: &mut Walk, value: &Value<'_>) -> Option<u8> {
    walk.whole_number(value, 0..=i64::from(Scale::MOST_DECIMALS))
        .and_then(|decimals| u8::try_from(decimals).ok())
}
