//! Records as JSON Lines.
#![no_main]

use libfuzzer_sys::fuzz_target;
use mild_ledger_fuzz::files;

fuzz_target!(|given: &[u8]| files::records("yard.jsonl", given));
