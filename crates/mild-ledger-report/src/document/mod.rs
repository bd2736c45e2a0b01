//! An answer as a list of blocks, made of facts and shown by the renderers. Texts are as they are in the records; each renderer
//! makes them safe to show.

mod between;
mod between_times;
mod check;
mod compared;
mod due;
mod explained;
mod look;
mod moved;
mod periods;
mod report_table;
mod run;
mod shipped_calendars;
mod sources;
mod table;
mod two_calendars;
mod unit_table;
mod verified;
mod work_years;
mod working_days;

use crate::facts::{Chart, MarkedMonths};
use crate::numbers::Writer;
pub(crate) use between::between;
pub(crate) use between_times::between_times;
pub(crate) use check::{answer as check_answer, check};
pub(crate) use due::due;
pub(crate) use explained::explained;
pub(crate) use look::look;
use mild_ledger::Working;
pub(crate) use moved::moved;
pub(crate) use periods::periods;
pub use run::RunDetail;
pub(crate) use run::{
    FileNames, answer_lines, brief, lines_of_answer, mostly_negative, one_line, run, with_columns,
};
pub(crate) use shipped_calendars::shipped_calendars;
pub(crate) use sources::sources;
pub(crate) use table::{Cell, CellPlace, Column, Holds, Narrowing, OpenedRows, Table};
pub(crate) use two_calendars::two_calendars;
pub(crate) use verified::verified;
pub(crate) use work_years::{holidays, work_years, year_grid};

/// Blocks in their order.
#[derive(Debug, Clone, Default)]
pub(crate) struct Document {
    pub(crate) blocks: Vec<Block>,
    /// How its numbers and dates are written.
    pub(crate) writer: Writer,
}

/// A piece of a document.
#[derive(Debug, Clone)]
pub(crate) enum Block {
    Heading(String),
    /// The beginning of a part that people look for by its name. A terminal leaves it to the content.
    Section(Section),
    Paragraph(String),
    /// The caption of the next table.
    Caption(Caption),
    /// The whole answer in its parts: a line each, or one line with semicolons.
    Answer(Vec<String>),
    /// What makes the figures doubtful.
    Doubt(String),
    /// What was noticed.
    Note(String),
    /// One of several things under a paragraph, and an example of it.
    Item(String),
    Example(String),
    /// One of a numbered list, with its number and how many there are.
    Numbered {
        number: usize,
        of: usize,
        text: String,
    },
    /// A step of the working of the block before.
    Step(String),
    Table(Table),
    /// That figures of the table before can be opened, and how many cannot.
    Folding(FiguresClosed),
    /// The figures of a table as lengths; a terminal leaves them to the table.
    Chart(Chart),
    /// Things under a heading, each of which may be opened. A renderer without folding leaves them out.
    Opened {
        heading: &'static str,
        things: Vec<Opened>,
    },
    /// Months with each day marked, and what the marks mean.
    Months(MarkedMonths),
    /// The working of figures; a common beginning is printed once.
    Workings(Vec<Working>),
    /// The end of a part.
    PartEnds,
}

/// A part of a document.
#[derive(Debug, Clone)]
pub(crate) struct Section {
    pub(crate) title: String,
    pub(crate) about: About,
}

/// The blocks of a section; those before the first have none.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Part<'d> {
    pub(crate) section: Option<&'d Section>,
    pub(crate) blocks: &'d [Block],
}

impl<'d> Part<'d> {
    pub(crate) fn title(&self) -> &'d str {
        self.section.map_or("", |section| &section.title)
    }
}

/// What a part is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum About {
    /// Figures to report.
    Figures,
    /// How they were reached, and what there is to check.
    Checks,
}

/// What a table is called.
#[derive(Debug, Clone)]
pub(crate) struct Caption {
    /// That of its report, which may be above it already.
    pub(crate) title: String,
    /// What it shows, where the title does not say that.
    pub(crate) shows: Option<String>,
}

impl Caption {
    /// Where no title is above it.
    pub(crate) fn in_full(&self) -> String {
        match &self.shows {
            Some(shows) => format!("{}: {shows}", self.title),
            None => self.title.clone(),
        }
    }

    /// Under the title of its section, which is not repeated; nothing where that says all.
    pub(crate) fn under(&self, section: &str) -> Option<String> {
        let own = match self.title.strip_prefix(section) {
            Some(own) => own.trim_start_matches([',', ' ']),
            None => self.title.as_str(),
        };
        match (own.is_empty(), &self.shows) {
            (true, shows) => shows.as_deref().map(sentence),
            (false, Some(shows)) => Some(format!("{own}: {shows}")),
            (false, None) => Some(own.to_owned()),
        }
    }
}

/// A text with a capital at its start.
pub(crate) fn sentence(text: &str) -> String {
    let mut signs = text.chars();
    signs.next().map_or_else(String::new, |first| first.to_uppercase().chain(signs).collect())
}

/// The figures of a table that cannot be opened, by why.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct FiguresClosed {
    /// Their rows are not in the table.
    pub(crate) rows_not_shown: usize,
    /// The file would become too large.
    pub(crate) no_room: usize,
}

/// What can be opened.
#[derive(Debug, Clone)]
pub(crate) struct Opened {
    pub(crate) name: String,
    pub(crate) blocks: Vec<Block>,
}

impl Document {
    pub(crate) fn push(&mut self, block: Block) {
        self.blocks.push(block);
    }

    pub(crate) fn paragraph(&mut self, text: impl Into<String>) {
        self.push(Block::Paragraph(text.into()));
    }

    fn figures(&mut self, title: &str) {
        self.push(Block::Section(Section { title: title.to_owned(), about: About::Figures }));
    }

    fn checks(&mut self, title: &str) {
        self.push(Block::Section(Section { title: title.to_owned(), about: About::Checks }));
    }

    /// Its parts in their order: the blocks before the first section, then each section with its own.
    pub(crate) fn parts(&self) -> Vec<Part<'_>> {
        let begins = |block: &Block| matches!(block, Block::Section(_));
        let mut parts: Vec<Part<'_>> = Vec::new();
        let mut rest = self.blocks.as_slice();
        let mut section = None;
        loop {
            let end = rest.iter().position(begins).unwrap_or(rest.len());
            let (blocks, after) = rest.split_at(end);
            parts.push(Part { section, blocks });
            let Some((Block::Section(next), after)) = after.split_first() else { return parts };
            (section, rest) = (Some(next), after);
        }
    }

    pub(crate) fn end_part(&mut self) {
        self.push(Block::PartEnds);
    }
}
