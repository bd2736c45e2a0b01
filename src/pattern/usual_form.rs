//! Dates in the usual form of their pattern, ten bytes of which eight are digits: read without walking along the pattern.

use super::fault::date_of;
use super::{DatePattern, Form, Piece};
use crate::date::Date;

/// Where day, month and year are in ten bytes, and what is between them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct UsualForm {
    order: Order,
    signs: [u8; 2],
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Order {
    DayMonthYear,
    MonthDayYear,
    YearMonthDay,
}

impl UsualForm {
    /// That of a pattern of a day, a month and a year in numbers with a character between them.
    pub(crate) fn of(pattern: &DatePattern) -> Option<Self> {
        let pieces = match &pattern.form {
            Form::Iso => return Some(Self { order: Order::YearMonthDay, signs: [b'-'; 2] }),
            Form::Pieces(pieces) => pieces.as_slice(),
            _ => return None,
        };
        let [first, Piece::Literal(one), second, Piece::Literal(other), third] = pieces else { return None };
        let order = match (first, second, third) {
            (Piece::Day(_), Piece::Month(_), Piece::Year) => Order::DayMonthYear,
            (Piece::Month(_), Piece::Day(_), Piece::Year) => Order::MonthDayYear,
            (Piece::Year, Piece::Month(_), Piece::Day(_)) => Order::YearMonthDay,
            _ => return None,
        };
        // A space may represent several.
        let signs = [*one, *other];
        (!signs.contains(&b' ')).then_some(Self { order, signs })
    }

    /// The date of a text of that form; `None` says nothing of any other, which is read by the pattern then.
    #[inline]
    pub(crate) fn read(self, text: &[u8]) -> Option<Date> {
        let text: &[u8; 10] = text.try_into().ok()?;
        let (signs, digits) = match (self.order, *text) {
            (Order::DayMonthYear, [d1, d2, one, m1, m2, other, y1, y2, y3, y4])
            | (Order::MonthDayYear, [m1, m2, one, d1, d2, other, y1, y2, y3, y4])
            | (Order::YearMonthDay, [y1, y2, y3, y4, one, m1, m2, other, d1, d2]) => {
                ([one, other], [y1, y2, y3, y4, m1, m2, d1, d2])
            }
        };
        let digits = digits.map(|digit| digit.wrapping_sub(b'0'));
        if signs != self.signs || digits.iter().any(|digit| *digit > 9) {
            return None;
        }
        let [y1, y2, y3, y4, m1, m2, d1, d2] = digits;
        let year = i32::from(y1 * 10 + y2) * 100 + i32::from(y3 * 10 + y4);
        date_of(year, m1 * 10 + m2, d1 * 10 + d2).ok()
    }
}
