//! The blocks of a section as markup.

use super::months::{months, workings};
use super::table::{bare, table};
use crate::document::Block;
use crate::picture::bars::bars;
use crate::shown::visible;
use maud::{Markup, PreEscaped, html};

/// The blocks in their order; charts are numbered through the page.
pub(super) fn rendered(blocks: &[Block], charts: &mut usize) -> Markup {
    let mut caption: Option<&str> = None;
    let mut parts: Vec<Markup> = Vec::new();
    for block in blocks {
        let markup = match block {
            // They are at the top.
            Block::Heading(_) | Block::Doubt(_) | Block::Answer(_) | Block::Section(_) | Block::PartEnds => {
                continue;
            }
            Block::Caption(text) => {
                caption = Some(text);
                continue;
            }
            Block::Paragraph(text) => html! { p { (visible(text)) } },
            Block::Note(note) => {
                let end = if note.ends_with('?') { "" } else { "." };
                html! { p class="item" { "Note: " (visible(note)) (end) } }
            }
            Block::Item(item) => html! { p class="item" { (visible(item)) } },
            Block::Example(example) => html! { p class="example" { (visible(example)) } },
            Block::Step(step) => html! { p class="step" { (visible(step)) } },
            Block::Numbered { number, text, .. } => {
                html! { p class="item" { (number) ". " (visible(text)) } }
            }
            Block::Table(found) => table(found, caption.take()),
            Block::Chart(chart) => {
                *charts += 1;
                html! {
                    figure {
                        figcaption { (visible(&chart.title)) }
                        div class="scroll" tabindex="0" role="region" aria-label=(visible(&chart.title)) {
                            (PreEscaped(bars(chart, *charts)))
                        }
                    }
                }
            }
            Block::Opened { heading, figures, left_out } => html! {
                h3 { (heading) }
                @for figure in figures {
                    details {
                        summary { (visible(&figure.said)) }
                        @if let Some(rows) = &figure.rows { (bare(rows, &figure.said)) }
                        @if figure.more > 0 { p { "and " (figure.more) " more" } }
                        (rendered(&figure.then, charts))
                    }
                }
                @if *left_out > 0 {
                    p { (left_out) " more are not opened, so that the page stays small." }
                }
            },
            Block::Months(found) => months(found),
            Block::Workings(all) => workings(all),
        };
        parts.push(markup);
    }
    html! { @for part in parts { (part) } }
}
