//! The mistakes of a plan, each with its line and a caret under the word.

use super::text::visible;
use annotate_snippets::{AnnotationKind, Level, Renderer, Snippet};
use mild_ledger_records::PlanMistakes;

/// Whether a message may be coloured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Colour {
    /// To a terminal that wants it.
    Allowed,
    /// To a file, a pipe, or where `NO_COLOR` is set.
    Off,
}

/// Every mistake: what is wrong, the line of the plan with a caret under it, what was expected, and what may
/// help.
#[must_use]
pub fn mistakes(found: &PlanMistakes, colour: Colour) -> String {
    let file = found.file().display().to_string();
    let file = visible(&file);
    let renderer = match colour {
        Colour::Allowed => Renderer::styled(),
        Colour::Off => Renderer::plain(),
    };
    // Signs that would steer the terminal are replaced by one sign of the same length in bytes, so that the
    // carets stay in place.
    let source = harmless(found.source());
    let mut out = String::new();
    for mistake in found.mistakes() {
        let expected = format!("expected {}", visible(mistake.expected()));
        let mut span = mistake.span();
        span.end = span.end.min(source.len());
        span.start = span.start.min(span.end);
        // A whole section is pointed at by its first line.
        if let Some(line_end) = source.get(span.clone()).and_then(|text| text.find('\n')) {
            span.end = span.start + line_end;
        }
        let what = visible(mistake.what());
        let snippet = Snippet::source(source.as_str())
            .path(file.as_ref())
            .annotation(AnnotationKind::Primary.span(span).label(expected.as_str()));
        let mut group = Level::ERROR.primary_title(what.as_ref()).element(snippet);
        let help = mistake.help().map(visible);
        if let Some(help) = &help {
            group = group.element(Level::HELP.message(help.as_ref()));
        }
        out.push_str(&renderer.render(&[group]));
        out.push_str("\n\n");
    }
    out
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
