//! What people see: tables for the terminal, messages with carets, and the JSON of the command.
//!
//! Everything here is text made from finished figures; nothing is calculated but shares and column widths.
//! Texts from records are shown with their control signs made visible, so that they cannot steer a terminal.

pub mod json;
pub mod terminal;
