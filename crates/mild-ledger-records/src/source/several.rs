//! The files of records of a run, one after the other, their columns matched by name.

use super::{
    Blocks, Chunk, ChunkReader, ChunkSize, ColumnType, Piece, Reading, Source, SourceEnd, Survey,
    UnreadColumn, open, open_piece,
};
use crate::error::RecordsError;
use crate::files::{BlockHashes, changed};
use crate::mistakes::nearest;
use crate::table::{Arranged, Batch, ColumnFrom};
use serde::{Deserialize, Serialize};
use std::path::Path;
use std::sync::Arc;

/// Files that are open from the beginning; each one after them is opened again when its turn comes.
const MOST_OPEN: usize = 64;

/// One file of records or more.
pub(crate) struct Sources {
    files: Vec<Box<dyn Source>>,
    /// For each file where the columns come from; nothing for one whose columns are those of the run.
    arranged: Vec<Option<Arranged>>,
    columns: Vec<String>,
    types: Vec<ColumnType>,
    said: Vec<String>,
    /// What may be a mistake in the headers.
    doubts: Vec<String>,
    /// The file that is read.
    current: usize,
    /// The number of the first among all files that are read.
    first: usize,
}

/// The data of the columns of files of records once all of them were opened, so that pieces can be read without doing so again.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct SourcesShape {
    pub(crate) columns: Vec<String>,
    pub(crate) types: Vec<ColumnType>,
    /// Those of each file.
    of_files: Vec<Vec<String>>,
}

/// A file of records by its name and its place.
#[derive(Debug, Clone, Copy)]
pub(crate) struct NamedFile<'f> {
    pub(crate) name: &'f str,
    pub(crate) path: &'f Path,
}

impl Sources {
    /// Opens all of them; a column of this name, where there is one, gets the name of each row's file.
    pub(crate) fn open(
        files: &[NamedFile<'_>],
        reading: &Reading,
        file_column: Option<&str>,
    ) -> Result<Self, RecordsError> {
        let opened = files.iter().enumerate().map(|(source, file)| {
            let mut opened =
                open(file.path, &Reading { source: reading.source + source, ..reading.clone() })?;
            if source >= MOST_OPEN {
                opened.park();
            }
            Ok(opened)
        });
        let opened = opened.collect::<Result<Vec<_>, RecordsError>>()?;
        let mut columns: Vec<String> = Vec::new();
        for name in opened.iter().flat_map(|file| file.columns()) {
            // A file may not have a name twice, so only another file's column is the same.
            if !columns.contains(name) {
                columns.push(name.clone());
            }
        }
        if let [only] = opened.as_slice() {
            columns = only.columns().to_vec();
        }
        if let Some(name) = file_column {
            if columns.iter().any(|column| column == name) {
                let what = format!("the records have a column \"{name}\" already");
                return Err(RecordsError::request(what, "give file_column under [records] another name"));
            }
            columns.push(name.to_owned());
        }
        let (mut said, mut doubts) = (Vec::new(), Vec::new());
        for (file, source) in files.iter().zip(&opened) {
            said.extend(source.said().iter().map(|said| format!("{}: {said}", file.name)));
            let lacks =
                |name: &&String| !source.columns().contains(name) && file_column != Some(name.as_str());
            let lacking: Vec<String> =
                columns.iter().filter(lacks).map(|name| format!("\"{name}\"")).collect();
            // A column of nearly that name is another spelling of it rather than one that the file lacks.
            let of_first = opened.first().map_or(&[][..], |first| first.columns());
            let others =
                || source.columns().iter().filter(|name| !of_first.contains(name)).map(String::as_str);
            for name in columns.iter().filter(lacks) {
                if let Some(near) = nearest(name, others()) {
                    doubts.push(format!(
                        "{} has a column \"{near}\" where the other files have \"{name}\", which is blank in its rows",
                        file.name
                    ));
                }
            }
            if !lacking.is_empty() {
                said.push(format!("{} has no column {}, blank in its rows", file.name, lacking.join(", ")));
            }
        }
        let arranged = files
            .iter()
            .zip(&opened)
            .map(|(file, source)| arranged(&columns, source.columns(), file.name, file_column));
        Ok(Self {
            arranged: arranged.collect(),
            types: types_of(&columns, &opened),
            columns,
            said,
            doubts,
            files: opened,
            current: 0,
            first: reading.source,
        })
    }

    /// The names of the columns: those of the first file, after them what later ones have besides those.
    pub(crate) fn columns(&self) -> &[String] {
        &self.columns
    }

    /// For each column what the formats of all files that have it say that its values are.
    pub(crate) fn types(&self) -> &[ColumnType] {
        &self.types
    }

    /// Columns of any of them that are left out.
    pub(crate) fn unread(&self) -> Vec<UnreadColumn> {
        self.files.iter().flat_map(|file| file.unread()).cloned().collect()
    }

    /// What may be a mistake in the headers of the files.
    pub(crate) fn doubts(&self) -> &[String] {
        &self.doubts
    }

    /// What was done to the files so that they can be read, and what one lacks that another has.
    pub(crate) fn said(&self) -> &[String] {
        &self.said
    }

    pub(crate) fn with_chunks_of(&mut self, size: ChunkSize) {
        self.files.iter_mut().for_each(|file| file.with_chunks_of(size));
    }

    /// The next rows, of the next file where one is at its end.
    pub(crate) fn next_chunk(&mut self) -> Result<Option<Chunk>, RecordsError> {
        while let Some(file) = self.files.get_mut(self.current) {
            if let Some(chunk) = file.next_chunk()? {
                return Ok(Some(chunk));
            }
            // It is at its end, and one that waits may be opened.
            file.park();
            self.current += 1;
        }
        Ok(None)
    }

    /// A reader of the chunks of all files.
    pub(crate) fn chunk_reader(&self) -> Box<dyn ChunkReader> {
        let files = self.files.iter().map(|file| file.chunk_reader());
        let readers = files.zip(self.arranged.iter().cloned()).collect();
        Box::new(SeveralReader { readers, first: self.first })
    }

    pub(crate) fn rows_read(&self) -> u64 {
        self.files.iter().map(|file| file.rows_read()).sum()
    }

    pub(crate) fn bytes_read(&self) -> u64 {
        self.files.iter().map(|file| file.bytes_read()).sum()
    }

    /// The data of their columns.
    pub(crate) fn shape(&self) -> SourcesShape {
        SourcesShape {
            columns: self.columns.clone(),
            types: self.types.clone(),
            of_files: self.files.iter().map(|file| file.columns().to_vec()).collect(),
        }
    }

    /// Where each file can be cut, into pieces of about a number of bytes; `None` for one that cannot be.
    pub(crate) fn survey(self, bytes: usize) -> Result<Vec<Option<Survey>>, RecordsError> {
        self.files.into_iter().map(|file| file.survey(bytes)).collect()
    }

    /// No file.
    pub(crate) fn nothing() -> Self {
        let (files, arranged, columns, types, said) = Default::default();
        Self { files, arranged, columns, types, said, doubts: Vec::new(), current: 0, first: 0 }
    }

    /// A piece of one of several files, whose columns are known.
    pub(crate) fn of_piece(
        files: &[NamedFile<'_>],
        reading: &Reading,
        (shape, file_column): (&SourcesShape, Option<&str>),
        (piece, blocks): (&Piece, &[Arc<BlockHashes>]),
    ) -> Result<Self, RecordsError> {
        let nth = piece.source.checked_sub(reading.source);
        let found = nth.and_then(|nth| Some((files.get(nth)?, shape.of_files.get(nth)?, blocks.get(nth)?)));
        let lacks = || RecordsError::Proof { what: format!("there is no file {}", piece.source) };
        let (file, own, blocks) = found.ok_or_else(lacks)?;
        let blocks = Blocks::Compared(Arc::clone(blocks));
        let reading = Reading { source: piece.source, blocks, ..reading.clone() };
        let opened = open_piece(file.path, &reading, own.clone(), piece)?;
        if opened.columns() != own {
            return Err(changed(file.path));
        }
        Ok(Self {
            files: vec![opened],
            arranged: vec![arranged(&shape.columns, own, file.name, file_column)],
            columns: shape.columns.clone(),
            types: shape.types.clone(),
            said: Vec::new(),
            doubts: Vec::new(),
            current: 0,
            first: piece.source,
        })
    }

    /// The rows read from each file.
    pub(crate) fn finish(self) -> Vec<SourceEnd> {
        self.files.into_iter().map(Source::finish).collect()
    }
}

/// Where the columns of a run come from in a file; nothing for one whose columns are those of the run.
fn arranged(columns: &[String], own: &[String], name: &str, file_column: Option<&str>) -> Option<Arranged> {
    if own == columns {
        return None;
    }
    let from = |column: &String| {
        let place = own.iter().position(|own| own == column);
        match place {
            Some(place) => ColumnFrom::Place(place),
            None if file_column == Some(column.as_str()) => ColumnFrom::Text(Arc::from(name)),
            None => ColumnFrom::Text(Arc::from("")),
        }
    };
    Some(Arranged::new(columns, columns.iter().map(from).collect()))
}

/// What all files that have a column say that its values are.
fn types_of(columns: &[String], files: &[Box<dyn Source>]) -> Vec<ColumnType> {
    if files.iter().all(|file| file.types().is_empty()) {
        return Vec::new();
    }
    let type_of = |column: &String| {
        let of_files = files.iter().filter_map(|file| {
            let place = file.columns().iter().position(|own| own == column)?;
            Some(file.types().get(place).copied().unwrap_or(ColumnType::Text))
        });
        of_files.reduce(ColumnType::and).unwrap_or(ColumnType::Text)
    };
    columns.iter().map(type_of).collect()
}

/// Reads chunks of any of the files.
struct SeveralReader {
    /// The number of the first file.
    first: usize,
    readers: Vec<(Box<dyn ChunkReader>, Option<Arranged>)>,
}

impl ChunkReader for SeveralReader {
    fn read(&mut self, chunk: &Chunk) -> Result<Batch, RecordsError> {
        let nth = chunk.source.checked_sub(self.first);
        let Some((reader, arranged)) = nth.and_then(|nth| self.readers.get_mut(nth)) else {
            return Err(RecordsError::Proof { what: format!("there is no file {}", chunk.source) });
        };
        let batch = reader.read(chunk)?;
        match arranged {
            None => Ok(batch),
            Some(arranged) => batch.arranged(arranged),
        }
    }
}
