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
pub(crate) use run::{FileNames, answer_lines, brief, lines_of_answer, mostly_negative, one_line, run};
pub(crate) use shipped_calendars::shipped_calendars;
pub(crate) use sources::sources;
pub(crate) use table::{Cell, Column, Holds, Narrowing, Table};
pub(crate) use two_calendars::two_calendars;
pub(crate) use verified::verified;
pub(crate) use work_years::{holidays, work_years, year_grid};

/// Blocks in their order.
#[derive(Debug, Clone, Default)]
pub(crate) struct Document {
    pub(crate) blocks: Vec<Block>,
}

/// A piece of a document.
#[derive(Debug, Clone)]
pub(crate) enum Block {
    Heading(String),
    /// The beginning of a part that people look for by its name. A terminal leaves it to the content.
    Section(String),
    Paragraph(String),
    /// The caption of the next table.
    Caption(String),
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
    /// The figures of a table as lengths; a terminal leaves them to the table.
    Chart(Chart),
    /// Figures under a heading, each with its rows. A renderer without folding leaves them out.
    Opened {
        heading: &'static str,
        figures: Vec<Opened>,
        /// How many more there are for which a file has no room.
        left_out: usize,
    },
    /// Months with each day marked, and what the marks mean.
    Months(MarkedMonths),
    /// The working of figures; a common beginning is printed once.
    Workings(Vec<Working>),
    /// The end of a part.
    PartEnds,
}

/// A figure that can be opened.
#[derive(Debug, Clone)]
pub(crate) struct Opened {
    /// What it is of, and how much.
    pub(crate) said: String,
    /// Its rows.
    pub(crate) rows: Option<Table>,
    /// How many more there are.
    pub(crate) more: u64,
    /// What else is to be seen.
    pub(crate) then: Vec<Block>,
}

impl Document {
    pub(crate) fn push(&mut self, block: Block) {
        self.blocks.push(block);
    }

    pub(crate) fn paragraph(&mut self, text: impl Into<String>) {
        self.push(Block::Paragraph(text.into()));
    }

    pub(crate) fn end_part(&mut self) {
        self.push(Block::PartEnds);
    }
}
