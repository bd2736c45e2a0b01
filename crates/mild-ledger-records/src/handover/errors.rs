//! Errors as bytes: a process that works on a part tells the one that began the run what it met.

use crate::error::RecordsError;
use serde::{Deserialize, Serialize};
use std::borrow::Cow;
use std::io;
use std::path::PathBuf;

/// An error as it is handed over. What only the process that began the run can meet is handed over as its text.
#[derive(Serialize, Deserialize)]
enum Told<'e> {
    Request { what: Cow<'e, str>, help: Cow<'e, str> },
    File { path: PathBuf, action: Cow<'e, str>, said: String },
    BrokenFile { path: PathBuf, line: u64, what: Cow<'e, str>, help: Cow<'e, str> },
    Proof { what: Cow<'e, str> },
    TooLarge { what: Cow<'e, str>, help: Cow<'e, str> },
    Interrupted,
}

impl RecordsError {
    /// The error as bytes, for another process.
    ///
    /// ```
    /// use mild_ledger_records::RecordsError;
    /// let error = RecordsError::Proof { what: "2 rows were read and 3 written".to_owned() };
    /// let there = RecordsError::of_bytes(&error.to_bytes()).expect("bytes of an error");
    /// assert_eq!(there.to_string(), error.to_string());
    /// assert!(RecordsError::of_bytes(b"").is_none());
    /// ```
    #[must_use]
    pub fn to_bytes(&self) -> Vec<u8> {
        let text = |text: &'_ String| Cow::Owned(text.clone());
        let told = match self {
            Self::Request { what, help } => Told::Request { what: text(what), help: text(help) },
            Self::File { path, action, source } => {
                Told::File { path: path.clone(), action: action.clone(), said: source.to_string() }
            }
            Self::BrokenFile { path, line, what, help } => {
                Told::BrokenFile { path: path.clone(), line: *line, what: text(what), help: text(help) }
            }
            Self::Proof { what } => Told::Proof { what: text(what) },
            Self::TooLarge { what, help } => Told::TooLarge { what: text(what), help: text(help) },
            Self::Interrupted => Told::Interrupted,
            Self::Plan(_) | Self::Calendar(_) | Self::Missing { .. } | Self::InTheWay { .. } => {
                Told::Request {
                    what: self.to_string().into(),
                    help: "see that all processes see the same files".into(),
                }
            }
        };
        // Texts and numbers always become bytes; without them the other side would say that none came.
        postcard::to_stdvec(&told).unwrap_or_default()
    }

    /// The error of some [bytes](Self::to_bytes); `None` for bytes of anything else.
    #[must_use]
    pub fn of_bytes(bytes: &[u8]) -> Option<Self> {
        Some(match postcard::from_bytes(bytes).ok()? {
            Told::Request { what, help } => Self::Request { what: what.into(), help: help.into() },
            Told::File { path, action, said } => {
                Self::File { path, action: action.into_owned().into(), source: io::Error::other(said) }
            }
            Told::BrokenFile { path, line, what, help } => {
                Self::BrokenFile { path, line, what: what.into(), help: help.into() }
            }
            Told::Proof { what } => Self::Proof { what: what.into() },
            Told::TooLarge { what, help } => Self::TooLarge { what: what.into(), help: help.into() },
            Told::Interrupted => Self::Interrupted,
        })
    }

    /// The same error, which names the process that met it.
    ///
    /// ```
    /// use mild_ledger_records::RecordsError;
    /// let error = RecordsError::Proof { what: "2 rows were read and 3 written".to_owned() };
    /// let named = error.met_by("the executor 10.0.0.2").to_string();
    /// assert!(named.contains("2 rows were read and 3 written (met by the executor 10.0.0.2)"), "{named}");
    /// ```
    #[must_use]
    pub fn met_by(self, process: &str) -> Self {
        let named = |what: String| format!("{what} (met by {process})");
        match self {
            Self::Request { what, help } => Self::Request { what: named(what), help },
            Self::File { path, action, source } => {
                let source = io::Error::new(source.kind(), named(source.to_string()));
                Self::File { path, action, source }
            }
            Self::BrokenFile { path, line, what, help } => {
                Self::BrokenFile { path, line, what: named(what), help }
            }
            Self::Proof { what } => Self::Proof { what: named(what) },
            Self::TooLarge { what, help } => Self::TooLarge { what: named(what), help },
            other => other,
        }
    }
}
