//! The parts of a workbook, which is an archive of them.

use crate::error::RecordsError;
use quick_xml::Reader;
use quick_xml::events::Event;
use std::fs::File;
use std::io::{self, BufReader, Read};
use std::path::{Path, PathBuf};
use zip::ZipArchive;
use zip::read::ZipFile;
use zip::result::ZipError;

/// The parts of a workbook.
pub(crate) struct Parts {
    path: PathBuf,
    archive: ZipArchive<File>,
}

impl Parts {
    pub(crate) fn open(path: &Path) -> Result<Self, RecordsError> {
        let file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
        let archive = ZipArchive::new(file).map_err(|error| failed(path, &error))?;
        Ok(Self { path: path.to_owned(), archive })
    }

    pub(crate) fn count(&self) -> usize {
        self.archive.len()
    }

    /// The name of a part, and its bytes as they are unpacked.
    pub(crate) fn part(&mut self, nth: usize) -> Result<(String, impl Read + '_), RecordsError> {
        let Self { path, archive } = self;
        let part = archive.by_index(nth).map_err(|error| failed(path, &error))?;
        let name = part.name().map_err(|error| failed(path, &error))?.into_owned();
        Ok((name, part))
    }

    /// Whether there is a part with a name.
    pub(crate) fn has(&self, name: &str) -> bool {
        self.archive.index_for_name(name).is_some()
    }

    /// A part as it is packed, to be copied.
    pub(crate) fn packed(&mut self, nth: usize) -> Result<ZipFile<'_, File>, RecordsError> {
        let Self { path, archive } = self;
        archive.by_index_raw(nth).map_err(|error| failed(path, &error))
    }

    /// The bytes of the part with a name.
    pub(crate) fn named(&mut self, name: &str) -> Result<impl Read + '_, RecordsError> {
        let Self { path, archive } = self;
        archive.by_name(name).map_err(|error| failed(path, &error))
    }
}

/// The rows of the sheet of a workbook of our own, its header among them, by the tags that they begin with.
pub(super) fn rows_written(path: &Path) -> Result<u64, RecordsError> {
    let mut parts = Parts::open(path)?;
    let mut xml = Reader::from_reader(BufReader::new(parts.named("xl/worksheets/sheet1.xml")?));
    let (mut rows, mut buffer) = (0, Vec::new());
    loop {
        buffer.clear();
        let event = xml.read_event_into(&mut buffer);
        match event.map_err(|error| RecordsError::Proof { what: error.to_string() })? {
            Event::Start(tag) | Event::Empty(tag) if tag.local_name().as_ref() == "row" => rows += 1,
            Event::Eof => return Ok(rows),
            _ => {}
        }
    }
}

fn failed(path: &Path, error: &ZipError) -> RecordsError {
    let what = format!("it is not a workbook that can be unpacked: {}", error.to_string().trim());
    RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
}
