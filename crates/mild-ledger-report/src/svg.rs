//! Pictures (SVG 1.1), in one file with nothing fetched from elsewhere.

use crate::WorkYears;
use crate::terminal::visible;
use mild_ledger::{Date, DayKind, Month};
use std::fmt::Write;

const MONTH_WIDTH: i64 = 292;
const MONTH_HEIGHT: i64 = 232;
const CELL: i64 = 36;
const ROW: i64 = 26;
const MARGIN: i64 = 28;
const HEAD: i64 = 92;
const FOOT: i64 = 56;
const INK: &str = "#22303c";
const PALE: &str = "#8794a0";

/// The months of the years, four beside each other, each day marked by its colour and by a sign: a rest day on a
/// tile, a holiday filled, a holiday on a rest day ringed, a declared working day underlined.
#[must_use]
pub fn years(found: &WorkYears) -> String {
    let rows = (found.months.len() as i64 + 3) / 4;
    let (width, height) = (2 * MARGIN + 4 * MONTH_WIDTH - 24, HEAD + rows * MONTH_HEIGHT + FOOT);
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width} {height}\" width=\"{width}\" height=\"{height}\" \
         font-family=\"DejaVu Sans, Verdana, sans-serif\" font-size=\"13\" fill=\"{INK}\">\n\
         <rect width=\"{width}\" height=\"{height}\" fill=\"#fbfaf7\"/>\n"
    );
    let span = match (found.months.first(), found.months.last()) {
        (Some(first), Some(last)) if first.first.year() != last.first.year() => {
            format!("{} to {}", first.first.year(), last.first.year())
        }
        (Some(first), _) => first.first.year().to_string(),
        _ => String::new(),
    };
    let title = format!("{}, {span}", found.calendar.name());
    let _ = writeln!(out, "<title>{}</title>", escaped(&title));
    put_text(&mut out, (MARGIN, 40), &title, "font-size=\"22\" font-weight=\"bold\"");
    let rest = format!("{}; rest days: {}", found.total, found.calendar.rest_days());
    put_text(&mut out, (MARGIN, 64), &rest, &format!("fill=\"{PALE}\""));
    for (nth, month) in found.months.iter().enumerate() {
        let (column, row) = (nth as i64 % 4, nth as i64 / 4);
        put_month(
            &mut out,
            found,
            month.first,
            (MARGIN + column * MONTH_WIDTH, HEAD + row * MONTH_HEIGHT),
            month.days.count(),
        );
    }
    let y = height - 24;
    let mut x = MARGIN;
    for (kind, said) in [
        (DayKind::Working, "working day"),
        (DayKind::RestDay, "rest day"),
        (DayKind::Holiday, "holiday"),
        (DayKind::HolidayOnRestDay, "holiday on a rest day"),
        (DayKind::DeclaredWorking, "declared a working day"),
    ] {
        put_day(&mut out, (x, y), "7", kind);
        put_text(&mut out, (x + 22, y), said, "");
        x += 60 + 8 * said.len() as i64;
    }
    out.push_str("</svg>\n");
    out
}

fn put_month(out: &mut String, found: &WorkYears, first: Date, (left, top): (i64, i64), working: i64) {
    let name = "%B %Y".parse::<mild_ledger::LabelPattern>();
    let name =
        name.map_or_else(|_| String::new(), |name| name.write(first, mild_ledger::FiscalYear::default()));
    put_text(out, (left, top + 14), &name, "font-weight=\"bold\" font-size=\"15\"");
    let end = left + 7 * CELL - 10;
    put_text(
        out,
        (end, top + 14),
        &format!("{working} working"),
        &format!("text-anchor=\"end\" fill=\"{PALE}\" font-size=\"12\""),
    );
    for (place, day) in ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"].into_iter().enumerate() {
        let style = format!("text-anchor=\"middle\" fill=\"{PALE}\" font-size=\"11\"");
        put_text(out, (left + place as i64 * CELL + 10, top + 38), day, &style);
    }
    let into_week =
        mild_ledger::Weekday::ALL.iter().position(|day| *day == first.weekday()).unwrap_or(0) as i64;
    for (nth, day) in (first.day_number()..=Month::of(first).last_day().day_number()).enumerate() {
        let Ok(date) = Date::from_day_number(day) else { continue };
        let place = into_week + nth as i64;
        let (x, y) = (left + place % 7 * CELL + 10, top + 62 + place / 7 * ROW);
        let kind = found.calendar.kind_of(date).unwrap_or(DayKind::Working);
        let names: Vec<&str> =
            found.calendar.holidays_on(date).iter().map(mild_ledger::Holiday::name).collect();
        if names.is_empty() {
            put_day(out, (x, y), &date.day().to_string(), kind);
        } else {
            let _ = write!(out, "<g><title>{}</title>", escaped(&names.join(", ")));
            put_day(out, (x, y), &date.day().to_string(), kind);
            out.push_str("</g>\n");
        }
    }
}

/// A day around a point on its baseline.
fn put_day(out: &mut String, (x, y): (i64, i64), day: &str, kind: DayKind) {
    let circle = |fill: &str, line: &str| {
        format!(
            "<circle cx=\"{x}\" cy=\"{}\" r=\"11\" fill=\"{fill}\" stroke=\"{line}\" stroke-width=\"1.5\"/>",
            y - 5
        )
    };
    let square = || {
        let (left, top) = (x - 14, y - 17);
        format!("<rect x=\"{left}\" y=\"{top}\" width=\"28\" height=\"24\" rx=\"4\" fill=\"#eeebe3\"/>")
    };
    let (shape, ink, extra) = match kind {
        DayKind::Working => (String::new(), INK, ""),
        DayKind::RestDay => (square(), "#7b8792", ""),
        DayKind::Holiday => (circle("#b5443a", "#b5443a"), "#ffffff", " font-weight=\"bold\""),
        DayKind::HolidayOnRestDay => (square() + &circle("none", "#b5443a"), "#b5443a", ""),
        DayKind::DeclaredWorking => {
            (String::new(), "#2f6f4f", " font-weight=\"bold\" text-decoration=\"underline\"")
        }
    };
    out.push_str(&shape);
    put_text(out, (x, y), day, &format!("text-anchor=\"middle\" fill=\"{ink}\"{extra}"));
}

fn put_text(out: &mut String, (x, y): (i64, i64), text: &str, style: &str) {
    let _ = writeln!(out, "<text x=\"{x}\" y=\"{y}\" {style}>{}</text>", escaped(text));
}

/// A text that is no markup, with its control signs made visible.
fn escaped(text: &str) -> String {
    visible(text).replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}
