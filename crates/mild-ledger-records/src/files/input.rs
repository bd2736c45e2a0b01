//! Files that are read as a whole, and how each was when it was read.

use super::{Fingerprint, HashKind};
use crate::error::RecordsError;
use std::fs::{self, Metadata};
use std::io;
use std::path::{Path, PathBuf};
use std::time::SystemTime;

/// A file that was read, to be named in the receipt and looked at again at the end.
#[derive(Debug, Clone)]
pub(crate) struct InputFile {
    pub(crate) path: PathBuf,
    stands: Stands,
    /// By every function: the plan, which says which one is wanted, is such a file itself.
    fingerprints: [Fingerprint; HashKind::ALL.len()],
}

/// Where the bytes of an input are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Stands {
    InItsFile,
    /// Nowhere but with the caller, who gave them under the name of a file.
    InMemory,
}

/// What tells that a file is the one it was: its size and times, and which file of the disk it is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct FileFacts {
    pub(crate) bytes: u64,
    modified: Option<SystemTime>,
    /// The device, the number of the file on it, and when anything of it was changed last, which no one can set back.
    #[cfg(unix)]
    identity: (u64, u64, i64, i64),
}

impl FileFacts {
    pub(crate) fn of(facts: &Metadata) -> Self {
        #[cfg(unix)]
        use std::os::unix::fs::MetadataExt;
        Self {
            bytes: facts.len(),
            modified: facts.modified().ok(),
            #[cfg(unix)]
            identity: (facts.dev(), facts.ino(), facts.ctime(), facts.ctime_nsec()),
        }
    }
}

/// What a file is, looked at before it is opened: a folder, a pipe and a device are refused.
pub(crate) fn regular(path: &Path) -> Result<FileFacts, RecordsError> {
    let facts = fs::metadata(path).map_err(RecordsError::file(path, "read it"))?;
    if facts.is_dir() {
        return Err(RecordsError::file(path, "read it")(io::ErrorKind::IsADirectory.into()));
    }
    if !facts.is_file() {
        let what =
            io::Error::other("it is a pipe or a device; give a file, since it may be read more than once");
        return Err(RecordsError::file(path, "read it")(what));
    }
    Ok(FileFacts::of(&facts))
}

/// The most bytes of a file that is held as a whole: a plan, a calendar, a receipt.
const MOST_BYTES: u64 = 64 << 20;

/// The bytes of a file that is held as a whole.
pub(crate) fn read_whole(path: &Path) -> Result<(Vec<u8>, InputFile), RecordsError> {
    let facts = regular(path)?;
    if facts.bytes > MOST_BYTES {
        return Err(RecordsError::request(
            format!("{} has {} bytes", path.display(), facts.bytes),
            format!("at most {MOST_BYTES} are read of such a file; is it the right one?"),
        ));
    }
    let bytes = fs::read(path).map_err(RecordsError::file(path, "read it"))?;
    let input = InputFile::of(path, &bytes, Stands::InItsFile);
    Ok((bytes, input))
}

impl InputFile {
    fn of(path: &Path, bytes: &[u8], stands: Stands) -> Self {
        let fingerprints = HashKind::ALL.map(|(_, kind)| Fingerprint::of_bytes(bytes, kind));
        Self { path: path.to_owned(), stands, fingerprints }
    }

    /// A text that the caller gives under the name of a file.
    pub(crate) fn of_text(path: &Path, text: &str) -> Self {
        Self::of(path, text.as_bytes(), Stands::InMemory)
    }

    /// That the file is still the one that was read.
    pub(crate) fn check_unchanged(&self) -> Result<(), RecordsError> {
        if self.stands == Stands::InMemory {
            return Ok(());
        }
        regular(&self.path)?;
        let now = Fingerprint::of_file(&self.path, HashKind::default());
        let now = now.map_err(RecordsError::file(&self.path, "read it"))?;
        if now == *self.fingerprint(HashKind::default()) { Ok(()) } else { Err(changed(&self.path)) }
    }

    /// Its fingerprint by one of the functions.
    pub(crate) fn fingerprint(&self, kind: HashKind) -> &Fingerprint {
        match kind {
            HashKind::Blake3 => &self.fingerprints[0],
            HashKind::Sha256 => &self.fingerprints[1],
        }
    }
}

/// The error of a file that is another than the one that was read.
pub(crate) fn changed(path: &Path) -> RecordsError {
    RecordsError::request(
        format!("{} changed while it was read", path.display()),
        "run again when it is finished",
    )
}
