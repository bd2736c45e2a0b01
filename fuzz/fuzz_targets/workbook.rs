//! Records in a workbook: the file itself, or the markup in it.
#![no_main]

use libfuzzer_sys::fuzz_target;
use mild_ledger_fuzz::workbooks;

fuzz_target!(|given: &[u8]| workbooks::read(given));
