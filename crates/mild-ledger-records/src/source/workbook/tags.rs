//! The tags of a part of a workbook, as it streams by.

use super::broken;
use crate::error::RecordsError;
use quick_xml::Reader;
use quick_xml::XmlVersion::Implicit1_0;
use quick_xml::events::{BytesStart, Event};
use std::io::{BufReader, Read};
use std::path::Path;

/// The value of an attribute, whatever represents its namespace; the first, where several have the name.
pub(crate) fn attribute(tag: &BytesStart<'_>, name: &str) -> Option<String> {
    let mut all = tag.attributes();
    all.with_checks(false);
    let found = all.filter_map(Result::ok).find(|attribute| attribute.key.local_name().as_ref() == name)?;
    found.normalized_value(Implicit1_0).ok().map(std::borrow::Cow::into_owned)
}

/// A number of times, once where nothing is stated.
pub(super) fn count(tag: &BytesStart<'_>, name: &str) -> u64 {
    attribute(tag, name).and_then(|text| text.trim().parse().ok()).unwrap_or(1).max(1)
}

/// Looks at every tag of a part.
pub(crate) fn each_tag(
    path: &Path,
    part: impl Read,
    mut look: impl FnMut(&BytesStart<'_>),
) -> Result<(), RecordsError> {
    let mut xml = Reader::from_reader(BufReader::new(part));
    let mut buffer = Vec::new();
    loop {
        buffer.clear();
        match xml.read_event_into(&mut buffer).map_err(|error| broken(path, &error.to_string()))? {
            Event::Start(tag) | Event::Empty(tag) => look(&tag),
            Event::Eof => return Ok(()),
            _ => {}
        }
    }
}
