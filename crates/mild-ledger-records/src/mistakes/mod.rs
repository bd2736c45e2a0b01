//! What is wrong with a text, and where: positions, a walk over TOML that keeps them, and the nearest right words.

mod everyday;
mod keys;
mod line_text;
mod mistake;
mod nearest;
mod walk;

pub(crate) use keys::Keys;
pub(crate) use line_text::LineText;
pub(crate) use mistake::Mistakes;
pub use mistake::{Expected, PlanMistake, PlanMistakes};
pub(crate) use nearest::{in_quotes, nearest};
pub use nearest::{nearest_word, nearest_words};
pub(crate) use walk::{At, Value, Walk, read_date};
