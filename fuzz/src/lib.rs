//! What is done with whatever a fuzzer comes up with, one file a subject. A panic is a finding, and so is what an assertion says.

pub mod files;
pub mod lines;
pub mod texts;
pub mod workbooks;
