//! Rows whose cells cannot be told apart, in words.

use crate::table::{Became, BrokenRow, Exception, ExceptionSubject, Origin, Reason, RowFault};

/// A row whose cells cannot be told apart, as an exception.
pub(crate) fn broken_row(source: usize, row: &BrokenRow) -> Exception {
    let (reason, detail) = match row.fault {
        RowFault::StrayQuote => (
            Reason::StrayQuote,
            "a cell that holds a quote stands in quotes as a whole, with the quote doubled".to_owned(),
        ),
        RowFault::NotAnObject => (
            Reason::NotAnObject,
            "each line is one object in curly brackets, such as {\"Invoice\": \"QB-1001\"}".to_owned(),
        ),
        RowFault::NestedValue => {
            (Reason::NestedValue, "a column holds a text, a number, true, false or null".to_owned())
        }
        RowFault::NameTwice => (Reason::NameTwice, "each name stands once in an object".to_owned()),
        RowFault::TooManyCells { found, expected } => {
            (Reason::TooManyCells, format!("{found} cells, where the header has {expected}"))
        }
        RowFault::TooFewCells { found, expected } => {
            (Reason::TooFewCells, format!("{found} cells, where the header has {expected}"))
        }
        RowFault::NotUtf8 => {
            (Reason::NotUtf8, "save the file as UTF-8, or name its encoding under [records]".to_owned())
        }
        RowFault::HeaderAgain => (Reason::HeaderAgain, "the row repeats the header".to_owned()),
    };
    Exception {
        origin: Origin { source, row: row.number, line: row.line },
        key: String::new(),
        subject: ExceptionSubject::Row,
        text: row.beginning.clone(),
        reason,
        detail,
        became: Became::RowSetAside,
    }
}
