//! Months with each day marked by a character, and what the characters mean.

use super::text::wrapped;
use super::{Colour, Width};
use crate::facts::{MarkedDay, MarkedMonth, MarkedMonths, Marks};
use crate::shown::month_name;
use mild_ledger::{Date, DayKind, Month, Weekday};

/// Months drawn at each end of a long stretch.
const MONTHS_AT_EACH_END: usize = 6;
/// Months of a year next to each other, where they fit.
const MOST_BESIDE: usize = 3;
/// Between months that are next to each other.
const GAP: usize = 2;

/// The months, and what their characters mean: those that occur, and no other.
pub(super) fn months(found: &MarkedMonths, width: Width, colour: Colour) -> String {
    let cells = widths_of_days(found);
    let of_month = |month: &MarkedMonth| month_lines(month, found.marks, cells, colour);
    let drawn = match found.marks {
        Marks::Kinds => {
            beside(&found.months.iter().map(of_month).collect::<Vec<_>>(), cells.iter().sum(), width)
        }
        _ => below(found, of_month),
    };
    drawn + &legend(found, width)
}

/// The months of years next to each other.
fn beside(months: &[Vec<String>], one: usize, width: Width) -> String {
    let mut out = String::new();
    let fits = |beside: &usize| width.fits(beside * (one + GAP) - GAP);
    let beside = (1..=MOST_BESIDE).rev().find(fits).unwrap_or(1);
    for row in months.chunks(beside) {
        let lines = row.iter().map(Vec::len).max().unwrap_or(0);
        for nth in 0..lines {
            let blank = " ".repeat(one);
            let line: Vec<&str> =
                row.iter().map(|month| month.get(nth).map_or(blank.as_str(), String::as_str)).collect();
            out.push_str(line.join(&" ".repeat(GAP)).trim_end());
            out.push('\n');
        }
        out.push('\n');
    }
    out
}

/// The months in which days were counted one below the other, of a long stretch those at its ends.
fn below(found: &MarkedMonths, lines: impl Fn(&MarkedMonth) -> Vec<String>) -> String {
    let mut out = String::new();
    let hidden = found.months.len().saturating_sub(2 * MONTHS_AT_EACH_END);
    for (nth, month) in found.months.iter().enumerate() {
        if hidden > 0 && nth == MONTHS_AT_EACH_END {
            let months = if hidden == 1 { "month" } else { "months" };
            out.push_str(&format!("… {hidden} {months} between …\n\n"));
        }
        if hidden == 0 || nth < MONTHS_AT_EACH_END || nth >= found.months.len() - MONTHS_AT_EACH_END {
            // Weeks outside the stretch have nothing to show.
            for line in lines(month).iter().filter(|line| !line.trim().is_empty()) {
                out.push_str(line.trim_end());
                out.push('\n');
            }
            out.push('\n');
        }
    }
    out
}

/// How wide each day of the week is, from Monday: in a year rest days wide enough for a holiday on them, with a gap after.
fn widths_of_days(found: &MarkedMonths) -> [usize; 7] {
    match found.marks {
        Marks::Kinds => Weekday::ALL.map(|day| if found.rest_days.contains(day) { 6 } else { 4 }),
        Marks::Counted { .. } => [7; 7],
        Marks::Numbered { .. } => [9; 7],
    }
}

/// A month: its name, the weekdays, and a line a week from Monday; each line of one width.
fn month_lines(month: &MarkedMonth, marks: Marks, cells: [usize; 7], colour: Colour) -> Vec<String> {
    let first = month.first;
    let total: usize = cells.iter().sum();
    let mut lines = vec![format!("{:<total$}", format!("{} {:04}", month_name(first), first.year()))];
    let names = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
    lines.push(names.iter().zip(cells).map(|(name, cell)| format!("{name:<cell$}")).collect());
    let mut place = Weekday::ALL.iter().position(|day| *day == first.weekday()).unwrap_or(0);
    let mut line = " ".repeat(cells.iter().take(place).sum());
    for day in &month.days {
        let cell = cells.get(place).copied().unwrap_or_default();
        line.push_str(&marked(day, cell, marks, colour));
        place += 1;
        if place == 7 {
            lines.push(std::mem::take(&mut line));
            place = 0;
        }
    }
    if place > 0 {
        line.push_str(&" ".repeat(cells.iter().skip(place).sum()));
        lines.push(line);
    }
    lines
}

/// One day with its mark, and in its colour.
fn marked(day: &MarkedDay, cell: usize, marks: Marks, colour: Colour) -> String {
    let nth = day.date.day();
    let sign = day.kind.map_or("", sign_of);
    let (text, style) = match (marks, day.number) {
        (Marks::Kinds, _) => (format!("{nth:>2}{sign}"), style_of(day.kind)),
        (Marks::Numbered { .. }, Some(number)) => (format!("{nth:>2} #{number}"), Some(COUNTED)),
        (Marks::Counted { .. }, Some(_)) if day.kind == Some(DayKind::HalfDay) => {
            (format!("{nth:>2} *{sign}"), Some(COUNTED))
        }
        (Marks::Counted { .. }, Some(_)) => (format!("{nth:>2} *"), Some(COUNTED)),
        (_, None) if marks.start() == Some(day.date) => {
            (format!("{nth:>2} {START}{sign}"), style_of(day.kind))
        }
        (_, None) if day.inside && day.kind.is_some() => (format!("{nth:>2} {sign}"), style_of(day.kind)),
        // A day outside the stretch is left blank, whatever it is.
        _ => (String::new(), None),
    };
    let padded = format!("{text:<cell$}");
    match (colour, style) {
        (Colour::Allowed, Some(style)) => format!("\u{1b}[{style}m{padded}\u{1b}[0m"),
        _ => padded,
    }
}

fn legend(found: &MarkedMonths, width: Width) -> String {
    let counted = || found.inside().any(|day| day.number.is_some());
    let is_signed = |day: &&MarkedDay| day.number.is_none() || day.kind == Some(DayKind::HalfDay);
    let has = |kind: DayKind| found.inside().filter(is_signed).any(|day| day.kind == Some(kind));
    let mut said = Vec::new();
    match found.marks {
        _ if found.months.is_empty() => return String::new(),
        Marks::Kinds => said.push("no mark: working day"),
        Marks::Numbered { .. } if counted() => said.push("#1 #2 … counted"),
        Marks::Counted { .. } if counted() => said.push("* counted"),
        _ => {}
    }
    if found.marks.start().is_some_and(|start| is_drawn_uncounted(found, start)) {
        said.push("> start");
    }
    said.extend(KINDS_WITH_A_SIGN.into_iter().filter(|(kind, _)| has(*kind)).map(|(_, said)| said));
    wrapped(&said.join("   "), "", width)
}

/// Whether the start lies in the months without being one of the days counted.
fn is_drawn_uncounted(found: &MarkedMonths, start: Date) -> bool {
    let first = found.months.first().map(|month| month.first);
    let last = found.months.last().map(|month| Month::of(month.first).last_day());
    first.is_some_and(|first| first <= start)
        && last.is_some_and(|last| start <= last)
        && !found.inside().any(|day| day.date == start && day.number.is_some())
}

/// Before the mark of the day that a move starts from, where that day is not counted.
const START: &str = ">";

/// The terminal's style of a day that was counted (ECMA-48, select graphic rendition): green.
const COUNTED: &str = "32";

const KINDS_WITH_A_SIGN: [(DayKind, &str); 5] = [
    (DayKind::RestDay, ". rest day"),
    (DayKind::Holiday, "H holiday"),
    (DayKind::HalfDay, "h half a working day"),
    (DayKind::HolidayOnRestDay, "(H) holiday on a rest day"),
    (DayKind::DeclaredWorking, "+ declared a working day"),
];

fn sign_of(kind: DayKind) -> &'static str {
    match kind {
        DayKind::Working => "",
        DayKind::DeclaredWorking => "+",
        DayKind::RestDay => ".",
        DayKind::Holiday => "H",
        DayKind::HalfDay => "h",
        DayKind::HolidayOnRestDay => "(H)",
    }
}

/// The terminal's style of a day (ECMA-48, select graphic rendition, and bright black): green, grey, red.
fn style_of(kind: Option<DayKind>) -> Option<&'static str> {
    match kind? {
        DayKind::Working => None,
        DayKind::DeclaredWorking => Some(COUNTED),
        DayKind::RestDay => Some("90"),
        DayKind::Holiday => Some("1;31"),
        DayKind::HolidayOnRestDay | DayKind::HalfDay => Some("31"),
    }
}
