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

impl WrittenColumns {
    /// Whether a column is written as its text in the file.
    pub(crate) fn keeps_text(&self, name: &str) -> bool {
        let dates = self.dates.iter().map(|date| (&date.column, date.missing));
        let numbers = self.numbers.iter().map(|number| (&number.column, number.written.missing));
        let mut all = dates.chain(numbers);
        all.any(|(column, missing)| missing == Missing::KeepsText && column.value.trim() == name.trim())
    }
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
        "keep_text",
        "time",
        "zone",
    ],
    later: &[],
};

pub(crate) const AMOUNT: Keys<'static> = Keys {
    part: "a column of amounts or numbers",
    known: &[
        "decimals",
        "decimal_mark",
        "thousands",
        "negatives",
        "signs",
        "blank",
        "required",
        "keep_text",
        "currency",
    ],
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

/// What becomes of a row without a value, by `required` and `keep_text`; a value is required or not unless the plan says so.
fn read_missing(walk: &mut Walk, table: &DeTable<'_>, is_required: bool) -> Option<Missing> {
    let mut yes = |key: &str| match table.get(key) {
        Some(value) => walk.yes_or_no(value).map(Some),
        None => Some(None),
    };
    let (required, keeps_text) = (yes("required")?, yes("keep_text")?);
    match (required.unwrap_or(is_required), keeps_text.unwrap_or(false)) {
        (true, true) => {
            let span = table.get("keep_text").map(Value::span).unwrap_or_default();
            walk.mistakes.tell(
                span,
                "a row is set aside where its value is required, so no text stays",
                "keep_text, or required = true",
            );
            None
        }
        (true, false) => Some(Missing::SetsRowAside),
        (false, true) => Some(Missing::KeepsText),
        (false, false) => Some(Missing::LeavesCellEmpty),
    }
}

/// A whole number of decimals that a number may have.
pub(crate) fn read_decimals(walk: &mut Walk, value: &Value<'_>) -> Option<u8> {
    walk.whole_number(value, 0..=i64::from(Scale::MOST_DECIMALS))
        .and_then(|decimals| u8::try_from(decimals).ok())
}
