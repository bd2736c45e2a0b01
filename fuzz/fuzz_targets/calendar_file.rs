//! A calendar file.
#![no_main]

use libfuzzer_sys::fuzz_target;
use mild_ledger_fuzz::files;

fuzz_target!(|given: &str| files::calendar("yard.toml", given));
