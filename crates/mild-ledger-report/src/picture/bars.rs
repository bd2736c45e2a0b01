//! Bars below each other (SVG 1.1), to be in a page whose ink and paper may be light or dark.

use super::svg::escaped;
use crate::facts::{Bar, Chart, Shade};
use crate::numbers::{Decimals, Writer};
use crate::shown::shortened;
use mild_ledger::Decimal;
use std::fmt::Write;

/// Room for names, at least and at most, and for figures after the bars.
const NAMES: (f64, f64) = (190.0, 330.0);
const FIGURES: f64 = 120.0;
/// What a character of a name takes, and the most characters that are shown.
const CHARACTER: f64 = 7.2;
const NAME_LENGTH: usize = 44;
const PART_NAME_LENGTH: usize = 18;
const BAR: f64 = 20.0;
const GAP: f64 = 8.0;
const TOP: f64 = 8.0;
/// The height of a line of names of parts, and of a name above its bar.
const PART_LINE: f64 = 22.0;
const NAME_LINE: f64 = 18.0;

/// How a chart is laid out.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Layout {
    /// Names to the left of the bars.
    Wide,
    /// For a telephone: names above the bars.
    Narrow,
}

impl Layout {
    pub(super) fn width(self) -> f64 {
        match self {
            Self::Wide => 760.0,
            Self::Narrow => 340.0,
        }
    }

    /// Names of parts next to each other.
    fn parts_on_a_line(self) -> usize {
        match self {
            Self::Wide => 4,
            Self::Narrow => 2,
        }
    }

    /// From the top of a bar to that of the next.
    fn step(self) -> f64 {
        BAR + GAP + self.above_bar()
    }

    /// The room for a name above its bar.
    fn above_bar(self) -> f64 {
        match self {
            Self::Wide => 0.0,
            Self::Narrow => NAME_LINE,
        }
    }

    fn class(self) -> &'static str {
        match self {
            Self::Wide => "wide",
            Self::Narrow => "narrow",
        }
    }
}

/// From light to dark, so that the order is seen without colours too.
const LIGHT: [f64; 3] = [186.0, 214.0, 228.0];
const DARK: [f64; 3] = [24.0, 71.0, 104.0];
/// Of what is outside the order, warm against the blue of the others.
const APART: [[u8; 3]; 3] = [[214, 205, 189], [168, 157, 138], [122, 111, 94]];
/// The stripes of what is below zero, and what is between them.
const STRIPES: ([u8; 3], [u8; 3]) = ([122, 59, 34], [232, 211, 200]);

/// The chart; `number` tells it from others of one page.
pub(crate) fn bars(chart: &Chart, layout: Layout, number: usize, writer: &Writer) -> String {
    let (drawn, height) = drawn(chart, layout, number, writer);
    let (width, class) = (layout.width(), layout.class());
    format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" class=\"{class}\" viewBox=\"0 0 {width} {height}\" role=\"img\" \
         aria-labelledby=\"chart{number}\" font-size=\"13\" fill=\"currentColor\">\n\
         <title id=\"chart{number}\">{}</title>\n{drawn}</svg>\n",
        escaped(&said(chart, writer))
    )
}

/// The lines of a chart, and how high they are.
pub(super) fn drawn(chart: &Chart, layout: Layout, number: usize, writer: &Writer) -> (String, f64) {
    let lines = if chart.parts.is_empty() { 0 } else { chart.parts.len().div_ceil(layout.parts_on_a_line()) };
    let first = TOP + lines as f64 * PART_LINE;
    let height = first + chart.bars.len() as f64 * layout.step() + TOP;
    let mut out = format!(
        "<defs><pattern id=\"below{number}\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\" patternTransform=\"rotate(45)\">\
         <rect width=\"6\" height=\"6\" fill=\"{}\"/><rect width=\"2\" height=\"6\" fill=\"{}\"/></pattern></defs>\n",
        hexadecimal(STRIPES.1),
        hexadecimal(STRIPES.0)
    );
    for (nth, part) in chart.parts.iter().enumerate() {
        let x = (nth % layout.parts_on_a_line()) as f64 * (layout.width() / layout.parts_on_a_line() as f64);
        let y = TOP + (nth / layout.parts_on_a_line()) as f64 * PART_LINE;
        put_rectangle(&mut out, (x, y, 14.0, 14.0), &fill(part.shade, number));
        put_text(&mut out, (x + 20.0, y + 12.0), &shortened(&part.name, PART_NAME_LENGTH), "start");
    }
    let scale = Scale::of(chart, layout);
    for (nth, bar) in chart.bars.iter().enumerate() {
        let y = first + nth as f64 * layout.step() + layout.above_bar();
        let name = shortened(&bar.name, NAME_LENGTH);
        match layout {
            Layout::Wide => put_text(&mut out, (scale.names - 10.0, y + 15.0), &name, "end"),
            Layout::Narrow => put_text(&mut out, (0.0, y - 5.0), &name, "start"),
        }
        let from = scale.zero() + scale.place(bar.from);
        let (mut right, mut left) = (from, from);
        for (part, figure) in bar.parts.iter().enumerate() {
            let length = scale.length(*figure);
            if length > 0.0 {
                put_rectangle(&mut out, (right, y, length, BAR), &fill(shade_of(chart, part), number));
                right += length;
            } else if length < 0.0 {
                left += length;
                put_rectangle(&mut out, (left, y, -length, BAR), &fill(Shade::BelowZero, number));
            }
        }
        put_text(&mut out, (right + 6.0, y + 15.0), &writer.amount(bar.total, Decimals::Shown), "start");
    }
    let bottom = |nth: usize| first + nth as f64 * layout.step() + layout.above_bar() + BAR + 2.0;
    match layout {
        Layout::Wide => put_axis(&mut out, scale.zero(), first - 2.0, bottom(chart.bars.len().max(1) - 1)),
        // It does not cross the names.
        Layout::Narrow => {
            for nth in 0..chart.bars.len() {
                put_axis(&mut out, scale.zero(), bottom(nth) - BAR - 4.0, bottom(nth));
            }
        }
    }
    (out, height)
}

/// The title, and each bar with its figure, for readers that do not see the picture.
fn said(chart: &Chart, writer: &Writer) -> String {
    let bar = |bar: &Bar| format!("{} {}", bar.name, writer.amount(bar.total, Decimals::Shown));
    let bars: Vec<String> = chart.bars.iter().map(bar).collect();
    format!("{}. {}", chart.title(), bars.join("; "))
}

/// The colour of a part; that in the middle where a bar is all of one.
fn shade_of(chart: &Chart, part: usize) -> Shade {
    chart.parts.get(part).map_or(Shade::InOrder(0.6), |part| part.shade)
}

fn fill(colour: Shade, number: usize) -> String {
    match colour {
        Shade::BelowZero => format!("url(#below{number})"),
        other => hexadecimal(solid(other)),
    }
}

/// The colour without stripes.
pub(crate) fn solid(colour: Shade) -> [u8; 3] {
    match colour {
        Shade::InOrder(place) => [0, 1, 2].map(|nth| (LIGHT[nth] + (DARK[nth] - LIGHT[nth]) * place) as u8),
        Shade::Apart(nth) => APART[nth.min(APART.len() - 1)],
        Shade::BelowZero => STRIPES.0,
    }
}

fn hexadecimal([red, green, blue]: [u8; 3]) -> String {
    format!("#{red:02x}{green:02x}{blue:02x}")
}

/// How figures become lengths, and where nothing lies.
struct Scale {
    layout: Layout,
    /// The room for names.
    names: f64,
    below: f64,
    above: f64,
}

impl Scale {
    fn of(chart: &Chart, layout: Layout) -> Self {
        let sum = |bar: &Bar, keep: fn(f64) -> bool| -> f64 {
            size(bar.from) + bar.parts.iter().map(|part| size(*part)).filter(|part| keep(*part)).sum::<f64>()
        };
        let above = chart.bars.iter().map(|bar| sum(bar, |part| part > 0.0)).fold(0.0, f64::max);
        let below = chart.bars.iter().map(|bar| -sum(bar, |part| part < 0.0)).fold(0.0, f64::max);
        let longest = chart.bars.iter().map(|bar| bar.name.chars().count()).max().unwrap_or(0);
        let names = match layout {
            Layout::Wide => (longest as f64 * CHARACTER + 14.0).clamp(NAMES.0, NAMES.1),
            Layout::Narrow => 1.0,
        };
        Self { layout, names, below, above }
    }

    fn room(&self) -> f64 {
        self.layout.width() - self.names - FIGURES
    }

    fn zero(&self) -> f64 {
        self.names + self.length_of(self.below)
    }

    fn length(&self, figure: Decimal) -> f64 {
        let size = size(figure);
        // What is there at all is seen.
        if size == 0.0 { 0.0 } else { self.length_of(size.abs()).max(1.0) * size.signum() }
    }

    /// How far from nothing a figure lies.
    fn place(&self, figure: Decimal) -> f64 {
        let size = size(figure);
        self.length_of(size.abs()) * size.signum()
    }

    fn length_of(&self, size: f64) -> f64 {
        let whole = self.above + self.below;
        if whole > 0.0 { size / whole * self.room() } else { 0.0 }
    }
}

/// A figure as far as a length on a screen needs it.
fn size(figure: Decimal) -> f64 {
    figure.units() as f64 / 10_f64.powi(figure.decimals().into())
}

fn put_rectangle(out: &mut String, (x, y, width, height): (f64, f64, f64, f64), fill: &str) {
    let _ = writeln!(
        out,
        "<rect x=\"{x:.1}\" y=\"{y:.1}\" width=\"{width:.1}\" height=\"{height:.1}\" fill=\"{fill}\" stroke=\"currentColor\" stroke-width=\"0.5\"/>"
    );
}

/// The line of nothing, from which bars begin.
fn put_axis(out: &mut String, x: f64, top: f64, bottom: f64) {
    let _ = writeln!(
        out,
        "<path d=\"M{x:.1} {top:.1}V{bottom:.1}\" stroke=\"currentColor\" stroke-width=\"1\"/>"
    );
}

fn put_text(out: &mut String, (x, y): (f64, f64), text: &str, anchor: &str) {
    let _ =
        writeln!(out, "<text x=\"{x:.1}\" y=\"{y:.1}\" text-anchor=\"{anchor}\">{}</text>", escaped(text));
}
