//! Writing one new file whole or not at all.

use crate::error::RecordsError;
use std::io::Write;
use std::path::Path;

/// Writes a file that does not stand there yet: under another name first, so that it appears whole.
///
/// # Errors
/// [`RecordsError::File`] where it cannot be written, [`RecordsError::Request`] where a file stands there.
pub fn write_new_file(path: &Path, bytes: &[u8]) -> Result<(), RecordsError> {
    let failed = |source| RecordsError::File { path: path.to_owned(), action: "write it".into(), source };
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    let mut builder = tempfile::Builder::new();
    builder.prefix(".mild-");
    // As any new file, for others to read where the user's mask allows it.
    #[cfg(unix)]
    builder.permissions(std::os::unix::fs::PermissionsExt::from_mode(0o666));
    let mut file = builder.tempfile_in(folder).map_err(failed)?;
    file.write_all(bytes).and_then(|()| file.as_file().sync_all()).map_err(failed)?;
    match file.persist_noclobber(path) {
        Ok(_) => Ok(()),
        Err(error) if error.error.kind() == std::io::ErrorKind::AlreadyExists => Err(RecordsError::Request {
            what: format!("{} stands there already, and nothing was written", path.display()),
            help: "name another file, or move this one away".to_owned(),
        }),
        Err(error) => Err(failed(error.error)),
    }
}
