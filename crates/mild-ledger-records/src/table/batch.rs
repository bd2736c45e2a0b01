//! Rows held as columns of text, as a source gives them.

use arrow_array::{Array, StringArray};
use arrow_buffer::{Buffer, OffsetBuffer};

/// Rows of a file as columns, with where each stood, and the rows between them that are broken.
#[derive(Debug)]
pub(crate) struct Batch {
    /// The texts of each column; none of one that is not kept.
    pub(crate) columns: Vec<StringArray>,
    /// The number of each row among the data rows of the file, from 1, broken ones counted.
    pub(crate) numbers: Vec<u64>,
    /// The line of the file on which each row begins.
    pub(crate) lines: Vec<u64>,
    pub(crate) broken: Vec<BrokenRow>,
}

/// A row whose cells cannot be told apart, or read at all.
#[derive(Debug)]
pub(crate) struct BrokenRow {
    pub(crate) number: u64,
    pub(crate) line: u64,
    pub(crate) fault: RowFault,
    /// Its first cell or so, for the person who looks for it.
    pub(crate) beginning: String,
}

/// Why a row is broken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum RowFault {
    TooManyCells {
        found: u64,
        expected: u64,
    },
    TooFewCells {
        found: u64,
        expected: u64,
    },
    NotUtf8,
    HeaderAgain,
    /// A quote within a cell that does not begin with one, or something behind a closing quote.
    StrayQuote,
    /// A line that is no JSON (RFC 8259), or no object of it.
    NotAnObject,
    /// A list or an object in the place of a value.
    NestedValue,
    /// The same name twice in one object.
    NameTwice,
}

impl Batch {
    pub(crate) fn rows(&self) -> usize {
        self.numbers.len()
    }

    /// The text of a cell; empty for one that there is none of.
    pub(crate) fn text(&self, column: usize, row: usize) -> &str {
        self.columns.get(column).filter(|texts| row < texts.len()).map_or("", |texts| texts.value(row))
    }
}

/// A batch while a source fills it.
#[derive(Debug)]
pub(crate) struct BatchBuilder {
    columns: Vec<TextColumn>,
    kept: Kept,
    numbers: Vec<u64>,
    lines: Vec<u64>,
    broken: Vec<BrokenRow>,
    /// Bytes of text held, which bound the batch.
    bytes: usize,
}

/// The columns whose texts a batch keeps; those of others are read and not kept.
#[derive(Debug, Clone)]
pub(crate) enum Kept {
    All,
    /// Those in these places.
    Only(Vec<usize>),
}

/// The texts of one column while they come.
#[derive(Debug, Default)]
struct TextColumn {
    texts: String,
    /// Where each text ends.
    ends: Vec<i32>,
}

impl TextColumn {
    fn push(&mut self, text: &str) {
        self.texts.push_str(text);
        self.ends.push(i32::try_from(self.texts.len()).unwrap_or(i32::MAX));
    }

    /// The texts so far, and room for as many again.
    fn take(&mut self) -> StringArray {
        let next = Self {
            texts: String::with_capacity(self.texts.len()),
            ends: Vec::with_capacity(self.ends.len()),
        };
        let Self { texts, ends } = std::mem::replace(self, next);
        let lengths = ends.iter().scan(0, |start, end| {
            let length = end - *start;
            *start = *end;
            usize::try_from(length).ok()
        });
        let offsets = OffsetBuffer::from_lengths(lengths);
        // Texts one behind the other are text, and begin and end where texts do.
        StringArray::try_new(offsets, Buffer::from_vec(texts.into_bytes()), None)
            .unwrap_or_else(|_| StringArray::from(Vec::<&str>::new()))
    }
}

/// Bytes that a batch holds at most, but for its last row.
const BATCH_BYTES: usize = 1 << 18;

/// Rows after which a batch is handed on, where each becomes so many cells, so that what is listed of them stays bounded too.
pub(crate) fn rows_of_batch(cells: usize) -> usize {
    const CELLS: usize = 1 << 16;
    const ROWS: usize = 1 << 12;
    (CELLS / cells.max(1)).clamp(64, ROWS)
}

impl BatchBuilder {
    /// For rows of so many cells.
    pub(crate) fn of_columns(count: usize, kept: Kept) -> Self {
        Self {
            columns: (0..count).map(|_| TextColumn::default()).collect(),
            kept,
            numbers: Vec::new(),
            lines: Vec::new(),
            broken: Vec::new(),
            bytes: 0,
        }
    }

    /// Whether it holds as much as a batch should, with so many rows at most.
    pub(crate) fn is_full(&self, rows: usize) -> bool {
        self.bytes >= BATCH_BYTES || self.numbers.len() + self.broken.len() >= rows
    }

    /// Takes a row of as many cells as there are columns, each by its place.
    pub(crate) fn push_row<'t>(&mut self, number: u64, line: u64, cell: impl Fn(usize) -> &'t str) {
        let count = self.columns.len();
        let (columns, bytes) = (&mut self.columns, &mut self.bytes);
        let mut push = |place: usize| {
            if let Some(column) = columns.get_mut(place) {
                let cell = cell(place);
                column.push(cell);
                *bytes += cell.len() + 4;
            }
        };
        match &self.kept {
            Kept::All => (0..count).for_each(push),
            Kept::Only(places) => places.iter().for_each(|place| push(*place)),
        }
        self.numbers.push(number);
        self.lines.push(line);
    }

    pub(crate) fn push_broken(&mut self, row: BrokenRow) {
        self.bytes += 64 + row.beginning.len();
        self.broken.push(row);
    }

    /// The batch, and this builder empty again; `None` where it held no row, broken or whole.
    pub(crate) fn take(&mut self) -> Option<Batch> {
        self.bytes = 0;
        if self.numbers.is_empty() && self.broken.is_empty() {
            return None;
        }
        Some(Batch {
            columns: self.columns.iter_mut().map(TextColumn::take).collect(),
            numbers: std::mem::take(&mut self.numbers),
            lines: std::mem::take(&mut self.lines),
            broken: std::mem::take(&mut self.broken),
        })
    }
}
