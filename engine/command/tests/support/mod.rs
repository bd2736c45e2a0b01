//! What the tests of the command share.
#![allow(dead_code, unreachable_pub, clippy::unwrap_used, clippy::panic)] // each test file uses a part of it

pub mod cluster;
#[path = "../../../../crates/mild-ledger-records/tests/support/left.rs"]
pub mod left;
#[path = "../../../../crates/mild-ledger-records/tests/support/random_plans.rs"]
pub mod random_plans;
pub mod runs;
pub mod store;
