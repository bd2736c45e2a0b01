//! Pictures as PNG, drawn with the fonts that come along and nothing of the machine's.

use resvg::tiny_skia::{Pixmap, Transform};
use resvg::usvg::fontdb::Database;
use resvg::usvg::{Options, Tree};
use std::sync::Arc;

/// Latin, Greek and Cyrillic of DejaVu Sans; their licence stands beside them.
const FONTS: [&[u8]; 2] =
    [include_bytes!("../fonts/DejaVuSans.ttf"), include_bytes!("../fonts/DejaVuSans-Bold.ttf")];

/// The bytes of a PNG of an SVG picture, pixel for pixel.
///
/// # Errors
/// What went wrong, in words, where the picture cannot be drawn: it is none, or is too large.
pub fn of_svg(picture: &str) -> Result<Vec<u8>, String> {
    let mut fonts = Database::new();
    FONTS.iter().for_each(|font| fonts.load_font_data(font.to_vec()));
    fonts.set_sans_serif_family("DejaVu Sans");
    let options = Options { fontdb: Arc::new(fonts), ..Options::default() };
    let tree = Tree::from_str(picture, &options).map_err(|error| error.to_string())?;
    let size = tree.size().to_int_size();
    let mut pixels = Pixmap::new(size.width(), size.height()).ok_or("the picture is too large")?;
    resvg::render(&tree, Transform::identity(), &mut pixels.as_mut());
    pixels.encode_png().map_err(|error| error.to_string())
}
