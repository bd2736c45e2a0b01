//! A report as a page in one file: nothing is fetched from elsewhere, nothing in it runs, and it is read by eye, by ear and on paper.

mod blocks;
mod months;
mod table;

use crate::document::{self, Block, Document, FileNames, RunDetail};
use crate::shown::visible;
use maud::{DOCTYPE, Markup, PreEscaped, html};
use mild_ledger_records::RunOutcome;

/// What a page may load: nothing but its own style.
const POLICY: &str =
    "default-src 'none'; style-src 'unsafe-inline'; img-src data:; base-uri 'none'; form-action 'none'";

/// The report of a run as a page (HTML): the answer first, what makes it doubtful, then each report with its tables and pictures, the exceptions,
/// how each column was counted, the calendars, the proof and the files. Texts from records are in it as texts.
#[must_use]
pub fn run(outcome: &RunOutcome) -> String {
    page(&document::run(outcome, FileNames::OfThePlan, RunDetail::Full))
}

fn page(found: &Document) -> String {
    let parts = found.parts();
    let title = found.blocks.iter().find_map(|block| match block {
        Block::Heading(title) => Some(visible(title).into_owned()),
        _ => None,
    });
    let title = title.unwrap_or_else(|| "Report".to_owned());
    let answers = found.blocks.iter().filter_map(|block| match block {
        Block::Answer(answer) => Some(answer),
        _ => None,
    });
    let doubts = found.blocks.iter().filter_map(|block| match block {
        Block::Doubt(doubt) => Some(doubt),
        _ => None,
    });
    let (front, sections) =
        parts.split_first().map_or((&[][..], &[][..]), |(front, rest)| (front.blocks, rest));
    let mut charts = 0;
    let markup: Markup = html! {
        (DOCTYPE)
        html lang="en" {
            head {
                meta charset="utf-8";
                meta name="viewport" content="width=device-width, initial-scale=1";
                meta http-equiv="Content-Security-Policy" content=(POLICY);
                title { (title) }
                style { (PreEscaped(include_str!("style.css"))) }
            }
            body {
                a class="skip" href="#answer" { "To the answer" }
                header {
                    h1 { (title) }
                    @for block in front {
                        @if let Block::Paragraph(text) = block { p { (visible(text)) } }
                    }
                }
                main {
                    section id="answer" class="answer" aria-label="The answer" {
                        @for answer in answers {
                            ul {
                                @for part in answer { li { (visible(part)) } }
                            }
                        }
                    }
                    @for doubt in doubts {
                        p class="doubt" { "Doubtful: " (visible(doubt)) "." }
                    }
                    nav aria-label="Contents" {
                        ul {
                            @for (nth, part) in sections.iter().enumerate() {
                                li { a href=(format!("#part{}", nth + 1)) { (visible(part.title())) } }
                            }
                        }
                    }
                    @for (nth, part) in sections.iter().enumerate() {
                        section id=(format!("part{}", nth + 1)) {
                            h2 { (visible(part.title())) }
                            (blocks::rendered(part.blocks, part.title(), &mut charts, &found.writer))
                        }
                    }
                }
            }
        }
    };
    markup.into_string()
}
