//! Working days with their working: the months concerned, each day marked, and the sum under them.

use super::text::wrapped;
use super::{Colour, Width};
use crate::Detail;
use crate::numbers::grouped;
use crate::shown::{month_name, visible};
use mild_ledger::{
    CountedDay, Date, DayKind, Ends, Error, Interval, Month, MonthGrid, WorkCalendar, WorkingGrid,
};
use std::fmt::Write;

/// Months drawn at each end of a long stretch.
const MONTHS_AT_EACH_END: usize = 6;
/// Days listed on which two calendars differ.
const MOST_DIFFERENCES: usize = 40;

/// The working days of an interval by each calendar, the rule for ends beside each; with two or more, also the days that make
/// the difference.
///
/// # Errors
/// Where a calendar does not cover the interval.
pub fn working_days(
    interval: Interval,
    ends: Ends,
    calendars: &[WorkCalendar],
    (detail, colour, width): (Detail, Colour, Width),
) -> Result<String, Error> {
    let mut out = String::new();
    for calendar in calendars {
        let found = calendar.working_days(interval, ends)?;
        let name = visible(calendar.name()).into_owned();
        let days = if found.count().abs() == 1 { "day" } else { "days" };
        let count = grouped(&found.count().to_string());
        out.push_str(&wrapped(&format!("{count} working {days} by {name}, {}", ends.said()), "", width));
        if detail == Detail::WithWorking {
            out.push('\n');
            let grid = calendar.why_working_days(interval, ends)?;
            put_grid(&mut out, (calendar, interval.start()), &grid, Numbers::Hidden, (colour, width));
            out.push_str(&wrapped(&found.to_string(), "", width));
        } else {
            out.push_str(&wrapped(&found.to_string(), "  ", width));
        }
    }
    if let [first, .., last] = calendars {
        out.push('\n');
        put_differences(&mut out, interval, ends, (first, last), width)?;
    }
    Ok(out)
}

/// Whether counted days bear their running numbers.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Numbers {
    Shown,
    Hidden,
}

/// The months, what their signs mean, their holidays by name, and the sum.
pub(super) fn put_grid(
    out: &mut String,
    (calendar, start): (&WorkCalendar, Date),
    grid: &WorkingGrid,
    numbers: Numbers,
    (colour, width): (Colour, Width),
) {
    let months = grid.months();
    let hidden = months.len().saturating_sub(2 * MONTHS_AT_EACH_END);
    for (nth, month) in months.iter().enumerate() {
        if hidden > 0 && nth == MONTHS_AT_EACH_END {
            let months = if hidden == 1 { "month" } else { "months" };
            let _ = writeln!(out, "… {hidden} {months} between …\n");
        }
        if hidden == 0 || nth < MONTHS_AT_EACH_END || nth >= months.len() - MONTHS_AT_EACH_END {
            let marks = Marks::Counted { grid: month, numbers, start };
            // Weeks outside the stretch have nothing to show.
            let lines = month_lines(calendar, month.first_day(), &marks, colour);
            for line in lines.iter().filter(|line| !line.trim().is_empty()) {
                out.push_str(line.trim_end());
                out.push('\n');
            }
            out.push('\n');
        }
    }
    if !months.is_empty() {
        out.push_str(&wrapped(&legend(months, numbers, start), "", width));
    }
    // Each holiday among the days by its name, as far as they can be read at a glance.
    let inside = months.iter().flat_map(MonthGrid::days).filter(|day| day.is_inside());
    let named = inside.flat_map(|day| calendar.holidays_on(day.date())).take(20);
    for holiday in named {
        let date = holiday.date();
        let moved = holiday.moved_from().map_or_else(String::new, |from| format!(", moved from {from}"));
        out.push_str(&wrapped(
            &format!("{date} ({}): {}{moved}", date.weekday(), visible(holiday.name())),
            "",
            width,
        ));
    }
}

fn put_differences(
    out: &mut String,
    interval: Interval,
    ends: Ends,
    (one, other): (&WorkCalendar, &WorkCalendar),
    width: Width,
) -> Result<(), Error> {
    let mut apart = Vec::new();
    for month in one.why_working_days(interval, ends)?.months() {
        for day in month.days().iter().filter(|day| day.is_inside()) {
            let (kind, theirs) = (one.kind_of(day.date())?, other.kind_of(day.date())?);
            if kind.is_working() != theirs.is_working() {
                apart.push((day.date(), kind, theirs));
            }
        }
    }
    let (name, their_name) = (visible(one.name()).into_owned(), visible(other.name()).into_owned());
    if apart.is_empty() {
        out.push_str(&wrapped(
            &format!("{name} and {their_name} work on the same of these days."),
            "",
            width,
        ));
    } else {
        out.push_str(&wrapped(&format!("days that make the difference ({name}; {their_name}):"), "", width));
    }
    for (date, kind, theirs) in apart.iter().take(MOST_DIFFERENCES) {
        let said = |calendar: &WorkCalendar, kind: &DayKind| match calendar.holidays_on(*date) {
            [] => kind.to_string(),
            [holiday, ..] => format!("{kind}, {}", visible(holiday.name())),
        };
        let line = format!("{date} ({}): {}; {}", date.weekday(), said(one, kind), said(other, theirs));
        out.push_str(&wrapped(&line, "  ", width));
    }
    if apart.len() > MOST_DIFFERENCES {
        let _ = writeln!(out, "  … and {} more", apart.len() - MOST_DIFFERENCES);
    }
    out.push('\n');
    Ok(())
}

/// How the days of a month are marked.
pub(super) enum Marks<'g> {
    /// By what they are.
    Year,
    /// By what they are where they were looked at.
    Counted { grid: &'g MonthGrid, numbers: Numbers, start: Date },
}

impl Marks<'_> {
    /// How wide each day of the week stands, from Monday: rest days wide enough for a holiday on them, with a gap behind.
    pub(super) fn cells(&self, calendar: &WorkCalendar) -> [usize; 7] {
        match self {
            Self::Counted { numbers: Numbers::Shown, .. } => [9; 7],
            Self::Counted { .. } => [7; 7],
            Self::Year => {
                mild_ledger::Weekday::ALL.map(|day| if calendar.rest_days().contains(day) { 6 } else { 4 })
            }
        }
    }
}

/// A month: its name, the weekdays, and a line a week from Monday; each line of one width.
pub(super) fn month_lines(
    calendar: &WorkCalendar,
    first: Date,
    marks: &Marks<'_>,
    colour: Colour,
) -> Vec<String> {
    let cells = marks.cells(calendar);
    let total: usize = cells.iter().sum();
    let mut lines = vec![format!("{:<total$}", format!("{} {:04}", month_name(first), first.year()))];
    let names = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
    lines.push(names.iter().zip(cells).map(|(name, cell)| format!("{name:<cell$}")).collect());
    let mut place = mild_ledger::Weekday::ALL.iter().position(|day| *day == first.weekday()).unwrap_or(0);
    let mut line = " ".repeat(cells.iter().take(place).sum());
    for day in first.day_number()..=Month::of(first).last_day().day_number() {
        let Ok(date) = Date::from_day_number(day) else { continue };
        let cell = cells.get(place).copied().unwrap_or_default();
        line.push_str(&marked((calendar, cell), date, marks, colour));
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

/// One day with its sign, and in its colour.
fn marked((calendar, cell): (&WorkCalendar, usize), date: Date, marks: &Marks<'_>, colour: Colour) -> String {
    let number = date.day();
    let (kind, text) = match marks {
        Marks::Year => {
            let kind = calendar.kind_of(date).ok();
            (kind, format!("{number:>2}{}", kind.map_or("", sign_of)))
        }
        Marks::Counted { start, .. }
            if date == *start && day_of(marks, date).is_none_or(|day| day.number().is_none()) =>
        {
            let kind = day_of(marks, date).and_then(CountedDay::kind);
            let sign = kind.map_or("", sign_of);
            (kind, format!("{number:>2} {START}{sign}"))
        }
        Marks::Counted { numbers, .. } => match day_of(marks, date).map(|day| (day.kind(), day.number())) {
            Some((_, Some(counted))) => {
                let sign = match numbers {
                    Numbers::Shown => format!("#{counted}"),
                    Numbers::Hidden => "*".to_owned(),
                };
                let padded = format!("{:<cell$}", format!("{number:>2} {sign}"));
                return match colour {
                    Colour::Allowed => format!("\u{1b}[32m{padded}\u{1b}[0m"),
                    Colour::Off => padded,
                };
            }
            Some((Some(kind), None)) => (Some(kind), format!("{number:>2} {}", sign_of(kind))),
            // A day outside the stretch is left blank, whatever it is.
            _ => (None, String::new()),
        },
    };
    let padded = format!("{text:<cell$}");
    match (colour, style_of(kind)) {
        (Colour::Allowed, Some(style)) => format!("\u{1b}[{style}m{padded}\u{1b}[0m"),
        _ => padded,
    }
}

/// The day among those that were looked at.
fn day_of(marks: &Marks<'_>, date: Date) -> Option<CountedDay> {
    match marks {
        Marks::Year => None,
        Marks::Counted { grid, .. } => {
            grid.days().iter().find(|day| day.date() == date && day.is_inside()).copied()
        }
    }
}

/// What the signs of these months mean: those that occur, and no other.
fn legend(months: &[MonthGrid], numbers: Numbers, start: Date) -> String {
    let inside = || months.iter().flat_map(MonthGrid::days).filter(|day| day.is_inside());
    let has = |kind: DayKind| inside().any(|day| day.number().is_none() && day.kind() == Some(kind));
    let mut said = Vec::new();
    if inside().any(|day| day.number().is_some()) {
        said.push(match numbers {
            Numbers::Shown => "#1 #2 … counted",
            Numbers::Hidden => "* counted",
        });
    }
    let first = months.first().map(MonthGrid::first_day);
    let last = months.last().map(|month| Month::of(month.first_day()).last_day());
    let is_drawn = first.is_some_and(|first| first <= start) && last.is_some_and(|last| start <= last);
    if is_drawn && !inside().any(|day| day.date() == start && day.number().is_some()) {
        said.push("> start");
    }
    said.extend(KINDS_WITH_A_SIGN.into_iter().filter(|(kind, _)| has(*kind)).map(|(_, said)| said));
    said.join("   ")
}

/// What the signs of a year mean: those that occur, and no other.
pub(super) fn legend_of_kinds(kinds: &[DayKind]) -> String {
    let mut said = vec!["no sign: working day"];
    said.extend(KINDS_WITH_A_SIGN.into_iter().filter(|(kind, _)| kinds.contains(kind)).map(|(_, said)| said));
    said.join("   ")
}

/// Before the sign of the day that a move starts from, where that day is not counted.
const START: &str = ">";

const KINDS_WITH_A_SIGN: [(DayKind, &str); 4] = [
    (DayKind::RestDay, ". rest day"),
    (DayKind::Holiday, "H holiday"),
    (DayKind::HolidayOnRestDay, "(H) holiday on a rest day"),
    (DayKind::DeclaredWorking, "+ declared a working day"),
];

fn sign_of(kind: DayKind) -> &'static str {
    match kind {
        DayKind::Working => "",
        DayKind::DeclaredWorking => "+",
        DayKind::RestDay => ".",
        DayKind::Holiday => "H",
        DayKind::HolidayOnRestDay => "(H)",
    }
}

/// The terminal's style of a day (ECMA-48, select graphic rendition, and bright black): green, grey, red.
fn style_of(kind: Option<DayKind>) -> Option<&'static str> {
    match kind? {
        DayKind::Working => None,
        DayKind::DeclaredWorking => Some("32"),
        DayKind::RestDay => Some("90"),
        DayKind::Holiday => Some("1;31"),
        DayKind::HolidayOnRestDay => Some("31"),
    }
}
