//! Rows of a format that types its cells, read by a thread of their own.

use super::decoding::decoded;
use super::{
    Chunk, ChunkReader, ChunkSize, ColumnType, Piece, PiecePlace, Reading, Source, SourceEnd, Stop, Survey,
    UnreadColumn,
};
use crate::error::RecordsError;
use crate::files::{BlockHashes, Fingerprint};
use crate::source::raw_bytes::{BytesEnd, RawBytes};
use crate::table::{Batch, BatchBuilder, BrokenRow, CellType, Kept, RowFault, TypedCell, pack, unpack};
use std::io;
use std::ops::ControlFlow;
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, RecvTimeoutError, SyncSender, sync_channel};
use std::thread::Builder;
use std::time::Duration;

/// How long a reader waits for rows before it looks whether it is to stop.
const EACH_WAIT: Duration = Duration::from_millis(50);

/// A table of typed cells, as far as it is known before its rows are read.
pub(super) struct TypedTable {
    /// The number of the file among all that are read.
    pub(super) source: usize,
    pub(super) path: PathBuf,
    pub(super) columns: Vec<String>,
    pub(super) types: Vec<ColumnType>,
    /// Columns that are left out.
    pub(super) unread: Vec<UnreadColumn>,
    pub(super) said: Vec<String>,
    pub(super) longest_cell: usize,
    pub(super) file: WholeFile,
    /// Rows and bytes of the groups that the format keeps apart, where it does.
    pub(super) groups: Option<Vec<(u64, u64)>>,
    /// The number of its first row.
    pub(super) first_row: u64,
}

impl TypedTable {
    /// A file that this program wrote, whose columns are found to be those that it was begun with.
    pub(super) fn of_own(
        path: PathBuf,
        (found, columns): (&[String], Vec<String>),
        file: WholeFile,
    ) -> Result<Self, RecordsError> {
        if found != columns {
            let what = format!("the columns of {} are not those that were written", path.display());
            return Err(RecordsError::Proof { what });
        }
        let (types, said) = (Vec::new(), Vec::new());
        Ok(Self {
            source: 0,
            path,
            columns,
            types,
            unread: Vec::new(),
            said,
            longest_cell: usize::MAX,
            file,
            groups: None,
            first_row: 1,
        })
    }
}

/// A file that was read once from its first byte to its last.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct WholeFile {
    pub(super) bytes: u64,
    pub(super) checksum: u64,
    pub(super) fingerprint: Fingerprint,
    blocks: BlockHashes,
}

impl WholeFile {
    pub(super) fn read(path: &Path, reading: &Reading) -> Result<Self, RecordsError> {
        Self::of(path, reading.raw_bytes(path)?)
    }

    /// One of which a part is read alone.
    #[cfg(feature = "parquet")]
    pub(super) fn not_read() -> Self {
        let fingerprint = Fingerprint { bytes: 0, hash: String::new() };
        Self { bytes: 0, checksum: 0, fingerprint, blocks: BlockHashes::default() }
    }

    /// Of bytes that come from elsewhere.
    pub(super) fn of(path: &Path, mut raw: RawBytes) -> Result<Self, RecordsError> {
        io::copy(&mut raw, &mut io::sink()).map_err(RecordsError::file(path, "read it"))?;
        let (bytes, BytesEnd { checksum, fingerprint, blocks }) = (raw.count(), raw.finish());
        Ok(Self { bytes, checksum, fingerprint, blocks })
    }
}

/// Takes a row with its line, or its number where there are no lines; breaks off where no one wants more.
pub(super) type TakeRow<'t> = &'t mut dyn FnMut(u64, &[TypedCell]) -> ControlFlow<()>;

/// Reads all rows and gives each to who takes them.
pub(super) type ReadRows = Box<dyn FnOnce(TakeRow<'_>) -> Result<(), RecordsError> + Send>;

/// The rows of a table.
pub(super) struct TypedRows {
    table: TypedTable,
    size: ChunkSize,
    /// Who reads the rows, until the first chunk is asked for.
    read: Option<ReadRows>,
    /// From whom the chunks come then.
    chunks: Option<Receiver<Sent>>,
    stop: Stop,
    is_at_end: bool,
    rows_read: u64,
}

/// A chunk; none at the end; or what went wrong.
type Sent = Result<Option<Chunk>, RecordsError>;

impl TypedRows {
    pub(super) fn new(table: TypedTable, read: ReadRows) -> Self {
        Self {
            table,
            size: ChunkSize::of_rows_with(1),
            read: Some(read),
            chunks: None,
            stop: Stop::default(),
            is_at_end: false,
            rows_read: 0,
        }
    }

    /// Begins to read, by a thread that ends where no one wants more.
    /// The same rows, whose wait for the next one ends where reading is to stop.
    #[cfg(feature = "sqlite")]
    pub(super) fn stopped_by(self, stop: Stop) -> Self {
        Self { stop, ..self }
    }

    fn begin(&mut self, read: ReadRows) -> Result<Receiver<Sent>, RecordsError> {
        let (give, chunks) = sync_channel(2);
        let filler = Filler {
            path: self.table.path.clone(),
            size: self.size,
            longest_cell: self.table.longest_cell,
            chunk: Chunk {
                source: self.table.source,
                bytes: Vec::new(),
                first_row: self.table.first_row,
                first_line: self.table.first_row,
                rows: 0,
            },
        };
        let thread = Builder::new().name("rows".to_owned()).spawn(move || filler.fill(read, &give));
        thread.map(|_| chunks).map_err(|error| RecordsError::no_thread(&error))
    }
}

impl Source for TypedRows {
    fn columns(&self) -> &[String] {
        &self.table.columns
    }

    fn with_chunks_of(&mut self, size: ChunkSize) {
        self.size = size;
    }

    fn next_chunk(&mut self) -> Result<Option<Chunk>, RecordsError> {
        if let Some(read) = self.read.take() {
            self.chunks = Some(self.begin(read)?);
        }
        if self.is_at_end {
            return Ok(None);
        }
        // The reader of the rows states their end; a reader that has stopped before is not an end.
        let stopped = || RecordsError::Proof { what: "the thread that reads the rows stopped".to_owned() };
        let chunks = self.chunks.as_ref().ok_or_else(stopped)?;
        let sent = loop {
            match chunks.recv_timeout(EACH_WAIT) {
                Ok(sent) => break sent,
                Err(RecvTimeoutError::Timeout) => self.stop.check()?,
                Err(RecvTimeoutError::Disconnected) => return Err(stopped()),
            }
        };
        let chunk = sent?;
        self.is_at_end = chunk.is_none();
        self.rows_read += chunk.as_ref().map_or(0, |chunk| chunk.rows);
        Ok(chunk)
    }

    fn chunk_reader(&self) -> Box<dyn ChunkReader> {
        let columns = &self.table.columns;
        Box::new(PackedRows { columns: columns.len(), batch: BatchBuilder::of_columns(columns, Kept::All) })
    }

    fn said(&self) -> &[String] {
        &self.table.said
    }

    fn types(&self) -> &[ColumnType] {
        &self.table.types
    }

    fn unread(&self) -> &[UnreadColumn] {
        &self.table.unread
    }

    fn rows_read(&self) -> u64 {
        self.rows_read
    }

    /// The file is hashed before its rows come, of which no one knows how many bytes each is.
    fn bytes_read(&self) -> u64 {
        if self.is_at_end { self.table.file.bytes } else { 0 }
    }

    fn finish(self: Box<Self>) -> SourceEnd {
        let WholeFile { checksum, fingerprint, .. } = self.table.file;
        SourceEnd { rows: self.rows_read, checksum, fingerprint }
    }

    fn survey(self: Box<Self>, bytes: usize) -> Result<Option<Survey>, RecordsError> {
        let TypedTable { source, groups, file, .. } = self.table;
        let Some(groups) = groups else { return Ok(None) };
        let (mut pieces, mut first_row) = (Vec::new(), 1);
        let (mut first, mut rows, mut held) = (0, 0, 0);
        for (nth, (rows_of_group, bytes_of_group)) in groups.iter().enumerate() {
            (rows, held) = (rows + rows_of_group, held + bytes_of_group);
            if held < bytes as u64 && nth + 1 < groups.len() {
                continue;
            }
            let place = PiecePlace::Groups { first, count: nth + 1 - first };
            if rows > 0 {
                pieces.push(Piece { source, first_row, rows, place });
            }
            (first_row, first, rows, held) = (first_row + rows, nth + 1, 0, 0);
        }
        let WholeFile { checksum, fingerprint, blocks, .. } = file;
        let end = SourceEnd { rows: first_row - 1, checksum, fingerprint };
        Ok(Some(Survey { pieces, end, blocks }))
    }
}

/// Who puts rows into chunks.
struct Filler {
    path: PathBuf,
    size: ChunkSize,
    longest_cell: usize,
    /// The chunk that is filled.
    chunk: Chunk,
}

impl Filler {
    /// Puts all rows into chunks, unless no one wants more.
    fn fill(mut self, read: ReadRows, give: &SyncSender<Sent>) {
        let (path, mut fault) = (self.path.clone(), None);
        let mut take = |line, cells: &[TypedCell]| match self.take(line, cells, give) {
            Ok(flow) => flow,
            Err(error) => {
                fault = Some(error);
                ControlFlow::Break(())
            }
        };
        let read = decoded(&path, || read(&mut take));
        let rest = match (read, fault) {
            (Err(error), _) | (Ok(()), Some(error)) => Err(error),
            (Ok(()), None) => Ok((self.chunk.rows > 0).then_some(self.chunk)),
        };
        // Nothing listens where the other side has gone.
        let is_more = matches!(rest, Ok(Some(_)));
        if give.send(rest).is_ok() && is_more {
            let _ = give.send(Ok(None));
        }
    }

    fn take(
        &mut self,
        line: u64,
        cells: &[TypedCell],
        give: &SyncSender<Sent>,
    ) -> Result<ControlFlow<()>, RecordsError> {
        if cells.iter().any(|cell| cell.text.len() > self.longest_cell) {
            return Err(RecordsError::BrokenFile {
                path: self.path.clone(),
                line,
                what: format!("a cell of this row is longer than {} bytes", self.longest_cell),
                help: "raise longest_cell under [records], if it is right".to_owned(),
            });
        }
        if self.chunk.rows == 0 {
            self.chunk.first_line = line;
        }
        pack(line, cells, &mut self.chunk.bytes);
        self.chunk.rows += 1;
        if self.chunk.rows < self.size.rows && self.chunk.bytes.len() < self.size.bytes {
            return Ok(ControlFlow::Continue(()));
        }
        let next = Chunk {
            source: self.chunk.source,
            bytes: Vec::new(),
            first_row: self.chunk.first_row + self.chunk.rows,
            first_line: line,
            rows: 0,
        };
        let full = std::mem::replace(&mut self.chunk, next);
        Ok(if give.send(Ok(Some(full))).is_ok() { ControlFlow::Continue(()) } else { ControlFlow::Break(()) })
    }
}

/// Tells the cells of packed rows apart.
struct PackedRows {
    columns: usize,
    batch: BatchBuilder,
}

impl ChunkReader for PackedRows {
    fn read(&mut self, chunk: &Chunk) -> Result<Batch, RecordsError> {
        let mut rest = chunk.bytes.as_slice();
        for number in chunk.numbers() {
            let Some(row) = unpack(rest) else { break };
            rest = row.rest;
            let (found, expected) = (row.cells.len() as u64, self.columns as u64);
            if found > expected {
                let cells: Vec<&str> = row.cells.iter().take(3).map(|(_, text)| *text).collect();
                let beginning = format!("{}, …", cells.join(", "));
                let fault = RowFault::TooManyCells { found, expected };
                self.batch.push_broken(BrokenRow { number, line: row.line, fault, beginning });
                continue;
            }
            // Cells after the last one that holds something are blank.
            let cell = |nth: usize| row.cells.get(nth).copied().unwrap_or((CellType::Text, ""));
            self.batch.push_typed_row(number, row.line, cell);
        }
        self.batch.take()
    }
}
