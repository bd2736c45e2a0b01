//! The blocks of a section as markup.

use super::months::{months, workings};
use super::table::{Called, table};
use crate::document::{Block, Caption, FiguresClosed};
use crate::numbers::Writer;
use crate::picture::bars::{Layout, bars};
use crate::shown::visible;
use maud::{Markup, PreEscaped, html};

/// The blocks in their order, under the title of their section; charts are numbered through the page.
pub(super) fn rendered(blocks: &[Block], section: &str, charts: &mut usize, writer: &Writer) -> Markup {
    let mut caption: Option<&Caption> = None;
    let mut parts: Vec<Markup> = Vec::new();
    for block in blocks {
        let markup = match block {
            // They are at the top.
            Block::Heading(_) | Block::Doubt(_) | Block::Answer(_) | Block::Section(_) | Block::PartEnds => {
                continue;
            }
            Block::Caption(found) => {
                caption = Some(found);
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
            Block::Table(found) => {
                let called = match caption.take() {
                    Some(caption) => {
                        let own = caption.under(section).map(Called::Shown);
                        own.unwrap_or_else(|| Called::Unseen(caption.in_full()))
                    }
                    None => Called::Unseen(section.to_owned()),
                };
                table(found, &called, writer)
            }
            Block::Folding(closed) => html! { p class="folding" { (of_folding(*closed, writer)) } },
            Block::Chart(chart) => {
                *charts += 2;
                let caption = Caption { title: chart.report.clone(), shows: Some(chart.shows.clone()) };
                let title = caption.under(section).unwrap_or_else(|| chart.title());
                html! {
                    figure {
                        figcaption { (visible(&title)) }
                        div class="scroll" tabindex="0" role="region" aria-label=(visible(&title)) {
                            (PreEscaped(bars(chart, Layout::Wide, *charts, writer)))
                            (PreEscaped(bars(chart, Layout::Narrow, *charts + 1, writer)))
                        }
                    }
                }
            }
            Block::Opened { heading, things } => html! {
                div class="boxes" {
                    h3 { (heading) }
                    @for thing in things {
                        details class="box" {
                            summary { (visible(&thing.name)) }
                            (rendered(&thing.blocks, &thing.name, charts, writer))
                        }
                    }
                }
            },
            Block::Months(found) => months(found),
            Block::Workings(all) => workings(all),
        };
        parts.push(markup);
    }
    html! { @for part in parts { (part) } }
}

/// How figures are opened, and how many cannot be.
fn of_folding(closed: FiguresClosed, writer: &Writer) -> String {
    let mut text = "A figure over a dotted line opens to its rows.".to_owned();
    if closed.rows_not_shown > 0 {
        text.push_str(&format!(
            " {} figures of rows that are not in the table do not open.",
            writer.count(closed.rows_not_shown)
        ));
    }
    if closed.no_room > 0 {
        text.push_str(&format!(
            " {} figures do not open, so that the page stays small.",
            writer.count(closed.no_room)
        ));
    }
    text
}
