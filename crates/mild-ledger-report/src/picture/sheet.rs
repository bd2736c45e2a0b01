//! Charts below each other as one picture that is by itself, dark on light.

use super::bars::{Layout, drawn};
use super::svg::escaped;
use crate::document::sentence;
use crate::facts::Chart;
use crate::numbers::Writer;
use crate::shown::{shortened, visible};
use std::fmt::Write;

/// Periods everything.
const MARGIN: f64 = 24.0;
/// What a line of text takes, and the room in front of a chart.
const LINE: f64 = 22.0;
const GAP: f64 = 18.0;
/// Characters that a line holds.
const LINE_LENGTH: usize = 96;

/// The picture (SVG 1.1) of charts under a title and the lines below that.
pub(crate) fn sheet(title: &str, below: &[String], charts: &[&Chart], writer: &Writer) -> String {
    let mut body = String::new();
    let mut y = MARGIN + LINE;
    let line = |body: &mut String, y: f64, text: &str, look: &str| {
        let text = shortened(&visible(text), LINE_LENGTH);
        let _ = writeln!(body, "<text x=\"0\" y=\"{y:.1}\"{look}>{}</text>", escaped(&text));
    };
    line(&mut body, y - MARGIN, title, " font-size=\"18\" font-weight=\"bold\"");
    for text in below {
        y += LINE;
        line(&mut body, y - MARGIN, text, "");
    }
    for (number, chart) in charts.iter().enumerate() {
        y += GAP + LINE;
        line(&mut body, y - MARGIN, &chart.title(), " font-weight=\"bold\"");
        if let Some(of) = &chart.of {
            y += LINE;
            line(&mut body, y - MARGIN, &sentence(of), "");
        }
        y += LINE / 2.0;
        let (lines, height) = drawn(chart, Layout::Wide, number, writer);
        let _ = writeln!(body, "<g transform=\"translate(0 {:.1})\">\n{lines}</g>", y - MARGIN);
        y += height;
    }
    if charts.is_empty() {
        y += LINE;
        line(&mut body, y - MARGIN, "No figure of this report makes a picture.", "");
    }
    let (width, height) = (Layout::Wide.width() + 2.0 * MARGIN, (y + MARGIN).ceil());
    format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width}\" height=\"{height}\" viewBox=\"0 0 {width} {height}\" \
         font-family=\"DejaVu Sans, Verdana, sans-serif\" font-size=\"13\" color=\"#1b2730\" fill=\"#1b2730\">\n\
         <title>{}</title>\n<rect width=\"{width}\" height=\"{height}\" fill=\"#ffffff\"/>\n\
         <g transform=\"translate({MARGIN} {MARGIN})\">\n{body}</g>\n</svg>\n",
        escaped(&visible(title))
    )
}
