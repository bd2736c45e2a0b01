//! The header of a column that the plan gives none: what it holds, in its own words.

use crate::plan::model::{
    AnniversaryGives, CalendarChoice, DateSource, Operation, PeriodGives, PlannedKind, PlannedMove, Quantity,
    RatePer, ShiftSource, WorkingDayGives,
};
use mild_ledger::{DayCount, Ends, Roll};

/// The header, or `None` for choices and buckets, whose meaning only their author knows.
pub(super) fn header_of(kind: &PlannedKind) -> Option<String> {
    Some(match kind {
        PlannedKind::Between { start, end, within, measuring } => {
            let (start, end) = (said(&start.value), said(&end.value));
            let ends = ends_said(measuring.ends);
            let within =
                within.as_ref().map_or_else(String::new, |window| format!(" within {}", window.value));
            format!("{} from {start} to {end}{within}{ends}", measuring.measure)
        }
        PlannedKind::Tenure { start, end, measuring } => {
            let end = end
                .as_ref()
                .map_or_else(|| "as-of".to_owned(), |end| format!("{} or as-of", said(&end.value)));
            let ends = ends_said(measuring.ends);
            format!("tenure in {} from {} to {end}{ends}", measuring.measure, said(&start.value))
        }
        PlannedKind::WorkingDays { start, end, ends, calendar } => {
            let (start, end) = (said(&start.value), said(&end.value));
            format!("working days from {start} to {end} (ends: {ends}{})", by(calendar))
        }
        PlannedKind::WorkingDay { of, gives, calendar } => match gives {
            WorkingDayGives::YesOrNo => format!("{} is a working day{}", of.value, by(calendar)),
            WorkingDayGives::Kind => format!("kind of day of {}{}", of.value, by(calendar)),
            WorkingDayGives::NumberInMonth => {
                format!("working day number of {} in its month{}", of.value, by(calendar))
            }
            WorkingDayGives::NumberFromMonthEnd => {
                format!("working day number of {} from the end of its month{}", of.value, by(calendar))
            }
        },
        PlannedKind::Move(moved) => {
            let PlannedMove { from, shift, month_end, weekday, roll, calendar } = &**moved;
            let amount = match shift {
                Some(ShiftSource::Every(shift)) => format!(" moved by {shift} (month end: {month_end})"),
                Some(ShiftSource::NumberOf { column, unit }) => {
                    format!(" moved by {} {} (month end: {month_end})", column.value, unit.plural())
                }
                Some(ShiftSource::Text { column }) => {
                    format!(" moved by {} (month end: {month_end})", column.value)
                }
                None => String::new(),
            };
            let to = weekday.map_or_else(String::new, |to| format!(", {to}"));
            let rolled = if *roll == Roll::Unadjusted { String::new() } else { format!(", rolled {roll}") };
            let calendar = calendar.as_ref().map_or_else(String::new, by);
            format!("{}{amount}{to}{rolled}{calendar}", from.value)
        }
        PlannedKind::Period { of, rule, away, gives } => {
            let what = match gives {
                PeriodGives::FirstDay => "first day".to_owned(),
                PeriodGives::LastDay => "last day".to_owned(),
                PeriodGives::NearestStart(nearness) => format!("nearest start {nearness}"),
                PeriodGives::Number => "number".to_owned(),
                PeriodGives::Days => "days".to_owned(),
                PeriodGives::Label | PeriodGives::LabelBy { .. } => "label".to_owned(),
            };
            let away = if *away == 0 { String::new() } else { format!(" {away:+} away") };
            format!("{what} of the {}{away} of {}", rule.word(), of.value)
        }
        PlannedKind::Field { of, field } => format!("{} of {}", field.word(), of.value),
        PlannedKind::Age { of, on, .. } => {
            format!("age in complete years from {} on {}", of.value, said(&on.value))
        }
        PlannedKind::Anniversary { of, on_or_after, gives, .. } => {
            let what = match gives {
                AnniversaryGives::Date => "anniversary",
                AnniversaryGives::Number => "number of the anniversary",
            };
            format!("{what} of {} on or after {}", of.value, said(&on_or_after.value))
        }
        PlannedKind::Rate(rate) => {
            let per = match rate.per {
                RatePer::Fractional(unit) => format!("fractional {unit}"),
                RatePer::MeanMonths(mean) => mean.word().replace("months", "month"),
                RatePer::MeanYears(DayCount::MeanJulianYear) => "mean year of 365.25 days".to_owned(),
                RatePer::MeanYears(_) => "mean year of 365.2425 days".to_owned(),
            };
            format!("{} per {per} of tenure", rate.quantity.value)
        }
        PlannedKind::FirstOf(columns) => {
            let names: Vec<&str> = columns.iter().map(|column| column.value.as_str()).collect();
            format!("first of {}", names.join(", "))
        }
        PlannedKind::Arithmetic { operation, operands: [left, right], .. } => {
            let side = |quantity: &Quantity| match quantity {
                Quantity::Column(name) => name.clone(),
                Quantity::Number(number) => number.to_string(),
            };
            let sign = match operation {
                Operation::Sum => '+',
                Operation::Difference => '−',
                Operation::Product => '×',
                Operation::Quotient => '÷',
            };
            format!("{} {sign} {}", side(&left.value), side(&right.value))
        }
        PlannedKind::Bucket { .. } | PlannedKind::Choice { .. } => return None,
    })
}

fn said(source: &DateSource) -> String {
    match source {
        DateSource::AsOf => "as-of".to_owned(),
        DateSource::Date(date) => date.to_string(),
        DateSource::Column(name) => name.clone(),
    }
}

/// The calendar, where the plan has more than one.
fn by(calendar: &CalendarChoice) -> String {
    match calendar {
        CalendarChoice::TheOnlyOne(_) => String::new(),
        CalendarChoice::Named(name) => format!("; {}", name.value),
        CalendarChoice::OfRow(column) => format!("; calendar of {}", column.value),
    }
}

/// The ends, where they are not the plain difference.
fn ends_said(ends: Ends) -> String {
    if ends == Ends::Last { String::new() } else { format!(" (ends: {ends})") }
}
