//! Lines of words: columns, conditions, groups.
#![no_main]

use libfuzzer_sys::fuzz_target;
use mild_ledger_fuzz::lines;

fuzz_target!(|given: &str| lines::lines(given));
