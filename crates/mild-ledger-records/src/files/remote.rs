//! Files that are at addresses, such as those of an object store. This package knows no network: who reads them is given by the
//! caller.

use std::fmt::Debug;
use std::io;
use std::ops::Range;
use std::sync::Arc;

/// Who reads files by their addresses.
///
/// ```
/// use mild_ledger_records::{ExistingFiles, RemoteFile, RemoteFiles};
/// use std::{io, ops::Range};
///
/// /// One file, held in memory under an address.
/// #[derive(Debug)]
/// struct Held(&'static str);
///
/// impl RemoteFiles for Held {
///     fn reads(&self, address: &str) -> bool {
///         address.starts_with("held://")
///     }
///     fn file(&self, address: &str) -> io::Result<RemoteFile> {
///         Ok(RemoteFile { address: address.to_owned(), bytes: self.0.len() as u64, version: None, led_to: None })
///     }
///     fn names_in(&self, folder: &str) -> io::Result<Vec<String>> {
///         Ok(vec![format!("{folder}invoices.csv")])
///     }
///     fn read(&self, _: &RemoteFile, range: Range<u64>) -> io::Result<Vec<u8>> {
///         Ok(self.0.as_bytes()[range.start as usize..range.end as usize].to_vec())
///     }
/// }
///
/// # use mild_ledger_records::{PartedRun, Plan, RunRequest, Watch};
/// # use std::sync::{Arc, atomic::AtomicBool};
/// # let folder = tempfile::tempdir()?;
/// let text = "plan = 1\n[records]\nfile = \"held://month/\"\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";
/// let plan = Plan::of_text(text, &folder.path().join("month.toml"))?;
/// let request = RunRequest::new().with_remote_files(Arc::new(Held("Invoice\nQB-1\nQB-2\n")));
/// let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
/// let run = PartedRun::begin(&plan, &request, 1, watch)?;
/// assert_eq!(run.pieces().iter().map(|piece| piece.rows()).sum::<u64>(), 2);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub trait RemoteFiles: Debug + Send + Sync {
    /// Whether files at such an address are read.
    fn reads(&self, address: &str) -> bool;

    /// The file at an address, as it is now.
    ///
    /// # Errors
    /// Where there is none, or it cannot be reached.
    fn file(&self, address: &str) -> io::Result<RemoteFile>;

    /// The addresses of the files of a folder, whose own address ends in `/`. Only direct children that are not hidden are read, whatever it gives.
    ///
    /// # Errors
    /// Where there is no such folder, or no server lists it.
    fn names_in(&self, folder: &str) -> io::Result<Vec<String>>;

    /// Bytes of a file, none of them after its end; all that the range names.
    ///
    /// # Errors
    /// Where it cannot be reached, or is of another version by now.
    fn read(&self, file: &RemoteFile, range: Range<u64>) -> io::Result<Vec<u8>>;
}

/// A file at an address, as it was when they were looked at.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct RemoteFile {
    /// Where it is.
    pub address: String,
    /// How long it is.
    pub bytes: u64,
    /// What tells this state of it from others, where the store states that.
    pub version: Option<String>,
    /// The address that a redirect led to, where there was one.
    pub led_to: Option<String>,
}

/// The reader of files at addresses, if there is one.
#[derive(Debug, Clone, Default)]
pub(crate) struct Remote(Option<Arc<dyn RemoteFiles>>);

impl Remote {
    pub(crate) fn by(files: Arc<dyn RemoteFiles>) -> Self {
        Self(Some(files))
    }

    /// Who reads what is at such an address.
    pub(crate) fn reader_of(&self, address: &str) -> Option<&Arc<dyn RemoteFiles>> {
        self.0.as_ref().filter(|files| files.reads(address))
    }
}

/// Requests are the same where the same one reads.
impl PartialEq for Remote {
    fn eq(&self, other: &Self) -> bool {
        match (&self.0, &other.0) {
            (Some(one), Some(other)) => Arc::ptr_eq(one, other),
            (None, None) => true,
            _ => false,
        }
    }
}

impl Eq for Remote {}

/// Whether an address is that of a file of a folder itself, whose address ends in `/`, and the file is not hidden.
pub(crate) fn is_child(folder: &str, address: &str) -> bool {
    let Some(name) = address.strip_prefix(folder) else { return false };
    let begins_with_dot = name.starts_with('.') || name.to_ascii_lowercase().starts_with("%2e");
    let has_folder = name.contains(['/', '\\']) || name.to_ascii_lowercase().contains("%2f");
    !name.is_empty() && !begins_with_dot && !has_folder
}

/// Whether a name is an address (RFC 3986: a scheme, and an authority after two slashes), and no path of this machine.
pub(crate) fn is_address(name: &str) -> bool {
    let Some((scheme, _)) = name.split_once("://") else { return false };
    let mut signs = scheme.chars();
    signs.next().is_some_and(|first| first.is_ascii_alphabetic())
        && signs.all(|sign| sign.is_ascii_alphanumeric() || matches!(sign, '+' | '-' | '.'))
}

#[cfg(test)]
mod tests {
    use super::is_child;

    #[test]
    fn only_files_of_the_folder_itself_are_its_files() {
        let folder = "https://yard.example/month/";
        for (address, expected) in [
            ("https://yard.example/month/a.csv", true),
            ("https://yard.example/month/a%20b.csv", true),
            ("https://yard.example/month/", false),
            ("https://yard.example/month/older/a.csv", false),
            ("https://yard.example/month/older%2Fa.csv", false),
            ("https://yard.example/month/.a.csv", false),
            ("https://yard.example/month/%2ea.csv", false),
            ("https://yard.example/month/../a.csv", false),
            ("https://yard.example/a.csv", false),
            ("https://elsewhere.example/month/a.csv", false),
        ] {
            assert_eq!(is_child(folder, address), expected, "{address}");
        }
    }
}
