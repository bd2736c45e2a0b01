//! Files of text as they come: other separators and quotes, other encodings, packed, with titles above the header. Each gives what
//! the plain file gives.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

mod support;

use flate2::Compression;
use flate2::write::GzEncoder;
use std::io::Write;
use support::{Answer, Desk, PLAN};

/// Records with letters that differ between encodings, and quotes.
const TEXT: &str = "Invoice,Customer,Issued,Paid,Amount
A1,Blåtind & Søn,30/09/2026,,100.00
A2,\"Heron, Charters\",31/08/2026,,50.25
A3,Café «Quai»,30/08/2026,01/09/2026,70.00
";

/// A run over a file with this name and these bytes, with some lines more in its part of the plan.
fn run(name: &str, bytes: &[u8], lines: &str) -> (Answer, Desk) {
    let desk = Desk::new();
    let file = format!("\"{name}\"\n{lines}");
    desk.write("plan.toml", PLAN.replacen("\"records.csv\"", &file, 1));
    desk.write(name, bytes);
    (desk.run_plan(), desk)
}

/// The rows that the plain file gives.
fn plain() -> String {
    let (answer, desk) = run("records.csv", TEXT.as_bytes(), "");
    assert_eq!(answer.code, 0, "{}", answer.err);
    desk.read("rows.csv")
}

fn gzip(bytes: &[u8]) -> Vec<u8> {
    let mut packed = GzEncoder::new(Vec::new(), Compression::default());
    packed.write_all(bytes).unwrap();
    packed.finish().unwrap()
}

fn zstd(bytes: &[u8]) -> Vec<u8> {
    ruzstd::encoding::compress_to_vec(bytes, ruzstd::encoding::CompressionLevel::Fastest)
}

fn utf_16(text: &str, to_bytes: fn(u16) -> [u8; 2]) -> Vec<u8> {
    text.encode_utf16().flat_map(to_bytes).collect()
}

#[test]
fn other_forms_give_what_the_plain_file_gives() {
    let semicolons = TEXT.replace(',', ";").replace("Heron;", "Heron,");
    let windows: Vec<u8> = TEXT.chars().map(|sign| u8::try_from(u32::from(sign)).unwrap()).collect();
    let marked = |mark: &[u8], rest: Vec<u8>| [mark, &rest].concat();
    for (name, bytes, lines, said) in [
        ("records.csv", semicolons.clone().into_bytes(), "separator = \";\"", ""),
        ("records.txt", semicolons.replace(';', "\t").into_bytes(), "separator = \"\\t\"", ""),
        (
            "records.csv",
            semicolons.replace(';', "|").replace('"', "'").into_bytes(),
            "separator = \"|\"\nquote = \"'\"",
            "",
        ),
        (
            "records.csv",
            format!("Quillhaven Boatyard\n\"Receivables, in part\n{TEXT}").into_bytes(),
            "header_line = 3",
            "",
        ),
        ("records.csv", marked(b"\xef\xbb\xbf", TEXT.into()), "", ""),
        ("records.csv", windows, "encoding = \"windows-1252\"", "read as windows-1252"),
        ("records.csv", marked(b"\xff\xfe", utf_16(TEXT, u16::to_le_bytes)), "", "read as utf-16le"),
        ("records.csv", marked(b"\xfe\xff", utf_16(TEXT, u16::to_be_bytes)), "", "read as utf-16be"),
        ("records.csv", utf_16(TEXT, u16::to_le_bytes), "", "read as utf-16le"),
        ("records.csv.gz", gzip(TEXT.as_bytes()), "", "unpacked from gzip"),
        ("records.csv.zst", zstd(TEXT.as_bytes()), "", "unpacked from zstd"),
        // Two members, one after the other, are one file.
        ("records.csv.gz", [gzip(&TEXT.as_bytes()[..50]), gzip(&TEXT.as_bytes()[50..])].concat(), "", "gzip"),
        (
            "records.csv.zst",
            [zstd(&TEXT.as_bytes()[..50]), zstd(&TEXT.as_bytes()[50..])].concat(),
            "",
            "zstd",
        ),
        // Zeros fill the last block of a gzip file, and frames of other data may be anywhere in one of zstd.
        ("records.csv.gz", [gzip(TEXT.as_bytes()), vec![0; 20_000]].concat(), "", "gzip"),
        (
            "records.csv.zst",
            [
                b"\x50\x2a\x4d\x18\x03\x00\x00\x00any".to_vec(),
                zstd(&TEXT.as_bytes()[..50]),
                b"\x5f\x2a\x4d\x18\x00\x00\x00\x00".to_vec(),
                zstd(&TEXT.as_bytes()[50..]),
                b"\x51\x2a\x4d\x18\x01\x00\x00\x00x".to_vec(),
            ]
            .concat(),
            "",
            "zstd",
        ),
        ("records.csv.gz", gzip(&marked(b"\xff\xfe", utf_16(TEXT, u16::to_le_bytes))), "", "utf-16le"),
    ] {
        let (answer, desk) = run(name, &bytes, lines);
        assert_eq!(answer.code, 0, "{name} {lines}: {}", answer.err);
        assert_eq!(desk.read("rows.csv"), plain(), "{name} {lines}");
        let all = answer.out + &answer.err;
        assert!(all.contains(said), "{name} {lines}: {all}");
        // The receipt is of the file as it is.
        let size = format!("bytes = {}", bytes.len());
        assert!(desk.read("plan.receipt.toml").contains(&size), "{}", desk.read("plan.receipt.toml"));
    }
}

#[test]
fn a_packed_file_of_json_lines_is_known_by_the_ending_before_the_packing() {
    let line = "{\"Invoice\":\"A1\",\"Customer\":\"Heron\",\"Issued\":\"30/09/2026\",\"Amount\":100.00}\n";
    let (answer, desk) = run("records.jsonl.gz", &gzip(line.as_bytes()), "[records.dates]\nPaid = \"iso\"");
    // The plan names the dates once more below; that a mistake is shown says that the file was not even reached.
    assert_eq!(answer.code, 2, "{}", answer.err);
    desk.write(
        "plan.toml",
        PLAN.replacen("\"records.csv\"", "\"records.jsonl.gz\"", 1)
            .replace("Paid   = \"day/month/year\"\n", "")
            .replace("paid   = \"Paid\"\n", ""),
    );
    let answer = desk.run_plan();
    assert_eq!(answer.code, 0, "{}", answer.err);
    assert!(desk.read("rows.csv").contains("A1,Heron,2026-09-30,100.00"), "{}", desk.read("rows.csv"));
}

#[test]
fn what_is_not_as_the_plan_says_is_an_error_that_says_what_it_is() {
    let windows: Vec<u8> = TEXT.chars().map(|sign| u8::try_from(u32::from(sign)).unwrap()).collect();
    let cut = |bytes: Vec<u8>| bytes[..bytes.len() - 12].to_vec();
    let odd = [b"\xff\xfe".as_slice(), &utf_16(TEXT, u16::to_le_bytes), b"\x00\xd8x\x00"].concat();
    for (name, bytes, lines, said) in [
        (
            "records.csv",
            TEXT.replace(',', ";").into_bytes(),
            "",
            "separated by semicolons; set it in the plan: separator = \";\"",
        ),
        ("records.csv", TEXT.into(), "separator = \";\"", "separated by commas"),
        (
            "records.csv.zst",
            [zstd(TEXT.as_bytes()), b"\x50\x2a\x4d\x18\x09\x00\x00\x00any".to_vec()].concat(),
            "",
            "a skippable frame ends too soon",
        ),
        (
            "records.csv.gz",
            [gzip(TEXT.as_bytes()), vec![0, 0, 7, 7, 7, 7, 7, 7, 7, 7, 7, 7, 7]].concat(),
            "",
            "gzip header",
        ),
        ("records.csv", TEXT.into(), "header_line = 30", "the file ends before line 30"),
        ("records.csv", TEXT.into(), "separator = \";;\"", "cannot be between cells"),
        ("records.csv", TEXT.into(), "separator = \"a\"", "cannot be between cells"),
        ("records.csv", TEXT.into(), "separator = \";\"\nquote = \";\"", "are the same character"),
        (
            "records.csv",
            utf_16(TEXT, u16::to_le_bytes),
            "encoding = \"utf-8\"",
            "it is utf-16le, not utf-8 as the plan says",
        ),
        ("records.csv", odd, "", "it holds bytes that are not utf-16le"),
        ("records.csv.gz", cut(gzip(TEXT.as_bytes())), "", "records.csv.gz"),
        ("records.csv.zst", cut(zstd(TEXT.as_bytes())), "", "records.csv.zst"),
        ("records.csv.gz", gzip(&vec![b'a'; 80 << 20]), "", "longer than"),
    ] {
        let (answer, desk) = run(name, &bytes, lines);
        assert!(matches!(answer.code, 2 | 3), "{name} {lines}: {} {}", answer.code, answer.err);
        assert!(answer.err.contains(said), "{name} {lines}: {}", answer.err);
        assert!(!desk.files().contains(&"rows.csv".to_owned()));
    }
    // Letters that are not UTF-8 set their rows aside, and nothing of them is lost.
    let (answer, desk) = run("records.csv", &windows, "");
    assert_eq!(answer.code, 0);
    assert_eq!(desk.read("exceptions.csv").matches("bytes that are not UTF-8").count(), 2);
}

#[test]
fn an_archive_that_expands_without_end_is_stopped() {
    // A kilobyte of zstd that says "as before" again and again: each block is a repeated byte of 128 KiB.
    let mut bomb = vec![0x28, 0xb5, 0x2f, 0xfd, 0x00, 0x58];
    for _ in 0..8_000 {
        let header: u32 = (128 << 10) << 3 | 1 << 1;
        bomb.extend_from_slice(&header.to_le_bytes()[..3]);
        bomb.push(b'\n');
    }
    let (answer, desk) = run("records.csv.zst", &bomb, "");
    assert_eq!(answer.code, 3, "{}", answer.err);
    assert!(answer.err.contains("2000 times as large"), "{}", answer.err);
    assert!(!desk.files().contains(&"rows.csv".to_owned()));
}

#[test]
fn what_nobody_would_heed_is_a_mistake() {
    let lines = "{\"Invoice\":\"A1\"}\n";
    for (name, said, words) in [
        ("records.csv", "sheet = 1", "sheet under [records] is set for"),
        ("records.jsonl", "separator = \";\"", "separator and quote under [records]"),
        ("records.jsonl", "header_line = 2", "header_line under [records]"),
        ("records.xlsx", "encoding = \"windows-1252\"", "encoding under [records]"),
    ] {
        let (answer, _) = run(name, lines.as_bytes(), said);
        assert_eq!(answer.code, 2, "{name} {said}: {}", answer.err);
        assert!(answer.err.contains(words), "{name} {said}: {}", answer.err);
    }
}

#[test]
fn an_output_is_of_the_format_that_its_name_promises() {
    for (name, promised) in [
        ("rows.ods", "a workbook of the form .ods"),
        ("rows.csv.gz", "a file packed with gzip"),
        ("rows.zip", "an archive"),
    ] {
        let desk = Desk::with_plan("\"rows.csv\"", &format!("\"{name}\""));
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{name}");
        assert!(answer.err.contains(&format!("the name promises {promised}")), "{name}: {}", answer.err);
        assert!(!desk.files().contains(&name.to_owned()));
    }
    // A name that promises nothing is CSV.
    let desk = Desk::with_plan("\"rows.csv\"", "\"rows.txt\"");
    assert_eq!(desk.run_plan().code, 0);
}

/// A build without a format states that, and reads nothing of the file.
#[cfg(not(all(feature = "sqlite", feature = "parquet", feature = "postgres")))]
#[test]
fn a_build_without_a_format_names_it() {
    #[cfg(not(any(feature = "sqlite", feature = "parquet")))]
    for (name, format) in [("rows.parquet", "Parquet"), ("rows.sqlite", "SQLite")] {
        let answer = Desk::with_plan("\"rows.csv\"", &format!("\"{name}\"")).run_plan();
        assert_eq!(answer.code, 2, "{}", answer.out);
        assert!(answer.err.contains(&format!("this build writes no {format}")), "{}", answer.err);
        assert!(answer.err.contains("install it with its features"), "{}", answer.err);
    }
    for (name, is_built) in [
        ("records.db", cfg!(feature = "sqlite")),
        ("records.parquet", cfg!(feature = "parquet")),
        ("postgresql://127.0.0.1/yard", cfg!(feature = "postgres")),
    ] {
        if is_built {
            continue;
        }
        let desk = Desk::with_plan("\"records.csv\"", &format!("\"{name}\""));
        if !name.contains("://") {
            desk.write(name, "");
        }
        let answer = desk.run_plan();
        assert_eq!(answer.code, 2, "{}", answer.err);
        assert!(answer.err.contains("this build reads none; install it with its features"), "{}", answer.err);
    }
}

#[test]
fn a_field_of_a_hundred_megabytes_is_an_error_and_not_a_matter_of_memory() {
    let desk = support::Desk::with_records("");
    let mut huge = b"Invoice,Customer,Issued,Paid,Amount\nA1,\"".to_vec();
    huge.resize(100 << 20, b'x');
    for end in [&b"\",30/09/2026,,1.00\n"[..], b""] {
        let mut text = huge.clone();
        text.extend_from_slice(end);
        desk.write("records.csv", &text);
        drop(text);
        let answer = desk.run_plan();
        assert_eq!((answer.code, answer.out.as_str()), (3, ""), "{}", answer.err);
        assert!(answer.err.contains("records.csv, line 2: "), "{}", answer.err);
        assert!(answer.err.contains("longer than 1048576 bytes"), "{}", answer.err);
        let looked = desk.mild(&["look", "records.csv"]);
        assert_eq!(looked.code, 3, "{}", looked.out);
        assert!(looked.err.contains("longer than 1048576 bytes"), "{}", looked.err);
        assert_eq!(desk.files(), ["plan.toml", "records.csv"]);
    }
}
