//! What is shown, as a list of blocks: made of facts, and rendered by a terminal or whatever else shows it. Texts stand in it
//! as they are; who renders them makes them fit to be shown.

mod between;
mod between_times;
mod run;
mod table;
mod unit_table;

pub(crate) use between::between;
pub(crate) use between_times::between_times;
use mild_ledger::Working;
use mild_ledger_records::{AgingReport, ReportTable};
pub(crate) use run::{answer, mostly_negative, run};
pub(crate) use table::{Table, count_cell};

/// Blocks in their order.
#[derive(Debug, Clone, Default)]
pub(crate) struct Document {
    pub(crate) blocks: Vec<Block>,
}

/// A piece of what is shown.
#[derive(Debug, Clone)]
pub(crate) enum Block {
    Heading(String),
    Paragraph(String),
    /// What makes the figures doubtful.
    Doubt(String),
    /// What was noticed.
    Note(String),
    /// One of several things under a paragraph, and an example of it.
    Item(String),
    Example(String),
    Table(Table),
    /// A table of a report, under its title.
    ReportTable(ReportTable),
    /// The table of an aging, under its title.
    Aging {
        title: String,
        report: Box<AgingReport>,
    },
    /// How figures came about; what all begin with is said once.
    Workings(Vec<Working>),
    /// The end of a part.
    PartEnds,
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
