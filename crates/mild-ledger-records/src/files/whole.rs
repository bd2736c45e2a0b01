//! Writing one file whole or not at all.

use super::staging::ExistingFiles;
use crate::error::RecordsError;
use std::io::Write;
use std::path::Path;

/// Writes a file under another name first and renames it, so that it appears whole.
///
/// ```
/// use mild_ledger_records::{ExistingFiles, write_whole_file};
/// let folder = tempfile::tempdir()?;
/// let file = folder.path().join("page.html");
/// write_whole_file(&file, b"<p>one</p>", ExistingFiles::Keep)?;
/// assert!(write_whole_file(&file, b"<p>two</p>", ExistingFiles::Keep).is_err());
/// write_whole_file(&file, b"<p>two</p>", ExistingFiles::Overwrite)?;
/// assert_eq!(std::fs::read(&file)?, b"<p>two</p>");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
/// [`RecordsError::File`] where it cannot be written, [`RecordsError::Request`] where a file of this name exists and is to
/// be kept.
pub fn write_whole_file(path: &Path, bytes: &[u8], existing: ExistingFiles) -> Result<(), RecordsError> {
    let failed = |source| RecordsError::File { path: path.to_owned(), action: "write it".into(), source };
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    let mut builder = tempfile::Builder::new();
    builder.prefix(".mild-");
    // As any new file, for others to read where the user's mask allows it.
    #[cfg(unix)]
    builder.permissions(std::os::unix::fs::PermissionsExt::from_mode(0o666));
    let mut file = builder.tempfile_in(folder).map_err(failed)?;
    file.write_all(bytes).and_then(|()| file.as_file().sync_all()).map_err(failed)?;
    let persisted = match existing {
        ExistingFiles::Keep => file.persist_noclobber(path),
        ExistingFiles::Overwrite => file.persist(path),
    };
    match persisted {
        Ok(_) => Ok(()),
        Err(error) if error.error.kind() == std::io::ErrorKind::AlreadyExists => Err(RecordsError::Request {
            what: format!("{} exists already; nothing was written", path.display()),
            help: "name another file, or move this one".to_owned(),
        }),
        Err(error) => Err(failed(error.error)),
    }
}
