//! Reading a plan's file.

use super::model::Plan;
use super::top;
use crate::error::RecordsError;
use crate::files::read_whole;
use crate::mistakes::Mistakes;
use std::path::Path;

impl Plan {
    /// Reads a plan and checks all of it that can be checked without its records.
    ///
    /// # Errors
    /// [`RecordsError::File`] where it cannot be read, [`RecordsError::Plan`] with every mistake found.
    pub fn read(path: &Path) -> Result<Self, RecordsError> {
        let (bytes, input) = read_whole(path)?;
        let source = match String::from_utf8(bytes) {
            Ok(source) => source,
            Err(error) => {
                let at = error.utf8_error().valid_up_to();
                let source = String::from_utf8_lossy(error.as_bytes()).into_owned();
                let mut mistakes = Mistakes::default();
                mistakes.tell(at..at, "the plan holds bytes that are not UTF-8", "a text in UTF-8");
                return Err(mistakes.of(path, &source).into());
            }
        };
        let source = source.strip_prefix('\u{feff}').unwrap_or(&source);
        Ok(top::read(source, input)?)
    }
}
