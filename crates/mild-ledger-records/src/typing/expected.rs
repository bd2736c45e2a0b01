//! What was expected in place of what was there.

use crate::table::{DateKind, Exception, ExceptionSubject, Kind, Layout, Reason};

/// What was expected instead, in words; nothing where the reason says all there is.
pub(crate) fn expected_of(exception: &Exception, layout: &Layout) -> String {
    if !exception.expected.is_empty() {
        return exception.expected.clone();
    }
    let written = match exception.subject {
        ExceptionSubject::Column(column) => written_in(column, layout),
        ExceptionSubject::Row | ExceptionSubject::Key | ExceptionSubject::OtherColumn(_) => String::new(),
    };
    match exception.reason {
        Reason::NoAmount
        | Reason::UnreadableAmount
        | Reason::NoNumber
        | Reason::UnreadableNumber
        | Reason::UnreadableDate
        | Reason::NoSuchDay
        | Reason::MissingDate => written,
        Reason::TooManyCells | Reason::TooFewCells => match layout.columns_of_file {
            1 => "1 cell".to_owned(),
            cells => format!("{cells} cells"),
        },
        Reason::NoCurrency => "the currency of the row's amount".to_owned(),
        Reason::RepeatedKey => "a key that is in one row".to_owned(),
        Reason::TimeDropped => "a date without a time of day".to_owned(),
        _ => String::new(),
    }
}

/// How the values of a column of the file are written.
fn written_in(column: usize, layout: &Layout) -> String {
    if let Some(written) = layout.written(column) {
        let what = if matches!(layout.kind(column), Kind::Amount { .. }) { "an amount" } else { "a number" };
        return match written.scale.decimals() {
            0 => format!("{what} without decimals"),
            1 => format!("{what} written {}, at most 1 decimal", written.notation),
            decimals => format!("{what} written {}, at most {decimals} decimals", written.notation),
        };
    }
    match layout.kind(column) {
        Kind::Date { source: DateKind::Read { written, .. }, .. } => format!("a date written {written}"),
        _ => String::new(),
    }
}
