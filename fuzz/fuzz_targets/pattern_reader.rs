//! A pattern, and texts that are read by it; the evidence of a column of dates.
#![no_main]

use libfuzzer_sys::fuzz_target;
use mild_ledger_fuzz::texts;

fuzz_target!(|given: &str| texts::dates(given));
