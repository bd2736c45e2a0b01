//! Files as a whole: what they hash to, how outputs appear all or not at all, and the receipt.

mod fingerprint;
mod receipt;
mod staging;
mod whole;

pub(crate) use fingerprint::{Checksum, Fingerprint, Hasher};
pub(crate) use receipt::{AmountLine, FileLine, ReportLine, RowsLine, RunEntry};
pub use staging::ExistingFiles;
pub(crate) use staging::{Staging, receipt_path};
pub use whole::write_new_file;
