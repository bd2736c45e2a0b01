//! Pictures: drawn as SVG, and as PNG where that is built in.

pub mod png;
pub mod svg;
