//! Two calendars side by side.

use super::{Block, Caption, Cell, Document, Narrowing, Table};
use crate::facts::{DayIs, DifferentDay, TwoCalendars};
use mild_ledger::{DayKind, Decimal};
use mild_ledger_records::ReportCell;

/// The fewest characters that names of holidays are cut to.
const SHORTEST_NAME: usize = 16;

/// Working days by month for each, then the days closed in one and not in the other, and those closed in both.
pub(crate) fn two_calendars(found: &TwoCalendars) -> Document {
    let [one, other] = &found.calendars;
    let mut out = Document::default();
    out.push(Block::Heading(format!("{one} and {other}, {}", found.years)));
    let [first, second] = found.totals;
    let apart = found.different.len();
    let days = if apart == 1 { "day" } else { "days" };
    out.paragraph(match apart {
        0 => format!("They work on the same days: {first} working days."),
        _ => format!("{first} working days and {second}; {apart} {days} closed in one and not in the other."),
    });
    for (name, years) in found.calendars.iter().zip(found.by_rule) {
        if let Some(years) = years {
            out.paragraph(format!("{name}: the holidays of {years} follow by rule, not yet proclaimed"));
        }
    }
    out.end_part();
    put_months(&mut out, found);
    out.end_part();
    let closed = |open_in: usize| {
        let closed_in = 1 - open_in;
        found.different.iter().filter(move |day| open_less(&day.is[closed_in], &day.is[open_in]))
    };
    for (closed_in, name, other) in [(0, one, other), (1, other, one)] {
        let days: Vec<&DifferentDay> = closed(1 - closed_in).collect();
        put_days(&mut out, &format!("closed in {name}, not in {other}"), &days, closed_in);
    }
    let both: Vec<&DifferentDay> = found.closed_in_both.iter().collect();
    put_days(&mut out, "holidays in both", &both, 0);
    out
}

/// Whether a day is worked less as one thing than as another.
fn open_less(one: &DayIs, other: &DayIs) -> bool {
    let open = |kind: DayKind| match kind {
        DayKind::HalfDay => 1,
        kind => 2 * u8::from(kind.is_working()),
    };
    open(one.kind) < open(other.kind)
}

fn put_months(out: &mut Document, found: &TwoCalendars) {
    let [one, other] = &found.calendars;
    let mut table = Table::new(["working days", one, other, "difference"], [0]);
    let mut row = |label: &str, [one, other]: [Decimal; 2]| {
        let difference = other.checked_sub(one).map(ReportCell::Decimal);
        let difference = difference.map_or_else(|| Cell::from("–".to_owned()), Cell::from);
        table.row([
            Cell::from(label.to_owned()),
            ReportCell::Decimal(one).into(),
            ReportCell::Decimal(other).into(),
            difference,
        ]);
    };
    for (nth, month) in found.months.iter().enumerate() {
        row(&month.label, month.working_days);
        if nth + 1 == found.months.len() {
            row("all", found.totals);
        }
    }
    table.lines.push(found.months.len());
    out.push(Block::Table(table));
}

/// Days under what they are, each with its names.
fn put_days(out: &mut Document, what: &str, days: &[&DifferentDay], named_by: usize) {
    out.push(Block::Caption(Caption { title: format!("{what}: {}", days.len()), shows: None }));
    if !days.is_empty() {
        let mut table = Table::new(["date", "weekday", "holiday"], 0..3)
            .narrowed_by([Narrowing::CutTexts(2, SHORTEST_NAME)]);
        for day in days {
            let is = &day.is[named_by];
            let name = is.holiday.clone().unwrap_or_else(|| is.kind.to_string());
            table.row([day.date.to_string(), day.date.weekday().to_string(), name].map(Cell::from));
        }
        out.push(Block::Table(table));
    }
    out.end_part();
}
