//! A plan run in parts, by processes that share neither memory nor machine: one surveys the files of records and cuts them into pieces, others work on pieces,
//! each writes what it has of the rows into a file of its own, and the one puts together what they tell.
//!
//! Nothing of a figure hangs on how many they are: rows have no state, and counts merge.

mod open_figures;
mod part_file;
mod part_job;
mod part_worker;
mod parted_run;
mod refusals;
mod together;
mod told;

pub use part_file::PartFile;
pub use part_job::PartJob;
pub use part_worker::{PartRows, PartWorker};
pub use parted_run::{Heard, PartedEnd, PartedRun};
