//! Where records come from, one folder a format, and the registry of them.

mod by_several;
mod chunk;
mod csv;
mod decoding;
mod file_bytes;
mod file_form;
mod float_text;
mod json_lines;
#[cfg(any(feature = "sqlite", feature = "postgres"))]
mod ordered_query;
mod parquet;
mod piece;
mod postgres;
mod raw_bytes;
mod several;
mod sqlite;
mod stop;
mod text_source;
mod typed_rows;
mod types_met;
mod unpack;
mod workbook;

pub(crate) use by_several::by_several;
pub(crate) use chunk::{Chunk, ChunkReader, ChunkSize, read_chunk};
use decoding::decoded;
pub use decoding::is_decoding;
use file_form::FormPart;
pub(crate) use file_form::{Encoding, FileForm, SheetChoice, Signs, TableChoice};
pub use piece::Piece;
pub(crate) use piece::{PiecePlace, Survey};
use serde::{Deserialize, Serialize};
pub(crate) use several::{NamedFile, Sources, SourcesShape};
pub(crate) use stop::Stop;
pub(crate) use workbook::{Parts, SheetFound, attribute, each_own_row, each_tag};

#[cfg(feature = "postgres")]
#[cfg(test)]
pub(crate) use postgres::server::Server;

use crate::error::RecordsError;
use crate::files::{BlockHashes, Fingerprint, HashKind, OpenedFile, ParkedFile, Remote};
use crate::table::{Kept, TypedDigits};
use raw_bytes::RawBytes;
use std::io::Read;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// A format that records are read from.
pub(crate) struct SourceKind {
    /// How it is called.
    pub(crate) word: &'static str,
    /// How names of its files end, without the dot.
    pub(crate) endings: &'static [&'static str],
    /// How addresses of it begin, where it is a server.
    schemes: &'static [&'static str],
    /// What a plan can say of how its files are written.
    takes: &'static [FormPart],
    /// How a file, or a part of it, seems to be written, from how it begins.
    form_of: fn(&Path, Option<&str>) -> Result<FileForm, RecordsError>,
    /// Opens a file of records.
    open: fn(&Path, &Reading) -> Opened,
    /// Opens a file that this program wrote.
    open_own: fn(OwnFile) -> Opened,
    /// Opens a piece of a file whose columns are known, that is not all of it; `None` for a format that is read as a whole alone.
    open_piece: Option<OpenPiece>,
}

/// How a file of records is read.
#[derive(Debug, Clone)]
pub(crate) struct Reading {
    /// The number of the file among the files of records.
    pub(crate) source: usize,
    /// The most bytes of a cell.
    pub(crate) longest_cell: usize,
    /// What its bytes are hashed by.
    pub(crate) hash: HashKind,
    /// What becomes of its bytes block by block.
    pub(crate) blocks: Blocks,
    /// How it is written.
    pub(crate) form: FileForm,
    /// Who reads it where it is at an address.
    pub(crate) remote: Remote,
    /// Asked where the run is interrupted, for readers that may wait long.
    #[cfg_attr(
        not(any(feature = "sqlite", feature = "postgres")),
        expect(dead_code, reason = "only readers of databases wait long for their next row")
    )]
    pub(crate) stop: Stop,
}

impl Reading {
    /// Opens a file.
    fn opened(&self, path: &Path) -> Result<OpenedFile, RecordsError> {
        let file = OpenedFile::open(path, &self.remote)?;
        match &self.blocks {
            Blocks::Compared(hashes) => file.compared(path, hashes),
            Blocks::NotHashed | Blocks::Hashed => Ok(file),
        }
    }

    /// The bytes of a file, hashed as they go by.
    fn raw_bytes(&self, path: &Path) -> Result<RawBytes, RecordsError> {
        let file = self.opened(path)?;
        // Compared blocks are held by their reader, which a file that is opened again would not have.
        let raw = match self.blocks {
            Blocks::Compared(_) => RawBytes::new(Box::new(file), self.hash),
            Blocks::NotHashed | Blocks::Hashed => {
                RawBytes::of_records(ParkedFile::of(path, &self.remote, file)?, self.hash)
            }
        };
        Ok(if matches!(self.blocks, Blocks::Hashed) { raw.with_blocks() } else { raw })
    }
}

/// What becomes of the blocks of a file, which one process may hash and others read.
#[derive(Debug, Clone, Default)]
pub(crate) enum Blocks {
    /// One reads the file, and no one else.
    #[default]
    NotHashed,
    /// They are hashed as they go by.
    Hashed,
    /// They must have these hashes.
    Compared(Arc<BlockHashes>),
}

/// A file that this program writes, to be read back from its first byte.
pub(crate) struct OwnFile {
    /// Where it is, for messages.
    pub(crate) path: PathBuf,
    pub(crate) input: Box<dyn Read + Send>,
    /// The columns that it was begun with.
    pub(crate) columns: Vec<String>,
    /// What is between the cells of a file of text.
    pub(crate) signs: Signs,
    /// The table of a database.
    #[cfg_attr(not(feature = "sqlite"), allow(dead_code))] // nobody else has tables
    pub(crate) table: String,
    /// Those of them whose texts are wanted.
    pub(crate) kept: Kept,
    pub(crate) hash: HashKind,
}

type Opened = Result<Box<dyn Source>, RecordsError>;

/// Opens a piece of a file with these columns.
type OpenPiece = fn(&Path, &Reading, Vec<String>, &Piece) -> Opened;

/// How names of packed files end.
const PACKED: [&str; 2] = ["gz", "zst"];

/// Every format that is read; a file whose ending none of them has is taken for the first.
pub(crate) const KINDS: [&SourceKind; 6] =
    [&csv::KIND, &json_lines::KIND, &workbook::KIND, &parquet::KIND, &sqlite::KIND, &postgres::KIND];

/// Records in the order of their rows, cut into chunks at the ends of rows by one, and read by several.
pub(crate) trait Source: Send {
    /// The names of the columns, without spaces around them.
    fn columns(&self) -> &[String];

    /// Bounds the chunks.
    fn with_chunks_of(&mut self, size: ChunkSize);

    /// The next rows, not looked into further than to where each ends; `None` after the last.
    fn next_chunk(&mut self) -> Result<Option<Chunk>, RecordsError>;

    /// A reader of its chunks.
    fn chunk_reader(&self) -> Box<dyn ChunkReader>;

    /// What was done to the file so that it can be read, such as unpacking it, in words.
    fn said(&self) -> &[String];

    /// For each column what the format itself says that its values are; nothing where it types no cells.
    fn types(&self) -> &[ColumnType] {
        &[]
    }

    /// Columns that are not read, since nothing here has values of their type.
    fn unread(&self) -> &[UnreadColumn] {
        &[]
    }

    /// Rows met so far, broken ones counted.
    fn rows_read(&self) -> u64;

    /// Bytes of the file read so far.
    fn bytes_read(&self) -> u64;

    /// Closes the file until it is read on, where it is kept open.
    fn park(&mut self) {}

    /// What all that was read comes to.
    fn finish(self: Box<Self>) -> SourceEnd;

    /// Where the file can be cut into pieces of about a number of bytes each, in place of its rows; `None` where it cannot be.
    fn survey(self: Box<Self>, _bytes: usize) -> Result<Option<Survey>, RecordsError> {
        Ok(None)
    }
}

/// A column of a file that is left out.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct UnreadColumn {
    pub(crate) name: String,
    /// What it holds, as the format calls that.
    pub(crate) holds: String,
}

/// What a format says that all values of a column are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) enum ColumnType {
    /// Nothing: all of them are blank.
    Nothing,
    /// Texts, or of several types.
    Text,
    /// Numbers, none of which has more digits than that; nothing where the format does not say.
    Numbers(Option<TypedDigits>),
    /// Dates without a time of day, but for midnight.
    Dates,
    DateTimes,
}

impl ColumnType {
    /// What values are of which some are this and others that.
    fn and(self, other: Self) -> Self {
        match (self, other) {
            (one, other) if one == other => one,
            (Self::Nothing, other) | (other, Self::Nothing) => other,
            (Self::Numbers(one), Self::Numbers(other)) => {
                Self::Numbers(one.zip(other).map(|(one, other)| one.and(other)))
            }
            (Self::Dates, Self::DateTimes) | (Self::DateTimes, Self::Dates) => Self::DateTimes,
            _ => Self::Text,
        }
    }
}

/// What a source read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct SourceEnd {
    pub(crate) rows: u64,
    /// The quick sum of its bytes.
    pub(crate) checksum: u64,
    pub(crate) fingerprint: Fingerprint,
}

/// Opens a file of records in the format that its name's ending tells; one of another kind is called what it is.
pub(crate) fn open(path: &Path, reading: &Reading) -> Opened {
    let kind = SourceKind::of(path);
    // A setting of a plan without effect is a mistake of the plan, or of the name of the file.
    if let Some(part) = reading.form.parts().find(|part| !kind.takes.contains(part)) {
        let what = format!(
            "{} under [records] is set for {}, which is read as {}",
            part.keys(),
            path.display(),
            kind.word
        );
        return Err(RecordsError::request(what, "leave it out, or name another file"));
    }
    decoded(path, || (kind.open)(path, reading))
}

/// Opens a piece of a file of records whose columns are known.
pub(crate) fn open_piece(path: &Path, reading: &Reading, columns: Vec<String>, piece: &Piece) -> Opened {
    let kind = SourceKind::of(path);
    match (kind.open_piece, &piece.place) {
        (_, PiecePlace::WholeFile) => decoded(path, || (kind.open)(path, reading)),
        (Some(open_piece), _) => decoded(path, || open_piece(path, reading, columns, piece)),
        (None, _) => Err(RecordsError::Proof { what: format!("{} is not read in pieces", path.display()) }),
    }
}

/// The name of what a file holds that is never written by this program, by the ending of its name; `None` for what is.
pub(crate) fn not_written(path: &Path, written: &[&str]) -> Option<&'static str> {
    const OTHERS: [(&str, &str); 7] = [
        ("ods", "a workbook of the form .ods"),
        ("xlsm", "a workbook with programs in it"),
        ("gz", "a file packed with gzip"),
        ("zst", "a file packed with zstd"),
        ("zip", "an archive"),
        ("xls", "a workbook"),
        ("pdf", "a PDF"),
    ];
    let ending = path.extension()?.to_string_lossy().to_lowercase();
    let other = OTHERS.into_iter().find(|(other, _)| *other == ending).map(|(_, name)| name);
    let read_only = KINDS
        .into_iter()
        .find(|kind| kind.endings.contains(&ending.as_str()) && !written.contains(&kind.word));
    other.or(read_only.map(|kind| kind.word))
}

impl SourceKind {
    /// Whether its files can be read in pieces.
    pub(crate) fn has_pieces(&self) -> bool {
        self.open_piece.is_some()
    }

    /// Whether its files have sheets, whose rows people know by their numbers.
    pub(crate) fn has_sheets(&self) -> bool {
        self.takes.contains(&FormPart::Sheet)
    }

    /// How the text of a file, or of a part of it by its name, seems to be written, from how it begins. Only who looks at a file asks.
    pub(crate) fn form_of(&self, path: &Path, part: Option<&str>) -> Result<FileForm, RecordsError> {
        let has_parts = [FormPart::Sheet, FormPart::Table].iter().any(|part| self.takes.contains(part));
        if part.is_some() && !has_parts {
            let what =
                format!("{} is read as {}, which has no sheets and no tables", path.display(), self.word);
            return Err(RecordsError::request(what, "leave the name of the part out"));
        }
        decoded(path, || (self.form_of)(path, part))
    }

    /// Opens a file that this program wrote.
    pub(crate) fn open_own(&self, file: OwnFile) -> Opened {
        let path = file.path.clone();
        decoded(&path, || (self.open_own)(file))
    }

    /// The kind with this name; there is one for each that is written.
    pub(crate) fn named(word: &str) -> &'static Self {
        KINDS.into_iter().find(|kind| kind.word == word).unwrap_or(&csv::KIND)
    }

    /// Whether a name is the address of a server.
    pub(crate) fn is_address(name: &str) -> bool {
        Self::of_address(name).is_some()
    }

    /// Refuses an address that holds a password, which would be shown with it.
    pub(crate) fn check_no_password(address: &str) -> Result<(), RecordsError> {
        if !Self::has_password(address) {
            return Ok(());
        }
        Err(RecordsError::request(
            "the address of the server holds a password, and is not used",
            "leave it out; PGPASSWORD or a password file (~/.pgpass) has it",
        ))
    }

    fn has_password(address: &str) -> bool {
        let Some((_, rest)) = address.split_once("://") else { return false };
        let (place, settings) = rest.split_once('?').unwrap_or((rest, ""));
        // A password may hold any character, an at sign and a question mark among them.
        let user = rest.rsplit_once('@').or_else(|| place.rsplit_once('@')).map_or("", |(user, _)| user);
        user.contains(':') || settings.to_lowercase().contains("password")
    }

    fn of_address(name: &str) -> Option<&'static Self> {
        let (scheme, _) = name.split_once("://")?;
        KINDS.into_iter().find(|kind| kind.schemes.contains(&scheme))
    }

    /// Whether a name ends as one of the formats has it; what ends otherwise is taken for CSV only where it is named.
    pub(crate) fn is_named_so(path: &Path) -> bool {
        let ending = inside_of(path).extension().map(|ending| ending.to_string_lossy().to_lowercase());
        ending.is_some_and(|ending| KINDS.iter().any(|kind| kind.endings.contains(&ending.as_str())))
    }

    /// The kind of file that a name's ending tells, or of server that an address does.
    pub(crate) fn of(path: &Path) -> &'static Self {
        if let Some(server) = path.to_str().and_then(Self::of_address) {
            return server;
        }
        let ending = inside_of(path).extension().map(|ending| ending.to_string_lossy().to_lowercase());
        let has = |kind: &&Self| ending.as_deref().is_some_and(|ending| kind.endings.contains(&ending));
        KINDS.into_iter().find(has).unwrap_or(&csv::KIND)
    }
}

/// What a packed file holds, which comes before the ending of the packing.
fn inside_of(path: &Path) -> &Path {
    match path.extension() {
        Some(ending) if PACKED.iter().any(|packed| ending.eq_ignore_ascii_case(packed)) => {
            Path::new(path.file_stem().unwrap_or_default())
        }
        _ => path,
    }
}
