//! The mistakes of a plan, each with its line and a caret under the word.

use super::Width;
use super::text::wrapped;
use crate::shown::visible;
use annotate_snippets::{AnnotationKind, Level, Renderer, Snippet};
use mild_ledger_records::PlanMistakes;
use std::borrow::Cow;

/// Whether a message may be coloured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Colour {
    /// To a terminal that wants it.
    Allowed,
    /// To a file, a pipe, or where `NO_COLOR` is set.
    Off,
}

/// Every mistake: what is wrong, the line of the plan with a caret under it, what was expected, and what may
/// help; words are broken at the width, and only the caret is coloured.
#[must_use]
pub fn mistakes(found: &PlanMistakes, (colour, width): (Colour, Width)) -> String {
    let file = found.file().display().to_string();
    let file = visible(&file);
    let renderer = match width {
        Width::Columns(columns) => Renderer::plain().term_width(columns),
        Width::Unlimited => Renderer::plain(),
    };
    // Signs that would steer the terminal are replaced by one sign of the same length in bytes, so that the
    // carets stay in place.
    let source = harmless(found.source());
    let mut out = String::new();
    for mistake in found.mistakes() {
        let mut span = mistake.span();
        span.end = span.end.min(source.len());
        span.start = span.start.min(span.end);
        // A whole section is pointed at by its first line.
        if let Some(line_end) = source.get(span.clone()).and_then(|text| text.find('\n')) {
            span.end = span.start + line_end;
        }
        let snippet = Snippet::source(source.as_str())
            .path(file.as_ref())
            .annotation(AnnotationKind::Primary.span(span));
        let drawn = renderer.render(&[Level::ERROR.primary_title("").element(snippet)]);
        out.push_str(&wrapped(&format!("error: {}", visible(mistake.what())), "", width));
        // The first line is the title, which stands above already.
        let mut gutter = 0;
        for line in drawn.lines().skip(1) {
            gutter = line.find('|').unwrap_or(gutter);
            out.push_str(&with_caret(line, colour));
            out.push('\n');
        }
        let indent = " ".repeat(gutter);
        let expected = format!("expected {}", visible(mistake.expected()));
        for said in
            std::iter::once(expected).chain(mistake.help().map(|help| format!("help: {}", visible(help))))
        {
            out.push_str(&wrapped(&said, &indent, width));
        }
        out.push('\n');
    }
    out
}

/// The line with its caret in red (ECMA-48), where it has one and colour is allowed.
fn with_caret(line: &str, colour: Colour) -> Cow<'_, str> {
    let rest = line.trim_start().strip_prefix('|').map(str::trim_start);
    match rest.filter(|rest| rest.starts_with('^') && colour == Colour::Allowed) {
        Some(rest) => {
            let before = line.strip_suffix(rest).unwrap_or_default();
            Cow::Owned(format!("{before}\u{1b}[1;31m{rest}\u{1b}[0m"))
        }
        None => Cow::Borrowed(line),
    }
}

fn harmless(source: &str) -> String {
    source
        .chars()
        .flat_map(|sign| {
            let hidden = sign != '\n'
                && sign != '\t'
                && sign != '\r'
                && visible(sign.encode_utf8(&mut [0; 4])).len() != sign.len_utf8();
            let (shown, times) = if hidden { ('?', sign.len_utf8()) } else { (sign, 1) };
            std::iter::repeat_n(shown, times)
        })
        .collect()
}
