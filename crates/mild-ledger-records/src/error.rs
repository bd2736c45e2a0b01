//! What can go wrong between records and outputs.

use crate::mistakes::PlanMistakes;
use std::borrow::Cow;
use std::io;
use std::path::{Path, PathBuf};

/// An error of reading a plan, reading records, running or writing; nothing was written when one is returned.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum RecordsError {
    /// The plan has mistakes, each with its place.
    #[error(transparent)]
    Plan(#[from] PlanMistakes),
    /// A calendar file has mistakes, each with its place.
    #[error("{0}")]
    Calendar(PlanMistakes),
    /// The request cannot be met: an as-of date that is missing or no date, repeated keys that no one decided
    /// about.
    #[error("{what}; {help}")]
    Request {
        /// The request that cannot be met.
        what: String,
        /// What to do about it.
        help: String,
    },
    /// A file could not be opened, read or written.
    #[error("{}: could not {action}: {}", .path.display(), in_words(.source))]
    File {
        /// The file.
        path: PathBuf,
        /// What was being done to it.
        action: Cow<'static, str>,
        /// What the system said.
        source: io::Error,
    },
    /// There is not a file of the name that was made for it.
    #[error("{}: there is no such file; {help}", .path.display())]
    Missing {
        /// The file.
        path: PathBuf,
        /// Where its name came from, and what to do.
        help: String,
    },
    /// A records file is broken as a whole.
    #[error("{}, line {line}: {what}; {help}", .path.display())]
    BrokenFile {
        /// The file.
        path: PathBuf,
        /// The line, counted from 1, where it was noticed.
        line: u64,
        /// What is wrong.
        what: String,
        /// What was expected, or what to do.
        help: String,
    },
    /// Files are where outputs would go, and are not earlier outputs of the same plan and as-of date.
    #[error(
        "{} would be overwritten and {}; move it away, or overwrite it with --overwrite",
        .path.display(), .why
    )]
    InTheWay {
        /// The file in the way.
        path: PathBuf,
        /// Why it may not be overwritten without a request.
        why: String,
    },
    /// Figures that must agree do not; the outputs were thrown away.
    #[error(
        "the proof does not hold: {what}; nothing was kept, and this is a defect of the program or of the disk"
    )]
    Proof {
        /// Which figures do not agree.
        what: String,
    },
    /// A figure is too large to hold.
    #[error("{what}; {help}")]
    TooLarge {
        /// Which.
        what: String,
        /// What was allowed.
        help: String,
    },
    /// The run was interrupted; nothing was kept.
    #[error("interrupted; nothing was written")]
    Interrupted,
}

impl RecordsError {
    pub(crate) fn request(what: impl Into<String>, help: impl Into<String>) -> Self {
        Self::Request { what: what.into(), help: help.into() }
    }

    /// The error of a sum that one row more made too large to hold.
    pub(crate) fn too_large(column: &str, place: &str) -> Self {
        Self::TooLarge {
            what: format!("the sum of \"{}\" becomes too large to hold at {place}", column.escape_debug()),
            help: "at most 38 digits are held; look at the amount of that row".to_owned(),
        }
    }

    /// The error of a sum over all rows that is too large to hold.
    pub(crate) fn too_large_in_all(column: &str) -> Self {
        Self::TooLarge {
            what: format!("the sum of \"{}\" is too large to hold", column.escape_debug()),
            help: "at most 38 digits are held".to_owned(),
        }
    }

    /// The error of a thread that the system does not give.
    pub(crate) fn no_thread(error: &io::Error) -> Self {
        let what = format!("the system gives no thread to work on: {error}");
        Self::request(what, "wait until other programs have ended, or raise the limit on processes")
    }

    pub(crate) fn file(path: &Path, action: &'static str) -> impl FnOnce(io::Error) -> Self + use<> {
        let path = path.to_owned();
        move |source| Self::File { path, action: action.into(), source }
    }
}

/// What the system said, in plain words for the cases that people meet.
fn in_words(error: &io::Error) -> String {
    let words = match error.kind() {
        io::ErrorKind::NotFound => "there is no such file or folder",
        io::ErrorKind::PermissionDenied => "permission denied",
        io::ErrorKind::IsADirectory => "it is a folder, not a file",
        io::ErrorKind::NotADirectory => "a part of the path is not a folder",
        io::ErrorKind::StorageFull => "the disk is full",
        io::ErrorKind::FileTooLarge => "the file would be larger than is allowed here",
        io::ErrorKind::ReadOnlyFilesystem => "the disk is read-only",
        io::ErrorKind::QuotaExceeded => "the disk quota is used up",
        _ => return error.to_string(),
    };
    words.to_owned()
}
