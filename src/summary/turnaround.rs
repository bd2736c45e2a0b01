//! How far a job has come on a date, and whether it keeps its promise.

use crate::choice::chosen_by_word;
use crate::date::Date;

/// How far a job has come on a date.
///
/// ```
/// use mild_ledger::{Job, Progress};
/// let job: Job = Job { start: Some("2026-09-01".parse()?), end: Some("2026-09-30".parse()?) };
/// assert_eq!(job.progress_on("2026-09-29".parse()?), Some(Progress::Running));
/// assert_eq!(job.progress_on("2026-09-30".parse()?), Some(Progress::Finished));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Progress {
    /// It starts after the date.
    NotBegun,
    /// It has started, and has not ended by then.
    Running,
    /// It ended on the date or before.
    Finished,
}

impl Progress {
    /// All of them.
    pub const ALL: [Self; 3] = [Self::NotBegun, Self::Running, Self::Finished];

    /// The words for it.
    ///
    /// ```
    /// assert_eq!("not begun".parse(), Ok(mild_ledger::Progress::NotBegun));
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::NotBegun => "not begun",
            Self::Running => "running",
            Self::Finished => "finished",
        }
    }
}

chosen_by_word!(Progress, "a state of a job");

/// A job from one stage to another.
///
/// ```
/// use mild_ledger::Job;
/// let running: Job = Job { start: Some("2026-09-01".parse()?), end: None };
/// assert_eq!(running.late_on("2026-09-15".parse()?, "2026-09-14".parse()?), Some(true));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Job<T = Date> {
    /// The day it started.
    pub start: Option<T>,
    /// The day it ended, if it did.
    pub end: Option<T>,
}

impl<T: Copy + Ord> Job<T> {
    /// How far it has come on a date, that date included; an end after it has not happened yet. `None` where it has no start.
    ///
    /// ```
    /// # use mild_ledger::{Job, Progress};
    /// let job: Job = Job { start: Some("2026-09-01".parse()?), end: None };
    /// assert_eq!(job.progress_on("2026-08-31".parse()?), Some(Progress::NotBegun));
    /// assert_eq!(Job { start: None, ..job }.progress_on("2026-08-31".parse()?), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn progress_on(&self, as_of: T) -> Option<Progress> {
        let start = self.start?;
        Some(match self.end {
            Some(end) if end <= as_of => Progress::Finished,
            _ if start > as_of => Progress::NotBegun,
            _ => Progress::Running,
        })
    }

    /// Whether it is late on a date against the day by which it was promised: ended after that day, or running after it. `None` where it has not
    /// begun by then.
    ///
    /// ```
    /// # use mild_ledger::Job;
    /// let job: Job = Job { start: Some("2026-09-01".parse()?), end: Some("2026-09-15".parse()?) };
    /// let as_of = "2026-09-30".parse()?;
    /// assert_eq!(job.late_on(as_of, "2026-09-15".parse()?), Some(false));
    /// assert_eq!(job.late_on(as_of, "2026-09-14".parse()?), Some(true));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn late_on(&self, as_of: T, promised: T) -> Option<bool> {
        match self.progress_on(as_of)? {
            Progress::NotBegun => None,
            Progress::Running => Some(as_of > promised),
            Progress::Finished => self.end.map(|end| end > promised),
        }
    }
}
