//! Rows whose cells cannot be distinguished, in words.

use crate::table::{Became, BrokenRow, Exception, ExceptionSubject, Origin, Reason, RowFault};

/// A row whose cells cannot be distinguished, as an exception.
pub(crate) fn broken_row(source: usize, row: &BrokenRow) -> Exception {
    let expected = match row.fault {
        RowFault::StrayQuote => "a cell that holds a quote in quotes as a whole, its quote doubled",
        RowFault::NotAnObject => "one object in curly brackets a line, such as {\"Invoice\": \"QB-1001\"}",
        RowFault::NestedValue => "a text, a number, true, false or null in each column",
        RowFault::NameTwice => "each name once in an object",
        RowFault::NotUtf8
        | RowFault::HeaderAgain
        | RowFault::TooManyCells { .. }
        | RowFault::TooFewCells { .. } => "",
    };
    let (reason, detail) = match row.fault {
        RowFault::StrayQuote => (Reason::StrayQuote, String::new()),
        RowFault::NotAnObject => (Reason::NotAnObject, String::new()),
        RowFault::NestedValue => (Reason::NestedValue, String::new()),
        RowFault::NameTwice => (Reason::NameTwice, String::new()),
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
        expected: expected.to_owned(),
        became: Became::RowSetAside,
    }
}
