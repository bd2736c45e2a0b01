//! The text of a plan.
#![no_main]

use libfuzzer_sys::fuzz_target;
use mild_ledger_fuzz::files;

fuzz_target!(|given: &str| files::plan(given));
