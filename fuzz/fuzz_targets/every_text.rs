//! Every text that the library parses, tried with whatever the fuzzer comes up with.
//!
//! ```text
//! cargo +nightly fuzz run every_text
//! ```
#![no_main]

#[path = "../../tests/every_text/mod.rs"]
mod every_text;

libfuzzer_sys::fuzz_target!(|text: &str| every_text::read(text));
