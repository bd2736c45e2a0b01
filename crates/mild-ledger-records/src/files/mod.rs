//! Files as a whole: what they hash to, how they are, how outputs appear all or not at all, and the receipt.

mod blocks;
mod fingerprint;
mod following;
mod heartbeat;
mod input;
mod opened;
mod parked;
mod receipt;
mod remote;
mod staging;
mod verify;
mod whole;
mod workshop;

pub(crate) use blocks::{BlockHasher, BlockHashes};
pub(crate) use fingerprint::{Checksum, Fingerprint, HashKind, Hasher};
pub(crate) use following::{Follower, Progress};
pub(crate) use heartbeat::{Heartbeat, Pulse};
pub(crate) use input::{FileFacts, InputFile, changed, read_whole, regular};
pub(crate) use opened::OpenedFile;
pub(crate) use parked::ParkedFile;
pub(crate) use receipt::{
    AmountLine, CalendarLine, FileLine, ProofEntry, ReportLine, RowsLine, RunEntry, STANDARD_OUTPUT,
};
pub(crate) use remote::{Remote, is_address, is_child};
pub use remote::{RemoteFile, RemoteFiles};
pub use staging::ExistingFiles;
pub(crate) use staging::{Staging, name_in, receipt_path};
pub(crate) use verify::receipt_and_plan;
pub use verify::{FileRole, FileState, Verified, VerifiedFile, VerifiedRun, verify};
pub use whole::write_whole_file;
