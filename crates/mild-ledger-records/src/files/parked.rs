//! A file that waits for its turn without being open: a run may read more files than a process may have open.

use super::opened::OpenedFile;
use super::remote::Remote;
use super::{FileFacts, changed};
use crate::error::RecordsError;
use std::io::{self, Read, Seek, SeekFrom};
use std::path::{Path, PathBuf};

/// A file that is read from its first byte on, and may be closed between two readings.
pub(crate) struct ParkedFile {
    path: PathBuf,
    remote: Remote,
    position: u64,
    /// None while it waits.
    file: Option<OpenedFile>,
    /// How the file was when it was opened first; nothing of one at an address, whose store watches over its versions.
    facts: Option<FileFacts>,
}

impl ParkedFile {
    /// A file that was opened by its path.
    pub(crate) fn of(path: &Path, remote: &Remote, file: OpenedFile) -> Result<Self, RecordsError> {
        let facts = file.facts().map_err(RecordsError::file(path, "read it"))?;
        Ok(Self { path: path.to_owned(), remote: remote.clone(), position: 0, file: Some(file), facts })
    }

    /// Closes it until more of it is read.
    pub(crate) fn park(&mut self) {
        self.file = None;
    }

    fn opened(&mut self) -> io::Result<&mut OpenedFile> {
        if self.file.is_none() {
            let mut file = OpenedFile::open(&self.path, &self.remote).map_err(io::Error::other)?;
            if file.facts()? != self.facts {
                return Err(io::Error::other(changed(&self.path)));
            }
            file.seek(SeekFrom::Start(self.position))?;
            self.file = Some(file);
        }
        self.file.as_mut().ok_or_else(|| io::ErrorKind::NotFound.into())
    }
}

impl Read for ParkedFile {
    fn read(&mut self, into: &mut [u8]) -> io::Result<usize> {
        let read = self.opened()?.read(into)?;
        self.position += read as u64;
        Ok(read)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_parked_file_goes_on_where_it_was_and_notices_another_one_in_its_place() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("rows.csv");
        std::fs::write(&path, "Invoice\nQB-1\nQB-2\n").unwrap();
        let opened = OpenedFile::open(&path, &Remote::default()).unwrap();
        let mut file = ParkedFile::of(&path, &Remote::default(), opened).unwrap();
        let mut read = [0; 8];
        file.read_exact(&mut read).unwrap();
        file.park();
        let mut rest = String::new();
        file.read_to_string(&mut rest).unwrap();
        assert_eq!((&read, rest.as_str()), (b"Invoice\n", "QB-1\nQB-2\n"));
        file.park();
        std::fs::remove_file(&path).unwrap();
        std::fs::write(&path, "Invoice\nQB-7\nQB-8\n").unwrap();
        let said = file.read(&mut read).unwrap_err().to_string();
        assert!(said.contains("changed while it was read"), "{said}");
    }
}
