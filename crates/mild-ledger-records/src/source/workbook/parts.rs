//! The parts of a workbook, which is an archive of them.

use crate::error::RecordsError;
use std::fs::File;
use std::io::{self, Read};
use std::path::{Path, PathBuf};
use zip::ZipArchive;
use zip::result::ZipError;

/// The parts of a workbook.
pub(super) struct Parts {
    path: PathBuf,
    archive: ZipArchive<File>,
}

impl Parts {
    pub(super) fn open(path: &Path) -> Result<Self, RecordsError> {
        let file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
        let archive = ZipArchive::new(file).map_err(|error| failed(path, &error))?;
        Ok(Self { path: path.to_owned(), archive })
    }

    pub(super) fn count(&self) -> usize {
        self.archive.len()
    }

    /// The name of a part, and its bytes as they are unpacked.
    pub(super) fn part(&mut self, nth: usize) -> Result<(String, impl Read + '_), RecordsError> {
        let Self { path, archive } = self;
        let part = archive.by_index(nth).map_err(|error| failed(path, &error))?;
        let name = part.name().map_err(|error| failed(path, &error))?.into_owned();
        Ok((name, part))
    }

    /// The bytes of the part with a name.
    pub(super) fn named(&mut self, name: &str) -> Result<impl Read + '_, RecordsError> {
        let Self { path, archive } = self;
        archive.by_name(name).map_err(|error| failed(path, &error))
    }
}

fn failed(path: &Path, error: &ZipError) -> RecordsError {
    let what = format!("it is no workbook that can be unpacked: {}", error.to_string().trim());
    RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
}
