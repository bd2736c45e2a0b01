//! Numbers, and cells of tables, as people read them.

use mild_ledger::Decimal;
use mild_ledger_records::ReportCell;

/// Whether amounts are shown with their decimals.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Decimals {
    Shown,
    Dropped,
}

/// A whole number with its thousands grouped by commas.
pub(crate) fn grouped(digits: &str) -> String {
    let (sign, rest) = digits.strip_prefix('-').map_or(("", digits), |rest| ("-", rest));
    let (whole, decimals) =
        rest.split_once('.').map_or((rest, None), |(whole, decimals)| (whole, Some(decimals)));
    let mut out = String::from(sign);
    for (nth, digit) in whole.chars().enumerate() {
        if nth > 0 && (whole.len() - nth).is_multiple_of(3) {
            out.push(',');
        }
        out.push(digit);
    }
    if let Some(decimals) = decimals {
        out.push('.');
        out.push_str(decimals);
    }
    out
}

pub(crate) fn amount(amount: Decimal, decimals: Decimals) -> String {
    match decimals {
        Decimals::Shown => grouped(&amount.to_string()),
        Decimals::Dropped => grouped(&format!("{amount:.0}")),
    }
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

/// A share as people read it; a dash where there is no whole.
pub(crate) fn per_cent(share: Option<Decimal>) -> String {
    share.map_or_else(|| "–".to_owned(), |share| format!("{share} %"))
}

/// A cell as people read it, its text as it is.
pub(crate) fn written(cell: &ReportCell) -> String {
    written_with(cell, Decimals::Shown)
}

/// The same, perhaps without decimals.
pub(crate) fn written_with(cell: &ReportCell, decimals: Decimals) -> String {
    match cell {
        ReportCell::Text(text) => text.clone(),
        ReportCell::Count(count) => grouped(&count.to_string()),
        ReportCell::Decimal(number) => amount(*number, decimals),
        ReportCell::Number(number) => number.to_string(),
        ReportCell::Date(date) => date.to_string(),
        ReportCell::DateTime(at) => at.to_string(),
        ReportCell::Missing(reason) => format!("({reason})"),
        _ => String::new(),
    }
}

#[cfg(test)]
mod tests {
    use super::{Decimals, amount, grouped, per_cent, share};
    use mild_ledger::Scale;

    #[test]
    fn thousands_are_grouped() {
        let all = ["0", "999", "1000", "-1000.50", "1234567.05", "-100"].map(grouped);
        assert_eq!(all, ["0", "999", "1,000", "-1,000.50", "1,234,567.05", "-100"]);
        let cents = Scale::new(2).unwrap();
        assert_eq!(amount(cents.amount(12_345_650), Decimals::Dropped), "123,457");
    }

    #[test]
    fn shares_are_rounded_half_away_from_zero() {
        let cents = Scale::new(2).unwrap();
        let of = |part, whole| per_cent(share(cents.amount(part), cents.amount(whole)));
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
