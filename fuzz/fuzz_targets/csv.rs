//! Records as CSV.
#![no_main]

use libfuzzer_sys::fuzz_target;
use mild_ledger_fuzz::files;

fuzz_target!(|given: &[u8]| files::records("yard.csv", given));
