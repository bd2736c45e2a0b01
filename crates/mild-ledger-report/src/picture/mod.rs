//! Pictures: drawn as SVG, and as PNG where that is built in.

pub(crate) mod bars;
pub mod png;
pub(crate) mod sheet;
pub mod svg;
