//! The report that people get, written and read back.

use super::outcome::RunFile;
use super::outputs::Output;
use crate::error::RecordsError;
use crate::files::{Fingerprint, HashKind};
use std::fs::File;
use std::io::Write;
use std::path::Path;

/// Writes bytes to the unfinished file of an output; what is there afterwards is these bytes.
pub(super) fn write(
    output: &Output,
    (mut file, part): (File, &Path),
    bytes: &[u8],
    hash: HashKind,
) -> Result<RunFile, RecordsError> {
    let failed = || RecordsError::file(&output.place, "write it");
    file.write_all(bytes).map_err(failed())?;
    file.flush().map_err(failed())?;
    drop(file);
    let back = Fingerprint::of_file(part, hash).map_err(RecordsError::file(&output.place, "read it back"))?;
    if back != Fingerprint::of_bytes(bytes, hash) {
        let what = format!("the bytes of {} differ from those that were written", output.name);
        return Err(RecordsError::Proof { what });
    }
    Ok(RunFile {
        name: output.name.clone(),
        path: output.place.clone(),
        rows: None,
        bytes: back.bytes,
        hash: back.hash,
        led_to: None,
    })
}
