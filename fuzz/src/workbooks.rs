//! Workbooks: files of any bytes, and well-formed ones around whatever markup.

use crate::files;
use std::io::{Cursor, Write};
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

/// The first byte says what the others are.
pub fn read(given: &[u8]) {
    let Some((what, rest)) = given.split_first() else { return };
    match what % 5 {
        0 => files::records("yard.xlsx", rest),
        1 => files::records("yard.ods", rest),
        2 => sheet(rest),
        3 => {
            let wrapped = [b"<sheetData>".as_slice(), rest, b"</sheetData>"].concat();
            sheet(&[SHEET_BEGINS, &wrapped, b"</worksheet>"].concat());
        }
        _ => {
            let parts: [(&str, &[u8]); 2] =
                [("mimetype", b"application/vnd.oasis.opendocument.spreadsheet"), ("content.xml", rest)];
            files::records("yard.ods", &packed(&parts));
        }
    }
}

const SHEET_BEGINS: &[u8] =
    b"<?xml version=\"1.0\"?><worksheet xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\">";

/// A workbook with this markup as its only sheet.
fn sheet(markup: &[u8]) {
    let parts: [(&str, &[u8]); 7] = [
        ("[Content_Types].xml", br#"<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>"#),
        ("_rels/.rels", br#"<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>"#),
        ("xl/workbook.xml", br#"<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Invoices" sheetId="1" r:id="r1"/></sheets></workbook>"#),
        ("xl/_rels/workbook.xml.rels", br#"<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="r2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles" Target="styles.xml"/><Relationship Id="r3" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/sharedStrings" Target="sharedStrings.xml"/></Relationships>"#),
        ("xl/styles.xml", br#"<?xml version="1.0"?><styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs></styleSheet>"#),
        ("xl/sharedStrings.xml", br#"<?xml version="1.0"?><sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><si><t>Issued</t></si><si><t>A1</t></si></sst>"#),
        ("xl/worksheets/sheet1.xml", markup),
    ];
    files::records("yard.xlsx", &packed(&parts));
}

fn packed(parts: &[(&str, &[u8])]) -> Vec<u8> {
    let mut archive = ZipWriter::new(Cursor::new(Vec::new()));
    let stored = SimpleFileOptions::default().compression_method(CompressionMethod::Stored);
    for (name, bytes) in parts {
        archive.start_file(*name, stored).expect("a part begins");
        archive.write_all(bytes).expect("a part is written");
    }
    archive.finish().expect("an archive ends").into_inner()
}
