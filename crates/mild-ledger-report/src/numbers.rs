//! Numbers, and cells of tables, as people read them.

use mild_ledger::{Date, DateTime, Decimal};
use mild_ledger_records::{Presentation, ReportCell};
use std::fmt::Display;

/// Whether amounts are shown with their decimals.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Decimals {
    Shown,
    Dropped,
}

/// Writes numbers and dates for people.
#[derive(Debug, Clone, Default)]
pub(crate) struct Writer {
    presentation: Presentation,
}

impl Writer {
    pub(crate) fn new(presentation: &Presentation) -> Self {
        Self { presentation: presentation.clone() }
    }

    /// A count with its thousands grouped.
    pub(crate) fn count(&self, count: impl Display) -> String {
        self.presentation.count(count)
    }

    pub(crate) fn amount(&self, amount: Decimal, decimals: Decimals) -> String {
        match decimals {
            Decimals::Shown => self.presentation.amount(amount),
            Decimals::Dropped => self.presentation.grouped(&format!("{amount:.0}")),
        }
    }

    /// A share; a dash where there is no whole.
    pub(crate) fn per_cent(&self, share: Option<Decimal>) -> String {
        share.map_or_else(|| "–".to_owned(), |share| format!("{} %", self.presentation.number(share)))
    }

    pub(crate) fn date(&self, date: Date) -> String {
        self.presentation.date(date)
    }

    pub(crate) fn date_time(&self, at: DateTime) -> String {
        self.presentation.date_time(at)
    }

    /// A date, or a number with decimals, as the report has them; anything else as it is, since a whole number may be a year or the number of a document.
    pub(crate) fn value(&self, value: &str) -> String {
        match typed(value) {
            ReportCell::Date(date) => self.date(date),
            ReportCell::Decimal(number) if number.to_string() == value => self.presentation.amount(number),
            _ => value.to_owned(),
        }
    }

    /// A cell as people read it, its text as it is.
    pub(crate) fn cell(&self, cell: &ReportCell) -> String {
        self.cell_with(cell, Decimals::Shown)
    }

    /// The same, perhaps without decimals.
    pub(crate) fn cell_with(&self, cell: &ReportCell, decimals: Decimals) -> String {
        match cell {
            ReportCell::Text(text) => text.clone(),
            ReportCell::Count(count) => self.count(count),
            ReportCell::Decimal(number) => self.amount(*number, decimals),
            ReportCell::Number(number) => self.presentation.number(*number),
            ReportCell::Date(date) => self.date(*date),
            ReportCell::DateTime(at) => self.date_time(*at),
            ReportCell::Missing(reason) => format!("({reason})"),
            _ => String::new(),
        }
    }
}

/// A value as what it is: a date, a number, or else its text.
pub(crate) fn typed(value: &str) -> ReportCell {
    if let Ok(date) = value.parse::<Date>() {
        return ReportCell::Date(date);
    }
    match value.parse::<Decimal>() {
        Ok(number) if number.decimals() > 0 => ReportCell::Decimal(number),
        Ok(number) => ReportCell::Number(number),
        Err(_) => ReportCell::Text(value.to_owned()),
    }
}

/// A number with its thousands grouped by commas, where no plan states another way.
pub(crate) fn grouped(digits: &str) -> String {
    Presentation::default().grouped(digits)
}

/// A part of a whole in per cent with one decimal, half away from zero; `None` where there is no whole.
pub(crate) fn share(part: Decimal, whole: Decimal) -> Option<Decimal> {
    let (part, whole) = (part.units(), whole.units());
    // Amounts too large to multiply are brought down together first; the share does not change visibly.
    let shift =
        (part.unsigned_abs().max(whole.unsigned_abs()).checked_ilog2().unwrap_or(0)).saturating_sub(110);
    let (part, whole) = (part >> shift, whole >> shift);
    if whole == 0 {
        return None;
    }
    let twice = part * 2000;
    let half = if (twice < 0) == (whole < 0) { whole } else { -whole };
    let tenths = (twice + half) / (whole * 2);
    Decimal::of_units(tenths, 1).ok()
}

#[cfg(test)]
mod tests {
    use super::{Decimals, Writer, grouped, share};
    use mild_ledger::{DatePattern, DecimalMark, Scale, WritingPattern};
    use mild_ledger_records::{Presentation, ReportCell};

    #[test]
    fn thousands_are_grouped() {
        let all = ["0", "999", "1000", "-1000.50", "1234567.05", "-100"].map(grouped);
        assert_eq!(all, ["0", "999", "1,000", "-1,000.50", "1,234,567.05", "-100"]);
        let cents = Scale::new(2).unwrap();
        assert_eq!(Writer::default().amount(cents.amount(12_345_650), Decimals::Dropped), "123,457");
    }

    #[test]
    fn marks_and_dates_are_those_of_the_plan() {
        let pattern: DatePattern = "day.month.year".parse().unwrap();
        let dates = Some(WritingPattern::of(&pattern).unwrap());
        let writer = Writer::new(&Presentation { decimal_mark: DecimalMark::Comma, dates });
        let amount = Scale::new(2).unwrap().amount(-123_450);
        let cells = [ReportCell::Decimal(amount), ReportCell::Number(amount), ReportCell::Count(12_345)];
        assert_eq!(cells.map(|cell| writer.cell(&cell)), ["-1.234,50", "-1234,50", "12.345"]);
        assert_eq!(writer.cell(&ReportCell::Date("2026-11-30".parse().unwrap())), "30.11.2026");
        assert_eq!(
            writer.cell(&ReportCell::DateTime("2026-11-30 07:30".parse().unwrap())),
            "30.11.2026 07:30:00"
        );
        assert_eq!(writer.per_cent(share(amount, amount)), "100,0 %");
    }

    #[test]
    fn shares_are_rounded_half_away_from_zero() {
        let cents = Scale::new(2).unwrap();
        let of = |part, whole| Writer::default().per_cent(share(cents.amount(part), cents.amount(whole)));
        assert_eq!(of(1, 3), "33.3 %");
        assert_eq!(of(2, 3), "66.7 %");
        assert_eq!(of(1, 2000), "0.1 %");
        assert_eq!(of(-1, 2000), "-0.1 %");
        assert_eq!(of(-1, 3), "-33.3 %");
        assert_eq!(of(1, -3), "-33.3 %");
        assert_eq!(of(3, 3), "100.0 %");
        assert_eq!(of(0, 7), "0.0 %");
        assert_eq!(of(7, 0), "–");
        assert_eq!(of(i128::MAX, i128::MAX), "100.0 %");
        assert_eq!(of(i128::MIN, i128::MAX), "-100.0 %");
    }
}
