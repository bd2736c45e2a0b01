//! Pictures as PNG, drawn with the fonts that come along and nothing of the machine's.

/// The bytes of a PNG of an SVG picture, pixel for pixel.
///
/// # Errors
/// [`PngFault::NotDrawn`] where the picture cannot be drawn: it is none, or is too large; [`PngFault::NotBuilt`] where the
/// feature `png` was not built in.
///
/// ```
/// use mild_ledger_report::png::{PngFault, of_svg};
/// match of_svg("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"2\" height=\"1\"/>") {
///     Ok(bytes) => assert!(bytes.starts_with(b"\x89PNG")),
///     Err(fault) => assert_eq!(fault, PngFault::NotBuilt),
/// }
/// ```
pub fn of_svg(picture: &str) -> Result<Vec<u8>, PngFault> {
    drawing::of_svg(picture)
}

/// Why no PNG can be drawn.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum PngFault {
    /// The picture cannot be drawn; why, in words.
    NotDrawn(String),
    /// The feature `png` was not built in.
    NotBuilt,
}

impl std::fmt::Display for PngFault {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::NotDrawn(why) => write!(f, "the picture is not drawn: {why}"),
            Self::NotBuilt => f.write_str(
                "this build draws no PNG; name an .svg, or install it with its features: cargo install --path crates/mild-ledger-cli --all-features",
            ),
        }
    }
}

impl std::error::Error for PngFault {}

#[cfg(not(feature = "png"))]
mod drawing {
    use super::PngFault;

    pub(super) fn of_svg(_: &str) -> Result<Vec<u8>, PngFault> {
        Err(PngFault::NotBuilt)
    }
}

#[cfg(feature = "png")]
mod drawing {
    use super::PngFault;
    use resvg::tiny_skia::{Pixmap, Transform};
    use resvg::usvg::fontdb::Database;
    use resvg::usvg::{Options, Tree};
    use std::sync::Arc;

    /// Latin, Greek and Cyrillic of DejaVu Sans; their licence is next to them.
    const FONTS: [&[u8]; 2] =
        [include_bytes!("../../fonts/DejaVuSans.ttf"), include_bytes!("../../fonts/DejaVuSans-Bold.ttf")];

    pub(super) fn of_svg(picture: &str) -> Result<Vec<u8>, PngFault> {
        let failed = |why: String| PngFault::NotDrawn(why);
        let mut fonts = Database::new();
        FONTS.iter().for_each(|font| fonts.load_font_data(font.to_vec()));
        fonts.set_sans_serif_family("DejaVu Sans");
        let options = Options { fontdb: Arc::new(fonts), ..Options::default() };
        let tree = Tree::from_str(picture, &options).map_err(|error| failed(error.to_string()))?;
        let size = tree.size().to_int_size();
        let too_large = || failed("the picture is too large".to_owned());
        let mut pixels = Pixmap::new(size.width(), size.height()).ok_or_else(too_large)?;
        resvg::render(&tree, Transform::identity(), &mut pixels.as_mut());
        pixels.encode_png().map_err(|error| failed(error.to_string()))
    }
}
