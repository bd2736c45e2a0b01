//! Bars below each other (SVG 1.1), to be in a page whose ink and paper may be light or dark.

use super::svg::escaped;
use crate::facts::{Bar, Chart};
use crate::numbers::{Decimals, amount};
use crate::shown::shortened;
use mild_ledger::Decimal;
use std::fmt::Write;

pub(super) const WIDTH: f64 = 760.0;
/// Room for names, at least and at most, and for figures after the bars.
const NAMES: (f64, f64) = (190.0, 330.0);
const FIGURES: f64 = 120.0;
/// What a sign of a name takes, and the most signs that are shown.
const SIGN: f64 = 7.2;
const NAME_LENGTH: usize = 44;
const PART_NAME_LENGTH: usize = 18;
const BAR: f64 = 20.0;
const STEP: f64 = 28.0;
const TOP: f64 = 8.0;
/// Names of parts next to each other, and the height of their lines.
const PARTS_BESIDE: usize = 4;
const PART_LINE: f64 = 22.0;
/// From light to dark, so that the order is seen without colours too.
const LIGHT: [f64; 3] = [186.0, 214.0, 228.0];
const DARK: [f64; 3] = [24.0, 71.0, 104.0];

/// The chart; `number` tells it from others of one page.
pub(crate) fn bars(chart: &Chart, number: usize) -> String {
    let (drawn, height) = drawn(chart, number);
    format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {WIDTH} {height}\" role=\"img\" \
         aria-labelledby=\"chart{number}\" font-size=\"13\" fill=\"currentColor\">\n\
         <title id=\"chart{number}\">{}</title>\n{drawn}</svg>\n",
        escaped(&said(chart))
    )
}

/// The lines of a chart, and how high they are.
pub(super) fn drawn(chart: &Chart, number: usize) -> (String, f64) {
    let lines = if chart.parts.is_empty() { 0 } else { chart.parts.len().div_ceil(PARTS_BESIDE) };
    let first = TOP + lines as f64 * PART_LINE;
    let height = first + chart.bars.len() as f64 * STEP + TOP;
    let mut out = format!(
        "<defs><pattern id=\"below{number}\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\" patternTransform=\"rotate(45)\">\
         <rect width=\"6\" height=\"6\" fill=\"#e8d3c8\"/><rect width=\"2\" height=\"6\" fill=\"#7a3b22\"/></pattern></defs>\n"
    );
    for (nth, name) in chart.parts.iter().enumerate() {
        let x = (nth % PARTS_BESIDE) as f64 * (WIDTH / PARTS_BESIDE as f64);
        let y = TOP + (nth / PARTS_BESIDE) as f64 * PART_LINE;
        let side = if is_below(chart, nth) { Side::Below } else { Side::Above };
        put_rectangle(&mut out, (x, y, 14.0, 14.0), &fill(chart, nth, side, number));
        put_text(&mut out, (x + 20.0, y + 12.0), &shortened(name, PART_NAME_LENGTH), "start");
    }
    let scale = Scale::of(chart);
    for (nth, bar) in chart.bars.iter().enumerate() {
        let y = first + nth as f64 * STEP;
        put_text(&mut out, (scale.names - 10.0, y + 15.0), &shortened(&bar.name, NAME_LENGTH), "end");
        let from = scale.zero() + scale.place(bar.from);
        let (mut right, mut left) = (from, from);
        for (part, figure) in bar.parts.iter().enumerate() {
            let length = scale.length(*figure);
            if length > 0.0 {
                put_rectangle(&mut out, (right, y, length, BAR), &fill(chart, part, Side::Above, number));
                right += length;
            } else if length < 0.0 {
                left += length;
                put_rectangle(&mut out, (left, y, -length, BAR), &fill(chart, part, Side::Below, number));
            }
        }
        put_text(&mut out, (right + 6.0, y + 15.0), &amount(bar.total, Decimals::Shown), "start");
    }
    let (x, bottom) = (scale.zero(), first + chart.bars.len() as f64 * STEP - STEP + BAR + 2.0);
    let _ = writeln!(
        out,
        "<path d=\"M{x:.1} {:.1}V{bottom:.1}\" stroke=\"currentColor\" stroke-width=\"1\"/>",
        first - 2.0
    );
    (out, height)
}

/// The title, and each bar with its figure, for readers that do not see the picture.
fn said(chart: &Chart) -> String {
    let bar = |bar: &Bar| format!("{} {}", bar.name, amount(bar.total, Decimals::Shown));
    let bars: Vec<String> = chart.bars.iter().map(bar).collect();
    format!("{}. {}", chart.title, bars.join("; "))
}

/// On which side of nothing a part lies.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Side {
    Above,
    Below,
}

/// Whether no figure of a part lies above nothing, and one lies below.
fn is_below(chart: &Chart, part: usize) -> bool {
    let figures = || chart.bars.iter().filter_map(|bar| bar.parts.get(part));
    figures().all(|figure| *figure <= Decimal::ZERO) && figures().any(|figure| *figure < Decimal::ZERO)
}

fn fill(chart: &Chart, part: usize, side: Side, number: usize) -> String {
    if side == Side::Below {
        return format!("url(#below{number})");
    }
    let [red, green, blue] = shade(chart, part);
    format!("#{red:02x}{green:02x}{blue:02x}")
}

/// The colour of a part above nothing: from light to dark in the order of the parts.
pub(crate) fn shade(chart: &Chart, part: usize) -> [u8; 3] {
    let above: Vec<usize> = (0..chart.parts.len()).filter(|part| !is_below(chart, *part)).collect();
    let steps = above.len().saturating_sub(1).max(1) as f64;
    let step = above.iter().position(|known| *known == part).unwrap_or(0) as f64;
    let place = if chart.parts.is_empty() { 0.6 } else { step / steps };
    [0, 1, 2].map(|nth| (LIGHT[nth] + (DARK[nth] - LIGHT[nth]) * place) as u8)
}

/// How figures become lengths, and where nothing lies.
struct Scale {
    /// The room for names.
    names: f64,
    below: f64,
    above: f64,
}

impl Scale {
    fn of(chart: &Chart) -> Self {
        let sum = |bar: &Bar, keep: fn(f64) -> bool| -> f64 {
            size(bar.from) + bar.parts.iter().map(|part| size(*part)).filter(|part| keep(*part)).sum::<f64>()
        };
        let above = chart.bars.iter().map(|bar| sum(bar, |part| part > 0.0)).fold(0.0, f64::max);
        let below = chart.bars.iter().map(|bar| -sum(bar, |part| part < 0.0)).fold(0.0, f64::max);
        let longest = chart.bars.iter().map(|bar| bar.name.chars().count()).max().unwrap_or(0);
        let names = (longest as f64 * SIGN + 14.0).clamp(NAMES.0, NAMES.1);
        Self { names, below, above }
    }

    fn room(&self) -> f64 {
        WIDTH - self.names - FIGURES
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

fn put_text(out: &mut String, (x, y): (f64, f64), text: &str, anchor: &str) {
    let _ =
        writeln!(out, "<text x=\"{x:.1}\" y=\"{y:.1}\" text-anchor=\"{anchor}\">{}</text>", escaped(text));
}
