//! Workbooks of the open formats, made part by part: each gives what the same rows give as CSV, and a broken or malicious one is
//! refused with nothing written.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use std::io::{Cursor, Read, Write};
use support::{Answer, Desk, PLAN, RECORDS};
use zip::write::SimpleFileOptions;

/// A cell as a workbook stores it.
#[derive(Clone, Copy)]
enum Cell {
    Blank,
    Text(&'static str),
    Number(f64),
    /// A date as its serial number of the 1900 system, and by ISO 8601.
    Date(f64, &'static str),
}
use Cell::{Blank, Date, Number, Text};

/// The rows of `RECORDS`, with dates and amounts as a workbook types them.
const TYPED: [[Cell; 5]; 5] = [
    [Text("Invoice"), Text("Customer"), Text("Issued"), Text("Paid"), Text("Amount")],
    [Text("A1"), Text("Heron Charters"), Date(46_295.0, "2026-09-30"), Blank, Number(100.0)],
    [Text("A2"), Text("Heron Charters"), Date(46_265.0, "2026-08-31"), Blank, Number(50.25)],
    [
        Text("A3"),
        Text("Cordage & Co."),
        Date(46_264.0, "2026-08-30"),
        Date(46_266.0, "2026-09-01"),
        Number(70.0),
    ],
    [Text("A4"), Text("Cordage & Co."), Date(46_235.0, "2026-08-01"), Blank, Number(9.75)],
];

fn packed(parts: &[(&str, String)]) -> Vec<u8> {
    let mut book = zip::ZipWriter::new(Cursor::new(Vec::new()));
    for (name, text) in parts {
        book.start_file(*name, SimpleFileOptions::default().compression_level(Some(1))).unwrap();
        book.write_all(text.as_bytes()).unwrap();
    }
    book.finish().unwrap().into_inner()
}

fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;")
}

/// The rows of a sheet of .xlsx, from this row on.
fn sheet_rows(rows: &[Vec<Cell>], from: usize, days_off: f64) -> String {
    let row = |(nth, row): (usize, &Vec<Cell>)| {
        let number = nth + from;
        let cells: String = row
            .iter()
            .zip("ABCDEFGH".chars())
            .map(|(cell, column)| match cell {
                Blank => String::new(),
                Text(text) => {
                    format!("<c r=\"{column}{number}\" t=\"inlineStr\"><is><t>{}</t></is></c>", escaped(text))
                }
                Number(value) => format!("<c r=\"{column}{number}\"><v>{value}</v></c>"),
                Date(serial, _) => {
                    format!("<c r=\"{column}{number}\" s=\"1\"><v>{}</v></c>", serial - days_off)
                }
            })
            .collect();
        format!("<row r=\"{number}\">{cells}</row>")
    };
    rows.iter().enumerate().map(row).collect()
}

struct Sheet {
    name: &'static str,
    is_hidden: bool,
    rows: String,
}

fn xlsx(sheets: &[Sheet], is_1904: bool) -> Vec<u8> {
    let main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
    let relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
    let package = "http://schemas.openxmlformats.org/package/2006";
    let listed: String = (1..)
        .zip(sheets)
        .map(|(nth, sheet)| {
            let state = if sheet.is_hidden { " state=\"hidden\"" } else { "" };
            format!("<sheet name=\"{}\" sheetId=\"{nth}\" r:id=\"rId{nth}\"{state}/>", sheet.name)
        })
        .collect();
    let related: String = (1..=sheets.len())
        .map(|nth| format!("<Relationship Id=\"rId{nth}\" Type=\"{relations}/worksheet\" Target=\"worksheets/sheet{nth}.xml\"/>"))
        .collect();
    let is_1904 = if is_1904 { "<workbookPr date1904=\"1\"/>" } else { "" };
    let mut parts = vec![
        ("[Content_Types].xml".to_owned(), format!("<Types xmlns=\"{package}/content-types\"/>")),
        (
            "_rels/.rels".to_owned(),
            format!(
                "<Relationships xmlns=\"{package}/relationships\"><Relationship Id=\"rId1\" Type=\"{relations}/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>"
            ),
        ),
        (
            "xl/workbook.xml".to_owned(),
            format!(
                "<workbook xmlns=\"{main}\" xmlns:r=\"{relations}\">{is_1904}<sheets>{listed}</sheets></workbook>"
            ),
        ),
        (
            "xl/_rels/workbook.xml.rels".to_owned(),
            format!("<Relationships xmlns=\"{package}/relationships\">{related}</Relationships>"),
        ),
        (
            "xl/styles.xml".to_owned(),
            format!(
                "<styleSheet xmlns=\"{main}\"><cellXfs><xf numFmtId=\"0\"/><xf numFmtId=\"14\"/></cellXfs></styleSheet>"
            ),
        ),
    ];
    for (nth, sheet) in (1..).zip(sheets) {
        parts.push((
            format!("xl/worksheets/sheet{nth}.xml"),
            format!("<worksheet xmlns=\"{main}\"><sheetData>{}</sheetData></worksheet>", sheet.rows),
        ));
    }
    let parts: Vec<(&str, String)> = parts.iter().map(|(name, text)| (name.as_str(), text.clone())).collect();
    packed(&parts)
}

fn ods(rows: &[Vec<Cell>]) -> Vec<u8> {
    ods_of(&ods_rows(rows))
}

fn ods_rows(rows: &[Vec<Cell>]) -> String {
    let cell = |cell: &Cell| match cell {
        Blank => "<table:table-cell/>".to_owned(),
        Text(text) => format!(
            "<table:table-cell office:value-type=\"string\"><text:p>{}</text:p></table:table-cell>",
            escaped(text)
        ),
        Number(value) => format!("<table:table-cell office:value-type=\"float\" office:value=\"{value}\"/>"),
        // Each type has its value in an attribute of its own name.
        Date(_, iso) => {
            let holds = "date";
            format!("<table:table-cell office:value-type=\"{holds}\" office:{holds}-value=\"{iso}\"/>")
        }
    };
    let row = |row: &Vec<Cell>| {
        format!("<table:table-row>{}</table:table-row>", row.iter().map(cell).collect::<String>())
    };
    rows.iter().map(row).collect()
}

/// A workbook of one sheet with these rows, and what comes before and after it.
fn ods_of(rows: &str) -> Vec<u8> {
    ods_parts("", &format!("<table:table table:name=\"Invoices\">{rows}</table:table>"))
}

fn ods_parts(styles: &str, sheets: &str) -> Vec<u8> {
    let names = "urn:oasis:names:tc:opendocument:xmlns";
    let spaces: String = ["office", "table", "text", "style"]
        .iter()
        .map(|name| format!(" xmlns:{name}=\"{names}:{name}:1.0\""))
        .collect();
    packed(&[
        ("mimetype", "application/vnd.oasis.opendocument.spreadsheet".to_owned()),
        ("META-INF/manifest.xml", format!("<manifest:manifest xmlns:manifest=\"{names}:manifest:1.0\"/>")),
        (
            "content.xml",
            format!(
                "<office:document-content{spaces}><office:automatic-styles>{styles}</office:automatic-styles><office:body><office:spreadsheet>{sheets}</office:spreadsheet></office:body></office:document-content>"
            ),
        ),
    ])
}

fn typed() -> Vec<Vec<Cell>> {
    TYPED.iter().map(|row| row.to_vec()).collect()
}

fn one_sheet(rows: String) -> Vec<u8> {
    xlsx(&[Sheet { name: "Invoices", is_hidden: false, rows }], false)
}

/// A run of the plan over a workbook, with some lines more in its part of the plan.
fn run(name: &str, bytes: &[u8], lines: &str) -> (Answer, Desk) {
    let desk = Desk::new();
    desk.write("plan.toml", PLAN.replacen("\"records.csv\"", &format!("\"{name}\"\n{lines}"), 1));
    desk.write(name, bytes);
    (desk.run_plan(), desk)
}

fn from_csv() -> String {
    let desk = Desk::with_records(RECORDS);
    assert_eq!(desk.run_plan().code, 0);
    desk.read("rows.csv")
}

#[test]
fn the_same_rows_give_the_same_file_byte_for_byte() {
    let as_text: Vec<Vec<Cell>> = typed()
        .into_iter()
        .map(|row| {
            row.into_iter()
                .map(|cell| match cell {
                    Date(_, "2026-09-30") => Text("30/09/2026"),
                    other => other,
                })
                .collect()
        })
        .collect();
    let four_years = 1_462.0;
    for (name, bytes) in [
        ("records.xlsx", one_sheet(sheet_rows(&typed(), 1, 0.0))),
        (
            "records.xlsx",
            xlsx(
                &[Sheet { name: "Invoices", is_hidden: false, rows: sheet_rows(&typed(), 1, four_years) }],
                true,
            ),
        ),
        ("records.ods", ods(&typed())),
        // A date that is a text is read by the plan's pattern, and those that are dates need none.
        ("records.xlsx", one_sheet(sheet_rows(&as_text, 1, 0.0))),
        ("records.ods", ods(&as_text)),
    ] {
        let (answer, desk) = run(name, &bytes, "");
        assert_eq!(answer.code, 0, "{name}: {}", answer.err);
        assert_eq!(desk.read("rows.csv"), from_csv(), "{name}");
        assert!(answer.out.contains("sheet \"Invoices\""), "{}", answer.out);
    }
}

#[test]
fn dates_of_the_format_need_no_pattern() {
    let (answer, desk) = run("records.xlsx", &one_sheet(sheet_rows(&typed(), 1, 0.0)), "");
    assert_eq!(answer.code, 0);
    let with_patterns = desk.read("rows.csv");
    let plan = desk.read("plan.toml");
    desk.write(
        "plan.toml",
        plan.replace("Issued = \"day/month/year\"\n", "").replace("Paid   = \"day/month/year\"\n", ""),
    );
    let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(desk.read("rows.csv"), with_patterns);
}

#[test]
fn numbers_of_the_format_need_not_be_named() {
    let (answer, desk) = run("records.xlsx", &one_sheet(sheet_rows(&typed(), 1, 0.0)), "");
    assert_eq!(answer.code, 0);
    let (named, said) =
        (desk.read("rows.csv"), desk.mild(&["run", "plan.toml", "--overwrite", "--json"]).json());
    let plan = desk.read("plan.toml");
    assert!(plan.contains("[records.amounts]\nAmount = { decimals = 2 }\n"), "{plan}");
    // The aging is of amounts, so that the column is money, whose sum is proved.
    desk.write("plan.toml", plan.replace("[records.amounts]\nAmount = { decimals = 2 }\n", ""));
    let answer = desk.mild(&["run", "plan.toml", "--overwrite", "--json"]);
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(desk.read("rows.csv"), named);
    let again = answer.json();
    assert_eq!(again["proof"], said["proof"]);
    assert_eq!(again["reports"], said["reports"]);
    // One amount is missing: its row is set aside, as that of a named column is.
    let mut rows = typed();
    rows[1][4] = Blank;
    desk.write("records.xlsx", one_sheet(sheet_rows(&rows, 1, 0.0)));
    let answer = desk.mild(&["run", "plan.toml", "--overwrite"]);
    assert!(answer.out.contains("1 set aside"), "{}", answer.out);
    assert!(desk.read("exceptions.csv").contains("A1,Amount,,no amount,"), "{}", desk.read("exceptions.csv"));
}

#[test]
fn numbers_of_the_format_are_what_the_plan_uses_them_as() {
    let rows = [
        [Text("Code"), Text("Hours"), Text("Crew"), Text("Parts")],
        [Number(10.0), Number(7.5), Number(2.0), Number(3.0)],
        [Number(9.0), Number(12.25), Number(11.0), Blank],
        [Number(11.0), Number(0.0), Number(3.0), Number(0.125)],
    ];
    let rows: Vec<Vec<Cell>> = rows.iter().map(|row| row.to_vec()).collect();
    let desk = Desk::new();
    desk.write("jobs.xlsx", one_sheet(sheet_rows(&rows, 1, 0.0)));
    // The skippers of a text file: theirs is a text, and so are our codes that are matched with it.
    desk.write("skippers.csv", "Code,Skipper\n9,Ann\n10,Bo\n");
    desk.write(
        "rates.xlsx",
        one_sheet(sheet_rows(
            &[vec![Text("Code"), Text("Rate")], vec![Text("9"), Number(20.5)], vec![Text("11"), Number(4.0)]],
            1,
            0.0,
        )),
    );
    let plan = |rows: &str| {
        format!(
            "plan = 1\n[records]\nfile = \"jobs.xlsx\"\nkey = \"Code\"\n[[join]]\nfile = \"skippers.csv\"\nmatch = {{ Code = \"Code\" }}\ncolumns = [\"Skipper\"]\n[[join]]\nfile = \"rates.xlsx\"\nmatch = {{ Code = \"Code\" }}\ncolumns = [\"Rate\"]\n[[column]]\nname = \"Cost\"\nproduct = [\"Hours\", \"Rate\"]\ndecimals = 2\n[[column]]\nname = \"Long\"\nwhen = [{{ column = \"Hours\", over = 7 }}]\nthen = \"long\"\nelse = \"short\"\n[output]\nrows = \"{rows}\"\nexceptions = \"exceptions.csv\"\norder_by = [\"Crew\"]\n"
        )
    };
    desk.write("plan.toml", plan("rows.csv"));
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    // Ordered as numbers, 2, 3, 11; 12.25 × 20.5 is 251.125, and 0 × 4 nothing.
    assert_eq!(
        desk.read("rows.csv"),
        "Code,Hours,Crew,Parts,Skipper,Rate,Cost,Long\n10,7.50,2,3.000,Bo,,,long\n11,0.00,3,0.125,,4.0,0.00,short\n9,12.25,11,,Ann,20.5,251.13,long\n"
    );
    // What nothing goes by is written as the number that it is; what is matched as a text is one.
    desk.write("plan.toml", plan("rows.xlsx"));
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite"]).code, 0);
    let mut sheet = String::new();
    let mut book = zip::ZipArchive::new(std::fs::File::open(desk.path("rows.xlsx")).unwrap()).unwrap();
    book.by_name("xl/worksheets/sheet1.xml").unwrap().read_to_string(&mut sheet).unwrap();
    assert!(sheet.contains("<v>0.125</v>") && sheet.contains("<v>20.5</v>"), "{sheet}");
    assert!(sheet.contains("<t>10</t>") && !sheet.contains("<v>10</v>"), "{sheet}");
}

#[test]
fn numbers_of_the_format_are_texts_where_the_plan_goes_by_them_as_such() {
    let rows = [
        [Text("Code"), Text("Hours"), Text("Spread"), Text("Berth")],
        [Number(10.0), Number(7.5), Number(1e20), Number(4.0)],
        [Number(9.0), Blank, Number(0.000_000_000_000_01), Blank],
    ];
    let rows: Vec<Vec<Cell>> = rows.iter().map(|row| row.to_vec()).collect();
    let desk = Desk::new();
    desk.write("jobs.xlsx", one_sheet(sheet_rows(&rows, 1, 0.0)));
    desk.write("skippers.csv", "Code,Skipper\n9,Ann\n10,Bo\n");
    let plan = "plan = 1\n[records]\nfile = \"jobs.xlsx\"\n[[join]]\nfile = \"skippers.csv\"\nmatch = { Code = \"Code\" }\ncolumns = [\"Skipper\"]\n[[column]]\nname = \"Known\"\nwhen = [{ column = \"Code\", blank = false }, { column = \"Berth\", blank = false }]\nthen = \"yes\"\nelse = \"no\"\n[[column]]\nname = \"Billed\"\nwhen = [{ column = \"Hours\", blank = false }]\nthen = { column = \"Hours\" }\nelse = 1\n[[column]]\nname = \"Twice\"\nproduct = [\"Billed\", 2]\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";
    desk.write("plan.toml", plan);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    // Whether a code is blank makes no number of it, so that it is matched with texts; next to a number, hours are numbers; and what has
    // more digits than a number that is read may have is written as it was.
    assert_eq!(
        desk.read("rows.csv"),
        "Code,Hours,Spread,Berth,Skipper,Known,Billed,Twice\n10,7.5,100000000000000000000,4,Bo,yes,7.5,15.0\n9,,0.00000000000001,,Ann,no,1.0,2.0\n"
    );
    assert!(answer.out.contains("Exceptions: none"), "{}", answer.out);
}

#[test]
fn sheets_titles_and_blank_rows_are_found_and_said() {
    let titles = vec![vec![Text("Quillhaven Boatyard")], vec![], vec![Text("Receivables")]];
    let rows = sheet_rows(&titles, 1, 0.0)
        + &sheet_rows(&typed(), 5, 0.0)
        + "<row r=\"90\"><c r=\"A90\" s=\"1\"/></row>";
    let book = xlsx(
        &[
            Sheet { name: "Cover", is_hidden: false, rows: sheet_rows(&titles, 1, 0.0) },
            Sheet { name: "Invoices", is_hidden: false, rows },
            Sheet { name: "Old", is_hidden: true, rows: String::new() },
        ],
        false,
    );
    let (answer, _) = run("records.xlsx", &book, "");
    assert_eq!(answer.code, 3);
    assert!(
        answer.err.contains("2 sheets; sheet = … under [records]: \"Cover\", \"Invoices\", \"Old\""),
        "{}",
        answer.err
    );
    for sheet in ["sheet = \"Invoices\"", "sheet = 2"] {
        let (answer, desk) = run("records.xlsx", &book, &format!("{sheet}\nheader_line = 5"));
        assert_eq!(answer.code, 0, "{}", answer.err);
        assert_eq!(desk.read("rows.csv"), from_csv());
        assert!(answer.out.contains("not \"Cover\", \"Old\" (hidden)"), "{}", answer.out);
    }
    let desk = Desk::new();
    desk.write("book.xlsx", &book);
    let found = desk.mild(&["look", "book.xlsx", "--json"]).json();
    assert_eq!(
        (&found["rows"], &found["header_line"], &found["columns"][2]["kind"]),
        (&4.into(), &5.into(), &"date".into())
    );
    let plan = desk.mild(&["look", "book.xlsx", "--plan"]).out;
    assert!(plan.contains("sheet = \"Invoices\"\nheader_line = 5\n"), "{plan}");
    desk.write("plan.toml", &plan);
    assert_eq!(desk.run_plan().code, 0, "{plan}");
    for (lines, said) in [
        ("sheet = \"None\"", "there is no sheet \"None\""),
        ("sheet = 9", "there is no sheet 9"),
        ("sheet = 1\nheader_line = 7", "ends before row 7"),
    ] {
        let (answer, _) = run("records.xlsx", &book, lines);
        assert!(answer.code == 3 && answer.err.contains(said), "{lines}: {}", answer.err);
    }
}

#[test]
fn serial_numbers_zeros_and_computed_values_are_what_the_sheet_shows() {
    let mut rows = typed();
    rows.truncate(1);
    for (key, issued, amount) in [
        ("A1", Date(0.0, ""), Number(0.1 + 0.2)),
        ("A2", Date(60.0, ""), Number(1.0)),
        ("A3", Date(59.0, ""), Number(1.0)),
        ("A4", Date(46_295.604_166_666_664, ""), Number(1e3)),
        ("A5", Number(46_295.0), Number(12.345)),
    ] {
        rows.push(vec![Text(key), Text("Heron"), issued, Blank, amount]);
    }
    let (answer, desk) = run("records.xlsx", &one_sheet(sheet_rows(&rows, 1, 0.0)), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    let written = desk.read("rows.csv");
    for row in
        ["A1,Heron,,,0.30,", "A2,Heron,,,1.00,", "A3,Heron,1900-02-28,", "A4,Heron,2026-09-30,,1000.00,"]
    {
        assert!(written.contains(row), "{row}: {written}");
    }
    let exceptions = desk.read("exceptions.csv");
    for said in ["1900-01-00, a zero shown as a date", "60", "A5,Amount,12.345,rounded: read as 12.35,,kept"]
    {
        assert!(exceptions.contains(said), "{said}: {exceptions}");
    }
    // A number in a column of dates is one only where the plan states that.
    assert!(written.contains("A5,Heron,,,12.35"), "{written}");
    rows[5][4] = Number(12.5);
    let (_, desk) = run("records.xlsx", &one_sheet(sheet_rows(&rows, 1, 0.0)), "");
    assert!(desk.read("rows.csv").contains("A5,Heron,,,12.50"), "{}", desk.read("rows.csv"));
    desk.write(
        "plan.toml",
        desk.read("plan.toml")
            .replace("Issued = \"day/month/year\"", "Issued = [\"day/month/year\", \"serial 1900\"]")
            .replace(
                "[\"day/month/year\", \"serial 1900\"]",
                "{ pattern = [\"day/month/year\", \"serial 1900\"] }",
            ),
    );
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite"]).code, 0);
    assert!(desk.read("rows.csv").contains("A5,Heron,2026-09-30,,12.50"), "{}", desk.read("rows.csv"));
}

#[test]
fn broken_and_malicious_workbooks_are_refused_and_nothing_is_written() {
    let whole = one_sheet(sheet_rows(&typed(), 1, 0.0));
    let half_xml = one_sheet("<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>Inv".to_owned());
    // Room for as many texts as are stated, and a few rows that represent billions of cells.
    let texts = |count: &str| {
        packed(&[("xl/sharedStrings.xml", format!("<sst uniqueCount=\"{count}\"><si/></sst>"))])
    };
    let repeated = |rows: u32, cells: u32| {
        format!(
            "<table:table-row table:number-rows-repeated=\"{rows}\"><table:table-cell table:number-columns-repeated=\"{cells}\" office:value-type=\"float\" office:value=\"1\"/></table:table-row>"
        )
    };
    let bomb = packed(&[("xl/sharedStrings.xml", "a".repeat(600 << 20))]);
    let long = one_sheet(
        sheet_rows(&[vec![Text("Invoice")]], 1, 0.0)
            + &format!(
                "<row r=\"2\"><c r=\"A2\" t=\"inlineStr\"><is><t>{}</t></is></c></row>",
                "x".repeat(2 << 20)
            ),
    );
    // A place whose column, and one whose row, has a number that is too large to be counted, and would come out as another.
    let placed = |row: &str, cell: &str| {
        let cell = format!("<row r='{row}'><c r = '{cell}'><v>1</v></c></row>");
        one_sheet(sheet_rows(&typed(), 1, 0.0) + &cell)
    };
    for (name, bytes, said) in [
        ("records.xlsx", placed("9", "ATUUUUUUUU9"), "names a cell \"ATUUUUUUUU9\", which no sheet has"),
        ("records.xlsx", placed("9", "A4294967298"), "names a cell \"A4294967298\", which no sheet has"),
        ("records.xlsx", placed("4294967298", "A9"), "names a cell \"4294967298\", which no sheet has"),
        ("records.xlsx", whole[..whole.len() / 2].to_vec(), "not a workbook"),
        ("records.xlsx", b"PK\x03\x04".to_vec(), "not a workbook"),
        ("records.xlsx", half_xml, "the workbook cannot be read"),
        ("records.xlsx", RECORDS.into(), "not a workbook"),
        ("records.ods", whole, "not a workbook"),
        ("records.xlsx", bomb, "unpacks to more than"),
        ("records.xlsx", texts("9000000000000000000"), "more texts than it can"),
        ("records.xlsx", texts("99999999999999999999999"), "more texts than it can"),
        (
            "records.xlsx",
            one_sheet(format!("<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>{}", "x".repeat(80 << 20))),
            "a text of the workbook is longer",
        ),
        ("records.ods", ods_of(&repeated(1_048_576, 16_384)), "are repetitions of others"),
        ("records.ods", ods_of(&repeated(1, 16_384).repeat(2_000)), "are repetitions of others"),
        ("records.xlsx", long, "longer than"),
        ("records.xlsx", one_sheet(String::new()), "is empty"),
    ] {
        let (answer, desk) = run(name, &bytes, "");
        assert!(matches!(answer.code, 2 | 3), "{said}: {} {}", answer.code, answer.err);
        // A plan over the header alone gets the mistakes of its columns.
        assert!(
            answer.err.contains(said) || answer.err.contains("there is no column"),
            "{said}: {}",
            answer.err
        );
        assert!(!desk.files().contains(&"rows.csv".to_owned()));
    }
}

#[test]
fn a_million_empty_rows_and_a_cell_at_the_far_corner_cost_nothing() {
    let empty: String =
        (7..1_000_000).map(|row| format!("<row r=\"{row}\"><c r=\"A{row}\" s=\"1\"/></row>")).collect();
    let corner = "<row r=\"1048576\"><c r=\"XFD1048576\" s=\"1\"/></row>";
    let (answer, desk) = run("records.xlsx", &one_sheet(sheet_rows(&typed(), 1, 0.0) + &empty + corner), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert_eq!(desk.read("rows.csv"), from_csv());
    // Something in the corner is a row with too many cells, which is set aside and told.
    let corner = "<row r=\"1048576\"><c r=\"XFD1048576\"><v>1</v></c></row>";
    let (answer, desk) = run("records.xlsx", &one_sheet(sheet_rows(&typed(), 1, 0.0) + corner), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(
        desk.read("exceptions.csv").contains("16384 cells, where the header has 5"),
        "{}",
        desk.read("exceptions.csv")
    );
}

#[test]
fn cells_of_ods_are_read_as_they_are_shown() {
    let cell =
        |inside: &str| format!("<table:table-cell office:value-type=\"string\">{inside}</table:table-cell>");
    let header = ods_rows(&[vec![Text("Key"), Text("Note"), Text("Same"), Text("Same too")]]);
    let note = cell(
        "<office:annotation><text:p>a remark</text:p></office:annotation><text:p>two<text:s text:c=\"3\"/>&amp; <text:span>three</text:span></text:p><text:p>below</text:p>",
    );
    let twice = "<table:table-cell table:number-columns-repeated=\"2\" office:value-type=\"float\" office:value=\"7.5\"/>";
    let row = format!(
        "<table:table-row table:number-rows-repeated=\"2\">{}{note}{twice}</table:table-row>",
        cell("<text:p>A1</text:p>")
    );
    let blank = "<table:table-row table:number-rows-repeated=\"1048000\"><table:table-cell table:number-columns-repeated=\"16384\"/></table:table-row>";
    let hidden = "<style:style style:name=\"ta2\" style:family=\"table\"><style:table-properties table:display=\"false\"/></style:style>";
    let book = ods_parts(
        hidden,
        &format!(
            "<table:table table:name=\"Old\" table:style-name=\"ta2\">{header}</table:table><table:table table:name=\"New\">{blank}{header}{row}</table:table>"
        ),
    );
    let desk = Desk::new();
    desk.write("book.ods", book);
    desk.write("plan.toml", "plan = 1\n[records]\nfile = \"book.ods\"\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n");
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(answer.out.contains("sheet \"New\", not \"Old\" (hidden)"), "{}", answer.out);
    let line = "A1,\"two   & three\nbelow\",7.5,7.5\n";
    assert_eq!(desk.read("rows.csv"), format!("Key,Note,Same,Same too\n{line}{line}"));
}

#[test]
fn a_time_without_a_day_stays_a_time_and_a_zero_of_1904_is_a_filler() {
    let mut rows = typed();
    rows.truncate(2);
    rows[1][2] = Date(0.0, "");
    rows[1][3] = Date(0.604_166_666_666_666_6, "");
    let sheet = |is_1904: bool| {
        xlsx(&[Sheet { name: "Invoices", is_hidden: false, rows: sheet_rows(&rows, 1, 0.0) }], is_1904)
    };
    let (answer, desk) = run("records.xlsx", &sheet(true), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    let exceptions = desk.read("exceptions.csv");
    assert!(exceptions.contains("1904-01-01, a zero shown as a date"), "{exceptions}");
    assert!(exceptions.contains("14:30:00") && exceptions.contains("unreadable date"), "{exceptions}");
    // A plan may keep it, and in a column of texts the time is written.
    let plan = desk.read("plan.toml").replace(
        "Issued = \"day/month/year\"",
        "Issued = { pattern = \"day/month/year\", true_dates = [1904-01-01] }",
    );
    desk.write(
        "plan.toml",
        plan.replace("Paid   = \"day/month/year\"\n", "").replace("paid   = \"Paid\"\n", ""),
    );
    assert_eq!(desk.mild(&["run", "plan.toml", "--overwrite"]).code, 0);
    assert!(
        desk.read("rows.csv").contains("A1,Heron Charters,1904-01-01,14:30:00,100.00"),
        "{}",
        desk.read("rows.csv")
    );
    let (_, desk) = run("records.xlsx", &sheet(false), "");
    assert!(desk.read("exceptions.csv").contains("1900-01-00, a zero shown as a date"));
}

#[test]
fn rows_that_are_hidden_and_cells_that_are_merged_are_said() {
    let hide = |rows: String, row: &str, hidden: &str| rows.replacen(row, hidden, 1);
    let rows = hide(sheet_rows(&typed(), 1, 0.0), "<row r=\"3\">", "<row r=\"3\" hidden=\"1\">");
    let merged = format!(
        "{rows}</sheetData><mergeCells count=\"1\"><mergeCell ref=\"A7:E7\"/></mergeCells><sheetData>"
    );
    let (answer, desk) = run("book.xlsx", &one_sheet(merged), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    for said in [
        "1 row of it is hidden (row 3 of the sheet) and is read like the others",
        "cells are merged (A7:E7), and only the first of them holds a value",
    ] {
        assert!(answer.out.contains(said), "{}", answer.out);
    }
    assert!(desk.read("rows.csv").contains("A2,"), "the hidden row is there");
    let rows =
        ods_rows(&typed()).replacen("<table:table-row>", "<table:table-row table:visibility=\"filter\">", 3);
    let rows =
        rows.replacen("<table:table-cell ", "<table:table-cell table:number-columns-spanned=\"2\" ", 1);
    let (answer, _) = run("book.ods", &ods_of(&rows), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    for said in ["3 rows of it are hidden (rows 1, 2, 3 of the sheet)", "cells are merged (in row 1)"] {
        assert!(answer.out.contains(said), "{}", answer.out);
    }
    let (answer, _) = run("book.xlsx", &one_sheet(sheet_rows(&typed(), 1, 0.0)), "");
    assert!(!answer.out.contains("hidden") && !answer.out.contains("merged ("), "{}", answer.out);
}

#[test]
fn a_sheet_is_looked_at_by_its_name_or_its_number() {
    let desk = Desk::new();
    let notes = sheet_rows(&[vec![Text("Note")], vec![Text("paint the slip")]], 1, 0.0);
    let title = sheet_rows(
        &[
            vec![Text("Crew of the yard")],
            vec![],
            vec![Text("Name"), Text("Shift")],
            vec![Text("Ida"), Text("early")],
        ],
        1,
        0.0,
    );
    let sheets = [
        Sheet { name: "Invoices", is_hidden: false, rows: sheet_rows(&typed(), 1, 0.0) },
        Sheet { name: "Notes", is_hidden: true, rows: notes },
        Sheet { name: "Crew", is_hidden: false, rows: title },
    ];
    desk.write("book.xlsx", xlsx(&sheets, false));
    let columns = |part: &[&str]| {
        let answer = desk.mild(&[&["look", "book.xlsx", "--json"], part].concat());
        assert_eq!(answer.code, 0, "{}", answer.err);
        let found: serde_json::Value = serde_json::from_str(&answer.out).unwrap();
        found["columns"]
            .as_array()
            .unwrap()
            .iter()
            .map(|column| column["name"].as_str().unwrap().to_owned())
            .collect::<Vec<_>>()
    };
    assert_eq!(columns(&[]), ["Invoice", "Customer", "Issued", "Paid", "Amount"]);
    assert_eq!(columns(&["--sheet", "Notes"]), ["Note"]);
    // By its number, and below its title; the plan that is printed reads the same sheet.
    assert_eq!(columns(&["--sheet", "3"]), ["Name", "Shift"]);
    let plan = desk.mild(&["look", "book.xlsx", "--sheet", "3", "--plan"]).out;
    assert!(plan.contains("sheet = \"Crew\"\n") && plan.contains("header_line = 3\n"), "{plan}");
    let answer = desk.mild(&["look", "book.xlsx", "--sheet", "Berths"]);
    assert_eq!((answer.code, answer.out.as_str()), (3, ""));
    assert!(answer.err.contains("\"Invoices\", \"Notes\", \"Crew\""), "{}", answer.err);
    desk.write("records.csv", RECORDS);
    let answer = desk.mild(&["look", "records.csv", "--sheet", "1"]);
    assert!(answer.code == 2 && answer.err.contains("has no sheets and no tables"), "{}", answer.err);
}

/// What a plan over a workbook with these rows below the header says when it is refused.
fn refused(name: &str, bytes: &[u8]) -> String {
    let (answer, desk) = run(name, bytes, "");
    assert_eq!(answer.code, 3, "{}{}", answer.out, answer.err);
    assert!(!desk.files().contains(&"rows.csv".to_owned()));
    answer.err
}

#[test]
fn rows_and_cells_that_would_hide_others_are_refused() {
    let rows = sheet_rows(&typed(), 1, 0.0);
    let cell = |place: &str| format!("<c r=\"{place}\" t=\"inlineStr\"><is><t>x</t></is></c>");
    for (more, what) in [
        (
            format!("<row r=\"5\">{}</row>", cell("A5")),
            "the row 5 of a sheet occurs twice, or after a later one",
        ),
        (format!("<row r=\"6\">{}{}</row>", cell("A6"), cell("A6")), "the cell A6 of a sheet occurs twice"),
        (format!("<row r=\"6\">{}{}</row>", cell("B6"), cell("A6")), "the cell A6 of a sheet occurs twice"),
        (format!("<row r=\"6\">{}</row>", cell("A2")), "the cell A2 of a sheet occurs twice"),
        (format!("</sheetData><sheetData><row r=\"6\">{}</row>", cell("A6")), "has its rows in two parts"),
    ] {
        let said = refused("book.xlsx", &one_sheet(format!("{rows}{more}")));
        assert!(said.contains(what), "{said}");
    }
    // Places that are left out follow one another.
    let without = rows.replace(" r=\"A4\"", "").replace(" r=\"B4\"", "");
    let (answer, _) = run("book.xlsx", &one_sheet(without), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    for more in [
        "<table:table-row table:number-rows-repeated=\"1048571\"/><table:table-row><table:table-cell office:value-type=\"string\"><text:p>A9</text:p></table:table-cell></table:table-row>",
        "<table:table-row table:number-rows-repeated=\"9000000\"><table:table-cell office:value-type=\"string\"><text:p>A9</text:p></table:table-cell></table:table-row>",
    ] {
        let said = refused("book.ods", &ods_of(&format!("{}{more}", ods_rows(&typed()))));
        assert!(said.contains("and a sheet has 1048576 rows"), "{said}");
    }
}

#[test]
fn a_text_of_ods_is_its_value_and_not_how_it_is_shown() {
    let row = "<table:table-row><table:table-cell office:value-type=\"string\" office:string-value=\"A9\"><text:p>A 9 (new)</text:p></table:table-cell></table:table-row>";
    let (answer, desk) = run("book.ods", &ods_of(&format!("{}{row}", ods_rows(&typed()))), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(desk.read("exceptions.csv").contains(",A9,"), "{}", desk.read("exceptions.csv"));
}

#[test]
fn a_formula_without_a_stored_value_is_unreadable_and_never_blank() {
    // A3 was paid on a day that the program which wrote the workbook did not work out.
    let rows = sheet_rows(&typed(), 1, 0.0);
    let paid = "<c r=\"D4\" s=\"1\"><v>46266</v></c>";
    assert!(rows.contains(paid));
    let book = one_sheet(rows.replace(paid, "<c r=\"D4\" s=\"1\"><f>C4+2</f></c>"));
    let sheet = ods_rows(&typed());
    let (before, _) = sheet.split_once("\"2026-09-01\"/>").unwrap();
    let typed_paid = format!("{}\"2026-09-01\"/>", &before[before.rfind("<table:table-cell").unwrap()..]);
    let ods = ods_of(&sheet.replace(&typed_paid, "<table:table-cell table:formula=\"of:=[.C4]+2\"/>"));
    for (name, bytes) in [("book.xlsx", &book), ("book.ods", &ods)] {
        let (answer, desk) = run(name, bytes, "");
        assert_eq!(answer.code, 0, "{}", answer.err);
        assert!(answer.out.contains("1 formula has no stored value"), "{}", answer.out);
        let exceptions = desk.read("exceptions.csv");
        assert!(
            exceptions.contains("Paid,(formula without a stored value),\"unreadable date"),
            "{exceptions}"
        );
    }
}

#[test]
fn a_time_just_before_midnight_stays_on_its_day() {
    // 0.00000003 of a day are 3 milliseconds: 23:59:59.997.
    let mut rows = typed();
    rows[1][2] = Date(46_295.999_999_97, "2026-09-30T23:59:59.997");
    for (name, bytes) in [("book.xlsx", one_sheet(sheet_rows(&rows, 1, 0.0))), ("book.ods", ods(&rows))] {
        let (answer, desk) = run(name, &bytes, "");
        assert_eq!(answer.code, 0, "{}", answer.err);
        assert!(desk.read("rows.csv").contains("A1,Heron Charters,2026-09-30,"), "{}", desk.read("rows.csv"));
    }
    // What arithmetic left below a whole number is that number.
    rows[1][2] = Date(46_295.999_999_999_9, "2026-10-01");
    let (_, desk) = run("book.xlsx", &one_sheet(sheet_rows(&rows, 1, 0.0)), "");
    assert!(desk.read("rows.csv").contains("A1,Heron Charters,2026-10-01,"), "{}", desk.read("rows.csv"));
}

/// Half of the dates are typed by the sheet, half are texts, and a title and a blank row move the rows down.
#[test]
fn a_look_at_dates_and_texts_says_what_a_run_reads_and_names_rows_of_the_sheet() {
    let header = vec![Text("Job"), Text("Done"), Text("Remark")];
    let title = vec![vec![Text("Quillhaven Boatyard")], vec![], header];
    let jobs = vec![
        vec![Text("J1"), Date(46_295.0, "2026-09-30"), Text("2026-09-01")],
        vec![Text("J2"), Text("13/09/2026"), Text("call")],
        vec![],
        vec![Text("J3"), Text("14/09/2026"), Text("2026-09-03")],
        vec![Text("J4"), Text("15/09/2026"), Text("2026-09-04")],
        vec![Text("J5"), Date(46_265.0, "2026-08-31"), Text("later")],
        vec![Text("J6"), Text("31/06/2026"), Text("2026-09-05")],
    ];
    let desk = Desk::new();
    let book = one_sheet(sheet_rows(&title, 1, 0.0) + &sheet_rows(&jobs, 4, 0.0));
    desk.write("jobs.xlsx", book);
    let looked = desk.mild(&["look", "jobs.xlsx"]).out;
    // J6 is in row 10 of the sheet, "call" in row 5, "later" in row 9.
    for said in [
        "rows are numbered as in the sheet",
        "1 of 6 is not written day/month/year: row 10 \"31/06/2026\"",
        "2 of 6 are not written iso: row 5 \"call\", row 9 \"later\"",
        "from 2026-08-31 to 2026-09-30",
    ] {
        assert!(looked.contains(said), "{said}:\n{looked}");
    }
    let plan = desk.mild(&["look", "jobs.xlsx", "--plan"]).out;
    assert!(
        plan.contains("\nDone = \"day/month/year\" # 1 of 6 is not such a date, such as row 10: 31/06/2026"),
        "{plan}"
    );
    // A third of the texts would be lost, so that a person decides.
    assert!(plan.contains("\n# Remark = \"iso\" # 2 of 6 are not such dates, such as row 5: call"), "{plan}");
    desk.write("plan.toml", &plan);
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    let rows = desk.read("jobs-rows.csv");
    let expected = "Job,Done,Remark\nJ1,2026-09-30,2026-09-01\nJ2,2026-09-13,call\nJ3,2026-09-14,2026-09-03\n\
        J4,2026-09-15,2026-09-04\nJ5,2026-08-31,later\nJ6,,2026-09-05\n";
    assert_eq!(rows, expected, "{}", answer.out);
}

/// The parts of a workbook by their names.
fn parts_of(bytes: &[u8]) -> std::collections::BTreeMap<String, String> {
    let mut book = zip::ZipArchive::new(Cursor::new(bytes)).unwrap();
    let names: Vec<String> =
        (0..book.len()).map(|nth| book.name_for_index(nth).unwrap().unwrap().into_owned()).collect();
    let mut part = |name: String| {
        let mut text = String::new();
        book.by_name(&name).unwrap().read_to_string(&mut text).unwrap();
        (name, text)
    };
    names.into_iter().map(&mut part).collect()
}

#[test]
fn columns_go_into_the_workbook_and_all_else_of_it_stays() {
    let mut rows = TYPED.map(|row| row.to_vec()).to_vec();
    rows.insert(3, vec![Blank; 5]);
    rows[2][3] = Text("soon");
    for is_1904 in [false, true] {
        let days_off = if is_1904 { 1462.0 } else { 0.0 };
        let notes = "<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>Read me</t></is></c></row>";
        let sheets = [
            Sheet { name: "Notes", is_hidden: true, rows: notes.to_owned() },
            Sheet { name: "Rows", is_hidden: false, rows: sheet_rows(&rows, 3, days_off) },
        ];
        let mut parts = parts_of(&xlsx(&sheets, is_1904));
        parts.insert("xl/charts/chart1.xml".to_owned(), "<chart/>".to_owned());
        parts.insert("xl/vbaProject.bin".to_owned(), "macros".to_owned());
        let parts: Vec<(&str, String)> =
            parts.iter().map(|(name, text)| (name.as_str(), text.clone())).collect();
        let desk = Desk::new();
        desk.write("records.xlsm", packed(&parts));
        let add = |to: &str, more: &[&str]| {
            let columns = [
                "add",
                "records.xlsm",
                "--date-pattern",
                "Paid=iso",
                "--column",
                "Due = Issued + 2 months, month end",
                "--column",
                "Third = Amount / 3",
                "--column",
                "Note = \"a & <b>\" when Amount over 60",
                "--to",
                to,
            ];
            desk.mild(&[columns.as_slice(), more].concat())
        };
        let answer = add("wider.xlsm", &[]);
        assert_eq!(answer.code, 0, "{}", answer.err);
        let said = answer.err.replace('\n', " ");
        assert!(said.contains("1 other sheet, 1 chart, 1 set of macros included"), "{said}");
        let (before, after) = (
            parts_of(&std::fs::read(desk.path("records.xlsm")).unwrap()),
            parts_of(&std::fs::read(desk.path("wider.xlsm")).unwrap()),
        );
        let changed: Vec<&String> =
            before.iter().filter(|(name, text)| after[*name] != **text).map(|(name, _)| name).collect();
        assert_eq!(changed, ["xl/styles.xml", "xl/worksheets/sheet2.xml"]);
        assert_eq!(before.len(), after.len());
        // Who opens it sees all rows as they were, with the new cells to the right.
        desk.write(
            "plan.toml",
            "plan = 1\n[records]\nfile = \"wider.xlsm\"\nsheet = \"Rows\"\n[output]\nrows = \"rows.csv\"\n",
        );
        assert_eq!(desk.mild(&["run", "plan.toml"]).code, 0);
        assert_eq!(
            desk.read("rows.csv"),
            "Invoice,Customer,Issued,Paid,Amount,Due,Third,Note\n\
             A1,Heron Charters,2026-09-30,,100.00,2026-11-30,33.33,a & <b>\n\
             A2,Heron Charters,2026-08-31,soon,50.25,2026-10-31,16.75,\n\
             A3,Cordage & Co.,2026-08-30,2026-09-01,70.00,2026-10-31,23.33,a & <b>\n\
             A4,Cordage & Co.,2026-08-01,,9.75,2026-10-31,3.25,\n"
        );
        // A new date has the style of those in the sheet, and its number is of the system of the workbook.
        let serial = 46_356.0 - days_off;
        assert!(
            after["xl/worksheets/sheet2.xml"].contains(&format!("<c r=\"F4\" s=\"1\"><v>{serial}</v></c>")),
            "{after:?}"
        );
        let styles = &after["xl/styles.xml"];
        assert!(
            styles.contains("<numFmts count=\"1\"><numFmt numFmtId=\"164\" formatCode=\"0.00\"/></numFmts>"),
            "{styles}"
        );
        assert!(
            styles.contains("<cellXfs><xf numFmtId=\"0\"/>")
                && after["xl/worksheets/sheet2.xml"].contains("<c r=\"G4\" s=\"2\">")
        );
        // In its own place only if asked, and with a copy.
        assert_eq!(add("records.xlsm", &[]).code, 2);
        let original = std::fs::read(desk.path("records.xlsm")).unwrap();
        assert_eq!(add("records.xlsm", &["--overwrite"]).code, 0);
        assert_eq!(std::fs::read(desk.path("records-before.xlsm")).unwrap(), original);
        assert_eq!(
            std::fs::read(desk.path("records.xlsm")).unwrap(),
            std::fs::read(desk.path("wider.xlsm")).unwrap()
        );
        // Rows that are chosen go to a workbook of their own, and what that lacks is named before.
        let chosen = add("chosen.xlsx", &["--when", "Amount over 60"]);
        assert!(
            chosen.err.replace('\n', " ").contains("without the 1 other sheet, 1 chart, 1 set of macros"),
            "{}",
            chosen.err
        );
    }
}

#[test]
fn a_cell_where_new_columns_go_is_refused_before_the_run() {
    let mut rows = TYPED.map(|row| row.to_vec()).to_vec();
    rows[2].push(Text("ask Ann"));
    let desk = Desk::new();
    desk.write("records.xlsx", one_sheet(sheet_rows(&rows, 3, 0.0)));
    let add = |to: &str| {
        desk.mild(&["add", "records.xlsx", "--column", "Due = Issued + 2 months", "--to", to, "--overwrite"])
    };
    let answer = add("wider.xlsx");
    let said = answer.err.replace('\n', " ");
    assert_eq!(answer.code, 2, "{said}");
    assert!(said.contains("row 5 of the sheet \"Invoices\" has a cell to the right of its table"), "{said}");
    assert_eq!(desk.files(), ["records.xlsx"]);
}
