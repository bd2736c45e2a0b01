//! Amounts as they are written, and the evidence of a column of them.
#![no_main]

use libfuzzer_sys::fuzz_target;
use mild_ledger_fuzz::texts;

fuzz_target!(|given: &str| texts::amounts(given));
