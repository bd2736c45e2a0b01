//! Reading a plan's file.

use super::model::Plan;
use super::top;
use crate::error::RecordsError;
use crate::files::{InputFile, read_whole};
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
        Self::of(&source, input)
    }

    /// A plan from a text, as if it was in a file of this name, which need not be there: the plan's paths start from the folder
    /// of it, its receipt is named after it, and mistakes name it.
    ///
    /// # Errors
    /// [`RecordsError::Plan`] with every mistake found.
    ///
    /// ```
    /// use mild_ledger_records::Plan;
    /// let text = "plan = 1\n[records]\nfile = \"invoices.csv\"\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";
    /// assert_eq!(Plan::of_text(text, "reports/month.toml".as_ref())?.title(), "month");
    /// let error = Plan::of_text("plan = 9", "month.toml".as_ref()).unwrap_err();
    /// assert!(matches!(error, mild_ledger_records::RecordsError::Plan(_)));
    /// # Ok::<(), mild_ledger_records::RecordsError>(())
    /// ```
    pub fn of_text(text: &str, path: &Path) -> Result<Self, RecordsError> {
        Self::of(text, InputFile::of_text(path, text))
    }

    fn of(source: &str, input: InputFile) -> Result<Self, RecordsError> {
        let source = source.strip_prefix('\u{feff}').unwrap_or(source);
        Ok(top::read(source, input)?)
    }
}
